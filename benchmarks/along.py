"""A drill that is listened to while it is danced: two claps from across the room, and each time judged alone.

Claps, feet and rooms are a second synthesiser's (tests/shoes.py), a third of the claps a General MIDI SoundFont's
(TimGM6mb, as pretty_midi ships it). On seeds that were never tuned on.
"""

from collections import Counter
from collections.abc import Callable
from fractions import Fraction
from functools import lru_cache
from pathlib import Path

import numpy as np
from scipy.signal import resample_poly
from tests import dancers, shoes, takes
from tools.ear.soundfont import hits_of

from benchmarks.report import figure, heading
from benchmarks.sure import STRIKES
from benchmarks.which import parts
from firn.core.ear.claps import two_claps
from firn.core.ear.timbre import class_of
from firn.core.meter.count_in import CountIn
from firn.core.meter.counting import Counting
from firn.core.piece.piece import Part
from firn.core.sound.model import render
from firn.core.sound.voices import RATE as MADE_HZ
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.timeline import Section
from firn.session.along import Due, due_in, heard_how

MANY, SEED = 60, 97_000
RATE = shoes.RATE
SECONDS = 8.0

Made = tuple[np.ndarray, float]
"""A recording, and when the second clap falls in it, in seconds."""


@lru_cache(maxsize=1)
def _clapped() -> tuple[np.ndarray, ...]:
    import pretty_midi

    file = Path(pretty_midi.__file__).with_name("TimGM6mb.sf2")
    found = []
    for name, (sound, rate) in hits_of(file).items():
        if name in ("Claps 808ish", "Noise Slap"):
            sound = resample_poly(sound, RATE, rate)
            found.append(sound / np.abs(sound).max())
    return tuple(found)


def _pair(rng: np.random.Generator, many: int) -> Made:
    """Two claps somewhere in a recording, the second up to 4 dB softer or louder."""
    out = np.zeros(many)
    first, gap = rng.uniform(2.0, 4.5), rng.uniform(0.18, 0.5)
    own = rng.random() < 1 / 3
    kind = int(rng.integers(len(_clapped())))
    for time, gain_db in ((first, 0.0), (first + gap, rng.uniform(-4, 4))):
        clap = _clapped()[kind] if own else shoes.strike("hand", shoes.shoe(rng), shoes.floor(rng), rng)[0]
        at = round(time * RATE)
        clap = clap[: many - at]
        out[at : at + len(clap)] += 0.25 * 10 ** (gain_db / 20) * clap
    return out, first + gap


def _quiet(rng: np.random.Generator) -> Made:
    many = round(SECONDS * RATE)
    pair, at = _pair(rng, many)
    return shoes.hiss(shoes.in_room(pair, int(rng.integers(20)), 0.3), rng, 10, 30), at


def _hall(rng: np.random.Generator) -> Made:
    many = round(SECONDS * RATE)
    pair, at = _pair(rng, many)
    return shoes.hiss(shoes.in_room(pair, 100 + int(rng.integers(12)), 0.9), rng, 10, 30), at


def _beats(rng: np.random.Generator, seconds: float) -> np.ndarray:
    """Firn's own beats and counts of a rest and a count-in, peak 1."""
    counting = Counting()
    mixing = Mixing(tempo=float(rng.uniform(80, 140)), count_in=CountIn(), steps=False, led_in=True, rest=4)
    made = render(Section((), counting, Fraction(0), Fraction(4), mixing)).audio.mean(axis=1)
    one = resample_poly(made, RATE, MADE_HZ)
    one = np.tile(one, int(seconds * RATE / len(one)) + 1)[: round(seconds * RATE)]
    return np.asarray(one / np.abs(one).max())


def _over_beats(rng: np.random.Generator) -> Made:
    many = round(SECONDS * RATE)
    pair, at = _pair(rng, many)
    loud = np.abs(pair).max() * 10 ** (-rng.uniform(12, 24) / 20)
    return shoes.hiss(shoes.in_room(pair + loud * _beats(rng, SECONDS), int(rng.integers(20)), 0.3), rng), at


def _over_talk(rng: np.random.Generator) -> Made:
    many = round(SECONDS * RATE)
    pair, at = _pair(rng, many)
    loud = np.abs(pair).max() * 10 ** (-rng.uniform(12, 24) / 20)
    return shoes.hiss(shoes.in_room(pair, int(rng.integers(20)), 0.3) + loud * shoes.talk(SECONDS, rng), rng), at


