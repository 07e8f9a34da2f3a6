"""./run mutate [ROOM …]: plants small faults in a room of the code, one by one, and counts those that its tests find.

./run mutate                  every room, 100 faults each
./run mutate moves --many 40  one room
./run mutate moves --seed 2   other faults

Faults that change nothing that could be seen are struck out in tools/struck.json, each with its reason.
"""

import argparse
import ast
import copy
import importlib.abc
import importlib.util
import io
import json
import multiprocessing
import os
import random
import signal
import sys
import time
import unittest
from collections.abc import Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from types import CodeType, ModuleType
from typing import NamedTuple

ROOT = Path(__file__).parents[1]
STRUCK = Path(__file__).with_name("struck.json")
WANTED = 80
"""Of a hundred faults so many are to be found."""

SAID = (
    "otherwise", "said_plainly", "said_at", "said_in_order", "put_otherwise", "in_a_row", "reworded", "mended",
    "where", "asked", "another", "begun_again",
)  # fmt: skip
"""Tests of lines as they are said."""

ROOMS = {
    "moves": ("firn.core.footing.moves", ("moves", "footing", "claims", "by_hand")),
    "places": (
        "firn.core.script.placer",
        ("placing", "again", "own_meter", "layers", "script", "readings", "written"),
    ),
    "placing": (
        "firn.core.script.placing",
        ("placing", "again", "own_meter", "layers", "script", "readings", "written"),
    ),
    "counted": ("firn.core.script.counted", ("placing", "readings", "script", "kept", "written")),
    "unfold": ("firn.core.piece.unfold", ("unfold", "groups", "joins", "claims", "fitting.ComesTest", "findings")),
    "counting": ("firn.core.meter.counting", ("counting", "meter", "own_meter", "layers")),
    "words": ("firn.core.script.words", ("runs", "words", "readings", "again", "written", *SAID)),
    "said_lists": ("firn.core.script.said_lists", ("runs", "readings", "written")),
    "said_counts": ("firn.core.script.said_counts", ("runs", "readings", "written")),
    "figures": ("firn.core.script.figures", ("figures",)),
    "small_words": ("firn.core.script.small_words", ("runs", "readings", "written")),
    "said_again": ("firn.core.script.said_again", ("readings", "said_plainly", "so_many_first")),
    "meant": ("firn.core.script.meant", ("readings", "written", "runs")),
    "said_feet": ("firn.core.script.said_feet", ("written", "readings", "runs")),
    "written": ("firn.core.script.written", ("written", "readings", "called")),
    "written_line": ("firn.core.script.written_line", ("written", "readings", "runs")),
    "parted": ("firn.core.script.parted", ("parted", "written")),
    "called": ("firn.core.script.called", ("called",)),
    "shoes": ("firn.core.ear.shoes", ("shoes",)),
    "dictated": ("firn.core.script.dictated", ("dictated",)),
    "printed": ("firn.core.script.printed", ("printed",)),
    "over": ("firn.core.piece.over", ("over",)),
    "music": ("firn.core.timeline.music", ("session.test_music",)),
    "sung_in": ("firn.core.quantise.sung", ("sung_in",)),
    "midi_keys": ("firn.devices.midi", ("devices.test_midi",)),
    "called_line": ("firn.core.script.called_line", ("called", "written")),
    "again": ("firn.core.script.again", ("again",)),
    "at_tune": ("firn.core.reading.at_tune", ("findings",)),
    "played": ("firn.core.tune.repeats", ("da_capo", "tune")),
    "like_drill": ("firn.session.like_drill", ("session.test_like_drill",)),
    "fillers": ("firn.core.script.fillers", ("fillers",)),
    "drill_text": ("firn.core.drills.text", ("drill_text",)),
    "two": ("firn.core.ear.two", ("two",)),
    "formation": ("firn.core.piece.formation", ("formation",)),
    "written_bars": ("firn.core.score.repeats", ("repeats",)),
    "backing": ("firn.core.timeline.backing", ("backing",)),
    "combo": ("firn.core.script.combo", ("combo_said", "sections", "between", "groups", "combo_edits", "script")),
    "combo_often": ("firn.core.script.combo_often", ("combo_said", "sections", "combo_edits")),
    "combo_parts": ("firn.core.script.combo_parts", ("combo_said", "sections", "combo_edits", "script")),
    "numbered_line": ("firn.core.script.numbered_line", ("begun_again", "readings", "otherwise")),
    "listed": ("firn.core.script.listed", ("written", "readings", "board")),
    "sung": ("firn.core.script.sung", ("sung",)),
    "claps": ("firn.core.ear.claps", ("claps",)),
    "against": ("firn.session.against", ("session.test_against",)),
    "asked": ("firn.core.ear.asked.question", ("asked", "ui.test_drill_asked")),
    "own": ("firn.core.ear.own", ("own",)),
    "levels": ("firn.core.piece.levels", ("levels", "versions")),
    "spelled": ("firn.core.script.spelled", ("written", "readings")),
    "collector": ("firn.core.script.collector", ("runs", "readings", "written")),
    "readings": ("firn.core.script.readings", ("readings", "ties")),
    "ties": ("firn.core.script.ties", ("ties",)),
    "by_hand": ("firn.core.piece.by_hand", ("by_hand", "clip", "strip_alone", "versions")),
    "ledger": ("firn.core.reading.ledger", ("ledger", "tune.SuitsTest")),
    "travel": ("firn.core.reading.travel", ("ledger", "where")),
    "combo_edits": ("firn.core.script.combo_edits", ("combo_edits",)),
    "fitting": ("firn.core.combos.fitting", ("fitting.ComesTest",)),
    "offers": ("firn.core.drills.offers", ("drills",)),
    "run": ("firn.core.drills.run", ("drills",)),
    "planning": ("firn.session.planning", ("session.test_planning",)),
    "abc": ("firn.core.tune.abc", ("tune.AbcTest",)),
    "repeats": ("firn.core.tune.repeats", ("tune.AbcTest",)),
    "class_plan": ("firn.core.drills.class_plan", ("class_plan",)),
    "midi": ("firn.core.score.midi", ("score", "session.test_converting")),
    "musicxml": ("firn.core.score.musicxml", ("score", "session.test_converting")),
    "notes": ("firn.core.score.notes", ("score", "session.test_converting")),
    "named": ("firn.core.quantise.words", ("named",)),
    "laid": ("firn.core.quantise.passes", ("laid",)),
    "slow": ("firn.core.sound.slow", ("slow",)),
    "bringing": ("firn.session.bringing", ("session.test_bringing",)),
    "class_log": ("firn.session.class_log", ("session.test_class_log",)),
    "tunes": ("firn.core.combos.tunes", ("tune.SuitsTest",)),
    "passes": ("firn.core.ear.passes", ("match", "routine")),
    "match": ("firn.core.ear.match", ("match",)),
    "sides": ("firn.core.ear.sides", ("sides",)),
    "swing": ("firn.core.ear.swing", ("sides",)),
    "onsets": ("firn.core.ear.onsets", ("attack", "faint", "match", "own", "ear.OnsetsTest", "ear.RecordedHitsTest")),
}
"""Each room's module, and the quick tests that know it, the nearest first."""

