"""Recording a take to Firn's own count-in: what is played meanwhile, and what is kept of what was heard."""

from fractions import Fraction

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from firn.core.book.book import Book, Take
from firn.core.ear.latency import Latency, latency
from firn.core.ear.onsets import find_onsets
from firn.core.ear.student import Faults, dance
from firn.core.ear.verdict import NothingHeard
from firn.core.meter.count_in import CountIn
from firn.core.meter.counting import Counting
from firn.core.piece.piece import Part
from firn.core.sound.model import render
from firn.core.sound.voices import RATE, FloatArray, voice
from firn.core.task import UNWATCHED, Task
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.timeline import Section
from firn.files.store import Store
from firn.session.settings import Hearing
from firn.session.stretch import Stretch, moved
from firn.session.takes import SILENT_DB, kept_take
from firn.session.transport import Transport

AFTER_S = 1.5
"""Recorded after the last count, so that a slow end is not cut."""

BEFORE_BEATS = 0.45
"""Kept before the first sound is due, in counts: nearer than the last click of the count-in."""

CLIPPED = 0.999
MOST_CLIPPED = 12
CLAP_TEMPO, CLAPS = 90.0, 10


class Sheet(Struct, frozen=True):
    """What is played while a take is made.

    `audio`: shape (n, 2). `due`: the frame on which the part's first sound is due; `beat_s`: seconds a count.
    `section`: what is danced to it, all times through.
    """

    audio: FloatArray
    due: int
    beat_s: float
    section: Section

    @property
    def tempo(self) -> float:
        return self.section.mixing.tempo


def sheet(stretch: Stretch, transport: Transport, hearing: Hearing, passes: int, task: Task = UNWATCHED) -> Sheet:
    """The count-in, and as long as the passes last silence, the click or the model."""
    count_in = CountIn() if transport.count_in.pattern == "none" else transport.count_in
    swapped = transport.side == "other side"
    sounds = [s for n in range(passes) for s in moved(stretch, n * stretch.counts, swapped=swapped)]
    layers = transport.mixing
    mixing = Mixing(
        tempo=transport.tempo,
        count_in=count_in,
        steps=hearing == "model",
        counts=hearing == "model" and layers.counts,
        beats=hearing != "silence",
        led_in=True,
    )
    end = stretch.first + passes * stretch.counts
    section = Section(sounds, stretch.counting, stretch.first, end, mixing, sides=(swapped,) * passes)
    made = render(section, task)
    after = np.zeros((round(AFTER_S * RATE), 2), dtype=np.float32)
    heard = min((s.position for s in sounds if s.heard), default=stretch.first)
    audio = np.concatenate([made.audio[: made.end], after])
    return Sheet(audio, made.sample(heard), 60 / transport.tempo, section)


def student_for(part: Part, plan: Sheet, passes: int, seed: int) -> FloatArray:
    """What the simulated student would be heard to dance to a sheet, from its frame 0."""
    faults = Faults(quiet_s=plan.due / RATE, late_ms={2: 45.0})
    return dance(part, plan.tempo, faults, np.random.default_rng(seed), passes=passes).audio


class Recorded(Struct, frozen=True):
    """What is kept of a recording: samples (n,), the time in them on which the first sound was due (None where the
    device's delay is not known), and a sentence of warning, "" for none."""

    sound: FloatArray
    click_s: float | None
    warning: str = ""


def cut_recording(heard: FloatArray, plan: Sheet, latency_s: float | None) -> Recorded:
    """Cut the count-in off a recording; raises NothingHeard if nothing, or only silence, is left."""
    due = plan.due + round((latency_s or 0.0) * RATE)
    first = max(0, due - round(BEFORE_BEATS * plan.beat_s * RATE))
    sound = heard[first:]
    if len(sound) < RATE // 2:
        raise NothingHeard("The recording ended before the dancing began.")
    peak = float(np.abs(sound).max())
    if 20 * np.log10(max(1e-9, peak)) < SILENT_DB:
        raise NothingHeard("The microphone heard nothing.", hint="Is it on, and is it the one you meant?")
    clipped = int((np.abs(sound) >= CLIPPED).sum())
    warning = ""
    if clipped >= MOST_CLIPPED:
        warning = "The microphone was overdriven: turn it down or step away. Loudness cannot be told from this take."
    return Recorded(sound, None if latency_s is None else (due - first) / RATE, warning)


def keep_recording(
    store: Store, book: Book, recorded: Recorded, like: Take, *, simulated: bool, task: Task = UNWATCHED
) -> Take:
    """Put a recording into the workbook file; it has yet to be added by an edit.

    `like` says what else is known: piece, part, name, tempo, side, student. Shoes and floor are of the last one.
    """
    task.step(0.1)
    kept = kept_take(
        store,
        recorded.sound,
        RATE,
        piece=like.piece,
        part=like.part,
        name=like.name,
        tempo=like.tempo,
        source="simulated" if simulated else "microphone",
    )
    last = next((t for t in reversed(book.takes) if t.source == "microphone"), None)
    shoes, floor = (last.shoes, last.floor) if last else ("", "")
    return replace(
        kept, swapped=like.swapped, shoes=shoes, floor=floor, click_s=recorded.click_s, student=like.student
    )


def clap_sheet() -> tuple[FloatArray, list[float]]:
    """Clicks to clap to, shape (n, 2), and the times of those that are to be clapped, in seconds.

    The first two are only listened to.
    """
    mixing = Mixing(tempo=CLAP_TEMPO, count_in=CountIn("none"), steps=False, counts=False)
    section = Section((), Counting(), Fraction(0), Fraction(CLAPS + 2), mixing)
    made = render(section)
    after = np.zeros((RATE, 2), dtype=np.float32)
    clicks = [made.sample(Fraction(n)) / RATE for n in range(2, CLAPS + 2)]
    return np.concatenate([made.audio, after]), clicks


def claps_for(clicks_s: list[float]) -> FloatArray:
    """What the simulated student would be heard to clap to some clicks."""
    body = voice("clap")
    sound = np.zeros(round((clicks_s[-1] + 1) * RATE), dtype=np.float32)
    for time in clicks_s:
        first = round(time * RATE)
        sound[first : first + len(body)] += body[: len(sound) - first]
    return sound


def clapped(heard: FloatArray, clicks_s: list[float]) -> Latency:
    """The delay of a device from a recording of claps; raises NoLatency."""
    return latency(find_onsets(heard, RATE).times_s, clicks_s)
