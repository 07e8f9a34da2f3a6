"""A small copy of a film whose key frames lie far apart: each picture at its own time, and soon found."""

import unittest
from pathlib import Path

from firn.core.task import Task
from firn.errors import Cancelled, WriteError
from firn.files.dense_film import copied, dense_copy, far_apart
from firn.files.pictures import MediaPictures
from tests import films
from tests.support import FolderCase, cases

MANY = 150


def film(path: Path, *, key_every: int, times: list[float] | None = None) -> Path:
    pictures = [films.numbered(n) for n in range(MANY)]
    films.write(path, None, pictures=pictures, picture_times_s=times, key_every=key_every)
    return path


class DenseTest(FolderCase):
    @cases(("a second apart", 30, False), ("one alone", 1_000, True))
    def test_how_far_apart(self, _: str, key_every: int, far: bool) -> None:
        self.assertEqual(far_apart(film(self.folder / f"{key_every}.mp4", key_every=key_every)), far)

    def test_each_picture_is_there_at_its_own_time(self) -> None:
        """A phone's rate that varies: 24 to 40 a second."""
        times, at = [], 0.0
        for n in range(MANY):
            times.append(round(at, 3))
            at += 1 / (24 + 16 * (n % 7) / 6)
        path, out = film(self.folder / "film.mp4", key_every=1_000, times=times), self.folder / "copy.mp4"
        dense_copy(path, out)
        self.assertFalse(far_apart(out))
        with MediaPictures(path) as ours, MediaPictures(out) as theirs:
            self.assertLessEqual(theirs.info.height, 360)
            for n in (0, 1, 47, 90, 149):
                picture, small = ours.at(times[n] + 0.002), theirs.at(times[n] + 0.002)
                self.assertAlmostEqual(picture.time_s, small.time_s, delta=0.001)
                self.assertEqual((films.number_of(picture.pixels), films.number_of(small.pixels)), (n, n))

    def test_stopped_or_in_the_way_nothing_is_left(self) -> None:
        path, out = film(self.folder / "film.mp4", key_every=1_000), self.folder / "copy.mp4"

        def stop() -> bool:
            return True

        with self.assertRaises(Cancelled):
            dense_copy(path, out, Task(cancelled=stop))
        self.assertEqual([one.name for one in self.folder.iterdir()], ["film.mp4"])
        self.assertIsNone(copied(out))
        out.mkdir()
        with self.assertRaises(WriteError):
            dense_copy(path, out)

    def test_a_copy_that_is_damaged_is_none(self) -> None:
        (self.folder / "copy.mp4").write_bytes(b"no film")
        self.assertIsNone(copied(self.folder / "copy.mp4"))


if __name__ == "__main__":
    unittest.main()
