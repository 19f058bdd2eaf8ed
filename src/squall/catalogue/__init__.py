"""The parts that a job may use: the shipped (invented) catalogue, and a person's own shelf beside it."""

from squall.catalogue.held import catalogue
from squall.catalogue.reader import Catalogue

__all__ = ["Catalogue", "catalogue"]
