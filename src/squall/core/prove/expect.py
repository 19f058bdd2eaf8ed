"""What each test point of a kit should read now, and what a reading says."""

from dataclasses import dataclass
from typing import Literal

from squall.core.drive.solve import Battery, PvArray, solve
from squall.core.electrics.modules import STC_CELL_C, STC_IRRADIANCE_W_M2
from squall.core.errors import OutOfRange, require
from squall.core.kit.kit import Cabling, Kit, Layout
from squall.core.sky.typical_days import NOCT_C

Point = Literal["open-volts", "short-amps", "rest-volts", "pump-volts", "pump-amps", "outlet-flow"]
Judged = Literal["good", "low", "high"]

POINTS: dict[Point, str] = {
    "open-volts": "panel open volts",
    "short-amps": "panel short-circuit amps",
    "rest-volts": "battery at rest",
    "pump-volts": "volts at the pump, running",
    "pump-amps": "amps at the pump, running",
    "outlet-flow": "flow at the outlet",
}
# How far a sound kit's reading may lie from the model: meter, nameplate and curve together.
# Common practice, no source; panel makers state 3 to 5 % on their own labels.
TOLERANCE: dict[Point, float] = {
    "open-volts": 0.05,
    "short-amps": 0.08,
    "rest-volts": 0.04,
    "pump-volts": 0.08,
    "pump-amps": 0.12,
    "outlet-flow": 0.15,
}


@dataclass(frozen=True)
class Now:
    """The light and heat of the moment.

    Attributes
    ----------
    irradiance_w_m2 : float
        On the panels. [W/m2]
    cell_c : float
        Of the cells. [°C]
    told_by : str
        ``short-circuit amps`` or ``typed light``.
    """

    irradiance_w_m2: float
    cell_c: float
    told_by: str


@dataclass(frozen=True)
class Expected:
    """A test point with what it should read.

    Attributes
    ----------
    point : str
        Key in :data:`POINTS`.
    value : float or None
        In SI; None where the model promises nothing. [V], [A] or [m3/s]
    low, high : float or None
        Limits of good.
    note : str
        What to know when reading it.
    """

    point: Point
    value: float | None
    low: float | None
    high: float | None
    note: str = ""


def light_from_short_amps(kit: Kit, short_a: float, air_c: float) -> Now:
    """The light that a measured short-circuit current tells.

    Parameters
    ----------
    kit : Kit
        Its array.
    short_a : float
        Measured with the array shorted through the meter, above 0. [A]
    air_c : float
        Air temperature, -40 to 55. [°C]

    Returns
    -------
    Now
        Light and cell temperature.

    Raises
    ------
    OutOfRange
        If the current can't come from this array even in 1500 W/m2.

    Notes
    -----
    Isc is proportional to light: G = 1000 I / (Isc (1 + a (T - 25))), with the cell at
    T = air + (NOCT - 20) G/800, found by repeating.
    """
    module = kit.panel.module
    require("air temperature", air_c, -40.0, 55.0, "°C")
    full = module.isc_a * kit.in_parallel
    if not 0.0 < short_a <= 1.5 * full:
        raise OutOfRange(
            "short-circuit amps", f"{short_a:g} A", f"more than 0, up to {1.5 * full:.1f} A for this array"
        )
    light = short_a / full * STC_IRRADIANCE_W_M2
    for _ in range(20):
        cell = air_c + (NOCT_C - 20.0) / 800.0 * light
        warm = 1.0 + module.isc_percent_per_k / 100.0 * (cell - STC_CELL_C)
        light = short_a / (full * warm) * STC_IRRADIANCE_W_M2
    return Now(light, air_c + (NOCT_C - 20.0) / 800.0 * light, "short-circuit amps")


def typed_light(irradiance_w_m2: float, air_c: float) -> Now:
    """The moment from a typed light and air temperature.

    Raises
    ------
    OutOfRange
        Outside 1 to 1400 W/m2 or -40 to 55 °C.
    """
    require("light", irradiance_w_m2, 1.0, 1400.0, "W/m²")
    require("air temperature", air_c, -40.0, 55.0, "°C")
    return Now(irradiance_w_m2, air_c + (NOCT_C - 20.0) / 800.0 * irradiance_w_m2, "typed light")


