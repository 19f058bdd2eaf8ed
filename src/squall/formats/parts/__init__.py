"""Lists of parts as files: read from a table of any making, written, and shown before they are taken in."""
