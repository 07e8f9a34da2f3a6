"""One foot against the other, one sound too loud, a swing too flat: planted, and not."""

from fractions import Fraction

import numpy as np

from benchmarks.report import figure, heading
from benchmarks.which import parts
from firn.core.ear.onsets import Onsets
from firn.core.ear.targets import targets_of
from firn.core.ear.verdict import judge
from firn.core.ear.whole import Whole, whole
from firn.core.piece.build import build_part
from firn.core.piece.piece import Part
from firn.core.script.settings import Settings

MANY, SEED = 120, 97_000
"""Takes of each kind; of these seeds none was tuned on."""

LATE_MS, SOFT_DB, LOUD_DB, FLAT = 18.0, 10.0, 9.0, Fraction(7, 5)
SOFTER = {"brush": -9.0, "spank": -8.0, "scuff": -6.0, "heel": -3.0, "stamp": 4.0, "clap": 2.0}
"""How loud a kind of sound is against a step, in dB: common practice, no source."""


def _taken(part: Part, tempo: float, rng: np.random.Generator, planted: str) -> tuple[Whole, int]:
    """A take of four passes with 8 ms of jitter and 2 dB, as a whole, and the sound that is too loud."""
    targets = targets_of(part.sounds, tempo, counts=part.counts, passes=4)
    feet = [part.sounds[t.sounds[0]].foot for t in targets]
    own = [t.sounds[0] for t in targets if t.time == 0]
    alike = [i for i in own if sum(part.sounds[k].kind == part.sounds[i].kind for k in own) >= 4]
    loud = int(rng.choice(alike)) if alike else -1
    times, levels = [], []
    for target, foot in zip(targets, feet, strict=True):
        late = LATE_MS / 1000 if planted == "left foot" and foot == "left" else 0.0
        times.append(target.seconds + 0.8 + late + rng.normal(0, 0.008))
        sound = part.sounds[target.sounds[0]]
        level = -14 + SOFTER.get(sound.kind, 0.0) + 5 * sound.level + rng.normal(0, 2.0)
        level -= SOFT_DB if planted == "left foot" and foot == "left" else 0.0
        levels.append(level + (LOUD_DB if planted == "loud" and target.sounds[0] == loud else 0.0))
    order = np.argsort(times)
    onsets = Onsets(np.array(times)[order], np.array(levels)[order])
    return whole(part, judge(part, tempo, onsets)), loud


def _flat(part: Part, tempo: float, rng: np.random.Generator) -> Whole:
    """A part that is meant to swing, danced flatter."""
    settings = part.settings
    danced = build_part(part.script, _with_feel(settings, FLAT))
    times = [t.seconds for t in targets_of(danced.sounds, tempo, counts=danced.counts, passes=4)]
    heard = np.sort(np.array(times) + 0.8 + rng.normal(0, 0.008, len(times)))
    meant = build_part(part.script, _with_feel(settings, Fraction(2)))
    return whole(meant, judge(meant, tempo, Onsets(heard, np.full(len(heard), -14.0))))


def _with_feel(settings: Settings, ratio: Fraction) -> Settings:
    from msgspec.structs import replace

    return replace(settings, feel=f"{ratio.numerator}:{ratio.denominator}")


def feet() -> None:
    """By times and levels alone, at four passes."""
    heading(f"One foot against the other, and one sound against its like, {MANY} takes each (seeds from {SEED})")
    known = [
        (p, t) for p, t in parts()
        if min(sum(s.foot == f and s.heard for s in p.sounds) for f in ("left", "right")) >= 3
    ]  # fmt: skip
    for planted in ("left foot", "loud", ""):
        late = soft = uneven = there = 0
        for number in range(MANY):
            rng = np.random.default_rng([SEED, number, len(planted)])
            part, tempo = known[int(rng.integers(len(known)))]
            found, loud = _taken(part, tempo, rng, planted)
            assert found.sides is not None
            late += found.sides.late is not None and found.sides.late[0] == "left"
            soft += found.sides.soft is not None and found.sides.soft[0] == "left"
            there += loud >= 0
            sounds = {u.sound for u in found.uneven}
            uneven += (loud in sounds) if planted == "loud" else bool(sounds)
        wanted = {"left foot": "95 told", "loud": "90 told", "": "2 at most, 3 of uneven"}[planted]
        name = planted or "nothing planted"
        figure(f"{name}: left late, left soft, uneven, of 100", _of(MANY, late, soft, uneven), wanted)
        if planted == "loud":
            figure("  of those with four sounds alike", f"{100 * uneven / max(1, there):.0f} of 100")
    swinging = [(p, t) for p, t in known if sum(s.place.denominator == 2 for s in p.sounds) >= 3]
    told = 0
    for number in range(MANY):
        rng = np.random.default_rng([SEED, number, 5])
        part, tempo = swinging[int(rng.integers(len(swinging)))]
        swing = _flat(part, tempo, rng).swing
        told += swing is not None and swing.off and abs(swing.ratio - float(FLAT)) < 0.2
    figure(f"a swing of {float(FLAT):.1f} where 2 is meant, told as that", f"{100 * told / MANY:.0f} of 100")


def _of(many: int, *counts: int) -> str:
    return ", ".join(f"{100 * n / many:.0f}" for n in counts)
