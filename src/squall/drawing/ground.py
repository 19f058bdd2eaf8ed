"""Earth, water, the staff of heights, and the sun over them."""

from itertools import pairwise
from math import ceil, log10

from squall.core.sky.typical_days import AVERAGE
from squall.drawing.sheet import Drawn, Frame, Geometry, Sheet, pumping_fall
from squall.job.document.unsaid import unsaid_of
from squall.job.worked.assess import Assessment
from squall.words import say, voice
from squall.words.units import KINDS, scale, text


def height_scale(sheet: Sheet, frame: Frame, a: Assessment) -> None:
    """A staff at the left with ticks at round heights, 0 at the pumping water level."""
    if "lift" in unsaid_of(a.job):
        return
    x = 34.0 if frame.narrow else 52.0
    us = voice().units == "us"
    factor, _ = scale("head", KINDS["head"].us if us else KINDS["head"].metric)
    sign = KINDS["head"].us_sign if us else KINDS["head"].metric_sign
    step = _round_step((frame.high_m - frame.low_m) * factor / (5 if frame.narrow else 6))
    sheet.add("line", x1=x, x2=x, y1=frame.y(frame.high_m), y2=frame.y(frame.low_m), class_="staff")
    sheet.room.box(0.0, frame.y(frame.high_m) - 8.0, x, frame.y(frame.low_m))
    first = ceil(frame.low_m * factor / step)
    number = first
    while number * step <= frame.high_m * factor + 1e-9:
        y = frame.y(number * step / factor)
        sheet.add("line", x1=x - (8 if number % 2 == 0 else 5), x2=x, y1=y, y2=y, class_="staff")
        sheet.words(x - 11, y + 4, f"{number * step:g}".replace("-", "\u2212"), "staff-words", "end")
        number += 1
    sheet.words(x, frame.y(frame.high_m) - 8, sign, "staff-words", "middle")


def _round_step(rough: float) -> float:
    """A staff at the left with ticks at round heights, 0 at the pumping water level."""
    size = 10.0 ** int(log10(rough) if rough >= 1 else log10(rough) - 1)
    return next(m * size for m in (1, 2, 5, 10) if m * size >= rough * 0.999)


def ground_and_water(sheet: Sheet, frame: Frame, g: Geometry, a: Drawn) -> None:
    """Earth from bank to outlet, hatched, with basin or shaft and the water in it."""
    floor = frame.height - 2.0
    left = g.x0 - (40.0 if not frame.narrow else 26.0)
    if sheet.stage == "thumb":
        left = 2.0
    bed_y = min(frame.y(frame.low_m) - 2.0, floor - 6.0)
    steps = [g.rim_x + (g.x1 + 60.0 - g.rim_x) * n / 16.0 for n in range(17)]
    land = [(min(x, frame.width), g.ground_y(x)) for x in steps]
    edge = " L".join(f"{x:.1f} {y:.1f}" for x, y in land) + f" L{frame.width:.1f} {g.ground_end_y:.1f}"
    if g.shaft:
        wall = g.rim_x - 8.0
        hole = [(left, g.rim_y), (g.x0 - 16.0, g.rim_y), (g.x0 - 16.0, bed_y), (wall, bed_y), (wall, g.rim_y)]
    else:
        hole = _basin(left, g, bed_y)
    sheet.room.line([*hole, *land])
    path = " L".join(f"{x:.1f} {y:.1f}" for x, y in hole)
    sheet.add("path", d=f"M{path} L{edge} L{frame.width:.1f} {floor} L{left:.1f} {floor} Z", class_="earth",
              fill=f"url(#earth-{sheet.ident})")  # fmt: skip
    wet = _filled(hole, g.water_y)
    water = "M" + " L".join(f"{x:.1f} {y:.1f}" for x, y in wet) + " Z"
    sheet.add("path", d=water, class_="water")
    sheet.add("path", d=water, fill=f"url(#ripple-{sheet.ident})")
    sheet.add("line", x1=wet[0][0], x2=wet[-1][0], y1=g.water_y, y2=g.water_y, class_="water-level")
    sheet.room.line([wet[0], wet[-1]])


