"""Every page, drawing and sheet of every demo job, in one voice: what the tests of units and language read."""

from collections.abc import Iterator
from dataclasses import dataclass
from html.parser import HTMLParser
from typing import Any

from squall.standins.courses import COURSES

PAGES = (
    "survey", "place", "place?see=44.5+N+7.6+E", "need", "lift", "power", "kits", "wire", "prove", "sun", "join", "store", "years", "outdoors",
    "prove?light=600&air=30", "power?month=6&kind=clear", "sheet/test", "sheet/job", "sheet/cards", "sheet/booklet",
)  # fmt: skip
# The longest of them, on three kinds of job.
WORKED = (
    "circuit", "fit", "quote", "commission", "fault", "keep", "learned", "logger", "live", "live?standin=none", "sheet/build", "sheet/labels", "sheet/fault", "sheet/handover",
)  # fmt: skip
# A lesson with what hands and leads do in it, before and after the truth; every question of the courses, half of them answered.
_LESSON = "/practise/lesson?kit=three+wires&level=usual&number=3&acts=turns,off,leads.v200.v.lead-plus.lead-minus,unplug,outlet-flow,on"
PRACTISED = (
    "/practise", f"{_LESSON}&red=lead-plus&black=lead-minus", f"{_LESSON}&named=fuse-blown",
    *(f"/practise/course/{code}?step={step}" + ("&said=two" if step == 2 else "") for code in COURSES for step in (1, 2)),
    *(f"/practise/course/{code}?step=1&said={code_of}" for code, code_of in (("outlet", "half"), ("hand", "quarters"), ("fuse", "loop"), ("float", "many"))),
)  # fmt: skip
DRAWINGS = ("survey", "need", "lift", "power", "wire", "prove")
HIDDEN = ("script", "style", "template")
VOID = ("area", "base", "br", "col", "embed", "hr", "img", "input", "link", "meta", "source", "track", "wbr")
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
    own += [f"/jobs/{job}/{page}" for job in (1, 4, jobs) for page in WORKED]
    # The last job has no kit, so nothing to carry.
    carried = [f"/jobs/{job}/field.html" for job in range(1, min(jobs, 4) + 1)]
    return ["/", "/parts", "/sums", "/find?q=hose&job=1", "/round", "/yard", *PRACTISED, *own, *files, *carried]


class _Texts(HTMLParser):
    """What one page or drawing says, told as it is read: a tree of it would take three times as long."""

    def __init__(self, url: str) -> None:
        super().__init__()
        self.url, self.seen = url, []
        self.open: list[tuple[str, str]] = []
        self.hidden = 0

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        own = {name: value or "" for name, value in attrs}
        if not self.hidden:
            self._of_attributes(tag, own)
        if tag not in VOID:
            self.open.append((tag, own.get("class", "")))
            self.hidden += tag in HIDDEN

    def handle_startendtag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        if not self.hidden:
            self._of_attributes(tag, {name: value or "" for name, value in attrs})

    def handle_endtag(self, tag: str) -> None:
        while any(name == tag for name, _ in self.open):
            name, _ = self.open.pop()
            self.hidden -= name in HIDDEN
            if name == tag:
                break

    def handle_data(self, data: str) -> None:
        words = " ".join(data.split())
        if words and not self.hidden:
            tag, classes = self.open[-1] if self.open else ("", "")
            if tag == "code":
                # What a machine is told, the same in every language and with its own unit.
                return
            if words.endswith("-field.html)"):
                # What a camera reads of the kit's tag: a name and a file's name.
                return
            self.seen.append(Seen(self.url, " ".join([tag, *classes.split()]), words))

    def _of_attributes(self, tag: str, own: dict[str, str]) -> None:
        for name in READ:
            if own.get(name):
                self.seen.append(Seen(self.url, f"{tag}@{name}", " ".join(own[name].split())))
        if tag == "input" and own.get("type") not in ("hidden", "radio", "checkbox") and own.get("value"):
            self.seen.append(Seen(self.url, "input@value", own["value"]))
        for name in ("data-chart", "data-strip"):
            if own.get(name):
                self.seen.append(Seen(self.url, f"{tag}@{name}", own[name]))


def texts_of(url: str, body: str) -> list[Seen]:
    """Every text, shown or read out, of one page or drawing."""
    parser = _Texts(url)
    parser.feed(body)
    parser.close()
    return parser.seen


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
    changed = ("need", "lift", "power", "kits", "wire", "prove", "sun", "store", "sheet/test", "drawing.svg?stage=wire")
    again = [f"/jobs/{job}/{page}" for job in (1, 2) for page in changed]
    yield from _read(client, again)


def _read(client: Any, urls: list[str]) -> Iterator[Seen]:
    for url in urls:
        answer = client.get(url)
        assert answer.status_code == 200, (url, answer.status_code, answer.text[:400])
        yield from texts_of(url, answer.text)
