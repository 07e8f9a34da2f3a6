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
from firn.core.task import UNWATCHED, Task, give_way

FloatArray = npt.NDArray[np.float64]

_COARSE_HZ = 4_000
LIKE = 0.62
"""How alike a stretch of a recording and a word must be to be that word: correlation of 1 is the same."""
BEATS, LIKE_BEAT = ("beat", "strong beat"), 0.8
"""Beats are short: a foot may be rather like one."""
LIKE_BEAT_THERE = 0.4
"""On a count of a count-in, where no foot strikes."""
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
"""So far under a word or beat that was taken out lies only what is left of it, and..."""
_FRAME_S, _LOUD, _ALONE, _MARGIN_DB = 0.01, 1e-3, 0.9, 4.0
"""... further where it could be taken out better: as of the tenth of its loud stretches where least is left, with a
margin."""
_LED_IN = 2
"""So many counts are said before the first 1 where there is a count-in."""
_BEAT_MARGIN_DB = 2.5
_EDGE_S, _ON_COUNT_S = 0.1, 0.012
_ALIKE = 3
"""So many of one word tell how loud it usually is."""


class Word(NamedTuple):
    """A word in a recording: when it begins, in seconds, and how alike it is."""

    text: str
    at_s: float
    like: float


class Without(NamedTuple):
    """What is heard in a recording but Firn's own words and beats; `beats`: which of it may be beats all the same,
    shape (n,); `one_s`: when the first 1 is said after a count-in, less a quarter of a count, 0 where there is none.
    `hidden_s`: when a beat was taken out, with which a soft sound may have gone, shape (n,)."""

    onsets: Onsets
    beats: npt.NDArray[np.bool_]
    one_s: float
    hidden_s: FloatArray

    @property
    def danced(self) -> "Without":
        """What comes after the count-in, whose beats may be taken for steps."""
        late = self.onsets.times_s >= self.one_s
        return Without(self.onsets.only(late), self.beats[late], self.one_s, self.hidden_s)

    def but(self, times_s: Sequence[float] | None = None) -> Onsets:
        """Without what may be a beat, all of it or only of what is at some times."""
        among = self.beats if times_s is None else self.beats & np.isin(self.onsets.times_s, np.asarray(times_s))
        return self.onsets.only(~among)


def _first_one(words: Sequence[Word]) -> float:
    """When the first 1 is said after a count-in, less a quarter of a count; 0 where there is none."""
    said = [(w.text, w.at_s + _vowel_s(w.text)) for w in words if w.text.isdecimal()]
    first = next((number for number, (text, _) in enumerate(said) if text == "1"), 0)
    if first < _LED_IN:
        return 0.0
    count = float(np.median(np.diff([at for _, at in said])))
    return said[first][1] - count / 4


def _has_beats(sound: FloatArray, rate: int, counts: Sequence[float]) -> bool:
    """Whether there are beats on counts on which no foot strikes."""
    beat = resampled(_template(BEATS[0]), RATE, rate)
    reach = round(_REACH_S * rate)
    many = 0
    for at in counts:
        first = max(0, round(at * rate) - reach)
        piece = sound[first : first + 2 * reach + len(beat)]
        if len(piece) > len(beat):
            cross = np.correlate(piece, beat, "valid")
            best = int(np.argmax(cross))
            own = float(np.linalg.norm(piece[best : best + len(beat)]) * np.linalg.norm(beat))
            many += float(cross[best]) >= LIKE_BEAT_THERE * own > 0
    return many >= _LED_IN


def _may_be_beats(found: Onsets, counts: Sequence[float], one_s: float) -> npt.NDArray[np.bool_]:
    """Which onsets may be beats that could not be taken out: on a count, hardly louder than those in the count-in."""
    if not counts or not len(found):
        return np.zeros(len(found), dtype=bool)
    on = np.min(np.abs(found.times_s[:, None] - np.asarray(counts)), axis=1) < _ON_COUNT_S
    led = found.levels_db[on & (found.times_s < one_s)]
    return np.asarray(on & (found.levels_db < np.median(led) + _BEAT_MARGIN_DB)) if len(led) else on & False


