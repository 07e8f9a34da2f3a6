"""Sounds read as steps: random combos of each tradition's cards, danced, with how they were struck known."""

import random
import time

from benchmarks.report import figure, heading
from firn.core.piece.build import piece_from
from firn.core.quantise.words import Struck, words_of
from firn.core.steps.card import Card
from firn.core.steps.shelf import TRADITIONS, shipped

COMBOS, STEPS = 50, 8
SEED = 21


def combos() -> list[tuple[str, list[Card], list[Struck]]]:
    """Combos that can be danced, each with its cards and its sounds; traditions in turn."""
    rng, shelf = random.Random(SEED), shipped()
    found: list[tuple[str, list[Card], list[Struck]]] = []
    danced = [t for t in TRADITIONS if t not in ("floor work", "marking")]
    while len(found) < COMBOS:
        tradition = danced[len(found) % len(danced)]
        cards = [c for c in shelf.cards if tradition in c.traditions and not c.retired]
        chosen = [rng.choice(cards) for _ in range(STEPS)]
        text = "\n".join(shelf.word_for(c, tradition) for c in chosen)
        part = piece_from(f"tradition: {tradition}\npart A\n{text}").parts[0]
        if part.problems or part.footing.faults or [u.card for u in part.uses] != chosen:
            continue
        sounds = [Struck(s.place, (s.kind,), s.foot) for s in part.sounds]
        if [s.use for s in part.sounds] != sorted(s.use for s in part.sounds):
            continue
        found.append((tradition, chosen, sounds))
    return found


def alike(one: Card, other: Card) -> bool:
    """Whether two cards are the same to look at and to hear: names differ between schools."""
    return [(b.kind, b.role) for b in one.beats] == [(b.kind, b.role) for b in other.beats]


def words() -> None:
    """Words right, in their place; and with a rival that is."""
    heading(f"Sounds into steps: {COMBOS} combos of {STEPS} of all traditions' cards, kinds and feet known")
    right = offered = many = extra = 0
    took = 0.0
    for tradition, chosen, sounds in combos():
        began = time.perf_counter()
        read = {one.first: one for one in words_of(sounds, tradition, shipped())}
        took += time.perf_counter() - began
        first = 0
        for card in chosen:
            one = read.get(first)
            here = one is not None and alike(one.card, card)
            right += here
            offered += here or (one is not None and any(alike(rival, card) for rival in one.rivals))
            many += 1
            first += len(card.beats)
        extra += len(read) - len(chosen)
    figure("words right", f"{100 * right / many:.1f} %", "97 %")
    figure("right or on a key", f"{100 * offered / many:.1f} %")
    figure("words too many or too few", str(extra))
    figure("a combo", f"{1000 * took / COMBOS:.0f} ms")
