"""Sounds read as steps: random combos of each tradition's cards, danced, with how they were struck known."""

import random
import time
from collections.abc import Iterator
from typing import NamedTuple

import numpy as np
from tests import shoes, takes
from tests.studio import SHOWN, Studio

from benchmarks.report import figure, heading
from firn.core.ear.onsets import Onsets, find_onsets
from firn.core.ear.shoes import Shoes, examples_in, learnt, told
from firn.core.ear.timbre import class_of
from firn.core.piece.build import piece_from
from firn.core.quantise.quantise import quantise
from firn.core.quantise.words import Struck, words_of
from firn.core.steps.card import Card
from firn.core.steps.kinds import KINDS
from firn.core.steps.shelf import TRADITIONS, shipped
from firn.session.drafting import may_be

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
    for feet in (True, False):
        _words(feet=feet)


def _words(*, feet: bool) -> None:
    known = "kinds and feet" if feet else "kinds alone"
    heading(f"Sounds into steps: {COMBOS} combos of {STEPS} of all traditions' cards, {known} known")
    right = offered = many = extra = 0
    took = 0.0
    for tradition, chosen, sounds in combos():
        sounds = sounds if feet else [Struck(s.place, s.kinds) for s in sounds]
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


CLASSES = ("heel", "ball", "tip", "flat", "brush", "slide", "hand")
STRIKES = {shown: struck for struck, shown in SHOWN.items()}
TEMPO, JITTER_S = 84.0, 0.008
LOOSELY_S, AMISS, UNDER_DB = 0.02, 0.05, 10


def from_sound() -> None:
    """The same from their sound alone, in shoes that were taught by five examples of each kind: words that begin at
    their place and are right, of all of which every beat is heard. Danced well; and loosely, under a count."""
    for beset in (False, True):
        _from_sound(beset=beset)


class Heard(NamedTuple):
    """A combo as it was danced and heard: its tradition, cards and sounds; when each of its sounds that is heard was
    struck, in seconds, by its number; the recording, its onsets, and what these shoes sound like, None where the
    examples were refused."""

    tradition: str
    chosen: list[Card]
    sounds: list[Struck]
    struck_s: dict[int, float]
    audio: np.ndarray
    onsets: Onsets
    known: Shoes | None
    again: bool


def danced(*, beset: bool) -> Iterator[Heard]:
    """The combos by a second synthesiser, in shoes that were taught by five examples of each kind: danced well, or
    loosely, with sounds left out and too many, under a voice that counts."""
    for number, (tradition, chosen, sounds) in enumerate(combos()):
        shown = [class_of(s.kinds[0]) for s in sounds]
        one, used = Studio(2_000 + number), [k for k in CLASSES if k in {STRIKES[s] for s in shown}]
        # A kind is taught beside another.
        used = used if len(used) > 1 else [*used, "hand" if "hand" not in used else "ball"]
        places = [float(s.place) for s in sounds]
        jitter_s = LOOSELY_S if beset else JITTER_S
        at = [(place - places[0]) * 60 / TEMPO + 0.6 + one.rng.normal(0, jitter_s) for place in places]
        audible = [n for n, s in enumerate(sounds) if not KINDS[s.kinds[0]].silent]
        struck_s = {n: at[n] for n in audible}
        placed = [(at[n], STRIKES[shown[n]]) for n in audible]
        examples = one.examples(used)
        groups = examples_in(find_onsets(examples, shoes.RATE), len(used))
        again = groups is None and len(used) > 2 and "slide" in used
        if again:
            # Where not each slide is heard to begin she leaves them out, as she is told to.
            used.remove("slide")
            examples = one.examples(used)
            groups = examples_in(find_onsets(examples, shoes.RATE), len(used))
        if beset:
            placed = _beset(placed, one)
            struck_s = {n: time for n, time in struck_s.items() if any(time == at_s for at_s, _ in placed)}
        audio, _ = one.take(placed)
        if beset:
            beats = np.arange(placed[0][0], placed[-1][0], 60 / TEMPO)
            aloud = shoes.counting(beats, len(audio) / shoes.RATE, one.rng)
            audio = np.clip(audio + aloud * np.abs(audio).max() * 10 ** (-UNDER_DB / 20), -1, 1)
        known = None
        if groups is not None:
            known = learnt({SHOWN[k]: g for k, g in zip(used, groups, strict=True)}, examples, shoes.RATE)
        yield Heard(tradition, chosen, sounds, struck_s, audio, find_onsets(audio, shoes.RATE), known, again)


def _from_sound(*, beset: bool) -> None:
    how = "20 ms of jitter, 5 % missing, 5 % extra, a voice counting 10 dB under" if beset else "danced well"
    heading(f"Sounds into steps: the same {COMBOS} combos by a second synthesiser, {TEMPO:.0f} a minute, {how}")
    if takes.hits_folder() is None:
        print("  the recorded hits (sonic-pi-samples) could not be had: nothing measured")
        return
    right = offered = many = struck_right = struck_of = heard = again = 0
    for one in danced(beset=beset):
        sounds, onsets = one.sounds, one.onsets
        begins = {sounds[sum(len(c.beats) for c in one.chosen[:n])].place: card for n, card in enumerate(one.chosen)}
        # What is kicked in silence no ear can tell.
        begins = {at: card for at, card in begins.items() if not any(b.kind.silent for b in card.beats)}
        many += len(begins)
        again += one.again
        if one.known is None or len(onsets) < 2:
            continue
        struck = told(one.known, one.audio, shoes.RATE, onsets.times_s)
        read = quantise([float(t) for t in onsets.times_s], tempo=TEMPO)[0]
        # What is kicked first in silence is not the first that is heard.
        shift = next(s.place for s in sounds if not KINDS[s.kinds[0]].silent) - read.places[0]
        at = {place + shift: kind.kind for place, kind in zip(read.places, struck, strict=True)}
        for sound in sounds:
            struck_of += sound.place in at
            struck_right += at.get(sound.place) == class_of(sound.kinds[0])
        heard += len(one.struck_s)
        said = [Struck(place + shift, may_be(kind), "") for place, kind in zip(read.places, struck, strict=True)]
        for named in words_of(said, one.tradition, shipped(), heard=True):
            card = begins.get(named.places[0])
            here = card is not None and alike_heard(named.card, card)
            right += here
            offered += here or (card is not None and any(alike_heard(rival, card) for rival in named.rivals))
    figure("words right", f"{100 * right / many:.0f} %", "88 %")
    figure("right or on a key", f"{100 * offered / many:.0f} %")
    figure("  shoes taught without slides, as these were not told apart", str(again))
    figure("  sounds found at their counts", f"{100 * struck_of / max(1, heard):.0f} %")
    figure("  of these, told what struck", f"{100 * struck_right / max(1, struck_of):.0f} %")


def _beset(placed: shoes.Placed, one: Studio) -> shoes.Placed:
    """Some of the sounds left out, but for the first, and as many put elsewhere."""
    kept = [sound for n, sound in enumerate(placed) if not n or one.rng.random() >= AMISS]
    more = one.rng.binomial(len(placed), AMISS)
    times = one.rng.uniform(placed[0][0] + 0.1, placed[-1][0], more)
    extra = [(float(at), placed[int(one.rng.integers(len(placed)))][1]) for at in times]
    return sorted([*kept, *extra])


def alike_heard(one: Card, other: Card) -> bool:
    """Whether two cards sound alike: as many strikes, each of what a strike can show."""
    return [class_of(b.kind.name) for b in one.beats] == [class_of(b.kind.name) for b in other.beats]
