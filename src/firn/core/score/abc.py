"""A score as ABC notation (abcnotation.com, standard 2.1): one line of rhythm, the words under it."""

from collections.abc import Iterator
from fractions import Fraction

from firn.core.meter.meter import Meter
from firn.core.score.notes import MOST_PARTS, Note, bar_notes
from firn.core.score.score import Score, Written, finest, quarters_of

UNIT = Fraction(1, 2)
"""Quarters of a length of 1: an eighth."""

PER_LINE = 4


def write_abc(score: Score) -> Written:
    """A score as ABC. Feet and kinds, which ABC has no signs for, are left out, and that is said."""
    bars = list(score.bars())
    heard = [i for i, s in enumerate(score.sounds) if s.heard]
    quarter = quarters_of(bars[0][2])
    meter = bars[0][2]
    head = ["X:1", f"T:{_line(score.title)}", f"M:{_meter(meter)}", "L:1/8", f"Q:{_beat(quarter)}={score.tempo:g}"]
    head += [] if score.counting.feel.straight else [f"N:{score.counting.feel}"]
    rows = [*head, "K:none clef=perc"]
    marks = dict(score.sections)
    music: list[str] = []
    words: list[str] = []
    before = meter
    for number, bar in enumerate(bars):
        begin, end, here = bar
        mark = next((name for place, name in marks.items() if begin <= place < end), "")
        if here != before:
            music.append(f"[M:{_meter(here)}]")
            before = here
        if mark:
            music.append(f'"^{_line(mark).replace(chr(34), chr(39))}"')
        notes = list(bar_notes(score, bar, heard))
        music.append(f"{''.join(_notes(notes))} {'|' if number < len(bars) - 1 else '|]'}")
        words += [_word(score, one.sound) for one in notes if one.sound >= 0]
        if (number + 1) % PER_LINE == 0 or number == len(bars) - 1:
            rows += [" ".join(music), f"w: {' '.join(words)}"]
            music, words = [], []
    fine = any(finest([s.place]) > MOST_PARTS for s in score.sounds)
    told: tuple[str, ...] = ("ABC says when something is struck, and not with which foot or what part of it.",)
    told += ("Some sounds lie finer than its notes: they are moved to the nearest.",) if fine else ()
    return Written(("\n".join(rows) + "\n").encode(), told)


def _notes(notes: list[Note]) -> Iterator[str]:
    for number, one in enumerate(notes):
        if one.begins:
            inside = next(n for n, other in enumerate(notes[number:], 1) if other.ends)
            yield f"({one.actual}:{one.normal}:{inside}"
        yield f"{'B' if one.sound >= 0 else 'z'}{_long(one.written_q / UNIT)} "


def _long(units: Fraction) -> str:
    top = "" if units.numerator == 1 else str(units.numerator)
    return top if units.denominator == 1 else f"{top}/{units.denominator}"


def _beat(quarter: Fraction) -> str:
    whole = quarter / 4
    return f"{whole.numerator}/{whole.denominator}"


def _meter(meter: Meter) -> str:
    return f"({'+'.join(map(str, meter.groups))})/{meter.unit}" if meter.groups else f"{meter.beats}/{meter.unit}"


def _word(score: Score, index: int) -> str:
    word = _line(score.word_at(index))
    return (
        word.replace("\\", "")
        .replace("-", "\\-")
        .replace("_", " ")
        .replace("*", "")
        .replace("|", "")
        .replace(" ", "~")
        or "*"
    )


def _line(text: str) -> str:
    """Text on one line, without what begins a remark."""
    return " ".join(text.replace("%", "").split())
