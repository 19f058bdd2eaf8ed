"""Pump, panels, box, cables, and the points where readings are taken."""

from collections.abc import Mapping

from markupsafe import escape

from squall.core.kit.supply import Banked
from squall.core.kit.wiring import CableRun
from squall.core.reason import Spoken
from squall.drawing.labels import Word
from squall.drawing.sheet import Frame, Geometry, Sheet
from squall.job.worked.assess import Assessment
from squall.words import N_, say, say_n
from squall.words.units import text


def pump_shape(sheet: Sheet, x: float, y: float, size: float) -> None:
    """The pump as a capsule."""
    w, h = 15.0 * size, 24.0 * size
    sheet.add("rect", x=x - w / 2, y=y - h / 2, width=w, height=h, rx=4.0 * size, class_="pump")
    sheet.add(
        "path",
        d=f"M{x:.1f} {y - h * 0.3:.1f} V{y + h * 0.3:.1f} M{x - w * 0.3:.1f} {y:.1f} H{x + w * 0.3:.1f}",
        class_="pump-mark",
    )


def pump_part(sheet: Sheet, frame: Frame, g: Geometry, a: Assessment) -> None:
    """The pump with its name."""
    name = a.chosen.kit.pump.title if a.chosen is not None else say("pump, not chosen yet")
    x, y = g.pump
    sheet.open_part("pump", say("Pump: {name}", name=name))
    sheet.add("rect", x=x - 14, y=y - 18, width=28.0, height=36.0, class_="touch")
    pump_shape(sheet, x, y, 1.0)
    sheet.room.box(x - 9, y - 13, x + 9, y + 13)
    if a.chosen is not None and sheet.stage in ("lift", "kits", "power", "prove", "wire"):
        words = a.chosen.kit.pump.name if frame.size == "narrow" else name
        sheet.label(x + 16, y + 22, words, "pump-words", named=(x, y))
    sheet.close_part()


def panel_shape(sheet: Sheet, x: float, y: float, size: float) -> None:
    """The panels on their post."""
    w, h = 46.0 * size, 30.0 * size
    sheet.add("path", d=f"M{x:.1f} {y:.1f} V{y - 12 * size:.1f}", class_="post")
    corners = [
        (x - w / 2, y - 8 * size),
        (x + w / 2 - 8 * size, y - h),
        (x + w / 2, y - h + 7 * size),
        (x - w / 2 + 8 * size, y - 1 * size),
    ]
    sheet.add("path", d="M" + " L".join(f"{px:.1f} {py:.1f}" for px, py in corners) + " Z", class_="panel")
    (ax, ay), (bx, by), (cx, cy), (dx, dy) = corners
    for share in (0.33, 0.66):
        sheet.add("line", x1=ax + (bx - ax) * share, y1=ay + (by - ay) * share, x2=dx + (cx - dx) * share, y2=dy + (cy - dy) * share,
                  class_="panel-line")  # fmt: skip


def panel_part(sheet: Sheet, frame: Frame, g: Geometry, a: Assessment) -> None:
    """The panels with their number and watts."""
    assert a.chosen is not None
    kit = a.chosen.kit
    x, y = g.panel
    joined = say_n("{n} panel, {array:watts}", "{n} panels, {array:watts}", kit.panels, array=kit.array_w)
    sheet.open_part(
        "panel",
        say(
            "Panels: {joined}, {in_series} in series, {in_parallel} side by side",
            joined=joined,
            in_series=kit.in_series,
            in_parallel=kit.in_parallel,
        ),
    )
    sheet.add("rect", x=x - 28, y=y - 38, width=56.0, height=40.0, class_="touch")
    panel_shape(sheet, x, y, 1.0)
    sheet.room.box(x - 24, y - 31, x + 24, y)
    if sheet.stage in ("power", "kits", "wire"):
        sheet.label(x, y - 38, joined, "panel-words", "middle", (x, y - 20))
    sheet.close_part()


def _box_at(frame: Frame, g: Geometry) -> tuple[float, float]:
    x = g.panel_x - (70.0 if not frame.narrow else 44.0)
    return x, g.ground_y(x)


