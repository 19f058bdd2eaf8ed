"""The desk: long work in a process of its own, for an application that is served by several.

Whoever serves a page asks the desk, whichever of them began the work: so progress, results and a stop are the same for all,
and none of it takes from the processes that answer. What goes between them is pickled over a socket of this machine, and
each end proves to the other that it knows the key of this run before a byte of it is read.
"""

import contextlib
import os
import threading
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass
from multiprocessing import current_process, get_context, parent_process
from multiprocessing.connection import wait
from multiprocessing.managers import BaseManager
from typing import Any

from squall.core.errors import Busy
from squall.core.reason import Spoken
from squall.web.frame.background import Background, Part, Task
from squall.words import later

AWAY = later("What works in the background is away just now. Nothing is lost: try again in a moment.")
# Tasks of a kind that the desk keeps, and results that each process remembers of it. [-]
KEPT, REMEMBERED = 24, 12
# How long a wait at the desk may take at once. [s]
LONGEST_S = 60.0


@dataclass(frozen=True)
class Seen:
    """How one part of a task stood when it was asked for."""

    share: float
    so_far: list[Any]
    problem: Spoken
    ended: bool
    brought: bool


@dataclass(frozen=True)
class TaskSeen:
    """How a task stood; `token` tells one run from every other."""

    token: str
    mark: str
    stopped: bool
    parts: dict[str, Seen]


def _seen(task: Task | None) -> TaskSeen | None:
    if task is None:
        return None
    parts = {
        name: Seen(part.share, list(part.so_far), part.problem, part.done.is_set(), part.result is not None)
        for name, part in task.parts.items()
    }
    return TaskSeen(task.token, task.mark, task.stopped, parts)


class _Desk:
    """What stands in the desk's process, and is called from the others."""

    def __init__(self) -> None:
        self._background = Background(KEPT)

    def begin(
        self, kind: str, key: str, parts: tuple[str, ...], work: Callable[[Task], None], again: Callable[[Task], bool],
        mark: str,
    ) -> TaskSeen | None:  # fmt: skip
        return _seen(self._background.begin(kind, key, parts, work, again, mark))

    def seen(self, kind: str, key: str) -> TaskSeen | None:
        return _seen(self._background.task(kind, key))

    def wait(self, kind: str, key: str, part: str, seconds: float) -> TaskSeen | None:
        task = self._background.task(kind, key)
        if task is not None:
            task.parts[part].done.wait(min(seconds, LONGEST_S))
        return _seen(task)

    def result(self, kind: str, key: str, part: str, token: str) -> Any:
        task = self._background.task(kind, key)
        return task.parts[part].result if task is not None and task.token == token else None

    def stop(self, kind: str, key: str, token: str) -> None:
        task = self._background.task(kind, key)
        if task is not None and task.token == token:
            task.stop()

    def settle(self) -> None:
        self._background.settle()

    def stop_all(self) -> None:
        self._background.stop_all()


_DESK: list[_Desk] = []


def _the_desk() -> _Desk:
    if not _DESK:
        _DESK.append(_Desk())
    return _DESK[0]


class DeskManager(BaseManager):
    """Carries calls to the desk's process."""


DeskManager.register(
    "desk", callable=_the_desk, exposed=("begin", "seen", "wait", "result", "stop", "settle", "stop_all")
)


def end_with_parent() -> None:
    """Let this process end when the one that began it is gone, however it went."""
    parent = parent_process()
    if parent is None:
        return

    def watch() -> None:
        wait([parent.sentinel])
        os._exit(0)

    threading.Thread(target=watch, daemon=True, name="parent").start()


def open_desk() -> DeskManager:
    """Begin the desk's process; it ends by ``shutdown``, or with the process that began it."""
    manager = DeskManager(authkey=bytes(current_process().authkey), ctx=get_context("spawn"))
    manager.start(initializer=end_with_parent)
    return manager


class _End:
    """Waits at the desk for the end of a part, as an event is waited for."""

    def __init__(self, task: "DeskTask", name: str) -> None:
        self._task, self._name = task, name

    def wait(self, seconds: float | None = None) -> bool:
        """Whether it ended within so many seconds."""
        self._task.look(self._name, LONGEST_S if seconds is None else seconds)
        return self.is_set()

    def is_set(self) -> bool:
        """Whether it had ended when the desk was last asked."""
        return self._task.seen.parts[self._name].ended


