"""Parts in a meter of their own, and combos that run through several."""

import unittest
from fractions import Fraction

from firn.core.meter.meter import Meter
from firn.core.piece.build import part_from, piece_from
from firn.core.piece.unfold import unfold
from firn.core.piece.versions import moved
from firn.core.reading.read import check_combo, check_part
from firn.core.reading.sentences import sentence
from firn.core.script.settings import Settings
from firn.core.script.writer import write_part
from firn.core.sound.model import render
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.timeline import Section
from firn.session.stretch import combo_stretch
from tests.support import cases, part

WALTZ = "meter: 3/4\n1 step  2 step  3 step  4 step  5 step  6 step"
COMBO = f"""phrase: 8 counts
part A
1 step  2 step  3 step  4 step  5 step  6 step  7 step  8 step
part W
{WALTZ}
part U
meter: 7/8 as 2+2+3
1 step  2 step  3 step  4 step  5 step  6 step  7 step
combo
A, W, U x2, A
"""


class OwnMeterTest(unittest.TestCase):
    def test_it_brings_its_phrase(self) -> None:
        one = part(WALTZ, phrase="8 counts")
        self.assertEqual((one.settings.meter, one.settings.counting.phrase), (Meter(3, 4), 6))
        self.assertEqual([f.code for f in check_part(one) if f.code in ("fills", "off_phrase")], ["fills"])

    def test_its_own_phrase_in_its_own_bars(self) -> None:
        one = part(f"phrase: 4 bars\n{WALTZ}")
        self.assertEqual(one.settings.counting.phrase, 12)

    def test_only_a_phrase(self) -> None:
        self.assertEqual(part("phrase: 4 counts\n1 step  2 step").settings.counting.phrase, 4)

    @cases(("meter: 0/4", "0/4"), ("meter: 7/8 as 2+2", "7/8 as 2+2"), ("phrase: 900", "900"), ("meter:", ""))
    def test_what_cannot_be_read_is_one_sentence_and_the_rest_is_read(self, line: str, value: str) -> None:
        read = part_from("A", f"{line}\n1 step", Settings())
        self.assertEqual([p.code for p in read.problems], ["H202"])
        self.assertIn(f'"{value}" is no ', read.problems[0].message)
        self.assertEqual((len(read.sounds), read.settings.meter), (1, Meter(4, 4)))

    def test_it_goes_along_with_what_is_written_anew(self) -> None:
        one = part(WALTZ)
        self.assertIn("meter: 3/4", write_part(one.script, one.settings))
        later = part_from("A", moved(one, Fraction(1)).text, Settings())
        self.assertEqual(later.settings.meter, Meter(3, 4))

    def test_six_counts_over_two_bars_of_three(self) -> None:
        one = part("meter: 3/4\n1 step  3 step  5 step  6 step")
        told = next(sentence(f) for f in check_part(one) if f.code == "in_pairs")
        self.assertIn("sounded of 1, 3, 5: 1 3 5", told)
        self.assertIn("by 0 there, by 1 in 3/4", told)

    @cases(("2+1/5",), ("2+3/7",))
    def test_a_place_without_a_pulse_is_heard_in_no_other_meter(self, place: str) -> None:
        found = check_part(part(f"meter: 3/4\n1 step  {place} R step  3 step  4 step  5 step  6 step"))
        self.assertTrue(found)
        self.assertNotIn("in_pairs", [f.code for f in found])


class CombosTest(unittest.TestCase):
    def setUp(self) -> None:
        self.piece = piece_from(COMBO)
        self.assertEqual(self.piece.problems, ())
        self.whole = unfold(self.piece)

    def test_each_part_by_its_own_numbers(self) -> None:
        counting = self.whole.counting
        said = [counting.counted(Fraction(n)) for n in range(36)]
        expected = [*range(1, 9), *range(1, 7), *range(1, 15), *range(1, 9)]
        self.assertEqual(said, [str(n) for n in expected])

    def test_strong_beats_are_those_of_the_meter(self) -> None:
        strong = [n for n in range(30) if self.whole.counting.strong(Fraction(n))]
        # A bar of 4/4 each 4; of 3/4 each 3; 2 + 2 + 3 eighths (common practice).
        self.assertEqual(strong, [0, 4, 8, 11, 14, 16, 18, 21, 23, 25, 28])

    def test_what_there_is_of_each(self) -> None:
        told = {f.code: sentence(f) for f in check_combo(self.piece, self.whole)}
        self.assertIn(
            "8 in 4/4 (A), then 6 in 3/4 (W), then 14 in 7/8 as 2+2+3 (U), then 8 in 4/4", told["combo_changes"]
        )
        self.assertNotIn("combo_off_phrase", told)

    def test_one_that_does_not_fill_its_phrases_is_named(self) -> None:
        piece = piece_from(COMBO.replace("U x2", "U x3"))
        told = [sentence(f) for f in check_combo(piece) if f.code == "combo_off_phrase"]
        self.assertEqual(told, ["U in 7/8 as 2+2+3, 21 counts: 7 off from whole phrases of 14."])

    def test_the_model_and_the_strip_go_along(self) -> None:
        stretch = combo_stretch(self.piece, self.whole)
        self.assertEqual(stretch.counting.name(Fraction(15, 2) + 1), "& after 1")
        one = render(Section(stretch.sounds, stretch.counting, stretch.first, stretch.end, Mixing(tempo=200)))
        plain = render(
            Section(stretch.sounds, self.piece.settings.counting, stretch.first, stretch.end, Mixing(tempo=200))
        )
        self.assertEqual(len(one.audio), len(plain.audio))
        self.assertGreater(float(abs(one.audio - plain.audio).max()), 0.01)


if __name__ == "__main__":
    unittest.main()
