"""The steps in which the chosen kit goes in, worked from the kit and the place: each with why, a check, and what bites."""

from collections.abc import Sequence
from dataclasses import dataclass

from squall.core.electrics.splices import SPLICES, SpliceKind
from squall.core.fit.lifting import ONE_PERSON_KG
from squall.core.kit.supply import Controlled
from squall.core.reason import Spoken
from squall.job.document.job import Job
from squall.job.fitted.cutlist import FirstWater, Lowering, hangs, lowering_of
from squall.job.fitted.joints import joints_of
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.words import later, say_n

# Sodium hypochlorite wanted in a well's water to shock it, as chlorine; household bleach carries some 5 % of it. From the
# WHO's technical notes on cleaning and disinfecting wells, from memory. [kg/m3], [-]
SHOCK_KG_M3, BLEACH_SHARE = 0.05, 0.05


@dataclass(frozen=True)
class FitStep:
    """One step.

    Attributes
    ----------
    key : str
        By which its tick is kept.
    does, why, check, bites : Spoken
        What to do; why; what to see before the next; what could hurt.
    minutes : int
        About so long. [min]
    tools : tuple of Spoken
        In the hand.
    hold : bool
        Whether nothing goes on before the check is true.
    shown : Spoken
        The one figure that belongs in its picture.
    how : str
        Which of several ways it is done; empty where there is the one.
    """

    key: str
    does: Spoken
    why: Spoken
    check: Spoken
    minutes: int
    tools: tuple[Spoken, ...] = ()
    bites: Spoken = ""
    hold: bool = False
    shown: Spoken = ""
    how: str = ""

    @property
    def drawn(self) -> str:
        """Key of its picture: of the way in which it is done, where there are several."""
        return f"{self.key}-{self.how}" if self.how else self.key


def fit_steps(job: Job, a: Assessment, chosen: KitAssessment, water: FirstWater | None) -> tuple[FitStep, ...]:
    """Steps from the open bag to water at the outlet.

    Parameters
    ----------
    job, a, chosen
        The job, worked out, and its kit.
    water : FirstWater or None
        When the first water comes in good light.
    """
    lowering = lowering_of(job, a, chosen)
    steps = [_lay_out(job, chosen, on_rope=hangs(a, chosen)), *_end_steps(a, chosen), _bucket(chosen)]
    if job.roof.used:
        steps.append(_barrels(job))
    if chosen.kit.pump.placement == "surface":
        steps.append(_on_the_bank())
    elif job.water in ("well", "cistern"):
        steps += _into_a_well(job, a, lowering)
    else:
        steps += _into_open_water(lowering)
    if job.outlet == "loop":
        steps.append(_loop())
    elif job.outlet != "open":
        steps.append(_tank(job))
    steps += [_panels(job), _box(chosen), _join(), _switch_on(water)]
    if job.water == "well":
        steps.append(_disinfect(job, a))
    steps.append(_labels(on_rope=hangs(a, chosen)))
    if job.outdoors.stand == "folding":
        steps.append(_pack())
    return tuple(steps)


def tools_of(steps: Sequence[FitStep]) -> tuple[str, ...]:
    """What to carry for all steps, each once, in the order in which it is wanted."""
    return tuple(dict.fromkeys(str(tool) for step in steps for tool in step.tools))


def _lay_out(job: Job, chosen: KitAssessment, *, on_rope: bool) -> FitStep:
    ties = later("every {metres:length}", metres=1.8)
    if job.fit.ties == "close":
        ties = later(
            "every {near:length} near the pump and {far:length} above, on both sides of each joint", near=0.75, far=1.2
        )
    shown = later("{metres:length}", metres=0.75 if job.fit.ties == "close" else 1.8)
    key, does = "lay-hose", later("Lay hose and cable along a tape on clean ground; cut them as listed; tie them together {ties}.", ties=ties)  # fmt: skip
    why: Spoken = later("On the ground a short piece costs nothing.")
    check = later("Hose without a kink, the cable slack beside it; the hose's free end capped against dirt.")
    if on_rope:
        key, does = "lay-out", later("Lay hose, rope and cable along a tape on clean ground; cut them as listed; tie them together {ties}.", ties=ties)  # fmt: skip
        why = later("{why} The rope is the shortest of the three, so that it carries all.", why=why)
        check = later("Rope taut, hose and cable slack beside it; the hose's free end capped against dirt.")
    supply = chosen.kit.supply
    if isinstance(supply, Controlled) and "probe" in supply.controller.asks:
        does = later("{does} The dry-run probe a hand above the pump, its cable along the hose.", does=does)
        check = later("{check} The probe hangs free of hose and rope.", check=check)
    return FitStep(key, does, why, check, 30, (later("tape"), later("knife"), later("ties")), shown=shown)


