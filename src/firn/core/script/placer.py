"""Words put in their places one by one: by counts of their own, by their usual ones, after the one before."""

from collections.abc import Sequence
from fractions import Fraction
from typing import NamedTuple

from msgspec.structs import replace

from firn.core.meter.counting import Counting
from firn.core.script.choices import PLAIN, Choices, Open, OpenCode
from firn.core.script.counts import CountReader, Entry, count_text
from firn.core.script.items import Word
from firn.core.script.places import MOST_WORDS, Use, span_of, usual_places
from firn.core.script.tree import Counts
from firn.core.steps.shelf import shipped


class Listed(NamedTuple):
    """A word with a list of counts, where that stands, its places, the last place that was taken before it, and what
    is danced between these places."""

    word: Word
    column: int
    places: tuple[Fraction, ...]
    start: Fraction | None
    within: tuple[tuple[Fraction, str], ...] = ()

    @property
    def every(self) -> tuple[Fraction, ...]:
        """All these places, in order."""
        return tuple(sorted((*self.places, *(place for place, _ in self.within))))

    def with_within(self, word: Word, places: Sequence[Fraction]) -> "Listed":
        """The same with one more word that takes turns with it."""
        return self._replace(within=(*self.within, *((place, word.text) for place in places)))


class WordPlacer(CountReader):
    """Places words; makes no sound of its own and never raises for any text."""

    def __init__(
        self,
        counting: Counting,
        entry: Entry,
        tradition: str = "",
        *,
        stated_phrase: bool = True,
        choices: Choices = PLAIN,
    ) -> None:
        super().__init__(counting, entry, tradition, stated_phrase=stated_phrase)
        self.uses: list[Use] = []
        self.unknown: list[Fraction] = []
        self.open: list[Open] = []
        self._fitted = False
        # Whether what is said without counts at first leads up to a number.
        self._leads_to_number = False
        # Whether the counts of a run stand behind several of its words.
        self._between_words = False
        # Whether words without counts follow the one that has some, and whether other counts do.
        self._followed = self._counted_on = False
        # Whether other counts follow in the line, if only a division.
        self._counted_later = False
        # Whether the words are in brackets that something follows, if only themselves.
        self._again_led = False
        # The counts of the run.
        self._own_groups: tuple[Counts, ...] = ()
        # The last word that had a list of counts, if that came right before.
        self._list: Listed | None = None
        self._choices = choices
        self._ahead: int | None = None

    def _put(self, word: Word, places: Sequence[Fraction], lengths: Sequence[Fraction], *, copy: int = 0) -> None:
        if not places:
            return
        if self.at is not None and places[0] <= self.at:
            self.problem(
                "N104" if places[0] == self.at else "N102",
                word,
                f'"{word.text}" falls on {self.counting.name(places[0])}, '
                + (
                    "where another word is: join them with + or move one."
                    if places[0] == self.at
                    else f"before the end of the word on {self.counting.name(self.at)}."
                ),
            )
        if word.card is None:
            self.unknown += places
            self.at = places[-1] + max(lengths[-1] - 1, Fraction(0))
            self.started = True
            return
        lasting = tuple(
            max(n, Fraction(1)) if word.card.beats[i].kind.name == "hold" else max(n, Fraction(0))
            for i, n in enumerate(lengths)
        )
        use = Use(word.card, word, self.line, tuple(places), lasting, word.side, copy)
        self.uses.append(use)
        last = max(use.last, self._slowed(use))
        for other in word.joined:
            last = max(last, self._join(other, places[0]))
        self.at = max(last, self.at) if self.at is not None else last

    def _slowed(self, use: Use) -> Fraction:
        """Hold after a word that is danced slow; gives the last place that is taken."""
        place = next((p for p in use.places if p in self._slow), None)
        if place is None:
            return use.last
        hold = shipped().called_so("hold", "")
        assert hold is not None
        length = Fraction(self._slow[place] - 1)
        word = Word("hold", hold, use.word.column, use.word.end)
        self.uses.append(Use(hold, word, self.line, (place + 1,), (length,)))
        return place + length

    def _join(self, word: Word, place: Fraction) -> Fraction:
        if word.card is None:
            return place
        usual, anchor = usual_places(word.card, self.counting, self.tradition)
        places = tuple(u - anchor + place for u in usual)
        use = Use(word.card, word, self.line, places, tuple(Fraction(0) for _ in usual), word.side)
        self.uses.append(use)
        return use.last

    def _times(self, word: Word) -> None:
        if word.times > 1:
            # It was put last, with what is joined to it.
            own = (n for n in range(len(self.uses) - 1, -1, -1) if self.uses[n].word == word)
            head = next(own, None)
            if head is not None and self.uses[head].line == self.line:
                self._again(self.uses[head:], word.times, kept=word.keeps_foot and not self._choices.before)

    def _again(self, body: Sequence[Use], times: int, *, other: bool = False, kept: bool = False) -> None:
        """Dance some words again, so often in all; `other`: every second time on the other side; `kept`: each time
        with the foot that is written."""
        if len(body) * times > MOST_WORDS:
            word = body[0].word
            self.problem("N111", word, f"Repeated {times} times this is more than {MOST_WORDS} words on one line.")
            return
        span = span_of(body)
        for copy in range(1, times):
            later = Fraction(span * copy)
            moved = [use.moved(later, copy=use.copy + copy) for use in body]
            if other:
                swapped = copy % 2 == 1
                moved = [new.on_side(old, swapped=swapped) for new, old in zip(moved, body, strict=True)]
                moved[0] = replace(moved[0], across=later)
            elif kept:
                moved = [replace(new, side=old.side) for new, old in zip(moved, body, strict=True)]
            self.uses += moved
        if times > 1:
            self.at = max(use.last for use in body) + span * (times - 1)

    def _next_number(self, place: Fraction) -> Fraction | None:
        """The place of the next number that is said after a place, in its line or at the head of the next."""
        phrase = self.counting.phrase
        if self._ahead is None or not 1 <= self._ahead <= phrase:
            return None
        away = (self._ahead - self._said(place)) % phrase or phrase
        return Fraction(place // 1 + away)

    def _follow(self, word: Word, *, leads: bool = False) -> None:
        """A word without counts: the earliest beat that puts its first sound after the last one; `leads`: another
        follows it."""
        if word.card is None:
            return
        usual, anchor = usual_places(word.card, self.counting, self.tradition)
        if self.at is not None:
            shift = Fraction((self.at - usual[0]) // 1 + 1)
        elif self.first is None:
            # With no number and no word to lead up to, a word without a beat of its own lies in count 1.
            shift = Fraction(0 if anchor in usual or leads else 1)
        else:
            shift = Fraction(-self.early)
            if self.early and self.first >= 1 and self._leads_to_number and not self._choices.before:
                number = self.counting.name(self.first)
                said = f"What is danced before {number} takes more counts than there are"
                self.problem("N120", word, f"{said}: say on which count it begins.")
        self._put(word, [u + shift for u in usual], [Fraction(0)] * len(usual))
        self._times(word)

    def _anchor(self, word: Word, place: Fraction, length: Fraction) -> None:
        assert word.card is not None
        usual, anchor = usual_places(word.card, self.counting, self.tradition)
        if self.at is None and self.first == place and not self.uses and not self.unknown:
            # What begins late in the phrase and runs past its end begins before the 1.
            number = place % self.counting.phrase + 1
            runs = place + max(usual) - anchor >= self.counting.phrase
            if runs and 2 * number > self.counting.phrase:
                place -= self.counting.phrase
        lengths = [length if u == anchor else Fraction(0) for u in usual]
        self._put(word, [u - anchor + place for u in usual], lengths)

    def _left_open(self, code: OpenCode, word: Word, group: Counts, places: Sequence[Fraction]) -> None:
        """Note how a lone division was taken."""
        exact = any("/" in self.counting.letter(p) for p in places)
        said = f"{count_text(places, self.counting, exact=exact)} {word.said}"
        self._opened(code, [group], word, said, {"squeezed": 6, "on_beat": 8}.get(code, 0))

    def _opened(self, code: OpenCode, groups: Sequence[Counts], word: Word, written: str, cost: int) -> None:
        """Note what counts and their word leave open, whichever is said first; nothing where other words stand
        between them, which would be written over."""
        if self._between_words:
            return
        column, end = groups[0].column, max(word.end, groups[-1].end)
        self.open.append(Open(code, column, end, written, cost, since=word.column if word.column < column else None))
