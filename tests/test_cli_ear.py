"""The command line on sound: models, onsets, takes, questions to the ear, and what was tapped."""

import json
import unittest
import unittest.mock
from fractions import Fraction
from pathlib import Path

import numpy as np
import soundfile

from firn.core.book.book import Book, piece_of_script
from firn.core.book.edits import AddPiece
from firn.core.ear.student import Faults, dance
from firn.core.piece.build import piece_from
from firn.core.piece.unfold import unfold
from firn.files.steps_file import read_steps
from firn.session.session import Session
from tests import films, shoes, takes
from tests.cli import CliCase
from tests.studio import SHOWN, Studio
from tests.support import cases, part

KINDS = ("heel", "ball", "brush", "hand")
RIGHT = ("ball", "brush", "ball", "heel", "brush", "ball", "heel", "hand")

PLACES = (0, 0.5, 1, 1.5, 2, 2.5, 3, 4)


class AskTest(CliCase):
    def test_of_the_model(self) -> None:
        status, out, _ = self.run_firn("ask", self.steps, "--seed", "3", "--json", "--sound", self.folder / "heard")
        asked = json.loads(out)
        self.assertEqual((status, set(asked)), (0, {"kind", "question", "answers", "right", "why", "audio"}))
        self.assertIn(asked["right"], range(len(asked["answers"])))
        heard = self.run_firn("onsets", asked["audio"]["file"])[1].split()
        np.testing.assert_allclose([float(t) for t in heard], asked["audio"]["sounds_s"], atol=0.006)
        self.assertEqual(self.run_firn("ask", self.steps, "--seed", "3", "--json")[1].count(asked["why"]), 1)

    def test_many_and_of_one_kind(self) -> None:
        _, out, _ = self.run_firn("ask", self.steps, "--many", "10", "--json")
        self.assertEqual(len(json.loads(out)["questions"]), 10)
        _, out, _ = self.run_firn("ask", self.steps, "--kind", "which_late", "--json")
        self.assertEqual(json.loads(out)["kind"], "which_late")
        status, _, err = self.run_firn("ask", self.steps, "--kind", "nonsense")
        self.assertEqual((status, err.count("\n")), (2, 1))

    def test_of_a_take(self) -> None:
        take = self.take(Faults(missing=frozenset({3}), jitter_ms=2))
        status, out, _ = self.run_firn("ask", self.steps, take, "--part", "A", "--many", "3", "--json")
        asked = {q["kind"]: q for q in json.loads(out)["questions"]}
        self.assertEqual((status, set(asked)), (0, {"how_many", "what_missing", "early_or_late"}))
        self.assertEqual(asked["how_many"]["audio"]["file"], str(take))


