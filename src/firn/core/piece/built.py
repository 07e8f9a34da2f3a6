"""Long parts as they were last built: what is written in one leaves what is before it."""

from bisect import bisect_right
from collections.abc import Sequence
from itertools import accumulate, islice
from operator import itemgetter
from typing import NamedTuple

from firn.core.footing.state import Step
from firn.core.piece.piece import Part
from firn.core.piece.sound import Sound
from firn.core.same import begins_alike
from firn.core.script.laid import Laid, laid_out, steps_laid
from firn.core.script.places import Use

LONG = 100
"""Of so many words a part is long."""


class Built(NamedTuple):
    """A long part as it was last built.

    `beats`: of each word, how many there are up to its end; `latest`: of each beat, the last of the words up to it.
    """

    uses: tuple[Use, ...]
    laid: list[Laid]
    part: Part
    beats: list[int]
    latest: list[int]


_built: tuple[Built, ...] = ()
"""The last long ones, the newest first; replaced whole, since jobs build too."""


class Laying(NamedTuple):
    """The beats of some words in their order, and their steps.

    `before`: a part that begins as they do, None for none: with so many of its `words`, and their `beats`.
    """

    laid: list[Laid]
    steps: tuple[Step, ...]
    before: Built | None
    words: int
    beats: int

    def known(self, alike: int) -> tuple[Sound, ...]:
        """The sounds of the first words of the part before whose beats are among the first so many."""
        if self.before is None:
            return ()
        one, words = self.before, self.words
        while words:
            beats = one.beats[words - 1]
            if beats <= alike and one.latest[beats - 1] < words:
                return one.part.sounds[:beats]
            words = bisect_right(one.beats, alike, 0, words - 1)
        return ()


def laying(uses: tuple[Use, ...]) -> Laying:
    """Lay some words out, taking over what was built of words that begin as these."""
    before, words, beats = taken_over(uses)
    laid = [*(before.laid[:beats] if before is not None else ()), *laid_out(uses, words)]
    steps = steps_laid(uses, laid, before.part.steps[:beats] if before is not None else ())
    return Laying(laid, steps, before, words, beats)


def remember(part: Part, one: Laying) -> None:
    """Keep a part as it was built, where it is long."""
    global _built
    uses = part.script.uses
    if len(uses) >= LONG:
        _built = (Built(uses, one.laid, part, *_totals(uses, one)), *_built[:3])


def taken_over(uses: tuple[Use, ...]) -> tuple[Built | None, int, int]:
    """What was built that begins as these words do, how many they are, and how many beats; None, 0, 0 for nothing.

    Only words all of whose beats come before those of the others are taken. A line is read once: the same words are
    the same values.
    """
    known = _built if len(uses) >= LONG else ()
    alike: list[tuple[int, Built]] = []
    for one in known:
        # Only what goes on alike for longer than those before it is looked through.
        most = max(map(itemgetter(0), alike), default=-1)
        if most < min(len(one.uses), len(uses)) and one.uses[max(0, most)] is uses[max(0, most)]:
            alike.append((begins_alike(one.uses, uses), one))
    for words, one in sorted(alike, key=itemgetter(0), reverse=True):
        beats = one.beats[words - 1] if words else 0
        if not beats or one.latest[beats - 1] >= words:
            continue
        later = [place for use in uses[words:] for place in use.places]
        if not later or one.laid[beats - 1][0] <= min(later):
            return one, words, beats
    return None, 0, 0


def _totals(uses: Sequence[Use], one: Laying) -> tuple[list[int], list[int]]:
    """What is kept of a part's words and beats, the first of them as they were."""
    before = one.before
    ends = before.beats[: one.words] if before is not None else []
    latest = before.latest[: one.beats] if before is not None else []
    more = accumulate((len(use.places) for use in uses[one.words :]), initial=ends[-1] if ends else 0)
    later = accumulate((word for _, word, _ in one.laid[one.beats :]), max, initial=latest[-1] if latest else 0)
    return [*ends, *islice(more, 1, None)], [*latest, *islice(later, 1, None)]
