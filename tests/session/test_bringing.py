"""What students did at home comes back: matched, judged, logged once; what is in doubt waits."""

import json
import os
import unittest
from dataclasses import replace
from datetime import date, datetime
from pathlib import Path

import numpy as np
import soundfile

from firn.core.book.book import Book, piece_of_script
from firn.core.book.edits import AddPiece, SetCombo, SetPartText
from firn.core.book.practice_edits import AddStudent
from firn.core.book.students import Student
from firn.core.piece.build import piece_from
from firn.core.piece.unfold import unfold
from firn.core.steps.shelf import shipped
from firn.session.bringing import Bringer
from firn.session.found import Found, brought_data, recorded_at
from firn.session.giving import Order, wanted_of
from firn.session.log import log_data
from firn.session.pack.contents import combo_hash
from firn.session.pack.page import make_pack
from firn.session.planning import practice
from firn.session.session import Session
from tests import films
from tests.dancers import Manner, danced, pattern_of
from tests.support import FolderCase, cases

SCRIPT = """piece: Lamp
tempo: 112

part A
8 stomp  1 hop  2 step  &3 flap  & step
4 stomp  5 hop  6 step  &7 flap  & step

part B
1 step  2 step  3 stamp  & stamp  4 hold  5 step  &6 shuffle  7 step  8 stamp
"""
WREN, IVO = Student("k1", "Wren"), Student("k2", "Ivo P.")


class BringCase(FolderCase):
    def setUp(self) -> None:
        super().setUp()
        piece = piece_of_script(SCRIPT, ["p", "b", "a"])
        self.a, self.b = (part.id for part in piece.parts)
        book = AddPiece(piece).apply(Book())
        for one in (WREN, IVO):
            book = AddStudent(one).apply(book)
        self.session = Session.new(self.folder / "class.firn", book)
        self.home = self.folder / "home"
        self.home.mkdir()

    def tearDown(self) -> None:
        self.session.close()
        super().tearDown()

    def take(self, name: str, part: int = 0, tempo: float = 104.0, without: int | None = None) -> None:
        """Three times through a part, struck as people strike; each time without one sound, where that is said."""
        path = self.home / name
        path.parent.mkdir(parents=True, exist_ok=True)
        pattern = pattern_of([*self.bringer().parts.values()][part].part)
        if without is not None:
            pattern = replace(pattern, places=pattern.places[:without] + pattern.places[without + 1 :])
        manner = Manner(tempo, passes=(1.0, 1.0, 1.0), missed=0, added=0)
        times = 0.5 + danced(pattern, manner, np.random.default_rng(part + 3)).onsets_s
        soundfile.write(path, films.strikes(list(times - min(0, times[0] - 0.3)), float(times[-1]) + 1.5), films.RATE)

    def bringer(self) -> Bringer:
        return Bringer(self.session.book, self.session.store, shipped())

    def bring(self) -> tuple[list[Found], dict]:
        bringer = self.bringer()
        found = bringer.read(self.home)
        edit = bringer.kept(found)
        self.session.do(edit)
        return found, brought_data(found, edit, bringer.take_of)


