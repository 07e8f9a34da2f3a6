"""Feet and weight: which foot, what cannot be danced, and the least change that mends it.

Rules and feet here are common practice of the trade, no source, unless named.
"""

import unittest

from msgspec.structs import replace

from firn.core.footing.footing import foot
from firn.core.footing.mends import REACH
from firn.core.footing.moves import ways
from firn.core.footing.state import State, Step
from firn.core.piece.build import piece_from
from firn.core.reading.feet import ending
from firn.core.steps.kinds import KINDS
from tests.support import cases, feet, part, weights


class FeetTest(unittest.TestCase):
    @cases(
        ("steps alternate", "1 2 3 step x3", "RLR", "RLR"),
        ("a touch takes no weight", "1 touch 2 step 3 step", "RRL", "LRL"),
        ("a stomp takes no weight", "8 stomp 1 hop 2 step", "RLR", "LLR"),
        ("a heel drops on the foot that carries", "1 step 2 heel 3 step", "RRL", "RRL"),
        ("a toe drops where the toe is up", "1 dig & toe 2 step", "RRR", "LLR"),
        ("a pickup lands", "1 pickup & land 2 step", "LLR", "ALR"),
        ("a jump takes both", "1 jump 2 step", "BR", "BR"),
        ("holds change nothing", "1 step 2 hold 3 step", "R-L", "RRL"),
        ("hands change nothing", "1 step 2 clap 3 step", "R-L", "RRL"),
        ("a shift moves the weight in silence", "1 touch 2 shift 3 step", "RRL", "LRL"),
        ("a kick is no step", "1 kick 2 step", "RR", "LR"),
        ("a written foot", "1 L step 2 step", "LR", "LR"),
        ("an unweighted heel may take the weight", "1 touch 2 R heel 3 L step", "RRL", "LRL"),
        ("both feet, the free one lighter", "1 both step 2 step", "BR", "BR"),
        ("a hop from both", "1 both jump 2 hop 3 step", "BLR", "BLR"),
        ("a leap", "1 leap 2 leap", "RL", "RL"),
        ("heel walk", "1 heel step & toe 2 heel step", "RRL", "RRL"),
        ("chug", "1 step 2 chug 3 step", "RRL", "RRL"),
        ("double pull-back", "1 jump 2 L pickup & R pickup 3 L land & R land 4 step", "BLRLRR", "BRALBR"),
    )
    def test_feet_and_weight(self, _: str, body: str, by_foot: str, carried: str) -> None:
        one = part(body)
        self.assertEqual(one.footing.faults, ())
        self.assertEqual((feet(one), weights(one)), (by_foot, carried))

    @cases(
        ("odd changes repeat on the other side", "1 2 3 step x3", "left", "other"),
        ("even ones stay", "1 2 step x2", "right", "same"),
        ("ends on both", "1 jump", "either", "either"),
        ("a touch makes it even", "1 step 2 touch", "left", "other"),
        ("a part that begins with a hop", "1 hop 2 step", "left", "other"),
        ("written feet decide", "1 R step 2 L step", "right", "same"),
        ("written feet that only fit one way", "1 R step 2 L step 3 R step", "left", "other"),
    )
    def test_end_and_repeat(self, _: str, body: str, free: str, again: str) -> None:
        one = part(body)
        self.assertEqual((one.footing.free, one.footing.again), (free, again))

    def test_lead_foot(self) -> None:
        self.assertEqual(feet(part("1 2 step x2", lead="left")), "LR")

    def test_only_a_written_first_foot_overrules_the_lead(self) -> None:
        self.assertEqual(feet(part("1 L step 2 step", lead="right")), "LR")
        self.assertEqual(feet(part("1 clap 2 L step", lead="right")), "-L")

    def test_every_kind_has_a_rule(self) -> None:
        """No sound of the trade is without one from every state of the weight."""
        for kind in KINDS:
            with self.subTest(kind):
                danced = [
                    ways(State(w, "o", "o", "R"), Step(kind, role), "R")
                    for w in ("L", "R", "<", "=")
                    for role in ("A", "B", "W")
                ]
                picked_up = ways(State("0", "p", "p", "R"), Step(kind, "W"), "R")
                self.assertTrue(any(danced) or picked_up)


class ReasonsTest(unittest.TestCase):
    @cases(
        ("free and carrying", "8 stomp 1 hop 2 step", ["lead", "carries", "free"]),
        ("inside a word", "&1 flap", ["lead", "card"]),
        ("written", "1 step 2 L touch 3 R heel", ["lead", "written", "written"]),
        ("from both", "1 jump 2 step", ["lead", "choice"]),
        ("no foot", "1 clap 2 step", ["", "lead"]),
    )
    def test_why_that_foot(self, _: str, body: str, reasons: list[str]) -> None:
        self.assertEqual([s.reason for s in part(body).sounds], reasons)


