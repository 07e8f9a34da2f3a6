"""Scores that other programs read: MIDI, MusicXML, ABC, each read back by readers that are not ours."""

import functools
import io
import tempfile
import unittest
import warnings
from fractions import Fraction
from importlib.util import find_spec
from pathlib import Path

import mido
import pretty_midi
import xmlschema
from msgspec.structs import replace
from music21 import converter

from firn.core.piece.build import piece_from
from firn.core.piece.piece import Piece
from firn.core.score.abc import write_abc
from firn.core.score.midi import NOTES, write_midi
from firn.core.score.musicxml import write_musicxml
from firn.core.score.score import Score, quarters_of
from firn.errors import FirnError
from firn.session.scores import score_of
from tests.support import cases

# Meters and divisions that all three formats can hold, each with a line that uses them.
METERS = (
    ("4/4", "straight", "8 stomp  1 hop  2 step  &3 flap  & step\n4 stomp  5 hop  6 step  &7 flap  & step"),
    (
        "4/4",
        "straight",
        "1 step  1+1/4 heel  1+1/2 step  1+3/4 heel  2 stamp  3 step  3+1/3 heel  3+2/3 step  4 stamp",
    ),
    ("4/4", "straight", "1 step  1+1/6 heel  1+5/6 step  2+1/8 heel  2+3/8 step  3 stamp  4 hold"),
    ("4/4", "swing", "1 step  & step  2 step  3 step  & step  4 stamp"),
    ("3/4", "straight", "1 stamp  2 step  & step  3 step  4 stamp  5 step  6 step"),
    ("6/8", "straight", "1 step  & heel  a step  2 stamp  3 step  a step  4 stamp"),
    ("9/8", "straight", "1 step  2 step  & heel  a step  3 stamp  4 step  5 step  6 stamp"),
    ("12/8", "straight", "1 step  & step  a step  2 step  3 step  4 stamp"),
    ("2/4", "straight", "1 step  & step  2 stamp  3 step  4 stamp"),
    ("2/2", "straight", "1 step  & step  2 stamp"),
    ("7/8 as 2+2+3", "straight", "1 stamp  3 stamp  5 stamp  6 step  7 step"),
    ("5/4 as 3+2", "straight", "1 stamp  2 step  3 step  4 stamp  5 step  & step"),
    ("4/4", "straight", "1 kick  2 jump  3 clap  4 turn 1/2  5 step!  6 step~  7-8 hold"),
    ("6/8", "straight", "& step  a step  1 stamp  2 stamp  3 step  4 step"),
)


def piece(meter: str, feel: str, text: str) -> Piece:
    return piece_from(f"piece: Lamp\nmeter: {meter}\nfeel: {feel}\ntempo: 112\n\npart A\n{text}\n")


def score(meter: str, feel: str, text: str) -> Score:
    made = piece(meter, feel, text)
    return score_of(made, made.parts[0])


def moments(one: Score, *, places: bool) -> list[Fraction]:
    """Where something is struck, each once, in quarters from the beginning of the file."""
    begin = next(one.bars())[0]
    quarter = quarters_of(one.counting.meter)
    return sorted({((s.place if places else s.position) - begin) * quarter for s in one.sounds if s.heard})


def midi_of(text: str, meter: str = "4/4", feel: str = "straight") -> mido.MidiFile:
    return mido.MidiFile(file=io.BytesIO(write_midi(score(meter, feel, text)).data))


