"""Published measures of rhythm, held against values computed apart from Firn, published ones, and another library."""

import json
import unittest
import warnings
from fractions import Fraction
from pathlib import Path

from hypothesis import given
from hypothesis import strategies as st

from firn.core.meter.meter import Meter, parse_meter
from firn.core.reading.measures import (
    KNOWN,
    MEASURES,
    RhythmPattern,
    balance,
    evenness,
    keith,
    known_pattern,
    longuet_higgins_lee,
    metrical_complexity,
    nearest_known,
    notes_a_beat,
    npvi,
    off_beat_starts,
    off_beatness,
    off_beatness_on_grid,
    pattern,
    wnbd,
)
from firn.core.reading.syncopation import hangs
from tests.support import F, cases

DATA = json.loads((Path(__file__).parents[1] / "data/syncopation.json").read_text("utf-8"))


METERS = ("4/4", "3/4", "6/8", "12/8", "5/4", "7/8", "12/8 as 3+3+2+2+2")


def of(entry: dict) -> RhythmPattern:
    meter = parse_meter(entry["meter"])
    assert meter is not None
    per_beat = entry["pulses_per_beat"]
    return RhythmPattern(tuple(entry["onsets"]), entry["pulses"], per_beat, meter.weights(F(1, per_beat)))


class OracleTest(unittest.TestCase):
    """syncopation.json: 45 patterns, computed from the definitions in exact arithmetic, apart from Firn; the six
    timelines of 16 pulses also as published by Gómez et al. 2005 and Toussaint 2002."""

    def test_every_measure_of_every_pattern(self) -> None:
        checked = dict.fromkeys(("lhl", "keith", "wnbd", "off", "complexity", "milne", "npvi"), 0)
        for entry in DATA["entries"]:
            one = of(entry)
            with self.subTest(entry["name"]):
                if entry["lhl"]["readings_agree"]:
                    self.assertEqual(longuet_higgins_lee(one), entry["lhl"]["cyclic"]["max"])
                    checked["lhl"] += 1
                if entry.get("keith") is not None:
                    self.assertEqual(keith(one), entry["keith"]["keith1991_1_2_3"])
                    self.assertEqual(off_beat_starts(one), entry["keith"]["toussaint_count"])
                    checked["keith"] += 1
                else:
                    self.assertEqual((keith(one), off_beat_starts(one)), (None, None))
                self.assertEqual(wnbd(one), F(entry["wnbd"]["value"]))
                self.assertEqual(off_beatness(one), entry["off_beatness"])
                self.assertEqual(metrical_complexity(one), entry["metric_complexity"]["value"])
                self.assertAlmostEqual(evenness(one), entry["evenness_dft"], places=8)
                self.assertAlmostEqual(balance(one), entry["balance_dft"], places=8)
                self.assertAlmostEqual(float(npvi(one) or 0), entry["npvi_cyclic_iois"] or 0, places=3)
                for name in ("wnbd", "off", "complexity", "milne", "npvi"):
                    checked[name] += 1
                for name, value in (entry.get("published") or {}).items():
                    got = {"keith_toussaint": off_beat_starts, "wnbd": wnbd, "off_beatness": off_beatness,
                           "metric_complexity": metrical_complexity}.get(name)  # fmt: skip
                    if got is not None:
                        self.assertEqual(got(one), F(value), name)
        self.assertEqual(checked["wnbd"], 45)
        self.assertGreaterEqual(checked["lhl"], 35)
        self.assertGreaterEqual(checked["keith"], 19)

    @cases(("running eighths", 2, F(1)), ("running sixteenths", 4, F(5, 2)))
    def test_full_is_far_from_the_beat_and_yet_not_syncopated(self, _: str, per_beat: int, far: Fraction) -> None:
        """WNBD of running eighths is 1, of running sixteenths 5/2 (its definition, worked by hand)."""
        full = RhythmPattern(tuple(range(4 * per_beat)), 4 * per_beat, per_beat, Meter(4, 4).weights(F(1, per_beat)))
        self.assertEqual((wnbd(full), longuet_higgins_lee(full)), (far, 0))


def doubled(one: RhythmPattern, meter: Meter) -> RhythmPattern:
    weights = meter.weights(F(1, 2 * one.per_beat))
    return RhythmPattern(tuple(2 * o for o in one.onsets), 2 * one.pulses, 2 * one.per_beat, weights)


