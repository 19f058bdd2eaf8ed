"""Where a falling or rising function is nil."""

from collections.abc import Callable

from squall.core.errors import Unsolvable
from squall.core.reason import Reason


def root(function: Callable[[float], float], low: float, high: float, near: float = 1e-12) -> float:
    """The place between two bounds of opposite sign at which a function is nil.

    Parameters
    ----------
    function : callable
        Continuous, or with a single jump through nil.
    low, high : float
        Bounds at which its signs differ, or one of which is nil.
    near : float
        How near, as a share of the place. [-]

    Returns
    -------
    float
        By Brent's method. [as the bounds]

    Raises
    ------
    Unsolvable
        If the signs do not differ, or the function is not a number somewhere.

    Examples
    --------
    >>> round(root(lambda x: x * x - 2.0, 0.0, 2.0), 9)
    1.414213562
    """
    from scipy.optimize import brentq

    try:
        return float(brentq(function, low, high, xtol=1e-15, rtol=near))
    except (ValueError, RuntimeError) as error:
        raise Unsolvable(Reason("no-working-point-found-these-figures")) from error
