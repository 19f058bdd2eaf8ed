"""PV modules and arrays: the single diode, from a nameplate."""

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from squall.core.errors import BadNameplate, OutOfRange
from squall.core.reason import Between, Quantity, Reason

STC_IRRADIANCE_W_M2 = 1000.0
STC_CELL_C = 25.0
# Volts of a fitted curve that are compared with its nameplate: a step is less than a third of the tolerance.
_LOOKED_AT = 801
_NAMEPLATE_TOLERANCE = 0.005


@dataclass(frozen=True)
class Module:
    """A panel's nameplate, at 1000 W/m2 and 25 °C cell.

    Attributes
    ----------
    voc_v, isc_a : float
        Open-circuit volts and short-circuit amps. [V], [A]
    vmp_v, imp_a : float
        Volts and amps at maximum power. [V], [A]
    cells : int
        Cells in series.
    isc_percent_per_k, voc_percent_per_k : float
        Change with cell temperature. [%/K]
    light_share : float
        What dirt and age leave of its light current; 1 as stated. [-]
    """

    voc_v: float
    isc_a: float
    vmp_v: float
    imp_a: float
    cells: int
    isc_percent_per_k: float
    voc_percent_per_k: float
    light_share: float = 1.0

    def __post_init__(self) -> None:
        if not 0.0 < self.vmp_v < self.voc_v:
            raise BadNameplate(Reason("best-volts-must-above-below-open", vmp=self.vmp_v, voc=self.voc_v))
        if not 0.0 < self.imp_a < self.isc_a:
            raise BadNameplate(Reason("best-amps-must-above-below-short", imp=self.imp_a, isc=self.isc_a))
        if not 1 <= self.cells <= 300:
            raise OutOfRange("cells-series", self.cells, Between(1, 300, "number"))
        per_cell = self.voc_v / self.cells
        if not 0.3 <= per_cell <= 1.2:
            raise BadNameplate(
                Reason("over-cells-cell-silicon-gives-count", voc=self.voc_v, cells=self.cells, per_cell=per_cell)
            )
        if not -1.0 <= self.voc_percent_per_k < 0.0:
            raise OutOfRange(
                "open-volts-per-kelvin",
                Quantity(self.voc_percent_per_k, "per-kelvin"),
                Between(-1.0, 0.0, "per-kelvin"),
            )
        if not -0.5 <= self.isc_percent_per_k <= 0.5:
            raise OutOfRange(
                "short-circuit-amps-per-kelvin",
                Quantity(self.isc_percent_per_k, "per-kelvin"),
                Between(-0.5, 0.5, "per-kelvin"),
            )

    @property
    def watts(self) -> float:
        """Nameplate power. [W]"""
        return self.vmp_v * self.imp_a


@dataclass(frozen=True)
class DiodeReference:
    """De Soto's five parameters and the temperature term, at 1000 W/m2 and 25 °C."""

    light_current_a: float
    saturation_current_a: float
    series_ohm: float
    shunt_ohm: float
    modified_ideality_v: float
    isc_a_per_k: float


@dataclass(frozen=True)
class Diode:
    """The five parameters at given light and temperature; fields are arrays of one shape.

    I = IL - I0 (exp((V + I Rs)/a) - 1) - (V + I Rs)/Rsh, for one module.
    """

    light_current_a: NDArray[np.float64]
    saturation_current_a: NDArray[np.float64]
    series_ohm: NDArray[np.float64]
    shunt_ohm: NDArray[np.float64]
    ideality_v: NDArray[np.float64]


@dataclass(frozen=True)
class ArrayPoint:
    """The marked points of an array's curve at one light and temperature."""

    isc_a: float
    voc_v: float
    imp_a: float
    vmp_v: float
    pmp_w: float


