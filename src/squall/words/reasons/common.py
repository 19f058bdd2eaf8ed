"""Sentences that several parts of the core share."""

from squall.words.message import N_

SENTENCES: dict[str, str | tuple[str, str]] = {
    "air-temperature": N_("air temperature"),
    "altitude": N_("altitude"),
    "area": N_("area"),
    "cable-length": N_("cable length"),
    "greatest-air-temperature": N_("greatest air temperature"),
    "latitude": N_("latitude"),
    "no-place-yet": N_(
        "It isn't known yet where this job is, and so not what light it has: say where, on the page The place."
    ),
    "least-air-temperature": N_("least air temperature"),
    "method": N_("method"),
    "more-than-nothing": N_("more than 0"),
    "most": N_("at most {t_max:temperature}"),
    "no-working-point-found-these-figures": N_(
        "No working point was found for these figures; one of them must be far off."
    ),
    "one-of": N_("one of {names}"),
    "out-of-range": N_("{field} is {given}; allowed is {allowed}."),
    "rain-month": N_("rain of a month"),
    "someone-else-changed-it": N_("Someone else changed this meanwhile: it now says “{theirs}”, you typed “{mine}”."),
    "batteries-in-series": N_("batteries in series"),
    "controller": N_("controller"),
    "battery": N_("battery"),
    "none-at-all": N_("none"),
    "one-for-this-source": N_("one, for this source"),
}
