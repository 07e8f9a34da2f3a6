"""Lines as teachers say them, read: how many right at once, how many refused, how many taken for something else."""

import json
import sys
from collections import Counter
from pathlib import Path
from typing import NamedTuple

from benchmarks.report import figure, heading
from firn.core.piece.build import piece_from
from firn.core.piece.piece import Piece
from firn.core.reading import doubts
from firn.core.script.changes import changed_text
from firn.core.script.settings import words_text

HERE = Path(__file__).with_name("lines")
SETS = {
    "spoken": "mended from", "spoken_second": "mended from", "spoken_third": "mended from",
    "spoken_fourth": "mended from", "spoken_fifth": "kept apart", "spoken_sixth": "mended from",
    "spoken_seventh": "mended from", "spoken_eighth": "mended from",
    "spoken_ninth": "mended from", "spoken_tenth": "mended from",
    "spoken_eleventh": "mended from", "spoken_twelfth": "mended from",
    "spoken_thirteenth": "kept apart", "spoken_fourteenth": "mended from",
    "spoken_fifteenth": "kept apart", "spoken_sixteenth": "mended from",
    "spoken_seventeenth": "kept apart", "spoken_eighteenth": "mended from",
    "spoken_nineteenth": "mended from", "spoken_twentieth": "mended from",
    "spoken_twentyfirst": "mended from", "spoken_twentysecond": "mended from",
    "spoken_twentythird": "mended from", "spoken_twentyfourth": "kept apart",
    "spoken_twentyfifth": "mended from", "spoken_twentysixth": "kept apart",
    "spoken_twentyseventh": "mended from", "spoken_twentyeighth": "kept apart",
    "spoken_twentyninth": "mended from", "spoken_thirtieth": "kept apart",
    "spoken_thirtyfirst": "mended from", "spoken_thirtysecond": "mended from",
    "spoken_thirtythird": "mended from", "spoken_thirtyfourth": "mended from",
    "spoken_thirtyfifth": "mended from", "spoken_thirtysixth": "mended from",
    "spoken_thirtyseventh": "mended from", "spoken_thirtyeighth": "kept apart",
    "spoken_thirtyninth": "mended from", "spoken_fortieth": "mended from",
    "spoken_fortyfirst": "kept apart", "spoken_fortysecond": "mended from",
    "spoken_fortythird": "mended from", "spoken_fortyfourth": "mended from",
    "spoken_fortyfifth": "mended from", "spoken_fortysixth": "mended from",
    "spoken_fortyseventh": "mended from", "spoken_fortyeighth": "kept apart",
    "spoken_fortyninth": "mended from", "spoken_fiftieth": "mended from",
    "spoken_fiftyfirst": "mended from", "spoken_fiftysecond": "kept apart",
    "spoken_fiftythird": "kept apart", "spoken_fiftyfourth": "kept apart",
    "spoken_fiftyfifth": "kept apart", "spoken_fiftysixth": "mended from",
    "spoken_fiftyseventh": "kept apart", "spoken_fiftyeighth": "mended from", "spoken_fiftyninth": "mended from",
    "spoken_sixtieth": "mended from", "spoken_sixtyfirst": "kept apart",
    "spoken_sixtysecond": "kept apart",
}  # fmt: skip
"""The sets of lines, each NAME.txt: what was looked at where it went wrong, and what never was.

NAME.json holds the sounds of what each line means, as they were read from the same said in full when the set was made
(`python -m benchmarks.spoken NAME`)."""

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


def lines(name: str) -> list[Line]:
    """All lines of a set, in their order."""
    found = []
    tradition = language = ""
    for row in (HERE / f"{name}.txt").read_text("utf-8").splitlines():
        if row.startswith(">"):
            tradition, language = (word.strip() for word in row[1:].split(","))
        elif row.strip() and not row.startswith("#"):
            said, means = row.split("=>")
            ways = [one.strip() for one in means.split(" or ")]
            full = tuple(one.replace(" / ", "\n") for one in ways if one != "?")
            found.append(Line(tradition, language, said.strip().replace(" / ", "\n"), full, "?" in ways))
    return found


def piece_of(tradition: str, text: str) -> Piece:
    """A line as the part of a piece in a tradition."""
    return piece_from(f"tradition: {tradition}\npart A\n{text}")


