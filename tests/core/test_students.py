"""Students of a workbook: whose log, takes, answers and drills are whose."""

import unittest

from msgspec.structs import replace

from firn.core.book.book import Book, new_piece
from firn.core.book.edits import AddLog, AddPiece, AddTake, NoteAnswer
from firn.core.book.log import Answer
from firn.core.book.practice_edits import AddDrill, AddStudent, ChangeStudent, DeleteStudent, Practise
from firn.core.book.students import Student
from firn.core.drills.stage import Drill
from firn.errors import FirnError
from tests.core.test_book import ENTRY, TAKE
from tests.support import cases

BOOK = AddPiece(new_piece("p", "a", "Gate Latch")).apply(Book())
ADA, BO = Student("k1", "A. L."), Student("k2", "B. O.", "other side", tempo=90)


def with_students() -> Book:
    book = BOOK
    for edit in (
        AddStudent(ADA), AddStudent(BO), AddLog(replace(ENTRY, id="mine", take="")),
        AddLog(replace(ENTRY, id="hers", student="k1", take="t1")), AddTake(replace(TAKE, id="t1", student="k1")),
        AddTake(TAKE), AddDrill(Drill("all", "p", "For all")), AddDrill(Drill("one", "p", "For B. O.", student="k2")),
        NoteAnswer(Answer("how_many", True, student="k1")), NoteAnswer(Answer("how_many", False)),
    ):  # fmt: skip
        book = edit.apply(book)
    return book


class StudentsTest(unittest.TestCase):
    @cases(("", ["mine"], ["all"], [False]), ("k1", ["hers"], ["all"], [True]), ("k2", [], ["all", "one"], []))
    def test_what_is_whose(self, who: str, log: list[str], drills: list[str], answers: list[bool]) -> None:
        book = Practise(who).apply(with_students())
        self.assertEqual([e.id for e in book.own_log], log)
        self.assertEqual([d.id for d in book.drills_of("p")], drills)
        self.assertEqual([a.right for a in book.own_ear], answers)
        self.assertEqual(book.student, {"k1": ADA, "k2": BO}.get(who))

    def test_who_is_added_practises(self) -> None:
        self.assertEqual(AddStudent(ADA).apply(BOOK).who, "k1")

    def test_nobody_unknown_practises(self) -> None:
        self.assertEqual(Practise("k9").apply(with_students()).who, "")

    def test_deleted_with_all_that_is_theirs_and_nothing_else(self) -> None:
        book = DeleteStudent("k1").apply(Practise("k1").apply(with_students()))
        self.assertEqual([s.id for s in book.students], ["k2"])
        self.assertEqual(([e.id for e in book.log], [t.id for t in book.takes]), (["mine"], ["t"]))
        self.assertEqual(([a.right for a in book.ear], book.who), ([False], ""))
        book = DeleteStudent("k2").apply(with_students())
        self.assertEqual([d.id for d in book.drills], ["all"])

    def test_the_owner_stays(self) -> None:
        book = with_students()
        self.assertEqual(DeleteStudent("").apply(book), book)

    def test_changed(self) -> None:
        book = ChangeStudent(replace(ADA, name="Ada  L.", mirrored=True)).apply(with_students())
        self.assertEqual(book.students, (Student("k1", "Ada L.", mirrored=True), BO))

    @cases(
        (replace(ADA, name=" "), "at least one letter"), (replace(ADA, name="b. o."), 'called "b. o." already'),
        (replace(ADA, tempo=5.0), "between 20 and 400"), (replace(ADA, level=9), "no level 9"),
    )  # fmt: skip
    def test_what_cannot_be(self, student: Student, said: str) -> None:
        with self.assertRaisesRegex(FirnError, said):
            ChangeStudent(student).apply(with_students())


if __name__ == "__main__":
    unittest.main()
