"""The years: a kit run through made or measured weather in the background; the calendar of its days."""

from contextlib import closing
from dataclasses import dataclass
from functools import partial
from pathlib import Path
from sqlite3 import Connection
from typing import Annotated, Any, Literal

import numpy as np
from fastapi import APIRouter, Depends, Form, Request, Response, UploadFile
from fastapi.responses import RedirectResponse

from squall.core.errors import SquallError
from squall.core.reason import Spoken
from squall.core.sky.made_weather import DAYS
from squall.core.sky.outside import DAYS_IN_MONTH
from squall.core.sky.whole_year import DAY_STEPS, MeasuredYear
from squall.core.years.record import YearRun
from squall.formats import weather
from squall.job.document.job import Job
from squall.job.edit.places import set_file_sky
from squall.job.told.years import years_figures
from squall.job.worked.assess import Assessment, assess
from squall.job.worked.kit import KitAssessment
from squall.job.worked.place import clock_of, where
from squall.job.worked.years import YearsReport, digest_of, report_of, run_of
from squall.store.folder.database import connect
from squall.store.jobs import Stored, change_job, one_job
from squall.store.years import KeptWeather, keep_run, keep_weather, kept_run, kept_weather
from squall.web.frame.background import Background, Part, Task
from squall.web.frame.edits import answer
from squall.web.frame.job_page import Notices
from squall.web.frame.pages import Prefs, database, page, prefs_of, refusal_of
from squall.web.frame.strip import Lane, Strip
from squall.words import later, say
from squall.words.calendar import MONTHS, day_name

router = APIRouter()
Db = Annotated[Connection, Depends(database)]
LETTER_WORDS = {"e": "enough", "t": "tight", "s": "short", "-": later("nothing wanted")}
RUN = "years"


def begin_run(background: Background, job_id: int, a: Assessment, kept: KeptWeather | None, path: Path) -> Task:
    """Begin a run; one that goes on already for the same inputs is kept, for others stopped."""
    used = kept if a.job.years.by == "file" else None
    mark = used.mark if used is not None else ""
    digest = digest_of(a.job, mark)

    year = used.year if used is not None else None
    work = partial(_run, a=a, year=year, mark=mark, job_id=job_id, path=path)
    return background.begin("years", str(job_id), (RUN,), work, partial(_of_other_inputs, digest=digest), digest)


def _run(task: Task, a: Assessment, year: MeasuredYear | None, mark: str, job_id: int, path: Path) -> None:
    """Run the years of a job and keep what they brought."""
    chosen = a.judged.chosen
    assert chosen is not None

    def kept_report() -> str:
        report = report_of(a, chosen, year, mark, task.told(RUN))
        with closing(connect(path)) as conn:
            keep_run(conn, job_id, report)
        return report.digest

    task.run(RUN, kept_report)


def _of_other_inputs(known: Task, digest: str) -> bool:
    """Whether a run is over, or of other inputs: that one is stopped."""
    if not known.ended and known.mark != digest:
        known.stop()
    return known.ended or known.mark != digest


def running(background: Background, job_id: int) -> Part | None:
    """The run of a job that goes on, or that went wrong; None where there is nothing to tell."""
    task = background.task("years", str(job_id))
    part = None if task is None else task.parts[RUN]
    return part if part is not None and (part.problem or not part.done.is_set()) else None


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """The last run, its calendar, the day that is opened, and how far a new run is."""
    conn = connect(request.app.state.settings.database)
    try:
        return context_of(request, conn, stored, prefs)
    finally:
        conn.close()