def sounds_of(piece: Piece) -> Sounds:
    """Each sound of a piece's first part: its place, kind and foot."""
    return [[str(s.place), s.kind, s.foot] for s in piece.parts[0].sounds] if piece.parts else []


def said_in_full(name: str) -> dict[str, list[Sounds]]:
    """What the lines mean, read from what is said in full; stops at one that does not read."""
    found = {}
    for line in lines(name):
        meant = []
        for full in line.means:
            piece = piece_of(line.tradition, full)
            if piece.problems or piece.parts[0].footing.faults:
                print(f"{line.tradition}: {full}: {[p.message for p in piece.problems]}", file=sys.stderr)
            meant.append(sounds_of(piece))
        found[line.key] = meant
    return found


def offered(line: Line, piece: Piece) -> list[Sounds]:
    """What a line would become by each reading that is offered for a word of it in doubt."""
    found = []
    for doubt in doubts.findings(piece.parts[0]):
        for mend in doubt.mends:
            words = f"words: {words_text(mend.words)}\n" if mend.words else ""
            text = changed_text(line.said, mend.changes)
            found.append(sounds_of(piece_from(f"tradition: {line.tradition}\n{words}part A\n{text}")))
    return found


def judged(line: Line, meant: list[Sounds]) -> str:
    """How a line is read.

    right: as it is meant, unmarked; both offered where there are two; asked where it must be. doubted: as it is
    meant, and marked though it means but one. on a key: what is meant is offered. noisy: as it is meant, with a
    complaint. refused: not as it is meant, with a complaint. unasked: one of two that are meant, unmarked. untold:
    unmarked, where the set says no more than that it may be asked. wrong: otherwise than it is meant, and nothing
    says so.
    """
    piece = piece_of(line.tradition, line.said)
    read, others = sounds_of(piece), offered(line, piece)
    if piece.problems or piece.parts[0].footing.faults:
        return "right" if line.asks else "noisy" if read in meant else "on a key" if any(
            one in meant for one in others
        ) else "refused"  # fmt: skip
    if line.asks:
        return "right" if others or read in meant else "wrong" if meant else "untold"
    if len(meant) > 1:
        if others:
            return "right" if all(one in (read, *others) for one in meant) else "refused"
        return "unasked" if read in meant else "wrong"
    if not others:
        return "right" if read in meant else "wrong"
    return "doubted" if read in meant else "on a key" if any(one in meant for one in others) else "refused"


WANTED = {
    "right": "92 %", "doubted": "8 % at most", "on a key": "", "unasked": "", "noisy": "", "refused": "",
    "untold": "", "wrong": "none",
}  # fmt: skip


def spoken() -> None:
    """The figures of each set, by tradition; those that are silently wrong are what must not be."""
    sums: dict[str, Counter[str]] = {}
    for name, how_kept in SETS.items():
        sums.setdefault(how_kept, Counter()).update(_one_set(name, how_kept))
    for how_kept, total in sums.items():
        heading(f"Spoken, all {total['lines']} lines, {how_kept}")
        _shares(total, total["lines"])


def _one_set(name: str, how_kept: str) -> Counter[str]:
    """The figures of a set; gives how many of its lines are read how."""
    meant = json.loads((HERE / f"{name}.json").read_text("utf-8"))
    all_lines = lines(name)
    heading(f"Spoken, {len(all_lines)} lines, {how_kept}")
    total: Counter[str] = Counter(lines=len(all_lines))
    by: dict[str, Counter[str]] = {}
    for line in all_lines:
        how = judged(line, meant[line.key])
        total[how] += 1
        total["plain"] += how == "wrong" and not line.asks
        by.setdefault(f"{line.tradition}, {line.language}", Counter())[how] += 1
    _shares(total, len(all_lines))
    for kind, counts in by.items():
        figure(f"  {kind}", ", ".join(f"{many} {how}" for how, many in sorted(counts.items())))
    return total


def _shares(total: Counter[str], many: int) -> None:
    for how, wanted in WANTED.items():
        figure(f"{how}, of 100", f"{100 * total[how] / many:.1f}", wanted)
    figure("  of these plainly meant, of 100", f"{100 * total['plain'] / many:.1f}", "none")


if __name__ == "__main__":
    for a_set in sys.argv[1:]:
        found = json.dumps(said_in_full(a_set), ensure_ascii=False, indent=0)
        (HERE / f"{a_set}.json").write_text(found + "\n", "utf-8")
