"""Music of her own under what is danced: its counts where a click track made elsewhere has them, drift and all."""

import unittest
from fractions import Fraction
from pathlib import Path

import numpy as np
import soundfile

from firn.core.book.book import Book, piece_of_script
from firn.core.book.edits import AddPiece, DeletePiece, SetClip
from firn.core.meter.count_in import CountIn
from firn.core.meter.line import Line
from firn.core.sound.model import render
from firn.core.sound.voices import RATE
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.music import heard_of, laid, speed_for
from firn.core.timeline.own_music import AWAY_S, MusicError, OwnMusic
from firn.core.timeline.timeline import Section
from firn.errors import FirnError
from firn.session.clips import open_clip
from firn.session.music import (
    Counted,
    Heard,
    beat_beside,
    counted_of,
    doubt_of,
    heard_in,
    kept_music,
    likely,
    line_for,
    music_of,
    own_music,
    times_as_fast,
)
from tests.support import FolderCase, cases, part

COUNTING = part("1 step").settings.counting
LEAD_S = 1.25
"""Seconds of the recordings before their first beat."""


def clicks(times_s: np.ndarray, seconds: float, rate: int = RATE) -> np.ndarray:
    """Bursts of noise at times, each fourth louder and lower: no sound that Firn makes."""
    chance = np.random.default_rng(3)
    sound = np.zeros(round(seconds * rate))
    for n, time in enumerate(times_s):
        at = round(time * rate)
        burst = chance.standard_normal(round(0.05 * rate)) * np.exp(-np.arange(round(0.05 * rate)) / (0.01 * rate))
        end = min(len(sound), at + len(burst))
        sound[at:end] += burst[: end - at] * (0.5 if n % 4 == 0 else 0.25)
    return sound


def beats(many: int, bpm: float, drift: float = 0.0) -> np.ndarray:
    """Beats of which each lasts a share of `drift` longer, over all of them, than the first."""
    spans = 60 / bpm * (1 + drift * np.arange(many - 1) / many)
    return LEAD_S + np.concatenate([[0.0], np.cumsum(spans)])


class FileCase(FolderCase):
    def file(self, times_s: np.ndarray, name: str = "mill.wav") -> Path:
        path = self.folder / name
        soundfile.write(path, clicks(times_s, float(times_s[-1]) + 1), RATE)
        return path


class CountedTest(FileCase):
    @cases(("steady", 118.0, 0.0), ("drifting by 3 of 100", 104.0, 0.03), ("slow", 84.0, -0.02))
    def test_its_counts_lie_on_its_beats(self, _: str, bpm: float, drift: float) -> None:
        times = beats(64, bpm, drift)
        heard = heard_in(self.file(times))
        how = likely(heard, 108)
        self.assertAlmostEqual(how.tempo / (60 / np.diff(times).mean()), 1, delta=0.02)
        line = line_for(heard, how)
        # Which beat is 1 is hers to say: from there on each count is a beat.
        how = Counted(how.tempo, float(times[0]))
        line = line_for(heard, how)
        away = line.at(np.arange(60, dtype=float)) - times[:60]
        self.assertLess(np.abs(away).max(), 0.02)

    @cases((200, 100.0), (50, 100.0), (96, 100.0))
    def test_half_or_twice_where_the_piece_goes_so(self, tempo: float, bpm: float) -> None:
        heard = heard_in(self.file(beats(48, bpm)))
        self.assertAlmostEqual(likely(heard, tempo).tempo, {200: 200, 50: 50, 96: 100}[tempo], delta=2)

    def test_a_beat_further_and_twice_as_fast(self) -> None:
        heard = Heard(Path("a.wav"), 30, tuple(1.0 + 0.5 * n for n in range(40)), 120, 1.0)
        how = Counted(120, 2.0)
        self.assertEqual(beat_beside(heard, how, 1).first_s, 2.5)
        self.assertEqual(beat_beside(heard, Counted(120, 2.1), 1).first_s, 2.0)
        self.assertEqual(beat_beside(heard, Counted(120, 1.0), -1).first_s, 1.0)
        self.assertEqual(times_as_fast(how, 0.5), Counted(60, 2.0))
        line = line_for(heard, Counted(60, 2.0))
        self.assertAlmostEqual(line.second(1), 3.0, places=2)

    def test_another_tempo_is_steady(self) -> None:
        line = line_for(
            Heard(Path("a.wav"), 30, tuple(1.0 + 0.5 * n for n in range(40)), 120, 1.0), Counted(90, 0.25)
        )
        self.assertAlmostEqual(line.second(3), 2.25)

    @cases(("too slow", Counted(10, 0), "Between 20 and 400"), ("behind its end", Counted(100, 31), "in the 30 s"),
           ("before it", Counted(100, -1), "in the 30 s"))  # fmt: skip
    def test_what_cannot_be(self, _: str, how: Counted, said: str) -> None:
        with self.assertRaisesRegex(MusicError, said):
            line_for(Heard(Path("a.wav"), 30, (), 0, 0), how)

    def test_what_is_not_sure_is_said(self) -> None:
        self.assertIn("No beat", doubt_of(Heard(Path("a.wav"), 30, (), 0, 0)))
        self.assertIn("Half or twice", doubt_of(Heard(Path("a.wav"), 30, (1.0, 2.0), 60, 0.2)))
        self.assertIn("Which of its beats is 1", doubt_of(Heard(Path("a.wav"), 30, (1.0, 2.0), 60, 0.9)))

    def test_hum_and_what_is_no_sound(self) -> None:
        path = self.folder / "hum.wav"
        soundfile.write(path, 0.1 * np.sin(np.arange(RATE) * 0.02), RATE)
        self.assertEqual(heard_in(path).beats_s, ())
        (self.folder / "a.wav").write_text("no sound")
        with self.assertRaises(FirnError):
            heard_in(self.folder / "a.wav")


