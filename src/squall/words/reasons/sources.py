"""Sentences of core.sources."""

from squall.words.message import N_

SENTENCES: dict[str, str | tuple[str, str]] = {
    "at-least-one": N_("at least one"),
    "bore-overflow": N_("bore of the overflow"),
    "contact-meter": N_("contact meter"),
    "days": N_("days"),
    "days-between-two-readings": N_("days between the two readings"),
    "depth-full-pond": N_("depth of the full pond"),
    "depth-pond": N_("depth of the pond"),
    "fall-time": N_("fall time"),
    "first-flush": N_("first flush"),
    "flow-pumping-test": N_("flow of the pumping test"),
    "guess-only-stand-off-edge-never": N_("A guess only. Stand off the edge, and never lean on the cover."),
    "least-three-different-times": N_("at least three, at different times"),
    "let-down-half-filled-bottle-line": N_(
        "Let down a half-filled bottle; the line goes slack where it floats. Mark, pull up, measure."
    ),
    "let-down-washer-tape-listen-slap": N_(
        "Let down a washer on a tape and listen for the slap; go on down for the total depth."
    ),
    "levels-fall-while-pump-runs-depths": N_("levels that fall while the pump runs; are depths swapped?"),
    "levels-pumping-test": N_("levels of the pumping test"),
    "line-bottle": N_("line and bottle"),
    "look-down": N_("look down"),
    "lower-until-beeps-lift-lower-again": N_("Lower until it beeps, lift and lower again, read at the mark."),
    "more-than-nothing-up-to": N_("more than 0, up to {most}"),
    "more-than-pump-starts": N_("more than 0: the pump starts at 0"),
    "one-of-or-uncertainty": N_("one of {names}, or give its uncertainty"),
    "one-or-more-earlier-one-first": N_("one or more, the earlier one first"),
    "one-pebble-only-never-pump-well": N_(
        "One pebble only, and never with a pump in the well. The thumb is late, so this nearly always reads too deep."
    ),
    "readings": N_("readings"),
    "readings-pumping-test": N_("readings of the pumping test"),
    "rising-time": N_("rising with time"),
    "roof": N_("roof"),
    "runoff-coefficient": N_("runoff coefficient"),
    "shape-pond": N_("shape of the pond"),
    "shine-light-or-catch-sun-if": N_(
        "Shine a light or catch the sun: if the water glints, guess its depth from the mark."
    ),
    "sloping-one-deepest-place": N_("sloping to one deepest place"),
    "sloping-trench": N_("sloping to a trench"),
    "span-of-times": N_("{first:seconds} to {last:seconds}"),
    "span-twice-or-more": N_("a span of twice or more"),
    "start-watch-as-pebble-leaves-hand": N_("Start the watch as the pebble leaves the hand, stop it at the splash."),
    "storm": N_("storm"),
    "straight-sides": N_("straight sides"),
    "surface-full-pond": N_("surface of the full pond"),
    "tanks": N_("tanks"),
    "tie-bottle-lines-end-off-each": N_(
        "Tie the bottle and the line's end off, each twice: what is dropped in a well lodges the pump."
    ),
    "tie-reel-off-twice-light-end": N_("Tie the reel off twice. The light end makes the bottom harder to feel."),
    "tie-tape-weight-off-twice": N_("Tie tape and weight off twice."),
    "time-test-reading": N_("time of a test reading"),
    "timed-pebble": N_("timed pebble"),
    "times-pumping-test": N_("times of the pumping test"),
    "timing-error": N_("timing error"),
    "uncertainty": N_("uncertainty"),
    "water-over-overflow": N_("water over the overflow"),
    "weighted-tape": N_("weighted tape"),
    "storm-inflow": N_("the storm's inflow"),
}
