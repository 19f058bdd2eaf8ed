"""Every field of a job that can be typed: its label, kind and range.

A field is named by a path: ``lift``, ``well.total_depth``, ``run.p1.length``, ``herd.h2.count``.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from squall.core.need.demand import STATE_WORDS
from squall.core.reason import Spoken
from squall.core.sources.levels import WAYS
from squall.core.sources.ponds import SHAPES
from squall.job.document.power import DAY_NAMES
from squall.words import later
from squall.words.calendar import MONTHS, WEEK_DAYS

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

    label: Spoken
    how: How = "quantity"
    kind: str = ""
    low: float = 0.0
    high: float = 0.0
    choices: Mapping[str, Spoken] | None = None
    optional: bool = False
    hint: Spoken = ""


# Fittings of one kind on a piece.
MOST_FITTINGS = 1000
WATER = {"spring": later("spring pool"), "well": later("hand-dug or drilled well"), "cistern": later("cistern or tank"), "stream": later("stream"),
         "pond": later("pond")}  # fmt: skip
LEVEL_BY = {"lift": later("the lift, typed"), "readings": later("depths to water, read from a mark")}
DRAWDOWN_BY = {
    "none": later("stays where it stands"),
    "typed": later("falls by a known depth"),
    "test": later("from a pumping test"),
}
USE_KINDS = {"crop": later("crop"), "drip": later("drippers"), "taps": later("taps and uses"), "volume": later("tank to be topped up"),
             "channel": later("water kept moving")}  # fmt: skip
OUTLET = {
    "open": later("open outlet"),
    "tank-above": later("into a tank, from above"),
    "tank-below": later("into a tank, from below"),
    "loop": later("closed circuit, back to the start"),
}
SERVED = {
    "carried": later("one after another: the set is carried round"),
    "turn": later("one after another: by valves, or by moving the hose's end"),
    "together": later("all at once: every end stands open"),
}
OWN_CLIMATE = "own"
AIR_BY = {
    "guessed": later("nobody yet: guessed from latitude and height"),
    "extremes": later("its hottest and coldest month"),
    "like": later("a place like it"),
    "months": later("twelve months, typed"),
}
MONTH_CHOICES = {str(number): name for number, name in enumerate(MONTHS, start=1)}
PLAIN: dict[str, FieldSpec] = {
    "name": FieldSpec(later("Name of the job"), "words"),
    "place": FieldSpec(later("Place"), "words", optional=True),
    "notes": FieldSpec(later("Notes"), "words", optional=True),
    "latitude": FieldSpec(later("Latitude"), kind="latitude", low=-58.5, high=73.5, optional=True,
                          hint=later("south is negative, or 30.4 S")),
    "longitude": FieldSpec(later("Longitude"), kind="longitude", low=-180, high=180, optional=True,
                           hint=later("west is negative, or 24.6 W")),
    "altitude": FieldSpec(later("Altitude"), kind="altitude", low=-430, high=5500, optional=True,
                          hint=later("empty: by the map, to some {off:distance}", off=10_000.0)),
    "clock_offset": FieldSpec(later("Clock, hours from UTC"), kind="hours", low=-12, high=14, optional=True,
                              hint=later("empty: by the sun")),
    "tilt": FieldSpec(later("Panel tilt from level"), kind="angle", low=0, high=90, optional=True,
                      hint=later("empty: for the winter sun of the place")),
    "azimuth": FieldSpec(later("Panels face, from north clockwise"), kind="angle", low=0, high=360, optional=True,
                         hint=later("0 is north; empty: towards the equator")),
    "dirt": FieldSpec(later("Light lost to dirt and age"), kind="share", low=0, high=0.6),
    "water": FieldSpec(later("Water comes from"), "choice", choices=WATER),
    "water_temperature": FieldSpec(later("Water temperature"), kind="temperature", low=0.1, high=60),
    "lift_how": FieldSpec(later("The lift was found"), "choice", choices={
        "eye": later("by eye, or as somebody said"), "map": later("from a map, or a phone's height"),
        "level": later("with a level, step by step"), "tape": later("with a tape")}),
    "lift": FieldSpec(later("Lift: pumping water level to outlet"), kind="head", low=-30, high=250,
                      hint=later("from the water while pumping, not from where the pump hangs; less than nothing where the outlet is lower")),
    "relief": FieldSpec(later("A relief valve or pressure switch holds it to"), kind="pressure", low=1, high=300, optional=True,
                        hint=later("empty: none; then the hose must bear what the pump can push")),
    "restrict_flow": FieldSpec(later("A flow restrictor passes"), kind="flow", low=1e-7, high=0.1, optional=True,
                               hint=later("a fixed orifice at the start of the delivery; empty: none")),
    "restrict_at": FieldSpec(later("at a pressure of"), kind="pressure", low=0.1, high=300),
    "level.by": FieldSpec(later("Lift is known from"), "choice", choices=LEVEL_BY),
    "level.datum": FieldSpec(later("The mark from which depths are counted down"), "words"),
    "level.outlet_height": FieldSpec(later("Outlet stands above the mark"), kind="head", low=-200, high=250,
                                     hint=later("below it is negative")),
    "level.air": FieldSpec(later("Air in the well"), kind="temperature", low=-40, high=55),
    "level.thumb": FieldSpec(later("The thumb may be late by"), kind="seconds", low=0.02, high=5),
    "well.hang_depth": FieldSpec(later("Pump hangs below the mark"), kind="head", low=0, high=250, optional=True),
    "well.total_depth": FieldSpec(later("Bottom below the mark, felt with a weight"), kind="head", low=0, high=300, optional=True),
    "well.told_depth": FieldSpec(later("Bottom, as the driller or the papers say"), kind="head", low=0, high=300, optional=True),
    "well.bore": FieldSpec(later("Bore of the well"), kind="bore", low=0.03, high=6, optional=True),
    "well.gives": FieldSpec(later("Yield: it recovers"), kind="flow", low=0, high=0.1, optional=True,
                            hint=later("what flows in, all day")),
    "well.cover": FieldSpec(later("Water wanted over the pump"), kind="head", low=0, high=50),
    "well.clear": FieldSpec(later("Clear of the bottom"), kind="head", low=0, high=50, hint=later("mud and sand")),
    "well.drawdown_by": FieldSpec(later("Level while pumping"), "choice", choices=DRAWDOWN_BY),
    "well.drawdown": FieldSpec(later("It falls by"), kind="head", low=0, high=200),
    "well.drawdown_flow": FieldSpec(later("when this is pumped"), kind="flow", low=1e-6, high=0.1),
    "well.hours": FieldSpec(later("Hours pumped in a day"), kind="hours", low=0.1, high=24),
    "well.test_flow": FieldSpec(later("Steady flow of the test"), kind="flow", low=1e-6, high=0.1),
    "pond.depth_full": FieldSpec(later("Depth when full, at the deepest"), kind="head", low=0.05, high=60),
    "pond.area_full": FieldSpec(later("Surface when full"), kind="ground", low=0.1, high=1e7),
    "pond.shape": FieldSpec(later("Shape"), "choice", choices=SHAPES),
    "pond.intake": FieldSpec(later("Intake is bare at a depth of"), kind="head", low=0, high=60),
    "pond.inflow_by": FieldSpec(later("Inflow is known from"), "choice",
                                choices={"typed": later("a figure, typed"), "readings": later("two readings of the level")}),
    "pond.inflow": FieldSpec(later("Inflow a day"), kind="litres", low=0, high=1e5),
    "pond.seepage": FieldSpec(later("Seeps away a day"), kind="rain", low=0, high=0.2),
    "pond.draw": FieldSpec(later("Others draw a day"), kind="litres", low=0, high=1e5),
    "roof.used": FieldSpec(later("Filled by rain off a roof"), "yes-no"),
    "roof.roof": FieldSpec(later("Roof, in plan"), kind="ground", low=0.1, high=1e6),
    "roof.runoff": FieldSpec(later("Share that reaches the gutter"), kind="share", low=0, high=1),
    "roof.first_flush": FieldSpec(later("First flush let go, of each rain"), kind="rain", low=0, high=0.02),
    "roof.barrels": FieldSpec(later("Linked tanks"), "count", low=1),
    "roof.barrel": FieldSpec(later("Each holds"), kind="litres", low=0.001, high=10_000),
    "roof.storm": FieldSpec(later("Storm to be passed, in an hour"), kind="rain", low=0, high=0.5),
    "roof.overflow": FieldSpec(later("Overflow's bore"), kind="bore", low=0.005, high=1),
    "roof.overflow_head": FieldSpec(later("Water over its middle before the tank spills"), kind="head", low=0.005, high=5),
    "carries.sand": FieldSpec(later("Sand"), "yes-no"),
    "carries.silt": FieldSpec(later("Silt"), "yes-no"),
    "carries.clay": FieldSpec(later("Red clay"), "yes-no"),
    "carries.weed": FieldSpec(later("Weed"), "yes-no"),
    "carries.leaves": FieldSpec(later("Leaves"), "yes-no"),
    "carries.drunk_by": FieldSpec(later("Drunk by"), "choice",
                                  choices={"stock": later("animals"), "people": later("people"), "nobody": later("nobody")}),
    "sky.record_low": FieldSpec(later("Record low"), kind="temperature", low=-50, high=40),
    "sky.record_high": FieldSpec(later("Record high"), kind="temperature", low=-20, high=60),
    "doubt.lift": FieldSpec(later("Lift may be off by"), kind="head", low=0, high=50, optional=True,
                            hint=later("empty: by how it was found; readings bring their own")),
    "doubt.lengths": FieldSpec(later("Lengths may be off by"), kind="share", low=0, high=0.8),
    "doubt.pump": FieldSpec(later("Pump's curve may be off by"), kind="share", low=0, high=0.8,
                            hint=later("a pump of your own brings its own")),
    "doubt.light": FieldSpec(later("The month's light may be off by"), kind="share", low=0, high=0.8, optional=True,
                             hint=later("empty: by where the light comes from")),
    "air.by": FieldSpec(later("Air is known from"), "choice", choices=AIR_BY),
    "air.hottest": FieldSpec(later("Hottest month, warmest of the day"), kind="temperature", low=-20, high=55, optional=True),
    "air.coldest": FieldSpec(later("Coldest month, coolest of the day"), kind="temperature", low=-50, high=35, optional=True),
    "air.record_low": FieldSpec(later("Coldest there ever was"), kind="temperature", low=-60, high=30, optional=True,
                                hint=later("raises the panels' volts; empty: from the above")),
    "air.record_high": FieldSpec(later("Hottest there ever was"), kind="temperature", low=-20, high=60, optional=True,
                                 hint=later("wears the cables; empty: from the above")),
    "mount.second_tilt": FieldSpec(later("Second tilt, for some months"), kind="angle", low=0, high=90, optional=True,
                                   hint=later("steeper for winter; empty: one tilt all year")),
    "mount.second_first": FieldSpec(later("Second tilt from"), "choice", choices=MONTH_CHOICES),
    "mount.second_last": FieldSpec(later("to the end of"), "choice", choices=MONTH_CHOICES),
    "mount.second_azimuth": FieldSpec(later("A second group of strings faces"), kind="angle", low=0, high=360, optional=True,
                                      hint=later("90 is east, 270 is west; empty: all face one way")),
    "mount.group_tilt": FieldSpec(later("That group's tilt"), kind="angle", low=0, high=90, optional=True, hint=later("empty: as the others")),
    "mount.third_azimuth": FieldSpec(later("A third group of strings faces"), kind="angle", low=0, high=360, optional=True,
                                     hint=later("each group has as many strings")),
    "mount.third_tilt": FieldSpec(later("The third group's tilt"), kind="angle", low=0, high=90, optional=True,
                                  hint=later("empty: as the others")),
    "mount.post": FieldSpec(later("Something near shades a panel"), "yes-no", hint=later("a post, a tree, a hand")),
    "mount.post_from": FieldSpec(later("It stands from"), kind="angle", low=0, high=360, hint=later("seen from the panel, clockwise")),
    "mount.post_to": FieldSpec(later("to"), kind="angle", low=0, high=360),
    "mount.post_top": FieldSpec(later("Its top stands above the level by"), kind="angle", low=0, high=90),
    "mount.post_panels": FieldSpec(later("Panels of one string in its shadow"), "count", low=1, high=12),
    "mount.bypass": FieldSpec(later("Panels have bypass diodes"), "yes-no"),
    "store.float_switch": FieldSpec(later("A float switch stops the pump"), "yes-no"),
    "store.depth": FieldSpec(later("Water stands in the full tank"), kind="head", low=0.05, high=20),
    "store.travel": FieldSpec(later("Float's travel"), kind="head", low=0.005, high=20, hint=later("from on to off")),
    "store.ripple": FieldSpec(later("Ripple under the float"), kind="bore", low=0, high=1, hint=later("trough to crest")),
    "store.cut_in": FieldSpec(later("A pressure switch starts the pump at"), kind="pressure", low=0.5, high=200, optional=True,
                              hint=later("read at the pump; empty: none")),
    "store.cut_out": FieldSpec(later("and stops it at"), kind="pressure", low=1, high=250, optional=True),
    "store.buffer": FieldSpec(later("Pressure tank behind it"), kind="litres", low=0, high=1),
    "store.small_flow": FieldSpec(later("Least that is drawn for long"), kind="flow", low=1e-8, high=0.01, optional=True,
                                  hint=later("a drip line, a leaking valve")),
    "bank.lead": FieldSpec(later("Charger to battery, one way"), kind="length", low=0.1, high=50),
    "bank.age": FieldSpec(later("The battery still holds"), kind="share", low=0.2, high=1, hint=later("of its rated charge")),
    "years.by": FieldSpec(later("Weather of the years"), "choice",
                          choices={"made": later("made, from the month climate"), "file": later("a weather file's year")}),
    "years.count": FieldSpec(later("Years of made weather"), "count", low=1, high=100),
    "years.seed": FieldSpec(later("Which weather is drawn, by a number"), "count", hint=later("the same number, the same days")),
    "outdoors.lies": FieldSpec(later("The line lies"), "choice", choices={
        "open": later("open to the air"), "insulated": later("insulated"), "buried": later("buried")}),
    "outdoors.buried": FieldSpec(later("Depth of cover"), kind="head", low=0, high=3),
    "outdoors.wind": FieldSpec(later("Strongest gust to stand"), kind="wind", low=5, high=70),
    "outdoors.stand": FieldSpec(later("Panels stand on"), "choice", choices={
        "ground": later("a ground frame"), "pole": later("a post"), "folding": later("folding legs, for the day")}),
    "outdoors.bags": FieldSpec(later("Carried in bags"), "count", low=1, high=8, hint=later("how many; what each weighs stands on Kits")),
    "outdoors.clearance": FieldSpec(later("Their lower edge above ground"), kind="head", low=0, high=4),
    "want.headroom": FieldSpec(later("Headroom: times the need"), kind="number", low=1, high=5,
                               hint=later("some take 2, others 1")),
    "want.reserve": FieldSpec(later("Days held in reserve"), kind="number", low=0, high=30),
    "want.allowed": FieldSpec(later("Short days allowed in 100"), kind="number", low=0, high=50),
    "want.burst": FieldSpec(later("Drunk within the first hour"), kind="share", low=0, high=1),
    "want.trough": FieldSpec(later("Trough and tank hold"), kind="litres", low=0, high=10_000),
    "want.use": FieldSpec(later("The water is taken"), "choice",
                          choices={"auto": later("as it comes if only a day's water is typed, else at its hours"),
                                   "sun": later("whenever it comes: the use follows the sun"),
                                   "hours": later("at its hours: what comes when nobody takes it must be stored")}),
    "want.fall": FieldSpec(later("Tank stands above the drippers"), kind="head", low=0, high=200, optional=True),
    "want.mended_by": FieldSpec(later("Who mends it"), "choice",
                                choices={"nobody": later("nobody near"), "hand": later("a hand with a spanner")}),
    "want.et": FieldSpec(later("Evapotranspiration after"), "choice",
                         choices={"penman-monteith": later("Penman-Monteith"), "hargreaves": later("Hargreaves")}),
    "pump_depth": FieldSpec(later("Pump hangs below the water"), kind="head", low=0, high=100),
    "rim": FieldSpec(later("Bank or well rim above the water"), kind="head", low=0, high=250),
    "outlet": FieldSpec(later("Outlet"), "choice", choices=OUTLET),
    "served": FieldSpec(later("The places get their water"), "choice", choices=SERVED),
    "end_pressure": FieldSpec(later("Pressure wanted at the outlet"), kind="pressure", low=0, high=100),
    "need_by": FieldSpec(later("Need is given as"), "choice", choices={"litres": later("water a day, typed"), "herd": later("a list: animals, crops, uses")}),
    "litres": FieldSpec(later("Water a day"), kind="litres", low=0, high=1000),
    "array_cable": FieldSpec(later("Panel to box, one way"), kind="length", low=0, high=500),
    "pump_cable": FieldSpec(later("Box to pump, one way"), kind="length", low=0.1, high=500),
    "ambient": FieldSpec(later("Hottest air around the cables"), kind="temperature", low=-20, high=60),
    "max_drop": FieldSpec(later("Drop allowed in the pump's cable"), kind="share", low=0.005, high=0.2,
                          hint=later("3 % is good, 10 % the most")),
    "wire_standard": FieldSpec(later("Cable sizes"), "choice", choices={"metric": "mm²", "awg": "AWG"}),
    "protection": FieldSpec(later("Protection"), "choice", choices={"fuse": later("fuse"), "breaker": later("DC breaker")}),
}  # fmt: skip
PIECE: dict[str, FieldSpec] = {
    "name": FieldSpec(later("Piece"), "words"),
    "length": FieldSpec(later("Length"), kind="length", low=0, high=20_000),
    "bore": FieldSpec(later("Inner diameter"), kind="bore", low=0.003, high=0.5),
    "roughness": FieldSpec(later("Wall roughness"), kind="bore", low=0, high=0.005),
    "fixed": FieldSpec(later("Keep this hose whatever the kit"), "yes-no"),
    "side": FieldSpec(later("Side of a surface pump"), "choice",
                      choices={"delivery": later("delivery: it pushes"), "suction": later("suction: it draws")}),
    "end_height": FieldSpec(later("Its end stands above the water"), kind="head", low=-250, high=250, optional=True,
                            hint=later("empty: straight to the next")),
}  # fmt: skip
TIMES: dict[str, FieldSpec] = {
    "first": FieldSpec(later("From month"), "choice", choices=MONTH_CHOICES),
    "last": FieldSpec(later("to month"), "choice", choices=MONTH_CHOICES),
    "from_hour": FieldSpec(later("From hour of the clock"), kind="hours", low=0, high=24),
    "to_hour": FieldSpec(later("to hour"), kind="hours", low=0, high=24),
}
ROWS: dict[str, dict[str, FieldSpec]] = {
    "run": PIECE,
    "outlets": {
        "name": FieldSpec(later("Place"), "words"),
        "lift": FieldSpec(later("Lift: pumping water level to there"), kind="head", low=-30, high=250),
        "share": FieldSpec(later("Its share of the day's water"), kind="share", low=0.01, high=0.98,
                           hint=later("what is left goes to the end of the run")),
        "after": FieldSpec(later("It leaves the run"), "choice", choices={"": later("at the pump")}),
        "length": PIECE["length"],
        "bore": PIECE["bore"],
        "roughness": PIECE["roughness"],
        "fittings_k": FieldSpec(later("K of its fittings"), kind="number", low=0, high=1000,
                                hint=later("a tee 0.9 to 1.8, a valve half open 5, the end 1")),
        "fixed": PIECE["fixed"],
    },
    "herd": {
        "name": FieldSpec(later("Who drinks"), "words"),
        "count": FieldSpec(later("Count"), kind="number", low=0, high=100_000),
        "each": FieldSpec(later("One drinks, hot day"), kind="litres", low=0, high=10),
        "cool": FieldSpec(later("One drinks, cool day"), kind="litres", low=0, high=10, optional=True,
                          hint=later("empty: the same all year")),
        "state": FieldSpec(later("They are"), "choice", choices=STATE_WORDS),
        **TIMES,
    },
    "level.readings": {
        "way": FieldSpec(later("Way"), "choice", choices={key: way.name for key, way in WAYS.items()}),
        "value": FieldSpec(later("Depth read"), kind="head", low=0.05, high=250),
        "raised": FieldSpec(later("Read from this far above the mark"), kind="head", low=-20, high=20),
        "off": FieldSpec(later("May be off by"), kind="head", low=0.001, high=50, optional=True,
                         hint=later("empty: as is usual for this way")),
        "on": FieldSpec(later("Read on"), "date", optional=True),
    },
    "well.test": {
        "after": FieldSpec(later("After"), kind="seconds", low=1, high=1e6),
        "level": FieldSpec(later("level"), kind="head", low=0.01, high=250),
    },
    "pond.readings": {
        "on": FieldSpec(later("Day"), "date"),
        "depth": FieldSpec(later("Depth"), kind="head", low=0, high=60),
    },
    "options": {
        "name": FieldSpec(later("Name of the kit"), "words"),
        "cut_from": FieldSpec(later("The pump's cable was cut from"), "words", optional=True, hint=later("a reel, an old lead: its true size is what counts")),
        "pumps": FieldSpec(later("Like pumps that take turns"), "count", low=1, high=2),
        "batteries_in_series": FieldSpec(later("Batteries in series"), "count", low=1, high=8),
        "fuse": FieldSpec(later("Fuse or breaker that is fitted"), kind="amps", low=0.1, high=400, optional=True,
                          hint=later("empty: the one worked out on Wire")),
        "in_series": FieldSpec(later("Panels in a string"), "count", low=1, high=12),
        "in_parallel": FieldSpec(later("Strings side by side"), "count", low=1, high=12),
        "dial": FieldSpec(later("Controller's speed dial"), kind="share", low=0.2, high=1,
                          hint=later("full for any test; down to match a weak well")),
    },
    "lot": {
        "count": FieldSpec(later("Panels"), "count", low=1, high=12),
        "string": FieldSpec(later("in string"), "count", low=1, high=12, hint=later("same number: in series; another: side by side")),
    },
    "owned": {
        "count": FieldSpec(later("How many are there"), "count", low=0, high=1000),
    },
    "measured": {
        "month": FieldSpec(later("Month"), "choice", choices=MONTH_CHOICES),
        "light": FieldSpec(later("Light on the level a day"), kind="daylight", low=0.05, high=12,
                           hint=later("the month's mean, by your own meter")),
    },
    "mount.horizon": {
        "azimuth": FieldSpec(later("At azimuth"), kind="angle", low=0, high=360),
        "height": FieldSpec(later("it stands"), kind="angle", low=0, high=80),
    },
    "bank.timer": {
        "at": FieldSpec(later("Starts at"), kind="clock", low=0, high=24, hint=later("such as 6:30")),
        "minutes": FieldSpec(later("runs"), kind="minutes", low=60, high=86_400),
        **{day: FieldSpec(name, "yes-no") for day, name in zip(DAY_NAMES, WEEK_DAYS, strict=True)},
    },
    "uses": {
        "name": FieldSpec(later("What for"), "words"),
        "kind": FieldSpec(later("Kind"), "choice", choices=USE_KINDS),
        **TIMES,
        "pressure": FieldSpec(later("Least pressure it needs"), kind="pressure", low=0, high=100,
                              hint=later("drippers about {low:head} to {most:head}, tap timers {least:head} to {most:head}", low=5.0, most=10.0, least=2.0)),
        "area": FieldSpec(later("Area planted"), kind="ground", low=0, high=1e7),
        "efficiency": FieldSpec(later("Reaches the roots"), kind="share", low=0.05, high=1,
                                hint=later("drip about 90 %, hose 60 to 75 %")),
        "emitters": FieldSpec(later("Drippers"), kind="number", low=0, high=1e6),
        "rate": FieldSpec(later("Each gives"), kind="trickle", low=0, high=1e-3),
        "hours": FieldSpec(later("Hours a day"), kind="hours", low=0, high=24),
        "row_length": FieldSpec(later("Length of the drip line"), kind="length", low=0, high=1e5, optional=True,
                                hint=later("with spacing, counts the drippers")),
        "spacing": FieldSpec(later("Spacing of drippers"), kind="length", low=0.02, high=50, optional=True),
        "times": FieldSpec(later("Uses a day"), kind="number", low=0, high=100_000),
        "minutes": FieldSpec(later("Each lasts"), kind="minutes", low=0, high=86_400),
        "flow": FieldSpec(later("Flow of the tap"), kind="flow", low=0, high=0.1),
        "running": FieldSpec(later("Water runs for this share of it"), kind="share", low=0, high=1),
        "volume": FieldSpec(later("Volume"), kind="litres", low=0, high=1e5),
        "turnovers": FieldSpec(later("Turn-overs an hour"), kind="number", low=0, high=100),
    },
    "own_pumps": {
        "name": FieldSpec(later("Name"), "words"),
        "by": FieldSpec(later("Known from"), "choice", choices={
            "curve": later("its maker's curve"), "bucket": later("bucket tests"), "label": later("only its label")}),
        "end": FieldSpec(later("Kind of pump"), "choice", choices={key: key for key in ("centrifugal", "helical", "diaphragm", "piston")}),
        "placement": FieldSpec(later("Stands"), "choice", choices={
            "submersible": later("in the water, all of it"), "bilge": later("in the water, bilge kind"), "surface": later("beside the water")}),
        "brushed": FieldSpec(later("Has brushes"), "yes-no"),
        "volts": FieldSpec(later("Volts of the label or test"), kind="volts", low=1, high=400),
        "most_volts": FieldSpec(later("Most volts allowed"), kind="volts", low=1, high=400, optional=True),
        "watts": FieldSpec(later("Watts there"), kind="watts", low=0.5, high=5000),
        "label_flow": FieldSpec(later("Label's flow (no height)"), kind="flow", low=1e-6, high=0.05),
        "label_height": FieldSpec(later("Label's height (flow stops)"), kind="head", low=0.1, high=300),
        "life": FieldSpec(later("Hours until worn"), kind="hours", low=1, high=1e6,
                          hint=later("brushed ones 700 to 800 by common practice; those without some years, guessed at 6000 until you know")),
        "price": FieldSpec(later("Price"), kind="number", low=0, high=1e6),
        "barb": FieldSpec(later("Hose tail"), kind="bore", low=0.003, high=0.2),
        "fuse": FieldSpec(later("Largest fuse the maker allows"), kind="amps", low=0.5, high=100, optional=True),
    },
    "own_pumps.points": {
        "height": FieldSpec(later("Height"), kind="head", low=0, high=300),
        "flow": FieldSpec(later("Flow"), kind="flow", low=0, high=0.05),
        "bucket": FieldSpec(later("Bucket"), kind="litres", low=0.00005, high=1),
        "seconds": FieldSpec(later("filled in"), kind="seconds", low=0.5, high=36_000),
        "amps": FieldSpec(later("Amps"), kind="amps", low=0.01, high=200, optional=True),
    },
}  # fmt: skip
SKY_MONTH: dict[str, FieldSpec] = {
    "light": FieldSpec(later("Light on the level a day"), kind="daylight", low=0.2, high=12),
    "t_min": FieldSpec(later("Coolest of the day"), kind="temperature", low=-50, high=50),
    "t_max": FieldSpec(later("Warmest of the day"), kind="temperature", low=-50, high=60),
    "rain": FieldSpec(later("Rain of the month"), kind="rain", low=0, high=3),
    "wet_days": FieldSpec(later("Wet days"), kind="number", low=0, high=31),
}
PEBBLE_SECONDS = FieldSpec(later("Seconds to the splash"), kind="seconds", low=0.1, high=10)
