"""One search for kits in the background: its ranking, its trials, how sure the choice is."""

from dataclasses import replace
from functools import lru_cache, partial
from hashlib import sha256

from squall.catalogue import Catalogue, catalogue
from squall.core.advice.asked import Found
from squall.core.advice.doubt import ChoiceRange, Place, choice_range
from squall.core.advice.ranked import Ranked
from squall.core.advice.search import search
from squall.core.advice.trials import Trial
from squall.core.kit.parts import Stock
from squall.core.reason import Spoken
from squall.job.document.job import Job
from squall.job.worked.assess import Assessment, physics_key
from squall.job.worked.doubts import spreads_in
from squall.job.worked.trials import Trials
from squall.web.frame.background import Background, Task
from squall.web.stages.kit.filters import Filters

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
    def ranking(self) -> Found | None:
        """The ranking, once it is there."""
        found: Found | None = self._task.parts["ranking"].result
        return found

    @property
    def so_far(self) -> list[Ranked]:
        """Kits that are known to hold while the search goes on, cheapest first."""
        return list(self._task.parts["ranking"].so_far)

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


def search_for(background: Background, assessment: Assessment, filters: Filters, in_van: frozenset[str]) -> Search:
    """The search for a job as it is asked, begun if it is not there yet or was stopped before it had a ranking."""
    assessment = assessment.judged
    stock = filters.stock_of(assessment.parts.stock, in_van)
    return Search(
        background.begin(
            "search", search_key(assessment.job, filters, in_van), PARTS,
            partial(_search, a=assessment, stock=stock, filters=filters), _without_ranking,
        )
    )  # fmt: skip


def _without_ranking(known: Task) -> bool:
    return known.parts["ranking"].failed


def _search(task: Task, a: Assessment, stock: Stock, filters: Filters) -> None:
    """Find the cheapest that hold; then, more slowly, run the best through ten years of made weather and search again at the doubt's ends."""
    asked = replace(filters.asked(), as_found=task.parts["ranking"].so_far.append)
    ranking = task.run("ranking", lambda: search(stock, a.layout, a.lit, a.used, a.rules, asked, task.told("ranking")))
    if ranking is None:
        return
    season = Trials(a, stock, filters.asked())
    task.run("trials", lambda: (season, season.run(ranking.holds, lambda begin, end: task.told("trials", begin, end))))
    best = ranking.holds[0] if ranking.holds else None
    if ranking.holds or ranking.short:
        place = Place(a.layout, a.lit)
        task.run(
            "choice",
            lambda: choice_range(stock, place, a.used, a.rules, best, spreads_in(a), task.told("choice")),
        )


def search_key(job: Job, filters: Filters, in_van: frozenset[str]) -> str:
    """What a search depends on: what is asked, and what the job wants."""
    asked = filters.query(allowed="")
    return f"{asked} {sorted(in_van) if filters.van else ''} {demand_key(job)}"


def demand_key(job: Job) -> str:
    """What a ranking depends on: the job less its options, readings and words."""
    learned = None if job.option is None else job.option.learned
    lift = 0.0 if learned is None else learned.lift_m
    return f"{_shelf_mark(catalogue())} {lift} " + physics_key(job.model_copy(update={"options": [], "chosen": None}))


@lru_cache(maxsize=8)
def _shelf_mark(held: Catalogue) -> str:
    """What tells one state of the shelf from another, in every process alike."""
    own = sorted((key, family, sorted(row.items())) for key, (family, row) in held.rows.items())
    return sha256(repr((own, sorted(held.unranked))).encode()).hexdigest()[:20]
