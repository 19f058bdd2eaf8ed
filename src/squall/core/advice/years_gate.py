"""Whether a kit whose months cover the need may hold through ten years of made weather: a bound first, then the years themselves."""

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from squall.core.advice.bounds import drawn_days
from squall.core.kit.layout import Layout
from squall.core.kit.setup import Setup
from squall.core.kit.supply import Banked
from squall.core.sky.typical_days import Light
from squall.core.years.fewest_short import fewest_short
from squall.core.years.many_days import days_of
from squall.core.years.nodes import Means
from squall.core.years.outlook import holds_through, most_short
from squall.core.years.use import Use


class YearsGate:
    """The ten years of one job."""

    def __init__(self, layout: Layout, light: Light, use: Use) -> None:
        self.days, self.layout, self.use = days_of(light), layout, use
        self.most_short = most_short(self.days, use)
        self.seconds: dict[bool, tuple[NDArray[np.float32], NDArray[np.float32]]] = {}

    def lets_through(self, setup: Setup, means: Means) -> bool:
        """Whether no more days run short than are allowed."""
        return self._may_hold(setup, means) and holds_through(setup, self.days, means, self.use)

    def _may_hold(self, setup: Setup, means: Means) -> bool:
        banked = isinstance(setup.kit.supply, Banked)
        if self.days.shade is not None or (self.layout.falls is not None and banked):
            return True  # nodes are many where a shadow falls: the years are run at once
        whole, by_light = self.seconds_of(stored=isinstance(setup.kit.supply, Banked))
        # By the best air of each light first: a sixteenth of the sums, and most that run short show it.
        best = replace(means, nodes=means.nodes.max(axis=(0, 1)))
        for row, seconds in ((best, by_light), (means, whole)):
            if fewest_short([(setup, row)], seconds, self.days, self.use)[0] > self.most_short:
                return False
        return True

    def seconds_of(self, *, stored: bool) -> tuple[NDArray[np.float32], NDArray[np.float32]]:
        """Seconds of each day at each node, and at each light; for a kit without a store those alone in which water is taken. [s]"""
        found = self.seconds.get(stored)
        if found is None:
            days = self.days if stored else drawn_days(self.days, self.use)
            other = self.seconds.get(not stored)
            if other is not None and drawn_days(self.days, self.use) is self.days:
                self.seconds[stored] = other  # the same years: counted once
                return other
            whole = days.seconds_of_days()
            found = self.seconds[stored] = whole, whole.reshape(len(whole), -1, days.lights_w_m2.size).sum(axis=1)
        return found
