"""A small picture of each step of fitting: the same pump, hose, cable and panel as in the long-section, and one figure of the job."""

from collections.abc import Callable, Mapping

from markupsafe import Markup, escape

from squall.core.reason import Spoken

WIDTH, HEIGHT = 160, 100
# Where their own style begins in ``static/drawing.css``.
STEPS_BEGIN = "/* The pictures of Fit's steps"


def _path(way: str, cls: str) -> str:
    return f'<path d="{way}" class="{cls}"/>'


def _hose(way: str) -> str:
    return _path(way, "hose")


def _cable(way: str) -> str:
    return _path(way, "cable")


def _rope(way: str) -> str:
    return _path(way, "rope")


def _ground(y: float, left: float = 4.0, right: float = 156.0) -> str:
    hatch = " ".join(f"M{x:g} {y:g} l-5 6" for x in range(int(left) + 8, int(right), 12))
    return _path(f"M{left:g} {y:g} H{right:g}", "earth") + _path(hatch, "earth-line")


def _pump(x: float, y: float) -> str:
    """Upright, its outlet at the top, its screen at the foot; x and y of its middle."""
    body = f'<rect x="{x - 7:g}" y="{y - 13:g}" width="14" height="26" rx="3" class="pump"/>'
    screen = " ".join(f"M{x - 4:g} {y + 5 + k:g} h8" for k in (0, 3, 6))
    return body + _path(screen, "pump-mark")


def _water(x: float, y: float, wide: float, high: float) -> str:
    ripples = f"M{x:g} {y:g} q{wide / 8:g} -3 {wide / 4:g} 0 t{wide / 4:g} 0 t{wide / 4:g} 0 t{wide / 4:g} 0"
    return f'<rect x="{x:g}" y="{y:g}" width="{wide:g}" height="{high:g}" class="water"/>' + _path(
        ripples, "water-level line"
    )


def _bucket_at(x: float, y: float) -> str:
    return _path(f"M{x - 20:g} {y - 30:g} l5 30 h30 l5 -30", "outlet line") + _path(
        f"M{x - 20:g} {y - 30:g} q20 -22 40 0", "measure"
    )


def _clamp(x: float, y: float, *, up: bool) -> str:
    head = y - 12 if up else y + 8
    return (
        _path(f"M{x:g} {y - 8:g} v16", "thick") + f'<rect x="{x - 4:g}" y="{head:g}" width="8" height="4" class="box"/>'
    )


def _eye(x: float, y: float) -> str:
    return f'<circle cx="{x:g}" cy="{y - 6:g}" r="5" class="ring"/>' + _path(f"M{x:g} {y - 1:g} v9", "measure")


def _box_at(x: float, y: float) -> str:
    """With its entries at the foot."""
    body = f'<rect x="{x - 18:g}" y="{y - 22:g}" width="36" height="32" rx="2" class="box"/>'
    glands = _path(" ".join(f"M{x + dx:g} {y + 10:g} v6" for dx in (-10, 0, 10)), "thick")
    return body + glands


def _lay_out() -> str:
    return _rope("M14 38 H150") + _lay_hose()


def _lay_hose() -> str:
    ties = _path(" ".join(f"M{x} 34 v34" for x in (30, 62, 94, 126)), "thick")
    return (
        _path("M8 82 H152 " + " ".join(f"M{x} 78 v8" for x in range(8, 153, 16)), "measure")
        + _hose("M20 50 q14 6 28 0 t28 0 t28 0 t28 0 H150") + _cable("M20 64 q14 6 28 0 t28 0 t28 0 t28 0 H150")
        + ties + _path("M62 24 H94 M62 20 v8 M94 20 v8", "measure")
    )  # fmt: skip


def _end() -> str:
    barb = _path("M84 42 l9 -5 v5 l9 -5 v5 l9 -5 v5 h4 v16 h-4 v5 l-9 -5 v5 l-9 -5 v5 l-9 -5 z", "box")
    body = '<rect x="114" y="30" width="36" height="40" rx="4" class="pump"/>'
    return barb + body + _hose("M10 50 H100") + _clamp(70, 50, up=True) + _clamp(86, 50, up=False)


