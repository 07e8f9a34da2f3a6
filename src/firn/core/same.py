"""What two long rows of the same things have in common."""

from collections.abc import Sequence


def begins_alike(one: Sequence[object], other: Sequence[object]) -> int:
    """How many of the first things are the very same in both."""
    differ = (n for n, (a, b) in enumerate(zip(one, other, strict=False)) if a is not b)
    return next(differ, min(len(one), len(other)))
