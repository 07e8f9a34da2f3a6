"""What there is to say of what is on the desk, worded: findings of the checks and problems of the script."""

from collections.abc import Sequence

from msgspec.structs import replace

from firn.core.piece.piece import Part, Piece
from firn.core.piece.unfold import Unfolded
from firn.core.reading.finding import Finding
from firn.core.reading.kinds import KINDS
from firn.core.reading.read import check_combo, check_part
from firn.core.reading.sentences import label, sentence
from firn.core.reading.style import Asked
from firn.core.script.problems import Problem
from firn.session.note import Note


def written_notes(notes: Sequence[Note]) -> list[Note]:
    """Notes while a part is written: without what is told on Read alone, and changes only where there is need."""
    return [
        replace(n, mends=()) if n.level == "ok" and n.mends else n
        for n in notes
        if not (n.code in KINDS and KINDS[n.code].on_read)
    ]


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
