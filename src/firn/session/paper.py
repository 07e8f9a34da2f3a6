"""What stands on paper for a part or a combo: its heading, its strip, the words as said, and what is worth a look."""

from msgspec import Struct
from msgspec.structs import astuple, replace

from firn.core.meter.count_in import CountIn
from firn.core.piece.formation import Dancer
from firn.core.piece.piece import Part, Piece
from firn.core.piece.unfold import Unfolded
from firn.core.reading.profile import OVERS
from firn.core.reading.rounds import rounds
from firn.core.script.reader import lines_of
from firn.core.script.settings import Settings
from firn.session.ledger import LEDGER, ledger
from firn.session.note import Note
from firn.session.reading import MeasureRow, grouped, rows
from firn.session.rhythm import pace_said, rounds_said, used_said
from firn.session.stretch import Stretch
from firn.session.transport import count_in_text
from firn.session.view import PLAIN, View, seen

LEGEND = (
    "Time runs left to right; L above, R below. What is filled strikes the floor: ball, heel, tip or the whole foot. "
    "The thread is where the weight is. Lines under a sole: brushed forward; above: back. A bar: leaned on."
)


class PaperTable(Struct, frozen=True):
    """A table: `heads` (none for a table without), rows of as many cells, the width of each column as a share, and
    the size of its letters; `first`: that of the first row's, 0 for the same. `title` stands above it; `ruled`
    between its columns too."""

    heads: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    shares: tuple[int, ...]
    size: int = 15
    first: int = 0
    title: str = ""
    ruled: bool = False


class Drawing(Struct, frozen=True):
    """Those who dance, seen from above, with what is said of how they stand."""

    title: str
    dancers: tuple[Dancer, ...]


class Paper(Struct, frozen=True):
    """A sheet in words and sounds: `title`, `counted` (how it counts), the stretch (None for words alone), the lines
    of the script, the notes.

    `sections`: what comes after them, lines under their headings. `tables` stand before both; `one_page`: it is made
    as small as it must be to stand on one, within reason. `beside`: more strips with their names, row by row below
    each other, in place of the one stretch. `drawings` stand after the tables;
    `hall`: in letters to be read across a hall.
    """

    title: str
    counted: str
    stretch: Stretch | None
    said: tuple[str, ...]
    notes: tuple[Note, ...]
    view: View = PLAIN
    sections: tuple[tuple[str, tuple[str, ...]], ...] = ()
    tables: tuple[PaperTable, ...] = ()
    one_page: bool = False
    beside: tuple[tuple[str, Stretch], ...] = ()
    drawings: tuple[Drawing, ...] = ()
    hall: bool = False


CHECK = ": the check"


def check_paper(sheet: Paper, part: Part | None, combo: tuple[Piece, Unfolded] | None, tempo: float) -> Paper:
    """The sheet of a check: what is to be done, grouped, then the rhythm of a part, or a combo's ledger."""
    sections: list[tuple[str, tuple[str, ...]]] = []
    if part is not None and part.sounds:
        shown = rounds(part)
        sections.append(("Counts", tuple(used_said(part).split("\n"))))
        sections.append(("Round", (rounds_said(shown),) if shown else ()))
        sections.append(("Pace", (pace_said(part, tempo),)))
        for over in OVERS:
            lines = tuple(_measured(row) for row in rows(part, over))
            sections.append((f"Measured over {over}", lines))
        sections.append(("What the measures say", tuple(f"{row.name}: {row.says}" for row in rows(part, OVERS[0]))))
    if combo is not None:
        lines = tuple("    ".join(astuple(row)) for row in ledger(*combo))
        sections.append((f"Ledger: {', '.join(name.lower() for name in LEDGER)}", lines))
    told = tuple((head, lines) for head, lines in sections if lines)
    return replace(sheet, title=sheet.title + CHECK, notes=tuple(grouped(sheet.notes)), sections=told)


def paper_title(settings: Settings, title: str, *, check: bool = False) -> str:
    """What stands above a sheet, and what its file is called."""
    return f"{settings.name}, {title}{CHECK if check else ''}"


def _measured(row: MeasureRow) -> str:
    by_phrase = f" (by phrase {', '.join(row.phrases)})" if row.phrases else ""
    return f"{row.name} {row.value}{by_phrase}"


def paper(
    settings: Settings, title: str, stretch: Stretch, script: str, notes: tuple[Note, ...], view: View = PLAIN
) -> Paper:
    """The sheet of a part or combo, as a view shows it."""
    counting = settings.counting
    begins = min([s.position for s in stretch.sounds] + [stretch.first])
    led = settings.count_in if settings.count_in.pattern != "none" else CountIn()
    lone = {"triplet": "the last triplet", "sixteenth": "the last sixteenth"}[counting.lone_a]
    counted = (
        f"{settings.meter}, {settings.feel}, a lone a on {lone}; {settings.tempo:g} counts a minute; "
        f"counted in {count_in_text(led.said(begins, counting))}; {settings.lead} foot first"
    )
    said = tuple(line.rstrip() for line in lines_of(script) if line.strip())
    return Paper(paper_title(settings, title), counted, seen(stretch, view), said, notes, view)
