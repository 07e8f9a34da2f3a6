"""Firn's own counts and beats taken out of a recording: it knows the sound of each to the sample.

Each is looked for by correlation, laid exactly, and taken out as the room gave it back: with the response that
explains most of all of them together, estimated from this recording alone.
"""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from firn.core.ear.onsets import Onsets, find_onsets, joined
from firn.core.sound.spoken import kept_words, spoken
from firn.core.sound.voices import RATE, voice
from firn.core.task import UNWATCHED, Task

FloatArray = npt.NDArray[np.float64]

_COARSE_HZ = 4_000
LIKE = 0.62
"""How alike a stretch of a recording and a word must be to be that word: correlation of 1 is the same."""
BEATS, LIKE_BEAT = ("beat", "strong beat"), 0.8
"""Beats are short: a foot may be rather like one."""
_APART_S = 0.15
_BLOCK_S, _LOOKED = 60, 2
LEAST_WORDS = 3
"""Fewer are none: a foot may sound like a word once."""
_ABOUT_S = 6.0
_RESPONSE_S, _BEFORE_S = 0.06, 0.001
_STEADY = 1e-4
"""How much of the words' own energy is added so that the response stays small where they have none."""
_REACH_S, _NEAR_S, _AROUND_S = 0.003, 0.025, 0.02

UNDER_WORD_DB, UNDER_BEAT_DB = 20.0, 10.0
"""So far under a word or beat that was taken out lies only what is left of it."""


class Word(NamedTuple):
    """A word in a recording: when it begins, in seconds, and how alike it is."""

    text: str
    at_s: float
    like: float


