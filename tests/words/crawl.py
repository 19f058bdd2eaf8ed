"""Every page, drawing and sheet of every demo job, in one voice: what the tests of units and language read."""

import warnings
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from bs4 import BeautifulSoup, NavigableString, XMLParsedAsHTMLWarning

PAGES = (
    "survey", "place", "place?see=44.5+N+7.6+E", "need", "lift", "power", "kits", "wire", "prove", "sun", "join", "store", "years", "outdoors",
    "prove?light=600&air=30", "power?month=6&kind=clear", "sheet/test",
)  # fmt: skip
DRAWINGS = ("survey", "need", "lift", "power", "wire", "prove")
READ = ("title", "aria-label", "placeholder", "alt", "data-confirm")


@dataclass(frozen=True)
class Seen:
    """One piece of text that a person reads: where it stood, what kind of place, and the words."""

    url: str
    place: str
    words: str


def addresses(jobs: int) -> list[str]:
    """All that is crawled."""
    own = [f"/jobs/{job}/{page}" for job in range(1, jobs + 1) for page in PAGES]
    files = [f"/jobs/{job}/drawing.svg?stage={stage}" for job in range(1, jobs + 1) for stage in DRAWINGS]
    return ["/", "/parts", "/sums", *own, *files]


def texts_of(url: str, body: str) -> Iterator[Seen]:
    """Every text, shown or read out, of one page or drawing."""
    with warnings.catch_warnings():
        warnings.simplefilter("ignore", XMLParsedAsHTMLWarning)
        soup = BeautifulSoup(body, "html.parser")
    for gone in soup(["script", "style", "template"]):
        gone.decompose()
    for node in soup.find_all(string=True):
        words, where = " ".join(str(node).split()), node.parent
        if words and where is not None and type(node) is NavigableString:
            yield Seen(url, " ".join([where.name, *where.get("class", [])]), words)
    for tag in soup.find_all(True):
        for name in READ:
            if tag.get(name):
                yield Seen(url, f"{tag.name}@{name}", " ".join(str(tag[name]).split()))
        if tag.name == "input" and tag.get("type") not in ("hidden", "radio", "checkbox") and tag.get("value"):
            yield Seen(url, "input@value", str(tag["value"]))
        for name in ("data-chart", "data-strip"):
            if tag.get(name):
                yield Seen(url, f"{tag.name}@{name}", str(tag[name]))


def crawl(client: Any, jobs: int) -> Iterator[Seen]:
    """All texts of all addresses, as the client's cookies want them; then of two jobs with their other kit and more rows."""
    yield from _read(client, addresses(jobs))
    for job in (1, 2):
        for action, item, stage in (
            ("choose-option", "o1", "kits"), ("add-row", "bank.timer", "store"), ("add-row", "own_pumps", "lift"), ("add-row", "uses:crop", "need"),
            ("add-row", "mount.horizon", "sun"),
        ):  # fmt: skip
            answer = client.change(f"/jobs/{job}/do/{action}", {"stage": stage, "item": item})
            assert answer.status_code == 200, (action, item, answer.text[-400:])
    again = [url for url in addresses(2) if url.startswith("/jobs/")]
    yield from _read(client, again)


def _read(client: Any, urls: list[str]) -> Iterator[Seen]:
    for url in urls:
        answer = client.get(url)
        assert answer.status_code == 200, (url, answer.status_code, answer.text[:400])
        yield from texts_of(url, answer.text)
