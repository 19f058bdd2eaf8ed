"""The jobs as a board to be searched: names, places and people, when changed, and how each stood when last worked out.

A standing is only good for what it was worked out from: revision, what was done of its upkeep, birth certificate, parts,
the version of Squall and the month; else it counts as not known, and is worked out anew by whoever asks.
"""

import sqlite3
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from pydantic import TypeAdapter

from squall import __version__
from squall.job.kept.board import HANDS, Hand, Standing
from squall.store.folder.database import transaction
from squall.store.jobs import person_of

# What a standing hangs on, as one text.
_MARK = """
    :version || ' ' || job.revision
        || ' ' || (SELECT count(*) || '.' || coalesce(max(upkeep.id), 0) FROM upkeep WHERE upkeep.job_id = job.id)
        || ' ' || (SELECT coalesce(max(birth.id), 0) FROM birth WHERE birth.job_id = job.id)
        || ' ' || (SELECT value FROM setting WHERE key = 'shelf-state') || ' ' || :month
"""
SELECT_ROWS = f"""
    SELECT job.id, job.revision, job.changed_at, json_extract(job.document, '$.name') AS name,
        json_extract(job.document, '$.place') AS place, json_extract(job.document, '$.notes') AS notes,
        {_MARK} AS mark, standing.told
    FROM job LEFT JOIN standing ON standing.job_id = job.id AND standing.mark = {_MARK}
    WHERE job.removed_at IS NULL
    ORDER BY job.id
"""
SELECT_PEOPLE = "SELECT DISTINCT job_id, who FROM revision WHERE job_id > 0"
KEEP = """
    INSERT INTO standing (job_id, mark, told)
    SELECT id, :mark, :told FROM job WHERE id = :id AND removed_at IS NULL
    ON CONFLICT (job_id) DO UPDATE SET mark = excluded.mark, told = excluded.told
"""
SORTS = ("hand", "opened", "changed", "name", "made")
_STANDING: TypeAdapter[Standing] = TypeAdapter(Standing)


@dataclass(frozen=True)
class JobRow:
    """A job as the list knows it without reading it whole.

    `mark` says what its standing hangs on now; `standing` is None where it isn't worked out for that. `people` are those
    who have changed it under a name.
    """

    id: int
    revision: int
    changed_at: str
    name: str
    place: str
    notes: str
    mark: str
    standing: Standing | None
    people: frozenset[str] = frozenset()

    def hands(self, today: date) -> tuple[Hand, ...]:
        """What needs a hand there; nothing where it isn't known."""
        return () if self.standing is None else self.standing.hands(today)


@dataclass(frozen=True)
class Sought:
    """What is looked for among the jobs: words of name, place and notes in any order and case; the rest empty for any.

    `today` is the day by which what needs a hand is told.
    """

    today: date
    words: str = ""
    grade: str = ""
    missing: str = ""
    hand: str = ""
    place: str = ""
    pump: str = ""
    who: str = ""

    @property
    def by_standing(self) -> bool:
        """Whether how a job stands must be known to tell whether it is one of them."""
        return bool(self.grade or self.missing or self.hand or self.pump)

    def fits(self, row: JobRow) -> bool:
        """Whether a row is one of them; one that nobody has worked out isn't, where that is asked."""
        text = f"{row.name} {row.place} {row.notes}".casefold()
        if not all(word in text for word in self.words.casefold().split()):
            return False
        if (self.place and row.place.strip() != self.place) or (self.who and self.who not in row.people):
            return False
        if not self.by_standing:
            return True
        one = row.standing
        return (
            one is not None
            and self.grade in ("", one.grade)
            and (not self.missing or self.missing in one.missing)
            and (not self.hand or self.hand in one.hands(self.today))
            and self.pump in ("", one.pump)
        )


def job_rows(conn: sqlite3.Connection, today: date) -> list[JobRow]:
    """All jobs, oldest first."""
    people: dict[int, set[str]] = {}
    for row in conn.execute(SELECT_PEOPLE):
        if name := person_of(row["who"]):
            people.setdefault(row["job_id"], set()).add(name)
    return [
        JobRow(
            row["id"], row["revision"], row["changed_at"], row["name"] or "", row["place"] or "", row["notes"] or "", row["mark"],
            None if row["told"] is None else _STANDING.validate_json(row["told"]), frozenset(people.get(row["id"], ())),
        )
        for row in conn.execute(SELECT_ROWS, {"version": __version__, "month": today.isoformat()[:7]})
    ]  # fmt: skip


def in_order(rows: Iterable[JobRow], sort: str, today: date, opened: Sequence[int] = ()) -> list[JobRow]:
    """The rows by a key of :data:`SORTS`: what needs a hand, last opened, last changed, by name, last made first."""
    newest = sorted(rows, key=lambda row: row.id, reverse=True)
    if sort == "name":
        return sorted(newest, key=lambda row: row.name.casefold())
    if sort == "made":
        return newest
    changed = sorted(newest, key=lambda row: row.changed_at, reverse=True)
    if sort == "changed":
        return changed
    place = {job_id: number for number, job_id in enumerate(opened)}
    last_opened = sorted(changed, key=lambda row: place.get(row.id, len(place)))
    if sort == "opened":
        return last_opened
    return sorted(last_opened, key=lambda row: min(map(HANDS.index, row.hands(today)), default=len(HANDS)))


def keep_standings(conn: sqlite3.Connection, standings: Mapping[int, tuple[str, Standing]]) -> None:
    """Keep how jobs stand, by their numbers, each with the mark of what it hangs on; of a job that is gone, nothing."""
    with transaction(conn):
        for job_id, (mark, one) in standings.items():
            conn.execute(KEEP, {"id": job_id, "mark": mark, "told": _STANDING.dump_json(one).decode()})