@lru_cache(maxsize=256)
def fit_module(module: Module) -> DiodeReference:
    """Find De Soto's reference parameters from a nameplate.

    Parameters
    ----------
    module : Module
        The nameplate.

    Returns
    -------
    DiodeReference
        The parameters.

    Raises
    ------
    BadNameplate
        If no single diode gives these figures within 0.5 %.

    References
    ----------
    W. De Soto, S. A. Klein, W. A. Beckman, "Improvement and validation of a model for
    photovoltaic array performance", Solar Energy 80 (2006), 78-88; solved by pvlib.
    """
    from pvlib.ivtools.sdm import fit_desoto, fit_desoto_batzelis

    isc_a_per_k = module.isc_a * module.isc_percent_per_k / 100.0
    voc_v_per_k = module.voc_v * module.voc_percent_per_k / 100.0
    nameplate = (module.vmp_v, module.imp_a, module.voc_v, module.isc_a)
    starts: list[dict[str, float]] = [{}]
    try:
        close = fit_desoto_batzelis(*nameplate, isc_a_per_k, voc_v_per_k)
        # Batzelis' closed form lies so near that the equations close in a fiftieth of the steps.
        starts.insert(
            0,
            {
                "IL_0": close["I_L_ref"],
                "Io_0": close["I_o_ref"],
                "Rs_0": close["R_s"],
                "Rsh_0": close["R_sh_ref"],
                "a_0": close["a_ref"],
            },
        )
    except (ValueError, RuntimeError, FloatingPointError):
        pass
    for start in starts:
        for method in ("lm", "hybr"):
            try:
                with np.errstate(all="ignore"):
                    found, _ = fit_desoto(
                        *nameplate,
                        isc_a_per_k,
                        voc_v_per_k,
                        module.cells,
                        init_guess=start,
                        root_kwargs={"method": method},
                    )
            except (ValueError, RuntimeError, FloatingPointError):
                continue
            reference = DiodeReference(
                light_current_a=float(found["I_L_ref"]),
                saturation_current_a=float(found["I_o_ref"]),
                series_ohm=float(found["R_s"]),
                shunt_ohm=float(found["R_sh_ref"]),
                modified_ideality_v=float(found["a_ref"]),
                isc_a_per_k=isc_a_per_k,
            )
            if _agrees(module, reference):
                return reference
    raise BadNameplate(
        Reason(
            "these-panel-figures-contradict-one-another",
            voc=module.voc_v,
            isc=module.isc_a,
            vmp=module.vmp_v,
            imp=module.imp_a,
        )
    )


def _agrees(module: Module, reference: DiodeReference) -> bool:
    numbers = (
        reference.light_current_a,
        reference.saturation_current_a,
        reference.series_ohm,
        reference.shunt_ohm,
        reference.modified_ideality_v,
    )
    if not all(np.isfinite(numbers)) or min(numbers[0], numbers[1], numbers[3], numbers[4]) <= 0.0 or numbers[2] < 0.0:
        return False
    volts = module.voc_v * np.linspace(0.0, 1.0 + 2.0 * _NAMEPLATE_TOLERANCE, _LOOKED_AT)
    amps = module_current(
        volts, _scale(reference, np.full(_LOOKED_AT, STC_IRRADIANCE_W_M2), np.full(_LOOKED_AT, STC_CELL_C))
    )
    if not np.isfinite(amps).all() or amps[-1] > 0.0:
        return False
    best = int(np.argmax(volts * amps))
    open_v = float(np.interp(0.0, -amps, volts))
    pairs = (
        (open_v, module.voc_v),
        (float(amps[0]), module.isc_a),
        (float(volts[best] * amps[best]), module.watts),
        (float(volts[best]), module.vmp_v),
    )
    return all(abs(got / want - 1.0) <= _NAMEPLATE_TOLERANCE for got, want in pairs)


