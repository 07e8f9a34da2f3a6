"""Give out, and what comes back: one place for all that leaves, and answers by one key."""

import unittest
import zipfile
from datetime import date

import av
import mido
import numpy as np
import soundfile
from pypdf import PdfReader
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from firn.core.book.practice_edits import AddStudent, Practise
from firn.core.book.students import OWNER, Student
from firn.session.fresh import now
from firn.session.outgoing import KINDS
from firn.ui.pages.entries import DRILL, LOG
from tests import films
from tests.dancers import Manner, danced, pattern_of
from tests.ui.window import ALT, CTRL, WindowCase

Key = Qt.Key
IDS = [kind.id for kind in KINDS]
LINES = "8 stomp  1 hop  2 step  &3 flap  & step\n4 stomp  5 hop  6 step  &7 flap  & step"


class GiveCase(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.dictate(LINES)
        self.settle()

    @staticmethod
    def shown(dialog, kind: str) -> set[str]:
        """What a dialog asks for a kind."""
        dialog.kinds.setCurrentRow(IDS.index(kind))
        fields = ("by", "mirrored", "paper", "voice")
        return {name for name in fields if dialog.form.isRowVisible(getattr(dialog, name))}

    def give(self, kind: str, path: str, **fields: object) -> None:
        """Give out something of a kind into a file, with some fields of the dialog set."""
        self.answers.path = self.folder / path

        def fill(dialog) -> None:
            dialog.kinds.setCurrentRow(IDS.index(kind))
            for name, value in fields.items():
                field = getattr(dialog, name)
                if isinstance(value, bool):
                    field.setChecked(value)
                elif isinstance(value, int):
                    field.setValue(value)
                elif hasattr(field, "setText"):
                    field.setText(value)
                else:
                    index = field.findData(value)
                    field.setCurrentIndex(index if index >= 0 else field.findText(value))
            self.looked = not dialog.preview.pixmap().isNull()
            shown = {kind: self.shown(dialog, kind) for kind in ("pack", "strip", "midi", "sound")}
            self.asks = shown
            dialog.kinds.setCurrentRow(IDS.index("film"))
            self.room = [spin.lineEdit().width() for spin in (dialog.tempo, dialog.climb)]
            dialog.kinds.setCurrentRow(IDS.index(kind))
            if dialog.print_button.isVisibleTo(dialog):
                dialog.accept = lambda: None  # The button is what ends it.
                dialog.write_button.click()

        self.answers.fill = fill
        self.key(Key.Key_P, CTRL)
        self.settle()
        self.settle()


class FilesTest(GiveCase):
    def test_a_cue_sheet_is_seen_and_written_on_letter(self) -> None:
        self.give("cue", "cue.pdf", paper="Letter", language="es")
        reader = PdfReader(self.folder / "cue.pdf")
        self.assertAlmostEqual(float(reader.pages[0].mediabox.width), 612, delta=1)
        self.assertIn("In Spanish", " ".join(reader.pages[0].extract_text().split()))
        self.assertTrue(self.looked)
        self.assertEqual(self.window.program.settings.paper, "Letter")

    def test_each_kind_of_file(self) -> None:
        endings = {
            "midi": "mid", "musicxml": "musicxml", "abc": "abc", "text": "steps", "table": "csv", "picture": "svg",
            "calendar": "ics", "counts": "pdf", "log": "csv",
        }  # fmt: skip
        for kind, ending in endings.items():
            name = f"a.{ending}"
            self.give(kind, name)
            self.assertTrue((self.folder / name).exists(), (kind, self.window.banner.text))
        self.assertEqual(mido.MidiFile(self.folder / "a.mid").tracks[0].name, "Untitled, A")
        self.give("ledger", "none.csv")
        self.assertIn("has no combo", self.window.banner.text)
        self.give("sound", "a.flac", voice=False)
        self.assertEqual(soundfile.info(self.folder / "a.flac").samplerate, 48_000)

    def test_every_page_is_looked_at(self) -> None:
        self.dictate("\n" + "\n".join(["1 step  2 step  3 step  4 step  5 step  6 step  7 step  8 stamp"] * 12))
        seen = []

        def fill(dialog) -> None:
            dialog.kinds.setCurrentRow(IDS.index("strip"))
            for _ in range(9):
                seen.append((dialog.pages.text(), dialog.preview.pixmap().toImage()))
                dialog.turn_page(1)
            dialog.kinds.setCurrentRow(IDS.index("cue"))
            self.after = dialog.page, dialog.pages.isVisibleTo(dialog)

        self.answers.fill = fill
        self.key(Key.Key_P, CTRL)
        self.assertTrue(seen[0][0].startswith("Page 1 of "))
        self.assertNotEqual(seen[0][1], seen[1][1])
        # Past the last there is no other.
        self.assertEqual(seen[-1][0], seen[-2][0])
        self.assertEqual(self.after, (0, False))

    def test_levels_and_a_strip_in_two_languages(self) -> None:
        self.give("levels", "levels.pdf", part="A")
        text = " ".join(page.extract_text() for page in PdfReader(self.folder / "levels.pdf").pages)
        self.assertIn("Harder", text)
        self.assertTrue(self.looked)
        self.give("strip", "strip.pdf", part="A", language="es")
        self.assertIn("pisotón", PdfReader(self.folder / "strip.pdf").pages[0].extract_text())

    def test_a_drill_on_paper_that_goes_into_a_pocket(self) -> None:
        self.give("drill", "none.pdf")
        self.assertIn("has no drill yet", self.window.banner.text)
        self.window.show_page(DRILL)
        self.click(self.window.rooms.drill.begin_button)
        self.give("drill", "drill.pdf", paper="A6", hall=True)
        (page, *_) = PdfReader(self.folder / "drill.pdf").pages
        self.assertIn("Practice", page.extract_text())
        self.assertEqual(self.window.program.settings.paper, "A6")
        self.assertTrue(self.looked)
        # In a pack it is ticked stage by stage, where it is asked for.
        ticks = []
        for fields in ({}, {"ticked": self.book.drills[0].id}):
            self.give("pack", "pack.html", **fields)
            ticks.append((self.folder / "pack.html").read_text("utf-8").count("<tr>"))
        self.assertEqual(ticks, [0, 1 + len(self.book.drills[0].stages)])

    def test_a_pack_with_its_lines_which_are_kept(self) -> None:
        self.give("pack", "a.zip", by="Marl", licence="for this class", note="Ears first", days=2)
        with zipfile.ZipFile(self.folder / "a.zip") as pack:
            page = pack.read("index.html").decode()
        for said in ("Made by Marl", "for this class", "Ears first", 'data-tick="0"'):
            self.assertIn(said, page)
        self.assertIn("opens on any phone", self.window.banner.text)
        self.assertEqual(self.window.program.settings.made_by, "Marl")

    def test_her_voice_is_chosen_left_out_and_heard(self) -> None:
        voice, chosen = self.folder / "my & voice.wav", []
        soundfile.write(voice, np.sin(np.arange(24_000) / 9), 24_000)
        out = self.folder / "pack.zip"

        def fill(dialog) -> None:
            dialog.kinds.setCurrentRow(IDS.index("pack"))
            for path in (None, voice, voice, voice):
                # Choosing none leaves it as it is; pressed again, what was chosen is left out.
                self.answers.path = path
                dialog.spoken.click()
                chosen.append(dialog.spoken.text())
            self.answers.path = out

        self.answers.fill = fill
        self.key(Key.Key_P, CTRL)
        self.settle()
        self.settle()
        take = "my && voice.wav: leave it out"
        self.assertEqual(chosen, ["Choose a recording…", take, "Choose a recording…", take])
        with zipfile.ZipFile(out) as pack:
            self.assertGreater(len(pack.read("sounds/voice.mp3")), 1_000)

    def test_the_picture_of_a_clip_that_there_is_not(self) -> None:
        self.give("pack", "pack.html", clip=True)
        self.assertIn("None of these parts is from a clip", self.window.banner.text)
        self.assertFalse((self.folder / "pack.html").exists())

    def test_a_pack_for_each_student_into_a_folder(self) -> None:
        for student in (Student("k1", "Wren"), Student("k2", "Ivo")):
            self.window._bridge.do(AddStudent(student))
        (self.folder / "packs").mkdir()
        self.give("pack", "packs", student="all")
        self.assertEqual(
            sorted(p.name for p in (self.folder / "packs").iterdir()), ["Untitled k1.html", "Untitled k2.html"]
        )

    def test_a_film(self) -> None:
        self.give("film", "a.webm", tempo=200)
        self.assertGreater((self.folder / "a.webm").stat().st_size, 10_000)

    def test_a_film_that_climbs(self) -> None:
        """From 296 up to 300, each on both sides, and the rests between."""
        self.dictate("1 stamp  2 step  3 stamp  4 stamp")
        self.settle()
        self.give("film", "a.webm", tempo=296, climb=300)
        with av.open(str(self.folder / "a.webm")) as film:
            lasts = film.duration / av.time_base
        counts = 4 * (self.desk.part.counts + 4) + 3 * 4
        self.assertAlmostEqual(lasts, counts * 60 / 298, delta=1)

    def test_what_is_asked_is_what_belongs_to_it(self) -> None:
        self.give("cue", "a.pdf")
        asked = {"pack": {"by"}, "strip": {"mirrored", "paper"}, "midi": set(), "sound": {"voice"}}
        self.assertEqual(self.asks, asked)
        # Typed, or ↑ ↓: there are no buttons, and the number is seen.
        self.assertGreater(min(self.room), 40)


class BackTest(GiveCase):
    def setUp(self) -> None:
        super().setUp()
        for student in (Student("k1", "Wren"), Student("k2", "Ivo")):
            self.window._bridge.do(AddStudent(student))
        self.window._bridge.do(Practise(OWNER))
        self.home = self.folder / "home"
        self.home.mkdir()
        self.answers.path = self.home

    def take(self, name: str, tempo: float = 100.0) -> None:
        manner = Manner(tempo, passes=(1.0, 1.0, 1.0), missed=0, added=0)
        times = 0.6 + danced(pattern_of(self.desk.part), manner, np.random.default_rng(4)).onsets_s
        sound = films.strikes(list(times - min(0, times[0] - 0.3)), float(times[-1]) + 1.5)
        soundfile.write(self.home / name, sound, films.RATE)

    def bring(self, *answers: Key) -> None:
        def fill(dialog) -> None:
            self.dialog = dialog
            self.first = dialog.asked.text()
            for key in answers:
                QTest.keyClick(dialog, key)

        self.answers.fill = fill
        self.key(Key.Key_H, CTRL | ALT)
        self.settle()
        self.settle()

    def test_what_is_sure_is_kept_and_what_is_not_is_asked(self) -> None:
        self.take(f"Wren {date.today():%Y%m%d}_180000.wav")
        self.take("feet.wav", 92)
        self.bring(Key.Key_3)
        self.assertIn("whose it is", self.first)
        self.assertEqual(sorted((e.student, e.clean) for e in self.book.log), [("k1", True), ("k2", True)])
        self.assertIn("2 noted in the log", self.window.banner.text)
        # The owner's log says what the class did, and what it lacks goes into the next class by one key.
        self.window.show_page(LOG)
        self.assertIn("Wren once, A at 100", self.window.log_page.ear.text())
        self.assertIn("Most lack A", self.window.log_page.ear.text())
        self.key(Key.Key_L, CTRL | ALT)
        (plan,) = self.book.classes
        self.assertEqual(
            [(i.kind, i.part) for i in plan.items if i.say.startswith("2 of 2")], [("review", self.desk.part_id)]
        )
        self.key(Key.Key_L, CTRL | ALT)
        self.assertEqual(len(self.book.classes), 1)

    def test_what_is_left_waits(self) -> None:
        self.take("feet.wav")
        self.bring(Key.Key_0)
        self.assertEqual(self.book.log, ())
        self.assertIn("1 left for later", self.window.banner.text)
        self.bring(Key.Key_1)
        self.assertEqual([e.student for e in self.book.log], [OWNER])
        self.bring()
        self.assertEqual(len(self.book.log), 1)
        self.assertIn("nothing new", self.first)

    def test_an_empty_folder(self) -> None:
        self.bring()
        self.assertIn("nothing in this folder", self.window.banner.text)
        self.key(Key.Key_L, CTRL | ALT)
        self.assertIn("No student lacks anything", self.window.banner.text)
        self.assertTrue(now())


if __name__ == "__main__":
    unittest.main()
