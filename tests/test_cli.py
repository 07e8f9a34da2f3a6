"""The command line, as it is typed: outputs, exit statuses, and one sentence for what is wrong."""

import json
import unittest
import unittest.mock

import numpy as np
import soundfile

from firn.core.book.book import Book, piece_of_script
from firn.core.book.edits import AddLog, AddPiece
from firn.core.book.log import LogEntry
from firn.core.book.practice_edits import AddDrill, AddStudent
from firn.core.book.students import Student
from firn.core.drills.stage import Drill, Stage
from firn.core.sound.voices import RATE
from firn.files.cards import write_example
from firn.session.demo import make_demo
from firn.session.session import Session
from tests.cli import CliCase
from tests.core.test_script import GATE_LATCH
from tests.session.test_music import beats, clicks
from tests.support import cases


class LedgerTest(CliCase):
    @cases(("A x2, B", 0), ("A, B left", 1), ("A, Nowhere", 2))
    def test_the_status(self, combo: str, status: int) -> None:
        path = self.write(f"part A\n1 step x8\npart B\n1 step x8\ncombo\n{combo}\n")
        found, out, _ = self.run_firn("ledger", path)
        self.assertEqual(found, status, out)

    def test_the_json(self) -> None:
        path = self.write("tempo: 120\npart A\n1 step x8\ncombo\nA x2\n")
        data = json.loads(self.run_firn("ledger", path, "--json", "--phrase", 32)[1])
        self.assertEqual(
            [(p["from"], p["phrase"], p["seconds"]) for p in data["passes"]], [("1", 32, 4.0), ("9", 32, 4.0)]
        )
        self.assertEqual(data["totals"]["left_over"], 16)

    def test_no_combo(self) -> None:
        status, _, err = self.run_firn("ledger", self.write("part A\n1 step\n"))
        self.assertEqual((status, err), (2, "firn: This piece has no combo: join its parts in lines under combo.\n"))


class FitsTest(CliCase):
    def test_the_best_first(self) -> None:
        tunes = self.folder / "tunes"
        tunes.mkdir()
        for name, bars in (("long", 8), ("odd", 5)):
            (tunes / f"{name}.abc").write_text(f"X:1\nT:{name}\nM:4/4\nL:1/4\nK:D\n{'DEFG|' * bars}\n", "utf-8")
        (tunes / "none.mid").write_bytes(b"none")
        self.write("part A\n1 step x8\ncombo\nA x2\n")
        status, out, err = self.run_firn("fits", self.steps, "--tunes", tunes, "--json")
        found = [(t["tune"], t["verdict"], t["leftover"]) for t in json.loads(out)["tunes"]]
        self.assertEqual((status, found), (0, [("long", "fits", 0), ("odd", "left_over", 4)]))
        self.assertEqual(err, "firn: none.mid is no MIDI file that can be read.\n")
        self.assertIn("fits         long (long.abc), A:", self.run_firn("fits", self.steps, "--tunes", tunes)[1])
        out = self.run_firn("ledger", self.steps, "--tune", tunes / "odd.abc", "--json")[1]
        self.assertEqual([p["tune"] for p in json.loads(out)["passes"]], ["A bar 1", "A bar 3"])
        self.assertEqual(json.loads(out)["totals"]["tune"]["left_over"], 4)


class FillTest(CliCase):
    def test_a_piece_that_reads_back(self) -> None:
        words = ("fill", self.write("tradition: swing\ntempo: 140\n"), "--counts", 16, "--ends", "left", "--seed", 3)
        status, out, _ = self.run_firn(*words)
        self.assertEqual((status, out), (0, self.run_firn(*words)[1]))
        data = json.loads(self.run_firn("ledger", self.write(out), "--json")[1])
        totals = {key: data["totals"][key] for key in ("counts", "foot_out", "left_over")}
        self.assertEqual(totals, {"counts": 16, "foot_out": "left", "left_over": 0})

    def test_what_cannot_be_filled(self) -> None:
        self.write("tradition: tap\n")
        status, out, err = self.run_firn("fill", self.steps, "--counts", 8, "--of", "wibble")
        self.assertEqual((status, out), (1, ""))
        self.assertEqual(err, 'firn: "wibble" is no step of tap that fills whole counts by itself.\n')


