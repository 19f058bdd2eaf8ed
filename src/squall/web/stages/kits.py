"""Kits: the whole catalogue ranked for a job, in the background with progress; options side by side."""

from collections.abc import Callable
from contextlib import closing
from dataclasses import dataclass
from hashlib import sha256
from sqlite3 import Connection
from typing import Annotated, Any

from fastapi import APIRouter, Depends, Form, Request, Response

from squall.core.advice.asked import Found
from squall.core.advice.doubt import mark_of, mark_of_kit
from squall.core.advice.rank import reasons
from squall.core.advice.ranked import Ranked, through_years
from squall.core.advice.trials import Trial, cheapest_that_holds, name_of, with_front
from squall.core.errors import NotFound, SquallError
from squall.core.reason import Spoken
from squall.job.document.job import Job, quantity
from squall.job.edit.kits import adopt
from squall.job.told.kits import bags_figures, choice_words, mass_figure, price_figure, taken_words, worst_figure
from squall.job.told.lift import ends_of
from squall.job.worked.assess import Assessment, assess
from squall.job.worked.kit import KitAssessment, assess_option, by_learned
from squall.job.worked.trials import NOW
from squall.store.folder.database import connect
from squall.store.jobs import Stored, change_job, one_job
from squall.store.shelf import counts_in_van, setting
from squall.web.frame.background import Background, Task
from squall.web.frame.edits import keep
from squall.web.frame.pages import Prefs, database, page, prefs_of
from squall.web.stages.kit.by_hand import by_hand
from squall.web.stages.kit.by_hand import router as hand_router
from squall.web.stages.kit.filters import END_WORDS, VOLTS, Filters, filters_of
from squall.web.stages.kit.search import Search, search_for, search_key
from squall.words import later

router = APIRouter()
router.include_router(hand_router)
Db = Annotated[Connection, Depends(database)]
REFUSED_SHOWN = 60
# Rows of the list that stand open; the rest is folded.
FIRST_ROWS = 4
MOST_WAIT_S = 30.0


@dataclass(frozen=True)
class Shelf:
    """What the page shows of a ranking."""

    rows: list[tuple[int, Ranked, Spoken, bool]]
    ranking: Found
    laid: str

    def taken_later(self, mark: str | None, first: int) -> bool:
        """Whether the kit of a mark stands after the first so many."""
        return any(mark_of(row) == mark for _, row, _, _ in self.rows[first:])


def shelf(ranking: Found, assessment: Assessment) -> Shelf:
    """The kits of a search, with reasons."""
    numbered = list(enumerate([*ranking.holds, *ranking.short]))
    a = assessment
    whys: list[Spoken] = [
        *reasons([through_years(row, a.layout, a.lit, a.used) for _, row in numbered], a.layout, a.lit, a.used)
    ]
    poor = {advice.end: advice.reasons[0] for advice in ends_of(assessment) if advice.fit == "poor"}
    whys = [
        later("{said}; mind: {poor}", said=said, poor=poor[row.kit.pump.end]) if row.kit.pump.end in poor else said
        for said, (_, row) in zip(whys, numbered, strict=True)
    ]
    whys = [
        later("{said}; mind: its pump is known to {band:share} only", said=said, band=row.kit.pump.band)
        if row.kit.pump.band
        else said
        for said, (_, row) in zip(whys, numbered, strict=True)
    ]
    laid = laid_hose(a)
    rows = [(number, row, why, laid is not None and row.kit.hose is not None and row.kit.hose.nominal != laid)
            for (number, row), why in zip(numbered, whys, strict=True)]  # fmt: skip
    return Shelf(rows, ranking, laid or "")


def laid_hose(a: Assessment) -> str | None:
    """Name of the hose that the survey laid and a kit's would replace; None where there is none, or several."""
    named = {piece.hose for piece in a.job.run if not piece.fixed and piece.side == "delivery"}
    if len(named) != 1:
        return None
    hose = a.parts.hoses.get(named.pop())
    return None if hose is None else hose.nominal


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """Options side by side, and the ranking as far as it is."""
    assessment = assess(stored.job)
    return {
        "options": options_of(assessment),
        **by_hand(assessment, stored.job, counts_of(request)),
        **search_context(request, assessment),
    }


