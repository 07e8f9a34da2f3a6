"""The joins of a combo: does every pass begin on a foot that is free, do its endings fit, and how long is it all."""

from collections.abc import Callable, Iterator
from itertools import groupby, pairwise

from msgspec.structs import replace

from firn.core.piece.over import over_fault
from firn.core.piece.piece import Part, Piece
from firn.core.piece.sound import Sound
from firn.core.piece.unfold import (
    Pass,
    Unfolded,
    ending_fault,
    ending_open,
    entry_fault,
    unfold,
    with_ending,
)
from firn.core.reading.feet import stance_clash, stance_values
from firn.core.reading.finding import Finding, MendText, Value
from firn.core.reading.ledger import pickup_of
from firn.core.script.changes import Change
from firn.core.script.combo_item import is_between, ordinal
from firn.core.script.places import Use
from firn.core.steps.kinds import WITH_WEIGHT, WITHOUT_WEIGHT, kind_said

_NO_STEP = "It names no step."


def endings(piece: Piece) -> list[Finding]:
    """A finding for each entry and ending that cannot be read, or has no place in its part."""
    found = []
    for item in dict.fromkeys(piece.combo):
        part = piece.part(item.part)
        if is_between(item.part):
            fault = part.problems[0].message if part and part.problems else "" if part and part.sounds else _NO_STEP
            if fault:
                found.append(Finding("between", "look", "combo", values={"part": item.part, "fault": fault}))
        for across in item.across:
            if fault := over_fault(piece, across):
                over: dict[str, Value] = {"layer": across.layer, "fault": fault}
                found.append(Finding("over", "look", "combo", values=over))
        said = [("ends", item.ends), ("last time", item.last_ends)]
        said += [(f"{ordinal(time)} time", ends) for time, ends in item.time_ends]
        for which, begins in (("begins", item.begins), ("first time", item.first_begins)):
            fault = entry_fault(part, begins) if part and begins else ""
            if fault:
                values: dict[str, Value] = {"part": item.part, "which": which, "fault": fault}
                found.append(Finding("entry", "look", "combo", values=values))
        for which, ends in said:
            fault = ending_fault(part, ends) if part and ends else ""
            if fault:
                values = {"part": item.part, "which": which, "fault": fault}
                found.append(Finding("ending", "look", "combo", values=values))
            elif part and ends and (places := ending_open(part, ends)):
                counting = part.settings.counting
                said_from = f"from {counting.name(places[0])}, not {counting.name(places[1])}"
                values = {"part": item.part, "which": which, "ends": ends, "from": said_from}
                found.append(Finding("ending_open", "look", "combo", values=values))
            elif part and ends and part.sounds:
                found.append(_compared(part, which, with_ending(part, ends)))
    return found


def _compared(part: Part, which: str, ended: Part) -> Finding:
    """Whether a part with another ending is as long as it is written, and leaves the same foot free."""
    said = "with this ending" if which == "ends" else which
    values: dict[str, Value] = {
        "part": part.name, "which": said, "counts": ended.counts, "free": ended.footing.free,
        "written": part.counts, "written_free": part.footing.free,
    }  # fmt: skip
    alike = ended.counts == part.counts and ended.footing.free == part.footing.free
    return Finding("ending_alike" if alike else "ending_differs", "ok", "combo", values=values)


def joins(piece: Piece, unfolded: Unfolded) -> list[Finding]:
    """A finding for each pass that cannot follow the one before it, and one for the whole."""
    found: list[Finding] = []
    for number, now in enumerate(unfolded.passes):
        if now.danceable or (number == 0 and now.part.footing.faults):
            continue
        if now.part.footing.faults:
            continue
        before = unfolded.passes[number - 1] if number else None
        values: dict[str, Value] = {
            "part": now.part.name,
            "time": now.time + 1,
            "needed": now.needed,
            "free": now.free,
            "before": before.part.name if before else "",
        }
        place = now.offset + now.part.first_count
        # Trying a mend dances the combo again: the first fault is the one to mend.
        mends = () if found or before is None else tuple(_mends(piece, number, before))
        found.append(Finding("join", "bad", "combo", place, values=values, mends=mends))
    lengths = [
        replace(one, mends=tuple(_filled(piece, unfolded))) if one.code == "combo_off_phrase" else one
        for one in _lengths(unfolded)
    ]
    return [*found, *_counts(piece, unfolded), *_stances(unfolded), *lengths]


