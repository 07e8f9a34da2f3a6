"""Words laid out as the sounds of their cards, and what the feet need to know of each."""

from collections.abc import Sequence
from fractions import Fraction
from functools import lru_cache

from firn.core.footing.state import Step
from firn.core.meter.ticks import ticks, ticks_in_a_count
from firn.core.script.places import Use
from firn.core.task import giving_way

_SIDES = {"left": "L", "right": "R", "both": "both", "": ""}

# One beat in its place: use, beat within it, and what the solver needs.
Laid = tuple[Fraction, int, int]


def laid_out(uses: Sequence[Use], first: int = 0) -> list[Laid]:
    """All beats by place, of the words from one on; at one place in the order they were written."""
    laid = [(place, u, b) for u, use in enumerate(uses[first:], first) for b, place in enumerate(use.places)]
    places = [place for place, _, _ in laid]
    order = ticks(places, ticks_in_a_count(places))
    return [laid[i] for i in sorted(range(len(laid)), key=order.__getitem__)]


def steps_of(uses: Sequence[Use]) -> tuple[Step, ...]:
    """The solver's view of some words, by place."""
    return steps_laid(uses, laid_out(uses))


# There are few kinds of them, and many are asked for.
_step = lru_cache(maxsize=4_096)(Step)


def steps_laid(uses: Sequence[Use], laid: Sequence[Laid], known: tuple[Step, ...] = ()) -> tuple[Step, ...]:
    """The solver's view of beats; `known`: that of the first of them, which are all of their words."""
    steps = list(known)
    begun: set[int] = set()
    before = next((place for place, u, b in reversed(laid[: len(known)]) if _on_foot(uses[u], b)), None)
    laid = laid[len(known) :]
    places = [place for place, _, _ in laid]
    in_a_count = ticks_in_a_count(places if before is None else [*places, before])
    last = None if before is None else ticks([before], in_a_count)[0]
    for at, (_, u, b) in giving_way(zip(ticks(places, in_a_count), laid, strict=True)):
        use = uses[u]
        beat = use.card.beats[b]
        on_foot = beat.kind.limb == "foot"
        tied = use.word.tied if on_foot else None
        first = u not in begun and on_foot and tied is None
        side = _SIDES[use.side] if on_foot and (first or use.side == "both") else ""
        near = last is not None and at - last < in_a_count
        steps.append(_step(beat.kind.name, tied or beat.role, side, beat.weight, first, near))
        if on_foot:
            begun.add(u)
            last = at
    return tuple(steps)


def _on_foot(use: Use, beat: int) -> bool:
    return use.card.beats[beat].kind.limb == "foot"
