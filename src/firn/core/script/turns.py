"""Turns of the body: how far and which way, as said and as an exact fraction of a whole turn."""

from fractions import Fraction

from firn.core.pattern import late

MOST_TURN = 4
LARGEST_DENOMINATOR = 16

WORDS = {"quarter": Fraction(1, 4), "half": Fraction(1, 2), "full": Fraction(1)}

_AMOUNT = late(r"(?:(\d{1,4})\s+)?(\d{1,4})(?:\s*/\s*(\d{1,4}))?")


def parse_amount(text: str) -> Fraction | None:
    """A part of a turn: "1/4", "half", "1 1/2"; None for what is none, or more than anyone turns."""
    word = WORDS.get(text.strip().casefold())
    if word is not None:
        return word
    match = _AMOUNT.fullmatch(text.strip())
    if match is None or (match[1] and not match[3]) or (match[3] and not int(match[3])):
        return None
    amount = Fraction(int(match[2]), int(match[3] or 1)) + int(match[1] or 0)
    return amount if 0 < amount <= MOST_TURN and amount.denominator <= LARGEST_DENOMINATOR else None


def turn_text(turn: Fraction) -> str:
    """A turn as it is written: "1/4 right"; right is above 0, "" for none."""
    if not turn:
        return ""
    whole, rest = divmod(abs(turn), 1)
    said = " ".join(str(n) for n in (whole, rest) if n)
    return f"{said} {'right' if turn > 0 else 'left'}"
