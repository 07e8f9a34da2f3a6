"""Lines that could be read in more ways than one: what is believed, when it is doubted, and what is offered.

What teachers mean by them is common practice, no source.
"""

import unittest
from fractions import Fraction

from benchmarks.spoken import SETS, lines

from firn.core.piece.build import piece_from
from firn.core.piece.piece import Piece
from firn.core.reading.doubts import findings, offer_said
from firn.core.script.changes import changed_text
from firn.core.script.settings import words_text
from tests.support import cases


def piece(tradition: str, body: str, words: str = "") -> Piece:
    head = f"tradition: {tradition}\n" + (f"words: {words}\n" if words else "")
    return piece_from(f"{head}part A\n{body}")


def said(one: Piece) -> str:
    """Each sound of a part: its count, foot and kind."""
    return ", ".join(f"{s.say}{(s.foot or '-')[0].upper()} {s.kind}" for s in one.parts[0].sounds)


def sounding(one: Piece) -> list[tuple[Fraction, str, str]]:
    """Each sound of a part, holds left out: its exact place, kind and foot."""
    return [(s.place, s.kind, s.foot) for s in one.parts[0].sounds if s.kind != "hold"]


def doubted(one: Piece) -> list[list[str]]:
    """What is offered for each word in doubt, the believed reading first."""
    return [[offer_said(o) for o in d.offers] for d in one.parts[0].script.doubts]


