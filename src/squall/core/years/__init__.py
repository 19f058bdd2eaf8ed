"""Months and years of a kit: typical days, whole years, tanks."""
