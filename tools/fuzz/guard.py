"""Runs a case within a limit of time and memory; what comes of it in one line."""

import resource
import signal
import traceback
from collections.abc import Callable
from types import FrameType

from firn.errors import FirnError

TEXT_S, FILE_S = 20.0, 8.0
"""Three parts of twenty thousand sounds each are read, checked, measured and laid out by everything there is in some
seconds, of a processor that other work has too."""
WAITED_S = 300.0
"""What a case may take by the clock, whatever else runs on the machine: its limit is in time of the processor. It is
for what waits for something that never comes."""
MEMORY_MB = 700
"""What a case may take beyond what was taken before it."""


class TooLongError(BaseException):
    """A case took longer than it may: no Exception, so that nothing on the way takes it for a fault of its own."""


def _over(number: int, frame: FrameType | None) -> None:
    raise TooLongError("by the clock" if number == signal.SIGALRM else "of the processor")


def guarded(run: Callable[[], object], seconds: float) -> str:
    """Run a case; "" where it came to an end or was refused in one sentence, else what went wrong."""
    soft, hard = resource.getrlimit(resource.RLIMIT_AS)
    taken = _taken_bytes()
    resource.setrlimit(resource.RLIMIT_AS, (taken + MEMORY_MB * (1 << 20), hard))
    signal.signal(signal.SIGPROF, _over)
    signal.signal(signal.SIGALRM, _over)
    signal.setitimer(signal.ITIMER_PROF, seconds)
    signal.setitimer(signal.ITIMER_REAL, WAITED_S)
    try:
        run()
    except TooLongError as over:
        return f"longer than {WAITED_S if 'clock' in str(over) else seconds:g} s {over}: {_where()}"
    except MemoryError:
        return f"more than {MEMORY_MB} MB: {_where()}"
    except FirnError as fault:
        said = str(fault)
        return f"no sentence: {said!r}" if "\n" in said or not said else ""
    except Exception as bug:
        return f"{type(bug).__name__}: {bug} {_where()}"[:400]
    finally:
        signal.setitimer(signal.ITIMER_PROF, 0)
        signal.setitimer(signal.ITIMER_REAL, 0)
        resource.setrlimit(resource.RLIMIT_AS, (soft, hard))
    return ""


def _where() -> str:
    frames = [f for f in traceback.extract_tb(__import__("sys").exc_info()[2]) if "/firn/" in f.filename]
    return " < ".join(f"{f.filename.split('/firn/')[-1]}:{f.lineno}" for f in reversed(frames[-4:]))


def _taken_bytes() -> int:
    with open("/proc/self/statm") as file:
        return int(file.read().split()[0]) * resource.getpagesize()
