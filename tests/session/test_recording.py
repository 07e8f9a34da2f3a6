"""Recording to Firn's count-in: what is played, where the first sound is due, and what is kept."""

import unittest

import numpy as np
from msgspec.structs import replace

from firn.core.ear.onsets import find_onsets
from firn.core.ear.student import Faults, dance
from firn.core.ear.verdict import NothingHeard
from firn.core.meter.count_in import CountIn
from firn.core.sound.voices import RATE
from firn.session.recording import Hearing, clap_sheet, clapped, claps_for, cut_recording, sheet
from firn.session.stretch import part_stretch
from firn.session.takes import judged
from firn.session.transport import Transport
from tests.core.test_book import TAKE
from tests.support import cases, part

A = "8 stomp  1 hop  2 step  &3 flap  & step\n4 stomp  5 hop  6 step  &7 flap  & step"
TRANSPORT = Transport(120.0)


class SheetTest(unittest.TestCase):
    def made(self, hearing: Hearing, *, body: str = A, transport: Transport = TRANSPORT, passes: int = 2):
        return sheet(part_stretch(part(body)), transport, hearing, passes)

    @cases(("silence", 0.0, 0.0), ("click", 0.05, 0.0), ("model", 0.05, 0.05))
    def test_what_is_heard_after_the_count_in(self, hearing: Hearing, on_beat: float, between: float) -> None:
        """The pick-up on 8 is due at 3 counts of 0.5 s; beats on whole counts, a step on the & after 2."""
        plan = self.made(hearing)
        self.assertEqual((plan.due, plan.beat_s), (round(1.5 * RATE), 0.5))
        self.assertGreater(np.abs(plan.audio[: RATE // 2]).max(), 0.05)
        beat = np.abs(plan.audio[4 * RATE : 4 * RATE + RATE // 8]).max()
        off = np.abs(plan.audio[round(2.75 * RATE) : round(2.80 * RATE)]).max()
        self.assertEqual((beat > on_beat if on_beat else beat <= 1e-4), True, beat)
        self.assertEqual((off > between if between else off <= 0.02), True, off)

    def test_there_is_always_a_count_in(self) -> None:
        plan = self.made("silence", transport=Transport(120.0, count_in=CountIn("none")))
        self.assertEqual(plan.due, round(1.5 * RATE))

    def test_long_enough_for_all_passes(self) -> None:
        """3 counts of count-in, 2 passes of 8, 1.5 s to ring."""
        self.assertAlmostEqual(len(self.made("silence").audio) / RATE, 19 * 0.5 + 1.5, places=2)

    def test_a_hold_before_the_first_sound(self) -> None:
        plan = self.made("silence", body="1 hold  2 step  3 step  4 step")
        self.assertEqual(plan.due, round(2.5 * RATE))


class CutTest(unittest.TestCase):
    def heard(self, *, behind_s: float = 0.0, gain: float = 1.0) -> tuple:
        one = part(A)
        plan = sheet(part_stretch(one), TRANSPORT, "silence", 2)
        faults = Faults(quiet_s=plan.due / RATE + behind_s, jitter_ms=2)
        sound = dance(one, 120, faults, np.random.default_rng(1), passes=2).audio * np.float32(gain)
        return one, plan, np.clip(sound, -1, 1)

    @cases(
        ("with the click", 0.0, "clean", 0), ("behind it", 0.045, "behind", 45), ("a count late", 0.5, "came_in", 0)
    )
    def test_judged_from_the_click(self, _: str, behind_s: float, code: str, lag: float) -> None:
        """The device's own delay of 70 ms is taken out; what is left is the dancer's."""
        one, plan, sound = self.heard(behind_s=behind_s)
        late = np.concatenate([np.zeros(round(0.070 * RATE), np.float32), sound])
        recorded = cut_recording(late, plan, 0.070)
        self.assertAlmostEqual(recorded.click_s or 0, 0.45 * 0.5, places=3)
        sound = recorded.sound
        take = replace(TAKE, click_s=recorded.click_s)
        verdict = judged(one, take, find_onsets(sound, RATE), sound, RATE, on_ms=25)
        assert verdict.kept is not None
        self.assertEqual(verdict.mend.code, code)
        self.assertAlmostEqual(verdict.kept.lag_ms, lag, delta=4)

    def test_an_unknown_delay_gives_no_click(self) -> None:
        _, plan, sound = self.heard()
        recorded = cut_recording(sound, plan, None)
        self.assertEqual((recorded.click_s, recorded.warning), (None, ""))

    def test_a_microphone_that_clips(self) -> None:
        _, plan, sound = self.heard(gain=30.0)
        self.assertIn("overdriven", cut_recording(sound, plan, None).warning)

    @cases(
        ("silent", 1.0, 0.0, "The microphone heard nothing. Is it on"),
        ("cut short", 0.1, 0.5, "before the dancing began"),
    )
    def test_nothing_to_keep(self, _: str, share: float, level: float, message: str) -> None:
        _, plan, sound = self.heard()
        with self.assertRaisesRegex(NothingHeard, message):
            cut_recording(sound[: round(len(sound) * share)] * np.float32(level), plan, None)


class ClapTest(unittest.TestCase):
    def test_clicks_tell_their_own_delay(self) -> None:
        audio, clicks = clap_sheet()
        loop = np.concatenate([np.zeros(round(0.123 * RATE), np.float32), audio.mean(axis=1)])
        found = clapped(loop, clicks)
        self.assertAlmostEqual(found.ms, 123, delta=1.5)
        self.assertEqual(found.claps, 10)

    def test_claps(self) -> None:
        _, clicks = clap_sheet()
        self.assertAlmostEqual(clapped(claps_for(clicks), clicks).ms, 0, delta=3)


if __name__ == "__main__":
    unittest.main()
