"""Which take is this: takes of one part, of another, or at another tempo, laid before the part that was asked for."""

import time
from collections import Counter
from dataclasses import replace
from fractions import Fraction
from functools import cache
from itertools import pairwise
from math import lcm

import numpy as np
from tests import dancers
from tests.support import DATA

from benchmarks.report import figure, heading
from firn.core.ear.match import Match, candidate_of
from firn.core.ear.onsets import Onsets
from firn.core.ear.passes import Candidate
from firn.core.ear.told import SURE
from firn.core.ear.verdict import NothingHeard, TwoDancers, WrongTake, judge
from firn.core.piece.build import piece_from
from firn.core.piece.piece import Part

RATIOS = (Fraction(1, 2), Fraction(2, 3), Fraction(3, 2), Fraction(2))
NEARLY = 2
"""What differs by no more sounds of a pass is this one with a fault or two, as far as its times tell."""

MANY = 240
SEED = 71_000
"""Takes of these seeds were never tuned on."""


def parts() -> list[tuple[Part, float]]:
    """The first parts of forty class combos that have four sounds or more, with their tempos."""
    found = []
    for text in (DATA / "class_combos.txt").read_text("utf-8").split("\n===\n"):
        piece = piece_from(text)
        for part in piece.parts:
            if len(dancers.pattern_of(part).places) >= 4:
                found.append((part, float(piece.settings.tempo)))
    return found


def _pattern(part: Part) -> tuple[tuple[Fraction, ...], int]:
    """What tells a part's rhythm from another's: its places, from the first of them, and its counts."""
    one = dancers.pattern_of(part)
    return tuple(p - one.places[0] for p in one.places), one.counts


