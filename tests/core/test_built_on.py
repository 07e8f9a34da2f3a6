"""A long part that is built on the one before it, a change in it at a time, is as one that is built anew."""

import random
import unittest

from firn.core.footing import footing
from firn.core.piece import build, built, sided
from firn.core.piece.piece import Part
from firn.core.reading import syncopation
from firn.core.script import reader, rows, stacked
from firn.core.script.reader import read_part
from firn.core.script.settings import Settings
from firn.session import stretch
from tests.support import cases

LINES = (
    "1 step  2 flap  & step  3 step  4 flap  & step  5 step  6 flap  & step  7 step  8 stamp",
    "1 paradiddle  2 step  &3 flap  4 step  &5 flap  6 stomp  7 stamp  & step  8 step",
    "1 jump  2 step  &a3 shuffle step  4 clap  5-6 hold  7 L step  8 R step",
    "1 pickup & land 2 step 3 heel 4 dig & toe",
)
TYPED = (
    "  8 step",
    "L ",
    " 2 heel",
    "x2",
    "\n1 step 2 touch",
    "  & stomp",
    "!",
    " 1 stepp",
    "\nother side",
    "\nother side x3",
    "\n1 R step 2 R step 3 step",
    "\n8\n",
    "\nsame but 1 stamp",
    "\n1 heel toe heel toe",
    "\nhands: 2 4 clap",
)


KEPT = ((built, "_built"), (sided, "_last"), (footing, "_danced"), (footing, "_tried"), (rows, "_read"),
        (stacked, "_last"), (stretch, "_shown"), (syncopation, "_hung"))  # fmt: skip
"""What is kept of what was read and built before."""


def anew(text: str, settings: Settings) -> tuple[Part, stretch.Stretch]:
    """A part with nothing that was read or built before it, and how it shows; what was kept stays."""
    kept = [getattr(module, name) for module, name in KEPT]
    built._built, sided._last, footing._danced, rows._read, stacked._last = (), (), {}, (), ()
    footing._tried = stretch._shown = syncopation._hung = None
    for known in (reader._read_part, build.build_part, footing.foot, syncopation._part_hangs):
        known.cache_clear()
    part = build.build_part(read_part("A", text, settings), settings)
    shown = stretch.part_stretch(part)
    for (module, name), value in zip(KEPT, kept, strict=True):
        setattr(module, name, value)
    return part, shown


class BuiltOnTest(unittest.TestCase):
    @cases(
        ("straight", Settings(phrase=8)), ("left", Settings(phrase=8, lead="left")), ("swung", Settings(feel="swing"))
    )
    def test_as_anew(self, _: str, settings: Settings) -> None:
        rng = random.Random(11)
        text = "\n".join(rng.choice(LINES[:3]) for _ in range(20))
        taken = read = faults = 0
        for number in range(40):
            at = rng.choice((len(text), rng.randrange(len(text) * 3 // 4, len(text)), rng.randrange(len(text))))
            if rng.random() < 0.7:
                # Words of hands come between those of the steps: nothing is taken over from there on.
                text = text[:at] + rng.choice(TYPED if number > 30 else TYPED[:-1]) + text[at:]
            else:
                text = text[:at] + text[at + rng.randrange(1, 12) :]
            if rng.random() < 0.5:
                # For the while, as a key does: nothing of it stays.
                build.build_part(read_part("A", text, settings, quick=True), settings)
            script = read_part("A", text, settings)
            taken += built.taken_over(script.uses)[2] > 0
            read += len(rows._read) > 1 and rows._read[0].left[:1] == rows._read[1].left[:1]
            one = build.build_part(script, settings)
            shown = stretch.part_stretch(one)
            other, other_shown = anew(text, settings)
            self.assertEqual(shown, other_shown)
            self.assertEqual((one.sounds, one.steps, one.order), (other.sounds, other.steps, other.order))
            self.assertEqual((one.problems, one.script.unknown), (other.problems, other.script.unknown))
            self.assertEqual(one.script.doubts, other.script.doubts)
            self.assertEqual(one.footing, other.footing)
            faults += len(one.footing.faults)
        self.assertGreater(taken, 10)
        self.assertGreater(read, 10)
        self.assertGreater(faults, 10)

    def test_quickly_read_like_it_was(self) -> None:
        """A line that is typed in keeps how it was believed, and its doubts, until nothing is typed for a moment."""
        settings, above = Settings(phrase=8), [LINES[0]] * 30
        said = "1 stomp 2 hop 3 step x4"
        before = read_part("A", "\n".join([*above, said]), settings)
        typed = "\n".join([*above, f"{said}  7 stamp"])
        quick, whole = (read_part("A", typed, settings, quick=quick) for quick in (True, False))
        self.assertEqual(quick.doubts, before.doubts)
        self.assertTrue(before.doubts)
        self.assertEqual([str(use.word.text) for use in quick.uses][-1], "stamp")
        self.assertEqual(whole.uses, anew(typed, settings)[0].uses)

    def test_another_meter_or_hand_is_another_part(self) -> None:
        text = "\n".join(LINES[:3] * 10)
        for settings in (Settings(phrase=8), Settings(phrase=8, feel="swing"), Settings(phrase=8, handed="left")):
            one = build.build_part(read_part("A", text, settings), settings)
            self.assertEqual(one.sounds, anew(text, settings)[0].sounds)


if __name__ == "__main__":
    unittest.main()
