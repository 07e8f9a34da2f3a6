"""What was tapped, or heard, as steps: the likeliest, or those that somebody says, and what is in doubt of them."""

from collections.abc import Sequence
from fractions import Fraction

from msgspec import Struct
from msgspec.structs import replace

from firn.core.meter.counting import Counting
from firn.core.piece.build import build_part
from firn.core.piece.piece import Part
from firn.core.piece.sound import Sound
from firn.core.quantise.laying import filled, laid_onto
from firn.core.quantise.quantise import Quantised
from firn.core.quantise.words import Fit, Named, Struck, words_of
from firn.core.script.reader import read_part
from firn.core.script.settings import Settings
from firn.core.script.writer import write_part
from firn.core.steps.card import Card
from firn.core.steps.kinds import kind_said
from firn.core.steps.shelf import Shelf
from firn.errors import FirnError
from firn.session.tap_script import Entry, Tap, said_places, script_with

LIKE = {
    "step": ("step", "land", "leap"), "brush": ("brush", "spank", "pickup", "scuff"), "stamp": ("flat",),
    "kick": ("kick", "flick", "lift"), "toe tip": ("toe_tip",),
}  # fmt: skip
"""The kinds that a key may stand for, likeliest first; any other stands for its own."""


class InSteps(Struct, frozen=True):
    """Sounds as steps: their text, what is in doubt of them, in words, and the steps in the order of the text's
    words."""

    text: str
    doubts: tuple[str, ...]
    named: tuple[Named, ...]


class Worded(Struct, frozen=True):
    """Words laid onto sounds: their text, what does not go up of them, and which sounds each word is."""

    text: str
    doubts: tuple[str, ...]
    given: tuple[Fit, ...]


def is_heard(taps: Sequence[Tap]) -> bool:
    """Whether the ear found these, so that some may be missing, too many, or told wrongly."""
    return any(tap.heard is not None for tap in taps)


def in_steps(
    taps: Sequence[Tap], read: Quantised, settings: Settings, shelf: Shelf, *, given: Sequence[Fit] = ()
) -> InSteps:
    """Taps as steps, the likeliest for how they were tapped, or for what the ear takes them for; and what could be
    another one, or is not as it was heard. `given`: steps that somebody has said. Raises FirnError where they are no
    steps."""
    places, heard = _places(read, settings.counting), is_heard(taps)
    named = words_of(_struck(taps, places), settings.tradition, shelf, heard=heard, given=given)
    taken = {n for one in named for n in one.sounds}
    if not named or (len(taken) != len(taps) and not heard):
        raise FirnError("These are no steps that Firn knows one after another.")

    def called(card: Card) -> str:
        return shelf.word_for(card, settings.tradition)

    entries = [Entry(called(one.card), one.places, taps[one.first].foot) for one in named]
    doubts = [
        f"{called(one.card)} on {settings.counting.name(one.places[0])} could be {', '.join(map(called, one.rivals))}"
        for one in named
        # What one sound is called matters less than which of them are of one step.
        if one.rivals and len(one.sounds) > 1
    ]
    doubts += (
        _not_heard(
            one.card.beats[one.unheard].kind.name, called(one.card), one.places[one.unheard], settings.counting
        )
        for one in named
        if one.unheard is not None
    )
    doubts += (_of_none(p, settings.counting) for number, p in enumerate(places) if number not in taken)
    return InSteps(script_with(entries, settings, shelf), tuple(doubts), tuple(named))


def named_in(
    taps: Sequence[Tap], read: Quantised, settings: Settings, shelf: Shelf, *, given: Sequence[Fit] = ()
) -> list[Named]:
    """The steps that taps are, up to one that is of none; no text is made of them."""
    struck = _struck(taps, _places(read, settings.counting))
    return words_of(struck, settings.tradition, shelf, heard=is_heard(taps), given=given)


def _not_heard(kind: str, word: str, place: Fraction, counting: Counting) -> str:
    return f"the {kind_said(kind)} of {word} on {counting.name(place)} was not heard"


def _of_none(place: Fraction, counting: Counting) -> str:
    return f"a sound on {counting.name(place)} is of no step, and is left out"


def _places(read: Quantised, counting: Counting) -> list[Fraction]:
    return said_places(read.places, counting)


def _struck(taps: Sequence[Tap], places: Sequence[Fraction]) -> list[Struck]:
    """Taps at places, each of the kinds that it may be."""
    kinds = [
        tap.heard if tap.heard is not None else LIKE.get(tap.word, (tap.word.replace(" ", "_"),)) for tap in taps
    ]
    return [Struck(place, may, tap.foot) for tap, place, may in zip(taps, places, kinds, strict=True)]


