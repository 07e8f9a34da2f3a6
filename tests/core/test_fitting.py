"""What could come next in a combo, what could stand in, and counts that are filled; each proved by dancing it."""

import random
import unittest
from fractions import Fraction

from msgspec.structs import replace

from firn.core.combos.fill import FillError, Wish, fill, units_of
from firn.core.combos.fitting import could_come, could_stand_in
from firn.core.piece.build import piece_from
from firn.core.piece.unfold import unfold
from firn.core.reading.read import check
from firn.core.script.combo_item import ComboItem
from firn.core.script.settings import Settings
from firn.core.steps.shelf import TRADITIONS, shipped
from tests.support import cases

PARTS = """part Eight
1 step x8
part Three
1 step  2 step  3 step  4 hold
part Left
1 L step  2 step  3 step  4 touch
part Six
1 step x6
part Jump
1 jump  2 clap  3 jump  4 clap
part Empty

"""


def piece(combo: str):
    return piece_from(f"{PARTS}combo\n{combo}\n")


class ComesTest(unittest.TestCase):
    def test_the_one_that_fills_the_phrase_and_leads_on_comes_first(self) -> None:
        one = piece("Three, Eight")
        found = could_come(one, unfold(one), 0)
        why = {fit.part: fit.why for fit in found}
        self.assertIn("leads into Eight", why["Eight"])
        self.assertIn("fills the phrase", why["Three"])
        self.assertIn("Eight then begins right", why["Three"])
        self.assertNotIn("Empty", [fit.part for fit in found])

    @cases(
        ("Three, Eight", 0, "Eight", 20,
         "begins left, which is free; leads into Eight; comes on its 1; stays on its side"),
        ("Three, Eight", 0, "Left", 20,
         "begins left, which is free; fills the phrase; comes on its 1; Eight then begins right; changes sides"),
        ("Three, Eight", 0, "Three", 18,
         "begins left, which is free; fills the phrase; comes on its 1; once more of the same; "
         "Eight then begins right; changes sides"),
        ("Eight, Three", None, "Eight", 16, "begins right; leads into Eight; stays on its side"),
        ("Eight, Three", None, "Three", 11, "begins right; Eight then begins left; changes sides"),
        ("Six", 0, "Eight", 5, "begins right, which is free; comes on 7, and is written from 1; stays on its side"),
        ("Jump, Left", 0, "Three", 25,
         "begins right, which is free; leads into Left; fills the phrase; comes on its 1; changes sides"),
        ("Jump, Left", 0, "Six", 6,
         "begins right, which is free; Left could not follow; comes on its 1; stays on its side"),
        ("Eight", 0, "Eight", 15,
         "begins right, which is free; comes on its 1; fills its phrase; once more of the same; stays on its side"),
    )  # fmt: skip
    def test_how_each_is_weighed(self, combo: str, after: int | None, part: str, score: int, why: str) -> None:
        one = piece(combo)
        fit = next(f for f in could_come(one, unfold(one), after) if f.part == part)
        self.assertEqual((fit.score, "; ".join(fit.why)), (score, why))

    def test_other_meters_and_stances_weigh_less(self) -> None:
        one = piece_from(
            "tradition: step dance\npart A\n1 step side  2 step side\npart B\n1 threes\n"
            "part C\nmeter: 6/8\n1 step  2 step\ncombo\nA\n"
        )
        why = {fit.part: fit for fit in could_come(one, unfold(one), 0)}
        self.assertIn("stands otherwise than A leaves the feet", why["B"].why)
        self.assertIn("changes to 6/8", why["C"].why)

    @cases(("Jump, Three, Eight", 1, ["Jump"]), ("Three, Jump", 0, ["Jump"]), ("Three, Jump", 1, []),
           ("Eight, Eight", 1, []), ("Left, Eight", 0, ["Jump"]))  # fmt: skip
    def test_which_stand_in(self, combo: str, number: int, parts: list[str]) -> None:
        one = piece(combo)
        self.assertEqual([fit.part for fit in could_stand_in(one, unfold(one), number)], parts)

    def test_the_foot_that_is_not_free(self) -> None:
        one = piece("Eight")
        self.assertNotIn("Left", [fit.part for fit in could_come(one, unfold(one), 0)])
        one = piece("Three")
        self.assertIn("Left", [fit.part for fit in could_come(one, unfold(one), 0)])

    def test_at_the_beginning(self) -> None:
        one = piece("Eight")
        fits = {fit.part: fit for fit in could_come(one, unfold(one), None)}
        self.assertEqual((fits["Eight"].begins, fits["Left"].begins), ("right", "left"))

    def test_each_that_fits_can_be_danced_there(self) -> None:
        """Against dancing the whole combo with each of the parts put in: two hundred random places."""
        names = ["Eight", "Three", "Left", "Six", "Jump"]
        chance = random.Random(8)
        for _ in range(200):
            said = [chance.choice(names) for _ in range(chance.randint(1, 4))]
            one = piece(", ".join(said))
            whole = unfold(one)
            after = chance.randrange(len(said))
            fits = {fit.part: fit for fit in could_come(one, whole, after)}
            for name in names:
                items = [ComboItem(p) for p in (*said[: after + 1], name)]
                danced = unfold(replace(one, combo=tuple(items)))
                able = all(p.danceable for p in danced.passes[after + 1 :])
                self.assertEqual(name in fits, able, (said, after, name))
                if able:
                    self.assertEqual((fits[name].begins, fits[name].free), (danced.passes[-1].needed, danced.free))

    def test_what_could_stand_in(self) -> None:
        one = piece("Three, Three, Eight")
        self.assertEqual([fit.part for fit in could_stand_in(one, unfold(one), 2)], [])
        fits = could_stand_in(piece("Jump, Three"), unfold(piece("Jump, Three")), 1)
        self.assertTrue(all(fit.counts == 4 for fit in fits))


