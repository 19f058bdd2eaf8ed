"""Words of the trade that a page uses and a new reader may not know, each with what it means here."""

from collections.abc import Mapping

from squall.words.message import Message, later

GLOSSARY: Mapping[str, tuple[Message, Message]] = {
    "ampacity": (later("ampacity"), later("The amps that a cable may bear for ever without its insulation getting too hot; less in hot air or in a bundle.")),
    "grade": (later("grade"), later("The height to which water would rise in a tube tapped into the hose there. Where it lies under the hose, the hose sucks air or is pressed flat.")),
    "head": (later("head"), later("Height of a column of water: what the pump has to press against. The lift, what the hose takes by friction, and the pressure wanted at the outlet, added up.")),
    "headroom": (later("headroom"), later("How many times the need a kit has to make on the average day of the worst month before it is said to hold: 1 is just the need, 1.25 a quarter more.")),
    "k": (later("K"), later("How hard a bend, valve or end is to pass: it takes K times the height that the water's speed is worth.")),
    "made-weather": (later("made weather"), later("Days drawn by lot, dull and clear, so that they follow one another as the days of this place do. The same number draws the same days.")),
    "mark": (later("mark"), later("One fixed point at the water, such as the rim, from which all depths are counted down. It has to be the same for every reading.")),
    "short-day": (later("short day"), later("A day on which more than a hundredth of what was wanted did not come, tank and battery counted.")),
    "stall": (later("stall"), later("The motor is held and does not turn: it takes the most amps that it ever takes, and burns if nothing opens.")),
    "string": (later("string"), later("Panels joined plus to minus one after another: their volts add, the weakest one's amps rule.")),
    "worst-month": (later("worst month"), later("The month in which the kit makes least of what is wanted then; it is not always the darkest one.")),
}  # fmt: skip
