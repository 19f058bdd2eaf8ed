"""The years of a job: its chosen kit through made or measured weather, kept as a report that knows when it is stale."""

from collections.abc import Callable
from datetime import UTC, datetime
from hashlib import sha256
from typing import Annotated

import numpy as np
from pydantic import Field

from squall.core.errors import OutOfRange, SquallError
from squall.core.reason import Spoken
from squall.core.sky.made_weather import DAYS, Draw
from squall.core.sky.whole_year import MeasuredYear, YearLight, made_clearness, made_light, measured_light
from squall.core.years.record import YearRun
from squall.core.years.whole import Floats, LazyYears, run_years
from squall.job.document.base import Doc
from squall.job.document.job import Job
from squall.job.worked.assess import Assessment, physics_key
from squall.job.worked.kit import KitAssessment
from squall.job.worked.place import climate_of, site_of
from squall.job.worked.resolve import mounting_of
from squall.words import Message, later
from squall.words.keeping import kept, revived

ENOUGH, TIGHT, SHORT, NOTHING = "e", "t", "s", "-"


def digest_of(job: Job, weather: str = "") -> str:
    """A mark of all that a run of the years hangs on; `weather` marks the file, where one is used."""
    option = [job.option] if job.option is not None else []
    key = physics_key(job.model_copy(update={"options": option}))
    return sha256((key + weather).encode()).hexdigest()[:32]


class BadDay(Doc):
    """A day on which something was wanted and not there: year and day from 0, and litres."""

    year: int
    day: int
    short_l: float


class YearsReport(Doc):
    """What a run of years brought, as it is kept.

    `days` has one letter for each day of each year: e enough, t tight, s short, - nothing wanted.
    `states` are those with which each year began.
    """

    digest: str
    made_at: str
    told_by: str
    years: int
    seed: int
    short_in_a_hundred: float
    short_by_month: Annotated[list[float], Field(min_length=12, max_length=12)]
    worst_month: int
    dry_spell_days: int
    hours_a_year: float
    starts_a_day: float
    cycles_a_year: float
    litres_a_year: float
    spilled_a_year: float
    tank_l: float
    bank_ah: float
    energy_wh: list[float]
    energy_off: float
    days: list[str]
    bad: list[BadDay]
    states: list[list[float]]
    litres: list[list[float]]
    stored: list[list[float]]
    charge: list[list[float]]

    @property
    def weather(self) -> Spoken:
        """Which weather it was, in words."""
        return revived(self.told_by)

    @property
    def sentence_days(self) -> Message:
        """Short days in words."""
        if self.short_in_a_hundred == 0.0:
            return later("short on no day")
        if self.short_in_a_hundred < 1.0:
            return later("short on fewer than 1 day in a hundred")
        return later("short on {short_in_a_hundred:.0f} days in a hundred", short_in_a_hundred=self.short_in_a_hundred)


_BAD_KEPT = 40


def _made_words(years: int, seed: int) -> Message:
    if years == 1:
        return later("one year of made weather, number {seed}", seed=seed)
    return later("{years} years of made weather, number {seed}", years=years, seed=seed)


def lights_of(a: Assessment, measured: MeasuredYear | None) -> LazyYears:
    """Light of the job's years, worked out as each is run.

    Raises
    ------
    SquallError
        For years or a seed out of range.
    """
    job = a.job
    site, climate, mounting = site_of(job), climate_of(job, a.parts), mounting_of(job)
    if measured is not None:
        year = measured

        def read(number: int) -> YearLight:
            return measured_light(site, mounting, year)

        return LazyYears(1, read)
    clearness = made_clearness(site, climate, Draw(job.years.count, job.years.seed))
    return LazyYears(job.years.count, lambda number: made_light(site, climate, mounting, clearness[number]))


def run_of(
    a: Assessment, chosen: KitAssessment, measured: MeasuredYear | None = None,
    progress: Callable[[float], bool] | None = None, only: int | None = None, begin: list[float] | None = None,
) -> YearRun:  # fmt: skip
    """Run a job's kit through its years, or through one of them.

    Parameters
    ----------
    a, chosen : Assessment, KitAssessment
        The job and its kit.
    measured : MeasuredYear, optional
        A file's year; made weather without it.
    progress : callable, optional
        Called with the share done; answers False to stop.
    only : int, optional
        Just this year, begun with `begin`.
    """
    lights = lights_of(a, measured)
    if only is not None:
        if not 0 <= only < len(lights):
            raise OutOfRange("year", only + 1, later("1 to {lights}", lights=len(lights)))
        whole = lights
        lights = LazyYears(1, lambda _: whole[only])
    return run_years(
        chosen.setup, lights, chosen.use, progress, None if begin is None else np.array(begin),
    )  # fmt: skip


def report_of(
    a: Assessment, chosen: KitAssessment, measured: MeasuredYear | None, weather: str,
    progress: Callable[[float], bool] | None = None,
) -> YearsReport:  # fmt: skip
    """Run the years and keep what they brought.

    Raises
    ------
    SquallError
        If the kit won't do, something is out of range, or `progress` stopped it.
    """
    if chosen.refusal is not None:
        raise SquallError(later("This kit won't do: {refusal}.", refusal=chosen.refusal))
    run = run_of(a, chosen, measured, progress)
    letters = np.where(
        run.is_short, SHORT, np.where(run.is_tight, TIGHT, np.where(run.wanted_l > 0.0, ENOUGH, NOTHING))
    )
    days = ["".join(row) for row in letters.reshape(run.years, DAYS).tolist()]
    bad = np.nonzero(run.is_short)[0]
    worst = bad[np.argsort(-run.short_l[bad], kind="stable")][:_BAD_KEPT]
    kept_days = [
        BadDay(year=int(n) // DAYS, day=int(n) % DAYS, short_l=round(float(run.short_l[n]), 1))
        for n in sorted(worst.tolist())
    ]  # fmt: skip
    e = run.energy
    return YearsReport(
        digest=digest_of(a.job, weather),
        made_at=datetime.now(UTC).strftime("%Y-%m-%dT%H:%MZ"),
        told_by=kept(measured.told_by if measured is not None else _made_words(run.years, a.job.years.seed)),
        years=run.years,
        seed=a.job.years.seed,
        short_in_a_hundred=run.short_in_a_hundred,
        short_by_month=[float(value) for value in run.short_by_month],
        worst_month=run.worst_month,
        dry_spell_days=run.longest_dry_spell_days,
        hours_a_year=run.hours_a_year,
        starts_a_day=run.starts_a_day,
        cycles_a_year=run.cycles_a_year,
        litres_a_year=run.litres_a_year,
        spilled_a_year=float(run.spilled_l.sum()) / run.years,
        tank_l=run.tank_l,
        bank_ah=run.bank_ah,
        energy_wh=[e.array_wh, e.motor_wh, e.pump_cable_wh, e.array_cable_wh, e.controller_wh, e.battery_wh],
        energy_off=e.off,
        days=days,
        bad=kept_days,
        states=[[float(v) for v in row] for row in run.states.tolist()],
        litres=_rows(run.pumped_l, run.years),
        stored=_rows(run.ended_l, run.years) if run.tank_l > 0.0 else [],
        charge=_rows(run.charge_end_ah, run.years) if run.bank_ah > 0.0 else [],
    )


def _rows(values: Floats, years: int) -> list[list[float]]:
    return [[round(v, 1) for v in row] for row in values.reshape(years, DAYS).tolist()]
