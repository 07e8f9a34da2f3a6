"""Two parts beside each other: what is alike, what differs in sounds, counts, feet and scores."""

from collections.abc import Iterator, Sequence
from fractions import Fraction

from msgspec import Struct

from firn.core.piece.piece import Part
from firn.core.piece.sound import Sound, other_side
from firn.core.reading.profile import OVERS, profile
from firn.core.steps.sides import ACROSS
from firn.session.reading import value_text


class Compared(Struct, frozen=True):
    """Two parts: rows of (what, one, other), the places on which they differ, in words, and what it comes to."""

    rows: tuple[tuple[str, str, str], ...]
    differences: tuple[str, ...]
    said: str


def laid_beside(one: Part, other: Part, *, mirrored: bool = False) -> Compared:
    """Compare two parts, the other on its other side if `mirrored`: a right and a left version should be the same."""
    theirs = [other_side(s) if mirrored else s for s in other.sounds]
    differences = tuple(_differences(one, theirs))
    rows = tuple(_rows(one, other, theirs))
    if not differences:
        same = f"{other.name} is {one.name} on the other side, sound by sound." if mirrored else "They are the same."
        return Compared(rows, (), same)
    if _reordered(one.sounds, theirs):
        return Compared(rows, differences, "The same sounds at the same times, in another order.")
    many = "1 place" if len(differences) == 1 else f"{len(differences)} places"
    said = STANDS if _alike(rows) else DIFFERS
    return Compared(rows, differences, f"They differ on {many}. {said}")


STANDS = "One can stand for the other: as long, and the same foot free at the end."
DIFFERS = "One cannot stand for the other as it is: they differ in length, or in the foot free at the end."


def _alike(rows: Sequence[tuple[str, str, str]]) -> bool:
    return all(mine == theirs for what, mine, theirs in rows if what in ("Counts", "Free at the end"))


def _reordered(mine: Sequence[Sound], theirs: Sequence[Sound]) -> bool:
    """Whether both strike the same at the same times, but in another order: neither number nor time tells that."""
    one, other = ([(s.place, s.kind) for s in of if s.heard] for of in (mine, theirs))
    same_times = [place for place, _ in one] == [place for place, _ in other]
    return same_times and one != other and sorted(k for _, k in one) == sorted(k for _, k in other)


def _rows(one: Part, other: Part, theirs: list[Sound]) -> Iterator[tuple[str, str, str]]:
    yield "Counts", str(one.counts), str(other.counts)
    yield "Sounds", _many(one, "heard"), _many(other, "heard")
    yield "Changes of weight", _many(one, "changes_weight"), _many(other, "changes_weight")
    yield "Begins on", _first(list(one.sounds)), _first(theirs)
    yield "Free at the end", _free(list(one.sounds)), _free(theirs)
    yield "Danced again", _again(one), _again(other)
    scores = [profile(p, OVERS[0]) for p in (one, other)]
    for mine, their in zip(*scores, strict=False):
        yield mine.measure.name, value_text(mine.value), value_text(their.value)


def _many(part: Part, what: str) -> str:
    return str(sum(bool(getattr(s, what)) for s in part.sounds))


def _again(part: Part) -> str:
    return {"same": "the same side", "other": "the other side"}.get(part.footing.again, part.footing.again)


def _first(sounds: list[Sound]) -> str:
    return next((s.foot for s in sounds if s.foot), "no foot")


def _free(sounds: list[Sound]) -> str:
    carries = sounds[-1].weight if sounds else ""
    return ACROSS.get(carries, "either")


def _differences(one: Part, theirs: list[Sound]) -> Iterator[str]:
    """Where sounds differ, place by place, in words."""
    here, there = _by_place(one.sounds), _by_place(theirs)
    for place in sorted({*here, *there}):
        mine, other = _list(here.get(place, [])), _list(there.get(place, []))
        if mine != other:
            yield f"{one.settings.counting.name(place)}: {mine} here, {other} there"


def _by_place(sounds: Sequence[Sound]) -> dict[Fraction, list[Sound]]:
    found: dict[Fraction, list[Sound]] = {}
    for sound in sounds:
        found.setdefault(sound.place, []).append(sound)
    return found


def _list(sounds: Sequence[Sound]) -> str:
    said = [
        f"{s.foot or s.hand} {s.kind.replace('_', ' ')}{' leaned on' if s.level > 0 else ''}".strip() for s in sounds
    ]
    return ", ".join(sorted(said)) or "nothing"
