"""Water: density, viscosity and vapour pressure at one atmosphere."""

from dataclasses import dataclass
from functools import lru_cache

from chemicals.iapws import iapws95_Psat, iapws95_rho
from chemicals.viscosity import mu_IAPWS

from squall.core.errors import require

GRAVITY_M_S2 = 9.80665
ATMOSPHERE_PA = 101_325.0


@dataclass(frozen=True)
class Water:
    """Liquid water at one temperature.

    Attributes
    ----------
    temperature_c : float
        Temperature. [°C]
    density_kg_m3 : float
        Density. [kg/m3]
    viscosity_m2_s : float
        Kinematic viscosity. [m2/s]
    vapour_pressure_pa : float
        Saturation pressure. [Pa]
    """

    temperature_c: float
    density_kg_m3: float
    viscosity_m2_s: float
    vapour_pressure_pa: float


@lru_cache(maxsize=256)
def water_at(temperature_c: float = 15.0) -> Water:
    """Properties of liquid water at a temperature and one atmosphere.

    Parameters
    ----------
    temperature_c : float
        0.1 to 60 (below it is ice, above it no pump of this kind is meant for it). [°C]

    Returns
    -------
    Water
        Density, viscosity and vapour pressure.

    Raises
    ------
    OutOfRange
        Outside 0.1 to 60 °C.

    References
    ----------
    IAPWS R6-95(2018) for density and saturation, IAPWS R12-08 for viscosity,
    as implemented by the ``chemicals`` library.

    Examples
    --------
    >>> round(water_at(15.0).density_kg_m3, 1)
    999.1
    """
    require("water-temperature", temperature_c, 0.1, 60.0, "temperature")
    kelvin = temperature_c + 273.15
    density = float(iapws95_rho(kelvin, ATMOSPHERE_PA))  # type: ignore[no-untyped-call]
    return Water(
        temperature_c=temperature_c,
        density_kg_m3=density,
        viscosity_m2_s=float(mu_IAPWS(kelvin, density)) / density,
        vapour_pressure_pa=float(iapws95_Psat(kelvin)),  # type: ignore[no-untyped-call]
    )
