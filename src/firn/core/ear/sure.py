"""How sure a verdict is: of a sound by how far it lies from where it would be another, of a take by all of it."""

import math
from collections.abc import Sequence

import numpy as np

from firn.core.ear.first import FirstMend
from firn.core.ear.judged import Added, Judged
from firn.core.ear.onsets import Onsets

ERROR_MS = 4.0
"""How exactly the distance of a sound from its time is known."""

MASKED_S = 0.035
"""A sound so near another may be there and not be heard."""


def sure_heard(ms: float, on_ms: float, onset: float) -> float:
    """How sure it is that a sound is on, or is not, and that it is a sound at all."""
    side = 0.5 * (1 + math.erf(abs(abs(ms) - on_ms) / (ERROR_MS * math.sqrt(2))))
    return side * onset


PLAIN = (0.92, 0.98, 0.997)
"""How surely the sounds of a take are sounds, in the mean, and..."""

NOT_DANCED = (0.15, 0.3, 0.85)
"""... how often what is not heard in such a take was not danced: counted on recorded hits, loud and soft, in rooms
and halls under noise. Where the room makes them hard to tell, most of what is not heard was soft."""


def sure_missing(expected_s: float, onsets: Onsets) -> float:
    """How sure it is that a sound was not danced that is not heard."""
    heard_s = onsets.times_s
    near = float(np.min(np.abs(heard_s - expected_s))) if len(heard_s) else 1.0
    plain = float(np.interp(np.mean(onsets.surely), PLAIN, NOT_DANCED)) if len(heard_s) else NOT_DANCED[-1]
    return min(0.5, plain) if near < MASKED_S else plain


def sure_mend(mend: FirstMend, judged: Sequence[Judged], added: Sequence[Added], match: float) -> float:
    """How sure it is that what is said first is so."""
    if mend.code == "clean":
        doubted = any(a.echo for a in added)
        heard = [j.sure for j in judged if j.heard != "missing"]
        # What was not heard was danced after all, each of them.
        danced = math.prod(1 - j.sure for j in judged if j.heard == "missing")
        return match * float(np.mean(heard)) * danced * (0.9 if doubted else 1.0)
    if mend.target is None:
        return match
    one = judged[mend.target]
    times = int(mend.values.get("times", "1"))
    own = [j.sure for j in judged if j.target.sounds == one.target.sounds and j.heard == one.heard]
    sure = one.sure if mend.code != "added" and mend.values.get("what") != "added" else 0.8
    # What is heard in every pass is surer than any one of them.
    missed = math.prod(1 - s for s in own[:times]) if len(own) > 1 else 1 - sure
    return match * (1 - max(missed, 0.01))
