"""Why a kit is not for a job: its volts, its controller, its lift, the place, its flow, its year."""

from squall.core.drive.motors import shut_off_head
from squall.core.drive.tables import LoadTable
from squall.core.electrics.timers import week_of
from squall.core.hydraulics.suction import SuctionCheck, check_suction
from squall.core.kit.cabling import OVER_SUN
from squall.core.kit.kit import TOUCH_LIMIT_V, Kit
from squall.core.kit.layout import Layout
from squall.core.kit.outlets import served_at
from squall.core.kit.parts import BatteryUnit, Hose, Pump
from squall.core.kit.setup import Setup, design_current_a, table_on
from squall.core.kit.supply import FULL_SHARE, Banked, Controlled, Supply
from squall.core.reason import Reason
from squall.core.sky.typical_days import CLEAR, STEPS, Light
from squall.core.years.typical import Season, YearSum
from squall.core.years.use import Use

# Most volts over rated where the maker states none: common practice, no source.
UNSTATED_MOST = 1.2
SURFACE_MARGIN_M = 0.5
# Panels' working volts over a pump's rated ones, over a controller's least and over a bank's name, within which they suit
# it: common practice, no source.
PANEL_LEAST, PANEL_MOST, OVER_LEAST, OVER_BANK, SWITCHED_MOST = 0.9, 2.0, 1.1, 1.25, 2.0
# Amps over Ah: common practice, no source.
LEAD_CHARGE, LITHIUM_CHARGE = 0.25, 0.5


def wires_refusal(pump: Pump, supply: Supply) -> Reason | None:
    """Why a motor's wires don't go with what feeds it, or None; what nobody says is no reason.

    Three wires carry no direct current: only a pump controller that makes three phases of it turns such a motor.
    """
    if not isinstance(supply, Controlled):
        return Reason("three-wires-want-controller") if pump.three_wires else None
    drives = supply.controller.motor_wires
    if None in (drives, pump.motor_wires) or drives == pump.motor_wires:
        return None
    return Reason("controller-drives-other-wires", drives=drives, wires=pump.motor_wires)


def volts_refusal(kit: Kit) -> Reason | None:
    """Why panels straight on a pump are too low or too high for it, or it can't be joined to them, or None."""
    wires = wires_refusal(kit.pump, kit.supply)
    if wires is not None:
        return wires
    vmp, rated = kit.panel.module.vmp_v * kit.in_series, kit.pump.motor.rated_v
    if vmp < least_v(kit.pump):
        if kit.pump.least_v is not None:
            return Reason("under-pumps-least-volts", volts=vmp, least=kit.pump.least_v)
        return Reason("from-panels-below-what-pump-made", vmp=vmp, rated=rated)
    if vmp > PANEL_MOST * rated:
        return Reason("from-panels-over-twice-pumps", vmp=vmp, rated=rated)
    return None


def pump_controller_refusal(kit: Kit) -> Reason | None:
    """Why a pump controller fits neither these panels nor this pump, or None."""
    c = kit.controller
    assert c is not None
    wires = wires_refusal(kit.pump, kit.supply)
    if wires is not None:
        return wires
    vmp, rated = kit.panel.module.vmp_v * kit.in_series, kit.pump.motor.rated_v
    limit = allowed_v(kit)
    if c.out_max_v > limit:
        return Reason("controller-can-give-pumps-maker-allows", out_max=c.out_max_v, limit=limit)
    if c.out_max_v < least_v(kit.pump):
        return Reason("controller-gives-most-pump", out_max=c.out_max_v, rated=rated)
    if vmp < c.min_v * OVER_LEAST:
        return Reason("from-panels-too-near-controllers-least", vmp=vmp, min=c.min_v)
    return None


def charge_refusal(kit: Kit) -> Reason | None:
    """Why a charge controller can't fill this bank from these panels, or None."""
    assert isinstance(kit.supply, Banked)
    c, nominal = kit.supply.controller, kit.supply.nominal_v
    vmp = kit.panel.module.vmp_v * kit.in_series
    weak = bank_refusal(kit.pump, kit.supply)
    if weak is not None:
        return weak
    if nominal > c.out_max_v:
        return Reason("charge-controller-serves-up-bank", out_max=c.out_max_v, nominal=nominal)
    if vmp < OVER_BANK * nominal:
        return Reason("from-panels-cant-charge-bank", vmp=vmp, nominal=nominal)
    if c.kind == "charge-switching" and vmp > SWITCHED_MOST * nominal:
        return Reason("switching-charge-controller-wastes-most-bank", vmp=vmp, nominal=nominal)
    return charge_rate_refusal(kit)


