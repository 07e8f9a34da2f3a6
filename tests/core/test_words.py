"""What words mean to a teacher: other steps than they usually mean, and which foot R and L name."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from firn.core.piece.build import part_from, piece_from
from firn.core.piece.piece import Part
from firn.core.piece.unfold import unfold
from firn.core.reading.read import check_part
from firn.core.script.settings import Settings, read_settings, write_settings
from firn.core.script.writer import write_part
from firn.core.steps.disputed import DISPUTED
from firn.core.steps.shelf import shipped
from tests.support import cases, feet, part

TYPED = ["stamp", "stomp", "L stomp", "R flap", "step", "hop", "heel", "cramp roll"]
SWAPPED = (("stamp", "stomp"), ("stomp", "stamp"))


def kinds(one: Part) -> str:
    return " ".join(s.kind for s in one.sounds)


class MeaningTest(unittest.TestCase):
    @cases(
        ("swapped", "stamp is stomp, stomp is stamp", "1 stamp 2 stomp", "stomp flat"),
        ("one", "pull is pickup", "1 pull & land", "pickup land"),
        ("an alias", "irish is skip", "&1 irish", "hop step"),
        ("a word of her own", "latch is ball change", "&1 latch", "step step"),
        ("of two words", "latch lift is flap", "&1 latch lift", "brush step"),
        ("a step that is not there is told", "latch is nothing known", "1 step", "step"),
    )
    def test_read(self, _: str, words: str, text: str, expected: str) -> None:
        read = piece_from(f"words: {words}\npart A\n{text}")
        self.assertEqual(kinds(read.parts[0]), expected)
        self.assertEqual([p.code for p in read.problems], ["H203"] if "nothing" in words else [])

    def test_in_an_ending_and_a_combo_they_mean_the_same(self) -> None:
        read = piece_from(
            "words: stamp is stomp, stomp is stamp\npart A\n1 step 2 stamp 3 step\ncombo\nA ends: 3 stamp"
        )
        self.assertEqual(read.problems, ())
        danced = [s.kind for s in unfold(read).sounds]
        self.assertEqual(danced, ["step", "stomp", "stomp"])

    def test_every_meaning_on_offer_is_on_the_shelf(self) -> None:
        for word, meanings in DISPUTED.items():
            self.assertIsNotNone(shipped().find(word, ""), word)
            for name in meanings:
                self.assertIsNotNone(shipped().find(name, ""), name)

    def test_the_shelf_itself_is_not_changed(self) -> None:
        shelf = shipped().called(SWAPPED)
        self.assertIs(shelf.called(()), shipped())
        self.assertIs(shelf.called(SWAPPED), shelf)
        self.assertEqual(shipped().find("stamp", "tap").name, "stamp")

    @cases(
        ("no pair", "words: stamp", "H202"),
        ("half a pair", "words: stamp is", "H202"),
        ("no side", "sides: left", "H202"),
    )
    def test_refused(self, _: str, line: str, code: str) -> None:
        self.assertEqual([p.code for p in read_settings([line])[1]], [code])

    def test_headings_read_back(self) -> None:
        settings = Settings(words=SWAPPED, sides="standing foot")
        self.assertEqual(read_settings(write_settings(settings).split("\n")), (settings, []))


class SidesTest(unittest.TestCase):
    """ "On the left": the working foot, or the standing one (common practice, no source)."""

    @cases(
        ("a free foot", "1 L flap", "LL", "RR"),
        ("the foot that carries", "1 step 2 R hop", "RR", "RR"),
        ("nothing said", "1 step 2 step", "RL", "RL"),
    )
    def test_named_by_the_foot_that_stands(self, _: str, text: str, working: str, standing: str) -> None:
        for sides, expected in (("working foot", working), ("standing foot", standing)):
            self.assertEqual(feet(part(text, sides=sides)), expected)


class WriterTest(unittest.TestCase):
    @given(st.lists(st.sampled_from(TYPED), max_size=8), st.sampled_from(["working foot", "standing foot"]))
    def test_what_is_written_reads_back(self, words: list[str], sides: str) -> None:
        settings = Settings(words=SWAPPED, sides=sides)
        one = part_from("A", "  ".join(f"{n + 1} {w}" for n, w in enumerate(words)), settings)
        if one.problems:
            return
        again = part_from("A", write_part(one.script, settings), settings)
        self.assertEqual((kinds(again), feet(again)), (kinds(one), feet(one)))

    def test_mends_speak_her_words(self) -> None:
        settings = Settings(words=SWAPPED)
        one = part_from("A", "1 R stomp  2 R stomp", settings)
        mends = [c.text for f in check_part(one) for m in f.mends for c in m.changes]
        self.assertTrue(mends)
        for text in mends:
            if "stamp" in text:
                self.assertEqual(kinds(part_from("A", f"1 {text}", settings)), "stomp")


if __name__ == "__main__":
    unittest.main()