class LaidTest(FileCase):
    def section(self, tempo: float, counts: int = 16, **mixing: object) -> Section:
        mixed = Mixing(tempo, CountIn("none"), beats=True, counts=False, steps=False, music=True, **mixing)
        return Section((), COUNTING, Fraction(0), Fraction(counts), mixed)

    @cases(("as it is", 100, 1.0), ("slower", 75, 0.75))
    def test_beats_and_music_sound_at_once(self, _: str, tempo: float, speed: float) -> None:
        """Of a drifting recording: where its bursts lie in what is rendered, and where the counts say they do."""
        times = beats(40, 100, 0.02)
        path = self.file(times)
        music = own_music(open_clip(path), Line(np.arange(40.0), times))
        section = laid(self.section(tempo * music.tempo / 100), music)
        self.assertAlmostEqual(section.mixing.tempo / music.tempo, speed, places=3)
        silent = render(laid(replace_mixing(section), music))
        loud = np.abs(silent.audio[:, 0])
        for count in range(1, 16):
            at = silent.sample(Fraction(count))
            around = loud[at - 2400 : at + 2400]
            found = int(np.argmax(around > 0.3 * around.max())) - 2400
            self.assertLess(abs(found) / RATE, AWAY_S + 0.004, count)

    def test_a_steady_recording_has_one_tempo(self) -> None:
        music = OwnMusic("a", Line(np.arange(0, 64, 4.0), np.arange(0, 64, 4.0) * 0.5), 40, never)
        self.assertEqual(music.path(1).steps, ((Fraction(0), Fraction(120)),))
        self.assertEqual(music.counts, 80)

    @cases((120, 1.0), (121.7, 1.0), (118.3, 1.0), (118.1, 118.1 / 120), (48, 0.4))
    def test_at_which_speed(self, tempo: float, speed: float) -> None:
        """As it is within 1.5 of 100 of its own tempo; down to two fifths of it."""
        music = OwnMusic("a", Line(np.array([0.0, 60.0]), np.array([0.0, 30.0])), 60, never)
        self.assertAlmostEqual(speed_for(music, tempo), speed, places=6)

    @cases((122.0,), (47.9,))
    def test_no_faster_and_no_slower(self, tempo: float) -> None:
        music = OwnMusic("a", Line(np.array([0.0, 60.0]), np.array([0.0, 30.0])), 60, never)
        with self.assertRaises(MusicError):
            speed_for(music, tempo)

    def test_slower_its_lead_lasts_longer(self) -> None:
        """Music at 120 with .75 s before its 1, danced at 90 after a count-in of 4 at 90 (2.667 s): the lead of .75 s
        lasts 1 s, and begins 1.667 s into the section; 8 counts of it are 4 s."""
        music = OwnMusic("a", Line(np.array([0.0, 60.0]), np.array([0.75, 30.75])), 60, never)
        section = laid(Section((), COUNTING, Fraction(0), Fraction(8), Mixing(90, CountIn())), music)
        self.assertTrue(section.mixing.music)
        begin, end, speed, at = heard_of(section)
        self.assertEqual((begin, end, speed), (0.0, 4.75, 0.75))
        self.assertAlmostEqual(float(at), float(section.seconds_at(Fraction(0))) - 1, places=9)
        longer = OwnMusic("a", Line(np.array([0.0, 60.0]), np.array([9.0, 39.0])), 60, never)
        begin, _, _, at = heard_of(laid(section, longer))
        self.assertAlmostEqual(begin, 9 - 0.75 * float(section.seconds_at(Fraction(0))), places=9)
        self.assertAlmostEqual(float(at), 0, places=9)

    def test_through_the_count_in_where_there_is_as_much(self) -> None:
        music = OwnMusic("a", Line(np.array([0.0, 60.0]), np.array([8.0, 38.0])), 60, never)
        section = laid(Section((), COUNTING, Fraction(0), Fraction(8), Mixing(120, CountIn())), music)
        begin, end, speed, at = heard_of(section)
        self.assertEqual((begin, end, speed, at), (8 - float(section.seconds_at(Fraction(0))), 12.0, 1.0, 0))
        short = OwnMusic("a", Line(np.array([0.0, 60.0]), np.array([0.5, 30.5])), 60, never)
        begin, end, speed, at = heard_of(laid(section, short))
        self.assertEqual((begin, at), (0.0, section.seconds_at(Fraction(0)) - Fraction(1, 2)))

    @cases(("faster than it is", 140, 60.0, "only be made slower"), ("far slower", 40, 60.0, "nothing is left"),
           ("over before", 120, 0.1, "is over after count 0"))  # fmt: skip
    def test_what_cannot_be_danced_to_it(self, _: str, tempo: float, seconds: float, said: str) -> None:
        music = OwnMusic("Mill", Line(np.array([0.0, 60.0]), np.array([0.1, 30.1])), seconds, never)
        with self.assertRaisesRegex(MusicError, said):
            laid(self.section(tempo), music)

    def test_where_it_ends_the_steps_go_on(self) -> None:
        path = self.file(beats(10, 120))
        music = own_music(open_clip(path), Line(np.arange(10.0), beats(10, 120)))
        made = render(laid(self.section(120, 32), music))
        self.assertGreater(np.abs(made.audio[made.sample(Fraction(4)) :][:RATE]).max(), 0.1)
        self.assertEqual(made.end, made.sample(Fraction(32)))


