"""What of a part is shown and heard: layers on and off, as danced or mirrored, a phrase a row or fitted."""

from operator import attrgetter

from msgspec import Struct
from msgspec.structs import replace

from firn.core.piece.sound import Sound, other_side
from firn.session.stretch import NOTHING, Beside, Stretch

SHOWN = ("words", "feet", "hands", "counts", "relief", "scat", "arms", "body", "moves", "pulse", "signals")
"""What a strip can show or leave out, from its top to its foot."""

HEARD = ("feet", "hands", "scat", "pulse")
"""What the model can sound beside counts and beats."""


class View(Struct, frozen=True):
    """What is shown, and what is heard of the layers.

    `mirrored`: as for one who faces the teacher; `fitted`: as many counts in a row as there is room for, else a
    phrase. `hidden` and `unheard` name what is left out of `SHOWN` and `HEARD`.
    """

    mirrored: bool = False
    fitted: bool = False
    hidden: tuple[str, ...] = ()
    unheard: tuple[str, ...] = ("scat", "pulse")

    def shows(self, what: str) -> bool:
        return what not in self.hidden

    def hears(self, what: str) -> bool:
        return what not in self.unheard

    def showing(self, what: str, on: bool) -> "View":
        """The view with one thing shown or left out."""
        return replace(self, hidden=_with(self.hidden, what, not on))

    def hearing(self, what: str, on: bool) -> "View":
        """The view with one layer heard or left out."""
        return replace(self, unheard=_with(self.unheard, what, not on))

    def alone(self, what: str) -> "View":
        """Only this layer heard."""
        return replace(self, unheard=tuple(name for name in HEARD if name != what))


PLAIN = View()


def _with(names: tuple[str, ...], name: str, on: bool) -> tuple[str, ...]:
    kept = tuple(n for n in names if n != name)
    return (*kept, name) if on else kept


def layers_of(stretch: Stretch) -> tuple[str, ...]:
    """The layers that a stretch has beside its feet, in the order of `SHOWN`."""
    beside = stretch.beside
    has = {"words", "feet", "counts", "relief", *(c.layer for c in beside.cues)}
    has |= {"hands"} if any(map(attrgetter("hand"), stretch.sounds)) else set()
    has |= {"pulse"} if beside.pulse else set()
    has |= {"scat"} if beside.syllables else set()
    return tuple(name for name in SHOWN if name in has)


def seen(stretch: Stretch, view: View) -> Stretch:
    """A stretch as a view shows it: every sound keeps its index."""
    if view.mirrored:
        sounds = tuple(_mirror(s) for s in stretch.sounds)
        stretch = replace(stretch, sounds=sounds, beside=stretch.beside.across())
    if stretch.beside == NOTHING or not view.hidden:
        return stretch
    beside = stretch.beside
    cues = tuple(c for c in beside.cues if view.shows(c.layer))
    pulse = beside.pulse if view.shows("pulse") else ()
    return replace(stretch, beside=Beside(cues, pulse, beside.syllables if view.shows("scat") else ()))


def _mirror(sound: Sound) -> Sound:
    """As a mirror shows it: every hand too, whichever leads."""
    return replace(other_side(replace(sound, layer="")), layer=sound.layer)


def heard(sounds: tuple[Sound, ...], view: View) -> tuple[Sound, ...]:
    """The sounds that a view hears."""
    if view.hears("feet") and view.hears("hands"):
        return sounds
    return tuple(s for s in sounds if view.hears("hands" if s.hand else "feet"))
