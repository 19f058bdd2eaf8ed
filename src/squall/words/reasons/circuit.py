"""Sentences of core.circuit."""

from squall.words.message import N_

SENTENCES: dict[str, str | tuple[str, str]] = {
    "circuit-controller-hunts": N_(
        "The controller {part} finds no rest: what it gives changes what it gets. Give it a source of its own."
    ),
    "circuit-has-no-answer": N_("There is no answer for this circuit; look at {part} and what it is joined to."),
    "circuit-id-twice": N_("Two parts are called {part}; each needs a name of its own."),
    "circuit-loop-without-ohms": N_(
        "{part} closes a loop that has no resistance at all, so its amps have no limit. Give it, or a part beside it, its ohms."
    ),
    "circuit-part-on-itself": N_("{part} is joined to itself: both its ends are at {node}."),
    "circuit-relay-chatters": N_(
        "{part} never settles: pulled in it takes away its own volts, released it gets them back. Feed the coil from before the contact."
    ),
    "circuit-unknown-node": N_("A meter is held on {node}, and nothing is joined there."),
    "circuit-without-source": N_("Nothing feeds this circuit: it has no panel, battery or supply."),
}
