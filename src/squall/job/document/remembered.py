"""What was last made of things that never change, found again by the thing itself rather than by all that is in it."""

import threading
from collections import OrderedDict
from collections.abc import Callable
from typing import Any, Generic, TypeVar

T = TypeVar("T")


class Remembered(Generic[T]):
    """Results by identity, the last so many; each keeps hold of what it was made of, so that no other can stand under its key.

    Parameters
    ----------
    most : int
        How many are kept. [-]
    """

    def __init__(self, most: int) -> None:
        self._most = most
        self._made: OrderedDict[tuple[Any, ...], tuple[object, T]] = OrderedDict()
        self._lock = threading.Lock()

    def get(self, of: object, also: tuple[Any, ...], make: Callable[[], T]) -> T:
        """What was made of a thing before, or is made of it now; `also` is what else the result hangs on."""
        key = (id(of), *also)
        with self._lock:
            known = self._made.get(key)
            if known is not None:
                self._made.move_to_end(key)
                return known[1]
        made = make()
        with self._lock:
            self._made[key] = (of, made)
            while len(self._made) > self._most:
                self._made.popitem(last=False)
        return made
