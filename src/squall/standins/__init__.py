"""Kits that aren't there: a yard with a hidden fault, read through the kit's circuit, on which Fault is tried and measured."""
