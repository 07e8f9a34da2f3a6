"""What two long rows of the same things have in common."""

from collections.abc import Sequence
from operator import is_


def begins_alike(one: Sequence[object], other: Sequence[object]) -> int:
    """How many of the first things are the very same in both."""
    same = [*map(is_, one, other)]
    return same.index(False) if False in same else len(same)
