"""What was fitted for now only: it keeps its day, and stays in sight until the right thing takes its place."""

from datetime import date

from squall.job.document.fitting import ForNowRow
from squall.job.document.job import Job
from squall.job.told.finding import Finding
from squall.words import later


def overdue(job: Job, today: date) -> tuple[ForNowRow, ...]:
    """What should have been put right before today, the oldest first."""
    late = [row for row in job.fit.for_now if date.fromisoformat(row.until) < today]
    return tuple(sorted(late, key=lambda row: row.until))


def for_now_cautions(job: Job, today: date) -> list[Finding]:
    """Told under the verdict on every page: what was for now, and its day is over."""
    return [
        Finding("care", later("{what} was fitted for now, to be put right by {until}: see Fit.", what=row.what, until=row.until))
        for row in overdue(job, today)
    ]  # fmt: skip
