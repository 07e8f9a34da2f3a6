"""Practice planned: what is due, for so many minutes, on so many days; sums by hand."""

import unittest
from datetime import date

from firn.core.book.book import piece_of_script
from firn.core.book.log import LogEntry
from firn.core.steps.shelf import shipped
from firn.session.planning import BREATH_S, PlanError, known_of, practice, practice_data
from tests.support import cases

EIGHT = "1 step  2 step  3 step  4 step  5 step  6 step  7 step  8 step"
SCRIPT = f"""piece: Gate
tempo: 120
part A
{EIGHT}
part B
1 shuffle ball change  3 step  4 step  5 step  6 step  7 step  8 step
part C
{EIGHT}
combo
A, B, C
"""
TODAY = date(2026, 11, 25)
PIECE = piece_of_script(SCRIPT, ["p", "c", "b", "a"][::-1])
IDS = {part.name: part.id for part in PIECE.parts}


def entry(part: str, side: str, tempo: float, when: str = "2026-11-24", how: str = "clean") -> LogEntry:
    return LogEntry(f"{part}{side}{tempo}{when}", when, f"Gate, {part}", IDS[part], side, tempo, how)


def days(*log: LogEntry, minutes: float = 15, many: int = 1):
    return practice(PIECE, log, shipped(), minutes=minutes, today=TODAY, days=many)


def kinds(day) -> list[tuple[str, tuple[str, ...]]]:
    names = {key: name for name, key in IDS.items()}
    return [(one.stage.kind, tuple(names.get(p, p) for p in one.stage.parts)) for one in day.stages]


def everywhere(tempo: float, when: str = "2026-11-24") -> list[LogEntry]:
    return [entry(part, side, tempo, when) for part in "ABC" for side in ("right", "left")]


