"""What a pond or a roof holds and brings, as figures that can be asked why; a well's level through the year."""

from datetime import UTC, datetime

from squall.core.explain import Figure, Input
from squall.core.sources.roofs import PEAK_OF_HOUR
from squall.job.told.finding import Finding
from squall.job.told.lift import season_words
from squall.job.worked.assess import Assessment
from squall.job.worked.heights import test_standing_m
from squall.job.worked.water_accounts import PondView, RoofView
from squall.words import later, say


def pond_figures(view: PondView, month: int) -> list[Figure]:
    """What the pond holds, gains and loses in a day of one month, and how long it lasts."""
    pond, account = view.pond, view.account
    area = pond.area_m2(view.depth_m)
    shape = (
        Input(say("depth when full"), pond.full_depth_m, "head"), Input(say("surface when full"), pond.full_area_m2, "ground"),
        Input(say("volume goes as depth to the power"), pond.power, "number"),
    )  # fmt: skip
    lost = -account.surface_m_d(month) * area
    fao = say("FAO paper 56: ET0 x 1.05 for shallow open water; rain of the climate")
    return [
        Figure("pond-volume", say("Holds now"), pond.volume_m3(view.depth_m), "litres",
               (*shape, Input(say("depth now"), view.depth_m, "head")), say("full volume x (depth / full depth)^power"), say("shape as typed")),
        Figure("pond-inflow", say("Runs in, a day"), account.inflow_m3_d, "litres",
               (Input(say("may be off by"), view.inflow_off_m3_d, "litres"),),
               say("rise between the readings + drawn + lost over the days, or as typed"), say("your readings")),
        Figure("pond-lost", say("Lost a day to sun and ground, less rain"), lost, "litres",
               (Input(say("surface now"), area, "ground"), Input(say("evaporation"), account.evaporation_m_d[month], "rain"),
                Input(say("seepage"), account.seepage_m_d, "rain"), Input(say("rain"), account.rain_m_d[month], "rain")),
               say("(evaporation + seepage - rain) x surface"), fao),
        Figure("pond-drawn", say("Drawn a day"), account.draw_m3_d[month], "litres", (), say("the need (none in a closed circuit, which gives it back), and what others draw"),
               say("Need page")),
    ]  # fmt: skip


def pond_findings(a: Assessment, view: PondView) -> list[Finding]:
    """An inflow that comes out negative, a level that nobody read, and what the falling level does to the lift."""
    found = []
    inflow = view.account.inflow_m3_d
    if inflow < -view.inflow_off_m3_d:
        text = later(
            "By the readings the pond loses {lost:litres} a day more than is said: the inflow comes out negative.",
            lost=-inflow,
        )
        answers = (
            later("more seepage than typed, a leak in the bank, or somebody else draws"),
            later("read it again some days on"),
        )
        found.append(Finding("care", text, answers))
    elif inflow < 0.0:
        found.append(
            Finding(
                "good",
                later("The inflow comes out a little negative, within its doubt: taken as none worth counting on."),
            )
        )
    if not a.job.pond.readings:
        text = later("No depth was read on any day: the level that falls through the season isn't counted in the lift.")
        found.append(Finding("care", text, (later("read the depth once, on the day the lift is measured"),)))
    return [*found, *(Finding("care", words) for words in season_words(a))]


def roof_figures(view: RoofView) -> list[Figure]:
    """What the roof brings, how many days it lasts, and the overflow."""
    year = view.year
    roof_in = (
        Input(say("roof"), view.roof.area_m2, "ground"), Input(say("reaches the gutter"), view.roof.runoff, "share"),
        Input(say("first flush"), view.roof.first_flush_m, "rain"), Input(say("tanks together"), view.tank_m3, "litres"),
    )  # fmt: skip
    steady = say("a year of the climate's months, rain laid evenly on its wet days; the third of three such years")
    return [
        Figure("roof-caught", say("Caught in a year"), year.caught_m3, "litres", roof_in,
               say("roof x (rain x runoff - first flush), for each wet day"), steady),
        Figure("roof-spilt", say("of it runs over"), year.overflow_m3, "litres", roof_in, say("what the full tanks can't hold"), steady),
        Figure("roof-days", say("Days of the year with all the water wanted"), float(year.days_of_water), "number", roof_in,
               say("days on which the tanks gave the whole need"), steady),
        Figure("roof-storm", say("The storm brings"), view.storm_m3_s, "flow", (Input(say("roof"), view.roof.area_m2, "ground"),),
               say("roof x storm x {PEAK_OF_HOUR}, for its worst ten minutes; nothing lost", PEAK_OF_HOUR=PEAK_OF_HOUR), say("your storm; ask for the local design storm; the worst ten minutes: Bell (1969), from memory")),
        Figure("roof-passes", say("The overflow passes"), view.passes_m3_s, "flow", (), "0.6 A √(2 g h)", say("Torricelli's theorem")),
        Figure("roof-bore", say("It would have to be at least"), view.needed_bore_m, "bore",
               (Input(say("the storm brings"), view.storm_m3_s, "flow"),), say("the same turned round"), say("Torricelli's theorem")),
    ]  # fmt: skip


def season_findings(a: Assessment) -> list[Finding]:
    """How a well's level goes through the year, the day on which it falls to the pump, and what its pumping test began from."""
    season, well = a.heights.season, a.job.well
    if season is None:
        return []
    month = season.months_m.index(max(season.months_m))
    said = say("By readings of {n} months the level goes with the seasons: lowest in {month:month}, {lowest:head} below {datum}. The lift counts from the newest reading, of {on}; months that were not read lie straight between those that were.",
               n=len(season.known), month=month, lowest=season.lowest_m, datum=a.job.level.datum, on=season.on.isoformat())  # fmt: skip
    day = None if well.hang_depth is None else season.reached(well.hang_depth.si, datetime.now(UTC).date())
    if well.hang_depth is None:
        found = [
            Finding(
                "care", said + " " + say("Type how deep the pump hangs, and Squall says when the level falls to it.")
            )
        ]
    elif day is not None:
        found = [
            Finding(
                "bad",
                said
                + " "
                + say(
                    "It falls to the pump about {day}: hang it deeper, or have water from elsewhere by then.",
                    day=day.isoformat(),
                ),
            )
        ]
    else:
        found = [Finding("good", said)]
    if a.heights.test is not None and well.test_standing is None:
        began = test_standing_m(a.job, season.now.level.depth_m, season)
        found.append(Finding("care", say("The pumping test is taken to have begun from {began:head}, the level that was read next above its own: type its level at rest.", began=began)))  # fmt: skip
    return found
