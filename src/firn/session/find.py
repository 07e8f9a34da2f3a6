"""Finding words in a workbook: in headings, parts and combos, as they are typed."""

import re
from collections.abc import Iterator

from msgspec import Struct

from firn.core.book.book import Book, BookPiece
from firn.core.steps.names import fold
from firn.session.desk import COMBO

MOST_FOUND = 500


class FoundPlace(Struct, frozen=True):
    """A place where what is looked for stands: piece and part (or COMBO) by id, what these are called, and the line.

    `line`, `column`, `end`: where in the part's text, from 0.
    """

    piece: str
    part: str
    called: str
    text: str
    line: int
    column: int
    end: int


def find(book: Book, wanted: str) -> list[FoundPlace]:
    """Every place of a text, whatever its case, the piece on show first; at most `MOST_FOUND`."""
    if not wanted.strip():
        return []
    pieces = sorted(book.pieces, key=lambda p: p.id != book.here[0])
    found = []
    for piece in pieces:
        for one in _places(piece, wanted):
            found.append(one)
            if len(found) == MOST_FOUND:
                return found
    return found


def _places(piece: BookPiece, wanted: str) -> Iterator[FoundPlace]:
    # Not by folded lines: a letter that folds into two would shift what comes after it.
    looked = re.compile(re.escape(wanted), re.IGNORECASE)
    texts = [(part.id, part.name, part.text) for part in piece.parts]
    for part, name, text in [*texts, (COMBO, "combo", piece.combo)]:
        if fold(name) == fold(wanted):
            first = text.split("\n", 1)[0]
            yield FoundPlace(piece.id, part, f"{piece.name}, {name}", first, 0, 0, 0)
        for number, line in enumerate(text.split("\n")):
            for place in looked.finditer(line):
                yield FoundPlace(piece.id, part, f"{piece.name}, {name}", line, number, *place.span())
