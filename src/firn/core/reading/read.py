"""All checks of a part, and of a piece."""

from collections.abc import Callable, Iterable, Sequence

from msgspec.structs import replace

from firn.core.piece.piece import Part, Piece
from firn.core.piece.unfold import Unfolded, group_names, groups_of, most_sounds, unfold
from firn.core.reading import (
    awkward,
    both_ways,
    claims,
    counts,
    density,
    doubts,
    feet,
    layers,
    style,
    syncopation,
    tempo,
)
from firn.core.reading.at_tune import at_tune
from firn.core.reading.finding import Finding
from firn.core.reading.joins import endings, joins
from firn.core.reading.style import Asked, style_of
from firn.core.reading.travel import travel
from firn.core.reading.walls import combo_turns, part_turns
from firn.core.task import give_way

_ORDER = {"bad": 0, "look": 1, "ok": 2}


_CHECKS: tuple[Callable[[Part], Iterable[Finding]], ...] = (
    feet.faults,
    doubts.findings,
    awkward.findings,
    counts.gaps,
    counts.length,
    counts.claim,
    claims.findings,
    counts.lines,
    counts.shifted,
    layers.findings,
    feet.shifts,
    feet.stances,
    feet.ending,
    part_turns,
    travel,
    syncopation.findings,
    both_ways.findings,
    density.findings,
)
"""What every part is checked for, in the order in which it is told."""

_WHILE_TYPED: dict[Callable[[Part], Iterable[Finding]], Callable[[Part], Iterable[Finding]]] = {
    feet.ending: feet.ending_alone
}
"""What takes the place of some while a part is typed: they would read it once more at each key."""


def check_part(part: Part, asked: Asked | None = None) -> list[Finding]:
    """A part's findings: what cannot be danced first, then what is worth a look, then what holds.

    Against the shipped style of its tradition where nothing else is asked.
    """
    asked = Asked(style_of(part.settings.tradition)) if asked is None else asked
    found: list[Finding] = []
    for check in _CHECKS:
        give_way()
        found += (_WHILE_TYPED.get(check, check) if asked.typing else check)(part)
    found += tempo.findings(part, asked)
    found += style.findings(part, asked.style)
    off = asked.style.off
    wanted = [f for f in found if f.code not in off]
    return sorted(_meant(wanted, part.layers.meant, part.name), key=lambda f: _ORDER[f.level])


def _meant(found: list[Finding], said: Sequence[tuple[str, str]], where: str) -> list[Finding]:
    """Findings as they stand once a teacher has said what is meant; and what she has named that is not there."""
    if not said:
        return found
    meant = dict(said)
    told = [
        replace(f, level="ok", meant=meant[f.name]) if f.level == "look" and f.name in meant else f for f in found
    ]
    there = {f.name for f in told if f.meant is not None}
    return [
        *told,
        *(Finding("not_meant", "look", where, values={"what": name}) for name in meant if name not in there),
    ]


def check_combo(piece: Piece, unfolded: Unfolded | None = None) -> list[Finding]:
    """The findings of a piece's combo."""
    whole = unfolded or unfold(piece)
    found = [*joins(piece, whole), *endings(piece), *combo_turns(piece, whole), *at_tune(piece, whole)]
    found += _other_groups(piece)
    if whole.cut_short:
        most = most_sounds(len(groups_of(piece.combo)))
        found.append(Finding("combo_cut", "bad", "combo", values={"limit": most, "passes": str(len(whole.passes))}))
    return sorted(_meant(found, piece.meant, "combo"), key=lambda f: _ORDER[f.level])


def _other_groups(piece: Piece) -> list[Finding]:
    """Which groups there are, and what is wrong with the joins of those that are not on show."""
    names = group_names(piece.combo)
    if not names:
        return []
    first, *others = names
    found = [Finding("groups", "ok", "combo", values={"shown": names[first], "all": _joined(list(names.values()))})]
    for group in others:
        for one in joins(piece, unfold(piece, group)):
            if one.level != "ok" and one.code != "combo_off_phrase":
                values = dict(one.values)
                if "part" in values:
                    values["part"] = f"{values['part']} of {names[group]}"
                found.append(replace(one, values=values, place=None, sound=None, mends=()))
    return found


def _joined(names: Sequence[str]) -> str:
    """group 1, group 2 and group 3."""
    return " and ".join(filter(None, (", ".join(names[:-1]), names[-1])))


def check(piece: Piece, asked: Asked | None = None) -> list[Finding]:
    """The findings of all parts in order, then of the combo."""
    found = [f for part in piece.parts for f in check_part(part, asked)]
    return [*found, *check_combo(piece)] if piece.combo else found
