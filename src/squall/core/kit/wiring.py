"""How a kit is wired: its runs of cable, what protects them, and whatever must be mended before it is joined.

One judgement for all: the ranking offers nothing that the page of cables condemns. A conductor that panels can feed bears
1.25 times their short-circuit amps, which light above 1000 W/m2 brings for hours (NEC 690.8(A)(1), from memory), and no
conductor bears less than the fuse that protects it (NEC 240.4 and 690.9, from memory); outdoors none is thinner than
1.5 mm2 (common practice, no source).
"""

from dataclasses import dataclass, replace

import numpy as np

from squall.core.electrics.conductors import (
    CableChoice,
    Conductor,
    ampacity_in,
    rate,
)
from squall.core.electrics.protection import (
    CONTINUOUS_FACTOR,
    Protection,
    fitted,
    next_rating,
    protect,
    stall_current,
    volts_problems,
)
from squall.core.electrics.splices import SPLICES
from squall.core.kit.cabling import (
    LEAST_MM2,
    OVER_SUN,
    Bars,
    Rules,
    array_run_bears_a,
    bars_of,
    charging_most_a,
    pump_run_bears_a,
    short_a,
    thinnest,
)
from squall.core.kit.kit import Kit
from squall.core.kit.layout import CablePiece, Layout
from squall.core.kit.relays import coil_problems
from squall.core.kit.setup import (
    CONDUCTOR_C,
    Setup,
    design_current_a,
    loop_open_v,
    own_m,
    own_ohm,
    pieces_of,
    pump_run_m,
)
from squall.core.kit.supply import Banked, Controlled, Direct
from squall.core.reason import Reason, Told

# Of a charger's volts, what its short lead to the bank may lose: common practice, no source. [-]
CHARGE_LEAD_DROP = 0.02


@dataclass(frozen=True)
class CableRun:
    """One run of cable with its figures, or a piece of it that is of other cable: drop at `drop_a` of `volts_v`; `amps_a` is the
    most that runs, `bears_a` what it must bear; `of` the run it belongs to, `whole_drop` the share lost on all of that, `rule` by what it must bear so much.
    """

    key: str
    name: Reason
    volts_v: float
    drop_a: float
    amps_a: float
    bears_a: float
    one_way_m: float
    choice: CableChoice
    within_drop: bool
    of: str = ""
    whole_drop: float = 0.0
    rule: str = ""

    @property
    def within_ampacity(self) -> bool:
        """Whether it bears what it must."""
        return self.bears_a <= self.choice.ampacity_a * 1.0001

    @property
    def thick_enough(self) -> bool:
        """Whether it stands a life outdoors."""
        return self.choice.conductor.area_mm2 >= LEAST_MM2 - 1e-9


@dataclass(frozen=True)
class Wiring:
    """All runs, the protection, whether the source can push a stall current at all, and what is made for too few volts.

    `loop_v` is the highest that stands in the pump's loop, `open_cold_v` that of the panels on the coldest morning. [V]
    `stall_heat` is how many times the heat of running the motor's winding takes standing; None from a bank. [-]
    `charge_fuse_a` and `string_fuse_a` belong to the charger's lead and to each of three or more strings; `stem_a` is what
    the last Y-lead must bear on the one plug behind its two. [A]
    """

    runs: tuple[CableRun, ...]
    protection: Protection
    continuous_a: float
    source_limited: bool
    string_fuse_needed: bool
    open_cold_v: float
    loop_v: float = 0.0
    volts_problems: tuple[Told, ...] = ()
    stall_heat: float | None = None
    charge_fuse_a: float | None = None
    string_fuse_a: float | None = None
    string_problems: tuple[Told, ...] = ()
    fitted_problems: tuple[Told, ...] = ()
    bars: Bars | None = None
    before_problems: tuple[Told, ...] = ()
    splice_problems: tuple[Told, ...] = ()
    stem_a: float | None = None

    @property
    def charge_lead(self) -> CableRun | None:
        """The lead from the charger to its bank; None where there is none."""
        return next((run for run in self.runs if run.key == "charge"), None)

    @property
    def problems(self) -> tuple[Told, ...]:
        """Whatever must be mended before this is joined: one list for every page and for the ranking."""
        hot = tuple(
            Reason("cable-too-thin-for-amps", name=run.name, amps=run.bears_a, bears=run.choice.ampacity_a)
            for run in self.runs
            if not run.within_ampacity
        )
        thin = tuple(
            Reason("cable-too-thin-outdoors", name=run.name, size=run.choice.conductor.label,
                   least="1.5 mm²" if run.choice.conductor.standard == "metric" else "AWG 14")
            for run in self.runs
            if not run.thick_enough
        )  # fmt: skip
        unfused = () if self.protection.rating_a is not None else self.protection.problems[:1]
        bars = () if self.bars is None else self.bars.problems
        return (
            *self.volts_problems, *self.before_problems, *self.splice_problems, *hot, *thin, *self.string_problems, *self.fitted_problems, *bars, *unfused,
        )  # fmt: skip


