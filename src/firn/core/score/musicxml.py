"""A score as MusicXML 4.0: a percussion staff, each foot a voice, kinds as noteheads, words and counts as lyrics.

Sounds stand where they are said; a feel is a mark on them. What makes no sound is a direction, a hold a rest.
Sections that come again alike are written once, with a repeat, and with two endings where the last ends otherwise.
"""

from bisect import bisect_right
from collections.abc import Hashable, Sequence
from fractions import Fraction
from math import lcm
from xml.etree.ElementTree import Element, SubElement, indent, tostring

from firn.core.meter.meter import Meter
from firn.core.pattern import late
from firn.core.piece.sound import Sound
from firn.core.score.notes import MOST_PARTS, TYPES, Note, bar_notes
from firn.core.score.repeats import WrittenBar, written_bars
from firn.core.score.score import Bar, Score, Written, finest, quarters_of, voices_of
from firn.core.steps.kinds import kind_said

HEADS = {
    "ball": "normal", "heel": "x", "tip": "triangle", "whole": "square", "sole": "diamond", "brush": "slashed",
    "spank": "back slashed", "scuff": "inverted triangle", "slide": "diamond", "clap": "circle-x", "snap": "cross",
    "pat": "circled", "drum": "rectangle", "click": "cluster", "none": "normal",
}  # fmt: skip
"""What strikes, or how, as a notehead."""

PLACES = {"left": ("E", 5), "right": ("F", 4), "hands": ("A", 5)}
"""Where each voice stands on the staff."""


_AGAIN = late(r" \d+$")


def write_musicxml(score: Score) -> Written:
    """A score as MusicXML 4.0, partwise, UTF-8."""
    bars = list(score.bars())
    voices = ["left", "right"]
    heard = {v: [i for i, s in enumerate(score.sounds) if s.heard and v in voices_of(s)] for v in (*voices, "hands")}
    voices += ["hands"] if heard["hands"] else []
    written = {v: [list(bar_notes(score, bar, heard[v])) for bar in bars] for v in voices}
    divisions = lcm(
        *(p.sounds_q.denominator for v in voices for bar in written[v] for p in bar),
        *(finest([s.place]) * quarters_of(m).denominator for s in score.sounds for _, _, m in bars[:1]),
    )
    fine = any(finest([s.place]) > MOST_PARTS for s in score.sounds)
    told = ("Some sounds lie finer than MusicXML's notes: they are moved to the nearest.",) if fine else ()
    root = Element("score-partwise", version="4.0")
    SubElement(SubElement(root, "work"), "work-title").text = _clean(score.title)
    coded = SubElement(SubElement(root, "identification"), "encoding")
    SubElement(coded, "software").text = "Firn"
    listed = SubElement(SubElement(root, "part-list"), "score-part", id="P1")
    SubElement(listed, "part-name").text = "Feet"
    part = SubElement(root, "part", id="P1")
    before: Meter | None = None
    number = 0
    for one_bar in _written(score, bars):
        at = one_bar.bar
        begin, end, meter = bars[at]
        led = begin < score.first
        number += not led
        measure = SubElement(part, "measure", {"number": str(number), **({"implicit": "yes"} if led else {})})
        _barline(measure, one_bar, left=True)
        _attributes(measure, score, meter, before, divisions, first=at == 0)
        _marks(measure, score, begin, end, meter, divisions, first=at == 0)
        for place, voice in enumerate(voices):
            if place:
                long = (end - begin) * quarters_of(meter) * divisions
                SubElement(SubElement(measure, "backup"), "duration").text = str(int(long))
            for one in written[voice][at]:
                _note(measure, score, one, voice, place + 1, divisions)
        _barline(measure, one_bar, left=False, last=at == len(bars) - 1 or one_bar.times > 1)
        before = meter
    indent(root)
    head = '<?xml version="1.0" encoding="UTF-8" standalone="no"?>\n'
    head += (
        '<!DOCTYPE score-partwise PUBLIC "-//Recordare//DTD MusicXML 4.0 Partwise//EN" '
        '"http://www.musicxml.org/dtds/partwise.dtd">\n'
    )
    return Written(head.encode() + tostring(root, encoding="utf-8") + b"\n", told)


def _clean(text: str) -> str:
    """Text without what XML cannot hold."""
    return "".join(c for c in text if c in "\t\n" or (" " <= c < "\ud800") or "\udfff" < c < "\ufffe" or c > "\uffff")


def _written(score: Score, bars: Sequence[Bar]) -> list[WrittenBar]:
    """Which bars are written, with their repeats."""
    inside: list[list[Hashable]] = [[meter, end - begin] for begin, end, meter in bars]
    begins = [begin for begin, _, _ in bars]
    for index, sound in enumerate(score.sounds):
        at = bisect_right(begins, sound.place) - 1
        here = sound.place - begins[at]
        word = score.word_at(index)
        inside[at].append((here, sound.kind, sound.strikes, sound.foot, sound.hand, sound.level, sound.say, word))
    starts = []
    for place, name in score.sections:
        at = bisect_right(begins, place) - 1
        # "A 2" is A again.
        inside[at].append((place - begins[at], _AGAIN.sub("", name)))
        if place == begins[at]:
            starts.append(at)
    led = sum(begin < score.first for begin in begins)
    return written_bars([tuple(one) for one in inside], [at for at in starts if at >= led])


# Elements


