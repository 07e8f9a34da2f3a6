"""Syncopation against published patterns, and off the beat told from syncopated."""

import unittest

from firn.core.meter.meter import Meter, parse_meter
from firn.core.reading.read import check_part
from firn.core.reading.sentences import sentence
from firn.core.reading.syncopation import by_phrase, hangs, off_beat, part_hangs
from tests.support import F, cases, oracle, part


class OracleTest(unittest.TestCase):
    def test_every_pattern_on_which_all_readings_agree(self) -> None:
        """syncopation.json: Longuet-Higgins & Lee, cyclic, computed from the definitions in exact arithmetic;
        its pairs too, in the reading of one pair a note with its heaviest silent pulse."""
        strict = 0
        for entry in oracle("syncopation")["entries"]:
            meter = parse_meter(entry["meter"])
            if meter is None:
                continue
            step = F(meter.counts, entry["pulses"])
            with self.subTest(entry["name"]):
                found = hangs([i * step for i in entry["onsets"]], meter, meter.counts)
                self.assertEqual(sum(h.strength for h in found), entry["lhl"]["cyclic"]["max"])
                pairs = entry["lhl"].get("pairs_max")
                if pairs is not None:
                    ours = [(h.place / step, (h.over / step) % entry["pulses"], h.strength) for h in found]
                    kept = [(p["note"], p["rest"] % entry["pulses"], p["strength"]) for p in pairs]
                    self.assertEqual(ours, kept)
                strict += entry["lhl"]["readings_agree"]
        self.assertGreater(strict, 30)

    def test_a_pattern_without_length(self) -> None:
        with self.assertRaisesRegex(ValueError, "a count or more"):
            hangs([F(0)], Meter(4, 4), 0)


class PartTest(unittest.TestCase):
    def test_off_the_beat_is_not_yet_syncopated(self) -> None:
        """1 2 3 4 5 6 & 7 & 8 all sounded: two sounds off the beat, none syncopated (common practice, no source)."""
        one = part("1 2 3 4 5 6 & 7 & 8 step x10")
        self.assertEqual((off_beat(one), part_hangs(one)), (2, []))
        said = [sentence(f) for f in check_part(one)]
        self.assertIn("2 sounds off the beat, none syncopated.", said)

    @cases(
        ("over 3", "1 step & step 2 step & step 3 hold 4 step", [(F(3, 2), F(2), 2)]),
        ("on the beats", "1 2 3 4 step x4", []),
        ("over the last", "1 2 3 step x3 & step 4 hold", [(F(5, 2), F(3), 1)]),
        ("in swing as in straight", "1 step & step 2 hold 3 step 4 step", [(F(1, 2), F(1), 1)]),
    )
    def test_where_it_hangs(self, _: str, body: str, expected: list) -> None:
        for feel in ("straight", "swing"):
            found = part_hangs(part(body, feel=feel))
            self.assertEqual([(h.place, h.over, h.strength) for h in found], expected)

    def test_the_sentence_names_the_first(self) -> None:
        said = [sentence(f) for f in check_part(part("1 step & step 2 hold 3 step 4 step"))]
        self.assertIn(
            "1 sound off the beat; 1 hangs over a silent stronger beat, first & after 1 over 2. "
            "Syncopation 1 (Longuet-Higgins & Lee).",
            said,
        )

    @cases(
        ("one phrase", "1 step & step 2-8 hold", [3]),
        ("the second", "1 step 2 step 3 step 4-8 hold\n1 step & step 2 hold 3 step 4 step 5-8 hold", [1, 3]),
        ("a pick-up", "8 hold & step 1 hold 2 step 3 step 4-7 hold", [4]),
    )
    def test_by_phrase(self, _: str, body: str, scores: list[int]) -> None:
        """Worked by hand: & weighs -3, count 3 -1, 2 and 4 -2, 1 and 5 0."""
        one = part(body)
        self.assertEqual(by_phrase(one), scores)
        self.assertEqual(sum(by_phrase(one)), sum(h.strength for h in part_hangs(one)))

    def test_a_place_with_no_pulse_has_no_say(self) -> None:
        self.assertEqual(part_hangs(part("1+1/5 step 2 step")), [])

    def test_silent_moves_do_not_sound(self) -> None:
        one = part("1 step & step 2 kick 3 step 4 step")
        self.assertEqual([h.over for h in part_hangs(one)], [F(1)])


if __name__ == "__main__":
    unittest.main()