def wiring_of(setup: Setup, rules: Rules, most_motor_a: float) -> Wiring:
    """Cables, fuse and stall of a kit.

    Parameters
    ----------
    setup : Setup
        The kit on its line with its cables.
    rules : Rules
        Drop allowed, kind of protection, what is in the loop.
    most_motor_a : float
        Highest running current of the year. [A]

    Returns
    -------
    Wiring
        One to three runs and the protection of the pump's loop.
    """
    kit, layout, cabling = setup.kit, setup.layout, setup.cabling
    design, motor = design_current_a(kit, setup.table), kit.pump.motor
    running = max(setup.table.peaks(motor.rated_v, most_motor_a, 0.0)[0], design)
    bears = pump_run_bears_a(kit, running, rules.kind)
    in_pump, in_array = pieces_of(kit, layout, "pump"), pieces_of(kit, layout, "array")
    pump, *pump_pieces = _runs("pump", Reason(f"run-{kit.source}-to-pump"), (kit.system_v, design, running, bears),
                               (pump_run_m(kit, layout), cabling.pump, in_pump), layout, rules)  # fmt: skip
    runs, array_pieces = [pump], list[CableRun]()
    if cabling.array is not None:
        volts, amps = kit.panel.module.vmp_v * kit.in_series, kit.panel.module.imp_a * kit.in_parallel
        load = (volts, amps, short_a(kit), array_run_bears_a(kit, rules.kind))
        array, *array_pieces = _runs(
            "array", Reason("run-panel-to-box"), load, (layout.array_cable_m, cabling.array, in_array), layout, rules
        )
        runs.append(array)
    charge_fuse = None
    if isinstance(kit.supply, Banked):
        lead, charge_fuse = charge_lead(kit, rules, layout.ambient_c)
        runs.append(lead)
    pump_bears = _bears_least([pump, *pump_pieces])
    stall, heat = stall_of(kit, own_ohm(cabling.pump, pump_run_m(kit, layout), in_pump), running)
    free = kit.bank_v / (kit.bank_ohm + motor.resistance_ohm) if heat is None else 0.0
    if kit.switched_ahead:
        # On the panels' side: they give no more in a stall than at any time, and the motor's maker means another fuse.
        stall = short_a(kit)
        protection = protect(
            OVER_SUN * stall,
            _bears_least(runs[1:] + array_pieces),
            rules.in_loop(kit),
            stall,
            rules.kind,
            free_stall_a=free,
        )
    else:
        protection = protect(
            running + rules.coil_a, pump_bears, rules.in_loop(kit), stall, rules.kind, kit.pump.max_fuse_a, free_stall_a=free
        )  # fmt: skip
    if cabling.fuse_a is not None:
        protection = fitted(protection, cabling.fuse_a, rules.kind, free_stall_a=free)
    loop_v = loop_open_v(kit, layout.record_low_c)
    seen = (*rules.in_loop(kit), *(() if rules.coil is None else rules.coil.pilots))
    weak = (
        *volts_problems(seen, loop_v),
        *coil_problems(kit, rules.coil),
        *_protector_problem(protection.rating_a, rules, loop_v),
    )
    if kit.switched_ahead:
        runs, pump_pieces, array_pieces = (
            [replace(run, rule=f"{run.of}-of-three") for run in some] for some in (runs, pump_pieces, array_pieces)
        )
    return Wiring(
        (*runs, *pump_pieces, *array_pieces), protection, running, heat is not None, kit.in_parallel >= 3, kit.open_cold_v(layout.record_low_c),
        loop_v, weak, heat, charge_fuse, string_fuse_a(kit), string_problems(kit),
        _unfit(protection, cabling.fuse_a), bars_of(kit, rules, running, layout.ambient_c), before_problems(kit, rules, layout.record_low_c),
        splice_problems(kit, rules), stem_a(kit),
    )  # fmt: skip