def _basin(left: float, g: Geometry, bed_y: float) -> list[tuple[float, float]]:
    """A pool's bed from its far bank to the near one: it falls away from both."""
    far, near, steps = left, g.rim_x, 24
    low = min(0.42 * (near - far), g.pump_x - far - 6.0)
    bed = []
    for n in range(steps + 1):
        x = far + (near - far) * n / steps
        reach = (x - far) / low if x < far + low else (near - x) / (near - far - low)
        share = 1.0 - (1.0 - min(max(reach, 0.0), 1.0)) ** 2.6
        bed.append((x, g.rim_y + (bed_y - g.rim_y) * share))
    return bed


def _filled(hole: list[tuple[float, float]], water_y: float) -> list[tuple[float, float]]:
    """What lies under a level in a hole: its points below it, and where the level meets the banks."""
    wet: list[tuple[float, float]] = []
    for (x1, y1), (x2, y2) in pairwise(hole):
        if (y1 < water_y) != (y2 < water_y) and y1 != y2:
            wet.append((x1 + (x2 - x1) * (water_y - y1) / (y2 - y1), water_y))
        if y2 >= water_y:
            wet.append((x2, y2))
    return wet or [hole[0], hole[-1]]


def level_doubt(sheet: Sheet, frame: Frame, g: Geometry, a: Assessment) -> None:
    """The band in which the level may stand, and how far it falls while pumping."""
    off, fall = 0.0 if "lift" in unsaid_of(a.job) else a.heights.off_m, pumping_fall(a)
    left, right = g.x0 - 14.0, (g.rim_x - 9.0 if g.shaft else g.rim_x - 14.0)
    if off > 0.0 and sheet.stage in ("survey", "lift"):
        top, bottom = max(frame.y(off), frame.top - 6.0), min(frame.y(-off), frame.height - 2.0)
        sheet.add("rect", x=left, y=top, width=right - left, height=bottom - top, class_="doubt",
                  fill=f"url(#doubt-{sheet.ident})")  # fmt: skip
        sheet.room.line([(left, top), (right, top), (right, bottom)])
        sheet.label(
            right + 12.0,
            max(g.water_y - 4.0, 12.0),
            f"\u00b1 {text(off, 'head')}",
            "doubt-words",
            named=(right, g.water_y),
        )
    if fall > 0.0 and sheet.stage in ("survey", "lift"):
        y = frame.y(-fall)
        sheet.add("line", x1=left, x2=right, y1=y, y2=y, class_="pumping-level")
        sheet.room.line([(left, y), (right, y)])
        sheet.label(right + 12.0, y + 4.0, say("pumped, {fall:head} lower", fall=fall), "doubt-words", named=(right, y))


def water_part(sheet: Sheet, frame: Frame, g: Geometry, a: Assessment) -> None:
    """The water, and on the survey the lift measured from it."""
    job = a.job
    stands = "standing" if a.heights.level is not None else "pumping"
    off = say(", plus or minus {off:head}", off=a.heights.off_m) if a.heights.off_m > 0.0 else ""
    label = say(
        "Water: {si:temperature}, {stands} level is height 0{off}", si=job.water_temperature.si, stands=stands, off=off
    )
    sheet.open_part("water", label)
    sheet.add(
        "rect",
        x=g.x0 - 16,
        y=g.water_y - 10,
        width=30.0,
        height=max(frame.height - g.water_y - 20, 14.0),
        class_="touch",
    )
    sheet.add("path", d=f"M{g.x0 - 10:.1f} {g.water_y - 9:.1f} l8 0 l-4 7 z", class_="level-mark")
    sheet.close_part()
    if sheet.stage == "survey":
        clear = 62.0
        x = g.x1 + (clear if not frame.narrow else -24.0)
        sheet.open_part("lift", lift_words(a))
        sheet.add("line", x1=g.rim_x + 8, x2=x + 4, y1=g.water_y, y2=g.water_y, class_="datum")
        sheet.add("line", x1=x, x2=x, y1=g.top_y, y2=g.water_y, class_="measure")
        sheet.add(
            "path",
            d=f"M{x - 4:.1f} {g.top_y + 8:.1f} L{x:.1f} {g.top_y:.1f} L{x + 4:.1f} {g.top_y + 8:.1f}",
            class_="measure",
        )
        sheet.add("path", d=f"M{x - 4:.1f} {g.water_y - 8:.1f} L{x:.1f} {g.water_y:.1f} L{x + 4:.1f} {g.water_y - 8:.1f}",
                  class_="measure")  # fmt: skip
        sheet.room.line([(x, g.top_y), (x, g.water_y), (g.rim_x + 8, g.water_y)])
        middle = (g.top_y + g.water_y) / 2 + 4
        if frame.narrow:
            sheet.label(x - 6, middle, lift_words(a), "measure-words", "end", (x, middle))
        else:
            sheet.label(x + 8, middle, lift_words(a), "measure-words", named=(x, middle))
        sheet.close_part()


