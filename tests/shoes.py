"""Feet as a second synthesiser makes them, in rooms, phones and company that the ear's training never had.

Nothing here is of the training's making (tools/ear): a strike is a pulse of contact, half a sine long, that rings a
floor's and a plate's modes (modal synthesis; Hertz's contact, common practice), brushes and slides are grains of
leather on wood, rooms are shoeboxes by image sources (Allen & Berkley 1979). Shoes, floors and numbers are from
memory of the trade. The true onset of a sound is its own first sample at a tenth of its peak, before the room.
"""

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

import numpy as np
from scipy.signal import butter, fftconvolve, lfilter, resample_poly, sosfilt

from tests import takes

RATE = 44_100
SOUND_M_S = 343.0
PARTS = ("heel", "ball", "tip", "flat", "brush", "slide", "hand")
VOICES = tuple(
    Path(f"{root}usr/share/asterisk/sounds/{language}")
    for root in (f"{Path(__file__).parents[1]}/.venv/voices/", "/")
    for language in ("fr_CA_f_June", "it_IT_m_Carlo", "ru_RU_f_IvrvoiceRU")
)
"""Prompts of speakers whom no training met (Debian's asterisk-core-sounds in French, Italian and Russian)."""


@dataclass(frozen=True)
class Shoe:
    """How long each part touches, in seconds; its plate's modes (Hz, s, gain), and how rough it is.

    `rattles`: pulses of a loose plate after each strike.
    """

    touch_s: dict[str, float]
    modes: np.ndarray
    rough: float
    rattles: int = 0


@dataclass(frozen=True)
class Floor:
    """A floor's modes, shape (n, 3): Hz, decay in seconds, gain."""

    modes: np.ndarray


def shoe(rng: np.random.Generator, *, kind: str = "") -> Shoe:
    """Shoes: `plates`, `loose` ones, `leather`, or `muffled` (rubber on a mat)."""
    kind = kind or str(rng.choice(["plates", "plates", "leather", "loose"]))
    scale = rng.uniform(0.7, 1.4)
    touch = {"heel": 0.0011, "ball": 0.0016, "tip": 0.0005, "flat": 0.0022, "brush": 0.0006, "slide": 0.0008}
    if kind in ("plates", "loose"):
        many = int(rng.integers(4, 8))
        modes = np.stack(
            [rng.uniform(1_800, 9_500, many), rng.uniform(0.004, 0.022, many), rng.uniform(0.3, 1.0, many)], axis=1
        )
        return Shoe(
            {p: t * 0.4 * scale for p, t in touch.items()}, modes, 0.5, int(rng.integers(2, 5)) * (kind == "loose")
        )
    if kind == "leather":
        modes = np.stack([rng.uniform(600, 3_500, 4), rng.uniform(0.002, 0.008, 4), rng.uniform(0.2, 0.8, 4)], axis=1)
        return Shoe({p: t * scale for p, t in touch.items()}, modes, 0.8)
    modes = np.stack([rng.uniform(200, 900, 3), rng.uniform(0.004, 0.012, 3), rng.uniform(0.3, 0.8, 3)], axis=1)
    return Shoe({p: t * 4 * scale for p, t in touch.items()}, modes, 0.3)


def floor(rng: np.random.Generator) -> Floor:
    """A sprung floor, a board on concrete, or concrete."""
    kind = int(rng.integers(3))
    low, high, long_s = ((60, 500, 0.09), (140, 1_400, 0.05), (200, 2_500, 0.015))[kind]
    many = int(rng.integers(5, 10))
    hz = np.exp(rng.uniform(np.log(low), np.log(high), many))
    return Floor(np.stack([hz, rng.uniform(0.3, 1, many) * long_s, rng.uniform(0.4, 1.2, many)], axis=1))


def _ringing(push: np.ndarray, modes: np.ndarray) -> np.ndarray:
    out = np.zeros(len(push))
    for hz, decay_s, gain in modes:
        turn, r = 2 * np.pi * hz / RATE, np.exp(-1 / (decay_s * RATE))
        out += gain * lfilter([np.sin(turn) * (1 - r)], [1, -2 * r * np.cos(turn), r * r], push)
    return out


