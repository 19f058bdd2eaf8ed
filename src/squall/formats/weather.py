"""Weather files: EPW, TMY3-style CSV and PVGIS-like hourly CSV, read through pvlib into a year of hours.

Whatever a file's own clock, its hours are moved to the site's (those that fall out at one end of the
year come in at the other); a leap day is left out; of several years the last whole one is taken. Truncated files, gaps and impossible figures are refused.
"""

import warnings
from collections.abc import Callable
from dataclasses import replace
from io import StringIO
from typing import TYPE_CHECKING, Any

import numpy as np

from squall.core.errors import BadFile
from squall.core.sky.whole_year import MeasuredYear
from squall.words import later

if TYPE_CHECKING:
    import pandas as pd

HOURS = 8760
MOST_BYTES = 12_000_000
MOST_LIGHT_W_M2 = 1500.0


def read(data: bytes, name: str, utc_offset_h: float) -> MeasuredYear:
    """Read a weather file.

    Parameters
    ----------
    data : bytes
        The file.
    name : str
        As the user calls it.
    utc_offset_h : float
        The site's clock less universal time; the year is told by that clock. [h]

    Returns
    -------
    MeasuredYear
        8,760 hours from the first of January.

    Raises
    ------
    BadFile
        Says what is wrong: no known kind, truncated, a gap and where, figures that can't be.
    """
    if len(data) > MOST_BYTES:
        raise BadFile(
            later(
                "{name} is larger than {MOST_BYTES} MB; a year of hours is about 1 to 2 MB.",
                name=name,
                MOST_BYTES=MOST_BYTES // 1_000_000,
            )
        )
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = data.decode("latin-1")
    kind, reader = _kind_of(text, name)
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            hours, at = reader(text)
    except BadFile:
        raise
    except (ValueError, KeyError, IndexError, TypeError, AttributeError, StopIteration) as error:
        raise BadFile(
            later("{name} looks like {kind}, but can't be read as one: is it cut off, or edited?", name=name, kind=kind)
        ) from error
    return replace(_year_of(hours, name, kind, utc_offset_h), at=at)


# The hours, and the place that the file names.
Place = tuple[float, float] | None
Reader = Callable[[str], tuple["pd.DataFrame", Place]]


def _kind_of(text: str, name: str) -> tuple[str, Reader]:
    head = text[:4000]
    lines = head.splitlines()
    if not lines:
        raise BadFile(later("{name} is empty.", name=name))
    if lines[0].upper().startswith("LOCATION,"):
        return "an EPW file", _epw
    if len(lines) > 1 and "GHI" in lines[1].upper() and "DATE" in lines[1].upper():
        return "a TMY3-style CSV", _tmy3
    if "G(h)" in head and "time(UTC)" in head:
        return "a PVGIS-like CSV of a typical year", _pvgis_typical
    if "G(i)" in head or "Gb(i)" in head:
        return "a PVGIS-like hourly CSV", _pvgis_hourly
    raise BadFile(
        later(
            "{name} is no weather file that Squall knows: an EPW begins with LOCATION, a TMY3-style CSV has GHI in its second line, a PVGIS-like CSV has the columns G(i) or G(h).",
            name=name,
        )
    )


def _epw(text: str) -> tuple["pd.DataFrame", Place]:
    from pvlib.iotools import read_epw

    hours, meta = read_epw(StringIO(text))
    return hours[["ghi", "dhi", "temp_air"]], _named(meta)


def _tmy3(text: str) -> tuple["pd.DataFrame", Place]:
    from pvlib.iotools import read_tmy3

    hours, meta = read_tmy3(
        StringIO(text), map_variables=True
    )  # such files name an hour by its end; their order counts
    return hours[["ghi", "dhi", "temp_air"]], _named(meta)


def _pvgis_typical(text: str) -> tuple["pd.DataFrame", Place]:
    from pvlib.iotools import read_pvgis_tmy

    found: Any = read_pvgis_tmy(StringIO(text), pvgis_format="csv", map_variables=True)
    return found[0][["ghi", "dhi", "temp_air"]], _named(found[1])


def _pvgis_hourly(text: str) -> tuple["pd.DataFrame", Place]:
    from pvlib.iotools import read_pvgis_hourly

    hours, meta = read_pvgis_hourly(StringIO(text), pvgis_format="csv", map_variables=True)
    slope = next((line for line in text.splitlines()[:20] if line.lower().startswith("slope")), "")
    if slope and not slope.split(":")[1].strip().split(" ")[0].split("\t")[0].startswith("0"):
        raise BadFile(
            later(
                "That PVGIS-like file is for a tilted plane ({strip}); Squall wants the level one, slope 0, and tilts it itself.",
                strip=slope.strip(),
            )
        )
    if "poa_direct" not in hours:
        raise BadFile(
            later("That PVGIS-like file has only G(i); Squall wants beam and diffuse apart: Gb(i), Gd(i), Gr(i).")
        )
    hours = hours.copy()
    hours["ghi"] = hours["poa_direct"] + hours["poa_sky_diffuse"] + hours.get("poa_ground_diffuse", 0.0)
    hours["dhi"] = hours["poa_sky_diffuse"]
    hours.index = hours.index.floor("h")
    return hours[["ghi", "dhi", "temp_air"]], _named(meta)


