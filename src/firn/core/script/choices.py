"""Where a line is open: what may be read in more ways than one, and which of them is tried."""

from typing import Literal

from msgspec import Struct
from msgspec.structs import replace

from firn.core.steps.card import Card


class Choices(Struct, frozen=True):
    """What is tried of a line that is open; nothing for what it plainly says.

    `sizes`: for the column on which a name begins, of how many words it is at most. `otherwise`: the columns of what
    is taken the other way. `untied`: no sound is tied to the foot of one before it. `before`: as lines were
    read before they were read as they are said. `cards`: for the column of a name of several cards, which of them.
    """

    sizes: tuple[tuple[int, int], ...] = ()
    otherwise: frozenset[int] = frozenset()
    untied: bool = False
    before: bool = False
    cards: tuple[tuple[int, int], ...] = ()

    @property
    def columns(self) -> frozenset[int]:
        """The columns on which anything is chosen."""
        return self.otherwise.union((at for at, _ in self.sizes), (at for at, _ in self.cards))

    def size(self, column: int, most: int) -> int:
        """Of how many words a name that begins on a column is at most."""
        return next((size for at, size in self.sizes if at == column), most)

    def parted(self, column: int, size: int) -> "Choices":
        """The same with a name of fewer words."""
        return replace(self, sizes=(*(s for s in self.sizes if s[0] != column), (column, size)))

    def meant(self, column: int) -> int:
        """Which of its cards a name means that begins on a column."""
        return next((number for at, number in self.cards if at == column), 0)

    def meaning(self, column: int, number: int) -> "Choices":
        """The same with a name of several cards meaning another of them."""
        return replace(self, cards=(*(c for c in self.cards if c[0] != column), (column, number)))

    def here_as(self, other: "Choices", start: int, end: int) -> "Choices":
        """The same with what another chooses from one column up to another."""
        sizes = [s for s in self.sizes if not start <= s[0] < end]
        sizes += (s for s in other.sizes if start <= s[0] < end)
        otherwise = {c for c in self.otherwise if not start <= c < end}
        otherwise |= {c for c in other.otherwise if start <= c < end}
        cards = [c for c in self.cards if not start <= c[0] < end]
        cards += (c for c in other.cards if start <= c[0] < end)
        return replace(self, sizes=tuple(sizes), otherwise=frozenset(otherwise), cards=tuple(cards))

    def turned(self, column: int) -> "Choices":
        """The same with what stands on a column taken the other way."""
        return replace(self, otherwise=self.otherwise | {column})


PLAIN = Choices()
BEFORE = Choices(untied=True, before=True)


Against = Literal[
    "apart", "first after", "last after", "first before", "last before", "places", "in a row", "shared", "dropped"
]
"""What speaks against a name of several words: something parts them (a comma, a wide gap), or its first or last word
stands again, alone, right after it or right before it; or each of its words is a place to step to, and nothing is
counted, and more is said right beside them; or a heel or a toe may drop before a step, where nothing is counted."""


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


