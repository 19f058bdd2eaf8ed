"""What Wire tells: cables, fuse, stall."""

from squall.core.explain import Figure, Input
from squall.core.kit.kit import CONDUCTOR_C
from squall.job.worked.wiring import CableRun, Wiring


def run_figures(run: CableRun) -> list[Figure]:
    """Amps, drop, ampacity, resistance of one run of cable."""
    choice = run.choice
    size = Input("size", choice.conductor.label, "text")
    length = Input("one way", run.one_way_m, "length")
    amps = Input("amps at rated volts" if run.key == "pump" else "best amps of the panels", run.drop_a, "amps")
    return [
        Figure(f"{run.key}-amps", "Most amps", run.amps_a, "amps", (amps,),
               "most in any half hour of the year's clear days" if run.key == "pump" else "short-circuit amps x strings",
               "the drive" if run.key == "pump" else "panel's nameplate"),
        Figure(f"{run.key}-drop", "Drop, there and back", choice.drop_fraction, "share",
               (size, length, amps, Input("resistance", choice.resistance_ohm, "ohms"), Input("volts", run.volts_v, "volts")),
               "I x 2L x r x (1 + 0.00393 (T - 20)) / V, copper at 40 °C",
               "IEC 60228 class 5 (mm²) or ASTM B258 with copper at 1/58 (AWG)"),
        Figure(f"{run.key}-drop-volts", "Volts lost", choice.drop_v, "volts", (size, length, amps), "I x R",
               "Ohm's law"),
        Figure(f"{run.key}-ampacity", "Ampacity in the heat", choice.ampacity_a, "amps",
               (size, Input("at 30 °C", choice.conductor.ampacity_30c_a, "amps")),
               "table at 30 °C x factor for the air around it", choice.conductor.ampacity_source),
        Figure(f"{run.key}-ohm", "Resistance of the loop", choice.resistance_ohm, "ohms",
               (size, length, Input("copper", CONDUCTOR_C, "temperature")), "2L x r", "IEC 60228 / ASTM B258"),
    ]  # fmt: skip


def protection_figures(wiring: Wiring) -> list[Figure]:
    """Rating, its bounds, and the stall current."""
    found = wiring.protection
    reasons = tuple(Input(f"reason {n}", reason, "text") for n, reason in enumerate(found.reasons, start=1))
    return [
        Figure("fuse", "Rating", found.rating_a, "amps",
               (Input("continuous", wiring.continuous_a, "amps"), Input("weakest in the loop", found.weakest, "text"),
                Input("which stands", found.most_a, "amps"), *reasons),
               "smallest standard rating from 1.25 x continuous amps up, not above the weakest part",
               "ratings: ISO 8820-3 (fuse), IEC 60947-2 (breaker), from memory; 1.25: common practice, no source"),
        Figure("stall", "A stalled pump draws", found.stall_current_a, "amps",
               (Input("source can't push more than its own short-circuit amps", "yes" if wiring.source_limited else "no",
                      "text"),
                Input("loop", wiring.runs[0].choice.resistance_ohm, "ohms")),
               "source volts / (source + cable + winding), and no more than the panels' short-circuit amps",
               "Ohm's law"),
    ]  # fmt: skip
