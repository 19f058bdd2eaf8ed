"""How a job begins: three questions, or a kind of job that is often done; and one more of a job that there is.

The kinds are made up: they lay the run, the water and the need out as such a job has them, and leave every figure that a kit hangs
on to whoever asks: the place, the lift, the litres, what a tank holds, the pressure that drippers want.
"""

from collections.abc import Mapping
from typing import Any

from squall.catalogue import Catalogue
from squall.core.errors import NotFound
from squall.core.reason import Spoken
from squall.job.document.fields import edit
from squall.job.document.job import Job, new_job, quantity
from squall.job.document.need import COUNTS_OF_USE, UseKind, new_use
from squall.job.document.unsaid import with_said
from squall.words import later, say
from squall.words.message import System

KINDS: Mapping[str, Spoken] = {
    "": later("an empty one"),
    "bilge-in-pond": later("a bilge pump in a pond"),
    "well-with-tank": later("a well with a tank"),
    "drip-from-barrels": later("drip from barrels"),
    "portable": later("a portable set"),
    "channel": later("water kept moving in a channel"),
}
# What the three questions are about, in the order in which they are asked.
QUESTIONS = ("water", "lift", "litres")


def begun(name: str, kind: str, answers: Mapping[str, str], parts: Catalogue, system: System) -> Job:
    """A new job of a kind, with the answers that were given.

    Parameters
    ----------
    name : str
        Its name.
    kind : str
        Key of :data:`KINDS`.
    answers : mapping
        Text by question; an empty one is left as the kind has it.
    parts : Catalogue
        For choices.
    system : str
        ``metric`` or ``us``: in whose units a bare number is read.

    Raises
    ------
    NotFound
        For a kind that is none.
    BadQuantity, OutOfRange
        For an answer that can't be read.
    """
    if kind not in KINDS:
        raise NotFound(later("There is no kind of job called {kind:quoted}.", kind=kind[:40]))
    job = new_job(name, system).model_copy(update=_OF_KIND[kind]())
    if kind:
        job = with_said(job, "water")
    for question in QUESTIONS:
        if answers.get(question, "").strip():
            job = edit(job, question, answers[question], parts, system)
    return job


def _piece(length_m: float, hose: str, fittings: dict[str, int]) -> Any:
    first = new_job("x").run[0]
    return first.model_copy(
        update={"length": quantity(f"{length_m:g} m", length_m), "hose": hose, "fittings": fittings}
    )


def _bilge() -> dict[str, Any]:
    return {
        "water": "pond",
        "pump_depth": quantity("0.6 m", 0.6),
        "run": [_piece(15.0, "hose-19", {"adapter": 1, "exit": 1})],
    }


def _well() -> dict[str, Any]:
    return {
        "water": "well", "outlet": "tank-above", "pump_depth": quantity("2 m", 2.0),
        "unsaid": [*new_job("x").unsaid, "want.trough"],
    }  # fmt: skip


def _unsaid_with(kind: UseKind, *more: str) -> list[str]:
    """What a new job waits for, with the figures of its first use."""
    return [*new_job("x").unsaid, *more, *(f"uses.u1.{name}" for name in COUNTS_OF_USE[kind])]


def _drip() -> dict[str, Any]:
    plain = new_job("x")
    return {
        "water": "cistern", "outlet": "open", "need_by": "herd",
        "uses": [new_use("u1", say("drip line"), "drip")], "unsaid": _unsaid_with("drip", "end_pressure"),
        "want": plain.want.model_copy(update={"use": "hours"}),
    }  # fmt: skip


def _portable() -> dict[str, Any]:
    plain = new_job("x")
    return {
        "water": "stream", "outdoors": plain.outdoors.model_copy(update={"stand": "folding"}),
        "array_cable": quantity("1 m", 1.0), "run": [_piece(30.0, "layflat-25", {"adapter": 1, "exit": 1})],
    }  # fmt: skip


def _channel() -> dict[str, Any]:
    return {
        "water": "cistern", "outlet": "loop", "need_by": "herd",
        "uses": [new_use("u1", say("channel"), "channel")], "unsaid": _unsaid_with("channel"),
    }  # fmt: skip


_OF_KIND = {
    "": dict, "bilge-in-pond": _bilge, "well-with-tank": _well, "drip-from-barrels": _drip, "portable": _portable, "channel": _channel,
}  # fmt: skip


def one_more(job: Job) -> Job:
    """A job of the same content under another name; what was logged of the first stays with it."""
    return job.model_copy(update={"name": say("{name}, copy", name=job.name)[:120], "visits": []})
