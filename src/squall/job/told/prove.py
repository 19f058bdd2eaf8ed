"""What each test point should read now, and why."""

from squall.core.errors import SquallError
from squall.core.explain import Figure, Input, QuantityName
from squall.core.prove.expect import (
    POINTS,
    TOLERANCE,
    Expected,
    Now,
    light_from_short_amps,
    typed_light,
)
from squall.core.reason import Reason, Spoken
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


DEFAULT_LIGHT, DEFAULT_AIR = "800 W/m2", "20 °C"


def light_by(code: str) -> Spoken:
    """How the light of a visit was known, in words; documents of before 0.4.0 have the words themselves."""
    known = code.replace(" ", "-")
    return Reason(known) if known in SENTENCES else code


def now_from(chosen: KitAssessment, light: str, short: str, air: str, units: System) -> tuple[Now, dict[str, str]]:
    """Light and heat from what is typed: short-circuit amps first, else the light.

    Returns
    -------
    tuple
        The moment, and problems by field; a field with a problem is replaced by its default.
    """
    problems: dict[str, str] = {}
    try:
        air_c = parse(air or DEFAULT_AIR, "temperature", units)
        typed_light(500.0, air_c)
    except SquallError as error:
        problems["air"], air_c = str(error), 20.0
    if short.strip():
        try:
            return light_from_short_amps(chosen.kit, parse(short, "amps", units), air_c), problems
        except SquallError as error:
            problems["short"] = str(error)
    try:
        return typed_light(parse(light or DEFAULT_LIGHT, "irradiance", units), air_c), problems
    except SquallError as error:
        problems["light"] = str(error)
        return typed_light(800.0, air_c), problems


def point_figure(expected: Expected, now: Now, chosen: KitAssessment) -> Figure:
    """What a test point should read, with why."""
    spread = TOLERANCE[expected.point]
    inputs = (
        Input(say("light (by {told_by})", told_by=now.told_by), now.irradiance_w_m2, "irradiance"),
        Input(say("cells"), now.cell_c, "temperature"),
        Input(say("lift and end pressure"), chosen.layout.static_head_m, "head"),
        Input(say("cable to the pump"), chosen.cabling.pump_ohm(chosen.kit, chosen.layout), "ohms"),
        Input(say("tolerance, either way"), spread, "share"),
    )
    return Figure(
        f"expect-{expected.point}", POINTS[expected.point], expected.value, KIND[expected.point], inputs,
        say("the kit's own drive in this light and heat; good within the tolerance"),
        say("docs/method.md, the drive model; tolerance: common practice, no source"),
    )  # fmt: skip
