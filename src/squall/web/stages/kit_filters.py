"""Which of the ranked kits a person wants to see: source, pump, budget, what is in the van, short days allowed."""

from dataclasses import dataclass
from urllib.parse import urlencode

from fastapi import Request

from squall.core.advice.trials import Trial
from squall.core.kit.kit import Kit
from squall.core.kit.parts import SOURCE_WORDS
from squall.core.years.use import ALLOWED_SHORT
from squall.words import say

END_WORDS = {"centrifugal": "centrifugal", "helical": "helical", "diaphragm": "diaphragm", "piston": "piston"}


@dataclass(frozen=True)
class Filters:
    """As asked in the address; an empty one shows all."""

    source: str = ""
    end: str = ""
    budget: float | None = None
    van: bool = False
    every: bool = False
    allowed: float = ALLOWED_SHORT
    usual: float = ALLOWED_SHORT
    problem: str = ""

    def admits(self, kit: Kit, price: float, in_van: frozenset[str]) -> bool:
        """Whether a kit may be shown."""
        if self.source == "no-battery" and kit.source == "battery":
            return False
        if self.source in SOURCE_WORDS and kit.source != self.source:
            return False
        if self.end and kit.pump.end != self.end:
            return False
        if self.budget is not None and price > self.budget:
            return False
        return not self.van or parts_of_kit(kit) <= in_van

    def query(self, **changes: str) -> str:
        """The address's question with some of it changed; an empty value leaves it out."""
        asked = {
            "source": self.source, "end": self.end, "budget": "" if self.budget is None else f"{self.budget:g}",
            "van": "yes" if self.van else "", "all": "yes" if self.every else "",
            "allowed": "" if self.allowed == self.usual else f"{self.allowed:g}", **changes,
        }  # fmt: skip
        return urlencode({key: value for key, value in asked.items() if value})


def parts_of_kit(kit: Kit) -> frozenset[str]:
    """Identifiers of the parts that are had or not; hose, cable and tank are bought for the job."""
    parts = [kit.pump, kit.panel, kit.controller, kit.battery]
    return frozenset(part.id for part in parts if part is not None)


def filters_of(request: Request, usual: float) -> Filters:
    """What the address asks, else as many short days as the job allows; a figure that can't be read is said and left out."""
    asked = request.query_params
    source, end = asked.get("source", ""), asked.get("end", "")
    budget, problem = _figure(asked.get("budget", ""), "budget")
    allowed, worse = _figure(asked.get("allowed", ""), say("short days allowed"))
    return Filters(
        source if source in SOURCE_WORDS or source == "no-battery" else "",
        end if end in END_WORDS else "",
        budget,
        asked.get("van") == "yes",
        asked.get("all") == "yes",
        usual if allowed is None else min(allowed, 100.0),
        usual,
        problem or worse,
    )


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


def admitted(trials: list[Trial], filters: Filters, in_van: frozenset[str]) -> list[Trial]:
    """Trials that the filters admit."""
    return [t for t in trials if filters.admits(t.entrant.kit, t.price, in_van)]
