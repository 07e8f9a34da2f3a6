"""Sounds that a teacher ties to the feet of the ones before: heels in the order of their steps, a landing on the foot
that touched.

Common practice, no source.
"""

from collections.abc import Collection, Sequence

from msgspec.structs import replace

from firn.core.script.items import Item, Repeat, Word, WordRun
from firn.core.steps.card import Role

DROPS = ("heel", "toe")
STEPS = ("step", "flat")
TOUCHES = ("touch", "dig", "toe_tip")


def tied(items: Sequence[Item], loose: Collection[int] = ()) -> list[Item]:
    """Items with the words that are tied to others before them marked: with the foot A or B of the last step.

    `loose`: columns; pairs that open the line on one of these are not tied.
    """
    words = _words(items)
    pairs = not words or words[0].column not in loose
    roles = _roles([_kind(word) for word in words], pairs=pairs)
    if not any(roles) and not any(isinstance(item, Repeat) for item in items):
        return list(items)
    marked = iter(replace(word, tied=role) if role else word for word, role in zip(words, roles, strict=True))
    made: list[Item] = []
    for item in items:
        if isinstance(item, WordRun):
            made.append(WordRun(item.counts, tuple(next(marked) for _ in item.words)))
        elif isinstance(item, Repeat):
            made.append(replace(item, body=tuple(tied(item.body, loose))))
        else:
            made.append(item)
    return made


def paired(items: Sequence[Item]) -> list[Word]:
    """The pairs of heels and toes that open a line, or what is in brackets: whose they are may be in doubt.

    With them the sound that follows, whose foot goes by theirs.
    """
    words = _words(items)
    if words and _kind(words[0]) in DROPS:
        kinds = [_kind(word) for word in words]
        if many := _pairs(kinds):
            return words[: many + any(kinds[many : many + 1])]
    bodies = (paired(item.body) for item in items if isinstance(item, Repeat))
    return next(filter(None, bodies), [])


def _words(items: Sequence[Item]) -> list[Word]:
    return [word for item in items if isinstance(item, WordRun) for word in item.words]


def _kind(word: Word) -> str:
    """The kind of a word's one sound; "" for what is more than that, or would be tied but for a foot that is said."""
    if word.card is None or word.times > 1 or word.joined or len(word.card.beats) > 1:
        return ""
    kind = word.card.beats[0].kind.name
    return "" if word.side and kind in (*DROPS, "land") else kind


def _roles(kinds: Sequence[str], *, pairs: bool) -> list[Role | None]:
    """For each sound the foot of the last step's that it is tied to; None for none.

    Of pairs that open a line both feet, which are down, take turns, the one that carries first, as of a heel alone.
    """
    roles: list[Role | None] = [None] * len(kinds)
    at = _pairs(kinds) if pairs else 0
    roles[:at] = ["B", "A"] * (at // 2)
    while at < len(kinds):
        many = _alike(kinds, at)
        if kinds[at] in STEPS and many > 1:
            at = _drops(kinds, at + many, many, roles)
        elif kinds[at] in TOUCHES and tuple(kinds[at + 1 : at + 3]) == ("pickup", "land"):
            # The foot that touched is the free one: A of the pickup.
            roles[at + 2] = "A"
            at += 3
        else:
            at += many
    return roles


def _pairs(kinds: Sequence[str]) -> int:
    """How many sounds the pairs of heels and toes have that open a line; 0 where there are not two of them."""
    at = 0
    while at < len(kinds) and kinds[at] in DROPS and _alike(kinds, at) == 2:
        at += 2
    return at if at >= 4 else 0


def _alike(kinds: Sequence[str], at: int) -> int:
    """How many of some kinds from one on are the same."""
    return next((n for n, kind in enumerate(kinds[at:]) if kind != kinds[at]), len(kinds) - at)


def _drops(kinds: Sequence[str], at: int, steps: int, roles: list[Role | None]) -> int:
    """Tie as many heels, or toes, as there were steps, in their order; again where more of these follow."""
    while at < len(kinds) and kinds[at] in DROPS and _alike(kinds, at) == steps:
        for number in range(steps):
            roles[at + number] = "A" if (steps - 1 - number) % 2 == 0 else "B"
        at += steps
    return at
