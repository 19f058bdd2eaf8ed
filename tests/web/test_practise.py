"""Practise: the same lesson hides the same fault, shows the same readings, stops what isn't safe, and keeps its secret until something is named."""

import csv
import io
import json
from dataclasses import replace
from urllib.parse import parse_qs, urlparse

import pytest
from bs4 import BeautifulSoup

from squall.core.errors import NotFound
from squall.core.faults.causes import CAUSES
from squall.demo import demo_jobs
from squall.job.trouble.chain import chain_of
from squall.job.worked.assess import assess
from squall.standins.kits import KITS
from squall.standins.play import faults_of
from squall.standins.practice import LEVELS, lesson_of, play, worth_of
from squall.standins.stated import stated_of
from squall.sums.faults import KitIn


def plain(words: str) -> str:
    return " ".join(words.replace("\u202f", "").replace("\u00a0", " ").split())


@pytest.mark.parametrize("kit", KITS)
def test_a_lesson_is_the_same_whenever_it_is_played(kit) -> None:
    for level in LEVELS:
        one = lesson_of(kit, level, 7)
        assert one == lesson_of(kit, level, 7)
        assert one.fault in faults_of(KITS[kit])
    acts = ["turns", "outlet-flow", "off", "cable-loop-ohms"]
    first, again = play(one, acts), play(one, acts)
    assert first == again
    assert play(one, acts[:2]).evidence == first.evidence[:2], "what was read stays read"


@pytest.mark.parametrize("job", [1, 2, 3, 4])
def test_a_jobs_own_kit_is_a_lesson(client, job) -> None:
    """Its kit as a plain chain: the lesson's sound kit gives what the job's own drive gives, within what a yard is off."""
    begun = plain(client.get(f"/practise?job={job}").text)
    name = client.get(f"/jobs/{job}/export.json").json()["name"]
    assert f"The kit of “{name}”" in begun
    for number in range(3):
        where = f"/practise/lesson?kit=job-{job}&level=usual&number={number}"
        answer = client.get(f"{where}&acts=turns,outlet-flow,off,cable-loop-ohms")
        assert answer.status_code == 200
        assert f"Lesson {number}: {name}" in plain(answer.text)
        assert "Taken as a plain chain" in answer.text
    told = client.get(f"{where}&acts=turns,outlet-flow&named=fuse-blown")
    assert "It was:" in plain(told.text)
    assert f'href="/jobs/{job}/fault"' in told.text


@pytest.mark.parametrize("number", range(4))
def test_the_stated_kit_is_the_jobs_own(number) -> None:
    a = assess(demo_jobs()[number])
    chain = chain_of(a, a.chosen)
    again = KitIn.model_validate_json(json.dumps(stated_of(chain))).chain()
    plainly = replace(chain, behind_controller=False, line=again.line)
    assert replace(again, source=chain.source, motor=chain.motor) == plainly
    for flow in (5e-5, 1.5e-4):
        water = replace(chain.line, drawdown_s_m2=0.0, water=again.line.water)
        assert again.line.head_m(flow) == pytest.approx(water.head_m(flow), rel=1e-9)
    for (q, h, i), was in zip(again.motor.points, chain.motor.points, strict=True):
        assert (q, h, i) == pytest.approx(was)


def test_a_job_without_a_kit_and_one_that_is_none_are_told(client) -> None:
    assert "nothing can be practised on it" in client.get("/practise?job=5").text
    assert client.get("/practise?job=5").status_code == 404
    assert client.get("/practise/lesson?kit=job-999&number=1").status_code == 404
    assert client.get("/practise/lesson?kit=job-0x1&number=1").status_code == 404
    assert client.get("/practise?job=0").status_code == 422
    assert 'href="/practise?job=1"' in client.get("/jobs/1/fault").text


def test_many_lessons_hide_many_faults() -> None:
    hidden = {lesson_of("panels", "usual", number).fault for number in range(60)}
    assert len(hidden) > 12
    assert {lesson_of("panels", "hard", number).fault for number in range(40)}.isdisjoint(
        {"fuse-blown", "panels-dirty"}
    )


def test_what_wants_it_dead_is_stopped_and_what_wants_it_on_shows_nothing_off() -> None:
    one = lesson_of("battery", "plain", 3)
    bad = play(one, ["motor-ohms"])
    assert bad.unsafe == 1
    assert bad.evidence == []
    good = play(one, ["off", "motor-ohms"])
    assert good.unsafe == 0
    assert len(good.evidence) == 1
    assert not good.on
    idle = play(one, ["off", "outlet-flow"])
    assert idle.evidence == []
    assert idle.acts[-1].idle
    assert play(one, ["fly", "panel-open-volts"]).acts == (), "no such look, and no panels"


