"""The climate of a place whose light the world's table knows: light, haze and air put together, so that they agree."""

import numpy as np

from squall.core.sky.air import Air
from squall.core.sky.climate import Climate, MonthClimate, Site
from squall.core.sky.ground import turbidity_at
from squall.core.sky.sunlight import Floats, clear_sky
from squall.core.sky.typical_days import STEP_H, STEPS, typical_path
from squall.core.sky.world import PlaceLight

# The mean day has at most this share of a clear one's light: a choice of ours. [-]
MOST_OF_CLEAR = 0.97
# The reanalysis's clear months read no brighter than this. [-]
_MOST_CLEARNESS = 0.95


def haze_at(light: PlaceLight, site: Site) -> tuple[float, ...]:
    """Linke turbidity of each month's clear day, 1 to 10. [-]

    Parameters
    ----------
    light : PlaceLight
        The months' light.
    site : Site
        The place with its height and clock.

    Notes
    -----
    pvlib's table says how hazy a clear day is. In dry country the reanalysis's mean day sometimes outshines such a clear
    day; there the air is taken as so much cleaner that the mean day is 97 % of a clear one (down to 1, the cleanest there
    is), for a mean day can't be brighter than a clear one. The logarithm of a day's light falls evenly with turbidity.
    """
    haze = np.array(turbidity_at(light.latitude_deg, light.longitude_deg))
    path = typical_path(site)

    def day_kwh(turbidity: Floats) -> Floats:
        whole = clear_sky(path, site.altitude_m, np.repeat(turbidity, STEPS)).whole
        total: Floats = np.maximum(whole.reshape(12, STEPS).sum(axis=1) * STEP_H / 1000.0, 1e-6)
        return total

    hazy, cleanest = day_kwh(haze), day_kwh(np.ones(12))
    wanted = np.array([month.mean_kwh_m2 for month in light.months]) / MOST_OF_CLEAR
    fall = np.log(cleanest / hazy)
    share = np.divide(np.log(np.maximum(wanted / hazy, 1.0)), fall, out=np.zeros(12), where=fall > 0.0)
    return tuple(float(value) for value in haze + (1.0 - haze) * np.clip(share, 0.0, 1.0))


def climate_at(light: PlaceLight, air: Air, site: Site, name: str) -> Climate:
    """The climate of a place: its light by the world's table, its haze to go with it, its air as given."""
    haze = haze_at(light, site)
    months = tuple(
        MonthClimate(
            min(clear, _MOST_CLEARNESS), air.t_min_c[n], air.t_max_c[n], haze[n], air.rain_mm[n], air.wet_days[n]
        )
        for n, clear in enumerate(light.clearness)
    )
    return Climate(name, months, air.record_low_c, air.record_high_c, light, air.guessed)
