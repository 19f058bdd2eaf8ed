"""What stands in a kit's booklet: what it is, how it went year by year, what was found and mended, what comes next."""

from collections import Counter
from datetime import UTC, date, datetime
from typing import Any

from squall.core.faults.causes import CAUSES, NONE, OTHER
from squall.core.reason import Reason, Spoken
from squall.drawing import draw_course
from squall.job.kept.ahead import ahead_of
from squall.job.kept.board import course_of
from squall.job.kept.history import History
from squall.job.kept.record import day_of
from squall.job.kept.told import ahead_words, left_of, level_words, remedy_words, short_words
from squall.job.kept.upkeep import DONE_WORDS, due_now, kept_of, run_of
from squall.job.told.prove import KIND
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.store.jobs import Stored
from squall.web.papers.beside import Beside
from squall.web.stages.commission import born_words


def booklet(stored: Stored, a: Assessment, chosen: KitAssessment, beside: Beside) -> dict[str, Any]:
    """Everything of the booklet that the other papers don't have; nothing of a job of which nothing is gathered."""
    history, record, today, option = beside.history, beside.record, datetime.now(UTC).date(), chosen.option.id
    if history is None or record is None:
        return {"history": None}
    kept = kept_of(a, chosen, record, today)
    return {
        "history": history, "born": born_words(beside.birth) if beside.birth else [], "birth": beside.birth, "kept": kept,
        "course": draw_course([(one.on, one.share) for one in course_of(kept)]), "short_words": short_words(kept),
        "remedy_words": remedy_words(kept), "levels": [level_words(level) for level in kept.worn.levels],
        "run": run_of(chosen, record, today),
        "ahead": ahead_words(ahead_of(a, chosen, today, left_of(kept))), "due": due_now(stored.job, a, chosen, record, today),
        "done": _done(history, option), "mended": _mended(history, option), "log": record.docs, "done_words": DONE_WORDS, "kind_of": KIND,
        "reason": Reason, "today": today,
    }  # fmt: skip


def _done(history: History, option: str) -> list[tuple[Spoken, int, date]]:
    """What of the upkeep was done: how often, and when last; the oftenest first."""
    rows = [row for row in history.upkeep if row.option == option and row.put_off is None]
    times = Counter(row.task for row in rows)
    last = {row.task: day_of(row.at) for row in rows}
    return [(Reason(f"due-{task}"), count, last[task]) for task, count in times.most_common()]


def _mended(history: History, option: str) -> list[tuple[str, Spoken, str, str]]:
    """What was found by searching: its day, what it was, what was noted, by whom."""
    return [
        (row.ended_at[:10], Reason(f"fault-{row.found}") if row.found in CAUSES or row.found in (NONE, OTHER) else "", row.note, row.who)
        for row in history.searches
        if row.option == option and row.ended_at
    ]  # fmt: skip
