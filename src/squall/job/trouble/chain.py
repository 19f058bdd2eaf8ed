"""The chosen kit as the chain that Fault works with, and where each of its parts stands on the drawings."""

from squall.core.circuit.laid import KitCircuit
from squall.core.drive.solve import Battery, Source
from squall.core.faults.causes import Part
from squall.core.faults.chain import Chain, SwitchKind, Way
from squall.core.faults.sweep import BRIGHTEST
from squall.core.kit.kit import Kit
from squall.core.kit.supply import Banked, Controlled, Direct
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.job.worked.resolve import devices_of

# Part of the long-section on which a part of the chain stands.
ON_DRAWING: dict[Part, str] = {
    "panels": "panel", "battery": "box", "supply": "box", "source-cable": "cable-array", "fuse": "box", "switch": "box",
    "controller": "box", "pump-cable": "cable-pump", "motor": "pump", "pump-end": "pump", "screen": "pump", "hose": "run",
    "check-valve": "run", "outlet-valve": "outlet", "water": "water", "kit": "box",
}  # fmt: skip
_SWITCHES: dict[str, SwitchKind] = {
    "switch": "toggle", "float switch": "float", "timer": "timer", "pressure switch": "toggle", "radio switch": "toggle", "relay": "toggle",
}  # fmt: skip
# What of the circuit each of them is; through the others goes water.
ON_CIRCUIT: dict[Part, tuple[str, ...]] = {
    "panels": ("panel",), "battery": ("battery",), "fuse": ("fuse", "breaker"), "controller": ("controller", "charger"),
    "switch": (*_SWITCHES, "isolator"), "motor": ("motor",), "pump-end": ("motor",),
    "source-cable": ("run-array", "run-charge"), "pump-cable": ("run-pump",),
}  # fmt: skip
# Part of the chain at which each check is read.
READ_AT: dict[str, Part] = {
    "panel-open-volts": "panels", "short-circuit-amps": "panels", "battery-rest-volts": "battery", "fuse-volts": "fuse",
    "fuse-ohms": "fuse", "switch-volts": "switch", "switch-ohms": "switch", "pump-volts-on": "motor",
    "pump-amps-on": "motor", "motor-ohms": "motor", "cable-loop-ohms": "pump-cable",
}  # fmt: skip
_CELL_C = 25.0
# Lead between bank and box: half a metre each way of thick cable; a guess. [ohm]
_POST_OHM = 0.005


def read_at(check: str, chain: Chain) -> Part | None:
    """Part of the chain at which a check is read; of looks, and of what is read in the water, none."""
    if check == "source-open-volts":
        return "panels" if chain.panels else "battery"
    if check == "box-volts-on":
        return "controller" if chain.controller is not None else "switch" if chain.switches else "fuse"
    return READ_AT.get(check)


def on_circuit(part: Part, circuit: KitCircuit) -> str | None:
    """The first part of a kit's circuit that is a part of its chain, by its id; None where the circuit has none."""
    kinds = ON_CIRCUIT.get(part, ())
    return next(
        (one.id for one in circuit.placed if one.kind in kinds or (one.kind == "core" and one.where in kinds)), None
    )


def chain_of(a: Assessment, chosen: KitAssessment) -> Chain:
    """The chosen kit as a chain.

    Parameters
    ----------
    a : Assessment
        The job worked out.
    chosen : KitAssessment
        Its kit.

    Returns
    -------
    Chain
        From its bank, where it has one: how that is charged is not looked at. Fuse and switches stand behind a controller, or
        before it where three wires lead to the motor, as Circuit draws them.
    """
    setup, kit = chosen.setup, chosen.setup.kit
    rating = None if a.wiring is None else a.wiring.protection.rating_a
    fittings = {key for piece in a.job.run for key, count in piece.fittings.items() if count}
    up = _POST_OHM if isinstance(kit.supply, Banked) else setup.array_ohm - setup.cabling.ahead_ohm
    return Chain(
        source=_source(kit),
        source_cable_ohm=up,
        pump_cable_ohm=setup.cores_ohm,
        fuse_a=rating,
        switches=tuple(
            Way(device.title, _SWITCHES.get(device.kind, "toggle"))
            for device in devices_of(a.job, a.parts)
            # On the panels' side of a box an isolator is in no way that is looked through here.
            if device.kind in _SWITCHES
            or (device.kind == "isolator" and (kit.switched_ahead or isinstance(kit.supply, Direct)))
        ),
        inputs=kit.supply.controller.asks if isinstance(kit.supply, Controlled) else (),
        motor=kit.pump.motor,
        motor_wires=3 if kit.switched_ahead else 2,
        brushed=kit.pump.brushed,
        placement=kit.pump.placement,
        line=setup.line,
        check_valve=bool(fittings & {"check", "foot"}),
        outlet_valve=bool(fittings & {"gate", "globe"}),
        behind_controller=isinstance(kit.supply, Controlled) and not kit.switched_ahead,
    )


def _source(kit: Kit) -> Source:
    if isinstance(kit.supply, Banked):
        return Battery(kit.bank_v, kit.bank_ohm)
    return kit.source_at(BRIGHTEST, _CELL_C)
