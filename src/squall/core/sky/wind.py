"""Wind on panels: the force, and as a guide the ballast, pegs or depth of a post. Local codes decide."""

from dataclasses import dataclass
from math import cos, radians, sin, sqrt

from squall.core.errors import OutOfRange, require
from squall.core.hydraulics.water import GRAVITY_M_S2
from squall.core.reason import Quantity, Reason

# Force on a tilted plate over the wind's pressure on its whole face, either way: a guess after plate tables, 1.2 to 1.8. [-]
FORCE_COEFFICIENT = 1.4
SAFETY = 1.5
# What one stout peg holds in firm ground: a guess after common practice, no source. [N]
PEG_HOLDS_N = 400.0
# Side bearing of firm sandy or silty ground, growing with depth: from memory of the building codes' presumptive values,
# which hold their own safety; an isolated post that may move a little at the ground is given twice that. [Pa/m]
SIDE_BEARING_PA_M, ISOLATED_POST = 15_700.0, 2.0
# Feet of a frame on firm ground: a guess after common practice, no source. [-]
FRICTION = 0.4


@dataclass(frozen=True)
class WindLoad:
    """A gust on an array: pressure [Pa], force square to the panels, its lift and its push [N]."""

    pressure_pa: float
    force_n: float
    lift_n: float
    push_n: float


def wind_load(gust_m_s: float, area_m2: float, tilt_deg: float, altitude_m: float) -> WindLoad:
    """Force of a gust on tilted panels.

    Parameters
    ----------
    gust_m_s : float
        5 to 70. [m/s]
    area_m2 : float
        Of all panels, above 0. [m2]
    tilt_deg : float
        From level. [°]
    altitude_m : float
        Thinner air presses less. [m]

    Notes
    -----
    q = rho v^2 / 2, force = 1.4 q A, at right angles to the panels; from behind it lifts.

    Examples
    --------
    >>> round(wind_load(25.0, 1.0, 35.0, 0.0).pressure_pa)
    383
    """
    require("gust", gust_m_s, 5.0, 70.0, "wind")
    if area_m2 <= 0.0:
        raise OutOfRange("area-panels", Quantity(area_m2, "ground"), Reason("more-than-nothing"))
    density = 1.225 * (1.0 - 2.25577e-5 * altitude_m) ** 4.2559
    pressure = 0.5 * density * gust_m_s**2
    force = FORCE_COEFFICIENT * pressure * area_m2
    return WindLoad(pressure, force, force * cos(radians(tilt_deg)), force * sin(radians(tilt_deg)))


def ballast_kg(load: WindLoad, panels_kg: float, height_m: float, base_m: float) -> float:
    """Ballast that keeps a ground frame from lifting and tipping. [kg]

    Parameters
    ----------
    load : WindLoad
        The gust.
    panels_kg : float
        What panels and frame weigh. [kg]
    height_m, base_m : float
        Middle of the panels over ground; distance of the feet along the wind. [m]
    """
    lifting = SAFETY * load.lift_n / GRAVITY_M_S2
    tipping = SAFETY * (load.push_n * height_m + load.lift_n * base_m / 2.0) / (GRAVITY_M_S2 * base_m / 2.0)
    return max(lifting, tipping, 0.0) - panels_kg if max(lifting, tipping) > panels_kg else 0.0


def sliding_kg(load: WindLoad, panels_kg: float) -> float:
    """Ballast that keeps a ground frame from sliding while the gust pushes and lifts it; panels and frame weigh [kg]. [kg]

    Examples
    --------
    >>> round(sliding_kg(WindLoad(383.0, 500.0, 300.0, 400.0), 20.0))
    179
    """
    held = SAFETY * (load.push_n / FRICTION + load.lift_n) / GRAVITY_M_S2
    return max(held - panels_kg, 0.0)


def pegs(load: WindLoad, panels_kg: float, height_m: float, base_m: float) -> int:
    """Pegs that hold what the ballast would (panels [kg], post [m], base [m]), at least one a corner."""
    need = max(ballast_kg(load, panels_kg, height_m, base_m), sliding_kg(load, panels_kg)) * GRAVITY_M_S2
    return max(4, int(-(-need // PEG_HOLDS_N)))


def post_depth_m(push_n: float, height_m: float, width_m: float) -> float:
    """Depth of a post that nothing holds at the ground. [m]

    Parameters
    ----------
    push_n : float
        Sideways, above 0. [N]
    height_m : float
        At which it pushes, over the ground. [m]
    width_m : float
        Of the post or its footing, above 0. [m]

    Notes
    -----
    d = A/2 (1 + sqrt(1 + 4.36 h/A)), A = 2.34 P/(S b), S the ground's side bearing at a third of the
    depth: the form of the International Building Code, section 1807.3.2.1, from memory. The bearing is an allowable
    one, so that no safety is put on the wind again; twice it for a post that may move a little (1806.3.4).
    """
    depth = 0.5
    for _ in range(200):
        bearing = ISOLATED_POST * SIDE_BEARING_PA_M * max(depth, 0.1) / 3.0
        a = 2.34 * push_n / (bearing * width_m)
        after = a / 2.0 * (1.0 + sqrt(1.0 + 4.36 * height_m / a))
        if abs(after - depth) < 1e-5:
            return after
        depth = 0.5 * (depth + after)
    return depth
