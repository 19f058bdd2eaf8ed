"""Wire's page: pieces of other cable, isolators, bus bars, three wires; what is wrong gets a sentence and loses nothing."""

from bs4 import BeautifulSoup


def words(answer) -> str:
    text = BeautifulSoup(answer.text, "html.parser").get_text(" ")
    return " ".join(text.replace("\u00a0", " ").replace("\u202f", " ").split())


def add_piece(client, size: str, length: str, run: str = "pump", place: str = "water"):
    form = {"stage": "wire", "list": "cables", "run": run, "size": size, "length": length, "place": place}
    return client.change("/jobs/1/row", form)


def test_a_piece_is_typed_stands_in_the_circuit_and_is_taken_out_again(client) -> None:
    before = words(client.get("/jobs/1/circuit"))
    assert add_piece(client, "2.5 mm2", "20 ft").status_code == 200
    page = words(client.get("/jobs/1/wire"))
    assert "Piece 1 of other cable: panel to pump" in page
    assert "With its pieces the whole run loses" in page
    circuit = words(client.get("/jobs/1/circuit"))
    assert "joint in the run" in circuit
    assert "joint in the run" not in before
    assert "submersible, double insulated" in words(client.get("/jobs/1/fit"))
    client.change("/jobs/1/do/remove-row", {"stage": "wire", "item": "cables.c1"})
    assert words(client.get("/jobs/1/circuit")) == before


def test_wrong_sizes_and_lengths_get_a_sentence_and_the_job_stays(client) -> None:
    kept = client.get("/jobs/1/export.json").text
    for size, length, wanted in (
        ("zork", "5 m", "zork"), ("4 mm2", "-3 m", "allowed"), ("4 mm2", "3 gpm", "that is a flow"), ("4 mm2", "400 m", "as that run is long"),
    ):  # fmt: skip
        answer = add_piece(client, size, length)
        assert answer.status_code == 422, (size, length)
        assert wanted in words(answer), (size, length)
        assert client.get("/jobs/1/export.json").text == kept


def test_a_run_made_shorter_than_its_pieces_is_refused_where_it_is_typed(client) -> None:
    assert add_piece(client, "4 mm2", "18 m").status_code == 200
    answer = client.type("pump_cable", "10 m", stage="wire")
    assert answer.status_code == 422
    assert "as that run is long" in words(answer)
    assert client.get("/jobs/1/wire").status_code == 200
    assert "22 m" in client.get("/jobs/1/wire").text


def test_an_isolator_is_put_in_opened_by_one_click_and_closed(client) -> None:
    client.change("/jobs/1/do/add-device", {"stage": "wire", "item": "isolator-32"})
    page = BeautifulSoup(client.get("/jobs/1/circuit").text, "html.parser")
    poles = [link for link in page.select("svg.along a.cpart") if "isolator" in link["aria-label"].lower()]
    assert len(poles) == 2
    assert poles[0]["href"] == poles[1]["href"]
    opened = client.get(poles[0]["href"])
    assert "stands still" in words(opened)
    again = BeautifulSoup(opened.text, "html.parser").select("svg.along a.cpart.open")
    assert len(again) == 2
    assert "The pump runs" in words(client.get(again[1]["href"]))


def test_a_pump_of_three_wires_is_refused_in_words_on_panels(client) -> None:
    assert client.type("options.o2.pump", "auger-9t", stage="kits").status_code == 200
    assert "the motor has three wires" in words(client.get("/jobs/1/wire"))
    for page in (
        "circuit",
        "fit",
        "prove",
        "commission",
        "fault",
        "keep",
        "kits",
        "sheet/build",
        "sheet/test",
        "sheet/fault",
        "field.html",
    ):
        assert client.get(f"/jobs/1/{page}").status_code == 200, page


def test_how_cores_are_joined_is_chosen_and_told(client) -> None:
    assert client.type("splice", "clips", stage="fit").status_code == 200
    page = words(client.get("/jobs/1/fit"))
    assert "for trials out of the water" in page
    assert client.type("splice", "glue", stage="fit").status_code == 422
