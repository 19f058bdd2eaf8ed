"""What the pages of one job share: fields, drawing, verdict, levers, history."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import UTC, datetime
from sqlite3 import Connection
from typing import Any

from fastapi import Request
from fastapi.responses import HTMLResponse

from squall.core.errors import NotFound
from squall.core.reason import Spoken
from squall.drawing import draw
from squall.job.document.fields import FieldSpec, spec_in
from squall.job.document.paths import as_typed, plain_of, value_in
from squall.job.document.unsaid import taken_of, unsaid_of
from squall.job.kept.for_now import for_now_cautions
from squall.job.stages import MAIN, STAGES, pages_under
from squall.job.told.need import gravity_cautions
from squall.job.told.place import air_findings
from squall.job.told.verdict import amount_words, figure_taken, range_words, unsaid_labels, verdict_of
from squall.job.told.wire import wiring_cautions
from squall.job.worked.assess import Assessment, assess
from squall.job.worked.doubts import doubt_in
from squall.job.worked.place import climate_of
from squall.store.history import can_undo_redo
from squall.store.jobs import Stored
from squall.store.photos import photos_of
from squall.store.years import run_words
from squall.web.frame.pages import Prefs, page, prefs_of, tab_of
from squall.words import later
from squall.words.units import in_own_units

Panel = Callable[[Request, Stored, Prefs], dict[str, Any]]
PANELS: dict[str, Panel] = {}


@dataclass(frozen=True)
class Conflict:
    """Two people's words for one field."""

    mine: str
    theirs: str


@dataclass
class Notices:
    """What went wrong or well with the last request.

    `errors` and `typed` are by field path; `banner` stands above the panel.
    """

    errors: dict[str, str] = field(default_factory=dict)
    typed: dict[str, str] = field(default_factory=dict)
    conflicts: dict[str, Conflict] = field(default_factory=dict)
    banner: str = ""
    banner_kind: str = "good"


@dataclass(frozen=True)
class FieldView:
    """One field as the template needs it."""

    path: str
    spec: FieldSpec
    value: str
    error: str
    conflict: Conflict | None
    taken: str = ""


class JobView:
    """A job on a page: the document with its fields, what follows from it, and the last notices."""

    def __init__(self, stored: Stored, assessment: Assessment, notices: Notices) -> None:
        self.stored = stored
        self.job = stored.job
        self.id = stored.id
        self.revision = stored.revision
        self.assessment = assessment
        self.notices = notices
        self._plain = plain_of(stored.job)

    def troubled(self, *stems: str) -> bool:
        """Whether something under these paths was refused or is asked about: then it must not be folded away."""
        said = [*self.notices.errors, *self.notices.conflicts]
        return any(path == stem or path.startswith(stem + ".") for path in said for stem in stems)

    def field(self, path: str) -> FieldView:
        """The field at a path."""
        spec, plain = spec_in(self.job, path, self.assessment.parts), value_in(self._plain, path)
        value = "" if path in self.job.unsaid else as_typed(plain)
        if isinstance(plain, dict) and spec.kind and value:
            value = in_own_units(value, plain["si"], spec.kind)
        return FieldView(
            path,
            spec,
            self.notices.typed.get(path, value),
            self.notices.errors.get(path, ""),
            self.notices.conflicts.get(path),
            figure_taken(self.assessment, path) if path in taken_of(self.job) else "",
        )


# What is photographed where it stands, not by the form of photos: how its part begins, and what it is called.
TAKEN_THERE: Mapping[str, Spoken] = {
    "step-": later("a step of Fit"), "search-": later("a search for what was wrong"), "visit-": later("a visit"),
}  # fmt: skip


