"""What a teacher claims of a part in a line of its own: what falls on which counts, how it ends, the front."""

import re
from typing import Literal

from msgspec import Struct

from firn.core.pattern import late
from firn.core.script.said import NUMBERS, card_said
from firn.core.steps.shelf import Shelf

ClaimKind = Literal["falls", "changes", "stays", "front", "ends", "sounds"]

_FALLS = late(r"(?P<what>[^\d,]+?)(?<!\s)\s++on\s++(?P<counts>odd|even|(?:\d++\s*+)+)(?:\s*+counts?)?", re.IGNORECASE)
_FRONT = late(r"(?:faces\s+)?(?:the\s+)?front(?:\s+again)?\s+after\s+(?P<many>\w+)(?:\s+times)?", re.IGNORECASE)
_ENDS = late(r"ends\s+on\s+(?:the\s+)?(?P<foot>right|left)(?:\s+foot)?", re.IGNORECASE)
_SOUNDS = late(r"(?P<many>\w+)\s+sounds?", re.IGNORECASE)

SUCH = "touches on odd, changes sides, stays on its side, ends on left, 12 sounds, or front after 4"


class Claim(Struct, frozen=True):
    """One claim, as it is said: `what` falls on `counts` ("odd", "even", or numbers); or `many` times, or sounds.

    `what` is a kind of sound, or the foot that it ends on.
    """

    kind: ClaimKind
    said: str
    what: str = ""
    counts: str = ""
    many: int = 0


def claim_of(said: str, shelf: Shelf, tradition: str) -> Claim | None:
    """A claim from its words; None for none."""
    text = " ".join(said.split())
    folded = text.casefold()
    if folded in ("changes sides", "changes side", "changes its side"):
        return Claim("changes", text)
    if folded in ("stays on its side", "stays", "same side"):
        return Claim("stays", text)
    if match := _ENDS.fullmatch(text):
        return Claim("ends", text, match["foot"].casefold())
    if match := _FRONT.fullmatch(text):
        many = _number(match["many"])
        return Claim("front", text, many=many) if many else None
    if match := _FALLS.fullmatch(text):
        card, _ = card_said(shelf, match["what"], tradition)
        kind = card.beats[0].kind.name if card is not None and len(card.beats) == 1 else ""
        return Claim("falls", text, kind, " ".join(match["counts"].casefold().split())) if kind else None
    if match := _SOUNDS.fullmatch(text):
        many = _number(match["many"])
        return Claim("sounds", text, many=many) if many else None
    return None


def _number(word: str) -> int:
    """A number in figures or in words; 0 for none."""
    return int(word[:4]) if word.isdecimal() else NUMBERS.get(word.casefold(), 0)
