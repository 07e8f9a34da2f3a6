"""Lines that dance the one before again, and counts in a line of their own."""

import unittest
from fractions import Fraction

from hypothesis import assume, given
from hypothesis import strategies as st

from firn.core.piece.build import part_from, piece_from
from firn.core.piece.by_hand import left_out, moved
from firn.core.piece.piece import Part
from firn.core.reading.read import check_part
from firn.core.script.again import again_of
from firn.core.script.changes import Change, changed_text
from firn.core.script.settings import Settings
from firn.core.script.writer import write_part
from firn.session.by_hand import counted
from tests.support import cases, feet, part, places

ONCE = "1 step  2 step  3 step  4 hold"


def read(text: str) -> Part:
    """A part of any text, faults and all."""
    return part_from("A", text, Settings())


def danced(one: Part) -> list[tuple[object, ...]]:
    return [(s.place, s.kind, s.foot) for s in one.sounds]


class SaidTest(unittest.TestCase):
    @cases(
        ("again", (1, False, None)), ("  Same again x3", (3, False, None)), ("other side", (1, True, None)),
        ("on the other side x2   # both", (2, True, None)), ("same, other side, but 7 stamp", (1, True, "7 stamp")),
        ("same but", (1, False, "")), ("x3", (2, False, None)), ("three times", (2, False, None)),
        ("twice", (1, False, None)),
        ("x1", None), ("x3 but 1 step", None), ("nine lives", None), ("repeat x2", (2, False, None)),
        ("opposite side", (1, True, None)), ("otra vez", (1, False, None)), ("del otro lado", (1, True, None)),
        ("but 7 stamp", None), ("other", None), ("", None),
        ("again step", None), ("lo mismo", (1, False, None)), ("once more", (1, False, None)),
        ("repeat that", (1, False, None)), ("the same thing", (1, False, None)), ("igual", (1, False, None)),
        ("with the other foot", (1, True, None)), ("con el otro pie", (1, True, None)),
        ("again the other way", None), ("same on the left", (1, True, None)), ("on the left", None),
        ("lo mismo con la izquierda", (1, True, None)), ("and again", (1, False, None)),
        ("do that again", (1, False, None)),
        ("and the other side", (1, True, None)), ("same starting left", (1, True, None)),
        ("same, no clap", (1, False, "no clap")), ("same on L", (1, True, None)), ("rpt L", (1, True, None)),
        ("repeat 3 more times to face the front", None), ("repeat 3 more times to face front", (3, False, None)),
        ("both lines again", (1, False, None)),
        ("y otra vez", (1, False, None)), ("and stamp", None), ("no clap", None), ("x3 without the clap", None),
    )  # fmt: skip
    def test_said(self, line: str, meant: tuple[int, bool, str | None] | None) -> None:
        found = again_of(line)
        self.assertEqual((found.times, found.other, found.change) if found else None, meant)


class AllTest(unittest.TestCase):
    """Common practice, no source."""

    @cases(("1-8: repeat",), ("1-8: same",), ("both lines again",), ("repeat all of it",))
    def test_all_lines_where_the_counts_are_theirs(self, said: str) -> None:
        above = "1-4: stamp clap stamp clap\n5-8: step step stamp hold"
        whole, once = read(f"{above}\n{said}"), read(above)
        self.assertEqual([p.message for p in whole.problems], [])
        kinds = [sound.kind for sound in once.sounds]
        self.assertEqual([sound.kind for sound in whole.sounds], kinds * 2)


