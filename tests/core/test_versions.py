"""Other versions of a part: what they change, what they leave, and that each reads back as it was meant."""

import unittest
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from firn.core.piece.build import part_from
from firn.core.piece.levels import harder, seated, simpler
from firn.core.piece.piece import Part
from firn.core.piece.versions import (
    VersionError,
    follow_facing,
    follow_later,
    moved,
    other_side,
    straight,
    stretched,
    swung,
)
from firn.core.reading.read import check_part
from firn.core.script.settings import Settings
from tests.support import cases, feet, part, places

LINE = "8 stomp  1 hop  2 step  &3 flap  & step"
WORDS = ("step", "flap", "stamp", "touch", "shuffle", "ball change", "heel", "paradiddle", "kick", "hold")
ACROSS = str.maketrans("LR", "RL")


def again(one: Part, text: str) -> Part:
    return part_from(one.name, text, one.settings, one.script.shelf)


def kinds(one: Part) -> list[str]:
    return [s.kind for s in one.sounds]


class VersionTest(unittest.TestCase):
    @cases(
        ("other side", other_side, "8 L stomp  1 hop  2 step  &3 flap  & step"),
        ("a count later", lambda p: moved(p, Fraction(1)), "1 stomp  2 hop  3 step  &4 flap  & step"),
        ("a count earlier", lambda p: moved(p, Fraction(-1)), "7 stomp  8 hop  1 step  &2 flap  & step"),
        (
            "half time",
            lambda p: stretched(p, Fraction(2)),
            "7 stomp  8 hold  1 hop  2 hold\n3 step  4 5 flap  6 step",
        ),
    )
    def test_as_a_teacher_would_type_it(self, _: str, make, text: str) -> None:
        self.assertEqual(make(part(LINE)).text, text)

    def test_a_time_step_and_its_stand_ins(self) -> None:
        """Single, double, triple: as long, and on the same foot at the end (common practice, no source)."""
        one = part("8 double time step  4 double time step")
        for make, name in ((simpler, "single time step"), (harder, "triple time step")):
            version = make(one)
            self.assertEqual(version.text, f"8 {name}\n4 {name}")
            other = again(one, version.text)
            self.assertEqual((other.counts, other.footing.free), (one.counts, one.footing.free))

    def test_the_ratio_is_said(self) -> None:
        said = stretched(part("1 step  2 step  3 step  4 step"), Fraction(1, 2)).said
        self.assertEqual(said, "In double time: two counts in a beat of the tune; 4 counts become 2.")

    def test_turns_go_the_other_way(self) -> None:
        one = part("1 step 1/4 right  2 step")
        self.assertEqual(again(one, other_side(one).text).sounds[0].turn, Fraction(-1, 4))

    @cases(
        ("hop", "1 step  2 hop  3 step  4 hold", "1 step  2 heel  3 step  4 hold\ndanced: seated"),
        ("in a word", "1& 2& irish", "1 brush  & spank  2 heel  & step\ndanced: seated"),
        ("pull-back", "1 step  & pickup  2 land", "1 step  & R spank  2 touch\ndanced: seated"),
        ("nothing airborne", "1 step  &2 flap", "1 step  &2 flap\ndanced: seated"),
    )
    def test_seated_on_the_same_feet_at_the_same_times(self, _: str, text: str, made: str) -> None:
        one = part(text)
        version = seated(one)
        self.assertEqual(version.text, made)
        there = again(one, version.text)
        self.assertEqual((feet(there), places(there), there.counts), (feet(one), places(one), one.counts))
        self.assertEqual(there.footing.faults, ())

    def test_a_follow_who_faces_and_one_who_comes_later(self) -> None:
        """Lead and follow are mirrored, or the follow comes in 4 counts later on the same feet (common practice)."""
        one = part("1 step  2 step  3 step  4 touch")
        self.assertEqual(feet(again(one, follow_facing(one).text)), feet(one).translate(ACROSS))
        later = again(one, follow_later(one).text)
        self.assertEqual(later.script.text, "1-4 hold\n5 step  6 step  7 step  8 touch")
        self.assertEqual((feet(later).strip(" -"), later.counts), (feet(one), 8))

    def test_swung_and_straight_change_the_feel_of_the_piece(self) -> None:
        one = part("1 step  & step  2 hold")
        self.assertEqual((swung(one).feel, swung(one).text), ("swing", "1 step  & step  2 hold"))
        self.assertEqual(straight(part("1 step", feel="swing")).feel, "straight")

    @cases(
        ("swung twice", swung, "1 step", {"feel": "swing"}, "swung already"),
        ("straight twice", straight, "1 step", {}, "straight already"),
        ("in thirds", swung, "1 step", {"meter": "6/8"}, "three even parts"),
        ("a pick-up before a later follow", follow_later, "& step  1 step", {}, "pick-up would fall"),
        ("seated twice", seated, "1 step\ndanced: seated", {}, "seated already"),
    )
    def test_not_again(self, _: str, make, text: str, head: dict[str, str], message: str) -> None:
        with self.assertRaisesRegex(VersionError, message):
            make(part(text, **head))

    @cases(
        ("no foot", "1 clap", other_side, "No foot"),
        ("no stand-in", "1 step", simpler, "No step here has a simpler one"),
        ("three counts", "1 step  2-3 hold", lambda p: stretched(p, Fraction(1, 2)), "3 counts have no half"),
    )
    def test_refused(self, _: str, text: str, make, message: str) -> None:
        with self.assertRaisesRegex(VersionError, message):
            make(part(text))


class AnyPartTest(unittest.TestCase):
    def read(self, words: list[str]) -> Part | None:
        one = part_from("A", "  ".join(f"{n + 1} {w}" for n, w in enumerate(words)), Settings())
        return one if one.sounds and not one.problems and not one.footing.faults else None

    @given(st.lists(st.sampled_from(WORDS), min_size=1, max_size=7))
    def test_twice_the_other_side_is_the_first(self, words: list[str]) -> None:
        one = self.read(words)
        if one is None or not any(s.foot in ("left", "right") for s in one.sounds):
            return
        two = again(one, other_side(one).text)
        self.assertEqual((kinds(two), places(two)), (kinds(one), places(one)))
        if "heel" not in words:  # from both feet the lead decides
            self.assertEqual(feet(two), feet(one).translate(ACROSS))

    @given(st.lists(st.sampled_from(WORDS), min_size=1, max_size=7), st.sampled_from([Fraction(2), Fraction(1, 2)]))
    def test_slower_and_back(self, words: list[str], times: Fraction) -> None:
        one = self.read(words)
        if one is None:
            return
        try:
            two = again(one, stretched(one, times).text)
            back = again(two, stretched(two, 1 / times).text)
        except VersionError:
            return
        sounded = [s.place * times for s in one.sounds if s.kind != "hold"]
        self.assertEqual([s.place for s in two.sounds if s.kind != "hold"], sounded)
        self.assertEqual(two.counts, one.counts * times)
        found = ({f.code for f in check_part(p) if f.level != "ok"} for p in (one, two))
        self.assertLessEqual(set.difference(*reversed(list(found))), {"off_phrase", "same_foot_limit"})
        # A hold that was shorter than a count is not written, and comes back only where its count is empty.
        here, there = ([(s.kind, s.place, s.foot) for s in p.sounds if s.kind != "hold"] for p in (one, back))
        self.assertEqual(there, here)


if __name__ == "__main__":
    unittest.main()
