"""Every field of a job that can be typed: its label, kind, range, and how text is read into it.

A field is named by a path: ``lift``, ``run.p1.length``, ``herd.h2.count``, ``months.6``.
"""

from dataclasses import replace
from datetime import date
from typing import Any

from squall.catalogue import Catalogue
from squall.core.electrics.conductors import Standard, find_conductor
from squall.core.errors import BadQuantity, NotFound, OutOfRange
from squall.core.need.demand import StockKind
from squall.core.reason import Quantity
from squall.core.sky.air import guessed_air
from squall.core.sky.outside import daylight_outside_kwh
from squall.job.document.field_spec import FieldSpec
from squall.job.document.job import FILE_CLIMATE, WORLD_CLIMATE, AirMonth, Job, SkyDoc, SkyMonth, Typed, quantity
from squall.job.document.options import with_slot
from squall.job.document.own_pumps import LIFE_BRUSHED, LIFE_BRUSHLESS
from squall.job.document.parts import part_choices, with_copies
from squall.job.document.paths import as_typed, shown_as, value_at, with_value
from squall.job.document.power import LOT
from squall.job.document.specs import MOST_FITTINGS, OWN_CLIMATE, PEBBLE_SECONDS, PLAIN, ROWS, SKY_MONTH
from squall.job.document.unsaid import with_said
from squall.words import later
from squall.words.calendar import MONTHS
from squall.words.places import read_angle
from squall.words.units import KINDS, System, is_bare, parse, text


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
    if path in PLAIN:
        return PLAIN[path]
    if path in ("climate", "air.like"):
        known = {key: climate.name for key, climate in catalogue.climates.items()}
        if path == "air.like":
            return FieldSpec(later("Air as at"), "choice", choices=known)
        world = {WORLD_CLIMATE: later("the place's own, from the world's table")}
        return FieldSpec(
            later("Light and climate"),
            "choice",
            choices=world | {FILE_CLIMATE: later("the weather file")} | known | {OWN_CLIMATE: later("typed below")},
        )
    parts = path.split(".")
    found = _of_a_row(parts, catalogue) or _of_a_month(parts)
    if found is None:
        raise NotFound(later("A job has no field {path:quoted}.", path=path))
    return found


def _of_a_month(parts: list[str]) -> FieldSpec | None:
    month = int(parts[-1]) if parts[-1].isdecimal() and len(parts[-1]) < 3 else 12
    if len(parts) == 2 and parts[0] == "months" and month < 12:
        return FieldSpec(MONTHS[month], kind="litres", low=0, high=1000, optional=True)
    if len(parts) == 4 and parts[:2] == ["sky", "months"] and parts[3] in SKY_MONTH and parts[2] in _MONTH_NUMBERS:
        return SKY_MONTH[parts[3]]
    if (
        len(parts) == 4
        and parts[:2] == ["air", "months"]
        and parts[3] in AirMonth.model_fields
        and parts[2] in _MONTH_NUMBERS
    ):
        return SKY_MONTH[parts[3]]
    return None


_MONTH_NUMBERS = tuple(str(month) for month in range(12))


def _of_a_row(parts: list[str], catalogue: Catalogue) -> FieldSpec | None:
    if len(parts) == 4 and parts[0] == "run" and parts[2] == "fittings":
        fitting = catalogue.fittings.get(parts[3])
        return None if fitting is None else FieldSpec(fitting.name, "count", low=0, high=MOST_FITTINGS)
    if len(parts) == 5 and parts[0] == "own_pumps" and parts[2] == "points":
        return ROWS["own_pumps.points"].get(parts[4])
    if len(parts) < 3:
        return None
    place, last = ".".join(parts[:-2]), parts[-1]
    choices = part_choices(place, last, catalogue)
    if choices is not None:
        return choices
    if place == "options" and last in ("pump_cable", "array_cable"):
        label = later("Cable to the pump") if last == "pump_cable" else later("Cable from the panels")
        return FieldSpec(label, "cable", hint=later("such as 4 mm2 or 12 awg"))
    return ROWS.get(place, {}).get(last)


