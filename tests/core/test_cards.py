"""The shipped cards: what the trade says of each, and that each can be danced on both sides."""

import unittest
from difflib import get_close_matches
from fractions import Fraction
from itertools import pairwise, product

from tools.pack_cards import packed

from firn.core.meter.counting import Counting
from firn.core.piece.build import part_from
from firn.core.script.places import usual_places
from firn.core.script.settings import Settings
from firn.core.steps.card import CardError, card_from
from firn.core.steps.kinds import KINDS
from firn.core.steps.names import fold, nearest
from firn.core.steps.shelf import PACKED, TRADITIONS, Shelf, shipped
from tests.support import cases, feet, part, weights

NEEDS_BEFORE = {
    "double pull-back": "1 jump  2 double pull-back",
    "pull-back together": "1 jump  2 pull-back together",
    "land": "1 pickup  & land",
    "heel": "1 step  2 heel",
    "toe": "1 dig  2 toe",
    "shift": "1 touch  2 shift",
}


class TradeTest(unittest.TestCase):
    @cases(
        ("single time step", "8 1 2 &3 &", 6, 3, "other", "RLRLLR"),
        ("double time step", "8 1 &2 &3 &", 7, 3, "other", "RLRRLLR"),
        ("triple time step", "8 1 &a2 &3 &", 8, 3, "other", "RLRRRLLR"),
        ("shuffle hop step", "&1&2", 4, 1, "other", "RRLR"),
        ("paradiddle", "1e&a", 4, 1, "other", "RRRR"),
        ("cramp roll", "1e&a", 4, 2, "either", "RLRL"),
        ("buffalo", "1 &a 2", 4, 2, "same", "RLLL"),
        ("shuffle ball change", "&1 &2", 4, 2, "same", "RRRL"),
        ("flap ball change", "&1 &2", 4, 3, "other", "RRLR"),
        ("flap heel", "&a1", 3, 1, "other", "RRR"),
        ("shuffle", "&1", 2, 0, "same", "RR"),
        ("flap", "&1", 2, 1, "other", "RR"),
        ("slap", "&1", 2, 0, "same", "RR"),
        ("ball change", "&1", 2, 2, "same", "RL"),
        ("shuffle step", "&a1", 3, 1, "other", "RRR"),
        ("pickup change", "&1", 2, 1, "other", "LR"),
        ("landing roll", "&a1", 3, 1, "other", "RLR"),
        ("maxi ford", "1 &2 &3", 5, 2, "same", "RLLLR"),
        ("drawback", "&a1", 3, 1, "other", "RLR"),
        ("flap heel heel", "&1 &2", 4, 1, "other", "RRLR"),
        ("flap own heel heel", "&1 &2", 4, 2, "same", "RRRL"),
        ("reverse cramp roll", "1e&a", 4, 2, "either", "RLLR"),
        ("shuffle grab-off", "&1&2", 4, 1, "other", "RRLR"),
        ("cincinnati", "a1&a2", 5, 1, "other", "RLRRR"),
        ("riffle", "&a1", 3, 0, "same", "RRR"),
        ("landing roll heel", "&a1&", 4, 1, "other", "RLRR"),
        ("landing roll heel tip", "&a1&2", 5, 1, "other", "RLRRL"),
        ("stomp spank step", "1&2", 3, 1, "other", "RRR"),
        ("stomp spank ball change", "1&2&", 4, 2, "same", "RRRL"),
    )
    def test_tap(self, name: str, counts: str, sounds: int, changes: int, again: str, by_foot: str) -> None:
        """Sounds / changes of weight, feet and side: common practice, no source."""
        one = part(f"{counts} {name}")
        self.assertEqual(sum(s.heard for s in one.sounds), sounds)
        self.assertEqual(sum(s.changes_weight for s in one.sounds), changes)
        self.assertEqual(one.footing.again, again)
        self.assertEqual(feet(one), by_foot)
        card = shipped().find(name, "tap")
        assert card is not None
        self.assertEqual((card.sounds, card.weight_changes), (sounds, changes))

    def test_waltz_clog_in_three(self) -> None:
        """5 sounds, 3 changes in 3 counts, the other side next (common practice, no source)."""
        one = part("1 &2 &3 waltz clog", meter="3/4")
        self.assertEqual((one.counts, sum(s.heard for s in one.sounds), one.footing.again), (3, 5, "other"))
        self.assertEqual(sum(s.changes_weight for s in one.sounds), 3)
        self.assertEqual(feet(one), "RLLLR")

    def test_clogging(self) -> None:
        """DS RS is 5/3 and DS RS RS RS 9/7 (common practice, no source)."""
        for body, sounds, changes in (("&a1 DS  &2 RS", 5, 3), ("&a1 DS  &2 RS  &3 RS  &4 RS", 9, 7)):
            one = part(body, tradition="clogging")
            self.assertEqual(len(one.sounds), sounds)
            self.assertEqual(sum(s.changes_weight for s in one.sounds), changes)

    def test_rock_step_by_tradition(self) -> None:
        """&1 in clogging, 1 2 in swing (common practice, no source)."""
        self.assertEqual([str(s.place) for s in part("1 rock step", tradition="clogging").sounds], ["-1/2", "0"])
        self.assertEqual([str(s.place) for s in part("1 rock step", tradition="swing").sounds], ["0", "1"])

    def test_kicking_basic(self) -> None:
        """8 counts, 4 changes of weight on 1 2 4 8, the same foot again (common practice, no source)."""
        one = part("1 kicking basic", tradition="swing")
        self.assertEqual((one.counts, one.footing.again), (8, "same"))
        self.assertEqual([s.say for s in one.sounds if s.changes_weight], ["1", "2", "4", "8"])
        self.assertEqual([s.say for s in one.sounds if s.silent], ["3", "5", "6", "7"])

    def test_kick_ball_change_has_two_sounds(self) -> None:
        """The kick is silent, and it stays on its side (common practice, no source)."""
        one = part("1 a 2 kick ball change", tradition="swing")
        self.assertEqual((sum(s.heard for s in one.sounds), one.footing.again), (2, "same"))


