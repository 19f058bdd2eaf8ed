"""GPX in; pump curves as CSV in and out; jobs of an older version."""

import json
from pathlib import Path

import pytest

from squall.core.errors import BadFile
from squall.formats import gpx, pump_curves
from squall.formats.job_json import export, read
from squall.job.document.job import Job
from squall.job.worked.assess import assess

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
        rows = pump_curves.read(pump_curves.write(pump).encode())
        assert [(r.flow_m3_s, r.head_m, r.amps) for r in rows] == [
            (pytest.approx(q, rel=1e-5), pytest.approx(h), pytest.approx(i)) for q, h, i in pump.motor.points
        ]


def test_a_curve_in_other_units_and_marks() -> None:
    rows = pump_curves.read(b"# bench\nHead [ft];Flow [gpm]\n30;1,5\n\n10;3,0\n")
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


def test_versions_to_come_are_refused(parts) -> None:
    plain = json.loads((HERE / "job-version-1.json").read_text("utf8")) | {"version": 3}
    with pytest.raises(BadFile, match="versions 1 and 2"):
        read(json.dumps(plain).encode(), parts)
