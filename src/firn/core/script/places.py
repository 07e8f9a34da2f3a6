"""Where words fall: counts as said turned into places, line by line from the state on entry."""

from collections.abc import Sequence
from fractions import Fraction
from functools import lru_cache

from msgspec import Struct
from msgspec.structs import replace

from firn.core.meter.counting import Counting
from firn.core.script.choices import PLAIN, Choices, Open, OpenCode
from firn.core.script.counts import CountReader, Entry, atoms_of, count_text, first_number, run_together
from firn.core.script.items import Bar, Item, Repeat, Word, WordRun
from firn.core.script.problems import Problem
from firn.core.script.tree import Atom, Counts, parse_line
from firn.core.steps.card import Card, whole_counts

MOST_WORDS = 4_096
"""Words that one line may come to, repeats and all: brackets in brackets multiply."""

MOST_SOUNDS = 20_000
"""Sounds in a part, and in a combo: said before more of them are made."""


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
    across: Fraction = Fraction(0)
    mirrored: bool = False

    def moved(self, by: Fraction, *, copy: int) -> "Use":
        """The same word later; a written foot holds for the first time only."""
        return replace(self, places=tuple(p + by for p in self.places), side="", copy=copy)

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


def said_places(text: str, counting: Counting) -> tuple[Fraction, ...]:
    """The places of counts as they are said by themselves, such as "&a1 &2"; raises ValueError for anything else."""
    # They are said in eights even where the piece's phrase is shorter.
    eights = replace(counting, phrase=8)
    nodes, brackets = parse_line(text)
    groups = [n for n in nodes if isinstance(n, Counts)]
    first = first_number([WordRun(tuple(groups), ())], 8)
    places = CountReader(eights, Entry(first=first or Fraction(0))).resolve(groups)
    if brackets or len(groups) != len(nodes) or len(places) != sum(len(g.atoms) for g in groups):
        raise ValueError(f'not counts: "{text}"')
    return tuple(place for place, _ in places)


_BETWEEN = (
    (Fraction(1, 2),),
    (Fraction(1, 2), Fraction(3, 4)),
    (Fraction(1, 4), Fraction(1, 2), Fraction(3, 4)),
)
"""Where one, two and three sounds between two counts fall."""

LASTING = frozenset({"hold", "slide", "turn", "sweep", "swivel", "pivot", "hand_down", "shift", "lift", "point"})
"""Kinds that last as long as a range of counts that is said of them."""


def lasts(card: Card) -> bool:
    """Whether a card on a range of counts lasts as long, and is not danced on each."""
    return len(card.beats) == 1 and card.beats[0].kind.name in LASTING