def strike(part: str, worn: Shoe, ground: Floor, rng: np.random.Generator) -> tuple[np.ndarray, int]:
    """A sound of a part of the foot, peak 1, and the sample at which it begins."""
    if part == "hand":
        sound = _clap(rng)
    else:
        push = np.zeros(round(0.45 * RATE) if part != "slide" else round(0.9 * RATE))
        touch = max(3, round(worn.touch_s[part] * rng.uniform(0.8, 1.25) * RATE))
        bump = np.sin(np.pi * np.arange(touch) / touch)
        if part in ("brush", "slide"):
            _rubbed(push, part, bump, rng)
        else:
            at = [0.0]
            for _ in range(worn.rattles):
                at.append(at[-1] + rng.uniform(0.003, 0.012))
            for number, when in enumerate(at):
                first = round(when * RATE)
                push[first : first + touch] += bump * (1.0 if number == 0 else rng.uniform(0.1, 0.45))
            push *= 1 + worn.rough * rng.standard_normal(len(push))
        # A heel has the leg's weight behind it, a tip or a brush has not: the floor's share differs.
        heavy = {"heel": 1.0, "flat": 1.0, "ball": 0.6, "tip": 0.25, "brush": 0.12, "slide": 0.15}[part]
        below, plate = _ringing(push, ground.modes), _ringing(push, worn.modes)
        sound = heavy * below / np.abs(below).max() + (1.2 - heavy) * plate / np.abs(plate).max()
    sound = sound / np.abs(sound).max()
    return sound, int(np.flatnonzero(np.abs(sound) >= 0.1)[0])


def _rubbed(push: np.ndarray, part: str, bump: np.ndarray, rng: np.random.Generator) -> None:
    """Grains of a sole that rubs: many at its swiftest, few as it sets on and lifts."""
    lasts = rng.uniform(0.025, 0.08) if part == "brush" else rng.uniform(0.15, 0.6)
    many = round(lasts * rng.uniform(1_500, 4_000))
    if part == "brush":
        at = rng.beta(2, 3, many) * lasts
    else:
        sway = 1 + 0.5 * np.sin(2 * np.pi * (np.linspace(0, lasts * rng.uniform(2, 9), 400) + rng.random()))
        sway *= np.minimum(1, np.linspace(0, rng.uniform(5, 25), 400))
        at = np.interp(rng.random(many), np.cumsum(sway) / sway.sum(), np.linspace(0, lasts, 400))
    for when in at:
        first = round(when * RATE)
        push[first : first + len(bump)] += bump * rng.exponential(1.0)


def _clap(rng: np.random.Generator) -> np.ndarray:
    at = np.arange(round(0.15 * RATE)) / RATE
    out = np.zeros(len(at))
    for late in (0.0, rng.uniform(0.0005, 0.002)):
        fresh = np.where(at >= late, np.exp(-np.maximum(0, at - late) / rng.uniform(0.004, 0.012)), 0)
        out += fresh * rng.standard_normal(len(at))
    low = rng.uniform(500, 1_200)
    return np.asarray(sosfilt(butter(2, (low, low * rng.uniform(2, 4)), "bandpass", fs=RATE, output="sos"), out))


@lru_cache(maxsize=64)
def shoebox(number: int, rt60_s: float) -> np.ndarray:
    """The response of a shoebox room by image sources, the direct sound first and 1; walls take the highs."""
    rng = np.random.default_rng(number)
    size = np.array([rng.uniform(4, 14), rng.uniform(4, 11), rng.uniform(2.4, 5)])
    source = np.array([rng.uniform(0.25, 0.75) * size[0], rng.uniform(0.25, 0.75) * size[1], 0.02])
    ear = np.array([rng.uniform(0.1, 0.9) * size[0], rng.uniform(0.1, 0.9) * size[1], rng.uniform(0.1, 1.6)])
    volume, area = size.prod(), 2 * (size[0] * size[1] + size[0] * size[2] + size[1] * size[2])
    # Sabine 1922: what share the walls must take for this time of decay.
    takes_up = min(0.9, 0.161 * volume / (area * rt60_s))
    reach = min(rt60_s, 1.0) * SOUND_M_S
    orders = [np.arange(-int(reach / (2 * s)) - 1, int(reach / (2 * s)) + 2) for s in size]
    lengths = round(rt60_s * 1.1 * RATE)
    out = np.zeros(lengths)
    high = np.zeros(lengths)
    direct = float(np.linalg.norm(source - ear))
    for flips in np.ndindex(2, 2, 2):
        spans = [
            2 * o * s + (-1 if f else 1) * x - e
            for o, s, f, x, e in zip(orders, size, flips, source, ear, strict=True)
        ]
        bounces = [np.abs(2 * o - f) for o, f in zip(orders, flips, strict=True)]
        far = np.sqrt(spans[0][:, None, None] ** 2 + spans[1][None, :, None] ** 2 + spans[2][None, None, :] ** 2)
        hit = bounces[0][:, None, None] + bounces[1][None, :, None] + bounces[2][None, None, :]
        at = np.round((far - direct) / SOUND_M_S * RATE).astype(int)
        near = (at >= 0) & (at < lengths)
        gain = direct / far * (1 - takes_up) ** (hit / 2)
        np.add.at(out, at[near], gain[near])
        np.add.at(high, at[near], (gain * 0.85**hit)[near])
    out[0], high[0] = 0, 0
    sos = butter(1, 2_500, fs=RATE, output="sos")
    whole = sosfilt(sos, out) + high - sosfilt(sos, high)
    whole[0] += 1
    return np.asarray(whole)


