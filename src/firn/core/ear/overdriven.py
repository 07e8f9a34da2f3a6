"""Whether a take was recorded too loud: what is cut off at the top sounds alike, and hides what comes after it."""

import numpy as np
import numpy.typing as npt

from firn.core.task import give_way

TOP, UNDER = 0.999, 0.989
"""Samples from this share of the peak on are at the top; those of as narrow a band right under it are few there."""

PILED = 20
"""At a top that is cut off so many times as many pile up: at a sine's 6 times as many as under it."""

MUCH = 0.01
"""From this share on of all samples a take is too loud."""

BLOCK = 1 << 20
"""Samples that are looked at in one go: ten minutes are not held twice."""

TOLD = (
    "Recorded too loud: its loudest sounds are cut off at the top, and the feet are not told from one another. Lay "
    "the phone farther away, or turn the level down, and record it again."
)


def cut_off(sound: npt.NDArray[np.floating]) -> float:
    """Which share of a recording's samples, shape (n,), is cut off at its top; 0 for silence."""
    # What is decoded may swing over full scale where it was cut off.
    peak = min(1.0, max(float(sound.max(initial=0.0)), -float(sound.min(initial=0.0))))
    if not peak:
        return 0.0
    at_top = under = 0
    for start in range(0, len(sound), BLOCK):
        give_way()
        loud = np.abs(sound[start : start + BLOCK])
        loud = loud[loud >= UNDER * peak]
        at_top += int((loud >= TOP * peak).sum())
        under += int((loud < (UNDER + 1 - TOP) * peak).sum())
    return at_top / len(sound) if at_top >= PILED * max(1, under) else 0.0


def overdriven(sound: npt.NDArray[np.floating]) -> bool:
    """Whether so much of a recording is cut off that it is hard to judge."""
    return cut_off(sound) >= MUCH
