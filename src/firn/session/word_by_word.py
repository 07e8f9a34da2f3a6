"""A draft gone through word by word: what each word is believed to be is confirmed, or said otherwise."""

from fractions import Fraction

from msgspec import Struct
from msgspec.structs import replace

from firn.core.meter.counting import Counting
from firn.core.piece.build import part_from
from firn.core.quantise.words import Fit, Named
from firn.core.script.settings import Settings
from firn.core.steps.shelf import Shelf
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.timeline import Section
from firn.session.corrected import Sounds
from firn.session.tap_words import InSteps, called

SLOWEST = 20.0
"""Counts a minute: slower no word is heard as one."""

AFTER = Fraction(3, 4)
"""Counts of the model that are heard behind a word's last sound."""


class WordByWord(Struct, frozen=True):
    """Where one stands in a draft. `steps`: as it is believed now, with what was said; `at`: the first sound of the
    word, None before any; `ring`: what was to choose from there, in its order."""

    sounds: Sounds
    steps: InSteps
    at: int | None = None
    ring: tuple[Fit, ...] = ()

    @property
    def word(self) -> int | None:
        """The word where one stands, by its number from 0."""
        found = (n for n, one in enumerate(self.steps.named) if one.sounds[-1] >= (self.at or 0))
        return None if self.at is None else next(found, None)

    @property
    def here(self) -> Named | None:
        """The step where one stands."""
        return None if self.word is None else self.steps.named[self.word]

    @property
    def said(self) -> frozenset[int]:
        """The first sounds of words that were said."""
        return frozenset(fit.sounds[0] for fit in self.sounds.given)

    @property
    def time_s(self) -> tuple[float, float]:
        """When the word where one stands is first and last struck."""
        here = self.here
        assert here is not None
        return self.sounds.taps[here.first].at_s, self.sounds.taps[here.sounds[-1]].at_s


def beside(now: WordByWord, step: int) -> WordByWord:
    """On the word so many after the one where one stands; on the first at first."""
    word, many = now.word, len(now.steps.named)
    number = 0 if word is None else max(0, min(many - 1, word + step))
    return replace(now, at=now.steps.named[number].first, ring=())


def on_to_next(now: WordByWord) -> WordByWord:
    """On the next word that nobody has said yet; where one stands if there is none behind."""
    word = now.word or 0
    left = (one.first for one in now.steps.named[word:] if one.first not in now.said)
    return replace(now, at=next(left, now.at), ring=())


def confirmed(now: WordByWord) -> Sounds:
    """The sounds with the word where one stands said to be what it is believed to be."""
    here = now.here
    return now.sounds if here is None else _with(now.sounds, here.so)


def otherwise(now: WordByWord) -> tuple[Sounds, tuple[Fit, ...]]:
    """The sounds with the word where one stands said to be the next that it could be, round and round; and all that
    it could be."""
    here = now.here
    if here is None:
        return now.sounds, ()
    ring = now.ring or (here.so, *here.others)
    at = next((n for n, fit in enumerate(ring) if fit.card == here.card), 0)
    return _with(now.sounds, ring[(at + 1) % len(ring)]), ring


def named_so(now: WordByWord, words: str, settings: Settings, shelf: Shelf) -> Sounds:
    """The sounds with what begins where one stands said in words. Raises FirnError where they are no steps, or go on
    behind the last sound."""
    sounds, first = now.sounds, now.here.first if now.here is not None else 0
    given = called(words, first, sounds.taps, sounds.read, settings, shelf, given=sounds.given)
    return replace(sounds, given=tuple(given))


def _with(sounds: Sounds, fit: Fit) -> Sounds:
    first, last = fit.sounds[0], fit.sounds[-1]
    rest = (one for one in sounds.given if one.sounds[-1] < first or one.sounds[0] > last)
    return replace(sounds, given=tuple(sorted((*rest, fit), key=lambda one: one.sounds)))


def told(now: WordByWord, settings: Settings, shelf: Shelf) -> tuple[str, str]:
    """The word where one stands, and what there is to say of it."""
    here, many, counting = now.here, len(now.steps.named), settings.counting
    assert here is not None and now.word is not None
    called_so = shelf.word_for(here.card, settings.tradition)
    where = f"{now.word + 1} of {many}   {called_so} on {counting.name(here.places[0])}"
    done = sum(one.first in now.said for one in now.steps.named)
    kept = f"{done} of {many} are as you said." if done else ""
    if here.first in now.said:
        return where, f"You said so. {kept}"
    # What one sound is called matters less than which of them are of one step.
    more = [fit for fit in here.others if len(fit.sounds) > 1 or len(here.sounds) > 1]
    could = [_rival(fit, shelf.word_for(fit.card, settings.tradition)) for fit in more]
    rivals = f"It could be {' or '.join(could)}: R takes the next." if could else ""
    return where, " ".join(filter(None, (rivals, _unheard(here, counting), kept)))


def _rival(fit: Fit, word: str) -> str:
    many = len(fit.sounds)
    return f"{word} ({many} sound{'s' if many > 1 else ''})"


def _unheard(here: Named, counting: Counting) -> str:
    return "" if here.unheard is None else f"Its sound on {counting.name(here.places[here.unheard])} was not heard."


def model_of(now: WordByWord, settings: Settings, shelf: Shelf, *, tempo: float) -> Section:
    """The word where one stands as the model dances it, at a tempo."""
    part = part_from("A", now.steps.text, settings, shelf)
    own = [sound for sound in part.sounds if sound.use == now.word] or list(part.sounds)
    first, last = own[0].position, own[-1].position
    mixing = Mixing(tempo=max(SLOWEST, round(tempo, 1)), counts=False, beats=False)
    return Section(own, settings.counting, first, last + AFTER, mixing)
