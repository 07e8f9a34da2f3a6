"""Where those who dance stand, from what a combo says of the floor: two lines facing, a circle of eight, a square.

Common practice, no source.
"""

import re
from collections.abc import Iterator
from math import atan2, cos, degrees, pi, radians, sin

from msgspec import Struct

from firn.core.pattern import late
from firn.core.script.said import NUMBERS

USUAL = {"circle": 8, "half circle": 7, "wedge": 5, "line": 4, "column": 4, "couple": 1}
"""How many stand in one where it is not said."""
MOST = 64
"""More are no drawing."""
APART = 0.4
"""How far the two of a couple stand from each other, where neighbours stand 1 apart."""


class Dancer(Struct, frozen=True):
    """One who dances: to the right of the middle and to the front of it, where neighbours stand 1 apart, and the way
    faced, in degrees to the right of the front."""

    x: float
    y: float
    faces: float = 0.0


_MANY = r"(?P<many>\d{1,3}|NUMBERS|an?)\s+"
_OF = r"(?:\s+of\s+(?P<of>\d{1,3}|NUMBERS)(?P<couples>\s+(?:couples|pairs))?)?"
_SHAPE = late(
    rf"""(?:{_MANY})?(?:(?P<staggered>staggered|offset)\s+)?
    (?P<shape>half[ -]circle|semicircle|circle|ring|square|wedge|triangle|v(?!\w)|diagonal|couple|pair
    |line|row|column|file)
    (?P<several>s)?{_OF}(?!\w)""".replace("NUMBERS", "|".join(sorted(NUMBERS, key=len, reverse=True))),
    re.IGNORECASE | re.VERBOSE,
)
_CALLED = {"ring": "circle", "semicircle": "half circle", "half-circle": "half circle", "triangle": "wedge",
           "v": "wedge", "pair": "couple", "row": "line", "file": "column"}  # fmt: skip
_FACED = late(
    r"""(?P<in>\bfac\w*+\s++(?:each\s+other|one\s+another|in(?:wards?)?|the\s+(?:cent(?:re|er)|middle|partners?))(?!\w))
    |(?P<out>\bfac\w*+\s++out(?:wards?)?(?!\w)|back\s+to\s+back)
    |(?P<round>\bfac\w*+\s++(?:the\s+line\s+of\s+dance|round)|(?:one\s+)?behind\s+(?:each\s+other|one\s+another|the\s+other))
    |(?P<back>\bfac\w*+\s++(?:the\s+)?back(?!\w))|(?P<front>\bfac\w*+\s++(?:the\s+)?front(?!\w))
    |\bfac\w*+\s++(?:the\s+|to\s+the\s+)?(?P<side>left|right)(?!\w)""",
    re.IGNORECASE | re.VERBOSE,
)


def formation(said: str) -> tuple[Dancer, ...]:
    """Those who dance, by what is said of how they stand; () for what is no formation, or one of too many."""
    match = _SHAPE.search(said)
    if match is None:
        return ()
    shape = _CALLED.get(match["shape"].casefold(), match["shape"].casefold().replace("-", " "))
    # "Lines" are two at least.
    many = _number(match["many"]) if match["many"] or not match["several"] else 2
    of = _number(match["of"]) if match["of"] else USUAL.get(shape, 1)
    sizes = {"square": 8, "diagonal": of if match["of"] else USUAL["line"], "couple": 2 * many}
    if not 0 < sizes.get(shape, many * of) <= MOST:
        return ()
    faced = _FACED.search(said)
    way = faced.lastgroup if faced is not None else ""
    if shape in ("circle", "half circle"):
        couples = bool(match["couples"])
        places = list(_arc(of, whole=shape == "circle", way=way or "in", couples=couples))
    elif shape == "square":
        places = list(_square())
    elif shape == "couple":
        places = list(_couples(many, way or "in"))
    else:
        rows = {"wedge": _wedge(of), "diagonal": _diagonal(sizes["diagonal"]), "column": _lines(of, many)}
        stagger = 0.5 if match["staggered"] else 0.0
        places = list(
            _turned(rows.get(shape) or _lines(many, of, stagger), way or "", faced["side"] if faced else "")
        )
    return tuple(places)


def _number(said: str | None) -> int:
    if said is None or said.casefold() in ("a", "an"):
        return 1
    return int(said) if said.isdigit() else NUMBERS[said.casefold()]


def _lines(many: int, of: int, stagger: float = 0.0) -> list[Dancer]:
    """Lines behind each other, the first in front; every other one a little to the side if staggered."""
    return [
        Dancer(at - (of - 1) / 2 + stagger * (row % 2), (many - 1) / 2 - row)
        for row in range(many)
        for at in range(of)
    ]


def _wedge(of: int) -> list[Dancer]:
    """One in front, the others behind to both sides."""
    return [Dancer((-1) ** n * ((n + 1) // 2), of / 4 - (n + 1) // 2) for n in range(of)]


def _diagonal(of: int) -> list[Dancer]:
    return [Dancer(n - (of - 1) / 2, (of - 1) / 2 - n) for n in range(of)]


def _turned(dancers: list[Dancer], way: str, side: str | None) -> Iterator[Dancer]:
    """The ways faced by those who stand in lines: those in front face back, and the others front, where they face
    each other."""
    for one in dancers:
        inner = 180.0 if one.y > 0 else 0.0
        if all(d.y == dancers[0].y for d in dancers):
            # One line: those to the left of its middle face right.
            inner = 90.0 if one.x < 0 else 270.0
        faces = {"in": inner, "out": (inner + 180.0) % 360, "back": 180.0}.get(way, 0.0)
        faces = {"left": 270.0, "right": 90.0}.get((side or "").casefold(), faces)
        yield Dancer(one.x, one.y, faces)


def _arc(of: int, *, whole: bool, way: str, couples: bool) -> Iterator[Dancer]:
    """A circle, or the half of it that is open to the front; of couples the two stand beside each other."""
    many = 2 * of if couples else of
    wide = max(1.2, many / (2 * pi if whole else pi))
    for n in range(many):
        place = n // 2 + (0.5 - APART / 2 + APART * (n % 2)) if couples else float(n)
        turn = 360.0 * place / of if whole else 90.0 + 180.0 * place / max(1, of - 1)
        x, y = wide * sin(radians(turn)), wide * cos(radians(turn))
        inward = (degrees(atan2(-x, -y))) % 360
        # The line of dance goes round against the clock.
        faces = {"in": inward, "out": (inward + 180) % 360, "round": (turn - 90) % 360, "back": 180.0}.get(way, 0.0)
        yield Dancer(round(x, 4), round(y, 4), round(faces, 2) % 360)


def _square() -> Iterator[Dancer]:
    """Four couples, each on a side of a square, its back to the wall."""
    for turn in (0.0, 90.0, 180.0, 270.0):
        for aside in (-APART, APART):
            x, y = aside, 1.5
            c, s = cos(radians(turn)), sin(radians(turn))
            yield Dancer(round(x * c + y * s, 4), round(y * c - x * s, 4), (turn + 180.0) % 360)


def _couples(many: int, way: str) -> Iterator[Dancer]:
    """Couples beside each other, the two of each face to face, back to back, or beside each other to the front."""
    for pair in range(many):
        middle = 2 * (pair - (many - 1) / 2)
        for sign in (-1, 1):
            inner = 90.0 if sign < 0 else 270.0
            faces = {"in": inner, "out": (inner + 180.0) % 360, "back": 180.0}.get(way, 0.0)
            yield Dancer(middle + sign * APART, 0.0, faces)
