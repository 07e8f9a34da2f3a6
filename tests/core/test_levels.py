"""One part at several levels: what stands in, line by line, what may not, and a class whose groups dance together.

That a class dances one routine at several levels at once, all as long and ending alike: common practice, no source.
"""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from firn.core.book.book import BookPart, BookPiece
from firn.core.piece.levels import levelled, lines_of
from firn.core.piece.versions import VersionError
from firn.core.steps.shelf import shipped
from firn.errors import FirnError
from firn.session.desk import whole_combo
from firn.session.levels import Wanted, level_of, usual_levels, with_class
from tests.support import cases, part

TIME_STEPS = "8 double time step  4 double time step\n1 hop  2 step  &3 flap  4 stomp"


class LevelledTest(unittest.TestCase):
    @cases(
        ("a line alone", {0: "harder"}, "8 triple time step  4 triple time step", "1 hop  2 step  &3 flap  4 stomp"),
        (
            "each its own",
            {0: "simpler", 1: "harder"},
            "8 single time step  4 single time step",
            "1 hop  2 step  &a3 flap heel  4 stomp",
        ),
    )
    def test_lines_go_each_their_way(self, _: str, hows, *lines: str) -> None:
        self.assertEqual(levelled(part(TIME_STEPS), hows).text, "\n".join(lines))

    @cases(
        ("nothing asked", "1 step", {}, "Every line is as it is written"),
        ("no stand-in", "1 step", {0: "simpler"}, "No step here has a simpler one"),
        (
            "ends on the other foot",
            "shuffle",
            {0: "harder"},
            "shuffle step would be longer, shorter or end on another foot than shuffle",
        ),
        ("off its usual counts", "1 2 flap", {0: "harder"}, "flap is not on its usual counts"),
    )
    def test_refused_and_why(self, _: str, text: str, hows, said: str) -> None:
        with self.assertRaisesRegex(VersionError, said):
            levelled(part(text), hows)

    def test_what_stays_is_told_beside_what_does_not(self) -> None:
        said = levelled(part("&1 flap\nshuffle"), {0: "harder", 1: "harder"}).said
        self.assertIn("flap heel for flap.", said)
        self.assertIn("As written: shuffle step would be", said)

    def test_lines_are_those_of_steps(self) -> None:
        self.assertEqual(lines_of(part("1 step\n# a note\n2 step\nhands: 3 clap")), [0, 2])


class ClassTest(unittest.TestCase):
    def made(self, text: str, rows=None):
        one = part(text)
        levels = [level_of(one, w) for w in usual_levels(one)]
        piece = BookPiece("p", "piece: Kettle\n", (BookPart("a", "A", text),), "")
        return with_class(piece, one, levels if rows is None else [levels[n] for n in rows], shipped())

    def test_groups_begin_and_end_together(self) -> None:
        piece, said = self.made(TIME_STEPS)
        lines = [
            "group 1: A simpler",
            "group 2, together: A",
            "group 3, together: A harder",
            "group 4, together: A seated",
        ]
        self.assertEqual(piece.combo.split("\n"), lines)
        self.assertIn("All 4 groups begin together and end together.", said)
        read, whole, _ = whole_combo(piece, shipped())
        self.assertEqual(read.problems, ())
        self.assertEqual({(p.offset, p.part.counts) for p in whole.passes}, {(0, 13)})

    def test_they_come_after_what_the_combo_has(self) -> None:
        one = part(TIME_STEPS)
        piece = BookPiece("p", "piece: Kettle\n", (BookPart("a", "A", TIME_STEPS),), "A x2\n")
        levels = [level_of(one, w) for w in usual_levels(one)]
        self.assertTrue(with_class(piece, one, levels, shipped())[0].combo.startswith("A x2\ngroup 1: A simpler"))

    def test_one_level_is_no_class(self) -> None:
        with self.assertRaisesRegex(FirnError, "two levels"):
            self.made(TIME_STEPS, [1])

    def test_one_who_is_not_as_long_is_told(self) -> None:
        """Told, however the level came to be: a stand-in of her own card may be longer."""
        one = part("1 step  2 step")
        other = level_of(one, Wanted("as written", {}))
        long = type(other)(other.wanted, part("1 step  2 step  3 step"), "It has 3 counts.", (), (), stands=False)
        with self.assertRaisesRegex(FirnError, "It has 3 counts"):
            with_class(BookPiece("p", "", (BookPart("a", "A", "1 step"),), ""), one, [other, long], shipped())

    def test_a_seated_part_has_no_seated_level(self) -> None:
        names = [w.name for w in usual_levels(part("1 step  2 step\ndanced: seated"))]
        self.assertEqual(names, ["simpler", "as written", "harder"])

    WORDS = ("step", "flap", "stamp", "touch", "shuffle", "ball change", "double time step", "pull-back", "hop")

    @given(st.lists(st.sampled_from(WORDS), min_size=1, max_size=5))
    def test_whatever_is_written_levels_are_as_long_and_end_alike(self, words: list[str]) -> None:
        text = "\n".join(words)
        one = part(text)
        for wanted in usual_levels(one):
            level = level_of(one, wanted)
            self.assertEqual(level.part.counts, one.counts, wanted.name)
            if not level.part.seated:
                self.assertEqual(level.part.footing.free, one.footing.free, wanted.name)
                self.assertTrue(level.stands)
