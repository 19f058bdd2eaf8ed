"""As learned: the year by what the visits taught beside the year as stated; little said before enough of them count."""

from dataclasses import replace
from datetime import UTC, date, datetime

import numpy as np
import pytest
from test_board import TODAY
from test_job_list import soup

from squall.catalogue import catalogue
from squall.demo import yard
from squall.formats.job_json import export as job_json
from squall.formats.job_json import read as read_job
from squall.job.document.job import LearnedDoc, quantity
from squall.job.kept.as_learned import beside_of, judge_by
from squall.job.worked.assess import assess
from squall.job.worked.kit import part_marks, same_parts
from squall.store.folder.database import connect
from squall.store.jobs import change_job, one_job
from squall.store.kit.handed import take_in
from squall.store.kit.record import record_of
from squall.web.stages.learned import beside_words


@pytest.fixture
def alpacas(client):
    """A kit that has worn, with two years of visits."""
    conn = connect(client.settings.database)
    history = next(one for one in yard(TODAY) if one.job.name == "Alpaca fold above the ford")
    number = take_in(conn, history, "me, tab 1").id
    yield client, number, conn
    conn.close()


def test_a_worn_kit_gives_less_as_learned_and_the_verdict_stays_the_labels(alpacas) -> None:
    client, number, conn = alpacas
    stored = one_job(conn, number)
    a = assess(stored.job)
    before = soup(client.get(f"/jobs/{number}/survey")).select_one("#verdict, .verdict").text
    page = soup(client.get(f"/jobs/{number}/learned"))
    found = beside_of(a, a.chosen, record_of(conn, number, a.chosen.option.id), datetime.now(UTC).date())
    assert not found.holds
    assert sum(one.learned_l for one in found.months) < 0.75 * sum(one.stated_l for one in found.months)
    assert found.short_learned > found.short_stated
    assert "As learned it falls short" in page.select_one(".verdict-line").text
    assert len(page.select("#learned tbody tr")) == 12
    assert page.select("#learned tr.worst .hold")
    assert soup(client.get(f"/jobs/{number}/survey")).select_one("#verdict, .verdict").text == before


def test_dirt_that_was_learned_moves_no_fuse_and_no_cable(alpacas) -> None:
    client, number, _conn = alpacas
    wired = client.get(f"/jobs/{number}/wire").text
    client.get(f"/jobs/{number}/learned")
    assert client.get(f"/jobs/{number}/wire").text == wired


def test_too_few_visits_and_no_kit_say_so(client) -> None:
    assert "Fewer than 3 visits count" in soup(client.get("/jobs/1/learned")).text
    assert "No kit is chosen yet" in soup(client.get("/jobs/5/learned")).text


def test_a_kit_as_it_was_stated_is_learned_to_be_about_that(client) -> None:
    conn = connect(client.settings.database)
    history = next(one for one in yard(date.today()) if one.job.name == "Nursery reserve")
    stored = take_in(conn, history, "me, tab 1")
    a = assess(stored.job)
    found = beside_of(a, a.chosen, record_of(conn, stored.id, a.chosen.option.id), datetime.now(UTC).date())
    conn.close()
    for one in found.months:
        assert one.learned_l == pytest.approx(one.stated_l, rel=0.15)


def test_the_drawing_stands_beside_it(alpacas) -> None:
    client, number, _conn = alpacas
    page = soup(client.get(f"/jobs/{number}/learned"))
    assert page.select_one("aside svg.section")
    assert "MonthBeside(" not in page.text


def test_prove_shows_both_and_judges_by_the_label(alpacas) -> None:
    client, number, _conn = alpacas
    row = soup(client.get(f"/jobs/{number}/prove?light=800&air=20")).select_one("#part-outlet-flow")
    stated = float(row.select_one("[data-label='should read'] .why, [data-label='should read'] button").text.split()[0])
    learned = float(row.select_one(".learned-reads").text.removeprefix("as learned").split()[0])
    low = float(row.select_one("[data-label='good from']").text.split()[0])
    assert learned < low < stated
    assert not soup(client.get("/jobs/1/prove")).select(".learned-reads"), "one visit teaches nothing"


