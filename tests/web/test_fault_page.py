"""Fault's page: a search is begun, fed, ended and taken up again; it belongs to its kit; bad input says so and loses nothing."""

import re

import pytest
from bs4 import BeautifulSoup


def begin(client, job: int = 1, **more):
    return client.change(f"/jobs/{job}/fault/begin", {"story": "ran-and-stopped", **more})


def soup(answer) -> BeautifulSoup:
    return BeautifulSoup(answer.text, "html.parser")


def running(client, job: int = 1) -> int:
    found = re.search(r'name="search" value="(\d+)"', client.get(f"/jobs/{job}/fault").text)
    assert found is not None
    return int(found.group(1))


def see(client, check: str, typed: str = "", job: int = 1, **more):
    return client.change(
        f"/jobs/{job}/fault/seen", {"search": running(client, job), "check": check, "typed": typed, **more}
    )


def next_of(page: str) -> str:
    found = re.search(r'id="next-check".*?name="check" value="([a-z-]+)"', page, re.DOTALL)
    assert found is not None
    return found.group(1)


def shares(page: str) -> dict[str, float]:
    rows = re.findall(r'id="belief-([a-z-]+)".*?class="bar-share">.*?([\d.]+)', page, re.DOTALL)
    return {cause: float(share) for cause, share in rows}


def test_a_dead_pump_leads_to_the_fuse_and_is_kept(client) -> None:
    begin(client, sky="full")
    assert shares(see(client, "turns", "still").text)["fuse-blown"] > 5.0
    see(client, "box-volts-on", "0")
    page = see(client, "fuse-volts", "20.4 V").text
    assert "The fuse has blown" in page
    assert "Act on this" in page
    assert shares(page)["fuse-blown"] > 90.0
    assert "never a bigger one" in page
    client.change(
        "/jobs/1/fault/end", {"search": running(client), "found": "fuse-blown", "note": "a mouse on the cable"}
    )
    after = client.get("/jobs/1/fault").text
    assert "a mouse on the cable" in after
    assert "What happened?" in after
    kept = re.search(r'fault/again.*?name="search" value="(\d+)"', after, re.DOTALL)
    client.change("/jobs/1/fault/again", {"search": kept.group(1)})
    assert shares(client.get("/jobs/1/fault").text)["fuse-blown"] > 90.0


def test_the_drawing_carries_the_suspects(client) -> None:
    begin(client)
    page = see(client, "turns", "still").text
    assert page.count('class="suspect-bar"') >= 2


def test_readings_are_typed_in_ones_own_units_and_panels_one_after_the_other(client) -> None:
    begin(client, sky="full")
    client.cookies.set("squall_units", "us")
    assert "0.2" in see(client, "outlet-flow", "0.2").text  # gallons a minute where nothing else is said
    assert "1.5" in see(client, "pumping-water-level-drop", "18 in").text
    see(client, "cable-loop-ohms", "OL")
    page = client.get("/jobs/1/fault").text
    assert "open" in page
    few = see(client, "panel-open-volts", "20.1")
    assert few.status_code == 422
    assert "2 panels" in few.text
    assert "20.1, 20.3" in see(client, "panel-open-volts", "20.1 20.3").text.replace("\u00a0V", "")


@pytest.mark.parametrize(
    ("check", "typed", "says"),
    [
        ("outlet-flow", "lots", "lots"),
        ("outlet-flow", "", "Nothing is typed"),
        ("outlet-flow", "-3", "less than nothing"),
        ("turns", "sings", "no answer of"),
        ("zorks", "1", "no such check"),
        ("lamp", "off", "the part for it isn"),
    ],
)
def test_what_cannot_be_read_is_told_in_place_and_kept(client, check: str, typed: str, says: str) -> None:
    begin(client)
    answer = see(client, check, typed)
    assert answer.status_code in (404, 422)
    assert says in answer.text
    if check == "outlet-flow" and typed:
        assert f'value="{typed}"' in answer.text
    assert "Nothing yet." in client.get("/jobs/1/fault").text


def test_a_light_or_story_that_cannot_be_is_told_and_nothing_begins(client) -> None:
    for wrong in ({"light": "zorks"}, {"light": "90000"}, {"air": "900"}, {"story": "sung"}, {"sky": "green"}):
        answer = begin(client, **wrong)
        assert answer.status_code == 422, wrong
        assert "What happened?" in client.get("/jobs/1/fault").text
    assert 'value="zorks"' in begin(client, light="zorks").text