def worded(words: str, taps: Sequence[Tap], read: Quantised, settings: Settings, shelf: Shelf) -> Worded:
    """Words in the order in which they are said, laid onto what was tapped or heard; what makes no sound of theirs
    falls between. Where there are some sounds more or fewer, each that is left out is said. Raises FirnError where
    these must be other words, or one is unknown."""
    part = _said_part(words, settings, shelf)
    own = [s for s in part.sounds if not s.layer]
    due = [n for n, s in enumerate(own) if s.heard]
    places, heard = _places(read, settings.counting), is_heard(taps)
    which = _which([own[n] for n in due], part, _struck(taps, places), heard=heard)
    if which is None:
        raise FirnError(f"{len(places)} sounds are there, and these words have {len(due)}.")
    sound_of = {n: tap for n, tap in zip(due, which, strict=True) if tap is not None}
    known = [places[sound_of[n]] if n in sound_of else None for n in range(len(own))]
    at = filled(known, [s.place for s in own], [s.use for s in own])
    placed = {(s.use, s.beat): place for s, place in zip(own, at, strict=True)}
    uses = [
        replace(use, places=tuple(placed.get((number, beat), place) for beat, place in enumerate(use.places)))
        for number, use in enumerate(part.script.uses)
    ]
    given: dict[int, Fit] = {}
    for n, tap in sound_of.items():
        sound = own[n]
        before = given.get(sound.use) or Fit(part.uses[sound.use].card, (), ())
        given[sound.use] = Fit(before.card, (*before.sounds, tap), (*before.beats, sound.beat))
    doubts = [
        _not_heard(
            own[n].kind, shelf.word_for(part.uses[own[n].use].card, settings.tradition), at[n], settings.counting
        )
        for n in due
        if n not in sound_of
    ]
    taken = set(sound_of.values())
    doubts += (_of_none(place, settings.counting) for n, place in enumerate(places) if n not in taken)
    try:
        text = write_part(replace(part.script, uses=tuple(uses)), settings)
    except ValueError as fault:
        raise FirnError("No text says these words at these counts.") from fault
    return Worded(text, tuple(doubts), tuple(given.values()))


def called(
    said: str,
    first: int,
    taps: Sequence[Tap],
    read: Quantised,
    settings: Settings,
    shelf: Shelf,
    *,
    given: Sequence[Fit] = (),
) -> list[Fit]:
    """Steps that somebody says with one of them, or several, that begin with a sound: those that were said before,
    and these in place of what they take. Raises FirnError where they are no steps, or go on behind the last sound."""
    part, heard = _said_part(said, settings, shelf), is_heard(taps)
    own = [s for s in part.sounds if not s.layer and (s.heard or not heard)]
    struck = _struck(taps[first:], _places(read, settings.counting)[first:])
    if not own:
        raise FirnError("These words make no sound.")
    which: list[int | None] | None = list(range(len(own)))
    if heard:
        which = laid_onto(_due(own, part), struck, goes_on=True)
    if which is None or max((n for n in which if n is not None), default=0) >= len(struck):
        raise FirnError(f"{len(struck)} sounds are left from here, and these words have {len(own)}.")
    now: dict[int, Fit] = {}
    for sound, tap in zip(own, which, strict=True):
        if tap is not None:
            before = now.get(sound.use) or Fit(part.uses[sound.use].card, (), ())
            now[sound.use] = Fit(before.card, (*before.sounds, first + tap), (*before.beats, sound.beat))
    end = max(one.sounds[-1] for one in now.values())
    return [*(one for one in given if one.sounds[-1] < first or one.sounds[0] > end), *now.values()]


def _said_part(said: str, settings: Settings, shelf: Shelf) -> Part:
    script = read_part("A", said, settings, shelf)
    if script.problems:
        raise FirnError(script.problems[0].message)
    return build_part(script, settings)


def _which(due: Sequence[Sound], part: Part, struck: Sequence[Struck], *, heard: bool) -> list[int | None] | None:
    """Which of what was tapped or heard each sound of some words is."""
    if len(due) == len(struck) and not heard:
        return list(range(len(due)))
    # What is a step for want of a better word may be anything.
    plain = all(set(one.kinds) <= set(LIKE["step"]) for one in struck)
    return laid_onto(_due(due, part), [replace(one, kinds=()) for one in struck] if plain else struck)


def _due(sounds: Sequence[Sound], part: Part) -> list[Struck]:
    """Sounds of some words where they usually lie, each of the kinds that it may be."""
    beats = [(s, part.uses[s.use].card.beats[s.beat]) for s in sounds]
    return [Struck(s.place, (s.kind, *(other.name for other in beat.others))) for s, beat in beats]
