"""Parts and combos as scores, and scores of other programs as parts."""

from collections.abc import Sequence
from fractions import Fraction
from pathlib import Path

from msgspec import Struct
from msgspec.structs import replace

from firn.core.meter.feel import parse_feel
from firn.core.meter.meter import Meter
from firn.core.piece.piece import Part, Piece
from firn.core.piece.unfold import unfold
from firn.core.score.score import Score
from firn.core.script.settings import Settings, write_settings
from firn.core.steps.kinds import kind_said
from firn.core.steps.shelf import Shelf
from firn.core.tune.tune import MOST_COUNTS
from firn.errors import FirnError
from firn.files.audio import LONG_S
from firn.files.known import ending_of
from firn.files.tunes import MIDI_ENDINGS, MOST_MIDI, read_midi, read_rhythm
from firn.files.whole import read_whole
from firn.session.stretch import Stretch, combo_stretch, part_stretch
from firn.session.tap_script import Tap, script_at, script_of
from firn.session.tapping import MOST, kept_taps, readings


def score_of(piece: Piece, part: Part | None, *, tempo: float = 0.0) -> Score:
    """The score of a part, or of the combo for None; raises FirnError where there is nothing in it."""
    stretch = part_stretch(part) if part is not None else combo_stretch(piece, unfold(piece))
    if not stretch.sounds:
        raise FirnError("There is nothing to write: it has no steps yet.")
    return score_of_stretch(piece, stretch, part.name if part is not None else "", tempo=tempo)


def score_of_stretch(piece: Piece, stretch: Stretch, name: str, *, tempo: float = 0.0) -> Score:
    """A stretch of a piece as a score; raises FirnError where it is too long for one."""
    long = stretch.end - stretch.first
    if long > MOST_COUNTS:
        raise FirnError(f"A score has up to {MOST_COUNTS:,} counts: this has {int(long):,}. Write it part by part.")
    sections = stretch.titles or (((stretch.first, name),) if name else ())
    title = f"{piece.settings.name}, {name}" if name else piece.settings.name
    return Score(
        title, stretch.sounds, stretch.words, stretch.counting, stretch.first, Fraction(stretch.end),
        tempo or float(piece.settings.tempo), piece.settings.lead, tuple(sections),
    )  # fmt: skip


class Brought(Struct, frozen=True):
    """A score of another program as the text of a piece, and what it could not say."""

    text: str
    told: tuple[str, ...] = ()


def piece_of_score(path: Path, shelf: Shelf, notes: Sequence[int] = ()) -> Brought:
    """The piece in a MIDI, MusicXML or ABC file: Firn's own MIDI with feet and kinds, any other as its rhythm, each
    sound a step. Raises FirnError with one sentence."""
    if ending_of(path) in MIDI_ENDINGS and not notes:
        own = _own(path, shelf)
        if own is not None:
            return own
    rhythm = read_rhythm(path, notes)
    span = float(rhythm.places[-1] - rhythm.places[0])
    if span > MOST_COUNTS or len(rhythm.places) > MOST:
        raise FirnError(f"{path.name} is longer than a part may be: {MOST_COUNTS} counts, {MOST} sounds.")
    settings = _settings(rhythm.name, rhythm.meter, rhythm.tempo, rhythm.feel)
    told = ("Which foot, and what part of it, no such file says: each sound is a step.",)
    if rhythm.loose:
        tempo = rhythm.tempo or float(settings.tempo)
        if span * 60 / tempo > LONG_S:
            raise FirnError(f"{path.name} was played by hand for more than ten minutes: give a stretch of it.")
        taps = kept_taps([Tap(float(place) * 60 / tempo) for place in rhythm.places])
        script = script_of(taps, readings(taps, settings.meter, tempo)[0], settings, shelf)
        return Brought(_text(settings, script), (*told, "It was played by hand: its sounds are laid on counts."))
    taps = [Tap(float(place)) for place in rhythm.places]
    return Brought(_text(settings, script_at(taps, rhythm.places, settings, shelf)), told)


def _settings(name: str, meter: Meter, tempo: float, feel: str = "") -> Settings:
    settings = Settings(name=_plain(name), meter=meter, tempo=round(tempo) or 120)
    return replace(settings, feel=feel) if feel and parse_feel(feel) is not None else settings


def _plain(name: str) -> str:
    return " ".join("".join(" " if c in ",:#\n" else c for c in name).split())[:60] or "Untitled"


def _text(settings: Settings, script: str) -> str:
    return f"{write_settings(settings)}\npart A\n{script}\n"


def _own(path: Path, shelf: Shelf) -> Brought | None:
    """What Firn itself wrote as MIDI, sound by sound; None for any other."""
    file = read_midi(read_whole(path, "a score", MOST_MIDI), path.name)
    found: list[tuple[Fraction, dict[str, str]]] = []
    for _, _, message in file.messages:
        if message.type == "text" and message.text.startswith("kind="):
            said = dict(one.split("=", 1) for one in message.text.split(" ") if "=" in one)
            try:
                found.append((Fraction(said["place"]), said))
            except (KeyError, ValueError, ZeroDivisionError):
                continue
    if not found:
        return None
    found.sort(key=lambda one: one[0])
    feel = next(
        (m.text.split("=", 1)[1] for _, m in file.meta if m.type == "text" and m.text.startswith("feel=")), ""
    )
    settings = _settings(file.title, file.meter, file.counts_a_minute, feel)
    taps = [Tap(float(place), _word(said), said.get("foot", "") if said.get("foot") != "both" else "both")
            for place, said in found]  # fmt: skip
    script = script_at(taps, [place for place, _ in found], settings, shelf)
    return Brought(_text(settings, script), ("Words are read as their sounds.",))


def _word(said: dict[str, str]) -> str:
    """A sound as it is written: its kind, how loud, how long, how far it turns."""
    word = kind_said(said["kind"])
    level = int(said["level"]) if said.get("level", "").lstrip("-").isdecimal() else 0
    return word + ("!" if level > 0 else "~" if level < 0 else "")
