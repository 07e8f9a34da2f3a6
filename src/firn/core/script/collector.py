"""A line's runs as they are collected: counts, the words after them, and what "x3" covers."""

import re
from collections.abc import Sequence

from msgspec.structs import replace

from firn.core.meter.counting import Counting
from firn.core.pattern import late
from firn.core.script import said as say
from firn.core.script.choices import Choices, Named, Open, OpenCode
from firn.core.script.items import FOOT_WRITTEN, Item, Repeat, Word, WordRun, of_no_foot
from firn.core.script.places import counts_of
from firn.core.script.problems import Problem, other_length
from firn.core.script.said import SIDES, card_said
from firn.core.script.spelled import feet_before, said_of, spelled
from firn.core.script.tree import Bit, Counts, Group, Node
from firn.core.steps.card import Card
from firn.core.steps.shelf import Shelf

EIGHTS = Counting()
"""Common time, for what a line says before it is known what it is counted in."""
MOST_TIMES = 64
_PARTS = (",", ";", ".", "…", " /", " -", " –", " —", "|", ">", "→")
"""What stands before an x3 that is of all of a line."""
_LONGEST = 400
"""Letters of a line that are looked through for what is said of its feet."""
_FOOT_OFTEN = late(
    r"\b(right|left|derech[ao]|izquierd[ao])\s+(?:(?:foot|side)\s+)?(?:[x×]\s?\d|twice|thrice|\w+\s+(?:times|veces))",
    re.IGNORECASE,
)
"""A foot and how often right after it."""

_NEAR = 24
"""Letters around a foot that may say what it is said of."""
_LEADING = frozenset({"lead", "leads", "first", "primero"})
SMALL = frozenset({*SIDES, *say.AND, *say.THEN, *say.ON, *say.ONCE_OR_MORE, *say.WHERE})
"""Words that end an unknown name."""


def many_words(items: Sequence[Item]) -> int:
    """How many words some items hold; what is repeated counts as several."""
    return sum(len(i.words) if isinstance(i, WordRun) else 2 if isinstance(i, Repeat) else 0 for i in items)


MOST_DEEP = 24
"""So often a line is repeated in itself: each time it is twice as long."""


def _deep(items: Sequence[Item]) -> int:
    """How often the first of some items is repeated in itself."""
    deep = 0
    while items and isinstance(first := items[0], Repeat):
        items, deep = first.body, deep + 1
    return deep


_LEAST_PACED = 3
"""Slows and quicks that are rather those of as many steps behind them than steps before these."""