class PracticeTest(CliCase):
    def test_from_a_text_and_a_list(self) -> None:
        log = self.folder / "log.json"
        log.write_text('[{"when": "2026-11-20", "part": "a", "side": "right", "tempo": 100}]', "utf-8")
        words = ("drill", self.steps, "--minutes", 10, "--days", 2, "--today", "2026-11-25", "--log", log)
        status, out, _ = self.run_firn(*words, "--json")
        stages = json.loads(out)["stages"]
        self.assertEqual((status, stages[0]["kind"], stages[0]["day"]), (0, "warm_up", "2026-11-25"))
        self.assertIn("2026-11-26  ", self.run_firn(*words)[1])

    def test_from_a_workbook(self) -> None:
        path = self.folder / "class.firn"
        make_demo(path).close()
        status, out, _ = self.run_firn("drill", path, "--of", "gate latch", "--today", "2026-11-27", "--json")
        self.assertEqual((status, json.loads(out)["stages"][0]["kind"]), (0, "warm_up"))
        status, _, err = self.run_firn("drill", path, "--of", "nowhere")
        self.assertEqual((status, err[:40]), (2, 'firn: No piece is called "nowhere". The '))

    @cases(
        ("[1]", "Row 1 of log.json is not understood"), ("{", "log.json is no list"), ("3", "is no list"),
        ('[{"when": "2026-11-20", "part": "A", "tempo": 0}]', "Row 1 of"),
    )  # fmt: skip
    def test_a_list_that_is_none(self, text: str, said: str) -> None:
        log = self.folder / "log.json"
        log.write_text(text, "utf-8")
        status, _, err = self.run_firn("drill", self.steps, "--log", log)
        self.assertEqual((status, err.count("\n")), (2, 1))
        self.assertIn(said, err)

    def test_a_practice_of_one_student(self) -> None:
        """Each goes on from their own log, to their own tempo."""
        path = self.folder / "class.firn"
        piece = piece_of_script(GATE_LATCH, [f"p{n}" for n in range(9)])
        part = piece.parts[0]
        book = AddPiece(piece).apply(Book())
        for edit in (
            AddStudent(Student("k1", "A. L.", tempo=104)),
            AddLog(LogEntry("1", "2026-11-25", "x", part.id, "right", 96, "clean", student="k1")),
            AddLog(LogEntry("2", "2026-11-25", "x", part.id, "right", 60, "clean")),
        ):
            book = edit.apply(book)
        Session.new(path, book).close()
        for who, wanted in ((("--student", "k1"), (96, 104)), (("--student", "a. l."), (96, 104)), ((), (60, 68))):
            status, out, err = self.run_firn("drill", path, *who, "--today", "2026-11-27", "--json")
            self.assertEqual((status, err), (0, ""))
            stages = json.loads(out)["stages"]
            ladder = next(s for s in stages if (s["kind"], s["part"]) == ("ladder", part.name))
            self.assertEqual((ladder["tempo"], ladder["to_tempo"]), wanted)
        status, _, err = self.run_firn("drill", path, "--student", "C.")
        self.assertEqual((status, err), (2, 'firn: No student is called "C.". The students: "A. L.".\n'))
        status, _, err = self.run_firn("drill", self.steps, "--student", "k1")
        self.assertIn("has no students", err)

    def test_a_drill_is_played(self) -> None:
        """Two counts of four at 240 on both sides: (4 + 4 + 4 counts) x 60 / 240 twice, and .4 s ring on."""
        path = self.folder / "class.firn"
        piece = piece_of_script("part A\n1 step  2 step  3 step  4 touch\n", ["p", "a"])
        stage = Stage("click", (piece.parts[0].id,), None, 240, 240)
        drill = Drill("d", piece.id, "Monday", (stage,))
        Session.new(path, AddDrill(drill).apply(AddPiece(piece).apply(Book()))).close()
        out = self.folder / "drill.wav"
        status, _, err = self.run_firn("play", path, "--drill", "monday", "-o", out)
        self.assertEqual((status, err), (0, ""))
        counts = 4 + 4 + 4
        self.assertAlmostEqual(soundfile.info(out).duration, 2 * counts * 60 / 240 + 0.4, places=2)
        status, _, err = self.run_firn("play", path, "--drill", "Sunday", "-o", out)
        self.assertEqual((status, err), (2, 'firn: No drill is called "Sunday". The drills: Monday.\n'))
        status, _, err = self.run_firn("play", self.steps, "--drill", "Monday", "-o", out)
        self.assertIn("has no drills", err)

    @cases((("--today", "tomorrow"), "is no day"), (("--minutes", "0"), "between 2 and 180"))
    def test_what_cannot_be(self, words: tuple, said: str) -> None:
        status, _, err = self.run_firn("drill", self.steps, *words)
        self.assertEqual(status, 2)
        self.assertIn(said, err)


