"""Where a sound begins, peak by peak: the parts of the onset finder, on sounds made for each (worked out by hand)."""

import unittest
from unittest.mock import patch

import numpy as np

from firn.core.ear import onsets
from firn.core.ear.activation import HOP_S, Heard
from firn.core.ear.onsets import (
    APART_S,
    AROUND_S,
    ATTACK,
    LIKELY,
    LIKELY_FAINT,
    NONE,
    SILENCE_DB,
    Onsets,
    find_onsets,
    joined,
)
from firn.core.task import Task
from tests.support import cases

RATE = 8_000


def hill(length: int, *tops: tuple[float, float]) -> np.ndarray:
    """An activation with parabolas: where each has its top, in frames, and how high over what is likely."""
    frames = np.arange(length)
    shapes = [LIKELY + high - 0.4 * (frames - top) ** 2 for top, high in tops]
    return np.maximum.reduce([np.full(length, LIKELY - 20.0), *shapes]).astype(np.float32)


class PeaksTest(unittest.TestCase):
    @cases(
        ("on a frame", [(40.0, 2.0)], [40.0]),
        ("between two, nearer the first", [(40.3, 2.0)], [40.3]),
        ("between two, nearer the second", [(39.7, 2.0)], [39.7]),
        ("two far apart", [(40.2, 2.0), (80.0, 1.0)], [40.2, 80.0]),
        ("not sure enough", [(40.0, -1.0)], []),
        ("just sure", [(40.0, 0.1)], [40.0]),
    )
    def test_between_its_frames(self, _: str, tops: list[tuple[float, float]], frames: list[float]) -> None:
        found = onsets._peaks(hill(120, *tops))[1] / HOP_S
        np.testing.assert_allclose(found, frames, atol=0.02)

    def test_of_two_close_together_the_surer(self) -> None:
        close = APART_S / HOP_S * 0.6
        found = onsets._peaks(hill(120, (40.0, 1.0), (40.0 + close, 3.0)))[1] / HOP_S
        np.testing.assert_allclose(found, [40.0 + close], atol=0.1)

    def test_at_just_that_distance_too(self) -> None:
        apart = round(APART_S / HOP_S)
        logits = np.full(120, LIKELY - 9, dtype=np.float32)
        logits[40], logits[40 + apart] = LIKELY + 1, LIKELY + 3
        np.testing.assert_allclose(onsets._peaks(logits)[1] / HOP_S, [40 + apart], atol=1e-6)
        logits[40 + apart], logits[41 + apart] = LIKELY - 9, LIKELY + 3
        np.testing.assert_allclose(onsets._peaks(logits)[1] / HOP_S, [40, 41 + apart], atol=1e-6)

    def test_between_frames_next_to_the_edges(self) -> None:
        np.testing.assert_allclose(onsets._peaks(hill(60, (1.2, 2.0)))[1] / HOP_S, [1.2], atol=0.02)
        np.testing.assert_allclose(onsets._peaks(hill(60, (57.8, 2.0)))[1] / HOP_S, [57.8], atol=0.02)

    def test_at_the_very_edges(self) -> None:
        edge = np.full(60, LIKELY - 9, dtype=np.float32)
        edge[0] = edge[-1] = LIKELY + 1
        np.testing.assert_allclose(onsets._peaks(edge)[1] / HOP_S, [0, 59], atol=1e-6)


def struck(at: int, peak: float = 1.0, length: int = RATE, ground: float = 0.0) -> np.ndarray:
    """An envelope that is struck at a sample, rises within 4 samples and dies away."""
    envelope = np.full(length, ground)
    envelope[at : at + 4] = peak * np.array([0.25, 0.5, 0.75, 1.0])
    envelope[at + 4 : at + 404] = np.maximum(ground, peak * np.exp(-np.arange(400) / 60))
    return envelope


