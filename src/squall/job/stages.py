"""The stages of a job, in one table: what a stage is called, which key opens it, what it asks, what it draws.

A row is all that names a stage. Its page is ``web/stages/KEY.py`` with its ``panel``, ``templates/KEY/panel.html``
and, where it tells figures, ``job/told/KEY.py``.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field

from squall.words import Message, later

_FIRST = later("The day")


@dataclass(frozen=True)
class Stage:
    """One stage, or a page under one.

    Attributes
    ----------
    key : str
        In addresses, and name of its modules.
    name, asks : Message
        What it is called, and the question that it answers.
    letter : str
        The key that opens it; empty for a page under a stage.
    under : str or None
        The stage that the page belongs to, whose lens it shares.
    charts : bool
        Whether its page has charts.
    own_parts : mapping
        Parts of the drawing that this stage's own page has a place for: part to anchor.
    home_of : tuple[str, ...]
        Parts of the drawing whose panel is here, from whatever stage they are clicked.
    first : Message
        What the stage's own page is called in the row of pages under it.
    anywhere : bool
        Whether the page can say something before anybody has said where the job is.
    air : bool
        Whether what the page says hangs on cold, heat or rain, and so must say where those are guessed.
    """

    key: str
    name: Message
    asks: Message
    letter: str = ""
    under: str | None = None
    charts: bool = False
    own_parts: Mapping[str, str] = field(default_factory=dict)
    home_of: tuple[str, ...] = ()
    first: Message = _FIRST
    anywhere: bool = False
    air: bool = False

    @property
    def lens(self) -> str:
        """The stage by which the drawing is coloured."""
        return self.under or self.key


_ALL = (
    Stage("survey", later("Survey"), later("what water, how far up, how far along"), "s", charts=True,
          own_parts={"water": "water", "lift": "lift"}, home_of=("water", "lift", "run", "place"), first=later("Water and run"), anywhere=True),
    Stage("place", later("The place"), later("where it is, and what light it has"), under="survey", anywhere=True),
    Stage("need", later("Need"), later("how much, when"), "d", own_parts={"outlet": "outlet"}, home_of=("outlet",), air=True),
    Stage("lift", later("Lift"), later("which pump gives that here"), "l", charts=True, own_parts={"pump": "pump"},
          home_of=("pump",), anywhere=True),
    Stage("power", later("Power"), later("what day the panels make"), "p", charts=True, own_parts={"panel": "panel"},
          home_of=("panel",)),
    Stage("sun", later("Sun and shade"), later("how the panels stand, what shades them"), under="power", charts=True),
    Stage("join", later("Joining"), later("how the panels are joined, what the pump does at every light"),
          under="power", charts=True, air=True),
    Stage("store", later("Tank and battery"), later("what carries the gaps"), under="power"),
    Stage("years", later("The years"), later("how many days in a hundred run short"), under="power", charts=True),
    Stage("outdoors", later("Frost and wind"), later("what winter and wind do"), under="power", air=True),
    Stage("kits", later("Kits"), later("which kits would do it"), "k", charts=True, air=True),
    Stage("wire", later("Wire"), later("which cable, which fuse"), "w",
          own_parts={"cable-pump": "cable-pump", "cable-array": "cable-array", "box": "box"},
          home_of=("box", "cable-pump", "cable-array"), first=later("Cables and fuse")),
    Stage("circuit", later("Circuit"), later("what is joined to what, in which order, and what a meter reads there"), under="wire",
          own_parts={"panel": "panel", "box": "box", "cable-pump": "cable-pump", "cable-array": "cable-array", "pump": "pump"}),
    Stage("fit", later("Fit"), later("what is cut, what hangs on the rope, which step comes next"), "f",
          first=later("Steps")),
    Stage("quote", later("Quote"), later("what it costs on the day and in ten years"), under="fit"),
    Stage("prove", later("Prove"), later("is it doing what it should, now"), "v",
          own_parts={"panel": "open-volts", "pump": "pump-volts", "outlet": "outlet-flow"}, first=later("Test points")),
    Stage("commission", later("First plug"), later("every test before it is handed over, in the order of a careful hand"), under="prove"),
    Stage("live", later("Live"), later("what it reads as it runs, from a logger"), under="prove"),
    Stage("fault", later("Fault"), later("what is wrong, and which look is worth the walk"), "x"),
    Stage("keep", later("Keep"), later("is it wearing, what is due"), "e", charts=True, first=later("Visits and upkeep")),
    Stage("learned", later("As learned"), later("what its visits say it really gives, beside what was stated"), under="keep", air=True),
    Stage("logger", later("Logger"), later("what a logger's file tells of it"), under="keep"),
)  # fmt: skip

STAGES: dict[str, Stage] = {stage.key: stage for stage in _ALL}
MAIN: tuple[Stage, ...] = tuple(stage for stage in _ALL if stage.under is None)
HOME: dict[str, str] = {part: stage.key for stage in _ALL for part in stage.home_of}


def pages_under(key: str) -> tuple[Stage, ...]:
    """The pages of the stage that a page belongs to."""
    return tuple(stage for stage in _ALL if stage.under == STAGES[key].lens)
