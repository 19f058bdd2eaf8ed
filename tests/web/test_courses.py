"""Courses: what is right is what the sums say; an answer is kept once, told with its reason, and nothing else is lost."""

import csv
import io

import pytest
from bs4 import BeautifulSoup

from squall.standins.courses import COURSES, steps_of
from squall.words import Voice, speaking

WHERE = "/practise/course/outlet"


def soup(answer) -> BeautifulSoup:
    return BeautifulSoup(answer.text, "html.parser")


@pytest.mark.parametrize("code", COURSES)
@pytest.mark.parametrize("units", ["metric", "us"])
def test_every_question_has_its_answer_and_a_reason(code: str, units: str) -> None:
    with speaking(Voice(units)):
        steps = steps_of(COURSES[code], Voice(units))
        assert 2 <= len(steps) <= 4
        for step in steps:
            assert step.right in step.options
            assert len(step.options) >= 3 or code in ("loop",)
            assert len({str(words) for words in step.options.values()}) == len(step.options)
            assert len(str(step.because)) > 60
            assert str(step.said) != str(step.because)


def test_what_is_right_is_what_a_practitioner_would_say() -> None:
    """Common practice, no source; the sums that decide it know nothing of this list."""
    rights = {code: [step.right for step in steps_of(course, "metric")] for code, course in COURSES.items()}
    assert rights == {
        "outlet": ["half", "trickle", "nothing"], "hose": ["trickle", "half", "more"], "loop": ["stands", "round", "vent"],
        "lamp": ["battery-weak", "battery-flat", "joint-resistance"], "hand": ["quarters", "all"], "dial": ["dial", "full"],
        "phases": ["phase-swapped", "two"], "fuse": ["loop", "7.5"], "outlier": ["middle", "middle"], "float": ["chatters", "many", "few"],
    }  # fmt: skip


def test_a_course_is_gone_through_and_the_first_answer_counts(client) -> None:
    page = soup(client.get(f"{WHERE}?step=1&learner=Ana"))
    assert page.select_one("#because") is None, "not before it is answered"
    assert [button["value"] for button in page.select(".answers button")] == [
        "more",
        "same",
        "half",
        "trickle",
        "nothing",
    ]
    client.change(WHERE, {"step": 1, "said": "same", "learner": "Ana"}, htmx=False)
    wrong = soup(client.get(f"{WHERE}?step=1&said=same&learner=Ana"))
    assert "you said this" in wrong.select_one(".problem").text
    assert wrong.select_one("#because") is not None
    client.change(WHERE, {"step": 1, "said": "half", "learner": "Ana"}, htmx=False)
    client.change(WHERE, {"step": 2, "said": "trickle", "learner": "Ana"}, htmx=False)
    rows = [
        row
        for row in csv.DictReader(io.StringIO(client.get("/practise/progress.csv").text))
        if row["level"] == "course"
    ]
    assert [(row["lesson"], row["named"], row["right"]) for row in rows] == [
        ("1", "same", "no"),
        ("2", "trickle", "yes"),
    ]
    told = soup(client.get("/practise?learner=Ana"))
    assert "2 answered" in told.select_one("#courses").text
    cells = [cell.text for cell in told.select("#progress tbody tr td")]
    assert cells[0] == "0", "a question is no lesson"
    assert cells[-2:] == ["2", "1"]


def test_the_last_question_leads_on_to_the_next_course(client) -> None:
    page = soup(client.get(f"{WHERE}?step=3&said=nothing"))
    assert page.select_one("a.strong")["href"].startswith("/practise/course/hose?step=1")
    last = list(COURSES)[-1]
    end = soup(client.get(f"/practise/course/{last}?step=3&said=few"))
    assert end.select_one("#question a.strong") is None


def test_a_course_or_answer_that_is_none(client) -> None:
    assert client.get("/practise/course/zebra").status_code == 404
    assert "no such course" in client.get("/practise/course/zebra").text
    assert client.get(f"{WHERE}?step=0").status_code == 422
    beyond = soup(client.get(f"{WHERE}?step=40"))
    assert "Question 3 of 3" in beyond.text
    assert soup(client.get(f"{WHERE}?step=1&said=zebra")).select_one(".answers") is not None
    assert client.change(WHERE, {"step": 1, "said": "zebra"}, htmx=False).status_code == 303
    assert client.get("/practise/progress.csv").text.count("\n") == 1
