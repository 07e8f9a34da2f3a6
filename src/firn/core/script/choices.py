"""Where a line is open: what may be read in more ways than one, and which of them is tried."""

from fractions import Fraction
from typing import Literal

from msgspec import Struct

from firn.core.steps.card import Card


class Choices(Struct, frozen=True):
    """What is tried of a line that is open; nothing for what it plainly says.

    `sizes`: for the column on which a name begins, of how many words it is at most. `on_beat`: the columns of lone
    divisions that are the beat of their word and not its first sound.
    """

    sizes: tuple[tuple[int, int], ...] = ()
    on_beat: tuple[int, ...] = ()

    def size(self, column: int, most: int) -> int:
        """Of how many words a name that begins on a column is at most."""
        return next((size for at, size in self.sizes if at == column), most)

    def parted(self, column: int, size: int) -> "Choices":
        """The same with a name of fewer words."""
        return Choices((*(s for s in self.sizes if s[0] != column), (column, size)), self.on_beat)

    def beaten(self, column: int) -> "Choices":
        """The same with a lone division that is the beat of its word."""
        return Choices(self.sizes, (*self.on_beat, column))


PLAIN = Choices()


Against = Literal["apart", "first after", "last after", "first before", "last before"]
"""What speaks against a name of several words: something parts them (a comma, a wide gap), or its first or last word
stands again, alone, right after it or right before it."""


class Named(Struct, frozen=True):
    """A card's name of several words as it was read, where its words are names too.

    `sizes`: of how many of its words another name may be that begins with it, the longest first.
    """

    text: str
    card: Card
    column: int
    end: int
    sizes: tuple[int, ...]
    against: frozenset[Against] = frozenset()


class Division(Struct, frozen=True):
    """A lone division before a word of several sounds: where it stands, and on which places these fall; `squeezed`:
    closer together than usual, before the next count that is said."""

    text: str
    word: str
    column: int
    end: int
    places: tuple[Fraction, ...]
    squeezed: bool = False
