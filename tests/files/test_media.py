"""What phones record is heard at its own times; what is cut off is read as far as it goes."""

import unittest
from fractions import Fraction
from unittest import mock

import numpy as np
import soundfile

from firn.core.ear.onsets import find_onsets
from firn.errors import FileFormatError
from firn.files import media
from firn.files.audio import onsets_of_file, read_take, take_info
from firn.files.media import MediaSound
from tests import films
from tests.support import FolderCase, cases

TIMES = [0.5, 1.0, 1.25, 1.75, 2.5]


class KindsTest(FolderCase):
    @cases(
        ("m4a", "aac", 48_000, {}),
        ("m4a", "aac", 44_100, {}),
        ("mp4", "aac", 48_000, {}),
        ("mov", "aac", 44_100, {}),
        ("mov", "pcm_s16le", 48_000, {}),
        ("webm", "libopus", 48_000, {}),
        ("mkv", "libopus", 48_000, {}),
        ("wma", "wmav2", 44_100, {"container": "asf"}),
        ("aac", "aac", 44_100, {"container": "adts"}),
        ("opus", "libopus", 48_000, {"container": "ogg"}),
        ("mp3", "libmp3lame", 44_100, {}),
        ("3gp", "aac", 16_000, {}),
        ("amr.mp4", "aac", 8_000, {}),
    )
    def test_strikes_lie_where_they_were(self, ending: str, codec: str, rate: int, more: dict) -> None:
        path = self.folder / f"take.{ending}"
        films.write(path, films.strikes(TIMES, 3.2, rate), codec=codec, rate=rate, **more)
        info = take_info(path)
        self.assertEqual((info.rate, info.channels), (rate, 1))
        self.assertAlmostEqual(info.seconds, 3.2, delta=0.2)
        sound, read_rate, breaks_off = read_take(path)
        self.assertIsNone(breaks_off)
        found = find_onsets(sound, read_rate).times_s
        self.assertEqual(len(found), len(TIMES))
        # Two containers cannot say how much later their coders begin: a frame or two, the same all along.
        late = float(np.median(found - TIMES)) if ending in ("aac", "wma") else 0.0
        np.testing.assert_allclose(found, np.array(TIMES) + late, atol=0.006)
        self.assertLessEqual(late, 2_112 / rate + 0.006)

    def test_the_sound_of_a_film(self) -> None:
        path = self.folder / "class.mp4"
        pictures = [np.full((64, 64, 3), n * 2, np.uint8) for n in range(90)]
        films.write(path, films.strikes(TIMES, 3.0), pictures=pictures)
        sound, rate, _ = read_take(path)
        np.testing.assert_allclose(find_onsets(sound, rate).times_s, TIMES, atol=0.006)

    def test_a_stretch_is_as_the_whole(self) -> None:
        path = self.folder / "take.m4a"
        films.write(path, films.strikes(TIMES * 1, 3.2))
        whole, rate, _ = read_take(path)
        for start, length in ((0.9, 0.5), (1.2, 1.0), (2.0, 9.0)):
            piece, _, breaks_off = read_take(path, start_s=start, length_s=length)
            first = round(start * rate)
            np.testing.assert_allclose(piece[:20_000], whole[first : first + len(piece)][:20_000], atol=2e-3)
            self.assertIsNone(breaks_off)

    def test_long_ones_are_streamed(self) -> None:
        times = [30.0, 59.9, 60.1, 100.0]
        path = self.folder / "long.m4a"
        films.write(path, films.strikes(times, 130, 16_000), rate=16_000)
        np.testing.assert_allclose(onsets_of_file(path).times_s, times, atol=0.006)