def context_of(request: Request, conn: Connection, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """As :func:`panel`, with a connection at hand."""
    a = assess(stored.job)
    kept = kept_weather(conn, stored.id)
    report = kept_run(conn, stored.id)
    mark = kept.mark if kept is not None and stored.job.years.by == "file" else ""
    year = _number(request, "year", 0, report.years - 1) if report is not None else 0
    day = _number(request, "day", -1, DAYS - 1)
    fresh = report is not None and report.digest == digest_of(stored.job, mark)
    context: dict[str, Any] = {
        "report": report,
        "fresh": fresh,
        "task": running(request.app.state.background, stored.id),
        "weather_file": kept,
        "letters": LETTER_WORDS,
        "calendar": calendar_of(report, year) if report is not None else [],
        "open_year": year,
        "open_day": day,
        "day_name": day_name,
        "month_names": MONTHS,
        "store_chart": store_chart(report, year) if report is not None else None,
        "figures": years_figures(report, a.chosen.kit.life_h if fresh and a.chosen is not None else None)
        if report is not None
        else [],
        "strip": None,
        "day_problem": "",
    }
    if report is not None and day >= 0:
        if not fresh:
            context["day_problem"] = say("The job has changed since that run; run the years again to open its days.")
        elif (chosen := a.judged.chosen) is not None:
            context["strip"] = _day_of(a, chosen, kept if mark else None, report, year, day, prefs)
    return context


def store_chart(report: YearsReport, year: int) -> dict[str, Any] | None:
    """Water in the tank and charge in the battery at each day's end, as shares of full; None without either."""
    tank, bank = bool(report.stored), bool(report.charge)
    if not tank and not bank:
        return None
    return {
        "type": "stores",
        "days": list(range(1, DAYS + 1)),
        "tank": [round(v / report.tank_l * 100.0, 1) for v in report.stored[year]] if tank else [],
        "bank": [round(v / report.bank_ah * 100.0, 1) for v in report.charge[year]] if bank else [],
    }


def _number(request: Request, name: str, least: int, most: int) -> int:
    asked = request.query_params.get(name, "")
    return min(max(int(asked), least), most) if asked.isdecimal() and len(asked) < 6 else least


def _day_of(
    a: Assessment, chosen: KitAssessment, kept: KeptWeather | None, report: YearsReport, year: int, day: int, prefs: Prefs
) -> Strip:  # fmt: skip
    """One day of one year, run again from the state its year began with."""
    run = run_of(a, chosen, kept.year if kept is not None else None, only=year, begin=report.states[year])
    return strip_of(a, run, day, say("{day}, year {year}", day=day_name(day), year=year + 1), prefs)


def strip_of(a: Assessment, run: YearRun, day: int, title: str, prefs: Prefs) -> Strip:
    """The lanes of one day of a year's run."""
    steps = run.last
    draw = a.used.demand.draw_l_s[int(np.searchsorted(np.cumsum(DAYS_IN_MONTH), day, side="right"))]
    lanes = [
        Lane("light", say("light on the panels"), "irradiance", steps.light_w_m2[day]),
        Lane("flow", say("flow"), "flow", steps.could_l_s[day] * steps.ran[day] / 1000.0),
        Lane("draw", say("drawn"), "flow", draw / 1000.0),
        Lane("volts", say("volts at the pump"), "volts", np.where(steps.ran[day] > 0.0, steps.motor_v[day], 0.0)),
        Lane("amps", say("amps"), "amps", np.where(steps.ran[day] > 0.0, steps.motor_a[day], 0.0)),
    ]
    if run.tank_l > 0.0:
        lanes.append(Lane("level", say("in the tank"), "litres", steps.level_l[day] / 1000.0, full=run.tank_l / 1000.0))
    if run.bank_ah > 0.0:
        lanes.append(Lane("charge", say("usable charge"), "charge", steps.charge_ah[day], full=run.bank_ah))
    missing = steps.short_l[day] > 0.0
    return Strip(title, 24.0 / DAY_STEPS, lanes, _story(run, day, missing), missing)


def _story(run: YearRun, day: int, missing: "np.ndarray[Any, Any]") -> str:

    wanted, pumped, short = (float(values[day]) / 1000.0 for values in (run.wanted_l, run.pumped_l, run.short_l))
    said = say("{pumped:litres} pumped, {wanted:litres} wanted", pumped=pumped, wanted=wanted)
    if not run.is_short[day]:
        return say("{said}: enough.", said=said)
    if missing.any():
        first = int(np.argmax(missing))
        return say(
            "{said}: from {first:02d}:{first2}0 on what is drawn outruns flow and store, {short:litres} are missing.",
            said=said,
            first=first // 6,
            first2=first % 6,
            short=short,
        )
    return say("{said}: {short:litres} are missing.", said=said, short=short)


@dataclass(frozen=True)
class Cell:
    """One day of the calendar: number in the month and in the year, its letter and litres."""

    date: int
    day: int
    letter: str
    litres: float


def calendar_of(report: YearsReport, year: int) -> list[list[Cell]]:
    """Twelve rows of days, one year of a report."""
    rows, day = [], 0
    for length in DAYS_IN_MONTH:
        row = [
            Cell(n + 1, day + n, report.days[year][day + n], report.litres[year][day + n] / 1000.0)
            for n in range(length)
        ]
        rows.append(row)
        day += length
    return rows


@router.post("/jobs/{job_id}/years/run")
def begin(job_id: int, request: Request, conn: Db) -> Response:
    """Run the years, in the background."""
    stored = one_job(conn, job_id)
    a = assess(stored.job)
    kept = kept_weather(conn, job_id)
    trouble = ""
    if a.chosen is None:
        trouble = say("No kit is chosen yet: take one on the Kits page.")
    elif stored.job.years.by == "file" and kept is None:
        trouble = say("No weather file was given yet: give one, or let the weather be made.")
    if trouble:
        return answer(request, conn, stored, "years", Notices(banner=trouble, banner_kind="bad"), 422)
    begin_run(request.app.state.background, job_id, a, kept, request.app.state.settings.database).parts[RUN].done.wait(
        0.4
    )
    if request.headers.get("hx-request") is None:
        return RedirectResponse(f"/jobs/{job_id}/years", 303)
    return _part(request, conn, stored)


@router.post("/jobs/{job_id}/years/stop")
def stop(job_id: int, request: Request, conn: Db) -> Response:
    """Stop a run of the years; what was kept before stays."""
    task = request.app.state.background.task("years", str(job_id))
    if task is not None:
        task.stop()
        task.parts[RUN].done.wait(5.0)
    return _part(request, conn, one_job(conn, job_id))


@router.get("/jobs/{job_id}/years/state")
def state(job_id: int, request: Request, conn: Db) -> Response:
    """How far the run is, or what it brought."""
    return _part(request, conn, one_job(conn, job_id))


def _part(request: Request, conn: Connection, stored: Stored) -> Response:
    from squall.web.frame.job_page import JobView

    prefs = prefs_of(request)
    a = assess(stored.job)
    context = context_of(request, conn, stored, prefs)
    view = JobView(stored, a, Notices())
    return page(request, "years/_run.html", {"view": view, "stage": "years", "chosen": a.chosen, "a": a, **context})


@router.post("/jobs/{job_id}/years/weather")
def take_weather(
    job_id: int,
    request: Request,
    conn: Db,
    file: UploadFile,
    stage: Annotated[Literal["years", "place"], Form()] = "years",
) -> Response:
    """Take a weather file in; the job then goes by it."""
    name = Path(file.filename or say("weather file")).name[:80]
    data = file.file.read(weather.MOST_BYTES + 1)
    stored = one_job(conn, job_id)
    try:
        where(stored.job)  # an hour of a file is an hour of a clock somewhere
        year = weather.read(data, name, clock_of(stored.job).si)

        def change(job: Job) -> tuple[Job, Spoken]:
            return set_file_sky(job, year, name)

        stored = change_job(
            conn,
            job_id,
            change,
            prefs_of(request).who,
            check=assess,
            beside=lambda: [keep_weather(conn, job_id, name, year)],
        )
    except SquallError as error:
        return answer(request, conn, stored, stage, Notices(banner=str(error), banner_kind="bad"), refusal_of(error))
    said = say(
        "{told_by}: taken in. Verdict, kits and years go by its light and air from here on.", told_by=year.told_by
    )
    return answer(request, conn, stored, stage, Notices(banner=said))
