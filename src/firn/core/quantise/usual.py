"""Which places in a count usually follow each other: from old tunes, in simple and in compound time."""

import json
from fractions import Fraction
from functools import lru_cache
from pathlib import Path

import numpy as np
import numpy.typing as npt

SLOTS = tuple(Fraction(n, 12) for n in (0, 2, 3, 4, 6, 8, 9, 10))
"""The places in a count that are told: halves, thirds, quarters and sixths."""

KINDS = ("simple", "halved", "compound")
"""Counts of halves; the same tunes with half as many counts, so that quarters are common; counts of thirds."""

FARTHEST = 5
"""So many whole counts on, and no more, tunes say how likely it is."""

LONGEST = 13
"""Silence of so many counts has a likelihood; a longer one is as likely as that."""

USUAL = Path(__file__).with_name("usual.json")

UNSEEN, NEXT_OF_ITS_OWN = 0.3, 15.0
"""What was never seen counts as so many times in all tunes, the next place of the same division as so many: dancers
do what tunes do not."""

LONGER = 0.5
"""Each further count of silence is as likely as this share of the one before."""


@lru_cache(maxsize=1)
def usual() -> npt.NDArray[np.float64]:
    """Log likelihoods, shape (kinds, slots, counts, slots): from a place to one so many counts on; -inf where time
    would not go on."""
    seen = json.loads(USUAL.read_text(encoding="utf-8"))
    many = len(SLOTS)
    table = np.full((len(KINDS), many, LONGEST, many), UNSEEN)
    for division in (2, 3, 4, 6):
        for part in range(division):
            here, then = Fraction(part, division), Fraction(part + 1, division)
            table[:, SLOTS.index(here), int(then), SLOTS.index(then % 1)] += NEXT_OF_ITS_OWN
    for number, kind in enumerate(KINDS):
        for before, counts, after, times in seen[kind]:
            table[number, before, counts, after] += times
    for counts in range(FARTHEST, LONGEST):
        table[:, :, counts] = table[:, :, counts - 1] * LONGER
    later = np.arange(many)
    table[:, :, 0][:, later[:, None] >= later[None, :]] = 0.0
    with np.errstate(divide="ignore"):
        return np.asarray(np.log(table / table.sum(axis=(2, 3), keepdims=True)))
