"""One file as another and back: nothing that both can say is lost, and what one cannot is told."""

import contextlib
import csv
import io
import json
import random
import unittest
from datetime import date
from fractions import Fraction

import mido
import soundfile
from icalendar import Calendar
from tools.fuzz.undo import edit

from firn.core.book.book import Take, piece_of_script
from firn.core.book.clips import Clip
from firn.core.book.edits import AddLog, AddPiece, AddTake, NoteAnswer, SetClip
from firn.core.book.log import Answer
from firn.core.book.practice_edits import AddStudent
from firn.core.book.students import Student
from firn.core.piece.build import piece_from
from firn.core.steps.shelf import shipped
from firn.errors import FirnError
from firn.files.audio import flac_bytes
from firn.session.converting import How, calendar, piece_at, section_of, stretch_of, written
from firn.session.planning import practice
from firn.session.session import Session
from firn.session.whole_folder import read_folder, write_folder
from tests import films
from tests.core.test_book import ENTRY
from tests.core.test_score import METERS
from tests.support import FolderCase, cases


def steps(meter: str, feel: str, text: str) -> str:
    return f"piece: Lamp\nmeter: {meter}\nfeel: {feel}\ntempo: 112\n\npart A\n{text}\n"


def struck(text: str) -> list[Fraction]:
    """Where the first part of a piece is struck, from its first sound on."""
    sounds = piece_from(text).parts[0].sounds
    at = sorted({s.position for s in sounds if s.heard})
    return [p - at[0] for p in at]


class ThereAndBackTest(FolderCase):
    @cases(*METERS)
    def test_positions_survive_every_format(self, meter: str, feel: str, text: str) -> None:
        piece = steps(meter, feel, text)
        for ending in (".mid", ".musicxml", ".abc"):
            path = self.folder / f"a{ending}"
            path.write_bytes(written(piece, ending, shipped()).data)
            back = piece_at(path, shipped())
            made = piece_from(back.text)
            self.assertEqual(made.problems, (), (ending, back.text))
            # ABC knows no feel: what swings there is read as it is written.
            want = struck(piece if ending != ".abc" else steps(meter, "straight", text))
            self.assertEqual(struck(back.text), want, ending)
            self.assertEqual(round(made.settings.tempo), 112)
            self.assertTrue(back.told)

    @cases(METERS[0], METERS[4], METERS[5], METERS[-1])
    def test_meter_and_tempo_stay_behind_what_leads_up(self, meter: str, feel: str, text: str) -> None:
        for ending in (".mid", ".musicxml", ".abc"):
            path = self.folder / f"a{ending}"
            path.write_bytes(written(steps(meter, feel, text), ending, shipped()).data)
            back = piece_from(piece_at(path, shipped()).text)
            self.assertEqual((str(back.settings.meter), back.settings.tempo), (meter, 112), ending)

    def test_firns_own_midi_keeps_feet_and_kinds(self) -> None:
        text = "1 R kick  2 jump  3 clap  4 L step!  5 R heel  & L stomp  6 both jump  7-8 hold"
        path = self.folder / "a.mid"
        path.write_bytes(written(steps("4/4", "straight", text), ".mid", shipped()).data)
        back = piece_from(piece_at(path, shipped()).text)
        first = piece_from(steps("4/4", "straight", text))
        for one, other in zip(back.parts[0].sounds, first.parts[0].sounds, strict=True):
            self.assertEqual(
                (one.place, one.kind, one.foot, one.level), (other.place, other.kind, other.foot, other.level)
            )

    def test_of_a_foreign_midi_only_the_keys_that_are_named(self) -> None:
        file = mido.MidiFile(ticks_per_beat=480)
        track = mido.MidiTrack()
        file.tracks.append(track)
        track.append(mido.MetaMessage("time_signature", numerator=4, denominator=4, time=0))
        for n in range(8):
            key = 36 if n % 2 == 0 else 42
            track.append(mido.Message("note_on", channel=9, note=key, velocity=90, time=240 if n else 0))
        path = self.folder / "drums.mid"
        file.save(path)
        self.assertEqual(len(struck(piece_at(path, shipped()).text)), 8)
        self.assertEqual(struck(piece_at(path, shipped(), notes=[36]).text), [0, 1, 2, 3])

    def test_what_was_played_by_hand_is_laid_on_counts(self) -> None:
        file = mido.MidiFile(ticks_per_beat=960)
        track = mido.MidiTrack()
        file.tracks.append(track)
        rng, at = random.Random(3), 0
        for n in range(16):
            when = round(n * 960 + rng.gauss(0, 12)) + 40
            track.append(mido.Message("note_on", channel=9, note=38, velocity=90, time=when - at))
            at = when
        path = self.folder / "played.mid"
        file.save(path)
        back = piece_at(path, shipped())
        self.assertEqual(struck(back.text), list(range(16)))
        self.assertIn("played by hand", " ".join(back.told))

    def test_what_is_far_too_long_is_said(self) -> None:
        for gap, said in ((1_900_001, "ten minutes"), (40_000_000, "longer than a part")):
            file = mido.MidiFile(ticks_per_beat=960)
            track = mido.MidiTrack()
            file.tracks.append(track)
            for _ in range(2):
                track.append(mido.Message("note_on", channel=9, note=38, velocity=90, time=gap))
            path = self.folder / "long.mid"
            file.save(path)
            with self.assertRaisesRegex(FirnError, said):
                piece_at(path, shipped())

    def test_what_is_nothing_is_said(self) -> None:
        odd = self.folder / "a.mid"
        odd.write_bytes(b"MThd")
        for path, said in ((odd, "no MIDI file"), (self.folder / "a.doc", "nothing that Firn reads")):
            with self.assertRaisesRegex(FirnError, said):
                piece_at(path, shipped())
        for ending, text, how, said in (
            (".docx", "part A\n1 step", How(), "writes no .docx"),
            (".mid", "part A\n", How(), "no sounds"),
            (".abc", "part A\n1 step", How("B"), 'No part is called "B"'),
        ):
            with self.assertRaisesRegex(FirnError, said):
                written(text, ending, shipped(), how)