class PartedTest(unittest.TestCase):
    """Names of several words whose words are names too."""

    @cases(
        ("tap", "1 heel toe  2 heel toe"),
        ("tap", "1 shuffle ball change  3 step heel  4 toe heel"),
        ("tap", "step heel step heel toe heel toe heel"),
        ("tap", "1 flap, 2 flap, &3 shuffle, 4 step"),
        ("tap", "heel toe, heel toe, step"),
        ("clogging", "double step heel heel"),
        ("clogging", "ds ds ds rock step"),
        ("clogging", "1 stomp double step"),
        ("swing", "triple step triple step rock step"),
        ("swing", "rock step, triple step, triple step"),
        ("solo jazz", "1 kick ball change  3 kick step"),
        ("swing", "triple step step"),
        ("tap", "shuffle hop step shuffle step"),
        ("solo jazz", "1 step  2 half break"),
    )
    def test_what_plainly_is_a_step_is_not_doubted(self, tradition: str, body: str) -> None:
        one = piece(tradition, body)
        self.assertEqual(([p.message for p in one.problems], doubted(one)), ([], []))

    @cases(
        ("tap", "1 heel, toe", "1L heel, 2L toe", ["heel, then toe", "heel toe, the step"]),
        ("tap", "1 heel  toe", "1L heel, 2L toe", ["heel, then toe", "heel toe, the step"]),
        (
            "tap", "1 heel toe heel", "1L heel, 2R step, &R heel",
            ["heel, then toe heel", "heel toe, then heel", "heel, then toe, then heel"],
        ),
        (
            "clogging", "double step, heel, heel", "&R brush, aR spank, 1R step, 2R heel, 3R heel",
            ["double step, then heel, then heel", "double step heel heel, the step"],
        ),
        (
            "clogging", "stomp stomp double", "1R stomp, 2R flat, &L brush, aL spank, 3L step",
            ["stomp double, the step", "stomp, then double"],
        ),
    )  # fmt: skip
    def test_on_evidence_it_is(self, tradition: str, body: str, sounds: str, offers: list[str]) -> None:
        one = piece(tradition, body)
        self.assertEqual((said(one), doubted(one)), (sounds, [offers]))

    def test_counts_choose(self) -> None:
        # As the figure that goes on to the 2 it would take that from the step.
        one = piece("clogging", "1 double step heel heel  2 step")
        self.assertEqual(said(one), "&R brush, aR spank, 1R step, &R heel, aR heel, 2L step")
        self.assertEqual(doubted(one), [["“& heel  a heel”"]])
        # A whole name that is parted since its counts do not fit: that may be the slip.
        one = piece("tap", "1-4 stamp\ntriple time step, stomp on eight")
        self.assertEqual(doubted(one), [["triple, then time step", "triple time step, the step"]])

    def test_what_can_be_danced_is_believed(self) -> None:
        # The foot that carries can drop its heel; it cannot step on it.
        one = piece("tap", "1 L step  2 dig  & spank heel toe heel")
        self.assertEqual(said(one).split(", ")[3:], ["3L heel", "4R step", "&R heel"])
        self.assertEqual(one.parts[0].footing.faults, ())

    @cases(
        ("tap", "1 roll", ["“cramp roll”", "“landing roll”"]),
        ("tap", "1 jump  2 hop  3 step", ["“one-foot jump”", "“both jump”"]),
        ("tap", "step right step left", ["“R step”", "“step, right”"]),
        ("latin", "1 basic", ["“mambo on one”", "“cha-cha basic”", "“bachata basic”"]),
        ("swing", "side step side step", ["“step touch”", "“side close”"]),
        ("step dance", "step back step", ["“step-back”", "“step, back”"]),
        ("step dance", "( step back step ) x2", ["“step-back”", "“step, back”"]),
        ("solo jazz", "cross step cross step", ["“step, cross”", "“step-cross”"]),
        ("folk stamping", "step heel step heel", ["step, then heel", "step heel, the step"]),
        ("tap", "step, hold 3, step", ["“3 hold”", "“hold for 3 counts”"]),
        ("tap", "stomp on 1 and 2", ["“1 2”", "“1 & 2”"]),
        ("latin", "cross behind", ["“step-behind”", "“cross, behind”"]),
        ("tap", "flap right stamp", ["“R flap”", "“flap, right”"]),
        ("latin", "1 break back", ["“step”", "“mambo break”"]),
        ("latin", "side close side touch", ["side, then close, then side", "side close side, the step"]),
        ("house", "1 and 3 step", ["“1 3”", "“1 & 3”"]),
        ("tap", "stamp stamp and touch", ["“&”", "“then”"]),
        ("tap", "heel heel toe toe", ["“L heel R heel L toe R toe”", "“L heel L heel L toe L toe”"]),
        (
            "tap",
            "1 toe & toe 2 heel & heel",
            ["“L toe & R toe 2 L heel & R heel”", "“L toe & L toe 2 L heel & L heel”"],
        ),
        ("tap", "(toe toe heel heel) x2", ["“L toe R toe L heel R heel”", "“L toe L toe L heel L heel”"]),
        ("house", "step cross back side", ["“step-cross”", "“step, cross”"]),
        ("step dance", "point and hop back", ["point and hop back, the step", "point, then hop back"]),
        ("tap", "flap and step", ["“then”", "“&”"]),
    )
    def test_one_name_for_several(self, tradition: str, body: str, offers: list[str]) -> None:
        one = piece(tradition, body)
        self.assertEqual(doubted(one), [offers])

    @cases(
        ("latin", "1 2 3 4 basic", "1R step, 2L step, 3R step, 4L touch"),
        ("latin", "1 salsa basic", "1R step, 2L step, 3R step, 4- hold, 5L step, 6R step, 7L step, 8- hold"),
        ("tap", "1 cramp roll", "1R step, eL step, &R heel, aL heel"),
        ("tap", "step-back step-side", "1R step, 2L step"),
        ("tap", "walk to the left", "1L step"),
        ("swing", "triple step to the left", "1L step, aR step, 2L step"),
        ("tap", "step R to the left", "1R step"),
        ("tap", "step on 1 and 3, clap on 2 and 4", "1R step, 2- clap, 3L step, 4- clap"),
        ("tap", "step on 1, 3 and 5", "1R step, 3L step, 5R step"),
        ("tap", "step on 1 and clap on 2", "1R step, 2- clap"),
        ("tap", "a one and a two step", "aR step, 1L step, &R step, aL step, 2R step"),
        ("tap", "stomp (8) hop (1) step (2)", "8R stomp, 1L hop, 2R step"),
        ("tap", "stomp one hop two step three", "1R stomp, 2L hop, 3R step"),
        ("tap", "1 step (2) 3 step", "1R step, 2- hold, 3L step"),
        ("tap", "step hold for two counts step", "1R step, 2- hold, 3- hold, 4L step"),
        ("tap", "one to four step", "1R step, 2L step, 3R step, 4L step"),
        ("tap", "beat 1 stomp count 2 step", "1R stomp, 2R step"),
        ("tap", "brush forward brush back step", "1R brush, 2R spank, 3R step"),
        ("tap", "1 a 2 step", "1R step, aL step, 2R step"),
        ("tap", "1 step, hold, 3 step", "1R step, 2- hold, 3L step"),
        ("tap", "step hold for 2 step", "1R step, 2- hold, 3- hold, 4L step"),
        ("tap", "stomp on 1, 2 hop", "1R stomp, 2L hop"),
        ("tap", "stomp on the 8, hop on the 1", "8R stomp, 1L hop"),
        ("tap", "1 step on the right, 2 step on the left foot", "1R step, 2L step"),
        (
            "step dance",
            "a seven and two threes",
            "1R step, &L step, 2R step, &L step, 3R step, &L step, 4R step, "
            "5L step, &R step, 6L step, 7R step, &L step, 8R step",
        ),
        ("tap", "2 flaps 2 stamps", "&R brush, 1R step, &L brush, 2L step, 3R flat, 4L flat"),
        ("tap", "two stamps one clap", "1R flat, 2L flat, 3- clap"),
        ("tap", "1 step and then 2 step", "1R step, 2L step"),
        ("swing", "6 count basic", "1R step, 2L step, 3R step, aL step, 4R step, 5L step, aR step, 6L step"),
        ("tap", "stamp times three", "1R flat, 2L flat, 3R flat"),
        ("tap", "stamp on one and hold, stamp on three and hold", "1R flat, 2- hold, 3L flat, 4- hold"),
        ("tap", "stamp on 1 and step", "1R flat, &L step"),
        ("tap", "clap on the 2 and the 4", "2- clap, 4- clap"),
        ("tap", "clap on 2 and on 4", "2- clap, 4- clap"),
        ("tap", "stamp with the left on 1", "1L flat"),
        ("tap", "1 stomp, no weight, 2 step", "1R stomp, 2R step"),
        ("latin", "step, cross behind, step, touch", "1R step, 2L step, 3R step, 4L touch"),
        ("latin", "quick, quick, slow, hold", "1R step, 2L step, 3R step, 4- hold, 5- hold"),
        ("swing", "step slow step quick step quick", "1R step, 2- hold, 3L step, 4R step"),
        ("swing", "rock step, step slow", "1R step, 2L step, 3R step, 4- hold"),
    )
    def test_what_says_which_is_not_doubted(self, tradition: str, body: str, sounds: str) -> None:
        one = piece(tradition, body)
        self.assertEqual((said(one), doubted(one)), (sounds, []))

    @cases(
        ("tap", "step back step forward"), ("solo jazz", "cross step cross step"), ("tap", "1 roll"),
        ("latin", "1 basic"), ("swing", "side step side step"), ("folk stamping", "stomp on 1 and 2"),
        ("house", "1 and 3 step"), ("tap", "step, hold 3, step"), ("latin", "1 2 3 hold 5 6 7 hold"),
        ("folk stamping", "1 a 4 golpe"), ("tap", "flap and step"), ("swing", "stamp, and heel, stamp"),
        ("house", "heel step toe step"), ("house", "kick back cross"), ("house", "side step touch"),
        ("tap", "1 ball 2 heel"), ("folk stamping", "1 plano 2 tacón"), ("tap", "brush back brush"),
        ("clogging", "toe, heel, toe, heel"), ("solo jazz", "four walks back"), ("house", "jump hop, jump"),
        ("tap", "shuffle ball change back, step"), ("clogging", "stamp 1-4 rock step"),
        ("tap", "flap right flap left flap right stamp stamp"), ("swing", "stamp, slow rock step"),
        ("tap", "stomp 2 hop 3 step x4"),
    )  # fmt: skip
    def test_each_way_that_is_taken_leaves_nothing_open(self, tradition: str, body: str) -> None:
        self.assert_each_way_leaves_nothing_open(tradition, body)

    def test_nor_in_lines_that_teachers_say(self) -> None:
        """Every other one of those that were looked at."""
        for name, kept in SETS.items():
            for line in lines(name)[::2] if kept == "mended from" else ():
                with self.subTest(line.said):
                    self.assert_each_way_leaves_nothing_open(line.tradition, line.said, plain=False)

    def assert_each_way_leaves_nothing_open(self, tradition: str, body: str, *, plain: bool = True) -> None:
        """The first is what is read, no two sound alike, and the word is in doubt no more; `plain`: nothing else is
        wrong with the line."""
        one = piece(tradition, body)
        before = [f.values for f in findings(one.parts[0])]
        for doubt in findings(one.parts[0]):
            taken = []
            for mend in doubt.mends:
                words = f"words: {words_text(mend.words)}\n" if mend.words else ""
                text = changed_text(body, mend.changes)
                read = piece_from(f"tradition: {tradition}\n{words}part A\n{text}")
                self.assertEqual(read.problems, () if plain else read.problems, text)
                # The same may be in doubt at another place: clap, and clap, and clap.
                left = [f.values for f in findings(read.parts[0])].count(doubt.values)
                self.assertLess(left, before.count(doubt.values), text)
                taken.append(sounding(read))
            self.assertEqual(taken[0], sounding(one))
            self.assertEqual(len(set(map(str, taken))), len(taken))

    def test_several_in_one_line(self) -> None:
        one = piece("tap", "1 heel, toe  5 dig  & spank toe heel toe")
        self.assertEqual(
            doubted(one),
            [
                ["heel, then toe", "heel toe, the step"],
                ["toe, then heel toe", "toe heel, then toe", "toe, then heel, then toe"],
            ],
        )
        first, second = findings(one.parts[0])
        self.assertEqual((first.spot, second.spot), ((0, 2, 11), (0, 28, 40)))
        self.assertEqual(first.mends[1].words, (("heel toe", "(together)"),))

    def test_a_word_that_is_not_known_does_not_part_others(self) -> None:
        one = piece("tap", "1 zzqqx  2 heel toe  3 step")
        self.assertEqual(([p.code for p in one.problems], doubted(one)), (["N101"], []))

    def test_near_names_are_told_once(self) -> None:
        self.assertIn("Nearest: shuffle", piece("tap", "1 shufle, 2 heel, toe").problems[0].message)

    def test_the_feet_of_the_line_before_count(self) -> None:
        # Both heels are down after the stamps: what drops a heel at once cannot be danced, the step can.
        alone, after = piece("tap", "1 heel, toe"), piece("tap", "8 R stamp\n1 heel, toe")
        self.assertEqual((said(alone), said(after).partition(", ")[2]), ("1L heel, 2L toe", "1R heel, 2R toe"))

    def test_what_is_in_doubt_at_several_places_is_taken_at_all_of_them(self) -> None:
        body = "clap, and clap, and clap\nstamp, and stamp"
        (doubt,) = findings(piece("tap", body).parts[0])
        for mend, text in zip(doubt.mends, (body.replace("and", ","), body.replace("and", "&")), strict=True):
            taken = changed_text(body, mend.changes)
            self.assertEqual(taken, text)
            self.assertEqual(piece("tap", taken).parts[0].script.doubts, ())

    def test_once_for_a_piece_is_enough(self) -> None:
        self.assertEqual(len(doubted(piece("tap", "1 heel, toe\n5 heel, toe\n1 heel, toe"))), 1)

    @cases(
        ("heel toe apart", "1 heel toe", "1L heel, 2L toe"),
        ("heel toe together", "1 heel, toe", "1R heel_step, &R toe"),
        ("toe heel together, heel toe apart", "1 heel toe heel", "1L heel, 2R step, &R heel"),
        ("heel toe together, toe heel apart", "1 heel toe heel", "1R heel_step, &R toe, 2R heel"),
    )
    def test_what_the_head_says_holds(self, words: str, body: str, sounds: str) -> None:
        one = piece("tap", body, words)
        self.assertEqual((said(one), doubted(one)), (sounds, []))

    def test_a_name_that_is_not_there_is_told(self) -> None:
        one = piece("tap", "1 step", "heel apart")
        self.assertEqual([p.code for p in one.problems], ["H202"])


