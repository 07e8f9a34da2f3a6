"""Runs the tests in several processes: python -m tests [WORDS THAT A TEST'S NAME HOLDS …].

A module of tests is run by one process, the longest of the last run first; what they say is put together. Where a
test of devices or windows, which go by clocks, fails beside others, it is run once more by itself: a machine that was
held up is told from a fault, and either is said.
"""

import gc
import io
import json
import multiprocessing
import os
import time
import unittest
from concurrent.futures import ProcessPoolExecutor, as_completed
from pathlib import Path
from typing import NamedTuple

HERE = Path(__file__).parent
TIMES = HERE.parent / ".venv/test-times.json"
"""How long each module took the last time, in seconds."""
SLOWEST = 8
CLOCKED = ("tests.ui.", "tests.devices.", "tests.session.", "tests.test_cli")
"""Where what is tested goes by a clock, or by another program's: nothing in `tests.core` does."""
AGAIN = 8
"""With more that failed, the fault is ours."""
SHARED = ["tests.ui.window", "tests.takes", "hypothesis", "music21", "scipy.signal", "av", "mir_eval"]


class Failed(NamedTuple):
    """A test that failed: the name it is run by ("" where it is none), what it is called, and what it said."""

    test: str
    title: str
    said: str


class Ran(NamedTuple):
    """What came of a module: its tests, those skipped, what the failed ones said, and the seconds of each test."""

    module: str
    tests: int
    skipped: int
    faults: list["Failed"]
    seconds: dict[str, float]


class _Result(unittest.TestResult):
    def __init__(self) -> None:
        super().__init__(io.StringIO(), False, 0)
        self.seconds: dict[str, float] = {}

    def startTest(self, test: unittest.TestCase) -> None:
        super().startTest(test)
        self._begun = time.monotonic()

    def stopTest(self, test: unittest.TestCase) -> None:
        super().stopTest(test)
        self.seconds[test.id()] = time.monotonic() - self._begun


def run(asked: tuple[str, list[str]]) -> Ran:
    """Run those tests of a module, class or test whose names hold one of the words; all where there are none."""
    name, words = asked
    # Much is made and soon let go of: looked through seldom, it takes less time.
    gc.set_threshold(50_000, 50, 50)
    loader = unittest.TestLoader()
    loader.testNamePatterns = [f"*{w}*" for w in words] or None
    suite = loader.loadTestsFromName(name)
    result = _Result()
    suite.run(result)
    faults = [Failed(_name(test), f"{kind}: {test.id()}{_row(test)}", said) for kind, found in (
              ("FAIL", result.failures), ("ERROR", result.errors)) for test, said in found]  # fmt: skip
    faults += [Failed("", f"PASSED, BUT SHOULD NOT: {test.id()}", "") for test in result.unexpectedSuccesses]
    return Ran(name, result.testsRun, len(result.skipped), faults, result.seconds)


def _name(test: unittest.TestCase) -> str:
    """What a test is run by: the whole table where it is a row of one, the class where that was not set up."""
    return getattr(test, "test_case", test).id().rpartition("(")[2].rstrip(")")


def _row(test: object) -> str:
    """The row of a table that a subtest stands for."""
    return "" if isinstance(test, unittest.TestCase) else f" {getattr(test, '_message', '')}"


def modules() -> list[str]:
    """All modules of tests, those that took longest first; where none ever ran, the longest to read."""
    try:
        took = json.loads(TIMES.read_text())
    except (OSError, ValueError):
        took = {}
    long = {".".join(p.relative_to(HERE.parent).with_suffix("").parts): p.stat().st_size / 2_000
            for p in HERE.rglob("test_*.py")}  # fmt: skip
    return sorted(long, key=lambda m: (-took.get(m, long[m]), m))


def held_up(pool: ProcessPoolExecutor, failed: list[Failed]) -> set[str]:
    """Those of the few tests with clocks that failed which pass by themselves."""
    again = sorted({one.test for one in failed if one.test.startswith(CLOCKED)})
    if len(again) > AGAIN:
        return set()
    # One after another: nothing else runs beside them.
    rans = [(test, pool.submit(run, (test, [])).result()) for test in again]
    return {test for test, ran in rans if ran.tests and not ran.faults and not ran.skipped}


def main(words: list[str]) -> int:
    """Run the tests; gives the exit status."""
    begun = time.monotonic()
    rans: list[Ran] = []
    # Many tests of the window wait for its clocks: more processes than there are cores.
    many = 2 * (os.cpu_count() or 1)
    # So many processes need no threads of their own for matrices.
    os.environ["OPENBLAS_NUM_THREADS"] = "1"
    # What many tests need is imported once for all of them.
    context = multiprocessing.get_context("forkserver")
    context.set_forkserver_preload(SHARED)
    with ProcessPoolExecutor(many, mp_context=context) as pool:
        for done in as_completed([pool.submit(run, (m, words)) for m in modules()]):
            ran = done.result()
            rans.append(ran)
            for _, title, said in ran.faults:
                print(f"\n{'=' * 70}\n{title}\n{'-' * 70}\n{said}", flush=True)
            if ran.tests:
                print(f"{ran.module}: {ran.tests}, {sum(ran.seconds.values()):.1f} s", flush=True)
        failed = [one for ran in rans for one in ran.faults]
        late = held_up(pool, failed)
    tests, skipped = sum(r.tests for r in rans), sum(r.skipped for r in rans)
    faults = sum(one.test not in late for one in failed)
    if not words:
        TIMES.parent.mkdir(exist_ok=True)
        TIMES.write_text(json.dumps({r.module: round(sum(r.seconds.values()), 2) for r in rans}))
    slowest = sorted(((s, t) for r in rans for t, s in r.seconds.items()), reverse=True)[:SLOWEST]
    print("\nThe slowest:", *(f"{s:5.1f} s  {t}" for s, t in slowest), sep="\n  ")
    print(f"\nRan {tests} tests in {time.monotonic() - begun:.1f}s\n")
    for test in sorted(late):
        print(f"Failed beside others, passed by itself: {test}")
    print(f"FAILED (faults={faults}, skipped={skipped})" if faults or not tests else f"OK (skipped={skipped})")
    return 1 if faults or not tests else 0
