"""The day a kit goes in: what is cut from which roll, what hangs on the rope, when the first water comes."""
