"""A teacher's own cards: they come first, and a broken file or a doubled name is told and spoils nothing else."""

import unittest
from typing import ClassVar

from firn.core.library.make import table_of
from firn.core.piece.build import part_from
from firn.core.script.settings import Settings
from firn.core.steps.shelf import shipped
from firn.errors import FileFormatError
from firn.files.cards import bring_in_cards, read_cards, save_card, write_cards, write_example
from tests.support import FolderCase, cases

FLAP = '[[card]]\nname = "flap"\nsounds = ["spank A", "step A"]\nusual = ["a1"]\n'
SWING = '[[card]]\nname = "gate swing"\nsounds = ["brush A", "step A"]\nusual = ["&1"]\n'
SCOOT = '[[card]]\nname = "scoot"\naliases = ["sco"]\ntraditions = ["clogging"]\nsounds = ["chug W"]\n'


class OwnCardsTest(FolderCase):
    def write(self, **files: str) -> None:
        for file in self.folder.glob("*.toml"):
            file.unlink()
        for name, text in files.items():
            (self.folder / f"{name}.toml").write_text(text, "utf-8")

    def test_no_folder_no_cards(self) -> None:
        own = read_cards(self.folder / "nowhere")
        self.assertEqual((own.cards, own.faults), ((), ()))
        self.assertIs(own.shelf, shipped())

    def test_own_cards_come_before_the_shipped_ones(self) -> None:
        self.write(mine=FLAP)
        shelf = read_cards(self.folder).shelf
        for tradition in ("tap", "house"):
            one = part_from("A", "1 flap  2 step", Settings(tradition=tradition), shelf)
            self.assertEqual([(s.kind, s.say) for s in one.sounds], [("spank", "a"), ("step", "1"), ("step", "2")])
        self.assertEqual([s.kind for s in part_from("A", "1 flap", Settings()).sounds], ["brush", "step"])

    def test_a_card_of_another_tradition_leaves_this_one_alone(self) -> None:
        self.write(mine=SCOOT.replace('"scoot"', '"flap"'))
        shelf = read_cards(self.folder).shelf
        found = [shelf.find("flap", t) for t in ("tap", "clogging")]
        self.assertEqual([len(c.beats) for c in found if c], [2, 1])

    @cases(
        ("broken", "[[card]\nname =", "mine.toml is broken: .*line 1"),
        ("no card", "name = 'x'", r"mine.toml holds no \[\[card\]\]"),
        ("cards that are none", "card = [1]", r"must begin with \[\[card\]\]"),
        ("a word that means nothing", SCOOT + "sound = 1", 'nothing is called "sound"'),
        ("a number for words", SCOOT + "sentence = 1", "sentence must be words in quotes"),
        ("words for a number", SCOOT + 'floor = "slow"', "floor must be a whole number"),
        ("a word for words", SCOOT + 'remedies = "relax"', "remedies must be a list of words"),
        ("no tradition", SCOOT.replace("clogging", "polka"), 'no tradition is called "polka"'),
        ("counts that do not fit", FLAP.replace("a1", "1"), "its usual counts do not match its sounds"),
        ("counts that are none", SCOOT + "usual = [1]", "usual must be a list of counts"),
    )
    def test_one_sentence_and_the_others_are_read(self, _: str, text: str, message: str) -> None:
        self.write(mine=text, other=FLAP.replace("flap", "flop"))
        own = read_cards(self.folder)
        self.assertEqual([c.name for c in own.cards], ["flop"])
        self.assertEqual(len(own.faults), 1, own.faults)
        self.assertRegex(own.faults[0], message)

    def test_not_text(self) -> None:
        (self.folder / "mine.toml").write_bytes(b"\xff\xfe\x00")
        self.assertRegex(read_cards(self.folder).faults[0], "mine.toml is no UTF-8 text")

    def test_two_cards_of_one_name(self) -> None:
        self.write(a=SCOOT, b=SCOOT.replace('"scoot"', '"Sco"').replace('"sco"', '"scu"').replace("chug", "slide"))
        own = read_cards(self.folder)
        self.assertEqual([c.beats[0].kind.name for c in own.cards], ["chug"])
        self.assertEqual(own.faults, ('b.toml: "sco" names a card in a.toml already; that one is used.',))

    def test_the_example_reads(self) -> None:
        folder = self.folder / "cards"
        write_example(folder)
        own = read_cards(folder)
        self.assertEqual((len(own.cards), own.faults), (1, ()))
        one = part_from("A", "1 gate swing", Settings(), own.shelf)
        self.assertEqual((one.problems, one.footing.faults, len(one.sounds)), ((), (), 3))


