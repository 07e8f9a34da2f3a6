"""Those who practise from a workbook beside its owner."""

from msgspec import Struct

from firn.core.drills.stage import StageSides

OWNER = ""
"""Stands for the workbook's owner where a student's key would stand."""

LEVELS = range(4)
"""0 where nobody said, then as the levels of steps."""


class Student(Struct, frozen=True):
    """A student: a random key, and a name or initials that the owner alone reads.

    `sides`: which sides are practised where a stage leaves it open. `mirrored`: steps are shown as in a mirror.
    `level`: the highest of the steps that are filled in, 0 for any. `language`: the code of the one that steps are
    called in, "" where nobody said. `tempo`: what practice leads to, in counts a minute, 0 for that of the piece.
    """

    id: str
    name: str
    sides: StageSides = "both sides"
    mirrored: bool = False
    level: int = 0
    language: str = ""
    tempo: float = 0.0
