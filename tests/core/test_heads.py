"""A piece as it is written down elsewhere: its heads, sections and rows; common practice, no source."""

import unittest

from firn.core.script.piece_text import Script, read_script
from tests.support import cases


def parts(script: Script) -> list[tuple[str, str]]:
    return [(part.name, part.text) for part in script.parts]


class SectionsTest(unittest.TestCase):
    @cases(
        ("[A]\nstep touch\n[B]\nstamp clap", [("A", "step touch"), ("B", "stamp clap")]),
        ("[Verse 1]\nstep touch", [("Verse 1", "step touch")]),
        ("A:\nstep touch\n\nB:\nstamp clap", [("A", "step touch"), ("B", "stamp clap")]),
        ("A) step touch\nB) stamp clap", [("A", "   step touch"), ("B", "   stamp clap")]),
        ("A. step touch\nB. stamp clap", [("A", "   step touch"), ("B", "   stamp clap")]),
        ("A - step touch\nB - stamp clap", [("A", "    step touch"), ("B", "    stamp clap")]),
        ("Monday\n\nVerse:\nstep touch\n[B]\nclap", [("A", "Monday"), ("Verse", "step touch"), ("B", "clap")]),
        ("Verse\nstep touch\nChorus:\nstamp clap", [("Verse", "step touch"), ("Chorus", "stamp clap")]),
        ("A section:\nstep touch\nB section\nstamp clap", [("A", "step touch"), ("B", "stamp clap")]),
        ("Section 1\nstep touch\nSection 2\nstamp clap", [("Section 1", "step touch"), ("Section 2", "stamp clap")]),
        ("Estrofa:\npaso\nEstribillo:\npalma", [("Estrofa", "paso"), ("Estribillo", "palma")]),
    )
    def test_sections_are_parts(self, text: str, expected: list[tuple[str, str]]) -> None:
        read = read_script(text)
        self.assertEqual(parts(read), expected)
        self.assertEqual([p.code for p in read.problems], ["N101"] * ("Monday" in text))

    @cases(
        # A label over one row, feet, lengths, and a letter that begins no list.
        ("A: step touch",), ("R: stamp\nL: stamp",), ("S: step\nQ: step",), ("B: stamp clap\nstep",),
        # Where parts are headed as such, what is in them stays there.
        ("part A\nA: step touch\nB: stamp clap",), ("part A\nVerse 1: step touch",),
        # What comes after steps, and may be a step or only what a row is called.
        ("step touch\nbreak: stamp clap",), ("basic\nbreak\nbasic",), ("step\nA: stamp\nB: clap",),
    )  # fmt: skip
    def test_what_heads_no_part(self, text: str) -> None:
        self.assertEqual(len(read_script(text).parts), 1, text)

    def test_a_fault_stands_where_it_was_typed(self) -> None:
        read = read_script("A: step touch\nB: stamp clxp")
        self.assertEqual([(p.code, p.line, p.column) for p in read.problems], [("N101", 1, 9)])

    @cases(("Order: A, B, A",), ("Routine: A B A",), ("sequence: A, B, A",), ("Rutina: A, B, A",))
    def test_how_they_are_put_together(self, line: str) -> None:
        read = read_script(f"A: step touch\nB: stamp clap\n{line}")
        self.assertEqual(([item.part for item in read.combo], read.problems), (["A", "B", "A"], ()))


