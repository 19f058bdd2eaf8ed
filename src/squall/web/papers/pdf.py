"""A paper as a PDF file: the very document of the page, laid out without a browser."""

import logging
import re
from typing import Any

from markupsafe import Markup

from squall.core.errors import SquallError
from squall.core.reason import Spoken
from squall.core.upkeep.cards import Family
from squall.drawing.section import STATIC as DRAWING
from squall.drawing.small.cards import card_picture
from squall.drawing.small.steps import STEPS_BEGIN, step_picture
from squall.store.jobs import Stored
from squall.web.frame.pages import STATIC, environment, speaker
from squall.web.papers.beside import NOTHING, Beside
from squall.web.papers.content import paper_of
from squall.words import later

_HALO = re.compile(r"paint-order: stroke; stroke: #fffdf8; stroke-width: \dpx;")
_OWN_SIZE = re.compile(r" (?:width|height)=\"\d+\"")
_FALLBACK = re.compile(r"var\(--[a-z-]+,\s*([^)]+)\)")


# The small course of the board, black on paper.
COURSE_STYLE = (
    ".course-line { fill: none; stroke: #000; stroke-width: 1.6; } .course-full { stroke: #000; stroke-dasharray: 4 3; } "
    ".course-foot { stroke: #888; }"
)


class NoPdf(SquallError):
    """This machine can't lay out PDF files."""


def drawing_style() -> str:
    """The drawing's own style with its plain colours: inside a drawing no variables reach."""
    style = _FALLBACK.sub(r"\1", (DRAWING / "drawing.css").read_text("utf8"))
    # A letter's halo is drawn over the letter here, and would hide it.
    return _HALO.sub("stroke: none;", style)


def _with_style(svg: object, style: str = "") -> str:
    """A drawing that carries its style and fills its room: by its own width it would be laid out too tall."""
    head, sign, rest = str(svg).partition(">")
    return f"{_OWN_SIZE.sub('', head)}{sign}<style>{style or drawing_style()}</style>{rest}" if sign else ""


def _step_picture(key: str, figure: Spoken) -> Markup:
    """A step's picture with the style of such pictures alone: a sheet has a dozen of them."""
    return Markup(_with_style(step_picture(key, figure), drawing_style().partition(STEPS_BEGIN)[2].partition("*/")[2]))


def _card_picture(family: Family) -> Markup:
    return Markup(_with_style(card_picture(family), drawing_style().partition(STEPS_BEGIN)[2].partition("*/")[2]))


def paper_pdf(stored: Stored, kind: str, beside: Beside = NOTHING) -> bytes:
    """A paper of a job as a PDF file, in the voice of whoever asks.

    Parameters
    ----------
    stored : Stored
        The job.
    kind : str
        Key of :data:`squall.web.papers.content.PAPERS`.

    beside : Beside
        What the database adds.

    Raises
    ------
    NoPdf
        If the machine lacks the libraries that lay text out.
    """
    context: dict[str, Any] = {**speaker(), **paper_of(stored, kind, beside)}
    drawn = {"drawing_svg": _with_style(context["drawing"]), "circuit_svg": Markup(_with_style(context.get("circuit", ""))), "picture": _step_picture, "card_picture": _card_picture, "course": Markup(_with_style(context.get("course", ""), COURSE_STYLE)), "style": (STATIC / "paper.css").read_text("utf8")}  # fmt: skip
    html = environment().get_template("papers/pdf.html").render({**context, **drawn})
    try:
        logging.getLogger("weasyprint").setLevel(logging.ERROR)
        from weasyprint import HTML
        from weasyprint.urls import URLFetcher
    except OSError as error:
        raise NoPdf(
            later("This machine can't make PDF files: it lacks Pango, which lays the text out. Print the page from the browser instead, or install Pango.")
        ) from error  # fmt: skip
    # Only the typeface that ships with Squall is read, from its own folder; nothing comes from a network.
    fetcher = URLFetcher(allowed_protocols=("file",), allow_redirects=False)
    return bytes(HTML(string=html, base_url=STATIC.as_uri() + "/", url_fetcher=fetcher).write_pdf())