class InsteadTest(unittest.TestCase):
    """Common practice, no source."""

    @cases(
        ("same without the clap", "stamp step hold"),
        ("same, leave out the clap", "stamp step hold"),
        ("again but no clap", "stamp step hold"),
        ("same, touch instead of clap", "stamp step touch"),
        ("again, hop for the step", "stamp hop clap"),
        ("same but end with a touch", "stamp step touch"),
        ("same but the last one a touch", "stamp step touch"),
        ("same, but with a touch on 3", "stamp step touch"),
        ("otra vez sin palma", "stamp step hold"),
        ("igual pero palma en vez de step", "stamp clap clap"),
        ("same without the stamp", "hold step clap"),
    )
    def test_a_word_left_out_or_in_the_place_of_one(self, said: str, words: str) -> None:
        one = read(f"1 stamp  2 step  3 clap\n{said}")
        self.assertEqual(one.problems, ())
        self.assertEqual([use.card.name for use in one.uses][3:], words.split())
        self.assertEqual([str(use.places[0]) for use in one.uses][3:], ["3", "4", "5"])

    @cases(
        ("same without the shuffle", "N117"),
        ("same, touch instead of shuffle", "N117"),
        ("same, no wobble", "N117"),
        ("same, wobble instead of clap", "N101"),
    )
    def test_what_is_not_there_is_said(self, said: str, code: str) -> None:
        one = read(f"1 stamp  2 step  3 clap\n{said}")
        self.assertEqual([p.code for p in one.problems], [code])
        self.assertEqual(len(one.uses), 6)

    def test_of_several_the_last(self) -> None:
        one = read("1 step  2 clap  3 step  4 clap\nsame without the clap")
        self.assertEqual([use.card.name for use in one.uses][4:], ["step", "clap", "step", "hold"])

    def test_one_of_several_sounds_goes_from_its_count_on(self) -> None:
        """The beat of what is danced instead falls where that of the other was, or where it begins."""
        for text, said, places_of_it in (
            ("1 stamp  &3 flap", "same, stamp instead of flap", ["5"]),
            ("1 stamp  2 hold", "same, flap instead of stamp", ["3/2", "2"]),
        ):
            new = read(f"{text}\n{said}").uses
            lasts = [use for use in new[2:] if use.card.name in said.split()[1]]
            self.assertEqual([str(p) for p in lasts[-1].places], places_of_it, text)

    def test_of_several_times_the_last(self) -> None:
        one = read("1 step  2 clap\nagain x2 but no clap")
        self.assertEqual([use.card.name for use in one.uses][2:], ["step", "clap", "step", "hold"])


