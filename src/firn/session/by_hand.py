"""What is asked for on the strip, made of the part on the desk."""

from collections.abc import Callable, Sequence
from fractions import Fraction

from msgspec.structs import replace

from firn.core.piece.build import part_from
from firn.core.piece.by_hand import Drawn, leaned, left_out, moved, of_kind, other_foot, put_in, text_of, weighted
from firn.core.piece.clip import cut, joined, pasted, split
from firn.core.piece.piece import Part


def draw(part: Part, picked: Sequence[int], what: str, value: object = None) -> Drawn:
    """The part with the sounds `picked` changed as `what` says; raises HandError where no script says it.

    `what`: move (by `value` counts), fine (to the next place that a count has, earlier for `value` below 0), foot,
    become (the card named `value`), weight (with it or without), lean (1 or -1; again: as usual), leave_out; join
    (into one word), split (a word into its sounds); put_in (a step half a count after the last, or as soon after
    that as there is room), put_before (before the first), paste (the text `value`, from their count on).
    """
    if not picked:
        return _begun(part, what, value)
    first, last = picked[0], picked[-1]
    sound = part.sounds[first]
    if what == "leave_out" and len(picked) > 1:
        return cut(part, picked)
    if what in ("put_in", "put_before"):
        return _put_in(part, last, 1) if what == "put_in" else _put_in(part, first, -1)
    if what == "paste":
        return pasted(part, sound.place, str(value))
    if what == "join":
        return joined(part, picked if len(picked) > 1 else range(first, min(first + 2, len(part.sounds))))
    if what == "split":
        return split(part, first)
    level = value if isinstance(value, int) else 0
    if what == "lean" and all(part.uses[part.sounds[i].use].word.level == level for i in picked):
        level = 0
    by = value if isinstance(value, Fraction) else Fraction(0)
    later = by > 0 or (what == "fine" and level > 0)
    each: dict[str, Callable[[Part, int], Drawn]] = {
        "move": lambda p, i: moved(p, i, by),
        "fine": lambda p, i: moved(p, i, _to_next(p, i, level)),
        "foot": other_foot,
        "become": lambda p, i: of_kind(p, i, str(value)),
        "weight": weighted,
        "lean": lambda p, i: leaned(p, i, level),
        "leave_out": left_out,
    }
    # Later sounds first where all move later: none then stands in another's way.
    order = list(reversed(picked)) if later else list(picked)
    return _each(part, order, each[what])


_SAID = {
    "move": "Move",
    "fine": "Move",
    "foot": "Dance on the other foot",
    "become": "Change the step",
    "weight": "Change the weight",
    "lean": "Lean on, or soften",
    "leave_out": "Leave out",
    "join": "Join",
    "split": "Split",
    "put_in": "Put in a step",
    "put_before": "Put in a step",
    "paste": "Paste",
    "cut": "Cut",
}


def said(what: str, many: int) -> str:
    """What a change by hand is called where it is undone."""
    return _SAID[what] + (f", {many} sounds" if many > 1 else "")


def _begun(part: Part, what: str, value: object) -> Drawn:
    """The first sound of a part that has none: a step on its first count, or what is pasted."""
    if what == "paste":
        return pasted(part, Fraction(0), str(value))
    if what == "put_in":
        return put_in(part, Fraction(0), "step")
    return Drawn("\n".join(part.script.lines), None)


def _to_next(part: Part, index: int, way: int) -> Fraction:
    place = part.sounds[index].place
    return part.settings.counting.next_share(place, way) - place


def counted(part: Part) -> str:
    """A part's text with every word's counts written, notes kept; raises HandError where some have no name."""
    # Words that are new, though they say the same, so that every line of them is written anew.
    return text_of(part, [u if u.again else replace(u, word=replace(u.word)) for u in part.uses])


def _each(part: Part, order: Sequence[int], change: Callable[[Part, int], Drawn]) -> Drawn:
    """One change for several sounds, one after another."""
    at: dict[int, int | None] = {}
    drawn = Drawn("\n".join(part.script.lines), None)
    for index in order:
        drawn = change(part, index)
        at[index] = drawn.index
        part = part_from(part.name, drawn.text, part.settings, part.script.shelf)
    stood = [i for i in (at[n] for n in sorted(at)) if i is not None]
    return Drawn(drawn.text, stood[0] if stood else None, stood[-1] if stood else None)


def _put_in(part: Part, beside: int, way: int) -> Drawn:
    sound = part.sounds[beside]
    taken = {s.place for s in part.sounds if s.layer == sound.layer}
    places = (sound.place + way * Fraction(n, 2) for n in range(1, 2 * len(taken) + 3))
    name = "clap" if sound.layer else "step"
    return put_in(part, next(p for p in places if p not in taken), name, layer=sound.layer)
