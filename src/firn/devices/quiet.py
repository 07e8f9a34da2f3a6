"""Keeps a sound library's own lines off the terminal: what does not work is said by Firn, in one sentence."""

import ctypes
from functools import cache
from typing import Any

_HANDLER = ctypes.CFUNCTYPE(None, ctypes.c_char_p, ctypes.c_int, ctypes.c_char_p, ctypes.c_int, ctypes.c_char_p)


def _say_nothing(file: bytes, line: int, function: bytes, error: int, form: bytes) -> None:
    return


_SILENT = _HANDLER(_say_nothing)


@cache
def hush() -> None:
    """Have ALSA say nothing of its own, where it is there (snd_lib_error_set_handler, alsa-project.org)."""
    try:
        ctypes.CDLL("libasound.so.2").snd_lib_error_set_handler(_SILENT)
    except (OSError, AttributeError):
        # No ALSA: then it says nothing.
        return


def backends() -> list[Any]:
    """The sound systems that are tried, in order, none of them with a line of its own on the terminal."""
    import miniaudio

    hush()
    return [miniaudio.Backend.PULSEAUDIO, miniaudio.Backend.ALSA, miniaudio.Backend.JACK]
