"""What a style asks for: each check where the fault is planted and where there is none; limits and whose they are."""

import unittest

import msgspec

from firn.core.reading.finding import Finding
from firn.core.reading.read import check_part
from firn.core.reading.sentences import sentence
from firn.core.reading.style import Asked, Style, shipped_styles, style_fault, style_of
from firn.core.script.changes import changed_text
from firn.core.steps.shelf import TRADITIONS
from tests.support import cases, part

CODES = ("leaves_floor", "accent_elsewhere", "closing_soft", "not_equal", "pulse_held", "pulse_other", "too_even",
         "too_syncopated")  # fmt: skip
HOLDS = "1 step  2 hold  3 step  4 step"


def told(body: str, style: Style, **head: str) -> dict[str, Finding]:
    return {f.code: f for f in check_part(part(body, **head), Asked(style)) if f.code in CODES}


class StyleTest(unittest.TestCase):
    def test_one_sheet_for_each_tradition(self) -> None:
        self.assertEqual(list(shipped_styles()), list(TRADITIONS))
        self.assertEqual({style_fault(s) for s in shipped_styles().values()}, {""})
        self.assertEqual(style_of("flatfoot", {"flatfoot": Style()}), Style())
        self.assertFalse(style_of("flatfoot").airborne)

    # In flatfoot all sounds are about equally loud; swing leans on the even counts, stamping dances on the closing
    # stamps (common practice, no source).
    @cases(
        ("leaves_floor", Style(airborne=False), "1 step  2 hop", "1 step  2 heel", "hop on 2 leaves the floor:"),
        ("leaves_floor", Style(airborne=False), "1 hop  2 hop", "danced: seated\n1 hop  2 hop", "(and 1 more)"),
        ("not_equal", Style(equal=True), "1 step!  2 step", "1 step  2 step", "step on 1 is louder:"),
        ("accent_elsewhere", Style(accents="even"), "1 step!  2 step!", "1 step  2 step!", "step on 1"),
        ("accent_elsewhere", Style(accents="odd"), "1 step!  2 step!", "1 step!  2 step", "step on 2"),
        ("accent_elsewhere", Style(accents="even"), "2 step  & step!", "1 step  2 step", "on & after 2"),
        ("closing_soft", Style(accents="closing"), "1 step  2 step", "1 step  2 stamp", "step on 2"),
        ("pulse_held", Style(pulse="down on the count"), HOLDS, "1 step  2 step", "The hold on 2"),
        ("pulse_other", Style(pulse="down on the &"), f"{HOLDS}\npulse: down on the count",
         f"{HOLDS}\npulse: down on the &", "not as in tap: down on the &"),
        ("pulse_other", Style(pulse="down on the &"), f"{HOLDS}\npulse: up on the &", f"{HOLDS}\npulse: on the &",
         ""),
        ("too_even", Style(least_hanging=1), HOLDS, "1 step  & step  2 hold  3 step  4 step", "hangs over by 0"),
        ("too_syncopated", Style(most_hanging=0), "1 step  & step  2 hold  3 step  4 step", HOLDS,
         "by 1: tap wants 0"),
    )  # fmt: skip
    def test_planted_and_not(self, code: str, style: Style, faulty: str, sound: str, said: str) -> None:
        found = told(faulty, style)
        self.assertIn(code, found)
        self.assertIn(said, sentence(found[code]))
        self.assertNotIn(code, told(sound, style))

    def test_nothing_is_asked_of_a_plain_style(self) -> None:
        self.assertEqual(told("1 step!  2 hop  3 hold  4 step", Style()), {})

    def test_the_pulse_is_written_by_its_mend(self) -> None:
        one = part(HOLDS)
        style = Style(pulse="up on the &")
        mend = next(m for f in check_part(one, Asked(style)) for m in f.mends if m.code == "write_pulse")
        text = changed_text(one.script.text, mend.changes)
        self.assertEqual(text, f"{HOLDS}\npulse: up on the &")
        self.assertEqual(told(text, style), {})

    def test_checks_that_are_left_out(self) -> None:
        one = part("1 step  2 step  3 step")
        codes = {f.code for f in check_part(one, Asked(Style(off=("off_phrase",))))}
        self.assertIn("off_phrase", {f.code for f in check_part(one)})
        self.assertNotIn("off_phrase", codes)

    @cases(
        (Style(least_hanging=3, most_hanging=1), "the least is above the most"),
        (Style(any_ms=300, same_foot_ms=200), "one foot cannot be"),
        (Style(equal=True, accents="even"), "contradict each other"),
        (Style(), ""),
    )
    def test_what_contradicts_itself(self, style: Style, said: str) -> None:
        self.assertIn(said, style_fault(style))
        self.assertEqual(bool(said), bool(style_fault(style)))


class SheetTest(unittest.TestCase):
    def test_what_is_no_sheet_is_refused(self) -> None:
        for table in ({"any_ms": 5}, {"accents": "everywhere"}, {"nothing": 1}, {"most_hanging": -1}):
            with self.subTest(table=table), self.assertRaises(msgspec.ValidationError):
                msgspec.convert(table, Style)


class WhoseLimitsTest(unittest.TestCase):
    def said(self, body: str, asked: Asked, **head: str) -> dict[str, str]:
        return {f.code: sentence(f) for f in check_part(part(body, **head), asked)}

    def test_the_log_comes_first(self) -> None:
        clean = Asked(clean=(("right", 112.0), ("left", 104.0)))
        slow = self.said("1 step  2 R step", clean, tempo="100")
        self.assertEqual(slow["limits"], "Counts a minute: clean so far at right 112, left 104 (the log).")
        self.assertNotIn("own_limit", slow)
        fast = self.said("1 step  2 step", clean, tempo="120")
        self.assertEqual(
            fast["own_limit"], "At 120 it has not been clean yet: the fastest in the log is right 112, left 104."
        )

        one_side = self.said("1 step  2 step", clean, tempo="110")["own_limit"]
        self.assertIn("not been clean yet on the left: the fastest in the log is right 112, left 104.", one_side)

    def test_then_the_cards(self) -> None:
        told = self.said("1 redoble", Asked(), tempo="120", tradition="folk stamping")
        self.assertEqual(told["limits"], "Counts a minute: from 60 up (the cards); up to 160 (the cards).")
        fast = self.said("1 redoble", Asked(), tempo="180", tradition="folk stamping")
        self.assertIn("too_fast", fast)
        self.assertEqual(fast["limits"], "Counts a minute: from 60 up (the cards).")

    def test_then_common_practice_by_the_style(self) -> None:
        told = self.said("1 step  2 step", Asked(Style(any_ms=50)), tempo="100")
        self.assertIn("two sounds come within 50 ms at 1200 (common practice)", told["limits"])


if __name__ == "__main__":
    unittest.main()
