"""The same steps said otherwise, in many ways put together at random: each line must be read as its steps are by
themselves, or be asked about. What a set of lines written by hand cannot hold is how such ways go together.

Ways of saying: common practice, no source. "And" without counts is left out, as it may be the & before a step. Feet
are not compared: which of a figure a foot is said of differs.
"""

import random
import sys
from collections import Counter
from fractions import Fraction

from benchmarks.report import figure, heading
from firn.core.piece.build import piece_from
from firn.core.reading import doubts
from firn.core.script.said import NUMBERS, WHERE
from firn.core.steps.shelf import shipped

TRADITIONS = ("tap", "clogging", "flatfoot", "step dance", "solo jazz", "swing", "latin", "house")
LOOKED_AT, KEPT_APART = range(1, 9), range(1001, 1003)
"""Seeds of lines: those that were looked at where they went wrong, and those that never were."""
LINES = 1_000

_IN_WORDS = ("one", "two", "three", "four", "five", "six", "seven", "eight")
_LINKS = (", ", " then ", ", then ", ", and then ", "; ", " - ", ". ")
_LAST_LINKS = (", then ", " and then ", " and finally ", ", and finally ")
_OPENINGS = (
    "", "", "", "ok, ", "so ", "now ", "start with ", "first ", "we do ", "let's do ", "here's the step: ",
    "it goes ", "then ", "next ", "after that ", "from the top: ", "step one: ", "nice and slow, ", "we start with ",
    "try ", "do ", "this time ", "for example ", "like this: ", "we have ", "there's ", "count it: ",
)  # fmt: skip
_LEADS = (
    "", "", "", "{} foot: ", "starting {}, ", "on the {} foot, ", "with the {} foot: ", "start on the {}: ",
    "{} foot first: ", "{} foot lead, ", "from the {} foot, ",
)  # fmt: skip
_TWICE = (
    ", twice", ", x2", ", two times", ", do that twice", " (x2)", ", all twice", ", 2x", ", repeat", ", again",
    " - twice", ", then repeat", ". Repeat.", ", do it again", ", one more time", ", all of that twice",
    ", repeat it", ", everything x2", ", then again", ", double that",
)  # fmt: skip
_COUNTED = (
    "{n} {s}", "{w} {s}", "{s} {n}", "{s} on {n}", "{n}: {s}", "on {n} {s}", "{s} ({n})", "({n}) {s}", "{n} - {s}",
    "{s} on {w}", "count {n} {s}", "beat {n}: {s}", "{n} = {s}", "{n}. {s}", "{s} {w}", "{n} is a {s}", "{s} at {n}",
    "{n}, {s}", "on the {n}, {s}", "{n}) {s}", "a {s} on {n}", "on {n} a {s}",
)  # fmt: skip
_JOINS = (" ", ", ", " then ", "; ", "  ", ", then ", " / ", ". ", " | ")

Sounds = list[tuple[Fraction, str]]


def otherwise() -> None:
    """Of random lines, how many are read as meant, asked about, refused, or silently something else."""
    for seeds, name in ((LOOKED_AT, "looked at"), (KEPT_APART, "kept apart")):
        heading(f"The same steps said otherwise, {LINES} lines of each of {len(seeds)} seeds, {name}")
        found = Counter(what for seed in seeds for what, _, _ in lines(seed))
        many = sum(found.values())
        for what in ("right", "right, and asked about", "asked about", "refused", "silently other"):
            figure(what, f"{100 * found[what] / many:.1f} of 100", "none" if what == "silently other" else "")


def lines(seed: int) -> list[tuple[str, str, str]]:
    """What became of each line: what that is, in which tradition it is said, and the line."""
    hand = _Hand(random.Random(seed))
    return [hand.line() for _ in range(LINES)]


