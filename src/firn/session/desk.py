"""What is on the desk: the piece and part (or combo) being worked on, read, footed and checked."""

from bisect import bisect_left
from collections.abc import Sequence
from functools import lru_cache

from msgspec import Struct
from msgspec.structs import replace

from firn.core.book.book import BookPart, BookPiece
from firn.core.piece.build import build_part, piece_from
from firn.core.piece.piece import Part, Piece
from firn.core.piece.unfold import Unfolded, unfold
from firn.core.reading.finding import Finding, MendText
from firn.core.reading.kinds import KINDS
from firn.core.reading.read import check_combo, check_part
from firn.core.reading.sentences import label, sentence
from firn.core.reading.style import Asked
from firn.core.script.figures import shelf_for
from firn.core.script.layers import layer_of
from firn.core.script.piece_text import combo_of
from firn.core.script.problems import Problem
from firn.core.script.reader import lines_of, read_part
from firn.core.script.settings import Settings, read_settings, with_words, write_settings
from firn.core.steps.shelf import Shelf

COMBO = "combo"
"""Stands for the combo where a part's id would stand."""


class Note(Struct, frozen=True):
    """A finding or a problem of the script, worded, and where it stands: level bad, look, ok, or note (to think of).

    `sound` is an index in the stretch; `line`, `column`, `end` a place in the text. `mends` are labels with the
    mends themselves; `code` that of the finding, "problem" for one of the script; `meant`: what
    is worth a look, but meant so.
    """

    level: str
    text: str
    sound: int | None = None
    line: int | None = None
    column: int = 0
    end: int = 0
    mends: tuple[tuple[str, MendText], ...] = ()
    code: str = ""
    meant: bool = False


def written_notes(notes: Sequence[Note]) -> list[Note]:
    """Notes while a part is written: without what is told on Read alone, and changes only where there is need."""
    return [
        replace(n, mends=()) if n.level == "ok" and n.mends else n
        for n in notes
        if not (n.code in KINDS and KINDS[n.code].on_read)
    ]


@lru_cache(maxsize=64)
def settings_of(head: str) -> Settings:
    """The settings that a piece's headings give."""
    return read_settings(head.split("\n"))[0]


@lru_cache(maxsize=32)
def read_piece(script: str, shelf: Shelf) -> Piece:
    """A whole piece, read once."""
    return piece_from(script, shelf)


@lru_cache(maxsize=64)
def read_one(name: str, text: str, head: str, shelf: Shelf) -> Part:
    """One part, read once."""
    settings = settings_of(head)
    return build_part(read_part(name, text, settings, shelf), settings)


def read_in(piece: BookPiece, part: BookPart, text: str, shelf: Shelf, *, head: str | None = None) -> Part:
    """A part with some text, as it is read in its piece: the other parts may be words in it."""
    head = piece.head if head is None else head
    named = tuple((p.name, text if p.id == part.id else p.text) for p in piece.parts)
    return read_one(part.name, text, head, shelf_for(part.name, named, settings_of(head), shelf))


NEAR, FAR = 2_000, 6_000
"""Letters after a change that fill any screen, and so many that what is past them is worth leaving for later."""


def near_text(before: str, text: str) -> str | None:
    """A script as far as it is in sight where it was just changed: to the end of a line some screens further on.

    What layers say of all of it is kept. None where little would be left for later.
    """
    alike = bisect_left(range(1, min(len(before), len(text)) + 1), True, key=lambda n: before[:n] != text[:n])
    reach = alike + NEAR
    if len(text) - reach < FAR - NEAR:
        return None
    lines = lines_of(text[reach:])
    rest = [line for line in lines[1:] if ":" in line and layer_of(line) is not None]
    return "\n".join((text[:reach] + lines[0], *rest))


