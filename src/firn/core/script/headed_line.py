"""A line of steps that has something before its first colon: whose it is, how often, what it is called."""

from collections.abc import Sequence

from firn.core.script import said as say
from firn.core.script.called_line import TURNING, kinds_in, kinds_of, spelled, texts
from firn.core.script.collector import MOST_TIMES, many_words
from firn.core.script.counted import WALKED_ON
from firn.core.script.items import Word, of_no_foot
from firn.core.script.layers import LAYERS
from firn.core.script.listed import ORDER
from firn.core.script.said_feet import MOST_DANCED
from firn.core.script.spelled_line import SpelledLine
from firn.core.script.tokens import count_of, headed, is_name, times_said
from firn.core.script.tree import Bit, Counts, Group, Node, is_pause, is_word, number_alone

_SIDES = frozenset(say.SIDES)
_ONE_FOOT = ("right", "left")
_HEADS = (*LAYERS, "part", "combo", "tempo", "feel", "tradition", "words", "tune", "floor", "formation", "partner")
"""What is said before a colon anywhere: what is like it is no name, but misspelt."""
_CALLS = frozenset({"last", "more", "another", "again", "último", "última", "ultimo", "ultima", "otro", "otra"})
"""Said before a colon of what comes: the last one, one more."""
_EVERY = frozenset({"each", "every", "while", "as", "cada"})
_REPEAT = frozenset({"repeat", "repite", "do", "all", "everything", "todo"})
_WHICH = frozenset({"other", "same", "opposite", "otro", "otra", "mismo", "misma"})
"""Said before a colon of a foot or a side that was danced: other foot: stomp."""
_OF_BODY = frozenset({"head", "eyes", "shoulders", "hips", "elbows", "cabeza", "hombros", "caderas"})
"""Said before a colon of what a part of the body does, which is no step: head: 1 left 3 right."""
_SEVERAL = 2
_MOST_HEADS = 8
_NUMBERED = 2
"""Words of "step one" before a colon."""
MOST_TITLE = 5
"""Words of a name before a colon."""


_IN = frozenset({"in", "en"})


