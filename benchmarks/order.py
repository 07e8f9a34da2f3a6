"""Two sounds exchanged at equal times, on feet of a second synthesiser: told at the right pair, not where none is."""

import numpy as np
from tests import shoes, takes
from tests.support import part as part_of

from benchmarks.report import figure, heading
from firn.core.ear.onsets import find_onsets
from firn.core.ear.verdict import NothingHeard, judge
from firn.core.piece.piece import Part
from firn.session.listening import with_colours

LINES = (
    "1 stamp  & brush  2 step  & heel  3 brush  & step  4 stamp  & heel\n"
    "5 step  & brush  6 heel  & step  7 stamp  8 clap",
    "1 step  & heel  2 brush  & step  3 heel  & stamp  4 brush  & heel\n"
    "5 step  6 brush  & heel  7 step  & stamp  8 heel",
    "&1 flap  & heel  2 stamp  &3 shuffle  & ball change  4 heel\n"
    "&5 flap  & heel  6 stamp  &7 shuffle  & ball change  8 heel",
    "1 heel  & clap  2 step  & brush  3 heel  & clap  4 step\n"
    "5 brush  & heel  6 clap  & step  7 brush  & step  8 clap",
)
PARTS = {
    "step": "ball", "touch": "ball", "toe": "ball", "hop": "ball", "land": "ball", "leap": "ball", "jump": "ball",
    "flat": "flat", "stomp": "flat", "heel": "heel", "heel_step": "heel", "dig": "heel", "toe_tip": "tip",
    "brush": "brush", "spank": "brush", "scuff": "brush", "pickup": "brush", "slide": "slide",
}  # fmt: skip
PASSES, TEMPO, JITTER_S = 4, 104.0, 0.008
MANY = 60


def danced(part: Part, seed: int, exchanged: int | None) -> tuple[np.ndarray, int]:
    """A take of a part, four times; `exchanged`: this sound and its next change places in every pass."""
    rng = np.random.default_rng(seed)
    sounds = sorted((s for s in part.sounds if s.heard), key=lambda s: s.position)
    kinds = [PARTS.get(s.kind, "hand") for s in sounds]
    if exchanged is not None:
        kinds[exchanged], kinds[exchanged + 1] = kinds[exchanged + 1], kinds[exchanged]
    first = float(sounds[0].position)
    placed = [
        ((float(s.position) - first + n * part.counts) * 60 / TEMPO + 0.6 + rng.normal(0, JITTER_S), kind)
        for n in range(PASSES)
        for s, kind in zip(sounds, kinds, strict=True)
    ]
    audio, _ = shoes.laid(placed, shoes.shoe(rng, kind="plates"), shoes.floor(rng), rng, soft_db=6)
    audio = shoes.hiss(shoes.in_room(audio, int(rng.integers(20)), 0.3), rng)
    return audio, shoes.RATE


def told(part: Part, audio: np.ndarray, rate: int) -> set[tuple[int, ...]]:
    """The pairs of sounds that are said to have changed places."""
    onsets = find_onsets(audio, rate)
    verdict = with_colours(part, judge(part, TEMPO, onsets), audio, rate)
    return {one.sounds for one in verdict.order}


def order() -> None:
    """Sixty takes with an exchange in every pass, and sixty without."""
    heading(f"Two sounds exchanged ({MANY} takes each, plates on three floors, rooms of .3 s)")
    if takes.hits_folder() is None:
        print("  the recorded hits (sonic-pi-samples) could not be had: nothing measured")
        return
    parts = [part_of(line) for line in LINES]
    right = elsewhere = wrong = refused = 0
    for seed in range(MANY):
        part = parts[seed % len(parts)]
        sounds = sorted(((s.position, i, s) for i, s in enumerate(part.sounds) if s.heard), key=lambda s: s[:2])
        kinds = [PARTS.get(s.kind, "hand") for _, _, s in sounds]
        pairs = [k for k in range(len(kinds) - 1) if kinds[k] != kinds[k + 1]]
        chosen = pairs[seed * 7 % len(pairs)]
        meant = (sounds[chosen][1], sounds[chosen + 1][1])
        try:
            found = told(part, *danced(part, 1_000 + seed, chosen))
            right += meant in found
            elsewhere += bool(found - {meant})
            wrong += bool(told(part, *danced(part, 5_000 + seed, None)))
        except NothingHeard:
            refused += 1
    figure("exchanged and told", f"{100 * right / MANY:.0f} of 100", "90")
    figure("exchanged, and told elsewhere too", f"{100 * elsewhere / MANY:.0f} of 100")
    figure("not exchanged, and told", f"{100 * wrong / MANY:.0f} of 100", "2 or fewer")
    figure("refused", f"{refused}")
