"""A class of a piece as it is planned, shown, run and put on paper, in words."""

from datetime import date

from msgspec.structs import replace

from firn.core.book.book import Book, BookPiece
from firn.core.book.edits import MOST_NAME
from firn.core.drills.class_plan import KINDS, SAID, ClassItem, ClassPlan, ItemKind, carried, first_items
from firn.core.steps.shelf import Shelf
from firn.session.desk import read_in
from firn.session.fresh import new_id
from firn.session.paper import Paper
from firn.session.planning import known_of
from firn.session.transport import Value


def class_of(book: Book, piece: BookPiece, shelf: Shelf, minutes: int, name: str) -> ClassPlan:
    """A class of so many minutes: the part that was clean longest ago is reviewed, the first that the log does not
    know is new; raises FirnError for minutes that cannot be."""
    known = known_of(book.own_log)
    danced = [part for part in piece.parts if part.text.strip() and read_in(piece, part, part.text, shelf).sounds]
    last = {part.id: max(one.on for one in known[part.id].values()) for part in danced if part.id in known}
    review = sorted(last, key=lambda key: last[key])
    new = next((part.id for part in danced if part.id not in known), "")
    items = first_items(minutes, review, new, joins=bool(piece.combo.strip()))
    return ClassPlan(new_id(), piece.id, name, items)


def next_class(plan: ClassPlan, at: int, in_item_s: float) -> ClassPlan | None:
    """The class to which the rest of one goes; None where nothing is left."""
    items = carried(plan, at, in_item_s)
    return ClassPlan(new_id(), plan.piece, f"Rest of {plan.name}"[:MOST_NAME].rstrip(), items) if items else None


def day_name(day: date) -> str:
    """What a class is called at first."""
    return f"Class of {day:%a} {day.day} {day:%b}"


def item_title(item: ClassItem, piece: BookPiece) -> str:
    """An item in words: its kind, and its part."""
    if not item.part:
        return KINDS[item.kind]
    part = piece.part(item.part)
    return f"{KINDS[item.kind]}: {part.name if part is not None else 'a part that is gone'}"


def item_line(item: ClassItem, piece: BookPiece) -> list[Value]:
    """The values of an item as one spoken line, each with its key."""
    part = piece.part(item.part)
    of = part.name if part is not None else "a part that is gone" if item.part else "no part"
    minutes = f"{item.minutes} {'minute' if item.minutes == 1 else 'minutes'}"
    return [
        Value("kind", "", KINDS[item.kind], "↑ ↓"),
        Value("minutes", "for", minutes, "↑ ↓"),
        Value("part", "of", of, "↑ ↓"),
    ]


def item_stepped(item: ClassItem, piece: BookPiece, name: str, by: int) -> ClassItem:
    """An item with one of its values changed by a step."""
    if name == "minutes":
        return replace(item, minutes=min(240, max(1, item.minutes + by)))
    if name == "kind":
        kinds: list[ItemKind] = list(KINDS)
        kind = kinds[(kinds.index(item.kind) + by) % len(kinds)]
        # What is said of itself goes with the kind that says it.
        say = SAID.get(kind, "") if item.say == SAID.get(item.kind, "") else item.say
        return replace(item, kind=kind, say=say)
    ids = ["", *(part.id for part in piece.parts)]
    at = ids.index(item.part) if item.part in ids else 0
    return replace(item, part=ids[(at + by) % len(ids)])


def clock_said(seconds: float) -> str:
    """A length on the clock, as 6:05; below 0 with a sign."""
    whole = round(abs(seconds))
    return f"{'−' if seconds < 0 and whole else ''}{whole // 60}:{whole % 60:02}"


def behind_said(seconds: float) -> str:
    """How far behind a class is, in minutes."""
    minutes = round(seconds / 60)
    if not minutes:
        return "on time"
    return f"{abs(minutes)} min {'behind' if minutes > 0 else 'ahead'}"


def danced(item: ClassItem, piece: BookPiece) -> str:
    """The part of an item as it is said."""
    part = piece.part(item.part)
    return "\n".join(line for line in part.text.split("\n") if line.strip()) if part is not None else ""


def class_paper(plan: ClassPlan, piece: BookPiece) -> Paper:
    """A class on paper, item by item: when it begins, for how long, what is said, and its part as it is said."""
    sections: list[tuple[str, tuple[str, ...]]] = []
    begins = 0
    for item in plan.items:
        head = f"{begins // 60}:{begins % 60:02}   {item_title(item, piece)}, {item.minutes} min"
        said = tuple(danced(item, piece).split("\n")) if item.part else ()
        sections.append((head, (*((item.say,) if item.say else ()), *said)))
        begins += item.minutes
    counted = f"{piece.name}, {plan.minutes} min"
    return Paper(plan.name, counted, None, (), (), sections=tuple(sections))
