"""Rows of feet that stand beside a row of steps, as handouts print them: L R L RL.

Common practice, no source.
"""

from collections.abc import Iterator, Sequence
from itertools import groupby
from typing import NamedTuple

from msgspec.structs import replace

from firn.core.pattern import late
from firn.core.script.collector import MOST_TIMES
from firn.core.script.doubts import Doubt, Offer
from firn.core.script.items import FOOT_WRITTEN, Item, Word, WordRun
from firn.core.script.places import Use
from firn.core.script.problems import Problem
from firn.core.script.readings import LineRead
from firn.core.steps.sides import ACROSS

_HEAD = late(r"\s*+(?:feet|foot|pies)\s*+:")
_ROW = late(r"[\s,;/|·–-]*+(?:(?:[LRB]{1,8}+|\((?:[LRB]\s?+){1,8}+\))[\s,;/|·–-]*+)++")
_ROW_ES = late(r"[\s,;/|·–-]*+(?:[DI]{1,8}+[\s,;/|·–-]*+)++")
_GROUP = late(r"[LRBDI]+|\([LRB\s]+\)")
_FEET = {"L": "left", "I": "left", "R": "right", "D": "right", "B": "both"}
_LEAST = 2
"""Feet that a row has at least: one alone is a step."""
MOST_FEET = 256
"""Feet of a row that are read."""


class FeetRow(NamedTuple):
    """A row that holds feet alone: the letters of each step's, where each begins, from where to where they stand.

    `named`: it is said that they are feet.
    """

    groups: tuple[str, ...]
    columns: tuple[int, ...]
    column: int
    end: int
    named: bool

    @property
    def letters(self) -> str:
        """All of its feet."""
        return "".join(self.groups)

    @property
    def in_groups(self) -> bool:
        """Whether some step has more than one: then none of them is a step by itself."""
        return any(len(group) > 1 for group in self.groups)


def feet_row(row: str) -> FeetRow | None:
    """The feet that a row holds and nothing else; None for any other row."""
    text = row.split("#")[0].rstrip()
    head = _HEAD.match(text.casefold())
    start = head.end() if head is not None else 0
    if head is None and text.lstrip(" \t,;/|·–-()")[:1] not in _FEET:
        return None
    if not (_ROW.fullmatch(text, start) or _ROW_ES.fullmatch(text, start)):
        return None
    found = list(_GROUP.finditer(text, start))[:MOST_FEET]
    groups = tuple("".join(_letter for _letter in one[0] if _letter in _FEET) for one in found)
    if head is None and sum(map(len, groups)) < _LEAST:
        return None
    columns = tuple(one.start() for one in found)
    column = head.start() + len(text) - len(text.lstrip()) if head is not None else columns[0]
    return FeetRow(groups, columns, column, len(text), head is not None)


class CountsPut(NamedTuple):
    """Where the counts stand that were put in from another row: the text's line, from where to where."""

    line: int
    column: int
    end: int


class Filled(NamedTuple):
    """A row with what another says of it put in; where in the row as it stood, as columns with how many letters each
    takes. `under`: how it stood before that, where it was filled already; `counts`: where what was put in stands, if
    these are counts."""

    text: str
    at: tuple[tuple[int, int], ...]
    under: "Filled | None" = None
    counts: CountsPut | None = None

    def back(self, column: int) -> int:
        """A column of the row as it stands."""
        more = 0
        for place, width in self.at:
            if column <= place + more:
                break
            if column < place + more + width:
                column, more = place, 0
                break
            more += width
        column -= more
        return column if self.under is None else self.under.back(column)


def led(row: str, items: Sequence[Item], foot: str) -> Filled | None:
    """A row of steps with the foot before them that is said to lead; None where none of them has a foot, or the first
    has another."""
    first = next(_with_feet(items), None)
    if first is None or first.side not in ("", foot):
        return None
    if first.side:
        return Filled(row, ())
    put = FOOT_WRITTEN[foot]
    return Filled(f"{row[: first.column]}{put}{row[first.column :]}", ((first.column, len(put)),))


