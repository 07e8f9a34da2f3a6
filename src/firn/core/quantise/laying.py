"""Words that were said in order, laid onto sounds of which some may be missing, or be of none of them.

The cheapest way to go through both is taken (dynamic programming, as texts are aligned: Needleman & Wunsch 1970):
what is left out of either costs, and so does a spacing that is not the usual one, and another kind of sound.
"""

from collections.abc import Iterator, Mapping, Sequence
from fractions import Fraction

from firn.core.quantise.usual import SLOTS
from firn.core.quantise.words import TOO_MANY, UNHEARD, Struck

OTHER_KIND, OTHER_SPACING = 1.2, 0.7
"""What it costs that a sound was told as another kind, and at most that it follows otherwise than usual."""

REACH = 4
"""So many of either are left out in a row at most."""

LEFT_OUT = 0.25
"""Where more than this share of either would be left out, and more than one, these are other words."""

_FAR = 1e9


def laid_onto(usual: Sequence[Struck], struck: Sequence[Struck], *, goes_on: bool = False) -> list[int | None] | None:
    """Which of some sounds, ascending, each beat of some words is; None for one that is not there.

    `usual`: the beats, each where it usually lies, of the kinds that it may be. `goes_on`: the words begin with the
    first sound, and other words follow. None in all where so many would be left out that they are other words.
    """
    many, sounds = len(usual), len(struck)
    if not many or not sounds:
        return None
    band = abs(many - sounds) + 2 * REACH
    # What it costs at least to lay a beat onto a sound, with the beat and the sound that were laid before.
    best: dict[tuple[int, int], tuple[float, tuple[int, int] | None]] = {}
    for j in range(many):
        for i in range(max(0, j - band), min(sounds, j + band + 1)):
            cost, before = min(_ways(best, usual, struck, j, i), default=(_FAR, None), key=lambda one: one[0])
            if cost < _FAR:
                other = bool(struck[i].kinds) and not set(struck[i].kinds) & set(usual[j].kinds)
                best[j, i] = cost + OTHER_KIND * other, before
    behind = 0.0 if goes_on else TOO_MANY
    ends = {
        (j, i): cost + UNHEARD * (many - 1 - j) + behind * (sounds - 1 - i)
        for (j, i), (cost, _) in best.items()
        if max(many - 1 - j, 0 if goes_on else sounds - 1 - i) <= REACH
    }
    at = min(ends, key=lambda one: ends[one], default=None)
    found: list[int | None] = [None] * many
    laid = 0
    while at is not None:
        found[at[0]] = at[1]
        laid += 1
        at = best[at][1]
    most = many if goes_on else max(many, sounds)
    return found if laid and most - laid <= max(1, LEFT_OUT * most) else None


def _ways(
    best: Mapping[tuple[int, int], tuple[float, tuple[int, int] | None]],
    usual: Sequence[Struck],
    struck: Sequence[Struck],
    j: int,
    i: int,
) -> Iterator[tuple[float, tuple[int, int] | None]]:
    """What it costs to lay a beat onto a sound after each that may be laid before."""
    if max(j, i) <= REACH:
        yield UNHEARD * j + TOO_MANY * i, None
    for down in range(1, REACH + 1):
        for back in range(1, REACH + 1):
            known = best.get((j - down, i - back))
            if known is not None:
                due = usual[j].place - usual[j - down].place
                lies = struck[i].place - struck[i - back].place
                left_out = UNHEARD * (down - 1) + TOO_MANY * (back - 1)
                yield known[0] + left_out + OTHER_SPACING * min(1.0, abs(float(lies - due))), (j - down, i - back)


def filled(known: Sequence[Fraction | None], usual: Sequence[Fraction], words: Sequence[int]) -> list[Fraction]:
    """Places with those that nobody knows put where they usually lie, from the nearest that is known, of the same
    word where there is one; between two that leave no room for it there, on a place between them.

    `words`: of which word each is.
    """
    sure = [k for k, place in enumerate(known) if place is not None]
    if not sure:
        return list(usual)
    found: list[Fraction] = []
    for k, place in enumerate(known):
        if place is None:
            near = min(sure, key=lambda s: (words[s] != words[k], abs(s - k)))
            after = next((s for s in sure if s > k), None)
            high = known[after] if after is not None else None
            place = (known[near] or Fraction(0)) + usual[k] - usual[near]
            if (found and place <= found[-1]) or (high is not None and place >= high):
                low = found[-1] if found else place - 1
                place = _between(low, high, after - k + 1 if after is not None else 2)
        found.append(place)
    return found


def _between(low: Fraction, high: Fraction | None, parts: int) -> Fraction:
    """The place nearest to the first of so many equal shares between two places."""
    if high is None:
        return low + Fraction(1, 2)
    wanted = low + (high - low) / parts
    whole = int(low // 1)
    places = [n + s for n in range(whole, int(high // 1) + 1) for s in SLOTS if low < n + s < high]
    return min(places, key=lambda p: abs(p - wanted), default=wanted)
