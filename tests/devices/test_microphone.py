"""What a microphone heard of late: kept by frames, as much as is kept, by Firn's clock."""

import unittest
from unittest import mock

import numpy as np

from firn.devices import clock, microphone
from firn.devices.clock import RATE
from firn.devices.microphone import GONE_S, Hears, Listener
from tests.support import cases


class ByHand:
    """A microphone that hears what it is told to."""

    def start(self, hears: Hears) -> None:
        self.hears = hears

    def stop(self) -> None:
        self.stopped = True


class ListenerTest(unittest.TestCase):
    def setUp(self) -> None:
        self.now = 100.0
        patched = mock.patch.object(clock, "now", lambda: self.now)
        patched.start()
        self.addCleanup(patched.stop)
        self.by_hand = ByHand()
        self.listener = Listener(self.by_hand)
        self.listener.start()

    def hear(self, frames: int) -> None:
        first = self.listener._next
        self.by_hand.hears(np.arange(first, first + frames, dtype=np.float32))

    @cases(
        ("inside a block", 10, 20, (10, 20)),
        ("over blocks", 80, 250, (80, 250)),
        ("not heard yet", 250, 900, (250, 300)),
        ("from before the beginning", -50, 5, (0, 5)),
        ("nothing", 400, 500, None),
    )
    def test_between(self, _: str, first: int, last: int, wanted: tuple[int, int] | None) -> None:
        self.setUp()
        for _block in range(3):
            self.hear(100)
        heard = self.listener.between(first, last)
        np.testing.assert_array_equal(heard, np.arange(*wanted) if wanted else np.zeros(0))

    def test_the_last_minutes_are_kept(self) -> None:
        with mock.patch.object(microphone, "MOST_S", 200 / RATE):
            for _ in range(5):
                self.hear(100)
        self.assertEqual(self.listener.between(0, 1_000)[0], 200)

    def test_between_calls_it_goes_by_the_clock_and_then_it_is_gone(self) -> None:
        self.hear(480)
        self.assertEqual(self.listener.now, 480)
        self.now += 0.02
        self.assertEqual(self.listener.now, 480 + round(0.02 * RATE))
        self.assertFalse(self.listener.gone)
        self.now += GONE_S
        self.assertTrue(self.listener.gone)
        self.listener.stop()
        self.assertTrue(self.by_hand.stopped)


if __name__ == "__main__":
    unittest.main()
