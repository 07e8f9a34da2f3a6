"""A score as a MIDI file: a track for each foot, hands, counts, click and backing; kinds as notes, weight as text.

Every sound has a text event beside its note ("kind=step foot=left weight=left word=step place=5/2"), so that nothing
is lost that notes cannot say: what makes no sound stands there alone. General MIDI level 1's percussion key map says
which note sounds like what.
"""

import io
from bisect import bisect_right
from collections.abc import Iterator
from fractions import Fraction
from math import lcm

from firn.core.piece.sound import Sound
from firn.core.score.score import Score, Written, finest, quarters_of, voices_of
from firn.core.timeline.backing import Instrument, backing

MOST_PULSES, USUAL_PULSES = 32_767, 960
"""Pulses a quarter note: a MIDI file takes no more; and as many where they do."""

UNITS, MOST_BEATS = (1, 2, 4, 8, 16, 32), 256
"""What a bar may be said in, and less than how many of them."""

CHANNEL = 9
"""Percussion, counted from 0."""

NOTES = {
    "ball": 37, "heel": 35, "tip": 75, "whole": 36, "sole": 73, "brush": 70, "spank": 69, "scuff": 82, "slide": 73,
    "clap": 39, "snap": 85, "pat": 60, "drum": 64, "click": 67, "none": 56,
}  # fmt: skip
"""What strikes, or how, as a key of General MIDI's percussion."""

STRONG, WEAK = 76, 77

STRINGS: dict[Instrument, tuple[int, int]] = {"bass": (0, 32), "chord": (1, 24)}
"""The strings of a backing: their channels, and instruments of General MIDI, all counted from 0."""
PLUCKED = Fraction(1, 4)
"""How many counts they are held."""
PLAIN, LIGHT, STEP = 96, 76, 14
"""How hard with weight and without, and how much harder a sound is that is leaned on."""

SHORT = Fraction(1, 8)
"""How long a strike's note lasts, in quarters; half of what is left where the next comes sooner."""


def note_of(sound: Sound) -> int:
    """The key of a sound."""
    return NOTES.get(sound.kind) or NOTES.get(sound.strikes, NOTES["none"])


def text_of(score: Score, index: int) -> str:
    """A sound in words that can be read back."""
    sound = score.sounds[index]
    said = {
        "kind": sound.kind, "foot": sound.foot, "hand": sound.hand, "weight": sound.weight,
        "level": str(sound.level) if sound.level else "", "turn": str(sound.turn) if sound.turn else "",
        "length": str(sound.length) if sound.length else "", "place": str(sound.place),
        "word": score.word_at(index).replace(" ", "_"),
    }  # fmt: skip
    return " ".join(f"{key}={value}" for key, value in said.items() if value)


