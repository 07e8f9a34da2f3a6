"""The timeline: what happens when, in exact seconds; by arithmetic of its own, not by the code's."""

import math
import unittest
from fractions import Fraction

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from firn.core.drills.ladder import Ladder, climbed, rungs
from firn.core.ear.targets import targets_in, targets_of
from firn.core.meter.count_in import CountIn
from firn.core.meter.tempo import TempoPath
from firn.core.sound.model import BLOCK, render, render_blocks
from firn.core.sound.voices import RATE
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.timeline import Section, Timeline
from firn.session.stretch import part_stretch
from firn.session.transport import Transport, danced
from tests.support import F, cases, part

TEMPOS = st.integers(20, 400)
PLACES = st.fractions(-8, 64, max_denominator=12)


class TempoPathTest(unittest.TestCase):
    def test_steady(self) -> None:
        """One count at 120 a minute lasts half a second: the definition of a tempo."""
        path = TempoPath.steady(120)
        self.assertEqual(path.seconds(F(0), F(1)), F(1, 2))
        self.assertEqual(path.seconds(F(3), F(-1)), F(-2))
        self.assertEqual(path.place(F(3), F(-2)), F(-1))

    def test_rising_by_hand(self) -> None:
        """60, 80, 100 and 120 for a count each: 1 + 3/4 + 3/5 + 1/2 s."""
        path = TempoPath.rising(60, 120, F(0), F(4))
        self.assertEqual([t for _, t in path.steps], [60, 80, 100, 120])
        self.assertEqual(path.seconds(F(0), F(4)), F(57, 20))
        self.assertEqual(path.seconds(F(-2), F(0)), F(2), "a pick-up and a count-in have the first tempo")
        self.assertEqual(path.seconds(F(4), F(6)), F(1), "and a rest the last")

    @given(TEMPOS, TEMPOS, PLACES, PLACES)
    def test_there_and_back(self, start: int, end: int, first: Fraction, place: Fraction) -> None:
        for path in (TempoPath.steady(start), TempoPath.rising(start, end, F(0), F(16))):
            self.assertEqual(path.place(first, path.seconds(first, place)), place)
            self.assertEqual(path.seconds(first, place), -path.seconds(place, first))

    @given(TEMPOS, TEMPOS, st.lists(PLACES, min_size=3, max_size=3))
    def test_stretches_add_up(self, start: int, end: int, places: list[Fraction]) -> None:
        path = TempoPath.rising(start, end, F(0), F(16))
        a, b, c = sorted(places)
        self.assertEqual(path.seconds(a, b) + path.seconds(b, c), path.seconds(a, c))

    def test_a_slow_rise_is_near_the_closed_form(self) -> None:
        """Tempo rising evenly along counts: the integral of 60 dx / (a + (b - a) x / n), 60 n / (b - a) ln(b / a)."""
        for counts in (64, 1_024):
            path = TempoPath.rising(60, 120, F(0), F(counts))
            exact = 60 * counts / 60 * math.log(2)
            self.assertAlmostEqual(float(path.seconds(F(0), F(counts))) / exact, 1, delta=1 / counts)

    @cases(("nothing", 0.0), ("less", -1.0), ("no number", float("nan")), ("endless", float("inf")))
    def test_no_tempo(self, _: str, tempo: float) -> None:
        with self.assertRaises(ValueError):
            TempoPath.steady(tempo)


class SectionTest(unittest.TestCase):
    def section(self, body: str = "8 stomp  1 hop  2 step  &3 flap", **mixing: object) -> Section:
        one = part(body)
        first, end = one.first_count, F(one.last_count + 1)
        return Section(one.sounds, one.settings.counting, first, end, Mixing(**{"tempo": 120.0, **mixing}))

    def test_by_hand(self) -> None:
        """5 6 7 in, then 8 (a pick-up), 1, 2, & and 3 at 120: a count is half a second."""
        section = self.section(counts=False, beats=False)
        self.assertEqual(section.led, [(F(-4), "5"), (F(-3), "6"), (F(-2), "7")])
        events = [(e.kind, float(e.at_s)) for e in section.events()]
        self.assertEqual([t for k, t in events if k == "sound"], [1.5, 2.0, 2.5, 2.75, 3.0])
        self.assertEqual([t for k, t in events if k == "beat"], [0.0, 0.5, 1.0])
        self.assertEqual(section.length_s, F(7, 2))

    def test_a_rest_is_counted_in(self) -> None:
        self.assertEqual(self.section(rest=4).length_s, F(11, 2))

    def test_where_a_position_is_on_the_strip(self) -> None:
        stretch = part_stretch(part("1 step 2 step 3 step 4 stamp"))
        both = danced(stretch, Transport(side="both sides in turn"))
        self.assertEqual(both.sides, (False, True))
        self.assertEqual(both.where(F(1)), (F(1), False))
        self.assertEqual(both.where(F(5)), (F(1), True))
        self.assertEqual(both.where(F(-2)), (F(-2), False), "the count-in")
        self.assertEqual(both.where(F(9)), (F(5), True), "what rings on")

    def test_events_and_audio_agree(self) -> None:
        """Where an event of a sound lies the rendered audio begins to sound: silence before, a strike after."""
        section = self.section("1 stamp  3 stamp", counts=False, beats=False, count_in=CountIn("none"))
        audio = np.abs(render(section).audio).max(axis=1)
        for event in section.events():
            at = round(event.at_s * RATE)
            self.assertGreater(audio[at : at + 480].max(), 0.05)
            self.assertLess(audio[max(0, at - 480) : at].max(initial=0.0), 1e-4)


