"""A hold that was probably dropped: the one with which a part that fills no phrase is the same over and over."""

from collections import Counter
from collections.abc import Iterator
from fractions import Fraction

from firn.core.piece.build import build_part
from firn.core.piece.piece import Part
from firn.core.reading.finding import MendText
from firn.core.script.changes import Change, changed_text
from firn.core.script.places import Use
from firn.core.script.reader import read_part

LONGEST, MOST_TRIED = 120, 16
"""Sounds up to which a part is tried, and places in it: each costs reading it once."""


def dropped_holds(part: Part) -> Iterator[MendText]:
    """The hold that makes a part fill its phrases with one figure over and over; none where no one does."""
    if len(part.sounds) > LONGEST or part.problems or part.footing.faults or not _over_and_over(part):
        return
    tried: set[tuple[int, int]] = set()
    phrase = part.settings.counting.phrase
    often = Counter(map(_spot, part.uses))
    again = any(use.again for use in part.uses)
    # The later the likelier: a figure is held at its end.
    for use in reversed(part.uses):
        spot = _spot(use)
        if use.layer or use.again or use.card.name == "hold" or spot in tried or use.word.joined:
            continue
        tried.add(spot)
        # One hold more for each time that the word is danced has to fill the phrase.
        if (part.counts + often[spot]) % phrase and not again:
            continue
        if len(tried) > MOST_TRIED:
            return
        place = use.last // 1 + 1
        said = str(part.settings.counting.number(Fraction(place)))
        change = Change(*spot, use.word.end, f"  {said} hold")
        for text in (change.text, " hold"):
            one = Change(change.line, change.column, change.end, text)
            if _comes_round(part, one):
                yield MendText("write_hold", {"counts": said}, (one,))
                return


def _spot(use: Use) -> tuple[int, int]:
    """Where the word of a use ends."""
    return use.line, use.word.end


def _over_and_over(part: Part) -> bool:
    """Whether a part's steps, without their holds, are some steps danced twice or more: no hold makes that of others,
    and this is told without reading the part again."""
    kinds = [part.sounds[i].kind for i in part.own if part.sounds[i].kind != "hold"]
    many = len(kinds)
    return any(kinds[: many - size] == kinds[size:] for size in range(1, many // 2 + 1) if many % size == 0)


def _comes_round(part: Part, change: Change) -> bool:
    """Whether a part with a change fills its phrases with the same figure each time, and nothing is wrong with it."""
    text = changed_text(part.script.text, (change,))
    script = read_part(part.name, text, part.settings, part.script.shelf)
    if script.problems or len(script.doubts) > len(part.script.doubts):
        return False
    made = build_part(script, part.settings, mends=False)
    phrase = part.settings.counting.phrase
    if made.counts % phrase or made.footing.faults or made.empty_counts:
        return False
    return any(_same_each(made, block) for block in (phrase // 2, phrase) if block and made.counts >= 2 * block)


def _same_each(part: Part, block: int) -> bool:
    """Whether every so many counts of a part are danced alike."""
    if part.counts % block:
        return False
    # What leads up to the first count leads up to each time.
    first = min(part.first_count, part.sounds[0].place)
    times: dict[int, list[tuple[Fraction, str, Fraction]]] = {}
    for sound in part.sounds:
        at = sound.place - first
        times.setdefault(int(at // block), []).append((at % block, sound.kind, sound.length))
    rows = list(times.values())
    return len(rows) > 1 and all(row == rows[0] for row in rows[1:])
