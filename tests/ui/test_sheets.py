"""Cue sheets and tables of counts: what stands on them, in which order, and on how many pages."""

import io
import shutil
import subprocess
import unittest
from datetime import date

from msgspec.structs import replace
from pypdf import PdfReader
from PySide6.QtGui import QImage

from firn.core.book.book import piece_of_script
from firn.core.drills.stage import Drill
from firn.core.drills.text import read_drill
from firn.core.piece.build import piece_from
from firn.core.steps.shelf import shipped
from firn.errors import FirnError
from firn.session.cue_sheet import count_paper, cue_paper, in_both
from firn.session.drill_text import known_of
from firn.session.drilling import plan
from firn.session.levels import levels_paper
from firn.session.paper import paper
from firn.session.planning import practice
from firn.session.practice_paper import drill_paper, week_paper
from firn.session.stretch import part_stretch
from firn.session.view import PLAIN
from firn.ui.printed import SIZES, drawn
from tests.core.test_script import GATE_LATCH
from tests.support import cases
from tests.ui.window import application

PIECE = piece_from(GATE_LATCH)


def pages(data: bytes) -> list[str]:
    return [" ".join(page.extract_text().split()) for page in PdfReader(io.BytesIO(data)).pages]


class CueTest(unittest.TestCase):
    def setUp(self) -> None:
        application()

    def test_a_line_a_figure_in_the_order_of_the_dance(self) -> None:
        sheet = cue_paper(PIECE)
        figures = [(row[1], row[2], row[3]) for row in sheet.tables[0].rows]
        # A x3, the third time ending otherwise; Break; then the other side.
        self.assertEqual(figures[0], ("A", "2", "8 (16)"))
        names = [name for name, _, _ in figures]
        self.assertEqual(list(dict.fromkeys(names)), [row[0] for row in sheet.tables[1].rows])
        total = sum(int(row[3].split()[0]) * int(row[2]) for row in sheet.tables[0].rows)
        self.assertIn(f"{total} counts", sheet.sections[0][1][0])

    def test_it_stands_on_one_page_that_reads_in_order(self) -> None:
        (text,) = pages(drawn(cue_paper(PIECE, languages=("es",)), ".pdf"))
        order = ["Gate Latch: cue sheet", "Figure", "Break", "8 stomp 1 hop 2 step", "All of it", "In Spanish"]
        at = [text.index(words) for words in order]
        self.assertEqual(at, sorted(at))
        many = "\n".join(f"part {chr(65 + n)}\n" + "1 step  2 step  3 step  4 stamp\n" * 3 for n in range(24))
        self.assertEqual(len(pages(drawn(cue_paper(piece_from(many)), ".pdf"))), 1)

    @unittest.skipUnless(shutil.which("pdftotext"), "poppler's pdftotext is not installed")
    def test_poppler_reads_it_in_order(self) -> None:
        """The text in the order in which it was written, as poppler gives it, and every letter of it."""
        done = subprocess.run(
            ["pdftotext", "-raw", "-", "-"], input=drawn(cue_paper(PIECE), ".pdf"), capture_output=True
        )
        text = " ".join(done.stdout.decode().split())
        order = ["Gate Latch: cue sheet", "Figure", "Break", "8 stomp 1 hop 2 step", "All of it", "page 1 of 1"]
        at = [text.index(words) for words in order]
        self.assertEqual(at, sorted(at))
        (same,) = pages(drawn(cue_paper(PIECE), ".pdf"))
        self.assertEqual(text.split(), same.split())

    def test_times_and_brackets_are_read_as_they_are_written(self) -> None:
        """Beside figures the family has other shapes for these, which a reader of the PDF has no letters for."""
        (text,) = pages(drawn(cue_paper(PIECE), ".pdf"))
        self.assertIn("8 (16)", text)
        self.assertRegex(text, r"; \d:\d\d; \d+ sounds")

    def test_sections_stand_before_their_first_figures(self) -> None:
        text = "part A\n1 step 2 touch\npart B\n1 step\n\ncombo\nsection Verse: A x2, B\nVerse\n"
        sheet = cue_paper(piece_from(text))
        self.assertEqual([row[1:3] for row in sheet.tables[0].rows], [("Verse: A", "2"), ("B", "1")] * 2)
        self.assertEqual([row[0] for row in sheet.tables[1].rows], ["A", "B"])

    def test_groups_turns_and_endings_are_on_it(self) -> None:
        text = "part A\n1 step 2 step 3 step 4 touch turn 1/4 right\n\ncombo\nA x2, A turn half left\n"
        rows = cue_paper(piece_from(text)).tables[0].rows
        self.assertTrue(any("1/4" in row[5] for row in rows))
        self.assertEqual(len({row[6] for row in rows}) > 1, True)

    def test_what_goes_on_over_the_parts(self) -> None:
        text = "part A\n1 step 2 step\n\ncombo\nhands, every 2: 2 clap\nA x2\n"
        sections = dict(cue_paper(piece_from(text)).sections)
        self.assertEqual(sections["Over the parts"], ("From A on, hands, every 2: 2 clap",))

    def test_what_is_said_of_the_floor(self) -> None:
        text = "part A\n1 step 2 step\n\ncombo\nformation: a circle\nA x2\npartner: right hands\nA\n"
        sections = dict(cue_paper(piece_from(text)).sections)
        self.assertEqual(sections["On the floor"], ("formation, A: a circle", "partner, A: right hands"))
        # Drawn is what can be, and for how many where that was not said.
        self.assertEqual([(d.title, len(d.dancers)) for d in cue_paper(piece_from(text)).drawings],
                         [("A: a circle, drawn for 8", 8)])  # fmt: skip
        (printed,) = pages(drawn(cue_paper(piece_from(text)), ".pdf"))
        self.assertIn("front A: a circle, drawn for 8", printed)

    def test_without_a_combo_its_parts(self) -> None:
        rows = cue_paper(piece_from("part A\n1 step 2 step\n\npart B\n1 stamp")).tables[0].rows
        self.assertEqual([row[1] for row in rows], ["A", "B"])

    def test_nothing_to_write_and_no_such_language(self) -> None:
        with self.assertRaisesRegex(FirnError, "no steps"):
            cue_paper(piece_from("part A\n"))
        with self.assertRaisesRegex(FirnError, "not tlh"):
            cue_paper(PIECE, languages=("tlh",))


