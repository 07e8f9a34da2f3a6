"""What `./run install` puts into a user's folders: judged by the desktop's own validators, and taken away again."""

import argparse
import os
import re
import shutil
import subprocess
import sys
import unittest
import zipfile
from pathlib import Path

from tools.install import ID, install, places, remove

from firn.commands import _parser
from tests.support import FolderCase

ROOT = Path(__file__).parents[1]


def need(program: str):
    """Skip where a validator is not there: .ci/run installs them."""
    return unittest.skipUnless(shutil.which(program), f"{program} is not installed")


class InstalledTest(FolderCase):
    def setUp(self) -> None:
        super().setUp()
        self.env = {"HOME": str(self.folder / "höme with $pace"), "PATH": os.environ["PATH"]}
        self.at = places(self.env)

    def test_put_there_started_and_taken_away(self) -> None:
        install(self.env)
        done = subprocess.run([self.at["launcher"], "--version"], capture_output=True, text=True, env=self.env)
        self.assertEqual((done.returncode, done.stdout.split()[0]), (0, "firn"), done.stderr)
        self.assertEqual(sorted(remove(self.env)), sorted(self.at.values()))
        left = [p for p in Path(self.env["HOME"]).rglob("*") if p.is_file() and ("firn" in p.name.casefold())]
        self.assertEqual(left, [])

    def test_in_a_data_folder_of_the_users_choice(self) -> None:
        self.env["XDG_DATA_HOME"] = str(self.folder / "data")
        self.assertEqual(places(self.env)["entry"], self.folder / f"data/applications/{ID}.desktop")

    @need("desktop-file-validate")
    def test_the_entry_is_valid(self) -> None:
        install(self.env)
        for path in (self.at["entry"], ROOT / f"share/{ID}.desktop"):
            done = subprocess.run(["desktop-file-validate", path], capture_output=True, text=True)
            self.assertEqual((done.returncode, done.stdout + done.stderr), (0, ""))

    def test_the_entry_starts_the_launcher_by_a_quoted_path(self) -> None:
        """Desktop Entry Specification, "The Exec key": unescape the value, then split in quotes."""
        install(self.env)
        value = re.search(r"^Exec=(.*) %f$", self.at["entry"].read_text("utf-8"), re.M)
        assert value is not None
        string = value[1].replace("\\\\", "\\").replace("%%", "%")
        self.assertEqual(re.sub(r'\\(["`$\\])', r"\1", string.strip('"')), str(self.at["launcher"]))

    @need("appstreamcli")
    def test_what_is_said_about_it_is_valid(self) -> None:
        path = ROOT / f"share/{ID}.metainfo.xml"
        done = subprocess.run(["appstreamcli", "validate", "--no-net", path], capture_output=True, text=True)
        self.assertEqual(done.returncode, 0, done.stdout)

    @need("update-mime-database")
    def test_files_are_known_by_their_names(self) -> None:
        install(self.env)
        mime = self.at["types"].parents[1]
        env = {**self.env, "XDG_DATA_HOME": str(mime.parent)}
        done = subprocess.run(["update-mime-database", mime], capture_output=True, text=True, env=env)
        self.assertEqual((done.returncode, done.stderr), (0, ""))
        globs = (mime / "globs2").read_text()
        self.assertIn("application/x-firn-workbook:*.firn", globs)
        self.assertIn("text/x-firn-steps:*.steps", globs)

    @need("mandoc")
    def test_the_manual_page_is_well_formed(self) -> None:
        done = subprocess.run(
            ["mandoc", "-T", "lint", "-W", "warning", ROOT / "share/firn.1"], capture_output=True, text=True
        )
        self.assertEqual((done.returncode, done.stdout), (0, ""))

    def test_the_manual_page_has_every_command_and_option(self) -> None:
        page = (ROOT / "share/firn.1").read_text().replace("\\-", "-")
        commands = next(a for a in _parser()._actions if isinstance(a, argparse._SubParsersAction))
        words = [o for a in _parser()._actions for o in a.option_strings]
        for name, parser in commands.choices.items():
            words += [name, *(o for a in parser._actions for o in a.option_strings)]
        for word in dict.fromkeys(words):
            self.assertRegex(page, re.escape(word) + r"\b")

    def test_the_entry_and_the_types_name_the_same_kinds(self) -> None:
        kinds = re.search(r"^MimeType=(.*)$", (ROOT / f"share/{ID}.desktop").read_text(), re.M)
        assert kinds is not None
        for kind in filter(None, kinds[1].split(";")):
            for name in (f"{ID}.xml", f"{ID}.metainfo.xml"):
                self.assertIn(kind, (ROOT / "share" / name).read_text())


class WheelTest(FolderCase):
    def test_holds_all_that_it_needs_and_says_what_it_is(self) -> None:
        words = ["-m", "pip", "wheel", "-q", "--no-deps", "--no-build-isolation", "--disable-pip-version-check"]
        shutil.copytree(
            ROOT / "src", self.folder / "clone/src", ignore=shutil.ignore_patterns("*.egg-info", "__pycache__")
        )
        for name in ("pyproject.toml", "README.md", "LICENSE"):
            shutil.copy(ROOT / name, self.folder / "clone" / name)
        made = subprocess.run(
            [sys.executable, *words, "-w", str(self.folder), str(self.folder / "clone")],
            capture_output=True,
            text=True,
        )
        self.assertEqual(made.returncode, 0, made.stderr)
        (wheel,) = self.folder.glob("*.whl")
        with zipfile.ZipFile(wheel) as file:
            names = set(file.namelist())
            about = file.read(next(n for n in names if n.endswith("/METADATA"))).decode()
        for path in (ROOT / "src/firn").rglob("*"):
            if path.is_file() and "__pycache__" not in path.parts and path.suffix != ".pyc":
                self.assertIn(str(path.relative_to(ROOT / "src")), names)
        for field in ("Name", "Version", "Summary", "Author", "License-Expression", "Keywords", "Requires-Python",
                      "Description-Content-Type", "License-File", "Classifier"):  # fmt: skip
            self.assertRegex(about, rf"(?m)^{field}: .+")


if __name__ == "__main__":
    unittest.main()
