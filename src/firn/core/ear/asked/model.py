"""Questions without a take: what the model dances, as it is written and changed in one thing."""

from collections.abc import Callable, Sequence
from fractions import Fraction
from itertools import pairwise

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from firn.core.ear.asked.kinds import Given, QuestionKind
from firn.core.ear.asked.level import level
from firn.core.ear.asked.question import Clip, Question, nth
from firn.core.meter.ticks import ticks, ticks_in_a_count
from firn.core.piece.piece import Part
from firn.core.piece.sound import Sound
from firn.core.steps.kinds import kind_said

LATE_MS = (120.0, 95.0, 75.0, 60.0, 48.0)
"""How late a sound is that is asked about, by how hard it is; listeners tell some 20 ms apart at best."""

FASTER = (1.25, 1.18, 1.12, 1.08, 1.05)
"""One of two tempos re the other; about 1.05 is told apart in half of all cases (from memory)."""

SWUNG = (Fraction(2, 3), Fraction(2, 3), Fraction(5, 8), Fraction(3, 5), Fraction(3, 5))
"""Where an & lies that is swung."""

MANY = (4, 5, 6, 7, 9)
"""Sounds in a stretch that are counted or searched."""


class Material(Struct, frozen=True):
    """A part that is asked about, what is heard of it, in order, and of that the first at each place."""

    part: Part
    heard: tuple[Sound, ...]
    single: tuple[Sound, ...]


Asked = Callable[[Material, float, int, np.random.Generator], Question | None]


def how_many(of: Material, tempo: float, hard: int, rng: np.random.Generator) -> Question | None:
    """How many sounds in a stretch of the model."""
    stretch = _stretch(of, MANY[hard] - int(rng.integers(2)), rng)
    if len(stretch) < 2:
        return None
    counting = of.part.settings.counting
    ends = [counting.name(s.place) for s in (stretch[0], stretch[-1])]
    many = len({s.position for s in stretch})
    low = max(1, many - int(rng.integers(5)))
    return Question(
        "how_many", {"from": ends[0], "to": ends[1], "times": ""}, tuple(str(low + i) for i in range(5)), many - low,
        clips=(_clip(stretch, tempo),), why=f"{many}: {', '.join(_words(of.part, stretch))}.",
    )  # fmt: skip


def what_missing(of: Material, tempo: float, hard: int, rng: np.random.Generator) -> Question | None:
    """The part as written, then perhaps without one sound."""
    stretch = _stretch(of, MANY[hard], rng)
    if len(stretch) < 3:
        return None
    gone = stretch[int(rng.integers(1, len(stretch)))] if rng.random() < 0.75 else None
    left = [s for s in stretch if s is not gone]
    names = _words(of.part, stretch)
    right = names[stretch.index(gone)] if gone is not None else NOTHING
    if gone is not None and right in [names[stretch.index(s)] for s in left]:
        return None
    others = sorted(set(names[1:]) - {right})
    rng.shuffle(others)
    answers = [*others[:3], *([right] if gone is not None else []), NOTHING]
    rng.shuffle(answers)
    why = f"The second time the {right} was left out." if gone is not None else "Both times were the same."
    return Question(
        "what_missing", {}, tuple(answers), answers.index(right), why=why,
        clips=(_clip(stretch, tempo), _clip(left, tempo, like=stretch)),
    )  # fmt: skip


NOTHING = "nothing was missing"


def which_late(of: Material, tempo: float, hard: int, rng: np.random.Generator) -> Question | None:
    """One sound late, by less the harder it is; never so late that it would be the next."""
    stretch = _stretch(of, MANY[hard], rng)
    gaps = [b.position - a.position for a, b in pairwise(stretch[1:])]
    late = Fraction(LATE_MS[hard] * tempo / 60_000).limit_denominator(960)
    room = [i for i, gap in enumerate(gaps, 1) if gap > late * Fraction(3, 2)]
    names = _words(of.part, stretch)
    room = [i for i in room if names.count(names[i]) == 1]
    if not room:
        return None
    chosen = room[int(rng.integers(len(room)))]
    moved = [replace(s, position=s.position + late) if i == chosen else s for i, s in enumerate(stretch)]
    others = sorted({*names} - {names[chosen]})
    rng.shuffle(others)
    answers = [names[chosen], *others[:3]]
    rng.shuffle(answers)
    if len(answers) < 3:
        return None
    return Question(
        "which_late", {}, tuple(answers), answers.index(names[chosen]), clips=(_clip(moved, tempo),),
        why=f"The {names[chosen]} came {LATE_MS[hard]:.0f} ms late.",
    )  # fmt: skip


