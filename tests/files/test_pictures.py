"""Pictures of a film are those that are seen at a time, to the frame, whatever the container and the phone."""

import random
import unittest
from bisect import bisect_right

import numpy as np

from firn.errors import FileFormatError
from firn.files.pictures import MediaPictures
from tests import films
from tests.support import FolderCase, cases

MANY = 150


def uneven(rng: random.Random) -> list[float]:
    """Times of pictures as a phone takes them in the dark: unevenly, in thousandths of a second."""
    times, now = [], 0
    for _ in range(MANY):
        times.append(now / 1000)
        now += rng.choice([33, 34, 40, 17, 100])
    return times


class ExactTest(FolderCase):
    @cases(
        ("mp4", "libx264", "aac", 48),
        ("mov", "libx264", "aac", 240),
        ("webm", "libvpx-vp9", "libopus", 60),
        ("mkv", "mpeg4", "aac", 12),
    )
    def test_a_hundred_places(self, ending: str, codec: str, sound: str, keys: int) -> None:
        rng = random.Random(ending)
        times = uneven(rng)
        path = self.folder / f"film.{ending}"
        films.write(
            path,
            films.strikes([1.0], times[-1]),
            codec=sound,
            pictures=[films.numbered(n) for n in range(MANY)],
            picture_times_s=times,
            picture_codec=codec,
            key_every=keys,
        )
        with MediaPictures(path) as film:
            self.assertEqual((film.info.width, film.info.height, film.info.sound), (320, 240, True))
            for _ in range(100):
                at = rng.choice(times) + rng.uniform(0.002, 0.014)
                self.assertEqual(films.number_of(film.at(at).pixels), bisect_right(times, at) - 1)

    def test_one_by_one_both_ways(self) -> None:
        path = self.folder / "film.mp4"
        films.write(path, None, pictures=[films.numbered(n) for n in range(60)], key_every=25)
        with MediaPictures(path) as film:
            now = film.at(1.0)
            seen = [films.number_of(now.pixels)]
            for _ in range(7):
                now = film.before(now)
                seen.append(films.number_of(now.pixels))
            for _ in range(3):
                now = film.after(now)
                seen.append(films.number_of(now.pixels))
            self.assertEqual(seen, [30, 29, 28, 27, 26, 25, 24, 23, 24, 25, 26])
            first, last = film.at(-3), film.at(99)
            self.assertEqual([films.number_of(p.pixels) for p in (first, film.before(first))], [0, 0])
            self.assertEqual([films.number_of(p.pixels) for p in (last, film.after(last))], [59, 59])
            self.assertFalse(film.info.sound)


class KindsTest(FolderCase):
    @cases((0, (0, 0)), (1, (0, -1)), (2, (-1, -1)), (3, (-1, 0)))
    def test_a_phone_held_otherwise(self, quarters: int, corner: tuple[int, int]) -> None:
        path = self.folder / "film.mp4"
        films.write(path, None, pictures=[films.numbered(1)] * 12)
        films.turn(path, quarters)
        with MediaPictures(path) as film:
            size = (320, 240) if quarters % 2 == 0 else (240, 320)
            self.assertEqual((film.info.width, film.info.height), size)
            pixels = film.at(0.1).pixels
            at = [(films.MARGIN + 20) * (1 if side == 0 else -1) for side in corner]
            self.assertGreater(pixels[at[0], at[1]].mean(), 200)
            self.assertLess(pixels[-at[0], -at[1]].mean(), 60)

    def test_large_and_deep_pictures_are_made_smaller(self) -> None:
        path = self.folder / "film.mkv"
        picture = np.repeat(np.repeat(films.numbered(1), 6, axis=0), 6, axis=1)
        films.write(path, None, pictures=[picture] * 3, picture_codec="libx264", deep=True)
        with MediaPictures(path) as film:
            self.assertEqual((film.info.width, film.info.height), (960, 720))
            self.assertEqual(film.at(0).pixels.dtype, np.uint8)
            self.assertEqual(films.number_of(film.at(0).pixels[::3, ::3]), 1)


class BadTest(FolderCase):
    def test_a_cut_off_film_goes_as_far_as_it_does(self) -> None:
        whole, path = self.folder / "whole.mkv", self.folder / "cut.mkv"
        noise = np.random.default_rng(1).integers(0, 255, (40, 60, 3), np.uint8)
        pictures = []
        for n in range(90):
            picture = films.numbered(n)
            picture[150:190, 100:160] = np.roll(noise, n, axis=0)
            pictures.append(picture)
        films.write(whole, None, pictures=pictures, picture_codec="mpeg4")
        path.write_bytes(whole.read_bytes()[: whole.stat().st_size // 2])
        with MediaPictures(path) as film:
            self.assertEqual(films.number_of(film.at(0.5).pixels), 15)
            self.assertIn(films.number_of(film.at(60).pixels), range(25, 70))

    def test_what_has_no_pictures(self) -> None:
        sound, text = self.folder / "sound.m4a", self.folder / "text.mp4"
        films.write(sound, films.strikes([0.2], 0.5))
        text.write_text("not a film")
        for path, said in ((sound, "holds no pictures"), (text, "no recording that Firn can read")):
            with self.assertRaisesRegex(FileFormatError, said):
                MediaPictures(path)


if __name__ == "__main__":
    unittest.main()
