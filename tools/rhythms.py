"""Counts how often one place in a count follows another in old tunes: src/firn/core/quantise/usual.json.

The tunes are those of James Aird's Selection (1782 to 1801) as music21's corpus has them (abcnotation, free to use);
the judge of what comes of it is another book (tests/rhythms.py). Needs requirements-dev.lock:

    python -m tools.rhythms
"""

import json
from collections import Counter
from collections.abc import Sequence
from fractions import Fraction
from itertools import pairwise

from tests.rhythms import COMPOUND, read

from firn.core.quantise.usual import FARTHEST, KINDS, SLOTS, USUAL


def tally(table: Counter[tuple[int, int, int]], places: Sequence[Fraction]) -> None:
    for before, after in pairwise(places):
        counts = int(after // 1 - before // 1)
        if before % 1 in SLOTS and after % 1 in SLOTS and counts < FARTHEST:
            table[SLOTS.index(before % 1), counts, SLOTS.index(after % 1)] += 1


def main() -> None:
    from music21 import converter, corpus

    found: dict[str, Counter[tuple[int, int, int]]] = {kind: Counter() for kind in KINDS}
    for path in corpus.getComposer("airdsAirs"):
        for score in converter.parse(path).scores:
            rhythm = read(score, path.stem)
            if rhythm is None:
                continue
            if rhythm.meter in COMPOUND:
                tally(found["compound"], rhythm.places)
            else:
                tally(found["simple"], rhythm.places)
                if rhythm.meter != "3/4":
                    tally(found["halved"], [place / 2 for place in rhythm.places])
    data = {kind: [[*key, many] for key, many in sorted(table.items())] for kind, table in found.items()}
    USUAL.write_text(json.dumps(data, separators=(",", ":")) + "\n", encoding="utf-8")


if __name__ == "__main__":
    main()
