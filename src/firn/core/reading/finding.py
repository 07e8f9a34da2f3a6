"""What a check found: a code, a place and values; a table of sentences puts it into words."""

from collections.abc import Mapping
from fractions import Fraction
from typing import Literal

from msgspec import Struct, field

from firn.core.script.changes import Change
from firn.core.steps.shelf import Words

Level = Literal["bad", "look", "ok"]

Value = str | int | float | Fraction
"""What a sentence is told: names as words, numbers as numbers."""

Values = Mapping[str, Value]


class MendText(Struct, frozen=True):
    """A mend that can be taken: a code and values for its label, and the changes it makes to the text.

    `lead` is set where the mend is to begin on the other foot; `words` is what words then mean in the whole piece.
    """

    code: str
    values: Values
    changes: tuple[Change, ...] = ()
    lead: str = ""
    words: Words = ()


class Finding(Struct, frozen=True):
    """One finding: `level` bad (cannot be danced), look (worth a look) or ok.

    `sound` indexes the part's sounds, None where it is about the part; `place` in counts, None likewise. `meant`: why
    it is meant so, None where nobody has said that it is. `spot`: the line, column and end of what it is about in the
    part's text, where it is about a word and not about how it is danced.
    """

    code: str
    level: Level
    part: str
    place: Fraction | None = None
    sound: int | None = None
    values: Values = field(default_factory=dict)
    mends: tuple[MendText, ...] = ()
    meant: str | None = None
    spot: tuple[int, int, int] | None = None

    @property
    def name(self) -> str:
        """Its code in words: by these a teacher says that it is meant."""
        return self.code.replace("_", " ")
