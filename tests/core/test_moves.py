"""What each sound does to the feet, rule by rule: docs/notation.md's table written out (common practice, no source).

A state is its weight (L, R, 0 in the air; < > = both, the left or right lighter, or even), the left and the right
foot (o as a part opens, - up, t tip, b ball, h heel edge, f flat, F flat by the last sound, p picked up, q the first
of two picked up). A way is the state after the sound, its cost, and the foot.
"""

import unittest

from firn.core.footing.moves import ways
from firn.core.footing.state import State, Step
from tests.support import cases


def step(said: str) -> Step:
    """A sound: its kind, role, then its side (L, R or B for both), what of weight it takes, near, inside its word."""
    kind, role, *rest = said.split()
    side = next((w for w in rest if w in ("L", "R")), "both" if "B" in rest else "")
    takes = next((w for w in rest if w in ("takes", "stays", "both")), "")
    return Step(kind, role, side, takes, "inside" not in rest, "near" in rest)


def danced(state: str, sound: str, lead: str = "R") -> set[str]:
    """The ways on from a state."""
    found = ways(State(*state[:3], state[3:]), step(sound), lead)
    return {f"{''.join(w.after[:3])} {w.cost} {w.foot or '-'}" for w in found}


def said(ways: str) -> set[str]:
    """The same as a table writes them."""
    return set(ways.split(", ")) - {""}


