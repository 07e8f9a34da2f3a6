"""The joins of a combo: does every pass begin on a foot that is free, do its endings fit, and how long is it all."""

from collections.abc import Iterator
from itertools import groupby, pairwise

from msgspec.structs import replace

from firn.core.piece.piece import Piece
from firn.core.piece.unfold import Pass, Unfolded, ending_fault, unfold
from firn.core.reading.feet import stance_clash, stance_values
from firn.core.reading.finding import Finding, MendText
from firn.core.script.changes import Change
from firn.core.script.combo import ComboItem, ordinal
from firn.core.script.places import Use

_WITHOUT_WEIGHT = {"step": "touch", "leap": "touch", "flat": "stomp", "heel_step": "dig"}


def endings(piece: Piece) -> list[Finding]:
    """A finding for each ending that cannot be read, or has no place in its part."""
    found = []
    for item in dict.fromkeys(piece.combo):
        part = piece.part(item.part)
        said = [("ends", item.ends), ("last time", item.last_ends)]
        said += [(f"{ordinal(time)} time", ends) for time, ends in item.time_ends]
        for which, ends in said:
            fault = ending_fault(part, ends) if part and ends else ""
            if fault:
                values = {"part": item.part, "which": which, "fault": fault}
                found.append(Finding("ending", "look", "combo", values=values))
    return found


def joins(piece: Piece, unfolded: Unfolded) -> list[Finding]:
    """A finding for each pass that cannot follow the one before it, and one for the whole."""
    found: list[Finding] = []
    for number, now in enumerate(unfolded.passes):
        if now.danceable or (number == 0 and now.part.footing.faults):
            continue
        if now.part.footing.faults:
            continue
        before = unfolded.passes[number - 1] if number else None
        values = {
            "part": now.part.name,
            "time": str(now.time + 1),
            "needed": now.needed,
            "free": now.free,
            "before": before.part.name if before else "",
        }
        place = now.offset + now.part.first_count
        # Trying a mend dances the combo again: the first fault is the one to mend.
        mends = () if found or before is None else tuple(_mends(piece, number, before))
        found.append(Finding("join", "bad", "combo", place, values=values, mends=mends))
    return [*found, *_stances(unfolded), *_lengths(unfolded)]


def _stances(unfolded: Unfolded) -> Iterator[Finding]:
    """Where a pass begins with the feet otherwise to each other than the one before leaves them; each pair once."""
    told = set()
    for before, now in pairwise(unfolded.passes):
        last, first = _own(before)[-1].card, _own(now)[0].card
        if not stance_clash(last, first) or (last.name, first.name) in told:
            continue
        told.add((last.name, first.name))
        values = stance_values(last, first)
        values |= {"part": now.part.name, "after": before.part.name, "last": last.name}
        yield Finding("join_stance", "look", "combo", now.offset + now.part.first_count, values=values)


def _own(one: Pass) -> list[Use]:
    return [u for u in one.part.uses if not u.layer] or list(one.part.uses)


def _lengths(unfolded: Unfolded) -> Iterator[Finding]:
    """Whether the whole fills its phrases; where the meter changes, each stretch of one meter for itself."""
    runs = [(c, list(ps)) for c, ps in groupby(unfolded.passes, key=lambda p: p.part.settings.counting)]
    told = []
    for counting, passes in runs:
        counts, phrase = sum(p.part.counts for p in passes), counting.phrase
        values = {"counts": str(counts), "phrase": str(phrase), "free": unfolded.free}
        names = list(dict.fromkeys(p.part.name for p in passes))
        told.append(f"{counts} in {counting.meter} ({', '.join(names)})")
        if counts % phrase:
            values["by"] = str(min(counts % phrase, phrase - counts % phrase))
            values["run"] = f"{', '.join(names)} in {counting.meter}" if len(runs) > 1 else ""
            place = passes[0].offset + passes[0].part.first_count if len(runs) > 1 else None
            yield Finding("combo_off_phrase", "look", "combo", place, values=values)
        elif len(runs) == 1:
            yield Finding("combo_fills", "ok", "combo", values=values | {"phrases": str(counts // phrase)})
    if len(runs) > 1:
        values = {"counts": str(unfolded.counts), "free": unfolded.free, "told": ", then ".join(told[:8])}
        values["told"] += ", …" if len(told) > 8 else ""
        yield Finding("combo_changes", "ok", "combo", values=values)


def _mends(piece: Piece, number: int, before: Pass) -> Iterator[MendText]:
    """The usual change before a break: the last step becomes a touch, a stamp a stomp; or one that adds a step."""
    item = piece.combo[before.item]
    last = next((s for s in reversed(before.sounds) if s.foot), None)
    if last is None or item.ends_of(before.time) or piece.combo.count(item) > 1:
        return
    kinds = [_WITHOUT_WEIGHT[last.kind]] if last.kind in _WITHOUT_WEIGHT else []
    kinds += ["step"] if last.kind in ("touch", "stomp", "dig") else []
    for kind in kinds:
        ends = f"{last.say} {kind}"
        changed = replace(item, last_ends=ends) if item.times > 1 else replace(item, ends=ends)
        if before.time == item.times - 1 and _danceable(piece, before.item, changed, number):
            said = "last time ends" if item.times > 1 else "ends"
            line, column = item.until
            values = {"part": item.part, "ends": ends}
            yield MendText("other_ending", values, (Change(line, column, column, f", {said}: {ends}"),))


def _danceable(piece: Piece, index: int, item: ComboItem, number: int) -> bool:
    """Whether a pass can be danced once an item is changed."""
    combo = (*piece.combo[:index], item, *piece.combo[index + 1 :])
    passes = unfold(replace(piece, combo=combo)).passes
    return number < len(passes) and passes[number].danceable
