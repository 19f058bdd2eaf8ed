"""Makes the demo's jobs afresh: invented people and places in steep dry hill country, about 30 degrees south.

Writes ``src/squall/demo/jobs.json``, which the application ships. Run it when the job format or
the catalogue changes.
"""

import json
from pathlib import Path

from squall.catalogue import Catalogue, catalogue
from squall.core.electrics.conductors import conductor
from squall.core.kit.kit import Kit
from squall.core.kit.setup import Cabling
from squall.core.kit.supply import Banked, Controlled, Direct, Supply
from squall.core.prove.expect import expected_readings, judge, light_from_short_amps
from squall.job.document.fields import edit
from squall.job.document.job import Job, ReadingValue, Visit, new_job, quantity
from squall.job.edit.changes import add_drinkers, add_piece
from squall.job.edit.kits import adopt
from squall.job.edit.places import set_place
from squall.job.edit.rows import add_typed_row
from squall.job.worked.assess import assess


def _typed(name: str, pairs: dict[str, str]) -> Job:
    job = set_place(new_job(name).model_copy(update={"unsaid": []}), -30.4, 24.6)[0]
    # The demo keeps its own invented climate, and says where its panels face.
    for path, text in {"climate": "ridge", "clock_offset": "2 h", "tilt": "35°", "azimuth": "0°"}.items():
        job = edit(job, path, text, catalogue())
    for path, text in pairs.items():
        if path.startswith("+"):
            place, _, hint = path[1:].split("#")[0].partition(":")
            fields = dict(field.split("=", 1) for field in text.split("; ")) if text else {}
            job, _ = add_typed_row(job, place, hint, fields, catalogue(), "metric")
            continue
        while path.startswith("run.") and path.split(".")[1] not in [piece.id for piece in job.run]:
            job, _ = add_piece(job)
        while path.startswith("herd.") and path.split(".")[1] not in [row.id for row in job.herd]:
            job, _ = add_drinkers(job)
        job = edit(job, path, text, catalogue())
    return job


def _kit(
    parts: Catalogue, pump: str, panel: str, series: int, parallel: int, hose: str | None,
    controller: str | None = None, battery: str | None = None, batteries: int = 1,
) -> Kit:  # fmt: skip
    supply: Supply = Direct()
    if controller is not None:
        box = parts.controllers[controller]
        supply = Controlled(box) if battery is None else Banked(box, parts.batteries[battery], batteries)
    return Kit(parts.pumps[pump], supply, parts.panels[panel], series, parallel, parts.hoses[hose] if hose else None)


def _cabling(pump: str, array: str | None = None) -> Cabling:
    return Cabling(conductor(pump), conductor(array) if array else None)


