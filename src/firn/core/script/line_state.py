"""What is known of a line while its runs are collected: counts, words, and what waits for a word."""

from collections.abc import Sequence

from firn.core.script import said as say
from firn.core.script.choices import Choices, Named, Open
from firn.core.script.items import Item, Word
from firn.core.script.problems import Problem
from firn.core.script.tree import Bit, Counts, Group, Node
from firn.core.steps.shelf import Shelf

_NEAR = 24
"""Letters around a foot that may say what it is said of."""
_LEADING = frozenset({"lead", "leads", "first", "primero"})


class LineState:
    """One line's items so far; problems are in columns of that line."""

    def __init__(self, shelf: Shelf, tradition: str, choices: Choices, text: str) -> None:
        self.shelf, self.tradition, self.choices, self.text = shelf, tradition, choices, text
        self.items: list[Item] = []
        self.problems: list[Problem] = []
        self.named: list[Named] = []
        self.open: list[Open] = []
        # What "x3" covers begins here: after so many items and words of the next, and on which column.
        self._bound = (0, 0, 0)
        # The same where it is said after a pause or in brackets, as it was before in the line: behind that.
        self._parted_from: tuple[int, int, int] | None = None
        self._counts: list[Counts] = []
        self._words: list[Word] = []
        self._side: tuple[str, Bit] | None = None
        # Where the next word goes, said before it.
        self._where_ahead: tuple[str, Bit] | None = None
        self._join: Bit | None = None
        # How often the next word is danced, where that is said before it; where the words after a pause begin.
        self._many: tuple[int, Bit] | None = None
        # The feet that the next word is danced with, one after another; how loud it is.
        self._feet_ahead: tuple[tuple[str, ...], Bit] | None = None
        self._level = 0
        self._since = 0
        # The foot that stands over what comes, and where that begins: right foot: heel, toe.
        self._over: tuple[str, int] | None = None
        # Whether how often is said before its step, where the line says it so first.
        self._often_ahead = False
        # The words up to the next count or pause, from one place of some tokens to another, and the last of them that
        # is not where a step goes.
        self._run: tuple[Sequence[Node], int, int, int] | None = None
        # Whether two steps were joined that are said to sound together.
        self._at_once = False
        # Whether "and" links the counts that it stands between.
        self._lists = False
        self._only_count = False
        # The columns of tokens that stand further from the one before than others do.
        self._wide: frozenset[int] = frozenset()
        # Whether the line has no counts at all.
        self._uncounted = False
        # Whether its numbers stand before plurals and do not go up.
        self._how_many = False
        # Where a number stands that is rather how many than a count.
        self._many_at: int | None = None
        # Where one stands that may be so, too.
        self._asked_at: int | None = None
        # Whether its numbers in words, which count up, are its counts.
        self._numbered = False
        # Whether it has no counts in figures; whether a number in words has said how many.
        self._no_figures = False
        self._counted_out = False
        # Whether an "and" after a pause is the & before its count; None where none was met.
        self._leads: bool | None = None
        # On which columns a "one" is how many of its step there are.
        self._lone_ones: frozenset[int] = frozenset()

    def problem(self, code: str, at: Bit | Counts | Group, message: str, nearest: tuple[str, ...] = ()) -> None:
        self.problems.append(Problem(code, 0, at.column, at.end, message, nearest))

    def _stands_over(self, foot: Bit) -> bool:
        """Whether a foot is said of all that comes: starting left, clap; left foot: clap."""
        before = self.text[max(0, foot.column - _NEAR) : foot.column].casefold().split()
        led_to = before[:1] == self.text[: foot.column].casefold().split()[:1] and bool(
            (say.ON | say.WITH) & set(before[:1])
        )
        while before and before[-1] in say.THE | say.WITH | say.ON:
            before.pop()
        after = self.text[foot.end : foot.end + _NEAR].casefold()
        said, colon, _ = after.partition(":")
        headed = bool(colon) and all(word in say.FEET | say.A_SIDE | _LEADING for word in said.split())
        # "left foot lead, clap".
        said, comma, _ = after.partition(",")
        leads = said.split() if comma else []
        led = bool(leads) and leads[-1] in _LEADING and all(word in say.FEET | _LEADING for word in leads)
        # "on the right foot, hold".
        led = led or (led_to and not before and bool(comma) and all(word in say.FEET for word in leads))
        return headed or led or (bool(before) and before[-1] in say.STARTS | say.FROM)

    def _foot_said(self) -> bool:
        """Whether the side that waits is said to be a foot's: left foot, starting left."""
        if self._side is None:
            return False
        at = self._side[1]
        before = self.text[max(0, at.column - _NEAR) : at.column].split()[-1:]
        after = self.text[at.end : at.end + _NEAR].split(":")[0].split()[:1]
        return any(word.casefold() in say.FEET for word in after) or any(
            word.casefold() in say.STARTS for word in before
        )

    def _steps(self, feet: Sequence[str], said: Bit) -> list[Word]:
        """A step with each of some feet that were said alone."""
        card = self.shelf.find("step", self.tradition)
        return [Word("step", card, said.column, said.end, side=foot) for foot in feet]
