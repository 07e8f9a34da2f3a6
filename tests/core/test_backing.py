"""The backing: what is played where, in every meter, and that it sounds as said. Common practice, no source."""

import io
import unittest
from fractions import Fraction

import mido
import numpy as np
from msgspec.structs import replace

from firn.core.meter.count_in import CountIn
from firn.core.meter.counting import Counting, Stage
from firn.core.meter.feel import parse_feel
from firn.core.meter.meter import parse_meter
from firn.core.score.midi import write_midi
from firn.core.sound.instruments import played
from firn.core.sound.model import render
from firn.core.sound.voices import RATE, voice
from firn.core.timeline.backing import BARS, backing
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.timeline import Section
from firn.session.scores import score_of
from tests.core.test_score import piece
from tests.support import cases

F = Fraction


def counting(meter: str, feel: str = "straight") -> Counting:
    read, lilt = parse_meter(meter), parse_feel(feel)
    assert read is not None and lilt is not None
    return Counting(read, lilt, phrase=read.phrase)


class PlayedTest(unittest.TestCase):
    @cases(
        # What stands on each count of a bar: b the bass, c chords; then when the chords of a count sound in it.
        ("4/4", "bcbc", F(0)),
        ("2/4", "bc", F(0)),
        ("3/4", "bcc", F(0)),
        ("6/8", "bb", F(2, 3)),
        ("9/8", "bbb", F(2, 3)),
        ("7/8 as 2+2+3", "bcbcbcc", F(0)),
        ("5/4 as 3+2", "bccbc", F(0)),
    )
    def test_bass_and_chords_in_every_meter(self, meter: str, bar: str, chords: Fraction) -> None:
        notes = list(backing(counting(meter), F(0), F(2 * len(bar))))
        low = {n.position for n in notes if n.instrument == "bass"}
        self.assertEqual("".join("b" if F(c) in low else "c" for c in range(2 * len(bar))), bar * 2)
        self.assertEqual({n.position % 1 for n in notes if n.instrument == "chord"}, {chords})

    def test_the_shaker_swings_with_the_piece(self) -> None:
        for feel, share in (("straight", F(1, 2)), ("swing", F(2, 3))):
            notes = backing(counting("4/4", feel), F(0), F(4))
            self.assertEqual({n.position % 1 for n in notes if n.instrument == "shaker"}, {share}, feel)

    def test_its_harmony_goes_round_in_eight_bars_and_ends_at_home(self) -> None:
        notes = [n for n in backing(counting("4/4"), F(0), F(4 * 16)) if n.instrument == "bass"]
        bars = [{n.keys for n in notes if n.position // 4 == bar} for bar in range(16)]
        self.assertEqual(bars[:8], bars[8:])
        self.assertEqual((BARS[0], BARS[-1], bars[0]), (BARS[0], BARS[0], bars[7]))
        self.assertNotEqual(bars[0], bars[2])

    # By hand, in D, G and A: the root of each chord, then its fifth, by turns.
    @cases(
        ("4/4", [(0, 38), (2, 45), (4, 38), (6, 45), (8, 43), (10, 38), (12, 38), (14, 45)]),
        ("3/4", [(0, 38), (3, 38), (6, 43), (9, 38)]),
        ("6/8", [(0, 38), (1, 45), (2, 38), (3, 45), (4, 43), (5, 38), (6, 38), (7, 45)]),
    )
    def test_the_bass_takes_turns(self, meter: str, wanted: list[tuple[int, int]]) -> None:
        one = counting(meter)
        notes = [n for n in backing(one, F(0), F(4 * one.meter.counts)) if n.instrument == "bass"]
        self.assertEqual([(int(n.position), *n.keys) for n in notes], wanted)

    def test_all_of_a_bar_of_each_kind(self) -> None:
        for meter, wanted in (
            ("2/4", [(F(0), "bass"), (F(1, 2), "shaker"), (F(1), "chord"), (F(3, 2), "shaker")]),
            ("6/8", [(F(0), "bass"), (F(2, 3), "chord"), (F(1), "bass"), (F(5, 3), "chord")]),
        ):
            notes = list(backing(counting(meter), F(0), F(2)))
            self.assertEqual([(n.position, n.instrument) for n in notes], wanted)
            self.assertEqual({len(n.keys) for n in notes if n.instrument == "chord"}, {3})

    def test_from_within_a_count_to_within_one(self) -> None:
        notes = [n.position for n in backing(counting("4/4"), F(1, 2), F(5, 2)) if n.instrument != "shaker"]
        self.assertEqual(notes, [1, 2])

    def test_where_the_meter_changes(self) -> None:
        """From count 4 on in three: its own bars, and the harmony goes on."""
        three = Stage(F(4), F(4), counting("3/4"))
        notes = backing(replace(counting("4/4"), changes=(three,)), F(0), F(10))
        self.assertEqual([(int(n.position), *n.keys) for n in notes if n.instrument == "bass"],
                         [(0, 38), (2, 45), (4, 38), (7, 43)])  # fmt: skip

    def test_a_stretch_that_begins_within_a_bar(self) -> None:
        notes = [n for n in backing(counting("4/4"), F(2), F(6)) if n.instrument == "bass"]
        self.assertEqual([n.position for n in notes], [2, 4])


class SoundTest(unittest.TestCase):
    def test_strings_sound_at_the_pitch_of_their_keys(self) -> None:
        """Equal temperament from A of 440 Hz (ISO 16): the strongest partial is the key's own."""
        for key in (38, 45, 62, 69):
            sound = played("bass" if key < 50 else "chord", (key,))
            spectrum = np.abs(np.fft.rfft(sound * np.hanning(len(sound)), 4 * RATE))
            self.assertAlmostEqual(spectrum.argmax() / 4, 440 * 2 ** ((key - 69) / 12), delta=1.5)

    def test_they_are_softer_than_feet_and_begin_at_once(self) -> None:
        for instrument, keys in (("bass", (38,)), ("chord", (62, 66, 69)), ("shaker", ())):
            sound = np.abs(played(instrument, keys))
            self.assertLess(sound.max(), np.abs(voice("whole")).max(), instrument)
            self.assertLess(int((sound > 0.3 * sound.max()).argmax()), RATE // 100, instrument)

    def test_it_is_counted_in_and_plays_as_long_as_is_danced(self) -> None:
        mixing = Mixing(120, CountIn(), steps=False, counts=False, beats=False, led_in=True, music=True, rest=4)
        section = Section((), counting("4/4"), F(0), F(8), mixing)
        events = section.events()
        self.assertEqual([e.text for e in events if e.kind == "count"], ["5", "6", "7", "8"])
        music = [e.position for e in events if e.kind == "music"]
        self.assertEqual((min(music), max(music) < 8), (0, True))
        made = render(section)
        loud = [float(np.abs(made.audio[made.sample(F(c)) :][: RATE // 10]).max()) for c in (0, 1, 7, 10)]
        self.assertGreater(min(loud[:3]), 0.02)
        self.assertEqual(loud[3], 0.0)

    def test_midi_has_it_as_strings_of_its_own(self) -> None:
        """Read by mido: notes outside the channel of percussion, on the pulses of their counts."""
        one = piece("4/4", "straight", "1 step  2 step  3 step  4 stamp")
        file = mido.MidiFile(file=io.BytesIO(write_midi(score_of(one, one.parts[0])).data))
        track = next(t for t in file.tracks if t.name == "Backing")
        now, struck = 0, []
        for message in track:
            now += message.time
            if message.type == "note_on" and message.velocity:
                struck.append((F(now, file.ticks_per_beat), message.channel))
        self.assertEqual([at for at, channel in struck if channel == 0], [0, 2])
        self.assertEqual({at for at, channel in struck if channel == 1}, {1, 3})


if __name__ == "__main__":
    unittest.main()
