"""A step card: what a word of footwork means, sound by sound."""

from collections.abc import Mapping
from fractions import Fraction
from typing import Any, Literal

from msgspec import Struct

from firn.core.steps.kinds import KINDS, Kind

Role = Literal["A", "B", "2", "W", "T", "-"]
Takes = Literal["takes", "stays", "both", ""]

ROLES: tuple[Role, ...] = ("A", "B", "2", "W", "T", "-")


_TAKES: dict[str, Takes] = {"takes": "takes", "stays": "stays", "both": "both"}


class CardError(ValueError):
    """A card that cannot be read; the message names the card and what was expected."""


class Beat(Struct, frozen=True):
    """One sound of a card.

    `role`: A the foot that is free when the word starts, B the other, 2 both, W the foot that carries,
    T the foot whose toe is up, - no foot. `weight`: whether the sound takes weight where its kind leaves
    that open. `level` as in Kind.
    """

    kind: Kind
    role: Role
    weight: Takes = ""
    level: int = 0
    as_one: bool = False


class Card(Struct, frozen=True, eq=False):
    """A step: its sounds, and the counts on which it usually falls.

    `usual` maps a tradition ("" for any) to lists of places in counts; the first is the default. Places are
    relative to a whole count 0. `remedies`: what helps when a take misses it. `floor`, `ceiling`: the slowest and
    fastest tempo that the trade names, 0 for none. `simpler`: the card that stands in for it.
    """

    name: str
    aliases: tuple[str, ...]
    traditions: tuple[str, ...]
    beats: tuple[Beat, ...]
    usual: Mapping[str, tuple[str, ...]]
    sentence: str = ""
    caution: str = ""
    counts: int = 0
    primitive: bool = False
    remedies: tuple[str, ...] = ()
    floor: int = 0
    ceiling: int = 0
    simpler: str = ""

    def usual_for(self, tradition: str) -> str:
        """The counts a tradition usually says, as text such as "&1"."""
        return self.usual.get(tradition, self.usual[""])[0]

    @property
    def weight_changes(self) -> int:
        """How many of its sounds move the weight, as the trade counts them."""
        moving = {"step", "flat", "heel_step", "leap", "jump", "land"}
        return sum((b.kind.name in moving and b.weight != "stays") or b.weight == "takes" for b in self.beats)

    @property
    def sounds(self) -> int:
        """How many of its beats are heard."""
        return sum(not b.kind.silent for b in self.beats)


def _beat(text: str, card: str) -> Beat:
    words = text.split()
    name = words[0] if words else ""
    level = {"!": 1, "~": -1}.get(name[-1:], 0)
    kind = KINDS.get(name.rstrip("!~"))
    if kind is None:
        raise CardError(f'card "{card}": no sound is called "{name}"')
    role: Role = "-" if kind.limb != "foot" else "A"
    weight: Takes = ""
    as_one = False
    for word in words[1:]:
        if word in ROLES:
            role = word
        elif word in _TAKES:
            weight = _TAKES[word]
        elif word == "as-one":
            as_one = True
        else:
            raise CardError(f'card "{card}": "{word}" after {name} is neither a foot nor a word of weight')
    return Beat(kind, role, weight, level + kind.level, as_one)


_KEYS = {
    "name", "aliases", "traditions", "sounds", "usual", "sentence", "caution", "counts", "primitive", "remedies",
    "floor", "ceiling", "simpler",
}  # fmt: skip


def _texts(data: Mapping[str, Any], key: str, card: str) -> tuple[str, ...]:
    value = data.get(key, [])
    if not isinstance(value, list) or not all(isinstance(v, str) for v in value):
        raise CardError(f'card "{card}": {key} must be a list of words in quotes')
    return tuple(value)


def _text(data: Mapping[str, Any], key: str, card: str) -> str:
    value = data.get(key, "")
    if not isinstance(value, str):
        raise CardError(f'card "{card}": {key} must be words in quotes')
    return value


def _whole(data: Mapping[str, Any], key: str, card: str) -> int:
    value = data.get(key, 0)
    if not isinstance(value, int) or isinstance(value, bool) or value < 0:
        raise CardError(f'card "{card}": {key} must be a whole number')
    return value


def card_from(data: Mapping[str, Any]) -> Card:
    """A card from the table of a TOML file; raises CardError with what was expected."""
    name = data.get("name")
    if not isinstance(name, str) or not name.strip():
        raise CardError("a card has no name")
    for key in data:
        if key not in _KEYS:
            raise CardError(f'card "{name}": nothing is called "{key}"; known are {", ".join(sorted(_KEYS))}')
    beats = data.get("sounds")
    if not isinstance(beats, list) or not beats or not all(isinstance(b, str) for b in beats):
        raise CardError(f'card "{name}": sounds must be a list such as ["brush A", "step A"]')
    usual = data.get("usual", {"": ["1"]})
    if isinstance(usual, list):
        usual = {"": usual}
    if not isinstance(usual, dict) or not usual.get("") or not all(_counts(u) for u in usual.values()):
        raise CardError(f'card "{name}": usual must be a list of counts such as ["&1"]')
    return Card(
        name=name,
        aliases=_texts(data, "aliases", name),
        traditions=_texts(data, "traditions", name),
        beats=tuple(_beat(b, name) for b in beats),
        usual={tradition: tuple(counts) for tradition, counts in usual.items()},
        sentence=_text(data, "sentence", name),
        caution=_text(data, "caution", name),
        counts=_whole(data, "counts", name),
        primitive=data.get("primitive") is True,
        remedies=_texts(data, "remedies", name),
        floor=_whole(data, "floor", name),
        ceiling=_whole(data, "ceiling", name),
        simpler=_text(data, "simpler", name),
    )


def _counts(usual: object) -> bool:
    return isinstance(usual, list) and bool(usual) and all(isinstance(u, str) for u in usual)


def whole_counts(places: tuple[Fraction, ...]) -> int:
    """How many whole counts a figure spans, at least 1: from its first whole count to its last."""
    first, last = min(places), max(places)
    return max(1, int(last // 1) - int(-(-first // 1)) + 1)
