"""What is said of a step and is none: the foot that is crossed over, how several are danced: cross R over L, step L;
running flaps.

Common practice, no source.
"""

from collections.abc import Callable, Sequence

from firn.core.script import said as say
from firn.core.script.tree import Node, is_pause, is_word, said_in

_NEAR = frozenset({"over", "behind", "across", "detrás", "detras", "sobre", "past", "beside"})
"""Said of the other foot, which stands: over the left."""

_NEAR_OF = (("in", "front", "of"), ("in", "back", "of"), ("front", "of"), ("next", "to"), ("delante", "de"))
"""The same of several words, of which the last says nothing then."""

_AT = frozenset({"to", "at", "against", "by", "near", "touching", "under"})
"""Said of a part of a leg that the foot goes to, and of nothing else: touch heel to left knee."""

_BY = frozenset({"past", "beside"})

_OF_LEG = frozenset(
    {
        "heel",
        "toe",
        "toes",
        "knee",
        "leg",
        "ankle",
        "shin",
        "calf",
        "thigh",
        "instep",
        "tacón",
        "tacon",
        "punta",
        "rodilla",
        "pierna",
        "tobillo",
    }
)
_STRUCK = frozenset({"heel", "toe", "toes", "tacón", "tacon", "punta"})
"""What may be a step of its own: step behind left heel."""

_MANNER = frozenset({"running", "walking", "traveling", "travelling", "moving", "jumping"})
"""How a step of several sounds is danced, said before it."""

_FEET = frozenset({"feet", "pies"})
"""Said of what both feet do, or each in turn: stamp your feet."""

_BODY = frozenset(
    {
        "knees",
        "knee",
        "ankles",
        "hips",
        "arms",
        "shoulders",
        "head",
        "chest",
        "hands",
        "elbows",
        "back",
        "core",
        "rodillas",
    }
)
_HELD = frozenset(
    {"soft", "bent", "relaxed", "loose", "straight", "easy", "still", "tall", "quiet", "flexed", "low", "sueltas"}
)
"""How a part of the body is held meanwhile: knees soft."""

_KEEP = frozenset({"keep", "keeping", "stay", "staying", "stand"})
_KEPT = (
    _BODY | _HELD | frozenset({"it", "your", "the", "light", "small", "smooth", "even", "steady", "tight", "close"})
)
"""Said of how it is danced: keep it low, stay light."""

_ENDS = frozenset({"end", "ends", "ending", "finish", "finishes", "finishing", "termina", "acaba"})
"""Said of the foot that a line ends on: end on the left."""

_ASIDE = _MANNER | _FEET | _NEAR | _AT | {way[0] for way in _NEAR_OF}
_LONGEST = 4


def without_asides(nodes: Sequence[Node], sounds: Callable[[str], int]) -> Sequence[Node]:
    """A line's tokens without what is said of its steps and is none.

    `sounds`: how many sounds the step has that goes by a name, 0 where there is none.
    """
    if said_in(nodes).isdisjoint(_ASIDE):
        return nodes
    names = [node.text.casefold() if is_word(node) else "" for node in nodes]
    gone: set[int] = set()
    for at, name in enumerate(names):
        if name in _MANNER and _is_manner(names, at, sounds):
            gone.add(at)
        gone.update(_other_foot(nodes, names, at))
        if name in _FEET and at and (names[at + 1] if at + 1 < len(names) else "") not in say.SIDES:
            # "stamp your feet", "jump, feet together".
            gone.update(range(at - (names[at - 1] in say.THE), at + 1))
    return [node for at, node in enumerate(nodes) if at not in gone] if gone else nodes


_BEGINS = frozenset({"start", "begin", "starts", "begins", "starting", "stand", "standing"})
_POSTURE = _BODY | _BEGINS | _KEEP | _ENDS | {"turn"}
_STANDS = [["together"], ["apart"], ["parallel"]]
"""How the feet stand, said of them alone."""


