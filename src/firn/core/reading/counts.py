"""The count ledger: does a part fill its phrase, holds counted, and where does it slip to."""

from fractions import Fraction
from math import lcm

from firn.core.piece.piece import Part
from firn.core.reading.finding import Finding, MendText
from firn.core.script.changes import Change


def empty_counts(part: Part) -> list[Fraction]:
    """Whole counts of a part with neither a sound, a move, nor a hold."""
    taken = {p.numerator for p in part.script.unknown if p.denominator == 1}
    for sound in part.sounds:
        if sound.place.denominator == 1:
            first = sound.place.numerator
            taken.update(range(first, first + max(1, int(sound.length))))
    counts = range(int(part.first_count), int(part.last_count) + 1)
    return [Fraction(c) for c in counts if c not in taken]


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
    found = []
    for first, last in _runs(empty_counts(part)):
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
                mends=_hold(part, first, last, said),
            )
        )
    return found


def _hold(part: Part, first: Fraction, last: Fraction, said: str) -> tuple[MendText, ...]:
    before = [u for u in part.uses if u.places[0] < first]
    after = [u for u in part.uses if u.places[0] > last]
    # Inside one word there is no place to write a hold.
    if not before or any(u.last > last for u in before) or any(u.places[0] < last for u in after):
        return ()
    use = before[-1]
    word = use.word.joined[-1] if use.word.joined else use.word
    if word.times > 1 or any(u.word is use.word and u.copy > use.copy for u in part.uses):
        return ()
    change = Change(use.line - part.script.line, word.end, word.end, f"  {said} hold")
    return (MendText("write_hold", {"counts": said}, (change,)),)


def length(part: Part) -> list[Finding]:
    """How a part's length fits the phrase: by how much it is off, where it slips to, when it comes round."""
    counts, phrase = part.counts, part.settings.counting.phrase
    if not part.sounds:
        return []
    values = {"counts": str(counts), "phrase": str(phrase)}
    if counts % phrase == 0:
        return [Finding("fills", "ok", part.name, values=values | {"phrases": str(counts // phrase)})]
    if phrase % counts == 0:
        return [Finding("fills_part", "ok", part.name, values=values | {"times": str(phrase // counts)})]
    over = counts % phrase
    short = phrase - over
    long = counts > phrase and over < short
    start = int(part.first_count)
    begins = {n: (start + n * counts) % phrase + 1 for n in (1, 2, 4, 8)}
    round_after = lcm(counts, phrase) // counts
    values |= {
        "by": str(over if long else short),
        "way": "long" if long else "short",
        "begins": ", ".join(f"{begins[n]}" for n in (1, 2, 4, 8)),
        "first": str(start % phrase + 1),
        "times": str(round_after),
        "all": str(round_after * counts),
    }
    return [Finding("off_phrase", "look", part.name, values=values)]
