"""A pump that a pressure switch starts and stops: whether it ever stops, whether it starts again, and how often at a small flow.

Common practice for the margins and the starts, no source; the buffer's water by Boyle's law, at the same heat.
"""

from dataclasses import dataclass

from squall.core.drive.motors import Motor, curve_at, shut_off_head
from squall.core.errors import OutOfRange, SquallError
from squall.core.hydraulics.curves import PumpCurve
from squall.core.reason import Between, Quantity, Reason

# The pump must push over the cut-out by this share; the cut-in must stand over the water column by so much. [-], [m]
OVER_CUT_OUT, OVER_COLUMN_M = 1.05, 0.5
# Air over the water in a buffer before any water comes, of the cut-in; the air's own pressure. [-], [m]
PRECHARGE, AIR_M = 0.9, 10.33
# More starts an hour wear motor, switch and relay. [1/h]
MOST_STARTS_H = 60.0


@dataclass(frozen=True)
class Cycles:
    """What a pump gives between cut-in and cut-out [m3/s], how long it then runs [s], and its starts an hour, None where no buffer holds it apart. [1/h]"""

    gives_m3_s: float
    run_s: float
    starts_h: float | None

    @property
    def too_often(self) -> bool:
        """Whether it starts more often than motor and switch bear."""
        return self.starts_h is None or self.starts_h > MOST_STARTS_H


@dataclass(frozen=True)
class PressureSwitch:
    """A pressure switch at the pump.

    Attributes
    ----------
    cut_in_m, cut_out_m : float
        Heads at which it starts and stops the pump. [m]
    buffer_l : float
        Size of a pressure tank behind it, 0 for none. [L]
    small_flow_m3_s : float or None
        The least that is drawn for long, a dripper line or a filling trough; None where nobody said. [m3/s]
    """

    cut_in_m: float
    cut_out_m: float
    buffer_l: float = 0.0
    small_flow_m3_s: float | None = None

    def __post_init__(self) -> None:
        if not 0.0 < self.cut_in_m < self.cut_out_m:
            raise OutOfRange("cut-in", Quantity(self.cut_in_m, "pressure"), Between(0.0, self.cut_out_m, "pressure"))

    @property
    def buffered_l(self) -> float:
        """Water that the pressure tank gives between cut-out and cut-in. [L]

        Examples
        --------
        >>> round(PressureSwitch(20.0, 30.0, 8.0).buffered_l, 2)
        1.85
        """
        air = PRECHARGE * self.cut_in_m + AIR_M
        return self.buffer_l * air * (1.0 / (self.cut_in_m + AIR_M) - 1.0 / (self.cut_out_m + AIR_M))

    def refusal(self, motor: Motor, volts_v: float, column_m: float) -> Reason | None:
        """Why a pump at given volts [V] never stops, or after its first stop never starts again under a water column [m]; None if it does both."""
        if motor.kind == "centrifugal":
            most = shut_off_head(motor, volts_v)
            if most < OVER_CUT_OUT * self.cut_out_m:
                return Reason("pressure-switch-never-stops", most=most, cut_out=self.cut_out_m)
        if self.cut_in_m < column_m + OVER_COLUMN_M:
            return Reason("pressure-switch-never-starts", column=column_m, cut_in=self.cut_in_m)
        return None

    def cycles(self, motor: Motor, volts_v: float) -> Cycles | None:
        """How often it starts at the small flow, at given volts [V]; None where that flow isn't known, or is more than the pump gives."""
        if self.small_flow_m3_s is None or self.small_flow_m3_s <= 0.0:
            return None
        gives = self.mean_flow(motor, volts_v)
        if gives is None or gives <= self.small_flow_m3_s:
            return None
        water_m3 = self.buffered_l / 1000.0
        idle, run = water_m3 / self.small_flow_m3_s, water_m3 / (gives - self.small_flow_m3_s)
        whole = idle + run
        return Cycles(gives, run, 3600.0 / whole if whole > 0.0 else None)

    def mean_flow(self, motor: Motor, volts_v: float) -> float | None:
        """What the pump gives half way between cut-in and cut-out; None beyond what was measured. [V] to [m3/s]"""
        try:
            return flow_at_head(curve_at(motor, volts_v), 0.5 * (self.cut_in_m + self.cut_out_m))
        except SquallError:
            return None


def flow_at_head(curve: PumpCurve, head_m: float) -> float | None:
    """Flow at which a falling curve stands at a head; None outside its points. [m], [m3/s]"""
    low, high = curve.first[0], curve.last[0]
    if not curve.last[1] <= head_m <= curve.first[1]:
        return None
    for _ in range(60):
        middle = 0.5 * (low + high)
        low, high = (middle, high) if curve.head_m(middle) > head_m else (low, middle)
    return 0.5 * (low + high)
