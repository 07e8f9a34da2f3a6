"""What the page Read says: findings by what is to be done about them, a sound in words, and measures as rows."""

from collections.abc import Sequence
from fractions import Fraction
from typing import get_args

from msgspec import Struct

from firn.core.piece.piece import Part
from firn.core.reading.kinds import KINDS, FindingGroup
from firn.core.reading.measures import KNOWN, Value, known_pattern, longuet_higgins_lee, nearest_known, pattern
from firn.core.reading.profile import Measured, Over, measured_sounds, moment, profile
from firn.core.reading.tempo import PLAIN, room_after
from firn.core.script.layers import layer_of
from firn.core.script.reader import lines_of
from firn.core.steps.names import fold
from firn.session.note import Note
from firn.session.stretch import WEIGHTS, Stretch, described

PROBLEM: FindingGroup = "Write it again"
"""What is done about a problem of the script."""

KNOW = "Good to know"
MEANT = "Meant so"


def grouped(notes: Sequence[Note]) -> list[Note]:
    """Notes by what is to be done about them, each group under its name."""
    told: list[Note] = [n for n in notes if n.level == "note"]
    rest = [n for n in notes if n.level != "note"]
    asked = [n for n in rest if n.level != "ok"]
    for name in get_args(FindingGroup):
        own = [n for n in asked if name != KNOW and _group(n) == name]
        told += [Note("head", name), *own] if own else []
    known = [n for n in rest if n not in told and not n.meant]
    meant = [n for n in rest if n.meant]
    told += [Note("head", KNOW), *known] if known else []
    return [*told, *([Note("head", MEANT), *meant] if meant else [])]


def _group(note: Note) -> FindingGroup:
    kind = KINDS.get(note.code)
    return kind.group if kind is not None else PROBLEM


def meant_text(text: str, code: str, reason: str | None) -> str:
    """A part's text with something said to be meant, with its reason; no longer for None."""
    name = code.replace("_", " ")
    kept = [line for line in lines_of(text) if not _means(line, name)]
    line = f"meant: {name}" + (f", {' '.join(reason.replace('#', ' ').split())}" if reason else "")
    return "\n".join([*kept, *([] if reason is None else [line])]).strip("\n")


def _means(line: str, name: str) -> bool:
    layer = layer_of(line)
    return layer is not None and layer.name == "meant" and fold(layer.text.split(",")[0]) == name


def sound_said(
    part: Part, stretch: Stretch, index: int, tempo: float = 0.0, least_ms: float = PLAIN.any_ms
) -> list[str]:
    """One sound in sentences: what it is, where the meter has it, and how the feet stand after it.

    `tempo` in counts a minute, 0 for the piece's; `least_ms`: how near two sounds may come.
    """
    tempo = tempo or part.settings.tempo
    one = moment(part, index)
    counting = part.settings.counting
    said = [f"{described(stretch, index)}."]
    if one.sound.heard:
        words: list[str] = [one.beat]
        if one.weight is not None:
            words.append(f"{-one.weight} below a bar's first" if one.weight else "a bar's first")
        if one.over is not None:
            words.append(f"it hangs over {counting.name(one.over)}, which is {one.by} heavier")
        if one.against:
            words.append("leaned on against the meter")
        said.append(f"{'; '.join(words).capitalize()}.")
    room = room_after(part, index, tempo, least_ms)
    if room is not None:
        ms, fits = room
        more = f"room for one more, {ms / 2:.0f} ms each" if fits else "no room for another"
        said.append(f"To the next {ms:.0f} ms at {tempo:g}: {more}.")
    if one.sound.foot:
        carries = WEIGHTS.get(one.carries, f"the {one.carries} foot carries")
        said.append(f"After it {carries}: left {one.feet[0]}, right {one.feet[1]}.")
    return said


class MeasureRow(Struct, frozen=True):
    """A measure as a row: its name, its value for the part and for each phrase, what it says and of whom it is."""

    name: str
    value: str
    phrases: tuple[str, ...]
    says: str


def value_text(value: Value) -> str:
    """A measure's value, a dash where it does not apply."""
    if value is None:
        return "–"
    return f"{round(float(value), 2):g}"


def rows(part: Part, over: Over) -> list[MeasureRow]:
    """Every measure of a part as a row."""
    return [_row(m) for m in profile(part, over)]


def _row(one: Measured) -> MeasureRow:
    phrases = tuple(value_text(v) for v in one.phrases)
    return MeasureRow(one.measure.name, value_text(one.value), phrases, _says(one))


def _says(one: Measured) -> str:
    measure = one.measure
    applies = f" It applies to {measure.applies}." if measure.applies else ""
    return f"{measure.says} ({measure.source}).{applies}"


BESIDE = "known patterns"
"""The way in which measures stand beside those of well-known patterns."""


SUMS = ("lhl", "keith", "off_beat_starts", "off_beatness", "metrical_complexity")
"""Measures that add up over a part."""


def _in_four(one: Measured, part: Part) -> str:
    if one.value is None or one.measure.key not in SUMS:
        return value_text(one.value)
    return value_text(Fraction(one.value) * 4 / part.counts)


SHOWN_BESIDE = ("shiko", "son", "rumba", "bossa", "gahu")


def beside_known(part: Part) -> list[MeasureRow]:
    """Every measure of what is heard of a part, and of well-known patterns of four counts in place of its phrases.

    What adds up over a part is taken for four counts of it, as these last.
    """
    known = [known_pattern(text) for name, text in KNOWN if name in SHOWN_BESIDE]
    return [
        MeasureRow(m.measure.name, _in_four(m, part), tuple(value_text(m.measure.of(k)) for k in known), _says(m))
        for m in profile(part)
    ]


def known_names() -> list[str]:
    """The names of the well-known patterns, in the order of their columns."""
    return [name for name, _ in KNOWN if name in SHOWN_BESIDE]


def compared(part: Part, over: Over) -> str:
    """The part's syncopation beside well-known patterns, a phrase at a time, so that the number means something."""
    meter = part.settings.counting.meter
    if part.counts <= 0 or meter.compound or meter.counts != 4:
        return ""
    try:
        whole = pattern([s.place for s in measured_sounds(part, over)], meter, part.counts)
    except ValueError:
        return ""
    # The known ones last 4 beats.
    score = Fraction(longuet_higgins_lee(whole) or 0) * 4 / part.counts
    return (
        f"In every four counts it hangs over by {value_text(score)}: about as much as {nearest_known(score)} "
        "(shiko 2, son 4, rumba and gahu 5, soukous and bossa 6)."
    )
