"""Why the chosen kit is not to be joined or fitted as it is: said wherever somebody would begin to."""

from squall.core.reason import Spoken
from squall.job.wired.live import LiveCircuit
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.words import later

# What opens by itself is told of elsewhere.
GUARDS = ("fuse", "breaker", "string-fuse", "main-fuse", "load-fuse")


def not_yet(a: Assessment, chosen: KitAssessment) -> tuple[Spoken, ...]:
    """What speaks against joining the kit at all; empty where nothing does."""
    refused = () if chosen.refusal is None else (chosen.refusal,)
    unsafe = () if a.wiring is None else a.wiring.problems
    return (*refused, *unsafe)


def too_much_now(live: LiveCircuit, chosen: KitAssessment) -> tuple[Spoken, ...]:
    """What stands more than its maker allows in the light of now: the motor's volts, a controller's input, anything's amps."""
    found: list[Spoken] = []
    motor, most = live.part("motor"), chosen.kit.pump.motor.max_v
    across = abs(motor.across_v or 0.0)
    if most is not None and across > most:
        found.append(
            later("The pump stands at {across:volts} here; its maker allows {most:volts}.", across=across, most=most)
        )
    controller = chosen.kit.controller
    if controller is not None:
        name = "controller" if chosen.kit.source == "controller" else "charger"
        a, _ = live.part(name).placed.ends
        at = live.volts(a) or 0.0
        if at > controller.max_v:
            found.append(later("{name} gets {at:volts}; it takes at most {most:volts} and does nothing, or dies.", name=controller.title, at=at, most=controller.max_v))  # fmt: skip
    for part in live.parts:
        one = part.placed
        if one.rating_a is not None and one.kind not in GUARDS and abs(part.amps_a) > one.rating_a:
            found.append(later("{name} carries {amps:amps}; it is made for {most:amps}.", name=one.name, amps=abs(part.amps_a), most=one.rating_a))  # fmt: skip
    return tuple(found)
