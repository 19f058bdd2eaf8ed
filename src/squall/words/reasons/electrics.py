"""Sentences of core.electrics."""

from squall.words.message import N_

SENTENCES: dict[str, str | tuple[str, str]] = {
    "part-made-for-fewer-volts": N_(
        "{name} is made for {rating:volts} DC, and {highest:volts} stand here: parting them it would arc on"
    ),
    "splice-sleeve": N_("splice in an adhesive-lined sleeve; sleeve on first"),
    "splice-resin": N_("splice in resin, its cores apart in the mould"),
    "splice-silicone": N_("twisted, parted and soaked in silicone"),
    "splice-clips": N_("clip, for a trial"),
    "ambient-temperature": N_("ambient temperature"),
    "amps-on-cable": N_("{continuous:amps} on a cable for {cable_ampacity:amps}"),
    "awg": N_("awg"),
    "awg-sizes": N_("36 to 1, or 1/0 to 4/0"),
    "best-amps-must-above-below-short": N_(
        "Best amps {imp:amps} must be above 0 and below the short-circuit {isc:amps}."
    ),
    "best-volts-must-above-below-open": N_(
        "Best volts {vmp:volts} must be above 0 and below the open-circuit {voc:volts}."
    ),
    "cable-size": N_("cable size"),
    "cells-series": N_("cells in series"),
    "conductor-temperature": N_("conductor temperature"),
    "current": N_("current"),
    "days-timer": N_("days of the timer"),
    "drop-over": N_("{max_drop_fraction:share} drop over {one_way:head}"),
    "fitted-fuse-too-large": N_(
        "The {kind} that is fitted, {fitted:amps}, is more than the {name} bears, {most:amps}: it would burn before it opens."
    ),
    "fitted-fuse-too-small": N_(
        "The {kind} that is fitted, {fitted:amps}, is under the {least:amps} that steady running asks: it tires and opens for nothing."
    ),
    "fit-the-fuse-worked-out": N_("Empty its field on Kits or Wire to see which rating this loop asks for."),
    "fuse-as-fitted": N_("as it is fitted"),
    "fit-thicker-cable": N_("Fit a thicker cable."),
    "fit-thicker-or-shorter-cable-controller": N_(
        "Fit thicker or shorter cable, a controller or relay that senses a stall, or look at the pump whenever volts are present and no water comes."
    ),
    "its-heat": N_("its heat"),
    "least-x-so-doesnt-tire": N_("at least {factor} x {continuous:amps} = {least:amps}, so that it doesn't tire"),
    "less-even-too-thin-raise-volts": N_(
        "less: even {label} is too thin for {what}; raise the volts, shorten the run or allow more drop"
    ),
    "metric-size-of": N_("a metric size: {sizes} mm²"),
    "minutes-day": N_("minutes a day"),
    "minutes-timer": N_("minutes of the timer"),
    "monday-first": N_("7, Monday first"),
    "more-than-any-table-split-load": N_("{least:amps} is more than any {kind} in the table; split the load."),
    "most-weakest-loop": N_("at most {rating:amps}: the weakest in the loop is the {name}"),
    "open-volts-per-kelvin": N_("open volts per kelvin"),
    "or-more-real-cable": N_("0 A or more on a real cable"),
    "over-cells-cell-silicon-gives-count": N_(
        "{voc:volts} over {cells} cells is {per_cell:volts} a cell; silicon gives 0.5 to 0.75. Count the cells in series again."
    ),
    "pump-draws-so-must-stands-only": N_(
        "The pump draws {continuous:amps}, so the {kind} must be {next_up:amps}; the {name} stands only {rating:amps}."
    ),
    "pump-makers-limit": N_("pump maker's limit"),
    "resistance-loop": N_("resistance of the loop"),
    "run-pump-fewer-volts-or-amps": N_(
        "Run the pump at fewer volts or amps, or choose another pump; never fit above its maker's limit."
    ),
    "short-circuit-amps-per-kelvin": N_("short-circuit amps per kelvin"),
    "stalled-pump-draws-here-needs-about": N_(
        "A stalled pump draws {stall_current:amps} here; a {rating:amps} {kind} needs about {opens:amps} to open. The motor would cook instead."
    ),
    "start-timer": N_("start of the timer"),
    "starts-on-day": N_("starts on {day:weekday}"),
    "take-out-load-path-let-drive": N_(
        "Take the {name} out of the load path (let it drive a relay's coil) or replace it."
    ),
    "these-panel-figures-contradict-one-another": N_(
        "These panel figures contradict one another: no single-diode curve passes through {voc:volts} open, {isc:amps} short and {vmp:volts} x {imp:amps}. Check them against the label."
    ),
    "up-to-for-pvc": N_("up to {most:temperature} for PVC cable"),
    "up-to-number": N_("up to {most}"),
    "stalled-pump-opens-late": N_(
        "A stalled pump draws {stall_current:amps} here; a {rating:amps} {kind} may take {minutes} minutes to open at that. The motor would cook meanwhile."
    ),
    "no-cable-helps-stall": N_(
        "No cable makes a stalled pump draw enough: fit a controller or a relay that senses a stall, or look at the pump whenever volts are present and no water comes."
    ),
    "amps-in-heat": N_("{amps:amps} in this heat"),
    "less-even-thickest-bears": N_("less: even {label} bears only {bears:amps} there"),
}
