"""Two sounds exchanged: told on feet that no code of the ear made, and not where nothing is."""

import unittest

import numpy as np
from scipy import signal

from firn.core.ear.onsets import find_onsets
from firn.core.ear.timbre import class_of, described
from firn.core.ear.verdict import judge
from firn.core.ear.words import mend_sentence
from firn.session.listening import verdict_data, verdict_lines, with_colours
from tests import shoes, takes
from tests.support import cases, part

LINE = """1 step  & heel  2 brush  & step  3 heel  & stamp  4 brush  & heel
5 step  6 brush  & heel  7 step  & stamp  8 heel"""
STRIKES = {"step": "ball", "heel": "heel", "brush": "brush", "flat": "flat"}
TEMPO = 104.0


def danced(seed: int, swapped: int | None = None, only: int | None = None) -> np.ndarray:
    """Four passes; `swapped`: this sound and its next exchanged, in all passes or in `only` one."""
    rng = np.random.default_rng(seed)
    sounds = part(LINE).sounds
    placed = []
    for time in range(4):
        kinds = [STRIKES[s.kind] for s in sounds]
        if swapped is not None and only in (None, time):
            kinds[swapped], kinds[swapped + 1] = kinds[swapped + 1], kinds[swapped]
        for s, kind in zip(sounds, kinds, strict=True):
            at = (float(s.position) + 8 * time) * 60 / TEMPO + 0.6 + rng.normal(0, 0.006)
            placed.append((at, kind))
    audio, _ = shoes.laid(placed, shoes.shoe(rng, kind="plates"), shoes.floor(rng), rng, soft_db=6)
    return shoes.hiss(shoes.in_room(audio, 3, 0.3), rng)


class OrderTest(unittest.TestCase):
    def setUp(self) -> None:
        if takes.hits_folder() is None:
            self.skipTest("the recorded hits (sonic-pi-samples) could not be had")

    def verdict(self, audio: np.ndarray):  # type: ignore[no-untyped-def]
        one = part(LINE)
        return with_colours(one, judge(one, TEMPO, find_onsets(audio, shoes.RATE)), audio, shoes.RATE)

    @cases((0,), (2,), (7,))
    def test_exchanged_every_time(self, swapped: int) -> None:
        verdict = self.verdict(danced(11 + swapped, swapped))
        self.assertIn((swapped, swapped + 1), [one.sounds for one in verdict.order])
        data = verdict_data(part(LINE), verdict, "piece")
        self.assertIn(str(part(LINE).sounds[swapped].place), data["order"][0]["places"])
        said = [line for line in verdict_lines(part(LINE), verdict) if "changed places" in line]
        self.assertIn("sound as if they had changed places, 4 of 4 times", said[0])
        if verdict.mend.code == "order":
            self.assertEqual((said[0], data["fault"]["code"]), (mend_sentence(verdict.mend), "order"))

    @cases((21,), (22,), (23,))
    def test_as_written_nothing_is_told(self, seed: int) -> None:
        self.assertEqual(self.verdict(danced(seed)).order, ())

    def test_once_in_four_is_not_told(self) -> None:
        self.assertEqual(self.verdict(danced(31, 2, only=1)).order, ())


class ClassTest(unittest.TestCase):
    @cases(
        ("step", "ball"), ("spank", "airy"), ("flat", "flat"), ("dig", "heel"), ("clap", "hand"), ("slide", "slide")
    )
    def test_what_shows(self, kind: str, shown: str) -> None:
        self.assertEqual(class_of(kind), shown)

    def test_alike_sounds_are_described_alike_however_loud(self) -> None:
        rng = np.random.default_rng(1)
        one = rng.standard_normal(2_000) * np.exp(-np.arange(2_000) / 300)
        sound = np.zeros(96_000)
        for at, gain in ((10_000, 0.4), (40_000, 0.1), (70_000, 0.4)):
            sound[at : at + 2_000] += gain * (one if at < 70_000 else np.cumsum(one) / 20)
        seen = described(sound, 48_000, [at / 48_000 for at in (10_000, 40_000, 70_000)]).seen[:, :-1]
        alike, other = np.abs(seen[0] - seen[1]).mean(), np.abs(seen[0] - seen[2]).mean()
        self.assertLess(alike, other / 3)

    def test_what_something_else_covers_tells_nothing(self) -> None:
        """A strike under a low tone is still its own kind: the bands of the tone tell nothing."""
        rng = np.random.default_rng(2)
        rate, at = 48_000, 24_000
        strikes = [signal.lfilter(*signal.butter(2, hz, kind, fs=rate), rng.standard_normal(3_000))
                   * np.exp(-np.arange(3_000) / 400) for hz, kind in ((600, "low"), (3_000, "high"))]  # fmt: skip
        quiet = np.zeros((2, rate))
        for row, strike in zip(quiet, strikes, strict=True):
            row[at : at + len(strike)] = 0.3 * strike
        means = np.array([described(row, rate, [at / rate]).seen[0] for row in quiet])
        tone = 0.2 * np.sin(2 * np.pi * 250 * np.arange(rate) / rate)
        for kind, row in enumerate(quiet):
            found = described(row + tone, rate, [at / rate])
            near = np.abs(found.away(means)[0]).mean(axis=1)
            self.assertEqual(int(near.argmin()), kind)
            self.assertLess(near[kind], np.abs(found.seen[0] - means[kind]).mean())
            self.assertLess(found.plain.mean(), 1.0)


if __name__ == "__main__":
    unittest.main()
