"""A combo changed by hand: an edit of its items, and the text that reads back as what they then are."""

from collections.abc import Sequence
from itertools import groupby

from msgspec.structs import replace

from firn.core.script.combo_item import MOST_TIMES, ComboItem, ordinal
from firn.core.script.combo_parts import MOST_ITEMS
from firn.core.script.piece_text import combo_of
from firn.core.script.turns import turn_text
from firn.errors import FirnError

_SIDE_SAID = {"other": "other side", "right": "right", "left": "left", "as written": "as written"}


class ComboEditError(FirnError):
    """A change that a combo cannot take."""


def item_text(item: ComboItem) -> str:
    """An item as it is written: A x2, other side, turn 1/4 right, last time ends: & touch."""
    often = f" x{item.times}" if item.times > 1 else ""
    said = [f"{item.part}{often}"]
    said += [_SIDE_SAID[item.side]] if item.side else []
    said += ["never swaps"] if item.never_swaps else []
    said += [f"turn {turn_text(item.turn)}"] if item.turn else []
    said += [f"begins: {item.begins}"] if item.begins else []
    said += [f"first time begins: {item.first_begins}"] if item.first_begins else []
    said += [f"ends: {item.ends}"] if item.ends else []
    said += [f"{ordinal(time)} time ends: {ends}" for time, ends in item.time_ends]
    said += [f"last time ends: {item.last_ends}"] if item.last_ends else []
    return ", ".join(said)


def combo_text(items: Sequence[ComboItem]) -> str:
    """Items written anew, those that stood on a line together on one."""
    lines = []
    for (block, _), together in groupby(items, key=lambda item: (item.block, item.line)):
        members = list(together)
        said = ", ".join(item_text(item) for item in members)
        lines.append(f"{_who(members[0])}{said}" if block else said)
    return "\n".join(lines)


def _who(item: ComboItem) -> str:
    if not item.group:
        return "all: "
    name = item.who or f"group {item.group}"
    together = "" if item.who == "follow" else ", together"
    after = "" if item.after is None else together if item.after == 0 else f", after {item.after}"
    return f"{name}{after}: "


def meaning(items: Sequence[ComboItem]) -> list[ComboItem]:
    """Items without where they stand in the text, and without the notes in lines of their own, which stay where they
    are; blocks of groups numbered from the first."""
    blocks = sorted({item.block for item in items} | {0})
    return [
        replace(
            item,
            line=0,
            column=0,
            end=0,
            until=(0, 0),
            block=blocks.index(item.block),
            notes=(),
            section="",
            across=(),
        )
        for item in items
    ]


def once_more(items: Sequence[ComboItem], index: int, by: int) -> list[ComboItem]:
    """An item danced so many times more, or fewer for less than 0; raises ComboEditError past 1 and the most."""
    item = items[index]
    times = item.times + by
    if not 1 <= times <= MOST_TIMES:
        said = "once" if item.times == 1 else f"{item.times} times"
        raise ComboEditError(f"{item.part} is danced {said}: it cannot be danced {times} times.")
    ends = tuple(one for one in item.time_ends if one[0] <= times)
    return _with(items, index, replace(item, times=times, time_ends=ends))


def other_side(items: Sequence[ComboItem], index: int) -> list[ComboItem]:
    """An item begun on the other side than as it is written, or as it comes again."""
    item = items[index]
    return _with(items, index, replace(item, side="" if item.side == "other" else "other"))


def turned(items: Sequence[ComboItem], index: int, item: ComboItem) -> list[ComboItem]:
    """An item in place of another, such as with another turn or ending."""
    return _with(items, index, item)


def moved(items: Sequence[ComboItem], index: int, way: int) -> list[ComboItem]:
    """An item one place later, or earlier for a `way` below 0; raises ComboEditError past the ends of its line of a
    group, or of the whole."""
    other = index + (1 if way > 0 else -1)
    if not 0 <= other < len(items) or items[other].block != items[index].block:
        raise ComboEditError(f"{items[index].part} is the {'last' if way > 0 else 'first'} already.")
    made = list(items)
    one, two = made[index], made[other]
    # Each takes the other's place in the text, too.
    made[index], made[other] = _placed_as(two, one), _placed_as(one, two)
    return made