class PropertyTest(unittest.TestCase):
    @given(st.sets(st.integers(0, 15), min_size=1))
    def test_a_finer_grid_changes_only_off_beatness(self, onsets: set[int]) -> None:
        """Splitting every pulse in two makes off-beatness 0 and changes no other (syncopation.json's invariants)."""
        one = RhythmPattern(tuple(sorted(onsets)), 16, 4, Meter(4, 4).weights(F(1, 4)))
        two = doubled(one, Meter(4, 4))
        for measure in MEASURES:
            if measure.key == "off_beatness":
                self.assertEqual(measure.of(two), 0)
            elif isinstance(first := measure.of(one), float):
                self.assertAlmostEqual(first, measure.of(two), places=9)
            else:
                self.assertEqual(first, measure.of(two), measure.key)

    def test_off_beatness_compares_whatever_is_said(self) -> None:
        """The same sounds in halves and in quarters of a count, on sixteen pulses to four counts either way."""
        halves = pattern([F(0), F(1, 2), F(3)], Meter(4, 4), 4)
        quarters = pattern([F(0), F(1, 2), F(3), F(7, 4)], Meter(4, 4), 4)
        self.assertEqual((off_beatness(halves), off_beatness_on_grid(halves)), (1, 0))
        self.assertEqual((off_beatness(quarters), off_beatness_on_grid(quarters)), (1, 1))

    @given(
        st.sets(st.integers(0, 47), min_size=1),
        st.sampled_from(METERS),
    )
    def test_hanging_is_what_the_strip_shows(self, onsets: set[int], text: str) -> None:
        meter = parse_meter(text)
        assert meter is not None
        # In simple time halves and thirds meet, as in swing.
        per = 6
        counts = 12
        places = [F(o % (counts * per), per) for o in onsets]
        one = pattern(places, meter, counts)
        self.assertEqual(longuet_higgins_lee(one), sum(h.strength for h in hangs(places, meter, counts)))


class AmadsTest(unittest.TestCase):
    """Patterns drawn at random, beside amads (Gotham et al., MIT licence), which reads the same papers for itself."""

    @classmethod
    def setUpClass(cls) -> None:
        # What it needs of other libraries warns of its own future.
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            from amads.time.meter import syncopation
            from amads.time.rhythm import keith_via_toussaint, off_beatness
            from amads.time.variability import normalized_pairwise_variability_index

            cls.theirs = staticmethod(keith_via_toussaint), staticmethod(off_beatness)
            cls.npvi = staticmethod(normalized_pairwise_variability_index)
            cls.wnbd, cls.onsets = syncopation.SyncopationMetric(), staticmethod(syncopation.vector_to_onset_beat)

    @given(st.sampled_from((8, 16, 32)), st.data())
    def test_on_a_power_of_two(self, pulses: int, data: st.DataObject) -> None:
        # Theirs needs a sound on the first pulse, and another.
        rest = st.lists(st.integers(0, 1), min_size=pulses - 1, max_size=pulses - 1).filter(any)
        vector = [1, *data.draw(rest)]
        mine = known_pattern("".join("x" if v else "." for v in vector))
        keith_of, off_of = self.theirs
        beats = self.onsets(vector=vector, beat_unit_length=pulses // 4)
        self.assertEqual(off_beat_starts(mine), keith_of(vector), vector)
        self.assertEqual(off_beatness(mine), off_of(vector), vector)
        self.assertEqual(wnbd(mine), self.wnbd.weighted_note_to_beat_distance(beats, F(4)), vector)
        self.assertAlmostEqual(float(npvi(mine)), self.npvi(mine.gaps), places=9)

    @given(st.lists(st.integers(0, 1), min_size=12, max_size=12).filter(any))
    def test_on_twelve(self, vector: list[int]) -> None:
        places = [F(i, 3) for i, v in enumerate(vector) if v]
        self.assertEqual(off_beatness(pattern(places, Meter(12, 8), 4)), self.theirs[1](vector), vector)


class PatternTest(unittest.TestCase):
    @cases(
        ("halves at least", ["0", "1"], "4/4", 2), ("quarters", ["0", "3/4"], "4/4", 4),
        ("thirds", ["0", "2/3"], "4/4", 3), ("both", ["1/2", "2/3"], "4/4", 6), ("compound", ["0"], "6/8", 3),
    )  # fmt: skip
    def test_the_grid(self, _: str, places: list[str], meter: str, per_beat: int) -> None:
        found = parse_meter(meter)
        assert found is not None
        self.assertEqual(pattern([F(p) for p in places], found, 4).per_beat, per_beat)

    def test_a_pick_up_belongs_to_the_end(self) -> None:
        self.assertEqual(pattern([F(-1), F(0)], Meter(4, 4), 4).onsets, (0, 6))

    def test_none_without_a_sound_or_a_count(self) -> None:
        empty = pattern([], Meter(4, 4), 4)
        self.assertEqual(
            [m.of(empty) for m in MEASURES if m.key in ("wnbd", "evenness", "balance", "npvi")], [None] * 4
        )
        with self.assertRaisesRegex(ValueError, "a count or more"):
            pattern([F(0)], Meter(4, 4), 0)

    def test_none_on_a_grid_too_fine_to_go_over(self) -> None:
        with self.assertRaisesRegex(ValueError, "262144 pulses"):
            pattern([F(0), F(1, 1024)], Meter(4, 4), 256)

    def test_as_full_as_it_is(self) -> None:
        self.assertEqual(notes_a_beat(known_pattern("x.x.x.x.x.x.x.x.")), 2)

    def test_about_as_much_as(self) -> None:
        """Longuet-Higgins & Lee over the known timelines: shiko 2, son 4, gahu 5, soukous 6 (syncopation.json)."""
        found = {name: longuet_higgins_lee(known_pattern(text)) for name, text in KNOWN}
        self.assertEqual([found[n] for n in ("shiko", "son", "gahu", "soukous")], [2, 4, 5, 6])
        self.assertEqual([nearest_known(F(n)) for n in (0, 2, 4, 9)], ["even eighths", "shiko", "son", "soukous"])


if __name__ == "__main__":
    unittest.main()
