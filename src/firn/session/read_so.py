"""What was tapped or heard, as it is read and put right so far; each change makes a new one, so that each can be
taken back."""

from collections.abc import Callable
from fractions import Fraction
from typing import NamedTuple

from msgspec import Struct
from msgspec.structs import replace

from firn.core.quantise.lilt import lilt
from firn.core.quantise.passes import Laid
from firn.core.quantise.quantise import Quantised
from firn.core.quantise.words import Fit
from firn.core.script.combo_item import ordinal
from firn.core.script.settings import Settings
from firn.core.steps.shelf import Shelf
from firn.errors import FirnError
from firn.session.corrected import Sounds
from firn.session.tap_script import Tap, said_places, script_of
from firn.session.tap_words import InSteps, in_steps, worded
from firn.session.tapping import HANDS, hands_line, laid_said, once, passes_of, shares, sung_line

SURE = 0.9
"""A place that is less sure is said to be in doubt."""

AWAY = Fraction(1, 12)
"""What lies so much of a count from where its text has it is said to."""

SAID = 3
"""So many doubts of a kind are said."""


class ReadSo(Struct, frozen=True):
    """Taps and their readings, of which one is on show (`at`), with what is made of it.

    `words`: said for all, in their order; `in_steps`: read as steps; `once`: one pass of several; `beside`: as a
    hand line; `sung`: syllables. `given`: the steps that were said of some sounds; `stood`: the sound where one
    stands; `word`: the first sound of the word where one stands; `ring`: what that could be.
    """

    taps: tuple[Tap, ...]
    found: tuple[Quantised, ...]
    at: int = 0
    words: str = ""
    in_steps: bool = False
    once: bool = False
    beside: bool = False
    sung: bool = False
    given: tuple[Fit, ...] = ()
    stood: int | None = None
    word: int | None = None
    ring: tuple[Fit, ...] = ()

    @property
    def read(self) -> Quantised:
        """The reading on show."""
        return self.found[self.at]

    @property
    def sounds(self) -> Sounds:
        """All of them, as they are read."""
        return Sounds(self.taps, self.read, self.given)


class Written(NamedTuple):
    """Taps as text, what is in doubt of it, the passes that they go through, and the steps that they are, where they
    are read as steps."""

    text: str
    doubts: tuple[str, ...] = ()
    laid: Laid | None = None
    steps: InSteps | None = None
    given: tuple[Fit, ...] = ()


def written(now: ReadSo, settings: Settings, shelf: Shelf) -> Written:
    """The text of what was tapped. Raises FirnError where no text says it."""
    taps, read = list(now.taps), now.read
    laid = passes_of(taps, read, settings)
    if laid is not None and now.once:
        taps, read = once(taps, read, laid)
    doubts: tuple[str, ...] = ()
    steps, given = None, now.given
    if now.in_steps:
        steps = in_steps(taps, read, settings, shelf, given=() if now.once else given)
        text, doubts = steps.text, steps.doubts
    elif now.sung:
        text = sung_line(script_of(taps, read, settings, shelf), now.words)
    elif now.words:
        laid_on = worded(now.words, taps, read, settings, shelf)
        text, doubts = laid_on.text, laid_on.doubts
        given = given if now.once else laid_on.given
    else:
        text = script_of(taps, read, settings, shelf)
    return Written(hands_line(text) if now.beside else text, doubts, laid, steps, given)


def corrected(now: ReadSo, change: Callable[[Sounds], Sounds]) -> ReadSo:
    """With its sounds put right: in the reading on show, and in the others where these leave room for it. Raises
    FirnError where that cannot be."""
    own = change(now.sounds)
    found = []
    for number, read in enumerate(now.found):
        try:
            found.append(own.read if number == now.at else change(Sounds(now.taps, read)).read)
        except FirnError:
            continue
    return replace(now, taps=own.taps, found=tuple(found), at=found.index(own.read), given=own.given, once=False)


def told(now: ReadSo, made: Written, settings: Settings) -> list[str]:
    """What there is to say of a reading, in sentences."""
    read, counting = now.read, settings.counting
    said = [f"At {read.tempo:.0f} a minute, taps within {1000 * read.spread_s:.0f} ms of their counts."]
    measured = lilt([t.at_s for t in now.taps], read)
    if measured is not None and measured.asked:
        said.append(f"Two in a count lie {measured.ratio:.1f} to 1, neither even nor swung: N has the other.")
    doubted = [
        f"{counting.name(place)} ({sure:.0%}), or {counting.name(more[0][0])}"
        for place, sure, more in zip(read.places, read.sure, read.others, strict=True)
        if more and sure < SURE
    ]
    said += [f"In doubt: {_some(doubted)}."] if doubted else []
    said += [f"{_some(made.doubts)}."] if made.doubts else []
    text_at = map(counting.position, said_places(read.places, counting))
    if any(abs(at - place) > AWAY for at, place in zip(text_at, read.places, strict=True)):
        said.append(f"It was not danced in {settings.feel}: the text says what lies nearest.")
    said += [laid_said(made.laid, counting)] if made.laid is not None else []
    return said


def pass_marks(now: ReadSo, made: Written) -> tuple[tuple[Fraction, str], ...]:
    """Where each pass begins, as (count, words), where it is gone through several times."""
    if made.laid is None or now.once:
        return ()
    first, counts = now.read.places[0], made.laid.counts
    return tuple((first + n * counts, f"{ordinal(n + 1)} pass") for n in range(made.laid.passes))


def _some(doubts: "tuple[str, ...] | list[str]") -> str:
    return f"{'; '.join(doubts[:SAID])}{' and more' if len(doubts) > SAID else ''}"


def likely(now: ReadSo) -> str:
    """Which of several readings is on show, and how likely it is; "" for the only one."""
    many = len(now.found)
    return f"{now.at + 1} of {many}, {shares(now.found)[now.at]:.0%} likely" if many > 1 else ""


def hands_alone(now: ReadSo) -> bool:
    """Whether only hands were tapped."""
    return all(tap.word in HANDS for tap in now.taps)
