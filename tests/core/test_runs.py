"""A line cut into runs of counts and words: what is taken for which word, and what is said of the rest."""

import unittest
import unittest.mock

from firn.core.script.choices import PLAIN
from firn.core.script.items import Bar, BarAt, Item, Repeat, Word, WordRun
from firn.core.script.tree import parse_line
from firn.core.script.unknown import with_near
from firn.core.script.words import runs_of
from firn.core.steps.shelf import shipped
from tests.support import cases


def word(one: Word) -> str:
    """A word with all that is said of it."""
    marks = {"left": "L ", "right": "R ", "both": "both ", "": ""}[one.side]
    name = f"{marks}{one.card.name if one.card else '?' + one.text}{'!' * (one.level > 0)}{'~' * (one.level < 0)}"
    name += "".join(f" or {card.name}" for card in one.others) + (f" x{one.times}" if one.times != 1 else "")
    name += f" {one.where}" if one.where else ""
    name += f" turn {one.turn}" if one.turn else ""
    if one.joined:
        name += (" = " if one.as_one else " + ") + " + ".join(word(w) for w in one.joined)
    return f"({name})" if one.optional else name


def item(one: Item) -> str:
    if isinstance(one, Bar):
        return "|"
    if isinstance(one, BarAt):
        return f"bar {one.number}"
    if isinstance(one, Repeat):
        return f"[{'; '.join(item(i) for i in one.body)}] x{one.times}"
    return f"{len(one.counts)}: {', '.join(word(w) for w in one.words)}"


