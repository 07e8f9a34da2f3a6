"""Listening to a take with all that it might be a take of, and what is said of it as data."""

from collections.abc import Iterable, Iterator
from pathlib import Path
from statistics import fmean
from typing import Any

from msgspec.structs import replace

from firn.core.ear.doubts import doubts
from firn.core.ear.first import FirstMend
from firn.core.ear.habits import off_by_pass
from firn.core.ear.judged import Added, Judged
from firn.core.ear.match import Match, candidate_of
from firn.core.ear.passes import Candidate
from firn.core.ear.routine import Danced, Routine, first_sentence, worst_of
from firn.core.ear.shoes import Shoes, contradicted, otherwise
from firn.core.ear.sides import Foot
from firn.core.ear.timbre import exchanged
from firn.core.ear.verdict import Verdict, WrongTake
from firn.core.ear.whole import whole
from firn.core.ear.words import (
    exchange_said,
    facts,
    mend_sentence,
    order_facts,
    otherwise_facts,
    otherwise_said,
    summary,
)
from firn.core.piece.build import piece_from
from firn.core.piece.piece import Part
from firn.core.piece.unfold import Unfolded
from firn.core.steps.shelf import Shelf
from firn.core.steps.sides import ACROSS
from firn.errors import FileFormatError
from firn.files.audio import FloatArray
from firn.files.formats import PIECE
from firn.files.steps_file import read_steps

MOST_AMONG = 60
"""Parts that a take is laid before, beside the one asked for."""

MOST_SOUNDS = 400
"""A part of more sounds is no part that somebody dances by mistake for another."""

BETWEEN = " · "

ALIKE_S = 90.0
"""What sounds sound like is told from so much of a take."""


def parts_beside(parts: Iterable[Part], part: Part, tempo: float) -> list[Candidate]:
    """The other parts of a piece, as a take might be one of them; none of very many sounds."""
    others = (candidate_of(p, tempo) for p in parts if p.name != part.name and len(p.sounds) <= MOST_SOUNDS)
    return [one for one in others if one is not None][:MOST_AMONG]


def parts_among(folder: Path, shelf: Shelf, *, but: Path) -> Iterator[Candidate | FileFormatError]:
    """The parts of the pieces in a folder, each at its piece's tempo, called by both names; what is wrong with a file
    that cannot be read. `but`: the piece itself."""
    if not folder.is_dir():
        raise FileFormatError(f"{folder} is no folder of pieces.")
    many = 0
    for path in sorted(folder.iterdir()):
        if not PIECE.names(path) or (but.exists() and path.exists() and path.samefile(but)):
            continue
        try:
            piece = piece_from(read_steps(path), shelf)
        except FileFormatError as fault:
            yield fault
            continue
        for part in piece.parts:
            name = f"{piece.settings.name or path.stem}{BETWEEN}{part.name}"
            one = candidate_of(part, float(piece.settings.tempo), name=name)
            if many == MOST_AMONG:
                return
            if one is not None and len(part.sounds) <= MOST_SOUNDS:
                many += 1
                yield one


def with_colours(part: Part, verdict: Verdict, sound: FloatArray, rate: int, shoes: Shoes | None = None) -> Verdict:
    """A verdict with what sounds as if it had changed places, told from the take's own sounds of its first minutes,
    and, in shoes that are known, what another part of the foot struck; where nothing else is to mend, that is."""
    first, sound = [j for j in verdict.judged if j.expected_s < ALIKE_S], sound[: round((ALIKE_S + 1) * rate)]
    order = exchanged(part, first, sound, rate)
    struck = otherwise(part, first, sound, rate, shoes) if shoes is not None else []
    if shoes is not None:
        order = [one for one in order if not contradicted(part, one, struck, shoes)]
    placed = {index for one in order for index in one.sounds}
    struck = [one for one in struck if one.sound not in placed]
    mend = verdict.mend
    if mend.code in ("clean", "slip"):
        if order:
            mend = FirstMend("order", exchange_said(part, order[0]), sure=order[0].sure)
        elif struck:
            mend = FirstMend("kind", otherwise_said(part, struck[0]), sure=struck[0].sure)
    return replace(verdict, order=tuple(order), otherwise=tuple(struck), mend=mend)


