"""A workbook as a folder that any program looks into, and back: pieces as texts, takes as FLAC, the rest as JSON."""

import json
import re
from pathlib import Path
from typing import Any

from msgspec import ValidationError, convert, to_builtins
from msgspec.structs import replace

from firn.core.book.book import Book, BookPart, BookPiece, piece_of_script
from firn.errors import FileFormatError, FirnError, StoreError
from firn.files.steps_file import read_steps
from firn.files.store import Store, open_store
from firn.files.whole import is_there, read_text, read_whole, write_bytes, write_text
from firn.session.fresh import new_id
from firn.session.session import Session

LIST, PIECES, TAKES = "workbook.json", "pieces", "takes"
VERSION = 1
MOST_BYTES, MOST_TAKE = 50_000_000, 300_000_000


def write_folder(workbook: Path, folder: Path) -> list[str]:
    """Write a workbook into a new or empty folder; gives a sentence for each recording that is not there any more.
    Raises FirnError with one sentence; a folder that holds anything is left as it is."""
    if is_there(folder) and (not folder.is_dir() or any(folder.iterdir())):
        raise FirnError(f"{folder.name} is there already: a workbook is written into a new folder.")
    store = open_store(workbook)
    try:
        return _write(store, store.load(), folder)
    finally:
        store.close()


def _write(store: Store, book: Book, folder: Path) -> list[str]:
    (folder / PIECES).mkdir(parents=True)
    (folder / TAKES).mkdir()
    told = []
    listed: list[dict[str, Any]] = []
    for number, piece in enumerate(book.pieces, 1):
        file = f"{PIECES}/{number:03} {_name(piece.name)}.steps"
        write_text(folder / file, piece.script)
        parts = [{"id": p.id, "name": p.name, "text": p.text} for p in piece.parts]
        # The text is what a reader wants; head and blanks as they were are kept beside it.
        listed.append({"id": piece.id, "file": file, "head": piece.head, "combo": piece.combo, "parts": parts})
    names = _recordings(book)
    for audio in book.recordings:
        try:
            write_bytes(folder / TAKES / f"{audio}.flac", store.samples(audio))
        except StoreError as fault:
            told.append(f"{names[audio]}: {fault}")
    data = {"firn": "workbook", "version": VERSION, "pieces": listed, **_rest(book)}
    write_text(folder / LIST, json.dumps(data, indent=1, ensure_ascii=False) + "\n")
    return told


def _recordings(book: Book) -> dict[str, str]:
    """What each recording is called, by the hash of its samples."""
    return {
        **{c.audio: "A part's name in your own voice" for c in book.calls},
        **{t.audio: t.name for t in book.takes},
    }


def _rest(book: Book) -> dict[str, Any]:
    whole = to_builtins(book)
    return {key: value for key, value in whole.items() if key != "pieces"}


def _name(name: str) -> str:
    return re.sub(r"[^\w \-]", "-", name).strip()[:60] or "piece"


def read_folder(folder: Path, workbook: Path) -> list[str]:
    """Make a workbook of a folder that was one; gives what there is to say. A text of a piece that was changed since
    is read as it is now. Raises FirnError with one sentence; a workbook that is there is left as it is."""
    if is_there(workbook):
        raise FirnError(f"{workbook.name} is there already, and is left as it is.")
    try:
        data = json.loads(read_text(folder / LIST, "a list of a workbook", MOST_BYTES))
        if data["firn"] != "workbook" or data["version"] != VERSION:
            raise KeyError("version")
        rest = {key: value for key, value in data.items() if key not in ("firn", "version", "pieces")}
        book = convert({**rest, "pieces": []}, Book)
        pieces = tuple(_piece(folder, one) for one in data["pieces"])
    except (ValueError, TypeError, KeyError, ValidationError, RecursionError, AttributeError) as fault:
        raise FileFormatError(f"{folder.name} is no folder that a workbook was written into.") from fault
    told = []
    session = Session.new(workbook, replace(book, pieces=pieces))
    try:
        for audio, said in _recordings(book).items():
            try:
                # A name that leads elsewhere is none: a hash is letters and figures.
                name = "".join(c for c in audio if c.isalnum())
                session.store.add_samples(name, read_whole(folder / TAKES / f"{name}.flac", "a take", MOST_TAKE))
            except FirnError as fault:
                told.append(f"{said}: {fault}")
    finally:
        session.close()
    return told


def _piece(folder: Path, one: dict[str, Any]) -> BookPiece:
    parts = tuple(BookPart(str(p["id"]), str(p["name"]), str(p["text"])) for p in one["parts"])
    kept = BookPiece(str(one["id"]), str(one["head"]), parts, str(one["combo"]))
    file = str(one["file"])
    if ".." in Path(file).parts or Path(file).is_absolute():
        raise ValueError(file)
    text = read_steps(folder / file)
    if text.strip() == kept.script.strip():
        return kept
    # Changed outside: parts keep their identity by their names.
    new = piece_of_script(text, [new_id() for _ in range(text.count("\n") + 3)])
    ids = {p.name: p.id for p in parts}
    return replace(new, id=kept.id, parts=tuple(replace(p, id=ids.get(p.name, p.id)) for p in new.parts))