def in_room(sound: np.ndarray, number: int, rt60_s: float) -> np.ndarray:
    """A sound as a room gives it back."""
    return np.asarray(fftconvolve(sound, shoebox(number, rt60_s))[: len(sound)])


Placed = list[tuple[float, str]]


def laid(
    placed: Placed,
    worn: Shoe,
    ground: Floor,
    rng: np.random.Generator,
    *,
    soft_db: float = 14.0,
    seconds: float = 0.0,
) -> tuple[np.ndarray, np.ndarray]:
    """Sounds at times (s), each a part of the foot or `hit` for a recorded one: audio, and when each begins."""
    audio = np.zeros(round((seconds or placed[-1][0] + 1.5) * RATE))
    truth = []
    own = rng.choice(len(takes.hits()), 4, replace=False) if takes.hits_folder() else []
    for time, part in placed:
        if part == "hit" and len(own):
            hit = takes.hits()[int(rng.choice(own))]
            sound, begins = hit.sound, hit.attack
        else:
            sound, begins = strike("ball" if part == "hit" else part, worn, ground, rng)
        at = round(time * RATE)
        first = max(0, at - begins)
        piece = sound[: len(audio) - first]
        softer = 8.0 if part in ("brush", "slide") else 0.0
        audio[first : first + len(piece)] += 0.4 * 10 ** (-(rng.uniform(0, soft_db) + softer) / 20) * piece
        truth.append((first + begins) / RATE)
    return audio, np.array(truth)


def rhythm(rng: np.random.Generator, many: int = 60, *, least_s: float = 0.08) -> np.ndarray:
    """Times of a dance: counts, halves, thirds and quarters at a tempo, with a dancer's spread."""
    beat = 60 / rng.uniform(80, 180)
    gaps = beat * rng.choice([1, 0.5, 0.5, 2 / 3, 1 / 3, 0.25, 0.75], many)
    times = 0.5 + np.cumsum(np.maximum(gaps, least_s)) + rng.normal(0, 0.006, many)
    return np.sort(times)


def parts(rng: np.random.Generator, many: int, *among: str) -> list[str]:
    return [str(p) for p in rng.choice(among or ("heel", "ball", "ball", "tip", "flat", "brush", "hit"), many)]


def hiss(audio: np.ndarray, rng: np.random.Generator, low_db: float = 28, high_db: float = 50) -> np.ndarray:
    loud = np.sqrt(np.mean(audio**2))
    return audio + rng.standard_normal(len(audio)) * loud * 10 ** (-rng.uniform(low_db, high_db) / 20)


def phone(audio: np.ndarray, rng: np.random.Generator) -> tuple[np.ndarray, int]:
    """As a phone records: its band, and a compressor that ducks after loud sounds and lifts the room between."""
    low, high, rate = ((200, 3_400, 8_000), (120, 7_000, 16_000))[int(rng.integers(2))]
    audio = sosfilt(butter(4, (low, high), "bandpass", fs=RATE, output="sos"), audio)
    audio = resample_poly(audio, rate, RATE)
    audio = audio / np.abs(audio).max() * 0.5
    rise, fall = np.exp(-1 / (0.004 * rate)), np.exp(-1 / (rng.uniform(0.08, 0.25) * rate))
    level, floor_at, ratio = 0.0, 10 ** (-rng.uniform(24, 38) / 20), rng.uniform(3, 8)
    gains = np.empty(len(audio))
    for k, x in enumerate(np.abs(audio)):
        level = x + (rise if x > level else fall) * (level - x)
        gains[k] = (max(level, floor_at) / floor_at) ** (1 / ratio - 1)
    audio = np.tanh(audio * gains / np.abs(audio * gains).max() * 1.2)
    return audio * 0.7, rate