class _Hand:
    """Says steps in random ways."""

    def __init__(self, rng: random.Random) -> None:
        self._rng = rng
        self._names = {tradition: _names(tradition) for tradition in TRADITIONS}

    def line(self) -> tuple[str, str, str]:
        """Say one line, and read it."""
        tradition = self._rng.choice(TRADITIONS)
        wanted, said = self._counted(tradition) if self._rng.random() < 0.4 else self._uncounted(tradition)
        sounds, refused, asked = _read(tradition, said)
        if sounds == wanted and not refused:
            return ("right, and asked about" if asked else "right"), tradition, said
        return ("refused" if refused else "asked about" if asked else "silently other"), tradition, said

    def _counted(self, tradition: str) -> tuple[Sounds, str]:
        """Single sounds on counts of their own."""
        rng = self._rng
        names = [name for name, sounds in self._names[tradition] if sounds == 1]
        counts = sorted(rng.sample(range(1, 9), rng.randint(2, 6)))
        steps = [(count, rng.choice(names)) for count in counts]
        wanted, _, _ = _read(tradition, "\n".join(f"{count} {name}" for count, name in steps))
        way, join = rng.choice(_COUNTED), rng.choice(_JOINS)
        return wanted, join.join(way.format(n=n, w=_IN_WORDS[n - 1], s=name) for n, name in steps)

    def _uncounted(self, tradition: str) -> tuple[Sounds, str]:
        """Steps without counts, some of them several times, all of them once or twice."""
        rng = self._rng
        steps = [
            (rng.choice(self._names[tradition])[0], rng.choice((1, 1, 1, 2, 3, 4))) for _ in range(rng.randint(1, 4))
        ]
        twice = rng.random() < 0.3
        alone = [name for name, many in steps for _ in range(many)]
        wanted, _, _ = _read(tradition, "\n".join(alone * (1 + twice)))
        link = rng.choice(_LINKS)
        parts = [self._many(name, many, parted=link != " then ") for name, many in steps]
        last = rng.choice((link, link, *_LAST_LINKS))
        said = parts[0] if len(parts) == 1 else f"{link.join(parts[:-1])}{last}{parts[-1]}"
        lead = rng.choice(_LEADS).format(rng.choice(("left", "right")))
        end = (rng.choice(_TWICE) if twice else "") + rng.choice(("", "", ".", "!"))
        said = f"{lead}{rng.choice(_OPENINGS)}{said}{end}"
        return wanted, said[0].upper() + said[1:] if rng.random() < 0.2 else said

    def _many(self, name: str, many: int, *, parted: bool) -> str:
        """A step so often; `parted`: how often may be said behind it."""
        rng = self._rng
        if many == 1:
            return (
                rng.choice((name, name, name, f"a {name}", f"one {name}")) if parted and not name.isupper() else name
            )
        several = f"{_IN_WORDS[many - 1]} {_plural(name)}"
        if name in WHERE or not parted:
            return ", ".join([name] * many) if name in WHERE else several
        times = "twice" if many == 2 else f"{_IN_WORDS[many - 1]} times"
        return rng.choice(
            (several, f"{many} {_plural(name)}", f"{name} x{many}", f"{name} {times}", ", ".join([name] * many))
        )


def _names(tradition: str) -> list[tuple[str, int]]:
    """The names of a tradition's steps that are not counted in, for beginners, and how many sounds each has."""
    found = []
    for card in shipped().cards:
        words = card.name.split()
        plain = card.level == 1 and len(words) <= 3 and not any(w in NUMBERS or w in WHERE for w in words)
        if plain and (not card.traditions or tradition in card.traditions) and card.name.isascii():
            sounds, refused, asked = _read(tradition, card.name)
            if not refused and not asked and 0 < len(sounds) <= 6 and sounds == _read(tradition, f"{card.name}.")[0]:
                found.append((card.name, len(sounds)))
    return found


def _plural(name: str) -> str:
    if name.isupper():
        return name
    return f"{name}es" if name.endswith(("ch", "sh", "s", "x")) else f"{name}s"


def _read(tradition: str, text: str) -> tuple[Sounds, bool, bool]:
    """The sounds of a text, whether something of it is refused, and whether something is asked about."""
    part = piece_from(f"tradition: {tradition}\npart A\n{text}").parts[0]
    sounds = [(sound.place, sound.kind) for sound in part.sounds]
    return sounds, bool(part.problems), bool(list(doubts.findings(part)))


if __name__ == "__main__":
    for what, tradition, said in lines(int(sys.argv[1])):
        if what in sys.argv[2:]:
            print(f"{tradition}|{said}")
