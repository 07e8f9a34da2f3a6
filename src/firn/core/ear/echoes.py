"""Which of the sounds that are too many may be the room's: softer, soon after another, or always as long after it."""

from collections.abc import Sequence

from firn.core.ear.onsets import Onsets

SOON_S = 0.25
SOFTER_DB = 8.0
SAME_S = 0.002
"""Feet do not come so exactly as long after each other."""
LEAST_SAME = 4


def echoes(extra: Sequence[int], onsets: Onsets) -> set[int]:
    """Of onsets that are too many, by their indexes, those that may be echoes of the ones before them."""
    times, levels = onsets.times_s, onsets.levels_db
    after = {j: float(times[j] - times[j - 1]) for j in extra if j}
    soft = {j for j, gap in after.items() if gap <= SOON_S and levels[j] <= levels[j - 1] - SOFTER_DB}
    soon = [(gap, j) for j, gap in after.items() if gap <= SOON_S]
    alike: set[int] = set()
    for gap, _ in soon:
        near = {j for other, j in soon if abs(other - gap) <= SAME_S}
        if len(near) >= LEAST_SAME and 2 * len(near) >= len(extra):
            alike |= near
    return soft | alike