def _end_steps(a: Assessment, chosen: KitAssessment) -> list[FitStep]:
    joints = joints_of(a, chosen)
    needs = [str(need) for joint in joints.joints for need in joint.needs if need.code != "pushed-on"]
    more: Spoken = later("Between: {needs}.", needs="; ".join(dict.fromkeys(needs))) if needs else ""
    return [
        FitStep(
            "end",
            later("Hose onto the pump's barb, two clamps, their screws on opposite sides. {more}", more=more),
            later("Under pressure a single clamp lets go on one side. A stiff pipe straight on a plastic barb snaps it: soft sleeve between."),
            later("It doesn't turn by hand.") if not joints.clamps
            else later("It doesn't turn by hand. {clamps} on the whole run.", clamps=say_n("{n} clamp", "{n} clamps", joints.clamps)),
            15, (later("screwdriver"), later("hot water for a stiff hose"),),
        ),
        _splice_step(a, chosen),
    ]  # fmt: skip


_SPLICED: dict[SpliceKind, tuple[Spoken, tuple[Spoken, ...]]] = {
    "sleeve": (
        later("sleeve on first, crimp or solder, shrink until glue oozes at both ends"), (later("crimper"), later("hot air or a flame kept off the hose")),
    ),
    "resin": (
        later("crimp or solder, the cores apart in the mould, fill it with resin and leave it until it has set"), (later("crimper"), later("resin splice"), later("gloves")),
    ),
    "silicone": (
        later("twist and crimp, the cores parted, each soaked in silicone, a day to dry"), (later("crimper"), later("silicone")),
    ),
    "clips": (later("clips, minus first, then the pump into the water, then plus"), (later("clips"),)),
}  # fmt: skip


def _splice_step(a: Assessment, chosen: KitAssessment) -> FitStep:
    kind, wet = a.rules.splice, chosen.kit.pump.placement != "surface"
    how, tools = _SPLICED[kind]
    leads: Spoken = (
        later("lead 1 to core 1, 2 to 2, 3 to 3")
        if chosen.kit.pump.three_wires
        else later("plus to plus, minus to minus")
    )
    why: Spoken = later("A dry joint that moves works itself loose.")
    bites: Spoken = ""
    if wet:
        why = later("This joint lies under water for years and can't be reached.")
        if SPLICES[kind].under_water == "fails-first":
            bites = later(
                "The old cheap way: under water it is the first to fail. A sleeve or resin costs little more."
            )
    check: Spoken = later("Pull it as hard as you dare; the strain goes to the cable's tie, not to the joint.")
    if kind == "clips":
        why = later("For a try: soon on, soon off.")
        check = later("Each bites bare metal, dry, and can't reach the other.")
        bites = later(
            "For a trial only: clips heat, corrode and let go. Nothing is left running on them; make the joint before you leave."
        )
    if chosen.kit.pump.three_wires:
        label = later("Label all three at both ends before they go down: two swapped, it runs backwards.")
        bites = later("{bites} {label}", bites=bites, label=label) if bites else label
    elif chosen.kit.pump.motor_wires is None:
        bites = bites or later("With three wires, label all three before they go down: two swapped, it runs backwards.")
    return FitStep(
        "splice", later("Cable onto the pump's leads, {leads}: {how}.", leads=leads, how=how), why,
        check, 20, tools, bites, hold=True,
        how="" if kind == "sleeve" else kind,
    )  # fmt: skip


def _bucket(chosen: KitAssessment) -> FitStep:
    does: Spoken = later("Bucket test: pump in a bucket, short hose, on its own source, a few seconds.")
    why: Spoken = later("What fails now is mended in a minute; down there it costs a day. Again after any change of its end.")  # fmt: skip
    if chosen.kit.pump.placement == "surface":
        does = later("Bucket test: pump beside a full bucket, primed, a short suction hose in it, on its own source, a few seconds.")  # fmt: skip
        why = later("What fails now is mended in a minute. Again after any change of its end.")
    return FitStep(
        "bucket",
        does,
        why,
        later("It turns the right way and fills; then off, and dry hands."),
        10, (later("bucket"), later("the box or a charged battery"),),
        later("Never dry: a helical end's rubber melts within a minute.") if chosen.kit.pump.end == "helical" else "", hold=True,
    )  # fmt: skip


def _on_the_bank() -> FitStep:
    return FitStep(
        "bank",
        later("Pump on a firm, level place above flood; foot valve and strainer in the water, the suction pipe rising all the way."),
        later("A hump in the suction keeps air, and a pump that draws air draws nothing."),
        later("Filled to the brim through the priming plug, it stays full."),
        20, (later("spanner"), later("a can of water"),), later("A bank that undercuts carries nobody."), hold=True,
    )  # fmt: skip


