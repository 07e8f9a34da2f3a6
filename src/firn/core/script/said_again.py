"""What is said of all that a line has danced: again, twice more, on the other side, on each foot."""

import re
from collections.abc import Sequence

from msgspec.structs import replace

from firn.core.pattern import late
from firn.core.script import said as say
from firn.core.script.again import again_of
from firn.core.script.choices import Open, OpenCode
from firn.core.script.items import FOOT_WRITTEN, BarAt, Item, Repeat, Word, WordRun
from firn.core.script.said_where import SaidWhere
from firn.core.script.tokens import is_name, times_said
from firn.core.script.tree import Bit, Node, is_pause, is_word
from firn.core.steps.sides import ACROSS

_OFTEN = frozenset(say.ONCE_OR_MORE)
_NUMBERS = frozenset(say.NUMBERS)
_OF_TIMES = late(r"\b(?:times?|ve[zc])", re.IGNORECASE)
_SAME_AGAIN = late(
    r"[\s,;:.]*+(?:(?:and|then|now|all|the|it|same|again|everything|repeat|do|go|come|back|y|luego|todo|lo|mismo)\b[\s,;:.]*+)*+$",
    re.IGNORECASE,
)
"""What is said before "other side" and says no more than it: all again, on the other foot."""
_LED_ON = late(r"(?:[\s,;:.]|\b(?:and|then|a|an|the|y|luego|un|una)\b)*+$", re.IGNORECASE)
"""What only leads on to what is said next."""
_CALLED_FOR = 60
"""So many letters before "other side" are looked through for it."""
_ENDS_WITHIN = 240
"""So many letters "on the other side, twice" takes at most, with all that may be said of it."""
_ONLY_ASKED = 99
"""What it costs to take what is never believed, only offered."""


