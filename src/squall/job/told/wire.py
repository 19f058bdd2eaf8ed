"""What Wire tells: cables, fuse, stall."""

from squall.core.electrics.conductors import TABLE_AIR_C
from squall.core.electrics.protection import SOON_S, Protection
from squall.core.explain import Figure, Input
from squall.core.kit.cabling import OVER_SUN
from squall.core.kit.parts import Device
from squall.core.kit.relays import COMMANDS, Coil, coil_problems
from squall.core.kit.setup import CONDUCTOR_C
from squall.core.kit.supply import Controlled
from squall.core.kit.wiring import CableRun, Wiring
from squall.job.told.finding import Finding
from squall.job.told.store import float_findings
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.job.worked.resolve import devices_of, loop_of
from squall.words import N_, Message, later, say, say_n

_DROP_WORDS = {
    "pump": later("amps at rated volts"),
    "array": later("best amps of the panels"),
    "charge": later("most that the charger gives"),
}
_AMPS_WORDS = {
    "pump": (later("most in any half hour of the year"), later("the drive")),
    "array": (later("short-circuit amps x strings"), later("panel's nameplate")),
    "charge": (
        later("a tracking charger's rating; 1.25 x short-circuit amps through a switching one"),
        later("nameplates"),
    ),
}
_BEARS_WORDS = {
    "pump": later("its fuse, from 1.25 x most amps up; where panels feed it straight, no less than 1.25 x their short-circuit amps"),
    "array": later("1.25 x short-circuit amps x strings: light runs above full sun for hours"),
    "charge": later("its own fuse, from 1.25 x most amps up"),
    "pump-of-three": later("all that its controller gives: with three wires no fuse stands behind that"),
    "array-of-three": later("its fuse, from 1.25 x 1.25 x short-circuit amps x strings up: it stands before the controller"),
}  # fmt: skip


# A relay wants this many times the amps of today: worn pumps draw more, and larger ones follow. Common practice, no source. [-]
ROOM = 2.0


def opens_words(found: Protection) -> Message:
    """Whether a stalled pump opens its fuse or breaker, and in what time."""
    if found.rating_a is None or found.opens_s is None:
        return later("no, maybe never")
    if found.opens_s <= 5.0:
        return later("yes, within seconds")
    if found.opens_s <= SOON_S:
        return later("yes, within a minute")
    return later("only within {minutes} minutes: too late", minutes=round(found.opens_s / 60.0))


def run_figures(run: CableRun) -> list[Figure]:
    """Amps, drop, ampacity, resistance of one run of cable."""
    choice = run.choice
    size = Input(say("size"), choice.conductor.label, "text")
    length = Input(say("one way"), run.one_way_m, "length")
    amps = Input(_DROP_WORDS[run.of], run.drop_a, "amps")
    return [
        Figure(f"{run.key}-amps", say("Most amps"), run.amps_a, "amps", (amps,), *_AMPS_WORDS[run.of]),
        Figure(f"{run.key}-bears", say("Must bear"), run.bears_a, "amps", (Input(say("most amps"), run.amps_a, "amps"),),
               _BEARS_WORDS[run.rule or run.of], say("1.25 x short-circuit amps: NEC 690.8(A)(1); never under its fuse: NEC 240.4; both from memory")),
        Figure(f"{run.key}-drop", say("Drop, there and back"), choice.drop_fraction, "share",
               (size, length, amps, Input(say("resistance"), choice.resistance_ohm, "ohms"), Input(say("volts"), run.volts_v, "volts")),
               say("amps x 2 x length x ohms a length, copper at {warm:temperature}, over volts", warm=CONDUCTOR_C),
               say("IEC 60228 class 5 (mm²) or ASTM B258 with copper at 1/58 (AWG)")),
        Figure(f"{run.key}-drop-volts", say("Volts lost"), choice.drop_v, "volts", (size, length, amps), "I x R",
               say("Ohm's law")),
        Figure(f"{run.key}-ampacity", say("Ampacity in the heat"), choice.ampacity_a, "amps",
               (size, Input(say("at {air:temperature}", air=TABLE_AIR_C), choice.conductor.ampacity_30c_a, "amps")),
               say("table at {air:temperature} x factor for the air around it", air=TABLE_AIR_C), choice.conductor.ampacity_source),
        Figure(f"{run.key}-ohm", say("Resistance of the loop"), choice.resistance_ohm, "ohms",
               (size, length, Input(say("copper"), CONDUCTOR_C, "temperature")), say("2 x length x ohms a length"), say("IEC 60228 / ASTM B258")),
    ]  # fmt: skip


def wiring_cautions(a: Assessment) -> list[Finding]:
    """What must be mended before the chosen kit is joined: told on every page of the job, under the verdict."""
    if a.wiring is None or a.chosen is None or not a.wiring.problems:
        return []
    head = say_n("One thing is not safe to join yet", "{n} things are not safe to join yet", len(a.wiring.problems))
    return [Finding("bad", later("{head}, see Wire.", head=head), a.wiring.problems)]


_NOT_HERE = N_(
    "A {contact} is set under Tank and battery, but none stands in the pump's loop: nobody checks that it bears the amps and volts."
)
_PUT_IN = later("put the one that is bought into the loop, under Wire")