def before_problems(kit: Kit, rules: Rules, record_low_c: float) -> tuple[Told, ...]:
    """What on the panels' side stands less than they give, in amps or on the coldest morning [°C] in volts, each in a sentence.

    Straight on the pump these stand in its loop, and are judged there.
    """
    if isinstance(kit.supply, Direct) or kit.switched_ahead or not rules.before:
        return ()
    most = OVER_SUN * short_a(kit)
    small = tuple(
        Reason("part-too-small-for-panels", name=part.name, stands=part.rating_a, amps=most)
        for part in rules.before
        if part.rating_a < most
    )
    return (*small, *volts_problems(rules.before, kit.open_cold_v(record_low_c)))


def splice_problems(kit: Kit, rules: Rules) -> tuple[Told, ...]:
    """That a joint under water is made as none lasts there, if so."""
    wet = kit.pump.placement != "surface"
    return (Reason("clips-under-water"),) if wet and SPLICES[rules.splice].under_water == "never" else ()


def _unfit(protection: Protection, fitted_a: float | None) -> tuple[Told, ...]:
    """That the fuse which is fitted is too large for its loop, or too small for its pump, if so."""
    wrong = fitted_a is not None and not protection.least_a <= fitted_a <= protection.most_a
    return protection.problems if wrong else ()


def string_fuse_a(kit: Kit) -> float | None:
    """Fuse of each string where three or more feed one another's fault: 1.25 x 1.25 x its short-circuit amps, rounded up. [A]

    NEC 690.8 and 690.9, from memory. None for one string or two.
    """
    return next_rating("fuse", OVER_SUN * OVER_SUN * kit.panel.module.isc_a) if kit.in_parallel >= 3 else None


def stem_a(kit: Kit) -> float | None:
    """What the last Y-lead's stem must bear: all strings' short-circuit amps in more than full sun; None for one string. [A]"""
    return OVER_SUN * short_a(kit) if kit.in_parallel > 1 else None


def string_problems(kit: Kit) -> tuple[Told, ...]:
    """That no fuse is both large enough for a string's own amps and small enough for its panels, if so."""
    fuse, most = string_fuse_a(kit), kit.panel.max_series_fuse_a
    if kit.in_parallel < 3 or (fuse is not None and fuse <= most):
        return ()
    least = OVER_SUN * OVER_SUN * kit.panel.module.isc_a
    return (Reason("no-string-fuse-fits", strings=kit.in_parallel, least=least, most=most),)


def stall_of(kit: Kit, cable_ohm: float, running_a: float) -> tuple[float, float | None]:
    """Amps through a motor that stands [A], and from panels the heat in its winding over that of running. [-]

    Panels push no more than their short-circuit amps, so no fuse of the loop's sees a stall: the winding's I2R says what
    it does to the motor, which stands still and has no water to cool it.
    """
    motor, ohm = kit.pump.motor, cable_ohm
    match kit.supply:
        case Banked():
            return stall_current(kit.bank_v, kit.bank_ohm + ohm, motor.resistance_ohm), None
        case Controlled():
            most = kit.supply.controller.max_a
        case _:
            most = short_a(kit)
    stall = min(most, motor.rated_v / max(motor.resistance_ohm + ohm, 1e-6))
    return stall, (stall / running_a) ** 2 if running_a > 0.0 else 1.0


def charge_lead(kit: Kit, rules: Rules, ambient_c: float) -> tuple[CableRun, float | None]:
    """The lead from charger to bank, as thin as may be, and its own fuse [A] at the bank's post."""
    assert isinstance(kit.supply, Banked)
    amps = charging_most_a(kit)
    fuse = next_rating("fuse", CONTINUOUS_FACTOR * amps)
    bears = fuse or CONTINUOUS_FACTOR * amps
    size = thinnest(kit.bank_v, amps, bears, rules.charge_lead_m, rules, ambient_c, CHARGE_LEAD_DROP)
    load = (kit.bank_v, amps, amps, bears)
    return _run(
        "charge", Reason("run-charger-to-bank"), load, rules.charge_lead_m, size, ambient_c, CHARGE_LEAD_DROP
    ), fuse


