"""A drill that is listened to: what the microphone hears of each time, two claps, and a take of each stage."""

from fractions import Fraction
from unittest import mock

import numpy as np
from PySide6.QtCore import Qt

from firn.core.drills.run import At
from firn.core.drills.stage import Drill, Stage
from firn.core.ear.student import Faults, dance
from firn.core.sound.voices import FloatArray, voice
from firn.core.timeline.timeline import Section
from firn.devices import microphone
from firn.devices.clock import RATE, Clock
from firn.errors import DeviceError
from firn.ui.pages.entries import DRILL
from tests.support import comes, hurry, wait
from tests.ui.window import SHIFT, WindowCase

EIGHT = "1 step  & step  2 step  3 stamp  & step  4 step  6 step  & step  7 step  8 stamp"


QUIET_S = 0.5
REST = 8
"""Counts after each time: how one went is heard before the next begins."""


class Room:
    """A microphone in a room in which sounds can be put, to be heard from now on."""

    def __init__(self) -> None:
        rng = np.random.default_rng(5)
        self.sound = (rng.standard_normal(400 * RATE) * 2e-4).astype(np.float32)
        self.at = 0
        self.unplugged = False
        self._clock = Clock()

    def start(self, hears: microphone.Hears) -> None:
        def tick(frames: int) -> None:
            if not self.unplugged:
                hears(self.sound[self.at : self.at + frames].copy())
            self.at += frames

        self._clock.start(tick)

    def stop(self) -> None:
        self._clock.stop()

    def put(self, sound: FloatArray, later_s: float) -> None:
        first = self.at + round(later_s * RATE)
        self.sound[first : first + len(sound)] += sound

    def clap_twice(self, later_s: float = 0.2) -> None:
        """Two claps, soon."""
        for clap_s in (later_s, later_s + 0.35):
            self.put(0.6 * voice("clap"), clap_s)


class EarCase(WindowCase):
    TIMES = 2

    def setUp(self) -> None:
        super().setUp()
        hurry(self, 4, held=lambda: self.window.jobs.working)
        self.dictate(EIGHT)
        self.desk.commit()
        self.window.show_page(DRILL)
        part = self.desk.part_id
        stages = (Stage("click", (part,), None, 132, 132, 4, "as written", self.TIMES, "click", REST),)
        self.window.rooms.drills._add(Drill("d", self.desk.piece.id, "Monday", stages))
        self.run_ = self.window.rooms.drills.run
        self.away = self.window.stand_back
        self.room = Room()
        self.danced: list[FloatArray] = []
        self.begun = 0
        self.section: Section | None = None
        self.run_.begun_one.connect(self._begun)
        self.window.dancing.moved.connect(self._dance)
        wait(10)

    def _begun(self, turn: int, at: At, section: Section) -> None:
        self.begun, self.section = turn, section

    def _dance(self, position: Fraction, _: bool) -> None:
        """The student dances a time that has begun, with the faults that are next."""
        section, self.section = self.section, None
        if section is not None and self.danced:
            begins_s = float(section.seconds_at(section.first) - section.seconds_at(position))
            self.room.put(self.danced.pop(0), begins_s - QUIET_S + 0.05)

    def listen(self, *faults: Faults) -> None:
        tempo, rng = 132.0, np.random.default_rng(3)
        danced = [dance(self.desk.part, tempo, one, rng, passes=1).audio for one in faults]
        self.key(Qt.Key.Key_F8, SHIFT)
        self.assertTrue(comes(lambda: self.begun == 1))
        with mock.patch.object(microphone, "best_microphone", return_value=self.room):
            self.key(Qt.Key.Key_M, on=self.away)
        # From its count-in on.
        self.key(Qt.Key.Key_Space, on=self.away)
        self.assertTrue(comes(lambda: self.run_.stands_still))
        self.danced = danced
        self.key(Qt.Key.Key_Space, on=self.away)