def contact_findings(a: Assessment, chosen: KitAssessment) -> list[Finding]:
    """What the store has start and stop the pump, and the loop has no contact for; and the other way round."""
    kinds = {device.kind for device in devices_of(a.job, a.parts)}
    asks = chosen.kit.supply.controller.asks if isinstance(chosen.kit.supply, Controlled) else ()
    # On its controller's own input a float carries no pump.
    found = [] if "float" in asks and "float switch" not in kinds else float_findings(a.job)
    if chosen.layout.switch is not None and "pressure switch" not in kinds:
        found.append(Finding("care", later(_NOT_HERE, contact=later("pressure switch")), (_PUT_IN,)))
    if "pressure switch" in kinds and chosen.layout.switch is None:
        found.append(
            Finding("care", later("A pressure switch stands in the loop, but at what pressure it starts and stops the pump is not said: its litres are worked as if it never opened."),
                    (later("say its cut-in and its cut-out under Tank and battery"),))
        )  # fmt: skip
    if a.job.bank.timer and chosen.kit.battery is not None and "timer" not in kinds:
        found.append(Finding("care", later(_NOT_HERE, contact=later("timer")), (_PUT_IN,)))
    return found


def relays_for(a: Assessment, chosen: KitAssessment) -> dict[str, Device]:
    """For each switch that is small for the pump's amps, the cheapest relay that could carry it in its place, with room for growth."""
    loop, wiring = loop_of(a.job, a.parts), a.wiring
    kit = chosen.kit
    if wiring is None or loop.pilots or kit.battery is None:
        return {}
    wanted = ROOM * wiring.continuous_a
    fit = [
        relay
        for relay in a.parts.devices.values()
        if relay.kind == "relay" and relay.coil_v is not None and relay.coil_a is not None and relay.rating_a >= wanted
        and relay.rating_v >= wiring.loop_v and not coil_problems(kit, Coil(relay.name, relay.coil_v, relay.coil_a, ()))
    ]  # fmt: skip
    if not fit:
        return {}
    best = min(fit, key=lambda relay: relay.price)
    return {one.id: best for one in loop.carries if one.kind in COMMANDS and one.rating_a < wanted and one.rating_a >= (best.coil_a or 0.0)}  # fmt: skip


def protection_figures(wiring: Wiring) -> list[Figure]:
    """Rating, its bounds, and the stall current."""
    found = wiring.protection
    reasons = tuple(
        Input(say("reason {number}", number=n), reason, "text") for n, reason in enumerate(found.reasons, start=1)
    )
    return [
        Figure("fuse", say("Rating"), found.rating_a, "amps",
               (Input(say("continuous"), wiring.continuous_a, "amps"), Input(say("weakest in the loop"), found.weakest, "text"),
                Input(say("which stands"), found.most_a, "amps"), *reasons),
               say("smallest standard rating from 1.25 x continuous amps up, not above the weakest part"),
               say("ratings: ISO 8820-3 (fuse), IEC 60947-2 (breaker), from memory; 1.25: common practice, no source")),
        Figure("loop-volts", say("Most volts in the pump's loop"), wiring.loop_v, "volts",
               (Input(say("panels open on the coldest morning"), wiring.open_cold_v, "volts"),),
               say("panels straight on the pump: their open volts in the record cold; behind a controller: the most it gives; a bank: 1.2 times its name"),
               say("nameplate; charging volts: common practice, no source")),
        Figure("stall", say("A stalled pump draws"), found.stall_current_a, "amps",
               (Input(say("source can't push more than its own short-circuit amps"), "yes" if wiring.source_limited else "no",
                      "text"),
                Input(say("loop"), sum(run.choice.resistance_ohm for run in wiring.runs if run.of == "pump"), "ohms")),
               say("source volts / (source + cable + winding), and no more than the panels' short-circuit amps"),
               say("Ohm's law")),
        *_more_figures(wiring),
    ]  # fmt: skip


def _more_figures(wiring: Wiring) -> list[Figure]:
    found = []
    if wiring.stall_heat is not None:
        found.append(
            Figure("stall-heat", say("Heat of standing over running"), wiring.stall_heat, "number",
                   (Input(say("a stalled pump draws"), wiring.protection.stall_current_a, "amps"), Input(say("running"), wiring.continuous_a, "amps")),
                   say("(standing amps / running amps)², the winding's I²R over that of running; and no water cools it"), say("Ohm's law"))
        )  # fmt: skip
    if wiring.charge_fuse_a is not None and wiring.charge_lead is not None:
        found.append(
            Figure("charge-fuse", say("Fuse of the charger's lead"), wiring.charge_fuse_a, "amps",
                   (Input(say("most that the charger gives"), wiring.charge_lead.amps_a, "amps"),),
                   say("smallest standard rating from 1.25 x up, at the battery's positive post"), say("ratings: ISO 8820-3, from memory; 1.25: common practice, no source"))
        )  # fmt: skip
    if wiring.bars is not None and wiring.bars.main.fuse_a is not None:
        found.append(
            Figure("main-fuse", say("Main fuse"), wiring.bars.main.fuse_a, "amps",
                   (Input(say("all that runs at once"), wiring.bars.main.amps_a, "amps"),),
                   say("smallest standard rating from 1.25 x up: pump at its most, relay's coil, every other load"),
                   say("ratings: ISO 8820-3, from memory; 1.25: common practice, no source"))
        )  # fmt: skip
    if wiring.stem_a is not None:
        found.append(
            Figure("y-lead-stem", say("Least that the Y-leads are made for"), wiring.stem_a, "amps",
                   (Input(say("short-circuit amps of all strings"), wiring.stem_a / OVER_SUN, "amps"),),
                   say("1.25 x that: the last one's stem carries them all"),
                   say("NEC 690.8, from memory"))
        )  # fmt: skip
    if wiring.string_fuse_a is not None:
        found.append(
            Figure("string-fuse", say("Fuse of each string"), wiring.string_fuse_a, "amps", (),
                   say("smallest standard rating from 1.56 x one string's short-circuit amps up; no more than the panel's label allows"),
                   say("NEC 690.8 and 690.9, from memory"))
        )  # fmt: skip
    return found
