"""Sentences of core.drive."""

from squall.words.message import N_

SENTENCES: dict[str, str | tuple[str, str]] = {
    "all-tests-have-same-flow-so": N_(
        "All tests have the same flow, so they tell nothing of how it falls with height."
    ),
    "amps-tests": N_("amps of the tests"),
    "array-works-controller-needs-least": N_(
        "the array works at {vmp:volts}; the controller needs at least {min:volts}"
    ),
    "arrays-open-volts-over-controllers-limit": N_(
        "the array's open volts, {voc:volts}, are over the controller's limit of {max:volts}: it would be damaged"
    ),
    "bucket": N_("bucket"),
    "c-works-best-up": N_("At {air:temperature} it works at {mild:volts}; best is up to {best_high:volts}."),
    "cable-resistance": N_("cable resistance"),
    "coldest-morning-stands-open-over-does": N_(
        "On the coldest morning it stands at {cold:volts} open; over {max_input:volts} does damage."
    ),
    "controller-efficiency": N_("controller efficiency"),
    "current-falls-from-displacement-pump-draws": N_(
        "The current falls from {i1:amps} at {h1:head} to {i2:amps} at {h2:head}; a displacement pump draws more as the head grows."
    ),
    "curve-needs-bucket-tests-two-heights": N_(
        "A curve needs bucket tests at two heights or more; time the bucket once more, higher up."
    ),
    "one-point-at-labels-height": N_(
        "The point stands at {height:head}, but its label says that flow stops at {most:head}: one of the two is misread."
    ),
    "one-point-at-no-height": N_(
        "One point at no height says nothing of how high it lifts: give the label's height, or time the bucket once more, higher up."
    ),
    "flow-grows-head-from-two-figures": N_(
        "The flow grows with the head, from {q1:flow} at {h1:head} to {q2:flow} at {h2:head}: are two figures swapped?"
    ),
    "flow-head-every-point-must-or": N_("Flow and head of every point must be 0 or more."),
    "flow-height-every-test-must-or": N_("Flow and height of every test must be 0 or more."),
    "hottest-cell": N_("hottest cell"),
    "hottest-works-best-from": N_("At the hottest it works at {hot:volts}; best is from {best_low:volts}."),
    "hottest-works-least-needed": N_("At the hottest it works at {hot:volts}; at least {min_working:volts} is needed."),
    "labels-flow": N_("the label's flow"),
    "labels-height": N_("the label's height"),
    "least-one-none-them-empty": N_("at least one, none of them empty"),
    "line-asks-more-than-last-point": N_(
        "The line asks for more than {head_range:head}, the last point that was measured; nothing is promised beyond it."
    ),
    "line-works-below-first-point-measured": N_(
        "The line works below the first point that was measured; nothing is promised there."
    ),
    "modules-series": N_("modules in series"),
    "more-than-all-along-curve-read": N_("more than 0 all along the curve; read them again"),
    "motor-resistance": N_("motor resistance"),
    "motor-stands-still-source-can-push": N_(
        "The motor stands still: the source can push only {current:amps} through it and it takes {needed:amps} to turn at this lift."
    ),
    "no-load-current": N_("no-load current"),
    "no-water-comes-any-light": N_("No water comes in any light."),
    "open-coldest-working-hottest-within-window": N_(
        "{cold:volts} open at the coldest and {hot:volts} working at the hottest are within the window."
    ),
    "points-contradict-one-another-once-windings": N_(
        "The points contradict one another once the winding's drop is taken off; check amps and ohms."
    ),
    "pump-curve-needs-least-two-points": N_(
        "A pump curve needs at least two points, each with a flow, a head and amps."
    ),
    "pump-draws-less-than-no-load": N_(
        "At {head:head} the pump draws {amps:amps}, less than its no-load {no_load:amps}."
    ),
    "pump-reaches-lift-more": N_(
        "At {volts:volts} the pump reaches {reached:head}; the lift is {static_head:head}, {missing:head} more.{more}"
    ),
    "pump-would-give-more-than-last": N_(
        "The pump would give more than {flow:flow}, the last point that was measured; nothing is promised beyond it. Throttle the outlet or measure a point at more flow."
    ),
    "rated-volts": N_("rated volts"),
    "record-low": N_("record low"),
    "strings": N_("strings"),
    "strings-parallel": N_("strings in parallel"),
    "tests-lie-greatest-flow-off-any": N_(
        "The tests lie {misfit:share} of the greatest flow off any one curve: they contradict one another. Time each again."
    ),
    "there-no-light-panel": N_("There is no light on the panel."),
    "these-tests-pump-gives-more-higher": N_(
        "By these tests the pump gives more the higher it lifts. Were two swapped, or did its volts differ? Time them again."
    ),
    "time-fill": N_("time to fill it"),
    "two-flows-given-displacement-pump-has": N_("Two flows are given at {h1:head}; a displacement pump has one."),
    "unlike-in-series": N_(
        "in series the weaker one holds the other down to its {amps:amps}: only panels of like amps belong together so"
    ),
    "unlike-side-by-side": N_(
        "side by side the lower one pulls the other down to its {volts:volts}: only panels of like volts belong together so"
    ),
    "volts": N_("volts"),
    "watts": N_("watts"),
    "windings-would-take-all-resistance-current": N_(
        "At {amps:amps} the winding's {resistance:ohms} would take all {rated:volts}: resistance, current or volts are wrong."
    ),
    "would-take-volts": N_(" It would take {need:volts} at the motor."),
    "said-as-sentence": N_("{said:capital}."),
}