class TablesTest(unittest.TestCase):
    TEXT = steps(*METERS[0]) + "\npart B\n1 shuffle  2 step\n\ncombo\nA, B\n"

    def test_csv_and_json_say_the_same(self) -> None:
        rows = list(csv.DictReader(io.StringIO(written(self.TEXT, ".csv", shipped()).data.decode())))
        data = json.loads(written(self.TEXT, ".json", shipped()).data)
        self.assertEqual(
            [(r["part"], r["place"], r["kind"]) for r in rows],
            [(s["part"], s["place"], s["kind"]) for s in data["sounds"]],
        )
        alone = json.loads(written(self.TEXT, ".json", shipped(), How("B")).data)
        self.assertEqual({s["part"] for s in alone["sounds"]}, {"B"})

    @cases((".wav", "WAV"), (".flac", "FLAC"), (".ogg", "OGG"), (".mp3", "MP3"))
    def test_sound_is_as_long_as_it_is_danced(self, ending: str, kind: str) -> None:
        how = How(counts=False, beats=False)
        data = written(self.TEXT, ending, shipped(), how).data
        with soundfile.SoundFile(io.BytesIO(data)) as file:
            self.assertEqual((file.format, file.samplerate, file.channels), (kind, 48_000, 2))
            piece = piece_from(self.TEXT)
            wanted = float(section_of(stretch_of(piece, None), piece, how).length_s)
            self.assertAlmostEqual(file.frames / 48_000, wanted + 0.4, delta=0.06)

    def test_a_week_as_a_calendar(self) -> None:
        piece = piece_of_script(self.TEXT, list("edcba"))
        days = practice(piece, (), shipped(), minutes=10, today=date(2026, 11, 27), days=5)
        read = Calendar.from_ical(calendar(days, "Lamp", at="18:30"))
        events = read.walk("VEVENT")
        self.assertEqual([e.start.isoformat() for e in events][:2], ["2026-11-27T18:30:00", "2026-11-28T18:30:00"])
        # After three days comes one of rest.
        self.assertEqual(len(events), 4)
        self.assertIn("minutes", str(events[0]["summary"]))
        with self.assertRaisesRegex(FirnError, "no time of day"):
            calendar(days, "Lamp", at="late")


