"""A small picture of each family of parts, taken apart in the order it goes: for its card of upkeep."""

from collections.abc import Callable, Mapping

from markupsafe import Markup

from squall.core.upkeep.cards import Family
from squall.drawing.small.steps import framed


def _path(way: str, cls: str) -> str:
    return f'<path d="{way}" class="{cls}"/>'


def _ring(x: float, y: float, r: float, cls: str) -> str:
    return f'<circle cx="{x:g}" cy="{y:g}" r="{r:g}" class="{cls}"/>'


def _block(x: float, y: float, wide: float, high: float, cls: str, round_: float = 2.0) -> str:
    return f'<rect x="{x:g}" y="{y:g}" width="{wide:g}" height="{high:g}" rx="{round_:g}" class="{cls}"/>'


def _axis() -> str:
    return _path("M6 50 H154", "measure")


def _marked(*xs: float) -> str:
    """The marker's line across what must meet again."""
    return _path(" ".join(f"M{x:g} 26 v10" for x in xs), "thick")


def _screws(x: float) -> str:
    return _path(f"M{x:g} 30 h8 m-8 40 h8 M{x:g} 27 v6 M{x:g} 67 v6", "thick")


def _centrifugal() -> str:
    vanes = " ".join(
        f"M92 50 q{a} {b} {c} {d}"
        for a, b, c, d in ((4, -10, 0, -15), (10, 4, 15, 0), (-4, 10, 0, 15), (-10, -4, -15, 0))
    )
    return (
        _axis() + _block(8, 26, 34, 48, "pump", 4) + _ring(60, 50, 16, "ring") + _ring(92, 50, 17, "box") + _path(vanes, "measure")
        + _block(118, 30, 22, 40, "pump", 6) + _screws(144) + _marked(38, 122)
    )  # fmt: skip


def _helical() -> str:
    return (
        _axis() + _block(8, 30, 30, 40, "pump", 4) + _path("M46 50 q8 -16 16 0 t16 0 t16 0", "hose") + _block(104, 32, 36, 36, "box", 8)
        + _path("M108 50 q7 -10 14 0 t14 0", "measure") + _marked(34, 108) + _path("M58 76 q12 10 24 0 m-6 -2 l6 2 l-2 6", "measure")
    )  # fmt: skip


def _diaphragm() -> str:
    valves = _ring(104, 38, 6, "ring") + _ring(104, 62, 6, "ring") + _path("M101 38 h6 M101 62 h6", "measure")
    return (
        _axis() + _block(8, 28, 34, 44, "pump", 4) + _path("M62 26 q-12 24 0 48", "hose") + valves + _block(122, 28, 20, 44, "pump", 4)
        + _screws(146) + _marked(38, 126)
    )  # fmt: skip


def _piston() -> str:
    cups = _path("M78 34 q-8 16 0 32 M92 34 q-8 16 0 32", "hose")
    return (
        _axis()
        + _block(8, 28, 30, 44, "pump", 4)
        + _path("M38 50 H100", "thick")
        + cups
        + _block(112, 30, 36, 40, "box")
        + _marked(34, 116)
    )


def _brushes() -> str:
    springs = _path("M20 50 l4 -5 l4 10 l4 -10 l4 5 M140 50 l-4 -5 l-4 10 l-4 -10 l-4 5", "measure")
    bars = _path("M80 28 v10 M80 62 v10 M58 50 h10 M92 50 h10", "measure")
    return (
        _ring(80, 50, 26, "pump")
        + _ring(80, 50, 12, "box")
        + bars
        + _block(38, 44, 14, 12, "earth-fill")
        + _block(108, 44, 14, 12, "earth-fill")
        + springs
    )


def _screen() -> str:
    holes = _path(" ".join(f"M{x} 42 v26" for x in range(88, 124, 6)), "measure")
    return (
        _block(16, 22, 40, 56, "pump", 6) + _block(82, 36, 44, 38, "box") + holes + _path("M104 55 h36 m-7 -5 l7 5 l-7 5", "flow")
        + _path("M60 50 h16 m-5 -4 l5 4 l-5 4", "measure")
    )  # fmt: skip


def _panels() -> str:
    cells = _path("M58 24 L46 66 M80 24 L68 66 M102 24 L90 66 M31 45 H119", "measure")
    return (
        _path("M36 24 H124 L112 66 H24 z", "box")
        + cells
        + _path("M24 66 H112", "thick")
        + _path("M120 74 q10 -14 22 -16 m-7 -3 l7 3 l-4 7", "flow")
    )


def _plugs() -> str:
    arrows = _path("M62 42 l8 8 l-8 8 M98 42 l-8 8 l8 8", "measure")
    tug = _path("M40 78 H16 m6 -5 l-6 5 l6 5 M120 78 h24 m-6 -5 l6 5 l-6 5", "measure")
    return (
        _path("M6 50 H44 M116 50 H154", "cable")
        + _block(44, 38, 34, 24, "box", 4)
        + _block(82, 38, 34, 24, "box", 4)
        + arrows
        + tug
    )


def _box() -> str:
    screws = _ring(66, 36, 4, "ring") + _ring(80, 36, 4, "ring") + _ring(94, 36, 4, "ring")
    return (
        _block(46, 18, 68, 50, "box", 4)
        + screws
        + _path("M58 52 h44", "measure")
        + _path("M60 68 v22 M80 68 v22 M100 68 v22", "cable")
    )


def _lead() -> str:
    caps = "".join(_block(x, 24, 10, 8, "ring") for x in (58, 76, 94))
    posts = _path("M46 32 v-8 h6 v8 M114 32 v-8 h-6 v8", "thick")
    return (
        _block(40, 32, 80, 46, "box", 3)
        + caps
        + posts
        + _path("M44 50 q9 -3 18 0 t18 0 t18 0 t18 0", "water-level line")
        + _path("M134 22 q8 10 0 18", "flow")
    )


def _float() -> str:
    return (
        _path("M20 20 V84 H140 V20", "outlet line") + _path("M22 60 q14 -4 28 0 t28 0 t28 0 t32 0", "water-level line") + _path("M80 8 V30", "cable")
        + _block(64, 50, 32, 16, "box", 8) + _path("M80 30 L80 50", "cable") + _path("M112 72 q14 -14 2 -30 m-1 7 l1 -7 l7 2", "measure")
    )  # fmt: skip


PICTURES: Mapping[Family, Callable[[], str]] = {
    "centrifugal": _centrifugal, "helical": _helical, "diaphragm": _diaphragm, "piston": _piston, "brushes": _brushes, "screen": _screen,
    "panels": _panels, "plugs": _plugs, "box": _box, "lead": _lead, "float": _float,
}  # fmt: skip


def card_picture(family: Family) -> Markup:
    """A family's picture; it shows what the words beside it say, and says nothing of its own to a screen reader."""
    return framed(PICTURES[family]())
