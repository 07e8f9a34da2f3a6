"""A clip beside the workbook: known by its content, heard at any speed, tied to the counts."""

import shutil
import unittest

import numpy as np
from msgspec.structs import replace

from firn.core.book.clips import Clip
from firn.core.ear.onsets import find_onsets
from firn.core.sound.voices import RATE
from firn.errors import FileFormatError, FirnError
from firn.session.clips import ClipSound, fingerprint, found_clip, line_of, open_clip, shade
from tests import films
from tests.support import FolderCase

TIMES = [1.0, 1.5, 2.0, 2.25, 2.5, 3.0]


class ClipCase(FolderCase):
    def film(self, name: str = "evening.mp4", *, sound: bool = True, seconds: float = 4.0) -> Clip:
        """A film whose feet fall twice a second from second 1 on, kept as the clip of a part from count 0."""
        self.path = self.folder / name
        pictures = [films.numbered(n) for n in range(round(30 * seconds))]
        films.write(self.path, films.strikes(TIMES, seconds) if sound else None, pictures=pictures)
        size, digest = fingerprint(self.path)
        return Clip("c", "p", "a", str(self.path), size, digest, 1.0, 3.2, (0.0, 4.0), (1.0, 3.0))


class OpenTest(ClipCase):
    def test_film_sound_and_neither(self) -> None:
        self.film()
        clip = open_clip(self.path)
        self.assertAlmostEqual(clip.seconds, 4.0, delta=0.1)
        self.assertTrue(clip.sound)
        assert clip.pictures is not None
        clip.pictures.close()
        self.film("silent.mp4", sound=False)
        silent = open_clip(self.path)
        assert silent.pictures is not None
        silent.pictures.close()
        self.assertFalse(silent.sound)
        alone = self.folder / "alone.m4a"
        films.write(alone, films.strikes(TIMES, 4.0))
        self.assertIsNone(open_clip(alone).pictures)
        wrong = self.folder / "wrong.mp4"
        for data, said in ((b"", "is empty"), (b"words", "no recording that Firn can read")):
            wrong.write_bytes(data)
            with self.assertRaisesRegex(FileFormatError, said):
                open_clip(wrong)


class HeardTest(ClipCase):
    def test_pieces_go_on_from_each_other_at_half_speed(self) -> None:
        self.film()
        clip = open_clip(self.path)
        sound = ClipSound(clip)
        whole = np.concatenate([sound.piece(0.8, 2.1, 0.5), sound.piece(2.1, 3.5, 0.5)])
        self.assertEqual(whole.shape, (round(2.7 * 2 * RATE), 2))
        found = 0.8 + find_onsets(whole[:, 0], RATE).times_s * 0.5
        for time in TIMES:
            self.assertLess(np.abs(found - time).min(), 0.006)
        self.assertAlmostEqual(float(np.abs(whole).max()), 0.5, delta=0.15)

    def test_where_there_is_no_sound_there_is_silence(self) -> None:
        self.film("silent.mp4", sound=False)
        piece = ClipSound(open_clip(self.path)).piece(1.0, 2.0, 0.25)
        self.assertEqual((piece.shape, float(np.abs(piece).max())), ((4 * RATE, 2), 0.0))

    def test_the_shade_is_dark_where_feet_fall(self) -> None:
        kept = self.film()
        line = line_of(kept)
        assert line is not None
        found = shade(open_clip(self.path), line, 0.0, 4.0)
        for count in (0.0, 1.0, 2.5, 3.0):
            near = [level for at, level in found if count - 0.05 < at < count + 0.15]
            self.assertGreater(max(near, default=0), 0.6, count)
        self.assertLess(max(level for at, level in found if 0.6 < at < 0.9), 0.3)
        self.assertIsNone(line_of(replace(kept, counts=(), seconds=())))


class FoundTest(ClipCase):
    def test_a_clip_that_moved_is_found_by_its_content(self) -> None:
        kept = self.film()
        book = self.folder / "books" / "class.firn"
        book.parent.mkdir()
        self.assertEqual(found_clip(kept, book), self.path)
        renamed = self.path.rename(self.folder / "another name.mp4")
        self.assertEqual(found_clip(kept, book), renamed)
        beside = book.parent / "evening.mp4"
        shutil.move(renamed, beside)
        self.assertEqual(found_clip(kept, book), beside)
        beside.write_bytes(beside.read_bytes()[:-1] + b"x")
        self.assertIsNone(found_clip(kept, book))
        beside.unlink()
        self.assertIsNone(found_clip(kept, book))
        with self.assertRaises(FirnError):
            fingerprint(beside)


if __name__ == "__main__":
    unittest.main()
