"""What each test point should read now, and why."""

from collections.abc import Callable, Mapping
from dataclasses import replace

from squall.core.errors import SquallError, require
from squall.core.explain import Figure, Input, QuantityName
from squall.core.prove.band import WIDE, Off
from squall.core.prove.expect import (
    POINTS,
    Expected,
    Now,
    expected_readings,
    light_from_short_amps,
    typed_light,
    unknown_light,
)
from squall.core.reason import Reason, Spoken
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.words import say
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
        Input(say("cable to the pump"), chosen.cabling.pump_ohm(chosen.kit, chosen.layout), "ohms"),
        Input(say("the light may be off by"), now.light_off, "share"),
    ]
    if now.bank_v is not None:
        inputs.append(Input(say("the battery's volts, pump off"), now.bank_v, "volts"))
    return Figure(
        f"expect-{expected.point}", POINTS[expected.point], expected.value, KIND[expected.point], tuple(inputs),
        say("the kit's own drive in this light and heat; its band: each input moved both ways by {WIDE} standard deviations, summed by squares with the meter's share", WIDE=WIDE),
        say("docs/method.md, the drive model and readings; how far inputs are off: common practice, no source"),
    )  # fmt: skip