def expected_readings(kit: Kit, layout: Layout, cabling: Cabling, now: Now) -> tuple[Expected, ...]:
    """What every test point of a kit should read in the light of now.

    Parameters
    ----------
    kit : Kit
        The kit.
    layout : Layout
        Lift, run, cable lengths.
    cabling : Cabling
        Cable sizes.
    now : Now
        Light and heat.

    Returns
    -------
    tuple[Expected, ...]
        In the order in which they are taken.
    """
    array = PvArray(kit.panel.module, kit.in_series, kit.in_parallel, now.irradiance_w_m2, now.cell_c)
    points = [
        _expected("open-volts", array.point.voc_v, "panels alone, nothing joined; live in any light"),
        _expected(
            "short-amps",
            array.point.isc_a,
            "meter on its 10 A socket, across the array alone; cover the panel to join and part",
        ),
    ]
    if kit.source == "battery":
        points.append(_expected("rest-volts", kit.bank_v, "pump and charging off for half an hour"))
        result = solve(
            Battery(kit.bank_v, kit.bank_ohm), cabling.pump_ohm(kit, layout), kit.pump.motor, layout.line(kit.hose)
        )
    else:
        result = solve(
            kit.source_at(now.irradiance_w_m2, now.cell_c),
            cabling.pump_ohm(kit, layout), kit.pump.motor, layout.line(kit.hose),
        )  # fmt: skip
    note = result.why_not or ""
    flow = result.flow_m3_s if result.flow_m3_s is not None else None
    points += [
        _expected("pump-volts", result.motor_v, "at the pump's own leads, water flowing"),
        _expected("pump-amps", result.motor_a, "clamp or meter in one lead"),
        _expected("outlet-flow", flow, note or "timed bucket at the real outlet, hose full"),
    ]
    return tuple(points)


def _expected(point: Point, value: float | None, note: str) -> Expected:
    if value is None:
        return Expected(point, None, None, None, note)
    spread = TOLERANCE[point]
    return Expected(point, value, value * (1.0 - spread), value * (1.0 + spread), note)


def judge(expected: Expected, measured: float) -> Judged | None:
    """Verdict on a reading: ``good``, ``low``, ``high``, or None where nothing is promised."""
    if expected.low is None or expected.high is None:
        return None
    if measured < expected.low - 1e-12:
        return "low"
    return "high" if measured > expected.high + 1e-12 else "good"


MEANING: dict[tuple[Point, Judged], str] = {
    (
        "open-volts",
        "low",
    ): "a panel or joint is missing from the string, a bypass diode is dead, or it is hotter than thought",
    (
        "open-volts",
        "high",
    ): "more panels in series than drawn, or colder than thought: check the controller's limit before joining",
    ("short-amps", "low"): "dirt, shade or haze, or a string not joined",
    ("short-amps", "high"): "the light is stronger than typed, or more strings than drawn",
    ("rest-volts", "low"): "the battery is not charged, or tired",
    ("rest-volts", "high"): "still settling from charge: wait and read again",
    ("pump-volts", "low"): "a weak source, a long or thin cable, or a bad joint: feel for warmth, power off",
    ("pump-volts", "high"): "the pump draws too little: air, a dry intake, or a broken lead beyond the meter",
    ("pump-amps", "low"): "air, a blocked intake or lost prime; or less light than thought",
    ("pump-amps", "high"): "drag: grit, a worn bearing, or something in the impeller",
    ("outlet-flow", "low"): "a kink, a blocked screen, a leak, a lower water level, or a worn pump",
    ("outlet-flow", "high"): "the lift is less than surveyed, or the bucket was short",
}


def meaning(point: Point, verdict: Judged) -> str:
    """What a reading outside the limits points to, in plain words."""
    return "as it should be" if verdict == "good" else MEANING[(point, verdict)]
