"""The day the chosen kit goes in: what is cut, what hangs on the rope, the steps."""
