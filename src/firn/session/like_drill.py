"""A drill made for one piece as a pattern for another: its stages, of that piece's parts at its tempo."""

from collections.abc import Mapping

from msgspec import Struct
from msgspec.structs import replace

from firn.core.book.book import BookPiece
from firn.core.drills.stage import COMBO, Drill, Stage
from firn.core.meter.tempo import FASTEST, SLOWEST
from firn.core.steps.shelf import Shelf
from firn.session.desk import read_in, settings_of
from firn.session.fresh import new_id


class Likened(Struct, frozen=True):
    """A drill like another, and how many of that one's stages have nothing to dance here."""

    drill: Drill
    left_out: int


def drill_like(drill: Drill, theirs: BookPiece, piece: BookPiece, name: str, shelf: Shelf) -> Likened:
    """A drill of `piece` as one of another piece is.

    Parts are those of the same name, or else those in the same place; tempos keep their share of the piece's. A stage
    whose part, counts or combo this piece has not is left out.
    """
    parts = _same_parts(theirs, piece)
    share = settings_of(piece.head).tempo / settings_of(theirs.head).tempo
    counts = {part.id: read_in(piece, part, part.text, shelf).counts for part in piece.parts}
    made = [stage for one in drill.stages if (stage := _like(one, parts, counts, share)) is not None]
    return Likened(Drill(new_id(), piece.id, name, tuple(made), drill.student), len(drill.stages) - len(made))


def _same_parts(theirs: BookPiece, piece: BookPiece) -> dict[str, str]:
    """The ids of the parts here by those that they stand for."""
    named = {part.name.casefold(): part.id for part in piece.parts}
    found = {part.id: named[part.name.casefold()] for part in theirs.parts if part.name.casefold() in named}
    for number, part in enumerate(theirs.parts[: len(piece.parts)]):
        found.setdefault(part.id, piece.parts[number].id)
    return found | ({COMBO: COMBO} if piece.combo.strip() else {})


def _like(stage: Stage, parts: Mapping[str, str], counts: Mapping[str, int], share: float) -> Stage | None:
    """A stage of other parts at other tempos; None where there is nothing to dance for it."""
    if any(part not in parts for part in stage.parts):
        return None
    here = tuple(parts[part] for part in stage.parts)
    if any(part != COMBO and not counts[part] for part in here):
        return None
    if stage.span is not None and stage.span[1] > counts[here[0]]:
        return None
    start, end = (float(min(max(round(tempo * share), SLOWEST), FASTEST)) for tempo in (stage.start, stage.end))
    # Why it was offered goes by the other piece.
    return replace(stage, parts=here, start=start, end=end, why="")
