"""A take made to Firn's own click: late against the click, a steady lateness, or a late start."""

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt
from msgspec import Struct
from msgspec.structs import replace

from firn.core.ear.align import Alignment, FloatArray
from firn.core.ear.onsets import Onsets

STAYED = 0.015
"""A take whose tempo is off by less than this share has stayed with the click."""

NEAR_COUNT = 0.3
"""How near a whole count a shift must be, in counts, to be a late start rather than lost."""

BEHIND_MS = 12.0
"""Less behind or ahead than this is with the click: feet lead a click by some ms anyway."""


class Click(Struct, frozen=True):
    """Where the click was: the time in the take, in seconds, on which the part's first heard sound is due."""

    first_s: float


class Kept(Struct, frozen=True):
    """How a take stayed with the click: `lag_ms` behind (+) or ahead (-), its median; whether that was `steady`;
    by how many whole counts it `came_in` late (+) or early. `lost`: it had a tempo of its own."""

    lag_ms: float = 0.0
    steady: bool = False
    came_in: int = 0
    lost: bool = False


BLEED_S = 0.04
"""What begins faintly so near a click may be the click, out of a loudspeaker."""


def without_beats(onsets: Onsets, beat_at_s: float, beat_s: float) -> Onsets:
    """A take's onsets without what is faint where a click fell: one of which falls at a time, and on each count."""

    def on_a_click(faint: Onsets) -> npt.NDArray[np.bool_]:
        away = (faint.times_s - beat_at_s) / beat_s
        return np.asarray(np.abs(away - np.round(away)) * beat_s < BLEED_S)

    return onsets.but_faint(on_a_click)


def kept_with(
    click: Click, targets_s: Sequence[float], onsets_s: FloatArray, laid: Alignment, beat_s: float
) -> tuple[Alignment, Kept]:
    """A take judged from the click instead of its own line.

    Parameters
    ----------
    click : Click
    targets_s : sequence of float, shape (m,)
        Times of the targets from the first, at the click's tempo.
    onsets_s : ndarray, shape (n,)
        Onsets of the take in seconds.
    laid : Alignment
        The take laid over the targets along its own line.
    beat_s : float
        Seconds a count, above 0.

    Returns
    -------
    (Alignment, Kept)
        The same pairs, expected where the click has them, whole counts of a late start taken out; `laid` itself
        where the take did not stay with the click.
    """
    pairs = laid.pairs
    if not pairs or abs(laid.scale - 1) > STAYED:
        return laid, Kept(lost=True)
    targets = np.asarray(targets_s, dtype=np.float64)
    off = np.array([onsets_s[j] - click.first_s - targets[i] for i, j in pairs])
    middle = float(np.median(off))
    counts = round(middle / beat_s)
    if abs(middle - counts * beat_s) > NEAR_COUNT * beat_s:
        return laid, Kept(lost=True)
    lag_ms = (middle - counts * beat_s) * 1000
    # A median distance from the median that is smaller than the lag: it is behind all along, not here and there.
    away_ms = float(np.median(np.abs(off - middle))) * 1000
    expected = click.first_s + counts * beat_s + targets
    return replace(laid, expected_s=expected), Kept(lag_ms, away_ms < abs(lag_ms), counts)
