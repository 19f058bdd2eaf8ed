"""Which of the ranked kits a person wants to see: source, pump, budget, what is in the van, short days allowed."""

from dataclasses import dataclass, replace
from math import inf
from typing import TypeVar
from urllib.parse import urlencode

from fastapi import Request

from squall.core.advice.asked import MOST, SOURCES, Asked
from squall.core.errors import SquallError
from squall.core.kit.parts import SOURCE_WORDS, Controller, Part, Stock
from squall.core.years.use import ALLOWED_SHORT
from squall.words import say, voice
from squall.words.units import parse

P = TypeVar("P", bound=Part)
VOLTS = ("12", "24", "48")
# Kits that are listed where every kit is asked for.
EVERY = 50
END_WORDS = {"centrifugal": "centrifugal", "helical": "helical", "diaphragm": "diaphragm", "piston": "piston"}


@dataclass(frozen=True)
class Filters:
    """As asked in the address; an empty one shows all."""

    source: str = ""
    end: str = ""
    volts: str = ""
    mine: bool = False
    budget: float | None = None
    van: bool = False
    every: bool = False
    allowed: float = ALLOWED_SHORT
    usual: float = ALLOWED_SHORT
    kilos: float | None = None
    problem: str = ""

    def asked(self) -> Asked:
        """What a search is to find."""
        sources = tuple(
            s for s in SOURCES if self.source in ("", s) or (self.source == "no-battery" and s != "battery")
        )
        most, budget = EVERY if self.every else MOST, inf if self.budget is None else self.budget
        return Asked(most, not self.every, sources, budget, most_kg=inf if self.kilos is None else self.kilos)

    def stock_of(self, stock: Stock, in_van: frozenset[str]) -> Stock:
        """What a search chooses from: hose, cable and tank are bought for the job, the rest may be had or not."""
        pumps = tuple(
            pump for pump in stock.pumps
            if self.end in ("", pump.end) and (not self.volts or f"{pump.motor.rated_v:g}" == self.volts)
        )  # fmt: skip
        found = replace(stock, pumps=pumps)
        if self.van:
            found = replace(found, pumps=_among(found.pumps, in_van), panels=_among(found.panels, in_van),
                            controllers=_among(found.controllers, in_van), batteries=_among(found.batteries, in_van))  # fmt: skip
        if self.mine:
            found = replace(found, pumps=_owned(found.pumps), panels=_owned(found.panels), batteries=_owned(found.batteries),
                            controllers=_owned_controllers(found.controllers), hoses=_owned(found.hoses))  # fmt: skip
        return found

    def query(self, **changes: str) -> str:
        """The address's question with some of it changed; an empty value leaves it out."""
        asked = {
            "source": self.source, "end": self.end, "volts": self.volts, "mine": "yes" if self.mine else "", "budget": "" if self.budget is None else f"{self.budget:g}",
            "kilos": "" if self.kilos is None else f"{self.kilos:g}", "van": "yes" if self.van else "", "all": "yes" if self.every else "",
            "allowed": "" if self.allowed == self.usual else f"{self.allowed:g}", **changes,
        }  # fmt: skip
        return urlencode({key: value for key, value in asked.items() if value})


def _among(parts: tuple[P, ...], ids: frozenset[str]) -> tuple[P, ...]:
    return tuple(part for part in parts if part.id in ids)


def _owned(parts: tuple[P, ...]) -> tuple[P, ...]:
    """Those that are there already, where any of the family is; else all."""
    return tuple(part for part in parts if part.owned) or parts


def _owned_controllers(parts: tuple[Controller, ...]) -> tuple[Controller, ...]:
    """The same of controllers of pumps and of batteries, each for itself."""
    return _owned(tuple(c for c in parts if c.kind == "pump")) + _owned(tuple(c for c in parts if c.kind != "pump"))


def filters_of(request: Request, usual: float) -> Filters:
    """What the address asks, else as many short days as the job allows; a figure that can't be read is said and left out."""
    asked = request.query_params
    source, end = asked.get("source", ""), asked.get("end", "")
    budget, problem = _figure(asked.get("budget", ""), "budget")
    allowed, worse = _figure(asked.get("allowed", ""), say("short days allowed"))
    kilos, heavy = _mass(asked.get("kilos", ""))
    return Filters(
        source if source in SOURCE_WORDS or source == "no-battery" else "",
        end if end in END_WORDS else "",
        asked.get("volts", "") if asked.get("volts", "") in VOLTS else "",
        asked.get("mine") == "yes",
        budget,
        asked.get("van") == "yes",
        asked.get("all") == "yes",
        usual if allowed is None else min(allowed, 100.0),
        usual,
        kilos,
        problem or worse or heavy,
    )


def _mass(typed: str) -> tuple[float | None, str]:
    """Most that a kit may weigh, in kilos, typed in any unit of mass; what can't be read is said and left out."""
    if not typed.strip():
        return None, ""
    try:
        return parse(typed[:20], "mass", voice().units), ""
    except SquallError as error:
        return None, say("{error} It is left out.", error=error.said)


def _figure(typed: str, name: str) -> tuple[float | None, str]:
    body = typed.strip().replace(",", ".")[:20]
    if not body:
        return None, ""
    try:
        value = float(body)
    except ValueError:
        return None, say("{typed:quoted} is no figure for the {name}; it is left out.", typed=typed[:20], name=name)
    if not 0.0 <= value < 1e7:
        return None, say("The {name} is from 0 up; {typed:quoted} is left out.", name=name, typed=typed[:20])
    return value, ""
