"""Steps that are numbered in their order, feet that the same begins with in turn, where hands clap, and what tells to
change a line.

What teachers mean by them is common practice, no source.
"""

import unittest

from tests.core.read_case import ReadCase
from tests.support import cases

SHUFFLE_STAMP = "&R brush, aR spank, 1R flat"


class SaidInOrderTest(ReadCase):
    @cases(
        ("tap", "1st step: shuffle stamp", SHUFFLE_STAMP),
        ("tap", "2nd step: shuffle stamp", SHUFFLE_STAMP),
        ("tap", "1st: shuffle stamp", SHUFFLE_STAMP),
        ("tap", "my first step: shuffle stamp", SHUFFLE_STAMP),
        ("tap", "our old warm-up's first step: shuffle stamp", SHUFFLE_STAMP),
        ("step dance", "first step, right side: shuffle stamp", SHUFFLE_STAMP),
        ("step dance", "first step, on the left: stamp clap", "1L flat, 2- clap"),
        ("tap", "1st step shuffle, 2nd step stamp", SHUFFLE_STAMP),
        ("tap", "first step stamp, second step clap", "1R flat, 2- clap"),
        ("tap", "1st stamp, 2nd clap", "1R flat, 2- clap"),
        ("folk stamping", "1er paso: golpe golpe", "1R flat, 2L flat"),
        ("folk stamping", "1º golpe, 2º palma", "1R flat, 2- clap"),
    )
    def test_order_is_not_danced(self, tradition: str, body: str, sounds: str) -> None:
        self.assert_read(tradition, body, sounds)

    @cases(
        ("1st 2st 3st", "1R step, 2L step, 3R step"),
        ("1 st 2 st", "1R step, 2L step"),
        ("1st", "1R step"),
        ("step, stamp: shuffle stamp", "1R step, 2L flat, &R brush, aR spank, 3R flat"),
    )
    def test_steps_behind_their_counts_stay(self, body: str, sounds: str) -> None:
        self.assert_read("tap", body, sounds)

    @cases(
        ("clap on the third", "3- clap"),
        ("stamp on the 1st beat, clap on the 3rd", "1R flat, 3- clap"),
        ("clap on the 2nd and 4th", "2- clap, 4- clap"),
        ("stamp on the first and third, clap on the second and fourth", "1R flat, 2- clap, 3L flat, 4- clap"),
    )
    def test_counts_by_their_order(self, body: str, sounds: str) -> None:
        self.assert_read("tap", body, sounds)

    @cases(
        ("tap", "stamp, clap over your head", "1R flat, 2- clap"),
        ("tap", "stamp, clap overhead, stamp", "1R flat, 2- clap, 3L flat"),
        ("tap", "stamp, clap behind the back", "1R flat, 2- clap"),
        ("tap", "clap under the knee, stamp", "1- clap, 2R flat"),
        ("folk stamping", "golpe, palma por encima de la cabeza", "1R flat, 2- clap"),
        ("tap", "clap behind, back, stamp", "1- clap, 2R step, 3L flat"),
    )
    def test_where_hands_clap_is_not_heard(self, tradition: str, body: str, sounds: str) -> None:
        self.assert_read(tradition, body, sounds)

    @cases(
        ("cramp roll starting left twice, then starting right twice",),
        ("starting left cramp roll, then starting right",),
        ("starting left: flap, stamp, starting right: flap, stamp",),
    )
    def test_a_foot_that_nothing_begins_with_is_asked(self, body: str) -> None:
        self.assert_asked("tap", body, "Say what is danced starting right.")

    @cases(
        ("tap", "stamp, replace the clap with a hold", "replace the clap with a hold"),
        ("folk stamping", "golpe, reemplaza golpe por palma", "reemplaza golpe por palma"),
        ("tap", "take out the clap", "take out the clap"),
    )
    def test_what_changes_a_line_is_asked(self, tradition: str, body: str, said: str) -> None:
        self.assert_asked(tradition, body, f'Write the line as it is danced after "{said}".')

    @cases(("stamp => clap",), ("stamp=>clap",), ("stamp ==> clap",), ("stamp ⇒ clap",), ("stamp -> clap",))
    def test_an_arrow_leads_on(self, body: str) -> None:
        self.assert_read("tap", body, "1R flat, 2- clap")

    @cases(
        ("2(flap stamp)", "Say whether this is danced 2 times, or on 2: ( flap stamp ) x2; 2 flap stamp."),
        ("|: flap stamp :|", 'Say how often this is danced, not ":|": ( stamp clap ) x2.'),
        ("||: flap stamp :||", 'Say how often this is danced, not ":|": ( stamp clap ) x2.'),
    )
    def test_how_often_is_asked(self, body: str, message: str) -> None:
        self.assert_asked("tap", body, message)

    @cases(
        ("stamp clap [x2]", ["“( stamp clap ) x2”", "“stamp  ( clap ) x2”"]),
        ("stamp clap [2x]", ["“( stamp clap ) 2x”", "“stamp  ( clap ) 2x”"]),
        ("( stamp clap :|| x2 )",),
    )
    def test_how_often_in_brackets(self, body: str, *offers: list[str]) -> None:
        self.assert_read("tap", body, "1R flat, 2- clap, 3L flat, 4- clap", *offers)

    @cases(
        ("latin", "tres pasos a la derecha, toca, tres a la izquierda, toca",
         "1R step, 2L step, 3R step, 4L touch, 5L step, 6R step, 7L step, 8R touch"),
        ("tap", "three stamps to the right, three to the left",
         "1R flat, 2L flat, 3R flat, 4L flat, 5R flat, 6L flat"),
    )  # fmt: skip
    def test_a_number_again_is_of_what_was_counted(self, tradition: str, body: str, sounds: str) -> None:
        self.assert_read(tradition, body, sounds)

    def test_and_behind_several_that_go_somewhere_is_in_doubt(self) -> None:
        for body in ("tres golpes y palma", "tres golpes a la derecha y palma"):
            with self.subTest(body):
                self.assert_read("folk stamping", body, "1R flat, 2L flat, 3R flat, 4- clap", ["“then”", "“&”"])

    @cases(
        ("tap", "clap with the right, stamp", 'Say "clap, step right", or "clap to the right".'),
        ("tap", "two claps with the left, stamp", 'Say "claps, step left", or "claps to the left".'),
        ("folk stamping", "palma con la derecha, golpe", 'Say "palma, paso derecha", or "palma a la derecha".'),
    )
    def test_a_foot_that_claps_is_asked(self, tradition: str, body: str, message: str) -> None:
        self.assert_asked(tradition, body, message)

    def test_replace_is_a_step(self) -> None:
        self.assert_read("swing", "rock step, replace", "1R step, 2L step, 3R step")

    def test_the_same_begun_with_each_foot(self) -> None:
        self.assert_read(
            "tap",
            "cramp roll starting left, then starting right",
            "1L step, eR step, &L heel, aR heel, 2R step, eL step, &R heel, aL heel",
            ["“L cramp roll, R cramp roll”", "“cramp roll, L step, R step”"],
        )


if __name__ == "__main__":
    unittest.main()