def _splice() -> str:
    sleeve = '<rect x="50" y="38" width="60" height="24" rx="10" class="sleeve"/>'
    glue = "".join(f'<ellipse cx="{x}" cy="50" rx="4" ry="7" class="glue"/>' for x in (49, 111))
    return (
        _cable("M8 50 H64") + _cable("M96 50 H152") + '<rect x="66" y="45" width="28" height="10" rx="3" class="box"/>'
        + sleeve + glue + _path("M120 72 h20 m-6 -4 l6 4 l-6 4 M40 72 h-20 m6 -4 l-6 4 l6 4", "measure")
    )  # fmt: skip


def _cores_met() -> str:
    """Two cores of each cable, met side by side and apart from each other."""
    crimps = "".join(f'<rect x="68" y="{y}" width="24" height="8" rx="2" class="box"/>' for y in (37, 55))
    return (
        _cable(
            "M8 50 H30 Q40 41 52 41 H68 M30 50 Q40 59 52 59 H68 M152 50 H130 Q120 41 108 41 H92 M130 50 Q120 59 108 59 H92"
        )
        + crimps
    )


def _splice_resin() -> str:
    mould = _path("M36 26 h88 v48 h-88 z", "sleeve") + _path("M72 26 v-10 h16 v10", "measure")
    return mould + _cores_met() + _path("M80 4 v14 m-4 -6 l4 6 l4 -6", "flow")


def _splice_silicone() -> str:
    soaked = "".join(f'<ellipse cx="80" cy="{y}" rx="24" ry="8.5" class="glue"/>' for y in (41, 59))
    return soaked + _cores_met() + _path("M128 12 l-24 22 m2 -7 l-2 7 l7 -2", "measure")


def _splice_clips() -> str:
    def clip(y: float) -> str:
        return _path(f"M56 {y:g} l30 -8 l6 3 m-36 5 l30 8 l6 -3 M64 {y - 6:g} v12", "thick")

    ends = _cable("M8 32 H56 M8 68 H56") + _cable("M84 32 H152 M84 68 H152")
    return (
        ends
        + clip(32)
        + clip(68)
        + '<text x="118" y="26" text-anchor="middle">\u2212</text><text x="118" y="88" text-anchor="middle">+</text>'
    )


def _bucket() -> str:
    return (
        _path("M48.5 64 L52 86 H82 L85.5 64 z", "water") + _path("M48.5 64 q9 -3 18.5 0 t18.5 0", "water-level") + _bucket_at(67, 86)
        + _pump(67, 70) + _hose("M67 57 V30 q0 -14 16 -14 h18 q12 0 12 12 v8") + _path("M113 38 q-2 20 -28 16", "flow")
        + _cable("M62 57 C54 40 44 50 30 50") + _box_at(24, 34) + _ground(90)
    )  # fmt: skip


def _bank() -> str:
    pump = '<rect x="88" y="28" width="34" height="20" rx="4" class="pump"/>'
    return (
        _path("M156 50 H76 L50 84 H4", "earth") + _water(4, 66, 52, 26) + pump + _hose("M88 40 L26 78") + _path("M22 74 h10 v10 h-10 z", "box")
        + _hose("M122 34 h26 V8") + _path("M96 28 v-8 h8 v8", "box")
    )  # fmt: skip


def _cap() -> str:
    return '<rect x="46" y="44" width="68" height="8" class="earth-fill"/>' + _path("M54 52 V96 M106 52 V96", "earth")


def _eye_bolt() -> str:
    return (
        _cap() + _eye(80, 44) + _path("M76 52 h8 v4 h-8 z", "box") + _hose("M64 96 V28 h-34") + _cable("M96 96 V30 h34")
    )


