"""What was tapped, as a script: its readings, the text of one, and all of it as data."""

from collections.abc import Sequence
from fractions import Fraction
from typing import Any

import numpy as np
from msgspec import Struct

from firn.core.meter.meter import Meter
from firn.core.quantise.lilt import lilt
from firn.core.quantise.quantise import Quantised, quantise
from firn.core.script.problems import Problem
from firn.core.script.reader import read_part
from firn.core.script.settings import Settings
from firn.core.script.writer import write_part
from firn.core.steps.shelf import Shelf
from firn.errors import FirnError

MOST = 4_000
"""Taps that are read at once."""

LEAST_APART_S = 0.02
"""What follows nearer than this is a key that bounced."""

READINGS = 4


class Tap(Struct, frozen=True):
    """Something tapped: when, in seconds, the word for it, and its foot, "" where nobody said."""

    at_s: float
    word: str = "step"
    foot: str = ""


def kept_taps(taps: Sequence[Tap]) -> list[Tap]:
    """Taps in order, without those of a key that bounced; raises FirnError for fewer than two, or far too many."""
    kept: list[Tap] = []
    for tap in sorted(taps, key=lambda t: t.at_s):
        if not kept or tap.at_s - kept[-1].at_s >= LEAST_APART_S:
            kept.append(tap)
    if len(kept) < 2:
        raise FirnError("Two taps or more are needed.")
    if len(kept) > MOST:
        raise FirnError(f"{len(kept)} taps are more than {MOST}: read them in pieces.")
    return kept


def readings(taps: Sequence[Tap], meter: Meter, tempo: float | None) -> list[Quantised]:
    """How taps can be read, the likeliest first."""
    # Who counts in halves may yet dance in triplets.
    return quantise([t.at_s for t in taps], tempo=tempo, compound=True if meter.compound else None)[:READINGS]


def script_of(taps: Sequence[Tap], read: Quantised, settings: Settings, shelf: Shelf) -> str:
    """The script of taps: each its word at its place, a line a phrase; raises FirnError where no text says it."""
    phrase = settings.counting.phrase
    rows: dict[int, list[str]] = {}
    for tap, place in zip(taps, read.places, strict=True):
        row = int(place // phrase)
        rows.setdefault(row, []).append(f"{_exact(place, phrase)} {_side(tap.foot)}{tap.word}")
    if min(rows) < 0:
        # What leads up to the first 1 stands in the line that holds it.
        rows[0] = rows.pop(-1) + rows.get(0, [])
    text = "\n".join("  ".join(row) for _, row in sorted(rows.items()))
    script = read_part("A", text, settings, shelf)
    if script.problems:
        problem: Problem = script.problems[0]
        raise FirnError(f"This cannot be written: {problem.message}")
    try:
        return write_part(script, settings)
    except ValueError:
        return text


def _side(foot: str) -> str:
    return {"left": "L ", "right": "R "}.get(foot, "")


def _exact(place: Fraction, phrase: int) -> str:
    """A place as a count and a share of it."""
    number, share = int(place // 1) % phrase + 1, place % 1
    return f"{number}+{share}" if share else str(number)


def taps_data(taps: Sequence[Tap], found: Sequence[Quantised], settings: Settings, shelf: Shelf) -> dict[str, Any]:
    """The stable data of `firn tap --json`: of the likeliest reading, and what the others say."""
    read, counting = found[0], settings.counting
    along = read.line.counts(np.array([t.at_s for t in taps]))
    measured = lilt([t.at_s for t in taps], read)
    sounds = [
        {
            "time_s": round(tap.at_s, 4),
            "place": counting.name(place),
            "position": str(place),
            "sure": round(sure, 3),
            "away_ms": round(1000 * (tap.at_s - float(read.line.at(np.array([float(place)]))[0])), 1),
            "count": round(float(count), 3),
            "alternatives": [
                {"position": str(other), "place": counting.name(other), "sure": round(share, 3)}
                for other, share in more
            ],
        }
        for tap, place, sure, more, count in zip(taps, read.places, read.sure, read.others, along, strict=True)
    ]
    return {
        "tempo": round(read.tempo, 2),
        "tempos": [round(read.line.tempo(float(read.places[k])), 2) for k in (0, -1)],
        "meter": f"{settings.meter.beats}/{settings.meter.unit}",
        "spread_ms": round(1000 * read.spread_s, 1),
        "swing": None
        if measured is None
        else {
            "ratio": round(measured.ratio, 2),
            "share": round(measured.share, 3),
            "n": measured.n,
            "asked": measured.asked,
        },
        "sounds": sounds,
        "script": script_of(taps, read, settings, shelf),
        "readings": [
            {"tempo": round(one.tempo, 2), "sure": round(share, 3), "positions": [str(p) for p in one.places]}
            for one, share in zip(found, shares(found), strict=True)
        ],
    }


def shares(found: Sequence[Quantised]) -> list[float]:
    """How likely each reading is among all, 0 to 1."""
    logs = np.array([q.likelihood for q in found])
    likely = np.exp(logs - logs.max())
    return [float(s) for s in likely / likely.sum()]
