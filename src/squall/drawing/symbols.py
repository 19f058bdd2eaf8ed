"""Symbols of the circuit diagram, after IEC 60617 (from memory): each about its own middle, current along x, plus at the left."""

from collections.abc import Mapping

REACH = 18.0


def _line(x1: float, y1: float, x2: float, y2: float, cls: str = "sym") -> str:
    return f'<line x1="{x1:g}" y1="{y1:g}" x2="{x2:g}" y2="{y2:g}" class="{cls}"/>'


def _leads(inner: float) -> str:
    return _line(-REACH, 0, -inner, 0) + _line(inner, 0, REACH, 0)


def _panel() -> str:
    arrow = '<path d="M-9 -20 L-3 -11 M-3 -11 l-5 -2 M-3 -11 l0 -5 M0 -20 L6 -11 M6 -11 l-5 -2 M6 -11 l0 -5" class="sym thin"/>'
    return (
        '<rect x="-12" y="-8" width="24" height="16" class="sym fill"/>'
        + _leads(12)
        + _line(-3, -6, -3, 6)
        + '<line x1="3" y1="-3" x2="3" y2="3" class="sym thick"/>'
        + _line(-12, 0, -3, 0)
        + _line(3, 0, 12, 0)
        + arrow
    )


def _fuse() -> str:
    return '<rect x="-11" y="-4.5" width="22" height="9" class="sym fill"/>' + _line(-REACH, 0, REACH, 0)


def _blown() -> str:
    return (
        '<rect x="-11" y="-4.5" width="22" height="9" class="sym fill"/>'
        + _leads(11)
        + '<path d="M-11 0 l4 0 l2 -3 M11 0 l-4 0 l-2 3" class="sym"/>'
    )


def _blade(closed: bool, more: str = "") -> str:
    blade = _line(-10, 0, 10, -1.5) if closed else _line(-10, 0, 8, -11)
    dots = '<circle cx="-10" cy="0" r="1.8" class="sym dot"/><circle cx="10" cy="0" r="1.8" class="sym dot"/>'
    return _line(-REACH, 0, -10, 0) + blade + _line(10, 0, REACH, 0) + dots + more


def _link(end: str, closed: bool) -> str:
    top = -2 if closed else -6
    return f'<line x1="0" y1="{top}" x2="0" y2="-13" class="sym dash"/>{end}'


def _cross() -> str:
    return '<path d="M7 -3 l6 6 M13 -3 l-6 6" class="sym"/>'


_FLOAT = '<path d="M-6 -16 a6 5 0 0 1 12 0 z M-9 -14 q3 3 6 0 t6 0 t6 0" class="sym thin"/>'
_CLOCK = '<circle cx="0" cy="-18" r="5" class="sym fill"/><path d="M0 -21 v3 h2.5" class="sym thin"/>'
_PRESS = '<path d="M-6 -20 h12 v5 h-12 z M0 -20 v-3" class="sym thin"/>'
_RADIO = '<path d="M0 -13 v-6 M-4 -21 q4 -3 8 0 M-6 -24 q6 -4 12 0" class="sym thin"/>'
_COIL = '<rect x="-6" y="-22" width="12" height="8" class="sym fill"/>'
# Two electrodes in water.
_PROBE = '<path d="M-3 -22 v7 M3 -22 v7 M-9 -14 q3 3 6 0 t6 0 t6 0" class="sym thin"/>'
MOVED: Mapping[str, str] = {
    "float-input": _FLOAT, "probe-input": _PROBE, "float switch": _FLOAT, "timer": _CLOCK, "pressure switch": _PRESS, "radio switch": _RADIO, "relay": _COIL,
}  # fmt: skip


def _battery() -> str:
    cell = _line(-6, -11, -6, 11) + '<line x1="-2" y1="-5" x2="-2" y2="5" class="sym thick"/>'
    again = _line(3, -11, 3, 11) + '<line x1="7" y1="-5" x2="7" y2="5" class="sym thick"/>'
    return _line(-REACH, 0, -6, 0) + cell + _line(-2, 0, 3, 0) + again + _line(7, 0, REACH, 0)


def _plug() -> str:
    return _line(-REACH, 0, -2, 0) + '<path d="M3 -6 a6 6 0 0 0 0 12" class="sym"/>' + _line(-3, 0, REACH, 0)


def converter_sign(x: float, y: float, half: float = 10.0) -> str:
    """IEC 60617's converter: a square with a diagonal."""
    return (
        f'<rect x="{x - half:.1f}" y="{y - half:.1f}" width="{2 * half:g}" height="{2 * half:g}" class="sym"/>'
        f'<line x1="{x - half:.1f}" y1="{y + half:.1f}" x2="{x + half:.1f}" y2="{y - half:.1f}" class="sym thin"/>'
    )


def symbol(kind: str, *, closed: bool = True) -> str:
    """SVG of a kind of part; a switch or fuse as it stands.

    Parameters
    ----------
    kind : str
        As :data:`squall.core.kit.circuit_of.Kind`; boxes with four terminals have none.
    closed : bool
        Whether it conducts.
    """
    match kind:
        case "panel":
            return _panel()
        case "fuse" | "string-fuse" | "main-fuse" | "load-fuse":
            return _fuse() if closed else _blown()
        case "breaker":
            return _blade(closed, _cross())
        case "battery":
            return _battery()
        case "coil":
            return '<rect x="-8" y="-14" width="16" height="28" class="sym fill"/>' + _leads(8)
        case "load":
            return (
                '<circle cx="0" cy="0" r="11" class="sym fill"/><path d="M-7.8 -7.8 L7.8 7.8 M-7.8 7.8 L7.8 -7.8" class="sym thin"/>'
                + _leads(11)
            )
        case "connector":
            return _plug()
        case "y-lead":
            return (
                _leads(8) + '<rect x="-8" y="-6.5" width="16" height="13" rx="3" class="sym fill"/>'
                '<path d="M-8 -3.5 H-4 L1 0 M-8 3.5 H-4 L1 0 H8" class="sym thin"/>'
            )
        case "joint":
            return _line(-REACH, 0, REACH, 0) + '<circle cx="0" cy="0" r="3.4" class="sym dot"/>'
        case "switch":
            return _blade(closed)
        case "isolator":
            # A bar across its fixed contact.
            return _blade(closed, _line(10, -6, 10, 6))
        case _ if kind in MOVED:
            return _blade(closed, _link(MOVED[kind], closed))
        case _:
            return _line(-REACH, 0, REACH, 0)