def test_skipped_and_taken_back(client) -> None:
    begin(client)
    first = next_of(client.get("/jobs/1/fault").text)
    page = see(client, first, skip="yes").text
    assert next_of(page) != first
    assert "not done" in page
    seen = re.search(r'name="seen" value="(\d+)"', page).group(1)
    again = client.change("/jobs/1/fault/unsee", {"seen": seen}).text
    assert next_of(again) == first
    assert client.change("/jobs/1/fault/unsee", {"seen": seen}).status_code == 404


def test_a_search_belongs_to_its_kit_its_job_and_comes_back_with_it(client) -> None:
    begin(client)
    number = running(client)
    see(client, "turns", "still")
    assert (
        client.change("/jobs/2/fault/seen", {"search": number, "check": "turns", "typed": "still"}).status_code == 404
    )
    client.change("/jobs/1/do/choose-option", {"stage": "fault", "item": "o1"})
    assert "What happened?" in client.get("/jobs/1/fault").text
    client.change("/jobs/1/do/choose-option", {"stage": "fault", "item": "o2"})
    assert running(client) == number
    client.change("/jobs/1/delete")
    client.change("/restore")
    assert "it stands still" in client.get("/jobs/1/fault").text


def test_what_the_kit_can_no_longer_have_shown_is_left_out(client) -> None:
    begin(client)
    see(client, "panel-open-volts", "20.1 20.3")
    client.type("options.o2.in_parallel", "3", stage="kits")
    assert "the kit has changed since" in client.get("/jobs/1/fault").text


@pytest.mark.parametrize("number", ["-1", "9" * 40, "one", ""])
def test_a_search_that_cannot_be_is_refused(client, number: str) -> None:
    for address, field in (("seen", "search"), ("end", "search"), ("again", "search"), ("unsee", "seen")):
        data = {field: number, "check": "turns", "typed": "still", "found": "other"}
        assert client.change(f"/jobs/1/fault/{address}", data).status_code in (404, 422), address


def test_an_ended_search_takes_nothing_more(client) -> None:
    begin(client)
    number = running(client)
    assert client.change("/jobs/1/fault/end", {"search": number, "found": "gremlins"}).status_code == 422
    client.change("/jobs/1/fault/end", {"search": number, "found": "other"})
    late = client.change("/jobs/1/fault/seen", {"search": number, "check": "turns", "typed": "still"})
    assert late.status_code == 404
    assert "ended" in late.text


@pytest.mark.parametrize("job", [1, 2, 3, 4])
def test_every_demo_kit_is_led_to_an_end_by_answers_of_a_sound_kit(client, job: int) -> None:
    sound = {"turns": "turns", "lamp": "running", "rotor-by-hand": "free", "screen": "clean", "hose": "sound", "panels": "clear",
             "polarity": "right", "air": "none", "dial": "full", "float-by-hand": "obeys", "probe": "clean",
             "outlet-valve-position": "open", "check-valve": "free", "known-good-source": "runs"}  # fmt: skip
    page = begin(client, job=job, sky="full").text
    for _ in range(40):
        if "Act on this" in page or "Nothing left" in page:
            break
        check = next_of(page)
        page = (
            see(client, check, sound[check], job=job).text
            if check in sound
            else see(client, check, skip="yes", job=job).text
        )
    else:
        raise AssertionError("it never came to an end")
    assert "None of these" not in page[: page.find('id="seen"')].split("bar-share")[0]


def test_what_was_found_in_this_yard_weighs_in_and_says_so(client) -> None:
    before = shares(begin(client).text)
    for _ in range(3):
        client.change("/jobs/1/fault/end", {"search": running(client), "found": "screen-blocked"})
        page = begin(client).text
    assert shares(page)["screen-blocked"] > 1.4 * before.get("screen-blocked", 2.5)
    assert "The screen or intake is blocked. (3)" in page


def test_a_kit_that_would_burn_says_so_here_too(client) -> None:
    page = begin(client, job=4).text
    assert "Wrong with the kit as it stands" in page
    assert "at its brightest instant" in page


@pytest.mark.parametrize("job", [1, 2, 3, 4])
def test_the_circuit_carries_the_suspects_too(client, job) -> None:
    """A bar at each likely part that current goes through, both layings alike, the shares those of the causes."""
    begin(client, job=job, story="never-ran")
    page = soup(client.get(f"/jobs/{job}/fault"))
    along, down = page.select("#fault-circuit svg.circuit")
    words = [word.text for word in along.select("text.suspect-words")]
    assert words
    assert words == [word.text for word in down.select("text.suspect-words")]
    assert len(along.select("rect.suspect-bar")) == len(words) == len(along.select("rect.suspect-ground"))
    assert all(0.0 < float(bar["width"]) <= 40.0 for bar in along.select("rect.suspect-bar"))
    assert all(link["href"].startswith(f"/jobs/{job}/circuit#row-") for link in along.select("a.cpart"))
    assert not soup(client.get(f"/jobs/{job}/circuit")).select(".suspect-bar")


