"""Recordings in and out: any rate and depth, and one clear sentence for what is none."""

import unittest
from pathlib import Path

import numpy as np
import soundfile

from firn.core.ear.onsets import find_onsets
from firn.core.ear.student import Faults, dance
from firn.errors import FileFormatError, WriteError
from firn.files.audio import (
    LONG_S,
    flac_bytes,
    from_flac,
    onsets_of_file,
    read_take,
    take_info,
    write_wav_blocks,
)
from firn.files.steps_file import MOST_BYTES, read_steps
from firn.files.whole import write_text
from tests.support import FolderCase, cases, part

SCIPY_WAVS = Path(__import__("scipy").__file__).parent / "io/tests/data"


class ReadTest(FolderCase):
    @cases(
        ("16 bit", "WAV", "PCM_16", 1, 44_100),
        ("8 bit", "WAV", "PCM_U8", 1, 22_050),
        ("24 bit stereo", "WAV", "PCM_24", 2, 48_000),
        ("float", "WAV", "FLOAT", 1, 96_000),
        ("8 kHz", "WAV", "PCM_16", 1, 8_000),
        ("FLAC", "FLAC", "PCM_16", 2, 48_000),
        ("OGG", "OGG", "VORBIS", 1, 44_100),
    )
    def test_kinds(self, name: str, kind: str, depth: str, channels: int, rate: int) -> None:
        danced = dance(part("1 step 2 stamp 3 heel 4 step"), 120, Faults(jitter_ms=0), np.random.default_rng(1))
        from scipy.signal import resample_poly

        sound = resample_poly(danced.audio, rate, 48_000)
        path = self.folder / f"take.{kind.lower()}"
        soundfile.write(path, np.repeat(sound[:, None], channels, axis=1), rate, subtype=depth, format=kind)
        read, read_rate, breaks_off = read_take(path)
        self.assertIsNone(breaks_off)
        self.assertEqual((read.ndim, read_rate), (1, rate))
        found = find_onsets(read, read_rate).times_s
        self.assertEqual(len(found), 4, name)
        np.testing.assert_allclose(found, danced.times_s, atol=0.008)

    def test_eight_bits_end_in_no_foot_of_their_own(self) -> None:
        """Without dither the tail of a sound flickers between two values, and goes silent: nothing begins there."""
        from scipy.signal import resample_poly

        for seed in range(1, 9):
            danced = dance(
                part("1 step  2 stamp  3 heel  4 step"), 120, Faults(jitter_ms=0), np.random.default_rng(seed)
            )
            path = self.folder / "coarse.wav"
            soundfile.write(path, resample_poly(danced.audio, 22_050, 48_000), 22_050, subtype="PCM_U8")
            read, rate, _ = read_take(path)
            self.assertEqual(len(find_onsets(read, rate)), 4, seed)

    def test_clicks_of_two_values_are_heard(self) -> None:
        sound = np.zeros(48_000, np.float32)
        sound[10_000::12_000] = 1.0
        self.assertEqual(len(find_onsets(sound, 48_000)), 4)

    def test_a_stretch(self) -> None:
        path = self.folder / "a.wav"
        soundfile.write(path, np.arange(48_000) / 96_000, 48_000, subtype="FLOAT")
        read, _, _ = read_take(path, start_s=0.5, length_s=0.25)
        np.testing.assert_allclose(read, np.arange(24_000, 36_000) / 96_000, atol=1e-6)

    def test_odd_wavs_of_scipys_tests(self) -> None:
        """scipy/io/tests/data (BSD): each is read, or refused in one sentence."""
        if not SCIPY_WAVS.is_dir():
            self.skipTest("this scipy comes without its test data")
        files = sorted(SCIPY_WAVS.glob("*.wav"))
        self.assertTrue(files)
        for path in files:
            with self.subTest(path.name):
                try:
                    sound, _, _ = read_take(path)
                except FileFormatError as fault:
                    self.assertRegex(str(fault), r"^test.*\.$")
                else:
                    self.assertTrue(len(sound))


