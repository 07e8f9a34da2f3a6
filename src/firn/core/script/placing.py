"""Where words fall: counts as said turned into places, line by line from the state on entry."""

from collections.abc import Sequence
from fractions import Fraction
from itertools import chain, pairwise, takewhile

from msgspec.structs import replace

from firn.core.meter.counting import Counting
from firn.core.script.choices import PLAIN, Choices, Open, OpenCode
from firn.core.script.counted import CountedPlacer
from firn.core.script.counts import Entry, atoms_of, first_number, run_together
from firn.core.script.items import Bar, BarAt, Item, Repeat, Word, WordRun
from firn.core.script.places import PlacedLine, counts_of, lasts, usual_places
from firn.core.script.problems import other_length
from firn.core.script.tree import Atom, Counts


class Placer(CountedPlacer):
    """Places one line; makes no sound of its own and never raises for any text."""

    def place(self, items: Sequence[Item], ahead: int | None = None) -> None:
        """Place a line's items; `ahead`: the first number of the next line."""
        self.hear(items)
        said = next(atoms_of(items), None)
        # What leads up to "a stamp" begins when it likes.
        self._leads_to_number = said is None or said.number is not None
        led = _uncounted(items)
        if self.at is None and self.first is not None and 0 < len(led) < len(items):
            trial = Placer(self.counting, self.after, self.tradition, stated_phrase=self.stated_phrase)
            trial._each(led, None)
            self.early = _early(trial.at, self.first, self.counting.phrase)
        self._each(items, ahead)

    def _each(self, items: Sequence[Item], ahead: int | None) -> None:
        for index, item in enumerate(items):
            following = _first_number(items[index + 1 :], ahead)
            if isinstance(item, Bar):
                # What follows is count 1 of the part.
                self.base = Fraction(0)
            elif isinstance(item, BarAt):
                self._begin_bar(item)
            elif isinstance(item, Repeat):
                before = len(self.uses)
                self._again_led = item.times > 1 or index + 1 < len(items)
                # What is danced again is followed by itself, not by what stands behind the brackets.
                self._each(item.body, None if item.times > 1 else following)
                self._again_led = False
                if body := self.uses[before:]:
                    kept = len(body) == 1 and body[0].word.keeps_foot and not self._choices.before
                    self._again(body, item.times, other=item.other, kept=kept)
            else:
                self._ahead, self._counted_later = following, any(atoms_of(items[index + 1 :]))
                self._run(item)

    def _begin_bar(self, bar: BarAt) -> None:
        """Go to the first count of a bar of the part, or of an eight: it is said as 1."""
        long = bar.long or self.counting.meter.counts
        base = Fraction((bar.number - 1) * long)
        follows = self.base == base - long or not self.base
        if bar.long and self.at is not None and (bar.number == 1 or not follows):
            # The eights of another section: the first begins there, the others follow on it.
            after = Fraction(self.at // 1 + 1)
            base = after if bar.number == 1 else self.base + -(-(after - self.base) // long) * long
        if self.at is not None and self.at // 1 >= base:
            shown = Counts((), "", bar.column, bar.end)
            said = f"{_CALLED.get(bar.long or 0, 'Bar')} {bar.number}"
            self.problem("N102", shown, f"{said} has begun already: {self.counting.name(self.at)} is in it.")
            return
        self.base, self.at, self.started = base, base - 1, True

    def _run(self, run: WordRun) -> None:
        groups, words = list(run.counts), list(run.words)
        if not words:
            if groups and not self._count_in(groups, ()):
                shown = Counts((), "", groups[0].column, groups[-1].end)
                self.problem("N108", shown, "These counts have no word: write hold where nothing sounds.")
                self.resolve(groups)
                self.unknown.append(self.at or Fraction(0))
            return
        groups = self._spread(self._counted_out(self._spaced(groups), words), words)
        self._between_words = bool(groups) and len(words) > 1 and words[1].column < groups[-1].column
        self._followed, self._counted_on = len(words) > len(groups), len(groups) > 1
        self._own_groups = tuple(groups)
        known = [w for w in words if w.card is not None]
        if known and len(known) < len(words) and len(groups) == len(known):
            # "1 double shuffle": the word that is not known goes with the one that is.
            words = known
        needed = self._sounds(words)
        if not self.started and (needed != sum(len(g.atoms) for g in groups) or len(words) == len(groups) > 1):
            cut = self._count_in(groups, words)
            groups = groups[cut:]
        self.started = True
        atoms = sum(len(g.atoms) for g in groups)
        if not groups:
            for word in words:
                self._follow(word, leads=len(words) > 1 or word.times > 1 or self._again_led)
        elif len(words) == 1 and self._one_a_time(words[0], groups):
            self._listed(replace(words[0], times=1, several=True), groups)
        elif len(words) == 1 and needed == atoms and self._one_each(words[0], groups):
            self._listed(replace(words[0], several=True), groups)
        elif len(words) == 1 and self._list is not None and self._fills_up(groups, self._list.every):
            self._listed(words[0], groups)
        elif len(words) == 1 and self._falls_within(groups):
            self._within(words[0], groups)
        elif needed == atoms:
            self._in_order(groups, words)
        elif len(words) == 1 and words[0].times == len(groups) > 1 and needed != atoms * len(groups):
            # "&1 &2 DS x2".
            for group, word in zip(groups, replace(words[0], times=1).at_each(len(groups)), strict=True):
                self._with_group(word, [group])
        elif len(words) == 1 and needed == 1 < atoms:
            self._listed(words[0], groups)
        elif len(words) == 1 and self._over_and_over(words[0], groups, needed):
            self._in_order(groups, [words[0], *[replace(words[0], side="")] * (atoms // needed - 1)])
        elif len(groups) == len(words):
            for group, word in zip(groups, words, strict=True):
                self._with_group(word, [group])
        elif len(groups) == 1:
            if self._ahead is None:
                self._begin_early(len(words) - 1)
            self._with_group(words[0], groups)
            if not self._fit_in(words[1:]):
                for word in words[1:]:
                    self._follow(word)
        elif len(words) == 1:
            self._listed(words[0], groups)
        elif needed and atoms % needed == 0 and all(map(_plain, groups)) and all(map(_once, words)):
            # "1 2 3 4 step touch": over and over, in order.
            again = [replace(word, side="") for word in words]
            self._in_order(groups, [*words, *again * (atoms // needed - 1)])
        else:
            shown = Counts((), "", groups[0].column, groups[-1].end)
            self.problem("N103", shown, f"{atoms} counts for {len(words)} words with {needed} sounds.")
            self._with_group(words[0], groups[:1])
            for word in words[1:]:
                self._follow(word)

    def _spread(self, groups: list[Counts], words: Sequence[Word]) -> list[Counts]:
        """Take a range before several words for a count of each sound, where they fill it: 1-2 step clap; and one
        among other counts of a step for each of its counts: 1, 3-4 stamp."""
        if len(groups) > 1 and len(words) == 1 and not self._choices.before and _strikes(words[0]):
            return [one for group in groups for one in _each_number(group)]
        atom = groups[0].atoms[0] if len(groups) == 1 and len(groups[0].atoms) == 1 else None
        if atom is None or atom.number is None or atom.through is None or len(words) < 2 or self._choices.before:
            return groups
        needed, length = self._sounds(words), atom.through - atom.number + 1
        first = [replace(groups[0], atoms=(Atom(atom.number, "", "", None),), text=str(atom.number))]
        takes = self._long(words)
        if needed != length and takes == length and not all(map(_once, words)):
            # "1-4 DS DS DS RS": from there on, one after another.
            return first
        over = length > needed > 0 and not length % needed and all(map(_once, words))
        if takes and takes != length and not over and _strikes(words[0]):
            shown = Counts((), "", groups[0].column, groups[0].end)
            self.problem("N103", shown, other_length(takes, length))
            return first
        if (needed != length and not over) or (over and self._once_through(groups[0], words, length // needed)):
            return first if over else groups
        numbers = range(atom.number, atom.through + 1)
        return [replace(groups[0], atoms=(Atom(n, "", "", None),), text=str(n)) for n in numbers]

    def _once_through(self, group: Counts, words: Sequence[Word], many: int) -> bool:
        """Note that single sounds on a range into which they go several times may be danced so often, or once, but
        where it may be a count-in; whether it is taken so."""
        if self.at is None and group.atoms[0].number != 1:
            return False
        once = group.column in self._choices.otherwise
        said = " ".join(word.said for word in words)
        number = group.atoms[0].number
        written = f"{number} {said}" if once else f"{number} ( {said} ) x{many}"
        self.open.append(Open("once" if once else "each", group.column, words[-1].end, written, 4 if once else 0))
        return once

    def _long(self, words: Sequence[Word]) -> int:
        """How many counts steps take one after another; 0 where that is not known."""
        cards = [(word.card, word.times) for word in words if word.card is not None and not word.joined]
        if len(cards) < len(words):
            return 0
        return sum(counts_of(card, self.counting, self.tradition) * times for card, times in cards)

    def _counted_out(self, groups: list[Counts], words: Sequence[Word]) -> list[Counts]:
        """Take numbers in a row before one figure that is longer than a count for how long it is, as 1-6 basic: it
        cannot be danced on each."""
        long = self._longer(words[0], groups) if len(words) == 1 and words[0].times == 1 else 0
        if not long or len(groups) % long or groups[-1].end > words[0].column:
            return groups
        first, last = groups[0].atoms[0].number, groups[-1].atoms[0].number
        if first is None or last is None or last - first + 1 != len(groups):
            return groups
        atom = Atom(first, "", "", last)
        return [Counts((atom,), f"{first}-{last}", groups[0].column, groups[-1].end)]

    def _one_a_time(self, word: Word, groups: Sequence[Counts]) -> bool:
        """Whether as many numbers are said after a figure as it is danced: flap x2 on 1 2."""
        said_after = bool(groups) and word.column < groups[0].column and not self._choices.before
        often = word.times == len(groups) > 1 and word.card is not None
        return said_after and often and all(map(_plain, groups))

    def _one_each(self, word: Word, groups: Sequence[Counts]) -> bool:
        """Whether a word is danced on each of as many numbers as it has sounds; said before them, and with several in
        a count, that is noted: flap on 1 2."""
        if word.several or len(groups) < 2 or word.card is None or self._choices.before:
            return word.several and len(groups) > 1 == word.times
        usual, _ = usual_places(word.card, self.counting, self.tradition)
        close = any(b - a < 1 for a, b in pairwise(usual)) and word.column < groups[0].column
        if not close or not all(map(_plain, groups)) or word.times > 1 or word.joined:
            return False
        column = groups[0].column
        each = column in self._choices.otherwise
        numbers = [str(group.atoms[0].number) for group in groups]
        apart = "  ".join(f"{n} {one.said}" for n, one in zip(numbers, word.at_each(len(numbers)), strict=True))
        said = apart if each else f"{' '.join(numbers)} {word.said}"
        self._opened("apiece" if each else "sounds", groups, word, said, 2 if each else 0)
        return each

    @staticmethod
    def _over_and_over(word: Word, groups: Sequence[Counts], needed: int) -> bool:
        """Whether counts with what is between them are those of one figure's sounds, danced several times: & 1 & 2
        flaps."""
        if word.card is None or len(word.card.beats) < 2 or word.times > 1 or word.joined:
            return False
        atoms = [atom for group in groups for atom in group.atoms]
        letters = [atom.letter for atom in atoms]
        plain = not any(atom.extra or atom.pace or atom.through is not None for atom in atoms)
        rounds = needed > 1 and len(atoms) % needed == 0 and letters == letters[:needed] * (len(atoms) // needed)
        numbers = [atom.number for atom in atoms if atom.number is not None]
        return plain and rounds and any(letters) and all(b == a + 1 for a, b in pairwise(numbers))

    def _begin_early(self, following: int) -> None:
        """Take the first number of a part as a pick-up where the words after it, one a count, run past its phrase."""
        phrase = self.counting.phrase
        if self.at is not None or self.first is None or 2 * (self.first + 1) <= phrase:
            return
        if self.first < phrase <= self.first + following:
            self.first -= phrase

    def _spaced(self, groups: list[Counts]) -> list[Counts]:
        """Take "123" for 1 2 3, and say so."""
        spaced = []
        for group in groups:
            digits = group.text
            if run_together(digits, self.counting.phrase):
                apart = " ".join(digits)
                self.problem("N106", group, f"{digits} is read as one number: write {apart}.")
                for i, digit in enumerate(digits):
                    atom = Atom(int(digit), "", "", None)
                    spaced.append(Counts((atom,), digit, group.column + i, group.column + i + 1))
            else:
                spaced.append(group)
        return spaced

    def _count_in(self, groups: list[Counts], words: Sequence[Word]) -> int:
        """How many leading groups are a count-in written out; says so if there are any.

        Before one word they are counts of its own, unless that is taken the other way.
        """
        if self.started or self.at is not None:
            return 0
        numbers = [g.atoms[0].number if len(g.atoms) == 1 else None for g in groups]
        size = 0
        while size < len(numbers) and (n := numbers[size]) is not None:
            if size and n != (numbers[size - 1] or 0) + 1:
                break
            size += 1
        ends = {self.counting.phrase, self.counting.meter.counts, 8, 4}
        if size < 3 or numbers[size - 1] not in ends:
            return 0
        if words and size == len(groups) and (numbers[0] == 1 or size == len(words)):
            # "5 6 7 8, flap flap stamp stamp".
            parted = bool(words) and words[0].column > groups[-1].end + 1
            once = all(map(_once, words)) or (parted and all(word.card is not None for word in words))
            return self._led_in(groups, words) if numbers[0] != 1 and once else 0
        if len(words) == 1 and size == len(groups):
            column, word = groups[0].column, words[0]
            led = column in self._choices.otherwise
            each = "  ".join(f"{n} {one.said}" for n, one in zip(numbers, word.at_each(len(numbers)), strict=True))
            self._opened("count_in" if led else "steps", groups, word, word.said if led else each, 4 if led else 0)
            self.first = None if led else self.first
            return size if led else 0
        said = " ".join(str(n) for n in numbers[:size])
        shown = Counts((), "", groups[0].column, groups[size - 1].end)
        self.problem("N107", shown, f'"{said}" is a count-in: leave it out, or write "count in: {said}" alone.')
        self.first = None
        return size

    def _led_in(self, groups: list[Counts], words: Sequence[Word]) -> int:
        """Note that the last counts before as many sounds that open a part may be theirs, or a count-in; how many of
        them are a count-in."""
        led = groups[0].column in self._choices.otherwise
        said = [word.said for word in words]
        each = "  ".join(f"{group.text} {one}" for group, one in zip(groups, said, strict=True))
        code: OpenCode = "count_in" if led else "steps"
        end = max(words[-1].end, groups[-1].end)
        self.open.append(Open(code, groups[0].column, end, ", ".join(said) if led else each, 4 if led else 0))
        self.first = None if led else self.first
        return len(groups) if led else 0


MOST_RANGED = 64


def _strikes(word: Word) -> bool:
    return word.card is not None and word.card.name != "hold" and not lasts(word.card)


def _each_number(group: Counts) -> list[Counts]:
    """A range as the counts that it goes over; any other as it is."""
    atom = group.atoms[0] if len(group.atoms) == 1 else None
    if atom is None or atom.number is None or atom.through is None or atom.extra:
        return [group]
    numbers = range(atom.number, min(atom.through, atom.number + MOST_RANGED) + 1)
    return [replace(group, atoms=(Atom(n, "", "", None),), text=str(n)) for n in numbers] or [group]


def _plain(group: Counts) -> bool:
    """Whether a group is one number alone."""
    atom = group.atoms[0]
    return len(group.atoms) == 1 and atom.number is not None and atom.through is None and not atom.letter


def _once(word: Word) -> bool:
    """Whether a word is one sound, said once."""
    return word.card is not None and len(word.card.beats) == 1 and word.times == 1 and not word.joined


def _first_number(items: Sequence[Item], ahead: int | None) -> int | None:
    """The first number that is said in some items; `ahead` where there is none."""
    return next((a.number for a in atoms_of(items) if a is not None and a.number is not None), ahead)


_CALLED = {4: "Four", 6: "Six", 8: "Eight"}
"""What so many counts are called, of which one is said by its number."""
MOST_OPENING = 24
"""So many lines without counts may lead up to the first number; more begin on count 1."""


def opening(lines: Sequence[Sequence[Item]], counting: Counting, tradition: str) -> Entry:
    """The state at the beginning of a part's lines: where its first number falls, and how early the words without
    counts begin that stand before it. Whole phrases of them go before the 1 of the next; what is less leads up to it.
    """
    first = first_number(chain.from_iterable(lines), counting.phrase)
    begins = Entry(first=first)
    opened = next((items for items in lines if items), ())
    if first is None or len(_uncounted(opened)) < len(opened):
        return begins
    entry = begins
    for number, items in enumerate(lines):
        leading = _uncounted(items)
        if number == MOST_OPENING:
            return begins
        entry = place_line(leading, counting, entry, tradition, stated_phrase=True).after
        if len(leading) < len(items):
            break
    return replace(begins, early=_early(entry.at, first, counting.phrase))


def _early(ends: Fraction | None, first: Fraction, phrase: int) -> int:
    """How many counts early what ends on a place begins, to end before the first number: whole phrases left out."""
    return int((ends - first) // 1 + 1) % phrase if ends is not None and ends >= first else 0


def _uncounted(items: Sequence[Item]) -> Sequence[Item]:
    """The items before the first that has counts of its own."""
    return list(takewhile(lambda item: not _counted(item), items))


def _counted(item: Item) -> bool:
    """Whether an item has counts of its own."""
    if isinstance(item, Repeat):
        return any(map(_counted, item.body))
    return not isinstance(item, WordRun) or bool(item.counts)


def place_line(
    items: Sequence[Item],
    counting: Counting,
    entry: Entry,
    tradition: str,
    stated_phrase: bool,
    choices: Choices = PLAIN,
    ahead: int | None = None,
) -> PlacedLine:
    """A line's words in their places, from the state that the lines before it leave and up to the first number of
    the one after it."""
    placer = Placer(counting, entry, tradition, stated_phrase=stated_phrase, choices=choices)
    placer.place(items, ahead)
    return PlacedLine(
        tuple(placer.uses),
        tuple(placer.unknown),
        tuple(placer.problems),
        placer.after,
        tuple(placer.open),
    )
