"""Parts that are words in other parts."""

import unittest
from itertools import pairwise

from firn.core.piece.build import piece_from
from firn.core.piece.piece import Part, Piece
from firn.core.script.figures import DEEPEST
from firn.core.script.readings import read_line
from firn.core.script.writer import write_part
from tests.support import cases


def said(one: Part) -> str:
    return " ".join(f"{s.say}{s.kind}{s.foot[:1]}" for s in one.sounds)


def piece(*parts: str, head: str = "") -> Piece:
    return piece_from(head + "".join(f"part {text}\n" for text in parts))


class FigureTest(unittest.TestCase):
    @cases(
        (
            "twice, on the free foot", "Turnover\n1 step  & step  2 stamp", "1 Turnover x2",
            "1stepr &stepl 2flatr 3stepl &stepr 4flatl",
        ),
        ("with its pick-up", "Rocker\n8 stomp  1 hop  2 step", "Rocker  3 step", "8stompr 1hopl 2stepr 3stepl"),
        ("its hold is counted", "Lull\n1 step  2-3 hold", "1 Lull x2", "1stepr 2hold 3hold 4stepl 5hold 6hold"),
        ("of two words, in any case", "Slow Turn\n1 step  2 touch", "1 slow turn  3 stamp", "1stepr 2touchl 3flatl"),
        ("with a hyphen", "Turn-over\n1 step  2 touch", "1 Turn-over  3 stamp", "1stepr 2touchl 3flatl"),
        ("its heels stay its own", "Heely\n1 step  & heel", "1 Heely  2 Heely", "1stepr &heelr 2stepl &heell"),
        ("with a foot", "Turnover\n1 step  2 stamp", "1 step  2 L Turnover", "1stepr 2stepl 3flatr"),
        (
            "the foot that it is written from", "Turnover\n1 R step  2 stamp", "1 touch  2 Turnover",
            "1touchr 2stepr 3flatl",
        ),
        ("x2 over a cut name", "Turnover\n1 step", "( 1 Turnover  2 clap ) x2", "1stepr 2clap 3stepl 4clap"),
    )  # fmt: skip
    def test_a_part_is_a_word(self, _: str, figure: str, text: str, sounds: str) -> None:
        one = piece(figure, f"A\n{text}")
        self.assertEqual((one.problems, said(one.parts[1])), ((), sounds))
        self.assertEqual(one.parts[1].footing.faults, ())

    @cases(
        ("of two letters", "Bo\n1 step  2 stamp", "1 Bo", ["step", "flat"]),
        ("hands first", "Clappy\n1 clap  2 step", "1 Clappy", ["clap", "step"]),
        ("thirds of a count", "Lilted\n1 step  1+1/3 step  2 step", "1 Lilted", ["step", "step", "step"]),
        ("with an apostrophe", "Miller's\n1 step", "1 Miller's", ["step"]),
    )
    def test_whatever_it_is_called_and_holds(self, _: str, figure: str, text: str, kinds: list[str]) -> None:
        one = piece(figure, f"A\n{text}")
        self.assertEqual((one.problems, [s.kind for s in one.parts[1].sounds]), ((), kinds))
        self.assertEqual([s.place for s in one.parts[1].sounds], [s.place for s in one.parts[0].sounds])

    @cases(("B\n1 step", "1 B"), ("Part2\n1 step", "1 Part2"))
    def test_a_letter_or_a_figure_makes_no_word(self, figure: str, text: str) -> None:
        self.assertEqual([p.code for p in piece(figure, f"A\n{text}").problems], ["N101"])

    def test_marks_are_kept(self) -> None:
        one = piece("Marked\n1 stamp!  2 step~  3 (heel)", "A\n1 Marked")
        self.assertEqual(
            [(s.level, s.optional) for s in one.parts[1].sounds], [(s.level, s.optional) for s in one.parts[0].sounds]
        )

    def test_the_foot_that_it_is_written_from_is_kept(self) -> None:
        """Where that carries the weight it is told, as of any step; said otherwise, it is danced otherwise."""
        one = piece("Righty\n1 R step  2 stamp", "A\n1 step  2 Righty", "B\n1 step  2 L Righty")
        self.assertEqual([f.code for f in one.parts[1].footing.faults], ["carries"])
        self.assertEqual((said(one.parts[2]), one.parts[2].footing.faults), ("1stepr 2stepl 3flatr", ()))

    def test_longer_circles(self) -> None:
        one = piece("Wheel\n1 Spoke", "Spoke\n1 Hubcap", "Hubcap\n1 Wheel")
        self.assertEqual([len(p.problems) for p in one.parts], [1, 1, 1])
        self.assertTrue(all("danced in itself" in p.problems[0].message for p in one.parts))
        self.assertEqual([p.problems[0].nearest for p in one.parts], [()] * 3)

    def test_each_in_every_other(self) -> None:
        names = [
            "Spoke",
            "Hubcap",
            "Wheel",
            "Axle",
            "Tyre",
            "Rimmed",
            "Bolt",
            "Nut",
            "Valve",
            "Brake",
            "Pedal",
            "Crank",
        ]
        one = piece(*(f"{name}\n1 {' '.join(other for other in names if other != name)}" for name in names))
        self.assertEqual(len(one.parts), len(names))
        self.assertTrue(all("danced in itself" in p.problems[0].message for p in one.parts))

    def test_one_in_another_over_and_over(self) -> None:
        names = [f"Wheel {a}{b}{c}" for a in "bcdfg" for b in "aeiou" for c in "klmnp"]
        chain = [f"{name}\n1 {then}" for name, then in pairwise(names)]
        one = piece(*chain, f"{names[-1]}\n1 step")
        faulty = [bool(p.problems) for p in one.parts]
        self.assertEqual(faulty[-DEEPEST:], [False] * DEEPEST)
        self.assertEqual(faulty[: -DEEPEST - 2], [True] * (len(names) - DEEPEST - 2))

    def test_changed_once_changed_everywhere(self) -> None:
        first = piece("Turnover\n1 step  2 stamp", "A\n1 Turnover x2", "B\n1 step  2 Turnover")
        then = piece("Turnover\n1 step  2 touch", "A\n1 Turnover x2", "B\n1 step  2 Turnover")
        self.assertEqual([s.kind for s in first.parts[2].sounds], ["step", "step", "flat"])
        self.assertEqual([s.kind for s in then.parts[2].sounds], ["step", "step", "touch"])
        self.assertEqual([s.kind for s in then.parts[1].sounds], ["step", "touch"] * 2)

    def test_figures_out_of_figures(self) -> None:
        one = piece("Base\n1 step  2 step  3 step", "Middle\n1 Base  4 clap", "Top\n1 Middle x2")
        self.assertEqual(said(one.parts[2]), "1stepr 2stepl 3stepr 4clap 5stepl 6stepr 7stepl 8clap")

    def test_a_cards_name_stays_the_cards(self) -> None:
        one = piece("Flap\n1 stamp", "A\n1 flap")
        self.assertEqual(said(one.parts[1]), "&brushr 1stepr")

    @cases(
        ("in itself", ("Roundy\n1 Roundy  2 step",), "Roundy is danced in itself."),
        ("by way of another", ("Roundy\n1 Other", "Other\n1 Roundy"), "Other is danced in itself, by way of this."),
        (
            "not understood", ("Roundy\n1 Other", "Other\n1 stpe"),
            "Other cannot be a word yet: it has no steps, or something in it is not understood.",
        ),
        (
            "only sung", ("Roundy\n1 Other  3 step", "Other\nscat: 1 da 2 dum"),
            "Other cannot be a word yet: it has no steps, or something in it is not understood.",
        ),
        (
            "without steps", ("Roundy\n1 Other", "Other\n# to come"),
            "Other cannot be a word yet: it has no steps, or something in it is not understood.",
        ),
    )  # fmt: skip
    def test_what_cannot_be_a_word_says_why(self, _: str, parts: tuple[str, ...], why: str) -> None:
        one = piece(*parts)
        self.assertIn(why, one.parts[0].problems[0].message)

    def test_turns_add_up(self) -> None:
        one = piece("Quarter\n1 step  2 step 1/4 right", "A\n1 Quarter x4")
        self.assertEqual(sum(s.turn for s in one.parts[1].sounds), 1)

    def test_written_by_its_name(self) -> None:
        one = piece("Turnover\n1 step  2 stamp", "A\n1 Turnover  3 step")
        self.assertEqual(write_part(one.parts[1].script, one.settings), "1 2 Turnover  3 step")

    def test_an_edit_costs_the_lines_that_name_it(self) -> None:
        """Of forty lines and forty more only those that name the figure are read anew."""
        lines = "\n".join(f"{n % 8 + 1} step" for n in range(40))
        uses = "\n".join(f"{n % 8 + 1} Turnover" for n in range(40))
        piece("Turnover\n1 step", f"A\n{lines}", f"B\n{uses}")
        before = read_line.cache_info().misses
        piece("Turnover\n1 stamp", f"A\n{lines}", f"B\n{uses}")
        self.assertLessEqual(read_line.cache_info().misses - before, 41)


if __name__ == "__main__":
    unittest.main()
