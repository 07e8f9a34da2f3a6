"""The ledgers: counts, feet and joins; every finding with a part that has it and one that has not."""

import unittest
from string import Formatter

from firn.core.piece.build import part_from, piece_from
from firn.core.piece.unfold import unfold
from firn.core.reading.density import shortest_gap
from firn.core.reading.kinds import KINDS
from firn.core.reading.read import check_combo, check_part
from firn.core.reading.sentences import _LABELS, label, sentence
from firn.core.reading.style import Asked
from firn.core.reading.walls import facing
from firn.core.script.changes import changed_text
from firn.core.script.settings import Settings
from firn.core.steps.card import card_from
from firn.core.steps.shelf import Shelf, shipped
from tests.support import F, cases, part, piece


def found(body: str, **head: str) -> dict[str, str]:
    """The sentences of a part's findings by code."""
    return {f.code: sentence(f) for f in check_part(part(body, **head))}


TIME_STEPS = "8 single time step x2"
OVER_SIX = "1 rock step 3 & 4 triple step 5 & 6 triple step"


class CountsTest(unittest.TestCase):
    @cases(
        ("fills", TIME_STEPS, "fills", "off_phrase"),
        ("half a phrase", "8 single time step", "fills_part", "off_phrase"),
        ("one short", "1 step 2-7 hold", "off_phrase", "fills"),
        ("a gap", "1 step 2 step 4 step 5-8 hold", "empty_count", "off_phrase"),
        ("hold fills the gap", "1 step 2 step 3 hold 4 step 5-8 hold", "fills", "empty_count"),
    )
    def test_ledger(self, _: str, body: str, has: str, has_not: str) -> None:
        codes = found(body, phrase="8 counts")
        self.assertIn(has, codes)
        self.assertNotIn(has_not, codes)

    def test_kicking_basic_without_its_hold(self) -> None:
        """7 counts: repeats start on 1 8 7 6 5 4 3 2 and on 1 again after 8 (common practice, no source)."""
        body = "1 rock step  3 kick  4 step  5 kick  6 kick  7 step"
        one = part(body, tradition="swing")
        self.assertEqual(one.counts, 7)
        finding = next(f for f in check_part(one) if f.code == "off_phrase")
        self.assertEqual((finding.values["by"], finding.values["way"]), (1, "short"))
        self.assertEqual((finding.values["times"], finding.values["all"]), (8, 56))
        starts = [(int(one.first_count) + n * one.counts) % 8 + 1 for n in range(9)]
        self.assertEqual(starts, [1, 8, 7, 6, 5, 4, 3, 2, 1])
        self.assertEqual(finding.values["begins"], "8, 7, 5, 1")

    def test_kicking_basic_with_its_hold_fills(self) -> None:
        self.assertIn("fills", found("1 rock step 3 kick 4 step 5 kick 6 hold 7 kick 8 step", tradition="swing"))

    def test_six_against_eight(self) -> None:
        """A figure of six counts (8 changes of weight) against eights: 24 counts (common practice, no source)."""
        one = part(OVER_SIX, tradition="swing", phrase="8 counts")
        self.assertEqual((one.counts, sum(s.changes_weight for s in one.sounds)), (6, 8))
        finding = next(f for f in check_part(one) if f.code == "off_phrase")
        self.assertEqual(finding.values["all"], 24)

    def test_hold_mend_fills_the_gap(self) -> None:
        one = part("1 step  2 step\n5 step  6-8 hold")
        finding = next(f for f in check_part(one) if f.code == "empty_count")
        self.assertEqual(label(finding.mends[0]), "write 3-4 hold")
        mended = changed_text(one.script.text, finding.mends[0].changes)
        self.assertEqual(mended.split("\n")[0], "1 step  2 step  3-4 hold")
        self.assertNotIn("empty_count", found(mended))

    def test_an_unknown_word_is_no_gap(self) -> None:
        read = piece("1 step 2 shufle 3 step 4 step", phrase="4 counts")
        self.assertNotIn("empty_count", [f.code for f in check_part(read.parts[0])])

    def test_no_sounds_no_ledger(self) -> None:
        self.assertEqual(check_part(piece("# nothing yet").parts[0]), [])


