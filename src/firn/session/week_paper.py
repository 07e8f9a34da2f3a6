"""A practice on paper: its days with their stages, a box to tick beside each."""

from collections.abc import Sequence

from firn.core.book.book import BookPiece
from firn.session.cautions import CAUTIONS
from firn.session.drilling import minutes_said
from firn.session.paper import Paper, PaperTable
from firn.session.planning import Day

HEADS = ("", "What", "Tempo", "Sides", "×", "Why")
SHARES = (4, 26, 13, 14, 5, 38)
BOX = "☐"


def week_paper(piece: BookPiece, days: Sequence[Day]) -> Paper:
    """A practice of some days, a table a day."""
    tables = []
    for day in days:
        title = f"{day.on:%A} {day.on.day} {day.on:%B}"
        if day.rests:
            tables.append(PaperTable((), (("Rest.",),), (1,), title=title))
            continue
        stages = [(one.title, one.stage) for one in day.stages]
        rows = tuple((BOX, what, _tempo(s.start, s.end), s.sides, str(s.times), s.why) for what, s in stages)
        tables.append(PaperTable(HEADS, rows, SHARES, size=14, title=f"{title}, {minutes_said(day.seconds)}"))
    counted = f"{len(days)} {'day' if len(days) == 1 else 'days'}; after three days comes one of rest"
    care = (("Take care", CAUTIONS[:3]),)
    return Paper(f"{piece.name}: practice", counted, None, (), (), sections=care, tables=tuple(tables), one_page=True)


def _tempo(start: float, end: float) -> str:
    return f"{start:g}" if start == end else f"{start:g} to {end:g}"