class ReadTest(CliCase):
    def test_doubts_in_the_json(self) -> None:
        path = self.folder / "doubt.steps"
        path.write_text("part A\n1 step\n3 flaps\n", "utf-8")
        status, out, err = self.run_firn("read", path, "--json")
        (doubt,) = json.loads(out)["doubts"]
        self.assertEqual(status, 0)
        self.assertIn("could be", err)
        self.assertEqual([doubt[key] for key in ("code", "part", "line", "column", "end")], ["doubt", "A", 3, 1, 8])
        self.assertEqual(
            [m["change"] for m in doubt["mends"]],
            [[{"line": 3, "column": 1, "end": 8, "text": text}] for text in ("3 flap", "flaps x3")],
        )

    def test_json(self) -> None:
        status, out, err = self.run_firn("read", self.steps, "--json")
        data = json.loads(out)
        self.assertEqual((status, err, data["problems"]), (0, "", []))
        self.assertEqual(
            data["sounds"][3],
            {
                "part": "A", "place": "3/2", "position": "5/3", "say": "&", "foot": "left", "kind": "brush",
                "weight": "right", "silent": False, "word": "flap",
            },
        )  # fmt: skip
        self.assertEqual(data["sounds"][0]["place"], "-1")
        hold = data["sounds"][-1]
        self.assertEqual((hold["kind"], hold["foot"], hold["silent"], hold["place"]), ("hold", None, True, "5"))
        self.assertEqual(data["parts"][0], {"part": "A", "counts": 8, "free": "right", "again": "same"})

    def test_kinds_are_the_first_names_of_the_trade(self) -> None:
        self.write("part A\n1 stamp 2 heel step 3 toe tip 4 pull 5 clap 6 ball tap")
        kinds = [s["kind"] for s in json.loads(self.run_firn("read", self.steps, "--json")[1])["sounds"]]
        self.assertEqual(kinds, ["flat", "heel_step", "toe_tip", "spank", "clap", "touch"])

    def test_plain(self) -> None:
        status, out, _ = self.run_firn("read", self.steps)
        self.assertEqual(status, 0)
        self.assertIn("A: 8 counts, right free at the end", out)
        self.assertRegex(out, r"&\s+3/2\s+left\s+brush\s+weight right\s+flap")

    def test_problems_to_standard_error(self) -> None:
        self.write("part A\n1 shufle\n99 step\n")
        status, out, err = self.run_firn("read", self.steps)
        self.assertEqual(status, 2)
        lines = err.strip().split("\n")
        self.assertEqual(lines[0], f'{self.steps}:2:3: N101 No step is called "shufle". '
                                   "Nearest: shuffle, shuf, scuffle.")  # fmt: skip
        self.assertTrue(lines[1].startswith(f"{self.steps}:3:1: N105 "))
        self.assertIn("A:", out)
        status, out, _ = self.run_firn("read", self.steps, "--json")
        self.assertEqual((status, [p["code"] for p in json.loads(out)["problems"]]), (2, ["N101", "N105"]))


class CheckTest(CliCase):
    def test_all_well(self) -> None:
        status, out, _ = self.run_firn("check", self.steps)
        self.assertEqual(status, 0)
        self.assertIn("ok   A: 8 counts: fills its phrase of 8.", out)

    def test_what_cannot_be_danced(self) -> None:
        self.write("part A\n1 stamp & heel 2 L step\n")
        status, out, _ = self.run_firn("check", self.steps)
        self.assertEqual(status, 1)
        self.assertIn("mend: stamp on 1 becomes step", out)
        status, out, _ = self.run_firn("check", self.steps, "--json")
        finding = json.loads(out)["findings"][0]
        self.assertEqual((finding["code"], finding["level"], finding["part"], finding["place"]),
                         ("already_down", "bad", "A", "1/2"))  # fmt: skip
        change = finding["mends"][0]["change"][0]
        line = self.steps.read_text().split("\n")[change["line"] - 1]
        mended = line[: change["column"] - 1] + change["text"] + line[change["end"] - 1 :]
        self.assertEqual(mended, "1 step & heel 2 L step")

    def test_a_mend_of_the_combo_names_its_line(self) -> None:
        self.write("phrase: 2 counts\npart A\n1 step 2 step\n\ncombo\n\nA\nA left\n")
        status, out, _ = self.run_firn("check", self.steps, "--json")
        join = next(f for f in json.loads(out)["findings"] if f["code"] == "join")
        change = join["mends"][0]["change"]
        self.assertEqual((status, change), (1, [{"line": 7, "column": 2, "end": 2, "text": ", ends: 2 touch"}]))

    def test_cards_of_her_own(self) -> None:
        self.write("part A\n1 gate swing\n")
        self.assertEqual(self.run_firn("check", self.steps)[0], 2)
        write_example(self.folder / "hers")
        (self.folder / "hers" / "z.toml").write_text("card = 0", "utf-8")
        status, out, err = self.run_firn("read", self.steps, "--cards", self.folder / "hers")
        self.assertEqual((status, out.count("gate swing"), err), (0, 3, "firn: z.toml holds no [[card]].\n"))
        self.assertEqual(self.run_firn("read", self.steps, "--cards", self.folder / "none")[0], 2)


