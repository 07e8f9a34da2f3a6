"""The ledger of a combo: where every pass begins, its feet and walls, and what all comes to."""

import random
import unittest
from fractions import Fraction
from typing import ClassVar

from msgspec.structs import replace

from firn.core.piece.build import piece_from
from firn.core.piece.unfold import unfold
from firn.core.reading.ledger import Entry, ledger
from firn.core.reading.travel import moves_of, travel, turned_by
from firn.core.script.combo import read_combo
from firn.session.ledger import entry_said, ledger_data, totals_said
from tests.support import cases

EIGHT = "1 step x8"


def of(parts: dict[str, str], combo: str, head: str = "") -> list[Entry]:
    return list(whole(parts, combo, head).entries)


def whole(parts: dict[str, str], combo: str, head: str = "", **given: int):
    texts = "".join(f"part {name}\n{text}\n" for name, text in parts.items())
    return ledger(piece_from(f"{head}\n{texts}combo\n{combo}\n"), **given)


class LedgerTest(unittest.TestCase):
    """Worked examples are common practice, no source."""

    def test_against_thirty_twos(self) -> None:
        """Five sections of 16, 16, 8, 8 and 8 counts begin their second pass against 32s on 25."""
        entries = of({"A": "1 step x16", "C": EIGHT}, "A x2, C x3 / A x2, C x3".replace(" / ", "\n"))
        self.assertEqual((entries[5].start, entries[5].in_long), (57, 25))

    def test_turns_by_halves(self) -> None:
        """8 + 8 + 16 beats with half a turn in each: a turn and a half a pass, after two the front again."""
        parts = {"A": EIGHT, "B": EIGHT, "C": "1 step x16"}
        once = "A, turn half right, B, turn half right, C, turn half right"
        one, two = whole(parts, once), whole(parts, f"{once}\n{once}")
        self.assertEqual((one.counts, one.right_turns, one.wall), (32, Fraction(3, 2), "back"))
        self.assertEqual((two.counts, two.right_turns, two.wall), (64, 3, "front"))

    def test_bars_of_a_slip_jig(self) -> None:
        """8 bars of 9/8 are 24 counts; at 120 they last 12 seconds."""
        made = whole({"A": "1 step  2 step  3 step"}, "A x8", "meter: 9/8\ntempo: 120")
        self.assertEqual((made.counts, made.seconds), (24, 12))
        self.assertEqual([e.bar for e in made.entries], list(range(1, 9)))

    def test_six_against_eight(self) -> None:
        """Six counts against eights meet again after 24."""
        entries = of({"A": "1 step x6"}, "A x5", "phrase: 8 counts")
        self.assertEqual([int(e.in_phrase) for e in entries], [1, 7, 5, 3, 1])

    def test_a_pick_up_is_of_no_phrase(self) -> None:
        made = whole({"A": "8 step | 1-7 step", "B": "8 hold"}, "A, B")
        self.assertEqual((made.counts, made.pickup, made.left_over), (9, 1, 0))
        self.assertEqual([str(e.in_phrase) for e in made.entries], ["8", "8"])
        self.assertIn("none left over after a pick-up of 1", totals_said(made, 4))

    def test_what_cannot_be_danced(self) -> None:
        first, second = of({"A": EIGHT, "B": EIGHT}, "A, B left")
        self.assertEqual((first.fits, second.fits, second.foot_in), (True, False, "left"))
        self.assertIn("Left foot in, which is not free", entry_said(second, 8))

    @cases(
        (0, (2, 3)), (Fraction(1, 4), (3, -2)), (Fraction(1, 2), (-2, -3)), (Fraction(3, 4), (-3, 2)),
        (Fraction(-1, 4), (-3, 2)), (Fraction(5, 4), (3, -2)), (Fraction(1, 8), (Fraction(5, 2), Fraction(1, 2))),
        (Fraction(7, 8), (Fraction(-1, 2), Fraction(5, 2))),
    )  # fmt: skip
    def test_a_way_turned(self, turned: Fraction, way: tuple) -> None:
        """Two to the right and three ahead: turned to the right, what is ahead is the right of the front. By hand."""
        self.assertEqual(turned_by(Fraction(2), Fraction(3), Fraction(turned)), way)

    def test_moves_that_are_said(self) -> None:
        read = piece_from("part A\n1 step  2 step to the left\nmoves: 1 three steps back  2 forwards\narms: 1 left\n")
        self.assertEqual(
            [(m.place, m.way, m.steps) for m in moves_of(read.parts[0])],
            [(0, "back", 3), (1, "forward", 1), (1, "left", 1)],
        )
        (told,) = travel(read.parts[0])
        wanted = {"told": "back 3, forward 1, left 1", "net": "2 back and 1 left of where it began"}
        self.assertEqual(dict(told.values), {**wanted, "room": "3 back and 1 left"})

    def test_a_turn_in_mid_part_turns_what_comes_after_it(self) -> None:
        made = whole({"A": "1 step forward  2 step 1/4 right  3 step forward  4 step"}, "A\nA").travelled
        # Ahead, then to the right; then, facing right, to the right, and back.
        self.assertEqual((made.right, made.forward), (2, 0))
        self.assertEqual(dict(made.room)["forward"], 1)

    def test_the_other_side_goes_the_other_way(self) -> None:
        made = whole({"A": "1 step to the right  2 step to the right  3 step"}, "A, A").travelled
        self.assertEqual((made.right, dict(made.room)["right"]), (0, 2))

    def test_turns_each_way(self) -> None:
        made = whole({"A": EIGHT}, "A, turn 1/4 right, A, turn 1/2 left, A, turn 3/4 right")
        self.assertEqual((made.right_turns, made.left_turns, made.wall), (1, Fraction(1, 2), "back"))

    def test_stances_and_feet_of_a_pass(self) -> None:
        (one,) = of({"A": "1 threes\nhands: 1 clap"}, "A", "tradition: step dance")
        self.assertEqual((one.stance_in, one.stance_out), ("one in front", "one in front"))
        (one,) = of({"A": "1 step  2 step side"}, "A")
        self.assertEqual((one.stance_in, one.stance_out), ("", "apart"))

    def test_groups_at_their_counts(self) -> None:
        made = whole({"A": EIGHT, "B": EIGHT}, "group 1: A\ngroup 2, after 8: A\nall: B", "tempo: 90")
        self.assertEqual([(e.group, e.start, e.start_s) for e in made.entries],
                         [(1, 1, 0), (1, 17, Fraction(32, 3)), (2, 9, 0), (2, 17, Fraction(16, 3))])  # fmt: skip
        self.assertEqual((made.sounds, made.changes), (16, 16))
        read = piece_from(f"part A\n{EIGHT}\ncombo\ngroup 1: A x2\ngroup 2, after 8: A\n")
        alone = ledger(read, unfold(read, 2), group=2)
        self.assertEqual([(e.group, e.start) for e in alone.entries], [(2, 9)])

    def test_another_phrase_from_a_pick_up(self) -> None:
        made = whole({"A": "8 step | 1-7 step"}, "A x2", phrase=16)
        self.assertEqual([(e.in_phrase, e.in_long) for e in made.entries], [(16, 32), (8, 8)])

    @cases(
        ("1 step forward  2 step forward", "", (0, 4)),
        ("1 step forward  2 step forward", ", turn 1/4 right", (2, 2)),
        ("1 step forward  2 step forward", ", turn half left", (0, 0)),
        ("1 step to the right  2 step  3 step", " x2", (0, 0)),
    )
    def test_where_it_leads(self, text: str, said: str, where: tuple[int, int]) -> None:
        """Twice the part: seen from the front, turned, and on the other side the other way."""
        combo = f"A{said}\nA{said}" if "x2" not in said else f"A{said}"
        made = whole({"A": text}, combo).travelled
        self.assertEqual((made.right, made.forward), where)

    def test_the_data(self) -> None:
        data = ledger_data(whole({"A": EIGHT}, "A x2", "tempo: 120", phrase=32))
        wanted = {"part": "A", "time": 2, "side": "as written", "from": "9", "in_phrase": "9", "phrase": 32,
                  "counts": 8, "seconds": 4.0, "foot_in": "right", "foot_out": "right", "wall": "front"}  # fmt: skip
        self.assertEqual({key: data["passes"][1][key] for key in wanted}, wanted)
        self.assertEqual((data["totals"]["counts"], data["totals"]["left_over"]), (16, 16))

    def test_said(self) -> None:
        (one,) = of({"A": EIGHT}, "A", "tempo: 120")
        self.assertEqual(
            entry_said(one, 8),
            "A: counts 1 to 8, 1 of its 8, 1 of a 32, bar 1, from 0:00 on. Right foot in, right free after it; faces "
            "the front. 8 sounds, weight changed 8 times.",
        )


