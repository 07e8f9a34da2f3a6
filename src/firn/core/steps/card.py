"""A step card: what a word of footwork means, sound by sound."""

import re
from collections.abc import Mapping
from fractions import Fraction
from functools import lru_cache
from typing import Any, Literal

from msgspec import Struct

from firn.core.pattern import late
from firn.core.steps.kinds import KINDS, Kind

Role = Literal["A", "B", "2", "W", "T", "-", "a", "b", "D", "N"]
TakesWeight = Literal["takes", "stays", "both", ""]

FEET_ROLES: tuple[Role, ...] = ("A", "B", "2", "W", "T")
HAND_ROLES: tuple[Role, ...] = ("a", "b", "D", "N", "-")

_TAKES: dict[str, TakesWeight] = {"takes": "takes", "stays": "stays", "both": "both"}
_MARKS = ("as-one", "optional", "grounded")
HARDEST = 3


class CardError(ValueError):
    """A card that cannot be read; the message names the card and what was expected."""


class Beat(Struct, frozen=True, omit_defaults=True):
    """One sound of a card.

    `role`: A the foot that is free when the word starts, B the other, 2 both, W the foot that carries,
    T the foot whose toe is up; of hands a the one on the side of A, b the other, D the one that leads, N the other
    again; - neither. `weight`: whether the sound takes weight where its kind leaves that open. `level` as in Kind.
    `others`: what may stand in its place. `grounded`: kept down where others leave the floor.
    """

    kind: Kind
    role: Role
    weight: TakesWeight = ""
    level: int = 0
    as_one: bool = False
    optional: bool = False
    grounded: bool = False
    others: tuple[Kind, ...] = ()


class Alias(Struct, frozen=True, omit_defaults=True):
    """Another name of a card: in which language (a code such as es, "" for any) and school it is said."""

    name: str
    language: str = ""
    school: str = ""


class Card(Struct, frozen=True, eq=False, omit_defaults=True):
    """A step: its sounds, and the counts on which it usually falls.

    `usual` maps a tradition ("" for any) to lists of places in counts; the first is the default. Places are
    relative to a whole count 0. `remedies`: what helps when a take misses it. `floor`, `ceiling`: the slowest and
    fastest tempo that the trade names, 0 for none. `simpler`, `harder`: cards that stand in for it; `differs` says
    how, where they are not as long or end on another foot. `first`: cards to know before this one. `level`: 1 for
    beginners to 3. `retired`: no longer offered, though still read. `stance`: how the feet
    stand to each other before and after it, two of `STANCES`, () where it can be any.
    """

    name: str
    also: tuple[Alias, ...]
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
    harder: str = ""
    differs: str = ""
    tips: tuple[str, ...] = ()
    first: tuple[str, ...] = ()
    level: int = 1
    source: str = ""
    credit: str = ""
    retired: bool = False
    stance: tuple[str, ...] = ()

    @property
    def aliases(self) -> tuple[str, ...]:
        """Its other names."""
        return tuple(a.name for a in self.also)

    def usual_for(self, tradition: str) -> str:
        """The counts a tradition usually says, as text such as "&1"."""
        return self.usual.get(tradition, self.usual[""])[0]

    @property
    def weight_changes(self) -> int:
        """How many of its sounds move the weight, as the trade counts them."""
        moving = {"step", "flat", "heel_step", "leap", "jump", "land"}
        return sum((b.kind.name in moving and b.weight != "stays") or b.weight == "takes" for b in self.beats)

    @property
    def of_hands(self) -> bool:
        """Whether only the hands make it."""
        return all(beat.kind.limb == "hands" for beat in self.beats)

    @property
    def sounds(self) -> int:
        """How many of its beats are heard."""
        return sum(not b.kind.silent for b in self.beats)


def _kind(name: str) -> Kind:
    kind = KINDS.get(name)
    if kind is None:
        raise CardError(f'no sound is called "{name}"')
    return kind


@lru_cache(maxsize=2_000)
def _beat(text: str) -> Beat:
    """A sound as a card writes it: `heel W optional`, `pickup W or slide`."""
    text, _, rest = text.partition(" or ")
    words = text.split()
    name = words[0] if words else ""
    level = {"!": 1, "~": -1}.get(name[-1:], 0)
    kind = _kind(name.rstrip("!~"))
    roles = FEET_ROLES if kind.limb == "foot" else HAND_ROLES if kind.limb == "hands" else ("-",)
    role: Role = "A" if kind.limb == "foot" else "-"
    weight: TakesWeight = ""
    marks = set()
    for word in words[1:]:
        if word in roles:
            role = next(r for r in roles if r == word)
        elif word in _TAKES:
            weight = _TAKES[word]
        elif word in _MARKS:
            marks.add(word)
        else:
            raise CardError(f'"{word}" after {name} is none of {", ".join((*roles, *_TAKES, *_MARKS))}')
    others = tuple(_kind(other.strip()) for other in rest.split(" or ")) if rest else ()
    return Beat(
        kind, role, weight, level + kind.level, "as-one" in marks, "optional" in marks, "grounded" in marks, others
    )


