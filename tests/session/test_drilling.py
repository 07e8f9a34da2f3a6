"""A drill as its piece is danced: what each stage shows and sounds, how long it lasts, and what the log gets."""

import unittest
from fractions import Fraction

from msgspec.structs import replace

from firn.core.book.book import Book, piece_of_script
from firn.core.book.edits import AddLog, AddPiece, DeletePiece
from firn.core.book.log import LogEntry
from firn.core.book.practice_edits import AddDrill, ChangeDrill, DeleteDrill
from firn.core.drills.stage import COMBO, Drill, Stage
from firn.core.meter.count_in import CountIn
from firn.core.sound.spoken import called, kept_words, spoken
from firn.core.steps.shelf import shipped
from firn.core.timeline.timeline import Timeline
from firn.errors import FirnError
from firn.session.drill_values import left_said, now_said, stage_line, stepped
from firn.session.drilling import drill_timeline, entry_of, first_drill, offered, plan
from tests.support import cases
from tests.support import part as part_of

SCRIPT = """piece: Gate
tempo: 120
part A
1 step  2 step  3 step  4 step  5 step  6 step  7 step  8 step
part B
1 stamp  2 stamp  3 stamp  4 hold
combo
A x2, B
"""


class DrillingTest(unittest.TestCase):
    def setUp(self) -> None:
        self.piece = piece_of_script(SCRIPT, ["p", "b", "a"][::-1])
        self.a, self.b = (part.id for part in self.piece.parts)
        self.book = AddPiece(self.piece).apply(Book())

    def planned(self, *stages: Stage):
        return plan(self.piece, Drill("d", self.piece.id, "Monday", stages), shipped())

    def test_what_each_stage_dances(self) -> None:
        made = self.planned(
            Stage("ladder", (self.a,)), Stage("hardest", (self.a,), (2, 5)), Stage("join", (self.a, self.b)),
            Stage("run_in", (self.a, self.b), lead_in=4), Stage("whole", (COMBO,)),
        )  # fmt: skip
        self.assertEqual([(one.wrong, one.stretch.counts) for one in made.stages],
                         [("", 8), ("", 3), ("", 12), ("", 8), ("", 20)])  # fmt: skip
        self.assertEqual(
            [one.title for one in made.stages],
            ["A: ladder of tempos", "A: the hardest bit", "A, then B: joined", "B with a run-in from A",
             "From the top"],
        )  # fmt: skip
        self.assertEqual(made.stages[3].led, 8)

    def test_its_first_sounds_up_to_the_end_of_their_count(self) -> None:
        all_of_it = [s.position for s in self.planned(Stage("click", (self.a,))).stages[0].stretch.sounds if s.heard]
        for many in (2, 3, len(all_of_it), 99):
            (one,) = self.planned(Stage("add_sound", (self.a,), sounds=many)).stages
            heard = [s.position for s in one.stretch.sounds if s.heard]
            self.assertEqual(heard, all_of_it[:many])
            self.assertLessEqual(heard[-1], one.stretch.end)
            self.assertTrue(all(at < len(one.stretch.sounds) for at, _ in one.stretch.words))
            self.assertGreater(len(one.section(one.times[0], CountIn()).sounds), 0)

    def test_how_long_it_lasts(self) -> None:
        """Eight counts after a count-in of four, a rest of four: 16 counts, at 120 8 s; twice on both sides 32 s."""
        (one,) = self.planned(Stage("click", (self.a,), None, 120, 120, times=2)).stages
        section = one.section(one.times[0], CountIn())
        self.assertEqual(section.length_s, Fraction(8))
        self.assertEqual(one.seconds(CountIn()), 32)
        self.assertEqual(left_said(self.planned(one.stage), 0, 2, CountIn()), "20 s left")

    def test_its_seconds_are_those_of_its_timeline(self) -> None:
        made = self.planned(
            Stage("ladder", (self.a,), None, 90, 111, 7, times=2), Stage("click", (self.a,), sides="other side"),
            Stage("run_in", (self.a, self.b), lead_in=4, rest=6), Stage("whole", (COMBO,), None, 96, 96, times=3),
        )  # fmt: skip
        for one in made.stages:
            for count_in in (CountIn(), CountIn("count", 2)):
                sections = tuple(one.section(rung, count_in) for rung in one.times)
                self.assertAlmostEqual(one.seconds(count_in), float(Timeline(sections).length_s), places=9)

    @cases(
        ("seated", "1 hop  2 step  3 step  4 step", "1 heel  2 step  3 step  4 step"),
        ("simpler", "8 double time step", ""),
    )
    def test_at_another_level(self, kind: str, text: str, read: str) -> None:
        piece = piece_of_script(f"piece: Gate\npart A\n{text}", ["p", "a"])
        made = plan(piece, Drill("d", "p", "Monday", (Stage(kind, ("a",)),)), shipped()).stages[0]
        self.assertEqual(made.wrong, "")
        self.assertEqual(made.stretch.counts, part_of(text).counts)
        kinds = [sound.kind for sound in made.stretch.sounds]
        if read:
            self.assertEqual(kinds, ["heel", "step", "step", "step"])
        else:
            self.assertNotEqual(kinds, [s.kind for s in part_of(text).sounds])
        # What is danced at another level is not the part clean.
        entry = entry_of(piece, made, made.times[0], "clean", None, slower=False)
        self.assertEqual(entry.part, "")

    def test_a_part_without_that_level_says_so(self) -> None:
        made = self.planned(Stage("simpler", (self.b,)))
        self.assertTrue(made.stages[0].wrong)

    def test_another_part_is_called_ahead(self) -> None:
        """Two counts before the count-in: its name, and a count of silence. The same part again is not called."""
        other = Stage("join", (self.a, self.b, self.a), start=120, end=120)
        stages = [Stage("click", (part,), start=120, end=120, heard="nothing") for part in (self.a, self.a, self.b)]
        made = self.planned(*stages, Stage("whole", (COMBO,)), Stage("join", (self.a, self.b)), other)
        self.assertEqual(
            [made.call(n) for n in range(6)],
            [(), (), ("part B",), ("part whole",), ("part A", "part B"), ("part next",)],
        )
        timeline = drill_timeline(self.planned(*stages), CountIn())
        # Each part has both sides: two sections a stage; B is called before its first.
        led = [[text for _, text in section.led] for section in timeline.sections]
        counted = led[0]
        self.assertEqual(led, [counted, counted, counted, counted, ["part B", *counted], counted])
        called, first = timeline.sections[4].led[:2]
        self.assertEqual(first[0] - called[0], 2)
        self.assertEqual(timeline.sections[4].length_s - timeline.sections[5].length_s, 1)

    @cases(("A", "part A"), ("h", "part H"), ("Break", "part break"), ("Turnover", "part next"), ("", "part next"))
    def test_what_is_called_is_kept_as_a_recording(self, name: str, word: str) -> None:
        self.assertEqual(called(name), word)
        self.assertIsNotNone(spoken(word))
        # Nobody counts with it: no take is searched for it.
        self.assertNotIn(word, kept_words())

    def test_another_number_of_times_is_the_same_as_asked_for_afresh(self) -> None:
        stages = Stage("ladder", (self.a,), None, 90, 111, 7, times=2), Stage("click", ("gone",))
        for one, stage in zip(self.planned(*stages).stages, stages, strict=True):
            (afresh,) = self.planned(replace(stage, times=3)).stages
            self.assertEqual(one.with_times(3), afresh)

    @cases(
        ("counts_beats", {"sound", "count", "beat"}, "12345678"), ("counts", {"sound", "count"}, ""),
        ("beats", {"sound", "beat"}, "12345678"), ("steps", {"sound"}, ""), ("click", {"beat"}, "12345678"),
        ("gaps", {"beat"}, "1234"), ("count_only", {"count", "beat"}, "12345678"), ("nothing", set(), ""),
    )  # fmt: skip
    def test_what_is_heard(self, heard: str, kinds: set[str], beats: str) -> None:
        """The count-in is heard whatever comes after it, and the rest after the last count."""
        (one,) = self.planned(Stage("click", (self.a,), heard=heard, rest=0)).stages
        events = one.section(one.times[0], CountIn()).events()
        self.assertLessEqual({"count", "beat"}, {e.kind for e in events if e.position < 0})
        after = [e for e in events if e.position >= 0]
        self.assertEqual({e.kind for e in after}, kinds)
        self.assertEqual("".join(str(e.position + 1) for e in after if e.kind == "beat"), beats)

    @cases(("one_foot", False, "1357"), ("one_foot", True, "1357"), ("feet", False, "1234578"), ("hands", False, "6"))
    def test_layer_by_layer(self, heard: str, swapped: bool, counts: str) -> None:
        """Steps, and on 6 a clap: the foot that begins has the odd counts, the other one on the other side."""
        eight = SCRIPT.replace("6 step", "6 clap").replace("7 step", "7 step R")
        piece = piece_of_script(eight, ["p", "b", "a"][::-1])
        made = plan(piece, Drill("d", "p", "Monday", (Stage("click", (piece.parts[0].id,), heard=heard),)), shipped())
        (one,) = made.stages
        rung = next(r for r in one.times if r.swapped == swapped)
        section = one.section(rung, CountIn())
        self.assertEqual("".join(str(s.position + 1) for s in section.sounds), counts)
        if heard == "one_foot":
            self.assertEqual({s.foot for s in section.sounds}, {"left" if swapped else "right"})

    @cases(
        ("a part that is gone", lambda s: Stage("click", ("nowhere",)), "A part of this stage is gone"),
        ("shorter now", lambda s: Stage("hardest", (s.a,), (9, 12)), "A has become shorter"),
        ("tempos below what there is", lambda s: Stage("ladder", (s.a,), None, 30, 10), "between 20 and 400"),
    )
    def test_what_cannot_be_danced_is_said(self, _: str, make, said: str) -> None:
        (one,) = self.planned(make(self)).stages
        self.assertIn(said, one.wrong)
        self.assertEqual((one.times, one.seconds(CountIn())), ((), 0.0))

    def test_the_home_step_is_another_part_that_is_clean_at_the_tempo(self) -> None:
        for tempo, home in ((118, ""), (120, self.b)):
            book = self.book
            for side in ("left", "right"):
                book = AddLog(LogEntry(side, "2026-11-24", "Gate, B", self.b, side, tempo, "clean")).apply(book)
            found = {o.stage.kind: o.stage for o in offered(book, self.piece, self.a, shipped(), 120.0)}
            self.assertEqual(found["home"].parts[0] if "home" in found else "", home)

    def test_a_first_drill_of_what_fits(self) -> None:
        found = offered(self.book, self.piece, self.a, shipped(), 120.0)
        drill = first_drill(self.piece, found, "Monday")
        self.assertEqual((len(drill.stages), drill.piece), (3, self.piece.id))
        self.assertEqual([one.wrong for one in plan(self.piece, drill, shipped()).stages], ["", "", ""])
        self.assertEqual(offered(self.book, self.piece, COMBO, shipped(), 120.0), [])

    def test_what_the_log_gets(self) -> None:
        whole, bit = self.planned(
            Stage("ladder", (self.a,), None, 92, 96), Stage("hardest", (self.a,), (2, 5))
        ).stages
        one = entry_of(self.piece, whole, whole.times[1], "slip", None, slower=False)
        self.assertEqual((one.step, one.part, one.side, one.tempo, one.how, one.source),
                         ("Gate, A", self.a, "left", 92, "slip", "drill"))  # fmt: skip
        other = entry_of(self.piece, bit, bit.times[0], "clean", one, slower=True)
        self.assertEqual((other.step, other.part, other.tempo), ("Gate, A: the hardest bit", "", 80.0))

    def test_said(self) -> None:
        (one,) = self.planned(Stage("ladder", (self.a,), None, 92, 96, times=2)).stages
        said = " ".join(f"{v.lead} {v.text}".strip() for v in stage_line(one))
        wanted = "A from 1 to 8 from 92 to 96 by 4 twice on both sides with counts and beats then a rest of 4"
        self.assertEqual(said, wanted)
        self.assertEqual(now_said(one, one.times[3], slower=False), "other side, 2 of 2    92 → 96")
        self.assertEqual(now_said(one, one.times[3], slower=True), "other side, 2 of 2    74, slower → 96")

    @cases(
        ("start", 1, {"start": 94.0}), ("end", -1, {"end": 98.0}), ("step", 1, {"step": 5.0}),
        ("times", 1, {"times": 2}), ("times", -1, {}),
        ("sides", 1, {"sides": "as written"}), ("heard", 1, {"heard": "counts"}),
        ("heard", -1, {"heard": "count_only"}),
        ("rest", 1, {"rest": 8}), ("what", 1, {}),
    )  # fmt: skip
    def test_a_value_changed(self, name: str, by: int, changes: dict) -> None:
        stage = Stage("ladder", ("a",), None, 92, 100)
        self.assertEqual(stepped(stage, name, by), replace(stage, **changes))

    def test_one_tempo_moves_as_one(self) -> None:
        stage = Stage("click", ("a",), None, 92, 92)
        self.assertEqual(stepped(stage, "start", 1), replace(stage, start=94, end=94))
        self.assertEqual(stepped(stage, "end", 1), replace(stage, end=96))


