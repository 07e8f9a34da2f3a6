"""Correct material raises no alarm: every step of every tradition, four times, on both sides.

The steps are common practice, from memory.
"""

import unittest

from firn.core.piece.build import piece_from
from firn.core.reading.read import check, check_part
from firn.core.steps.shelf import TRADITIONS, shipped
from tests.support import DATA

TEMPO = 110

EXCEPT = {
    "pickup": "half a movement: another word lands it",
    "land": "half a movement: another word picks up",
    "double pull-back": "begins with both feet down, and ends so only on one of its landings",
    "pull-back together": "ends on both feet, and begins on one",
    "nerve taps": "meant to be faster than feet usually strike",
    "samba bounce": "its three quarters before the next count are quick at this tempo",
    "carretilla": "a run as fast as it goes",
}
"""Steps that are told of, each with its reason."""

LENGTH = ("off_phrase",)
"""What only says that four times of a step fill no phrase."""


APART = {**EXCEPT, "double heels": "begins with both feet where their heels can drop"}
"""Steps that are not joined with others."""

EXPLAINED = ("stance", "doubt", "same_foot_limit")
"""What may be said of two steps after each other: how the first leaves the feet; that their names could be read
together; that the second begins at once with the foot that just struck."""


class CombosTest(unittest.TestCase):
    def test_forty_combos_as_classes_dance_them(self) -> None:
        """Nothing is wrong with any, and nothing worth a look: common practice, from memory."""
        combos = (DATA / "class_combos.txt").read_text("utf-8").split("\n===\n")
        self.assertEqual(len(combos), 40)
        for text in combos:
            with self.subTest(text):
                piece = piece_from(text)
                told = [f.code for f in check(piece) if f.level != "ok"]
                self.assertEqual((piece.problems, told, bool(piece.combo)), ((), [], True))


class AloneTest(unittest.TestCase):
    def test_each_step_four_times_on_both_sides(self) -> None:
        told: set[str] = set()
        for card in shipped().cards:
            for tradition in card.traditions or ("tap",):
                for lead in ("right", "left"):
                    head = f"tradition: {tradition}\nlead: {lead}\ntempo: {TEMPO}\n"
                    piece = piece_from(f"{head}part A\n1 {card.name} x4")
                    found = [f.code for f in check_part(piece.parts[0]) if f.level != "ok" and f.code not in LENGTH]
                    if found or piece.problems:
                        told.add(card.name)
        self.assertEqual(told, set(EXCEPT))
        self.assertLess(len(EXCEPT), 0.15 * len(shipped().cards))

    def test_each_step_with_others_of_its_tradition(self) -> None:
        joined = told = 0
        for tradition in TRADITIONS:
            cards = [c for c in shipped().cards if tradition in c.traditions and c.name not in APART]
            for number, card in enumerate(cards):
                for away in (1, 7):
                    other = cards[(number + away) % len(cards)]
                    said = f"1 {card.name}  {other.name}  {card.name}  {other.name}"
                    piece = piece_from(f"tradition: {tradition}\ntempo: {TEMPO}\npart A\n{said}")
                    self.assertEqual(piece.problems, (), said)
                    found = {f.code for f in check_part(piece.parts[0]) if f.level != "ok" and f.code not in LENGTH}
                    self.assertLessEqual(found, set(EXPLAINED), said)
                    joined, told = joined + 1, told + bool(found)
        self.assertLess(told, 0.05 * joined)


if __name__ == "__main__":
    unittest.main()
