"""Makes the demo's yard afresh: twelve kits of invented people, each with two years of visits, upkeep and faults that came and were mended.

What is read at a visit comes from the stand-ins, on a kit that is off by a few per cent and wears; always the same, as its throw
is seeded. Writes ``src/squall/demo/yard.json``, which ``squall demo --yard`` moves so that its last day is today.
"""

import json
import random
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from pathlib import Path

from make_demo import demo_jobs

from squall.catalogue import catalogue
from squall.core.advice.rank import rank
from squall.core.faults.causes import Story
from squall.core.upkeep.due import tasks_of
from squall.core.upkeep.states import DONE, WEARING, Done, set_back_by
from squall.job.document.fields import edit
from squall.job.document.fitting import FitDoc, ForNowRow
from squall.job.document.job import Job, Visit
from squall.job.edit.kits import adopt
from squall.job.kept.history import History, SearchDoc, ShownRow, UpkeepRow
from squall.job.kept.upkeep import place_of
from squall.job.told.prove import taken_of
from squall.job.trouble.chain import chain_of
from squall.job.worked.assess import Assessment, assess
from squall.job.worked.kit import KitAssessment
from squall.standins.stated import stated_of
from squall.standins.worn import readings_of, true_kit
from squall.sums.registry import run

LAST_DAY = date(2026, 11, 24)
FIRST_DAY = LAST_DAY - timedelta(days=730)
# Prove's points by the checks that a visit reads, and how a reading is written. [decimals]
POINTS = {"source-open-volts": "open-volts", "pump-volts-on": "pump-volts", "pump-amps-on": "pump-amps", "outlet-flow": "outlet-flow"}  # fmt: skip
PEOPLE = ("Tamsin Ferro", "Oded Marsh", "Wren Holloway", "Ilse Quarrie")


@dataclass(frozen=True)
class Mend:
    """Something that was done on a day counted from the first: why, what was seen to be wrong, what wore off at once before it."""

    day: int
    done: tuple[Done, ...]
    note: str
    found: str = ""
    story: Story = "unknown"
    jump: dict[str, float] = field(default_factory=dict)


@dataclass(frozen=True)
class Told:
    """A kit of the yard.

    Attributes
    ----------
    base : int
        Which of the demo's jobs it is made from.
    name, place : str
        Invented.
    litres : str
        What was wanted a day when the kit was chosen.
    rates : dict
        How fast each state wears. [its unit per year]
    mends : tuple of Mend
        What was done.
    every, unseen : int
        Days from visit to visit, and since the last. [d]
    edits : dict
        Fields that differ from the base's.
    pump : str
        Its pump, by what the catalogue calls it; the cheapest that holds if nothing is said.
    now : str
        What is wanted today, if that has grown.
    kept_up : float
        Share of the jobs due that somebody did. [-]
    """

    base: int
    name: str
    place: str
    litres: str
    rates: dict[str, float]
    mends: tuple[Mend, ...] = ()
    every: int = 45
    unseen: int = 12
    edits: dict[str, str] = field(default_factory=dict)
    pump: str = ""
    now: str = ""
    kept_up: float = 0.8


