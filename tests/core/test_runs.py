"""A line cut into runs of counts and words: what is taken for which word, and what is said of the rest."""

import unittest

from firn.core.script.items import Bar, Item, Repeat, Word, WordRun
from firn.core.script.tree import parse_line
from firn.core.script.words import runs_of
from firn.core.steps.shelf import shipped
from tests.support import cases


def word(one: Word) -> str:
    """A word with all that is said of it."""
    marks = {"left": "L ", "right": "R ", "both": "both ", "": ""}[one.side]
    name = f"{marks}{one.card.name if one.card else '?' + one.text}{'!' * (one.level > 0)}{'~' * (one.level < 0)}"
    name += "".join(f" or {card.name}" for card in one.others) + (f" x{one.times}" if one.times != 1 else "")
    name += f" turn {one.turn}" if one.turn else ""
    if one.joined:
        name += (" = " if one.as_one else " + ") + " + ".join(word(w) for w in one.joined)
    return f"({name})" if one.optional else name


def item(one: Item) -> str:
    if isinstance(one, Bar):
        return "|"
    if isinstance(one, Repeat):
        return f"[{'; '.join(item(i) for i in one.body)}] x{one.times}"
    return f"{len(one.counts)}: {', '.join(word(w) for w in one.words)}"


def read(line: str) -> tuple[list[Item], list[tuple[str, int, int, str]]]:
    nodes, brackets = parse_line(line)
    items, problems, _, _ = runs_of(nodes, shipped(), "tap", text=line)
    return items, [(p.code, p.column, p.end, p.message) for p in (*brackets, *problems)]


