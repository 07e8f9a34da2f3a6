"""Bars that come again written once, and played again by readers that are not ours: music21's and verovio's."""

import random
import tempfile
import unittest
from collections.abc import Sequence
from fractions import Fraction
from pathlib import Path

import verovio
from music21 import converter

from firn.core.piece.build import piece_from
from firn.core.score.musicxml import write_musicxml
from firn.core.score.repeats import WrittenBar, written_bars
from firn.core.score.score import Score, quarters_of
from firn.core.steps.shelf import shipped
from firn.session.scores import piece_of_score, score_of
from tests.core.test_score import bare, schema
from tests.support import cases

PARTS = """piece: Lamp
tempo: 112

part A
1 step  2 step  3 step  4 stomp
5 step  6 step  7 step  8 step

part B
1 stamp  2 stamp  3 stamp  4 stamp

part C
& step  1 stamp  2 step  & step  3 step  4 stamp  5 stamp  6 stamp  7 stamp  8 stamp

combo
"""


def combo(text: str) -> Score:
    made = piece_from(PARTS + text)
    assert not made.problems, made.problems
    return score_of(made, None)


def struck(one: Score) -> list[Fraction]:
    """When something is struck, in quarters from the first bar's beginning."""
    begin, quarter = next(one.bars())[0], quarters_of(one.counting.meter)
    return sorted({(s.place - begin) * quarter for s in one.sounds if s.heard})


def played(written: Sequence[WrittenBar]) -> list[int]:
    """The bars as a player plays them: by hand, one bar after another, going back at every repeat sign."""
    order: list[int] = []
    at = back = 0
    time = 1
    while at < len(written):
        bar = written[at]
        if bar.begins and back != at:
            back, time = at, 1
        if bar.ending and time not in bar.ending:
            at += 1
            continue
        order.append(bar.bar)
        if bar.times > 1 and time < bar.times:
            at, time = back, time + 1
            continue
        at += 1
        if (bar.times > 1 and not bar.ending) or bar.closes:
            back, time = at, 1
    return order


class WrittenBarsTest(unittest.TestCase):
    @cases(
        # Bars by letters, sections by where they begin; what is written, with its signs.
        ("abab", (0, 2), "|:ab:|"),
        ("ababab", (0, 2, 4), "|:ab:|x3"),
        ("abac", (0, 2), "|:a[1b:|[2c]"),
        ("ababac", (0, 2, 4), "|:a[1,2b:|x3[3c]"),
        ("abacab", (0, 2, 4), "|:a[1b:|[2c]ab"),
        ("abcd", (0, 2), "abcd"),
        ("aabb", (0, 1, 2, 3), "|:a:||:b:|"),
        ("abab", (0,), "abab"),
        ("abcabc", (0, 1, 3, 4), "|:abc:|"),
        ("abxx", (0, 2), "abxx"),
        ("xabab", (1, 3), "x|:ab:|"),
        ("ab", (0, 1), "ab"),
        # Nobody counts farther than sixteen.
        ("a" * 18, tuple(range(18)), "|:aa:|x9"),
    )
    def test_what_is_written(self, bars: str, starts: tuple[int, ...], wanted: str) -> None:
        said = ""
        for one in written_bars(bars, starts):
            said += "|:" if one.begins else ""
            said += f"[{','.join(map(str, one.ending))}" if one.opens else ""
            said += bars[one.bar] + (":|" if one.times > 1 else "") + (f"x{one.times}" if one.times > 2 else "")
            said += "]" if one.closes and one.times == 1 else ""
        self.assertEqual(said, wanted)

    def test_whatever_comes_again_is_played_as_it_was(self) -> None:
        for seed in range(600):
            rng = random.Random(seed)
            sections = [[rng.choice("ab") for _ in range(rng.choice((1, 2, 2, 4)))] for _ in range(rng.randint(1, 4))]
            danced = [rng.choice(sections) for _ in range(rng.randint(1, 9))] * rng.choice((1, 1, 1, 9))
            bars, starts = [], []
            for one in danced:
                starts.append(len(bars))
                bars += one
            written = written_bars(bars, starts)
            self.assertEqual([bars[n] for n in played(written)], bars, (seed, bars, starts))
            self.assertLessEqual(len(written), len(bars))


class OthersTest(unittest.TestCase):
    """A feet's own x4 changes sides, so that two passes come again together."""

    @cases(
        ("A x4, B", 4 + 1, 9),
        ("A x4, B, A x2, A, A ends: 8 stomp", 4 + 1 + 5, 17),
        ("(A, B) x4", 6, 12),
        ("B x2, B turn 1/4 right, B", 2, 4),
        ("C x4", 4, 9),
        ("A, B", 3, 3),
    )
    def test_read_by_others_as_long_as_it_is_danced(self, text: str, written: int, danced: int) -> None:
        one = combo(text)
        data = write_musicxml(one).data.decode()
        self.assertEqual(data.count("<measure "), written)
        self.assertEqual(list(schema().iter_errors(bare(one))), [])
        read = converter.parse(data, format="musicxml").parts[0].expandRepeats()
        self.assertEqual(len(read.getElementsByClass("Measure")), danced)
        heard = {Fraction(n.getOffsetInHierarchy(read)).limit_denominator(64) for n in read.recurse().notes}
        self.assertEqual(sorted(heard), struck(one))
        # The pick-up stands before the repeat, as verovio counts it too.
        player = verovio.toolkit()
        player.setOptions({"expandAlways": True})
        self.assertTrue(player.loadData(data))
        self.assertEqual(
            sorted({Fraction(e["qstamp"]).limit_denominator(64) for e in player.renderToTimemap() if e.get("on")}),
            struck(one),
        )

    @cases(("A x4, B",), ("A x4, B, A x2, A, A ends: 8 stomp",), ("C x4",), ("(A, B) x4",))
    def test_they_come_back_as_they_were_danced(self, text: str) -> None:
        one = combo(text)
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "a.musicxml"
            path.write_bytes(write_musicxml(one).data)
            back = piece_from(piece_of_score(path, shipped()).text)
        self.assertEqual([s.place for s in back.parts[0].sounds], sorted({s.place for s in one.sounds if s.heard}))


if __name__ == "__main__":
    unittest.main()
