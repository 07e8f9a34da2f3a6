"""Tunes: typed, read from ABC, and how they suit what is danced.

The reference tunes in tests/data were written for this purpose; what other readers say of them (music21 10.5.1,
abc2midi 4.84, abcjs 6.7.2, PyABC2 0.1.4) stands beside each check.
"""

import unittest
import warnings
from fractions import Fraction
from pathlib import Path

from msgspec.structs import replace

from firn.core.combos.tunes import suits
from firn.core.meter.meter import Meter, parse_meter
from firn.core.piece.build import piece_from
from firn.core.reading.ledger import ledger
from firn.core.steps.shelf import Shelf, shipped
from firn.core.tune.abc import read_abc, rhythm_of_abc
from firn.core.tune.tune import Section, Tune, TuneError, parse_tune, tune_text
from tests.support import DATA, cases


def head(body: str, meter: str = "4/4", unit: str = "1/4") -> str:
    return f"X:1\nT:Test\nM:{meter}\nL:{unit}\nK:D\n{body}\n"


class TypedTest(unittest.TestCase):
    @cases(
        ("Mill Race: intro 8 bars, AABB 8, at 116", "4/4", "AABB", 128, 8, 116, 1),
        ("Slip: AB 8", "9/8", "AB", 48, 0, 0, 1),
        ("Odd: A 8, B 16, begins on bar 3", "2/4", "AB", 48, 0, 0, 5),
        ("Own: in 6/8, aa 4 bars, starts on 9", "4/4", "AA", 16, 0, 0, 9),
    )
    def test_read(self, text: str, meter: str, form: str, counts: int, intro: int, tempo: float, starts: int) -> None:
        """8 bars of 9/8 are 24 counts: common practice, no source."""
        tune = parse_tune(text, Meter(*map(int, meter.split("/"))))
        self.assertEqual((tune.form, tune.counts, tune.intro, tune.tempo, tune.starts),
                         (form, counts, intro, tempo, starts))  # fmt: skip
        if "in 6/8" not in text:
            self.assertEqual(parse_tune(tune_text(tune), tune.meter), tune)

    @cases(("",), ("Mill Race",), ("Mill Race:",), (": AABB 8",), ("M: sideways",), ("M: A 8, at 5",), ("M: A 0",))
    def test_what_is_none(self, text: str) -> None:
        self.assertIsNone(parse_tune(text, Meter(4, 4)))

    def test_where(self) -> None:
        tune = parse_tune("Mill Race: intro 4 bars, AABB 8", Meter(4, 4))
        places = (-16, -1, 0, 31, 32, 64, 100, 128)
        self.assertEqual(
            [tune.where(Fraction(p)) for p in places],
            [("intro", 1, 1), ("intro", 1, 4), ("A", 1, 1), ("A", 1, 8), ("A", 2, 1), ("B", 1, 1), ("B", 2, 2),
             ("A", 1, 1)],
        )  # fmt: skip


