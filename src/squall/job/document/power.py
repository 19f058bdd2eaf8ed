"""What a job writes down of its panels' stand, its store, its battery, and the weather of its years."""

from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from squall.job.document.base import Count, Doc, Identifier, Name, PartId, Typed, quantity
from squall.job.document.need import Month


class HorizonRow(Doc):
    """One point of the horizon: where, and how high above the level."""

    id: Identifier
    azimuth: Typed
    height: Typed


class MountDoc(Doc):
    """A second tilt for some months, a second way to face, hills on the horizon, something near that shades."""

    second_tilt: Typed | None = None
    second_first: Month = 4
    second_last: Month = 9
    second_azimuth: Typed | None = None
    group_tilt: Typed | None = None
    third_azimuth: Typed | None = None
    third_tilt: Typed | None = None
    horizon: list[HorizonRow] = Field(default_factory=list, max_length=36)
    post: bool = False
    post_from: Typed = quantity("300°", 300.0)
    post_to: Typed = quantity("330°", 330.0)
    post_top: Typed = quantity("35°", 35.0)
    post_panels: Annotated[int, Field(ge=1, le=12)] = 1
    bypass: bool = True


# By what a kit names the job's odd lot of panels.
LOT = "odd-lot"


class LotRow(Doc):
    """Like panels of the odd lot: how many of them in which string."""

    id: Identifier
    panel: PartId
    count: Annotated[int, Field(ge=1, le=12)] = 1
    string: Annotated[int, Field(ge=1, le=12)] = 1


class StoreDoc(Doc):
    """The tank's float switch: how deep the water stands when full, the float's travel, the ripple under it."""

    float_switch: bool = True
    depth: Typed = quantity("1 m", 1.0)
    travel: Typed = quantity("0.3 m", 0.3)
    ripple: Typed = quantity("2 cm", 0.02)
    cut_in: Typed | None = None
    cut_out: Typed | None = None
    buffer: Typed = quantity("0 L", 0.0)
    small_flow: Typed | None = None


class TimerRow(Doc):
    """One start of the timer: when, how long, on which days."""

    id: Identifier
    at: Typed
    minutes: Typed
    monday: bool = True
    tuesday: bool = True
    wednesday: bool = True
    thursday: bool = True
    friday: bool = True
    saturday: bool = True
    sunday: bool = True


class LoadRow(Doc):
    """Another load on the bank: a lamp, a fence energizer, a second pump that counts as watts and hours."""

    id: Identifier
    name: Name
    watts: Typed = quantity("5 W", 5.0)
    hours: Typed = quantity("4 h", 4.0)


class CableRow(Doc):
    """A piece of a run that is of other cable than the kit's: in which run, its size, how long, where it lies, how warm."""

    id: Identifier
    run: Literal["array", "pump"] = "pump"
    size: Annotated[str, StringConstraints(max_length=20)] = "mm2:4"
    length: Typed = quantity("1 m", 1.0)
    place: Literal["air", "sun", "buried", "water"] = "air"
    air: Typed | None = None


class BankDoc(Doc):
    """How the battery has aged, its timer, and how far it stands from its charger."""

    age: Typed = quantity("90 %", 0.9)
    lead: Typed = quantity("2 m", 2.0)
    timer: list[TimerRow] = Field(default_factory=list, max_length=56)
    loads: list[LoadRow] = Field(default_factory=list, max_length=8)


class YearsDoc(Doc):
    """The weather that a kit is run through: made years by a seed, or a file's year by its name."""

    by: Literal["made", "file"] = "made"
    count: Count = 10
    seed: Annotated[int, Field(ge=0, le=1_000_000)] = 1
    file: Name = ""


class OutdoorsDoc(Doc):
    """Frost and wind: how the line lies, how the panels stand."""

    lies: Literal["open", "insulated", "buried"] = "open"
    buried: Typed = quantity("0.4 m", 0.4)
    wind: Typed = quantity("25 m/s", 25.0)
    stand: Literal["ground", "pole", "folding"] = "ground"
    clearance: Typed = quantity("0.6 m", 0.6)
    bags: Annotated[int, Field(ge=1, le=8)] = 1


DAY_NAMES = ("monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday")