class AttackTest(unittest.TestCase):
    @cases(("as near", 0.0), ("told a little late", 0.003), ("told a little early", -0.003))
    def test_from_the_peak_back_to_where_it_begins(self, _: str, away: float) -> None:
        at = RATE // 2
        found = onsets._attack(struck(at), RATE, at / RATE + away, 0.01)
        assert found is not None
        first = at + next(n for n, share in enumerate((0.25, 0.5, 0.75, 1.0)) if share >= ATTACK)
        self.assertAlmostEqual(found[0], first / RATE, places=9)
        self.assertAlmostEqual(found[1], 0.0, places=6)

    def test_its_level(self) -> None:
        found = onsets._attack(struck(4_000, 0.1), RATE, 0.5, 0.01)
        assert found is not None
        self.assertAlmostEqual(found[1], -20.0, places=6)

    def test_too_soft_is_none(self) -> None:
        self.assertIsNone(onsets._attack(struck(4_000, 0.1), RATE, 0.5, 0.2))

    def test_at_the_very_end_there_is_none(self) -> None:
        self.assertIsNone(onsets._attack(np.ones(40), RATE, 1.0, 0.01))

    def test_a_lone_crest_before_it_is_not_the_sound(self) -> None:
        at = RATE // 2
        envelope = struck(at)
        envelope[at - round(0.012 * RATE)] = 0.6
        found = onsets._attack(envelope, RATE, at / RATE, 0.01)
        assert found is not None
        self.assertEqual(found[0], at / RATE)

    def test_at_the_first_sample(self) -> None:
        found = onsets._attack(struck(0), RATE, 0.001, 0.01)
        assert found is not None
        self.assertLess(found[0], 3 / RATE)

    def test_what_swells_is_where_it_was_told(self) -> None:
        """A slide's crest comes long after it begins: its envelope would say otherwise each time."""
        at = RATE // 2
        found = onsets._attack(struck(at), RATE, at / RATE + 0.006, 0.01)
        assert found is not None
        self.assertEqual(found[0], at / RATE + 0.006)

    def test_what_begins_far_from_where_it_was_told_is_left_there(self) -> None:
        at = RATE // 2
        envelope = np.zeros(RATE)
        # Rising without a gap from long before.
        envelope[at - 400 : at] = np.linspace(0.5, 0.99, 400)
        envelope[at] = 1.0
        found = onsets._attack(envelope, RATE, at / RATE, 0.01)
        assert found is not None
        self.assertEqual(found[0], at / RATE)

    def test_in_a_room_that_rings_it_stands_out_of_the_ringing(self) -> None:
        at = RATE // 2
        found = onsets._attack(struck(at, 1.0, ground=0.19), RATE, at / RATE + 0.003, 0.01)
        assert found is not None
        self.assertEqual(found[0], at / RATE)

    def test_the_sound_before_it_still_rings(self) -> None:
        """Struck 22 ms before: what is left of it 14 ms before says by how much the next must stand out."""
        at, before = RATE // 2, RATE // 2 - round(0.022 * RATE)
        envelope = np.maximum(struck(at), struck(before))
        left = envelope[at + round((0.003 - onsets.RINGING_BACK_S) * RATE)]
        found = onsets._attack(envelope, RATE, at / RATE + 0.003, 0.01)
        assert found is not None
        rise = next(n for n, share in enumerate((0.25, 0.5, 0.75, 1.0)) if share >= onsets.OVER_GROUND * left)
        self.assertGreater(onsets.OVER_GROUND * left, 0.25)
        self.assertEqual(found[0], (at + rise) / RATE)


