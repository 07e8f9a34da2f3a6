"""The simulated student: dances a part with chosen faults, as a microphone in a room would hear it."""

from dataclasses import dataclass, field

import numpy as np

from firn.core.ear.targets import targets_of
from firn.core.piece.piece import Part
from firn.core.sound.voices import RATE, FloatArray, voice, voice_name
from firn.core.task import UNWATCHED, Task


@dataclass(frozen=True)
class Faults:
    """What the student gets wrong.

    `late_ms` and `missing` by target (a heard moment of one pass, from 0), in every pass; `drop_hold`: the first
    hold is left out; `jitter_ms` is the spread of every sound, `tempo` counts a minute as danced (None: as
    asked); `quiet_s` before the first sound.
    """

    late_ms: dict[int, float] = field(default_factory=dict)
    missing: frozenset[int] = frozenset()
    drop_hold: bool = False
    jitter_ms: float = 4.0
    tempo: float | None = None
    quiet_s: float = 0.8
    uneven_db: float = 1.0


@dataclass(frozen=True)
class Room:
    """Where the take is made: reverberation time, its level re the direct sound, and the noise re full scale."""

    rt60_s: float = 0.35
    wet_db: float = -14.0
    noise_db: float = -58.0


@dataclass(frozen=True)
class Danced:
    """A take: mono audio (n,) float32 at `RATE`, and the true time of each sound that was danced, in seconds."""

    audio: FloatArray
    times_s: tuple[float, ...]


def dance(
    part: Part,
    tempo: float,
    faults: Faults,
    rng: np.random.Generator,
    *,
    passes: int = 1,
    room: Room = Room(),
    task: Task = UNWATCHED,
) -> Danced:
    """Dance a part; the same generator gives the same take."""
    danced_tempo = faults.tempo or tempo
    one = targets_of(part.sounds, danced_tempo, counts=part.counts)
    targets = targets_of(part.sounds, danced_tempo, counts=part.counts, passes=passes)
    hold = next((s for s in part.sounds if s.kind == "hold"), None) if faults.drop_hold else None
    lost = float(hold.length) * 60 / danced_tempo if hold else 0.0
    number = {t.sounds: i for i, t in enumerate(one)}
    times: list[float] = []
    hits: list[tuple[float, FloatArray, float]] = []
    for target in targets:
        index = number.get(target.sounds, -1)
        shift = lost * target.time
        if hold is not None and part.sounds[target.sounds[0]].place > hold.place:
            shift += lost
        jitter = rng.normal(0, faults.jitter_ms) if faults.jitter_ms else 0.0
        gain_db = rng.normal(0, faults.uneven_db)
        if index in faults.missing:
            continue
        at = faults.quiet_s + target.seconds - shift + (jitter + faults.late_ms.get(index, 0.0)) / 1000
        times.append(at)
        for sound in (part.sounds[i] for i in target.sounds):
            body = voice(voice_name(sound.kind, sound.strikes), weighted=sound.foot == sound.weight)
            hits.append((at, body, float(10 ** ((gain_db + 5 * sound.level) / 20))))
    return Danced(_recorded(hits, rng, room, task), tuple(times))


def _recorded(
    hits: list[tuple[float, FloatArray, float]], rng: np.random.Generator, room: Room, task: Task
) -> FloatArray:
    length = round((max((at for at, _, _ in hits), default=0.0) + 1.2) * RATE)
    dry = np.zeros(length)
    for at, body, gain in hits:
        first = max(0, round(at * RATE))
        piece = body[: length - first]
        dry[first : first + len(piece)] += piece * gain
    task.step(0.3)
    wet = dry + _tail(dry, rng, room)
    task.step(0.8)
    noise = _hum(length, rng)
    wet += noise * 10 ** (room.noise_db / 20)
    return np.asarray(np.clip(wet, -1, 1), dtype=np.float32)


def _tail(dry: np.ndarray, rng: np.random.Generator, room: Room) -> np.ndarray:
    from scipy.signal import oaconvolve

    length = max(16, round(room.rt60_s * RATE))
    tail = rng.standard_normal(length) * 10 ** (-3 * np.arange(length) / length)
    tail[: RATE // 250] = 0
    tail *= 10 ** (room.wet_db / 20) / np.sqrt(np.sum(tail**2))
    return np.asarray(oaconvolve(dry, tail)[: len(dry)])


def _hum(length: int, rng: np.random.Generator) -> np.ndarray:
    """A room's own noise, more of it low, standard deviation about 1."""
    from scipy.signal import lfilter

    white = rng.standard_normal(length + RATE // 10)
    low = np.asarray(lfilter([0.08], [1, -0.96], white))[RATE // 10 :]
    return low / float(np.std(low)) + 0.5 * white[RATE // 10 :]
