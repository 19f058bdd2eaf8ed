"""An outlet under the water: gravity, the siphon, what the pump is for; 0.3.0 said "lift 0" and "drains"."""

import pytest
from hill import new_job

from squall.core.electrics.conductors import conductor
from squall.core.hydraulics.pipes import flow_for_loss
from squall.core.kit.kit import Kit
from squall.core.kit.setup import Cabling
from squall.core.kit.supply import Direct
from squall.job.document.fields import edit
from squall.job.edit import kits
from squall.job.told.survey import run_findings
from squall.job.worked.assess import assess
from squall.words.units import text


@pytest.fixture
def low(parts):
    return edit(edit(new_job("low"), "lift", "-2 m", parts), "run.p1.length", "40 m", parts)


def test_what_runs_by_itself_is_the_flow_that_loses_the_fall(low) -> None:
    a = assess(low)
    assert (a.heights.lift_m, a.heights.fall_m) == (0.0, 2.0)
    line = a.layout.line(None)
    flow = flow_for_loss(2.0, line)
    assert line.loss_m(flow) == pytest.approx(2.0, rel=1e-6)
    said = run_findings(a)[0]
    assert text(flow, "flow") in str(said.text)
    words = " ".join(str(answer) for answer in said.answers)
    assert "breaks the siphon" in words
    assert "the pump is for" in words


def test_it_is_never_said_to_drain(low, parts) -> None:
    kit = Kit(parts.pumps["stairwell-8"], Direct(), parts.panels["kite-110"], 1, 1, parts.hoses["hose-19"])
    job = kits.adopt(low, kit, Cabling(conductor("mm2:4"), None))[0]
    said = [str(finding.text) for finding in run_findings(assess(job))]
    assert any("doesn't drain back" in one for one in said)
    assert not any("so it drains" in one for one in said)


def test_pages_and_drawing_say_how_far_under(client) -> None:
    assert client.type("lift", "-1.5 m").status_code == 200
    page = client.get("/jobs/1/survey").text.replace("\u00a0", " ")
    assert "outlet 1.5 m under the water" in page
    assert "Lift 0 m" not in page
    assert client.type("lift", "-45 m").status_code == 422