class HeadingsTest(unittest.TestCase):
    @cases(
        ("Title: Back Room\nStyle: swing\nTime: 3/4\nBPM: 132\n\nstep", ("Back Room", "swing", "3/4", 132)),
        ("SWING\n132 bpm\nrock step", ("Untitled", "swing", "4/4", 132)),
        ("Tempo 96\n3/4 time\nstep clap", ("Untitled", "tap", "3/4", 96)),
        ("tap\nstep\ntap", ("Untitled", "tap", "4/4", 120)),
        ("dance: Lindy Hop\nmeter: waltz time\ntempo: about 140\nstep", ("Untitled", "swing", "3/4", 140)),
        ("Title: Lantern\nClogging\nDS RS\nDS RS", ("Lantern", "clogging", "4/4", 120)),
        ("Title: Lantern\nTap\npart A\nstep", ("Lantern", "tap", "4/4", 120)),
        ("♪ 240 bpm\nstep clap", ("Untitled", "tap", "4/4", 120)),
        ("♩ = 96 bpm\nstep clap", ("Untitled", "tap", "4/4", 96)),
        ("waltz time\ntempo: ♩ = 96\nstep clap", ("Untitled", "tap", "3/4", 96)),
        ("tradition: Irish step dance\ntempo: crotchet = 112 bpm\nstep", ("Untitled", "step dance", "4/4", 112)),
    )
    def test_settings(self, text: str, expected: tuple[str, str, str, float]) -> None:
        read = read_script(text)
        said = read.settings
        self.assertEqual((said.name, said.tradition, str(said.meter), said.tempo), expected)
        self.assertEqual(read.problems, ())

    @cases(
        ("4/4", "half = 60", 120), ("4/4", "minim = 60", 120), ("4/4", "eighth = 240", 120), ("4/4", "♪ = 240", 120),
        ("4/4", "quarter note = 120 bpm", 120), ("4/4", "dotted quarter = 80", 120), ("4/4", "beat = 120", 120),
        ("2/2", "quarter = 120", 60), ("2/2", "half = 96", 96), ("2/4", "blanca = 60", 120),
        ("6/8", "dotted quarter = 116", 116), ("6/8", "♩. = 116", 116), ("6/8", "quarter = 120", 80),
        ("6/8", "eighth = 180", 60), ("9/8", "negra con puntillo = 100", 100), ("7/8 as 2+2+3", "eighth = 200", 200),
    )  # fmt: skip
    def test_tempo_of_a_note(self, meter: str, said: str, counts: float) -> None:
        """Counts a minute, whichever note is told and whether the meter stands before or after (any primer of
        notation)."""
        heads = f"meter: {meter}", f"tempo: {said}"
        for head in ("\n".join(heads), "\n".join(reversed(heads))):
            read = read_script(f"{head}\npart A\nstep")
            self.assertEqual((read.settings.tempo, read.problems), (counts, ()))

    @cases(("quaver = 20", "20 to 400"), ("flibber = 120", "20 to 400"), ("whole = 200", "20 to 400"))
    def test_no_tempo(self, said: str, told: str) -> None:
        (problem,) = read_script(f"tempo: {said}\npart A\nstep").problems
        self.assertIn(told, problem.message)

    @cases(("jig", "6/8"), ("slip jig", "9/8"), ("polka", "2/4"), ("reel", "4/4"), ("six eight", "6/8"))
    def test_meter_of_a_dance(self, said: str, meter: str) -> None:
        self.assertEqual(str(read_script(f"meter: {said}\npart A\nstep").settings.meter), meter)

    @cases(
        ("starting foot: left foot", "lead", "left"), ("Starts on: left", "lead", "left"),
        ("swing feel", "feel", "swing"), ("feel: swung", "feel", "swing"),
        ("words: scoot = chug", "words", (("scoot", "chug"),)),
        ("words: scoot means chug, heel toe apart", "words", (("scoot", "chug"), ("heel toe", "(apart)"))),
    )  # fmt: skip
    def test_values_as_they_are_called_elsewhere(self, text: str, key: str, expected: object) -> None:
        read = read_script(f"{text}\npart A\nstep")
        self.assertEqual((getattr(read.settings, key), read.problems), (expected, ()))

    def test_tap_alone_among_steps_is_one(self) -> None:
        self.assertEqual(read_script("tap\nstep\ntap").parts[0].text, "tap\nstep\ntap")

    def test_what_is_only_told(self) -> None:
        (problem,) = read_script("music: Copper Kettle\npart A\nstep").problems
        self.assertEqual(problem.message, 'No heading is called "music". Put # before what is only told.')

    @cases(("First 8: step touch x4",), ("Counts 1-8: step touch x4",), ("Line 1: step touch",))
    def test_a_row_with_a_label_is_no_heading(self, line: str) -> None:
        read = read_script(line)
        self.assertEqual((parts(read), read.problems), ([("A", line)], ()))


if __name__ == "__main__":
    unittest.main()
