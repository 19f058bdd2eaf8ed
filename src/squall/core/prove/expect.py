"""What each test point of a kit should read now, and what a reading says."""

from dataclasses import dataclass, replace
from math import hypot
from typing import Literal

from squall.core.drive.solve import Battery, DriveResult, PvArray, solve
from squall.core.electrics.modules import STC_CELL_C, STC_IRRADIANCE_W_M2
from squall.core.errors import OutOfRange, require
from squall.core.kit.kit import Kit
from squall.core.kit.setup import Setup
from squall.core.kit.supply import Banked
from squall.core.prove.band import (
    METER,
    NO_LIGHT_OFF,
    TYPED_LIGHT_OFF,
    UNREAD_BANK_OFF,
    WIDE,
    Moment,
    Off,
    bands,
    rest_band,
    too_wide,
)
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
# What a hand meter's socket carries, less a margin; above it a clamp and a rated switch: common practice, no source. [A]
HAND_METER_A = 8.0


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
        Short-circuit amps, typed light, or nobody.
    typed_w_m2 : float or None
        Light as typed, where amps told it too. [W/m2]
    bank_v : float or None
        The bank's volts with pump and charging off, where they were read. [V]
    """

    irradiance_w_m2: float
    cell_c: float
    told_by: Reason
    typed_w_m2: float | None = None
    bank_v: float | None = None

    @property
    def light_off(self) -> float:
        """How far the light may be off: one standard deviation. [-]"""
        if self.told_by.code == "short-circuit-amps":
            return Off().light
        return TYPED_LIGHT_OFF if self.told_by.code == "typed-light" else NO_LIGHT_OFF


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
        What to know when reading it, or why it is not judged.
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


def unknown_light(air_c: float) -> Now:
    """The moment when nobody has read the light: 800 W/m2 is shown, and next to nothing is judged. [°C]"""
    return replace(typed_light(800.0, air_c), told_by=Reason("light-not-known"))


def expected_readings(setup: Setup, now: Now, off: Off | None = None) -> tuple[Expected, ...]:
    """What every test point of a kit should read in the light of now.

    Parameters
    ----------
    setup : Setup
        The kit, where it stands and what joins it.
    now : Now
        Light and heat, and the bank's volts.
    off : Off, optional
        How far the inputs may be off; the usual, with the light's own, without it.

    Returns
    -------
    tuple[Expected, ...]
        In the order in which they are taken, each with its own band (:mod:`squall.core.prove.band`).
    """
    off = replace(off or Off(), light=now.light_off)
    kit, layout, cabling = setup.kit, setup.layout, setup.cabling
    array = PvArray(kit.panel.module, kit.in_series, kit.in_parallel, now.irradiance_w_m2, now.cell_c)
    banked = isinstance(kit.supply, Banked)
    bank_v = kit.bank_v if now.bank_v is None else now.bank_v
    if banked:
        off = replace(off, bank_v=UNREAD_BANK_OFF if now.bank_v is None else off.bank_v)
        result = solve(
            Battery(bank_v, kit.bank_ohm), cabling.pump_ohm(kit, layout), kit.pump.motor, layout.line(kit.hose)
        )
    else:
        result = solve(
            setup.source_at(now.irradiance_w_m2, now.cell_c),
            cabling.pump_ohm(kit, layout), kit.pump.motor, layout.line(kit.hose),
        )  # fmt: skip
    wide = bands(setup, Moment(now.irradiance_w_m2, now.cell_c, bank_v), off)
    module = kit.panel.module
    label = Reason(
        "label-says-open-and-working", open=module.voc_v * kit.in_series, working=module.vmp_v * kit.in_series
    )
    points = [
        _expected("open-volts", array.most_volts, wide["open-volts"], label),
        _short_amps(kit, array.short_a, now, wide["short-amps"]),
    ]
    if isinstance(kit.supply, Banked):
        low, high = rest_band(kit.supply.battery.chemistry, kit.supply.nominal_v)
        points.append(Expected("rest-volts", bank_v, low, high, Reason("pump-charging-off-half-hour")))
    flow = result.flow_m3_s if result.flow_m3_s is not None else None
    bucket = Reason("timed-bucket-real-outlet-hose-full" if layout.round is None else "timed-bucket-others-shut")
    if not kit.pump.three_wires:
        points += _at_pump(result, wide)
    points.append(_expected("outlet-flow", flow, wide["outlet-flow"], result.why_not or bucket))
    return tuple(points)


def _at_pump(result: DriveResult, wide: dict[str, tuple[float, float]]) -> list[Expected]:
    """Volts and amps at two leads; three show nothing to a meter of direct current."""
    return [
        _expected("pump-volts", result.motor_v, wide["pump-volts"], Reason("pumps-own-leads-water-flowing")),
        _expected("pump-amps", result.motor_a, wide["pump-amps"], Reason("clamp-or-meter-one-lead")),
    ]  # fmt: skip


def _short_amps(kit: Kit, amps: float, now: Now, wide: tuple[float, float]) -> Expected:
    """Short-circuit amps: judged by a light that is known otherwise; where they are the only light meter, they are not."""
    note = Reason("over-hand-meter-clamp", most=HAND_METER_A) if amps > HAND_METER_A else _METER_NOTE
    if now.told_by.code != "short-circuit-amps":
        return _expected("short-amps", amps, wide, note)
    if now.typed_w_m2 is None:
        return Expected("short-amps", amps, None, None, Reason("taken-as-the-light"))
    module = kit.panel.module
    full = module.isc_a * kit.in_parallel * (1.0 + module.isc_percent_per_k / 100.0 * (now.cell_c - STC_CELL_C))
    by_light = full * now.typed_w_m2 / STC_IRRADIANCE_W_M2
    spread = WIDE * hypot(TYPED_LIGHT_OFF, Off().panel_a, METER) * by_light
    return Expected("short-amps", by_light, by_light - spread, by_light + spread, note)


_METER_NOTE = Reason("meter-socket-across-array-alone-cover")


def _expected(point: Point, value: float | None, wide: tuple[float, float], note: Told) -> Expected:
    if value is None:
        return Expected(point, None, None, None, note)
    less, more = wide
    if too_wide(value, less, more) and value + more > 0.0:
        return Expected(point, value, None, None, Reason("wait-for-more-light"))
    return Expected(point, value, max(value - less, 0.0), value + more, note)


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
