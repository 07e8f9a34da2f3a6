"""The count ledger: does a part fill its phrase, holds counted, and where does it slip to."""

from bisect import bisect_left
from fractions import Fraction
from itertools import accumulate
from math import lcm

from msgspec import Struct

from firn.core.piece.piece import Part
from firn.core.reading.dropped import dropped_holds
from firn.core.reading.finding import Finding, MendText, Value
from firn.core.script.changes import Change
from firn.core.script.places import Use
from firn.core.task import giving_way


def _runs(counts: list[Fraction]) -> list[tuple[Fraction, Fraction]]:
    runs: list[tuple[Fraction, Fraction]] = []
    for count in counts:
        if runs and count == runs[-1][1] + 1:
            runs[-1] = (runs[-1][0], count)
        else:
            runs.append((count, count))
    return runs


def gaps(part: Part) -> list[Finding]:
    """A finding for each run of empty counts, with the hold that would fill it."""
    counting = part.settings.counting
    runs = _runs(part.empty_counts)
    if not runs:
        return []
    before = _Before.of(part)
    found = []
    for first, last in runs:
        said = str(counting.number(first))
        if last != first:
            said += f"-{counting.number(last)}"
        found.append(
            Finding(
                "empty_count",
                "look",
                part.name,
                first,
                values={"counts": said, "many": "yes" if last != first else ""},
                mends=_hold(part, before, first, last, said),
            )
        )
    return found


class _Before(Struct, frozen=True):
    """What of a part comes before a place: by first places, ascending, the latest in the text, and the last filled.

    `copies`: of each word, by its identity, the last copy that there is. `struck`: the places of the sounds of feet,
    ascending, `in_air` whether each leaves the dancer in the air.
    """

    places: tuple[Fraction, ...]
    latest: tuple[int, ...]
    filled: tuple[Fraction, ...]
    copies: dict[int, int]
    struck: tuple[Fraction, ...]
    in_air: tuple[bool, ...]

    @classmethod
    def of(cls, part: Part) -> "_Before":
        order = sorted(range(len(part.uses)), key=lambda i: part.uses[i].places[0])
        copies: dict[int, int] = {}
        for use in part.uses:
            copies[id(use.word)] = max(use.copy, copies.get(id(use.word), 0))
        feet = [sound for sound in part.sounds if sound.foot]
        return cls(
            tuple(part.uses[i].places[0] for i in order),
            tuple(accumulate(order, max)),
            tuple(accumulate((part.uses[i].last for i in order), max)),
            copies,
            tuple(sound.place for sound in feet),
            tuple(sound.weight == "air" for sound in feet),
        )


def _hold(part: Part, before: _Before, first: Fraction, last: Fraction, said: str) -> tuple[MendText, ...]:
    many = bisect_left(before.places, first)
    # Inside one word there is no place to write a hold.
    if not many or before.filled[many - 1] > last:
        return ()
    use = part.uses[before.latest[many - 1]]
    word = use.word.joined[-1] if use.word.joined else use.word
    struck = bisect_left(before.struck, first)
    air = struck > 0 and before.in_air[struck - 1]
    # Nor in the air, nor in a line that says another again.
    if use.again or air:
        return ()
    if word.times > 1 or before.copies[id(use.word)] > use.copy:
        return ()
    change = Change(use.line, word.end, word.end, f"  {said} hold")
    return (MendText("write_hold", {"counts": said}, (change,)),)


IN_SIXES = ("swing", "latin", "marking")
"""Traditions with figures of six counts, whatever the phrase is."""


