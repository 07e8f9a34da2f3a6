"""Drills as text: what is said is the stage, and a stage said again is the same. The grammar is Firn's own."""

import random
import unittest
from typing import get_args

from msgspec.structs import replace

from firn.core.drills.offers import MAKERS, by_ear
from firn.core.drills.stage import COMBO, Drill, Stage, StageHeard, StageSides
from firn.core.drills.text import (
    DrillTextError,
    Known,
    drill_text,
    read_drill,
    read_stage,
    stage_text,
    with_reasons,
)
from firn.errors import FirnError
from tests.support import cases

KNOWN = Known((("A", "a"), ("Break", "b"), ("Break 2", "c"), ("Turn, and out", "d")), {"b": "a"}, 100.0)


def stage(kind: str, parts: str, **values: object) -> Stage:
    return replace(Stage("whole", ()), kind=kind, parts=tuple(parts), **values)


class SaidTest(unittest.TestCase):
    @cases(
        ("A 72-96 by 4 both sides x2", stage("ladder", "a", start=72.0, end=96.0, times=2)),
        ("Break run-in 4", stage("run_in", "ab", lead_in=4)),
        ("Break run-in 4 from Turn, and out, x3", stage("run_in", "db", lead_in=4, times=3)),
        ("whole x1", replace(stage("whole", ""), parts=(COMBO,))),
        ("the combo at 116", replace(stage("whole", ""), parts=(COMBO,), start=116.0, end=116.0)),
        ("A + Break 2, as written", stage("join", "ac", sides="as written")),
        ("a, counts 5-8, at 60, twice", stage("hardest", "a", span=(4, 8), start=60.0, end=60.0, times=2)),
        ("A count 3", stage("hardest", "a", span=(2, 3))),
        ("A first 3 sounds at 60", stage("add_sound", "a", sounds=3, start=60.0, end=60.0)),
        ("A, its first 1 sound", stage("add_sound", "a", sounds=1)),
        ("A with the click, no rest", stage("click", "a", heard="click", rest=0)),
        ("A with nothing, rest 8, other side", stage("bare", "a", heard="nothing", rest=8, sides="other side")),
        ("A 60 to 80 (slow, then full)", stage("slow_full", "a", start=60.0, end=80.0)),
        ("Break 2 90", stage("whole", "c", start=90.0, end=90.0)),
        ("Break 2 x4", stage("whole", "c", times=4)),
        ("A by ear", by_ear("a", 100.0)),
        ("A, by ear, at 84 x5", by_ear("a", 84.0, 5)),
    )
    def test_a_stage(self, said: str, wanted: Stage) -> None:
        self.assertEqual(read_stage(said, KNOWN), wanted)

    @cases(
        ("C 72-96", "No part is called “C”."),
        ("A backwards", "Not understood in “A backwards”: “backwards”."),
        ("A 5-900", "not at 5"),
        ("A x0", "0"),
        ("A (wobble)", "No stage is called “wobble”."),
        ("A run-in 4", "Nothing comes before A. Say from which part, such as run-in 4 from A."),
        ("Break run-in 0", "A run-in has one count at least."),
        ("Break run-in 4 from Nowhere", "No part is called “Nowhere”."),
        ("A counts 8-5", "A stage needs at least one count."),
        ("A + Break first 2 sounds", "The first sounds are those of one part."),
        ("", "No part is called “”."),
        ("whole by ear", "Questions by ear are about one part."),
        ("A rest 99", "Between 0 and 64 counts of rest, not 99."),
    )
    def test_what_cannot_be_is_said(self, said: str, message: str) -> None:
        with self.assertRaises(FirnError) as caught:
            read_stage(said, KNOWN)
        self.assertIn(message, str(caught.exception))

    def test_a_drill_in_one_line(self) -> None:
        made = read_drill("drill Monday: A 72-96 by 4 both sides x2; Break run-in 4; whole x1", KNOWN)
        self.assertEqual((made.name, len(made.stages), made.faults), ("Monday", 3, ()))
        self.assertEqual(made.stages[1].parts, ("a", "b"))

    def test_a_drill_in_lines_with_faults(self) -> None:
        made = read_drill("drill Monday:\nA 60\n\nC 60\nwhole  # at last\n", KNOWN, name="Tuesday")
        self.assertEqual((made.name, [s.kind for s in made.stages]), ("Monday", ["whole", "whole"]))
        self.assertEqual(made.faults, ((3, "No part is called “C”."),))
        self.assertEqual(read_drill("A 60", KNOWN, name="Tuesday").name, "Tuesday")

    def test_too_many_stages_are_said(self) -> None:
        made = read_drill("A;" * 61, KNOWN)
        self.assertEqual((len(made.stages), made.faults), (60, ((0, "A drill has 60 stages at most, not 61."),)))

    def test_reasons_stay_with_stages_that_are_as_they_were(self) -> None:
        before = [replace(read_stage("A 60", KNOWN), why="it is new"), read_stage("whole", KNOWN)]
        made = with_reasons(
            [read_stage("whole", KNOWN), read_stage("A 60", KNOWN), read_stage("A 62", KNOWN)], before
        )
        self.assertEqual([s.why for s in made], ["", "it is new", ""])


