"""How one time of a drill went, by what a microphone hears of it; feet and rooms of a second synthesiser."""

import unittest
from fractions import Fraction

import numpy as np
from msgspec.structs import replace
from scipy.signal import resample_poly

from firn.core.book.book import BookPart, BookPiece
from firn.core.drills.stage import COMBO, Stage
from firn.core.meter.count_in import CountIn
from firn.core.meter.counting import Counting
from firn.core.sound.voices import RATE as MADE_HZ
from firn.core.steps.shelf import shipped
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.timeline import Section
from firn.session.along import ALOUD, NOT_WHOLE, Due, due_in, heard_how, part_heard
from firn.session.drilling import planned
from tests import shoes
from tests.support import cases, part

RATE = shoes.RATE
TEMPO, LATE_S, LED = 120.0, 0.09, 4
PART = part("1 step  & step  2 step  3 stamp  & step  4 step  6 step  & step  7 step  8 stamp")
BEAT_S = 60 / TEMPO


def recorded(
    *, late_s: dict[int, float] | None = None, missing: tuple[int, ...] = (), aloud_db: float | None = None,
    stepped: bool = False, shift_s: float = 0.0,
) -> tuple[np.ndarray, Due]:  # fmt: skip
    """A time through PART: some sounds late or missing, Firn's counts and beats so far under the feet, feet that step
    along to the count-in."""
    rng = np.random.default_rng(8)
    begins = 0.3 + LED * BEAT_S
    placed = [
        (
            begins + LATE_S + shift_s + float(s.position - PART.first_count) * BEAT_S + (late_s or {}).get(n, 0.0),
            "ball",
        )
        for n, s in enumerate(PART.sounds)
        if s.heard and n not in missing
    ]
    if stepped:
        placed += [(0.3 + n * BEAT_S + LATE_S, "flat") for n in range(LED)]
    placed.sort()
    seconds = begins + 8 * BEAT_S + 1
    worn = shoes.shoe(rng, kind="leather")
    audio, _ = shoes.laid(placed, worn, shoes.floor(rng), rng, soft_db=4, seconds=seconds)
    mixing = Mixing(tempo=TEMPO, count_in=CountIn(), steps=False, counts=False, led_in=True)
    due = due_in(Section((), Counting(), Fraction(0), Fraction(8), mixing), 0.3)
    due = due._replace(played=resample_poly(due.played, RATE, MADE_HZ))
    if aloud_db is not None:
        first = round(LATE_S * RATE)
        piece = due.played[: len(audio) - first] / np.abs(due.played).max() * 0.4 * 10 ** (-aloud_db / 20)
        audio[first : first + len(piece)] += piece
    return shoes.hiss(shoes.in_room(audio, 3, 0.3), rng), due


class HeardTest(unittest.TestCase):
    @cases(
        ("clean, over headphones", {}, "clean"),
        ("clean, Firn's beats aloud", {"aloud_db": 6}, "clean"),
        ("one late", {"late_s": {6: 0.075}}, "slip"),
        ("one late, beats aloud", {"late_s": {6: 0.075}, "aloud_db": 6}, "slip"),
        ("one missing between beats", {"missing": (1,)}, "slip"),
        ("on a beat that is as loud, it may have been danced", {"missing": (2,), "aloud_db": 4}, ""),
        ("stepped along to the count-in", {"stepped": True}, "clean"),
        ("a count and a half late", {"shift_s": 1.5 * BEAT_S}, ""),
        ("most missing", {"missing": (1, 2, 4, 5, 6, 8)}, ""),
        ("nothing", {"missing": tuple(range(10))}, ""),
    )
    def test_how_it_went(self, _: str, made: dict, how: str) -> None:
        audio, due = recorded(**made)
        heard = heard_how(PART, TEMPO, audio, RATE, due)
        self.assertEqual(heard.how, how, heard.said)

    def test_steps_that_are_played_aloud_are_not_hers(self) -> None:
        audio, due = recorded(aloud_db=6)
        self.assertEqual(heard_how(PART, TEMPO, audio, RATE, due, model=True).said, ALOUD)
        audio, due = recorded()
        self.assertEqual(heard_how(PART, TEMPO, audio, RATE, due, model=True).how, "clean")


class DueTest(unittest.TestCase):
    def test_of_a_section(self) -> None:
        mixing = Mixing(tempo=60.0, count_in=CountIn(), steps=False, led_in=True, rest=2)
        due = due_in(Section((), Counting(), Fraction(0), Fraction(4), mixing), 10.0)
        self.assertEqual(due.begins_s, 14.0)
        self.assertEqual(due.sounds_s, [10.0, 11.0, 12.0, 13.0, 14.0, 15.0, 16.0, 17.0, 18.0, 19.0])
        loud = np.abs(due.played)
        self.assertEqual(loud[: 10 * MADE_HZ - 1].max(), 0.0)
        self.assertGreater(loud[14 * MADE_HZ : 14 * MADE_HZ + 400].max(), 0.1)


class WhichTest(unittest.TestCase):
    SHELF = shipped()
    PIECE = BookPiece("p", "piece: Lantern", (BookPart("a", "A", "1 step 2 step 3 step 4 step"),))

    @cases(
        ("all of a part", {}, ""),
        ("some counts", {"span": (0, 2)}, NOT_WHOLE),
        ("its first sounds", {"sounds": 2}, NOT_WHOLE),
        ("the combo", {"parts": (COMBO,)}, NOT_WHOLE),
        ("on a chair", {"kind": "seated"}, NOT_WHOLE),
        ("counts only", {"heard": "count_only"}, "Not listened to: nothing is danced."),
    )
    def test_what_is_listened_to(self, _: str, changes: dict, why: str) -> None:
        stage = replace(Stage("click", ("a",), None, 80, 80, heard="click"), **changes)
        one = planned(self.PIECE, stage, self.SHELF)
        found = part_heard(self.PIECE, one, self.SHELF)
        self.assertEqual(found if isinstance(found, str) else "", why)


if __name__ == "__main__":
    unittest.main()