def write_midi(score: Score) -> Written:
    """A score as MIDI, format 1; positions are exact wherever pulses can be found that hold them all."""
    import mido

    quarter = {meter: quarters_of(meter) for _, _, meter in score.bars()}
    positions = [s.position for s in score.sounds]
    needed = lcm(finest(positions), *(q.denominator for q in quarter.values()))
    pulses = needed if needed > MOST_PULSES else needed * max(1, USUAL_PULSES // needed)
    told: tuple[str, ...] = ()
    if pulses > MOST_PULSES:
        pulses = USUAL_PULSES
        told = ("Some sounds lie where MIDI has no pulse: they are moved by less than a thousandth of a count.",)
    file = mido.MidiFile(type=1, ticks_per_beat=pulses)
    clock = _Clock(score, pulses)
    file.tracks.append(_head(score, clock))
    for voice, name in (("left", "Left foot"), ("right", "Right foot"), ("hands", "Hands")):
        mine = [
            i for i, s in enumerate(score.sounds) if voice in voices_of(s) or (voice == "hands" and not voices_of(s))
        ]
        if mine or voice != "hands":
            file.tracks.append(_voice(score, clock, voice, name, mine))
    file.tracks.append(_counts(score, clock))
    file.tracks.append(_click(score, clock))
    file.tracks.append(_backing(score, clock))
    out = io.BytesIO()
    file.save(file=out)
    return Written(out.getvalue(), told)


class _Clock:
    """Pulses from the beginning of the file at places in counts."""

    def __init__(self, score: Score, pulses: int) -> None:
        self._bars = list(score.bars())
        self._begins = [begin for begin, _, _ in self._bars]
        self._pulses = pulses
        self.starts = [Fraction(0)]
        for begin, end, meter in self._bars:
            self.starts.append(self.starts[-1] + (end - begin) * quarters_of(meter))

    def at(self, place: Fraction) -> int:
        """The nearest pulse to a place."""
        if not self._bars:
            return 0
        bar = max(0, bisect_right(self._begins, place) - 1)
        begin, _, meter = self._bars[bar]
        return max(0, round((self.starts[bar] + (place - begin) * quarters_of(meter)) * self._pulses))


def _head(score: Score, clock: _Clock) -> "object":
    import mido

    events: list[tuple[int, int, object]] = [(0, 0, mido.MetaMessage("track_name", name=_plain(score.title)))]
    if not score.counting.feel.straight:
        events.append((0, 0, mido.MetaMessage("text", text=f"feel={score.counting.feel}")))
    last = None
    for begin, end, meter in score.bars():
        at = clock.at(begin)
        # A bar that is cut short is said as what it is, in the meter's own unit where that does.
        counts = end - begin
        shown = (meter.beats, meter.unit)
        if counts != meter.counts:
            short = counts * quarters_of(meter) / 4
            unit = max(short.denominator, meter.unit)
            shown = (int(short * unit), unit) if unit in UNITS and short * unit < MOST_BEATS else shown
        if shown != last:
            tempo = round(60_000_000 / (score.tempo * float(quarters_of(meter))))
            events.append((at, 1, mido.MetaMessage("time_signature", numerator=shown[0], denominator=shown[1])))
            events.append((at, 2, mido.MetaMessage("set_tempo", tempo=tempo)))
            last = shown
    for place, name in score.sections:
        events.append((clock.at(place), 3, mido.MetaMessage("marker", text=_plain(name))))
    return _track(events)


def _voice(score: Score, clock: _Clock, voice: str, name: str, mine: list[int]) -> "object":
    import mido

    events: list[tuple[int, int, object]] = [(0, 0, mido.MetaMessage("track_name", name=name))]
    heard = [i for i in mine if score.sounds[i].heard]
    begins = [clock.at(score.sounds[i].position) for i in heard]
    after = dict(zip(heard, begins[1:], strict=False))
    for index in mine:
        sound = score.sounds[index]
        at = clock.at(sound.position)
        # What both feet do is told once.
        if voice == "left" or sound.foot != "both":
            events.append((at, 1, mido.MetaMessage("text", text=_plain(text_of(score, index)))))
        if index in heard:
            hard = (PLAIN if sound.foot == sound.weight != "" else LIGHT) + STEP * sound.level
            long = round(SHORT * clock._pulses)
            until = at + long if index not in after or after[index] <= at else min(at + long, after[index])
            note = {"channel": CHANNEL, "note": note_of(sound)}
            events.append((at, 2, mido.Message("note_on", velocity=max(1, min(127, hard)), **note)))
            events.append((max(until, at + 1), 0, mido.Message("note_off", velocity=0, **note)))
    return _track(events)


def _counts(score: Score, clock: _Clock) -> "object":
    import mido

    events: list[tuple[int, int, object]] = [(0, 0, mido.MetaMessage("track_name", name="Counts"))]
    for count in _whole(score):
        said = score.counting.counted(count)
        events.append((clock.at(count), 1, mido.MetaMessage("lyrics", text=_plain(said))))
    return _track(events)


def _click(score: Score, clock: _Clock) -> "object":
    import mido

    events: list[tuple[int, int, object]] = [(0, 0, mido.MetaMessage("track_name", name="Click"))]
    for count in _whole(score):
        note = {"channel": CHANNEL, "note": STRONG if score.counting.strong(count) else WEAK}
        at = clock.at(count)
        events.append((at, 2, mido.Message("note_on", velocity=70, **note)))
        events.append((at + max(1, clock._pulses // 16), 0, mido.Message("note_off", velocity=0, **note)))
    return _track(events)


def _backing(score: Score, clock: _Clock) -> "object":
    """The strings of the backing; its shaker would stand among the feet's percussion."""
    import mido

    events: list[tuple[int, int, object]] = [(0, 0, mido.MetaMessage("track_name", name="Backing"))]
    for instrument, (channel, program) in STRINGS.items():
        events.append((0, 0, mido.Message("program_change", channel=channel, program=program)))
        for note in backing(score.counting, score.first, score.end):
            if note.instrument == instrument:
                at, until = clock.at(note.position), clock.at(note.position + PLUCKED)
                for key in note.keys:
                    events.append((at, 2, mido.Message("note_on", channel=channel, note=key, velocity=60)))
                    events.append((max(at + 1, until), 0, mido.Message("note_off", channel=channel, note=key)))
    return _track(events)


def _whole(score: Score) -> Iterator[Fraction]:
    return (Fraction(c) for c in range(int(-(-score.first // 1)), int(-(-score.end // 1))))


def _track(events: list[tuple[int, int, object]]) -> "object":
    import mido

    track = mido.MidiTrack()
    now = 0
    for at, _, message in sorted(events, key=lambda e: e[:2]):
        track.append(message.copy(time=at - now))  # type: ignore[attr-defined]
        now = at
    track.append(mido.MetaMessage("end_of_track", time=0))
    return track


def _plain(text: str) -> str:
    """Text as MIDI's own letters (Latin-1) can say it."""
    return text.encode("latin-1", "replace").decode("latin-1")
