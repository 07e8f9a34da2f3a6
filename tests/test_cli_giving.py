"""What leaves by the command line, and what comes back."""

import csv
import io
import json
import unittest
import zipfile
from pathlib import Path

import av
import soundfile
from pypdf import PdfReader

from firn.core.book.book import piece_of_script
from firn.core.book.edits import AddLog, AddPiece
from firn.core.book.log import LogEntry
from firn.core.book.practice_edits import AddDrill, AddStudent
from firn.core.book.students import Student
from firn.core.drills.stage import Drill, Stage
from firn.core.ear.student import Faults
from firn.session.session import Session
from tests.cli import CliCase
from tests.core.test_script import GATE_LATCH
from tests.support import cases
from tests.ui.window import application


class GivingCase(CliCase):
    def setUp(self) -> None:
        super().setUp()
        # Else drawing makes an application without widgets, which tests of the window in this process could not use.
        application()

    def workbook(self) -> str:
        path = self.folder / "class.firn"
        session = Session.new(path)
        session.do(AddPiece(piece_of_script(GATE_LATCH, [f"i{n}" for n in range(20)])))
        for student in (Student("k1", "Wren"), Student("k2", "Ivo", language="es")):
            session.do(AddStudent(student))
        session.close()
        return str(path)


class PackTest(GivingCase):
    def test_one_page_and_a_zipped_folder(self) -> None:
        page, folder = self.folder / "a.html", self.folder / "a.zip"
        status, _, _ = self.run_firn("pack", self.steps, "-o", page, "--by", "Marl & co", "--days", 2, "--part", "A")
        self.assertEqual(status, 0)
        text = page.read_text("utf-8")
        self.assertIn("Marl &amp; co", text)
        self.assertIn("data:audio/mpeg;base64,", text)
        self.assertLess(len(text), 6_000_000)
        self.assertEqual(self.run_firn("pack", self.steps, "-o", folder, "--part", "A")[0], 0)
        with zipfile.ZipFile(folder) as pack:
            sounds = [n for n in pack.namelist() if n.startswith("sounds/")]
            linked = pack.read("index.html").decode()
        self.assertGreater(len(sounds), 2)
        self.assertTrue(all(f'src="{name}"' in linked for name in sounds))
        self.assertNotIn("data:audio", linked)

    def test_one_for_each_student_without_names(self) -> None:
        out = self.folder / "out"
        out.mkdir()
        status, said, _ = self.run_firn("pack", self.workbook(), "-o", out, "--student", "all", "--part", "A")
        self.assertEqual(status, 0)
        files = sorted(p.name for p in out.iterdir())
        self.assertEqual(files, ["Gate Latch k1.html", "Gate Latch k2.html"])
        self.assertEqual([line.split()[0] for line in said.splitlines()], ["k1", "k2"])
        self.assertIn('lang="es"', (out / files[1]).read_text("utf-8"))
        for file in files:
            self.assertNotIn("Wren", (out / file).read_text("utf-8"))

    def test_with_her_voice(self) -> None:
        voice, out = self.folder / "voice.wav", self.folder / "a.zip"
        soundfile.write(voice, [0.0, 0.5] * 12_000, 24_000)
        self.assertEqual(self.run_firn("pack", self.steps, "-o", out, "--voice", voice, "--no-questions")[0], 0)
        with zipfile.ZipFile(out) as pack:
            self.assertIn("sounds/voice.mp3", pack.namelist())

    def test_what_cannot_be(self) -> None:
        for words, said in (
            ((self.steps, "-o", "a.html", "--part", "Z"), 'No part is called "Z"'),
            ((self.steps, "-o", "a.html", "--clip"), "knows no clips"),
            ((self.steps, "-o", "a.html", "--voice", "gone.wav"), "gone.wav"),
            ((self.workbook(), "-o", "a.html", "--clip"), "None of these parts is from a clip"),
            ((self.steps, "-o", "a.html", "--student", "k1"), "has no students"),
            ((self.steps, "-o", "a.html", "--today", "soon", "--days", 1), "soon is no day"),
        ):
            status, _, err = self.run_firn("pack", *words)
            self.assertEqual(status, 2)
            self.assertIn(said, err)