def _photo_parts(stored: Stored) -> dict[str, Spoken]:
    """Parts of the job that a photo or a note may be of."""
    job = stored.job
    parts: dict[str, Spoken] = {
        "": later("the whole job"), "water": later("the water"), "outlet": later("the outlet"), "pump": later("the pump"),
        "panel": later("the panels"), "box": later("the box"), "cable": later("the cables"), "reading": later("a reading"),
    }  # fmt: skip
    return {**parts, **{f"run:{piece.id}": piece.name for piece in job.run}}


def _photos(conn: Connection, stored: Stored) -> dict[str, Any]:
    """The job's photos and notes, what a new one may be of, and what each is of."""
    photos, parts = photos_of(conn, stored.id), _photo_parts(stored)
    there = {one.part: words for one in photos for begins, words in TAKEN_THERE.items() if one.part.startswith(begins)}
    return {"photos": photos, "photo_parts": parts, "photo_names": {**there, **parts}}


def show(
    request: Request, conn: Connection, stored: Stored, stage: str, notices: Notices | None = None, status: int = 200
) -> HTMLResponse:
    """The page of a job at one stage.

    Raises
    ------
    NotFound
        For a stage that is none.
    """
    if stage not in PANELS:
        raise NotFound(
            later(
                "There is no stage {stage:quoted}; there are: {STAGES}.",
                stage=stage[:40],
                STAGES=", ".join(stage.key for stage in MAIN),
            )
        )
    can = STAGES[stage].anywhere or (stored.job.placed and (stage == "need" or not unsaid_of(stored.job)))
    shown = PANELS[stage](request, stored, prefs_of(request)) if can else {}
    return job_page(request, conn, stored, stage, shown, notices, status)


def job_page(
    request: Request, conn: Connection, stored: Stored, stage: str, extra: dict[str, Any], notices: Notices | None = None,
    status: int = 200,
) -> HTMLResponse:  # fmt: skip
    """A job's page at one stage; to htmx only the part that changes.

    Parameters
    ----------
    request : Request
        The request.
    conn : Connection
        For the history.
    stored : Stored
        The job.
    stage : str
        Key of :data:`STAGES`.
    extra : dict
        What the stage's own panel shows.
    notices : Notices, optional
        What went wrong or well.
    status : int
        HTTP status.

    Returns
    -------
    HTMLResponse
        Page or fragment.
    """
    assessment, here = assess(stored.job), STAGES[stage]
    doubt = doubt_in(stored.job) if assessment.chosen is not None else None
    undo_words, redo_words = can_undo_redo(conn, stored, tab_of(request))
    context: dict[str, Any] = {
        "view": JobView(stored, assessment, notices or Notices()),
        "a": assessment,
        "chosen": assessment.chosen,
        "judged": assessment.judged.chosen,
        "unsaid": unsaid_labels(assessment) if stage != "need" else {},
        "stage": stage,
        "top": here.lens,
        "at_stage": here,
        "stages": STAGES,
        "main_stages": MAIN,
        "under": pages_under(stage),
        "verdict": verdict_of(assessment),
        "levers": assessment.levers,
        "doubt": doubt,
        "cautions": [
            *wiring_cautions(assessment),
            *gravity_cautions(assessment),
            *for_now_cautions(stored.job, datetime.now(UTC).date()),
        ],
        "air_found": air_findings(climate_of(stored.job, assessment.parts)) if here.air and stored.job.placed else [],
        "years_words": run_words(conn, stored.id, stored.job) if assessment.chosen is not None else None,
        "doubt_words": range_words(doubt) if doubt is not None else "",
        "amount_words": amount_words,
        "beside": draw(stored.id, stored.job.name, assessment, here.lens, size="beside", page=stage),
        "narrow": draw(stored.id, stored.job.name, assessment, here.lens, size="narrow", page=stage),
        **_photos(conn, stored),
        "undo_words": undo_words,
        "redo_words": redo_words,
        "parts": assessment.parts,
        **extra,
    }
    fragment = request.headers.get("hx-request-type") == "partial"
    return page(request, "job/_body.html" if fragment else "job/page.html", context, status)
