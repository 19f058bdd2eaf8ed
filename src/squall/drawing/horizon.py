"""The horizon round the panels, with the sun's way on the longest day, the shortest and between."""

from collections.abc import Sequence

import numpy as np
from markupsafe import Markup, escape

from squall.core.sky.sunlight import Horizon, SunPath, height_at
from squall.words import say

WIDTH, HEIGHT, _LEFT, _BOTTOM, _TOP = 700.0, 190.0, 34.0, 24.0, 8.0
_MOST_DEG = 90.0


def horizon_picture(horizon: Horizon, days: Sequence[tuple[str, SunPath]], facing_deg: float) -> Markup:
    """Heights over the whole circle, the panels' own direction in the middle.

    Parameters
    ----------
    horizon : tuple of (azimuth, height)
        Empty for a flat one. [°], [°]
    days : sequence of (name, path)
        Days whose way of the sun is drawn.
    facing_deg : float
        Where the panels face. [°]
    """

    def x(azimuth: float) -> float:
        turned = (azimuth - facing_deg + 180.0) % 360.0
        return _LEFT + turned / 360.0 * (WIDTH - _LEFT - 6.0)

    def y(height: float) -> float:
        return HEIGHT - _BOTTOM - max(height, 0.0) / _MOST_DEG * (HEIGHT - _BOTTOM - _TOP)

    items = []
    for height in (0, 30, 60):
        items.append(f'<line class="band-line" x1="{_LEFT}" x2="{WIDTH - 6:g}" y1="{y(height):.1f}" y2="{y(height):.1f}"/><text class="band-tick" x="{_LEFT - 5:g}" y="{y(height) + 4:.1f}" text-anchor="end">{height}°</text>')  # fmt: skip
    for azimuth, name in ((0.0, say("N")), (90.0, say("E")), (180.0, say("S")), (270.0, say("W"))):
        items.append(f'<text class="band-tick" x="{x(azimuth):.1f}" y="{HEIGHT - 7:g}" text-anchor="middle">{escape(name)}</text>')  # fmt: skip
    if horizon:
        round_ = np.linspace(facing_deg - 179.9, facing_deg + 179.9, 721)
        heights = height_at(horizon, round_ % 360.0)
        line = " L".join(f"{x(float(a)):.1f} {y(float(h)):.1f}" for a, h in zip(round_, heights, strict=True))
        items.append(f'<path class="horizon-land" d="M{_LEFT:g} {y(0):.1f} L{line} L{WIDTH - 6:g} {y(0):.1f} Z"/>')
    for name, path in days:
        up = path.apparent_zenith_deg < 90.0
        ways = sorted((x(float(a)), y(90.0 - float(z))) for a, z in zip(path.azimuth_deg[up], path.apparent_zenith_deg[up], strict=True))  # fmt: skip
        if not ways:
            continue
        items.append('<path class="horizon-sun" fill="none" d="M' + " L".join(f"{px:.1f} {py:.1f}" for px, py in ways) + '"/>')  # fmt: skip
        top = min(ways, key=lambda point: point[1])
        items.append(f'<text class="band-tick" x="{top[0]:.1f}" y="{top[1] - 3:.1f}" text-anchor="middle">{escape(name)}</text>')  # fmt: skip
    told = say("The horizon round the panels, up to {most:.0f}° high, with the sun's way in three months.", most=max((h for _, h in horizon), default=0.0))  # fmt: skip
    return Markup(
        f'<svg class="horizon" viewBox="0 0 {WIDTH:g} {HEIGHT:g}" role="img" aria-label="{escape(told)}">{"".join(items)}</svg>'
    )
