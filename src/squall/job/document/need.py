"""What the job wants: animals, crops, drippers, taps, tanks, channels."""

from collections.abc import Mapping
from typing import Annotated, Literal

from pydantic import Field

from squall.job.document.base import Doc, Identifier, Name, PartId, Typed, quantity

UseKind = Literal["crop", "drip", "taps", "volume", "channel"]
Month = Annotated[int, Field(ge=1, le=12)]


class HerdRow(Doc):
    """Animals that each want the same.

    `each` is litres a head on a hot day, `cool` on a cool one (none: the same all year); `kind`
    names a row of the stock table, or is ``own``.
    """

    id: Identifier
    name: Name
    count: Typed
    each: Typed
    kind: PartId = "own"
    cool: Typed | None = None
    state: Literal["plain", "milk", "birthing"] = "plain"
    first: Month = 1
    last: Month = 12
    from_hour: Typed = quantity("6 h", 6.0)
    to_hour: Typed = quantity("18 h", 18.0)


class UseDoc(Doc):
    """One more use of water: of all its figures, `kind` says which count."""

    id: Identifier
    name: Name
    kind: UseKind
    first: Month = 1
    last: Month = 12
    from_hour: Typed = quantity("6 h", 6.0)
    to_hour: Typed = quantity("18 h", 18.0)
    pressure: Typed = quantity("0 m", 0.0)
    fall: Typed | None = None
    pipe_length: Typed | None = None
    pipe_bore: Typed | None = None
    crop: PartId = "onion"
    area: Typed = quantity("100 m²", 100.0)
    efficiency: Typed = quantity("85 %", 0.85)
    emitters: Typed = quantity("50", 50.0)
    rate: Typed = quantity("2 L/h", 2.0 / 3_600_000.0)
    hours: Typed = quantity("2 h", 2.0)
    row_length: Typed | None = None
    spacing: Typed | None = None
    times: Typed = quantity("20", 20.0)
    minutes: Typed = quantity("2 min", 120.0)
    flow: Typed = quantity("6 L/min", 6.0 / 60_000.0)
    running: Typed = quantity("30 %", 0.3)
    volume: Typed = quantity("200 L", 0.2)
    turnovers: Typed = quantity("1", 1.0)


# The figures of a use that its litres hang on, by its kind; a new row begins with none of them said.
COUNTS_OF_USE: Mapping[UseKind, tuple[str, ...]] = {
    "crop": ("area",), "drip": ("emitters", "rate", "hours"), "taps": ("times", "minutes", "flow"), "volume": ("volume",),
    "channel": ("volume", "hours"),
}  # fmt: skip


def new_use(row_id: str, name: str, kind: UseKind) -> UseDoc:
    """A use of which nothing is said yet: none of its figures counts."""
    none = {
        "area": "0 m²", "emitters": "0", "rate": "0 L/h", "hours": "0 h", "times": "0", "minutes": "0 min", "flow": "0 L/min",
        "volume": "0 L",
    }  # fmt: skip
    nothing = {field: quantity(typed, 0.0) for field, typed in none.items()}
    return UseDoc.model_validate({"id": row_id, "name": name, "kind": kind, **nothing})


class WantDoc(Doc):
    """How the need is met: headroom, reserve, the burst, and how evapotranspiration is reckoned."""

    headroom: Typed = quantity("1", 1.0)
    reserve: Typed = quantity("2", 2.0)
    burst: Typed = quantity("50 %", 0.5)
    trough: Typed = quantity("0 L", 0.0)
    allowed: Typed = quantity("3", 3.0)
    use: Literal["auto", "sun", "hours"] = "auto"
    fall: Typed | None = None
    mended_by: Literal["nobody", "hand"] = "nobody"
    et: Literal["penman-monteith", "hargreaves"] = "penman-monteith"
