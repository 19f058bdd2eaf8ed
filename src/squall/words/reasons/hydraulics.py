"""Sentences of core.hydraulics."""

from squall.words.message import N_

SENTENCES: dict[str, str | tuple[str, str]] = {
    "barb-to-thread": N_("barb {barb:trade} to thread {thread:trade}"),
    "coupling": N_("coupling {bore:trade}"),
    "end-piece": N_("end of piece {number}"),
    "cut-in": N_("the pressure at which the switch starts the pump"),
    "fittings-k": N_("fittings' K"),
    "flow": N_("flow"),
    "head-rises-flow-from-pumps-head": N_(
        "The head rises with the flow, from {h1:head} at {q1:flow} to {h2:head} at {q2:flow}. A pump's head falls as its flow grows: are two figures swapped?"
    ),
    "inner-diameter": N_("inner diameter"),
    "length": N_("length"),
    "length-track": N_("length of the track"),
    "less-than-pump-gives-no-valve": N_("less than the pump gives with no valve at all"),
    "opening-valve": N_("opening of the valve"),
    "point-impossible-both-must-or-more": N_(
        "The point {flow:flow}, {head:head} is impossible: both must be 0 or more."
    ),
    "pump-curve-needs-least-two-points-2": N_("A pump curve needs at least two points, each with a flow and a head."),
    "pump-outlet-side": N_("pump, outlet side"),
    "pump-suction-side": N_("pump, suction side"),
    "pushed-on": N_("pushed on"),
    "reynolds-number": N_("Reynolds number"),
    "roughness": N_("roughness"),
    "share-of-the-bore": N_("0 to {most:share} of the bore"),
    "short-soft-hose": N_("short soft hose of {bore:trade} between barb and stiff pipe"),
    "span-of-the-curve": N_("{first:flow} to {last:flow}, what the pump's curve speaks of"),
    "track-has-fewer-than-two-points": N_(
        "The track has fewer than two points with heights; walk it again with heights recorded."
    ),
    "tracks-points-all-lie-one-place": N_("The track's points all lie in one place; it is no run."),
    "two-heads-given-curve-has-one": N_("Two heads are given at {q1:flow}; a curve has one."),
    "wanted-flow": N_("wanted flow"),
    "water-temperature": N_("water temperature"),
    "water": N_("water"),
    "outlet": N_("outlet"),
    "reducer": N_("reducer {wide:trade} to {narrow:trade}"),
    "enlarger": N_("enlarger {wide:trade} to {narrow:trade}"),
}