class FaultsTest(unittest.TestCase):
    @cases(
        ("weight on the stepping foot", "1 R step 2 R step 3 L step", 1, "carries", "right"),
        ("heel already down", "1 stamp & heel 2 step", 1, "already_down", "right"),
        ("a pickup that does not land", "1 step 2 pickup", 1, "in_the_air", "right"),
        ("a pickup with a brush after it", "1 pickup 2 brush 3 step", 0, "in_the_air", "right"),
        ("a hop on the free foot", "1 step 2 L hop 3 step", 1, "not_carrying", "left"),
        ("land without a pickup", "1 step 2 land", 1, "not_picked_up", "right"),
        ("shift onto a foot in the air", "1 brush 2 R shift", 1, "foot_up", "right"),
        ("shift onto the foot that carries", "1 step 2 R shift", 1, "already_carries", "right"),
        ("a touch of the foot that carries", "1 R step 2 R touch", 1, "carries", "right"),
    )
    def test_complaint_at_the_sound(self, _: str, body: str, index: int, code: str, foot_named: str) -> None:
        faults = part(body).footing.faults
        self.assertEqual([(f.index, f.code) for f in faults], [(index, code)])
        if code != "in_the_air":
            self.assertEqual(faults[0].foot, foot_named)

    def test_all_of_a_word_that_cannot_be_danced_is_on_the_foot_that_was_said(self) -> None:
        self.assertEqual(feet(part("&a1 shuffle step  &a L shuffle  3 step")), "RRRLLL")
        self.assertEqual(feet(part("&a1 shuffle step  &a R shuffle  3 step")), "RRRRRR")

    def test_one_fault_gives_one_complaint(self) -> None:
        body = "1 stamp & heel 2 step 3 step 4 step 5 step 6 step 7 step 8 step"
        self.assertEqual(len(part(body).footing.faults), 1)

    def test_two_faults_far_apart_give_two(self) -> None:
        steps = "  ".join("1 step 2 step 3 step 4 step 5 step 6 step 7 step 8 step" for _ in range(4))
        body = f"1 stamp & heel 2 step 3 hold 4 hold 5-8 hold {steps} 1 stamp & heel 2 step"
        self.assertEqual(len(part(body).footing.faults), 2)

    def test_a_stamp_can_drop_its_heel_later(self) -> None:
        self.assertEqual(part("1 stamp 2 hold 3 heel").footing.faults, ())


class MendsTest(unittest.TestCase):
    @cases(
        ("stamp before a heel becomes a step", "1 stamp & heel 2 L step", ("before", "becomes", "step")),
        ("a step taken for a touch", "1 R step 2 R step 3 L step", ("before", "becomes", "touch")),
        ("a pickup without its landing", "1 step 2 pickup 3 clap", ("before", "insert", "land")),
        ("the step before a hop becomes a touch", "1 step 2 L hop 3 R step", ("before", "becomes", "touch")),
    )
    def test_first_mend(self, _: str, body: str, expected: tuple[str, str, str]) -> None:
        mend = part(body).footing.faults[0].mends[0]
        where = mend.where if mend.action != "insert" else "before"
        self.assertEqual((where, mend.action, mend.becomes), expected)

    def test_up_to_three_one_of_a_kind(self) -> None:
        mends = part("1 R step 2 R step 3 L step").footing.faults[0].mends
        where = [m.where for m in mends if m.where != "lead"]
        self.assertLessEqual(len(where), 3)
        self.assertEqual(len(where), len(set(where)))

    def test_a_rest_offers_a_shift(self) -> None:
        faults = part("1 R touch 2 hold 3 L step 4 R step").footing.faults
        self.assertIn(("rest", "shift"), [(m.where, m.action) for f in faults for m in f.mends])

    def test_starting_on_the_other_foot_is_offered(self) -> None:
        mends = part("1 step 2 L step 3 R step", lead="left").footing.faults[0].mends
        self.assertIn("lead", [m.where for m in mends])

    def test_mends_stay_near(self) -> None:
        body = "  ".join(["1 2 3 4 5 6 7 8 step x8"] * 5) + "  1 R step 2 R step"
        for fault in part(body).footing.faults:
            for mend in fault.mends:
                self.assertGreaterEqual(mend.index, fault.index - REACH if mend.where != "lead" else 0)

    def test_every_mend_mends(self) -> None:
        """Taking a mend and reading again leaves no fault at that sound."""
        from firn.core.reading.feet import faults as findings
        from firn.core.script.changes import changed_text

        for body in ("1 stamp & heel 2 L step", "1 R step 2 R step 3 L step", "1 step 2 L hop 3 R step",
                     "1 flap 2 R step 3 L step", "1 step 2 pickup 3 clap"):  # fmt: skip
            for finding in findings(part(body)):
                for mend in finding.mends:
                    if mend.lead:
                        continue
                    with self.subTest(body, mend=mend.code):
                        mended = part(changed_text(body, mend.changes))
                        self.assertEqual(mended.footing.faults, (), mended.script.text)

    def test_a_word_with_too_few_counts_is_mended_first(self) -> None:
        """It has no sound to put something else in the place of."""
        one = piece_from("meter: 12/8\n\npart A\n6, 2, &a, twice: twice: three moves").parts[0]
        (use,) = one.uses
        self.assertLess(len(use.places), len(use.card.beats))
        self.assertEqual([mend.code for finding in ending(one) for mend in finding.mends], [])

    def test_the_same_fault_further_on_has_the_same_mends(self) -> None:
        """It is searched once, and found again wherever the sounds about it are the same."""
        bodies = "1 stamp & heel 2 L step", "1 R step 2 R step 3 L step", "1 step 2 L hop 3 R step", "1 flap 2 R step"
        for body in bodies:
            before, after = (part("\n".join([*["1-8 step"] * eights, body])).footing.faults for eights in (5, 9))
            with self.subTest(body):
                self.assertTrue(before)
                for one, other in zip(before, after, strict=True):
                    self.assertEqual(other.index - one.index, 32)
                    moved = [replace(mend, index=mend.index + 32) for mend in one.mends if mend.where != "lead"]
                    self.assertEqual(moved, [mend for mend in other.mends if mend.where != "lead"])

    def test_without_mends_there_are_none(self) -> None:
        steps = part("1 stamp & heel 2 step").steps
        self.assertEqual(foot(steps, "right", mends=False).faults[0].mends, ())


if __name__ == "__main__":
    unittest.main()