def left_out(items: Sequence[ComboItem], index: int) -> list[ComboItem]:
    """Items without one of them."""
    return [*items[:index], *items[index + 1 :]]


def put_after(items: Sequence[ComboItem], index: int, item: ComboItem) -> list[ComboItem]:
    """One more item after one of them; raises ComboEditError where there are too many."""
    if len(items) >= MOST_ITEMS:
        raise ComboEditError(f"A combo has {MOST_ITEMS} parts at most.")
    if not items:
        return [item]
    after = items[index]
    made = replace(item, group=after.group, block=after.block, after=after.after, line=after.line, who=after.who)
    return [*items[: index + 1], made, *items[index + 1 :]]


def _with(items: Sequence[ComboItem], index: int, item: ComboItem) -> list[ComboItem]:
    return [*items[:index], item, *items[index + 1 :]]


def _placed_as(item: ComboItem, other: ComboItem) -> ComboItem:
    return replace(item, line=other.line, column=other.column, end=other.end, until=other.until)


def edited(text: str, items: Sequence[ComboItem], wanted: Sequence[ComboItem], names: Sequence[str]) -> str:
    """A combo's text changed so that it reads as `wanted` where it read as `items`.

    Only what is said of the items that differ is written anew, notes and lines kept; where that would not read back,
    all of it is, unless it holds notes or what is not understood, which raises ComboEditError.
    """
    lines = text.split("\n")
    made = _in_place(lines, items, wanted)
    if made is not None and _reads_as(made, wanted, names):
        return made
    _, meant, problems = combo_of(lines, names)
    if "#" in text or problems or meant or any(item.notes or item.section or item.across for item in items):
        raise ComboEditError("Its notes, lines of hands or sections would be lost: change the words themselves.")
    made = combo_text(wanted)
    if not _reads_as(made, wanted, names):
        raise ComboEditError("That cannot be written so that it reads back: change the words themselves.")
    return made


def _reads_as(text: str, wanted: Sequence[ComboItem], names: Sequence[str]) -> bool:
    items, _, problems = combo_of(text.split("\n"), names)
    return not problems and meaning(items) == meaning(wanted)


def _in_place(lines: Sequence[str], items: Sequence[ComboItem], wanted: Sequence[ComboItem]) -> str | None:
    """The text with the words of those items changed that differ; None where they are not one to one, or one more or
    fewer."""
    made = list(lines)
    if len(items) == len(wanted):
        pairs = [(was, now) for was, now in zip(items, wanted, strict=True) if meaning([was]) != meaning([now])]
        for was, now in sorted(pairs, key=lambda pair: (pair[0].line, pair[0].column), reverse=True):
            _write(made, was, item_text(now))
        return "\n".join(made)
    at = next((n for n, (was, now) in enumerate(zip(items, wanted, strict=False)) if was != now), None)
    more = len(wanted) - len(items)
    if more > 0 and items:
        at = len(items) if at is None else at
        before = items[max(0, at - 1)]
        put = [item_text(item) for item in wanted[at : at + more]]
        said = [item_text(before), *put] if at else [*put, item_text(before)]
        _write(made, before, ", ".join(said))
        return "\n".join(made)
    if len(wanted) == len(items) - 1:
        gone = items[len(wanted) if at is None else at]
        _take_away(made, gone)
        return "\n".join(line for n, line in enumerate(made) if line.strip() or not lines[n].strip())
    return None


def _write(lines: list[str], item: ComboItem, said: str) -> None:
    """Write something in place of what is said of an item."""
    line, end = item.until
    rest = lines[line][end:]
    lines[item.line] = f"{lines[item.line][: item.column]}{said}{rest}"
    for number in range(item.line + 1, line + 1):
        lines[number] = ""


def _take_away(lines: list[str], item: ComboItem) -> None:
    line, end = item.until
    before, after = lines[item.line][: item.column], lines[line][end:]
    if after.lstrip().startswith(","):
        after = after.lstrip()[1:].lstrip()
    elif before.rstrip().endswith(","):
        before = before.rstrip()[:-1]
    lines[item.line] = f"{before}{after}".rstrip()
    for number in range(item.line + 1, line + 1):
        lines[number] = ""