def search_context(request: Request, assessment: Assessment, known: Task | None = None) -> dict[str, Any]:
    """The ranking, or how far it has come; of the search that is known, or of one begun now."""
    filters = filters_of(request, assessment.used.allowed)
    van = van_of(request)
    search = Search(known) if known is not None else search_for(request.app.state.background, assessment, filters, van)
    search.wait(0.6)
    return {
        "search": search,
        "shelf": shelf(search.ranking, assessment) if search.ranking is not None else None,
        "refused_shown": REFUSED_SHOWN,
        "filters": filters,
        "van": van,
        "end_words": END_WORDS,
        "first_rows": FIRST_ROWS,
        "volts_known": VOLTS,
        "has_owned": bool(assessment.job.owned),
        "mark_of": mark_of,
        "currency": currency_of(request),
        "taken": None if assessment.chosen is None else mark_of_kit(assessment.chosen.kit),
        "price_of": price_figure,
        "worst_of": worst_figure,
        "mass_of": mass_figure,
        "bags_of": bags_figures,
        **choice_context(search, assessment, prefs_of(request)),
        **trial_context(search, filters),
    }


def _asked(request: Request, assessment: Assessment) -> Search:
    """The search that an address asks for."""
    filters = filters_of(request, assessment.used.allowed)
    return search_for(request.app.state.background, assessment, filters, van_of(request))


def counts_of(request: Request) -> dict[str, int]:
    """How many of each part are in the van."""
    with closing(connect(request.app.state.settings.database)) as conn:
        return counts_in_van(conn)


def currency_of(request: Request) -> str:
    """The code of the owner's money; empty if nobody said."""
    with closing(connect(request.app.state.settings.database)) as conn:
        return setting(conn, "currency")


def van_of(request: Request) -> frozenset[str]:
    """What is in the van."""
    return frozenset(counts_of(request))


def trial_context(search: Search, filters: Filters) -> dict[str, Any]:
    """The trials for their part of the page: the front, and why the others lose."""
    found, season = search.trials, search.season
    shown = found or []
    if filters.budget is not None:
        shown = with_front([trial for trial in shown if trial.price <= filters.budget])
    best = cheapest_that_holds(shown, filters.allowed)
    return {
        "trials": shown if found is not None else None,
        "trial_share": search.trial_share,
        "best_trial": best,
        "name_of": name_of,
        "tilts": season.tilts if season is not None else {},
        "tried_all": season.tried if season is not None else 0,
        "trial_numbers": {id(t.entrant): n for n, t in enumerate(found or [])},
        "trial_chart": trial_chart(shown),
        "trial_mark": trial_mark,
    }


def trial_chart(trials: list[Trial]) -> dict[str, Any]:
    """Price against short days, the front joined."""
    points = [[round(t.price), round(t.short_in_a_hundred, 2), name_of(t.entrant)] for t in trials]
    return {
        "type": "front",
        "front": [p for p, t in zip(points, trials, strict=True) if t.front],
        "others": [p for p, t in zip(points, trials, strict=True) if not t.front],
    }


def trial_mark(trial: Trial) -> str:
    """A short mark of an entrant, so that an old page takes no other kit."""
    return sha256(f"{mark_of(trial.entrant.row)}{trial.entrant.tilt}{name_of(trial.entrant)!r}".encode()).hexdigest()[
        :12
    ]


def options_of(assessment: Assessment) -> list[tuple[str, str, KitAssessment | None, Spoken]]:
    """All options worked out: id, name, assessment or None, problem."""
    found: list[tuple[str, str, KitAssessment | None, Spoken]] = []
    for option in assessment.job.options:
        try:
            worked = by_learned(assess_option(option, assessment.worked))
            found.append((option.id, option.name, worked, worked.refusal or ""))
        except SquallError as error:
            found.append((option.id, option.name, None, str(error)))
    return found


@router.get("/jobs/{job_id}/kits/search")
def progress(job_id: int, request: Request, conn: Db) -> Response:
    """How far the ranking has come, or its result."""
    stored = one_job(conn, job_id)
    assessment = assess(stored.job)
    context = search_context(request, assessment)
    return page(request, "kits/_search.html", {"job_id": job_id, "stage": "kits", "a": assessment, **context})


