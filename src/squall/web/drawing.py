"""The long-section of a job: one SVG, to scale in height and schematic along, for every stage.

Heights are true: water, bank, pump, outlet and the hydraulic grade line stand on one scale.
Along the line, each piece of the run gets a share of the width by its length, none less than a
tenth. Every part is a link that opens its own panel. Colours and lines come from
``static/drawing.css``; shape and hatching carry the meaning without colour.
"""

import itertools
from dataclasses import dataclass
from functools import lru_cache
from math import ceil, log10
from pathlib import Path

from markupsafe import Markup, escape

from squall.core.sun import AVERAGE
from squall.job.assess import Assessment, KitAssessment
from squall.job.document import Job
from squall.units import KINDS, System, scale, text

STATIC = Path(__file__).parent / "static"
PART_STAGE = {
    "water": "survey", "lift": "survey", "run": "survey", "pump": "lift", "panel": "power", "box": "wire",
    "outlet": "need", "cable-pump": "wire", "cable-array": "wire",
}  # fmt: skip


@dataclass(frozen=True)
class Frame:
    """The sheet: size, margins, and the scale of heights."""

    width: float
    height: float
    left: float
    right: float
    top: float
    bottom: float
    low_m: float
    high_m: float
    narrow: bool

    def y(self, height_m: float) -> float:
        """Where a height above the pumping water level lies."""
        span = self.high_m - self.low_m
        return self.top + (self.high_m - height_m) / span * (self.height - self.top - self.bottom)

    def x(self, share: float) -> float:
        """Where a share of the way from water (0) to outlet (1) lies."""
        return self.left + share * (self.width - self.left - self.right)


def _frame(a: "Assessment | _Sketch", stage: str, narrow: bool) -> Frame:
    job = a.job
    top = max(job.lift.si, job.rim.si, 0.5)
    if a.chosen is not None and stage == "lift":
        top = max(top, min(_head_at_pump(a.chosen), 2.2 * top))
    below = max(job.pump_depth.si + 0.12 * top, 0.16 * top)
    if stage == "thumb":
        return Frame(200, 84, 22, 34, 22, 6, -below, top * 1.05, True)
    sunny = stage in ("survey", "power", "prove")
    if narrow:
        return Frame(380, 330 if sunny else 296, 74, 46, 84 if sunny else 50, 30, -below, top * 1.02, True)
    return Frame(1180, 292 if sunny else 268, 150, 190, 66 if sunny else 42, 26, -below, top * 1.02, False)


def _head_at_pump(chosen: KitAssessment) -> float:
    flow = chosen.rated.flow_m3_s or chosen.rated.flow_at_least_m3_s or 0.0
    return chosen.layout.line(chosen.kit.hose).head_m(flow) if flow else 0.0


class Sheet:
    """Collects SVG elements; every text is escaped here."""

    def __init__(self, job_id: int, stage: str, ident: str) -> None:
        self.job_id = job_id
        self.stage = stage
        self.ident = ident
        self.items: list[str] = []

    def add(self, tag: str, **attributes: object) -> None:
        """One empty element; underscores in names become dashes."""
        self.items.append(f"<{tag} {self._attributes(attributes)}/>")

    @staticmethod
    def _attributes(attributes: dict[str, object]) -> str:
        def show(value: object) -> str:
            return f"{value:.1f}".rstrip("0").rstrip(".") if isinstance(value, float) else str(escape(str(value)))

        return " ".join(f'{name.rstrip("_").replace("_", "-")}="{show(value)}"' for name, value in attributes.items())

    def words(self, x: float, y: float, words: str, cls: str = "", anchor: str = "start") -> None:
        """A line of text."""
        self.items.append(
            f'<text x="{x:.1f}" y="{y:.1f}" class="{escape(cls)}" text-anchor="{anchor}">{escape(words)}</text>'
        )

    def open_part(self, part: str, label: str, stage: str | None = None) -> None:
        """Begin a part that can be clicked and reached by Tab."""
        here = HERE.get(self.stage, {}) if stage is None else {}
        target = stage or (self.stage if part in here else PART_STAGE[part.split(":")[0]])
        anchor = here.get(part, part.replace(":", "-"))
        self.items.append(
            f'<a href="/jobs/{self.job_id}/{target}#part-{escape(anchor)}" class="part part-{escape(part.split(":")[0])}" '
            f'aria-label="{escape(label)}"><title>{escape(label)}</title>'
        )

    def close_part(self) -> None:
        """End of a part."""
        self.items.append("</a>")