def spec_in(job: Job, path: str, catalogue: Catalogue) -> FieldSpec:
    """As :func:`spec`, for a field whose kind hangs on its row: a pebble is read in seconds."""
    parts = path.split(".")
    if len(parts) == 4 and parts[:2] == ["level", "readings"] and parts[3] == "value":
        reading = next((r for r in job.level.readings if r.id == parts[2]), None)
        if reading is not None and reading.way == "pebble":
            return PEBBLE_SECONDS
    found = spec(path, catalogue)
    choices = dict(found.choices or {})
    if len(parts) == 3 and parts[0] == "options" and parts[2] == "pump":
        return replace(found, choices={**choices, **{f"own-{pump.id}": pump.name for pump in job.own_pumps}})
    if len(parts) == 3 and parts[0] == "options" and parts[2] == "panel" and job.lot:
        return replace(found, choices={**choices, LOT: later("the odd lot")})
    if len(parts) == 3 and parts[0] == "outlets" and parts[2] == "after":
        return replace(found, choices={**choices, **{p.id: later("after “{name}”", name=p.name) for p in job.run[:-1]}})
    if path == "climate" and job.file_sky is None:
        choices.pop(FILE_CLIMATE)
        return replace(found, choices=choices)
    if path == "air.by" and job.climate == FILE_CLIMATE:
        return replace(found, choices={**choices, "guessed": later("the weather file")})
    return found


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
            raise BadQuantity(later("{label} can't be empty.", label=field.label))
        limit = 4000 if field.label == "Notes" else 120
        if len(body) > limit:
            raise BadQuantity(
                later(
                    "{label} is {body} letters long; at most {limit} are kept.",
                    label=field.label,
                    body=len(body),
                    limit=limit,
                )
            )
        return body
    if field.how == "choice":
        if body not in (field.choices or {}):
            raise BadQuantity(later("{label}: {body:quoted} is not one of the choices.", label=field.label, body=body))
        return body
    if field.how == "date":
        return _day(body, field)
    if field.how == "yes-no":
        return body in ("yes", "on", "true", "1")
    if field.how == "count":
        return _count(body, field)
    if field.how == "cable":
        return find_conductor(body, standard).key
    value = read_angle(body, field.kind) if field.kind in ("latitude", "longitude") else parse(body, field.kind, system)
    if not field.low <= value <= field.high:
        span = later(
            "{low} to {high}", low=text(field.low, field.kind, system), high=text(field.high, field.kind, system)
        )
        raise OutOfRange(field.label, body, span)
    return {"typed": with_unit(body, field.kind, system), "si": value}


def _day(body: str, field: FieldSpec) -> str:
    try:
        return date.fromisoformat(body).isoformat()
    except ValueError:
        raise BadQuantity(
            later("{label}: {body:quoted} is not a day; write it as 2026-11-25.", label=field.label, body=body[:20])
        ) from None


def _count(body: str, field: FieldSpec) -> int:
    least, most = int(field.low), int(field.high) or 1000
    if not body and least == 0:
        return 0
    if not (body.isascii() and body.isdecimal()) or not least <= int(body[:9]) <= most or len(body) > 9:
        wanted = later("whole numbers from {least} to {most} are wanted", least=least, most=most)
        raise BadQuantity(
            later("{label}: {body:quoted} is not a count; {wanted}.", label=field.label, body=body[:20], wanted=wanted)
        )
    return int(body)


