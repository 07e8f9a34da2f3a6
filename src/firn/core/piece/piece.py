"""Sounds, parts and pieces: a script with every sound in its place, on its foot."""

from fractions import Fraction
from functools import cached_property
from typing import Literal

from msgspec import Struct

from firn.core.footing.footing import Footing
from firn.core.footing.state import Step
from firn.core.script.combo import ComboItem
from firn.core.script.places import Use
from firn.core.script.problems import Problem
from firn.core.script.reader import PartScript
from firn.core.script.settings import Settings

Reason = Literal["", "written", "lead", "card", "free", "carries", "choice"]
"""Why a sound is on its foot: the teacher wrote it, it is the lead, the card ties it to the word's other sounds,
it is the foot that is free, the one that carries, or either could and the lighter (or the lead) was taken."""


class Sound(Struct, frozen=True):
    """One sound or silent move of a part.

    `place` is what was said, in counts from the part's first 1; `position` where it sounds under the feel;
    `length` in counts for holds and long sounds, else 0. `foot`: left, right, both, or "" for none; `weight`
    after it: left, right, both or air. `level`: 0 as usual, above leaned on, below soft. `use` indexes the
    part's words, `beat` the sound within its word; `reason` why it is on its foot; `turn` how far the body turns
    with it, right above 0. `hand`: left, right or both, where a hand does it; either where it is not said which.
    """

    place: Fraction
    position: Fraction
    length: Fraction
    say: str
    kind: str
    strikes: str
    foot: str
    weight: str
    silent: bool
    level: int
    optional: bool
    as_one: bool
    use: int
    beat: int
    changes_weight: bool
    reason: Reason = ""
    turn: Fraction = Fraction(0)
    hand: str = ""

    @property
    def heard(self) -> bool:
        return not self.silent


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

    @property
    def uses(self) -> tuple[Use, ...]:
        return self.script.uses

    @property
    def problems(self) -> tuple[Problem, ...]:
        return self.script.problems

    @cached_property
    def first_count(self) -> Fraction:
        """The first whole count that is sounded or held."""
        if not self.sounds:
            return Fraction(0)
        return Fraction(-(-self.sounds[0].place // 1))

    @cached_property
    def last_count(self) -> Fraction:
        """The last whole count that is sounded or held, holds to their end."""
        if not self.sounds:
            return Fraction(-1)
        return Fraction(max((s.place + s.length - 1 if s.length > 1 else s.place) // 1 for s in self.sounds))

    @property
    def counts(self) -> int:
        """Length in counts: first whole count to last, a pick-up on a whole count included."""
        return max(0, int(self.last_count - self.first_count) + 1)

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

    def word(self, sound: Sound) -> str:
        """The word that a sound belongs to, as typed."""
        return self.uses[sound.use].word.text


class Piece(Struct, frozen=True):
    """A piece: settings, parts in order, the combo's items, and the line of the text on which the combo begins."""

    settings: Settings
    parts: tuple[Part, ...]
    combo: tuple[ComboItem, ...]
    problems: tuple[Problem, ...]
    combo_line: int = 0

    def part(self, name: str) -> Part | None:
        return next((p for p in self.parts if p.name == name), None)
