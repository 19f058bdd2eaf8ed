"""The job's own pumps as parts of the catalogue."""

from dataclasses import dataclass, replace
from functools import lru_cache

from squall.catalogue import Catalogue, catalogue
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
from squall.core.drive.motors import Kind
from squall.core.errors import BadCurve, SquallError
from squall.core.hydraulics.curves import check_curve
from squall.core.kit.parts import Placement, Pump
from squall.job.document.fields import spec
from squall.job.document.job import Job, OwnPump
from squall.job.document.parts import with_copies
from squall.job.document.unsaid import unsaid_of_pump
from squall.job.worked.odd_lot import with_lot
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
