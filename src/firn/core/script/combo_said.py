"""What is said in a combo, as it is written and as it is called: how often, on which side, how it ends, by whom."""

import re
from typing import Literal

from firn.core.pattern import late
from firn.core.script.combo_item import ORDINALS
from firn.core.script.said import NUMBERS, ONCE_OR_MORE

_NUMBERS = "|".join(NUMBERS)
_ON = r"(?:(?:on|from|with|starting|beginning)\s+){0,3}(?:the\s+)?"


TAIL = late(
    r"""(?P<times>[x×]\s?\d+(?!\w)|\d{1,6}\s?[x×](?!\w)|(?:twice|once|thrice)(?!\w)|(?:\d{1,6}|una|NUMBERS)\s+(?:times|veces|vez)(?!\w))
        |(?P<both>(?:on\s+)?both\s+sides|(?:ON)?right(?:\s+side)?\s+(?:and(?:\s+then)?|then)\s+(?:ON)?left(?:\s+side)?
        |(?:ON)?left(?:\s+side)?\s+(?:and(?:\s+then)?|then)\s+(?:ON)?right(?:\s+side)?
        |R\s+(?:and|then)\s+L|L\s+(?:and|then)\s+R
        |(?:and\s+(?:then\s+)?|then\s+)(?:on\s+)?(?:the\s+)?other\s+side)(?!\w)
        |(?P<side>on\s+the\s+other\s+side|other\s+side|as\s+written
        |(?:ON)?(?:right|left)(?:\s+(?:side|foot|feet))?(?!\w)|\(?[RL]\)?(?!\w))
        |(?P<never>never\s+swaps(?!\w)|(?:on\s+the\s+)?same\s+foot\s+each\s+time(?!\w))
        |(?P<turn>turns?\b(?:(?!\s(?:then|and)\s)[^,()])*)
        |(?P<enters>(?:(?:the\s+)?first\s+time\s*)?(?:begins?|enters?)\s*(?::|with\b:?)INNER)
        |(?P<last>(?:the\s+)?last\s+time\s*ENDSINNER)
        |(?P<time>(?:the\s+)?(?:(?P<which>\d{1,3})(?:st|nd|rd|th)|(?P<said>ORDINALS))\s+time\s*ENDSINNER)
        |(?P<ends>ends?\s*(?::|with\b:?)INNER)""".replace("INNER", r"(?:[^,()]|\([^()]*\))*")
    .replace("ENDS", r"(?:ends?\s*(?::|with\b:?)|:|with\b:?)")
    .replace("ORDINALS", "|".join(ORDINALS))
    .replace("NUMBERS", _NUMBERS)
    .replace("(?:ON)?", rf"(?:{_ON})?"),
    re.IGNORECASE | re.VERBOSE,
)
"""What is said of a part after it."""

ENTRY = late(r"\A.*?(?:begins?|enters?)\s*(?::|with\b:?)\s*", re.IGNORECASE)
_ENDING = late(r"(?:ends?\s*(?::|with\b:?)|time\s*(?::|with\b:?))\s*", re.IGNORECASE)
OFTEN = late(
    r"(?P<digits>\d{1,6})\s?[x×](?=\s)|(?P<many>\d{1,6}|NUMBERS)\s+times(?=\s)|(?P<so>NUMBERS|\d{1,2})(?=\s)"
    r"|(?:once|twice|thrice)(?=\s)".replace("NUMBERS", _NUMBERS),
    re.IGNORECASE,
)
"""How often, before a part."""

AFTER_GROUP = late(
    r"[\s,]*(?P<said>[x×]\s?\d+(?!\w)|\d{1,6}\s?[x×](?!\w)|(?:twice|thrice)(?!\w)|(?:\d{1,6}|NUMBERS)\s+(?:times|veces)(?!\w))".replace(
        "NUMBERS", _NUMBERS
    ),
    re.IGNORECASE,
)
"""How often, behind parts in brackets."""

