"""The simulated student: dances a part with chosen faults, as a microphone in a room would hear it."""

from collections.abc import Sequence

import numpy as np
from msgspec import Struct, field

from firn.core.ear.targets import Target, targets_of
from firn.core.piece.piece import Part
from firn.core.piece.sound import Sound
from firn.core.sound.voices import RATE, FloatArray, voice, voice_name
from firn.core.task import UNWATCHED, Task


class Faults(Struct, frozen=True):
    """What the student gets wrong.

    `late_ms`, `missing`, `louder_db` by target (a heard moment of one pass, from 0), in every pass; `only` names the
    passes (from 0) in which these are wrong, None for all. `extra_after`: a sound too many halfway to the next
    target; `swapped`: a target and its next exchange their sounds. `drop_hold`: the first hold is left out.
    `jitter_ms` is the spread of every sound, `tempo` counts a minute as danced (None: as asked), `creep` by how
    many it is faster at the end; `quiet_s` before the first sound.
    """

    late_ms: dict[int, float] = field(default_factory=dict)
    missing: frozenset[int] = frozenset()
    drop_hold: bool = False
    jitter_ms: float = 4.0
    tempo: float | None = None
    quiet_s: float = 0.8
    uneven_db: float = 1.0
    louder_db: dict[int, float] = field(default_factory=dict)
    extra_after: frozenset[int] = frozenset()
    swapped: frozenset[int] = frozenset()
    creep: float = 0.0
    only: frozenset[int] | None = None


class Room(Struct, frozen=True):
    """Where the take is made: reverberation time, its level re the direct sound, and the noise re full scale."""

    rt60_s: float = 0.35
    wet_db: float = -14.0
    noise_db: float = -58.0


ROOM = Room()


class Danced(Struct, frozen=True):
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
    room: Room = ROOM,
    task: Task = UNWATCHED,
) -> Danced:
    """Dance a part; the same generator gives the same take."""
    danced_tempo = faults.tempo or tempo
    one = targets_of(part.sounds, danced_tempo, counts=part.counts)
    targets = targets_of(part.sounds, danced_tempo, counts=part.counts, passes=passes)
    number = {t.sounds: i for i, t in enumerate(one)}
    due = _due(part, targets, faults, danced_tempo)
    times: list[float] = []
    hits: list[tuple[float, FloatArray, float]] = []

    def strike(at: float, sounds: Sequence[Sound], gain_db: float) -> None:
        times.append(at)
        for sound in sounds:
            body = voice(voice_name(sound.kind, sound.strikes), weighted=sound.foot == sound.weight)
            hits.append((at, body, float(10 ** ((gain_db + 5 * sound.level) / 20))))

    for place, target in enumerate(targets):
        index = number.get(target.sounds, -1)
        wrong = faults.only is None or target.time in faults.only
        jitter = rng.normal(0, faults.jitter_ms) if faults.jitter_ms else 0.0
        gain_db = rng.normal(0, faults.uneven_db)
        if index in faults.missing and wrong:
            continue
        late = faults.late_ms.get(index, 0.0) if wrong else 0.0
        gain_db += faults.louder_db.get(index, 0.0) if wrong else 0.0
        kinds = _exchanged(targets, place, number, faults.swapped) if wrong else target.sounds
        strike(due[place] + (jitter + late) / 1000, [part.sounds[i] for i in kinds], gain_db)
        if index in faults.extra_after and wrong:
            following = due[place + 1] if place + 1 < len(due) else due[place] + 30 / danced_tempo
            strike((due[place] + following) / 2, [part.sounds[target.sounds[0]]], gain_db)
    return Danced(_recorded(hits, rng, room, task), tuple(times))


def _due(part: Part, targets: Sequence[Target], faults: Faults, tempo: float) -> list[float]:
    """When each target is danced before its own slips: a dropped hold and a creeping tempo taken in."""
    hold = next((s for s in part.sounds if s.kind == "hold"), None) if faults.drop_hold else None
    lost = float(hold.length) * 60 / tempo if hold else 0.0
    whole = max((t.seconds for t in targets), default=0.0) or 1.0
    due = []
    for target in targets:
        shift = lost * target.time
        if hold is not None and part.sounds[target.sounds[0]].place > hold.place:
            shift += lost
        at = target.seconds - shift
        # A tempo that rises evenly, so that it is `creep` faster at the end.
        at -= faults.creep / (tempo + faults.creep) * at**2 / (2 * whole)
        due.append(faults.quiet_s + at)
    return due


def _exchanged(
    targets: Sequence[Target], place: int, number: dict[tuple[int, ...], int], swapped: frozenset[int]
) -> tuple[int, ...]:
    """The sounds that are danced at a target: its neighbour's where the two are swapped."""
    index = number.get(targets[place].sounds, -1)
    if index in swapped and place + 1 < len(targets):
        return targets[place + 1].sounds
    return targets[place - 1].sounds if index - 1 in swapped and place else targets[place].sounds


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
