"""What the runner of the tests makes of one that failed beside others and is run again by itself."""

import unittest
from concurrent.futures import Future
from concurrent.futures import ProcessPoolExecutor as Pool
from typing import Any

from tests.shards import Failed, Ran, held_up
from tests.support import cases


class Alone(Pool):
    """Stands in for processes: a test whose name holds a word passes, fails or is skipped."""

    def __init__(self) -> None:
        pass

    def submit(self, do: Any, asked: Any) -> Any:
        test, _ = asked
        done: Future = Future()
        faults = [Failed(test, "FAIL", "")] if "broken" in test else []
        done.set_result(Ran(test, 0 if "gone" in test else 1, int("skipped" in test), faults, {}))
        return done


class HeldUpTest(unittest.TestCase):
    @cases(
        ("it passes by itself", ["tests.ui.a.slow"], {"tests.ui.a.slow"}),
        ("two rows of one table", ["tests.devices.a.slow"] * 2, {"tests.devices.a.slow"}),
        ("it fails again", ["tests.ui.a.broken"], set()),
        ("it is skipped, so nothing is known", ["tests.session.a.skipped"], set()),
        ("it is not found", ["tests.session.a.gone"], set()),
        ("it goes by no clock", ["tests.core.a.slow"], set()),
        ("too many for a busy machine", [f"tests.ui.a.slow{n}" for n in range(9)], set()),
        ("passed, but should not", [""], set()),
    )
    def test_what_counts(self, why: str, failed: list[str], held: set[str]) -> None:
        self.assertEqual(held_up(Alone(), [Failed(test, "FAIL", "") for test in failed]), held)