class AbcTest(unittest.TestCase):
    def test_repeats_and_endings(self) -> None:
        """145 eighths after repeats, 24.1667 s: all four readers; three counts a bar of 9/8."""
        tune = read_abc((DATA / "abc_slipjig.abc").read_text("utf-8"))
        self.assertEqual(sum(s.counts for s in tune.sections), Fraction(145, 3))
        self.assertEqual((tune.meter, tune.tempo, tune.form), (Meter(9, 8), 120, "AABB"))
        self.assertEqual((tune.pickup, tune.counts, tune.bars), (Fraction(1, 3), 48, 16))
        self.assertAlmostEqual(float(sum(s.counts for s in tune.sections)) * 60 / tune.tempo, 24.166667, places=5)

    @cases(("=" * 19_000,), ("[a" * 9_000,), ("[K:a" * 5_000,), ('"' * 19_001,))
    def test_very_much_of_one_sign_ends(self, music: str) -> None:
        """That it ends soon is measured by ./run fuzz."""
        tune = read_abc(f"X:1\nM:2/4\nL:1/4\nK:C\nabcd|{music}|\n")
        self.assertGreaterEqual(tune.counts, 2)

    def test_the_order_of_parts(self) -> None:
        """P:AABB without repeat signs: abc2midi plays each twice."""
        tune = read_abc((DATA / "abc_parts.abc").read_text("utf-8"))
        self.assertEqual((tune.form, tune.counts), ("AABB", 48))

    @cases(
        ("a pick-up", "D|DEFG|ABcd|", 8, 1, "A"),
        ("a repeat", "|:DEFG|ABcd:|", 16, 0, "AA"),
        ("begun where the one before ended", "DEFG|ABcd:|dcBA|GFED:|", 32, 0, "AABB"),
        ("double colons", "|:DEFG::ABcd:|", 16, 0, "AABB"),
        ("two endings", "|:DEFG|1 ABcd:|2 dcBA||", 16, 0, "AA"),
        ("endings in brackets", "|:DEFG|[1 ABcd:|[2 dcBA|]", 16, 0, "AA"),
        ("three times", "|:DEFG|[1,2 ABcd:|[3 dcBA|]", 24, 0, "AAA"),
        ("a double bar", "DEFG||ABcd|]", 8, 0, "AB"),
        ("lengths", "D2E/F/G|A3/2B/2 c2|", 8, 0, "A"),
        ("a triplet", "(3DEF G A|", 4, 0, "A"),
        ("two in the time of three", "(2DE F|", 4, 0, "A"),
        ("chords with lengths", "[DF]2 [GB2]2|[A2c2]z2|", 8, 0, "A"),
        ("graces, ornaments and names", '{gf}D "Am"E !trill!F ~G|', 4, 0, "A"),
        ("broken rhythm keeps its beats", "D>E F<G|", 4, 0, "A"),
        ("rests of many bars", "Z4|DEFG|", 20, 0, "A"),
        ("the first voice alone", "V:1\nDEFG|\nV:2\nD,4|D,4|", 4, 0, "A"),
        ("notes and words left", "DEFG| % ABcd\nw: one two\nABcd|", 8, 0, "A"),
        ("sixteenths under three quarters", "X", 2, 0, "A"),
        ("sections in the line", "[P:A]DEFG|[P:B]ABcd|", 8, 0, "AB"),
        ("colons on both sides of bars", "|::DEFG::|", 12, 0, "AAA"),
        ("an end of a line after its bar", "|:DEFG|\n:|ABcd|", 12, 0, "AAB"),
        ("a repeat that begins late", "DEFG|:ABcd:|", 12, 0, "ABB"),
        ("after a double bar nothing is repeated", "DEFG||ABcd:|", 12, 0, "ABB"),
        ("a key in the line", "DEFG|[K:G]ABcd|", 8, 0, "A"),
    )
    def test_bars(self, _: str, body: str, counts: int, pickup: int, form: str) -> None:
        """As the standard has it: abcnotation.com, ABC 2.1, 4.3 to 4.17."""
        text = "X:1\nM:2/4\nK:D\nDEFG ABcd|\n" if body == "X" else head(body)
        tune = read_abc(text)
        self.assertEqual((tune.counts, tune.pickup, tune.form), (counts, pickup, form))

    def test_the_first_tune_alone_under_its_first_name(self) -> None:
        text = "X:1\nT:One\nT:Or so\nM:4/4\nL:1/4\nK:D\nDEFG|\n\nX:2\nT:Two\nK:D\nABcd|ABcd|\n"
        tune = read_abc(text)
        self.assertEqual((tune.name, tune.counts), ("One", 4))
        self.assertEqual(read_abc(text.replace("\n\n", "\n")).counts, 4)

    @cases(("1/4=96", 96), ("3/8=60", 90), ("1/2=50", 100), ('"Slow" 1/4=80', 80), ("120", 120), ("quick", 0))
    def test_tempo(self, said: str, tempo: float) -> None:
        text = head("DEFG|").replace("K:D", f"Q:{said}\nK:D")
        self.assertEqual(read_abc(text).tempo, tempo)

    @cases(("",), ("no tune at all",), ("X:1\nK:D\n",), ("X:1\nM:4/4\nK:D\n|||:|\n",))
    def test_what_is_none(self, text: str) -> None:
        with self.assertRaises(TuneError):
            read_abc(text)

    def test_a_length_that_is_none_is_read_as_far_as_it_goes(self) -> None:
        self.assertGreater(read_abc("X:1\nK:C\nB//2/2 B4 B/0 B4|").counts, 0)

    def test_rhythms_with_ties_tuplets_and_groups(self) -> None:
        text = "X:1\nM:(2+2+3)/8\nL:1/8\nK:C\nB2 z2 B-|B B2 (3BzB B|"
        rhythm = rhythm_of_abc(text, "a")
        self.assertEqual(rhythm.meter.groups, (2, 2, 3))
        self.assertEqual([str(p) for p in rhythm.places], ["-5", "-1", "1", "3", "13/3", "5"])

    def test_any_text_ends(self) -> None:
        for text in ("[" * 5_000, "(" * 5_000, "|:" * 5_000, ":|" * 5_000, "D" * 5_000, "(9:9:9" * 2_000, "\0" * 50):
            try:
                read_abc(head(text))
            except TuneError:
                pass