class ShoesTest(CliCase):
    """What struck, as a second synthesiser dances it."""

    def setUp(self) -> None:
        super().setUp()
        if takes.hits_folder() is None:
            self.skipTest("the recorded hits (sonic-pi-samples) could not be had")
        self.one = Studio(2)
        self.write("tempo: 104\npart A\n1 step  & brush  2 step  & heel  3 brush  & step  4 heel  5 clap")
        self.examples = self.written("examples.wav", self.one.examples(KINDS))
        self.as_taught = ("--examples", self.examples, "--kinds", "heels, ball, brush, clap")

    def written(self, name: str, audio: np.ndarray) -> Path:
        soundfile.write(self.folder / name, audio, shoes.RATE)
        return self.folder / name

    def danced(self, name: str, *struck: str) -> Path:
        placed = [
            ((place + 8 * time) * 60 / 104 + 0.6, kind)
            for time in range(3)
            for place, kind in zip(PLACES, struck, strict=True)
        ]
        return self.written(name, self.one.take(placed)[0])

    def test_of_each_onset(self) -> None:
        take = self.danced("take.wav", *RIGHT)
        status, out, _ = self.run_firn("onsets", take, *self.as_taught, "--json")
        found = json.loads(out)["onsets"]
        self.assertEqual((status, set(found[0])), (0, {"time_s", "db", "kind", "sure", "kind_sure"}))
        times = [(place + 8 * time) * 60 / 104 + 0.6 for time in range(3) for place in PLACES]
        nearest = [min(found, key=lambda one, at=at: abs(one["time_s"] - at))["kind"] for at in times]
        right = sum(one == SHOWN[kind] for one, kind in zip(nearest, RIGHT * 3, strict=True))
        self.assertGreaterEqual(right, 21)
        self.assertIn("  airy\n", self.run_firn("onsets", take, *self.as_taught)[1])

    def test_another_part_of_the_foot_is_heard(self) -> None:
        clean = self.danced("clean.wav", *RIGHT)
        wrong = self.danced("wrong.wav", *RIGHT[:4], "ball", *RIGHT[5:])
        for known in (self.as_taught, ("--clean", clean)):
            status, out, _ = self.run_firn("listen", self.steps, wrong, *known, "--json")
            data = json.loads(out)
            (one,) = data["otherwise"]
            self.assertEqual((status, one["place"], one["kind"], one["sounds_like"]), (0, "2", "brush", "ball"))
            self.assertEqual((data["fault"]["code"], data["fault"]["place"]), ("kind", "2"))
            self.assertIn("brush on 3 sounds like the ball of the foot, 3 of 3 times", data["first"])
            right = json.loads(self.run_firn("listen", self.steps, clean, *known, "--json")[1])
            self.assertEqual(right["otherwise"], [])
        self.assertNotIn("sounds like", self.run_firn("listen", self.steps, wrong)[1])
        self.assertIn("leave out", self.run_firn("listen", self.steps, wrong, "--clean", clean, "--start", 0.1)[2])
        self.assertIn("no combo", self.run_firn("listen", self.steps, wrong, "--clean", clean, "--combo")[2])

    def test_a_draft_in_steps(self) -> None:
        take = self.danced("take.wav", *RIGHT)
        status, out, _ = self.run_firn("draft", take, *self.as_taught, "--tempo", "104", "--json")
        data = json.loads(out)
        self.assertEqual((status, data["sounds"][0]["struck"], data["sounds"][7]["struck"]), (0, "ball", "hand"))
        self.assertEqual([k for word in data["words"] for k in word["kinds"]][7], "clap")
        self.assertEqual(data["sounds"][7]["kind"], "clap")
        self.assertGreater(len({word["word"] for word in data["words"]}), 2)
        self.assertTrue(any(word["rivals"] for word in data["words"]))

    @cases(
        (("--kinds", "heel,ball"), "give that too"),
        (("--examples", "EXAMPLES"), "in which order"),
        (("--examples", "EXAMPLES", "--kinds", "heel,gong"), '"gong" is no kind of sound'),
        (("--examples", "EXAMPLES", "--kinds", "heel,heel"), "each once"),
        (("--examples", "EXAMPLES", "--kinds", "heel,ball"), "no 2 groups of examples"),
        (("--examples", "nowhere.wav", "--kinds", "heel,ball"), "nowhere.wav"),
    )
    def test_one_sentence(self, words: tuple[str, ...], said: str) -> None:
        asked = [str(self.examples) if word == "EXAMPLES" else word for word in words]
        status, _, err = self.run_firn("onsets", self.examples, *asked)
        self.assertEqual((status, err.count("\n")), (2, 1), err)
        self.assertIn(said, err)


class TapTest(CliCase):
    def taps(self, text: str) -> Path:
        path = self.folder / "times.txt"
        path.write_text(text, encoding="utf-8")
        return path

    def test_times_become_a_script_that_reads_back(self) -> None:
        rng = np.random.default_rng(1)
        places = [n * 4 + p for n in range(4) for p in (0, 1, 1.5, 2, 2.25, 2.5, 3)]
        taps = self.taps("# of a step\n" + "\n".join(f"{1 + p * 0.5 + rng.normal(0, 0.008):.4f}" for p in places))
        status, out, _ = self.run_firn("tap", taps, "--json")
        data = json.loads(out)
        self.assertEqual((status, len(data["sounds"])), (0, len(places)))
        self.assertAlmostEqual(data["tempo"], 120, delta=1)
        first = Fraction(data["sounds"][0]["position"])
        self.assertEqual([float(Fraction(s["position"]) - first) for s in data["sounds"]], places)
        self.assertEqual(
            set(data["sounds"][0]), {"time_s", "place", "position", "sure", "away_ms", "count", "alternatives"}
        )
        self.write("part A\n" + data["script"])
        _, out, _ = self.run_firn("read", self.steps, "--json")
        self.assertEqual([s["position"] for s in json.loads(out)["sounds"]], [s["position"] for s in data["sounds"]])

    def test_what_is_no_list_of_times(self) -> None:
        for text, message in (("", "Two taps"), ("1\nlate\n", 'line 2: "late" is no time'), ("1\n-2", "no time")):
            status, _, err = self.run_firn("tap", self.taps(text))
            self.assertEqual((status, err.count("\n")), (2, 1))
            self.assertIn(message, err)
        self.assertEqual(self.run_firn("tap", self.taps("1\n2\n3"), "--meter", "1/0")[0], 2)


