"""A template's text keeps its own tags and nobody else's."""

from dataclasses import dataclass

import pytest
from markupsafe import Markup

from squall.web.frame.plain_text import PlainTextEnvironment, escaped, say_text
from squall.words import later

BAD = "<script>alert('x')</script>"
SAFE_BAD = "&lt;script&gt;alert(&#39;x&#39;)&lt;/script&gt;"


@pytest.mark.parametrize(
    ("value", "seen"),
    [(3, "3"), (2.5, "2.5"), ("two", "two"), (None, ""), (BAD, SAFE_BAD), (Markup("<i>x</i>"), "<i>x</i>")],
)
def test_a_values_tags_are_text_and_the_texts_own_are_tags(value: object, seen: str) -> None:
    assert say_text("<b>{value} left</b> of {most}", value=value, most=4) == Markup(f"<b>{seen} left</b> of 4")


@dataclass
class Named:
    name: str

    def __str__(self) -> str:
        return self.name


@pytest.mark.parametrize(
    ("value", "seen"),
    [
        ("plain", "plain"), ("a & b", "a &amp; b"), ('"', "&#34;"), (BAD, SAFE_BAD), (Markup("<i>x</i>"), "<i>x</i>"), (7, "7"),
        (Named("<u>"), "&lt;u&gt;"), (later("The {what} is dry.", what="<b>"), "The &lt;b&gt; is dry."),
    ],
)  # fmt: skip
def test_what_is_shown_is_escaped_once(value: object, seen: str) -> None:
    assert str(escaped(value)) == seen
    shown = PlainTextEnvironment(autoescape=True).from_string(
        "<p title='{{ x }}'>{% macro m(y) %}{{ y }}{% endmacro %}{{ m(x) }}</p>"
    )
    assert shown.render(x=value) == f"<p title='{seen}'>{seen}</p>"