def demo_jobs() -> list[Job]:
    """The demo's jobs, each a different kind of water and trouble."""
    parts = catalogue()
    goats = _typed(
        "Goat trough on Kestrel Ridge",
        {
            "place": "Tamsin Ferro's spring pool, north slope", "latitude": "-30.4", "longitude": "24.6", "altitude": "1180 m",
            "water": "spring", "water_temperature": "13 °C", "rim": "0.7 m", "lift": "9.4 m", "pump_depth": "0.5 m",
            "run.p1.name": "slope hose", "run.p1.length": "52 m", "run.p1.hose": "hose-19", "run.p1.fittings.elbow": "2",
            "run.p1.fittings.check": "1", "run.p1.fittings.adapter": "2",
            "run.p2.name": "to the trough", "run.p2.length": "12 m", "run.p2.hose": "hose-19",
            "run.p2.fittings.gate": "1", "run.p2.fittings.exit": "1",
            "run.p1.end_height": "8.1 m", "doubt.lift": "0.2 m", "carries.leaves": "yes", "want.headroom": "1",
            "want.trough": "2500 L", "store.depth": "0.9 m", "store.travel": "12 cm", "+mount.horizon#1": "azimuth=70°; height=12°",
            "+mount.horizon#2": "azimuth=110°; height=6°", "+mount.horizon#3": "azimuth=280°; height=4°", "need_by": "herd", "herd.h1.name": "does in milk", "herd.h1.count": "70",
            "herd.h1.each": "9 L", "herd.h2.name": "kids", "herd.h2.count": "40", "herd.h2.each": "3 L",
            "months.5": "520 L", "months.6": "520 L", "max_drop": "6 %", "pump_cable": "22 m", "array_cable": "3 m",
        },
    )  # fmt: skip
    goats, _ = adopt(goats, _kit(parts, "stairwell-8", "kite-50", 1, 1, "hose-13", "till-10", "anvil-35"),
                     _cabling("mm2:6", "mm2:1.5"))  # fmt: skip
    goats, _ = adopt(goats, _kit(parts, "stairwell-8", "kite-50", 1, 2, "hose-13"), _cabling("mm2:6"))
    goats = goats.model_copy(update={"devices": ["float-10"], "visits": [_visit(goats)]})
    saffron = _typed(
        "Saffron terraces on drip",
        {
            "place": "Oded Marsh, five terraces above the cistern", "latitude": "-29.9", "longitude": "23.8",
            "altitude": "940 m", "water": "cistern", "rim": "2.2 m", "lift": "14.5 m", "lift_how": "level", "pump_depth": "1.1 m",
            "outlet": "tank-above", "run.p1.name": "riser", "run.p1.length": "38 m", "run.p1.hose": "hose-16",
            "run.p1.fittings.filter": "1", "run.p1.fittings.elbow": "3", "run.p1.fittings.exit": "1",
            "want.headroom": "1", "need_by": "herd", "+uses:crop": "crop=saffron; area=600 m2; first=3; efficiency=90 %",
            "+uses:drip": "name=young almonds; emitters=90; rate=4 L/h; hours=2 h; first=9; last=4; pressure=0.5 bar",
            "want.fall": "3 m", "want.trough": "5000 L", "store.depth": "1.6 m", "mount.second_tilt": "50°", "pump_cable": "9 m", "array_cable": "4 m",
        },
    )  # fmt: skip
    saffron, _ = adopt(saffron, _kit(parts, "stairwell-14", "ridge-215", 1, 1, "hose-13"), _cabling("mm2:2.5"))
    saffron, _ = adopt(saffron, _kit(parts, "stairwell-8", "kite-80", 1, 2, "hose-16", "warden-12"),
                       _cabling("mm2:4", "mm2:2.5"))  # fmt: skip
    ducks = _typed(
        "Duck nursery channel",
        {
            "place": "Wren Holloway's brooder yard", "latitude": "-30.1", "longitude": "24.1", "altitude": "660 m",
            "climate": "valley", "water": "pond", "rim": "0.3 m", "lift": "1.4 m", "lift_how": "tape", "pump_depth": "0.4 m", "outlet": "loop",
            "run.p1.name": "channel feed", "run.p1.length": "26 m", "run.p1.hose": "layflat-38",
            "run.p1.fittings.bend": "3", "run.p1.fittings.filter": "1", "run.p2.name": "back to the pond",
            "run.p2.length": "18 m", "run.p2.hose": "layflat-38", "run.p2.fittings.exit": "1", "run.p1.end_height": "1.4 m",
            "carries.weed": "yes", "pond.depth_full": "1.6 m", "pond.area_full": "260 m2", "pond.shape": "wedge",
            "pond.intake": "0.6 m", "pond.draw": "900 L", "+pond.readings#1": "on=2026-11-02; depth=1.34 m",
            "+pond.readings#2": "on=2026-11-16; depth=1.28 m", "pond.inflow_by": "readings",
            "want.headroom": "1", "litres": "6000 L", "pump_cable": "6 m", "array_cable": "2 m",
        },
    )  # fmt: skip
    ducks, _ = adopt(ducks, _kit(parts, "dabchick-40", "kite-80", 1, 1, "layflat-25"), _cabling("mm2:4"))
    donkeys = _typed(
        "Donkey-trek way-station",
        {
            "place": "hand-dug well at Three Cairns", "latitude": "-30.7", "longitude": "25.2", "altitude": "1420 m",
            "water": "well", "water_temperature": "12 °C", "rim": "17.8 m", "lift": "20.5 m", "pump_depth": "1.5 m",
            "level.by": "readings", "level.datum": "the stone rim", "level.outlet_height": "2.7 m",
            "+level.readings:pebble": "value=2.03 s; on=2026-10-28", "+level.readings:line": "value=17.9 m; on=2026-10-28",
            "+level.readings:tape": "value=18.1 m; raised=0.3 m; on=2026-11-03", "well.total_depth": "25.5 m",
            "well.hang_depth": "21.5 m", "well.bore": "1.2 m", "well.gives": "7 L/min", "well.drawdown_by": "test",
            "well.test_flow": "9 L/min", "well.hours": "6 h", "+well.test#1": "after=5 min; level=18.05 m",
            "+well.test#2": "after=20 min; level=18.3 m", "+well.test#3": "after=60 min; level=18.52 m",
            "+well.test#4": "after=120 min; level=18.66 m", "want.headroom": "1",
            "outlet": "tank-above", "run.p1.name": "well pipe", "run.p1.length": "23 m", "run.p1.hose": "hose-25",
            "run.p1.fittings.check": "1", "run.p1.fittings.elbow": "2", "run.p1.fittings.exit": "1",
            "need_by": "herd", "herd.h1.name": "donkeys", "herd.h1.count": "24", "herd.h1.each": "22 L",
            "herd.h2.name": "trekkers", "herd.h2.count": "20", "herd.h2.each": "8 L",
            "pump_cable": "26 m", "array_cable": "3 m", "want.trough": "2500 L", "store.depth": "1.3 m",
            "mount.post": "yes", "mount.post_from": "38°", "mount.post_to": "52°", "mount.post_top": "50°",
        },
    )  # fmt: skip
    donkeys, _ = adopt(donkeys, _kit(parts, "auger-7", "kite-110", 2, 1, "hose-25"), _cabling("mm2:6"))
    school = _typed(
        "School roof for the tree nursery",
        {
            "place": "Lower Bracken school, rain tank to seedling benches", "latitude": "-29.6", "longitude": "23.5",
            "altitude": "720 m", "climate": "valley", "water": "cistern", "rim": "1.5 m", "lift": "3.1 m", "lift_how": "tape", "pump_depth": "0.6 m",
            "run.p1.name": "bench line", "run.p1.length": "31 m", "run.p1.hose": "hose-13", "run.p1.fittings.tee-through": "4",
            "run.p1.fittings.exit": "1", "roof.used": "yes", "roof.roof": "140 m2", "roof.barrels": "5", "roof.barrel": "1500 L",
            "roof.storm": "60 mm", "roof.overflow": "45 mm", "want.headroom": "1", "need_by": "herd",
            "+uses:crop": "name=seedlings; crop=seedling; area=45 m2; first=8; efficiency=75 %",
            "+uses:taps": "name=wash place; times=60; minutes=1 min; flow=5 L/min; running=30 %",
            "+own_pumps": "name=bench pump; by=bucket; volts=12 V; watts=45 W",
            "+own_pumps.w1.points#1": "height=1 m; bucket=10 L; seconds=38 s", "+own_pumps.w1.points#2": "height=3 m; bucket=10 L; seconds=52 s",
            "+own_pumps.w1.points#3": "height=5 m; bucket=10 L; seconds=95 s", "pump_cable": "8 m", "array_cable": "2 m",
        },
    )  # fmt: skip
    return [goats, saffron, ducks, donkeys, school]


