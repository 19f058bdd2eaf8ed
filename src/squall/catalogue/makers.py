"""From a row of figures to a part: one maker for each family, of the shipped catalogue and of a person's own shelf alike.

A row is text by column, every figure in its column's unit. A figure that may be left out is an empty text.
"""

from typing import Literal, cast

from squall.core.drive.motors import Kind, Motor
from squall.core.electrics.modules import Module
from squall.core.errors import BadQuantity
from squall.core.kit.parts import (
    BatteryUnit,
    Cable,
    Controller,
    Device,
    Fitting,
    Hose,
    Lamp,
    Panel,
    Placement,
    Protector,
    Pump,
    Sundry,
    TankUnit,
)
from squall.words import later

LITRES_PER_MIN = 1.0 / 60_000.0
Row = dict[str, str]


def _given(row: Row, column: str) -> float | None:
    """A figure that nobody need state."""
    said = row.get(column, "")
    return float(said) if said else None


def _wires(row: Row) -> int | None:
    """How many wires a motor has, or a controller drives; None where nobody says."""
    said = row.get("motor_wires", "")
    return int(said) if said else None


class _Base(dict[str, object]):
    """Fields that all parts share, out of one row."""

    def __init__(self, row: Row) -> None:
        super().__init__(
            id=row["id"],
            maker=row["maker"],
            name=row["name"],
            price=float(row["price"]),
            mass_kg=float(row["mass_kg"]),
            guessed=tuple(row["guessed"].split()),
            torque_nm=_given(row, "torque_nm"),
        )


def motor_from(row: Row) -> Motor:
    """Motor of a pump row: points ``l/min m A`` separated by semicolons."""
    points = []
    for triple in row["points_l_min_m_a"].split(";"):
        flow, head, amps = (float(x) for x in triple.split())
        points.append((flow * LITRES_PER_MIN, head, amps))
    return Motor(
        kind=cast(Kind, row["drive"]),
        rated_v=float(row["rated_v"]),
        points=tuple(points),
        resistance_ohm=float(row["resistance_ohm"]),
        no_load_a=float(row["no_load_a"]),
        max_v=_given(row, "max_v"),
    )


def pump(row: Row) -> Pump:
    """A pump."""
    return Pump(
        **_Base(row),  # type: ignore[arg-type]
        end=row["end"],
        placement=cast(Placement, row["placement"]),
        brushed=row["brushed"] == "yes",
        motor=motor_from(row),
        locked_rotor_a=float(row["locked_rotor_a"]),
        max_fuse_a=_given(row, "max_fuse_a"),
        life_h=float(row["life_h"]),
        barb_m=float(row["barb_mm"]) / 1000.0,
        passes_m=float(row["passes_mm"]) / 1000.0,
        npsh_required_m=float(row["npsh_required_m"]),
        self_priming=row["self_priming"] == "yes",
        label_w=_given(row, "label_w"),
        least_v=_given(row, "least_v"),
        best_from_v=_given(row, "best_from_v"),
        best_to_v=_given(row, "best_to_v"),
        band=_given(row, "band"),
        motor_wires=_wires(row),
    )


def panel(row: Row) -> Panel:
    """A panel."""
    return Panel(
        **_Base(row),  # type: ignore[arg-type]
        module=Module(
            voc_v=float(row["voc_v"]),
            isc_a=float(row["isc_a"]),
            vmp_v=float(row["vmp_v"]),
            imp_a=float(row["imp_a"]),
            cells=int(row["cells"]),
            isc_percent_per_k=float(row["isc_percent_per_k"]),
            voc_percent_per_k=float(row["voc_percent_per_k"]),
        ),
        area_m2=float(row["area_m2"]),
        max_series_fuse_a=float(row["max_series_fuse_a"]),
    )


def battery(row: Row) -> BatteryUnit:
    """A battery."""
    figures = {key: float(row[key]) for key in
               ("nominal_v", "open_v", "internal_ohm", "capacity_ah", "usable", "charge_efficiency")}  # fmt: skip
    return BatteryUnit(**_Base(row), chemistry=row["chemistry"], **figures)  # type: ignore[arg-type]


