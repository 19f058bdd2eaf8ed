"""Sentences of core.faults: what may be wrong, what mends it, and how each check is done. Common practice, no source."""

from squall.words.message import N_

SENTENCES: dict[str, str | tuple[str, str]] = {
    "fault-fuse-blown": N_("The fuse has blown."),
    "remedy-fuse-blown": N_(
        "Find out first why it blew: turn the rotor by hand, look along the cable. Then, with the source off, put in a fuse of the same rating, never a bigger one, and watch the amps as it starts."
    ),
    "fault-switch-open": N_("A switch, float or timer in the way of the current stays open."),
    "remedy-switch-open": N_(
        "With the source off, bridge each switch in turn at its two terminals: the one whose bridge lets it run is renewed, or its float freed and given more travel."
    ),
    "fault-cable-open": N_("The pump's cable is broken, or a plug on it has parted."),
    "remedy-cable-open": N_(
        "With the source off, push every plug home and look at each joint from the box to the pump; cut out the broken place and join it anew, sealed if it lies in water."
    ),
    "fault-joint-resistance": N_("A joint or clip in the pump's cable is corroded or loose."),
    "remedy-joint-resistance": N_(
        "With the pump running under load, a bad joint is warm: switch off and feel each one. Cut it out and make it anew, crimped or soldered, sealed with adhesive sleeve if it gets wet."
    ),
    "fault-panel-lost": N_("One of the panels gives nothing: a plug has parted, or a panel or its diode is dead."),
    "remedy-panel-lost": N_(
        "Cover the panels, push every plug home until it clicks, measure each panel alone; renew the one that stays dead."
    ),
    "fault-panel-reversed": N_("One panel is joined the wrong way round."),
    "remedy-panel-reversed": N_(
        "Cover the panels, part that panel's two plugs, check red on plus, and join them the right way round."
    ),
    "fault-panels-dirty": N_("Dirt, dust or droppings on the panels take the light."),
    "remedy-panels-dirty": N_(
        "Wash them with water and a soft cloth in the cool of the day; look for packing left on the corners."
    ),
    "fault-panel-shaded": N_("A shadow lies on part of a panel, or its cells are hurt there."),
    "remedy-panel-shaded": N_(
        "Cut back or move what throws the shadow, even a thin one; then watch the same hour tomorrow."
    ),
    "fault-battery-flat": N_("The battery is flat."),
    "remedy-battery-flat": N_(
        "Charge it from what fits it, and find out why it emptied: charging panel, its fuse, a load left on, or too many litres for too little sun."
    ),
    "fault-battery-weak": N_("The battery rests well and sags under load: it is worn out, or a terminal is corroded."),
    "remedy-battery-weak": N_(
        "Clean and tighten its terminals first, minus off first and on last. If it still sags after a full charge, renew it."
    ),
    "fault-supply-off": N_("The plug-in supply is off, unplugged or dead."),
    "remedy-supply-off": N_(
        "See that its socket is live and its plug home; a dead one is renewed whole. Whatever is on the mains side is for a licensed electrician."
    ),
    "fault-controller-input-open": N_("One of the controller's inputs (float or probe) is open: it waits for it."),
    "remedy-controller-input-open": N_(
        "Look at the input's plug and its bridge; with a bridge across the input it must run. Then free, join or renew the float or probe."
    ),
    "fault-controller-waiting": N_("The controller waits, as it does after a stop or a shadow."),
    "remedy-controller-waiting": N_("Wait ten minutes in steady sun; if it still waits, switch it off and on once."),
    "fault-dial-low": N_("The controller's speed dial is turned down."),
    "remedy-dial-low": N_("Turn it to full; for any test it belongs there."),
    "fault-probe-dirty": N_("The dry-run probe is dirty, or out of the water: the controller thinks it is dry."),
    "remedy-probe-dirty": N_(
        "With the power off, wipe the probe and its plug clean, tie it above the pump and under water, then reset."
    ),
    "fault-polarity-reversed": N_("Plus and minus are swapped."),
    "remedy-polarity-reversed": N_(
        "Switch off at once and swap the two leads; mark them red. Try it in a bucket: an end that ran backwards may have come unscrewed."
    ),
    "fault-phase-swapped": N_("Two of the motor's three wires are swapped: it turns backwards."),
    "remedy-phase-swapped": N_(
        "With the power off, swap any two of the three wires, then try it in a bucket: an end that ran backwards may have come unscrewed."
    ),
    "fault-winding-open": N_("The motor is open inside: a winding, its lead or a brush."),
    "remedy-winding-open": N_(
        "Let it cool and try once more; if it stays open, renew the motor (or its brushes, where they can be had)."
    ),
    "fault-brushes-worn": N_("The motor's brushes are worn."),
    "remedy-brushes-worn": N_(
        "Renew the brushes if the pump has any that come out; else renew the pump, before it stops on a hot day."
    ),
    "fault-rotor-stuck": N_("The rotor is stuck: gummed, jammed by grit, or dried in."),
    "remedy-rotor-stuck": N_(
        "Switch off at once, a stalled body heats. Open the end with the power off, hot water for an hour, turn it by hand until it moves freely, rinse, seal seated, screws only snug, then a bucket test."
    ),
    "fault-rotor-drags": N_("The rotor drags: dirt, scale or a worn bearing."),
    "remedy-rotor-drags": N_(
        "Open the end with the power off, clean it, soak it in hot water, turn it until only the magnet's soft detents are felt; a bearing that stays rough wants a new end."
    ),
    "fault-impeller-worn": N_("The impeller or its housing is worn: less height at any speed."),
    "remedy-impeller-worn": N_("Renew the impeller or the whole end, and look for the sand that wore it."),
    "fault-impeller-loose": N_("The motor turns and the impeller doesn't: it is off its magnet or shaft."),
    "remedy-impeller-loose": N_(
        "Pull the pump, open the end with the power off, seat or screw the impeller home by its mark, then a bucket test."
    ),
    "fault-screen-blocked": N_("The screen or intake is blocked."),
    "remedy-screen-blocked": N_(
        "With the power off, lift the pump, clean the screen, and hang it clear of mud and leaves."
    ),
    "fault-hose-kinked": N_("The hose is kinked, squeezed or blocked."),
    "remedy-hose-kinked": N_(
        "Walk along the hose, straighten it, cut out a kink that stays, look for stones and knots; flush it."
    ),
    "fault-hose-leaks": N_("The hose or a joint of it leaks."),
    "remedy-hose-leaks": N_(
        "Walk along the hose while it runs, find the wet place, cut and join it with two clamps a side."
    ),
    "fault-air-locked": N_("Air is locked in the pump."),
    "remedy-air-locked": N_(
        "Switch off, let the water run back, tilt or shake the pump under water until no bubbles come; hang it deeper."
    ),
    "fault-water-fallen": N_("The water stands lower than it was measured."),
    "remedy-water-fallen": N_(
        "Measure the level while it pumps; lower the pump if there is depth, pump less at a time, or let the well rest."
    ),
    "fault-check-valve-stuck": N_("The check valve sticks."),
    "remedy-check-valve-stuck": N_(
        "With the power off and the hose drained, unscrew it, free or clean the flap, and see its arrow points up the line."
    ),
    "fault-outlet-valve-shut": N_("The valve at the outlet is shut, or nearly so."),
    "remedy-outlet-valve-shut": N_("Open it fully."),
    "fault-valves-worn": N_("The pump's own valves, membrane or seals are worn."),
    "remedy-valves-worn": N_("Fit the maker's set of valves and membrane; look for the grit that wore them."),
    "fault-thermal-cut-out": N_("The motor has cut itself out for heat."),
    "remedy-thermal-cut-out": N_(
        "Leave it off for half an hour under water, then look for what made it hot: drag, a blocked intake, running dry."
    ),
    "fault-joint-wet": N_("Water has got into the joint under water."),
    "remedy-joint-wet": N_(
        "Pull the pump, cut the joint out back to bright copper, make it anew with adhesive sleeve, glue oozing at both ends."
    ),
    "fault-cable-bitten": N_("The cable is bitten or cut through."),
    "remedy-cable-bitten": N_(
        "With the source off, walk along the cable, cut out the hurt length, join it anew; lay it in a pipe where animals reach it."
    ),
    "fault-connector-corroded": N_("A plug or terminal between source and box is corroded or loose."),
    "remedy-connector-corroded": N_(
        "Cover the panels or part the battery's minus first; clean, tighten or renew each plug and terminal up to the box."
    ),
    "fault-source-unplugged": N_("Something between the source and the box is unplugged."),
    "remedy-source-unplugged": N_(
        "With the panels covered or the battery's minus off, follow the cable from the source to the box and push every plug home."
    ),
    "fault-low-volts-cut-off": N_("The charge controller has cut the load off to save the battery."),
    "remedy-low-volts-cut-off": N_("Let it charge until it joins the load again; then charge more, or draw less."),
    "fault-timer-set-wrong": N_("The timer is set wrong, or its clock has stopped."),
    "remedy-timer-set-wrong": N_(
        "Set its clock and its hours, see its own battery, and let it switch once while you watch."
    ),
    "fault-float-chatters": N_("The float switches on and off with every ripple."),
    "remedy-float-chatters": N_(
        "Give it more travel between on and off, so that a run lasts half an hour at least; renew its contacts if they are burnt."
    ),
    "fault-rotor-unscrewed": N_("After running backwards the rotor has unscrewed itself."),
    "remedy-rotor-unscrewed": N_(
        "Pull the pump, thread the rotor on again, see that it turns the right way, then a bucket test."
    ),
    "fault-impeller-misplaced": N_("The impeller was put together off its mark."),
    "remedy-impeller-misplaced": N_(
        "Open the end with the power off, turn the impeller to its mark, seat the seal, then start it three times in a bucket."
    ),
    "fault-stator-melted": N_("The rubber of the helical end has melted or worn, as it does when run dry."),
    "remedy-stator-melted": N_("Fit a new end; see that the dry-run probe stops it next time."),
    "fault-ice": N_("There is ice in the hose, the pump or the outlet."),
    "remedy-ice": N_(
        "Leave it off until it has thawed; warm water, no flame. Then drain it after each run, or bury it."
    ),
    "fault-intake-bare": N_("The water has fallen below the intake."),
    "remedy-intake-bare": N_(
        "Switch off before it runs dry; lower the intake or wait for the level, and fit a dry-run probe."
    ),
    "fault-suction-leaks": N_("The suction hose draws air."),
    "remedy-suction-leaks": N_(
        "Prime it; tighten every clamp on the suction side, renew a cracked hose, see that the foot valve is under water."
    ),
    "fault-outlet-too-high": N_("The outlet stands higher than it was measured."),
    "remedy-outlet-too-high": N_(
        "Measure the lift again; bring the outlet down, or give the pump more volts if its label allows them."
    ),
    "fault-none": N_("Nothing is wrong: this kit gives no more in this light at this lift."),
    "remedy-none": N_(
        "Wait for more light and measure again. If it is like this in full sun too, the kit was never right for the lift: see what Power says of a panel more or another pump."
    ),
    "fault-other": N_("None of these."),
    "remedy-other": N_(
        "Begin again at the source with a meter, one part at a time, and ask somebody who knows the kit; write down what you find."
    ),
    "check-source-open-volts": N_("Volts at the source's own leads, nothing joined"),
    "check-panel-open-volts": N_("Volts of each panel alone, nothing joined"),
    "check-short-circuit-amps": N_("Short-circuit amps of the panels"),
    "check-battery-rest-volts": N_("Volts of the battery at rest"),
    "check-box-volts-on": N_("Volts after fuse and switches, switched on"),
    "check-fuse-volts": N_("Volts across the fuse, switched on"),
    "check-switch-volts": N_("Volts across the switches, switched on"),
    "check-pump-volts-on": N_("Volts at the pump's leads, where they come out dry, switched on"),
    "check-pump-amps-on": N_("Amps of the pump in one of its leads, switched on"),
    "check-cable-loop-ohms": N_("Ohms of the pump's cable, unplugged, far end joined"),
    "check-motor-ohms": N_("Ohms of the motor at its own leads, unplugged"),
    "check-fuse-ohms": N_("Ohms of the fuse, taken out"),
    "check-switch-ohms": N_("Ohms across the switches, source off, as they stand"),
    "check-outlet-flow": N_("Bucket and watch at the real outlet"),
    "check-bucket-flow-no-lift": N_("The pump in a bucket with a short hose, on its own source"),
    "check-shut-off-head": N_("Gauge at the pump, outlet shut"),
    "check-pumping-water-level-drop": N_("How far the water stands below its surveyed level"),
    "check-turns": N_("Does it turn, hum, or stand still?"),
    "check-lamp": N_("What the controller's lamp says"),
    "check-rotor-by-hand": N_("Turn the rotor by hand"),
    "check-screen": N_("Look at the screen"),
    "check-hose": N_("Walk along the hose"),
    "check-panels": N_("Look at the panels"),
    "check-polarity": N_("Follow red and black from end to end"),
    "check-air": N_("Look for air bubbles"),
    "check-insulation": N_("Insulation: ohms from each core to wet earth, and between the cores"),
    "check-inputs-bridged": N_("Every input that isn't used is bridged, and the dial is full"),
    "check-relay-clicks": N_("The relay clicks, on and off, with the pump's fuse out"),
    "check-lamp-as-load": N_("A lamp of known watts in place of the pump: it burns bright and steady"),
    "check-first-water": N_("Time from the switch to the first water, the hose empty"),
    "check-float-stops": N_("Float up by hand: the pump stops"),
    "check-float-starts": N_("Float down by hand: the pump starts"),
    "check-probe-stops": N_("Probe out of the water: the pump stops, and waits"),
    "check-restarts-after-shade": N_("Shade the panels, then clear them: it starts again after its wait"),
    "check-dial": N_("Look at the controller's dial"),
    "check-float-by-hand": N_("Lift and lower the float by hand"),
    "check-probe": N_("Look at the dry-run probe"),
    "check-outlet-valve-position": N_("Look at the outlet's valve"),
    "check-check-valve": N_("Unscrew or tap the check valve"),
    "check-known-good-source": N_("The pump on a charged battery, in a bucket"),
    "caution-live-panels": N_(
        "Panels are live in any light and can't be switched off. Insulated probes, one hand; above 60 V it is work for the licensed."
    ),
    "caution-short-panels": N_(
        "Cover the panels before the meter's leads go on and before they come off: an arc of direct current doesn't go out. The meter's amps socket and its fuse must stand more than the panels give."
    ),
    "caution-battery-short": N_(
        "A battery gives hundreds of amps into a slipped tool: rings off, tools insulated, never the meter's amps socket across it."
    ),
    "caution-dead-first": N_("Make it dead first: panels covered, battery's minus or the supply's plug off."),
    "caution-unplug-ohms": N_(
        "Make it dead and unplug both ends first (panels covered, battery's minus or the supply's plug off): ohms on a live part lie, and may burn the meter."
    ),
    "caution-hands-out-first": N_(
        "Source off and unplugged before a hand goes near rotor, screen or probe: a float or timer may start it. Never enter a well."
    ),
    "caution-not-dry-long": N_(
        "Source off while it is moved and joined; keep it under water, and never lift it by its cable."
    ),
    "caution-shut-briefly": N_(
        "Source off before the gauge goes on; shut the valve slowly and for seconds only: pressure bursts what isn't clamped, and a displacement pump must never run shut."
    ),
    "caution-wet-hands": N_(
        "Dry hands, insulated probes, no water on the joint. Above 60 V it is work for the licensed."
    ),
    "caution-amps-through-meter": N_(
        "A clamp needs nothing opened. A meter in the lead: source off before it goes in and comes out, and its amps socket must stand the pump's start."
    ),
    "caution-above-water": N_("Tie off above open water, cover the well again, never climb in."),
    "caution-spanner-dead": N_(
        "Source off and the line drained before it is unscrewed: the hose above is full of water."
    ),
    "caution-height": N_("From the ground, or from a ladder that is tied; hands off the panels' plugs."),
    "tool-meter": N_("meter"),
    "tool-clamp": N_("DC clamp meter"),
    "tool-bucket": N_("bucket of known volume"),
    "tool-watch": N_("watch"),
    "tool-gauge": N_("pressure gauge"),
    "tool-tape": N_("weighted tape"),
    "tool-battery": N_("charged battery"),
    "tool-hose": N_("short hose"),
    "tool-screwdriver": N_("screwdriver"),
    "where-panels": N_("at the panels"),
    "where-source": N_("at the source"),
    "where-box": N_("at the box"),
    "where-pump": N_("at the pump"),
    "where-outlet": N_("at the outlet"),
    "where-line": N_("along the line"),
    "check-parts-two": N_("It parts these two best. {first} {second}"),
    "verdict-done": N_("{cause} That is likely by {share:share}. {remedy}"),
    "verdict-not-yet": N_("Likeliest so far, by {share:share}: {cause} Not yet sure: look on."),
    "verdict-open": N_("Likeliest by {share:share}: {cause} No check that is left would tell much more. {remedy}"),
    "worn-panel-light-lost": N_(
        "The panels give less than their light should make: dirt, most likely. Clean them and read again."
    ),
    "worn-joint-ohm": N_(
        "A joint in the pump's cable has grown bad: find it by its warmth, power off, and make it anew."
    ),
    "worn-drag": N_("The pump draws more and turns harder: dirt or a bearing. Open and clean it."),
    "worn-head-lost": N_("The end has lost height at any speed: its impeller is worn. Have a new one ready."),
    "worn-flow-lost": N_("Water goes missing on the way: walk along the hose, look at the pump's own valves."),
    "asked-before-the-last-visit": N_("The day asked about, {day}, lies before the last visit, {last}."),
    "no-such-check": N_("There is no check called {check}."),
    "kit-has-no-such-check": N_("This kit has no check {check}: the part for it isn't there."),
    "check-wants-an-answer": N_("{check} is looked at: its answer is one of {answers}."),
    "no-answer-of-this-check": N_("{answer} is no answer of {check}; it is one of {answers}."),
    "check-wants-a-value": N_("{check} is measured: it wants one value, a figure of {kind}."),
    "check-wants-a-value-a-panel": N_("{check} wants a list of volts, one for each of the {panels} panels."),
    "check-is-never-negative": N_("{check} is {value}; it can't be less than nothing."),
    "fuse-rating": N_("the fuse's rating"),
    "controller-inputs": N_("inputs"),
    "none-without-a-controller": N_("none without a controller"),
    "motor-wires": N_("the motor's wires"),
    "two-without-a-controller": N_("2 without a controller"),
}
