"""Whether there is a display to show a window on: asked before Qt, which would end without a helpful word."""

import os
from collections.abc import Mapping
from pathlib import Path

ANSWER_S = 5.0
COMMANDS = "The commands read, check, measure, play, onsets and listen need none."


def display_fault(env: Mapping[str, str] = os.environ, *, answer_s: float = ANSWER_S) -> str:
    """Why no window can be shown, in one sentence; "" where one can."""
    platform = env.get("QT_QPA_PLATFORM", "").split(":")[0]
    if platform and platform not in ("xcb", "wayland"):
        return ""
    wayland, x11 = env.get("WAYLAND_DISPLAY", ""), env.get("DISPLAY", "")
    if not wayland and not x11:
        return f"no display was found. {COMMANDS}"
    if wayland and platform != "xcb" and _takes_calls(Path(env.get("XDG_RUNTIME_DIR", ""), wayland)):
        return ""
    if x11 and platform != "wayland" and _x_answers(x11, answer_s):
        return ""
    return f"the display {x11 or wayland} does not answer. {COMMANDS}"


def _takes_calls(place: Path) -> bool:
    import socket

    with socket.socket(socket.AF_UNIX) as line:
        try:
            line.connect(str(place))
        except OSError:
            return False
    return True


def _x_answers(name: str, answer_s: float) -> bool:
    """Whether an X display lets us in, in time; True where that cannot be asked: Qt will then say what it finds."""
    import ctypes
    import threading

    try:
        xcb = ctypes.CDLL("libxcb.so.1")
    except OSError:
        return True
    xcb.xcb_connect.restype = ctypes.c_void_p
    answers: list[bool] = []

    def ask() -> None:
        line = ctypes.c_void_p(xcb.xcb_connect(name.encode(), None))
        answers.append(not xcb.xcb_connection_has_error(line))
        xcb.xcb_disconnect(line)

    # A display that never answers would keep the call for ever: its thread is left behind.
    asking = threading.Thread(target=ask, daemon=True)
    asking.start()
    asking.join(answer_s)
    return bool(answers) and answers[0]
