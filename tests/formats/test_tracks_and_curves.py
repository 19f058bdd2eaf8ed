"""GPX in; pump curves as CSV in and out; jobs of an older version."""

import json
from pathlib import Path

import pytest

from squall.core.errors import BadFile, SquallError
from squall.demo import demo_jobs
from squall.formats import gpx, pump_curves
from squall.formats.job_json import export, read
from squall.job.document.base import quantity
from squall.job.document.fields import edit
from squall.job.document.job import Job
from squall.job.document.own_pumps import OwnPoint, OwnPump
from squall.job.edit.rows import own_pump_from_curve
from squall.job.told.lift import how_fitted
from squall.job.worked.assess import assess
from squall.job.worked.own_parts import homemade

LM = 1.0 / 60_000.0
HERE = Path(__file__).parent / "files"


def track(points: str, kind: str = "trk") -> bytes:
    inner = f"<trk><trkseg>{points}</trkseg></trk>" if kind == "trk" else points
    return (
        f'<?xml version="1.0"?><gpx version="1.1" creator="t" xmlns="http://www.topografix.com/GPX/1/1">{inner}</gpx>'
    ).encode()


def point(lat: float, height: str | None, tag: str = "trkpt") -> str:
    inner = f"<ele>{height}</ele>" if height is not None else ""
    return f'<{tag} lat="{lat}" lon="24.6">{inner}</{tag}>'


def test_a_track_is_read_in_order_without_its_gaps() -> None:
    found = gpx.read(track(point(-30.0, "1180") + point(-30.0005, None) + point(-30.001, "1191.5")))
    assert [(p.latitude_deg, p.height_m) for p in found] == [(-30.0, 1180.0), (-30.001, 1191.5)]


def test_a_route_or_waypoints_will_do() -> None:
    route = "<rte>" + point(-30.0, "10", "rtept") + point(-30.1, "12", "rtept") + "</rte>"
    assert len(gpx.read(track(route, "rte"))) == 2
    assert len(gpx.read(track(point(-30.0, "10", "wpt") + point(-30.1, "12", "wpt"), "wpt"))) == 2


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "not a whole GPX"),
        (track(point(-30, "1"))[:60], "not a whole GPX"),
        (b"\xff\xfe\x00", "not a whole GPX"),
        (track(point(-30.0, None) + point(-30.1, None)), "no track with heights"),
        (b'<!DOCTYPE x [<!ENTITY a "b">]><gpx/>', "words of its own"),
        (b"x" * (gpx.MOST_BYTES + 1), "MB"),
    ],
)
def test_bad_tracks(data: bytes, words: str) -> None:
    with pytest.raises(BadFile, match=words):
        gpx.read(data)


def test_a_curve_goes_out_and_comes_in_again(parts) -> None:
    for pump in parts.pumps.values():
        rows = pump_curves.read(pump_curves.write(pump).encode()).rows
        assert [(r.flow_m3_s, r.head_m, r.amps) for r in rows] == [
            (pytest.approx(q, rel=1e-5), pytest.approx(h), pytest.approx(i)) for q, h, i in pump.motor.points
        ]


@pytest.mark.parametrize("end", ["centrifugal", "diaphragm", "helical", "piston"])
def test_a_pump_of_ones_own_goes_out_and_comes_in_as_itself(end, parts) -> None:
    """Four bucket tests with amps: kind, volts, most volts, fuse and curve are the same after the way through a file."""
    falls = [(1.0, 20.0), (4.0, 18.0), (7.0, 14.5), (9.0, 11.0)]
    points = [
        OwnPoint(id=f"q{n}", height=quantity(f"{h} m", h), bucket=quantity("10 L", 0.01),
                 seconds=quantity(f"{600 / q:.2f} s", round(600 / q, 2)), amps=quantity(f"{4 + n / 10} A", 4 + n / 10))
        for n, (h, q) in enumerate(falls)
    ]  # fmt: skip
    doc = OwnPump(id="mine", name="From the shed", by="bucket", end=end, placement="surface", brushed=False, points=points,
                  volts=quantity("24 V", 24.0), most_volts=quantity("32 V", 32.0), fuse=quantity("7.5 A", 7.5))  # fmt: skip
    job = demo_jobs()[0].model_copy(update={"own_pumps": [doc]})
    made = homemade(doc.model_dump_json()).part
    text = pump_curves.write(made, how_fitted(job, made))
    assert "fitted to 4 bucket tests" in text
    curve = pump_curves.read(text.encode())
    points_in = [(row.flow_m3_s, row.head_m, row.amps) for row in curve.rows]
    job, words = own_pump_from_curve(demo_jobs()[0], "file", points_in, curve.told, parts)
    again = homemade(job.own_pumps[-1].model_dump_json()).part
    assert "24" in str(words)
    assert (again.end, again.placement, again.brushed, again.max_fuse_a) == (end, "surface", False, 7.5)
    assert (again.motor.rated_v, again.motor.max_v, again.motor.kind) == (24.0, 32.0, made.motor.kind)
    assert [p for row in again.motor.points for p in row] == [
        pytest.approx(p, rel=1e-3, abs=1e-9) for row in made.motor.points for p in row
    ]


