"""American wire gauge: a number to its cross-section and resistance."""

from math import pi

from squall.core.errors import OutOfRange
from squall.core.reason import Reason

_AWG_OHM_MM2_PER_M = 1.0 / 58.0


def awg_number(size: str) -> int:
    """Number of an AWG size: 12 for ``"12"``, -1 for ``"2/0"``.

    Parameters
    ----------
    size : str
        ``"24"`` to ``"4/0"``.

    Returns
    -------
    int
        36 is the thinnest, -3 is 4/0.

    Raises
    ------
    OutOfRange
        For anything else.

    Examples
    --------
    >>> awg_number("2/0")
    -1
    """
    text = size.strip().lower().removeprefix("awg").strip()
    try:
        number = 1 - int(text[:-2]) if text.endswith("/0") else int(text)
    except ValueError:
        raise OutOfRange("awg", repr(size), Reason("awg-sizes")) from None
    if not -3 <= number <= 36:
        raise OutOfRange("awg", repr(size), Reason("awg-sizes"))
    return number


def awg_area_mm2(size: str) -> float:
    """Cross-section of a solid AWG conductor.

    Parameters
    ----------
    size : str
        ``"36"`` to ``"4/0"``.

    Returns
    -------
    float
        Area. [mm2]

    Notes
    -----
    d = 0.127 mm x 92^((36 - n)/39) (ASTM B258).

    Examples
    --------
    >>> round(awg_area_mm2("12"), 3)
    3.309
    """
    diameter_mm = 0.127 * 92.0 ** ((36 - awg_number(size)) / 39.0)
    return float(pi / 4.0 * diameter_mm**2)


def awg_ohm_per_m(size: str) -> float:
    """Resistance of one AWG conductor at 20 °C, copper at 1/58 ohm mm2/m. [ohm/m]"""
    return _AWG_OHM_MM2_PER_M / awg_area_mm2(size)
