"""Names of places, as spoken: 1, e, &, a, and the number of every count."""

from fractions import Fraction
from typing import Literal

from msgspec import Struct

from firn.core.meter.feel import STRAIGHT, Feel
from firn.core.meter.meter import Meter

LoneA = Literal["sixteenth", "triplet"]

QUARTER, HALF, THREE_QUARTERS = Fraction(1, 4), Fraction(1, 2), Fraction(3, 4)
THIRD, TWO_THIRDS = Fraction(1, 3), Fraction(2, 3)


class Counting(Struct, frozen=True):
    """How a piece is counted: its meter, feel, where a lone "a" lies, and the counts in a phrase.

    `tally`: the number of each phrase is said in place of its 1. `changes`: where a combo comes to parts that are
    counted otherwise, and how, in order.
    """

    meter: Meter = Meter(4, 4)
    feel: Feel = STRAIGHT
    lone_a: LoneA = "sixteenth"
    phrase: int = 8
    tally: bool = False
    changes: "tuple[Stage, ...]" = ()

    def here(self, place: Fraction) -> "tuple[Counting, Fraction]":
        """How a place is counted, and which place of that counting it is."""
        stage = None
        for change in self.changes:
            if change.first > place:
                break
            stage = change
        return (self, place) if stage is None else (stage.counting, place - stage.origin)

    def strong(self, place: Fraction) -> bool:
        """Whether a bar, or a group of an uneven one, begins on a whole count."""
        if self.changes:
            here, place = self.here(place)
            if here is not self:
                return here.strong(place)
        return int(place % self.meter.counts) in self.meter.starts

    @property
    def in_thirds(self) -> bool:
        """Whether "& a" said together are the second and third of a triplet."""
        return self.meter.compound or self.feel.swing or self.lone_a == "triplet"

    def division(self, letter: str, *, among: frozenset[str]) -> Fraction | None:
        """Share of a count at which `letter` (e, & or a) is said beside the letters in `among`.

        None where the meter has no such division.
        """
        if self.meter.compound:
            return {"&": THIRD, "a": TWO_THIRDS}.get(letter)
        if letter == "e":
            return QUARTER
        together = {"&", "a"} <= among and "e" not in among
        if letter == "&":
            return THIRD if together and self.in_thirds else HALF
        if "e" in among:
            return THREE_QUARTERS
        if together:
            return TWO_THIRDS if self.in_thirds else THREE_QUARTERS
        return TWO_THIRDS if self.lone_a == "triplet" else THREE_QUARTERS

    def letter(self, place: Fraction) -> str:
        """The letter said at a place, "" on a whole count, a fraction where there is no word for it."""
        parts = place.denominator
        if parts == 1:
            return ""
        if self.changes:
            here, place = self.here(place)
            if here is not self:
                return here.letter(place)
        inside = place.numerator % parts
        name = None
        if parts == 3 and self.in_thirds:
            name = "&" if inside == 1 else "a"
        elif not self.meter.compound:
            name = {(1, 4): "e", (1, 2): "&", (3, 4): "a"}.get((inside, parts))
        return name or f"{inside}/{parts}"

    def number(self, place: Fraction) -> int:
        """The number of the count that a place lies in; the phrase's first is 1."""
        if self.changes:
            here, place = self.here(place)
            if here is not self:
                return here.number(place)
        return place.numerator // place.denominator % self.phrase + 1

    def counted(self, place: Fraction) -> str:
        """What is counted aloud on a whole count: its number, or with the tally on a phrase's first the phrase's."""
        if self.changes:
            here, place = self.here(place)
            if here is not self:
                return here.counted(place)
        number = self.number(place)
        if self.tally and number == 1 and place >= 0:
            return str(int(place // self.phrase) + 1)
        return str(number)

    def say(self, place: Fraction) -> str:
        """What is said at a place: the number of a whole count, else its letter or fraction."""
        return self.letter(place) or str(self.number(place))

    def name(self, place: Fraction) -> str:
        """A place's full name, for sentences: "3", "& after 3"."""
        letter = self.letter(place)
        return f"{letter} after {self.number(place)}" if letter else str(self.number(place))

    @property
    def shares(self) -> tuple[Fraction, ...]:
        """The places within a count that a sound is moved to: halves and quarters, and thirds where they are said."""
        if self.meter.compound:
            return tuple(Fraction(n, 6) for n in range(6))
        return (Fraction(0), QUARTER, *((THIRD, HALF, TWO_THIRDS) if self.in_thirds else (HALF,)), THREE_QUARTERS)

    def next_share(self, place: Fraction, way: int) -> Fraction:
        """The next of these places after a place, or before it for `way` below 0."""
        count = place // 1
        near = [count + n + share for n in (-1, 0, 1) for share in self.shares]
        return Fraction(min(p for p in near if p > place) if way > 0 else max(p for p in near if p < place))

    def position(self, place: Fraction) -> Fraction:
        """Where a place sounds under the feel."""
        if self.changes:
            here, local = self.here(place)
            if here is not self:
                return place - local + here.position(local)
        return place if self.meter.compound else self.feel.position(place)


class Stage(Struct, frozen=True):
    """From a place on it is counted otherwise: `origin` is the place of that counting's first 1."""

    first: Fraction
    origin: Fraction
    counting: Counting