LATIN = """piece: Ferry
tradition: latin
tempo: 120
part A
1 step  2 step  3 step  5 step  6 step  7 step
"""


class OtherwiseTest(unittest.TestCase):
    """The same part in rows, on 2, as in a mirror and without a sound."""

    def setUp(self) -> None:
        self.piece = piece_of_script(LATIN, ["p", "a"][::-1])
        self.part = self.piece.parts[0].id

    def danced(self, kind: str, **values):
        stage = Stage(kind, (self.part,), None, 100, 100, **values)
        (one,) = plan(self.piece, Drill("d", self.piece.id, "Monday", (stage,)), shipped()).stages
        return one

    def test_on_2_it_breaks_a_beat_later_in_the_same_music(self) -> None:
        """On 1 the break steps are on 1 and 5, on 2 on 2 and 6: common practice, no source."""
        on_1, on_2 = self.danced("whole", heard="music"), self.danced("on_two", heard="music")
        self.assertEqual(on_2.title, "A: on 2")
        self.assertEqual([s.position - 1 for s in on_2.stretch.sounds], [s.position for s in on_1.stretch.sounds])
        bass = []
        for one in (on_1, on_2):
            events = one.section(one.times[0], CountIn()).events()
            bass.append({e.position for e in events if e.kind == "music" and e.note.instrument == "bass"})
        self.assertLessEqual(bass[1] - {8}, bass[0])
        self.assertIn(4, bass[1])

    def test_rows_follow_each_other(self) -> None:
        one = self.danced("rows", sides="as written", times=3, rest=0)
        self.assertEqual([now_said(one, rung, slower=False).split("    ")[0] for rung in one.times],
                         ["as written, row 1 of 3", "as written, row 2 of 3", "as written, row 3 of 3"])  # fmt: skip
        self.assertIn("by 3 rows", " ".join(v.text for v in stage_line(one)))

    def test_as_in_a_mirror_it_is_seen_heard_and_logged_on_the_other_side(self) -> None:
        plain, mirrored = self.danced("whole"), self.danced("mirrored")
        self.assertFalse(plain.section(plain.times[0], CountIn()).mixing.swapped)
        self.assertTrue(mirrored.section(mirrored.times[0], CountIn()).mixing.swapped)
        entry = entry_of(self.piece, mirrored, mirrored.times[0], "clean", None, slower=False)
        other = entry_of(self.piece, plain, plain.times[0], "clean", None, slower=False)
        self.assertEqual((entry.part, {entry.side, other.side}), (self.part, {"left", "right"}))

    @cases(("silent", "A: without a sound"), ("on_two", "A: on 2"))
    def test_what_is_no_proof_of_the_part_is_logged_as_what_it_is(self, kind: str, name: str) -> None:
        one = self.danced(kind)
        entry = entry_of(self.piece, one, one.times[0], "clean", None, slower=False)
        self.assertEqual(entry.part, "")
        self.assertIn(name, entry.step)

    def test_arms_are_read_from_afar(self) -> None:
        self.assertEqual((self.danced("arms").cues, self.danced("click").cues), (("arms", "body"), ()))

    def test_without_a_sound_none_is_heard(self) -> None:
        one = self.danced("silent", heard="count_only")
        heard = {event.kind for event in one.section(one.times[0], CountIn()).events()}
        self.assertNotIn("sound", heard)
        self.assertIn("count", heard)


