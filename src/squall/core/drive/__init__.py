"""Source, cable, motor and line solved together, once exactly and once in tables."""
