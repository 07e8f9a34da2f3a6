"""Where words fall: counts as said turned into places, line by line from the state on entry."""

from collections.abc import Sequence
from fractions import Fraction
from functools import lru_cache

from msgspec import Struct
from msgspec.structs import replace

from firn.core.meter.counting import Counting
from firn.core.script.choices import Open
from firn.core.script.counts import CountReader, Entry, first_number
from firn.core.script.items import Word, WordRun
from firn.core.script.problems import Problem
from firn.core.script.tree import Counts, parse_line
from firn.core.steps.card import Card, whole_counts
from firn.core.steps.sides import ACROSS

MOST_WORDS = 4_096
"""Words that one line may come to, repeats and all: brackets in brackets multiply."""

MOST_SOUNDS = 20_000
"""Sounds in a part, and in a combo: said before more of them are made."""


AT_ONCE = Fraction(0)


class Use(Struct, frozen=True):
    """A word in its place: one place and length for each beat of its card, in counts.

    `layer`: the layer of hands that it is written in, "" for the steps' own lines; `voiced`: said, not played.
    `again`: it comes of a line that dances the one before again; `across`: what it is danced so many counts after,
    0 for nothing, and `mirrored` whether on the other foot than that.
    """

    card: Card
    word: Word
    line: int
    places: tuple[Fraction, ...]
    lengths: tuple[Fraction, ...]
    side: str = ""
    copy: int = 0
    layer: str = ""
    voiced: bool = False
    again: bool = False
    across: Fraction = AT_ONCE
    mirrored: bool = False

    def moved(self, by: Fraction, *, copy: int) -> "Use":
        """The same word later; a written foot holds for the first time only."""
        return replace(self, places=tuple(p + by for p in self.places), side="", copy=copy)

    def on_side(self, first: "Use", *, swapped: bool) -> "Use":
        """The same as a word that is danced before it, on the same side or on the other."""
        side = ACROSS.get(first.side, first.side) if swapped else first.side
        word = first.word.mirrored() if swapped else first.word
        return replace(self, side=side, word=word, mirrored=swapped)

    def before(self, place: Fraction) -> "Use | None":
        """The word cut off at a place; None where nothing of it is left."""
        many = sum(p < place for p in self.places)
        if many == len(self.places):
            return self
        if not many:
            return None
        card = replace(self.card, beats=self.card.beats[:many])
        return replace(self, card=card, places=self.places[:many], lengths=self.lengths[:many])

    def past(self, place: Fraction) -> "Use | None":
        """The word from after a place on; None where nothing of it is left."""
        gone = sum(p <= place for p in self.places)
        if not gone:
            return self
        if gone == len(self.places):
            return None
        card = replace(self.card, beats=self.card.beats[gone:])
        return replace(self, card=card, places=self.places[gone:], lengths=self.lengths[gone:])

    @property
    def last(self) -> Fraction:
        """The last place that it fills."""
        # Few last longer than a count, and fractions are slow.
        long = (p + n - 1 for p, n in zip(self.places, self.lengths, strict=True) if n.numerator > n.denominator)
        return max((*self.places, *long))


def span_of(body: Sequence[Use]) -> int:
    """After how many counts some words are danced again: their own whole counts, more where they would overlap."""
    places = tuple(p for use in body for p in (*use.places, use.last))
    span = whole_counts(places)
    if len(body) == 1:
        span = max(span, body[0].card.counts)
    first, last = min(places), max(places)
    while first + span <= last:
        span += 1
    return span


class PlacedLine(Struct, frozen=True):
    """A line's words in their places, places claimed by unknown words, problems, the state after it, and the counts
    that leave something open."""

    uses: tuple[Use, ...]
    unknown: tuple[Fraction, ...]
    problems: tuple[Problem, ...]
    after: Entry
    open: tuple[Open, ...] = ()


@lru_cache(maxsize=4_000)
def usual_places(card: Card, counting: Counting, tradition: str) -> tuple[tuple[Fraction, ...], Fraction]:
    """A card's places in its usual counts, and the place of the beat that anchors it.

    The anchor is the place of its first beat on a whole count, or 0, the beat after it, where there is none.
    """
    try:
        start = said_places(card.usual_for(tradition), counting)
    except ValueError:
        start = ()
    if len(start) != len(card.beats):
        raise ValueError(f'card "{card.name}": its usual counts do not match its sounds')
    anchor = next((p for p in start if p.denominator == 1), Fraction(0))
    return start, anchor


def counts_of(card: Card, counting: Counting, tradition: str) -> int:
    """How many counts a figure takes where it usually falls, or as many as its card says, whichever is more."""
    usual, _ = usual_places(card, counting, tradition)
    return max(card.counts, whole_counts(usual))


def said_places(text: str, counting: Counting) -> tuple[Fraction, ...]:
    """The places of counts as they are said by themselves, such as "&a1 &2"; raises ValueError for anything else."""
    # They are said in eights even where the piece's phrase is shorter.
    eights = replace(counting, phrase=8)
    nodes, brackets = parse_line(text)
    groups = [n for n in nodes if isinstance(n, Counts)]
    first = first_number([WordRun(tuple(groups), ())], 8)
    # Past a bar's end through 1 too: 4 & 1.
    reader = CountReader(eights, Entry(first=first or Fraction(0)), stated_phrase=False)
    places = reader.resolve(groups)
    if brackets or len(groups) != len(nodes) or len(places) != sum(len(g.atoms) for g in groups):
        raise ValueError(f'not counts: "{text}"')
    return tuple(place for place, _ in places)


LASTING = frozenset(
    {"hold", "slide", "turn", "sweep", "swivel", "pivot", "squat", "hand_down", "shift", "lift", "point"}
)
"""Kinds that last as long as a range of counts that is said of them."""


def lasts(card: Card) -> bool:
    """Whether a card on a range of counts lasts as long, and is not danced on each."""
    return len(card.beats) == 1 and card.beats[0].kind.name in LASTING