def test_each_look_is_told_what_it_was_worth() -> None:
    one = lesson_of("battery", "plain", 3)
    worth = worth_of(one, play(one, ["turns", "outlet-flow"]))
    assert [row.act.code for row in worth] == ["turns", "outlet-flow"]
    assert all(row.bits >= 0.0 and 0.0 <= row.truth_share <= 1.0 for row in worth)
    assert worth[0].best_bits > 0.0
    assert worth_of(one, play(one, [])) == ()
    for wrong in (("goats", "plain", 1), ("battery", "easy", 1), ("battery", "plain", -1)):
        with pytest.raises(NotFound):
            lesson_of(*wrong)


def test_the_page_keeps_its_secret_until_something_is_named(client) -> None:
    fault = lesson_of("panels", "plain", 2).fault
    page = client.get("/practise/lesson?kit=panels&level=plain&number=2&acts=turns")
    soup = BeautifulSoup(page.text, "html.parser")
    links = [link["href"] for link in soup.select("#looks a")]
    assert all(fault not in link for link in links)
    assert not soup.select("#truth")
    assert "selected" not in str(soup.select_one("#named"))
    following = client.get(links[3])
    assert parse_qs(urlparse(links[3]).query)["acts"][0].startswith("turns,")
    assert len(BeautifulSoup(following.text, "html.parser").select("#seen li")) == 2
    told = client.get(f"/practise/lesson?kit=panels&level=plain&number=2&acts=turns&named={fault}")
    assert "Right" in told.text
    other = next(code for code in CAUSES if code != fault and code in faults_of(KITS["panels"]))
    assert "Not that" in client.get(f"/practise/lesson?kit=panels&level=plain&number=2&named={other}").text
    assert "That is it" in client.get("/practise/lesson?kit=panels&level=plain&number=2&named=goat").text, (
        "no such cause, nothing told"
    )


def test_both_units_and_nonsense(client) -> None:
    client.cookies.set("squall_units", "us")
    page = client.get("/practise/lesson?kit=battery&level=usual&number=5&acts=outlet-flow")
    assert "gpm" in plain(page.text)
    assert "L/min" not in plain(page.text)
    for query in (
        "kit=goats",
        "kit=battery&level=x",
        "kit=battery&number=-1",
        "kit=battery&number=zebra",
        f"kit=battery&number={2**70}",
    ):
        assert client.get(f"/practise/lesson?{query}").status_code in (404, 422), query
    assert client.get("/practise").status_code == 200
    many = ",".join(["turns"] * 80)
    assert "the most in one lesson" in client.get(f"/practise/lesson?kit=battery&acts={many}").text


def named(client, fault: str, *, number: int = 2, learner: str = "", acts: str = "turns"):
    form = {"kit": "panels", "level": "plain", "number": str(number), "acts": acts, "named": fault, "learner": learner}
    return client.change("/practise/lesson", form, htmx=False)


def test_what_was_named_is_kept_by_the_learners_name_and_the_first_try_counts(client) -> None:
    hidden = {number: lesson_of("panels", "plain", number).fault for number in (2, 3)}
    wrong = next(code for code in ("fuse-blown", "rotor-stuck") if code != hidden[2])
    led = named(client, wrong, learner="  Odile   Marsh ")
    assert led.status_code == 303
    assert "Not that" in client.get(led.headers["location"]).text
    named(client, hidden[2], learner="Odile Marsh")
    named(client, hidden[3], number=3, learner="Odile Marsh", acts="on,motor-ohms,turns")
    named(client, hidden[2])
    page = BeautifulSoup(client.get("/practise").text, "html.parser").select("#progress tbody tr")
    rows = [[cell.text for cell in row.select("th, td")] for row in page]
    assert [row[0] for row in rows] == ["nobody named", "Odile Marsh"]
    assert rows[0][1:3] == ["1", "1"]
    assert rows[1][1:3] == ["2", "1"], "the second try of the same lesson doesn't count"
    assert rows[1][5] == "1", "ohms with the switch on were stopped"
    told = list(csv.DictReader(io.StringIO(client.get("/practise/progress.csv").text.lstrip("\ufeff"))))
    assert [row["right"] for row in told] == ["no", "yes", "yes"]
    assert told[1]["acts"] == "on motor-ohms turns"
    assert told[0]["fault"] == hidden[2]


def test_nonsense_is_named_and_nothing_is_kept(client) -> None:
    assert named(client, "goat").status_code == 303
    assert named(client, "x" * 61).status_code == 422
    assert named(client, "fuse-blown", learner="=cmd()|x" + "y" * 300).status_code == 422
    assert not BeautifulSoup(client.get("/practise").text, "html.parser").select("#progress")
    named(client, "fuse-blown", learner="=2+3")
    assert "'=2+3" in client.get("/practise/progress.csv").text