GROUP = late(
    r"""\s*+(?:(?:(?:group|row)\s+(?P<group>\d{1,2}|NUMBERS)|(?:the\s+)?(?P<who>lead|follow)(?:s|ers?)?)
        (?:\s*,?\s*(?:(?:enters\s+)?after\s+(?P<after>\d{1,4})(?:\s+counts?)?|(?P<together>together)))?
        |all(?:\s+groups)?(?:\s+together)?)\s*:""".replace("NUMBERS", _NUMBERS),
    re.IGNORECASE | re.VERBOSE,
)
"""Who dances a line."""

ROWS = late(
    r"""\s*+(?:(?P<many>\d{1,4}|NUMBERS)\s+(?:rows|groups)\s*,?\s*(?P<apart>\d{1,4}|NUMBERS)(?:\s+counts?)?\s+apart
        |(?:mixed\s+)?(?:rows|groups)(?P<turn>\s*,?\s+in\s+turn)?)\s*:""".replace("NUMBERS", _NUMBERS),
    re.IGNORECASE | re.VERBOSE,
)
"""Rows that dance a line: all of it, each so many counts after the one before; or each a part of its own."""

COPIED = late(
    r"\s*+(?:(?P<mirrored>(?:as\s+)?(?:mirrored|in\s+a\s+mirror)|(?:the\s+)?other\s+feet)"
    r"|(?:the\s+)?same(?:\s+(?:feet|steps))?|as\s+(?:the\s+)?leads?)\s*+",
    re.IGNORECASE,
)
"""What a follow dances of what the lead does: on the other feet, or on the same."""

NOTE = late(r"\s*+(floor|formation|partner)\s*+:\s*+(.*)", re.IGNORECASE)
"""What is said of all who dance, in a line of its own before the parts that it is for."""

OVER = late(
    r"\s*+(?P<layer>(?:left |right |leading |other )?hands?|arms|body|moves|signals)"
    r"(?:\s*+,?\s*+every\s++(?P<every>\d{1,3})(?:\s++counts?)?)?\s*+:\s*+(?P<text>.*)",
    re.IGNORECASE,
)
"""A line of hands or arms that goes on over the parts, before those that it begins with."""

MOST_EVERY = 256

SECTION = late(r"\s*+section\s++(?P<name>[^:,()]*[^\s:,()])\s*+:", re.IGNORECASE)
"""A line that is a section, by the name that it can be danced by again."""

BETWEEN = late(r"\[([^\[\]]*+)\]")
SPACE = late(r"(?:[\s,;+/>→&]|[-–—](?=\s)|[-=](?=>)|\.(?=\s|$))+")
"""What stands between parts: commas and spaces, or A + B, A/B, A - B, A -> B; A. B."""
LINK = late(
    r"(?:and|then|first(?!\s+time)|next|finally|last(?!\s+time)|lastly|after\s+that|y|luego|despu[ée]s|entonces|primero"
    r"|followed\s+by|do|dance|the|part|seguido\s+de|hacemos|bailamos|la|parte"
    r"|(?:starts?|begins?|starting|beginning|finish|finishes|finishing|ending)\s+with)(?=[\s,])",
    re.IGNORECASE,
)
HEAD = late(
    r"\s*+(?:(?:(?:so|now|ok|okay|bueno|pues|ahora)(?:\s*+[,:])?|right\s*+,)\s++)?+"
    r"(?:(?:(?:we|you|they|everybody|everyone)(?:\s++will|'ll)?\s++(?:do|dance|go|start\s++with|begin\s++with)"
    r"|it\s++goes|let'?s\s++(?:do|dance|go)|(?:the\s++)?(?:order|combo|routine|sequence)\s*+(?:is|goes|:)"
    r"|el\s++orden\s++es|va\s++as[ií])(?:\s*+:)?(?=\s))?+",
    re.IGNORECASE,
)
"""What a combo is opened with: we do, it goes, the order is; so and now before it."""
LETTERS, FIGURES = late(r"[A-Z]{2,16}(?!\w)"), late(r"\d{1,2}(?=[^\W\d])")
"""Parts of one letter in one, and a number right before a part."""
LINKED = late(r"\b(?:and|y)\s+(?:the\s+|part\s+)?$", re.IGNORECASE)
"""What links a part to the one before it."""
LISTED = late(r"\s*+(?:\d{1,2}\s*[.)]|[-*•])\s+")
"""What begins a row of a list: 1. A, - A."""
SIDE_FIRST = late(rf"{_ON}(?P<side>right|left|R|L)(?:\s+(?:side|foot|feet))?\s*:?\s+", re.IGNORECASE)
"""The side, said before its part: left A, on the right: A."""
GROUP_NEXT = late(
    r"[,;]\s*(?=(?:(?:group|row)\s+\w{1,8}|(?:the\s+)?(?:lead|follow)(?:s|ers?)?|all)\s*:)", re.IGNORECASE
)
"""Where another group's parts begin in the same line."""
AGAIN = late(
    r"(?:(?:and|then|y)\s++)*+(?:repeat(?:\s++(?:all|that|it|everything))?|(?:all\s++)?again|repite|todo\s++otra\s++vez)"
    r"(?:\s++from\s++the\s++(?:top|beginning|start))?[\s.!]*+$",
    re.IGNORECASE,
)
"""All of a line once more."""

