"""What is said first of a take with one fault that was planted: the right fault at the right sound, or none."""

import time
from collections import Counter
from fractions import Fraction

import numpy as np
from tests import dancers, takes

from benchmarks.report import figure, heading
from benchmarks.which import parts
from firn.core.ear.onsets import Onsets, find_onsets
from firn.core.ear.verdict import NothingHeard, Verdict, judge
from firn.core.piece.piece import Part

MANY, SEED = 100, 83_000
"""Takes of each kind; of these seeds none was tuned on."""

KINDS = ("clean", "late", "early", "missing", "added", "hold left out", "once late")
ROOM_S = 0.5


def _take(part: Part, tempo: float, kind: str, rng: np.random.Generator) -> tuple[np.ndarray, Fraction | None]:
    """Onsets of three or four passes with 8 ms of jitter, and the place of the sound that is wrong."""
    pattern = dancers.pattern_of(part)
    passes = int(rng.integers(3, 5))
    inner = range(1, len(pattern.places) - 1)
    wrong = int(rng.choice(list(inner)))
    place = pattern.places[wrong]
    holds = [s for s in part.sounds if s.kind == "hold"]
    lost = holds[0] if kind == "hold left out" else None
    times = []
    for number in range(passes):
        for index, at in enumerate(pattern.places):
            gone = 0 if lost is None else float(lost.length) * (number + (at > lost.place))
            due = (float(at) + number * pattern.counts - gone) * 60 / tempo
            here = index == wrong and (kind != "once late" or number == 1)
            if here and kind == "missing":
                continue
            after = float(pattern.places[wrong + 1] - at) * 60 / tempo if wrong + 1 < len(pattern.places) else 0.4
            before = float(at - pattern.places[wrong - 1]) * 60 / tempo
            if here and kind in ("late", "once late"):
                due += min(rng.uniform(0.05, 0.08), 0.5 * after)
            if here and kind == "early":
                due -= min(rng.uniform(0.05, 0.08), 0.5 * before)
            times.append(due + rng.normal(0, 0.008))
            if here and kind == "added":
                times.append(due + after / 2 + rng.normal(0, 0.008))
    told = lost.place if lost is not None else None if kind == "clean" else place
    return np.sort(np.array(times)) - min(times) + 0.8, told


def _right(part: Part, verdict: Verdict, kind: str, place: Fraction | None) -> bool:
    """Whether the first thing said is what was planted, where it was planted."""
    mend = verdict.mend
    if kind == "clean":
        return mend.code in ("clean", "slip")
    if kind == "hold left out":
        return (
            mend.code == "hold_dropped"
            and verdict.dropped is not None
            and part.sounds[verdict.dropped].place == place
        )
    if mend.target is None:
        return False
    there = {part.sounds[i].position for i in verdict.judged[mend.target].target.sounds}
    code = {"once late": "slip"}.get(kind, kind)
    return mend.code == code and place in there


def _sounding(times: np.ndarray, rng: np.random.Generator, rt60_s: float) -> tuple[np.ndarray, int]:
    """A take of recorded hits in a room with noise."""
    audio = np.zeros(round((times[-1] + 1.5) * takes.RATE))
    own = [takes.hits()[i] for i in rng.choice(len(takes.hits()), 3, replace=False)]
    for at in times:
        hit = own[int(rng.integers(len(own)))]
        start = max(0, round(at * takes.RATE) - hit.attack)
        piece = hit.sound[: len(audio) - start]
        audio[start : start + len(piece)] += 0.4 * 10 ** (rng.uniform(-6, 0) / 20) * piece
    audio = takes.room(audio, rt60_s, -10.0, rng)
    audio += rng.standard_normal(len(audio)) * np.sqrt(np.mean(audio**2)) * 10 ** (-35 / 20)
    return np.clip(audio, -1, 1), takes.RATE


def _long_enough(part: Part, kind: str) -> bool:
    """Whether a fault of a kind can be planted: between sounds that are not too close, in a hold that is one."""
    pattern = dancers.pattern_of(part)
    if len(pattern.places) < 6:
        return False
    return kind != "hold left out" or any(s.kind == "hold" for s in part.sounds)


def _heard(times: np.ndarray, rng: np.random.Generator, rt60_s: float | None) -> Onsets:
    if rt60_s is None:
        return Onsets(times, np.full(len(times), -15.0))
    return find_onsets(*_sounding(times, rng, rt60_s))


def says() -> None:
    """Each kind of fault, by its times alone and in a room that rings."""
    known = parts()
    for rt60_s, many in ((None, MANY), (ROOM_S, MANY // 4)):
        where = "by its times alone" if rt60_s is None else f"recorded hits in a room of {rt60_s} s"
        heading(f"What is said first, {many} takes of each kind, {where} (seeds from {SEED})")
        if rt60_s is not None and takes.hits_folder() is None:
            print("  the recorded hits (sonic-pi-samples) could not be had: nothing measured")
            return
        took = 0.0
        for kind in KINDS:
            able = [one for one in known if _long_enough(one[0], kind)]
            said: Counter[str] = Counter()
            right = 0
            for number in range(many):
                rng = np.random.default_rng([SEED, number, len(kind)])
                part, tempo = able[int(rng.integers(len(able)))]
                times, place = _take(part, tempo, kind, rng)
                onsets = _heard(times, rng, rt60_s)
                began = time.perf_counter()
                try:
                    verdict = judge(part, tempo, onsets)
                except NothingHeard:
                    said["refused"] += 1
                else:
                    right += _right(part, verdict, kind, place)
                    said[verdict.mend.code] += 1
                took += time.perf_counter() - began
            others = ", ".join(f"{n} {code}" for code, n in said.most_common(5))
            figure(f"{kind}: right", f"{100 * right / many:.0f} of 100", "95")
            print(f"      {others}")
        figure("a verdict", f"{1000 * took / many / len(KINDS):.0f} ms")
