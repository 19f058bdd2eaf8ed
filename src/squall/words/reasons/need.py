"""Sentences of core.need."""

from squall.words.message import N_

SENTENCES: dict[str, str | tuple[str, str]] = {
    "count-of": N_("count of {name}"),
    "day-year": N_("day of the year"),
    "efficiency": N_("efficiency"),
    "greatest-humidity": N_("greatest humidity"),
    "hours-sunshine": N_("hours of sunshine"),
    "in-milk": N_("in milk"),
    "least-humidity": N_("least humidity"),
    "litres-day": N_("water a day"),
    "litres-each-of": N_("what each of {name} drinks"),
    "months-need": N_("months of the need"),
    "near-birth": N_("near birth"),
    "neither-milk-nor-birth": N_("neither in milk nor near birth"),
    "share-drunk-first-hour": N_("share drunk in the first hour"),
    "share-time-water-runs": N_("share of the time that water runs"),
    "solar-radiation": N_("solar radiation"),
    "the-herd": N_("the herd"),
    "vapour-pressure": N_("vapour pressure"),
    "wind": N_("wind"),
}