def box_part(sheet: Sheet, frame: Frame, g: Geometry, a: Assessment) -> None:
    """Controller and battery, where there are any."""
    assert a.chosen is not None
    kit = a.chosen.kit
    if kit.controller is None:
        return
    x, y = _box_at(frame, g)
    name = kit.controller.title + (
        say(
            " and {batteries_in_series} x {title}", batteries_in_series=kit.supply.count, title=kit.supply.battery.title
        )
        if isinstance(kit.supply, Banked)
        else ""
    )
    sheet.open_part("box", say("Box: {name}", name=name))
    sheet.add("rect", x=x - 14, y=y - 28, width=28.0, height=30.0, class_="touch")
    sheet.add("rect", x=x - 9, y=y - 22, width=18.0, height=20.0, class_="box")
    sheet.room.box(x - 10, y - 23, x + 10, y - 1)
    if kit.battery is not None:
        sheet.add(
            "path",
            d=f"M{x - 5:.1f} {y - 12:.1f} h10 M{x - 3:.1f} {y - 8:.1f} h6 M{x:.1f} {y - 17:.1f} v5 M{x:.1f} {y - 8:.1f} v4",
            class_="box-mark",
        )
    else:
        sheet.add("path", d=f"M{x - 5:.1f} {y - 6:.1f} l4 -8 l3 5 l3 -8", class_="box-mark")
    sheet.close_part()


def cables(sheet: Sheet, frame: Frame, g: Geometry, a: Assessment) -> None:
    """The cables under the ground, with size, drop and fuse on the Wire stage."""
    if a.chosen is None:
        return
    kit, wiring = a.chosen.kit, a.wiring
    assert wiring is not None
    run = wiring.runs[0]
    panel_x, panel_y = g.panel
    start_x, start_y = (panel_x, panel_y) if kit.controller is None else _box_at(frame, g)
    down = [(start_x, start_y + 7.0)]
    steps = 8
    for n in range(1, steps + 1):
        x = start_x + (g.rim_x + 6 - start_x) * n / steps
        down.append((x, g.ground_y(x) + 8.0))
    if g.on_bank:
        down[-1] = (g.pump[0] + 14, g.ground_y(g.pump[0] + 14) + 6.0)
        down.append((g.pump[0] + 7, g.pump[1] + 4))
    else:
        down += [(g.pump_x + 9, g.water_y + 2), (g.pump_x + 6, g.pump[1] - 6)]
    sheet.room.line(down)
    over = not run.within_drop or not run.within_ampacity
    told = N_("Cable {name}, {one_way:length}: {label}, drop {drop_fraction:share}")
    told_over = N_("Cable {name}, {one_way:length}: {label}, drop {drop_fraction:share}, too much")
    label = say(
        told_over if over else told,
        name=run.name,
        label=run.choice.conductor.label,
        one_way=run.one_way_m,
        drop_fraction=run.whole_drop,
    )
    rating = wiring.protection.rating_a
    note = f"{a.job.protection} {text(rating, 'amps')}" if rating is not None else say("no fuse fits")
    sheet.open_part("cable-pump", f"{label} {note}")
    d = "M" + " L".join(f"{x:.1f} {y:.1f}" for x, y in down)
    sheet.add("path", d=d, class_="hose-touch", fill="none")
    sheet.add("path", d=d, class_="cable over" if over else "cable", fill="none")
    if sheet.stage == "wire":
        x, y = down[4]
        words = say(
            "{label}, drop {drop_fraction:share}",
            label=run.choice.conductor.label,
            drop_fraction=run.whole_drop,
        )
        fuse_x, fuse_y = down[1]
        sheet.label(x + 6, y + 20, words, "cable-words", named=(x, y))
        sheet.room.box(fuse_x - 9, fuse_y - 5, fuse_x + 9, fuse_y + 5)
        sheet.add("rect", x=fuse_x - 8, y=fuse_y - 4, width=16.0, height=8.0, class_="fuse")
        sheet.label(fuse_x + 4, fuse_y + 20, note, "cable-words", "middle", (fuse_x, fuse_y))
    sheet.close_part()
    if kit.controller is not None and len(wiring.runs) > 1:
        _array_cable(sheet, wiring.runs[1], g.panel, (start_x, start_y))


