"""The job as a document: every quantity as typed, and in SI."""

from typing import Annotated, Any, Literal

from pydantic import Field, StringConstraints, model_validator

from squall.core.electrics.splices import SpliceKind
from squall.job.document.base import Count, Doc, Identifier, Name, PartId, Tidy, Typed, quantity
from squall.job.document.fitting import FitDoc, QuoteDoc
from squall.job.document.need import HerdRow, UseDoc, WantDoc
from squall.job.document.own_pumps import OwnPoint, OwnPump
from squall.job.document.parts import OwnedRow, PartCopy
from squall.job.document.power import (
    BankDoc,
    CableRow,
    HorizonRow,
    LotRow,
    MountDoc,
    OutdoorsDoc,
    StoreDoc,
    TimerRow,
    YearsDoc,
)
from squall.job.document.survey import (
    AirDoc,
    AirMonth,
    Carries,
    CatchDoc,
    DoubtDoc,
    FileSky,
    LevelDoc,
    LevelReading,
    MeasuredLight,
    OutletDoc,
    PondDoc,
    PondReading,
    SkyDoc,
    SkyMonth,
    TestReading,
    WellDoc,
)
from squall.words.message import System

FORMAT: Literal["squall-job"] = "squall-job"
VERSION: Literal[2] = 2
# The climate whose light comes from the world's table.
WORLD_CLIMATE = "world"
# The climate that a weather file told.
FILE_CLIMATE = "file"
# So many sets of readings one job may hold, in its file as in the database.
MOST_VISITS = 5000


class Piece(Doc):
    """One piece of the run, water to outlet.

    `hose` is a catalogue identifier, or ``own`` with `bore` and `roughness`. A `fixed` piece
    keeps its hose whatever the kit. `side` says whether a surface pump draws through it;
    `end_height` where its end stands above the water.
    """

    id: Identifier
    name: Name
    length: Typed
    hose: PartId
    bore: Typed
    roughness: Typed
    fittings: dict[Identifier, Count]
    fixed: bool = False
    side: Literal["suction", "delivery"] = "delivery"
    end_height: Typed | None = None


Share = Annotated[float, Field(ge=0.0, le=0.95)]
# No offset is learned beyond two and a half of its standard deviations: the widest is a fifth.
Off = Annotated[float, Field(ge=-0.25, le=0.25)]


class LearnedDoc(Doc):
    """What a kit's visits had taught of it on a day, as :class:`squall.core.upkeep.learned.Learned` has it.

    `of` marks the parts that it was learned of: of a part that has become another one it tells nothing any more.
    """

    day: Annotated[str, StringConstraints(pattern=r"^\d{4}-\d\d-\d\d$")]
    visits: Annotated[int, Field(ge=1, le=MOST_VISITS)]
    of: dict[Annotated[str, StringConstraints(max_length=10)], Annotated[str, StringConstraints(max_length=20)]]
    light_lost: Share = 0.0
    head_lost: Share = 0.0
    flow_lost: Share = 0.0
    joint_ohm: Annotated[float, Field(ge=0.0, le=8.0)] = 0.0
    drag: Annotated[float, Field(ge=0.0, le=6.0)] = 0.0
    cable: Off = 0.0
    winding: Off = 0.0
    amps: Off = 0.0
    head: Off = 0.0
    panel_a: Off = 0.0
    panel_v: Off = 0.0
    lift_m: Annotated[float, Field(ge=-20.0, le=20.0)] = 0.0


class OptionDoc(Doc):
    """A kit of the job, by catalogue identifiers and cable keys."""

    id: Identifier
    name: Name
    pump: PartId
    pumps: Annotated[int, Field(ge=1, le=2)] = 1
    source: Literal["panel", "controller", "battery"]
    panel: PartId
    in_series: Annotated[int, Field(ge=1, le=12)]
    in_parallel: Annotated[int, Field(ge=1, le=12)]
    hose: PartId | None
    controller: PartId | None
    battery: PartId | None
    batteries_in_series: Annotated[int, Field(ge=1, le=8)] = 1
    tank: PartId | None = None
    dial: Typed = quantity("100 %", 1.0)
    fuse: Typed | None = None
    cut_from: Name = ""
    pump_cable: Annotated[str, StringConstraints(max_length=20)]
    array_cable: Annotated[str, StringConstraints(max_length=20)] | None
    # By what its visits taught its water is judged, where somebody asked for that; else by its label.
    learned: LearnedDoc | None = None


class ReadingValue(Doc):
    """One measured value with what it should have been, all in SI."""

    point: Literal["open-volts", "short-amps", "rest-volts", "pump-volts", "pump-amps", "outlet-flow"]
    measured: Typed
    expected: float | None
    low: float | None
    high: float | None
    verdict: Literal["good", "low", "high"] | None


