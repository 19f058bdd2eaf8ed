"""A year of measured hours as text, to be kept with a job."""

import json

import numpy as np

from squall.core.sky.whole_year import MeasuredYear

COLUMNS = ("whole_w_m2", "diffuse_w_m2", "air_c")


def to_json(year: MeasuredYear) -> str:
    """A year of hours as text, to be kept."""
    columns = {key: np.round(getattr(year, key), 2).tolist() for key in COLUMNS}
    return json.dumps({"told_by": year.told_by, **columns})


def from_json(text: str) -> MeasuredYear:
    """Back from :func:`to_json`."""
    data = json.loads(text)
    whole, diffuse, air = (np.array(data[key], dtype=np.float64) for key in COLUMNS)
    return MeasuredYear(whole, diffuse, air, data["told_by"])
