"""A kit's first day: its tests in their order with what each should show in the light of its own moment, and what stands of them."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from math import isfinite

from squall.core.errors import BadQuantity, NotFound
from squall.core.faults.causes import Frequencies
from squall.core.faults.chain import Chain
from squall.core.faults.checks import Check
from squall.core.faults.commissioning import (
    Drift,
    Grade,
    Proof,
    grade_of,
    known_check,
    light_at,
    meanings,
    proofs_of,
)
from squall.core.faults.suspicion import Evidence
from squall.core.faults.sweep import Lit
from squall.core.prove.expect import light_from_short_amps, typed_light, unknown_light
from squall.job.fitted.cutlist import first_water_of
from squall.job.told.prove import expected_now
from squall.job.trouble.search import evidence_of
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.job.worked.resolve import loop_of
from squall.words import later
from squall.words.units import System, parse

# The name under which a reading of the light is kept beside the tests. [W/m2]
LIGHT = "light"
# Readings that Prove judges too: one rule for both.
_POINTS = {
    "source-open-volts": "open-volts", "short-circuit-amps": "short-amps", "battery-rest-volts": "rest-volts",
    "pump-volts-on": "pump-volts", "pump-amps-on": "pump-amps", "outlet-flow": "outlet-flow",
}  # fmt: skip
# What panels feed hangs on their light; ohms, looks and rest volts don't.
HANGS_ON_LIGHT = frozenset(
    {"panel-open-volts", "source-open-volts", "short-circuit-amps", "box-volts-on", "fuse-volts", "switch-volts", "pump-volts-on",
     "pump-amps-on", "outlet-flow", "first-water", "shut-off-head", "turns", "lamp"}
)  # fmt: skip
# Lights are told to so much: as near as anybody reads them, and the same rows serve many tests. [W/m2]
_ROUGH = 25.0
AIR_C = 20.0
# A cause less likely than this isn't named beside a wrong test. [-]
LEAST_TOLD = 0.01


@dataclass(frozen=True)
class Test:
    """One test as it stands.

    Attributes
    ----------
    proof : Proof
        What is done, and what a sound kit shows in the light of its moment.
    piece : Evidence or None
        What it showed last; None if it wasn't done.
    row : int
        The row of that, 0 without one.
    skipped, typed, at : str
        Why it wasn't done; as typed; when.
    grade : str
        ``good``, ``wrong``, ``told``, ``moved`` where the light went away meanwhile, ``dark`` where no light is known, or
        empty if it wasn't done.
    light : Drift or None
        The light of its moment.
    means : tuple
        Of a wrong one: (cause, share).
    """

    proof: Proof
    piece: Evidence | None = None
    row: int = 0
    skipped: str = ""
    typed: str = ""
    at: str = ""
    grade: str = ""
    light: Drift | None = None
    means: tuple[tuple[str, float], ...] = ()

    @property
    def hangs_on_light(self) -> bool:
        """Whether what a sound kit shows hangs on the light of the moment."""
        return self.proof.check.code in HANGS_ON_LIGHT


@dataclass(frozen=True)
class Kept:
    """A row as the store keeps it."""

    id: int
    evidence: Evidence
    skipped: str
    typed: str
    at: str


def seconds_of(at: str) -> float:
    """A kept moment on the clock. [s]"""
    return datetime.fromisoformat(at.replace("Z", "+00:00")).timestamp()


def lights_of(chosen: KitAssessment, kept: Sequence[Kept]) -> list[tuple[float, float]]:
    """Every reading of the light, by short-circuit amps or a meter for it, in order of time. [s], [W/m2]"""
    found = []
    for row in kept:
        value = row.evidence.value
        if not isinstance(value, float | int):
            continue
        if row.evidence.check == LIGHT:
            found.append((seconds_of(row.at), float(value)))
        elif row.evidence.check == "short-circuit-amps" and value > 0.0:
            try:
                found.append(
                    (seconds_of(row.at), light_from_short_amps(chosen.kit, float(value), AIR_C).irradiance_w_m2)
                )
            except BadQuantity:
                continue
    return sorted(found)


def _proofs(a: Assessment, chosen: KitAssessment, chain: Chain, light: float | None) -> dict[str, Proof]:
    """Tests by their check, in a light; what Prove judges too with Prove's own band."""
    now = unknown_light(AIR_C) if light is None else typed_light(light, AIR_C)
    expected = {one.point: one for one in expected_now(a, chosen, now)}
    flow = expected["outlet-flow"].value if "outlet-flow" in expected else None
    water = None if not flow else first_water_of(a, chosen, flow)
    lit = Lit(light, AIR_C) if light is not None else Lit(None, AIR_C)
    loop = loop_of(a.job, a.parts)
    proofs = proofs_of(chain, lit, bool(loop.pilots), None if water is None else water.seconds)
    found = {}
    for proof in proofs:
        point = expected.get(_POINTS.get(proof.check.code, ""))  # type: ignore[call-overload]
        if point is not None:
            proof = replace(proof, low=point.low, high=point.high, middle=point.value)
        found[proof.check.code] = proof
    return found