def without_posture(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line's tokens without what says, between two pauses, how the body is held meanwhile, or which foot it ends
    on: knees soft; you end on your left foot."""
    if said_in(nodes).isdisjoint(_POSTURE):
        return nodes
    names = [node.text.casefold() if is_word(node) else "" for node in nodes]
    gone = {n for at in range(len(nodes)) for n in _meanwhile(nodes, names, at)}
    return [node for at, node in enumerate(nodes) if at not in gone] if gone else nodes


def _meanwhile(nodes: Sequence[Node], names: Sequence[str], at: int) -> range:
    """The tokens from one on that do so."""
    if at and not is_pause(nodes[at - 1]):
        return range(0)
    end = next((n for n in range(at, len(nodes)) if is_pause(nodes[n])), len(nodes))
    said = list(names[at:end])
    if said[:1] == ["you"]:
        said = said[1:]
    if len(said) == 2 and ((said[0] in _BODY and said[1] in _HELD) or said == ["turn", "out"]):
        return range(at, end)
    small = say.ON | say.WITH | say.THE | say.FEET
    stands = [name for name in said if name not in small | _BEGINS]
    if len(said) > 1 and said[0] in _BEGINS and any(name in say.FEET for name in said) and stands in _STANDS:
        # "Start with the feet together".
        return range(at, end)
    feet = [name for name in said[1:] if name not in small]
    if len(said) > 1 and said[0] in _KEEP and all(name in _KEPT for name in said[1:]):
        return range(at, end)
    ends = said[:1] and said[0] in _ENDS and len(feet) == 1 and feet[0] in say.SIDES and len(said) > 2
    return range(at, end) if ends else range(0)


def _is_manner(names: Sequence[str], at: int, sounds: Callable[[str], int]) -> bool:
    """Whether a word only says how the step of several sounds that follows it is danced."""
    after = names[at + 1 : at + 1 + _LONGEST]
    ends = next((n for n, name in enumerate(after) if not name), len(after))
    if any(sounds(" ".join((names[at], *after[:n]))) for n in range(1, ends + 1)):
        return False
    longest = next((n for n in range(ends, 0, -1) if sounds(" ".join(after[:n]))), 0)
    return longest > 0 and sounds(" ".join(after[:longest])) > 1


def _other_foot(nodes: Sequence[Node], names: Sequence[str], at: int) -> range:
    """The tokens from one on that name the foot which stands, where it is gone over or behind it: over the left
    foot, in front of L. None where no foot was said of the step, or the same."""
    near = next((len(way) for way in _NEAR_OF if tuple(names[at : at + len(way)]) == way), int(names[at] in _NEAR))
    goes_to = not near and names[at] in _AT
    if not near and not goes_to:
        return range(0)
    of = near > 1
    end = at + near + goes_to
    end += end < len(names) and (names[end] in say.THE or names[end] == "del")
    side = say.SIDES.get(names[end]) if end < len(names) else None
    told = names[end + 1] if end + 1 < len(names) else ""
    end += 1 + (told in say.FEET or told in _OF_LEG)
    stepped = _side_before(nodes, names, at)
    closes = end >= len(nodes) or not is_word(nodes[end]) or names[end] in say.ONCE_OR_MORE
    other = {side, stepped} == {"left", "right"}
    # "kick in front of left knee", "touch heel to left knee": which foot goes there need not be said.
    goes_by = goes_to or names[at] in _BY
    leg = at > 0 and told in _OF_LEG and (of or goes_by or told not in _STRUCK)
    # "step to left heel" may be a step to the left, and a heel.
    leg = leg and (other or names[at] != "to" or told not in _STRUCK)
    # "shuffle in front of the left foot".
    leg = leg or (at > 0 and of and told in say.FEET)
    if side not in ("left", "right") or not closes or not (leg or (other and not goes_to)):
        return range(0)
    # "past" and "beside" say where only beside a foot.
    return range(at if leg and goes_by else at + near - of, end)


def _side_before(nodes: Sequence[Node], names: Sequence[str], at: int) -> str | None:
    """The foot that was said last before a token since the last pause; None for none."""
    for before in range(at - 1, -1, -1):
        if is_pause(nodes[before]):
            return None
        if names[before] in say.SIDES:
            return say.SIDES[names[before]]
    return None