def test_a_file_that_does_not_say_its_volts_says_what_was_taken(parts) -> None:
    job, words = own_pump_from_curve(demo_jobs()[0], "bench", [(0.0, 9.0, None), (2e-4, 4.0, None)], {}, parts)
    assert "does not say end and volts" in str(words)
    assert job.own_pumps[-1].volts.typed in str(words)
    with pytest.raises(SquallError, match="that is a mass"):
        own_pump_from_curve(demo_jobs()[0], "bench", [(0.0, 9.0, None), (2e-4, 4.0, None)], {"volts": "4 kg"}, parts)


def test_no_brushes_changes_the_life_that_nobody_typed(parts) -> None:
    job = demo_jobs()[0].model_copy(update={"own_pumps": [OwnPump(id="mine", name="x")]})
    assert edit(job, "own_pumps.mine.brushed", "no", parts).own_pumps[0].life.si == 6000.0
    typed = edit(edit(job, "own_pumps.mine.life", "900 h", parts), "own_pumps.mine.brushed", "no", parts)
    assert typed.own_pumps[0].life.si == 900.0


def test_a_curve_in_other_units_and_marks() -> None:
    rows = pump_curves.read(b"# bench\nHead [ft];Flow [gpm]\n30;1,5\n\n10;3,0\n").rows
    assert rows[0].head_m == pytest.approx(9.144)
    assert rows[0].flow_m3_s == pytest.approx(1.5 * 3.785411784 * LM)
    assert rows[0].amps is None


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "no heading"),
        ("flow [L/min],head [m]\n1,2\n", "no heading"),
        ("a,b\n1,2\n3,4\n", "lacks flow and head"),
        ("flow [L/min],amps [A]\n1,2\n3,4\n", "lacks head"),
        ("flow [L/min],head [m]\n1,2\nx,4\n", "Line 3, flow"),
        ("flow [L/min],head [m]\n1,2\n3\n", "Line 3, head"),
        ("flow [kg],head [m]\n1,2\n3,4\n", "Line 2, flow"),
        ("flow [L/min],head [m]\n" + "1,2\n" * 30, "30 points"),
    ],
)
def test_bad_curves(text: str, words: str) -> None:
    with pytest.raises(BadFile, match=words):
        pump_curves.read(text.encode())
    with pytest.raises(BadFile):
        pump_curves.read(b"\xff\xfe" * 4)


def test_a_job_of_version_1_is_still_read(parts) -> None:
    """As the first release wrote it; what was added since begins as it was before: no headroom, a typed lift."""
    old = (HERE / "job-version-1.json").read_bytes()
    assert json.loads(old)["version"] == 1
    job = read(old, parts)
    assert job.version == 2
    assert job.level.by == "lift"
    assert job.want.headroom.si == 1.0
    assert read(export(job).encode(), parts) == job
    assert assess(job).chosen is not None
    assert Job.model_validate_json(old).lift.si == 9.4


def test_a_job_that_030_exported_comes_in_and_is_judged(parts) -> None:
    """As 0.3.0 wrote its first demo job: version 2, with its kits and none of what was added since."""
    job = read((HERE / "job-version-2.json").read_bytes(), parts)
    chosen = assess(job).chosen
    assert chosen is not None
    assert chosen.refusal is None
    assert len(job.options) == 2
    assert read(export(job).encode(), parts) == job


def test_versions_to_come_are_refused(parts) -> None:
    plain = json.loads((HERE / "job-version-1.json").read_text("utf8")) | {"version": 3}
    with pytest.raises(BadFile, match="versions 1 and 2"):
        read(json.dumps(plain).encode(), parts)
