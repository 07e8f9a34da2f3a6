"""Steps that are said each with its foot, in many ways put together at random: each line must be read with these
feet, or be asked about. Sets written by hand hold few of the ways in which feet and steps go together.

Ways of saying: common practice, no source.
"""

import random
import sys
from collections import Counter
from fractions import Fraction

from benchmarks.report import figure, heading
from benchmarks.spoken import piece_of
from firn.core.reading import doubts

LOOKED_AT, KEPT_APART = range(1, 5), range(1001, 1003)
"""Seeds of lines: those that were looked at where they went wrong, and those that never were."""
LINES = 600

_STEPS: dict[str, tuple[tuple[str, ...], tuple[str, ...]]] = {
    "tap": (
        ("stamp", "step", "flap", "leap", "cramp roll", "paddle roll", "shuffle step"),
        ("touch", "stomp", "dig", "brush", "shuffle", "heel drop", "toe tap"),
    ),
    "clogging": (
        ("DS", "step", "double step", "basic", "triple", "stamp"), ("brush", "stomp", "touch", "toe tip")
    ),
    "solo jazz": (("step", "kick ball change", "stamp"), ("kick", "touch", "stomp", "dig")),
    "latin": (("step",), ("tap", "kick", "touch")),
    "step dance": (("step", "hop back", "treble step"), ("point", "stomp", "treble")),
    "house": (("step", "stamp"), ("kick", "touch")),
    "folk stamping": (("stamp", "step"), ("heel", "toe tip", "stomp")),
}  # fmt: skip
"""Steps of each tradition: those that take the weight, and those that do not."""

_WAYS = (
    "{s} {f}", "{f} {s}", "{s} on the {f}", "{s} with the {f}", "{s} with the {f} foot", "{s} ({F})", "{s} {F}",
    "{F} {s}", "{f} foot {s}", "{s} {f} foot", "{s} on {f}", "{F}: {s}", "{s}-{F}", "{s} using the {f}",
    "a {s} on the {f}", "a {f} {s}", "your {f} {s}", "{s}, {f} foot", "{s}, {f}", "{s} on your {f}", "{f}, {s}",
    "{s} with {f}", "with the {f}, {s}", "{f} foot: {s}", "the {f} {s}",
)  # fmt: skip
_LINKS = (", ", " then ", ", then ", "; ", " and then ", ". ", " / ")

Sounds = list[tuple[Fraction, str, str]]


def footed() -> None:
    """Of random lines with feet, how many are read as meant, asked about, refused, or silently something else."""
    for seeds, name in ((LOOKED_AT, "looked at"), (KEPT_APART, "kept apart")):
        heading(f"Steps each with its foot, {LINES} lines of each of {len(seeds)} seeds, {name}")
        found = Counter(what for seed in seeds for what, _, _ in lines(seed))
        many = sum(found.values())
        for what in ("right", "right, and asked about", "asked about", "refused", "silently other"):
            figure(what, f"{100 * found[what] / many:.1f} of 100", "none" if what == "silently other" else "")


def lines(seed: int) -> list[tuple[str, str, str]]:
    """What became of each line: what that is, in which tradition it is said, and the line."""
    rng = random.Random(seed)
    made = (_line(rng) for _ in range(LINES))
    return [one for one in made if one is not None]


def _line(rng: random.Random) -> tuple[str, str, str] | None:
    """Say one line, and read it; None for steps that cannot be danced so."""
    tradition = rng.choice(list(_STEPS))
    heavy, light = _STEPS[tradition]
    foot = rng.choice("RL")
    steps = []
    for _ in range(rng.randint(2, 4)):
        if rng.random() < 0.55:
            steps.append((rng.choice(heavy), foot))
            foot = "L" if foot == "R" else "R"
        else:
            steps.append((rng.choice(light), foot))
    wanted, wrong, asked = _read(tradition, ", ".join(f"{own} {step}" for step, own in steps))
    if wrong or asked:
        return None
    way, link = rng.choice(_WAYS), rng.choice(_LINKS)
    mixed = rng.random() < 0.3
    parts = [
        (rng.choice(_WAYS) if mixed else way).format(s=step, F=own, f="right" if own == "R" else "left")
        for step, own in steps
    ]
    said = link.join(parts)
    sounds, wrong, asked = _read(tradition, said)
    if sounds == wanted and not wrong:
        return ("right, and asked about" if asked else "right"), tradition, said
    return ("refused" if wrong else "asked about" if asked else "silently other"), tradition, said


def _read(tradition: str, text: str) -> tuple[Sounds, bool, bool]:
    """The sounds of a text with their feet, whether something of it is refused or cannot be danced, and whether
    something is asked about."""
    piece = piece_of(tradition, text)
    part = piece.parts[0]
    sounds = [(sound.place, sound.kind, sound.foot) for sound in part.sounds]
    return sounds, bool(piece.problems or part.footing.faults), bool(list(doubts.findings(part)))


if __name__ == "__main__":
    for what, tradition, said in lines(int(sys.argv[1])):
        if what in sys.argv[2:]:
            print(f"{tradition}|{said}")
