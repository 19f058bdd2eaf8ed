"""Sentences of core.sky."""

from squall.words.message import N_

SENTENCES: dict[str, str | tuple[str, str]] = {
    "area-panels": N_("area of the panels"),
    "above-coldest": N_("more than {coldest:temperature}, the coldest month"),
    "azimuth": N_("azimuth"),
    "azimuth-horizon": N_("azimuth of the horizon"),
    "azimuth-shadows-edge": N_("azimuth of the shadow's edge"),
    "azimuth-shadows-other-edge": N_("azimuth of the shadow's other edge"),
    "bore": N_("0 to 5 % of the bore"),
    "clearness": N_("clearness"),
    "clock-offset": N_("clock offset"),
    "days-clearness": N_("days of clearness"),
    "dirt": N_("dirt"),
    "gust": N_("gust"),
    "height-horizon": N_("height of the horizon"),
    "hottest-month": N_("hottest month"),
    "latitude-of-light": N_("latitude (no light is known further towards the pole; bring a weather file)"),
    "light-factor": N_("how much brighter"),
    "longitude": N_("longitude"),
    "months-climate": N_("months of the climate"),
    "second-azimuth": N_("second azimuth"),
    "second-tilt": N_("second tilt"),
    "seed-weather": N_("seed of the weather"),
    "share-days": N_("share of the days"),
    "tilt": N_("tilt"),
    "tilt-other-half": N_("tilt of the other half"),
    "top-what-stands-near": N_("top of what stands near"),
    "turbidity": N_("turbidity"),
    "wet-days-month": N_("wet days of a month"),
    "years-made-weather": N_("years of made weather"),
    "file-light-of-month": N_("the file's light in {month:month}"),
    "most-through-air-here": N_(
        "at most {most:daylight}, as much as a clear month lets through here; such a file is of another place, or of the other half of the world"
    ),
}
