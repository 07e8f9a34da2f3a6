"""Which take says what a dancer's shoes sound like: the last clean one of hers in them."""

import unittest

from msgspec.structs import replace

from firn.core.book.book import Book, Take
from firn.core.book.log import LogEntry
from firn.errors import FirnError
from firn.session.shoes import clean_before, kinds_named
from tests.support import cases

TAKE = Take("now", "p", "a", "Now", "", "", 48_000, 0, 100.0, shoes="black", floor="hall", student="k1")


def logged(number: int, take: Take, how: str) -> LogEntry:
    return LogEntry(str(number), f"2026-11-0{number}", "Lamp, A", "a", "right", 100.0, how, take=take.id)  # type: ignore[arg-type]


class CleanBeforeTest(unittest.TestCase):
    @cases(
        ("clean", {}, "clean", True),
        ("no more than a slip", {}, "slip", False),
        ("of somebody else", {"student": "k2"}, "clean", False),
        ("in other shoes", {"shoes": "white"}, "clean", False),
        ("on another floor", {"floor": "board"}, "clean", False),
        ("of claps", {"heard": "claps"}, "clean", False),
        ("of another piece", {"piece": "q"}, "clean", False),
        ("by the simulated student", {"source": "simulated"}, "clean", False),
    )
    def test_of_the_same_dancer_shoes_and_floor(self, _: str, other: dict[str, str], how: str, taken: bool) -> None:
        before = replace(TAKE, id="before", **other)
        book = Book(takes=(before, TAKE), log=(logged(1, before, how),))
        self.assertEqual(clean_before(book, TAKE), before if taken else None)

    def test_the_last_and_never_itself(self) -> None:
        first, second = replace(TAKE, id="first"), replace(TAKE, id="second")
        log = (logged(1, first, "clean"), logged(2, second, "clean"), logged(3, TAKE, "clean"))
        self.assertEqual(clean_before(Book(takes=(first, second, TAKE), log=log), TAKE), second)
        # A line of the log whose take has gone says nothing.
        self.assertEqual(clean_before(Book(takes=(first, TAKE), log=log), TAKE), first)


class NamedTest(unittest.TestCase):
    def test_by_any_of_their_names(self) -> None:
        self.assertEqual(kinds_named("heels, Step,stamp ,brush, claps"), ["heel", "ball", "flat", "airy", "hand"])

    @cases(("",), ("heel",), ("heel, gong",), ("brush, spank",), (",,",))
    def test_what_says_no_order(self, said: str) -> None:
        with self.assertRaises(FirnError):
            kinds_named(said)


if __name__ == "__main__":
    unittest.main()
