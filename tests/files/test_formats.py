"""Kinds of files: what they are called, and which of several a name means."""

import unittest
from pathlib import Path

from firn.errors import FileFormatError
from firn.files.formats import CARDS, PAPER, PIECE, format_of, offered
from firn.session.report import CHECKS
from tests.support import cases


class FormatsTest(unittest.TestCase):
    def test_as_a_dialog_offers_them(self) -> None:
        self.assertEqual(offered([PIECE, CARDS]), "Pieces (*.steps);;Cards (*.toml)")

    @cases(
        ("a.json", "All as JSON"),
        ("a.findings.csv", "Findings as a table"),
        ("A.MEASURES.CSV", "Measures as a table"),
        ("a", "All as JSON"),
    )
    def test_which_a_name_means(self, name: str, expected: str) -> None:
        self.assertEqual(format_of(Path(name), CHECKS).name, expected)

    def test_what_firn_does_not_do_is_said(self) -> None:
        with self.assertRaises(FileFormatError):
            PAPER.read(Path("a.pdf"))


if __name__ == "__main__":
    unittest.main()