class FeetTest(unittest.TestCase):
    @cases(
        ("same", "1 step 2 step", "again_same"),
        ("other", "1 step", "again_other"),
        ("either", "1 jump", "again_either"),
        ("neither", "1 touch 2 R step", "again_other"),
    )
    def test_repeat(self, _: str, body: str, code: str) -> None:
        self.assertIn(code, found(body))

    def test_what_cannot_be_danced_comes_first(self) -> None:
        findings = check_part(part("1 stamp & heel 2 step 4 step"))
        self.assertEqual(
            [f.level for f in findings], sorted((f.level for f in findings), key=["bad", "look", "ok"].index)
        )
        self.assertEqual(findings[0].sound, 1)

    @cases(
        ("carries", "1 R step 2 R step", "step on 2: the right foot carries the weight, so it cannot step."),
        ("already_down", "1 stamp & heel 2 step", "heel on & after 1: the right heel is already down."),
        ("in_the_air", "1 step 2 pickup", "pickup on 2 leaves the floor and does not land."),
        ("not_carrying", "1 step 2 L hop", "hop on 2: the left foot does not carry the weight, so it cannot hop."),
    )
    def test_sentences(self, code: str, body: str, said: str) -> None:
        self.assertEqual(found(body)[code], said)

    def test_a_card_is_spelled_out_where_one_sound_changes(self) -> None:
        one = part("&1 flap  2 R step  3 L step")
        texts = [changed_text(one.script.text, m.changes) for f in check_part(one) for m in f.mends if m.changes]
        self.assertIn("& R brush  1 touch  2 R step  3 L step", texts)

    def test_every_sentence_and_label_can_be_said(self) -> None:
        fields = {
            name: spec
            for text in (*(k.sentence for k in KINDS.values()), *_LABELS.values())
            for _, name, spec, _ in Formatter().parse(text)
            if name
        }
        numbers = {name for name, spec in fields.items() if spec} | {"off", "many", "phrases", "phrase"}
        words = {*fields, *["counts", "sounds", "syllables", "said", "turn", "foot", "becomes", "kind"]} - numbers
        values: dict = dict.fromkeys(words, "2") | dict.fromkeys(numbers, 2) | {"why": "takes"}
        from firn.core.reading.finding import Finding, MendText

        for code in KINDS:
            self.assertNotIn("{", sentence(Finding(code, "ok", "A", values=values)))
        for code in _LABELS:
            self.assertNotIn("{", label(MendText(code, values)))


class DensityTest(unittest.TestCase):
    def test_four_sounds_a_beat_at_180(self) -> None:
        """12 a second, 83.3 ms apart (common practice, no source)."""
        one = part("1e&a step x4", tempo="180")
        gap = shortest_gap(one)
        assert gap is not None
        self.assertAlmostEqual(gap.ms(180), 83.3, places=1)
        said = found("1e&a step x4", tempo="180")["thick"]
        self.assertIn("12.0 sounds a second, 12.0 in count 1. Shortest gap 83 ms (1 to e after 1), on one foot", said)

    @cases(
        ("both feet", "1 step  &2 flap  3 step", "", "1", F(1, 2)),
        ("one foot", "1 step  &2 flap  3 step", "left", "& after 1", F(1, 2)),
        ("the other", "1 step  &2 flap  3 step", "right", "1", F(2)),
        ("both at once are each foot's", "1 both jump  2 R step", "left", None, None),
        ("together is no gap", "1 stamp = clap  2 step", "", "1", F(1)),
        ("silence is no sound", "1 step & kick 2 step", "", "1", F(1)),
        ("one sound", "1 step", "", None, None),
    )
    def test_shortest(self, _: str, body: str, foot: str, at: str | None, counts: F | None) -> None:
        one = part(body)
        gap = shortest_gap(one, foot)
        self.assertEqual(gap and gap.counts, counts)
        self.assertEqual(gap and one.settings.counting.name(one.sounds[gap.first].place), at)

    def test_swing_shortens_the_second_half(self) -> None:
        gap = shortest_gap(part("1 step & step 2 step", feel="swing"))
        self.assertEqual(gap and gap.counts, F(1, 3))

    def test_tempos_that_a_step_is_not_danced_at(self) -> None:
        slow = found("1 hop  2 pull-back", tempo="60")
        self.assertIn("not danced slower than 80 counts a minute, and the piece is at 60", slow["too_slow"])
        self.assertFalse({"too_slow", "too_fast"} & set(found("1 step", tempo="20")))
        own = card_from({"name": "slow one", "sounds": ["step A"], "ceiling": 100})
        fast = part_from("A", "1 slow one", Settings(tempo=101), Shelf.of([own]))
        self.assertEqual([f.code for f in check_part(fast) if f.code.startswith("too")], ["too_fast"])

    def test_clapping_has_no_foot(self) -> None:
        self.assertIn("Shortest gap 500 ms (1 to 2).", found("1 clap 2 clap")["thick_no_foot"])