class RulesTest(unittest.TestCase):
    @cases(
        ("the free foot steps", "Loo", "step A", "Rob 0 R"),
        ("the foot that carries cannot", "Loo", "step W", ""),
        ("what came down flat settles", "LF-", "step A", "Rfb 0 R"),
        ("a stamp is flat", "Rbo", "flat A", "LFo 0 L"),
        ("a heel step stands on its heel", "Rbo", "heel_step A", "Lho 0 L"),
        ("a leap leaves the other up", "Lb-", "leap A", "R-b 0 R"),
        ("a step leaves the other down", "Lb-", "step A", "Rbb 0 R"),
        ("from the air it lands", "0p-", "step A", "Lb- 0 L, Rpb 0 R"),
        ("the lighter of both moves for nothing", "<bb", "step A", "Lbb 0 L, Rbb 3 R"),
        ("the right one too", ">bb", "step A", "Lbb 3 L, Rbb 0 R"),
        ("of two even ones rather the lead", "=bb", "step A", "Lbb 2 L, Rbb 1 R"),
    )
    def test_steps(self, _: str, state: str, sound: str, ways: str) -> None:
        self.assertEqual(danced(state, sound), said(ways))

    def test_the_other_lead(self) -> None:
        self.assertEqual(danced("=bb", "step A", "L"), {"Lbb 1 L", "Rbb 2 R"})

    @cases(
        ("touch", "Lbb 0 R"), ("dig", "Lbh 0 R"), ("toe_tip", "Lbt 0 R"), ("point", "Lbt 0 R"),
        ("stomp", "Lb- 0 R"), ("brush", "Lb- 0 R"), ("spank", "Lb- 0 R"), ("scuff", "Lb- 0 R"),
        ("kick", "Lb- 0 R"), ("flick", "Lb- 0 R"), ("lift", "Lb- 0 R"),
    )  # fmt: skip
    def test_what_a_free_foot_does(self, kind: str, ways: str) -> None:
        self.assertEqual(danced("Lbf", f"{kind} A"), {ways})
        self.assertEqual(danced("Lbf", f"{kind} W"), set(), "the foot that carries cannot")
        self.assertEqual(danced("0pp", f"{kind} A"), set(), "nor one in the air")
        lighter = {way[0] + way[3:] for way in danced("<bb", f"{kind} A")}
        self.assertEqual(lighter, {"R 0 L", "L 3 R"}, "of both the lighter one")

    @cases(
        ("on the foot that carries", "Lb-", "hop W", "Lb- 0 L"),
        ("the other comes up", "Lbb", "hop W", "Lb- 0 L"),
        ("not on the free foot", "Lb-", "hop A", ""),
        ("from both on the heavier", "<bb", "hop W", "Lb- 3 L, R-b 0 R"),
        ("from both even on the other than the lead", "=bb", "hop W", "Lb- 1 L, R-b 2 R"),
        ("with both", "Lb-", "hop W B", "=bb 0 both"),
        ("not in the air", "0pp", "hop W", ""),
    )
    def test_hops(self, _: str, state: str, sound: str, ways: str) -> None:
        self.assertEqual(danced(state, sound), said(ways))

    @cases(
        ("its ball is down", "Lb-", "heel W", "Lf- 0 L"),
        ("as the part opens", "Lo-", "heel W", "Lf- 0 L"),
        ("flat: it is lifted again", "Lf-", "heel W", "Lf- 1 L"),
        ("its toe is up", "Lh-", "heel W", ""),
        ("flat by the sound before, within a count", "LF-", "heel W near", ""),
        ("flat by the sound before, later", "LF-", "heel W", "Lf- 1 L"),
        ("the other came down flat, which is no matter", "Lbf", "heel W near", "Lff 0 L"),
        ("without weight, it may take it", "Lbb", "heel A", "Lbf 0 R, Rbf 2 R"),
        ("it takes it", "Lbb", "heel A takes", "Rbf 0 R"),
        ("it does not", "Lbb", "heel A stays", "Lbf 0 R"),
        ("flat without weight", "Lbf", "heel A", "Lbf 1 R, Rbf 3 R"),
        ("flat, and takes it", "Lbf", "heel A takes", "Rbf 1 R"),
        ("shared with the foot that stood", "Lbb", "heel A both", ">bf 0 R"),
        ("shared, the right stood", "Rbb", "heel A both", "<fb 0 L"),
        ("shared by two", "=bb", "heel A both", "<bf 0 R, >fb 0 L"),
        ("shared, flat", "Lbf", "heel A both", ">bf 1 R"),
        ("of both, each keeps its weight", "<bb", "heel A", "<bf 3 R, <fb 0 L"),
        ("of both, flat", "<fb", "heel A", "<ff 3 R, <fb 1 L"),
        ("of both, and takes it", "<bb", "heel A takes", "Lfb 0 L, Rbf 3 R"),
        ("a toe, its heel down", "Lh-", "toe T", "Lf- 0 L"),
        ("a toe whose ball is down", "Lb-", "toe T", ""),
        ("the toe that is up", "Lbh", "toe T", "Lbf 0 R, Rbf 2 R"),
        ("the toe that is up, the left", "Rhb", "toe T", "Lfb 2 L, Rfb 0 L"),
        ("no toe is up: the foot that carries", "Lof", "toe T", "Lff 0 L"),
        ("not in the air", "0bb", "heel A", ""),
    )
    def test_drops(self, _: str, state: str, sound: str, ways: str) -> None:
        self.assertEqual(danced(state, sound), said(ways))

    @cases(
        ("from one foot into the air", "Lb-", "pickup W", "0p- 0 L"),
        ("the other stays as it is", "Lbb", "pickup W", "0pb 0 L"),
        ("the second of two", "Lbq", "pickup W", "0pp 0 L"),
        ("of both: one, or one and the other lifts", "=bb", "pickup W", "0-p 2 R, 0p- 3 L, Lbq 1 R, Rqb 2 L"),
        ("not the free foot", "Lb-", "pickup A", ""),
        ("both at once", "=bb", "pickup W B", "0pp 0 both"),
        ("both, but one stands", "Lb-", "pickup W B", ""),
        ("down on what was picked up", "0p-", "land W", "Lb- 0 L"),
        ("the right one", "0-p", "land W", "R-b 0 R"),
        ("on what was not picked up", "0p-", "land A R", "Rpb 1 R"),
        ("nothing was picked up", "0--", "land W", "Lb- 1 L, R-b 1 R"),
        ("either of two", "0pp", "land W", "Lbp 0 L, Rpb 0 R"),
        ("the second beside the first", "Lbp", "land A", "=bb 0 R"),
        ("the first of two, set down again", "Lbq", "land A", "=bb 0 R"),
        ("the foot that stands", "Lbp", "land W", ""),
        ("a foot that was only up", "Lb-", "land A", ""),
        ("both at once, down", "0pp", "land W B", "=bb 0 both"),
        ("both, standing", "Lbp", "land W B", ""),
    )
    def test_up_and_down(self, _: str, state: str, sound: str, ways: str) -> None:
        self.assertEqual(danced(state, sound), said(ways))

    @cases(
        ("a shift to the foot that is down", "LbF", "shift A", "Rbf 0 R"),
        ("not to one that is up", "Lb-", "shift A", ""),
        ("not to one that was picked up", "Lbp", "shift A", ""),
        ("nor the first of two", "Lbq", "shift A", ""),
        ("not to the foot that carries", "Lbb", "shift W", ""),
        ("from both", "<bb", "shift A", "Lbb 0 L, Rbb 3 R"),
        ("a chug on the foot that carries", "Lb-", "chug W", "Lf- 0 L"),
        ("not on the other", "Lbb", "chug A", ""),
        ("on one of both", "=bb", "chug W", "=bf 1 R, =fb 2 L"),
        ("a slide stays as it is", "Lb-", "slide W", "Lb- 0 L"),
        ("a slide of the other foot", "Lb-", "slide A", "Lbf 0 R"),
        ("a slide of one of both: the cheaper", "<bh", "slide W", "<bh 0 L"),
        ("a jump", "Lb-", "jump 2", "=bb 0 both"),
        ("a jump out of the air", "0pp", "jump 2", "=bb 0 both"),
        ("a jump on one foot", "Lb-", "jump A", "R-b 0 R"),
        ("a hold", "Lb-", "hold -", "Lb- 0 -"),
        ("no hold in the air", "0pp", "hold -", ""),
        ("a clap in the air", "0pF", "clap -", "0pF 0 -"),
        ("a hand down", "LF-", "hand_down -", "Lf- 0 -"),
        ("a hand down, both flat", "=FF", "hand_down -", "=ff 0 -"),
    )
    def test_the_others(self, _: str, state: str, sound: str, ways: str) -> None:
        self.assertEqual(danced(state, sound), said(ways))

    @cases(
        ("step, the left stood", "Lb-", "step A B", ">bb 0 both"),
        ("step, the right stood", "R-b", "step A B", "<bb 0 both"),
        ("step, the left lighter", "<bb", "step A B", "<bb 0 both"),
        ("step out of the air", "0pp", "step A B", "=bb 0 both"),
        ("stamp", "Lb-", "flat A B", ">FF 0 both"),
        ("heel step", "Lb-", "heel_step A B", ">hh 0 both"),
        ("leap", "Lb-", "leap A B", ">bb 0 both"),
        ("heels, one stood", "Lbb", "heel A B", ">ff 2 both"),
        ("heels, both stood", "=bo", "heel A B", "=ff 0 both"),
        ("heels, flat", ">fb", "heel A B", ">ff 0 both"),
        ("heels, the left toe is up", "=hb", "heel A B", ""),
        ("heels, the right toe is up", "=bh", "heel A B", ""),
        ("heels, flat by the sound before", "=FF", "heel A B near", ""),
        ("heels, flat by an earlier one", "=FF", "heel A B", "=ff 0 both"),
        ("toes", "=hh", "toe A B", "=ff 0 both"),
        ("toes, the balls are down", "=bb", "toe A B", ""),
        ("heels in the air", "0pp", "heel A B", ""),
        ("chugs", "Lbb", "chug A B", ">ff 2 both"),
        ("slides", "<bb", "slide A B", "<ff 0 both"),
        ("touches: something must carry", "=bb", "touch A B", ""),
    )
    def test_both_feet(self, _: str, state: str, sound: str, ways: str) -> None:
        self.assertEqual(danced(state, sound), said(ways))

    @cases(
        ("A is the free foot", "Lb-", "step A", {"R"}),
        ("from both either", "=bb", "step A", {"L", "R"}),
        ("A as written", "=bb", "step A L", {"L"}),
        ("B as written: A is the other", "=bb", "step B L", {"R"}),
        ("inside a word it stays", "Lb-L", "heel A inside", {"L"}),
        ("at its start it does not", "Lb-L", "step A", {"R"}),
    )
    def test_which_foot_is_a(self, _: str, state: str, sound: str, feet: set[str]) -> None:
        found = ways(State(*state[:3], state[3:]), step(sound), "R")
        self.assertEqual({way.after.a for way in found}, feet)

    @cases(
        ("A", "heel A inside", "Rbf 0 R"),
        ("B", "heel B inside", "Rfb 0 L, Lfb 2 L"),
        ("written", "heel W L inside", "Rfb 0 L, Lfb 2 L"),
    )
    def test_roles_inside_a_word(self, _: str, sound: str, ways: str) -> None:
        self.assertEqual(danced("RbbR", sound), said(ways))

    def test_the_cheapest_way_into_a_state(self) -> None:
        """A slide of either of both feet leaves them as they are: the lighter one, for nothing, is believed."""
        self.assertEqual([w.cost for w in ways(State("<", "b", "b", "L"), step("slide W inside"), "R")], [0])

    def test_a_sound_without_a_rule(self) -> None:
        with self.assertRaisesRegex(ValueError, "no rule for whistle"):
            ways(State("L", "b", "b", ""), step("whistle A"), "R")


if __name__ == "__main__":
    unittest.main()
