"""With which part of the foot a step is danced, as it is said after it: tap your toe, dig R heel."""

from collections.abc import Sequence

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.choices import Open, OpenCode
from firn.core.script.items import FOOT_WRITTEN, Word
from firn.core.script.said_feet import SaidFeet
from firn.core.script.tokens import is_name
from firn.core.script.tree import Bit, Group, Node, is_word
from firn.core.steps.card import Card

_WHERE = frozenset(say.WHERE)


class SaidParts(SaidFeet):
    """Takes the parts of the foot that steps are said to be danced with."""

    def _struck_with(self, nodes: Sequence[Node], at: int) -> int:
        """Take the part of the foot that the step right before is danced with: tap your toe; returns how many tokens
        that used, 0 where it is something else. What is called so by nobody is to be said otherwise."""
        before, part = self._struck(nodes, at)
        if before is None or part is None:
            return 0
        card = self._by_part(before, part)
        if card is None:
            said = f'Say "{before.text}" for one sound, or "{before.text}, {part.text}" for two.'
            self.problem("N109", part, said)
        else:
            self._words[-1] = replace(before, text=card.name, card=card, end=part.end)
        return 2

    def _struck(self, nodes: Sequence[Node], at: int) -> tuple[Word | None, Bit | None]:
        """The step of one sound right before a token, and the part of the foot that is named right after it; None for
        each where it is something else."""
        part = nodes[at + 1] if at + 1 < len(nodes) else None
        before = self._words[-1] if self._words[self._since :] and at and is_word(nodes[at - 1]) else None
        if not isinstance(part, Bit) or part.text.casefold() not in say.BARE or before is None or before.joined:
            return None, None
        if before.card is None or len(before.card.beats) != 1 or before.text.casefold() in (*say.STEPS, *say.BARE):
            return None, None
        return before, part

    def _by_part(self, word: Word, part: Bit) -> Card | None:
        """The step that a part of the foot strikes, as a heel dig; None where none is called so."""
        names = [f"{part.text} {word.text}", f"{word.text} {part.text}"]
        if word.card is not None and word.card.name == "touch":
            # A toe touches with its ball, a heel with its edge.
            heel = say.BARE[part.text.casefold()] == "dig"
            names.append("dig" if heel else "touch")
        return next((card for card, _ in map(self._card, names) if card is not None), None)

    def _struck_by(self, side: str, nodes: Sequence[Node], at: int, first: Bit) -> int:
        """Take the foot and its part that the step right before is danced with: dig R heel; that it may be a step of
        that foot, and a heel, is noted. Returns how many tokens that used, 0 where it is something else."""
        before, part = self._struck(nodes, at)
        after = nodes[at + 2] if at + 2 < len(nodes) else None
        # "tap right toe behind", "tap the right toe twice".
        plainly = is_name(nodes[at - 1], say.THE) or is_name(after, _WHERE | say.AND | say.THEN)
        goes_on = is_word(after) and not plainly
        if before is None or part is None or before.side or goes_on or isinstance(after, Group):
            return 0
        card = self._by_part(before, part)
        if card is None and before.card is not None and before.card.beats[0].kind.silent:
            # "kick right heel back", "point R toe in front": what the foot shows, and makes no sound of its own.
            card = before.card
        if card is None:
            return 0
        apart = first.column in self.choices.otherwise
        foot = FOOT_WRITTEN[side]
        written = f"{foot}{before.text}, {part.text}" if apart else f"{foot}{card.name}"
        code: OpenCode = "between" if apart else "linked"
        self.open.append(Open(code, first.column, part.end, written, 3 if apart else 0, since=before.column))
        if apart:
            self._words[-1] = replace(before, side=side, end=first.end)
            return 1
        self._words[-1] = replace(before, text=card.name, card=card, side=side, end=part.end)
        return 2
