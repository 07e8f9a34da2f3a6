"""What is said around steps when they are explained says nothing of its own. Common practice, no source."""

import unittest

from firn.core.piece.piece import Piece
from tests.core.test_readings import doubted, piece, said
from tests.support import cases


class FillersTest(unittest.TestCase):
    def assert_alike(self, one: Piece, other: Piece) -> None:
        self.assertEqual((said(one), doubted(one), one.problems), (said(other), [], ()))

    @cases(
        ("tap", "start with a stamp, then clap on 2", "stamp, clap on 2"),
        ("tap", "you stamp on 1 and clap on 2", "stamp on 1 and clap on 2"),
        ("tap", "it goes flap flap stamp", "flap flap stamp"),
        ("tap", "it’s stamp, and finally a clap", "stamp, clap"),
        ("tap", "and a stamp to finish", "and a stamp"),
        ("tap", "don't forget the clap on 4", "clap on 4"),
        ("tap", "do the shuffle twice", "shuffle twice"),
        ("tap", "use your left: flap", "left: flap"),
        ("tap", "drop both heels on 4", "both heels on 4"),
        ("tap", "the counts are 1 2 3: stamp clap stamp", "1 2 3 stamp clap stamp"),
        ("clogging", "triple: that's DS DS DS RS", "DS DS DS RS"),
        ("swing", "rock step first, triple step after", "rock step, triple step"),
        ("folk stamping", "empezamos con golpe, al final palmada", "golpe, palmada"),
        ("tap", "we begin on the left: stamp clap", "starting left: stamp clap"),
        ("solo jazz", "step clap step clap, four times", "( step clap step clap ) x4"),
        ("tap", "1 stamp, 2 clap, x2", "( 1 stamp 2 clap ) x2"),
        ("tap", "1 step 2 clap, finish with a stamp", "1 step 2 clap, stamp"),
        ("tap", "stamp, and it's clap", "stamp, clap"),
        ("tap", "clap, then you stamp, at the end clap", "clap, stamp, clap"),
        ("tap", "stamp at the end, clap", "stamp, clap"),
        ("tap", "it begins on the left foot: stamp clap", "starting left: stamp clap"),
        # As it is called over the music.
        ("tap", "ready, stamp clap", "stamp clap"),
        ("tap", "5 6 ready go, stamp clap stamp clap", "stamp clap stamp clap"),
        ("tap", "5 6 7 8 ready and go: stamp clap", "stamp clap"),
        ("tap", "last one: 1 stamp 2 clap", "1 stamp 2 clap"),
        ("tap", "one more time, 1 stamp 2 clap", "1 stamp 2 clap"),
        ("clogging", "and another triple: DS DS DS RS", "DS DS DS RS"),
        ("tap", "now claps: 1 clap 2 clap", "1 clap 2 clap"),
        ("tap", "stamps: 1 stamp & stamp 2 stamp", "1 stamp & stamp 2 stamp"),
        ("tap", "and 1 stamp 2 clap", "1 stamp 2 clap"),
        ("tap", "and one stamp two clap", "one stamp two clap"),
        ("tap", "1 stamp, keep going 2 stamp", "1 stamp, 2 stamp"),
        ("tap", "lead left, stamp clap", "starting left, stamp clap"),
        ("tap", "and 1 stamp", "1 stamp"),
        ("tap", "and 1 2 stamp", "1 2 stamp"),
        ("tap", "and 1 toe tip 2 clap", "1 toe tip 2 clap"),
        ("tap", "and 1 drop the heel", "1 drop the heel"),
        ("tap", "1 2 ready, stamp", "stamp"),
        ("tap", "listos, 1 golpe 2 palma", "1 golpe 2 palma"),
    )
    def test_says_nothing(self, tradition: str, body: str, plain: str) -> None:
        self.assert_alike(piece(tradition, body), piece(tradition, plain))

    @cases(
        # A step of several sounds begins on the & that is said, and what is written is what is meant.
        ("tap", "and 1 flap 2 clap", [-0.5, 0, 1]),
        ("tap", "& 1 stamp 2 clap", [-0.5, 0, 1]),
        ("tap", "and 1 ball change 2 clap", [-0.5, 0, 1]),
        ("tap", "stamp: 1 clap 2 clap", [-1, 0, 1]),
        ("tap", "flap: stamp clap", [-0.5, 0, 1, 2]),
        ("tap", "5 6 and, 7 stamp", [4, 5, 5.5, 6]),
    )
    def test_what_is_no_filler_though_it_sounds_like_one(
        self, tradition: str, body: str, places: list[float]
    ) -> None:
        read = piece(tradition, body)
        self.assertEqual(read.problems, ())
        self.assertEqual([float(s.place) for s in read.parts[0].sounds], places)

    @cases(
        ("nothing follows", "finish with"),
        ("in the middle", "stamp it goes clap"),
        ("no step", "you wobble"),
        ("a count alone", "next 2"),
        ("ready alone", "5 6 ready"),
        ("ready for nothing", "5 6 ready,"),
        ("go without a count", "go, wobble"),
        ("how loud is no filler", "louder, 1 stamp"),
    )
    def test_what_leads_to_no_step_is_said(self, _: str, body: str) -> None:
        self.assertTrue(piece("tap", body).problems)

    def test_a_step_that_is_called_so_is_danced(self) -> None:
        """A part that is a word of its own is no filler."""
        from firn.core.piece.build import piece_from

        text = "part Next\n1 stamp  2 stamp\npart B\n1 next  3 clap\n"
        self.assertEqual([s.kind for s in piece_from(text).parts[1].sounds], ["flat", "flat", "clap"])
        text = "part Start Over Now\n1 stamp  2 stamp\npart B\nstart over now, 3 clap\n"
        self.assertEqual([s.kind for s in piece_from(text).parts[1].sounds], ["flat", "flat", "clap"])


if __name__ == "__main__":
    unittest.main()
