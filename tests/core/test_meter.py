"""Meters, feel, names of places and seconds, against exact values from outside."""

import unittest
from fractions import Fraction
from itertools import pairwise

from firn.core.meter.counting import Counting
from firn.core.meter.feel import SWING, Feel, parse_feel
from firn.core.meter.meter import EVEN, GROUPS, Meter, parse_meter
from firn.core.meter.tempo import TempoPath, seconds
from firn.core.piece.build import piece_from
from tests.support import F, cases, oracle, places
from tests.support import part as read


def count_quarters(meter: Meter) -> F:
    """Length of a count in quarter notes."""
    return F(12 if meter.compound else 4, meter.unit)


class SecondsTest(unittest.TestCase):
    def test_grid_of_every_known_meter(self) -> None:
        """Exact arithmetic of timing.json: seconds = quarters / quarters a beat * 60 / beats a minute."""
        checked = 0
        for grid in oracle("timing")["grid_times"]:
            meter = parse_meter(grid["meter"])
            if meter is None or count_quarters(meter) != F(grid["beat_unit_quarters"]):
                continue
            for quarters, exact, decimal in zip(
                grid["position_quarters"], grid["exact"], grid["seconds"], strict=True
            ):
                position = F(quarters) / count_quarters(meter)
                self.assertAlmostEqual(seconds(position, grid["bpm"]), decimal, places=8)
                self.assertEqual(
                    round(TempoPath.steady(grid["bpm"]).seconds(F(0), position) * 48_000), round(F(exact) * 48_000)
                )
            checked += 1
        self.assertGreaterEqual(checked, 8)

    @cases(("zero", 0.0), ("negative", -3.0), ("not a number", float("nan")), ("infinite", float("inf")))
    def test_impossible_tempo(self, _: str, tempo: float) -> None:
        with self.assertRaisesRegex(ValueError, "tempo must be above 0"):
            seconds(F(1), tempo)

    def test_nine_eight_at_120(self) -> None:
        """8 bars of 9/8 = 24 counts = 12 s at 120 counts a minute (common practice, no source)."""
        meter = Meter(9, 8)
        self.assertEqual(8 * meter.counts, 24)
        self.assertEqual(seconds(F(24), 120), 12.0)


class FeelTest(unittest.TestCase):
    def test_off_beat_of_ratios(self) -> None:
        """The off-beat lies at r/(1+r): timing.json, exact."""
        for row in oracle("timing")["swing"]:
            feel = Feel(F(row["ratio"]))
            self.assertEqual(feel.position(F(3, 2)) - 1, F(row["offbeat_fraction_of_beat"]), row["ratio"])

    @cases(
        ("whole counts stay", F(3), F(3)),
        ("e halfway through the long half", F(1, 4), F(1, 3)),
        ("a halfway through the short half", F(3, 4), F(5, 6)),
        ("thirds stay where they are", F(2, 3), F(2, 3)),
        ("before count 1", F(-1, 2), F(-1, 3)),
    )
    def test_swing(self, _: str, place: Fraction, position: Fraction) -> None:
        self.assertEqual(SWING.position(place), position)

    @cases(
        ("straight", "straight", "straight"),
        ("even", "even", "straight"),
        ("swing", "Swing", "swing"),
        ("ratio", "3:2", "3:2"),
        ("a ratio that is swing", "2 : 1", "swing"),
        ("short first", "1:2", None),
        ("past four", "9:2", None),
        ("by zero", "3:0", None),
        ("a word", "bouncy", None),
    )
    def test_names(self, _: str, text: str, expected: str | None) -> None:
        feel = parse_feel(text)
        self.assertEqual(str(feel) if feel else None, expected)