class DivisionTest(unittest.TestCase):
    """A lone division before a word of several sounds."""

    @cases(
        ("& ball change 2 step", "&R step, 1L step, 2R step"),
        ("1 step & ball change 3 step", "1R step, &L step, 2R step, 3L step"),
        ("1 hop & shuffle 2 step", "1L hop, &R brush, aR spank, 2R step"),
        ("& shuffle 1 step & shuffle 2 step", "&R brush, aR spank, 1R step, &L brush, aL spank, 2L step"),
        ("1 kick a ball change", "1R kick, aR step, 2L step"),
        ("& paradiddle", "&R dig, aR spank, 2R step, eR heel"),
        ("1 step\n& ball change\n3 step", "1R step, &L step, 2R step, 3L step"),
        ("2 step & flap 8 step", "2R step, &L brush, 3L step, 8R step"),
    )
    def test_it_is_the_first_sound(self, body: str, sounds: str) -> None:
        one = piece("tap", body)
        self.assertEqual((said(one), [p.code for p in one.problems], doubted(one)), (sounds, [], []))

    @cases(
        ("1 step & ball change 2 step", "1R step, &L step, aR step, 2L step", ["“&a ball change”"]),
        ("1 step\n& ball change\n2 step", "1R step, &L step, aR step, 2L step", ["“&a ball change”"]),
    )
    def test_what_has_no_room_is_squeezed_and_doubted(self, body: str, sounds: str, offers: list[str]) -> None:
        one = piece("tap", body)
        self.assertEqual((said(one), doubted(one)), (sounds, [offers]))

    @cases(
        ("tap", "1 step 2 shuffle 3 step", "1R step, &L brush, aL spank, 3L step",
         ["“&a shuffle  2 hold”", "“2& shuffle”", "“&2 shuffle”"]),
        ("step dance", "1 treble 2 step", "&R brush, aR spank, 2R step",
         ["“&a treble  1 hold”", "“1& treble”", "“&1 treble”"]),
        ("tap", "1 step\n2 shuffle\n3 step", "1R step, &L brush, aL spank, 3L step",
         ["“&a shuffle  2 hold”", "“2& shuffle”", "“&2 shuffle”"]),
        # Where what leads up to it has no room it begins on it.
        ("tap", "1 step & step 2 shuffle 3 step", "1R step, &L step, 2R brush, &R spank, 3R step", []),
    )  # fmt: skip
    def test_a_count_on_which_nothing_falls_is_doubted(
        self, tradition: str, body: str, sounds: str, offers: list[str]
    ) -> None:
        one = piece(tradition, body)
        self.assertEqual((said(one), doubted(one)), (sounds, [offers] if offers else []))

    @cases(
        ("3 shuffle",), ("1 shuffle step  2 flap",), ("1 shuffle ball change",), ("&1 shuffle  2 step",),
        ("1 shuffle x2  3 step",),
    )  # fmt: skip
    def test_where_something_falls_on_it_or_nothing_is_counted_it_is_plain(self, body: str) -> None:
        self.assertEqual(doubted(piece("tap", body)), [])


