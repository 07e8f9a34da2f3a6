"""Combos said in many ways put together at random: each must unfold to the parts that are meant, or be asked about.

Ways of saying: common practice, no source.
"""

import random
import sys
from collections import Counter

from benchmarks.report import figure, heading
from firn.core.piece.build import piece_from
from firn.core.piece.unfold import unfold

LOOKED_AT, KEPT_APART = range(1, 5), range(2001, 2003)
"""Seeds of combos: those that were looked at where they went wrong, and those that never were."""
COMBOS = 500

_NAMES = ("A", "B", "C", "Break", "Basic two", "Chorus", "Turn-over")
_STRUCK = ("stamp", "clap", "stomp", "hold", "dig", "touch", "brush")
_IN_WORDS = {2: "two", 3: "three", 4: "four"}
_ONCE = ("{p}", "{p}", "{p}", "the {p}", "one {p}", "part {p}", "{p} once", "a {p}")
_OFTEN = (
    "{p} x{n}", "{n}x {p}", "{p} {t}", "{w} {p}s", "{n} {p}s", "{p} ({n}x)", "{n} times {p}", "{p} {n} times",
    "{w} times {p}", "{p} X{n}", "{t} {p}", "{p} ({t})", "{p} × {n}",
)  # fmt: skip
_LINKS = (", ", " ", "; ", " then ", ", then ", ", and then ", " - ", " → ", " / ", ". ", ", and ", " > ", ", next ")
_LAST = (
    ", then ", " and finally ", ", and ", ", finish with ", " and end with ", ", ending with ",
    " and last ", ", last ",
)  # fmt: skip
_OPENINGS = (
    "", "", "", "start with ", "first ", "we do ", "order: ", "the order is ", "then ", "it goes ", "combo: ", "so, ",
    "let's do ", "we start with ", "the combo is ", "routine: ", "dance ", "now ", "ok: ", "it goes: ",
)  # fmt: skip
_TWICE = (
    "( {} ) x2", "{}, all twice", "{}, repeat", "{}, twice through", "2x ( {} )", "{} - all of it twice",
    "{}. Repeat.", "{}, then repeat", "({}) twice", "twice: {}", "{}, again", "{}, do it all twice",
    "{}, and again from the top", "{}, the whole thing twice", "{}, all x2", "({}) x 2", "{}, and repeat",
    "{}, then all again",
)  # fmt: skip


def combos() -> None:
    """Of random combos, how many unfold as meant, are refused or asked about, or are silently something else."""
    for seeds, name in ((LOOKED_AT, "looked at"), (KEPT_APART, "kept apart")):
        heading(f"Combos as they are said, {COMBOS} of each of {len(seeds)} seeds, {name}")
        found = Counter(what for seed in seeds for what, _, _ in said(seed))
        many = sum(found.values())
        for what in ("right", "refused", "silently other"):
            figure(what, f"{100 * found[what] / many:.1f} of 100", "none" if what == "silently other" else "")


def said(seed: int) -> list[tuple[str, str, list[str]]]:
    """What became of each combo: what that is, the combo, and what it comes to."""
    rng = random.Random(seed)
    return [_one(rng) for _ in range(COMBOS)]


def _one(rng: random.Random) -> tuple[str, str, list[str]]:
    parts: list[tuple[str, int]] = []
    for _ in range(rng.randint(1, 5)):
        name = rng.choice([n for n in _NAMES if not parts or n != parts[-1][0]])
        parts.append((name, rng.choice((1, 1, 1, 2, 3, 4))))
    meant = [name for name, times in parts for _ in range(times)]
    words = [_part(rng, *part) for part in parts]
    link = rng.choice(_LINKS)
    last = rng.choice((link, link, *_LAST))
    text = rng.choice(_OPENINGS) + link.join(words[:-1]) + (last if len(words) > 1 else "") + words[-1]
    if rng.random() < 0.25:
        text, meant = rng.choice(_TWICE).format(text), meant * 2
    text += rng.choice(("", "", "."))
    head = "".join(f"part {n}\n1 step 2 step 3 {s} 4 step\n" for n, s in zip(_NAMES, _STRUCK, strict=True))
    piece = piece_from(f"tradition: tap\n{head}combo\n{text}")
    found = [] if piece.problems else [one.part.name for one in unfold(piece).passes]
    return "refused" if piece.problems else "right" if found == meant else "silently other", text, found


def _part(rng: random.Random, name: str, times: int) -> str:
    if times == 1:
        return rng.choice(_ONCE).format(p=name)
    if rng.random() < 0.15:
        return rng.choice((" ", ", ")).join([name] * times)
    often = "twice" if times == 2 else f"{_IN_WORDS[times]} times"
    return rng.choice(_OFTEN).format(p=name, n=times, w=_IN_WORDS[times], t=often)


if __name__ == "__main__":
    for what, text, found in said(int(sys.argv[1])):
        if what in sys.argv[2:]:
            print(f"{text}  ||  {', '.join(found)}")
