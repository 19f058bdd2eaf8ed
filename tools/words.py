"""``make words``: every message of Squall into one template for translators, and each language's catalogue brought up to date.

English is the source. A new language is a folder beside the template: copy ``squall.pot`` to
``LANGUAGE/LC_MESSAGES/squall.po``, translate it, run ``make words`` again.
"""

from io import BytesIO
from pathlib import Path

from babel.messages.catalog import Catalog
from babel.messages.extract import extract
from babel.messages.mofile import write_mo
from babel.messages.pofile import read_po, write_po

from squall.web.frame.plain_text import messages_of

SOURCE = Path(__file__).parent.parent / "src" / "squall"
CATALOGUES = SOURCE / "words" / "catalogues"
TEMPLATE = CATALOGUES / "squall.pot"
KEYWORDS = {"say": None, "later": None, "N_": None, "say_n": (1, 2), "later_n": (1, 2)}


def messages() -> Catalog:
    """All messages of code and templates, with where they stand."""
    found = Catalog(project="squall", charset="utf-8")
    for path in sorted(SOURCE.rglob("*.py")):
        place = path.relative_to(SOURCE).as_posix()
        # Where a message stands is told by file alone: lines move with every edit.
        for _, message, comments, _ in extract("python", BytesIO(path.read_bytes()), KEYWORDS, ["Words:"]):
            found.add(message, locations=[(place, 0)], auto_comments=comments)
    for path in sorted((SOURCE / "web" / "templates").rglob("*.html")):
        for _, message in messages_of(path.read_text("utf8")):
            found.add(message, locations=[(path.relative_to(SOURCE).as_posix(), 0)])
    return found


def template() -> bytes:
    """The template as it should lie on the disk."""
    out = BytesIO()
    write_po(out, messages(), omit_header=True, sort_output=True, include_lineno=False, width=120)
    return out.getvalue()


def main() -> None:
    """Write the template, and bring every language up to it."""
    CATALOGUES.mkdir(exist_ok=True)
    TEMPLATE.write_bytes(template())
    fresh = messages()
    print(f"{len(fresh)} messages in {TEMPLATE.name}")
    for path in sorted(CATALOGUES.glob("*/LC_MESSAGES/squall.po")):
        with path.open("rb") as file:
            language = read_po(file)
        language.update(fresh)
        with path.open("wb") as file:
            write_po(file, language, include_lineno=False)
        with path.with_suffix(".mo").open("wb") as file:
            write_mo(file, language)
        print(f"{path.parts[-3]}: {sum(1 for m in language if m.id and not m.string)} still to be translated")


if __name__ == "__main__":
    main()
