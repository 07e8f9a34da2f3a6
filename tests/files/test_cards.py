"""A teacher's own cards: they come first, and a broken file or a doubled name is told and spoils nothing else."""

import unittest

from firn.core.piece.build import part_from
from firn.core.script.settings import Settings
from firn.core.steps.shelf import shipped
from firn.files.cards import read_cards, write_example
from tests.support import FolderCase, cases

FLAP = '[[card]]\nname = "flap"\nsounds = ["spank A", "step A"]\nusual = ["a1"]\n'
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


if __name__ == "__main__":
    unittest.main()
