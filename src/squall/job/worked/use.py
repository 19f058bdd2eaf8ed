"""What a job wants and what waits for it, for every judgement alike: need, draw through the day, store, bank, well; and how its kits are wired."""

from collections.abc import Sequence
from math import pi

from squall.catalogue import Catalogue, catalogue
from squall.core.electrics.protection import LoopPart
from squall.core.electrics.timers import TimerStart
from squall.core.errors import OutOfRange
from squall.core.kit.bank import BankState
from squall.core.kit.cabling import Rules
from squall.core.kit.parts import Device, TankUnit
from squall.core.kit.relays import ON_PANELS_SIDE, Coil
from squall.core.need.demand import Demand, demand_of, span_h
from squall.core.reason import Quantity
from squall.core.years.tanks import Tank, effective_travel_m, without_switch
from squall.core.years.use import Use
from squall.job.document.job import Job
from squall.job.document.power import DAY_NAMES
from squall.job.worked.heights import heights_of
from squall.job.worked.needs import Part, need_of, parts_of_need, wanted_of
from squall.job.worked.place import climate_of
from squall.job.worked.resolve import cable_prices, devices_of, loop_of
from squall.words import later

# Where litres are typed and no hours: they are wanted between these hours of the clock.
TYPED_HOURS = (6.0, 18.0)


def floats_of(job: Job) -> int:
    """How many float switches stop the pump: those in its loop, else the one that the store speaks of."""
    in_loop = sum(device.kind == "float switch" for device in devices_of(job, catalogue()))
    return in_loop or int(job.store.float_switch)


def tank_of(job: Job, unit: TankUnit | None = None) -> Tank | None:
    """The store of a job with its float switch: what trough and tank hold, and a tank that the kit brings.

    Raises
    ------
    OutOfRange
        If the float's travel leaves nothing over the ripple, or is more than the water is deep.
    """
    litres = job.want.trough.si * 1000.0 + (unit.capacity_l if unit is not None else 0.0)
    if litres <= 0.0:
        return None
    if not floats_of(job):
        return without_switch(litres)
    depth = unit.depth_m if unit is not None and job.want.trough.si == 0.0 else job.store.depth.si
    travel = effective_travel_m(job.store.travel.si, job.store.ripple.si)
    if travel <= 0.0:
        raise OutOfRange(
            later("Float's travel"),
            Quantity(job.store.travel.si, "length"),
            later("more than the ripple under it, {ripple:length}", ripple=job.store.ripple.si),
        )
    if job.store.travel.si > depth:
        raise OutOfRange(
            later("Float's travel"),
            Quantity(job.store.travel.si, "length"),
            later("at most the water's depth in the tank, {depth:head}", depth=depth),
        )
    return Tank(litres, litres * (1.0 - travel / depth), litres)


def demand_by(job: Job, wanted: tuple[float, ...], parts: Sequence[Part]) -> Demand:
    """What is drawn through the day: each row over its own hours, a herd's burst within its first hour. No headroom."""
    if job.need_by == "litres" or not parts:
        return demand_of([(wanted, *TYPED_HOURS)])
    sums = [sum(part.litres[month] for part in parts) for month in range(12)]
    scale = [want / total if total > 0.0 else 0.0 for want, total in zip(wanted, sums, strict=True)]
    herd = {row.id for row in job.herd}
    rows: list[tuple[tuple[float, ...], float, float]] = []
    for part in parts:
        litres = tuple(value * factor for value, factor in zip(part.litres, scale, strict=True))
        share = job.want.burst.si if part.id in herd else 0.0
        span = span_h(part.from_hour, part.to_hour)
        if share > 0.0 and span > 1.0:
            first, rest = (tuple(value * s for value in litres) for s in (share, 1.0 - share))
            rows += [(first, part.from_hour, part.from_hour + 1.0), (rest, part.from_hour + 1.0, part.to_hour)]
        else:
            rows.append((litres, part.from_hour, part.to_hour))
    lost = tuple(want if total <= 0.0 else 0.0 for want, total in zip(wanted, sums, strict=True))
    return demand_of([*rows, (lost, *TYPED_HOURS)])


def follows_sun(job: Job) -> bool:
    """Whether the use itself follows the sun: as typed; else where only litres are, and nobody said at what hours."""
    if job.want.use != "auto":
        return job.want.use == "sun"
    return job.need_by == "litres"


def well_gives(job: Job) -> tuple[float | None, float | None]:
    """What a well recovers, where it is known [L/s], and what stands in it over the pump. [L]"""
    if job.water != "well" or job.well.gives is None:
        return None, None
    gives = job.well.gives.si * 1000.0
    if job.well.bore is None:
        return gives, None
    return gives, pi / 4.0 * job.well.bore.si**2 * heights_of(job).pump_below_m * 1000.0


def bank_of(job: Job, parts: Catalogue) -> BankState:
    """The battery of a job: its age, the coldest month's air, its timer."""
    coldest = min((m.t_min_c + m.t_max_c) / 2.0 for m in climate_of(job, parts).months)
    starts = tuple(
        TimerStart(row.at.si, row.minutes.si / 60.0, tuple(bool(getattr(row, day)) for day in DAY_NAMES))
        for row in job.bank.timer
    )
    drain_w = sum(row.watts.si * row.hours.si for row in job.bank.loads) / 24.0
    return BankState(job.bank.age.si, coldest, starts, loop_of(job, parts).coil_a, drain_w)


def use_of(job: Job, parts: Catalogue) -> Use:
    """All of it, with the job's own store; without it where its float contradicts itself, which a kit's judgement then says.

    Raises
    ------
    SquallError
        Before a place is given.
    """
    rows, (gives, stands) = parts_of_need(job, parts), well_gives(job)
    use = Use(
        need_of(job, parts), demand_by(job, wanted_of(job, rows), rows), None, follows_sun(job), bank_of(job, parts),
        gives, stands, job.want.allowed.si,
    )  # fmt: skip
    try:
        return use.with_tank(tank_of(job))
    except OutOfRange:
        return use


def rules_of(job: Job, parts: Catalogue) -> Rules:
    """How the job wants its kits wired."""
    loop = loop_of(job, parts)
    relay, coil = loop.relay, None
    if relay is not None and relay.coil_v is not None and loop.pilots:
        coil = Coil(relay.title, relay.coil_v, loop.coil_a, _loop_parts(loop.pilots))
    shop = tuple(parts.protectors.values())
    before = tuple(device for device in loop.carries if device.kind in ON_PANELS_SIDE)
    behind = tuple(device for device in loop.carries if device.kind not in ON_PANELS_SIDE)
    return Rules(
        job.max_drop.si, job.wire_standard, job.protection, _loop_parts(behind), shop, job.bank.lead.si, cable_prices(parts), coil,
        _loop_parts(before), loop.loads, job.splice,
    )  # fmt: skip


def _loop_parts(devices: Sequence[Device]) -> tuple[LoopPart, ...]:
    return tuple(LoopPart(device.name, device.rating_a, device.rating_v, device.poles) for device in devices)
