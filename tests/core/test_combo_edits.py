"""A combo changed by hand: every edit is a text that reads back as what was wanted."""

import random
import unittest
from collections.abc import Sequence
from fractions import Fraction

from msgspec.structs import replace

from firn.core.script import combo_edits as edits
from firn.core.script.combo import read_combo
from firn.core.script.combo_item import ComboItem
from tests.support import cases

NAMES = ("A", "B", "Turn over", "Break")


def read(text: str) -> Sequence[ComboItem]:
    items, problems = read_combo(text.split("\n"), NAMES)
    assert not problems, (text, problems)
    return items


def done(text: str, what: str, index: int, value: object = None) -> str:
    items = read(text)
    return edits.edited(text, items, wish(items, what, index, value), NAMES)


def wish(items: Sequence[ComboItem], what: str, index: int, value: object = None) -> list[ComboItem]:
    item = items[index]
    if what == "more":
        return edits.once_more(items, index, int(str(value)))
    if what == "side":
        return edits.other_side(items, index)
    if what == "move":
        return edits.moved(items, index, int(str(value)))
    if what == "turn":
        return edits.turned(items, index, replace(item, turn=Fraction(str(value))))
    if what == "ends":
        return edits.turned(items, index, replace(item, last_ends=str(value)))
    if what == "put":
        return edits.put_after(items, index, ComboItem(str(value)))
    return edits.left_out(items, index)


class EditTest(unittest.TestCase):
    @cases(
        ("A x2, Break  # three of it\nB", "more", 0, 1, "A x3, Break  # three of it\nB"),
        ("3x A, B", "more", 0, -1, "A x2, B"),
        ("A A B", "side", 1, None, "A A, other side B"),
        ("A, other side, B", "side", 0, None, "A, B"),
        ("A, Break\nB", "move", 0, 1, "Break, A\nB"),
        ("A x2, last time ends: & touch, B", "move", 1, -1, "B, A x2, last time ends: & touch"),
        ("A, B", "turn", 0, "1/4", "A, turn 1/4 right, B"),
        ("A x2, B", "ends", 0, "& touch", "A x2, last time ends: & touch, B"),
        ("A, B, Break", "leave", 1, None, "A, Break"),
        ("A\nB\nBreak", "leave", 1, None, "A\nBreak"),
        ("A, B", "leave", 1, None, "A"),
        ("A, B", "put", 0, "Turn over", "A, Turn over, B"),
        ("A, B", "put", 1, "Break", "A, B, Break"),
        ("A\n\nB\n# end", "leave", 0, None, "\nB\n# end"),
        ("A, B, A", "leave", 0, None, "B, A"),
        ("A x63", "more", 0, 1, "A x64"),
        ("A x2, never swaps", "more", 0, 1, "A x3, never swaps"),
        ("A x2, begins: 5 step, B", "more", 0, 1, "A x3, begins: 5 step, B"),
        ("A, first time begins: 5 step", "side", 0, None, "A, other side, first time begins: 5 step"),
        ("A x3, 3rd time ends: & touch", "more", 0, -1, "A x2"),
        (
            "group 1: A\ngroup 2, together: B\nall: A",
            "side",
            1,
            None,
            "group 1: A\ngroup 2, together: B, other side\nall: A",
        ),
        ("(A, B) x2", "more", 3, 1, "A, B, A, B x2"),
        ("A both sides, B", "more", 1, 1, "A, as written, A x2, other side, B"),
        ("group 1: A x2\ngroup 2, after 8: A\nall: B", "more", 1, 1, "group 1: A x2\ngroup 2, after 8: A x2\nall: B"),
        ("A x2\nmeant: walls, so it is\nB", "more", 1, 1, "A x2\nmeant: walls, so it is\nB x2"),
    )
    def test_in_place(self, text: str, what: str, index: int, value: object, made: str) -> None:
        items = read_combo(["" if line.startswith("meant") else line for line in text.split("\n")], NAMES)[0]
        self.assertEqual(edits.edited(text, items, wish(items, what, index, value), NAMES), made)

    @cases(
        ("A", "more", 0, -1, "A is danced once: it cannot be danced 0 times."),
        ("A x64", "more", 0, 1, "A is danced 64 times: it cannot be danced 65 times."),
        ("A, B", "move", 1, 1, "B is the last already."),
        ("group 1: A\ngroup 2: B", "move", 1, -1, "B is the first already."),
        (
            "(A, B) x2  # both",
            "side",
            3,
            None,
            "Its notes, lines of hands or sections would be lost: change the words themselves.",
        ),
    )
    def test_what_cannot_be(self, text: str, what: str, index: int, value: object, said: str) -> None:
        with self.assertRaises(edits.ComboEditError) as fault:
            done(text, what, index, value)
        self.assertEqual(str(fault.exception), said)

    @cases(
        ("group 1: A x2\ngroup 2, after 8: A, B\nall: B",),
        ("group 1: A\ngroup 2, together: B",),
        ("B, A x3\nBreak, last time ends: & touch",),
    )
    def test_groups_and_lines_written_anew(self, text: str) -> None:
        self.assertEqual(edits.combo_text(read(text)), text)

    def test_several_put_in_at_once(self) -> None:
        items = read("A, B")
        wanted = edits.put_after(edits.put_after(items, 0, ComboItem("Break")), 1, ComboItem("A", 2))
        self.assertEqual(edits.edited("A, B", items, wanted, NAMES), "A, Break, A x2, B")
        first = [ComboItem("Break"), *items]
        self.assertEqual(edits.edited("A, B", items, first, NAMES), "Break, A, B")

    def test_written_anew(self) -> None:
        text = "A x2, other side, turn 1 1/4 left, ends: 7 touch  8 hold, 1st time ends: & step\nB, right"
        self.assertEqual(edits.combo_text(read(text)), text)