class AgainTest(unittest.TestCase):
    def test_a_time_step_on_both_sides(self) -> None:
        """8 counts, 12 sounds, stomps on 8 and 4, the second side mirrored (common practice, no source)."""
        both = part("8 stomp  1 hop  2 step  &3 flap  & step\nother side")
        self.assertEqual((both.counts, len(both.sounds)), (8, 12))
        self.assertEqual([s.say for s in both.sounds if s.kind == "stomp"], ["8", "4"])
        self.assertEqual(feet(both)[6:], feet(both)[:6].translate(str.maketrans("LR", "RL")))

    def test_every_second_time_on_the_first_side(self) -> None:
        one = part(f"{ONCE}\nother side x3")
        self.assertEqual(feet(one).replace("-", "").replace(" ", ""), "RLRLRLRLRLRL")

    def test_the_side_that_the_weight_would_not_bring_is_asked_for(self) -> None:
        one = part("1 step  2 step\nother side")
        self.assertIn("carries", {f.code for f in check_part(one)})
        self.assertNotIn("carries", {f.code for f in check_part(part("1 step  2 step\nagain"))})

    @cases(
        ("on the left", "1 step  2 heel\nsame on the left", "RRLL"),
        ("and on the right again", "1 step  2 heel\nsame on the left\nsame on the right", "RRLLRR"),
        ("where it is written", "1 L step  2 heel\nsame on the right", "LLRR"),
        ("in Spanish", "1 step  2 heel\nlo mismo con la izquierda", "RRLL"),
    )
    def test_on_the_side_that_is_said(self, _: str, text: str, expected: str) -> None:
        one = part(text)
        self.assertEqual((one.problems, feet(one)), ((), expected))

    def test_the_side_that_it_may_be_on_already_is_asked_about(self) -> None:
        (problem,) = part_from("A", "1 step  2 heel\nsame on the right", Settings()).problems
        self.assertEqual((problem.code, problem.line, problem.column, problem.end), ("N117", 1, 0, 17), problem)

    def test_repeat_with_a_number_may_be_all_the_times(self) -> None:
        one = part("1 stamp  2 clap\nrepeat x3")
        (doubt,) = one.script.doubts
        self.assertEqual([offer.written[2] for offer in doubt.offers], ["again x3", "again x2"])
        self.assertEqual((doubt.line, doubt.column, doubt.end, len(one.sounds)), (1, 0, 9, 8))
        for plain in ("again x3", "x3", "repeat", "repeat on the other side"):
            self.assertEqual(part(f"1 stamp  2 clap\n{plain}").script.doubts, (), plain)

    def test_repeat_may_be_of_all_lines(self) -> None:
        text = "1 stamp  2 clap\n3 step  4 hold\nrepeat"
        one = part(text)
        (doubt,) = one.script.doubts
        taken = [changed_text(text, (Change(doubt.line, *offer.written),)) for offer in doubt.offers]
        self.assertEqual([len(part(said).sounds) for said in taken], [6, 8])
        self.assertEqual(danced(part(taken[0])), danced(one))
        self.assertEqual(taken[1], "1 stamp  2 clap\n3 step  4 hold\n1 stamp  2 clap\n3 step  4 hold")
        for said in (*taken, "1 stamp\n2 clap\nagain", "1 stamp\n2 clap\nother side", "# so\n1 stamp\nrepeat"):
            self.assertEqual(part(said).script.doubts, (), said)

    @cases(
        ("stamp  clap\nheel\nrepeat on the left", "again on the left", "stamp  clap\nheel\nL stamp  clap\nheel"),
        ("1 stamp\n2 step\nrepeat on the other side", "other side", "1 stamp\n2 step\n1 L stamp\n2 step"),
    )
    def test_on_the_other_side_too(self, text: str, line: str, lines: str) -> None:
        (doubt,) = part(text).script.doubts
        taken = [changed_text(text, (Change(doubt.line, *offer.written),)) for offer in doubt.offers]
        self.assertEqual(taken, [text.rpartition("\n")[0] + f"\n{line}", lines])

    def test_what_is_written_for_a_foot_is_not_written_out_for_the_other(self) -> None:
        self.assertEqual(part("R stamp\nclap\nrepeat on the other side").script.doubts, ())

    def test_written_feet_and_turns_go_the_other_way(self) -> None:
        one = part("1 R touch  2 L touch 1/4 right\nother side")
        self.assertEqual((feet(one), [s.turn for s in one.sounds]), ("RLLR", [0, Fraction(1, 4), 0, Fraction(-1, 4)]))

    @cases(
        ("in place of one", f"{ONCE}\nsame but 7 stamp", "step step step hold step step flat hold"),
        ("of a hold", f"{ONCE}\nsame but 8 stomp", "step step step hold step step step stomp"),
        ("counted as the line before", f"{ONCE}\nsame but 3 touch", "step step step hold step step touch hold"),
        ("into a long hold", "1 step  2-4 hold\nsame but 8 stamp", "step hold step hold flat"),
        ("only the last of several", "1 step  2 step\nagain x2 but 6 touch", "step step step step step touch"),
    )
    def test_but(self, _: str, text: str, kinds: str) -> None:
        one = part(text)
        self.assertEqual(one.problems, ())
        self.assertEqual(" ".join(s.kind for s in one.sounds), kinds)

    @cases(
        ("nothing before", "other side", "no line before"),
        ("nothing different", f"{ONCE}\nsame but", "Say what is different"),
        ("no such count", "1 step  2 step\nsame but 7 stamp", "nothing on 7"),
        ("no such step", f"{ONCE}\nsame but 7 wobble", "No step is called"),
    )
    def test_problems(self, _: str, text: str, message: str) -> None:
        problems = read(text).problems
        self.assertIn(message, problems[-1].message)
        self.assertEqual(problems[-1].line, text.count("\n"))

    def test_edited_the_line_before_takes_it_with_it(self) -> None:
        one = part(f"{ONCE}   # front\nother side")
        text = moved(one, 2, Fraction(-1, 2)).text
        self.assertEqual(text, "1 step  2 step  & step  4 hold   # front\nother side")
        self.assertEqual(places(part(text))[6], "11/2")

    def test_edited_itself_it_is_written_out(self) -> None:
        text = left_out(part(f"{ONCE}   # front\nother side   # back"), 5).text
        self.assertEqual(text, "1 step  2 step  3 step  4 hold   # front\n5 step  6 hold  7 step  8 hold   # back")

    @cases(
        ("twice more", 3), ("2 more times", 3), ("one more time", 2), ("do it 3 times", 3), ("3 times in all", 3),
        ("do that again", 2), ("same thing again", 2), ("una vez más", 2),
    )  # fmt: skip
    def test_how_often_it_is_danced_again(self, line: str, times: int) -> None:
        one = part(f"step clap\n{line}")
        self.assertEqual((len(one.sounds), one.problems), (2 * times, ()))

    @cases(("repeat all",), ("repeat from the top",), ("all again",), ("repite todo",), ("dance both lines",))
    def test_all_lines_again(self, line: str) -> None:
        one = part(f"step clap\nstamp\n{line}")
        self.assertEqual((feet(one), places(one), one.problems), ("R-LR-L", [*"012345"], ()))

    @cases(
        ("what keeps its foot", "tap", "two stomps on each foot", "RRLL"),
        ("what changes it, in turn", "clogging", "two stamps on each foot", "RLRL"),
        ("three of them come to the other", "tap", "three stamps on each foot", "RLRLRL"),
        ("twice, and then the other side", "tap", "stomp x2, other side", "RRLL"),
    )
    def test_on_each_foot(self, _: str, tradition: str, body: str, expected: str) -> None:
        one = piece_from(f"tradition: {tradition}\npart A\n{body}").parts[0]
        self.assertEqual((feet(one), one.script.problems), (expected, ()))

    @given(
        st.lists(st.sampled_from(("step", "flap", "stamp", "touch", "shuffle", "hold")), min_size=1, max_size=5),
        st.sampled_from(("again", "other side", "again x3", "other side x2")),
    )
    def test_written_out_it_is_danced_alike(self, words: list[str], line: str) -> None:
        one = part("  ".join(words) + "\n" + line)
        assume(not one.problems)
        self.assertEqual(danced(part(write_part(one.script, one.settings))), danced(one))


