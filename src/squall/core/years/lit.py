"""The lit half hours of the typical days, and the charge that panels bring a bank in them."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from squall.core.electrics.modules import Module, diode_at
from squall.core.kit.course import DARK_W_M2, PanelStates, charge_at
from squall.core.kit.parts import Controller, Panel
from squall.core.kit.setup import Setup
from squall.core.sky.typical_days import STEP_H, Light, Post

Floats = NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class LitLight:
    """The lit half hours of the year, the day each belongs to, and one module's states in them.

    `day` counts the twelve clear days first, then the twelve average ones. `shaded_w_m2` is the
    light on a panel in a near shadow, None where nothing stands near.
    """

    lit: NDArray[np.bool_]
    day: NDArray[np.int64]
    states: PanelStates
    plane_w_m2: Floats
    cell_c: Floats
    shaded_w_m2: Floats | None = None
    post: Post | None = None


@lru_cache(maxsize=256)
def lit_light(light: Light, module: Module) -> LitLight:
    """Diode and maximum power of one module in every lit half hour, remembered per light.

    Parameters
    ----------
    light : Light
        The year's light.
    module : Module
        The panel.

    Returns
    -------
    LitLight
        Half hours with more than 5 W/m2.
    """
    lit = light.plane_w_m2 > DARK_W_M2
    diode = diode_at(module, light.plane_w_m2[lit], light.cell_c[lit])
    kind, month, _ = np.nonzero(lit)
    shaded = None if light.shaded_w_m2 is None else light.shaded_w_m2[lit]
    return LitLight(
        lit, kind * 12 + month, PanelStates(diode), light.plane_w_m2[lit], light.cell_c[lit], shaded, light.post
    )


def charge_current(setup: Setup, light: Light) -> Floats:
    """Current into the battery bank in each lit half hour. [A]

    A tracking charge controller turns the array's maximum power, less the cable's loss, into
    current at the bank's charging volts; a switching one passes the array's own current at those volts.
    Both stop at their rated current.
    """
    kit, layout, cabling = setup.kit, setup.layout, setup.cabling
    assert kit.controller is not None
    return _remembered_charge(
        kit.panel, kit.in_series, kit.in_parallel, kit.controller, kit.charging_v, cabling.array_ohm(layout), light
    )


def daily_charge(setup: Setup, light: Light) -> Floats:
    """Charge into the battery bank on each day, shape (2, 12). [Ah]"""
    kit = setup.kit
    amps = charge_current(setup, light)
    day = lit_light(light, kit.panel.module).day
    charge: Floats = np.bincount(day, amps, 24).reshape(2, 12).astype(np.float64) * STEP_H
    return charge


@lru_cache(maxsize=512)
def _remembered_charge(
    panel: Panel,
    in_series: int,
    in_parallel: int,
    controller: Controller,
    into_v: float,
    array_ohm: float,
    light: Light,
) -> Floats:
    sunlit = lit_light(light, panel.module)
    return charge_at(controller, into_v, array_ohm, sunlit.states, in_series, in_parallel)
