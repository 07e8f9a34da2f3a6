"""Devices: the reel by the clock, the null backend, the simulated pair, a device that goes away, and a real loop.

The real loop needs the sound server pulseaudio (Debian); where it is not there the test says so.
"""

import subprocess
import sys
import textwrap
import threading
import time
import unittest
import unittest.mock
from pathlib import Path

import miniaudio
import numpy as np

from firn.core.ear.onsets import find_onsets
from firn.devices import clock
from firn.devices.clock import RATE, Clock
from firn.devices.duplex import SIMULATED_LATENCY_S, DeviceDuplex, SimulatedDuplex, best_duplex
from firn.devices.outputs import ClockOutput, best_output
from firn.devices.recorder import GONE_S, Recorder
from firn.devices.reel import Reel
from tests.servers import end_server, sound_server, until
from tests.support import PATIENCE_S, FolderCase, hurry

NULL = [miniaudio.Backend.NULL]


def clicks(times_s: list[float], seconds: float) -> np.ndarray:
    """Bursts at some times, shape (n,)."""
    sound = np.zeros(round(seconds * RATE), dtype=np.float32)
    burst = (np.hanning(480)[240:] * 0.6 * np.sin(np.arange(240) * 0.4)).astype(np.float32)
    for time_s in times_s:
        first = round(time_s * RATE)
        sound[first : first + len(burst)] += burst
    return sound


def stereo(sound: np.ndarray) -> np.ndarray:
    return np.repeat(sound[:, None], 2, axis=1)


class ReelTest(unittest.TestCase):
    def test_first_then_turn_after_turn(self) -> None:
        first, turn = np.full((3, 2), 1.0, np.float32), np.full((2, 2), 2.0, np.float32)
        reel = Reel(first, turn)
        self.assertEqual(reel.read(6)[:, 0].tolist(), [1, 1, 1, 2, 2, 2])
        reel.swap(None)
        self.assertEqual(reel.read(3)[:, 0].tolist(), [2, 0, 0])
        self.assertTrue(reel.where(0.0)[2])

    def test_the_clock_keeps_time(self) -> None:
        """Whatever time does, as many frames are asked for as it says, and none twice."""
        told = iter([7.0, 7.015625, 7.015625, 7.5, 7.5 + 2**-20])
        asked: list[int] = []
        stops = iter([False] * 4 + [True])
        with (
            unittest.mock.patch.object(clock, "now", lambda: next(told)),
            unittest.mock.patch.object(clock, "waited", lambda stop, seconds: next(stops)),
        ):
            Clock._run(asked.append, threading.Event())
        self.assertEqual(asked, [750, 0, 23_250, 0])

    def test_a_clock_that_is_stopped_calls_no_more(self) -> None:
        calls: list[int] = []
        running = Clock()
        running.start(calls.append)
        self.assertTrue(until(lambda: len(calls) > 2))
        running.stop()
        self.assertFalse(any(t.name == "firn-clock" for t in threading.enumerate()))


class SimulatedTest(unittest.TestCase):
    def test_what_the_student_dances_is_recorded_so_late(self) -> None:
        hurry(self)
        times = [0.1, 0.35, 0.5]
        recorder = Recorder(SimulatedDuplex(clicks(times, 0.8)), Reel(stereo(clicks(times, 0.8)), None))
        recorder.start()
        self.assertTrue(until(lambda: recorder.reel.where(0.0)[2]))
        self.assertFalse(recorder.gone)
        heard = find_onsets(recorder.stop(), RATE).times_s
        np.testing.assert_allclose(heard, np.array(times) + SIMULATED_LATENCY_S, atol=0.001)

    def test_without_a_device_it_stands_in_and_says_so(self) -> None:
        """No sound server and no card, as on a bare machine."""
        with unittest.mock.patch.object(miniaudio, "DuplexStream", side_effect=miniaudio.MiniaudioError("none", -1)):
            duplex, why = best_duplex(lambda: np.zeros(10, np.float32))
        self.assertTrue(duplex.simulated)
        self.assertEqual(
            why, "No microphone answers. The simulated student dances instead, and nothing of yours is heard."
        )
        with unittest.mock.patch.object(
            miniaudio, "PlaybackDevice", side_effect=miniaudio.MiniaudioError("none", -1)
        ):
            output, why = best_output()
        self.assertIsInstance(output, ClockOutput)
        self.assertIn("in silence", why)