class DraftTest(CliCase):
    LINE = "&1 flap  & 2 shuffle  & 3 ball change  4 stamp\n&5 flap  & 6 shuffle  & 7 ball change  8 stamp"

    def clip(self) -> Path:
        danced = dance(part(self.LINE), 112, Faults(jitter_ms=5), np.random.default_rng(2), passes=2)
        path = self.folder / "clip.m4a"
        films.write(path, danced.audio)
        return path

    def test_words_are_laid_onto_the_sounds_of_a_phones_recording(self) -> None:
        words = self.folder / "words.txt"
        words.write_text("flap shuffle ball change stamp\n" * 4, encoding="utf-8")
        out = self.folder / "draft.steps"
        status, text, _ = self.run_firn("draft", self.clip(), "--words", words, "-o", out, "--json")
        data = json.loads(text)
        self.assertEqual((status, len(data["sounds"])), (0, 28))
        self.assertAlmostEqual(data["tempo"], 112, delta=2)
        self.assertEqual(data["sounds"][0]["kind"], "brush")
        self.assertEqual([w["word"] for w in data["words"][:3]], ["flap", "shuffle ball change", "stamp"])
        read = json.loads(self.run_firn("read", out, "--json")[1])["sounds"]
        meant = [s.position for s in part(self.LINE).sounds]
        found = [Fraction(s["position"]) for s in read][: len(meant)]
        self.assertEqual([f - found[0] for f in found], [m - meant[0] for m in meant])

    def test_without_words_it_is_steps(self) -> None:
        status, text, _ = self.run_firn("draft", self.clip())
        self.assertEqual((status, text.count("step")), (0, 28))

    def test_another_number_of_sounds_and_silence(self) -> None:
        words = self.folder / "words.txt"
        words.write_text("flap", encoding="utf-8")
        status, _, err = self.run_firn("draft", self.clip(), "--words", words)
        self.assertEqual((status, err.count("\n")), (2, 1))
        self.assertIn("28 sounds are there, and these words have 2", err)
        quiet = self.folder / "quiet.wav"
        soundfile.write(quiet, np.zeros(48_000), 48_000)
        self.assertIn("tap along", self.run_firn("draft", quiet)[2])


class BeatsTest(CliCase):
    def test_of_a_model_with_beats(self) -> None:
        out = self.folder / "model.wav"
        self.run_firn("play", self.steps, "-o", out, "--part", "A", "--tempo", "120", "--no-count-in")
        status, text, _ = self.run_firn("beats", out)
        head, *lines = text.split("\n")[:-1]
        self.assertEqual(status, 0)
        self.assertAlmostEqual(float(head.removeprefix("bpm ")), 120, delta=4)
        np.testing.assert_allclose(np.diff([float(t) for t in lines]), 0.5, atol=0.04)
        data = json.loads(self.run_firn("beats", out, "--json")[1])
        self.assertEqual(len(data["beats_s"]), len(lines))

    def test_of_nothing(self) -> None:
        out = self.folder / "short.wav"
        soundfile.write(out, np.zeros(8_000), 8_000)
        status, _, err = self.run_firn("beats", out)
        self.assertEqual((status, err.count("\n")), (2, 1))


