"""A part changed sound by sound: the script is what a teacher would have typed, and nothing else changes."""

import unittest
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from firn.core.piece.build import part_from
from firn.core.piece.by_hand import HandError, leaned, left_out, moved, of_kind, other_foot, put_in
from firn.core.piece.piece import Part
from firn.core.script.settings import Settings
from firn.session.by_hand import counted, draw
from tests.support import cases, feet, part, piece

F = Fraction
LINE = "8 stomp  1 hop  2 step  &3 flap  & step   # the gate"
HANDS = "1 step  2 step  3-4 hold\nhands: 1 clap  2 clap  & snap"
WORDS = (
    "step",
    "flap",
    "stamp",
    "touch",
    "shuffle",
    "ball change",
    "heel",
    "paradiddle",
    "kick",
    "hold",
    "shuffle step",
)
OPS = ("earlier", "later", "finer", "foot", "touch", "leaned", "out", "in")


def again(one: Part, text: str) -> Part:
    return part_from(one.name, text, one.settings, one.script.shelf)


class TypedTest(unittest.TestCase):
    @cases(
        ("earlier", lambda p: moved(p, 2, F(-1, 2)), "8 stomp  1 hop  & step  &3 flap  & step   # the gate"),
        ("finer", lambda p: moved(p, 5, F(1, 4)), "8 stomp  1 hop  2 step  &3 flap  a step   # the gate"),
        ("a place that has to be written out", lambda p: moved(p, 1, F(1, 2)),
         "8 stomp  1+1/2 hop  2 step  &3 flap  & step   # the gate"),
        ("out of a word", lambda p: moved(p, 4, F(1, 4)),
         "8 stomp  1 hop  2 step  & brush  e step  & step   # the gate"),
        ("the other foot", lambda p: other_foot(p, 4),
         "8 stomp  1 hop  2 step  & brush  3 R step  & step   # the gate"),
        ("leaned on", lambda p: leaned(p, 0, 1), "8 stomp!  1 hop  2 step  &3 flap  & step   # the gate"),
        ("left out of a count", lambda p: left_out(p, 2), "8 stomp  1 hop  2 hold  &3 flap  & step   # the gate"),
        ("left out between", lambda p: left_out(p, 5), "8 stomp  1 hop  2 step  &3 flap   # the gate"),
        ("another kind", lambda p: of_kind(p, 5, "touch"), "8 stomp  1 hop  2 step  &3 flap  & touch   # the gate"),
        ("one more", lambda p: put_in(p, F(1, 2), "clap"),
         "8 stomp  1 hop  & clap  2 step  &3 flap  & step   # the gate"),
    )  # fmt: skip
    def test_as_a_teacher_would_have_typed_it(self, _: str, make, text: str) -> None:
        self.assertEqual(make(part(LINE)).text, text)

    @cases(
        ("leaned on", lambda p: leaned(p, 1, 1), "& L brush  1 step!  &2 L flap", "LLLL"),
        ("its last left out", lambda p: left_out(p, 1), "& L brush  1 hold  &2 L flap", "L-LL"),
        ("another kind", lambda p: of_kind(p, 1, "touch"), "& L brush  1 touch  &2 L flap", "LLLL"),
    )
    def test_a_foot_that_is_written_stays_with_the_first_sound(self, _: str, make, text: str, on: str) -> None:
        drawn = make(part_from("A", "&1 L flap  &2 L flap", Settings()))
        self.assertEqual((drawn.text, feet(part_from("A", drawn.text, Settings()))), (text, on))

    @cases(
        ("a clap of two left out", HANDS, lambda p: left_out(p, 1),
         "1 step  2 step  3-4 hold\nhands:  2 clap  & snap", None),
        ("a clap between left out", HANDS, lambda p: left_out(p, 3),
         "1 step  2 step  3-4 hold\nhands: 1 clap  2+1/2 snap", None),
        ("a step over a clap: the feet hold", HANDS, lambda p: left_out(p, 2),
         "1 step  2 hold  3-4 hold\nhands: 1 clap  2 clap  & snap", 2),
        ("into a long hold", HANDS, lambda p: put_in(p, F(2), "step"),
         "1 step  2 step  3-4 hold + step\nhands: 1 clap  2 clap  & snap", 5),
        ("in place of a short hold", "1 step  2 hold  3 hold  4 step", lambda p: put_in(p, F(1), "touch"),
         "1 step  2 touch  3 hold  4 step", 1),
        ("one more clap", HANDS, lambda p: put_in(p, F(2), "clap", layer="hands"),
         "1 step  2 step  3-4 hold\nhands: 1 clap  2 clap  & snap  3 clap", 6),
        ("one more that is said", "1 step  2 step\nvoiced hands: 1 clap",
         lambda p: put_in(p, F(1), "clap", layer="hands"), "1 step  2 step\nvoiced hands: 1 clap  2 clap", 3),
        ("a stamp of a word stays one", "1 clogging stomp double", lambda p: moved(p, 0, F(-1, 4)),
         "8+3/4 stamp  1+1/2 brush  1+3/4 spank  2 step", 0),
        ("its last on the other foot", "1 clogging stomp double", lambda p: other_foot(p, 3),
         "1 stamp  & brush  a spank  2 R step", 3),
        ("a word that is leaned on", "1 double step!", lambda p: other_foot(p, 2),
         "& brush!  a spank!  1 L step!", 2),
        ("a word that is softened", "e&a1 cramp roll~", lambda p: other_foot(p, 3),
         "e step~  & step~  a R heel~  1 R heel~", 3),
    )  # fmt: skip
    def test_what_is_left_and_where_it_stands(self, _: str, body: str, make, text: str, index: int | None) -> None:
        drawn = make(part(body))
        self.assertEqual((drawn.text, drawn.index), (text, index))

    def test_of_a_row_the_rest_stays(self) -> None:
        one = part("step x4")
        drawn = left_out(one, 1)
        self.assertEqual(drawn.text, "1 step  2 hold  3 step  4 step")

    def test_notes_stay_at_the_ends_of_their_lines(self) -> None:
        drawn = left_out(part("step x4   # in a row\n5 step   # alone"), 1)
        self.assertEqual(drawn.text, "1 step  2 hold  3 step  4 step   # in a row\n5 step   # alone")
        across = moved(part("1 step  2 step   # up\n3 step   # down"), 0, F(5, 2))
        self.assertEqual(across.text, "2 L step   # up\n3 step  & step   # down")

    @cases(
        ("left out", "1 step & step 2 step 3 step", lambda p: left_out(p, 1), "1 step 2 step 3 step"),
        ("moved over another", "1 step  2 touch  3 step  4 step", lambda p: moved(p, 0, F(3, 2)),
         "2 L touch  & step  3 step  4 step"),
        ("put in", "1 step   &   step  2 step , 3 step  # slow", lambda p: put_in(p, F(3, 2), "clap"),
         "1 step   &   step  2 step  & clap , 3 step  # slow"),
        ("put in among others", "1 step,  2 step;  3 step # a", lambda p: put_in(p, F(5, 2), "step"),
         "1 step,  2 step;  3 step  & step # a"),
    )  # fmt: skip
    def test_the_feet_after_a_change_follow_and_the_rest_of_the_text_stays(
        self, _: str, body: str, make, text: str
    ) -> None:
        self.assertEqual(make(part(body)).text, text)

    @cases(
        ("without counts", "step, step, stamp", 1, "step, R step, stamp"),
        ("another kind", "step step, stamp", 2, "step step, L stamp"),
        ("beside what is not understood", "1 step 2 step\n3 stap wiggle", 1, "1 step 2 R step\n3 stap wiggle"),
        ("beside lists that take turns", "stamp on 1 and 3, clap on 2 and 4\n5 step 6 flap 7 step\n8 wiggle", 5,
         "stamp on 1 and 3, clap on 2 and 4\n5 step & R brush  6 step 7 step\n8 wiggle"),
        ("counted by bars", "1 step 2 step 3 step 4 step\n1 step 2 flap 3 step 4 step", 6,
         "1 step 2 step 3 step 4 step\n1 step & brush  2 R step 3 step 4 step"),
    )  # fmt: skip
    def test_another_foot_leaves_her_words(self, _: str, body: str, index: int, text: str) -> None:
        one = piece(body).parts[0]
        wanted = {"left": "right", "right": "left"}[one.sounds[index].foot]
        drawn = other_foot(one, index)
        made = piece(drawn.text).parts[0]
        assert drawn.index is not None
        self.assertEqual(made.sounds[drawn.index].foot, wanted)
        self.assertEqual(drawn.text, text)

    def test_counts_that_do_not_fit_are_written_anew(self) -> None:
        """No word of them is lost by that."""
        self.assertEqual(counted(piece("1 heel 1 toe\nstep").parts[0]), "1 heel + toe\n2 step")

    def test_what_is_not_understood_is_never_written_over(self) -> None:
        """Its line could only be written anew without it."""
        one = piece("1 step\n2 wiggle 3 flap x2").parts[0]
        with self.assertRaisesRegex(HandError, "not understood"):
            other_foot(one, 2)
        with self.assertRaisesRegex(HandError, "not understood"):
            counted(piece("1 step wiggle").parts[0])

    def test_feet_before_a_change_stay(self) -> None:
        one = part("1 step  2 step  3 step  4 step")
        self.assertEqual(feet(again(one, put_in(one, F(5, 2), "step").text)), "RLRLR")

    @cases(
        ("on another", lambda p: moved(p, 0, F(1)), "There is a sound on 1 already"),
        ("a foot for a clap", lambda p: other_foot(part("1 clap"), 0), "No single foot"),
        ("a step of several sounds", lambda p: of_kind(p, 0, "flap"), "is no single sound"),
        ("in a taken place", lambda p: put_in(p, F(0), "clap"), "There is a sound on 1 already"),
        ("among words that overlap, beside notes",
         lambda p: moved(part("1 paradiddle   # up\n2 step   # down"), 4, F(-7, 8)), "change it in the text"),
    )  # fmt: skip
    def test_refused(self, _: str, make, message: str) -> None:
        with self.assertRaisesRegex(HandError, message):
            make(part(LINE))

    def test_leaned_on_twice_is_as_before(self) -> None:
        one = part("1 step  2 step")
        once = again(one, draw(one, [0], "lean", 1).text)
        self.assertEqual(draw(once, [0], "lean", 1).text, "1 step  2 step")