def least_v(pump: Pump) -> float:
    """Least volts that a pump is to be fed with: as its maker says, else :data:`PANEL_LEAST` of its rated ones. [V]"""
    return PANEL_LEAST * pump.motor.rated_v if pump.least_v is None else pump.least_v


def bank_refusal(pump: Pump, bank: Banked) -> Reason | None:
    """Why a bank's volts are too few or too many for a pump, where its maker says so, or it takes none of them."""
    if pump.three_wires:
        return wires_refusal(pump, bank)
    if pump.least_v is not None and bank.open_v < pump.least_v:
        return Reason("under-pumps-least-volts", volts=bank.open_v, least=pump.least_v)
    if FULL_SHARE * bank.nominal_v > stands_v(pump) and pump.motor.max_v is not None:
        return Reason("bank-over-pumps-most-volts", volts=FULL_SHARE * bank.nominal_v, most=pump.motor.max_v)
    return None


def charge_rate_refusal(kit: Kit) -> Reason | None:
    """Why the panels would give a charger or a bank more than it can bear, or None.

    Notes
    -----
    A switching charger joins panels and bank: it can't hold their amps back, so its rating must be 1.25 times what they
    give into a short in full sun (NEC 690.8(A)(1), from memory: light runs above 1000 W/m2 for hours). A tracking one holds
    its output to its rating. Lead wants at most a quarter of its Ah an hour, lithium half: common practice, no source.
    """
    assert isinstance(kit.supply, Banked)
    c, battery = kit.supply.controller, kit.supply.battery
    short = kit.panel.module.isc_a * kit.in_parallel
    if c.kind == "charge-switching" and OVER_SUN * short > c.max_a:
        return Reason("switching-charger-cant-hold-panels-amps", short=short, design=OVER_SUN * short, most=c.max_a)
    amps, most = charging_a(kit), charge_share(battery) * battery.capacity_ah
    if amps > most:
        return Reason("panels-charge-bank-too-fast", amps=amps, most=most, charge=battery.capacity_ah)
    return None


def charging_a(kit: Kit) -> float:
    """Most amps that a kit's charger pushes into its bank in full sun (1000 W/m2). [A]"""
    assert isinstance(kit.supply, Banked)
    c = kit.supply.controller
    if c.kind == "charge-switching":
        return kit.panel.module.isc_a * kit.in_parallel
    return min(kit.array_w * c.efficiency / kit.bank_v, c.max_a)


def clipped_share(kit: Kit) -> float:
    """Share of full sun's watts that a tracking charger's rating leaves unused; 0 for any other. [-]"""
    if not isinstance(kit.supply, Banked) or kit.supply.controller.kind != "charge-tracking":
        return 0.0
    offered = kit.array_w * kit.supply.controller.efficiency / kit.bank_v
    return max(1.0 - kit.supply.controller.max_a / offered, 0.0)


def charge_share(battery: BatteryUnit) -> float:
    """Amps over Ah that a battery may be charged with. [1/h]"""
    return LEAD_CHARGE if battery.chemistry.startswith("lead") else LITHIUM_CHARGE


def supply_refusal(kit: Kit) -> Reason | None:
    """Why panels, controller, bank and pump don't fit one another, or None: asked by the ranking and of any kit alike."""
    match kit.supply:
        case Banked():
            return charge_refusal(kit)
        case Controlled():
            return pump_controller_refusal(kit)
        case _:
            return volts_refusal(kit)


def lifts(pump: Pump, table: LoadTable) -> bool:
    """Whether a pump gives water on a line at any volts that its maker allows."""
    return bool(((table.flow_m3_s > 0.0) & (table.volts_v <= stands_v(pump))).any())


def cannot_lift(layout: Layout) -> Reason:
    """Refusal of a pump that can't reach the outlet."""
    return Reason("pump-cant-lift-water-any-volts", static_head=max(place.static_head_m for place in layout.places))


def place_refusal(kit: Kit, layout: Layout, light: Light) -> Reason | None:
    """Why the place itself forbids a kit, if so: how its panels are to stand, its coldest morning, a pump that would have to pull too far."""
    stand = light.origin
    if stand is not None and kit.in_parallel % stand.mounting.ways:
        return Reason("strings-cant-face-so-many-ways", strings=kit.in_parallel, ways=stand.mounting.ways)
    cold = kit.open_cold_v(layout.record_low_c)
    if kit.controller is not None and cold > kit.controller.max_v:
        return Reason("open-coldest-morning-over-controllers", cold=cold, max=kit.controller.max_v)
    if cold > 2.0 * TOUCH_LIMIT_V:
        return Reason("open-coldest-morning-beyond-small-low", cold=cold)
    return stand_refusal(kit.pump, layout, kit.hose)


