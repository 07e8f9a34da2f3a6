"""How sure a verdict is, and whether it may be: of sounds and takes that are called sure, how many are right.

Takes of the first parts of forty class combos, danced by a second synthesiser in rooms, halls, through a phone and
under talk; some sounds left out, some late. On seeds that were never tuned on.
"""

from collections import Counter
from contextlib import suppress

import numpy as np
from tests import dancers, shoes, takes
from tests.studio import SHOWN

from benchmarks.report import figure, heading
from benchmarks.which import NEARLY, apart, parts
from firn.core.ear.onsets import find_onsets
from firn.core.ear.timbre import class_of
from firn.core.ear.told import SURE
from firn.core.ear.undisturbed import verdict_of
from firn.core.ear.verdict import NothingHeard, Verdict, judge
from firn.core.piece.piece import Part

Row = list[tuple[float, str, float | None]]
"""Of each sound: when it is due, what strikes, and when it is struck, None for never; in seconds."""

STRIKES = {shown: struck for struck, shown in SHOWN.items()}
MANY, MANY_ALOUD, SEED = 36, 80, 88_000
ALOUD = 600
"""So far off the seeds of those that count aloud begin."""

PASSES = 3
JITTER_S, LATE_S = 0.008, (0.055, 0.085)
LEFT_OUT, LATE = 0.05, 0.05
LOUDEST = 0.9
NEAR_S, OPEN_S = 0.12, (0.018, 0.034)
"""So near its time a sound is that one; so far off it, it may be called on or not."""


def danced(
    part: Part, tempo: float, rng: np.random.Generator, *, faulty: bool
) -> list[tuple[float, str, float | None]]:
    """Each sound of each pass."""
    pattern = dancers.pattern_of(part)
    kinds = {s.position: class_of(s.kind) for s in reversed(part.sounds) if s.heard}
    found: Row = []
    for number in range(PASSES):
        for index, place in enumerate(pattern.places):
            due = (float(place - pattern.places[0]) + number * pattern.counts) * 60 / tempo + 0.8
            at: float | None = due + rng.normal(0, JITTER_S)
            if faulty and (number or index):
                chance = rng.random()
                after = (
                    float(pattern.places[index + 1] - place) * 60 / tempo if index + 1 < len(pattern.places) else 0.5
                )
                if chance < LEFT_OUT:
                    at = None
                elif chance < LEFT_OUT + LATE and after > 2.5 * LATE_S[1]:
                    at = due + rng.uniform(*LATE_S)
            found.append((due, STRIKES[kinds[place]], at))
    return found


def recorded(row: Row, where: str, rng: np.random.Generator) -> tuple[np.ndarray, int]:
    """A take of what is struck, in one of the places."""
    placed = [(at, kind) for _, kind, at in row if at is not None]
    audio, _ = shoes.laid(sorted(placed), shoes.shoe(rng), shoes.floor(rng), rng, soft_db=8)
    rings_s, number = (0.8, 100 + int(rng.integers(12))) if where == "a hall" else (0.3, int(rng.integers(20)))
    audio = shoes.in_room(audio, number, rings_s)
    if where == "under talk":
        said = shoes.talk(len(audio) / shoes.RATE, rng)
        audio = audio + said * np.abs(audio).max() * 10 ** (-rng.uniform(6, 14) / 20)
    audio = shoes.hiss(audio, rng)
    # As loud as a room may be, what records it turns itself down; a hall makes it up to fourteen times as loud.
    audio = audio / max(1.0, np.abs(audio).max() / LOUDEST)
    return shoes.phone(audio, rng) if where == "a phone" else (audio, shoes.RATE)


def counted(row: Row, tempo: float, under_db: float, rng: np.random.Generator) -> tuple[np.ndarray, int]:
    """A take of what somebody strikes who counts aloud, so far under the loudest of the feet."""
    placed = [(at, kind) for _, kind, at in row if at is not None]
    audio, _ = shoes.laid(sorted(placed), shoes.shoe(rng), shoes.floor(rng), rng, soft_db=8)
    audio = shoes.in_room(audio, int(rng.integers(20)), 0.3)
    said = shoes.counting(np.arange(row[0][0], row[-1][0] + 0.01, 60 / tempo), len(audio) / shoes.RATE, rng)
    audio = audio + said * np.abs(audio).max() * 10 ** (-under_db / 20)
    return np.clip(shoes.hiss(audio, rng), -1, 1), shoes.RATE


def sounds_right(verdict: Verdict, row: Row) -> Counter[str]:
    """How many sounds are called sure, and right; how many not sure, and right."""
    due = np.array([one for one, _, _ in row])
    score: Counter[str] = Counter()
    for one in verdict.judged:
        nearest = int(np.argmin(np.abs(due - one.expected_s)))
        if abs(due[nearest] - one.expected_s) > NEAR_S:
            score["sure" if one.sure >= SURE else "not sure"] += 1
            continue
        at = row[nearest][2]
        away = None if at is None else at - due[nearest]
        if away is not None and OPEN_S[0] < abs(away) < OPEN_S[1]:
            continue
        truth = "missing" if away is None else "on" if abs(away) <= OPEN_S[0] else "late"
        how = "sure" if one.sure >= SURE else "not sure"
        score[how] += 1
        score[f"{how}, right"] += one.heard == truth
    return score


