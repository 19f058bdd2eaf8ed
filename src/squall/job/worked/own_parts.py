"""A job's own parts beside the catalogue's: pumps by label or bucket, and its odd lot of panels as one panel."""

from dataclasses import dataclass, replace
from functools import lru_cache

from squall.catalogue import Catalogue, catalogue
from squall.catalogue.reader import pick
from squall.core.drive.known_pumps import (
    LEAST_BUCKET_BAND,
    BucketTest,
    KnownPump,
    bucket_flow,
    curve_from_label,
    curve_from_one,
    curve_from_tests,
    motor_of,
)
from squall.core.drive.mismatch import as_one
from squall.core.drive.motors import Kind
from squall.core.errors import BadCurve, SquallError
from squall.core.hydraulics.curves import check_curve
from squall.core.kit.parts import Panel, Placement, Pump
from squall.core.reason import Spoken
from squall.job.document.fields import spec
from squall.job.document.job import Job, OwnPump
from squall.job.document.parts import with_copies
from squall.job.document.power import LOT
from squall.job.document.unsaid import unsaid_of_pump
from squall.words import later, say

OWN_PREFIX = "own-"


@dataclass(frozen=True)
class Homemade:
    """A pump of the job's own: its part if its points make one, the points and their band, or what is wrong."""

    doc: OwnPump
    part: Pump | None
    known: KnownPump | None
    problem: str


def drive_kind(doc: OwnPump) -> Kind:
    """Whether its end displaces, or throws."""
    return "centrifugal" if doc.end == "centrifugal" else "displacement"


def tests_of(doc: OwnPump) -> list[BucketTest]:
    """Its points as tests: timed buckets, or flows as typed."""
    found = []
    for point in doc.points:
        flow = bucket_flow(point.bucket.si * 1000.0, point.seconds.si) if doc.by == "bucket" else point.flow.si
        found.append(BucketTest(flow, point.height.si, None if point.amps is None else point.amps.si))
    return found


def known_of(doc: OwnPump) -> KnownPump:
    """The curve of a pump by what is known of it.

    Raises
    ------
    BadCurve, OutOfRange
        If its points make none.
    """
    kind = drive_kind(doc)
    if doc.by == "label":
        return curve_from_label(doc.label_flow.si, doc.label_height.si, kind)
    if doc.by == "bucket":
        tests = tests_of(doc)
        return curve_from_one(tests[0], kind) if len(tests) == 1 else curve_from_tests(tests, kind)
    points = tuple(sorted((test.flow_m3_s, test.height_m) for test in tests_of(doc)))
    if len(points) < 2:
        raise BadCurve(later("A maker's curve needs two points or more, each with a flow and a height."))
    check_curve(points)
    return KnownPump(points, 0.0, LEAST_BUCKET_BAND)


def part_of(doc: OwnPump, known: KnownPump) -> Pump:
    """The catalogue's kind of part of an own pump; most of its electrics are guessed."""
    tests = [] if doc.by == "label" else tests_of(doc)
    most = None if doc.most_volts is None else doc.most_volts.si
    motor = motor_of(known, drive_kind(doc), doc.volts.si, doc.watts.si, tests, most)
    placement: Placement = doc.placement
    guessed = ["resistance_ohm", "no_load_a", "locked_rotor_a"]
    if not any(test.amps is not None for test in tests):
        guessed.append("current")
    if doc.by == "label":
        guessed.append("curve")
    return Pump(
        id=OWN_PREFIX + doc.id, maker="", name=doc.name, price=doc.price.si, mass_kg=1.0, end=doc.end,
        placement=placement, brushed=doc.brushed, motor=motor, locked_rotor_a=doc.volts.si / motor.resistance_ohm,
        max_fuse_a=None if doc.fuse is None else doc.fuse.si, life_h=doc.life.si, barb_m=doc.barb.si, passes_m=0.001,
        self_priming=doc.end in ("diaphragm", "piston"), guessed=tuple(guessed), label_w=doc.watts.si,
    )  # fmt: skip