class CountedOutTest(unittest.TestCase):
    """Numbers in a row before a figure that is longer than a count say how long it is."""

    @cases(
        ("tap", "1 2 shuffle ball change", "&R brush, 1R spank, &R step, 2L step"),
        ("tap", "1 2 3 4 time step", "1R stomp, 2L hop, 3R step, &L brush, 4L step, &R step"),
        ("swing", "1 2 3 4 5 6 basic", "1R step, 2L step, 3R step, aL step, 4R step, 5L step, aR step, 6L step"),
        ("swing", "1-6 basic", "1R step, 2L step, 3R step, aL step, 4R step, 5L step, aR step, 6L step"),
        ("latin", "1 2 3 4 basic", "1R step, 2L step, 3R step, 4L touch"),
        # Steps that take just so many counts, one after another.
        ("clogging", "1-4 DS DS DS RS", "&R brush, aR spank, 1R step, &L brush, aL spank, 2L step, "
         "&R brush, aR spank, 3R step, &L step, 4R step"),
        ("swing", "1-6 rock step triple triple",
         "1R step, 2L step, 3R step, aL step, 4R step, 5L step, aR step, 6L step"),
        ("latin", "1 2 3 5 6 7 basic", "1R step, 2L step, 3R step, 4- hold, 5L step, 6R step, 7L step, 8- hold"),
        # On each, where that can be, or each of its sounds.
        ("tap", "1 2 3 flap", "&R brush, 1R step, &L brush, 2L step, &R brush, 3R step"),
        ("tap", "1 3 shuffle ball change",
         "&R brush, 1R spank, &R step, 2L step, &R brush, 3R spank, &R step, 4L step"),
        ("tap", "1 2 3 4 shuffle ball change", "1R brush, 2R spank, 3R step, 4L step"),
    )  # fmt: skip
    def test_as_long(self, tradition: str, body: str, sounds: str) -> None:
        one = piece(tradition, body)
        self.assertEqual((said(one), one.problems, doubted(one)), (sounds, (), []))

    @cases(
        ("latin", "1 2 3 basic"), ("tap", "1 2 3 4 5 6 7 8 maxi ford"), ("tap", "1 2 3 4 time step x2"),
        ("tap", "1 2 4 shuffle ball change"),
    )  # fmt: skip
    def test_where_they_are_too_many_or_too_few_it_is_said(self, tradition: str, body: str) -> None:
        self.assertEqual([p.code for p in piece(tradition, body).problems][:1], ["N103"])

    @cases(
        ("latin", "2 3 cha cha cha", "2 step  3 step  4 cha cha cha", "2 cha cha cha"),
        ("swing", "1 2 triple step", "1 triple step", "1 step  2 step  3 triple step"),
        ("tap", "one, two, stamp", "1 stamp  2 stamp", "1 step  2 step  3 stamp", "3 stamp"),
    )
    def test_a_step_on_each_before_it_or_its_own(self, tradition: str, body: str, *ways: str) -> None:
        one = piece(tradition, body)
        self.assertEqual((said(one), doubted(one)), (said(piece(tradition, ways[0])), [[f"“{way}”" for way in ways]]))

    def test_steps_and_then_figures_where_they_fit_no_other_way(self) -> None:
        full = said(piece("swing", "1 step 2 step 3 triple step 5 triple step"))
        for body in ("1 2 triple step triple step", "1, 2, triple step, triple step"):
            one = piece("swing", body)
            self.assertEqual((said(one), one.problems, doubted(one)), (full, (), []))

    def test_in_brackets_it_begins_where_it_does_without(self) -> None:
        for body in ("shuffle", "double toe", "shuffle step"):
            plain, inside = (piece("tap", text) for text in (f"{body} x3, scuff", f"({body}) x3, scuff"))
            self.assertEqual(sounding(inside), sounding(plain), body)

    def test_what_is_not_believed_by_itself_is_asked_about(self) -> None:
        """A rock step that ends on the other foot cannot be danced from there."""
        one = piece("solo jazz", "right back rock, left back rock")
        self.assertEqual(doubted(one), [["“back, rock”", "“rock-back”"], ["“rock-back”", "“back, rock”"]])

    def test_what_all_ways_take_alike_is_no_part_of_a_doubt(self) -> None:
        one = piece("tap", "stomp hop step flap step, and the same on the left")
        ways = ["this, then the same on the other side", "the other side alone"]
        self.assertEqual(doubted(one), [["single time step, the step", "each sound by itself"], ways])

    def test_twice_where_it_goes_in_twice_is_doubted(self) -> None:
        one = piece("solo jazz", "1 2 3 4 kick ball change")
        self.assertEqual(doubted(one), [["“1 kick ball change x2”", "“1 kick ball change”"]])