def footed(row: str, items: Sequence[Item], feet: FeetRow) -> Filled | None:
    """A row of steps with the feet beneath it; None where they are not its feet. `items`: what the row holds."""
    words = list(_with_feet(items))
    every = [word for item in items if isinstance(item, WordRun) for word in item.words]
    if len(feet.groups) == len(every) > len(words):
        # One beneath what has no foot, too: a hold, a clap.
        kept = [group for group, word in zip(feet.groups, every, strict=True) if _feet_of(word)]
        feet = feet._replace(groups=tuple(kept))
    groups = _groups(feet, words) if words else None
    if groups is None:
        return None
    put: list[tuple[int, str]] = []
    before, last = None, ""
    for word, group in zip(words, groups, strict=True):
        foot = _FEET[group[0]]
        if word is before:
            # Danced once more it goes on from where it came to.
            odd = word.card is not None and word.card.weight_changes % 2
            if foot != (ACROSS.get(last, last) if odd else last):
                return None
        elif word.side and word.side != foot:
            return None
        elif not word.side:
            written = FOOT_WRITTEN[foot]
            # Behind what is danced several times: how often may stand before it.
            put.append((word.column, written) if word.times == 1 else (word.end, f" {written.rstrip()}"))
        before, last = word, foot
    text = row
    for column, written in reversed(put):
        text = f"{text[:column]}{written}{text[column:]}"
    return Filled(text, tuple((column, len(written)) for column, written in put))


def _with_feet(items: Sequence[Item]) -> Iterator[Word]:
    """The words of a row that have feet, as often as they are danced; none where one is not known."""
    words = [word for item in items if isinstance(item, WordRun) for word in item.words]
    plain = all(isinstance(item, WordRun) for item in items)
    if plain and all(word.card is not None and word.times <= MOST_TIMES and not word.joined for word in words):
        yield from (word for word in words if _feet_of(word) for _ in range(word.times))


def may_be_of(items: Sequence[Item], feet: FeetRow) -> bool:
    """Whether feet may be those of steps some of which are not known."""
    many = sum(len(item.words) for item in items if isinstance(item, WordRun))
    return feet.named or feet.in_groups or len(feet.groups) == many


def _feet_of(word: Word) -> str:
    """The feet of a step's sounds, each as its role: AB for a rock step, AAA for a double step."""
    beats = word.card.beats if word.card is not None else ()
    return "".join(beat.role for beat in beats if beat.kind.limb == "foot" and beat.role in ("A", "B", "2"))


def _changes(of: str) -> str:
    """Feet one after another, each once for all its sounds in a row."""
    return "".join(role for role, _ in groupby(of))


def _groups(feet: FeetRow, words: Sequence[Word]) -> list[str] | None:
    """The feet of each step; None where they are not theirs: one for each step, or for each change of foot, for each
    sound, for each word as it is written."""
    each = [_feet_of(word) for word in words]
    if len(feet.groups) == len(words):
        groups = list(feet.groups)
        return groups if all(_is(group, of) for group, of in zip(groups, each, strict=True)) else None
    ways = [[len(_changes(of)) for of in each], [len(of) for of in each]]
    if not feet.in_groups:
        ways.append([_written(word) for word in words])
    for sizes in ways:
        if sum(sizes) == len(feet.letters):
            letters = iter(feet.letters)
            groups = ["".join(next(letters) for _ in range(size)) for size in sizes]
            if all(_is(group, of) for group, of in zip(groups, each, strict=True)):
                return groups
    return None


def _written(word: Word) -> int:
    return len(word.text.replace("-", " ").split())


def _is(group: str, of: str) -> bool:
    """Whether letters are the feet of a step: its first alone, or as they change from sound to sound."""
    changes, letters = _changes(of), _changes(group)
    roles = changes if len(letters) == len(changes) else changes[: len(group)]
    if len(letters) != len(roles) or (len(roles) < len(changes) and len(roles) > 1):
        return False
    seen: dict[str, str] = {}
    for letter, role in zip(letters, roles, strict=True):
        foot = _FEET[letter]
        if (role == "2") != (foot == "both") or seen.setdefault(role, foot) != foot:
            return False
    return len(set(seen.values())) == len(seen)


