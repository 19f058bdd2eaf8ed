"""A day as lanes over one clock: light, flow, volts, amps, tank; scrubbed by hand or keys, the drawing following."""

from dataclasses import dataclass
from typing import Any

import numpy as np
from markupsafe import Markup
from numpy.typing import NDArray

from squall.web.frame.pages import chart_number, clock
from squall.words import say
from squall.words.units import shown, text

WIDTH, LEFT, RIGHT = 960.0, 150.0, 20.0
LANE, GAP = 44.0, 10.0


@dataclass(frozen=True, eq=False)
class Lane:
    """One quantity through a day, in SI; `full` is drawn as the top of a store."""

    key: str
    name: str
    kind: str
    values: NDArray[np.float64]
    full: float | None = None


@dataclass(frozen=True, eq=False)
class Strip:
    """A day's lanes, what is to be said of it, and the steps in which something was missing."""

    title: str
    step_h: float
    lanes: list[Lane]
    story: str
    missing: NDArray[np.bool_] | None

    @property
    def steps(self) -> int:
        """How many steps the day has."""
        return int(self.lanes[0].values.size)

    @property
    def start(self) -> int:
        """Step at which the hand stands first: that of the most light."""
        return int(np.argmax(self.lanes[0].values))

    @property
    def data(self) -> dict[str, Any]:
        """What the browser needs to say the values at any hour."""
        return {
            "step": self.step_h,
            "left": LEFT,
            "right": WIDTH - RIGHT,
            "lanes": [
                {
                    "name": lane.name,
                    "sign": shown(0.0, lane.kind)[1],
                    "values": [_three(chart_number(float(v), lane.kind)) for v in lane.values],
                }
                for lane in self.lanes
            ],
        }

    @property
    def svg(self) -> Markup:
        """The lanes as one drawing."""
        height = len(self.lanes) * (LANE + GAP) + 26.0
        span = WIDTH - LEFT - RIGHT
        items = []
        bottom = len(self.lanes) * (LANE + GAP)
        for hour in range(0, 25, 3):
            x = LEFT + span * hour / 24.0
            items.append(f'<line x1="{x:.1f}" y1="0" x2="{x:.1f}" y2="{bottom:.1f}" class="strip-hour"/>')
            items.append(
                f'<text x="{x:.1f}" y="{bottom + 16:.1f}" class="strip-clock" text-anchor="middle">{hour:02d}</text>'
            )
        if self.missing is not None and self.missing.any():
            items += [
                f'<rect x="{LEFT + span * n * self.step_h / 24.0:.1f}" y="0" width="{span * self.step_h / 24.0 + 0.3:.1f}" '
                f'height="{bottom:.1f}" class="strip-missing"/>'
                for n in np.nonzero(self.missing)[0].tolist()
            ]
        for number, lane in enumerate(self.lanes):
            items += self._lane(lane, number * (LANE + GAP) + GAP, span)
        items.append(f'<line x1="{LEFT:.1f}" y1="0" x2="{LEFT:.1f}" y2="{bottom:.1f}" class="strip-hand"/>')
        told = "; ".join(
            say("{name} up to {max}", name=lane.name, max=text(float(lane.values.max()), lane.kind))
            for lane in self.lanes
        )
        return Markup(
            f'<svg class="strip-lanes" viewBox="0 0 {WIDTH:g} {height:g}" role="img" aria-label="{self.title}: {told}" '
            f'xmlns="http://www.w3.org/2000/svg">{"".join(items)}</svg>'
        )

    def _lane(self, lane: Lane, top: float, span: float) -> list[str]:
        most = lane.full if lane.full is not None else float(lane.values.max())
        amount = text(most, lane.kind)
        scale = LANE / most if most > 0.0 else 0.0
        base = top + LANE
        points = []
        for n, value in enumerate(lane.values.tolist()):
            x = LEFT + span * n * self.step_h / 24.0
            y = base - min(value, most) * scale
            points += [f"{x:.1f} {y:.1f}", f"{x + span * self.step_h / 24.0:.1f} {y:.1f}"]
        end = LEFT + span
        return [
            f'<path d="M{LEFT:.1f} {base:.1f} L{" L".join(points)} L{end:.1f} {base:.1f} Z" class="strip-fill strip-{lane.key}"/>',
            f'<line x1="{LEFT:.1f}" y1="{base:.1f}" x2="{end:.1f}" y2="{base:.1f}" class="strip-base"/>',
            f'<text x="{LEFT - 8:.1f}" y="{base - LANE / 2 - 1:.1f}" class="strip-name" text-anchor="end">{lane.name}</text>',
            f'<text x="{LEFT - 8:.1f}" y="{base - LANE / 2 + 13:.1f}" class="strip-most" text-anchor="end">'
            f"{say('full {amount}', amount=amount) if lane.full is not None else say('most {amount}', amount=amount)}</text>",
        ]

    def at(self, step: int) -> str:
        """The values at one step, in words."""
        said = [f"{lane.name} {text(float(lane.values[step]), lane.kind)}" for lane in self.lanes]
        return f"{clock((step + 0.5) * self.step_h)}: " + ", ".join(said)


def _three(value: float) -> float:
    """Three significant figures, for a readout."""
    return float(f"{value:.3g}")
