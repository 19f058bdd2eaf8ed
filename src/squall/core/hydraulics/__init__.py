"""Water in pipes: losses, pump curves, pressures, suction."""
