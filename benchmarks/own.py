"""Firn's own model with its spoken counts, listened to: as it is, and in rooms."""

import time
from collections import Counter

import numpy as np
from tests import takes

from benchmarks.report import figure, heading
from benchmarks.which import parts
from firn.core.ear.onsets import find_onsets
from firn.core.ear.undisturbed import verdict_of
from firn.core.ear.verdict import NothingHeard, judge
from firn.core.piece.piece import Part
from firn.core.sound.model import render
from firn.core.sound.voices import RATE
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.timeline import Section

MANY, SEED = 24, 61_000


def _model(part: Part, tempo: float, *, counts: bool) -> np.ndarray:
    """Two passes of the model, mono, as it is played."""
    first, many = part.first_count, part.counts
    sounds = [s for n in range(2) for s in _later(part, n * many)]
    section = Section(
        sounds,
        part.settings.counting,
        first,
        first + 2 * many,
        Mixing(tempo=tempo, counts=counts),
        sides=(False, False),
    )
    return np.asarray(render(section).audio, dtype=float).mean(axis=1)


def _later(part: Part, by: int) -> list:  # type: ignore[type-arg]
    from msgspec.structs import replace

    return [replace(s, place=s.place + by, position=s.position + by) for s in part.sounds]


def own() -> None:
    """What is said first of the model itself: it is clean."""
    heading(f"Firn's own model, listened to, {MANY} parts each (seeds from {SEED})")
    known = parts()
    for name, counts, room in (
        ("clicks alone", False, False),
        ("spoken counts", True, False),
        ("spoken counts, in a room of 0.2 to 0.6 s", True, True),
    ):
        said: Counter[str] = Counter()
        took = 0.0
        for number in range(MANY):
            rng = np.random.default_rng([SEED, number])
            part, tempo = known[int(rng.integers(len(known)))]
            audio = _model(part, tempo, counts=counts)
            if room:
                audio = takes.room(audio, float(rng.uniform(0.2, 0.6)), -10.0, rng)
                audio += rng.standard_normal(len(audio)) * np.sqrt(np.mean(audio**2)) * 10 ** (-40 / 20)
            began = time.perf_counter()
            said[_said(part, tempo, audio)] += 1
            took += time.perf_counter() - began
        right = said["clean"] + said["slip"]
        figure(f"{name}: clean or a slip", f"{100 * right / MANY:.0f} of 100", "100")
        print("      " + ", ".join(f"{n} {code}" for code, n in said.most_common()))
        figure("  a take", f"{1000 * took / MANY:.0f} ms")


def _said(part: Part, tempo: float, audio: np.ndarray) -> str:
    try:
        verdict = verdict_of(
            find_onsets(audio, RATE), audio, RATE, lambda heard, task: judge(part, tempo, heard, task=task)
        )
    except NothingHeard:
        return "refused"
    return verdict.mend.code
