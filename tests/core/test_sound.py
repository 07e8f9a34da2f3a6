"""The model: sample-exact, told apart by ear, to its sides, with a count-in that stops before a pick-up."""

import unittest

import numpy as np

from firn.core.meter.count_in import CountIn, parse_count_in
from firn.core.meter.counting import Counting
from firn.core.meter.meter import Meter
from firn.core.sound.model import looped, render
from firn.core.sound.spoken import spoken
from firn.core.sound.voices import RATE, voice, voice_name
from firn.core.steps.kinds import KINDS
from firn.core.task import Task
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.timeline import Section
from firn.errors import Cancelled
from tests.support import F, cases, part

NONE = CountIn("none")
SILENT = Mixing(count_in=NONE, counts=False, beats=False)


def rendered(body: str, mixing: Mixing = SILENT, **head: str):
    one = part(body, **head)
    return render(Section(one.sounds, one.settings.counting, one.first_count, one.last_count + 1, mixing))


def centroid_hz(sound: np.ndarray) -> float:
    """Spectral centroid of the first 60 ms."""
    piece = sound[: round(0.06 * RATE)]
    power = np.abs(np.fft.rfft(piece)) ** 2
    return float((np.fft.rfftfreq(len(piece), 1 / RATE) * power).sum() / power.sum())


class VoicesTest(unittest.TestCase):
    def test_parts_of_the_foot_are_told_apart(self) -> None:
        """Heel low and round, ball bright, tip thin; flat fuller than all (common practice, no source)."""
        heel, ball, tip, flat = (voice(n) for n in ("heel", "ball", "tip", "whole"))
        self.assertLess(centroid_hz(heel) * 1.5, centroid_hz(ball))
        self.assertLess(centroid_hz(ball) * 1.2, centroid_hz(tip))
        energy = [float((v.astype(float) ** 2).sum()) for v in (tip, ball, flat)]
        self.assertEqual(energy, sorted(energy))

    def test_brushes_are_noise_and_long_sounds_are_long(self) -> None:
        def flatness(sound: np.ndarray) -> float:
            power = np.abs(np.fft.rfft(sound[:1024] * np.hanning(1024))) ** 2 + 1e-12
            band = power[40:200]
            return float(np.exp(np.log(band).mean()) / band.mean())

        self.assertGreater(flatness(voice("brush")), 2 * flatness(voice("ball")))
        self.assertGreater(len(voice("slide")), 2 * len(voice("brush")))

    def test_weight_makes_a_sound_fuller(self) -> None:
        self.assertLess(centroid_hz(voice("ball", weighted=True)), centroid_hz(voice("ball")))

    def test_every_kind_has_a_voice(self) -> None:
        for kind in KINDS.values():
            if not kind.silent:
                self.assertGreater(np.abs(voice(voice_name(kind.name, kind.part))).max(), 0.01, kind.name)

    def test_voices_begin_at_once(self) -> None:
        """The onset of a model is its attack: a tenth of the peak within 2 ms."""
        for name in ("ball", "heel", "tip", "whole", "brush", "spank", "scuff", "slide", "clap", "beat"):
            sound = np.abs(voice(name))
            self.assertLess(int(np.flatnonzero(sound >= 0.1 * sound.max())[0]), 0.002 * RATE, name)


class SpokenTest(unittest.TestCase):
    def test_every_count_has_a_word(self) -> None:
        for word in [str(n) for n in range(1, 17)] + ["&", "e", "a", "hold"]:
            found = spoken(word)
            assert found is not None
            sound, vowel = found
            self.assertLess(vowel, len(sound), word)
            self.assertLess(len(sound), 0.3 * RATE, word)

    def test_no_word(self) -> None:
        self.assertIsNone(spoken("99"))

    def test_the_vowel_lies_on_the_count(self) -> None:
        made = rendered("1 step 2-4 hold", Mixing(tempo=60, count_in=NONE, steps=False, beats=False))
        word, vowel = spoken("2") or (np.zeros(0), 0)
        at = made.sample(F(1)) - vowel
        mono = made.audio[at : at + len(word), 0]
        self.assertGreater(float(np.corrcoef(mono, word)[0, 1]), 0.999)


