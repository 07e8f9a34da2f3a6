"""Runs the tests in several processes: python -m tests [--long | --all | --measure | WORDS OF A TEST'S NAME …].

Without words or a flag the long ones, which long.txt names, are left out: sweeps over everything that could be said,
and whole evenings in a window, three quarters of the processor's time for an eighth of the tests. --measure runs all,
and writes long.txt anew.

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
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor, as_completed
from pathlib import Path
from typing import NamedTuple

HERE = Path(__file__).parent
TIMES = HERE.parent / ".venv/test-times.json"
"""How long each test took the last time, in seconds."""
SLOWEST = 8
CLOCKED = ("tests.ui.", "tests.devices.", "tests.session.", "tests.test_cli")
"""Where what is tested goes by a clock, or by another program's: nothing in `tests.core` does."""
AGAIN = 8
"""With more that failed, the fault is ours."""
LONG = HERE / "long.txt"
"""The tests that took more than `BUSY_S` of processor, or `LONG_S` by the clock, when they were last measured."""
BUSY_S = 0.55
LONG_S = 3.5
MEASURE = "--measure"
FLAGS = {"": False, "--long": True, "--all": None, MEASURE: None}
"""Whether the long ones alone are run, or all but these, or both."""
SHARED = ["tests.ui.window", "tests.takes", "hypothesis", "music21", "scipy.signal", "av", "mir_eval"]


class Failed(NamedTuple):
    """A test that failed: the name it is run by ("" where it is none), what it is called, and what it said."""

    test: str
    title: str
    said: str


class Ran(NamedTuple):
    """What came of a module: its tests, those skipped, what the failed ones said, and what each test took.

    seconds -- of each test by the clock
    busy -- of each test, those of the processor
    """

    module: str
    tests: int
    skipped: int
    faults: list["Failed"]
    seconds: dict[str, float]
    busy: dict[str, float]


class Asked(NamedTuple):
    """Tests to run: those of a module, class or test of that name which hold one of the words.

    long -- the long ones alone; False: all but these; None: both
    """

    name: str
    words: tuple[str, ...] = ()
    long: bool | None = None


class _Result(unittest.TestResult):
    def __init__(self) -> None:
        super().__init__(io.StringIO(), False, 0)
        self.seconds: dict[str, float] = {}
        self.busy: dict[str, float] = {}

    def startTest(self, test: unittest.TestCase) -> None:
        super().startTest(test)
        self._begun = time.monotonic(), _busy()

    def stopTest(self, test: unittest.TestCase) -> None:
        super().stopTest(test)
        begun, busy = self._begun
        self.seconds[test.id()], self.busy[test.id()] = time.monotonic() - begun, _busy() - busy


def _busy() -> float:
    """The processor's time of this process and of what it ran, in seconds."""
    return sum(os.times()[:4])


def long_ones() -> set[str]:
    """The names of the long tests."""
    return set(LONG.read_text().split())


def chosen(suite: unittest.TestSuite, asked: Asked) -> unittest.TestSuite:
    """Those tests of a suite, in its order, that are long, or are not."""
    long = long_ones()
    return unittest.TestSuite(t for t in _each(suite) if asked.long is None or (t.id() in long) == asked.long)


def _each(suite: unittest.TestSuite) -> Iterator[unittest.TestCase]:
    for test in suite:
        if isinstance(test, unittest.TestSuite):
            yield from _each(test)
        else:
            assert isinstance(test, unittest.TestCase)
            yield test


def run(asked: Asked) -> Ran:
    """Run what is asked for."""
    # Much is made and soon let go of: looked through seldom, it takes less time.
    gc.set_threshold(50_000, 50, 50)
    loader = unittest.TestLoader()
    loader.testNamePatterns = [f"*{w}*" for w in asked.words] or None
    suite = loader.loadTestsFromName(asked.name)
    result = _Result()
    chosen(suite, asked).run(result)
    faults = [Failed(_name(test), f"{kind}: {test.id()}{_row(test)}", said) for kind, found in (
              ("FAIL", result.failures), ("ERROR", result.errors)) for test, said in found]  # fmt: skip
    faults += [Failed("", f"PASSED, BUT SHOULD NOT: {test.id()}", "") for test in result.unexpectedSuccesses]
    return Ran(asked.name, result.testsRun, len(result.skipped), faults, result.seconds, result.busy)


