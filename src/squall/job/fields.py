"""Every field of a job that can be typed: its label, kind, range, and how text is read into it.

A field is named by a path: ``lift``, ``run.p1.length``, ``herd.h2.count``, ``months.6``.
"""

import json
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

from pydantic import ValidationError

from squall.catalogue import Catalogue
from squall.core.climate import MONTHS
from squall.core.conductors import Standard, find_conductor
from squall.core.errors import BadQuantity, NotFound, OutOfRange
from squall.job.document import Job, Typed
from squall.units import KINDS, System, parse, text

How = Literal["quantity", "choice", "words", "yes-no", "count", "cable"]


@dataclass(frozen=True)
class FieldSpec:
    """How one field is typed.

    Attributes
    ----------
    label : str
        Plain words.
    how : str
        ``quantity``, ``choice``, ``words``, ``yes-no``, ``count`` or ``cable``.
    kind : str
        Of a quantity: key of :data:`squall.units.KINDS`.
    low, high : float
        Range in SI.
    choices : mapping
        Of a choice: value to words.
    optional : bool
        May be left empty.
    hint : str
        One line beside the field.
    """

    label: str
    how: How = "quantity"
    kind: str = ""
    low: float = 0.0
    high: float = 0.0
    choices: Mapping[str, str] | None = None
    optional: bool = False
    hint: str = ""


WATER = {"spring": "spring pool", "well": "hand-dug or drilled well", "cistern": "cistern or tank", "stream": "stream",
         "pond": "pond"}  # fmt: skip
OUTLET = {
    "open": "open outlet",
    "tank-above": "into a tank, from above",
    "tank-below": "into a tank, from below",
    "loop": "closed circuit, back to the start",
}
_PLAIN: dict[str, FieldSpec] = {
    "name": FieldSpec("Name of the job", "words"),
    "place": FieldSpec("Place", "words", optional=True),
    "notes": FieldSpec("Notes", "words", optional=True),
    "latitude": FieldSpec("Latitude", kind="angle", low=-65, high=65, hint="south is negative"),
    "longitude": FieldSpec("Longitude", kind="angle", low=-180, high=180, hint="west is negative"),
    "altitude": FieldSpec("Altitude", kind="altitude", low=-430, high=5500),
    "clock_offset": FieldSpec("Clock, hours from UTC", kind="hours", low=-12, high=14),
    "tilt": FieldSpec("Panel tilt from level", kind="angle", low=0, high=90),
    "azimuth": FieldSpec("Panels face, from north clockwise", kind="angle", low=0, high=360, hint="0 is north"),
    "dirt": FieldSpec("Light lost to dirt and age", kind="share", low=0, high=0.6),
    "water": FieldSpec("Water comes from", "choice", choices=WATER),
    "water_temperature": FieldSpec("Water temperature", kind="temperature", low=0.1, high=60),
    "lift": FieldSpec("Lift: pumping water level to outlet", kind="head", low=0, high=250,
                      hint="from the water while pumping, not from where the pump hangs"),
    "pump_depth": FieldSpec("Pump hangs below the water", kind="head", low=0, high=100),
    "rim": FieldSpec("Bank or well rim above the water", kind="head", low=0, high=250),
    "outlet": FieldSpec("Outlet", "choice", choices=OUTLET),
    "end_pressure": FieldSpec("Pressure wanted at the outlet", kind="pressure", low=0, high=100),
    "need_by": FieldSpec("Need is given as", "choice", choices={"litres": "litres a day", "herd": "a herd"}),
    "litres": FieldSpec("Water a day", kind="litres", low=0, high=1000),
    "array_cable": FieldSpec("Panel to box, one way", kind="length", low=0, high=500),
    "pump_cable": FieldSpec("Box to pump, one way", kind="length", low=0.1, high=500),
    "ambient": FieldSpec("Hottest air around the cables", kind="temperature", low=-20, high=60),
    "max_drop": FieldSpec("Drop allowed in the pump's cable", kind="share", low=0.005, high=0.2,
                          hint="3 % is good, 10 % the most"),
    "wire_standard": FieldSpec("Cable sizes", "choice", choices={"metric": "mm²", "awg": "AWG"}),
    "protection": FieldSpec("Protection", "choice", choices={"fuse": "fuse", "breaker": "DC breaker"}),
}  # fmt: skip
_PIECE: dict[str, FieldSpec] = {
    "name": FieldSpec("Piece", "words"),
    "length": FieldSpec("Length", kind="length", low=0, high=20_000),
    "bore": FieldSpec("Inner diameter", kind="bore", low=0.003, high=0.5),
    "roughness": FieldSpec("Wall roughness", kind="bore", low=0, high=0.005),
    "fixed": FieldSpec("Keep this hose whatever the kit", "yes-no"),
}
_HERD: dict[str, FieldSpec] = {
    "name": FieldSpec("Who drinks", "words"),
    "count": FieldSpec("Count", kind="number", low=0, high=100_000),
    "each": FieldSpec("Litres a head a day", kind="litres", low=0, high=10),
}