def doubted(number: int, row: str, feet: FeetRow, items: Sequence[Item], *, fits: bool) -> Doubt | None:
    """What is in doubt of feet in a row of their own beside steps: each by itself may be a step; None where it is
    plain, as they stand under these steps one by one. `fits`: whether they are believed to be feet."""
    words = list(_with_feet(items))
    under = bool(words) and {word.column for word in words} <= set(feet.columns)
    under = under or all(word.side for word in words)
    if feet.named or feet.in_groups or (fits and under):
        return None
    steps = "  ".join(f"{letter} step" for letter in feet.letters)
    spot = feet.column, feet.end
    offers = (
        Offer("feet_above", ("the feet of these steps",), (*spot, f"feet: {row[feet.column : feet.end]}")),
        Offer("feet_alone", (f"{len(feet.letters)} steps",), (*spot, steps)),
    )
    return Doubt(number, *spot, offers if fits else offers[::-1])


UNFITTING = (
    "These feet do not go with the steps beside them: write one for each step, or one for each change of foot."
)


def unfitting(feet: FeetRow, items: Sequence[Item] = ()) -> Problem | None:
    """What is wrong with feet that are no steps, and not those of the row beside them either, which holds `items`;
    None where they may be steps."""
    sides = [word.side for word in _with_feet(items)]
    written = len(sides) == len(feet.groups) and any(sides)
    if not (feet.named or feet.in_groups or written):
        return None
    return Problem("N112", 0, feet.column, feet.end, UNFITTING)


def as_it_stands(line: LineRead, row: Filled) -> LineRead:
    """A line as it was read with its feet and counts, in the columns of the row as it stands."""
    placed = line.placed
    words = {use.word: _back(use.word, row) for use in placed.uses}
    uses: tuple[Use, ...] = tuple(replace(use, word=words[use.word]) for use in placed.uses)
    return LineRead(
        replace(placed, uses=uses, problems=tuple(_problem_back(p, row) for p in placed.problems)),
        tuple(_problem_back(p, row) for p in line.problems),
        tuple(_doubt_back(doubt, row) for doubt in line.doubts),
    )


def _back(word: Word, row: Filled) -> Word:
    joined = tuple(_back(one, row) for one in word.joined)
    return replace(word, column=row.back(word.column), end=row.back(word.end), joined=joined)


def _problem_back(problem: Problem, row: Filled) -> Problem:
    at, width = row.at[0] if row.counts is not None else (0, 0)
    on_counts = row.counts is not None and at <= problem.column and problem.end <= at + width
    if on_counts and problem.code == "N103":
        # That there are not as many steps is mended in these.
        first = row.text[at + width :].split()[0]
        return replace(problem, column=(column := row.back(at)), end=column + len(first))
    if row.counts is not None and on_counts:
        # What is wrong with the counts is said where they stand.
        line, column, end = row.counts
        start = min(column + problem.column - at, end - 1)
        return replace(problem, line=line, column=start, end=max(start + 1, min(column + problem.end - at, end)))
    return replace(problem, column=row.back(problem.column), end=row.back(problem.end))


def _doubt_back(doubt: Doubt, row: Filled) -> Doubt:
    pairs = [_offer_back(offer, row) for offer in doubt.offers]
    made = replace(
        doubt, column=row.back(doubt.column), end=row.back(doubt.end), offers=tuple(offer for offer, _ in pairs)
    )
    if row.counts is None or not any(taken for _, taken in pairs):
        return made
    # Written beside their words, they are taken out of their own row.
    line, column, end = row.counts
    emptied = (replace(offer, written=(column, end, "") if taken else None) for offer, taken in pairs)
    return replace(made, again=(Doubt(line, column, end, tuple(emptied)),))


def _offer_back(offer: Offer, row: Filled) -> tuple[Offer, bool]:
    """What is offered, as it is written in the row as it stands; and whether the counts that were put in come with
    it."""
    if offer.written is None:
        return offer, False
    column, end, text = offer.written
    taken = False
    if row.counts is not None:
        at, width = row.at[0]
        taken = column < at + width
        if taken and end < at + width:
            end, text = at + width, text + row.text[end : at + width]
    return replace(offer, written=(row.back(column), row.back(end), text)), taken