@lru_cache(maxsize=1)
def voices() -> tuple[Path, ...]:
    """Files of speech; none where they could not be had."""
    return tuple(f for folder in VOICES if folder.is_dir() for f in sorted(folder.rglob("*.wav")))


def talk(seconds: float, rng: np.random.Generator) -> np.ndarray:
    """Somebody talking or counting with pauses, peak 1, at `RATE`, in a small room."""
    import soundfile

    many = round(seconds * RATE)
    out = np.zeros(many)
    at = 0
    while at < many:
        said, rate = soundfile.read(voices()[int(rng.integers(len(voices())))])
        said = resample_poly(said, RATE, rate)[: many - at]
        if np.abs(said).max(initial=0) > 0:
            out[at : at + len(said)] += said / np.abs(said).max() * rng.uniform(0.5, 1)
        at += len(said) + round(rng.exponential(0.3) * RATE)
    out = in_room(out, int(rng.integers(20)), 0.3)
    return out / np.abs(out).max()


def counting(beats_s: np.ndarray, seconds: float, rng: np.random.Generator) -> np.ndarray:
    """A dancer counting aloud, 1 to 8 over again: each word's vowel within some 20 ms of its beat; peak 1."""
    import soundfile

    folder = [f for f in VOICES if f.is_dir()][int(rng.integers(sum(f.is_dir() for f in VOICES)))]
    out = np.zeros(round(seconds * RATE))
    gap = float(np.median(np.diff(beats_s)))
    pitch = rng.uniform(0.9, 1.1)
    for number, beat in enumerate(beats_s):
        said, rate = soundfile.read(folder / "digits" / f"{number % 8 + 1}.wav")
        said = resample_poly(said, round(RATE * pitch / 100) * 100, rate)
        loud = np.convolve(np.abs(said), np.ones(882) / 882, "same")
        vowel = int(np.argmax(loud > 0.35 * loud.max()))
        first = max(0, round((beat + rng.normal(0, 0.02)) * RATE) - vowel)
        piece = said[: min(len(out) - first, vowel + round(0.95 * gap * RATE))]
        out[first : first + len(piece)] += piece / np.abs(said).max() * rng.uniform(0.7, 1)
    out = in_room(out, int(rng.integers(20)), 0.3)
    return out / np.abs(out).max()


def music(seconds: float, rng: np.random.Generator) -> np.ndarray:
    """A band from a loudspeaker, peak 1: drums on beats and between, a bass, and chords that are plucked."""
    many = round(seconds * RATE)
    out = np.zeros(many)
    beat = 60 / rng.uniform(90, 170)
    hits = takes.hits()
    kick, snare, hat = (
        hits[int(rng.choice([i for i, h in enumerate(hits) if word in h.name] or [0]))]
        for word in ("bass", "snare", "cymbal")
    )
    swing = rng.choice([0.5, 2 / 3])
    root = rng.uniform(80, 160)
    for number in range(int(seconds / beat) + 1):
        for share, hit, gain in (
            (0.0, kick if number % 2 == 0 else snare, 1.0),
            (0.0, hat, 0.3),
            (float(swing), hat, 0.35),
        ):
            first = round((number + share) * beat * RATE)
            piece = hit.sound[: max(0, many - first)]
            out[first : first + len(piece)] += gain * piece
        pitch = root * 2 ** (rng.choice([0, 3, 5, 7, 10]) / 12)
        first = round(number * beat * RATE)
        at = np.arange(min(round(beat * RATE), max(0, many - first))) / RATE
        for ratio, gain in ((1, 0.5), (4, 0.12), (5, 0.12), (6, 0.12), (8, 0.06)):
            out[first : first + len(at)] += gain * np.sin(2 * np.pi * pitch * ratio * at) * np.exp(-at / 0.35)
    # A small loudspeaker has no low end and no air.
    out = sosfilt(
        butter(2, (rng.uniform(120, 300), rng.uniform(5_000, 9_000)), "bandpass", fs=RATE, output="sos"), out
    )
    out = in_room(out, int(rng.integers(20)), 0.4)
    return out / np.abs(out).max()


Take = tuple[np.ndarray, np.ndarray, int]


def plain(seed: int) -> Take:
    """Quiet to lively: any shoe, a room of 0.15 to 0.5 s."""
    rng = np.random.default_rng(seed)
    times = rhythm(rng)
    audio, truth = laid(list(zip(times, parts(rng, len(times)), strict=True)), shoe(rng), floor(rng), rng)
    audio = in_room(audio, int(rng.integers(20)), round(rng.uniform(0.15, 0.5), 1))
    return _clipped(hiss(audio, rng)), truth, RATE


