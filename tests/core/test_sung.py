"""Rhythms that are sung before they have steps: read, written again, heard, checked against steps, given out."""

import unittest
from fractions import Fraction

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from firn.core.meter.count_in import CountIn
from firn.core.piece.build import part_from, piece_from
from firn.core.reading.read import check_part
from firn.core.reading.sentences import sentence
from firn.core.script.settings import Settings
from firn.core.script.sung import is_sung
from firn.core.script.writer import write_part
from firn.core.sound.model import render
from firn.core.sound.voices import RATE
from firn.core.steps.shelf import shipped
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.timeline import Section
from firn.session.converting import written
from firn.session.stretch import part_stretch
from firn.session.transport import Transport, danced
from firn.session.view import PLAIN
from tests.support import cases, part

HALF = Fraction(1, 2)


def sung(text: str) -> list[tuple[str, str]]:
    """The syllables of a part with their counts."""
    return [(s.say, s.syllable) for s in part(text).sounds if s.syllable]


class ReadTest(unittest.TestCase):
    @cases(
        ("counts and syllables", "scat: 1 da & da 2 dum", "1da &da 2dum"),
        ("tied ones share a count", "scat: 1 da-da 2 dum", "1da &da 2dum"),
        ("letters are counts among counts", "scat: 1 da e da & da a da", "1da eda &da ada"),
        ("one for several counts", "scat: 1 2 3 da", "1da 2da 3da"),
        ("before the one", "scat: 8 da 1 dum", "8da 1dum"),
        ("over lines", "scat: 1 da 2 da\nscat: 3 dum", "1da 2da 3dum"),
        ("a note is none", "scat: 1 da  # as slow as you like, 2 times", "1da"),
    )
    def test_where_each_falls(self, _: str, text: str, expected: str) -> None:
        self.assertEqual(" ".join(f"{say}{syllable}" for say, syllable in sung(text)), expected)

    @cases(("da dum", False), ("da a da e", False), ("1 da", True), ("da & da", True), ("da # 1", False))
    def test_what_has_counts_of_its_own(self, text: str, own: bool) -> None:
        self.assertEqual(is_sung(text), own)

    def test_without_steps_it_is_the_rhythm_of_the_part(self) -> None:
        one = part("scat: 1 da & da 2 dum")
        self.assertEqual((one.counts, [s.heard for s in one.sounds], one.sounds[0].layer), (2, [True] * 3, ""))
        self.assertIn("1 sound off the beat", " ".join(map(sentence, check_part(one))))

    def test_beside_steps_it_is_said_and_strikes_nothing(self) -> None:
        one = part("1 step  & step  2 stamp\nscat: 1 da & da 2 dum")
        self.assertEqual([s.kind for s in one.sounds if s.heard], ["step", "step", "flat"])
        self.assertEqual({s.layer for s in one.sounds if s.syllable}, {"scat"})
        self.assertEqual(one.footing.free, part("1 step  & step  2 stamp").footing.free)

    def test_each_stands_where_it_is_written(self) -> None:
        one = part("scat: 1 da! & doo-dum~")
        self.assertEqual(
            [(u.word.column, u.word.end, u.word.level) for u in one.uses], [(8, 11, 1), (14, 17, 0), (18, 22, -1)]
        )

    def test_what_is_no_syllable_is_passed_over(self) -> None:
        self.assertEqual(sung("scat: 1 da , & (da) 2 = dum"), [("1", "da"), ("&", "da"), ("2", "dum")])

    def test_it_is_counted_as_the_piece_is(self) -> None:
        three = part_from("A", "scat: 1 2 3 da\nscat: 1 2 3 da", Settings(phrase=3))
        self.assertEqual([int(s.place) for s in three.sounds], [0, 1, 2, 3, 4, 5])

    @cases(
        ("two at once", "scat: 1 da 1 da", "N104"),
        ("counts alone", "scat: 1 da 2", "N108"),
        ("past the phrase", "scat: 1 da 99 da", "N105"),
    )
    def test_what_is_wrong_is_told_at_its_line(self, _: str, text: str, code: str) -> None:
        problems = part_from("A", f"# first\n{text}", Settings(phrase=8)).problems
        self.assertEqual([(p.code, p.line) for p in problems], [(code, 1)])

    COUNTS = ("1", "&", "2", "&3", "4 &", "5")
    SYLLABLES = ("da", "dum!", "ba", "doo~", "DUM")

    @given(st.lists(st.tuples(st.sampled_from(COUNTS), st.sampled_from(SYLLABLES)), max_size=6))
    def test_what_is_written_reads_back(self, bits: list[tuple[str, str]]) -> None:
        one = part_from("A", "scat: " + "  ".join(f"{c} {s}" for c, s in bits), Settings(phrase=8))
        if one.problems or not one.sounds:
            return
        try:
            text = write_part(one.script, one.settings)
        except ValueError:
            # No text says such a gap of steps either.
            steps = part_from("A", "  ".join(f"{c} touch" for c, _ in bits), Settings(phrase=8))
            self.assertRaises(ValueError, write_part, steps.script, steps.settings)
            return
        again = part_from("A", text, one.settings)
        said, before = ([(s.place, s.syllable, s.level) for s in p.sounds] for p in (again, one))
        self.assertEqual(said, before)


