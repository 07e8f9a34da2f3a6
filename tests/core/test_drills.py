"""Drills: which stages fit a part, each time of a stage, and what comes next by how the last one went."""

import unittest

from msgspec.structs import replace

from firn.core.drills.ladder import LadderError, Rung
from firn.core.drills.offers import MAKERS, Asked, Offer, offer_title, offers, title
from firn.core.drills.run import At, first_from, following, last_before, left
from firn.core.drills.stage import COMBO, Stage, checked_stage, passes
from firn.core.piece.build import piece_from
from tests.support import cases

QUICK = "1 step  2 step  3 shuffle ball change  5 step  6 step  7 step  8 hold"
PLAIN = "1 step  2 step  3 step  4 hold"


def asked(a: str = QUICK, b: str = PLAIN, combo: str = "A x2, B", clean: tuple = (), tempo: float = 120) -> Asked:
    piece = piece_from(f"tradition: tap\npart A\n{a}\npart B\n{b}\ncombo\n{combo}\n")
    return Asked(piece, piece.parts[0], {"A": "a", "B": "b"}, tempo, clean)


def kinds(found: list[Offer]) -> list[str]:
    return [offer.stage.kind for offer in found]


class OffersTest(unittest.TestCase):
    """What is offered is common practice, no source."""

    @cases(
        ("nothing known", (), {"slow_full", "ladder", "count_only", "hardest", "join", "click", "whole"}),
        ("clean below", (("right", 96.0), ("left", 88.0)), {"ladder", "weaker_side", "bare", "join"}),
        ("clean at its tempo", (("right", 120.0), ("left", 120.0)), {"bare", "slow_full", "join", "whole"}),
    )
    def test_by_what_the_log_knows(self, _: str, clean: tuple, some: set[str]) -> None:
        self.assertLessEqual(some, set(kinds(offers(asked(clean=clean)))))

    @cases(("not yet clean", (("right", 96.0),), "b", True), ("clean at its tempo", (("right", 120.0),), "b", False),
           ("nothing to go home to", (), "", False))  # fmt: skip
    def test_a_new_step_with_its_home_step(self, _: str, clean: tuple, home: str, offered: bool) -> None:
        found = {offer.stage.kind: offer for offer in offers(replace(asked(clean=clean), home=home))}
        self.assertEqual("home" in found, offered)
        if offered:
            stage = found["home"].stage
            self.assertEqual((stage.parts, stage.start), (("b", "a"), 96))
            self.assertEqual(title(stage, {"a": "A", "b": "B"}), "A with B as its home step")
            self.assertIn("B is clean at its tempo", found["home"].why)

    @cases(("slow enough", 60, True), ("faster than there is", 220, False))
    def test_double_time_within_what_there_is(self, _: str, tempo: float, offered: bool) -> None:
        found = {offer.stage.kind: offer.stage for offer in offers(asked(tempo=tempo))}
        self.assertEqual("double_time" in found, offered)
        if offered:
            self.assertEqual((found["double_time"].start, found["double_time"].end), (tempo, 2 * tempo))

    @cases(("latin", "tradition: latin", True), ("latin in three", "tradition: latin\nmeter: 3/4", False),
           ("tap", "tradition: tap", False))  # fmt: skip
    def test_on_2_where_it_is_danced_on_1(self, _: str, head: str, offered: bool) -> None:
        piece = piece_from(f"{head}\npart A\n1 step  2 step  3 step\n")
        found = {o.stage.kind: o for o in offers(Asked(piece, piece.parts[0], {"A": "a"}, 120))}
        self.assertEqual("on_two" in found, offered)
        if offered:
            self.assertEqual([s.kind for s in found["on_two"].stages], ["on_two", "click"])

    @cases(("none", "1 step 2 step", False), ("arms", "1 step 2 step\narms: 1 up 2 down", True),
           ("signals alone", "1 step 2 step\nsignals: 1 go", False))  # fmt: skip
    def test_arms_alone_where_there_are_any(self, _: str, steps: str, offered: bool) -> None:
        self.assertEqual("arms" in kinds(offers(asked(a=steps))), offered)

    @cases(("nothing known", (), 84), ("clean", (("right", 96.0),), 96))
    def test_to_music_early_and_late(self, _: str, clean: tuple, tempo: float) -> None:
        (found,) = (o for o in offers(asked(clean=clean)) if o.stage.kind == "music")
        self.assertEqual((found.stage.start, found.stage.heard), (tempo, "music"))

    @cases(("feet alone", "1 step  2 step  3 step  4 step", set()),
           ("hands too", "1 step  2 clap  3 step  4 clap", {"hands", "feet"}),
           ("hands alone", "1 clap  2 clap  3 clap  4 clap", set()))  # fmt: skip
    def test_layer_by_layer_where_there_are_layers(self, _: str, steps: str, wanted: set[str]) -> None:
        self.assertEqual({"hands", "feet"} & set(kinds(offers(asked(a=steps)))), wanted)

    @cases(
        ("the ladder is climbed", "ladder", (("right", 120.0), ("left", 124.0))),
        ("counted before", "count_only", (("right", 96.0),)),
        ("both sides alike", "weaker_side", (("right", 96.0), ("left", 96.0))),
        ("no gaps before it is clean", "gaps", ()),
    )
    def test_what_is_done_is_not_offered(self, _: str, kind: str, clean: tuple) -> None:
        self.assertNotIn(kind, kinds(offers(asked(clean=clean))))

    @cases(
        ("hardest", (), Stage("hardest", ("a",), (0, 4), 84, 120, 12, times=2)),
        ("slow_full", (), Stage("slow_full", ("a",), None, 84, 120, 36, times=2)),
        ("ladder", (), Stage("ladder", ("a",), None, 84, 120, 4)),
        ("count_only", (), Stage("count_only", ("a",), None, 84, 84, 4, "as written", 2, "count_only")),
        ("join", (), Stage("join", ("a", "b"), None, 84, 84, 4, "as written", 4, rest=8)),
        ("run_in", (), Stage("run_in", ("b", "a"), None, 84, 84, 4, "as written", 3, rest=8, lead_in=4)),
        ("click", (), Stage("click", ("a",), None, 84, 84, 4, times=2, heard="click")),
        ("one_foot", (), Stage("one_foot", ("a",), None, 84, 84, 4, heard="one_foot")),
        ("half_time", (), Stage("half_time", ("a",), None, 60, 120, 60, times=2)),
        ("gaps", (88, 96), Stage("gaps", ("a",), None, 88, 88, 4, times=2, heard="gaps")),
        ("whole", (), Stage("whole", (COMBO,), None, 120, 120, 4, "as written", rest=8)),
        ("hardest", (88, 96), Stage("hardest", ("a",), (0, 4), 88, 120, 11, times=2)),
        ("slow_full", (88, 96), Stage("slow_full", ("a",), None, 84, 120, 36, times=2)),
        ("ladder", (88, 96), Stage("ladder", ("a",), None, 88, 120, 4)),
        ("weaker_side", (96, 88), Stage("weaker_side", ("a",), None, 88, 96, 2, "as written", 2)),
        ("bare", (88, 96), Stage("bare", ("a",), None, 88, 88, 4, times=2, heard="nothing")),
        ("warm_up", (88, 96), Stage("warm_up", ("a",), None, 70, 70)),
        ("bare", (130, 130), Stage("bare", ("a",), None, 120, 120, 4, times=2, heard="nothing")),
        ("join", (130, 130), Stage("join", ("a", "b"), None, 120, 120, 4, "as written", 4, rest=8)),
    )
    def test_the_values_of_each(self, kind: str, clean: tuple, stage: Stage) -> None:
        """By hand: seven tenths of 120 are 84, four fifths of 88 to the nearest even 70; thirds of the way."""
        sides = tuple(zip(("left", "right"), map(float, clean), strict=False))
        if kind == "weaker_side":
            sides = (("left", 96.0), ("right", 88.0))
        found = {o.stage.kind: o.stage for o in offers(asked(combo="B, A x2, B", clean=sides))}
        self.assertEqual(found[kind], stage)

    @cases(
        (Stage("join", ("a", "b")), "A, then B: joined"), (Stage("run_in", ("b", "a")), "A with a run-in from B"),
        (Stage("whole", (COMBO,)), "From the top"), (Stage("whole", ("a",)), "A from the top"),
        (Stage("click", ("x",)), "a part that is gone: to the click"),
        (Stage("bare", ("a",)), "A: with nothing heard"),
    )  # fmt: skip
    def test_what_each_is_called(self, stage: Stage, called: str) -> None:
        self.assertEqual(title(stage, {"a": "A", "b": "B", COMBO: "Combo"}), called)

    def test_a_thick_count_is_hard_where_no_foot_hurries(self) -> None:
        hard = asked(a="1 step  2 step  & step  3 step  4 step  5 step  6 step  7 step  8 step")
        found = next(o for o in offers(hard) if o.stage.kind == "hardest")
        self.assertEqual(
            (found.why, found.stage.span), ("2 sounds in one count from 2 on: the most there are.", (0, 3))
        )
        for plain in ("1 step  2 step  3 step  4 step", "1 flap  2 step"):
            self.assertNotIn("hardest", kinds(offers(asked(a=plain))))

    def test_the_weaker_side(self) -> None:
        one = asked(clean=(("right", 96.0), ("left", 88.0)))
        found = next(o for o in offers(one) if o.stage.kind == "weaker_side")
        self.assertEqual((found.stage.start, found.stage.end, found.stage.sides), (88, 96, "other side"))
        self.assertEqual(found.why, "Clean to 88 with the left foot first, to 96 with the right.")

    def test_the_hardest_bit_is_where_it_is_thick(self) -> None:
        found = next(o for o in offers(asked()) if o.stage.kind == "hardest")
        self.assertLessEqual(found.stage.span[0], 2)
        self.assertGreaterEqual(found.stage.span[1], 4)
        self.assertIn("ms from", found.why)

    def test_joins_as_in_the_combo(self) -> None:
        found = {o.stage.kind: o.stage for o in offers(asked())}
        self.assertEqual(found["join"].parts, ("a", "b"))
        self.assertNotIn("run_in", found)
        after = asked(combo="B, A")
        self.assertEqual({o.stage.kind: o.stage.parts for o in offers(after)}["run_in"], ("b", "a"))

    def test_not_below_the_floor_of_its_steps(self) -> None:
        """A wing is not danced below its floor, however slowly one would begin."""
        one = asked(a="1 wing  2 step  3 wing  4 step", tempo=100)
        floor = max(u.card.floor for u in one.part.uses)
        self.assertTrue(floor)
        self.assertGreaterEqual(one.slow, floor)

    @cases(("no steps", ""), ("not understood", "1 wibble"))
    def test_nothing_for_nothing(self, _: str, text: str) -> None:
        self.assertEqual(offers(asked(a=text)), [])

    @cases(
        ("two bars", 8, [(4, 8), None], [(0, 4), None]),
        ("four bars", 16, [(12, 16), (8, 16), (4, 16), None], [(0, 4), (0, 8), (0, 12), None]),
        ("eight bars, two at a time", 32, [(24, 32), (16, 32), (8, 32), None], [(0, 8), (0, 16), (0, 24), None]),
        ("five bars", 20, [(12, 20), (4, 20), None], [(0, 8), (0, 16), None]),
        ("one bar", 4, None, None),
    )
    def test_grown_from_either_end(self, _: str, counts: int, backward, forward) -> None:
        """By hand: from the last bar back, and from the first on, four stages at most, the last of all of it."""
        line = "1 step  2 step  3 step  4 step  5 step  6 step  7 step  8 step\n"
        text = line * (counts // 8) + "1 step  2 step  3 step  4 step" * (counts % 8 > 0)
        found = {o.stage.kind: o for o in offers(asked(a=text))}
        for kind, spans in (("backward", backward), ("forward", forward)):
            grown = [stage.span for stage in found[kind].stages] if kind in found else None
            self.assertEqual(grown, spans)

    def test_what_grows_says_how_far(self) -> None:
        text = "1 step  2 step  3 step  4 step  5 step  6 step  7 step  8 step"
        found = {o.stage.kind: o for o in offers(asked(a=text))}["backward"]
        said = [title(stage, {"a": "A"}) for stage in found.stages]
        self.assertEqual(said, ["A, 5 to 8", "A, all of it"])
        self.assertEqual(offer_title(found, {"a": "A"}), "A: from its end, bit by bit, 2 stages")
        self.assertEqual({stage.why for stage in found.stages}, {found.why})

    @cases(
        ("four sounds", "1 step  & step  2 step  3 stamp", [2, 3, 0]),
        ("three", "1 step  2 step  3 stamp", [2, 0]),
        ("nine, four stages", "&1 flap  &2 flap  &3 flap  &4 flap  5 stamp", [2, 3, 4, 0]),
        ("two", "1 step  2 step", None),
        ("ten", "&1 flap  &2 flap  &3 flap  &4 flap  &5 flap", None),
        ("two at once are one moment", "1 step + clap  2 step  3 step", [2, 0]),
    )
    def test_a_sound_more_each_time(self, _: str, text: str, sounds: list[int] | None) -> None:
        found = {o.stage.kind: o for o in offers(asked(a=text))}.get("add_sound")
        self.assertEqual(found and [stage.sounds for stage in found.stages], sounds)
        if found is not None:
            said = [title(stage, {"a": "A"}) for stage in found.stages]
            self.assertEqual((said[0], said[-1]), ("A, its first 2 sounds", "A, all of it"))

    def test_each_offer_can_be_danced_and_has_a_name(self) -> None:
        names = {"a": "A", "b": "B", COMBO: "Combo"}
        for clean in ((), (("right", 96.0), ("left", 88.0))):
            for offer in offers(asked(clean=clean)):
                self.assertTrue(passes(checked_stage(offer.stage)))
                self.assertTrue(offer.why.endswith("."))
                self.assertNotIn("gone", title(offer.stage, names))
                self.assertIn(offer.stage.kind, MAKERS)


class StageTest(unittest.TestCase):
    def test_the_times_of_a_stage(self) -> None:
        """From 92 to 100 by 4, twice a side: three tempos, two sides, twice: 12 times."""
        stage = Stage("ladder", ("a",), None, 92, 100, 4, times=2)
        times = passes(stage)
        self.assertEqual(len(times), 12)
        begins = [(92, False), (92, False), (92, True), (92, True), (96, False)]
        self.assertEqual([(t.tempo, t.swapped) for t in times[:5]], begins)

    @cases(("as written", [False]), ("other side", [True]), ("both sides", [False, True]))
    def test_sides(self, sides: str, danced: list[bool]) -> None:
        stage = Stage("click", ("a",), None, 92, 92, sides=sides)
        self.assertEqual([t.swapped for t in passes(stage)], danced)

    @cases(
        (Stage("ladder", ("a",), None, 10, 100), "between 20 and 400"),
        (Stage("ladder", ("a",), None, 90, 100, 0), "above 0"),
        (Stage("ladder", (), None, 90, 100), "between 1 and 8 parts"),
        (Stage("add_sound", ("a", "b"), None, 90, 100, sounds=2), "those of one part"),
        (Stage("add_sound", ("a",), None, 90, 100, sounds=-1), "sounds of a part"),
        (Stage("ladder", ("a",), (3, 3), 90, 100), "at least one count"),
        (Stage("ladder", ("a",), None, 90, 100, times=17), "times on each side"),
        (Stage("ladder", ("a",), None, 90, 100, rest=99), "counts of rest"),
    )
    def test_what_cannot_be(self, stage: Stage, said: str) -> None:
        with self.assertRaisesRegex(LadderError, said):
            checked_stage(stage)


def rung(tempo: float, *, swapped: bool = False, time: int = 0) -> Rung:
    return Rung(tempo, swapped, time, 1, 100)


class RunTest(unittest.TestCase):
    """Two tempos on both sides, a stage that cannot be danced, and one of a single time."""

    def setUp(self) -> None:
        up = [rung(92), rung(92, swapped=True), rung(96), rung(96, swapped=True)]
        self.plan = [up, [], [rung(80)]]

    @cases(
        ("clean goes on", At(0, 0), "clean", At(0, 1)),
        ("unsaid goes on", At(0, 1), "", At(0, 2)),
        ("a slip again", At(0, 2), "slip", At(0, 2)),
        ("lost goes a tempo down", At(0, 3), "lost", At(0, 0)),
        ("lost at the lowest", At(0, 1), "lost", At(0, 0)),
        ("on to the next stage that can be danced", At(0, 3), "clean", At(2, 0)),
        ("all is danced", At(2, 0), "clean", None),
        ("not before a slip is mended", At(2, 0), "slip", At(2, 0)),
    )
    def test_what_follows(self, _: str, at: At, how: str, then: At | None) -> None:
        self.assertEqual(following(self.plan, at, how), then)

    def test_stage_by_stage(self) -> None:
        self.assertEqual((first_from(self.plan, 0), first_from(self.plan, 1), first_from(self.plan, 3)),
                         (At(0, 0), At(2, 0), None))  # fmt: skip
        self.assertEqual((last_before(self.plan, 2), last_before(self.plan, 0)), (At(0, 0), None))
        self.assertEqual((left(self.plan, At(0, 1)), left(self.plan, At(2, 0))), ((3, 1), (1, 0)))
        self.assertEqual(last_before([*self.plan, [rung(80)]], 3), At(2, 0))
        self.assertEqual(following([[rung(92), rung(92), rung(92)]], At(0, 2), "lost"), At(0, 0))

    def test_a_student_who_loses_it_once_comes_through(self) -> None:
        """A run worked by hand: clean, slip, clean, lost at 96, then clean: eight times of the first stage."""
        answers = iter(["clean", "slip", "clean", "lost", *["clean"] * 9])
        at, danced = first_from(self.plan, 0), []
        while at is not None:
            danced.append(at)
            at = following(self.plan, at, next(answers))
        self.assertEqual([a.number for a in danced if a.stage == 0], [0, 1, 1, 2, 0, 1, 2, 3])
        self.assertEqual(danced[-1], At(2, 0))


if __name__ == "__main__":
    unittest.main()
