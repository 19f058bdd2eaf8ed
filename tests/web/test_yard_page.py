"""What a yard knows: its pumps' lives and its own figures, and that every search weighs with them."""

from datetime import date

import pytest
from test_board import TODAY
from test_job_list import soup, worked_out

from squall.core.faults.causes import CAUSES, Frequencies, of_yard, trade_share
from squall.demo import yard
from squall.job.kept.board import Standing
from squall.job.kept.fleet import done_in, pumps_in
from squall.store.folder.database import connect
from squall.store.kit.handed import take_in


@pytest.fixture
def geese(client):
    """A kit of the demo's yard whose pump was renewed."""
    conn = connect(client.settings.database)
    take_in(conn, next(one for one in yard(TODAY) if one.job.name == "Geese on Sallow Flat"), "me, tab 1")
    conn.close()
    worked_out(client)
    return client


def test_a_pump_that_was_renewed_is_told_with_its_hours(geese) -> None:
    page = soup(geese.get("/yard"))
    row = next(row for row in page.select("#pumps tbody tr") if "Rill 12" in row.text)
    kits, renewed, after, made_for = (cell.text.strip() for cell in row.select("td"))
    assert (kits, renewed) == ("1", "1")
    assert "h" in after
    assert "h" in made_for
    done = next(row for row in page.select("#pumps tbody tr") if "Pump renewed" in row.text)
    assert done.select("td")[0].text == "1"
    found = next(row for row in page.select("#frequencies tbody tr") if row.select("td")[1].text.strip())
    assert found.select("td")[1].text.strip() == "1", "what was found stands first"


def test_own_figures_weigh_in_every_search(client) -> None:
    client.change("/jobs/1/fault/begin", {"story": "slowly-less", "sky": "full", "light": "", "air": "20 °C"})

    def place() -> int:
        """Of a leak among what it may be, likeliest first."""
        return [option["value"] for option in soup(client.get("/jobs/1/fault")).select("#found option")].index(
            "hose-leaks"
        )

    before = place()
    assert before > 0
    assert "Instead of the trade's guesses" not in soup(client.get("/jobs/1/fault")).text
    answer = client.change("/yard/frequencies", {"hose-leaks": "60", "screen-blocked": "0.5"}, htmx=False)
    assert "Every search weighs" in answer.text
    assert place() == 0
    assert "60 in a hundred" in soup(client.get("/jobs/1/fault")).text
    assert soup(client.get("/yard")).select_one("input[name=hose-leaks]")["value"] == "60"
    client.change("/yard/frequencies", {}, htmx=False)
    assert place() == before


@pytest.mark.parametrize("text", ["often", "-3", "0", "140", "1e9", "nan", "inf", "<b>"])
def test_a_figure_that_is_none_is_refused_and_nothing_typed_is_lost(client, text: str) -> None:
    answer = client.change("/yard/frequencies", {"hose-leaks": text, "screen-blocked": "7"}, htmx=False)
    assert answer.status_code == 422
    page = soup(answer)
    assert page.select_one("input[name=screen-blocked]")["value"] == "7"
    assert page.select_one("input[name=hose-leaks]")["value"] == text
    assert "no count of a hundred" in page.text
    assert soup(client.get("/yard")).select_one("input[name=screen-blocked]")["value"] == ""


def test_the_trades_guesses_are_of_a_hundred_and_what_is_said_goes_before_them() -> None:
    assert sum(trade_share(cause) for cause in CAUSES.values()) == pytest.approx(100.0)
    cause = CAUSES["hose-leaks"]
    assert of_yard(cause, Frequencies()) == 1.0
    assert of_yard(cause, Frequencies(said={"hose-leaks": 2.0 * trade_share(cause)})) == pytest.approx(2.0)
    assert of_yard(cause, Frequencies({"hose-leaks": 4})) == pytest.approx(2.0), "four findings double it"
    assert of_yard(CAUSES["ice"], Frequencies(said={"hose-leaks": 50.0})) == 1.0


def test_pumps_that_die_early_stand_first_and_what_is_done_is_counted_by_kit() -> None:
    day = date(2026, 5, 1)
    rows = [
        Standing("holds", pump="Sound", seen=day, life_h=1000.0, renewed=((day, 990.0),)),
        Standing("holds", pump="Weak", seen=day, life_h=1000.0, renewed=((day, 300.0), (day, 500.0))),
        Standing(
            "holds",
            pump="Weak",
            seen=day,
            life_h=1000.0,
            done=(("panels-cleaned", day), ("panels-cleaned", date(2026, 7, 30))),
        ),
        Standing("holds", pump="On paper", life_h=1000.0),
    ]
    pumps = pumps_in(rows)
    assert [(one.title, one.early, one.kits) for one in pumps] == [("Weak", True, 2), ("Sound", False, 1)]
    assert pumps[0].middle_h == 400.0
    done = done_in(rows)
    assert [(one.done, one.times, one.kits, one.every_days) for one in done] == [("panels-cleaned", 2, 1, 90)]
