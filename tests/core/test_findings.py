"""Every finding once where its fault is planted, and once where it is not."""

import unittest
from typing import get_args

from hypothesis import given
from hypothesis import strategies as st

from firn.core.piece.build import part_from, piece_from
from firn.core.reading.finding import Finding
from firn.core.reading.kinds import KINDS
from firn.core.reading.profile import OVERS
from firn.core.reading.read import check, check_combo, check_part
from firn.core.reading.retimed import delayed, pushed, straightened
from firn.core.reading.rounds import RoundKind, groups, rounds
from firn.core.reading.sentences import sentence
from firn.core.reading.style import Asked, Style, shipped_styles, style_of
from firn.core.script.changes import changed_text
from firn.core.script.settings import Settings
from firn.errors import FirnError
from firn.session.beside import laid_beside
from firn.session.reading import compared, rows, sound_said
from firn.session.rhythm import groups_said, pace_said, rounds_said, said_aloud, used_said
from firn.session.stretch import part_stretch
from tests.support import cases

EIGHT = "  ".join(f"{n + 1} step" for n in range(8))
SEVEN = "  ".join(f"{n + 1} step" for n in range(7))
HANGS = "1 step  & step  2 hold  3 step  4 step"
QUICK = "1 step  2 step  3 step  4 step"


def combo(text: str, *parts: str) -> str:
    """A piece of parts A, B … and a combo."""
    lines = [f"part {name}\n{body}" for name, body in zip("ABC", parts, strict=False)]
    return "\n".join([*lines, "combo", text])


def tuned(tempo: int, body: str) -> str:
    """A combo of one part over a tune at a tempo; the piece itself is at 120."""
    return f"tradition: folk stamping\ntune: Mill Race: AABB 8, at {tempo}\n{combo('A', body)}"


