"""The fields of fitting and of the quote, and of what was fitted for now."""

from squall.job.document.field_spec import FieldSpec
from squall.words import later

FITTING: dict[str, FieldSpec] = {
    "fit.slack": FieldSpec(
        later("Slack over what is measured"),
        kind="length",
        low=0,
        high=5,
        hint=later("at the top of hose and cable, drip loop and all"),
    ),
    "fit.ties": FieldSpec(
        later("Hose, cable and rope are tied"),
        "choice",
        choices={
            "even": later("every {metres:length}", metres=1.8),
            "close": later("closer near the pump and at joints"),
        },
    ),
    "splice": FieldSpec(
        later("Cable joined at the pump"),
        "choice",
        choices={
            "sleeve": later("in an adhesive-lined sleeve"),
            "resin": later("in resin"),
            "silicone": later("twisted, in silicone"),
            "clips": later("with clips, for a trial"),
        },
    ),
    "fit.rope_end": FieldSpec(
        later("The rope's ends are"),
        "choice",
        choices={"knot": later("tied in a knot"), "clamps": later("round a thimble, with clamps")},
    ),
    "fit.rope_breaks": FieldSpec(
        later("The rope breaks at"),
        kind="mass",
        low=1,
        high=20_000,
        optional=True,
        hint=later("as its label says; empty: not known"),
    ),
    "fit.hose_roll": FieldSpec(later("Hose is sold in rolls of"), kind="length", low=1, high=1000, optional=True),
    "fit.cable_roll": FieldSpec(later("Cable is sold in rolls of"), kind="length", low=1, high=1000, optional=True),
    "fit.rope_roll": FieldSpec(later("Rope is sold in rolls of"), kind="length", low=1, high=1000, optional=True),
}
FOR_NOW: dict[str, FieldSpec] = {
    "what": FieldSpec(later("Fitted for now"), "words"),
    "until": FieldSpec(later("To be put right by"), "date"),
}
QUOTE: dict[str, FieldSpec] = {
    "quote.customer": FieldSpec(later("For whom"), "words", optional=True),
    "quote.labour": FieldSpec(
        later("Hours of work"),
        kind="hours",
        low=0,
        high=2000,
        optional=True,
        hint=later("empty: not said, and not counted"),
    ),
    "quote.rate": FieldSpec(later("An hour of work costs"), kind="number", low=0, high=1e9, optional=True),
    "quote.travel": FieldSpec(later("Travel, there and back"), kind="number", low=0, high=1e9, optional=True),
    "quote.margin": FieldSpec(later("Added to parts"), kind="share", low=0, high=5, optional=True),
    "quote.tax": FieldSpec(later("Tax on all of it"), kind="share", low=0, high=1, optional=True),
    "quote.valid_days": FieldSpec(later("The quote stands for, in days"), "count", low=0, high=365),
    "quote.visits": FieldSpec(later("Visits a year to keep it running"), "count", low=0, high=100),
    "quote.visit_price": FieldSpec(later("One such visit costs"), kind="number", low=0, high=1e9, optional=True),
    "quote.battery_years": FieldSpec(
        later("Years a battery lasts here"),
        kind="number",
        low=0.25,
        high=30,
        optional=True,
        hint=later("by its maker or your own; empty: not known, and not counted"),
    ),
    "quote.today_hours": FieldSpec(
        later("Hours a week that water takes today"),
        kind="hours",
        low=0,
        high=168,
        optional=True,
        hint=later("carrying, driving, waiting at a pump"),
    ),
    "quote.hour_worth": FieldSpec(
        later("An hour of that is worth"),
        kind="number",
        low=0,
        high=1e9,
        optional=True,
        hint=later("empty: hours are told, and no money made of them"),
    ),
    "quote.loads": FieldSpec(later("Tanker loads a month"), kind="number", low=0, high=1000, optional=True),
    "quote.load_price": FieldSpec(later("A load costs"), kind="number", low=0, high=1e9, optional=True),
    "quote.fuel": FieldSpec(
        later("Fuel a week"), kind="litres", low=0, high=100, optional=True, hint=later("of a petrol or diesel pump")
    ),
    "quote.fuel_price": FieldSpec(
        later("Fuel costs"),
        kind="poured",
        low=0,
        high=1e9,
        optional=True,
        hint=later("for one of what fuel is measured in above"),
    ),
}
