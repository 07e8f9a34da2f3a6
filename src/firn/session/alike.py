"""Where else a part's rhythm is: in the other parts of a workbook, and in the cards of steps."""

from fractions import Fraction

from msgspec import Struct

from firn.core.book.book import Book
from firn.core.library.search import heard_places
from firn.core.piece.piece import Part
from firn.core.reading.rhythm import Likeness, likeness, part_cycle, placed_in
from firn.core.steps.shelf import Shelf
from firn.core.task import UNWATCHED, Task
from firn.session.desk import read_in

LEAST_SOUNDS = 3
"""Steps of fewer sounds are in nearly every part."""

MOST_FOUND = 60

_ORDER = ("same", "shifted", "inside", "holds", "similar")


class Elsewhere(Struct, frozen=True):
    """Something with a like rhythm: in words, and the piece and part that it is (or the card)."""

    said: str
    piece: str = ""
    part: str = ""
    card: str = ""


def alike(book: Book, part: Part, part_id: str, shelf: Shelf, task: Task = UNWATCHED) -> tuple[Elsewhere, ...]:
    """Parts with the same, a shifted, contained or similar rhythm, the likest first; then steps that lie in it."""
    one = part_cycle(part)
    if one is None:
        return ()
    found: list[tuple[int, Elsewhere]] = []
    for number, piece in enumerate(book.pieces):
        for other in piece.parts:
            task.step(number / len(book.pieces))
            if other.id == part_id:
                continue
            theirs = part_cycle(read_in(piece, other, other.text, shelf))
            how = likeness(one, theirs) if theirs is not None else None
            if how is not None:
                said = f"{piece.name}, {other.name}: {_said(how)}"
                found.append((_ORDER.index(how.how), Elsewhere(said, piece.id, other.id)))
    found.sort(key=lambda f: f[0])
    return (*(e for _, e in found[:MOST_FOUND]), *_steps(part, shelf))


def _steps(part: Part, shelf: Shelf) -> tuple[Elsewhere, ...]:
    one, counting, tradition = part_cycle(part), part.settings.counting, part.settings.tradition
    assert one is not None
    here = {u.card.name for u in part.uses}
    found = []
    for card in shelf.cards:
        if card.retired or card.name in here or (card.traditions and tradition not in card.traditions):
            continue
        places = heard_places(card, card.usual_for(tradition))
        at = placed_in(places, one) if len(places) >= LEAST_SOUNDS else None
        if at is not None:
            whole = len(places) == len(one.at)
            said = f"{card.name}: {'the same' if whole else 'lies in it'}, from {counting.name(at)}"
            found.append((-len(places), Elsewhere(said, card=card.name)))
    return tuple(e for _, e in sorted(found, key=lambda f: f[0])[:MOST_FOUND])


_WORDS = {
    "same": "the same rhythm", "shifted": "the same, begun {by}", "inside": "all of this one and more{moved}",
    "holds": "lies in this one{moved}", "similar": "much like it{moved}",
}  # fmt: skip


def _said(how: Likeness) -> str:
    amount = _counts(how.by)
    return _WORDS[how.how].format(by=f"{amount} later", moved=f", {amount} later" if how.by else "")


def _counts(by: Fraction) -> str:
    return "1 count" if by == 1 else f"{by} counts"
