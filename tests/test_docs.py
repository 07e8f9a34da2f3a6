"""The documents say what the program does: examples are run, codes and links are there."""

import re
import unittest
from pathlib import Path

from firn.core.piece.build import piece_from
from firn.core.script.problems import CODES
from firn.core.steps.card import FEET_ROLES, HAND_ROLES, KEYS
from firn.core.steps.kinds import KINDS

ROOT = Path(__file__).parents[1]
BLOCK = re.compile(r"```steps([^\n]*)\n(.*?)```", re.DOTALL)


def reading(body: str, head: list[str]) -> str:
    """What Firn reads, as the document writes it."""
    read = piece_from("\n".join([*head, "part A", body.replace(" / ", "\n")]))
    if read.problems:
        return " ".join(p.code for p in read.problems)
    return ", ".join(f"{s.say}{(s.foot or ' ')[0].upper().strip()} {s.kind}" for s in read.parts[0].sounds)


class StepsTest(unittest.TestCase):
    def test_every_kind_mark_and_key_of_a_card_is_explained(self) -> None:
        text = (ROOT / "docs/steps.md").read_text("utf-8")
        marks = (*FEET_ROLES, *HAND_ROLES[:-1], "takes", "stays", "both", "as-one", "optional", "grounded")
        for word in (
            *(f"`{m}`" for m in marks),
            *(f"`{k}`" for k in KEYS if k not in ("counts", "primitive")),
            *KINDS,
        ):
            self.assertIn(word, text)


class NotationTest(unittest.TestCase):
    def setUp(self) -> None:
        self.text = (ROOT / "docs/notation.md").read_text("utf-8")

    def test_every_example(self) -> None:
        examples = 0
        for block in BLOCK.finditer(self.text):
            head = [h.strip() for h in block[1].split(";") if h.strip()]
            for line in block[2].splitlines():
                if "=>" in line:
                    body, expected = (part.strip() for part in line.split("=>"))
                    with self.subTest(body):
                        self.assertEqual(reading(body, head), expected)
                    examples += 1
        self.assertGreater(examples, 35)

    def test_every_code_is_explained(self) -> None:
        for code in CODES:
            self.assertIn(f"| {code} |", self.text)

    def test_the_piece_in_the_document_has_no_fault(self) -> None:
        block = re.search(r"```\n(piece:.*?)```", self.text, re.DOTALL)
        assert block is not None
        self.assertEqual(piece_from(block[1]).problems, ())


class LinksTest(unittest.TestCase):
    def test_what_is_linked_is_there(self) -> None:
        for path in [ROOT / "README.md", ROOT / "CONTRIBUTING.md", *sorted((ROOT / "docs").glob("*.md"))]:
            for target in re.findall(r"\]\(([^)#]+)\)", path.read_text("utf-8")):
                self.assertTrue((path.parent / target).exists(), f"{path.name}: {target}")


if __name__ == "__main__":
    unittest.main()
