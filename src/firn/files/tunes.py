"""Tunes read from files: ABC text, MIDI, and MusicXML, plain or zipped."""

import io
import zipfile
from collections.abc import Iterator, Sequence
from fractions import Fraction
from pathlib import Path
from typing import TYPE_CHECKING, Any, NamedTuple

from firn.core.meter.meter import Meter, parse_meter
from firn.core.tune.abc import read_abc, rhythm_of_abc
from firn.core.tune.repeats import Mark, Measure, mark_of, name_sections, places_of, played_of
from firn.core.tune.tune import Rhythm, Tune, TuneError, merged
from firn.errors import FirnError
from firn.files.formats import TUNE_ENDINGS
from firn.files.known import ending_of
from firn.files.whole import read_text, read_whole

if TYPE_CHECKING:
    from xml.etree.ElementTree import Element

MOST_BYTES = 8_000_000
MOST_MIDI = 400_000
"""Bytes of a MIDI file: some 130,000 events, which take a second or two to be read."""
MIDI_ENDINGS = (".mid", ".midi")
MOST_UNPACKED = 32_000_000
MOST_MEASURES = 20_000


def read_tune(path: Path) -> Tune:
    """The tune in a file; raises FirnError with one sentence for one that is none."""
    ending = ending_of(path)
    if ending == ".abc":
        return read_abc(read_text(path, "a tune", MOST_BYTES), path.name)
    data = read_whole(path, "a tune", MOST_MIDI if ending in MIDI_ENDINGS else MOST_BYTES)
    if ending in MIDI_ENDINGS:
        return _midi(data, path.name)
    if ending in (".musicxml", ".xml", ".mxl"):
        return _musicxml(_unpacked(data, path.name), path.name).tune(path.name)
    raise TuneError(f"{path.name} is no tune that Firn can read: {', '.join(TUNE_ENDINGS)}.")


def read_rhythm(path: Path, notes: Sequence[int] = ()) -> Rhythm:
    """The rhythm in a file, as it is played; of MIDI the keys that are named, else all of its
    percussion, else all of its first track that sounds. Raises FirnError with one sentence."""
    ending = ending_of(path)
    if ending == ".abc":
        return rhythm_of_abc(read_text(path, "a rhythm", MOST_BYTES), path.name)
    data = read_whole(path, "a rhythm", MOST_MIDI if ending in MIDI_ENDINGS else MOST_BYTES)
    if ending in MIDI_ENDINGS:
        return _midi_rhythm(data, path.name, frozenset(notes))
    if ending in (".musicxml", ".xml", ".mxl"):
        return _musicxml(_unpacked(data, path.name), path.name).rhythm(path.name)
    raise TuneError(f"{path.name} is no rhythm that Firn can read: {', '.join(TUNE_ENDINGS)}.")


def tunes_in(folder: Path) -> Iterator[tuple[str, Tune | FirnError]]:
    """Each tune of a folder by the name of its file, in order; why one cannot be read in its place."""
    try:
        paths = sorted(path for path in folder.iterdir() if path.suffix.casefold() in TUNE_ENDINGS)
    except OSError as fault:
        raise TuneError(f"{folder} cannot be read: {fault.strerror}.") from fault
    for path in paths:
        try:
            yield path.name, read_tune(path)
        except FirnError as fault:
            yield path.name, fault


# MIDI


class _Midi(NamedTuple):
    """A MIDI file: pulses a quarter; each message with its track and pulse; its first meter, and microseconds a
    quarter."""

    quarter: int
    messages: list[tuple[int, int, Any]]
    meter: Meter
    tempo: int
    title: str

    @property
    def meta(self) -> list[tuple[int, Any]]:
        """Every message with its pulse."""
        return [(tick, message) for _, tick, message in self.messages]

    @property
    def beat(self) -> Fraction:
        """How many quarters a count lasts."""
        return Fraction(12 if self.meter.compound else 4, self.meter.unit)

    @property
    def counts_a_minute(self) -> float:
        """The tempo."""
        return float(Fraction(60_000_000, self.tempo) / self.beat)