def same_rhythm(one: Part, other: Part) -> bool:
    """Whether two parts, danced over and over, are struck at the same times."""
    a, b = dancers.pattern_of(one), dancers.pattern_of(other)
    span = a.counts * b.counts
    rows = []
    for pattern in (a, b):
        long = sorted((p + k * pattern.counts) % span for k in range(span // pattern.counts) for p in pattern.places)
        rows.append([*(y - x for x, y in pairwise(long)), long[0] + span - long[-1]])
    if len(rows[0]) != len(rows[1]):
        return False
    twice = rows[0] * 2
    return any(twice[i : i + len(rows[1])] == rows[1] for i in range(len(rows[0])))


def apart(one: Part, other: Part) -> float:
    """How many sounds of a pass differ between two parts, laid over each other where they differ least."""
    a, b = dancers.pattern_of(one), dancers.pattern_of(other)
    span = lcm(a.counts, b.counts)
    mine, theirs = ({(p + n * x.counts) % span for n in range(span // x.counts) for p in x.places} for x in (a, b))
    ways = {(x - y) % span for x in mine for y in theirs}
    return min(len(mine ^ {(y + way) % span for y in theirs}) for way in ways) / (span // a.counts)


def _judged(found: Match | None, wanted: str, name: str, ratio: Fraction) -> str:
    """right, refused or taken for this; of what is refused, whether what it is instead is named."""
    if found is None:
        return "refused"
    if wanted == "this":
        return "right" if found.what == "this" else "refused"
    if found.what == "this":
        return "taken for this"
    if wanted == "other":
        return "named" if found.what == "other" and name in (found.part, *found.also) else "refused"
    return "named" if found.what == "tempo" and found.ratio == ratio else "refused"


def _told(part: Part, tempo: float, times: np.ndarray, others: list[Candidate]) -> Match | None:
    """What a take is told to be; None where it is no take that can be judged."""
    try:
        return judge(part, tempo, Onsets(times, np.full(len(times), -20.0)), others=others).match
    except WrongTake as fault:
        return fault.match
    except NothingHeard:
        return None


def which() -> None:
    """Pairs of a part and a take: its own, at another tempo, of another part, of none."""
    heading(f"Which take is this, {MANY} takes of each kind (seeds from {SEED})")
    known = parts()
    took = 0.0
    tally: dict[str, Counter[str]] = {}
    unlike: Counter[str] = Counter()
    for kind in ("its own", "another part", "another part, not known", "another tempo", "nobody's"):
        counts = tally.setdefault(kind, Counter())
        for number in range(MANY):
            rng = np.random.default_rng([SEED, number, len(kind)])
            part, tempo = known[int(rng.integers(len(known)))]
            unlike_it = [p for p, _ in known if not same_rhythm(p, part)]
            other = unlike_it[int(rng.integers(len(unlike_it)))]
            beside = [unlike_it[int(i)] for i in rng.choice(len(unlike_it), 4, replace=False)]
            ratio = RATIOS[int(rng.integers(len(RATIOS)))]
            danced, at = part, tempo
            if kind.startswith("another part"):
                danced = other
                beside = (
                    [other, *beside[1:]]
                    if kind == "another part"
                    else [b for b in beside if not same_rhythm(b, other)]
                )
            elif kind == "another tempo":
                at = tempo * float(ratio)
            pattern = dancers.pattern_of(danced)
            manner = dancers.manner_of(at, rng, many=len(pattern.places))
            times = dancers.danced(pattern, manner, rng).onsets_s
            if kind == "nobody's":
                times = np.sort(rng.uniform(0.3, times[-1] + 1, len(times)))
            others = [_candidate(str(n), p, tempo) for n, p in enumerate(beside, 1)]
            name = str(next((n for n, p in enumerate([part, *beside]) if p is danced), -1))
            began = time.perf_counter()
            found = _told(part, tempo, times, others)
            took += time.perf_counter() - began
            if kind == "another part, not known" and apart(part, danced) > NEARLY:
                told = _judged(found, "none", name, ratio)
                unlike[told] += 1
                unlike["surely"] += told == "taken for this" and found is not None and found.sure >= SURE
            wanted = {"its own": "this", "another tempo": "tempo", "another part": "other"}.get(kind, "none")
            counts[_judged(found, wanted, name, ratio)] += 1
            counts["surely this"] += found is not None and found.what == "this" and found.sure >= SURE
    own = tally["its own"]
    figure("its own, refused", f"{100 * own['refused'] / MANY:.1f} of 100", "1 at most")
    figure("  surely this", f"{100 * own['surely this'] / MANY:.1f} of 100")
    for kind in ("another part", "another part, not known", "another tempo", "nobody's"):
        counts = tally[kind]
        figure(f"{kind}, taken for this", f"{100 * counts['taken for this'] / MANY:.1f} of 100", "1 at most")
        figure("  and surely", f"{100 * counts['surely this'] / MANY:.1f} of 100", "1 at most")
        if kind in ("another part", "another tempo"):
            figure(f"{kind}, named", f"{100 * counts['named'] / MANY:.1f} of 100", "90")
        if kind == "another part, not known":
            whole = unlike.total() - unlike["surely"]
            taken = f"{100 * unlike['taken for this'] / whole:.1f} of 100"
            figure(f"  that differs by more than {NEARLY} sounds a pass", taken, "1 at most")
            figure("    and surely", f"{100 * unlike['surely'] / whole:.1f} of 100", "1 at most")
    figure("a take laid before five parts", f"{1000 * took / MANY / len(tally):.0f} ms")


TWO_SEED = 72_000
TWO_MANY = 120


def two() -> None:
    """Takes of two who dance at once, and of one alone: who is told to be two."""
    heading(f"Two at once, {TWO_MANY} takes of each kind (seeds from {TWO_SEED})")
    for kind, wanted in (("two at once", "told: 90"), ("one alone", "told: 1 at most"), ("one, added sounds", "")):
        said: Counter[str] = Counter()
        for number in range(TWO_MANY):
            rng = np.random.default_rng([TWO_SEED, number, len(kind)])
            part, tempo = parts_of_four()[int(rng.integers(len(parts_of_four())))]
            pattern = dancers.pattern_of(part)
            manner = dancers.manner_of(tempo, rng, many=len(pattern.places))
            if kind == "one, added sounds":
                manner = replace(manner, added=0.3)
            take = dancers.danced(pattern, manner, rng)
            times = dancers.with_another(take, rng) if kind == "two at once" else take.onsets_s
            said[_two_said(part, tempo, Onsets(times, np.full(len(times), -20.0)))] += 1
        told = ", ".join(f"{name} {100 * many / TWO_MANY:.0f}" for name, many in said.most_common())
        figure(f"{kind}, of 100", told, wanted)


def _two_said(part: Part, tempo: float, onsets: Onsets) -> str:
    try:
        judge(part, tempo, onsets)
    except TwoDancers:
        return "told"
    except NothingHeard:
        return "refused"
    return "judged"


parts_of_four = cache(parts)


def _candidate(name: str, part: Part, tempo: float) -> Candidate:
    return candidate_of(part, tempo, name=name)
