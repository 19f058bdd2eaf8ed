"""Sentences of core.kit."""

from squall.words.message import N_

SENTENCES: dict[str, str | tuple[str, str]] = {
    "above-where-home-needs-more-watts": N_(
        "{head:head} is above the {low:head} where it is at home: it needs more watts"
    ),
    "another-takes-diaphragm-piston-ends-too": N_(
        "Another takes diaphragm and piston ends too: cheap to buy, and a hand with a spanner can mend them."
    ),
    "asks-many-stages-watts": N_("{head:head} asks many stages and watts"),
    "can-mended-here-washers-spanner": N_("can be mended here with washers and a spanner"),
    "charge-aged-battery-still-holds": N_("charge that an aged battery still holds"),
    "cheap-draws-own-prime": N_("cheap, draws its own prime"),
    "clamps-rope-sleeves-fuse-holder": N_("clamps, rope, sleeves, fuse holder"),
    "breaker-of-pump": N_("the pump's breaker"),
    "core-minus": N_("minus core"),
    "core-plus": N_("plus core"),
    "could-do": N_("could do"),
    "dear-so-low-lift": N_("dear for so low a lift"),
    "few-parts-lots-water-price": N_("few parts, lots of water for its price"),
    "grit-cuts-stator": N_("grit cuts its stator"),
    "grit-rubbish-hold-valves-open-screen": N_("grit and rubbish hold its valves open: screen the intake"),
    "grit-scores-cylinder": N_("grit scores its cylinder"),
    "head": N_("head"),
    "hours-day-wear-out-brushes-membrane": N_("{hours:.0f} hours a day wear out its brushes and membrane soon"),
    "length-of-part": N_("{metres:length} of {part}"),
    "life": N_("life"),
    "lifts-little-water-few-watts": N_("lifts a little water {head:head} for few watts"),
    "more-than-min-beyond-small-ones": N_("more than {most:flow} is beyond small ones"),
    "most-water-watts": N_("most water for its watts at {head:head}"),
    "never-let-run-dry-stator-melts": N_("never let it run dry: the stator melts"),
    "no-rubbing-parts-so-solids-do": N_("no rubbing parts, so solids do little harm"),
    "nobody-near-renew-valves-membrane": N_("nobody near to renew its valves and membrane"),
    "nobody-near-renew-washers": N_("nobody near to renew its washers"),
    "coil-wants-bank": N_(
        "{name}: its coil wants a battery's steady volts; on panels or behind a pump controller it chatters and its contact burns. Use the controller's own input"
    ),
    "coil-burns": N_(
        "{name}: its coil is made for {made:volts} and gets {bank:volts} while the bank charges: it burns"
    ),
    "coil-wont-pull": N_("{name}: its coil is made for {made:volts}; at the bank's {bank:volts} it doesn't pull in"),
    "pilot-too-small": N_("{name} may carry {stands:amps}, and the relay's coil takes {coil:amps}"),
    "part-too-small-for-panels": N_(
        "{name} on the panels' side may carry {stands:amps}, and they give up to {amps:amps} in bright sun"
    ),
    "no-main-fuse": N_(
        "all that runs from this bank at once takes {amps:amps}: no fuse of the table is so large; split the loads"
    ),
    "piece-of-run": N_("piece {number} of other cable: {run}"),
    "drop-of-pieces": N_("what the pieces of other cable lose"),
    "less-than-drop-allowed": N_("less than the {most:share} that the whole run may lose"),
    "clips-under-water": N_(
        "clips and twisted ends are for trials out of the water: make the joint in a sleeve or resin before it goes down"
    ),
    "joint-of-run": N_("joint in the run"),
    "main-fuse": N_("main fuse, at the battery's post"),
    "plus-bar": N_("plus bus bar"),
    "minus-bar": N_("minus bus bar"),
    "coil-of-relay": N_("coil of {part}"),
    "fuse-of-load": N_("fuse of {name}"),
    "offer-parts": N_("price of the parts"),
    "offer-hours": N_("hours of work"),
    "offer-rate": N_("what an hour costs"),
    "offer-travel": N_("travel"),
    "offer-margin": N_("margin"),
    "offer-tax": N_("tax"),
    "offer-years": N_("years looked at"),
    "one-panel": N_("one panel"),
    "one-school-fits-only-centrifugal-helical": N_(
        "Some fit only centrifugal and helical pumps: few parts, nothing to service on site."
    ),
    "panel-battery-charge-controller": N_("panel, battery and charge controller"),
    "panel-direct": N_("panel direct"),
    "panel-pump-controller": N_("panel and pump controller"),
    "panels": N_("the panels"),
    "poor-choice": N_("poor choice"),
    "series-strings": N_("{in_series} in series, {in_parallel} strings"),
    "slow-heavy-so-low-lift": N_("slow and heavy for so low a lift"),
    "small-ones-give-about-min": N_("small ones give at most about {most:flow}"),
    "so-little-water-so-high-weak": N_("so little water so high is its weak spot"),
    "so-many-in-parallel": N_("{in_parallel} in parallel"),
    "so-many-in-series": N_("{in_series} in series"),
    "strings-series": N_("{in_parallel} strings of {in_series} in series"),
    "suits": N_("suits"),
    "too-high-small-one": N_("too high for a small one"),
    "so-many-of-part": N_("{n} x {part}"),
    "cable-too-thin-for-amps": N_("the cable {name} must bear {amps:amps} and bears {bears:amps} in this heat"),
    "cable-too-thin-outdoors": N_("the cable {name} is {size}: outdoors it wants at least {least}, for its life"),
    "run-panel-to-pump": N_("panel to pump"),
    "run-controller-to-pump": N_("controller to pump"),
    "run-battery-to-pump": N_("battery to pump"),
    "run-panel-to-box": N_("panel to box"),
    "run-charger-to-bank": N_("charger to battery"),
    "a-breaker": N_("a breaker"),
    "a-fuse": N_("a fuse"),
    "protector-made-for-fewer-volts": N_(
        "the {kind} of {rating:amps} is made for {made:volts} DC, and {loop:volts} stand here: {other} or one made for panels"
    ),
    "no-string-fuse-fits": N_(
        "each of the {strings} strings wants a fuse of at least {least:amps}, and the panel stands at most {most:amps}: join fewer side by side"
    ),
    "fuse-of-charger": N_("the charger's fuse, at the battery's post"),
    "fuse-of-pump": N_("the pump's fuse"),
    "panel-number": N_("{part}, number {number}"),
    "string-fuse-number": N_("string fuse {number}"),
    "y-lead-plus": N_("Y-lead {number}, plus"),
    "y-lead-minus": N_("Y-lead {number}, minus"),
    "input-float": N_("float at its input"),
    "input-probe": N_("dry-run probe at its input"),
    "hanging-depth": N_("hanging depth"),
    "pieces": N_("pieces to cut"),
    "rolls-sold": N_("lengths in which it is sold"),
}
