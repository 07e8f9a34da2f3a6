"""What is in a pack: each part in exact counts, each strike and word once, questions, practice; plain values."""

import base64
import hashlib
from collections.abc import Mapping, Sequence
from fractions import Fraction
from typing import Any

import numpy as np
from msgspec import Struct

from firn.core.book.students import Student
from firn.core.drills.ladder import tempo_bounds
from firn.core.ear.asked.question import question_text, timeline
from firn.core.meter.count_in import CountIn
from firn.core.piece.piece import Part, Piece
from firn.core.piece.sound import Sound
from firn.core.piece.unfold import Unfolded, unfold
from firn.core.sound.model import strike_of, voiced_as
from firn.core.sound.scat import sung
from firn.core.sound.spoken import spoken
from firn.core.sound.voices import RATE, voice
from firn.core.steps.card import Card
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.timeline import Section
from firn.errors import FirnError
from firn.session.asking import ear_round
from firn.session.pack.beside import ClipFilm
from firn.session.pack.coded import thinned
from firn.session.planning import Day
from firn.session.stretch import Stretch, combo_stretch, part_stretch

MOST_SOUNDS = 4_000
"""Sounds of one part or combo in a pack."""

SLOW, MIDDLE = 0.7, 0.85
"""Shares of the tempo at which it is heard in plain players beside its own."""

LANGUAGES = ("en", "es")
COMBO = "combo"


class Wanted(Struct, frozen=True):
    """What a pack is made of: a piece, the ids of its parts by their names, which of them (none: the combo, or all
    where there is none) and for whom.

    `by`, `licence`, `note`: lines that the teacher writes; `language`: en or es; `tempo`: counts a minute, 0 for that
    of the student or the piece; `days`: a practice; `questions`: whether the ear is asked; `voice`: the teacher's
    own, as MP3; `films`: pictures of the clips that parts are from.
    """

    piece: Piece
    ids: Mapping[str, str]
    parts: tuple[str, ...] = ()
    student: Student | None = None
    by: str = ""
    licence: str = ""
    note: str = ""
    language: str = "en"
    tempo: float = 0.0
    days: tuple[Day, ...] = ()
    questions: bool = True
    voice: bytes = b""
    films: tuple[ClipFilm, ...] = ()


class Item(Struct, frozen=True):
    """A part, or the combo, as it is in a pack."""

    id: str
    name: str
    text_hash: str
    stretch: Stretch
    said: str
    cards: tuple[Card, ...]
    tempo: float
    bounds: tuple[float, float]
    part: Part | None = None

    def section(self, tempo: float, *, counts: bool = True) -> Section:
        """Once through at a tempo, after its count-in."""
        mixing = Mixing(tempo=tempo, count_in=CountIn(), counts=counts, beats=True)
        return Section(self.stretch.sounds, self.stretch.counting, self.stretch.first, self.stretch.end, mixing)


def text_hash(part: Part) -> str:
    """What tells whether a part is still the one that a pack was made of: 16 hexadecimal digits of SHA-256 over its
    meter, feel and text."""
    said = f"{part.settings.meter}|{part.settings.feel}|{part.script.text.strip()}"
    return hashlib.sha256(said.encode("utf-8", "replace")).hexdigest()[:16]


def combo_hash(whole: Unfolded) -> str:
    """The same of a combo: over its passes, each with its side and turn."""
    said = "|".join(f"{text_hash(p.part)} {p.swapped} {p.turn} {len(p.sounds)}" for p in whole.passes)
    return hashlib.sha256(said.encode()).hexdigest()[:16]