class MidiTest(unittest.TestCase):
    @cases(*METERS)
    def test_mido_hears_every_strike_on_its_exact_pulse(self, meter: str, feel: str, text: str) -> None:
        one = score(meter, feel, text)
        made = write_midi(one)
        self.assertEqual(made.told, ())
        file = mido.MidiFile(file=io.BytesIO(made.data))
        heard = set()
        for track in file.tracks[1:]:
            if track.name in ("Left foot", "Right foot", "Hands"):
                now = 0
                for message in track:
                    now += message.time
                    if message.type == "note_on" and message.velocity:
                        heard.add(Fraction(now, file.ticks_per_beat))
        self.assertEqual(sorted(heard), moments(one, places=False))

    def test_pretty_midi_agrees_in_seconds_and_names(self) -> None:
        one = score(*METERS[0])
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "a.mid"
            path.write_bytes(write_midi(one).data)
            file = pretty_midi.PrettyMIDI(str(path))
        self.assertAlmostEqual(file.get_tempo_changes()[1][0], 112, places=3)
        self.assertEqual([(t.numerator, t.denominator) for t in file.time_signature_changes][-1], (4, 4))
        struck = sorted(
            note.start for i in file.instruments if i.name in ("Left foot", "Right foot") for note in i.notes
        )
        true = [float(m) * 60 / 112 for m in moments(one, places=False)]
        for got, want in zip(struck, true, strict=True):
            self.assertAlmostEqual(got, want, places=4)
        self.assertTrue(all(i.is_drum == (i.name != "Backing") for i in file.instruments))

    def test_what_notes_cannot_say_stands_in_texts(self) -> None:
        one = score("4/4", "straight", "1 R kick  2 L step  3 shuffle  4 stomp")
        file = mido.MidiFile(file=io.BytesIO(write_midi(one).data))
        texts = [m.text for t in file.tracks for m in t if m.type == "text"]
        self.assertIn("kind=kick foot=right weight=left place=0 word=kick", texts)
        self.assertIn("kind=step foot=left weight=left place=1 word=step", texts)
        self.assertEqual([m.text for t in file.tracks for m in t if m.type == "marker"], ["A"])
        self.assertEqual([m.text for t in file.tracks for m in t if m.type == "lyrics"], ["1", "2", "3", "4"])

    def test_every_way_to_strike_has_a_key_of_its_own_or_its_part(self) -> None:
        keys = list(NOTES.values())
        # A slide is struck by the sole, and nothing else is.
        self.assertEqual(len(keys) - len(set(keys)), 1)

    # By hand: a quarter lasts 60,000,000 / 112 microseconds, where a count is a dotted quarter two thirds of that;
    # what leads up to bar one is a bar of the counts that it lies in.
    @cases(
        (METERS[0], [(0, (1, 4)), (1, (4, 4))], 535_714),
        (METERS[4], [(0, (3, 4))], 535_714),
        (METERS[5], [(0, (6, 8))], 357_143),
        (METERS[7], [(0, (12, 8))], 357_143),
        (METERS[9], [(0, (2, 2))], 267_857),
        (METERS[10], [(0, (7, 8))], 1_071_429),
        (("6/8", "straight", "& step  a step  1 stamp  2 stamp"), [(0, (3, 8)), (1, (6, 8))], 357_143),
    )
    def test_bars_and_tempo(
        self, meter: tuple[str, str, str], bars: list[tuple[int, tuple[int, int]]], tempo: int
    ) -> None:
        file = midi_of(meter[2], *meter[:2])
        signs = [m for m in file.tracks[0] if m.type == "time_signature"]
        self.assertEqual([(m.numerator, m.denominator) for m in signs], [bar for _, bar in bars])
        self.assertEqual({m.tempo for m in file.tracks[0] if m.type == "set_tempo"}, {tempo})
        self.assertEqual([bool(m.time) for m in signs], [bool(at) for at, _ in bars])

    def test_how_hard_how_long_and_which_key(self) -> None:
        """General MIDI level 1, percussion keys: 36 bass drum, 37 side stick, 39 clap, 76 and 77 wood blocks.

        A stamp is leaned on by two degrees: 96 + 2 * 14.
        """
        file = mido.MidiFile(
            file=io.BytesIO(
                write_midi(score("4/4", "straight", "1 R stamp!  2 L step  & L heel  3 R touch  4 clap")).data
            )
        )
        found: dict[str, list[tuple[Fraction, int, int, Fraction]]] = {}
        for track in file.tracks[1:]:
            now, on = 0, {}
            for message in track:
                now += message.time
                if message.type == "note_on":
                    on[message.note] = now, message.velocity
                elif message.type == "note_off":
                    at, hard = on.pop(message.note)
                    row = (
                        Fraction(at, file.ticks_per_beat),
                        message.note,
                        hard,
                        Fraction(now - at, file.ticks_per_beat),
                    )
                    found.setdefault(track.name, []).append(row)
            self.assertEqual(on, {})
        eighth, click = Fraction(1, 8), Fraction(1, 16)
        self.assertEqual(found["Right foot"], [(0, 36, 124, eighth), (2, 37, 76, eighth)])
        self.assertEqual(found["Left foot"], [(1, 37, 96, eighth), (Fraction(3, 2), 35, 96, eighth)])
        self.assertEqual(found["Hands"], [(3, 39, 76, eighth)])
        strong = [76, 77, 77, 77]
        self.assertEqual(found["Click"], [(n, key, 70, click) for n, key in enumerate(strong)])

    def test_a_sound_that_comes_soon_ends_the_one_before(self) -> None:
        file = mido.MidiFile(
            file=io.BytesIO(write_midi(score("4/4", "straight", "1 R heel  1+1/16 R heel  2 R step")).data)
        )
        track = next(t for t in file.tracks if t.name == "Right foot")
        gaps = [Fraction(m.time, file.ticks_per_beat) for m in track if m.type == "note_off"]
        self.assertEqual(gaps, [Fraction(1, 16), Fraction(1, 8), Fraction(1, 8)])

    def test_both_feet_are_told_once_and_struck_twice(self) -> None:
        file = midi_of("1 jump  2 step")
        told = [m.text for t in file.tracks for m in t if m.type == "text" and "kind=jump" in m.text]
        self.assertEqual(len(told), 1)
        struck = [t.name for t in file.tracks for m in t if m.type == "note_on" and t.name.endswith("foot")]
        self.assertEqual(sorted(set(struck)), ["Left foot", "Right foot"])

    def test_what_no_pulse_holds_is_said(self) -> None:
        fine = "1+1/7 step  2+1/11 step  3+1/13 step  4+1/17 step  5+1/19 step"
        made = write_midi(score("4/4", "straight", fine))
        self.assertIn("where MIDI has no pulse", made.told[0])


