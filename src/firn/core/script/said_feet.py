"""Feet as they are said: before a step or after it, by letters, alone, each in turn."""

import re
from collections.abc import Sequence
from fractions import Fraction
from itertools import takewhile

from msgspec.structs import replace

from firn.core.pattern import late
from firn.core.script import said as say
from firn.core.script.choices import Open, OpenCode
from firn.core.script.items import FOOT_WRITTEN, Word, of_no_foot
from firn.core.script.said import SIDES
from firn.core.script.said_counts import SaidCounts
from firn.core.script.said_lists import counted_after
from firn.core.script.tokens import count_of, is_name, is_said, times_said
from firn.core.script.tree import Bit, Group, Node, is_pause, is_word
from firn.core.script.written import names_same

_SIDES = frozenset(SIDES)
_WHERE = frozenset(say.WHERE)
_LINKS = say.THEN | say.AND
_LED = say.ON | say.TO | say.WITH
_CALLED = 24
_NEAR = 80
"""Letters beside a foot that tell what it is said of."""
_MOST_FEET = 64
"""Tokens that feet said after their steps are looked for in."""
MOST_DANCED = 512
"""Words that are danced once with each foot that is said, at the most."""


class SaidFeet(SaidCounts):
    """Takes the feet that are said of steps."""

    def _starts(self, nodes: Sequence[Node], at: int) -> int:
        """Take the foot that begins, as in starting right, starting with the left: that of the first step before it,
        or of the next; returns how many tokens that used, 0 where none is said."""
        end = at + (2 if is_said(nodes, at + 1, say.WITH | say.ON) else 1)
        if not self._foot_next(nodes, end):
            return 0
        while not is_name(nodes[end], _SIDES):
            end += 1
        foot = nodes[end]
        assert isinstance(foot, Bit)
        end += 2 if is_name(nodes[end + 1] if end + 1 < len(nodes) else None, say.FEET) else 1
        first = self._since if self._words[self._since :] else 0
        if not self._words and self._paced_steps():
            # "quick quick slow, starting with the left".
            first = 0
        if not self._words:
            self._side = SIDES[foot.text.casefold()], foot
            following = nodes[end] if end < len(nodes) else None
            end += is_pause(following)
        elif not self._words[first].side:
            self._words[first] = replace(self._words[first], side=SIDES[foot.text.casefold()])
        elif self._words[first].side != SIDES[foot.text.casefold()]:
            # "cramp roll starting left twice, then starting right twice".
            self.problem("N109", foot, f"Say what is danced starting {foot.text}.")
        return end - at

    @staticmethod
    def _foot_next(nodes: Sequence[Node], at: int) -> bool:
        """Whether a foot is named next, as in: step with the right, paso con el pie derecho."""
        while at < len(nodes) and is_name(nodes[at], say.THE | say.FEET):
            at += 1
        return at < len(nodes) and is_name(nodes[at], frozenset(SIDES))

    def _side_said(self, side: str, nodes: Sequence[Node], at: int, first: Bit) -> int:
        """Take the foot that a word is danced with, before it or after it."""
        if used := self._each_foot(nodes, at):
            return used
        used = 1
        if is_name(nodes[at + 1] if at + 1 < len(nodes) else None, say.FEET) or self._side_headed(nodes, at):
            used = 2
        following = nodes[at + used] if at + used < len(nodes) else None
        dotted = len(first.text) == 1 and isinstance(following, Bit) and following.text == "."
        if dotted:
            # "l." is short for left.
            used += 1
            following = nodes[at + used] if at + used < len(nodes) else None
        if is_pause(following) and ":" in following.text:
            # "right foot:", "R:" is said of what comes.
            self._over_all()
            self._side, self._over = (side, first), (side, len(self._words))
            return used + 1
        if is_pause(following) and self._headed_by_foot(side, nodes, at, used):
            return used + 1
        goes_on = isinstance(following, Group) or is_word(following)
        goes_on = (
            goes_on
            and not is_name(following, say.ON | say.FOR | say.WITHOUT)
            and times_said(nodes, at + used)[0] is None
        )
        # "1 stamp R and 2 stamp L", "stamp R and clap".
        linked = nodes[at + used + 1] if at + used + 1 < len(nodes) else None
        if is_name(following, _LINKS) and linked is not None:
            counted = count_of(linked) is not None or is_name(linked, say.ARTICLES)
            goes_on = goes_on and not counted and not self._names_no_foot(linked)
            # "stomp, left then flap", "stomp, left and then flap".
            then = at + used + is_said(nodes, at + used, say.AND)
            if at and is_pause(nodes[at - 1]) and is_said(nodes, then, say.THEN):
                goes_on = goes_on and is_said(nodes, then + 1, _SIDES)
        waiting = self._words[-1] if self._words[self._since :] and self._side is None and not self._join else None
        exactly = first.text.casefold() == "right" and is_name(following, say.ON) and not self.choices.before
        if waiting is not None and of_no_foot(waiting) and exactly and counted_after(nodes, at + used - 1):
            # "clap right on 2": exactly there.
            return used
        if waiting is not None and of_no_foot(waiting) and not self._counts:
            # "clap right": a step after it.
            waiting = None
        follow = self._sides_follow(nodes, at)
        if waiting is not None and waiting.side and waiting.where and is_name(following, _WHERE):
            # "right forward left back": each foot goes somewhere.
            follow = False
        led = at > 0 and not is_name(nodes[at - 1], _SIDES | say.FEET | say.THE | say.ON | say.WITH)
        if waiting is not None and waiting.side and goes_on and led and not is_name(following, _SIDES):
            # "right heel dig right toe dig": what has its foot takes no other.
            waiting, follow = None, False
        open_to_both = goes_on and waiting is not None and not is_name(following, _SIDES)
        if open_to_both and waiting is not None and not waiting.side and self._names_no_foot(following):
            # "stamp right hold": a hold has none.
            open_to_both, follow = False, True
        said_with = at - 2 if is_said(nodes, at - 1, say.THE) else at - 1
        if waiting is not None and not waiting.side and is_said(nodes, said_with, say.WITH | say.ON):
            # "heel with the right foot and then stomp".
            open_to_both, follow = False, True
        after = waiting is not None and (not goes_on or follow)
        if waiting is not None and open_to_both and (follow or self._said_between(waiting, first, nodes, at)):
            after = self._foot_after(waiting, side, first, follows=follow)
        if after and waiting is not None:
            each = is_said(nodes, said_with, say.WITH)
            self._side_after(side, waiting, nodes[at + used - 1].end, each=each)
            if dotted:
                # "stamp R. stamp L. clap x2": it ends there.
                self._since = len(self._words)
                self._bound_at(nodes[at + used - 1].end)
            return used
        if self._side is not None and self._stands_over(self._side[1]):
            # "watch the left: L tap" says it twice; "L: clap, R stamp" cannot be.
            if self._side[0] != side:
                self.end()
            self._side = None
        if self._side is not None:
            self._lone_side(*self._side)
        if on_each := self._on_one_then_other(side, nodes, at):
            return on_each
        self._side = side, first
        if not goes_on:
            self._lone_side(*self._side)
        return used

    def _headed_by_foot(self, side: str, nodes: Sequence[Node], at: int, used: int) -> bool:
        """Note that "right foot, stamp", "with the right, stamp" and "right, stamp" may be a stamp with that foot, or
        a step before it; whether it is that stamp's. `used`: how many tokens the foot took."""
        first, pause = nodes[at], nodes[at + used]
        step = nodes[at + used + 1] if at + used + 1 < len(nodes) else None
        waits = bool(self._words[self._since :]) or self._side is not None or self._join is not None
        if waits or not self._uncounted or not isinstance(step, Bit) or not is_word(step):
            return False
        if is_name(step, _SIDES) or self._card(step.text)[0] is None or self._names_no_foot(step):
            return False
        if self._behind_all(nodes, at, pause):
            return False
        led = at - is_said(nodes, at - 1, say.THE)
        sure = used > 1 or is_said(nodes, led - 1, say.WITH)
        if not sure and (self.choices.before or not self._alone_before_step(nodes, at)):
            return False
        steps = (self.choices.meant(first.column) == 0) != sure
        number = int(steps == sure)
        written = f"{FOOT_WRITTEN[side]}step," if steps else FOOT_WRITTEN[side].strip()
        self.open.append(Open("feet", first.column, pause.end, written, 2 * number, many=2))
        if steps:
            return False
        assert isinstance(first, Bit)
        self._side = side, first
        return True

    def _behind_all(self, nodes: Sequence[Node], at: int, pause: Node) -> bool:
        """Whether a foot behind a comma is that of the step before it, as more parts it from the next, or as the line
        ends with a foot so: kick, left foot; kick, left foot."""
        last = self._last_word()
        before = nodes[at - 1] if at else None
        if last is None or last.side or of_no_foot(last) or not is_pause(before) or before.text != ",":
            return False
        more = isinstance(pause, Bit) and pause.text != ","
        end = len(nodes) - is_pause(nodes[-1])
        end -= is_said(nodes, end - 1, say.FEET)
        return more or (is_said(nodes, end - 1, _SIDES) and end > 1 and is_pause(nodes[end - 2]))

    def _alone_before_step(self, nodes: Sequence[Node], at: int) -> bool:
        """Whether a foot stands between pauses, before a step that has no other, where a line begins or behind a step
        with its own: right, flap; step left, then right, stomp."""
        opens = not at or is_pause(nodes[at - 1]) or is_name(nodes[at - 1], say.THEN)
        last = self._last_word()
        step = last is not None and last.card is not None and last.card.name == "step" and bool(last.side)
        own = last is None or (step and last.text.casefold() not in SIDES)
        after = takewhile(lambda node: not is_pause(node), nodes[at + 2 :])
        lone = len(nodes) > at + 1 and is_pause(nodes[at + 1]) and "," in self.text[nodes[at].end : nodes[at + 1].end]
        return opens and own and lone and not any(is_name(node, _SIDES) for node in after)

    @staticmethod
    def _side_headed(nodes: Sequence[Node], at: int) -> bool:
        """Whether a side stands over what comes: right side: 1 stamp 2 clap."""
        colon = nodes[at + 2] if at + 2 < len(nodes) else None
        return (
            is_name(nodes[at + 1] if colon is not None else None, say.A_SIDE)
            and is_pause(colon)
            and ":" in colon.text
        )

    def _each_foot(self, nodes: Sequence[Node], at: int) -> int:
        """Take as many feet as the word before is danced times: three stamps, right left right; returns how many
        tokens that used, 0 where it is something else."""
        word = self._words[-1] if self._words and self._side is None and not self._join else None
        if word is None or word.side or word.joined:
            return 0
        asked = self.open[-1] if self.open and self.open[-1].code in ("count", "many") else None
        open_to = asked.number if asked is not None and asked.end == word.end and word.times == 1 else 0
        many = open_to or word.times
        if many < 2 and word.several and not self._counts:
            # "walks: right left right left": as many as there are feet.
            row = takewhile(lambda n: is_name(n, _SIDES) or is_pause(n), nodes[at : at + _MOST_FEET])
            many = sum(1 for node in row if is_word(node))
        if many < 2:
            return 0
        row = takewhile(lambda node: is_name(node, _SIDES | _LINKS) or is_pause(node), nodes[at : at + 3 * many])
        said = list(row)
        while said and not is_name(said[-1], _SIDES):
            said.pop()
        feet = [node for node in said if isinstance(node, Bit) and is_name(node, _SIDES)]
        following = nodes[at + len(said)] if at + len(said) < len(nodes) else None
        if len(feet) != many or is_word(following):
            return 0
        if open_to:
            # "3 stamps: left, right, left": so many.
            self.open.pop()
            self._counts = []
        sides = [SIDES[foot.text.casefold()] for foot in feet]
        self._words[-1:] = [replace(word, side=side, times=1, end=feet[-1].end) for side in sides]
        return len(said)

    def _feet(self, feet: Sequence[str], said: Bit) -> None:
        """Take several feet in one: those of one step's sounds, of as many times that it is danced, or of the steps
        since the last pause."""
        if len(feet) == 1 and not self._words:
            self._side = feet[0], said
            return
        since = self._words[self._since :]
        word = since[-1] if since else self._last_word()
        if self._words and not since and self._uncounted and len(feet) > 1 and _goes_on(self.text, said):
            # "R L R stamp, L R L stamp".
            self.close()
        if not self._words and self._side is None and not self._feet_ahead:
            # "R L R flap": one with each.
            counts = sum(len(group.atoms) for group in self._counts)
            if counts in (0, len(feet)):
                self._feet_ahead = tuple(feet), said
            else:
                many = "1 count" if counts == 1 else f"{counts} counts"
                self.problem("N103", said, f'"{said.text}" names {len(feet)} feet for {many}.')
            return
        if self._feet_ahead is not None and not self._words:
            # "L-R-L R-L-R".
            self._feet_alone(said)
            word = self._last_word()
        stepped = word is not None and word.card is self.shelf.find("step", self.tradition) and bool(word.side)
        if stepped and not since and self._uncounted and self._side is None and len(feet) > 1:
            # "R L R, L R L".
            self._words += self._steps(feet, said)
            return
        if word is not None and of_no_foot(word) and self._side is None and not self._counts:
            # "hold L R L hold": a step with each.
            self._words += self._steps(feet, said)
            return
        if word is None or word.joined or word.side or self._side is not None or not self._words:
            self.problem("N112", said, f'"{said.text}" has no word before it.')
            return
        asked = self.open[-1] if self.open and self.open[-1].code in ("count", "many") else None
        if asked is not None and asked.end == word.end:
            if len(feet) not in (1, asked.number):
                self.problem("N103", said, f'"{word.text}" is said of {asked.number}; {len(feet)} feet are written.')
                return
            if len(feet) > 1:
                # "4 flaps (RLRL)": so many.
                self.open.pop()
                self._counts = []
        walks = word.text.casefold() in (*say.STEPS, *say.WALKS)
        apart = not since and self._uncounted and len(feet) > 1 and word.times == 1 and not walks
        if apart and self._steps_there([word], feet, said, said.end):
            self._words += self._steps(feet, said)
            return
        if len(feet) == len(since) > 1 and all(w.times == 1 and not w.side and not w.joined for w in since):
            self._words[self._since :] = [replace(w, side=foot) for w, foot in zip(since, feet, strict=True)]
        elif len(feet) == 1:
            self._side_after(feet[0], word, said.end)
        elif len(feet) == word.times > 1:
            self._words[-1:] = [replace(word, side=foot, times=1, end=said.end) for foot in feet]
        elif word.card is not None and word.times == 1 and names_same(feet, word.card):
            self._words[-1] = replace(word, side=feet[0], end=said.end)
        elif word.times == 1:
            self._words[-1:] = [replace(word, side=foot, end=said.end) for foot in feet]
        else:
            shown = f'"{word.text}" is danced {word.times} times; {len(feet)} feet are written.'
            self.problem("N103", said, shown)

    def _names_no_foot(self, node: Node | None) -> bool:
        """Whether a word is a name of what takes no foot."""
        card = self.shelf.find(node.text, self.tradition) if isinstance(node, Bit) else None
        return card is not None and of_no_foot(Word(card.name, card, 0, 0))

    def _said_between(self, word: Word, first: Bit, nodes: Sequence[Node], at: int) -> bool:
        """Whether feet are said in full between steps, and none before the first of them, as in flap right flap left
        stamp."""
        said = ("name", "times", "mark")
        words = list(takewhile(lambda node: isinstance(node, Bit) and node.kind in said, reversed(nodes[:at])))
        # "then right toe left toe", "your right toe your left toe" begin with the foot.
        while words and is_name(words[-1], say.THEN | say.THE):
            words.pop()
        plain = self._uncounted and not word.joined and not (len(first.text) == 1 and word.side)
        return plain and not (words and is_name(words[-1], _SIDES))

    def _foot_after(self, word: Word, side: str, first: Bit, *, follows: bool) -> bool:
        """Note that a foot between two words may be that of either; gives whether it is that of the one before.
        `follows`: feet follow their words all along."""
        if (len(first.text) == 1 and follows) or word.side:
            return True
        after = first.column not in self.choices.otherwise
        code: OpenCode = "linked" if after else "between"
        # Where more feet are said so, what comes after goes on as before.
        later = self.text[first.end :].casefold().split()
        parted = "," if _SIDES.intersection(later) and later[0] not in _WHERE else ""
        foot = FOOT_WRITTEN[side]
        # A foot right before it is that of what is before.
        led = self.text[max(0, word.column - _NEAR) : word.column].casefold().split()[-1:]
        before, since = "", word.column
        if led and led[0] in _SIDES:
            before, since = ", ", len(self.text[: word.column].rstrip())
        written = f"{before}{foot}{word.text}{parted}" if after else f"{before}{word.text}, {first.text}"
        self.open.append(Open(code, first.column, first.end, written, 0 if after else 3, since=since))
        return after

    def _on_one_then_other(self, side: str, nodes: Sequence[Node], at: int) -> int:
        """Take feet that are said by themselves after a pause, for those of what is said before it: basic, right then
        left; DS RS, left, right. That they may be a step with each is noted; returns how many tokens that used, 0
        where it is something else."""
        if not (self._uncounted and is_pause(nodes[at - 1])) or self._counts:
            return 0
        row = list(takewhile(lambda n: is_pause(n) or is_name(n, _SIDES | _LINKS), nodes[at : at + _MOST_FEET]))
        while row and not is_name(row[-1], _SIDES):
            row.pop()
        said = [node for node in row if isinstance(node, Bit) and is_name(node, _SIDES)]
        after = nodes[at + len(row)] if at + len(row) < len(nodes) else None
        feet = [SIDES[foot.text.casefold()] for foot in said]
        words = (
            self._clause(whole=_is_led(self.text, said[0]) if said else False)
            if (set(feet) == {"left", "right"} and not is_word(after))
            else []
        )
        if not 0 < len(words) * len(feet) <= MOST_DANCED:
            return 0
        first, last = said[0], said[-1]
        if len(words) == 1 and words[0].text.casefold() in (*say.STEPS, *say.WALKS):
            # "walking, right, left": these are the steps.
            self._words[-1:] = [replace(words[0], side=foot, end=last.end) for foot in feet]
            return len(row)
        if self._steps_there(words, feet, first, last.end):
            self._words += self._steps(feet, first)
            return len(row)
        first_word, *rest = words
        every = [(replace(first_word, side=foot), *rest) for foot in feet]
        self._words[-len(words) :] = [replace(word, end=last.end) for danced in every for word in danced]
        return len(row)

    def _steps_there(self, words: Sequence[Word], feet: Sequence[str], first: Bit, end: int) -> bool:
        """Note that feet after a pause may be those of what is said before it, or a step with each; whether they are
        taken for steps."""
        step = first.column in self.choices.otherwise
        name = self.text[words[0].column : words[-1].end]
        each = [f"{FOOT_WRITTEN[foot]}{'step' if step else name}" for foot in feet]
        written = ", ".join([name, *each] if step else each)
        code: OpenCode = "step_there" if step else "same_word"
        self.open.append(Open(code, first.column, end, written, 3 if step else 0, since=words[0].column))
        return step

    def _clause(self, *, whole: bool) -> list[Word]:
        """The words up to here that no pause parts, or all of the line; none where the foot, or how often, is said of
        one of them."""
        clause: list[Word] = []
        for word in reversed(self._words):
            if clause and not whole and self.text[word.end : clause[0].column].strip():
                break
            if word.card is None or word.side or word.joined or word.times > 1:
                return []
            clause.insert(0, word)
        return [] if clause and of_no_foot(clause[0]) else clause

    def _lone_side(self, side: str, said: Bit) -> None:
        """A foot that is named in place of a step is a step with it: left, right, left; R, L, R. A letter by itself
        is none."""
        self._side = None
        if self._called_over(said):
            self.problem("N112", said, f'Say "other side" for the same once more, or "step {said.text}" for a step.')
        again = self._same_again(side, said)
        if again is not None:
            self._word(again)
        elif self._behind_its_step(side, said):
            pass
        elif (before := self._walked_again(side)) is not None:
            # "walk R, L": each letter is one more.
            self._word(replace(before, column=said.column, end=said.end, side=side, times=1, turn=Fraction(0)))
        elif side != "both" and self._words and of_no_foot(self._words[-1]):
            self._words += self._steps([side], said)
        elif self._behind_several(said):
            shown = f'Say "step {said.text}" for a step, or which of those before it are {said.text}.'
            self.problem("N112", said, shown)
        elif side != "both" and (len(said.text) > 1 or _in_a_row(self.text, said)):
            self._word(Word(said.text, self.shelf.find("step", self.tradition), said.column, said.end, side=side))
        else:
            self.problem("N112", said, f'"{said.text}" has no word after it.')

    def _behind_several(self, said: Bit) -> bool:
        """Whether a foot stands alone behind a comma after one word that is danced several times: four shuffles,
        right foot, then stamp."""
        before = self._last_word()
        led = self.text[: said.column].rstrip()
        return before is not None and before.times > 1 and led.endswith(",")

    def _called_over(self, said: Bit) -> bool:
        """Whether a foot ends a line that it seems to call for the other side: stamp clap, now the left."""
        if self.text[said.end :].strip(" .!"):
            return False
        led = self.text[max(0, said.column - _CALLED) : said.column].casefold().split()[-2:]
        return any(word in say.NOW for word in led)

    def _walked_again(self, side: str) -> Word | None:
        """The step before, where it is any step and was danced with the other foot; None for what is none."""
        before = self._last_word()
        steps = before is not None and before.card is not None and before.card.primitive and not before.joined
        if before is None or before.card is None or not steps or before.card.name != "step":
            return None
        return before if before.side in ("left", "right") and before.side != side and side != "both" else None

    def _same_again(self, side: str, said: Bit) -> Word | None:
        """The word before once more with the other foot, or with the same where that took no weight: stamp right,
        left; shuffle R, R. That it may be a step there is noted; None where it is a step."""
        before = self._last_word()
        if before is None or before.card is None or side == "both" or before.side in ("", "both"):
            return None
        if before.side == side and before.card.weight_changes:
            return None
        if (
            before.joined
            or (before.card.name == "step" and before.card.primitive)
            or _leads(self.text[said.end : said.end + _NEAR])
        ):
            return None
        step = said.column in self.choices.otherwise
        code: OpenCode = "step_there" if step else "same_word"
        name = "step" if step else before.text
        self.open.append(Open(code, said.column, said.end, f"{FOOT_WRITTEN[side]}{name}", 3 if step else 0))
        if step:
            return None
        return replace(before, column=said.column, end=said.end, side=side, times=1, where="", turn=Fraction(0))

    def _behind_its_step(self, side: str, said: Bit) -> bool:
        """Note that one foot alone behind a pause may be that of the step before it, or a step of its own: stomp,
        left foot; whether it is taken as that step's."""
        before = self._words[-1] if self._words and self._uncounted and not self.choices.before else None
        behind = _LONE_FOOT.match(self.text, said.end)
        if before is None or before.card is None or behind is None or side == "both" or before.side or before.joined:
            return False
        led = self.text[before.end : said.column].split()
        if before.times > 1 or led[:1] != [","] or len(led) > 1 + len(_LED_BY) or not _LED_BY.issuperset(led[1:]):
            return False
        sided = any(beat.role in ("A", "B") for beat in before.card.beats if beat.kind.limb == "foot")
        if (
            of_no_foot(before)
            or not sided
            or before.text.casefold() in SIDES
            or len(said.text) < 2
            or _LONE_AGAIN.match(self.text, behind.end())
        ):
            return False
        # "Stomp, left foot" says of what; "stomp, left" may be where the next one goes.
        likely = behind["foot"] is None
        step = (said.column in self.choices.otherwise) != likely
        foot, end = FOOT_WRITTEN[side], behind.end("foot") if behind["foot"] else said.end
        written = f"{before.text}, {foot}step" if step else f"{foot}{before.text}"
        code: OpenCode = "step_there" if step else "same_word"
        self.open.append(Open(code, said.column, end, written, 0 if step == likely else 3, since=before.column))
        if not step:
            self._side_after(side, before, said.end)
        return not step

    def _sides_follow(self, nodes: Sequence[Node], at: int) -> bool:
        """Whether feet are said after their words here: what is said up to the next count or pause ends with one, or
        with one and where the step goes."""
        run = self._run
        if run is None or run[0] is not nodes or not run[1] <= at < run[2]:
            last = end = at
            while end < len(nodes) and isinstance(node := nodes[end], Bit) and node.kind in ("name", "mark"):
                if end > at and (self._names_no_foot(node) or is_name(node, say.ON)):
                    break
                last = last if is_name(node, _WHERE) else end
                end += 1
            run = self._run = nodes, at, end, last
        # What is all where a step goes ends with the first of it.
        said = nodes[max(at, run[3])] if at < run[2] else None
        if isinstance(said, Bit) and said.text.casefold() in (*SIDES, *say.FEET):
            return True
        start = at
        while start and at - start < _MOST_FEET and is_word(nodes[start - 1]):
            start -= 1
        # "flap R, flap L, flap R ball change": as before the pause.
        ended = start > 1 and is_pause(nodes[start - 1]) and is_name(nodes[start - 2], _SIDES)
        return ended and start < at and not is_name(nodes[start], _SIDES)