@lru_cache(maxsize=128)
def homemade(doc_json: str) -> Homemade:
    """One own pump made into a part, or told what is wrong with it."""
    doc = OwnPump.model_validate_json(doc_json)
    try:
        known = known_of(doc)
        return Homemade(doc, part_of(doc, known), known, "")
    except SquallError as error:
        return Homemade(doc, None, None, str(error))


def homemades(job: Job) -> list[Homemade]:
    """All own pumps of a job."""
    return [_as_said(job, homemade(doc.model_dump_json())) for doc in job.own_pumps]


def _as_said(job: Job, made: Homemade) -> Homemade:
    """A pump that nobody has said all of is no part yet."""
    waits = unsaid_of_pump(job, made.doc)
    if not waits:
        return made
    labels = "; ".join(str(spec(path, catalogue()).label) for path in waits)
    return Homemade(made.doc, None, None, say("Nobody has said yet: {labels}.", labels=labels))


def parts_of(job: Job, catalogue: Catalogue) -> Catalogue:
    """The catalogue with the job's own copies, own pumps and odd lot of panels put beside its own."""
    catalogue = with_lot(job, with_copies(job.parts, job.owned, catalogue))
    own = {made.part.id: made.part for made in homemades(job) if made.part is not None}
    return replace(catalogue, pumps={**catalogue.pumps, **own}) if own else catalogue


def pump_band(job: Job, pump: Pump) -> float:
    """How far a pump's curve may be off, each way: its own band, else what the job says. [-]"""
    for made in homemades(job):
        if made.part is not None and made.known is not None and made.part.id == pump.id:
            return made.known.band
    return job.doubt.pump.si if pump.band is None else pump.band


# Strings whose panels must stand what all the others push back into a shaded one: more than so many want a fuse each.
FUSED_FROM = 3


@dataclass(frozen=True)
class OddLot:
    """The lot as a part, or why it makes none; and what is to be minded."""

    panel: Panel | None
    problem: Spoken = ""
    mind: Spoken = ""


def lot_of(job: Job, catalogue: Catalogue) -> OddLot | None:
    """The job's odd lot; None if it has none."""
    if not job.lot:
        return None
    try:
        strings: dict[int, list[Panel]] = {}
        for row in job.lot:
            strings.setdefault(row.string, []).extend([pick(catalogue.panels, row.panel, "panel")] * row.count)
        module = as_one([[panel.module for panel in string] for string in strings.values()])
    except SquallError as error:
        return OddLot(None, error.said)
    panels = [panel for string in strings.values() for panel in string]
    # In the weakest string a fault draws what all the others give.
    amps = [min(panel.module.isc_a for panel in string) for string in strings.values()]
    fuses = [min(panel.max_series_fuse_a for panel in string) for string in strings.values()]
    back = [1.25 * (sum(amps) - own) > fuse for own, fuse in zip(amps, fuses, strict=True)]
    mind = later("a shaded or faulty string would be fed back more than its panels stand: a fuse in each string") if any(back) else ""  # fmt: skip
    return OddLot(
        Panel(
            LOT, "", str(later("odd lot of {n} panels", n=len(panels))), sum(panel.price for panel in panels),
            sum(panel.mass_kg for panel in panels), module=module, area_m2=sum(panel.area_m2 for panel in panels),
            max_series_fuse_a=min(fuses), guessed=("vmp_v", "imp_a"),
        ),
        mind=mind,
    )  # fmt: skip


def with_lot(job: Job, catalogue: Catalogue) -> Catalogue:
    """The catalogue with the job's odd lot beside its panels; the ranking leaves it out."""
    lot = lot_of(job, catalogue)
    if lot is None or lot.panel is None:
        return catalogue
    return replace(catalogue, panels={**catalogue.panels, LOT: lot.panel}, unranked=catalogue.unranked | {LOT})