class SoundTest(CliCase):
    def test_a_model_is_heard_as_it_was_written(self) -> None:
        out = self.folder / "model.wav"
        self.assertEqual(self.run_firn("play", self.steps, "-o", out, "--part", "A", "--voice", "none",
                                       "--no-count-in")[0], 0)  # fmt: skip
        status, text, _ = self.run_firn("onsets", out)
        times = [float(t) for t in text.split()]
        self.assertEqual((status, len(times)), (0, 12))
        self.assertAlmostEqual(times[1] - times[0], 60 / 132, places=3)
        status, text, _ = self.run_firn("listen", self.steps, out, "--part", "A")
        self.assertEqual(status, 0)
        self.assertIn("12 on, at 132 counts a minute.", text)

    def test_the_combo(self) -> None:
        out = self.folder / "combo.wav"
        self.assertEqual(self.run_firn("play", self.steps, "-o", out, "--tempo", "200")[0], 0)
        # 8 passes of 8 counts after a count-in of 3, and a tail of 0.4 s
        self.assertAlmostEqual(soundfile.info(out).duration, (64 + 3) * 60 / 200 + 0.4, places=2)

    def test_a_take(self) -> None:
        take = self.take(Faults(late_ms={4: 60}, missing=frozenset({3}), jitter_ms=2))
        status, out, _ = self.run_firn("listen", self.steps, take, "--part", "A", "--json")
        data = json.loads(out)
        self.assertEqual((status, len(data["passes"])), (0, 2))
        self.assertEqual([(s["say"], s["verdict"]) for s in data["sounds"] if s["verdict"] != "on"],
                         [("&", "missing"), ("3", "late")] * 2)  # fmt: skip
        self.assertIn("its brush is not heard", data["first"])

    def test_a_take_of_something_else_is_named(self) -> None:
        take = self.take(Faults(jitter_ms=2), passes=3)
        other = self.folder / "others"
        other.mkdir()
        (other / "broken.steps").write_bytes(b"\xff\xfe\x00")
        asked = self.folder / "asked.steps"
        asked.write_text("tempo: 132\npart A\n1 stamp & stamp 2 stamp  4 clap\n")
        status, out, err = self.run_firn("listen", asked, take, "--among", other, "--json")
        data = json.loads(out)
        self.assertEqual((status, data["match"]["is"], data["sounds"], data["passes"]), (1, "nothing", [], []))
        self.assertIn("--anyway", err)
        self.assertIn("broken.steps", err)
        (other / "same.steps").write_text(self.steps.read_text())
        status, out, _ = self.run_firn("listen", asked, take, "--among", other, "--json")
        match = json.loads(out)["match"]
        self.assertEqual((status, match["is"], match["part"]), (1, "other", "A"))
        status, out, _ = self.run_firn("listen", asked, take, "--anyway")
        self.assertEqual(status, 0)
        self.assertIn("In doubt: Judged as A because you said so", out)
        self.assertEqual(self.run_firn("listen", asked, take, "--among", self.folder / "none")[0], 2)

    def test_a_take_of_the_combo(self) -> None:
        out = self.folder / "combo.wav"
        self.assertEqual(self.run_firn("play", self.steps, "-o", out, "--voice", "none", "--no-count-in")[0], 0)
        status, text, _ = self.run_firn("listen", self.steps, out, "--combo", "--json")
        data = json.loads(text)
        combo = unfold(piece_from(read_steps(self.steps))).passes
        self.assertEqual((status, data["match"]["part"]), (0, "combo"))
        self.assertEqual([row["part"] for row in data["passes"]], [p.part.name for p in combo])
        self.assertIn("of them clean", self.run_firn("listen", self.steps, out, "--combo")[1])
        # Firn's own counts and beats in it are no feet.
        self.run_firn("play", self.steps, "-o", out)
        self.assertEqual(self.run_firn("listen", self.steps, out, "--combo")[0], 0)
        self.assertIn("leave out --part", self.run_firn("listen", self.steps, out, "--combo", "--part", "A")[2])
        bare = self.folder / "bare.steps"
        bare.write_text("part A\n1 step 2 step 3 step 4 stamp")
        self.assertIn("no combo", self.run_firn("listen", bare, out, "--combo")[2])

    def test_a_take_beside_a_workbook(self) -> None:
        take = self.take(Faults(jitter_ms=2))
        path = self.folder / "class.firn"
        book = AddPiece(piece_of_script(read_steps(self.steps), ["a", "b", "c"])).apply(Book())
        Session.new(path, book).close()
        status, out, _ = self.run_firn("listen", path, take, "--part", "A")
        self.assertEqual(status, 0)
        self.assertIn("Clean", out)

    def test_onsets_as_data(self) -> None:
        take = self.take(Faults(jitter_ms=2), passes=1)
        status, out, _ = self.run_firn("onsets", take, "--json")
        rows = json.loads(out)["onsets"]
        self.assertEqual((status, len(rows)), (0, 12))
        self.assertTrue(all(set(r) == {"time_s", "db", "kind", "sure"} and 0.5 < r["sure"] <= 1 for r in rows))

    def test_a_stretch_of_it(self) -> None:
        take = self.take(Faults(jitter_ms=1), passes=4)
        status, out, _ = self.run_firn("listen", self.steps, take, "--part", "A", "--start", "0", "--length", "4.6")
        self.assertEqual(status, 0)
        self.assertIn("12 on", out)
        whole = json.loads(self.run_firn("listen", self.steps, take, "--part", "A", "--json")[1])
        later = json.loads(self.run_firn("listen", self.steps, take, "--part", "A", "--start", "4", "--json")[1])
        heard = [s["heard_s"] for s in whole["sounds"]]
        self.assertTrue(
            all(min(abs(s["heard_s"] - h) for h in heard) < 0.002 for s in later["sounds"] if s["heard_s"])
        )


if __name__ == "__main__":
    unittest.main()
