"""An evening's shoes on a floor in a room, by the second synthesiser (tests/shoes.py): examples, and dances."""

from collections.abc import Sequence

import numpy as np

from tests import shoes

SHOWN = {
    "heel": "heel",
    "ball": "ball",
    "tip": "tip",
    "flat": "flat",
    "brush": "airy",
    "slide": "slide",
    "hand": "hand",
}
FIVE, MANY = 5, 60


class Studio:
    """Shoes on a floor in a room, as one evening has them."""

    def __init__(self, seed: int) -> None:
        self.rng = np.random.default_rng(70_000 + seed)
        self.worn, self.ground = shoes.shoe(self.rng), shoes.floor(self.rng)
        self.room, self.rings_s = int(self.rng.integers(20)), float(self.rng.choice([0.2, 0.3, 0.4]))

    def take(self, placed: shoes.Placed) -> tuple[np.ndarray, np.ndarray]:
        """A recording of sounds at times: audio, and when each begins."""
        audio, truth = shoes.laid(placed, self.worn, self.ground, self.rng, soft_db=8)
        return shoes.hiss(shoes.in_room(audio, self.room, self.rings_s), self.rng), truth

    def examples(self, kinds: Sequence[str]) -> np.ndarray:
        """Five of each, one kind after the other, with a rest between."""
        placed: shoes.Placed = []
        at = 0.6
        for kind in kinds:
            for _ in range(FIVE):
                placed.append((at, kind))
                at += 0.9 if kind == "slide" else 0.6 + self.rng.normal(0, 0.04)
            at += 3.0
        return self.take(placed)[0]

    def danced(self, kinds: Sequence[str]) -> tuple[np.ndarray, np.ndarray, list[str]]:
        """Sounds in any order, at counts, halves and thirds of a count."""
        parts = shoes.parts(self.rng, MANY, *kinds)
        least = [0.75 if part == "slide" else 0.0 for part in parts]
        times = shoes.rhythm(self.rng, MANY, least_s=0.16)
        times = times + np.concatenate([[0.0], np.cumsum(least)[:-1]])
        audio, truth = self.take(list(zip(times.tolist(), parts, strict=True)))
        return audio, truth, parts
