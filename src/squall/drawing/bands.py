"""Twelve months of light as bands: the worst tenth of the days, the middle half, the best tenth, with what the kit wants across."""

from dataclasses import dataclass
from math import isfinite

from markupsafe import Markup, escape

from squall.job.worked.bands import SHARES, MonthBand
from squall.words import say
from squall.words.calendar import SHORT_MONTHS, month_name
from squall.words.units import text

_AT = {share: number for number, share in enumerate(SHARES)}
_TOP, _BOTTOM, _LEFT, _RIGHT = 14.0, 24.0, 34.0, 8.0
_STEPS = (0.5, 1.0, 2.0)


@dataclass(frozen=True)
class _Sheet:
    """Width and height of the picture, and the light at its top. [kWh/m2]"""

    width: float
    height: float
    most: float
    narrow: bool

    @property
    def slot(self) -> float:
        """Width of a month."""
        return (self.width - _LEFT - _RIGHT) / 12.0

    def y(self, light: float) -> float:
        """Where a light lies."""
        return self.height - _BOTTOM - min(light, self.most) / self.most * (self.height - _TOP - _BOTTOM)

    def box(self, kind: str, middle: float, span: tuple[float, float], wide: float) -> str:
        """A bar from one light up to another."""
        bottom, top = span
        return f'<rect class="{kind}" x="{middle - wide / 2.0:.1f}" y="{self.y(top):.1f}" width="{wide:.1f}" height="{max(self.y(bottom) - self.y(top), 0.5):.1f}"/>'

    def line(self, kind: str, from_x: float, to_x: float, light: float) -> str:
        """A level line at a light."""
        at = self.y(light)
        return f'<line class="{kind}" x1="{from_x:.1f}" x2="{to_x:.1f}" y1="{at:.1f}" y2="{at:.1f}"/>'


def light_bands(bands: tuple[MonthBand, ...], *, narrow: bool) -> Markup:
    """The bands as one picture, light on the level a day upwards.

    Parameters
    ----------
    bands : tuple[MonthBand, ...]
        January first.
    narrow : bool
        For a phone.
    """
    most = max(max(band.light_kwh_m2[-1] for band in bands), 1.0) * 1.05
    sheet = _Sheet(360.0, 230.0, most, True) if narrow else _Sheet(760.0, 250.0, most, False)
    step = next((s for s in _STEPS if most / s <= 7.0), _STEPS[-1])
    pieces = []
    for number in range(int(most / step) + 1):
        light = number * step
        pieces.append(sheet.line("band-line", _LEFT, sheet.width - _RIGHT, light))
        pieces.append(
            f'<text class="band-tick" x="{_LEFT - 5:g}" y="{sheet.y(light) + 4:.1f}" text-anchor="end">{light:g}</text>'
        )
    for number, band in enumerate(bands):
        pieces += _month(sheet, number, band)
    told = " ".join(band_words(number, band) for number, band in enumerate(bands))
    which = "narrow-only" if narrow else "wide-only"
    return Markup(
        f'<svg class="bands {which}" viewBox="0 0 {sheet.width:g} {sheet.height:g}" role="img" aria-label="{escape(told)}">{"".join(pieces)}</svg>'
    )


def _month(sheet: _Sheet, number: int, band: MonthBand) -> list[str]:
    low, tenth, quarter, half, three, nine, high = band.light_kwh_m2
    x, slot = _LEFT + number * sheet.slot, sheet.slot
    middle, thick = x + slot / 2.0, slot * 0.5
    name = str(SHORT_MONTHS[number]).strip()[: 1 if sheet.narrow else None]
    pieces = [
        sheet.box("band-worst", middle, (low, tenth), thick * 0.5),
        sheet.box("band-between", middle, (tenth, quarter), thick * 0.12),
        sheet.box("band-half", middle, (quarter, three), thick),
        sheet.box("band-between", middle, (three, nine), thick * 0.12),
        sheet.box("band-best", middle, (nine, high), thick * 0.5),
        sheet.line("band-median", middle - thick / 2.0, middle + thick / 2.0, half),
        f'<text class="band-tick" x="{middle:.1f}" y="{sheet.y(0.0) + 16:.1f}" text-anchor="middle">{escape(name)}</text>',
    ]
    if band.need_kwh_m2 is not None and isfinite(band.need_kwh_m2):
        pieces.append(sheet.line("band-need", x + 1.0, x + slot - 1.0, band.need_kwh_m2))
    elif band.need_kwh_m2 is not None:
        pieces.append(f'<text class="band-never" x="{middle:.1f}" y="{_TOP - 2.0:.1f}" text-anchor="middle">✕</text>')
    if band.start_kwh_m2 is not None:
        pieces.append(sheet.line("band-start", x + 1.0, x + slot - 1.0, band.start_kwh_m2))
    return pieces


def band_words(number: int, band: MonthBand) -> str:
    """One month's band in a sentence."""
    dull, half, clear = (band.light_kwh_m2[_AT[share]] for share in (0.10, 0.50, 0.90))
    said = say(
        "{month}: worst tenth under {dull:daylight}, half the days over {half:daylight}, best tenth over {clear:daylight}.",
        month=month_name(number), dull=dull, half=half, clear=clear,
    )  # fmt: skip
    if band.need_kwh_m2 is None:
        return said
    if not isfinite(band.need_kwh_m2):
        return said + " " + say("No day is bright enough for the need.")
    return said + " " + say("The need wants {need}.", need=text(band.need_kwh_m2, "daylight"))
