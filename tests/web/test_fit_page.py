"""Fit's page: steps are ticked, seen by others, belong to their kit, and go with a removed job."""


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
