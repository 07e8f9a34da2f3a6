"""Count-ins: the counts that are said before a part begins, in the teacher's own pattern."""

import re
from fractions import Fraction
from typing import Literal

from msgspec import Struct
from msgspec.structs import replace

from firn.core.meter.counting import Counting

CountInPattern = Literal["none", "last", "pair", "bars"]

MOST_BARS = 8
LONGEST_WORD = 12

Said = tuple[Fraction, str]
"""A count of a count-in: where it is said, and the word."""


class CountIn(Struct, frozen=True):
    """A pattern: the last `many` counts; a pair at half speed and then the last `many`; or `many` bars, numbered.

    `words` are said in place of the last two counts.
    """

    pattern: CountInPattern = "last"
    many: int = 4
    words: tuple[str, str] | None = None

    def said(self, first: Fraction, counting: Counting) -> list[Said]:
        """What is said before a stretch whose first sound lies at `first`.

        Whole counts that begin on a bar or half phrase and stop before the first sound: a count-in never runs over a
        pick-up, which takes the place of its last counts.
        """
        if self.pattern == "none":
            return []
        led = self._bars(first, counting) if self.pattern == "bars" else self._last(first, counting)
        if self.pattern == "pair":
            # Half speed: each of the pair lasts two counts.
            pair = [word for _, word in led[:2]]
            led = [(led[0][0] - 2 * (len(pair) - i), word) for i, word in enumerate(pair)] + led
        if self.words and len(led) >= len(self.words):
            places = [place for place, _ in led[-2:]]
            led[-2:] = list(zip(places, self.words, strict=True))
        return led

    def _last(self, first: Fraction, counting: Counting) -> list[Said]:
        uneven = counting.meter.groups or counting.meter.counts == 3
        unit = counting.meter.counts if uneven else 4
        wanted = max(unit - 1, self.many - 1)
        start = (first - wanted) // unit * unit
        return [(Fraction(c), str(counting.number(Fraction(c)))) for c in range(int(start), int(-(-first // 1)))]

    def _bars(self, first: Fraction, counting: Counting) -> list[Said]:
        bar = counting.meter.counts
        start = (int(-(-first // 1)) - 1) // bar * bar - (self.many - 1) * bar
        led = []
        for count in range(start, int(-(-first // 1))):
            inside = (count - start) % bar
            number = inside + 1 if inside else (count - start) // bar + 1
            led.append((Fraction(count), str(number)))
        return led

    def __str__(self) -> str:
        said = {
            "none": "none",
            "last": f"last {self.many}",
            "pair": "a pair, then all",
            "bars": "1 bar" if self.many == 1 else f"{self.many} bars",
        }[self.pattern]
        return f"{said}, then {' '.join(self.words)}" if self.words else said


COUNT_INS = (CountIn(), CountIn(many=8), CountIn("pair"), CountIn("bars", 2), CountIn("none"))
"""The usual ones, in the order in which a key walks them."""


def parse_count_in(text: str) -> CountIn | None:
    """The count-in that `text` names, such as "last 8", "a pair, then all", "2 bars, then ready go"; or None."""
    said = " ".join(text.casefold().split())
    words: tuple[str, str] | None = None
    # Words in place of the last two come last; "all" belongs to the pair.
    match = re.fullmatch(r"(.*?),? then ([^\W\d_]+) ([^\W\d_]+)", said)
    if match and len(match[2]) <= LONGEST_WORD >= len(match[3]):
        said, words = match[1], (match[2], match[3])
    pattern = _pattern(said)
    if pattern is None or (words and pattern.pattern == "none"):
        return None
    return replace(pattern, words=words)


def _pattern(said: str) -> CountIn | None:
    if said in ("none", "no", "0"):
        return CountIn("none")
    if re.fullmatch(r"(a )?pair(,? then all)?", said):
        return CountIn("pair")
    if said in ("5 6 7 8", "1 2 3 4 5 6 7 8"):
        # As it is said itself.
        return CountIn("last", len(said.split()))
    if match := re.fullmatch(r"(?:the )?(?:last )?([48])( counts)?", said):
        return CountIn("last", int(match[1]))
    if (match := re.fullmatch(r"(\d) bars?", said)) and 1 <= int(match[1]) <= MOST_BARS:
        return CountIn("bars", int(match[1]))
    return None