class PropertyTest(unittest.TestCase):
    def test_said_again_it_is_the_same(self) -> None:
        chance = random.Random(12)
        for _ in range(2_000):
            made = _stage(chance)
            said = stage_text(made, KNOWN.names)
            self.assertEqual(read_stage(said, KNOWN), made, said)
        drill = Drill("x", "p", "Monday", tuple(_stage(chance) for _ in range(12)))
        read = read_drill(drill_text(drill, KNOWN.names), KNOWN)
        self.assertEqual((read.name, read.stages, read.faults), ("Monday", drill.stages, ()))

    def test_any_text_is_read_or_refused(self) -> None:
        chance = random.Random(3)
        pieces = ["A", "Break", "+", "72", "-", "96", "by", "4", "x2", "both sides", "with", "gaps", "rest", "run-in",
                  "from", "counts", "(", ")", ";", "\n", "drill", ":", "whole", "#", ",", "9" * 30, "é"]  # fmt: skip
        for _ in range(3_000):
            text = " ".join(chance.choices(pieces, k=chance.randint(1, 14)))
            read_drill(text, KNOWN)

    def test_a_part_that_is_gone_is_left_out(self) -> None:
        drill = Drill("x", "p", "Monday", (stage("whole", "z"), stage("whole", "a")))
        self.assertEqual(drill_text(drill, KNOWN.names), "drill Monday:\nA, at 100, both sides")

    def test_a_fault_is_one_of_the_users(self) -> None:
        self.assertTrue(issubclass(DrillTextError, FirnError))


def _stage(chance: random.Random) -> Stage:
    kind = chance.choice(list(MAKERS))
    if kind == "ear":
        return by_ear("a", 72.5, chance.choice([1, 5, 10]))
    parts = tuple(chance.sample(["a", "b", "c", "d"], chance.randint(1, 3)))
    lead = chance.choice([0, 0, 4]) if len(parts) == 2 else 0
    if chance.random() < 0.2:
        parts, lead = (COMBO,), 0
    alone = len(parts) == 1 and parts != (COMBO,)
    start = chance.choice([60.0, 72.5, 100.0])
    end = chance.choice([start, start + 24])
    return Stage(
        kind, parts,
        chance.choice([None, (0, 4), (3, 4)]) if alone else None,
        start, end, chance.choice([2.0, 4.0]) if end != start else 4.0,
        chance.choice(get_args(StageSides)), chance.choice([1, 2, 5]), chance.choice(get_args(StageHeard)),
        chance.choice([0, 4, 8]), lead,
    )  # fmt: skip


if __name__ == "__main__":
    unittest.main()
