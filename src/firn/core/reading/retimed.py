"""A part with its rhythm straightened, pushed or delayed: the same sounds on the same feet at other places."""

from bisect import bisect_left, bisect_right
from collections.abc import Mapping
from fractions import Fraction

from msgspec.structs import replace

from firn.core.piece.build import part_from
from firn.core.piece.by_hand import footed, keyed, singles_of
from firn.core.piece.piece import Part
from firn.core.piece.versions import Version, VersionError, written
from firn.core.reading.syncopation import part_hangs
from firn.core.script.items import Word
from firn.core.script.places import Use
from firn.core.script.writer import in_writing_order

Moves = Mapping[int, Fraction]
"""New places of some sounds, by their indexes."""

Chosen = tuple[Fraction, Fraction] | None
"""Only what lies from one place up to another; None for all."""


def score(part: Part) -> int:
    """A part's syncopation after Longuet-Higgins & Lee 1984."""
    return sum(h.strength for h in part_hangs(part))


def straightened(part: Part, chosen: Chosen = None) -> Version:
    """Every sound that hangs over a silent stronger beat, on that beat instead.

    A sound that has moved may hang over the place that it left: it is done again until nothing hangs, or no less.
    """
    text, now = "", part
    for _ in range(4):
        over = {h.place: h.over for h in part_hangs(now) if _inside(h.place, chosen) and h.over < _end(now)}
        moves = {i: over[s.place] for i, s in enumerate(now.sounds) if s.place in over and _danced(now, i)}
        if not moves:
            break
        tried = _moved(now, moves)
        made = part_from(part.name, tried, part.settings, part.script.shelf)
        if score(made) >= score(now):
            break
        text, now = tried, made
    if not text:
        hangs = "What hangs over here would hang over all the same" if part_hangs(part) else "Nothing hangs over here"
        raise VersionError(f"{hangs}: there is nothing to straighten.")
    return Version(text, f"Straightened: what hung over now falls on its beat. {_scores(part, text)}")


def pushed(part: Part, chosen: Chosen = None) -> Version:
    """What lies on a beat comes a half count before it, a third in compound time, where there is room."""
    return _off_the_beat(part, chosen, -1, "Pushed", "before")


def delayed(part: Part, chosen: Chosen = None) -> Version:
    """What lies on a beat comes a half count after it, a third in compound time, where there is room."""
    return _off_the_beat(part, chosen, 1, "Delayed", "after")


def _off_the_beat(part: Part, chosen: Chosen, way: int, how: str, where: str) -> Version:
    counting = part.settings.counting
    by = Fraction(way, 3 if counting.meter.compound else 2)
    taken = sorted({s.place for s in part.sounds if not s.layer and s.kind != "hold"})
    moves = {}
    for index, sound in enumerate(part.sounds):
        # Where all begins stays: without it nobody hears that anything has moved.
        first = sound.place == part.first_count and chosen is None
        if sound.place.denominator != 1 or not sound.heard or first or not _inside(sound.place, chosen):
            continue
        aim = sound.place + by
        low, high = min(aim, sound.place), max(aim, sound.place)
        near = taken[bisect_left(taken, low) : bisect_right(taken, high)]
        if _danced(part, index) and all(p == sound.place for p in near):
            moves[index] = aim
    if not moves:
        raise VersionError(f"No sound on a beat has room {where} it.")
    text = _moved(part, moves)
    share = "a third of a count" if counting.meter.compound else "half a count"
    return Version(text, f"{how}: what lay on a beat comes {share} {where} it. {_scores(part, text)}")


def _scores(part: Part, text: str) -> str:
    made = part_from(part.name, text, part.settings, part.script.shelf)
    return f"Syncopation {score(part)} before, {score(made)} now (Longuet-Higgins & Lee)."


def _inside(place: Fraction, chosen: Chosen) -> bool:
    return chosen is None or chosen[0] <= place < chosen[1]


def _end(part: Part) -> Fraction:
    return part.last_count + 1


def _danced(part: Part, index: int) -> bool:
    """Whether a sound is written in the steps' own lines, for itself."""
    sound = part.sounds[index]
    return not sound.layer and sound.kind != "hold" and not part.uses[sound.use].again


def _moved(part: Part, moves: Moves) -> str:
    """The part's text with some sounds at other places, each on its foot.

    A hold that one moves onto gives way; a count that one leaves is held.
    """
    by_use: dict[int, dict[int, Fraction]] = {}
    for index, place in moves.items():
        by_use.setdefault(part.sounds[index].use, {})[part.sounds[index].beat] = place
    onto = set(moves.values())
    uses: list[Use] = []
    for number, use in enumerate(part.uses):
        new = by_use.get(number)
        if new is None:
            uses += _held(use, onto)
            continue
        shifts = {new[beat] - place for beat, place in enumerate(use.places) if beat in new}
        if len(new) == len(use.places) and len(shifts) == 1:
            uses.append(replace(use, places=tuple(p + next(iter(shifts)) for p in use.places)))
            continue
        # A word whose sounds part company is said as its sounds.
        singles = singles_of(part, use) if len(use.places) > 1 else [use]
        uses += [replace(one, places=(new.get(n, one.places[0]),)) for n, one in enumerate(singles)]
    uses += _holds(part, moves)
    wanted = {}
    for index, (key, sound) in enumerate(keyed(part.sounds)):
        if sound.foot:
            place = moves.get(index, sound.place)
            wanted[place, key[1] if place == sound.place else 0] = sound.foot
    uses = footed(part, in_writing_order(uses), wanted)
    return written(part, uses)


def _holds(part: Part, moves: Moves) -> list[Use]:
    """A hold for each whole count that nothing falls on any more."""
    hold = part.script.shelf.plain.find("hold", part.settings.tradition)
    taken = {moves.get(i, s.place) for i, s in enumerate(part.sounds) if not s.layer}
    left = {part.sounds[i].place: part.uses[part.sounds[i].use].line for i in moves}
    return [
        Use(hold, Word("hold", hold, 0, 0), line, (place,), (Fraction(1),))
        for place, line in sorted(left.items())
        if hold is not None and place.denominator == 1 and place not in taken and place >= part.first_count
    ]


def _held(use: Use, onto: set[Fraction]) -> list[Use]:
    """A hold without the counts that sounds have moved onto; any other word as it is."""
    if use.card.name != "hold":
        return [use]
    counts = [use.places[0] + n for n in range(max(1, int(use.lengths[0])))]
    kept: list[list[Fraction]] = []
    for count in (c for c in counts if c not in onto):
        if kept and kept[-1][-1] == count - 1:
            kept[-1].append(count)
        else:
            kept.append([count])
    return [replace(use, places=(run[0],), lengths=(Fraction(len(run)),)) for run in kept]
