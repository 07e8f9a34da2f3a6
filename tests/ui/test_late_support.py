"""Qt for Python's own support files, made late: whoever asks for what is in them has the same as ever."""

import os
import subprocess
import sys
import unittest

ASKED = """
import sys
if sys.argv[1] == "late":
    import firn.ui
import PySide6.support.signature
from PySide6.QtCore import QPoint
from PySide6.QtWidgets import QWidget

for wrong in (lambda: QPoint("a"), lambda: QPoint(1, 2).manhattan(), lambda: QWidget.resize(1)):
    try:
        wrong()
    except (TypeError, AttributeError) as error:
        print(error)
print(PySide6.support.signature.get_signature(QWidget.resize))
print(QWidget.resize.__doc__)
print(callable(PySide6.support.signature.lib.pyi_generator.generate_pyi))
try:
    PySide6.support.signature.layout.nothing
except AttributeError as error:
    print(error)
"""
KEPT = """
import sys
from firn.ui.late_support import _sources
import firn.ui.start
print(*sorted(name.rpartition("/")[2] for name in _sources))
"""


def said(program: str, *words: str) -> str:
    """What a program of its own says, in a Python of its own."""
    done = subprocess.run(
        [sys.executable, "-c", program, *words],
        env={**os.environ, "QT_QPA_PLATFORM": "offscreen"}, capture_output=True, text=True, check=True,
    )  # fmt: skip
    return done.stdout


class LateTest(unittest.TestCase):
    def test_the_same_as_ever(self) -> None:
        late, usual = said(ASKED, "late"), said(ASKED, "usual")
        self.assertIn("Supported signatures", usual)
        self.assertEqual(late, usual)

    def test_a_start_needs_none_of_it(self) -> None:
        self.assertEqual(said(KEPT).split(), ["enum_sig.py", "layout.py", "parser.py", "pyi_generator.py", "tool.py"])


if __name__ == "__main__":
    unittest.main()