def _counts(piece: Piece, unfolded: Unfolded) -> Iterator[Finding]:
    """Where a part does not come on the count that it is written from; each pair of parts once.

    The same part again slips where it does not fill its phrase, which its own findings tell.
    """
    found: dict[tuple[str, str], list[int]] = {}
    beside: dict[int, int] = {}
    # What is said between parts has no count of its own to come on.
    written = [(n, one) for n, one in enumerate(unfolded.passes) if not is_between(one.part.name)]
    begun = written[0][1] if written else None
    for (at, before), (number, now) in pairwise(written):
        beside[number] = at
        if before.part.name == now.part.name:
            continue
        # A part that fills no phrase comes round: six counts four times.
        whole = begun is not None and not _off(begun, now)
        begun = now
        if _off(before, now) and not whole:
            found.setdefault((before.part.name, now.part.name), []).append(number)
    for (first, then), numbers in found.items():
        before, now = unfolded.passes[beside[numbers[0]]], unfolded.passes[numbers[0]]
        off, counting = _off(before, now), now.part.settings.counting
        values: dict[str, Value] = {
            "part": then, "before": first, "from": counting.number(now.part.first_count),
            "next": counting.number(now.offset + now.part.first_count - before.offset), "counts": abs(off),
            "way": "early" if off > 0 else "late", "many": len(numbers),
        }  # fmt: skip
        place = now.offset + now.part.first_count
        # As above: the first is the one to mend.
        open_ended = not piece.combo[before.item].ends_of(before.time)
        is_first = numbers is next(iter(found.values())) and beside[numbers[0]] == numbers[0] - 1
        mends = tuple(_on_its_count(piece, numbers[0], before, off)) if is_first and open_ended else ()
        yield Finding("join_counts", "look", "combo", place, values=values, mends=mends)


def _on_its_count(piece: Piece, number: int, before: Pass, off: int) -> Iterator[MendText]:
    """The part before held for longer, or without its last counts, so that a pass comes on its count."""
    if not _steps(before.part):
        return
    ends = _lengthened(before.part, off) if off > 0 else _shortened(before.part, -off)
    last = before.part.last_count + min(0, off)
    kept = [s.kind for s in _steps(before.part) if s.place < last + 1 and s.kind != "hold"]
    first = before.part.first_count

    def mended(before: Pass, now: Pass) -> bool:
        ended = [s.kind for s in _steps(before.part) if s.kind != "hold"]
        return not _off(before, now) and ended == kept and before.part.first_count == first

    yield from _ended(piece, number, before, ends, mended)


def _off(before: Pass, now: Pass) -> int:
    """By how many counts a pass comes before the count that it is written from; below 0 after it; 0 for neither.

    In the bar, or in the phrase where that has no whole bars. Parts that are counted otherwise count for themselves.
    """
    counting = now.part.settings.counting
    if counting != before.part.settings.counting:
        return 0
    bar, phrase = counting.meter.counts, counting.phrase
    cycle = phrase if phrase % bar else bar
    early = int(before.offset - now.offset) % cycle
    return early - cycle if early > cycle / 2 else early


def _steps(part: Part) -> list[Sound]:
    """What is written in the steps' own lines."""
    return [s for s in part.sounds if not s.layer]


def _lengthened(part: Part, by: int) -> str:
    """An ending that holds so many counts more; "" where the last word is no single sound."""
    counting = part.settings.counting
    last, until = _steps(part)[-1], counting.number(part.last_count + by)
    if last.kind == "hold":
        return f"{counting.number(last.place)}-{until} hold"
    first = counting.number(part.last_count + 1)
    counts = f"{first}-{until}" if by > 1 else str(first)
    return f"{last.say} {said}  {counts} hold" if (said := _word(part, last)) else ""


