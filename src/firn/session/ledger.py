"""The ledger of a combo: every pass, where it begins and how it leaves the feet and the body."""

from msgspec import Struct

from firn.core.piece.piece import Piece
from firn.core.piece.unfold import Unfolded, groups_of, unfold
from firn.core.reading.walls import facings


class LedgerRow(Struct, frozen=True):
    """A pass of a combo in words: the part, which time and how it ends where that differs, the count it begins on,
    its counts, the foot it begins on, the foot free after it, and the way faced then."""

    part: str
    begins: str
    counts: str
    foot: str
    free: str
    faces: str


LEDGER = ("Part", "From", "Counts", "Foot", "Free after", "Faces")


def ledger(piece: Piece, whole: Unfolded) -> list[LedgerRow]:
    """Every pass of a combo, one by one: where it begins and how it leaves the feet and the body; group by group."""
    groups = groups_of(piece.combo)
    if not groups:
        return _rows(piece, whole, "")
    rows = _rows(piece, whole, f"group {groups[0]}: ")
    for group in groups[1:]:
        rows += _rows(piece, unfold(piece, group), f"group {group}: ")
    return rows


def _rows(piece: Piece, whole: Unfolded, who: str) -> list[LedgerRow]:
    rows: list[LedgerRow] = []
    if not whole.passes:
        return rows
    frees = [*(p.free for p in whole.passes[1:]), whole.free]
    for one, free, (_, way) in zip(whole.passes, frees, facings(whole), strict=True):
        item = piece.combo[one.item]
        ends = item.ends_of(one.time)
        time = f", {one.time + 1} of {item.times}" if item.times > 1 else ""
        ending = f", ends {ends}" if ends else ""
        meter = one.part.settings.meter
        counts = str(one.part.counts) + (f" in {meter}" if meter != piece.settings.meter else "")
        begins = whole.counting.number(one.offset + one.part.first_count)
        foot = one.needed if one.danceable else f"{one.needed}: not free"
        # Groups wait for each other: on which count of the whole each dances.
        at = f", at {int(one.offset + one.part.first_count) + 1}" if who else ""
        rows.append(LedgerRow(f"{who}{one.part.name}{time}{ending}{at}", str(begins), counts, foot, free, way))
    return rows
