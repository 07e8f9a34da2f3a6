"""What tests of lines as they are said ask of a line."""

import unittest

from tests.core.test_readings import doubted, piece, said


class ReadCase(unittest.TestCase):
    """A test of how lines are read."""

    def assert_read(self, tradition: str, body: str, sounds: str, *offers: list[str]) -> None:
        """A line is read so, with nothing wrong, and just so much in doubt."""
        one = piece(tradition, body)
        self.assertEqual((said(one), [p.message for p in one.problems], doubted(one)), (sounds, [], [*offers]))

    def assert_asked(self, tradition: str, body: str, message: str) -> None:
        """A line is asked about in that sentence alone."""
        self.assertEqual([p.message for p in piece(tradition, body).problems], [message])