class SaidAgain(SaidWhere):
    """Takes what is danced once more."""

    def _all_again(self, times: int) -> None:
        """Dance all of the line up to here so often."""
        self.close()
        self.items = [Repeat(tuple(self.items), times)]

    def _again_so_often(self, nodes: Sequence[Node], first: Node) -> bool:
        """Take "repeat twice" or "two more times" at a line's end: all of the line so often again, or in all, where
        it may be either, which is noted; gives whether that is all that follows."""
        figures = isinstance(first, Bit) and first.text.endswith(say.MORE_TIMES)
        if not isinstance(first, Bit) or not (figures or is_name(first, say.AGAIN | _NUMBERS | _OFTEN)):
            return False
        said = first.text if figures else self.text[first.column :].rstrip(" .!")
        if is_name(first, _NUMBERS) and not _OF_TIMES.search(said):
            # "stamp clap, two more" may be of the claps.
            return False
        again = again_of(said)
        if again is None or again.other or again.change is not None or again.whole:
            return False
        if self.text[nodes[-1].end :].strip(" .!") or not again.more:
            # "stamp clap, three times" is said of it in all, or of its last step.
            return False
        in_all = again.doubtful and first.column in self.choices.otherwise
        if again.doubtful:
            written, end = f"again x{again.times - in_all}", first.column + again.end
            code: OpenCode = "times_in_all" if in_all else "times_more"
            self.open.append(Open(code, first.column, end, written, 2 * in_all, number=again.times))
        self._all_again(again.times + (not in_all))
        return True

    def _all_so_often(self, nodes: Sequence[Node], at: int) -> int:
        """Take "all of it twice" at a line's end; returns how many tokens that is, 0 for anything else."""
        begins = at + 1
        while begins < len(nodes) and is_name(nodes[begins], say.OF_IT):
            begins += 1
        times, used = times_said(nodes, begins)
        rest = nodes[begins + used :]
        if times is None or not all(map(is_pause, rest)):
            return 0
        self._all_again(self._times(times))
        return begins + used - at

    def _once_more(self, nodes: Sequence[Node], at: int) -> bool:
        """Whether "again" only says that a step is danced once more: stamp, stamp again, clap."""
        before, after = nodes[at - 1] if at else None, nodes[at + 1] if at + 1 < len(nodes) else None
        return is_word(before) and is_pause(after)

    def _said_before(self) -> bool:
        """Whether the last word of the line was danced before in it; or is its only one, and was before it."""
        *before, last = self.danced or (None,)
        if last is None:
            return False
        return not before or any(word.card is last.card and word is not last for word in before)

    def _other_side(self, first: Bit) -> bool:
        """Take "other side" at a line's end: all of the line, then all of it on the other foot, or there alone; gives
        whether that is all that follows."""
        note = self.text.find("#", first.column)
        if (len(self.text) if note < 0 else note) - first.column > _ENDS_WITHIN:
            # Nothing else may follow: in a long line it is not asked of each "on".
            return False
        again = again_of(self.text[first.column :].rstrip(" .!"))
        if again is None or not again.other or again.change is not None:
            return False
        if not self._words and all(isinstance(item, BarAt) for item in self.items):
            # "Bar 2: repeat left": nothing of it is in this line.
            return False
        clause = self._own_clause(again.both)
        self.close()
        near = max(0, first.column - _CALLED_FOR)
        line = self.text[:near] + _SAME_AGAIN.sub("", self.text[near : first.column], count=1)
        runs = ((n, item) for n, item in enumerate(self.items) if isinstance(item, WordRun) and item.words)
        opening = next(runs, None)
        alone = first.column in self.choices.otherwise and opening is not None and not again.both
        code: OpenCode = "other_alone" if alone else "both_sides"
        written = f"{line}\n{self.text[first.column :].strip()}"
        if opening is not None:
            number, run = opening
            word = run.words[0]
            side = "right" if word.side == "left" else "left"
            if alone:
                words = (replace(word, side=side), *run.words[1:])
                self.items[number] = replace(run, words=words)
                said = line[word.column :].removeprefix(FOOT_WRITTEN[word.side])
                written = f"{line[: word.column]}{FOOT_WRITTEN[side]}{said}"
        if clause is not None:
            rather = self._apart(clause)
            own = (first.column in self.choices.otherwise) != rather
            items = self.items if not own else self.items[-1:]
            self.items = [*(self.items[:-1] if own else ()), Repeat(tuple(items), again.times + 1, other=True)]
            start = self._starts_at(clause)
            led = max(0, start - _CALLED_FOR)
            before = line[:led] + _LED_ON.sub("", line[led:start])
            lines = [before, line[start:]] if own else [line]
            written = "\n".join([*lines, self.text[first.column :].strip()])
            way: OpenCode = "alone" if own else "all"
            self.open.append(Open(way, first.column, len(self.text), written, 0 if own == rather else 2, since=0))
            return True
        if not alone:
            other = not (again.both and _turns_sides(self.items))
            self.items = [Repeat(tuple(self.items), again.times + 1, other=other)]
        if again.both or (again.more and opening is not None and self._feet_told(opening[1], again.side, first)):
            # It leaves nothing open.
            return True
        self.open.append(Open(code, first.column, len(self.text), written, _ONLY_ASKED if alone else 0, since=0))
        return True

    def _feet_told(self, opening: WordRun, side: str, first: Bit) -> bool:
        """Whether both feet are told, the first where a line begins: flap on the right, same on the left; stamp
        right, stamp left, repeat starting left."""
        foot, *later = [word.side for word in opening.words]
        whole = is_name(first, say.AGAIN)
        return bool(foot) and foot == ACROSS.get(side) and (whole or side not in later)

    def _each_side(self, nodes: Sequence[Node], at: int) -> int:
        """Take "on each foot" of the line's first steps, where a pause ends it: stamp on each foot, then a clap;
        returns how many tokens that is, 0 for anything else."""
        ends = next((n for n in range(at + 1, len(nodes)) if is_pause(nodes[n])), 0)
        again = again_of(self.text[nodes[at].column : nodes[ends].column].rstrip()) if ends else None
        first = not self._since and not any(not isinstance(item, BarAt) for item in self.items)
        if again is None or not again.both or again.change is not None or not first or self._counts:
            return 0
        self.close()
        self.items = [Repeat(tuple(self.items), again.times + 1, other=not _turns_sides(self.items))]
        return ends - at

    def _own_clause(self, both: bool) -> Word | None:
        """The first word behind a "then" or a comma, where "on both sides" may be of what is said there alone: flap,
        then a basic on each foot; 2 triples, 1 chain each foot. It is parted from what comes before; None where it is
        of all."""
        words, earlier = self._words[self._since :], self._words[: self._since]
        led = bool(earlier) or any(isinstance(item, WordRun) and not item.counts for item in self.items)
        if not both or not led or not words or self._counts:
            return None
        if not self._apart(words[0]) and not self.text[: words[0].column].rstrip().endswith(","):
            return None
        if earlier:
            self.items.append(WordRun((), tuple(earlier)))
        self._words = words
        return words[0]

    def _apart(self, word: Word) -> bool:
        """Whether a word has a "then" before it, or how many there are of it alone."""
        led = self.text[: word.column].casefold().split()[-3:]
        return any(one in say.THEN for one in led) or self._starts_at(word) < word.column

    def _starts_at(self, word: Word) -> int:
        """The column of a word, or of the number right before it."""
        before = self.text[: word.column].rstrip()
        number = before.split()[-1:]
        said = number and (number[0].isdecimal() or number[0].casefold() in say.NUMBERS)
        return len(before) - len(number[0]) if said else word.column


def _turns_sides(items: Sequence[Item]) -> bool:
    """Whether some steps are one, danced an even number of times, which changes sides each time: of two basics on
    each foot every other one is on the other."""
    run = items[0] if len(items) == 1 else None
    word = run.words[0] if isinstance(run, WordRun) and len(run.words) == 1 else None
    if word is None or word.card is None or word.side or word.joined:
        return False
    return word.times % 2 == 0 and word.card.weight_changes % 2 == 1
