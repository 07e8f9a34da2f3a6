"""Where steps go, as it is said of them: to the side, back rock, cross behind; or a step there."""

from collections.abc import Sequence
from fractions import Fraction
from itertools import islice

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.choices import Open, OpenCode
from firn.core.script.items import FOOT_WRITTEN, Repeat, Word, WordRun
from firn.core.script.said import SIDES
from firn.core.script.said_parts import SaidParts
from firn.core.script.tokens import is_name, is_often, is_said, names_from
from firn.core.script.tree import Bit, Node, is_pause, is_word, number_alone
from firn.core.steps.card import Card
from firn.core.steps.names import fold

_WHERE = frozenset(say.WHERE)
_SIDES = frozenset(SIDES)
_CROSSED = frozenset({"behind", "front", "across", "back", "forward"})
"""Where a step that crosses goes."""
_JUMPED = frozenset({"out", "in", "together", "across"})
"""Where both feet jump, one place after the other."""
_STEPPED_TO = frozenset({"side", "together", "back", "forward", "across"})
"""Where one steps: a clap that goes there may be a clap, and a step."""
_CANNOT = 9
"""What it costs to begin to a side with the other foot: more than any doubt, less than what cannot be danced."""
_ASKED = 2
"""What it costs where more is danced than steps: it may only say where that goes."""
_STEPPED = frozenset({"step", "touch", "hold"})
_SET_DOWN = frozenset({"step", "heel_step", "touch", "toe_tip", "dig", "flat", "stomp", "click"})
"""Kinds of single sounds that may be made in some place."""
_IN = frozenset({"in"})
_PLACES = frozenset({"across", "behind", "front", "side", "back", "forward"})
"""Where a foot is set down or swung to, away from the other."""
_TO_A_SIDE = frozenset({"side"})
_WALKED = frozenset({"step", "flat", "heel_step"})
"""Kinds after which a place to go to may be one more step."""


_TRAVELS = frozenset(say.WHERE) - {
    "together", "tog", "cross", "over", "up", "down", "junto", "juntos", "junta", "cierra", "close", "closes",
    "arriba", "abajo", "cruza", "cruce", "cruzado",
}  # fmt: skip
"""Where all of what is danced may go."""
_ALL_GO = frozenset({"sideways", "sidewards", "forwards", "backwards", "backward"})
"""Said of all of it rather than of a step there."""
_LEADS_THERE = say.GOING | say.TO | say.THE | say.ON | {"in", "en"}
_MAY_TRAVEL = _TRAVELS | _LEADS_THERE


