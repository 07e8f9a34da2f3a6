"""Rows of a handout that are no steps: heads of its columns, the numbers of a list, the foot that leads.

Common practice, no source.
"""

import re
from collections.abc import Callable, Mapping, Sequence
from functools import lru_cache
from itertools import pairwise
from operator import attrgetter, itemgetter
from typing import NamedTuple

from firn.core.pattern import late
from firn.core.script.again import again_of
from firn.core.script.said import NUMBERS, SIDES

Row = tuple[int, str]
"""A line of a text with its number."""

Besides = Callable[[str], bool]
"""Whether a row stands beside those of a list, and is none of it."""

_COUNTED = frozenset({"count", "counts", "cts", "beat", "beats", "tiempo", "tiempos", "cuenta", "cuentas", "conteo"})
_COLUMNS = _COUNTED | {
    "foot", "feet", "step", "steps", "sound", "sounds", "move", "moves", "movement", "movements", "side", "weight",
    "pie", "pies", "paso", "pasos", "lado", "sonido", "sonidos", "peso",
}  # fmt: skip
_COLUMN = late(r"[^\W\d_]+")
_RULES, _RULED = ("---", "===", "___"), frozenset(" \t|:+=_-")
_LEAST_COLUMNS = 2

_ROWS = (
    _COUNTED | {"counting", "timing", "rhythm", "ritmo"},
    frozenset({"step", "steps", "sound", "sounds", "move", "moves", "paso", "pasos"}),
)
_ROW = late(r"\s*+([^\W\d_]+)\s*+:\s*+(?=\S)")

_LONG = late(r"\s*+(4|6|8|12|16|32)(?=:\s)")

_NUMBERED = late(r"\s*+(?:step|paso|move|figure|figura)\s+\d{1,2}\s*+([-–—])(?=\s)(?!.*\d)", re.IGNORECASE)
_DASHED = late(r"\s*+[^\W\d_][^\d|]*?\s([-–—=])\s+[\d&][\d\s&aei,+–-]*+(?:#.*)?")
_LENGTH_FIRST = late(r"\s*+(\()\d{1,3}\s(?:counts?|cts?|beats?|tiempos?)(\))\s", re.IGNORECASE)
_IN_BRACKETS = late(r"\s*+[(\[]([^()\[\]]*+)[)\]]\s*+")

_SIGNED = late(r"\s*+#\s?(\d{1,2})[.:)]?+\s++(?=\S)")
_TITLED = late(
    r"(?:(?:the|our|your|this|new|basic|whole|el|la)\s++)*+(?:steps?|moves?|pasos?|combination|sequence|routine)\s*+:",
    re.IGNORECASE,
)
_OVER = late(
    r"[-=*_~\s]*+(?:intro(?:duction)?|outro|verse|chorus|bridge|refrain|warm[- ]?up|cool[- ]?down"
    r"|(?:first|second|last)\s++half|(?:section|phrase|wall)\s++(?:\d{1,2}|[A-Z]|one|two|three|four)"
    r"|introducci[oó]n|estribillo|estrofa|coro|puente|calentamiento)(?:\s++\d{1,2})?+\s*+"
    r"(?:[(–—-]\s*+\d{1,3}\s++(?:counts?|cts?|beats?|bars?|tiempos?|compases)\s*+\)?)?+[:=*_~\s-]*+",
    re.IGNORECASE,
)
"""What stands alone over some lines and says which part of a tune, or of a class, these are."""
_LISTED = late(r"\s*(\d{1,2}|[IVX]{1,4})[.)]\s+(?=\D)")
_BEGUN = late(r"\s*+(?:\d{1,2}+|[IVX]{1,4}+)?+[.):]?+\s*+")
_ROMAN = ("I", "II", "III", "IV", "V", "VI", "VII", "VIII", "IX", "X", "XI", "XII")
_LEAST_LISTED = 2

