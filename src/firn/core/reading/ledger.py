"""The ledger of a combo: every pass, where it begins and how it leaves the feet and the body, and the whole."""

from collections.abc import Iterator
from fractions import Fraction

from msgspec import Struct

from firn.core.piece.piece import Piece
from firn.core.piece.unfold import Pass, Unfolded, group_names, groups_of, unfold
from firn.core.reading.feet import stance_after
from firn.core.reading.travel import Travelled, combo_travel
from firn.core.reading.walls import facings
from firn.core.tune.tune import Tune

LONG_PHRASE = 32
"""Counts that most tunes are phrased in, over the eights of a dancer."""


class Entry(Struct, frozen=True):
    """A pass: which part, which time of how many (from 1), who dances it (group, 0 for all; `who`: what that is
    called), its entry and ending.

    `side`: as the part is written, or the other. `start`: the running count that it begins on, from 1; `in_phrase`
    and `in_long`: the same within the phrase and within 32 counts; `bar`: the bar that it begins in, from 1.
    `start_s`, `seconds`: when it begins after the first count, and how long it lasts. `foot_in`: the foot that it
    begins on, `fits` whether that one is free; `foot_out`: the foot free after it. `stance_in`, `stance_out`: how the
    feet stand to each other, "" where nothing says so. `wall`: the way faced after it; `turn`: how far it turns,
    right above 0.
    `sounds`: how many are heard, `changes`: how often the weight changes. `tune`: where in the tune it begins.
    `section`: the section that begins with it.
    """

    part: str
    time: int
    of: int
    group: int
    ends: str
    side: str
    start: Fraction
    in_phrase: Fraction
    in_long: Fraction
    bar: int
    counts: int
    meter: str
    start_s: Fraction
    seconds: Fraction
    foot_in: str
    fits: bool
    foot_out: str
    stance_in: str
    stance_out: str
    wall: str
    turn: Fraction
    sounds: int
    changes: int
    tune: str = ""
    section: str = ""
    begins: str = ""
    who: str = ""


class Ledger(Struct, frozen=True):
    """All entries, group by group, and what they come to for the first.

    `pickup`: counts before the first 1 that are of no phrase; `left_over`: counts over whole phrases; `right_turns`
    and `left_turns`: how much it turns each way. `tune_left`: counts of the tune that are left over when it is danced
    as often as it goes into it; below 0 the counts that are too many.
    """

    entries: tuple[Entry, ...]
    counts: int
    phrase: int
    long: int
    pickup: int
    left_over: int
    seconds: Fraction
    sounds: int
    changes: int
    free: str
    wall: str
    right_turns: Fraction
    left_turns: Fraction
    travelled: Travelled
    tune: Tune | None = None
    tune_left: int = 0


def ledger(
    piece: Piece,
    whole: Unfolded | None = None,
    *,
    tempo: float = 0.0,
    phrase: int = 0,
    long: int = LONG_PHRASE,
    group: int | None = None,
    tune: Tune | None = None,
) -> Ledger:
    """The ledger of a piece's combo at a tempo, that of the piece where none is given.

    `phrase`: the counts of a phrase, else the piece's; `whole`: the combo unfolded, where that is at hand, as the
    first group dances it or as `group` does; of that one alone are then the entries. `tune`: what it is danced to,
    else what the piece says.
    """
    tune = tune or piece.settings.tune
    whole = whole if whole is not None else unfold(piece)
    one_count = 60 / Fraction(tempo or piece.settings.tempo).limit_denominator(1_000)
    groups = groups_of(piece.combo) if group is None else (group,)
    entries: list[Entry] = []
    for number in groups or (0,):
        danced = whole if number in (0, groups[0] if groups else 0) else unfold(piece, number)
        entries += _entries(piece, danced, number, one_count, phrase, long, tune)
    own = [e for e in entries if e.group == (groups[0] if groups else 0)]
    turns = [p.turn for p in whole.passes]
    phrase = phrase or piece.settings.counting.phrase
    pickup = pickup_of(whole.counts, phrase, whole.passes[0]) if whole.passes else 0
    return Ledger(
        tuple(entries), whole.counts, phrase, long, pickup, (whole.counts - pickup) % phrase,
        whole.counts * one_count,
        sum(e.sounds for e in own), sum(e.changes for e in own), whole.free, own[-1].wall if own else "front",
        sum((t for t in turns if t > 0), Fraction(0)), -sum((t for t in turns if t < 0), Fraction(0)),
        combo_travel(whole), tune, _tune_left(tune, whole.counts - pickup),
    )  # fmt: skip


def _tune_left(tune: Tune | None, counts: int) -> int:
    room = tune.whole_counts - (tune.starts - 1) if tune is not None else 0
    return room % counts if 0 < counts <= room else room - counts


def pickup_of(counts: int, phrase: int, first: Pass) -> int:
    """How many counts before the first 1 are of no phrase: those without which so many counts fill phrases."""
    leads = max(0, -int(first.part.first_count))
    return leads if counts % phrase and (counts - leads) % phrase == 0 else 0


def _entries(
    piece: Piece, whole: Unfolded, group: int, one_count: Fraction, phrase: int, long: int, tune: Tune | None
) -> Iterator[Entry]:
    passes = whole.passes
    if not passes:
        return
    first = _begins(passes[0])
    frees = [*(p.free for p in passes[1:]), whole.free]
    who = group_names(piece.combo).get(group, "")
    for one, free, (_, wall) in zip(passes, frees, facings(whole), strict=True):
        item, at, settings = piece.combo[one.item], _begins(one), one.part.settings
        here, place = whole.counting.here(at)
        own = [u for u in one.part.uses if not u.layer] or list(one.part.uses)
        counted_by = phrase or here.phrase
        yield Entry(
            part=one.part.name,
            time=one.time + 1,
            of=item.times,
            group=group,
            ends=item.ends_of(one.time),
            begins=item.begins_of(one.time),
            side="other side" if one.swapped else "as written",
            start=at - first + 1 if not group else at + 1,
            in_phrase=(place if not phrase else at) % counted_by + 1,
            in_long=at % long + 1,
            bar=int(place // here.meter.counts) + 1,
            counts=one.part.counts,
            meter=str(settings.meter),
            start_s=(at - first) * one_count,
            seconds=one.part.counts * one_count,
            foot_in=one.needed,
            fits=one.danceable,
            foot_out=free,
            stance_in=own[0].card.stance[0] if own and own[0].card.stance else "",
            stance_out=stance_after(own[-1]) if own else "",
            wall=wall,
            turn=one.turn,
            sounds=sum(s.heard for s in one.sounds),
            changes=sum(s.changes_weight for s in one.sounds),
            tune=_in_tune(tune, at),
            section=item.section if not one.time else "",
            who=who,
        )


def _in_tune(tune: Tune | None, place: Fraction) -> str:
    """Where in a tune a place lies: its section, which time, and the bar; "" without one."""
    if tune is None:
        return ""
    name, time, bar = tune.where(place + tune.starts - 1)
    often = sum(s.name == name for s in tune.sections)
    return f"{name}{time if often > 1 else ''} bar {bar}"


def _begins(one: Pass) -> Fraction:
    """The place of a pass's first whole count."""
    return one.offset + one.part.first_count