def _array_cable(sheet: Sheet, other: CableRun, panel: tuple[float, float], box: tuple[float, float]) -> None:
    """The cable from the panels to the box."""
    (panel_x, panel_y), (start_x, start_y) = panel, box
    sheet.open_part(
        "cable-array",
        say(
            "Cable {name}: {label}, {one_way:length}",
            name=other.name,
            label=other.choice.conductor.label,
            one_way=other.one_way_m,
        ),
    )
    mid = (start_x + panel_x) / 2
    d = f"M{panel_x:.1f} {panel_y - 3:.1f} Q{mid:.1f} {panel_y + 8:.1f} {start_x + 9:.1f} {start_y - 8:.1f}"
    sheet.add("path", d=d, class_="hose-touch", fill="none")
    sheet.add("path", d=d, class_="cable", fill="none")
    sheet.close_part()


def test_points(sheet: Sheet, frame: Frame, g: Geometry, a: Assessment) -> None:
    """Numbered marks where the readings are taken: at the panel, the pump, the outlet; each clear of the lines."""
    for number, (x, y) in enumerate(
        ((g.panel_x - 30, g.panel[1] - 30), (g.pump_x + 24, g.water_y - 10), (g.x1 + 20, g.top_y - 12)), start=1
    ):
        if number == 2 and a.chosen is not None and a.chosen.kit.pump.three_wires:
            # Three wires show nothing to a meter of two leads.
            continue
        free_x, base, _ = sheet.room.place(Word(x, y, "0000", "middle"))
        sheet.add("path", d=f"M{free_x:.1f} {base - 13:.1f} l9 9 l-9 9 l-9 -9 z", class_="test-point")
        sheet.items.append(
            f'<text x="{free_x:.1f}" y="{base:.1f}" class="test-words" text-anchor="middle">{number}</text>'
        )


# A bar for a suspected part: its length at a share of one, and its height. [drawing's own]
_BAR, _THICK = 46.0, 7.0


def suspect_bars(sheet: Sheet, frame: Frame, g: Geometry, shares: Mapping[str, float]) -> None:
    """A bar with its share at each suspected part, clear of the lines and words."""
    places = {
        "panel": (g.panel_x - 30, g.panel[1] - 34), "box": (g.panel_x + 34, g.panel[1] + 30), "pump": (g.pump_x + 30, g.water_y - 14),
        "outlet": (g.x1 - 10, g.top_y - 22), "water": (g.pump_x + 60, g.water_y + 24), "run": ((g.pump_x + g.x1) / 2, (g.water_y + g.top_y) / 2 - 20),
        "cable-pump": ((g.panel_x + g.pump_x) / 2 + 20, (g.panel[1] + g.water_y) / 2), "cable-array": (g.panel_x + 34, g.panel[1] + 8),
    }  # fmt: skip
    for part, share in shares.items():
        if part not in places:
            continue
        x, y = places[part]
        free_x, base, _ = sheet.room.place(Word(x, y, "0000000", "middle"))
        left, top = free_x - _BAR / 2, base - 11
        sheet.add(
            "rect", x=f"{left:.1f}", y=f"{top:.1f}", width=f"{_BAR:g}", height=f"{_THICK:g}", class_="suspect-ground"
        )
        sheet.add(
            "rect",
            x=f"{left:.1f}",
            y=f"{top:.1f}",
            width=f"{_BAR * share:.1f}",
            height=f"{_THICK:g}",
            class_="suspect-bar",
        )
        words = text(round(share, 2), "share")
        sheet.items.append(
            f'<text x="{free_x:.1f}" y="{top - 2:.1f}" class="suspect-words" text-anchor="middle">{escape(words)}</text>'
        )


def last_read(sheet: Sheet, g: Geometry, readings: Mapping[str, Spoken]) -> None:
    """What was read last at each part, where it is free."""
    places = {
        "panel": (g.panel_x - 30, g.panel[1] - 40),
        "pump": (g.pump_x + 18, g.water_y - 26),
        "outlet": (g.x1 - 20, g.top_y - 26),
    }
    for part, words in readings.items():
        if part in places:
            sheet.label(*places[part], str(words), "read-words", "middle")