class TableTest(GivingCase):
    def test_ledger_and_log_as_tables(self) -> None:
        """Read back by Python's own csv: the same as their JSON."""
        session = Session.open(Path(book := self.workbook()))
        session.do(AddLog(LogEntry("l", "2026-11-25T20:00", "A, slowly", "", "right", 96.0, "clean", student="k1")))
        session.close()
        for words, rows in ((("ledger", self.steps), "passes"), (("log", book), "log")):
            _, text, _ = self.run_firn(*words, "--csv")
            _, data, _ = self.run_firn(*words, "--json")
            wanted = [{key: "" if v is None else str(v) for key, v in row.items()} for row in json.loads(data)[rows]]
            self.assertEqual(list(csv.DictReader(io.StringIO(text))), wanted)
            self.assertTrue(wanted)


class SheetTest(GivingCase):
    def test_a_drill_for_a_pocket(self) -> None:
        book, out = self.workbook(), self.folder / "drill.pdf"
        session = Session.open(Path(book))
        piece = session.book.pieces[-1]
        session.do(AddDrill(Drill("d", piece.id, "Monday", (Stage("click", (piece.parts[0].id,), None, 60, 72),))))
        session.close()
        words = ("sheet", book, "--kind", "drill", "--drill", "monday", "--paper", "A6", "-o", out)
        self.assertEqual(self.run_firn(*words)[0], 0)
        (page,) = PdfReader(out).pages
        self.assertIn("Gate Latch: Monday", " ".join(page.extract_text().split()))
        self.assertLess(page.mediabox.width, 300)
        page = self.folder / "pack.html"
        self.assertEqual(self.run_firn("pack", book, "--drill", "Monday", "--no-questions", "-o", page)[0], 0)
        self.assertIn('data-tick="0"', page.read_text("utf-8"))
        # It is of its own piece, whichever was on show.
        status, _, err = self.run_firn("pack", book, "--drill", "Monday", "--of", "Untitled", "-o", page)
        self.assertEqual((status, err), (2, "firn: Monday is a drill of Gate Latch, not of Untitled.\n"))
        self.assertIn("Gate Latch", page.read_text("utf-8"))
        for words, said in (((), "Which drill?"), (("--drill", "Sunday"), "No drill is called")):
            status, _, err = self.run_firn("sheet", book, "--kind", "drill", *words, "-o", out)
            self.assertEqual(status, 2)
            self.assertIn(said, err)

    @cases(
        (("--drill", "Monday"), "--drill says nothing here: it is of --kind drill."),
        (("--kind", "drill", "--without", "words"), "--without says nothing here: it is of --kind strip."),
        (
            ("--kind", "levels", "--other-side"),
            "--other-side says nothing here: it is of --kind strip or --kind counts.",
        ),
        (("--kind", "strip", "--days", 3), "--days says nothing here: it is of --kind week."),
        (("--part", "A"), "--part says nothing here: it is of --kind strip or --kind counts or --kind levels."),
    )
    def test_an_option_of_another_kind(self, words: tuple, said: str) -> None:
        out = self.folder / "a.pdf"
        status, _, err = self.run_firn("sheet", self.steps, *words, "-o", out)
        self.assertEqual((status, err, out.exists()), (2, f"firn: {said}\n", False))

    def test_a_strip_across_a_hall_without_its_words(self) -> None:
        sizes = []
        for words in ((), ("--hall", "--without", "words")):
            out = self.folder / "strip.pdf"
            self.assertEqual(self.run_firn("sheet", self.steps, "--kind", "strip", *words, "-o", out)[0], 0)
            pages = PdfReader(out).pages
            sizes.append((len(pages), sum(page.extract_text().count("stomp") for page in pages)))
        self.assertGreater(sizes[1][0], sizes[0][0])
        self.assertLess(sizes[1][1], sizes[0][1])


