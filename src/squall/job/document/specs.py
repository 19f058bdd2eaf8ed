"""Every field of a job that can be typed: its label, kind and range.

A field is named by a path: ``lift``, ``well.total_depth``, ``run.p1.length``, ``herd.h2.count``.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from squall.core.need.demand import STATE_WORDS
from squall.core.sky.climate import MONTHS
from squall.core.sources.levels import WAYS
from squall.core.sources.ponds import SHAPES
from squall.job.document.power import DAY_NAMES

How = Literal["quantity", "choice", "words", "yes-no", "count", "cable", "date"]


@dataclass(frozen=True)
class FieldSpec:
    """How one field is typed.

    Attributes
    ----------
    label : str
        Plain words.
    how : str
        ``quantity``, ``choice``, ``words``, ``yes-no``, ``count``, ``date`` or ``cable``.
    kind : str
        Of a quantity: key of :data:`squall.words.units.KINDS`.
    low, high : float
        Range in SI.
    choices : mapping
        Of a choice: value to words.
    optional : bool
        May be left empty.
    hint : str
        One line beside the field.
    """

    label: str
    how: How = "quantity"
    kind: str = ""
    low: float = 0.0
    high: float = 0.0
    choices: Mapping[str, str] | None = None
    optional: bool = False
    hint: str = ""


WATER = {"spring": "spring pool", "well": "hand-dug or drilled well", "cistern": "cistern or tank", "stream": "stream",
         "pond": "pond"}  # fmt: skip
LEVEL_BY = {"lift": "the lift, typed", "readings": "depths to water, read from a datum"}
DRAWDOWN_BY = {"none": "stays where it stands", "typed": "falls by a known depth", "test": "from a pumping test"}
USE_KINDS = {"crop": "crop", "drip": "drippers", "taps": "taps and uses", "volume": "tank to be topped up",
             "channel": "water kept moving"}  # fmt: skip
OUTLET = {
    "open": "open outlet",
    "tank-above": "into a tank, from above",
    "tank-below": "into a tank, from below",
    "loop": "closed circuit, back to the start",
}
OWN_CLIMATE = "own"
MONTH_CHOICES = {str(number): name for number, name in enumerate(MONTHS, start=1)}
PLAIN: dict[str, FieldSpec] = {
    "name": FieldSpec("Name of the job", "words"),
    "place": FieldSpec("Place", "words", optional=True),
    "notes": FieldSpec("Notes", "words", optional=True),
    "latitude": FieldSpec("Latitude", kind="angle", low=-65, high=65, hint="south is negative"),
    "longitude": FieldSpec("Longitude", kind="angle", low=-180, high=180, hint="west is negative"),
    "altitude": FieldSpec("Altitude", kind="altitude", low=-430, high=5500),
    "clock_offset": FieldSpec("Clock, hours from UTC", kind="hours", low=-12, high=14),
    "tilt": FieldSpec("Panel tilt from level", kind="angle", low=0, high=90),
    "azimuth": FieldSpec("Panels face, from north clockwise", kind="angle", low=0, high=360, hint="0 is north"),
    "dirt": FieldSpec("Light lost to dirt and age", kind="share", low=0, high=0.6),
    "water": FieldSpec("Water comes from", "choice", choices=WATER),
    "water_temperature": FieldSpec("Water temperature", kind="temperature", low=0.1, high=60),
    "lift": FieldSpec("Lift: pumping water level to outlet", kind="head", low=0, high=250,
                      hint="from the water while pumping, not from where the pump hangs"),
    "level.by": FieldSpec("Lift is known from", "choice", choices=LEVEL_BY),
    "level.datum": FieldSpec("Datum: depths are counted from", "words"),
    "level.outlet_height": FieldSpec("Outlet stands above the datum", kind="head", low=-200, high=250,
                                     hint="below it is negative"),
    "level.air": FieldSpec("Air in the well", kind="temperature", low=-40, high=55),
    "level.thumb": FieldSpec("The thumb may be late by", kind="seconds", low=0.02, high=5),
    "well.hang_depth": FieldSpec("Pump hangs below the datum", kind="head", low=0, high=250, optional=True),
    "well.total_depth": FieldSpec("Bottom below the datum", kind="head", low=0, high=300, optional=True),
    "well.bore": FieldSpec("Bore of the well", kind="bore", low=0.03, high=6, optional=True),
    "well.gives": FieldSpec("Yield: it recovers", kind="flow", low=0, high=0.1, optional=True,
                            hint="litres a minute that flow in"),
    "well.cover": FieldSpec("Water wanted over the pump", kind="head", low=0, high=50),
    "well.clear": FieldSpec("Clear of the bottom", kind="head", low=0, high=50, hint="mud and sand"),
    "well.drawdown_by": FieldSpec("Level while pumping", "choice", choices=DRAWDOWN_BY),
    "well.drawdown": FieldSpec("It falls by", kind="head", low=0, high=200),
    "well.drawdown_flow": FieldSpec("when this is pumped", kind="flow", low=1e-6, high=0.1),
    "well.hours": FieldSpec("Hours pumped in a day", kind="hours", low=0.1, high=24),
    "well.test_flow": FieldSpec("Steady flow of the test", kind="flow", low=1e-6, high=0.1),
    "pond.depth_full": FieldSpec("Depth when full, at the deepest", kind="head", low=0.05, high=60),
    "pond.area_full": FieldSpec("Surface when full", kind="ground", low=0.1, high=1e7),
    "pond.shape": FieldSpec("Shape", "choice", choices=SHAPES),
    "pond.intake": FieldSpec("Intake is bare at a depth of", kind="head", low=0, high=60),
    "pond.inflow_by": FieldSpec("Inflow is known from", "choice",
                                choices={"typed": "a figure, typed", "readings": "two readings of the level"}),
    "pond.inflow": FieldSpec("Inflow a day", kind="litres", low=0, high=1e5),
    "pond.seepage": FieldSpec("Seeps away a day", kind="rain", low=0, high=0.2),
    "pond.draw": FieldSpec("Others draw a day", kind="litres", low=0, high=1e5),
    "roof.used": FieldSpec("Filled by rain off a roof", "yes-no"),
    "roof.roof": FieldSpec("Roof, in plan", kind="ground", low=0.1, high=1e6),
    "roof.runoff": FieldSpec("Share that reaches the gutter", kind="share", low=0, high=1),
    "roof.first_flush": FieldSpec("First flush let go, of each rain", kind="rain", low=0, high=0.02),
    "roof.barrels": FieldSpec("Linked tanks", "count", low=1),
    "roof.barrel": FieldSpec("Each holds", kind="litres", low=0.001, high=10_000),
    "roof.storm": FieldSpec("Storm to be passed, in an hour", kind="rain", low=0, high=0.5),
    "roof.overflow": FieldSpec("Overflow's bore", kind="bore", low=0.005, high=1),
    "roof.overflow_head": FieldSpec("Water over its middle before the tank spills", kind="head", low=0.005, high=5),
    "carries.sand": FieldSpec("Sand", "yes-no"),
    "carries.silt": FieldSpec("Silt", "yes-no"),
    "carries.clay": FieldSpec("Red clay", "yes-no"),
    "carries.weed": FieldSpec("Weed", "yes-no"),
    "carries.leaves": FieldSpec("Leaves", "yes-no"),
    "carries.drunk_by": FieldSpec("Drunk by", "choice",
                                  choices={"stock": "animals", "people": "people", "nobody": "nobody"}),
    "sky.record_low": FieldSpec("Record low", kind="temperature", low=-50, high=40),
    "sky.record_high": FieldSpec("Record high", kind="temperature", low=-20, high=60),
    "doubt.lift": FieldSpec("Lift may be off by", kind="head", low=0, high=50,
                            hint="readings bring their own"),
    "doubt.lengths": FieldSpec("Lengths may be off by", kind="share", low=0, high=0.8),
    "doubt.pump": FieldSpec("Pump's curve may be off by", kind="share", low=0, high=0.8,
                            hint="a pump of your own brings its own"),
    "doubt.light": FieldSpec("The month's light may be off by", kind="share", low=0, high=0.8),
    "mount.second_tilt": FieldSpec("Second tilt, for some months", kind="angle", low=0, high=90, optional=True,
                                   hint="steeper for winter; empty: one tilt all year"),
    "mount.second_first": FieldSpec("Second tilt from", "choice", choices=MONTH_CHOICES),
    "mount.second_last": FieldSpec("to the end of", "choice", choices=MONTH_CHOICES),
    "mount.second_azimuth": FieldSpec("Half of the strings face, instead", kind="angle", low=0, high=360, optional=True,
                                      hint="90 is east, 270 is west; empty: all face one way"),
    "mount.group_tilt": FieldSpec("That half's tilt", kind="angle", low=0, high=90, optional=True, hint="empty: as the others"),
    "mount.post": FieldSpec("Something near shades a panel", "yes-no", hint="a post, a tree, a hand"),
    "mount.post_from": FieldSpec("It stands from", kind="angle", low=0, high=360, hint="seen from the panel, clockwise"),
    "mount.post_to": FieldSpec("to", kind="angle", low=0, high=360),
    "mount.post_top": FieldSpec("Its top stands above the level by", kind="angle", low=0, high=90),
    "mount.post_panels": FieldSpec("Panels of one string in its shadow", "count", low=1, high=12),
    "mount.bypass": FieldSpec("Panels have bypass diodes", "yes-no"),
    "store.float_switch": FieldSpec("A float switch stops the pump", "yes-no"),
    "store.depth": FieldSpec("Water stands in the full tank", kind="head", low=0.05, high=20),
    "store.travel": FieldSpec("Float's travel", kind="head", low=0.005, high=20, hint="from on to off"),
    "store.ripple": FieldSpec("Ripple under the float", kind="bore", low=0, high=1, hint="trough to crest"),
    "bank.age": FieldSpec("The battery still holds", kind="share", low=0.2, high=1, hint="of its rated charge"),
    "years.by": FieldSpec("Weather of the years", "choice",
                          choices={"made": "made, from the month climate", "file": "a weather file's year"}),
    "years.count": FieldSpec("Made years", "count", low=1, high=100),
    "years.seed": FieldSpec("Seed of the weather", "count", hint="the same seed, the same days"),
    "outdoors.lies": FieldSpec("The line lies", "choice", choices={
        "open": "open to the air", "insulated": "insulated", "buried": "buried"}),
    "outdoors.buried": FieldSpec("Depth of cover", kind="head", low=0, high=3),
    "outdoors.wind": FieldSpec("Strongest gust to stand", kind="wind", low=5, high=70),
    "outdoors.stand": FieldSpec("Panels stand on", "choice", choices={
        "ground": "a ground frame", "pole": "a post", "folding": "folding legs, for the day"}),
    "outdoors.clearance": FieldSpec("Their lower edge above ground", kind="head", low=0, high=4),
    "want.headroom": FieldSpec("Headroom: times the need", kind="number", low=1, high=5,
                               hint="2 is one school, 1 the other"),
    "want.reserve": FieldSpec("Days held in reserve", kind="number", low=0, high=30),
    "want.burst": FieldSpec("Drunk within the first hour", kind="share", low=0, high=1),
    "want.trough": FieldSpec("Trough and tank hold", kind="litres", low=0, high=10_000),
    "want.fall": FieldSpec("Tank stands above the drippers", kind="head", low=0, high=200, optional=True),
    "want.mended_by": FieldSpec("Who mends it", "choice",
                                choices={"nobody": "nobody near", "hand": "a hand with a spanner"}),
    "want.et": FieldSpec("Evapotranspiration after", "choice",
                         choices={"penman-monteith": "Penman-Monteith", "hargreaves": "Hargreaves"}),
    "pump_depth": FieldSpec("Pump hangs below the water", kind="head", low=0, high=100),
    "rim": FieldSpec("Bank or well rim above the water", kind="head", low=0, high=250),
    "outlet": FieldSpec("Outlet", "choice", choices=OUTLET),
    "end_pressure": FieldSpec("Pressure wanted at the outlet", kind="pressure", low=0, high=100),
    "need_by": FieldSpec("Need is given as", "choice", choices={"litres": "litres a day, typed", "herd": "a list: animals, crops, uses"}),
    "litres": FieldSpec("Water a day", kind="litres", low=0, high=1000),
    "array_cable": FieldSpec("Panel to box, one way", kind="length", low=0, high=500),
    "pump_cable": FieldSpec("Box to pump, one way", kind="length", low=0.1, high=500),
    "ambient": FieldSpec("Hottest air around the cables", kind="temperature", low=-20, high=60),
    "max_drop": FieldSpec("Drop allowed in the pump's cable", kind="share", low=0.005, high=0.2,
                          hint="3 % is good, 10 % the most"),
    "wire_standard": FieldSpec("Cable sizes", "choice", choices={"metric": "mm²", "awg": "AWG"}),
    "protection": FieldSpec("Protection", "choice", choices={"fuse": "fuse", "breaker": "DC breaker"}),
}  # fmt: skip
PIECE: dict[str, FieldSpec] = {
    "name": FieldSpec("Piece", "words"),
    "length": FieldSpec("Length", kind="length", low=0, high=20_000),
    "bore": FieldSpec("Inner diameter", kind="bore", low=0.003, high=0.5),
    "roughness": FieldSpec("Wall roughness", kind="bore", low=0, high=0.005),
    "fixed": FieldSpec("Keep this hose whatever the kit", "yes-no"),
    "side": FieldSpec("Side of a surface pump", "choice",
                      choices={"delivery": "delivery: it pushes", "suction": "suction: it draws"}),
    "end_height": FieldSpec("Its end stands above the water", kind="head", low=-250, high=250, optional=True,
                            hint="empty: straight to the next"),
}  # fmt: skip
TIMES: dict[str, FieldSpec] = {
    "first": FieldSpec("From month", "choice", choices=MONTH_CHOICES),
    "last": FieldSpec("to month", "choice", choices=MONTH_CHOICES),
    "from_hour": FieldSpec("From hour of the clock", kind="hours", low=0, high=24),
    "to_hour": FieldSpec("to hour", kind="hours", low=0, high=24),
}
ROWS: dict[str, dict[str, FieldSpec]] = {
    "run": PIECE,
    "herd": {
        "name": FieldSpec("Who drinks", "words"),
        "count": FieldSpec("Count", kind="number", low=0, high=100_000),
        "each": FieldSpec("Litres a head, hot day", kind="litres", low=0, high=10),
        "cool": FieldSpec("Litres a head, cool day", kind="litres", low=0, high=10, optional=True,
                          hint="empty: the same all year"),
        "state": FieldSpec("They are", "choice", choices=STATE_WORDS),
        **TIMES,
    },
    "level.readings": {
        "way": FieldSpec("Way", "choice", choices={key: way.name for key, way in WAYS.items()}),
        "value": FieldSpec("Depth read", kind="head", low=0.05, high=250),
        "raised": FieldSpec("Read from this far above the datum", kind="head", low=-20, high=20),
        "off": FieldSpec("May be off by", kind="head", low=0.001, high=50, optional=True,
                         hint="empty: as is usual for this way"),
        "on": FieldSpec("Read on", "date", optional=True),
    },
    "well.test": {
        "after": FieldSpec("After", kind="seconds", low=1, high=1e6),
        "level": FieldSpec("level", kind="head", low=0.01, high=250),
    },
    "pond.readings": {
        "on": FieldSpec("Day", "date"),
        "depth": FieldSpec("Depth", kind="head", low=0, high=60),
    },
    "options": {
        "in_series": FieldSpec("Panels in a string", "count", low=1, high=12),
        "in_parallel": FieldSpec("Strings side by side", "count", low=1, high=12),
        "dial": FieldSpec("Controller's speed dial", kind="share", low=0.2, high=1,
                          hint="full for any test; down to match a weak well"),
    },
    "mount.horizon": {
        "azimuth": FieldSpec("At azimuth", kind="angle", low=0, high=360),
        "height": FieldSpec("it stands", kind="angle", low=0, high=80),
    },
    "bank.timer": {
        "at": FieldSpec("Starts at", kind="clock", low=0, high=24, hint="such as 6:30"),
        "minutes": FieldSpec("runs", kind="minutes", low=60, high=86_400),
        **{day: FieldSpec(day.capitalize(), "yes-no") for day in DAY_NAMES},
    },
    "uses": {
        "name": FieldSpec("What for", "words"),
        "kind": FieldSpec("Kind", "choice", choices=USE_KINDS),
        **TIMES,
        "pressure": FieldSpec("Least pressure it needs", kind="pressure", low=0, high=100,
                              hint="drippers about 0.5 to 1 bar, tap timers 0.2 to 1 bar"),
        "area": FieldSpec("Area planted", kind="ground", low=0, high=1e7),
        "efficiency": FieldSpec("Reaches the roots", kind="share", low=0.05, high=1,
                                hint="drip about 90 %, hose 60 to 75 %"),
        "emitters": FieldSpec("Drippers", kind="number", low=0, high=1e6),
        "rate": FieldSpec("Each gives", kind="trickle", low=0, high=1e-3),
        "hours": FieldSpec("Hours a day", kind="hours", low=0, high=24),
        "row_length": FieldSpec("Length of the drip line", kind="length", low=0, high=1e5, optional=True,
                                hint="with spacing, counts the drippers"),
        "spacing": FieldSpec("Spacing of drippers", kind="length", low=0.02, high=50, optional=True),
        "times": FieldSpec("Uses a day", kind="number", low=0, high=100_000),
        "minutes": FieldSpec("Each lasts", kind="minutes", low=0, high=86_400),
        "flow": FieldSpec("Flow of the tap", kind="flow", low=0, high=0.1),
        "running": FieldSpec("Water runs for this share of it", kind="share", low=0, high=1),
        "volume": FieldSpec("Volume", kind="litres", low=0, high=1e5),
        "turnovers": FieldSpec("Turn-overs an hour", kind="number", low=0, high=100),
    },
    "own_pumps": {
        "name": FieldSpec("Name", "words"),
        "by": FieldSpec("Known from", "choice", choices={
            "curve": "its maker's curve", "bucket": "bucket tests", "label": "only its label"}),
        "end": FieldSpec("End", "choice", choices={key: key for key in ("centrifugal", "helical", "diaphragm", "piston")}),
        "placement": FieldSpec("Stands", "choice", choices={
            "submersible": "in the water, all of it", "bilge": "in the water, bilge kind", "surface": "beside the water"}),
        "brushed": FieldSpec("Has brushes", "yes-no"),
        "volts": FieldSpec("Volts of the label or test", kind="volts", low=1, high=400),
        "most_volts": FieldSpec("Most volts allowed", kind="volts", low=1, high=400, optional=True),
        "watts": FieldSpec("Watts there", kind="watts", low=0.5, high=5000),
        "label_flow": FieldSpec("Label's flow (no height)", kind="flow", low=1e-6, high=0.05),
        "label_height": FieldSpec("Label's height (flow stops)", kind="head", low=0.1, high=300),
        "life": FieldSpec("Hours until worn", kind="hours", low=1, high=1e6,
                          hint="brushed ones 700 to 800 by common practice"),
        "price": FieldSpec("Price", kind="number", low=0, high=1e6),
        "barb": FieldSpec("Hose tail", kind="bore", low=0.003, high=0.2),
        "fuse": FieldSpec("Largest fuse the maker allows", kind="amps", low=0.5, high=100, optional=True),
    },
    "own_pumps.points": {
        "height": FieldSpec("Height", kind="head", low=0, high=300),
        "flow": FieldSpec("Flow", kind="flow", low=0, high=0.05),
        "bucket": FieldSpec("Bucket", kind="litres", low=0.00005, high=1),
        "seconds": FieldSpec("filled in", kind="seconds", low=0.5, high=36_000),
        "amps": FieldSpec("Amps", kind="amps", low=0.01, high=200, optional=True),
    },
}  # fmt: skip
SKY_MONTH: dict[str, FieldSpec] = {
    "light": FieldSpec("Light on the level a day", kind="daylight", low=0.2, high=12),
    "t_min": FieldSpec("Coolest of the day", kind="temperature", low=-50, high=50),
    "t_max": FieldSpec("Warmest of the day", kind="temperature", low=-50, high=60),
    "rain": FieldSpec("Rain of the month", kind="rain", low=0, high=3),
    "wet_days": FieldSpec("Wet days", kind="number", low=0, high=31),
}
PEBBLE_SECONDS = FieldSpec("Seconds to the splash", kind="seconds", low=0.1, high=10)
