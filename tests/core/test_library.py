"""Finding steps, and telling two of them apart."""

import unittest
from fractions import Fraction

from firn.core.library.compare import differences, facts, in_words
from firn.core.library.make import table_of, table_of_sounds
from firn.core.library.search import RhythmError, Wanted, rhythm_fit, search, wanted_rhythm
from firn.core.piece.build import part_from
from firn.core.script.settings import Settings
from firn.core.steps.card import Card, CardError, card_from
from firn.core.steps.shelf import Shelf, shipped
from tests.core.test_cards import NEEDS_BEFORE
from tests.support import cases, part


def names(**wanted: object) -> list[str]:
    return [f.card.name for f in search(shipped(), Wanted(**wanted))]


def card(name: str) -> Card:
    found = shipped().find(name, "")
    assert found is not None
    return found


class WordTest(unittest.TestCase):
    @cases(
        ("its name first", {"text": "shuffle"}, "shuffle"),
        ("an alias", {"text": "para"}, "paradiddle"),
        ("an accent", {"text": "TACÓN"}, "heel"),
        ("a language", {"text": "remate", "language": "es"}, "remate of three"),
        ("of its tradition", {"text": "triple", "tradition": "clogging"}, "clogging triple"),
        ("a slip", {"text": "padiddle"}, "paradiddle"),
    )
    def test_first_of_what_is_found(self, _: str, wanted: dict, first: str) -> None:
        self.assertEqual(names(**wanted)[0], first)

    @cases(
        ("tradition", {"tradition": "house"}, lambda c: not c.traditions or "house" in c.traditions),
        ("level", {"level": 3}, lambda c: c.level == 3),
        ("sounds", {"sounds": 7}, lambda c: c.sounds == 7),
        ("language", {"language": "es"}, lambda c: any(a.language == "es" for a in c.also)),
    )
    def test_all_and_only_those(self, _: str, wanted: dict, holds: object) -> None:
        found = {f.card for f in search(shipped(), Wanted(**wanted))}
        self.assertEqual(found, {c for c in shipped().cards if holds(c)})
        self.assertTrue(found)

    def test_found_by_the_name_that_was_typed(self) -> None:
        self.assertEqual(search(shipped(), Wanted(text="golpe"))[0].name, "golpe")

    def test_stance_before_and_after(self) -> None:
        """A flick that crosses ends crossed; a brush leaves its foot off the floor (common practice, no source)."""
        self.assertIn("Stance: together before, crossed after.", in_words(facts(card("flick cross"))))
        self.assertIn("Afterwards the right foot off the floor.", in_words(facts(card("shuffle"))))
        self.assertIn("Afterwards the right foot flat, the left foot flat.", in_words(facts(card("cramp roll"))))
        with self.assertRaisesRegex(CardError, "stance must be two of together"):
            card_from({"name": "gate swing", "sounds": ["brush A"], "stance": ["wide", "together"]})
        self.assertEqual(card_from(table_of(card("flick cross"))).stance, ("together", "crossed"))

    def test_nothing(self) -> None:
        self.assertEqual(names(text="zzzzqqqq"), [])

    def test_what_is_no_longer_offered_is_found_by_its_name_alone(self) -> None:
        own = card_from({"name": "gate swing", "sounds": ["brush A"], "retired": True})
        shelf = Shelf.of([], own=[own])
        self.assertEqual([search(shelf, Wanted()), len(search(shelf, Wanted(text="gate")))], [[], 1])

    def test_own_cards_come_first(self) -> None:
        own = card_from({"name": "shuffle off", "sounds": ["brush A"]})
        found = search(Shelf.of(shipped().cards, own=[own]), Wanted(text="shuff"))
        self.assertEqual(found[0].card.name, "shuffle off")


