"""Rendering: templates, a person's units and theme, and the context that every page shares."""

import json
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import lru_cache
from hashlib import sha256
from pathlib import Path
from sqlite3 import Connection
from typing import Any, cast

from fastapi import Request
from fastapi.responses import HTMLResponse
from jinja2 import Environment, PackageLoader, StrictUndefined, select_autoescape
from markupsafe import Markup

from squall.core.explain import Figure
from squall.core.kit.parts import SOURCE_WORDS
from squall.core.years.typical import month_name
from squall.drawing.section import STATIC as DRAWING
from squall.store.database import connect
from squall.words.units import KINDS, System, number_text, scale, shown, text

STATIC = Path(__file__).parent.parent / "static"
THEMES = ("light", "dark", "sun")
UNIT_COOKIE, THEME_COOKIE, TAB_HEADER = "squall_units", "squall_theme", "x-squall-tab"


@dataclass(frozen=True)
class Prefs:
    """What one person prefers: units, theme; and which tab is asking."""

    units: System
    theme: str
    who: str


def prefs_of(request: Request) -> Prefs:
    """Preferences from the cookies of a request."""
    units = request.cookies.get(UNIT_COOKIE, "metric")
    theme = request.cookies.get(THEME_COOKIE, "light")
    return Prefs(
        cast(System, units if units in ("metric", "us") else "metric"),
        theme if theme in THEMES else "light",
        request.headers.get(TAB_HEADER, "this person")[:40],
    )


def database(request: Request) -> Iterator[Connection]:
    """A connection for one request."""
    conn = connect(request.app.state.settings.database)
    try:
        yield conn
    finally:
        conn.close()


@lru_cache(maxsize=1)
def environment() -> Environment:
    """The templates, with autoescape and no silent gaps."""
    env = Environment(
        loader=PackageLoader("squall.web", "templates"),
        autoescape=select_autoescape(),
        undefined=StrictUndefined,
        trim_blocks=True,
        lstrip_blocks=True,
    )
    env.globals["asset"] = asset
    env.filters["slug"] = lambda path: str(path).replace(".", "-").replace(":", "-").replace("/", "-")
    env.filters["plain"] = number_text
    env.filters["ident"] = id
    env.filters["tojson_attr"] = lambda value: json.dumps(value, ensure_ascii=False, allow_nan=False)
    return env


@lru_cache(maxsize=64)
def asset(name: str) -> str:
    """Address of a static file, with a mark that changes with its content."""
    folder = next(folder for folder in (STATIC, DRAWING) if (folder / name).is_file())
    mark = sha256((folder / name).read_bytes()).hexdigest()[:10]
    return f"/static/{name}?v={mark}"


def speaker(units: System) -> Mapping[str, Any]:
    """Functions that show quantities in a person's own units, for the templates."""

    def qty(value: float | None, kind: str) -> Markup:
        if value is None:
            return Markup('<span class="none">not promised</span>')
        if kind == "money":
            return Markup("<b>{}</b>").format(number_text(value))
        if kind == "days":
            return Markup('<b>{}</b><span class="unit"> d</span>').format(number_text(value))
        number, sign = shown(value, kind, units)
        gap = "" if sign in ("°", "") else "\u00a0"
        return Markup('<b>{}</b><span class="unit">{}{}</span>').format(number, gap, sign)

    def say(value: float | str | None, kind: str) -> str:
        if value is None:
            return "not stated"
        if isinstance(value, str) or kind in ("text",):
            return str(value)
        if kind in ("money", "days"):
            return number_text(value) + (" days" if kind == "days" else "")
        return text(value, kind, units)

    return {
        "qty": qty, "say": say, "clock": clock, "signed": signed, "month_of": month_name, "source_words": SOURCE_WORDS,
    }  # fmt: skip


def clock(hours: float | None) -> str:
    """Hours of the day as a clock shows them: 7.25 is 07:15."""
    if hours is None:
        return "never"
    minutes = round(hours * 60)
    return f"{minutes // 60:02d}:{minutes % 60:02d}"


def signed(value: float) -> str:
    """A whole number with its sign, for changes of price."""
    rounded = round(value)
    if rounded == 0:
        return "no change"
    sign = "+" if rounded > 0 else "\u2212"
    return sign + f"{abs(rounded):,}".replace(",", "\u202f")


def page(request: Request, template: str, context: Mapping[str, Any], status: int = 200) -> HTMLResponse:
    """Render a template with what every page shares.

    Parameters
    ----------
    request : Request
        For preferences and the key that changes carry.
    template : str
        Its name.
    context : mapping
        What it shows.
    status : int
        HTTP status.

    Returns
    -------
    HTMLResponse
        Never cached: the job may change at any moment.
    """
    prefs = prefs_of(request)
    shared = {
        "prefs": prefs,
        "key": request.app.state.settings.key,
        "demo": request.app.state.settings.demo,
        "here": request.url.path,
        **speaker(prefs.units),
    }
    body = environment().get_template(template).render({**shared, **context})
    return HTMLResponse(body, status, headers={"cache-control": "no-store"})


def chart_number(value: float, kind: str, units: System) -> float:
    """A value as a bare number in a person's units, for charts."""
    factor, offset = scale(kind, KINDS[kind].metric if units == "metric" else KINDS[kind].us)
    return round(float(value) * factor + offset, 4)


def figure_map(figures: list[Figure]) -> dict[str, Figure]:
    """Figures by key."""
    return {figure.key: figure for figure in figures}