def even_or_swung(of: Material, tempo: float, hard: int, rng: np.random.Generator) -> Question | None:
    """The part with its &s even, or swung."""
    stretch = _stretch(of, 8, rng)
    if not any(s.place % 1 == Fraction(1, 2) for s in stretch):
        return None
    swung = bool(rng.random() < 0.5)
    at = SWUNG[hard] if swung else Fraction(1, 2)

    def placed(sound: Sound) -> Sound:
        half = sound.place % 1 == Fraction(1, 2)
        return replace(sound, position=sound.place // 1 + at if half else sound.place)

    ratio = float(at / (1 - at))
    why = f"Swung, {ratio:.2g} to 1: what is on an & came late." if swung else "Even: each & lay halfway."
    return Question(
        "even_or_swung",
        {},
        ("even", "swung"),
        int(swung),
        clips=(_clip([placed(s) for s in stretch], tempo),),
        why=why,
    )


def which_foot(of: Material, tempo: float, hard: int, rng: np.random.Generator) -> Question | None:
    """The foot of one sound of the model, whose feet are heard on their own sides."""
    stretch = _stretch(of, MANY[min(hard, 3)], rng)
    alone = [
        i
        for i, s in enumerate(stretch)
        if s.foot in ("left", "right") and [t.position for t in stretch].count(s.position) == 1
    ]
    if len({stretch[i].foot for i in alone}) < 2:
        return None
    chosen = alone[int(rng.integers(len(alone)))]
    feet, foot = ("left", "right"), stretch[chosen].foot
    return Question(
        "which_foot", {"nth": nth(chosen + 1)}, feet, feet.index(foot), clips=(_clip(stretch, tempo),),
        why=f"The {_words(of.part, stretch)[chosen]} is on the {foot}.",
    )  # fmt: skip


def same_or_changed(of: Material, tempo: float, hard: int, rng: np.random.Generator) -> Question | None:
    """A stretch twice, the second time perhaps with one thing changed."""
    stretch = _stretch(of, MANY[hard], rng)
    if len(stretch) < 3:
        return None
    changed = bool(rng.random() < 0.5)
    again, why = list(stretch), "Both times were the same."
    if changed:
        inner = int(rng.integers(1, len(stretch) - 1))
        name = _words(of.part, stretch)[inner]
        after = stretch[inner + 1].position - stretch[inner].position
        if rng.random() < 0.5 or after <= 0:
            del again[inner]
            why = f"The second time the {name} was left out."
        else:
            again.insert(inner + 1, replace(stretch[inner], position=stretch[inner].position + after / 2))
            why = f"The second time there was one sound more, after the {name}."
    return Question(
        "same_or_changed", {}, ("the same", "changed"), int(changed), why=why,
        clips=(_clip(stretch, tempo), _clip(again, tempo, like=stretch)),
    )  # fmt: skip


def where_is_one(of: Material, tempo: float, hard: int, rng: np.random.Generator) -> Question | None:
    """The part begun somewhere: which sound is on its 1. Asked only where no turn of it sounds like another."""
    heard = of.heard
    counts = Fraction(of.part.counts)
    if len(heard) < 4 or len(heard) > 12 or heard[0].position != 0:
        return None
    places = [s.position for s in heard]
    shapes = {tuple(sorted((p - q) % counts for p in places)) for q in places}
    if len(shapes) < len(places):
        return None
    begun = int(rng.integers(min(4, len(heard))))
    turned = [
        replace(s, position=s.position + (0 if i >= begun else counts) - heard[begun].position)
        for i, s in enumerate(heard)
    ]
    turned.sort(key=lambda s: s.position)
    twice = [*turned, *(replace(s, position=s.position + counts) for s in turned)]
    right = (len(heard) - begun) % len(heard)
    offered = sorted({right, *(int(k) for k in rng.choice(len(heard), min(4, len(heard)), replace=False))})
    return Question(
        "where_is_one", {}, tuple(f"the {nth(k + 1)}" for k in offered), offered.index(right),
        clips=(_clip(heard, tempo), Clip(tuple(twice), 2 * counts, tempo)),
        why=f"First you heard it from its 1; then from its {nth(begun + 1)} sound on, so 1 is the {nth(right + 1)}.",
    )  # fmt: skip


def hold_or_none(of: Material, tempo: float, hard: int, rng: np.random.Generator) -> Question | None:
    """A hold kept, or left out."""
    holds = [s for s in of.part.sounds if s.kind == "hold" and s.length > 0]
    heard = of.heard
    inner = [h for h in holds if any(s.position > h.position for s in heard)]
    if not inner or len(heard) < 3:
        return None
    hold = inner[int(rng.integers(len(inner)))]
    kept = bool(rng.random() < 0.5)
    near = [s for s in heard if abs(s.position - hold.position) <= 6]
    if not kept:
        near = [replace(s, position=s.position - hold.length) if s.position > hold.position else s for s in near]
    name = of.part.settings.counting.name(hold.place)
    why = f"The hold on {name} was kept." if kept else f"It went on through the hold on {name}."
    return Question("hold_or_none", {}, ("a hold", "it goes on"), int(not kept), clips=(_clip(near, tempo),), why=why)


def which_faster(of: Material, tempo: float, hard: int, rng: np.random.Generator) -> Question | None:
    """A stretch twice, at two tempos."""
    stretch = _stretch(of, 6, rng)
    if len(stretch) < 3:
        return None
    second = bool(rng.random() < 0.5)
    tempos = (tempo, round(tempo * FASTER[hard], 1)) if second else (round(tempo * FASTER[hard], 1), tempo)
    return Question(
        "which_faster", {}, ("the first", "the second"), int(second), clips=tuple(_clip(stretch, t) for t in tempos),
        why=f"The first was at {tempos[0]:g}, the second at {tempos[1]:g}.",
    )  # fmt: skip


def which_figure(of: Material, tempo: float, hard: int, rng: np.random.Generator) -> Question | None:
    """Two figures of the part with as many sounds, told apart by what strikes."""
    figures: dict[str, list[Sound]] = {}
    for sound in of.heard:
        use = of.part.uses[sound.use]
        if len(use.places) > 1:
            figures.setdefault(use.card.name, []).append(sound)
    once = {name: [s for s in sounds if s.use == sounds[0].use] for name, sounds in figures.items()}
    pairs = [
        (a, b)
        for a in once
        for b in once
        if a < b and len(once[a]) == len(once[b]) and [s.kind for s in once[a]] != [s.kind for s in once[b]]
    ]
    if not pairs:
        return None
    pair = pairs[int(rng.integers(len(pairs)))]
    right = int(rng.integers(2))
    # At the other's places, or the rhythm alone would tell.
    places = once[pair[0]]
    sounds = [
        replace(s, position=p.position - places[0].position) for s, p in zip(once[pair[right]], places, strict=True)
    ]
    kinds = ", ".join(kind_said(s.kind) for s in sounds)
    return Question(
        "which_figure", {"one": pair[0], "other": pair[1]}, pair, right, clips=(_clip(sounds, tempo),),
        why=f"A {pair[right]}: {kinds}.",
    )  # fmt: skip


KINDS: dict[QuestionKind, Asked] = {
    "how_many": how_many,
    "what_missing": what_missing,
    "which_late": which_late,
    "even_or_swung": even_or_swung,
    "which_foot": which_foot,
    "same_or_changed": same_or_changed,
    "where_is_one": where_is_one,
    "hold_or_none": hold_or_none,
    "which_faster": which_faster,
    "which_figure": which_figure,
}


def round_of(
    part: Part, tempo: float, rng: np.random.Generator, *, many: int, answers: Sequence[Given] = ()
) -> list[Question]:
    """Questions about a part without a take, as hard as the answers so far ask for; no kind twice before all that
    the part gives room for were asked. Fewer than three sounds give none."""
    of = material(part)
    asked: list[Question] = []
    failed: set[QuestionKind] = set()
    while len(asked) < many and len(failed) < len(KINDS):
        kinds = [kind for kind in KINDS if kind not in failed]
        rng.shuffle(kinds)
        for kind in kinds[: many - len(asked)]:
            for _ in range(4):
                question = KINDS[kind](of, tempo, level(answers, kind), rng)
                if question is not None:
                    asked.append(question)
                    break
            else:
                failed.add(kind)
    return asked


def material(part: Part) -> Material:
    """What there is of a part to ask about."""
    wanted = [s for s in part.sounds if s.heard and not s.optional]
    places = [s.position for s in wanted]
    in_order = sorted(zip(ticks(places, ticks_in_a_count(places)), range(len(wanted)), strict=True))
    heard, single, last = [], [], None
    for tick, index in in_order:
        heard.append(wanted[index])
        if tick != last:
            single.append(wanted[index])
        last = tick
    return Material(part, tuple(heard), tuple(single))


def _stretch(of: Material, many: int, rng: np.random.Generator) -> list[Sound]:
    """Some neighbouring sounds of a part; no two at one place, or they could not be counted."""
    first = int(rng.integers(max(1, len(of.single) - many + 1)))
    return list(of.single[first : first + many])


def _clip(sounds: Sequence[Sound], tempo: float, *, like: Sequence[Sound] | None = None) -> Clip:
    """A clip of sounds from the first of them on, or of those that it is `like`."""
    among = like or sounds
    first = among[0].position // 1
    moved = tuple(replace(s, position=s.position - first) for s in sounds)
    return Clip(moved, max(among[-1].position - first, moved[-1].position) + 1, tempo)


def _words(part: Part, sounds: Sequence[Sound]) -> list[str]:
    counting = part.settings.counting
    return [f"{kind_said(s.kind)} on {counting.name(s.place)}" for s in sounds]
