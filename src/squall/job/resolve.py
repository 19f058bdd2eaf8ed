"""From the document to the core's own objects."""

from squall.catalogue import Catalogue
from squall.catalogue.reader import pick
from squall.core.climate import Climate, Site
from squall.core.conductors import conductor
from squall.core.demand import Drinkers, monthly_need
from squall.core.kits import Cabling, Kit, Layout, RunPiece
from squall.core.parts import Device
from squall.core.sun import Light, Mounting, light_of_year
from squall.core.water import water_at
from squall.job.document import Job, OptionDoc, Piece


def site_of(job: Job) -> Site:
    """Where the panels stand."""
    return Site(job.latitude.si, job.longitude.si, job.altitude.si, job.clock_offset.si)


def climate_of(job: Job, catalogue: Catalogue) -> Climate:
    """The months of the place."""
    return pick(catalogue.climates, job.climate, "climate")


def light_of(job: Job, catalogue: Catalogue) -> Light:
    """Half-hourly light on the job's panels."""
    mounting = Mounting(job.tilt.si, job.azimuth.si % 360.0, job.dirt.si)
    return light_of_year(site_of(job), climate_of(job, catalogue), mounting)


def piece_k(piece: Piece, catalogue: Catalogue) -> float:
    """Sum of the loss coefficients of a piece's fittings. [-]"""
    return sum(pick(catalogue.fittings, key, "fitting").minor_loss_k * n for key, n in piece.fittings.items())


def layout_of(job: Job, catalogue: Catalogue) -> Layout:
    """Lift, run and cable lengths."""
    pieces = tuple(
        RunPiece(
            piece.length.si, piece.bore.si, piece.roughness.si, piece_k(piece, catalogue), replaceable=not piece.fixed
        )
        for piece in job.run
    )
    return Layout(
        lift_m=job.lift.si,
        end_pressure_m=job.end_pressure.si,
        pieces=pieces,
        water=water_at(job.water_temperature.si),
        closed_circuit=job.outlet == "loop",
        array_cable_m=job.array_cable.si,
        pump_cable_m=job.pump_cable.si,
        ambient_c=job.ambient.si,
        record_low_c=climate_of(job, catalogue).record_low_c,
        bank_m=job.rim.si,
        altitude_m=job.altitude.si,
    )


def need_of(job: Job) -> tuple[float, ...]:
    """Litres a day by month."""
    if job.need_by == "herd":
        base = sum(Drinkers(row.name, row.count.si, row.each.si * 1000.0).litres_a_day for row in job.herd)
    else:
        base = job.litres.si * 1000.0
    return monthly_need(base, tuple(None if month is None else month.si * 1000.0 for month in job.months))


def kit_of(option: OptionDoc, catalogue: Catalogue) -> Kit:
    """The core's kit of an option.

    Raises
    ------
    UnknownPart
        If the catalogue has lost one of its parts.
    """
    return Kit(
        pump=pick(catalogue.pumps, option.pump, "pump"),
        source=option.source,
        panel=pick(catalogue.panels, option.panel, "panel"),
        in_series=option.in_series,
        in_parallel=option.in_parallel,
        hose=None if option.hose is None else pick(catalogue.hoses, option.hose, "hose"),
        controller=None if option.controller is None else pick(catalogue.controllers, option.controller, "controller"),
        battery=None if option.battery is None else pick(catalogue.batteries, option.battery, "battery"),
        batteries_in_series=option.batteries_in_series,
    )


def cabling_of(option: OptionDoc) -> Cabling:
    """The conductors of an option."""
    array = None if option.array_cable is None else conductor(option.array_cable)
    return Cabling(conductor(option.pump_cable), array)


def devices_of(job: Job, catalogue: Catalogue) -> tuple[Device, ...]:
    """Switches, relays and connectors in the pump's loop."""
    return tuple(pick(catalogue.devices, key, "device") for key in job.devices)


def option_from(kit: Kit, cabling: Cabling, option_id: str, name: str) -> OptionDoc:
    """The document of a kit."""
    return OptionDoc(
        id=option_id,
        name=name,
        pump=kit.pump.id,
        source=kit.source,
        panel=kit.panel.id,
        in_series=kit.in_series,
        in_parallel=kit.in_parallel,
        hose=None if kit.hose is None else kit.hose.id,
        controller=None if kit.controller is None else kit.controller.id,
        battery=None if kit.battery is None else kit.battery.id,
        batteries_in_series=kit.batteries_in_series,
        pump_cable=cabling.pump.key,
        array_cable=None if cabling.array is None else cabling.array.key,
    )


def kit_name(kit: Kit) -> str:
    """Short name: pump, panels, source, hose."""
    source = {"panel": "direct", "controller": "with controller", "battery": "with battery"}[kit.source]
    hose = f", {kit.hose.nominal}" if kit.hose is not None else ""
    return f"{kit.pump.name}, {kit.panels} x {kit.panel.name} {source}{hose}"
