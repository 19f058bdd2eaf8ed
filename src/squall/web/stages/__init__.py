"""One module a stage: its panel and its own requests."""
