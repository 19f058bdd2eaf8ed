"""Squall: from water to test sheet for small DC pumps."""

import os

__version__ = "0.22.0"

# Set before numpy comes: its matrices here are small, and threads that wait for one another by turning in a loop took half as
# much again of the time in the tests of Keep; several answers at once are what the cores are for.
for _threads in ("OPENBLAS_NUM_THREADS", "OMP_NUM_THREADS", "MKL_NUM_THREADS", "VECLIB_MAXIMUM_THREADS"):
    os.environ.setdefault(_threads, "1")
