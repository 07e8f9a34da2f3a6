"""Single sounds that are said each with its count, or with all its counts, halves among them, in many ways put
together at random: each line must be read on these counts, or be asked about.

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
LINES = 500

_STEPS = {
    "tap": ("stamp", "step", "touch", "stomp", "dig", "brush", "clap", "heel drop", "spank"),
    "solo jazz": ("step", "kick", "touch", "stomp", "clap", "snap"),
    "latin": ("step", "tap", "kick", "clap"),
    "house": ("step", "kick", "stamp", "clap"),
    "folk stamping": ("stamp", "heel", "clap", "stomp", "pat"),
    "step dance": ("step", "hop", "point", "stamp"),
}
_IN_WORDS = ("one", "two", "three", "four", "five", "six", "seven", "eight")
_EACH = (
    "{s} on {c}", "{s} ({c})", "on {c} {s}", "{s} at {c}", "{c}: {s}", "{c} {s}", "{s} {c}", "{c} = {s}", "{c} - {s}",
    "a {s} on {c}", "on {c}, {s}", "{s} is on {c}", "{s} falls on {c}", "then {s} on {c}", "the {s} is on {c}",
    "on {c} there's a {s}", "{s} right on {c}", "{s} comes on {c}",
)  # fmt: skip
_LINKS = (", ", " then ", ", then ", "; ", ". ", " and ", " / ", ", and ")
_LISTS = ("{s} on {c}", "on {c} {s}", "{c}: {s}", "{s}: {c}", "{s} ({c})", "a {s} on {c}")
_LIST_LINKS = ("; ", ", then ", ". ", " / ")

Sounds = list[tuple[Fraction, str]]


def on_counts() -> None:
    """Of random lines with counts, how many are read as meant, asked about, refused, or silently something else."""
    for seeds, name in ((LOOKED_AT, "looked at"), (KEPT_APART, "kept apart")):
        heading(f"Sounds said with their counts, {LINES} lines of each of {len(seeds)} seeds, {name}")
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
    places = sorted(rng.sample([Fraction(half, 2) for half in range(16)], rng.randint(2, 5)))
    places = sorted({places[0] // 1 + Fraction(0), *places[1:]})
    danced = [(place, rng.choice(_STEPS[tradition])) for place in places]
    written = "\n".join(f"{place // 1 + 1}{'+1/2' if place % 1 else ''} {step}" for place, step in danced)
    wanted, wrong, asked = _read(tradition, written)
    if wrong or asked:
        return None
    said = _each(rng, danced) if rng.random() < 0.6 else _listed(rng, danced)
    sounds, wrong, asked = _read(tradition, said)
    if sounds == wanted and not wrong:
        return ("right, and asked about" if asked else "right"), tradition, said
    return ("refused" if wrong else "asked about" if asked else "silently other"), tradition, said


def _each(rng: random.Random, danced: list[tuple[Fraction, str]]) -> str:
    way, in_words = rng.choice(_EACH), rng.random() < 0.5
    return rng.choice(_LINKS).join(way.format(s=step, c=_count(place, in_words)) for place, step in danced)


def _listed(rng: random.Random, danced: list[tuple[Fraction, str]]) -> str:
    """Each step once, with all its counts."""
    way, in_words = rng.choice(_LISTS), rng.random() < 0.5
    counts: dict[str, list[str]] = {}
    for place, step in danced:
        counts.setdefault(step, []).append(_count(place, in_words))
    lists = [
        (step, own[0] if len(own) == 1 else f"{', '.join(own[:-1])} and {own[-1]}") for step, own in counts.items()
    ]
    return rng.choice(_LIST_LINKS).join(way.format(s=step, c=own) for step, own in lists)


def _count(place: Fraction, in_words: bool) -> str:
    number = _IN_WORDS[int(place)] if in_words else str(int(place) + 1)
    return number if not place % 1 else f"the {'and' if in_words else '&'} of {number}"


def _read(tradition: str, text: str) -> tuple[Sounds, bool, bool]:
    """The sounds of a text, whether something of it is refused or cannot be danced, and whether something is asked
    about."""
    piece = piece_of(tradition, text)
    part = piece.parts[0]
    sounds = [(sound.place, sound.kind) for sound in part.sounds]
    return sounds, bool(piece.problems or part.footing.faults), bool(list(doubts.findings(part)))


if __name__ == "__main__":
    for what, tradition, said in lines(int(sys.argv[1])):
        if what in sys.argv[2:]:
            print(f"{tradition}|{said}")
