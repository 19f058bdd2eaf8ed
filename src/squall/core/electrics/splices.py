"""How the cable is joined at the pump, and what such a joint takes and stands."""

from dataclasses import dataclass
from typing import Literal

from squall.core.reason import Reason

SpliceKind = Literal["sleeve", "resin", "silicone", "clips"]


@dataclass(frozen=True)
class Splice:
    """One way to join a core.

    Attributes
    ----------
    ohm : float
        That a joint takes as it is made. [ohm]
    under_water : str
        ``holds``; ``fails-first`` of the old cheap way; ``never``.
    """

    ohm: float
    under_water: Literal["holds", "fails-first", "never"]


# A crimp or solder joint takes about a milliohm, a twist in silicone some more, a clip's teeth many: common practice, no source.
SPLICES: dict[SpliceKind, Splice] = {
    "sleeve": Splice(0.001, "holds"),
    "resin": Splice(0.001, "holds"),
    "silicone": Splice(0.003, "fails-first"),
    "clips": Splice(0.02, "never"),
}


def splice_words(kind: SpliceKind) -> Reason:
    """How a core's end is joined, in words."""
    return Reason(f"splice-{kind}")
