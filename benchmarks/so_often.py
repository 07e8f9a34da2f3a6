"""Steps that are said to be danced so often, with the foot that begins or that dances each: each line must be read
so, or be asked about.

Ways of saying: common practice, no source.
"""

import random

from benchmarks.put_together import Line, PutTogether

_STEPS: dict[str, tuple[tuple[str, ...], tuple[str, ...]]] = {
    "tap": (("flap", "stamp", "paddle roll"), ("heel drop", "dig", "stomp", "brush")),
    "clogging": (("DS", "triple", "basic", "rock step", "stamp"), ("stomp", "brush", "touch")),
    "solo jazz": (("kick ball change", "step", "stamp"), ("kick", "touch", "stomp")),
    "folk stamping": (("golpe", "stamp", "step"), ("heel", "stomp")),
    "step dance": (("threes", "hop back", "treble step"), ("point",)),
    "latin": (("step",), ("tap", "kick")),
}
"""Steps of each tradition: those that take the weight, and those that do not."""

_BEGUN = (
    "{s} x{n} {f}", "{w} {p} starting {f}", "{n} {p} starting on the {f}", "{s} {n} times starting {f}",
    "{s} x{n}, {f} foot first", "{f} foot: {w} {p}", "{w} {p}, {f} first", "{F} {s} x{n}", "{w} {p} off the {f} foot",
    "{w} {p}, starting with the {f} foot", "starting {f}, {w} {p}", "{w} {p} leading with the {f}",
    "{w} {p}, leading with the {f}", "{s} {f}, {n} times",
)  # fmt: skip
"""Of what changes feet: the foot that begins."""
_EACH = (
    "{s} {f} x{n}", "{w} {p} with the {f}", "{w} {f} {p}", "{f} {s} {t}", "{s} the {f} foot {n} times",
    "{s} {n}x on the {f}", "{w} {p} on your {f}", "{f} foot {s} x{n}", "{s} x{n} ({F})", "{s} {f} {t}",
    "{F}: {s} x{n}", "{w} {p} ({f})", "{f} {p} x{n}", "{s} {t} with the {f}",
)  # fmt: skip
"""Of what does not: the foot that dances each."""
_IN_WORDS = ("", "one", "two", "three", "four")
_LINKS = (", ", " then ", ", then ", "; ", ". ")
_OTHER = {"left": "right", "right": "left"}


def _plural(name: str) -> str:
    return (
        name if name.isupper() or name.endswith("s") else f"{name}es" if name.endswith(("ch", "sh")) else f"{name}s"
    )


def _line(rng: random.Random) -> Line:
    tradition = rng.choice(list(_STEPS))
    heavy, light = _STEPS[tradition]
    foot = rng.choice(("left", "right"))
    begun, each = rng.choice(_BEGUN), rng.choice(_EACH)
    written, parts = [], []
    for _ in range(rng.randint(1, 3)):
        many, changes = rng.randint(2, 4), rng.random() < 0.5
        step = rng.choice(heavy if changes else light)
        times = "twice" if many == 2 else f"{_IN_WORDS[many]} times"
        said = {"s": step, "p": _plural(step), "n": many, "w": _IN_WORDS[many], "t": times, "f": foot}
        parts.append((begun if changes else each).format(F=foot[0].upper(), **said))
        for _ in range(many):
            written.append(f"{foot[0].upper()} {step}")
            foot = _OTHER[foot] if changes else foot
    return tradition, ", ".join(written), rng.choice(_LINKS).join(parts)


SO_OFTEN = PutTogether(
    "Steps danced so often with a foot", 400, _line, lambda sound: (sound.place, sound.kind, sound.foot)
)

if __name__ == "__main__":
    SO_OFTEN.show()
