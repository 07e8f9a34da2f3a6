"""Layers beside the steps: read, written again, checked, taken along by other versions, and heard."""

import unittest
from fractions import Fraction

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from firn.core.meter.count_in import CountIn
from firn.core.piece.build import part_from, piece_from
from firn.core.piece.by_hand import left_out, moved, put_in
from firn.core.piece.piece import Part
from firn.core.piece.unfold import unfold
from firn.core.piece.versions import moved as moved_version
from firn.core.piece.versions import other_side, stretched
from firn.core.reading.read import check_part
from firn.core.script.complete import completions
from firn.core.script.layers import layer_of
from firn.core.script.settings import Settings, read_settings
from firn.core.script.writer import write_part
from firn.core.sound.model import render
from firn.core.sound.scat import spelled, sung
from firn.core.sound.voices import RATE
from firn.core.steps.shelf import shipped
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.timeline import Section
from tests.support import cases, part

F = Fraction
STEPS = "8 stomp  1 hop  2 step  &3 flap  & step"
LAYERED = f"""{STEPS}
scat: DUM da doo ba-doo bap
left hand: 1 clap  3 drum
voiced right hand: 1 drum  & drum
arms: 8 up  1-3 out, left high  3+1/2 in
pulse: down on the &
signals: 1 squeeze 2 ahead
note: let the swing lift the hop"""


def codes(text: str) -> set[str]:
    return {f.code for f in check_part(part(text))}