_STEP_NUMBER = late(r"\s*+(?:step|paso)\s++(\d{1,2}|[^\W\d_]{1,12}+)\s*+[:.)]?\s*+", re.IGNORECASE)
_MANY = late(r"\s*+(\d{1,2})\s+([^\W\d_]{2,})[^\d]*")

_FOOT = r"(?P<{}>left|right|l|r|izquierd[ao]|derech[ao])"
_LEADS = late(
    rf"""\s*+(?:
        (?:(?:the|el|la)\s++)?{_FOOT.format("first")}(?:\s++(?:foot|leg|pie|pierna))?\s++(?:leads?|leading|first|starts|begins|primero|empieza)
        |(?:lead|leads|leading|start|starts|starting|begin|begins|beginning|empieza|empezando|empezar|comienza)
            (?:\s++(?:foot|leg|pie|lead))?\s*+:?\s*+(?:(?:with|on|con|off|from)\s++)?(?:(?:the|your|el|la)\s++)?
            {_FOOT.format("last")}(?:\s++(?:foot|leg|pie|pierna|lead))?
    )\s*+[.:,;!]?\s*+""",
    re.IGNORECASE | re.VERBOSE,
)
_AGAIN = late(
    r"\s*+(?:(?:counts?|cts?|beats?|tiempos?)\s+)?(\d{1,3})\s?[-–]\s?(\d{1,3})[:.)]?\s+(?=\D)", re.IGNORECASE
)
_LENGTH = late(r"\s*+\d{1,3}\s?(?:counts?|cts?|beats?|tiempos?)(?=\s*\t|\s{2,}\S)", re.IGNORECASE)
_TITLE = late(r"[^:#]*+:\s*+|[^()#]*+\(\d{1,3}\s?(?:counts?|cts?|beats?|tiempos?)?\)\s*+:?\s*+", re.IGNORECASE)
_ON_AND = late(r"[\s|]*+[&e]\s", re.IGNORECASE)
_ON_A = late(r"[\s|]*+a(?=[\s|]++\w+)")


def as_plain(rows: Sequence[Row]) -> Sequence[Row]:
    """Rows without what only says of them what they hold: heads of columns, Counts: and Steps:, which number a step
    has, brackets about "repeat three times" or "8 counts", a dash between steps and their counts."""
    # A row at a time in no loop of ours: a long text is looked through at each key.
    said = [*map(_said, map(itemgetter(1), rows))]
    if all(map(attrgetter("itself"), said)):
        return rows
    if not _headed(said) and not any(map(attrgetter("signed"), said)):
        return [*zip(map(itemgetter(0), rows), map(attrgetter("plain"), said), strict=True)]
    rows = without_signs([(number, "" if _is_header(row) else row) for number, row in rows])
    headed = _headed([_said(row) for _, row in rows])
    return [(number, _plain(row, headed=headed)) for number, row in rows]


def _headed(rows: "Sequence[_Said]") -> bool:
    """Whether some rows are headed as counts, and others as steps."""
    heads = set(map(attrgetter("head"), rows))
    return all(heads & names for names in _ROWS)


class _Said(NamedTuple):
    """What a row of a handout is by itself: whether that is all; itself without what only says of it what it holds;
    its head, one word before a colon, "" for none; whether a sign numbers it."""

    itself: bool
    plain: str
    head: str
    signed: bool


@lru_cache(maxsize=20_000)
def _said(row: str) -> _Said:
    bare = "" if _is_header(row) else row
    match, signed = _ROW.match(bare), _SIGNED.match(bare) is not None
    plain = _plain(bare, headed=False)
    head = "" if match is None else match[1].casefold()
    return _Said(plain == row and not head and not signed, plain, head, signed)


