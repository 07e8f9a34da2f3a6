"""What is on the desk, how it is danced, and takes coming in: all without a window."""

import unittest

import numpy as np
import soundfile

from firn.core.ear.verdict import NothingHeard
from firn.core.meter.count_in import CountIn
from firn.core.script.changes import Change, changed_text
from firn.core.sound.model import looped, render
from firn.core.steps.shelf import shipped
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.timeline import Section
from firn.session.demo import make_demo
from firn.session.desk import FAR, NEAR, NEAR_LINES, head_with, near_text, next_name, settings_of, whole_combo
from firn.session.notes import part_notes
from firn.session.session import Session
from firn.session.stretch import cut_stretch, moved, part_stretch
from firn.session.takes import bring_in, faults_for, heard, judged, simulate
from firn.session.transport import SIDES, Transport, danced, spoken_line
from tests.support import F, FolderCase, cases, part, piece

A = "8 stomp  1 hop  2 step  &3 flap  & step\n4 stomp  5 hop  6 step  &7 flap  & step"


class NearTextTest(unittest.TestCase):
    line = "1 step  2 stamp  3 step  4 stamp"

    def near(self, at: int, text: str) -> str | None:
        return near_text(text[:at] + text[at + 1 :], text)

    def test_it_ends_with_a_line_some_screens_after_the_change(self) -> None:
        text = "\n".join([self.line] * 2 * (FAR // len(self.line)))
        for at in (0, 50, 5_000):
            near = self.near(at, text)
            assert near is not None
            self.assertTrue(text.startswith(near + "\n"))
            self.assertEqual(near[at:].count("\n"), NEAR_LINES - 1)

    def test_of_long_lines_fewer_are_read(self) -> None:
        line = "  ".join([self.line] * 4)
        near = self.near(0, "\n".join([line] * 2 * (FAR // len(line))))
        assert near is not None
        self.assertTrue(NEAR <= len(near) <= NEAR + len(line))

    def test_near_the_end_all_of_it_is_and_a_short_one_is_not_parted(self) -> None:
        text = "\n".join([self.line] * 2 * (FAR // len(self.line)))
        self.assertEqual(self.near(len(text) - FAR + 1, text), text)
        self.assertIsNone(self.near(0, text[: FAR - 1]))

    def test_what_layers_say_of_all_of_it_is_kept(self) -> None:
        rows = [self.line] * 2 * (FAR // len(self.line))
        near = self.near(0, "\n".join([*rows, "meter: 6/8", "arms: 1 up"]))
        assert near is not None
        self.assertEqual(near.split("\n")[-2:], ["meter: 6/8", "arms: 1 up"])


class StretchTest(unittest.TestCase):
    def test_a_part(self) -> None:
        stretch = part_stretch(part(A))
        self.assertEqual((stretch.first, stretch.end, stretch.counts), (-1, 7, 8))
        self.assertEqual([w for _, w in stretch.words][:4], ["stomp", "hop", "step", "flap"])

    def test_the_other_side(self) -> None:
        one, two = part_stretch(part(A)), part_stretch(part(A), swapped=True)
        swap = {"left": "right", "right": "left"}
        self.assertEqual([s.foot for s in two.sounds], [swap[s.foot] for s in one.sounds])
        self.assertEqual([s.weight for s in two.sounds], [swap[s.weight] for s in one.sounds])

    @cases(
        ("from 2 to 3", F(1), F(3), ["step", "brush", "step", "step"]),
        ("a pick-up comes along", F(2), F(3), ["brush", "step", "step"]),
        ("what is before does not", F(3), F(4), ["stomp"]),
    )
    def test_cut(self, _: str, first: F, end: F, kinds: list[str]) -> None:
        self.assertEqual([s.kind for s in cut_stretch(part_stretch(part(A)), first, end).sounds], kinds)

    def test_an_empty_part_has_a_phrase_of_room(self) -> None:
        stretch = part_stretch(piece("").parts[0])
        self.assertEqual((stretch.first, stretch.end, stretch.sounds), (0, 8, ()))

    def test_combo(self) -> None:
        from firn.core.book.book import piece_of_script
        from firn.session.demo import demo_script
        from firn.session.stretch import combo_stretch

        made = piece_of_script(demo_script(), [str(i) for i in range(9)])
        read, whole, line = whole_combo(made, shipped())
        stretch = combo_stretch(read, whole)
        self.assertEqual((stretch.counts, stretch.titles[0], stretch.titles[2]), (81, (-1, "A"), (15, "Break")))
        self.assertEqual(made.script.split("\n")[line + 1], "A x2, Break, ends: 6-8 hold")


class LeadingUpTest(unittest.TestCase):
    def test_sounds_that_only_lead_up_to_a_count_are_danced_over_it(self) -> None:
        stretch = part_stretch(part("1 shuffle"))
        self.assertEqual((stretch.first, stretch.end, len(stretch.sounds)), (F(0), F(1), 2))
        made = render(Section(stretch.sounds, stretch.counting, stretch.first, stretch.end, Mixing()))
        turn = looped(made)
        self.assertGreater(len(turn), 0)


class NotesTest(unittest.TestCase):
    def test_most_important_first(self) -> None:
        notes = part_notes(piece("1 stamp & heel 2 L step 3 shufle 5 step").parts[0])
        self.assertEqual([n.level for n in notes], ["bad", "look", "look", "look", "ok", "ok", "ok", "ok"])
        self.assertEqual((notes[0].sound, notes[1].line, notes[1].column), (1, 0, 26))

    def test_what_leaves_the_floor_comes_with_a_caution(self) -> None:
        self.assertIn("Take care with the hop. Leaves the floor", part_notes(part("1 step 2 hop"))[-1].text)
        self.assertFalse(any("Take care" in n.text for n in part_notes(part("1 step 2 step"))))

    def test_an_empty_part_says_the_next_step(self) -> None:
        self.assertIn("Say the count", part_notes(piece("").parts[0])[0].text)

    @cases(
        ("one word", "1 step 2 step", [Change(0, 2, 6, "stamp")], "1 stamp 2 step"),
        (
            "from the end first",
            "ab\ncd",
            [Change(0, 0, 1, "X"), Change(0, 1, 2, "Y"), Change(1, 2, 2, "Z")],
            "XY\ncdZ",
        ),
        ("left out", "1 step & heel", [Change(0, 7, 13, "")], "1 step"),
    )
    def test_changes(self, _: str, text: str, changes: list[Change], after: str) -> None:
        self.assertEqual(changed_text(text, tuple(changes)), after)

    def test_head(self) -> None:
        head = "piece: Mine\n# a note\n"
        self.assertEqual(head_with(head, lead="right"), head)
        self.assertEqual(settings_of(head_with(head, lead="left")).lead, "left")

    def test_next_name(self) -> None:
        from firn.core.book.book import BookPart

        self.assertEqual(next_name((BookPart("1", "A", ""), BookPart("2", "C", ""))), "B")


class TransportTest(unittest.TestCase):
    def said(self, transport: Transport, body: str = A) -> str:
        values = spoken_line("A", part_stretch(part(body)), transport)
        return " ".join(f"{v.lead} {v.text}".strip() for v in values)

    def test_the_line(self) -> None:
        self.assertEqual(
            self.said(Transport(132)), "A from 8 to 7 at 132 after 5 6 7 as written with counts and beats then again"
        )

    @cases(
        ("count-in of eight", Transport(132, count_in=CountIn(many=8)), "after 1 2 3 4 5 6 7 "),
        ("half speed first", Transport(132, count_in=CountIn("pair")), "after 5 – 6 – 5 6 7 "),
        ("no count-in", Transport(132, count_in=CountIn("none")), "after no count-in"),
        ("other side", Transport(132).next_side(), "other side"),
        ("counts", Transport(132).next_layers(), "with counts then"),
        ("a rest", Transport(132).next_then(), "then a rest of 4"),
        ("a stretch", Transport(132, chosen=(F(3), F(7))), "A from 4 to 7"),
    )
    def test_values(self, _: str, transport: Transport, words: str) -> None:
        self.assertIn(words, self.said(transport))

    def test_round_and_round(self) -> None:
        transport = Transport()
        for _ in SIDES:
            transport = transport.next_side()
        self.assertEqual(transport, Transport())

    @cases(("up", 400, 5, 400), ("down", 20, -5, 20), ("a step", 120, 1, 122))
    def test_tempo_stays_in_bounds(self, _: str, tempo: float, steps: int, after: float) -> None:
        self.assertEqual(Transport(tempo).faster(steps).tempo, after)

    def test_both_sides_in_turn(self) -> None:
        stretch = part_stretch(part(A))
        plan = danced(stretch, Transport(side="both sides in turn"))
        self.assertEqual((len(plan.sounds), len(plan.sides), plan.end - plan.first), (24, 2, 16))
        self.assertEqual([s.foot for s in plan.sounds[12:14]], ["left", "right"])
        self.assertEqual(plan.sounds[12].place, stretch.sounds[0].place + 8)

    def test_layers_and_rest_reach_the_mix(self) -> None:
        mixing = Transport(layers="beats", then="a rest of 8").mixing
        self.assertEqual((mixing.counts, mixing.beats, mixing.rest), (False, True, 8))
        self.assertFalse(Transport(then="stop").loops)

    def test_moved(self) -> None:
        self.assertEqual([s.place for s in moved(part_stretch(part("1 step 2 step")), 8)], [8, 9])


class TakesTest(FolderCase):
    def setUp(self) -> None:
        super().setUp()
        self.session = Session.new(self.folder / "a.firn")
        self.addCleanup(self.session.close)

    @cases(("clean",), ("late",), ("missing",), ("hold",), ("mixed",), ("extra",), ("once",), ("loud",), ("order",))
    def test_the_simulated_students_faults_are_found(self, kind: str) -> None:
        one = part("8 stomp 1 hop 2 step &3 flap 4 step 5 stamp 6-7 hold")
        take = simulate(self.session.store, one, kind, piece="p", part_id="a", tempo=120, seed=3)
        sound, rate, onsets = heard(self.session.store, take)
        code = judged(one, take, onsets, sound, rate, on_ms=25).mend.code
        # Loudness and order are no matter of time.
        found = {"hold": "hold_dropped", "mixed": "missing", "extra": "added", "once": "slip"}
        found |= {"loud": "clean", "order": "clean"}
        self.assertEqual(code, found.get(kind, kind))

    def test_a_file_is_brought_in(self) -> None:
        path = self.folder / "my take: one, #2.wav"
        soundfile.write(path, np.random.default_rng(1).uniform(-0.1, 0.1, 48_000), 48_000)
        take = bring_in(self.session.store, path, piece="p", part="a", tempo=120).take
        self.assertEqual((take.name, take.seconds, take.source), ("my take one 2", 1.0, "file"))
        sound, rate, _ = heard(self.session.store, take)
        self.assertEqual((len(sound), rate), (48_000, 48_000))

    def test_a_silent_file(self) -> None:
        path = self.folder / "a.wav"
        soundfile.write(path, np.zeros(48_000), 48_000)
        with self.assertRaisesRegex(NothingHeard, "a.wav is silent. Was the microphone on?"):
            bring_in(self.session.store, path, piece="p", part="a", tempo=120)

    def test_a_late_sound_is_never_the_missing_one(self) -> None:
        faults = faults_for(part(A), "mixed", 120)
        self.assertEqual(faults.missing & set(faults.late_ms), frozenset())


class DemoTest(FolderCase):
    def test_the_demo(self) -> None:
        """Four parts, a combo, two takes; their planted faults are what is heard."""
        session = make_demo(self.folder / "demo.firn")
        book = session.book
        self.assertEqual([p.name for p in book.pieces[0].parts], ["A", "B", "Break", "Tag"])
        self.assertTrue(book.pieces[0].combo)
        one = part(book.pieces[0].parts[0].text, feel="swing", phrase="8 counts")
        codes = []
        for take in book.takes:
            sound, rate, onsets = heard(session.store, take)
            codes.append(judged(one, take, onsets, sound, rate, on_ms=25).mend.code)
        self.assertEqual(codes, ["missing", "early"])
        self.assertEqual(session.history.undo_label, "")
        session.close()


if __name__ == "__main__":
    unittest.main()
