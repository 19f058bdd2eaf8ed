"""What a kit is made of, and how a source drives it."""
