"""A draft put right: sounds left out, put in and moved; words confirmed, said otherwise, laid on in their order."""

import unittest
from fractions import Fraction

import numpy as np

from firn.core.meter.line import Line
from firn.core.script.settings import Settings
from firn.core.steps.shelf import shipped
from firn.errors import FirnError
from firn.session.clip_counts import as_many, one_at, said_of, silent_at_first, tapped_counts
from firn.session.corrected import Sounds, left_out, moved, put_in
from firn.session.read_so import ReadSo, corrected, told, written
from firn.session.shoes import shoes_said
from firn.session.tap_script import Tap, said_places
from firn.session.tap_words import called, in_steps, worded
from firn.session.tapping import Grid, readings
from firn.session.word_by_word import WordByWord, beside, confirmed, named_so, on_to_next, otherwise
from tests.shoes import RATE
from tests.studio import Studio
from tests.support import cases

SETTINGS, SHELF = Settings(), shipped()
SHUFFLE_STEP = ("brush", "spank", "pickup", "scuff"), ("brush", "spank", "pickup", "scuff"), ("step", "land", "leap")


def heard(*places: float, kinds: tuple[tuple[str, ...], ...] = ()) -> tuple[Tap, ...]:
    """Sounds that the ear found at counts, 120 a minute."""
    every = kinds or (("step",),) * len(places)
    return tuple(Tap(1 + place / 2, heard=kind) for place, kind in zip(places, every, strict=True))


def sounds(taps: tuple[Tap, ...]) -> Sounds:
    return Sounds(taps, readings(taps, SETTINGS.meter, 120)[0])


TWELVE = heard(0.5, 0.75, 1, 1.5, 1.75, 2, 2.5, 2.75, 3, 4, 5, 6, kinds=(*SHUFFLE_STEP * 3, *(("step",),) * 3))


def gone(now: Sounds) -> WordByWord:
    return WordByWord(now, in_steps(now.taps, now.read, SETTINGS, SHELF, given=now.given), None)


def names(now: WordByWord) -> list[str]:
    return [one.card.name for one in now.steps.named]


class CorrectedTest(unittest.TestCase):
    def setUp(self) -> None:
        self.sounds = sounds(heard(0, 1, 1.5, 2, 3, 4, 5, 6))

    def places(self, made: Sounds) -> str:
        return " ".join(map(str, made.read.places))

    def test_one_left_out_and_put_in_again(self) -> None:
        less = left_out(self.sounds, 2)
        self.assertEqual(self.places(less), "0 1 2 3 4 5 6")
        self.assertEqual(self.places(put_in(less, 1 + 1.5 / 2)), self.places(self.sounds))

    def test_one_that_is_moved_is_read_anew_and_the_others_stay(self) -> None:
        self.assertEqual(self.places(moved(self.sounds, 2, 0.12)), "0 1 7/4 2 3 4 5 6")
        self.assertEqual(self.places(moved(self.sounds, 2, -0.01)), self.places(self.sounds))

    @cases(
        ("past the next", lambda s: moved(s, 2, 0.4), "no room beside"),
        ("onto another", lambda s: put_in(s, 1.505), "no room beside"),
        ("of two", lambda s: left_out(sounds(heard(0, 1)), 0), "Two sounds"),
    )
    def test_what_cannot_be(self, _: str, change: object, said: str) -> None:
        with self.assertRaisesRegex(FirnError, said):
            change(self.sounds)

    def test_what_was_said_goes_with_its_sounds(self) -> None:
        now = sounds(TWELVE)
        given = called("shuffle", 6, now.taps, now.read, SETTINGS, SHELF)
        now = Sounds(now.taps, now.read, tuple(given))
        self.assertEqual(put_in(now, now.taps[0].at_s - 0.25).given[0].sounds, (7, 8))
        self.assertEqual(left_out(now, 0).given[0].sounds, (5, 6))
        self.assertEqual(left_out(left_out(now, 6), 6).given, ())

    def test_every_reading_is_put_right_and_can_be_taken_back(self) -> None:
        taps = heard(0, 1, 1.61, 2, 2.6, 3, 3.6, 4, 5)
        before = ReadSo(taps, tuple(readings(taps, SETTINGS.meter, 120)))
        self.assertGreater(len(before.found), 1)
        now = corrected(before, lambda one: left_out(one, 5))
        self.assertEqual({len(read.places) for read in now.found}, {8})
        self.assertEqual(len(before.taps), 9)


