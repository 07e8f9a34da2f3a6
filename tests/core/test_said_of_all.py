"""What is said of all that is danced so often: where it goes, how loud it is; and what is no step beside it.

What teachers mean by it is common practice, no source.
"""

from tests.core.read_case import ReadCase
from tests.core.test_readings import piece, sounding
from tests.support import cases


class SaidOfAllTest(ReadCase):
    @cases(
        ("(stamp clap) times 3", "( stamp, clap ) x3"),
        ("(stamp) x2 sideways", "stamp x2"),
        ("stomp stamp x4 in place", "( stomp, stamp ) x4"),
        ("kick touch four times going back", "( kick, touch ) x4"),
        ("kick step 4 times, towards the back", "( kick, step ) x4"),
        ("kick touch 4 times on the spot", "( kick, touch ) x4"),
        ("touch clap two times moving forward", "( touch, clap ) x2"),
        ("stamp clap x4 to the front, then step", "( stamp, clap ) x4, step"),
        ("cross 3x sideways", "cross x3"),
        ("facing front: clap step x4", "( clap, step ) x4"),
        ("warm up: step clap x4", "( step, clap ) x4"),
        ("stamp x4, side, together, side", "stamp, stamp, stamp, stamp, side, together, side"),
        ("then to the front shuffle step", "shuffle step"),
        ("sideways flap", "flap"),
    )
    def test_where_it_goes(self, body: str, written: str) -> None:
        self.assert_as_written("tap", body, written)

    def test_how_loud_it_is(self) -> None:
        for said in ("stamp clap x4 softly", "stamp clap x4, softly", "(stamp clap) four times softly"):
            with self.subTest(said):
                one, _ = self.assert_as_written("tap", said, "( stamp, clap ) x4")
                self.assertEqual({use.word.level for use in one.parts[0].uses}, {-1})

    @cases(
        ("flap x4, back", ["“going back”", "“step-back”"]),
        ("flap, step, to the front", ["“going front”", "“step-front”"]),
    )
    def test_behind_a_pause_it_may_be_a_step(self, body: str, offers: list[str]) -> None:
        self.assert_read("tap", body, self._sounds(body.rsplit(",", 1)[0]), offers)
        step = body.rsplit(",", 1)[0] + ", " + offers[1].strip("“”")
        self.assertEqual(len(sounding(piece("tap", step))), len(sounding(piece("tap", body))) + 1)

    def _sounds(self, body: str) -> str:
        one = piece("tap", body)
        return ", ".join(f"{s.say}{(s.foot or '-')[0].upper()} {s.kind}" for s in one.parts[0].sounds)

    @cases(
        ("stamp clap x2, turning", 'Say how far and which way "turning" turns: 1/4 left.'),
        ("turning, step, step", 'Say how far and which way "turning" turns: 1/4 left.'),
        ("flap, holding hands", 'No step is called "holding hands".'),
        ("step on 1, next time, step on 2", 'No step is called "next time". Nearest: flat step.'),
    )
    def test_what_is_no_step_is_asked_about(self, body: str, message: str) -> None:
        self.assertIn(message.split(". N")[0], " ".join(p.message for p in piece("tap", body).problems))


class FootBehindTest(ReadCase):
    @cases(
        ("touch, with the left foot", "L touch"),
        ("touch on 4, with the left foot", "4 L touch"),
        ("stamp on 1, right foot", "1 R stamp"),
        ("stamp (right foot)", "R stamp"),
        ("stamp (with the left)", "L stamp"),
    )
    def test_it_is_no_step_more(self, body: str, written: str) -> None:
        self.assert_as_written("tap", body, written)

    @cases(
        ("tap", "clap x2 with the right", "clap x2"),
        ("tap", "(clap) with the right foot", "clap"),
        ("tap", "clap (with the left)", "clap"),
        ("folk stamping", "palma x2 con la derecha", "palma x2"),
        ("folk stamping", "golpe, con el pie derecho", "R golpe"),
        ("folk stamping", "golpe palma x4, a la derecha", "( golpe, palma ) x4"),
        ("tap", "step clap x2 (in place)", "( step, clap ) x2"),
        ("tap", "to the front, stamp clap", "stamp, clap"),
    )
    def test_nor_is_where_or_which_hand(self, tradition: str, body: str, written: str) -> None:
        self.assert_as_written(tradition, body, written)

    @cases(
        ("tap", "step x4 quick", 'Say "quick" right before the step that it is said of; or leave it out.'),
        ("tap", "(touch, clap) turning", 'Say how far and which way "turning" turns: 1/4 left.'),
        ("tap", "flap touch (with the left)",
         'Say "with the left" right behind the step that it is said of, or "with the left:" before all of it.'),
    )  # fmt: skip
    def test_what_may_be_of_either_is_asked(self, tradition: str, body: str, message: str) -> None:
        self.assert_asked(tradition, body, message)

    def test_behind_several_it_is_asked_of_which(self) -> None:
        told = 'Say "touch with the left foot", or "with the left foot:" before all of it.'
        self.assert_asked("tap", "flap, touch, with the left foot", told)

    @cases(
        ("on 3 and 5: touch, stamp, then clap", "3 touch 5 stamp 6 clap"),
        ("on 4 and 5: touch, hop, then hold", "4 touch 5 hop 6 hold"),
        ("flap clap x2 and a stamp", "( flap, clap ) x2, stamp"),
        ("(flap) x2 and a clap", "flap x2, clap"),
    )
    def test_and_links(self, body: str, written: str) -> None:
        self.assert_as_written("tap", body, written)
