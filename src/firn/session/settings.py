"""What the user has chosen for the whole program, kept as versioned JSON."""

import json
import os
from dataclasses import asdict, dataclass, fields, replace
from pathlib import Path

import platformdirs
from pydantic import TypeAdapter, ValidationError

VERSION = 1
RECENT = 8


@dataclass(frozen=True, slots=True)
class Settings:
    """Program settings; every field has a default.

    `recent`: workbooks, newest first. `on_ms`: how near its time a sound counts as on. `dark`: the lamp-out
    look. `text_percent`: size of text.
    """

    recent: tuple[str, ...] = ()
    on_ms: float = 25.0
    dark: bool = False
    text_percent: int = 100

    def opened(self, path: Path) -> "Settings":
        """The settings with a workbook as the newest of the recent ones."""
        name = str(path.absolute())
        return replace(self, recent=(name, *[r for r in self.recent if r != name])[:RECENT])


def settings_path() -> Path:
    """Where the settings are kept; FIRN_SETTINGS says another place."""
    named = os.environ.get("FIRN_SETTINGS")
    return Path(named) if named else Path(platformdirs.user_config_dir("firn")) / "settings.json"


def load_settings(path: Path) -> Settings:
    """The kept settings; the defaults where there are none that can be read."""
    try:
        data = json.loads(path.read_text("utf-8"))
        known = {f.name for f in fields(Settings)}
        return TypeAdapter(Settings).validate_python({k: v for k, v in data["settings"].items() if k in known})
    except (OSError, ValueError, KeyError, TypeError, AttributeError, ValidationError):
        return Settings()


def save_settings(path: Path, settings: Settings) -> None:
    """Keep the settings, whole or not at all; a place that cannot be written is left."""
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        draft = path.with_name(path.name + ".part")
        draft.write_text(json.dumps({"version": VERSION, "settings": asdict(settings)}, indent=1), "utf-8")
        os.replace(draft, path)
    except OSError:
        return