class Visit(Doc):
    """Readings taken at one time, in one light, on one option."""

    id: Identifier
    at: Annotated[str, StringConstraints(pattern=r"^\d{4}-\d\d-\d\dT\d\d:\d\d(:\d\d)?Z?$")]
    option: Name
    irradiance_w_m2: float
    air_c: float
    told_by: Name
    values: Annotated[list[ReadingValue], Field(max_length=20)]
    # What was done then, as the upkeep's words have it, and what was noted.
    done: list[Annotated[str, StringConstraints(max_length=40)]] = Field(default_factory=list, max_length=20)
    note: Annotated[str, Tidy, StringConstraints(max_length=400)] = ""
    # What the pump's hour meter showed, if it has one.
    meter: Typed | None = None
    # When the entry was put right last, and by whom if they have a name; empty if it stands as it was kept.
    put_right_at: Annotated[str, StringConstraints(max_length=20)] = ""
    put_right_by: Name = ""


class Job(Doc):
    """A whole job; ``format`` and ``version`` open every exported file."""

    format: Literal["squall-job"] = FORMAT
    version: Literal[2] = VERSION
    name: Name
    place: Name = ""
    notes: Annotated[str, Tidy, StringConstraints(max_length=4000)] = ""

    # Fields of a new job, and of its new rows, that nobody has typed yet.
    unsaid: list[Annotated[str, StringConstraints(max_length=60)]] = Field(default_factory=list, max_length=1000)

    # Empty until a place is given; what is empty below follows from the place.
    latitude: Typed | None = None
    longitude: Typed | None = None
    altitude: Typed | None = None
    clock_offset: Typed | None = None
    climate: PartId
    tilt: Typed | None = None
    azimuth: Typed | None = None
    dirt: Typed

    water: Literal["spring", "well", "cistern", "stream", "pond"]
    water_temperature: Typed
    lift: Typed
    lift_how: Literal["eye", "map", "level", "tape"] = "eye"
    pump_depth: Typed
    rim: Typed
    outlet: Literal["open", "tank-above", "tank-below", "loop"]
    end_pressure: Typed
    relief: Typed | None = None
    restrict_flow: Typed | None = None
    restrict_at: Typed = quantity("10 m", 10.0)
    run: Annotated[list[Piece], Field(min_length=1, max_length=40)]
    outlets: list[OutletDoc] = Field(default_factory=list, max_length=8)
    served: Literal["carried", "turn", "together"] = "turn"
    level: LevelDoc = LevelDoc()
    well: WellDoc = WellDoc()
    pond: PondDoc = PondDoc()
    roof: CatchDoc = CatchDoc()
    carries: Carries = Carries()
    sky: SkyDoc | None = None
    air: AirDoc = AirDoc()
    file_sky: FileSky | None = None
    measured: list[MeasuredLight] = Field(default_factory=list, max_length=12)
    doubt: DoubtDoc = DoubtDoc()
    mount: MountDoc = MountDoc()
    store: StoreDoc = StoreDoc()
    bank: BankDoc = BankDoc()
    years: YearsDoc = YearsDoc()
    outdoors: OutdoorsDoc = OutdoorsDoc()
    fit: FitDoc = FitDoc()
    quote: QuoteDoc = QuoteDoc()

    need_by: Literal["litres", "herd"]
    litres: Typed
    herd: Annotated[list[HerdRow], Field(max_length=40)]
    months: Annotated[list[Typed | None], Field(min_length=12, max_length=12)]
    uses: list[UseDoc] = Field(default_factory=list, max_length=40)
    want: WantDoc = WantDoc()

    own_pumps: list[OwnPump] = Field(default_factory=list, max_length=12)
    parts: list[PartCopy] = Field(default_factory=list, max_length=200)
    owned: list[OwnedRow] = Field(default_factory=list, max_length=60)
    lot: list[LotRow] = Field(default_factory=list, max_length=12)

    array_cable: Typed
    pump_cable: Typed
    ambient: Typed
    max_drop: Typed
    wire_standard: Literal["metric", "awg"]
    cables: list[CableRow] = Field(default_factory=list, max_length=8)
    splice: SpliceKind = "sleeve"
    protection: Literal["fuse", "breaker"]
    devices: Annotated[list[PartId], Field(max_length=20)]
    # Of the devices those that drive the relay's coil in place of carrying the pump's amps.
    pilots: Annotated[list[PartId], Field(max_length=20)] = Field(default_factory=list)

    options: Annotated[list[OptionDoc], Field(max_length=12)]
    chosen: Identifier | None
    visits: Annotated[list[Visit], Field(max_length=MOST_VISITS)]

    @model_validator(mode="before")
    @classmethod
    def _of_an_older_version(cls, data: Any) -> Any:
        """A document of version 1 lacks what version 2 added; the added fields begin as they stand here."""
        if isinstance(data, dict) and data.get("version") == 1:
            return {**data, "version": VERSION}
        return data

    @property
    def placed(self) -> bool:
        """Whether it is known where the job is."""
        return self.latitude is not None and self.longitude is not None

    @property
    def used_parts(self) -> set[str]:
        """Identifiers of all parts that it names."""
        named = [
            getattr(o, slot)
            for o in self.options
            for slot in ("pump", "panel", "controller", "battery", "hose", "tank")
        ]
        named += [key for piece in self.run for key in (piece.hose, *piece.fittings)]
        named += [outlet.hose for outlet in self.outlets] + [row.panel for row in self.lot]
        return {key for key in (*named, *self.devices, *(row.part for row in self.owned)) if key}

    @property
    def option(self) -> OptionDoc | None:
        """The chosen option."""
        return next((option for option in self.options if option.id == self.chosen), None)


