"""The command line in a folder of its own, with the text of a piece and takes of it."""

import contextlib
import io
import unittest
import unittest.mock

import numpy as np
import soundfile

from firn.cli import main
from firn.core.ear.student import Faults, dance
from firn.session.settings import ProgramSettings, save_settings
from tests.core.test_script import GATE_LATCH
from tests.support import FolderCase, part


class CliCase(FolderCase):
    def setUp(self) -> None:
        super().setUp()
        own = {"FIRN_SETTINGS": str(self.folder / "settings.json")}
        save_settings(self.folder / "settings.json", ProgramSettings(cards=str(self.folder / "cards")))
        self.enterContext(unittest.mock.patch.dict("os.environ", own))
        self.steps = self.folder / "gate.steps"
        self.steps.write_text(GATE_LATCH, "utf-8")

    def run_firn(self, *words: object) -> tuple[int, str, str]:
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            try:
                status = main([str(w) for w in words])
            except SystemExit as end:
                status = int(end.code or 0)
        return status, out.getvalue(), err.getvalue()

    def write(self, text: str) -> object:
        self.steps.write_text(text, "utf-8")
        return self.steps

    def take(self, faults: Faults, *, tempo: float = 132, passes: int = 2, body: str = "") -> object:
        body = body or GATE_LATCH.split("part A\n")[1].split("part Break")[0]
        one = part(body, feel="swing")
        path = self.folder / "take.wav"
        danced = dance(one, tempo, faults, np.random.default_rng(3), passes=passes)
        soundfile.write(path, danced.audio, 48_000)
        return path
