"""The same steps said otherwise, as lines put together at random found them silently read as others. Common practice,
no source."""

from firn.core.piece.build import piece_from
from tests.core.read_case import ReadCase
from tests.core.test_readings import doubted, piece, said
from tests.support import cases


class OtherwiseTest(ReadCase):
    @cases(
        ("tap", "three touches, twice", "touch, touch, touch, touch, touch, touch"),
        ("tap", "stamp four times - twice", "( stamp, stamp, stamp, stamp ) x2"),
        ("tap", "five claps, do that twice", "( clap, clap, clap, clap, clap ) x2"),
        ("step dance", "rally x2, 2x", "rally, rally, rally, rally"),
        ("tap", "flap x2 x3", "flap, flap, flap, flap, flap, flap"),
        ("clogging", "stamp, clap, all twice", "( stamp, clap ) x2"),
        ("tap", "stamp clap, all of it twice", "( stamp, clap ) x2"),
        ("clogging", "next four touches, double that", "( touch, touch, touch, touch ) x2"),
        ("tap", "toe, stamp, repeat!", "( toe, stamp ) x2"),
        ("tap", "toe, stamp, repeat it!", "( toe, stamp ) x2"),
        ("tap", "Intro (16 counts)\nstamp clap\n== Chorus ==\nstep", "stamp clap\nstep"),
        ("tap", "Wall 1\nstamp clap\nSecond half:\nstep", "stamp clap\nstep"),
        ("folk stamping", "Estribillo\ngolpe palma", "golpe palma"),
        ("tap", "here's the step: toe, stamp, all twice!", "( toe, stamp ) x2"),
        ("tap", "tres palmas, luego un golpe, repetir", "( clap, clap, clap, stamp ) x2"),
        ("tap", "toe, stamp. Repeat.", "( toe, stamp ) x2"),
        ("swing", "touch, kick, then again", "( touch, kick ) x2"),
        ("tap", "one step, one more time", "step, step"),
        ("tap", "twice: stamp clap; once: flap", "( stamp, clap ) x2, flap"),
        ("tap", "stamp clap\nchange feet and repeat", "stamp clap\nother side"),
        ("tap", "stamp clap\nswap legs", "stamp clap\nother side"),
    )
    def test_how_often(self, tradition: str, body: str, plain: str) -> None:
        self.assert_same(tradition, body, plain)

    @cases(
        ("tap", "1 - hop 2 - step 5 - hop 8 - clap", "1 hop  2 step  5 hop  8 clap"),
        ("latin", "1 - clap 3 - forward 4 - step", "1 clap  3 forward  4 step"),
        ("latin", "1 is a back, then 4 is a step", "1 back  4 step"),
        ("clogging", "1, toe 2, hop 6, kick", "1 toe  2 hop  6 kick"),
        ("tap", "toe at 2, stamp at 5", "2 toe  5 stamp"),
        ("tap", "toe @ 2\nstamp @ 5", "2 toe\n5 stamp"),
        ("step dance", "5 6 7 8\nswivel, stamp, touch, heel click", "5 swivel\n6 stamp\n7 touch\n8 heel click"),
        ("house", "on 4 stomp on 5 step", "4 stomp  5 step"),
        ("swing", "on 1 a kick, on 6 stomp", "1 kick  6 stomp"),
        ("swing", "a tap on 1  a stomp on 5", "1 tap  5 stomp"),
        ("swing", "on the 3, stomp, on the 6, kick", "3 stomp  6 kick"),
        ("flatfoot", "3 walk  4 step  8 clap", "3 step  4 step  8 clap"),
        ("flatfoot", "stomp two, step six, walk seven", "2 stomp  6 step  7 step"),
    )
    def test_counts(self, tradition: str, body: str, plain: str) -> None:
        self.assert_same(tradition, body, plain)

    @cases(
        ("tap", "kick, and one touch", "kick, touch"),
        ("tap", "kick; 4 claps, and one touch!", "kick, clap, clap, clap, clap, touch"),
        ("tap", "4 brushes - one hop, and heel", "brush, brush, brush, brush, hop, heel"),
        ("latin", "seven steps, and one together", "step, step, step, step, step, step, step, step"),
        ("solo jazz", "a side, 2 steps", "step, step, step"),
        ("tap", "stamp and finally clap", "stamp, clap"),
        ("tap", "un golpe y por último una palma", "stamp, clap"),
        ("latin", "cross cross cross cross", "step, step, step, step"),
        ("solo jazz", "hold hold side", "hold, hold, step"),
        ("clogging", "triple: DS DS DS RS; basic: DS RS", "DS, DS, DS, RS, DS, RS"),
        ("tap", "#1 stamp\n#2 clap, toe", "stamp\nclap\ntoe"),
        ("tap", "The step:\nstamp, toe\nclap", "stamp\ntoe\nclap"),
    )
    def test_how_many(self, tradition: str, body: str, plain: str) -> None:
        self.assert_same(tradition, body, plain)

    @cases(
        ("clogging", "DS RS = basic", "DS, RS"), ("clogging", "triple aka DS DS DS RS", "DS, DS, DS, RS"),
        ("clogging", "DS DS DS RS is a triple", "DS, DS, DS, RS"), ("clogging", "a basic is DS RS", "DS, RS"),
        ("clogging", "DS DS DS RS - triple", "DS, DS, DS, RS"),
        ("clogging", "a triple, i.e. DS DS DS RS", "DS, DS, DS, RS"),
        ("clogging", "DS DS DS RS, which is a triple", "DS, DS, DS, RS"),
        ("clogging", "DS DS DS RS, that's four counts", "DS, DS, DS, RS"),
        ("clogging", "DS DS DS RS - four counts", "DS, DS, DS, RS"),
    )  # fmt: skip
    def test_a_name_behind_what_it_is_is_not_danced(self, tradition: str, body: str, plain: str) -> None:
        self.assert_same(tradition, body, plain)

    @cases(
        ("tap", "left foot: clap, snap, stomp", "1- clap, 2- snap, 3L stomp"),
        ("tap", "starting left, a snap; stomp", "1- snap, 2L stomp"),
        ("tap", "left foot lead, clap step", "1- clap, 2L step"),
        ("tap", "from the left foot, flap", "&L brush, 1L step"),
        ("tap", "right foot lead, first flap", "&R brush, 1R step"),
        ("tap", "on the left foot, hold, then step", "1- hold, 2L step"),
        ("swing", "starting left, step one: touch", "1L touch"),
        ("tap", "left foot lead, here's the step: touch kick", "1L touch, 2L kick"),
        ("tap", "left foot: ready? stamp", "1L flat"),
        ("swing", "leader starts left: rock step", "1L step, 2R step"),
        ("latin", "con la izquierda, palma, paso", "1- clap, 2L step"),
        ("tap", "stamp on each foot, then a clap", "1R flat, 2L flat, 3- clap"),
    )
    def test_feet(self, tradition: str, body: str, sounds: str) -> None:
        self.assert_read(tradition, body, sounds)

    @cases(
        ("tap", "stamp a heel", '"a" may be a count'), ("tap", "4 brushes a hop", '"a" may be a count'),
        ("swing", "stomp, three touches, then left", '"left" may be a step'),
        ("flatfoot", "toe, slide, then do the left side", '"do the left side" may be a step'),
        ("tap", "clap on every count", "such as 1-8"), ("tap", "clap on every other count", "such as 1 3 5 7"),
        ("tap", "step on the even counts", "such as 2 4 6 8"),
        ("clogging", "DS DS RS, that's a basic", "has other sounds than these"),
        ("clogging", "DS DS RS = 4 counts", "take 3 counts, not 4"),
        ("tap", "left foot lead, clap", '"left" has no word after it'),
    )  # fmt: skip
    def test_asked_in_a_sentence(self, tradition: str, body: str, told: str) -> None:
        (problem,) = piece(tradition, body).problems
        self.assertIn(told, problem.message)

    @cases(
        ("clogging", "DS DS DS RS, triple"), ("tap", "stamp, 3 claps, 4 digs"), ("latin", "clap side"),
        ("tap", "left foot: buffalo, reverse!"), ("tap", "touch, two steps (x2)"), ("tap", "flap heel, switch sides"),
    )  # fmt: skip
    def test_in_doubt(self, tradition: str, body: str) -> None:
        one = piece(tradition, body)
        self.assertEqual((one.problems, len(doubted(one))), ((), 1))

    def test_a_list_behind_signs_opens_a_text_too(self) -> None:
        (part,) = piece_from("#1 stamp\n#2 clap, toe").parts
        self.assertEqual([sound.kind for sound in part.sounds], ["flat", "clap", "toe"])
        self.assertFalse(piece_from("# stamp\n# clap").parts)

    def assert_same(self, tradition: str, body: str, plain: str) -> None:
        one, other = piece(tradition, body), piece(tradition, plain)
        self.assertEqual((said(one), one.problems), (said(other), ()))