def controller(row: Row) -> Controller:
    """A controller of a pump, or a charger."""
    kind = cast(Literal["pump", "charge-tracking", "charge-switching"], row["kind"])
    figures = {key: float(row[key]) for key in ("min_v", "max_v", "out_max_v", "max_a", "efficiency", "own_a")}
    may = {key: _given(row, key) for key in ("best_from_v", "best_to_v", "restart_shadow_min", "restart_dry_min")}
    words = {key: row.get(key) or "" for key in ("stall", "inputs", "dial")}
    given: dict[str, object] = {**_Base(row), **figures, **may, **words, "kind": kind, "motor_wires": _wires(row)}
    return Controller(**given, lamps=lamps_of(row.get("lamps") or ""))  # type: ignore[arg-type]


# How a lamp may stand.
LAMP_STANDS = ("steady", "blinking", "off")


def lamps_of(text: str) -> tuple[Lamp, ...]:
    """A controller's lamps from one line: ``green, steady: it runs; red, blinking: dry, waits``.

    Raises
    ------
    BadQuantity
        For a lamp that means nothing.

    Examples
    --------
    >>> lamps_of("run, green, steady: it runs; red: fault")[0]
    Lamp(which='run, green', how='steady', means='it runs')
    """
    found = []
    for entry in (part.strip() for part in text.split(";")):
        if not entry:
            continue
        lamp, colon, means = entry.partition(":")
        words = [word.strip() for word in lamp.split(",") if word.strip()]
        if not colon or not words or not means.strip():
            raise BadQuantity(later("{entry:quoted} says no lamp: write it as “green, steady: it runs”, the next after a semicolon.", entry=entry[:60]))  # fmt: skip
        how = words.pop() if len(words) > 1 and words[-1].casefold() in LAMP_STANDS else ""
        found.append(Lamp(", ".join(words), how.casefold(), means.strip()))
    return tuple(found)


def pump_controller(row: Row) -> Controller:
    """A controller of a pump: its row need not say so."""
    return controller({**row, "kind": "pump"})


def hose(row: Row) -> Hose:
    """A hose."""
    return Hose(
        **_Base(row),  # type: ignore[arg-type]
        nominal=row["nominal"],
        kind=row["kind"],
        inner_diameter_m=float(row["inner_diameter_mm"]) / 1000.0,
        roughness_m=float(row["roughness_mm"]) / 1000.0,
        rated_head_m=float(row["rated_head_m"]),
    )


def fitting(row: Row) -> Fitting:
    """A fitting."""
    return Fitting(**_Base(row), minor_loss_k=float(row["minor_loss_k"]), source=row["source"])  # type: ignore[arg-type]


def device(row: Row) -> Device:
    """A switch, relay, timer or connector."""
    coil_v, coil_ohm = _given(row, "coil_v"), _given(row, "coil_ohm")
    return Device(**_Base(row), kind=row["kind"], rating_a=float(row["rating_a"]), rating_v=float(row["rating_v"]), coil_v=coil_v, coil_ohm=coil_ohm)  # type: ignore[arg-type]  # fmt: skip


def tank(row: Row) -> TankUnit:
    """A tank or trough."""
    return TankUnit(**_Base(row), capacity_l=float(row["litres"]), depth_m=float(row["depth_m"]))  # type: ignore[arg-type]


def protector(row: Row) -> Protector:
    """A fuse or breaker."""
    kind = cast(Literal["fuse", "breaker"], row["kind"])
    return Protector(**_Base(row), kind=kind, rating_a=float(row["rating_a"]), rating_v=float(row["rating_v"]))  # type: ignore[arg-type]


def cable(row: Row) -> Cable:
    """Cable by the metre."""
    return Cable(**_Base(row), size=row["size"])  # type: ignore[arg-type]


def sundry(row: Row) -> Sundry:
    """What only a price list has."""
    return Sundry(**_Base(row), kind=row["kind"])  # type: ignore[arg-type]
