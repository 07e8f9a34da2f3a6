"""A class: its items and their minutes, its clock, and what goes to the next one; sums by hand."""

import unittest

from msgspec.structs import replace

from firn.core.book.book import Book, new_piece
from firn.core.book.edits import AddPiece, DeletePiece
from firn.core.book.practice_edits import AddClass, ChangeClass, DeleteClass
from firn.core.drills.class_plan import (
    ClassClock,
    ClassItem,
    ClassPlan,
    ItemKind,
    carried,
    checked_class,
    clock,
    first_items,
)
from firn.errors import FirnError
from tests.support import cases

PLAN = ClassPlan(
    "c", "p", "Thursday",
    (
        ClassItem("warm_up", 8), ClassItem("review", 10, "a"), ClassItem("new", 14, "b", "Ears first."),
        ClassItem("drill", 12, "b"), ClassItem("cool_down", 3),
    ),
)  # fmt: skip


class ItemsTest(unittest.TestCase):
    """The order and the shares are common practice, no source."""

    def test_an_hour(self) -> None:
        items = first_items(60, ["a"], "b", joins=True)
        self.assertEqual(
            [(i.kind, i.minutes, i.part) for i in items],
            [("warm_up", 8, ""), ("review", 10, "a"), ("new", 14, "b"), ("drill", 12, "b"), ("join", 8, ""),
             ("music", 5, ""), ("cool_down", 3, "")],
        )  # fmt: skip
        self.assertIn("Ankles", items[0].say)

    @cases(("", 15), ("", 23), ("", 45), ("", 60), ("", 61), ("", 90), ("", 240))
    def test_all_minutes_are_given(self, _: str, minutes: int) -> None:
        for review, new, joins in (([], "", False), (["a"], "", True), ([], "b", False), (["a", "b"], "c", True)):
            items = first_items(minutes, review, new, joins=joins)
            self.assertEqual(sum(i.minutes for i in items), minutes)
            self.assertTrue(all(i.minutes >= 1 for i in items))

    @cases(("nothing known", [], "b", False, {"review", "join"}), ("nothing new", ["a"], "", True, {"new"}))
    def test_what_there_is_none_of(self, _: str, review: list, new: str, joins: bool, none: set) -> None:
        kinds = {i.kind for i in first_items(60, review, new, joins=joins)}
        self.assertFalse(kinds & none)
        self.assertLessEqual({"warm_up", "drill", "cool_down"}, kinds)

    def test_nothing_new_drills_what_is_known(self) -> None:
        drill = next(i for i in first_items(60, ["a"], "", joins=True) if i.kind == "drill")
        self.assertEqual(drill.part, "a")

    @cases(("", 14), ("", 241), ("", 0), ("", -5))
    def test_too_short_and_too_long(self, _: str, minutes: int) -> None:
        with self.assertRaisesRegex(FirnError, "between 15 and 240"):
            first_items(minutes, [], "", joins=False)


class ClockTest(unittest.TestCase):
    @cases(
        ("it begins", 0, 0, 0, 480, 0),
        ("in the warm-up", 0, 0, 100, 380, 0),
        ("the warm-up lasts a minute longer", 0, 0, 540, -60, 60),
        ("the review begun two minutes late", 1, 600, 700, 500, 120),
        ("and lasts longer still", 1, 600, 1300, -100, 220),
        ("the review begun a minute early", 1, 420, 420, 600, -60),
        ("in the last item, on time", 4, 2640, 2700, 120, 0),
    )
    def test_what_is_left_and_how_far_behind(
        self, _: str, at: int, begun: float, now: float, left: float, behind: float
    ) -> None:
        self.assertEqual(clock(PLAN, at, begun, now), ClassClock(at, left, behind))


class CarriedTest(unittest.TestCase):
    @cases(
        ("ended in the review", 1, 240,
         [("warm_up", 8), ("review", 6), ("new", 14), ("drill", 12), ("cool_down", 3)]),
        ("as the new step was done", 3, 0, [("warm_up", 8), ("review", 14), ("drill", 12), ("cool_down", 3)]),
        ("in the last minute of the drill", 3, 11 * 60 + 1,
         [("warm_up", 8), ("review", 14), ("drill", 1), ("cool_down", 3)]),
        ("in the cool down", 4, 10, []),
        ("the drill as long as planned", 3, 720, []),
    )  # fmt: skip
    def test_what_is_left_goes_to_the_next(
        self, _: str, at: int, in_item: float, wanted: list[tuple[ItemKind, int]]
    ) -> None:
        self.assertEqual([(i.kind, i.minutes) for i in carried(PLAN, at, in_item)], wanted)


class KeptTest(unittest.TestCase):
    BOOK = AddPiece(new_piece("p", "a", "Gate Latch")).apply(Book())

    def test_added_changed_deleted_and_gone_with_its_piece(self) -> None:
        book = AddClass(PLAN).apply(self.BOOK)
        changed = ChangeClass(replace(PLAN, name="Friday", items=PLAN.items[:2])).apply(book)
        self.assertEqual([(c.name, c.minutes) for c in changed.classes_of("p")], [("Friday", 18)])
        self.assertEqual(changed.classes_of("other"), ())
        self.assertEqual(DeleteClass("c").apply(changed).classes, ())
        self.assertEqual(DeletePiece("p").apply(changed).classes, ())

    @cases(
        (replace(PLAN, items=(ClassItem("new", 0),)), "between 1 and 240 minutes"),
        (replace(PLAN, items=(ClassItem("new", 999),)), "between 1 and 240 minutes"),
        (replace(PLAN, items=(ClassItem("new", 5),) * 41), "40 items"), (replace(PLAN, name=""), "one letter"),
    )  # fmt: skip
    def test_what_cannot_be_kept(self, plan: ClassPlan, said: str) -> None:
        with self.assertRaisesRegex(FirnError, said):
            AddClass(plan).apply(self.BOOK)

    def test_what_is_said_is_one_line_of_some_length(self) -> None:
        kept = checked_class(replace(PLAN, items=(ClassItem("new", 5, "", "ears \n first " + "x" * 900),)))
        self.assertEqual(kept.items[0].say[:11], "ears first ")
        self.assertEqual(len(kept.items[0].say), 400)


if __name__ == "__main__":
    unittest.main()
