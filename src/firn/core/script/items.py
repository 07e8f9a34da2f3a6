"""What a line holds: runs of counts and the words that they belong to, repeats and bars."""

from fractions import Fraction

from msgspec import Struct
from msgspec.structs import replace

from firn.core.script.said import WHERE
from firn.core.script.tree import Counts
from firn.core.script.turns import turn_text
from firn.core.steps.card import Card, Role

FOOT_WRITTEN = {"right": "R ", "left": "L ", "both": "both ", "": ""}
"""A foot as it is written before its word."""

_OTHER_WAY = {"to the left": "to the right", "to the right": "to the left"}


class Word(Struct, frozen=True):
    """A step as typed; `card` is None where no shelf knows it. `joined` words share its place.

    `turn`: how far the body turns with it, right above 0. `others`: cards that may stand in its place. `where`:
    where it goes. `several`: said of more than one; `each`: its foot is that of each of them. `tied`: the foot of the
    last step's that its sound is tied to.
    """

    text: str
    card: Card | None
    column: int
    end: int
    side: str = ""
    level: int = 0
    optional: bool = False
    as_one: bool = False
    times: int = 1
    joined: "tuple[Word, ...]" = ()
    turn: Fraction = Fraction(0)
    others: tuple[Card, ...] = ()
    where: str = ""
    several: bool = False
    each: bool = False
    tied: Role | None = None

    @property
    def said(self) -> str:
        """The word as it is written again with all that was said of it: its foot, where it goes, how loud, how far
        the body turns, what may stand in its place, how often."""
        foot = FOOT_WRITTEN[self.side]
        where = f" {self.where}" if self.where and self.text.casefold() not in WHERE else ""
        level = "" if not self.level else "!" if self.level > 0 else "~"
        parts = [
            f"{foot}{self.text}{where}{level}",
            turn_text(self.turn),
            *(f"or {card.name}" for card in self.others),
        ]
        text = " ".join(part for part in parts if part)
        text = f"({text})" if self.optional else text
        joined = "".join(f" {'=' if word.as_one else '+'} {word.said}" for word in self.joined)
        return f"{text}{joined}" + (f" x{self.times}" if self.times > 1 else "")

    def at_each(self, many: int, *, apart: bool = False) -> "tuple[Word, ...]":
        """The word at so many counts: its foot is that of the first, unless it is said of each or moves no weight.
        Said with one foot of counts `apart` it is that of each: stamp on 1 and 3 with the right."""
        kept = (self.each and (self.several or apart)) or self.keeps_foot
        return (self, *[self if kept else replace(self, side="")] * (many - 1))

    @property
    def keeps_foot(self) -> bool:
        """Whether it is one sound of a foot that has no weight to change: L heel x2."""
        beats = self.card.beats if self.card is not None and not self.joined else ()
        return len(beats) == 1 and beats[0].kind.limb == "foot" and not (self.card and self.card.weight_changes)

    def mirrored(self) -> "Word":
        """The same on the other side: it turns and goes the other way."""
        if not self.turn and self.where not in _OTHER_WAY:
            return self
        return replace(self, turn=-self.turn, where=_OTHER_WAY.get(self.where, self.where))


class WordRun(Struct, frozen=True):
    """Groups of counts and the words after them, up to the next counts."""

    counts: tuple[Counts, ...]
    words: tuple[Word, ...]


class Repeat(Struct, frozen=True):
    """Runs in brackets, danced several times; `other`: every second time on the other side."""

    body: "tuple[Item, ...]"
    times: int
    other: bool = False


class Bar(Struct, frozen=True):
    """The | before a 1: what came before is a pick-up."""


class BarAt(Struct, frozen=True):
    """Where a bar begins that is said by its number, from 1: what follows is counted from its first count.

    `long`: of how many counts each is, where an eight is said, or a four; None for a bar.
    """

    number: int
    column: int
    end: int
    long: int | None = None


Item = WordRun | Repeat | Bar | BarAt


_OF_NO_FOOT = frozenset({"clap", "hold"})


def of_no_foot(word: Word) -> bool:
    """Whether a foot that is said before a word cannot be its own."""
    return word.card is not None and all(beat.kind.name in _OF_NO_FOOT for beat in word.card.beats)
