"""Lines that a program puts together from ways of saying things: what became of each, beside its steps written out.

What a set of lines written by hand cannot hold is how such ways go together.
"""

import random
import sys
from collections import Counter
from collections.abc import Callable
from typing import Any, NamedTuple

from benchmarks.report import figure, heading
from benchmarks.spoken import piece_of
from firn.core.piece.sound import Sound
from firn.core.reading import doubts

LOOKED_AT, KEPT_APART = range(1, 5), range(1001, 1003)
"""Seeds of lines: those that were looked at where they went wrong, and those that never were."""

Line = tuple[str, str, str]
"""The tradition, the steps written out, and as they are said."""


class PutTogether(NamedTuple):
    """Lines of one kind: what they are called, how many of a seed, how one is made, what of a sound is compared."""

    name: str
    many: int
    make: Callable[[random.Random], Line]
    heard: Callable[[Sound], Any]

    def say(self) -> None:
        """Print how many are read as meant, asked about, refused, or silently something else."""
        for seeds, which in ((LOOKED_AT, "looked at"), (KEPT_APART, "kept apart")):
            heading(f"{self.name}, {self.many} lines of each of {len(seeds)} seeds, {which}")
            found = Counter(what for seed in seeds for what, _, _ in self.lines(seed))
            lines = sum(found.values())
            for what in ("right", "right, and asked about", "asked about", "refused", "silently other"):
                figure(what, f"{100 * found[what] / lines:.1f} of 100", "none" if what == "silently other" else "")

    def lines(self, seed: int) -> list[tuple[str, str, str]]:
        """What became of each line: what that is, in which tradition it is said, and the line. Steps that cannot be
        danced as they are written out are left out."""
        rng = random.Random(seed)
        found = []
        for tradition, written, said in (self.make(rng) for _ in range(self.many)):
            wanted, wrong, asked = self._read(tradition, written)
            if wrong or asked:
                continue
            sounds, wrong, asked = self._read(tradition, said)
            right = sounds == wanted and not wrong
            as_meant = "right, and asked about" if asked else "right"
            found.append(
                (
                    as_meant if right else "refused" if wrong else "asked about" if asked else "silently other",
                    tradition,
                    said,
                )
            )
        return found

    def _read(self, tradition: str, text: str) -> tuple[list[Any], bool, bool]:
        """The sounds of a text, whether something of it is refused or cannot be danced, and whether something is
        asked about."""
        piece = piece_of(tradition, text)
        part = piece.parts[0]
        wrong = bool(piece.problems or part.footing.faults)
        return [self.heard(sound) for sound in part.sounds], wrong, bool(list(doubts.findings(part)))

    def show(self) -> None:
        """Print the lines of a seed of which became what is named: the arguments of a command."""
        for what, tradition, said in self.lines(int(sys.argv[1])):
            if what in sys.argv[2:]:
                print(f"{tradition}|{said}")
