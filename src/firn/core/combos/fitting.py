"""What could come next in a combo, and what could stand in for a pass: parts that fit, ranked, with the reasons."""

from collections.abc import Iterator, Sequence

from msgspec import Struct

from firn.core.footing.state import Foot
from firn.core.piece.piece import Part, Piece
from firn.core.piece.unfold import Follows, Pass, Unfolded, could_follow
from firn.core.reading.feet import stance_clash


class Fit(Struct, frozen=True):
    """A part that fits: the foot that it begins on and the one that is free after it, its counts, and why; the higher
    `score`, the better."""

    part: str
    begins: str
    free: str
    counts: int
    score: int
    why: tuple[str, ...]


def could_come(piece: Piece, whole: Unfolded, after: int | None, parts: Sequence[Part] | None = None) -> list[Fit]:
    """The parts that can be danced after a pass, by its number, or at the beginning for None; the best first.

    A part fits where the foot that it begins on is free. It fits better where it comes on the count that it is
    written from, fills the phrase, stands as the pass before leaves the feet, leads into the next pass, and is not
    what is danced already.
    """
    passes = whole.passes
    number = -1 if after is None else after
    before = passes[number] if 0 <= number < len(passes) else None
    following = passes[number + 1] if 0 <= number + 1 < len(passes) else None
    lead: Foot = "L" if piece.settings.lead == "left" else "R"
    found = []
    for part in piece.parts if parts is None else parts:
        if not part.sounds or part.footing.faults:
            continue
        danced = could_follow(before.end if before is not None else None, part, lead)
        if danced is not None:
            found.append(_fit(part, danced, before, following, lead))
    return sorted(found, key=lambda fit: -fit.score)


def _fit(part: Part, danced: Follows, before: Pass | None, following: Pass | None, lead: Foot) -> Fit:
    points = list(_points(part, danced, before, following, lead))
    return Fit(
        part.name, danced.begins, danced.free, part.counts, sum(score for score, _ in points),
        tuple(why for _, why in sorted(points, key=lambda p: -abs(p[0])) if why),
    )  # fmt: skip


def _points(
    part: Part, danced: Follows, before: Pass | None, following: Pass | None, lead: Foot
) -> Iterator[tuple[int, str]]:
    """What speaks for a part, and against it for less than 0."""
    yield 10, f"begins {danced.begins}, which is free" if before is not None else f"begins {danced.begins}"
    counting = part.settings.counting
    if before is not None:
        place = before.offset + before.part.first_count + before.part.counts
        if before.part.settings.meter != part.settings.meter:
            yield -6, f"changes to {part.settings.meter}"
        else:
            off = int(place - part.first_count) % counting.meter.counts
            number, wanted = counting.number(place), counting.number(part.first_count)
            yield (
                (4, f"comes on its {wanted}") if not off else (-5, f"comes on {number}, and is written from {wanted}")
            )
            left = -int(place) % counting.phrase
            if left and part.counts == left:
                yield 5, "fills the phrase"
            elif part.counts % counting.phrase == 0 and not left:
                yield 3, "fills its phrase"
        own = [u for u in part.uses if not u.layer]
        last = [u for u in before.part.uses if not u.layer]
        if own and last and stance_clash(last[-1], own[0]):
            yield -6, f"stands otherwise than {before.part.name} leaves the feet"
        if before.part.name == part.name:
            yield -2, "once more of the same"
    if following is not None:
        then, name = could_follow(danced.end, following.part, lead), following.part.name
        if then is None:
            yield -8, f"{name} could not follow"
        elif then.begins == following.needed:
            yield 6, f"leads into {name}"
        else:
            yield 1, f"{name} then begins {then.begins}"
    changes = danced.free != danced.begins and danced.free in ("left", "right")
    yield 0, "changes sides" if changes else "stays on its side"


def could_stand_in(piece: Piece, whole: Unfolded, number: int) -> list[Fit]:
    """The parts that could be danced in place of a pass: as long, and ending on the same foot; best first."""
    one = whole.passes[number]
    frees = [*(p.free for p in whole.passes[1:]), whole.free]
    fits = could_come(piece, whole, number - 1 if number else None)
    return [
        fit
        for fit in fits
        if fit.part != one.part.name and fit.counts == one.part.counts and fit.free in (frees[number], "either")
    ]
