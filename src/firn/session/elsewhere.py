"""Parts of other pieces, of this workbook or another, brought into a piece so that they dance as they did there."""

from collections.abc import Sequence

from msgspec import Struct
from msgspec.structs import replace

from firn.core.book.book import Book, BookPart, BookPiece
from firn.core.piece.build import build_part
from firn.core.piece.kept import kept_as
from firn.core.piece.piece import Part
from firn.core.script.figures import shelf_for
from firn.core.script.reader import read_part
from firn.core.script.settings import Settings, write_settings
from firn.core.steps.shelf import Shelf
from firn.session.desk import free_name, read_in, settings_of
from firn.session.fresh import new_id

SAID_MOST = 60
"""Letters of a part's text that are shown of it."""


class PartElsewhere(Struct, frozen=True):
    """A part of another piece."""

    piece: BookPiece
    part: BookPart

    @property
    def said(self) -> str:
        """What it is called, and how it begins."""
        text = " ".join(self.part.text.split())
        begins = text if len(text) <= SAID_MOST else f"{text[: SAID_MOST - 1]}…"
        return f"{self.piece.name}, {self.part.name}:  {begins}"


def parts_elsewhere(book: Book, here: str = "") -> list[PartElsewhere]:
    """The parts of all pieces of a workbook but one, those that hold something."""
    return [
        PartElsewhere(piece, part)
        for piece in book.pieces if piece.id != here
        for part in piece.parts if part.text.strip()
    ]  # fmt: skip


def found_in(parts: Sequence[PartElsewhere], wanted: str) -> list[PartElsewhere]:
    """Those in whose piece's name, own name or text all words stand that are wanted."""
    words = wanted.casefold().split()
    texts = ((one, f"{one.piece.name} {one.part.name} {one.part.text}".casefold()) for one in parts)
    return [one for one, text in texts if all(word in text for word in words)]


def brought(one: PartElsewhere, piece: BookPiece, shelf: Shelf) -> tuple[BookPart, str]:
    """A part as it is written in a piece, under a free name, and what there is to say of it.

    It is read here as it was there, up to the foot that the piece begins on and its feel: where a line would not be,
    it says in full what it meant, and how it is counted stands in it.
    """
    here, there = settings_of(piece.head), settings_of(one.piece.head)
    # It begins on this piece's foot, and swings as this piece does.
    taken = replace(there, lead=here.lead, feel=here.feel)
    head = write_settings(taken) if taken != there else one.piece.head
    text = _counted(read_in(one.piece, one.part, one.part.text, shelf, head=head), here, one.part.text)
    old = read_in(one.piece, one.part, text, shelf, head=head)
    named = tuple((p.name, p.text) for p in piece.parts)
    made = kept_as(old, one.part.name, text, here, shelf_for(one.part.name, named, here, shelf))
    part = BookPart(new_id(), free_name(piece.parts, one.part.name), made.text)
    called = f"{one.part.name} of {one.piece.name}"
    now = build_part(read_part(part.name, made.text, here, shelf), here)
    if not made.whole or len(now.problems) > len(old.problems):
        return part, f"{called} is here as {part.name}. Look it over: not all of it reads here as it did there."
    feel = f" It takes this piece's feel: {here.feel}." if here.feel != there.feel else ""
    more = f" {made.lines} of its lines say in full what they meant there." if made.lines else ""
    return part, f"{called} is here as {part.name}.{more}{feel}"


def _counted(old: Part, here: Settings, text: str) -> str:
    """A text that says how it is counted, where the piece is counted otherwise and it does not say so itself."""
    theirs = old.settings
    said = old.script.layers
    lines = []
    if theirs.meter != here.meter and said.meter is None:
        lines.append(f"meter: {theirs.meter}")
    # A phrase that nobody stated is that of its meter.
    stated = theirs.phrase is not None or here.phrase is not None
    if stated and theirs.counting.phrase != here.counting.phrase and said.phrase is None:
        lines.append(f"phrase: {theirs.counting.phrase} counts")
    return "\n".join([*lines, text])
