"""Sounds, parts and pieces: a script with every sound in its place, on its foot."""

from dataclasses import dataclass
from fractions import Fraction

from firn.core.footing.footing import Footing
from firn.core.footing.state import Step
from firn.core.script.combo import ComboItem
from firn.core.script.places import Use
from firn.core.script.problems import Problem
from firn.core.script.reader import PartScript
from firn.core.script.settings import Settings


@dataclass(frozen=True, slots=True)
class Sound:
    """One sound or silent move of a part.

    `place` is what was said, in counts from the part's first 1; `position` where it sounds under the feel;
    `length` in counts for holds and long sounds, else 0. `foot`: left, right, both, or "" for none; `weight`
    after it: left, right, both or air. `level`: 0 as usual, above leaned on, below soft. `use` indexes the
    part's words, `beat` the sound within its word.
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
    hands: bool
    use: int
    beat: int
    changes_weight: bool

    @property
    def heard(self) -> bool:
        return not self.silent


@dataclass(frozen=True)
class Part:
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

    @property
    def first_count(self) -> Fraction:
        """The first whole count that is sounded or held."""
        if not self.sounds:
            return Fraction(0)
        return Fraction(-(-self.sounds[0].place // 1))

    @property
    def last_count(self) -> Fraction:
        """The last whole count that is sounded or held, holds to their end."""
        if not self.sounds:
            return Fraction(-1)
        return Fraction(max((s.place + max(s.length - 1, Fraction(0))) // 1 for s in self.sounds))

    @property
    def counts(self) -> int:
        """Length in counts: first whole count to last, a pick-up on a whole count included."""
        return max(0, int(self.last_count - self.first_count) + 1)

    def word(self, sound: Sound) -> str:
        """The word that a sound belongs to, as typed."""
        return self.uses[sound.use].word.text


@dataclass(frozen=True)
class Piece:
    """A piece: settings, parts in order, and the combo's items."""

    settings: Settings
    parts: tuple[Part, ...]
    combo: tuple[ComboItem, ...]
    problems: tuple[Problem, ...]

    def part(self, name: str) -> Part | None:
        return next((p for p in self.parts if p.name == name), None)