def _run(
    key: str, name: Reason, load: tuple[float, float, float, float], metres: float, size: Conductor, ambient_c: float,
    max_drop: float,
) -> CableRun:  # fmt: skip
    volts, drop_a, amps, bears = load
    choice = rate(size, volts, drop_a, metres, ambient_c, CONDUCTOR_C)
    within = choice.drop_fraction <= max_drop * 1.0001
    return CableRun(key, name, volts, drop_a, amps, bears, metres, choice, within, key, choice.drop_fraction)


def _bears_least(runs: list[CableRun]) -> float:
    """What the weakest piece of a run bears: its fuse guards that. Where the heat leaves it nothing, next to nothing. [A]"""
    return max(min(run.choice.ampacity_a for run in runs), 1e-3)


def _runs(
    key: str, name: Reason, load: tuple[float, float, float, float], laid: tuple[float, Conductor, tuple[CablePiece, ...]],
    layout: Layout, rules: Rules,
) -> list[CableRun]:  # fmt: skip
    """A run, and its pieces of other cable behind it: each bears what the run must, all together lose no more than is allowed."""
    metres, size, pieces = laid
    found = [_run(key, name, load, own_m(metres, pieces), size, layout.ambient_c, rules.max_drop)]
    for number, piece in enumerate(pieces, start=1):
        warm = layout.ambient_c if piece.ambient_c is None else piece.ambient_c
        named = Reason("piece-of-run", number=number, run=name)
        found.append(_run(f"{key}-{number}", named, load, piece.length_m, piece.conductor, warm, rules.max_drop))
    lost = sum(run.choice.drop_fraction for run in found)
    within = lost <= rules.max_drop * 1.0001
    return [replace(run, of=key, whole_drop=lost, within_drop=within) for run in found]


def _protector_problem(rating_a: float | None, rules: Rules, loop_v: float) -> tuple[Told, ...]:
    """That no fuse or breaker of the rating there is parts so many volts, if so."""
    made = None if rating_a is None else rules.protector_v.get(rating_a)
    if made is None or made >= loop_v:
        return ()
    other = Reason("a-breaker") if rules.kind == "fuse" else Reason("a-fuse")
    return (
        Reason("protector-made-for-fewer-volts", kind=rules.kind, rating=rating_a, made=made, loop=loop_v, other=other),
    )


def wiring_refusal(setup: Setup, rules: Rules, most_motor_a: float) -> Told | None:
    """The first thing to be mended before a kit with the cables of :func:`choose_cabling` is joined, at its most amps [A]; or None.

    As :func:`wiring_of` has it (tested), asked of every kit of a catalogue: most have nothing, which is seen quickly.
    """
    kit, layout = setup.kit, setup.layout
    loop_v = loop_open_v(kit, layout.record_low_c)
    running = max(setup.table.peaks(kit.pump.motor.rated_v, most_motor_a, 0.0)[0], design_current_a(kit, setup.table))
    rating = next_rating(rules.kind, CONTINUOUS_FACTOR * (running + rules.coil_a))
    bears = min(
        ampacity_in(size, warm)
        for size, warm in (
            (setup.cabling.pump, layout.ambient_c),
            *(
                (one.conductor, layout.ambient_c if one.ambient_c is None else one.ambient_c)
                for one in pieces_of(kit, layout, "pump")
            ),
        )
    )
    weakest = min([bears, kit.pump.max_fuse_a or np.inf, *(part.rating_a for part in rules.in_loop(kit))])
    seen = (*rules.in_loop(kit), *(() if rules.coil is None else rules.coil.pilots))
    weak = (
        any(part.rating_v is not None and part.rating_v < loop_v for part in seen)
        or bool(coil_problems(kit, rules.coil))
        or bool(before_problems(kit, rules, layout.record_low_c))
        or ((bars := bars_of(kit, rules, running, layout.ambient_c)) is not None and bool(bars.problems))
        or kit.switched_ahead
        or bool(layout.cable_pieces)
        or bool(splice_problems(kit, rules))
    )
    fits = rating is not None and rating <= weakest and not weak and not string_problems(kit)
    if fits and not _protector_problem(rating, rules, loop_v):
        return None
    problems = wiring_of(setup, rules, most_motor_a).problems
    return problems[0] if problems else None