def _lower() -> str:
    return (
        _cap() + _water(55, 72, 50, 24) + _eye(80, 44) + _rope("M80 38 V10 M80 52 V72") + _pump(80, 84)
        + _hose("M75 72 C70 66 66 60 66 30 q0 -8 -10 -8 H34") + _cable("M86 72 C92 66 94 60 94 34 q0 -8 10 -8 h26")
        + _path("M122 10 V84 m-4 -6 l4 6 l4 -6", "measure")
    )  # fmt: skip


def _float() -> str:
    drum = '<rect x="52" y="26" width="56" height="18" rx="9" class="outlet"/>'
    crate = _path("M66 58 h28 v30 h-28 z M66 68 h28 M66 78 h28 M75 58 v30 M85 58 v30", "earth-line")
    return (
        _water(4, 36, 122, 60) + drum + crate + _pump(80, 73) + _rope("M80 44 V58 M108 34 L146 22") + _path("M146 14 V40", "thick")
        + _path("M126 96 L140 38 H156", "earth") + _hose("M76 58 C60 50 90 48 112 48 L140 32")
    )  # fmt: skip


def _panels() -> str:
    return (
        _ground(88) + _path("M52 84 L112 42", "panel-edge") + _path("M66 88 V76 M104 88 V50 M104 70 L84 88", "thick")
        + '<circle cx="134" cy="20" r="8" class="sun"/>' + _path("M122 30 l-10 8 m2 -6 l-2 6 l6 -2", "measure")
        + _rope("M112 42 L130 88 M52 84 L34 88") + _path("M70 84 a22 22 0 0 0 -4 -12", "measure")
    )  # fmt: skip


def _box() -> str:
    shade = _path("M24 18 H112", "panel-edge")
    lamps = "".join(f'<circle cx="{x}" cy="34" r="2.6" class="sun"/>' for x in (60, 68, 76))
    loops = _cable("M58 61 C58 84 40 84 36 66 V92") + _cable("M78 61 C78 84 96 84 100 66 V92")
    return shade + _box_at(68, 45) + lamps + loops + _path("M36 88 v6 M100 88 v6", "measure")


def _join() -> str:
    order = ((30, "1"), (80, "2"), (130, "3"))
    counts = "".join(f'<text x="{x}" y="22" text-anchor="middle">{number}</text>' for x, number in order)
    return (
        counts + _pump(30, 54) + _box_at(80, 56) + _path("M112 72 L146 36", "panel-edge")
        + _cable("M37 54 H62") + _cable("M98 54 H126") + _path("M106 48 v12", "thick")
    )  # fmt: skip


def _on() -> str:
    watch = '<circle cx="30" cy="46" r="15" class="ring"/>' + _path(
        "M30 46 v-9 M30 46 l6 4 M30 31 v-5 h-3 h6", "measure"
    )
    return (
        watch + _bucket_at(112, 86) + _hose("M60 18 h40 q12 0 12 12 v14") + _path("M112 46 v26", "flow") + _ground(88)
    )


def _disinfect() -> str:
    can = _path("M98 20 l20 -8 l10 22 l-20 8 z M98 20 l-4 4", "box")
    drops = "".join(
        f'<circle cx="{x}" cy="{y}" r="1.8" class="level-mark"/>' for x, y in ((92, 34), (88, 44), (86, 56))
    )
    return _path("M54 44 V96 M106 44 V96", "earth") + _water(55, 68, 50, 28) + can + drops


def _labels() -> str:
    tag = _path("M96 34 h40 v26 h-40 l-10 -13 z", "box") + '<circle cx="96" cy="47" r="2.4" class="ring"/>'
    return (
        _cable("M8 47 H86")
        + tag
        + '<text x="118" y="52" text-anchor="middle">7</text>'
        + _path("M30 41 h16 v12 h-16 z", "box")
    )


