"""Squall: from water to test sheet for small DC pumps."""

__version__ = "0.16.0"
