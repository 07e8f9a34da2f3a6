"""What a line holds is told once, and to look only for that leaves nothing out."""

import sys
import unittest
from collections.abc import Sequence
from contextlib import ExitStack
from unittest.mock import patch

from benchmarks import spoken

from firn.core.script import tree, words
from firn.core.script.choices import PLAIN
from firn.core.script.tree import Node, parse_line, said_in
from firn.core.steps.shelf import shipped

EVERY = 5
"""Of so many lines one is looked through by all."""


class _All(frozenset[str]):
    """As if a line held everything."""

    def isdisjoint(self, other: object) -> bool:
        return False

    def __contains__(self, other: object) -> bool:
        return True


def _looked_through(nodes: Sequence[Node]) -> frozenset[str]:
    return _All() if nodes else frozenset()


class ToldOnce(unittest.TestCase):
    def test_what_a_line_holds(self) -> None:
        for line, held in (
            ("1 Step & clap", {"step", "clap", "<&>"}),
            ("flap x4, (stamp)", {"flap", "<times>", "<pause>", "<group>"}),
            ("1 toe-heel a 2 - step", {"toe-heel", "<->", "<a>", "<other>", "step"}),
            ("step + clap 1/4 left!", {"step", "<join>", "clap", "<fraction>", "left", "<mark>"}),
            ("", set[str]()),
        ):
            with self.subTest(line):
                self.assertEqual(said_in(parse_line(line)[0]), held)

    def test_other_tokens_are_asked_anew(self) -> None:
        nodes = list(parse_line("1 step")[0])
        self.assertEqual(said_in(nodes), {"step"})
        self.assertEqual(said_in([*nodes, *parse_line("clap")[0]]), {"step", "clap"})

    def test_nothing_is_left_out(self) -> None:
        # Each room looks only for what a line holds: with all of them looking it reads the same.
        rooms = [
            room for name, room in sys.modules.items()
            if name.startswith("firn.core.script.") and hasattr(room, "said_in") and room is not tree
            # There the words say which way is gone.
            and not name.endswith(".reworded")
        ]  # fmt: skip
        self.assertGreater(len(rooms), 15)
        lines = [(line.tradition, one) for name in spoken.SETS for line in spoken.lines(name)
                 for one in line.said.split("\n")][::EVERY]  # fmt: skip
        spared = [_read(*line) for line in lines]
        with ExitStack() as patched:
            for room in rooms:
                patched.enter_context(patch.object(room, "said_in", _looked_through))
            words._counts_first.cache_clear()
            whole = [_read(*line) for line in lines]
        words._counts_first.cache_clear()
        for line, one, other in zip(lines, spared, whole, strict=True):
            with self.subTest(line):
                self.assertEqual(one, other)


def _read(tradition: str, line: str) -> words.Runs:
    return words.runs_of(parse_line(line)[0], shipped(), tradition, PLAIN, line)


if __name__ == "__main__":
    unittest.main()
