"""Printing figures, each with its target where there is one."""

import os
import platform
import time
from pathlib import Path

PACE = 5_000


def heading(text: str) -> None:
    print(f"\n{text}")


def figure(name: str, value: str = "", target: str = "") -> None:
    print(f"  {name:<46} {value:<26} {target and 'wanted: ' + target}")


def pace_ms() -> float:
    """How long the same few thousand steps of Python take just now, in ms: on a machine that is shared, or warm, a
    figure is told beside it."""
    began = time.perf_counter()
    seen: dict[int, int] = {}
    for number in range(PACE):
        seen[number & 255] = seen.get(number & 127, 0) + number
    return (time.perf_counter() - began) * 1000


class Stolen:
    """How much of the processors' time goes to other machines that share them, from now on."""

    def __init__(self) -> None:
        self._busy, self._stolen = _busy()

    def say(self) -> None:
        """Print it, where it can be told and is worth a word."""
        busy, stolen = (now - then for now, then in zip(_busy(), (self._busy, self._stolen), strict=True))
        if stolen > busy / 100:
            figure("other machines had meanwhile, of the time", f"{100 * stolen / (busy + stolen):.0f} of 100")


def _busy() -> tuple[int, int]:
    """Ticks of all processors that were worked with here, and those that others had."""
    times = Path("/proc/stat")
    if not times.exists():
        return 0, 0
    user, nice, system, _, _, irq, soft, stolen, *_ = (
        int(word) for word in times.read_text().split("\n")[0].split()[1:]
    )
    return user + nice + system + irq + soft, stolen


def machine() -> None:
    print(f"{platform.machine()}, {os.cpu_count()} cores, CPython {platform.python_version()}")