class WordsTest(unittest.TestCase):
    def test_confirmed_said_otherwise_and_named(self) -> None:
        now = beside(gone(sounds(TWELVE)), 1)
        self.assertEqual(now.word, 0)
        self.assertGreater(len(now.here.others), 0)
        ring, seen = (), []
        for _ in range(1 + len(now.here.others)):
            after, ring = otherwise(WordByWord(now.sounds, now.steps, now.at, ring))
            now = WordByWord(after, gone(after).steps, now.at, ring)
            seen.append(now.here.card.name)
        # Round and round: every one once, and the first again.
        self.assertEqual(len(set(seen)), len(seen))
        self.assertEqual(seen[-1], names(gone(sounds(TWELVE)))[0])
        after = named_so(now, "shuffle step", SETTINGS, SHELF)
        now = WordByWord(after, gone(after).steps, now.at)
        self.assertEqual(names(now)[0], "shuffle step")
        self.assertEqual(on_to_next(now).here.first, 3)
        with self.assertRaisesRegex(FirnError, "12 sounds are left from here"):
            named_so(now, ", ".join(["shuffle"] * 9), SETTINGS, SHELF)

    def test_what_was_said_of_one_is_believed_of_the_others(self) -> None:
        # What was said of the first is what the others are most likely, where their sound says nothing (common
        # practice, no source: a phrase is danced again).
        now = beside(gone(sounds(heard(0.5, 0.75, 1, 1.5, 1.75, 2, 2.5, 2.75, 3, kinds=((),) * 9))), 1)
        before = names(now)
        after = names(gone(named_so(now, "drawback", SETTINGS, SHELF)))
        self.assertEqual((before.count("drawback"), after.count("drawback")), (0, 3))

    def test_what_stands_is_not_taken_by_another(self) -> None:
        now = gone(sounds(TWELVE))
        for number in range(len(now.steps.named)):
            stood = WordByWord(now.sounds, now.steps, now.steps.named[number].first)
            given = confirmed(stood)
            self.assertEqual(names(gone(given)), names(now))

    def test_laid_on_in_order_with_one_missing_and_one_too_many(self) -> None:
        kinds = tuple(tap.heard for tap in TWELVE)
        places = (0.5, 0.75, 1, 1.5, 2, 2.5, 2.75, 3, 3.5, 4, 5, 6)
        taps = heard(*places, kinds=(*kinds[:4], *kinds[5:9], ("heel",), *kinds[9:]))
        now = sounds(taps)
        made = worded("shuffle step, shuffle step, shuffle step, step, step, step", taps, now.read, SETTINGS, SHELF)
        self.assertEqual(len(made.doubts), 2)
        self.assertRegex(made.doubts[0], "the (spank|brush) of shuffle step on .* was not heard")
        self.assertRegex(made.doubts[1], "is of no step, and is left out")
        self.assertNotIn(8, {n for fit in made.given for n in fit.sounds})

    def test_other_words_are_refused(self) -> None:
        now = sounds(TWELVE)
        with self.assertRaisesRegex(FirnError, "12 sounds are there, and these words have 3"):
            worded("shuffle step", now.taps, now.read, SETTINGS, SHELF)

    def test_what_struck_is_learnt_from_what_was_said(self) -> None:
        # By a synthesiser that the ear did not train on.
        one = Studio(5)
        strikes = ["brush", "brush", "ball"] * 4 + ["heel"] * 2
        times = [0.5 + 0.25 * n for n in range(len(strikes))]
        audio, _ = one.take(list(zip(times, strikes, strict=True)))
        taps = tuple(Tap(at, heard=("step",)) for at in times)
        read = readings(taps, SETTINGS.meter, 120)[0]
        audio = audio.astype(np.float32)
        said = called("shuffle step", 0, taps, read, SETTINGS, SHELF)
        self.assertIsNone(shoes_said(said, times, audio, RATE), "one step is too little")
        for first in (3, 6):
            said = called("shuffle step", first, taps, read, SETTINGS, SHELF, given=said)
        self.assertEqual(set(shoes_said(said, times, audio, RATE).kinds), {"airy", "ball"})