_COMPARED: dict[type[ast.cmpop], type[ast.cmpop]] = {
    ast.Lt: ast.LtE, ast.LtE: ast.Lt, ast.Gt: ast.GtE, ast.GtE: ast.Gt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq,
    ast.In: ast.NotIn, ast.NotIn: ast.In, ast.Is: ast.IsNot, ast.IsNot: ast.Is,
}  # fmt: skip
_COUNTED: dict[type[ast.operator], type[ast.operator]] = {
    ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.FloorDiv, ast.FloorDiv: ast.Mult, ast.Div: ast.Mult,
    ast.Mod: ast.FloorDiv, ast.BitOr: ast.BitAnd, ast.BitAnd: ast.BitOr,
}  # fmt: skip
_CALLED = {"min": "max", "max": "min", "any": "all", "all": "any"}


class Planted(NamedTuple):
    """A small fault: in which function, on which line, what was there and what is there now."""

    where: str
    line: int
    was: str
    now: str

    @property
    def name(self) -> str:
        """What it is known by, wherever its line has moved to."""
        return f"{self.where}: {self.was}  ->  {self.now}"


class _Planter(ast.NodeTransformer):
    """Goes through a module; plants the fault of a number, or notes all that there are."""

    def __init__(self, wanted: int = -1) -> None:
        self.wanted, self.found = wanted, list[Planted]()
        self._path: list[str] = []

    def _plant(self, node: ast.AST, other: ast.AST) -> ast.AST:
        number = len(self.found)
        where = ".".join(self._path) or "module"
        self.found.append(Planted(where, getattr(node, "lineno", 0), ast.unparse(node), ast.unparse(other)))
        return other if number == self.wanted else node

    def _inside(self, node: ast.FunctionDef | ast.ClassDef) -> ast.AST:
        self._path.append(node.name)
        # Neither what a thing is decorated with nor its types nor what is said of it does anything.
        node.body = [self.visit(one) for one in node.body if not _said(one)] or [ast.Pass()]
        self._path.pop()
        return node

    def visit_FunctionDef(self, node: ast.FunctionDef) -> ast.AST:
        return self._inside(node)

    def visit_ClassDef(self, node: ast.ClassDef) -> ast.AST:
        return self._inside(node)

    def visit_AnnAssign(self, node: ast.AnnAssign) -> ast.AST:
        if node.value is not None and self._path:
            node.value = self.visit(node.value)
        return node

    def visit_Compare(self, node: ast.Compare) -> ast.AST:
        self.generic_visit(node)
        for at, one in enumerate(node.ops):
            if type(one) in _COMPARED:
                other = copy.copy(node)
                other.ops = [*node.ops[:at], _COMPARED[type(one)](), *node.ops[at + 1 :]]
                node = self._plant(node, other)  # type: ignore[assignment]
        return node

    def visit_BinOp(self, node: ast.BinOp) -> ast.AST:
        self.generic_visit(node)
        if type(node.op) not in _COUNTED:
            return node
        return self._plant(node, ast.copy_location(ast.BinOp(node.left, _COUNTED[type(node.op)](), node.right), node))

    def visit_BoolOp(self, node: ast.BoolOp) -> ast.AST:
        self.generic_visit(node)
        other = ast.Or() if isinstance(node.op, ast.And) else ast.And()
        return self._plant(node, ast.copy_location(ast.BoolOp(other, node.values), node))

    def visit_UnaryOp(self, node: ast.UnaryOp) -> ast.AST:
        self.generic_visit(node)
        return self._plant(node, node.operand) if isinstance(node.op, ast.Not | ast.USub) else node

    def visit_IfExp(self, node: ast.IfExp) -> ast.AST:
        self.generic_visit(node)
        return self._plant(node, ast.copy_location(ast.IfExp(node.test, node.orelse, node.body), node))

    def visit_If(self, node: ast.If) -> ast.AST:
        self.generic_visit(node)
        other = ast.copy_location(ast.UnaryOp(ast.Not(), node.test), node.test)
        node.test = self._plant(node.test, other)  # type: ignore[assignment]
        return node

    def visit_Constant(self, node: ast.Constant) -> ast.AST:
        if isinstance(node.value, bool):
            return self._plant(node, ast.copy_location(ast.Constant(not node.value), node))
        if isinstance(node.value, int):
            return self._plant(node, ast.copy_location(ast.Constant(node.value + 1), node))
        return node

    def visit_JoinedStr(self, node: ast.JoinedStr) -> ast.AST:
        return node

    def visit_Call(self, node: ast.Call) -> ast.AST:
        self.generic_visit(node)
        if isinstance(node.func, ast.Name) and node.func.id in _CALLED:
            func = ast.copy_location(ast.Name(_CALLED[node.func.id], ast.Load()), node.func)
            return self._plant(node, ast.copy_location(ast.Call(func, node.args, node.keywords), node))
        return node

    def _left_out(self, node: ast.stmt) -> ast.AST:
        self.generic_visit(node)
        return self._plant(node, ast.copy_location(ast.Pass(), node))

    def visit_Continue(self, node: ast.Continue) -> ast.AST:
        return self._left_out(node)

    def visit_Break(self, node: ast.Break) -> ast.AST:
        return self._left_out(node)

    def visit_AugAssign(self, node: ast.AugAssign) -> ast.AST:
        return self._left_out(node)