def without_signs(rows: Sequence[Row]) -> Sequence[Row]:
    """Rows without the numbers that they have in a list behind a sign, #1 and #2 and so on, which else begins a
    note."""
    found = {number: match for number, row in rows if (match := _SIGNED.match(row))}
    if len(found) < _LEAST_LISTED or [int(one[1]) for one in found.values()] != list(range(1, len(found) + 1)):
        return rows
    return [(number, _blanked(row, found[number].end()) if number in found else row) for number, row in rows]


@lru_cache(maxsize=20_000)
def _plain(row: str, *, headed: bool) -> str:
    if headed and (match := _ROW.match(row)) and any(match[1].casefold() in names for names in _ROWS):
        row = _blanked(row, match.end())
    if match := _NUMBERED.match(row):
        row = f"{row[: match.start(1)]}:{row[match.end(1) :]}"
    if match := _LENGTH_FIRST.match(row):
        row = f"{row[: match.start(1)]} {row[match.end(1) : match.start(2)]}:{row[match.end(2) :]}"
    if match := _DASHED.fullmatch(row):
        # Behind several steps it parts their counts from all of them.
        before = row[: match.start(1)]
        row = f"{before}{',' if ',' in before else ' '}{row[match.end(1) :]}"
    match = _IN_BRACKETS.fullmatch(row)
    if match is not None and again_of(match[1]) is not None:
        row = f"{' ' * match.start(1)}{match[1]}"
    return row


def lengths(rows: Sequence[Row], besides: Besides) -> dict[int, int]:
    """For rows that each begin with how many counts they take, 8: and 8: and 4:, where that ends, by the rows' own
    numbers; nothing where these numbers go up, as counts do."""
    found = _each(rows, besides, _LONG.match)
    return {} if _rising(found) else {number: match.end() for number, match in found.items()}


def _each(
    rows: Sequence[Row], besides: Besides, begins: Callable[[str], "re.Match[str] | None"]
) -> dict[int, "re.Match[str]"]:
    """How each row of a list begins, by the rows' own numbers, but for those `besides` these and what says which foot
    leads; nothing where one begins otherwise, or there is but one."""
    opens = next((row for _, row in rows if row.strip() and not lead_of(row)), "")
    if begins(opens) is None:
        return {}
    # One that is still being typed changes nothing of the others.
    listed = ((number, row) for number, row in rows if _BEGUN.fullmatch(row) is None)
    filled = [(number, row) for number, row in listed if not lead_of(row) and not besides(row)]
    found = {number: match for number, row in filled if (match := begins(row)) is not None}
    return found if len(found) == len(filled) >= _LEAST_LISTED else {}


def _rising(found: Mapping[int, "re.Match[str]"]) -> bool:
    """Whether the numbers of rows go up from each to the next."""
    return all(before < after for before, after in pairwise(int(match[1]) for match in found.values()))


@lru_cache(maxsize=20_000)
def _is_header(row: str) -> bool:
    """Whether a row only says what stands in its columns, or rules them off."""
    text = row.split("#")[0].strip()
    if set(text) <= _RULED and any(rule in text for rule in _RULES):
        return True
    if _TITLED.fullmatch(text) or _OVER.fullmatch(text):
        # "The step:", "Chorus" over its own.
        return True
    first = _COLUMN.search(text[:1])
    if first is None and not text.startswith("|"):
        return False
    names = [name.casefold() for name in _COLUMN.findall(text)]
    named = len(names) >= _LEAST_COLUMNS and all(name in _COLUMNS for name in names)
    return named and any(name in _COUNTED for name in names) and not any(letter.isdigit() for letter in text)


def how_many(rows: Sequence[Row], besides: Besides) -> dict[int, int]:
    """For the rows of a list of so many each, 4 Basics, 2 Triples, 1 Chain, where their numbers end, by the rows' own
    numbers; nothing where they go up, as counts do. One is left out, below 0, as it is said of no more."""
    found = _each(rows, besides, _MANY.fullmatch)
    many = [(match[1], match[2]) for match in found.values()]
    counted = any(name.casefold() in _COUNTED for _, name in many)
    several = any(number != "1" for number, _ in many) and all(
        number == "1" or _several(name) for number, name in many
    )
    if _rising(found) or counted or not several:
        return {}
    begun = {number: -len(row) for number, row in rows if _BEGUN.fullmatch(row)}
    return begun | {number: match.end(1) * (-1 if match[1] == "1" else 1) for number, match in found.items()}