class CorpusTest(unittest.TestCase):
    """Tunes of Ryan's Mammoth Collection (1883) from music21's corpus, as music21 10.5.1 reads and repeats them.

    It repeats some from the very beginning where no repeat is begun (the standard, 4.8, has them begin after the last
    one), and cannot expand others: nine tenths of those that it can must be as long.
    """

    def test_as_long_as_music21_plays_them(self) -> None:
        import music21

        folder = Path(music21.__file__).parent / "corpus" / "ryansMammoth"
        looked = same = 0
        for path in sorted(folder.glob("*.abc"))[::19]:
            text = path.read_text("utf-8", errors="replace")
            with warnings.catch_warnings():
                warnings.simplefilter("ignore")
                try:
                    score = music21.converter.parse(path, format="abc")
                    one = score.parts[0] if score.parts else score
                    # A rest as long as the notes of each bar: what is repeated is copied, each note of it.
                    for bar in one.getElementsByClass("Measure"):
                        long = bar.duration.quarterLength
                        bar.removeByClass("GeneralNote")
                        bar.insert(0, music21.note.Rest(quarterLength=long))
                    played = music21.repeat.Expander(one).process(deepcopy=False)
                except music21.exceptions21.Music21Exception:
                    continue
            theirs = sum(Fraction(m.duration.quarterLength) for m in played.getElementsByClass("Measure"))
            tune = read_abc(text, path.name)
            ours = sum(s.counts for s in tune.sections) * Fraction(12 if tune.meter.compound else 4, tune.meter.unit)
            looked += 1
            same += abs(ours - theirs) < Fraction(1, 100)
        self.assertGreaterEqual(looked, 30)
        self.assertGreaterEqual(same / looked, 0.9, (same, looked))