class FolderTest(FolderCase):
    def setUp(self) -> None:
        super().setUp()
        self.path = self.folder / "class.firn"
        session = Session.new(self.path)
        rng = random.Random(7)
        for number in range(3):
            text = f"piece: Lamp {number}, or ♥/<b>\n# a remark\n\npart A\n" + "\n".join(
                f"{n} step" for n in range(1, rng.randint(3, 9))
            )
            session.do(AddPiece(piece_of_script(text + "\n\ncombo\nA x2\n", [f"{number}{k}" for k in range(9)])))
        data, digest = flac_bytes(films.strikes([0.2], 0.5), 48_000)
        session.store.add_samples(digest, data)
        session.do(AddTake(Take("t", "0", "a", "Feet", "2026-11-25T10:00:00+00:00", digest, 48_000, 24_000, 100)))
        session.do(AddStudent(Student("k1", "Wren")))
        session.do(AddLog(ENTRY))
        session.do(NoteAnswer(Answer("how_many", True, "2026-11-25T20:00:00+00:00", "k1")))
        session.do(
            SetClip("0", "08", Clip("c", "0", "08", "/films/a.mp4", 3, "ab", 0.0, 1.5, (0.0, 4.0), (1.0, 3.0)))
        )
        self.book = session.book
        self.digest = digest
        session.close()

    def test_a_workbook_goes_out_whole_and_comes_back_whole(self) -> None:
        out, back = self.folder / "out", self.folder / "back.firn"
        self.assertEqual(write_folder(self.path, out), [])
        self.assertEqual(len(list((out / "pieces").glob("*.steps"))), 4)
        self.assertEqual(soundfile.info(out / "takes" / f"{self.digest}.flac").frames, 24_000)
        self.assertEqual(read_folder(out, back), [])
        session = Session.open(back)
        self.assertEqual(session.book, self.book)
        self.assertTrue(session.store.samples(self.digest))
        session.close()

    def test_random_workbooks_come_back_as_they_were(self) -> None:
        """Pieces, parts, takes, log, drills, classes, students and answers, by random edits: all of it comes back."""
        for seed in range(8):
            rng = random.Random(seed)
            path, out, back = (self.folder / f"{seed}{ending}" for ending in (".firn", "", "-back.firn"))
            session = Session.new(path)
            for number in range(rng.randint(5, 60)):
                # What an edit cannot do it says.
                with contextlib.suppress(FirnError):
                    session.do(edit(rng, session.book, number))
            wanted = session.book
            session.close()
            lost = write_folder(path, out)
            self.assertEqual(len(lost), len(wanted.takes), "these takes have no samples, which is said of each")
            read_folder(out, back)
            session = Session.open(back)
            self.assertEqual(session.book, wanted, seed)
            session.close()

    def test_a_text_that_was_changed_outside_is_read_as_it_is(self) -> None:
        out = self.folder / "out"
        write_folder(self.path, out)
        (file,) = (out / "pieces").glob("002*.steps")
        file.write_text(file.read_text("utf-8").replace("1 step", "1 stamp"), "utf-8")
        read_folder(out, self.folder / "back.firn")
        session = Session.open(self.folder / "back.firn")
        now, was = session.book.pieces[1], self.book.pieces[1]
        session.close()
        self.assertIn("1 stamp", now.parts[0].text)
        self.assertEqual((now.id, now.parts[0].id), (was.id, was.parts[0].id))

    def test_nothing_is_written_over_and_nothing_outside(self) -> None:
        out = self.folder / "out"
        write_folder(self.path, out)
        with self.assertRaisesRegex(FirnError, "is there already"):
            write_folder(self.path, out)
        with self.assertRaisesRegex(FirnError, "is there already"):
            read_folder(out, self.path)
        data = json.loads((out / "workbook.json").read_text("utf-8"))
        for wrong in ("../class.firn", "/etc/hostname"):
            data["pieces"][0]["file"] = wrong
            (out / "workbook.json").write_text(json.dumps(data), "utf-8")
            with self.assertRaisesRegex(FirnError, "no folder that a workbook was written into"):
                read_folder(out, self.folder / "b.firn")
        self.assertFalse((self.folder / "b.firn").exists())

    def test_a_recording_that_is_gone_is_said(self) -> None:
        out = self.folder / "out"
        write_folder(self.path, out)
        (out / "takes" / f"{self.digest}.flac").unlink()
        (said,) = read_folder(out, self.folder / "back.firn")
        self.assertIn("Feet", said)


if __name__ == "__main__":
    unittest.main()