OpenCode = Literal[
    "led", "squeezed", "on_beat", "each", "once", "steps", "count_in", "all", "alone", "count", "many",
    "goes", "there", "means", "linked", "between", "held", "stepped", "shared", "alone_each", "spelled", "figure",
    "feet", "titled", "title", "so_often", "numbers", "sounds", "apiece", "in_turn", "onward", "pace_steps",
    "paced", "instead", "both_sides", "other_alone", "bare",
    "same_word", "step_there", "each_one", "last_ones", "steps_on", "each_on", "up_to",
    "so_many", "as_figure", "before_it", "that_foot", "feet_change", "paired", "unpaired",
    "next_phrase", "counting_on", "times_more", "times_in_all",
]  # fmt: skip
"""How counts that leave something open were taken.

A lone division before a word of several sounds: its first sound, the others squeezed in, or its beat. A range before
a figure: as often as it goes into it, or once. Numbers that open a part and end with the phrase: steps, or a
count-in. "x3" after several words: for all of them, or for the last alone. A number before a plural: a count, or how
many. A direction after a step without counts: where that goes, or one more step there.
A name of several cards, a heel or a toe said bare: one of them, for all of the piece or in place.
"And" between two counts: a link, or the & between them.
Several counts before a hold: all of them held, or danced with a hold after them.
A hyphen between two single sounds without counts: they share one, or have one each. Single sounds without counts
that are, in their order, those of a figure: as they are said, or the figure. Feet said before a step: it is danced
with the last and the others are steps, all of them are steps before it, or it is danced with each. A figure before a
colon: danced, or the name of what follows. Numbers
that count up, each before a step: how often it is danced, or the counts that it is on. As many numbers as a figure
has sounds, where it has several in a count: one of its sounds on each, or all of it. Two lists of counts of which the
second begins lower: they take turns, or it goes on, through 1. Slow or quick before a figure: a step of its
own, or how the figure goes. "Other side" at a line's end: the line, then the same on the other foot, or there alone.
A foot alone after a word with the other: that word once more, or a step. As many counts after several steps as there
are steps: one each, or all for the last. Counts that go on after a first step: steps, or that one on each. A
number before a word without a beat sound, on which nothing else falls: the word leads up to it, begins on it, or ends
on it. Single, double or triple right before one sound: so many of it, or the figure that is called so. Counts before
a figure: its own, or a step on each before it; in words before one sound: it is on each, or after them. A step with a
foot that is said, several times: with that foot each time, or from foot to foot. Pairs of heels and toes that open a
line: of both feet in turn, or each as it is by itself. Counts that begin again at 1 before the phrase is over: in the
next one, or they go on from those before. How often a line is repeated: so many times more, or in all.
"""

OTHER: dict[OpenCode, OpenCode] = {
    "squeezed": "on_beat", "each": "once", "steps": "count_in", "all": "alone", "alone": "all", "count": "many",
    "goes": "there", "linked": "between", "held": "stepped", "stepped": "held", "shared": "alone_each",
    "spelled": "figure", "titled": "title", "so_often": "numbers",
    "numbers": "so_often", "sounds": "apiece", "in_turn": "onward",
    "pace_steps": "paced", "paced": "pace_steps",
    "both_sides": "other_alone", "other_alone": "both_sides", "same_word": "step_there",
    "step_there": "same_word", "so_many": "as_figure",
    "each_one": "last_ones", "last_ones": "each_one", "steps_on": "each_on", "each_on": "steps_on",
    "that_foot": "feet_change", "feet_change": "that_foot", "paired": "unpaired",
    "next_phrase": "counting_on", "counting_on": "next_phrase", "times_more": "times_in_all",
}  # fmt: skip
"""Those that may be in doubt, with the other way to take them."""


OFTEN: dict[OpenCode, str] = {"times_more": "times more", "times_in_all": "times in all"}
"""Those that are told by how often something is danced."""


NAMED: frozenset[OpenCode] = frozenset({"means", "bare"})
"""Those whose way is what a word means in the whole piece."""

ASKED: frozenset[OpenCode] = frozenset(
    {
        "both_sides", "other_alone", "bare", "stepped", "steps_on", "step_there", "between", "feet", "that_foot",
        "feet_change", "count", "many", "paired", "next_phrase", "counting_on", "times_more", "before_it",
    }
)  # fmt: skip
"""Those whose other way is offered however unlikely it is."""


ANYWHERE: frozenset[OpenCode] = frozenset({"held", "stepped", "steps_on", "each_on", "up_to"})
"""Those that are in doubt once, whichever counts they are on."""


class Open(Struct, frozen=True):
    """Counts that leave something open, as they were taken.

    `column`, `end`: where they and their words stand; `written`: what is written there so that nothing is left open;
    `cost`: what speaks against taking them so; `since`: where what is covered begins, if that is further to the left.
    `many`: how many cards a name has, or how many ways there are; `number`: the number that is a count or how many.
    """

    code: OpenCode
    column: int
    end: int
    written: str
    cost: int = 0
    since: int | None = None
    many: int = 0
    number: int = 0
