"""From the document to the core's own objects."""

from dataclasses import replace
from math import nan

from squall.catalogue import Catalogue
from squall.catalogue.reader import pick
from squall.core.electrics.conductors import Conductor, conductor, find_conductor
from squall.core.errors import OutOfRange
from squall.core.hydraulics.water import water_at
from squall.core.kit.kit import Kit
from squall.core.kit.layout import CablePiece, Layout, Outlet, Round, RunPiece
from squall.core.kit.parts import Device
from squall.core.kit.pressure_switch import PressureSwitch
from squall.core.kit.relays import COMMANDS, Loop, PlainLoad
from squall.core.kit.setup import Cabling
from squall.core.kit.supply import Banked, Controlled, Direct, Supply
from squall.core.need.demand import in_season
from squall.core.reason import Quantity, Reason
from squall.core.sky.typical_days import Light, Mounting, Post, light_of_year
from squall.job.document.job import Job, OptionDoc, Piece
from squall.job.document.parts import with_copies
from squall.job.worked.heights import heights_of
from squall.job.worked.place import altitude_of, azimuth_of, climate_of, site_of, tilt_of
from squall.words import later


def light_of(job: Job, catalogue: Catalogue) -> Light:
    """Half-hourly light on the job's panels."""
    return light_of_year(site_of(job), climate_of(job, catalogue), mounting_of(job))


def mounting_of(job: Job) -> Mounting:
    """How the job's panels stand, what is on their horizon and what shades them."""
    mount = job.mount
    post = None
    if mount.post:
        post = Post(mount.post_from.si, mount.post_to.si, mount.post_top.si, mount.post_panels, mount.bypass)
    return Mounting(
        tilt_of(job).si,
        azimuth_of(job).si % 360.0,
        job.dirt.si,
        None if mount.second_tilt is None else mount.second_tilt.si,
        in_season(mount.second_first, mount.second_last),
        None if mount.second_azimuth is None else mount.second_azimuth.si % 360.0,
        None if mount.group_tilt is None else mount.group_tilt.si,
        None if mount.third_azimuth is None else mount.third_azimuth.si % 360.0,
        None if mount.third_tilt is None else mount.third_tilt.si,
        tuple((row.azimuth.si, row.height.si) for row in mount.horizon),
        post,
    )


def piece_k(piece: Piece, catalogue: Catalogue) -> float:
    """Sum of the loss coefficients of a piece's fittings. [-]"""
    return sum(pick(catalogue.fittings, key, "fitting").minor_loss_k * n for key, n in piece.fittings.items())


def layout_of(job: Job, catalogue: Catalogue) -> Layout:
    """Lift, run and cable lengths."""
    pieces = tuple(
        RunPiece(
            piece.length.si,
            piece.bore.si,
            piece.roughness.si,
            piece_k(piece, catalogue),
            replaceable=not piece.fixed and piece.side == "delivery",
            suction=piece.side == "suction",
            end_height_m=None if piece.end_height is None else piece.end_height.si,
        )
        for piece in job.run
    )
    heights = heights_of(job)
    shared = round_of(job)
    return Layout(
        lift_m=heights.lift_m,
        end_pressure_m=job.end_pressure.si,
        pieces=pieces,
        water=water_at(job.water_temperature.si),
        closed_circuit=job.outlet == "loop",
        array_cable_m=job.array_cable.si,
        pump_cable_m=job.pump_cable.si,
        ambient_c=job.ambient.si,
        # Not known before a place is given; no kit is judged until then.
        record_low_c=climate_of(job, catalogue).record_low_c if job.placed else nan,
        bank_m=heights.rim_m,
        altitude_m=altitude_of(job).si,
        pump_below_m=heights.pump_below_m,
        drawdown_s_m2=heights.drawdown_s_m2,
        relief_m=relief_of(job),
        restrict_s2_m5=0.0 if job.restrict_flow is None else job.restrict_at.si / job.restrict_flow.si**2,
        switch=switch_of(job),
        round=shared,
        cable_pieces=cable_pieces_of(job),
    )


