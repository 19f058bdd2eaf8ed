"""Fit's page: steps are ticked, seen by others, belong to their kit, and go with a removed job."""

from xml.etree import ElementTree

from bs4 import BeautifulSoup

from squall.drawing.small.steps import PICTURES, step_picture


def tick(client, step: str, *, job: int = 1, **more):
    return client.change(f"/jobs/{job}/fit/tick", {"step": step, **more})


def test_a_step_is_ticked_with_a_note_and_unticked(client) -> None:
    page = tick(client, "bucket", note="12 s for 10 L").text
    assert "1 of 10 done" in page
    assert "12 s for 10 L" in client.get("/jobs/1/fit").text, "another phone sees it"
    assert "0 of 10 done" in tick(client, "bucket", done="no").text


def test_a_step_that_there_isnt_is_refused_in_words(client) -> None:
    answer = tick(client, "fly")
    assert answer.status_code == 404
    assert "no such step" in answer.text
    assert tick(client, "bucket", job=5).status_code == 404


def test_ticks_belong_to_the_kit_and_come_back_with_a_removed_job(client) -> None:
    tick(client, "bucket")
    other = client.change("/jobs/1/do/choose-option", {"stage": "fit", "item": "o1"}).text
    assert "0 of 10 done" in other
    client.change("/jobs/1/do/choose-option", {"stage": "fit", "item": "o2"})
    assert "1 of 10 done" in client.get("/jobs/1/fit").text
    client.change("/jobs/1/delete")
    client.change("/restore")
    assert "1 of 10 done" in client.get("/jobs/1/fit").text


def test_rolls_and_rope_are_typed_and_nonsense_is_told(client) -> None:
    assert "This rope breaks at" in client.type("fit.rope_breaks", "40 kg", job=4, stage="fit").text
    answer = client.type("fit.hose_roll", "some", job=4, stage="fit")
    assert answer.status_code == 422
    assert "some" in answer.text
    assert "2 joined; left over" in client.type("fit.hose_roll", "25 m", job=1, stage="fit").text


def test_the_parts_come_as_a_file(client) -> None:
    answer = client.get("/jobs/2/fit/parts.csv")
    assert answer.headers["content-type"].startswith("text/csv")
    assert "part,count,unit,price,in_van,missing" in answer.text
    assert client.get("/jobs/5/fit/parts.csv").status_code == 404


def test_what_to_carry_is_told_once_on_the_page_and_on_the_sheet(client) -> None:
    for address in ("/jobs/1/fit", "/jobs/1/sheet/build"):
        body = client.get(address).text
        carried = body.split("To carry: ")[1].split(".</p>")[0].split(", ")
        assert len(carried) >= 3
        assert len(set(carried)) == len(carried)


def test_each_step_has_its_picture_with_the_figure_of_the_job(client) -> None:
    """On the page and on the sheet, whatever the kit: drawn, well-formed, and nothing that a screen reader would spell out."""
    seen = set()
    for job in range(1, 5):
        for page in (f"/jobs/{job}/fit", f"/jobs/{job}/sheet/build"):
            soup = BeautifulSoup(client.get(page).text, "html.parser")
            steps = soup.select(".fit-steps > li") or soup.select(".paper-steps.pictured > li")
            pictures = soup.select("svg.step-picture")
            assert len(pictures) == len(steps) > 8
            assert len({str(picture) for picture in pictures}) == len(pictures)
            assert all(picture["aria-hidden"] == "true" for picture in pictures)
        seen |= {
            step["id"].removeprefix("step-")
            for step in BeautifulSoup(client.get(f"/jobs/{job}/fit").text, "html.parser").select(".fit-steps > li")
        }
    for key in PICTURES:
        ElementTree.fromstring(step_picture(key, "1 < 2 & 3"))
    assert seen <= set(PICTURES)
    assert {"lower", "float", "bucket"} <= seen
    well = BeautifulSoup(client.get("/jobs/4/fit").text, "html.parser").select_one("#step-lower")
    deep = well.select_one("svg text").text
    assert deep in well.select_one(".does").text.replace("\xa0", " ") or deep in well.select_one(".does").text


def test_what_is_left_of_a_roll_lies_in_the_van_for_the_next_job(client) -> None:
    assert "Ends in the van" not in client.get("/jobs/1/fit").text
    client.type("fit.cable_roll", "80 m", stage="fit")
    page = BeautifulSoup(client.get("/jobs/1/fit").text, "html.parser")
    line = next(one["value"] for one in page.select("#cuts input[name=line]") if one["value"].startswith("cable"))
    told = client.change("/jobs/1/fit/cut", {"line": line})
    assert "lies in the van" in told.text
    ends = BeautifulSoup(client.get("/jobs/4/fit").text, "html.parser").select("#offcuts li")
    assert len(ends) == 1, "the van is of the yard, not of the job"
    again = BeautifulSoup(client.get("/jobs/1/fit").text, "html.parser").select_one("#cuts table").text
    assert "from the van" in again
    assert client.change("/jobs/1/fit/cut", {"line": line}).status_code == 200
    left = BeautifulSoup(client.get("/jobs/1/fit").text, "html.parser").select("#offcuts li")
    assert len(left) == 1, "what was cut from is there no more, its rest is"
    number = left[0].select_one("input[name=offcut]")["value"]
    assert client.change("/jobs/1/fit/offcut-out", {"offcut": number}).status_code == 200
    assert "Ends in the van" not in client.get("/jobs/1/fit").text
    gone = client.change("/jobs/1/fit/offcut-out", {"offcut": number})
    assert gone.status_code == 404
    assert "lies in the van no more" in gone.text
    for wrong in ("hose-nothing", ""):
        refused = client.change("/jobs/1/fit/cut", {"line": wrong})
        assert refused.status_code in (404, 422)
    assert "nothing of that to cut" in client.change("/jobs/1/fit/cut", {"line": "hose-nothing"}).text


def test_a_rope_that_no_roll_is_long_enough_for_is_told(client) -> None:
    client.type("fit.rope_roll", "10 m", job=4, stage="fit")
    page = BeautifulSoup(client.get("/jobs/4/fit").text, "html.parser")
    assert "a rope that carries is of one piece" in page.select_one("#cuts").text
    assert not any(one["value"] == "rope" for one in page.select("#cuts input[name=line]"))