def read_midi(data: bytes, name: str) -> _Midi:
    """A MIDI file's messages; raises TuneError for what is none."""
    import mido

    try:
        file = mido.MidiFile(file=io.BytesIO(data), clip=True)
        quarter = int(file.ticks_per_beat)
        messages = list(_messages(file))
    except Exception as fault:
        # The library raises what its parsing happens on: OSError, EOFError, IndexError, KeyError, ValueError.
        raise TuneError(f"{name} is no MIDI file that can be read.") from fault
    if not 0 < quarter < 0x8000:
        raise TuneError(f"{name} counts its time in frames, which Firn does not read.")
    meter = _longest_meter(messages) or Meter(4, 4)
    tempo = next((m.tempo for _, _, m in messages if m.type == "set_tempo"), 500_000)
    title = next((m.name.strip() for _, _, m in messages if m.type == "track_name" and m.name.strip()), name)
    return _Midi(quarter, messages, meter, tempo, title[:80])


def _longest_meter(messages: Sequence[tuple[int, int, Any]]) -> Meter | None:
    """The meter that holds for longest: what leads up to the first bar may be a bar of its own, as short as it is."""
    said = sorted(((t, m) for _, t, m in messages if m.type == "time_signature"), key=lambda one: one[0])
    ends = [tick for tick, _ in said[1:]] + [max((tick for _, tick, _ in messages), default=0)]
    lasts: dict[str, int] = {}
    for (tick, m), end in zip(said, ends, strict=False):
        name = f"{m.numerator}/{m.denominator}"
        lasts[name] = lasts.get(name, 0) + end - tick
    return parse_meter(max(lasts, key=lambda name: lasts[name])) if lasts else None


def _midi(data: bytes, name: str) -> Tune:
    """A MIDI file: its longest meter, its first tempo, its markers as sections, the bars up to its last sound."""
    file = read_midi(data, name)
    meta = file.meta
    last = max((tick for tick, message in meta if message.type == "note_off" or message.type == "note_on"), default=0)
    bars = _bars(meta, file.quarter, last)
    if len(bars) > MOST_MEASURES:
        raise TuneError(f"A tune has {MOST_MEASURES} bars at most.")
    marks = [(tick, m.text.strip()[:20]) for tick, m in meta if m.type == "marker" and m.text.strip()]
    played: list[tuple[str, Fraction]] = []
    section = "A"
    for begins, ends, counts in bars:
        named = [text for tick, text in marks if begins <= tick < ends]
        if named:
            played.append(("", Fraction(0)))
            section = named[-1]
        played.append((section, Fraction(counts)))
    return merged(file.title, file.meter, played, file.counts_a_minute, Fraction(0))


PERCUSSION = 9
GRID = 48
"""What lies on no forty-eighth of a count was played by hand."""


def _midi_rhythm(data: bytes, name: str, notes: frozenset[int]) -> Rhythm:
    file = read_midi(data, name)
    struck = [
        (track, tick, m) for track, tick, m in file.messages if m.type == "note_on" and m.velocity > 0
        and (not notes or m.note in notes)
    ]  # fmt: skip
    drums = [one for one in struck if one[2].channel == PERCUSSION]
    chosen = struck if notes else drums or [one for one in struck if one[0] == struck[0][0]]
    if not chosen:
        raise TuneError(f"There is no rhythm in {name}.")
    places = sorted({Fraction(tick, file.quarter) / file.beat for _, tick, _ in chosen})
    loose = any((place * GRID).denominator != 1 for place in places)
    return Rhythm(file.title, file.meter, tuple(places), file.counts_a_minute, loose=loose)


def _bars(meta: Sequence[tuple[int, Any]], quarter: int, last: int) -> list[tuple[Fraction, Fraction, int]]:
    """The bars up to a tick, each from where to where and with how many counts, by the meters that are said."""
    said = sorted(((t, m) for t, m in meta if m.type == "time_signature"), key=lambda one: one[0])
    at, meter = Fraction(0), Meter(4, 4)
    bars: list[tuple[Fraction, Fraction, int]] = []
    while at < last and len(bars) <= MOST_MEASURES:
        while said and said[0][0] <= at:
            _, message = said.pop(0)
            meter = parse_meter(f"{message.numerator}/{message.denominator}") or meter
        end = at + Fraction(meter.beats * 4, meter.unit) * quarter
        bars.append((at, end, meter.counts))
        at = end
    return bars


