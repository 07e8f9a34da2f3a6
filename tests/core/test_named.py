"""Sounds whose strikes are known, read as steps."""

import random
import unittest
from fractions import Fraction

from msgspec.structs import replace

from firn.core.piece.build import piece_from
from firn.core.quantise.words import Struck, words_of
from firn.core.steps.card import Beat, Card, _beat
from firn.core.steps.shelf import Shelf, shipped
from tests.support import cases


def struck(text: str, tradition: str = "tap") -> list[Struck]:
    part = piece_from(f"tradition: {tradition}\npart A\n{text}").parts[0]
    return [Struck(s.place, (s.kind,), s.foot) for s in part.sounds]


def danced_beats(*texts: str) -> tuple[Beat, ...]:
    return tuple(_beat(text) for text in texts)


class WordsTest(unittest.TestCase):
    # Worked by hand: what a teacher of the tradition would call these, common practice, no source.
    @cases(
        ("tap", "&1 shuffle  &2 ball change  &3 flap  4 stamp", ["shuffle ball change", "flap", "stamp"]),
        ("tap", "1e&a paradiddle  2e&a paradiddle", ["paradiddle", "paradiddle"]),
        ("tap", "8 stomp  1 hop  2 step  &3 flap  & step", ["single time step"]),
        ("clogging", "&a1 double step  &2 rock step", ["basic"]),
        ("swing", "1 2 rock step  3a4 triple step  5a6 triple step", ["six-count basic"]),
    )
    def test_what_is_danced_is_what_is_read(self, tradition: str, text: str, names: list[str]) -> None:
        read = words_of(struck(text, tradition), tradition, shipped())
        self.assertEqual([one.card.name for one in read], names)

    def test_with_any_swing_of_a_foot_the_rhythm_tells(self) -> None:
        known = struck("&1 shuffle  2 step  &3 flap")
        swing = ("brush", "spank", "pickup", "scuff")
        loose = [replace(s, kinds=swing if s.kinds[0] in swing else s.kinds) for s in known]
        self.assertEqual(
            [one.card.name for one in words_of(loose, "tap", shipped())],
            [one.card.name for one in words_of(known, "tap", shipped())],
        )

    def test_feet_part_what_sounds_alike(self) -> None:
        same = [
            Struck(Fraction(1, 2), frozenset(("brush",)), "left"),
            Struck(Fraction(1), ("step",), "left"),
        ]
        other = [same[0], Struck(Fraction(1), ("step",), "right")]
        self.assertEqual([o.card.name for o in words_of(same, "tap", shipped())], ["flap"])
        self.assertNotEqual([o.card.name for o in words_of(other, "tap", shipped())], ["flap"])

    @cases(
        ("flatfoot", "heel", "both", "bounce"), ("flatfoot", "heel", "left", "heel"),
        ("tap", "heel", "both", "heels together"), ("tap", "land", "both", "land"), ("tap", "toe", "right", "toe"),
    )  # fmt: skip
    def test_both_feet_at_once(self, tradition: str, kind: str, foot: str, name: str) -> None:
        (one,) = words_of([Struck(Fraction(0), (kind,), foot)], tradition, shipped())
        self.assertEqual(one.card.name, name)

    def test_what_costs_nearly_as_much_is_a_rival_and_no_more(self) -> None:
        """A card's own rhythm, the same twice as slow, one that it does not have; a sound by itself."""
        rock = Card("rock", (), (), danced_beats("step A", "step B"), {"": ("1 2",)})
        pair = Card("pair", (), (), danced_beats("step A", "step B"), {"": ("1 &",)})
        step = Card("step", (), (), danced_beats("step A"), {"": ("1",)}, primitive=True)
        shelf = Shelf.of([rock, pair, step])

        def read(*places: Fraction) -> list[tuple[str, tuple[str, ...]]]:
            feet = ("left", "right", "left", "right")
            sounds = [Struck(p, ("step",), foot) for p, foot in zip(places, feet, strict=False)]
            return [(one.card.name, tuple(r.name for r in one.rivals)) for one in words_of(sounds, "tap", shelf)]

        self.assertEqual(read(Fraction(0), Fraction(1)), [("rock", ("pair",))])
        self.assertEqual(read(Fraction(0), Fraction(1, 2)), [("pair", ("rock",))])
        self.assertEqual(read(Fraction(0), Fraction(3)), [("step", ()), ("step", ())])
        self.assertEqual(read(Fraction(1, 2), Fraction(3, 2))[0][0], "rock")
        self.assertEqual(read(Fraction(0), Fraction(1), Fraction(2), Fraction(3)), [("rock", ("pair",))] * 2)

    @cases(
        ("all of them", (0, 1, 2, 3), ("brush", "spank", "step", "step"), ["shuffle", "walk"], None),
        ("one told wrongly", (0, 1, 2, 3), ("brush", "clap", "step", "step"), ["shuffle", "walk"], None),
        ("one too many", (0, 1, Fraction(5, 4), 2, 3), ("brush", "spank", "clap", "step", "step"),
         ["shuffle", "walk"], None),
        ("one not heard", (0, 2, 3), ("brush", "step", "step"), ["shuffle", "walk"], 1),
        ("the first not heard", (1, 2, 3), ("spank", "step", "step"), ["shuffle", "walk"], 0),
    )  # fmt: skip
    def test_what_the_ear_heard_may_be_wrong(
        self, _: str, places: tuple[Fraction, ...], kinds: tuple[str, ...], names: list[str], unheard: int | None
    ) -> None:
        """Of a shuffle and a step, and one more step; tapped, the same would be no steps, or others."""
        shuffle = Card("shuffle", (), (), danced_beats("brush A", "spank A", "step A"), {"": ("1 2 3",)})
        kick = Card("kicked", (), (), danced_beats("kick A", "step A", "touch B"), {"": ("1 2 3",)})
        walk = Card("walk", (), (), danced_beats("step A"), {"": ("1",)}, primitive=True)
        shelf = Shelf.of([shuffle, kick, walk])
        sounds = [Struck(Fraction(p), (kind,)) for p, kind in zip(places, kinds, strict=True)]
        read = words_of(sounds, "tap", shelf, heard=True)
        self.assertEqual(([one.card.name for one in read], read[0].unheard), (names, unheard))
        self.assertEqual((read[0].places, read[1].places), ((0, 1, 2), (3,)))
        tapped = words_of(sounds, "tap", shelf)
        self.assertEqual([one.card.name for one in tapped] == names, _ == "all of them")

    def test_what_is_not_heard_keeps_clear_of_other_sounds(self) -> None:
        shelf = Shelf.of([Card("kicked", (), (), danced_beats("kick A", "step A", "touch B"), {"": ("1 2 3",)})])
        sounds = [Struck(Fraction(p), (kind,)) for p, kind in ((0, "clap"), (1, "step"), (2, "touch"))]
        self.assertEqual([one.places for one in words_of(sounds[1:], "tap", shelf, heard=True)], [(0, 1, 2)])
        self.assertNotIn((0, 1, 2), [one.places for one in words_of(sounds, "tap", shelf, heard=True)])

    def test_what_makes_no_sound_is_not_waited_for(self) -> None:
        shelf = Shelf.of([Card("kicked", (), (), danced_beats("kick A", "step A", "touch B"), {"": ("1 2 3",)})])
        sounds = [Struck(Fraction(1), ("step",)), Struck(Fraction(2), ("touch",))]
        (one,) = words_of(sounds, "tap", shelf, heard=True)
        self.assertEqual((one.card.name, one.places, one.unheard), ("kicked", (0, 1, 2), None))
        self.assertEqual(words_of(sounds, "tap", shelf), [])

    def test_feet_that_a_card_would_change_are_none_of_it(self) -> None:
        jump = Card("jump", (), (), danced_beats("jump 2", "step A"), {"": ("1 2",)})
        step = Card("step", (), (), danced_beats("step A"), {"": ("1",)}, primitive=True)
        shelf = Shelf.of([jump, step])
        both = [Struck(Fraction(0), ("jump",), "both"), Struck(Fraction(1), ("step",), "left")]
        self.assertEqual([o.card.name for o in words_of(both, "tap", shelf)], ["jump"])
        one = [Struck(Fraction(0), ("jump",), "left"), both[1]]
        self.assertEqual(words_of(one, "tap", shelf), [])

    def test_what_is_no_step_ends_it(self) -> None:
        odd = [Struck(Fraction(0), ("step",), "left"), Struck(Fraction(1), ("sneeze",))]
        self.assertEqual(words_of(odd, "tap", shipped()), [])
        self.assertEqual(words_of([], "tap", shipped()), [])

    def test_any_sounds_end_soon_and_cover_what_they_name(self) -> None:
        rng = random.Random(3)
        kinds = ["step", "brush", "spank", "heel", "toe", "flat", "stomp", "hop", "clap", "dig"]
        for _ in range(30):
            sounds = [Struck(Fraction(n, 2), (rng.choice(kinds),), rng.choice(("left", "right"))) for n in range(60)]
            read = words_of(sounds, rng.choice(("tap", "clogging", "latin")), shipped())
            self.assertEqual([one.first for one in read[1:]], [o.sounds[-1] + 1 for o in read[:-1]])


if __name__ == "__main__":
    unittest.main()
