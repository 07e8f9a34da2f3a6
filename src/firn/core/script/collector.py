"""A line's runs as they are collected: counts, the words after them, and what "x3" covers."""

import re
from collections.abc import Sequence
from itertools import pairwise

from msgspec.structs import replace

from firn.core.meter.counting import Counting
from firn.core.pattern import late
from firn.core.script import said as say
from firn.core.script.choices import Open, OpenCode
from firn.core.script.ended_runs import EndedRuns, on_one_foot
from firn.core.script.items import FOOT_WRITTEN, Item, Repeat, Word, WordRun, of_no_foot
from firn.core.script.places import counts_of
from firn.core.script.problems import other_length
from firn.core.script.said import SIDES, card_said
from firn.core.script.tree import Bit
from firn.core.steps.card import Card

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
_OFTEN_NEXT = late(r"\s*+(?:[x×]\s?\d|\d{1,3}\s?[x×]|once|twice|thrice|\w+\s+(?:times?|veces|vez)\b)", re.IGNORECASE)
"""How often something is danced, said next."""

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


class RunCollector(EndedRuns):
    """Collects one line's items."""

    def _word(self, word: Word) -> None:
        held = word.card is not None and word.card.name == "hold" and not self._words and len(self._counts) > 1
        if held and all(c.atoms[0].pace and c.atoms[0].number is None for c in self._counts):
            # "quick, quick, slow, hold": steps, and then a hold.
            self.close()
        waiting = None
        of_hands = word.card is not None and word.card.of_hands and self._foot_said()
        if self._side is not None and (of_no_foot(word) or of_hands) and not self.choices.before:
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

    def _mark(self, bit: Bit, *, more: bool = False) -> None:
        """Take a mark, or how often, for the last word; `more`: it is of all of that, which may be said already."""
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
            # "three heels x2"; the same number said again of it is that one.
            times = self._times(bit)
            before = 1 if self.choices.before or (times == target.times and not more) else target.times
            target = replace(target, times=min(MOST_TIMES, before * times), end=bit.end)
        self._words.append(replace(head, joined=(*head.joined[:-1], target)) if head.joined else target)

    def _that_foot(self, word: Word, often: Bit) -> list[Word]:
        """Note that "stamp right three times" may be with that foot each time, the weight taken at last, or from foot
        to foot; gives the first where it is taken so, else none."""
        said = self.text[word.column : often.end].casefold().split()
        linked = any(link in say.ON | say.WITH for link in said)
        in_words = any(word_said in SIDES and (linked or len(word_said) > 1) for word_said in said)
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
        likely = both or linked
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
        # "three touches, twice": all of them.
        several = covered == 1 and self._words and self._words[-1].times > 1 and not self._counts
        if self.choices.before or (covered < 2 and not several) or often < 2 or self._restated(often):
            self._mark(bit, more=parted or in_brackets)
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
        own = not in_brackets and self._last_alone()
        # "two stomps, basic left, 2 times".
        parted = parted and not (own and bool(self._words[-1].side))
        if not parted and not several and (bit.column in self.choices.otherwise) != own:
            apart = f"{self.text[column:start].strip()}  ( {self.text[start:said_from].strip()} ) {bit.text}"
            cost = 0 if own else 2 if in_brackets else 4 if counts else 7
            self.open.append(Open("alone", bit.column, end, apart, cost, since=column))
            self._mark(bit, more=True)
            return
        if not parted and not several:
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
        several = any(word.times > 1 for word in covered) or any(a.column == b.column for a, b in pairwise(covered))
        if several and not self._counts:
            # "walk four steps stamp three times", "kick three times with the left, step left, 2 times".
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
        run = self._words[self._since :]
        if len(run) > 1 and on_one_foot(run):
            self._words[self._since :] = [
                *(replace(one, side=side) for one in run[:-1]),
                replace(word, side=side, end=end),
            ]
            return
        if not target.side:
            target = replace(target, side=side, end=end, each=each)
            # "three stamps right".
            often = Bit("times", f"x{word.times}", word.end, end)
            if word.times > 1 and not word.joined and (that_foot := self._that_foot(replace(target, times=1), often)):
                self._words[-1:] = that_foot
                return
            self._words[-1] = replace(word, joined=(*word.joined[:-1], target)) if word.joined else target
        else:
            # "heel right twice left twice": how often is said anew.
            anew = not self.choices.before and _OFTEN_NEXT.match(self.text[end : end + _LONGEST])
            self._words.append(replace(word, side=side, times=1 if anew else word.times, end=end))
