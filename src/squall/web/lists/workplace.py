"""The workplace of a lesson: its drawing, its terminals by name, what hands and leads do, in words."""

from collections.abc import Callable, Mapping

from markupsafe import Markup

from squall.core.reason import Reason, Spoken
from squall.drawing.small.bench import Dot, Piece, draw_bench
from squall.standins.meter import Reading
from squall.standins.practice import Act, Lesson, Played
from squall.standins.terminals import Bench, Stand
from squall.words import Message, later
from squall.words.units import text

PIECE_WORDS: Mapping[str, Message] = {
    "panels": later("panels"), "battery": later("battery"), "supply": later("plug-in supply"), "core": later("cable"),
    "main": later("main switch"), "fuse": later("fuse"), "switch": later("switch"), "float switch": later("float switch"),
    "timer": later("timer"), "controller": later("controller"), "plug": later("plug"), "motor": later("pump"),
}  # fmt: skip
TERMINAL_WORDS: Mapping[str, Message] = {
    "source-plus": later("source, plus"), "source-minus": later("source, minus"), "between": later("between two panels of a string"),
    "lead-plus": later("source's lead in the box, plus: main switch, source side"), "lead-minus": later("in the box, minus"),
    "kit-plus": later("main switch, kit side"), "fuse-out": later("fuse, kit side"), "switch-out": later("switch, kit side"),
    "in-plus": later("controller's input, plus"), "in-minus": later("controller's input, minus"),
    "out-plus": later("controller's output, plus"), "out-minus": later("controller's output, minus"),
    "cable-plus": later("pump cable's end, red"), "cable-minus": later("pump cable's end, black"),
    "motor-plus": later("pump's own lead, red"), "motor-minus": later("pump's own lead, black"),
}  # fmt: skip
DIAL_WORDS: Mapping[str, Message] = {
    "v20": later("volts, to 20"), "v200": later("volts, to 200"), "v2": later("volts, to 2"), "r200": later("ohms, to 200"),
    "r20k": later("ohms, to 20 thousand"), "a10": later("amps, to 10"), "lamp": later("no meter: a lamp on two wires"),
}  # fmt: skip
SOCKET_WORDS: Mapping[str, Message] = {"v": later("volts and ohms"), "a": later("10 amps")}
HAND_WORDS: Mapping[str, tuple[Message, Message]] = {
    "unplug": (later("Unplug the pump"), later("the pump unplugged")), "plug": (later("Plug the pump in"), later("the pump plugged in")),
    "cover": (later("Cover the panels"), later("the panels covered")), "uncover": (later("Uncover the panels"), later("the panels uncovered")),
    "meter-fuse": (later("A new fuse in the meter"), later("the meter has a new fuse")),
}  # fmt: skip
SHOWS_WORDS: Mapping[str, Message] = {
    "over": later("over this range"), "open": later("open"), "nothing": later("nothing: wrong socket for the dial, or the meter's fuse is gone"),
    "blew": later("the meter's own fuse went: amps across a source are a short"),
    "stopped": later("stopped: an ohmmeter on a live part lies, and may die"), "dark": later("the lamp stays dark"),
    "dim": later("the lamp glows"), "bright": later("the lamp burns bright"), "burnt-out": later("the lamp flares and is gone: too many volts for it"),
}  # fmt: skip


def dots_of(bench: Bench) -> dict[str, Dot]:
    """Every terminal with its number and name, by its id."""
    found = {}
    for number, one in enumerate(bench.terminals(), start=1):
        name: Spoken = TERMINAL_WORDS[one.code]
        if one.code in ("motor-plus", "motor-minus") and not bench.two_wires:
            name = later("one of the pump's three leads") if one.code == "motor-plus" else later("another of them")
        found[one.id] = Dot(one.id, number, name)
    return found


def workplace(bench: Bench, stand: Stand, held: Mapping[str, str], href: Callable[[str], str]) -> tuple[Markup, Markup]:
    """The workplace along the page, and down it."""
    dots = dots_of(bench)
    wires = 2 if bench.two_wires else 3
    pieces = [
        Piece(
            kind="switch" if place.kind == "main" else "battery" if place.kind == "supply" else place.kind, name=PIECE_WORDS[place.kind],
            closed={"main": stand.on, "plug": stand.plugged}.get(place.kind, True),
            before=(dots["in-plus"], dots["in-minus"]) if place.kind == "controller" else (),
            plus=dots[place.plus.id] if place.plus else None, minus=dots[place.minus.id] if place.minus else None,
            strings=tuple(tuple(dots[one.id] for one in string) for string in place.between), wires=wires if place.kind != "core" or number > 1 else 2,
        )
        for number, place in enumerate(bench.places())
    ]  # fmt: skip
    return draw_bench(pieces, held, href), draw_bench(pieces, held, href, down=True)


def hands_of(one: Lesson, played: Played) -> list[str]:
    """What hands can do now beside looking."""
    found = ["unplug" if played.stand.plugged else "plug"]
    if "module" in one.stated["source"]:
        found.append("uncover" if played.stand.covered else "cover")
    return found if played.fuse_whole else [*found, "meter-fuse"]


def act_name(act: Act, bench: Bench) -> Spoken:
    """What an act was: the check, or where two leads were and what the dial said; empty for the switch and for hands."""
    if act.leads is None:
        return "" if act.check is None else Reason(f"check-{act.check.code}")
    dots, leads = dots_of(bench), act.leads
    return later(
        "{dial}: red on {red}, black on {black}",
        dial=DIAL_WORDS[leads.dial], red=dots[leads.red.id].number, black=dots[leads.black.id].number,
    )  # fmt: skip


def reading_words(reading: Reading) -> Spoken:
    """What two leads showed, in words."""
    if reading.shows == "value" and reading.kind is not None:
        return text(reading.value, reading.kind)
    return SHOWS_WORDS[reading.shows]
