"""Where a job's water stands: its lift and its bank, by a typed lift or by readings below a mark, and how a well's level goes with the seasons."""

from dataclasses import dataclass
from datetime import date

import numpy as np

from squall.core.errors import SquallError
from squall.core.sources.levels import (
    CombinedLevel,
    Level,
    YearOfLevels,
    combine_levels,
    depth_from_drop,
    levels_of_year,
    lift_trust_m,
    trust_in,
)
from squall.core.sources.wells import TestFit, fit_test
from squall.job.document.job import Job, LevelReading


@dataclass(frozen=True)
class Heights:
    """Heights of a job, in metres.

    Attributes
    ----------
    lift_m : float
        From the level to the outlet; that level stands unless `drawdown_s_m2` makes it fall.
    rim_m : float
        Bank, well rim or datum above that level.
    pump_below_m : float
        How far under it the pump hangs.
    off_m : float
        How far the level may be off.
    drawdown_s_m2 : float
        How far it falls for each flow. [m per m3/s]
    level : CombinedLevel or None
        Depth below the datum, where readings are combined.
    test : TestFit or None
        The pumping test, where one is used.
    problem : str
        Why the pumping test can't be used, if so.
    fall_m : float
        How far the outlet lies under the level; 0 where it lies above. The lift is nil then.
    season : YearOfLevels or None
        How a well's level goes through the year, where its readings tell; `level` is then that of the newest ones.
    """

    lift_m: float
    rim_m: float
    pump_below_m: float
    off_m: float
    drawdown_s_m2: float = 0.0
    level: CombinedLevel | None = None
    test: TestFit | None = None
    problem: str = ""
    fall_m: float = 0.0
    season: YearOfLevels | None = None


def reading_level(job: Job, reading: LevelReading) -> Level:
    """Depth below the datum by one reading, and how far it may be off."""
    if reading.way == "pebble":
        dropped = depth_from_drop(reading.value.si, job.level.air.si, job.level.thumb.si)
        depth, off = dropped.depth_m, max(dropped.uncertainty_m, trust_in("pebble"))
    else:
        depth, off = reading.value.si, trust_in(reading.way)
    return Level(depth - reading.raised.si, reading.off.si if reading.off is not None else off)


def season_of(job: Job) -> YearOfLevels | None:
    """How the level of a job's well goes through the year, if its dated readings tell."""
    if job.water != "well" or job.level.by != "readings":
        return None
    return levels_of_year(
        [(date.fromisoformat(one.on) if one.on else None, reading_level(job, one)) for one in job.level.readings]
    )


def test_standing_m(job: Job, standing_m: float, season: YearOfLevels | None) -> float:
    """The level at rest that the pumping test began from, below the datum: as typed; else the level, which goes with the seasons perhaps. [m]"""
    if job.well.test_standing is not None:
        return job.well.test_standing.si
    if season is None or not job.well.test:
        return standing_m
    return season.next_above(min(row.level.si for row in job.well.test))


def well_test(job: Job, standing_m: float) -> TestFit:
    """The pumping test of a job; its drawdowns from the standing level.

    Raises
    ------
    OutOfRange
        If it can't be read.
    """
    readings = [(row.after.si, row.level.si - standing_m) for row in job.well.test]
    return fit_test(job.well.test_flow.si, readings)


def lift_off_m(job: Job) -> float:
    """How far a typed lift may be off: as somebody said, else by how it was found. [m]"""
    return lift_trust_m(job.lift_how, job.lift.si) if job.doubt.lift is None else job.doubt.lift.si


def heights_of(job: Job) -> Heights:
    """Lift, bank and pump depth, from a typed lift or from readings below a datum.

    Without any reading the typed lift stands, whatever was chosen.
    """
    if job.level.by == "lift" or not job.level.readings:
        up = job.lift.si
        return Heights(max(up, 0.0), job.rim.si, job.pump_depth.si, lift_off_m(job), fall_m=max(-up, 0.0))
    season = season_of(job)
    combined = (
        season.now if season is not None else combine_levels([reading_level(job, one) for one in job.level.readings])
    )
    depth = combined.level.depth_m
    test, problem, drawdown = None, "", 0.0
    if job.well.drawdown_by == "typed":
        drawdown = job.well.drawdown.si / job.well.drawdown_flow.si
    elif job.well.drawdown_by == "test":
        try:
            test = well_test(job, test_standing_m(job, depth, season))
            drawdown = test.per_flow_s_m2(job.well.hours.si)
        except SquallError as error:
            problem = str(error)
    hang = job.well.hang_depth
    return Heights(
        lift_m=max(depth + job.level.outlet_height.si, 0.0),
        fall_m=max(-depth - job.level.outlet_height.si, 0.0),
        rim_m=max(depth, 0.0),
        pump_below_m=job.pump_depth.si if hang is None else max(hang.si - depth, 0.0),
        off_m=max(combined.level.uncertainty_m, 0.0 if job.doubt.lift is None else job.doubt.lift.si),
        drawdown_s_m2=drawdown,
        level=combined,
        test=test,
        problem=problem,
        season=season,
    )


def lower_on(job: Job, heights: Heights, day: date) -> float:
    """How far the water stood on a day below the level that the lift counts from, as its readings tell; nil where they don't. [m]"""
    if job.outlet == "loop":
        return 0.0
    if heights.season is not None and heights.level is not None:
        return heights.season.depth_on(day) - heights.level.level.depth_m
    read = sorted((date.fromisoformat(one.on).toordinal(), one.depth.si) for one in job.pond.readings)
    if job.water != "pond" or not read or not read[0][0] <= day.toordinal() <= read[-1][0]:
        return 0.0
    days, depths = zip(*read, strict=True)
    return float(read[-1][1] - np.interp(day.toordinal(), days, depths))