class LengthTest(unittest.TestCase):
    """How many counts steps take, in brackets as a cue sheet has it."""

    @cases(
        ("(4) DS DS DS RS", "DS DS DS RS"), ("DS DS DS RS (4)", "DS DS DS RS"), ("Triple (4): DS DS DS RS", "triple"),
        ("2 Basics (4)", "basic basic"), ("basic (2), triple (4)", "basic triple"),
        ("Chain: DS RS RS RS (4 counts)", "DS RS RS RS"), ("stamp (1) clap (2)", "1 stamp 2 clap"),
        ("stomp (8) hop (1)", "8 stomp 1 hop"), ("stamp (2)", "2 stamp"),
    )  # fmt: skip
    def test_taken_where_it_fits(self, body: str, plain: str) -> None:
        one = piece("clogging", body)
        self.assertEqual((said(one), one.problems, doubted(one)), (said(piece("clogging", plain)), (), []))

    @cases(
        ("DS DS RS (4)", "These steps take 3 counts, not 4."), ("stamp clap (4)", "These steps take 2 counts, not 4.")
    )
    def test_said_where_it_does_not(self, body: str, message: str) -> None:
        self.assertIn(message, [p.message for p in piece("clogging", body).problems])

    @cases(
        ("1-4 stomp hop step, flap step", 5, 4), ("1-4 flap x2", 2, 4), ("5-6 stamp stamp stamp step step", 5, 2),
        ("1-4: flap flap", 2, 4), ("1-4 stamp hold stamp", 3, 4), ("1-8 shuffle step, shuffle ball change", 3, 8),
    )  # fmt: skip
    def test_a_range_over_more_or_less_than_it_holds_is_said(self, body: str, takes: int, length: int) -> None:
        told = [p.message for p in piece("tap", body).problems]
        self.assertIn(f"These steps take {takes} counts, not {length}.", told)

    @cases(
        ("1-4 step touch", ["“1 ( step touch ) x2”", "“1 step touch”"], 4),
        ("1-8: stamp clap", ["“1 ( stamp clap ) x4”", "“1 stamp clap”"], 8),
    )
    def test_what_goes_into_a_range_several_times_is_in_doubt(self, body: str, offers: list[str], many: int) -> None:
        one = piece("tap", body)
        self.assertEqual((doubted(one), len(one.parts[0].sounds), one.problems), ([offers], many, ()))


class BothFeetTest(unittest.TestCase):
    def test_a_figure_on_either_foot_is_asked_about_where_it_cannot_be_danced_so(self) -> None:
        (offers,) = doubted(piece("tap", "shuffle ball change right then left"))
        self.assertEqual(
            offers, ["“shuffle ball change, R step, L step”", "“R shuffle ball change, L shuffle ball change”"]
        )


class HowManyTest(unittest.TestCase):
    """Numbers that do not go up say how many; 1 stands before one."""

    @cases(
        ("tap", "2 flaps 1 stamp", "&R brush, 1R step, &L brush, 2L step, 3R flat", 0),
        ("tap", "2 stamps 1 clap 2 stamps", "1R flat, 2L flat, 3- clap, 4R flat, 5L flat", 0),
        ("tap", "1 stomp 2 hops 1 step", "1R stomp, 2L hop, 3L hop, 4R step", 0),
        ("clogging", "2 DS 1 stomp", "&R brush, aR spank, 1R step, &L brush, aL spank, 2L step, 3R stomp", 0),
        (
            "house",
            "2 loose legs, 1 farmer",
            "1R kick, &R step, 2L step, 3R kick, &R step, 4L step, 5R heel_step, &L step",
            0,
        ),
        ("flatfoot", "2 shuffles 2 stomps", "&R brush, aR spank, &R brush, aR spank, 2R stomp, 3R stomp", 0),
        # Through 1 they are counts.
        ("tap", "7 flap 8 flap 1 stamp", "&R brush, 7R step, &L brush, 8L step, 1R flat", 0),
        ("tap", "7 flaps 1 stamp", "&R brush, 7R step, 1L flat", 0),
        # Going up they are counts, which is asked about where they agree with how many.
        ("tap", "1 stamp 2 claps", "1R flat, 2- clap", 1),
        ("tap", "1 stamp 2 clap", "1R flat, 2- clap", 0),
        ("tap", "1 stamps 2 claps", "1R flat, 2- clap", 0),
        ("tap", "8 stomp 1 hop", "8R stomp, 1L hop", 0),
    )
    def test_said(self, tradition: str, body: str, sounds: str, doubts: int) -> None:
        one = piece(tradition, body)
        self.assertEqual((said(one), one.problems, len(doubted(one))), (sounds, (), doubts))


