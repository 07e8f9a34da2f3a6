"""What leaves Firn as data: sounds, findings and measures, for JSON and tables; names and shapes are stable."""

import csv
import io
import json
from collections.abc import Callable, Sequence
from typing import Any, NamedTuple

from firn.core.piece.piece import Part, Piece
from firn.core.reading import doubts
from firn.core.reading.finding import Finding, MendText
from firn.core.reading.measures import Value
from firn.core.reading.profile import OVERS, Over, profile
from firn.core.reading.read import check
from firn.core.reading.sentences import label, sentence
from firn.core.reading.style import Asked
from firn.core.script.layers import Pulse
from firn.core.script.settings import words_text
from firn.files.formats import Format
from firn.files.whole import write_text

COLUMNS = ("part", "phrase", "over", "measure", "source", "value")
FINDINGS = ("part", "level", "code", "place", "message", "meant")


def sounds_data(piece: Piece) -> dict[str, Any]:
    """The stable data of `firn read --json`: sounds, parts, problems, doubts."""
    sounds = [
        {
            "part": part.name,
            "place": str(s.place),
            "position": str(s.position),
            "say": s.say,
            "foot": s.foot or None,
            "kind": s.kind,
            "weight": s.weight,
            "silent": s.silent,
            "word": part.uses[s.use].card.name,
            **({"hand": s.hand, "layer": s.layer or None, "voiced": s.voiced} if s.hand else {}),
        }
        for part in piece.parts
        for s in part.sounds
    ]
    parts = [
        {"part": p.name, "counts": p.counts, "free": p.footing.free, "again": p.footing.again, **_layers_data(p)}
        for p in piece.parts
    ]
    problems = [
        {
            "code": p.code,
            "line": p.line + 1,
            "column": p.column + 1,
            "message": p.message,
            "nearest": list(p.nearest),
        }
        for p in piece.problems
    ]
    return {"sounds": sounds, "parts": parts, "problems": problems, "doubts": _doubts_data(piece)}


def _layers_data(part: Part) -> dict[str, Any]:
    """What is said of a part beside its sounds, where there is anything."""
    layers = part.layers
    data = {
        "note": layers.note,
        "seated": layers.seated,
        "cues": [
            {"layer": c.layer, "place": str(c.place), "length": str(c.length), "text": c.text, "ahead": c.ahead}
            for c in layers.cues
        ],
        "syllables": [s.text or None for line in (*layers.scat, *layers.hand_scat) for s in line],
        "pulse": layers.pulse and _pulse_data(layers.pulse),
    }
    return {key: value for key, value in data.items() if value}


def _pulse_data(pulse: Pulse) -> dict[str, Any]:
    data = {"way": pulse.way or None, "places": [str(p) for p in pulse.places], "cycle": pulse.cycle}
    return data | ({"then": _pulse_data(pulse.then)} if pulse.then else {})


def findings_data(piece: Piece, findings: Sequence[Finding]) -> dict[str, Any]:
    """The stable data of `firn check --json`; lines and columns of changes count from 1 in the file."""
    lines = _first_lines(piece)
    return {"findings": [_finding_data(f, lines.get(f.part, 0)) for f in findings]}


def _first_lines(piece: Piece) -> dict[str, int]:
    """The line of the file, from 0, on which each part and the combo begin."""
    return {p.name: at for p, at in zip(piece.parts, piece.part_lines, strict=True)} | {"combo": piece.combo_line}


def _finding_data(f: Finding, first: int) -> dict[str, Any]:
    return {
        "code": f.code,
        "level": f.level,
        "part": f.part,
        "place": None if f.place is None else str(f.place),
        "message": sentence(f),
        "mends": [{"label": label(m), "change": _change_data(m, first)} for m in f.mends],
    }


def _change_data(mend: MendText, first: int) -> list[dict[str, Any]] | dict[str, str]:
    """What a mend changes: in lines of the file, or in its head."""
    if mend.changes:
        return [
            {"line": c.line + first + 1, "column": c.column + 1, "end": c.end + 1, "text": c.text}
            for c in mend.changes
        ]
    return {"lead": mend.lead} if mend.lead else {"words": words_text(mend.words)}


def _doubts_data(piece: Piece) -> list[dict[str, Any]]:
    """The words that could be read in more ways than one, where they stand in the file, and the ways."""
    found = []
    lines = _first_lines(piece)
    for part in piece.parts:
        first = lines[part.name]
        for doubt in doubts.findings(part):
            line, column, end = doubt.spot or (0, 0, 0)
            spot = {"line": line + first + 1, "column": column + 1, "end": end + 1}
            found.append(_finding_data(doubt, first) | spot)
    return found


def _number(value: Value) -> float | None:
    return None if value is None else round(float(value), 6)


def measures_data(piece: Piece, overs: Sequence[Over] = OVERS) -> dict[str, Any]:
    """Every measure of every part, over each kind of sounds: the part's value, and one for each phrase."""
    rows = [
        {
            "part": part.name,
            "over": over,
            "measure": m.measure.key,
            "name": m.measure.name,
            "source": m.measure.source,
            "value": _number(m.value),
            "phrases": [_number(v) for v in m.phrases],
        }
        for part in piece.parts
        for over in overs
        for m in profile(part, over)
    ]
    return {"measures": rows}


def report_json(piece: Piece, asked: Asked | None = None) -> str:
    """The whole check of a piece as JSON: findings and measures."""
    return json.dumps(findings_data(piece, check(piece, asked)) | measures_data(piece), indent=1, ensure_ascii=False)


def measures_csv(piece: Piece, overs: Sequence[Over] = OVERS) -> str:
    """Measures as a table: a line for each value; phrase 0 is the whole part."""
    rows = [
        (row["part"], number, row["over"], row["measure"], row["source"], _cell(value))
        for row in measures_data(piece, overs)["measures"]
        for number, value in enumerate([row["value"], *row["phrases"]])
    ]
    return _table(COLUMNS, rows)


def findings_csv(piece: Piece, asked: Asked | None = None) -> str:
    """Findings as a table."""
    rows = [
        (f.part, f.level, f.code, _cell(f.place), sentence(f), "" if f.meant is None else f.meant or "yes")
        for f in check(piece, asked)
    ]
    return _table(FINDINGS, rows)


class Checked(NamedTuple):
    """A piece, and what it is checked against."""

    piece: Piece
    asked: Asked


def _check(name: str, ending: str, made: Callable[[Checked], str]) -> Format:
    return Format(name, (ending,), write=lambda path, checked: write_text(path, made(checked)))


CHECKS = (
    _check("All as JSON", ".json", lambda it: report_json(it.piece, it.asked)),
    _check("Findings as a table", ".findings.csv", lambda it: findings_csv(it.piece, it.asked)),
    _check("Measures as a table", ".measures.csv", lambda it: measures_csv(it.piece)),
)
"""The ways in which a check (`Checked`) is written."""


def _cell(value: object) -> object:
    return "" if value is None else value


def _table(head: Sequence[str], rows: Sequence[Sequence[object]]) -> str:
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\n")
    table.writerow(head)
    table.writerows(rows)
    return out.getvalue()