# Parts whose panel is on the stage itself, with its anchor, so that a click stays there.
HERE: dict[str, dict[str, str]] = {
    "survey": {"water": "water", "lift": "lift"},
    "need": {"outlet": "outlet"},
    "lift": {"pump": "pump"},
    "power": {"panel": "panel"},
    "wire": {"cable-pump": "cable-pump", "cable-array": "cable-array", "box": "box"},
    "prove": {"panel": "open-volts", "pump": "pump-volts", "outlet": "outlet-flow"},
}


def draw(job_id: int, a: Assessment, stage: str, units: System, *, narrow: bool) -> Markup:
    """The long-section of a job through one stage's lens.

    Parameters
    ----------
    job_id : int
        For the links.
    a : Assessment
        The job worked out.
    stage : str
        Whose lens.
    units : str
        ``metric`` or ``us``.
    narrow : bool
        For a phone's width.

    Returns
    -------
    Markup
        An ``svg`` element.
    """
    frame = _frame(a, stage, narrow)
    sheet = Sheet(job_id, stage, "n" if narrow else "w")
    _section(sheet, frame, a, units)
    title = f"Long-section of {a.job.name}: lift {text(a.job.lift.si, 'head', units)}"
    body = "".join(sheet.items)
    return Markup(
        f'<svg class="section lens-{escape(stage)} {"narrow" if narrow else "wide"}" '
        f'viewBox="0 0 {frame.width:g} {frame.height:g}" role="group" aria-label="{escape(title)}" '
        f'xmlns="http://www.w3.org/2000/svg">{_patterns(sheet.ident)}{body}</svg>'
    )


@dataclass(frozen=True)
class _Sketch:
    """A job with nothing worked out: enough for a thumbnail."""

    job: Job
    chosen: None = None


def draw_thumbnail(job_id: int, job: Job, units: System) -> Markup:
    """The long-section in small: no words, no links, nothing that has to be worked out."""
    a = _Sketch(job)
    frame = _frame(a, "thumb", narrow=True)
    sheet = Sheet(job_id, "thumb", f"t{job_id}")
    geometry = _Geometry(frame, a)
    _ground_and_water(sheet, frame, geometry, a)
    _hose(sheet, frame, geometry, a, units, thumb=True)
    _outlet_shape(sheet, frame, geometry, a)
    _pump_shape(sheet, *geometry.pump, 0.5)
    if job.option is not None:
        _panel_shape(sheet, *geometry.panel, 0.45)
    return Markup(
        f'<svg class="section thumb" viewBox="0 0 {frame.width:g} {frame.height:g}" aria-hidden="true" '
        f'xmlns="http://www.w3.org/2000/svg">{_patterns(sheet.ident)}{"".join(sheet.items)}</svg>'
    )


@lru_cache(maxsize=1)
def _style() -> str:
    return (STATIC / "drawing.css").read_text("utf8")


def draw_file(job_id: int, a: Assessment, stage: str, units: System) -> str:
    """The long-section as an SVG file that carries its own style."""
    svg = str(draw(job_id, a, stage, units, narrow=False))
    head, rest = svg.split(">", 1)
    return f'<?xml version="1.0" encoding="UTF-8"?>\n{head}><style>{_style()}</style>{rest}\n'


def _patterns(ident: str) -> str:
    return (
        f'<defs><pattern id="earth-{ident}" width="9" height="9" patternUnits="userSpaceOnUse" '
        'patternTransform="rotate(35)"><line x1="0" y1="0" x2="0" y2="9" class="earth-line"/></pattern>'
        f'<pattern id="ripple-{ident}" width="22" height="8" patternUnits="userSpaceOnUse">'
        '<path d="M0 4 q5.5 -4 11 0 t11 0" class="ripple-line"/></pattern></defs>'
    )


