"""A line put down in another way that means the same reads as before, or is asked about: never silently as something
else.

The lines are those that teachers say, as they are kept for the benchmarks; the ways are common practice, no source.
"""

import re
import unittest
from collections.abc import Callable

from benchmarks.spoken import SETS, Line, lines

from firn.core.piece.build import piece_from
from firn.core.piece.piece import Piece
from firn.core.reading.doubts import findings
from tests.support import cases

EACH = 23
"""Of so many lines one is tried, another for each way."""

WAYS: dict[str, Callable[[str], str]] = {
    "capitals": str.upper,
    "a capital": lambda text: text[:1].upper() + text[1:],
    "a dash before": lambda text: f"- {text}",
    "a dot before": lambda text: f"• {text}",
    "an arrow before": lambda text: f"→ {text}",
    "quotes": lambda text: f"“{text}”",
    "a full stop": lambda text: f"{text}.",
    "loudly": lambda text: f"{text}!",
    "wide": lambda text: text.replace(" ", "  "),
    "with tabs": lambda text: text.replace(" ", "\t"),
    "semicolons": lambda text: text.replace(", ", "; "),
    "no spaces": lambda text: text.replace(", ", ","),
    "full stops": lambda text: text.replace(", ", ". "),
    "dots": lambda text: text.replace(", ", " … "),
    "a brush's x": lambda text: re.sub(r"\bx(\d)", r"×\1", text),
    "small letters": lambda text: re.sub(r"\b[RL]\b", lambda found: found[0].lower(), text),
    "then a clap": lambda text: f"{text}, then clap" if re.search("quick|slow|lento|rápido", text) else text,
}
NOT_SO = {
    # Words that the line's end tells apart.
    "swing: step, slow; step, slow; rock step": "loudly: a mark makes rock and step two",
}


def read(tradition: str, text: str) -> Piece:
    return piece_from(f"tradition: {tradition}\npart A\n{text}")


def sounding(piece: Piece) -> list[tuple]:
    return [(s.place, s.kind, s.foot) for s in piece.parts[0].sounds]


def plain(piece: Piece) -> bool:
    return not piece.problems and not any(True for _ in findings(piece.parts[0]))


def said() -> list[Line]:
    """The lines of one row that are read without a question."""
    known = (line for name, kept in SETS.items() if kept == "mended from" for line in lines(name))
    return [line for line in known if "\n" not in line.said and line.key not in NOT_SO]


class WaysTest(unittest.TestCase):
    def test_every_way(self) -> None:
        known = said()
        tried = 0
        for number, (way, put) in enumerate(WAYS.items()):
            for line in known[number % EACH :: EACH]:
                other = put(line.said)
                if other == line.said or not plain(before := read(line.tradition, line.said)):
                    continue
                tried += 1
                after = read(line.tradition, other)
                wanted = [kind for _, kind, _ in sounding(before)] + ["clap"] * (way == "then a clap")
                same = [kind for _, kind, _ in sounding(after)] == wanted
                if way != "then a clap":
                    same = sounding(after) == sounding(before)
                with self.subTest(way, said=line.key):
                    self.assertTrue(same or not plain(after), other)
        self.assertGreater(tried, 500)


