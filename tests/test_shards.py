"""What the runner of the tests makes of one that failed beside others and is run again by itself."""

import unittest
import unittest.mock
from concurrent.futures import Future
from concurrent.futures import ProcessPoolExecutor as Pool
from typing import Any

from tests.shards import Asked, Failed, Ran, chosen, held_up, long_ones
from tests.support import cases


class Alone(Pool):
    """Stands in for processes: a test whose name holds a word passes, fails or is skipped."""

    def __init__(self) -> None:
        pass

    def submit(self, do: Any, asked: Any) -> Any:
        test = asked.name
        done: Future = Future()
        faults = [Failed(test, "FAIL", "")] if "broken" in test else []
        done.set_result(Ran(test, 0 if "gone" in test else 1, int("skipped" in test), faults, {}, {}))
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


class LongTest(unittest.TestCase):
    def test_each_is_there(self) -> None:
        there = unittest.TestLoader().loadTestsFromNames(sorted({name.rpartition(".")[0] for name in long_ones()}))
        self.assertEqual(long_ones() - {test.id() for one in there for test in one}, set())

    @cases(("the others alone", False), ("they alone", True), ("both", None))
    def test_which_are_chosen(self, why: str, long: bool | None) -> None:
        here = "tests.test_shards.HeldUpTest.test_what_counts"
        other = "tests.test_shards.LongTest.test_each_is_there"
        suite = unittest.TestLoader().loadTestsFromNames([here, other])
        with unittest.mock.patch("tests.shards.long_ones", lambda: {here}):
            ids = [test.id() for test in chosen(suite, Asked("", (), long))]
        self.assertEqual(ids, {False: [other], True: [here], None: [here, other]}[long])
