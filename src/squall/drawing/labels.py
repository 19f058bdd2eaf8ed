"""Where the words of a drawing stand: near what they name, clear of every line, part and other word.

A word is tried where it would best stand, then ever farther from there; the first place that is free is
taken. Where none is, the one that crosses least. Sizes are in the sheet's own units.
"""

from dataclasses import dataclass, field
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Point = tuple[float, float]

# Width of a letter and height of a line, as shares of the letters' size: those of the shipped typeface, about.
_LETTER, _ABOVE, _BELOW = 0.54, 0.78, 0.24
_CLEAR = 2.5
# Standing on another word is worse than crossing a line.
_ON_WORDS = 3.0
_SIDES: dict[str, float] = {"start": 0.0, "middle": 0.5, "end": 1.0}
# A word moved farther than this is tied to what it names.
_TIED = 34.0


# Steps away from the best place, the nearest first; a step aside counts less than one up or down.
_STEPS = np.array(sorted(((dx, dy) for dx in range(-120, 121, 12) for dy in range(-90, 91, 9)), key=lambda step: (step[0] / 1.4) ** 2 + step[1] ** 2), dtype=float)  # fmt: skip
# Most words find their place among the nearest few.
_RINGS = (_STEPS[:24], _STEPS[24:120], _STEPS[120:])


@dataclass(frozen=True)
class Word:
    """A line of words that may move.

    Attributes
    ----------
    x, y : float
        Where its anchor would best stand.
    words : str
        What it says.
    anchor : str
        ``start``, ``middle`` or ``end``.
    size : float
        Of its letters.
    named : Point or None
        What it names: where a tie would lead.
    """

    x: float
    y: float
    words: str
    anchor: str
    size: float = 13.0
    named: Point | None = None

    @property
    def width(self) -> float:
        """About how wide it is."""
        return len(self.words) * self.size * _LETTER


@dataclass
class Room:
    """What is taken on a sheet of a width and height: lines, and boxes as left, top, right, bottom."""

    width: float
    height: float
    lines: list[tuple[float, float, float, float]] = field(default_factory=list)
    boxes: list[tuple[float, float, float, float]] = field(default_factory=list)

    def line(self, points: list[Point]) -> None:
        """Take the way along some points."""
        self.lines += [(*a, *b) for a, b in pairwise(points)]

    def box(self, left: float, top: float, right: float, bottom: float) -> None:
        """Take a box."""
        self.boxes.append((left, top, right, bottom))

    def words(self, word: Word, x: float, y: float, anchor: str) -> None:
        """Take what a word covers."""
        self.boxes.append(_box(word, x, y, anchor))

    def place(self, word: Word) -> tuple[float, float, str]:
        """A free place for a word, which is then taken: x, y and anchor."""
        least, best = np.inf, _STEPS[0]
        for near in _RINGS:
            left, top, right, bottom = _box(word, word.x, word.y, word.anchor)
            boxes = np.array((left, top, right, bottom)) + near[:, (0, 1, 0, 1)]
            outside = (boxes[:, 0] < 1.0) | (boxes[:, 2] > self.width - 1.0) | (boxes[:, 1] < 1.0) | (boxes[:, 3] > self.height - 1.0)  # fmt: skip
            cost = self._crossed(boxes) + _ON_WORDS * self._covered(boxes) + 1e3 * outside
            first = int(np.argmin(cost))
            if cost[first] < least:
                least, best = float(cost[first]), near[first]
            if least == 0.0:
                break
        x, y = word.x + float(best[0]), word.y + float(best[1])
        self.words(word, x, y, word.anchor)
        return x, y, word.anchor

    def tie(self, word: Word, x: float, y: float) -> tuple[Point, Point] | None:
        """From a moved word to what it names, where the two stand far apart."""
        if word.named is None or max(abs(x - word.x), abs(y - word.y)) < _TIED:
            return None
        return (x, y - word.size * 0.3), word.named

    def _crossed(self, boxes: Floats) -> Floats:
        """How many lines cross each box."""
        if not self.lines:
            return np.zeros(len(boxes))
        x1, y1, x2, y2 = (np.array(column)[None, :] for column in zip(*self.lines, strict=True))
        dx, dy = np.where(x2 == x1, 1e-9, x2 - x1), np.where(y2 == y1, 1e-9, y2 - y1)
        left, top, right, bottom = (boxes[:, n, None] for n in range(4))
        to_left, to_right, to_top, to_bottom = (left - x1) / dx, (right - x1) / dx, (top - y1) / dy, (bottom - y1) / dy
        enters = np.maximum(np.maximum(np.minimum(to_left, to_right), np.minimum(to_top, to_bottom)), 0.0)
        leaves = np.minimum(np.minimum(np.maximum(to_left, to_right), np.maximum(to_top, to_bottom)), 1.0)
        crossed: Floats = (enters <= leaves).sum(axis=1).astype(float)
        return crossed

    def _covered(self, boxes: Floats) -> Floats:
        """How many taken boxes each box stands on."""
        if not self.boxes:
            return np.zeros(len(boxes))
        left, top, right, bottom = (np.array(column)[None, :] for column in zip(*self.boxes, strict=True))
        apart = (boxes[:, 2, None] <= left) | (boxes[:, 0, None] >= right) | (boxes[:, 3, None] <= top) | (boxes[:, 1, None] >= bottom)  # fmt: skip
        covered: Floats = (~apart).sum(axis=1).astype(float)
        return covered


def _box(word: Word, x: float, y: float, anchor: str) -> tuple[float, float, float, float]:
    left = x - word.width * _SIDES[anchor]
    return (
        left - _CLEAR,
        y - word.size * _ABOVE - _CLEAR,
        left + word.width + _CLEAR,
        y + word.size * _BELOW + _CLEAR,
    )