class LevelsTest(unittest.TestCase):
    TWICE = "\n".join(["8 double time step  4 double time step"] * 3)

    def setUp(self) -> None:
        application()

    def test_the_same_counts_at_each_level_below_each_other(self) -> None:
        (one,) = piece_from(f"part A\n{self.TWICE}").parts
        (text, *more) = pages(drawn(levels_paper(one), ".pdf"))
        whole = " ".join((text, *more))
        names = [name for name in whole.split() if name in ("Simpler", "Harder", "Seated")]
        # Row by row, then what stands in.
        self.assertEqual(names[:3] * (len(names) // 3), names)
        self.assertGreaterEqual(len(names), 6)
        order = [whole.index(words) for words in ("single time step", "double time step", "triple time step")]
        self.assertEqual(order, sorted(order))
        self.assertIn("What stands in Simpler: single time step for double time step.", whole)

    def test_what_has_no_other_level_and_what_is_no_strip(self) -> None:
        (one,) = piece_from("part A\n").parts
        with self.assertRaisesRegex(FirnError, "no steps"):
            levels_paper(one)
        (one,) = piece_from("part A\ndanced: seated\n1 step  2 step").parts
        with self.assertRaisesRegex(FirnError, "A has no other level"):
            levels_paper(one)
        (one,) = piece_from(f"part A\n{self.TWICE}").parts
        with self.assertRaisesRegex(FirnError, "such a sheet is a PDF"):
            drawn(levels_paper(one), ".svg")


class TwoLanguagesTest(unittest.TestCase):
    def test_her_own_word_first(self) -> None:
        piece = piece_from("part A\n1 stamp  2 flap  3 palma")
        stretch = part_stretch(piece.parts[0])
        both = in_both(stretch, piece, "es")
        self.assertEqual([text for _, text in both.words], ["stamp / golpe", "flap", "clap / palma"])
        self.assertIs(in_both(stretch, piece, ""), stretch)
        with self.assertRaisesRegex(FirnError, "Steps have names in"):
            in_both(stretch, piece, "xx")


class WeekTest(unittest.TestCase):
    def setUp(self) -> None:
        application()

    def test_a_table_a_day_and_one_of_rest(self) -> None:
        piece = piece_of_script(GATE_LATCH, [f"i{n}" for n in range(20)])
        days = practice(piece, (), shipped(), minutes=12, today=date(2026, 11, 27), days=5)
        sheet = week_paper(piece, days)
        self.assertEqual(
            [t.title.split(",")[0] for t in sheet.tables][:2], ["Friday 27 November", "Saturday 28 November"]
        )
        self.assertEqual(sheet.tables[3].rows, (("Rest.",),))
        self.assertEqual([len(t.rows) for t in sheet.tables if t.heads], [len(d.stages) for d in days if not d.rests])
        text = " ".join(pages(drawn(sheet, ".pdf")))
        for said in ("Why", "Warm up first", days[0].stages[0].stage.why):
            self.assertIn(said, text)


class DrillTest(unittest.TestCase):
    def setUp(self) -> None:
        application()
        self.piece = piece_of_script(GATE_LATCH, [f"i{n}" for n in range(20)])

    def test_a_line_a_stage_with_its_reason(self) -> None:
        known = known_of(self.piece, shipped())
        read = read_drill("drill Monday:\nA 72-96 by 4, x2, with the click\nwhole", known, name="")
        self.assertFalse(read.faults)
        drill = Drill("d", self.piece.id, read.name, (replace(read.stages[0], why="Not clean yet"), read.stages[1]))
        sheet = drill_paper(self.piece, plan(self.piece, drill, shipped()))
        self.assertEqual(sheet.title, f"{self.piece.name}: Monday")
        first, last = sheet.tables[0].rows
        self.assertEqual(first[2:6], ("72 to 96", "both sides", "2", "the click alone"))
        self.assertTrue(first[1].endswith("\nNot clean yet"))
        (printed,) = pages(drawn(sheet, ".pdf"))
        for said in ("2 stages", last[1], "Warm up first"):
            self.assertIn(said, printed)

    def test_one_without_stages(self) -> None:
        with self.assertRaisesRegex(FirnError, "no stage"):
            drill_paper(self.piece, plan(self.piece, Drill("d", self.piece.id, "Empty"), shipped()))


class LettersTest(unittest.TestCase):
    def setUp(self) -> None:
        application()
        part = PIECE.parts[0]
        self.sheet = paper(PIECE.settings, "A", part_stretch(part), part.script.text, ())

    @staticmethod
    def letters(data: bytes) -> float:
        """The size of a sheet's first line, in points."""
        sizes: list[float] = []
        PdfReader(io.BytesIO(data)).pages[0].extract_text(
            visitor_text=lambda text, cm, tm, font, size: sizes.append(size * tm[3] * cm[3]) if text.strip() else None
        )
        return abs(sizes[0])

    def test_across_a_hall_they_are_nearly_twice_as_large_and_in_a_pocket_smaller(self) -> None:
        usual, hall, pocket = (
            self.letters(drawn(sheet, ".pdf", size))
            for sheet, size in ((self.sheet, "A4"), (replace(self.sheet, hall=True), "A4"), (self.sheet, "A6"))
        )
        self.assertAlmostEqual(hall / usual, 1.8, delta=0.1)
        self.assertAlmostEqual(pocket / usual, 0.75, delta=0.05)

    def test_a_pocket_takes_a6_and_says_all_that_a4_does(self) -> None:
        for sheet in (self.sheet, cue_paper(PIECE)):
            small = PdfReader(io.BytesIO(drawn(sheet, ".pdf", "A6"))).pages
            # ISO 216: 105 by 148 mm.
            self.assertAlmostEqual(float(small[0].mediabox.width) * 25.4 / 72, 105, delta=1)
            self.assertAlmostEqual(float(small[0].mediabox.height) * 25.4 / 72, 148, delta=1)
            (whole,) = pages(drawn(sheet, ".pdf"))
            said = " ".join(page.extract_text() for page in small).split()
            self.assertLessEqual(set(whole.split()) - {"1"}, {*said, "1"})

    def test_a_layer_that_is_left_out_is_not_printed(self) -> None:
        piece = piece_from("part A\n1 step  2 step\narms: 1 upward  2 upward")
        stretch = part_stretch(piece.parts[0])
        full, bare = (
            " ".join(pages(drawn(paper(piece.settings, "A", stretch, "", (), view), ".pdf")))
            for view in (PLAIN, replace(PLAIN, hidden=("arms",)))
        )
        self.assertEqual((full.count("upward"), bare.count("upward")), (2, 0))


class CountsTest(unittest.TestCase):
    def setUp(self) -> None:
        application()

    def test_a_column_for_each_division_that_is_used(self) -> None:
        part = piece_from("part A\n1 step  & heel  2 shuffle ball change  4 L stamp").parts[0]
        (table,) = count_paper(PIECE, part).tables
        self.assertEqual(len(set(map(len, table.rows))), 1)
        said, words, feet = table.rows
        self.assertEqual(said[:3], ("1", "&", "2"))
        self.assertEqual(words[0], "step")
        self.assertIn("(", feet[said.index("2") - 1] + feet[said.index("2")] + "".join(feet))

    def test_the_other_side_is_the_other_feet(self) -> None:
        part = piece_from("part A\n1 R step  2 L stomp").parts[0]
        one, other = (count_paper(PIECE, part, swapped=swapped).tables[0].rows[2] for swapped in (False, True))
        self.assertEqual((one[:2], other[:2]), (("R step", "(L) stomp"), ("L step", "(R) stomp")))

    def test_a_phrase_is_never_parted_between_pages(self) -> None:
        long = piece_from(
            "part A\n" + "1 step  & heel  2 step  3 step  4 stamp  5 step  6 step  7 step  8 stamp\n" * 24
        )
        texts = pages(drawn(count_paper(long, long.parts[0]), ".pdf"))
        self.assertGreater(len(texts), 1)
        for text in texts:
            # As many rows of counts as of feet on every page.
            self.assertEqual(text.count("8 "), text.count("stamp") // 4, text)


class DrawnTest(unittest.TestCase):
    def setUp(self) -> None:
        application()

    @cases(("A4", 595, 842), ("Letter", 612, 792))
    def test_papers(self, size: str, width: int, height: int) -> None:
        self.assertIn(size, SIZES)
        box = PdfReader(io.BytesIO(drawn(cue_paper(PIECE), ".pdf", size))).pages[0].mediabox
        self.assertAlmostEqual(float(box.width), width, delta=1)
        self.assertAlmostEqual(float(box.height), height, delta=1)

    def test_a_strip_as_svg_and_png(self) -> None:
        part = PIECE.parts[0]
        sheet = paper(PIECE.settings, "A", part_stretch(part), part.script.text, ())
        svg = drawn(sheet, ".svg").decode()
        self.assertIn("<svg", svg)
        self.assertIn("stomp", svg)
        image = QImage.fromData(drawn(sheet, ".png"))
        self.assertEqual(image.width(), 1_800)
        with self.assertRaisesRegex(FirnError, "is of a strip"):
            drawn(cue_paper(PIECE), ".svg")

    def test_fonts_are_embedded(self) -> None:
        fonts = PdfReader(io.BytesIO(drawn(cue_paper(PIECE), ".pdf"))).pages[0]["/Resources"]["/Font"]
        for font in fonts.values():
            inner = font.get_object()["/DescendantFonts"][0].get_object()["/FontDescriptor"].get_object()
            self.assertTrue({"/FontFile", "/FontFile2", "/FontFile3"} & set(inner))


if __name__ == "__main__":
    unittest.main()