class HeardTest(EarCase):
    def test_a_time_that_is_surely_clean_goes_on_and_a_slip_comes_again(self) -> None:
        self.listen(Faults(quiet_s=QUIET_S), Faults(quiet_s=QUIET_S, late_ms={4: 70.0}), Faults(quiet_s=QUIET_S))
        self.assertIn("listening", self.away.run.state)
        self.assertTrue(comes(lambda: len(self.book.log) == 2), self.window.banner.text)
        self.assertEqual([(e.how, e.tempo) for e in self.book.log], [("clean", 132), ("slip", 132)])
        self.assertIn("Heard: ", self.away.said)
        self.assertIn("late", self.away.said)
        # The second time again, as it had a slip.
        self.assertTrue(comes(lambda: self.run_.at == (0, 1)))
        self.key(Qt.Key.Key_Escape, on=self.away)
        self.settle()
        (take,) = self.book.takes
        self.assertEqual((take.name, take.source, take.tempo), ("Monday, A: to the click", "microphone", 132))
        self.assertEqual(take.part, self.desk.part_id)

    def test_what_is_not_sure_is_left_to_her(self) -> None:
        self.listen(Faults(quiet_s=QUIET_S, missing=frozenset({1, 2, 4, 5, 6})))
        self.assertTrue(comes(lambda: "1, 2 or 3 says how it went" in self.away.said), self.away.said)
        self.assertEqual(self.book.log, ())
        self.key(Qt.Key.Key_2, on=self.away)
        self.assertTrue(comes(lambda: [e.how for e in self.book.log] == ["slip"]))

    def test_what_she_says_herself_stands(self) -> None:
        self.listen(Faults(quiet_s=QUIET_S))
        self.assertTrue(comes(lambda: (self.run_.moved_to or 0) > 4))
        self.key(Qt.Key.Key_3, on=self.away)
        self.assertTrue(comes(lambda: self.begun == 3))
        self.assertEqual([e.how for e in self.book.log], ["lost"])


class ClapsTest(EarCase):
    TIMES = 12

    def clap_at(self, first: float, last: float) -> None:
        """Clap twice where a time is between two places."""
        self.assertTrue(comes(lambda: first <= (self.run_.moved_to or 0) < last), self.run_.moved_to)
        self.room.clap_twice()

    def test_again_pause_and_on(self) -> None:
        self.listen(Faults(quiet_s=QUIET_S))
        self.clap_at(8, 12)
        self.assertTrue(comes(lambda: self.away.said == "Two claps: again."), self.away.said)
        at, begun = self.run_.at, self.begun
        self.assertTrue(comes(lambda: self.begun > begun and self.run_.at == at), self.run_.at)
        self.clap_at(-4, -2.5)
        self.assertTrue(comes(lambda: self.run_.stands_still), self.away.said)
        self.assertEqual(self.away.said, "Two claps: a pause.")
        at, begun = self.run_.at, self.begun
        # Sooner they would be four claps.
        self.room.clap_twice(later_s=1.2)
        self.assertTrue(comes(lambda: self.begun > begun), self.away.said)
        self.assertEqual((self.run_.at, self.away.said), (at, "Two claps: on."))

    def test_once_more_the_key_and_it_listens_no_longer(self) -> None:
        self.listen()
        self.key(Qt.Key.Key_M, on=self.away)
        self.assertNotIn("listening", self.away.run.state)
        self.assertFalse(self.window.rooms.drills.ear.on)


class DeviceTest(EarCase):
    def test_without_a_microphone_it_is_said(self) -> None:
        self.key(Qt.Key.Key_F8, SHIFT)
        self.assertTrue(comes(lambda: self.begun == 1))
        with mock.patch.object(microphone, "best_microphone", side_effect=DeviceError("No microphone answers.")):
            self.key(Qt.Key.Key_M, on=self.away)
        self.assertEqual(self.away.said, "No microphone answers. Say yourself how it went: 1, 2 or 3.")
        self.assertTrue(self.running.player.playing)

    def test_one_that_goes_away_is_said(self) -> None:
        self.listen()
        self.room.unplugged = True
        self.assertTrue(comes(lambda: "The microphone went away" in self.away.said))
        self.assertFalse(self.window.rooms.drills.ear.on)
        self.assertTrue(self.running.player.playing)
