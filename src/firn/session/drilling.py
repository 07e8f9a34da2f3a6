"""A drill of a piece as it is danced: what each stage shows and sounds, how long it lasts, and what the log gets."""

from collections.abc import Mapping, Sequence
from fractions import Fraction
from math import ceil, floor
from typing import NamedTuple

from msgspec import Struct
from msgspec.structs import replace

from firn.core.book.book import Book, BookPiece
from firn.core.book.log import FirstFoot, LogEntry
from firn.core.drills.ladder import LadderError, Rung, tempo_bounds
from firn.core.drills.offers import ARMS, Asked, Offer, offers, span_place, title
from firn.core.drills.run import How
from firn.core.drills.stage import (
    COMBO,
    NOT_THE_PART,
    OTHERWISE,
    Drill,
    Stage,
    StageHeard,
    StageKind,
    StageSides,
    passes,
)
from firn.core.meter.count_in import CountIn
from firn.core.meter.tempo import FASTEST, SLOWEST, TempoPath
from firn.core.piece.build import part_from
from firn.core.piece.levels import seated, simpler
from firn.core.piece.piece import Part, Piece
from firn.core.piece.sound import Sound
from firn.core.piece.unfold import unfold
from firn.core.piece.versions import VersionError
from firn.core.piece.versions import moved as later
from firn.core.script.combo_item import ComboItem
from firn.core.steps.shelf import Shelf
from firn.core.timeline.timeline import Section, Timeline
from firn.session.desk import read_in, settings_of, whole_combo
from firn.session.fresh import new_id, now
from firn.session.log import clean_tempos, side_of, step_name
from firn.session.stretch import NOTHING, Stretch, combo_stretch, cut_stretch, part_stretch
from firn.session.transport import Side, Transport, Voicing, danced
from firn.session.view import PLAIN, View


class HeardAs(NamedTuple):
    """What is heard of a stage beside its count-in: in words; counts and beats; the steps or not; every other bar of
    the beats left out; only the foot that begins; only one layer, "" for all; what is played said in its place."""

    said: str
    voicing: Voicing
    steps: bool = True
    gaps: bool = False
    one_foot: bool = False
    alone: str = ""
    voiced: bool = False


HEARD_AS: dict[StageHeard, HeardAs] = {
    "counts_beats": HeardAs("counts and beats", "counts and beats"),
    "counts": HeardAs("counts", "counts"),
    "beats": HeardAs("beats", "beats"),
    "steps": HeardAs("nothing but the steps", "steps alone"),
    "one_foot": HeardAs("counts and the foot that begins", "counts and beats", one_foot=True),
    "feet": HeardAs("counts and the feet alone", "counts and beats", alone="feet"),
    "hands": HeardAs("counts and the hands alone", "counts and beats", alone="hands"),
    "voiced": HeardAs("counts and the hands, said aloud", "counts and beats", alone="hands", voiced=True),
    "click": HeardAs("the click alone", "beats", steps=False),
    "gaps": HeardAs("a click that is silent every other bar", "beats", steps=False, gaps=True),
    "nothing": HeardAs("nothing after the count-in", "steps alone", steps=False),
    "music": HeardAs("music alone", "music", steps=False),
    "count_only": HeardAs("counts alone, no steps", "counts and beats", steps=False),
}

LADDER_FROM = 0.8
"""The share of the tempo at which a ladder begins where nothing is said."""

SLOWER = 0.8
"""The share of the tempo at which a stage goes on while it is danced slower."""


QUESTION_S = 12.0
"""So long takes a question by ear, heard and answered: a guess."""