class MeasureTest(CliCase):
    def test_json_over_each_kind_of_sounds(self) -> None:
        self.write("part A\n1 step  2 kick  3 touch  4 step")
        status, out, _ = self.run_firn("measure", self.steps, "--json")
        rows = json.loads(out)["measures"]
        ratios = {row["over"]: row["value"] for row in rows if row["measure"] == "notes_a_beat"}
        self.assertEqual(status, 0)
        self.assertEqual(ratios, {"what is heard": 0.75, "every sound": 1.0, "the weight": 0.5})
        self.assertEqual(list(rows[0]), ["part", "over", "measure", "name", "source", "value", "phrases"])

    def test_csv_over_one(self) -> None:
        self.write("part A\n" + "  ".join(f"{n % 8 + 1} step" for n in range(16)))
        lines = self.run_firn("measure", self.steps, "--csv", "--over", "heard")[1].splitlines()
        self.assertEqual(lines[0], "part,phrase,over,measure,source,value")
        ratio = [line.split(",") for line in lines if ",notes_a_beat," in line]
        self.assertEqual([(row[1], float(row[-1])) for row in ratio], [("0", 1.0), ("1", 1.0), ("2", 1.0)])

    def test_plain_and_what_is_wrong(self) -> None:
        self.write("part A\n1 shufle  2 step")
        status, out, err = self.run_firn("measure", self.steps, "--over", "weight")
        self.assertEqual((status, err.count("\n")), (2, 1))
        self.assertRegex(out, r"A +the weight +Sounds a count")
        self.assertEqual(self.run_firn("measure", self.folder / "none.steps")[0], 2)


class DrillTest(CliCase):
    """A drill is written without a window."""

    def length_s(self, *words: object) -> float:
        path = self.folder / "drill.wav"
        self.assertEqual(self.run_firn("play", self.steps, "--part", "A", "-o", path, *words)[0], 0)
        return float(soundfile.info(path).duration)

    def test_a_ladder(self) -> None:
        """100, 104, 108 once a side: 3 counts in, a pick-up on 8 and 7 more, 4 of rest; then .4 s rings on."""
        self.write("part A\n8 stomp  1 hop  2 step  &3 flap  & step\n4 stomp  5 hop  6 step  &7 flap  & step\n")
        counts = 3 + 8 + 4
        wanted = sum(counts * 60 / tempo for tempo in (100, 100, 104, 104, 108, 108)) + 0.4
        self.assertAlmostEqual(self.length_s("--ladder", "100-108-4", "--times", "1"), wanted, places=3)

    def test_a_tempo_that_rises(self) -> None:
        """60, 80, 100, 120 for a count each: 1 + .75 + .6 + .5 s."""
        self.write("part A\n1 step 2 step 3 step 4 step\n")
        length = self.length_s("--tempo", "60", "--to", "120", "--no-count-in")
        self.assertAlmostEqual(length, 2.85 + 0.4, places=3)

    def test_not_both(self) -> None:
        status, _, err = self.run_firn("play", self.steps, "-o", "x.wav", "--to", "120", "--ladder", "90-100-2")
        self.assertEqual((status, err), (2, "firn: Either a ladder, or --to another tempo along the way.\n"))

    def test_to_music_of_ones_own(self) -> None:
        music, out = self.folder / "mill.wav", self.folder / "danced.wav"
        times = beats(80, 110.0)
        soundfile.write(music, clicks(times, float(times[-1]) + 1), RATE)
        play = ("play", self.steps, "--part", "A", "-o", out, "--music", music, "--music-at", "1.25")
        status, _, err = self.run_firn(*play, "--tempo", "100")
        self.assertEqual(status, 0, err)
        self.assertRegex(err, r"mill.wav: 1(09|10)[.\d]* counts a minute, count 1 at 1.25 s. Which of its beats is 1")
        self.assertGreater(np.abs(soundfile.read(out)[0]).max(), 0.1)
        for words, said in (
            (("--tempo", "150"), "can only be made slower"),
            (("--to", "90"), "Either music of your own, or --to"),
            (("--music-at", "99"), "Count 1 lies in the 45 s of it"),
        ):
            status, _, err = self.run_firn(*play, *words)
            self.assertEqual(status, 2)
            self.assertIn(said, err)