def _messages(file: Any) -> Iterator[tuple[int, int, Any]]:
    """Every message with its track and its time in ticks."""
    for number, track in enumerate(file.tracks):
        at = 0
        for message in track:
            at += int(message.time)
            yield number, at, message


# MusicXML

SOUNDS: tuple[tuple[str, Mark], ...] = (
    ("dacapo", "da capo"), ("dalsegno", "dal segno"), ("fine", "fine"), ("tocoda", "to coda"),
)  # fmt: skip
"""What a `sound` says of where to go on, by the name of its attribute (MusicXML 4.0)."""


def _unpacked(data: bytes, name: str) -> bytes:
    """The score of a zipped MusicXML file, or the data as they are; never more than a limit is unpacked."""
    if not data.startswith(b"PK"):
        return data
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as pack:
            inside = [i for i in pack.infolist() if i.filename.casefold().endswith((".xml", ".musicxml"))]
            scores = [i for i in inside if not i.filename.startswith("META-INF")]
            if not scores:
                raise TuneError(f"There is no score in {name}.")
            with pack.open(scores[0]) as score:
                unpacked = score.read(MOST_UNPACKED + 1)
    except (zipfile.BadZipFile, OSError, RuntimeError, NotImplementedError, EOFError, ValueError) as fault:
        raise TuneError(f"{name} is a zip that cannot be read.") from fault
    if len(unpacked) > MOST_UNPACKED:
        raise TuneError(f"{name} unpacks to more than {MOST_UNPACKED // 1_000_000} MB.")
    return unpacked


class _Measured(NamedTuple):
    """A part of a MusicXML score: what it is called, its meter, quarters a minute, its measures (in quarters), and
    what is said of its swing."""

    title: str
    meter: Meter
    tempo: float
    measures: list[Measure]
    feel: str = ""

    @property
    def beat(self) -> Fraction:
        """How many quarters a count lasts."""
        return Fraction(12 if self.meter.compound else 4, self.meter.unit)

    def tune(self, name: str) -> Tune:
        """Its measures as they are played, repeats and endings carried out."""
        measures, count = self.measures, self.beat
        name_sections(measures)
        played = [(said, length / count) for said, length in played_of(measures)]
        first = measures[0].length / count if measures else Fraction(0)
        pickup = first if first < self.meter.counts and len(measures) > 1 else Fraction(0)
        # The tempo of a sound is in quarters a minute.
        return merged(self.title or name, self.meter, played, float(Fraction(self.tempo) / count), pickup)

    def rhythm(self, name: str) -> Rhythm:
        """Where it sounds, as it is played, repeats and endings carried out."""
        if not any(m.onsets for m in self.measures):
            raise TuneError(f"There is no rhythm in {name}.")
        places = places_of(self.measures, self.beat * self.meter.counts, self.beat)
        return Rhythm(self.title or name, self.meter, places, float(Fraction(self.tempo) / self.beat), self.feel)


def _musicxml(data: bytes, name: str) -> _Measured:
    """The first part of a MusicXML score."""
    from defusedxml import ElementTree
    from defusedxml.common import DefusedXmlException

    try:
        root = ElementTree.fromstring(data)
    except (ElementTree.ParseError, DefusedXmlException, ValueError, LookupError, RecursionError) as fault:
        raise TuneError(f"{name} is no MusicXML that can be read.") from fault
    part = root.find("part")
    if root.tag != "score-partwise" or part is None:
        raise TuneError(f"{name} is no score in parts (score-partwise).")
    bars = part.findall("measure")
    if len(bars) > MOST_MEASURES:
        raise TuneError(f"A tune has {MOST_MEASURES} bars at most.")
    try:
        return _measured(root, bars)
    except (ValueError, ZeroDivisionError, OverflowError) as fault:
        raise TuneError(f"{name} holds a number that is none.") from fault


