"""What a kit weighs, piece by piece, and how its pieces are shared out over bags so that none is much heavier than it must be."""

from dataclasses import dataclass

from squall.core.kit.setup import Setup, cables_of
from squall.core.kit.supply import Banked
from squall.core.reason import Reason, Told

# Copper, and what a cable weighs over its copper: 8960 kg/m3; a third more, a guess. [kg/m3], [-]
COPPER_KG_M3, CABLE_OVER_COPPER = 8960.0, 1.33


def cable_kg(area_mm2: float, metres: float) -> float:
    """What a two-core cable weighs, by the copper of each core [mm2] and its length [m]. [kg]

    Examples
    --------
    >>> round(cable_kg(4.0, 20.0), 2)
    1.91
    """
    return 2.0 * metres * area_mm2 * 1e-6 * COPPER_KG_M3 * CABLE_OVER_COPPER


@dataclass(frozen=True)
class Piece:
    """Like pieces of a kit: what one is called, how many there are, what one weighs. [kg]"""

    name: str | Told
    count: int
    each_kg: float

    @property
    def line(self) -> tuple[str | Told, float]:
        """All of them as one line. [kg]"""
        name = self.name if self.count == 1 else Reason("so-many-of-part", n=self.count, part=self.name)
        return name, self.count * self.each_kg


def pieces_of(setup: Setup) -> list[Piece]:
    """What is carried; sundries, a hose that lies there already and a tank are not counted. [kg]"""
    kit, layout, cabling = setup.kit, setup.layout, setup.cabling
    found = [
        Piece(kit.pump.title, kit.pumps, kit.pump.mass_kg),
        Piece(kit.panel.title, kit.panels, kit.panel.mass_kg),
    ]
    if kit.controller is not None:
        found.append(Piece(kit.controller.title, 1, kit.controller.mass_kg))
    if isinstance(kit.supply, Banked):
        found.append(Piece(kit.supply.battery.title, kit.supply.count, kit.supply.battery.mass_kg))
    if kit.hose is not None:
        name = Reason("length-of-part", metres=layout.hose_m, part=kit.hose.title)
        found.append(Piece(name, 1, layout.hose_m * kit.hose.mass_kg))
    for size, metres, cores, _ in cables_of(kit, layout, cabling):
        name = Reason("length-of-part", metres=metres, part=size.label)
        found.append(Piece(name, 1, cores / 2.0 * cable_kg(size.area_mm2, metres)))
    return found


def mass_lines(setup: Setup) -> list[tuple[str | Told, float]]:
    """What a kit weighs, piece by piece; sundries and a tank's water are not counted. [kg]"""
    tank = setup.kit.tank
    return [piece.line for piece in pieces_of(setup)] + ([] if tank is None else [(tank.title, tank.mass_kg)])


def carried_kg(setup: Setup) -> float:
    """What all that is carried weighs; without a tank. [kg]"""
    return sum(piece.count * piece.each_kg for piece in pieces_of(setup))


@dataclass(frozen=True)
class Bag:
    """What goes into one bag: names of its pieces, and what they weigh. [kg]"""

    pieces: tuple[str | Told, ...]
    mass_kg: float


def shared_out(setup: Setup, bags: int) -> tuple[Bag, ...]:
    """The kit's pieces in so many bags, the heaviest bag first.

    Parameters
    ----------
    setup : Setup
        The kit with its cables.
    bags : int
        1 or more.

    Notes
    -----
    The heaviest piece first, each into the bag that is lightest so far: within 4/3 of the best
    (R. L. Graham, SIAM J. Appl. Math. 17 (1969), 416-429, from memory).
    """
    single = [piece for piece in pieces_of(setup) for _ in range(piece.count)]
    filled: list[tuple[list[str | Told], float]] = [([], 0.0) for _ in range(max(bags, 1))]
    for piece in sorted(single, key=lambda piece: -piece.each_kg):
        lightest = min(range(len(filled)), key=lambda n: filled[n][1])
        names, so_far = filled[lightest]
        filled[lightest] = ([*names, piece.name], so_far + piece.each_kg)
    return tuple(Bag(tuple(names), mass) for names, mass in sorted(filled, key=lambda bag: -bag[1]))
