"""Lines as teachers say them, read: how many right at once, how many refused, how many taken for something else."""

import json
import sys
from collections import Counter
from pathlib import Path
from typing import NamedTuple

from benchmarks.report import figure, heading
from firn.core.piece.build import piece_from
from firn.core.piece.piece import Piece

LINES = Path(__file__).with_suffix(".txt")
MEANT = Path(__file__).with_suffix(".json")
"""The sounds of what each line means, as they were read from the same said in full when the lines were written."""

Sounds = list[list[str]]


class Line(NamedTuple):
    """A line as it is said, in which tradition and language, and what it means, said in full; `asks`: nothing need be
    taken without asking."""

    tradition: str
    language: str
    said: str
    means: tuple[str, ...]
    asks: bool

    @property
    def key(self) -> str:
        return f"{self.tradition}: {self.said}"


def lines() -> list[Line]:
    """All lines, in their order."""
    found = []
    tradition = language = ""
    for row in LINES.read_text("utf-8").splitlines():
        if row.startswith(">"):
            tradition, language = (word.strip() for word in row[1:].split(","))
        elif row.strip() and not row.startswith("#"):
            said, means = row.split("=>")
            ways = [one.strip() for one in means.split(" or ")]
            full = tuple(one for one in ways if one != "?")
            found.append(Line(tradition, language, said.strip().replace(" / ", "\n"), full, "?" in ways))
    return found


def piece_of(tradition: str, text: str) -> Piece:
    """A line as the part of a piece in a tradition."""
    return piece_from(f"tradition: {tradition}\npart A\n{text}")


def sounds_of(piece: Piece) -> Sounds:
    """Each sound of a piece's first part: its place, kind and foot."""
    return [[str(s.place), s.kind, s.foot] for s in piece.parts[0].sounds] if piece.parts else []


def said_in_full() -> dict[str, list[Sounds]]:
    """What the lines mean, read from what is said in full; stops at one that does not read."""
    found = {}
    for line in lines():
        meant = []
        for full in line.means:
            piece = piece_of(line.tradition, full)
            if piece.problems or piece.parts[0].footing.faults:
                print(f"{line.tradition}: {full}: {[p.message for p in piece.problems]}", file=sys.stderr)
            meant.append(sounds_of(piece))
        found[line.key] = meant
    return found


def judged(line: Line, meant: list[Sounds]) -> str:
    """How a line is read: right, noisy (right, with a complaint), refused, or wrong without a word.

    Where it must be asked, a complaint is right.
    """
    piece = piece_of(line.tradition, line.said)
    read = sounds_of(piece)
    if piece.problems:
        return "right" if line.asks else "noisy" if read in meant else "refused"
    return "right" if read in meant else "wrong"


def spoken() -> None:
    """The figures, by tradition; those that are silently wrong are what must not be."""
    meant = json.loads(MEANT.read_text("utf-8"))
    all_lines = lines()
    heading(f"Spoken, {len(all_lines)} lines")
    total: Counter[str] = Counter()
    by: dict[str, Counter[str]] = {}
    for line in all_lines:
        how = judged(line, meant[line.key])
        total[how] += 1
        by.setdefault(f"{line.tradition}, {line.language}", Counter())[how] += 1
    for how, wanted in (("right", "92 %"), ("noisy", ""), ("refused", ""), ("wrong", "none")):
        figure(f"{how}, of 100", f"{100 * total[how] / len(all_lines):.0f}", wanted)
    for name, counts in by.items():
        figure(f"  {name}", ", ".join(f"{many} {how}" for how, many in sorted(counts.items())))


if __name__ == "__main__":
    MEANT.write_text(json.dumps(said_in_full(), ensure_ascii=False, indent=0) + "\n", "utf-8")
