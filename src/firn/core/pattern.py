"""Regular expressions that are compiled when they are first used: forty of them take a thirtieth of the start."""

import re
from typing import Any, cast


class _Late:
    """Stands for a pattern; what is asked of it is the pattern's own from then on."""

    def __init__(self, pattern: str, flags: int) -> None:
        self._said = pattern, flags

    def __getattr__(self, name: str) -> Any:
        pattern, flags = self._said
        value = getattr(re.compile(pattern, flags), name)
        # Found here the next time, as quickly as a pattern's own.
        setattr(self, name, value)
        return value


_unused: list[_Late] = []
"""Patterns of which it is not known that they were used."""


def late(pattern: str, flags: int = 0) -> re.Pattern[str]:
    """A pattern, compiled when it is first used."""
    made = _Late(pattern, flags)
    _unused.append(made)
    return cast("re.Pattern[str]", made)


def compile_one() -> bool:
    """Compile another pattern before it is used; whether there was one."""
    if not _unused:
        return False
    _unused.pop().match  # noqa: B018
    return True
