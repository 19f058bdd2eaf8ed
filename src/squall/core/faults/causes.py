"""What can be wrong with a kit: a table of causes, which kits can have each, and how often the trade meets it.

A cause's change of the chain stands in :mod:`squall.core.faults.changes`. The weights and the stories are guesses of the trade,
common practice, no source: they tilt, and rule nothing out.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Literal, get_args

from squall.core.faults.chain import Chain

Story = Literal[
    "never-ran", "ran-and-stopped", "slowly-less", "comes-and-goes", "not-in-the-morning", "after-cleaning", "after-winter",
    "after-rewiring", "unknown",
]  # fmt: skip
STORIES: tuple[Story, ...] = get_args(Story)
Part = Literal[
    "panels", "battery", "supply", "source-cable", "fuse", "switch", "controller", "pump-cable", "motor", "pump-end", "screen",
    "hose", "check-valve", "outlet-valve", "water", "kit",
]  # fmt: skip

# Beliefs that are no part's: nothing is wrong, and none of these.
NONE, OTHER = "none", "other"

# How much likelier a story that fits a cause is told than one that doesn't.
_FITS, _FITS_NOT = 1.0, 0.4


@dataclass(frozen=True)
class Cause:
    """One thing that can be wrong.

    Attributes
    ----------
    code : str
        Its name in the sums.
    part : str
        Where it sits.
    can : Callable
        Whether a chain can have it.
    stories : frozenset[str]
        Stories that fit it.
    weight : float
        How often it is met, beside the others. [-]
    like : str
        The cause whose change of the chain is its own too.
    """

    code: str
    part: Part
    can: Callable[[Chain], bool]
    stories: frozenset[Story]
    weight: float = 1.0
    like: str = ""

    @property
    def change(self) -> str:
        """Code of its change."""
        return self.like or self.code

    def story_share(self, story: Story) -> float:
        """How likely this story is told of it, beside a story that fits. [-]"""
        return _FITS if story == "unknown" or story in self.stories else _FITS_NOT


def _every(_chain: Chain) -> bool:
    return True


def _panels(chain: Chain) -> bool:
    return chain.panels > 0


def _controller(chain: Chain) -> bool:
    return chain.controller is not None


def _centrifugal(chain: Chain) -> bool:
    return chain.centrifugal


def _timer(chain: Chain) -> bool:
    return any(way.kind == "timer" for way in chain.switches)


def _cause(
    code: str, part: Part, can: Callable[[Chain], bool], stories: str, weight: float = 1.0, like: str = ""
) -> Cause:
    fits = frozenset(story for story in STORIES if story in stories.split())
    return Cause(code, part, can, fits, weight, like)


# What is rarer than the cause it looks like is told apart by its story, its season, or one look. Common practice, no source.
_RARE = 0.06

_NEW, _STOPPED, _LESS, _COMES, _MORNING = (
    "never-ran",
    "ran-and-stopped",
    "slowly-less",
    "comes-and-goes",
    "not-in-the-morning",
)
_CLEANED, _WINTER, _REWIRED = "after-cleaning", "after-winter", "after-rewiring"

_ALL = (
    _cause("fuse-blown", "fuse", lambda c: c.fuse_a is not None, f"{_NEW} {_STOPPED} {_REWIRED}"),
    _cause("switch-open", "switch", lambda c: bool(c.switches), f"{_NEW} {_STOPPED} {_COMES} {_REWIRED} {_WINTER}"),
    _cause("cable-open", "pump-cable", _every, f"{_NEW} {_STOPPED} {_COMES} {_REWIRED} {_WINTER}"),
    _cause("joint-resistance", "pump-cable", _every, f"{_NEW} {_LESS} {_COMES} {_REWIRED} {_WINTER}"),
    _cause("panel-lost", "panels", lambda c: c.panels > 1, f"{_NEW} {_STOPPED} {_COMES} {_REWIRED}"),
    _cause("panel-reversed", "panels", lambda c: c.panels > 1, f"{_NEW} {_REWIRED}"),
    _cause("panels-dirty", "panels", _panels, f"{_LESS} {_MORNING} {_WINTER}"),
    _cause("panel-shaded", "panels", _panels, f"{_NEW} {_LESS} {_COMES} {_MORNING}"),
    _cause("battery-flat", "battery", lambda c: c.battery is not None, f"{_NEW} {_STOPPED} {_COMES} {_MORNING} {_WINTER}"),
    _cause("battery-weak", "battery", lambda c: c.battery is not None, f"{_NEW} {_LESS} {_COMES} {_MORNING} {_WINTER}"),
    _cause("supply-off", "supply", lambda c: c.supply is not None, f"{_NEW} {_STOPPED} {_REWIRED}"),
    _cause("controller-input-open", "controller", lambda c: bool(c.inputs), f"{_NEW} {_STOPPED} {_COMES} {_REWIRED}"),
    _cause("controller-waiting", "controller", _controller, f"{_STOPPED} {_COMES} {_MORNING}"),
    _cause("dial-low", "controller", _controller, f"{_NEW} {_LESS} {_CLEANED} {_REWIRED}"),
    _cause("probe-dirty", "controller", lambda c: "probe" in c.inputs, f"{_STOPPED} {_COMES} {_WINTER}"),
    _cause("polarity-reversed", "kit", _every, f"{_NEW} {_REWIRED}"),
    _cause("phase-swapped", "pump-cable", lambda c: c.motor_wires == 3, f"{_NEW} {_REWIRED}"),
    _cause("winding-open", "motor", _every, f"{_NEW} {_STOPPED} {_COMES}"),
    _cause("brushes-worn", "motor", lambda c: c.brushed, f"{_STOPPED} {_LESS} {_COMES} {_MORNING}"),
    _cause("rotor-stuck", "pump-end", _every, f"{_NEW} {_STOPPED} {_MORNING} {_CLEANED} {_WINTER}"),
    _cause("rotor-drags", "pump-end", _every, f"{_LESS} {_MORNING} {_CLEANED} {_WINTER}"),
    _cause("impeller-worn", "pump-end", _centrifugal, f"{_LESS}"),
    _cause("impeller-loose", "pump-end", _centrifugal, f"{_NEW} {_STOPPED} {_CLEANED} {_REWIRED}"),
    _cause("screen-blocked", "screen", _every, f"{_STOPPED} {_LESS} {_WINTER}"),
    _cause("hose-kinked", "hose", _every, f"{_NEW} {_STOPPED} {_CLEANED} {_WINTER}"),
    _cause("hose-leaks", "hose", _every, f"{_NEW} {_STOPPED} {_LESS} {_WINTER}"),
    _cause("air-locked", "pump-end", _centrifugal, f"{_NEW} {_STOPPED} {_COMES} {_CLEANED} {_WINTER}"),
    _cause("water-fallen", "water", _every, f"{_STOPPED} {_LESS} {_COMES} {_MORNING}"),
    _cause("check-valve-stuck", "check-valve", lambda c: c.check_valve, f"{_NEW} {_STOPPED} {_CLEANED} {_WINTER}"),
    _cause("outlet-valve-shut", "outlet-valve", lambda c: c.outlet_valve, f"{_NEW} {_STOPPED} {_CLEANED} {_WINTER} {_REWIRED}"),
    _cause("valves-worn", "pump-end", lambda c: not c.centrifugal, f"{_LESS}"),
    # What the trade knows besides: each looks on every meter like the cause named last.
    _cause("thermal-cut-out", "motor", _every, f"{_STOPPED} {_COMES}", _RARE, "winding-open"),
    _cause("joint-wet", "pump-cable", lambda c: c.placement == "submersible", f"{_LESS} {_COMES} {_WINTER}", _RARE, "joint-resistance"),
    _cause("cable-bitten", "pump-cable", _every, f"{_STOPPED} {_COMES} {_WINTER}", _RARE, "cable-open"),
    _cause("connector-corroded", "source-cable", _every, f"{_LESS} {_COMES} {_WINTER} {_REWIRED}", _RARE),
    _cause("source-unplugged", "source-cable", _every, f"{_NEW} {_STOPPED} {_COMES} {_REWIRED} {_WINTER}", _RARE),
    _cause("low-volts-cut-off", "battery", lambda c: c.battery is not None, f"{_STOPPED} {_COMES} {_MORNING}", _RARE, "battery-flat"),
    _cause("timer-set-wrong", "switch", _timer, f"{_NEW} {_STOPPED} {_MORNING} {_WINTER}", _RARE, "switch-open"),
    _cause("float-chatters", "switch", lambda c: c.has_float, f"{_COMES}", _RARE),
    _cause("rotor-unscrewed", "pump-end", lambda c: c.centrifugal and not c.brushed, f"{_REWIRED} {_CLEANED}", _RARE, "impeller-loose"),
    _cause("impeller-misplaced", "pump-end", lambda c: c.centrifugal and not c.brushed, f"{_MORNING} {_CLEANED}", _RARE, "rotor-stuck"),
    _cause("stator-melted", "pump-end", lambda c: not c.centrifugal, f"{_STOPPED} {_LESS}", _RARE, "valves-worn"),
    _cause("ice", "hose", _every, f"{_WINTER} {_MORNING}", _RARE, "hose-kinked"),
    _cause("intake-bare", "water", _centrifugal, f"{_STOPPED} {_COMES} {_MORNING}", _RARE, "air-locked"),
    _cause("suction-leaks", "hose", lambda c: c.placement == "surface" and c.centrifugal, f"{_COMES} {_WINTER} {_CLEANED}", _RARE, "air-locked"),
    _cause("outlet-too-high", "kit", _every, f"{_NEW} {_REWIRED}", _RARE, "water-fallen"),
)  # fmt: skip
CAUSES: Mapping[str, Cause] = {cause.code: cause for cause in _ALL}


def causes_of(chain: Chain) -> list[Cause]:
    """What can be wrong with this kit, in the order of the table."""
    return [cause for cause in _ALL if cause.can(chain)]


# So many findings of a yard weigh as much as the trade's own guess. Common practice, no source.
_YARD_WEIGHS = 4.0


@dataclass(frozen=True)
class Frequencies:
    """What a yard knows of its faults beside the trade's guesses.

    Attributes
    ----------
    found : mapping
        How often each cause was found before.
    said : mapping
        Of how many in a hundred faults the owner says that it is the cause, instead of the trade's guess.
    logged : mapping
        How much likelier the kit's own log makes each cause, see :func:`squall.core.upkeep.suspects.times_likelier`.
    """

    found: Mapping[str, int] = field(default_factory=dict)
    said: Mapping[str, float] = field(default_factory=dict)
    logged: Mapping[str, float] = field(default_factory=dict)

    def __hash__(self) -> int:
        return hash(tuple(tuple(sorted(told.items())) for told in (self.found, self.said, self.logged)))


NOTHING_KNOWN = Frequencies()


def trade_share(cause: Cause) -> float:
    """Of how many in a hundred faults a cause is thought to be the one: common practice, no source. [in a hundred]"""
    return 100.0 * cause.weight / sum(one.weight for one in _ALL)


def of_yard(cause: Cause, known: Frequencies) -> float:
    """How much likelier a cause is by what was found before in this yard, by what its owner says and by the kit's log, beside the trade's guess. [-]"""
    said = known.said.get(cause.code)
    own = 1.0 if said is None else said / trade_share(cause)
    return own * (1.0 + known.found.get(cause.code, 0) / _YARD_WEIGHS) * known.logged.get(cause.code, 1.0)


def prior(cause: Cause, chain: Chain, story: Story, air_c: float) -> float:
    """How likely a cause is before anything was looked at, beside the others.

    Parameters
    ----------
    cause : Cause
        The cause.
    chain : Chain
        The kit; its hours make what wears likelier.
    story : str
        What happened before.
    air_c : float
        Air temperature: ice only where it freezes. [°C]

    Returns
    -------
    float
        A weight; they needn't add up. [-]
    """
    share = cause.weight * cause.story_share(story)
    if cause.code in ("brushes-worn", "impeller-worn", "valves-worn", "rotor-drags"):
        # Brushes are worn out after 700 to 800 hours: common practice, no source.
        share *= 0.8 + 0.6 * min(chain.age_hours / 800.0, 1.0)
    if cause.code == "ice":
        share *= 6.0 if air_c < 2.0 else 0.02
    return share
