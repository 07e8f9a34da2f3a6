"""Files known by what they hold, whatever they are called; each made by the program that is at home in its format."""

import io
import zipfile

import mido
import numpy as np
import soundfile
from music21 import note, stream

from firn.files.known import ending_of
from firn.files.tunes import read_rhythm, read_tune
from firn.session.session import Session
from tests import films
from tests.support import FolderCase, cases

ABC = "X:1\nT:Lamp\nM:4/4\nL:1/4\nQ:1/4=112\nK:D\n|:DDDD|DDDD:|\n"


class KnownTest(FolderCase):
    def called(self, data: bytes, name: str = "thing.bin") -> str:
        path = self.folder / name
        path.write_bytes(data)
        return ending_of(path)

    @cases(
        ("abc", ABC, ".abc"),
        ("abc after a remark", f"%abc-2.1\n% by hand\n{ABC}", ".abc"),
        ("a piece", "piece: Lamp\n\npart A\n1 step\n", ".steps"),
        ("a piece without a head", "# by hand\npart A\n1 step\n\ncombo\nA x2\n", ".steps"),
        ("cards", '# mine\n\n[[card]]\nname = "gate swing"\n', ".toml"),
        ("a letter", "Dear all,\nlast Tuesday we took part in a parade.\n", ".bin"),
        ("a page", "<!DOCTYPE html><html><p>X:1</p></html>", ".bin"),
        ("nothing", "", ".bin"),
    )
    def test_texts(self, name: str, text: str, wanted: str) -> None:
        self.assertEqual(self.called(text.encode()), wanted, name)

    def test_sounds_as_libsndfile_writes_them(self) -> None:
        for kind, wanted in (("WAV", ".wav"), ("FLAC", ".flac"), ("OGG", ".ogg"), ("AIFF", ".aif"), ("CAF", ".caf")):
            out = io.BytesIO()
            soundfile.write(out, np.zeros(2_000), 8_000, format=kind)
            self.assertEqual(self.called(out.getvalue()), wanted, kind)

    def test_films_as_ffmpeg_writes_them(self) -> None:
        pictures = [films.numbered(n) for n in range(6)]
        for name, codec, wanted in (
            ("a.mp4", "libx264", ".mp4"),
            ("a.webm", "libvpx-vp9", ".webm"),
            ("a.avi", "mjpeg", ".avi"),
        ):
            path = self.folder / name
            films.write(path, None, pictures=pictures, picture_codec=codec)
            self.assertEqual(self.called(path.read_bytes()), wanted, name)
        path = self.folder / "a.m4a"
        films.write(path, films.strikes([0.2], 0.5), container="ipod")
        self.assertEqual(self.called(path.read_bytes()), ".m4a")

    def test_scores_as_others_write_them(self) -> None:
        song = stream.Stream([note.Note("D4", quarterLength=1) for _ in range(4)])
        plain = song.write("musicxml", fp=self.folder / "song.musicxml").read_bytes()
        self.assertEqual(self.called(plain), ".musicxml")
        packed = io.BytesIO()
        with zipfile.ZipFile(packed, "w") as pack:
            pack.writestr("song.xml", plain)
        self.assertEqual(self.called(packed.getvalue()), ".mxl")
        file = mido.MidiFile()
        file.tracks.append(
            mido.MidiTrack([mido.Message("note_on", note=36, channel=9), mido.Message("note_off", note=36, time=99)])
        )
        out = io.BytesIO()
        file.save(file=out)
        self.assertEqual(self.called(out.getvalue()), ".mid")
        self.assertEqual(len(read_rhythm(self.folder / "thing.bin").places), 1)

    def test_a_workbook_and_a_tune_by_another_name(self) -> None:
        path = self.folder / "class.firn"
        Session.new(path).close()
        self.assertEqual(self.called(path.read_bytes()), ".firn")
        self.called(ABC.encode(), "tune.mid")
        self.assertEqual(read_tune(self.folder / "tune.mid").counts, 16)

    def test_what_cannot_be_opened_is_called_as_it_is(self) -> None:
        self.assertEqual(ending_of(self.folder), "")
        self.assertEqual(ending_of(self.folder / "gone.WAV"), ".wav")
        # A letter that is cut where the look ends spoils nothing.
        self.assertEqual(self.called(("part A\n1 step #" + "é" * 4_000).encode()), ".steps")
        self.assertEqual(self.called(b"part A\n\xff\xfe\0"), ".bin")
