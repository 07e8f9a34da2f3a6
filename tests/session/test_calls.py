"""Parts called in their teacher's own voice: cut, kept, copied, written out as a folder, said in a drill."""

import unittest

import numpy as np
import soundfile
from msgspec.structs import replace

from firn.core.book.book import Book, piece_of_script
from firn.core.book.edits import AddPiece, DeletePart, DeletePiece, SetCall
from firn.core.drills.stage import COMBO, Drill, Stage
from firn.core.meter.count_in import CountIn
from firn.core.sound.loudness import loudness_lufs
from firn.core.sound.model import render
from firn.core.sound.spoken import called, spoken
from firn.core.sound.voices import RATE
from firn.core.steps.shelf import shipped
from firn.errors import FirnError
from firn.files.store import new_store, open_store
from firn.session.calls import MOST_S, call_of, call_of_file, calls_of, keep_call
from firn.session.drilling import drill_timeline, plan
from firn.session.practised import calls_at
from firn.session.whole_folder import read_folder, write_folder
from tests.support import FolderCase, cases


def voice(
    seconds: float, rate: int = RATE, before: float = 0.4, after: float = 0.6, level: float = 0.2
) -> np.ndarray:
    """A vowel of so many seconds with silence around it: harmonics of 180 Hz, some hiss."""
    at = np.arange(round(seconds * rate)) / rate
    sung = sum(np.sin(2 * np.pi * 180 * k * at) / k for k in range(1, 12)) * np.hanning(len(at)) ** 0.3
    whole = np.concatenate([np.zeros(round(before * rate)), level * sung, np.zeros(round(after * rate))])
    return (whole + 1e-4 * np.random.default_rng(1).standard_normal(len(whole))).astype(np.float32)


class CutTest(FolderCase):
    @cases(("as long as a name", 0.5, RATE, 0.2), ("a phone's", 0.8, 16_000, 0.05), ("loud", 1.5, 44_100, 0.9))
    def test_only_what_is_said_as_loud_as_shipped_words(
        self, _: str, seconds: float, rate: int, level: float
    ) -> None:
        said = call_of(voice(seconds, rate, level=level), rate)
        self.assertAlmostEqual(len(said) / RATE, seconds, delta=0.12)
        longest = np.tile(spoken(called("nobody"))[0], 3)
        wanted = loudness_lufs(longest, RATE)
        self.assertAlmostEqual(loudness_lufs(np.tile(said, 4), RATE), wanted, delta=2)
        self.assertLess(abs(said[0]) + abs(said[-1]), 0.01)

    @cases(("silence", np.zeros(RATE, np.float32), "Nothing is said"), ("none", np.zeros(0, np.float32), "Nothing"),
           ("a whole sentence", voice(3.0), "2 s at most, this one 3"))  # fmt: skip
    def test_what_is_no_call(self, _: str, sound: np.ndarray, said: str) -> None:
        with self.assertRaisesRegex(FirnError, said):
            call_of(sound, RATE)

    def test_from_a_file(self) -> None:
        path = self.folder / "turn.flac"
        soundfile.write(path, voice(0.6, 44_100), 44_100)
        self.assertLess(len(call_of_file(path)) / RATE, MOST_S)
        (self.folder / "a.wav").write_text("no sound")
        with self.assertRaises(FirnError):
            call_of_file(self.folder / "a.wav")


class KeptTest(FolderCase):
    def setUp(self) -> None:
        super().setUp()
        self.piece = piece_of_script("piece: Gate\npart A\n1 step\npart Turn-over\n1 stamp\n", ["p", "a", "b"])
        self.a, self.b = (part.id for part in self.piece.parts)
        self.path = self.folder / "class.firn"
        book = AddPiece(self.piece).apply(Book())
        store = new_store(self.path, book)
        self.call = keep_call(store, self.piece.id, self.b, call_of(voice(0.7), RATE))
        self.book = SetCall(self.piece.id, self.b, self.call).apply(book)
        store.commit(self.book)
        self.store = store
        self.addCleanup(self.shut)

    def shut(self) -> None:
        """Close the workbook, once."""
        store, self.store = self.store, None
        if store is not None:
            store.close()

    def test_kept_copied_and_freed(self) -> None:
        copy = self.folder / "copy.firn"
        self.store.save_copy(copy, self.book)
        self.shut()
        self.assertEqual(calls_at(copy, self.piece.id), {self.b: f"own {self.call.audio}"})
        again = open_store(self.path)
        self.assertEqual(again.load().calls, (self.call,))
        self.assertTrue(again.samples(self.call.audio))
        again.commit(SetCall(self.piece.id, self.b, None).apply(self.book))
        again.close()
        last = open_store(self.path)
        with self.assertRaises(FirnError):
            last.samples(self.call.audio)
        last.close()

    def test_as_a_folder_and_back(self) -> None:
        self.shut()
        self.assertEqual(write_folder(self.path, self.folder / "whole"), [])
        self.assertEqual(read_folder(self.folder / "whole", self.folder / "back.firn"), [])
        self.assertEqual(list(calls_at(self.folder / "back.firn", self.piece.id)), [self.b])

    def test_gone_with_its_part_or_piece(self) -> None:
        for edit in (DeletePart(self.piece.id, self.b), DeletePiece(self.piece.id)):
            self.assertEqual(edit.apply(self.book).calls, ())

    def test_one_that_is_damaged_is_left_out(self) -> None:
        lost = replace(self.call, part=self.a, audio="0" * 64)
        book = SetCall(self.piece.id, self.a, lost).apply(self.book)
        self.assertEqual(list(calls_of(self.store, book, self.piece.id)), [self.b])

    def test_said_before_its_stage(self) -> None:
        """Two counts before the count-in, which its samples begin on to the sample; the combo by a shipped word."""
        words = calls_of(self.store, self.book, self.piece.id)
        stages = (Stage("click", (self.a,), None, 120, 120), Stage("click", (self.b,), None, 120, 120),
                  Stage("join", (self.b, self.a), None, 120, 120))  # fmt: skip
        made = plan(self.piece, Drill("d", self.piece.id, "Monday", stages), shipped(), words)
        self.assertEqual([made.call(n) for n in range(3)],
                         [(), (words[self.b],), (words[self.b], called("A"))])  # fmt: skip
        section = drill_timeline(made, CountIn()).sections[2]
        self.assertEqual(section.led[0][1], words[self.b])
        quiet = replace(section, mixing=replace(section.mixing, call=()))
        late = render(section).audio.shape[0] - render(quiet).audio.shape[0]
        self.assertEqual(late, 2 * RATE // 2)
        said, _ = spoken(words[self.b])
        begun = render(section).audio[: RATE // 4, 0] / 0.9
        self.assertGreater(np.corrcoef(begun, said[: RATE // 4])[0, 1], 0.9)

    def test_the_combo(self) -> None:
        book = SetCall(self.piece.id, COMBO, replace(self.call, part=COMBO)).apply(self.book)
        self.assertIn(COMBO, calls_of(self.store, book, self.piece.id))


if __name__ == "__main__":
    unittest.main()