def _measured(root: "Element", bars: "Sequence[Element]") -> _Measured:
    meter: Meter | None = None
    divisions = Fraction(1)
    tempo = 0.0
    rehearsed = root.find(".//rehearsal") is not None
    section = ""
    measures: list[Measure] = []
    ending: tuple[int, ...] = ()
    for bar in bars:
        if (text := bar.findtext("attributes/divisions")) is not None:
            divisions = Fraction(text.strip()[:12])
        beats, unit = bar.findtext("attributes/time/beats"), bar.findtext("attributes/time/beat-type")
        if meter is None and beats and unit:
            meter = parse_meter(f"{beats.strip()}/{unit.strip()}")
        if not tempo and (sound := next((s for s in bar.iter("sound") if s.get("tempo")), None)) is not None:
            tempo = float(sound.get("tempo", "0"))
        mark = next((r.text.strip() for r in bar.iter("rehearsal") if r.text and r.text.strip()), "")
        section = (mark[:20] or section or "A") if rehearsed else ""
        lines = bar.findall("barline")
        repeats = [r for line in lines for r in line.findall("repeat")]
        closes = next((r for r in repeats if r.get("direction") == "backward"), None)
        brackets = [e for line in lines for e in line.findall("ending")]
        for one in (e for e in brackets if e.get("type") == "start"):
            ending = tuple(int(n) for n in one.get("number", "1").replace(",", " ").split()[:8])
        measures.append(
            Measure(
                _sounded(bar) / divisions,
                section,
                any(r.get("direction") == "forward" for r in repeats),
                min(16, int(closes.get("times", "2"))) if closes is not None else 1,
                ending,
                any((line.findtext("bar-style") or "").strip() in ("light-light", "light-heavy") for line in lines),
                tuple(at / divisions for at in _onsets(bar)),
                frozenset(_marks(bar)),
            )
        )
        if any(e.get("type") in ("stop", "discontinue") for e in brackets):
            ending = ()
    title = root.findtext("work/work-title") or root.findtext("movement-title") or ""
    swing = next(root.iter("swing"), None)
    ratio = (swing.findtext("first"), swing.findtext("second")) if swing is not None else ("", "")
    feel = f"{ratio[0]}:{ratio[1]}" if all(ratio) else ""
    measures = [m for m in measures if m.length]
    return _Measured(" ".join(title.split())[:80], meter or Meter(4, 4), tempo, measures, feel)


def _marks(bar: "Element") -> Iterator[Mark]:
    """What a measure says of where to go on, by its signs, its words, or what its sounds do."""
    begun = False
    for one in bar:
        begun = begun or one.tag == "note"
        for part in one.iter():
            if part.tag == "sound":
                yield from (mark for name, mark in SOUNDS if part.get(name, "no") != "no")
            said = part.tag if part.tag in ("segno", "coda") else part.text if part.tag == "words" else ""
            mark = mark_of(said or "")
            if mark is not None:
                yield "coda after" if mark == "coda" and begun else mark


def _onsets(bar: "Element") -> list[Fraction]:
    """Where in a measure a note of any voice begins, in divisions; one that is tied to the one before does not."""
    at = Fraction(0)
    found = []
    for one in bar:
        if one.tag not in ("note", "forward", "backup") or one.find("grace") is not None:
            continue
        long = Fraction((one.findtext("duration") or "0").strip()[:12])
        tied = any(t.get("type") == "stop" for t in one.findall("tie"))
        if one.tag == "note" and one.find("chord") is None and one.find("rest") is None and not tied:
            found.append(at)
        if one.find("chord") is None:
            at += -long if one.tag == "backup" else long
    return sorted(set(found))


def _sounded(bar: "Element") -> Fraction:
    """How long a measure is, in divisions: as far as what goes on forward in it reaches."""
    at = far = Fraction(0)
    for one in bar:
        if one.tag not in ("note", "forward", "backup"):
            continue
        if one.find("grace") is not None or one.find("chord") is not None:
            continue
        long = Fraction((one.findtext("duration") or "0").strip()[:12])
        at += -long if one.tag == "backup" else long
        far = max(far, at)
    return far