class SaidAroundTest(unittest.TestCase):
    @cases(
        ("tap", "right side: 1 stamp 2 clap", "1R flat, 2- clap"),
        ("tap", "left side: stamp clap", "1L flat, 2- clap"),
        ("tap", "first eight: stamp clap", "1R flat, 2- clap"),
        ("tap", "1st 8: flap, flap", "&R brush, 1R step, &L brush, 2L step"),
        ("folk stamping", "primer ocho: golpe palma", "1R flat, 2- clap"),
        ("solo jazz", "jump out, in, out, clap", "1B jump, 2B jump, 3B jump, 4- clap"),
        ("solo jazz", "jump, out, in", "1B jump, 2R step, 3L step"),
    )
    def test_sides_and_jumps(self, tradition: str, body: str, sounds: str) -> None:
        one = piece(tradition, body)
        self.assertEqual((said(one), one.problems), (sounds, ()))
        self.assertEqual(len(doubted(one)), 2 if "jump out" in body else 0)

    @cases(
        ("stamp clap - twice", "1R flat, 2- clap, 3L flat, 4- clap", 0),
        ("step for two counts", "1R step, 2L step", 1),
        ("steps for two counts", "1R step, 2L step", 0),
        ("walk for 8 counts", ", ".join(f"{n}{'RL'[(n + 1) % 2]} step" for n in range(1, 9)), 0),
    )
    def test_how_often_and_how_long(self, body: str, sounds: str, doubts: int) -> None:
        one = piece("tap", body)
        self.assertEqual((said(one), one.problems, len(doubted(one))), (sounds, (), doubts))

    @cases(("double time: flap flap",), ("reverse: stamp clap",), ("swing it: step step",), ("triplet: step heel",))
    def test_how_it_is_danced_is_asked_about_before_a_colon(self, body: str) -> None:
        (problem,) = piece("tap", body).problems
        self.assertIn(f'"{body.split(":")[0]}:" is not heard', problem.message)

    @cases(
        ("stamp clap, now left", 1), ("stamp clap\nnow the left", 1), ("stamp, then left", 0), ("now left stamp", 0)
    )
    def test_a_foot_that_seems_to_call_for_the_other_side_is_asked_about(self, body: str, many: int) -> None:
        self.assertEqual(len(piece("tap", body).problems), many)

    @cases(("heel up, heel down",), ("toe up",), ("tacón arriba",))
    def test_what_goes_up_is_asked_about(self, body: str) -> None:
        (problem,) = piece("tap", body).problems
        self.assertIn("that goes up makes no sound", problem.message)


class SoManyTest(unittest.TestCase):
    """Single, double and triple name figures, and before one sound they may be how many."""

    @cases(
        ("tap", "triple clap, step", "1- clap, 2- clap, 3- clap, 4R step", ["“clap x3”", "“triple, clap”"]),
        ("clogging", "triple stomp", "1R stomp, 2R stomp, 3R stomp", ["“stomp x3”", "“triple, stomp”"]),
        ("folk stamping", "doble golpe", "1R flat, 2L flat", ["“golpe x2”", "“doble, golpe”"]),
        ("tap", "single stamp, clap", "1R flat, 2- clap", ["“stamp”", "“single, stamp”"]),
        ("swing", "triple step", "1R step, aL step, 2R step", []),
    )
    def test_before_one_sound(self, tradition: str, body: str, sounds: str, offers: list[str]) -> None:
        one = piece(tradition, body)
        self.assertEqual((said(one), doubted(one)), (sounds, [offers] if offers else []))


class GoesBeforeTest(unittest.TestCase):
    """Where a step goes, said right before it at the head of what is said: asked about."""

    @cases(
        ("latin", "back rock, step", "1R step, 2L step, 3R step", ["“rock-back”", "“back, rock”"]),
        ("solo jazz", "side kick, step", "1R kick, 2R step", ["“kick-side”", "“side, kick”"]),
        ("tap", "back flap", "&R brush, 1R step", ["“flap-back”", "“back, flap”"]),
        ("latin", "forward walks", "1R step", ["“walks-forward”", "“forward, walks”"]),
        ("latin", "back cross, side", "1R step, 2L step", ["“step-behind”", "“back, cross”"]),
        ("latin", "cruza atrás, lado, cruza adelante, lado", "1R step, 2L step, 3R step, 4L step", []),
        # Where it touches, or is a step at the place, it is a step there first.
        ("latin", "side touch", "1R step, 2L touch", []),
        ("latin", "side together side touch", "1R step, 2L step, 3R step, 4L touch", []),
        ("solo jazz", "step side kick", "1R step, 2L kick", ["“step-side”", "“step, side”"]),
        ("tap", "1 side  2 kick", "1R step, 2L kick", []),
        # What is set down goes there, too: a tap class has no side steps between its touches.
        ("tap", "front touch, side touch, stamp", "1R touch, 2R touch, 3R flat", ["“touch-front”", "“front, touch”"]),
        ("latin", "front touch, side touch", "1R touch, 2R touch", ["“touch-front”", "“front, touch”"]),
        ("clogging", "front heel, back toe", "1R dig, 2R toe_tip", ["“heel-front”", "“front, heel”"]),
        ("clogging", "back toe, stamp", "1R toe_tip, 2R flat", []),
        ("step dance", "hop, front click", "1L hop, 2- click", ["“click-front”", "“front, click”"]),
        ("swing", "back step, triple step", "1R step, 2L step, aR step, 3L step", ["“step-back”", "“back, step”"]),
        ("tap", "1 side kick  2 step", "1R kick, 2R step", ["“kick-side”", "“side, kick”"]),
        ("latin", "1 side touch  2 side touch", "1R touch, 2R touch", ["“touch-side”", "“side, touch”"]),
        ("tap", "in place flap, step", "&R brush, 1R step, 2L step", ["“flap-place”", "“place, flap”"]),
        ("tap", "kick out to the side, step", "1R kick, 2R step", []),
        (
            "swing",
            "side close now, rock step",
            "1R step, 2L step, 3R step, 4L step",
            ["“side close, rock step”", "“rock step”"],
        ),
        # Behind a figure it is no step.
        ("clogging", "DS front heel", "&R brush, aR spank, 1R step, 2L dig", ["“heel-front”", "“front, heel”"]),
    )
    def test_asked(self, tradition: str, body: str, sounds: str, offers: list[str]) -> None:
        one = piece(tradition, body)
        self.assertEqual((said(one), one.problems), (sounds, ()))
        self.assertEqual(doubted(one)[:1], [offers] if offers else [])