def _several(name: str) -> bool:
    """Whether a word is said of several, or in letters, which have no such form."""
    return (name.casefold().endswith("s") and not name.casefold().endswith("ss")) or name.isupper()


def without_list_numbers(rows: Sequence[Row], besides: Besides) -> Sequence[Row]:
    """Rows without the numbers that they have in a list, 1. and 2. and so on, where each has its own but those
    `besides` these."""
    found = _each(rows, besides, _LISTED.match)
    numbers = [match[1] for match in found.values()]
    told = [*map(str, range(1, len(numbers) + 1))]
    if not numbers or numbers not in (told, list(_ROMAN)[: len(numbers)]):
        return rows
    begun = {number: len(row) for number, row in rows if _BEGUN.fullmatch(row)}
    ends = begun | {number: match.end() for number, match in found.items()}
    return [(number, _blanked(row, ends[number]) if number in ends else row) for number, row in rows]


def without_step_numbers(rows: Sequence[Row]) -> Sequence[Row]:
    """Rows without those that only number the steps in the rows below them: Step one, Step two, each over its own."""
    if not any(map(_numbers_step, map(itemgetter(1), rows))):
        return rows
    said = [(number, row) for number, row in rows if row.strip()]
    found = [(at, match[1].casefold()) for at, (_, row) in enumerate(said) if (match := _STEP_NUMBER.fullmatch(row))]
    if len(found) < _LEAST_LISTED or found[0][0]:
        return rows
    order = [NUMBERS.get(name) or (int(name) if name.isdecimal() else 0) for _, name in found]
    places = [*(at for at, _ in found), len(said)]
    over = all(after > at + 1 for at, after in pairwise(places))
    if not over or order != list(range(1, len(found) + 1)):
        return rows
    gone = {said[at][0] for at, _ in found}
    return [(number, "" if number in gone else row) for number, row in rows]


@lru_cache(maxsize=20_000)
def _numbers_step(row: str) -> bool:
    return _STEP_NUMBER.fullmatch(row) is not None


def _blanked(row: str, end: int) -> str:
    return " " * end + row[end:]


def lead_of(row: str) -> str:
    """The foot that a row says leads in the next, and nothing else: left foot lead, start with the right; "" for any
    other row."""
    match = _LEADS.fullmatch(row.split("#")[0]) if len(row) <= _LONGEST else None
    return "" if match is None else SIDES[(match["first"] or match["last"]).casefold()]


_LONGEST = 60
"""Letters of a row that says which foot leads."""


def span_of_again(row: str) -> tuple[str, int]:
    """A row without the counts before it from which to which it is danced, as 5-8 repeat; and how many these are, 0
    for a row that has none."""
    match = _AGAIN.match(row)
    if match is None or int(match[2]) <= int(match[1]):
        return row, 0
    return _blanked(row, match.end()), int(match[2]) - int(match[1]) + 1


def divided(row: str) -> tuple[bool, int]:
    """Whether a row begins on an & or an e; and where an "a" ends that it begins with, which may be its count, 0 for
    none."""
    match = _ON_A.match(row)
    return _ON_AND.match(row) is not None, 0 if match is None else match.end()


def length_of(row: str) -> int:
    """Where the number of counts ends that a row begins with, a gap behind it: 8 counts  flaps; 0 for none."""
    match = _LENGTH.match(row)
    return 0 if match is None else match.end()


def is_title(row: str) -> bool:
    """Whether a row is written as what stands over others: Basic:, BASIC (2 beats)."""
    return _TITLE.fullmatch(row) is not None
