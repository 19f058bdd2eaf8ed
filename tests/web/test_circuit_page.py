"""The circuit's page: live by its address, files, jobs without a kit, words that aren't numbers."""

import csv
import io

import pytest
from fastapi.testclient import TestClient


def test_a_switch_opens_by_its_address_and_closes_again(client: TestClient) -> None:
    page = client.get("/jobs/1/circuit").text
    assert "The pump runs at" in page
    assert "circuit?open=device0" in page
    page = client.get("/jobs/1/circuit?open=device0&light=900").text
    assert "The pump stands still" in page
    assert 'href="/jobs/1/circuit?light=900"' in page
    assert "All closed again" in page


def test_the_light_is_read_as_on_the_sheet_and_nonsense_is_told(client: TestClient) -> None:
    assert (
        "gives no water" in client.get("/jobs/1/circuit?light=40").text
        or "stands still" in client.get("/jobs/1/circuit?light=40").text
    )
    page = client.get("/jobs/1/circuit?light=bright").text
    assert "bright" in page
    assert 'role="alert"' in page
    assert "The pump runs at" in page, "what was last sure stays shown"


def test_the_long_sections_parts_have_their_place_on_the_page(client: TestClient) -> None:
    page = client.get("/jobs/2/circuit").text
    for part in ("panel", "box", "cable-pump", "cable-array", "pump"):
        assert page.count(f'id="part-{part}"') == 1, part


@pytest.mark.parametrize("job", [1, 2, 3, 4])
def test_terminals_come_as_a_file_and_the_circuit_as_a_netlist(client: TestClient, job: int) -> None:
    answer = client.get(f"/jobs/{job}/circuit/terminals.csv")
    rows = list(csv.DictReader(io.StringIO(answer.text)))
    assert len(rows) >= 4
    assert {row["colour"] for row in rows} == {"red", "black"}
    assert all(float(row["length_m"]) > 0.0 for row in rows)
    netlist = client.get(f"/jobs/{job}/circuit/netlist.cir").text
    assert netlist.rstrip().endswith(".end")
    assert "Bmotor" in netlist


def test_without_a_kit_there_is_no_circuit(client: TestClient) -> None:
    assert client.get("/jobs/5/circuit").status_code == 200
    answer = client.get("/jobs/5/circuit/terminals.csv")
    assert answer.status_code == 404
    assert "no circuit" in answer.text


def test_a_fuse_that_is_too_large_is_seen_to_burn_something_else(client: TestClient) -> None:
    page = client.get("/jobs/1/circuit").text
    assert "nothing in its loop stands less than the fuse" in page


def test_a_kit_that_would_burn_is_not_to_be_joined_or_built(client: TestClient) -> None:
    circuit = client.get("/jobs/4/circuit?light=1100").text
    assert "Not to be joined as it is" in circuit
    assert "its maker allows 32" in circuit
    assert "Not to be built as it is" in client.get("/jobs/4/fit").text
    assert "Not to be built as it is" in client.get("/jobs/4/sheet/build").text
    for address in ("/jobs/1/circuit", "/jobs/1/fit", "/jobs/1/sheet/build"):
        assert "as it is" not in client.get(address).text.split('id="work"')[-1].split("<aside")[0].replace(
            "as it is now", ""
        ), address
