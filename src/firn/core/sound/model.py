"""The model: sounds in exact time mixed to stereo, with a count-in, beats and spoken counts."""

from collections.abc import Sequence
from fractions import Fraction

import numpy as np
from msgspec import Struct

from firn.core.meter.count_in import Said
from firn.core.meter.counting import Counting
from firn.core.meter.tempo import samples
from firn.core.piece.piece import Sound
from firn.core.sound.plan import Mixing
from firn.core.sound.scat import sung
from firn.core.sound.spoken import spoken
from firn.core.sound.voices import LEVEL_DB, RATE, FloatArray, voice, voice_name
from firn.core.task import UNWATCHED, Task

SIDE = 0.45
"""How far a foot leans to its side: 0 the middle, 1 all the way."""

TAIL_S = 0.4

VOICED = {"clap": "ta", "snap": "tik", "pat": "pa", "drum": "dum"}
"""What is said for a sound of the hands that is voiced, not played."""


class Rendered(Struct, frozen=True):
    """Stereo audio, shape (n, 2), float32 at `RATE`.

    `origin`: the place at sample 0. `pickup`: the sample of the first sound, `start` the one on which the
    stretch begins, `end` the one on which it and its rest end, before the last sound has died away.
    """

    audio: FloatArray
    origin: Fraction
    pickup: int
    start: int
    end: int
    tempo: float

    def sample(self, position: Fraction) -> int:
        """The sample on which a position sounds."""
        return samples(position - self.origin, self.tempo, RATE)


class _Hit(Struct, frozen=True):
    sample: int
    sound: FloatArray
    left: float
    right: float


def _pan(lean: float, gain: float) -> tuple[float, float]:
    """Left and right gains of constant power, lean -1 (left) to 1."""
    angle = (lean + 1) * np.pi / 4
    return float(np.cos(angle) * gain), float(np.sin(angle) * gain)


def _foot_lean(foot: str, swapped: bool) -> float:
    lean = {"left": -SIDE, "right": SIDE}.get(foot, 0.0)
    return -lean if swapped else lean


def _steps(sounds: Sequence[Sound], origin: Fraction, mixing: Mixing) -> list[_Hit]:
    hits = []
    for sound in sounds:
        if sound.silent:
            continue
        if sound.voiced:
            hits += _sung([(sound.position, VOICED.get(sound.kind, "da"))], origin, mixing)
            continue
        body = voice(voice_name(sound.kind, sound.strikes), weighted=sound.foot == sound.weight != "")
        gain = float(10 ** (sound.level * LEVEL_DB / 20))
        left, right = _pan(_foot_lean(sound.foot, mixing.swapped), gain)
        hits.append(_Hit(samples(sound.position - origin, mixing.tempo, RATE), body, left, right))
    return hits


def _counts(said: Sequence[Said], origin: Fraction, mixing: Mixing) -> list[_Hit]:
    """Spoken words, each with its vowel on the count."""
    hits = []
    for place, text in said:
        word = spoken(text)
        if word is None:
            continue
        sound, vowel = word
        at = samples(place - origin, mixing.tempo, RATE) - vowel
        # A word whose vowel lies before the audio begins is cut, not moved.
        hits.append(_Hit(max(0, at), sound[max(0, -at) :], 0.9, 0.9))
    return hits


def _sung(syllables: Sequence[tuple[Fraction, str]], origin: Fraction, mixing: Mixing) -> list[_Hit]:
    """Syllables, each with its vowel on its sound."""
    hits = []
    for place, text in syllables:
        sound, vowel = sung(text)
        at = samples(place - origin, mixing.tempo, RATE) - vowel
        hits.append(_Hit(max(0, at), sound[max(0, -at) :], 0.5, 0.5))
    return hits


def _beats(places: Sequence[Fraction], counting: Counting, origin: Fraction, mixing: Mixing) -> list[_Hit]:
    hits = []
    for place in places:
        sound = voice("strong beat" if counting.strong(place) else "beat")
        hits.append(_Hit(samples(place - origin, mixing.tempo, RATE), sound, 0.7, 0.7))
    return hits


def _added(hits: Sequence[_Hit], length: int, task: Task) -> FloatArray:
    """All hits added up, in blocks so that the task can be watched."""
    audio = np.zeros((length, 2), dtype=np.float32)
    for number, hit in enumerate(hits):
        if number % 256 == 0:
            task.step(number / len(hits))
        until = min(length, hit.sample + len(hit.sound))
        if hit.sample >= until:
            continue
        piece = hit.sound[: until - hit.sample]
        audio[hit.sample : until, 0] += piece * hit.left
        audio[hit.sample : until, 1] += piece * hit.right
    peak = float(np.abs(audio).max()) if length else 0.0
    if peak > 0.97:
        audio *= np.float32(0.97 / peak)
    return audio


def render(
    sounds: Sequence[Sound],
    counting: Counting,
    start: Fraction,
    end: Fraction,
    mixing: Mixing,
    task: Task = UNWATCHED,
    *,
    syllables: Sequence[tuple[Fraction, str]] = (),
    pulse: Sequence[Fraction] = (),
) -> Rendered:
    """The model of a stretch.

    `start` and `end` in counts: the first count, and the one after the last; `sounds` are those inside, a
    pick-up before `start` included; `syllables` are said, and the standing leg is heard at `pulse`, both by
    position. After the stretch come `mixing.rest` counts of rest. Two renders of the same stretch are the same to
    the bit.
    """
    first = min([s.position for s in sounds] + [start])
    led = mixing.count_in.said(first, counting)
    origin = min([first, *(place for place, _ in led)])
    inside = [Fraction(c) for c in range(int(-(-start // 1)), int(-(-end // 1)))]
    rests = [Fraction(c) for c in range(int(-(-end // 1)), int(-(-end // 1)) + mixing.rest)]
    hits = _steps(sounds, origin, mixing) if mixing.steps else []
    if mixing.led_in and not mixing.counts:
        hits += _counts(led, origin, mixing)
    if mixing.counts:
        hits += _counts([*led, *((place, counting.counted(place)) for place in inside)], origin, mixing)
    clicked = [Fraction(c) for c in range(int(-(-origin // 1)), int(-(-start // 1)))] if led else []
    if mixing.beats:
        hits += _beats([*(c for c in clicked if c < first), *inside, *rests], counting, origin, mixing)
    elif led:
        hits += _beats([place for place, _ in led], counting, origin, mixing)
    hits += _sung(syllables, origin, mixing)
    hits += [_Hit(samples(p - origin, mixing.tempo, RATE), voice("pulse"), 0.7, 0.7) for p in pulse if p >= origin]
    finish = samples(end + mixing.rest - origin, mixing.tempo, RATE)
    length = finish + round(TAIL_S * RATE)
    hits.sort(key=lambda h: h.sample)
    pickup, begin = (samples(p - origin, mixing.tempo, RATE) for p in (first, start))
    return Rendered(_added(hits, length, task), origin, pickup, begin, finish, mixing.tempo)


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