def _shortened(part: Part, by: int) -> str:
    """An ending without the last so many counts; "" where it would cut a word in two."""
    own = _steps(part)
    kept = [s for s in own if s.place < part.last_count + 1 - by]
    if not kept or any(s.use == kept[-1].use for s in own if s.place >= part.last_count + 1 - by):
        return ""
    said = _word(part, kept[-1])
    return f"{kept[-1].say} {said}" if said else ""


def _word(part: Part, sound: Sound) -> str:
    """The word of a sound as typed, marks and all; "" where it has other sounds or is danced more than once."""
    use = part.uses[sound.use]
    if len(part.sounds_of[sound.use]) > 1 or use.word.times > 1 or use.word.joined:
        return ""
    return part.typed(use)


def _stances(unfolded: Unfolded) -> Iterator[Finding]:
    """Where a pass begins with the feet otherwise to each other than the one before leaves them; each pair once."""
    told = set()
    for before, now in pairwise(unfolded.passes):
        last, first = _own(before)[-1], _own(now)[0]
        values = stance_values(last, first)
        if not stance_clash(last, first) or (values["before"], values["word"]) in told:
            continue
        told.add((values["before"], values["word"]))
        values |= {"part": now.part.name, "after": before.part.name, "last": values["before"]}
        yield Finding("join_stance", "look", "combo", now.offset + now.part.first_count, values=values)


def _own(one: Pass) -> list[Use]:
    return [u for u in one.part.uses if not u.layer] or list(one.part.uses)