def match_data(found: Match, piece: str) -> dict[str, Any]:
    """What a take is, as data: `piece` is called so where its part is one of its own."""
    name, _, part = found.part.rpartition(BETWEEN)
    return {
        "is": found.what,
        "piece": (name or piece) if found.part else None,
        "part": part or None,
        "ratio": str(found.ratio),
        "sure": round(found.sure, 3),
        "also": list(found.also),
    }


def verdict_data(part: Part, verdict: Verdict, piece: str) -> dict[str, Any]:
    """The stable data of `firn listen --json`."""
    took = whole(part, verdict)
    sides, swing = took.sides, took.swing
    return {
        "match": match_data(verdict.match, piece),
        "first": mend_sentence(verdict.mend),
        "fault": _fault_data(part, verdict),
        "summary": summary(verdict),
        "sounds": [_sound_data(part, j) for j in verdict.judged],
        "missing": [str(part.sounds[j.target.sounds[0]].place) for j in verdict.judged if j.heard == "missing"],
        "extra": [_extra_data(a) for a in verdict.added],
        "tempo": round(verdict.tempo, 2),
        "passes": _passes_data(part, verdict),
        "spread_ms": round(verdict.spread_ms, 1),
        "sides": sides and {"left": _foot_data(sides.left), "right": _foot_data(sides.right)},
        "swing": swing and {"ratio": round(swing.ratio, 3), "meant": round(swing.meant, 3), "n": swing.n},
        "even": {
            "range_db": round(took.range_db, 1),
            "uneven": [{"place": str(part.sounds[u.sound].place), "db": round(u.db, 1)} for u in took.uneven],
        },
        "order": [
            {
                "places": [str(part.sounds[i].place) for i in one.sounds],
                "kinds": [part.sounds[i].kind for i in one.sounds],
                "passes": one.times,
                "of": one.of,
                "sure": round(one.sure, 3),
            }
            for one in verdict.order
        ],
        "otherwise": [
            {
                "place": str(part.sounds[one.sound].place),
                "kind": part.sounds[one.sound].kind,
                "sounds_like": one.kind,
                "passes": one.times,
                "of": one.of,
                "sure": round(one.sure, 3),
            }
            for one in verdict.otherwise
        ],
        "doubts": doubts(part.name, verdict),
        "count_in_s": verdict.count_in_s and round(verdict.count_in_s, 4),
        "other_starts": [round(o, 3) for o in verdict.others],
    }


def wrong_data(fault: WrongTake, piece: str) -> dict[str, Any]:
    """The same of a take that is none of the part: what it is."""
    nothing: dict[str, Any] = {
        "match": match_data(fault.match, piece), "first": fault.message, "fault": None, "summary": fault.hint,
        "sounds": [], "missing": [], "extra": [], "tempo": None, "passes": [], "spread_ms": None, "sides": None,
        "swing": None, "even": None, "order": None, "otherwise": None,
        "doubts": [], "count_in_s": None, "other_starts": [],
    }  # fmt: skip
    return nothing


def _sound_data(part: Part, judged: Judged) -> dict[str, Any]:
    sound = part.sounds[judged.target.sounds[0]]
    return {
        "part": part.name,
        "pass": judged.target.time + 1,
        "place": str(sound.place),
        "say": sound.say,
        "foot": sound.foot or None,
        "kind": sound.kind,
        "word": part.uses[sound.use].card.name,
        "verdict": judged.heard,
        "ms": None if judged.ms is None else round(judged.ms, 1),
        "heard_s": None if judged.heard_s is None else round(judged.heard_s, 4),
        "sure": round(judged.sure, 2),
    }


def _fault_data(part: Part, verdict: Verdict) -> dict[str, Any]:
    mend = verdict.mend
    one = verdict.judged[mend.target] if mend.target is not None else None
    place = part.sounds[one.target.sounds[0]].place if one is not None else None
    if verdict.dropped is not None:
        place = part.sounds[verdict.dropped].place
    if mend.code == "order":
        place = part.sounds[verdict.order[0].sounds[0]].place
    if mend.code == "kind":
        place = part.sounds[verdict.otherwise[0].sound].place
    return {
        "code": mend.code,
        "what": mend.values.get("what", mend.code),
        "pass": None if one is None else one.target.time + 1,
        "place": None if place is None else str(place),
        "ms": None if one is None or one.ms is None else round(one.ms, 1),
        "sure": round(mend.sure, 2),
    }


