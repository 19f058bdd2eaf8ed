"""What a kit's visits have taught of it, as a change of its setup: the kit as it is, beside the kit as it was stated.

Only what gives water is changed. Fuses, cables and ratings are judged by the kit as stated: dirt on a panel is washed off one day.
"""

from collections.abc import Collection, Mapping
from dataclasses import dataclass, replace
from datetime import date
from math import sqrt
from typing import Literal

from squall.core.drive.motors import Motor
from squall.core.faults.sweep import OFF_BY
from squall.core.kit.changes import longer
from squall.core.kit.layout import Layout
from squall.core.kit.setup import Setup
from squall.core.upkeep.smoother import LEVELS
from squall.core.upkeep.states import STATES, WEARING
from squall.core.upkeep.wear import Estimate

# Offsets in the estimate's order: both cables, winding, amps, head, lift, two of the source.
_PUMP_CABLE, _WINDING, _AMPS, _HEAD, _LIFT, _SOURCE_A, _SOURCE_V = 1, 2, 3, 4, 5, 6, 7
# No offset is believed beyond so many standard deviations, as in the chain. [-]
_MOST_OFF = 2.5


Part = Literal["pump", "panel", "cable", "hose", "lift"]
# Which part each of a kit's learned figures tells of.
OF_PART: Mapping[Part, tuple[str, ...]] = {
    "pump": ("head_lost", "drag", "winding", "amps", "head", "flow_lost"), "panel": ("light_lost", "panel_a", "panel_v"),
    "cable": ("joint_ohm", "cable"), "hose": ("flow_lost",), "lift": ("lift_m",),
}  # fmt: skip


@dataclass(frozen=True)
class Learned:
    """What was learned of a kit.

    Attributes
    ----------
    light_lost, head_lost, flow_lost : float
        Shares, as :data:`squall.core.upkeep.states.STATES` has them. [-]
    joint_ohm : float
        More in the pump's run than stated. [ohm]
    drag : float
        Idle amps over those stated, in times of them. [-]
    cable, winding, amps, head, panel_a, panel_v : float
        Shares by which the kit was other than stated from its first day. [-]
    lift_m : float
        Likewise. [m]
    """

    light_lost: float = 0.0
    head_lost: float = 0.0
    flow_lost: float = 0.0
    joint_ohm: float = 0.0
    drag: float = 0.0
    cable: float = 0.0
    winding: float = 0.0
    amps: float = 0.0
    head: float = 0.0
    panel_a: float = 0.0
    panel_v: float = 0.0
    lift_m: float = 0.0


def of_same_parts(learned: Learned, same: Collection[Part]) -> Learned:
    """What was learned, as far as it tells of parts that are still the same.

    Parameters
    ----------
    learned : Learned
        Of a kit as it stood.
    same : collection of Part
        What of it is still the same.

    Returns
    -------
    Learned
        Nil where a part is another one: a new pump is not worn, a clean panel is not dirty. What never arrives goes with
        pump and hose.
    """
    gone = {name: 0.0 for part, names in OF_PART.items() if part not in same for name in names}
    return replace(learned, **gone)


def learned_of(found: Estimate, day: date) -> Learned:
    """What an estimate says of its kit on a day not before its last visit: the middle of what it thinks likely.

    Parameters
    ----------
    found : Estimate
        By all visits.
    day : date
        The day.
    """
    mean, _ = found.on(day)
    level = {state: min(max(float(mean[n]), 0.0), WEARING[state].most) for n, state in enumerate(STATES)}
    off = [min(max(float(value), -_MOST_OFF), _MOST_OFF) for value in mean[2 * LEVELS : -1]]
    sun = found.chain.array is not None
    return Learned(
        light_lost=level["panel-light-lost"] if sun else 0.0, head_lost=level["head-lost"] if found.chain.centrifugal else 0.0,
        flow_lost=level["flow-lost"], joint_ohm=level["joint-ohm"], drag=level["drag"], cable=OFF_BY["cable"] * off[_PUMP_CABLE],
        winding=OFF_BY["winding"] * off[_WINDING], amps=OFF_BY["amps"] * off[_AMPS], head=OFF_BY["head"] * off[_HEAD],
        panel_a=OFF_BY["panel_a"] * off[_SOURCE_A] if sun else 0.0, panel_v=OFF_BY["panel_v"] * off[_SOURCE_V] if sun else 0.0,
        lift_m=OFF_BY["lift_m"] * off[_LIFT],
    )  # fmt: skip