class ReadTest(unittest.TestCase):
    @cases(
        ("arms: 1 up", "arms", False),
        ("  Voiced  Left Hand : 1 clap", "left hand", True),
        ("scat:", "scat", False),
        ("voiced arms: 1 up", None, False),
        ("shoulders: 1 up", None, False),
        ("1 step 2 step", None, False),
        ("piece: Gate", None, False),
    )
    def test_which_layer(self, line: str, name: str | None, voiced: bool) -> None:
        found = layer_of(line)
        self.assertEqual((found.name, found.voiced) if found else (None, False), (name, voiced))

    def test_cues_in_their_places(self) -> None:
        one = part(f"{STEPS}\narms: 8 up  1-3 out & in  turn 1/4 right\nsignals: 1 squeeze 2 ahead  3 pull")
        self.assertEqual(one.problems, ())
        found = [(c.layer, c.place, c.length, c.text, c.given) for c in one.layers.cues]
        self.assertEqual(
            found,
            [
                ("arms", F(-1), F(0), "up", F(-1)),
                ("arms", F(0), F(3), "out", F(0)),
                ("arms", F(5, 2), F(0), "in  turn 1/4 right", F(5, 2)),
                ("signals", F(0), F(0), "squeeze", F(-2)),
                ("signals", F(2), F(0), "pull", F(2)),
            ],
        )

    @cases(
        ("hands: 1 clap  2 snap", ["both", "either"]),
        ("left hand: 1 clap  2 snap", ["left", "left"]),
        ("hands: 1 R pat  2 L pat", ["right", "left"]),
        ("leading hand: 1 pat", ["right"]),
        ("other hand: 1 pat", ["left"]),
    )
    def test_which_hand(self, line: str, hands: list[str]) -> None:
        one = part(f"1 step  2 step\n{line}")
        self.assertEqual([s.hand for s in one.sounds if s.hand], hands)

    def test_a_left_hander_leads_with_the_left(self) -> None:
        text = "handed: left\npart A\n1 step\nleading hand: 1 pat\nother hand: 1 drum"
        self.assertEqual([s.hand for s in piece_from(text).parts[0].sounds if s.hand], ["left", "right"])

    def test_a_layer_may_come_first(self) -> None:
        read = piece_from("tempo: 120\nhands: 1 clap\n1 step")
        self.assertEqual((len(read.problems), len(read.parts[0].sounds)), (0, 2))

    def test_a_part_is_as_long_as_its_steps(self) -> None:
        one = part("1 step  2 step\nhands: 1 clap  7 clap\narms: 1-8 out")
        self.assertEqual(one.counts, 2)

    def test_hands_change_no_foot(self) -> None:
        plain, layered = part(STEPS), part(LAYERED)
        self.assertEqual([s.foot for s in plain.sounds], [s.foot for s in layered.sounds if s.foot])

    @cases(
        ("down on the count", "down", [0, 1, 2, 3]),
        ("up on the &", "up", [F(1, 2), F(3, 2), F(5, 2), F(7, 2)]),
        ("on 2, 4", "", [1, 3]),
    )
    def test_pulse(self, said: str, way: str, places: list[Fraction]) -> None:
        pulse = part(f"1 step\npulse: {said}").layers.pulse
        assert pulse is not None
        self.assertEqual((pulse.way, pulse.within(F(0), F(4))), (way, [(p, way) for p in places]))

    def test_a_pulse_that_goes_down_and_up(self) -> None:
        text = "pulse: down on the count, up on the &\n1 step"
        pulse = part(text).layers.pulse
        assert pulse is not None
        self.assertEqual(pulse.within(F(0), F(2)), [(F(0), "down"), (F(1, 2), "up"), (F(1), "down"), (F(3, 2), "up")])
        self.assertEqual(write_part(part(text).script, part(text).settings), text)
        self.assertEqual(part("1 step\npulse: down on 1 and up on 3").layers.pulse.then.places, (F(2),))

    def test_a_count_in_of_its_own(self) -> None:
        one = part("count in: 5 6 7 8\n1 step")
        self.assertEqual((one.layers.count_in, one.problems), (CountIn("last", 4), ()))
        self.assertEqual(write_part(one.script, one.settings), "count in: last 4\n1 step")

    @cases(
        ("5 6 7 8\n1 step", CountIn("last", 4)),
        ("five, six, seven, eight\n\none step", CountIn("last", 4)),
        ("5 6 7 8\nstep step step step", None),
        ("1 step\n5 6 7 8\n1 step", None),
        ("6 7 8 9\n1 step", None),
        ("1 2 3 4", None),
    )
    def test_a_count_in_in_the_first_line(self, text: str, wanted: CountIn | None) -> None:
        one = piece_from(f"part A\n{text}").parts[0]
        self.assertEqual(one.layers.count_in, wanted)
        if wanted is not None:
            self.assertEqual(([s.place for s in one.sounds], one.script.problems), ([F(0)], ()))

    def test_syllables_go_to_what_the_feet_strike_above_them(self) -> None:
        one = part("1 step  2 kick  3 step\nscat: dum - \n5 step + clap  6 hold  7 step\nscat: ba-doo")
        said = {(one.sounds[i].say, one.sounds[i].kind): text for i, text in one.syllables.items()}
        self.assertEqual(said, {("1", "step"): "dum", ("3", "step"): "", ("5", "step"): "ba", ("7", "step"): "doo"})

    def test_seated_nothing_is_wrong_with_the_feet(self) -> None:
        one = part("1 step  2 R step  3 hop\ndanced: seated")
        self.assertEqual((one.footing.faults, {s.weight for s in one.sounds}), ((), {"seat"}))
        self.assertFalse(any(s.changes_weight for s in one.sounds))

    def test_completion_knows_where_it_is(self) -> None:
        offered = [{c.name for c in completions(f"{name}: 1 cl", shipped(), "tap")} for name in ("hands", "arms")]
        self.assertIn("clap", offered[0])
        self.assertEqual(offered[1], set())
        self.assertNotIn("clap", {c.name for c in completions("hands: 1 shu", shipped(), "tap")})


