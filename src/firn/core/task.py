"""Progress and cancelling of long work, without threads or windows."""

from collections.abc import Callable, Iterable, Iterator
from itertools import islice
from typing import TypeVar

from firn.errors import Cancelled

T = TypeVar("T")
AT_ONCE = 32
"""So many of what takes some 30 µs each are done before the way is given again: to ask takes a µs."""


class _Way:
    wait: Callable[[], None] = staticmethod(lambda: None)


def give_way() -> None:
    """Called in the inner loops of long work, every few ms: who is in more of a hurry goes first. Raises Cancelled
    where the work is no longer wanted."""
    _Way.wait()


def giving_way(items: Iterable[T]) -> Iterator[T]:
    """The same items, of which each is soon done: the way is given every so many."""
    rest = iter(items)
    while some := tuple(islice(rest, AT_ONCE)):
        give_way()
        yield from some


def give_way_by(wait: Callable[[], None]) -> None:
    """Have long work call `wait`, which returns when nobody is in a hurry."""
    _Way.wait = staticmethod(wait)


class Task:
    """Handed to long work, which calls `step` now and then.

    `report` hears the share done, 0 to 1; `cancelled` is asked at every step.
    """

    def __init__(
        self,
        report: Callable[[float], None] = lambda done: None,
        cancelled: Callable[[], bool] = lambda: False,
    ) -> None:
        self._report, self._cancelled = report, cancelled

    def step(self, done: float) -> None:
        """Report the share done; raises Cancelled if the user has stopped the work."""
        give_way()
        if self._cancelled():
            raise Cancelled()
        self._report(min(1.0, max(0.0, done)))

    def within(self, start: float, end: float) -> "Task":
        """A task that is this one's from one share to another."""
        return _Within(self, start, end)


class _Within(Task):
    def __init__(self, whole: Task, start: float, end: float) -> None:
        super().__init__()
        self._whole, self._start, self._end = whole, start, end

    def step(self, done: float) -> None:
        self._whole.step(self._start + (self._end - self._start) * min(1.0, max(0.0, done)))


UNWATCHED = Task()