class Planned(Struct, frozen=True):
    """A stage of a drill as it is danced: what it is called, each time in order, and what it shows; `wrong`: why it
    cannot be danced, in one sentence. `led`: the position up to which it only leads in; `bounds`: the slowest and the
    fastest that it may be danced. `asked`: the part that is asked about by ear, where nothing is danced."""

    stage: Stage
    title: str
    times: tuple[Rung, ...] = ()
    stretch: Stretch | None = None
    wrong: str = ""
    led: Fraction | None = None
    bounds: tuple[float, float] = (float(SLOWEST), float(FASTEST))
    asked: Part | None = None

    @property
    def mirrored(self) -> bool:
        """Whether it is danced as in a mirror."""
        return self.stage.kind == "mirrored"

    @property
    def cues(self) -> tuple[str, ...]:
        """The layers of cues that it is about, to be read from afar too."""
        return ARMS if self.stage.kind == "arms" else ()

    def with_times(self, times: int) -> "Planned":
        """The same with another number of times on each side; nothing is read again."""
        stage = replace(self.stage, times=times)
        return replace(self, stage=stage, times=tuple(passes(stage, self.bounds)) if self.stretch is not None else ())

    def section(
        self, rung: Rung, count_in: CountIn, view: View = PLAIN, *, slower: bool = False, call: tuple[str, ...] = ()
    ) -> Section:
        """One time through: always after a count-in, and with the rest that it ends in; `call`: what is called before
        it."""
        assert self.stretch is not None
        led = CountIn() if count_in.pattern == "none" else count_in
        tempo = max(float(SLOWEST), rung.tempo * SLOWER) if slower else rung.tempo
        heard = HEARD_AS[self.stage.heard]
        side: Side = "other side" if rung.swapped else "as written"
        stretch = _one_foot(self.stretch) if heard.one_foot else self.stretch
        stretch = replace(stretch, sounds=tuple(map(_said, stretch.sounds))) if heard.voiced else stretch
        view = view.alone(heard.alone) if heard.alone else view
        view = replace(view, mirrored=True) if self.mirrored else view
        one = danced(stretch, Transport(tempo, led, side, heard.voicing), view)
        gap = stretch.counting.meter.counts if heard.gaps else 0
        mixing = replace(one.mixing, rest=self.stage.rest, led_in=True, steps=heard.steps, gap=gap, call=call)
        return replace(one, mixing=mixing, name=self.title)

    def seconds(self, count_in: CountIn) -> float:
        """How long all of its times last, as planned."""
        if self.asked is not None:
            return self.stage.times * QUESTION_S
        if self.stretch is None or not self.times:
            return 0.0
        # The other side and another tempo have the same counts.
        one = self.section(self.times[0], count_in)
        lasts = (TempoPath.steady(rung.tempo).seconds(one.origin, one.last) for rung in self.times)
        return float(sum(lasts))


NO_VOICE: Mapping[str, str] = {}
MOST_CALLED = 2
"""So many parts are called by their names."""


class DrillPlan(Struct, frozen=True):
    """A drill as it is danced; `names` of its parts by their ids; `voiced`: the words for those that are called in
    the teacher's own voice."""

    drill: Drill
    stages: tuple[Planned, ...]
    names: Mapping[str, str]
    voiced: Mapping[str, str] = NO_VOICE

    @property
    def times(self) -> list[tuple[Rung, ...]]:
        """The times of each stage."""
        return [one.times for one in self.stages]

    def call(self, stage: int) -> tuple[str, ...]:
        """What is called before a stage: its parts, where others are danced than in the one before it."""
        here = self.stages[stage]
        before = next((one for one in reversed(self.stages[:stage]) if one.times), None)
        if before is None or before.stage.parts == here.stage.parts:
            return ()
        # What sounds is not needed to see a drill.
        from firn.core.sound.spoken import called

        parts = here.stage.parts[-1:] if here.stage.lead_in else here.stage.parts
        # Of many parts the names would take longer than the rest.
        if len(parts) > MOST_CALLED:
            return (called(""),)
        names = [self.names.get(part, "") if part != COMBO else "whole" for part in parts]
        return tuple(self.voiced.get(part) or called(name) for part, name in zip(parts, names, strict=True))


def drill_timeline(made: DrillPlan, count_in: CountIn) -> Timeline:
    """A drill as planned, each time of each stage in order; raises LadderError where none can be danced."""
    sections = tuple(
        one.section(rung, count_in, call=() if number else made.call(stage))
        for stage, one in enumerate(made.stages)
        if one.stretch is not None
        for number, rung in enumerate(one.times)
    )
    if not sections:
        nothing = "There is no stage in this drill." if not made.stages else "Nothing is danced in this drill."
        raise LadderError(next((one.wrong for one in made.stages if one.wrong), nothing))
    return Timeline(sections)


def names_of(piece: BookPiece) -> dict[str, str]:
    """The names of a piece's parts by their ids."""
    return {COMBO: "Combo", **{part.id: part.name for part in piece.parts}}


def plan(piece: BookPiece, drill: Drill, shelf: Shelf, voiced: Mapping[str, str] = NO_VOICE) -> DrillPlan:
    """A drill with every stage read as its piece is now; `voiced`: words for parts in the teacher's own voice."""
    return DrillPlan(drill, tuple(planned(piece, stage, shelf) for stage in drill.stages), names_of(piece), voiced)


