"""A dance on paper for whoever calls or learns it: a cue sheet, a line a figure; a table of counts; words in another
language."""

from collections.abc import Iterator, Sequence
from fractions import Fraction
from itertools import groupby, pairwise

from msgspec.structs import replace

from firn.core.piece.formation import formation
from firn.core.piece.piece import Part, Piece
from firn.core.piece.unfold import Unfolded, unfold
from firn.core.reading.ledger import Entry, Ledger
from firn.core.reading.ledger import ledger as ledger_of
from firn.core.script.turns import turn_text
from firn.core.steps.card import Card
from firn.core.steps.kinds import kind_said
from firn.core.steps.names import fold
from firn.errors import FirnError
from firn.session.cards import LANGUAGES
from firn.session.ledger import totals_said
from firn.session.paper import Drawing, Paper, PaperTable, paper_title
from firn.session.stretch import Stretch, across, combo_stretch, part_stretch

FIGURES = ("", "Figure", "×", "Counts", "Begins on", "Turns", "Then faces", "Changes")
SHARES = (3, 22, 5, 11, 13, 13, 17, 16)
NAMES = 2
"""So many names of a step in another language are enough."""

LARGE, SMALL = 26, 13


def cue_paper(piece: Piece, *, languages: Sequence[str] = ()) -> Paper:
    """The cue sheet of a piece: its combo figure by figure, or its parts in order where it has none; raises FirnError
    where there is nothing in it."""
    settings = piece.settings
    if piece.combo:
        whole = unfold(piece)
        kept = ledger_of(piece, whole)
        figures = list(_figures(kept, piece))
        named = list(dict.fromkeys(entry.part for entry in kept.entries))
        last = totals_said(kept, settings.meter.counts)
    else:
        parts = [p for p in piece.parts if p.sounds]
        named = [p.name for p in parts]
        figures = [
            (str(n), p.name, "1", str(p.counts), p.footing.first or settings.lead, "", "", "")
            for n, p in enumerate(parts, 1)
        ]
        last = f"{sum(p.counts for p in parts)} counts."
    if not figures:
        raise FirnError("There is nothing to write down yet: it has no steps.")
    said = [(name, _said(piece.part(name))) for name in named]
    words = PaperTable((), tuple((name, text) for name, text in said if text), (12, 88), size=15)
    counted = f"{settings.meter}, {settings.feel}, {settings.tempo:g} counts a minute; {settings.lead} foot first"
    tune = settings.tune
    sections: list[tuple[str, tuple[str, ...]]] = [("All of it", (last,))]
    sections += [("Tune", (settings.tune_said,))] if tune is not None else []
    floor = tuple(dict.fromkeys(f"{name}, {item.part}: {said}" for item in piece.combo for name, said in item.notes))
    sections += [("On the floor", floor)] if floor else []
    over = tuple(f"From {item.part} on, {across.said}" for item in piece.combo for across in item.across)
    sections += [("Over the parts", tuple(dict.fromkeys(over)))] if over else []
    sections += _words_in(_cards(piece), languages)
    tables = (PaperTable(FIGURES, tuple(figures), SHARES, size=17), words)
    return Paper(
        f"{settings.name}: cue sheet", counted, None, (), (), sections=tuple(sections), tables=tables, one_page=True,
        drawings=_drawings(piece),
    )  # fmt: skip


def _drawings(piece: Piece) -> tuple[Drawing, ...]:
    """How all stand, of each thing that is said of it and can be drawn, in the order of the dance."""
    said = dict.fromkeys((text, item.part) for item in piece.combo for name, text in item.notes if name != "partner")
    drawn = ((part, text, formation(text)) for text, part in said)
    return tuple(Drawing(f"{part}: {text}, drawn for {len(there)}", there) for part, text, there in drawn if there)


def _figures(kept: Ledger, piece: Piece) -> Iterator[tuple[str, ...]]:
    """A row a figure: the same danced again is one, as long as it is danced alike."""
    alike = groupby(kept.entries, key=lambda e: (e.group, e.part, e.begins, e.ends, e.counts, e.turn))
    runs = (part for _, run in alike for part in _at_sections(list(run)))
    for number, entries in enumerate(runs, 1):
        first, last = entries[0], entries[-1]
        feet = dict.fromkeys(e.foot_in for e in entries)
        part = piece.part(first.part)
        where = f"{first.who.capitalize()}: " if first.who else ""
        where += f"{first.section}: " if first.section else ""
        yield (
            str(number), f"{where}{first.part}", str(len(entries)), _counts(first, len(entries)),
            " then ".join(feet) if len(feet) > 1 else first.foot_in, _turn(first, part), last.wall,
            "; ".join(filter(None, (
                first.begins and f"begins {first.begins}", first.ends and f"ends {first.ends}",
            ))),
        )  # fmt: skip


def _at_sections(run: list[Entry]) -> Iterator[list[Entry]]:
    """A run of the same figure, cut where a section begins."""
    starts = [0, *(n for n, one in enumerate(run) if n and one.section), len(run)]
    yield from (run[start:end] for start, end in pairwise(starts))


