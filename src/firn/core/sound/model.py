"""The model: sounds in exact time mixed to stereo, with a count-in, beats and spoken counts."""

from collections.abc import Iterator, Sequence
from fractions import Fraction

import numpy as np
from msgspec import Struct

from firn.core.meter.tempo import TempoPath
from firn.core.piece.sound import Sound
from firn.core.sound.instruments import played
from firn.core.sound.scat import sung
from firn.core.sound.spoken import spoken
from firn.core.sound.voices import LEVEL_DB, RATE, FloatArray, voice, voice_name
from firn.core.task import UNWATCHED, Task
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.music import heard_of
from firn.core.timeline.timeline import Event, Section, Timeline

SIDE = 0.45
"""How far a foot leans to its side: 0 the middle, 1 all the way."""

TAIL = round(0.4 * RATE)
"""Frames in which the last sound dies away."""
LOUDEST = 0.97

OWN_GAIN = 0.7
"""Music of one's own under the counts, of what is as loud as it gets."""

FADE_IN, FADE_OUT = round(0.01 * RATE), round(0.15 * RATE)
BLOCK = 1 << 20

VOICED = {"clap": "ta", "snap": "tik", "pat": "pa", "drum": "dum"}
"""What is said for a sound of the hands that is voiced, not played."""


class Rendered(Struct, frozen=True):
    """Stereo audio of a section, shape (n, 2), float32 at `RATE`.

    `origin`: the position at sample 0. `pickup`: the sample of the first sound, `start` the one on which the
    stretch begins, `end` the one on which it and its rest end, before the last sound has died away.
    """

    audio: FloatArray
    origin: Fraction
    pickup: int
    start: int
    end: int
    tempo: TempoPath

    def sample(self, position: Fraction) -> int:
        """The sample on which a position sounds."""
        return _sample(self.tempo.seconds(self.origin, position))

    def position(self, frame: int) -> Fraction:
        """The position that sounds on a sample."""
        return self.tempo.place(self.origin, Fraction(frame, RATE))


class _Hit(Struct, frozen=True):
    sample: int
    sound: FloatArray
    left: float
    right: float


def _sample(seconds: Fraction) -> int:
    """The nearest sample to a time: exact, so that two renders are the same to the bit."""
    return round(seconds * RATE)


def _pan(lean: float, gain: float) -> tuple[float, float]:
    """Left and right gains of constant power, lean -1 (left) to 1."""
    angle = (lean + 1) * np.pi / 4
    return float(np.cos(angle) * gain), float(np.sin(angle) * gain)


def _foot_lean(foot: str, swapped: bool) -> float:
    lean = {"left": -SIDE, "right": SIDE}.get(foot, 0.0)
    return -lean if swapped else lean


class Strike(Struct, frozen=True):
    """How a sound is struck: a voice, with weight or without, and how loud (1 as usual)."""

    voice: str
    weighted: bool
    gain: float


def strike_of(sound: Sound) -> Strike:
    """How a sound that is not voiced is struck."""
    gain = float(10 ** (sound.level * LEVEL_DB / 20))
    return Strike(voice_name(sound.kind, sound.strikes), sound.foot == sound.weight != "", gain)


def voiced_as(sound: Sound) -> str:
    """The syllable that a voiced sound is said as."""
    return sound.syllable or VOICED.get(sound.kind, "da")


def _struck(sound: Sound, sample: int, mixing: Mixing) -> _Hit:
    if sound.by_voice:
        return _sung(voiced_as(sound), sample)
    strike = strike_of(sound)
    body = voice(strike.voice, weighted=strike.weighted)
    left, right = _pan(_foot_lean(sound.foot, mixing.swapped), strike.gain)
    return _Hit(sample, body, left, right)


def _on_its_vowel(sound: FloatArray, vowel: int, sample: int, gain: float) -> _Hit:
    """A word with its vowel on a sample; one whose vowel lies before the audio begins is cut, not moved."""
    at = sample - vowel
    return _Hit(max(0, at), sound[max(0, -at) :], gain, gain)


def _sung(text: str, sample: int) -> _Hit:
    return _on_its_vowel(*sung(text), sample, 0.5)


