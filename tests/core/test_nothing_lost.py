"""Whatever is said between two steps, both of them are danced, or something is asked.

What is said between steps is common practice, no source.
"""

import unittest

from tests.core.test_readings import doubted, piece
from tests.support import cases

BETWEEN = (
    "to the right", "to the left", "to the side", "on the right", "with the left", "right", "left", "forward", "back",
    "behind", "in front", "in place", "together", "softly", "loudly", "again", "twice", "x2", "three times", "then",
    "and then", "and", "turning left", "on both sides", "for two counts", "slowly", "on 1", "on the &",
    "a la derecha", "a la izquierda", "al lado", "en el lugar", "al frente", "hacia adelante", "adelante", "atrás",
    "con la derecha", "derecha", "izquierda", "suave", "fuerte", "otra vez", "dos veces", "luego", "y luego", "y",
    "a ambos lados", "por dos tiempos", "en 1", "a contratiempo",
)  # fmt: skip


class NothingLostTest(unittest.TestCase):
    @cases(
        ("tap", "hop", "clap", ("hop", "clap")), ("tap", "stamp", "dig", ("flat", "dig")),
        ("folk stamping", "golpe", "palma", ("flat", "clap")), ("folk stamping", "palma", "golpe", ("clap", "flat")),
        ("latin", "paso", "toca", ("step", "touch")), ("swing", "kick", "step", ("kick", "step")),
    )  # fmt: skip
    def test_both_steps_are_danced(self, tradition: str, one: str, other: str, kinds: tuple[str, str]) -> None:
        plain = 0
        for between in BETWEEN:
            for line in (f"{one} {between} {other}", f"{one} {between}, {other}", f"{one}, {between}, {other}"):
                read = piece(tradition, line)
                if read.problems or doubted(read) or read.parts[0].footing.faults:
                    continue
                plain += 1
                found = [s.kind for s in read.parts[0].sounds]
                with self.subTest(line):
                    self.assertEqual((found[0], found[-1]), kinds)
        self.assertGreater(plain, len(BETWEEN))


if __name__ == "__main__":
    unittest.main()
