"""Which tunes suit a part or a combo: counts and what is left over, meter, and tempo within its floor and ceiling."""

from collections.abc import Iterable
from fractions import Fraction
from typing import Literal

from msgspec import Struct

from firn.core.meter.meter import Meter
from firn.core.meter.tempo import FASTEST, SLOWEST
from firn.core.piece.piece import Part, Piece
from firn.core.piece.unfold import unfold
from firn.core.reading.ledger import ledger
from firn.core.tune.tune import Tune
from firn.errors import FirnError

Verdict = Literal["fits", "left_over", "too_long", "too_slow", "too_fast", "other_meter"]

_ORDER: tuple[Verdict, ...] = ("other_meter", "too_slow", "too_fast", "too_long", "left_over", "fits")


class Suits(Struct, frozen=True):
    """How a tune suits what is danced: its counts and those danced once, how often that goes into it, what is left
    over then (below 0: so many counts too long), what is said first, and why in sentences."""

    tune: str
    counts: int
    danced: int
    times: int
    left_over: int
    verdict: Verdict
    why: tuple[str, ...]

    @property
    def rank(self) -> tuple[int, int]:
        """The lower, the better it suits."""
        return len(_ORDER) - _ORDER.index(self.verdict), abs(self.left_over)


def _alike(one: Meter, other: Meter) -> bool:
    """Whether steps of one meter go with a tune of another: in threes, or in twos and fours, of beats alike."""
    if one.groups or other.groups:
        return one == other
    return one.compound == other.compound and (one.counts % 3 == 0) == (other.counts % 3 == 0)


def suits(piece: Piece, tune: Tune, part: Part | None = None, per: Fraction = Fraction(1)) -> Suits:
    """How a tune suits a part, else the piece's combo; one danced count is `per` beats of the tune.

    What is danced before the first 1 is of the count before it, as the tune's pick-up is.
    """
    if part is not None:
        danced, parts = part.counts, [part]
        lead = max(0, -int(part.first_count)) if danced > max(0, -int(part.first_count)) else 0
    else:
        whole = unfold(piece)
        made = ledger(piece, whole)
        danced, parts, lead = made.counts, [p.part for p in whole.passes], made.pickup
    once = danced - lead
    room = int((tune.whole_counts - (tune.starts - 1)) / per)
    times = room // once if once > 0 else 0
    left = room - times * once if times else room - once
    said: list[tuple[Verdict, str]] = []
    meter = part.settings.meter if part is not None else piece.settings.meter
    if not _alike(meter, tune.meter):
        said.append(("other_meter", f"The tune is in {tune.meter}, the steps are in {meter}."))
    if tune.tempo:
        said += _tempo(parts, tune.tempo / float(per))
    if not times:
        said.append(("too_long", f"{once} counts are danced, the tune has {room}: {-left} too many."))
    elif left:
        said.append(("left_over", f"{_often(times)} {once} counts in {room}: {left} are left over."))
    else:
        said.append(("fits", f"{_often(times)} {once} counts fill its {room}."))
    first = min((code for code, _ in said), key=_ORDER.index)
    return Suits(tune.name, room, once, times, left, first, tuple(text for _, text in said))


def suiting(
    piece: Piece, tunes: Iterable[tuple[str, Tune | FirnError]], part: Part | None = None, per: Fraction = Fraction(1)
) -> tuple[list[tuple[str, Tune, Suits]], int]:
    """Tunes by the names of their files and how each suits a part, or the combo, the best first; and how many of them
    cannot be read."""
    read = [(name, tune) for name, tune in tunes]
    there = [(name, tune, suits(piece, tune, part, per)) for name, tune in read if not isinstance(tune, FirnError)]
    return sorted(there, key=lambda one: one[2].rank), len(read) - len(there)


def _often(times: int) -> str:
    return {1: "Once", 2: "Twice"}.get(times, f"{times} times")


def _tempo(parts: list[Part], tempo: float) -> list[tuple[Verdict, str]]:
    """What speaks against a tempo: the first step that is not danced so slowly, or so fast."""
    said: list[tuple[Verdict, str]] = []
    for part in dict.fromkeys(p.name for p in parts):
        uses = next(p.uses for p in parts if p.name == part)
        floor = max((u.card for u in uses), key=lambda c: c.floor or SLOWEST, default=None)
        ceiling = min((u.card for u in uses), key=lambda c: c.ceiling or FASTEST, default=None)
        if floor is not None and floor.floor and tempo < floor.floor:
            said.append(("too_slow", f"At {tempo:g} {floor.name} in {part} is under its floor of {floor.floor}."))
        if ceiling is not None and ceiling.ceiling and tempo > ceiling.ceiling:
            said.append(
                ("too_fast", f"At {tempo:g} {ceiling.name} in {part} is over its ceiling of {ceiling.ceiling}.")
            )
    return said
