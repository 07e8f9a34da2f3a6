"""Finding words: the place is that of the line as typed."""

import unittest

from firn.core.book.book import Book, piece_of_script
from firn.core.book.edits import AddPiece
from firn.session.find import find
from tests.support import cases


class FindTest(unittest.TestCase):
    @cases(
        ("whatever its case", "STEP", "1 step", (2, 6)),
        ("after a letter that folds into two", "step", "# Fuß\u0130: step", (8, 12)),
        ("signs are letters, too", "(x", "1 step (x", (7, 9)),
    )
    def test_where_it_stands(self, _: str, wanted: str, line: str, expected: tuple[int, int]) -> None:
        book = AddPiece(piece_of_script(f"part A\n{line}\n", ["1", "2", "3"])).apply(Book())
        self.assertEqual([(f.column, f.end) for f in find(book, wanted)], [expected])

    def test_nothing_asked(self) -> None:
        self.assertEqual(find(Book(), " "), [])


if __name__ == "__main__":
    unittest.main()
