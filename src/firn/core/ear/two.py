"""Whether two dance in a take: most sounds come twice, never as long after each other.

Players who keep together are some 30 to 50 ms apart (Rasch 1979; from memory), now one before, now the other. An echo
is always as long after its sound, and so is the second sound of a step that has two.
"""

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from firn.core.ear.onsets import Onsets
from firn.core.ear.passes import Candidate

FloatArray = npt.NDArray[np.float64]

TOGETHER_S = 0.09
"""Two who dance together strike within this of each other; of a part whose own sounds come nearer, within less."""

SHARE_OF_GAP = 0.45
LEAST_S = 0.03
"""Where a part's own sounds come nearer than this leaves room for, nobody can tell."""

LEAST_TWICE = 0.35
"""So large a share of the sounds comes twice where two dance."""

VARIES = 0.35
"""The spread of how far apart they are, to its mean: of an echo, or of a flam, it is a tenth."""

ALIKE_DB = 10.0
LEAST_PAIRS = 5


class Two(Struct, frozen=True):
    """That two seem to dance: how many sounds come twice, of how many, and how far apart in ms, as a median.

    `one`: the take with each pair as one sound."""

    twice: int
    of: int
    apart_ms: float
    one: Onsets

    @property
    def told(self) -> str:
        """What is heard, and what to do."""
        twice = f"{self.twice} of {self.of} sounds come twice, some {self.apart_ms:.0f} ms apart"
        return f"Two seem to dance here: {twice}. One can be judged at a time: record each alone."


def two_in(onsets: Onsets, this: Candidate) -> Two | None:
    """Whether two seem to dance a part in a take; None where one does, or nobody can tell."""
    own = np.diff([*this.times_s, this.times_s[0] + this.length_s])
    within = min(TOGETHER_S, SHARE_OF_GAP * float(own.min()))
    if within < LEAST_S or len(onsets) < 2 * LEAST_PAIRS:
        return None
    times, levels = onsets.times_s, onsets.levels_db
    groups: list[tuple[int, int]] = []
    at = 0
    while at < len(times):
        end = int(np.searchsorted(times, times[at] + within))
        groups.append((at, end))
        at = end
    pairs = [(a, b) for a, b in groups if b - a == 2]
    if len(pairs) < max(LEAST_PAIRS, LEAST_TWICE * len(groups)):
        return None
    apart = np.array([times[a + 1] - times[a] for a, _ in pairs])
    louder = np.array([abs(levels[a + 1] - levels[a]) for a, _ in pairs])
    if apart.std() < VARIES * apart.mean() or np.median(louder) > ALIKE_DB:
        return None
    one = Onsets(
        np.array([times[a:b].mean() for a, b in groups]),
        np.array([levels[a:b].max() for a, b in groups]),
        np.array([onsets.surely[a:b].max() for a, b in groups]),
    )
    return Two(len(pairs), len(groups), 1000 * float(np.median(apart)), one)