def diode_at(module: Module, irradiance_w_m2: NDArray[np.float64], cell_c: NDArray[np.float64]) -> Diode:
    """The module's diode in given light and heat.

    Parameters
    ----------
    module : Module
        The nameplate.
    irradiance_w_m2 : NDArray
        Light on the panel's plane, above 0 to 1500. [W/m2]
    cell_c : NDArray
        Cell temperature, -60 to 120, same shape. [°C]

    Returns
    -------
    Diode
        Arrays of that shape.

    Raises
    ------
    OutOfRange
        Outside those ranges.
    BadNameplate
        If the nameplate can't be fitted.
    """
    if irradiance_w_m2.size:
        _check_range("irradiance", irradiance_w_m2, 0.0, 1500.0, "irradiance")
        _check_range("cell-temperature", cell_c, -60.0, 120.0, "temperature")
    if module.light_share == 1.0:
        return _scale(fit_module(module), irradiance_w_m2, cell_c)
    stated = _scale(fit_module(replace(module, light_share=1.0)), irradiance_w_m2, cell_c)
    return replace(stated, light_current_a=stated.light_current_a * module.light_share)


def _check_range(field: str, values: NDArray[np.float64], low: float, high: float, kind: str) -> None:
    for value in (float(np.min(values)), float(np.max(values))):
        if not low <= value <= high:
            raise OutOfRange(field, Quantity(value, kind), Between(low, high, kind))


def _scale(reference: DiodeReference, irradiance: NDArray[np.float64], cell_c: NDArray[np.float64]) -> Diode:
    from pvlib.pvsystem import calcparams_desoto

    light, saturation, series, shunt, ideality = calcparams_desoto(
        np.maximum(irradiance, 1e-6),
        cell_c,
        reference.isc_a_per_k,
        reference.modified_ideality_v,
        reference.light_current_a,
        reference.saturation_current_a,
        reference.shunt_ohm,
        reference.series_ohm,
    )
    return Diode(light, saturation, np.broadcast_to(series, light.shape).copy(), shunt, ideality)


def array_point(diode: Diode, in_series: int, in_parallel: int) -> list[ArrayPoint]:
    """Marked points of an array of like modules, for each light of `diode`.

    Parameters
    ----------
    diode : Diode
        One module's parameters, one-dimensional.
    in_series, in_parallel : int
        Modules in a string, and strings.

    Returns
    -------
    list[ArrayPoint]
        One for each light.
    """
    from pvlib.pvsystem import singlediode

    found = singlediode(
        diode.light_current_a, diode.saturation_current_a, diode.series_ohm, diode.shunt_ohm, diode.ideality_v
    )
    columns = [np.atleast_1d(np.asarray(found[key])) for key in ("i_sc", "v_oc", "i_mp", "v_mp", "p_mp")]
    return [
        ArrayPoint(
            isc_a=float(isc) * in_parallel,
            voc_v=float(voc) * in_series,
            imp_a=float(imp) * in_parallel,
            vmp_v=float(vmp) * in_series,
            pmp_w=float(pmp) * in_series * in_parallel,
        )
        for isc, voc, imp, vmp, pmp in zip(*columns, strict=True)
    ]


def open_and_short(diode: Diode) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Open volts and short-circuit amps of one module at each light, as :func:`array_point` has them and a hundred times as fast. [V], [A]"""
    from pvlib.pvsystem import i_from_v, v_from_i

    of = (diode.light_current_a, diode.saturation_current_a, diode.series_ohm, diode.shunt_ohm, diode.ideality_v)
    return np.asarray(v_from_i(0.0, *of)), np.asarray(i_from_v(0.0, *of))


def module_current(volts_v: NDArray[np.float64], diode: Diode) -> NDArray[np.float64]:
    """Current of one module at given volts, negative beyond open circuit. [A]"""
    from pvlib.pvsystem import i_from_v

    current: NDArray[np.float64] = np.asarray(
        i_from_v(
            volts_v,
            diode.light_current_a,
            diode.saturation_current_a,
            diode.series_ohm,
            diode.shunt_ohm,
            diode.ideality_v,
        )
    )
    return current


def open_volts_at(module: Module, cell_c: float) -> float:
    """Open-circuit volts of one module in full sun at a cell temperature, from its coefficient. [V]"""
    return module.voc_v * (1.0 + module.voc_percent_per_k / 100.0 * (cell_c - STC_CELL_C))
