"""Packs the shipped cards into one file that is read at the start; run it after every change to a card."""

import tomllib
from pathlib import Path

import msgspec

from firn.core.steps.card import card_from
from firn.core.steps.shelf import PACKED, names_of


def packed(folder: Path = PACKED.parent) -> str:
    """The cards of all card files of a folder, one a line, and their names."""
    tables = [t for f in sorted(folder.glob("*.toml")) for t in tomllib.loads(f.read_text("utf-8"))["card"]]
    cards = [card_from(table) for table in tables]
    lines = ",\n".join(_json(card) for card in cards)
    return f'{{"cards": [\n{lines}\n],\n"names": {_json(names_of(cards))}}}\n'


def _json(value: object) -> str:
    return msgspec.json.encode(value).decode("utf-8")


if __name__ == "__main__":
    PACKED.write_text(packed(), "utf-8")
