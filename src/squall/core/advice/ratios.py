"""How many watts of panel for a pump, each by its label: one to one, half as much again, twice, or slightly under."""

from dataclasses import dataclass, replace

from squall.core.kit.kit import Kit
from squall.core.kit.setup import Setup, kit_price
from squall.core.reason import Reason
from squall.core.sky.typical_days import Light
from squall.core.years.typical import sum_of_year
from squall.core.years.use import Use

SCHOOLS = (
    (0.9, Reason("slightly-under")),
    (1.0, Reason("ratio", ratio=1.0)),
    (1.5, Reason("ratio", ratio=1.5)),
    (2.0, Reason("ratio", ratio=2.0)),
)


@dataclass(frozen=True)
class School:
    """What one ratio gives: litres on the average day of each month [L], price, and most volts at the pump [V]."""

    ratio: float
    words: Reason
    litres: tuple[float, ...]
    price: float
    most_v: float


def of_ratio(kit: Kit, ratio: float) -> Kit:
    """The same kit with panels of the same volts whose amps make the array that many times the pump's watts. [-]"""
    factor = ratio * kit.pump.stated_w / kit.array_w
    module = kit.panel.module
    scaled = replace(module, isc_a=module.isc_a * factor, imp_a=module.imp_a * factor)
    return replace(kit, panel=replace(kit.panel, module=scaled, price=kit.panel.price * factor))


def schools(setup: Setup, light: Light, use: Use) -> list[School]:
    """Each school's litres and price on one job.

    Parameters
    ----------
    setup : Setup
        The kit on its line with its cables.
    light, use
        As they stand.
    """
    kit, layout, cabling = setup.kit, setup.layout, setup.cabling
    found = []
    for ratio, words in SCHOOLS:
        other = of_ratio(kit, ratio)
        year = sum_of_year(Setup(other, layout, cabling), light, use)
        found.append(
            School(
                ratio,
                words,
                tuple(year.average_litres.tolist()),
                kit_price(Setup(other, layout, cabling)),
                year.most_motor_v,
            )
        )
    return found