def length(part: Part) -> list[Finding]:
    """How a part's length fits the phrase: by how much it is off, where it slips to, when it comes round."""
    counts, phrase = part.counts, part.settings.counting.phrase
    if not part.sounds:
        return []
    values: dict[str, Value] = {"counts": counts, "phrase": phrase}
    if counts % phrase == 0:
        return [Finding("fills", "ok", part.name, values=values | {"phrases": counts // phrase})]
    if phrase % counts == 0:
        return [Finding("fills_part", "ok", part.name, values=values | {"times": phrase // counts})]
    over = counts % phrase
    short = phrase - over
    long = counts > phrase and over < short
    start = int(part.first_count)
    begins = {n: (start + n * counts) % phrase + 1 for n in (1, 2, 4, 8)}
    round_after = lcm(counts, phrase) // counts
    values |= {
        "by": over if long else short,
        "way": "long" if long else "short",
        "begins": ", ".join(f"{begins[n]}" for n in (1, 2, 4, 8)),
        "first": start % phrase + 1,
        "times": round_after,
        "all": round_after * counts,
    }
    sixes = part.settings.tradition in IN_SIXES and counts % 6 == 0
    mends = () if sixes else tuple(dropped_holds(part))
    return [Finding("off_phrase", "ok" if sixes else "look", part.name, values=values, mends=mends)]


def claim(part: Part) -> list[Finding]:
    """Whether a part is as long as its teacher says."""
    said = part.layers.length
    if said is None or not part.sounds or said == part.counts:
        return []
    return [Finding("claim", "look", part.name, values={"said": said, "counts": part.counts})]


def lines(part: Part) -> list[Finding]:
    """The first line that is shorter or longer than the others, where the part does not fill its phrase.

    Where three lines or more are as long as each other and one is not, a count was probably dropped or added there.
    """
    if part.counts % part.settings.counting.phrase == 0:
        return []
    spans = _line_spans(part)
    lengths = [end - first for first, end in spans]
    usual = max(set(lengths), key=lengths.count, default=Fraction(0))
    if lengths.count(usual) < 3:
        return []
    odd = next((i for i, n in enumerate(lengths) if n != usual), None)
    if odd is None or (odd == len(lengths) - 1 and lengths[odd] < usual):
        # After the last line nothing is early.
        return []
    counting = part.settings.counting
    values: dict[str, Value] = {
        "line": odd + 1, "counts": int(lengths[odd]), "usual": int(usual),
        "way": "early" if lengths[odd] < usual else "late", "by": abs(int(usual - lengths[odd])),
        "first": counting.number(spans[odd][0]), "last": counting.number(spans[odd][1] - 1),
    }  # fmt: skip
    sound = next((i for i, s in enumerate(part.sounds) if s.place >= spans[odd][0] and not s.layer), None)
    return [Finding("odd_line", "look", part.name, spans[odd][0], sound, values)]


def shifted(part: Part) -> list[Finding]:
    """The first line that dances the same words as a line before it, but at another place within its counts.

    From there on all is off by half a count, or by whatever it is: something between was dropped or added.
    """
    rows: dict[int, list[Use]] = {}
    for use in giving_way(part.uses):
        if not use.layer and not use.again:
            rows.setdefault(use.line, []).append(use)
    seen: dict[tuple[str, ...], tuple[int, Fraction]] = {}
    for number, line in enumerate(giving_way(sorted(rows)), start=1):
        uses = rows[line]
        key = tuple(u.card.name for u in uses if u.card.name != "hold")
        place = next((p for u in uses if u.card.name != "hold" for p in u.places), None)
        if place is None or sum(u.card.sounds for u in uses) < LEAST_ALIKE:
            continue
        if key not in seen:
            seen[key] = number, place
            continue
        before, at = seen[key]
        by = (place - at) % 1
        if by:
            counting = part.settings.counting
            late = by <= Fraction(1, 2)
            values: dict[str, Value] = {
                "line": number, "before": before, "first": counting.name(place),
                "share": str(min(by, 1 - by)), "way": "late" if late else "early",
                "done": "added" if late else "dropped",
            }  # fmt: skip
            sound = next((i for i, s in enumerate(part.sounds) if s.place >= place and not s.layer), None)
            return [Finding("shifted_line", "look", part.name, place, sound, values)]
    return []


LEAST_ALIKE = 3
"""Sounds from which two lines of the same words are the same figure."""


def _line_spans(part: Part) -> list[tuple[Fraction, Fraction]]:
    """From which whole count up to which each line of steps goes; each up to the first of the next."""
    firsts: dict[int, Fraction] = {}
    for use in part.uses:
        if not use.layer:
            first = min(use.places)
            firsts[use.line] = min(firsts.get(use.line, first), first)
    starts = [Fraction(-(-firsts[line] // 1)) for line in sorted(firsts)]
    return list(zip(starts, [*starts[1:], part.last_count + 1][: len(starts)], strict=True))
