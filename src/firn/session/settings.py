"""What the user has chosen for the whole program, kept as versioned JSON."""

import contextlib
import json
import os
from pathlib import Path
from typing import Literal, get_args

import platformdirs
from msgspec import Struct, ValidationError, convert, to_builtins
from msgspec.structs import replace

from firn.core.script.settings import Sides
from firn.core.steps.shelf import Words

VERSION = 1
RECENT = 8
MOST_DEVICES = 20
Hearing = Literal["silence", "the click", "the model"]
HEARINGS: tuple[Hearing, ...] = get_args(Hearing)
MOST_PASSES = 8


class Settings(Struct, frozen=True):
    """Program settings; every field has a default.

    `recent`: workbooks, newest first. `on_ms`: how near its time a sound counts as on. `dark`: the lamp-out
    look. `text_percent`: size of text. `cards`: the folder of the teacher's own cards, "" for the usual one.
    `latency_ms`: the delay of each sound device that was calibrated. `hearing`, `passes`: what is heard while a take
    is recorded, and how many times through. `words`, `sides`: what words mean in new pieces.
    """

    recent: tuple[str, ...] = ()
    on_ms: float = 25.0
    dark: bool = False
    text_percent: int = 100
    cards: str = ""
    latency_ms: tuple[tuple[str, float], ...] = ()
    hearing: Hearing = "silence"
    passes: int = 2
    words: Words = ()
    sides: Sides = "working foot"

    @property
    def cards_folder(self) -> Path:
        """Where the teacher's own cards are."""
        return Path(self.cards) if self.cards else Path(platformdirs.user_documents_dir()) / "Firn cards"

    def latency_of(self, device: str) -> float | None:
        """The delay of a device in ms, None if it has not been calibrated."""
        return dict(self.latency_ms).get(device)

    def with_latency(self, device: str, ms: float) -> "tuple[tuple[str, float], ...]":
        """The known delays with one more."""
        return tuple({**dict(self.latency_ms), device: round(ms, 1)}.items())[-MOST_DEVICES:]

    def opened(self, path: Path) -> "Settings":
        """The settings with a workbook as the newest of the recent ones."""
        name = str(path.absolute())
        return replace(self, recent=(name, *[r for r in self.recent if r != name])[:RECENT])


def settings_path() -> Path:
    """Where the settings are kept; FIRN_SETTINGS says another place."""
    named = os.environ.get("FIRN_SETTINGS")
    return Path(named) if named else Path(platformdirs.user_config_dir("firn")) / "settings.json"


def load_settings(path: Path) -> Settings:
    """The kept settings; the default for each that is missing or cannot be read."""
    try:
        kept = json.loads(path.read_text("utf-8"))["settings"]
    except (OSError, ValueError, KeyError, TypeError):
        return Settings()
    settings = Settings()
    if not isinstance(kept, dict):
        return settings
    if isinstance(kept.get("dark"), bool):
        settings = replace(settings, dark=kept["dark"])
    if isinstance(kept.get("text_percent"), int) and 80 <= kept["text_percent"] <= 200:
        settings = replace(settings, text_percent=kept["text_percent"])
    if isinstance(kept.get("on_ms"), int | float) and 5 <= kept["on_ms"] <= 200:
        settings = replace(settings, on_ms=float(kept["on_ms"]))
    if isinstance(kept.get("cards"), str):
        settings = replace(settings, cards=kept["cards"])
    if isinstance(kept.get("latency_ms"), list):
        rows = [r for r in kept["latency_ms"] if isinstance(r, list) and len(r) == 2]
        known = tuple((str(name), float(ms)) for name, ms in rows if isinstance(ms, int | float) and abs(ms) < 2_000)
        settings = replace(settings, latency_ms=known[-MOST_DEVICES:])
    if kept.get("hearing") in HEARINGS:
        settings = replace(settings, hearing=kept["hearing"])
    if isinstance(kept.get("passes"), int) and 1 <= kept["passes"] <= MOST_PASSES:
        settings = replace(settings, passes=kept["passes"])
    with contextlib.suppress(ValidationError):
        settings = replace(settings, words=convert(kept.get("words", []), Words))
    if kept.get("sides") in ("working foot", "standing foot"):
        settings = replace(settings, sides=kept["sides"])
    if isinstance(kept.get("recent"), list):
        settings = replace(settings, recent=tuple(r for r in kept["recent"] if isinstance(r, str))[:RECENT])
    return settings


def save_settings(path: Path, settings: Settings) -> None:
    """Keep the settings, whole or not at all; a place that cannot be written is left."""
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        draft = path.with_name(path.name + ".part")
        draft.write_text(json.dumps({"version": VERSION, "settings": to_builtins(settings)}, indent=1), "utf-8")
        os.replace(draft, path)
    except OSError:
        return