class SaidTest(unittest.TestCase):
    def test_the_hands_are_said_before_they_are_played(self) -> None:
        piece = piece_of_script("part A\n1 step  2 clap  3 step  4 clap\n", ["p", "a"][::-1])
        found = offered(AddPiece(piece).apply(Book()), piece, piece.parts[0].id, shipped(), 120)
        (hands,) = [one for one in found if one.stage.kind == "hands"]
        self.assertEqual([stage.heard for stage in hands.stages], ["voiced", "hands"])
        said, played = plan(piece, Drill("d", "p", "Monday", hands.stages), shipped()).stages
        for one, voiced in ((said, True), (played, False)):
            section = one.section(one.times[0], CountIn())
            self.assertEqual([(s.kind, s.voiced) for s in section.sounds], [("clap", voiced)] * 2)


class KeptTest(unittest.TestCase):
    def test_added_changed_deleted_with_its_piece(self) -> None:
        piece = piece_of_script(SCRIPT, ["x", "y", "z"])
        book = AddPiece(piece).apply(Book())
        drill = Drill("d", piece.id, " Monday ", (Stage("click", (piece.parts[0].id,)),))
        book = AddDrill(drill).apply(book)
        self.assertEqual(book.drills_of(piece.id)[0].name, "Monday")
        changed = ChangeDrill(replace(book.drills[0], name="Tuesday"), "Rename the drill").apply(book)
        self.assertEqual(changed.drills[0].name, "Tuesday")
        self.assertEqual(DeleteDrill("d").apply(changed).drills, ())
        self.assertEqual(DeletePiece(piece.id).apply(book).drills, ())

    @cases(("", (), "at least one letter"), ("Long", (Stage("click", ("a",)),) * 61, "60 stages at most"),
           ("Odd", (Stage("click", ("a",), None, 1, 1),), "between 20 and 400"))  # fmt: skip
    def test_what_cannot_be_kept(self, name: str, stages: tuple, said: str) -> None:
        with self.assertRaisesRegex(FirnError, said):
            AddDrill(Drill("d", "p", name, stages)).apply(Book())


if __name__ == "__main__":
    unittest.main()