class PracticeTest(unittest.TestCase):
    """What comes when is common practice, no source."""

    def test_what_is_new_is_counted_first_two_a_day(self) -> None:
        (day,) = days()
        self.assertEqual(kinds(day)[:2], [("count_only", ("A",)), ("count_only", ("B",))])
        self.assertNotIn(("C",), {parts for _, parts in kinds(day)})
        self.assertEqual(day.carried, ("C",))

    def test_what_is_clean_warms_up_and_the_weaker_side_is_danced_more(self) -> None:
        (day,) = days(*everywhere(96), entry("B", "right", 108))
        found = {(kind, parts): one.stage for (kind, parts), one in zip(kinds(day), day.stages, strict=True)}
        warm = next(stage for (kind, _), stage in found.items() if kind == "warm_up")
        # Four fifths of 96 to the nearest even tempo.
        self.assertEqual((warm.start, warm.end), (76, 76))
        weaker = found["weaker_side", ("B",)]
        self.assertEqual((weaker.start, weaker.end, weaker.sides), (96, 108, "other side"))
        self.assertEqual(kinds(day)[0][0], "warm_up")

    def test_a_ladder_rises_by_eight_a_day(self) -> None:
        first, second = days(*everywhere(96), many=2, minutes=60)
        stages = [[one.stage for one in day.stages] for day in (first, second)]
        tops = [[(s.start, s.end) for s in day if s.kind == "ladder"] for day in stages]
        self.assertEqual(tops, [[(96, 104)] * 3, [(104, 112)] * 3])

    def test_clean_at_its_tempo_it_comes_again_after_two_days_and_all_of_it_is_danced(self) -> None:
        (fresh,) = days(*everywhere(120, "2026-11-24"))
        (due,) = days(*everywhere(120, "2026-11-20"))
        self.assertNotIn("bare", [kind for kind, _ in kinds(fresh)])
        self.assertIn("bare", [kind for kind, _ in kinds(due)])
        self.assertEqual(kinds(due)[-1], ("whole", ("combo",)))
        said = [one.stage.why for one in due.stages if one.stage.kind == "bare"]
        self.assertEqual(set(said), {"Last clean 5 days ago: does it hold?"})

    def test_every_fourth_day_rests(self) -> None:
        self.assertEqual([day.rests for day in days(many=8, minutes=5)], [False] * 3 + [True] + [False] * 3 + [True])

    @cases(("2", 2), ("3", 3), ("8", 8), ("15", 15), ("40", 40))
    def test_within_the_minutes(self, _: str, minutes: float) -> None:
        (day,) = days(*everywhere(96), minutes=minutes)
        used = sum(long + BREATH_S for long in day.lengths)
        self.assertAlmostEqual(used, day.seconds)
        self.assertLessEqual(used, minutes * 60)
        self.assertGreater(used, min(minutes * 60 - 90, 400))

    def test_how_long_a_stage_lasts(self) -> None:
        """96, 100, 104 on both sides, each time 4 + 8 + 4 counts: 2 x 16 x 60 x (1/96 + 1/100 + 1/104) s."""
        (day,) = days(*everywhere(96), minutes=3)
        long = {one.stage.kind: (one.stage, s) for one, s in zip(day.stages, day.lengths, strict=True)}
        stage, seconds = long["ladder"]
        wanted = stage.times * 2 * 16 * 60 * (1 / 96 + 1 / 100 + 1 / 104)
        self.assertAlmostEqual(seconds, wanted, places=2)

    def test_what_is_known(self) -> None:
        known = known_of([entry("A", "right", 100, "2026-11-02"), entry("A", "right", 96, "2026-11-09", "slip"),
                          entry("A", "left", 120, "2026-11-10", "lost")])  # fmt: skip
        self.assertEqual(known, {IDS["A"]: {"right": (100, date(2026, 11, 9))}})

    @cases((0.5, 1, "between 2 and 180 minutes"), (15, 0, "Between 1 and 60 days"), (500, 1, "between 2 and 180"))
    def test_what_cannot_be(self, minutes: float, many: int, said: str) -> None:
        with self.assertRaisesRegex(PlanError, said):
            days(minutes=minutes, many=many)

    def test_nothing_to_practise(self) -> None:
        empty = piece_of_script("piece: Empty\npart A\n\n", ["x", "y"])
        with self.assertRaisesRegex(PlanError, "no part with steps"):
            practice(empty, (), shipped(), minutes=15, today=TODAY)

    def test_what_a_day_asks_of_the_feet(self) -> None:
        """A hop and a leap in eight counts, and twice the foot that sounded last; counts alone ask for nothing."""
        hops = "1 step R  2 hop R  3 step L  4 step R  5 leap L  6 hold  7 stomp R  8 step R"
        piece = piece_of_script(f"piece: Hops\ntempo: 120\npart A\n{hops}\n", ["p", "a"][::-1])
        (day,) = practice(piece, (), shipped(), minutes=4, today=TODAY)
        danced = [one for one in day.stages if one.stage.heard != "count_only" and one.stage.span is None]
        times = sum(len(one.times) for one in danced)
        self.assertGreater(times, 0)
        self.assertEqual((day.load.airborne, day.load.same_foot), (2 * times, 2 * times))
        self.assertEqual(day.load.minutes, round(day.seconds / 60, 1))

    @cases(
        ("nothing known: counted, then built up", (), 2, ["count_only", "ladder"]),
        ("far below its tempo: warm, then up", (72, 72), 4, ["warm_up", "ladder"]),
        ("uneven: the weaker side first", (100, 112), 4, ["warm_up", "weaker_side", "ladder"]),
        ("clean and fresh: nothing more than to warm up", (120, 120), 15, ["warm_up"]),
    )
    def test_what_is_due_first_where_minutes_are_few(
        self, _: str, clean: tuple[float, ...], minutes: float, wanted: list[str]
    ) -> None:
        piece = piece_of_script(f"piece: Gate\ntempo: 120\npart A\n{EIGHT}\n", ["p", "a"][::-1])
        log = [
            LogEntry(side, "2026-11-24", "Gate, A", piece.parts[0].id, side, tempo, "clean")
            for side, tempo in zip(("right", "left"), clean, strict=False)
        ]
        (day,) = practice(piece, log, shipped(), minutes=minutes, today=TODAY)
        self.assertEqual([kind for kind, _ in kinds(day)], wanted)

    @cases(
        ("2026-11-23", 120, True), ("2026-11-22", 119, False), ("2026-11-22", 120, True), ("2026-11-21", 126, True),
        ("2026-11-22", 126, False),
    )  # fmt: skip
    def test_when_what_is_clean_comes_again(self, when: str, tempo: float, again: bool) -> None:
        (day,) = days(*everywhere(tempo, when), minutes=30)
        self.assertEqual("bare" in [kind for kind, _ in kinds(day)], again)

    def test_a_part_that_begins_on_the_left_goes_on_from_its_weaker_side(self) -> None:
        """The weaker, other side is brought up to the better one: the next day has no weaker side."""
        eight = EIGHT.replace("step", "step L", 1)
        piece = piece_of_script(f"piece: Gate\ntempo: 120\npart A\n{eight}\n", ["p", "a"])
        log = [
            LogEntry(side, "2026-11-24", "Gate, A", piece.parts[0].id, side, tempo, "clean")
            for side, tempo in (("left", 112), ("right", 100))
        ]
        made = practice(piece, log, shipped(), minutes=8, today=TODAY, days=2)
        weaker = [[one.stage for one in day.stages if one.stage.kind == "weaker_side"] for day in made]
        said = [[(s.sides, s.start, s.end) for s in day] for day in weaker]
        self.assertEqual(said, [[("other side", 100, 112)], []])

    def test_what_is_weaker_is_danced_again_where_minutes_are_left(self) -> None:
        (day,) = days(*everywhere(96), minutes=60)
        often = {one.stage.kind: one.stage.times for one in day.stages}
        self.assertEqual((often["ladder"], often["warm_up"]), (4, 1))

    def test_the_data(self) -> None:
        data = practice_data(days(many=4, minutes=5), PIECE)
        told = [(d["day"][-2:], d["rest"]) for d in data["days"]]
        self.assertEqual(told, [("25", False), ("26", False), ("27", False), ("28", True)])
        wanted = {"day", "kind", "part", "tempo", "side", "times", "rest", "seconds", "reason"}
        self.assertLessEqual(wanted, set(data["stages"][0]))
        self.assertTrue(all(stage["reason"] for stage in data["stages"]))


if __name__ == "__main__":
    unittest.main()
