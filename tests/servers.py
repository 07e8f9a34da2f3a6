"""A sound server and a screen of a test's own, by Debian's programs; tests skip where these are not."""

import contextlib
import os
import shutil
import signal
import subprocess
import time
import unittest
from collections.abc import Callable
from pathlib import Path

from tests.support import PATIENCE_S, time_passes

PULSE = """
load-module module-native-protocol-unix auth-anonymous=1 socket={socket}
load-module module-null-sink sink_name=loop format=float32le rate=48000 channels=2 norewinds=1
load-module module-remap-source source_name=loopin master=loop.monitor remix=no
set-default-sink loop
set-default-source loopin
"""


def until(ready: Callable[[], bool]) -> bool:
    """Wait in all patience until something holds; whether it does."""
    end = time.monotonic() + PATIENCE_S
    while time.monotonic() < end and not ready():
        time_passes()
        time.sleep(0.01)
    return ready()


def sound_server(case: unittest.TestCase, folder: Path) -> tuple[subprocess.Popen, dict[str, str]]:
    """A server whose loudspeaker is its microphone, until the test is over, and what programs need to find it."""
    if shutil.which("pulseaudio") is None:
        case.skipTest("pulseaudio is not installed: no loop to record through")
    socket = folder / "pulse.sock"
    (folder / "loop.pa").write_text(PULSE.format(socket=socket))
    env = {k: v for k, v in os.environ.items() if k not in ("XDG_RUNTIME_DIR", "PULSE_SERVER")}
    env |= {"PULSE_RUNTIME_PATH": str(folder / "run"), "PULSE_STATE_PATH": str(folder / "state")}
    for name in ("run", "state"):
        (folder / name).mkdir()
    server = subprocess.Popen(
        ["pulseaudio", "-n", "--daemonize=no", "--exit-idle-time=-1", "--use-pid-file=no", "-F",
         str(folder / "loop.pa")],
        env=env, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
    )  # fmt: skip
    case.addCleanup(end_server, server)
    if not until(lambda: socket.exists() or server.poll() is not None) or not socket.exists():
        case.skipTest("the sound server did not start")
    return server, {**env, "PULSE_SERVER": f"unix:{socket}"}


def end_server(server: subprocess.Popen) -> None:
    """Let a server die at once."""
    with contextlib.suppress(ProcessLookupError):
        server.send_signal(signal.SIGKILL)
    server.wait(PATIENCE_S)


def screen(case: unittest.TestCase, size: str = "1366x768x24") -> str:
    """The display of a screen without a window manager, until the test is over."""
    if shutil.which("Xvfb") is None:
        case.skipTest("Xvfb is not installed")
    reader, writer = os.pipe()
    made = subprocess.Popen(
        ["Xvfb", "-displayfd", str(writer), "-screen", "0", size], pass_fds=(writer,),
        stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
    )  # fmt: skip
    case.addCleanup(made.wait)
    case.addCleanup(made.terminate)
    os.close(writer)
    with os.fdopen(reader) as told:
        return f":{told.readline().strip()}"
