"""Words with counts of their own: each sound on one, the beat on one, one on each, a figure over a range."""

from collections.abc import Sequence
from fractions import Fraction
from itertools import pairwise

from msgspec.structs import replace

from firn.core.script.choices import Open, OpenCode
from firn.core.script.counts import count_text
from firn.core.script.items import Word
from firn.core.script.placer import Listed, WordPlacer
from firn.core.script.places import counts_of, lasts, usual_places
from firn.core.script.problems import other_length
from firn.core.script.tree import Counts, number_alone
from firn.core.steps.shelf import shipped

_BETWEEN = (
    (Fraction(1, 2),),
    (Fraction(1, 2), Fraction(3, 4)),
    (Fraction(1, 4), Fraction(1, 2), Fraction(3, 4)),
)
"""Where one, two and three sounds between two counts fall."""


def _is_division(group: Counts) -> bool:
    """Whether a group is a division of a count."""
    return group.atoms[0].number is None and not group.atoms[0].pace


WALKED_ON = frozenset({"latin", "swing", "house", "solo jazz", "step dance"})
"""Traditions in which counts without a word of their own are steps."""


class CountedPlacer(WordPlacer):
    """Places words by the counts that are said of them."""

    def _leads(self, group: Counts) -> bool:
        """Whether a group is a lone division that is the first sound of its word."""
        lone = _is_division(group) and not self._choices.before
        return lone and group.column not in self._choices.otherwise

    def _fill(self, word: Word, group: Counts, place: Fraction, length: Fraction) -> None:
        """A word on a range of counts: a single sound on each of them, a figure as often as it goes into them."""
        assert word.card is not None
        usual, anchor = usual_places(word.card, self.counting, self.tradition)
        span = counts_of(word.card, self.counting, self.tradition)
        if word.times > 1 and word.times * span != length:
            # How often is said: the range is where it begins.
            shown = Counts((), "", group.column, group.end)
            if not self._choices.before:
                self.problem("N103", shown, other_length(word.times * span, length))
            self._anchor(word, place, Fraction(0))
            self._times(word)
            return
        many = int(length // span) if length % span == 0 else 1
        # What follows may belong to the range, too; what is said so often fills it.
        figure = len(usual) > 1 and (not word.several or self._choices.before)
        if many > 1 and word.times != many and (figure or self._followed):
            once = group.column in self._choices.otherwise
            said = f"{self.counting.number(place)} {replace(word, times=1).said}"
            if not once:
                # After other words it would be all of them so often.
                said = f"( {said} ) x{many}" if self.uses or self.unknown else f"{said} x{many}"
            self._opened("once" if once else "each", [group], word, said, 4 if once else 0)
            many = 1 if once else many
        for copy in range(many):
            one = self._copy_of(replace(word, times=1), copy)
            self._put(one, [u - anchor + place + span * copy for u in usual], [Fraction(0)] * len(usual), copy=copy)

    def _copy_of(self, word: Word, copy: int) -> Word:
        """A word as it is danced for the so-manyth time, from 0: the foot that is written is that of the first,
        unless it moves no weight."""
        return word if not copy or (word.keeps_foot and not self._choices.before) else replace(word, side="")

    def _led(self, word: Word, group: Counts, place: Fraction) -> None:
        """A word whose first sound is on a lone division; what would run into the next number leads up to the count
        before, or is squeezed where that is taken."""
        assert word.card is not None
        usual, anchor = usual_places(word.card, self.counting, self.tradition)
        squeezed = False
        if self.at is None and self.first is None and anchor in usual[1:]:
            # With no number to come it leads up to the 1 that the part begins with.
            place -= 1
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
            if self._danced_up_to(word, groups, places):
                return
            for place, length in found:
                self._put(word, [place], [length])
        elif atoms == 1 and lengths[0] > 1 and not lasts(word.card) and not self._choices.before:
            self._fill(word, groups[0], places[0], lengths[0])
        elif atoms == size:
            self._put(word, places, lengths)
            self._times(word)
        elif 1 < atoms < size and (usual := self._as_usual(word, places)) is not None:
            self._put(word, usual, [Fraction(0)] * size)
            self._times(word)
        elif atoms == 1 and self._leads(groups[0]):
            self._led(word, groups[0], places[0])
            self._times(word)
        elif atoms == 1 and (usual := self._about(word, groups[0], places[0])) is not None:
            self._put(word, usual, [Fraction(0)] * size)
        elif atoms == 1:
            self._anchor(word, places[0], lengths[0])
            if _is_division(groups[0]) and size > 1:
                self._left_open("on_beat", word, groups[0], self.uses[-1].places)
            self._times(word)
        else:
            shown = Counts((), "", groups[0].column, groups[-1].end)
            sounds = "1 sound" if size == 1 else f"{size} sounds"
            self.problem("N103", shown, f'"{word.text}" has {sounds}; {atoms} counts are written.')
            self._anchor(word, places[0], Fraction(0))

    def _about(self, word: Word, group: Counts, place: Fraction) -> list[Fraction] | None:
        """Where a word without a beat sound falls by its number, if nothing else falls on that: it may lead up to
        it, begin on it, or end on it, which is noted."""
        assert word.card is not None
        usual, anchor = usual_places(word.card, self.counting, self.tradition)
        # Nothing else is counted, or it may be a pick-up.
        last = self._ahead is None and not (self._counted_on or self._counted_later)
        unsure = self.at is None and (last or 2 * self._said(place) >= self.counting.phrase)
        many = len(usual) != 2 or word.times > 1 or word.joined
        if many or anchor in usual or self._followed or unsure or self._choices.before:
            return None
        half = Fraction(1, 2)
        ways = [[u - anchor + place for u in usual], [place, place + half], [place - half, place]]
        # "shuffles on 1 and 2" is one thing that is left open; the count may stand after its step.
        numbers = [number_alone(one) for one in self._own_groups]
        several = word.column < group.column and None not in numbers
        own = self._own_groups if several else (group,)
        number = number_alone(group)
        taken = self._choices.meant(own[0].column)
        if group.column == own[0].column:
            away = [n - number for n in numbers if n is not None and number is not None] if several else [0]
            held = not taken and number is not None
            said = "  ".join(
                self._written_about(word, [w + n for w in ways[taken]], place + n, held=held) for n in away
            )
            since, end = min(group.column, word.column), max(own[-1].end, word.end)
            self.open.append(Open("up_to", group.column, end, said, taken, since=since, many=len(ways)))
        return ways[taken]

    def _written_about(self, word: Word, way: Sequence[Fraction], place: Fraction, *, held: bool) -> str:
        """A word on some places about a number; `held`: with a hold there, as alone it would lead up to the next."""
        hold = f"  {self._said(place)} hold" if held else ""
        return f"{count_text(way, self.counting)} {word.said}{hold}"

    def _as_usual(self, word: Word, places: Sequence[Fraction]) -> list[Fraction] | None:
        """The usual places of a word where its first and its last are said, and only of them: &1 DS; or just its
        last, from a whole count on, before which it begins by less than one: 1&2 shuffle ball change."""
        assert word.card is not None
        usual, _ = usual_places(word.card, self.counting, self.tradition)
        moved = [place - usual[0] + places[0] for place in usual]
        ends = [place - usual[-1] + places[-1] for place in usual][-len(places) :]
        divided = any(place.denominator > 1 for place in places)
        ended = [place - usual[-1] + places[-1] for place in usual]
        if list(places) == ends and places[0].denominator == 1 and divided and places[0] - ended[0] < 1:
            return ended
        # Of what ends in a hold the last that is said may be its last sound.
        sounding = [p for p, beat in zip(moved, word.card.beats, strict=True) if beat.kind.name != "hold"]
        last = {moved[-1], *sounding[-1:]}
        return moved if places[-1] in last and set(places) < set(moved) else None

    def _danced_up_to(self, word: Word, groups: list[Counts], places: list[Fraction]) -> bool:
        """Note that "1 2 3 hold" may be steps on these counts and the hold on the next, and so "1 2 3 tap" where
        the count after is left free; whether it is taken so."""
        if self._choices.before or len(groups) < 2 or any(b - a != 1 for a, b in pairwise(places)):
            return False
        assert word.card is not None
        holds, free = word.card.name == "hold", self._leaves_one(places)
        walked = self.tradition in WALKED_ON and not word.card.weight_changes
        # "one, two, three, clap": counted by itself up to the last of the bar.
        ends = [(group.column, group.end) for group in groups] + [(word.column, word.end)]
        apart = all(after - end > 1 for (_, end), (after, _) in pairwise(ends))
        apart = apart and (self._said(places[-1]) + 1) % self.counting.meter.counts == 0
        open_to_both = free or apart or (walked and len(groups) > 2)
        if not holds and (word.card.beats[0].kind.name == "step" or not open_to_both):
            return False
        column, numbers = groups[0].column, [self.counting.number(p) for p in places]
        likely = free and walked
        stepped = (column in self._choices.otherwise) != likely
        after = self.counting.number(places[-1] + 1)
        said = [f"{n} {'step' if stepped else word.said}" for n in numbers]
        if stepped:
            said.append(f"{after} {word.said}")
        code: OpenCode = "stepped" if stepped else "held"
        self._opened(code, groups, word, "  ".join(said), 2 if stepped != likely else 0)
        if stepped:
            step = shipped().called_so("step", "")
            for place in places:
                self._put(replace(word, text="step", card=step, side=""), [place], [Fraction(0)])
            self._put(word, [places[-1] + 1], [Fraction(int(holds))])
        return stepped

    def _over_all(self, word: Word, groups: list[Counts], places: Sequence[Fraction]) -> bool:
        """Note that what may last, a turn or a slide on some counts in a row, may be one on each or one over all;
        whether it is taken so."""
        in_a_row = len(groups) > 1 and all(after - before == 1 for before, after in pairwise(places))
        if word.card is None or not lasts(word.card) or not in_a_row or self._choices.before:
            return False
        over = groups[0].column in self._choices.otherwise
        numbers = [self.counting.number(place) for place in places]
        each = "  ".join(f"{number} {word.said}" for number in numbers)
        said = f"{numbers[0]}-{numbers[-1]} {word.said}"
        self._opened("once" if over else "each", groups, word, said if over else each, 4 if over else 0)
        if over:
            self._put(word, [places[0]], [Fraction(len(places))])
        return over

    def _leaves_one(self, places: Sequence[Fraction]) -> bool:
        """Whether just one count is left free after some, up to the next that is said or the end of the phrase."""
        until = self._next_number(places[-1])
        return until == places[-1] + 2 or (until is None and self._said(places[-1]) == self.counting.phrase - 1)

    def _with_groups(self, word: Word, groups: list[Counts]) -> None:
        """Several counts before one word: it is danced on each, one of several sounds on each group."""
        size = len(word.card.beats) if word.card else 0
        atoms = [len(group.atoms) for group in groups]

        def fits(group: Counts) -> bool:
            """Whether a word of several sounds is danced on a group: on its beat, each sound on a count, or its first
            on what leads up to its last: &1 &2 DS."""
            *led, last = group.atoms
            led_up = len(led) < 2 and all(atom.number is None for atom in led) and last.number is not None
            return len(group.atoms) == size or led_up

        once = word.card is None or word.card.name == "hold" or word.times > 1
        if not once and size == 1 < sum(atoms):
            before = self.at
            found = self.resolve(groups)
            self.at = before
            places = [place for place, _ in found]
            if self._danced_up_to(word, groups, places) or self._over_all(word, groups, places):
                return
            apart = all(after - before > 1 for before, after in pairwise(places))
            for one, (place, length) in zip(word.at_each(len(found), apart=apart), found, strict=True):
                self._put(one, [place], [length])
        elif (
            not once and size > 1 < len(groups) and (word.several or sum(atoms) != size) and all(map(fits, groups))
            and not self._longer(word, groups)
        ):  # fmt: skip
            for one, group in zip(word.at_each(len(groups)), groups, strict=True):
                self._with_group(one, [group])
        else:
            self._with_group(word, groups)

    def _longer(self, word: Word, groups: Sequence[Counts]) -> int:
        """How many counts a figure takes that cannot be danced on each of some numbers, which are nearer to each
        other: 0 where it can, or where there is one number, or as many as its sounds."""
        atoms = [group.atoms[0] for group in groups if len(group.atoms) == 1 and not group.atoms[0].letter]
        numbers = [a.number for a in atoms if a.number is not None]
        many = len(groups)
        if word.card is None or word.joined or self._choices.before or not 1 < many == len(numbers):
            return 0
        long = counts_of(word.card, self.counting, self.tradition)
        near = any(0 < after - before < long for before, after in pairwise(numbers))
        return long if near and len(word.card.beats) not in (1, many) else 0

    def _listed(self, word: Word, groups: list[Counts]) -> None:
        """Several counts before one word; those that fall between the ones of the list before are danced there, or
        begin before them."""
        before, self._list = self._list, None
        taken = len(self.uses)
        if self._choices.before:
            self._with_group(word, groups)
            return
        start = self.at
        early = 0 if before is None else self._early_by(groups, before)
        turns = before is not None and self._between(groups, before.every)
        if before is not None and turns and early <= 0:
            # From the first of these on, which it follows.
            self.at = before.every[0]
            self._with_groups(word, groups)
        elif before is not None and early > 0 and groups[0].column not in self._choices.otherwise:
            # From so far before the first of these as its number is.
            first = before.every[0] - early - 1
            self.at = first if before.start is None else max(before.start, first)
            self._with_groups(word, groups)
        else:
            turns = False
            self._with_groups(word, groups)
        places = tuple(p for use in self.uses[taken:] for p in use.places)
        if before is not None and early > 0:
            self._took_turns(before, word, groups, places)
        self.at = max(p for p in (self.at, start) if p is not None)
        if before is not None and turns:
            self._list = before.with_within(word, places)
        else:
            self._list = Listed(word, groups[0].column, places, start) if len(groups) > 1 and places else None

    def _early_by(self, groups: Sequence[Counts], before: Listed) -> int:
        """How much lower the first of some counts is than those of the list before, where the two take turns."""
        if not self._between(groups, before.every):
            return 0
        return self._said(before.every[0]) - (groups[0].atoms[0].number or 0)

    def _took_turns(self, before: Listed, word: Word, groups: Sequence[Counts], places: Sequence[Fraction]) -> None:
        """Note that "2 4 clap 1 3 step" may take turns or go on, through 1."""
        onward = groups[0].column in self._choices.otherwise
        own, other = (w.card.name if w.several and w.card is not None else w.text for w in (before.word, word))
        both = [*((p, own) for p in before.places), *before.within, *((p, other) for p in places)]
        said = "  ".join(f"{count_text([p], self.counting, exact=True)} {text}" for p, text in sorted(both))
        column = groups[0].column
        start, end = min(before.column, before.word.column), max(word.end, groups[-1].end)
        self.open.append(Open("onward" if onward else "in_turn", column, end, said, 4 if onward else 0, since=start))

    def _falls_within(self, groups: Sequence[Counts]) -> bool:
        """Whether one count lies between the first and the last of the list right before it, and is none of them: tap
        on 1 and 7, step on 2."""
        before, own = self._list, self._said_on(groups[0])
        if before is None or self._choices.before or len(groups) > 1 or own is None or self.at is None:
            return False
        said = [self._said(place) + place % 1 for place in before.every]
        return self.at <= before.every[-1] and said[0] < own < said[-1] and own not in said

    def _said_on(self, group: Counts) -> Fraction | None:
        """The number of one count, and how far after it one is that is said with it: 5/2 for the & of 2. None for
        several, or for any other."""
        atom = group.atoms[0]
        if len(group.atoms) > 1 or atom.number is None or atom.extra or atom.pace or atom.through is not None:
            return None
        share = self.counting.division(atom.letter, among=frozenset({atom.letter})) if atom.letter else None
        return atom.number + (share or Fraction(0))

    def _within(self, word: Word, groups: list[Counts]) -> None:
        """A word on a count between those of the list before it, or on the next such, which is noted."""
        before, last, taken = self._list, self.at, len(self.uses)
        onward = groups[0].column in self._choices.otherwise
        if before is None or last is None:
            return
        if not onward:
            self.at = before.every[0]
        self._with_group(word, groups)
        places = tuple(place for use in self.uses[taken:] for place in use.places)
        self._took_turns(before, word, groups, places)
        self.at = max(last, self.at or last)
        self._list = None if onward else before.with_within(word, places)

    def _between(self, groups: Sequence[Counts], taken: Sequence[Fraction]) -> bool:
        """Whether counts and some others that are danced already take turns, and none is in both."""
        own = [number for group in groups if (number := self._said_on(group)) is not None]
        said = [self._said(place) + place % 1 for place in taken]
        single = len(groups) == 1 and self._fills_up(groups, taken)
        if (len(own) < max(2, len(groups)) and not single) or set(own) & set(said):
            return False
        return said[0] < own[0] < said[-1] or own[0] < said[0] < own[-1]

    def _fills_up(self, groups: Sequence[Counts], taken: Sequence[Fraction]) -> bool:
        """Whether one number is all that a list leaves out up to its last: stamp on 1, 2 and 4, clap on 3."""
        number = number_alone(groups[0]) if len(groups) == 1 else None
        said = [self._said(place) for place in taken]
        if number is None or not said or number in said:
            return False
        return number < said[-1] and sorted({*said, number}) == list(range(1, said[-1] + 1))

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
                one = self._copy_of(word, copy)
                each = word.card is not None and not lasts(word.card) and not self._choices.before
                if each and size == 1 and part and part[0][1] > 1:
                    self._fill(replace(one, times=1), group, *part[0])
                else:
                    self._put(one, [p for p, _ in part], [n for _, n in part], copy=copy)

    def _sounds(self, words: Sequence[Word]) -> int:
        return sum(len(w.card.beats) * w.times if w.card else 1 for w in words)

    def _fit_in(self, words: Sequence[Word]) -> bool:
        """Put single sounds that have no count between the count said and the next, where that follows at once, as in
        1 step clap 2 step clap; whether they were."""
        if self.at is None or self._choices.before or not 0 < len(words) <= len(_BETWEEN):
            return False
        until = self._next_number(self.at)
        single = all(
            w.card is not None and len(w.card.beats) == 1 and w.times == 1 and not w.joined and w.card.name != "hold"
            for w in words
        )
        if until is None and self._fitted:
            # The last of several is as the others were.
            until = self.at + 1
        if not single or until is None or until != self.at + 1 or self.at.denominator != 1:
            return False
        self._fitted = True
        if len(words) > 1:
            # Where between the counts each of several falls is nobody's rule.
            places = [until - 1 + share for share in _BETWEEN[len(words) - 1]]
            said = (f"{count_text([p], self.counting)} {w.said}" for p, w in zip(places, words, strict=True))
            self.open.append(Open("squeezed", words[0].column, words[-1].end, "  ".join(said)))
        for word, share in zip(words, _BETWEEN[len(words) - 1], strict=True):
            self._put(word, [until - 1 + share], [Fraction(0)])
        return True
