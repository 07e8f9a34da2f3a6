"""A score: the sounds of a part or a combo with all that a written format may say of them."""

from collections.abc import Iterator, Sequence
from fractions import Fraction
from math import lcm

from msgspec import Struct

from firn.core.meter.counting import Counting
from firn.core.meter.meter import Meter
from firn.core.piece.sound import Sound

VOICES = ("left", "right", "hands")
"""A sound is of one of these; what both feet do is of either."""


Bar = tuple[Fraction, Fraction, Meter]
"""A bar from where to where, in counts, and its meter."""


class Score(Struct, frozen=True, dict=True):
    """What is written. `words`: (index of a word's first sound, the word); `sections`: (a count, what begins there);
    `tempo` in counts a minute; `lead`: the foot that begins."""

    title: str
    sounds: Sequence[Sound]
    words: Sequence[tuple[int, str]]
    counting: Counting
    first: Fraction
    end: Fraction
    tempo: float
    lead: str = "right"
    sections: Sequence[tuple[Fraction, str]] = ()

    def word_at(self, index: int) -> str:
        """The word that begins with a sound; "" for none."""
        return self._words.get(index, "")

    @property
    def _words(self) -> dict[int, str]:
        return dict(self.words)

    def bars(self) -> Iterator[Bar]:
        """Every bar from where to where, in counts, with its meter: from the bar of the first sound to that of the
        end; a pick-up before the first count is a bar of its own."""
        at = min([self.first, *(Fraction(s.place // 1) for s in self.sounds)])
        counting, _ = self.counting.here(max(at, self.first))
        if at < self.first:
            yield at, self.first, counting.meter
        at = self.first
        while at < self.end:
            here, place = self.counting.here(at)
            # A part that begins within a bar is counted to that bar's end first.
            inside = place % here.meter.counts
            until = at + here.meter.counts - inside
            # What begins between two counts has its bar from the count before it on.
            changes = [Fraction(c.first // 1) for c in self.counting.changes]
            until = min([until, *(c for c in changes if at < c < until)])
            yield at, until, here.meter
            at = until


def quarters_of(meter: Meter) -> Fraction:
    """How many quarter notes a count lasts."""
    return Fraction(12 if meter.compound else 4, meter.unit)


def voices_of(sound: Sound) -> tuple[str, ...]:
    """The voices that a sound is of."""
    if sound.hand:
        return ("hands",)
    if sound.foot in ("left", "right"):
        return (sound.foot,)
    return ("left", "right") if sound.foot == "both" else ("hands",) if not sound.foot and sound.heard else ()


def finest(positions: Sequence[Fraction]) -> int:
    """How many parts of a count all positions lie on."""
    return lcm(*(p.denominator for p in positions)) if positions else 1


class Written(Struct, frozen=True):
    """A file's bytes, and what it could not say."""

    data: bytes
    told: tuple[str, ...] = ()
