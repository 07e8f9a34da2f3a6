"""One file as another: texts, scores, tables, sound, calendars, and whole workbooks as folders."""

import io
import json
from collections.abc import Callable, Mapping, Sequence
from datetime import UTC, datetime
from pathlib import Path
from zlib import crc32

from msgspec import Struct

from firn.core.drills.ladder import Rung, climbed
from firn.core.meter.count_in import CountIn
from firn.core.piece.build import piece_from
from firn.core.piece.piece import Part, Piece
from firn.core.piece.unfold import unfold
from firn.core.score.abc import write_abc
from firn.core.score.midi import write_midi
from firn.core.score.musicxml import write_musicxml
from firn.core.score.score import Written
from firn.core.steps.shelf import Shelf
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.timeline import Section, Timeline
from firn.errors import FirnError
from firn.files.formats import PIECE, TUNE_ENDINGS, WORKBOOK
from firn.files.known import ending_of
from firn.files.steps_file import read_steps
from firn.session.planning import Day
from firn.session.practised import piece_and_log
from firn.session.report import sounds_data
from firn.session.scores import Brought, piece_of_score, score_of
from firn.session.stretch import Stretch, across, combo_stretch, part_stretch
from firn.session.tables import table_text

SOUND = {".wav": ("WAV", "PCM_24"), ".flac": ("FLAC", "PCM_24"), ".ogg": ("OGG", "VORBIS"),
         ".mp3": ("MP3", "MPEG_LAYER_III")}  # fmt: skip
SOUNDS_COLUMNS = ("part", "place", "position", "say", "word", "kind", "foot", "weight", "silent")


class How(Struct, frozen=True):
    """How something is written: of which part ("" for the combo where there is one, else all), at which tempo (0 for
    its own), with spoken counts, beats and music or without."""

    part: str = ""
    tempo: float = 0.0
    counts: bool = True
    beats: bool = True
    music: bool = False


AS_IT_IS = How()


def piece_at(path: Path, shelf: Shelf, *, of: str | None = None, notes: Sequence[int] = ()) -> Brought:
    """The text of a piece in a file of any kind that Firn reads one from; raises FirnError with one sentence."""
    ending = ending_of(path)
    if ending in PIECE.endings:
        return Brought(read_steps(path))
    if WORKBOOK.names(path):
        return Brought(piece_and_log(path, of).piece.script)
    if ending in TUNE_ENDINGS:
        return piece_of_score(path, shelf, notes)
    known = ", ".join((PIECE.ending, WORKBOOK.ending, *TUNE_ENDINGS))
    raise FirnError(f"{path.name} is nothing that Firn reads a piece from: {known}.")


def written(text: str, ending: str, shelf: Shelf, how: How = AS_IT_IS) -> Written:
    """A piece's text as a file of an ending; raises FirnError with one sentence."""
    if ending == PIECE.ending:
        return Written(text.encode("utf-8"))
    piece = piece_from(text, shelf)
    make = WRITERS.get(ending)
    if make is None:
        raise FirnError(f"Firn writes no {ending or 'such'} files: {', '.join((PIECE.ending, *WRITERS))}.")
    return make(piece, how)


def _chosen(piece: Piece, how: How) -> Part | None:
    """The part that is meant; None for the combo."""
    if how.part:
        part = piece.part(how.part)
        if part is None:
            known = ", ".join(p.name for p in piece.parts) or "none"
            raise FirnError(f'No part is called "{how.part}". The parts: {known}.')
        return part
    if piece.combo:
        return None
    part = next((p for p in piece.parts if p.sounds), None)
    if part is None:
        raise FirnError("This piece has no sounds.")
    return part


def _score(writer: Callable[..., Written]) -> Callable[[Piece, How], Written]:
    def write(piece: Piece, how: How) -> Written:
        return writer(score_of(piece, _chosen(piece, how), tempo=how.tempo))

    return write


def _csv(piece: Piece, how: How) -> Written:
    if how.part:
        _chosen(piece, how)
    rows = [row for row in sounds_data(piece)["sounds"] if how.part in ("", row["part"])]
    return Written(table_text(rows, SOUNDS_COLUMNS).encode("utf-8"))


