"""How far a surface pump can pull."""

from squall.core.errors import require
from squall.core.pipes import Line
from squall.core.water import ATMOSPHERE_PA, GRAVITY_M_S2


def air_pressure(altitude_m: float) -> float:
    """Pressure of the standard atmosphere.

    Parameters
    ----------
    altitude_m : float
        -430 to 9000. [m]

    Returns
    -------
    float
        p0 (1 - 2.25577e-5 h)^5.25588. [Pa]

    References
    ----------
    ISO 2533:1975, standard atmosphere, troposphere.
    """
    require("altitude", altitude_m, -430.0, 9000.0, "m")
    return float(ATMOSPHERE_PA * (1.0 - 2.25577e-5 * altitude_m) ** 5.25588)


def suction_limit(altitude_m: float, suction: Line, flow_m3_s: float, npsh_required_m: float, margin_m: float) -> float:
    """Greatest height of a pump above the water that it draws from.

    Parameters
    ----------
    altitude_m : float
        Of the place. [m]
    suction : Line
        The suction pipes and the water in them; its static head is not counted.
    flow_m3_s : float
        Flow at which it shall work. [m3/s]
    npsh_required_m : float
        Net positive suction head that the pump needs. [m]
    margin_m : float
        Kept in hand. [m]

    Returns
    -------
    float
        Below nil if the pump must stand under water level. [m]

    Notes
    -----
    (p_air - p_vapour)/(rho g) less the suction pipe's losses, the pump's need and the margin.
    """
    water = suction.water
    barometer = (air_pressure(altitude_m) - water.vapour_pressure_pa) / (water.density_kg_m3 * GRAVITY_M_S2)
    return barometer - suction.loss_m(flow_m3_s) - npsh_required_m - margin_m
