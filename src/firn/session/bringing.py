"""The way back: a folder of phones' recordings and of "what I did" files, each matched to student, part and tempo,
judged, and logged once at its own time; what is in doubt waits."""

import json
import re
from collections.abc import Sequence
from contextlib import suppress
from datetime import datetime
from functools import cached_property
from itertools import count
from pathlib import Path
from statistics import fmean
from typing import Any, NamedTuple

from msgspec import Struct, ValidationError, convert
from msgspec.structs import replace

from firn.core.book.book import Book, BookPiece, Take
from firn.core.book.brought import BringBack
from firn.core.book.log import Answer, FirstFoot, LogEntry
from firn.core.book.students import OWNER
from firn.core.ear.match import CLEARLY, candidate_of
from firn.core.ear.onsets import Onsets, find_onsets
from firn.core.ear.passes import Candidate
from firn.core.ear.routine import Routine, routine
from firn.core.ear.undisturbed import routine_of, verdict_of
from firn.core.ear.verdict import NothingHeard, Verdict, WrongTake, judge, which
from firn.core.meter.tempo import FASTEST, SLOWEST
from firn.core.piece.build import piece_from
from firn.core.piece.piece import Part
from firn.core.piece.unfold import Unfolded, unfold
from firn.core.steps.shelf import Shelf
from firn.core.task import UNWATCHED, Task
from firn.errors import FirnError
from firn.files.audio import LONG_S, FloatArray, flac_bytes, read_take, take_info
from firn.files.formats import RECORDING
from firn.files.store import Store
from firn.files.whole import read_text
from firn.session.found import Did, Found, Tick, recorded_at
from firn.session.fresh import new_id
from firn.session.listening import BETWEEN, MOST_AMONG, MOST_SOUNDS
from firn.session.log import entry_of, entry_of_combo, side_of, step_name
from firn.session.pack.contents import COMBO, combo_hash, text_hash

MOST_FILES = 500
MOST_COMBOS = 40
"""Combos that a take is laid before."""

MOST_BYTES = 2_000_000
"""A file of what was done that is longer is none."""

SURELY = 0.8
"""A take that is less surely of its part waits."""

DID_ENDINGS = (".json", ".txt")
ANYTHING = re.compile(r"\{.*\}", re.DOTALL)


class Known(Struct, frozen=True):
    """A part of the workbook that a take may be of. `name`: piece and part, numbered where another is called so."""

    name: str
    piece: BookPiece
    id: str
    part: Part
    tempo: float


class KnownCombo(Struct, frozen=True):
    """A combo of the workbook that a take may be of, by its name, as `Known`."""

    name: str
    piece: BookPiece
    whole: Unfolded
    tempo: float


class Heard(NamedTuple):
    """A recording: its samples, and the onsets that are found in it, once."""

    sound: FloatArray
    rate: int
    onsets: Onsets

    @classmethod
    def of(cls, sound: FloatArray, rate: int) -> "Heard":
        """A recording with its onsets found."""
        return cls(sound, rate, find_onsets(sound, rate))


