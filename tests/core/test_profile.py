"""A part measured as a whole, phrase by phrase and sound by sound; worked by hand where no source is named."""

import unittest

from firn.core.reading.kinds import KINDS
from firn.core.reading.profile import moment, profile
from firn.session.notes import part_notes
from firn.session.reading import compared, grouped, rows, sound_said
from firn.session.stretch import part_stretch
from tests.support import F, cases, part

# One bar: the & after 1 hangs over count 2 (weights -3 and -2): 1.
HANGS = "1 step  & step  2 hold  3 step  4 step"


def value(text: str, key: str, over="what is heard", **head: str):
    return next(m for m in profile(part(text, **head), over) if m.measure.key == key)


class ProfileTest(unittest.TestCase):
    def test_worked_by_hand(self) -> None:
        """The example of docs/syncopation.md, measure by measure."""
        found = [round(float(m.value), 2) for m in profile(part(HANGS))]
        self.assertEqual(found, [1, 2, 1, 0.5, 0, 1, 0.94, 0.81, 46.67, 1])
        self.assertEqual(value(HANGS, "lhl").value, 1)
        self.assertEqual(value(HANGS, "notes_a_beat").value, 1)
        # 1, 1+, 3, 4 of 8 pulses: distances 0, 1/2, 0, 0; the & ends on 3, past the first beat after it and at the
        # second: 1 over 1/2, over four notes.
        self.assertEqual(value(HANGS, "wnbd").value, F(1, 2))

    def test_phrase_by_phrase_and_none_for_one_phrase(self) -> None:
        two = f"{HANGS}  5-8 hold\n1 step  2 step  3 step  4 step  5-8 hold"
        # Count 4 (weight -2) hangs over 5, a bar's first: 2 in each, and the & after 1 in the first.
        self.assertEqual(value(two, "lhl", phrase="8 counts").phrases, (3, 2))
        self.assertEqual(value(HANGS, "lhl").phrases, ())

    def test_over_what(self) -> None:
        text = "1 step  2 kick  3 touch  4 step"
        self.assertEqual([value(text, "notes_a_beat", over).value for over in
                          ("what is heard", "every sound", "the weight")], [F(3, 4), 1, F(1, 2)])  # fmt: skip

    def test_hands_beside_the_steps_are_not_measured(self) -> None:
        self.assertEqual(value(f"{HANGS}\nhands: 2 clap", "lhl").value, 1)

    def test_where_a_measure_does_not_apply(self) -> None:
        self.assertIsNone(value("1 step  2 step  3 step", "keith", meter="3/4").value)
        told = rows(part("1 step  2 step  3 step", meter="3/4"), "what is heard")[1].says
        self.assertIn("It applies to cycles of 2, 4, 8, 16", told)
        self.assertEqual(profile(part("")), [])
        odd = profile(part("1 step  1+2/7 step  2 step"))
        self.assertEqual({m.value for m in odd}, {None})

    def test_about_as_much_as_a_known_pattern(self) -> None:
        """Son as steps: 4 a bar after Longuet-Higgins & Lee (syncopation.json)."""
        son = part("1 step  a step  2+1/2 step  3+1/2 step  4 step", phrase="4 counts")
        self.assertIn("by 4: about as much as son", compared(son, "what is heard"))
        self.assertEqual(compared(part("1 step", meter="6/8"), "what is heard"), "")


class MomentTest(unittest.TestCase):
    @cases(
        (0, "on the beat", 0, None, False), (1, "on a division", -3, F(1), False),
        (2, "on the beat", -2, None, False),
    )  # fmt: skip
    def test_where_the_meter_has_it(self, index: int, beat: str, weight: int, over, against: bool) -> None:
        one = moment(part(HANGS), index)
        self.assertEqual((one.beat, one.weight, one.over, one.against), (beat, weight, over, against))

    def test_off_the_beat_and_against_the_meter(self) -> None:
        one = part("1 step  e step!  2 step")
        self.assertEqual((moment(one, 1).beat, moment(one, 1).against), ("off the beat", True))
        self.assertFalse(moment(part("1 step!  e step  2 step"), 0).against)

    def test_how_the_feet_stand(self) -> None:
        one = part("1 step  2 brush  3 step  & heel")
        expected = [("off the floor", "on its ball"), ("on its ball", "on its ball"), ("flat", "on its ball")]
        self.assertEqual([moment(one, i).feet for i in range(1, 4)], expected)

    def test_in_words(self) -> None:
        one = part(HANGS)
        said = sound_said(one, part_stretch(one), 1)
        self.assertEqual(said[1], "On a division; 3 below a bar's first; it hangs over 2, which is 1 heavier.")
        self.assertIn("room for one more", said[2])
        self.assertIn("left on its ball, right on its ball", said[3])


class GroupsTest(unittest.TestCase):
    def test_every_finding_that_asks_for_something_has_its_group(self) -> None:
        """Codes that are only ever told as good to know have none."""
        known = {"fills", "fills_part", "again_same", "again_other", "again_either", "not_syncopated", "syncopated",
                 "thick", "thick_no_foot", "turns_front", "walls_front", "combo_fills", "both_ways",
                 "limits", "in_pairs", "combo_changes", "senses", "travel", "silent_shift", "groups",
                 "tune_room", "ending_alike", "ending_differs"}  # fmt: skip
        grouped_codes = {code for code, kind in KINDS.items() if kind.group != "Good to know"}
        self.assertEqual(set(KINDS) - known - grouped_codes, set())

    def test_the_most_important_first(self) -> None:
        from firn.core.piece.build import part_from
        from firn.core.script.settings import Settings

        faulty = part_from("A", "1 step  2 R step  3 wobble  5 step  6 step\nscat: da", Settings())
        told = grouped(part_notes(faulty))
        heads = [n.text for n in told if n.level == "head"]
        self.assertEqual(heads, ["Change the feet", "Write it again", "Count it again", "Put the layers together",
                                 "Good to know"])  # fmt: skip
        self.assertEqual({n.text for n in told if n.level != "head"}, {n.text for n in part_notes(faulty)})


if __name__ == "__main__":
    unittest.main()