class ShippedTest(unittest.TestCase):
    def test_the_pack_is_what_the_files_say(self) -> None:
        self.assertEqual(PACKED.read_text("utf-8"), packed(), "run tools/pack_cards.py")

    def test_every_card_dances_on_both_sides_in_its_usual_counts(self) -> None:
        for card in shipped().cards:
            for tradition in card.traditions or ("tap",):
                for lead, usual in product(("right", "left"), card.usual.get(tradition, card.usual[""])):
                    with self.subTest(card.name, tradition=tradition, lead=lead, usual=usual):
                        text = NEEDS_BEFORE.get(card.name, f"{usual} {card.name}")
                        one = part_from("A", text, Settings(tradition=tradition, lead=lead))
                        self.assertEqual((one.problems, one.uses[-1].card), ((), card))
                        self.assertEqual(len(one.sounds[-len(card.beats) :]), len(card.beats))
                        if card.name != "pickup":  # in the air until a landing
                            self.assertEqual(one.footing.faults, ())

    def test_sides_are_mirrored(self) -> None:
        swap = str.maketrans("LR", "RL")
        for card in shipped().cards:
            if card.primitive:
                continue
            with self.subTest(card.name):
                tradition = (card.traditions or ("tap",))[0]
                heads = (Settings(lead=lead, tradition=tradition) for lead in ("right", "left"))
                right, left = (part_from("A", card.name, head) for head in heads)
                self.assertEqual(feet(right), feet(left).translate(swap))
                self.assertEqual(weights(right), weights(left).translate(swap))

    def test_stand_ins_are_as_long_and_end_alike_or_say_how_they_differ(self) -> None:
        by_name = {c.name: c for c in shipped().cards}
        told = 0
        for card in shipped().cards:
            others = [by_name[name] for name in (card.simpler, card.harder) if name]
            tradition = (card.traditions or ("tap",))[0]
            danced = [part(c.name, tradition=tradition) for c in (card, *others)]
            ends = {(p.counts, p.footing.free, p.footing.again) for p in danced}
            with self.subTest(card.name):
                self.assertEqual(len(ends) > 1, bool(card.differs))
            told += len(others)
        self.assertGreaterEqual(told, 20)

    def test_what_comes_first_is_on_the_shelf(self) -> None:
        names = {c.name for c in shipped().cards}
        for card in shipped().cards:
            self.assertLessEqual({*card.first, *filter(None, (card.simpler, card.harder))}, names, card.name)

    def test_each_says_what_it_is_and_gives_a_tip(self) -> None:
        for card in shipped().cards:
            self.assertTrue(card.sentence and card.tips, card.name)

    @cases(
        ("tap", 45), ("clogging", 16), ("flatfoot", 12), ("folk stamping", 18), ("step dance", 18), ("solo jazz", 18),
        ("swing", 18), ("latin", 18), ("house", 10), ("floor work", 8), ("marking", 9),
    )  # fmt: skip
    def test_every_tradition_has_its_steps(self, tradition: str, least: int) -> None:
        self.assertGreaterEqual(sum(tradition in c.traditions for c in shipped().cards), least)

    def test_the_shelf_is_whole(self) -> None:
        self.assertGreaterEqual(len(shipped().cards), 160)
        spanish = {a.name for c in shipped().cards for a in c.also if a.language == "es"}
        self.assertLessEqual({"golpe", "tacón", "punta", "plano", "jalón", "remate de tres", "redoble"}, spanish)

    @cases(
        ("chain", "clogging", 9, 7),
        ("basic", "clogging", 5, 3),
        ("buck walk", "flatfoot", 2, 2),
        ("buck walk brush", "flatfoot", 3, 2),
        ("kicking basic", "swing", 4, 4),
        ("six-count basic", "swing", 8, 8),
        ("flick ball change", "swing", 2, 2),
        ("step back cross", "house", 3, 3),
        ("samba whisk", "latin", 3, 3),
    )
    def test_sounds_and_changes_of_weight(self, name: str, tradition: str, sounds: int, changes: int) -> None:
        """Common practice, no source."""
        card = shipped().find(name, tradition)
        assert card is not None
        self.assertEqual((card.sounds, card.weight_changes), (sounds, changes))

    def test_the_whisk_is_three_quarters_a_quarter_and_a_count(self) -> None:
        """The value of manuals of samba (common practice, no source at hand)."""
        one = part("samba whisk", tradition="latin")
        places = [s.position for s in one.sounds]
        self.assertEqual([b - a for a, b in pairwise(places)], [Fraction(3, 4), Fraction(1, 4)])

    def test_hands_know_their_side(self) -> None:
        """The hand that goes down and the leg that swings are opposite (common practice, no source)."""
        for lead, hand in (("right", "left"), ("left", "right")):
            one = part_from("A", "hand and kick", Settings(tradition="floor work", lead=lead))
            self.assertEqual(
                [(s.kind, s.hand, s.foot) for s in one.sounds[:2]], [("hand_down", hand, ""), ("kick", "", lead)]
            )

    @cases(
        ("said", "1 L snap", ["left"]),
        ("not said", "1 snap", ["either"]),
        ("both", "1 clap", ["both"]),
        ("leading", "1 2 3 4 5 6 hands in six", ["right", "left", "left", "right", "left", "left"]),
        ("left-handed", "1 2 3 4 5 6 L hands in six", ["left", "right", "right", "left", "right", "right"]),
    )
    def test_which_hand(self, _: str, text: str, hands: list[str]) -> None:
        self.assertEqual([s.hand for s in part(text, tradition="marking").sounds], hands)

    def test_usual_counts_fit_their_sounds(self) -> None:
        for card in shipped().cards:
            for tradition in (*TRADITIONS, ""):
                with self.subTest(card.name, tradition=tradition):
                    start, _ = usual_places(card, Counting(), tradition)
                    self.assertEqual(len(start), len(card.beats))
                    self.assertEqual(sorted(start), list(start))

    def test_every_kind_has_a_word(self) -> None:
        used = {beat.kind.name for card in shipped().cards for beat in card.beats}
        self.assertEqual(set(KINDS) - used, set())

    def test_names_are_found_by_any_alias_and_case(self) -> None:
        table = {
            "SHUFFLE Step": "shuffle step",
            "ball-change": "ball change",
            "Irish": "shuffle hop step",
            "grab-off": "pickup change",
            "ＦＬＡＰ": "flap",
            "tacón": "heel",
            "DS": "double step",
        }
        for name, card in table.items():
            found = shipped().find(name, "tap")
            self.assertEqual(found.name if found else None, card)

    def test_what_leaves_the_floor_has_a_caution(self) -> None:
        air = {"hop", "leap", "jump", "pickup"}
        for card in shipped().cards:
            if any(b.kind.name in air for b in card.beats):
                self.assertIn("warm", card.caution.lower(), card.name)

    def test_nearest(self) -> None:
        self.assertEqual(shipped().nearest("shufle")[0], "shuffle")
        self.assertEqual(shipped().nearest("zzzzqqqq"), ())

    def test_nearest_as_all_are_compared(self) -> None:
        """The standard library's matcher over all names, those with too few letters in common as well."""
        names = list(shipped().by_name)
        for slip in ("stpe", "sufle bal change", "stmop", "maxie for", "ddoouubbllee", "pull bak", "é", "s"):
            for cutoff in (0.5, 0.6):
                found = nearest(slip, names, cutoff=cutoff)
                self.assertEqual(found, tuple(get_close_matches(slip, names, 3, cutoff)), slip)

    def test_fold(self) -> None:
        self.assertEqual(fold("  Ball-\tChange "), "ball change")


