"""Firn's own counts and beats in a take: found, taken out, and no fault of the feet."""

import unittest

import numpy as np
from msgspec.structs import replace

from firn.core.ear.onsets import Onsets, find_onsets
from firn.core.ear.own import Without, onsets_without_own, words_in
from firn.core.ear.student import Faults, dance
from firn.core.ear.told import SURE
from firn.core.ear.undisturbed import verdict_of
from firn.core.ear.verdict import Verdict, judge
from firn.core.ear.whole import whole
from firn.core.ear.words import facts
from firn.core.meter.count_in import CountIn
from firn.core.piece.build import piece_from
from firn.core.piece.piece import Part
from firn.core.sound.model import render
from firn.core.sound.voices import RATE
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.timeline import Section
from tests import takes
from tests.support import cases, part

A = "1 stomp  2 step  &3 flap  4 step  5 stamp  6 hold  7 stamp  8 clap"
UNDER = "1 step & heel 2 step & heel 3 step & heel 4 step\n5 shuffle ball change 7 stamp 8 hold"
"""A soft spank falls on 5, with a strong beat."""

TEMPO = 112.0


def model(one: Part, **mixing: object) -> np.ndarray:
    """Two passes of a model, mono."""
    again = [replace(s, place=s.place + one.counts, position=s.position + one.counts) for s in one.sounds]
    sounds = [*one.sounds, *again]
    first = one.first_count
    how = Mixing(**{"tempo": TEMPO, **mixing})  # type: ignore[arg-type]
    made = render(Section(sounds, one.settings.counting, first, first + 2 * one.counts, how, sides=(False, False)))
    return np.asarray(made.audio, dtype=float).mean(axis=1)


def listened(one: Part, audio: np.ndarray) -> Verdict:
    return verdict_of(find_onsets(audio, RATE), audio, RATE, lambda heard, task: judge(one, TEMPO, heard, task=task))


class OwnTest(unittest.TestCase):
    def test_its_words_are_found_in_their_order(self) -> None:
        audio = model(part(A), count_in=CountIn("none"), beats=False)
        said = [w.text for w in words_in(audio, RATE)]
        # The first is cut where the sound begins with its vowel.
        self.assertEqual(said[-15:], ["2", "3", "4", "5", "6", "7", "8", *"12345678"])

    @cases(("its rate", RATE), ("another", 44_100))
    def test_what_is_left_is_the_feet(self, _: str, rate: int) -> None:
        one = part(A)
        audio = model(one)
        if rate != RATE:
            from scipy.signal import resample_poly

            step = int(np.gcd(rate, RATE))
            audio = resample_poly(audio, rate // step, RATE // step)
        left = onsets_without_own(audio, rate, find_onsets(audio, rate))
        assert left is not None
        alone = find_onsets(model(one, counts=False, beats=False, count_in=CountIn("none")), RATE).times_s
        # The count-in's first word is cut where the recording begins, and stays.
        feet = left.onsets.times_s[left.onsets.times_s > 0.1]
        found = max(sum(np.abs(feet - at - late).min() < 0.01 for at in alone) for late in feet - alone[0])
        self.assertGreaterEqual(found, len(alone) - 2)
        self.assertLessEqual(len(feet), len(alone) + 10)

    @cases(("counts and beats", {}), ("beats", {"counts": False}), ("counts", {"beats": False}))
    def test_the_model_is_clean(self, _: str, mixing: dict[str, object]) -> None:
        one = part(A)
        audio = model(one, **mixing)
        verdict = listened(one, audio)
        self.assertIn(verdict.mend.code, ("clean", "slip"))
        self.assertEqual(verdict.count("missing"), 0)
        if verdict.counted:
            self.assertIn("Firn's own counts", facts(one, whole(one, verdict))[0])

    @cases(
        (
            "as even as the beats of its count-in",
            "latin",
            "1 merengue march  3 merengue march  5 merengue march  7 merengue march",
        ),
        (
            "a spank on five",
            "tap",
            UNDER,
        ),
        (
            "a beat alone in the hold",
            "folk stamping",
            "1 planta 2 tacón 3 planta 4 tacón\n5 golpe 6 golpe 7 golpe 8 hold",
        ),
    )
    def test_what_its_beats_are_taken_for_is_clean_too(self, _: str, tradition: str, body: str) -> None:
        one = piece_from(f"tradition: {tradition}\npart A\n{body}").parts[0]
        verdict = listened(one, model(one))
        self.assertEqual((verdict.mend.code, verdict.count("missing"), verdict.added), ("clean", 0, ()))

    def test_what_a_beat_may_hide_is_no_sure_fault(self) -> None:
        """In a room a soft spank goes with the beat that it falls on."""
        one = piece_from(f"tradition: tap\npart A\n{UNDER}").parts[0]
        rng = np.random.default_rng(5)
        audio = takes.room(model(one), 0.5, -10.0, rng)
        audio += rng.standard_normal(len(audio)) * np.sqrt(np.mean(audio**2)) / 100
        verdict = listened(one, audio)
        missing = [j for j in verdict.judged if j.heard == "missing"]
        self.assertTrue(verdict.mend.code == "clean" or verdict.mend.sure < SURE, verdict.mend)
        self.assertTrue(all(j.sure < SURE for j in missing))

    def test_what_may_be_a_beat(self) -> None:
        """On a count and as soft as those before the 1; not what is louder, or lies between."""
        times = np.array([0.5, 1.0, 1.5, 2.0, 2.25, 2.5, 3.0])
        left = Without(Onsets(times, np.zeros(7)), np.array([1, 1, 1, 0, 0, 1, 0], dtype=bool), 1.9, np.zeros(0))
        np.testing.assert_array_equal(left.danced.onsets.times_s, times[3:])
        np.testing.assert_array_equal(left.danced.but().times_s, [2.0, 2.25, 3.0])
        np.testing.assert_array_equal(left.danced.but([2.25, 2.0]).times_s, times[3:])
        np.testing.assert_array_equal(left.danced.but([2.5]).times_s, [2.0, 2.25, 3.0])

    def test_feet_alone_have_none(self) -> None:
        danced = dance(part(A), TEMPO, Faults(), np.random.default_rng(3), passes=3)
        self.assertIsNone(onsets_without_own(danced.audio, RATE, find_onsets(danced.audio, RATE)))
        self.assertEqual(words_in(np.zeros(100), RATE), [])

    def test_a_student_over_the_model_keeps_her_fault(self) -> None:
        one = part(A)
        danced = dance(
            one, TEMPO, Faults(late_ms={3: 70.0}, quiet_s=0.8, jitter_ms=2), np.random.default_rng(3), passes=2
        )
        played = model(one, steps=False, beats=False, count_in=CountIn("none"))
        both = np.zeros(max(len(danced.audio), len(played) + 40_000))
        both[: len(danced.audio)] += danced.audio
        both[38_400 : 38_400 + len(played)] += 0.2 * played
        verdict = listened(one, both)
        self.assertEqual((verdict.mend.code, verdict.judged[verdict.mend.target or 0].target.sounds), ("late", (3,)))


if __name__ == "__main__":
    unittest.main()
