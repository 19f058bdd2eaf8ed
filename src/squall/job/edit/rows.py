"""Rows of the job's lists, added and taken out: readings, test levels, uses, own pumps and their points."""

import json
from collections.abc import Callable, Mapping, Sequence
from datetime import UTC, datetime
from typing import Any

from pydantic import ValidationError

from squall.catalogue import Catalogue, catalogue
from squall.core.errors import BadQuantity, NotFound
from squall.core.reason import Spoken
from squall.job.document.fields import edit, spec
from squall.job.document.fitting import ForNowRow
from squall.job.document.job import (
    HorizonRow,
    Job,
    LevelReading,
    LotRow,
    MeasuredLight,
    OutletDoc,
    OwnPoint,
    OwnPump,
    PondReading,
    TestReading,
    TimerRow,
    UseDoc,
    quantity,
)
from squall.job.document.need import COUNTS_OF_USE, new_use
from squall.job.document.power import LOT, CableRow, LoadRow
from squall.job.document.unsaid import with_unsaid, without_unsaid
from squall.words import Message, later, say
from squall.words.units import System

Changed = tuple[Job, Spoken]
Row = dict[str, Any]


def today() -> str:
    """This day, as readings keep it."""
    return datetime.now(UTC).date().isoformat()


def _reading(rows: list[Row], row_id: str, way: str) -> LevelReading:
    if way not in ("", "look", "pebble", "line", "tape", "meter"):
        raise BadQuantity(later("{way:quoted} is no way of reading a level.", way=way[:20]))
    value = quantity("1 s", 1.0) if way == "pebble" else quantity("5 m", 5.0)
    return LevelReading(id=row_id, way=way or "tape", value=value, on=today())  # type: ignore[arg-type]


def _test(rows: list[Row], row_id: str, hint: str) -> TestReading:
    if not rows:
        return TestReading(id=row_id, after=quantity("1 min", 60.0), level=quantity("5 m", 5.0))
    after, level = 2.0 * rows[-1]["after"]["si"], rows[-1]["level"]["si"] + 0.05
    minutes = f"{after / 60.0:g} min"
    return TestReading(id=row_id, after=quantity(minutes, after), level=quantity(f"{level:g} m", round(level, 6)))


def _pond(rows: list[Row], row_id: str, hint: str) -> PondReading:
    depth = quantity("1.5 m", 1.5) if not rows else quantity(rows[-1]["depth"]["typed"], rows[-1]["depth"]["si"])
    return PondReading(id=row_id, on=today(), depth=depth)


_USE_NAMES = {
    "crop": later("onions"),
    "drip": later("drip line"),
    "taps": later("wash place"),
    "volume": later("house tank"),
    "channel": later("channel"),
}


def _use(rows: list[Row], row_id: str, kind: str) -> UseDoc:
    if kind not in ("", *_USE_NAMES):
        raise BadQuantity(later("{kind:quoted} is no kind of use.", kind=kind[:20]))
    return new_use(row_id, str(_USE_NAMES[kind or "volume"]), kind or "volume")  # type: ignore[arg-type]


def _own_pump(rows: list[Row], row_id: str, by: str) -> OwnPump:
    return OwnPump(id=row_id, name=say("pump {rows}", rows=len(rows) + 1))


def _own_point(rows: list[Row], row_id: str, hint: str) -> OwnPoint:
    if not rows:
        return OwnPoint(id=row_id, height=quantity("0 m", 0.0), flow=quantity("20 L/min", 20.0 / 60_000.0),
                        seconds=quantity("30 s", 30.0))  # fmt: skip
    flow, seconds, height = (
        0.6 * rows[-1]["flow"]["si"],
        1.6 * rows[-1]["seconds"]["si"],
        rows[-1]["height"]["si"] + 2.0,
    )
    return OwnPoint(
        id=row_id, height=quantity(f"{height:g} m", height), flow=quantity(f"{flow * 60_000:g} L/min", flow),
        seconds=quantity(f"{seconds:.3g} s", seconds),
    )  # fmt: skip


def _outlet(rows: list[Row], row_id: str, hint: str) -> OutletDoc:
    """A place of its own; its figures are typed with it."""
    return OutletDoc(
        id=row_id, name=say("place {rows}", rows=len(rows) + 2), lift=quantity("0 m", 0.0), length=quantity("0 m", 0.0),
        share=quantity("1 %", 0.01),
    )  # fmt: skip


def _lot(rows: list[Row], row_id: str, panel: str) -> LotRow:
    if panel not in catalogue().panels:
        raise BadQuantity(later("{panel:quoted} is no panel.", panel=panel[:40]))
    return LotRow(id=row_id, panel=panel, string=int(rows[-1]["string"]) + 1 if rows else 1)


