"""Sounds, parts and pieces: a script with every sound in its place, on its foot."""

from bisect import bisect_left, bisect_right
from collections.abc import Iterator, Sequence
from fractions import Fraction
from functools import cached_property

from msgspec import Struct

from firn.core.footing.footing import Footing
from firn.core.footing.state import Step
from firn.core.meter.ticks import Ticks, in_ticks
from firn.core.piece.sound import Order, Sound
from firn.core.script.combo_item import ComboItem
from firn.core.script.layers import Layers, Syllable
from firn.core.script.places import Use
from firn.core.script.problems import Problem
from firn.core.script.reader import PartScript
from firn.core.script.settings import Settings
from firn.core.task import giving_way


def place_key(line: int, column: int) -> int:
    """One number for a place in a text."""
    return line * 1_000_000 + column


class Part(Struct, frozen=True, dict=True):
    """A phrase: its sounds in order of time, and what the script and the feet say of it."""

    name: str
    script: PartScript
    settings: Settings
    sounds: tuple[Sound, ...]
    steps: tuple[Step, ...]
    footing: Footing
    order: Order

    @property
    def uses(self) -> tuple[Use, ...]:
        return self.script.uses

    def said_at(self, line: int, column: int) -> tuple[int | None, int | None]:
        """The first sound of the word in which a place of the text lies, and that of the word before it or in it, by
        their indexes; None for none."""
        uses = self.uses
        own = bisect_left(uses, True, key=lambda u: bool(u.layer))
        # The steps' own lines come in their order; the few of the hands after them.
        first, last = (side(uses, line, hi=own, key=lambda u: u.line) for side in (bisect_left, bisect_right))
        near = [*uses[max(0, first - 1) : last], *uses[own:]]
        before = [u for u in near if (u.line, u.word.column) <= (line, column)]
        if not before:
            return None, None
        spot = max((u.line, u.word.column) for u in before)
        # Of a word that is danced several times, the first time is stood on, the last is near.
        said = [u for u in before if (u.line, u.word.column) == spot]
        inside = self.first_of(said[0]) if spot[0] == line and column <= said[0].word.end else None
        return inside, self.first_of(said[-1])

    @property
    def layers(self) -> Layers:
        return self.script.layers

    @property
    def seated(self) -> bool:
        """Whether it is danced on a chair, where no foot carries."""
        return self.script.layers.seated

    @cached_property
    def syllables(self) -> dict[int, str]:
        """The syllable of each sound that has one, by its index."""
        given = {i: s.text for line in scat_lines(self) for i, s in zip(line.sounds, line.syllables, strict=False)}
        return given | {i: sound.syllable for i, sound in enumerate(self.sounds) if sound.syllable}

    @property
    def problems(self) -> tuple[Problem, ...]:
        return self.script.problems

    @property
    def place_ticks(self) -> Ticks:
        """The places of all sounds in ticks."""
        return self.order.places

    @cached_property
    def position_ticks(self) -> Ticks:
        """Where all sounds lie under the feel, in ticks."""
        return in_ticks([s.position for s in self.sounds])

    @property
    def own(self) -> Sequence[int]:
        """The sounds of the steps' own lines, which say how long it is, by their indexes; all where it has none."""
        every, layered = range(len(self.sounds)), self.order.layered
        if not layered or len(layered) == len(every):
            return every
        beside = set(layered)
        return [i for i in every if i not in beside]

    @cached_property
    def first_count(self) -> Fraction:
        """The first whole count that is sounded or held."""
        own = self.own
        return Fraction(-(-self.sounds[own[0]].place // 1)) if own else Fraction(0)

    @cached_property
    def last_count(self) -> Fraction:
        """The last whole count that is sounded or held, holds to their end."""
        own = self.own
        if not own:
            return Fraction(-1)
        # In order of time: the last begins last, though one before it may be held for longer.
        within = own if isinstance(own, range) else set(own)
        long = (self.sounds[i] for i in self.order.long if i in within)
        return Fraction(max([self.sounds[own[-1]].place // 1, *((s.place + s.length - 1) // 1 for s in long)]))

    @property
    def counts(self) -> int:
        """Length in counts: first whole count to last, a pick-up on a whole count included."""
        return max(0, int(self.last_count - self.first_count) + 1)

    @cached_property
    def ended(self) -> "dict[tuple[str, str], Part]":
        """The part with other endings and entries, by which it is and its words: a combo asks for each many times."""
        return {}

    @property
    def empty_counts(self) -> list[Fraction]:
        """Whole counts with neither a sound, a move, nor a hold; not those inside a word, nor those of which
        the division is danced within a figure."""
        taken = {p.numerator for p in self.script.unknown if p.denominator == 1}
        places = self.place_ticks
        for tick, sound in giving_way(zip(places.at, self.sounds, strict=True)):
            if tick % places.in_a_count == 0:
                first = tick // places.in_a_count
                taken.add(first)
                if sound.length > 1:
                    taken.update(range(first, first + int(sound.length)))
        for use in giving_way(self.uses):
            if len(use.places) > 1 and not use.layer:
                taken.update(range(-(-use.places[0] // 1), use.places[-1] // 1 + 1))
                taken.update(p // 1 for p in use.places)
            # Some figures end with a count that they leave out.
            taken.update(range(use.places[0] // 1, use.places[0] // 1 + use.card.counts))
        counts = range(int(self.first_count), int(self.last_count) + 1)
        return [Fraction(c) for c in counts if c not in taken]

    @cached_property
    def sounds_of(self) -> dict[int, list[Sound]]:
        """The sounds of each word, by its index."""
        found: dict[int, list[Sound]] = {}
        for sound in self.sounds:
            found.setdefault(sound.use, []).append(sound)
        return found

    @cached_property
    def joined_words(self) -> frozenset[int]:
        """The places (line times a million, plus column) of words that stand at another's place."""
        return frozenset(place_key(u.line, w.column) for u in self.uses for w in u.word.joined)

    def first_of(self, use: Use) -> int | None:
        """The first sound of a word, by its index; None for a word that is not of this part."""
        if not use.places:
            return None
        ticks, place = self.place_ticks, min(use.places)
        tick = place.numerator * ticks.in_a_count // place.denominator
        at = bisect_left(ticks.at, tick)
        until = bisect_right(ticks.at, tick, lo=at)
        return next((i for i in range(at, until) if self.uses[self.sounds[i].use] is use), None)

    def line_of(self, use: Use) -> str:
        """The line of the text that a word stands on."""
        return self.script.lines[use.line]

    def typed(self, use: Use) -> str:
        """A word as it is typed, with the foot before it and the marks behind it."""
        return self.line_of(use)[use.word.column : use.word.end]

    def word(self, sound: Sound) -> str:
        """The word that a sound belongs to, as typed."""
        return self.uses[sound.use].word.text


class ScatLine(Struct, frozen=True):
    """A line of syllables with the sounds that it belongs to, by their indexes."""

    syllables: tuple[Syllable, ...]
    sounds: tuple[int, ...]


def scat_lines(part: Part) -> list[ScatLine]:
    """Each line of syllables with what the feet strike in the lines above it, or what the hands do, back to the
    syllables before.

    Sounds of one place share a syllable; the last line takes what is left.
    """
    feet = [(i, part.uses[s.use].line) for i, s in enumerate(part.sounds) if s.heard and not s.layer]
    hands = [(i, part.uses[s.use].line) for i, s in enumerate(part.sounds) if not s.silent and s.layer and s.hand]
    by_hand = [(i, line) for i, line in hands if not part.sounds[i].syllable]
    return [*_lines_for(part, part.layers.scat, feet), *_lines_for(part, part.layers.hand_scat, by_hand)]


def _lines_for(
    part: Part, rows: Sequence[tuple[Syllable, ...]], heard: Sequence[tuple[int, int]]
) -> Iterator[ScatLine]:
    left = list(heard)
    for number, syllables in enumerate(rows):
        until = syllables[0].line if syllables else -1
        last = number == len(rows) - 1
        mine = [i for i, line in left if last or line < until]
        left = [(i, line) for i, line in left if not last and line >= until]
        first = {part.sounds[i].place: i for i in reversed(mine)}
        yield ScatLine(syllables, tuple(sorted(first.values())))


class Piece(Struct, frozen=True):
    """A piece: settings, parts in order, the combo's items, and the lines of the text on which these begin.

    `meant`: what is worth a look in the combo and is meant so, by its name, with the reason.
    `between`: what is danced between the parts of the combo, each called as it is said.
    """

    settings: Settings
    parts: tuple[Part, ...]
    combo: tuple[ComboItem, ...]
    problems: tuple[Problem, ...]
    combo_line: int = 0
    meant: tuple[tuple[str, str], ...] = ()
    part_lines: tuple[int, ...] = ()
    between: tuple[Part, ...] = ()

    def part(self, name: str) -> Part | None:
        """A part by its name, or what is danced between parts by what is said of it."""
        return next((p for p in (*self.parts, *self.between) if p.name == name), None)
