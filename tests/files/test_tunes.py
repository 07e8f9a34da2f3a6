"""Tunes read from files: MIDI and MusicXML against what other readers say of them, and files that are none."""

import io
import unittest
import zipfile

import mido

from firn.core.meter.meter import Meter
from firn.core.tune.tune import Tune, TuneError
from firn.errors import FirnError
from firn.files.tunes import read_rhythm, read_tune, tunes_in
from tests.support import DATA, FolderCase, cases

SCORE = """<?xml version="1.0"?><score-partwise version="4.0"><work><work-title>Two</work-title></work>
<part-list><score-part id="P1"><part-name>x</part-name></score-part></part-list><part id="P1">{bars}</part>
</score-partwise>"""
NOTE = "<note><rest/><duration>{long}</duration></note>"


def bar(number: int, long: int = 8, more: str = "", lines: str = "") -> str:
    return f'<measure number="{number}">{more}{NOTE.format(long=long)}{lines}</measure>'


FIRST = "<attributes><divisions>2</divisions><time><beats>4</beats><beat-type>4</beat-type></time></attributes>"
FORWARD = '<barline location="left"><repeat direction="forward"/></barline>'
BACK = '<barline location="right"><repeat direction="backward"/></barline>'


def ending(number: int, kind: str) -> str:
    return f'<barline><ending number="{number}" type="{kind}"/></barline>'


class MidiTest(FolderCase):
    def test_the_reference(self) -> None:
        """Two bars of 4/4 at 100, then 9/8 up to tick 6,160 at 480 a quarter: two more bars; pretty_midi agrees."""
        tune = read_tune(DATA / "midi_reference.mid")
        self.assertEqual((tune.meter, tune.tempo, tune.counts), (Meter(4, 4), 100, 8 + 6))

    def test_markers_are_sections(self) -> None:
        file, track = mido.MidiFile(ticks_per_beat=96), mido.MidiTrack()
        file.tracks.append(track)
        track.append(mido.MetaMessage("time_signature", numerator=6, denominator=8))
        track.append(mido.MetaMessage("set_tempo", tempo=400_000))
        for name in ("A", "B"):
            track.append(mido.MetaMessage("marker", text=name, time=0))
            for _ in range(8):
                track.append(mido.Message("note_on", note=60, time=0))
                track.append(mido.Message("note_off", note=60, time=288))
        path = self.folder / "jig.mid"
        file.save(path)
        tune = read_tune(path)
        # 400,000 us a quarter are 150 quarters, 100 dotted quarters a minute.
        self.assertEqual((tune.form, tune.counts, tune.meter, tune.tempo), ("AB", 32, Meter(6, 8), 100))

    @cases((b"",), (b"MThd",), (b"MThd\x00\x00\x00\x06\x00\x01\x00\x01\x01\xe0MTrk\x00\x00\xff\xff",), (b"no",))
    def test_what_is_none(self, data: bytes) -> None:
        path = self.folder / "bad.mid"
        path.write_bytes(data)
        with self.assertRaises(TuneError):
            read_tune(path)