def _horizon(rows: list[Row], row_id: str, hint: str) -> HorizonRow:
    azimuth = (rows[-1]["azimuth"]["si"] + 30.0) % 360.0 if rows else 60.0
    return HorizonRow(id=row_id, azimuth=quantity(f"{azimuth:g}°", azimuth), height=quantity("5°", 5.0))


def _measured(rows: list[Row], row_id: str, hint: str) -> MeasuredLight:
    month = int(rows[-1]["month"]) % 12 + 1 if rows else datetime.now(UTC).month
    return MeasuredLight(id=row_id, month=month, light=quantity("5 kWh/m2", 5.0))


def _timer(rows: list[Row], row_id: str, hint: str) -> TimerRow:
    at = min(rows[-1]["at"]["si"] + 3.0, 23.0) if rows else 7.0
    return TimerRow(id=row_id, at=quantity(f"{at:g} h", at), minutes=quantity("60 min", 3600.0))


def _load(rows: list[Row], row_id: str, hint: str) -> LoadRow:
    return LoadRow(id=row_id, name=say("lamp"))


def _cable(rows: list[Row], row_id: str, hint: str) -> CableRow:
    return CableRow(id=row_id)


def _for_now(rows: list[Row], row_id: str, hint: str) -> ForNowRow:
    return ForNowRow(id=row_id, what=say("part"), until=today())


_MAKE: dict[str, tuple[str, int, Callable[[list[Row], str, str], Any], Message]] = {
    "level.readings": ("r", 40, _reading, later("a reading of the level")),
    "well.test": ("t", 60, _test, later("a level of the pumping test")),
    "pond.readings": ("d", 60, _pond, later("a depth of the pond")),
    "measured": ("l", 12, _measured, later("a month's light, measured")),
    "mount.horizon": ("h", 36, _horizon, later("a point of the horizon")),
    "cables": ("c", 8, _cable, later("a piece of other cable")),
    "bank.loads": ("b", 8, _load, later("another load on the bank")),
    "bank.timer": ("s", 56, _timer, later("a start of the timer")),
    "lot": ("g", 12, _lot, later("panels of the odd lot")),
    "outlets": ("o", 8, _outlet, later("a place to be served")),
    "uses": ("u", 40, _use, later("a use of water")),
    "own_pumps": ("w", 12, _own_pump, later("a pump of your own")),
    "fit.for_now": ("f", 40, _for_now, later("something fitted for now")),
    "points": ("q", 20, _own_point, later("a point of a pump")),
}

# What a new row asks for: the figures it is made with are there to be drawn, and nothing goes by them.
_ASKED: dict[str, tuple[str, ...]] = {
    "uses": tuple(dict.fromkeys(name for names in COUNTS_OF_USE.values() for name in names)),
    "own_pumps": ("end", "placement", "volts", "watts", "label_flow", "label_height"),
}


def _place(place: str) -> tuple[str, int, Callable[[list[Row], str, str], Any], Message]:
    parts = place.split(".")
    key = "points" if len(parts) == 3 and parts[0] == "own_pumps" and parts[2] == "points" else place
    if key not in _MAKE:
        raise NotFound(later("A job has no list called {place:quoted}.", place=place[:40]))
    return _MAKE[key]


def _rows(data: Any, place: str) -> list[Row]:
    found = data
    for part in place.split("."):
        if isinstance(found, list):
            found = next((row for row in found if row.get("id") == part), None)
            if found is None:
                raise NotFound(
                    later("That row is not in this job any more; it may have been removed on another screen.")
                )
        else:
            found = found[part]
    return list(found) if not isinstance(found, list) else found


def add_row(job: Job, place: str, hint: str = "") -> Changed:
    """One more row in a list of the job.

    Parameters
    ----------
    job : Job
        As it stands.
    place : str
        Such as ``level.readings`` or ``own_pumps.w1.points``.
    hint : str
        Of a reading its way, of a use its kind.

    Returns
    -------
    tuple[Job, Spoken]
        With a row that stands until it is typed over; and words for the history.

    Raises
    ------
    NotFound, BadQuantity
        For a list that is none, or is full.
    """
    prefix, most, make, words = _place(place)
    data = json.loads(job.model_dump_json())
    rows = _rows(data, place)
    if len(rows) >= most:
        raise BadQuantity(later("{most} rows are the most in this list; take one out first.", most=most))
    taken, number = {row["id"] for row in rows}, 1
    while f"{prefix}{number}" in taken:
        number += 1
    rows.append(json.loads(make(rows, f"{prefix}{number}", hint).model_dump_json()))
    added = with_unsaid(_valid(data), f"{place}.{prefix}{number}", _ASKED.get(place, ()))
    return added, later("{words} added", words=words)


