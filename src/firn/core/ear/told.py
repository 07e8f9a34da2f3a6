"""What is said of which take this is."""

from fractions import Fraction

from firn.core.ear.match import Match

_FAST = {
    Fraction(2): "twice as fast",
    Fraction(1, 2): "half as fast",
    Fraction(3, 2): "one and a half times as fast",
    Fraction(2, 3): "two thirds as fast",
}


SURE = 0.8
"""Less sure than this is said first."""

HARDLY_FITS = 0.5
"""Where less of a take falls into place, nothing of it fits."""


def told(name: str, tempo: float, found: Match, *, plain: bool = True) -> tuple[str, str]:
    """What a take is that is none of this part, in one sentence, and what to do.

    `name`: the part that was asked for; `tempo`: the counts a minute at which it was meant; `plain`: whether its
    sounds are plain to tell from the room.
    """
    danced = f"{found.danced_at(tempo):.0f}"
    if found.what == "other":
        likely = "" if found.sure >= SURE else " likely"
        names = " or ".join((found.part, *found.also))
        return f"This is{likely} {names} at {danced}, not {name}.", ""
    if found.what == "tempo":
        return f"This is {name} danced {_FAST[found.ratio]}: at {danced}, where {tempo:.0f} was meant.", ""
    rooms = "Its sounds are hard to tell from the room: record it nearer to the feet, or where it rings less."
    if found.passes.share < HARDLY_FITS:
        asked = "Is it a take of another part, or at quite another tempo?"
        return f"Nothing here fits {name}.", asked if plain else rooms
    said = f"This hardly fits {name}: {100 * found.passes.share:.0f} of 100 sounds fall into place."
    return said, "Is it a take of another part?" if plain else rooms
