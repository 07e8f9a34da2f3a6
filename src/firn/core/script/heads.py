"""Heads of a piece and of its parts as they are written elsewhere: [A], Verse 1, B: stamp clap, 132 bpm.

Common practice, no source.
"""

import re
from collections.abc import Sequence

from firn.core.pattern import late
from firn.core.script.combo_item import ORDINALS
from firn.core.steps.names import fold
from firn.core.steps.shelf import TRADITIONS

_LETTER = r"(?![LRSQDI])[A-Z]\d?"
"""L, R, S, Q, D and I say something of steps."""
_SECTION = (
    r"(?i:(?:verse|chorus|refrain|bridge|break|intro|outro|ending|tag|section|estrofa|estribillo|coro|puente|secci[oó]n)"
    r"(?:\s+(?:\d{1,2}|[A-Za-z]))?)"
)
_STEP_TOO = late(r"\s*(?:break|ending|tag|section|secci[oó]n)\s*", re.IGNORECASE)
"""What alone in a line may be a step, or nothing."""
_BRACKETED = late(rf"\s*\[\s*(?:(?i:part|parte)\s+)?(?P<name>{_LETTER}|{_SECTION})\s*\]\s*:?(?P<rest>)")
_LETTERED = late(rf"\s*(?P<name>{_LETTER})(?:\s*[:)]|\.(?=\s)|\s+[-–—](?=\s))(?P<rest>.*)")
_SECTIONED = late(rf"\s*(?P<name>{_SECTION})\s*(?::(?P<rest>.*))?")
_OWN_SECTION = late(rf"\s*(?P<name>{_LETTER})\s+(?i:section|part|secci[oó]n|parte)\s*(?::(?P<rest>.*))?")
_WHICH = (
    r"\s*+(?P<the>the\s+)?(?P<which>first|second|third|fourth|last|next|[1-9](?:st|nd|rd|th)|primer|segundo|tercer|último)\s+"
    r"(?P<long>eight|8|six|6|four|4|phrase|half|ocho|seis|cuatro|frase)s?"
    r"(?:(?<!last\sfour)\s+(?:counts?|beats?|tiempos?))?\s*:"
)
PHRASE = late(_WHICH, re.IGNORECASE)
"""A phrase that stands over what is danced in it."""
PHRASES_INSIDE = late(r"(?:\A|[,;.|]|\b(?:then|and|luego|y)\b)" + _WHICH, re.IGNORECASE)
"""Phrases that follow on each other in a line, each over what is danced in it."""
LABEL = late(
    r"\s*+(?:(?i:line|section|part|phrase|eight|verse|chorus|exercise|combination|round|row|sequence|stage|set|l[ií]nea"
    r"|frase|secci[óo]n|ejercicio|estrofa|serie|figure|figura)\s+(?:\d{1,2}|[A-Za-z])|(?![LRSQDI])[A-Z]\d?)\s*:(?!\d)"
)
"""What only says which line it is: Line 1: DS DS, A: stamp clap; L, R, S, Q, D and I say something else."""
_OF_STEPS = late(
    r"\s*(?:(?i:counts?|beats?|tiempos?)\s+\d|(?:[LRSQDI]|(?i:right|left|derech[ao]|izquierd[ao])(?:\s+\w+)?)\s*:)",
)
"""What begins a line that says on which counts it is, with which foot, how long."""
_ORDINALS = {**ORDINALS, "primer": 1, "segundo": 2, "tercer": 3}
_LENGTHS = {"eight": 8, "8": 8, "ocho": 8, "six": 6, "6": 6, "seis": 6, "four": 4, "4": 4, "cuatro": 4}
_HEADING = late(r"\s*[^\W\d_][^:#]{0,40}:")
_TEMPO = late(r"\s*+(?:(?:tempo|bpm)\s*+=?\s*+(\d{2,3})|([♩♪]\.?+)?+\s*+=?\s*+(\d{2,3})\s*+bpm)\s*+", re.IGNORECASE)
_PART = late(r"parte?\b(?:\s|:|$)", re.IGNORECASE)
_WALTZ = late(r"\s*(?:in\s+)?waltz\s+time\s*", re.IGNORECASE)
_FEEL = late(r"\s*(swing|swung|straight)\s+feel\s*", re.IGNORECASE)
_METER = late(r"\s*(\d{1,2}/(?:2|4|8))(?:\s+time)?\s*", re.IGNORECASE)


def phrase_at(over: "re.Match[str]", before: int = 0) -> tuple[int, int] | None:
    """Which eight, six or four a head names, from 1, and of how many counts; None for what says neither. `before`:
    the one that the next is said after, 0 where that is not known."""
    which, long = over["which"].casefold(), _LENGTHS.get(over["long"].casefold())
    number = _ORDINALS.get(which) or (int(which[0]) if which[0].isdecimal() else 0)
    number = before + 1 if before and which == "next" else number
    return (number, long) if number and long is not None else None


def heads_elsewhere(lines: Sequence[str]) -> dict[int, "re.Match[str]"]:
    """The lines of a text that head its parts as they are written elsewhere, by their numbers: each with its `name`
    and the `rest` of the line; none where there is but one that might be a label.

    Letters go up from A: a line that begins with one letter says something else. After steps only what stands alone
    heads a part.
    """
    found: dict[int, re.Match[str]] = {}
    wanted = "A"
    plain = stepped = False
    for number, line in enumerate(lines):
        match = _BRACKETED.fullmatch(line) or _OWN_SECTION.fullmatch(line)
        match = match or (None if _STEP_TOO.fullmatch(line) else _SECTIONED.fullmatch(line))
        lettered = None if match is not None else _LETTERED.fullmatch(line)
        either = match or lettered
        if either is None or (stepped and (either["rest"] or "").strip()):
            stepped = stepped or bool(line.strip() and not found and not (_HEADING.match(line) or heading_of(line)))
            continue
        if lettered is not None and lettered["name"][0] > wanted:
            return {}
        plain = plain or match is not None
        wanted = wanted if lettered is None else max(wanted, chr(ord(lettered["name"][0]) + 1))
        found[number] = either
    return found if plain or len(found) > 1 else {}


def is_row(line: str) -> bool:
    """Whether a line that looks like a heading is steps with a label over them: First 8: step touch x4."""
    return any(pattern.match(line) for pattern in (PHRASE, LABEL, _OF_STEPS))


def heading_of(line: str) -> str:
    """What a line without a colon says of the piece, as a heading: 132 bpm, 3/4 time; "" for nothing."""
    if match := _TEMPO.fullmatch(line):
        note = f"{match[2]} = " if match[2] else ""
        return f"tempo: {note}{match[1] or match[3]}"
    if match := _METER.fullmatch(line):
        return f"meter: {match[1]}"
    if _WALTZ.fullmatch(line):
        return "meter: 3/4"
    if match := _FEEL.fullmatch(line):
        return f"feel: {match[1]}"
    return ""


def tradition_of(lines: Sequence[str]) -> int | None:
    """The number of a text's first line, but for headings, where that is the name of a tradition, and more comes
    after it; "tap" alone is a step, unless a part's name comes right after it."""
    said = [(number, line.strip()) for number, line in enumerate(lines) if line.strip()]
    at = next((at for at, (_, line) in enumerate(said) if not (_HEADING.match(line) or heading_of(line))), len(said))
    if at + 1 >= len(said) or fold(said[at][1]) not in TRADITIONS:
        return None
    number, name = said[at]
    after = [line for _, line in said[at + 1 :]]
    named = any(" " in line for line in after) if name != "tap" else _PART.match(after[0]) is not None
    return number if named else None