_OFTEN_SAID = r"(?:[x×]\s?\d{1,6}|\d{1,6}\s?[x×]|(?:NUMBERS|\d{1,6})\s++times|twice|thrice)(?!\w)"
ALL_OFTEN = late(
    r"""(?:(?:and|then)\s++)*+(?:(?:(?:do|dance)\s++)?+(?:it\s++|that\s++)?+
        (?:all(?:\s++of\s++(?:it|that|this))?|the\s++whole(?:\s++(?:thing|lot|line|combo))?|everything|todo)\s*+,?\s*+
        (?P<all>TIMES)|(?P<through>TIMES)\s++through)[\s.!]*+$""".replace("TIMES", _OFTEN_SAID).replace(
        "NUMBERS", _NUMBERS
    ),
    re.IGNORECASE | re.VERBOSE,
)
"""How often all of a line is danced, behind it: all twice, twice through, the whole thing x2."""

LED_OFTEN = late(
    r"(?P<said>\d{1,6}\s?[x×]|[x×]\s?\d{1,6}|(?:NUMBERS|\d{1,6})\s+times|twice|thrice)\s*+(?P<on>[(:])".replace(
        "NUMBERS", _NUMBERS
    ),
    re.IGNORECASE,
)
"""How often, before a bracket, or before a colon for all of the line: 2x (, twice:."""

ONCE_AGAIN = late(r"again(?=\s*(?:,|$))", re.IGNORECASE)
TURN = late(r"turns?\s+(?P<amount>.*?)\s*(?:to\s+the\s+)?(?P<sense>right|left)\s*", re.IGNORECASE)
STOP = late(r"[\s()+/>→&;]|\.(?=\s|$)")


def number_said(said: str) -> int:
    return int(said) if said.isdecimal() else NUMBERS[said.casefold()]


def how_often(said: str) -> int:
    """How often "x3", "3x", "twice" and "three times" say."""
    word = said.split()[0].casefold()
    digits = re.sub(r"\D", "", said)
    return int(digits[:6]) if digits else ONCE_OR_MORE.get(word) or NUMBERS.get(word, 1)


def ending_said(said: str) -> str:
    """The words of an ending, after what says that it is one."""
    match = _ENDING.search(said)
    return said[match.end() :].strip() if match else ""


WAIT = late(
        r"""(?:WAIT\s+(?:for\s+)?(?P<long>\d{1,3}|NUMBERS)(?:\s+COUNTS)?|(?P<so>\d{1,3}|NUMBERS)\s+COUNTS\s+(?:of\s+)?WAIT)(?!\w)"""
        .replace("WAIT", "(?:wait|hold|rest|pause|silence|espera|pausa)")
        .replace("COUNTS", "(?:counts?|beats?|tiempos?)")
        # "hold once" is no hold for eleven.
        .replace("NUMBERS", "|".join(word for word in NUMBERS if word not in ONCE_OR_MORE)),
        re.IGNORECASE,
)  # fmt: skip
"""How long nothing is danced between two parts: wait 8, hold for four counts, 8 counts rest."""


def side_said(said: str) -> Literal["", "right", "left"]:
    """Which side is said: right or left, by the word or its letter; "" for neither."""
    words = said.casefold().strip("() ").split()
    if "right" in words or words == ["r"]:
        return "right"
    return "left" if "left" in words or words == ["l"] else ""
