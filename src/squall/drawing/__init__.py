"""The long-section: made here, used by every stage, by print and by export."""

from squall.drawing.section import Over, draw, draw_file, draw_thumbnail
from squall.drawing.small.course import draw_course

__all__ = ["Over", "draw", "draw_course", "draw_file", "draw_thumbnail"]
