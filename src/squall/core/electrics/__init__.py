"""Panels, cables, protection, energy, timers."""
