"""Sums of strings, starting light and reserve: ``string-window``, ``start-irradiance``, ``autonomy``."""

from typing import Annotated, Literal

from pydantic import Field

from squall.core.drive.solve import PvArray, PvController, start_irradiance
from squall.core.drive.strings import string_window
from squall.core.electrics.energy import autonomy_hours
from squall.sums.fields import CellCelsius, Count, NotNegative, Positive, Share, Strict, Volts
from squall.sums.hydraulics import LineIn
from squall.sums.power import ModuleIn, MotorIn


class StringIn(Strict):
    """A string and the window of what it feeds."""

    module: ModuleIn
    modules_in_series: Count
    record_low_c: Annotated[float, Field(ge=-60.0, le=50.0)]
    hottest_cell_c: Annotated[float, Field(ge=-20.0, le=110.0)]
    max_input_v: Volts
    min_working_v: NotNegative
    best_low_v: NotNegative | None = None
    best_high_v: Volts | None = None


class StringOut(Strict):
    """Volts at both ends of the year, and the verdict."""

    voc_cold_v: float
    vmp_hot_v: float
    verdict: Literal["safe", "too-high", "too-low", "outside-best"]
    reasons: list[str]


def sum_string_window(given: StringIn) -> StringOut:
    """Whether a string stays within its controller's window from the coldest to the hottest."""
    found = string_window(
        given.module.module(),
        given.modules_in_series,
        given.record_low_c,
        given.hottest_cell_c,
        given.max_input_v,
        given.min_working_v,
        given.best_low_v,
        given.best_high_v,
    )
    return StringOut(
        voc_cold_v=found.voc_cold_v,
        vmp_hot_v=found.vmp_hot_v,
        verdict=found.verdict,
        reasons=[str(said) for said in found.reasons],
    )


class UnlitArrayIn(Strict):
    """An array at a cell temperature, in light yet to be found."""

    type: Literal["pv"]
    module: ModuleIn
    modules_in_series: Count = 1
    strings_in_parallel: Count = 1
    cell_temperature_c: CellCelsius

    def array(self) -> PvArray:
        """The core's array, in the dark."""
        return PvArray(
            self.module.module(), self.modules_in_series, self.strings_in_parallel, 0.0, self.cell_temperature_c
        )


class UnlitControllerIn(UnlitArrayIn):
    """The same behind a pump controller."""

    type: Literal["pv-controller"]  # type: ignore[assignment]
    efficiency: Share
    min_v: NotNegative
    max_v: Volts
    out_max_v: Volts


class StartIn(LineIn):
    """As ``drive`` with a PV source, less its irradiance."""

    source: Annotated[UnlitArrayIn | UnlitControllerIn, Field(discriminator="type")]
    cable_resistance_ohm: NotNegative
    motor: MotorIn


class StartOut(Strict):
    """Light at which water first arrives, or null with why not."""

    irradiance_w_per_m2: float | None
    why_not: str | None


def sum_start(given: StartIn) -> StartOut:
    """Least light at which water first arrives."""
    source: PvArray | PvController = given.source.array()
    if isinstance(given.source, UnlitControllerIn):
        s = given.source
        source = PvController(s.array(), s.efficiency, s.min_v, s.max_v, s.out_max_v)
    light, why = start_irradiance(source, given.cable_resistance_ohm, given.motor.motor(), given.line())
    return StartOut(irradiance_w_per_m2=light, why_not=None if why is None else str(why))


class AutonomyIn(Strict):
    """A battery and a steady load."""

    battery_ah: Positive
    usable_fraction: Share
    efficiency: Share = 1.0
    load_a: Positive


class AutonomyOut(Strict):
    """Hours that the battery carries the load."""

    hours: float


def sum_autonomy(given: AutonomyIn) -> AutonomyOut:
    """Hours that a full battery carries a load."""
    return AutonomyOut(hours=autonomy_hours(given.battery_ah, given.usable_fraction, given.efficiency, given.load_a))