class RenderTest(unittest.TestCase):
    def test_two_renders_are_the_same_to_the_bit(self) -> None:
        body = "8 stomp 1 hop 2 step &3 flap 4 clap"
        one, two = (rendered(body, Mixing(tempo=133)) for _ in range(2))
        np.testing.assert_array_equal(one.audio, two.audio)

    @cases(("60", 60.0), ("133", 133.0), ("97.5", 97.5))
    def test_sounds_on_their_samples(self, _: str, tempo: float) -> None:
        """Place to sample by exact time: round(counts * 60 * rate / tempo)."""
        made = rendered("1 step & step 2 heel 4 step", Mixing(tempo=tempo, count_in=NONE, counts=False, beats=False))
        for place in (F(0), F(1, 2), F(1), F(3)):
            at = round(place * 60 * RATE / F(tempo))
            self.assertEqual(made.sample(place), at)
            self.assertGreater(np.abs(made.audio[at : at + 200]).max(), 0.03)
            if at > 300:
                self.assertLess(np.abs(made.audio[at - 100 : at]).max(), np.abs(made.audio[at : at + 200]).max() / 3)

    def test_swing_moves_the_off_beat(self) -> None:
        made = rendered("1 step & step 2 step", feel="swing")
        third = made.sample(F(2, 3))
        self.assertGreater(np.abs(made.audio[third : third + 200]).max(), 0.03)

    def test_feet_to_their_sides(self) -> None:
        right = rendered("1 R touch").audio
        left = rendered("1 L touch", lead="left").audio
        self.assertGreater(np.abs(right[:, 1]).max(), 1.5 * np.abs(right[:, 0]).max())
        np.testing.assert_array_equal(right, left[:, ::-1])
        swapped = rendered("1 R touch", Mixing(count_in=NONE, counts=False, beats=False, swapped=True)).audio
        np.testing.assert_array_equal(swapped, left)

    def test_sounds_that_overlap_are_added(self) -> None:
        clap, step = rendered("1 clap").audio, rendered("1 step").audio
        both = rendered("1 step + clap").audio
        np.testing.assert_allclose(both[:3000], clap[:3000] + step[:3000], atol=1e-6)

    def test_silent_moves_are_silent(self) -> None:
        self.assertEqual(np.abs(rendered("1 kick 2 hold 3 lift").audio).max(), 0)

    def test_accents(self) -> None:
        plain, loud, soft = (np.abs(rendered(f"1 step{m}").audio).max() for m in ("", "!", "~"))
        self.assertAlmostEqual(20 * np.log10(loud / plain), 5.0, places=1)
        self.assertAlmostEqual(20 * np.log10(soft / plain), -5.0, places=1)

    def test_never_over_full_scale(self) -> None:
        made = rendered("1 stamp! + clap! + stomp! 2 stamp! + clap!", Mixing(tempo=400))
        self.assertLessEqual(np.abs(made.audio).max(), 0.97 + 1e-6)

    def test_cancelled(self) -> None:
        one = part("1 step x8")
        with self.assertRaises(Cancelled):
            render(Section(one.sounds, one.settings.counting, F(0), F(8), SILENT), Task(cancelled=lambda: True))

    def test_layers(self) -> None:
        nothing = rendered("1 step", Mixing(steps=False, counts=False, beats=False, count_in=NONE))
        self.assertEqual(np.abs(nothing.audio).max(), 0)
        beats = rendered("1 step", Mixing(steps=False, counts=False, count_in=NONE))
        self.assertGreater(np.abs(beats.audio).max(), 0.01)


