"""The sheet of a long-section: its size and scale, where everything stands, and the elements on it."""

from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from markupsafe import escape

from squall.drawing.labels import Point, Room, Word
from squall.job.document.job import Job
from squall.job.stages import HOME, STAGES
from squall.job.worked.assess import Assessment
from squall.job.worked.heights import Heights, heights_of
from squall.job.worked.kit import KitAssessment

Size = Literal["wide", "beside", "narrow"]


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
    size: Size

    @property
    def narrow(self) -> bool:
        """Whether words have to be few: on a phone, and in the column beside the work."""
        return self.size != "wide"

    def y(self, height_m: float) -> float:
        """Where a height above the pumping water level lies."""
        span = self.high_m - self.low_m
        return self.top + (self.high_m - height_m) / span * (self.height - self.top - self.bottom)

    def x(self, share: float) -> float:
        """Where a share of the way from water (0) to outlet (1) lies."""
        return self.left + share * (self.width - self.left - self.right)


@dataclass(frozen=True)
class Sketch:
    """A job with nothing worked out: enough for a thumbnail."""

    job: Job
    chosen: None = None

    @property
    def heights(self) -> Heights:
        """Lift, bank and pump depth."""
        return heights_of(self.job)


Drawn = Assessment | Sketch


def frame_for(a: Drawn, stage: str, size: Size) -> Frame:
    """The sheet for one stage: heights from below the pump to above whatever stands highest."""
    heights = a.heights
    ends = [piece.end_height.si for piece in a.job.run if piece.end_height is not None]
    top = max(heights.lift_m, heights.rim_m, 0.5, *ends, *(row.lift.si for row in a.job.outlets))
    if a.chosen is not None and stage == "lift":
        top = max(top, min(head_at_pump(a.chosen), 2.2 * top))
    below = max(heights.pump_below_m + 0.12 * top, 0.16 * top, pumping_fall(a) + 0.1 * top)
    if stage == "thumb":
        return Frame(200, 84, 22, 34, 22, 6, -below, top * 1.05, size)
    sunny = stage in ("survey", "power", "prove")
    if size == "narrow":
        return Frame(380, 330 if sunny else 296, 74, 62, 84 if sunny else 50, 30, -below, top * 1.02, size)
    if size == "beside":
        return Frame(500, 330 if sunny else 300, 84, 78, 78 if sunny else 48, 28, -below, top * 1.02, size)
    return Frame(760, 290 if sunny else 262, 104, 128, 74 if sunny else 46, 28, -below, top * 1.02, size)


def pumping_fall(a: Drawn) -> float:
    """How far the water falls below its standing level at the flow at rated volts. [m]"""
    if a.chosen is None:
        return 0.0
    flow = a.chosen.working.flow_m3_s or a.chosen.working.flow_at_least_m3_s or 0.0
    return a.heights.drawdown_s_m2 * flow


def head_at_pump(chosen: KitAssessment) -> float:
    """Head that the line asks of the pump at its flow at rated volts; 0 without flow. [m]"""
    flow = chosen.working.flow_m3_s or chosen.working.flow_at_least_m3_s or 0.0
    return chosen.layout.line(chosen.kit.hose).head_m(flow) if flow else 0.0


def piece_shares(a: Drawn) -> list[float]:
    """Share of the width that each piece of the run gets."""
    lengths = [max(piece.length.si, 0.0) for piece in a.job.run]
    total = sum(lengths)
    if total <= 0.0:
        return [1.0 / len(lengths)] * len(lengths)
    raw = [max(length / total, 0.1) for length in lengths]
    return [value / sum(raw) for value in raw]


def cut(points: list[tuple[float, float]], lengths: list[float], begin: float, end: float) -> list[tuple[float, float]]:
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