class AnyPartTest(unittest.TestCase):
    """Whatever is changed: what is written reads, without a problem, as what was meant, and nothing else moved."""

    def changed(self, one: Part, op: str, index: int):
        sound = one.sounds[index]
        before = [(s.place, s.kind) for s in one.sounds]
        rest = before[:index] + before[index + 1 :]
        if op in ("earlier", "later", "finer"):
            by = {"earlier": F(-1, 2), "later": F(1, 2), "finer": F(1, 4)}[op]
            return moved(one, index, by), [*rest, (sound.place + by, sound.kind)]
        if op == "foot":
            return other_foot(one, index), before
        if op == "touch":
            return of_kind(one, index, "touch"), [*rest, (sound.place, "touch")]
        if op == "leaned":
            return leaned(one, index, 1), before
        if op == "out":
            hold = [(sound.place, "hold")] if sound.place.denominator == 1 and sound.kind != "hold" else []
            return left_out(one, index), rest + hold
        place = next(p for n in range(1, 40) if (p := sound.place + F(n, 2)) not in {s.place for s in one.sounds})
        return put_in(one, place, "step"), [*before, (place, "step")]

    @given(
        st.lists(
            st.sampled_from([f"{side}{word}" for side in ("", "", "R ", "L ") for word in WORDS]),
            min_size=1,
            max_size=7,
        ),
        st.sampled_from(OPS),
        st.integers(0, 30),
        st.booleans(),
    )
    def test_reads_as_it_was_meant(self, words: list[str], op: str, at: int, swing: bool) -> None:
        settings = Settings(feel="swing" if swing else "straight")
        one = part_from("A", "  ".join(f"{n + 1} {w}" for n, w in enumerate(words)), settings)
        if one.problems or not one.sounds:
            return
        try:
            drawn, meant = self.changed(one, op, at % len(one.sounds))
        except HandError:
            return
        made = again(one, drawn.text)
        self.assertEqual(made.problems, ())
        self.assertEqual(sorted((s.place, s.kind) for s in made.sounds), sorted(meant))
        if op == "leaned" and not one.footing.faults:
            self.assertEqual([s.foot for s in made.sounds], [s.foot for s in one.sounds])


if __name__ == "__main__":
    unittest.main()
