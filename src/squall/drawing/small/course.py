"""What came out of an outlet at its visits, over what a kit without fault gives: a small drawing for a row of the board."""

from collections.abc import Sequence
from datetime import date

from markupsafe import Markup

_WIDTH, _HEIGHT, _EDGE = 96.0, 34.0, 4.0
# Shares that the drawing's foot and top stand for; what lies beyond is drawn at the edge. [-]
_FOOT, _TOP = 0.0, 1.2


def draw_course(course: Sequence[tuple[date, float]]) -> Markup:
    """The course of an outlet; nothing of a single visit, which shows none.

    Parameters
    ----------
    course : sequence of (date, float)
        Day, and share of what a kit without fault gives; the oldest first. [-]
    """
    if len(course) < 2 or course[0][0] == course[-1][0]:
        return Markup("")
    days = (course[-1][0] - course[0][0]).days
    points = [(_EDGE + (_WIDTH - 2 * _EDGE) * (on - course[0][0]).days / days, _up(share)) for on, share in course]
    line = " ".join(f"{x:.1f},{y:.1f}" for x, y in points)
    marks = "".join(f'<circle cx="{x:.1f}" cy="{y:.1f}" r="1.6"/>' for x, y in points[:-1])
    x, y = points[-1]
    return Markup(
        f'<svg class="course" viewBox="0 0 {_WIDTH:g} {_HEIGHT:g}" aria-hidden="true" xmlns="http://www.w3.org/2000/svg">'
        f'<line class="course-full" x1="0" x2="{_WIDTH:g}" y1="{_up(1.0):.1f}" y2="{_up(1.0):.1f}"/>'
        f'<line class="course-foot" x1="0" x2="{_WIDTH:g}" y1="{_up(0.0):.1f}" y2="{_up(0.0):.1f}"/>'
        f'<polyline class="course-line" points="{line}"/>{marks}<rect x="{x - 3:.1f}" y="{y - 3:.1f}" width="6" height="6"/></svg>'
    )


def _up(share: float) -> float:
    inside = min(max(share, _FOOT), _TOP)
    return _HEIGHT - _EDGE - (_HEIGHT - 2 * _EDGE) * (inside - _FOOT) / (_TOP - _FOOT)