def _said(node: ast.AST) -> bool:
    return isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant) and isinstance(node.value.value, str)


def planted(source: str, number: int) -> ast.Module:
    """A module with the fault of a number in it."""
    tree = ast.parse(source)
    _Planter(number).visit(tree)
    return ast.fix_missing_locations(tree)


def faults(source: str) -> list[Planted]:
    """All small faults that could be planted in a module."""
    planter = _Planter()
    planter.visit(ast.parse(source))
    return planter.found


class _Loader(importlib.abc.SourceLoader, importlib.abc.MetaPathFinder):
    """Has one module be as it was compiled here."""

    def __init__(self, name: str, path: str, code: CodeType) -> None:
        self._name, self._path, self._code = name, path, code

    def find_spec(self, name: str, path: object = None, target: object = None):  # type: ignore[no-untyped-def]
        return importlib.util.spec_from_loader(name, self, origin=self._path) if name == self._name else None

    def get_filename(self, name: str) -> str:
        return self._path

    def get_data(self, path: str | bytes) -> bytes:
        return Path(os.fsdecode(path)).read_bytes()

    def exec_module(self, module: ModuleType) -> None:
        exec(self._code, module.__dict__)


def _child(module: str, path: str, number: int, tests: Sequence[str], limit_s: float) -> None:
    """Run tests against a module with a fault; ends with 0 where they find nothing."""
    signal.alarm(max(1, round(limit_s)))
    sys.stdout = sys.stderr = io.StringIO()
    tree = planted(Path(path).read_text("utf-8"), number)
    sys.meta_path.insert(0, _Loader(module, path, compile(tree, path, "exec")))
    for name in tests:
        suite = unittest.defaultTestLoader.loadTestsFromName(_module_of(name))
        result = unittest.TestResult()
        result.failfast = True
        suite.run(result)
        if not result.wasSuccessful():
            os._exit(1)
    os._exit(0)