YARD = (
    Told(0, "Goat trough on Kestrel Ridge", "Tamsin Ferro's spring pool, north slope", "750 L", {"panel-light-lost": 0.09, "head-lost": 0.03},
         (Mend(210, ("panels-cleaned",), "dust of the dry months"), Mend(575, ("panels-cleaned",), "dust again")), pump="stairwell-8"),
    Told(1, "Saffron terraces on drip", "Oded Marsh, five terraces above the cistern", "900 L", {"flow-lost": 0.03, "joint-ohm": 0.04},
         (Mend(400, ("hose-mended",), "a clamp had let go at the third terrace", "hose-leaks", "slowly-less", {"flow-lost": 0.22}),), pump="stairwell-14"),
    Told(2, "Duck nursery channel", "Wren Holloway's brooder yard", "3500 L", {"drag": 0.9, "head-lost": 0.02},
         (Mend(250, ("pump-cleaned",), "weed round the shaft"), Mend(480, ("pump-cleaned",), "weed again; a finer screen is ordered")), every=30, pump="dabchick-40"),
    Told(3, "Donkey-trek way-station", "hand-dug well at Three Cairns", "600 L", {"joint-ohm": 0.55, "drag": 0.1}, (), every=60, unseen=20, pump="auger-7"),
    Told(0, "Alpaca fold above the ford", "Ilse Quarrie's lower spring", "900 L", {"panel-light-lost": 0.14, "head-lost": 0.09}, (), unseen=9, now="1500 L",
         edits={"lift": "7.2 m", "run.p1.length": "44 m", "run.p1.end_height": "6.2 m"}, pump="stairwell-8"),
    Told(0, "Spare trough at the shearing shed", "Tamsin Ferro's spring pool, south slope", "500 L", {"head-lost": 0.02}, (), unseen=170,
         edits={"lift": "5.5 m", "run.p1.length": "36 m", "run.p1.end_height": "4.6 m"}),
    Told(1, "Seedling benches at Ember", "Oded Marsh's lower cistern", "700 L", {"joint-ohm": 0.08, "drag": 0.12}, (), edits={"lift": "11.0 m"}, pump="bellows-11"),
    Told(2, "Geese on Sallow Flat", "Wren Holloway's far pond", "2800 L", {"drag": 0.3, "flow-lost": 0.12},
         (Mend(330, ("pump-renewed",), "its bearing had gone, a new one", "rotor-drags", "ran-and-stopped", {"drag": 1.2}),), every=40,
         edits={"lift": "1.1 m", "run.p1.length": "22 m"}),
    Told(3, "Trek hut at Ember Pass", "dug well below the hut", "400 L", {"joint-ohm": 0.1},
         (Mend(510, ("joint-remade",), "water had crept into the sleeve", "joint-resistance", "after-winter", {"joint-ohm": 1.6}),), every=75,
         edits={"lift": "18.6 m"}),
    Told(0, "Olive rows by the kiln", "Ilse Quarrie's kiln spring", "650 L", {"panel-light-lost": 0.05, "flow-lost": 0.03}, (), every=50, unseen=3,
         edits={"lift": "6.4 m", "run.p1.length": "40 m", "run.p1.end_height": "5.5 m"}, pump="stairwell-8"),
    Told(1, "Market beds at Quill", "Oded Marsh's rain cistern", "800 L", {"head-lost": 0.05}, (), edits={"lift": "9.0 m", "altitude": "720 m"}, kept_up=0.3, pump="stairwell-8"),
    Told(2, "Nursery reserve", "Wren Holloway's upper pond", "2500 L", {"drag": 0.1}, (Mend(120, ("panels-cleaned",), "bird mess"),),
         edits={"lift": "1.8 m"}),
)  # fmt: skip


def _job(told: Told) -> Job:
    """The job with the cheapest kit of the shelf that holds for what was wanted first, on its first day."""
    job = demo_jobs()[told.base].model_copy(update={"visits": []})
    for path, text in {
        "name": told.name,
        "place": told.place,
        "need_by": "litres",
        "litres": told.litres,
        **told.edits,
    }.items():
        job = edit(job, path, text, catalogue())
    a = assess(job)
    found = rank(catalogue().stock, a.layout, a.lit, a.used, a.rules).holds
    fits = [row for row in found if row.kit.battery is None and row.kit.pump.id in (told.pump or row.kit.pump.id)]
    best = min(fits, key=lambda row: row.price)
    assert best.cabling is not None
    job, _ = adopt(job, best.kit, best.cabling)
    assert job.chosen is not None
    job = job.model_copy(update={"options": [o for o in job.options if o.id == job.chosen]})
    return edit(job, "litres", told.now, catalogue()) if told.now else job


def _history(told: Told, throw: random.Random) -> History:
    job = _job(told)
    a = assess(job)
    chosen = a.chosen
    assert chosen is not None, told.name
    who = PEOPLE[throw.randrange(len(PEOPLE))]
    visits, mends = _visits(told, a, chosen, throw)
    if told.name == "Nursery reserve":
        until = (LAST_DAY - timedelta(days=15)).isoformat()
        job = job.model_copy(
            update={"fit": FitDoc(for_now=[ForNowRow(id="n1", what="a car fuse in place of the breaker", until=until)])}
        )
    return History(
        job=job.model_copy(update={"visits": visits}), upkeep=_upkeep(told, job, a, chosen, visits, who, throw), searches=mends
    )  # fmt: skip


def _moment(day: date, hour: int, minute: int) -> str:
    return f"{day.isoformat()}T{hour:02}:{minute:02}:00+00:00"


