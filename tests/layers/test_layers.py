"""Imports point down only, and Qt stays in one place."""

import ast
import functools
import subprocess
import sys
import unittest
from pathlib import Path

SRC = Path(__file__).parents[2] / "src"
ORDER = ["errors", "core", "devices", "files", "session", "ui"]
CORE = [
    "task",
    "same",
    "pattern",
    "meter",
    "tune",
    "steps",
    "footing",
    "script",
    "piece",
    "timeline",
    "score",
    "library",
    "reading",
    "combos",
    "sound",
    "ear",
    "quantise",
    "drills",
]


def modules() -> list[tuple[str, Path]]:
    found = []
    for path in sorted((SRC / "firn").rglob("*.py")):
        parts = path.relative_to(SRC).with_suffix("").parts
        name = ".".join(parts[:-1] if parts[-1] == "__init__" else parts)
        found.append((name, path))
    return found


@functools.cache
def imports(name: str, path: Path) -> list[str]:
    """Everything a module imports, absolute and relative alike, inside functions too."""
    found = []
    for node in ast.walk(ast.parse(path.read_text("utf-8"))):
        if isinstance(node, ast.Import):
            found += [alias.name for alias in node.names]
        elif isinstance(node, ast.ImportFrom):
            base = node.module or ""
            if node.level:
                above = name.split(".")[: -node.level]
                base = ".".join([*above, base] if base else above)
            found.append(base)
    return found


class LayersTest(unittest.TestCase):
    def test_imports_point_down(self) -> None:
        for name, path in modules():
            room = name.split(".")[1:2]
            if not room or room[0] not in ORDER:
                continue
            for target in imports(name, path):
                if target.startswith("firn."):
                    other = target.split(".")[1]
                    if other in ORDER:
                        self.assertLessEqual(ORDER.index(other), ORDER.index(room[0]), f"{name} imports {target}")

    def test_core_points_one_way(self) -> None:
        for name, path in modules():
            parts = name.split(".")
            if parts[:2] != ["firn", "core"] or len(parts) < 3:
                continue
            for target in imports(name, path):
                other = target.split(".")
                if other[:2] != ["firn", "core"] or len(other) < 3 or "book" in (parts[2], other[2]):
                    continue
                self.assertLessEqual(CORE.index(other[2]), CORE.index(parts[2]), f"{name} imports {target}")

    def test_nothing_below_the_book_knows_it(self) -> None:
        for name, path in modules():
            if name.startswith("firn.core.") and not name.startswith("firn.core.book"):
                self.assertNotIn("firn.core.book", " ".join(imports(name, path)), name)

    def test_qt_is_imported_in_ui_alone(self) -> None:
        for name, path in modules():
            if not name.startswith("firn.ui"):
                for target in imports(name, path):
                    self.assertFalse(target.startswith(("PySide6", "shiboken6")), f"{name} imports {target}")

    def test_everything_else_runs_without_qt(self) -> None:
        names = [n for n, _ in modules() if not n.startswith("firn.ui") and n != "firn.__main__"]
        code = f"import sys, importlib\nsys.modules['PySide6'] = None\nfor n in {names!r}: importlib.import_module(n)"
        done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, cwd=SRC, check=False)
        self.assertEqual(done.returncode, 0, done.stderr)

    def test_heavy_libraries_are_imported_when_they_are_needed(self) -> None:
        signals = "numpy", "scipy", "soundfile", "miniaudio", "av", "mido", "icalendar"
        for module, heavy in (("firn.cli", (*signals, "PySide6")), ("firn.ui.main_window", signals)):
            code = f"import sys, {module}\nprint([n for n in {heavy} if n in sys.modules])"
            done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
            self.assertEqual(done.stdout.strip(), "[]", module)


if __name__ == "__main__":
    unittest.main()