class CheckedTest(unittest.TestCase):
    @cases(
        ("alike", "1 step  & step  2 stamp", ""),
        ("one is not danced", "1 step  2 stamp", "& after 1 is sung and not danced"),
        ("one is not sung", "1 step  & step  2 stamp  3 step", "3 is danced and not sung"),
    )
    def test_against_its_steps(self, _: str, steps: str, said: str) -> None:
        found = [sentence(f) for f in check_part(part(f"{steps}\nscat: 1 da & da 2 dum")) if f.code == "sung"]
        self.assertEqual(len(found), bool(said))
        self.assertIn(said, " ".join(found))

    @cases(
        ("as many", "hands: 1 clap  2 clap\nhand scat: ta ka\n1 step  2 step", {"ta", "ka"}, False),
        ("one too many", "1 step\nhands: 1 clap\nhand scat: ta ka", {"ta"}, True),
        ("beside those of the feet", "1 step\nhands: 1 clap\nscat: dum\nhand scat: ta", {"dum", "ta"}, False),
    )
    def test_the_hands_have_syllables_of_their_own(self, _: str, text: str, said: set[str], told: bool) -> None:
        one = part(text)
        self.assertEqual(set(one.syllables.values()), said)
        self.assertEqual("syllables" in {f.code for f in check_part(one)}, told)
        self.assertEqual(part_from("A", write_part(one.script, one.settings), one.settings).syllables, one.syllables)


class HeardTest(unittest.TestCase):
    def rendered(self, text: str) -> tuple[Section, np.ndarray]:
        section = danced(part_stretch(part(text)), Transport(), PLAIN)
        quiet = Mixing(count_in=CountIn("none"), counts=False, beats=False)
        return section, render(replace(section, mixing=quiet)).audio.sum(axis=1)

    def test_each_syllable_is_sung_on_its_count(self) -> None:
        section, audio = self.rendered("scat: 1 da 3 dum")
        self.assertEqual(section.syllables, ())
        beat = RATE // 2
        loud = [float(np.abs(audio[round(n * beat) : round((n + HALF) * beat)]).max()) for n in range(3)]
        self.assertGreater(min(loud[0], loud[2]), 5 * max(loud[1], 1e-4))

    def test_beside_steps_each_is_heard_once(self) -> None:
        section, _ = self.rendered("1 step\nscat: 1 da")
        self.assertEqual([s.syllable for s in section.sounds], ["", "da"])
        self.assertEqual(section.syllables, ())


class GivenOutTest(unittest.TestCase):
    @cases((".mid",), (".musicxml",), (".csv",), (".json",), (".steps",))
    def test_every_file_takes_it(self, ending: str) -> None:
        piece = "piece: Lamp Song\n\npart A\nscat: 1 da & da 2 dum\n\npart B\n1 step\nscat: 1 da\n"
        self.assertEqual(piece_from(piece).problems, ())
        self.assertGreater(len(written(piece, ending, shipped()).data), 60)


if __name__ == "__main__":
    unittest.main()
