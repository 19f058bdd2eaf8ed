"""Panels in a string against the window of what they feed."""

from dataclasses import dataclass
from typing import Literal

from squall.core.drive.solve import PvArray
from squall.core.electrics.modules import STC_IRRADIANCE_W_M2, Module, open_volts_at
from squall.core.errors import require
from squall.core.reason import Reason

StringVerdict = Literal["safe", "too-high", "too-low", "outside-best"]


@dataclass(frozen=True)
class StringWindow:
    """Open volts on the coldest morning, working volts at the hottest, verdict and sentences. [V]"""

    voc_cold_v: float
    vmp_hot_v: float
    verdict: StringVerdict
    reasons: tuple[Reason, ...]


def string_window(
    module: Module,
    in_series: int,
    record_low_c: float,
    hottest_cell_c: float,
    max_input_v: float,
    min_working_v: float,
    best_low_v: float | None = None,
    best_high_v: float | None = None,
) -> StringWindow:
    """Check a string's volts at both ends of the year.

    Parameters
    ----------
    module : Module
        One panel.
    in_series : int
        Panels in the string, 1 to 100.
    record_low_c, hottest_cell_c : float
        Coldest air at first light, hottest cell in full sun. [°C]
    max_input_v, min_working_v : float
        Over the first the controller dies, under the second it stops. [V]
    best_low_v, best_high_v : float, optional
        Window in which it works best. [V]

    Returns
    -------
    StringWindow
        Too high is said before too low, and both before outside the best.

    Notes
    -----
    Open volts by the nameplate's coefficient from 25 °C, in full sun; working volts by the single
    diode in full sun at the hottest cell, and at 25 °C for the upper end of the best window.
    """
    require("record-low", record_low_c, -60.0, 50.0, "temperature")
    require("hottest-cell", hottest_cell_c, -20.0, 110.0, "temperature")
    cold = in_series * open_volts_at(module, record_low_c)
    hot = PvArray(module, in_series, 1, STC_IRRADIANCE_W_M2, hottest_cell_c).point.vmp_v
    mild = in_series * module.vmp_v
    reasons: list[Reason] = []
    verdict: StringVerdict = "safe"
    if best_low_v is not None and hot < best_low_v:
        verdict = "outside-best"
        reasons.append(Reason("hottest-works-best-from", hot=hot, best_low=best_low_v))
    if best_high_v is not None and mild > best_high_v:
        verdict = "outside-best"
        reasons.append(Reason("c-works-best-up", air=25.0, mild=mild, best_high=best_high_v))
    if hot < min_working_v:
        verdict = "too-low"
        reasons.insert(0, Reason("hottest-works-least-needed", hot=hot, min_working=min_working_v))
    if cold > max_input_v:
        verdict = "too-high"
        reasons.insert(0, Reason("coldest-morning-stands-open-over-does", cold=cold, max_input=max_input_v))
    if not reasons:
        reasons.append(Reason("open-coldest-working-hottest-within-window", cold=cold, hot=hot))
    return StringWindow(cold, hot, verdict, tuple(reasons))