class FillTest(unittest.TestCase):
    @cases(*((name,) for name in TRADITIONS if name != "marking"))
    def test_each_tradition_proved(self, tradition: str) -> None:
        """Counts, the foot at the end and every check, read anew from the text that was written."""
        settings = Settings(tradition=tradition)
        for seed in range(3):
            wish = Wish((8, 16, 24)[seed % 3], ends=("left", "right", "")[seed % 3], seed=seed)
            made = fill(settings, wish)
            read = piece_from(made.script)
            whole = unfold(read)
            self.assertEqual((read.problems, whole.counts), ((), wish.counts))
            self.assertIn(whole.free, (wish.ends or whole.free, made.free))
            self.assertTrue(all(p.danceable for p in whole.passes))
            self.assertEqual([f.code for f in check(read) if f.level == "bad"], [])

    @cases(
        ("where the phrase has few ways to be filled", "floor work", Wish(64, ends="right", level=1, seed=155)),
        ("steps too quick at this tempo", "step dance", Wish(32, ends="right", level=2, pace="busy", seed=80)),
        ("over the bar where it must be", "floor work", Wish(24, steps=("three moves",))),
    )
    def test_what_seldom_falls_out_by_chance(self, _: str, tradition: str, wish: Wish) -> None:
        read = piece_from(fill(Settings(tradition=tradition), wish).script)
        self.assertEqual((read.problems, unfold(read).counts), ((), wish.counts))
        self.assertEqual([f.code for f in check(read) if f.level == "bad" or f.code == "same_foot_limit"], [])

    def test_the_same_seed_the_same_steps(self) -> None:
        wish = Wish(32, seed=7)
        tap = Settings(tradition="tap")
        self.assertEqual(fill(tap, wish), fill(tap, wish))
        self.assertNotEqual(fill(tap, wish).words, fill(tap, replace(wish, seed=8)).words)

    def test_busy_and_sparse(self) -> None:
        tap = Settings(tradition="tap")

        def sounds(**more: str) -> float:
            read = [piece_from(fill(tap, Wish(16, seed=s, **more)).script) for s in range(4)]
            return sum(len(part.sounds) for one in read for part in one.parts) / 4

        plain = sounds()
        self.assertGreater(sounds(pace="busy"), plain + 2)
        self.assertLess(sounds(pace="sparse"), plain - 2)

    def test_of_some_steps_alone_and_of_a_level(self) -> None:
        tap = Settings(tradition="tap")
        made = fill(tap, Wish(8, steps=("flap ball change", "shuffle ball change"), seed=2))
        self.assertLessEqual(set(made.words), {"flap ball change", "shuffle ball change"})
        made = fill(tap, Wish(16, level=1, seed=2))
        levels = {u.word: u.level for u in units_of(tap, shipped())}
        self.assertEqual({levels[word] for word in made.words}, {1})

    def test_ends_at_the_front(self) -> None:
        made = fill(Settings(tradition="house"), Wish(16, front=True))
        turned = sum((p.turn for p in unfold(piece_from(made.script)).passes), Fraction(0))
        self.assertEqual(turned % 1, 0)

    @cases(
        (Wish(0), "Between 1 and 256 counts"), (Wish(8, steps=("wibble",)), '"wibble" is no step of tap'),
        (Wish(3, steps=("waltz clog", "single time step")), "cannot be filled|no step for"),
        (Wish(4, ends="left", steps=("shuffle ball change",)), "with the left foot free at the end"),
        (Wish(7, front=True, steps=("shuffle ball change",)), "7 counts facing the front at the end of shuffle"),
        (Wish(7, ends="left", front=True, steps=("shuffle ball change",)), "left foot free and facing the front at"),
    )  # fmt: skip
    def test_what_cannot_be_names_the_constraints(self, wish: Wish, said: str) -> None:
        try:
            made = fill(Settings(tradition="tap"), wish)
        except FillError as fault:
            self.assertRegex(str(fault), said)
        else:
            self.assertEqual(wish.steps, ("waltz clog", "single time step"), made)


if __name__ == "__main__":
    unittest.main()
