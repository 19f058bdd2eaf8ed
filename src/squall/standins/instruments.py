"""Instruments that stand in for real ones: meter, clamp, pulse meter, light meter, thermometer, level probe.

Each reads a yard and writes what it shows as a logger would; what they send is read as any logger's lines are.
"""

import json
import random
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from functools import lru_cache
from math import sin, tau
from typing import Protocol

from squall.standins.kits import Json
from squall.standins.yard import Yard

# How often they send. [s]
EVERY_S = 5
# A cloud comes and goes in so long, between these lights. [s], [W/m2]
_CLOUD_S, _DIM, _BRIGHT, _AIR_C = 170.0, 380.0, 820.0, 22.0
# A pulse of the meter in the hose. [l]
_PULSE_L = 0.05


class Instrument(Protocol):
    """Something that reads one point of a yard."""

    @property
    def point(self) -> str:
        """Where it reads, as a logger's lines have it."""

    def shows(self, yard: Yard, throw: random.Random) -> str | None:
        """What it shows, with its unit; None where this kit has no such place."""


@dataclass(frozen=True)
class _Meter:
    """Reads what a check reads, off by a share and a digit."""

    point: str
    check: str
    unit: str
    share: float
    digit: float

    def shows(self, yard: Yard, throw: random.Random) -> str | None:
        """Volts and amps only where two wires lead to the pump."""
        if yard.true.kit["motor_wires"] == 3:
            return None
        value = float(yard.exactly(self.check)) * (1.0 + throw.gauss(0.0, self.share))
        return f"{max(round(value / self.digit) * self.digit, 0.0):.2f} {self.unit}"


@dataclass(frozen=True)
class _PulseMeter:
    """Counts pulses between two sendings."""

    point: str = "outlet-flow"

    def shows(self, yard: Yard, throw: random.Random) -> str | None:
        """Whole pulses, as they fell."""
        litres = float(yard.exactly("outlet-flow")) * EVERY_S / 60.0
        pulses = int(litres / _PULSE_L + throw.random())
        return f"{pulses * _PULSE_L * 60.0 / EVERY_S:.2f} L/min"


@dataclass(frozen=True)
class _LightMeter:
    """In the panels' plane; a kit without any has none."""

    point: str = "light"

    def shows(self, yard: Yard, throw: random.Random) -> str | None:
        """To five."""
        if "module" not in yard.true.source:
            return None
        return f"{round(yard.light_w_m2 * (1.0 + throw.gauss(0.0, 0.02)) / 5.0) * 5} W/m2"


@dataclass(frozen=True)
class _Thermometer:
    point: str = "air"

    def shows(self, yard: Yard, throw: random.Random) -> str | None:
        """To half a degree."""
        return f"{round((_AIR_C + throw.gauss(0.0, 0.2)) * 2.0) / 2.0} degC"


@dataclass(frozen=True)
class _LevelProbe:
    """How far the water stands below the level it was surveyed at."""

    point: str = "level"

    def shows(self, yard: Yard, throw: random.Random) -> str | None:
        """To a centimetre."""
        return f"{max(float(yard.exactly('pumping-water-level-drop')) + throw.gauss(0.0, 0.01), 0.0):.2f} m"


INSTRUMENTS: Sequence[Instrument] = (
    _LightMeter(), _Thermometer(), _Meter("pump-volts", "pump-volts-on", "V", 0.005, 0.01),
    _Meter("pump-amps", "pump-amps-on", "A", 0.01, 0.01), _PulseMeter(), _LevelProbe(),
)  # fmt: skip


@lru_cache(maxsize=400)
def _sent(stated: str, fault: str, tick: int) -> str:
    """What all have sent at a tick; the kit comes as its text, for the cache."""
    light = _DIM + (_BRIGHT - _DIM) * (0.5 + 0.5 * sin(tau * tick * EVERY_S / _CLOUD_S))
    yard = Yard(json.loads(stated), fault, light, _AIR_C, random.Random("stand-in"))
    throw = random.Random(f"{fault} {tick}")
    at = datetime.fromtimestamp(tick * EVERY_S).astimezone().isoformat()
    shown = [(one.point, one.shows(yard, throw)) for one in INSTRUMENTS]
    return "".join(f"{at},{point},{reading}\n" for point, reading in shown if reading is not None)


def lines_at(stated: Json, fault: str, now: datetime, ticks: int = 1) -> str:
    """What the instruments on a stand-in of a kit have sent by a moment, the last few sendings of it.

    Parameters
    ----------
    stated : dict
        The kit, as the sums take it.
    fault : str
        What is wrong with the stand-in, or ``none``.
    now : datetime
        The moment, with its zone: the same one sends the same.
    ticks : int
        How many sendings. [-]
    """
    last = int(now.timestamp()) // EVERY_S
    held = json.dumps(stated, sort_keys=True)
    return "".join(_sent(held, fault, tick) for tick in range(last - ticks + 1, last + 1))
