"""How late a sound device is: from claps, or its own loop, to clicks that it played."""

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from firn.errors import FirnError

EARLIEST_S, LATEST_S = -0.05, 0.45
WINDOW_S = 0.040
LEAST_CLAPS = 5
MOST_SPREAD_MS = 25.0


class NoLatency(FirnError):
    """Claps that do not say how late the device is."""


class Latency(Struct, frozen=True):
    """The delay from a sound played to the same moment recorded, in ms; its spread (median distance from it), and of
    how many claps."""

    ms: float
    spread_ms: float
    claps: int


def latency(heard_s: npt.ArrayLike, clicks_s: npt.ArrayLike) -> Latency:
    """The delay of a device from what was heard and what was played.

    Parameters
    ----------
    heard_s, clicks_s : array_like, shapes (n,) and (m,)
        Onsets of the recording and times of the clicks, in seconds from the same moment, ascending.

    Returns
    -------
    Latency
        The median delay among the 40 ms that hold a sound of the most clicks; between -50 and 450 ms.

    Raises
    ------
    NoLatency
        Fewer than five clicks have a sound there, or these are not near one another.
    """
    heard, clicks = np.asarray(heard_s, dtype=np.float64), np.asarray(clicks_s, dtype=np.float64)
    delays = (heard[None, :] - clicks[:, None]).ravel()
    number = np.repeat(np.arange(len(clicks)), len(heard))
    near = (delays >= EARLIEST_S) & (delays <= LATEST_S)
    delays, number = delays[near], number[near]
    best: npt.NDArray[np.float64] = np.zeros(0)
    for start in delays:
        inside = (delays >= start) & (delays < start + WINDOW_S)
        # Of two sounds after one click only one can be its clap.
        _, first = np.unique(number[inside], return_index=True)
        if len(first) > len(best):
            best = delays[inside][first]
    if len(best) < LEAST_CLAPS:
        raise NoLatency(
            f"{len(best)} of {len(clicks)} claps were heard.", hint="Clap once on every click, near the microphone."
        )
    middle = float(np.median(best))
    spread = float(np.median(np.abs(best - middle))) * 1000
    if spread > MOST_SPREAD_MS:
        raise NoLatency("The claps are too far from one another to tell.", hint="Clap with the clicks, evenly.")
    return Latency(middle * 1000, spread, len(best))