def spec(path: str, catalogue: Catalogue) -> FieldSpec:
    """How the field at a path is typed.

    Parameters
    ----------
    path : str
        Such as ``lift`` or ``run.p1.length``.
    catalogue : Catalogue
        For the choices of hoses, fittings and climates.

    Returns
    -------
    FieldSpec
        Label, kind and range.

    Raises
    ------
    NotFound
        If there is no such field.
    """
    parts = path.split(".")
    if path in _PLAIN:
        return _PLAIN[path]
    if path == "climate":
        return FieldSpec("Climate", "choice", choices={key: c.name for key, c in catalogue.climates.items()})
    if len(parts) == 2 and parts[0] == "months" and parts[1].isdecimal() and int(parts[1]) < 12:
        return FieldSpec(MONTHS[int(parts[1])], kind="litres", low=0, high=1000, optional=True)
    if len(parts) == 3 and parts[0] == "run":
        if parts[2] == "hose":
            hoses = {key: f"{hose.nominal}, {hose.kind}" for key, hose in catalogue.hoses.items()}
            return FieldSpec("Hose", "choice", choices=hoses | {"own": "another: give bore and roughness"})
        if parts[2] in _PIECE:
            return _PIECE[parts[2]]
    if len(parts) == 4 and parts[0] == "run" and parts[2] == "fittings" and parts[3] in catalogue.fittings:
        return FieldSpec(catalogue.fittings[parts[3]].name, "count", low=0, high=1000)
    if len(parts) == 3 and parts[0] == "herd" and parts[2] in _HERD:
        return _HERD[parts[2]]
    if len(parts) == 3 and parts[0] == "options" and parts[2] in ("pump_cable", "array_cable"):
        return FieldSpec("Cable size", "cable", hint="such as 4 mm2 or 12 awg")
    raise NotFound(f"A job has no field {path!r}.")


def value_at(job: Job, path: str) -> Any:
    """What stands at a path, as plain data.

    Raises
    ------
    NotFound
        If the path leads nowhere, such as a piece that was removed.
    """
    return _dig(json.loads(job.model_dump_json()), path)


def _dig(data: Any, path: str) -> Any:
    place = data
    for part in path.split("."):
        if isinstance(place, list):
            place = _item(place, part, path)
        elif isinstance(place, dict) and (part in place or part in ("own",)):
            place = place[part]
        elif isinstance(place, dict):
            return 0 if ".fittings." in path else _missing(path)
        else:
            _missing(path)
    return place


def _item(items: list[Any], part: str, path: str) -> Any:
    if (
        part.isdecimal()
        and int(part) < len(items)
        and not any(isinstance(i, dict) and i.get("id") == part for i in items)
    ):
        return items[int(part)]
    for item in items:
        if isinstance(item, dict) and item.get("id") == part:
            return item
    return _missing(path)


def _missing(path: str) -> Any:
    raise NotFound(f"{path!r} is not in this job any more; it may have been removed on another screen.")


def as_typed(value: Any) -> str:
    """What a person sees in the field for a value of :func:`value_at`."""
    if value is None:
        return ""
    if isinstance(value, dict) and set(value) == {"typed", "si"}:
        return str(value["typed"])
    return str(value)


def read(typed: str, field: FieldSpec, system: System, standard: Standard = "metric") -> Any:
    """Read text as the plain data of a field.

    Parameters
    ----------
    typed : str
        As typed.
    field : FieldSpec
        How the field is typed.
    system : str
        Units of a bare number.
    standard : str
        Of a bare cable size.

    Returns
    -------
    object
        JSON data: a typed quantity, a string, a number, a bool or None.

    Raises
    ------
    BadQuantity, OutOfRange
        A sentence for beside the field.
    """
    body = typed.strip()
    if field.optional and not body:
        return None if field.how == "quantity" else ""
    if field.how == "words":
        if not body:
            raise BadQuantity(f"{field.label} can't be empty.")
        limit = 4000 if field.label == "Notes" else 120
        if len(body) > limit:
            raise BadQuantity(f"{field.label} is {len(body)} letters long; at most {limit} are kept.")
        return body
    if field.how == "choice":
        if body not in (field.choices or {}):
            raise BadQuantity(f"{field.label}: {body!r} is not one of the choices.")
        return body
    if field.how == "yes-no":
        return body in ("yes", "on", "true", "1")
    if field.how == "count":
        return _count(body, field)
    if field.how == "cable":
        return find_conductor(body, standard).key
    value = parse(body, field.kind, system)
    if not field.low <= value <= field.high:
        span = f"{text(field.low, field.kind, system)} to {text(field.high, field.kind, system)}"
        raise OutOfRange(field.label, body, span)
    return {"typed": with_unit(body, field.kind, system), "si": value}


