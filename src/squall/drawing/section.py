"""The long-section of a job: one SVG, to scale in height and schematic along, for every stage.

Heights are true: water, bank, pump, outlet and the hydraulic grade line stand on one scale.
Along the line, each piece of the run gets a share of the width by its length, none less than a
tenth. Every part is a link that opens its own panel. Colours and lines come from
``static/drawing.css``; shape and hatching carry the meaning without colour.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import lru_cache
from pathlib import Path

from markupsafe import Markup, escape

from squall.core.reason import Spoken
from squall.drawing.ground import ground_and_water, height_scale, level_doubt, lift_words, sun, water_part
from squall.drawing.kit import (
    box_part,
    cables,
    last_read,
    panel_part,
    panel_shape,
    pump_part,
    pump_shape,
    suspect_bars,
    test_points,
)
from squall.drawing.labels import Room
from squall.drawing.line import grade_line, hose, other_places, outlet_part, outlet_shape
from squall.drawing.sheet import Frame, Geometry, Sheet, Size, Sketch, frame_for
from squall.job.document.job import Job
from squall.job.document.remembered import Remembered
from squall.job.worked.assess import Assessment
from squall.words import say, voice

STATIC = Path(__file__).parent / "static"
# Sections and thumbnails that were drawn last.
_DRAWN: Remembered[Markup] = Remembered(128)
_THUMBNAILS: Remembered[Markup] = Remembered(128)


@dataclass(frozen=True)
class Over:
    """What is laid over a section.

    Attributes
    ----------
    suspects : mapping
        How likely the fault sits at each of its parts, which then carry a bar. [-]
    readings : mapping
        What was read last at a part, in words.
    """

    suspects: Mapping[str, float] = field(default_factory=dict)
    readings: Mapping[str, Spoken] = field(default_factory=dict)


def draw(
    job_id: int,
    name: str,
    a: Assessment,
    stage: str,
    *,
    size: Size,
    page: str = "",
    over: Over | None = None,
) -> Markup:
    """The long-section of a job through one stage's lens.

    Parameters
    ----------
    job_id : int
        For the links.
    name : str
        Of the job.
    a : Assessment
        The job worked out.
    stage : str
        Whose lens.
    page : str
        Key of the page beside it, whose places its parts lead to first.
    size : str
        ``wide`` for paper and files, ``beside`` for a laptop's column beside the work, ``narrow`` for a phone.
    over : Over, optional
        What is laid over it.

    Returns
    -------
    Markup
        An ``svg`` element.
    """
    if over is not None and (over.suspects or over.readings):
        return _drawn(job_id, name, a, stage, size, page, over)
    also = (job_id, name, stage, size, page, voice())
    return _DRAWN.get(a, also, lambda: _drawn(job_id, name, a, stage, size, page, Over()))


def _drawn(
    job_id: int, name: str, a: Assessment, stage: str, size: Size, page: str, over: Over
) -> Markup:  # fmt: skip
    frame = frame_for(a, stage, size)
    sheet = Sheet(job_id, stage, size[0], Room(frame.width, frame.height), page)
    _section(sheet, frame, a, over)
    sheet.settle()
    title = say("Long-section of {name}: {lift}", name=name, lift=lift_words(a))
    body = "".join(sheet.items)
    return Markup(
        f'<svg class="section lens-{escape(stage)} {size}" '
        f'viewBox="0 0 {frame.width:g} {frame.height:g}" role="group" aria-label="{escape(title)}" '
        f'xmlns="http://www.w3.org/2000/svg">{patterns(sheet.ident)}{body}</svg>'
    )


def draw_thumbnail(job_id: int, job: Job) -> Markup:
    """The long-section in small: no words, no links, nothing that has to be worked out."""
    return _THUMBNAILS.get(job, (job_id,), lambda: _thumbnail(job_id, job))


def _thumbnail(job_id: int, job: Job) -> Markup:
    a = Sketch(job)
    frame = frame_for(a, "thumb", "narrow")
    sheet = Sheet(job_id, "thumb", f"t{job_id}", Room(frame.width, frame.height))
    geometry = Geometry(frame, a)
    ground_and_water(sheet, frame, geometry, a)
    hose(sheet, frame, geometry, a, thumb=True)
    other_places(sheet, frame, geometry, a)
    outlet_shape(sheet, frame, geometry, a)
    pump_shape(sheet, *geometry.pump, 0.5)
    if job.option is not None:
        panel_shape(sheet, *geometry.panel, 0.45)
    return Markup(
        f'<svg class="section thumb" viewBox="0 0 {frame.width:g} {frame.height:g}" aria-hidden="true" '
        f'xmlns="http://www.w3.org/2000/svg">{patterns(sheet.ident)}{"".join(sheet.items)}</svg>'
    )


@lru_cache(maxsize=1)
def _style() -> str:
    return (STATIC / "drawing.css").read_text("utf8")


def draw_file(job_id: int, name: str, a: Assessment, stage: str) -> str:
    """The long-section as an SVG file that carries its own style."""
    svg = str(draw(job_id, name, a, stage, size="wide"))
    head, rest = svg.split(">", 1)
    return f'<?xml version="1.0" encoding="UTF-8"?>\n{head}><style>{_style()}</style>{rest}\n'


def patterns(ident: str) -> str:
    return (
        f'<defs><pattern id="earth-{ident}" width="9" height="9" patternUnits="userSpaceOnUse" '
        'patternTransform="rotate(35)"><line x1="0" y1="0" x2="0" y2="9" class="earth-line"/></pattern>'
        f'<pattern id="ripple-{ident}" width="22" height="8" patternUnits="userSpaceOnUse">'
        '<path d="M0 4 q5.5 -4 11 0 t11 0" class="ripple-line"/></pattern>'
        f'<pattern id="doubt-{ident}" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(-45)">'
        '<line x1="0" y1="0" x2="0" y2="6" class="doubt-line"/></pattern></defs>'
    )


def _section(sheet: Sheet, frame: Frame, a: Assessment, over: Over) -> None:
    geometry = Geometry(frame, a)
    if sheet.stage in ("power", "survey", "prove"):
        sun(sheet, frame, a)
    height_scale(sheet, frame, a)
    ground_and_water(sheet, frame, geometry, a)
    if sheet.stage == "lift":
        grade_line(sheet, frame, geometry, a)
    cables(sheet, frame, geometry, a)
    hose(sheet, frame, geometry, a, thumb=False)
    other_places(sheet, frame, geometry, a)
    level_doubt(sheet, frame, geometry, a)
    water_part(sheet, frame, geometry, a)
    outlet_part(sheet, frame, geometry, a)
    if a.chosen is not None:
        panel_part(sheet, frame, geometry, a)
        box_part(sheet, frame, geometry, a)
    pump_part(sheet, frame, geometry, a)
    if sheet.stage == "prove" and a.chosen is not None:
        test_points(sheet, frame, geometry, a)
    suspect_bars(sheet, frame, geometry, over.suspects)
    last_read(sheet, geometry, over.readings)
