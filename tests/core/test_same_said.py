"""The same line said in many ways reads as the same, or is asked about: never silently as something else.

What it is said from is made by chance from the cards; the ways of saying it are common practice, from memory.
"""

import random
import unittest
from collections.abc import Callable, Iterator

from firn.core.piece.build import piece_from
from firn.core.piece.piece import Piece
from firn.core.reading.doubts import findings
from firn.core.steps.shelf import TRADITIONS, shipped

DANCED = [t for t in TRADITIONS if t not in ("floor work", "marking")]
LINES = 14
LONGEST = 4
NUMBERS = ("", "one", "two", "three", "four")

IN_A_ROW: dict[str, Callable[[list[str]], str]] = {
    "then": " then ".join,
    "y luego": " y luego ".join,
    "and then": " and then ".join,
    "a semicolon": "; ".join,
    "full stops": lambda w: ". ".join(w) + ".",
    "arrows": " → ".join,
    "slashes": " / ".join,
    "dashes": " - ".join,
    "quotes": lambda w: ", ".join(f'"{x}"' for x in w),
    "first, then": lambda w: "first " + ", then ".join(w),
    "the": lambda w: ", ".join(f"the {x}" for x in w),
    "a": lambda w: ", ".join(f"a {x}" for x in w),
    "one": lambda w: ", ".join(f"one {x}" for x in w),
    "capitals": lambda w: ", ".join(w).capitalize() + "!",
    "a last and": lambda w: f"{', '.join(w[:-1])}, and {w[-1]}",
}
ON_COUNTS: dict[str, Callable[[list[str]], str]] = {
    "after them": lambda w: ", ".join(f"{x} {n}" for n, x in enumerate(w, 1)),
    "on": lambda w: ", ".join(f"{x} on {n}" for n, x in enumerate(w, 1)),
    "on the": lambda w: ", ".join(f"{x} on the {n}" for n, x in enumerate(w, 1)),
    "on beats": lambda w: ", ".join(f"{x} on beat {n}" for n, x in enumerate(w, 1)),
    "in Spanish": lambda w: ", ".join(f"{x} en el tiempo {n}" for n, x in enumerate(w, 1)),
    "on first": lambda w: ", ".join(f"on {n} {x}" for n, x in enumerate(w, 1)),
    "on in words": lambda w: ", ".join(f"{x} on {NUMBERS[n]}" for n, x in enumerate(w, 1)),
    "in words": lambda w: " ".join(f"{NUMBERS[n]} {x}" for n, x in enumerate(w, 1)),
    "colons": lambda w: ", ".join(f"{n}: {x}" for n, x in enumerate(w, 1)),
    "brackets": lambda w: " ".join(f"({n}) {x}" for n, x in enumerate(w, 1)),
    "brackets after": lambda w: ", ".join(f"{x} ({n})" for n, x in enumerate(w, 1)),
    "counts": lambda w: ", ".join(f"count {n}: {x}" for n, x in enumerate(w, 1)),
    "a row for each": lambda w: "\n".join(f"{n} {x}" for n, x in enumerate(w, 1)),
    "equal signs": lambda w: ", ".join(f"{n} = {x}" for n, x in enumerate(w, 1)),
}
SO_OFTEN: dict[str, Callable[[list[str]], str]] = {
    "times": lambda w: f"{w[0]} 3 times, {w[1]}",
    "in words": lambda w: f"{w[0]} three times, {w[1]}",
    "in Spanish": lambda w: f"{w[0]} tres veces, luego {w[1]}",
    "before": lambda w: f"3x {w[0]}, {w[1]}",
    "brackets": lambda w: f"({w[0]}) x3, {w[1]}",
    "brackets about it": lambda w: f"{w[0]} (x3), {w[1]}",
    "after a colon": lambda w: f"{w[0]}: 3 times, {w[1]}",
    "called": lambda w: f"do {w[0]} three times, then {w[1]}",
    "both in brackets": lambda w: f"{w[0]} (3 times), {w[1]} (1 time)",
    "once": lambda w: f"{w[0]} three times and {w[1]} once",
}
OFTEN: dict[str, Callable[[list[str]], str]] = {
    "in words": lambda w: ", ".join(f"{x} twice" for x in w),
    "a comma before": lambda w: ", ".join(f"{x}, twice" for x in w),
    "dashes before": lambda w: ", ".join(f"{x} - 2 times" for x in w),
    "brackets": lambda w: ", ".join(f"{x} (2 times)" for x in w),
    "and": lambda w: " and ".join(f"{x} twice" for x in w),
    "again": lambda w: ", ".join(f"{x}, {x} again" for x in w),
    "in Spanish": lambda w: ", ".join(f"{x} dos veces" for x in w),
    "a row for each": lambda w: "\n".join(f"{x} x2" for x in w),
}
ONE_OF_EACH: dict[str, Callable[[list[str]], str]] = {
    "a row for each": lambda w: "\n".join(f"one {x}" for x in w),
    "a row after others": lambda w: "\n".join((", ".join(w[:-1]), f"one {w[-1]}")),
    "once": lambda w: ", ".join(f"{x} once" for x in w),
    "once and": lambda w: " and ".join(f"{x} once" for x in w),
}
WITH_FEET: dict[str, Callable[[list[str]], str]] = {
    "in words": lambda w: f"right {w[0]}, left {w[1]}",
    "after": lambda w: f"{w[0]} right, {w[1]} left",
    "letters after": lambda w: f"{w[0]} R, {w[1]} L",
    "brackets": lambda w: f"{w[0]} (R), {w[1]} (L)",
    "with": lambda w: f"{w[0]} with the right, {w[1]} with the left",
    "in Spanish": lambda w: f"{w[0]} con el derecho, {w[1]} con el izquierdo",
    "on": lambda w: f"{w[0]} on the right foot, {w[1]} on the left foot",
    "foot first": lambda w: f"right foot {w[0]}, left foot {w[1]}",
    "a comma after": lambda w: f"right foot, {w[0]}, left foot, {w[1]}",
    "colons": lambda w: f"R: {w[0]}, L: {w[1]}",
    "a row for each": lambda w: f"R {w[0]}\nL {w[1]}",
    "a hyphen": lambda w: f"R-{w[0]}, L-{w[1]}",
}
FOOT_ON_COUNT: dict[str, Callable[[str, str, int], str]] = {
    "between": lambda x, foot, n: f"{x} {foot} {n}",
    "on it": lambda x, foot, n: f"{x} on {foot} {n}",
    "on the": lambda x, foot, n: f"{x} on the {foot} {n}",
    "with it": lambda x, foot, n: f"{x} with the {foot} on {n}",
    "with it behind": lambda x, foot, n: f"{x} on {n} with the {foot}",
    "in Spanish": lambda x, foot, n: f"{x} en {n} con el {foot}",
    "with it first": lambda x, foot, n: f"on {n} {foot} {x}",
    "brackets": lambda x, foot, n: f"{foot} {x} ({n})",
    "the count first": lambda x, foot, n: f"{n} {x} {foot}",
    "the count and a colon": lambda x, foot, n: f"{n}: {foot} {x}",
}
SPOKEN = {"&": "and", "a": "ah", "e": "ee", **{str(n): NUMBERS[n] for n in range(1, 5)}}
AT_PLACES: dict[str, Callable[[str, str], str]] = {
    "apart": lambda x, c: f"{' '.join(c)} {x}",
    "after": lambda x, c: f"{x} {' '.join(c)}",
    "on": lambda x, c: f"{x} on {c}",
    "on first": lambda x, c: f"on {c} {x}",
    "brackets after": lambda x, c: f"{x} ({c})",
    "colons": lambda x, c: f"{' '.join(c)}: {x}",
    "colons after": lambda x, c: f"{x}: {' '.join(c)}",
    "equal signs": lambda x, c: f"{x} = {' '.join(c)}",
    "plus for and": lambda x, c: f"{c.replace('&', '+')} {x}",
    "pluses after": lambda x, c: f"{x} {'+'.join(c)}",
    "in words": lambda x, c: f"{' '.join(SPOKEN[one] for one in c)} {x}",
    "in words, after": lambda x, c: f"{x} {' '.join(SPOKEN[one] for one in c)}",
    "in words, on": lambda x, c: f"{x} on {' '.join(SPOKEN[one] for one in c)}",
    "in words, colons": lambda x, c: f"{' '.join(SPOKEN[one] for one in c)}: {x}",
}
HELD: dict[str, Callable[[str, str], str]] = {
    "brackets": lambda x, y: f"{x} (hold) {y}",
    "pause": lambda x, y: f"{x}, pause, {y}",
    "rest": lambda x, y: f"{x} rest {y}",
    "for one": lambda x, y: f"{x}, hold for 1, {y}",
    "and": lambda x, y: f"{x} and hold, {y}",
    "full stops": lambda x, y: f"{x}. Hold. {y}.",
    "one count": lambda x, y: f"{x}, hold 1 count, {y}",
    "dashes": lambda x, y: f"{x} - hold - {y}",
    "a beat": lambda x, y: f"{x}, hold a beat, {y}",
    "one": lambda x, y: f"{x}, one hold, {y}",
    "it": lambda x, y: f"{x}, hold it, {y}",
    "in Spanish": lambda x, y: f"{x}, silencio, {y}",
    "nothing": lambda x, y: f"{x}, nothing, {y}",
}
CLAPPED: dict[str, Callable[[str, str], str]] = {
    "brackets": lambda x, y: f"{x} (clap) {y}",
    "a": lambda x, y: f"{x}, a clap, {y}",
    "one": lambda x, y: f"{x}, one clap, {y}",
    "once": lambda x, y: f"{x}, clap once, {y}",
    "your hands": lambda x, y: f"{x}, clap your hands, {y}",
    "in Spanish": lambda x, y: f"{x}, palma, {y}",
    "add": lambda x, y: f"{x}, add a clap, {y}",
    "with": lambda x, y: f"{x}, with a clap, {y}",
}
TURNED: dict[str, Callable[[str, str], str]] = {
    "a quarter turn": lambda x, y: f"{x} a quarter turn left, {y}",
    "with": lambda x, y: f"{x} with a 1/4 turn to the left, {y}",
    "turning": lambda x, y: f"{x} turning a quarter to the left, {y}",
    "turning first": lambda x, y: f"turning 1/4 left {x}, {y}",
    "brackets": lambda x, y: f"{x} (1/4 L), {y}",
    "a comma": lambda x, y: f"{x}, 1/4 turn left, {y}",
    "making": lambda x, y: f"{x} making a 1/4 turn left, {y}",
    "in Spanish": lambda x, y: f"{x} un cuarto a la izquierda, {y}",
    "no amount": lambda x, y: f"{x} turning left, {y}",
}
PLACES = ("front", "side", "back", "forward", "behind", "across")
GOES = (
    "touch", "kick", "point", "tap", "dig", "heel", "toe", "brush", "scuff", "stomp", "stamp", "slide", "leap",
    "flick", "toe tip", "heel dig", "lift",
)  # fmt: skip
THERE: dict[str, Callable[[str, str], str]] = {
    "after": lambda x, d: f"{x} {d}, stamp",
    "on a count": lambda x, d: f"1 {x} {d}  2 stamp",
    "behind it": lambda x, d: f"{x} {d} 1, stamp 2",
    "on": lambda x, d: f"{x} {d} on 1, stamp on 2",
    "a foot before": lambda x, d: f"right {x} {d}, stamp",
    "a foot after": lambda x, d: f"{x} {d} right, stamp",
    "letters": lambda x, d: f"{x} {d} R, stamp",
    "then": lambda x, d: f"{x} {d} then stamp",
    "hyphens": lambda x, d: f"{x}-{d} stamp",
}
CALLED_FEET = (("R", "L"), ("right", "left"), ("right foot", "left foot"), ("r.", "l."))


