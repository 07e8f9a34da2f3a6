"""Steps that are danced turning: each line must be read with these turns on these steps, or be asked about.

Ways of saying: common practice, no source.
"""

import random

from benchmarks.put_together import Line, PutTogether

_STEPS = {
    "tap": ("step", "stamp", "flap", "shuffle step", "paddle roll"),
    "clogging": ("triple", "basic", "DS", "rock step", "chain", "stomp", "step"),
    "swing": ("triple step", "rock step", "step"),
    "solo jazz": ("kick ball change", "step", "touch", "jazz square"),
    "latin": ("step", "chasse", "mambo break"),
    "house": ("step", "stomp"),
    "flatfoot": ("step", "rock step"),
}
_WAYS = (
    "{s} turning {a} {d}", "{s} with a {a} turn {d}", "turn {a} {d} on the {s}", "{s} {a} {d}", "{s} (turn {a} {D})",
    "{s} and turn {a} {d}", "{s} turn {a} {d}", "{a} turn {d} on the {s}", "{s} with {a} turn {d}",
    "{s} making a {a} turn to the {d}", "{s}, turning {a} {d}", "{s} ({a} {D})", "{s}, {a} turn {d}",
    "turning {a} {d}, {s}", "{s} while turning {a} {d}", "{s} turning {a} to the {d}", "do a {a} turn {d} on the {s}",
    "{s}, turn {a} to the {d}", "{s} w/ {a} turn {d}", "{s}, turn {a} {d}", "a {s} turning {a} {d}",
    "make the {s} turn {a} {d}", "{s} and turn {a} to your {d}",
)  # fmt: skip
_FAR = (("1/4", "quarter"), ("1/2", "half"))
_LINKS = (", ", " then ", ", then ", "; ", ". ")

_Turn = tuple[tuple[str, str], str]


def _line(rng: random.Random) -> Line:
    tradition = rng.choice(list(_STEPS))
    many = rng.randint(1, 3)
    turns = [rng.random() < 0.5 for _ in range(many)]
    turns[rng.randrange(many)] = True
    danced: list[tuple[str, _Turn | None]] = [
        (rng.choice(_STEPS[tradition]), (rng.choice(_FAR), rng.choice(("left", "right"))) if turn else None)
        for turn in turns
    ]
    written = ", ".join(step if turn is None else f"{step} {turn[0][0]} {turn[1]}" for step, turn in danced)
    way, word = rng.choice(_WAYS), rng.randrange(2)
    parts = [
        step if turn is None else way.format(s=step, a=turn[0][word], d=turn[1], D=turn[1][0].upper())
        for step, turn in danced
    ]
    return tradition, written, rng.choice(_LINKS).join(parts)


TURNED = PutTogether("Steps danced turning", 400, _line, lambda sound: (sound.place, sound.kind, sound.turn))

if __name__ == "__main__":
    TURNED.show()
