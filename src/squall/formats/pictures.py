"""Photos as phones take them: made smaller, turned upright, and without the place where they were taken unless that is wanted."""

from dataclasses import dataclass
from io import BytesIO

from squall.core.errors import BadFile
from squall.words import later

MOST_BYTES = 25_000_000
MOST_PIXELS = 80_000_000
LONG_SIDE, SMALL_SIDE = 1600, 240
_ORIENTATION, _GPS = 0x0112, 0x8825


@dataclass(frozen=True)
class Picture:
    """A photo as it is kept, and a small one for lists: both JPEG."""

    whole: bytes
    small: bytes


def read_picture(data: bytes, *, keep_place: bool = False) -> Picture:
    """A photo, ready to be kept.

    Parameters
    ----------
    data : bytes
        JPEG, PNG or WebP, up to :data:`MOST_BYTES`.
    keep_place : bool
        Whether the position that the phone wrote into it stays; all else it wrote goes.

    Raises
    ------
    BadFile
        If it is none of these, damaged, or too large.
    """
    from PIL import Image, ImageOps, UnidentifiedImageError

    if len(data) > MOST_BYTES:
        raise BadFile(later("That photo is over {most} MB; take a smaller one.", most=MOST_BYTES // 1_000_000))
    try:
        with Image.open(BytesIO(data), formats=("JPEG", "PNG", "WEBP")) as opened:
            if opened.width * opened.height > MOST_PIXELS:
                raise BadFile(later("That photo has too many pixels; take a smaller one."))
            place = dict(opened.getexif().get_ifd(_GPS)) if keep_place else {}
            upright = ImageOps.exif_transpose(opened).convert("RGB")
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        raise BadFile(later("That is no photo that can be read (JPEG, PNG or WebP), or it is damaged.")) from error
    return Picture(_jpeg(upright, LONG_SIDE, place), _jpeg(upright, SMALL_SIDE, {}))


def _jpeg(image: object, side: int, place: dict[int, object]) -> bytes:
    from PIL import Image

    assert isinstance(image, Image.Image)
    smaller = image.copy()
    smaller.thumbnail((side, side))
    exif = Image.Exif()
    if place:
        exif.get_ifd(_GPS).update(place)
        exif[_GPS] = exif.get_ifd(_GPS)
    out = BytesIO()
    smaller.save(out, "JPEG", quality=82, exif=exif if place else b"")
    return out.getvalue()
