"""A piece's drills as text: typed and changed as text, and kept in its .steps text."""

from collections.abc import Sequence
from itertools import pairwise

from firn.core.book.book import BookPiece
from firn.core.drills.stage import Drill
from firn.core.drills.text import Known, drill_text, read_drill
from firn.core.script.piece_text import cut
from firn.core.steps.shelf import Shelf
from firn.session.desk import settings_of, whole_combo
from firn.session.drilling import free_drill_name
from firn.session.fresh import new_id


def known_of(piece: BookPiece, shelf: Shelf) -> Known:
    """What a drill of a piece may name, as the piece is now."""
    ids = {part.name: part.id for part in piece.parts}
    read, _, _ = whole_combo(piece, shelf)
    danced = [ids[item.part] for item in read.combo if item.part in ids]
    before: dict[str, str] = {}
    for one, other in pairwise(danced):
        if one != other:
            before.setdefault(other, one)
    return Known(tuple((part.name, part.id) for part in piece.parts), before, float(settings_of(piece.head).tempo))


def steps_text(piece: BookPiece, drills: Sequence[Drill]) -> str:
    """A piece as one .steps text, with its drills."""
    names = {part.id: part.name for part in piece.parts}
    return piece.script + "".join(f"\n{drill_text(drill, names)}\n" for drill in drills if drill.stages)


def drills_of_script(text: str, piece: BookPiece, shelf: Shelf) -> tuple[tuple[Drill, ...], tuple[str, ...]]:
    """The drills of a .steps text, for the piece that was made of it; and what is wrong with them, in sentences."""
    made: list[Drill] = []
    faults: list[str] = []
    blocks = cut(text.removeprefix("\ufeff")).drills
    known = known_of(piece, shelf) if blocks else None
    for lines in blocks:
        assert known is not None
        read = read_drill("\n".join(lines), known, name="Practice")
        name = free_drill_name(made, read.name)
        faults += (f"{name}: {fault}" for _, fault in read.faults)
        made += [Drill(new_id(), piece.id, name, read.stages)] if read.stages else []
    return tuple(made), tuple(faults)


def stages_left_out(faults: Sequence[str]) -> str:
    """What is said where stages of a .steps text could not be read: the first, and how many more."""
    others = len(faults) - 1
    more = "" if not others else " So is 1 more." if others == 1 else f" So are {others} more."
    return f"A stage of a drill is left out. {faults[0]}{more}"