class SaveTest(FolderCase):
    TABLE: ClassVar = {"name": "gate swing", "sounds": ["brush A", "step A"], "usual": ["&1"], "traditions": ["tap"]}

    def test_kept_changed_and_renamed(self) -> None:
        save_card(self.folder, self.TABLE)
        save_card(self.folder, self.TABLE | {"tips": ["Low."]}, "gate swing")
        path = save_card(self.folder, self.TABLE | {"name": "latch"}, "gate swing")
        self.assertEqual(path.name, "gate-swing.toml")
        read = read_cards(self.folder)
        self.assertEqual([(c.name, c.tips) for c in read.cards], [("latch", ())])

    def test_notes_and_neighbours_in_the_file_stay(self) -> None:
        (self.folder / "mine.toml").write_text(f"# ours since the summer\n{FLAP}\n# the other one\n{SWING}", "utf-8")
        save_card(self.folder, self.TABLE | {"sentence": "Swing."}, "gate swing")
        text = (self.folder / "mine.toml").read_text("utf-8")
        self.assertIn("# ours since the summer", text)
        self.assertIn("# the other one", text)
        self.assertEqual([c.name for c in read_cards(self.folder).cards], ["flap", "gate swing"])

    @cases(
        ("no name", {"name": ""}, "A card has no name"),
        ("a sound that is none", {"sounds": ["jumpp A"]}, 'no sound is called "jumpp"'),
        ("counts that do not fit", {"usual": ["1"]}, "do not match its sounds"),
        ("no sound", {"sounds": []}, "sounds must be a list"),
    )
    def test_refused_and_nothing_is_written(self, _: str, change: dict, message: str) -> None:
        with self.assertRaisesRegex(FileFormatError, message):
            save_card(self.folder, self.TABLE | change)
        self.assertEqual(list(self.folder.iterdir()), [])

    def test_another_card_of_that_name(self) -> None:
        save_card(self.folder, self.TABLE)
        with self.assertRaisesRegex(FileFormatError, "called .gate swing. already, in gate-swing.toml"):
            save_card(self.folder, self.TABLE)

    def test_written_out_and_brought_in(self) -> None:
        write_cards(self.folder / "all.toml", [table_of(c) for c in shipped().cards])
        folder = self.folder / "hers"
        self.assertEqual(bring_in_cards(folder, self.folder / "all.toml"), len(shipped().cards))
        self.assertEqual(bring_in_cards(folder, self.folder / "all.toml"), len(shipped().cards))
        self.assertEqual(sorted(f.name for f in folder.iterdir()), ["all-2.toml", "all.toml"])

    @cases(
        ("broken", "[[card]\nname", "is broken: .* line 1"),
        ("no card", "name = 1", "holds no"),
        ("one of them cannot be danced", FLAP + FLAP.replace("spank A", "spunk A"), 'no sound is called "spunk"'),
    )
    def test_a_bad_file_is_not_brought_in(self, _: str, text: str, message: str) -> None:
        (self.folder / "bad.toml").write_text(text, "utf-8")
        with self.assertRaisesRegex(FileFormatError, message):
            bring_in_cards(self.folder / "hers", self.folder / "bad.toml")
        self.assertFalse((self.folder / "hers").exists())


if __name__ == "__main__":
    unittest.main()