def _after_dancing(rng: np.random.Generator) -> Made:
    """Feet, a breath, and then two claps."""
    times = shoes.rhythm(rng, 12)
    placed = [(float(t), p) for t, p in zip(times, shoes.parts(rng, len(times)), strict=True) if t < 6]
    audio, _ = shoes.laid(placed, shoes.shoe(rng), shoes.floor(rng), rng, seconds=placed[-1][0] + SECONDS)
    pair, at = _pair(rng, round(SECONDS * RATE))
    begins = round((placed[-1][0] - 0.8) * RATE)
    audio[begins : begins + len(pair)] += pair[: len(audio) - begins]
    return shoes.hiss(shoes.in_room(audio, int(rng.integers(20)), 0.3), rng), at + begins / RATE


def _dancing(rng: np.random.Generator) -> np.ndarray:
    """A minute of feet, holds in it, that stop and go."""
    placed: list[tuple[float, str]] = []
    at = 0.5
    while at < 55:
        times = shoes.rhythm(rng, int(rng.integers(6, 30)), least_s=0.1)
        times = at + times - times[0]
        placed += zip(map(float, times), shoes.parts(rng, len(times)), strict=True)
        at = times[-1] + rng.uniform(0.5, 3.0)
    audio, _ = shoes.laid(placed, shoes.shoe(rng), shoes.floor(rng), rng, seconds=placed[-1][0] + 2)
    return shoes.hiss(shoes.in_room(audio, int(rng.integers(20)), round(rng.uniform(0.2, 0.7), 1)), rng)


def _fidgeting(rng: np.random.Generator) -> np.ndarray:
    """A minute of rests: a phrase, feet that put themselves right 5 to 20 dB under it, one clap or three."""
    placed: list[tuple[float, str]] = []
    at = 0.5
    for _ in range(6):
        times = shoes.rhythm(rng, 10, least_s=0.1)
        placed += zip(map(float, at + times - times[0]), shoes.parts(rng, 10), strict=True)
        at = placed[-1][0] + rng.uniform(5, 7)
    audio, _ = shoes.laid(placed, shoes.shoe(rng), shoes.floor(rng), rng, seconds=max(60.0, at + 1))
    for time, _ in placed[9::10]:
        step = time + rng.uniform(0.9, 1.6)
        for _ in range(int(rng.integers(1, 4))):
            sound = shoes.strike(str(rng.choice(["flat", "heel", "slide"])), shoes.shoe(rng), shoes.floor(rng), rng)[
                0
            ]
            first = round(step * RATE)
            audio[first : first + len(sound)] += 0.4 * 10 ** (-rng.uniform(5, 20) / 20) * sound[: len(audio) - first]
            step += rng.uniform(0.2, 0.6)
        claps, step = (0, 1, 3)[int(rng.integers(3))], time + 3.2
        for _ in range(claps):
            sound = shoes.strike("hand", shoes.shoe(rng), shoes.floor(rng), rng)[0]
            first = round(step * RATE)
            audio[first : first + len(sound)] += 0.25 * sound[: len(audio) - first]
            step += rng.uniform(0.2, 0.45)
    return shoes.hiss(shoes.in_room(audio, int(rng.integers(20)), 0.3), rng)


def _talking(rng: np.random.Generator) -> np.ndarray:
    return shoes.talk(60, rng) * 0.4 + rng.standard_normal(60 * RATE) * 3e-4


WITH: dict[str, Callable[[np.random.Generator], Made]] = {
    "in a quiet room": _quiet,
    "in a hall of 0.9 s": _hall,
    "over Firn's own beats and counts, 12 to 24 dB under": _over_beats,
    "over talk, 12 to 24 dB under": _over_talk,
    "after dancing": _after_dancing,
}
WITHOUT: dict[str, Callable[[np.random.Generator], np.ndarray]] = {
    "dancing": _dancing,
    "feet put right, one clap or three": _fidgeting,
    "talk": _talking,
}

FAULTS = ("clean", "late", "missing", "half", "other")
LATE_S = (0.055, 0.085)


LED = 4
"""Counts of the count-in."""


