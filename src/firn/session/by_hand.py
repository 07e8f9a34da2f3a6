"""What is asked for on the strip, made of the part on the desk."""

from fractions import Fraction

from firn.core.piece.by_hand import Drawn, leaned, left_out, moved, of_kind, other_foot, put_in
from firn.core.piece.piece import Part


def draw(part: Part, index: int, what: str, value: object = None) -> Drawn:
    """The part with the sound `index` changed as `what` says; raises HandError where no script says it.

    `what`: move (by `value` counts), foot, become (the card named `value`), lean (1 or -1; again: as usual),
    leave_out, put_in (a step half a count later, or as soon after that as there is room).
    """
    sound = part.sounds[index]
    if what == "move":
        return moved(part, index, value if isinstance(value, Fraction) else Fraction(0))
    if what == "foot":
        return other_foot(part, index)
    if what == "become":
        return of_kind(part, index, str(value))
    if what == "lean":
        level = value if isinstance(value, int) else 0
        return leaned(part, index, 0 if part.uses[sound.use].word.level == level else level)
    if what == "leave_out":
        return left_out(part, index)
    if what == "put_in":
        taken = {s.place for s in part.sounds if s.layer == sound.layer}
        places = (sound.place + Fraction(n, 2) for n in range(1, 2 * len(taken) + 3))
        name = "clap" if sound.layer else "step"
        return put_in(part, next(p for p in places if p not in taken), name, layer=sound.layer)
    raise ValueError(f"nothing is called {what}")