class WrittenTest(unittest.TestCase):
    def test_written_as_it_was_typed(self) -> None:
        self.assertEqual(write_part(part(LAYERED).script, Settings()), LAYERED)

    def test_an_edit_of_the_steps_leaves_the_layers(self) -> None:
        one = part(LAYERED)
        text = moved(one, max(i for i, s in enumerate(one.sounds) if s.foot), F(1, 4)).text
        self.assertEqual(text.split("\n")[1:], LAYERED.split("\n")[1:])
        self.assertEqual(text.split("\n")[0], "8 stomp  1 hop  2 step  &3 flap  a step")

    def test_a_hand_is_edited_in_its_own_line(self) -> None:
        one = part("1 step  2 step\nhands: 1 clap  2 clap")
        index = max(i for i, s in enumerate(one.sounds) if s.hand)
        self.assertEqual(moved(one, index, F(-1, 2)).text, "1 step  2 step\nhands: 1 clap  & clap")
        self.assertEqual(left_out(one, index).text, "1 step  2 step\nhands: 1 clap")
        drawn = put_in(one, F(1, 2), "snap", layer="hands")
        self.assertEqual(drawn.text, "1 step  2 step\nhands: 1 clap  & snap  2 clap")
        assert drawn.index is not None
        self.assertEqual(part(drawn.text).sounds[drawn.index].kind, "snap")

    @given(
        st.lists(st.sampled_from(("step", "flap", "hold", "stamp", "kick")), min_size=1, max_size=6),
        st.dictionaries(st.integers(0, 15), st.sampled_from(("clap", "snap", "left pat", "drum")), max_size=6),
        st.dictionaries(st.integers(0, 15), st.sampled_from(("up", "out wide", "left over right")), max_size=4),
        st.sampled_from(("", "pulse: down on the count", "pulse: up on the &", "pulse: on 2 4")),
        st.lists(st.sampled_from(("da", "DUM", "-", "ba-doo")), max_size=5),
    )
    def test_what_is_written_reads_back(self, words, hands, arms, pulse, scat) -> None:
        lines = ["  ".join(f"{n + 1} {w}" for n, w in enumerate(words))]
        for name, at in (("hands", hands), ("arms", arms)):
            said = [f"{p // 2 + 1}{'+1/2' if p % 2 else ''} {w}" for p, w in sorted(at.items())]
            lines += [f"{name}: {'  '.join(said)}"] if said else []
        lines += [pulse] if pulse else []
        lines += [f"scat: {' '.join(scat)}"] if scat else []
        one = part("\n".join(lines))
        two = part(write_part(one.script, one.settings))
        self.assertEqual(_heard(one), _heard(two))


def _heard(one: Part) -> tuple[object, ...]:
    sounds = [(s.place, s.kind, s.foot, s.hand, s.layer) for s in one.sounds]
    cues = [(c.layer, c.place, c.length, c.text) for c in one.layers.cues]
    pulse = one.layers.pulse and (one.layers.pulse.way, one.layers.pulse.places)
    return sounds, cues, pulse, list(one.syllables.values())


class VersionsTest(unittest.TestCase):
    def test_on_the_other_side_hands_and_words_change_too(self) -> None:
        text = other_side(part(f"{STEPS}\nleft hand: 1 clap\nleading hand: 2 pat\nbody: 1 Left shoulder")).text
        self.assertIn("right hand: 1 clap", text)
        self.assertIn("leading hand: 2 pat", text)
        self.assertIn("body: 1 Right shoulder", text)

    def test_moved_and_stretched_with_the_steps(self) -> None:
        one = part("1 step  2 step\nhands: 2 clap\narms: 1-2 out")
        later = part(moved_version(one, F(1)).text)
        self.assertEqual([(c.place, c.length) for c in later.layers.cues], [(F(1), F(2))])
        slow = part(stretched(one, F(2)).text)
        self.assertEqual([(c.place, c.length) for c in slow.layers.cues], [(F(0), F(4))])
        self.assertEqual([s.place for s in slow.sounds if s.hand], [F(2)])

    def test_in_a_combo_the_hand_that_leads_leads_on_both_sides(self) -> None:
        text = "part A\n1 step  2 step  3 step  4 hold\nleading hand: 1 pat\nleft hand: 2 pat\ncombo\nA x2"
        whole = unfold(piece_from(text))
        self.assertTrue(whole.passes[1].swapped)
        self.assertEqual([s.hand for s in whole.passes[1].sounds if s.hand], ["right", "right"])