class SaidWhere(SaidParts):
    """Takes where steps go."""

    def _to(self, nodes: Sequence[Node], at: int) -> int:
        """Take "to the side" and "to the left": where the word before goes; returns how many tokens that used."""
        used = 2 if is_name(nodes[at + 1] if at + 1 < len(nodes) else None, say.THE) else 1
        last = nodes[at + used] if at + used < len(nodes) else None
        if not isinstance(last, Bit):
            return 0
        word = last.text.casefold()
        side = SIDES.get(word, "") if len(word) > 1 else ""
        if word in say.WHERE:
            self._where(say.WHERE[word], last, plainly=True)
        elif side in ("left", "right") and self._words[self._since :]:
            self._goes(f"to the {side}", last)
            self._begins_there(side, last)
        else:
            return 0
        return used + 1

    def _begins_there(self, side: str, last: Bit) -> None:
        """Take the left foot for the one that what goes to the left begins with, where it opens a line: triple step
        to the left. Of what does more than step it is asked: triple to the left."""
        words = self._words[self._since :]
        cards = [word.card for word in words if word.card is not None and not (word.side or word.joined)]
        opens = not (self._since or self.items)
        if len(cards) < len(words) or (opens and side == "right") or any(word.where for word in words[:-1]):
            # What opens a line begins on the right by itself.
            return
        if not sum(card.weight_changes * word.times for card, word in zip(cards, words, strict=True)) % 2:
            return
        kinds = [beat.kind.name for card in cards for beat in card.beats]
        plain = len(words) == 1 and kinds[0] == "step" and _STEPPED.issuperset(kinds)
        other = last.column in self.choices.otherwise
        if not opens:
            if plain and len(kinds) > 1:
                self._may_begin_there(side, last, other=other)
            return
        foot = side if not other else "right"
        self._words[0] = replace(words[0], side=foot)
        written = f"{FOOT_WRITTEN[foot]}{self.text[words[0].column : last.end]}"
        code: OpenCode = "between" if other else "linked"
        cost = (_CANNOT if plain else _ASKED) if other else 0
        self.open.append(Open(code, last.column, last.end, written, cost, since=words[0].column))

    def _may_begin_there(self, side: str, last: Bit, *, other: bool) -> None:
        """Note that what steps to a side behind other steps may begin with the foot of that side: rock step, triple
        step to the left. The free foot is believed."""
        word = self._words[-1]
        said = self.text[word.column : last.end]
        code: OpenCode = "between" if other else "linked"
        # "… going to the left" leaves nothing open.
        written = f"{FOOT_WRITTEN[side]}{said}" if other else f"{word.text} going to the {side}"
        self.open.append(Open(code, last.column, last.end, written, _ASKED if other else 0, since=word.column))
        if other:
            self._words[-1] = replace(word, side=side)

    def _all_goes(self, nodes: Sequence[Node], at: int, first: Bit) -> int:
        """Take where all goes of which was just said how often, up to a pause: (stamp clap) x2 in place, side
        together x4 to the right. A word that ends a line behind a pause may be a step there, which is noted: flap x4,
        back. Returns how many tokens it used, 0 for anything else."""
        if not is_name(first, _MAY_TRAVEL) or not (self._words or self.items):
            return 0
        pause = nodes[at - 1] if at else None
        # "(stamp clap) x2 (in place)".
        inside = not at and bool(self.items) and isinstance(self.items[-1], Repeat)
        parted = is_pause(pause) and ":" not in pause.text
        last = self._words[-1] if self._words[self._since :] else None
        called = say.WHERE.get(last.text.casefold()) if last is not None else None
        if last is not None and (called is None or last.where not in ("", called)):
            # It is where that goes.
            return 0
        before = at - 1 - parted
        often = before > 0 and number_alone(nodes[before]) is not None and is_name(nodes[before - 1], say.TIMES)
        often = often or inside or (before >= 0 and is_often(nodes[before]))
        if not often and (not parted or self._goes_to_places()):
            return 0
        there = next((n for n in range(at, len(nodes)) if not is_name(nodes[n], _LEADS_THERE)), len(nodes))
        # "In" is where a step goes, too.
        there -= there > at and not is_name(nodes[there] if there < len(nodes) else None, _TRAVELS | _SIDES)
        way = nodes[there] if there < len(nodes) else None
        led = there > at
        if not isinstance(way, Bit) or not is_name(way, _TRAVELS | (_SIDES if led else frozenset())):
            return 0
        end = there + 1
        if end < len(nodes) and not (is_pause(nodes[end]) or is_name(nodes[end], say.AND | say.THEN)):
            return 0
        plainly = led or is_name(way, _ALL_GO)
        if not plainly and is_said(nodes, end + 1, _WHERE):
            # "stamp x4  side, together".
            return 0
        if often and (not parted or plainly):
            return end - at
        if any(not is_pause(node) for node in nodes[end:]) or not (often or plainly):
            # "stamp x4, side, together": they are steps.
            return 0
        stepped = first.column in self.choices.otherwise
        code: OpenCode = "there" if stepped else "goes"
        written = f"step-{way.text}" if stepped else f"going {way.text}"
        self.open.append(Open(code, first.column, way.end, written, 2 if stepped else 0))
        return 0 if stepped else end - at

    def _ahead_goes(self, nodes: Sequence[Node], at: int) -> int:
        """Take where what follows goes, said before its steps: to the front shuffle step, sideways rock step. Returns
        how many tokens it used, 0 for anything else."""
        before = nodes[at - 1] if at else None
        if not (before is None or is_pause(before) or is_name(before, say.AND | say.THEN)) or self._counts:
            return 0
        there = at
        while is_said(nodes, there, say.TO | say.THE):
            there += 1
        led = is_said(nodes, at, say.TO)
        # "to the front, stamp clap".
        over = led and not at and there + 1 < len(nodes) and is_pause(nodes[there + 1])
        there += over
        step = nodes[there + 1] if there + 1 < len(nodes) else None
        if not is_said(nodes, there - over, _TRAVELS if led else _ALL_GO) or is_name(step, _WHERE):
            return 0
        names = list(islice(names_from(nodes, there + 1), self.shelf.longest)) if is_word(step) else []
        return (
            there + 1 - at
            if any(self._card(" ".join(n.text for n in names[: n + 1]))[0] for n in range(len(names)))
            else 0
        )

    def _goes_to_places(self) -> bool:
        """Whether the line says of a step where it goes, or has one that is called so."""
        words = [*self._words, *(word for item in self.items if isinstance(item, WordRun) for word in item.words)]
        return any(word.where or word.text.casefold() in _WHERE for word in words)

    def _going(self, nodes: Sequence[Node], at: int) -> int:
        """Take "going forward" and "travelling to the right"; returns how many tokens that used."""
        there = at + 1
        while is_said(nodes, there, say.TO | say.THE):
            there += 1
        # "going in front".
        there += is_said(nodes, there, _IN) and is_said(nodes, there + 1, say.AFTER_IN)
        last = nodes[there] if there < len(nodes) else None
        way = last.text.casefold() if isinstance(last, Bit) else ""
        side = SIDES.get(way, "")
        if not isinstance(last, Bit) or (way not in say.WHERE and side not in ("left", "right")):
            return 0
        self._goes(say.WHERE.get(way) or f"to the {side}", last)
        return there + 1 - at

    def _goes_before(self, nodes: Sequence[Node], at: int, first: Bit) -> int:
        """Note that a direction that opens what is said up to a pause or a count, right before a step, may be where
        that goes or a step there: back rock, 1 side kick; behind a figure it is no step: DS front touch. Returns how
        many tokens it used, 0 where it is none or taken otherwise."""
        opens, after = not self._words[self._since :], self._may_lead(first)
        if not (opens or after) or self._join is not None or sum(len(group.atoms) for group in self._counts) > 1:
            return 0
        if first.text.casefold() in say.CROSSES and is_name(
            nodes[at + 1] if at + 1 < len(nodes) else None, say.CROSS
        ):
            return self._crosses(nodes[at + 1], first)
        names = list(islice(names_from(nodes, at + 1), self.shelf.longest)) if _is_word_at(nodes, at + 1) else []
        texts = ((size, " ".join(n.text for n in names[:size])) for size in range(len(names), 0, -1))
        found = ((size, text, self._card(text)[0]) for size, text in texts)
        size, text, card = next(((n, t, c) for n, t, c in found if c is not None), (0, "", None))
        if (
            card is None
            or text.casefold() in _WHERE
            or not (_goes_somewhere(card, text) or self._set_down(first, card, text))
        ):
            return 0
        if not opens and (len(card.beats) > 1 or card.weight_changes):
            return 0
        there = first.column in self.choices.otherwise
        figure = self._card(f"{text} {first.text}")[0]
        # "Toe back" is a figure where a toe that goes back is none.
        clear = say.BARE.get(fold(text), text) if figure is not None and len(figure.beats) > 1 else text
        word = Word(clear, card, first.column, names[size - 1].end)
        written = f"{first.text}, {text}" if there else _with(word, first.text, there=False)
        code: OpenCode = "there" if there else "goes"
        self.open.append(Open(code, first.column, word.end, written, 2 if there else 0))
        if there:
            return 0
        self._where_ahead = say.WHERE[first.text.casefold()], first
        return 1

    def _may_lead(self, first: Bit) -> bool:
        """Whether right before a direction is a figure, of which is not said where it goes, or what goes somewhere
        and takes no weight."""
        before = self._words[-1] if self._words[self._since :] else None
        if before is None or before.card is None or before.joined or not self._uncounted:
            return False
        goes = not before.card.weight_changes if before.where else len(before.card.beats) > 1
        return goes and not self.text[before.end : first.column].strip()

    def _set_down(self, first: Bit, card: Card, text: str) -> bool:
        """Whether a direction may be where what is set down right after it goes: front touch, back heel, back step.
        "Side touch" is two where no heel drops, unless the other places are said so, too."""
        if len(card.beats) > 1 or not (card.beats[0].kind.name in _SET_DOWN or fold(text) in say.BARE):
            return False
        side = is_name(first, _TO_A_SIDE)
        if card.weight_changes and (side or is_name(first, say.CROSS)):
            # "Side step" and "cross step" are told elsewhere, where they are figures.
            return card.name != "step" or (side and self._card(f"{first.text} {text}")[0] is None)
        among = any(f"{where} {text.casefold()}" in self.text.casefold() for where in say.LEADS_TO - _TO_A_SIDE)
        return not side or among or not self._uncounted or self.tradition in say.DROPPED

    def _crosses(self, cross: Node, first: Bit) -> int:
        """Note that "back cross" may be one step that crosses behind, or two; returns as above."""
        assert isinstance(cross, Bit)
        there, going = first.column in self.choices.otherwise, say.CROSSES[first.text.casefold()]
        written = f"{first.text}, {cross.text}" if there else f"step-{going}"
        self.open.append(Open("there" if there else "goes", first.column, cross.end, written, 2 if there else 0))
        if there:
            return 0
        card = self.shelf.find("step", self.tradition)
        self._word(Word(cross.text, card, first.column, cross.end, where=say.WHERE[going]))
        return 2

    def _goes(self, where: str, last: Bit) -> None:
        """Say where the word before goes."""
        before = self._words[-1]
        lifted = before.joined[-1] if before.joined else before
        if last.text.casefold() in say.UP and lifted.card is not None and lifted.card.name in ("heel", "toe"):
            shown = f'A {lifted.text} that goes up makes no sound: say "hold" for its count, or leave it out.'
            self.problem("N109", last, shown)
        elif where in ("out", "in") and lifted.card is not None and lifted.card.name in ("heel", "toe"):
            way = f'say "swivel" for its count, or "{lifted.text} drop" where it drops'
            self.problem("N109", last, f'"{lifted.text} {last.text}" makes no sound: {way}.')
        target = replace(lifted, where=where, end=last.end)
        card, named = lifted.card, self._card(f"{lifted.text} {last.text}")[0]
        # "brush backwards", too.
        named = named or self._card(f"{lifted.text} {where}")[0]
        if where in _PLACES and card is not None and named is not None and len(named.beats) == len(card.beats) == 1:
            # "brush right back": as "brush back" is.
            target = replace(target, card=named)
        self._words[-1] = replace(before, joined=(*before.joined[:-1], target)) if before.joined else target

    def _where(self, where: str, first: Bit, *, plainly: bool = False) -> int:
        """Take where the word before goes; alone, or where counts are left for it, it is a step there. `plainly`: it
        was said to go there."""
        if self._there_again(where, first) or self._swivels(where, first):
            return 1
        # What stands in brackets behind its step is no more than said of it.
        plainly = plainly or self.text[max(first.column - 1, 0) : first.column] == "("
        before = self._words[-1] if self._words[self._since :] else None
        if before is not None and self._side is not None and before.text.casefold() in _SIDES:
            # "right left back": of two feet alone it is where the second goes.
            before = None
        target = before and (before.joined[-1] if before.joined else before)
        # "step L back": after its foot it is where the step goes.
        plainly = plainly or (target is not None and not target.where and self._after_a_foot(first))
        moves = target is not None and target.card is not None and target.card.weight_changes > 0
        left = sum(len(g.atoms) for g in self._counts) > sum(len(w.card.beats) if w.card else 1 for w in self._words)
        another = target is not None and bool(target.where or target.text.casefold() in _WHERE or left)
        # What goes somewhere already, or leaves a count over, is followed by a step there.
        # A jump together closes the feet itself.
        step = moves and (another or (where == "together" and target is not None and not _jumps(target)))
        there = target is None or (not plainly and (step or bool(target.where) or left))
        walks = moves and target is not None and _walks(target)
        # "hold side": a hold goes nowhere; "clap side" is asked about.
        footless = (
            target is not None
            and target.card is not None
            and not plainly
            and where in _STEPPED_TO
            and not any(beat.kind.limb == "foot" for beat in target.card.beats)
        )
        holds = footless and target is not None and target.card is not None and target.card.name == "hold"
        # "cross cross": one more.
        again = target is not None and not plainly and target.text.casefold() == first.text.casefold()
        there = there or holds or again
        crossed = target is not None and where in _CROSSED and target.where == "across"
        if target is not None and crossed and not (left or plainly or again):
            there = self._crossed(target, first) if target.text.casefold() in _WHERE else there
        elif (
            target is not None
            and not there
            and not plainly
            and self._uncounted
            and (walks or footless or self._goes_on(first) or (is_name(first, say.CROSS) and not target.where))
        ):
            there = self._direction(target, first)
        if there and target is None and where in _JUMPED and self._jumped_on(where, first):
            return 1
        if there:
            if target is None and where == "together":
                self._foot_and_together(first)
            card = self.shelf.find("step", self.tradition)
            self._word(Word(first.text, card, first.column, first.end, where=where))
        else:
            self._goes(where, first)
        return 1

    def _foot_and_together(self, first: Bit) -> None:
        """Note that a foot before "together" may be the one that closes, or a step of its own; it is taken so where
        that is tried."""
        if self._side is None or not self._uncounted or self._side[0] not in ("left", "right"):
            return
        side, said = self._side
        before = self._last_word()
        if before is not None and before.where and before.side not in ("", side):
            # "right side, left together": each foot goes somewhere.
            return
        apart = said.column in self.choices.otherwise
        foot = FOOT_WRITTEN[side]
        written = f"{foot}step, {first.text}" if apart else f"{foot}step-{first.text}"
        self.open.append(Open("there" if apart else "goes", said.column, first.end, written, 2 if apart else 0))
        if apart:
            self._side = None
            self._word(Word(said.text, self.shelf.find("step", self.tradition), said.column, said.end, side=side))

    def _jumped_on(self, where: str, first: Bit) -> bool:
        """Note that after "jump out," "in" may be one more jump, or a step there; whether it is taken so."""
        before = self._last_word()
        if before is None or before.card is None or not _jumps(before) or not before.where:
            return False
        stepped = first.column in self.choices.otherwise
        said = first.text if stepped else f"jump-{first.text}"
        code: OpenCode = "step_there" if stepped else "same_word"
        self.open.append(Open(code, first.column, first.end, said, 3 if stepped else 0))
        if not stepped:
            self._word(replace(before, column=first.column, end=first.end, where=where, times=1, turn=Fraction(0)))
        return not stepped

    def _swivels(self, where: str, first: Bit) -> bool:
        """Note that a heel or a toe that goes in and out makes no sound each time: heels out, in, out."""
        before = self._last_word()
        if before is None or before.card is None or before.card.name not in ("heel", "toe"):
            return False
        adjacent = not before.where and not self.text[before.end : first.column].strip() and self._goes_on(first)
        if where not in ("out", "in") or not (adjacent or before.where in ("out", "in")):
            return False
        self.problem("N109", first, f'"{before.text} {first.text}" makes no sound: say "swivel" for its count.')
        return True

    def _there_again(self, where: str, first: Bit) -> bool:
        """Note that a place after a kick or a touch in another may be one more, or a step there: touch front, side,
        back; whether it is taken so."""
        before = self._last_word()
        # "kick front, cross": a step that crosses.
        if where not in _PLACES - {"across"} or before is None or before.card is None or before.where not in _PLACES:
            return False
        if len(before.card.beats) > 1 or before.card.weight_changes or before.card.beats[0].kind.limb != "foot":
            return False
        stepped = first.column in self.choices.otherwise
        name = before.text if before.text.casefold() not in _WHERE else before.card.name
        card = self._card(f"{name} {first.text}")[0] or before.card
        if len(card.beats) > 1:
            # "Toe back" is a figure where the toe of "toe front, back" is none.
            name, card = before.card.name, before.card
        said = f"step-{first.text}" if stepped else f"{name.replace(' ', '-')}-{first.text}"
        code: OpenCode = "step_there" if stepped else "same_word"
        self.open.append(Open(code, first.column, first.end, said, 3 if stepped else 0))
        if not stepped:
            # A brush back goes by a name of its own.
            again = replace(before, card=card, column=first.column, end=first.end, where=where, times=1)
            self._word(replace(again, turn=Fraction(0), joined=()))
        return not stepped

    def _after_a_foot(self, first: Bit) -> bool:
        """Whether a foot is said right before a word."""
        before = self.text[: first.column].rsplit(maxsplit=1)[-1:]
        return bool(before) and before[0].strip("().").casefold() in _SIDES

    def _crossed(self, target: Word, first: Bit) -> bool:
        """Note that "cross behind" may be two steps where nothing parts the line; gives whether it is taken so."""
        if target.column in self.choices.otherwise:
            # "step cross back" as a step, and one that crosses, is one there, too.
            return True
        if any(sign in self.text for sign in ",;.:"):
            return False
        turned = first.column in self.choices.otherwise
        written = (
            _with(target, first.text, there=turned) if turned else f"{FOOT_WRITTEN[target.side]}step-{first.text}"
        )
        code: OpenCode = "there" if turned else "goes"
        self.open.append(Open(code, first.column, first.end, written, 4 if turned else 0, since=target.column))
        return turned

    def _goes_on(self, first: Bit) -> bool:
        """Whether one more place to go to is said right after one, as in kick back cross."""
        after = self.text[first.end :].split()
        return bool(after) and after[0].casefold() in _WHERE

    def _direction(self, target: Word, first: Bit) -> bool:
        """Note that a direction after a step without counts may be one more step; gives whether it is taken so."""
        # What crosses behind or in front is a step by that word, not by where it goes.
        said = {word.text.casefold() for word in self._words if word.where not in ("behind", "front")}
        steps = any(say.WHERE.get(word, "together") != "together" for word in said)
        there = (first.column in self.choices.otherwise) != steps
        turned = first.column in self.choices.otherwise
        code: OpenCode = "there" if turned else "goes"
        # A step there is parted from where the next goes.
        led_by = self.text[first.end :].lstrip()[:1].isalpha()
        parted = "," if there and first.text.casefold() in say.LEADS_TO and led_by else ""
        written = _with(target, first.text, there=there) + parted
        self.open.append(Open(code, first.column, first.end, written, 4 if turned else 0, since=target.column))
        return there


