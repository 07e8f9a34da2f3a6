"""Whether feet stand out of the room enough to be judged: in socks or soft soles they may not, nor in a hall."""

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from firn.core.ear.activation import HOP_S, levels
from firn.core.ear.onsets import Onsets

ENOUGH_DB = 15.0
"""Sounds that stand so far out of the room are heard; by less they are guessed."""

LOUD_PERCENT = 98
"""A strike a second is as loud for so long as this leaves."""

STRIKE_S = 0.024
SILENT = 1e-3


class Faint(Struct, frozen=True):
    """How far the sounds of a take stand out of its room, in dB; None where none does. `unlike`: what stands out is
    loud enough, and none of it plainly a foot."""

    over_db: float | None
    unlike: bool = False

    @property
    def told(self) -> str:
        """That it is too soft, from what level on it would do, and what does instead."""
        if self.unlike:
            return (
                "What sounds in this take is not plainly feet: record it nearer to them, where it rings less and "
                "nobody talks."
            )
        stands = f"what is heard stands {max(0.0, self.over_db or 0.0):.0f} dB out of the room"
        over = "nothing stands out of the room" if self.over_db is None else stands
        return (
            f"Too soft to judge: {over}, and {ENOUGH_DB:.0f} would do. In socks or soft soles clap the rhythm, dance "
            "on a board, or lay the phone on the floor."
        )


def faint(sound: npt.NDArray[np.floating], rate_hz: int, onsets: Onsets) -> Faint | None:
    """How faint a take is; None where its sounds stand out, and for silence, in which nobody danced."""
    if not len(sound) or float(np.abs(sound).max()) < SILENT:
        return None
    bands = levels(np.ascontiguousarray(sound, dtype=np.float32), rate_hz).astype(np.float64)
    power = np.sum(10.0**bands, axis=1)
    room = float(np.percentile(power, 20))
    if not len(onsets):
        loud = float(np.percentile(power, LOUD_PERCENT))
        return Faint(None, unlike=10 * float(np.log10(loud / max(room, 1e-12))) >= ENOUGH_DB)
    frames = np.round(onsets.times_s / HOP_S).astype(int)
    peaks = [power[f : f + round(STRIKE_S / HOP_S)].max() for f in frames if f < len(power)]
    over = 10 * float(np.log10(np.median(peaks) / max(room, 1e-12))) if peaks else 0.0
    return Faint(over) if over < ENOUGH_DB else None