def _passes_data(part: Part, verdict: Verdict) -> list[dict[str, Any]]:
    wrong = off_by_pass(verdict.judged, verdict.added)
    side = part.footing.first or part.settings.lead
    data = []
    for number, off in enumerate(wrong):
        own = [j for j in verdict.judged if j.target.time == number]
        if not own:
            # Too little of it was heard to lay it over.
            continue
        data.append(
            {
                "part": part.name, "side": side,
                "start_s": round(own[0].expected_s, 4), "end_s": round(own[-1].expected_s, 4),
                "result": "clean" if not off else f"{off} not on",
            }
        )  # fmt: skip
    return data


def _foot_data(foot: Foot) -> dict[str, Any]:
    return {
        "ms": None if foot.ms is None else round(foot.ms, 1),
        "db": None if foot.db is None else round(foot.db, 1),
        "n": foot.n,
    }


def _extra_data(one: Added) -> dict[str, Any]:
    return {"heard_s": round(one.heard_s, 4), "echo": one.echo, "unsure": one.unsure}


def _called(one: Added) -> str:
    return "may be echo" if one.echo else "may be no step" if one.unsure else "added"


def verdict_lines(part: Part, verdict: Verdict) -> list[str]:
    """A verdict for a terminal: what is in doubt, the sounds one a line, the whole, and what to mend first."""
    counting = part.settings.counting
    lines = [f"In doubt: {doubt}" for doubt in doubts(part.name, verdict)]
    for j in verdict.judged:
        sound = part.sounds[j.target.sounds[0]]
        off = "" if j.ms is None else f"{j.ms:+.0f} ms"
        name = f"{sound.foot} {part.word(sound)}".strip()
        passed = f"{j.target.time + 1}:" if verdict.passes > 1 else ""
        lines.append(f"{passed}{counting.say(sound.place):<4} {name:<28} {j.heard:<8} {off}".rstrip())
    lines += [f"{_called(a)} at {a.heard_s:.3f} s" for a in verdict.added]
    lines += [summary(verdict), *order_facts(part, verdict), *otherwise_facts(part, verdict)]
    lines += facts(part, whole(part, verdict))
    return [*lines, mend_sentence(verdict.mend)]


def routine_data(one: Routine, piece: str) -> dict[str, Any]:
    """The stable data of `firn listen --combo --json`: as for a part, all passes in the order danced."""
    worst = worst_of(one)
    sounds = sorted(
        (
            (j.expected_s, _sound_data(part, j) | {"pass": _pass_of(one, part, j.target.time)})
            for part, verdict in one.verdicts
            for j in verdict.judged
        ),
        key=lambda row: row[0],
    )
    added = sorted((a for _, verdict in one.verdicts for a in verdict.added), key=lambda a: a.heard_s)
    fault = _fault_data(*worst) if worst is not None else None
    if one.left_out:
        fault = {"code": "left_out", "what": one.left_out[0][0], "pass": None, "place": None, "ms": None, "sure": 0.9}
    if fault is not None and worst is not None and not one.left_out and worst[1].mend.target is not None:
        fault["pass"] = _pass_of(one, worst[0], worst[1].judged[worst[1].mend.target].target.time)
    return {
        "match": {
            "is": "this" if one.fits else "nothing", "piece": piece if one.fits else None,
            "part": "combo" if one.fits else None, "ratio": "1", "sure": round(one.sure, 3), "also": [],
        },
        "first": first_sentence(one),
        "fault": fault,
        "summary": routine_summary(one),
        "sounds": [row for _, row in sounds],
        "missing": [row["place"] for _, row in sounds if row["verdict"] == "missing"],
        "extra": [_extra_data(a) for a in added],
        "tempo": round(fmean(v.tempo for _, v in one.verdicts), 2) if one.verdicts else None,
        "passes": [_routine_pass(one, p) for p in one.passes],
        "left_out": [{"part": name, "after": before or None} for name, before in one.left_out],
        "spread_ms": round(fmean(v.spread_ms for _, v in one.verdicts), 1) if one.verdicts else None,
        "sides": None,
        "swing": None,
        "even": None,
        "order": None,
        "otherwise": None,
        "doubts": [],
        "count_in_s": None,
        "other_starts": [],
    }  # fmt: skip


