"""Parts that are words in other parts."""

import unittest

from firn.core.piece.build import piece_from
from firn.core.piece.piece import Part, Piece
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
