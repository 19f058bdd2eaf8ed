"""Long work: run in the background by parts, each with its share done; stopped by a click, and with the application.

One :class:`Background` serves the application, whatever the work. A task is named by a key that tells all it hangs on, so
that asking again for the same finds the same task, running or done; the last few are kept. Of one application in several
processes the background stands in a process of its own (:mod:`squall.web.frame.desk`): so what is to be done is given as
something that can be sent there.
"""

import ctypes
import logging
import os
import secrets
import sys
import threading
from collections.abc import Callable
from contextvars import copy_context
from dataclasses import dataclass, field
from typing import Any, TypeVar

from squall.core.errors import SquallError
from squall.core.reason import Spoken

T = TypeVar("T")
Told = Callable[[float], bool]
log = logging.getLogger("squall")


@dataclass
class Part:
    """One part of a task: how far it is, what it brought, what went wrong."""

    share: float = 0.0
    so_far: list[Any] = field(default_factory=list)
    result: Any = None
    problem: Spoken = ""
    done: threading.Event = field(default_factory=threading.Event)

    @property
    def failed(self) -> bool:
        """Whether it ended and brought nothing."""
        return self.done.is_set() and self.result is None


class Task:
    """Some long work in parts that run one after the other."""

    def __init__(self, key: str, parts: tuple[str, ...], mark: str = "") -> None:
        self.token = secrets.token_hex(8)
        self.key = key
        self.mark = mark
        self.parts = {name: Part() for name in parts}
        self.stopped = False

    def stop(self) -> None:
        """Ask it to stop; it does at the next word of its progress."""
        self.stopped = True

    @property
    def ended(self) -> bool:
        """Whether nothing of it runs or will run."""
        return all(part.done.is_set() for part in self.parts.values())

    def told(self, name: str, begin: float = 0.0, end: float = 1.0) -> Told:
        """The callback by which a part tells its share, or that of a span of it; it answers False to stop."""
        part = self.parts[name]

        def tell(share: float) -> bool:
            part.share = begin + (end - begin) * share
            return not self.stopped

        return tell

    def run(self, name: str, work: Callable[[], T]) -> T | None:
        """Do one part; what goes wrong is kept with it. None if it brought nothing."""
        part = self.parts[name]
        try:
            found = work()
            part.result = found
            return found
        except SquallError as error:
            part.problem = error.said
            log.info("%s: %s", name, error)
            return None
        finally:
            part.done.set()

    def finish(self) -> None:
        """Mark all that never ran as done."""
        for part in self.parts.values():
            part.done.set()


def give_back() -> None:
    """Give back to the system what long work took and let go again, where the C library would keep it for later (glibc)."""
    if sys.platform == "linux":
        library = ctypes.CDLL(None)
        if hasattr(library, "malloc_trim"):
            library.malloc_trim(0)


class Background:
    """All the long work of one application."""

    def __init__(self, keep: int = 6, at_once: int | None = None) -> None:
        self._lock = threading.Lock()
        # So many work at once as there are cores; the others wait their turn.
        self._at_once = threading.BoundedSemaphore(at_once or max(os.cpu_count() or 1, 2))
        self._tasks: dict[str, dict[str, Task]] = {}
        self._keep = keep

    def task(self, kind: str, key: str) -> Task | None:
        """A task of a kind by its key, if it is kept."""
        with self._lock:
            return self._tasks.get(kind, {}).get(key)

    def begin(
        self, kind: str, key: str, parts: tuple[str, ...], work: Callable[[Task], None],
        again: Callable[[Task], bool] = lambda task: False, mark: str = "",
    ) -> Task:  # fmt: skip
        """Begin a task, or find the one that does the same.

        Parameters
        ----------
        kind, key : str
            What it is, and all it hangs on.
        parts : tuple[str, ...]
            Names of its parts, in their order.
        work : callable
            Does them, by :meth:`Task.run`.
        again : callable, optional
            Whether a known task is to be begun anew.
        mark : str
            What else tells one run from the next under the same key.
        """
        with self._lock:
            tasks = self._tasks.setdefault(kind, {})
            known = tasks.get(key)
            if known is not None and not again(known):
                return known
            task = Task(key, parts, mark)
            tasks.pop(key, None)
            while len(tasks) >= self._keep:
                tasks.pop(next(iter(tasks))).stop()
            tasks[key] = task

        def run() -> None:
            try:
                with self._at_once:
                    if not task.stopped:
                        work(task)
            finally:
                task.finish()
                give_back()

        # Units, language and parts of whoever began it.
        threading.Thread(target=copy_context().run, args=(run,), daemon=True, name=kind).start()
        return task

    def settle(self) -> None:
        """Wait until nothing runs any more."""
        with self._lock:
            parts = [part for tasks in self._tasks.values() for task in tasks.values() for part in task.parts.values()]
        for part in parts:
            part.done.wait()

    def stop_all(self) -> None:
        """Stop everything, as the application ends."""
        with self._lock:
            for tasks in self._tasks.values():
                for task in tasks.values():
                    task.stop()
