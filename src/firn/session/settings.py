"""What the user has chosen for the whole program, kept as versioned JSON."""

import contextlib
import json
import os
import re
from pathlib import Path
from typing import Annotated, Any, Literal

from msgspec import Meta, Struct, ValidationError, convert, to_builtins
from msgspec.structs import fields, replace

from firn.core.pattern import late
from firn.core.reading.style import ACCENTS, Style
from firn.core.script.settings import Sides
from firn.core.steps.shelf import Words
from firn.errors import FileFormatError, FirnError, WriteError
from firn.files.whole import read_whole, write_text
from firn.session.view import PLAIN, View

VERSION = 2
RECENT = 8
MOST_DEVICES = 20
MOST_BYTES = 4_000_000
Hearing = Literal["silence", "click", "model"]
HEARINGS: dict[Hearing, str] = {"silence": "silence", "click": "the click", "model": "the model"}
"""What can be heard while a take is recorded, and how that is said."""

MOST_PASSES = 8

PaperSize = Literal["A4", "Letter", "A6"]
"""What is printed on; A6 goes into a pocket."""


class ProgramSettings(Struct, frozen=True):
    """Program settings; every field has a default.

    `recent`: workbooks, newest first. `on_ms`: how near its time a sound counts as on. `dark`: the lamp-out
    look. `text_percent`: size of text. `cards`: the folder of the teacher's own cards, "" for the usual one.
    `latency_ms`: the delay of each sound device that was calibrated. `hearing`, `passes`: what is heard while a take
    is recorded, and how many times through. `words`, `sides`, `handed`: what words mean in new pieces, and which hand
    leads.
    `folder`: where the last file was opened or written.
    `view`: what is shown and heard of the layers. `styles`: a teacher's own style sheets, by tradition. `made_by`,
    `licence`: lines on what is given out; `paper`: its size.
    """

    recent: tuple[str, ...] = ()
    on_ms: Annotated[float, Meta(ge=5, le=200)] = 25.0
    dark: bool = False
    text_percent: Annotated[int, Meta(ge=80, le=200)] = 100
    cards: str = ""
    latency_ms: tuple[tuple[str, Annotated[float, Meta(gt=-2_000, lt=2_000)]], ...] = ()
    hearing: Hearing = "silence"
    passes: Annotated[int, Meta(ge=1, le=MOST_PASSES)] = 2
    words: Words = ()
    sides: Sides = "working foot"
    handed: Literal["right", "left"] = "right"
    folder: str = ""
    view: View = PLAIN
    styles: dict[str, Style] = {}
    made_by: str = ""
    licence: str = ""
    paper: PaperSize = "A4"

    @property
    def cards_folder(self) -> Path:
        """Where the teacher's own cards are."""
        return Path(self.cards) if self.cards else documents_folder() / "Firn cards"

    def latency_of(self, device: str) -> float | None:
        """The delay of a device in ms, None if it has not been calibrated."""
        return dict(self.latency_ms).get(device)

    def with_latency(self, device: str, ms: float) -> "tuple[tuple[str, float], ...]":
        """The known delays with one more."""
        return tuple({**dict(self.latency_ms), device: round(ms, 1)}.items())[-MOST_DEVICES:]

    def opened(self, path: Path) -> "ProgramSettings":
        """The settings with a workbook as the newest of the recent ones."""
        name = str(path.absolute())
        return replace(self, recent=(name, *[r for r in self.recent if r != name])[:RECENT])


def settings_path() -> Path:
    """Where the settings are kept; FIRN_SETTINGS says another place."""
    named = os.environ.get("FIRN_SETTINGS")
    if named:
        return Path(named)
    return _config_folder() / "firn" / "settings.json"


def _config_folder() -> Path:
    # XDG Base Directory Specification: a path that is not absolute is left.
    base = Path(os.environ.get("XDG_CONFIG_HOME", ""))
    return base if base.is_absolute() else Path.home() / ".config"


_DOCUMENTS = late(r'^[ \t]*XDG_DOCUMENTS_DIR[ \t]*=[ \t]*"((?:[^"\\\n]|\\.)*)"', re.MULTILINE)
MOST_USER_DIRS = 100_000


def documents_folder() -> Path:
    """Where the user's documents are: as the environment says, or her user-dirs.dirs (xdg-user-dirs), or ~/Documents.

    Read here: the library that would do it takes as long to import as a workbook to open.
    """
    said = os.environ.get("XDG_DOCUMENTS_DIR", "")
    if not said:
        with contextlib.suppress(FirnError, UnicodeDecodeError):
            text = read_whole(_config_folder() / "user-dirs.dirs", "settings", MOST_USER_DIRS).decode()
            lines = _DOCUMENTS.findall(text)
            said = re.sub(r"\\(.)", r"\1", lines[-1]) if lines else ""
    home = str(Path.home())
    folder = Path(said.replace("$HOME", home, 1) if said.startswith("$HOME") else said)
    return folder if folder.is_absolute() else Path(home, "Documents")


def load_settings(path: Path) -> ProgramSettings:
    """The kept settings; the default for each that is missing or cannot be read."""
    try:
        data = json.loads(read_whole(path, "settings", MOST_BYTES))
        kept = data["settings"]
    except (FileFormatError, ValueError, KeyError, TypeError, RecursionError):
        return ProgramSettings()
    settings = ProgramSettings()
    if not isinstance(kept, dict):
        return settings
    if data.get("version") == 1:
        kept = _of_version_1(kept)
    for field in fields(ProgramSettings):
        if field.name in kept:
            # A ValueError of its own kind: text that is none.
            with contextlib.suppress(ValidationError, ValueError):
                settings = replace(settings, **{field.name: convert(kept[field.name], field.type)})
    return replace(settings, recent=settings.recent[:RECENT], latency_ms=settings.latency_ms[-MOST_DEVICES:])


def _of_version_1(kept: dict[str, Any]) -> dict[str, Any]:
    """Settings that were kept in English, with codes in its place."""
    hearings = {said: code for code, said in HEARINGS.items()}
    accents = {said: code for code, said in ACCENTS.items()}
    new = dict(kept)
    if isinstance(kept.get("hearing"), str):
        new["hearing"] = hearings.get(kept["hearing"], kept["hearing"])
    if isinstance(kept.get("styles"), dict):
        new["styles"] = {name: _sheet(sheet, accents) for name, sheet in kept["styles"].items()}
    return new


def _sheet(sheet: Any, accents: dict[str, Any]) -> Any:
    if not isinstance(sheet, dict):
        return sheet
    new = dict(sheet)
    if isinstance(sheet.get("off"), list):
        new["off"] = [code.replace(" ", "_") if isinstance(code, str) else code for code in sheet["off"]]
    if isinstance(sheet.get("accents"), str):
        new["accents"] = accents.get(sheet["accents"], sheet["accents"])
    return new


def save_settings(path: Path, settings: ProgramSettings) -> None:
    """Keep the settings, whole or not at all; a place that cannot be written is left."""
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        write_text(path, json.dumps({"version": VERSION, "settings": to_builtins(settings)}, indent=1), private=True)
    except (OSError, WriteError):
        return
