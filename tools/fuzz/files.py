"""Files of every kind that Firn reads, damaged: cut off, struck, spliced, and with absurd values in a sound frame."""

import io
import json
import random
import sqlite3
import struct
import tempfile
from collections.abc import Callable
from contextlib import suppress
from functools import partial
from pathlib import Path

import numpy as np
import soundfile
from tests import films

from firn.core.book.book import Book, BookPart, piece_of_script
from firn.core.book.edits import AddPart, GoTo
from firn.core.steps.shelf import shipped
from firn.errors import FirnError
from firn.files.audio import onsets_of_file, read_take, take_info
from firn.files.cards import EXAMPLE, bring_in_cards, read_cards
from firn.files.pictures import MediaPictures
from firn.files.steps_file import read_steps
from firn.files.tunes import read_tune
from firn.session.bringing import Bringer
from firn.session.converting import written
from firn.session.demo import demo_script
from firn.session.scores import piece_of_score
from firn.session.session import Session
from firn.session.settings import load_settings

RATE = 8_000
DATA = Path(__file__).parents[2] / "tests/data"


def seeds() -> dict[str, bytes]:
    """One sound file of each kind, by its ending."""
    rng = np.random.default_rng(1)
    sound = np.concatenate([rng.normal(0, 0.3, 200), np.zeros(600)]).astype(np.float32)
    sound = np.tile(sound, 12)
    made = {}
    kinds = (
        ("wav", "WAV", "PCM_16"),
        ("float.wav", "WAV", "FLOAT"),
        ("flac", "FLAC", "PCM_16"),
        ("ogg", "OGG", "VORBIS"),
    )
    for name, kind, depth in kinds:
        for channels in (1, 2):
            stream = io.BytesIO()
            soundfile.write(stream, np.repeat(sound[:, None], channels, axis=1), RATE, format=kind, subtype=depth)
            made[f"{channels}.{name}"] = stream.getvalue()
    for name, codec in (("m4a", "aac"), ("webm", "libopus"), ("mov", "pcm_s16le"), ("mkv", "aac")):
        made[f"phone.{name}"] = filmed(name, codec)
    for name, codec in (("mp4", "libx264"), ("webm", "libvpx-vp9")):
        made[f"film.{name}"] = filmed(name, "aac" if name == "mp4" else "libopus", codec)
    for ending in (".mid", ".musicxml", ".abc"):
        made[f"score{ending}"] = written(demo_script(), ending, shipped()).data
    made["did.json"] = json.dumps(DID).encode()
    for version in (1, 2, 3):
        made[f"{version}.firn"] = (DATA / f"workbook-v{version}.sqlite").read_bytes()
    made["a.steps"] = demo_script().encode()
    made["a.toml"] = EXAMPLE.encode()
    made["a.json"] = json.dumps(
        {
            "version": 1,
            "settings": {
                "recent": ["/a.firn"],
                "on_ms": 30,
                "dark": True,
                "styles": {},
                "view": {},
                "latency_ms": [["a", 3.5]],
                "words": [["stamp", "stomp"]],
                "passes": 2,
            },
        }
    ).encode()
    return made


DID = {
    "firn": "did", "version": 1, "pack": "p", "student": "", "made": "", "piece": "Gate Latch",
    "answers": [{"kind": "how_many", "right": True, "when": "2026-11-24T18:00:00Z"}],
    "ticks": [{"when": "2026-11-24T18:01:00Z", "how": "clean", "part": "a", "name": "A", "hash": "00", "tempo": 96.0,
               "sides": "both sides", "day": "2026-11-24"}],
}  # fmt: skip


