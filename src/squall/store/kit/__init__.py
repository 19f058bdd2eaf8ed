"""What is kept of a kit beside its job: its first day, its upkeep, its fitting, its faults; and all of it handed over."""
