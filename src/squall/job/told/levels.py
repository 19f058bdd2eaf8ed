"""What is said of a level: whether it is known well enough to choose by, and a well's bottom known by two ways."""

from squall.core.sources.levels import good_enough_m
from squall.job.told.finding import Finding
from squall.job.worked.assess import Assessment
from squall.job.worked.run import bottom_m
from squall.words import later

# Two ways of knowing a bottom agree within this: a guess. [m]
SAME_BOTTOM_M = 0.5


def level_findings(a: Assessment) -> list[Finding]:
    """Whether the lift is known well enough to choose a pump by, and what would make it so."""
    if a.layout.closed_circuit:
        return []
    heights = a.heights
    lift, wanted = heights.lift_m - heights.fall_m, good_enough_m(heights.lift_m or heights.fall_m)
    said = {"lift": lift, "off": heights.off_m, "wanted": wanted}
    if heights.off_m <= wanted:
        text = later("The lift of {lift:head}, ± {off:head}, is known well enough to choose a pump by.", **said)
        return [Finding("good", text)]
    by_readings = heights.level is not None
    better = (
        later("read the level once more, with a weighted tape or a contact meter")
        if by_readings
        else later("measure it: with a level or a water-filled hose step by step, or read the water below a datum")
    )
    text = later(
        "The lift of {lift:head} may be off by {off:head}: good for a first look. Know it to {wanted:head} before a pump is bought.",
        **said,
    )
    return [Finding("care", text, (better,))]


def bottom_findings(a: Assessment) -> list[Finding]:
    """Water below the bottom; and a bottom that two ways put in two places: the shallower rules, for wells fill up."""
    well, level, bottom = a.job.well, a.heights.level, bottom_m(a.job)
    if level is not None and bottom is not None and level.level.depth_m >= bottom:
        text = later("By these readings the water stands below the bottom of the well: one of them is wrong.")
        return [Finding("bad", text)]
    if well.total_depth is None or well.told_depth is None:
        return []
    felt, told = well.total_depth.si, well.told_depth.si
    if abs(felt - told) <= SAME_BOTTOM_M:
        return [Finding("good", later("Felt and told, the bottom agrees within {off:head}.", off=abs(felt - told)))]
    if felt < told:
        text = later(
            "The bottom was felt {by:head} above what was told: the well has filled up so far, or the weight hung on something. The shallower rules.",
            by=told - felt,
        )
        return [Finding("care", text, (later("have it cleaned before a pump hangs near the mud"),))]
    text = later(
        "The bottom was felt {by:head} below what was told: the shallower rules until it is felt once more.",
        by=felt - told,
    )
    return [Finding("care", text)]