_RUNS = {
    "array": later("Pieces of other cable from panels to box"), "pump": later("Pieces of other cable from box to pump"),
}  # fmt: skip


def cable_pieces_of(job: Job) -> tuple[CablePiece, ...]:
    """Pieces of other cable in the job's runs.

    Raises
    ------
    OutOfRange
        If they are longer than the run they lie in, or a size is none of the tables'.
    """
    for run, whole in (("array", job.array_cable.si), ("pump", job.pump_cable.si)):
        told = sum(row.length.si for row in job.cables if row.run == run)
        if told > whole + 1e-9:
            raise OutOfRange(
                _RUNS[run], Quantity(told, "length"), later("{most:length} at most, as that run is long", most=whole)
            )
    rows = [(row, None if row.air is None else row.air.si) for row in job.cables]
    return tuple(CablePiece(row.run, row.length.si, conductor(row.size), row.place, warm) for row, warm in rows)


def switch_of(job: Job) -> PressureSwitch | None:
    """The job's pressure switch, if there is one.

    Raises
    ------
    OutOfRange
        If it would stop the pump before it starts it.
    """
    store = job.store
    if store.cut_out is None or store.cut_in is None:
        return None
    small = None if store.small_flow is None else store.small_flow.si
    return PressureSwitch(store.cut_in.si, store.cut_out.si, store.buffer.si * 1000.0, small)


def relief_of(job: Job) -> float | None:
    """Head that a relief valve or the pressure switch holds, the lower of them; None without either. [m]"""
    held = [
        typed.si
        for typed in (job.relief, job.store.cut_out if job.store.cut_in is not None else None)
        if typed is not None
    ]
    return min(held) if held else None


# The run's own end keeps at least this share of the day's water. [-]
LEAST_OF_THE_END = 0.01


def round_of(job: Job) -> Round | None:
    """The other places that share the kit; None if the run has the only end.

    Raises
    ------
    OutOfRange
        If they are to have all the water, or the run is a closed circuit.
    """
    if not job.outlets:
        return None
    if job.outlet == "loop":
        raise OutOfRange(later("Outlet"), later("a closed circuit"), later("an open end where other places are served"))
    total = sum(row.share.si for row in job.outlets)
    if total > 1.0 - LEAST_OF_THE_END + 1e-9:
        raise OutOfRange(
            later("Shares of the other places, together"), Quantity(total, "share"),
            later("{most:share} at most, so that the end of the run has some", most=1.0 - LEAST_OF_THE_END),
        )  # fmt: skip
    behind = {piece.id: number for number, piece in enumerate(job.run, start=1)}
    return Round(
        job.served,
        tuple(
            Outlet(
                row.name,
                max(row.lift.si, 0.0),
                (RunPiece(row.length.si, row.bore.si, row.roughness.si, row.fittings_k.si, replaceable=not row.fixed),),
                row.share.si,
                behind.get(row.after, 0),
            )
            for row in job.outlets
        ),
    )


def kit_of(option: OptionDoc, catalogue: Catalogue) -> Kit:
    """The core's kit of an option.

    Raises
    ------
    UnknownPart
        If the catalogue has lost one of its parts.
    """
    return Kit(
        pump=pick(catalogue.pumps, option.pump, "pump"),
        pumps=option.pumps,
        supply=supply_of(option, catalogue),
        panel=pick(catalogue.panels, option.panel, "panel"),
        in_series=option.in_series,
        in_parallel=option.in_parallel,
        hose=None if option.hose is None else pick(catalogue.hoses, option.hose, "hose"),
        tank=None if option.tank is None else pick(catalogue.tanks, option.tank, "tank"),
    )


