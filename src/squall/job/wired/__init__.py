"""The chosen kit as one circuit: as it stands now, its terminals, the order of joining, what gives way first."""