def stand_refusal(pump: Pump, layout: Layout, hose: Hose | None = None) -> Reason | None:
    """Why a surface pump can't stand on this bank, whatever feeds it, if so: it would have to pull too far."""
    if pump.placement != "surface" or layout.closed_circuit:
        return None
    check = surface_check(pump, layout, hose, 0.0)
    if check.spare_m >= 0.0:
        return None
    return Reason("surface-pump-bank-would-have-pull", bank=check.stands_m, limit=max(check.limit_m, 0.0))


def surface_check(pump: Pump, layout: Layout, hose: Hose | None, flow_m3_s: float) -> SuctionCheck:
    """Suction of a surface pump on the bank at a flow [m3/s], its own suction pieces counted, the water at its lowest of the year.

    Half a metre is kept in hand: common practice, no source.
    """
    suction = layout.suction_line(hose)
    falls = 0.0 if layout.falls is None else layout.falls.most_m
    stands = layout.bank_m + falls + layout.drawdown_s_m2 * flow_m3_s
    return check_suction(layout.altitude_m, suction, flow_m3_s, pump.npsh_required_m, SURFACE_MARGIN_M, stands)


def flow_refusal(kit: Kit, layout: Layout, most_flow_m3_s: float) -> Reason | None:
    """Why the flow of a bright noon [m3/s] forbids a kit, if so: a surface pump whose suction pipe then takes too much."""
    if not draws(kit, layout):
        return None
    check = surface_check(kit.pump, layout, kit.hose, most_flow_m3_s)
    if check.spare_m >= 0.0:
        return None
    return Reason(
        "full-flow-suction-loses-stands-above", losses=check.losses_m, stands=check.stands_m, spare=-check.spare_m
    )


def shut_off_m(kit: Kit, most_v: float) -> float:
    """Head against a closed outlet at given volts [V]: what every hose must bear. [m]

    A centrifugal end stands at its shut-off head; a displacement end pushes on until something gives, so at least its
    last measured head must be borne, and a relief valve or a pressure switch must hold it there.
    """
    return shut_off_head(kit.pump.motor, most_v)


def hose_refusal(kit: Kit, layout: Layout, most_v: float) -> Reason | None:
    """Why a kit's hose would burst at its lowest place if the outlet were shut, or None. [V]

    A relief valve or a pressure switch holds the head down, though never under the lift that is wanted.
    """
    if kit.hose is None:
        return None
    if layout.round is not None:
        return next((why for place in layout.places if (why := hose_refusal(kit, place, most_v)) is not None), None)
    start = layout.lowest_replaceable_m
    if start is None:
        return None
    shut = shut_off_m(kit, most_v)
    held = shut if layout.relief_m is None else min(shut, max(layout.relief_m, layout.static_head_m))
    head = held - start
    if head <= kit.hose.rated_head_m:
        return None
    return Reason("hose-rated-below-shut-off", nominal=kit.hose.nominal, rated=kit.hose.rated_head_m, head=head)


def bright_refusal(setup: Setup, instant_v: float) -> Reason | None:
    """What the brightest instant of the coldest day forbids, whatever the year brings: too many volts for the pump [V], a hose that bursts."""
    over = _over_volts(setup.kit, instant_v)
    if over is not None:
        return over
    return hose_refusal(setup.kit, setup.layout, max(instant_v, _shut_v(setup.kit)))


def allowed_v(kit: Kit) -> float:
    """Most volts that the pump stands: as its maker says, else :data:`UNSTATED_MOST` times its rated ones. [V]"""
    return stands_v(kit.pump)


def stands_v(pump: Pump) -> float:
    """Most volts that a pump stands. [V]"""
    return pump.motor.max_v or UNSTATED_MOST * pump.motor.rated_v


def _over_volts(kit: Kit, most_v: float) -> Reason | None:
    if most_v <= allowed_v(kit):
        return None
    code = "motor-instant-maker-allows" if kit.pump.motor.max_v is not None else "motor-instant-nobody-allows"
    return Reason(code, most_motor=most_v, most=allowed_v(kit))


def standing_v(kit: Kit) -> float:
    """Volts at which a pump stands against a shut outlet: its bank's, the most that its controller gives, or its own. [V]"""
    return kit.bank_v or _shut_v(kit)


