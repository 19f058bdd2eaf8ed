"""How a kit goes in, and what is asked for it: rope, rolls and ties; hours, margin and tax; what the water costs today."""

from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from squall.job.document.base import Doc, Identifier, Name, Tidy, Typed, quantity


class ForNowRow(Doc):
    """Something fitted for now only: what, and the day by which the right thing takes its place."""

    id: Identifier
    what: Name
    until: Annotated[str, StringConstraints(max_length=10)]


class FitDoc(Doc):
    """How the kit goes in: slack over what is measured, how rope and ties are made, in what lengths things are sold."""

    slack: Typed = quantity("0.5 m", 0.5)
    ties: Literal["even", "close"] = "even"
    rope_end: Literal["knot", "clamps"] = "knot"
    rope_breaks: Typed | None = None
    hose_roll: Typed | None = None
    cable_roll: Typed | None = None
    rope_roll: Typed | None = None
    for_now: list[ForNowRow] = Field(default_factory=list, max_length=40)


class QuoteDoc(Doc):
    """What a quote needs beyond the parts, and what the water costs today. Empty: nobody said, and nothing is counted."""

    customer: Annotated[str, Tidy, StringConstraints(max_length=120)] = ""
    labour: Typed | None = None
    rate: Typed | None = None
    travel: Typed | None = None
    margin: Typed | None = None
    tax: Typed | None = None
    valid_days: Annotated[int, Field(ge=0, le=365)] = 30
    visits: Annotated[int, Field(ge=0, le=100)] = 0
    visit_price: Typed | None = None
    battery_years: Typed | None = None
    today_hours: Typed | None = None
    hour_worth: Typed | None = None
    loads: Typed | None = None
    load_price: Typed | None = None
    fuel: Typed | None = None
    fuel_price: Typed | None = None
