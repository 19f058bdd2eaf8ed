"""What changed between two states of a document, as plain data, and how to go either way along it.

A change is ``[path, before, after]``: the path as a list of keys and list indices, and the values there; a value that is
not there is ``{"absent": true}``. Lists of unlike length are replaced whole.
"""

from collections.abc import Sequence
from copy import deepcopy
from typing import Any

Change = list[Any]
ABSENT = {"absent": True}


def changes_between(before: Any, after: Any, path: tuple[str | int, ...] = ()) -> list[Change]:
    """What turns one document into another.

    Parameters
    ----------
    before, after : plain data
        As JSON holds it.
    path : tuple
        Where both stand in the whole.

    Returns
    -------
    list of Change
        Empty where they are the same.

    Examples
    --------
    >>> changes_between({"lift": 6.0, "name": "a"}, {"lift": 7.0, "name": "a"})
    [[['lift'], 6.0, 7.0]]
    """
    if before == after:
        return []
    if before is ABSENT or after is ABSENT:
        return [[list(path), before, after]]
    if isinstance(before, dict) and isinstance(after, dict):
        keys = [*before, *(key for key in after if key not in before)]
        return [
            c for key in keys for c in changes_between(before.get(key, ABSENT), after.get(key, ABSENT), (*path, key))
        ]
    if isinstance(before, list) and isinstance(after, list) and len(before) == len(after):
        return [c for n, pair in enumerate(zip(before, after, strict=True)) for c in changes_between(*pair, (*path, n))]
    return [[list(path), before, after]]


def forward(document: Any, changes: Sequence[Change]) -> Any:
    """The document after some changes; it is left as it was itself."""
    return _put(document, [(path, after) for path, _, after in changes])


def backward(document: Any, changes: Sequence[Change]) -> Any:
    """The document before some changes."""
    return _put(document, [(path, before) for path, before, _ in changes])


def _put(document: Any, places: Sequence[tuple[list[str | int], Any]]) -> Any:
    whole = deepcopy(document)
    for path, value in places:
        if not path:
            whole = deepcopy(value)
            continue
        place = whole
        for key in path[:-1]:
            place = place[key]
        if value == ABSENT:
            place.pop(path[-1])
        else:
            place[path[-1]] = deepcopy(value)
    return whole
