"""What is wrong with a script, and where; problems are data, never raised."""

from fractions import Fraction

from msgspec import Struct
from msgspec.structs import replace

CODES = {
    "N101": "a word that is no known step",
    "N102": "a count that goes down without passing 1",
    "N103": "counts and sounds that do not match",
    "N104": "two words at one place",
    "N105": "a count past the phrase, or no part of a count",
    "N106": "counts written without spaces",
    "N107": "a count-in written out",
    "N108": "counts without a word",
    "N109": "a mark that means nothing here",
    "N110": "a bracket without its partner",
    "N111": "a number of times that cannot be danced",
    "N112": "a mark or sign with no word to belong to",
    "N113": "a turn that does not say how far and which way",
    "N114": "a division that the meter does not have",
    "N115": "a step in a layer of hands",
    "N116": "a layer's line that cannot be read",
    "N117": "a line that dances another again, where that cannot be",
    "N118": "two steps that cannot stand for each other",
    "N119": "a line of more letters than are read",
    "N120": "steps that take more counts than there are before the next",
    "H201": "a heading that is not known",
    "H202": "a heading whose value cannot be read",
    "H203": "a word that is to mean a step that is not known",
    "P301": "two parts of one name",
    "C401": "a combo item that names no part",
    "C402": "words after a part that mean nothing there",
    "C403": "an ending of a time that a part is not danced",
}


class Problem(Struct, frozen=True):
    """A fault in the text: line and column from 0, the end column, what is meant, and the nearest words.

    `unknown`: a name that no step has, while those near to it have not been looked for.
    """

    code: str
    line: int
    column: int
    end: int
    message: str
    nearest: tuple[str, ...] = ()
    unknown: str = ""

    def moved(self, lines: int) -> "Problem":
        """The same problem `lines` further down."""
        return replace(self, line=self.line + lines)


def other_length(takes: int | Fraction, length: int | Fraction) -> str:
    """What is wrong with steps that take another number of counts than is said."""
    return f"These steps take {takes} {'count' if takes == 1 else 'counts'}, not {length}."


MOST_LETTERS = 20_000
"""So long may a line be: nobody says a longer one."""


def too_long(line: int, text: str) -> Problem:
    """What is wrong with a line of too many letters."""
    message = f"This line has more than {MOST_LETTERS:,} letters and is not read: break it."
    return Problem("N119", line, 0, len(text), message)