def sure() -> None:
    """Each place, clean takes and such with faults."""
    heading(f"How sure ({MANY} takes of each, three passes; sure is {SURE} or more; seeds from {SEED})")
    if takes.hits_folder() is None or not shoes.voices():
        print("  the recorded hits or voices could not be had: nothing measured")
        return
    known = [one for one in parts() if 6 <= len(dancers.pattern_of(one[0]).places) <= 24]
    total: Counter[str] = Counter()
    for where in ("a room", "a hall", "a phone", "under talk"):
        here: Counter[str] = Counter()
        for number in range(MANY):
            rng = np.random.default_rng([SEED, number, len(where)])
            part, tempo = known[int(rng.integers(len(known)))]
            row = danced(part, tempo, rng, faulty=number % 2 == 1)
            take = recorded(row, where, rng)
            scored(here, part, tempo, row, take, faulty=number % 2 == 1)
            _beside_another(here, part, known[(number * 7) % len(known)], take)
        total.update(here)
        _figures(where, here)
    _figures("all", total)


def aloud() -> None:
    """The same of a student who counts aloud."""
    heading(f"Counting aloud ({MANY_ALOUD} takes of each, three passes; seeds from {SEED + ALOUD})")
    if takes.hits_folder() is None or not shoes.voices():
        print("  the recorded hits or voices could not be had: nothing measured")
        return
    known = [one for one in parts() if 6 <= len(dancers.pattern_of(one[0]).places) <= 24]
    for under_db in (12, 6, 0):
        here: Counter[str] = Counter()
        for number in range(MANY_ALOUD):
            rng = np.random.default_rng([SEED + ALOUD, number, under_db])
            part, tempo = known[int(rng.integers(len(known)))]
            row = danced(part, tempo, rng, faulty=number % 2 == 1)
            scored(here, part, tempo, row, counted(row, tempo, under_db, rng), faulty=number % 2 == 1)
        _figures(f"{under_db} dB under the feet" if under_db else "as loud as the feet", here)


def scored(
    here: Counter[str], part: Part, tempo: float, row: Row, take: tuple[np.ndarray, int], *, faulty: bool
) -> None:
    """Counts what is said of one take."""
    sound, rate = take
    # One that is refused is not surely said to be clean.
    here["clean takes"] += not faulty
    try:
        verdict = verdict_of(
            find_onsets(sound, rate), sound, rate, lambda onsets, task: judge(part, tempo, onsets, task=task)
        )
    except NothingHeard:
        here["refused"] += 1
        return
    here.update(sounds_right(verdict, row))
    if verdict.mend.code == "clean" and verdict.mend.sure >= SURE:
        here["called clean"] += 1
        here["called clean, and so"] += all(at is not None and at - due < OPEN_S[1] for due, _, at in row)
    if not faulty:
        clean = verdict.mend.code in ("clean", "slip")
        here["clean, said"] += clean
        here["clean, surely said"] += clean and verdict.mend.sure >= SURE
        here["surely wrong"] += not clean and verdict.mend.sure >= SURE


def _beside_another(
    here: Counter[str], danced: Part, other: tuple[Part, float], take: tuple[np.ndarray, int]
) -> None:
    """Counts whether a take is judged as one of a part that it is not, and that is unlike it."""
    if apart(danced, other[0]) <= NEARLY:
        return
    here["laid beside another"] += 1
    with suppress(NothingHeard):
        sound, rate = take
        taken = verdict_of(
            find_onsets(sound, rate), sound, rate, lambda onsets, task: judge(*other, onsets, task=task)
        )
        here["taken for another"] += 1
        here["surely taken"] += taken.match.sure >= SURE


def _figures(where: str, here: Counter[str]) -> None:
    def share(part: str, whole: str) -> str:
        return f"{100 * here[part] / max(1, here[whole]):.1f} of 100"

    figure(f"{where}: sounds called sure that are right", share("sure, right", "sure"), "98")
    sounds = here["sure"] + here["not sure"]
    figure("  called sure", f"{100 * here['sure'] / max(1, sounds):.0f} of 100")
    figure("  not sure, and right", share("not sure, right", "not sure"))
    figure("  clean takes said to be", share("clean, said", "clean takes"))
    figure("  clean takes surely said to be", share("clean, surely said", "clean takes"), "85")
    figure("  takes surely said to be clean that are", share("called clean, and so", "called clean"), "98")
    figure("  clean takes surely said to be something else", share("surely wrong", "clean takes"))
    figure("  refused", str(here["refused"]))
    if here["laid beside another"]:
        another = "laid beside another"
        figure("  judged as a take of a part unlike it", share("taken for another", another), "1 at most")
        figure("    without a word that it may not be", share("surely taken", another), "1 at most")