def _into_a_well(job: Job, a: Assessment, lowering: Lowering | None) -> list[FitStep]:
    found = [
        FitStep(
            "eye",
            later("Eye bolt through the well's cap: pilot hole, then the bolt's own size, washer and nut beneath."),
            later("Rope, hose and cable get a hole each; a cap that closes keeps out what falls and what thirsts."),
            later("It carries your weight."),
            20, (later("drill"), later("step drill"), later("spanner"),),
            later("Never enter a well: its gas kills without a warning, and so do those who follow. Tie yourself and every tool."),
        )
    ]  # fmt: skip
    if lowering is not None:
        people = lowering.load.people
        crew: Spoken = (
            later("one person can") if people == 1 else later("two people: over {most:mass}", most=ONE_PERSON_KG)
        )
        found.append(
            FitStep(
                "lower",
                later("Wipe everything with a cloth wet with dilute bleach. Lower by the rope alone, {deep:length}, and make it fast.", deep=lowering.hanging_m),
                later("Neither hose nor cable carries: a lead pulled out under water ends the day. {crew}, for {dry:mass} now and {full:mass} with the hose full.", crew=crew, dry=lowering.load.dry_kg, full=lowering.load.lift_kg),
                later("It hangs free: lift a hand's breadth and set it down. Slack hose and cable at the top, drip loop below the box."),
                20, (later("gloves"), later("bleach"), later("cloth"),), later("Fingers out of the rope's bights. Nobody under it, nobody on the cap."), hold=True,
                shown=later("{deep:length}", deep=lowering.hanging_m),
            )
        )  # fmt: skip
    return found


def _into_open_water(lowering: Lowering | None) -> list[FitStep]:
    drum: Spoken = (
        later("a float")
        if lowering is None
        else later("a drum of {litres:litres} or more", litres=lowering.drum_l / 1000.0)
    )
    return [
        FitStep(
            "float",
            later("Hang the pump under {drum}, clear of the bottom, in a crate with a screen; moor it to the bank by its rope.", drum=drum),
            later("Mud lies at the bottom and weed floats on top; {down:length} down is the cleanest. The level falls, a float goes with it.", down=0.5),
            later("Pull: the mooring holds, and nothing hangs on cable or hose."),
            30, (later("drum"), later("crate"), later("screen"), later("stake"),),
            later("Not alone at deep water or on ice. No boat under the hose."), hold=True,
            shown="" if lowering is None else later("{litres:litres}", litres=lowering.drum_l / 1000.0),
        )
    ]  # fmt: skip


def _barrels(job: Job) -> FitStep:
    full_kg = 1000.0 * job.roof.barrel.si
    return FitStep(
        "barrels",
        later("Barrels level on blocks, joined at the foot by short hose, a valve at each; the overflow at the first; the intake a hand above the bottom."),
        later("Level barrels fill and empty together; mud lies at the bottom."),
        later("Water stands alike in all of them; a valve shut, none of the others runs out."),
        60, (later("level"), later("blocks"), later("drill"), later("valves"),),
        later("A full one weighs {mass:mass}: firm ground, and nobody below it.", mass=full_kg),
        shown=later("{mass:mass}", mass=full_kg),
    )  # fmt: skip


def _loop() -> FitStep:
    return FitStep(
        "loop",
        later("Lead the return back into the water, its end a few strides from the intake; at the loop's highest place a tee with a vent."),
        later("A return beside the intake feeds the pump its own bubbles. Air at the top stops the whole loop; once the loop is full the way down pulls as hard as the way up resists."),
        later("The vent spits and then runs clear; no gurgling afterwards."),
        20, (later("tee"), later("vent or cap"), later("knife"),),
        later("The pump must lift to the top once before the loop helps it: only the start shows whether it can."),
    )  # fmt: skip


def _tank(job: Job) -> FitStep:
    floats: Spoken = ""
    if job.store.float_switch:
        floats = later("Its float's cord clamped so that it stops at {depth:length} and starts {travel:length} lower.", depth=job.store.depth.si, travel=job.store.travel.si)  # fmt: skip
    return FitStep(
        "tank",
        later("Hose over the tank's rim or through its wall, its end tied; an overflow wider than the hose, led away from the footing. {floats}", floats=floats),
        later("A tank that runs over digs out what it stands on; a hose that nobody tied jumps out when the pump starts."),
        later("The float lifted by hand stops the pump; let down, it starts.") if floats else later("It fills, and what is too much runs where it should."),
        30, (later("spanner"), later("ties"), later("drill"),),
        later("Nobody climbs into a tank."),
        shown=later("{depth:length}", depth=job.store.depth.si) if floats else "",
    )  # fmt: skip


