"""A practice on paper: its days with their stages, for each a box to tick and room for the tempo reached."""

from collections.abc import Sequence

from firn.core.book.book import BookPiece
from firn.session.cautions import CAUTIONS
from firn.session.drilling import minutes_said
from firn.session.paper import Paper, PaperTable
from firn.session.planning import Day

HEADS = ("", "What", "Tempo", "Sides", "Times", "Clean at", "Why")
SHARES = (4, 21, 11, 12, 7, 10, 38)
BOX, LEFT_FREE = "☐", "_____"


def week_paper(piece: BookPiece, days: Sequence[Day]) -> Paper:
    """A practice of some days, a table a day."""
    tables = []
    for day in days:
        title = f"{day.on:%A} {day.on.day} {day.on:%B}"
        if day.rests:
            tables.append(PaperTable((), (("Rest.",),), (1,), title=title))
            continue
        stages = [(one.title, one.stage) for one in day.stages]
        rows = tuple(
            (BOX, what, _tempo(s.start, s.end), s.sides, str(s.times), LEFT_FREE, s.why) for what, s in stages
        )
        tables.append(PaperTable(HEADS, rows, SHARES, size=14, title=f"{title}, {minutes_said(day.seconds)}"))
    counted = f"{len(days)} {'day' if len(days) == 1 else 'days'}; after three days comes one of rest"
    care = (("Take care", CAUTIONS[:3]),)
    return Paper(f"{piece.name}: practice", counted, None, (), (), sections=care, tables=tuple(tables), one_page=True)


def _tempo(start: float, end: float) -> str:
    return f"{start:g}" if start == end else f"{start:g} to {end:g}"