def _named(meta: dict[str, Any]) -> Place:
    """Latitude and longitude that a file's head names, wherever its kind puts them; None without."""
    inner = meta.get("inputs", meta)
    inner = inner.get("location", inner) if isinstance(inner, dict) else meta
    try:
        at = float(inner["latitude"]), float(inner["longitude"])
    except (KeyError, TypeError, ValueError):
        return None
    return at if abs(at[0]) <= 90.0 and abs(at[1]) <= 180.0 else None


def _year_of(hours: "pd.DataFrame", name: str, kind: str, utc_offset_h: float) -> MeasuredYear:
    import pandas as pd

    index = pd.DatetimeIndex(hours.index)
    if index.tz is None:
        raise BadFile(later("{name} does not say its clock's difference from universal time.", name=name))
    offset = index[0].utcoffset() if len(index) else None
    file_offset_h = 0.0 if offset is None else offset.total_seconds() / 3600.0
    note = ""
    leap = np.asarray((index.month == 2) & (index.day == 29))
    if len(index) != HOURS and leap.any():
        hours, index, note = hours[~leap], index[~leap], ", its leap day left out"
    clock = np.asarray(index.hour)
    jumps = np.nonzero((np.diff(clock) % 24) != 1)[0]
    if jumps.size:
        at = index[int(jumps[0])]
        raise BadFile(
            later(
                "{name} has a gap or an hour twice after {hour:02d}:00 on {day} {month_name}. Fill it, or take another file.",
                name=name,
                hour=at.hour,
                day=at.day,
                month_name=at.month_name(),
            )
        )
    if len(index) > HOURS:
        counts = pd.Series(index.year).value_counts()
        whole = sorted(year for year, count in counts.items() if count == HOURS)
        if not whole:
            raise BadFile(
                later(
                    "{name} has {index:,} hours and no whole year of {HOURS:,} among them.",
                    name=name,
                    index=len(index),
                    HOURS=HOURS,
                )
            )
        here = np.asarray(index.year == whole[-1])
        hours, index, note = hours[here], index[here], f"{note}, year {whole[-1]}"
    if len(index) < HOURS:
        raise BadFile(
            later(
                "{name} has {index:,} hours; a year has {HOURS:,}. It may be cut off: fetch it again, whole.",
                name=name,
                index=len(index),
                HOURS=HOURS,
            )
        )
    if index[12].month != 1 or index[12].day != 1:
        raise BadFile(
            later(
                "{name} begins in {month_name}; a year from January to December is wanted.",
                name=name,
                month_name=index[12].month_name(),
            )
        )
    table = hours[["ghi", "dhi", "temp_air"]].to_numpy(dtype=np.float64)
    moved = np.roll(table, round(utc_offset_h - file_offset_h), axis=0)
    return _checked(moved, name, f"{name} ({kind}{note})")


def _checked(table: "np.ndarray[Any, Any]", name: str, told_by: str) -> MeasuredYear:
    if not np.isfinite(table).all():
        row = int(np.argmin(np.isfinite(table).all(axis=1)))
        raise BadFile(
            later(
                "{name} has an hour without a figure, hour {row} of the year. Fill it, or take another file.",
                name=name,
                row=row + 1,
            )
        )
    light, air = table[:, :2], table[:, 2]
    if light.min() < -20.0 or light.max() > MOST_LIGHT_W_M2:
        raise BadFile(
            later(
                "{name} has light of {min:.0f} to {max:irradiance}; 0 to {MOST_LIGHT_W_M2:.0f} can be.",
                name=name,
                min=light.min(),
                max=light.max(),
                MOST_LIGHT_W_M2=MOST_LIGHT_W_M2,
            )
        )
    if air.min() < -60.0 or air.max() > 60.0:
        raise BadFile(
            later(
                "{name} has air of {min:.0f} to {max:temperature}; -60 to 60 can be.",
                name=name,
                min=air.min(),
                max=air.max(),
            )
        )
    if light[:, 0].sum() <= 0.0:
        raise BadFile(later("{name} has no light in any hour.", name=name))
    light = np.maximum(light, 0.0)
    return MeasuredYear(light[:, 0].copy(), light[:, 1].copy(), air.copy(), told_by)