class PartsTest(unittest.TestCase):
    @cases(
        ("halves", [0.0, 0.5, 1.0, 0.5], 0.5),
        ("one value", [0.25] * 9, 0.0),
        ("two values", [0, 0.5], 0.5),
        ("uneven", [0, 0.1, 0.4, 0.45], 0.05),
    )
    def test_the_least_step(self, _: str, values: list[float], least: float) -> None:
        self.assertAlmostEqual(onsets._least_step(np.array(values, dtype=np.float32)), least, places=6)

    @cases(
        ("within", RATE, 47, 1.0), ("just past", RATE, 48, 0.0), ("few samples", 100, 3, 1.0), ("past", 100, 4, 0.0)
    )  # fmt: skip
    def test_the_ground_is_what_was_before(self, _: str, rate: int, at: int, ground: float) -> None:
        piece = np.zeros(200)
        piece[at] = 1.0
        self.assertEqual(onsets._ground(piece, rate), ground)

    def test_the_low_end_is_left_out(self) -> None:
        seconds = np.arange(RATE) / RATE
        loud = [
            onsets.envelope(np.sin(2 * np.pi * hz * seconds).astype(np.float32), RATE)[2_000:].max()
            for hz in (50, 1_000)
        ]
        self.assertLess(loud[0], 0.06)
        self.assertGreater(loud[1], 0.9)

    def test_none(self) -> None:
        self.assertEqual((len(NONE.times_s), len(NONE.levels_db)), (0, 0))

    def test_joined(self) -> None:
        one, two = Onsets(np.array([0.1, 0.2]), np.array([-1.0, -2.0])), Onsets(np.array([0.7]), np.array([-3.0]))
        both = joined([one, NONE, two])
        self.assertEqual((both.times_s.tolist(), both.levels_db.tolist()), ([0.1, 0.2, 0.7], [-1.0, -2.0, -3.0]))
        self.assertEqual(len(joined([NONE, NONE])), 0)

    def test_each_block_gives_what_lies_in_it(self) -> None:
        """A sound every half second in a take of two and a half minutes: each once, though blocks overlap."""
        rate = 4_000
        seen: list[int] = []

        def found(piece: np.ndarray, rate_hz: int) -> Onsets:
            seen.append(len(piece))
            # The samples say where they are: their value is their number.
            numbers = piece.astype(np.int64)
            times = np.flatnonzero(numbers % (rate // 2) == 0) / rate_hz
            return Onsets(times, numbers[np.round(times * rate_hz).astype(int)] / rate)

        shares: list[float] = []
        with patch.object(onsets, "_find", found):
            all_of_it = find_onsets(np.arange(150 * rate, dtype=np.float32), rate, task=Task(shares.append))
        np.testing.assert_allclose(shares, [0, 0.4, 0.8])
        np.testing.assert_allclose(all_of_it.times_s, np.arange(300) / 2)
        np.testing.assert_allclose(all_of_it.levels_db, np.arange(300) / 2)
        self.assertEqual(seen, [60 * rate + rate // 2, 61 * rate, 30 * rate + rate // 2])


class LevelsTest(unittest.TestCase):
    """What is too soft, or too short, to be a sound, whatever the network says."""

    @staticmethod
    def found(sound: np.ndarray) -> int:
        """How many onsets there are where the network is sure of one at a tenth of a second, or in the middle."""
        many = max(4, round(len(sound) / RATE / HOP_S))
        logits = np.full(many, LIKELY - 9, dtype=np.float32)
        logits[min(many // 2, round(0.1 / HOP_S))] = LIKELY + 3
        heard = Heard(
            np.zeros((many, 2), np.float32), np.zeros(2, np.float32), logits, np.zeros((many, 1), np.float32)
        )
        with (
            patch.object(onsets, "activation", lambda *_: heard),
            patch.object(onsets, "weighed", lambda _, frames, *__: np.full(len(frames), 3.0)),
        ):
            return len(find_onsets(sound.astype(np.float32), RATE))

    @staticmethod
    def burst(peak: float, at: int = 800, length: int = 2_400) -> np.ndarray:
        sound = np.zeros(length)
        many = min(400, length - at)
        sound[at : at + many] = peak * np.cos(np.arange(many) * 1.5) * np.exp(-np.arange(many) / 150)
        return sound

    @cases(
        ("loud", 0.5, 1), ("soft", 1e-3, 1), ("just over silence", 7.0e-4, 1), ("just under", 4.4e-4, 0),
        ("far under", 1e-5, 0),
    )  # fmt: skip
    def test_silence(self, _: str, peak: float, many: int) -> None:
        self.assertEqual(self.found(self.burst(peak)), many)

    def test_clicks_of_two_values_are_sounds(self) -> None:
        sound = np.zeros(2_400)
        sound[800] = 0.5
        self.assertEqual(self.found(sound), 1)

    def test_the_flicker_of_the_last_bits_is_none(self) -> None:
        """Of eight bits the least step is 1/128: beside a loud sound, one of two steps is none, one of ten is."""
        loud = np.round(self.burst(0.9, at=4_000, length=4_800) * 128) / 128
        soft, softer = (np.round(self.burst(steps / 128, length=4_800) * 128) / 128 for steps in (10, 2))
        self.assertEqual((self.found(loud + softer), self.found(loud + soft)), (0, 1))

    @cases(("long enough", 160, 1), ("too short", 159, 0))
    def test_a_fiftieth_of_a_second_at_least(self, _: str, length: int, many: int) -> None:
        self.assertEqual(self.found(self.burst(0.5, at=60, length=length)), many)


class LoudnessTest(unittest.TestCase):
    """How loud a recording is, a hundredth of a second each: worked out by hand."""

    def test_the_peak_of_each_hundredth_at_its_middle(self) -> None:
        loud = np.zeros(35)
        loud[[3, 12, 30]] = 1.0, 0.1, 0.5
        found = onsets._loudness(loud, 1_000)
        np.testing.assert_allclose(found.times_s, [0.005, 0.015, 0.025, 0.035])
        np.testing.assert_allclose(found.levels_db, [0.0, -20.0, SILENCE_DB, 20 * np.log10(0.5)])

    @cases(("beside a peak", 0.015 + AROUND_S / 2, -20.0), ("far from all", 5.0, SILENCE_DB))
    def test_about_a_time(self, _: str, at_s: float, level_db: float) -> None:
        found = onsets.Loudness(np.array([0.015]), np.array([-20.0]))
        self.assertEqual(found.about(at_s), level_db)

    def test_what_is_under_silence_is_silent(self) -> None:
        self.assertEqual(onsets.Loudness(np.array([0.0]), np.array([SILENCE_DB - 30])).about(0.0), SILENCE_DB)

    def test_later_and_between(self) -> None:
        found = onsets.Loudness(np.array([0.0, 1.0, 2.0]), np.array([-1.0, -2.0, -3.0])).later(0.5).between(1.5, 2.5)
        self.assertEqual((found.times_s.tolist(), found.levels_db.tolist()), ([1.5], [-2.0]))


class OnsetsTest(unittest.TestCase):
    def test_what_is_faint_beside_them(self) -> None:
        faint = Onsets(np.array([1.0, 2.0]), np.array([-40.0, -41.0]), np.array([LIKELY_FAINT - 0.01, LIKELY_FAINT]))
        some = Onsets(np.array([0.5]), np.array([-20.0]), faint=faint)
        self.assertEqual(some.likely_faint.tolist(), [2.0])
        left = some.but_faint(lambda faint: faint.times_s > 1.5)
        self.assertEqual((left.times_s.tolist(), left.faint and left.faint.times_s.tolist()), ([0.5], [1.0]))
        alone = Onsets(np.array([0.5]), np.array([-20.0]))
        self.assertEqual(alone.likely_faint.tolist(), [])
        self.assertIs(alone.but_faint(lambda faint: faint.times_s > 0), alone)

    def test_how_sure_is_a_probability(self) -> None:
        rng = np.random.default_rng(2)
        sound = rng.normal(0, 1e-3, RATE)
        for at in (2_000, 5_000):
            sound[at : at + 400] += 0.5 * np.cos(np.arange(400) * 1.5) * np.exp(-np.arange(400) / 60)
        for found in (find_onsets(sound, RATE), onsets.every_onset(sound, RATE)):
            self.assertEqual(len(found.times_s), 2)
            self.assertTrue(all(0.5 < one <= 1.0 for one in found.surely), found.surely)


class EveryOnsetTest(unittest.TestCase):
    def test_silence_and_what_is_too_short_hold_none(self) -> None:
        rng = np.random.default_rng(1)
        noise = rng.normal(0, 1, RATE) * 10 ** ((SILENCE_DB - 20) / 20)
        for sound in (np.zeros(RATE), noise, np.ones(RATE // 50 - 1)):
            self.assertIs(onsets.every_onset(sound, RATE), NONE)

    def test_two_that_are_placed_close_together_are_one(self) -> None:
        """Of what two peaks are placed on within half of what two sounds are apart, the first is kept."""
        heard = Heard(
            np.zeros((80, 2), np.float32), np.zeros(2, np.float32),
            hill(80, (20, 3.0), (20 + APART_S / HOP_S + 2, 3.0)), np.zeros((80, 1), np.float32),
        )  # fmt: skip
        for apart, many in ((0.4 * APART_S, 1), (0.6 * APART_S, 2)):
            placed = iter([(0.04, -20.0), (0.04 + apart, -20.0)])
            with (
                patch.object(onsets, "activation", lambda *_: heard),
                patch.object(onsets, "_attack", lambda *_, placed=placed: next(placed)),
            ):
                found = onsets.places_in(np.ones(RATE, dtype=np.float32), RATE)
            self.assertEqual(len(found.times_s), many, apart)


if __name__ == "__main__":
    unittest.main()