def as_learned(setup: Setup, learned: Learned) -> Setup:
    """A setup as it is by what was learned.

    Parameters
    ----------
    setup : Setup
        As stated.
    learned : Learned
        Of its kit.

    Returns
    -------
    Setup
        Motor and end worn, what never arrives lost at its valves, light lost on the panels, ohms grown, the lift as it was found to be.
    """
    kit, layout = setup.kit, setup.layout
    pump = replace(kit.pump, motor=worn_motor(kit.pump.motor, learned))
    panel = kit.panel
    if learned.light_lost or learned.panel_a or learned.panel_v:
        module = panel.module
        more = 1.0 + learned.panel_v
        panel = replace(
            panel,
            module=replace(
                module, voc_v=module.voc_v * more, vmp_v=module.vmp_v * more,
                light_share=(1.0 - learned.light_lost) * (1.0 + learned.panel_a),
            ),
        )  # fmt: skip
    stated_ohm = setup.cores_ohm
    cabling = replace(setup.cabling, joint_ohm=setup.cabling.joint_ohm + learned.joint_ohm + stated_ohm * learned.cable)
    # As the chain has it, on the head before any flow: whatever the run climbs over, and in a closed circuit too.
    pressure = layout.end_pressure_m + max(learned.lift_m, -layout.static_head_m)
    run = _as_if_all_came(replace(layout, end_pressure_m=pressure), 1.0 - learned.flow_lost)
    return Setup(replace(kit, pump=pump, panel=panel), run, cabling)


# How friction goes with flow in a smooth hose, turbulent (Blasius).
_BLASIUS = 1.75


def _as_if_all_came(layout: Layout, arrives: float) -> Layout:
    """A run that takes of the flow which arrives what the true one takes of the whole flow, most of which leaks at its end.

    With a motor whose points are of what arrives, each stands where the pump truly does: so a leak is a setup like any other.
    """
    if arrives >= 1.0:
        return layout
    run = longer(layout, arrives**-_BLASIUS)
    return replace(run, pieces=tuple(replace(one, minor_loss_k=one.minor_loss_k / arrives**2) for one in run.pieces))


def worn_motor(motor: Motor, learned: Learned) -> Motor:
    """A motor with its end as it is by what was learned.

    Notes
    -----
    As the chain of Fault has it: at a speed w a centrifugal end gives (1 + head) (1 - head_lost) psi w^2 of head and draws
    I0' + (1 + amps) tau w^2; the points move to where each then stands at rated volts, w + I R = V. Of its flow the share
    ``flow_lost`` never arrives, see :func:`_as_if_all_came`.
    """
    amps = 1.0 + learned.amps
    ohm = motor.resistance_ohm * (1.0 + learned.winding)
    idle = motor.no_load_a * (amps * (2.0 + learned.drag) - 1.0)
    head_share = (1.0 + learned.head) * (1.0 - learned.head_lost)
    arrives = 1.0 - learned.flow_lost
    points = []
    for (flow, head, drawn), speed in zip(motor.points, motor.speeds, strict=True):
        if motor.kind == "displacement":
            now_a = (drawn - motor.no_load_a) * amps + idle
            now = max(motor.rated_v - now_a * ohm, 1e-6)
            points.append((arrives * flow / speed * (1.0 + learned.head) * now, head * (1.0 + learned.head), now_a))
            continue
        slope = (drawn - motor.no_load_a) / speed**2 * amps * ohm
        spare = max(motor.rated_v - idle * ohm, 1e-6)
        now = (sqrt(1.0 + 4.0 * slope * spare) - 1.0) / (2.0 * slope) if slope > 0.0 else spare
        torque_a = (drawn - motor.no_load_a) / speed**2 * amps * now**2
        points.append((arrives * flow / speed * now, head * (now / speed) ** 2 * head_share, idle + torque_a))
    return replace(motor, points=tuple(points), resistance_ohm=ohm, no_load_a=max(idle, 0.0))