class Bringer:
    """Reads a folder against a workbook, as it was when this was made."""

    def __init__(self, book: Book, store: Store, shelf: Shelf) -> None:
        self._book, self._store = book, store
        self.parts: dict[str, Known] = {}
        self.combos: dict[str, KnownCombo] = {}
        self._hashes: dict[str, str] = {}
        self._names: dict[str, str] = {}
        self.take_of: dict[Path, str] = {}
        # By their digests: what is there, and what was read since. A phone sends the same recording twice.
        self._heard = {take.audio for take in book.takes}
        for piece in book.pieces:
            read = piece_from(piece.script, shelf)
            if read.combo:
                whole = unfold(read)
                self._hashes[f"{piece.name}{BETWEEN}{COMBO}"] = combo_hash(whole)
                name = self._free(f"{piece.name}{BETWEEN}{COMBO}")
                if len({id(one.part) for one in whole.passes}) > 1 and len(self.combos) < MOST_COMBOS:
                    self.combos[name] = KnownCombo(name, piece, whole, float(read.settings.tempo))
            for kept, part in zip(piece.parts, read.parts, strict=False):
                self._hashes[kept.id] = text_hash(part)
                self._names[kept.id] = step_name(piece, kept.name)
                if 2 <= len(part.sounds) <= MOST_SOUNDS and len(self.parts) < MOST_AMONG:
                    name = self._free(f"{piece.name}{BETWEEN}{part.name}")
                    self.parts[name] = Known(name, piece, kept.id, part, float(read.settings.tempo))

    def _free(self, name: str) -> str:
        """A name that no other part has."""
        numbered = (name if n == 1 else f"{name} ({n})" for n in count(1))
        return next(one for one in numbered if one not in self.parts and one not in self.combos)

    @property
    def names(self) -> tuple[str, ...]:
        """What a take may be judged as, by name: parts, and combos."""
        return (*self.parts, *self.combos)

    @cached_property
    def _candidates(self) -> list[Candidate]:
        found = (candidate_of(k.part, k.tempo, name=k.name) for k in self.parts.values())
        return [one for one in found if one is not None]

    def read(self, folder: Path, task: Task = UNWATCHED) -> list[Found]:
        """Everything of a folder, and of those in it, in the order of names. Raises FirnError where it is none."""
        if not folder.is_dir():
            raise FirnError(f"{folder} is no folder.")
        paths = sorted(p for p in folder.rglob("*") if p.is_file() and not p.name.startswith("."))
        if len(paths) > MOST_FILES:
            raise FirnError(f"{folder.name} holds {len(paths)} files; {MOST_FILES} are read at once.")
        found: list[Found] = []
        for number, path in enumerate(paths):
            task.step(number / max(1, len(paths)))
            if path.suffix.casefold() in DID_ENDINGS:
                found.append(self._read_did(path))
        # Whose a folder's recordings are may stand in what was done beside them.
        beside = {one.path.parent: one.student for one in found if one.did is not None and one.doubt == ""}
        for number, path in enumerate(paths):
            task.step(number / max(1, len(paths)))
            if RECORDING.names(path):
                found.append(self._read_take(path, folder, beside.get(path.parent), task))
        return sorted(found, key=lambda one: one.path)

    # What was done

    def _read_did(self, path: Path) -> Found:
        try:
            text = read_text(path, "what was done", MOST_BYTES)
            said = ANYTHING.search(text)
            did = convert(json.loads(said[0]) if said else None, Did)
        except (FirnError, ValueError, ValidationError, RecursionError):
            return Found(path, "other", "unread", f"{path.name} is nothing that a pack's page made.")
        changed, lost, seen = [], [], set()
        for tick in did.ticks:
            now = self._hash_of(did, tick)
            if tick.part in seen:
                continue
            seen.add(tick.part)
            if not now:
                lost.append(tick.name or tick.part)
            elif tick.hash and now != tick.hash:
                changed.append(self._names.get(tick.part, tick.name))
        told = [f"{', '.join(changed)} changed since the pack was made."] if changed else []
        told += [f"{', '.join(lost)} is not in this workbook any more."] if lost else []
        known = {s.id for s in self._book.students}
        one = Found(path, "did", student=did.student, told=tuple(told), did=did, when=self._last(did))
        if did.student != OWNER and did.student not in known:
            return replace(one, doubt="whose", why=f"{path.name} is of a student who is not in this workbook.")
        return replace(one, known=not any(self._news(one)))

    def _hash_of(self, did: Did, tick: Tick) -> str:
        return self._hashes.get(f"{did.piece}{BETWEEN}{COMBO}" if tick.part == COMBO else tick.part, "")

    @staticmethod
    def _last(did: Did) -> str:
        return max([t.when for t in did.ticks] + [a.when for a in did.answers], default="")

    def _news(self, one: Found) -> tuple[list[LogEntry], list[Answer]]:
        """What of it the workbook has not yet."""
        assert one.did is not None and one.student is not None
        logged = {(e.student, e.when, e.part, e.tempo) for e in self._book.log}
        entries = []
        for tick in one.did.ticks:
            if not _is_time(tick.when) or not SLOWEST <= tick.tempo <= FASTEST:
                continue
            part = tick.part if tick.part in self._names else ""
            step = self._names.get(tick.part) or f"{one.did.piece}, {tick.name or tick.part}"
            if (one.student, tick.when, part, tick.tempo) not in logged:
                entries += [
                    LogEntry(
                        new_id(),
                        tick.when,
                        step,
                        part,
                        side,
                        tick.tempo,
                        tick.how,
                        source="drill",
                        student=one.student,
                    )
                    for side in self._sides(part, tick.sides)
                ]
        answered = {(a.student, a.kind, a.when) for a in self._book.ear}
        answers = [
            Answer(a.kind, a.right, a.when, one.student)
            for a in one.did.answers
            if _is_time(a.when) and (one.student, a.kind, a.when) not in answered
        ]
        return entries, answers

    def _sides(self, part: str, sides: str) -> tuple[FirstFoot, ...]:
        """The feet that began, of a stage that says as written, other side or both sides."""
        known = next((k.part for k in self.parts.values() if k.id == part), None)
        if known is None:
            return ("",)
        lead = known.footing.first or known.settings.lead
        both = side_of(lead, swapped=False), side_of(lead, swapped=True)
        return {"as written": both[:1], "other side": both[1:]}.get(sides, both)

    # Takes

    def _read_take(self, path: Path, folder: Path, beside: str | None, task: Task) -> Found:
        try:
            info = take_info(path)
            sound, rate, breaks_off_s = read_take(path)
        except FirnError as fault:
            return Found(path, "other", "unread", str(fault))
        told: tuple[str, ...] = ("It breaks off.",) if breaks_off_s is not None else ()
        told += (f"Of {info.seconds / 60:.0f} minutes the first ten are judged.",) if info.seconds > LONG_S else ()
        one = Found(path, "take", student=self._whose(path, folder, beside), when=recorded_at(path), told=told)
        _, digest = flac_bytes(sound, rate)
        if digest in self._heard:
            return replace(one, known=True)
        self._heard.add(digest)
        heard = Heard.of(sound, rate)
        return self._doubted(self._rather_a_combo(self._matched(one, heard, task), heard))

    def _whose(self, path: Path, folder: Path, beside: str | None) -> str | None:
        """Whose a file is: by key or name in its own name or those of its folders, or as what lies beside it says."""
        if not self._book.students:
            return OWNER
        said = " ".join(path.relative_to(folder).with_suffix("").parts).casefold()
        named = [s for s in self._book.students if _holds(said, s.id) or _holds(said, s.name)]
        return named[0].id if len(named) == 1 else beside if not named else None

    def _matched(self, one: Found, heard: Heard, task: Task, only: str = "") -> Found:
        """What a take is, judged as that; `only`: as this part, whatever it might be."""
        others = self._candidates
        if not others:
            return replace(one, doubt="nothing", why="This workbook has no parts to lay it before.")
        asked = self.parts[only or others[0].name]
        tempo, sure = asked.tempo, 1.0
        also: tuple[str, ...] = ()
        try:
            if not only:
                found = which(asked.part, asked.tempo, heard.onsets, _but(others, asked.name), task)
                if found.what == "nothing":
                    return replace(one, doubt="nothing", why="Nothing in this workbook fits it.")
                asked = self.parts.get(found.part, asked) if found.what == "other" else asked
                tempo = found.danced_at(asked.tempo) if found.what == "tempo" else asked.tempo
                also, sure = tuple(a for a in found.also if a in self.parts), found.sure
            verdict = self._judged(asked, tempo, heard, _but(others, asked.name), anyway=bool(only))
        except WrongTake as fault:
            return replace(one, doubt="which", why=str(fault), also=tuple(self.parts))
        except NothingHeard as fault:
            return replace(one, doubt="nothing", why=str(fault))
        made = replace(
            one, piece=asked.piece.id, part=asked.id, name=step_name(asked.piece, asked.part.name),
            tempo=round(verdict.tempo, 1), verdict=verdict, also=also,
        )  # fmt: skip
        if also:
            return replace(made, doubt="which", why=f"It could as well be {', '.join(also)}.")
        if sure < SURELY:
            return replace(
                made, doubt="which", why=f"It is {made.name} with {sure:.0%} only.", also=tuple(self.parts)
            )
        return replace(made, doubt="", why="")

    def _rather_a_combo(self, one: Found, heard: Heard) -> Found:
        """A take as that of a whole combo, where more of it is explained so than by one part: of the piece that it
        seems to be of, or of any where it seems to be nothing."""
        share = one.verdict.match.passes.share if one.verdict is not None else 0.0
        best: Found | None = None
        for known in self.combos.values():
            if one.verdict is not None and known.piece.id != one.piece:
                continue
            found = self._routine(known, heard)
            several = found is not None and len({id(p.part) for p in found.passes}) > 1
            if found is not None and several and found.fits and found.share > share + CLEARLY:
                share, best = found.share, self._as_combo(one, known, found)
        return one if best is None else best

    @staticmethod
    def _routine(known: KnownCombo, heard: Heard) -> Routine | None:
        with suppress(NothingHeard):
            return routine_of(
                heard.onsets, heard.sound, heard.rate, lambda own: routine(known.whole.passes, known.tempo, own)
            )
        return None

    @staticmethod
    def _as_combo(one: Found, known: KnownCombo, found: Routine) -> Found:
        tempo = round(fmean(v.tempo for _, v in found.verdicts), 1) if found.verdicts else known.tempo
        made = replace(
            one, piece=known.piece.id, part=COMBO, name=step_name(known.piece, COMBO), tempo=tempo, also=(),
            verdict=None, routine=found, doubt="", why="",
        )  # fmt: skip
        if found.sure < SURELY:
            return replace(made, doubt="which", why=f"It is {made.name} with {found.sure:.0%} only.")
        return made

    @staticmethod
    def _judged(known: Known, tempo: float, heard: Heard, others: Sequence[Candidate], *, anyway: bool) -> Verdict:
        def judged(onsets: Any, task: Task) -> Verdict:
            return judge(known.part, tempo, onsets, others=others, anyway=anyway, task=task)

        return verdict_of(heard.onsets, heard.sound, heard.rate, judged)

    @staticmethod
    def _doubted(one: Found) -> Found:
        if one.doubt == "" and one.student is None:
            return replace(one, doubt="whose", why="Nothing says whose it is: no name or key in its name or folder.")
        return one

    def settled(self, one: Found, *, student: str | None = None, part: str = "") -> Found:
        """A file once somebody has said whose it is, or which part (piece and part, as `parts` calls it)."""
        if student is not None:
            one = replace(one, student=student)
            if one.doubt == "whose":
                one = replace(one, doubt="", why="")
        if part and one.kind == "take":
            heard = Heard.of(*read_take(one.path)[:2])
            combo = self.combos.get(part)
            if combo is not None:
                found = self._routine(combo, heard)
                one = self._as_combo(one, combo, found) if found is not None else one
            else:
                one = replace(self._matched(one, heard, UNWATCHED, part), routine=None)
            one = replace(one, also=(), doubt="" if one.judged else one.doubt)
        return self._doubted(one)

    def kept(self, found: Sequence[Found]) -> BringBack:
        """What is sure of all, as one edit; the samples of takes are put into the workbook's file."""
        takes: list[Take] = []
        entries: list[LogEntry] = []
        answers: list[Answer] = []
        book = self._book
        for one in found:
            if one.doubt or one.known or one.student is None:
                continue
            if one.did is not None:
                more, said = self._news(one)
                entries += more
                answers += said
            elif one.judged:
                take, entry = self._kept_take(one, book)
                takes.append(take)
                self.take_of[one.path] = take.id
                entries += [entry] if entry is not None else []
        # What a page tells grows: a later text has all that an earlier one beside it has.
        logged = {(e.student, e.when, e.step, e.side, e.tempo, e.source): e for e in reversed(entries)}
        answered = {(a.student, a.kind, a.when): a for a in reversed(answers)}
        return BringBack(tuple(takes), tuple(reversed(logged.values())), tuple(reversed(answered.values())))

    def _kept_take(self, one: Found, book: Book) -> tuple[Take, LogEntry | None]:
        assert one.student is not None
        sound, rate, _ = read_take(one.path)
        data, digest = flac_bytes(sound, rate)
        self._store.add_samples(digest, data)
        name = " ".join(re.sub(r"[,:#]", " ", one.path.stem).split())[:60] or "Take"
        take = Take(
            new_id(), one.piece, one.part, name, one.when, digest, rate, len(sound), one.tempo, student=one.student
        )
        if one.routine is not None:
            return take, entry_of_combo(book, take, one.routine)
        assert one.verdict is not None
        part = next(k.part for k in self.parts.values() if k.id == one.part)
        return take, entry_of(book, take, part, one.verdict)


def _but(others: Sequence[Candidate], name: str) -> list[Candidate]:
    return [one for one in others if one.name != name]


def _holds(said: str, name: str) -> bool:
    """Whether a name stands in a text as words of its own."""
    wanted, words = (f" {re.sub(r'[^a-z0-9à-ÿ]+', ' ', text.casefold()).strip()} " for text in (name, said))
    return bool(wanted.strip()) and wanted in words


def _is_time(said: str) -> bool:
    try:
        datetime.fromisoformat(said)
    except ValueError:
        return False
    return True