def problem_notes(problems: tuple[Problem, ...], line: int = 0) -> list[Note]:
    """Problems of a script, as notes; `line` is where its text begins."""
    return [Note("look", p.message, None, p.line - line, p.column, p.end, code="problem") for p in problems]


def part_notes(part: Part, asked: Asked | None = None) -> list[Note]:
    """Everything there is to say of a part: what cannot be danced, problems, what is worth a look, what holds."""
    if not part.script.text.strip():
        return [Note("ok", "Say the count, then the step on it. Every sound is shown with its foot as you type.")]
    findings = [_note(f) for f in check_part(part, asked)]
    bad = [n for n in findings if n.level == "bad"]
    think = [Note("note", part.layers.note)] if part.layers.note else []
    return [*think, *bad, *problem_notes(part.problems), *findings[len(bad) :], *_care(part)]


def _care(part: Part) -> list[Note]:
    """The usual caution of the first step that has one, said once."""
    card = next((u.card for u in part.uses if u.card.caution), None)
    return [Note("ok", f"Take care with the {card.name}. {card.caution}")] if card else []


def combo_notes(piece: Piece, whole: Unfolded, combo_line: int) -> list[Note]:
    """Everything there is to say of a combo."""
    problems = tuple(p for p in piece.problems if p.code.startswith("C") or p.line >= combo_line)
    starts = {}
    base = 0
    for one in whole.passes:
        starts[one.offset + one.part.first_count] = base
        base += len(one.sounds)
    findings = [
        replace(_note(f), sound=starts.get(f.place) if f.place is not None else None)
        for f in check_combo(piece, whole)
    ]
    return [*problem_notes(problems, combo_line), *findings]


def _note(finding: Finding) -> Note:
    mends = tuple((label(m), m) for m in finding.mends)
    return Note(
        finding.level,
        sentence(finding),
        finding.sound,
        mends=mends,
        code=finding.code,
        meant=finding.meant is not None,
        **_spot(finding),
    )


def _spot(finding: Finding) -> dict[str, int]:
    """Where in the text a finding is that is about a word there."""
    return {} if finding.spot is None else dict(zip(("line", "column", "end"), finding.spot, strict=True))


def head_with(head: str, **values: object) -> str:
    """Headings with some settings changed; comments in them are kept where nothing changed."""
    settings = settings_of(head)
    new = replace(settings, **values)
    return head if new == settings else write_settings(new)


def mended_head(head: str, mend: MendText) -> str:
    """Headings as a mend leaves them."""
    if mend.lead:
        head = head_with(head, lead=mend.lead)
    return head_with(head, words=with_words(settings_of(head).words, mend.words)) if mend.words else head


@lru_cache(maxsize=4)
def whole_combo(piece: BookPiece, shelf: Shelf) -> tuple[Piece, Unfolded, int]:
    """A piece read, its combo unfolded, and the line on which the combo's text begins."""
    # The parts are read once, however often the combo is changed.
    alone = replace(piece, combo="").script
    parts = read_piece(alone, shelf)
    line = alone.count("\n") + 2
    combo, meant, problems = combo_of(piece.combo.rstrip().split("\n"), [p.name for p in parts.parts])
    known = (*parts.problems, *(p.moved(line) for p in problems))
    read = replace(parts, combo=combo, meant=meant, problems=known, combo_line=line)
    return read, unfold(read), line


def next_name(parts: tuple[BookPart, ...]) -> str:
    """A free name for a new part: the next letter."""
    taken = {p.name for p in parts}
    letters = (chr(c) for c in range(ord("A"), ord("Z") + 1))
    return next((n for n in letters if n not in taken), f"Part {len(parts) + 1}")


def free_name(parts: tuple[BookPart, ...], wanted: str) -> str:
    """A name for a new part, with a number where it is taken."""
    taken = {p.name.casefold() for p in parts}
    names = (wanted, *(f"{wanted} {n}" for n in range(2, len(parts) + 3)))
    return next(n for n in names if n.casefold() not in taken)