class WeightsTest(unittest.TestCase):
    def test_weights_of_published_meters(self) -> None:
        """metric_weights.json: minus the highest level's index; equals log2 of music21's beatStrength."""
        checked = 0
        for entry in oracle("metric_weights")["entries"]:
            meter = parse_meter(entry["meter"])
            if meter is None:
                continue
            step = F(entry["step_quarters"]).limit_denominator(64) / count_quarters(meter)
            with self.subTest(entry["meter"], step=str(step)):
                self.assertEqual(list(meter.weights(step)), entry["lhl_weights"])
                self.assertEqual(list(meter.levels(step)), entry["subdivision_top_down"])
                for i, weight in enumerate(entry["lhl_weights"]):
                    self.assertEqual(meter.weights(step)[i], weight)
                    # A pulse that is no finer than its place says the same, whichever way it is reckoned.
                    self.assertEqual(meter.weight(i * step), weight)
            checked += 1
        self.assertGreaterEqual(checked, 9)

    def test_weights_as_music21_has_them(self) -> None:
        """beatStrength of music21 10.5 is 2 to the weight, at every place that both know."""
        from music21 import meter as theirs
        from music21 import note, stream

        for text, parts in (("2/4", 4), ("2/2", 4), ("3/4", 4), ("4/4", 4), ("6/8", 3), ("9/8", 3), ("12/8", 3)):
            ours = parse_meter(text)
            assert ours is not None
            step = F(1, parts)
            measure = stream.Measure()
            measure.timeSignature = theirs.TimeSignature(text)
            for _ in range(ours.counts * parts):
                measure.append(note.Note(quarterLength=step * count_quarters(ours)))
            found = [n.beatStrength for n in measure.notes]
            self.assertEqual(found, [2.0**w for w in ours.weights(step)], text)

    @cases(
        ("count 1", "4/4", F(0), 0),
        ("count 3", "4/4", F(2), -1),
        ("an &", "4/4", F(5, 2), -3),
        ("a pick-up on 4", "4/4", F(-1), -2),
        ("second count in 6/8", "6/8", F(1), -1),
        ("a third in 6/8", "6/8", F(1, 3), -2),
        ("a triplet in 4/4", "4/4", F(4, 3), -3),
    )
    def test_weight_of_a_place(self, _: str, meter: str, place: Fraction, weight: int) -> None:
        self.assertEqual(Meter(*map(int, meter.split("/"))).weight(place), weight)

    def test_no_such_pulse(self) -> None:
        with self.assertRaisesRegex(ValueError, "no pulse"):
            Meter(4, 4).levels(F(2, 7))

    @cases(
        ("7/8 as 2+2",),
        ("13/8",),
        ("2+0/8",),
        ("5/3",),
        ("7/8 as 7",),
        ("0/4",),
        ("4/0",),
        ("four",),
        ("",),
        ("44/4",),
    )
    def test_unknown_meters(self, text: str) -> None:
        self.assertIsNone(parse_meter(text))

    @cases(
        ("meter: 7/8 as 2+2+2", "2+2+2 makes 6, not 7."), ("meter: 12 counts as 3+3+3", "3+3+3 makes 9, not 12."),
        ("meter: 5/4 as 5+0", "a group of 0 in 5+0."), ("meter: 0/4", "4/4, 3/4, 6/8"), ("meter: 3/0", "4/4, 3/4"),
    )  # fmt: skip
    def test_what_is_wrong_with_a_meter_is_said(self, heading: str, said: str) -> None:
        for text in (f"{heading}\n1 step", f"part A\n1 step\n{heading}"):
            problems = [p.message for p in piece_from(text).problems]
            self.assertEqual(len(problems), 1)
            self.assertIn(f"is no meter: {said}", problems[0])

    @cases(
        ("7/8 as 2+2+3", "2/8+2/8+3/8", 1), ("5/4 as 3+2", "3/4+2/4", 2),
        ("12/8 as 3+3+2+2+2", "3/8+3/8+2/8+2/8+2/8", 1),
        ("8/8 as 3+3+2", "3/8+3/8+2/8", 2), ("5/8 as 2+3", "2/8+3/8", 1),
    )  # fmt: skip
    def test_groups_weigh_as_music21_weighs_them(self, said: str, theirs: str, pulses: int) -> None:
        """music21 10.5.1: the accent weight of a meter with its groups is 2 to the power of the metric weight."""
        from music21.meter import TimeSignature

        meter, other = parse_meter(said), TimeSignature(theirs)
        assert meter is not None
        pulse = float(count_quarters(meter)) / pulses
        expected = [other.getAccentWeight(i * pulse) for i in range(meter.counts * pulses)]
        self.assertEqual([2.0**w for w in meter.weights(F(1, pulses))], expected)
        self.assertEqual([2.0 ** meter.weight(F(i, pulses)) for i in range(meter.counts * pulses)], expected)

    @cases(
        ("7/8 as 2+2+3", 7, 8, (2, 2, 3)), ("2+2+3/8", 7, 8, (2, 2, 3)), ("7/8 3 + 2 + 2", 7, 8, (3, 2, 2)),
        ("7/8", 7, 8, (2, 2, 3)), ("5/4", 5, 4, (3, 2)), ("12 counts as 3+3+2+2+2", 12, 4, (3, 3, 2, 2, 2)),
        ("3+3+2", 8, 4, (3, 3, 2)), ("12/8", 12, 8, ()), ("12/8 as 3+3+2+2+2", 12, 8, (3, 3, 2, 2, 2)),
    )  # fmt: skip
    def test_uneven_meters(self, said: str, beats: int, unit: int, groups: tuple[int, ...]) -> None:
        meter = parse_meter(said)
        self.assertEqual(meter, Meter(beats, unit, groups))
        self.assertEqual(parse_meter(str(meter)), meter)

    def test_every_usual_grouping_makes_its_bar(self) -> None:
        for (beats, unit), groups in GROUPS.items():
            self.assertEqual(parse_meter(f"{beats}/{unit}"), Meter(beats, unit, groups))

    def test_a_count_of_an_uneven_meter_is_its_unit(self) -> None:
        """7 eighths at 210 a minute last 2 s (arithmetic); a phrase has two bars, or one of 8 counts and more."""
        meter = parse_meter("7/8")
        assert meter is not None
        self.assertEqual((meter.counts, count_quarters(meter), meter.phrase, meter.compound), (7, F(1, 2), 14, False))
        self.assertEqual(seconds(F(7), 210), 2.0)
        self.assertEqual(Meter(12, 4, (3, 3, 2, 2, 2)).phrase, 12)

    def test_meter_by_force(self) -> None:
        with self.assertRaisesRegex(ValueError, "needs to be grouped"):
            Meter(5, 16)


