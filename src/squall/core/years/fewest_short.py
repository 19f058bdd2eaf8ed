"""The fewest days on which a kit can run short, seen at once for many kits: what a search drops without running its years.

A day's water is the sum of its half hours' (:mod:`squall.core.years.outlook` has them), all of it taken to be there when
it is wanted, and whatever tank and bank hold taken to begin full and to lose nothing. So no kit is dropped that the
years would find to hold (tested); most that they would not are.

References
----------
By definition: a bound by conservation of water and charge.
"""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from squall.core.drive.tables import on_volts
from squall.core.kit.bank import drawn_a, usable_ah
from squall.core.kit.setup import Setup
from squall.core.kit.supply import Banked
from squall.core.years.many_days import ManyDays, covering
from squall.core.years.nodes import Means
from squall.core.years.record import SHORT_SHARE
from squall.core.years.use import Use

Floats = NDArray[np.float64]
# Less than this of a day's want is left to rounding. [-]
_SLACK = 1e-3


def fewest_short(
    rows: Sequence[tuple[Setup, Means]], seconds: NDArray[np.float32], days: ManyDays, use: Use
) -> list[int]:
    """At least so many days of ten years of made weather each kit runs short. [days]

    Parameters
    ----------
    rows : sequence of tuple
        Kits, and what they make of each light and air.
    seconds, days : NDArray, ManyDays
        The years, and their :meth:`ManyDays.seconds_of_days`.
    use : Use
        What is wanted and what waits.
    """
    from squall.core.years.day_kernels import short_of_store

    want = use.need_of_days(days.month)
    sums = seconds @ np.stack([covering(means.nodes).ravel() for _, means in rows], axis=1).astype(np.float32)
    found = []
    for number, (setup, means) in enumerate(rows):
        inflow, store = sums[:, number].astype(np.float64), use.switched(isinstance(setup.kit.supply, Banked))[0]
        if isinstance(setup.kit.supply, Banked):
            _, motor_a, _, _ = on_volts(setup.table, setup.kit.bank_ohm + setup.pump_ohm, setup.kit.bank_v)
            amps = drawn_a(motor_a, use.bank)
            litres_an_ah = 3600.0 * means.rate_l_s / amps if amps > 0.0 else 0.0
            assert setup.kit.battery is not None
            inflow *= setup.kit.battery.charge_efficiency / 3600.0 * litres_an_ah
            store += usable_ah(setup.kit, use.bank) * litres_an_ah
        found.append(int(short_of_store(inflow * (1.0 + _SLACK), want, store, SHORT_SHARE + _SLACK)))
    return found