def _name(test: unittest.TestCase) -> str:
    """What a test is run by: the whole table where it is a row of one, the class where that was not set up."""
    return getattr(test, "test_case", test).id().rpartition("(")[2].rstrip(")")


def _row(test: object) -> str:
    """The row of a table that a subtest stands for."""
    return "" if isinstance(test, unittest.TestCase) else f" {getattr(test, '_message', '')}"


def modules(long: bool | None = None) -> list[str]:
    """All modules of tests, those first whose tests (the long ones, the others, all) took longest.

    Where none ever ran, the longest to read.
    """
    slow = long_ones()
    took: dict[str, float] = {}
    for test, seconds in past_times().items():
        if long is None or (test in slow) == long:
            module = test.rpartition(".")[0].rpartition(".")[0]
            took[module] = took.get(module, 0) + seconds
    length = {".".join(p.relative_to(HERE.parent).with_suffix("").parts): p.stat().st_size / 2_000
              for p in HERE.rglob("test_*.py")}  # fmt: skip
    return sorted(length, key=lambda m: (-took.get(m, length[m]), m))


def past_times() -> dict[str, float]:
    """What each test took when it last ran, in seconds; nothing where that is not known."""
    try:
        return json.loads(TIMES.read_text())
    except (OSError, ValueError):
        return {}


def held_up(pool: ProcessPoolExecutor, failed: list[Failed]) -> set[str]:
    """Those of the few tests with clocks that failed which pass by themselves."""
    again = sorted({one.test for one in failed if one.test.startswith(CLOCKED)})
    if len(again) > AGAIN:
        return set()
    # One after another: nothing else runs beside them.
    rans = [(test, pool.submit(run, Asked(test)).result()) for test in again]
    return {test for test, ran in rans if ran.tests and not ran.faults and not ran.skipped}


def main(words: list[str]) -> int:
    """Run the tests; gives the exit status."""
    begun = time.monotonic()
    long = FLAGS.get(" ".join(words))
    flagged = " ".join(words) in FLAGS
    rans: list[Ran] = []
    # Many tests of the window wait for its clocks: more processes than there are cores.
    many = (2 - (words == [MEASURE])) * (os.cpu_count() or 1)
    # So many processes need no threads of their own for matrices.
    os.environ["OPENBLAS_NUM_THREADS"] = "1"
    # What many tests need is imported once for all of them.
    context = multiprocessing.get_context("forkserver")
    context.set_forkserver_preload(SHARED)
    with ProcessPoolExecutor(many, mp_context=context) as pool:
        asked = [Asked(m, () if flagged else tuple(words), long) for m in modules(long)]
        for done in as_completed([pool.submit(run, one) for one in asked]):
            ran = done.result()
            rans.append(ran)
            for _, title, said in ran.faults:
                print(f"\n{'=' * 70}\n{title}\n{'-' * 70}\n{said}", flush=True)
            if ran.tests:
                print(f"{ran.module}: {ran.tests}, {sum(ran.seconds.values()):.1f} s", flush=True)
        failed = [one for ran in rans for one in ran.faults]
        late = held_up(pool, failed)
    seconds = {test: round(s, 2) for r in rans for test, s in r.seconds.items()}
    TIMES.parent.mkdir(exist_ok=True)
    TIMES.write_text(json.dumps(past_times() | seconds))
    busy = {test: s for r in rans for test, s in r.busy.items()}
    if words == [MEASURE]:
        LONG.write_text(
            "".join(f"{test}\n" for test in sorted(busy) if busy[test] > BUSY_S or seconds[test] > LONG_S)
        )
    tests, skipped = sum(r.tests for r in rans), sum(r.skipped for r in rans)
    faults = sum(one.test not in late for one in failed)
    slowest = sorted(((s, t) for t, s in seconds.items()), reverse=True)[:SLOWEST]
    print("\nThe slowest:", *(f"{s:5.1f} s  {t}" for s, t in slowest), sep="\n  ")
    left = f"; {len(long_ones())} long ones are left to ./run test --long" if long is False else ""
    print(f"\nRan {tests} tests in {time.monotonic() - begun:.1f}s{left}\n")
    for test in sorted(late):
        print(f"Failed beside others, passed by itself: {test}")
    print(f"FAILED (faults={faults}, skipped={skipped})" if faults or not tests else f"OK (skipped={skipped})")
    return 1 if faults or not tests else 0
