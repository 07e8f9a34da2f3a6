"""The documents say what the program does: examples are run, codes and links are there."""

import re
import unittest
from pathlib import Path

from firn.core.piece.build import piece_from
from firn.core.piece.piece import Part
from firn.core.piece.unfold import unfold
from firn.core.script.problems import CODES
from firn.core.script.turns import turn_text
from firn.core.steps.card import FEET_ROLES, HAND_ROLES, KEYS
from firn.core.steps.kinds import KINDS

ROOT = Path(__file__).parents[1]
BLOCK = re.compile(r"```steps([^\n]*)\n(.*?)```", re.DOTALL)


def reading(body: str, head: list[str]) -> str:
    """What Firn reads, as the document writes it."""
    read = piece_from("\n".join([*head, "part A", body.replace(" / ", "\n")]))
    if read.problems:
        return " ".join(p.code for p in read.problems)
    part = read.parts[0]
    sounds = [f"{s.say}{(s.hand if s.layer else s.foot)[:1].upper()} {s.kind}" for s in part.sounds]
    return "; ".join([", ".join(sounds), *beside(part)])


def beside(part: Part) -> list[str]:
    """What a part's layers say, as the document writes it."""
    counting, layers = part.settings.counting, part.layers
    said = [f"{c.layer} {counting.say(c.given)} {c.text}" for c in layers.cues]
    if layers.pulse is not None:
        one, pulses = layers.pulse, []
        while one is not None:
            pulses.append(" ".join(w for w in (one.way, *(counting.say(p) for p in one.places)) if w))
            one = one.then
        said.append(f"pulse {', '.join(pulses)}")
    voiced = [s.kind for s in part.sounds if s.voiced]
    said += [f"scat {' '.join(t or '-' for t in part.syllables.values())}"] if part.syllables else []
    said += [f"voiced {', '.join(voiced)}"] if voiced else []
    said += [f"length {layers.length}"] if layers.length else []
    said += [f"meter {layers.meter}"] if layers.meter else []
    said += [f"phrase {layers.phrase}"] if layers.phrase else []
    said += [f"meant {name}" for name, _ in layers.meant]
    return [*said, *([f"note {layers.note}"] if layers.note else []), *(["seated"] if part.seated else [])]


def danced(body: str, parts: list[str]) -> str:
    """What a combo comes to: every time of every part with the foot that it begins on, and the turn in it."""
    texts = [p.split("=", 1) for p in parts]
    lines = [*(f"part {name.strip()}\n{text}" for name, text in texts), "combo", body.replace(" / ", "\n")]
    read = piece_from("\n".join(lines))
    if read.problems:
        return " ".join(p.code for p in read.problems)
    times = []
    for one in unfold(read).passes:
        first = next(s.foot for s in one.sounds if s.foot)
        last = one.sounds[-1].kind
        turn = f" {turn_text(one.turn)}" if one.turn else ""
        times.append(f"{one.part.name} {first[0].upper()} {last}{turn}")
    return ", ".join(times)


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

    def test_every_combo(self) -> None:
        examples = 0
        for block in re.finditer(r"```combo([^\n]*)\n(.*?)```", self.text, re.DOTALL):
            parts = [p for p in block[1].split(";") if p.strip()]
            for line in block[2].splitlines():
                body, expected = (part.strip() for part in line.split("=>"))
                with self.subTest(body):
                    self.assertEqual(danced(body, parts), expected)
                examples += 1
        self.assertGreater(examples, 10)

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
