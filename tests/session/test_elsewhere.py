"""Parts brought from other pieces: they dance as they did there. How pieces differ is Firn's own grammar."""

import random
import unittest

from firn.core.book.book import Book, BookPart, BookPiece, piece_of_script
from firn.core.steps.shelf import shipped
from firn.errors import StoreError
from firn.files.store import look_into, new_store
from firn.session.desk import read_in
from firn.session.elsewhere import PartElsewhere, brought, found_in, parts_elsewhere
from tests.support import DATA, FolderCase, cases


def piece(head: str, *texts: str, names: str = "ABCD") -> BookPiece:
    body = "".join(f"\npart {name}\n{text}\n" for name, text in zip(names, texts, strict=False))
    return piece_of_script(f"{head}\n{body}", [f"{head}{n}" for n in range(9)])


def danced(one: BookPiece, part: BookPart) -> list[tuple]:
    """What is danced, up to the foot that it begins with."""
    sounds = read_in(one, part, part.text, shipped()).sounds
    first = next((s.foot for s in sounds if s.foot in ("left", "right")), "")
    return [(s.say, s.kind, s.foot in ("left", "right") and s.foot == first) for s in sounds]


class BroughtTest(unittest.TestCase):
    @cases(
        ("as it is", "piece: There", "piece: Here", "1 step  2 flap", "1 step  2 flap"),
        ("on the other lead", "piece: There\nlead: left", "piece: Here", "1 step  2 flap", "1 step  2 flap"),
        (
            "another meter", "piece: There\nmeter: 3/4", "piece: Here",
            "1 step 3 step", "meter: 3/4\n1 step 3 step",
        ),
        (
            "another phrase", "piece: There\nphrase: 6 counts", "piece: Here",
            "6 step 1 step", "phrase: 6 counts\n6 step 1 step",
        ),
        (
            "another tradition", "piece: There\ntradition: clogging", "piece: Here",
            "1 basic", "1 clogging-basic",
        ),
        ("a word of its own", "piece: There\nwords: buck is flap", "piece: Here", "1 buck 2 step", "&1 flap  2 step"),
    )  # fmt: skip
    def test_it_dances_as_it_did(self, _: str, there: str, here: str, text: str, written: str) -> None:
        theirs, ours = piece(there, text), piece(here, "1 stamp")
        part, said = brought(PartElsewhere(theirs, theirs.parts[0]), ours, shipped())
        self.assertEqual(danced(ours, part), danced(theirs, theirs.parts[0]), part.text)
        self.assertEqual((part.name, part.text), ("A 2", written))
        self.assertIn("A of There is here as A 2.", said)

    def test_what_cannot_be_read_here_is_said(self) -> None:
        theirs = piece("piece: There", "1 stamp", "1 Opening x2", names=["Opening", "B"])
        ours = piece("piece: Here", "1 step")
        part, said = brought(PartElsewhere(theirs, theirs.parts[1]), ours, shipped())
        self.assertEqual(part.text, "1 Opening x2")
        self.assertIn("Look it over: not all of it reads here as it did there.", said)

    def test_random_parts_between_random_pieces(self) -> None:
        """Two hundred: each dances as it did, or it is said that it may not."""
        chance = random.Random(8)
        words = ["step", "flap", "shuffle", "stamp", "hop", "heel toe", "ball change", "stomp", "basic", "triple"]
        heads = ["", "meter: 3/4", "meter: 6/8", "tradition: clogging", "tradition: swing", "lead: left",
                 "phrase: 6 counts", "feel: swing"]  # fmt: skip
        kept = 0
        for _ in range(200):
            there, here = (f"piece: {name}\n{chance.choice(heads)}" for name in ("There", "Here"))
            text = "\n".join(
                "  ".join(f"{n} {chance.choice(words)}" for n in (1, 3, 5)) for _ in range(chance.randint(1, 2))
            )
            theirs, ours = piece(there, text), piece(here, "1 stamp")
            part, said = brought(PartElsewhere(theirs, theirs.parts[0]), ours, shipped())
            problems = read_in(theirs, theirs.parts[0], text, shipped()).problems
            if "Look it over" in said or problems:
                continue
            kept += 1
            old = danced(theirs, theirs.parts[0])
            self.assertEqual(danced(ours, part), old, (there, here, text, part.text))
        self.assertGreater(kept, 100)


class FoundTest(FolderCase):
    def test_all_that_hold_something_but_here(self) -> None:
        one, two = piece("piece: One", "1 step", ""), piece("piece: Two", "1 flap")
        book = Book(pieces=(one, two))
        self.assertEqual([p.said for p in parts_elsewhere(book)], ["One, A:  1 step", "Two, A:  1 flap"])
        self.assertEqual([p.said for p in parts_elsewhere(book, one.id)], ["Two, A:  1 flap"])
        self.assertEqual([p.piece for p in found_in(parts_elsewhere(book), "two FLAP")], [two])
        self.assertEqual(found_in(parts_elsewhere(book), "two step"), [])

    def test_another_workbook_is_looked_into_and_left(self) -> None:
        path = self.folder / "old.firn"
        new_store(path, Book(pieces=(piece("piece: One", "1 step"),))).close()
        before = path.read_bytes()
        self.assertEqual([p.said for p in parts_elsewhere(look_into(path))], ["One, A:  1 step"])
        self.assertEqual(path.read_bytes(), before)

    def test_of_every_version_and_as_it_was(self) -> None:
        files = sorted(DATA.glob("workbook-v*.sqlite"))
        self.assertGreater(len(files), 3)
        for file in files:
            with self.subTest(file.name):
                path = self.folder / file.name
                path.write_bytes(file.read_bytes())
                self.assertTrue(look_into(path).pieces)
                self.assertEqual(path.read_bytes(), file.read_bytes())

    def test_while_it_is_open(self) -> None:
        path = self.folder / "open.firn"
        store = new_store(path, Book(pieces=(piece("piece: One", "1 step"),)))
        self.assertEqual(len(look_into(path).pieces), 1)
        store.close()

    def test_what_is_none_is_said(self) -> None:
        (self.folder / "empty.firn").touch()
        self.assertEqual(look_into(self.folder / "empty.firn"), Book())
        self.assertEqual((self.folder / "empty.firn").stat().st_size, 0)
        (self.folder / "text.firn").write_text("steps" * 100)
        (self.folder / "cut.firn").write_bytes(sorted(DATA.glob("workbook-v*.sqlite"))[-1].read_bytes()[:9_000])
        for name in ("text.firn", "gone.firn", "cut.firn"):
            with self.subTest(name), self.assertRaises(StoreError):
                look_into(self.folder / name)


if __name__ == "__main__":
    unittest.main()