def items(wanted: Wanted) -> list[Item]:
    """The parts of a pack, the combo first where it is in it; raises FirnError where there is nothing to dance."""
    piece, student = wanted.piece, wanted.student
    tempo = wanted.tempo or (student.tempo if student is not None else 0.0) or piece.settings.tempo
    names = wanted.parts or (
        (COMBO, *(p.name for p in piece.parts)) if piece.combo else [p.name for p in piece.parts]
    )
    made = []
    for name in names:
        if name == COMBO:
            made += [_combo(piece, tempo)] if piece.combo else []
            continue
        part = piece.part(name)
        if part is None:
            raise FirnError(f'No part is called "{name}".')
        if part.sounds:
            made.append(_part(part, wanted.ids.get(name, name), tempo))
    made = [one for one in made if one.stretch.sounds]
    if not made:
        raise FirnError("There is nothing to dance in it yet.")
    for one in made:
        if len(one.stretch.sounds) > MOST_SOUNDS:
            raise FirnError(f"{one.name} has {len(one.stretch.sounds)} sounds; a pack takes {MOST_SOUNDS} of one.")
    return made


def _part(part: Part, key: str, tempo: float) -> Item:
    cards = tuple(dict.fromkeys(u.card for u in part.uses))
    said = part.script.text.strip()
    return Item(
        key, part.name, text_hash(part), part_stretch(part), said, cards, _within(tempo, tempo_bounds(part)),
        tempo_bounds(part), part,
    )  # fmt: skip


def _combo(piece: Piece, tempo: float) -> Item:
    whole = unfold(piece)
    parts = list(dict.fromkeys(p.part.name for p in whole.passes))
    cards = tuple(dict.fromkeys(u.card for p in whole.passes for u in p.part.uses))
    known = [tempo_bounds(part) for name in parts if (part := piece.part(name)) is not None]
    low, high = max((b[0] for b in known), default=40.0), min((b[1] for b in known), default=300.0)
    bounds = (low, high) if low < high else (40.0, 300.0)
    said = ", ".join(dict.fromkeys(_pass_name(p.part.name, p.time) for p in whole.passes))
    return Item(
        COMBO, COMBO, combo_hash(whole), combo_stretch(piece, whole), said, cards, _within(tempo, bounds), bounds
    )


def _pass_name(part: str, time: int) -> str:
    return part if not time else f"{part} {time + 1}"


def _within(tempo: float, bounds: tuple[float, float]) -> float:
    return float(min(max(tempo, bounds[0]), bounds[1]))


class Sounds:
    """Strikes and words by their keys, each once."""

    def __init__(self) -> None:
        self._made: dict[str, dict[str, Any]] = {}

    def strike(self, sound: Sound) -> tuple[str, float]:
        """The key of how a sound is struck, and how loud."""
        if sound.by_voice:
            return self.sung(voiced_as(sound)), 0.5
        strike = strike_of(sound)
        key = f"{strike.voice}{'+' if strike.weighted else ''}"
        if key not in self._made:
            self._keep(key, voice(strike.voice, weighted=strike.weighted), 0)
        return key, strike.gain

    def beat(self, name: str) -> str:
        """The key of a beat, or of the standing leg."""
        if name not in self._made:
            self._keep(name, voice(name), 0)
        return name

    def word(self, text: str) -> str | None:
        """The key of a count word; None for one that there is no recording of."""
        key = f"word {text}"
        if key not in self._made:
            said = spoken(text)
            if said is None:
                return None
            self._keep(key, *said)
        return key

    def sung(self, text: str) -> str:
        """The key of a syllable."""
        key = f"sung {text}"
        if key not in self._made:
            self._keep(key, *sung(text))
        return key

    def _keep(self, key: str, sound: np.ndarray, vowel: int) -> None:
        thin = thinned(sound)
        whole = np.round(np.clip(thin, -1.5, 1.5) / 1.5 * 32_767).astype("<i2")
        self._made[key] = {
            "pcm": base64.b64encode(whole.tobytes()).decode("ascii"),
            "vowel_s": round(vowel / RATE, 5),
        }

    @property
    def data(self) -> dict[str, dict[str, Any]]:
        """All of them: signed 16 bits at `PACK_RATE`, full scale 1.5; `vowel_s` is what falls on the count."""
        return self._made


