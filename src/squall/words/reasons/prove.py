"""Sentences of core.prove."""

from squall.words.message import N_

SENTENCES: dict[str, str | tuple[str, str]] = {
    "air-blocked-intake-or-lost-prime": N_("air, a blocked intake or lost prime; or less light than thought"),
    "amps-pump-running": N_("amps at the pump, running"),
    "as-should": N_("as it should be"),
    "battery-not-charged-or-tired": N_("the battery is not charged, or tired"),
    "battery-rest": N_("battery at rest"),
    "clamp-or-meter-one-lead": N_("clamp or meter in one lead"),
    "dirt-shade-or-haze-or-string": N_("dirt, shade or haze, or a string not joined"),
    "drag-grit-worn-bearing-or-something": N_("drag: grit, a worn bearing, or something in the impeller"),
    "flow-outlet": N_("flow at the outlet"),
    "kink-blocked-screen-leak-lower-water": N_("a kink, a blocked screen, a leak, a lower water level, or a worn pump"),
    "lift-less-than-surveyed-or-bucket": N_("the lift is less than surveyed, or the bucket was short"),
    "light": N_("light"),
    "light-stronger-than-typed-or-more": N_("the light is stronger than typed, or more strings than drawn"),
    "meter-socket-across-array-alone-cover": N_(
        "meter on its 10 A socket, across the array alone; cover the panel to join and part"
    ),
    "more-panels-series-than-drawn-or": N_(
        "more panels in series than drawn, or colder than thought: check the controller's limit before joining"
    ),
    "more-than-up-array": N_("more than 0, up to {full:amps} for this array"),
    "panel-open-volts": N_("panel open volts"),
    "panel-or-joint-missing-from-string": N_(
        "a panel or joint is missing from the string, a bypass diode is dead, or it is hotter than thought"
    ),
    "panel-short-circuit-amps": N_("panel short-circuit amps"),
    "pump-charging-off-half-hour": N_("pump and charging off for half an hour"),
    "pump-draws-too-little-air-dry": N_(
        "the pump draws too little: air, a dry intake, or a broken lead beyond the meter"
    ),
    "pumps-own-leads-water-flowing": N_("at the pump's own leads, water flowing"),
    "short-circuit-amps": N_("short-circuit amps"),
    "still-settling-from-charge-wait-read": N_("still settling from charge: wait and read again"),
    "timed-bucket-others-shut": N_("timed bucket at the end of the run, hose full, the other places shut"),
    "timed-bucket-real-outlet-hose-full": N_("timed bucket at the real outlet, hose full"),
    "typed-light": N_("typed light"),
    "volts-pump-running": N_("volts at the pump, running"),
    "weak-source-long-or-thin-cable": N_(
        "a weak source, a long or thin cable, or a bad joint: feel for warmth, power off"
    ),
    "light-not-known": N_("nobody yet"),
    "taken-as-the-light": N_("taken as the light, so not judged by it"),
    "wait-for-more-light": N_("the band is too wide to judge in this light: wait for more, and read again"),
    "over-hand-meter-clamp": N_(
        "over the {most:amps} that a hand meter carries: a DC clamp with a rated switch to short them, or one panel at a time; cover the panels to join and part"
    ),
    "label-says-open-and-working": N_(
        "panels alone, nothing joined; live in any light. The label: {open:volts} open, {working:volts} working, in full sun and cool; the same panel reads less in low sun and in heat"
    ),
}
