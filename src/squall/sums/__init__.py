"""The sums API: every sum of the pages as one JSON call, with the contract's names and units.

``run(name, data)`` is what the web route and the command both call.
"""

from squall.sums.registry import SUMS, Sum, run

__all__ = ["SUMS", "Sum", "run"]