def test_the_last_readings_stand_on_the_drawing(client) -> None:
    def read(page: str) -> list[str]:
        return [words.text for words in soup(client.get(page)).select("svg.beside .read-words")]

    assert len(read("/jobs/1/prove")) == 3, "of the demo's own visit"
    assert not read("/jobs/3/prove"), "nothing was read there"
    sent = client.change(
        "/jobs/3/readings", {"short": "3.9 A", "air": "20 °C", "pump-volts": "12.5 V", "outlet-flow": "2 L/min"}
    )
    shown = [words.text for words in soup(sent).select("svg.beside .read-words")]
    assert any("12.5" in words for words in shown)
    assert any(words.endswith("✕") and "2" in words for words in shown), "far too little"
    assert shown == read("/jobs/3/prove")
    assert not read("/jobs/3/survey")


def test_a_kit_that_wont_do_is_not_told_to_hold_whatever_it_gives(alpacas) -> None:
    _client, number, conn = alpacas
    stored = one_job(conn, number)
    a = assess(stored.job)
    found = beside_of(a, a.chosen, record_of(conn, number, a.chosen.option.id), datetime.now(UTC).date())
    good = replace(found, months=[replace(one, learned_l=one.need_l + 1.0) for one in found.months], short_learned=0.0)
    assert good.holds
    harmed = replace(good, refusal="22 V at the motor")
    assert not harmed.holds
    assert "won't do as stated (22 V at the motor)" in str(beside_words(harmed)[0])


def blocks_of(page) -> list[str]:
    return [block.text for block in soup(page).select("section.block")]


def litres_in(page) -> str:
    return " ".join(soup(page).select_one("#verdict").text.split())


def test_the_water_is_judged_by_what_was_learned_and_by_the_label_again_with_one_click(alpacas) -> None:
    client, number, conn = alpacas
    before = litres_in(client.get(f"/jobs/{number}/survey"))
    stated = assess(one_job(conn, number).job)
    wired = blocks_of(client.get(f"/jobs/{number}/wire"))
    client.change(f"/jobs/{number}/learned/judge", {"by": "visits"})
    a = assess(one_job(conn, number).job)
    found = beside_of(a, a.chosen, record_of(conn, number, a.chosen.option.id), datetime.now(UTC).date())
    judged = a.judged.chosen
    assert list(judged.season.average_litres) == pytest.approx([one.learned_l for one in found.months], rel=1e-4)
    assert judged.outlook.short_in_a_hundred == pytest.approx(found.short_learned, abs=0.3)
    now = litres_in(client.get(f"/jobs/{number}/survey"))
    assert "judged by what" in now
    assert "as stated it would make" in now
    assert now.split(" on an average")[0] != before.split(" on an average")[0]
    # Every page that tells the worst month tells this one.
    worst = f"{judged.worst_litres:.0f}"
    for page in ("power", "kits", "quote"):
        assert worst[:3] in soup(client.get(f"/jobs/{number}/{page}")).text.replace(" ", "").replace(",", ""), page
    # What can burn is judged by the kit as stated.
    assert a.chosen.season.most_motor_a == stated.chosen.season.most_motor_a
    assert a.judged.wiring is a.wiring
    assert a.wiring == stated.wiring
    assert blocks_of(client.get(f"/jobs/{number}/wire")) == wired
    # What is learned is learned against the kit as stated: twice taken over teaches nothing twice.
    client.change(f"/jobs/{number}/learned/judge", {"by": "visits"})
    again = assess(one_job(conn, number).job).judged.chosen
    assert list(again.season.average_litres) == pytest.approx(list(judged.season.average_litres), rel=1e-9)
    client.change(f"/jobs/{number}/learned/judge", {"by": "label"})
    assert litres_in(client.get(f"/jobs/{number}/survey")) == before
    client.change(f"/jobs/{number}/undo", {"stage": "learned"})
    assert litres_in(client.get(f"/jobs/{number}/survey")) == now, "and undone like any change"