def resampled(sound: FloatArray, rate: int, wanted: int) -> FloatArray:
    """A sound, shape (n,), at another sample rate."""
    from scipy.signal import resample_poly

    if rate == wanted:
        return sound
    step = int(np.gcd(rate, wanted))
    return np.asarray(resample_poly(sound, wanted // step, rate // step), dtype=np.float64)


def words_in(
    sound: FloatArray, rate: int, texts: Sequence[str] | None = None, *, task: Task = UNWATCHED
) -> list[Word]:
    """Firn's own words in a recording, or those of these texts, ascending; one where two are alike."""
    from scipy.fft import irfft, next_fast_len, rfft

    coarse = resampled(sound, rate, _COARSE_HZ)
    words = {text: resampled(_template(text), RATE, _COARSE_HZ) for text in texts or kept_words()}
    longest = max(len(w) for w in words.values())
    if len(coarse) < longest:
        return []
    size = next_fast_len(len(coarse) + longest, real=True)
    spectrum = rfft(coarse, size)
    energy = np.concatenate([[0.0], np.cumsum(coarse**2)])
    found: list[Word] = []
    for number, (text, word) in enumerate(words.items()):
        task.step(number / len(words))
        cross = irfft(spectrum * np.conj(rfft(word, size)), size)[: len(coarse) - len(word)]
        local = np.sqrt(np.maximum(energy[len(word) : len(coarse)] - energy[: len(coarse) - len(word)], 1e-9))
        like = cross / (local * float(np.linalg.norm(word)))
        least = LIKE_BEAT if text in BEATS else LIKE
        for at in np.flatnonzero((like[1:-1] >= least) & (like[1:-1] >= like[:-2]) & (like[1:-1] > like[2:])) + 1:
            # In quiet a short sound seems alike some time before and after: it is where it is loud.
            first = max(0, int(at) - round(_NEAR_S * _COARSE_HZ))
            exact = first + int(np.argmax(cross[first : int(at) + round(_NEAR_S * _COARSE_HZ)]))
            found.append(Word(text, exact / _COARSE_HZ, float(like[at])))
    kept: list[Word] = []
    for one in sorted(found, key=lambda w: -w.like):
        if all(abs(one.at_s - other.at_s) >= _APART_S for other in kept):
            kept.append(one)
    return sorted(kept, key=lambda w: w.at_s)


def counted_about(at_s: float, sound: npt.ArrayLike, rate: int) -> bool:
    """Whether Firn's own words are in some seconds of a recording about a time: there they are on each count."""
    first = max(0, round((at_s - _ABOUT_S / 2) * rate))
    piece = np.asarray(sound, dtype=np.float64)[first : first + round(_ABOUT_S * rate)]
    return len(words_in(piece, rate)) >= LEAST_WORDS


def _template(text: str) -> FloatArray:
    if text in BEATS:
        return np.asarray(voice(text), dtype=np.float64)
    word = spoken(text)
    assert word is not None
    return np.asarray(word[0], dtype=np.float64)


def onsets_without_own(sound: npt.ArrayLike, rate: int, heard: Onsets, *, task: Task = UNWATCHED) -> Onsets | None:
    """The onsets of a recording without Firn's own words and beats.

    Parameters
    ----------
    sound : array_like, shape (n,)
    rate : int
        Samples a second.
    heard : Onsets
        Those of the recording as it is.
    task : Task

    Returns
    -------
    Onsets or None
        None where there are fewer than three of these words, and of these beats, in it. Of a recording over a minute
        the first and the middle one are looked through first: where there are none, there are none.
    """
    samples = np.asarray(sound, dtype=np.float32)
    block = _BLOCK_S * rate
    starts = range(0, max(1, len(samples)), block)
    cleaned: dict[int, Onsets | None] = {}
    for done, start in enumerate(dict.fromkeys((starts[0], starts[len(starts) // 2], *starts))):
        if done == _LOOKED and not any(one is not None for one in cleaned.values()):
            return None
        part = task.within(done / len(starts), (done + 1) / len(starts))
        piece = samples[start : start + block + rate].astype(np.float64)
        found = _without_own(piece, rate, task=part)
        cleaned[start] = None if found is None else found.later(start / rate)
    if all(one is None for one in cleaned.values()):
        return None
    parts = []
    for start in starts:
        one = cleaned[start]
        whole = heard if one is None else one
        until = (start + block) / rate if start != starts[-1] else np.inf
        parts.append(whole.only((whole.times_s >= start / rate) & (whole.times_s < until)))
    return joined(parts)


def _without_own(left: FloatArray, rate: int, *, task: Task) -> Onsets | None:
    """The same of a stretch."""
    taken = []
    # Beats lie under the words that fall on them, and are heard when these are gone.
    for step, (texts, under_db) in enumerate(((kept_words(), UNDER_WORD_DB), (BEATS, UNDER_BEAT_DB))):
        words = words_in(left, rate, texts, task=task.within(0.3 * step, 0.3 * step + 0.2))
        if len(words) < LEAST_WORDS:
            continue
        played = np.zeros(len(left))
        for word in words:
            _lay(played, left, resampled(_template(word.text), RATE, rate), round(word.at_s * rate), rate)
        heard = _as_heard(played, left, rate)
        left = left - heard
        taken.append((heard, under_db))
    if not taken:
        return None
    found = find_onsets(left, rate, task=task.within(0.6, 1))
    # What is left of a sound that was taken out is none of the feet's.
    kept = np.ones(len(found), dtype=bool)
    around = round(_AROUND_S * rate)
    for heard, under_db in taken:
        for number, (at, level) in enumerate(zip(found.times_s, found.levels_db, strict=True)):
            first = max(0, round(at * rate) - around)
            peak = float(np.abs(heard[first : first + 2 * around]).max(initial=0.0))
            if peak > 0 and level < 20 * np.log10(peak) - under_db:
                kept[number] = False
    return found.only(kept)


def _lay(played: FloatArray, samples: FloatArray, word: FloatArray, near: int, rate: int) -> None:
    """Add a word where it fits best, to a sample, and as loud as it is there."""
    reach = round(_REACH_S * rate)
    first = max(0, near - reach)
    piece = samples[first : near + reach + len(word)]
    if len(piece) <= len(word):
        return
    cross = np.correlate(piece, word, "valid")
    at = int(np.argmax(cross))
    gain = float(cross[at]) / float(word @ word)
    played[first + at : first + at + len(word)] += gain * word


def _as_heard(played: FloatArray, samples: FloatArray, rate: int) -> FloatArray:
    """What was played as the room gave it back: by the response that explains most of it, in the least squares."""
    from scipy.fft import irfft, next_fast_len, rfft
    from scipy.linalg import solve_toeplitz
    from scipy.signal import oaconvolve

    before, taps = round(_BEFORE_S * rate), round(_RESPONSE_S * rate)
    size = next_fast_len(len(samples) + 2 * taps, real=True)
    mine = rfft(played, size)
    own = irfft(np.abs(mine) ** 2, size)[:taps]
    # The response may begin a little before the word was laid.
    cross = np.roll(irfft(rfft(samples, size) * np.conj(mine), size), before)[:taps]
    own[0] *= 1 + _STEADY
    response = solve_toeplitz(own, cross)
    return np.asarray(oaconvolve(played, response)[before : before + len(samples)], dtype=np.float64)