# Code, a text with the fault, one without; then what is asked, and the tempo, where these matter.
PLANTED = (
    ("carries", "1 R step  2 R step", "1 R step  2 L step"),
    ("already_down", "1 stamp  & heel  2 step", "1 step  & heel  2 step"),
    ("not_ready", "1 step  2 toe", "1 dig  2 toe"),
    ("in_the_air", "1 step  2 pickup", "1 step  2 pickup  3 land"),
    ("not_carrying", "1 step  2 L hop", "1 R step  2 R hop"),
    ("not_picked_up", "1 land", "1 step  2 pickup  3 land"),
    ("already_carries", "1 step  2 R shift", "1 step  2 L touch  3 L shift"),
    ("foot_up", "1 stomp  2 shift", "1 touch  2 shift"),
    ("doubt", "dig spank heel toe heel", "1 dig  2 spank  3 step  4 heel"),
    ("squeezed", "1 step  & ball change  2 step", "1 step  & ball change  3 step"),
    ("awkward", "1 R step  2 L touch  3 L heel  4 R step", "1 R step  2 L step  3 L heel  4 R step"),
    ("empty_count", "1 step  3 step", "1 step  2 hold  3 step"),
    ("claim", "1 step  2 step\nlength: 4 counts", "1 step  2 step\nlength: 2 counts"),
    ("claimed", "1 step  2 touch\nclaims: touches on odd", "1 touch  2 step\nclaims: touches on odd"),
    ("odd_line", "\n".join([EIGHT, EIGHT, SEVEN, f"8 step  {SEVEN}"]), "\n".join([EIGHT] * 4)),
    ("shifted_line", f"{QUICK}\n& step  & step  & step  & step", f"{QUICK}\n5 step  6 step  7 step  8 step"),
    ("both_ways", "meter: 6/8\n1 step  & step  a step  2 step", QUICK),
    ("in_pairs", "meter: 3/4\n1 step  2 step  3 step  4 step  5 step  6 step", "meter: 3/4\n1 step  2 step  3 step"),
    ("not_meant", "1 step\nmeant: odd line", "1 step"),
    ("syllables", "1 step  2 step\nscat: da", "1 step  2 step\nscat: da doo"),
    ("cue_outside", "1 step\narms: 3 up", "1 step\narms: 1 up"),
    ("hand_twice", "1 step\nright hand: 1 snap\nhands: 1 clap", "1 step\nright hand: 1 snap\nleft hand: 1 snap"),
    ("hand_and_leg", "1 step  2 R kick\nright hand: 2 hand down", "1 step  2 R kick\nleft hand: 2 hand down"),
    ("fills", EIGHT, SEVEN),
    ("fills_part", QUICK, SEVEN),
    ("off_phrase", SEVEN, EIGHT),
    ("again_same", "1 step  2 step", "1 step"),
    ("again_other", "1 step", "1 step  2 step"),
    ("again_either", "1 jump", "1 step"),
    ("again_neither", "1 step  2 R toe", "1 step  2 step"),
    ("not_syncopated", QUICK, HANGS),
    ("syncopated", HANGS, QUICK),
    ("thick", QUICK, "1 step"),
    ("thick_no_foot", "1 clap  2 clap", QUICK),
    ("same_foot_limit", "1 R step  & R hop  2 L step", QUICK, None, "200"),
    ("air_limit", "1 step  2 pickup  4 land", "1 step  2 pickup  & land", None, "120"),
    ("limits", QUICK, "1 hold"),
    ("too_slow", "1 wing", QUICK, None, "60"),
    ("too_fast", "1 redoble", QUICK, None, "240"),
    ("turns", "1 step 1/4 right", "1 step"),
    ("turns_front", "1 step 1/4 right  2 step 1/4 left", "1 step 1/4 right"),
    ("travel", "1 step\nmoves: 1 forward", "1 step\nmoves: 1 look"),
    ("silent_shift", "1 step  2 shift  3 step", "1 step  2 step  3 step"),
    ("stance", "1 mambo break  &5 buck walk", "&1 buck walk  &2 buck walk"),
    ("leaves_floor", "1 step  2 hop", "1 step  2 heel", Asked(Style(airborne=False))),
    ("accent_elsewhere", "1 step!", "2 step!", Asked(Style(accents="even"))),
    ("closing_soft", "1 step", "1 stamp", Asked(Style(accents="closing"))),
    ("not_equal", "1 step!", "1 step", Asked(Style(equal=True))),
    ("pulse_held", "1 step  2 hold", "1 step", Asked(Style(pulse="down on the count"))),
    ("pulse_other", "1 step\npulse: down on the &", "1 step\npulse: down on the count",
     Asked(Style(pulse="down on the count"))),
    ("too_even", QUICK, HANGS, Asked(Style(least_hanging=1))),
    ("too_syncopated", HANGS, QUICK, Asked(Style(most_hanging=0))),
    ("walls", combo("A, turn 1/4 right", EIGHT), combo("A, turn 1/4 right\nA, turn 1/4 left", EIGHT)),
    ("walls_front", combo("A, turn 1/4 right\nA, turn 1/4 left", EIGHT), combo("A, turn 1/4 right", EIGHT)),
    ("senses", combo("A, turn 1/4 right\nA, turn 1/4 left", EIGHT), combo("A x2, turn 1/2 right", EIGHT)),
    ("join", combo("A, B right", "1 step  2 touch", "1 stamp"), combo("A, B", "1 step  2 touch", "1 stamp")),
    ("join_counts", combo("A, B", "8 step  1-7 hold", EIGHT), combo("A, B", "8 step  1-8 hold", EIGHT)),
    ("join_stance", combo("A, B", "1 mambo break", "&1 buck walk"), combo("B, B", EIGHT, "&1 buck walk")),
    ("between", combo("A, [zzqx], A", QUICK), combo("A, [clap], A", QUICK)),
    ("over", combo("hands: 2 zzqx\nA", QUICK), combo("hands: 2 clap\nA", QUICK)),
    ("ending", combo("A, ends: 7+1/2 touch", QUICK), combo("A, ends: 4 touch", QUICK)),
    ("sung", "1 step  2 step\nscat: 1 da & da 2 dum", "1 step  & step  2 step\nscat: 1 da & da 2 dum"),
    ("ending_alike", combo("A, ends: 4 stamp", QUICK), combo("A, ends: 4 touch", QUICK)),
    ("ending_differs", combo("A, last time ends: 4 touch", QUICK), combo("A, last time ends: 4 stamp", QUICK)),
    ("ending_differs", combo("A, ends: 4 hold 5 step", QUICK), combo("A, ends: 4 stamp", QUICK)),
    ("entry", combo("A, begins: 7+1/2 step", QUICK), combo("A, begins: 2 step", QUICK)),
    ("not_meant", combo("A\nmeant: walls", EIGHT), combo("A, turn 1/4 right\nmeant: walls, the next piece", EIGHT)),
    (
        "ending_open", combo("A, ends: & touch", "1 step  & step  2 step  & step  3 step"),
        combo("A, ends: & touch", "1 step  & step  2 step  & step"),
    ),
    ("groups", combo("group 1: A\ngroup 2: A", EIGHT), combo("A", EIGHT)),
    ("combo_cut", combo("A x64", f"( {EIGHT} ) x50"), combo("A x40", f"( {EIGHT} ) x50")),
    ("combo_fills", combo("A", EIGHT), combo("A", SEVEN)),
    ("combo_off_phrase", combo("A", SEVEN), combo("A", EIGHT)),
    ("tune_too_slow", tuned(60, "1 wing  2 step  3 wing  4 step"), tuned(100, "1 wing  2 step  3 wing  4 step")),
    ("tune_too_fast", tuned(170, "1 redoble  5 step"), tuned(150, "1 redoble  5 step")),
    ("tune_too_close", tuned(160, "1e&a step  2 step"), tuned(100, "1e&a step  2 step")),
    ("tune_room", tuned(90, EIGHT), tuned(140, EIGHT)),
    ("tune_room", tuned(90, EIGHT), tuned(60, "1 wing  2 step  3 wing  4 step")),
    ("combo_changes", combo("A, B", EIGHT, "meter: 3/4\n1 step  2 step  3 step"), combo("A, B", EIGHT, EIGHT)),
)  # fmt: skip