def add_typed_row(
    job: Job, place: str, hint: str, typed: dict[str, str], catalogue: Catalogue, system: System
) -> Changed:
    """One more row with its fields typed at once; all or nothing.

    Raises
    ------
    BadQuantity, OutOfRange, NotFound
        For the first field that can't be read.
    """
    changed, words = add_row(job, place, hint)
    row_id = _rows(json.loads(changed.model_dump_json()), place)[-1]["id"]
    for name, text in typed.items():
        path = f"{place}.{row_id}.{name}"
        try:
            changed = edit(changed, path, text, catalogue, system)
        except BadQuantity as error:
            if text.strip():
                raise
            raise BadQuantity(later("{label}: {said}", label=spec(path, catalogue).label, said=error.said)) from error
    return changed, words


def own_pump_from_curve(
    job: Job,
    name: str,
    points: Sequence[tuple[float, float, float | None]],
    told: Mapping[str, str],
    catalogue: Catalogue,
) -> Changed:
    """A pump of the job's own from a file.

    Parameters
    ----------
    job : Job
        As it stands.
    name : str
        Where the file gives none.
    points : sequence of tuple
        Flow [m3/s], head [m], amps [A] where known.
    told : mapping
        What the file tells besides: text by field.
    catalogue : Catalogue
        For choices.

    Raises
    ------
    BadQuantity, OutOfRange
        For the first thing told that can't be read.
    """
    job, _ = add_row(job, "own_pumps")
    made = job.own_pumps[-1]
    kept = [
        OwnPoint(
            id=f"q{number}",
            height=quantity(f"{head:.4g} m", float(f"{head:.4g}")),
            flow=quantity(f"{flow * 60_000:.4g} L/min", float(f"{flow * 60_000:.4g}") / 60_000.0),
            amps=None if amps is None else quantity(f"{amps:.4g} A", float(f"{amps:.4g}")),
        )
        for number, (flow, head, amps) in enumerate(points, start=1)
    ]
    pump = made.model_copy(update={"name": name.strip() or made.name, "by": "curve", "points": kept})
    job = job.model_copy(update={"own_pumps": [*job.own_pumps[:-1], pump]})
    for field, text in told.items():
        job = edit(job, f"own_pumps.{pump.id}.{field}", text, catalogue)
    pump = job.own_pumps[-1]
    missing = [words for field, words in _MUST_KNOW.items() if field not in told]
    if missing:
        return job, later(
            "{name} read from a file, its curve through {points} points; the file does not say {missing}: taken as {end}, {volts}, put that right",
            name=pump.name, points=len(kept), missing=missing[0] if len(missing) == 1 else later("end and volts"), end=pump.end,
            volts=pump.volts.typed,
        )  # fmt: skip
    return job, later(
        "{name} read from a file: {end}, {volts}, its curve through {points} points",
        name=pump.name, end=pump.end, volts=pump.volts.typed, points=len(kept),
    )  # fmt: skip


# What a curve means nothing without.
_MUST_KNOW = {"end": later("its end"), "volts": later("at what volts")}


def remove_row(job: Job, path: str) -> Changed:
    """The job without one row, named as ``level.readings.r1``.

    Raises
    ------
    NotFound
        If it is not there.
    """
    place, _, row_id = path.rpartition(".")
    *_, words = _place(place)
    data = json.loads(job.model_dump_json())
    rows = _rows(data, place)
    kept = [row for row in rows if row["id"] != row_id]
    if len(kept) == len(rows):
        raise NotFound(later("That row is not in this job any more; it may have been removed on another screen."))
    rows[:] = kept
    if place == "own_pumps" and any(option["pump"] == f"own-{row_id}" for option in data["options"]):
        raise BadQuantity(later("An option of this job uses that pump; remove the option on the Kits page first."))
    if place == "lot" and not kept and any(option["panel"] == LOT for option in data["options"]):
        raise BadQuantity(later("A kit of this job has the odd lot; give it another panel first."))
    return without_unsaid(_valid(data), path), later("{words} taken out", words=words)


def _valid(data: Any) -> Job:
    try:
        return Job.model_validate(data)
    except ValidationError as error:
        raise BadQuantity(f"{error.errors()[0]['msg']}.") from error


__all__ = ["add_row", "add_typed_row", "own_pump_from_curve", "remove_row", "today"]
