"""A session: edits committed as they are made, undone and done again, and kept whatever happens."""

import json
import os
import random
import signal
import sqlite3
import time
import unittest

from tools.fuzz.undo import sequence

from firn.core.book.book import BookPart
from firn.core.book.edits import AddPart, DeletePart, GoTo, NoteAnswer, RenamePart, SetPartText
from firn.core.book.log import Answer
from firn.core.reading.style import Style
from firn.errors import FirnError, StoreError
from firn.session.session import Session
from firn.session.settings import RECENT, ProgramSettings, load_settings, save_settings
from tests.support import FolderCase, cases


class SessionCase(FolderCase):
    def setUp(self) -> None:
        super().setUp()
        self.path = self.folder / "class.firn"
        self.session = Session.new(self.path)
        self.piece = self.session.book.pieces[0]
        self.part = self.piece.parts[0].id

    def text(self) -> str:
        return self.session.book.pieces[0].parts[0].text

    def write(self, text: str) -> None:
        self.session.do(SetPartText(self.piece.id, self.part, text))

    def reopened(self) -> Session:
        self.session.close()
        self.session = Session.open(self.path)
        return self.session


class OlderTest(SessionCase):
    """A workbook from before lines were read as they are said."""

    def older(self, text: str) -> Session:
        self.write(text)
        self.session.close()
        with sqlite3.connect(self.path) as db:
            db.execute("PRAGMA user_version = 3")
        db.close()
        self.session = Session.open(self.path)
        return self.session

    def test_what_it_says_is_kept_as_one_step_and_told(self) -> None:
        session = self.older("& flap  2 step\n1-4 step\n5 stamp")
        self.assertEqual(self.text(), "1& flap  2 step\n1 step  2-4 hold\n5 stamp")
        self.assertEqual(
            session.told,
            (
                "This workbook is older: 2 lines that would read otherwise now say in full what was meant. "
                "Ctrl+Z takes that back.",
            ),
        )
        self.assertEqual(session.history.undo_label, "Keep what older lines mean")

    def test_taken_back_it_stays_so(self) -> None:
        self.older("& flap  2 step").undo()
        self.assertEqual(self.text(), "& flap  2 step")
        self.assertEqual((self.reopened().told, self.text()), ((), "& flap  2 step"))

    def test_what_reads_alike_is_left(self) -> None:
        session = self.older("8 stomp  1 hop  2 step")
        self.assertEqual((self.text(), session.told, session.history.undo_label), ("8 stomp  1 hop  2 step", (), ""))


class EditsTest(SessionCase):
    def test_undo_and_redo_are_committed(self) -> None:
        for text in ("1 step", "1 step 2 step", "1 step 2 stamp"):
            self.write(text)
        self.assertTrue(self.session.undo())
        self.assertEqual(self.text(), "1 step 2 step")
        self.reopened()
        self.assertEqual(self.text(), "1 step 2 step")
        self.assertFalse(self.session.undo(), "the list ends with the session")

    def test_redo_ends_with_a_new_edit(self) -> None:
        self.write("1 step")
        self.session.undo()
        self.assertEqual(self.session.history.redo_label, "Write")
        self.session.redo()
        self.assertEqual(self.text(), "1 step")
        self.session.undo()
        self.write("2 step")
        self.assertFalse(self.session.redo())

    def test_a_deleted_part_comes_back_with_its_text(self) -> None:
        self.write("1 step")
        self.session.do(AddPart(self.piece.id, BookPart("b", "B", "2 stamp")))
        self.session.do(DeletePart(self.piece.id, self.part))
        self.assertEqual(self.session.history.undo_label, "Delete part")
        self.session.undo()
        self.assertEqual([p.text for p in self.session.book.pieces[0].parts], ["1 step", "2 stamp"])

    def test_an_edit_that_cannot_be_made_leaves_no_trace(self) -> None:
        before = self.session.book
        with self.assertRaises(FirnError):
            self.session.do(RenamePart(self.piece.id, self.part, " "))
        self.assertIs(self.session.book, before)
        self.assertEqual(self.session.history.undo_label, "")

    def test_an_edit_that_changes_nothing_is_none(self) -> None:
        self.write("")
        self.assertEqual(self.session.history.undo_label, "")

    def test_where_we_are_and_what_the_ear_said_are_not_undone(self) -> None:
        self.write("1 step")
        self.session.do(NoteAnswer(Answer("how_many", True)))
        self.session.do(GoTo(self.piece.id, "combo"))
        self.session.undo()
        self.assertEqual((self.text(), self.session.book.ear), ("", (Answer("how_many", True),)))

    def test_listeners_hear_every_change(self) -> None:
        heard = []
        self.session.listen(lambda: heard.append(self.text()))
        self.write("1 step")
        self.session.undo()
        self.assertEqual(heard, ["1 step", ""])


class UnsavedTest(SessionCase):
    def test_what_the_disk_cannot_take_stays_in_memory(self) -> None:
        self.session.store.limit_pages(self.session.store.page_count())
        self.write("x" * 200_000)
        self.assertIn("disk is full", self.session.unsaved)
        self.assertEqual(len(self.text()), 200_000)
        copy = self.folder / "copy.firn"
        self.session.save_copy(copy)
        saved = Session.open(copy)
        self.assertEqual(len(saved.book.pieces[0].parts[0].text), 200_000)
        saved.close()
        self.write("short again")
        self.assertEqual(self.session.unsaved, "")
        self.assertEqual(self.reopened().book.pieces[0].parts[0].text, "short again")

    def test_a_second_window_reads_and_may_save_a_copy(self) -> None:
        self.write("1 step")
        second = Session.open(self.path)
        self.assertIn("open in another window", second.unsaved)
        second.do(SetPartText(self.piece.id, self.part, "2 step"))
        second.save_copy(self.folder / "mine.firn")
        second.close()
        self.assertEqual(self.reopened().book.pieces[0].parts[0].text, "1 step")

    def test_a_workbook_that_is_none(self) -> None:
        with self.assertRaises(StoreError):
            Session.open(self.folder)