def filmed(ending: str, codec: str, pictures: str = "") -> bytes:
    """A recording as phones make them, or a film, by PyAV, which reads from and writes to files only."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / f"a.{ending}"
        seen = [films.numbered(n) for n in range(12)] if pictures else None
        more = {"pictures": seen, "picture_codec": pictures} if pictures else {}
        films.write(path, films.strikes([0.2, 0.5], 0.8), codec=codec, **more)
        return path.read_bytes()


def damaged(rng: random.Random, data: bytes) -> bytes:
    """A file with some damage of the kinds that disks, networks and people do."""
    made = bytearray(data)
    for _ in range(rng.choice((1, 1, 2, 5))):
        at = rng.randrange(len(made) + 1) if rng.random() < 0.6 else rng.randrange(min(len(made), 120) + 1)
        way = rng.randrange(8)
        if way == 0:
            del made[at:]
        elif way == 1 and made:
            for _ in range(rng.choice((1, 4, 40))):
                made[rng.randrange(len(made))] ^= 1 << rng.randrange(8)
        elif way == 2:
            made[at : at + rng.choice((1, 16, 512, 4096))] = bytes(rng.choice((0, 1, 16, 512)))
        elif way == 3:
            made[at:at] = rng.randbytes(rng.choice((1, 7, 300)))
        elif way == 4:
            other = rng.randrange(len(made) + 1)
            size = rng.choice((4, 64, 2048))
            made[at : at + size] = made[other : other + size]
        elif way == 5:
            made[at : at + 4] = struct.pack("<I", rng.choice((0, 1, 0x7FFFFFFF, 0xFFFFFFFF, 0x80000000)))
        elif way == 6:
            made[at : at + 4096] = b"\0" * len(made[at : at + 4096])
        else:
            made += made[: rng.choice((10, 1000))]
    return bytes(made)


ABSURD = (
    "null",
    "-1",
    "1e999",
    "NaN",
    '""',
    "[]",
    "{}",
    "true",
    "[" * 3_000,
    '"' + "x" * 100_000 + '"',
    "99999999999999999999",
    '"\\ud800"',
    '[["a", 1]]',
    '"1/0"',
    "[[[[]]]]",
    "-0.0",
)


def absurd_json(rng: random.Random, said: str) -> str:
    """A JSON text with some of its values absurd."""
    try:
        value = json.loads(said)
    except (ValueError, RecursionError):
        return rng.choice(ABSURD)
    marks: dict[str, str] = {}

    def change(one: object) -> object:
        if rng.random() < 0.15:
            mark = f"@{len(marks)}@"
            marks[f'"{mark}"'] = rng.choice(ABSURD)
            return mark
        if isinstance(one, dict):
            return {k: change(v) for k, v in one.items()}
        return [change(v) for v in one] if isinstance(one, list) else one

    made = json.dumps(change(value))
    for mark, put in marks.items():
        made = made.replace(mark, put)
    return made


def absurd_workbook(rng: random.Random, path: Path) -> None:
    """A workbook whose rows hold what Firn would never write, or whose tables are not what they should be."""
    db = sqlite3.connect(path, isolation_level=None)
    try:
        for _ in range(rng.choice((1, 1, 3))):
            tables = [row[0] for row in db.execute("SELECT name FROM sqlite_master WHERE type = 'table'")]
            if not tables:
                break
            table = rng.choice(tables)
            columns = [row[1] for row in db.execute(f"PRAGMA table_info('{table}')")]
            column = rng.choice(columns)
            way = rng.randrange(7)
            if way == 0:
                db.execute(f"ALTER TABLE {table} DROP COLUMN {column}")
            elif way == 1:
                db.execute(f"DROP TABLE {table}")
            elif way == 2:
                db.execute(f"DELETE FROM {table}")
            elif way == 3:
                put = rng.choice(
                    (None, -1, 1 << 62, 1e300, b"\xff\xfe", "", "x" * 100_000, "\x00", rng.choice(ABSURD))
                )
                db.execute(f"UPDATE OR IGNORE {table} SET {column} = ?", (put,))
            elif way == 4 and table in ("takes", "log", "state"):
                column = "value" if table == "state" else "data"
                for key, said in db.execute(f"SELECT rowid, {column} FROM {table}").fetchall():
                    db.execute(f"UPDATE {table} SET {column} = ? WHERE rowid = ?", (absurd_json(rng, str(said)), key))
            elif way == 5:
                db.execute(f"PRAGMA user_version = {rng.choice((-1, 0, 1, 2, 3, 4, 99))}")
            else:
                db.execute(f"CREATE VIEW v{rng.randrange(99)} AS SELECT * FROM {table}")
    except sqlite3.Error:
        return
    finally:
        db.close()


def case(rng: random.Random, folder: Path, made: dict[str, bytes]) -> tuple[str, bytes, Callable[[], object]]:
    """A damaged file in a folder: its name, its bytes, and how Firn reads it."""
    name = rng.choice(list(made))
    path = folder / f"case.{name}"
    for left in folder.iterdir():
        if left.is_file():
            left.unlink()
    ending = path.suffix
    path.write_bytes(made[name])
    if ending == ".firn" and rng.random() < 0.6:
        absurd_workbook(rng, path)
    elif ending == ".json" and rng.random() < 0.7:
        path.write_text(absurd_json(rng, made[name].decode()), "utf-8", "surrogatepass")
    else:
        path.write_bytes(damaged(rng, made[name]))
    return name, path.read_bytes(), reader(path)


def reader(path: Path) -> Callable[[], object]:
    """What reads a file, as a user would have it read."""
    read = {
        ".firn": _workbook, ".steps": read_steps, ".toml": _cards, ".json": load_settings, ".mid": _score,
        ".musicxml": _score, ".abc": _score,
    }  # fmt: skip
    named = {"case.did.json": _did, "case.film.mp4": _film, "case.film.webm": _film}
    return partial(named.get(path.name) or read.get(path.suffix, _recording), path)


def _score(path: Path) -> None:
    for read in (read_tune, lambda p: piece_of_score(p, shipped())):
        with suppress(FirnError):
            read(path)
    piece_of_score(path, shipped(), [37])


def _film(path: Path) -> None:
    with MediaPictures(path) as film:
        for at in (0.0, 0.2, 9.0):
            picture = film.at(at)
            film.before(film.after(picture))


def _did(path: Path) -> None:
    home = path.parent / "home"
    home.mkdir(exist_ok=True)
    path.replace(home / "did.json")
    bringer = Bringer(Book(), None, shipped())  # type: ignore[arg-type]
    found = bringer.read(home)
    bringer.kept(found).apply(Book())


def _workbook(path: Path) -> None:
    session = Session.open(path)
    try:
        for piece in session.book.pieces:
            piece_of_script(piece.script, ["x"] * (piece.script.count("\n") + 3))
        for take in session.book.takes:
            _ = take.seconds
        if session.book.pieces:
            piece = session.book.pieces[0]
            session.do(GoTo(piece.id, ""))
            session.do(AddPart(piece.id, BookPart("new", "Fuzzed", "1 step")))
            session.undo()
        session.save_copy(path.with_name("copy.firn"))
        for take in session.book.takes:
            session.store.samples(take.audio)
    finally:
        session.close()


def _cards(path: Path) -> None:
    own = read_cards(path.parent)
    _ = own.shelf
    bring_in_cards(path.parent / "brought", path)


def _recording(path: Path) -> None:
    info = take_info(path)
    read_take(path, length_s=min(5.0, info.seconds))
    onsets_of_file(path)