def read(line: str) -> tuple[list[Item], list[tuple[str, int, int, str]]]:
    nodes, brackets = parse_line(line)
    items, problems, _, _ = runs_of(nodes, shipped(), "tap", text=line)
    found = [with_near(p, shipped(), "tap") for p in (*brackets, *problems)]
    return items, [(p.code, p.column, p.end, p.message) for p in found]


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
        ("1 touch in front 2 step", "1: touch front; 1: step"),
        ("1 touch to the side", "1: touch side"),
        ("1 touch in", "1: touch in"),
        ("1 side 2 together", "1: step side; 1: step together"),
        ("step side", "0: step side"),
        ("step side back", "0: step side, step back"),
        ("slide to the left, step to the back", "0: slide to the left, step back"),
        ("step-side step", "0: step side, step"),
        ("1 2 step side", "2: step, step side"),
        ("step together", "0: step, step together"),
        ("1 2 3 side together side", "3: step side, step together, step side"),
        ("brush forward", "0: brush"),
        ("touch together", "0: touch together"),
        ("step, back", "0: step, step back"),
        ("1 zzqqx back", "1: ?zzqqx back"),
        ("1 step right foot, 2 stamp", "1: R step; 1: stamp"),
        ("1 hop on the right", "1: R hop"),
        ("1 hop on the left foot 2 step", "1: L hop; 1: step"),
        ("1 hop on left", "1: L hop"),
        ("1 step + clap right", "1: step + R clap"),
        ("left right left", "0: L step, R step, L step"),
        ("right 1 step", "0: R step; 1: step"),
        ("1 step izquierda 2 pie derecho step", "1: L step; 1: R step"),
        ("stamp on one and two", "2: stamp"),
        ("step, stamp on 2 3", "0: step; 2: stamp"),
        ("stamp on the", "0: stamp, ?on the"),
        ("stamp on zz", "0: stamp, ?on zz"),
        ("1 stamp on 2", "1: stamp, ?on; 1: "),
        ("1 stamp three times 5 step", "1: stamp x3; 1: step"),
        ("1 stamp 3 times", "1: stamp x3"),
        ("two flap", "1: flap"),
        ("one flaps", "0: flap"),
        ("three four step stamp", "2: step, stamp"),
        ("step two", "1: step"),
        ("1 and a step step step", "3: step, step, step"),
        ("step and a stamp", "0: step, stamp"),
        ("step and 2 stamp", "0: step; 1: stamp"),
        ("step and two stamp", "0: step; 1: stamp"),
        ("step, and stamp", "0: step, stamp"),
        ("and step", "0: step"),
        ("1 ee and ah step", "4: step"),
        ("1 n step step", "2: step, step"),
        ("1+2+3 step", "5: step"),
        ("1 +2 step", "3: step"),
        ("1 n2 step", "1: ?n2, step"),
        ("1 step with the right 2 step with the left foot", "1: R step; 1: L step"),
        ("paso a la derecha, paso con el pie izquierdo", "0: step to the right, L step"),
        ("1 lado 2 cierra 3 paso al lado", "1: step side; 1: step together; 1: step side"),
        ("1 step a step", "1: step; 1: step"),
        ("3 flaps", "1: flap"),
        ("step 3 flaps", "0: step; 1: flap"),
        ("the step", "0: step"),
        ("then step", "0: step"),
        ("1 step it 2 hold it", "1: step; 1: hold"),
        ("step twice", "0: step x2"),
        ("twice", "0: ?twice"),
        ("six flaps 1 step", "0: flap x6; 1: step"),
        ("1 Shuffle BALL", "1: shuffle, step"),
        ("1 step on the spot hop", "1: step in place, hop"),
        ("1 step en el sitio 2 hop", "1: step in place; 1: hop"),
        ("step for eight counts", "0: step x8"),
        ("step for eight counts hop", "0: step x8, hop"),
        ("step for 64 hop", "0: step x64, hop"),
        ("step for 65", "0: step, ?for; 1: "),
        ("flap for 8 counts 1 hop", "0: flap x8; 1: hop"),
        ("paradiddle for 4", "0: paradiddle x4"),
        ("box step for 8", "0: box step x2"),
        ("box step for 6", "0: box step"),
        ("step for 1", "0: step, ?for; 1: "),
        ("step x2 for 8", "0: step x2, ?for; 1: "),
        ("1 step for 8", "1: step, ?for; 1: "),
        ("1 step + clap + touch loud", "1: step + clap + touch!"),
        ("1 step + clap loudly 2 hop", "1: step + clap!; 1: hop"),
        ("bar 1: 1 step", "bar 1; 1: step"),
        ("bar 2 1 step", "bar 2; 1: step"),
        ("bar 999: step", "bar 999; 0: step"),
        ("bar 1000: step", "0: ?bar; 1: step"),
        ("bar 0: 1 step", "0: ?bar; 2: step"),
        ("bar 1& step", "0: ?bar; 1: step"),
        ("1 step + clap + touch to the side", "1: step + clap + touch side"),
        ("1 step + clap to the left", "1: step + clap to the left"),
        ("step to the back side", "0: step back, step side"),
        ("cross over", "0: step across"),
        ("hop back", "0: hop back"),
        ("1 kick back cross", "1: kick back, step across"),
        ("step RL", "0: R step, L step"),
        ("step x2 RL", "0: R step, L step"),
        ("R L R step", "0: R step, L step, R step"),
        ("L L L R stamp", "0: L stamp, L stamp, L stamp, R stamp"),
        ("QQS step step step", "3: step, step, step"),
        ("1 slow step 2 quick step", "1: step; 1: step"),
        ("slow slow rock step", "2: step, step; 0: rock step"),
        ("slow rock step", "1: step; 0: rock step"),
        ("quick quick slow hold", "3: step, step, step; 0: hold"),
        ("hop step x2 flap x3", "[0: hop, step] x2; 0: flap x3"),
        ("hop step x2 brush dig x3", "[0: hop, step] x2; [0: brush, dig] x3"),
        ("1-4 step x4", "1: step x4"),
        ("6 7 8 step x3", "3: step x3"),
        ("1 step 2 3 hop x2", "1: step; 2: hop x2"),
        ("heel x2 R", "0: R heel x2"),
        ("bar 2: step brush x2", "bar 2; [0: step, brush] x2"),
        ("1 step half turn left hop", "1: step turn -1/2, hop"),
        ("1 step turn 1/4 right hop", "1: step turn 1/4, hop"),
        ("pat your knees step", "0: pat, step"),
        ("1 pat thighs 2 clap", "1: pat; 1: clap"),
        ("knees up", "0: lift"),
        ("1 step or touch hop or leap", "1: step or touch, hop or leap"),
        ("8 step | 1 hop step x2", "1: step; |; [1: hop, step] x2"),
        ("quick quick hold", "2: step, step; 0: hold"),
        ("slow hold", "1: hold"),
        ("1 quick 2 hold", "2: hold"),
        ("step x2, brush x3", "0: step x2, brush x3"),
        ("three stamps with the right", "0: R stamp, R stamp, R stamp"),
        ("stamp x2 R L", "0: R stamp, L stamp"),
        ("left right left right stamp stomp", "0: L step, R step, L step, R stamp, stomp"),
    )
    def test_what_is_read(self, line: str, expected: str) -> None:
        items, _ = read(line)
        self.assertEqual("; ".join(item(i) for i in items), expected)

    @cases(
        ("1 stepp", [("N101", 2, 7, 'No step is called "stepp". Nearest: step, stmp, step pivot.')]),
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
        ("1 R L step", [("N103", 2, 5, '"R L" names 2 feet for 1 count.')]),
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

    @cases(
        ("1 touch in front 2 step right foot", [(2, 16), (19, 34)]),
        ("1 hop on the left foot", [(2, 22)]),
        ("left right step", [(0, 4), (5, 15)]),
        ("1 l. step", [(2, 9)]),
        ("six flaps", [(0, 9)]),
        ("1 stamp three times", [(2, 19)]),
        ("1 stamp 3 times", [(2, 15)]),
        ("side together", [(0, 4), (5, 13)]),
    )
    def test_what_belongs_to_a_word(self, text: str, spots: list[tuple[int, int]]) -> None:
        items, _ = read(text)
        self.assertEqual([(w.column, w.end) for run in items for w in run.words], spots)

    @cases(
        ("1 and 2 step", [(0, 1), (2, 5), (6, 7)]),
        ("1n2 step", [(0, 1), (1, 3), (1, 3)]),
        ("1+2 step", [(0, 1), (1, 2), (2, 3)]),
        ("two step", [(0, 3)]),
    )
    def test_where_a_count_is_said(self, text: str, spots: list[tuple[int, int]]) -> None:
        (run,), _ = read(text)
        self.assertEqual([(c.column, c.end) for c in run.counts], spots)

    @cases(
        ("brush dig x3", "( brush dig ) x3", 0),
        ("1 step  2 stamp 3 hop x2", "( 2 stamp 3 hop ) x2", 8),
        ("step, brush dig x3", "( brush dig ) x3", 6),
        ("( step ) brush dig x3", "( brush dig ) x3", 9),
        ("( step ) x2 brush dig x3", "( brush dig ) x3", 12),
        ("bar 2: step brush x2", "( step brush ) x2", 7),
        ("bar 2 step brush x2", "( step brush ) x2", 6),
    )
    def test_what_is_covered(self, text: str, written: str, since: int) -> None:
        nodes, _ = parse_line(text)
        (one,) = runs_of(nodes, shipped(), "tap", text=text).open
        self.assertEqual((one.code, one.written, one.since, one.cost), ("all", written, since, 0))
        alone = runs_of(nodes, shipped(), "tap", PLAIN.turned(one.column), text).open[0]
        self.assertEqual(
            (alone.code, alone.cost > one.cost, (alone.column, alone.end)), ("alone", True, (one.column, len(text)))
        )

    @cases(
        ("1 step & step 2 stamp",), ("stamp 4 and clap 2",), ("four flaps, last one a stamp",), ("2 golpes",),
        ("flap heel x3, twice",), ("on the left: shuffle ball change",), ("stamp, stamp and touch",),
        ("1-8: step touch x4",), ("R L R L stamp",), ("one flap two stamps three claps",), ("flap-heel, 1/4 left",),
        ("clap on 2 and 4, stamp on 1",),
    )  # fmt: skip
    def test_read_the_same_where_its_counts_were_put_first_before(self, text: str) -> None:
        """What is kept of a line is what is found anew each time, whatever is tried."""
        nodes, _ = parse_line(text)
        opens = runs_of(nodes, shipped(), "tap", text=text).open
        for choices in (PLAIN, *(PLAIN.turned(one.column) for one in opens)):
            kept = runs_of(nodes, shipped(), "tap", choices, text)
            with unittest.mock.patch("firn.core.script.words._Watched.alike", lambda *_: False):
                self.assertEqual(runs_of(nodes, shipped(), "tap", choices, text), kept)

    @cases(
        ("1 step 2 flap, other side", ("both_sides", "1 step 2 flap\nother side", 0), ("other_alone", 99)),
        ("1 R step, other side", ("both_sides", "1 R step\nother side", 0), ("other_alone", 99)),
        ("step x2 back", ("goes", "step-back x2", 0), ("there", 4)),
        ("step back x2, cross over", ("goes", "step-back", 0), ("there", 4)),
        ("kick back cross", ("goes", "kick-back", 0), ("there", 4)),
        ("cross behind side", ("goes", "step-behind", 0), ("there", 4)),
        ("step left toe right", ("linked", "L step,", 0), ("between", 3)),
        ("slow rock step", ("pace_steps", "slow step, rock step", 0), ("paced", 2)),
        ("stomp double", ("", "", 0), ("", 0)),
        ("brush step, brush step", ("spelled", "brush step", 0), ("figure", 2)),
        ("3 stamps R", ("count", "3 stamp", 0), ("many", 4)),
        ("brush step x2", ("all", "( brush step ) x2", 0), ("alone", 7)),
        ("1 flap 2 step x2", ("all", "( 1 flap 2 step ) x2", 0), ("alone", 4)),
        ("slow, rock step", ("", "", 0), ("", 0)),
    )
    def test_what_is_believed_costs_nothing(self, text: str, believed, other) -> None:
        nodes, _ = parse_line(text)
        found = [(o.code, o.written, o.cost) for o in runs_of(nodes, shipped(), "tap", text=text).open]
        self.assertEqual(found[:1], [believed] if believed[0] else [])
        if believed[0]:
            column = runs_of(nodes, shipped(), "tap", text=text).open[0].column
            turned = runs_of(nodes, shipped(), "tap", PLAIN.turned(column), text).open[0]
            self.assertEqual((turned.code, turned.cost, turned.column), (*other, column))

    @cases(
        ("stomp, left right stamp", "L step, R stamp", "L stamp, R stamp", "L step, R step, stamp"),
        ("left right stamp clap", "L step, R stamp", "L step, R step, stamp"),
        ("L R flap", "L flap, R flap", "L step, R flap", "L step, R step, flap"),
    )
    def test_feet_before_a_step(self, text: str, *ways: str) -> None:
        nodes, _ = parse_line(text)
        plain = runs_of(nodes, shipped(), "tap", text=text).open[0]
        others = [PLAIN.meaning(plain.column, n) for n in range(plain.many)]
        found = [runs_of(nodes, shipped(), "tap", choices, text).open[0] for choices in others]
        self.assertEqual([one.written for one in found], list(ways))
        self.assertEqual([(one.code, one.cost) for one in found], [("feet", 2 if n else 0) for n in range(len(ways))])

    @cases(
        ("3 flaps", "count", "3 flap"), ("12 double steps", "count", "12 double step"), ("1 flaps", "", ""),
        ("3 flaps 4 step", "count", "3 flap"), ("step 3 flaps", "count", "3 flap"),
        ("1 step 3 flaps", "numbers", "1 step,  3 flap"), ("2-3 flaps", "", ""),
    )  # fmt: skip
    def test_a_number_before_a_plural(self, text: str, code: str, written: str) -> None:
        nodes, _ = parse_line(text)
        found = runs_of(nodes, shipped(), "clogging", text=text).open
        self.assertEqual([(o.code, o.written) for o in found], [(code, written)] if code else [])

    def test_a_word_alone(self) -> None:
        plain = Word("step", None, 0, 4)
        self.assertEqual(
            (plain.optional, plain.as_one, plain.times, plain.level, plain.others), (False, False, 1, 0, ())
        )


if __name__ == "__main__":
    unittest.main()
