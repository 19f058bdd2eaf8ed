"""What is typed of a search: the sky by eye or the light as read, the air, and what a check showed."""

from collections.abc import Mapping

from squall.core.errors import BadQuantity
from squall.core.faults.checks import Check
from squall.core.faults.suspicion import Evidence
from squall.core.faults.sweep import Lit
from squall.core.prove.expect import typed_light
from squall.words import Message, later
from squall.words.units import System, parse

# A sky by eye: the light on panels that face it, and how far that may be off. Common practice, no source. [W/m2], [-]
SKIES: Mapping[str, tuple[Message, float | None, float]] = {
    "unknown": (later("I can't say"), None, 0.0),
    "full": (later("full sun, sharp shadows"), 850.0, 0.15),
    "thin": (later("thin cloud, soft shadows"), 500.0, 0.25),
    "grey": (later("grey, no shadows"), 180.0, 0.4),
    "typed": (later("I have read it"), None, 0.05),
}
STORY_WORDS: Mapping[str, Message] = {
    "unknown": later("nobody knows"),
    "never-ran": later("never ran since it was built"),
    "ran-and-stopped": later("ran, then stopped"),
    "slowly-less": later("less and less over weeks"),
    "comes-and-goes": later("comes and goes"),
    "not-in-the-morning": later("runs by day, not in the morning"),
    "after-cleaning": later("since it was cleaned"),
    "after-winter": later("since the winter, or storing"),
    "after-rewiring": later("since wires were changed"),
}
ANSWER_WORDS: Mapping[str, Message] = {
    "turns": later("it turns"), "hums": later("it hums"), "still": later("it stands still"), "off": later("off"),
    "ready": later("power, not running"), "running": later("running"), "waiting": later("waiting"), "dry": later("dry"),
    "fault": later("fault"), "free": later("free"), "drags": later("drags"), "stuck": later("stuck"), "loose": later("loose"),
    "clean": later("clean"), "blocked": later("blocked"), "sound": later("sound"), "kinked": later("kinked"), "leaks": later("leaks"),
    "clear": later("clear"), "dirty": later("dirty"), "shaded": later("shaded"), "right": later("right"),
    "reversed": later("reversed"), "none": later("none"), "bubbles": later("bubbles"), "full": later("full"), "low": later("low"),
    "obeys": later("it obeys"), "dead": later("dead"), "open": later("open"), "shut": later("shut"), "runs": later("it runs"),
    "weak": later("weakly"),
}  # fmt: skip
DEFAULT_AIR_C = 20.0
# What people write for an open loop on the ohmmeter. [ohm]
_OPEN_WORDS = frozenset({"ol", "o.l", "o.l.", "0l", "1", "open", "inf", "∞", "1 ."})
_OPEN_OHM = 1e6


def lit_of(sky: str, light: str, air: str, units: System) -> Lit:
    """What is known of light and air.

    Raises
    ------
    BadQuantity
        For a light or an air that can't be read.
    OutOfRange
        For one that can't be.
    """
    air_c = parse(air, "temperature", units) if air.strip() else DEFAULT_AIR_C
    typed_light(500.0, air_c)
    if sky == "typed":
        read = parse(light, "irradiance", units)
        typed_light(read, air_c)
        return Lit(read, air_c, SKIES[sky][2])
    _, by_eye, off = SKIES[sky]
    return Lit(by_eye, air_c, off)


def evidence_of(check: Check, typed: str, panels: int, units: System) -> Evidence:
    """What was typed beside a check, as evidence.

    Parameters
    ----------
    check : Check
        What was looked at.
    typed : str
        An answer of it, or a reading with or without its unit; of panels one after the other, parted by commas or semicolons.
    panels : int
        How many readings are wanted where each panel has one.
    units : str
        In which a bare number is read.

    Returns
    -------
    Evidence
        In SI.

    Raises
    ------
    BadQuantity
        If it can't be read.
    """
    if check.kind is None:
        return Evidence(check.code, answer=typed)
    if check.kind == "ohms" and typed.strip().lower() in _OPEN_WORDS:
        return Evidence(check.code, value=_OPEN_OHM)
    if not check.a_panel:
        return Evidence(check.code, value=parse(typed, check.kind, units))
    pieces = [piece for piece in typed.replace(";", " ").replace(", ", " ").split() if piece.lower() != "v"]
    if len(pieces) != panels:
        raise BadQuantity(
            later(
                "There are {panels} panels: type so many volts, one after the other, such as 20.1 20.3.", panels=panels
            )
        )
    return Evidence(check.code, value=tuple(parse(piece, check.kind, units) for piece in pieces))
