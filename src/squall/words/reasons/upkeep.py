"""Sentences of core.upkeep: what is due, why, with what."""

from squall.words.message import N_

SENTENCES: dict[str, str | tuple[str, str]] = {
    "state-panel-light-lost": N_("light lost on the panels: dirt, age"),
    "state-joint-ohm": N_("ohms grown in the pump's cable and joints"),
    "state-drag": N_("drag in the pump: its idle amps over those stated"),
    "state-head-lost": N_("height lost by a worn end"),
    "state-flow-lost": N_("water that never arrives: leak, valves"),
    "due-look": N_("Look at the panels, time a bucket, walk along the hose"),
    "due-look-why": N_("What is seen in a month is mended in a minute; what isn't, in a dry week."),
    "due-look-tools": N_("bucket, watch"),
    "due-screen": N_("Clean screen and intake"),
    "due-screen-why": N_("A screen closes slowly: less water with fewer amps, then none."),
    "due-screen-tools": N_("brush, bucket"),
    "due-box": N_("Open the box, all dead first: webs, insects, water, warm or loose terminals"),
    "due-box-why": N_("A loose terminal warms and loosens more; webs hold water."),
    "due-box-tools": N_("screwdriver, brush, meter"),
    "due-plugs": N_("Plugs and clamps: arrows met, no mud, clamps tight, ties whole"),
    "due-plugs-why": N_("A plug that is half in burns; a clamp that weeps lets go."),
    "due-plugs-tools": N_("screwdriver, ties"),
    "due-battery": N_("Battery: rest volts in the morning, water in its cells where it has caps, posts clean"),
    "due-battery-why": N_("A battery that rests too low each morning is dying, or gets too little sun."),
    "due-battery-tools": N_("meter, distilled water, goggles"),
    "due-pump-life": N_("Renew the pump's brushes, membrane or end before they stop it"),
    "due-pump-life-why": N_("By the hours that this job runs it, nine tenths of its life are over then."),
    "due-pump-life-tools": N_("the new part, screwdriver, bucket"),
    "due-tilt": N_("Turn the panels to the season's tilt"),
    "due-tilt-why": N_("The sun stands elsewhere; half a year of the wrong tilt costs more than the walk."),
    "due-tilt-tools": N_("spanner, level"),
    "due-before-frost": N_(
        "Before the frost: clean the pump first, then drain the line or put its plan in force, cap what stays open"
    ),
    "due-before-frost-why": N_("Ice breaks what holds water; dirt that dries in a stored pump sticks next season."),
    "due-before-frost-tools": N_("spanner, caps, brush"),
    "due-after-frost": N_(
        "After the frost: look for cracks, fill the line, bucket test, then the first hour beside it"
    ),
    "due-after-frost-why": N_("What the ice opened shows when the pressure comes."),
    "due-after-frost-tools": N_("bucket, clamps, a length of hose"),
    "due-filters": N_("Wash the drip filters, flush the ends of the lines"),
    "due-filters-why": N_("Drippers close one by one, and nobody sees which."),
    "due-filters-tools": N_("bucket"),
    "due-rope": N_("Rope, shackle and eye: lift a hand's breadth, look, set it down"),
    "due-rope-why": N_("The rope carries all; what it drops lies at the bottom."),
    "due-rope-tools": N_("gloves"),
    "due-mice": N_("Cables on the ground: tooth marks, nicks, sun-cracked sheath"),
    "due-mice-why": N_("A core laid bare rots from there, unseen."),
    "due-mice-tools": N_("tape, sleeve"),
    "due-leaves": N_("Leaf screens at gutter, downpipe and first barrel"),
    "due-leaves-why": N_("The first rain after a dry month brings a summer's leaves at once."),
    "due-leaves-tools": N_("ladder that is tied, gloves"),
}