class CheckTest(unittest.TestCase):
    @cases(
        ("syllables", "1 step  2 step\nscat: dum", "1 step  2 step\nscat: dum da"),
        ("cue_outside", "1 step  2 step\narms: 1 in  7 out", "1 step  2 step\narms: 1 in  2 out"),
        ("cue_outside", "1 step  2 step\nhands: 5 clap", "1 step  2 step\nhands: 2 clap"),
        ("hand_twice", "1 step\nleft hand: 1 pat\nhands: 1 clap", "1 step\nleft hand: 1 pat\nright hand: 1 pat"),
        ("hand_twice", "1 step\nleft hand: 1 pat\nhands: 1 L snap", "1 step\nleft hand: 1 pat\nvoiced hands: 1 drum"),
    )
    def test_found_where_it_is_and_not_where_it_is_not(self, code: str, faulty: str, sound: str) -> None:
        self.assertIn(code, codes(faulty))
        self.assertNotIn(code, codes(sound))


class SungTest(unittest.TestCase):
    """Spelling: common English readings of nonsense syllables, from memory."""

    @cases(
        ("DUM", ("d", "u", "m")), ("ba", ("b", "a", "")), ("doo", ("d", "oo", "")), ("dop", ("d", "a", "p")),
        ("ti", ("t", "ee", "")), ("tik", ("t", "i", "k")), ("bow", ("b", "ow", "")), ("skee", ("sk", "ee", "")),
        ("ya", ("y", "a", "")), ("chk", ("ch", "u", "k")), ("tss", ("t", "u", "s")), ("oom", ("", "oo", "m")),
        ("ñú", ("n", "u", "")), ("bah", ("b", "a", "")), ("cat", ("k", "a", "t")),
    )  # fmt: skip
    def test_spelled(self, text: str, heard: tuple[str, str, str]) -> None:
        self.assertEqual(spelled(text), heard)

    @given(st.text(max_size=12))
    def test_any_text_is_sung(self, text: str) -> None:
        sound, vowel = sung(text)
        self.assertTrue(np.isfinite(sound).all())
        self.assertLess(vowel, len(sound))
        self.assertLess(len(sound), RATE)

    def test_the_vowel_is_where_it_is_said_to_be(self) -> None:
        """The loudest low 5 ms begins within 30 ms of it, for a hard consonant and a long one."""
        for text in ("da", "sha", "ma", "stoo"):
            sound, vowel = sung(text)
            frame = RATE // 200
            energy = np.add.reduceat(sound.astype(float) ** 2, np.arange(0, len(sound), frame))
            self.assertGreater(energy[vowel // frame : vowel // frame + 12].sum(), 0.55 * energy.sum(), text)

    def test_the_model_says_syllables_and_pulse_where_they_belong(self) -> None:
        one = part("1 step  2 step  3 step  4 step")
        counting, mixing = one.settings.counting, Mixing(120, counts=False, beats=False)
        plain = render(Section(one.sounds, counting, F(0), F(4), mixing))
        both = render(Section(one.sounds, counting, F(0), F(4), mixing, syllables=[(F(2), "da")], pulse=[F(1)]))
        added = np.abs(both.audio - plain.audio)
        beats = [float(added[both.sample(F(n)) :][: RATE // 2 - 3_000].max()) for n in range(4)]
        self.assertEqual([b > 0.02 for b in beats], [False, True, True, False])

    def test_what_is_voiced_is_said_and_not_struck(self) -> None:
        one = part_from("A", "1 step  3 step\nvoiced hands: 2 clap", Settings())
        self.assertEqual([s.heard for s in one.sounds], [True, False, True])
        made = render(Section(one.sounds, one.settings.counting, F(0), F(4), Mixing(120, counts=False, beats=False)))
        self.assertGreater(float(np.abs(made.audio[made.sample(F(1)) :][: RATE // 3]).max()), 0.02)


class HeadTest(unittest.TestCase):
    def test_handed_is_right_or_left(self) -> None:
        self.assertEqual(read_settings(["handed: L"])[0].handed, "left")
        self.assertEqual(read_settings(["handed: both"])[1][0].code, "H202")


if __name__ == "__main__":
    unittest.main()
