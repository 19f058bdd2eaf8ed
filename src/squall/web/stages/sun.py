"""Sun and shade: how the panels stand, what that gives, what a shadow does."""

from datetime import date
from sqlite3 import Connection
from typing import Annotated, Any

from fastapi import APIRouter, Depends, Form, Request, Response
from markupsafe import Markup

from squall.core.errors import SquallError
from squall.core.kit.supply import Banked
from squall.core.sky.whole_year import HOURS
from squall.drawing.horizon import horizon_picture
from squall.job.document.job import Job
from squall.job.edit.shade import add_shade, day_of_month
from squall.job.told.place import stand_findings
from squall.job.told.sun import BRIGHT_W_M2, Group, groups_of_day, shadow_hours, shadow_rows, stands_of
from squall.job.worked.assess import assess
from squall.job.worked.resolve import mounting_of
from squall.store.jobs import Stored, change_job, one_job
from squall.web.frame.edits import answer
from squall.web.frame.job_page import Notices
from squall.web.frame.pages import Prefs, database, prefs_of, status_of
from squall.words import say
from squall.words.calendar import MONTHS, SHORT_MONTHS

router = APIRouter()
Db = Annotated[Connection, Depends(database)]


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """Ways to stand side by side, and a shadow in numbers."""
    a = assess(stored.job).judged
    chosen = a.chosen
    month = _month(request, chosen.worst_month if chosen is not None else 5)
    groups = groups_of_day(a, month)
    return {
        "month": month,
        "stand_found": stand_findings(a),
        "group_chart": group_chart(groups),
        "group_words": [
            say("{words}: {kwh_m2:.2f} kWh on each m²", words=group.words, kwh_m2=group.kwh_m2) for group in groups
        ],
        "stands": stands_of(a, chosen) if chosen is not None else [],
        "shadows": shadow_rows(chosen) if chosen is not None and not isinstance(chosen.kit.supply, Banked) else [],
        "hours_hidden": shadow_hours(a),
        "horizon_picture": _picture(stored.job),
        "this_month": date.today().month - 1,
        "bright": BRIGHT_W_M2,
        "month_names": MONTHS,
    }


def _picture(job: Job) -> Markup:
    """The horizon with the sun's way in June, at the equinox and in December."""
    days = [(str(SHORT_MONTHS[month]), day_of_month(job, month)) for month in (5, 8, 11)]
    mounting = mounting_of(job)
    return horizon_picture(mounting.horizon, days, mounting.azimuth_deg)


@router.post("/jobs/{job_id}/sun/shade")
def put_shade(
    job_id: int, request: Request, conn: Db, shade: Annotated[str, Form()] = "", month: Annotated[int, Form(ge=0, le=11)] = 0
) -> Response:  # fmt: skip
    """Put shade, as it was said, on the horizon."""
    try:
        stored = change_job(conn, job_id, lambda job: add_shade(job, shade, month), prefs_of(request).who, check=assess)
    except SquallError as error:
        notices = Notices(errors={"shade": str(error)}, typed={"shade": shade})
        return answer(request, conn, one_job(conn, job_id), "sun", notices, status_of(error))
    return answer(request, conn, stored, "sun", Notices(banner=say("On the horizon now; it counts in every figure.")))


def _month(request: Request, usual: int) -> int:
    asked = request.query_params.get("month", "")
    return int(asked) if asked.isdecimal() and int(asked) < 12 else usual


def group_chart(groups: list[Group]) -> dict[str, Any]:
    """Light of each group by the ten minutes."""
    return {
        "type": "groups",
        "names": [group.words for group in groups],
        "lanes": [[[round(float(h), 3), round(float(g))] for h, g in zip(HOURS, group.light_w_m2, strict=True)] for group in groups],
    }  # fmt: skip
