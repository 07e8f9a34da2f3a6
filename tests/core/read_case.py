"""What tests of lines as they are said ask of a line."""

import unittest

from firn.core.piece.piece import Piece
from tests.core.test_readings import doubted, piece, said, sounding


class ReadCase(unittest.TestCase):
    """A test of how lines are read."""

    def assert_read(self, tradition: str, body: str, sounds: str, *offers: list[str]) -> None:
        """A line is read so, with nothing wrong, and just so much in doubt."""
        one = piece(tradition, body)
        self.assertEqual((said(one), [p.message for p in one.problems], doubted(one)), (sounds, [], [*offers]))

    def assert_asked(self, tradition: str, body: str, message: str) -> None:
        """A line is asked about in that sentence alone."""
        self.assertEqual([p.message for p in piece(tradition, body).problems], [message])

    def assert_as_written(self, tradition: str, said: str, written: str) -> tuple[Piece, Piece]:
        """A body as it is said sounds as it is written out, and nothing of it is asked about; gives both."""
        one, other = piece(tradition, said), piece(tradition, written)
        self.assertEqual(([p.message for p in one.problems], doubted(one)), ([], []))
        self.assertEqual([p.message for p in other.problems], [])
        self.assertEqual(sounding(one), sounding(other))
        return one, other
