"""What a name means where it may be one of several steps: by the words beside it, the counts, the piece."""

from collections.abc import Sequence
from itertools import islice, pairwise

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.choices import Open, OpenCode
from firn.core.script.collector import EIGHTS
from firn.core.script.items import Word
from firn.core.script.places import counts_of
from firn.core.script.said import SIDES, cards_said
from firn.core.script.tokens import is_name, names_from
from firn.core.script.tree import Bit, Node, is_word
from firn.core.script.written_line import WrittenLine
from firn.core.steps.card import Card
from firn.core.steps.names import fold

_WHERE = frozenset(say.WHERE)

_FITS = 10
"""What speaks for the card of a name that has as many sounds as counts are written, or takes as many."""

_LEADS_THERE = frozenset({"in", "en", "out"}) | say.TO | say.THE
"""Said before where a heel or a toe touches."""


_FEET = frozenset(SIDES)
_OWN_LAST = frozenset({"touch", "hold", "clap", "kick", "point"})
"""With these a figure ends that is called so: grapevine touch."""


class MeantLine(WrittenLine):
    """Takes names for one of the steps that they may mean."""

    def _in_one(self, first: Bit, after: Sequence[Node]) -> bool:
        """Take a step and where it goes, said in one word, as in step-back; whether it was."""
        name, _, where = first.text.rpartition("-")
        card, plural = self._card(name) if name and where.casefold() in say.WHERE else (None, False)
        if card is None:
            return False
        going = say.WHERE[where.casefold()]
        # Where it goes is said with it: heel-front is no drop.
        said = replace(first, text=where, column=first.column + len(name) + 1)
        card = self._one_of_several(name, card, first.column, first.end, [said, *after])
        self._word(Word(name, card, first.column, first.end, several=plural, where=going))
        return True

    def _one_of_several(self, text: str, card: Card, column: int, end: int, after: Sequence[Node]) -> Card:
        """The card that a name means here; where it may be one of several, that is noted."""
        if self.choices.before:
            return card
        if fold(text) in say.ROCKS and self._comes_back(after):
            return self.shelf.find("step", self.tradition) or card
        cards = cards_said(self.shelf, text, self.tradition) or self._part_of_foot(text, card, after)
        step = self.shelf.find("step", self.tradition)
        if fold(text) in say.BROKEN and after and is_name(after[0], say.WHERE_TOUCHED) and not self._agreed(text):
            cards = cards if step is None else (step, card)
        if len(cards) == 1:
            return cards[0]
        if card not in cards:
            return card
        number = self.choices.meant(column)
        meant = cards[number]
        # The number of counts that are written chooses.
        atoms = sum(len(group.atoms) for group in self._counts)
        by_sound = atoms > 1 and any(len(one.beats) == atoms for one in cards)
        fits = len(meant.beats) == atoms if by_sound else self._takes_as_many(meant)
        fits = fits and not self._words
        # What depends on the words beside it is no matter of the whole piece.
        here = fold(text) in say.JUMPS | say.BROKEN
        written = "both jump" if here and meant.name == "jump" else meant.name
        cost = number - (_FITS if fits else 0)
        code: OpenCode = "instead" if here else "bare" if fold(text) in say.BARE else "means"
        self.open.append(Open(code, column, end, written, cost, many=len(cards)))
        return meant

    def _own_last(self, word: Word, after: Node | None) -> int | None:
        """Note that a word right behind a figure that ends with just that may be its own last: grapevine touch; vine
        right, touch; returns how many tokens after it that used where it is taken so, None where it is not."""
        before = self._words[-1] if self._words else None
        if before is None or before.card is None or word.card is None or self.choices.before:
            return None
        if len(before.card.beats) < 3 or before.joined or before.times > 1 or self._join is not None:
            return None
        kind = before.card.beats[-1].kind.name
        # Where the figure takes all counts that are said, none is left for more.
        fills = len(self._words) == 1 and self._fills_its_counts(before.card)
        parted = self.text[before.end : word.column].strip(" ")
        if (
            parted not in ("", ",", ";")
            or self._where_ahead is not None
            or self._side is not None
            or not (fills or self._uncounted)
        ):
            return None
        said = self.text[before.column : before.end]
        if word.card.name != kind or kind not in _OWN_LAST or said.endswith(word.text):
            return None
        more = word.column in self.choices.otherwise
        foot = after if is_name(after, _FEET) and not more else None
        end = word.end if foot is None else foot.end
        code: OpenCode = "between" if more else "linked"
        written = f"{said} & {word.text}" if fills else f"{said} then {word.text}"
        self.open.append(
            Open(code, word.column, end, written if more else said, 2 if more else 0, since=before.column)
        )
        if more:
            return None
        self._words[-1] = replace(before, end=end)
        return int(foot is not None)

    def _fills_its_counts(self, card: Card) -> bool:
        """Whether one range of counts is said, and a figure takes as many."""
        atoms = [atom for group in self._counts for atom in group.atoms]
        if len(atoms) != 1 or atoms[0].through is None or atoms[0].number is None:
            return False
        return counts_of(card, EIGHTS, self.tradition) == atoms[0].through - atoms[0].number + 1

    def _takes_as_many(self, card: Card) -> bool:
        """Whether as many counts are written in a row, as 1 2 3 4 5 6 or 1-6, as a figure usually takes."""
        atoms = [group.atoms[0] for group in self._counts if len(group.atoms) == 1]
        if not atoms or len(atoms) < len(self._counts) or any(a.number is None or a.letter for a in atoms):
            return False
        numbers = [n for a in atoms for n in (a.number, a.through) if n is not None]
        in_a_row = all(after == before + 1 for before, after in pairwise(numbers))
        long = numbers[-1] - numbers[0] + 1
        return long > 1 and (in_a_row or len(atoms) == 1) and long == counts_of(card, EIGHTS, self.tradition)

    def _part_of_foot(self, text: str, card: Card, after: Sequence[Node]) -> tuple[Card, ...]:
        """The cards that a bare heel or toe may mean; () for its drop.

        Said with where it goes it touches there. Where the heels seldom drop it rather touches, which is asked.
        """
        if fold(text) in say.JUMPS and self._side is None and self._needs_one_foot(after):
            one = self.shelf.find("one-foot jump", self.tradition)
            return () if one is None else (one, card)
        name = say.BARE.get(fold(text))
        touching = self.shelf.find(name, self.tradition) if name and card.primitive else None
        if touching is None or self._agreed(text):
            return ()
        # "heel in front", "toe to the side".
        where = next((node for node in after[:3] if not is_name(node, _LEADS_THERE | _FEET)), None)
        if is_name(where, say.WHERE_TOUCHED) or self._where_ahead is not None:
            return (touching,)
        if self.tradition not in say.DROPPED and self.tradition:
            return (touching, card)
        before = self._last_word()
        if fold(text) not in say.SPANISH_HEEL or before is None or before.card is None:
            return ()
        # A heel after a ball drops; after the whole foot it may be the other one's.
        return () if before.card.beats[-1].kind.name in say.ON_THE_BALL else (card, touching)

    @staticmethod
    def _comes_back(after: Sequence[Node]) -> bool:
        """Whether the next word but for feet and places is that the weight comes back; or, behind a foot, a step:
        rock right, step left."""
        names = [node for node in after if is_word(node)]
        small = frozenset({*SIDES, *say.WHERE, *say.TO, *say.THE, *say.THEN, *say.AND})
        following = next((n for n in names if n.text.casefold() not in small), None)
        footed = bool(names) and is_name(names[0], frozenset(SIDES))
        return is_name(following, say.BACK_AGAIN | say.STEPS if footed else say.BACK_AGAIN)

    def _agreed(self, text: str) -> bool:
        """Whether the piece says what a word means in it."""
        return any(fold(word) == fold(text) for word, _ in self.shelf.words)

    def _needs_one_foot(self, after: Sequence[Node]) -> bool:
        """Whether the next word is danced on the foot that carries."""
        at = next((n for n, node in enumerate(after) if is_word(node)), None)
        if at is None:
            return False
        names = list(islice(names_from(after, at), self.shelf.longest))
        texts = (" ".join(n.text for n in names[:size]) for size in range(len(names), 0, -1))
        card = next((card for card, _ in map(self._card, texts) if card is not None), None)
        return card is not None and card.beats[0].kind.name in ("hop", "pickup", "chug")

    @staticmethod
    def _hands_go(first: Bit, after: Sequence[Node]) -> bool:
        """Whether hands go somewhere, which is no clap: hands up."""
        return first.text.casefold() == "hands" and any(is_name(node, _WHERE) for node in after)
