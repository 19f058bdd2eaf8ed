"""Cables, fuse and stall of a kit."""

from dataclasses import dataclass

from squall.core.electrics.conductors import CableChoice, Conductor, rate
from squall.core.electrics.protection import LoopPart, Protection, protect, stall_current
from squall.core.kit.kit import Kit
from squall.core.kit.layout import Layout
from squall.core.kit.parts import Device
from squall.core.kit.setup import CONDUCTOR_C, design_current_a, pump_run_m, table_for
from squall.core.kit.supply import Banked
from squall.core.reason import Spoken
from squall.job.document.job import Job
from squall.job.worked.kit import KitAssessment
from squall.words import Message, later


@dataclass(frozen=True)
class CableRun:
    """One run of cable with its figures: drop at `drop_a` of `volts_v`, ampacity for `amps_a`."""

    key: str
    name: Spoken
    volts_v: float
    drop_a: float
    amps_a: float
    one_way_m: float
    choice: CableChoice
    within_drop: bool
    within_ampacity: bool


@dataclass(frozen=True)
class Wiring:
    """Both runs, the protection, and whether the source can push a stall current at all."""

    runs: tuple[CableRun, ...]
    protection: Protection
    continuous_a: float
    source_limited: bool
    string_fuse_needed: bool
    open_cold_v: float


def wiring_of(job: Job, chosen: KitAssessment, devices: tuple[Device, ...]) -> Wiring:
    """Cables, fuse and stall of a kit.

    Parameters
    ----------
    job : Job
        For drop allowed and kind of protection.
    chosen : KitAssessment
        The kit.
    devices : tuple[Device, ...]
        In the pump's loop.

    Returns
    -------
    Wiring
        One or two runs and the protection of the pump's loop.
    """
    kit, layout, cabling, season = chosen.kit, chosen.layout, chosen.cabling, chosen.season
    design = design_current_a(kit, table_for(kit.pump.motor, layout.line(kit.hose)))
    running = max(season.most_motor_a, design)
    metres = pump_run_m(kit, layout)
    runs = [_run("pump", _pump_run_name(kit), job, (kit.system_v, design, running), metres, cabling.pump, layout)]
    if cabling.array is not None:
        module = kit.panel.module
        load = (module.vmp_v * kit.in_series, module.imp_a * kit.in_parallel, module.isc_a * kit.in_parallel)
        runs.append(_run("array", later("panel to box"), job, load, layout.array_cable_m, cabling.array, layout))
    motor = kit.pump.motor
    source_limited = not isinstance(kit.supply, Banked)
    if source_limited:
        array_short = kit.panel.module.isc_a * kit.in_parallel
        free = motor.rated_v / max(motor.resistance_ohm + runs[0].choice.resistance_ohm, 1e-6)
        stall = min(array_short, free) if kit.controller is None else min(kit.controller.max_a, free)
    else:
        stall = stall_current(kit.bank_v, kit.bank_ohm + runs[0].choice.resistance_ohm, motor.resistance_ohm)
    protection = protect(
        running,
        runs[0].choice.ampacity_a,
        tuple(LoopPart(device.name, device.rating_a) for device in devices),
        stall,
        job.protection,
        kit.pump.max_fuse_a,
    )
    return Wiring(
        tuple(runs), protection, running, source_limited, kit.in_parallel >= 3, kit.open_cold_v(layout.record_low_c)
    )


def _pump_run_name(kit: Kit) -> Message:
    return {
        "panel": later("panel to pump"),
        "controller": later("controller to pump"),
        "battery": later("battery to pump"),
    }[kit.source]


def _run(
    key: str, name: Spoken, job: Job, load: tuple[float, float, float], metres: float, size: Conductor, layout: Layout
) -> CableRun:
    volts, drop_a, amps = load
    choice = rate(size, volts, drop_a, metres, layout.ambient_c, CONDUCTOR_C)
    within_drop = choice.drop_fraction <= job.max_drop.si * 1.0001
    return CableRun(key, name, volts, drop_a, amps, metres, choice, within_drop, amps <= choice.ampacity_a)