def _pack() -> FitStep:
    return FitStep(
        "pack",
        later("When it has done: switch off, covers on, then the plugs apart; drain the hose downhill and roll it from the pump's end; panels face to face."),
        later("Packed wet it rots or freezes; packed glass outwards it breaks on the way."),
        later("Every plug has its cap, nothing drips, nothing is left on the bank."),
        10, (later("caps"), later("bag"),),
        later("Plugs are never parted under load: an arc of direct current doesn't go out."),
    )  # fmt: skip


def _panels(job: Job) -> FitStep:
    tilt: Spoken = (
        later("{angle:angle} from level", angle=job.tilt.si) if job.tilt is not None else later("as Sun and shade says")
    )
    return FitStep(
        "panels",
        later("Panels where nothing shades them from morning to evening, tilted {tilt}, tied against the wind that Frost and wind counts with.", tilt=tilt),
        later("A small shadow on one panel throttles its whole string."),
        later("All packing corners off; nobody's own shadow on them; covered until the last step."),
        40, (later("spanner"), later("level"), later("covers and string"),),
        later("A panel in wind is a sail: two people. Live in any light."),
        shown="" if job.tilt is None else later("{angle:angle}", angle=job.tilt.si),
    )  # fmt: skip


def _box(chosen: KitAssessment) -> FitStep:
    lamps: Spoken = later("lamps in sight, ") if chosen.kit.controller is not None else ""
    return FitStep(
        "box",
        later("Box in the shade, {lamps}cable entries at the bottom, glands tight, spare fuse inside.", lamps=lamps),
        later("Heat ages what is inside; water runs in from above, never from below."),
        later("A tug at each gland; no mud in any plug."),
        20, (later("screwdriver"), later("gland spanner"),),
    )  # fmt: skip


def _join() -> FitStep:
    return FitStep(
        "join",
        later("Join it in the order that Circuit prints: dead first, the pump, the box, the source last."),
        later("Whoever joins in that order never holds a live end."),
        later("Each check of that list true before the next."),
        30, (later("meter"), later("screwdriver"), later("crimper"),),
        later("Over 60 V DC licensed practice. Local codes override all of this."), hold=True,
    )  # fmt: skip


def _switch_on(water: FirstWater | None) -> FitStep:
    when: Spoken = (
        later("in good light no water is to be expected; look at the verdict first")
        if water is None
        else later("the first water after about {seconds:seconds}, {litres:litres} of hose being empty", seconds=water.seconds, litres=water.litres / 1000.0)
    )  # fmt: skip
    return FitStep(
        "on",
        later("Off, then on. Look and listen: {when}.", when=when),
        later("A pump that runs dry, or stands with volts on it, is hurt within a minute."),
        later("Water at the outlet; then Prove: volts, amps, a timed bucket."),
        10, (later("watch"), later("bucket"), later("meter"),),
        later("Nothing by then: switch off and look. Pipe ends and clamps are under pressure: face away."), hold=True,
        shown="" if water is None else later("{seconds:seconds}", seconds=water.seconds),
    )  # fmt: skip


def _disinfect(job: Job, a: Assessment) -> FitStep:
    bore, total = job.well.bore, job.well.total_depth
    dose: Spoken = later("as the health office says for its litres")
    if bore is not None and total is not None and a.heights.level is not None:
        water_m = max(total.si - a.heights.level.level.depth_m, 0.0)
        litres = 785.4 * bore.si**2 * water_m
        bleach = litres / 1000.0 * SHOCK_KG_M3 / BLEACH_SHARE
        dose = later(
            "{bleach:litres} of household bleach (5 %) for the {water:litres} in it",
            bleach=bleach / 1000.0,
            water=litres / 1000.0,
        )
    return FitStep(
        "disinfect",
        later("If anyone drinks of it, disinfect the well: {dose}. Let it stand a night, then pump until the smell is gone.", dose=dose),
        later("Hands, rope and hose have been in it. The dose is that of the WHO's notes on wells, from memory: 50 parts of chlorine in a million of water."),
        later("A test by whoever tests drinking water there."),
        15, (later("bleach without perfume"), later("gloves"), later("goggles"),),
        later("Never with acid or ammonia: the gas kills. Away from the animals until it is pumped clear."),
    )  # fmt: skip


def _labels(*, on_rope: bool) -> FitStep:
    does: Spoken = later("Label both ends of each wire with its number, the box with its fuse and volts; paper of the job in the lid.")  # fmt: skip
    if on_rope:
        does = later("Label both ends of each wire with its number, the box with its fuse and volts, the rope with its length; paper of the job in the lid.")  # fmt: skip
    return FitStep(
        "labels",
        does,
        later("Whoever comes in three years, at six in the morning, was not here today."),
        later("A stranger could say which fuse belongs where."),
        10, (later("labels"), later("pencil"), later("tape"),),
    )  # fmt: skip
