"""Which sound the caret stands in: the first of its word, by line and column, against going through all of them."""

import unittest

from firn.core.piece.build import piece_from
from firn.core.piece.piece import Part
from tests.support import cases


def by_all(part: Part, line: int, column: int) -> tuple[int | None, int | None]:
    firsts: dict[int, int] = {}
    for index, sound in enumerate(part.sounds):
        firsts.setdefault(sound.use, index)
    words = [(part.uses[u], i) for u, i in firsts.items()]
    spots = sorted((u.line, u.word.column, u.word.end, i) for u, i in words)
    before = [spot for spot in spots if spot[:2] <= (line, column)]
    inside = [i for at, _, end, i in before if at == line and column <= end and before[-1][:2] == (at, _)]
    return (inside[0] if inside else None), (before[-1][3] if before else None)


class SaidAtTest(unittest.TestCase):
    @cases(
        ("plain", "1 step  2 flap\n3 shuffle step  4 hold"),
        ("several times", "1 flap x3\n( 5 step  6 hop ) x2"),
        ("again", "1 step  2 step  3 touch\nagain x2\nother side\n1 stomp"),
        ("hands", "1 step  2 step\nhands: 1 clap  & snap\n3 step  4 step\nvoiced hands: 2 clap"),
        ("joined", "1 step + clap  2 cramp roll = clap"),
        ("before the first", "\n\n  1 step\n\n2 hop"),
        ("none", ""),
    )
    def test_as_by_going_through_all(self, _: str, text: str) -> None:
        part = piece_from(f"piece: P\n\npart A\n{text}").parts[0]
        for line, row in enumerate(text.split("\n")):
            for column in range(len(row) + 2):
                self.assertEqual(part.said_at(line, column), by_all(part, line, column), (line, column))


if __name__ == "__main__":
    unittest.main()