def _module_of(name: str) -> str:
    """The tests of a name: those of core, unless it says whose."""
    return f"tests.{name}" if name.startswith("session.") else f"tests.core.test_{name}"


def _ends_well(module: str, path: str, number: int, tests: Sequence[str], limit_s: float) -> bool:
    child = multiprocessing.get_context("fork").Process(target=_child, args=(module, path, number, tests, limit_s))
    child.start()
    child.join()
    return child.exitcode == 0


def _chosen(all_faults: Sequence[Planted], many: int, seed: int, struck: Sequence[str]) -> Iterator[int]:
    numbers = [n for n, fault in enumerate(all_faults) if fault.name not in struck]
    random.Random(seed).shuffle(numbers)
    yield from sorted(numbers[:many])


def room(name: str, many: int, seed: int) -> float:
    """Plant faults in a room and print those that are not found; gives how many of a hundred are."""
    module, tests = ROOMS[name]
    path = str(ROOT / "src" / (module.replace(".", "/") + ".py"))
    found = faults(Path(path).read_text("utf-8"))
    struck = json.loads(STRUCK.read_text("utf-8")).get(name, {})
    began = time.monotonic()
    if not _ends_well(module, path, -1, tests, 600):
        raise SystemExit(f"The tests of {name} fail as it is.")
    limit = 10 + 4 * (time.monotonic() - began)
    numbers = list(_chosen(found, many, seed, list(struck)))
    with ThreadPoolExecutor(os.cpu_count() or 1) as pool:
        lived = list(pool.map(lambda n: _ends_well(module, path, n, tests, limit), numbers))
    left = [found[n] for n, alive in zip(numbers, lived, strict=True) if alive]
    share = 100 * (len(numbers) - len(left)) / max(1, len(numbers))
    took = time.monotonic() - began
    of = f"{len(numbers)} of {len(found)} planted, {len(struck)} struck; {took:.0f} s"
    print(f"{name}: {share:.0f} of 100 found ({of})")
    for fault in left:
        print(f"  line {fault.line}, {fault.name}")
    sys.stdout.flush()
    return share


def main(words: Sequence[str]) -> int:
    """Run; gives 1 where a room's tests find too few."""
    parser = argparse.ArgumentParser(prog="./run mutate", description="Plants small faults; counts those found.")
    parser.add_argument("rooms", nargs="*", metavar="ROOM", help=f"of {', '.join(ROOMS)}")
    parser.add_argument("--many", type=int, default=100, help="so many faults in each")
    parser.add_argument("--seed", type=int, default=1)
    args = parser.parse_args(words)
    unknown = [name for name in args.rooms if name not in ROOMS]
    if unknown:
        parser.error(f"no room is called {', '.join(unknown)}; there are {', '.join(ROOMS)}")
    # What all of them need is imported once.
    for needed in ("numpy", "scipy.optimize", "scipy.signal", "msgspec"):
        importlib.import_module(needed)
    shares = [room(name, args.many, args.seed) for name in args.rooms or ROOMS]
    return 0 if all(share >= WANTED for share in shares) else 1


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