class Placer(CountReader):
    """Places one line; makes no sound of its own and never raises for any text."""

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
        # The places of the last word that had a list of counts, if that came right before.
        self._list: tuple[Fraction, ...] | None = None
        self._choices = choices
        self._ahead: int | None = None

    def place(self, items: Sequence[Item], ahead: int | None = None) -> None:
        """Place a line's items; `ahead`: the first number of the next line."""
        self.hear(items)
        for index, item in enumerate(items):
            numbers = (a.number for a in atoms_of(items[index + 1 :]) if a is not None and a.number is not None)
            self._ahead = next(numbers, ahead)
            if isinstance(item, Bar):
                # What follows is count 1 of the part.
                self.base = Fraction(0)
                continue
            if isinstance(item, Repeat):
                self._repeat(item)
            else:
                self._run(item)

    def _repeat(self, item: Repeat) -> None:
        before = len(self.uses)
        for inner in item.body:
            if isinstance(inner, WordRun):
                self._run(inner)
            elif isinstance(inner, Repeat):
                self._repeat(inner)
        body = self.uses[before:]
        if body:
            self._again(body, item.times)

    def _again(self, body: Sequence[Use], times: int) -> None:
        if len(body) * times > MOST_WORDS:
            word = body[0].word
            self.problem("N111", word, f"Repeated {times} times this is more than {MOST_WORDS} words on one line.")
            return
        span = span_of(body)
        for copy in range(1, times):
            self.uses += [use.moved(Fraction(span * copy), copy=use.copy + copy) for use in body]
        if times > 1:
            self.at = max(use.last for use in body) + span * (times - 1)

    def _run(self, run: WordRun) -> None:
        groups, words = list(run.counts), list(run.words)
        if not words:
            if groups and not self._count_in(groups, ()):
                shown = Counts((), "", groups[0].column, groups[-1].end)
                self.problem("N108", shown, "These counts have no word: write hold where nothing sounds.")
                self.resolve(groups)
                self.unknown.append(self.at or Fraction(0))
            return
        groups = self._spaced(groups)
        known = [w for w in words if w.card is not None]
        if known and len(known) < len(words) and len(groups) == len(known):
            # "1 double shuffle": the word that is not known goes with the one that is.
            words = known
        needed = self._sounds(words)
        if not self.started and needed != sum(len(g.atoms) for g in groups):
            cut = self._count_in(groups, words)
            groups = groups[cut:]
        self.started = True
        atoms = sum(len(g.atoms) for g in groups)
        if not groups:
            early = self._early(words)
            for word in words:
                self._follow(word, early=early)
        elif needed == atoms and not (len(words) == 1 and words[0].several and len(groups) > 1):
            self._in_order(groups, words)
        elif len(groups) == len(words):
            for group, word in zip(groups, words, strict=True):
                self._with_group(word, [group])
        elif len(groups) == 1:
            self._with_group(words[0], groups)
            if not self._fit_in(words[1:]):
                for word in words[1:]:
                    self._follow(word)
        elif len(words) == 1:
            self._listed(words[0], groups)
        else:
            shown = Counts((), "", groups[0].column, groups[-1].end)
            self.problem("N103", shown, f"{atoms} counts for {len(words)} words with {needed} sounds.")
            self._with_group(words[0], groups[:1])
            for word in words[1:]:
                self._follow(word)

    def _fit_in(self, words: Sequence[Word]) -> bool:
        """Put single sounds that have no count between the count said and the next, where that follows at once, as in
        1 step clap 2 step clap; whether they were."""
        if self.at is None or self._choices.before or not 0 < len(words) <= len(_BETWEEN):
            return False
        until = self._next_number(self.at)
        single = all(w.card is not None and len(w.card.beats) == 1 and w.times == 1 and not w.joined for w in words)
        if until is None and self._fitted:
            # The last of several is as the others were.
            until = self.at + 1
        if not single or until is None or until != self.at + 1 or self.at.denominator != 1:
            return False
        self._fitted = True
        if len(words) > 1:
            # Where between the counts each of several falls is nobody's rule.
            places = [until - 1 + share for share in _BETWEEN[len(words) - 1]]
            said = (f"{count_text([p], self.counting)} {w.text}" for p, w in zip(places, words, strict=True))
            self.open.append(Open("squeezed", words[0].column, words[-1].end, "  ".join(said)))
        for word, share in zip(words, _BETWEEN[len(words) - 1], strict=True):
            self._put(word, [until - 1 + share], [Fraction(0)])
        return True

    def _early(self, words: Sequence[Word]) -> int:
        """How many counts words that open a part must begin early, to end before its first number."""
        if self.at is not None or self.first is None:
            return 0
        trial = Placer(self.counting, self.after, self.tradition, stated_phrase=self.stated_phrase)
        for word in words:
            trial._follow(word)
        return int((trial.at - self.first) // 1 + 1) if trial.at is not None and trial.at >= self.first else 0

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
            return 0
        if len(words) == 1 and size == len(groups):
            column, word = groups[0].column, words[0]
            led = column in self._choices.otherwise
            each = "  ".join(f"{n} {word.text}" for n in numbers)
            way = Open("count_in", column, word.end, word.text, 4) if led else Open("steps", column, word.end, each)
            self.open.append(way)
            self.first = None if led else self.first
            return size if led else 0
        said = " ".join(str(n) for n in numbers[:size])
        shown = Counts((), "", groups[0].column, groups[size - 1].end)
        self.problem("N107", shown, f'"{said}" is a count-in: Firn counts in by itself, so leave it out.')
        self.first = None
        return size

    def _sounds(self, words: Sequence[Word]) -> int:
        return sum(len(w.card.beats) * w.times if w.card else 1 for w in words)

    def _in_order(self, groups: list[Counts], words: Sequence[Word]) -> None:
        before = self.at
        found = self.resolve(groups)
        self.at = before
        said = [group for group in groups for _ in group.atoms]
        for word in words:
            for copy in range(word.times):
                size = len(word.card.beats) if word.card else 1
                part, found = found[:size], found[size:]
                group, said = said[0] if said else groups[-1], said[size:]
                one = replace(word, side=word.side if not copy else "")
                each = word.card is not None and not lasts(word.card) and not self._choices.before
                if each and size == 1 and part and part[0][1] > 1:
                    self._fill(replace(one, times=1), group, *part[0])
                else:
                    self._put(one, [p for p, _ in part], [n for _, n in part], copy=copy)

    def _listed(self, word: Word, groups: list[Counts]) -> None:
        """Several counts before one word; those that fall between the ones of the list before are danced there."""
        before, self._list = self._list, None
        taken = len(self.uses)
        if self._choices.before:
            self._with_group(word, groups)
            return
        if before is not None and self._between(groups, before):
            # From the first of these on, which it follows.
            until, self.at = self.at, before[0]
            self._with_groups(word, groups)
            self.at = max(p for p in (self.at, until) if p is not None)
        else:
            self._with_groups(word, groups)
        places = tuple(p for use in self.uses[taken:] for p in use.places)
        self._list = places if len(groups) > 1 and places else None

    def _between(self, groups: Sequence[Counts], taken: Sequence[Fraction]) -> bool:
        """Whether counts begin between the first and the last of some others, and fall on none of them."""
        numbers = [group.atoms[0].number or 0 for group in groups if len(group.atoms) == 1]
        said = [self._said(place) for place in taken]
        if len(numbers) < max(2, len(groups)):
            return False
        return said[0] < numbers[0] < said[-1] and not set(numbers) & set(said)

    def _with_groups(self, word: Word, groups: list[Counts]) -> None:
        """Several counts before one word: it is danced on each, one of several sounds on each group."""
        size = len(word.card.beats) if word.card else 0
        atoms = [len(group.atoms) for group in groups]

        def fits(group: Counts) -> bool:
            """Whether a word of several sounds is danced on a group: on its beat, or each sound on a count."""
            return len(group.atoms) == size or (len(group.atoms) == 1 and group.atoms[0].number is not None)

        once = word.card is None or word.card.name == "hold" or word.times > 1
        if not once and size == 1 < sum(atoms):
            before = self.at
            found = self.resolve(groups)
            self.at = before
            for number, (place, length) in enumerate(found):
                self._put(replace(word, side="" if number else word.side), [place], [length])
        elif not once and size > 1 < len(groups) and (word.several or sum(atoms) != size) and all(map(fits, groups)):
            for number, group in enumerate(groups):
                self._with_group(replace(word, side="" if number else word.side), [group])
        else:
            self._with_group(word, groups)

    def _with_group(self, word: Word, groups: list[Counts]) -> None:
        size = len(word.card.beats) if word.card else 0
        atoms = sum(len(g.atoms) for g in groups)
        before = self.at
        found = self.resolve(groups)
        places, lengths = [p for p, _ in found], [n for _, n in found]
        self.at = before
        if word.card is None:
            self._put(word, places, lengths)
        elif word.card.name == "hold":
            for place, length in found:
                self._put(word, [place], [length])
        elif atoms == 1 and lengths[0] > 1 and not lasts(word.card) and not self._choices.before:
            self._fill(word, groups[0], places[0], lengths[0])
        elif atoms == size:
            self._put(word, places, lengths)
            self._times(word)
        elif (
            atoms == 1
            and groups[0].atoms[0].number is None
            and groups[0].column not in self._choices.otherwise
            and not self._choices.before
        ):
            self._led(word, groups[0], places[0])
            self._times(word)
        elif atoms == 1:
            self._anchor(word, places[0], lengths[0])
            if groups[0].atoms[0].number is None and size > 1:
                self._left_open("on_beat", word, groups[0], self.uses[-1].places)
            self._times(word)
        else:
            shown = Counts((), "", groups[0].column, groups[-1].end)
            sounds = "1 sound" if size == 1 else f"{size} sounds"
            self.problem("N103", shown, f'"{word.text}" has {sounds}; {atoms} counts are written.')
            self._anchor(word, places[0], Fraction(0))

    def _anchor(self, word: Word, place: Fraction, length: Fraction) -> None:
        assert word.card is not None
        usual, anchor = usual_places(word.card, self.counting, self.tradition)
        if self.at is None and self.first == place and not self.uses and not self.unknown:
            # A word that begins late in the phrase and runs past its end begins before the 1.
            number = place % self.counting.phrase + 1
            runs = place + max(usual) - anchor >= self.counting.phrase
            if runs and 2 * number > self.counting.phrase:
                place -= self.counting.phrase
        lengths = [length if u == anchor else Fraction(0) for u in usual]
        self._put(word, [u - anchor + place for u in usual], lengths)

    def _leads(self, group: Counts) -> bool:
        """Whether a group is a lone division that is the first sound of its word."""
        lone = group.atoms[0].number is None and not self._choices.before
        return lone and group.column not in self._choices.otherwise

    def _fill(self, word: Word, group: Counts, place: Fraction, length: Fraction) -> None:
        """A word on a range of counts: a single sound on each of them, a figure as often as it goes into them."""
        assert word.card is not None
        usual, anchor = usual_places(word.card, self.counting, self.tradition)
        span = max(word.card.counts, whole_counts(usual))
        if word.times > 1 and word.times * span != length:
            # How often is said: the range is where it begins.
            self._anchor(word, place, Fraction(0))
            self._times(word)
            return
        many = int(length // span) if length % span == 0 else 1
        if many > 1 and len(usual) > 1:
            begins, often = self.counting.number(place), f" x{many}"
            once = group.column in self._choices.otherwise
            said = f"{begins} {word.text}{'' if once else often}"
            self.open.append(Open("once" if once else "each", group.column, word.end, said, 4 if once else 0))
            many = 1 if once else many
        for copy in range(many):
            side = "" if copy else word.side
            one = replace(word, side=side, times=1)
            self._put(one, [u - anchor + place + span * copy for u in usual], [Fraction(0)] * len(usual), copy=copy)

    def _led(self, word: Word, group: Counts, place: Fraction) -> None:
        """A word whose first sound is on a lone division; what would run into the next number leads up to the count
        before, or is squeezed where that is taken."""
        assert word.card is not None
        usual, anchor = usual_places(word.card, self.counting, self.tradition)
        squeezed = False
        if anchor in usual and anchor != usual[0]:
            # Its beat stays on a count: the first that comes after its first sound.
            beat = Fraction(place // 1 + 1)
            places = [place, *(u - anchor + beat for u in usual[1:])]
            leading = usual.index(anchor)
            if places[1] <= place:
                squeezed = True
                places[:leading] = [place + (beat - place) * n / leading for n in range(leading)]
        else:
            places = [u - usual[0] + place for u in usual]
        until = self._next_number(place)
        if until is not None and places[-1] >= until:
            early = places[-1] // 1 - until + 1
            if self.at is None or places[0] - early > self.at:
                places = [p - early for p in places]
            else:
                squeezed = True
                step = (until - place) / len(places)
                places = [place + step * n for n in range(len(places))]
        self._left_open("squeezed" if squeezed else "led", word, group, places)
        self._put(word, places, [Fraction(0)] * len(places))

    def _left_open(self, code: OpenCode, word: Word, group: Counts, places: Sequence[Fraction]) -> None:
        """Note how a lone division was taken."""
        exact = any("/" in self.counting.letter(p) for p in places)
        said = f"{count_text(places, self.counting, exact=exact)} {word.text}"
        self.open.append(Open(code, group.column, word.end, said, {"squeezed": 6, "on_beat": 8}.get(code, 0)))

    def _next_number(self, place: Fraction) -> Fraction | None:
        """The place of the next number that is said after a place, in its line or at the head of the next."""
        phrase = self.counting.phrase
        if self._ahead is None or not 1 <= self._ahead <= phrase:
            return None
        away = (self._ahead - self._said(place)) % phrase or phrase
        return Fraction(place // 1 + away)

    def _follow(self, word: Word, *, early: int = 0) -> None:
        """A word without counts: the earliest beat that puts its first sound after the last one.

        The first of a part begins `early` counts before its usual ones.
        """
        if word.card is None:
            return
        usual, anchor = usual_places(word.card, self.counting, self.tradition)
        if self.at is not None:
            shift = Fraction((self.at - usual[0]) // 1 + 1)
        elif self.first is None:
            # With no number to lead up to, a word without a beat of its own lies in count 1.
            shift = Fraction(0 if anchor in usual else 1)
        else:
            shift = Fraction(-early)
        self._put(word, [u + shift for u in usual], [Fraction(0)] * len(usual))
        self._times(word)

    def _times(self, word: Word) -> None:
        if word.times > 1 and self.uses:
            heads = [u for u in self.uses if u.word == word and u.line == self.line]
            if heads:
                joined = self.uses[self.uses.index(heads[-1]) :]
                self._again(joined, word.times)

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
        last = use.last
        for other in word.joined:
            last = max(last, self._join(other, places[0]))
        self.at = max(last, self.at) if self.at is not None else last

    def _join(self, word: Word, place: Fraction) -> Fraction:
        if word.card is None:
            return place
        usual, anchor = usual_places(word.card, self.counting, self.tradition)
        places = tuple(u - anchor + place for u in usual)
        use = Use(word.card, word, self.line, places, tuple(Fraction(0) for _ in usual), word.side)
        self.uses.append(use)
        return use.last


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
