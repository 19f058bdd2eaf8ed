"""The front of a search: its best kits run through made years, tank against battery, price against short days."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

from squall.core.advice.ranked import Ranked, Ranking
from squall.core.errors import Stopped
from squall.core.kit.kit import Kit
from squall.core.kit.layout import Layout
from squall.core.kit.parts import TankUnit
from squall.core.kit.setup import Setup, kit_price
from squall.core.kit.supply import Banked
from squall.core.reason import Reason, Value
from squall.core.sky.typical_days import Light
from squall.core.years.many_days import days_of
from squall.core.years.nodes import means_of
from squall.core.years.outlook import outlook_of
from squall.core.years.tanks import Tank, without_switch
from squall.core.years.use import Use

# Kits that reach this share of the need in their worst month are worth a year's run.
WORTH_SHARE = 0.6
# Float travel of a catalogue tank: this much of its depth. A guess.
TRAVEL_SHARE = 0.25
SAME_DAYS = 0.05


@dataclass(frozen=True)
class Entrant:
    """A ranked kit as it enters: how its panels stand, and the tank that comes with it."""

    row: Ranked
    tilt: str
    tank: TankUnit | None

    @property
    def kit(self) -> Kit:
        """With its tank."""
        return replace(self.row.kit, tank=self.tank)


@dataclass(frozen=True)
class Trial:
    """What ten made years did to one entrant.

    Attributes
    ----------
    entrant : Entrant
        The kit.
    price : float
        Tank included. [catalogue's money]
    short_in_a_hundred : float
        Days on which water was missing. [-]
    worst_month : int
        January 0.
    dry_spell_days : int
        Most short days in a row.
    short_at_worst : float or None
        The same with every doubtful input at its bad end, where that was run. [-]
    front : bool
        Whether no other is both no dearer and no shorter of water.
    loses : str
        For those not on the front: to which, in words.
    """

    entrant: Entrant
    price: float
    short_in_a_hundred: float
    worst_month: int
    dry_spell_days: int
    short_at_worst: float | None = None
    front: bool = False
    loses: Reason | None = None


def entrants(
    rankings: Mapping[str, Ranking], tanks: Sequence[TankUnit], wanted_l: float, own_tank_l: float, most: int = 36
) -> list[Entrant]:
    """Kits worth a year's run: those that the ranking found to hold, then the cheapest of each pump and source, each in its better tilt, with and without tanks.

    Parameters
    ----------
    rankings : mapping
        One for each way that the panels may stand.
    tanks : sequence of TankUnit
        Of the catalogue, smallest first.
    wanted_l : float
        Litres of the thirstiest day. [L]
    own_tank_l : float
        What the job holds already. [L]
    most : int
        Kits at most, tanks not counted.
    """
    better: dict[tuple[object, ...], tuple[str, Ranked]] = {}
    for tilt, ranking in rankings.items():
        for row in (*ranking.holds, *ranking.short):
            if row.worst_share < WORTH_SHARE:
                continue
            kit = row.kit
            key = (kit.pump.id, kit.source, kit.panel.id, kit.in_series, kit.in_parallel, kit.hose and kit.hose.id)
            known = better.get(key)
            if known is None or row.worst_share > known[1].worst_share * 1.005:
                better[key] = (tilt, row)
    by_price = sorted(better.values(), key=lambda pair: (pair[1].price, -pair[1].worst_share))
    kept = _proven(rankings)[: most // 2]
    seen: dict[tuple[str, str], int] = {}
    for _, row in kept:
        seen[(row.kit.pump.id, row.kit.source)] = seen.get((row.kit.pump.id, row.kit.source), 0) + 1
    for turn in (1, 3, 1_000_000):
        for tilt, row in by_price:
            key2 = (row.kit.pump.id, row.kit.source)
            if len(kept) >= most or (tilt, row) in kept or seen.get(key2, 0) >= turn:
                continue
            kept.append((tilt, row))
            seen[key2] = seen.get(key2, 0) + 1
    found = []
    for tilt, row in kept:
        found.append(Entrant(row, tilt, None))
        found += [
            Entrant(row, tilt, tank) for tank in _worth(tanks, wanted_l, own_tank_l, isinstance(row.kit.supply, Banked))
        ]
    return found


def _proven(rankings: Mapping[str, Ranking]) -> list[tuple[str, Ranked]]:
    """The cheapest of each pump and source that came through its years, whichever way the panels stand; cheapest first."""
    first: dict[tuple[str, str], tuple[str, Ranked]] = {}
    for tilt, ranking in rankings.items():
        found: set[tuple[str, str]] = set()
        for row in ranking.holds:
            key = (row.kit.pump.id, row.kit.source)
            if key not in found and (key not in first or row.price < first[key][1].price):
                first[key] = (tilt, row)
            found.add(key)
    return sorted(first.values(), key=lambda pair: pair[1].price)


def _worth(tanks: Sequence[TankUnit], wanted_l: float, own_l: float, battery: bool) -> list[TankUnit]:
    """Tanks of about half a day, a day, and three days of water; for a battery just the first."""
    worth: list[TankUnit] = []
    for days in (0.5,) if battery else (0.5, 1.0, 3.0):
        lacking = days * wanted_l - own_l
        if lacking <= 0.0:
            continue
        fit = next((tank for tank in tanks if tank.capacity_l >= lacking), tanks[-1] if tanks else None)
        if fit is not None and fit not in worth:
            worth.append(fit)
    return worth


def tank_of(entrant: Entrant, own_tank_l: float, own: Tank | None) -> Tank | None:
    """The whole store of an entrant [l] with its float switch; the job's own as the job has it."""
    if entrant.tank is None:
        return own
    litres = own_tank_l + entrant.tank.capacity_l
    return Tank(litres, litres * (1.0 - TRAVEL_SHARE), litres) if litres > 50.0 else without_switch(litres)


def run_trials(
    field: Sequence[Entrant], layout: Layout, lights: Mapping[str, Light], use: Use, own_tank_l: float,
    progress: Callable[[float], bool] | None = None,
) -> list[Trial]:  # fmt: skip
    """Run every entrant through the same ten made years as the verdict's.

    Parameters
    ----------
    field : sequence of Entrant
        As :func:`entrants` gives them.
    layout : Layout
        Lift, run and cable lengths.
    lights : mapping
        The light for each way that the panels may stand.
    use : Use
        What is drawn day by day, a battery's state, what the well gives.
    own_tank_l : float
        What the job holds already. [L]
    progress : callable, optional
        Called with the share done; answers False to stop.

    Returns
    -------
    list[Trial]
        In the order of the field; :func:`with_front` sorts them.

    Raises
    ------
    Stopped
        If `progress` answers False.
    """
    done = []
    for number, entrant in enumerate(field):
        if progress is not None and not progress(number / len(field)):
            raise Stopped(Reason("search-stopped-nothing-changed"))
        cabling = entrant.row.cabling
        assert cabling is not None
        setup, light = Setup(entrant.row.kit, layout, cabling), lights[entrant.tilt]
        days, wanted = days_of(light), use.with_tank(tank_of(entrant, own_tank_l, use.tank))
        run = outlook_of(setup, days, means_of(setup, days, light.post, wanted), wanted)
        done.append(
            Trial(entrant, kit_price(Setup(entrant.kit, layout, cabling)), run.short_in_a_hundred, run.worst_month,
                  run.longest_dry_spell_days)
        )  # fmt: skip
    return done


def with_front(trials: Sequence[Trial]) -> list[Trial]:
    """The same, cheapest first, with the front marked and each other's better named."""
    ordered = sorted(trials, key=lambda t: (t.price, t.short_in_a_hundred))
    front: list[Trial] = []
    judged = []
    for trial in ordered:
        best = front[-1] if front else None
        if best is None or trial.short_in_a_hundred < best.short_in_a_hundred - SAME_DAYS:
            front.append(trial)
            judged.append(replace(trial, front=True))
            continue
        dearer, drier = trial.price - best.price, trial.short_in_a_hundred - best.short_in_a_hundred
        more = Reason("dearer", dearer=dearer) if dearer >= 0.5 else Reason("no-cheaper")
        days = Reason("more-short-days-hundred", drier=drier) if drier >= SAME_DAYS else Reason("no-fewer-short-days")
        judged.append(replace(trial, loses=Reason("than", more=more, entrant=name_of(best.entrant), days=days)))
    return judged


def name_of(entrant: Entrant) -> Reason:
    """A kit in few words: pump, panels, source, tank."""
    kit = entrant.kit
    values: dict[str, Value] = {
        "pump": kit.pump.name,
        "panels": kit.panels,
        "panel": kit.panel.name,
        "source": Reason(f"fed-by-{kit.source}"),
    }
    if kit.tank is None:
        return Reason("kit-in-few-words", **values)
    return Reason("kit-and-tank-in-few-words", **values, tank=kit.tank.name)


def cheapest_that_holds(trials: Sequence[Trial], allowed: float) -> Trial | None:
    """The cheapest with no more short days in a hundred than allowed. [-]"""
    return next((t for t in sorted(trials, key=lambda t: t.price) if t.short_in_a_hundred <= allowed), None)