class TakesTest(BringCase):
    def test_matched_to_student_part_tempo_and_time_and_logged_once(self) -> None:
        self.take("Wren 2026-11-24 19.30.wav", 0, 104)
        self.take("ivo_p/20261125_081500.wav", 1, 96, without=3)
        _, data = self.bring()
        self.assertEqual([(r["student"], r["part"]) for r in data["brought"]], [("k1", "Lamp, A"), ("k2", "Lamp, B")])
        self.assertEqual([len(r["passes"]) for r in data["brought"]], [3, 3])
        log = log_data(self.session.book)["log"]
        self.assertEqual([row["when"][:16] for row in log], ["2026-11-24T19:30", "2026-11-25T08:15"])
        self.assertEqual([row["how"] for row in log], ["clean", "lost"])
        for row, tempo in zip(log, (104, 96), strict=True):
            self.assertAlmostEqual(row["tempo"], tempo, delta=1)
        self.assertEqual([t.student for t in self.session.book.takes], ["k1", "k2"])
        _, again = self.bring()
        self.assertEqual((len(again["known"]), again["brought"], len(self.session.book.log)), (2, [], 2))
        self.session.undo()
        self.assertEqual((self.session.book.log, self.session.book.takes), ((), ()))

    def test_whose_it_is_waits_for_a_word(self) -> None:
        self.take("feet.wav")
        found, data = self.bring()
        self.assertEqual([row["doubt"] for row in data["waits"]], ["whose"])
        self.assertEqual(self.session.book.log, ())
        bringer = self.bringer()
        settled = bringer.settled(found[0], student="k2")
        self.session.do(bringer.kept([settled]))
        self.assertEqual([(e.student, e.how) for e in self.session.book.log], [("k2", "clean")])

    def test_parts_of_two_pieces_that_are_called_alike(self) -> None:
        self.session.do(AddPiece(piece_of_script(SCRIPT, ["p2", "b2", "a2"])))
        parts = self.bringer().parts
        self.assertEqual(list(parts), ["Lamp · A", "Lamp · B", "Lamp · A (2)", "Lamp · B (2)"])
        self.assertEqual(len({known.id for known in parts.values()}), 4)

    def test_a_key_inside_another_word_names_nobody(self) -> None:
        """The student with the key k1 is not who danced into mark12.wav."""
        self.take("mark12.wav")
        _, data = self.bring()
        self.assertEqual([(r["student"], r["doubt"]) for r in data["waits"]], [(None, "whose")])

    def test_what_fits_nothing_waits_and_may_be_judged_as_a_part(self) -> None:
        path = self.home / "wren noise.wav"
        soundfile.write(path, films.strikes([0.5, 0.61, 1.9, 2.4, 2.47, 3.9, 4.2, 5.0, 5.1, 5.7], 6.5), 48_000)
        found, data = self.bring()
        self.assertEqual([row["doubt"] for row in data["waits"]], ["nothing"])
        bringer = self.bringer()
        as_b = bringer.settled(found[0], part="Lamp · B")
        self.assertEqual(as_b.name, "Lamp, B")
        self.assertEqual([e.how for e in bringer.kept([as_b]).entries], ["lost"])

    def combo(self, name: str, said: str, without: int | None = None, tempo: float = 108.0) -> None:
        """The piece gets a combo, and a take of it is made, without one of its passes where that is said."""
        self.session.do(SetCombo("p", said))
        rng = np.random.default_rng(5)
        times, at = [], 1.0
        for number, one in enumerate(unfold(piece_from(self.session.book.pieces[0].script)).passes):
            if number == without:
                continue
            first = one.offset + one.part.first_count
            heard = sorted({float(s.position - first) for s in one.sounds if s.heard})
            times += [at + c * 60 / tempo + rng.normal(0, 0.006) for c in heard]
            at += one.part.counts * 60 / tempo
        soundfile.write(self.home / name, films.strikes(times, at + 1), films.RATE)

    @cases((None, ["A", "A", "B", "A", "A", "B"], "clean"), (2, ["A", "A", "A", "A", "B"], "lost"))
    def test_a_whole_combo(self, without: int | None, passes: list[str], how: str) -> None:
        """It is no take of A with pauses."""
        self.combo(f"Wren whole {without}.wav", "A x2, B, A x2, B", without)
        found, data = self.bring()
        told = [one.why for one in found]
        self.assertEqual([(r["student"], r["part"]) for r in data["brought"]], [("k1", "Lamp, combo")], told)
        self.assertEqual([p["part"] for p in data["brought"][0]["passes"]], passes)
        take, entry = self.session.book.takes[-1], self.session.book.log[-1]
        self.assertEqual((take.part, entry.step, entry.part, entry.how), ("combo", "Lamp, combo", "", how))
        self.assertAlmostEqual(entry.tempo, 108, delta=1)
        self.assertEqual((entry.student, entry.take), ("k1", take.id))
        many = len(self.session.book.log)
        self.assertEqual((self.bring()[1]["brought"], len(self.session.book.log)), ([], many))

    def test_a_part_of_a_piece_with_a_combo_stays_a_part(self) -> None:
        self.session.do(SetCombo("p", "A x2, B, A x2, B"))
        self.take("Wren b.wav", 1, 104)
        self.take("Ivo P. a.wav", 0, 112)
        _, data = self.bring()
        self.assertEqual([r["part"] for r in data["brought"]], ["Lamp, A", "Lamp, B"])

    def test_at_half_the_tempo_it_is_that(self) -> None:
        self.take("wren slow.wav", 0, 56)
        _, data = self.bring()
        self.assertAlmostEqual(data["brought"][0]["tempo"], 56, delta=1)

    def test_what_is_no_recording_is_said_and_harms_nothing(self) -> None:
        (self.home / "a.mp4").write_bytes(b"")
        (self.home / "b.txt").write_text("see you on Thursday")
        (self.home / "c.json").write_text('{"firn": "did", "version": 1, "pack": 3}')
        (self.home / "d.jpg").write_bytes(b"\xff\xd8")
        _, data = self.bring()
        self.assertEqual([Path(r["file"]).name for r in data["unread"]], ["a.mp4", "b.txt", "c.json"])
        self.assertEqual(self.session.book.log, ())


