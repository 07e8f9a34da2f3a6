"""What is said in short, or in a message: w/, a clapping hand, two more times, claps on 2 and 4. Common practice, no
source."""

from tests.core.read_case import ReadCase
from tests.core.test_readings import doubted, piece, sounding
from tests.support import cases


class ShortlyTest(ReadCase):
    @cases(
        ("1 stamp w/ clap", "1 stamp with a clap"),
        ("1 step w/clap 2 step", "1 step + clap  2 step"),
        ("1 stamp w/o weight", "1 stamp without weight"),
        ("1 stamp 2 👏 3 stamp 4 👏🏽", "1 stamp 2 clap 3 stamp 4 clap"),
        ("1 _flap_ 2 *step*", "1 flap 2 step"),
        ("beat one stamp, count two clap", "1 stamp 2 clap"),
        ("part 1: 1 stamp 2 clap", "1 stamp 2 clap"),
        ("first half: 1 stamp 2 clap, second half: 5 stamp 6 clap", "1 stamp 2 clap 5 stamp 6 clap"),
        ("first four: 1 stamp 2 clap, second four: 5 stamp 6 clap", "1 stamp 2 clap 5 stamp 6 clap"),
        ("stamp while clapping", "1 stamp + clap"),
        ("4 steps with claps on 2 and 4", "1 step 2 step + clap 3 step 4 step + clap"),
        ("step step step step while clapping on 2 and 4", "1 step 2 step + clap 3 step 4 step + clap"),
        ("5 stamps on 1 2 3 & 4", "1 2 3 & 4 stamp"),
        ("5 stamps: 1, 2, 3 and 4", "1 2 3 & 4 stamp"),
        ("four walks with a clap on 4", "1 step 2 step 3 step 4 step + clap"),
    )
    def test_as_it_is_said_in_full(self, short: str, full: str) -> None:
        one, other = piece("tap", short), piece("tap", full)
        self.assertEqual(([p.message for p in one.problems], doubted(one)), ([], []))
        self.assertEqual(sounding(one), sounding(other))

    @cases(
        ("stamp clap, 2 more times", 3), ("stamp clap, two more times", 3), ("stamp clap, x2 more", 3),
        ("stamp clap, 3x more", 4), ("stamp clap, three times more", 4), ("stamp clap, twice more", 3),
        ("stamp clap, once more", 2), ("stamp clap, one more time", 2), ("stamp clap, 3 times more", 4),
    )  # fmt: skip
    def test_so_many_times_more(self, said: str, times: int) -> None:
        one = piece("tap", said)
        self.assertEqual(([p.message for p in one.problems], doubted(one)), ([], []))
        self.assertEqual(sounding(one), sounding(piece("tap", f"( stamp clap ) x{times}")))

    @cases(("repeat x3", 3), ("repeat twice", 2), ("repeat 2 more times", 2), ("repeat three times", 3))
    def test_repeated_so_often_more_or_in_all(self, said: str, times: int) -> None:
        """In a line as in one of its own: either is offered, and stays so once it is taken."""
        one = piece("tap", f"stamp clap, {said}")
        more, in_all = f"again x{times}", f"again x{times - 1}"
        self.assertEqual([p.message for p in one.problems], [])
        self.assertEqual(doubted(one), [[f"“{times} times more”", f"“{times} times in all”"]])
        self.assertEqual(sounding(one), sounding(piece("tap", f"( stamp clap ) x{times + 1}")))
        for written, often in ((more, times + 1), (in_all, times)):
            taken = piece("tap", f"stamp clap, {written}")
            self.assertEqual(
                (doubted(taken), sounding(taken)), ([], sounding(piece("tap", f"( stamp clap ) x{often}")))
            )

    @cases(
        ("flap flap while clapping", 'No step is called "while". Nearest: whisk.'),
        ("stamp clap x2 more", 'No step is called "more".'),
        ("stamp, clap twice more", 'No step is called "more".'),
    )
    def test_asked_about(self, said: str, message: str) -> None:
        self.assert_asked("tap", said, message)
