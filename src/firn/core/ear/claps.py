"""Two claps, alone: what somebody who stands across the room says to a drill."""

import numpy as np
import numpy.typing as npt

from firn.core.ear.onsets import Onsets, every_onset

FloatArray = npt.NDArray[np.float64]

NEAREST_S, FARTHEST_S = 0.14, 0.62
"""How far apart two claps are."""

BEFORE_S, AFTER_S = 0.75, 0.75
"""So long before and after them nothing else is heard: who claps has stopped dancing."""

ALIKE_DB = 8.0
"""So alike in loudness are the two."""

STANDS_OUT_DB = 9.0
"""What is softer than the softer of them by so much is no part of it: a beat, somebody's talk, a room."""

LEAST_SURE = 0.6

LOOKED_S = 0.03
LOW_HZ, HANDS_HZ = 350.0, (500.0, 5_000.0)
LEAST_OVER_LOW_DB = 11.0
"""Hands sound between 0.5 and 5 kHz (Repp 1987; from memory) and hardly below; under a foot the floor does."""


def two_claps(sound: npt.ArrayLike, rate: int, *, least_db: float = -45.0) -> FloatArray:
    """When the second of two claps falls that stand alone, in seconds, ascending; shape (n,).

    Parameters
    ----------
    sound : array_like, shape (n,)
        The recording.
    rate : int
        Samples a second.
    least_db : float
        Re full scale; what is softer is none.
    """
    samples = np.asarray(sound, dtype=np.float64)
    # Whatever else is heard, a foot's or not, is in the way.
    onsets = every_onset(samples, rate)
    seconds = [
        second
        for second in pairs_alone(onsets, least_db)
        if all(_of_hands(samples, rate, float(onsets.times_s[one])) for one in (second - 1, second))
    ]
    return np.asarray(onsets.times_s[seconds], dtype=np.float64)


def pairs_alone(onsets: Onsets, least_db: float) -> list[int]:
    """The second of each two neighbouring onsets that stand alone, alike in loudness, as far apart as two claps."""
    times, levels = onsets.times_s, onsets.levels_db
    found = []
    for second in range(1, len(times)):
        first = second - 1
        softer = min(levels[first], levels[second])
        if not NEAREST_S <= times[second] - times[first] <= FARTHEST_S:
            continue
        if abs(levels[first] - levels[second]) > ALIKE_DB or softer < least_db:
            continue
        if min(onsets.surely[first], onsets.surely[second]) < LEAST_SURE:
            continue
        near = (times > times[first] - BEFORE_S) & (times < times[second] + AFTER_S)
        near[[first, second]] = False
        if not (levels[near] > softer - STANDS_OUT_DB).any():
            found.append(second)
    return found


def _of_hands(samples: FloatArray, rate: int, at_s: float) -> bool:
    """Whether what begins there may be hands: little of it is low."""
    first = max(0, round((at_s - 0.002) * rate))
    piece = samples[first : first + round(LOOKED_S * rate)]
    power = np.abs(np.fft.rfft(piece * np.hanning(len(piece)))) ** 2
    hz = np.fft.rfftfreq(len(piece), 1 / rate)
    low = float(power[(hz > 40) & (hz < LOW_HZ)].sum())
    hands = float(power[(hz >= HANDS_HZ[0]) & (hz < HANDS_HZ[1])].sum())
    return hands > low * 10 ** (LEAST_OVER_LOW_DB / 10)
