"""Sounds of a take with their verdicts, and those that the part does not have."""

from typing import Literal

from msgspec import Struct

from firn.core.ear.targets import Target

HeardAs = Literal["on", "early", "late", "missing"]


class Judged(Struct, frozen=True):
    """One target with its verdict; `ms` after (+) or before (-) its time, None if missing; `heard_s` likewise.

    `level_db` is its loudness re full scale, 0 if missing; `sure`: 0 to 1, how sure its verdict is.
    """

    target: Target
    heard: HeardAs
    ms: float | None
    heard_s: float | None
    expected_s: float
    level_db: float = 0.0
    sure: float = 1.0


class Added(Struct, frozen=True):
    """A sound that the part does not have: when, and the target that it follows (-1: before all). `echo`: it may be
    the room's, not hers; `unsure`: it may be no foot's."""

    heard_s: float
    after: int
    echo: bool = False
    unsure: bool = False

    @property
    def doubted(self) -> bool:
        """Whether it may be none of her sounds: it is left out of the verdict."""
        return self.echo or self.unsure