def _time(
    part: Part, other: Part, tempo: float, fault: str, rng: np.random.Generator, *, headphones: bool
) -> tuple[np.ndarray, Due]:
    """One time through a part, its count-in first, as it is recorded, and when things are due by Firn's clock: with
    one sound late or left out, half of all left out, or another part. Firn's counts and beats come back from a
    loudspeaker, 3 dB over the feet to 20 under, or not at all."""
    danced = other if fault == "other" else part
    pattern = dancers.pattern_of(danced)
    kinds = {s.position: STRIKES[class_of(s.kind)] for s in reversed(danced.sounds) if s.heard}
    beat, late = 60 / tempo, float(rng.uniform(0.03, 0.16))
    begins = 0.3 + LED * beat
    placed = [
        (float(p - danced.first_count) * beat + begins + late + rng.normal(0, 0.008), kinds[p])
        for p in pattern.places
    ]
    inner = int(rng.integers(1, len(placed) - 1))
    if fault == "missing":
        del placed[inner]
    elif fault == "late":
        placed[inner] = (placed[inner][0] + rng.uniform(*LATE_S), placed[inner][1])
    elif fault == "half":
        gone = set(rng.choice(len(placed), (len(placed) + 1) // 2, replace=False))
        placed = [one for n, one in enumerate(placed) if n not in gone]
    placed.sort()
    seconds = begins + float(danced.counts) * beat + 1.2
    audio, _ = shoes.laid(placed, shoes.shoe(rng), shoes.floor(rng), rng, soft_db=8, seconds=seconds)
    mixing = Mixing(tempo=tempo, count_in=CountIn(), steps=False, counts=False, led_in=True)
    section = Section((), Counting(), Fraction(0), Fraction(danced.counts), mixing)
    due = due_in(section, 0.3)
    due = due._replace(played=resample_poly(due.played, RATE, MADE_HZ))
    if not headphones:
        played = 0.4 * 10 ** (-rng.uniform(-3, 20) / 20) * due.played / np.abs(due.played).max()
        first = round(late * RATE)
        piece = played[: len(audio) - first]
        audio[first : first + len(piece)] += piece
    audio = shoes.hiss(shoes.in_room(audio, int(rng.integers(20)), 0.3), rng)
    return np.asarray(np.clip(audio, -1, 1)), due


def along() -> None:
    """Claps told and made up; each kind of time, and what is surely said of it."""
    heading(f"A drill listened to ({MANY} of each; seeds from {SEED})")
    if takes.hits_folder() is None or not shoes.voices():
        print("  the recorded hits or voices could not be had: nothing measured")
        return
    for number, (name, made) in enumerate(WITH.items()):
        told = extra = 0
        for seed in range(MANY):
            audio, at = made(np.random.default_rng([SEED, number, seed]))
            found = two_claps(audio, RATE)
            hit = any(abs(one - at) < 0.03 for one in found)
            told += hit
            extra += len(found) - hit
        figure(f"two claps {name}", f"told {100 * told / MANY:.0f} of 100, made up {extra}", "95, 0")
    for number, (name, heard) in enumerate(WITHOUT.items()):
        rngs = (np.random.default_rng([SEED, 50 + number, seed]) for seed in range(MANY // 3))
        made_up = sum(len(two_claps(audio, RATE)) for audio in map(heard, rngs))
        figure(f"no two claps: {name}", f"made up {made_up} in {MANY // 3} minutes", "1")
    known = [one for one in parts() if 6 <= len(dancers.pattern_of(one[0]).places) <= 24]
    wanted = {"clean": ("clean",), "late": ("slip",), "missing": ("slip",), "half": ("lost", "slip"), "other": ()}
    for headphones in (False, True):
        for number, fault in enumerate(FAULTS):
            said: Counter[str] = Counter()
            for seed in range(MANY):
                rng = np.random.default_rng([SEED, 80 + number, seed])
                part, tempo = known[int(rng.integers(len(known)))]
                others = [
                    one for one, _ in known if dancers.pattern_of(one).places != dancers.pattern_of(part).places
                ]
                audio, due = _time(
                    part, others[int(rng.integers(len(others)))], tempo, fault, rng, headphones=headphones
                )
                said[heard_how(part, tempo, audio, RATE, due).how or "not sure"] += 1
            wrong = sum(n for how, n in said.items() if how != "not sure" and how not in wanted[fault])
            where = "over headphones" if headphones else "from a loudspeaker"
            told = ", ".join(f"{n} {how}" for how, n in said.most_common())
            figure(f"{where}, a time that is {fault}: surely wrong", f"{100 * wrong / MANY:.0f} of 100 ({told})", "2")