def _json(piece: Piece, how: How) -> Written:
    data = sounds_data(piece)
    if how.part:
        _chosen(piece, how)
        data = {**data, "sounds": [row for row in data["sounds"] if row["part"] == how.part],
                "parts": [row for row in data["parts"] if row["part"] == how.part]}  # fmt: skip
    return Written((json.dumps(data, indent=1, ensure_ascii=False) + "\n").encode("utf-8"))


def stretch_of(piece: Piece, part: Part | None) -> Stretch:
    """A part, or the combo for None, to be danced; raises FirnError where there is nothing in it."""
    stretch = part_stretch(part) if part is not None else combo_stretch(piece, unfold(piece))
    if not stretch.sounds:
        raise FirnError("There is nothing to hear: it has no steps yet.")
    return stretch


def section_of(stretch: Stretch, piece: Piece, how: How) -> Section:
    """What is heard: once through after its count-in."""
    led = piece.settings.count_in if piece.settings.count_in.pattern != "none" else CountIn()
    mixing = Mixing(
        how.tempo or float(piece.settings.tempo), led, counts=how.counts, beats=how.beats, led_in=how.music,
        music=how.music,
    )  # fmt: skip
    return Section(stretch.sounds, stretch.counting, stretch.first, stretch.end, mixing)


def on_a_ladder(
    here: Stretch, piece: Piece, how: How, steps: Sequence[Rung], *, rest: int
) -> list[tuple[Stretch, Section]]:
    """A stretch on each rung, with its section: where a rung says so, as on the other side."""
    other = across(here)
    climb = climbed(steps, section_of(here, piece, how), section_of(other, piece, how), rest=rest)
    return [(other if rung.swapped else here, one) for rung, one in zip(steps, climb.sections, strict=True)]


def _sound(ending: str) -> Callable[[Piece, How], Written]:
    def write(piece: Piece, how: How) -> Written:
        import soundfile

        from firn.core.sound.model import render_blocks
        from firn.core.sound.voices import RATE

        kind, coded = SOUND[ending]
        out = io.BytesIO()
        timeline = Timeline((section_of(stretch_of(piece, _chosen(piece, how)), piece, how),))
        with soundfile.SoundFile(out, "w", RATE, 2, subtype=coded, format=kind) as file:
            for block in render_blocks(timeline):
                file.write(block)
        return Written(out.getvalue())

    return write


WRITERS: Mapping[str, Callable[[Piece, How], Written]] = {
    ".mid": _score(write_midi),
    ".musicxml": _score(write_musicxml),
    ".abc": _score(write_abc),
    ".csv": _csv,
    ".json": _json,
    **{ending: _sound(ending) for ending in SOUND},
}
"""What a piece is written as, by the endings of names."""


def calendar(days: Sequence[Day], name: str, *, at: str = "18:00") -> bytes:
    """A practice as a calendar (RFC 5545): an entry a day that is danced on, with its stages; raises FirnError."""
    from icalendar import Calendar, Event

    try:
        begins = datetime.strptime(at, "%H:%M").time()
    except ValueError as fault:
        raise FirnError(f"{at} is no time of day: write it as 18:30.") from fault
    whole = Calendar()
    whole.add("prodid", "-//Firn//Practice//EN")
    whole.add("version", "2.0")
    stamp = datetime.now(UTC)
    for day in days:
        if day.rests:
            continue
        event = Event()
        event.add("summary", f"{name}: {day.seconds / 60:.0f} minutes")
        event.add("uid", f"{day.on.isoformat()}-{crc32(name.encode()):08x}@firn")
        event.add("dtstamp", stamp)
        # Whatever the time is where she is.
        start = datetime.combine(day.on, begins)
        event.add("dtstart", start)
        event.add("dtend", datetime.fromtimestamp(start.timestamp() + day.seconds))
        lines = [f"{one.title} at {one.stage.start:g}: {one.stage.why}" for one in day.stages]
        event.add("description", "\n".join(lines))
        whole.add_component(event)
    return bytes(whole.to_ical())
