"""Which take or clip says what a dancer's shoes sound like: the last clean one of hers; what was taken off it."""

import unittest

import soundfile
from msgspec.structs import replace

from firn.core.book.book import Book, Take
from firn.core.book.clips import Clip
from firn.core.book.log import LogEntry
from firn.core.piece.piece import Part
from firn.errors import FirnError
from firn.session.drafting import heard_in
from firn.session.shoes import clean_before, kinds_named, shoes_of_clip
from tests import shoes, takes
from tests.studio import Studio
from tests.support import FolderCase, cases, part

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


class ClipTest(FolderCase):
    """What is confirmed of a clip says what the rest of it sounds like."""

    LINE = "1 step  & brush  2 step  & heel  3 brush  & step  4 heel  5 clap"
    STRUCK = ("ball", "brush", "ball", "heel", "brush", "ball", "heel", "hand")

    def setUp(self) -> None:
        super().setUp()
        if takes.hits_folder() is None:
            self.skipTest("the recorded hits (sonic-pi-samples) could not be had")
        self.path = self.folder / "evening.wav"
        places = (0, 0.5, 1, 1.5, 2, 2.5, 3, 4)
        placed = [(1 + 8 * n * 0.6 + p * 0.6, k) for n in range(4) for p, k in zip(places, self.STRUCK, strict=True)]
        soundfile.write(self.path, Studio(2).take(placed)[0], shoes.RATE)

    def clip(self, text: str) -> tuple[Clip, Part]:
        """Its first sixteen counts tied to a part of a text, some 20 ms early as a hand ties them."""
        return Clip("c", "p", "a", str(self.path), 0, "", 0.5, 10.0, (0.0, 16.0), (0.98, 10.58)), part(text)

    def test_of_the_rest_of_the_clip(self) -> None:
        known = shoes_of_clip(self.path, [self.clip(f"{self.LINE}  6-8 hold\n{self.LINE}  6-8 hold")])
        self.assertEqual(set(known.kinds), {"ball", "airy", "heel"})
        taps, said = heard_in(self.path, 10.2, 20.0, shoes=known)
        words = [tap.word for tap in taps]
        self.assertGreaterEqual(words.count("brush") + words.count("heel"), 7)
        self.assertIn("by the parts that were taken off this clip", said)
        plain, _ = heard_in(self.path, 10.2, 20.0)
        self.assertEqual({tap.word for tap in plain}, {"step"})

    @cases(
        ("none", ()), ("all alike", ("1 step  2 step  3 step  4 step",)), ("too few", ("1 step  2 heel  3 brush",))
    )
    def test_what_says_too_little(self, _: str, texts: tuple[str, ...]) -> None:
        self.assertIsNone(shoes_of_clip(self.path, [self.clip(text) for text in texts]))

    def test_a_clip_that_has_gone(self) -> None:
        self.assertIsNone(shoes_of_clip(self.folder / "gone.wav", [self.clip(self.LINE)]))


class NamedTest(unittest.TestCase):
    def test_by_any_of_their_names(self) -> None:
        self.assertEqual(kinds_named("heels, Step,stamp ,brush, claps"), ["heel", "ball", "flat", "airy", "hand"])

    @cases(("",), ("heel",), ("heel, gong",), ("brush, spank",), (",,",))
    def test_what_says_no_order(self, said: str) -> None:
        with self.assertRaises(FirnError):
            kinds_named(said)


if __name__ == "__main__":
    unittest.main()