class GoesAgainTest(unittest.TestCase):
    """A place after a kick or a touch in another: one more there, or a step; asked about."""

    @cases(
        ("tap", "touch front, side, back, stamp", "1R touch, 2R touch, 3R touch, 4R flat",
         [["“touch-side”", "“step-side”"], ["“touch-back”", "“step-back”"]]),
        ("latin", "point forward, side, together", "1R point, 2R point, 3R step", [["“point-side”", "“step-side”"]]),
        ("tap", "1 kick front 2 back 3 step", "1R kick, 2R kick, 3R step", [["“kick-back”", "“step-back”"]]),
        ("tap", "heel front, side, step", "1R dig, 2R dig, 3R step", [["“heel-side”", "“step-side”"]]),
        # "Toe back" is a figure there.
        ("clogging", "toe front, back, stamp", "1R toe_tip, 2R toe_tip, 3R flat",
         [["“toe-tip-back”", "“step-back”"]]),
        ("swing", "kick front, cross behind, step", "1R kick, 2R step, 3L step", []),
        ("latin", "cross behind, side, front", "1R step, 2L step, 3R step", []),
    )  # fmt: skip
    def test_asked(self, tradition: str, body: str, sounds: str, offers: list[list[str]]) -> None:
        one = piece(tradition, body)
        self.assertEqual((said(one), one.problems, doubted(one)), (sounds, (), offers))


class FeetFirstTest(unittest.TestCase):
    """Feet that are said before a clap or a hold, which have none, are steps."""

    @cases(
        ("right left right clap", "1R step, 2L step, 3R step, 4- clap"),
        ("R L R clap", "1R step, 2L step, 3R step, 4- clap"),
        ("RLR hold LRL hold", "1R step, 2L step, 3R step, 4- hold, 5L step, 6R step, 7L step, 8- hold"),
        ("right hold left hold", "1R step, 2- hold, 3L step, 4- hold"),
        ("clap right left", "1- clap, 2R step, 3L step"),
        ("clap R clap L", "1- clap, 2R step, 3- clap, 4L step"),
        ("stamp right hold stamp left hold", "1R flat, 2- hold, 3L flat, 4- hold"),
        ("stamp right left right clap", "1R flat, 2L flat, 3R flat, 4- clap"),
        ("stamps: right left right", "1R flat, 2L flat, 3R flat"),
        ("flaps right left", "&R brush, 1R step, &L brush, 2L step"),
        ("heel, then right toe left toe", "1L heel, 2R toe, 3L toe"),
        ("1 R clap  2 L clap", "1- clap, 2- clap"),
    )
    def test_steps(self, body: str, sounds: str) -> None:
        one = piece("tap", body)
        self.assertEqual((said(one), one.problems), (sounds, ()))

    @cases(("one, two, three, clap", 1), ("1, 2, 3, clap", 1), ("1 2 3 clap", 0), ("1, 2, 3, 4: clap", 0),
           ("1, 3, clap", 0), ("1, 2, 3, step", 0))  # fmt: skip
    def test_a_clap_after_counts_that_are_said_apart_is_doubted(self, body: str, many: int) -> None:
        self.assertEqual(len(doubted(piece("tap", body))), many)


class SameWordsTest(unittest.TestCase):
    def test_ways_of_the_same_words_are_read(self) -> None:
        """Found by the fuzz: two ways that differ in their counts alone, with no word to ask about."""
        self.assertEqual(doubted(piece("", "4 1, slur step 12")), [["slur, then step", "slur step, the step"]])


class RangeTest(unittest.TestCase):
    """Counts from one to another, and counts in a row."""

    @cases(
        ("1-4 step", "1R step, 2L step, 3R step, 4L step"),
        ("1-4 step x4", "1R step, 2L step, 3R step, 4L step"),
        ("1-2 3-4 step stamp", "1R step, 2L step, 3R flat, 4L flat"),
        ("1 step  2-4 hold", "1R step, 2- hold"),
        ("1 step  2-4 slide", "1R step, 2R slide"),
        ("1-2 shuffle ball change", "&R brush, 1R spank, &R step, 2L step"),
        ("1 2 3 & 4 step", "1R step, 2L step, 3R step, &L step, 4R step"),
        ("1 2 3 flap", "&R brush, 1R step, &L brush, 2L step, &R brush, 3R step"),
    )
    def test_one_each(self, body: str, sounds: str) -> None:
        one = piece("tap", body)
        self.assertEqual((said(one), [p.code for p in one.problems], doubted(one)), (sounds, [], []))

    @cases(
        ("1 step clap 2 step clap", "1R step, &- clap, 2L step, &- clap"),
        ("1 step heel 2 step heel 3 stamp", "1R step, &R heel, 2L step, &L heel, 3R flat"),
        ("hold 1, step 2, stamp 3", "1- hold, 2R step, 3L flat"),
        ("slow quick quick", "1R step, 2- hold, 3L step, 4R step"),
        ("S Q Q S", "1R step, 2- hold, 3L step, 4R step, 5L step, 6- hold"),
        ("slow step quick step quick step", "1R step, 2- hold, 3L step, 4R step"),
        ("slow side quick together quick side", "1R step, 2- hold, 3L step, 4R step"),
        ("slow step\nquick step quick step", "1R step, 2- hold, 3L step, 4R step"),
        ("5 step quick step slow step", "5R step, 6L step, 7R step, 8- hold"),
        ("1 slow step 3 quick step 4 quick step", "1R step, 2- hold, 3L step, 4R step"),
        ("slow step x2", "1R step, 2- hold, 3L step, 4- hold"),
        ("( slow step quick step ) x2", "1R step, 2- hold, 3L step, 4R step, 5- hold, 6L step"),
        ("slow flap quick step", "&R brush, 1R step, 2- hold, 3L step"),
        ("left right left", "1L step, 2R step, 3L step"),
        ("1, 2, 3: step", "1R step, 2L step, 3R step"),
        ("1 3 step 2 4 clap", "1R step, 2- clap, 3L step, 4- clap"),
    )
    def test_what_has_no_count_of_its_own(self, body: str, sounds: str) -> None:
        one = piece("tap", body)
        self.assertEqual((said(one), [p.code for p in one.problems], doubted(one)), (sounds, [], []))

    @cases(
        ("1-2 flap", "&R brush, 1R step, &L brush, 2L step", ["“1 flap x2”", "“1 flap”"]),
        ("5 6 7 8 step", "5R step, 6L step, 7R step, 8L step", ["“5 step  6 step  7 step  8 step”", "“step”"]),
        (
            "slow quick quick, step stamp stamp",
            "1R step, 2- hold, 3L flat, 4R flat",
            ["“slow quick quick: step stamp stamp”", "“slow step, quick step, quick step, step stamp stamp”"],
        ),
    )
    def test_what_could_be_otherwise(self, body: str, sounds: str, offers: list[str]) -> None:
        one = piece("tap", body)
        self.assertEqual((said(one), doubted(one)), (sounds, [offers]))


