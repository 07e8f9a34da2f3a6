"""Sections of a combo: named where they are first danced, danced again by their names. The grammar is Firn's own."""

import unittest

from firn.core.piece.build import piece_from
from firn.core.reading.ledger import ledger
from firn.core.script.combo import read_combo
from firn.core.script.combo_edits import ComboEditError, edited, once_more
from firn.core.script.combo_parts import MOST_ITEMS
from tests.support import cases

NAMES = ["A", "B", "Break"]


def danced(text: str) -> str:
    items, problems = read_combo(text.split("\n"), NAMES)
    said = " ".join(
        f"{f'{i.section}:' if i.section else ''}{i.part}{f'x{i.times}' if i.times > 1 else ''}" for i in items
    )
    return said + "".join(f" !{p.code}" for p in problems)


class SectionsTest(unittest.TestCase):
    @cases(
        ("section Verse: A x2, Break", "Verse:Ax2 Break"),
        ("section Verse: A x2, Break\nVerse", "Verse:Ax2 Break Verse:Ax2 Break"),
        ("section verse: A, B\nB, VERSE x2, A", "verse:A B B verse:A B verse:A B A"),
        ("section Last chorus: A\n2x last chorus", "Last chorus:A Last chorus:A Last chorus:A"),
        ("section Verse: A\nsection Chorus: Verse, B\nChorus", "Verse:A Chorus:A B Chorus:A B"),
        ("section Verse: A, B\n(Verse, Break) x2", "Verse:A B Verse:A B Break Verse:A B Break"),
        ("section Verse: A\nVerse, B x2", "Verse:A Verse:A Bx2"),
        ("Verse\nsection Verse: A", "Verse:A !C401"),
        ("section Verse: A\nVerse, other side", "Verse:A Verse:A !C402"),
        ("section A: B", "B !C402"),
        ("section Verse:\nVerse", " !C401"),
        ("section Verse: A\nVerse x99", "Verse:A Verse:A !N111"),
    )
    def test_read(self, text: str, wanted: str) -> None:
        self.assertEqual(danced(text).strip(), wanted.strip())

    def test_five_sections_begin_against_phrases_of_32(self) -> None:
        """Of 16, 16, 8, 8 and 8 counts: the second time through begins on 25 of 32. Common practice, no source."""
        eight = "1 step  2 step  3 step  4 step  5 step  6 step  7 step  8 touch"
        sections = "\n".join(
            f"section {name}: A{f' x{many}' if many > 1 else ''}"
            for name, many in zip("VWXYZ", (2, 2, 1, 1, 1), strict=True)
        )
        whole = ledger(*_unfolded(f"part A\n{eight}\ncombo\n{sections}\nV, W, X, Y, Z\n"))
        starts = [(e.section, int(e.start), int(e.in_long)) for e in whole.entries if e.section]
        self.assertEqual(starts[:5], [("V", 1, 1), ("W", 17, 17), ("X", 33, 1), ("Y", 41, 9), ("Z", 49, 17)])
        self.assertEqual(starts[5], ("V", 57, 25))

    def test_too_many_are_said(self) -> None:
        lines = ["section S0: A, A", *(f"section S{n}: S{n - 1} x2" for n in range(1, 30))]
        items, problems = read_combo(lines, NAMES)
        self.assertLessEqual(len(items), MOST_ITEMS)
        self.assertIn("N111", {p.code for p in problems})

    def test_changed_by_hand_where_it_is_said(self) -> None:
        text = "section Verse: A, B\nBreak"
        items, _ = read_combo(text.split("\n"), NAMES)
        made = edited(text, items, once_more(items, 1, 1), NAMES)
        self.assertEqual(made, "section Verse: A, B x2\nBreak")

    def test_what_would_lose_its_names_is_left(self) -> None:
        text = "section Verse: A, B\nVerse"
        items, _ = read_combo(text.split("\n"), NAMES)
        with self.assertRaises(ComboEditError) as caught:
            edited(text, items, once_more(items, 3, 1), NAMES)
        self.assertIn("sections would be lost", str(caught.exception))


def _unfolded(text: str):  # type: ignore[no-untyped-def]
    from firn.core.piece.unfold import unfold

    piece = piece_from(text)
    return piece, unfold(piece)


if __name__ == "__main__":
    unittest.main()
