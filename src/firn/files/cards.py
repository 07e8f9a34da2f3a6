"""A teacher's own cards: TOML files in a folder of hers, read file by file; a broken one spoils no other."""

import itertools
import re
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from msgspec import Struct

from firn.core.meter.counting import Counting
from firn.core.script.places import usual_places
from firn.core.steps.card import Card, CardError, card_from
from firn.core.steps.names import fold
from firn.core.steps.shelf import TRADITIONS, Shelf, shipped
from firn.errors import FileFormatError
from firn.files.whole import called, is_there, read_text, write_text

MOST_BYTES = 1_000_000
MOST_FILES = 500

EXAMPLE = """# A step of your own. Firn reads every .toml file in this folder before its own cards.

[[card]]
name = "gate swing"
aliases = ["gs"]
traditions = ["tap"]
# Each sound, and on which foot: A the foot that is free when the step begins, B the other, W the one that carries.
sounds = ["brush A", "hop W", "step A"]
# On which counts it is usually danced.
usual = ["&1 2"]
sentence = "The free foot swings forward over a hop, then takes the weight."
remedies = ["Let the swing lift the hop."]
"""


class OwnCards(Struct, frozen=True):
    """What a folder holds: its cards, and a sentence for each file or card that could not be taken."""

    cards: tuple[Card, ...] = ()
    faults: tuple[str, ...] = ()

    @property
    def shelf(self) -> Shelf:
        """These cards before the shipped ones."""
        return Shelf.of(shipped().cards, own=self.cards) if self.cards else shipped()


def read_cards(folder: Path) -> OwnCards:
    """The cards of a folder, its files in the order of their names; a folder that is not there holds none."""
    if not is_there(folder):
        return OwnCards()
    try:
        files = sorted(f for f in folder.iterdir() if f.suffix.casefold() == ".toml")
    except OSError as fault:
        return OwnCards(faults=(f"The cards in {folder.name} cannot be read: {fault.strerror}.",))
    cards: list[Card] = []
    faults: list[str] = []
    taken: dict[str, str] = {}
    if len(files) > MOST_FILES:
        faults.append(f"{folder.name} holds more than {MOST_FILES} files of cards; the others are left.")
    for file in files[:MOST_FILES]:
        try:
            tables = _tables(file)
        except FileFormatError as fault:
            faults.append(str(fault))
            continue
        for table in tables:
            try:
                card = _checked(table)
            except CardError as fault:
                faults.append(f"{file.name}: {fault}.")
                continue
            names = list(dict.fromkeys(fold(n) for n in (card.name, *card.aliases)))
            doubled = next((n for n in names if n in taken), None)
            if doubled is not None:
                faults.append(f'{file.name}: "{doubled}" names a card in {taken[doubled]} already; that one is used.')
                continue
            taken |= dict.fromkeys(names, file.name)
            cards.append(card)
    return OwnCards(tuple(cards), tuple(faults))


def _tables(file: Path) -> list[object]:
    """The card tables of a file; raises FileFormatError with one sentence, the line in it."""
    import tomllib

    text = _text_of(file)
    try:
        data = tomllib.loads(text)
    except (RecursionError, ValueError) as fault:
        # A date or a number may be none, too: that is a ValueError of its own.
        why = f" is broken: {fault}" if isinstance(fault, ValueError) else " is no file of cards"
        raise FileFormatError(f"{called(file)}{why}.") from fault
    tables = data.get("card")
    if not isinstance(tables, list):
        raise FileFormatError(f"{file.name} holds no [[card]].")
    return tables


def _text_of(file: Path) -> str:
    return read_text(file, "a file of cards", MOST_BYTES)


def _checked(table: object) -> Card:
    """A card that can be danced; raises CardError."""
    if not isinstance(table, dict):
        raise CardError("a card must begin with [[card]]")
    card = card_from(table)
    for tradition in card.traditions:
        if tradition not in TRADITIONS:
            raise CardError(f'card "{card.name}": no tradition is called "{tradition}"')
    for tradition in card.usual:
        try:
            usual_places(card, Counting(), tradition)
        except ValueError as fault:
            raise CardError(str(fault)) from fault
    return card


