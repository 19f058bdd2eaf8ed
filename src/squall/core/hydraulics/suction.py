"""How far a surface pump can pull."""

from dataclasses import dataclass

from squall.core.errors import require
from squall.core.hydraulics.pipes import Line
from squall.core.hydraulics.water import ATMOSPHERE_PA, GRAVITY_M_S2, Water

# Kept between the lowest pressure in a line and the pressure at which water boils: a guess. [m]
BOILING_MARGIN_M = 1.0


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

    Examples
    --------
    >>> round(air_pressure(0.0))
    101325
    """
    require("altitude", altitude_m, -430.0, 9000.0, "length")
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
    losses = suction.loss_m(flow_m3_s)
    return barometer_m(altitude_m, suction.water) - losses - npsh_required_m - margin_m


def barometer_m(altitude_m: float, water: Water) -> float:
    """Air pressure over vapour pressure, as a column of that water: what a vacuum could lift. [m]"""
    return (air_pressure(altitude_m) - water.vapour_pressure_pa) / (water.density_kg_m3 * GRAVITY_M_S2)


@dataclass(frozen=True)
class SuctionCheck:
    """A surface pump on its bank, each part of the sum in metres of water.

    Attributes
    ----------
    barometer_m : float
        Air pressure less vapour pressure.
    losses_m : float
        Lost in the suction pipe at the flow.
    npsh_required_m, margin_m : float
        What the pump needs; what is kept in hand.
    stands_m : float
        How high the pump stands above the water.
    """

    barometer_m: float
    losses_m: float
    npsh_required_m: float
    margin_m: float
    stands_m: float

    @property
    def limit_m(self) -> float:
        """How high it may stand. [m]"""
        return self.barometer_m - self.losses_m - self.npsh_required_m - self.margin_m

    @property
    def spare_m(self) -> float:
        """How much higher it could stand; below nil it will not draw. [m]"""
        return self.limit_m - self.stands_m


def check_suction(
    altitude_m: float, suction: Line, flow_m3_s: float, npsh_required_m: float, margin_m: float, stands_m: float
) -> SuctionCheck:
    """Every part of :func:`suction_limit` for a pump that stands at a height above the water.

    Parameters
    ----------
    altitude_m : float
        Height of the place above the sea. [m]
    suction : Line
        The line from strainer to pump.
    flow_m3_s : float
        Flow in it. [m3/s]
    npsh_required_m : float
        What the pump asks at its inlet. [m]
    margin_m : float
        What is kept over. [m]
    stands_m : float
        Height of the pump above the water. [m]

    Returns
    -------
    SuctionCheck
        The limit, its parts and how far the pump is from it.
    """
    return SuctionCheck(
        barometer_m(altitude_m, suction.water), suction.loss_m(flow_m3_s), npsh_required_m, margin_m, stands_m
    )
