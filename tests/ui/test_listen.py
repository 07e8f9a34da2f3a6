"""Listen, by its keys: a take comes in, the ear is asked first, then the verdict is shown."""

import threading
import unittest
from pathlib import Path
from unittest import mock

import numpy as np
import soundfile
from msgspec.structs import replace
from PySide6.QtCore import QMimeData, QPointF, Qt, QUrl
from PySide6.QtGui import QDropEvent

from firn.core.book.book import BookPart
from firn.core.book.edits import AddPart, SetPartText
from firn.core.ear.asked.question import question_text
from firn.core.ear.student import Faults, dance
from firn.session import asking
from firn.session.demo import make_demo
from firn.session.session import Session
from firn.ui.pages.entries import LISTEN, WRITE
from tests import shoes, takes
from tests.studio import Studio
from tests.support import comes, part, wait
from tests.ui.window import CTRL, SHIFT, WindowCase

STRUCK = "1 step  & brush  2 step  & heel  3 brush  & step  4 heel  5 clap"
RIGHT = ("ball", "brush", "ball", "heel", "brush", "ball", "heel", "hand")

LINE = "8 stomp  1 hop  2 step  &3 flap  4 step  5 stamp  6-7 hold"


class ListenCase(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.dictate(LINE)
        self.page = self.window.listen_page
        self.window.show_page(LISTEN)

    def recording(self) -> Path:
        danced = dance(part(LINE), 120, Faults(jitter_ms=2), np.random.default_rng(3), passes=2)
        path = self.folder / "feet.wav"
        soundfile.write(path, danced.audio, 48_000)
        return path


class WaysInTest(ListenCase):
    def test_empty_says_its_ways_in(self) -> None:
        self.assertIn("No take of A yet", self.page.empty.text())
        self.assertTrue(self.page.panel.file_button.isEnabled() and self.page.panel.simulate_button.isEnabled())

    def test_by_file(self) -> None:
        self.answers.path = self.recording()
        self.key(Qt.Key.Key_I)
        self.settle()
        self.assertEqual([t.name for t in self.book.takes], ["feet"])
        self.assertIsNotNone(self.page.heard)

    def test_by_drop(self) -> None:
        data = QMimeData()
        data.setUrls([QUrl.fromLocalFile(str(self.recording()))])
        event = QDropEvent(
            QPointF(50, 50), Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
        )
        self.window.dropEvent(event)
        self.settle()
        self.assertEqual(len(self.book.takes), 1)

    def test_by_the_simulated_student(self) -> None:
        self.simulated("The hold dropped")
        self.assertEqual(self.book.takes[0].source, "simulated")
        self.key(Qt.Key.Key_K)
        self.assertIn("The hold on 6-7 was dropped", self.page.verdict.first.text())

    def test_what_is_no_recording(self) -> None:
        path = self.folder / "notes.txt"
        path.write_text("left, right")
        self.answers.path = path
        self.key(Qt.Key.Key_I)
        self.settle()
        self.assertIn("notes.txt is no recording that Firn can read", self.window.banner.text)
        self.assertEqual(self.book.takes, ())

    def test_a_silent_recording(self) -> None:
        path = self.folder / "silent.wav"
        soundfile.write(path, np.zeros(48_000), 48_000)
        self.answers.path = path
        self.key(Qt.Key.Key_I)
        self.settle()
        self.assertIn("silent.wav is silent", self.window.banner.text)

    def test_a_long_one_asks_which_stretch(self) -> None:
        sound = np.zeros(8_000 * 610, dtype=np.float32)
        from scipy.signal import resample_poly

        danced = dance(part(LINE), 120, Faults(jitter_ms=2), np.random.default_rng(3), passes=2)
        take = resample_poly(danced.audio, 1, 6)
        sound[8_000 * 300 : 8_000 * 300 + len(take)] = take
        path = self.folder / "class.wav"
        soundfile.write(path, sound, 8_000)
        tried = []

        def fill(dialog) -> None:
            for start, length in (("nine", "1:00"), ("11:00", "1:00"), ("0", "20:00")):
                dialog.start.setText(start)
                dialog.length.setText(length)
                dialog.accept()
                tried.append(dialog.wrong.text())
            dialog.start.setText("4:59")
            dialog.length.setText("0:15")

        self.answers.path, self.answers.fill = path, fill
        self.key(Qt.Key.Key_I)
        self.settle()
        self.assertEqual(len(set(tried)), 3)
        self.assertEqual(self.book.takes[0].seconds, 15)

    def test_something_else_than_the_part(self) -> None:
        path = self.folder / "other.wav"
        noise = np.random.default_rng(1).standard_normal(48_000) * 0.001
        noise[10_000:10_400] = 0.5
        soundfile.write(path, noise, 48_000)
        self.answers.path = path
        self.key(Qt.Key.Key_I)
        self.settle()
        self.settle()
        self.assertRegex(self.page.empty.text(), "No steps are heard|Nothing here fits")


OTHER = "1 shuffle ball change  3 shuffle ball change  5 stamp  6 hold  7 stamp  8 clap"


class WrongTakeTest(ListenCase):
    """A take of something else is not judged: what it is is said, and is on a key."""

    def setUp(self) -> None:
        super().setUp()
        piece = self.book.pieces[0]
        self.desk.bridge.do(AddPart(piece.id, BookPart("other", "Turn", OTHER)))
        self.desk.go_to(piece.id, piece.parts[0].id)

    def bring_in(self, text: str, tempo: float, name: str = "feet") -> None:
        danced = dance(part(text), tempo, Faults(jitter_ms=2), np.random.default_rng(3), passes=3)
        path = self.folder / f"{name}.wav"
        soundfile.write(path, danced.audio, 48_000)
        self.answers.path = path
        self.key(Qt.Key.Key_I)
        self.settle()
        self.settle()

    def test_a_take_of_another_part_is_moved_there_by_a_key(self) -> None:
        tempo = self.desk.transport.tempo
        self.bring_in(OTHER, tempo)
        self.assertEqual(self.page.empty.text(), f"This is Turn at {tempo:.0f}, not A.")
        self.assertFalse(self.page.verdict.isVisible())
        self.assertEqual(self.page.as_button.text(), "Judge it as Turn  J")
        self.key(Qt.Key.Key_J)
        self.settle()
        self.assertEqual((self.desk.title, self.book.takes[0].part), ("Turn", "other"))
        self.assertIn("is a take of Turn now", self.window.banner.text)
        self.assertIsNotNone(self.page.heard.verdict)
        self.assertFalse(self.page.as_button.isVisible())
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(self.book.takes[0].part, self.book.pieces[0].parts[0].id)

    def test_a_take_at_another_tempo_is_judged_at_that_by_a_key(self) -> None:
        tempo = self.desk.transport.tempo
        self.bring_in(LINE, 2 * tempo)
        self.assertIn(f"This is A danced twice as fast: at {2 * tempo:.0f}", self.page.empty.text())
        self.click(self.page.as_button)
        self.settle()
        self.assertAlmostEqual(self.book.takes[0].tempo, 2 * tempo, delta=2)
        self.assertIsNotNone(self.page.heard.verdict)

    def test_it_is_judged_all_the_same_where_she_says_so(self) -> None:
        self.bring_in(OTHER, self.desk.transport.tempo)
        self.key(Qt.Key.Key_J, SHIFT)
        self.settle()
        self.assertTrue(self.page.verdict.isVisible())
        self.assertIn("because you said so", self.page.verdict.doubt.text())
        self.assertEqual(self.book.takes[0].part, self.book.pieces[0].parts[0].id)

    def test_what_differs_in_every_pass_is_asked(self) -> None:
        self.bring_in("8 stomp  2 step  &3 flap  4 step  5-7 hold", self.desk.transport.tempo)
        said = "This may not be A: in every pass what is on 1 and 5 is missing. Is it a take of another part?"
        self.assertEqual(" ".join(self.page.empty.text().split()), said)
        self.assertFalse(self.page.as_button.isVisible())
        self.key(Qt.Key.Key_J, SHIFT)
        self.settle()
        self.assertTrue(self.page.verdict.isVisible())
        self.assertEqual(self.page.heard.verdict.count("missing"), 6)

    def test_the_keys_do_nothing_to_a_take_that_is_right(self) -> None:
        self.bring_in(LINE, self.desk.transport.tempo)
        before = self.book
        self.key(Qt.Key.Key_J)
        self.key(Qt.Key.Key_J, SHIFT)
        self.settle()
        self.assertEqual(self.book, before)
        self.assertEqual(self.page.heard.verdict.match.what, "this")


class EarFirstTest(ListenCase):
    def test_the_model_alone_until_the_questions_are_answered(self) -> None:
        self.simulated("One sound missing")
        question = self.page.question
        self.assertTrue(question.isVisible())
        self.assertIsNone(self.page.strip.overlay.verdict)
        self.assertFalse(self.page.verdict.isVisible())
        first = question.question
        self.assertIn("How many sounds from", question_text(first))
        self.key(Qt.Key(Qt.Key.Key_0 + int(first.answers[first.right])))
        second = question.question
        self.assertIsNot(second, first)
        self.key(Qt.Key(Qt.Key.Key_1 + second.right))
        third = question.question
        self.assertIn("early, on time or late?", question_text(third))
        self.key(Qt.Key(Qt.Key.Key_1 + (third.right + 1) % 3))
        self.assertFalse(question.isVisible())
        self.assertTrue(self.page.verdict.isVisible())
        kinds = [("how_many", True), ("what_missing", True), ("early_or_late", False)]
        self.assertEqual([(a.kind, a.right) for a in self.book.ear], kinds)
        self.assertIn("2 right of the last 3", self.page.ear.text())

    def test_a_wrong_answer_is_told(self) -> None:
        self.simulated("One sound missing")
        first = self.page.question.question
        wrong = next(i for i in range(5) if i != first.right)
        self.click(self.page.question.buttons[wrong])
        self.assertIn(f"{first.answers[first.right]} were there", self.page.question.told.text())
        self.assertEqual([a.right for a in self.book.ear], [False])

    def test_hear_what_is_asked_about(self) -> None:
        self.simulated("Clean")
        self.key(Qt.Key.Key_E)
        self.assertTrue(comes(lambda: self.running.player.playing))
        self.assertTrue(comes(lambda: not self.running.player.playing))


class EarAloneTest(ListenCase):
    """A round of ten without a take: each is heard, answered by a digit, explained, and noted."""

    def test_a_round_of_ten(self) -> None:
        self.key(Qt.Key.Key_A, SHIFT)
        view = self.page.question
        self.assertTrue(comes(view.isVisible))
        self.assertTrue(comes(lambda: self.running.player.playing))
        for number in range(1, 11):
            self.assertIn(f"{number} of 10", view.heading.text())
            asked = view.question
            digit = int(asked.answers[asked.right]) if asked.kind == "how_many" else asked.right + 1
            self.key(Qt.Key(Qt.Key.Key_0 + digit))
            self.assertTrue(view.told.text())
        self.assertFalse(view.isVisible())
        self.assertEqual([a.right for a in self.book.ear], [True] * 10)
        self.assertIn("10 of 10 right", self.page.ear.text())
        self.assertIn("No take of A yet", self.page.empty.text())

    def test_a_wrong_answer_says_why_and_enough_ends_it(self) -> None:
        self.key(Qt.Key.Key_A, SHIFT)
        view = self.page.question
        self.assertTrue(comes(view.isVisible))
        asked = view.question
        self.click(view.buttons[(asked.right + 1) % len(asked.answers)])
        self.assertIn(asked.why, view.told.text())
        self.key(Qt.Key.Key_K)
        self.assertFalse(view.isVisible())
        self.assertEqual([(a.kind, a.right) for a in self.book.ear], [(asked.kind, False)])

    def test_not_of_a_part_without_sounds(self) -> None:
        self.window.show_page(WRITE)
        self.window.write_page.editor.selectAll()
        self.dictate("1-4 hold")
        self.settle()
        self.key(Qt.Key.Key_A, SHIFT)
        self.assertFalse(self.window.jobs.working)
        self.assertFalse(self.page.question.isVisible())

    def test_not_where_something_was_written_meanwhile(self) -> None:
        written, round_of = threading.Event(), asking.ear_round

        def late(*given: object) -> object:
            written.wait(10)
            return round_of(*given)

        with mock.patch.object(asking, "ear_round", late):
            self.key(Qt.Key.Key_A, SHIFT)
            self.desk.write("1 step  2 stamp")
            written.set()
            self.assertTrue(comes(lambda: not self.window.jobs.working))
        self.assertFalse(self.page.question.isVisible())


class VerdictTest(ListenCase):
    def test_sound_by_sound_on_the_strip(self) -> None:
        self.simulated()
        self.key(Qt.Key.Key_K)
        laid = self.page.strip.overlay.verdict
        heard = [laid[i][0] for i in sorted(laid)]
        self.assertEqual((heard.count("missing"), heard.count("late")), (1, 1))
        self.assertIn("is not heard", self.page.verdict.first.text())
        self.assertIn("over 2 times through", self.page.verdict.whole.text())
        self.page.strip.grab()

    def test_pass_by_pass(self) -> None:
        self.simulated()
        self.key(Qt.Key.Key_K)
        self.assertEqual(self.page.pass_button.text(), "Time 1 of 2  P")
        one = self.page.strip.overlay.verdict
        self.key(Qt.Key.Key_P)
        self.assertEqual(self.page.pass_button.text(), "Time 2 of 2  P")
        self.assertNotEqual(self.page.strip.overlay.verdict, one)

    def test_take_and_model_in_turn(self) -> None:
        self.simulated()
        self.key(Qt.Key.Key_K)
        self.key(Qt.Key.Key_H)
        self.assertTrue(comes(lambda: self.running.player.playing))
        reel = self.running.player._reel
        model_s = (self.desk.stretch.counts + 3) * 60 / self.page.heard.verdict.tempo
        self.assertAlmostEqual(len(reel._now) / 48_000, self.page.heard.take.seconds + 0.5 + model_s + 0.4, delta=0.2)
        self.key(Qt.Key.Key_Space)
        self.assertFalse(self.running.player.playing)

    def test_the_part_is_judged_as_it_now_is(self) -> None:
        self.simulated("Clean")
        self.key(Qt.Key.Key_K)
        self.assertIn("Clean", self.page.verdict.first.text())

    def test_how_near_is_on_is_a_setting(self) -> None:

        self.simulated("One sound late")
        self.window.program.keep(on_ms=90.0)
        self.page.judge()
        self.settle()
        self.assertEqual(self.page.heard.verdict.count("late"), 0)


class ShoesTest(ListenCase):
    """What struck is known from a take before that was clean."""

    def setUp(self) -> None:
        if takes.hits_folder() is None:
            self.skipTest("the recorded hits (sonic-pi-samples) could not be had")
        super().setUp()
        self.desk.transport = replace(self.desk.transport, tempo=104.0)
        self.one = Studio(2)

    def bring_in(self, name: str, *struck: str) -> None:
        places = (0, 0.5, 1, 1.5, 2, 2.5, 3, 4)
        placed = [
            ((place + 8 * time) * 60 / 104 + 0.6, kind)
            for time in range(3)
            for place, kind in zip(places, struck, strict=True)
        ]
        self.answers.path = self.folder / f"{name}.wav"
        soundfile.write(self.answers.path, self.one.take(placed)[0], shoes.RATE)
        self.key(Qt.Key.Key_I)
        self.settle()
        self.settle()

    def test_a_brush_that_struck_as_the_ball(self) -> None:
        self.desk.bridge.do(SetPartText(self.book.pieces[0].id, self.desk.part_id, STRUCK))
        self.bring_in("clean", *RIGHT)
        self.key(Qt.Key.Key_K)
        self.assertEqual([entry.how for entry in self.book.log], ["clean"])
        self.bring_in("wrong", *RIGHT[:4], "ball", *RIGHT[5:])
        self.key(Qt.Key.Key_K)
        self.assertIn("brush on 3 sounds like the ball of the foot, 3 of 3 times", self.page.verdict.first.text())
        self.assertIn("What struck is told by how “clean” sounds, which was clean.", self.page.heard.facts)


class TakesTest(ListenCase):
    def test_rename_delete_undo(self) -> None:
        self.simulated("Clean")
        self.answers.named = "first of May"
        self.key(Qt.Key.Key_F2, SHIFT)
        self.assertEqual(self.book.takes[0].name, "first of May")
        self.answers.named = "a, b"
        self.key(Qt.Key.Key_F2, SHIFT)
        self.assertIn("cannot hold a comma", self.window.banner.text)
        self.key(Qt.Key.Key_Backspace, CTRL | SHIFT)
        self.assertEqual(self.book.takes, ())
        self.assertIn("No take of A yet", self.page.empty.text())
        self.key(Qt.Key.Key_Z, CTRL)
        self.settle()
        self.assertEqual(self.book.takes[0].name, "first of May")
        self.assertIsNotNone(self.page.heard)

    def test_takes_are_there_when_opened_again(self) -> None:
        self.simulated("Clean")
        self.window.close()
        self.open(Session.open(self.path))
        self.page = self.window.listen_page
        self.window.show_page(LISTEN)
        self.settle()
        self.assertIsNotNone(self.page.heard.verdict)

    def test_turning_to_a_part_listens_to_its_take(self) -> None:
        piece = self.book.pieces[0]
        self.simulated("Clean")
        self.desk.bridge.do(AddPart(piece.id, BookPart("other", "Turn", OTHER)))
        self.desk.go_to(piece.id, "other")
        self.simulated("Clean")
        for part_id in (piece.parts[0].id, "other"):
            self.desk.go_to(piece.id, part_id)
            self.settle()
            self.assertEqual(self.page.heard.take.part, part_id)

    def test_of_a_combo_takes_are_brought_in_and_not_recorded(self) -> None:
        self.desk.go_to(self.book.pieces[0].id, "combo")
        self.assertFalse(self.page.panel.record_button.isEnabled())
        self.assertFalse(self.page.panel.simulate_button.isEnabled())

    def test_stopping_while_it_is_brought_in(self) -> None:
        self.answers.path = self.recording()
        self.key(Qt.Key.Key_I)
        self.window.jobs.cancel_all()
        wait(300)
        self.assertEqual(self.book.takes, ())


class DemoTest(WindowCase):
    def test_the_demo_opens_with_two_takes(self) -> None:
        self.window.close()
        self.open(make_demo(self.folder / "demo.firn"))
        self.window.show_page(LISTEN)
        self.settle()
        self.assertEqual(self.window.listen_page.takes.count(), 2)
        self.assertEqual(self.window.part_tabs.names, ("A", "B", "Break", "Tag", "combo", "+"))


if __name__ == "__main__":
    unittest.main()
