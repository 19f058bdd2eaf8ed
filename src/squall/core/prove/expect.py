"""What each test point of a kit should read now, and what a reading says."""

from dataclasses import dataclass
from typing import Literal

from squall.core.drive.solve import Battery, PvArray, solve
from squall.core.electrics.modules import STC_CELL_C, STC_IRRADIANCE_W_M2
from squall.core.errors import OutOfRange, require
from squall.core.kit.kit import Kit
from squall.core.kit.setup import Setup
from squall.core.kit.supply import Banked
from squall.core.reason import Quantity, Reason, Told
from squall.core.sky.typical_days import NOCT_C

Point = Literal["open-volts", "short-amps", "rest-volts", "pump-volts", "pump-amps", "outlet-flow"]
Judged = Literal["good", "low", "high"]

POINTS: dict[Point, Reason] = {
    "open-volts": Reason("panel-open-volts"),
    "short-amps": Reason("panel-short-circuit-amps"),
    "rest-volts": Reason("battery-rest"),
    "pump-volts": Reason("volts-pump-running"),
    "pump-amps": Reason("amps-pump-running"),
    "outlet-flow": Reason("flow-outlet"),
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
    told_by: Reason


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
    note: Told | None = None


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
    require("air-temperature", air_c, -40.0, 55.0, "temperature")
    full = module.isc_a * kit.in_parallel
    if not 0.0 < short_a <= 1.5 * full:
        raise OutOfRange("short-circuit-amps", Quantity(short_a, "amps"), Reason("more-than-up-array", full=1.5 * full))
    light = short_a / full * STC_IRRADIANCE_W_M2
    for _ in range(20):
        cell = air_c + (NOCT_C - 20.0) / 800.0 * light
        warm = 1.0 + module.isc_percent_per_k / 100.0 * (cell - STC_CELL_C)
        light = short_a / (full * warm) * STC_IRRADIANCE_W_M2
    return Now(light, air_c + (NOCT_C - 20.0) / 800.0 * light, Reason("short-circuit-amps"))


def typed_light(irradiance_w_m2: float, air_c: float) -> Now:
    """The moment from a typed light and air temperature. [W/m2], [°C]

    Raises
    ------
    OutOfRange
        Outside 1 to 1400 W/m2 or -40 to 55 °C.
    """
    require("light", irradiance_w_m2, 1.0, 1400.0, "irradiance")
    require("air-temperature", air_c, -40.0, 55.0, "temperature")
    return Now(irradiance_w_m2, air_c + (NOCT_C - 20.0) / 800.0 * irradiance_w_m2, Reason("typed-light"))


def expected_readings(setup: Setup, now: Now) -> tuple[Expected, ...]:
    """What every test point of a kit should read in the light of now.

    Parameters
    ----------
    setup : Setup
        The kit, where it stands and what joins it.
    now : Now
        Light and heat.

    Returns
    -------
    tuple[Expected, ...]
        In the order in which they are taken.
    """
    kit, layout, cabling = setup.kit, setup.layout, setup.cabling
    array = PvArray(kit.panel.module, kit.in_series, kit.in_parallel, now.irradiance_w_m2, now.cell_c)
    points = [
        _expected("open-volts", array.point.voc_v, Reason("panels-alone-nothing-joined-live-any")),
        _expected(
            "short-amps",
            array.point.isc_a,
            Reason("meter-socket-across-array-alone-cover"),
        ),
    ]
    if isinstance(kit.supply, Banked):
        points.append(_expected("rest-volts", kit.bank_v, Reason("pump-charging-off-half-hour")))
        result = solve(
            Battery(kit.bank_v, kit.bank_ohm), cabling.pump_ohm(kit, layout), kit.pump.motor, layout.line(kit.hose)
        )
    else:
        result = solve(
            kit.source_at(now.irradiance_w_m2, now.cell_c),
            cabling.pump_ohm(kit, layout), kit.pump.motor, layout.line(kit.hose),
        )  # fmt: skip
    note = result.why_not
    flow = result.flow_m3_s if result.flow_m3_s is not None else None
    points += [
        _expected("pump-volts", result.motor_v, Reason("pumps-own-leads-water-flowing")),
        _expected("pump-amps", result.motor_a, Reason("clamp-or-meter-one-lead")),
        _expected("outlet-flow", flow, note or Reason("timed-bucket-real-outlet-hose-full")),
    ]
    return tuple(points)


def _expected(point: Point, value: float | None, note: Told) -> Expected:
    if value is None:
        return Expected(point, None, None, None, note)
    spread = TOLERANCE[point]
    return Expected(point, value, value * (1.0 - spread), value * (1.0 + spread), note)


def judge(expected: Expected, measured: float) -> Judged | None:
    """Verdict on a reading, in the unit of what was expected [SI]: ``good``, ``low``, ``high``, or None where nothing is promised."""
    if expected.low is None or expected.high is None:
        return None
    if measured < expected.low - 1e-12:
        return "low"
    return "high" if measured > expected.high + 1e-12 else "good"


MEANING: dict[tuple[Point, Judged], Reason] = {
    (
        "open-volts",
        "low",
    ): Reason("panel-or-joint-missing-from-string"),
    (
        "open-volts",
        "high",
    ): Reason("more-panels-series-than-drawn-or"),
    ("short-amps", "low"): Reason("dirt-shade-or-haze-or-string"),
    ("short-amps", "high"): Reason("light-stronger-than-typed-or-more"),
    ("rest-volts", "low"): Reason("battery-not-charged-or-tired"),
    ("rest-volts", "high"): Reason("still-settling-from-charge-wait-read"),
    ("pump-volts", "low"): Reason("weak-source-long-or-thin-cable"),
    ("pump-volts", "high"): Reason("pump-draws-too-little-air-dry"),
    ("pump-amps", "low"): Reason("air-blocked-intake-or-lost-prime"),
    ("pump-amps", "high"): Reason("drag-grit-worn-bearing-or-something"),
    ("outlet-flow", "low"): Reason("kink-blocked-screen-leak-lower-water"),
    ("outlet-flow", "high"): Reason("lift-less-than-surveyed-or-bucket"),
}


def meaning(point: Point, verdict: Judged) -> Reason:
    """What a reading outside the limits points to, in plain words."""
    return Reason("as-should") if verdict == "good" else MEANING[(point, verdict)]
