"""Progress and cancelling of long work, without threads or windows."""

from collections.abc import Callable

from firn.errors import Cancelled


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
        if self._cancelled():
            raise Cancelled()
        self._report(min(1.0, max(0.0, done)))


UNWATCHED = Task()