class RunCollector:
    """Collects one line's items; problems are in columns of that line."""

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
        # Whether its numbers in words, which count up, are its counts.
        self._numbered = False
        # Whether it has no counts in figures; whether a number in words has said how many.
        self._no_figures = False
        self._counted_out = False
        # Whether an "and" after a pause is the & before its count; None where none was met.
        self._leads: bool | None = None
        # Where the line begins with a "one" that is its only number; None if it does not.
        self._lone_one: int | None = None

    def problem(self, code: str, at: Bit | Counts | Group, message: str, nearest: tuple[str, ...] = ()) -> None:
        self.problems.append(Problem(code, 0, at.column, at.end, message, nearest))

    def _feet_alone(self, pause: Bit) -> None:
        """Take feet that a pause parts from what comes for a step with each: R L R L, stamp."""
        if self._feet_ahead is not None and not self._words and self._uncounted and ":" not in pause.text:
            (feet, said), self._feet_ahead = self._feet_ahead, None
            self._words = self._steps(feet, said)

    def _feet_taken(self) -> None:
        """Give the feet that were said before some words to them: one each, or one word with all of them."""
        if self._feet_ahead is None or not self._words:
            return
        (feet, said), self._feet_ahead = self._feet_ahead, None
        words = self._words
        if of_no_foot(words[0]) and not self._counts:
            # "R L R clap": a step with each, and then the clap.
            self._words = [*self._steps(feet, said), *words]
            return
        if len(words) == 1 and words[0].times == len(feet):
            words = [replace(words[0], times=1)]
        elif self._uncounted and len(words) == 1 and len(feet) > 1 and not (words[0].side or words[0].joined):
            lone = [replace(w, text=FOOT_WRITTEN[w.side].strip()) for w in self._steps(feet[:-1], said)]
            self._words = [*lone, replace(words[0], side=feet[-1])]
            return
        if len(words) not in (1, len(feet)) or any(w.side or w.joined or w.times > 1 for w in words):
            many = sum(word.times for word in words)
            self.problem("N103", said, f'"{said.text}" names {len(feet)} feet for {many} steps.')
            return
        each = words * len(feet) if len(words) == 1 else words
        made = [replace(word, side=foot) for word, foot in zip(each, feet, strict=True)]
        self._words = [replace(made[0], column=said.column), *made[1:]]

    def close(self) -> None:
        """End the run."""
        self._feet_alone(Bit("pause", "", 0, 0))
        self._feet_taken()
        # "L: 1 clap 2 stamp": the foot waits for the first step.
        stands = self._side is not None and bool(self._words) and not self.choices.before
        kept = self._side if self._side is not None and stands and self._stands_over(self._side[1]) else None
        for waiting in (
            self._side and not kept and self._side[1],
            self._join,
            *(w and w[1] for w in (self._many, self._feet_ahead)),
        ):
            if waiting:
                self.problem("N112", waiting, f'"{waiting.text}" has no word after it.')
        self._where_ahead = self._join = self._many = self._feet_ahead = None
        self._side = kept
        self._since = 0
        self._paced_steps()
        if self._counts and self._words and not self.choices.before and all(c.atoms[0].pace for c in self._counts):
            self._paced_apart(self._words[0])
        if self._uncounted and not self._counts and not self.choices.before:
            self._words = self._with_feet(self._spelled(self._words))
        if self._counts or self._words:
            self.items.append(WordRun(tuple(self._counts), tuple(self._words)))
        self._counts, self._words = [], []

    def end(self) -> None:
        """End the line: a foot that no step came for is said."""
        if self._side is not None:
            said = self._side[1]
            self.problem("N112", said, f'"{said.text}" has no word after it.')

    def _paced_steps(self) -> bool:
        """Take slow, quick, quick without a word for a step each; whether they are said so."""
        if not self._counts or self._words or not all(c.atoms[0].pace for c in self._counts):
            return False
        card = self.shelf.find("step", self.tradition)
        self._words = [Word(c.text, card, c.column, c.end) for c in self._counts]
        return True

    def _paced_apart(self, figure: Word) -> None:
        """Take "slow slow rock step" for two slow steps and a rock step; one before a figure of several may be its
        pace, which is noted."""
        paces = self._counts
        several = figure.card is not None and figure.card.weight_changes > 1
        between = self.text[paces[-1].end : figure.column]
        # "slow quick quick, stamp" are steps, and then a stamp.
        then = any(word in say.THEN for word in between.casefold().split())
        apart = then or any(sign in between for sign in ",;.")
        if any(c.atoms[0].number is not None for c in paces):
            return
        if not then and paces[-1].column < figure.column and self._paced_each(between):
            return
        if not (several or (apart and len(paces) > 1)):
            return
        if paces[0].column > figure.column and self._paced_sounds() == len(paces):
            # "rock step quick quick".
            return
        if paces[0].column > figure.column:
            said = f'"{paces[0].text}" says how long one step takes, and "{figure.text}" has several.'
            self.problem("N103", paces[0], said)
            self._counts = []
            return
        parted = apart or ":" in between
        if len(paces) == 1 and not parted:
            own = paces[0].column in self.choices.otherwise
            written = figure.said if own else f"{paces[0].text} step, {figure.said}"
            code: OpenCode = "paced" if own else "pace_steps"
            self.open.append(Open(code, paces[0].column, figure.end, written, 2 if own else 0))
            if own:
                self._counts = []
                return
        step = self.shelf.find("step", self.tradition)
        self.items.append(WordRun(tuple(paces), tuple(Word(c.text, step, c.column, c.end) for c in paces)))
        self._counts = []

    def _paced_sounds(self) -> int:
        """How many sounds the words have that paces may be of."""
        return sum(len(word.card.beats) * word.times for word in self._words if word.card is not None)

    def _paced_each(self, between: str) -> bool:
        """Whether slows and quicks are those of the sounds behind them, one for each: slow quick quick, forward side
        close. They may be steps before these, which is noted where a comma parts them, or some of these are of
        several sounds, and no colon says more. `between`: what stands between them."""
        paces, words = self._counts, self._words
        stated = ":" in between
        if self._paced_sounds() != len(paces) or len(paces) < _LEAST_PACED - stated:
            return False
        if stated or (len(words) == len(paces) and not between.strip()):
            return True
        column, end = paces[0].column, words[-1].end
        steps = column in self.choices.otherwise
        said, danced = self.text[column : paces[-1].end], self.text[words[0].column : end]
        before = ", ".join(f"{pace.text} step" for pace in paces)
        code: OpenCode = "pace_steps" if steps else "paced"
        written = f"{before}, {danced}" if steps else f"{said}: {danced}"
        self.open.append(Open(code, column, end, written, 2 if steps else 0))
        return not steps

    def _spelled(self, words: list[Word]) -> list[Word]:
        """Words without counts, with what is spelled sound by sound taken for the figure where that is tried."""
        made, done = [], 0
        noted: dict[str, int] = {}
        for start, end, card in spelled(words, self.text, self.shelf, self.tradition):
            first, last = words[start], words[end - 1]
            said = said_of(words[start:end])
            column = noted.setdefault(said, first.column)
            figure = column in self.choices.otherwise
            if column == first.column:
                code: OpenCode = "figure" if figure else "spelled"
                self.open.append(Open(code, column, last.end, card.name if figure else said, 2 if figure else 0))
            if figure:
                made += [*words[done:start], Word(card.name, card, first.column, last.end, side=first.side)]
                done = end
        return [*made, *words[done:]]

    def _with_feet(self, words: list[Word]) -> list[Word]:
        """Words without counts, with each step that several feet are said before taken as it is tried: the last foot
        is its own and the others are steps, it is danced with each of them, or all of them are steps before it."""
        made = list(words)
        # From the end, so that the places before stay.
        for start, end, ends in reversed(list(feet_before(words, self.text))):
            first, named = words[start], words[end - 1]
            many = end - start
            own, each, before = [*["step"] * (many - 1), named.text], [named.text] * many, ["step"] * many
            ways = [own, before]
            if ends:
                # "R L R flap" is rather one with each.
                ways.insert(0 if len(first.text) == 1 else 1, each)
            feet = [word.side for word in words[start:end]]
            number = self.choices.meant(first.column)
            way = ways[number]
            said = ", ".join(f"{FOOT_WRITTEN[foot]}{name}" for foot, name in zip(feet, way, strict=True))
            said += f", {named.text}" if way is before else ""
            self.open.append(Open("feet", first.column, named.end, said, 2 if number else 0, many=len(ways)))
            lone = words[start : end - 1]
            danced = [replace(named, side=w.side, column=w.column) for w in lone] if way is each else lone
            after = [replace(lone[0], side=named.side, column=named.column), replace(named, side="")]
            made[start:end] = [*danced, *(after if way is before else [named])]
        return made

    def _word(self, word: Word) -> None:
        held = word.card is not None and word.card.name == "hold" and not self._words and len(self._counts) > 1
        if held and all(c.atoms[0].pace and c.atoms[0].number is None for c in self._counts):
            # "quick, quick, slow, hold": steps, and then a hold.
            self.close()
        waiting = None
        if self._side is not None and of_no_foot(word) and not self.choices.before:
            if self._stands_over(self._side[1]):
                # "starting left: clap, stamp": the first step has it.
                waiting, self._side = self._side, None
            elif not self._counts:
                # "right left right clap": the last of them is a step, too.
                (side, said), self._side = self._side, None
                self._words += self._steps([side], said)
        if self._side is not None:
            # "left heels on 1 2" are both of the left; what takes weight begins there, or it could not be danced.
            several = word.several or len(self._counts) > 1
            each = several and word.card is not None and not word.card.weight_changes
            said = self._side[1]
            beside = not self.text[said.end : word.column].strip(" :,;.")
            word = replace(word, side=self._side[0], column=said.column if beside else word.column, each=each)
            self._side = None
        self._side = waiting
        if self._where_ahead is not None:
            (where, said), self._where_ahead = self._where_ahead, None
            word = replace(word, where=where, column=said.column)
        if self._level:
            word = replace(word, level=self._level)
            self._level = 0
        if self._many is not None:
            word = replace(word, times=self._many[0], column=self._many[1].column)
            self._many = None
        if self._join is None:
            self._words.append(word)
            return
        as_one = self._join.text == "="
        self._join = None
        head = self._words.pop()
        word = replace(word, as_one=as_one)
        self._words.append(replace(head, as_one=head.as_one or as_one, joined=(*head.joined, word)))

    def _stands_over(self, foot: Bit) -> bool:
        """Whether a foot is said of all that comes: starting left, clap; left foot: clap."""
        before = self.text[max(0, foot.column - _NEAR) : foot.column].casefold().split()
        while before and before[-1] in say.THE | say.WITH | say.ON:
            before.pop()
        said, colon, _ = self.text[foot.end : foot.end + _NEAR].casefold().partition(":")
        headed = bool(colon) and all(word in say.FEET | say.A_SIDE | _LEADING for word in said.split())
        return headed or (bool(before) and before[-1] in say.STARTS)

    def _steps(self, feet: Sequence[str], said: Bit) -> list[Word]:
        """A step with each of some feet that were said alone."""
        card = self.shelf.find("step", self.tradition)
        return [Word("step", card, said.column, said.end, side=foot) for foot in feet]

    def _mark(self, bit: Bit) -> None:
        head = self._words.pop()
        target = head.joined[-1] if head.joined else head
        if bit.kind == "mark":
            target = replace(target, level=1 if bit.text == "!" else -1, end=bit.end)
        elif head.joined:
            head = replace(head, times=self._times(bit))
        elif that_foot := self._that_foot(target, bit):
            self._words += that_foot
            return
        else:
            target = replace(target, times=self._times(bit), end=bit.end)
        self._words.append(replace(head, joined=(*head.joined[:-1], target)) if head.joined else target)

    def _that_foot(self, word: Word, often: Bit) -> list[Word]:
        """Note that "stamp right three times" may be with that foot each time, the weight taken at last, or from foot
        to foot; gives the first where it is taken so, else none."""
        said = self.text[word.column : often.end].casefold().split()
        in_words = any(word_said in SIDES and len(word_said) > 1 for word_said in said)
        single = word.card is not None and len(word.card.beats) == 1 and word.card.beats[0].kind.name == "flat"
        many = self._times_of(often)
        if self.choices.before or not (in_words and single and word.side in ("right", "left")):
            return []
        light = next((one for one, heavy in say.WEIGHED if word.card and heavy == word.card.name), "")
        without = self._card(light)[0] if light else None
        if not 1 < many <= MOST_TIMES or without is None:
            return []
        # "stamp right x3, stamp left x3".
        both = len({found[1].casefold()[0] for found in _FOOT_OFTEN.finditer(self.text[:_LONGEST])}) > 1
        likely = both or any(link in say.ON | say.WITH for link in said)
        that = (often.column in self.choices.otherwise) != likely
        foot = FOOT_WRITTEN[word.side]
        one = f"{foot}{word.text}"
        code: OpenCode = "that_foot" if that else "feet_change"
        written = ", ".join([f"{foot}{light}"] * (many - 1) + [one]) if that else f"{one} x{many}"
        self.open.append(Open(code, often.column, often.end, written, 0 if that == likely else 2, since=word.column))
        first = replace(word, text=light, card=without, end=often.end)
        return [first] * (many - 1) + [replace(word, end=often.end)] if that else []

    def _times(self, bit: Bit) -> int:
        times = self._times_of(bit)
        if 1 <= times <= MOST_TIMES:
            return times
        self.problem("N111", bit, f"{bit.text} cannot be danced: between x1 and x{MOST_TIMES}.")
        return 1

    @staticmethod
    def _times_of(bit: Bit) -> int:
        return int(bit.text.strip("xX× ")[:6])

    def _bound_at(self, column: int) -> None:
        """What "x3" covers begins no earlier than here."""
        self._bound = len(self.items), len(self._words), column

    def _often(self, bit: Bit) -> None:
        """Take "x3": for all words back to a bracket, a pause, a wide gap or the beginning; or for the last alone."""
        ahead = self.text[: bit.column].rstrip()
        in_brackets = not self.choices.before and ahead.endswith(("(", "["))
        led = ahead.casefold().rsplit(None, 1)[-1:]
        ends = ahead.endswith(_PARTS) or (bool(led) and led[0] in say.THEN)
        parted = not self.choices.before and ends
        if parted or in_brackets:
            # "step, clap, four times", "flap, stamp (x3)": all of the line; "flap, twice, drum, twice": each its own.
            self._bound = self._parted_from or (0, 0, len(self.text) - len(self.text.lstrip()))
        whole, bound, column = self._bound
        column = bit.column - len(self.text[column : bit.column].lstrip(" ,;.…/)]"))
        said_from = len(ahead) - 1 if in_brackets else bit.column
        end = bit.end + (in_brackets and self.text[bit.end : bit.end + 1] in (")", "]"))
        covered = many_words(self.items[whole:]) + len(self._words) - bound
        often = self._times_of(bit)
        if not self.choices.before and _deep(self.items) >= MOST_DEEP:
            self.problem("N111", bit, "This is repeated in itself too often: say it in lines of their own.")
            return
        if self.choices.before or covered < 2 or often < 2 or self._restated(often):
            self._mark(bit)
            if covered < 2 and not self.choices.before:
                self._bound_at(bit.end)
                self._parted_from = self._bound if parted or in_brackets else self._parted_from
            return
        if covered == len(self._words) and self._fill_range(often):
            # "1-8: step touch x4": they go so often into these counts.
            self.close()
            self.items[-1:] = [Repeat((self.items[-1],), self._times(bit))]
            self._bound_at(bit.end)
            return
        # Back over whole runs, and into the one that is open where a pause is in it.
        own, items = len(self._words), len(self.items)
        while items and own < covered and covered - own >= many_words(self.items[items - 1 : items]):
            items -= 1
            own += many_words(self.items[items : items + 1])
        inside = max(0, len(self._words) - covered)
        counts = [c for i in self.items[items:] if isinstance(i, WordRun) for c in i.counts]
        start = self._counts[0].column if self._counts and len(self._words) == 1 else self._words[-1].column
        said = self.text[column:said_from].strip(" ,;.…/-–—")
        own = self._last_alone()
        if not parted and (bit.column in self.choices.otherwise) != own:
            apart = f"{self.text[column:start].strip()}  ( {self.text[start:said_from].strip()} ) {bit.text}"
            cost = 0 if own else 2 if in_brackets else 4 if counts else 7
            self.open.append(Open("alone", bit.column, end, apart, cost, since=column))
            self._mark(bit)
            return
        if not parted:
            cost = 2 if own else 0
            self.open.append(Open("all", bit.column, end, f"( {said} ) {bit.text}", cost, since=column))
        if inside:
            before, self._words = self._words[:inside], self._words[inside:]
            self.items.append(WordRun(tuple(self._counts), tuple(before)))
            self._counts = []
            items = len(self.items)
        self.close()
        body = self.items[items:]
        del self.items[items:]
        self.items.append(Repeat(tuple(body), self._times(bit)))
        self._bound_at(bit.end)
        self._parted_from = self._bound if parted or in_brackets else self._parted_from

    def _last_alone(self) -> bool:
        """Whether how often is rather said of the last word alone: step right and tap left twice."""
        whole, bound, _ = self._bound
        covered = self._words[bound if whole == len(self.items) else 0 : -1]
        if any(word.times > 1 for word in covered) and not self._counts:
            # "walk four steps stamp three times".
            return self._words[-1].times == 1
        counts = self._counts[0] if len(self._counts) == 1 else None
        linked = counts is not None and self.text[counts.column : counts.end].casefold() in say.AND
        return linked and len(self._words) == 1 and bool(self._words[-1].side)

    def _fill_range(self, often: int) -> bool:
        """Take the range of counts that the words of a run fill so often for the count that they begin on; whether
        they do."""
        group = self._counts[0] if len(self._counts) == 1 and not self.choices.before else None
        atom = group.atoms[0] if group is not None and len(group.atoms) == 1 else None
        if group is None or atom is None or atom.number is None or atom.through is None:
            return False
        cards = [(word.card, word.times) for word in self._words if word.card is not None and not word.joined]
        long = sum(counts_of(card, EIGHTS, self.tradition) * times for card, times in cards)
        if len(cards) < len(self._words):
            return False
        if long * often != (length := atom.through - atom.number + 1):
            self.problem("N103", group, other_length(long * often, length))
            return False
        self._counts = [replace(group, atoms=(replace(atom, through=None),), text=str(atom.number))]
        return True

    def _restated(self, times: int) -> bool:
        """Whether the counts of a word say already how often it is danced: 6 7 8 step x3, 1-4 step x4."""
        card = self._words[-1].card
        if len(self._words) != 1 or card is None or not self._counts:
            return False
        atoms = [atom for group in self._counts for atom in group.atoms]
        far = [a.through - a.number + 1 for a in atoms if a.through is not None and a.number is not None]
        return len(atoms) == times * len(card.beats) or far == [times]

    def _card(self, text: str) -> tuple[Card | None, bool]:
        """The card that a name means, and whether it is said of several."""
        if self.choices.before:
            return self.shelf.called_so(text, self.tradition), False
        return card_said(self.shelf, text, self.tradition)

    @property
    def danced(self) -> list[Word]:
        """The words of the line up to here, each as often as it is danced; of what is repeated none."""
        runs = [item.words for item in self.items if isinstance(item, WordRun)]
        return [w for run in (*runs, self._words) for w in run for _ in range(w.times)]

    def _last_word(self) -> Word | None:
        """The last word of the line up to here."""
        if self._words:
            return self._words[-1]
        last = self.items[-1] if self.items else None
        return last.words[-1] if isinstance(last, WordRun) and last.words else None

    def _known(self, names: list[Bit], at: int) -> bool:
        sizes = range(1, min(len(names) - at, self.shelf.longest_from(names[at].text)) + 1)
        texts = (" ".join(n.text for n in names[at : at + size]) for size in sizes)
        return names[at].text.casefold() in SMALL or any(
            card_said(self.shelf, text, self.tradition)[0] for text in texts
        )

    def _side_after(self, side: str, word: Word, end: int, *, each: bool = False) -> None:
        """Say the foot of the word before; said of one word again, it is danced again with that foot. `each`: said of
        several, as in three stamps with the right, it is that of each."""
        target = word.joined[-1] if word.joined else word
        if each and word.times > 1 and not word.side:
            one = replace(word, side=side, end=end, times=1)
            self._words[-1:] = [one] * word.times
            return
        if not target.side:
            target = replace(target, side=side, end=end, each=each and target.several)
            # "three stamps right".
            often = Bit("times", f"x{word.times}", word.end, end)
            if word.times > 1 and not word.joined and (that_foot := self._that_foot(replace(target, times=1), often)):
                self._words[-1:] = that_foot
                return
            self._words[-1] = replace(word, joined=(*word.joined[:-1], target)) if word.joined else target
        else:
            self._words.append(replace(word, side=side, end=end))
