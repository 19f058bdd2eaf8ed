"""What each test point should read now, and why."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

from squall.core.errors import BadQuantity, SquallError, require
from squall.core.explain import Figure, Input, QuantityName
from squall.core.prove.band import WIDE, Off
from squall.core.prove.expect import (
    POINTS,
    Expected,
    Now,
    Point,
    expected_readings,
    judge,
    light_from_short_amps,
    typed_light,
    unknown_light,
)
from squall.core.reason import Reason, Spoken
from squall.job.document.base import Typed, own
from squall.job.document.fields import with_unit
from squall.job.document.job import ReadingValue, Visit, quantity
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.words import later, say
from squall.words.reasons import SENTENCES
from squall.words.units import System, parse

KIND: dict[str, QuantityName] = {
    "open-volts": "volts",
    "short-amps": "amps",
    "rest-volts": "volts",
    "pump-volts": "volts",
    "pump-amps": "amps",
    "outlet-flow": "flow",
}


DEFAULT_AIR = "20 °C"


def light_by(code: str) -> Spoken:
    """How the light of a visit was known, in words; documents of before 0.4.0 have the words themselves."""
    known = code.replace(" ", "-")
    return Reason(known) if known in SENTENCES else code


def now_from(chosen: KitAssessment, typed: Mapping[str, str], units: System) -> tuple[Now, dict[str, str]]:
    """Light, heat and the bank's volts from what is typed: short-circuit amps first, else the light, else nobody knows.

    Parameters
    ----------
    chosen : KitAssessment
        The kit.
    typed : mapping
        ``light``, ``short``, ``air`` and ``bank``, as typed; empty where nothing is.
    units : str
        In which a bare number is read.

    Returns
    -------
    tuple
        The moment, and problems by field; a field with a problem is taken as empty.
    """
    problems: dict[str, str] = {}

    def read(name: str, kind: QuantityName, check: Callable[[float], object]) -> float | None:
        if not typed.get(name, "").strip():
            return None
        try:
            value = parse(typed[name], kind, units)
            check(value)
        except SquallError as error:
            problems[name] = str(error)
            return None
        return value

    found_air = read("air", "temperature", lambda value: typed_light(500.0, value))
    air_c = 20.0 if found_air is None else found_air
    light = read("light", "irradiance", lambda value: typed_light(value, air_c))
    short = read("short", "amps", lambda value: light_from_short_amps(chosen.kit, value, air_c))
    bank = read("bank", "volts", lambda value: require("battery-rest", value, 0.5, 120.0, "volts"))
    if short is not None:
        now = replace(light_from_short_amps(chosen.kit, short, air_c), typed_w_m2=light)
    else:
        now = unknown_light(air_c) if light is None else typed_light(light, air_c)
    return replace(now, bank_v=bank), problems


def expected_now(a: Assessment, chosen: KitAssessment, now: Now) -> tuple[Expected, ...]:
    """What each point should read, with what the job leaves in doubt of lift, run and pump: half of each is one standard deviation."""
    doubt = a.job.doubt
    off = Off(lift_m=a.heights.off_m / 2.0, length=doubt.lengths.si / 2.0, pump=a.pump_band / 2.0)
    return expected_readings(chosen.setup, now, off)


def point_figure(expected: Expected, now: Now, chosen: KitAssessment) -> Figure:
    """What a test point should read, with why."""
    inputs = [
        Input(say("light (by {told_by})", told_by=now.told_by), now.irradiance_w_m2, "irradiance"),
        Input(say("cells"), now.cell_c, "temperature"),
        Input(say("lift and end pressure"), chosen.layout.static_head_m, "head"),
        Input(
            say("cable to the pump, with fuse and contacts"), chosen.cabling.pump_ohm(chosen.kit, chosen.layout), "ohms"
        ),
        Input(say("the light may be off by"), now.light_off, "share"),
    ]
    if now.bank_v is not None:
        inputs.append(Input(say("the battery's volts, pump off"), now.bank_v, "volts"))
    return Figure(
        f"expect-{expected.point}", POINTS[expected.point], expected.value, KIND[expected.point], tuple(inputs),
        say("the kit's own drive in this light and heat; its band: each input moved both ways by {WIDE} standard deviations, summed by squares with the meter's share", WIDE=WIDE),
        say("docs/method.md, the drive model and readings; how far inputs are off: common practice, no source"),
    )  # fmt: skip


@dataclass(frozen=True)
class LightColumn:
    """What every point should read in one light: the light, and the points' expectations by key."""

    light_w_m2: float
    now: Now
    points: Mapping[Point, Expected]