def _lengths(unfolded: Unfolded) -> Iterator[Finding]:
    """Whether the whole fills its phrases; where the meter changes, each stretch of one meter for itself."""
    runs = [(c, list(ps)) for c, ps in groupby(unfolded.passes, key=lambda p: p.part.settings.counting)]
    told = []
    for counting, passes in runs:
        counts, phrase = sum(p.part.counts for p in passes), counting.phrase
        # Groups wait for each other.
        counts = unfolded.counts if len(runs) == 1 else counts
        values: dict[str, Value] = {"counts": counts, "phrase": phrase, "free": unfolded.free}
        names = list(dict.fromkeys(p.part.name for p in passes))
        told.append(f"{counts} in {counting.meter} ({', '.join(names)})")
        # What is danced before the first 1 leads up to it: it is of no phrase, or of each where it comes back.
        pickup = pickup_of(counts, phrase, passes[0]) if passes[0] is unfolded.passes[0] else 0
        if pickup:
            counts -= pickup
            values["pickup"] = pickup
        if counts % phrase:
            values["by"] = min(counts % phrase, phrase - counts % phrase)
            values["run"] = f"{', '.join(names)} in {counting.meter}" if len(runs) > 1 else ""
            place = passes[0].offset + passes[0].part.first_count if len(runs) > 1 else None
            yield Finding("combo_off_phrase", "look", "combo", place, values=values)
        elif len(runs) == 1:
            yield Finding("combo_fills", "ok", "combo", values=values | {"phrases": counts // phrase})
    if len(runs) > 1:
        more = ", …" if len(told) > 8 else ""
        values = {"counts": unfolded.counts, "free": unfolded.free, "told": ", then ".join(told[:8]) + more}
        yield Finding("combo_changes", "ok", "combo", values=values)


def _wrong(unfolded: Unfolded) -> tuple[int, int]:
    """How many stretches fill no phrase, and how many passes cannot be danced."""
    off = sum(found.code == "combo_off_phrase" for found in _lengths(unfolded))
    return off, sum(not one.danceable for one in unfolded.passes)


def _filled(piece: Piece, unfolded: Unfolded) -> Iterator[MendText]:
    """What makes a whole fill its phrases, where its last time can: it is left early, entered late, or held on."""
    last, phrase = unfolded.passes[-1], unfolded.passes[-1].part.settings.counting.phrase
    item = piece.combo[last.item]
    changed_count = len({p.part.settings.counting for p in unfolded.passes}) > 1 or piece.combo.count(item) > 1
    if not _steps(last.part) or item.group or changed_count or last.time != item.times - 1:
        return
    if len(unfolded.passes) > MOST_TRIED:
        return
    over = (unfolded.counts - pickup_of(unfolded.counts, phrase, unfolded.passes[0])) % phrase
    wrong_now = _wrong(unfolded)[1]
    ways: list[tuple[str, str]] = []
    if over < last.part.counts and not item.ends_of(last.time):
        ways.append(("ends", _shortened(last.part, over)))
    if over < last.part.counts and not item.begins_of(last.time) and item.times == 1:
        ways.append(("begins", _entered(last.part, over)))
    if phrase - over <= MOST_HELD and not item.ends_of(last.time):
        ways.append(("ends", _lengthened(last.part, phrase - over)))
    for what, said in filter(lambda way: way[1], ways):
        field = "last_ends" if what == "ends" and item.times > 1 else what
        combo = (*piece.combo[: last.item], replace(item, **{field: said}), *piece.combo[last.item + 1 :])
        whole = unfold(replace(piece, combo=combo))
        off, wrong = _wrong(whole)
        if not off and wrong <= wrong_now:
            line, column = item.until
            words = f"last time {what}" if field == "last_ends" else what
            values: dict[str, Value] = {"part": item.part, "ends": said}
            code = "other_ending" if what == "ends" else "late_entry"
            yield MendText(code, values, (Change(line, column, column, f", {words}: {said}"),))


MOST_TRIED = 60
"""Passes up to which a combo is danced again to see what fills it: a key waits for it."""
MOST_HELD = 4
"""So many counts at the end of a combo may be held to fill its phrase."""


def _entered(part: Part, counts: int) -> str:
    """An entry with which a part begins so many counts later, on the step that it has there; "" where it has none."""
    at = part.first_count + counts
    step = next((s for s in _steps(part) if s.place == at and s.kind != "hold"), None)
    return "" if step is None else f"{step.say} {_word(part, step) or kind_said(step.kind)}"


def _mends(piece: Piece, number: int, before: Pass) -> Iterator[MendText]:
    """The usual change before a break: the last step becomes a touch, a stamp a stomp; or one that adds a step."""
    last = next((s for s in reversed(before.sounds) if s.foot), None)
    if last is None:
        return
    kinds = [WITHOUT_WEIGHT[last.kind]] if last.kind in WITHOUT_WEIGHT else []
    kinds += ["step"] if last.kind in WITH_WEIGHT else []
    for kind in kinds:
        yield from _ended(piece, number, before, f"{last.say} {kind}", lambda _, now: now.danceable)


def _ended(
    piece: Piece, number: int, before: Pass, ends: str, mended: Callable[[Pass, Pass], bool]
) -> Iterator[MendText]:
    """Another ending of the pass before one, where the text has room for it and both are then `mended`."""
    item = piece.combo[before.item]
    if not ends or item.ends_of(before.time) or piece.combo.count(item) > 1 or before.time != item.times - 1:
        return
    changed = replace(item, last_ends=ends) if item.times > 1 else replace(item, ends=ends)
    combo = (*piece.combo[: before.item], changed, *piece.combo[before.item + 1 :])
    whole = unfold(replace(piece, combo=combo))
    passes = whole.passes
    if any(more > there for there, more in zip(_wrong(unfold(piece)), _wrong(whole), strict=True)):
        return
    if number < len(passes) and mended(passes[number - 1], passes[number]):
        said = "last time ends" if item.times > 1 else "ends"
        line, column = item.until
        values: dict[str, Value] = {"part": item.part, "ends": ends}
        yield MendText("other_ending", values, (Change(line, column, column, f", {said}: {ends}"),))