def flams(seed: int) -> Take:
    """Single sounds, and pairs 25 to 35 ms apart."""
    rng = np.random.default_rng(10_000 + seed)
    placed: Placed = []
    for time in rhythm(rng, 40, least_s=0.16):
        placed.append((float(time), str(rng.choice(["ball", "heel", "tip"]))))
        if rng.random() < 0.6:
            placed.append((float(time) + rng.uniform(0.025, 0.035), str(rng.choice(["ball", "heel", "tip", "flat"]))))
    audio, truth = laid(placed, shoe(rng), floor(rng), rng, soft_db=9)
    audio = in_room(audio, int(rng.integers(20)), round(rng.uniform(0.15, 0.4), 1))
    return _clipped(hiss(audio, rng)), truth, RATE


def slides(seed: int) -> Take:
    """Slides and scrapes of up to 0.6 s among strikes."""
    rng = np.random.default_rng(20_000 + seed)
    placed: Placed = []
    time = 0.5
    for _ in range(40):
        part = str(rng.choice(["slide", "slide", "ball", "heel", "brush"]))
        placed.append((time, part))
        time += rng.uniform(0.65, 0.9) if part == "slide" else rng.uniform(0.15, 0.5)
    audio, truth = laid(placed, shoe(rng), floor(rng), rng, soft_db=6)
    audio = in_room(audio, int(rng.integers(20)), round(rng.uniform(0.15, 0.4), 1))
    return _clipped(hiss(audio, rng)), truth, RATE


def echoing(seed: int) -> Take:
    """Halls of 0.5 to 1 s, the recording from some way off."""
    rng = np.random.default_rng(30_000 + seed)
    times = rhythm(rng, 50, least_s=0.11)
    audio, truth = laid(list(zip(times, parts(rng, len(times)), strict=True)), shoe(rng), floor(rng), rng, soft_db=10)
    audio = in_room(audio, 100 + int(rng.integers(12)), round(rng.uniform(0.5, 1.0), 1))
    return _clipped(hiss(audio, rng)), truth, RATE


def with_music(seed: int) -> Take:
    """Feet over a loudspeaker's band, 6 to 16 dB under the feet's loudest."""
    rng = np.random.default_rng(40_000 + seed)
    times = rhythm(rng, 50)
    audio, truth = laid(list(zip(times, parts(rng, len(times)), strict=True)), shoe(rng), floor(rng), rng, soft_db=8)
    audio = in_room(audio, int(rng.integers(20)), 0.3)
    band = music(len(audio) / RATE, rng) * np.abs(audio).max() * 10 ** (-rng.uniform(6, 16) / 20)
    return _clipped(hiss(audio + band, rng)), truth, RATE


def with_talk(seed: int) -> Take:
    """Feet while somebody talks, 3 to 14 dB under the feet's loudest."""
    rng = np.random.default_rng(50_000 + seed)
    times = rhythm(rng, 50)
    audio, truth = laid(list(zip(times, parts(rng, len(times)), strict=True)), shoe(rng), floor(rng), rng, soft_db=8)
    audio = in_room(audio, int(rng.integers(20)), 0.3)
    said = talk(len(audio) / RATE, rng) * np.abs(audio).max() * 10 ** (-rng.uniform(3, 14) / 20)
    return _clipped(hiss(audio + said, rng)), truth, RATE


def through_phone(seed: int) -> Take:
    """As `plain`, through a phone's band and compressor."""
    rng = np.random.default_rng(60_000 + seed)
    times = rhythm(rng, 50, least_s=0.1)
    audio, truth = laid(list(zip(times, parts(rng, len(times)), strict=True)), shoe(rng), floor(rng), rng, soft_db=12)
    audio = hiss(in_room(audio, int(rng.integers(20)), round(rng.uniform(0.2, 0.6), 1)), rng, 35, 55)
    audio, rate = phone(audio, rng)
    return audio, truth, rate


def loose(seed: int) -> Take:
    """Plates that rattle after each strike."""
    return _worn(seed, 70_000, "loose")


def muffled(seed: int) -> Take:
    """Soft soles on a mat."""
    return _worn(seed, 80_000, "muffled")


