"""Packs the shipped cards into one file that is read at the start; run it after every change to a card."""

import json
import tomllib
from pathlib import Path

from firn.core.steps.shelf import PACKED


def packed(folder: Path = PACKED.parent) -> str:
    """The tables of all card files of a folder, one card a line."""
    tables = [t for f in sorted(folder.glob("*.toml")) for t in tomllib.loads(f.read_text("utf-8"))["card"]]
    return "[\n" + ",\n".join(json.dumps(t, ensure_ascii=False) for t in tables) + "\n]\n"


if __name__ == "__main__":
    PACKED.write_text(packed(), "utf-8")