class NullBackendTest(unittest.TestCase):
    def test_plays_and_records_at_an_even_pace(self) -> None:
        """miniaudio's null backend: silence, paced in real time."""
        recorder = Recorder(DeviceDuplex(NULL), Reel(np.ones((RATE, 2), np.float32), None))
        began = time.monotonic()
        recorder.start()
        self.assertTrue(until(lambda: recorder.seconds > 0.4))
        took = time.monotonic() - began
        sound = recorder.stop()
        self.assertAlmostEqual(took, 0.4, delta=0.35)
        self.assertEqual(float(np.abs(sound).max()), 0.0)
        self.assertTrue(recorder.duplex.name.startswith("Null"))

    def test_a_device_that_goes_away_is_noticed_and_what_was_heard_is_kept(self) -> None:
        recorder = Recorder(DeviceDuplex(NULL), Reel(np.zeros((RATE * 9, 2), np.float32), None))
        recorder.start()
        self.assertTrue(until(lambda: recorder.seconds > 0.2))
        self.assertFalse(recorder.gone)
        # Stopped behind the recorder's back, as when its plug is pulled.
        recorder.duplex._device.stop()
        last = clock.now()
        with unittest.mock.patch.object(clock, "now", lambda: last + GONE_S * 0.9):
            self.assertFalse(recorder.gone)
        with unittest.mock.patch.object(clock, "now", lambda: last + GONE_S * 1.1):
            self.assertTrue(recorder.gone)
        self.assertGreater(len(recorder.stop()), 0.2 * RATE)


ROUND = """
    import sys, time
    import numpy as np
    from firn.devices.duplex import DeviceDuplex
    from firn.devices.outputs import DeviceOutput
    from firn.devices.recorder import Recorder
    from firn.devices.clock import RATE
    from firn.devices.reel import Reel
    from firn.session.recording import clap_sheet, clapped
    audio, clicks = clap_sheet()
    if sys.argv[1] == "latency":
        recorder = Recorder(DeviceDuplex(), Reel(audio, None))
        recorder.start()
        while not recorder.reel.where(0.0)[2]:
            time.sleep(0.05)
        time.sleep(0.3)
        found = clapped(recorder.stop(), clicks)
        print(recorder.duplex.name, found.ms, found.spread_ms, found.claps, sep="|")
    elif sys.argv[1] == "beside":
        from firn.devices.microphone import Listener, best_microphone
        listener = Listener(best_microphone())
        listener.start()
        played = np.zeros((3 * RATE, 2), dtype=np.float32)
        for at in (0.5, 1.0, 1.25, 2.0):
            played[round(at * RATE) : round(at * RATE) + 240] = 0.5
        output = DeviceOutput()
        output.start(Reel(played, None))
        time.sleep(3.6)
        heard = np.flatnonzero(np.abs(listener.between(0, listener.now)) > 0.2)
        begun = heard[np.insert(np.diff(heard) > RATE // 20, 0, True)]
        print(*(np.diff(begun) / RATE), flush=True)
        import os
        os._exit(0)
    elif sys.argv[1] == "pulled":
        recorder = Recorder(DeviceDuplex(), Reel(audio, None))
        recorder.start()
        time.sleep(1.0)
        print("ready", flush=True)
        end = time.monotonic() + 15
        while not recorder.gone and time.monotonic() < end:
            time.sleep(0.05)
        print(recorder.gone, flush=True)
        print(len(recorder._chunks) > 10, flush=True)
        import os
        os._exit(0)
"""


class LoopTest(FolderCase):
    """A real device: a sound server of the test's own, whose loudspeaker is its microphone."""

    def setUp(self) -> None:
        super().setUp()
        self.server, self.env = sound_server(self, self.folder)

    def start(self, what: str) -> subprocess.Popen:
        code = textwrap.dedent(ROUND)
        src = Path(__file__).parents[2] / "src"
        process = subprocess.Popen([sys.executable, "-c", code, what], env={**self.env, "PYTHONPATH": str(src)},
                                   stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True)  # fmt: skip
        self.addCleanup(process.communicate)
        self.addCleanup(process.kill)
        return process

    def test_the_delay_of_the_loop(self) -> None:
        """The clicks come back through the loop themselves: one delay for all, within 1 ms of one another.

        A machine with more to do than it has cores loses blocks, and clicks in them: told by `claps`, and
        gone through again, as its user would be asked to. The delay and its spread must hold every time.
        """
        for _ in range(5):
            out, err = self.start("latency").communicate(timeout=PATIENCE_S)
            self.assertIn("|", out, err)
            name, ms, spread, claps = out.strip().split("|")
            self.assertIn("PulseAudio", name)
            self.assertTrue(0 < float(ms) < 400, out)
            self.assertLess(float(spread), 1.0)
            if int(claps) >= 9:
                return
        self.fail(f"of ten clicks {claps} came back, the last time too")

    def test_a_microphone_beside_what_plays(self) -> None:
        """What an output plays a microphone of its own hears, each sound as long after the one before.

        Lost blocks, as above, shift a sound by all that was lost: it is gone through again.
        """
        meant = (0.5, 0.25, 0.75)
        for last in (*(False,) * 4, True):
            out, err = self.start("beside").communicate(timeout=PATIENCE_S)
            gaps = [float(gap) for gap in out.split()]
            held = len(gaps) == len(meant) and all(abs(g - m) < 0.003 for g, m in zip(gaps, meant, strict=True))
            if held or last:
                self.assertTrue(held, (gaps, err))
                return

    def test_a_server_that_dies_in_mid_take(self) -> None:
        process = self.start("pulled")
        assert process.stdout is not None
        self.assertEqual(process.stdout.readline().strip(), "ready")
        end_server(self.server)
        self.assertEqual([process.stdout.readline().strip() for _ in range(2)], ["True", "True"])


if __name__ == "__main__":
    unittest.main()