def brushes(seed: int) -> Take:
    """A brush some 80 ms before every other strike."""
    rng = np.random.default_rng(90_000 + seed)
    placed: Placed = []
    for time in rhythm(rng, 40, least_s=0.25):
        if rng.random() < 0.6:
            placed.append((float(time) - rng.uniform(0.07, 0.09), "brush"))
        placed.append((float(time), str(rng.choice(["ball", "heel", "flat"]))))
    audio, truth = laid(placed, shoe(rng), floor(rng), rng, soft_db=8)
    audio = in_room(audio, int(rng.integers(20)), round(rng.uniform(0.15, 0.4), 1))
    return _clipped(hiss(audio, rng)), truth, RATE


def talking(seed: int) -> Take:
    """A minute of talk, and no foot."""
    rng = np.random.default_rng(95_000 + seed)
    return talk(60, rng) * 0.4 + rng.standard_normal(60 * RATE) * 3e-4, np.zeros(0), RATE


def swaying(seed: int) -> Take:
    """As `plain`, on a ground of its own: a cheap input's direct current, and wind, a tram or a hand on the
    microphone, which lies under what is heard (2 to 12 Hz) and is up to twice as loud as the feet."""
    rng = np.random.default_rng(97_000 + seed)
    audio, truth, rate = plain(seed)
    sway = sosfilt(butter(2, (2, 12), "bandpass", fs=rate, output="sos"), rng.standard_normal(len(audio)))
    sway = sway / np.abs(sway).max() * rng.uniform(0.5, 2) + rng.uniform(-0.5, 0.5)
    whole = audio / np.abs(audio).max() + sway
    return whole / np.abs(whole).max() * 0.9, truth, rate


def _worn(seed: int, base: int, kind: str) -> Take:
    rng = np.random.default_rng(base + seed)
    times = rhythm(rng, 50)
    on = list(zip(times, parts(rng, len(times), "heel", "ball", "ball", "tip", "flat"), strict=True))
    audio, truth = laid(on, shoe(rng, kind=kind), floor(rng), rng, soft_db=10)
    audio = in_room(audio, int(rng.integers(20)), round(rng.uniform(0.15, 0.4), 1))
    return _clipped(hiss(audio, rng)), truth, RATE


def _clipped(audio: np.ndarray) -> np.ndarray:
    return np.clip(audio, -1, 1)


ROWS: dict[str, Callable[[int], Take]] = {
    "quiet rooms": plain,
    "flams of 25 to 35 ms": flams,
    "slides and scrapes": slides,
    "halls of 0.5 to 1 s": echoing,
    "music from a loudspeaker": with_music,
    "talk under the feet": with_talk,
    "a phone and its compressor": through_phone,
    "loose plates": loose,
    "muffled soles": muffled,
    "a brush 80 ms before a strike": brushes,
}


def to_a_beat(seed: int) -> tuple[np.ndarray, np.ndarray]:
    """Forty seconds of feet at `RATE`, and the beats that they dance to, at a tempo that drifts by up to 8 %."""
    rng = np.random.default_rng(seed)
    tempo, drift = rng.uniform(80, 160), rng.uniform(-0.08, 0.08)
    many = int(tempo / 60 * 40)
    counts = np.arange(many)
    beats = 0.8 + 60 / tempo * (counts - drift * counts**2 / (2 * many))
    audio = _footed(beats, rng)
    return hiss(in_room(audio, int(rng.integers(20)), 0.3), rng), beats


def steady(rng: np.random.Generator, tempo: float) -> tuple[np.ndarray, np.ndarray]:
    """Forty seconds of feet at `RATE`, and the beats that they dance to, at one tempo."""
    beats = 0.8 + 60 / tempo * np.arange(int(tempo / 60 * 40))
    return hiss(_footed(beats, rng), rng), beats


def _footed(beats: np.ndarray, rng: np.random.Generator) -> np.ndarray:
    """Feet to some beats."""
    patterns = [(0.0,), (0.0, 0.5), (0.0, 0.5, 0.75), (0.0, 2 / 3), (0.0, 0.25, 0.5, 0.75), (0.0,), (0.5,)]
    placed: Placed = []
    for count in range(len(beats) - 1):
        pattern = patterns[int(rng.integers(len(patterns)))] if count % 4 else (0.0, 0.5)
        for share in pattern:
            at = beats[count] + share * (beats[count + 1] - beats[count]) + rng.normal(0, 0.008)
            placed.append((float(at), str(rng.choice(["ball", "heel", "brush", "flat"]))))
    placed.sort()
    return laid(placed, shoe(rng), floor(rng), rng, soft_db=8, seconds=beats[-1] + 1)[0]
