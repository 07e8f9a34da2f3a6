"""Counts as said turned into places: numbers, the divisions around them, and the state between lines."""

from collections.abc import Iterable, Iterator, Sequence
from fractions import Fraction
from itertools import pairwise

from msgspec import Struct

from firn.core.footing.stance import OPENING, Stance
from firn.core.meter.counting import Counting
from firn.core.script.items import Bar, Item, Repeat, Word, WordRun
from firn.core.script.problems import Problem
from firn.core.script.tree import Atom, Counts

MOST_COUNTED = 64
"""The highest number that is counted through over several phrases."""
FINEST = 64
"""The most parts of a count that one may be written out in: finer than feet are, and a measure goes over each."""


class Entry(Struct, frozen=True):
    """What a line needs to know of the lines before it.

    `at`: the last place taken. `first`: the place of the part's first number, None if it has none. `base`: a
    place that is said as 1; another than 0 where a teacher counts by bars inside a longer phrase. `feet`: how the
    feet stand, up to the mirror image. `early`: how many counts before the 1 words begin that open the part without
    counts.
    """

    at: Fraction | None = None
    first: Fraction | None = None
    started: bool = False
    base: Fraction = Fraction(0)
    feet: Stance = OPENING
    early: int = 0


def atoms_of(items: Iterable[Item]) -> Iterator[Atom | None]:
    """All atoms of some items in order; None stands for a bar."""
    for item in items:
        if isinstance(item, Bar):
            yield None
        elif isinstance(item, Repeat):
            yield from atoms_of(item.body)
        elif isinstance(item, WordRun):
            for group in item.counts:
                yield from group.atoms


def run_together(digits: str, phrase: int) -> bool:
    """Whether digits such as "123" are counts without spaces."""
    return (
        len(digits) > 1
        and digits.isdecimal()
        and int(digits[:9]) > phrase
        and all(int(b) == int(a) + 1 for a, b in pairwise(digits))
    )


def first_number(items: Iterable[Item], phrase: int) -> Fraction | None:
    """The place of the first number in some items; None if there is none.

    A first number in the last half of the phrase is a pick-up if the 1 follows, said or passed; | before 1 forces it.
    """
    # Only as far as the first that goes down: of a long part a few are asked for.
    numbers = (a.number if a else None for a in atoms_of(items) if a is None or a.number is not None)
    first = next(numbers, None)
    if first is None:
        return None
    if run_together(str(first), phrase):
        first = int(str(first)[0])
    first = (first - 1) % phrase + 1
    before = first
    for number in numbers:
        if number is None:
            return Fraction(first - before - 1)
        if not 1 <= number <= phrase:
            # That is told where it is read, and nothing is counted by it.
            continue
        if number < before:
            # Words without counts may stand on the 1: 8 stomp hop 2 step.
            near = number == 1 or 2 * ((number - before) % phrase) <= phrase
            pickup = near and 2 * first > phrase
            return Fraction(first - 1 - phrase if pickup else first - 1)
        before = number
    return Fraction(first - 1)


