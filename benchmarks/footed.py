"""Steps that are said each with its foot: each line must be read with these feet, or be asked about.

Ways of saying: common practice, no source.
"""

import random

from benchmarks.put_together import Line, PutTogether

_STEPS: dict[str, tuple[tuple[str, ...], tuple[str, ...]]] = {
    "tap": (
        ("stamp", "step", "flap", "leap", "cramp roll", "paddle roll", "shuffle step"),
        ("touch", "stomp", "dig", "brush", "shuffle", "heel drop", "toe tap"),
    ),
    "clogging": (
        ("DS", "step", "double step", "basic", "triple", "stamp"), ("brush", "stomp", "touch", "toe tip"),
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


def _line(rng: random.Random) -> Line:
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
    way, link = rng.choice(_WAYS), rng.choice(_LINKS)
    mixed = rng.random() < 0.3
    parts = [
        (rng.choice(_WAYS) if mixed else way).format(s=step, F=own, f="right" if own == "R" else "left")
        for step, own in steps
    ]
    return tradition, ", ".join(f"{own} {step}" for step, own in steps), link.join(parts)


FOOTED = PutTogether("Steps each with its foot", 600, _line, lambda sound: (sound.place, sound.kind, sound.foot))

if __name__ == "__main__":
    FOOTED.show()