class UndoneTest(unittest.TestCase):
    def test_random_sequences(self) -> None:
        """The finder's own sequences; ./run fuzz runs many more."""
        for seed in range(300):
            with self.subTest(seed):
                sequence(random.Random(seed))


class KilledTest(FolderCase):
    KILLS = 60

    def test_killed_at_any_moment_the_last_finished_edit_is_there(self) -> None:
        """A child edits and reports each finished edit through a pipe; it is killed at a random moment."""
        path = self.folder / "class.firn"
        session = Session.new(path)
        piece, part = session.book.pieces[0].id, session.book.pieces[0].parts[0].id
        session.close()
        rng = random.Random(4)
        finished = 0
        advanced = 0
        for _ in range(self.KILLS):
            reader, writer = os.pipe()
            child = os.fork()
            if not child:
                self._edit_for_ever(path, piece, part, finished, writer)
            os.close(writer)
            # After so many edits, however long they take, and then in the midst of the next.
            lines = os.fdopen(reader)
            told = [lines.readline() for _ in range(rng.randrange(5))]
            time.sleep(rng.uniform(0.0, 0.004))
            os.kill(child, signal.SIGKILL)
            os.waitpid(child, 0)
            reported = self._last([*told, *lines], finished)
            lines.close()
            session = Session.open(path)
            kept = session.book.pieces[0].parts[0].text
            session.close()
            number = int(kept.split()[0]) if kept else 0
            self.assertGreaterEqual(number, reported, "a finished edit is lost")
            self.assertLessEqual(number, reported + 1, "an edit is there that was never begun")
            self.assertEqual(kept, self._text(number) if number else "", "half an edit is there")
            advanced += number > finished
            finished = number
        self.assertGreater(advanced, self.KILLS // 2)

    @staticmethod
    def _text(number: int) -> str:
        return f"{number} " + "step " * (number % 3000)

    def _edit_for_ever(self, path: object, piece: str, part: str, number: int, writer: int) -> None:
        try:
            session = Session.open(path)  # type: ignore[arg-type]
            while True:
                number += 1
                session.do(SetPartText(piece, part, self._text(number)))
                os.write(writer, f"{number}\n".encode())
        finally:
            os._exit(1)

    @staticmethod
    def _last(lines: list[str], before: int) -> int:
        numbers = [int(line) for line in lines if line.endswith("\n")]
        return numbers[-1] if numbers else before


class SettingsTest(FolderCase):
    def test_kept(self) -> None:
        path = self.folder / "deep" / "settings.json"
        settings = ProgramSettings(recent=("/a.firn",), on_ms=30, dark=True, text_percent=120)
        save_settings(path, settings)
        self.assertEqual(load_settings(path), settings)

    @cases(
        ("none", None),
        ("no JSON", "{"),
        ("another shape", "[1]"),
        ("a wrong kind", '{"version": 1, "settings": {"on_ms": "loud"}}'),
    )
    def test_what_cannot_be_read_is_the_default(self, name: str, text: str | None) -> None:
        path = self.folder / f"{name}.json"
        if text is not None:
            path.write_text(text)
        self.assertEqual(load_settings(path), ProgramSettings())

    def test_unknown_fields_are_left(self) -> None:
        path = self.folder / "s.json"
        path.write_text('{"version": 9, "settings": {"dark": true, "newer": 1}}')
        self.assertTrue(load_settings(path).dark)

    def test_what_was_kept_in_english_is_kept_in_codes(self) -> None:
        path = self.folder / "s.json"
        sheet = {"accents": "closing stamp", "off": ["off phrase", 7], "any_ms": 90}
        kept = {"hearing": "the click", "styles": {"tap": {"accents": "even counts", "off": ["off phrase"]}}}
        path.write_text(json.dumps({"version": 1, "settings": kept}))
        loaded = load_settings(path)
        self.assertEqual(loaded.hearing, "click")
        self.assertEqual(loaded.styles, {"tap": Style(accents="even", off=("off_phrase",))})
        save_settings(path, loaded)
        self.assertEqual(load_settings(path), loaded)
        # What is broken there is as if it were not.
        for broken in ({"styles": {"tap": sheet}}, {"styles": {"tap": [1]}}, {"styles": 3}, {"hearing": ["x"]}):
            path.write_text(json.dumps({"version": 1, "settings": broken | {"dark": True}}))
            self.assertEqual(load_settings(path), ProgramSettings(dark=True))

    def test_recent(self) -> None:
        settings = ProgramSettings()
        for i in range(12):
            settings = settings.opened(self.folder / f"{i}.firn")
        settings = settings.opened(self.folder / "8.firn")
        self.assertEqual(len(settings.recent), RECENT)
        self.assertTrue(settings.recent[0].endswith("8.firn"))
        self.assertEqual(len(set(settings.recent)), RECENT)


if __name__ == "__main__":
    unittest.main()
