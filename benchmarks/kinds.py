"""What struck: told by five examples of each on feet of a second synthesiser, and from a take that is known."""

from collections import Counter
from collections.abc import Callable, Sequence

import numpy as np
from tests import shoes, takes
from tests.studio import MANY, SHOWN, Studio
from tests.support import part as part_of

from benchmarks.order import PARTS
from benchmarks.report import figure, heading
from firn.core.ear.onsets import find_onsets
from firn.core.ear.shoes import Shoes, examples_in, learnt, learnt_from, otherwise, told
from firn.core.ear.verdict import judge
from firn.core.piece.piece import Part

ALL = tuple(SHOWN)
FEW = ("heel", "ball", "flat", "brush", "hand")
TAKES = 24
NEAR_S = 0.012


def scored(known: Shoes, one: Studio, kinds: Sequence[str]) -> Counter[str]:
    """How many of a take's sounds that were found are told right, wrong, and not told; and which for which."""
    audio, truth, parts = one.danced(kinds)
    found = find_onsets(audio, shoes.RATE)
    score: Counter[str] = Counter()
    for at, said in zip(found.times_s, told(known, audio, shoes.RATE, found.times_s), strict=True):
        nearest = int(np.argmin(np.abs(truth - at)))
        if abs(truth[nearest] - at) > NEAR_S:
            continue
        right = SHOWN[parts[nearest]]
        how = "not told" if not said.kind else "right" if said.kind == right else "wrong"
        score[how] += 1
        if how == "wrong":
            score[f"{right} for {said.kind}"] += 1
    return score


def by_examples(seed: int, kinds: Sequence[str]) -> Counter[str]:
    """A take of shoes that were taught by five examples of each kind."""
    one = Studio(seed)
    audio = one.examples(kinds)
    groups = examples_in(find_onsets(audio, shoes.RATE), len(kinds))
    if groups is None:
        # Slides swell, and not each of them is heard to begin.
        return Counter({"refused": 1})
    named = {SHOWN[kind]: times for kind, times in zip(kinds, groups, strict=True)}
    return scored(learnt(named, audio, shoes.RATE), one, kinds)


def by_a_take(seed: int, kinds: Sequence[str]) -> Counter[str]:
    """A take of shoes that were taught by another take whose sounds are known."""
    one = Studio(seed)
    audio, truth, parts = one.danced(kinds)
    named = {SHOWN[k]: [t for t, part in zip(truth, parts, strict=True) if part == k] for k in kinds}
    return scored(learnt(named, audio, shoes.RATE), one, kinds)


def kinds() -> None:
    """Each way of learning, on all kinds and on those of a plain step."""
    heading(f"What struck ({TAKES} pairs of shoes and floors, {MANY} sounds each, rooms of .2 to .4 s)")
    if takes.hits_folder() is None:
        print("  the recorded hits (sonic-pi-samples) could not be had: nothing measured")
        return
    ways: tuple[tuple[str, Callable[[int, Sequence[str]], Counter[str]]], ...] = (
        ("five examples", by_examples),
        ("a take that is known", by_a_take),
    )
    for said, way in ways:
        for named, among in (("heel, ball, flat, airy, hand", FEW), ("all seven", ALL)):
            total: Counter[str] = Counter()
            for seed in range(TAKES):
                total.update(way(seed, among))
            many = total["right"] + total["wrong"] + total["not told"]
            figure(f"{said}, {named}: right", f"{100 * total['right'] / many:.0f} of 100", "90")
            figure("  refused: examples not heard", f"{total['refused']} of {TAKES}")
            figure("  wrong", f"{100 * total['wrong'] / many:.0f} of 100")
            figure("  not told", f"{100 * total['not told'] / many:.0f} of 100")
            worst = [(n, k) for k, n in total.items() if " for " in k]
            figure("  most often", ", ".join(f"{k} {n}" for n, k in sorted(worst, reverse=True)[:4]))


LINES = (
    "1 stamp  & brush  2 step  & heel  3 brush  & step  4 stamp  & heel\n"
    "5 step  & brush  6 heel  & step  7 stamp  8 clap",
    "&1 flap  & heel  2 stamp  &3 shuffle  & ball change  4 heel\n&5 flap  & heel  6 stamp  &7 shuffle  8 clap",
    "1 heel  & clap  2 step  & brush  3 heel  & clap  4 step\n"
    "5 brush  & heel  6 clap  & step  7 brush  & stamp  8 clap",
)
INSTEAD = {"brush": "ball", "ball": "heel", "heel": "ball", "flat": "ball", "hand": "flat"}
PASSES, TEMPO, JITTER_S, PLANTED = 4, 104.0, 0.008, 40


def a_take(one: Studio, part: Part, instead: int | None) -> np.ndarray:
    """A part danced four times; `instead`: one sound that is struck with another part of the foot every time."""
    sounds = sorted((s for s in part.sounds if s.heard), key=lambda s: s.position)
    struck = [PARTS.get(s.kind, "hand") for s in sounds]
    if instead is not None:
        struck[instead] = INSTEAD[struck[instead]]
    first = float(sounds[0].position)
    placed = [
        ((float(s.position) - first + n * part.counts) * 60 / TEMPO + 0.6 + one.rng.normal(0, JITTER_S), kind)
        for n in range(PASSES)
        for s, kind in zip(sounds, struck, strict=True)
    ]
    return one.take(placed)[0]


def judged_with(part: Part, audio: np.ndarray, known: Shoes) -> list[int]:
    """The sounds that are said to be another kind, the surest first."""
    verdict = judge(part, TEMPO, find_onsets(audio, shoes.RATE))
    return [found.sound for found in otherwise(part, verdict.judged, audio, shoes.RATE, known)]


def other_kinds() -> None:
    """One sound struck with another part of the foot every time, known from a clean take, or from five examples."""
    heading(f"Struck with another part of the foot ({PLANTED} takes each)")
    if takes.hits_folder() is None:
        print("  the recorded hits (sonic-pi-samples) could not be had: nothing measured")
        return
    parts = [part_of(line) for line in LINES]
    for how in ("a clean take", "five examples"):
        right = beside = without = 0
        for seed in range(PLANTED):
            one, part = Studio(1_000 + seed), parts[seed % len(parts)]
            if how == "a clean take":
                clean = a_take(one, part, None)
                before = judge(part, TEMPO, find_onsets(clean, shoes.RATE))
                known = learnt_from(part, before.judged, clean, shoes.RATE)
            else:
                audio = one.examples(FEW)
                groups = examples_in(find_onsets(audio, shoes.RATE), len(FEW)) or []
                known = learnt({SHOWN[k]: g for k, g in zip(FEW, groups, strict=True)}, audio, shoes.RATE)
            sounds = sorted(((s.position, i, s) for i, s in enumerate(part.sounds) if s.heard), key=lambda s: s[:2])
            chosen = seed * 7 % len(sounds)
            found = judged_with(part, a_take(one, part, chosen), known)
            right += found[:1] == [sounds[chosen][1]]
            beside += bool(set(found) - {sounds[chosen][1]})
            without += bool(judged_with(part, a_take(one, part, None), known))
        figure(f"{how}: told", f"{100 * right / PLANTED:.0f} of 100", "90")
        figure("  another one too", f"{100 * beside / PLANTED:.0f} of 100")
        figure("  told where there is none", f"{100 * without / PLANTED:.0f} of 100", "2 or fewer")