class SuitsTest(unittest.TestCase):
    PIECE = "tradition: tap\nmeter: {meter}\npart A\n{text}\ncombo\nA x{times}\n"

    def suit(self, said: str, times: int = 4, text: str = "1 step x8", meter: str = "4/4", per: int = 1):
        piece = piece_from(self.PIECE.format(meter=meter, text=text, times=times))
        return suits(piece, parse_tune(said, Meter(4, 4)), per=Fraction(per))

    @cases(
        ("as long", "T: AABB 8", 4, "fits", 0, 4),
        ("some left", "T: AABB 8", 3, "left_over", 8, 5),
        ("longer than the tune", "T: A 4", 4, "too_long", -16, 0),
        ("begun later", "T: AABB 8, begins on bar 9", 4, "fits", 0, 3),
    )
    def test_counts(self, _: str, said: str, times: int, verdict: str, left: int, often: int) -> None:
        """128 counts of AABB, eight bars of four each: by hand."""
        made = self.suit(said, times)
        self.assertEqual((made.verdict, made.left_over, made.times), (verdict, left, often))

    def test_meter_and_tempo(self) -> None:
        self.assertEqual(self.suit("T: in 6/8, AABB 8").verdict, "other_meter")
        self.assertEqual(self.suit("T: AABB 8, at 60", text="1 wing  2 step  3-8 hold").verdict, "too_slow")
        fast = self.suit("T: AABB 8, at 300", text="1 wing  2 step  3-8 hold")
        self.assertIn(fast.verdict, ("too_fast", "fits"))
        self.assertEqual(self.suit("T: in 2/4, AABB 16").verdict, "fits")

    @cases(
        ("4/4", "2/2", True), ("4/4", "2/4", True), ("3/4", "4/4", False), ("6/8", "12/8", True),
        ("9/8", "6/8", False), ("9/8", "9/8", True), ("7/8 as 2+2+3", "7/8 as 2+2+3", True),
        ("7/8 as 2+2+3", "4/4", False),
        ("6/8", "3/4", False),
    )  # fmt: skip
    def test_which_meters_go_together(self, steps: str, tune: str, fits: bool) -> None:
        """In twos and fours or in threes, of beats alike. Common practice, no source."""
        piece = piece_from(self.PIECE.format(meter=steps, text="1 step", times=1))
        made = suits(piece, Tune("T", parse_meter(tune), (Section("A", Fraction(36)),)))
        self.assertEqual(made.verdict != "other_meter", fits)

    def test_a_part_with_a_pick_up(self) -> None:
        """Eight counts of which the first leads up: seven are danced to the tune's own counts."""
        piece = piece_from("part A\n8 step | 1-7 step\npart B\n8 step\n")
        tune = parse_tune("T: A 7", Meter(4, 4))
        made = suits(piece, tune, piece.parts[0])
        self.assertEqual((made.danced, made.times, made.left_over), (7, 4, 0))
        self.assertEqual(made.why, ("4 times 7 counts fill its 28.",))
        self.assertEqual(suits(piece, tune, piece.parts[1]).times, 28)

    @cases((89, "too_slow"), (90, "fits"), (200, "fits"), (201, "too_fast"))
    def test_within_the_floor_and_ceiling(self, tempo: int, verdict: str) -> None:
        card = shipped().find("shuffle", "tap")
        shelf = Shelf.of(replace(c, floor=90, ceiling=200) if c is card else c for c in shipped().cards)
        piece = piece_from(self.PIECE.format(meter="4/4", text="1 step  & shuffle  2-8 step", times=4), shelf)
        made = suits(piece, parse_tune(f"T: AABB 8, at {tempo}", Meter(4, 4)))
        self.assertEqual(made.verdict, verdict)
        half = suits(piece, parse_tune(f"T: AABB 8, at {2 * tempo - 100}", Meter(4, 4)), per=Fraction(2))
        self.assertEqual(half.verdict in ("fits", "left_over"), 90 <= tempo - 50 <= 200)

    def test_the_best_first(self) -> None:
        made = [self.suit(said) for said in ("T: in 6/8, AABB 8", "T: A 4", "T: AABB 8", "T: AABB 9")]
        order = [m.verdict for m in sorted(made, key=lambda m: m.rank)]
        self.assertEqual(order, ["fits", "left_over", "too_long", "other_meter"])
        self.assertEqual(made[2].why, ("4 times 32 counts fill its 128.",))

    def test_two_beats_to_a_count(self) -> None:
        made = self.suit("T: AABB 8", 2, per=2)
        self.assertEqual((made.counts, made.verdict), (64, "fits"))

    def test_the_ledger_lies_over_the_tune(self) -> None:
        piece = piece_from("tune: Mill Race: intro 4 bars, AABB 4, at 100\npart A\n1 step x8\ncombo\nA x7\n")
        made = ledger(piece)
        self.assertEqual([e.tune for e in made.entries][:4], ["A1 bar 1", "A1 bar 3", "A2 bar 1", "A2 bar 3"])
        self.assertEqual(made.tune_left, 8)
        longer = piece_from("tune: Short: A 4\npart A\n1 step x8\ncombo\nA x3\n")
        self.assertEqual(ledger(longer).tune_left, -8)

    def test_a_tune_that_is_none_is_said(self) -> None:
        read = piece_from("tune: sideways\npart A\n1 step\n")
        self.assertIn("Mill Race: intro 8 bars", read.problems[0].message)


if __name__ == "__main__":
    unittest.main()
