"""Takes coming into the workbook and being judged: what the window and the command line both do."""

from collections.abc import Callable, Sequence
from pathlib import Path

import numpy as np
from msgspec import Struct

from firn.core.book.book import Take
from firn.core.ear.click import Click
from firn.core.ear.onsets import Onsets, find_onsets
from firn.core.ear.shoes import Shoes
from firn.core.ear.student import Faults, dance
from firn.core.ear.targets import targets_of
from firn.core.ear.undisturbed import verdict_of
from firn.core.ear.verdict import NothingHeard, Verdict, judge
from firn.core.piece.piece import Part
from firn.core.sound.voices import RATE
from firn.core.task import UNWATCHED, Task
from firn.files.audio import FloatArray, flac_bytes, from_flac, read_take
from firn.files.store import Store
from firn.files.whole import called
from firn.session.fresh import new_id, now
from firn.session.listening import parts_beside, with_colours

SILENT_DB = -60.0


def kept_take(
    store: Store, sound: FloatArray, rate: int, *, piece: str, part: str, name: str, tempo: float, source: str
) -> Take:
    """A take whose samples are in the workbook file; it has yet to be added by an edit."""
    data, name_of_data = flac_bytes(sound, rate)
    store.add_samples(name_of_data, data)
    return Take(new_id(), piece, part, name, now(), name_of_data, rate, len(sound), tempo, source)


class BroughtIn(Struct, frozen=True):
    """A take out of a file, and what there is to say of the file, nothing where all is well."""

    take: Take
    told: str = ""


def breaks_off(path: Path, at_s: float | None) -> str:
    """That a file is cut off, and where; nothing where it is not."""
    return "" if at_s is None else f"{called(path)} breaks off after {at_s:.0f} s; it is taken as far as it goes."


def bring_in(
    store: Store,
    path: Path,
    *,
    piece: str,
    part: str,
    tempo: float,
    start_s: float = 0.0,
    length_s: float | None = None,
    task: Task = UNWATCHED,
) -> "BroughtIn":
    """A recording from a file as a take; raises FirnError with one sentence for what is none, or is silent."""
    sound, rate, breaks_off_s = read_take(path, start_s=start_s, length_s=length_s)
    task.step(0.4)
    if 20 * np.log10(max(1e-9, float(np.abs(sound).max()))) < SILENT_DB:
        raise NothingHeard(f"{path.name} is silent.", hint="Was the microphone on?")
    name = " ".join(path.stem.replace(",", " ").replace(":", " ").replace("#", " ").split())[:60] or "Take"
    take = kept_take(store, sound, rate, piece=piece, part=part, name=name, tempo=tempo, source="file")
    task.step(1.0)
    return BroughtIn(take, breaks_off(path, breaks_off_s))


def faults_for(part: Part, kind: str, tempo: float) -> Faults:
    """The simulated student's faults by name: one of the kinds in the table below."""
    many = len(targets_of(part.sounds, tempo, counts=part.counts))
    brush = [i for i, t in enumerate(targets_of(part.sounds, tempo, counts=part.counts))
             if part.sounds[t.sounds[0]].kind in ("brush", "spank", "scuff")]  # fmt: skip
    soft = brush[0] if brush else many // 2
    late = (many * 2) // 3 if (many * 2) // 3 != soft else many // 3
    table = {
        "clean": Faults(),
        "late": Faults(late_ms={late: 55.0}),
        "missing": Faults(missing=frozenset({soft})),
        "hold": Faults(drop_hold=True),
        "loud": Faults(louder_db={late: 12.0}),
        "creep": Faults(creep=tempo * 0.06),
        "extra": Faults(extra_after=frozenset({late})),
        "order": Faults(swapped=frozenset({soft})),
        "once": Faults(late_ms={late: 60.0}, only=frozenset({1})),
        "mixed": Faults(late_ms={late: 48.0}, missing=frozenset({soft}), tempo=tempo * 0.96),
    }
    return table[kind]


def simulate(
    store: Store,
    part: Part,
    kind: str,
    *,
    piece: str,
    part_id: str,
    tempo: float,
    seed: int,
    task: Task = UNWATCHED,
) -> Take:
    """A take by the simulated student: two passes of the part, four where one slip is planted."""
    rng = np.random.default_rng(seed)
    danced = dance(part, tempo, faults_for(part, kind, tempo), rng, passes=4 if kind == "once" else 2, task=task)
    names = {
        "late": "one late",
        "missing": "one missing",
        "hold": "hold dropped",
        "loud": "one too loud",
        "creep": "tempo creeps",
        "extra": "one too many",
        "order": "two exchanged",
        "once": "one slip in four",
    }
    return kept_take(
        store,
        danced.audio,
        RATE,
        piece=piece,
        part=part_id,
        name=f"Simulated {names.get(kind, kind)}",
        tempo=tempo,
        source="simulated",
    )


def heard(store: Store, take: Take, task: Task = UNWATCHED) -> tuple[FloatArray, int, Onsets]:
    """A take's samples, rate and onsets."""
    sound, rate = from_flac(store.samples(take.audio))
    return sound, rate, find_onsets(sound, rate, task=task.within(0.2, 1))


def judged(
    part: Part,
    take: Take,
    onsets: Onsets,
    sound: FloatArray,
    rate: int,
    *,
    on_ms: float,
    line: tuple[float, float] | None = None,
    beside: Sequence[Part] = (),
    anyway: bool = False,
    shoes: Callable[[], Shoes | None] = lambda: None,
    task: Task = UNWATCHED,
) -> Verdict:
    """The verdict on a take of a part, from the click where it was made to one, unless a start (`line`) is chosen.

    `beside`: other parts that it might be a take of; `anyway`: judge it whatever it may be; `shoes`: learns what
    they sound like.
    """
    click = Click(take.click_s) if take.click_s is not None and line is None else None
    others = parts_beside(beside, part, take.tempo)

    def verdict(heard: Onsets, within: Task) -> Verdict:
        return judge(
            part, take.tempo, heard, on_ms=on_ms, line=line, click=click, others=others, anyway=anyway, task=within
        )

    found = verdict_of(onsets, sound, rate, verdict, task=task.within(0, 0.8))
    return with_colours(part, found, sound, rate, shoes())