class CutOffTest(FolderCase):
    def cut(self, name: str, share: float, **how: object) -> float:
        """A file cut to a share of its bytes; how many seconds of it are read."""
        path = self.folder / name
        films.write(path, films.strikes([n / 2 for n in range(1, 38)], 20), **how)  # type: ignore[arg-type]
        path.write_bytes(path.read_bytes()[: round(share * path.stat().st_size)])
        sound, rate, breaks_off = read_take(path)
        self.assertAlmostEqual(breaks_off or 0.0, len(sound) / rate, places=3)
        found = find_onsets(sound, rate).times_s
        np.testing.assert_allclose(found, np.arange(1, len(found) + 1) / 2, atol=0.006)
        return len(sound) / rate

    def test_films_and_recordings(self) -> None:
        with self.subTest("an mp4 that begins with its index"):
            seconds = self.cut("a.m4a", 0.6, options={"movflags": "faststart"})
            self.assertTrue(8 < seconds < 16, seconds)
        with self.subTest("webm"):
            self.assertTrue(8 < self.cut("a.webm", 0.6, codec="libopus") < 16)

    def test_flac_and_wav(self) -> None:
        for kind in ("FLAC", "WAV"):
            with self.subTest(kind):
                path = self.folder / f"a.{kind.lower()}"
                soundfile.write(path, films.strikes([1, 2, 3, 4], 5.0), films.RATE, format=kind)
                path.write_bytes(path.read_bytes()[: path.stat().st_size // 2])
                sound, rate, breaks_off = read_take(path)
                self.assertTrue(0.5 < len(sound) / rate < 4.5)
                self.assertIsNotNone(breaks_off)

    def test_a_phone_that_died(self) -> None:
        """The index of an mp4 stands at its end: without it nobody knows what is where."""
        path = self.folder / "a.mp4"
        films.write(path, films.strikes(TIMES, 3.0))
        path.write_bytes(path.read_bytes()[:-4_000])
        with self.assertRaisesRegex(FileFormatError, "no recording that Firn can read"):
            read_take(path)


class RefusedTest(FolderCase):
    def test_a_film_without_sound(self) -> None:
        path = self.folder / "silent.mp4"
        films.write(path, None, pictures=[np.zeros((64, 64, 3), np.uint8)] * 20)
        with self.assertRaisesRegex(FileFormatError, "silent.mp4 is a film without sound"):
            take_info(path)

    def test_a_picture(self) -> None:
        path = self.folder / "a.png"
        films.write(path, None, pictures=[np.zeros((64, 64, 3), np.uint8)], picture_codec="mjpeg", container="image2")
        with self.assertRaises(FileFormatError):
            take_info(path)

    def test_without_pyav(self) -> None:
        path = self.folder / "a.m4a"
        films.write(path, films.strikes(TIMES, 3.0))
        with (
            mock.patch.dict("sys.modules", {"av": None}),
            self.assertRaisesRegex(FileFormatError, "a.m4a needs PyAV to be read, which is not installed here"),
        ):
            media.MediaSound(path)


class ChannelsTest(FolderCase):
    def test_channels_against_each_other(self) -> None:
        """A wire the wrong way round: the mean of both is silence."""
        one = films.strikes(TIMES, 3.0)
        path = self.folder / "against.wav"
        soundfile.write(path, np.stack([one, -0.9 * one], axis=1), films.RATE)
        sound, rate, _ = read_take(path)
        np.testing.assert_allclose(find_onsets(sound, rate).times_s, TIMES, atol=0.006)

    def test_a_gap_is_silence(self) -> None:
        """What is missing in the middle of a file leaves its room: what comes after is not early."""
        path = self.folder / "gap.mkv"
        import av

        out = av.open(str(path), "w")
        stream = out.add_stream("pcm_s16le", rate=films.RATE, layout="mono")
        for first in (0, 2 * films.RATE):
            piece = (films.strikes([0.5], 1.0) * 32_767).astype(np.int16)[None]
            frame = av.AudioFrame.from_ndarray(piece, format="s16", layout="mono")
            frame.sample_rate, frame.pts = films.RATE, first
            out.mux(stream.encode(frame))
        out.mux(stream.encode(None))
        out.close()
        sound, rate, _ = read_take(path)
        np.testing.assert_allclose(find_onsets(sound, rate).times_s, [0.5, 2.5], atol=0.006)

    def test_a_frame_that_claims_other_channels_is_left_out(self) -> None:
        """Met in a damaged film: the library read past the samples of such a frame, and the process ended."""
        import av

        path = self.folder / "a.wav"
        soundfile.write(path, np.zeros(4_800), films.RATE)
        frames = []
        for number, layout in enumerate(("mono", "stereo", "mono")):
            shape = (2 if layout == "stereo" else 1, 1_600)
            frame = av.AudioFrame.from_ndarray(np.full(shape, 0.25, np.float32), format="fltp", layout=layout)
            frame.sample_rate, frame.pts = films.RATE, number * 1_600
            frame.time_base = Fraction(1, films.RATE)
            frames.append(frame)
        with MediaSound(path) as file:
            real, file._file = file._file, mock.Mock(decode=lambda _: iter(frames))
            file._rest = file._decoded(0)
            read = file.read(4_800)
            file._file = real
        self.assertEqual(read.shape, (4_800, 1))
        self.assertEqual([float(read[at, 0]) for at in (100, 2_000, 4_000)], [0.25, 0.0, 0.25])

    def test_reads_go_on(self) -> None:
        path = self.folder / "a.m4a"
        films.write(path, films.strikes(TIMES, 3.0))
        with MediaSound(path) as file:
            whole = file.read(100_000)
            file.seek(30_000)
            first = file.read(1_000)
            file.seek(32_000)
            near = file.read(500)
        np.testing.assert_allclose(first, whole[30_000:31_000], atol=2e-3)
        np.testing.assert_allclose(near, whole[32_000:32_500], atol=2e-3)


if __name__ == "__main__":
    unittest.main()