class _Geometry:
    """Where everything stands on one sheet."""

    def __init__(self, frame: Frame, a: "Assessment | _Sketch") -> None:
        job = a.job
        self.frame = frame
        self.loop = job.outlet == "loop"
        self.shaft = job.water in ("well", "cistern")
        self.water_y = frame.y(0.0)
        self.rim_y = frame.y(job.rim.si)
        self.top_y = frame.y(job.lift.si)
        self.x0, self.x1 = frame.x(0.0), frame.x(1.0)
        self.rim_x = frame.x(0.10 if self.shaft else 0.17)
        self.pump_x = frame.x(0.02)
        self.pump = (self.pump_x, frame.y(-job.pump_depth.si))
        self.ground_end_y = min(self.top_y + (20.0 if job.outlet == "open" else 26.0), frame.height - frame.bottom)
        share = 0.42 if not frame.narrow else 0.5
        self.panel_x = frame.x(share)
        self.panel = (self.panel_x, self.ground_y(self.panel_x))

    def ground_y(self, x: float) -> float:
        """Ground's height on the sheet: a smooth slope from the rim to the outlet."""
        if x <= self.rim_x:
            return self.rim_y
        t = min((x - self.rim_x) / max(self.x1 - self.rim_x, 1.0), 1.0)
        eased = t * t * (3.0 - 2.0 * t)
        return self.rim_y + eased * (self.ground_end_y - self.rim_y)

    def hose_points(self) -> list[tuple[float, float]]:
        """The hose from pump to outlet as points."""
        points = [self.pump, (self.pump_x, self.water_y)]
        if self.shaft:
            points += [(self.pump_x, self.rim_y - 7.0), (self.rim_x, self.rim_y - 7.0)]
        else:
            points += [(self.rim_x, self.rim_y - 5.0)]
        for step in range(1, 13):
            x = self.rim_x + (self.x1 - 16.0 - self.rim_x) * step / 12.0
            points.append((x, self.ground_y(x) - 5.0))
        points.append((self.x1 - 8.0, self.top_y))
        points.append((self.x1, self.top_y))
        return points


def _section(sheet: Sheet, frame: Frame, a: Assessment, units: System) -> None:
    geometry = _Geometry(frame, a)
    if sheet.stage in ("power", "survey", "prove"):
        _sun(sheet, frame, a, units)
    _height_scale(sheet, frame, a, units)
    _ground_and_water(sheet, frame, geometry, a)
    if sheet.stage == "lift":
        _grade_line(sheet, frame, geometry, a, units)
    _cables(sheet, frame, geometry, a, units)
    _hose(sheet, frame, geometry, a, units, thumb=False)
    _water_part(sheet, frame, geometry, a, units)
    _outlet_part(sheet, frame, geometry, a, units)
    if a.chosen is not None:
        _panel_part(sheet, frame, geometry, a, units)
        _box_part(sheet, frame, geometry, a)
    _pump_part(sheet, frame, geometry, a, units)
    if sheet.stage == "prove" and a.chosen is not None:
        _test_points(sheet, frame, geometry, a)


def _height_scale(sheet: Sheet, frame: Frame, a: Assessment, units: System) -> None:
    """A staff at the left with ticks at round heights, 0 at the pumping water level."""
    x = 34.0 if frame.narrow else 52.0
    factor, _ = scale("head", KINDS["head"].metric if units == "metric" else KINDS["head"].us)
    sign = KINDS["head"].metric_sign if units == "metric" else KINDS["head"].us_sign
    step = _round_step((frame.high_m - frame.low_m) * factor / (5 if frame.narrow else 6))
    sheet.add("line", x1=x, x2=x, y1=frame.y(frame.high_m), y2=frame.y(frame.low_m), class_="staff")
    first = ceil(frame.low_m * factor / step)
    number = first
    while number * step <= frame.high_m * factor + 1e-9:
        y = frame.y(number * step / factor)
        sheet.add("line", x1=x - (8 if number % 2 == 0 else 5), x2=x, y1=y, y2=y, class_="staff")
        sheet.words(x - 11, y + 4, f"{number * step:g}".replace("-", "\u2212"), "staff-words", "end")
        number += 1
    sheet.words(x, frame.y(frame.high_m) - 8, sign, "staff-words", "middle")


def _round_step(rough: float) -> float:
    size = 10.0 ** int(log10(rough) if rough >= 1 else log10(rough) - 1)
    return next(m * size for m in (1, 2, 5, 10) if m * size >= rough * 0.999)