# How a new job begins, as people of each system would write it, in SI: (metric, US).
_BEGINNINGS: dict[str, tuple[tuple[str, float], tuple[str, float]]] = {
    "water_temperature": (("14 °C", 14.0), ("57 °F", 125.0 / 9.0)),
    "lift": (("6 m", 6.0), ("20 ft", 6.096)),
    "pump_depth": (("0.5 m", 0.5), ("1.5 ft", 0.4572)),
    "rim": (("0.6 m", 0.6), ("2 ft", 0.6096)),
    "end_pressure": (("0 m", 0.0), ("0 ft", 0.0)),
    "length": (("20 m", 20.0), ("65 ft", 19.812)),
    "bore": (("19.1 mm", 0.0191), ("0.752 in", 0.0191008)),
    "roughness": (("0.007 mm", 0.000007), ("0.00028 in", 7.112e-6)),
    "litres": (("500 L", 0.5), ("130 gal", 0.49210353)),
    "array_cable": (("3 m", 3.0), ("10 ft", 3.048)),
    "pump_cable": (("10 m", 10.0), ("33 ft", 10.0584)),
    "ambient": (("35 °C", 35.0), ("95 °F", 35.0)),
}


def new_job(name: str, system: System = "metric") -> Job:
    """A job with plain beginnings, to be overwritten by the survey.

    Parameters
    ----------
    name : str
        Its name.
    system : str
        ``metric`` or ``us``: whose units its first figures are typed in, and whose cable sizes it goes by.

    Returns
    -------
    Job
        Without place and kit, need of one round figure.
    """

    def begin(key: str) -> Typed:
        return quantity(*_BEGINNINGS[key][system == "us"])

    return Job(
        name=name,
        unsaid=["water", "lift", "run.p1.length", "litres", "pump_depth", "array_cable", "pump_cable", "bank.lead"],
        climate=WORLD_CLIMATE,
        dirt=quantity("5 %", 0.05),
        water="spring",
        water_temperature=begin("water_temperature"),
        lift=begin("lift"),
        pump_depth=begin("pump_depth"),
        rim=begin("rim"),
        outlet="open",
        end_pressure=begin("end_pressure"),
        run=[
            Piece(
                id="p1", name="hose", length=begin("length"), hose="hose-19", bore=begin("bore"),
                roughness=begin("roughness"), fittings={"adapter": 1, "exit": 1},
            )
        ],
        need_by="litres",
        litres=begin("litres"),
        herd=[],
        months=[None] * 12,
        want=WantDoc(),
        array_cable=begin("array_cable"),
        pump_cable=begin("pump_cable"),
        ambient=begin("ambient"),
        max_drop=quantity("5 %", 0.05),
        wire_standard="awg" if system == "us" else "metric",
        protection="fuse",
        devices=[],
        options=[],
        chosen=None,
        visits=[],
    )  # fmt: skip


__all__ = [
    "FILE_CLIMATE",
    "FORMAT",
    "VERSION",
    "WORLD_CLIMATE",
    "AirDoc",
    "AirMonth",
    "BankDoc",
    "Carries",
    "CatchDoc",
    "Count",
    "Doc",
    "DoubtDoc",
    "HerdRow",
    "HorizonRow",
    "Job",
    "LevelDoc",
    "LevelReading",
    "LotRow",
    "MeasuredLight",
    "MountDoc",
    "OptionDoc",
    "OutdoorsDoc",
    "OutletDoc",
    "OwnPoint",
    "OwnPump",
    "OwnedRow",
    "PartCopy",
    "Piece",
    "PondDoc",
    "PondReading",
    "ReadingValue",
    "SkyDoc",
    "SkyMonth",
    "StoreDoc",
    "TestReading",
    "TimerRow",
    "Typed",
    "UseDoc",
    "Visit",
    "WantDoc",
    "WellDoc",
    "YearsDoc",
    "new_job",
    "quantity",
]  # fmt: skip