def _barrels() -> str:
    barrel = "".join(f'<rect x="{x}" y="26" width="34" height="48" rx="6" class="outlet line"/>' for x in (20, 66, 112))
    water = "".join(f'<rect x="{x + 3}" y="44" width="28" height="27" class="water"/>' for x in (20, 66, 112))
    return (
        barrel
        + water
        + _hose("M54 68 H66 M100 68 H112")
        + _path("M22 78 h30 M68 78 h30 M114 78 h30", "thick")
        + _path("M20 32 h-10 v14", "flow")
        + _ground(84)
    )


def _loop() -> str:
    return (
        _water(6, 62, 148, 30) + _pump(30, 74) + _hose("M30 61 V30 q0 -14 14 -14 h70 q14 0 14 14 v40") + _path("M79 16 v-10 m-4 3 l4 -4 l4 4", "measure")
        + _path("M128 70 q6 8 14 6", "flow") + _path("M52 80 h54 M52 76 v8 M106 76 v8", "measure")
    )  # fmt: skip


def _tank() -> str:
    tank = _path("M52 22 V82 H124 V22", "outlet line") + '<rect x="54" y="44" width="68" height="36" class="water"/>'
    floats = (
        _cable("M110 22 V34 q0 8 -8 10")
        + '<ellipse cx="98" cy="46" rx="8" ry="5" class="box"/>'
        + _path("M106 34 h8", "thick")
    )
    return (
        tank
        + floats
        + _hose("M8 84 V26 q0 -12 12 -12 h40 q8 0 8 8 v10")
        + _path("M124 34 h14 v40", "flow")
        + _ground(88)
    )


def _pack() -> str:
    panels = (
        '<rect x="20" y="28" width="6" height="52" class="box"/><rect x="28" y="28" width="6" height="52" class="box"/>'
    )
    roll = "".join(f'<circle cx="86" cy="56" r="{r}" class="ring"/>' for r in (10, 17, 24))
    return (
        panels
        + roll
        + _hose("M110 56 q4 24 30 24")
        + _path("M142 74 q4 6 0 10", "flow")
        + _path("M124 30 h10 v10 h-10 z m14 0 h10 v10 h-10 z", "thick")
        + _ground(88)
    )


PICTURES: Mapping[str, Callable[[], str]] = {
    "lay-out": _lay_out, "lay-hose": _lay_hose, "end": _end, "splice": _splice, "splice-resin": _splice_resin, "splice-silicone": _splice_silicone, "splice-clips": _splice_clips, "bucket": _bucket, "bank": _bank, "eye": _eye_bolt, "lower": _lower,
    "float": _float, "panels": _panels, "box": _box, "join": _join, "on": _on, "disinfect": _disinfect, "labels": _labels,
    "barrels": _barrels, "loop": _loop, "tank": _tank, "pack": _pack,
}  # fmt: skip
# Where a step's figure stands: x, y, anchor.
PLACES: Mapping[str, tuple[float, float, str]] = {
    "lay-out": (78, 16, "middle"), "lay-hose": (78, 16, "middle"), "lower": (128, 52, "start"), "float": (8, 18, "start"), "panels": (44, 66, "end"),
    "barrels": (80, 18, "middle"), "tank": (88, 70, "middle"), "on": (30, 80, "middle"), "disinfect": (50, 24, "end"),
}  # fmt: skip


def step_picture(key: str, figure: Spoken = "") -> Markup:
    """A step's picture; it shows what the words beside it say, and says nothing of its own to a screen reader.

    Parameters
    ----------
    key : str
        Of the step, as :mod:`squall.job.fitted.steps` has it.
    figure : Spoken
        The one figure of the job that belongs in it.
    """
    words = ""
    if str(figure) and key in PLACES:
        x, y, anchor = PLACES[key]
        words = f'<text x="{x:g}" y="{y:g}" text-anchor="{anchor}" class="measure-words">{escape(str(figure))}</text>'
    return framed(PICTURES[key]() + words)


def framed(shapes: str) -> Markup:
    """Shapes that are made here, and escaped words, as a picture of a step's size."""
    return Markup(
        f'<svg viewBox="0 0 {WIDTH} {HEIGHT}" class="step-picture" aria-hidden="true" focusable="false">{shapes}</svg>'
    )
