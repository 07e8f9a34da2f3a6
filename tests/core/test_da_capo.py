"""Da capo, dal segno, fine and coda, carried out as music21 carries them out."""

import unittest
import warnings
from collections.abc import Callable
from fractions import Fraction

from music21 import bar, meter, note, repeat, stream
from music21.musicxml.m21ToXml import GeneralObjectExporter

from firn.core.tune.abc import read_abc
from firn.core.tune.repeats import Measure, in_order, mark_of
from firn.files.tunes import _musicxml
from tests.support import cases

BEGIN, END = "begin", "end"
Marks = dict[int, list[tuple[str, Callable]]]


def forward() -> bar.Repeat:
    return bar.Repeat(direction="start")


def backward() -> bar.Repeat:
    return bar.Repeat(direction="end")


def score(many: int, marks: Marks) -> stream.Part:
    """So many bars of four quarters, each with one note more than the one before it, and marks at their ends."""
    part = stream.Part()
    for number in range(1, many + 1):
        one = stream.Measure(number=number)
        if number == 1:
            one.append(meter.TimeSignature("4/4"))
        one.append([note.Note("C4", quarterLength=Fraction(4, number)) for _ in range(number)])
        for at, make in marks.get(number, []):
            made = make()
            if isinstance(made, bar.Repeat):
                setattr(one, "leftBarline" if at == BEGIN else "rightBarline", made)
            else:
                one.insert(0 if at == BEGIN else 4, made)
        part.append(one)
    return part


class ScoreTest(unittest.TestCase):
    @cases(
        ("to the fine", 6, {3: [(END, repeat.Fine)], 6: [(END, repeat.DaCapoAlFine)]}),
        ("from the sign to the fine", 6,
         {2: [(BEGIN, repeat.Segno)], 4: [(END, repeat.Fine)], 6: [(END, repeat.DalSegnoAlFine)]}),
        ("from the top to the coda", 8,
         {3: [(END, repeat.Coda)], 6: [(END, repeat.DaCapoAlCoda)], 7: [(BEGIN, repeat.Coda)]}),
        ("from the sign to the coda", 8,
         {2: [(BEGIN, repeat.Segno)], 3: [(END, repeat.Coda)], 6: [(END, repeat.DalSegnoAlCoda)],
          7: [(BEGIN, repeat.Coda)]}),
        ("what is repeated is so once", 6,
         {1: [(BEGIN, forward)], 2: [(END, backward)], 3: [(END, repeat.Fine)], 6: [(END, repeat.DaCapoAlFine)]}),
        ("a fine in what is repeated", 5,
         {1: [(BEGIN, forward)], 2: [(END, backward), (END, repeat.Fine)], 5: [(END, repeat.DaCapoAlFine)]}),
    )  # fmt: skip
    def test_as_music21_plays_them(self, _: str, many: int, marks: Marks) -> None:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            part = score(many, marks)
            theirs = [len(m.notes) for m in part.expandRepeats().getElementsByClass("Measure")]
            whole = stream.Score([part])
            data = GeneralObjectExporter(whole).parse()
        ours = [len(m.onsets) for m in in_order(_musicxml(data, "a score").measures) if m is not None]
        self.assertEqual(ours, theirs)

    def test_what_a_sound_says(self) -> None:
        """The attributes of MusicXML 4.0, without a word that is seen."""
        bars = [
            f'<measure number="{n}"><attributes><divisions>1</divisions></attributes><note><duration>{n}</duration>'
            f"</note>{sound}</measure>"
            for n, sound in enumerate(("", '<sound fine="yes"/>', '<sound dacapo="yes"/>'), 1)
        ]
        data = f"<score-partwise><part>{''.join(bars)}</part></score-partwise>".encode()
        ours = [m.length for m in in_order(_musicxml(data, "a score").measures) if m is not None]
        self.assertEqual(ours, [1, 2, 3, 1, 2])


class AbcTest(unittest.TestCase):
    @cases(
        ("signs", "AB|cd!fine!|ef|ga!D.C.!|", 6),
        ("words", 'AB|cd "^Fine"|ef|ga "^D.C. al Fine"|', 6),
        ("from a sign", "AB|!segno!cd|ef!fine!|ga!D.S.!|", 6),
        ("after the bar line", "AB|cd|!fine!ef|ga|!D.C.!", 6),
        ("the coda", "AB|cd!dacoda!|ef!D.C.!|!coda!ga|", 6),
        ("the last endings", "AB|1cd:|2ef!fine!|ga!D.C.!|", 7),
        ("no more than once through", "AB|cd|ef|ga!D.C.!|", 4),
        ("none", 'AB|cd "^Finer"|ef|ga "Am"|', 4),
    )
    def test_bars_as_they_are_played(self, _: str, music: str, bars: int) -> None:
        """Worked by hand, by the decorations of ABC 2.1 (4.14)."""
        tune = read_abc(f"X:1\nM:2/4\nL:1/4\nK:C\n{music}\n")
        self.assertEqual(tune.bars, bars)


class WordsTest(unittest.TestCase):
    @cases(
        ("D.C.", "da capo"), ("D. C. al Fine", "da capo"), ("Da Capo al Coda", "da capo"), ("DC", "da capo"),
        ("D.S. al Coda", "dal segno"), ("Dal Segno", "dal segno"), ("Fine", "fine"), ("To Coda", "to coda"),
        ("dacoda", "to coda"), ("dacapo", "da capo"), ("segno", "segno"), ("Coda", "coda"), ("Fine chords", None),
        ("D", None), ("", None),
    )  # fmt: skip
    def test_what_words_say(self, said: str, mark: str | None) -> None:
        self.assertEqual(mark_of(said), mark)

    def test_a_jump_to_nowhere_ends(self) -> None:
        measures = [Measure(Fraction(1), marks=frozenset({"dal segno"})), Measure(Fraction(2))]
        self.assertEqual([m.length for m in in_order(measures) if m is not None], [1, 1, 2])


if __name__ == "__main__":
    unittest.main()