def test_a_kit_of_too_few_visits_is_not_judged_by_them(client) -> None:
    sent = client.change("/jobs/1/learned/judge", {"by": "visits"})
    assert sent.status_code == 422
    assert "Fewer than 3 visits count" in sent.text
    assert "judged by what" not in litres_in(client.get("/jobs/1/survey"))


def test_a_new_pump_is_not_worn_and_a_lift_surveyed_anew_is_not_corrected_twice(alpacas) -> None:
    client, number, conn = alpacas
    client.change(f"/jobs/{number}/learned/judge", {"by": "visits"})
    job = one_job(conn, number).job
    a = assess(job)
    other = next(
        p
        for p in a.parts.pumps.values()
        if p.id != a.chosen.kit.pump.id and p.motor.rated_v == a.chosen.kit.pump.motor.rated_v
    )
    options = [one.model_copy(update={"pump": other.id}) if one.id == job.chosen else one for one in job.options]
    swapped = assess(job.model_copy(update={"options": options}))
    assert "pump" not in same_parts(swapped.chosen, swapped.chosen.option.learned)
    points = [np.array(one.chosen.kit.pump.motor.points) for one in (swapped, swapped.judged)]
    assert points[0] == pytest.approx(points[1], rel=1e-9)
    deeper = assess(job.model_copy(update={"lift": quantity("31 m", 31.0)}))
    assert deeper.judged.chosen.layout.end_pressure_m == deeper.chosen.layout.end_pressure_m
    assert "No longer counted" not in client.get(f"/jobs/{number}/learned").text


def test_what_was_learned_goes_out_and_comes_in_with_the_job(alpacas) -> None:
    client, number, conn = alpacas
    client.change(f"/jobs/{number}/learned/judge", {"by": "visits"})
    job = one_job(conn, number).job
    back = read_job(job_json(job).encode(), catalogue())
    assert back.option.learned == job.option.learned
    assert assess(back).judged.chosen.worst_litres == assess(job).judged.chosen.worst_litres


@pytest.mark.parametrize("number", [1, 4])
@pytest.mark.parametrize(
    "extreme",
    [
        {"head_lost": 0.95, "drag": 6.0}, {"flow_lost": 0.95, "light_lost": 0.95}, {"joint_ohm": 8.0, "winding": 0.25, "cable": 0.25},
        {"lift_m": 20.0}, {"lift_m": -20.0, "head": 0.25, "amps": -0.25, "panel_v": 0.25, "panel_a": 0.25},
    ],
    ids=lambda one: "-".join(one),
)  # fmt: skip
def test_whatever_a_file_says_was_learned_every_page_answers_and_nothing_that_burns_moves(
    client, number: int, extreme
) -> None:
    conn = connect(client.settings.database)
    stated = assess(one_job(conn, number).job)
    chosen = stated.chosen
    marks = part_marks(chosen.kit, chosen.layout, chosen.cabling)
    doc = LearnedDoc(day="2026-11-30", visits=9, of=dict(marks), **extreme)
    change_job(conn, number, lambda job: judge_by(job, doc), "me", check=assess)
    a = assess(one_job(conn, number).job)
    conn.close()
    assert a.chosen.refusal == stated.chosen.refusal == a.judged.chosen.refusal
    assert a.wiring == stated.wiring
    for page in (
        "survey",
        "lift",
        "power",
        "sun",
        "kits",
        "wire",
        "store",
        "learned",
        "quote",
        "years",
        "prove",
        "sheet/job",
        "keep",
    ):
        answer = client.get(f"/jobs/{number}/{page}")
        assert answer.status_code == 200, page
        assert "nan" not in soup(answer).select_one("#verdict, body").text.lower().split(), page