class NamesTest(unittest.TestCase):
    @cases(
        ("count 1", Counting(), F(0), "1", "1"),
        ("pick-up on 8", Counting(), F(-1), "8", "8"),
        ("&", Counting(), F(3, 2), "&", "& after 2"),
        ("e", Counting(), F(1, 4), "e", "e after 1"),
        ("a", Counting(), F(3, 4), "a", "a after 1"),
        ("next eight", Counting(), F(9), "2", "2"),
        ("swung thirds", Counting(feel=SWING, lone_a="triplet"), F(1, 3), "&", "& after 1"),
        ("sixes", Counting(Meter(3, 4), phrase=6), F(6), "1", "1"),
        ("compound &", Counting(Meter(6, 8)), F(1, 3), "&", "& after 1"),
        ("compound a", Counting(Meter(6, 8)), F(2, 3), "a", "a after 1"),
        ("no word for it", Counting(), F(1, 5), "1/5", "1/5 after 1"),
    )
    def test_names(self, _: str, counting: Counting, place: Fraction, said: str, name: str) -> None:
        self.assertEqual((counting.say(place), counting.name(place)), (said, name))

    @cases(
        ("straight halves", {}, "1&2& step x4", ["0", "1/2", "1", "3/2"]),
        ("sixteenths", {}, "1e&a step x4", ["0", "1/4", "1/2", "3/4"]),
        ("& a, straight", {}, "&a1 shuffle step", ["-1/2", "-1/4", "0"]),
        ("& a, swung", {"feel": "swing"}, "&a1 shuffle step", ["-2/3", "-1/3", "0"]),
        ("& a, lilted by the setting", {"lone_a": "triplet"}, "&a1 shuffle step", ["-2/3", "-1/3", "0"]),
        ("lone a, sixteenth", {}, "1 step a2 ball change", ["0", "3/4", "1"]),
        ("lone a, triplet", {"lone_a": "triplet"}, "1 step a2 ball change", ["0", "2/3", "1"]),
        ("compound", {"meter": "6/8"}, "1&a2 step x4", ["0", "1/3", "2/3", "1"]),
        ("& and a apart, swung", {"feel": "swing"}, "1 step & step a step 2 step", ["0", "1/3", "2/3", "1"]),
        ("written out", {}, "2+1/3 step 3 step", ["4/3", "2"]),
    )
    def test_read_back(self, _: str, head: dict, text: str, expected: list[str]) -> None:
        """Every way of saying a place reads to it, and its name says it again."""
        self.assertEqual(places(read(text, **head)), expected)

    def test_lone_off_beat_is_kept_as_said_and_sounds_swung(self) -> None:
        """Common practice, no source: a change of feel moves sounds and renames nothing."""
        for feel, position in (("straight", F(3, 2)), ("swing", F(5, 3)), ("3:2", F(8, 5))):
            sound = read("2 step & step", feel=feel).sounds[1]
            self.assertEqual((sound.place, sound.position, sound.say), (F(3, 2), position, "&"))

    def test_flick_ball_change(self) -> None:
        """Gaps of 3/4, 1/4, 1 with a on the last sixteenth; 2/3, 1/3, 1 as a triplet (common practice)."""
        for lone_a, gaps in (("sixteenth", [F(3, 4), F(1, 4)]), ("triplet", [F(2, 3), F(1, 3)])):
            one = read("1 a 2 kick ball change  3 step", tradition="swing", lone_a=lone_a)
            at = [s.place for s in one.sounds]
            self.assertEqual([b - a for a, b in pairwise(at)], [*gaps, F(1)])

    def test_every_known_meter_has_a_phrase(self) -> None:
        for beats, unit in EVEN:
            meter = Meter(beats, unit)
            self.assertEqual(meter.phrase, 6 if meter.counts == 3 else 8)


if __name__ == "__main__":
    unittest.main()