def _beats(texts: list[str], card: str) -> tuple[Beat, ...]:
    try:
        return tuple(_beat(text) for text in texts)
    except CardError as fault:
        raise CardError(f'card "{card}": {fault}') from fault


_A_COUNT = late(r"[0-9]+|[&ea+|=]", re.IGNORECASE)
_ALIAS = late(r"([^\[\]]+)(?:\[([^\[\];]*)(?:;([^\[\]]*))?\]\s*+)?")


def _alias(text: str, card: str) -> Alias:
    """Another name as a card writes it: `golpe`, `golpe [es]`, `grab-off [en; some tap schools]`."""
    found = _ALIAS.fullmatch(text)
    name, language, school = ("", "", "") if found is None else ((said or "").strip() for said in found.groups())
    if not name:
        raise CardError(f'card "{card}": "{text}" is no name such as "golpe" or "golpe [es]"')
    return Alias(name, language, school)


KEYS = {
    "name", "aliases", "traditions", "sounds", "usual", "sentence", "caution", "counts", "primitive", "remedies",
    "floor", "ceiling", "simpler", "harder", "differs", "tips", "first", "level", "source", "credit",
    "retired", "stance",
}  # fmt: skip

STANCES = ("together", "apart", "crossed", "one in front", "one behind")
"""How the feet can stand to each other."""


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
    counts = next((w for w in name.split() if _A_COUNT.fullmatch(w)), None)
    if counts is not None:
        raise CardError(f'card "{name}": "{counts}" in a name would be read as a count')
    for key in data:
        if key not in KEYS:
            raise CardError(f'card "{name}": nothing is called "{key}"; known are {", ".join(sorted(KEYS))}')
    beats = data.get("sounds")
    if not isinstance(beats, list) or not beats or not all(isinstance(b, str) for b in beats):
        raise CardError(f'card "{name}": sounds must be a list such as ["brush A", "step A"]')
    usual = data.get("usual", {"": ["1"]})
    if isinstance(usual, list):
        usual = {"": usual}
    if not isinstance(usual, dict) or not usual.get("") or not all(_counts(u) for u in usual.values()):
        raise CardError(f'card "{name}": usual must be a list of counts such as ["&1"]')
    level = _whole(data, "level", name) or 1
    if level > HARDEST:
        raise CardError(f'card "{name}": level must be 1 to {HARDEST}')
    return Card(
        name=name,
        also=tuple(_alias(a, name) for a in _texts(data, "aliases", name)),
        traditions=_texts(data, "traditions", name),
        beats=_beats(beats, name),
        usual={tradition: tuple(counts) for tradition, counts in usual.items()},
        sentence=_text(data, "sentence", name),
        caution=_text(data, "caution", name),
        counts=_whole(data, "counts", name),
        primitive=data.get("primitive") is True,
        remedies=_texts(data, "remedies", name),
        floor=_whole(data, "floor", name),
        ceiling=_whole(data, "ceiling", name),
        simpler=_text(data, "simpler", name),
        harder=_text(data, "harder", name),
        differs=_text(data, "differs", name),
        tips=_texts(data, "tips", name),
        first=_texts(data, "first", name),
        level=level,
        source=_text(data, "source", name),
        credit=_text(data, "credit", name),
        retired=data.get("retired") is True,
        stance=_stance(data, name),
    )


def _stance(data: Mapping[str, Any], card: str) -> tuple[str, ...]:
    said = _texts(data, "stance", card)
    if not said:
        return ()
    if len(said) != 2 or not set(said) <= set(STANCES):
        raise CardError(f'card "{card}": stance must be two of {", ".join(STANCES)}: before and after')
    return said


def _counts(usual: object) -> bool:
    return isinstance(usual, list) and bool(usual) and all(isinstance(u, str) for u in usual)


def whole_counts(places: tuple[Fraction, ...]) -> int:
    """How many whole counts a figure spans, at least 1: from its first whole count to its last."""
    first, last = min(places), max(places)
    return max(1, int(last // 1) - int(-(-first // 1)) + 1)
