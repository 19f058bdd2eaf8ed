"""Pumps that the job brings along: a maker's curve, bucket tests, or only a label."""

from typing import Literal

from pydantic import Field

from squall.job.document.base import Doc, Identifier, Name, Typed, quantity

# Hours until worn until somebody says better: brushed ones by common practice 700 to 800; without brushes "years", a guess.
LIFE_BRUSHED, LIFE_BRUSHLESS = quantity("750 h", 750.0), quantity("6000 h", 6000.0)


class OwnPoint(Doc):
    """One point: a flow, or a bucket and the seconds it took, at a height; amps if they were read."""

    id: Identifier
    height: Typed
    flow: Typed = quantity("0 L/min", 0.0)
    bucket: Typed = quantity("10 L", 0.01)
    seconds: Typed = quantity("60 s", 60.0)
    amps: Typed | None = None


class OwnPump(Doc):
    """A pump that is not in the catalogue."""

    id: Identifier
    name: Name
    by: Literal["curve", "bucket", "label"] = "label"
    end: Literal["centrifugal", "helical", "diaphragm", "piston"] = "centrifugal"
    placement: Literal["submersible", "surface", "bilge"] = "submersible"
    brushed: bool = True
    volts: Typed = quantity("12 V", 12.0)
    most_volts: Typed | None = None
    watts: Typed = quantity("50 W", 50.0)
    label_flow: Typed = quantity("20 L/min", 20.0 / 60_000.0)
    label_height: Typed = quantity("10 m", 10.0)
    points: list[OwnPoint] = Field(default_factory=list, max_length=20)
    life: Typed = LIFE_BRUSHED
    price: Typed = quantity("0", 0.0)
    barb: Typed = quantity("19 mm", 0.019)
    fuse: Typed | None = None