def _counts(entry: Entry, times: int) -> str:
    return str(entry.counts) if times == 1 else f"{entry.counts} ({times * entry.counts})"


def _turn(entry: Entry, part: Part | None) -> str:
    return turn_text(entry.turn) if entry.turn and part is not None else ""


def _said(part: Part | None) -> str:
    """A part as it is said, in one line."""
    if part is None:
        return ""
    return " / ".join(" ".join(line.split("#")[0].split()) for line in part.script.text.split("\n") if line.strip())


def _cards(piece: Piece) -> list[Card]:
    return list(dict.fromkeys(u.card for p in piece.parts for u in p.uses if not u.layer))


def in_both(stretch: Stretch, piece: Piece, language: str) -> Stretch:
    """A stretch with the names of its steps in another language too, her own word first; as it is where "" is asked
    for. Raises FirnError for a language that no card knows."""
    if not language:
        return stretch
    known: dict[str, str] = {}
    for card in _cards(piece):
        theirs = _names_in(card, language)
        known |= dict.fromkeys((fold(name) for name in (card.name, *card.aliases)), theirs[0]) if theirs else {}

    def both(text: str) -> str:
        other = known.get(fold(text), text)
        return text if fold(other) == fold(text) else f"{text} / {other}"

    return replace(stretch, words=tuple((index, both(text)) for index, text in stretch.words))


def _names_in(card: Card, language: str) -> list[str]:
    if language not in LANGUAGES:
        raise FirnError(f"Steps have names in {', '.join(LANGUAGES)}, not {language}.")
    return [a.name for a in card.also if a.language == language][:NAMES]


def _words_in(cards: Sequence[Card], languages: Sequence[str]) -> list[tuple[str, tuple[str, ...]]]:
    """The steps in other languages, her own word first, as far as their cards know it."""
    found = []
    for language in languages:
        rows = []
        for card in cards:
            names = _names_in(card, language)
            rows += [f"{card.name}: {', '.join(names)}"] if names else []
        found.append((f"In {LANGUAGES[language]}", tuple(rows) or ("Its steps have no names in it yet.",)))
    return found


# A table of counts


def count_paper(piece: Piece, part: Part | None, *, swapped: bool = False) -> Paper:
    """A part, or the combo for None, as a table of counts: a column for each division that is used; to be read from
    afar. Raises FirnError where there is nothing in it."""
    stretch = part_stretch(part) if part is not None else combo_stretch(piece, _whole(piece))
    if not stretch.sounds:
        raise FirnError("There is nothing to write down yet: it has no steps.")
    stretch = across(stretch) if swapped else stretch
    name = part.name if part is not None else "combo"
    tables = tuple(_phrases(stretch))
    side = ", other side" if swapped else ""
    counted = f"{stretch.counting.meter}, {piece.settings.feel}{side}; L left, R right, (L) without weight"
    return Paper(paper_title(piece.settings, name), counted, None, (), (), tables=tables)


def _whole(piece: Piece) -> Unfolded:
    return unfold(piece)


COLUMNS = 16
"""So many columns stand beside each other at most."""


def _phrases(stretch: Stretch) -> Iterator[PaperTable]:
    words = dict(stretch.words)
    begin = min([stretch.first, *(Fraction(s.place // 1) for s in stretch.sounds)])
    while begin < stretch.end:
        here, _ = stretch.counting.here(begin)
        size = here.phrase if begin >= stretch.first else int(stretch.first - begin)
        for end in (begin + size, begin + max(1, size // 2), begin + max(1, size // 4), begin + 1):
            inside = [(i, s) for i, s in enumerate(stretch.sounds) if begin <= s.place < end and not s.layer]
            places = sorted({*(s.place for _, s in inside), *_whole_counts(begin, min(end, stretch.end))})
            if len(places) <= COLUMNS:
                break
        said, named, feet = [], [], []
        for place in places:
            mine = [(i, s) for i, s in inside if s.place == place]
            said.append(stretch.counting.counted(place) if place.denominator == 1 else _letter(stretch, place))
            named.append(" ".join(words.get(i, "") for i, _ in mine).strip())
            feet.append(" ".join(_foot(s.foot, s.weight) + " " + kind_said(s.kind) for _, s in mine).strip())
        title = next((text for at, text in stretch.titles if begin <= at < end), "")
        rows = (tuple(said), tuple(named), tuple(feet))
        yield PaperTable((), rows, (1,) * len(places), size=15, first=LARGE, title=title, ruled=True)
        begin = Fraction(end)


def _whole_counts(begin: Fraction, end: Fraction) -> Iterator[Fraction]:
    return (Fraction(c) for c in range(int(-(-begin // 1)), int(-(-end // 1))))


def _letter(stretch: Stretch, place: Fraction) -> str:
    here, at = stretch.counting.here(place)
    return here.letter(at) if here.letter(at) else here.say(at)


def _foot(foot: str, weight: str) -> str:
    side = {"left": "L", "right": "R", "both": "LR"}.get(foot, "")
    return side if not side or weight in (foot, "both") else f"({side})"