def _barline(measure: Element, bar: WrittenBar, *, left: bool, last: bool = False) -> None:
    """A bar line that says something: where a repeat or an ending begins or ends, or all of it."""
    repeated = bar.begins if left else bar.times > 1
    ending = bar.opens if left else bar.closes
    if not (repeated or ending or last):
        return
    line = SubElement(measure, "barline", location="left" if left else "right")
    if repeated or last:
        SubElement(line, "bar-style").text = "heavy-light" if left else "light-heavy"
    if ending:
        kind = "start" if left else "stop" if repeated else "discontinue"
        SubElement(line, "ending", number=", ".join(map(str, bar.ending)), type=kind)
    if repeated and left:
        SubElement(line, "repeat", direction="forward")
    elif repeated:
        often = {"times": str(bar.times)} if bar.times > 2 else {}
        SubElement(line, "repeat", {"direction": "backward", **often})


def _attributes(
    measure: Element, score: Score, meter: Meter, before: Meter | None, divisions: int, *, first: bool
) -> None:
    if meter == before and not first:
        return
    said = SubElement(measure, "attributes")
    if first:
        SubElement(said, "divisions").text = str(divisions)
    time = SubElement(said, "time")
    groups = meter.groups
    SubElement(time, "beats").text = "+".join(map(str, groups)) if groups else str(meter.beats)
    SubElement(time, "beat-type").text = str(meter.unit)
    if first:
        clef = SubElement(said, "clef")
        SubElement(clef, "sign").text = "percussion"


def _marks(
    measure: Element, score: Score, begin: Fraction, end: Fraction, meter: Meter, divisions: int, *, first: bool
) -> None:
    quarter = quarters_of(meter)
    if first:
        tempo = SubElement(measure, "direction", placement="above")
        mark = SubElement(SubElement(tempo, "direction-type"), "metronome")
        SubElement(mark, "beat-unit").text = TYPES.get(quarter) or TYPES[quarter / Fraction(3, 2)]
        if quarter not in TYPES:
            SubElement(mark, "beat-unit-dot")
        SubElement(mark, "per-minute").text = f"{score.tempo:g}"
        sound = SubElement(tempo, "sound", tempo=f"{score.tempo * float(quarter):g}")
        feel = score.counting.feel
        if not feel.straight:
            swing = SubElement(sound, "swing")
            SubElement(swing, "first").text = str(feel.ratio.numerator)
            SubElement(swing, "second").text = str(feel.ratio.denominator)
            SubElement(swing, "swing-type").text = "eighth"
    for place, name in score.sections:
        if begin <= place < end:
            where = SubElement(measure, "direction", placement="above")
            SubElement(SubElement(where, "direction-type"), "rehearsal").text = _clean(name)
            _offset(where, (place - begin) * quarter * divisions)
    for sound_ in score.sounds:
        if sound_.silent and begin <= sound_.place < end:
            where = SubElement(measure, "direction", placement="above")
            SubElement(SubElement(where, "direction-type"), "words").text = _silent(sound_)
            _offset(where, (sound_.place - begin) * quarter * divisions)


def _offset(where: Element, divisions: Fraction) -> None:
    if divisions:
        SubElement(where, "offset").text = str(round(divisions))


def _silent(sound: Sound) -> str:
    foot = f" ({sound.foot})" if sound.foot else ""
    return _clean(f"{kind_said(sound.kind)}{foot}")


def _note(measure: Element, score: Score, one: Note, voice: str, number: int, divisions: int) -> None:
    note = SubElement(measure, "note")
    sound = score.sounds[one.sound] if one.sound >= 0 else None
    if sound is None:
        SubElement(note, "rest", {"measure": "yes"} if one.whole_bar else {})
    else:
        step, octave = PLACES[voice]
        where = SubElement(note, "unpitched")
        SubElement(where, "display-step").text = step
        SubElement(where, "display-octave").text = str(octave)
    SubElement(note, "duration").text = str(round(one.sounds_q * divisions))
    SubElement(note, "voice").text = str(number)
    if not one.whole_bar:
        plain = one.written_q in TYPES
        SubElement(note, "type").text = TYPES[one.written_q if plain else one.written_q / Fraction(3, 2)]
        if not plain:
            SubElement(note, "dot")
    if one.actual != 1:
        change = SubElement(note, "time-modification")
        SubElement(change, "actual-notes").text = str(one.actual)
        SubElement(change, "normal-notes").text = str(one.normal)
    if sound is None:
        _tuplet(note, one)
        return
    SubElement(note, "stem").text = "down" if voice == "right" else "up"
    SubElement(note, "notehead").text = HEADS.get(sound.kind) or HEADS.get(sound.strikes, "normal")
    notations = _tuplet(note, one)
    if sound.level > 0:
        notations = notations if notations is not None else SubElement(note, "notations")
        SubElement(SubElement(notations, "articulations"), "accent")
    if voice != "right" or sound.foot != "both":
        word = score.word_at(one.sound)
        for line, text in ((1, word), (2, sound.say)):
            if text:
                lyric = SubElement(note, "lyric", number=str(line))
                SubElement(lyric, "syllabic").text = "single"
                SubElement(lyric, "text").text = _clean(text)


def _tuplet(note: Element, one: Note) -> Element | None:
    if not (one.begins or one.ends):
        return None
    notations = SubElement(note, "notations")
    for kind, there in (("start", one.begins), ("stop", one.ends)):
        if there:
            SubElement(notations, "tuplet", type=kind, bracket="yes")
    return notations
