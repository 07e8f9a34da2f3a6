"""Places that are weighed beside each other: in blocks as at once, none at all, and what they are told by."""

import unittest
from unittest import mock

import numpy as np

from firn.core.ear import onsets, weighing
from firn.core.ear.onsets import find_onsets, places_in
from firn.core.ear.weighing import seen_of, weighed
from tests import shoes


def taken(seed: int = 2) -> np.ndarray:
    """Twelve seconds of feet in a room."""
    rng = np.random.default_rng(seed)
    times = shoes.rhythm(rng, 30, least_s=0.1)
    audio, _ = shoes.laid(
        list(zip(map(float, times), shoes.parts(rng, len(times), "heel", "ball", "flat"), strict=True)),
        shoes.shoe(rng), shoes.floor(rng), rng, soft_db=8,
    )  # fmt: skip
    return np.asarray(shoes.hiss(shoes.in_room(audio, 3, 0.3), rng), dtype=np.float32)


class WeighedTest(unittest.TestCase):
    def test_blocks_make_no_seam(self) -> None:
        found = places_in(taken(), shoes.RATE)
        args = (found.heard, found.frames, found.times_s, found.levels_db)
        whole = weighed(*args)
        self.assertEqual(whole.shape, found.times_s.shape)
        with mock.patch.object(weighing, "BLOCK", 7):
            np.testing.assert_allclose(weighed(*args), whole, atol=1e-3)

    def test_nothing_to_weigh(self) -> None:
        found = places_in(taken(), shoes.RATE)
        none = np.zeros(0)
        self.assertEqual(weighed(found.heard, np.zeros(0, dtype=int), none, none).shape, (0,))

    def test_the_first_and_the_last_frame_are_places_too(self) -> None:
        heard = places_in(taken(), shoes.RATE).heard
        seen = seen_of(heard, np.array([0, len(heard.logits) - 1]), np.array([0.0, 9.0]), np.array([-20.0, -20.0]))
        self.assertEqual(seen.shape[0], 2)
        self.assertTrue(np.isfinite(seen).all())

    def test_what_was_weighed_and_is_no_foot_is_left_out(self) -> None:
        audio = taken()
        found = find_onsets(audio, shoes.RATE)
        with mock.patch.object(
            onsets, "weighed", lambda _, frames, *__: np.where(np.arange(len(frames)) % 2, 5.0, -5.0)
        ):
            half = find_onsets(audio, shoes.RATE)
        places = places_in(audio, shoes.RATE)
        np.testing.assert_array_equal(half.times_s, places.times_s[1::2])
        self.assertTrue(((found.surely > 0.4) & (found.surely <= 1)).all())


if __name__ == "__main__":
    unittest.main()