class BadCardTest(unittest.TestCase):
    @cases(
        ("no name", {"sounds": ["step A"]}, "a card has no name"),
        ("no sounds", {"name": "x"}, "sounds must be a list"),
        ("sounds no list", {"name": "x", "sounds": "step A"}, "sounds must be a list"),
        ("unknown sound", {"name": "x", "sounds": ["stepp A"]}, 'no sound is called "stepp"'),
        ("counts in a name", {"name": "mambo on 2", "sounds": ["step A"]}, '"2" in a name'),
        ("no name", {"name": "x", "sounds": ["step A"], "aliases": ["y [es"]}, "no name such as"),
        ("too hard", {"name": "x", "sounds": ["step A"], "level": 4}, "1 to 3"),
        ("a foot for a hand", {"name": "x", "sounds": ["clap A"]}, '"A" after clap'),
        ("unknown other", {"name": "x", "sounds": ["hop W or fly"]}, '"fly"'),
        ("unknown foot", {"name": "x", "sounds": ["step Q"]}, '"Q" after step is none of A, B'),
        ("no usual counts", {"name": "x", "sounds": ["step A"], "usual": []}, "usual must be a list of counts"),
    )
    def test_says_what_was_expected(self, _: str, data: dict, message: str) -> None:
        with self.assertRaisesRegex(CardError, message):
            card_from(data)

    def test_counts_that_do_not_fit(self) -> None:
        card = card_from({"name": "odd", "sounds": ["brush A", "step A"], "usual": ["1"]})
        with self.assertRaisesRegex(ValueError, "do not match its sounds"):
            usual_places(card, Counting(), "tap")

    def test_first_card_of_a_name_wins_unless_tradition_says(self) -> None:
        one = card_from({"name": "rock", "sounds": ["step A"], "traditions": ["tap"]})
        two = card_from({"name": "rock", "sounds": ["step A", "step B"], "usual": ["1 2"], "traditions": ["swing"]})
        shelf = Shelf.of([one, two])
        self.assertIs(shelf.find("rock", "tap"), one)
        self.assertIs(shelf.find("rock", "swing"), two)
        self.assertIs(shelf.find("rock", "house"), one)


if __name__ == "__main__":
    unittest.main()