def piece(tradition: str, text: str) -> Piece:
    return piece_from(f"tradition: {tradition}\npart A\n{text}")


def sounds(one: Piece) -> list[tuple[object, ...]]:
    return [(s.place, s.kind, s.foot) for s in one.parts[0].sounds]


def asks(one: Piece) -> bool:
    return bool(one.problems or one.parts[0].footing.faults or list(findings(one.parts[0])))


WAITS = "lead and wait"
"""Begins on 5 and lasts eight counts: said so often it waits again, said once more it does not, which is left so."""


class SameTest(unittest.TestCase):
    def lines(
        self, seed: int, said: Callable[[list[str]], str], *, single: bool = False, footed: bool = False
    ) -> Iterator[tuple[str, list[str], Piece]]:
        """Lines by chance that leave nothing open: their tradition, their names, what they are."""
        rng, shelf, many = random.Random(seed), shipped(), 0
        while many < LINES:
            tradition = rng.choice(DANCED)
            cards = [
                c for c in shelf.cards
                if not c.retired and (not c.traditions or tradition in c.traditions)
                and (len(c.beats) == 1 if single else len(c.beats) <= LONGEST)
                and c.name != WAITS
                and not (footed and any(b.kind.limb == "hands" or b.kind.name == "hold" for b in c.beats))
            ]  # fmt: skip
            names = [shelf.word_for(rng.choice(cards), tradition) for _ in range(rng.randint(2, LONGEST))]
            plain = piece(tradition, said(names))
            if not asks(plain):
                many += 1
                yield tradition, names, plain

    def assert_same(self, tradition: str, text: str, plain: Piece) -> None:
        other = piece(tradition, text)
        if sounds(other) != sounds(plain):
            self.assertTrue(asks(other), f"{tradition}: {text}: {sounds(other)}, not {sounds(plain)}")

    def test_each_step_twice_is_that_step_twice(self) -> None:
        """None of a name's own words is taken for something said of it."""
        shelf = shipped()
        for tradition in DANCED:
            for card in (c for c in shelf.cards if tradition in c.traditions and not c.retired):
                name = shelf.word_for(card, tradition)
                with self.subTest(f"{tradition}: {name}"):
                    one = piece(tradition, f"{name}, {name}")
                    if not asks(one):
                        self.assertEqual([use.card for use in one.parts[0].uses], [card, card])

    def test_in_a_row(self) -> None:
        for tradition, names, plain in self.lines(1, ", ".join):
            for way, said in IN_A_ROW.items():
                with self.subTest(way):
                    self.assert_same(tradition, said(names), plain)

    def test_on_counts(self) -> None:
        counted: Callable[[list[str]], str] = lambda w: "  ".join(f"{n} {x}" for n, x in enumerate(w, 1))  # noqa: E731
        for tradition, names, plain in self.lines(2, counted, single=True):
            for way, said in ON_COUNTS.items():
                with self.subTest(way):
                    self.assert_same(tradition, said(names), plain)

    def test_so_often(self) -> None:
        for tradition, names, plain in self.lines(3, lambda w: f"{w[0]} x3, {w[1]}"):
            for way, said in SO_OFTEN.items():
                with self.subTest(way):
                    self.assert_same(tradition, said(names), plain)

    def test_each_so_often(self) -> None:
        for tradition, names, plain in self.lines(5, lambda w: ", ".join(f"{x} x2" for x in w)):
            for way, said in OFTEN.items():
                with self.subTest(way):
                    self.assert_same(tradition, said(names), plain)

    def test_one_of_each(self) -> None:
        for tradition, names, plain in self.lines(6, ", ".join):
            for way, said in ONE_OF_EACH.items():
                with self.subTest(way):
                    self.assert_same(tradition, said(names), plain)

    def test_a_foot_on_each_count(self) -> None:
        def counted(names: list[str]) -> str:
            return "  ".join(f"{n} {'LR'[n % 2]} {x}" for n, x in enumerate(names, 1))

        for tradition, names, plain in self.lines(7, counted, single=True, footed=True):
            for way, said in FOOT_ON_COUNT.items():
                for right, left in CALLED_FEET:
                    text = ", ".join(said(x, (left, right)[n % 2], n) for n, x in enumerate(names, 1))
                    with self.subTest(way, foot=right):
                        self.assert_same(tradition, text, plain)

    def test_at_places(self) -> None:
        """Figures on divisions; "and three" before one of two sounds may be 3 alone: that is asked."""

        shelf = shipped()
        long = {shelf.word_for(card, t): len(card.beats) for t in DANCED for card in shelf.cards}

        def counts(names: list[str]) -> list[str]:
            return [{1: "", 2: "&", 3: "&a"}.get(long[name], "") + str(n) for n, name in enumerate(names, 1)]

        def counted(names: list[str]) -> str:
            return "  ".join(f"{c} {x}" for c, x in zip(counts(names), names, strict=True))

        for tradition, names, plain in self.lines(8, counted):
            for way, said in AT_PLACES.items():
                with self.subTest(way):
                    text = ", ".join(said(x, c) for x, c in zip(names, counts(names), strict=True))
                    self.assert_same(tradition, text, plain)

    def test_with_something_between_or_a_turn(self) -> None:
        for number, (plainly, ways) in enumerate(
            (("{}, hold, {}", HELD), ("{}, clap, {}", CLAPPED), ("{} 1/4 left, {}", TURNED)), start=10
        ):
            for tradition, names, plain in self.lines(number, lambda w, said=plainly: said.format(*w[:2])):
                for way, said in ways.items():
                    with self.subTest(way):
                        self.assert_same(tradition, said(*names[:2]), plain)

    def test_in_a_place(self) -> None:
        """What is said of one step, as "kick-front" says it."""
        rng = random.Random(9)
        for _ in range(2 * LINES):
            tradition, name, place = rng.choice(DANCED), rng.choice(GOES), rng.choice(PLACES)
            ways = THERE | ({"before": lambda x, d: f"{d} {x}, stamp"} if place != "side" else {})
            for way, said in ways.items():
                foot = "R " if "R" in said("", "") or "right" in said("", "") else ""
                plain = piece(tradition, f"{foot}{name.replace(' ', '-')}-{place}, stamp")
                with self.subTest(way):
                    self.assertEqual([s.place for s in plain.parts[0].sounds], [0, 1], (tradition, name, place))
                    self.assert_same(tradition, said(name, place), plain)

    def test_with_feet(self) -> None:
        for tradition, names, plain in self.lines(4, lambda w: f"R {w[0]}, L {w[1]}", footed=True):
            for way, said in WITH_FEET.items():
                with self.subTest(way):
                    self.assert_same(tradition, said(names), plain)


if __name__ == "__main__":
    unittest.main()