def write_example(folder: Path) -> Path:
    """Make the folder, with an example in it unless it holds cards already; raises FileFormatError."""
    path = folder / "example.toml"
    try:
        folder.mkdir(parents=True, exist_ok=True)
        if not any(f.suffix == ".toml" for f in folder.iterdir()):
            write_text(path, EXAMPLE)
    except OSError as fault:
        raise FileFormatError(f"{folder} cannot be made: {fault.strerror}.") from fault
    return path


def save_card(folder: Path, table: dict[str, Any], was: str = "") -> Path:
    """Keep a card in a folder of cards: in place of the one named `was` in its own file, else in a file of its own.

    What else stands in that file, notes included, stays. Raises FileFormatError with one sentence.
    """
    import tomlkit
    from tomlkit.exceptions import TOMLKitError

    try:
        card = _checked(table)
    except CardError as fault:
        raise FileFormatError(f"{str(fault)[:1].upper()}{str(fault)[1:]}.") from fault
    if fold(card.name) != fold(was) and (other := _file_of(folder, card.name)) is not None:
        raise FileFormatError(f'A step of yours is called "{card.name}" already, in {other.name}.')
    path = _file_of(folder, was) or folder / f"{_file_name(card.name)}.toml"
    try:
        folder.mkdir(parents=True, exist_ok=True)
        document = tomlkit.parse(_text_of(path)) if is_there(path) else tomlkit.document()
        kept = document.setdefault("card", tomlkit.aot())
        place = next((c for c in kept if fold(str(c.get("name", ""))) == fold(was or card.name)), None)
        if place is None:
            place = tomlkit.table()
            kept.append(place)
        for key in [k for k in place if k not in table]:
            del place[key]
        for key, value in table.items():
            if place.get(key) != value:
                place[key] = value
        write_text(path, tomlkit.dumps(document))
    except TOMLKitError as fault:
        raise FileFormatError(f"{path.name} is broken: {fault}.") from fault
    except OSError as fault:
        raise FileFormatError(f"{path} cannot be written: {fault.strerror}.") from fault
    return path


def _file_of(folder: Path, name: str) -> Path | None:
    """The file of a folder that holds the card of a name."""
    for file in sorted(folder.glob("*.toml")) if name and is_there(folder) else ():
        try:
            tables = _tables(file)
        except FileFormatError:
            continue
        if any(isinstance(t, dict) and fold(str(t.get("name", ""))) == fold(name) for t in tables):
            return file
    return None


def _file_name(name: str) -> str:
    """A card's name as that of a file."""
    return re.sub(r"[^\w]+", "-", fold(name)).strip("-") or "step"


def write_cards(path: Path, tables: Sequence[dict[str, Any]]) -> None:
    """Write cards into one file, for others to bring in; raises WriteError."""
    import tomlkit

    write_text(path, tomlkit.dumps({"card": list(tables)}))


def bring_in_cards(folder: Path, file: Path) -> int:
    """Copy a file of cards into a folder once all of it can be danced; gives how many it holds.

    Raises FileFormatError with its first fault; then nothing is brought in.
    """
    many = 0
    for table in _tables(file):
        try:
            _checked(table)
        except CardError as fault:
            raise FileFormatError(f"{file.name}: {fault}.") from fault
        many += 1
    free = (folder / f"{file.stem}{'' if not n else f'-{n + 1}'}.toml" for n in itertools.count())
    try:
        folder.mkdir(parents=True, exist_ok=True)
        write_text(next(p for p in free if not is_there(p)), _text_of(file))
    except OSError as fault:
        raise FileFormatError(f"{folder} cannot be written: {fault.strerror}.") from fault
    return many
