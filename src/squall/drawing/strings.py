"""The panels as they are joined: strings as columns, leads between, Y-leads where strings meet."""

from markupsafe import Markup

from squall.core.kit.kit import Kit
from squall.words import say, say_n
from squall.words.units import text

CELL_W, CELL_H, GAP_X, GAP_Y = 74.0, 40.0, 36.0, 20.0
TOP, LEFT = 46.0, 40.0
MOST = 12


def _ghost(job_id: int, way: str, x: float, y: float, words: str) -> list[str]:
    """A panel that is not there yet: a click joins it. Keys and screen readers have the buttons beside the drawing."""
    return [
        f'<g class="ghost" hx-post="/jobs/{job_id}/do/join" hx-vals=\'{{"stage": "join", "item": "{way}"}}\'>',
        f'<rect x="{x:.1f}" y="{y:.1f}" width="{CELL_W:g}" height="{CELL_H:g}" class="ghost-cell"/>',
        f'<text x="{x + CELL_W / 2:.1f}" y="{y + CELL_H / 2 + 5:.1f}" text-anchor="middle">+ {words}</text></g>',
    ]


def draw_strings(job_id: int, kit: Kit) -> Markup:
    """Panels of a kit with their leads, volts and amps.

    Parameters
    ----------
    job_id : int
        Whose panels; the dashed ones join another by a click or a touch.
    kit : Kit
        Up to 12 in series and 12 strings.
    units : str
        ``metric`` or ``us``.

    Returns
    -------
    Markup
        An ``svg`` element. Series stands one above the other, strings side by side; plus at the top.
    """
    series, strings = kit.in_series, kit.in_parallel
    module = kit.panel.module
    width = LEFT + (strings + 1) * (CELL_W + GAP_X) + 200.0
    height = TOP + series * (CELL_H + GAP_Y) + 62.0
    low = TOP + series * (CELL_H + GAP_Y)
    items = []
    for s in range(strings):
        x = LEFT + s * (CELL_W + GAP_X)
        middle = x + CELL_W / 2
        items.append(f'<line x1="{middle:.1f}" y1="{TOP - 16:.1f}" x2="{middle:.1f}" y2="{low:.1f}" class="lead"/>')
        for n in range(series):
            y = TOP + n * (CELL_H + GAP_Y)
            items.append(f'<rect x="{x:.1f}" y="{y:.1f}" width="{CELL_W:g}" height="{CELL_H:g}" class="cell"/>')
            items += [
                f'<line x1="{x + CELL_W * k / 4:.1f}" y1="{y:.1f}" x2="{x + CELL_W * k / 4:.1f}" y2="{y + CELL_H:.1f}" class="cell-line"/>'
                for k in (1, 2, 3)
            ]
            items.append(f'<text x="{middle + 6:.1f}" y="{y - 4:.1f}" class="pole">+</text>')
            items.append(f'<text x="{middle + 6:.1f}" y="{y + CELL_H + 14:.1f}" class="pole">\u2212</text>')
    first, last = LEFT + CELL_W / 2, LEFT + (strings - 1) * (CELL_W + GAP_X) + CELL_W / 2
    end = last + CELL_W / 2 + 30.0
    for y, sign in ((TOP - 16.0, "+"), (low, "\u2212")):
        items.append(f'<line x1="{first:.1f}" y1="{y:.1f}" x2="{end:.1f}" y2="{y:.1f}" class="lead"/>')
        items.append(f'<text x="{end + 6:.1f}" y="{y + 5:.1f}" class="pole">{sign}</text>')
        for s in range(1, strings):
            x = LEFT + s * (CELL_W + GAP_X) + CELL_W / 2
            items.append(f'<circle cx="{x:.1f}" cy="{y:.1f}" r="4" class="y-lead"/>')
    if series < MOST:
        items += _ghost(job_id, "series-more", LEFT, low + 12.0, say("in series"))
    if strings < MOST:
        items += _ghost(job_id, "parallel-more", LEFT + strings * (CELL_W + GAP_X), TOP, say("beside"))
        end += CELL_W + 8.0
    volts, amps = module.vmp_v * series, module.imp_a * strings
    told = [f"{text(volts, 'volts')}, {text(amps, 'amps')}", text(kit.array_w, "watts")]
    if strings > 1:
        told.append(say_n("{n} Y-lead at each end", "{n} Y-leads at each end", strings - 1))
    items += [
        f'<text x="{end + 6:.1f}" y="{(TOP + low) / 2 - 16 + 18 * n:.1f}" class="told">{words}</text>'
        for n, words in enumerate(told)
    ]
    label = f"{kit.joining}: {', '.join(told)}"
    return Markup(
        f'<svg class="strings" viewBox="0 0 {width:g} {height:g}" width="{width:g}" role="img" aria-label="{label}" '
        f'xmlns="http://www.w3.org/2000/svg">{"".join(items)}</svg>'
    )