def _shut_v(kit: Kit) -> float:
    # Against a shut outlet a motor takes few watts, so that a controller goes up to the most that it gives.
    return kit.supply.controller.out_max_v if isinstance(kit.supply, Controlled) else kit.pump.motor.rated_v


def draws(kit: Kit, layout: Layout) -> bool:
    """Whether a pump draws through a pipe of its own, whose losses its flow must be known for."""
    return kit.pump.placement == "surface" and not layout.closed_circuit and layout.suction_pieces > 0


def season_refusal(setup: Setup, season: Season | YearSum) -> Reason | None:
    """What the year or the brightest instant of the coldest day shows that forbids a kit."""
    kit, layout = setup.kit, setup.layout
    if layout.switch is not None:
        why = layout.switch.refusal(kit.pump.motor, standing_v(kit), layout.column_m)
        if why is not None:
            return why
    most_a, most_flow = setup.table.peaks(season.most_motor_v, season.most_motor_a, season.most_flow_m3_s)
    far = flow_refusal(kit, layout, most_flow) or bright_refusal(setup, season.instant_v)
    if far is not None:
        return far
    if season.stopped:
        return Reason("gives-no-water", why=season.stopped[0])
    if not season.gives_water:
        return Reason("never-gives-water-lift-any-months")
    over = _over_volts(kit, season.most_motor_v)
    if over is not None:
        return over
    burst = hose_refusal(kit, layout, max(season.most_motor_v, _shut_v(kit)))
    if burst is not None:
        return burst
    if kit.controller is not None and kit.controller.kind == "pump" and most_a > kit.controller.max_a:
        return Reason("pump-draws-controller-gives", most_motor=most_a, max=kit.controller.max_a)
    return None


def slowest_place(kit: Kit, layout: Layout, volts_v: float) -> str:
    """The place besides the run's own end that takes most of the round, or gets least of its share, at given volts [V]; nothing if it is the run's own."""
    assert layout.round is not None
    served = served_at(kit.pump.motor, layout, kit.hose, volts_v)
    per_share = [each.flow_m3_s / share for each, share in zip(served, layout.round.shares, strict=True)]
    slowest = per_share.index(min(per_share))
    return layout.round.outlets[slowest - 1].name if slowest else ""


# Shares of the worst month's hours with water: at which they are all that are allowed, and in which the well's yield tells. [-]
_ALL_HOURS, _WELL_TELLS = 0.98, 0.5


def _use_holds(kit: Kit, season: Season, use: Use) -> Reason | None:
    """What of the source and the bank's hours holds a kit back in its worst month, whatever its panels and its run would give."""
    month, well = season.worst_month(tuple(use.demand.litres_a_day.tolist())), use.most_of(kit)
    if isinstance(kit.supply, Banked):
        allowed_h = 24.0 * float(week_of(use.bank.timer, STEPS).mean())
        if season.hours_run(month) < _ALL_HOURS * allowed_h:
            return None
        if well is not None and season.means.rate_l_s >= well:
            return Reason("held-by-well")
        return Reason("held-by-timer") if allowed_h < 24.0 else Reason("held-by-pump")
    flow = season.flow_m3_s[CLEAR, month]
    if well is None or not flow.any():
        return None
    return Reason("held-by-well") if float((flow[flow > 0.0] * 1000.0 >= well).mean()) > _WELL_TELLS else None


def limiting_cause(kit: Kit, layout: Layout, season: Season, use: Use) -> Reason:
    """What most holds the kit back, in plain words."""
    if bool(season.beyond.any()):
        return Reason("held-by-nothing")
    line = layout.line(kit.hose)
    flow = float(season.flow_m3_s.max())
    if layout.round is not None:
        slowest = slowest_place(kit, layout, season.most_motor_v)
        if slowest:
            return Reason("held-by-place", place=slowest)
    held = _use_holds(kit, season, use)
    if held is not None:
        return held
    loss = line.loss_m(flow)
    if loss > 0.5 * max(line.static_head_m, 0.5):
        if kit.hose is not None:
            return Reason("held-by-run-through-hose", loss=loss, hose=kit.hose.nominal)
        return Reason("held-by-run", loss=loss)
    table = table_on(kit.pump.motor, layout, kit.hose)
    if (
        not isinstance(kit.supply, Banked)
        and design_current_a(kit, table) >= 0.9 * kit.panel.module.isc_a * kit.in_parallel
    ):
        return Reason("held-by-panels")
    return Reason("held-by-sun") if not isinstance(kit.supply, Banked) else Reason("held-by-charge")
