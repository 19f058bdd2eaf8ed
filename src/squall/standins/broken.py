"""A kit as it really stands: off by a few per cent from what is stated, with one fault in it."""

import copy
import random
from dataclasses import dataclass
from math import pi

from squall.standins.kits import Json

# A valve, kink or clogged screen leaves a share of so much flow against so much head. [m3/s], [m]
_REFERENCE_FLOW, _REFERENCE_HEAD_M = 10.0 / 60_000.0, 10.0
_MOST_K = 10_000.0
_GRAVITY = 9.80665


@dataclass
class Broken:
    """The true kit.

    Attributes
    ----------
    kit : dict
        As the sums take it, with what is true of it.
    fault : str
        Its code, or ``none``.
    severity : float
        From 0 to 1. [-]
    joint_ohm, brush_ohm : float
        More in the pump's cable, and in the motor. [ohm]
    leak : float
        Share that never arrives. [-]
    hose_k, screen_k : float
        Loss by the square of flow. [m/(m3/s)2]
    light_share : float
        What dirt leaves of the light. [-]
    """

    kit: Json
    fault: str
    severity: float
    joint_ohm: float = 0.0
    brush_ohm: float = 0.0
    leak: float = 0.0
    hose_k: float = 0.0
    screen_k: float = 0.0
    light_share: float = 1.0

    @property
    def source(self) -> Json:
        """Its source."""
        source: Json = self.kit["source"]
        return source

    @property
    def motor(self) -> Json:
        """Its motor."""
        motor: Json = self.kit["motor"]
        return motor

    def between(self, low: float, high: float) -> float:
        """A figure of the fault by its severity. [of the figure]"""
        return low + (high - low) * self.severity

    def line(self, *, pipes: bool = True, lift: bool = True, screen: bool = True) -> Json:
        """The line as it is, or without its pipes, lift or screen: what a bucket test leaves."""
        own = [dict(pipe) for pipe in self.kit["pipes"]] if pipes else []
        k = (self.hose_k if pipes else 0.0) + (self.screen_k if screen else 0.0)
        if k > 0.0:
            own.append(_narrow(k))
        return {"static_head_m": max(self.kit["static_head_m"], 0.0) if lift else 0.0, "pipes": own}


def _narrow(k: float) -> Json:
    """A piece without length that takes k times the square of the flow: h = K v2 / 2 g, K as large as the sums allow."""
    bore = 0.02
    while True:
        whole = k * 2.0 * _GRAVITY * (pi * bore**2 / 4.0) ** 2
        if whole <= _MOST_K or bore <= 0.002:
            break
        bore *= 0.8
    return {
        "length_m": 0.0, "inner_diameter_mm": bore * 1000.0, "roughness_mm": 0.0, "minor_loss_k": min(whole, _MOST_K),
    }  # fmt: skip


def broken(stated: Json, fault: str, throw: random.Random | None) -> Broken:
    """The true kit of a stated one.

    Parameters
    ----------
    stated : dict
        A kit, as the sums take it.
    fault : str
        Its code, or ``none``.
    throw : random.Random or None
        How far it is off, and how bad the fault is; None for as stated, half bad.
    """
    true = Broken(copy.deepcopy(stated), fault, 0.5 if throw is None else throw.random())
    if throw is not None:
        _off(true, throw)
    _break(true)
    return true


def _off(true: Broken, throw: random.Random) -> None:
    def spread(share: float) -> float:
        return 1.0 + throw.gauss(0.0, share)

    head, amps, motor, source = spread(0.03), spread(0.03), true.motor, true.source
    slip = 1.0 if motor["kind"] == "centrifugal" else head
    motor["points"] = [[q * slip, h * head, max(a * amps, motor["no_load_a"])] for q, h, a in motor["points"]]
    true.kit["pump_cable_ohm"] *= spread(0.05)
    true.kit["static_head_m"] += throw.gauss(0.0, 0.2)
    if "module" in source:
        volts, light = spread(0.01), spread(0.02)
        module = source["module"]
        source["module"] = module | {key: module[key] * volts for key in ("voc_v", "vmp_v")}
        source["module"] |= {key: module[key] * light for key in ("isc_a", "imp_a")}
    if source["type"] == "battery":
        source["internal_ohm"] *= max(spread(0.25), 0.3)


def _break(true: Broken) -> None:
    """What each fault does to the kit itself; what it does to the circuit alone stands in the yard."""
    motor, source, fault = true.motor, true.source, true.fault
    if fault == "joint-resistance":
        true.joint_ohm = true.between(0.3, 3.0)
    elif fault == "brushes-worn":
        true.brush_ohm = true.between(0.3, 2.0)
    elif fault == "battery-flat":
        source["open_v"] *= true.between(0.75, 0.93)
    elif fault == "battery-weak":
        source["internal_ohm"] *= true.between(3.0, 10.0)
    elif fault == "dial-low":
        source["out_max_v"] *= true.between(0.15, 0.5)
    elif fault == "rotor-drags":
        more = motor["no_load_a"] * (true.between(1.3, 3.0) - 1.0)
        motor["no_load_a"] += more
        motor["points"] = [[q, h, a + more] for q, h, a in motor["points"]]
    elif fault == "impeller-worn":
        motor["points"] = [[q, h * (1.0 - true.between(0.1, 0.45)), a] for q, h, a in motor["points"]]
    elif fault == "valves-worn":
        motor["points"] = [[q * (1.0 - true.between(0.2, 0.6)), h, a] for q, h, a in motor["points"]]
    elif fault == "hose-leaks":
        true.leak = true.between(0.3, 0.9)
    elif fault == "panels-dirty":
        true.light_share = 1.0 - true.between(0.15, 0.5)
    elif fault == "water-fallen":
        true.kit["static_head_m"] += true.between(0.5, 6.0)
    elif fault in ("screen-blocked", "hose-kinked", "check-valve-stuck", "outlet-valve-shut"):
        k = _REFERENCE_HEAD_M / (true.between(0.4, 0.02) * _REFERENCE_FLOW) ** 2
        true.screen_k, true.hose_k = (k, 0.0) if fault == "screen-blocked" else (0.0, k)