class PlantedTest(unittest.TestCase):
    def codes(self, text: str, asked: Asked, tempo: str) -> set[str]:
        read = piece_from(
            f"phrase: 8 counts\ntempo: {tempo}\n{text if 'part ' in text else f'part A{chr(10)}{text}'}"
        )
        self.assertEqual([p.message for p in read.problems], [])
        told = check(read, asked)
        self.assertTrue(all(sentence(f) for f in told))
        return {f.code for f in told}

    @cases(*PLANTED)
    def test_where_it_is_and_where_it_is_not(
        self, code: str, faulty: str, sound: str, asked: Asked | None = None, tempo: str = "120"
    ) -> None:
        asked = asked or Asked()
        self.assertIn(code, self.codes(faulty, asked, tempo))
        self.assertNotIn(code, self.codes(sound, asked, tempo))

    def test_none_is_left_out(self) -> None:
        """What is clean in the log is another matter than the text: tests of the style have it."""
        self.assertEqual({row[0] for row in PLANTED}, set(KINDS) - {"own_limit"})


LINES = (
    "1 step  2 step", "& step  3 flap", "8 stomp  1 hop", "1-64 hold", "4 hold", "5 paradiddle  6 pickup",
    "# nothing",
    "hands: 1 clap  & clap", "right hand: 2 hand down", "voiced hands: 1 drum", "arms: 3 up", "moves: 1 two back",
    "pulse: down on the &", "scat: da doo", "length: 3 counts", "meant: off phrase, so", "meter: 5/8", "meter: 6/8",
    "phrase: 3 counts", "danced: seated", "other side", "again x3", "step", "1", "7+1/7 step", "1 wobble",
    "signals: 1 go",
    "1 step 1/4 right  2 R step", "2 L shift", "x", "1 step x9", "note: tall", "(1 step 2 step) x2",
)  # fmt: skip


class NeverRaisesTest(unittest.TestCase):
    @given(st.lists(st.sampled_from(LINES), max_size=5), st.sampled_from(list(shipped_styles())))
    def test_any_text_is_read_checked_measured_and_told(self, lines: list[str], tradition: str) -> None:
        body = "\n".join(lines)
        one = part_from("A", body, Settings(tradition=tradition))
        told = [sentence(f) for f in check_part(one, Asked(style_of(tradition), (("right", 80.0),)))]
        self.assertTrue(all(told))
        stretch = part_stretch(one)
        for over in OVERS:
            rows(one, over)
        said = [used_said(one), pace_said(one, 100), *said_aloud(one), compared(one, OVERS[0])]
        said += [line for i in range(len(one.sounds)) for line in sound_said(one, stretch, i)]
        said += [rounds_said(shown) for against in (0, 3) if (shown := rounds(one, against)) is not None]
        said += [groups_said(shown) for entry in get_args(RoundKind) if (shown := groups(one, 3, entry)) is not None]
        said.append(laid_beside(one, one, mirrored=True).said)
        self.assertTrue(all(isinstance(text, str) for text in said))
        for make in (straightened, pushed, delayed):
            try:
                version = make(one)
            except FirnError:
                continue
            self.assertEqual(part_from("A", version.text, one.settings).problems, ())


TAILS = (
    "", " x2", " x3", " left", " right", " other side", ", ends: & touch", ", last time ends: 8 hold",
    ", turn 1/4 right", ", 2nd time ends: 4 touch",
)  # fmt: skip


class CombosNeverRaiseTest(unittest.TestCase):
    @given(
        st.lists(st.lists(st.sampled_from(LINES), min_size=1, max_size=3), min_size=2, max_size=2),
        st.lists(st.tuples(st.sampled_from("AB"), st.sampled_from(TAILS)), min_size=1, max_size=5),
        st.sampled_from(("", "phrase: 6 counts\n", "meter: 3/4\n", "meter: 7/8\n")),
    )
    def test_any_combo_is_checked_and_told_and_a_mend_leaves_fewer_parts_off_their_count(
        self, bodies: list[list[str]], items: list[tuple[str, str]], head: str
    ) -> None:
        said = "\n".join(f"{name}{tail}" for name, tail in items)
        text = head + combo(said, *("\n".join(lines) for lines in bodies))
        told = check_combo(piece_from(text))
        self.assertTrue(all(sentence(f) for f in told))
        for finding in told:
            for mend in finding.mends if finding.code == "join_counts" else ():
                mended = check_combo(piece_from(text.removesuffix(said) + changed_text(said, mend.changes)))
                self.assertLess(_off(mended), _off(told))


def _off(found: list[Finding]) -> int:
    return sum(int(f.values["many"]) for f in found if f.code == "join_counts")


if __name__ == "__main__":
    unittest.main()