class Geometry:
    """Where everything stands on one sheet."""

    def __init__(self, frame: Frame, a: Drawn) -> None:
        job = a.job
        self.frame = frame
        self.loop = job.outlet == "loop"
        self.shaft = job.water in ("well", "cistern")
        self.water_y = frame.y(0.0)
        heights = a.heights
        self.rim_y = frame.y(heights.rim_m)
        self.top_y = frame.y(heights.lift_m)
        self.x0, self.x1 = frame.x(0.0), frame.x(1.0)
        self.rim_x = frame.x(0.10 if self.shaft else 0.17)
        self.pump_x = frame.x(0.02)
        self.intake = (self.pump_x, frame.y(-heights.pump_below_m))
        self.on_bank = a.chosen is not None and a.chosen.kit.pump.placement == "surface"
        self.pump = (self.rim_x - 4.0, self.rim_y - 15.0) if self.on_bank else self.intake
        self.ground_end_y = min(self.top_y + (20.0 if job.outlet == "open" else 26.0), frame.height - frame.bottom)
        share = 0.42 if not frame.narrow else 0.5
        self.knots = self._knots(a)
        self.panel_x = frame.x(share)
        self.panel = (self.panel_x, self.ground_y(self.panel_x))
        self.pieces = self._pieces(a)

    def _knots(self, a: Drawn) -> list[tuple[float, float]]:
        """Where the ends of pieces stand, if any height along the run was surveyed."""
        run = a.job.run
        if all(piece.end_height is None for piece in run[:-1]):
            return []
        knots, along = [(self.rim_x, self.rim_y)], 0.0
        for piece, share in list(zip(run, piece_shares(a), strict=True))[:-1]:
            along += share
            if piece.end_height is not None:
                x = self.rim_x + along * (self.x1 - 16.0 - self.rim_x)
                knots.append((x, self.frame.y(piece.end_height.si) + 5.0))
        return [*knots, (self.x1 - 16.0, self.ground_end_y)]

    def _pieces(self, a: Drawn) -> list[list[tuple[float, float]]]:
        """The hose's points, piece by piece."""
        points, shares = self.hose_points(), piece_shares(a)
        if self.loop:
            points = [*points, (self.x1 - 6.0, self.ground_y(self.x1 - 30) + 6.0)]
        lengths = [((x2 - x1) ** 2 + (y2 - y1) ** 2) ** 0.5 for (x1, y1), (x2, y2) in pairwise(points)]
        total, along, found = sum(lengths), 0.0, []
        for share in shares:
            if self.knots:
                begin = self._length_at(points, lengths, along)
                end = self._length_at(points, lengths, along + share)
            else:
                begin, end = along * total, (along + share) * total
            found.append(cut(points, lengths, begin, end))
            along += share
        return found

    def _length_at(self, points: list[tuple[float, float]], lengths: list[float], share: float) -> float:
        """Length of hose up to a share of the way from rim to outlet; the water counts with the first piece."""
        if share <= 0.0:
            return 0.0
        if share >= 1.0 - 1e-9:
            return sum(lengths)
        target, gone = self.rim_x + share * (self.x1 - 16.0 - self.rim_x), 0.0
        for (x1, _), (x2, _), length in zip(points, points[1:], lengths, strict=False):
            if x1 >= self.rim_x - 1.0 and x1 <= target <= x2 and x2 > x1:
                return gone + length * (target - x1) / (x2 - x1)
            gone += length
        return gone

    def ground_y(self, x: float) -> float:
        """Ground's height on the sheet: a smooth slope from the rim to the outlet."""
        if x <= self.rim_x:
            return self.rim_y
        for (x1, y1), (x2, y2) in pairwise(self.knots):
            if x <= x2:
                return y1 + (y2 - y1) * (x - x1) / max(x2 - x1, 1.0)
        if self.knots:
            return self.knots[-1][1]
        t = min((x - self.rim_x) / max(self.x1 - self.rim_x, 1.0), 1.0)
        eased = t * t * (3.0 - 2.0 * t)
        return self.rim_y + eased * (self.ground_end_y - self.rim_y)

    def hose_points(self) -> list[tuple[float, float]]:
        """The hose from pump to outlet as points."""
        points = [self.intake, (self.pump_x, self.water_y)]
        if self.shaft:
            points += [(self.pump_x, self.rim_y - 7.0), (self.rim_x, self.rim_y - 7.0)]
        else:
            points += [(self.rim_x, self.rim_y - 5.0)]
        across = [self.rim_x + (self.x1 - 16.0 - self.rim_x) * step / 12.0 for step in range(1, 13)]
        for x in sorted({*across, *(x for x, _ in self.knots[1:-1])}):
            points.append((x, self.ground_y(x) - 5.0))
        points.append((self.x1 - 8.0, self.top_y))
        points.append((self.x1, self.top_y))
        return points


