"""Sentences of core.advice."""

from squall.words.message import N_

SENTENCES: dict[str, str | tuple[str, str]] = {
    "as-believed": N_("as believed"),
    "cable-pump": N_("{label} cable to the pump"),
    "charge-controller-serves-up-bank": N_(
        "the charge controller serves up to {out_max:volts}; the bank is {nominal:volts}"
    ),
    "cheapest-holds": N_("cheapest that holds"),
    "controller-can-give-pumps-maker-allows": N_(
        "the controller can give {out_max:volts}; the pump's maker allows {limit:volts}"
    ),
    "three-wires-want-controller": N_(
        "the motor has three wires: only a pump controller of three turns it, no battery and no panel by itself"
    ),
    "controller-drives-other-wires": N_(
        "the controller drives motors of {drives} wires, and this pump's motor has {wires}"
    ),
    "controller-gives-most-pump": N_("the controller gives at most {out_max:volts} to a {rated:volts} pump"),
    "controller-named": N_("controller {title}"),
    "covers-share-of-month": N_("covers {share:share} of {month:month}"),
    "dearer": N_("{dearer:.0f} dearer"),
    "every-doubt-bad-end": N_("every doubt at its bad end"),
    "falls-short": N_("falls short"),
    "under-pumps-least-volts": N_("{volts:volts} is under the {least:volts} that its maker gives as the pump's least"),
    "bank-over-pumps-most-volts": N_(
        "a bank being charged stands at {volts:volts}; the pump's maker allows {most:volts}"
    ),
    "from-panels-below-what-pump-made": N_(
        "{vmp:volts} from the panels is below what a {rated:volts} pump is made for"
    ),
    "from-panels-cant-charge-bank": N_("{vmp:volts} from the panels can't charge a {nominal:volts} bank"),
    "from-panels-over-twice-pumps": N_("{vmp:volts} from the panels is over twice the pump's {rated:volts}"),
    "from-panels-too-near-controllers-least": N_(
        "{vmp:volts} from the panels is too near the controller's least, {min:volts}"
    ),
    "full-flow-suction-loses-stands-above": N_(
        "at full flow the suction loses {losses:head}; with the {stands:head} it stands above the water that is {spare:head} more than this pump can pull: widen or shorten the suction, or lower the pump"
    ),
    "gives-no-water": N_("gives no water: {why}"),
    "held-by-charge": N_("the charge of a day"),
    "held-by-nothing": N_("nothing (it runs at the end of its measured curve)"),
    "held-by-panels": N_("the panels"),
    "held-by-place": N_("“{place}”, the place that is served worst"),
    "held-by-pump": N_("the pump itself, which runs day and night"),
    "held-by-run": N_("the run, where {loss:head} is lost when most flows"),
    "held-by-run-through-hose": N_("the run, where {loss:head} is lost through {hose:sizes} hose when most flows"),
    "held-by-sun": N_("the sun's hours"),
    "held-by-timer": N_("the hours of its timer"),
    "held-by-well": N_("what the well gives"),
    "hose-of": N_("{nominal:sizes} hose"),
    "in-parallel": N_("in parallel"),
    "in-series": N_("in series"),
    "length-run": N_("length of the run"),
    "light-month": N_("the light of the month"),
    "more-short-days-hundred": N_("{drier:.1f} more short days in a hundred"),
    "more-than-cheapest": N_("{price:.0f} more than the cheapest"),
    "motor-instant-maker-allows": N_(
        "{most_motor:volts} at the motor at its brightest instant, beside a cloud on the coldest day; its maker allows {most:volts}"
    ),
    "never-gives-water-lift-any-months": N_("never gives water at this lift, in any month's light"),
    "no-cable-thick-enough": N_("no cable is thick enough: {error}"),
    "no-cheaper": N_("no cheaper"),
    "no-fewer-short-days": N_("no fewer short days"),
    "no-measurement-today-narrows-log-through": N_(
        "no measurement of today narrows it; a log through the seasons does"
    ),
    "no-need-set": N_("no need is set"),
    "no-water-worst-months-average-day": N_("no water on the worst month's average day"),
    "open-coldest-morning-beyond-small-low": N_(
        "{cold:volts} open on the coldest morning is beyond small low-voltage work"
    ),
    "open-coldest-morning-over-controllers": N_(
        "{cold:volts} open on the coldest morning is over the controller's {max:volts}"
    ),
    "panels-fewer": (N_("{n} panel fewer"), N_("{n} panels fewer")),
    "panels-more": (N_("{n} more panel ({how})"), N_("{n} more panels ({how})")),
    "place-and-cause": N_("{place}; {reason}; held back by {held}"),
    "pump-cable-cut": N_("pump cable cut to {metres:length}"),
    "pump-cant-lift-water-any-volts": N_("this pump can't lift water {static_head:head} at any volts it stands"),
    "pump-draws-controller-gives": N_("the pump draws {most_motor:amps}; the controller gives {max:amps}"),
    "pump-named": N_("pump {title}"),
    "pumps-curve": N_("the pump's curve"),
    "read-level-weighted-tape-or-contact": N_(
        "read the level with a weighted tape or a contact meter, and level the outlet"
    ),
    "search-stopped-nothing-changed": N_("The search was stopped; nothing was changed."),
    "slightly-under": N_("slightly under"),
    "straight-from-panel": N_("straight from the panel"),
    "surface-pump-bank-would-have-pull": N_(
        "a surface pump on the bank would have to pull water up {bank:head}; at this altitude {limit:head} is the most"
    ),
    "hose-rated-below-shut-off": N_(
        "with its outlet shut the pump stands at {head:head} in the {nominal:sizes} hose, which is made for {rated:head}: a stronger hose, or a relief valve that opens lower"
    ),
    "panels-charge-bank-too-fast": N_(
        "the panels charge with up to {amps:amps}; a battery of {charge:charge} bears {most:amps}: a larger battery, or fewer panels"
    ),
    "switching-charger-cant-hold-panels-amps": N_(
        "the panels give up to {short:amps}, by 1.25 for bright hours {design:amps}; a switching charger can't hold them back and is made for {most:amps}"
    ),
    "switching-charge-controller-wastes-most-bank": N_(
        "a switching charge controller wastes most of {vmp:volts} on a {nominal:volts} bank"
    ),
    "tape-run": N_("tape the run"),
    "than": N_("{more} than {entrant}, with {days}"),
    "time-bucket-lift-known-volts": N_("time a bucket at this lift, at known volts"),
    "water-higher": N_("water higher"),
    "water-level-lift": N_("water level and lift"),
    "water-lower": N_("water lower"),
    "with-controller": N_("with controller {title}"),
    "with-regulator": N_("with a regulator"),
    "with-resistor": N_("with a dropping resistor"),
    "kit-in-few-words": N_("{pump}, {panels} x {panel}, {source}"),
    "kit-and-tank-in-few-words": N_("{pump}, {panels} x {panel}, {source}, {tank}"),
    "fed-by-panel": N_("direct"),
    "fed-by-controller": N_("controller"),
    "fed-by-battery": N_("battery"),
    "ratio": N_("{ratio:g} : 1"),
    "wiring-would-lack": N_("its wiring would lack something: {problem}"),
    "place-days-and-cause": N_("{place}; {reason}; {days:.1f} short days in 100; held back by {held}"),
    "pressure-switch-never-stops": N_(
        "against a shut outlet the pump reaches {most:pressure}, and its pressure switch stops it at {cut_out:pressure}: it would run on against the shut valve; a lower cut-out, or another pump"
    ),
    "pressure-switch-never-starts": N_(
        "the water left standing in the line holds {column:pressure} on the pressure switch, and it starts the pump at {cut_in:pressure}: after the first stop it would not start again; a higher cut-in, or the switch at the outlet"
    ),
    "strings-cant-face-so-many-ways": N_(
        "the strings are to face {ways:whole} ways, as many each, and {strings:whole} can't be shared out so: a number of strings that can, or one facing for all"
    ),
    "motor-instant-nobody-allows": N_(
        "{most_motor:volts} at the motor at its brightest instant; its maker states no limit, and {most:volts}, a fifth over its own volts, is taken for one (common practice, no source)"
    ),
}