class RefusedTest(FolderCase):
    @cases(
        ("not there", None, "is not there"),
        ("a folder", "folder", "is a folder, not a recording"),
        ("empty", b"", "is empty"),
        ("text", b"no sound at all" * 50, "is no recording that Firn can read"),
        ("a header alone", b"RIFF\x24\x00\x00\x00WAVEfmt ", "is no recording"),
    )
    def test_what_is_none(self, name: str, data: object, message: str) -> None:
        path = self.folder / f"{name}.wav"
        if data == "folder":
            path.mkdir()
        elif isinstance(data, bytes):
            path.write_bytes(data)
        with self.assertRaisesRegex(FileFormatError, message):
            take_info(path)

    def test_no_frames(self) -> None:
        path = self.folder / "a.wav"
        soundfile.write(path, np.zeros(0), 48_000)
        with self.assertRaisesRegex(FileFormatError, "holds no sound"):
            read_take(path)

    def test_truncated_is_read_as_far_as_it_goes(self) -> None:
        path = self.folder / "a.wav"
        soundfile.write(path, np.random.default_rng(1).uniform(-0.5, 0.5, 48_000), 48_000)
        path.write_bytes(path.read_bytes()[:50_000])
        sound, _, breaks_off = read_take(path)
        self.assertGreater(len(sound), 20_000)
        self.assertAlmostEqual(breaks_off or 0.0, len(sound) / 48_000, places=3)

    def test_a_rate_too_slow(self) -> None:
        path = self.folder / "a.wav"
        soundfile.write(path, np.zeros(2_000), 2_000)
        with self.assertRaisesRegex(FileFormatError, "2000 samples a second; Firn needs 4000"):
            take_info(path)

    def test_samples_that_are_no_numbers(self) -> None:
        path = self.folder / "a.wav"
        soundfile.write(path, np.full(2_000, np.nan), 48_000, subtype="FLOAT")
        with self.assertRaisesRegex(FileFormatError, "no numbers"):
            read_take(path)

    def test_a_stretch_past_the_end(self) -> None:
        path = self.folder / "a.wav"
        soundfile.write(path, np.zeros(48_000), 48_000)
        with self.assertRaisesRegex(FileFormatError, "holds no sound there"):
            read_take(path, start_s=5)


class LongTest(FolderCase):
    def test_an_hour_is_streamed(self) -> None:
        path = self.folder / "hour.wav"
        quiet = np.zeros(8_000 * 60, dtype=np.float32)
        hit = quiet.copy()
        hit[8_000 * 30 : 8_000 * 30 + 400] = 0.5 * np.sin(np.arange(400) * 1.3) * np.exp(-np.arange(400) / 60)
        with soundfile.SoundFile(path, "w", 8_000, 1) as file:
            for minute in range(60):
                file.write(hit if minute % 20 == 0 else quiet)
        info = take_info(path)
        self.assertTrue(info.long)
        self.assertGreater(info.seconds, LONG_S)
        np.testing.assert_allclose(onsets_of_file(path).times_s, [30, 1230, 2430], atol=0.003)


class WriteTest(FolderCase):
    def test_flac_and_back(self) -> None:
        sound = np.random.default_rng(1).uniform(-0.5, 0.5, 5_000)
        data, name = flac_bytes(sound, 44_100)
        again, rate = from_flac(data)
        self.assertEqual((rate, len(name), flac_bytes(sound, 44_100)[1]), (44_100, 64, name))
        np.testing.assert_allclose(again, sound, atol=2**-15)

    def test_whole_or_not_at_all(self) -> None:
        path = self.folder / "a.wav"
        write_wav_blocks(path, [np.zeros((100, 2))], 48_000)
        self.assertEqual(soundfile.info(path).channels, 2)
        with self.assertRaisesRegex(WriteError, "could not be written"):
            write_wav_blocks(self.folder / "none" / "a.wav", [np.zeros(10)], 48_000)
        self.assertEqual([p.name for p in self.folder.iterdir()], ["a.wav"])


class StepsFileTest(FolderCase):
    def test_text_and_back(self) -> None:
        path = self.folder / "a.steps"
        write_text(path, "part A\n1 step  # ♥\n")
        self.assertEqual(read_steps(path), "part A\n1 step  # ♥\n")

    @cases(
        ("not there", None, "is not there"),
        ("folder", "folder", "is a folder"),
        ("no text", b"\xff\xfe\x00\x80", "no UTF-8 text"),
        ("too long", b" " * (MOST_BYTES + 1), "too long"),
    )
    def test_refused(self, name: str, data: object, message: str) -> None:
        path = self.folder / f"{name}.steps"
        if data == "folder":
            path.mkdir()
        elif isinstance(data, bytes):
            path.write_bytes(data)
        with self.assertRaisesRegex(FileFormatError, message):
            read_steps(path)

    def test_nowhere_to_write(self) -> None:
        with self.assertRaisesRegex(WriteError, "could not be written"):
            write_text(self.folder / "none" / "a.steps", "")


if __name__ == "__main__":
    unittest.main()