_LONE_FOOT = late(
    r"\s*+(?P<foot>(?:foot|pie)\b)?\s*+(?:[,;.!:/|]|$|\b(?:and\s+then|then|luego)\b)",
    re.IGNORECASE,
)
"""What stands behind a foot that stands alone."""
_LONE_AGAIN = late(
    r"\s*+(?:and\s+|then\s+|the\s+)*(?:right|left|r|l|derech[ao]|izquierd[ao])\b\s*+(?:foot|pie)?\s*+(?:[,;.!]|$)",
    re.IGNORECASE,
)
"""One more behind that."""
_LED_BY = frozenset({"the", "your"})


def _goes_on(text: str, said: Bit) -> bool:
    """Whether a word comes right behind some feet."""
    return text[said.end : said.end + _NEAR].lstrip()[:1].isalpha()


def _is_led(text: str, foot: Bit) -> bool:
    """Whether "on the" or "to the" stands before a foot."""
    words = text[max(0, foot.column - _NEAR) : foot.column].casefold().split()
    while words and words[-1] in say.THE:
        words.pop()
    return bool(words) and words[-1] in _LED


def _leads(after: str) -> bool:
    """Whether more feet and then a step are said next: left right tap."""
    words = re.split(r"[,;:.]", after)[0].casefold().split()
    feet = sum(1 for _ in takewhile(_SIDES.__contains__, words))
    return 0 < feet < len(words) and words[feet] not in _LINKS


def _in_a_row(text: str, said: Bit) -> bool:
    """Whether a letter is one of several that stand alone between commas: R, L, R."""
    before = re.split(r"[,;]", text[max(0, said.column - _NEAR) : said.column])
    after = re.split(r"[,;]", text[said.end : said.end + _NEAR])
    beside = (*before[-2:-1], *after[1:2])
    return not before[-1].strip() and any(part.strip().upper() in ("R", "L") for part in beside)
