"""A part on paper: what stands on it, that it reads in grey, and what happens where it cannot be written."""

import unittest

from pypdf import PdfReader
from PySide6.QtCore import Qt
from PySide6.QtGui import QImage, QPainter

from firn.core.piece.build import part_from
from firn.core.script.settings import Settings
from firn.session.demo import make_demo
from firn.session.notes import part_notes
from firn.session.paper import paper
from firn.session.stretch import part_stretch
from firn.ui.paper import WIDTH, PaperPainter
from firn.ui.theme.tokens import LAMP_ON
from tests.support import cases, contrast
from tests.ui.window import CTRL, SHIFT, WindowCase, application

HEIGHT = 1_335.0
SETTINGS = Settings(name="Gate Latch", feel="swing", phrase=8)


def sheet(text: str):
    part = part_from("A", text, SETTINGS)
    return paper(SETTINGS, "A", part_stretch(part), text, tuple(part_notes(part)))


class PaperTest(unittest.TestCase):
    def setUp(self) -> None:
        application()

    @cases(("a phrase", 1, 1), ("eight phrases", 8, 2), ("sixty-four", 64, 11))
    def test_pages(self, _: str, phrases: int, least: int) -> None:
        pages = PaperPainter(sheet("1 step 2-8 hold\n" * phrases), HEIGHT)
        self.assertGreaterEqual(len(pages.pages), least)
        for blocks in pages.pages:
            self.assertLessEqual(sum(b.height for b in blocks), HEIGHT)
            self.assertNotEqual(blocks[-1].kind, "heading")
        rows = [b.row for blocks in pages.pages for b in blocks if b.kind == "strip"]
        self.assertEqual(rows, list(range(phrases)))

    def test_readable_in_grey(self) -> None:
        """Without colour all keeps 4.5:1 against the paper (WCAG 2.2); feet differ by lane and letter."""
        pages = PaperPainter(sheet("1 stomp 2 step 3 L flap! 4 heel 5-6 hold"), HEIGHT)
        image = QImage(int(WIDTH), int(HEIGHT), QImage.Format.Format_RGB32)
        image.fill(Qt.GlobalColor.white)
        painter = QPainter(image)
        pages.paint(painter, 0, HEIGHT)
        painter.end()
        grey = image.convertToFormat(QImage.Format.Format_Grayscale8)
        dark = sum(grey.pixelColor(x, y).red() < 120 for x in range(0, int(WIDTH), 3) for y in range(0, 360, 3))
        self.assertGreater(dark, 300)
        for role in ("ink", "quiet", "left", "right", "look", "bad"):
            level = grey_of(getattr(LAMP_ON, role))
            self.assertGreaterEqual(contrast(f"#{level:02x}{level:02x}{level:02x}", "#ffffff"), 4.5, role)


def grey_of(colour: str) -> int:
    """The grey of a colour, 0 to 255 (ITU-R BT.601)."""
    red, green, blue = (int(colour[at : at + 2], 16) for at in (1, 3, 5))
    return round(0.299 * red + 0.587 * green + 0.114 * blue)


class PdfTest(WindowCase):
    def test_what_stands_in_it(self) -> None:
        """Read back by pypdf: heading, counts, words, the script with its note, findings, page numbers."""
        self.shut()
        self.open(make_demo(self.folder / "demo.firn"))
        piece = self.book.pieces[0]
        self.desk.go_to(piece.id, piece.parts[2].id)
        self.answers.path = self.folder / "break.pdf"
        self.key(Qt.Key.Key_P, CTRL | SHIFT)
        reader = PdfReader(self.answers.path)
        text = " ".join(reader.pages[0].extract_text().split())
        self.assertEqual(len(reader.pages), 1)
        self.assertEqual(reader.metadata.title if reader.metadata else "", "Gate Latch, Break")
        for said in ("4/4, swing", "126 counts a minute", "counted in 5 6 7;", "shuffle step", "# look up here",
                     "Ends with the", "page 1 of 1"):  # fmt: skip
            self.assertIn(said, text)
        width, height = (float(n) / 72 * 25.4 for n in reader.pages[0].mediabox[2:])
        self.assertAlmostEqual(width, 210, delta=1)
        self.assertAlmostEqual(height, 297, delta=1)
        self.assertIn("break.pdf holds 1 page.", self.window.banner.text)

    def test_a_combo_takes_pages(self) -> None:
        self.shut()
        self.open(make_demo(self.folder / "demo.firn"))
        self.desk.go_to(self.book.pieces[0].id, "combo")
        self.answers.path = self.folder / "combo.pdf"
        self.window.actions_by_id["pdf"].trigger()
        reader = PdfReader(self.answers.path)
        self.assertEqual(len(reader.pages), 3)
        self.assertIn("page 3 of 3", " ".join(reader.pages[2].extract_text().split()))

    def test_nothing_to_print(self) -> None:
        self.window.actions_by_id["print"].trigger()
        self.assertIn("nothing to print yet", self.window.banner.text)

    def test_a_place_that_cannot_be_written(self) -> None:
        self.dictate("1 step")
        self.answers.path = self.folder / "nowhere" / "a.pdf"
        self.window.actions_by_id["pdf"].trigger()
        self.assertRegex(self.window.banner.text, "a.pdf could not be written: No such file")
        self.assertEqual(list(self.folder.glob("*.part")), [])

    def test_a_printer(self) -> None:
        """A printer that prints into a file stands for one with paper in it."""
        self.dictate("1 step  2 stamp")
        path = self.folder / "printed.pdf"
        self.answers.prints_to = path
        self.key(Qt.Key.Key_P, CTRL)
        self.assertIn("As it is said", " ".join(PdfReader(path).pages[0].extract_text().split()))


if __name__ == "__main__":
    unittest.main()