class WhenTest(FolderCase):
    @cases(
        ("20261124_193055", "2026-11-24T19:30:55"),
        ("VID-2026-11-24 at 19.30", "2026-11-24T19:30:00"),
        ("rec 2026.11.24", "2026-11-24T00:00:00"),
    )
    def test_by_its_name(self, name: str, when: str) -> None:
        path = self.folder / f"{name}.wav"
        soundfile.write(path, films.strikes([0.1], 0.3), 48_000)
        self.assertEqual(recorded_at(path)[:19], when)

    def test_as_the_file_says_before_its_name_and_else_when_it_was_written(self) -> None:
        path = self.folder / "20200101_101010.mp4"
        films.write(path, films.strikes([0.1], 0.5), made="2026-11-24T18:30:00Z")
        self.assertEqual(
            datetime.fromisoformat(recorded_at(path)), datetime.fromisoformat("2026-11-24T18:30:00+00:00")
        )
        plain = self.folder / "feet.wav"
        soundfile.write(plain, films.strikes([0.1], 0.3), 48_000)
        os.utime(plain, (1_790_000_000, 1_790_000_000))
        self.assertEqual(datetime.fromisoformat(recorded_at(plain)).timestamp(), 1_790_000_000)


class RoundTest(BringCase):
    def did(self, student: Student) -> dict:
        """What a page says that its reader did: a stage clean, another lost, two answers; as page.js writes it."""
        piece = self.session.book.pieces[0]
        wanted = wanted_of(piece, (), shipped(), Order(days=1), student, date(2026, 11, 24))
        html = make_pack(wanted, plain=()).html
        pack = json.loads(html.split('id="pack">')[1].split("</script>")[0])
        hashes = {item["id"]: item["hash"] for item in pack["items"]}
        ticks = [
            {
                "when": f"2026-11-24T18:0{n}:00.000Z", "how": how, "part": stage["part"], "name": stage["name"],
                "hash": hashes[stage["part"]], "tempo": stage["to"] or stage["tempo"], "sides": stage["sides"],
                "day": stage["day"],
            }
            for n, (stage, how) in enumerate(zip(pack["practice"], ("clean", "lost"), strict=False))
        ]  # fmt: skip
        answers = [
            {"kind": q["kind"], "right": n == 0, "when": f"2026-11-24T18:1{n}:00.000Z"}
            for n, q in enumerate(pack["questions"][:2])
        ]
        return {
            "firn": "did", "version": 1, "pack": pack["id"], "student": pack["student"], "made": "", "piece": "Lamp",
            "answers": answers, "ticks": ticks,
        }  # fmt: skip

    def test_pack_answers_and_takes_bring_log_plan(self) -> None:
        folder = self.home / "sent on Tuesday"
        folder.mkdir()
        # Pasted into a message, with a greeting.
        (folder / "mail.txt").write_text(f"Hi!\n{json.dumps(self.did(WREN))}\nBye", "utf-8")
        self.take("sent on Tuesday/20261124_190000.wav", 0, 108)
        _, data = self.bring()
        self.assertEqual({r["student"] for r in data["brought"]}, {"k1"})
        log = log_data(self.session.book, student="k1")
        self.assertEqual([r["source"] for r in log["log"]], ["drill", "drill", "take"])
        self.assertEqual(sum(r["of"] for r in log["ear"]), 2)
        self.assertIn(("Lamp, A", 108), [(b["step"], round(b["tempo"])) for b in log["best"]])
        # The next practice goes on from there.
        mine = [e for e in self.session.book.log if e.student == "k1"]
        piece = self.session.book.pieces[0]
        new, known = (
            practice(piece, entries, shipped(), minutes=10, today=date(2026, 11, 25)) for entries in ((), mine)
        )
        ladders = [
            next(s.stage.start for s in days[0].stages if s.stage.kind == "ladder" and s.stage.parts == (self.a,))
            for days in (new, known)
        ]
        self.assertEqual(ladders[0], 78)
        self.assertAlmostEqual(ladders[1], 108, delta=2)
        _, again = self.bring()
        self.assertEqual((len(again["known"]), len(self.session.book.log)), (2, 3))

    def test_a_stage_is_logged_on_the_sides_that_it_says(self) -> None:
        """Part B begins on the right as it stands: by hand, on the other side the left begins."""
        did = self.did(WREN)
        one = {**did["ticks"][0], "part": self.b, "name": "Lamp, B", "hash": "", "tempo": 96}
        sides = {"as written": ["right"], "other side": ["left"], "both sides": ["right", "left"]}
        ticks = [{**one, "sides": said, "when": f"2026-11-2{n}T18:00:00Z"} for n, said in enumerate(sides)]
        (self.home / "did.json").write_text(json.dumps({**did, "ticks": ticks}), "utf-8")
        self.bring()
        rows = [(e.step, e.side, e.tempo, e.day) for e in self.session.book.log]
        by_hand = [(f"2026-11-2{n}", foot) for n, feet in enumerate(sides.values()) for foot in feet]
        self.assertEqual(rows, [("Lamp, B", foot, 96, day) for day, foot in by_hand])

    def test_what_no_log_can_hold_is_left_and_a_part_that_is_gone_keeps_its_name(self) -> None:
        did = self.did(WREN)
        one = did["ticks"][0]
        ticks = [
            {**one, "tempo": 20}, {**one, "tempo": 400, "when": "2026-11-24T18:30:00Z"}, {**one, "tempo": 19},
            {**one, "tempo": 401}, {**one, "when": "yesterday"}, {**one, "part": "gone", "name": "C", "tempo": 90},
        ]  # fmt: skip
        (self.home / "did.json").write_text(json.dumps({**did, "ticks": ticks, "answers": []}), "utf-8")
        _, data = self.bring()
        kept = sorted({(e.step, e.part, e.tempo) for e in self.session.book.log})
        self.assertEqual(kept, [("Lamp, A", self.a, 20), ("Lamp, A", self.a, 400), ("Lamp, C", "", 90)])
        self.assertIn("C is not in this workbook any more.", data["brought"][0]["told"])
        # Half of it brought already: the other half is news.
        late = {**did, "ticks": [*ticks[:1], {**one, "when": "2026-11-25T18:00:00Z"}], "answers": []}
        (self.home / "did.json").write_text(json.dumps(late), "utf-8")
        many = len(self.session.book.log)
        _, data = self.bring()
        self.assertEqual(data["known"], [])
        self.assertGreater(len(self.session.book.log), many)

    def test_what_was_sent_twice_is_logged_once(self) -> None:
        """A file and the same text in a message with one stage more; a recording and its copy."""
        did = self.did(WREN)
        (self.home / "a.json").write_text(json.dumps({**did, "ticks": did["ticks"][:1]}), "utf-8")
        (self.home / "b.txt").write_text(f"And this: {json.dumps(did)}", "utf-8")
        self.take("wren 1.wav")
        (self.home / "wren 1 (copy).wav").write_bytes((self.home / "wren 1.wav").read_bytes())
        _, data = self.bring()
        self.assertEqual([e.source for e in self.session.book.log], ["drill", "drill", "take"])
        self.assertEqual((len(self.session.book.takes), len(self.session.book.ear)), (1, 2))
        self.assertEqual(len(data["known"]), 1)

    def test_a_part_that_changed_since_is_said(self) -> None:
        (self.home / "did.json").write_text(json.dumps(self.did(WREN)), "utf-8")
        text = self.session.book.pieces[0].parts[0].text
        self.session.do(SetPartText("p", self.a, text.replace("stomp", "stamp")))
        _, data = self.bring()
        self.assertIn("Lamp, A changed since the pack was made.", data["brought"][0]["told"])

    @cases(("A x2", "A  B", True), ("A x2", "A  A other side", True), ("A x2", "A  A", False))
    def test_a_combo_that_changed_is_another(self, one: str, other: str, changed: bool) -> None:
        hashes = {combo_hash(unfold(piece_from(f"{SCRIPT}\ncombo\n{said}\n"))) for said in (one, other)}
        self.assertEqual(len(hashes) == 2, changed)

    def test_of_a_student_who_is_not_here(self) -> None:
        (self.home / "did.json").write_text(json.dumps(self.did(Student("k9", "Stranger"))), "utf-8")
        found, data = self.bring()
        self.assertEqual([r["doubt"] for r in data["waits"]], ["whose"])
        bringer = self.bringer()
        self.session.do(bringer.kept([bringer.settled(found[0], student="k2")]))
        self.assertEqual({e.student for e in self.session.book.log}, {"k2"})


if __name__ == "__main__":
    unittest.main()
