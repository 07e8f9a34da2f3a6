"""A draft gone through: words that are known in order laid onto what was heard; and each confirmed, or put right."""

from bisect import bisect_left

import numpy as np
from tests import shoes, takes

from benchmarks.report import figure, heading
from benchmarks.words import Heard, alike_heard, danced
from firn.core.ear.shoes import Shoes, told
from firn.core.quantise.quantise import Quantised, quantise
from firn.core.quantise.words import Fit, Named
from firn.core.script.settings import Settings
from firn.core.steps.card import Card
from firn.core.steps.shelf import shipped
from firn.errors import FirnError
from firn.session.drafting import as_tap, unknown
from firn.session.shoes import shoes_said
from firn.session.tap_script import Tap
from firn.session.tap_words import called, named_in, worded

NEAR_S = 0.03
"""An onset so near to a strike is that strike."""

FEWER = 25
"""So many combos are gone through."""


def gone_through() -> None:
    """Combos danced well and badly, by a synthesiser that the ear did not train on."""
    if takes.hits_folder() is None:
        print("  the recorded hits (sonic-pi-samples) could not be had: nothing measured")
        return
    for beset in (False, True):
        how = "loosely, 5 % missing, 5 % extra, under a count" if beset else "danced well"
        heading(f"A draft gone through: 50 combos of 8 words, {how}")
        heard = [one for one in danced(beset=beset) if len(one.onsets) > 1]
        _laid(heard)
        for sharpened in (False, True):
            _confirmed(heard[:FEWER], sharpened=sharpened)


def _read(one: Heard) -> tuple[list[Tap], Quantised]:
    times = [float(t) for t in one.onsets.times_s]
    # What was danced before is not known: no shoes are taught but by what is said.
    return [unknown(t) for t in times], quantise(times, tempo=84.0)[0]


def _beats(one: Heard) -> list[tuple[int, int]]:
    """Of each sound of a combo the number of its word and of its beat."""
    return [(n, beat) for n, card in enumerate(one.chosen) for beat in range(len(card.beats))]


def _true(one: Heard) -> dict[int, int]:
    """Which sound of the combo each onset is, by their numbers."""
    times, found = list(map(float, one.onsets.times_s)), {}
    for sound, at_s in one.struck_s.items():
        k = bisect_left(times, at_s)
        near = min((k - 1, k), key=lambda n: abs(times[n] - at_s) if 0 <= n < len(times) else 9.0)
        if 0 <= near < len(times) and abs(times[near] - at_s) <= NEAR_S:
            found[near] = sound
    return found


def _laid(heard: list[Heard]) -> None:
    right = many = refused = whole = told_of = wrong_told = 0
    shelf = shipped()
    for one in heard:
        settings, (taps, read), true = Settings(tradition=one.tradition), _read(one), _true(one)
        if one.known is not None:
            struck = told(one.known, one.audio, shoes.RATE, one.onsets.times_s)
            taps = [as_tap(tap.at_s, kind) for tap, kind in zip(taps, struck, strict=True)]
        beats, audible = _beats(one), len(one.struck_s)
        many += audible
        try:
            said = ", ".join(shelf.word_for(card, one.tradition) for card in one.chosen)
            laid = worded(said, taps, read, settings, shelf)
        except FirnError:
            refused += 1
            continue
        where = {}
        numbers = [n for n, card in enumerate(one.chosen) if any(not b.kind.silent for b in card.beats)]
        for number, fit in zip(numbers, laid.given, strict=False):
            where |= {onset: (number, beat) for onset, beat in zip(fit.sounds, fit.beats, strict=True)}
        good = sum(where.get(onset) == beats[sound] for onset, sound in true.items())
        right += good
        whole += good == len(true)
        amiss = len(true) != len(taps) or len(true) != audible
        told_of += bool(laid.doubts)
        wrong_told += bool(laid.doubts) and not amiss
    figure("words laid on in order: sounds on their own beat", f"{100 * right / many:.1f} %")
    figure("  combos refused / wholly right / with a doubt", f"{refused} / {whole} / {told_of} of {len(heard)}")
    figure("  with a doubt where nothing was amiss", str(wrong_told))


def _confirmed(heard: list[Heard], *, sharpened: bool) -> None:
    """Gone through from front to back, with nothing known of the shoes before."""
    keys = words = right = later_right = later = 0
    for one in heard:
        pressed, done, good, half = _one(one, sharpened=sharpened)
        keys, words, right = keys + pressed, words + done, right + good
        later_right, later = later_right + half[0], later + half[1]
    which = "steps and what struck learnt from" if sharpened else "steps alone learnt from"
    figure(f"gone through, {which} what is said", f"{keys / max(1, words):.1f} keys a word, {right} of {words} right")
    figure("  of the second half right before it is reached", f"{100 * later_right / max(1, later):.0f} %")


def _one(one: Heard, *, sharpened: bool) -> tuple[int, int, int, tuple[int, int]]:
    """How many keys it takes, the words, how many of them are right in the end, and how many of those of the second
    half are right once the first half is said, of how many."""
    settings, shelf, (taps, read), true = Settings(tradition=one.tradition), shipped(), _read(one), _true(one)
    beats = _beats(one)
    begins: dict[int, int] = {}
    for onset, sound in sorted(true.items()):
        begins.setdefault(beats[sound][0], onset)
    at = {onset: number for number, onset in begins.items()}
    given: list[Fit] = []
    keys, half = 0, (0, 0)
    order = sorted(at)
    for turn, onset in enumerate(order):
        if sharpened and given:
            known = shoes_said(given, [t.at_s for t in taps], one.audio.astype(np.float32), shoes.RATE)
            taps = _anew(taps, known, one) if known is not None else taps
        named = _steps(taps, read, settings, given)
        if turn == len(order) // 2:
            rest = order[turn:]
            half = (sum(_right(named, o, one.chosen[at[o]]) for o in rest), len(rest))
        here = next((n for n in named if n.first == onset), None)
        card = one.chosen[at[onset]]
        ways = [here.so, *here.others] if here is not None else []
        fit = next((n for n, way in enumerate(ways) if alike_heard(way.card, card)), None)
        if fit is not None:
            keys += 1 + fit
            given = [*given, ways[fit]]
        else:
            word = shelf.word_for(card, one.tradition)
            keys += len(word) + 2
            try:
                given = called(word, onset, taps, read, settings, shelf, given=given)
            except FirnError:
                continue
    named = _steps(taps, read, settings, given)
    return keys, len(order), sum(_right(named, o, one.chosen[at[o]]) for o in order), half


def _steps(taps: list[Tap], read: Quantised, settings: Settings, given: list[Fit]) -> tuple[Named, ...]:
    return tuple(named_in(taps, read, settings, shipped(), given=given))


def _right(named: tuple[Named, ...], onset: int, card: Card) -> bool:
    return any(one.first == onset and alike_heard(one.card, card) for one in named)


def _anew(taps: list[Tap], known: Shoes, one: Heard) -> list[Tap]:
    struck = told(known, one.audio, shoes.RATE, [t.at_s for t in taps])
    return [as_tap(tap.at_s, kind) for tap, kind in zip(taps, struck, strict=True)]
