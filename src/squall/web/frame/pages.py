"""Rendering: templates, a person's units and theme, and the context that every page shares."""

import json
import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cache, lru_cache
from hashlib import sha256
from pathlib import Path
from sqlite3 import Connection
from typing import Annotated, Any, cast

from fastapi import Request, Response
from fastapi.responses import HTMLResponse
from jinja2 import Environment, PackageLoader, StrictUndefined, select_autoescape
from markupsafe import Markup, escape
from pydantic import Field

from squall import words
from squall.core.errors import Busy, CantWrite, NotFound, SquallError
from squall.core.explain import Figure
from squall.core.kit.parts import SOURCE_WORDS
from squall.core.kit.setup import Setup
from squall.core.reason import Spoken, Told
from squall.drawing.section import STATIC as DRAWING
from squall.job.document.base import own
from squall.job.document.specs import ROWS
from squall.job.stages import MAIN
from squall.store.folder.database import connect
from squall.web.frame.plain_text import PlainTextEnvironment
from squall.web.frame.script_words import script_words
from squall.words.calendar import MONTHS, SHORT_MONTHS, month_name
from squall.words.figures import figure_names
from squall.words.forms import own_sizes
from squall.words.glossary import GLOSSARY
from squall.words.message import Voice, languages, voice
from squall.words.units import KINDS, System, number_text, scale, shown, text

STATIC = Path(__file__).parent.parent / "static"
# The number of a row, as far as the database counts.
RowId = Annotated[int, Field(ge=0, le=2**63 - 1)]
THEMES = ("light", "dark", "sun")
UNIT_COOKIE, THEME_COOKIE, LANGUAGE_COOKIE, TAB_HEADER = (
    "squall_units",
    "squall_theme",
    "squall_language",
    "x-squall-tab",
)

OPENED_COOKIE, MOST_OPENED, A_YEAR_S = "squall_opened", 60, 31_536_000


@dataclass(frozen=True)
class Prefs:
    """What one person prefers: units, theme, language; and which tab is asking."""

    units: System
    theme: str
    who: str
    language: str = "en"


def voice_of(request: Request) -> Voice:
    """How the person of a request is spoken to, by cookies."""
    units = request.cookies.get(UNIT_COOKIE, "metric")
    language = request.cookies.get(LANGUAGE_COOKIE, "en")
    return Voice(
        cast(System, units if units in ("metric", "us") else "metric"), language if language in languages() else "en"
    )


def prefs_of(request: Request) -> Prefs:
    """Preferences from the cookies of a request."""
    spoken = voice_of(request)
    theme = request.cookies.get(THEME_COOKIE, "light")
    who = request.headers.get(TAB_HEADER, "this person")[:40]
    session = getattr(request.state, "session", None)
    if session is not None and session.who:
        # The person first: so an undo stays each tab's own, and history tells who it was.
        who = f"{session.who}, {who}"
    return Prefs(spoken.units, theme if theme in THEMES else "light", who, spoken.language)


def tab_of(request: Request) -> str | None:
    """Which tab asks; None for a page that is loaded whole: it doesn't know its tab yet, and shows what anybody's undo would."""
    return prefs_of(request).who if TAB_HEADER in request.headers else None


def of_port(request: Request, name: str) -> str:
    """A cookie's name with the port in it at which the browser came: two that run on one machine share its jar."""
    port = re.search(r":(\d{1,5})$", request.headers.get("host", ""))
    return name if port is None else f"{name}_{port[1]}"


def opened_by(request: Request) -> list[int]:
    """Numbers of the jobs that this browser opened last, the newest first."""
    kept = request.cookies.get(of_port(request, OPENED_COOKIE), "")
    return [int(number) for number in kept.split(".")[:MOST_OPENED] if number.isascii() and number.isdecimal()]


def note_opened(request: Request, answer: Response, job_id: int) -> None:
    """Remember, in this browser alone, that a job was opened just now."""
    before = opened_by(request)
    if before[:1] != [job_id]:
        now = [job_id, *(number for number in before if number != job_id)][:MOST_OPENED]
        name, kept = of_port(request, OPENED_COOKIE), ".".join(map(str, now))
        answer.set_cookie(name, kept, max_age=A_YEAR_S, samesite="strict", httponly=True)


def status_of(error: SquallError) -> int:
    """HTTP status that tells what kind of refusal an error is."""
    known = {Busy: 503, CantWrite: 507, NotFound: 404}
    return next((status for kind, status in known.items() if isinstance(error, kind)), 422)