class HeadedLine(SpelledLine):
    """Takes what stands before a colon."""

    def _headed(self, nodes: Sequence[Node], *, opens: bool, later: bool = False) -> Sequence[Node]:
        """A line without what stands before its first colon: how often it is danced, which is said after it; or the
        name of what follows, where that has just its sounds. `opens`: they are the line's first, but for what leads
        to them; `later`: they are a head of their own, behind others."""
        if not nodes or not opens:
            return nodes
        if begins := self._later_head(nodes):
            behind = self._headed(nodes[begins:], opens=True, later=True)
            return [*self._headed(nodes[:begins], opens=True, later=later), *behind]
        head, rest = headed(nodes)
        if not head or not rest:
            return nodes
        if is_name(head[0], say.STEPS) and len(head) > 2 and is_pause(head[1]) and all(map(_says_foot, head[2:])):
            # "first step, right side: shuffle hop step".
            return self._titled(head[:1], nodes, nodes[2:], likely=True)
        if said := self._said_of(head, rest):
            return said
        # "last count is silent: 1 stamp": behind what leads on an unknown name is none.
        led = not later and bool(self.text[: nodes[0].column].strip())
        known = not led or self._sounds_of(" ".join(texts(head))) > 0
        return self._named_over(head, nodes, rest) if known else nodes

    def _later_head(self, nodes: Sequence[Node]) -> int:
        """Where another head begins, behind the first one's steps, that says how often its own are danced, or what
        these are called: twice: stamp clap; once: flap. 0 for none."""
        colons = [at for at, node in enumerate(nodes) if is_pause(node) and ":" in node.text]
        for colon in colons if len(colons) <= _MOST_HEADS else ():
            begins = next((at + 1 for at in range(colon - 1, 0, -1) if is_pause(nodes[at])), 0)
            head, rest = nodes[begins:colon], nodes[colon + 1 :]
            if not begins or not head or not rest:
                continue
            if len(head) == _NUMBERED and is_name(head[0], say.STEPS) and count_of(head[1]) is not None:
                # "starting left, step one: touch".
                return begins
            who = colon <= colons[min(1, len(colons) - 1)] and all(map(_says_who, nodes[:begins]))
            if who and not all(map(_says_who, head)):
                # "left foot lead, here's the step: touch".
                return begins
            if begins - 1 <= colons[0]:
                continue
            if times_said(head, 0)[1] == len(head):
                return begins
            card = self._card(" ".join(texts(head)))[0] if all(map(is_word, head)) else None
            own = [] if card is None else kinds_in(card)
            if len(own) > 1 and self._kinds_in(rest)[: len(own)] == own:
                return begins
        return 0

    def _said_of(self, head: Sequence[Node], rest: Sequence[Node]) -> Sequence[Node]:
        """A line whose head says how what follows goes, or what follows says how its head does; () for neither."""
        if self._says_meter(head):
            return rest
        if all(isinstance(node, Bit) and say.pace_of(node.text) for node in head):
            # "QQS: step step step".
            return [*head, *rest]
        if len(head) == 1 and is_name(head[0], say.FEET):
            # "feet: stamp stamp" beside a line of the hands.
            return rest
        if self._claps_beside(head, rest):
            return rest
        again = len(head) > 1 and is_name(head[0], _REPEAT)
        often, used = times_said(head, int(again))
        used += again
        if often is not None and used == len(head):
            return [Group(tuple(rest), rest[0].column, rest[-1].end), often]
        if self._is_prompt(head, rest):
            return rest
        if on_each := self._on_each_foot(head, rest) or self._each_foot_said(head, rest):
            return on_each
        alone = is_word(rest[0]) and (len(rest) == 1 or is_pause(rest[1]))
        many = number_alone(count_of(rest[0])) if alone else None
        if many is not None and self._steps_in(head):
            # "double steps: four".
            return [*head, Bit("times", f"x{many}", rest[0].column, rest[0].end), *rest[1:]]
        return ()

    def _claps_beside(self, head: Sequence[Node], rest: Sequence[Node]) -> bool:
        """Ask about claps on several counts that stand over steps which have none: clap on 2 and 4: DS DS DS RS."""
        on = next((at for at, node in enumerate(head) if is_name(node, say.ON)), 0)
        card = self._card(" ".join(texts(head[:on])))[0] if on else None
        hands = card is not None and card.of_hands
        numbers = [number for node in head[on:] if (number := number_alone(count_of(node))) is not None]
        counted = any(isinstance(node, Counts) for node in rest)
        if card is None or not hands or len(numbers) < _SEVERAL or counted or not any(map(is_word, rest)):
            return False
        shown = Bit("name", self.text[head[0].column : head[-1].end], head[0].column, head[-1].end)
        said = " ".join(map(str, numbers))
        self.problem("N109", shown, f'Say "hands: {said} {card.name}" in a line of its own, beside these steps.')
        return True

    def _named_over(self, head: Sequence[Node], nodes: Sequence[Node], rest: Sequence[Node]) -> Sequence[Node]:
        """A line without what it is called before its colon, where it is no more than that."""
        if self._turns_over(head) and any(map(is_word, rest)):
            return rest
        numbered = len(head) == 2 and is_name(head[0], say.STEPS) and count_of(head[1]) is not None
        if numbered and any(map(is_word, rest)):
            # "Step 2: flap heel".
            return self._titled(head, nodes, rest, likely=True)
        ordered = len(head) > 1 and is_name(head[-2], ORDER)
        if is_name(head[-1], say.STEPS) and (len(head) == 1 or ordered) and any(is_word(node) for node in rest):
            # "Step: shuffle hop step", "my first step: shuffle hop step".
            return self._titled(head, nodes, rest, likely=True)
        first = count_of(head[0])
        if len(head) > 1 and is_name(head[-1], _SIDES) and self._behind_a_side(head[0]):
            # "R: flap L: flap": each is said of what comes.
            return nodes
        if len(head) > 1 and is_name(head[-1], _SIDES) and self._card(" ".join(texts(head[:-1])))[0] is not None:
            # "triple left: DS DS DS RS": all of it from there.
            head, rest = head[:-1], [head[-1], *rest]
        if figure := self._figure_of(head):
            # "6 count basic: step step rock step".
            head = [Bit("name", figure, head[0].column, head[-1].end)]
            first = None
        names = [
            node.text for node in head[1 if first is not None and len(head) > 1 else 0 :] if isinstance(node, Bit)
        ]
        counted = first is not None and len(names) < len(head)
        many = first.atoms[0].number if first is not None and counted else 1
        card, _ = self._card(" ".join(names))
        if card is None and first is None and self._is_title(head, rest):
            own = self._kinds_in(head) if self._steps_in(head) else []
            if own != self._kinds_in(rest)[: len(own)]:
                # "stamp stamp: clap clap": it may be danced.
                return self._titled(head, nodes, rest)
            self._not_heard(head)
            return rest
        if card is not None and first is None and all(isinstance(node, Counts) for node in rest):
            # "flaps: 1 2 3 4".
            return [*rest, *head]
        if card is None or many is None or not 1 <= many <= MOST_TIMES or len(names) + counted != len(head):
            return nodes
        words = self._words_in(rest)
        kinds = kinds_of(words)
        own = kinds_in(card)
        begins = first is None and len(own) > 1 and kinds[: len(own)] == own
        # Another figure of the same sounds is no spelling of it: side close: rock step.
        out = len(own) == 1 or (bool(words) and (words[0].card is card or len(words) > 1))
        if out and (kinds == own * many or begins):
            return rest
        # Of several figures of one name the one that is spelled out: basic: rock step, triple step, triple step.
        others = say.cards_said(self.shelf, " ".join(names), self.tradition) if len(words) > 1 else ()
        if spelled(kinds, others, many):
            return rest
        if first is not None or len(card.beats) < 2 or not kinds:
            return nodes
        # Not just its sounds: it is danced, or what follows is called so.
        return self._titled(head, nodes, rest)

    def _behind_a_side(self, node: Node) -> bool:
        """Whether a side and a colon stand right before a token."""
        before, colon, after = self.text[: node.column].rpartition(":")
        return bool(colon) and not after.strip() and (before.split() or [""])[-1].casefold() in _SIDES

    def _turns_over(self, head: Sequence[Node]) -> bool:
        """Ask on which step a turn is that stands before a colon: turn left: DS DS DS RS; whether there is one."""
        named, _ = self._card(" ".join(texts(head)))
        if not any(is_name(node, say.TURN | TURNING) for node in head) or (named and len(named.beats) > 1):
            return False
        shown = Bit("name", " ".join(texts(head)), head[0].column, head[-1].end)
        self.problem("N109", shown, f'Say on which step "{shown.text}" is, and how far: DS turn 1/4 left.')
        return True

    def _on_each_foot(self, head: Sequence[Node], rest: Sequence[Node]) -> Sequence[Node]:
        """A line with what stands before a colon on each foot that is named after it: hop shuffle step: right, left;
        () for anything else."""
        feet = self._feet_in(rest)
        words = self._steps_in(head) if feet else []
        if not words or words[0].side or of_no_foot(words[0]) or any(count_of(node) is not None for node in head):
            # "three stamps: right, left, right" is as many.
            return ()
        if len(feet) * len(head) > MOST_DANCED:
            return ()
        made: list[Node] = []
        for foot in feet:
            at = foot.column, foot.end
            made += [Bit("pause", ",", foot.column, foot.column), foot]
            made += [Bit("name", node.text, *at) for node in head if isinstance(node, Bit)]
        return made

    def _each_foot_said(self, head: Sequence[Node], rest: Sequence[Node]) -> Sequence[Node]:
        """The same where the feet stand before the colon: right, left, right: stamp."""
        ends = next((at for at, node in enumerate(rest) if is_pause(node) or is_name(node, say.THEN)), len(rest))
        feet = self._feet_in(head) if len(head) > 1 else []
        on_each = self._on_each_foot(rest[:ends], feet) if feet else ()
        return [*on_each, *rest[ends:]] if on_each else ()

    @staticmethod
    def _feet_in(nodes: Sequence[Node]) -> list[Bit]:
        """The feet that are named one after another, where nothing else is; else none."""
        row = [node for node in nodes if not is_pause(node) and not is_name(node, say.AND | say.THEN)]
        feet = [node for node in row if isinstance(node, Bit) and say.SIDES.get(node.text.casefold()) in _ONE_FOOT]
        return feet if row and len(feet) == len(row) <= MOST_TIMES else []

    def _steps_in(self, nodes: Sequence[Node]) -> list[Word]:
        """The steps of some tokens where they are all steps without counts; else none."""
        if not all(is_word(node) for node in nodes):
            return []
        alone = self._alone(nodes)
        words = alone.danced
        return [] if alone.problems or alone.open or any(word.card is None for word in words) else words

    def _not_heard(self, head: Sequence[Node]) -> None:
        """Ask about how what follows is danced, said before a colon: double time: flap flap."""
        said = " ".join(texts(head))
        if said.casefold() in _OF_BODY:
            shown = Bit("name", said, head[0].column, head[-1].end)
            message = f'"{said}:" leads to steps: say "body: 1 {said.casefold()} left" of what it does.'
            self.problem("N109", shown, message)
        if any(is_name(node, say.MANNERS) for node in head) or said.casefold() in say.MANNER_TIMES:
            shown = Bit("name", said, head[0].column, head[-1].end)
            self.problem("N109", shown, f'"{said}:" is not heard: say it by the counts, or in the head of the piece.')

    def _says_meter(self, head: Sequence[Node]) -> bool:
        """Ask about a meter that is said before a colon, in 7: stamp clap clap; whether there is one."""
        led = is_name(head[0], _IN)
        said = head[led:]
        meter = said[0] if len(said) == 1 else None
        fraction = isinstance(meter, Bit) and meter.kind == "fraction"
        if meter is None or not (fraction or (led and number_alone(count_of(meter)) is not None)):
            return False
        text = self.text[head[0].column : head[-1].end]
        shown = Bit("name", text, head[0].column, head[-1].end)
        self.problem("N109", shown, f'"{text}" is said of the whole piece: write it in its head, as in meter: 7/8.')
        return True

    def _is_prompt(self, head: Sequence[Node], rest: Sequence[Node]) -> bool:
        """Whether what stands before a colon only calls what follows: one more triple: DS DS DS RS; or names a sound
        that it has, each on its count: stamps: 1 stamp 2 stamp. What it has not is danced before it."""
        if not all(is_word(node) for node in head):
            return False
        if len(head) > 1 and any(is_name(node, _CALLS) for node in head):
            return True
        named = [node for node in head if not is_name(node, say.THEN)]
        card, several = self._card(" ".join(texts(named)))
        # "points: step point step point".
        if card is None or len(card.beats) != 1 or not (several or isinstance(rest[0], Counts)):
            return False
        return card.beats[0].kind.name in self._kinds_in(rest)

    def _is_title(self, head: Sequence[Node], rest: Sequence[Node]) -> bool:
        """Whether what stands before a colon is a name that no step has, and steps follow: soft shoe: step brush."""
        # Seldom needed: not at the start.
        from difflib import get_close_matches

        named = all(is_word(node) for node in head)
        said = " ".join(texts(head)).casefold()
        if not named or not 0 < len(head) <= MOST_TITLE or get_close_matches(said, _HEADS, 1, 0.75):
            return False
        if not said.strip("sq- "):
            return False
        small = (
            say.WITH
            | _EVERY
            | say.AND
            | say.THEN
            | say.ON
            | say.TIMES
            | say.FOR
            | say.AGAIN
            | _SIDES
            | _WHICH
            | frozenset(say.NUMBERS)
        )
        if any(is_name(node, small) for node in head):
            return False
        follows = self._alone(rest)
        return many_words(follows.items) > 0 and not follows.problems

    def _named_counts(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line without what counts alone are called, where these are steps: samba: 1 a 2, 3 a 4."""
        head, rest = headed(nodes)
        counted = all(isinstance(node, Counts) or is_pause(node) for node in rest)
        walked = bool(head) and len(rest) > 1 and counted and self.tradition in WALKED_ON
        known = walked and (self._sounds_of(" ".join(texts(head))) or not self._is_title(head, rest))
        return rest if walked and not known else nodes


def _says_who(node: Node) -> bool:
    """Whether a token only says which foot begins, or is a pause."""
    return is_pause(node) or is_name(node, say.WHO_BEGINS)


def _says_foot(node: Node) -> bool:
    """Whether a token says no more than with which foot."""
    return is_name(node, _SIDES | say.FEET | say.A_SIDE | say.ON | say.WITH | say.THE)
