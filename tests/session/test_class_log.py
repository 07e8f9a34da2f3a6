"""What a class's log says: what changed, and what most lack. Worked by hand on a small class."""

import unittest

from firn.core.book.book import Book, piece_of_script
from firn.core.book.edits import AddLog, AddPiece
from firn.core.book.log import LogEntry
from firn.core.book.practice_edits import AddStudent
from firn.core.book.students import OWNER, Student
from firn.core.drills.class_plan import ClassItem, ClassPlan
from firn.session.class_log import Change, Lack, changes, class_said, lacks, with_review

PIECE = piece_of_script("piece: Lamp\npart A\n1 step\n\npart B\n1 stamp\n", ["p", "b", "a"])


def book(*rows: tuple[str, str, str, float, str]) -> Book:
    """A workbook of three students with a log: student, day, part, tempo, how."""
    made = AddPiece(PIECE).apply(Book())
    for key, name in (("w", "Wren"), ("i", "Ivo"), ("m", "Mara")):
        made = AddStudent(Student(key, name)).apply(made)
    for n, (student, day, part, tempo, how) in enumerate(rows):
        entry = LogEntry(str(n), f"{day}T18:00:00+00:00", f"Lamp, {part}", part, "right", tempo, how, student=student)  # type: ignore[arg-type]
        made = AddLog(entry).apply(made)
    return made


LOG = (
    ("w", "2026-11-10", "a", 90, "clean"),
    ("w", "2026-11-20", "a", 104, "clean"),
    ("w", "2026-11-21", "b", 80, "lost"),
    ("i", "2026-11-20", "a", 120, "clean"),
    ("i", "2026-11-21", "b", 96, "clean"),
    (OWNER, "2026-11-21", "b", 130, "clean"),
)


class ClassLogTest(unittest.TestCase):
    def test_what_changed_student_by_student(self) -> None:
        self.assertEqual(
            changes(book(*LOG), PIECE, "2026-11-15"),
            [
                Change("w", "Wren", 2, (("A", 90.0, 104.0),)),
                Change("i", "Ivo", 2, (("A", 0.0, 120.0), ("B", 0.0, 96.0))),
            ],
        )
        self.assertEqual(changes(book(*LOG), PIECE, "2026-12-01"), [])

    def test_what_most_lack_first(self) -> None:
        found = lacks(book(*LOG), PIECE, 116)
        self.assertEqual(found, [Lack("b", "B", ("w", "i"), 2, 0.0), Lack("a", "A", ("w",), 2, 104.0)])
        # Nobody lacks what is slower than all of them dance, and the owner is none of the class.
        self.assertEqual([one.part for one in lacks(book(*LOG), PIECE, 90)], ["b"])
        self.assertEqual(lacks(book(LOG[-1]), PIECE, 140), [])

    def test_on_the_day_itself_and_at_the_tempo_itself(self) -> None:
        since = changes(book(*LOG[:2]), PIECE, "2026-11-20")
        self.assertEqual(since, [Change("w", "Wren", 1, (("A", 90.0, 104.0),))])
        # The same tempo again is no rise.
        again = changes(book(LOG[1], ("w", "2026-11-22", "a", 104, "clean")), PIECE, "2026-11-22")
        self.assertEqual(again, [Change("w", "Wren", 1, ())])
        self.assertEqual(lacks(book(LOG[1]), PIECE, 104), [])
        self.assertEqual([one.students for one in lacks(book(LOG[1]), PIECE, 104.5)], [("w",)])

    def test_in_sentences(self) -> None:
        said = class_said(book(*LOG), PIECE, 116, "2026-11-15")
        self.assertIn("Since 2026-11-15: Wren 2 times, A 90 to 104; Ivo 2 times, A at 120, B at 96.", said)
        self.assertIn("Most lack B: none of them clean at 116 yet.", said)
        one = class_said(book(*LOG[:2], LOG[3]), PIECE, 116, "2026-11-20")
        self.assertIn("Most lack A: 1 of 2 not clean at 116 yet, one not faster than 104.", one)
        self.assertEqual(class_said(book(), PIECE, 116, "2026-11-15"), "")

    def test_the_review_comes_behind_the_warm_up(self) -> None:
        lack = Lack("b", "B", ("w", "i"), 3, 80.0)
        warm, new = ClassItem("warm_up", 8), ClassItem("new", 20, "a")
        item = ClassItem("review", 10, "b", "2 of 3 are not clean at it yet.")
        self.assertEqual(with_review(ClassPlan("c", "p", "Next", (warm, new)), lack).items, (warm, item, new))
        self.assertEqual(with_review(ClassPlan("c", "p", "Next", (new,)), lack).items, (item, new))


if __name__ == "__main__":
    unittest.main()