def supply_of(option: OptionDoc, catalogue: Catalogue) -> Supply:
    """How an option's pump is fed; a pump controller's dial is counted in.

    Raises
    ------
    UnknownPart
        If the catalogue has lost one of its parts.
    OutOfRange
        If the option names no controller or battery where its source needs one.
    """
    if option.source == "panel":
        return Direct()
    if option.controller is None:
        raise OutOfRange("controller", Reason("none-at-all"), Reason("one-for-this-source"))
    controller = pick(catalogue.controllers, option.controller, "controller")
    if option.source == "controller":
        dial = option.dial.si if controller.kind == "pump" else 1.0
        return Controlled(replace(controller, out_max_v=controller.out_max_v * dial) if dial < 1.0 else controller)
    if option.battery is None:
        raise OutOfRange("battery", Reason("none-at-all"), Reason("one-for-this-source"))
    return Banked(controller, pick(catalogue.batteries, option.battery, "battery"), option.batteries_in_series)


def cable_prices(parts: Catalogue) -> tuple[tuple[str, float], ...]:
    """Price of a metre of cable by its conductor's key, the cheapest of each; those that a person has a price of. [money/m]"""
    found: dict[str, float] = {}
    for key, cable in parts.cables.items():
        if key not in parts.unranked:
            size = find_conductor(cable.size, "metric").key
            found[size] = min(cable.price, found.get(size, cable.price))
    return tuple(sorted(found.items()))


Ohms = tuple[float, float, float]


def cabling_of(option: OptionDoc, prices: tuple[tuple[str, float], ...] = (), takes: Ohms = (0.0, 0.0, 0.0)) -> Cabling:
    """The conductors of an option, with their prices [money/m] and what contacts on the pump's side, those on the panels' side and
    each joint at the pump take [ohm].
    """
    known = dict(prices)

    def priced(key: str) -> Conductor:
        return replace(conductor(key), price_m=known[key]) if key in known else conductor(key)

    # Whoever feeds a box without saying by what cable takes the pump's.
    to_box = option.array_cable or (None if option.source == "panel" else option.pump_cable)
    array = None if to_box is None else priced(to_box)
    fuse = None if option.fuse is None else option.fuse.si
    behind, ahead, splice = takes
    return Cabling(priced(option.pump_cable), array, fuse, contacts_ohm=behind, ahead_ohm=ahead, splice_ohm=splice)


def devices_of(job: Job, catalogue: Catalogue) -> tuple[Device, ...]:
    """Switches, relays and connectors in the pump's loop."""
    held = with_copies(job.parts, job.owned, catalogue).devices
    return tuple(pick(held, key, "device") for key in job.devices)


def loop_of(job: Job, catalogue: Catalogue) -> Loop:
    """Who of them carries the pump, who drives a relay's coil, and what else is on the bank."""
    devices = devices_of(job, catalogue)
    relay = next((device for device in devices if device.kind == "relay" and device.coil_a is not None), None)
    commands = () if relay is None else tuple(d for d in devices if d.id in job.pilots and d.kind in COMMANDS)
    carries = tuple(device for device in devices if device not in commands)
    return Loop(carries, commands, relay, tuple(PlainLoad(row.name, row.watts.si) for row in job.bank.loads))


def option_from(kit: Kit, cabling: Cabling, option_id: str, name: str) -> OptionDoc:
    """The document of a kit."""
    return OptionDoc(
        id=option_id,
        name=name,
        pump=kit.pump.id,
        pumps=kit.pumps,
        source=kit.source,
        panel=kit.panel.id,
        in_series=kit.in_series,
        in_parallel=kit.in_parallel,
        hose=None if kit.hose is None else kit.hose.id,
        controller=None if kit.controller is None else kit.controller.id,
        battery=None if kit.battery is None else kit.battery.id,
        batteries_in_series=kit.supply.count if isinstance(kit.supply, Banked) else 1,
        tank=None if kit.tank is None else kit.tank.id,
        pump_cable=cabling.pump.key,
        array_cable=None if cabling.array is None else cabling.array.key,
    )


def kit_name(kit: Kit) -> str:
    """Short name: pump, panels, source, hose."""
    source = {"panel": "direct", "controller": later("with controller"), "battery": later("with battery")}[kit.source]
    hose = f", {kit.hose.nominal}" if kit.hose is not None else ""
    tank = f", {kit.tank.name}" if kit.tank is not None else ""
    return f"{kit.pump.name}, {kit.panels} x {kit.panel.name} {source}{hose}{tank}"
