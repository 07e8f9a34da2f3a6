"""Lines of before, kept as they were meant: what is written for them reads as they did, and is not doubted."""

import unittest

from firn.core.piece.build import build_part
from firn.core.piece.kept import kept
from firn.core.script.reader import read_part
from firn.core.script.settings import Settings
from tests.support import cases

HEAD = Settings(phrase=8)


def danced(text: str, *, before: bool) -> list[tuple[str, str, str]]:
    part = build_part(read_part("A", text, HEAD, before=before), HEAD)
    return [(str(s.place), s.kind, s.foot) for s in part.sounds if s.kind != "hold"]


class KeptTest(unittest.TestCase):
    @cases(
        ("8 stomp  1 hop  2 step  &3 flap  & step",),
        ("1 heel toe  2 toe heel  3 step x2",),
        ("1 step  2-4 hold",),
        ("( 1 step  2 flap ) x2",),
    )
    def test_what_reads_as_it_did_is_left(self, text: str) -> None:
        self.assertEqual((kept("A", text, HEAD).text, kept("A", text, HEAD).lines), (text, 0))

    @cases(
        ("& flap  2 step", "1& flap  2 step"),
        ("1 step 2 flap x3", "1 step  &2 flap  &3 flap  &4 flap"),
        ("1-4 step  5 step", "1 step  2-4 hold  5 step"),
        ("1 step 2 step 3 heel 4 heel", "1 step  2 step  3 L heel  4 heel"),
        ("dig spank heel toe heel", "1 dig  2 spank  3& heel toe  4 heel"),
        ("1 basic", "1 clogging-basic"),
        ("&a1 touch pickup land  2 step", "& touch  a pickup  1 L land  2 step"),
        ("1 step  2 step\n3-4 step  5 stamp  # low", "1 step  2 step\n3 step  4 hold  5 stamp   # low"),
    )
    def test_what_would_read_otherwise_says_what_it_meant(self, text: str, written: str) -> None:
        made = kept("A", text, HEAD)
        self.assertEqual((made.text, made.lines, made.whole), (written, 1, True))
        self.assertEqual(danced(made.text, before=False), danced(text, before=True))
        self.assertEqual(read_part("A", made.text, HEAD).doubts, ())

    def test_what_was_not_understood_is_left(self) -> None:
        text = "1 stepp\n1 step and heel\n& flap  2 step"
        self.assertEqual(kept("A", text, HEAD).text.split("\n")[:2], text.split("\n")[:2])

    @cases(("1 heel, toe",), ("stomp 8, hop 1",), ("1 step 3 times",), ("1+2 step",))
    def test_what_was_complained_of_is_left(self, text: str) -> None:
        self.assertTrue(read_part("A", text, HEAD, before=True).problems)
        self.assertEqual(kept("A", text, HEAD).text, text)


if __name__ == "__main__":
    unittest.main()
