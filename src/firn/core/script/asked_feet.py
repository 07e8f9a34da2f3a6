"""Which foot or hand is meant, where a line may say it of several: touch, with the left foot; both feet: stomp. It is
asked about.

Common practice, no source.
"""

from collections.abc import Sequence
from itertools import takewhile

from firn.core.script import said as say
from firn.core.script.called_line import texts
from firn.core.script.counted import WALKED_ON
from firn.core.script.linked_line import LinkedLine
from firn.core.script.tokens import between_pauses, headed, is_article, is_name, is_often, is_said, name_at
from firn.core.script.tree import Bit, Counts, Group, Node, is_pause, is_word, said_in

_SIDES = frozenset(say.SIDES)
_ONE_FOOT = frozenset(foot for foot, side in say.SIDES.items() if side != "both")
_SNAPS = frozenset({"snap", "snaps"})
_CLAPS = _SNAPS | {"clap", "claps", "palma", "palmas", "hold"}
_TWO = frozenset({"two", "dos"})
_BOTH = _TWO | {"both", "ambas", "ambos"}
_BOTH_FEET = 2
"""Words of "both feet"."""
_PLACES = frozenset(say.WHERE)
_SEVERAL = 2


class AskedFeet(LinkedLine):
    """Asks with which foot or hand."""

    def _a_side_alone(self, nodes: Sequence[Node]) -> None:
        """Ask about a side that is all of a line, which may stand over what comes: right side."""
        alone = len(nodes) == 2 and is_name(nodes[0], _SIDES) and is_name(nodes[1], say.A_SIDE)
        first = nodes[0] if alone and self.tradition not in WALKED_ON else None
        if isinstance(first, Bit) and self.text.strip() == self.text[first.column : nodes[1].end]:
            said = self.text[first.column : nodes[1].end]
            shown = Bit("name", said, first.column, nodes[1].end)
            self.problem(
                "N109", shown, f'Say "{said}:" before the steps that it is said of, or "{first.text} step side".'
            )

    def _clapped_to(self, nodes: Sequence[Node]) -> None:
        """Ask about a side right behind a clap, which may be where it goes, or a step after it: clap left, stamp;
        clap with the left, stamp."""
        if said_in(nodes).isdisjoint(_SIDES) or said_in(nodes).isdisjoint(_CLAPS):
            return
        for at in range(1, len(nodes)):
            foot, after = nodes[at], nodes[at + 1] if at + 1 < len(nodes) else None
            led = at - is_said(nodes, at - 1, say.THE)
            one_hand = is_said(nodes, led - 1, say.WITH) and is_said(nodes, led - 2, _SNAPS)
            led -= is_said(nodes, led - 1, say.WITH) and not one_hand
            struck = nodes[led - 1] if led else None
            alone = is_name(foot, _SIDES) and is_name(struck, _CLAPS) and (after is None or is_pause(after))
            if alone and struck is not None and isinstance(foot, Bit) and len(foot.text) > 1:
                clap = self.text[struck.column : struck.end]
                shown = Bit("name", f"{clap} {foot.text}", struck.column, foot.end)
                step, to = ("step", "to the") if foot.text.casefold() in ("left", "right") else ("paso", "a la")
                self.problem("N109", shown, f'Say "{clap}, {step} {foot.text}", or "{clap} {to} {foot.text}".')
                return

    def _clapped_with(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line without the clap that is said to be with a figure, of which sound is to be said: step touch with a
        clap, vine right with a clap."""
        if said_in(nodes).isdisjoint(say.WITH) or said_in(nodes).isdisjoint(_CLAPS):
            return nodes
        for at in range(1, len(nodes) - 1):
            clap = at + 1 + (is_said(nodes, at + 1, say.ARTICLES) or is_article(nodes[at + 1]))
            if not is_name(nodes[at], say.WITH) or not is_said(nodes, clap, _CLAPS):
                continue
            end = at - is_said(nodes, at - 1, _SIDES)
            row = list(takewhile(is_word, reversed(nodes[max(0, end - self.shelf.longest) : end])))[::-1]
            named = next((t for n in range(len(row)) if self._sounds_of(t := " ".join(texts(row[n:])))), "")
            if self._sounds_of(named) > 1:
                shown = Bit("name", self.text[nodes[at].column : nodes[clap].end], nodes[at].column, nodes[clap].end)
                told = f'Say on which count of "{named}" the {texts([nodes[clap]])[0]} is, or ", clap" for after it.'
                self.problem("N109", shown, told)
                return self._clapped_with([*nodes[:at], *nodes[clap + 1 :]])
        return nodes

    def _on_both_feet(self, nodes: Sequence[Node]) -> None:
        """Ask about a step of one foot that is said of both feet: at once, or one after the other."""
        if said_in(nodes).isdisjoint(_BOTH):
            return
        self._both_over(nodes)
        for at in range(1, len(nodes)):
            if not (is_name(nodes[at], _BOTH) and is_said(nodes, at + 1, say.FEET)):
                continue
            start = at
            while start and (is_name(nodes[start - 1], say.THE | say.WITH | say.ON) or is_pause(nodes[start - 1])):
                start -= 1
            after = nodes[at + 2] if at + 2 < len(nodes) else None
            closes = after is None or is_pause(after) or is_name(after, say.AND | say.THEN) or is_often(after)
            named = self._named_at_end(nodes[:start])
            if not named and start and is_name(nodes[start - 1], _PLACES):
                named = self._named_at_end(nodes[: start - 1])
            card = self._card(named)[0] if named and closes else None
            if card is None or any(beat.role == "2" or beat.kind.limb != "foot" for beat in card.beats):
                continue
            column, end = nodes[at].column, nodes[at + 1].end
            shown = Bit("name", self.text[column:end], column, end)
            one = len(card.beats) == 1
            at_once = f'"both {named}" for both feet at once, or ' if one else ""
            told = "" if one else " for one after the other; for both at once, its sounds one by one"
            self.problem("N109", shown, f'Say {at_once}"{named} R, {named} L"{told}.')
            return

    def _foot_behind(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line without the pause before a foot that is said of its only step: touch, with the left foot. Behind
        several it is asked of which: flap, touch, with the left foot."""
        end = len(nodes)
        while end and is_pause(nodes[end - 1]):
            end -= 1
        told = nodes[end - 1] if end > 1 else None
        if isinstance(told, Group) and any(is_name(one, say.WITH) for one in told.items):
            return self._with_foot_in_brackets(nodes[: end - 1], told) or nodes
        foot = is_said(nodes, end - 1, say.FEET)
        at = end - 1 - foot
        side = nodes[at] if at > 0 else None
        # "con el pie derecho".
        ahead = is_said(nodes, at - 1, say.FEET)
        foot = foot or ahead
        begins = at - ahead
        begins -= is_said(nodes, begins - 1, say.THE)
        with_it = is_said(nodes, begins - 1, say.WITH)
        begins -= with_it
        pause = begins - 1
        counted = any(isinstance(node, Counts) for node in nodes)
        if side is None or not is_name(side, _ONE_FOOT) or not (with_it or (foot and counted)) or pause < 0:
            # "stamp, left foot" may be a step more, which is noted elsewhere.
            return nodes
        last = nodes[pause]
        ends = nodes[pause - (pause > 0 and is_pause(last))]
        if with_it and (isinstance(ends, Group) or is_often(ends)):
            cuts = [n for n in range(pause) if is_pause(nodes[n]) or is_name(nodes[n], say.THEN)]
            clause = nodes[cuts[-1] + 1 if cuts else 0 : pause + 1]
            if self._of_hands(clause):
                # "clap x2 with the right": no foot steps there.
                return nodes[:begins]
            if any(self._of_hands([node]) for node in clause):
                said = self.text[nodes[begins].column : nodes[end - 1].end]
                shown = Bit("name", said, nodes[begins].column, nodes[end - 1].end)
                self.problem("N109", shown, f'Say "{said}" right behind the step that it is said of.')
                return nodes[:begins]
        if pause < 1:
            return nodes
        before = [node for node in nodes[:pause] if isinstance(node, Bit) and is_word(node)]
        steps = [node for node in before if self._sounds_of(node.text)]
        parted = last
        if (
            not is_pause(parted)
            or ":" in parted.text
            or not steps
            or any(is_name(n, _SIDES | say.STARTS) for n in before)
        ):
            return nodes
        parts = [part for part in between_pauses(nodes[:pause]) if any(map(is_word, part))]
        if len(parts) == 1:
            led = [] if with_it else [Bit("name", "with", parted.column, parted.end)]
            return [*nodes[:pause], *led, *nodes[pause + 1 :]]
        shown = Bit(
            "name",
            self.text[nodes[pause + 1].column : nodes[end - 1].end],
            nodes[pause + 1].column,
            nodes[end - 1].end,
        )
        said = " ".join(texts(nodes[pause + 1 : end]))
        self.problem("N109", shown, f'Say "{steps[-1].text} {said}", or "{said}:" before all of it.')
        return nodes[:pause]

    def _with_foot_in_brackets(self, before: Sequence[Node], told: Group) -> Sequence[Node]:
        """What stands before a foot that is said in brackets of all of it: of hands nothing else is said by that, and
        of several steps it is asked of which; () for anything else."""
        if not all(is_name(one, _ONE_FOOT | say.FEET | say.THE | say.WITH) for one in told.items):
            return ()
        if self._of_hands(before):
            return before
        if sum(is_word(node) and self._sounds_of(node.text) > 0 for node in before) < _SEVERAL:
            return ()
        said = self.text[told.column + 1 : told.end - 1].strip()
        shown = Bit("name", said, told.column, told.end)
        self.problem(
            "N109", shown, f'Say "{said}" right behind the step that it is said of, or "{said}:" before all of it.'
        )
        return before

    def _of_hands(self, nodes: Sequence[Node]) -> bool:
        """Whether all that is struck in some tokens, and how often is told of, is struck by hands."""
        every = [one for node in nodes for one in (node.items if isinstance(node, Group) else (node,))]
        cards = [self._card(one.text)[0] for one in every if isinstance(one, Bit) and is_word(one)]
        named = [card for card in cards if card is not None]
        return bool(named) and all(card.of_hands for card in named)

    def _both_over(self, nodes: Sequence[Node]) -> None:
        """Ask about steps of one foot over which both feet are said: both feet: stomp stomp."""
        head, rest = headed(nodes)
        feet = [node for node in head if not is_name(node, say.WITH | say.ON | say.THE | say.AS_ONE)]
        two = len(feet) == _BOTH_FEET and is_name(feet[0], _BOTH) and is_name(feet[1], say.FEET)
        if not two and not (len(feet) == 1 and is_name(feet[0], _BOTH - _TWO)):
            return
        named = name_at(rest, 0, self._sounds_of)
        card = self._card(" ".join(texts(named)))[0] if named else None
        if card is None or any(beat.role == "2" or beat.kind.limb != "foot" for beat in card.beats):
            return
        name = " ".join(texts(named))
        shown = Bit("name", self.text[feet[0].column : feet[-1].end], feet[0].column, feet[-1].end)
        self.problem("N109", shown, f'Say "both {name}" for both feet at once, or "{name} R, {name} L".')
