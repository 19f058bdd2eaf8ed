"""Kits: the whole catalogue ranked for a job, in the background with progress; options side by side."""

from dataclasses import dataclass
from hashlib import sha256
from sqlite3 import Connection
from typing import Annotated, Any

from fastapi import APIRouter, Depends, Form, Request, Response

from squall.catalogue import catalogue
from squall.core.advice.doubt import ChoiceRange, Place, choice_range, mark_of
from squall.core.advice.rank import rank, reasons
from squall.core.advice.ranked import Ranked, Ranking, through_years
from squall.core.advice.trials import Trial, cheapest_that_holds, name_of, with_front
from squall.core.errors import NotFound, SquallError
from squall.core.reason import Spoken, Told
from squall.job.document.job import Job, quantity
from squall.job.edit.kits import adopt
from squall.job.told.kits import choice_words, price_figure, worst_figure
from squall.job.told.lift import ends_of
from squall.job.worked.assess import Assessment, assess, physics_key
from squall.job.worked.doubts import spreads_in
from squall.job.worked.kit import KitAssessment, assess_option
from squall.job.worked.trials import NOW, Trials
from squall.store.database import connect
from squall.store.jobs import Stored, one_job
from squall.store.van import in_van
from squall.web.frame.background import Background, Task
from squall.web.frame.edits import make
from squall.web.frame.pages import Prefs, database, page, prefs_of
from squall.web.stages.kit_by_hand import by_hand
from squall.web.stages.kit_by_hand import router as hand_router
from squall.web.stages.kit_filters import END_WORDS, Filters, admitted, filters_of
from squall.words import later

router = APIRouter()
router.include_router(hand_router)
Db = Annotated[Connection, Depends(database)]
SHOWN = 24
REFUSED_SHOWN = 60
MOST_WAIT_S = 30.0
PARTS = ("ranking", "trials", "choice")


class Search:
    """One search as its page needs it: the ranking, after it the best kits through a made year, and how sure the choice is."""

    def __init__(self, task: Task) -> None:
        self._task = task

    @property
    def share(self) -> float:
        """Of the catalogue, how much is tried."""
        return self._task.parts["ranking"].share

    @property
    def problem(self) -> Spoken:
        """Why there is no ranking, if it ended without."""
        return self._task.parts["ranking"].problem

    @property
    def ranking(self) -> Ranking | None:
        """The ranking, once it is there."""
        found: Ranking | None = self._task.parts["ranking"].result
        return found

    @property
    def choice(self) -> ChoiceRange | None:
        """The range of the choice, once it is there."""
        found: ChoiceRange | None = self._task.parts["choice"].result
        return found

    @property
    def choice_share(self) -> float:
        """How much of that is done; below 0 if it was stopped."""
        part = self._task.parts["choice"]
        return -1.0 if part.failed else part.share

    @property
    def season(self) -> Trials | None:
        """The trials' own figures: tilts, and how many kits were tried."""
        found: tuple[Trials, list[Trial]] | None = self._task.parts["trials"].result
        return None if found is None else found[0]

    @property
    def trials(self) -> list[Trial] | None:
        """The best through a made year, once they are there."""
        found: tuple[Trials, list[Trial]] | None = self._task.parts["trials"].result
        return None if found is None else found[1]

    @property
    def trial_share(self) -> float:
        """How much of that is done; below 0 if it was stopped."""
        part = self._task.parts["trials"]
        return -1.0 if part.failed else part.share

    def wait(self, seconds: float) -> None:
        """Wait for the ranking, no longer than so many seconds."""
        self._task.parts["ranking"].done.wait(seconds)


def search_for(background: Background, assessment: Assessment) -> Search:
    """The search for a job, begun if it is not there yet or was stopped before it had a ranking."""
    key = demand_key(assessment.job)
    return Search(
        background.begin(
            "search", key, PARTS, lambda task: _search(task, assessment), lambda known: known.parts["ranking"].failed
        )
    )


def _search(task: Task, a: Assessment) -> None:
    """Rank the catalogue; then, more slowly, run the best through ten made years and rank again at the doubt's ends."""
    ranking = task.run(
        "ranking",
        lambda: rank(a.parts.stock, a.layout, a.lit, a.used, a.rules, task.told("ranking")),
    )
    if ranking is None:
        return
    season = Trials(a)
    task.run("trials", lambda: (season, season.run(ranking, lambda begin, end: task.told("trials", begin, end))))
    best = ranking.holds[0] if ranking.holds else None
    if ranking.holds or ranking.short:
        place = Place(a.layout, a.lit)
        task.run(
            "choice",
            lambda: choice_range(
                a.parts.stock,
                place,
                a.used,
                a.rules,
                best,
                spreads_in(a),
                task.told("choice"),
            ),
        )


def demand_key(job: Job) -> str:
    """What a ranking depends on: the job less its options, readings and words."""
    return f"{id(catalogue())} " + physics_key(job.model_copy(update={"options": [], "chosen": None}))