@router.get("/jobs/{job_id}/kits/choice")
def choice(job_id: int, request: Request, conn: Db) -> Response:
    """Whether the choice of kit hangs on a doubtful measurement, as far as it is worked out."""
    assessment = assess(one_job(conn, job_id).job)
    search = _asked(request, assessment)
    return page(
        request,
        "kits/_choice.html",
        {
            "job_id": job_id,
            "filters": filters_of(request, assessment.used.allowed),
            **choice_context(search, assessment, prefs_of(request)),
        },
    )


def choice_context(search: Search, assessment: Assessment, prefs: Prefs) -> dict[str, Any]:
    """The range of the choice for its part of the page."""
    found = search.choice
    return {
        "choice": found,
        "choice_share": search.choice_share,
        "choice_words": choice_words(found, assessment) if found is not None else "",
    }


@router.get("/jobs/{job_id}/kits/trials")
def trials(job_id: int, request: Request, conn: Db) -> Response:
    """The trials, as far as they are run."""
    assessment = assess(one_job(conn, job_id).job)
    search, filters = _asked(request, assessment), filters_of(request, assessment.used.allowed)
    context = trial_context(search, filters)
    return page(
        request,
        "kits/_trials.html",
        {"job_id": job_id, "a": assessment, "price_of": price_figure, "filters": filters, **context},
    )


@router.post("/jobs/{job_id}/kits/take-trial")
def take_trial(
    job_id: int, request: Request, conn: Db, number: Annotated[int, Form()], mark: Annotated[str, Form()]
) -> Response:
    """Make a tried kit this job's option: its tank comes with it, and its panels' tilt."""

    def change(job: Job) -> tuple[Job, Spoken]:
        search = _asked(request, assess(job))
        found = search.trials or []
        if not 0 <= number < len(found) or trial_mark(found[number]) != mark:
            raise NotFound(later("The job has changed since that trial; look at the new one."))
        entrant, season = found[number].entrant, search.season
        assert entrant.row.cabling is not None
        changed, words = adopt(job, entrant.kit, entrant.row.cabling)
        if entrant.tilt != NOW and season is not None:
            tilt = season.tilts[entrant.tilt]
            mount = changed.mount.model_copy(update={"second_tilt": None})
            changed = changed.model_copy(update={"tilt": quantity(f"{tilt:g}°", tilt), "mount": mount})
            words = later("{words}, panels at {tilt:angle}", words=words, tilt=tilt)
        return changed, words

    return _taken(request, conn, job_id, change)


@router.post("/jobs/{job_id}/kits/stop")
def stop(job_id: int, request: Request, conn: Db) -> Response:
    """Stop the ranking."""
    stored = one_job(conn, job_id)
    assessment = assess(stored.job)
    background: Background = request.app.state.background
    key = search_key(assessment.job, filters_of(request, assessment.used.allowed), van_of(request))
    known = background.task("search", key)
    if known is not None:
        known.stop()
        known.parts["ranking"].done.wait(5.0)
    context = search_context(request, assessment, known)
    return page(request, "kits/_search.html", {"job_id": job_id, "stage": "kits", "a": assessment, **context})


@router.post("/jobs/{job_id}/kits/take")
def take(
    job_id: int, request: Request, conn: Db, number: Annotated[int, Form()], mark: Annotated[str, Form()]
) -> Response:
    """Make a ranked kit this job's option.

    The ranking is awaited before the change begins, so that nobody else's edit waits for it.
    """
    _asked(request, assess(one_job(conn, job_id).job)).wait(MOST_WAIT_S)

    def change(job: Job) -> tuple[Job, Spoken]:
        ranking = _asked(request, assess(job)).ranking
        everything = [*ranking.holds, *ranking.short] if ranking is not None else []
        if not 0 <= number < len(everything) or mark_of(everything[number]) != mark:
            raise NotFound(later("The job has changed since this list was made; look at the new list."))
        row = everything[number]
        assert row.cabling is not None
        return adopt(job, row.kit, row.cabling)

    return _taken(request, conn, job_id, change)


def _taken(request: Request, conn: Connection, job_id: int, change: Callable[[Job], tuple[Job, Spoken]]) -> Response:
    """Take a kit and say what changed by it."""
    was, who = assess(one_job(conn, job_id).job).chosen, prefs_of(request).who

    def told(stored: Stored) -> str:
        now = assess(stored.job).chosen
        return "" if now is None else str(taken_words(was, now))

    return keep(request, conn, job_id, "kits", lambda: change_job(conn, job_id, change, who, check=assess), told)
