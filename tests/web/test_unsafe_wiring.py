"""Whatever is not safe to join is told on every page of the job; 0.3.0 read no rating of volts."""

import pytest
from hill import new_job

from squall.catalogue import catalogue
from squall.core.electrics.conductors import conductor
from squall.core.kit.kit import Kit
from squall.core.kit.setup import Cabling
from squall.core.kit.supply import Direct
from squall.job.document.job import quantity
from squall.job.edit.changes import add_device
from squall.job.edit.kits import adopt
from squall.job.told.wire import wiring_cautions
from squall.job.worked.assess import assess
from squall.store.folder.database import connect
from squall.store.jobs import add_job

PAGES = ("survey", "place", "need", "lift", "power", "sun", "join", "store", "kits", "wire", "prove")


@pytest.fixture
def high(parts):
    """A 24 V pump straight on one large panel, 33 V in the cold, with a toggle of 30 V DC in its loop."""
    kit = Kit(parts.pumps["stairwell-14"], Direct(), parts.panels["ridge-215"], 1, 1, parts.hoses["hose-25"])
    job, _ = adopt(new_job("high"), kit, Cabling(conductor("mm2:6"), None))
    job, _ = add_device(job, "toggle-10", parts)
    return job


def test_the_toggle_is_refused_and_the_plug_is_not(high, parts):
    a = assess(high)
    assert a.chosen.refusal is None, str(a.chosen.refusal)
    assert a.wiring.loop_v == a.chosen.kit.open_cold_v(a.layout.record_low_c) > 30.0
    assert [p.values["name"] for p in a.wiring.volts_problems] == ["toggle switch 10 A"]
    said = str(wiring_cautions(a)[0].text)
    assert "see Wire" in said
    plugged, _ = add_device(high.model_copy(update={"devices": []}), "plug-30", parts)
    assert assess(plugged).wiring.volts_problems == ()


def test_a_fuse_made_for_fewer_volts_than_the_string_is_told(high, parts):
    a = assess(high.model_copy(update={"devices": []}))
    blades = {p.rating_v for p in parts.protectors.values() if p.kind == "fuse"}
    assert bool(a.wiring.volts_problems) is (max(blades) < a.wiring.loop_v)


def test_a_cable_that_bears_too_little_is_told_too(high):
    option = high.option.model_copy(update={"pump_cable": "mm2:0.5"})
    hot = high.model_copy(update={"options": [option], "devices": [], "ambient": quantity("58 °C", 58.0)})
    try:
        problems = [str(p) for p in assess(hot).wiring.problems]
    except AttributeError:
        pytest.fail(str(assess(hot).problem))
    assert any("bears" in problem for problem in problems)


def test_every_page_says_so(client, high):
    conn = connect(client.settings.database)
    number = add_job(conn, high, "me").id
    conn.close()
    for stage in PAGES:
        text = client.get(f"/jobs/{number}/{stage}").text
        assert "One thing is not safe to join yet" in text, stage
        assert "toggle switch 10 A is made for 30" in text, stage
    assert "the wiring is not safe yet" in client.get(f"/jobs/{number}/summary").text


def test_the_shipped_demo_is_safe_to_join(client):
    for number in range(1, 6):
        assert "not safe to join" not in client.get(f"/jobs/{number}/wire").text
    assert catalogue().devices["toggle-10"].rating_v == 30.0