def lift_words(a: Drawn) -> str:
    """The lift in words; how far the outlet lies under the water where it does."""
    heights = a.heights
    if "lift" in unsaid_of(a.job):
        return say("lift not said yet")
    if heights.fall_m > 0.0:
        return say("outlet {fall:head} under the water", fall=heights.fall_m)
    return say("lift {lift:head}", lift=heights.lift_m)


def sun(sheet: Sheet, frame: Frame, a: Assessment) -> None:
    """The sun's day over the section, with the hours that bring water drawn thick."""
    left, right = frame.x(0.08), frame.x(0.92)
    rise, base = (40.0 if not frame.narrow else 44.0), frame.top - 4.0

    def at(hour: float) -> tuple[float, float]:
        share = (hour - 5.0) / 14.0
        return left + share * (right - left), base - rise * 4.0 * share * (1.0 - share)

    def arc(begin: float, end: float) -> str:
        steps = [begin + (end - begin) * n / 24.0 for n in range(25)]
        return "M" + " L".join(f"{x:.1f} {y:.1f}" for x, y in map(at, steps))

    sheet.add("path", d=arc(5.0, 19.0), class_="sun-path", fill="none")
    sheet.room.line([at(5.0 + n) for n in range(15)])
    chosen = a.judged.chosen
    if chosen is None or sheet.stage == "survey":
        x, y = at(12.0)
        sheet.add("circle", cx=x, cy=y, r=9.0, class_="sun")
        return
    month = chosen.worst_month
    hours = chosen.season.water_hours(AVERAGE, month)
    if hours is not None:
        begin, end = max(hours[0], 5.0), min(hours[1], 19.0)
        sheet.add("path", d=arc(begin, end), class_="sun-water", fill="none")
        for hour, anchor in ((begin, "end"), (end, "start")):
            x, y = at(hour)
            sheet.words(
                x + (-8 if anchor == "end" else 8),
                y + 2,
                f"{int(hour):02d}:{int(hour % 1 * 60):02d}",
                "sun-words",
                anchor,
            )
    x, y = at(12.0)
    if sheet.stage == "power":
        sheet.items.append(
            f'<g class="hour-now" data-left="{left:.1f}" data-right="{right:.1f}" data-rise="{rise:.1f}" data-base="{base:.1f}" '
            f'transform="translate({x:.1f} {y:.1f})"><circle r="9" class="sun"/><text y="25" class="sun-words" text-anchor="middle"></text></g>'
        )
    else:
        sheet.add("circle", cx=x, cy=y, r=9.0, class_="sun")
    if sheet.stage == "power" and not frame.narrow:
        litres = text(chosen.worst_litres / 1000.0, "litres")
        late = at(max(hours[1], 13.0) if hours is not None else 13.0)[0] + 54.0
        sheet.words(
            late, y + 2, say("{litres} on an average {month:month} day", litres=litres, month=month), "sun-words"
        )