class WallsTest(unittest.TestCase):
    def test_figures_with_half_a_turn_each(self) -> None:
        """8 + 8 + 16 beats with half a turn in each: 32 beats and 1 1/2 turns a pass; after two, front again
        (common practice, no source)."""
        figures = "part A\n1 stamp 2-8 hold\npart B\n1 stamp 2-16 hold\ncombo\n"
        once = "A x2, turn half right, B, turn half right\n"
        read = piece_from("phrase: 16 counts\n" + figures + once)
        whole = unfold(read)
        self.assertEqual((whole.counts, sum(p.turn for p in whole.passes)), (32, F(3, 2)))
        walls = next(f for f in check_combo(read) if f.code == "walls")
        self.assertEqual((walls.level, walls.values["facing"], walls.values["times"]), ("look", "back", 2))
        twice = piece_from("phrase: 16 counts\n" + figures + once * 2)
        self.assertEqual([f.code for f in check_combo(twice)], ["combo_fills", "walls_front"])

    @cases(
        ("front", F(0), "front"), ("right", F(1, 4), "right wall"), ("left", F(-1, 4), "left wall"),
        ("round and a bit", F(9, 8), "front right corner"), ("thirds", F(1, 3), "1/3 of a turn right of front"),
    )  # fmt: skip
    def test_facing(self, _: str, turned: F, wall: str) -> None:
        self.assertEqual(facing(turned), wall)

    def test_a_part_turns_the_other_way_on_the_other_side(self) -> None:
        read = piece_from("part A\n1 step 1/4 right  2 step  3 step\ncombo\nA x2")
        self.assertEqual([p.turn for p in unfold(read).passes], [F(1, 4), F(-1, 4)])
        said = "Turns 1/4 to the right: ends facing the right wall, and the front again after 4 times."
        self.assertEqual(found("1 step 1/4 right  2 step")["turns"], said)
        self.assertIn("turns_front", found("1 step 1/4 right  2 step 1/4 left"))
        self.assertNotIn("turns", found("1 step"))

    def test_a_forgotten_turn_is_found_and_placed(self) -> None:
        figures = "part A\n1 step 2 step 3 step 4 step\npart B\n1 stamp 2-8 hold\ncombo\n"
        lines = "A, turn 1/4 right\nA, turn 1/4 right\nB\nA\nA x2, turn 1/8 right"
        read = piece_from(figures + lines)
        walls = next(f for f in check_combo(read) if f.code == "walls")
        self.assertEqual([label(m) for m in walls.mends], ["turn 1/4 right in A"])
        mended = piece_from(figures + changed_text(lines, walls.mends[0].changes))
        self.assertEqual(mended.problems, ())
        self.assertIn("walls_front", [f.code for f in check_combo(mended)])

    def test_a_turn_that_nothing_else_shows_is_offered_in_the_last_that_has_none(self) -> None:
        read = piece_from("part A\n1 stamp 2-8 hold\npart B\n1 stamp 2-8 hold\ncombo\nA, turn 1/2 right\nB")
        walls = next(f for f in check_combo(read) if f.code == "walls")
        self.assertEqual([label(m) for m in walls.mends], ["turn 1/2 right in B"])

    def test_the_sense_of_turns(self) -> None:
        body = "part A\n1 stamp 2-8 hold\ncombo\nA x3, turn 1/2 right\nA, turn 1/4 left"
        told = [sentence(f) for f in check_combo(piece_from(body)) if f.code == "senses"]
        self.assertEqual(told, ["Turns 1 1/2 to the right and 1/4 to the left in all."])
        self.assertNotIn("senses", [f.code for f in check_combo(piece_from(body.replace("left", "right")))])


