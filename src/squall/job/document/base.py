"""What every part of the job document is made of."""

import re
from typing import Annotated

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, StringConstraints

from squall.words.units import in_own_units

# What no drawing, paper, calendar or file name can carry: control characters, marks that turn the way of reading, halves of characters.
_UNSEEN = re.compile("[\x00-\x08\x0b-\x1f\x7f-\x9f\u2028-\u202e\u2066-\u2069\ud800-\udfff\ufffe\uffff]")


def tidy(text: str) -> str:
    """A text without what can't be seen."""
    return _UNSEEN.sub("", text) if _UNSEEN.search(text) else text


Tidy = AfterValidator(tidy)
Name = Annotated[str, Tidy, StringConstraints(strip_whitespace=True, max_length=120)]
Identifier = Annotated[str, StringConstraints(pattern=r"^[a-z0-9-]{1,40}$")]
PartId = Annotated[str, StringConstraints(max_length=40)]
Count = Annotated[int, Field(ge=0, le=1000)]
Day = Annotated[str, StringConstraints(pattern=r"^(\d{4}-\d\d-\d\d)?$")]


class Doc(BaseModel):
    """Base: unknown fields are refused, and documents are never changed in place."""

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)


class Typed(Doc):
    """A quantity as it was typed and in SI."""

    typed: Annotated[str, Tidy, StringConstraints(max_length=60)]
    si: float


def own(typed: Typed, kind: str) -> str:
    """A typed quantity as its reader would have typed it; see :func:`squall.words.units.in_own_units`."""
    return in_own_units(typed.typed, typed.si, kind)


def quantity(typed: str, si: float) -> Typed:
    """A typed quantity."""
    return Typed(typed=typed, si=si)