class TimelineTest(unittest.TestCase):
    def setUp(self) -> None:
        self.stretch = part_stretch(part("1 step 2 step 3 step 4 stamp"))
        self.ladder = Ladder(100, 108, 4, 1, "both sides", 4)
        written, other = (danced(self.stretch, Transport(side=s)) for s in ("as written", "other side"))
        self.climb = climbed(rungs(self.ladder), written, other, rest=self.ladder.rest)

    def test_a_ladder_without_a_window(self) -> None:
        """100, 104 and 108 on both sides: 4 counts in, 4 danced, 4 of rest, each at its tempo."""
        self.assertEqual([s.sides[0] for s in self.climb.sections], [False, True] * 3)
        lengths = [F(12 * 60, tempo) for tempo in (100, 100, 104, 104, 108, 108)]
        self.assertEqual([s.length_s for s in self.climb.sections], lengths)
        self.assertEqual(self.climb.length_s, sum(lengths))
        self.assertEqual(self.climb.sections[2].name, "as written, 1 of 1    104 → 108")
        feet = [[s.foot for s in section.sounds] for section in self.climb.sections[:2]]
        self.assertEqual(feet, [["right", "left", "right", "left"], ["left", "right", "left", "right"]])

    def test_events_are_in_order_and_in_their_sections(self) -> None:
        events = list(self.climb.events())
        times = [e.at_s for _, e in events]
        self.assertEqual(times, sorted(times))
        for number, event in events:
            start, end = self.climb.starts_s[number : number + 2]
            self.assertTrue(start <= event.at_s < end, event)
            inside = event.at_s - start
            self.assertEqual(self.climb.at(event.at_s), (number, event.position))
            self.assertEqual(self.climb.sections[number].seconds_at(event.position), inside)

    def test_the_whole_is_its_sections_one_after_another(self) -> None:
        """Rendered in blocks, a ladder sounds as its sections do, laid end to end with what rings on added."""
        whole = np.concatenate(list(render_blocks(self.climb)))
        laid = np.zeros_like(whole)
        for section, start in zip(self.climb.sections, self.climb.starts_s, strict=False):
            made = render(section).audio
            at = round(start * RATE)
            laid[at : at + len(made)] += made
        share = float(np.abs(whole).max()) / float(np.abs(laid).max())
        # Where a section begins, its first word may begin before it: by itself it is cut there.
        for start in self.climb.starts_s[:-1]:
            at = round(start * RATE)
            whole[max(0, at - RATE // 4) : at + RATE // 4] = laid[max(0, at - RATE // 4) : at + RATE // 4] = 0
        # Places within a section are rounded from its own start: a sample apart now and then.
        hop = 960
        parts = (a[: len(a) // hop * hop] ** 2 for a in (whole, laid * share))
        one, other = (np.sqrt(a.reshape(-1, hop * 2).mean(axis=1)) for a in parts)
        np.testing.assert_allclose(one, other, atol=0.02)

    def test_blocks_are_the_same_as_one_piece(self) -> None:
        """Longer than a block, and with a strike over its edge."""
        counts = BLOCK // RATE * 2 + 8
        sounds = [replace(s, position=s.position + 4 * n, place=s.place + 4 * n) for n in range(counts // 4)
                  for s in self.stretch.sounds]  # fmt: skip
        section = Section(sounds, self.stretch.counting, F(0), F(counts), Mixing(tempo=119.0))
        one = render(section).audio
        self.assertGreater(len(one), BLOCK)
        np.testing.assert_array_equal(np.concatenate(list(render_blocks(Timeline((section,))))), one)

    def test_an_empty_one(self) -> None:
        self.assertEqual((list(Timeline(()).events()), Timeline(()).length_s), ([], 0))
        with self.assertRaises(ValueError):
            Timeline(()).at(F(1))

    def test_before_and_after(self) -> None:
        self.assertEqual(self.climb.at(F(-1)), (0, self.climb.sections[0].origin))
        self.assertEqual(self.climb.at(F(10_000)), (5, self.climb.sections[5].last))


class TargetsTest(unittest.TestCase):
    @given(TEMPOS, st.integers(1, 4))
    def test_passes_are_evenly_apart(self, tempo: int, passes: int) -> None:
        one = part("8 stomp  1 hop  2 step  &3 flap")
        found = targets_of(one.sounds, tempo, counts=one.counts, passes=passes)
        self.assertEqual(len(found), 5 * passes)
        for target, later in zip(found, found[5:], strict=False):
            self.assertAlmostEqual(later.seconds - target.seconds, one.counts * 60 / tempo, places=9)
            self.assertEqual((later.time, later.sounds), (target.time + 1, target.sounds))

    def test_along_a_changing_tempo(self) -> None:
        """Sounds on 1 to 4 at 60, 80, 100 and 120: after 0, 1, 1.75 and 2.35 s."""
        one = part("1 step 2 step 3 step 4 step")
        path = TempoPath.rising(60, 120, F(0), F(4))
        section = Section(one.sounds, one.settings.counting, F(0), F(4), path=path)
        self.assertEqual([round(t.seconds, 9) for t in targets_in(section)], [0, 1, 1.75, 2.35])

    def test_a_ladder_of_one_side(self) -> None:
        one = part("1 step 2 step")
        section = Section(one.sounds, one.settings.counting, F(0), F(2))
        climb = climbed(rungs(Ladder(100, 104, 4, 2, "as written", 0)), section, section, rest=0)
        self.assertEqual([s.mixing.tempo for s in climb.sections], [100, 100, 104, 104])


if __name__ == "__main__":
    unittest.main()