@functools.cache
def schema() -> xmlschema.XMLSchema:
    package = find_spec("musicxml")
    if package is None or package.origin is None:
        raise unittest.SkipTest("no schema of MusicXML 4.0")
    return xmlschema.XMLSchema(str(Path(package.origin).parent / "generate_classes" / "musicxml_4_0.xsd"))


def bare(one: Score) -> str:
    """A score as MusicXML without its DOCTYPE, which names a file on the web."""
    text = write_musicxml(one).data.decode()
    return text[text.index("<score-partwise") :]


class MusicXmlTest(unittest.TestCase):
    def test_valid_against_the_schema(self) -> None:
        against = schema()
        for meter, feel, text in METERS:
            with self.subTest(meter=meter, text=text):
                data = write_musicxml(score(meter, feel, text)).data.decode()
                # The schema's own reader fetches nothing: the DOCTYPE names a file on the web.
                found = [
                    str(e.reason)
                    for e in against.iter_errors(
                        data.replace(data[data.index("<!DOCTYPE") :].split(">")[0] + ">", "")
                    )
                ]
                self.assertEqual(found, [])

    @cases(*METERS)
    def test_music21_reads_every_strike_where_it_is_said(self, meter: str, feel: str, text: str) -> None:
        one = score(meter, feel, text)
        read = converter.parse(write_musicxml(one).data.decode(), format="musicxml")
        heard = {Fraction(n.getOffsetInHierarchy(read)).limit_denominator(64) for n in read.recurse().notes}
        self.assertEqual(sorted(heard), moments(one, places=True))

    def test_partitura_counts_the_same_strikes(self) -> None:
        import partitura

        for meter, feel, text in METERS[:9]:
            one = score(meter, feel, text)
            with tempfile.TemporaryDirectory() as folder, warnings.catch_warnings():
                warnings.simplefilter("ignore")
                path = Path(folder) / "a.musicxml"
                path.write_bytes(write_musicxml(one).data)
                (read,) = partitura.load_musicxml(path).parts
                notes = [*read.iter_all(partitura.score.UnpitchedNote)]
                heard = {Fraction(float(read.quarter_map(n.start.t))).limit_denominator(64) for n in notes}
            first = min(heard)
            want = moments(one, places=True)
            self.assertEqual(sorted(h - first for h in heard), [w - want[0] for w in want], (meter, text))

    def test_a_part_that_begins_between_two_counts_begins_no_bar_there(self) -> None:
        """Once a bar of four thirds of a count was written, or tried: a part of a phrase of its own begins there."""
        text = "meter: 3/4\npart A\n1 step\npart B\nphrase: 12\n2+1/3 step  3 step  4 step\ncombo\nA, B"
        one = score_of(piece_from(text), None)
        self.assertTrue(all(begin.denominator == end.denominator == 1 for begin, end, _ in one.bars()))
        read = converter.parse(write_musicxml(one).data.decode(), format="musicxml")
        heard = {Fraction(n.getOffsetInHierarchy(read)).limit_denominator(64) for n in read.recurse().notes}
        self.assertEqual(sorted(heard), moments(one, places=True))

    def test_nothing_is_written_shorter_than_notes_can_be(self) -> None:
        """Found by texts made at random: eighths of which one was to be divided by 64."""
        one = score("5/8", "straight", "step  a &a cowboy heels  6-7")
        read = converter.parse(write_musicxml(one).data.decode(), format="musicxml")
        heard = sorted({float(n.getOffsetInHierarchy(read)) for n in read.recurse().notes})
        off = [abs(a - float(b)) for a, b in zip(heard, moments(one, places=True), strict=True)]
        self.assertLessEqual(max(off), 1 / 128)

    def test_what_is_longer_than_a_score_is_said(self) -> None:
        """Found by texts made at random: a combo of 139,298 counts took a minute to write."""
        text = "part A\n1-8 hold\n1 step\ncombo\n" + "A x64, " * 40
        with self.assertRaisesRegex(FirnError, r"A score has up to 20,000 counts: this has 23,040\."):
            score_of(piece_from(text), None)

    def test_bars_are_full_in_every_voice(self) -> None:
        for meter, feel, text in METERS:
            one = score(meter, feel, text)
            read = converter.parse(write_musicxml(one).data.decode(), format="musicxml")
            for bar in read.parts[0].getElementsByClass("Measure"):
                for voice in bar.voices:
                    self.assertEqual(
                        Fraction(voice.duration.quarterLength).limit_denominator(64),
                        Fraction(bar.duration.quarterLength).limit_denominator(64), (meter, text),
                    )  # fmt: skip

    def test_heads_words_and_moves(self) -> None:
        text = write_musicxml(score("4/4", "swing", "1 R kick  2 L step!  3 heel  & step  4 stomp")).data.decode()
        for said in (
            "<words>kick (right)</words>", "<notehead>x</notehead>", "<notehead>square</notehead>", "<accent />",
            "<text>stomp</text>", "<first>2</first>", "<rehearsal>A</rehearsal>", "<beat-type>4</beat-type>",
        ):  # fmt: skip
            self.assertIn(said, text)

    def test_text_that_xml_cannot_hold(self) -> None:
        made = piece("4/4", "straight", "1 step")
        one = score_of(made, made.parts[0])
        odd = replace(one, title="a<b>&\x00\x07\ud800c", sections=((Fraction(0), "<A>"),))
        self.assertEqual(
            list(schema().iter_errors(write_musicxml(odd).data.decode().split("?>", 1)[1].split(">", 1)[1])), []
        )


class AbcTest(unittest.TestCase):
    @cases(*METERS)
    def test_music21_reads_every_strike_where_it_is_said(self, meter: str, feel: str, text: str) -> None:
        one = score(meter, feel, text)
        abc = write_abc(one).data.decode()
        if "+" in meter:
            # The reader knows no grouped meters.
            abc = abc.replace(f"M:({meter.split()[-1]})/{meter.split('/')[1].split()[0]}", f"M:{meter.split()[0]}")
        read = converter.parse(abc, format="abc")
        heard = [Fraction(n.getOffsetInHierarchy(read)).limit_denominator(64) for n in read.recurse().notes]
        want = moments(one, places=True)
        self.assertEqual([h - heard[0] for h in sorted(set(heard))], [w - want[0] for w in want])


if __name__ == "__main__":
    unittest.main()
