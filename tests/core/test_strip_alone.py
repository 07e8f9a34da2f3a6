"""Whole parts through the script, and through the strip alone by what its keys ask for, come to the same.

The figures are common practice, no source, but where one is named.
"""

import unittest
from fractions import Fraction

from firn.core.piece.build import part_from
from firn.core.piece.clip import copied
from firn.core.piece.piece import Part
from firn.core.piece.sound import Sound
from firn.core.script.settings import Settings, read_settings
from firn.session.by_hand import draw
from tests.support import cases, feet

_MENU = {"flat": "flat", "heel_step": "heel step", "toe_tip": "toe tip", "hand_down": "hand down"}


class Hand:
    """Writes a part by the strip's keys alone: put in, move, another kind, another foot, lean."""

    def __init__(self, settings: Settings) -> None:
        self.part = part_from("A", "", settings)
        self.at: int | None = None

    def ask(self, what: str, value: object = None) -> None:
        drawn = draw(self.part, [] if self.at is None else [self.at], what, value)
        self.part = part_from("A", drawn.text, self.part.settings)
        self.at = drawn.index

    @property
    def sound(self) -> Sound:
        assert self.at is not None
        return self.part.sounds[self.at]

    def write(self, wanted: Sound) -> None:
        """One more sound: put in after the last, or a pick-up before the first, then as it is wanted."""
        if wanted.place < 0:
            self.at = 0
        self.ask("put_in" if wanted.place >= 0 else "put_before")
        step = Fraction(1, 3 if self.part.settings.meter.compound else 2)
        while abs(self.sound.place - wanted.place) >= step:
            self.ask("move", step if wanted.place > self.sound.place else -step)
        while self.sound.place != wanted.place:
            self.ask("fine", 1 if wanted.place > self.sound.place else -1)
        self.change(wanted)

    def change(self, wanted: Sound) -> None:
        """Another kind, another foot, leaned on: whatever is not yet as it is wanted."""
        name = "stamp" if wanted.kind == "flat" and wanted.level > 0 else _MENU.get(wanted.kind, wanted.kind)
        if (self.sound.kind, self.sound.level > 0) != (wanted.kind, wanted.level > 0):
            self.ask("become", name)
        if wanted.foot in ("left", "right") and self.sound.foot != wanted.foot:
            self.ask("foot")
        if self.sound.level != wanted.level:
            self.ask("lean", 1 if wanted.level > self.sound.level else -1)


def key(part: Part) -> list[tuple[object, ...]]:
    return [(s.place, s.kind, s.foot, s.weight, s.level) for s in part.sounds]


class StripAloneTest(unittest.TestCase):
    @cases(
        ("single time steps", "tempo: 160",
         "8 stomp  1 hop  2 step  &3 flap  & step\n4 stomp  5 hop  6 step  &7 flap  & step"),
        ("double time steps", "tempo: 160",
         "8 stomp  1 hop  &2 flap  &3 flap  & step\n4 stomp  5 hop  &6 flap  &7 flap  & step"),
        ("triple time steps", "tempo: 160",
         "8 stomp  1 hop  &a2 shuffle step  &3 flap  & step\n4 stomp  5 hop  &a6 shuffle step  &7 flap  & step"),
        ("waltz clogs in 3", "meter: 3/4", "1 &2 &3 waltz clog\n4 &5 &6 waltz clog"),
        ("DS DS DS RS, a on the last sixteenth", "tradition: clogging; lone a: sixteenth",
         "&a1 DS  &a2 DS  &a3 DS  &4 RS"),
        ("DS DS DS RS, a on the last triplet", "tradition: clogging; lone a: triplet",
         "&a1 DS  &a2 DS  &a3 DS  &4 RS"),
        ("1 a 2, sixteenth", "lone a: sixteenth", "1 kick  a ball change  3 step  4 hold"),
        ("1 a 2, triplet", "lone a: triplet", "1a2 step x3  3a4 step x3"),
        ("six against eight", "tradition: swing; phrase: 8 counts",
         "1 rock step  3 triple step  5 triple step\n7 rock step  1 triple step  3 triple step"),
        ("eight-count kicking basic", "tradition: solo jazz",
         "1 step  2 step  3 kick  4 step  5 kick  6 hold  7 kick  8 step"),
        ("six-count figure", "tradition: swing; phrase: 6 counts", "1 rock step  3 triple step  5 triple step"),
        ("leaned and soft", "tempo: 120", "1 stamp  2 step!  3 step~  4 stomp"),
    )  # fmt: skip
    def test_comes_to_the_same(self, _: str, head: str, text: str) -> None:
        settings, problems = read_settings(head.split("; "))
        typed = part_from("A", text, settings)
        self.assertEqual((problems, typed.problems, typed.footing.faults), ([], (), ()))
        hand = Hand(settings)
        # A pick-up needs a 1 to lead up to; feet come last, from the first on.
        leading = [s for s in typed.sounds if s.place < 0]
        on = typed.sounds[len(leading) :]
        for sound in (on[0], *reversed(leading)):
            hand.write(sound)
        hand.at = len(leading)
        for sound in on[1:]:
            hand.write(sound)
        for index, sound in enumerate(typed.sounds):
            hand.at = index
            hand.change(sound)
        self.assertEqual(key(hand.part), key(typed))
        self.assertEqual(hand.part.problems, ())

    def test_a_slip_jig_step_of_eight_bars_right_and_left(self) -> None:
        """8 bars of 9/8 are 24 counts, 72 eighths (arithmetic); then the same 8 left (common practice, no source)."""
        settings, _ = read_settings(["tradition: step dance", "meter: 9/8", "phrase: 8 bars"])
        bars = [
            f"{c}&a step hop touch  {c + 1}&a step hop touch  {c + 2}&a step {'step' if c < 22 else 'hop'} touch"
            for c in range(1, 25, 3)
        ]
        typed = part_from("A", "  ".join(bars) + "\nother side", settings)
        self.assertEqual((typed.problems, typed.footing.faults), ((), ()))
        self.assertEqual((typed.counts, len(typed.sounds)), (48, 144))
        right, left = feet(typed)[:72], feet(typed)[72:]
        self.assertEqual(left, right.translate(str.maketrans("LR", "RL")))
        hand = Hand(settings)
        for sound in typed.sounds[:72]:
            hand.write(sound)
        # The second side is the first, copied and put in where it ends.
        text = copied(hand.part, range(72))
        drawn = draw(hand.part, [71], "put_in")
        hand.part = part_from("A", drawn.text, settings)
        hand.at = drawn.index
        hand.ask("paste", text)
        self.assertEqual(key(hand.part), key(typed))


if __name__ == "__main__":
    unittest.main()