def _hit(event: Event, section: Section, sample: int) -> _Hit | None:
    """What is heard of an event; None for a word that there is no recording of."""
    if event.kind == "sound":
        return _struck(section.sounds[event.sound], sample, section.mixing)
    if event.kind == "count":
        word = spoken(event.text)
        return _on_its_vowel(*word, sample, 0.9) if word is not None else None
    if event.kind == "syllable":
        return _sung(event.text, sample)
    if event.note is not None:
        return _Hit(sample, played(event.note.instrument, event.note.keys), 0.7, 0.7)
    body = voice("pulse" if event.kind == "pulse" else "strong beat" if event.strong else "beat")
    return _Hit(sample, body, 0.7, 0.7)


def _hits(timeline: Timeline) -> list[_Hit]:
    made = (_hit(event, timeline.sections[number], _sample(event.at_s)) for number, event in timeline.events())
    own = (_own(section, start) for section, start in zip(timeline.sections, timeline.starts_s, strict=False))
    return sorted((hit for hit in (*made, *own) if hit is not None), key=lambda h: h.sample)


def _own(section: Section, start: Fraction) -> _Hit | None:
    """The music of one's own that a section is danced to, faded in and out; None where it has none."""
    played = heard_of(section) if section.mixing.own is not None else None
    if played is None or section.mixing.own is None:
        return None
    begin_s, end_s, speed, at = played
    sound = section.mixing.own.samples(begin_s, end_s, speed)[:, 0].copy()
    for ramp, part in ((FADE_IN, slice(None, FADE_IN)), (FADE_OUT, slice(-1, -FADE_OUT - 1, -1))):
        edge = sound[part]
        edge *= np.linspace(0, 1, ramp, dtype=np.float32)[: len(edge)]
    return _Hit(_sample(start + at), sound, OWN_GAIN, OWN_GAIN)


def _blocks(hits: Sequence[_Hit], length: int, task: Task) -> Iterator[FloatArray]:
    """All hits added up, a block at a time: shape (n, 2) each, `length` frames in all."""
    sounding: list[_Hit] = []
    following = 0
    for first in range(0, length, BLOCK):
        task.step(first / length)
        end = min(length, first + BLOCK)
        audio = np.zeros((end - first, 2), dtype=np.float32)
        while following < len(hits) and hits[following].sample < end:
            sounding.append(hits[following])
            following += 1
        for hit in sounding:
            start, until = max(first, hit.sample), min(end, hit.sample + len(hit.sound))
            piece = hit.sound[start - hit.sample : until - hit.sample]
            audio[start - first : until - first, 0] += piece * hit.left
            audio[start - first : until - first, 1] += piece * hit.right
        sounding = [hit for hit in sounding if hit.sample + len(hit.sound) > end]
        yield audio


def _gain(peak: float) -> np.float32:
    return np.float32(LOUDEST / peak if peak > LOUDEST else 1.0)


def render(section: Section, task: Task = UNWATCHED) -> Rendered:
    """The model of a section, its count-in and rest included, and what rings on after it.

    Two renders of the same section are the same to the bit.
    """
    finish = _sample(section.length_s)
    hits = _hits(Timeline((section,)))
    audio = np.concatenate([*_blocks(hits, finish + TAIL, task)])
    audio *= _gain(float(np.abs(audio).max()))
    pickup, begin = (_sample(section.seconds_at(p)) for p in (section.begins, section.first))
    return Rendered(audio, section.origin, pickup, begin, finish, section.tempo)


def render_blocks(timeline: Timeline, task: Task = UNWATCHED) -> Iterator[FloatArray]:
    """The model of a whole timeline a block at a time, shape (n, 2) each, however long it is.

    It is gone through twice, so that its loudest sample is known before the first block is given.
    """
    hits, length = _hits(timeline), _sample(timeline.length_s) + TAIL
    gain = _gain(max(float(np.abs(block).max()) for block in _blocks(hits, length, task.within(0, 0.5))))
    for block in _blocks(hits, length, task.within(0.5, 1)):
        yield block * gain


def looped(rendered: Rendered) -> FloatArray:
    """One turn of a loop, shape (n, 2), from `start` to `end`.

    What rings on is folded into its beginning, and a pick-up, which belongs to the next turn, into its end.
    """
    turn = rendered.audio[rendered.start : rendered.end].copy()
    tail = rendered.audio[rendered.end :][: len(turn)]
    turn[: len(tail)] += tail
    pickup = rendered.audio[rendered.pickup : rendered.start][-len(turn) :]
    if len(pickup):
        turn[-len(pickup) :] += pickup
    return turn
