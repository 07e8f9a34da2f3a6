"""A class as it is planned, item by item with minutes, and its clock: what is left, what comes, how far behind it is.

The order of a class and the shares of its time are common practice, no source.
"""

from collections.abc import Sequence
from typing import Literal

from msgspec import Struct
from msgspec.structs import replace

from firn.errors import FirnError

ItemKind = Literal["warm_up", "review", "new", "drill", "join", "music", "cool_down"]
KINDS: dict[ItemKind, str] = {
    "warm_up": "warm-up", "review": "review", "new": "new step", "drill": "drill", "join": "join",
    "music": "to music", "cool_down": "cool down",
}  # fmt: skip
"""The kinds of items in the order in which they come, with their names."""

SHARES: dict[ItemKind, int] = {
    "warm_up": 8, "review": 10, "new": 14, "drill": 12, "join": 8, "music": 5, "cool_down": 3,
}  # fmt: skip
"""Minutes of an hour for each."""

SAID: dict[ItemKind, str] = {
    "warm_up": "Ankles, calves and shins; then the feet, small and slow.",
    "cool_down": "Calves and feet; water. What was new today?",
}
"""What is said where nothing else is written."""

MOST_ITEMS, MOST_MINUTES, MOST_SAID = 40, 240, 400
SHORTEST, LONGEST = 15, 240


class ClassItem(Struct, frozen=True):
    """One item of a class: its kind, minutes, the part that it is of ("" for none), and what is said."""

    kind: ItemKind
    minutes: int
    part: str = ""
    say: str = ""


class ClassPlan(Struct, frozen=True):
    """A class of a piece, by name."""

    id: str
    piece: str
    name: str
    items: tuple[ClassItem, ...] = ()

    @property
    def minutes(self) -> int:
        """All its minutes."""
        return sum(item.minutes for item in self.items)


class ClassClock(Struct, frozen=True):
    """Where a class is: the item, the seconds that are left of it (below 0 where it lasts longer than planned), and
    how many seconds the class will be behind when this item ends; below 0 ahead of the plan."""

    at: int
    left_s: float
    behind_s: float


def clock(plan: ClassPlan, at: int, begun_s: float, now_s: float) -> ClassClock:
    """The clock of a class in one item that was begun so many seconds after the class began.

    An item that is on time ends on time; one that lasts longer than planned has ended at the earliest now.
    """
    long = plan.items[at].minutes * 60
    planned_end = sum(item.minutes for item in plan.items[: at + 1]) * 60
    return ClassClock(at, begun_s + long - now_s, max(begun_s + long, now_s) - planned_end)


def first_items(minutes: int, review: Sequence[str], new: str, *, joins: bool) -> tuple[ClassItem, ...]:
    """Items of a class of so many minutes: of parts that are known, by their ids, and one that is new ("" for none);
    `joins`: whether there is a combo to join it into. Raises FirnError for too short or long a class."""
    if not SHORTEST <= minutes <= LONGEST:
        raise FirnError(f"A class lasts between {SHORTEST} and {LONGEST} minutes, not {minutes}.")
    of: dict[ItemKind, str] = {"review": review[0] if review else "", "new": new, "drill": new or "".join(review[:1])}
    kinds = [
        kind for kind in KINDS
        if not (kind == "review" and not review) and not (kind == "new" and not new)
        and not (kind == "join" and not joins)
    ]  # fmt: skip
    whole = sum(SHARES[kind] for kind in kinds)
    given = {kind: max(1, minutes * SHARES[kind] // whole) for kind in kinds}
    # What rounding leaves goes to what is danced longest.
    longest = max(kinds, key=lambda kind: SHARES[kind])
    given[longest] += minutes - sum(given.values())
    return tuple(ClassItem(kind, given[kind], of.get(kind, ""), SAID.get(kind, "")) for kind in kinds)


def carried(plan: ClassPlan, at: int, in_item_s: float) -> tuple[ClassItem, ...]:
    """The items of the next class: its warm-up, what was new for review, what was left, and the cool down.

    `at`: the item in which the class ended after so many seconds; the minutes that it still had are carried.
    """
    begins = [item for item in plan.items if item.kind == "warm_up"][:1]
    ends = [item for item in plan.items if item.kind == "cool_down"][-1:]
    done = [replace(item, kind="review") for item in plan.items[:at] if item.kind == "new"]
    left: list[ClassItem] = []
    for number, item in enumerate(plan.items[at:], at):
        if item.kind in ("warm_up", "cool_down"):
            continue
        short = -(-max(0.0, item.minutes * 60 - in_item_s) // 60) if number == at else item.minutes
        if short:
            left.append(replace(item, minutes=int(short)))
    return (*begins, *done, *left, *ends) if left else ()


def checked_class(plan: ClassPlan) -> ClassPlan:
    """A class that can be kept; raises FirnError with one sentence for any other."""
    if len(plan.items) > MOST_ITEMS:
        raise FirnError(f"A class has {MOST_ITEMS} items at most.")
    for item in plan.items:
        if not 1 <= item.minutes <= MOST_MINUTES:
            raise FirnError(f"An item lasts between 1 and {MOST_MINUTES} minutes, not {item.minutes}.")
    return replace(
        plan, items=tuple(replace(item, say=" ".join(item.say.split())[:MOST_SAID]) for item in plan.items)
    )
