"""Qt's enumerations as they are made here are those that `enum` makes: the standard library is the judge."""

import enum
import os
import pickle
import shutil
import subprocess
import sys
import tempfile
import unittest
from importlib.util import find_spec
from inspect import signature
from itertools import product
from pathlib import Path
from types import MethodType
from typing import Any

import firn
from firn.ui import quick_enums
from tests.support import cases

SOURCE = Path(firn.__file__).parents[1]
USUAL = quick_enums._usual
PAIRS = {
    "plain": [("A", 1), ("B", 2), ("C", 7)],
    "aliases": [("A", 1), ("First", 1), ("B", 2), ("Second", 2)],
    "bits of several": [("No", 0), ("A", 1), ("B", 4), ("AB", 5), ("Mask", 255), ("Also", 5)],
    "out of order": [("D", 8), ("A", 1), ("B", 2)],
    "below zero": [("A", -1), ("B", 1)],
    "large": [("A", 1 << 31), ("B", 1 << 40)],
    "none": [],
}
SELF_MADE = {
    "a name of its own": [("name", 1), ("value", 2)],
    "said": ["A", "B"],
    "text": [("A", "one")],
    "hidden": [("_hidden", 1), ("B", 2)],
}


def _as_usual(base: Any, pairs: Any, make: Any) -> Any:
    keep = {"boundary": enum.KEEP} if issubclass(base, enum.Flag) else {}
    try:
        return make(base, "Made", pairs, module=__name__, qualname="Made", **keep)
    except Exception as fault:
        return repr(fault)


def _inside(made: Any) -> dict[str, Any]:
    """What a class holds, its members by name and value."""
    if isinstance(made, str):
        return {"fault": made}

    def told(value: Any) -> Any:
        if isinstance(type(value), enum.EnumType) and type(value) is made:
            return ("member", value._name_, value._value_, value._sort_order_)
        if isinstance(value, dict):
            return {key: told(one) for key, one in value.items()}
        if isinstance(value, (MethodType, staticmethod)):
            return value.__func__
        if type(value).__name__ in ("getset_descriptor", "property", "member"):
            return type(value).__name__
        return value

    return {key: told(value) for key, value in vars(made).items() if key not in ("__doc__", "__firstlineno__")}


class AsMade(unittest.TestCase):
    maxDiff = 4_000

    @cases(*product(quick_enums.MADE_HERE, PAIRS))
    def test_the_same_class(self, base: Any, name: str) -> None:
        pairs = PAIRS[name]
        usual, quick = (_as_usual(base, pairs, make) for make in (USUAL, quick_enums.create))
        self.assertEqual(_inside(usual), _inside(quick))
        if isinstance(usual, str):
            return
        for label, value in pairs:
            for made in (usual, quick):
                self.assertIs(made(value), made[label])
                self.assertIs(getattr(made, label), made[label])
        for told in (str, repr, format):
            self.assertEqual([told(one) for one in usual], [told(one) for one in quick])
        self.assertEqual([m.name for m in usual], [m.name for m in quick])
        if issubclass(base, enum.Flag) and pairs:
            for (one, _), (other, _) in product(pairs, pairs):
                for join in ("__or__", "__and__", "__xor__"):
                    usually, quickly = (getattr(made[one], join)(made[other]) for made in (usual, quick))
                    self.assertEqual((usually.value, repr(usually)), (quickly.value, repr(quickly)))
                self.assertEqual((~usual[one]).value, (~quick[one]).value)
            self.assertEqual(repr(usual(16)), repr(quick(16)))

    @cases(*product(quick_enums.MADE_HERE, SELF_MADE))
    def test_what_is_no_list_of_plain_numbers_is_left_to_enum(self, base: Any, name: str) -> None:
        usual, quick = (_as_usual(base, SELF_MADE[name], make) for make in (USUAL, quick_enums.create))
        self.assertEqual(_inside(usual), _inside(quick))

    def test_every_enumeration_of_qt(self) -> None:
        from PySide6 import QtCore, QtGui, QtWidgets

        seen = 0
        for module in (QtCore, QtGui, QtWidgets):
            for holder in (getattr(module, name) for name in dir(module)):
                for made in vars(holder).values() if isinstance(holder, type) else ():
                    if not isinstance(made, enum.EnumType):
                        continue
                    base = made.__mro__[1]
                    pairs = [(label, one._value_) for label, one in made.__members__.items()]
                    usual, quick = (_as_usual(base, pairs, make) for make in (USUAL, quick_enums.create))
                    self.assertEqual(_inside(usual), _inside(quick), made)
                    seen += 1
        self.assertGreater(seen, 300)

    def test_members_go_into_a_file_and_back(self) -> None:
        from PySide6.QtCore import Qt

        for one in (Qt.Key.Key_A, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop):
            self.assertEqual(pickle.loads(pickle.dumps(one)), one)

    def test_asked_as_enum_is_asked(self) -> None:
        """Pythons from 3.12 on give the name and the members by name: once Firn did not start on them."""
        ours, usual = (list(signature(make).parameters.values())[1:] for make in (quick_enums.create, USUAL))
        self.assertEqual([(p.name, p.kind, p.default) for p in ours], [(p.name, p.kind, p.default) for p in usual])

    @cases(("3.11",), ("3.12",), ("3.13",))
    def test_on_each_python_there_is(self, version: str) -> None:
        """Qt for Python's libraries are the same for all of them."""
        python = shutil.which(f"python{version}")
        if python is None or subprocess.run([python, "-c", ""], capture_output=True).returncode:
            self.skipTest(f"no Python {version} here")
        with tempfile.TemporaryDirectory() as folder:
            for library in ("PySide6", "shiboken6"):
                found = find_spec(library)
                assert found is not None and found.origin is not None
                (Path(folder) / library).symlink_to(Path(found.origin).parent)
            done = subprocess.run(
                [python, "-c", "import firn.ui, PySide6.QtWidgets as w; print(w.QFrame.Shape.NoFrame.name)"],
                env={**os.environ, "PYTHONPATH": f"{SOURCE}:{folder}"}, capture_output=True, text=True,
            )  # fmt: skip
        self.assertEqual((done.stdout, done.stderr), ("NoFrame\n", ""))

    def test_where_it_was_asked_for(self) -> None:
        made = quick_enums.create(enum.Enum, class_name="Made", names=[("A", 1)], module=None)
        self.assertEqual(made.__module__, sys._getframe(1).f_globals["__name__"])


if __name__ == "__main__":
    unittest.main()