def with_unit(body: str, kind_name: str, system: System) -> str:
    """A bare number gets the unit it was read in, so that it stays true when the units change."""
    kind = KINDS[kind_name]
    sign = kind.metric_sign if system == "metric" else kind.us_sign
    if not sign or not is_bare(body):
        return body
    return f"{body}{sign}" if sign == "°" else f"{body} {sign}"


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
    if path.startswith("air.months.") and not job.air.months:
        raise NotFound(later("No air is typed yet; choose “twelve months, typed” first."))
    catalogue = with_copies(job.parts, job.owned, catalogue)
    field = spec_in(job, path, catalogue)
    if field.kind and path not in job.unsaid and shown_as(job, path, field.kind) == typed.strip():
        return job
    value = read(typed, field, system, job.wire_standard)
    if field.how == "choice" and path.split(".")[-1] in ("first", "last", "month"):
        value = int(value)
    if path.startswith("options.") and value == "none":
        value = None
    if path.startswith("sky.") and job.sky is None:
        raise NotFound(later("No climate is typed yet; choose “typed below” first."))
    job = with_said(with_value(job, path, value), path)
    parts = path.split(".")
    if len(parts) == 3 and parts[0] == "options":
        job = with_slot(job, parts[1], parts[2], catalogue)
    if path == "climate" and value == OWN_CLIMATE and job.sky is None:
        job = job.model_copy(update={"sky": own_sky(job, catalogue)})
    if path == "air.by" and value == "extremes" and job.air.hottest is None and job.air.coldest is None:
        months = own_air(job)
        hottest, coldest = max((m.t_max for m in months), key=_si), min((m.t_min for m in months), key=_si)
        job = job.model_copy(update={"air": job.air.model_copy(update={"hottest": hottest, "coldest": coldest})})
    if path == "air.by" and value == "months" and not job.air.months:
        job = job.model_copy(update={"air": job.air.model_copy(update={"months": own_air(job)})})
    if len(parts) == 3 and parts[0] == "uses" and parts[2] == "crop":
        job = with_value(job, f"uses.{parts[1]}.name", catalogue.crops[value].name)
    if len(parts) == 3 and parts[0] == "herd" and parts[2] == "kind" and value != "own":
        job = _with_kind(job, f"herd.{parts[1]}", catalogue.stock_kinds[value])
    if len(parts) == 3 and parts[0] == "own_pumps" and parts[2] == "brushed":
        before, after = (LIFE_BRUSHED, LIFE_BRUSHLESS) if not value else (LIFE_BRUSHLESS, LIFE_BRUSHED)
        pump = next(pump for pump in job.own_pumps if pump.id == parts[1])
        if pump.life == before:
            job = with_value(job, f"own_pumps.{parts[1]}.life", after.model_dump())
    if len(parts) == 3 and parts[0] in ("run", "outlets"):
        stem = f"{parts[0]}.{parts[1]}"
        if parts[2] == "hose" and typed != "own":
            hose = catalogue.hoses[typed]
            for name, metres in (("bore", hose.inner_diameter_m), ("roughness", hose.roughness_m)):
                shown = f"{metres * 1000:g} mm"
                job = with_value(job, f"{stem}.{name}", {"typed": shown, "si": metres})
        elif parts[2] in ("bore", "roughness"):
            job = with_value(job, f"{stem}.hose", "own")
            check_roughness(job, parts[0], parts[1])
    return job


def _with_kind(job: Job, row: str, kind: StockKind) -> Job:
    """A herd's row brought the litres of its kind, which stay editable."""
    for name, litres in (("each", kind.hot_litres), ("cool", kind.cool_litres)):
        job = with_value(job, f"{row}.{name}", {"typed": f"{litres:g} L", "si": litres / 1000.0})
    return with_value(job, f"{row}.name", kind.name)


def own_sky(job: Job, catalogue: Catalogue) -> SkyDoc:
    """A typed climate to begin with: the first of the catalogue's, at the job's latitude."""
    start = next(iter(catalogue.climates.values()))
    months = []
    for number, month in enumerate(start.months):
        # Until a place is given, the light of the catalogue's own country stands there to be typed over.
        light = month.clearness * daylight_outside_kwh(-30.0 if job.latitude is None else job.latitude.si, number)
        months.append(
            SkyMonth(
                light=quantity(f"{light:.1f} kWh/m2", round(light, 1)),
                t_min=quantity(f"{month.t_min_c:g} °C", month.t_min_c),
                t_max=quantity(f"{month.t_max_c:g} °C", month.t_max_c),
                rain=quantity(f"{month.rain_mm:g} mm", month.rain_mm / 1000.0),
                wet_days=quantity(f"{month.wet_days:g}", month.wet_days),
            )
        )
    low, high = (quantity(f"{c:g} °C", c) for c in (start.record_low_c, start.record_high_c))
    return SkyDoc(record_low=low, record_high=high, months=months)


