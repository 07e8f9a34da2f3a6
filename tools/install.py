"""Puts Firn into the user's own folders, or takes it away: launcher, menu entry, icons, file types, manual page.

    ./run install | ./run uninstall

Only the standard library; nothing outside the user's data folder and ~/.local/bin is touched.
"""

import os
import shutil
import subprocess
import sys
from collections.abc import Mapping
from pathlib import Path

ROOT = Path(__file__).parents[1]
ID = "app.firn.Firn"


def places(env: Mapping[str, str]) -> dict[str, Path]:
    """Where each file goes, by what it is."""
    home = Path(env["HOME"])
    data = Path(env.get("XDG_DATA_HOME") or home / ".local/share")
    return {
        "launcher": home / ".local/bin/firn",
        "entry": data / f"applications/{ID}.desktop",
        "icon": data / f"icons/hicolor/scalable/apps/{ID}.svg",
        "types": data / f"mime/packages/{ID}.xml",
        "about": data / f"metainfo/{ID}.metainfo.xml",
        "manual": data / "man/man1/firn.1",
    }


def launcher() -> str:
    """The program that the menu starts."""
    said = str(ROOT).replace("'", "'\\''")
    lines = (
        "#!/bin/sh",
        "# Firn, as ./run install of its clone has put it here.",
        "export PYTHONUTF8=1",
        f"exec '{said}/.venv/bin/python' -m firn \"$@\"",
    )
    return "\n".join(lines) + "\n"


def entry(program: Path) -> str:
    """The menu entry, which starts the launcher by its whole path: ~/.local/bin need not be searched for programs."""
    said = str(program).replace("\\", "\\\\").replace('"', '\\"').replace("`", "\\`").replace("$", "\\$")
    # A value's own backslashes are read once more than those in quotes (Desktop Entry Specification, Exec).
    quoted = f'"{said}"'.replace("\\", "\\\\").replace("%", "%%")
    return (ROOT / f"share/{ID}.desktop").read_text("utf-8").replace("Exec=firn %f", f"Exec={quoted} %f")


def install(env: Mapping[str, str]) -> list[Path]:
    """Put every file in its place; gives them."""
    at = places(env)
    texts = {
        "launcher": launcher(),
        "entry": entry(at["launcher"]),
        "icon": (ROOT / "src/firn/ui/resources/icon.svg").read_text("utf-8"),
        "types": (ROOT / f"share/{ID}.xml").read_text("utf-8"),
        "about": (ROOT / f"share/{ID}.metainfo.xml").read_text("utf-8"),
        "manual": (ROOT / "share/firn.1").read_text("utf-8"),
    }
    for what, path in at.items():
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(texts[what], "utf-8")
        path.chmod(0o755 if what == "launcher" else 0o644)
    refresh(env)
    return list(at.values())


def remove(env: Mapping[str, str]) -> list[Path]:
    """Take every file away; gives those that were there."""
    gone = [path for path in places(env).values() if path.exists()]
    for path in gone:
        path.unlink()
    refresh(env)
    return gone


def refresh(env: Mapping[str, str]) -> None:
    """Have the desktop look again, where it has the programs for that."""
    at = places(env)
    data = at["entry"].parents[1]
    for words in (
        ("update-mime-database", str(data / "mime")),
        ("update-desktop-database", str(data / "applications")),
        ("gtk-update-icon-cache", "-q", "-t", "-f", str(data / "icons/hicolor")),
    ):
        if shutil.which(words[0]) and Path(words[-1]).is_dir():
            subprocess.run(words, check=False, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)


def main(words: list[str]) -> int:
    """Install, or remove; gives the exit status."""
    try:
        if words == ["--remove"]:
            gone = remove(os.environ)
            print(f"Firn is taken out of the menu: {len(gone)} files. Your workbooks and settings stay.")
        else:
            made = install(os.environ)
            print(f"Firn is in the menu, and opens .firn and .steps files; its launcher is {made[0]}.")
    except OSError as fault:
        print(f"{fault.filename}: {fault.strerror}", file=sys.stderr)
        return 1
    return 0


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1:]))