class MusicXmlTest(FolderCase):
    def score(self, bars: str, name: str = "two.musicxml", pack: bool = False) -> Tune:
        path = self.folder / name
        data = SCORE.format(bars=bars).encode()
        if pack:
            out = io.BytesIO()
            with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as zipped:
                zipped.writestr("META-INF/container.xml", "<container/>")
                zipped.writestr("score.xml", data)
            data = out.getvalue()
        path.write_bytes(data)
        return read_tune(path)

    def test_the_reference(self) -> None:
        """One bar of 4/4 at 100 quarters a minute: music21 and verovio agree."""
        tune = read_tune(DATA / "perc_reference.musicxml")
        self.assertEqual((tune.meter, tune.tempo, tune.counts), (Meter(4, 4), 100, 4))

    def test_repeats_and_endings(self) -> None:
        bars = bar(1, more=FIRST + FORWARD) + bar(2, more=ending(1, "start"), lines=BACK + ending(1, "stop"))
        bars += bar(3, more=ending(2, "start"), lines=ending(2, "stop")) + bar(4, more=FORWARD) + bar(5, lines=BACK)
        tune = self.score(bars)
        self.assertEqual((tune.name, tune.form, tune.counts), ("Two", "AABB", 32))

    def test_a_pick_up_and_a_zip(self) -> None:
        tune = self.score(bar(0, 2, more=FIRST) + bar(1) + bar(2, 6), "two.mxl", pack=True)
        self.assertEqual((tune.pickup, tune.counts), (1, 7))

    @cases(
        ("<a>",), ("<score-timewise/>",), ("<html/>",), ("",),
        ('<!DOCTYPE a [<!ENTITY x "y"><!ENTITY z "&x;&x;">]><score-partwise>&z;</score-partwise>',),
        (SCORE.format(bars=bar(1, more="<attributes><divisions>0</divisions></attributes>")),),
        (SCORE.format(bars=bar(1, more="<attributes><divisions>many</divisions></attributes>")),),
        (SCORE.format(bars=""),),
    )  # fmt: skip
    def test_what_is_none(self, text: str) -> None:
        path = self.folder / "bad.musicxml"
        path.write_text(text, "utf-8")
        with self.assertRaises(TuneError) as fault:
            read_tune(path)
        self.assertNotIn("\n", str(fault.exception))

    def test_a_zip_that_unpacks_to_too_much(self) -> None:
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as zipped:
            zipped.writestr("score.xml", b" " * 40_000_000)
        path = self.folder / "bomb.mxl"
        path.write_bytes(out.getvalue())
        with self.assertRaisesRegex(TuneError, "unpacks to more than 32 MB"):
            read_tune(path)


def midi_of(events: int) -> bytes:
    """A MIDI file of so many strokes, in running status, three bytes each."""
    track = b"\x00\x99\x24\x40" + b"\x01\x24\x40" * events + b"\x00\xff\x2f\x00"
    return b"MThd\x00\x00\x00\x06\x00\x00\x00\x01\x01\xe0MTrk" + len(track).to_bytes(4, "big") + track


def repeated(bars: int) -> bytes:
    """MusicXML whose every bar is to be played a million times."""
    back = BACK.replace('"backward"', '"backward" times="999999"')
    return SCORE.format(bars=bar(1, more=FIRST + FORWARD, lines=back) * bars).encode()


class HostileTest(FolderCase):
    @cases(
        ("a million notes", "a.mid", midi_of(1_000_000)),
        ("endless nesting", "a.musicxml", b"<score-partwise>" + b"<part>" * 30_000 + b"</part>" * 30_000),
        ("repeats without end", "a.musicxml", repeated(2_000)),
        ("bars without end", "a.abc", b"X:1\nM:4/4\nL:1/4\nK:D\n" + b"|:D|1,2,3,4,5,6,7,8,9 D:|" * 12_000),
    )
    def test_one_sentence(self, _: str, name: str, data: bytes) -> None:
        path = self.folder / name
        path.write_bytes(data)
        for read in (read_tune, read_rhythm):
            with self.assertRaises(FirnError) as fault:
                read(path)
            self.assertNotIn("\n", str(fault.exception))

    def test_a_zip_with_a_path_writes_nothing(self) -> None:
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w") as zipped:
            zipped.writestr("../outside.xml", SCORE.format(bars=bar(1, more=FIRST)))
        inside = self.folder / "inside"
        inside.mkdir()
        (inside / "a.mxl").write_bytes(out.getvalue())
        self.assertEqual(read_tune(inside / "a.mxl").counts, 4)
        self.assertEqual([p.name for p in self.folder.rglob("*")], ["inside", "a.mxl"])


class FolderTest(FolderCase):
    def test_each_by_name_and_what_cannot_be_read_in_its_place(self) -> None:
        (self.folder / "b.abc").write_text("X:1\nT:B\nM:4/4\nL:1/4\nK:D\nDEFG|\n", "utf-8")
        (self.folder / "a.mid").write_bytes(b"none")
        (self.folder / "notes.txt").write_text("left alone", "utf-8")
        found = dict(tunes_in(self.folder))
        self.assertEqual(list(found), ["a.mid", "b.abc"])
        self.assertIsInstance(found["a.mid"], FirnError)
        self.assertEqual(found["b.abc"].name, "B")

    def test_no_folder(self) -> None:
        with self.assertRaises(TuneError):
            list(tunes_in(self.folder / "nowhere"))


if __name__ == "__main__":
    unittest.main()