class RhythmTest(unittest.TestCase):
    @cases(
        ("the same", "&a1", "&a1", "same"),
        ("a count later", "&a3", "&a1", "same"),
        ("elsewhere in the count", "1 e &", "&a1", "shifted"),
        ("the end of a longer one", "1 &a2", "&a1", "end"),
        ("another gap", "& 1", "a1", ""),
        ("longer than it", "1", "& 1", ""),
        ("only its beginning", "&a1 &", "&a1", ""),
    )
    def test_fits(self, _: str, rhythm: str, wanted: str, fit: str) -> None:
        self.assertEqual(rhythm_fit(wanted_rhythm(rhythm), wanted_rhythm(wanted)), fit)

    def test_what_else_goes_so(self) -> None:
        """&a1: double step, shuffle step, flap heel and the buck walk of three (common practice, no source)."""
        found = search(shipped(), Wanted(rhythm="& a 1"))
        same = {f.card.name for f in found if f.fit == "same"}
        self.assertLessEqual({"double step", "shuffle step", "flap heel", "buck walk brush", "treble step"}, same)
        self.assertIn("stomp double", {f.card.name for f in found if f.fit == "end"})
        self.assertEqual([f.fit for f in found], sorted((f.fit for f in found), key=("same", "shifted", "end").index))

    def test_silent_moves_do_not_count(self) -> None:
        """A kick ball change sounds on a and 2 alone (common practice, no source)."""
        self.assertIn("kick ball change", names(rhythm="a 2", tradition="swing"))

    @cases(("words", "step"), ("a bracket", "(1 2"), ("a word after", "& a 1 shuffle"))
    def test_refused(self, _: str, text: str) -> None:
        with self.assertRaises(RhythmError):
            wanted_rhythm(text)


class CompareTest(unittest.TestCase):
    @cases(
        ("weight", "flap", "slap", "Where flap has a step, slap has a touch."),
        ("one more", "single time step", "double time step", "Only double time step has a brush."),
        ("at the end", "landing roll", "landing roll heel", "Only landing roll heel has a heel at the end."),
        ("feet", "cramp roll", "reverse cramp roll", "They have the same sounds, on other feet."),
        ("order", "tacon y punta", "punta y tacon", "They have the same sounds in another order."),
        (
            "counts",
            "shuffle step",
            "shuffle ball change",
            "Shuffle step is danced on &a1, shuffle ball change on &1 &2.",
        ),
        ("who carries", "flap", "slap", "After flap the left foot is free, after slap the right foot is free."),
        ("side", "flap", "slap", "Flap: danced again it changes sides. Slap: danced again it stays on its side."),
        ("alike", "chain", "joey", "They sound the same."),
    )
    def test_said(self, _: str, one: str, two: str, sentence: str) -> None:
        self.assertIn(sentence, differences(card(one), card(two)))

    def test_facts(self) -> None:
        """Cramp roll: four sounds, two changes of weight, both feet down (common practice, no source)."""
        known = facts(card("cramp roll"))
        self.assertEqual((known.counts, known.sounds, known.changes, known.carries), (1, 4, 2, "both"))
        said = " ".join(in_words(facts(card("flap"))))
        self.assertIn("2 sounds, 1 change of weight, 1 count.", said)
        self.assertIn("On the beat: the step.", said)


class MakeTest(unittest.TestCase):
    def test_every_shipped_card_is_written_and_read_back(self) -> None:
        for one in shipped().cards:
            again = card_from(table_of(one))
            for field in one.__struct_fields__:
                self.assertEqual(getattr(again, field), getattr(one, field), one.name)

    def test_a_card_made_of_its_sounds_dances_alike(self) -> None:
        for one in shipped().cards:
            if one.name in NEEDS_BEFORE or one.name == "pickup":
                continue
            settings = Settings(tradition=(one.traditions or ("tap",))[0])
            first = part_from("A", f"{one.usual_for(settings.tradition)} {one.name}", settings)
            made = card_from(table_of_sounds(first, Fraction(-20), Fraction(99)) | {"name": "made thing"})
            text = f"{made.usual_for(settings.tradition)} made thing"
            second = part_from("A", text, settings, Shelf.of([], own=[made]))
            with self.subTest(one.name):
                danced = [[(s.kind, s.foot, s.weight, s.hand) for s in p.sounds] for p in (first, second)]
                self.assertEqual(*danced)

    def test_of_a_stretch(self) -> None:
        table = table_of_sounds(part("8 stomp  1 hop  2 step  &3 flap  & step"), Fraction(1), Fraction(3))
        self.assertEqual((table["sounds"], table["usual"]), (["step A", "brush B", "step B", "step A"], ["1 &2 &"]))

    def test_of_nothing(self) -> None:
        with self.assertRaisesRegex(CardError, "No sound is selected"):
            table_of_sounds(part("1 step"), Fraction(4), Fraction(8))


if __name__ == "__main__":
    unittest.main()
