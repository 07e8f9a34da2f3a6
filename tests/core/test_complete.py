"""Words that complete what is typed: by any alias, the likeliest first, each with its rhythm."""

import unittest

from firn.core.script.complete import completions
from firn.core.steps.card import card_from
from firn.core.steps.shelf import Shelf, shipped
from tests.support import cases


def names(line: str, shelf: Shelf | None = None, tradition: str = "tap") -> list[str]:
    return [c.name for c in completions(line, shelf or shipped(), tradition)]


class CompleteTest(unittest.TestCase):
    @cases(
        ("the beginning of a name", "8 stomp  1 fla", "flap", 11),
        ("words before the caret belong to it", "1 shuffle b", "shuffle ball change", 2),
        ("an alias", "1 iris", "irish", 2),
        ("a word inside a name", "1 step &2 grab", "shuffle grab-off", 10),
        ("another alphabet", "1 tacó", "tacón", 2),
        ("after a step that is known", "1 step heel ste", "heel step", 7),
    )
    def test_first(self, _: str, line: str, name: str, column: int) -> None:
        offered = completions(line, shipped(), "tap")
        self.assertIn((name, column), [(c.name, c.column) for c in offered])

    @cases(("one letter", "1 f"), ("counts", "1 2 &"), ("a note", "1 step # fla"), ("nothing so", "1 xqz"),
           ("a word that is done", "1 step "), ("nothing", ""))  # fmt: skip
    def test_nothing(self, _: str, line: str) -> None:
        self.assertEqual(names(line), [])

    def test_each_card_once_and_its_own_name_first(self) -> None:
        offered = completions("1 shu", shipped(), "tap")
        self.assertEqual(offered[0].name, "shuffle")
        self.assertEqual(len({c.card.name for c in offered}), len(offered))

    def test_what_is_used_already_comes_first(self) -> None:
        stomp = shipped().find("stomp", "clogging")
        assert stomp is not None
        first = [completions("st", shipped(), "clogging", used)[0].name for used in ((), (stomp,))]
        self.assertEqual(first, ["step", "stomp"])

    def test_rhythm(self) -> None:
        offered = {c.name: c.rhythm for c in completions("1 fla", shipped(), "tap")}
        self.assertEqual(offered["flap"], "&1   brush, step")
        self.assertEqual({c.name: c.rhythm for c in completions("roc", shipped(), "swing")}["rock step"],
                         "1 2   step, step")  # fmt: skip

    def test_the_traditions_words_and_her_own_come_first(self) -> None:
        own = card_from({"name": "flapdoodle", "sounds": ["step A"]})
        self.assertEqual(names("fla", Shelf.of(shipped().cards, own=[own]))[0], "flapdoodle")
        self.assertEqual(names("dou", tradition="clogging")[:2], ["double toe", "double step"])


if __name__ == "__main__":
    unittest.main()
