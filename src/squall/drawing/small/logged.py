"""What a logger logged, a lane for each column: from the least to the most of each span, with the mean in it."""

from collections.abc import Sequence
from dataclasses import dataclass

from markupsafe import Markup, escape

from squall.core.reason import Spoken

_WIDTH, _LEFT, _LANE, _GAP = 720.0, 116.0, 56.0, 14.0


@dataclass(frozen=True)
class LaneDrawn:
    """A lane: its name, its top in words, and least, mean and most of each span; None where there are no rows. [any]"""

    name: Spoken
    top: Spoken
    least: Sequence[float | None]
    mean: Sequence[float | None]
    most: Sequence[float | None]


def draw_logged(lanes: Sequence[LaneDrawn], begins: str, ends: str, about: str) -> Markup:
    """The lanes above each other on one time.

    Parameters
    ----------
    lanes : sequence of LaneDrawn
        In their order.
    begins, ends : str
        Their first and last moment, in words.
    about : str
        What a screen reader says instead.
    """
    height = len(lanes) * (_LANE + _GAP) + 24.0
    drawn = "".join(_lane(lane, n * (_LANE + _GAP) + _GAP) for n, lane in enumerate(lanes))
    foot = height - 8.0
    return Markup(
        f'<svg class="logged-lanes" viewBox="0 0 {_WIDTH:g} {height:g}" role="img" aria-label="{escape(about)}" xmlns="http://www.w3.org/2000/svg">'
        f'{drawn}<text x="{_LEFT:g}" y="{foot:g}">{escape(begins)}</text>'
        f'<text x="{_WIDTH - 2:g}" y="{foot:g}" text-anchor="end">{escape(ends)}</text></svg>'
    )


def _lane(lane: LaneDrawn, top: float) -> str:
    highest = max((value for value in lane.most if value is not None), default=0.0)
    lowest = min(0.0, min((value for value in lane.least if value is not None), default=0.0))
    span = (highest - lowest) or 1.0
    step = (_WIDTH - _LEFT) / max(len(lane.mean), 1)

    def up(value: float) -> float:
        return top + _LANE * (1.0 - (value - lowest) / span)

    bands: list[str] = []
    means: list[str] = []
    for n, (least, mean, most) in enumerate(zip(lane.least, lane.mean, lane.most, strict=True)):
        x = _LEFT + (n + 0.5) * step
        if least is not None and most is not None:
            bands.append(f"M{x:.1f} {up(least):.1f}V{up(most):.1f}")
        if mean is not None:
            means.append(f"{'L' if means and lane.mean[n - 1] is not None else 'M'}{x:.1f} {up(mean):.1f}")
    return (
        f'<text x="0" y="{top + 14:g}" class="lane-name">{escape(str(lane.name))}</text>'
        f'<text x="0" y="{top + 30:g}">{escape(str(lane.top))}</text>'
        f'<path class="lane-foot" d="M{_LEFT:g} {up(0.0):.1f}H{_WIDTH:g}"/>'
        f'<path class="lane-band" d="{"".join(bands)}" stroke-width="{max(step, 1.0):.2f}"/><path class="lane-mean" d="{"".join(means)}"/>'
    )