# Lights of a sheet for paper: near enough to one another that what lies between two can be taken by eye. [W/m2]
SHEET_LIGHTS = (200.0, 400.0, 600.0, 800.0, 1000.0)


def light_columns(
    a: Assessment, chosen: KitAssessment, lights: Sequence[float] = SHEET_LIGHTS, air_c: float = 20.0
) -> list[LightColumn]:
    """The test points in several lights, each known as well as short-circuit amps tell it.

    Parameters
    ----------
    a, chosen : Assessment, KitAssessment
        The job worked out, and its kit.
    lights : sequence of float
        On the panels. [W/m2]
    air_c : float
        Air, -40 to 55. [°C]
    """
    columns = []
    for light in lights:
        rough = {one.point: one for one in expected_now(a, chosen, typed_light(light, air_c))}
        short = rough["short-amps"].value if "short-amps" in rough else None
        now = light_from_short_amps(chosen.kit, short, air_c) if short else typed_light(light, air_c)
        columns.append(LightColumn(light, now, {one.point: one for one in expected_now(a, chosen, now)}))
    return columns


@dataclass(frozen=True)
class Taken:
    """Readings as they were typed, judged in their light; and what is wrong with those that can't be read, by field."""

    now: Now
    air_c: float
    option: str
    values: list[ReadingValue]
    problems: Mapping[str, str]

    def visit(self, visit_id: str, at: str) -> Visit:
        """The readings as a visit of a moment."""
        return Visit(
            id=visit_id, at=at, option=self.option, irradiance_w_m2=self.now.irradiance_w_m2, air_c=self.air_c,
            told_by=self.now.told_by.code, values=self.values,
        )  # fmt: skip


def taken_of(a: Assessment, chosen: KitAssessment, form: Mapping[str, str], units: System) -> Taken:
    """Read and judge what was typed at the test points.

    Parameters
    ----------
    a, chosen : Assessment, KitAssessment
        The job worked out, and its kit.
    form : mapping
        Text by test point, and ``light``, ``short``, ``air``, ``bank`` of the moment.
    units : str
        In which a bare number is read.
    """
    told = {name: form.get(name, "") for name in ("light", "short", "air", "bank")}
    # Amps and rest volts that are measured tell of the light and the bank as those of the moment do.
    told["short"] = told["short"] or form.get("short-amps", "")
    told["bank"] = told["bank"] or form.get("rest-volts", "")
    now, problems = now_from(chosen, told, units)
    values: list[ReadingValue] = []
    for point in expected_now(a, chosen, now):
        given = form.get(point.point, "").strip()
        if not given:
            continue
        try:
            values.append(_value(point, given, units))
        except SquallError as error:
            problems[point.point] = str(error)
    if not values and not problems:
        problems["form"] = say("Nothing is typed yet: write at least one reading.")
    air_c = 20.0 if problems.get("air") else parse(told["air"] or DEFAULT_AIR, "temperature", units)
    return Taken(now, air_c, chosen.option.name, values, problems)


def _value(expected: Expected, given: str, units: System) -> ReadingValue:
    measured = _measured(expected.point, given, units)
    return ReadingValue(
        point=expected.point, measured=measured, expected=expected.value, low=expected.low, high=expected.high,
        verdict=judge(expected, measured.si),
    )  # fmt: skip


def put_right(value: ReadingValue, given: str, units: System) -> ReadingValue:
    """A reading typed anew, judged by what it should have been in the light of then; as it is where its text is the same.

    Raises
    ------
    BadQuantity
        For what is no such reading.
    """
    if given.strip() in (value.measured.typed, own(value.measured, KIND[value.point])):
        return value
    expected = Expected(value.point, value.expected, value.low, value.high)
    return _value(expected, given, units)


def _measured(point: Point, given: str, units: System) -> Typed:
    kind = KIND[point]
    value = parse(given, kind, units)
    if value < 0.0:
        raise BadQuantity(
            later(
                "{given:quoted} is less than nothing; turn the meter's leads round, or type it without the sign.",
                given=given,
            )
        )
    most = 1000.0 if kind != "flow" else 0.1
    if value > most:
        raise BadQuantity(
            later("{given:quoted} is far more than any small pump's {POINTS}.", given=given, POINTS=POINTS[point])
        )
    return quantity(with_unit(given, kind, units), value)