class CountInTest(unittest.TestCase):
    """Patterns: common practice, no source."""

    @cases(
        ("from 1", F(0), Counting(), "last 4", {-4: "5", -3: "6", -2: "7", -1: "8"}),
        ("pick-up on 8: 5 6 7", F(-1), Counting(), "last 4", {-4: "5", -3: "6", -2: "7"}),
        ("pick-up on &1", F(-1, 2), Counting(), "last 4", {-4: "5", -3: "6", -2: "7", -1: "8"}),
        ("pick-up on &8 takes an earlier four", F(-3, 2), Counting(), "last 4",
         {n: str(n + 9) for n in range(-8, -1)}),
        ("a whole eight", F(0), Counting(), "last 8", {n: str(n + 9) for n in range(-8, 0)}),
        ("three", F(0), Counting(Meter(3, 4), phrase=6), "last 4", {-3: "4", -2: "5", -1: "6"}),
        ("in the middle", F(5), Counting(), "last 4", {0: "1", 1: "2", 2: "3", 3: "4", 4: "5"}),
        ("a pair, then all", F(0), Counting(), "a pair, then all",
         {-8: "5", -6: "6", -4: "5", -3: "6", -2: "7", -1: "8"}),
        ("words for the last two", F(0), Counting(), "last 4, then ready go",
         {-4: "5", -3: "6", -2: "ready", -1: "go"}),
        ("words before a pick-up", F(-1), Counting(), "last 4, then ready go", {-4: "5", -3: "ready", -2: "go"}),
        ("bars, numbered", F(0), Counting(), "2 bars",
         {-8: "1", -7: "2", -6: "3", -5: "4", -4: "2", -3: "2", -2: "3", -1: "4"}),
        ("bars of 9/8", F(-1, 3), Counting(Meter(9, 8), phrase=6), "1 bar", {-3: "1", -2: "2", -1: "3"}),
        ("none", F(0), Counting(), "none", {}),
    )  # fmt: skip
    def test_never_over_a_pick_up(self, _: str, first: F, counting: Counting, text: str, said: dict) -> None:
        count_in = parse_count_in(text)
        assert count_in is not None
        self.assertEqual(dict(count_in.said(first, counting)), said)
        self.assertTrue(all(p < first for p in said))
        self.assertEqual(parse_count_in(str(count_in)), count_in)

    @cases(("nothing", ""), ("five", "last 5"), ("bars", "0 bars"), ("long", "last 4, then antidisestablishing go"),
           ("nothing but words", "none, then ready go"))  # fmt: skip
    def test_no_count_in(self, _: str, text: str) -> None:
        self.assertIsNone(parse_count_in(text))

    def test_words_are_heard(self) -> None:
        """Each word that the usual count-ins and the tally say is kept."""
        for word in [*(str(n) for n in range(1, 33)), "ready", "go", "&", "e", "a", "hold"]:
            self.assertIsNotNone(spoken(word), word)

    def test_the_tally_takes_the_place_of_the_1(self) -> None:
        counting = Counting(tally=True)
        self.assertEqual([counting.counted(F(n)) for n in (-8, 0, 1, 8, 9, 16)], ["1", "1", "2", "2", "2", "3"])
        body, plain = "1 hold 2-8 hold\n1-8 hold", Mixing(tempo=60, count_in=NONE, beats=False)
        told, untold = (rendered(body, plain, tally=yes) for yes in ("yes", "no"))
        changed = np.flatnonzero(np.abs(told.audio - untold.audio).max(axis=1))
        self.assertTrue(changed[0] > 7.8 * RATE and changed[-1] < 8.9 * RATE, changed[[0, -1]] / RATE)

    def test_rendered_before_the_start(self) -> None:
        made = rendered("8 stomp 1 hop", Mixing(tempo=60))
        self.assertEqual((made.origin, made.pickup, made.start), (F(-4), 3 * RATE, 3 * RATE))
        self.assertGreater(np.abs(made.audio[: RATE // 2]).max(), 0.02)


class LoopTest(unittest.TestCase):
    def test_a_turn_lasts_its_counts(self) -> None:
        made = rendered("1 step 2-4 hold", Mixing(tempo=120))
        self.assertEqual(len(looped(made)), 4 * RATE // 2)

    def test_a_rest_is_part_of_the_turn(self) -> None:
        made = rendered("1 step 2-4 hold", Mixing(tempo=120, rest=4))
        self.assertEqual(len(looped(made)), 8 * RATE // 2)

    def test_the_next_pick_up_sounds_at_the_end_of_a_turn(self) -> None:
        made = rendered("&1 flap 2-4 hold")
        turn = looped(made)
        self.assertEqual(len(turn), 4 * RATE // 2)
        before = len(turn) - RATE // 4
        self.assertGreater(np.abs(turn[before : before + 400]).max(), 0.01)
        self.assertLess(np.abs(turn[before - 400 : before]).max(), 0.001)

    def test_what_rings_on_is_folded_in(self) -> None:
        made = rendered("1 step 2 stamp!", Mixing(tempo=400, count_in=NONE, counts=False, beats=False))
        turn, alone = looped(made), made.audio[: made.end]
        self.assertGreater(np.abs(turn[:2000] - alone[:2000]).max(), 1e-4)


if __name__ == "__main__":
    unittest.main()
