"""The wall ledger: how the turns of a part and of a combo add up, and which way the dancer faces."""

import re
from collections import Counter
from collections.abc import Iterator
from fractions import Fraction

from firn.core.piece.piece import Part, Piece
from firn.core.piece.unfold import Unfolded
from firn.core.reading.finding import Finding, Level, MendText, Value
from firn.core.script.changes import Change
from firn.core.script.turns import turn_text

WALLS = (
    "front", "front right corner", "right wall", "back right corner", "back", "back left corner", "left wall",
    "front left corner",
)  # fmt: skip


def facing(turned: Fraction) -> str:
    """Which way the dancer faces after so much of a turn to the right (left below 0), from the front."""
    eighths = turned % 1 * 8
    if eighths.denominator == 1:
        return WALLS[int(eighths)]
    return f"{turn_text(turned % 1).removesuffix(' right')} of a turn right of front"


def facings(unfolded: Unfolded) -> Iterator[tuple[Fraction, str]]:
    """The way faced after each pass: how far it is all turned, and the name of that way."""
    turned = Fraction(0)
    for one in unfolded.passes:
        turned += one.turn
        yield turned, facing(turned)


def part_turns(part: Part) -> list[Finding]:
    """Where a part that turns ends, and after how many times it faces the front again."""
    turned = sum((s.turn for s in part.sounds), Fraction(0))
    if not any(s.turn for s in part.sounds):
        return []
    values: dict[str, Value] = {
        "turn": turn_text(turned) or "0",
        "facing": facing(turned),
        "times": (turned % 1).denominator,
    }
    code = "turns_front" if (turned % 1) == 0 else "turns"
    return [Finding(code, "ok", part.name, values=values)]


_WAYS = {
    "forward": (0, 1), "back": (0, -1), "left": (-1, 0), "right": (1, 0),
}  # fmt: skip
_MANY = {"two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8}
_TRAVEL = re.compile(
    rf"(?:\b({'|'.join(_MANY)})\s+)?(?:steps?\s+)?\b(forwards?|back(?:wards?)?|left|right)\b", re.IGNORECASE
)


_GOES = {"forward": "forward", "back": "back", "to the left": "left", "to the right": "right"}
"""Where a step goes that takes the dancer along."""


def travel(part: Part) -> list[Finding]:
    """Where a part travels to by what its moves say, and the room that it takes on the way.

    Forward, back, left, right, each once or as often as is said, seen from how the dancer stands; by where its steps
    are said to go, too.
    """
    steps: Counter[str] = Counter()
    across = along = 0
    room: Counter[str] = Counter()
    moves = (c for c in part.layers.cues if c.layer == "moves")
    said_of = [(c.place, many, way) for c in moves for many, way in _TRAVEL.findall(c.text)]
    said_of += ((use.places[0], "", way) for use in part.uses if (way := _GOES.get(use.word.where)) and not use.layer)
    for _, many, said in sorted(said_of, key=lambda one: one[0]):
        way, times = said.casefold().removesuffix("s").replace("backward", "back"), _MANY.get(many.casefold(), 1)
        steps[way] += times
        across, along = across + _WAYS[way][0] * times, along + _WAYS[way][1] * times
        for to, far in (("forward", along), ("back", -along), ("right", across), ("left", -across)):
            room[to] = max(room[to], far)
    if not steps:
        return []
    net = [f"{abs(along)} {'forward' if along > 0 else 'back'}"] if along else []
    net += [f"{abs(across)} {'right' if across > 0 else 'left'}"] if across else []
    told = ", ".join(f"{way} {many}" for way, many in steps.items())
    where = f"{' and '.join(net)} of where it began" if net else "where it began"
    needed = " and ".join(f"{far} {to}" for to, far in room.items() if far)
    return [Finding("travel", "ok", part.name, values={"told": told, "net": where, "room": needed})]


def combo_turns(piece: Piece, unfolded: Unfolded) -> list[Finding]:
    """Where a combo that turns ends: at the front it holds, at any other wall it is worth a look.

    With the turn that would bring it to the front, where it was probably forgotten.
    """
    if not any(p.turn or any(s.turn for s in p.sounds) for p in unfolded.passes):
        return []
    ways = list(facings(unfolded))
    turned, way = ways[-1]
    after: list[str] = []
    for one, (_, name) in zip(unfolded.passes, ways, strict=True):
        if not after or not after[-1].startswith(f"{name} after "):
            after.append(f"{name} after {one.part.name}")
    values: dict[str, Value] = {"facing": way, "turn": turn_text(turned) or "0", "after": ", ".join(after[:8])}
    if len(after) > 8:
        values["after"] = f"{', '.join(after[:8])} …"
    values["times"] = (turned % 1).denominator
    level: Level = "ok" if turned % 1 == 0 else "look"
    mends = () if level == "ok" else tuple(_forgotten(piece, turned))
    walls = Finding("walls_front" if level == "ok" else "walls", level, "combo", values=values, mends=mends)
    return [walls, *_senses(unfolded)]


def _senses(unfolded: Unfolded) -> list[Finding]:
    """How much it turns each way, where it turns both ways."""
    turns = [p.turn for p in unfolded.passes]
    right, left = sum((t for t in turns if t > 0), Fraction(0)), -sum((t for t in turns if t < 0), Fraction(0))
    if not right or not left:
        return []
    return [Finding("senses", "ok", "combo", values={"right": _turns(right), "left": _turns(left)})]


def _turns(amount: Fraction) -> str:
    whole, rest = divmod(amount, 1)
    return str(rest) if not whole else f"{whole} {rest}" if rest else str(whole)


def _forgotten(piece: Piece, turned: Fraction) -> Iterator[MendText]:
    """Turns that would bring the front: as the same part turns elsewhere, else in the last item that has none."""
    missing = -turned % 1
    shortest = missing - 1 if missing > Fraction(1, 2) else missing
    usual = {item.part: item.turn for item in piece.combo if item.turn}
    bare = [item for item in piece.combo if not item.turn and piece.combo.count(item) == 1]
    tried = [(item, usual[item.part]) for item in bare if item.part in usual]
    tried += [(item, shortest / item.times) for item in reversed(bare)][:1]
    seen = set()
    for item, turn in tried:
        if (turn * item.times - missing) % 1 or item.until in seen:
            continue
        seen.add(item.until)
        line, column = item.until
        said = turn_text(turn)
        yield MendText(
            "turn_in", {"part": item.part, "turn": said}, (Change(line, column, column, f", turn {said}"),)
        )
