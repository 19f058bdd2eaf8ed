"""Square codes to be scanned, drawn into the page or paper itself."""

from markupsafe import Markup

# Empty squares about a code, by which a camera finds it. [-]
BORDER = 4


def code_of(text: str, width_mm: float | None = None) -> Markup:
    """A text as a square code.

    Parameters
    ----------
    text : str
        What a phone is to read.
    width_mm : float, optional
        How wide it is printed; on screens without it. [mm]
    """
    import segno

    code = segno.make(text, error="m", micro=False)
    if width_mm is None:
        drawn = code.svg_inline(scale=5, border=BORDER, dark="#000", light="#fff", title=text)
    else:
        squares = code.symbol_size(border=BORDER)[0]
        drawn = code.svg_inline(
            scale=width_mm / squares, unit="mm", border=BORDER, dark="#000", light="#fff", title=text
        )
    return Markup(drawn)
