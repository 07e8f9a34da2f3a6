"""The wall ledger: how the turns of a part and of a combo add up, and which way the dancer faces."""

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
    turns = [s.turn for s in part.sounds if s.turn]
    if not turns:
        return []
    turned = sum(turns, Fraction(0))
    values: dict[str, Value] = {
        "turn": turn_text(turned) or "0",
        "facing": facing(turned),
        "times": (turned % 1).denominator,
    }
    code = "turns_front" if (turned % 1) == 0 else "turns"
    return [Finding(code, "ok", part.name, values=values)]


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
