"""What a judged take puts into the log: no more than the ear is sure of."""

import unittest

import numpy as np

from firn.core.book.book import Book, Take, piece_of_script
from firn.core.book.edits import AddPiece
from firn.core.ear.onsets import Loudness, Onsets
from firn.core.ear.targets import targets_of
from firn.core.ear.verdict import judge
from firn.core.piece.build import piece_from
from firn.session.log import entry_of
from tests.support import cases

SCRIPT = "piece: Lamp\npart A\n1 stamp & step 2 step 3 hop & step 4 step 5 stamp & step 6 step 7 stamp 8 hold\n"
PART = piece_from(SCRIPT).parts[0]
TIMES = np.array([0.5 + t.seconds for t in targets_of(PART.sounds, 112, counts=PART.counts, passes=3)])
EVERYWHERE = np.arange(0, 20, 0.01)


class TakeLogTest(unittest.TestCase):
    @cases(
        ("all is heard", (), "clean"),
        ("what the room covers may not have been danced", (2, 12, 22), ""),
        ("a habit that is plain", (), "lost"),
    )
    def test_how_it_went(self, why: str, covered: tuple[int, ...], how: str) -> None:
        book = AddPiece(piece_of_script(SCRIPT, ["p", "a"])).apply(Book())
        late = np.isin(np.arange(len(TIMES)), (2, 12, 22)) * 0.07 * (how == "lost")
        times = np.delete(TIMES + late, covered)
        # As loud everywhere as its sounds: what is not heard would not stand out.
        loud = Loudness(EVERYWHERE, np.full(len(EVERYWHERE), -14.0 if covered else -60.0))
        verdict = judge(PART, 112, Onsets(times, np.full(len(times), -14.0), np.full(len(times), 0.99), loud=loud))
        take = Take("t", "p", "a", "one", "2026-11-20T18:00:00+00:00", "0", 48_000, 480_000, 112.0)
        entry = entry_of(book, take, PART, verdict)
        assert entry is not None
        self.assertEqual((entry.how, entry.of), (how, len(TIMES)))


if __name__ == "__main__":
    unittest.main()