class RunsTest(unittest.TestCase):
    @cases(
        ("1 step  2 flap", "1: step; 1: flap"),
        ("1 2 step flap", "2: step, flap"),
        ("( 1 step ) x2  3 hop", "[1: step] x2; 1: hop"),
        ("( 1 step ) x2 hop", "[1: step] x2; 0: hop"),
        ("1 ( step ) hop", "1: (step), hop"),
        ("8 step | 1 hop", "1: step; |; 1: hop"),
        ("1 R step both heel", "1: R step, both heel"),
        ("1 step! touch~", "1: step!, touch~"),
        ("1 step x3 hop", "1: step x3, hop"),
        ("1 step + clap", "1: step + clap"),
        ("1 step = clap", "1: step = clap"),
        ("1 step + 1 clap  2 hop", "1: step + clap; 1: hop"),
        ("1 step + clap + snap!", "1: step + clap + snap!"),
        ("1 step + clap x2", "1: step x2 + clap"),
        ("1 step or touch hop", "1: step or touch, hop"),
        ("1 step or touch or dig", "1: step or touch or dig"),
        ("1 step + touch or dig", "1: step + touch or dig"),
        ("1 step 1/4 right hop", "1: step turn 1/4, hop"),
        ("1 step half left", "1: step turn -1/2"),
        ("1 step + touch full right", "1: step + touch turn 1"),
        ("1 step + clap + touch full right", "1: step + clap + touch turn 1"),
        ("1 shuffle ball change", "1: shuffle ball change"),
        ("one step two flap", "1: step; 1: flap"),
        ("1 and 2 step flap", "3: step, flap"),
        ("1 step and heel 2 step", "1: step; 1: heel; 1: step"),
        ("1 stamp and 2 clap", "1: stamp; 1: clap"),
        ("step, then flap, and heel", "0: step, flap, heel"),
        ("step and a flap", "0: step, flap"),
        ("step, then a flap", "0: step, flap"),
        ("1 kick a ball change", "1: kick; 1: ball change"),
        ("six flaps, two heels", "0: flap x6, heel x2"),
        ("1 flap twice, step three times", "1: flap x2, step x3"),
        ("stomp on 8, hop on 1, step on the and", "1: stomp; 1: hop; 1: step"),
        ("flaps on 1 2 3 4", "4: flap"),
        ("1+2 step", "3: step"),
        ("1n2n3 step", "5: step"),
        ("1 step right, 2 step left", "1: R step; 1: L step"),
        ("step right step left", "0: R step, L step"),
        ("1 2 3 step left right left", "3: L step, R step, L step"),
        ("1 l. step 2 right foot step", "1: L step; 1: R step"),
        ("1 stepping 2 shuffled 3 brushes", "1: step; 1: shuffle; 1: brush"),
        ("uno golpe, dos golpes", "1: stamp, stamp x2"),
        ("1 Shuffle BALL", "1: shuffle, ?BALL"),
    )
    def test_what_is_read(self, line: str, expected: str) -> None:
        items, _ = read(line)
        self.assertEqual("; ".join(item(i) for i in items), expected)

    @cases(
        ("1 stepp", [("N101", 2, 7, 'No step is called "stepp". Nearest: step, stmp, tap step.')]),
        ("1 zzqqx hop", [("N101", 2, 7, 'No step is called "zzqqx".')]),
        ("1 zzqqx yyq hop", [("N101", 2, 11, 'No step is called "zzqqx yyq".')]),
        ("1 zzqqx R step", [("N101", 2, 7, 'No step is called "zzqqx".')]),
        ("1 zzqqx ball change", [("N101", 2, 7, 'No step is called "zzqqx".')]),
        ("1 four zzqqx step", [("N101", 7, 12, 'No step is called "zzqqx".')]),
        (f"1 {'z' * 40}", [("N101", 2, 42, f'No step is called "{"z" * 40}".')]),
        (f"1 {'z' * 41}", [("N101", 2, 43, f'No step is called "{"z" * 39}…".')]),
        ("( 1 zzqqx ) x2", [("N101", 4, 9, 'No step is called "zzqqx".')]),
        ("1 step x65", [("N111", 7, 10, "x65 cannot be danced: between x1 and x64.")]),
        ("1 step x0", [("N111", 7, 9, "x0 cannot be danced: between x1 and x64.")]),
        ("1 step x64", []),
        ("1 step x1", []),
        ("1 R", [("N112", 2, 3, '"R" has no word after it.')]),
        ("1 R L step", [("N112", 2, 3, '"R" has no word after it.')]),
        ("1 step +", [("N112", 7, 8, '"+" has no word after it.')]),
        ("1 + step", [("N112", 2, 3, '"+" has no word before it.')]),
        ("1 step or", [("N112", 7, 9, '"or" has no word after it.')]),
        ("1 step or R touch", [("N112", 7, 9, '"or" has no word after it.')]),
        ("1 flap or step", [("N118", 7, 9, '"flap" has 2 sounds and "step" 1.')]),
        ("1 step + or touch", [("N101", 9, 11, 'No step is called "or".')]),
        ("1 step 1/4", [("N113", 7, 10, None)]),
        ("1 step 1/4 both hop", [("N113", 7, 10, None)]),
        ("1 %", [("N109", 2, 3, '"%" means nothing here.')]),
    )
    def test_what_is_said(self, line: str, expected: list[tuple[str, int, int, str | None]]) -> None:
        _, problems = read(line)
        told = [
            (c, a, b, m if want[3] is not None else None)
            for (c, a, b, m), want in zip(problems, expected, strict=False)
        ]
        self.assertEqual((len(problems), told), (len(expected), expected), problems)

    def test_times_that_cannot_be_are_once(self) -> None:
        items, _ = read("1 step x99")
        self.assertEqual(item(items[0]), "1: step")

    def test_where_a_word_stands(self) -> None:
        items, _ = read("1 R shuffle ball change! x2  2 step or touch  3 zzqqx half  4 step half left")
        runs = [one for one in items if isinstance(one, WordRun)]
        spots = [(w.column, w.end) for run in runs for w in run.words]
        self.assertEqual(spots, [(2, 27), (31, 44), (48, 58), (62, 76)])

    def test_a_word_alone(self) -> None:
        plain = Word("step", None, 0, 4)
        self.assertEqual(
            (plain.optional, plain.as_one, plain.times, plain.level, plain.others), (False, False, 1, 0, ())
        )


if __name__ == "__main__":
    unittest.main()
