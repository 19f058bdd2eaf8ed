"""What stands on each paper: the test sheet with its five lights, and the whole job."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from squall.core.explain import QuantityName
from squall.core.prove.expect import POINTS, Expected
from squall.core.reason import Reason
from squall.drawing import draw
from squall.drawing.small.cards import card_picture
from squall.job.fitted.joints import joints_of
from squall.job.kept.cards import cards_of
from squall.job.told.need import need_figures
from squall.job.told.place import place_words
from squall.job.told.prove import KIND, light_columns
from squall.job.told.survey import level_figures
from squall.job.told.verdict import verdict_of
from squall.job.wired.not_yet import not_yet
from squall.job.worked.assess import Assessment, assess
from squall.job.worked.kit import KitAssessment
from squall.job.worked.resolve import devices_of
from squall.store.jobs import Stored
from squall.web.papers.beside import NOTHING, Beside
from squall.web.papers.booklet import booklet
from squall.web.papers.build import build_sheet
from squall.web.papers.fault_chart import fault_chart
from squall.web.papers.labels import labels_sheet
from squall.web.stages.commission import born_words
from squall.web.stages.power import month_row
from squall.web.stages.prove import MARK, past_readings
from squall.web.stages.quote import quote_words
from squall.words import Message, later, say, voice
from squall.words.forms import own_sizes
from squall.words.units import parse, shown, text

# The bucket whose seconds the sheet names, as people of each system have it.
BUCKET = {"metric": "10 L", "us": "2.5 gal"}
# The stage at which a paper's drawing is drawn.
STAGE_DRAWN = {
    "test": "prove",
    "job": "lift",
    "build": "wire",
    "fault": "prove",
    "labels": "wire",
    "quote": "lift",
    "handover": "prove",
    "cards": "prove",
    "booklet": "lift",
}
PAPERS: Mapping[str, Message] = {
    "test": later("Test sheet"),
    "job": later("The whole job"),
    "build": later("Build sheet"),
    "fault": later("Fault chart"),
    "labels": later("Labels"),
    "quote": later("Quote"),
    "handover": later("Hand-over"),
    "cards": later("Upkeep cards"),
    "booklet": later("Booklet"),
}


@dataclass(frozen=True)
class HoseLine:
    """A piece of the run as it is bought: its name, what hose, how long. [m]"""

    name: str
    hose: str
    length_m: float


@dataclass(frozen=True)
class Cell:
    """What a point should read in one light, and the band of good without its unit; empty where nothing is judged."""

    reads: str
    band: str = ""


@dataclass(frozen=True)
class Line:
    """A test point on the sheet: its mark on the drawing, its name, a cell for each light."""

    mark: int | None
    name: str
    cells: list[Cell]


def _cell(expected: Expected | None, kind: QuantityName) -> Cell:
    if expected is None or expected.value is None:
        return Cell("\u2013")
    low, high = expected.low, expected.high
    judged = low is not None and high is not None and expected.point != "short-amps" and high > 0.0
    band = (
        f"{shown(low, kind)[0]} \u2013 {shown(high, kind)[0]}"
        if judged and low is not None and high is not None
        else ""
    )
    return Cell(text(expected.value, kind), band)


def _seconds(expected: Expected | None, bucket_m3: float) -> Cell:
    """How long the bucket takes: longest at the least flow."""
    if expected is None or not expected.value:
        return Cell("\u2013")
    reads = f"{bucket_m3 / expected.value:.0f} s"
    if not expected.low or not expected.high:
        return Cell(reads)
    return Cell(reads, f"{bucket_m3 / expected.high:.0f} \u2013 {bucket_m3 / expected.low:.0f}")


def hose_lines(a: Assessment, chosen: KitAssessment | None) -> list[HoseLine]:
    """Every piece with the hose that lies there: the kit's where it brings one, else the surveyed one."""
    lines = []
    for number, piece in enumerate(a.job.run):
        kept = chosen is None or chosen.kit.hose is None or not chosen.layout.pieces[number].replaceable
        hose = a.parts.hoses.get(piece.hose) if kept else chosen.kit.hose if chosen is not None else None
        lines.append(HoseLine(piece.name, own_sizes(hose.title) if hose is not None else "", piece.length.si))
    return lines


def paper_of(stored: Stored, kind: str, beside: Beside = NOTHING) -> dict[str, Any]:
    """Everything that a paper of a kind of :data:`PAPERS` shows."""
    a = assess(stored.job)
    chosen = a.chosen
    bucket = BUCKET[voice().units]
    shared: dict[str, Any] = {
        "kind": kind, "paper": PAPERS[kind], "stored": stored, "job": stored.job, "a": a, "chosen": chosen, "wiring": a.wiring,
        "devices": devices_of(stored.job, a.parts), "verdict": verdict_of(a), "drawing": draw(stored.id, stored.job.name, a, STAGE_DRAWN[kind], size="wide"),
        "hoses": hose_lines(a, chosen), "place": place_words(stored.job) if stored.job.placed else "",
        "need_l": max(a.need_l) if a.light is not None else 0.0, "months": [], "columns": [], "joints": None,
        "bucket": bucket, "point_names": POINTS, "kinds": KIND, "past": [], "bucket_m3": parse(bucket, "litres", voice().units),
    }  # fmt: skip
    if kind == "job":
        shared |= {
            "levels": level_figures(a),
            "past": past_readings(beside.visits[:1]),
            "needs": need_figures(a) if a.light is not None else [],
        }
    if kind == "quote":
        return shared | {"quote": None, "currency": beside.currency} | quote_words(stored)
    if chosen is None:
        return shared
    shared["joints"] = joints_of(a, chosen)
    if kind == "build":
        return shared | (build_sheet(stored, a, chosen) if a.wiring is not None else {})
    if kind == "labels":
        return shared | (labels_sheet(stored, a, chosen, beside.address) if a.wiring is not None else {})
    if kind == "handover":
        return (
            shared
            | {
                "born": born_words(beside.birth) if beside.birth else [],
                "birth": beside.birth,
                "will": (),
                "wont": (),
                "not_yet": not_yet(a, chosen),
            }
            | quote_words(stored)
        )
    if kind == "fault":
        return shared | fault_chart(a, chosen, beside)
    if kind == "cards":
        return shared | {"cards": cards_of(a, chosen), "card_picture": card_picture, "reason": Reason}
    if kind == "booklet":
        shared |= {"will": (), "wont": (), "not_yet": not_yet(a, chosen)}
        return shared | booklet(stored, a, chosen, beside) | quote_words(stored)
    if kind == "job":
        judged = a.judged.chosen or chosen
        shared["months"] = [month_row(a, judged, month) for month in range(12)]
        return shared
    columns = light_columns(a, chosen)
    rows = [
        Line(MARK.get(point), str(POINTS[point]), [_cell(column.points.get(point), KIND[point]) for column in columns])
        for point in columns[-1].points
    ]
    rows.append(Line(None, say("{bucket} bucket, seconds", bucket=bucket), [_seconds(column.points.get("outlet-flow"), shared["bucket_m3"]) for column in columns]))  # fmt: skip
    return shared | {"columns": columns, "rows": rows}