def planned(piece: BookPiece, stage: Stage, shelf: Shelf) -> Planned:
    """One stage as it is danced; what cannot be is said in it."""
    called = title(stage, names_of(piece))
    try:
        stretch, parts, led = _stretch(piece, stage, shelf)
        bounds = (
            max([float(SLOWEST), *(tempo_bounds(p)[0] for p in parts)]),
            min([float(FASTEST), *(tempo_bounds(p)[1] for p in parts)]),
        )
        if stage.kind == "ear":
            # All of its questions are one time.
            one = passes(replace(stage, times=1), bounds)
            return Planned(stage, called, tuple(one), bounds=bounds, asked=parts[0])
        return Planned(stage, called, tuple(passes(stage, bounds)), stretch, led=led, bounds=bounds)
    except LadderError as fault:
        return Planned(stage, called, wrong=str(fault))


def _as_danced(part: Part, kind: StageKind) -> Part:
    """A part as a stage of a kind dances it; raises LadderError where it cannot be danced so."""
    if kind not in OTHERWISE:
        return part
    try:
        made = later(part, Fraction(1)) if kind == "on_two" else (seated if kind == "seated" else simpler)(part)
    except VersionError as fault:
        raise LadderError(str(fault)) from fault
    return part_from(part.name, made.text, part.settings, part.script.shelf)


def _stretch(piece: BookPiece, stage: Stage, shelf: Shelf) -> tuple[Stretch, list[Part], Fraction | None]:
    """What a stage shows and dances, the parts in it, and where what leads in ends; raises LadderError."""
    if stage.parts == (COMBO,):
        read, whole, _ = whole_combo(piece, shelf)
        if not whole.passes:
            raise LadderError("There is nothing in the combo yet.")
        return combo_stretch(read, whole), [p.part for p in whole.passes], None
    parts = []
    for part_id in stage.parts:
        kept = piece.part(part_id)
        if kept is None:
            raise LadderError("A part of this stage is gone: leave the stage out, or bring the part back.")
        part = read_in(piece, kept, kept.text, shelf)
        if not part.sounds:
            raise LadderError(f"There are no steps in {part.name} yet.")
        parts.append(_as_danced(part, stage.kind))
    if len(parts) == 1:
        stretch, span = part_stretch(parts[0]), span_place(stage)
        if span is not None:
            first, end = max(span[0], stretch.first), min(span[1], stretch.end)
            if first >= end:
                raise LadderError(f"{parts[0].name} has become shorter: its counts of this stage are gone.")
            stretch = cut_stretch(stretch, first, end)
        return _first_sounds(stretch, stage.sounds) if stage.sounds else stretch, parts, None
    joined = Piece(settings_of(piece.head), tuple(parts), tuple(ComboItem(p.name) for p in parts), ())
    whole = unfold(joined)
    stretch, led = combo_stretch(joined, whole), None
    if stage.lead_in and len(whole.passes) > 1:
        led = whole.passes[-1].offset + whole.passes[-1].part.first_count
        stretch = cut_stretch(stretch, max(stretch.first, led - stage.lead_in), stretch.end)
    return stretch, parts, led


