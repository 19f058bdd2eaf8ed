"""Survey: the water, the run, the lift, the sky."""

from typing import Any

from fastapi import Request

from squall.catalogue import catalogue
from squall.job.resolve import piece_k
from squall.store.jobs import Stored
from squall.web.pages import Prefs


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """Pieces of the run with their sum of K."""
    return {"piece_ks": {piece.id: piece_k(piece, catalogue()) for piece in stored.job.run}}