class BruteForceTest(unittest.TestCase):
    """Two thousand random combos of plain steps, against sums that know nothing of the solver."""

    LENGTHS: ClassVar = {"A": 4, "B": 3, "C": 8, "D": 5}

    def test_totals_and_joins(self) -> None:
        texts = "".join(f"part {name}\n1 step x{many}\n" for name, many in self.LENGTHS.items())
        piece = piece_from(f"tempo: 96\n{texts}")
        chance = random.Random(12)
        for number in range(2_000):
            items = [(chance.choice("ABCD"), chance.randint(1, 3)) for _ in range(chance.randint(1, 6))]
            said = ", ".join(f"{name} x{many}" for name, many in items)
            made = ledger(replace(piece, combo=read_combo([said], list(self.LENGTHS))[0]))
            at, steps, wanted = 0, 0, []
            for name, many in items:
                for _ in range(many):
                    long = self.LENGTHS[name]
                    feet = ("right", "left")[steps % 2], ("right", "left")[(steps + long) % 2]
                    wanted.append((name, at + 1, at % 8 + 1, at % 32 + 1, long, *feet))
                    at, steps = at + long, steps + long
            found = [(e.part, e.start, e.in_phrase, e.in_long, e.counts, e.foot_in, e.foot_out) for e in made.entries]
            self.assertEqual(found, wanted, (number, said))
            totals = made.counts, made.seconds, made.changes, made.left_over
            self.assertEqual(totals, (at, Fraction(at * 60, 96), steps, at % 8), said)


if __name__ == "__main__":
    unittest.main()