class PropertyTest(unittest.TestCase):
    """Two hundred random combos, each changed in six random ways, one after another."""

    def test_reads_back(self) -> None:
        chance = random.Random(5)
        for _ in range(200):
            text = _combo(chance)
            for _ in range(6):
                items = read(text)
                if not items:
                    break
                what, index = (
                    chance.choice(["more", "side", "move", "turn", "ends", "put", "leave"]),
                    chance.randrange(len(items)),
                )
                value = {
                    "more": chance.choice([1, -1]), "move": chance.choice([1, -1]), "put": chance.choice(NAMES),
                    "turn": chance.choice(["1/4", "-1/2", "5/4"]), "ends": chance.choice(["& touch", "8 hold"]),
                }.get(what)  # fmt: skip
                try:
                    wanted = wish(items, what, index, value)
                except edits.ComboEditError:
                    continue
                try:
                    after = edits.edited(text, items, wanted, NAMES)
                except edits.ComboEditError as fault:
                    # What would have to be written out keeps its line of hands.
                    self.assertTrue("hands" in text and "would be lost" in str(fault), (text, fault))
                    continue
                self.assertEqual(edits.meaning(read(after)), edits.meaning(wanted), (text, what, index, value, after))
                text = after


def _combo(chance: random.Random) -> str:
    def one() -> str:
        said = chance.choice([*NAMES, "[step, hold]", "[hold for 2 counts]"])
        said = chance.choice([said, f"{said} x{chance.randint(2, 5)}", f"2x {said}", f"{said} twice"])
        tails = chance.sample(
            [", other side", ", turn 1/4 right", ", ends: & touch", ", last time ends: 8 hold", ""],
            chance.randint(0, 2),
        )
        return said + "".join(tails)

    def line() -> str:
        said = chance.choice([", ", ",  "]).join(one() for _ in range(chance.randint(1, 3)))
        return f"({said}) x2" if chance.random() < 0.15 and "ends" not in said else said

    lines = [line() for _ in range(chance.randint(1, 3))]
    if chance.random() < 0.2:
        lines = [f"group 1: {lines[0]}", f"group 2, after 8: {line()}", f"all: {line()}"]
    elif chance.random() < 0.2:
        follow = chance.choice(["follow: mirrored", "follow, after 2: the same feet", f"follow: {line()}"])
        lines = [f"lead: {lines[0]}", follow, f"all: {line()}"]
    if chance.random() < 0.1:
        lines.insert(chance.randrange(len(lines)), "hands, every 4: 2 clap 4 clap")
    return "\n".join(lines)


if __name__ == "__main__":
    unittest.main()