def _heard(label: str) -> str:
    """As it is read out: plain spaces."""
    return label.replace("\u00a0", " ")


def _text(x: float, y: float, words: str, cls: str, anchor: str) -> str:
    return f'<text x="{x:.1f}" y="{y:.1f}" class="{escape(cls)}" text-anchor="{anchor}">{escape(words)}</text> '


class Sheet:
    """Collects SVG elements; every text is escaped here."""

    def __init__(self, job_id: int, stage: str, ident: str, room: Room, page: str = "") -> None:
        self.job_id = job_id
        self.stage = stage
        self.page = page
        self.ident = ident
        self.items: list[str] = []
        self.room = room
        self._free: list[tuple[int, Word, str]] = []

    def add(self, tag: str, **attributes: object) -> None:
        """One empty element; underscores in names become dashes."""
        self.items.append(f"<{tag} {self._attributes(attributes)}/>")

    @staticmethod
    def _attributes(attributes: dict[str, object]) -> str:
        def show(value: object) -> str:
            return f"{value:.1f}".rstrip("0").rstrip(".") if isinstance(value, float) else str(escape(str(value)))

        return " ".join(f'{name.rstrip("_").replace("_", "-")}="{show(value)}"' for name, value in attributes.items())

    def words(self, x: float, y: float, words: str, cls: str = "", anchor: str = "start") -> None:
        """A line of text that stays where it is put."""
        self.room.words(Word(x, y, words, anchor), x, y, anchor)
        self.items.append(_text(x, y, words, cls, anchor))

    def label(
        self, x: float, y: float, words: str, cls: str, anchor: str = "start", named: Point | None = None
    ) -> None:
        """A line of text that is put where it is free, near a point, once all else stands."""
        self._free.append((len(self.items), Word(x, y, words, anchor, named=named), cls))
        self.items.append("")

    def settle(self) -> None:
        """Put the movable words where nothing crosses them."""
        for index, word, cls in self._free:
            x, y, anchor = self.room.place(word)
            tie = self.room.tie(word, x, y)
            led = "" if tie is None else f'<line x1="{tie[0][0]:.1f}" y1="{tie[0][1]:.1f}" x2="{tie[1][0]:.1f}" y2="{tie[1][1]:.1f}" class="tie"/>'  # fmt: skip
            self.items[index] = led + _text(x, y, word.words, cls, anchor)

    def open_part(self, part: str, label: str, stage: str | None = None) -> None:
        """Begin a part that can be clicked and reached by Tab."""
        # The page itself first, where it has a place for the part; then the stage that it belongs to.
        pages = [key for key in (self.page, self.stage) if stage is None and key in STAGES]
        own = next((key for key in pages if part in STAGES[key].own_parts), None)
        here = {} if own is None else STAGES[own].own_parts
        target = stage or own or HOME[part.split(":")[0]]
        anchor = here.get(part, part.replace(":", "-"))
        self.items.append(
            f'<a href="/jobs/{self.job_id}/{target}#part-{escape(anchor)}" class="part part-{escape(part.split(":")[0])}" '
            f'aria-label="{escape(_heard(label))}"><title>{escape(label)}</title>'
        )

    def close_part(self) -> None:
        """End of a part."""
        self.items.append("</a>")
