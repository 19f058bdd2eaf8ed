"""Families of parts: which figures each has, in what unit a price list writes them, and which a label states.

One table for the form, the price list's heading, the part's page and the schema. The figures that nobody states are filled
by :mod:`squall.catalogue.guesses`; :mod:`squall.catalogue.makers` makes the part.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from squall.catalogue import makers
from squall.core.reason import Spoken
from squall.words import later
from squall.words.figures import FIGURES

Row = makers.Row


@dataclass(frozen=True)
class Column:
    """One figure of a part.

    Attributes
    ----------
    key : str
        Its heading in a file, with the unit at its end.
    kind : str
        Of a quantity: key of :data:`squall.words.units.KINDS`; empty for words, choices and points.
    si : float
        SI in one of the heading's unit.
    low, high : float
        What can be, in SI.
    choices : mapping or None
        Of a choice: value to words.
    label : bool
        Whether a label states it: asked first.
    needed : bool
        Whether nothing can stand for it.
    """

    key: str
    kind: str = ""
    si: float = 1.0
    low: float = 0.0
    high: float = 0.0
    choices: Mapping[str, Spoken] | None = None
    label: bool = False
    needed: bool = False

    @property
    def name(self) -> Spoken:
        """What a person calls it."""
        return FIGURES[self.key]


@dataclass(frozen=True)
class Family:
    """Parts of one kind.

    Attributes
    ----------
    key : str
        Of addresses, files and commands.
    title, one : Spoken
        Of all, and of one.
    columns : tuple[Column, ...]
        Without those that every part has.
    make : callable
        From a whole row to the part.
    slot : str
        Where the catalogue keeps them.
    """

    key: str
    title: Spoken
    one: Spoken
    columns: tuple[Column, ...]
    make: Callable[[Row], Any]
    slot: str

    @property
    def whole(self) -> tuple[Column, ...]:
        """Name and maker, what a label states, the rest, price and mass."""
        first = tuple(c for c in self.columns if c.label)
        rest = tuple(c for c in self.columns if not c.label)
        return (_NAME, _MAKER, *first, *rest, _PRICE, _MASS)

    def column(self, key: str) -> Column | None:
        """The column of a heading, if the family has it."""
        return next((column for column in self.whole if column.key == key), None)


_NAME, _MAKER = Column("name", label=True, needed=True), Column("maker", label=True)
_PRICE, _MASS = Column("price", "number", 1.0, 0.0, 1e6, label=True), Column("mass_kg", "mass", 1.0, 0.0, 5000.0)
_YES_NO = {"yes": later("yes"), "no": later("no")}


def _volts(key: str, *, label: bool = False, needed: bool = False) -> Column:
    return Column(key, "volts", 1.0, 0.1, 600.0, label=label, needed=needed)


def _amps(key: str, *, label: bool = False, needed: bool = False) -> Column:
    return Column(key, "amps", 1.0, 0.001, 400.0, label=label, needed=needed)


_TORQUE = Column("torque_nm", "torque", 1.0, 0.05, 60.0)
_WIRES = Column("motor_wires", choices={"2": later("two, plus and minus"), "3": later("three, of a pump controller")})
_PUMP = (
    Column("end", choices={"centrifugal": later("centrifugal"), "helical": later("helical"), "diaphragm": later("diaphragm"),
                           "piston": later("piston")}, label=True, needed=True),
    Column("placement", choices={"submersible": later("in the water, all of it"), "bilge": later("in the water, bilge kind"),
                                 "surface": later("beside the water")}, label=True, needed=True),
    _volts("rated_v", label=True, needed=True),
    Column("label_w", "watts", 1.0, 0.5, 5000.0, label=True),
    Column("label_flow_l_min", "flow", makers.LITRES_PER_MIN, 1e-6, 0.05, label=True),
    Column("label_head_m", "head", 1.0, 0.1, 300.0, label=True),
    Column("points_l_min_m_a", label=True),
    _volts("least_v"), _volts("best_from_v"), _volts("best_to_v"), _volts("max_v", label=True), _amps("max_fuse_a", label=True),
    Column("brushed", choices=_YES_NO), Column("resistance_ohm", "ohms", 1.0, 1e-4, 1000.0), _amps("no_load_a"), _amps("locked_rotor_a"),
    Column("life_h", "hours", 1.0, 1.0, 1e6), Column("barb_mm", "bore", 1e-3, 0.002, 0.3),
    Column("passes_mm", "bore", 1e-3, 0.0, 0.2), Column("npsh_required_m", "head", 1.0, 0.0, 9.0),
    Column("self_priming", choices=_YES_NO), _WIRES,
)  # fmt: skip
_PANEL = (
    Column("watts", "watts", 1.0, 0.5, 1000.0, label=True), _volts("voc_v", label=True, needed=True), _amps("isc_a", label=True),
    _volts("vmp_v", label=True), _amps("imp_a", label=True), Column("cells", "number", 1.0, 1.0, 300.0, label=True),
    _amps("max_series_fuse_a", label=True),
    Column("voc_percent_per_k", "per-kelvin", 1.0, -1.0, -0.01), Column("isc_percent_per_k", "per-kelvin", 1.0, -0.5, 0.5),
    Column("area_m2", "ground", 1.0, 0.005, 6.0),
)  # fmt: skip
_CONTROLLER = (
    _volts("min_v", label=True, needed=True), _volts("best_from_v"), _volts("best_to_v"), _volts("max_v", label=True, needed=True),
    _volts("out_max_v", label=True, needed=True), _amps("max_a", label=True, needed=True),
    Column("efficiency", "share", 1.0, 0.3, 1.0), _amps("own_a"),
    Column("restart_shadow_min", "minutes", 60.0, 0.0, 86_400.0), Column("restart_dry_min", "minutes", 60.0, 0.0, 86_400.0),
    _WIRES, Column("stall"), Column("inputs"), Column("dial"), Column("lamps"), _TORQUE,
)  # fmt: skip
_CHARGER_KIND = Column("kind", choices={"charge-tracking": later("tracks the panels' best volts"),
                                        "charge-switching": later("switches panels and battery together")}, label=True, needed=True)  # fmt: skip
_BATTERY = (
    Column("chemistry", choices={"lead-acid (sealed)": later("lead-acid, sealed"), "lead-acid (flooded)": later("lead-acid, flooded"),
                                 "lithium iron phosphate": later("lithium iron phosphate")}, label=True, needed=True),
    _volts("nominal_v", label=True, needed=True), Column("capacity_ah", "charge", 1.0, 0.5, 2000.0, label=True, needed=True),
    _volts("open_v"), Column("internal_ohm", "ohms", 1.0, 1e-5, 5.0), Column("usable", "share", 1.0, 0.05, 1.0),
    Column("charge_efficiency", "share", 1.0, 0.3, 1.0), _TORQUE,
)  # fmt: skip
_HOSE = (
    Column("kind", choices={"smooth": later("smooth"), "layflat": later("layflat")}, label=True, needed=True),
    Column("nominal", label=True), Column("inner_diameter_mm", "bore", 1e-3, 0.003, 0.5, label=True, needed=True),
    Column("rated_head_m", "pressure", 1.0, 1.0, 400.0, label=True), Column("roughness_mm", "bore", 1e-3, 1e-7, 0.005),
)  # fmt: skip
_RATED = (_amps("rating_a", label=True, needed=True), _volts("rating_v", label=True))
_DEVICE_KINDS = {
    "switch": later("toggle switch"), "float switch": later("float switch"), "timer": later("timer"), "pressure switch": later("pressure switch"),
    "relay": later("relay"), "radio switch": later("radio switch"), "connector": later("connector"), "joint": later("sleeve or joint"),
    "isolator": later("isolator, both poles"),
}  # fmt: skip
_SUNDRY_KINDS = {
    "supply": later("power supply"),
    "mount": later("mount"),
    "rope": later("rope"),
    "small part": later("small part"),
}

FAMILIES: Mapping[str, Family] = {
    family.key: family
    for family in (
        Family("pumps", later("Pumps"), later("pump"), _PUMP, makers.pump, "pumps"),
        Family("panels", later("Panels"), later("panel"), _PANEL, makers.panel, "panels"),
        Family("pump-controllers", later("Pump controllers"), later("pump controller"), _CONTROLLER, makers.pump_controller, "controllers"),
        Family("chargers", later("Charge controllers"), later("charge controller"), (_CHARGER_KIND, *_CONTROLLER), makers.controller, "controllers"),
        Family("batteries", later("Batteries"), later("battery"), _BATTERY, makers.battery, "batteries"),
        Family("cables", later("Cables"), later("cable"), (Column("size", label=True, needed=True),), makers.cable, "cables"),
        Family("hoses", later("Hoses and pipes"), later("hose"), _HOSE, makers.hose, "hoses"),
        Family("fittings", later("Fittings"), later("fitting"),
               (Column("minor_loss_k", "number", 1.0, 0.0, 1000.0, label=True, needed=True), Column("source")), makers.fitting, "fittings"),
        Family("tanks", later("Tanks and troughs"), later("tank"),
               (Column("litres", "litres", 1e-3, 0.001, 1000.0, label=True, needed=True), Column("depth_m", "head", 1.0, 0.02, 20.0, label=True)),
               makers.tank, "tanks"),
        Family("switches", later("Switches, relays, connectors"), later("switch"),
               (Column("kind", choices=_DEVICE_KINDS, label=True, needed=True), *_RATED, _volts("coil_v"), Column("coil_ohm", "ohms", 1.0, 1.0, 100_000.0), _TORQUE),
               makers.device, "devices"),
        Family("fuses", later("Fuses and breakers"), later("fuse"),
               (Column("kind", choices={"fuse": later("fuse"), "breaker": later("breaker")}, label=True, needed=True), *_RATED, _TORQUE),
               makers.protector, "protectors"),
        Family("sundries", later("Supplies, mounts, rope, small parts"), later("small part"),
               (Column("kind", choices=_SUNDRY_KINDS, label=True, needed=True),), makers.sundry, "sundries"),
    )
}  # fmt: skip
