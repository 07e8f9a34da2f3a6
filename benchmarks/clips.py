"""Clips: how soon they open and show a picture, how soon slow play starts, a draft, and tapping along by hand."""

import random
import tempfile
import time
from dataclasses import replace
from pathlib import Path

import numpy as np
from tests import films
from tests.rhythms import COMPOUND, rhythms, right_apart

from benchmarks.report import figure, heading
from firn.core.quantise.quantise import quantise
from firn.core.script.settings import Settings
from firn.core.steps.shelf import shipped
from firn.files.dense_film import dense_copy
from firn.files.pictures import MediaPictures
from firn.session.clips import ClipSound, open_clip
from firn.session.drafting import heard_in
from firn.session.tap_script import script_of
from firn.session.tapping import kept_taps, readings

MINUTES, RATE = 10, 30
HAND_S, AHEAD_S, SPEED = 0.025, 0.040, 0.5
COUNTS, TEMPO = 16, 112


def clips() -> None:
    """A film of ten minutes, 960 by 540, with a key frame a second; steps twice a second."""
    heading(f"Clips: {MINUTES} minutes of film")
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "evening.mp4"
        seconds = MINUTES * 60.0
        pictures = [np.kron(films.numbered(n), np.ones((3, 3, 1), np.uint8))[:540, :960] for n in range(64)]
        films.write(
            path,
            films.strikes([0.5 + 0.5 * k for k in range(int(seconds * 2) - 2)], seconds),
            pictures=[pictures[n % 64] for n in range(int(seconds * RATE))],
            key_every=RATE,
        )
        began = time.perf_counter()
        clip = open_clip(path)
        figure("opened", f"{time.perf_counter() - began:.2f} s", "under 3 s")
        assert clip.pictures is not None
        rng, took = random.Random(1), []
        for _ in range(60):
            began = time.perf_counter()
            clip.pictures.at(rng.uniform(0, seconds))
            took.append(1000 * (time.perf_counter() - began))
        figure("a picture anywhere", f"{np.median(took):.0f} ms, worst {max(took):.0f}", "under 100 ms")
        sound = ClipSound(clip)
        sound.piece(0.0, 1.5, SPEED)
        began = time.perf_counter()
        sound.piece(300.0, 301.5, SPEED)
        figure("slow play begins", f"{1000 * (time.perf_counter() - began):.0f} ms", "under 200 ms")
        began = time.perf_counter()
        taps, _ = heard_in(path, 60.0, 120.0)
        script_of(taps, readings(kept_taps(taps), Settings().meter, None)[0], Settings(), shipped())
        figure("a minute drafted", f"{time.perf_counter() - began:.2f} s, {len(taps)} sounds", "under 4 s")
        clip.pictures.close()
    _far()
    _hands()


def _far() -> None:
    """Two minutes of a film of busy pictures, 960 by 540, with a key frame each ten seconds."""
    with tempfile.TemporaryDirectory() as folder:
        path, out, seconds = Path(folder) / "far.mp4", Path(folder) / "copy.mp4", 120.0
        rng = np.random.default_rng(2)
        pictures = [
            np.kron(rng.integers(0, 255, (90, 160, 3), np.uint8), np.ones((6, 6, 1), np.uint8)) for _ in range(64)
        ]
        films.write(
            path, None, pictures=[pictures[n // 3 % 64] for n in range(int(seconds * RATE))], key_every=10 * RATE
        )
        began = time.perf_counter()
        dense_copy(path, out)
        figure("a small copy of two minutes, key frames far apart", f"{time.perf_counter() - began:.1f} s")
        for name, one in (("without it", path), ("with it", out)):
            places, took = random.Random(3), []
            with MediaPictures(one) as film:
                for _ in range(30):
                    began = time.perf_counter()
                    film.at(places.uniform(0, seconds))
                    took.append(1000 * (time.perf_counter() - began))
            figure(f"  a picture anywhere {name}", f"{np.median(took):.0f} ms, worst {max(took):.0f}", "under 100 ms")


def _hands() -> None:
    """Hands that tap along at half speed: a spread of 25 ms, 40 ms ahead, the tempo not said."""
    rng = np.random.default_rng(4)
    good = many = 0
    for tune in rhythms(100):
        one = replace(tune, places=tuple(p for p in tune.places if p < tune.places[0] + COUNTS))
        true = np.array([float(place) for place in one.places]) * 60 / TEMPO
        taps = true + SPEED * (rng.normal(0, HAND_S, len(true)) - AHEAD_S)
        read = list(quantise(np.sort(taps), compound=tune.meter in COMPOUND)[0].places)
        good += right_apart(read, one) == 1.0
        many += 1
    figure(f"{COUNTS} counts tapped along at half speed", f"{good} of {many} right", "95 of 100")
