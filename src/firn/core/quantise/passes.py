"""Several passes over one phrase, laid over each other: what most have is the phrase, what differs is a slip."""

from collections.abc import Sequence
from fractions import Fraction

from msgspec import Struct

ALIKE = 0.7
"""Of each pass so much must be in most of them; of one that breaks off before its half nothing is asked."""

LEAST, MOST = 2, 64
"""Counts of a phrase that is looked for."""

SLIP = 3
SHORTER = 0.75
HALF = Fraction(1, 2)


class Laid(Struct, frozen=True):
    """Passes of a phrase. `counts`: its length; `passes`: how many. `kept`: for each sound of the phrase the taps
    that are it, one from each pass that has it, by their indexes. `slips`: (the pass, from 1; a place in the phrase;
    whether it was left out there, else it is one too many)."""

    counts: int
    passes: int
    kept: tuple[tuple[int, ...], ...]
    slips: tuple[tuple[int, Fraction, bool], ...]

    @property
    def told(self) -> int:
        """How much there is to say of all passes."""
        return len(self.kept) + SLIP * len(self.slips)

    @property
    def first(self) -> tuple[int, ...]:
        """One tap for each sound of the phrase, from the first pass that has it."""
        return tuple(group[0] for group in self.kept)


def laid_over(places: Sequence[Fraction], bar: int, kinds: Sequence[str] = ()) -> Laid | None:
    """The phrase that taps at places, ascending, go through more than once; None where they do not.

    `bar`: counts in a bar, of which a phrase has some whole number; `kinds`: what was tapped, where that matters. Of
    phrases whose passes are alike that is taken which says all in least: its sounds, and `SLIP` for each slip.
    """
    if not places:
        return None
    # A pass goes from the first tap to where that comes again: a pick-up is of the pass that it leads into.
    origin = Fraction(places[0])
    span = places[-1] - origin
    best: Laid | None = None
    for bars in range(1, MOST // bar + 1):
        counts = bars * bar
        # A second pass has begun: most of it is there.
        if counts < LEAST or span < counts * Fraction(3, 2):
            continue
        found = _laid(places, origin, counts, kinds)
        # What is no shorter told so is no phrase that comes again.
        least = SHORTER * len(places) if best is None else best.told
        if found is not None and found.told < least:
            best = found
    return best


def _laid(places: Sequence[Fraction], origin: Fraction, counts: int, kinds: Sequence[str]) -> Laid | None:
    slots: dict[tuple[Fraction, str], dict[int, int]] = {}
    whole = 0
    for index, place in enumerate(places):
        number = int((place - origin) // counts)
        slot = (place - origin) % counts, kinds[index] if kinds else ""
        slots.setdefault(slot, {})[number] = index
        whole = max(whole, number + 1)
    last = max((place - origin) % counts for place in places if int((place - origin) // counts) == whole - 1)
    # The last pass may break off: what lies behind its end was not left out.
    danced = {slot: whole if slot[0] <= last else whole - 1 for slot in slots}
    if any(_alike(slots, one, whole) < ALIKE for one in range(whole - (last < counts * HALF))):
        return None
    kept, slips = [], []
    for slot, passes in sorted(slots.items()):
        if len(passes) * 2 > danced[slot] or (len(passes) * 2 == danced[slot] and 0 in passes):
            kept.append(tuple(passes[n] for n in sorted(passes)))
            slips += [(n + 1, origin + slot[0], True) for n in range(danced[slot]) if n not in passes]
        else:
            slips += [(n + 1, origin + slot[0], False) for n in passes]
    return Laid(counts, whole, tuple(kept), tuple(sorted(slips)))


def _alike(slots: dict[tuple[Fraction, str], dict[int, int]], one: int, whole: int) -> float:
    """The share of a pass that most others have too."""
    mine = [passes for passes in slots.values() if one in passes]
    return sum(len(passes) * 2 > whole for passes in mine) / len(mine) if mine else 0.0