def refusal_of(error: SquallError) -> int:
    """HTTP status of a change that was refused in its own place: what is missing there is no page that is missing."""
    status = status_of(error)
    return 422 if status == 404 else status


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
    env = PlainTextEnvironment(
        loader=PackageLoader("squall.web", "templates"),
        autoescape=select_autoescape(),
        undefined=StrictUndefined,
        trim_blocks=True,
        lstrip_blocks=True,
        auto_reload=False,
    )
    env.globals["asset"] = asset
    env.globals["Setup"] = Setup
    env.globals["script_words"] = script_words
    env.globals["every_stage"] = MAIN
    env.globals["limits"] = limits
    env.globals["glossary"] = GLOSSARY
    env.globals["row_specs"] = ROWS
    env.globals |= {"month_names": MONTHS, "short_months": SHORT_MONTHS}
    env.filters["slug"] = lambda path: str(path).replace(".", "-").replace(":", "-").replace("/", "-")
    env.filters["plain"] = number_text
    # As it is read out: the very words that are seen, with plain spaces.
    env.filters["heard"] = lambda said: str(said).replace("\u00a0", " ")
    env.filters["ident"] = id
    env.filters["thousands"] = lambda n: f"{n:,}".replace(",", "\u202f")
    env.filters["own"] = own
    env.filters["sizes"] = own_sizes
    env.filters["figures"] = figure_names
    env.filters["capital"] = lambda said: str(said)[:1].upper() + str(said)[1:]
    env.filters["tojson_attr"] = lambda value: json.dumps(value, ensure_ascii=False, allow_nan=False, default=str)
    return env


@cache
def limits() -> Mapping[str, float]:
    """Figures of the core that a page's prose names; loaded when a page first asks."""
    from squall.core.advice.overdrive import DROP_OUT_V
    from squall.core.drive.mismatch import BYPASS_V
    from squall.core.kit.kit import TOUCH_LIMIT_V
    from squall.core.sky.frost import NIGHT_SPREAD_K
    from squall.job.told.sun import SHADED_W_M2

    return {
        "bypass_v": -BYPASS_V, "drop_out_v": DROP_OUT_V, "touch_v": TOUCH_LIMIT_V, "night_k": NIGHT_SPREAD_K,
        "shaded_w_m2": SHADED_W_M2,
    }  # fmt: skip


@lru_cache(maxsize=64)
def asset(name: str) -> str:
    """Address of a static file, with a mark that changes with its content."""
    folder = next(folder for folder in (STATIC, DRAWING) if (folder / name).is_file())
    mark = sha256((folder / name).read_bytes()).hexdigest()[:10]
    return f"/static/{name}?v={mark}"


def speaker() -> Mapping[str, Any]:
    """Functions that show quantities in a person's own units, for the templates."""

    def qty(value: float | None, kind: str) -> Markup:
        if value is None:
            return Markup('<span class="none">not promised</span>')
        if kind == "money":
            return Markup(f"<b>{escape(number_text(value))}</b>")
        if kind == "days":
            return Markup(f'<b>{escape(number_text(value))}</b> <span class="unit">d</span>')
        number, sign = shown(value, kind)
        gap = "" if sign in ("°", "") else "\u00a0"
        return Markup(f'<b>{escape(number)}</b>{gap}<span class="unit">{escape(sign)}</span>')

    def say(value: float | Spoken | None, kind: str) -> str:
        if value is None:
            return words.say("not stated")
        if isinstance(value, str | Told) or kind in ("text",):
            return str(value)
        if kind in ("money", "days"):
            return number_text(value) + (words.say(" days") if kind == "days" else "")
        return text(value, kind)

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
        return words.say("no change")
    sign = "+" if rounded > 0 else "\u2212"
    return sign + f"{abs(rounded):,}".replace(",", "\u202f")


def file_name(name: str, ending: str) -> str:
    """A job's name as a file's."""
    plain = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-") or "job"
    return f"{plain}.{ending}"


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
        "compiles": request.app.state.compiles,
        "here": request.url.path,
        "looks_on": getattr(getattr(request.state, "session", None), "looks_on", False),
        **speaker(),
    }
    body = environment().get_template(template).render({**shared, **context})
    return HTMLResponse(body, status, headers={"cache-control": "no-store"})


def chart_number(value: float, kind: str) -> float:
    """A value as a bare number in a person's units, for charts."""
    factor, offset = scale(kind, KINDS[kind].us if voice().units == "us" else KINDS[kind].metric)
    return round(float(value) * factor + offset, 4)


def figure_map(figures: list[Figure]) -> dict[str, Figure]:
    """Figures by key."""
    return {figure.key: figure for figure in figures}
