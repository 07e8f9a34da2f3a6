"""At which tempo limits are met: worked by hand; the bounds are common practice, no source."""

import unittest

from firn.core.reading.read import check_part
from firn.core.reading.sentences import sentence
from firn.core.reading.tempo import limits, room_after
from tests.support import cases, part


def told(text: str, **head: str) -> dict[str, str]:
    return {f.code: sentence(f) for f in check_part(part(text, **head))}


class LimitTest(unittest.TestCase):
    @cases(
        # 1 to 3 on the right foot: 2 counts, 200 ms at 600 a minute; 1 to 2: 1 count, 100 ms at 600.
        ("steps on every count", "1 step  2 step  3 step", {"same_foot": 600, "any": 600}),
        # Touch and step of one foot, a half apart: 200 ms at 150.
        ("the same foot on the &", "1 touch  & step  2 hold", {"same_foot": 150, "any": 300}),
        # A flap is one movement: its brush and step are no gap of the foot.
        ("a flap", "&1 flap  2 hold", {"any": 300}),
        # Picked up is no strike: from the step on 1 to the landing it is a count and three quarters.
        ("a quarter in the air", "1 step  2 pickup  a land  3 hold", {"same_foot": 525, "any": 450, "air": 150}),
    )  # fmt: skip
    def test_the_tempo_at_which_each_is_met(self, _: str, text: str, tempos: dict[str, int]) -> None:
        found = {limit.kind: round(limit.tempo) for limit in limits(part(text))}
        self.assertEqual({k: v for k, v in found.items() if k in tempos}, tempos)
        self.assertEqual(set(found) - set(tempos), set())

    def test_four_sounds_a_beat_at_180(self) -> None:
        """12 a second, 83.3 ms apart (common practice): past 100 ms, which 150 a minute keeps."""
        one = part("1e&a step x4", tempo="180")
        limit = next(n for n in limits(one) if n.kind == "any")
        self.assertAlmostEqual(limit.ms(180), 83.33, places=2)
        self.assertEqual((round(limit.tempo), limit.exceeded(180), limit.exceeded(150)), (150, True, False))

    def test_told_where_the_tempo_is_past_one(self) -> None:
        self.assertEqual(
            told("1 touch  & step  2 hold", tempo="180")["same_foot_limit"],
            "The right foot strikes again after 167 ms (1 to & after 1): most feet take 200 ms, at 150 a minute.",
        )
        self.assertNotIn("same_foot_limit", told("1 touch  & step  2 hold", tempo="120"))

    def test_too_slow_to_stay_up(self) -> None:
        """An easy hop of 0.3 s rises 11 cm: g t^2 / 8 = 9.81 * 0.09 / 8 = 0.11 m."""
        self.assertIn("in the air for 500 ms", told("1 step  2 pickup  & land", tempo="60")["air_limit"])
        self.assertNotIn("air_limit", told("1 step  2 pickup  & land", tempo="120"))
        self.assertAlmostEqual(9.81 * 0.3**2 / 8, 0.11, places=2)

    def test_the_others_are_good_to_know(self) -> None:
        self.assertEqual(
            told("1 step  2 step  3 step")["limits"],
            "Counts a minute: the same foot again takes 200 ms at 600, two sounds come within 100 ms at 600 (common "
            "practice).",
        )
        self.assertNotIn("limits", told("1 hold"))

    @cases((120, (500, True)), (300, (200, True)), (330, (182, False)))
    def test_room_for_one_more(self, tempo: int, room: tuple[int, bool]) -> None:
        found = room_after(part("1 step  2 step"), 0, tempo)
        assert found is not None
        self.assertEqual((round(found[0]), found[1]), room)

    def test_no_room_after_the_last(self) -> None:
        self.assertIsNone(room_after(part("1 step  2 kick"), 0, 120))


if __name__ == "__main__":
    unittest.main()
