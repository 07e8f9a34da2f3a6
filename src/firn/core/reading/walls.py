"""The wall ledger: how the turns of a part and of a combo add up, and which way the dancer faces."""

from collections.abc import Iterator
from fractions import Fraction

from firn.core.piece.piece import Part
from firn.core.piece.unfold import Unfolded
from firn.core.reading.finding import Finding, Level
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
    values = {"turn": turn_text(turned) or "0", "facing": facing(turned), "times": str((turned % 1).denominator)}
    code = "turns_front" if (turned % 1) == 0 else "turns"
    return [Finding(code, "ok", part.name, values=values)]


def combo_turns(unfolded: Unfolded) -> list[Finding]:
    """Where a combo that turns ends: at the front it holds, at any other wall it is worth a look."""
    if not any(p.turn or any(s.turn for s in p.sounds) for p in unfolded.passes):
        return []
    ways = list(facings(unfolded))
    turned, way = ways[-1]
    after: list[str] = []
    for one, (_, name) in zip(unfolded.passes, ways, strict=True):
        if not after or not after[-1].startswith(f"{name} after "):
            after.append(f"{name} after {one.part.name}")
    values = {"facing": way, "turn": turn_text(turned) or "0", "after": ", ".join(after[:8])}
    if len(after) > 8:
        values["after"] += " …"
    values["times"] = str((turned % 1).denominator)
    level: Level = "ok" if turned % 1 == 0 else "look"
    return [Finding("walls_front" if level == "ok" else "walls", level, "combo", values=values)]