class TimesTest(unittest.TestCase):
    """How much "x3" covers."""

    @cases(
        ("brush dig step x2", "1R brush, 2R dig, 3R step, 4L brush, 5L dig, 6L step"),
        ("1 step  2 stamp x3", "1R step, 2L flat, 3R flat, 4L flat"),
        ("step, stamp x3", "1R step, 2L flat, 3R flat, 4L flat"),
        ("( 1 step ) stamp x3", "1R step, 2L flat, 3R flat, 4L flat"),
        ("1 stomp 2 step x3 / 5 stamp", "1R stomp, 2R step, 3L step, 4R step, 5L flat"),
        ("1 step 2-4 stamp x3", "1R step, 2L flat, 3R flat, 4L flat"),
        ("1 step 2 3 4 stamp x3", "1R step, 2L flat, 3R flat, 4L flat"),
        ("step stamp twice", "1R step, 2L flat, 3R step, 4L flat"),
        ("1 step & step 2 stamp x2 / 5 stamp", "1R step, &L step, 2R flat, 3L step, &R step, 4L flat, 5R flat"),
        ("1 step 2 stamp x2 / 6 stamp", "1R step, 2L flat, 3R step, 4L flat, 6R flat"),
        ("1 step 2 stamp x4", "1R step, 2L flat, 3R step, 4L flat, 5R step, 6L flat, 7R step, 8L flat"),
    )
    def test_it_covers(self, body: str, sounds: str) -> None:
        one = piece("tap", body.replace(" / ", "\n"))
        self.assertEqual((said(one), [p.code for p in one.problems], doubted(one)), (sounds, [], []))

    def test_where_both_fit_it_is_doubted(self) -> None:
        one = piece("tap", "1 stomp 2 hop 3 step x4")
        self.assertEqual(doubted(one), [["“( 1 stomp 2 hop 3 step ) x4”", "“1 stomp 2 hop  ( 3 step ) x4”"]])


class TakenTest(unittest.TestCase):
    """A reading that is taken is what was shown, and leaves nothing open."""

    @cases(
        ("tap", "1 heel, toe"),
        ("tap", "dig spank heel toe heel"),
        ("tap", "flap heel heel spank heel toe heel"),
        ("clogging", "double step, heel, heel"),
        ("clogging", "stomp stomp double"),
        ("tap", "1 step & ball change 2 step"),
        ("tap", "1 step\n& ball change\n2 step"),
        ("tap", "1-2 flap"),
        ("tap", "1-8 shuffle ball change  1 step"),
        ("tap", "5 6 7 8 step"),
        ("tap", "1 stomp 2 hop 3 step x4"),
        ("tap", "1 step 2 shuffle 3 step 4 shuffle"),
        ("latin", "back cross, side"),
        ("solo jazz", "side kick, step"),
        ("tap", "triple clap"),
        ("clogging", "double stomp"),
        ("tap", "1 step\n2 stomp 3 hop 4 step x4"),
        ("latin", "cross behind"),
        ("tap", "flap right stamp"),
        ("latin", "1 break back"),
        ("latin", "side close side touch"),
        ("tap", "heel heel toe toe, step"),
        ("tap", "1 heel 2 heel 3 toe 4 toe 5 step"),
        ("house", "step cross back side"),
    )
    def test_each(self, tradition: str, body: str) -> None:
        one = piece(tradition, body)
        (doubt,) = findings(one.parts[0])
        taken = []
        for mend in doubt.mends:
            after = piece(tradition, changed_text(body, mend.changes), words_text(mend.words))
            self.assertEqual(([p.message for p in after.problems], doubted(after)), ([], []))
            taken.append(sounding(after))
        self.assertEqual(taken[0], sounding(one))
        self.assertEqual(len(set(map(str, taken))), len(taken))

    def test_a_foot_that_is_said_of_several_is_that_of_each(self) -> None:
        one = piece("folk stamping", "tres golpes con el derecho")
        self.assertEqual(said(one), "1R flat, 2R flat, 3R flat")
        self.assertEqual([f.code for f in one.parts[0].footing.faults], ["carries"])

    def test_the_place_is_told(self) -> None:
        (doubt,) = findings(piece("tap", "1 step\n2 heel, toe").parts[0])
        self.assertEqual((doubt.spot, doubt.place, doubt.sound), ((1, 2, 11), 1, 1))


if __name__ == "__main__":
    unittest.main()