class BackTest(GivingCase):
    def test_bring_and_log(self) -> None:
        book, home = self.workbook(), self.folder / "home"
        home.mkdir()
        take = self.take(Faults())
        take.rename(home / "20261125_181500.wav")  # type: ignore[attr-defined]
        status, out, _ = self.run_firn("bring", book, home, "--json")
        self.assertEqual((status, [w["doubt"] for w in json.loads(out)["waits"]]), (1, ["whose"]))
        status, out, _ = self.run_firn("bring", book, home, "--student", "Wren", "--json")
        (row,) = json.loads(out)["brought"]
        self.assertEqual((status, row["student"], row["part"], row["how"]), (0, "k1", "Gate Latch, A", "clean"))
        status, out, _ = self.run_firn("bring", book, home, "--student", "k1")
        self.assertIn("1 had been brought in before", out)
        data = json.loads(self.run_firn("log", book, "--student", "Wren", "--json")[1])
        self.assertEqual([(r["when"][:16], r["step"]) for r in data["log"]], [("2026-11-25T18:15", "Gate Latch, A")])
        self.assertEqual(json.loads(self.run_firn("log", book, "--since", "2026-11-26", "--json")[1])["log"], [])
        self.assertIn("Gate Latch, A, right, 132: clean", self.run_firn("log", book)[1])

    def test_bad_folders_and_names(self) -> None:
        book = self.workbook()
        for words, said in (
            (("bring", book, self.folder / "none"), "is no folder"),
            (("bring", book, self.folder, "--student", "Nobody"), 'No student is called "Nobody"'),
            (("bring", book, self.folder, "--part", "Z"), 'No part is called "Z"'),
            (("log", book, "--since", "soon"), "soon is no day"),
        ):
            status, _, err = self.run_firn(*words)
            self.assertEqual(status, 2)
            self.assertIn(said, err)


class FilmTest(GivingCase):
    def test_from_tempo_to_tempo_on_both_sides(self) -> None:
        """Four counts at 200 and at 240 a minute, each after four of count-in, on each side: 8.8 s by hand, and what
        rings on."""
        self.write("piece: Lamp\ntempo: 120\n\npart A\n1 stamp  2 step  3 step  4 stamp")
        out = self.folder / "a.webm"
        ladder = ("--ladder", "200-240-40", "--times", 1, "--rest", 0)
        self.assertEqual(self.run_firn("film", self.steps, "-o", out, *ladder)[0], 0)
        with av.open(str(out)) as film:
            lasts = float(film.duration) / av.time_base
        self.assertGreaterEqual(lasts, 8.8)
        self.assertLess(lasts, 9.4)

    def test_what_is_no_ladder(self) -> None:
        status, _, err = self.run_firn("film", self.steps, "-o", self.folder / "a.webm", "--ladder", "90-120-0")
        self.assertEqual(status, 2)
        self.assertIn("step of a ladder must be above 0", err)


class ConvertTest(GivingCase):
    def test_by_endings(self) -> None:
        for ending in (".mid", ".musicxml", ".abc", ".csv", ".json", ".flac", ".ics", ".steps"):
            out = self.folder / f"out{ending}"
            self.assertEqual(self.run_firn("convert", self.steps, out)[0], 0, ending)
            self.assertGreater(out.stat().st_size, 40)
        self.assertEqual(soundfile.info(self.folder / "out.flac").samplerate, 48_000)
        status, _, err = self.run_firn("convert", self.folder / "out.musicxml", self.folder / "back.steps")
        self.assertEqual(status, 0)
        self.assertIn("each sound is a step", err)
        self.assertEqual(self.run_firn("read", self.folder / "back.steps")[0], 0)

    def test_a_workbook_as_a_folder_and_back(self) -> None:
        folder, back = self.folder / "open", self.folder / "back.firn"
        self.assertEqual(self.run_firn("convert", self.workbook(), folder)[0], 0)
        self.assertEqual(self.run_firn("convert", folder, back)[0], 0)
        self.assertEqual(self.run_firn("convert", folder, back)[0], 2)

    def test_what_firn_does_not_write(self) -> None:
        status, _, err = self.run_firn("convert", self.steps, self.folder / "a.docx")
        self.assertEqual(status, 2)
        self.assertIn("writes no .docx files", err)


if __name__ == "__main__":
    unittest.main()