class OtherEndTest(unittest.TestCase):
    # With an odd number of changes of weight a step changes sides, with an even one it stays; one is replaced or
    # added (common practice, no source).
    @cases(
        ("stays", "1 step  2 step  3 step  4 step", "a touch on 4: it changes sides", "touch"),
        ("changes", "1 step  2 step  3 step  4 touch", "a step on 4: it stays on its side", "step"),
        ("a stamp", "1 step  2 step  3 step  4 stamp", "a stomp on 4: it changes sides", "stomp"),
        ("a figure", "1 step x3", "step once more: it goes the other way", "x4"),
    )
    def test_the_smallest_change(self, _: str, body: str, said: str, text: str) -> None:
        one = part(body)
        ending = next(f for f in check_part(one) if f.code.startswith("again_"))
        mend = next(m for m in ending.mends if label(m) == said)
        made = part(changed_text(body, mend.changes))
        self.assertIn(text, made.script.text)
        self.assertEqual({one.footing.again, made.footing.again}, {"same", "other"})

    def test_none_are_looked_for_while_it_is_typed(self) -> None:
        one = part("1 step  2 step  3 step  4 step")
        typed, told = check_part(one, Asked(typing=True)), check_part(one, Asked())
        self.assertEqual([(f.code, f.values) for f in typed], [(f.code, f.values) for f in told])
        self.assertEqual([f.mends for f in typed if f.code == "again_same"], [()])
        self.assertTrue(all(f.mends for f in told if f.code == "again_same"))

    def test_none_where_none_is_that_small(self) -> None:
        ending = next(f for f in check_part(part("1 shuffle")) if f.code.startswith("again_"))
        self.assertEqual(ending.mends, ())


class AwkwardTest(unittest.TestCase):
    # A drop changes no weight, and from both feet the lighter one moves (common practice, no source).
    @cases(
        (
            "1 R step  2 L touch  3 L heel  4 R step",
            "the weight goes over to the left foot as it drops",
            "touch on 2",
        ),
        ("1 R step  2 L dig  3 L toe  4 R step", "the weight goes over to the left foot as it drops", "dig on 2"),
        ("1 R step  2 both stamp  3 R step", "carries more of the weight", "step on 3 on the left foot"),
        ("1 R step  2 both stamp  3 R touch", "carries more of the weight", "touch on 3 on the left foot"),
    )
    def test_it_is_told_why_and_made_easy(self, body: str, why: str, mended: str) -> None:
        awkward = next(f for f in check_part(part(body)) if f.code == "awkward")
        self.assertIn(why, sentence(awkward))
        self.assertIn(mended, label(awkward.mends[0]))
        made = changed_text(body, awkward.mends[0].changes)
        self.assertFalse({"awkward", "carries", "not_ready"} & set(found(made)), made)

    def test_no_card_is_awkward_over_and_over(self) -> None:
        for card in shipped().cards:
            with self.subTest(card=card.name):
                tradition = (card.traditions or ("tap",))[0]
                self.assertNotIn("awkward", found(f"1 {card.name} x4", tradition=tradition))


class StanceTest(unittest.TestCase):
    def test_a_step_that_needs_a_foot_in_front(self) -> None:
        told = found("1 mambo break  &5 buck walk", tradition="latin")
        self.assertRegex(
            told.get("stance", ""), "buck walk on .* begins with the feet one in front; mambo break leaves"
        )
        self.assertNotIn("stance", found("&1 buck walk  &2 buck walk", tradition="flatfoot"))
        self.assertNotIn("stance", found("1 step back cross  3 step back cross", tradition="house"))

    def test_at_a_join(self) -> None:
        parts = "tradition: latin\npart A\n1 mambo break\npart B\n&1 buck walk\ncombo\nA, B, A, B"
        told = [sentence(f) for f in check_combo(piece_from(parts)) if f.code == "join_stance"]
        self.assertEqual(len(told), 1)
        self.assertIn("B begins with the feet one in front (buck walk); after A they are together", told[0])

    def test_the_leg_swings_on_the_side_of_the_hand_that_is_down(self) -> None:
        """The hand that goes down and the leg that swings are opposite (common practice, no source)."""
        same = "1 step  2 R kick\nright hand: 2 hand down"
        self.assertIn("hand_and_leg", found(same))
        self.assertNotIn("hand_and_leg", found(same.replace("right hand", "left hand")))


if __name__ == "__main__":
    unittest.main()