class CountsTest(unittest.TestCase):
    @cases(
        ("one each", "1 2 4\nstep flap step", "1 step  2 flap  4 step"),
        ("every sound", "1 & 2 & 3\nflap flap step", "1& flap  2& flap  3 step"),
    )
    def test_counts_first(self, _: str, apart: str, together: str) -> None:
        one = part(apart)
        self.assertEqual(one.problems, ())
        self.assertEqual(danced(one), danced(part(together)))

    def test_what_is_wrong_with_them_is_told_at_their_words(self) -> None:
        problem = read("2 & 5 6\nstep flap step step step").problems[0]
        self.assertEqual((problem.code, problem.line, problem.column), ("N103", 1, 0))

    def test_counts_alone_are_still_told(self) -> None:
        self.assertEqual([p.code for p in read("1 2 3\n4 step").problems], ["N108"])

    @cases(
        ("flap  flap  step   # go", "&1 flap  &2 flap  3 step   # go"),
        ("8 stomp hop 2 step  &3 flap step", "8 stomp  1 hop  2 step  &3 flap  4 step"),
        ("1 & 2\nstep flap", "1 step  &2 flap"),
        (f"{ONCE}\nother side", f"{ONCE}\nother side"),
    )
    def test_filled_in(self, text: str, filled: str) -> None:
        self.assertEqual(counted(part(text)), filled)
        self.assertEqual(danced(part(filled)), danced(part(text)))


if __name__ == "__main__":
    unittest.main()