class CountReader:
    """Reads one line's counts from the state that the lines before it left; never raises for any text."""

    def __init__(
        self, counting: Counting, entry: Entry, tradition: str = "", *, stated_phrase: bool = True, line: int = 0
    ) -> None:
        self.counting, self.tradition, self.stated_phrase, self.line = counting, tradition, stated_phrase, line
        self.problems: list[Problem] = []
        self.at, self.first, self.started, self.base = entry.at, entry.first, entry.started, entry.base
        self.feet, self.early = entry.feet, entry.early
        self._spoken: dict[int, frozenset[str]] = {}
        # Where the next slow or quick falls, and where a slow one fell.
        self._due: Fraction | None = None
        self._slow: dict[Fraction, int] = {}

    @property
    def after(self) -> Entry:
        """The state after what has been read."""
        return Entry(self.at, self.first, self.started, self.base, self.feet, self.early)

    def problem(self, code: str, at: Counts | Word, message: str) -> None:
        self.problems.append(Problem(code, self.line, at.column, at.end, message))

    def hear(self, items: Sequence[Item]) -> None:
        """Note which letters are said within each count of the line, so that "& a" is told from a lone &."""
        segment: list[int] = []
        letters: set[str] = set()

        def end() -> None:
            self._spoken.update(dict.fromkeys(segment, frozenset(letters)))
            segment.clear()
            letters.clear()

        for atom in atoms_of(items):
            if atom is None or atom.number is not None or atom.pace:
                end()
            else:
                segment.append(id(atom))
                letters.add(atom.letter)
        end()

    def resolve(self, groups: Sequence[Counts]) -> list[tuple[Fraction, Fraction]]:
        """Place and length of every atom of some groups, and move on past them."""
        found: list[tuple[Fraction, Fraction]] = []
        for group in groups:
            numbers = [i for i, a in enumerate(group.atoms) if a.number is not None]
            for i, atom in enumerate(group.atoms):
                if atom.number is not None:
                    place, length = self._number(atom, group), self._length(atom, group)
                    self._takes(place, atom.pace)
                elif atom.pace:
                    place, length = self._paced(), Fraction(0)
                    self._takes(place, atom.pace)
                else:
                    later = next((n for n in numbers if n > i), None)
                    ahead = group.atoms[later] if later is not None else None
                    place, length = self._letter(atom, group, ahead), Fraction(0)
                found.append((place, length))
                self.at = place + max(length - 1, Fraction(0))
        return found

    def _paced(self) -> Fraction:
        """The place of a slow or a quick: when the one before it is over."""
        if self._due is not None and (self.at is None or self._due > self.at):
            return self._due
        return self.first or Fraction(0) if self.at is None else Fraction(self.at // 1 + 1)

    def _takes(self, place: Fraction, counts: int) -> None:
        """What is on a place takes so many counts, 0 for nothing that is said of it."""
        self._due = place + counts if counts else None
        if counts > 1:
            self._slow[place] = counts

    def _length(self, atom: Atom, group: Counts) -> Fraction:
        if atom.through is None or atom.number is None:
            return Fraction(0)
        phrase = self.counting.phrase
        if atom.through > phrase and atom.number < atom.through <= MOST_COUNTED:
            # "9-16": counted on through.
            return Fraction(atom.through - atom.number + 1)
        if not 1 <= atom.through <= phrase:
            self.problem("N105", group, f"Count {atom.through} is past the phrase of {phrase}.")
            return Fraction(1)
        return Fraction((atom.through - atom.number) % phrase + 1)

    def _number(self, atom: Atom, group: Counts) -> Fraction:
        assert atom.number is not None
        number, phrase = atom.number, self.counting.phrase
        # "the and of 2".
        extra = self.counting.division(atom.letter, among=frozenset({atom.letter})) if atom.letter else None
        extra = extra or Fraction(0)
        if atom.extra:
            top, under = atom.extra[1:].split("/")
            extra = Fraction(int(top), int(under)) if int(under) else Fraction(0)
            if not 0 < extra < 1:
                self.problem("N105", group, f"{atom.extra} is no part of a count.")
                extra = Fraction(0)
            elif extra.denominator > FINEST:
                self.problem("N105", group, f"{atom.extra} is too fine: a count has up to {FINEST} parts.")
                extra = Fraction(0)
        if number > phrase and self._counted_through(number):
            return Fraction(number - 1) + extra
        if not 1 <= number <= phrase:
            self.problem("N105", group, f"Count {number} is past the phrase of {phrase}.")
            return Fraction(0) if self.at is None else Fraction(self.at // 1 + 1)
        if self.at is None:
            first = Fraction(number - 1) if self.first is None else self.first
            self.base = (first - number + 1) % phrase
            return first + extra
        return self._after(number, extra, group)

    def _counted_through(self, number: int) -> bool:
        """Whether a number past the phrase goes on from the counts before it, counted through: 9 after 8."""
        if self.at is None or number > MOST_COUNTED:
            return False
        phrase, place = self.counting.phrase, Fraction(number - 1)
        near = self.at < place <= self.at // 1 + phrase
        return near and self._said(place) == (number - 1) % phrase + 1

    def _said(self, place: Fraction) -> int:
        """The number that the teacher says in a place's count."""
        return self.counting.number(place - self.base)

    def _after(self, number: int, extra: Fraction, group: Counts) -> Fraction:
        assert self.at is not None
        counting, phrase = self.counting, self.counting.phrase
        whole = self.at // 1
        heard = self._said(self.at)
        ahead = (number - heard) % phrase
        bar = counting.meter.counts
        if number == 1 and ahead and not self.stated_phrase and heard % bar == 0:
            # She counts by bars: 1 2 3, 1 2 3.
            ahead = 1
            self.base = Fraction(whole + 1)
        place = whole + ahead + extra
        down = number < heard and number != 1 and 2 * ahead > phrase
        if place < self.at or down:
            said = counting.name(self.at)
            self.problem("N102", group, f"Count {number} comes after {said}: counts go up, through 1.")
            # Halfway on, where it takes no whole count from what follows.
            return (self.at + whole + 1) / 2
        # Where it is the same place, whoever places the word says so.
        return Fraction(place)

    def _letter(self, atom: Atom, group: Counts, ahead: Atom | None) -> Fraction:
        letters = self._spoken.get(id(atom)) or frozenset(a.letter for a in group.atoms if a.letter)
        share = self.counting.division(atom.letter, among=letters)
        if share is None:
            self.problem(
                "N114", group, f'There is no "{atom.letter}" in {self.counting.meter}: a count is said 1 & a.'
            )
            share = Fraction(2, 3)
        if ahead is not None and ahead.number is not None:
            number = (ahead.number - 1) % self.counting.phrase + 1
            if self.at is None:
                return (Fraction(number - 1) if self.first is None else self.first) - 1 + share
            heard = self._said(self.at)
            distance = (number - heard) % self.counting.phrase
            if number == 1 and not self.stated_phrase and heard % self.counting.meter.counts == 0:
                distance = 1
            # Where that is taken already, whoever places the word says so.
            return Fraction(self.at // 1 + distance - 1 + share)
        if self.at is None:
            return (Fraction(0) if self.first is None else self.first - 1) + share
        place = self.at // 1 + share
        return Fraction(place if place > self.at else place + 1)


def count_text(places: Sequence[Fraction], counting: Counting, *, exact: bool = False) -> str:
    """Places as counts: "&3", "1e&a", "8 1 2 &3 &"; `exact` writes "2+1/3" for whatever is no whole count."""
    whole = {p for p in places if p.denominator == 1}
    groups: list[str] = []
    fresh = True
    for place in places:
        letter = counting.letter(place)
        number = str(counting.number(place))
        if not letter:
            groups.append(number) if fresh else groups.__setitem__(-1, groups[-1] + number)
            fresh = place + 1 in whole or place + 1 <= max(places)
            continue
        inside = place % 1
        if exact or "/" in letter:
            groups.append(f"{number}+{inside.numerator}/{inside.denominator}")
            fresh = True
            continue
        leads = place // 1 + 1 in whole
        begins = not groups or (leads and (fresh or _before(places, place) // 1 != place // 1))
        begins = begins or (leads and _before(places, place).denominator == 1)
        # What follows a count that divisions lead into stands for itself: "&3 &".
        begins = begins or (not leads and groups[-1][0] in "&ae" and groups[-1][-1].isdigit())
        if begins:
            groups.append(letter)
        else:
            groups[-1] += letter
        fresh = not leads
    return " ".join(groups)


def _before(places: Sequence[Fraction], place: Fraction) -> Fraction:
    return max((p for p in places if p < place), default=place - 1)
