"""The shipped parts and places: data files with units in their headings, read into the core's parts."""

from squall.catalogue.reader import Catalogue, catalogue

__all__ = ["Catalogue", "catalogue"]