def _first_sounds(stretch: Stretch, many: int) -> Stretch:
    """Its first so many sounds, what sounds at once counted once, up to the end of their last count."""
    moments = sorted({s.position for s in stretch.sounds if s.heard})
    if many >= len(moments):
        return stretch
    last = moments[many - 1]
    short = cut_stretch(stretch, stretch.first, Fraction(last // 1 + 1))
    kept = tuple(s for s in short.sounds if s.position <= last)
    # What is written over sounds is by their number: it stays where these come first.
    words = tuple(word for word in short.words if word[0] < len(kept)) if short.sounds[: len(kept)] == kept else ()
    return replace(short, sounds=kept, words=words, beside=NOTHING)


def _said(sound: Sound) -> Sound:
    """A sound of the hands as it is said in place of being played."""
    return replace(sound, voiced=True) if sound.hand else sound


def _one_foot(stretch: Stretch) -> Stretch:
    """Only the foot that begins; the counts of the others stay."""
    first = next((s.foot for s in stretch.sounds if s.foot in ("left", "right")), "")
    alone = tuple(s for s in stretch.sounds if s.foot == first and not s.hand)
    return replace(stretch, sounds=alone, words=(), beside=NOTHING)


# What is offered


def offered(book: Book, piece: BookPiece, part_id: str, shelf: Shelf, tempo: float) -> list[Offer]:
    """The stages that fit a part, each with its reason; none for one without steps, or the combo."""
    kept = piece.part(part_id)
    if kept is None:
        return []
    read, _, _ = whole_combo(piece, shelf)
    part = read_in(piece, kept, kept.text, shelf)
    ids = {p.name: p.id for p in piece.parts}
    asked = Asked(read, part, ids, tempo, clean_tempos(book, part_id), _home_of(book, piece, part_id, tempo))
    global _last
    if _last is None or not _the_same(_last[0], asked):
        _last = asked, offers(asked)
    return list(_last[1])


_last: tuple[Asked, list[Offer]] | None = None
"""What was last asked, and the offers: a page that is turned to and written on shows them several times."""


def _the_same(one: Asked, other: Asked) -> bool:
    """Whether two ask for the same, of the very same part."""
    alike = one.piece is other.piece and one.part is other.part
    return alike and replace(one, piece=other.piece, part=other.part) == other


def _home_of(book: Book, piece: BookPiece, part_id: str, tempo: float) -> str:
    """Another part of a piece that is clean at a tempo on every side on which it was danced; "" for none."""
    slowest = {
        part.id: min((t for _, t in clean_tempos(book, part.id)), default=0.0)
        for part in piece.parts if part.id != part_id
    }  # fmt: skip
    return next((key for key, at in sorted(slowest.items(), key=lambda kept: -kept[1]) if at >= tempo), "")


def ladder_stage(part_id: str, tempo: float, chosen: tuple[Fraction, Fraction] | None) -> Stage:
    """A ladder up to a tempo, of a part, of the counts of it that are chosen, or of the combo."""
    span = (floor(chosen[0]), ceil(chosen[1])) if chosen is not None and part_id != COMBO else None
    start = float(max(SLOWEST, round(tempo * LADDER_FROM)))
    sides: StageSides = "as written" if part_id == COMBO else "both sides"
    return Stage("ladder", (part_id,), span, start, tempo, 4, sides, times=2)


def ladder_of(drills: Sequence[Drill], stage: Stage) -> Drill | None:
    """A drill that is nothing but a ladder of the same."""
    alone = (d for d in drills if len(d.stages) == 1 and d.stages[0].kind == "ladder")
    return next((d for d in alone if (d.stages[0].parts, d.stages[0].span) == (stage.parts, stage.span)), None)


def first_drill(piece: BookPiece, found: Sequence[Offer], name: str) -> Drill:
    """A drill of the first three stages that fit."""
    return Drill(new_id(), piece.id, name, tuple(stage for offer in found[:3] for stage in offer.stages))


def free_drill_name(drills: Sequence[Drill], wanted: str) -> str:
    """A name for a new drill, with a number where it is taken."""
    taken = {d.name.casefold() for d in drills}
    names = (wanted, *(f"{wanted} {n}" for n in range(2, len(drills) + 3)))
    return next(n for n in names if n.casefold() not in taken)


# What the log gets


def danced_side(piece: BookPiece, one: Planned, rung: Rung) -> FirstFoot:
    """The foot with which a time of a stage begins."""
    first = next((s.foot for s in one.stretch.sounds if s.foot in ("left", "right")), "") if one.stretch else ""
    return side_of(first or settings_of(piece.head).lead, swapped=rung.swapped != one.mirrored)


def entry_of(
    piece: BookPiece, one: Planned, rung: Rung, how: How, last: LogEntry | None, *, slower: bool
) -> LogEntry:
    """What the log gets of a time: as the part where all of it was danced, else as what was."""
    stage = one.stage
    all_of_it = len(stage.parts) == 1 and stage.span is None and stage.parts != (COMBO,)
    whole = all_of_it and stage.heard != "count_only" and stage.kind not in NOT_THE_PART
    names = names_of(piece)
    name = names.get(stage.parts[0], "") if whole else one.title
    tempo = round(rung.tempo * SLOWER, 1) if slower else rung.tempo
    return LogEntry(
        new_id(), now(), step_name(piece, name), stage.parts[0] if whole else "",
        danced_side(piece, one, rung), tempo, how,
        shoes=last.shoes if last else "", floor=last.floor if last else "", source="drill",
    )  # fmt: skip