def _ground_and_water(sheet: Sheet, frame: Frame, g: _Geometry, a: "Assessment | _Sketch") -> None:
    floor = frame.height - 2.0
    left = g.x0 - (40.0 if not frame.narrow else 26.0)
    if sheet.stage == "thumb":
        left = 2.0
    bed_y = min(frame.y(frame.low_m) - 2.0, floor - 6.0)
    steps = [g.rim_x + (g.x1 + 60.0 - g.rim_x) * n / 16.0 for n in range(17)]
    edge = (
        " L".join(f"{min(x, frame.width):.1f} {g.ground_y(x):.1f}" for x in steps)
        + f" L{frame.width:.1f} {g.ground_end_y:.1f}"
    )
    if g.shaft:
        wall = g.rim_x - 8.0
        path = (
            f"M{left:.1f} {g.rim_y:.1f} L{g.x0 - 16:.1f} {g.rim_y:.1f} L{g.x0 - 16:.1f} {bed_y:.1f} L{wall:.1f} {bed_y:.1f} "
            f"L{wall:.1f} {g.rim_y:.1f} L{edge} L{frame.width:.1f} {floor} L{left:.1f} {floor} Z"
        )
        water = (g.x0 - 16.0, wall)
    else:
        path = (
            f"M{left:.1f} {g.rim_y:.1f} L{left + 6:.1f} {bed_y:.1f} L{g.rim_x - 40:.1f} {bed_y:.1f} "
            f"Q{g.rim_x - 14:.1f} {bed_y:.1f} {g.rim_x:.1f} {g.rim_y:.1f} L{edge} L{frame.width:.1f} {floor} "
            f"L{left:.1f} {floor} Z"
        )
        if sheet.stage == "thumb":
            water = (left + 4.0, g.rim_x - 6.0)
        else:
            water = (left + 3.0, g.rim_x - 12.0)
    sheet.add("path", d=path, class_="earth", fill=f"url(#earth-{sheet.ident})")
    sheet.add("rect", x=water[0], y=g.water_y, width=max(water[1] - water[0], 8.0), height=max(bed_y - g.water_y, 3.0),
              class_="water")  # fmt: skip
    sheet.add("rect", x=water[0], y=g.water_y, width=max(water[1] - water[0], 8.0), height=max(bed_y - g.water_y, 3.0),
              fill=f"url(#ripple-{sheet.ident})")  # fmt: skip
    sheet.add("line", x1=water[0], x2=water[1], y1=g.water_y, y2=g.water_y, class_="water-level")


def _water_part(sheet: Sheet, frame: Frame, g: _Geometry, a: Assessment, units: System) -> None:
    job = a.job
    label = f"Water: {text(job.water_temperature.si, 'temperature', units)}, pumping level is height 0"
    sheet.open_part("water", label)
    sheet.add(
        "rect",
        x=g.x0 - 36,
        y=g.water_y - 3,
        width=30.0,
        height=max(frame.height - g.water_y - 20, 14.0),
        class_="touch",
    )
    sheet.add("path", d=f"M{g.x0 - 26:.1f} {g.water_y - 9:.1f} l8 0 l-4 7 z", class_="level-mark")
    sheet.close_part()
    if sheet.stage == "survey":
        x = (g.x1 + 26.0) if not frame.narrow else g.x1 + 14.0
        sheet.open_part("lift", f"Lift {text(job.lift.si, 'head', units)}")
        sheet.add("line", x1=g.rim_x + 8, x2=x + 4, y1=g.water_y, y2=g.water_y, class_="datum")
        sheet.add("line", x1=x, x2=x, y1=g.top_y, y2=g.water_y, class_="measure")
        sheet.add(
            "path",
            d=f"M{x - 4:.1f} {g.top_y + 8:.1f} L{x:.1f} {g.top_y:.1f} L{x + 4:.1f} {g.top_y + 8:.1f}",
            class_="measure",
        )
        sheet.add("path", d=f"M{x - 4:.1f} {g.water_y - 8:.1f} L{x:.1f} {g.water_y:.1f} L{x + 4:.1f} {g.water_y - 8:.1f}",
                  class_="measure")  # fmt: skip
        words_y = (g.top_y + g.water_y) / 2 + 4
        if frame.narrow:
            sheet.words(x - 5, words_y, f"lift {text(job.lift.si, 'head', units)}", "measure-words", "end")
        else:
            sheet.words(x + 8, words_y, f"lift {text(job.lift.si, 'head', units)}", "measure-words")
        sheet.close_part()


def _piece_shares(a: "Assessment | _Sketch") -> list[float]:
    lengths = [max(piece.length.si, 0.0) for piece in a.job.run]
    total = sum(lengths)
    if total <= 0.0:
        return [1.0 / len(lengths)] * len(lengths)
    raw = [max(length / total, 0.1) for length in lengths]
    return [value / sum(raw) for value in raw]


