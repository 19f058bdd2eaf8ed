"""Cables, fuse and stall of a kit."""

from dataclasses import dataclass

from squall.core.electrics.conductors import CableChoice, Conductor, rate
from squall.core.electrics.protection import LoopPart, Protection, protect, stall_current, volts_problems
from squall.core.kit.kit import Kit
from squall.core.kit.layout import Layout
from squall.core.kit.parts import Device, Protector
from squall.core.kit.setup import CONDUCTOR_C, design_current_a, loop_open_v, pump_run_m, table_for
from squall.core.kit.supply import Banked
from squall.core.reason import Spoken, Told
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
    """Both runs, the protection, whether the source can push a stall current at all, and what is made for too few volts.

    `loop_v` is the highest that stands in the pump's loop. [V]
    """

    runs: tuple[CableRun, ...]
    protection: Protection
    continuous_a: float
    source_limited: bool
    string_fuse_needed: bool
    open_cold_v: float
    loop_v: float = 0.0
    volts_problems: tuple[Told, ...] = ()

    @property
    def problems(self) -> tuple[Told, ...]:
        """Whatever must be mended before this is joined: one list for every page."""
        hot = tuple(
            later("the cable {name} carries {amps:amps} and bears {bears:amps} in this heat", name=run.name, amps=run.amps_a,
                  bears=run.choice.ampacity_a)
            for run in self.runs
            if not run.within_ampacity
        )  # fmt: skip
        unfused = () if self.protection.rating_a is not None else self.protection.problems[:1]
        return (*self.volts_problems, *hot, *unfused)


def wiring_of(
    job: Job, chosen: KitAssessment, devices: tuple[Device, ...], protectors: tuple[Protector, ...] = ()
) -> Wiring:
    """Cables, fuse and stall of a kit.

    Parameters
    ----------
    job : Job
        For drop allowed and kind of protection.
    chosen : KitAssessment
        The kit.
    devices : tuple[Device, ...]
        In the pump's loop.
    protectors : tuple[Protector, ...]
        Fuses and breakers there are.

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
    loop = tuple(LoopPart(device.name, device.rating_a, device.rating_v) for device in devices)
    protection = protect(
        running,
        runs[0].choice.ampacity_a,
        loop,
        stall,
        job.protection,
        kit.pump.max_fuse_a,
    )
    open_cold, loop_v = kit.open_cold_v(layout.record_low_c), loop_open_v(kit, layout.record_low_c)
    weak = (*volts_problems(loop, loop_v), *_protector_problem(protection.rating_a, job.protection, protectors, loop_v))
    return Wiring(tuple(runs), protection, running, source_limited, kit.in_parallel >= 3, open_cold, loop_v, weak)


def _protector_problem(
    rating_a: float | None, kind: str, protectors: tuple[Protector, ...], loop_v: float
) -> tuple[Told, ...]:
    """That no fuse or breaker of the rating there is parts so many volts, if so."""
    sized = [p for p in protectors if p.kind == kind and p.rating_a == rating_a]
    if rating_a is None or not sized or max(p.rating_v for p in sized) >= loop_v:
        return ()
    made = max(p.rating_v for p in sized)
    other = later("a breaker") if kind == "fuse" else later("a fuse")
    return (
        later("the {kind} of {rating:amps} is made for {made:volts} DC, and {loop:volts} stand here: {other} or one made for panels",
              kind=kind, rating=rating_a, made=made, loop=loop_v, other=other),
    )  # fmt: skip


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
