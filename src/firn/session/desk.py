"""What is on the desk: the piece and part (or combo) being worked on, read, footed and checked."""

from bisect import bisect_left
from functools import lru_cache
from itertools import islice

from msgspec.structs import replace

from firn.core.book.book import BookPart, BookPiece
from firn.core.piece.build import between_parts, build_part, piece_from
from firn.core.piece.piece import Part, Piece
from firn.core.piece.unfold import Unfolded, unfold
from firn.core.reading.finding import MendText
from firn.core.script.figures import shelf_for
from firn.core.script.layers import layer_of
from firn.core.script.piece_text import combo_of
from firn.core.script.reader import lines_of, read_part
from firn.core.script.settings import Settings, read_settings, with_words, write_settings
from firn.core.steps.shelf import Shelf

COMBO = "combo"
"""Stands for the combo where a part's id would stand."""


@lru_cache(maxsize=64)
def settings_of(head: str) -> Settings:
    """The settings that a piece's headings give."""
    return read_settings(head.split("\n"))[0]


@lru_cache(maxsize=32)
def read_piece(script: str, shelf: Shelf) -> Piece:
    """A whole piece, read once."""
    return piece_from(script, shelf)


@lru_cache(maxsize=64)
def read_one(name: str, text: str, head: str, shelf: Shelf, quick: bool = False) -> Part:
    """One part, read once."""
    settings = settings_of(head)
    return build_part(read_part(name, text, settings, shelf, quick=quick), settings)


def read_in(
    piece: BookPiece, part: BookPart, text: str, shelf: Shelf, *, head: str | None = None, quick: bool = False
) -> Part:
    """A part with some text, as it is read in its piece: the other parts may be words in it.

    `quick`: the line that has changed is read like it was, for the while.
    """
    head = piece.head if head is None else head
    named = tuple((p.name, text if p.id == part.id else p.text) for p in piece.parts)
    return read_one(part.name, text, head, shelf_for(part.name, named, settings_of(head), shelf), quick)


NEAR, FAR = 1_200, 6_000
"""Letters after a change that fill any screen, and so many that what is past them is worth leaving for later; in a
text of so many, so are other ways to read the line."""

NEAR_LINES = 16
"""Lines, where these are fewer: short ones hold as much of a dance, and each is read anew where the feet change."""


def near_text(before: str, text: str) -> str | None:
    """A script as far as it is in sight where it was just changed: to the end of a line some screens further on, or
    of itself; what layers say of all of it is kept. None for a short one: little would be left for later.
    """
    if len(text) < FAR:
        return None
    alike = bisect_left(range(1, min(len(before), len(text)) + 1), True, key=lambda n: before[:n] != text[:n])
    within = (at for at, letter in enumerate(text[alike : alike + NEAR]) if letter == "\n")
    reach = alike + next(islice(within, NEAR_LINES - 1, None), NEAR)
    if len(text) - alike < FAR:
        return text
    lines = lines_of(text[reach:])
    rest = [line for line in lines[1:] if ":" in line and layer_of(line) is not None]
    return "\n".join((text[:reach] + lines[0], *rest))


def head_with(head: str, **values: object) -> str:
    """Headings with some settings changed; comments in them are kept where nothing changed."""
    settings = settings_of(head)
    new = replace(settings, **values)
    return head if new == settings else write_settings(new)


def mended_head(head: str, mend: MendText) -> str:
    """Headings as a mend leaves them."""
    if mend.lead:
        head = head_with(head, lead=mend.lead)
    return head_with(head, words=with_words(settings_of(head).words, mend.words)) if mend.words else head


@lru_cache(maxsize=4)
def whole_combo(piece: BookPiece, shelf: Shelf) -> tuple[Piece, Unfolded, int]:
    """A piece read, its combo unfolded, and the line on which the combo's text begins."""
    # The parts are read once, however often the combo is changed.
    alone = replace(piece, combo="").script
    parts = read_piece(alone, shelf)
    line = alone.count("\n") + 2
    combo, meant, problems = combo_of(piece.combo.rstrip().split("\n"), [p.name for p in parts.parts])
    known = (*parts.problems, *(p.moved(line) for p in problems))
    between = between_parts(combo, parts.settings, shelf)
    read = replace(parts, combo=combo, meant=meant, problems=known, combo_line=line, between=between)
    return read, unfold(read), line


def next_name(parts: tuple[BookPart, ...]) -> str:
    """A free name for a new part: the next letter."""
    taken = {p.name for p in parts}
    letters = (chr(c) for c in range(ord("A"), ord("Z") + 1))
    return next((n for n in letters if n not in taken), f"Part {len(parts) + 1}")


def free_name(parts: tuple[BookPart, ...], wanted: str) -> str:
    """A name for a new part, with a number where it is taken."""
    taken = {p.name.casefold() for p in parts}
    names = (wanted, *(f"{wanted} {n}" for n in range(2, len(parts) + 3)))
    return next(n for n in names if n.casefold() not in taken)