def _hose(sheet: Sheet, frame: Frame, g: _Geometry, a: "Assessment | _Sketch", units: System, *, thumb: bool) -> None:
    points = g.hose_points()
    if g.loop:
        points = [*points, (g.x1 - 6.0, g.ground_y(g.x1 - 30) + 6.0)]
    lengths = [((x2 - x1) ** 2 + (y2 - y1) ** 2) ** 0.5 for (x1, y1), (x2, y2) in itertools.pairwise(points)]
    total = sum(lengths)
    worst = _worst_piece(a)
    start = 0.0
    for number, (piece, share) in enumerate(zip(a.job.run, _piece_shares(a), strict=True)):
        part = _cut(points, lengths, start * total, (start + share) * total)
        start += share
        d = "M" + " L".join(f"{x:.1f} {y:.1f}" for x, y in part)
        hose = a.chosen.kit.hose if a.chosen is not None and not piece.fixed else None
        bore = hose.inner_diameter_m if hose is not None else piece.bore.si
        width = min(max(bore * 1000 / 6.0, 2.0), 7.0)
        if thumb:
            sheet.add("path", d=d, class_="hose", stroke_width=2.0, fill="none")
            continue
        loss = ""
        costly = ""
        if a.chosen is not None and sheet.stage == "lift":
            lost = a.chosen.piece_losses[number].head_loss_m
            loss = f", loses {text(lost, 'head', units)}"
            costly = " costly" if number == worst and lost > 0.0 else ""
        size = text(bore, "bore", units)
        sheet.open_part(
            f"run:{piece.id}", f"{piece.name}: {text(piece.length.si, 'length', units)} of {size} bore{loss}", "survey"
        )
        sheet.add("path", d=d, class_="hose-touch", fill="none")
        sheet.add("path", d=d, class_=f"hose{costly}", stroke_width=width, fill="none")
        middle = part[len(part) // 2]
        if sheet.stage in ("survey", "lift", "kits") and (not frame.narrow or len(a.job.run) == 1 or costly):
            words = f"{text(piece.length.si, 'length', units)}, {size}{loss.replace(', loses', ' loses')}"
            last = number == len(a.job.run) - 1 and number > 0
            if frame.narrow:
                sheet.words(middle[0] - 4, middle[1] + 22, words, "hose-words", "middle")
            else:
                x, y = (middle[0] - 6, middle[1] - 13) if last else (middle[0] + 18, middle[1] + 22)
                sheet.words(x, y, words, "hose-words", "end" if last else "start")
        if number:
            x, y = part[0]
            sheet.add("path", d=f"M{x - 4:.1f} {y - 4:.1f} l8 8 m0 -8 l-8 8", class_="joint")
        sheet.close_part()


def _worst_piece(a: "Assessment | _Sketch") -> int:
    if a.chosen is None:
        return -1
    losses = [loss.head_loss_m for loss in a.chosen.piece_losses]
    return losses.index(max(losses))


def _cut(
    points: list[tuple[float, float]], lengths: list[float], begin: float, end: float
) -> list[tuple[float, float]]:
    """The part of a polyline between two distances along it."""
    part: list[tuple[float, float]] = []
    gone = 0.0
    for (x1, y1), (x2, y2), length in zip(points, points[1:], lengths, strict=False):
        if length <= 0.0:
            continue
        a, b = (begin - gone) / length, (end - gone) / length
        if b < 0.0 or a > 1.0:
            gone += length
            continue
        low, high = max(a, 0.0), min(b, 1.0)
        if not part:
            part.append((x1 + (x2 - x1) * low, y1 + (y2 - y1) * low))
        part.append((x1 + (x2 - x1) * high, y1 + (y2 - y1) * high))
        gone += length
    return part or [points[0], points[-1]]


def _grade_line(sheet: Sheet, frame: Frame, g: _Geometry, a: Assessment, units: System) -> None:
    """Head along the line, to scale: what the pump gives, falling to the outlet."""
    if a.chosen is None or not (a.chosen.rated.flow_m3_s or a.chosen.rated.flow_at_least_m3_s):
        return
    head = _head_at_pump(a.chosen)
    points = g.hose_points()
    lengths = [((x2 - x1) ** 2 + (y2 - y1) ** 2) ** 0.5 for (x1, y1), (x2, y2) in itertools.pairwise(points)]
    total = sum(lengths)
    line, along = [(g.pump_x, frame.y(min(head, frame.high_m)))], 0.0
    for share, loss in zip(_piece_shares(a), a.chosen.piece_losses, strict=True):
        along += share
        head -= loss.head_loss_m
        x = _cut(points, lengths, 0.0, along * total)[-1][0]
        line.append((x, frame.y(min(max(head, frame.low_m), frame.high_m))))
    sheet.add("path", d="M" + " L".join(f"{x:.1f} {y:.1f}" for x, y in line), class_="grade", fill="none")
    x, y = line[0]
    if not frame.narrow:
        sheet.words(
            x + 10,
            y - 6,
            f"head {text(_head_at_pump(a.chosen), 'head', units)} at the pump, falling to the outlet",
            "grade-words",
        )
    else:
        sheet.words(x + 8, y - 6, f"head {text(_head_at_pump(a.chosen), 'head', units)}", "grade-words")


def _sun(sheet: Sheet, frame: Frame, a: Assessment, units: System) -> None:
    """The sun's day over the section, with the hours that bring water drawn thick."""
    left, right = frame.x(0.08), frame.x(0.92)
    rise, base = (40.0 if not frame.narrow else 44.0), frame.top - 4.0

    def at(hour: float) -> tuple[float, float]:
        share = (hour - 5.0) / 14.0
        return left + share * (right - left), base - rise * 4.0 * share * (1.0 - share)

    def arc(begin: float, end: float) -> str:
        steps = [begin + (end - begin) * n / 24.0 for n in range(25)]
        return "M" + " L".join(f"{x:.1f} {y:.1f}" for x, y in map(at, steps))

    sheet.add("path", d=arc(5.0, 19.0), class_="sun-path", fill="none")
    chosen = a.chosen
    if chosen is None or sheet.stage == "survey":
        x, y = at(12.0)
        sheet.add("circle", cx=x, cy=y, r=9.0, class_="sun")
        return
    month = chosen.worst_month
    hours = chosen.season.water_hours(AVERAGE, month)
    if hours is not None:
        begin, end = max(hours[0], 5.0), min(hours[1], 19.0)
        sheet.add("path", d=arc(begin, end), class_="sun-water", fill="none")
        for hour, anchor in ((begin, "end"), (end, "start")):
            x, y = at(hour)
            sheet.words(
                x + (-8 if anchor == "end" else 8),
                y + 2,
                f"{int(hour):02d}:{int(hour % 1 * 60):02d}",
                "sun-words",
                anchor,
            )
    x, y = at(12.0)
    sheet.add("circle", cx=x, cy=y, r=9.0, class_="sun")
    if sheet.stage == "power" and not frame.narrow:
        litres = text(chosen.worst_litres / 1000.0, "litres", units)
        from squall.core.climate import MONTHS

        sheet.words(x + 16, y - 2, f"{litres} on an average {MONTHS[month]} day", "sun-words")


def _outlet_shape(sheet: Sheet, frame: Frame, g: _Geometry, a: "Assessment | _Sketch") -> None:
    kind = a.job.outlet
    small = 0.45 if sheet.stage == "thumb" else 1.0
    x, y = g.x1, g.top_y
    if kind == "loop":
        sheet.add("path", d=f"M{x - 26 * small:.1f} {y + 9 * small:.1f} a{15 * small:.1f} {10 * small:.1f} 0 1 0 {30 * small:.1f} -4",
                  class_="outlet", fill="none")  # fmt: skip
        return
    if kind == "open":
        top = y + 10 * small
        sheet.add("path", d=f"M{x - 4:.1f} {top:.1f} l{5 * small:.1f} {12 * small:.1f} h{34 * small:.1f} l{5 * small:.1f} -{12 * small:.1f}",
                  class_="outlet", fill="none")  # fmt: skip
        sheet.add("path", d=f"M{x + 1:.1f} {top + 5 * small:.1f} h{40 * small:.1f}", class_="water-level")
        return
    height = 36 * small
    top = y if kind == "tank-below" else y - 2
    sheet.add("rect", x=x, y=top, width=46 * small, height=height, class_="outlet")
    sheet.add("rect", x=x + 1, y=top + height * 0.35, width=46 * small - 2, height=height * 0.65 - 1, class_="water")


def _outlet_part(sheet: Sheet, frame: Frame, g: _Geometry, a: Assessment, units: System) -> None:
    worst = a.chosen.worst_month if a.chosen is not None else a.need_l.index(max(a.need_l))
    need = a.need_l[worst] / 1000.0
    names = {"open": "trough or open outlet", "tank-above": "tank, filled from above", "tank-below": "tank, filled from below",
             "loop": "closed circuit"}  # fmt: skip
    name = names[a.job.outlet]
    sheet.open_part("outlet", f"Outlet: {name}; need {text(need, 'litres', units)} a day")
    sheet.add("rect", x=g.x1 - 8, y=g.top_y - 8, width=62.0, height=52.0, class_="touch")
    _outlet_shape(sheet, frame, g, a)
    if sheet.stage in ("need", "power", "kits"):
        words = f"needs {text(need, 'litres', units)} a day"
        if frame.narrow:
            sheet.words(frame.width - 4, max(g.top_y - 14, 14.0), words, "outlet-words", "end")
        else:
            sheet.words(g.x1 + 18, g.top_y - 22, words, "outlet-words")
            if a.chosen is not None and a.chosen.refusal is None:
                made = text(a.chosen.worst_litres / 1000.0, "litres", units)
                sheet.words(g.x1 + 18, g.top_y - 5, f"gets {made}", "outlet-words")
    sheet.close_part()


def _pump_shape(sheet: Sheet, x: float, y: float, size: float) -> None:
    w, h = 15.0 * size, 24.0 * size
    sheet.add("rect", x=x - w / 2, y=y - h / 2, width=w, height=h, rx=4.0 * size, class_="pump")
    sheet.add(
        "path",
        d=f"M{x:.1f} {y - h * 0.3:.1f} V{y + h * 0.3:.1f} M{x - w * 0.3:.1f} {y:.1f} H{x + w * 0.3:.1f}",
        class_="pump-mark",
    )


def _pump_part(sheet: Sheet, frame: Frame, g: _Geometry, a: Assessment, units: System) -> None:
    name = a.chosen.kit.pump.title if a.chosen is not None else "pump, not chosen yet"
    x, y = g.pump
    sheet.open_part("pump", f"Pump: {name}")
    sheet.add("rect", x=x - 14, y=y - 18, width=28.0, height=36.0, class_="touch")
    _pump_shape(sheet, x, y, 1.0)
    if a.chosen is not None and sheet.stage in ("lift", "kits", "power", "prove", "wire"):
        if frame.narrow:
            sheet.words(x + 14, frame.height - 8, a.chosen.kit.pump.name, "pump-words")
        else:
            sheet.words(g.rim_x + 14, frame.height - 12, name, "pump-words")
    sheet.close_part()


def _panel_shape(sheet: Sheet, x: float, y: float, size: float) -> None:
    w, h = 46.0 * size, 30.0 * size
    sheet.add("path", d=f"M{x:.1f} {y:.1f} V{y - 12 * size:.1f}", class_="post")
    corners = [
        (x - w / 2, y - 8 * size),
        (x + w / 2 - 8 * size, y - h),
        (x + w / 2, y - h + 7 * size),
        (x - w / 2 + 8 * size, y - 1 * size),
    ]
    sheet.add("path", d="M" + " L".join(f"{px:.1f} {py:.1f}" for px, py in corners) + " Z", class_="panel")
    (ax, ay), (bx, by), (cx, cy), (dx, dy) = corners
    for share in (0.33, 0.66):
        sheet.add("line", x1=ax + (bx - ax) * share, y1=ay + (by - ay) * share, x2=dx + (cx - dx) * share, y2=dy + (cy - dy) * share,
                  class_="panel-line")  # fmt: skip


def _panel_part(sheet: Sheet, frame: Frame, g: _Geometry, a: Assessment, units: System) -> None:
    assert a.chosen is not None
    kit = a.chosen.kit
    x, y = g.panel
    joined = f"{kit.panels} panel{'s' if kit.panels > 1 else ''}, {text(kit.array_w, 'watts', units)}"
    sheet.open_part("panel", f"Panels: {joined}, {kit.in_series} in series, {kit.in_parallel} side by side")
    sheet.add("rect", x=x - 28, y=y - 38, width=56.0, height=40.0, class_="touch")
    _panel_shape(sheet, x, y, 1.0)
    if sheet.stage in ("power", "kits", "wire"):
        sheet.words(x, y - 38, joined, "panel-words", "middle")
    sheet.close_part()


def _box_at(frame: Frame, g: _Geometry) -> tuple[float, float]:
    x = g.panel_x - (70.0 if not frame.narrow else 44.0)
    return x, g.ground_y(x)


def _box_part(sheet: Sheet, frame: Frame, g: _Geometry, a: Assessment) -> None:
    assert a.chosen is not None
    kit = a.chosen.kit
    if kit.controller is None:
        return
    x, y = _box_at(frame, g)
    name = kit.controller.title + (f" and {kit.batteries_in_series} x {kit.battery.title}" if kit.battery else "")
    sheet.open_part("box", f"Box: {name}")
    sheet.add("rect", x=x - 14, y=y - 28, width=28.0, height=30.0, class_="touch")
    sheet.add("rect", x=x - 9, y=y - 22, width=18.0, height=20.0, class_="box")
    if kit.battery is not None:
        sheet.add(
            "path",
            d=f"M{x - 5:.1f} {y - 12:.1f} h10 M{x - 3:.1f} {y - 8:.1f} h6 M{x:.1f} {y - 17:.1f} v5 M{x:.1f} {y - 8:.1f} v4",
            class_="box-mark",
        )
    else:
        sheet.add("path", d=f"M{x - 5:.1f} {y - 6:.1f} l4 -8 l3 5 l3 -8", class_="box-mark")
    sheet.close_part()


def _cables(sheet: Sheet, frame: Frame, g: _Geometry, a: Assessment, units: System) -> None:
    if a.chosen is None:
        return
    kit, wiring = a.chosen.kit, a.wiring
    assert wiring is not None
    run = wiring.runs[0]
    panel_x, panel_y = g.panel
    start_x, start_y = (panel_x, panel_y) if kit.controller is None else _box_at(frame, g)
    down = [(start_x, start_y + 7.0)]
    steps = 8
    for n in range(1, steps + 1):
        x = start_x + (g.rim_x + 6 - start_x) * n / steps
        down.append((x, g.ground_y(x) + 8.0))
    down += [(g.pump_x + 9, g.water_y + 2), (g.pump_x + 6, g.pump[1] - 6)]
    over = not run.within_drop or not run.within_ampacity
    label = (
        f"Cable {run.name}: {run.choice.conductor.label}, {text(run.one_way_m, 'length', units)}, "
        f"drop {text(run.choice.drop_fraction, 'share', units)}{', too much' if over else ''}"
    )
    sheet.open_part("cable-pump", label)
    d = "M" + " L".join(f"{x:.1f} {y:.1f}" for x, y in down)
    sheet.add("path", d=d, class_="hose-touch", fill="none")
    sheet.add("path", d=d, class_="cable over" if over else "cable", fill="none")
    if sheet.stage == "wire":
        x, y = down[4]
        words = f"{run.choice.conductor.label}, drop {text(run.choice.drop_fraction, 'share', units)}"
        rating = wiring.protection.rating_a
        sheet.words(
            x + 6, y + (20 if not frame.narrow else 24), words, "cable-words", "start" if not frame.narrow else "middle"
        )
        fuse_x, fuse_y = down[1]
        sheet.add("rect", x=fuse_x - 8, y=fuse_y - 4, width=16.0, height=8.0, class_="fuse")
        note = f"{a.job.protection} {text(rating, 'amps', units)}" if rating is not None else "no fuse fits"
        sheet.words(fuse_x + 4, fuse_y + 20, note, "cable-words", "middle")
    sheet.close_part()
    if kit.controller is not None and len(wiring.runs) > 1:
        other = wiring.runs[1]
        sheet.open_part(
            "cable-array",
            f"Cable {other.name}: {other.choice.conductor.label}, {text(other.one_way_m, 'length', units)}",
        )
        mid = (start_x + panel_x) / 2
        d = f"M{panel_x:.1f} {panel_y - 3:.1f} Q{mid:.1f} {panel_y + 8:.1f} {start_x + 9:.1f} {start_y - 8:.1f}"
        sheet.add("path", d=d, class_="hose-touch", fill="none")
        sheet.add("path", d=d, class_="cable", fill="none")
        sheet.close_part()


def _test_points(sheet: Sheet, frame: Frame, g: _Geometry, a: Assessment) -> None:
    """Numbered marks where the readings are taken: at the panel, the pump, the outlet."""
    for number, (x, y) in enumerate(
        ((g.panel_x - 30, g.panel[1] - 34), (g.pump_x + 24, g.water_y - 14), (g.x1 + 20, g.top_y - 16)), start=1
    ):
        sheet.add("path", d=f"M{x:.1f} {y - 9:.1f} l9 9 l-9 9 l-9 -9 z", class_="test-point")
        sheet.words(x, y + 4, str(number), "test-words", "middle")
