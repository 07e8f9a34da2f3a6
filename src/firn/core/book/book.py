"""The workbook as values: pieces with their parts as typed, takes, and what the student's ear has answered."""

from msgspec import Struct
from msgspec.structs import replace

from firn.core.book.calls import Call
from firn.core.book.clips import Clip
from firn.core.book.log import Answer, LogEntry
from firn.core.book.students import OWNER, Student
from firn.core.drills.class_plan import ClassPlan
from firn.core.drills.stage import Drill
from firn.core.script.piece_text import cut
from firn.core.script.settings import Settings, Sides, read_settings, write_settings
from firn.core.steps.shelf import Words


class BookPart(Struct, frozen=True):
    """A part: its script exactly as typed, faults and comments included."""

    id: str
    name: str
    text: str


class BookPiece(Struct, frozen=True):
    """A piece: its headings as text, its parts, and the combo as typed."""

    id: str
    head: str
    parts: tuple[BookPart, ...]
    combo: str = ""

    @property
    def settings(self) -> Settings:
        return read_settings(self.head.split("\n"))[0]

    @property
    def name(self) -> str:
        return self.settings.name

    def part(self, part_id: str) -> BookPart | None:
        return next((p for p in self.parts if p.id == part_id), None)

    @property
    def script(self) -> str:
        """The whole piece as one .steps text."""
        blocks = [self.head.rstrip("\n") + "\n"]
        blocks += [f"\npart {p.name}\n{p.text.rstrip()}\n" for p in self.parts]
        if self.combo.strip():
            blocks.append(f"\ncombo\n{self.combo.rstrip()}\n")
        return "".join(blocks)


class Take(Struct, frozen=True):
    """A recording of a part: which, how it came, and where its samples are (`audio`, their hash).

    `swapped`: danced on the other side. `heard`: what made the sounds, feet or what stood in for them. `click_s`: the
    time in the take on which the part's first sound was due by Firn's click, None for a take made to none. `student`:
    who danced it, by key, "" for the owner.
    """

    id: str
    piece: str
    part: str
    name: str
    made: str
    audio: str
    rate: int
    frames: int
    tempo: float
    source: str = "file"
    swapped: bool = False
    shoes: str = ""
    floor: str = ""
    heard: str = "feet"
    click_s: float | None = None
    student: str = OWNER

    @property
    def seconds(self) -> float:
        return self.frames / self.rate


class Book(Struct, frozen=True):
    """Everything that a workbook file holds, but for the samples of its takes.

    `here`: the piece and part last on show. `ear`: the last answers of the student's ear, `log`: what was danced;
    both with the newest last. `drills`: what is practised, each of a piece. `who` practises now, the key of one of
    the `students` or "" for the owner. `classes`: classes as planned, each of a piece. `clips`: what parts were taken
    off, one of a part at most, and the music of pieces. `calls`: how parts are called in the teacher's own voice.
    """

    pieces: tuple[BookPiece, ...] = ()
    takes: tuple[Take, ...] = ()
    here: tuple[str, str] = ("", "")
    ear: tuple[Answer, ...] = ()
    log: tuple[LogEntry, ...] = ()
    drills: tuple[Drill, ...] = ()
    students: tuple[Student, ...] = ()
    who: str = OWNER
    classes: tuple[ClassPlan, ...] = ()
    clips: tuple[Clip, ...] = ()
    calls: tuple[Call, ...] = ()

    def piece(self, piece_id: str) -> BookPiece | None:
        return next((p for p in self.pieces if p.id == piece_id), None)

    def take(self, take_id: str) -> Take | None:
        return next((t for t in self.takes if t.id == take_id), None)

    @property
    def student(self) -> Student | None:
        """The student who practises now; None for the owner."""
        return next((s for s in self.students if s.id == self.who), None)

    @property
    def own_log(self) -> tuple[LogEntry, ...]:
        """What was danced by who practises now."""
        return tuple(e for e in self.log if e.student == self.who)

    @property
    def own_ear(self) -> tuple[Answer, ...]:
        """The answers of who practises now."""
        return tuple(a for a in self.ear if a.student == self.who)

    def drills_of(self, piece_id: str) -> tuple[Drill, ...]:
        """The drills of a piece that are for everyone, or for who practises now."""
        return tuple(d for d in self.drills if d.piece == piece_id and d.student in (OWNER, self.who))

    def classes_of(self, piece_id: str) -> tuple[ClassPlan, ...]:
        return tuple(c for c in self.classes if c.piece == piece_id)

    def takes_of(self, piece_id: str, part_id: str) -> tuple[Take, ...]:
        """The takes of a part, or of a piece's combo by that name in place of a part's id."""
        return tuple(t for t in self.takes if t.part == part_id and t.piece == piece_id)

    def clip_of(self, part_id: str) -> Clip | None:
        """What a part was taken off."""
        return next((c for c in self.clips if c.part == part_id), None)

    def call_of(self, piece_id: str, part_id: str) -> Call | None:
        """How a part of a piece, or its combo, is called in the teacher's own voice."""
        return next((c for c in self.calls if (c.piece, c.part) == (piece_id, part_id)), None)

    @property
    def recordings(self) -> tuple[str, ...]:
        """The hashes of all samples that it needs, each once."""
        return tuple(dict.fromkeys([*(t.audio for t in self.takes), *(c.audio for c in self.calls)]))

    def with_piece(self, piece: BookPiece) -> "Book":
        return replace(self, pieces=tuple(piece if p.id == piece.id else p for p in self.pieces))


def new_piece(
    piece_id: str, part_id: str, name: str, *, words: Words = (), sides: Sides = "working foot", handed: str = "right"
) -> BookPiece:
    """An empty piece with one empty part, its words with the meanings that its teacher gives them."""
    head = write_settings(Settings(name=name, words=words, sides=sides, handed=handed))
    return BookPiece(piece_id, head, (BookPart(part_id, "A", ""),))


def piece_of_script(text: str, ids: "list[str]") -> BookPiece:
    """A piece from a whole .steps text; `ids`: one for the piece and one for each part, taken from its end."""
    blocks = cut(text.removeprefix("\ufeff"))
    parts = tuple(BookPart(ids.pop(), one.name, "\n".join(one.lines).strip("\n").lstrip(" ")) for one in blocks.parts)
    head = "\n".join(blocks.head).rstrip("\n") + "\n" if any(line.strip() for line in blocks.head) else ""
    combo = "\n".join(blocks.combo[1]).strip("\n").lstrip(" ") if blocks.combo else ""
    return BookPiece(ids.pop(), head or write_settings(Settings()), parts, combo)