class MeantTest(unittest.TestCase):
    """Each was silently read as something else."""

    @cases(
        ("clogging", "- 1: DS 2: DS 3: RS", "1 DS 2 DS 3 RS"),
        ("tap", "* hold 1 2, stamp 3 4", "1 hold 2 hold 3 stamp 4 stamp"),
        ("clogging", '"triple: DS DS DS RS"', "DS DS DS RS"),
        ("clogging", "three double steps & a rock step", "DS DS DS RS"),
        ("tap", "three flaps & a stamp", "flap, flap, flap, stamp"),
        ("tap", "hop on 1 & step on 2", "1 hop 2 step"),
        ("tap", "clap on the 2 & the 4", "2 clap 4 clap"),
        ("latin", "tap on 4 & on 8", "4 tap 8 tap"),
        ("tap", "three stamps & hold", "stamp, stamp, stamp, hold"),
        ("tap", "stamp on one & hold, stamp on three & hold", "1 stamp 2 hold 3 stamp 4 hold"),
        ("clogging", "one ds two ds three ds four rs", "1 ds 2 ds 3 ds 4 rs"),
        ("clogging", "two ds, one rs", "DS DS RS"),
        ("clogging", "one: DS two: DS three: RS", "1 DS 2 DS 3 RS"),
        ("step dance", "one threes three threes", "1 threes 3 threes"),
        ("latin", "one. side two. close three. side four. touch", "1 side 2 close 3 side 4 touch"),
        ("latin", "walk two three touch", "walk 2 3 touch"),
        ("tap", "flap (and 1) flap (and 2) flap (and 3) stamp (4)", "&1 flap &2 flap &3 flap 4 stamp"),
        ("latin", "rock right, then recover, then cross, then hold", "rock right, recover, cross, hold"),
        ("clogging", "stomp on 1, then rock &2 step, then stomp 3", "1 stomp &2 rock step 3 stomp"),
        ("tap", "R. toe L. heel R. heel", "R toe, L heel, R heel"),
        ("swing", "3&4 triple step left right left", "3&4 L triple step"),
        ("swing", "3&4 triple step, left right left", "3&4 L triple step"),
        ("tap", "left: stamp (1) right: stamp (2) clap (3)", "1 L stamp 2 R stamp 3 clap"),
        ("tap", "left: stamp 1 right: stamp 2", "1 L stamp 2 R stamp"),
        ("tap", "R L R L, stamp", "step, step, step, step, stamp"),
        ("latin", "slow quick quick, stamp", "slow step, quick step, quick step, stamp"),
        ("latin", "slow, quick, quick: rock step close", "slow step, quick step, quick step"),
        ("latin", "quick quick slow then side together side", "1 step 2 step 3 step 4 hold 5 step 6 step 7 step"),
        ("swing", "quick quick slow slow: rock step walk walk", "1 step 2 step 3 step 4 hold 5 step 6 hold"),
        ("swing", "step slow, step slow, rock step quick quick", "1 step 2 hold 3 step 4 hold 5 step 6 step"),
        ("swing", "slow slow rock step", "slow step, slow step, rock step"),
        ("latin", "quick quick slow: stamp", "1 stamp 2 stamp 3 stamp 4 hold"),
        ("tap", "step brush hop x4!", "step brush hop x4"),
        ("tap", "two stamps and a clap / twice", "two stamps and a clap, twice"),
        ("latin", "walk 2 3 touch!", "walk 2 3 touch"),
        ("tap", "and 1-4 step", "1-4 step"),
        ("tap", "1, 3-4 stamp", "1 stamp 3 stamp 4 stamp"),
        ("tap", "stamp on 1-2 and 4", "1 stamp 2 stamp 4 stamp"),
        ("tap", "1 2-4 flap", "1 flap 2 flap 3 flap 4 flap"),
        ("tap", "1 flap | 2 flap | 3 flap", "1 flap 2 flap 3 flap"),
        ("tap", "1-4 step | 1-4 step", "1-4 step 5-8 step"),
        ("tap", "4 step | 1 step", "8 step 1 step"),
        ("tap", "stamp\nstamp again", "stamp\nstamp"),
        ("swing", "rock step\ntriple step\nand rock step", "rock step\ntriple step\nrock step"),
        ("clogging", "now 1: DS 2: DS 3: RS", "1 DS 2 DS 3 RS"),
        ("tap", "then hold 1 2, stamp 3 4", "1 hold 2 hold 3 stamp 4 stamp"),
        ("tap", "1. 1 flap 2 flap\n2. 5 step 6 step", "1 flap 2 flap\n5 step 6 step"),
        ("tap", "1. 2 step", "1 2 step"),
        ("tap", "a) step heel\nb) flap", "step heel\nflap"),
        ("tap", "uno golpe | dos palma", "1 golpe 2 palma"),
        ("tap", "1 step ball change twice!", "1 step ball change twice"),
        ("tap", "1-8: step touch x4", "step touch step touch step touch step touch"),
        ("tap", "1-4 step\nwith hands: clap on 2 and 4", "1-4 step\nhands: 2 clap 4 clap"),
        ("tap", "1-4 step\n- hands: 2 clap 4 clap", "1-4 step\nhands: 2 clap 4 clap"),
        ("tap", "1-4 step\nhands clap on 2 and 4", "1-4 step\nhands: 2 clap 4 clap"),
        ("folk stamping", "1-4 golpe\nmanos: palma en 2 y 4", "1-4 golpe\nhands: 2 clap 4 clap"),
        ("latin", "1 slow quick quick", "1 slow step, quick step, quick step"),
        ("tap", "and 1 step 2 kick", "1 step 2 kick"),
        ("latin", "quick-quick-slow x 2", "quick quick slow quick quick slow"),
        ("latin", "quick quick slow, twice", "quick quick slow quick quick slow"),
        ("tap", "clap at the end: flap flap stamp", "flap, flap, stamp, clap"),
        ("tap", "1 stamp, (2) clap, 3 stamp, (4) clap", "1 stamp 2 clap 3 stamp 4 clap"),
        ("swing", "rock  step,  triple  step", "rock step, triple step"),
    )
    def test_means(self, tradition: str, put: str, full: str) -> None:
        one = read(tradition, put)
        self.assertTrue(plain(one), put)
        self.assertEqual(sounding(one), sounding(read(tradition, full)), put)

    @cases(
        ("step dance", "2 sevens"), ("step dance", "2 threes, then stamp 3 times"), ("clogging", "2 DS"),
        ("tap", "2 flaps, then stamp 3 times"), ("folk stamping", "3 closing stamps"),
        ("house", "2 loose legs then a stomp"),
        ("tap", "and stamp clap"), ("tap", "stamp, L R L"),
    )  # fmt: skip
    def test_is_asked(self, tradition: str, put: str) -> None:
        """How many, or the count that it is on; what an "and" begins with; whose feet these are."""
        one = read(tradition, put)
        self.assertEqual((one.problems, plain(one)), ((), False))


if __name__ == "__main__":
    unittest.main()