def _visits(
    told: Told, a: Assessment, chosen: KitAssessment, throw: random.Random
) -> tuple[list[Visit], list[SearchDoc]]:
    """Readings of two years, the kit wearing between them, and the searches that ended in a mend."""
    chain = chain_of(a, chosen)
    stated = stated_of(chain)
    checks = {row["check"]: row for row in json.loads(run("checks", {"kit": stated}).model_dump_json())}
    read = {code: checks[code] for code in POINTS if code in checks}
    true, levels, last = true_kit(stated, throw), {str(state): 0.0 for state in WEARING}, 0
    visits: list[Visit] = []
    searches: list[SearchDoc] = []
    days = [*range(0, 731 - told.unseen, told.every), 730 - told.unseen]
    by_day: dict[int, Mend | None] = dict.fromkeys(days) | {mend.day: mend for mend in told.mends}
    for number, (day, mend) in enumerate(sorted(by_day.items())):
        for state, rate in told.rates.items():
            levels[state] += rate * (day - last) / 365.25 * throw.uniform(0.6, 1.4)
        last = day
        for state, jump in (mend.jump if mend else {}).items():
            levels[state] += jump
        shown = {state: value + (1.0 if state == "drag" else 0.0) for state, value in levels.items()}
        light, air = throw.uniform(520.0, 930.0), throw.uniform(12.0, 31.0)
        form = {"light": f"{light * throw.gauss(1.0, 0.03):.0f} W/m2", "air": f"{air:.0f} °C"}
        for code, value in readings_of(true, shown, light, air, read, throw).items():
            assert isinstance(value, float), (told.name, code)
            form[POINTS[code]] = f"{value:.2f} L/min" if code == "outlet-flow" else f"{value:.2f}"
        at = FIRST_DAY + timedelta(days=day)
        taken = taken_of(a, chosen, form, "metric")
        assert not taken.problems, (told.name, taken.problems)
        visit = taken.visit(f"v{number + 1}", f"{at.isoformat()}T{throw.randrange(8, 14):02}:{throw.randrange(60):02}Z")
        done = [code for code in DONE if mend is not None and code in mend.done]
        visits.append(visit.model_copy(update={"done": done, "note": mend.note if mend else ""}))
        for code in done:
            for state in set_back_by(code, chain):
                levels[state] = 0.0
        if mend is not None and mend.found:
            searches.append(_search(chosen, mend, at, throw))
    return visits, searches


def _search(chosen: KitAssessment, mend: Mend, at: date, throw: random.Random) -> SearchDoc:
    who = PEOPLE[throw.randrange(len(PEOPLE))]
    return SearchDoc(
        option=chosen.option.id, begun_at=_moment(at, 9, 5), who=who, story=mend.story, sky="full", ended_at=_moment(at, 9, 50),
        found=mend.found, note=mend.note, seen=[ShownRow(check="outlet-flow", typed="by the bucket", at=_moment(at, 9, 20), who=who)],
    )  # fmt: skip


def _upkeep(
    told: Told, job: Job, a: Assessment, chosen: KitAssessment, visits: list[Visit], who: str, throw: random.Random
) -> list[UpkeepRow]:
    """What came back was done at most visits, and once was put off."""
    rows = []
    tasks = tasks_of(place_of(job, a, chosen))
    for number, visit in enumerate(visits):
        at = datetime.fromisoformat(visit.at.replace("Z", "+00:00"))
        rows += [
            UpkeepRow(option=chosen.option.id, task=task.code, at=at.isoformat(), who=who)
            for task in tasks
            if (number % 8 == 7 if task.code == "pump-life" else throw.random() < told.kept_up)
        ]
    if told.kept_up < 0.5:
        until = (LAST_DAY - timedelta(days=6)).isoformat()
        rows.append(
            UpkeepRow(option=chosen.option.id, task="plugs", at=_moment(LAST_DAY - timedelta(days=40), 10, 0), put_off=until,
                      reason="no spare plug in the van", who=who)
        )  # fmt: skip
    return rows


def main() -> None:
    """Write the file."""
    target = Path(__file__).parent.parent / "src" / "squall" / "demo" / "yard.json"
    histories = [_history(told, random.Random(4000 + number)) for number, told in enumerate(YARD)]
    plain = {"last_day": LAST_DAY.isoformat(), "kits": [one.model_dump(mode="json") for one in histories]}
    target.write_text(json.dumps(plain, ensure_ascii=False, separators=(",", ":")) + "\n", "utf8")


if __name__ == "__main__":
    main()