def replace_mixing(section: Section) -> Section:
    """The same without its own beats, to hear the music alone."""
    from msgspec.structs import replace

    return replace(section, mixing=replace(section.mixing, beats=False))


def never(begin_s: float, end_s: float, speed: float) -> np.ndarray:
    raise AssertionError("nothing is to be heard here")


class KeptTest(FileCase):
    def setUp(self) -> None:
        super().setUp()
        self.piece = piece_of_script("piece: Gate\npart A\n1 step\n", ["p", "a"][::-1])
        self.book = AddPiece(self.piece).apply(Book())

    def test_kept_found_again_and_gone_with_its_piece(self) -> None:
        path = self.file(beats(32, 120))
        heard = heard_in(path)
        how = Counted(likely(heard, 120).tempo, 2.25)
        book = SetClip("p", self.piece.id, kept_music(self.piece.id, heard, how)).apply(self.book)
        kept = book.clip_of(self.piece.id)
        self.assertAlmostEqual(counted_of(kept).first_s, 2.25, places=2)
        self.assertAlmostEqual(counted_of(kept).tempo, 120, delta=1)
        moved = path.rename(self.folder / "another name.wav")
        music = music_of(book, self.piece.id, self.folder / "class.firn")
        self.assertEqual((music.name, round(music.line.second(0), 2)), (moved.name, 2.25))
        moved.unlink()
        with self.assertRaisesRegex(FirnError, "neither in"):
            music_of(book, self.piece.id, self.folder / "class.firn")
        self.assertEqual(DeletePiece(self.piece.id).apply(book).clips, ())
        self.assertIsNone(music_of(self.book, self.piece.id, self.folder / "class.firn"))


if __name__ == "__main__":
    unittest.main()
