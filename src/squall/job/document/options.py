"""A kit's slots as they are changed by hand: what one slot brings to the others."""

from squall.catalogue.reader import Catalogue
from squall.core.kit.parts import Controller
from squall.job.document.job import Job, OptionDoc
from squall.job.document.unsaid import with_said, with_unsaid

# Slots in which something stands in until it is said what is fitted.
STAND_INS = ("controller", "battery", "array_cable")


def with_slot(job: Job, option_id: str, slot: str, catalogue: Catalogue) -> Job:
    """A job after one slot of an option was changed: a source brings what it can't do without.

    A pump fed by a controller or a bank has a cable to its box and a controller of that kind; the cheapest there is stands in
    where none was chosen, to be changed for the one that is fitted, and is told as taken until then. Fed straight from the
    panels it has neither.
    """
    if slot != "source":
        return job
    settled = {option.id: _settled(option, catalogue) for option in job.options if option.id == option_id}
    for option in job.options:
        if (now := settled.get(option.id)) is not None:
            stem = f"options.{option_id}"
            taken = [name for name in STAND_INS if getattr(now, name) not in (None, getattr(option, name))]
            gone = [f"{stem}.{name}" for name in STAND_INS if getattr(now, name) is None]
            job = with_unsaid(with_said(job, *gone), stem, taken)
    return job.model_copy(update={"options": [settled.get(option.id, option) for option in job.options]})


def _settled(option: OptionDoc, catalogue: Catalogue) -> OptionDoc:
    if option.source == "panel":
        return option.model_copy(update={"controller": None, "battery": None, "array_cable": None})
    wanted = [c for c in catalogue.controllers.values() if (c.kind == "pump") == (option.source == "controller")]
    standing = catalogue.controllers.get(option.controller or "")
    update: dict[str, object] = {"array_cable": option.array_cable or option.pump_cable}
    if standing is None or standing not in wanted:
        update["controller"] = _cheapest(wanted, catalogue, option)
    if option.source == "controller":
        update["battery"] = None
    elif option.battery is None:
        update |= _bank(option, catalogue)
    return option.model_copy(update=update)


def _cheapest(wanted: list[Controller], catalogue: Catalogue, option: OptionDoc) -> str | None:
    pump = catalogue.pumps.get(option.pump)
    rated = 12.0 if pump is None else pump.motor.rated_v
    serving = [c for c in wanted if c.out_max_v >= 0.9 * rated] or wanted
    panel = catalogue.panels.get(option.panel)
    amps = 0.0 if panel is None else 1.25 * panel.module.isc_a * option.in_parallel
    return min(serving, key=lambda c: (c.kind != "pump" and c.max_a < amps, c.price, c.id)).id if serving else None


def _bank(option: OptionDoc, catalogue: Catalogue) -> dict[str, object]:
    """The cheapest bank of the pump's volts."""
    pump = catalogue.pumps.get(option.pump)
    rated = 12.0 if pump is None else pump.motor.rated_v
    fitting = []
    for battery in catalogue.batteries.values():
        count = round(rated / battery.nominal_v)
        if 1 <= count <= 8 and abs(count * battery.nominal_v - rated) <= 1.0:
            fitting.append((battery.price * count, battery.id, count))
    if not fitting:
        return {"battery": next(iter(catalogue.batteries), None), "batteries_in_series": 1}
    _, battery_id, count = min(fitting)
    return {"battery": battery_id, "batteries_in_series": count}
