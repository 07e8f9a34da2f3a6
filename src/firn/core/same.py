"""What two long rows of the same things have in common."""

from collections.abc import Sequence
from operator import is_


def begins_alike(one: Sequence[object], other: Sequence[object]) -> int:
    """How many of the first things are the very same in both."""
    same = bytes(map(is_, one, other))
    other_at = same.find(False)
    return len(same) if other_at < 0 else other_at