def _with(word: Word, where: str, *, there: bool) -> str:
    """A word with where it goes, in one, or with a step there after it."""
    said = replace(word, times=1, where="").said
    often = f" x{word.times}" if word.times > 1 else ""
    return (
        # Alone behind how often it would be where all of it goes.
        f"{said}{often}, {'step-' if often else ''}{where}"
        if there
        else f"{said.replace(word.text, word.text.replace(' ', '-'))}-{where}{often}"
    )


def _walks(word: Word) -> bool:
    """Whether a place to go to, said after a word, may be one more step; "kick step back" is no other than that step
    back."""
    if word.card is None:
        return False
    kinds = [beat.kind.name for beat in word.card.beats]
    return kinds[0] in _WALKED or (len(kinds) == 2 and kinds[-1] == "step" and word.text.casefold().endswith(" step"))


def _goes_somewhere(card: Card, text: str) -> bool:
    """Whether where a step goes may be said before it: of what is swung or leaves the floor, and of figures."""
    # A side step is a step to the side, whatever is named with it.
    figure = len(card.beats) > 1 and card.weight_changes > 0 and not text.casefold().startswith("step")
    return figure or card.beats[0].kind.name in say.SWUNG or text.casefold() in say.WALKS


def _is_word_at(nodes: Sequence[Node], at: int) -> bool:
    """Whether a word stands there."""
    return at < len(nodes) and is_word(nodes[at])


def _jumps(word: Word) -> bool:
    return word.card is not None and word.card.beats[-1].kind.name == "jump"