def _si(value: Typed) -> float:
    return value.si


def own_air(job: Job) -> list[AirMonth]:
    """Twelve months of air to begin with: those of the weather file that rules, else as guessed for the place."""
    guess = guessed_air(*(0.0 if at is None else at.si for at in (job.latitude, job.altitude)))
    pairs = list(zip(guess.t_min_c, guess.t_max_c, strict=True))
    if job.climate == FILE_CLIMATE and job.file_sky is not None:
        pairs = [(month.t_min, month.t_max) for month in job.file_sky.months]

    def degrees(value: float) -> Typed:
        return quantity(f"{round(value)} °C", float(round(value)))

    return [
        AirMonth(t_min=degrees(low), t_max=degrees(high), rain=quantity("0 mm", 0.0), wet_days=quantity("0", 0.0))
        for low, high in pairs
    ]


def check_roughness(job: Job, place: str, row_id: str) -> None:
    """Refuse a wall rougher than 5 % of its bore, beyond which Colebrook does not hold; of a piece of the run, or of an outlet's own."""
    piece = next(row for row in (job.run if place == "run" else job.outlets) if row.id == row_id)
    if piece.roughness.si > 0.05 * piece.bore.si:
        raise OutOfRange(
            later("Wall roughness"),
            Quantity(piece.roughness.si, "bore"),
            later("at most 5 % of the bore ({bore:bore})", bore=piece.bore.si),
        )


def check_all(job: Job, catalogue: Catalogue) -> None:
    """Read every typed field of a job again, as if typed now.

    Raises
    ------
    BadQuantity, OutOfRange
        For the first field that could not have been typed, or whose SI value is not that of its text.
    """
    for path in [path for path in _all_paths(job) if path != "notes"]:
        field = spec_in(job, path, catalogue)
        stands = value_at(job, path)
        again = read(as_typed(stands), field, "metric")
        if isinstance(again, dict) and abs(again["si"] - stands["si"]) > 1e-6 * max(abs(stands["si"]), 1e-3):
            raise BadQuantity(
                later(
                    "{label}: the file says {stands:quoted} but means {stands2:g}.",
                    label=field.label,
                    stands=stands["typed"],
                    stands2=stands["si"],
                )
            )


def _all_paths(job: Job) -> list[str]:
    paths = [path for path in (*PLAIN, "climate", "air.like") if job.sky is not None or not path.startswith("sky.")]
    more = {"run": ("hose",), "outlets": ("hose",), "herd": ("kind",), "uses": ("crop",), "lot": ("panel",)}
    for place, fields in ROWS.items():
        if place == "own_pumps.points":
            continue
        for row in value_at(job, place):
            paths += [f"{place}.{row['id']}.{name}" for name in (*fields, *more.get(place, ()))]
    paths += [f"run.{piece.id}.fittings.{key}" for piece in job.run for key in piece.fittings]
    for pump in job.own_pumps:
        paths += [f"own_pumps.{pump.id}.points.{p.id}.{name}" for p in pump.points for name in ROWS["own_pumps.points"]]
    paths += [f"months.{month}" for month in range(12)]
    if job.air.months:
        paths += [f"air.months.{month}.{name}" for month in range(12) for name in AirMonth.model_fields]
    if job.sky is not None:
        paths += [f"sky.months.{month}.{name}" for month in range(12) for name in SKY_MONTH]
    return paths


__all__ = ["FieldSpec", "Typed", "as_typed", "edit", "read", "spec", "spec_in", "value_at", "with_value"]
