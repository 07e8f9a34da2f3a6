"""How often the parts of a combo are danced: one part, several in brackets, or all of a line."""

import re
from collections.abc import Sequence

from firn.core.script.combo_item import ComboItem
from firn.core.script.combo_parts import PartsSaid
from firn.core.script.combo_said import (
    AFTER_GROUP,
    AGAIN,
    ALL_OFTEN,
    HEAD,
    LED_OFTEN,
    LINKED,
    OFTEN,
    SPACE,
    how_often,
)
from firn.core.script.problems import Problem
from firn.core.script.said import ONCE_OR_MORE
from firn.core.steps.names import fold


class OftenSaid(PartsSaid):
    """Takes what is said of how often, before parts and behind them."""

    def __init__(self, names: Sequence[str]) -> None:
        super().__init__(names)
        # Where each open bracket stands, how many items came before it, and how often is said before it.
        self._open: list[tuple[int, int, int, int]] = []

    def _bracket(self, number: int, text: str, at: int) -> int:
        """Parts in brackets are danced as often as is said behind them."""
        if text[at] == "(":
            self._open.append((number, at, len(self.items), 1))
            return at + 1
        if not self._open:
            self.problems.append(Problem("N110", number, at, at + 1, "This bracket has no partner."))
            return at + 1
        _, _, start, led = self._open.pop()
        after = AFTER_GROUP.match(text, at + 1)
        body = self.items[start:]
        if led > 1:
            self._add(number, at, at + 1, body * (led - 1))
            if after is None or "," in after[0]:
                return at + 1
            message = f"This is danced {led} times already: say how often once, before the bracket or behind it."
            self.problems.append(Problem("C402", number, after.start("said"), after.end(), message))
            return after.end()
        # "A (2x), 2x B", "(A B), 2x B": that is said of what follows.
        if after is None or not body or ("," in after[0] and self._part_after(text, after.end())):
            return at + 1
        times = self._times(number, after.start("said"), after.end(), str(how_often(after["said"])))
        self._add(number, at + 1, after.end(), body * (times - 1))
        return after.end()

    def _opened(self, number: int, text: str, at: int) -> tuple[int, int]:
        """Take what opens a line: we do, the order is; and how often all of it is danced, as in twice: A, B. Gives
        where that ends, and how often."""
        times = 1
        while at < len(text) and not self._part(text, at):
            until = self._headed(text, at)
            match = LED_OFTEN.match(text, until)
            if match is not None and match["on"] == ":":
                times = self._times(number, until, match.end("said"), str(how_often(match["said"])))
                until = match.end()
            if until == at:
                break
            at = until
        return at, times

    def _all_led(self, number: int, text: str, times: int, begun: int) -> None:
        """Dance all of a line as often as was said before it."""
        end = len(text.rstrip())
        if times > 1 and len(self.items) == begun:
            self.problems.append(Problem("C402", number, 0, end, "Say what is danced so often, such as twice: A, B."))
        self._add(number, 0, end, self.items[begun:] * (times - 1))

    def _headed(self, text: str, at: int) -> int:
        """Where what opens a line or a bracket ends, such as we do."""
        head = None if self._part(text, at) else HEAD.match(text, at)
        return head.end() if head is not None else at

    def _led_bracket(self, number: int, text: str, at: int) -> int:
        """Take how often parts in brackets are danced where it stands before them, and the bracket: 2x (A, B); gives
        where it ends, 0 where this is none."""
        match = LED_OFTEN.match(text, at)
        if match is None or match["on"] != "(":
            return 0
        times = self._times(number, at, match.end("said"), str(how_often(match["said"])))
        self._open.append((number, match.end() - 1, len(self.items), times))
        return match.end()

    def _all_often(self, number: int, text: str, at: int, begun: int) -> int:
        """Take how often all of the line so far is danced: all twice, twice through, repeat; gives where it ends, 0
        where it is not said."""
        if len(self.items) == begun or self._open:
            return 0
        match = ALL_OFTEN.match(text, at)
        if match is not None:
            said = next(word for word in match.groups() if word)
            times = self._times(number, at, match.end(), str(how_often(said)))
            self._add(number, at, match.end(), self.items[begun:] * (times - 1))
            return match.end()
        again = AGAIN.match(text, at)
        if again is None:
            return 0
        self._add(number, at, again.end(), self.items[begun:])
        return again.end()

    def _often(self, number: int, text: str, at: int) -> int:
        """Take "3x A", "three times A" and "two As"; gives where it ends, 0 where this is none."""
        match = OFTEN.match(text, at)
        space = match and SPACE.match(text, match.end())
        named = space and self._part(text, space.end(), several=match is not None and bool(match["so"]))
        if not match or not named:
            return 0
        name, end = named
        times = self._times(number, match.start(), match.end(), str(how_often(match[0])))
        if fold(name) in self._sections and space:
            begun = len(self.items)
            self._section_again(number, text, space.end(), end)
            self._add(number, match.start(), end, self.items[begun:] * (times - 1))
            return end
        self._danced_again = None
        self.items.append(ComboItem(name, times, line=number, column=at, end=end, until=(number, end)))
        return end

    def _several(self, number: int, text: str, at: int) -> int:
        """Take how many of a part, right behind another: B three Cs, B x3 one C; gives where it ends, 0 where it may
        be said of the one before."""
        match = OFTEN.match(text, at)
        if match is None or not match["so"] or not self.items:
            return 0
        space = SPACE.match(text, match.end())
        named = self._part(text, space.end(), several=True) if space is not None else None
        plural = named is not None and space is not None and fold(text[space.end() : named[1]]) != fold(named[0])
        own = self.items[-1].times > 1 and self.items[-1].until[1] <= at
        return self._often(number, text, at) if plural or own else 0

    def _of_next(self, number: int, tail: re.Match[str], item: ComboItem) -> int:
        """Take how often for the part that comes right behind it, where the one before has its own: A twice 3 times
        B; gives where that ends. Where it may be of either, as in A 2x B, that is asked; 0 then, and for others."""
        text = tail.string
        behind = tail.end() + len(text[tail.end() :]) - len(text[tail.end() :].lstrip())
        named = self._part(text, behind) if behind < len(text) else None
        leads = OFTEN.match(text, tail.start())
        bracket = LED_OFTEN.match(text, tail.start())
        either = leads is not None and tail[0].casefold() not in ONCE_OR_MORE
        if either and bracket is not None and bracket["on"] == "(":
            said = f'Say "{item.part} x{how_often(tail[0])}, (" or "{item.part}, {tail[0].strip()} (".'
            self.problems.append(Problem("C402", number, tail.start(), tail.end(), said))
            return 0
        if named is None or leads is None:
            return 0
        if item.end < item.until[1] or item.times > 1:
            self.items.append(item)
            return self._often(number, text, tail.start())
        if not either:
            return 0
        often = how_often(tail[0])
        said = f'Say "{item.part} x{often}, {named[0]}", or "{item.part}, {named[0]} x{often}".'
        self.problems.append(Problem("C402", number, tail.start(), tail.end(), said))
        return 0

    def _of_one(self, number: int, tail: re.Match[str], item: ComboItem) -> None:
        """Ask whether how often is said of one part or of all before it: A and B twice; A, B, twice."""
        before = tail.string[: tail.start()].rstrip()
        # "A twice and B twice" says it of each.
        several = len(self.items) > 0 and self.items[-1].line == number and self.items[-1].times == 1
        linked = LINKED.search(tail.string[: item.column]) is not None
        linked = linked or (several and self.items[-1].end == item.column)
        if several and (linked or before.endswith(",")):
            often = how_often(tail[0])
            said = f'Say "({self.items[-1].part}, {item.part}) x{often}" for both, or "{item.part} x{often}" for one.'
            self.problems.append(Problem("C402", number, tail.start(), tail.end(), said))

    def _section_tail(self, number: int, tail: re.Match[str], begun: int) -> None:
        """How often a section is danced: nothing else can be said of one."""
        body = self.items[begun:]
        if tail["times"]:
            times = self._times(number, tail.start(), tail.end(), str(how_often(tail[0])))
            self._add(number, tail.start(), tail.end(), body * (times - 1))
            return
        message = f'"{tail[0].strip()}" can be said of a part, not of a section.'
        self.problems.append(Problem("C402", number, tail.start(), tail.end(), message))
