"""What the browser's script says: every ``say("…")`` of ``squall.js``, so that it can be translated like the rest."""

from squall.words.message import N_, translated

WORDS: tuple[str, ...] = (
    N_("% of full at the day's end"),
    N_("January"),
    N_("July"),
    N_("Start"),
    N_("Stop"),
    N_("This device doesn't say where it is; type the place, or press the outline."),
    N_("V, A"),
    N_("amps"),
    N_("average day"),
    N_("clear day"),
    N_("day of the year"),
    N_("depth"),
    N_("flow"),
    N_("full"),
    N_("hour of the clock"),
    N_("hydraulic grade"),
    N_("intake bare"),
    N_("its doubt"),
    N_("light, W/m\u00b2"),
    N_("loses to one of them"),
    N_("measured points"),
    N_("need"),
    N_("on the front"),
    N_("panel to pump"),
    N_("price"),
    N_("short days in a hundred"),
    N_("the run"),
    N_("this line asks"),
    N_("usable charge"),
    N_("volts at the pump"),
    N_("water in the tank"),
    N_("water in the tanks"),
    N_("works here"),
)


def script_words() -> dict[str, str]:
    """Each of them with its translation into the language of the voice."""
    return {text: translated(text) for text in WORDS}