def _count(body: str, field: FieldSpec) -> int:
    if not body:
        return 0
    if not body.isdecimal() or int(body) > 1000:
        raise BadQuantity(f"{field.label}: {body[:20]!r} is not a count; whole numbers from 0 to 1000 are wanted.")
    return int(body)


def with_unit(body: str, kind_name: str, system: System) -> str:
    """A bare number gets the unit it was read in, so that it stays true when the units change."""
    kind = KINDS[kind_name]
    sign = kind.metric_sign if system == "metric" else kind.us_sign
    if not sign or not (body[-1].isdigit() or body[-1] in ".,"):
        return body
    return f"{body}{sign}" if sign == "°" else f"{body} {sign}"


def with_value(job: Job, path: str, value: Any) -> Job:
    """The job with plain data put at a path.

    Raises
    ------
    NotFound
        If the path leads nowhere.
    BadQuantity
        If the job can't hold that value there.
    """
    data = json.loads(job.model_dump_json())
    *way, last = path.split(".")
    place = _dig(data, ".".join(way)) if way else data
    if isinstance(place, list):
        place[int(last)] = value
    elif ".fittings." in path and value == 0:
        place.pop(last, None)
    else:
        place[last] = value
    try:
        return Job.model_validate(data)
    except ValidationError as error:
        raise BadQuantity(f"{path}: {error.errors()[0]['msg']}.") from error


def edit(job: Job, path: str, typed: str, catalogue: Catalogue, system: System = "metric") -> Job:
    """The job with one field typed anew.

    Parameters
    ----------
    job : Job
        As it stands.
    path : str
        The field.
    typed : str
        As typed.
    catalogue : Catalogue
        For choices, and the bore that comes with a hose.
    system : str
        Units of a bare number.

    Returns
    -------
    Job
        With the field changed, and what hangs on it: a hose brings its bore and roughness.

    Raises
    ------
    NotFound, BadQuantity, OutOfRange
        A sentence; nothing was changed.
    """
    job = with_value(job, path, read(typed, spec(path, catalogue), system, job.wire_standard))
    parts = path.split(".")
    if len(parts) == 3 and parts[0] == "run":
        stem = f"run.{parts[1]}"
        if parts[2] == "hose" and typed != "own":
            hose = catalogue.hoses[typed]
            for field, metres in (("bore", hose.inner_diameter_m), ("roughness", hose.roughness_m)):
                shown = f"{metres * 1000:g} mm"
                job = with_value(job, f"{stem}.{field}", {"typed": shown, "si": metres})
        elif parts[2] in ("bore", "roughness"):
            job = with_value(job, f"{stem}.hose", "own")
            check_roughness(job, parts[1])
    return job


def check_roughness(job: Job, piece_id: str) -> None:
    """Refuse a wall rougher than 5 % of its bore, beyond which Colebrook does not hold."""
    piece = next(piece for piece in job.run if piece.id == piece_id)
    if piece.roughness.si > 0.05 * piece.bore.si:
        raise OutOfRange("Wall roughness", piece.roughness.typed, f"at most 5 % of the bore ({piece.bore.typed})")


def check_all(job: Job, catalogue: Catalogue) -> None:
    """Read every typed field of a job again, as if typed now.

    Raises
    ------
    BadQuantity, OutOfRange
        For the first field that could not have been typed, or whose SI value is not that of its text.
    """
    paths = [path for path in (*_PLAIN, "climate") if path != "notes"]
    for piece in job.run:
        paths += [f"run.{piece.id}.{name}" for name in ("name", "length", "hose", "bore", "roughness")]
        paths += [f"run.{piece.id}.fittings.{key}" for key in piece.fittings]
    paths += [f"herd.{row.id}.{name}" for row in job.herd for name in _HERD]
    paths += [f"months.{month}" for month in range(12)]
    for path in paths:
        field = spec(path, catalogue)
        stands = value_at(job, path)
        again = read(as_typed(stands), field, "metric")
        if isinstance(again, dict) and abs(again["si"] - stands["si"]) > 1e-6 * max(abs(stands["si"]), 1e-3):
            raise BadQuantity(f"{field.label}: the file says {stands['typed']!r} but means {stands['si']:g}.")


__all__ = ["FieldSpec", "Typed", "as_typed", "edit", "read", "spec", "value_at", "with_value"]
