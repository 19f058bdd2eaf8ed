"""Derives ``core/sky/data/world_light.npz``: how a day's light on the level is spread, for each 3-degree cell of land and month.

Source: the package ``gsee-climate-data`` 1.0.0 (S. Pfenninger; code BSD 3-Clause), whose data are histograms of
daily light of NASA's MERRA-2 reanalysis, 2011 to 2015. It is a development dependency; what ships is our table alone.

For each cell and month the histogram becomes the light that given shares of the days stay under, and its mean.
What a smoothed histogram puts below nil is nil. The two northernmost rows have no December: the sun is down.
"""

from pathlib import Path

import gsee_climate_data
import numpy as np

TABLE = Path(__file__).parent.parent / "src" / "squall" / "core" / "sky" / "data" / "world_light.npz"
SHARES = np.array([0, 1, 2.5, 5, 10, 15, 20, 25, 30, 40, 50, 60, 70, 75, 80, 85, 90, 95, 97.5, 99, 100]) / 100.0
UNIT_W_M2 = 0.1


def quantiles(light_w_m2: np.ndarray, weight: np.ndarray) -> np.ndarray:
    """Light that each of SHARES of the days stays under, from a histogram of evenly spaced bins. [W/m2]"""
    half = (light_w_m2[1] - light_w_m2[0]) / 2.0
    edges = np.concatenate([[light_w_m2[0] - half], light_w_m2 + half])
    under = np.concatenate([[0.0], np.cumsum(weight / weight.sum())])
    found: np.ndarray = np.maximum(np.interp(SHARES, under, edges), 0.0)
    return found


def main() -> None:
    """Write the table."""
    data = gsee_climate_data.load()
    light, weight = np.asarray(data["xk"], float), np.nan_to_num(np.asarray(data["pk"], float))
    rows, columns = np.nonzero(weight[:, :, 0].sum(axis=-1) > 0.0)
    spread = np.zeros((rows.size, 12, SHARES.size))
    mean = np.zeros((rows.size, 12))
    for cell, (i, j) in enumerate(zip(rows, columns, strict=True)):
        for month in range(12):
            x, p = light[i, j, month], weight[i, j, month]
            if p.sum() > 0.0:
                spread[cell, month] = quantiles(x, p)
                mean[cell, month] = float((np.maximum(x, 0.0) * p).sum() / p.sum())
    TABLE.parent.mkdir(exist_ok=True)
    np.savez_compressed(
        TABLE,
        latitude_deg=np.asarray(data["lat"])[rows].astype(np.int16),
        longitude_deg=np.asarray(data["lon"])[columns].astype(np.int16),
        shares=SHARES,
        # Steps from one share to the next pack better than the light itself.
        steps=np.diff(np.round(spread / UNIT_W_M2), axis=-1, prepend=0.0).astype(np.uint16),
        mean=np.round(mean / UNIT_W_M2).astype(np.uint16),
        unit_w_m2=UNIT_W_M2,
    )
    print(f"{rows.size} cells, {TABLE.stat().st_size / 1e6:.2f} MB")


if __name__ == "__main__":
    main()