def tests_of(
    a: Assessment, chosen: KitAssessment, chain: Chain, kept: Sequence[Kept], known: Frequencies
) -> tuple[tuple[Test, ...], float | None]:
    """Every test of the kit as it stands, and the light last read. [W/m2]

    Parameters
    ----------
    a, chosen : Assessment, KitAssessment
        The job worked out, and its kit.
    chain : Chain
        The kit as Fault sees it.
    kept : sequence of Kept
        What was shown, the oldest first; of each test the newest stands.
    known : Frequencies
        What the yard knows of its faults.
    """
    lights = lights_of(chosen, kept)
    last = lights[-1][1] if lights else None
    rough = None if last is None else max(round(last / _ROUGH) * _ROUGH, _ROUGH)
    newest = {row.evidence.check: row for row in kept}
    by_light: dict[float | None, dict[str, Proof]] = {rough: _proofs(a, chosen, chain, rough)}
    found = []
    for code, proof in by_light[rough].items():
        row = newest.get(code)
        if row is None or not _fits(proof.check, row.evidence, chain):
            found.append(Test(proof))
            continue
        drift = light_at(seconds_of(row.at), lights)
        then = None if drift is None else max(round(drift.light_w_m2 / _ROUGH) * _ROUGH, _ROUGH)
        if then not in by_light:
            by_light[then] = _proofs(a, chosen, chain, then)
        own = by_light[then].get(code, proof)
        grade = _grade(own, row, drift, chain)
        means = meanings(chain, Lit(then, AIR_C), row.evidence, known=known) if grade == "wrong" else ()
        means = tuple((cause, share) for cause, share in means if share >= LEAST_TOLD)
        found.append(Test(own, row.evidence, row.id, row.skipped, row.typed, row.at, grade, drift, means))
    return tuple(found), last


def _fits(check: Check, piece: Evidence, chain: Chain) -> bool:
    """Whether the kit as it is now can still have shown this."""
    return not check.a_panel or not isinstance(piece.value, tuple) or len(piece.value) == chain.panels


def _grade(proof: Proof, row: Kept, drift: Drift | None, chain: Chain) -> str:
    if row.evidence.skipped:
        return "told"
    hangs = proof.check.code in HANGS_ON_LIGHT and chain.panels > 0
    if hangs and proof.check.code != "short-circuit-amps":
        if drift is None:
            return "dark"
        if not drift.steady:
            return "moved"
    if hangs and proof.check.code == "short-circuit-amps":
        return "told"  # the light meter itself
    found: Grade = grade_of(proof, row.evidence)
    return found


def test_of(code: str, chain: Chain) -> Check:
    """The test of a code.

    Raises
    ------
    NotFound
        For one that is none, or that this kit doesn't have.
    """
    check = known_check(code)
    if check is None or not check.can(chain):
        raise NotFound(later("This kit has no such test any more; load the page anew."))
    return check


def shown_by(code: str, typed: str, chain: Chain, units: System) -> tuple[Check, Evidence]:
    """What was typed beside a test, as evidence.

    Raises
    ------
    NotFound
        For a test that is none, or that this kit doesn't have.
    BadQuantity
        If it can't be read, or can't be.
    """
    check = test_of(code, chain)
    if check.kind is None and typed not in check.answers:
        raise BadQuantity(later("There is no such answer; choose one of the list."))
    piece = evidence_of(check, typed, chain.panels, units)
    values = piece.value if isinstance(piece.value, tuple) else (piece.value,)
    for value in values:
        if value is not None and (not isfinite(value) or abs(value) > 1e9):
            raise BadQuantity(later("{typed:quoted} can't be a reading.", typed=typed[:40]))
        if (
            value is not None
            and value < 0.0
            and check.kind not in ("volts", "amps")
            and code != "pumping-water-level-drop"
        ):
            raise BadQuantity(later("{typed:quoted} is less than nothing.", typed=typed[:40]))
    return check, piece


def light_typed(typed: str, chosen: KitAssessment, units: System) -> Evidence:
    """A reading of the light, as W/m2 or as the panels' short-circuit amps.

    Raises
    ------
    BadQuantity, OutOfRange
        If it can't be read, or is no light of a sky.
    """
    body = typed.strip()
    if body.lower().rstrip(".").endswith("a") or body.lower().endswith("amps"):
        amps = parse(body, "amps", units)
        return Evidence(LIGHT, light_from_short_amps(chosen.kit, amps, AIR_C).irradiance_w_m2)
    light = parse(body, "irradiance", units)
    typed_light(light, AIR_C)
    return Evidence(LIGHT, light)


def may_be_kept(tests: Sequence[Test]) -> tuple[bool, int, int]:
    """Whether the set may stand as the kit's birth certificate; how many are missing, and how many speak against it."""
    missing = sum(1 for test in tests if not test.grade)
    against = sum(1 for test in tests if test.grade in ("wrong", "moved", "dark"))
    return missing == 0 and against == 0, missing, against