def item_data(item: Item, sounds: Sounds) -> dict[str, Any]:
    """A part as the page dances it: positions in counts from its first 1."""
    stretch = item.stretch
    section = item.section(item.tempo)
    struck = []
    for sound in stretch.sounds:
        key, gain = ("", 0.0) if sound.silent else sounds.strike(sound)
        struck.append([round(float(sound.position), 5), key, round(gain, 3), sound.foot, 1 if sound.hand else 0])
    counting = stretch.counting
    inside = [Fraction(c) for c in range(int(-(-stretch.first // 1)), int(-(-stretch.end // 1)))]
    counts = [[float(c), counting.counted(c), sounds.word(counting.counted(c))] for c in inside]
    led = [[float(place), text, sounds.word(text)] for place, text in section.led]
    beats = [[float(c), sounds.beat("strong beat" if counting.strong(c) else "beat")] for c in inside]
    begins = [[float(c), sounds.beat("strong beat" if counting.strong(c) else "beat")] for c in _before(section)]
    words = [[int(i), text] for i, text in stretch.words]
    return {
        "id": item.id, "name": item.name, "hash": item.text_hash,
        "first": float(stretch.first), "end": float(stretch.end), "origin": float(section.origin),
        "tempo": item.tempo, "bounds": list(item.bounds),
        "sounds": struck, "counts": counts, "led": led, "beats": beats, "led_beats": begins, "words": words,
        "titles": [[float(place), text] for place, text in stretch.titles],
    }  # fmt: skip


def _before(section: Section) -> list[Fraction]:
    return [Fraction(c) for c in range(int(-(-section.origin // 1)), int(-(-section.first // 1)))]


def question_rows(wanted: Wanted, made: Sequence[Item], sounds: Sounds) -> list[dict[str, Any]]:
    """A round of questions to the ear about the first part that has any, each with its sounds by time."""
    if not wanted.questions:
        return []
    part = next((item.part for item in made if item.part is not None), None)
    if part is None:
        first = next((p for p in wanted.piece.parts if p.sounds), None)
        part = first
    if part is None:
        return []
    rows = []
    for one in ear_round(part, min(part.settings.tempo, made[0].tempo), ()):
        line = timeline(one)
        events = []
        for number, event in line.events():
            if event.kind == "sound":
                sound = line.sections[number].sounds[event.sound]
                key, gain = sounds.strike(sound)
                events.append([round(float(event.at_s), 5), key, round(gain, 3), sound.foot])
        rows.append(
            {
                "kind": one.kind, "text": question_text(one), "answers": list(one.answers), "right": one.right,
                "why": one.why, "events": events, "seconds": round(float(line.length_s), 3),
            }
        )  # fmt: skip
    return rows


def practice_rows(wanted: Wanted) -> list[dict[str, Any]]:
    """The stages of a practice, a line each to tick: which day, what, which part, at which tempo, how often."""
    names = {key: name for name, key in wanted.ids.items()}
    rows = []
    for day in wanted.days:
        for one in day.stages:
            stage = one.stage
            part = stage.parts[0] if len(stage.parts) == 1 else COMBO
            rows.append(
                {
                    "day": day.on.isoformat(), "title": one.title, "part": part, "name": names.get(part, COMBO),
                    "tempo": stage.start, "to": stage.end, "times": stage.times, "sides": stage.sides,
                }
            )  # fmt: skip
    return rows


def hard_rows(made: Sequence[Item]) -> list[tuple[str, tuple[str, ...]]]:
    """What is told of the steps where they are hard: of each its tips, what helps, its caution."""
    rows: dict[str, tuple[str, ...]] = {}
    for item in made:
        for card in item.cards:
            told = (*card.tips, *card.remedies, *((card.caution,) if card.caution else ()))
            if told and card.name not in rows:
                rows[card.name] = told
    return list(rows.items())
