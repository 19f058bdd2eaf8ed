"""What a server holds after a long day: 200 rankings, 50 runs of ten years, with the pages between them."""

import json
import sys
from pathlib import Path

from squall.demo import demo_jobs
from squall.job.document.base import quantity
from squall.job.document.job import Job
from squall.job.worked.assess import Assessment, assess
from squall.job.worked.doubts import doubt_in
from squall.job.worked.years import report_of
from squall.web.frame.background import Background, Task
from squall.web.frame.warming import warm_up
from squall.web.stages.kit.filters import Filters
from squall.web.stages.kit.search import search_for, search_key


def held_mb() -> float:
    """Memory that this process holds now. [MB]"""
    status = Path("/proc/self/status").read_text("ascii")
    return int(status.split("VmRSS:")[1].split()[0]) / 1024.0


def varied(job: Job, number: int) -> Job:
    """The job with another lift and run, so that nothing is remembered of it."""
    lift, length = job.lift.si + number * 0.011, job.run[0].length.si + number * 0.07
    piece = job.run[0].model_copy(update={"length": quantity(f"{length:.3f} m", length)})
    years = job.years.model_copy(update={"count": 10, "seed": number + 1})
    return job.model_copy(
        update={"lift": quantity(f"{lift:.3f} m", lift), "run": [piece, *job.run[1:]], "years": years}
    )


def run_years(background: Background, a: Assessment, key: str) -> None:
    """Ten years of the chosen kit, run as the page runs them."""
    chosen = a.chosen
    assert chosen is not None

    def work(task: Task) -> None:
        task.run("run", lambda: report_of(a, chosen, None, ""))

    background.begin("years", key, ("run",), work)
    background.settle()


def day(rankings: int, runs: int) -> list[float]:
    """Do the work, and tell what is held after each twentieth of it. [MB]"""
    warm_up()
    background, jobs, held = Background(), [job for job in demo_jobs() if job.options], [held_mb()]
    for number in range(rankings):
        job = varied(jobs[number % len(jobs)], number)
        a = assess(job)
        assert a.levers is not None
        doubt_in(job)
        search = search_for(background, a, Filters(), frozenset())
        search.wait(60.0)
        task = background.task("search", search_key(job, Filters(), frozenset()))
        assert task is not None
        task.stop()
        for part in task.parts.values():
            part.done.wait(60.0)
        if number * runs // rankings != (number + 1) * runs // rankings and a.chosen and not a.chosen.refusal:
            run_years(background, a, str(number))
        if number % max(rankings // 20, 1) == 0:
            held.append(held_mb())
    return [*held, held_mb()]


if __name__ == "__main__":
    print(json.dumps([round(mb) for mb in day(int(sys.argv[1]), int(sys.argv[2]))]))
