"""What the survey writes down of the water: levels, the well, the pond, the roof, and the sky over it."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from squall.job.document.base import Count, Day, Doc, Identifier, Name, PartId, Typed, quantity
from squall.job.document.need import Month

# Shares of the days that a weather file's months are kept at: those of the world's table.
SHARES_KEPT = 21
Way = Literal["look", "pebble", "line", "tape", "meter"]


class LevelReading(Doc):
    """One reading of the water level.

    `value` is the depth measured, or for a pebble the seconds; `raised` how far above the datum
    it was measured from; `off` the hand's own word for how far it may be wrong.
    """

    id: Identifier
    way: Way
    value: Typed
    raised: Typed = quantity("0 m", 0.0)
    off: Typed | None = None
    on: Day = ""


class LevelDoc(Doc):
    """How the level is known: a typed lift, or readings below a named datum."""

    by: Literal["lift", "readings"] = "lift"
    datum: Name = "the rim"
    outlet_height: Typed = quantity("0 m", 0.0)
    air: Typed = quantity("15 °C", 15.0)
    thumb: Typed = quantity("0.2 s", 0.2)
    readings: list[LevelReading] = Field(default_factory=list, max_length=40)


class TestReading(Doc):
    """One level of a pumping test: time since the pump started, and depth below the datum."""

    id: Identifier
    after: Typed
    level: Typed


class WellDoc(Doc):
    """A well: where its pump hangs, how deep it is, what it gives and how far its level falls."""

    hang_depth: Typed | None = None
    total_depth: Typed | None = None
    told_depth: Typed | None = None
    bore: Typed | None = None
    gives: Typed | None = None
    cover: Typed = quantity("1 m", 1.0)
    clear: Typed = quantity("0.5 m", 0.5)
    drawdown_by: Literal["none", "typed", "test"] = "none"
    drawdown: Typed = quantity("1 m", 1.0)
    drawdown_flow: Typed = quantity("10 L/min", 10.0 / 60_000.0)
    hours: Typed = quantity("8 h", 8.0)
    test_flow: Typed = quantity("10 L/min", 10.0 / 60_000.0)
    test_standing: Typed | None = None
    test: list[TestReading] = Field(default_factory=list, max_length=60)


class OutletDoc(Doc):
    """One more place that shares the kit: its lift, its own hose from where it leaves the run, its share of the day's water.

    `after` is the piece of the run behind which it leaves; empty at the pump.
    """

    id: Identifier
    name: Name
    lift: Typed
    after: PartId = ""
    length: Typed
    hose: PartId = "hose-19"
    bore: Typed = quantity("19.1 mm", 0.0191)
    roughness: Typed = quantity("0.007 mm", 0.000007)
    fittings_k: Typed = quantity("1.5", 1.5)
    fixed: bool = False
    share: Typed


class PondReading(Doc):
    """Depth of water at the deepest place on a day."""

    id: Identifier
    on: Day
    depth: Typed


class PondDoc(Doc):
    """A pond as an account: its shape, what runs in, what is lost."""

    depth_full: Typed = quantity("2 m", 2.0)
    area_full: Typed = quantity("300 m²", 300.0)
    shape: Literal["straight", "wedge", "bowl"] = "bowl"
    intake: Typed = quantity("0.5 m", 0.5)
    inflow_by: Literal["typed", "readings"] = "typed"
    inflow: Typed = quantity("0 L", 0.0)
    seepage: Typed = quantity("2 mm", 0.002)
    draw: Typed = quantity("0 L", 0.0)
    readings: list[PondReading] = Field(default_factory=list, max_length=60)


class CatchDoc(Doc):
    """A roof, its tanks, and the overflow."""

    used: bool = False
    roof: Typed = quantity("60 m²", 60.0)
    runoff: Typed = quantity("85 %", 0.85)
    first_flush: Typed = quantity("0.5 mm", 0.0005)
    barrels: Annotated[int, Field(ge=1, le=1000)] = 2
    barrel: Typed = quantity("1000 L", 1.0)
    storm: Typed = quantity("50 mm", 0.05)
    overflow: Typed = quantity("50 mm", 0.05)
    overflow_head: Typed = quantity("0.1 m", 0.1)


class Carries(Doc):
    """What the water brings along, and who drinks it."""

    sand: bool = False
    silt: bool = False
    clay: bool = False
    weed: bool = False
    leaves: bool = False
    drunk_by: Literal["stock", "people", "nobody"] = "stock"


class SkyMonth(Doc):
    """One month of a climate that was typed: light on the level a day, air, rain, wind, damp."""

    light: Typed
    t_min: Typed
    t_max: Typed
    rain: Typed
    wet_days: Typed


class SkyDoc(Doc):
    """A climate of the user's own; used where the job's climate is ``own``."""

    record_low: Typed
    record_high: Typed
    months: Annotated[list[SkyMonth], Field(min_length=12, max_length=12)]


class AirMonth(Doc):
    """One month's air and rain, as typed."""

    t_min: Typed
    t_max: Typed
    rain: Typed
    wet_days: Typed


class AirDoc(Doc):
    """The air of a place whose light comes from the world's table: guessed, or known in one of three ways.

    `like` is a climate of the catalogue; `record_low` and `record_high` rule over any of them.
    """

    by: Literal["guessed", "extremes", "months", "like"] = "guessed"
    hottest: Typed | None = None
    coldest: Typed | None = None
    like: PartId = "ridge"
    months: list[AirMonth] = Field(default_factory=list, max_length=12)
    record_low: Typed | None = None
    record_high: Typed | None = None


Light = Annotated[float, Field(ge=0.0, le=15.0)]
Celsius = Annotated[float, Field(ge=-60.0, le=60.0)]


class FileMonthDoc(Doc):
    """A month of a weather file: the mean light on the level of its days, what shares of them stay under, and its air. [kWh/m2], [°C]"""

    mean: Light
    under: Annotated[list[Light], Field(min_length=SHARES_KEPT, max_length=SHARES_KEPT)]
    t_min: Celsius
    t_max: Celsius

    @model_validator(mode="after")
    def _rising(self) -> "FileMonthDoc":
        if sorted(self.under) != self.under or self.t_min > self.t_max:
            raise ValueError(
                "a month of a weather file rises from its dullest day to its brightest, and from its coldest to its warmest hour"
            )
        return self


class FileSky(Doc):
    """What a weather file told of light and air: its name, the place it names, and its twelve months."""

    name: Name
    latitude: Annotated[float, Field(ge=-90.0, le=90.0)] | None = None
    longitude: Annotated[float, Field(ge=-180.0, le=180.0)] | None = None
    months: Annotated[list[FileMonthDoc], Field(min_length=12, max_length=12)]


class MeasuredLight(Doc):
    """A month's light on the level as somebody measured it here; it corrects the table's month."""

    id: Identifier
    month: Month
    light: Typed


class DoubtDoc(Doc):
    """How far each input may be off, as a spread each way; empty, `lift` goes by how it was found, `light` by where it comes from."""

    lift: Typed | None = None
    lengths: Typed = quantity("5 %", 0.05)
    pump: Typed = quantity("5 %", 0.05)
    light: Typed | None = None


__all__ = [
    "AirDoc",
    "AirMonth",
    "Carries",
    "CatchDoc",
    "Count",
    "DoubtDoc",
    "LevelDoc",
    "LevelReading",
    "MeasuredLight",
    "PondDoc",
    "PondReading",
    "SkyDoc",
    "SkyMonth",
    "TestReading",
    "WellDoc",
]  # fmt: skip