def _pass_of(one: Routine, part: Part, number: int) -> int | None:
    """The number, from 1, among all passes of one of a part's."""
    rows = (n for n, p in enumerate(one.passes, 1) if p.part is part and p.number == number)
    return next(rows, None)


def _off(one: Routine, danced: Danced) -> int | None:
    """How many sounds of a pass were not on; None where it could not be judged."""
    verdict = next((v for part, v in one.verdicts if part is danced.part), None)
    wrong = off_by_pass(verdict.judged, verdict.added) if verdict is not None else []
    return wrong[danced.number] if danced.number < len(wrong) else None


def _routine_pass(one: Routine, danced: Danced) -> dict[str, Any]:
    part, off = danced.part, _off(one, danced)
    first = part.footing.first or part.settings.lead
    swapped = danced.wanted is not None and danced.wanted.swapped
    return {
        "part": part.name,
        "side": ACROSS.get(first, first) if swapped else first,
        "start_s": round(danced.found.start_s, 4),
        "end_s": round(danced.found.end_s, 4),
        "result": "not judged" if off is None else "clean" if not off else f"{off} not on",
        "wanted": danced.wanted is not None,
    }


def routine_summary(one: Routine) -> str:
    """How many passes were danced, how many of them clean, and what was left out."""
    clean = sum(_off(one, p) == 0 for p in one.passes)
    many = "One pass" if len(one.passes) == 1 else f"{len(one.passes)} passes"
    left = f", {len(one.left_out)} left out" if one.left_out else ""
    return f"{many}, {clean} of them clean{left}."


def routine_passes(one: Routine) -> list[str]:
    """Each pass of a take of a combo in a line."""
    lines = []
    for number, danced in enumerate(one.passes, 1):
        row = _routine_pass(one, danced)
        beside = "" if row["wanted"] else ", once more than the combo has it"
        lines.append(
            f"{number}  {row['part']}, {row['side']} foot, at {row['start_s']:.1f} s: {row['result']}{beside}"
        )
    return lines


def routine_marks(one: Routine, whole: Unfolded) -> dict[int, tuple[str, float | None]]:
    """What was heard of each sound of a combo, by its index among all, with how late it was in ms; of a pass that was
    danced more than once, the last time."""
    bases: dict[int, int] = {}
    base = 0
    for due in whole.passes:
        bases[id(due)] = base
        base += len(due.sounds)
    marks: dict[int, tuple[str, float | None]] = {}
    for danced in one.passes:
        if danced.wanted is None or id(danced.wanted) not in bases:
            continue
        verdict = next((v for part, v in one.verdicts if part is danced.part), None)
        for judged in verdict.judged if verdict is not None else ():
            if judged.target.time == danced.number:
                marks[bases[id(danced.wanted)] + judged.target.sounds[0]] = (judged.heard, judged.ms)
    return marks


def routine_lines(one: Routine) -> list[str]:
    """A take of a combo for a terminal: its passes one a line, the whole, and what to mend first."""
    lines = []
    if not one.fits:
        lines.append(f"In doubt: this hardly fits the combo: {100 * one.share:.0f} of 100 sounds fall into place.")
    for number, danced in enumerate(one.passes, 1):
        row = _routine_pass(one, danced)
        beside = "" if row["wanted"] else ", once more than the combo has it"
        lines.append(
            f"{number:>3}  {row['start_s']:7.2f} s  {row['part']:<12} {row['side']:<6} {row['result']}{beside}"
        )
    lines += [f"     left out: {name}{f' after {before}' if before else ''}" for name, before in one.left_out]
    return [*lines, routine_summary(one), first_sentence(one)]
