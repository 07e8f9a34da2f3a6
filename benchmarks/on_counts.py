"""Single sounds that are said each with its count, or with all its counts, halves among them: each line must be read
on these counts, or be asked about.

Ways of saying: common practice, no source.
"""

import random
from fractions import Fraction

from benchmarks.put_together import Line, PutTogether

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

Danced = list[tuple[Fraction, str]]


def _line(rng: random.Random) -> Line:
    tradition = rng.choice(list(_STEPS))
    places = sorted(rng.sample([Fraction(half, 2) for half in range(16)], rng.randint(2, 5)))
    places = sorted({places[0] // 1 + Fraction(0), *places[1:]})
    danced = [(place, rng.choice(_STEPS[tradition])) for place in places]
    written = "\n".join(f"{place // 1 + 1}{'+1/2' if place % 1 else ''} {step}" for place, step in danced)
    return tradition, written, _each(rng, danced) if rng.random() < 0.6 else _listed(rng, danced)


def _each(rng: random.Random, danced: Danced) -> str:
    way, in_words = rng.choice(_EACH), rng.random() < 0.5
    return rng.choice(_LINKS).join(way.format(s=step, c=_count(place, in_words)) for place, step in danced)


def _listed(rng: random.Random, danced: Danced) -> str:
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


ON_COUNTS = PutTogether("Sounds said with their counts", 500, _line, lambda sound: (sound.place, sound.kind))

if __name__ == "__main__":
    ON_COUNTS.show()