def read_at_prove(client, job: int, **readings: str):
    return client.change(f"/jobs/{job}/readings", {"light": "700 W/m2", "air": "24 °C", **readings})


def test_a_search_begins_with_what_was_just_read_in_its_light(client) -> None:
    page = soup(read_at_prove(client, 1, **{"pump-amps": "0.9 A", "outlet-flow": "0 L/min"}))
    assert page.find("a", string="Look for what is wrong, with these readings")["href"] == "/jobs/1/fault"
    fault = soup(client.get("/jobs/1/fault"))
    offered = fault.select_one(".fresh-visit")
    assert "pump" in offered.get_text(" ")
    assert "not as it should be" in offered.get_text(" ")
    visit = offered.select_one("button")["value"]
    begun = soup(begin(client, story="ran-and-stopped", visit=visit))
    assert [row.select_one("b").text.replace("\xa0", " ") for row in begun.select("#seen .seen-list li")] == [
        "0.9 A",
        "0 L/min",
    ]
    assert begun.select_one("#light-of")["value"].startswith("700")
    assert begun.select_one("#air-of")["value"].startswith("24")
    assert begun.select_one(".fresh-visit") is None, "the search runs"


def test_a_good_visit_offers_no_search_and_an_old_or_foreign_one_none_either(client) -> None:
    good = soup(read_at_prove(client, 1, **{"open-volts": "20 V"}))
    assert good.find("a", string="Look for what is wrong, with these readings") is None
    assert begin(client, visit="v-nothing").status_code == 404
    client.change("/jobs/1/keep/visit", {"on": "2026-01-05", "outlet-flow": "1 L/min"})
    assert soup(client.get("/jobs/1/fault")).select(".fresh-visit b")[-1].text == "20 V", "the newest, not the old one"


def test_the_kits_own_readings_weigh_in_and_say_so(client) -> None:
    begin(client)
    alone = shares(client.get("/jobs/1/fault").text)
    assert "of 1 day before this search" in client.get("/jobs/1/fault").text, "the demo's visit"
    for day, flow in (("2026-05-01", 9.0), ("2026-07-01", 8.0), ("2026-09-01", 6.6), ("2026-11-01", 5.0)):
        answer = client.change("/jobs/1/keep/visit", {"on": day, "light": "800 W/m2", "outlet-flow": f"{flow} L/min", "pump-amps": "3.6 A", "pump-volts": "15.2 V"})  # fmt: skip
        assert answer.status_code == 200
    page = client.get("/jobs/1/fault")
    assert "readings weigh in, of 5 days before this search" in page.text
    assert "By them more likely" in page.text
    assert shares(page.text) != alone


def tags(page: BeautifulSoup) -> list[list[str]]:
    """What the tags on each of a page's two circuits say."""
    return [[word.text.replace("\xa0", " ") for word in sheet.select(".read-words")] for sheet in page.select("#read-circuit svg")]  # fmt: skip


def test_what_was_read_stands_on_the_circuit_at_prove_and_at_the_first_plug(client) -> None:
    page = soup(read_at_prove(client, 1, **{"open-volts": "20.2 V", "pump-amps": "0.9 A"}))
    assert tags(page) == [["20.2 V ✓", "0.9 A ✕"]] * 2, "along the page and down it"
    client.change("/jobs/1/commission/shown", {"check": "light", "typed": "800 W/m2"})
    for check, typed in (("fuse-volts", "0.02 V"), ("cable-loop-ohms", "9 ohm"), ("pump-volts-on", "12.9 V")):
        client.change("/jobs/1/commission/shown", {"check": check, "typed": typed})
    found = tags(soup(client.get("/jobs/1/commission")))
    assert sorted(found[0]) == sorted(["0.02 V ✓", "9 Ω ✕", "12.9 V ✓"])
    assert sorted(found[0]) == sorted(found[1])
    client.change("/jobs/1/commission/shown", {"check": "turns", "typed": "turns"})
    assert len(tags(soup(client.get("/jobs/1/commission")))[0]) == 3, "a look is read at no terminal"
