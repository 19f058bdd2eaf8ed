"""Courses: short series of questions on stand-in kits, each answered by the same sums as everything else; then why.

What no sum answers (which hand does what) is common practice, no source.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from random import Random
from statistics import fmean, median

from squall.core.errors import NotFound
from squall.core.reason import Reason, Spoken
from squall.standins.kits import KITS, Json
from squall.standins.yard import Yard
from squall.sums.registry import run
from squall.words import Message, later
from squall.words.units import text

_L_MIN = 60_000.0
_BATTERY: Json = {"type": "battery", "open_v": 12.7, "internal_ohm": 0.03}
_SMALL = KITS["battery"]
_LIGHT, _AIR = 800.0, 22.0


@dataclass(frozen=True)
class Step:
    """A question: what is said, the answers by code, which is right, and why."""

    said: Spoken
    options: Mapping[str, Spoken]
    right: str
    because: Spoken


@dataclass(frozen=True)
class Course:
    """A course by its code, with its title and how its steps are worked out."""

    code: str
    title: Message
    made: Callable[[], tuple[Step, ...]]


def _sum(name: str, data: Json) -> Json:
    return run(name, data).model_dump()


def _drive(lift_m: float, pipe: Json, *, closed: bool = False) -> float:
    """Litres a minute of the small pump on a battery."""
    found = _sum("drive", {
        "source": _BATTERY, "cable_resistance_ohm": 0.2, "motor": _SMALL["motor"], "static_head_m": lift_m, "pipes": [pipe],
        "closed_circuit": closed,
    })  # fmt: skip
    return float(found["flow_l_per_min"])


def _flow(litres_min: float) -> str:
    return text(litres_min / _L_MIN, "flow")


_HOSE = _SMALL["pipes"][0]
_IN_A_BUCKET = {**_HOSE, "length_m": 1.0, "minor_loss_k": 1.0}
_SHARES: Mapping[str, Message] = {
    "more": later("clearly more"), "same": later("nearly as much"), "half": later("a third to two thirds of it"), "trickle": later("a trickle"),
    "nothing": later("nothing, though it turns"),
}  # fmt: skip


def _share(part: float, whole: float) -> str:
    """Of how much of something is left, the option that says so."""
    share = part / whole
    return "more" if share > 1.1 else "same" if share >= 0.75 else "half" if share >= 0.3 else "trickle" if share >= 0.02 else "nothing"  # fmt: skip


def _outlet() -> tuple[Step, ...]:
    first, steps = _drive(0.3, _IN_A_BUCKET), []
    for lift in (6.0, 12.0, 13.5):
        now = _drive(lift, _HOSE)
        said = later("A small pump gives {first} through a short hose, at no lift. Now the outlet stands {lift} above the water, at the end of {long} of hose. How much comes?", first=_flow(first), lift=text(lift, "head"), long=text(_HOSE["length_m"], "length"))  # fmt: skip
        because = later("{now} come. Lift and rub of the hose are head that the pump has to make; near the most that it makes a little more lift takes nearly all, and beyond it the pump turns and gives nothing. What is written on the box is for no lift.", now=_flow(now))  # fmt: skip
        steps.append(Step(said, _SHARES, _share(now, first), because))
    return tuple(steps)


def _hose() -> tuple[Step, ...]:
    wide, steps = _drive(6.0, _HOSE), []
    for inner in (10.0, 13.0, 25.0):
        now = _drive(6.0, {**_HOSE, "inner_diameter_mm": inner})
        said = later("{long} of hose, {wide} inside, {lift} of lift: {flow}. The same in hose of {inner}: how much comes?", long=text(_HOSE["length_m"], "length"), wide=text(_HOSE["inner_diameter_mm"] / 1000.0, "bore"), lift=text(6.0, "head"), flow=_flow(wide), inner=text(inner / 1000.0, "bore"))  # fmt: skip
        because = later("{now} come. The rub grows with about the square of the flow and with the fifth power of the bore: the next size up in a long run brings more than a bigger pump, until the lift is all that is left.", now=_flow(now))  # fmt: skip
        steps.append(Step(said, _SHARES, _share(now, wide), because))
    return tuple(steps)


def _loop() -> tuple[Step, ...]:
    top = 14.0
    empty, full = _drive(top, _HOSE), _drive(0.0, _HOSE, closed=True)
    goes = {
        "round": later("water goes round"),
        "stands": later("the pump turns, water stands part of the way up, and none comes round"),
    }
    why_air = later("Air that gathers at the top parts the water: from there on it is the empty loop again. A vent at the highest point, and filling until no bubble comes; common practice, no source.")  # fmt: skip
    return (
        Step(later("A loop climbs to {top} over the pump and comes down to it again. It is empty but for the pump. The pump makes {most} at most. Switched on, what happens?", top=text(top, "head"), most=text(_SMALL["motor"]["points"][0][1], "head")), goes, "round" if empty > 0.0 else "stands",
             later("On the way up nothing comes down on the other side to help: the pump has to lift water over the whole top, and can't.")),
        Step(later("The same loop, filled to the top and without air. Switched on?"), goes, "round" if full > 0.0 else "stands",
             later("{flow} go round: what comes down pulls up as much on the other side. In a full loop height doesn't count, only the rub does.", flow=_flow(full))),
        Step(later("After a week nothing moves any more. The pump turns, amps are low. What is done first?"),
             {"fuse": later("a bigger fuse"), "vent": later("let the air out at the top, and fill it up"), "cable": later("thicker cable")}, "vent", why_air),
    )  # fmt: skip


def _sags(open_v: float, inner: float, ohm: float) -> float:
    """Volts of a battery under a load of so much. [V]"""
    return open_v * ohm / (ohm + inner)


def _lamp() -> tuple[Step, ...]:
    lamp, pump = 12.0**2 / 20.0, 12.0 / 5.0
    sources: Mapping[str, Spoken] = {code: Reason(f"fault-{code}") for code in ("battery-flat", "battery-weak", "joint-resistance", "rotor-drags")}  # fmt: skip
    weak, flat = (_sags(12.6, 0.9, lamp), _sags(12.6, 0.9, pump)), _sags(11.7, 0.03, lamp)
    amps = 5.0
    ohm = 3.4 / amps
    return (
        Step(later("A battery rests at {rests}. With a lamp of 20 W on it: {lamp}. With the pump on it: {pump}. What is it?", rests=text(12.6, "volts"), lamp=text(weak[0], "volts"), pump=text(weak[1], "volts")), sources, "battery-weak",
             later("It rests well and sags under any load: about {ohm} inside, where a sound one has a few hundredths. Volts at rest say nothing of that; a load of known watts does.", ohm=text((12.6 - weak[0]) / (weak[0] / lamp), "ohms"))),
        Step(later("Another one rests at {rests}, and shows {lamp} under the lamp.", rests=text(11.7, "volts"), lamp=text(flat, "volts")), sources, "battery-flat",
             later("It hardly sags, so that it is sound inside; but there is little in it. Charge it, and find out what emptied it.")),
        Step(later("At the battery {battery}, with the pump running at {amps}. At the pump, at the same time, {pump}.", battery=text(12.5, "volts"), amps=text(amps, "amps"), pump=text(12.5 - 3.4, "volts")), sources, "joint-resistance",
             later("{drop} are lost on the way at {amps}: {ohm}, in a cable that has {cable}. What is too much sits in a joint, a clip or a plug, and is warm.", drop=text(3.4, "volts"), amps=text(amps, "amps"), ohm=text(ohm, "ohms"), cable=text(_SMALL["pump_cable_ohm"], "ohms"))),
    )  # fmt: skip


def _best_watts(yard: Yard) -> float:
    """The most that an array gives, by trying loads. [W]"""
    found = []
    for number in range(60):
        ohm = 1.0 * 1.08**number
        amps = yard.source_alone(ohm)["component_a"]["meter"]
        found.append(amps**2 * ohm)
    return float(max(found))


def _hand() -> tuple[Step, ...]:
    sound, shaded = (Yard(KITS["membrane"], fault, _LIGHT, _AIR, Random(1), exact=True) for fault in ("none", "panel-shaded"))  # fmt: skip
    left = _best_watts(shaded) / _best_watts(sound)
    volts = shaded.source_alone(1e7)["probe_v"][0] / sound.source_alone(1e7)["probe_v"][0]
    shares: Mapping[str, Message] = {
        "all": later("nearly all"),
        "quarters": later("about three quarters"),
        "half": later("half or less"),
    }
    return (
        Step(later("Two panels in a row, in full light. A hand's shadow lies on some cells of one of them. How much of their best watts is left?"), shares, _bucket(left),
             later("{left} of it. Cells in a row carry the same amps: the darkest one holds back all with it, until the diode across its part of the panel lets the current go round, and that part gives nothing.", left=text(round(left, 2), "share"))),
        Step(later("Before and under the hand you read the open volts of both. What is left of them?"), shares, _bucket(volts),
             later("{left}: without current a dark cell has nearly the volts of a bright one. Shade, like dirt, is read with amps or under load, never with open volts.", left=text(round(volts, 2), "share"))),
    )  # fmt: skip


def _bucket(share: float) -> str:
    return "all" if share >= 0.88 else "quarters" if share >= 0.58 else "half"


def _asked(kit: str, evidence: Sequence[Json], story: str = "unknown") -> Json:
    return _sum("diagnose", {
        "kit": KITS[kit], "story": story, "air_c": _AIR, "irradiance_w_per_m2": _LIGHT, "evidence": list(evidence),
    })  # fmt: skip


def _found(evidence: Sequence[tuple[str, float | str]]) -> Sequence[Json]:
    return [{"check": code, "answer" if isinstance(said, str) else "value": said} for code, said in evidence]


def _dial() -> tuple[Step, ...]:
    yard = Yard(KITS["four panels"], "dial-low", _LIGHT, _AIR, Random(2), exact=True)
    box, pump = (round(float(yard.exactly(check)), 1) for check in ("box-volts-on", "pump-volts-on"))
    seen = _found((("lamp", "running"), ("panels", "clear"), ("box-volts-on", box), ("pump-volts-on", pump)))
    best = _asked("four panels", seen)["next"][0]
    others = ("rotor-by-hand", "bucket-flow-no-lift", "cable-loop-ohms")
    looks: Mapping[str, Spoken] = {code: Reason(f"check-{code}") for code in dict.fromkeys((others[0], best["check"], *others[1:]))}  # fmt: skip
    return (
        Step(later("A surface pump behind a controller, in full sun, gives next to nothing. The lamp says running, the panels are clear, {box} at the controller's input and {pump} at the pump. What do you look at next?", box=text(box, "volts"), pump=text(pump, "volts")), looks, best["check"],
             later("The controller has plenty and hands on little: its dial is looked at, which takes seconds, before anything is taken apart.")),
        Step(later("The dial stood at a third. For a test of the kit it is set"), {"full": later("to full"), "as-found": later("back to where it was found"), "half": later("to the middle")}, "full",
             later("A test at any other place of the dial tests the dial. Write down where it stood; common practice, no source.")),
    )  # fmt: skip


def _phases() -> tuple[Step, ...]:
    yard = Yard(KITS["three wires"], "phase-swapped", _LIGHT, _AIR, Random(2), exact=True)
    seen = _found((("lamp", "running"), ("turns", "hums"), ("outlet-flow", 0.0), ("box-volts-on", round(float(yard.exactly("box-volts-on")), 1))))  # fmt: skip
    first = _asked("three wires", seen, "after-rewiring")["beliefs"][0]["fault"]
    faults: Mapping[str, Spoken] = {code: Reason(f"fault-{code}") for code in dict.fromkeys((first, "panels-dirty", "fuse-blown", "phase-swapped", "water-fallen"))}  # fmt: skip
    return (
        Step(later("A well pump of three wires was joined anew. The controller's lamp says running, its input has {volts}; the pump hums, and no water comes. What is it?", volts=text(float(yard.exactly("box-volts-on")), "volts")), faults, first,
             later("It has power and turns the wrong way: a centrifugal end then makes next to no head.")),
        Step(later("What mends it?"), {"two": later("switch off, swap any two of the three leads at the controller"), "three": later("switch off, move all three leads on by one"), "source": later("swap plus and minus of the panels")}, "two",
             later("Any two swapped turn it round; all three moved on by one is the old order again. Plus and minus of the panels have nothing to do with it. Label all three before the pump goes down; common practice, no source.")),
    )  # fmt: skip


def _fuse() -> tuple[Step, ...]:
    wants = {
        "continuous_a": 5.0, "cable_ampacity_a": 16.0, "devices": [{"name": "float", "rating_a": 10.0}], "source_v": 12.7,
        "loop_resistance_ohm": 0.23, "motor_resistance_ohm": 0.42, "kind": "fuse",
    }  # fmt: skip
    right = _sum("protect", wants)
    stall, rating = float(right["stall_current_a"]), float(right["rating_a"])
    big = 30.0
    gives: Mapping[str, Spoken] = {"fuse": later("the fuse, within seconds"), "loop": later("float and cable, which cook slowly: the fuse stays whole"), "none": later("nothing: so many amps harm none of them")}  # fmt: skip
    ratings = sorted({3.0, rating, 15.0, big})
    return (
        Step(later("A pump of {amps} on a battery, its float made for {float_a}, its cable for {cable}, and a fuse of {fuse}, because it was in the van. The rotor jams: {stall} flow. What gives way?", amps=text(5.0, "amps"), float_a=text(10.0, "amps"), cable=text(16.0, "amps"), fuse=text(big, "amps"), stall=text(stall, "amps")), gives, "fuse" if stall > 1.35 * big else "loop",
             later("{stall} are less than the fuse of {fuse} ever opens at, and more than everything behind it stands. A fuse guards the weakest part of its loop, or nothing.", stall=text(stall, "amps"), fuse=text(big, "amps"))),
        Step(later("Which fuse belongs there?"), {f"{one:g}": text(one, "amps") for one in ratings}, f"{rating:g}",
             later("At least 1.25 times what flows for hours, at most what the weakest part stands: {fuse}. It blows on the jammed rotor.", fuse=text(rating, "amps"))),
    )  # fmt: skip


def _outlier() -> tuple[Step, ...]:
    seconds, bucket = (61.0, 60.0, 62.0, 44.0, 61.0), 10.0
    middle = bucket / median(seconds) * 60.0
    flows = {"mean": bucket / fmean(seconds) * 60.0, "middle": middle, "best": bucket / min(seconds) * 60.0}
    told = ", ".join(f"{one:g} s" for one in seconds)
    takes: Mapping[str, Message] = {
        "mean": later("the mean of all five"),
        "middle": later("the middle one of the five"),
        "best": later("the shortest: it shows what the pump can"),
    }
    return (
        Step(later("A bucket of {bucket} is timed five times in steady sun: {told}. With which time do you go on?", bucket=text(bucket / 1000.0, "litres"), told=told), takes, "middle",
             later("One of five was a slip of the hand: a bucket not empty, a stop too soon. It moves the mean, not the middle one.")),
        Step(later("So how much comes?"), {code: _flow(flow) for code, flow in flows.items()}, "middle",
             later("{bucket} in {seconds:.0f} s: {flow}. The mean would say {mean}, the slip {best}.", bucket=text(bucket / 1000.0, "litres"), seconds=median(seconds), flow=_flow(middle), mean=_flow(flows["mean"]), best=_flow(flows["best"]))),
    )  # fmt: skip


def _starts(on_l: float, off_l: float) -> int:
    """How often a day a pump starts that fills a tank between two levels. [l]"""
    step, minutes = 0.25, 24 * 60
    steps = int(minutes / step)
    return int(_sum("storage-run", {
        "tank_l": 500.0, "start_l": off_l, "on_below_l": on_l, "off_above_l": off_l, "step_min": step, "draw_l_per_min": [2.0] * steps,
        "inflow_l_per_min": [10.0] * steps,
    })["starts"])  # fmt: skip


def _float() -> tuple[Step, ...]:
    often: Mapping[str, Message] = {"few": later("less than thirty times a day"), "many": later("thirty to two hundred times"), "chatters": later("more than two hundred times")}  # fmt: skip
    steps = []
    for on_l, off_l in ((496.0, 499.0), (470.0, 495.0), (350.0, 490.0)):
        starts = _starts(on_l, off_l)
        code = "few" if starts < 30 else "many" if starts <= 200 else "chatters"
        steps.append(Step(later("A tank of {tank} is emptied by {draw} all day; the pump gives {gives}. The float's tether is so long that it starts below {on} and stops above {off}. How often does it start?", tank=text(0.5, "litres"), draw=_flow(2.0), gives=_flow(10.0), on=text(on_l / 1000.0, "litres"), off=text(off_l / 1000.0, "litres")), often, code,
                          later("{starts} times. Each start is an arc at the float's contacts and a rush of amps through the motor: a longer tether is the cheapest spare part. On waves a short one chatters besides.", starts=starts)))  # fmt: skip
    return tuple(steps)


COURSES: Mapping[str, Course] = {
    course.code: course
    for course in (
        Course("outlet", later("the outlet raised, step by step"), _outlet), Course("hose", later("a long run in other hose"), _hose),
        Course("loop", later("a closed loop with a high top"), _loop), Course("lamp", later("a weak source under a lamp"), _lamp),
        Course("hand", later("a hand on a panel"), _hand), Course("dial", later("little water, the lamp says running"), _dial),
        Course("phases", later("three wires, joined anew"), _phases), Course("fuse", later("the fuse that was in the van"), _fuse),
        Course("outlier", later("five readings, one of them odd"), _outlier), Course("float", later("a float on its tether"), _float),
    )
}  # fmt: skip


def course_of(code: str) -> Course:
    """The course of a code.

    Raises
    ------
    NotFound
        For one that is none.
    """
    if code not in COURSES:
        raise NotFound(later("There is no such course; choose one of the list."))
    return COURSES[code]


@lru_cache(maxsize=64)
def _kept_steps(code: str, _voice: object) -> tuple[Step, ...]:
    return COURSES[code].made()


def steps_of(course: Course, voice: object) -> tuple[Step, ...]:
    """A course's steps, worked out once for each voice that tells them."""
    return _kept_steps(course.code, voice)