def _vowel_s(text: str) -> float:
    """When the vowel of a word begins."""
    word = spoken(text)
    return 0.0 if word is None else word[1] / RATE


def resampled(sound: FloatArray, rate: int, wanted: int) -> FloatArray:
    """A sound, shape (n,), at another sample rate."""
    from scipy.signal import resample_poly

    if rate == wanted:
        return sound
    give_way()
    step = int(np.gcd(rate, wanted))
    return np.asarray(resample_poly(sound, wanted // step, rate // step), dtype=np.float64)


def words_in(
    sound: FloatArray, rate: int, texts: Sequence[str] | None = None, *, task: Task = UNWATCHED
) -> list[Word]:
    """Firn's own words in a recording, or those of these texts, ascending; one where two are alike."""
    from scipy.fft import irfft, next_fast_len, rfft

    # A word may begin with the recording.
    edge = round(_EDGE_S * _COARSE_HZ)
    coarse = np.concatenate([np.zeros(edge), resampled(sound, rate, _COARSE_HZ)])
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
            found.append(Word(text, max(0.0, (exact - edge) / _COARSE_HZ), float(like[at])))
    kept: list[Word] = []
    for one in sorted(found, key=lambda w: -w.like):
        if all(abs(one.at_s - other.at_s) >= _APART_S for other in kept):
            kept.append(one)
    return sorted(kept, key=lambda w: w.at_s)


def counted_about(at_s: float, sound: npt.ArrayLike, rate: int) -> bool:
    """Whether Firn's own words are in some seconds of a recording about a time: there they are on each count."""
    first = max(0, round((at_s - _ABOUT_S / 2) * rate))
    # Of a long recording no more than those seconds are made finer: all of it would be as large again twice.
    piece = np.asarray(sound)[first : first + round(_ABOUT_S * rate)]
    return len(words_in(piece.astype(np.float64), rate)) >= LEAST_WORDS


def _template(text: str) -> FloatArray:
    if text in BEATS:
        return np.asarray(voice(text), dtype=np.float64)
    word = spoken(text)
    assert word is not None
    return np.asarray(word[0], dtype=np.float64)


def onsets_without_own(sound: npt.ArrayLike, rate: int, heard: Onsets, *, task: Task = UNWATCHED) -> Without | None:
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
    Without or None
        None where there are fewer than three of these words, and of these beats, in it. Of a recording over a minute
        the first and the middle one are looked through first: where there are none, there are none.
    """
    samples = np.asarray(sound, dtype=np.float32)
    block = _BLOCK_S * rate
    starts = range(0, max(1, len(samples)), block)
    cleaned: dict[int, Without | None] = {}
    for done, start in enumerate(dict.fromkeys((starts[0], starts[len(starts) // 2], *starts))):
        if done == _LOOKED and not any(one is not None for one in cleaned.values()):
            return None
        part = task.within(done / len(starts), (done + 1) / len(starts))
        piece = samples[start : start + block + rate].astype(np.float64)
        cleaned[start] = _without_own(piece, rate, task=part)
    if all(one is None for one in cleaned.values()):
        return None
    parts, beats = [], []
    for start in starts:
        one = cleaned[start]
        whole = heard if one is None else one.onsets.later(start / rate)
        until = (start + block) / rate if start != starts[-1] else np.inf
        inside = (whole.times_s >= start / rate) & (whole.times_s < until)
        parts.append(whole.between(start / rate, until))
        beats.append(np.zeros(int(inside.sum()), dtype=bool) if one is None else one.beats[inside])
    hidden = [one.hidden_s + start / rate for start, one in cleaned.items() if one is not None]
    one_s = first.one_s if (first := cleaned[0]) is not None else 0.0
    return Without(joined(parts), np.concatenate(beats), one_s, np.concatenate(hidden))


def _without_own(left: FloatArray, rate: int, *, task: Task) -> Without | None:
    """The same of a stretch."""
    taken = []
    counts: list[float] = []
    one_s, beaten, hidden_s = 0.0, False, np.zeros(0)
    # Beats lie under the words that fall on them, and are heard when these are gone.
    for step, (texts, under_db) in enumerate(((kept_words(), UNDER_WORD_DB), (BEATS, UNDER_BEAT_DB))):
        words = words_in(left, rate, texts, task=task.within(0.3 * step, 0.3 * step + 0.2))
        if len(words) < LEAST_WORDS:
            continue
        if not step:
            counts = [w.at_s + _vowel_s(w.text) for w in words if w.text.isdecimal()]
            one_s = _first_one(words)
        played = _played(words, left, rate)
        # In a loop without a room it is what was played, and a response would take some of the feet with it.
        ways = [(heard, _gone_db(heard, left - heard, rate)) for heard in (played, _as_heard(played, left, rate))]
        heard, gone_db = max(ways, key=lambda way: way[1])
        left = left - heard
        if step:
            hidden_s = np.array([word.at_s for word in words])
        else:
            beaten = _has_beats(left, rate, [at for at in counts if at < one_s])
        # In a room something is left of the tails, too.
        taken.append((heard, max(under_db, gone_db - _MARGIN_DB) if heard is played else under_db))
    if not taken:
        return None
    found = find_onsets(left, rate, task=task.within(0.6, 1))
    found = found.only(~_left_over(found, taken, rate)).but_faint(lambda faint: _left_over(faint, taken, rate))
    return Without(found, _may_be_beats(found, counts if beaten else [], one_s), one_s, hidden_s)


def _left_over(found: Onsets, taken: Sequence[tuple[FloatArray, float]], rate: int) -> npt.NDArray[np.bool_]:
    """Which of some onsets may be what is left of a sound that was taken out: none of the feet's."""
    left = np.zeros(len(found), dtype=bool)
    back, around = round(_RESPONSE_S * rate), round(_AROUND_S * rate)
    for heard, under_db in taken:
        for number, (at, level) in enumerate(zip(found.times_s, found.levels_db, strict=True)):
            first = max(0, round(at * rate) - back)
            peak = float(np.abs(heard[first : first + back + around]).max(initial=0.0))
            left[number] |= peak > 0 and level < 20 * np.log10(peak) - under_db
    return left


def _played(words: Sequence[Word], samples: FloatArray, rate: int) -> FloatArray:
    """Words where they fit best, to a sample, as loud as the same mostly are: a foot that strikes with one is not
    taken for its being louder."""
    played = np.zeros(len(samples))
    reach = round(_REACH_S * rate)
    laid: list[tuple[str, int, float]] = []
    sounds = {word.text: resampled(_template(word.text), RATE, rate) for word in words}
    for word in words:
        sound = sounds[word.text]
        first = max(0, round(word.at_s * rate) - reach)
        piece = samples[first : first + 2 * reach + len(sound)]
        if len(piece) > len(sound):
            cross = np.correlate(piece, sound, "valid")
            at = int(np.argmax(cross))
            laid.append((word.text, first + at, float(cross[at]) / float(sound @ sound)))
    for text, at, gain in laid:
        alike = [g for other, _, g in laid if other == text]
        usual = float(np.median(alike)) if len(alike) >= _ALIKE else gain
        played[at : at + len(sounds[text])] += max(0.0, min(gain, usual)) * sounds[text]
    return played


def _gone_db(heard: FloatArray, left: FloatArray, rate: int) -> float:
    """So far under what was taken out lies what is left of it, where nothing else sounds."""
    frame = round(_FRAME_S * rate)
    many = len(heard) // frame
    was = np.mean(heard[: many * frame].reshape(many, frame) ** 2, axis=1)
    now = np.mean(left[: many * frame].reshape(many, frame) ** 2, axis=1)
    loud = was > was.max(initial=0.0) * _LOUD
    if not loud.any():
        return 0.0
    return float(np.quantile(10 * np.log10(was[loud] / np.maximum(now[loud], 1e-12)), _ALONE))


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
