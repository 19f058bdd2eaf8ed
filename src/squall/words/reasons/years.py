"""Sentences of core.years."""

from squall.words.message import N_

SENTENCES: dict[str, str | tuple[str, str]] = {
    "a-negative-rate": N_("a negative rate"),
    "draw-and-inflow": N_("draw and inflow"),
    "draw-inflow": N_("{draws} of draw, {inflows} of inflow"),
    "float-switch-below": N_("float switch: on below"),
    "float-switch-off-above": N_("float switch: off above"),
    "float-switch-would-close-more-than": N_(
        "The float switch would close more than {most:whole} times: give it more travel than {travel:litres}."
    ),
    "floats-travel": N_("float's travel"),
    "less-than-where-goes-off": N_("less than where it goes off, {off_above:litres}"),
    "pump-cant-push-water-over-lift": N_("on {bank:volts} the pump can't push water over the lift"),
    "run-stopped-nothing-changed": N_("The run was stopped; nothing was changed."),
    "step": N_("step"),
    "steps": N_("steps"),
    "surface-tank": N_("surface of the tank"),
    "tank": N_("tank"),
    "the-same-number-at-least-one": N_("the same, and at least one"),
    "water-start": N_("water at the start"),
    "years": N_("years"),
}
