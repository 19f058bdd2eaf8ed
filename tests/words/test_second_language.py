"""A second catalogue reaches every page: a mechanical one brackets each message, and only data stays bare."""

import json
import re
import sys
from collections.abc import Iterable, Iterator
from gettext import NullTranslations
from pathlib import Path

import pytest
from crawl import Seen, crawl, texts_of
from units_seen import wrong

from squall.catalogue.makers import lamps_of
from squall.catalogue.reader import FILES, table
from squall.core.advice import rank
from squall.core.electrics.conductors import sizes
from squall.demo import demo_jobs
from squall.words import Voice, later, later_n, say, speaking
from squall.words.forms import own_sizes
from squall.words.keeping import kept, revived
from squall.words.message import ADDED
from squall.words.units import KINDS

sys.path.insert(0, str(Path(__file__).parents[2] / "tools"))


class Bracketed(NullTranslations):
    """Puts every message between brackets, and leaves it otherwise as it is."""

    def gettext(self, message: str) -> str:
        return f"⟦{message}⟧"

    def ngettext(self, msgid1: str, msgid2: str, n: int) -> str:
        return f"⟦{msgid1 if n == 1 else msgid2}⟧"


@pytest.fixture
def bracketed() -> Iterator[None]:
    ADDED["xx"] = Bracketed()
    yield
    del ADDED["xx"]


def outside(text: str, depth: int = 0) -> tuple[str, int]:
    """What of a text stands in no bracket, and how many brackets stay open at its end."""
    bare_signs = []
    for sign in text:
        depth += sign == "⟦"
        bare_signs.append(" " if depth else sign)
        depth -= sign == "⟧"
    return "".join(bare_signs), depth


_WORD = re.compile(r"[^\W\d_]{2,}")


def left_bare(seen: Iterable[Seen], data: re.Pattern[str]) -> dict[str, str]:
    """Words that no bracket holds and that are no data, each with where it was seen first.

    A message may hold markup, so its brackets may open in one piece of text and close in a later one.
    """
    found: dict[str, str] = {}
    checked: set[str] = set()
    depth, page = 0, ""
    for piece in seen:
        if piece.url != page:
            page, depth = piece.url, 0
        words = piece.words
        if (piece.place, words) == ("span unit", "in"):
            continue
        if "@" in piece.place:
            if piece.place.endswith(("@data-chart", "@data-strip")):
                words = " ".join(_strings(json.loads(words)))
            free, _ = outside(words)
        else:
            free, depth = outside(words, depth)
        if piece.place == "input@value" or "from-file" in piece.place or free in checked or not _WORD.search(free):
            continue
        checked.add(free)
        for word in _WORD.findall(data.sub(" ", free)):
            if word not in SIGNS:
                found.setdefault(word, f"{piece.url} {piece.place}: {piece.words[:160]}")
    return found


def _strings(plain: object) -> Iterator[str]:
    if isinstance(plain, dict):
        for key, value in plain.items():
            if key not in ("type", "key"):
                yield from _strings(value)
    elif isinstance(plain, list):
        for value in plain:
            yield from _strings(value)
    elif isinstance(plain, str):
        yield plain


def data_phrases() -> re.Pattern[str]:
    """Everything that is data, whole: what people typed, and what the catalogue's files call things."""
    # What a field shows as an example is read as it stands, in every language.
    found: set[str] = {"this person", "zorks", *(kind.example for kind in KINDS.values())}
    for job in demo_jobs():
        found |= set(_strings(job.model_dump()))
    for name in FILES:
        _, _, rows = table(name)
        found |= {value for row in rows for value in row.values() if value}
        lamps = [lamp for row in rows for lamp in lamps_of(row.get("lamps") or "")]
        found |= {words for lamp in lamps for words in (lamp.which, lamp.means)}
        found |= {f"{row['maker']} {row['name']}" for row in rows if "maker" in row}
    found |= {text for size in (*sizes("metric"), *sizes("awg")) for text in (size.label, size.ampacity_source)}
    for system in ("metric", "us"):
        with speaking(Voice(system)):
            found |= {own_sizes(text) for text in found}
    phrases = sorted((p for p in found if re.search(r"[^\W\d_]{2,}", p)), key=len, reverse=True)
    # An inch after its number is a sign as the others are; the word alone isn't.
    return re.compile("|".join(rf"(?<!\w){re.escape(p)}(?!\w)" for p in phrases) + r"|(?<=\d)[\u00a0\u202f ]in\b")


