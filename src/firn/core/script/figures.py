"""Parts that are words in other parts: a figure named out of figures, made a card of its own."""

from collections.abc import Sequence
from fractions import Fraction
from functools import lru_cache

from msgspec.structs import replace

from firn.core.footing.stance import OPENING, tried
from firn.core.script.counts import count_text
from firn.core.script.laid import laid_out, steps_laid
from firn.core.script.places import said_places
from firn.core.script.reader import read_part
from firn.core.script.settings import Settings
from firn.core.script.sung import SUNG
from firn.core.steps.card import Beat, Card, Role, whole_counts
from firn.core.steps.kinds import KINDS
from firn.core.steps.names import fold, words_in
from firn.core.steps.shelf import Figure, Shelf, shipped

Named = tuple[str, str]
"""A part's name and its text."""

SHORTEST = 2
"""A name of so many letters is none of a count or a foot."""
DEEPEST = 20
"""So many parts may stand in each other."""
MOST_BEATS = 400
"""So many sounds may a part have that is a word in another."""


def shelf_for(name: str, parts: Sequence[Named], settings: Settings, shelf: Shelf | None = None) -> Shelf:
    """The shelf with the other parts of a piece as cards that a part may name, as far as it names them.

    `parts`: all of the piece's. A part that names itself, by whatever way, is a card nowhere in it, and says so.
    """
    plain = (shelf or shipped()).called(settings.words)
    return _figures(tuple(parts), settings, plain).shelf_of(fold(name))


@lru_cache(maxsize=8)
def _figures(parts: tuple[Named, ...], settings: Settings, plain: Shelf) -> "_Figures":
    """The parts of a piece, looked through once for all of them."""
    return _Figures(parts, settings, plain)


class _Figures:
    """Which parts name which, and the shelf of each, every one found once: they may all name each other."""

    def __init__(self, parts: Sequence[Named], settings: Settings, plain: Shelf) -> None:
        self._parts: dict[str, Named] = {}
        for name, text in parts:
            self._parts.setdefault(fold(name), (name, text))
        self._settings = settings
        self._plain = plain
        self._named: dict[str, tuple[str, ...]] = {}
        self._shelves: dict[str, Shelf] = {}
        self._deep: dict[str, int] = {}

    def shelf_of(self, name: str) -> Shelf:
        """The shelf for a part by its folded name."""
        if name in self._shelves:
            return self._shelves[name]
        figures: list[Figure] = []
        broken: list[tuple[str, str]] = []
        for said in self._named_in(name):
            other, text = self._parts[said]
            if said == name:
                broken.append((said, f"{other} is danced in itself."))
            elif self._leads(said, name):
                broken.append((said, f"{other} is danced in itself, by way of this."))
            elif self._depth(said) >= DEEPEST:
                broken.append((said, f"{other} cannot be a word: more than {DEEPEST} parts stand in each other."))
            elif figure := _figure(other, text, self._settings, self.shelf_of(said)):
                figures.append(figure)
            else:
                why = "it has no steps, or something in it is not understood"
                broken.append((said, f"{other} cannot be a word yet: {why}."))
        shelf = self._plain.with_figures(tuple(figures), tuple(broken)) if figures or broken else self._plain
        self._shelves[name] = shelf
        return shelf

    def _depth(self, name: str) -> int:
        """How many parts stand in each other below one, as far as it matters."""
        ahead = [name]
        while ahead:
            one = ahead[-1]
            below = [said for said in self._named_in(one) if said != one and not self._leads(said, one)]
            open_ones = [said for said in below if said not in self._deep]
            if open_ones and one not in self._deep:
                ahead += open_ones
                continue
            ahead.pop()
            self._deep[one] = min(DEEPEST, max((self._deep[said] + 1 for said in below), default=0))
        return self._deep[name]

    def _named_in(self, name: str) -> tuple[str, ...]:
        """The folded names of the parts that a part names."""
        if name not in self._named:
            text = self._parts.get(name, ("", ""))[1]
            # A text may be long and is read at each key: most parts name no other, and most lines none.
            lowered = text.casefold()
            near = [one for one in self._parts if one.split(" ")[0] in lowered and self._may_name(one)]
            firsts = [one.split(" ")[0] for one in near]
            rows = [row for row in lowered.splitlines() if any(first in row for first in firsts)] if near else []
            said = [words_in(row) for row in rows]
            self._named[name] = tuple(one for one in near if any(f" {one} " in words for words in said))
        return self._named[name]

    def _may_name(self, name: str) -> bool:
        """Whether a part's name can be a word: no card's, and long enough."""
        letters = len(name) >= SHORTEST and all(word.isalpha() for word in name.replace("'", "").split())
        return letters and self._plain.called_so(name, self._settings.tradition) is None

    def _leads(self, start: str, to: str) -> bool:
        """Whether a part names another, itself or by way of others."""
        seen, ahead = {start}, [start]
        while ahead:
            for one in self._named_in(ahead.pop()):
                if one == to:
                    return True
                if one not in seen:
                    seen.add(one)
                    ahead.append(one)
        return False


@lru_cache(maxsize=256)
def _figure(name: str, text: str, settings: Settings, shelf: Shelf) -> Figure | None:
    """A part as a card; None where it has no steps or is not understood. The same text gives the same card."""
    script = read_part(name, text, settings, shelf)
    uses = [u for u in script.uses if not u.layer]
    sung = any(use.card is SUNG for use in uses)
    if script.problems or not uses or sung or sum(len(u.places) for u in uses) > MOST_BEATS:
        return None
    laid = laid_out(uses)
    feet = tried(OPENING, steps_laid(uses, laid)).feet
    beats: list[Beat] = []
    places: list[Fraction] = []
    for (place, use, beat), foot in zip(laid, feet, strict=True):
        made = _beat(uses[use].card.beats[beat], foot)
        word = uses[use].word
        made = replace(made, level=made.level + word.level, optional=made.optional or word.optional)
        length = max(1, int(uses[use].lengths[beat])) if made.kind.name == "hold" else 1
        beats += [made] * length
        places += [place + n for n in range(length)]
    order = sorted(range(len(places)), key=places.__getitem__)
    usual = _usual([places[n] for n in order], settings)
    if not usual:
        return None
    counts = whole_counts(tuple(places))
    card = Card(name, (), (), tuple(beats[n] for n in order), {"": (usual,)}, f"The part {name}.", counts=counts)
    first = next((u for u in uses if any(b.kind.limb == "foot" for b in u.card.beats)), uses[0])
    turn = sum((u.word.turn for u in uses), Fraction(0))
    return Figure(name, card, first.side if first.side in ("right", "left") else "", turn)


_ROLES: dict[str, Role] = {"R": "A", "L": "B", "both": "2"}
"""A part begins with the right foot free, up to the mirror image."""


def _beat(beat: Beat, foot: str) -> Beat:
    """A beat of a part's word on the foot that it has there."""
    if KINDS[beat.kind.name].limb != "foot" or foot not in _ROLES:
        return beat
    return replace(beat, role=_ROLES[foot])


def _usual(places: Sequence[Fraction], settings: Settings) -> str:
    """Counts that read back to some places, up to whole phrases; "" where none do."""
    counting = settings.counting
    for exact in (False, True):
        text = count_text(places, counting, exact=exact)
        try:
            read = said_places(text, counting)
        except ValueError:
            continue
        if len(read) == len(places) and len({r - p for r, p in zip(read, places, strict=True)}) == 1:
            return text
    return ""