class WrongTest(CliCase):
    @cases(
        ("no file", ("read", "none.steps"), "none.steps is not there."),
        ("no part", ("play", "STEPS", "-o", "OUT", "--part", "Z"), 'No part is called "Z". The parts: A, Break.'),
        ("slow", ("play", "STEPS", "-o", "OUT", "--tempo", "3"), "The tempo must lie between 20 and 400"),
        ("no tempo", ("play", "STEPS", "-o", "OUT", "--tempo", "quick"), "invalid number value: 'quick'"),
        ("not a number", ("play", "STEPS", "-o", "OUT", "--tempo", "nan"), "invalid number value: 'nan'"),
        (
            "no place",
            ("play", "STEPS", "-o", "NOWHERE"),
            "model.wav could not be written: No such file or directory.",
        ),
        ("no recording", ("onsets", "STEPS"), "is no recording that Firn can read"),
        ("no take", ("listen", "STEPS", "none.wav"), "none.wav is not there."),
        ("unknown words", ("read",), "the following arguments are required: piece"),
    )
    def test_one_line_and_two(self, _: str, words: tuple[str, ...], message: str) -> None:
        swap = {"STEPS": str(self.steps), "OUT": str(self.folder / "model.wav"),
                "NOWHERE": str(self.folder / "no" / "model.wav")}  # fmt: skip
        status, _, err = self.run_firn(*[swap.get(w, w) for w in words])
        self.assertEqual(status, 2)
        self.assertEqual(len(err.strip().split("\n")), 1, err)
        self.assertIn(message, err)
        self.assertTrue(err.startswith("firn: "))

    def test_a_silent_take(self) -> None:
        path = self.folder / "silent.wav"
        soundfile.write(path, np.zeros(96_000), 48_000)
        status, _, err = self.run_firn("listen", self.steps, path)
        self.assertEqual((status, err.startswith("firn: No steps are heard in this take.")), (2, True))

    def test_an_hour_asks_which_stretch(self) -> None:
        path = self.folder / "long.wav"
        soundfile.write(path, np.zeros(8_000 * 660, dtype=np.int16), 8_000)
        status, _, err = self.run_firn("listen", self.steps, path)
        self.assertEqual(status, 2)
        self.assertIn("lasts 11 minutes; Firn judges up to 10. Say which stretch with --start and --length", err)

    def test_an_empty_piece(self) -> None:
        self.write("")
        self.assertEqual(self.run_firn("read", self.steps)[0], 0)
        status, _, err = self.run_firn("play", self.steps, "-o", self.folder / "x.wav")
        self.assertEqual((status, err), (2, "firn: This piece has no sounds.\n"))

    def test_the_window_is_not_started_for_odd_words(self) -> None:
        for word, said in (
            ("--unknown", "--unknown is no option; firn --help lists what there is."),
            ("chekc", 'There is no file and no command called "chekc". Did you mean "firn check"?'),
            ("gate", 'There is no file and no command called "gate". A new workbook\'s name ends in .firn.'),
        ):
            with self.subTest(word):
                status, _, err = self.run_firn(word)
                self.assertEqual((status, err), (2, f"firn: {said}\n"))
        self.assertEqual(sorted(p.suffix for p in self.folder.iterdir()), [".json", ".steps"], "no file is made")

    def test_no_display(self) -> None:
        nowhere = dict.fromkeys(("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"), "")
        with unittest.mock.patch.dict("os.environ", nowhere):
            status, _, err = self.run_firn("--demo")
        self.assertEqual((status, err.startswith("firn: no display was found")), (2, True))

    def test_version(self) -> None:
        self.assertEqual(self.run_firn("--version")[1].split()[0], "firn")


if __name__ == "__main__":
    unittest.main()