# Units and symbols are the same in every language; Squall is a name; formats and keys are what they are called.
SIGNS = {
    "Squall",
    "m²",
    "mm²",
    "ft²",
    "html",
    "gal",
    "ft",
    "gpm",
    "gph",
    "mph",
    "lbf",
    "lb",
    "min",
    "mm",
    "kg",
    "kWh",
    "Wh",
    "Ah",
    "EPANET",
    "CSV",
    "GPX",
    "AWG",
    "UTC",
    "JSON",
    "EPW",
    "TMY",
    "PVGIS",
    "FAO",
    "IEC",
    "ISO",
}


@pytest.fixture(autouse=True)
def few_kits(monkeypatch) -> None:
    """Two panels at most: what a search says does not hang on how many kits it tries."""
    monkeypatch.setattr(rank, "MOST_PANELS", 2)


def test_every_page_drawing_and_sheet_is_reached(client, bracketed) -> None:
    client.cookies.set("squall_language", "xx")
    client.cookies.set("squall_units", "us")
    client.type("years.count", "1", job=1, stage="years")
    client.change("/jobs/1/years/run")
    later_seen: list[Seen] = []
    for part in ("kits", "kits/state", "kits/choice", "kits/trials", "years/state"):
        later_seen += list(texts_of(part, client.get(f"/jobs/1/{part}").text))
        client.settle()
    pages = [piece for piece in crawl(client, 5) if piece.url not in ("/sums", "/parts")]
    assert left_bare([*pages, *later_seen], data_phrases()) == {}
    assert wrong([*pages, *later_seen], "us") == []


def test_what_went_wrong_is_told_in_the_language_too(client, bracketed) -> None:
    client.cookies.set("squall_language", "xx")
    data = data_phrases()
    for path, value in (("lift", "9000"), ("lift", "12 zorks"), ("name", ""), ("run.p1.bore", ""), ("tilt", "95")):
        answer = client.type(path, value)
        assert answer.status_code == 422
        assert left_bare(texts_of(path, answer.text), data) == {}


def test_history_is_read_in_the_readers_language(bracketed) -> None:
    stored = kept(later("{label} set to {typed}", label=later("Lift"), typed="25 ft"))
    assert str(revived(stored)) == "Lift set to 25 ft"
    with speaking(Voice("us", "xx")):
        assert str(revived(stored)) == "⟦⟦Lift⟧ set to 25 ft⟧"
    assert revived("job made") == "job made"
    assert revived('{"text": 3') == '{"text": 3'


def test_numbers_choose_their_form(bracketed) -> None:
    one, many = (str(later_n("{n} panel", "{n} panels", n=n)) for n in (1, 3))
    assert (one, many) == ("1 panel", "3 panels")
    with speaking(Voice("metric", "xx")):
        assert say("{n:whole} kits", n=12345) == "⟦12\u202f345 kits⟧"


def test_the_template_for_translators_is_up_to_date() -> None:
    import words

    assert words.TEMPLATE.read_bytes() == words.template(), "run `make words`"


def test_the_browsers_script_says_only_what_can_be_translated(client, bracketed) -> None:
    from squall.web.frame.pages import STATIC
    from squall.web.frame.script_words import WORDS

    said = {
        words
        for file in STATIC.glob("*.js")
        for words in re.findall(r'\b(?:say|inWords)\("([^"]+)"\)', file.read_text("utf8"))
    }
    assert said | {"low", "high", "good"} == set(WORDS)
    client.cookies.set("squall_language", "xx")
    body = client.get("/jobs/1/lift").text
    sent = json.loads(body.split('id="script-words">')[1].split("</script>")[0])
    assert sent == {text: f"⟦{text}⟧" for text in WORDS}
