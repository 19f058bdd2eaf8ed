"""Where each figure of a thought-of kit stands in its row: what a cause changes, and what comes out of the chain.

A sweep works through some ten thousand rows at once; a row is a kit as stated, off by what nobody knows, with one cause in it.
"""

# Panels: the diode's five at the row's light and heat; what is wrong with one of them. [A], [A], [ohm], [ohm], [V]
LIGHT_A, SATURATION_A, SERIES_OHM, SHUNT_OHM, IDEALITY_V = range(5)
PANEL_FAULT, SHADED_SHARE, SHADED_LIGHT = 5, 6, 7
SOUND, STRING_OPEN, BYPASSED, REVERSED, SHADED = 0.0, 1.0, 2.0, 3.0, 4.0
# A source of volts. [V], [ohm], [A]
OPEN_V, INNER_OHM, MOST_A = 8, 9, 10
# The chain: ohms before and after the box, whether it is broken there, whether the controller is stopped, its most volts.
UP_OHM, DOWN_OHM, UP_OPEN, DOWN_OPEN, STOPPED, OUT_MAX_V = range(11, 17)
# The motor and its end. [ohm], [A], shares of what is stated.
MOTOR_OHM, NO_LOAD_A, HEAD_SHARE, FLOW_SHARE, AMPS_SHARE, LOCKED, LOOSE, BACKWARDS = range(17, 25)
# The line. Lift [m]; loss by the square of flow, in the pipe and at the screen [m/(m3/s)2]; shut; what never arrives.
LIFT_M, PIPE_K, SCREEN_K, SHUT, LEAK, AIR = range(25, 31)
# Volts come the wrong way round to the controller.
UP_REVERSED = 31
WIDTH = 32

# What comes out.
(
    SOURCE_OPEN_V,
    SHORT_A,
    BOX_V,
    PUMP_V,
    PUMP_A,
    SPEED_V,
    FLOW,
    SHUT_HEAD,
    BUCKET,
    KNOWN_FLOW,
    KNOWN_TURNS,
    BEST_V,
    PANEL_V,
) = range(13)
FAULTY_PANEL_V = 13
OUT_WIDTH = 14
