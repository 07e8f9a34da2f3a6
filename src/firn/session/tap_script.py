"""What was tapped, or heard, as text: each word at the places of its sounds, a foot only where it is needed."""

from collections.abc import Sequence
from fractions import Fraction
from operator import itemgetter

from msgspec import Struct
from msgspec.structs import replace

from firn.core.meter.counting import Counting
from firn.core.piece.build import build_part
from firn.core.quantise.quantise import Quantised
from firn.core.quantise.usual import SLOTS
from firn.core.script.reader import PartScript, read_part
from firn.core.script.settings import Settings
from firn.core.script.writer import write_part
from firn.core.steps.shelf import Shelf
from firn.errors import FirnError

PLAINER = 1e-3
"""What it costs that a place is told by a finer share of a count; thirds are finer than quarters."""

NEAREST = 4
"""So many places of a sound are tried at most."""

ROUNDS = 12
"""So many feet may be written one by one before all are."""


class Tap(Struct, frozen=True):
    """Something tapped: when, in seconds, the word for it, and its foot, "" where nobody said. `heard`: the kinds
    that the ear takes it for, likeliest first, () for any; None where it was tapped."""

    at_s: float
    word: str = "step"
    foot: str = ""
    heard: tuple[str, ...] | None = None


def script_of(taps: Sequence[Tap], read: Quantised, settings: Settings, shelf: Shelf) -> str:
    """The script of taps: each its word at its place, a line a phrase; raises FirnError where no text says it."""
    return script_at(taps, said_places(read.places, settings.counting), settings, shelf)


def script_at(taps: Sequence[Tap], places: Sequence[Fraction], settings: Settings, shelf: Shelf) -> str:
    """The script of words at places as they are said, a line a phrase; raises FirnError where no text says it.

    A foot is written where it would be found otherwise, and on the first word.
    """
    entries = [Entry(tap.word, (place,), tap.foot) for tap, place in zip(taps, places, strict=True)]
    return script_with(entries, settings, shelf)


class Entry(Struct, frozen=True):
    """A word as it is to be written: the place of each of its sounds, and the foot of the first."""

    word: str
    places: tuple[Fraction, ...]
    foot: str = ""


def script_with(entries: Sequence[Entry], settings: Settings, shelf: Shelf) -> str:
    feet = [one.foot for one in entries]
    said = [feet[0], *([""] * (len(entries) - 1))]
    single = all(len(one.places) == 1 for one in entries)
    part = None
    for attempt in range(ROUNDS + 1):
        now = said if attempt < ROUNDS else feet
        script = _at_counts(entries, now, settings, shelf) if single else _placed(entries, now, settings, shelf)
        part = build_part(script, settings)
        found = {s.use: s.foot for s in reversed(part.sounds) if s.foot}
        wrong = [k for k, foot in enumerate(feet) if foot and found.get(k, foot) != foot and not said[k]]
        if not wrong:
            break
        # Once one foot is said, those after it may come right by themselves.
        said[wrong[0]] = feet[wrong[0]]
    assert part is not None
    try:
        return write_part(part.script, settings)
    except ValueError as fault:
        if single:
            return part.script.text
        raise FirnError("No text says these steps at these counts.") from fault


def _at_counts(entries: Sequence[Entry], feet: Sequence[str], settings: Settings, shelf: Shelf) -> PartScript:
    """Words of one sound each, read at their counts."""
    script = read_part("A", _text(entries, feet, settings), settings, shelf)
    if script.problems:
        raise FirnError(f"This cannot be written: {script.problems[0].message}")
    return script


def _placed(entries: Sequence[Entry], feet: Sequence[str], settings: Settings, shelf: Shelf) -> PartScript:
    """Words read in their order, parted by commas, each then put where its sounds are."""
    text = ", ".join(f"{_side(foot)}{one.word}" for one, foot in zip(entries, feet, strict=True))
    script = read_part("A", text, settings, shelf)
    if len(script.uses) != len(entries) or any(
        len(use.places) != len(one.places) for use, one in zip(script.uses, entries, strict=True)
    ):
        raise FirnError("No text says these steps one after another.")
    uses = (replace(use, places=one.places) for use, one in zip(script.uses, entries, strict=True))
    return replace(script, uses=tuple(uses))


def said_places(positions: Sequence[Fraction], counting: Counting) -> list[Fraction]:
    """The places that sound at positions, ascending, under the feel, or nearest to them, each behind the one before;
    the plainest of several."""
    # What each place for the last sound costs, with all that come before it.
    ends: list[tuple[float, list[Fraction]]] = [(0.0, [])]
    for position in positions:
        whole = position // 1
        now: list[tuple[float, list[Fraction]]] = []
        for share in SLOTS:
            place = whole + share
            before = min((end for end in ends if not end[1] or end[1][-1] < place), default=None, key=itemgetter(0))
            if before is not None:
                away = float(abs(counting.position(place) - position))
                finer = share.denominator * (2 if share.denominator % 3 == 0 else 1)
                # Of two as near, what it would be called if it did not swing.
                cost = away + PLAINER * (finer + float(abs(place - position)))
                now.append((before[0] + cost, [*before[1], place]))
        ends = sorted(now, key=itemgetter(0))[:NEAREST] or [(ends[0][0], [*ends[0][1], position])]
    return ends[0][1]


def _text(entries: Sequence[Entry], feet: Sequence[str], settings: Settings) -> str:
    """Words with the counts on which they begin in full, a line a phrase."""
    phrase = settings.counting.phrase
    rows: dict[int, list[str]] = {}
    for one, foot in zip(entries, feet, strict=True):
        place = one.places[0]
        rows.setdefault(int(place // phrase), []).append(f"{_exact(place, phrase)} {_side(foot)}{one.word}")
    if min(rows) < 0:
        # What leads up to the first 1 stands in the line that holds it.
        rows[0] = rows.pop(-1) + rows.get(0, [])
    return "\n".join("  ".join(row) for _, row in sorted(rows.items()))


def _side(foot: str) -> str:
    return {"left": "L ", "right": "R ", "both": "both "}.get(foot, "")


def _exact(place: Fraction, phrase: int) -> str:
    """A place as a count and a share of it."""
    number, share = int(place // 1) % phrase + 1, place % 1
    return f"{number}+{share}" if share else str(number)