@dataclass(frozen=True)
class Shelf:
    """What the page shows of a ranking."""

    rows: list[tuple[int, Ranked, Spoken]]
    ranking: Ranking
    refused: list[tuple[str, int, Told]]


def shelf(ranking: Ranking, assessment: Assessment, filters: Filters, in_van: frozenset[str]) -> Shelf:
    """The first kits of a ranking, with reasons; one of each pump and source unless every kit is asked."""
    everything = [*ranking.holds, *ranking.short]
    numbered = [(n, row) for n, row in enumerate(everything) if filters.admits(row.kit, row.price, in_van)]
    if not filters.every:
        seen: set[tuple[str, str]] = set()
        kept = []
        for number, row in numbered:
            key = (row.kit.pump.id, row.kit.source)
            if key not in seen:
                seen.add(key)
                kept.append((number, row))
        numbered = kept
    a = assessment
    numbered = [(n, through_years(row, a.layout, a.lit, a.used)) for n, row in numbered[:SHOWN]]
    numbered.sort(key=lambda pair: not pair[1].holds)
    whys: list[Spoken] = [*reasons([row for _, row in numbered], assessment.layout, assessment.lit, assessment.used)]
    poor = {advice.end: advice.reasons[0] for advice in ends_of(assessment) if advice.fit == "poor"}
    whys = [
        later("{said}; mind: {poor}", said=said, poor=poor[row.kit.pump.end]) if row.kit.pump.end in poor else said
        for said, (_, row) in zip(whys, numbered, strict=True)
    ]
    rows = [(number, row, why) for (number, row), why in zip(numbered, whys, strict=True)]
    counted: dict[tuple[str, Told], int] = {}
    for row in ranking.refused:
        group = (row.kit.pump.title, row.reason)
        counted[group] = counted.get(group, 0) + 1
    refused = sorted(((pump, count, why) for (pump, why), count in counted.items()), key=lambda r: (r[0], -r[1]))
    return Shelf(rows, ranking, refused)


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """Options side by side, and the ranking as far as it is."""
    assessment = assess(stored.job)
    return {
        "options": options_of(assessment),
        **by_hand(assessment, stored.job),
        **search_context(request, assessment),
    }


def search_context(request: Request, assessment: Assessment, known: Task | None = None) -> dict[str, Any]:
    """The ranking, or how far it has come; of the search that is known, or of one begun now."""
    search = Search(known) if known is not None else search_for(request.app.state.background, assessment)
    search.wait(0.35)
    filters = filters_of(request, assessment.used.allowed)
    van = van_of(request)
    return {
        "search": search,
        "shelf": shelf(search.ranking, assessment, filters, van) if search.ranking is not None else None,
        "refused_shown": REFUSED_SHOWN,
        "filters": filters,
        "van": van,
        "end_words": END_WORDS,
        "mark_of": mark_of,
        "price_of": price_figure,
        "worst_of": worst_figure,
        **choice_context(search, assessment, prefs_of(request)),
        **trial_context(search, filters, van),
    }


def van_of(request: Request) -> frozenset[str]:
    """What is in the van."""
    conn = connect(request.app.state.settings.database)
    try:
        return in_van(conn)
    finally:
        conn.close()


def trial_context(search: Search, filters: Filters, van: frozenset[str]) -> dict[str, Any]:
    """The trials for their part of the page: the front of those admitted, and why the others lose."""
    found, season = search.trials, search.season
    shown = with_front(admitted(found, filters, van)) if found is not None else []
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
            worked = assess_option(option, assessment.worked)
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
    search = search_for(request.app.state.background, assessment)
    return page(
        request, "kits/_choice.html", {"job_id": job_id, **choice_context(search, assessment, prefs_of(request))}
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
    search = search_for(request.app.state.background, assessment)
    filters = filters_of(request, assessment.used.allowed)
    context = trial_context(search, filters, in_van(conn))
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
    background: Background = request.app.state.background

    def change(job: Job) -> tuple[Job, Spoken]:
        search = search_for(background, assess(job))
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

    return make(request, conn, job_id, "kits", change)


@router.post("/jobs/{job_id}/kits/stop")
def stop(job_id: int, request: Request, conn: Db) -> Response:
    """Stop the ranking."""
    stored = one_job(conn, job_id)
    assessment = assess(stored.job)
    background: Background = request.app.state.background
    known = background.task("search", demand_key(assessment.job))
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
    background: Background = request.app.state.background
    search_for(background, assess(one_job(conn, job_id).job)).wait(MOST_WAIT_S)

    def change(job: Job) -> tuple[Job, Spoken]:
        ranking = search_for(background, assess(job)).ranking
        everything = [*ranking.holds, *ranking.short] if ranking is not None else []
        if not 0 <= number < len(everything) or mark_of(everything[number]) != mark:
            raise NotFound(later("The job has changed since this list was made; look at the new list."))
        row = everything[number]
        assert row.cabling is not None
        return adopt(job, row.kit, row.cabling)

    return make(request, conn, job_id, "kits", change)