class PlacesTest(unittest.TestCase):
    @cases(
        ("even, straight", "", "1/2 3/4 1", "1/2 3/4 1"),
        ("even, where the piece swings: never two at one place", "swing", "1/2 3/4 1", "1/2 3/4 1"),
        ("swung", "swing", "2/3 1 5/3", "1/2 1 3/2"),
    )
    def test_said_so_that_each_is_behind_the_one_before(self, _: str, feel: str, at: str, said: str) -> None:
        counting = Settings(feel=feel or "straight").counting
        found = said_places([Fraction(one) for one in at.split()], counting)
        self.assertEqual(" ".join(map(str, found)), said)

    def test_what_was_not_danced_as_the_piece_swings_is_told(self) -> None:
        taps = heard(0, 0.5, 1, 1.5, 2, 2.5, 3, 4)
        settings = Settings(feel="swing")
        now = ReadSo(taps, tuple(readings(taps, settings.meter, 120)))
        self.assertIn("not danced in swing", " ".join(told(now, written(now, settings, SHELF), settings)))
        self.assertNotIn("not danced", " ".join(told(now, written(now, SETTINGS, SHELF), SETTINGS)))


class CountsTest(unittest.TestCase):
    def test_tapped_with_one_left_out_and_one_twice(self) -> None:
        counts = tapped_counts([1.0, 1.5, 2.0, 3.0, 3.02, 3.5, 4.0])
        for count, second in ((0, 1.0), (3, 2.5), (6, 4.0)):
            self.assertAlmostEqual(counts.line.second(count), second, delta=0.03)
        with self.assertRaisesRegex(FirnError, "Four beats"):
            tapped_counts([1.0, 2.0])

    def test_half_double_and_the_one_elsewhere(self) -> None:
        counts = tapped_counts([1.0, 1.5, 2.0, 2.5, 3.0])
        self.assertAlmostEqual(as_many(counts, 2).line.tempo(0), 240, delta=3)
        self.assertAlmostEqual(one_at(counts, 2.04).line.second(0), 2.0, delta=0.02)
        self.assertIn("120 counts a minute", said_of(counts, 1.0, 3.0))

    def test_sounds_are_read_on_counts_that_are_known(self) -> None:
        # The same sounds on two grids, a count apart, and half as fast: by hand.
        taps = heard(0, 1, 1.5, 2, 3)
        for origin, tempo, places in (
            (1.0, 120, "0 1 3/2 2 3"),
            (0.5, 120, "1 2 5/2 3 4"),
            (1.0, 60, "0 1/2 3/4 1 3/2"),
        ):
            line = Line(np.array([0.0, 1.0]), np.array([origin, origin + 60 / tempo]))
            read = readings(taps, SETTINGS.meter, None, grid=Grid(line, 8))[0]
            self.assertEqual(" ".join(map(str, read.places)), places)

    def test_what_comes_later_than_a_phrase_begins_in_its_own(self) -> None:
        taps = heard(15.5, 16, 17, 18)
        line = Line(np.array([0.0, 1.0]), np.array([1.0, 1.5]))
        read = readings(taps, SETTINGS.meter, None, grid=Grid(line, 8))[0]
        self.assertEqual(" ".join(map(str, read.places)), "-1/2 0 1 2")
        self.assertAlmostEqual(read.line.second(0), 9.0, delta=0.01)

    def test_beats_in_silence_are_none(self) -> None:
        sound = np.zeros(4 * RATE, np.float32)
        sound[2 * RATE : 2 * RATE + 500] = 0.5
        self.assertEqual(silent_at_first(sound, RATE, np.array([0.5, 1.0, 1.5, 2.0, 2.5])), 3)


if __name__ == "__main__":
    unittest.main()