def _visit(job: Job) -> Visit:
    """Readings of a day with a little dust on the panel and a worn pump."""
    chosen = assess(job).chosen
    assert chosen is not None
    short_a, air_c = 4.6, 22.0
    now = light_from_short_amps(chosen.kit, short_a, air_c)
    kinds = {"open-volts": "V", "short-amps": "A", "pump-volts": "V", "pump-amps": "A", "outlet-flow": "L/min"}
    drift = {"open-volts": 0.995, "short-amps": 1.0, "pump-volts": 0.97, "pump-amps": 1.05, "outlet-flow": 0.7}
    values = []
    for expected in expected_readings(chosen.setup, now):
        if expected.value is None or expected.point not in drift:
            continue
        measured = expected.value * drift[expected.point]
        shown = measured * 60_000 if expected.point == "outlet-flow" else measured
        values.append(
            ReadingValue(
                point=expected.point,
                measured=quantity(f"{shown:.1f} {kinds[expected.point]}", measured),
                expected=expected.value,
                low=expected.low,
                high=expected.high,
                verdict=judge(expected, measured),
            )
        )
    return Visit(
        id="v1", at="2026-11-02T09:40Z", option=chosen.option.name, irradiance_w_m2=now.irradiance_w_m2, air_c=air_c,
        told_by=now.told_by.code, values=values,
    )  # fmt: skip


def main() -> None:
    """Write the file."""
    target = Path(__file__).parent.parent / "src" / "squall" / "demo" / "jobs.json"
    plain = [job.model_dump(mode="json") for job in demo_jobs()]
    target.write_text(json.dumps(plain, ensure_ascii=False, indent=1) + "\n", "utf8")


if __name__ == "__main__":
    main()