class DeskPart(Part):
    """One part of a task at the desk, as it was last seen."""

    def __init__(self, task: "DeskTask", name: str) -> None:
        self._task, self._name = task, name
        self.done = _End(task, name)  # type: ignore[assignment]

    @property
    def share(self) -> float:  # type: ignore[override]
        """How far it was."""
        return self._task.seen.parts[self._name].share

    @property
    def so_far(self) -> list[Any]:  # type: ignore[override]
        """What it had brought along the way."""
        return self._task.seen.parts[self._name].so_far

    @property
    def problem(self) -> Spoken:  # type: ignore[override]
        """What went wrong."""
        return self._task.seen.parts[self._name].problem

    @property
    def result(self) -> Any:  # type: ignore[override]
        """What it brought; fetched once."""
        return self._task.result_of(self._name) if self._task.seen.parts[self._name].brought else None


class DeskTask(Task):
    """A task at the desk, as it was last seen; it is looked at anew by whoever waits for it."""

    def __init__(self, there: "DeskBackground", kind: str, key: str, seen: TaskSeen) -> None:
        self._there, self._kind, self.key, self.seen = there, kind, key, seen
        self.token, self.mark = seen.token, seen.mark
        self.parts = {name: DeskPart(self, name) for name in seen.parts}

    @property
    def stopped(self) -> bool:  # type: ignore[override]
        """Whether it had been asked to stop."""
        return self.seen.stopped

    def stop(self) -> None:
        """Ask it to stop."""
        self._there.ask("stop", self._kind, self.key, self.token)

    def look(self, part: str, seconds: float) -> None:
        """Wait for a part, and see how all of it stands; what was pushed out meanwhile stays as it was seen."""
        seen: TaskSeen | None = self._there.ask("wait", self._kind, self.key, part, seconds)
        if seen is not None and seen.token == self.token:
            self.seen = seen

    def result_of(self, part: str) -> Any:
        """What a part brought; None where the desk has let it go."""
        return self._there.result_of(self._kind, self.key, part, self.token)


class DeskBackground(Background):
    """The background of one process among several: all of it is asked of the desk."""

    def __init__(self, address: Any) -> None:
        super().__init__()
        manager = DeskManager(address, bytes(current_process().authkey))
        try:
            manager.connect()
            self._desk = manager.desk()  # type: ignore[attr-defined]
        except OSError as error:
            raise Busy(AWAY) from error
        self._remembered: OrderedDict[tuple[str, str], Any] = OrderedDict()

    def ask(self, what: str, *given: Any) -> Any:
        """One call to the desk.

        Raises
        ------
        Busy
            If its process is gone.
        """
        try:
            return self._desk._callmethod(what, given)
        except (OSError, EOFError) as error:
            raise Busy(AWAY) from error

    def result_of(self, kind: str, key: str, part: str, token: str) -> Any:
        """What a part brought, remembered for a while."""
        with self._lock:
            if (token, part) in self._remembered:
                return self._remembered[token, part]
        found = self.ask("result", kind, key, part, token)
        with self._lock:
            self._remembered[token, part] = found
            while len(self._remembered) > REMEMBERED:
                self._remembered.popitem(last=False)
        return found

    def task(self, kind: str, key: str) -> Task | None:
        """A task of a kind by its key, if the desk keeps it."""
        seen = self.ask("seen", kind, key)
        return None if seen is None else DeskTask(self, kind, key, seen)

    def begin(
        self, kind: str, key: str, parts: tuple[str, ...], work: Callable[[Task], None],
        again: Callable[[Task], bool] = lambda task: False, mark: str = "",
    ) -> Task:  # fmt: skip
        """As :meth:`Background.begin`; `work` and `again` are functions of a module, or partial ones."""
        return DeskTask(self, kind, key, self.ask("begin", kind, key, parts, work, again, mark))

    def settle(self) -> None:
        """Wait until nothing runs any more."""
        self.ask("settle")

    def stop_all(self) -> None:
        """Nothing: one process that ends doesn't end what others wait for."""
        with contextlib.suppress(AttributeError):
            self._remembered.clear()
