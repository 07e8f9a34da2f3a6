"""Lines of hands and arms that go on over the parts of a combo: where each sound and cue then is."""

import unittest
from fractions import Fraction

from firn.core.piece.build import piece_from
from firn.core.piece.over import over_fault
from firn.core.piece.unfold import unfold
from firn.core.reading.read import check_combo
from firn.core.reading.sentences import sentence
from firn.core.script.combo_item import Across
from firn.session.stretch import combo_stretch
from tests.support import cases

PARTS = """part A
1 step  2 step  3 step  4 step  5 step  6 step  7 step  8 hold
part B
1 step  2 step  3 step  4 hold
part C
8 stamp  1 step  2 step  3 step  4 hold
combo
"""
F = Fraction


def shown(text: str):
    piece = piece_from(PARTS + text + "\n")
    return piece, combo_stretch(piece, unfold(piece))


class OverTest(unittest.TestCase):
    @cases(
        ("every four counts, through three parts", "hands, every 4: 2 clap 4 clap\nA, B x2", range(1, 16, 2)),
        ("once", "hands: 2 clap 4 clap\nA, B", [1, 3]),
        ("once, longer than a part", "hands: 2 clap, 8 clap, 1 clap\nB x2, A", [1, 7, 8]),
        ("from a part on", "A\nhands: & clap 3 snap\nB", [F(19, 2), 10]),
        ("another in its place", "hands every 2: 2 clap\nB\nhands every 4: 4 snap\nB x2", [1, 3, 7, 11]),
        ("two layers at once", "left hand, every 4: 2 pat\nright hand, every 4: 4 pat\nA", [1, 3, 5, 7]),
        ("with a pick-up, counted from its 1", "hands every 8: 8 clap\nC, A", [-1, 7]),
        ("every 3 against 4", "hands every 3 counts: 1 clap\nA, B", [0, 3, 6, 9]),
    )
    def test_where_hands_sound(self, _: str, text: str, places: list) -> None:
        piece, stretch = shown(text)
        self.assertEqual(piece.problems, ())
        self.assertEqual([s.place for s in stretch.sounds if s.hand], list(places))
        self.assertEqual(list(stretch.sounds), sorted(stretch.sounds, key=lambda s: s.place))

    def test_arms_and_words_stay_where_they_are(self) -> None:
        _, plain = shown("A x2, B")
        _, stretch = shown("arms: 1-8 up 1-8 down\nhands every 4: 2 clap\nA x2, B")
        self.assertEqual([(c.place, c.length, c.text) for c in stretch.beside.cues], [(0, 8, "up"), (8, 8, "down")])
        feet = [(s.place, s.foot, s.weight) for s in stretch.sounds if not s.hand]
        self.assertEqual(feet, [(s.place, s.foot, s.weight) for s in plain.sounds])
        self.assertEqual([text for _, text in stretch.words], [text for _, text in plain.words])
        self.assertEqual([stretch.sounds[i].place for i, _ in stretch.words],
                         [plain.sounds[i].place for i, _ in plain.words])  # fmt: skip
        self.assertEqual((stretch.first, stretch.end, unfold(shown("A x2, B")[0]).free),
                         (plain.first, plain.end, unfold(shown("hands: 1 clap\nA x2, B")[0]).free))  # fmt: skip

    def test_other_groups_have_none(self) -> None:
        for follow, hands in (("A left", 0), ("mirrored", 2)):
            piece, _ = shown(f"hands every 4: 2 clap\nlead: A\nfollow: {follow}")
            self.assertEqual([sum(bool(s.hand) for s in unfold(piece, group).sounds) for group in (1, 2)], [2, hands])

    @cases(
        ("a step", "hands: 2 jump\nA", "is for the feet"),
        ("no word of it", "hands: 2 flurb\nA", "flurb"),
        ("counts alone", "arms: 1-4\nA", "not as it is said"),
    )
    def test_what_cannot_be_read_is_said(self, _: str, text: str, said: str) -> None:
        piece, stretch = shown(text)
        (found,) = [f for f in check_combo(piece) if f.code == "over"]
        self.assertIn(said, sentence(found))
        self.assertEqual([s for s in stretch.sounds if s.hand], [])

    def test_what_says_nothing_is_no_line(self) -> None:
        piece, _ = shown("A")
        for said, fault in ((Across("hands", ","), "It says nothing that is done."), (Across("arms", "1 up"), ""),
                            (Across("hands", "2 clap"), "")):  # fmt: skip
            self.assertEqual(over_fault(piece, said), fault)

    def test_in_her_own_words(self) -> None:
        piece = piece_from(f"words: chap is clap\n{PARTS}hands: 2 chap\nA\n")
        self.assertEqual([s.kind for s in unfold(piece).sounds if s.hand], ["clap"])

    @cases(("before nothing", "A\nhands: 1 clap", "C402"), ("every 0", "hands, every 0: 1 clap\nA", "N111"),
           ("every 999", "hands, every 999: 1 clap\nA", "N111"))  # fmt: skip
    def test_what_goes_over_nothing(self, _: str, text: str, code: str) -> None:
        self.assertEqual([p.code for p in shown(text)[0].problems], [code])

    def test_no_more_sounds_than_there_may_be(self) -> None:
        claps = " ".join(["1", "clap", "&", "clap", "2", "clap", "&", "clap"] * 20)
        piece, _ = shown(f"hands every 1: {claps}\n" + "A x64, " * 30 + "A")
        self.assertTrue(unfold(piece).cut_short)


if __name__ == "__main__":
    unittest.main()
