"""Practice on paper, a drill or some days of it: for each stage a box to tick, and room for the tempo reached."""

from collections.abc import Sequence

from firn.core.book.book import BookPiece
from firn.core.meter.count_in import CountIn
from firn.errors import FirnError
from firn.session.cautions import CAUTIONS
from firn.session.drill_values import minutes_said
from firn.session.drilling import HEARD_AS, DrillPlan
from firn.session.paper import Paper, PaperTable
from firn.session.planning import Day

HEADS = ("", "What", "Tempo", "Sides", "Times", "Clean at", "Why")
SHARES = (4, 21, 11, 12, 7, 10, 38)
DRILL_HEADS = ("", "What", "Tempo", "Sides", "Times", "With", "Clean at")
DRILL_SHARES = (4, 30, 13, 14, 8, 22, 12)
BOX, LEFT_FREE = "☐", "_____"
_CARE = (("Take care", CAUTIONS[:3]),)


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
    return Paper(
        f"{piece.name}: practice", counted, None, (), (), sections=_CARE, tables=tuple(tables), one_page=True
    )


def drill_paper(piece: BookPiece, made: DrillPlan) -> Paper:
    """A drill, a line a stage, each with its reason below it; raises FirnError where it has no stage."""
    if not made.stages:
        raise FirnError("There is no stage in this drill yet.")
    rows = []
    for one in made.stages:
        stage = one.stage
        what = f"{one.title}\n{one.wrong or stage.why}".strip()
        heard = HEARD_AS[stage.heard].said if one.asked is None else "questions, nothing danced"
        rows.append((BOX, what, _tempo(stage.start, stage.end), stage.sides, str(stage.times), heard, LEFT_FREE))
    lasts = sum(one.seconds(CountIn()) for one in made.stages)
    counted = f"{len(rows)} {'stage' if len(rows) == 1 else 'stages'}, {minutes_said(lasts)}"
    table = PaperTable(DRILL_HEADS, tuple(rows), DRILL_SHARES)
    title = f"{piece.name}: {made.drill.name}"
    return Paper(title, counted, None, (), (), sections=_CARE, tables=(table,), one_page=True)


def _tempo(start: float, end: float) -> str:
    return f"{start:g}" if start == end else f"{start:g} to {end:g}"
