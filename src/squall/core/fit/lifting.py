"""What hangs on the rope: dry as it goes in, and full of water at the first lift out."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import pi

from squall.core.errors import require
from squall.core.kit.carried import cable_kg

WATER_KG_M3 = 1000.0
# Wire rope of 3 mm stainless, 7 x 19: by a handbook's table, from memory. [kg/m]
ROPE_KG_M = 0.036
# What a rope keeps of its breaking load at its end: tied in a knot, or round a thimble with clamps. From memory. [-]
END_KEEPS = {"knot": 0.5, "clamps": 0.8}
# Breaking load over what may hang on it where nobody stands under it: common practice, no source. [-]
SAFETY = 5.0
# More than this one person doesn't lift or lower hand over hand: the guideline figure of the British health and safety
# executive for a load close to the body, from memory. [kg]
ONE_PERSON_KG = 25.0
# Of a drum's volume, what is kept out of the water so that waves don't roll over it: a guess. [-]
FREEBOARD = 0.5


@dataclass(frozen=True)
class Hung:
    """A hose as it hangs: its length, inner diameter, and mass of a metre. [m], [m], [kg/m]"""

    length_m: float
    inner_diameter_m: float
    mass_kg_m: float

    @property
    def dry_kg(self) -> float:
        """Empty. [kg]"""
        return self.length_m * self.mass_kg_m

    @property
    def full_kg(self) -> float:
        """Full of water. [kg]"""
        return self.dry_kg + WATER_KG_M3 * pi / 4.0 * self.inner_diameter_m**2 * self.length_m


@dataclass(frozen=True)
class Load:
    """What the rope carries.

    Attributes
    ----------
    lines : tuple
        (name, dry [kg], full [kg]) of pump, hose, cable and rope.
    dry_kg : float
        As it goes in. [kg]
    lift_kg : float
        As it comes out the first time, its hose full. [kg]
    """

    lines: tuple[tuple[str, float, float], ...]

    @property
    def dry_kg(self) -> float:
        """As it goes in. [kg]"""
        return sum(dry for _, dry, _ in self.lines)

    @property
    def lift_kg(self) -> float:
        """As it comes out, its hose full of water. [kg]"""
        return sum(full for _, _, full in self.lines)

    @property
    def people(self) -> int:
        """Hands it takes: one person, or two."""
        return 1 if self.lift_kg <= ONE_PERSON_KG else 2


def load_on_rope(pump_kg: float, hoses: Sequence[Hung], cable_mm2: float, hung_m: float) -> Load:
    """What hangs on the rope of a pump.

    Parameters
    ----------
    pump_kg : float
        Above 0. [kg]
    hoses : sequence of Hung
        What hangs with it.
    cable_mm2 : float
        Copper of each of two cores. [mm2]
    hung_m : float
        From the pump to what holds the rope. [m]

    Returns
    -------
    Load
        Water lifts none of it: the figures are those in air, which is what a hand has at the top.
    """
    require("hanging-depth", hung_m, 0.0, 300.0, "length")
    cable = cable_kg(cable_mm2, hung_m)
    dry, full = sum(hose.dry_kg for hose in hoses), sum(hose.full_kg for hose in hoses)
    rope = ROPE_KG_M * hung_m
    return Load((("pump", pump_kg, pump_kg), ("hose", dry, full), ("cable", cable, cable), ("rope", rope, rope)))


def rope_needs_kg(load: Load, end: str) -> float:
    """Breaking load that a rope needs for a load, with what its end takes. [kg]

    Examples
    --------
    >>> round(rope_needs_kg(Load((("pump", 10.0, 10.0),)), "knot"))
    100
    """
    return load.lift_kg * SAFETY / END_KEEPS[end]


def drum_litres(load: Load) -> float:
    """Size of the drum that floats a load, half of it out of the water. [L]

    Examples
    --------
    >>> round(drum_litres(Load((("pump", 10.0, 10.0),))), 1)
    20.0
    """
    return load.lift_kg / (WATER_KG_M3 / 1000.0) / FREEBOARD
