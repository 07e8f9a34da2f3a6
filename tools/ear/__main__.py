"""Makes the networks that hear where sounds begin anew: python -m tools.ear FOLDER [STEP].

Steps, each under half an hour on two cores and each going on where it was stopped: `sounds` fetches and speaks what
is learnt from (Debian's fluid-soundfont-gm, asterisk-core-sounds-en-wav and -es-wav, eSpeak NG and flite; the last
two must be installed), `takes` makes the takes, `learn` learns and may be stopped after any epoch, `keep` puts the
weights where Firn reads them. Without a step all are done in turn.
"""

import subprocess
import sys
from functools import partial
from multiprocessing import get_context
from pathlib import Path

import numpy as np

from firn.core.ear.activation import WEIGHTS
from firn.core.ear.weighing import WEIGHTS as WEIGHED
from tools.ear.voices import speak

PACKAGES = ("fluid-soundfont-gm", "asterisk-core-sounds-en-wav", "asterisk-core-sounds-es-wav")
SOUNDFONT = "usr/share/sounds/sf2/FluidR3_GM.sf2"
SHARD, SHARDS, JUDGES = 500, 14, 150
FIRST_JUDGE = 500_000
EPOCHS = 12
FIRST_PLACES, PLACE_SHARDS, WEIGHED_EPOCHS = 600_000, 12, 9


def sounds(folder: Path) -> None:
    for name in PACKAGES:
        if not (folder / f"{name}.done").exists():
            subprocess.run(["apt-get", "download", name], cwd=folder, check=True)
            (package,) = folder.glob(f"{name}_*.deb")
            subprocess.run(["dpkg", "-x", package.name, "."], cwd=folder, check=True)
            (folder / f"{name}.done").touch()
    speak(folder / "spoken")


def voices(folder: Path) -> list[Path]:
    return sorted((folder / "usr/share/asterisk").rglob("*.wav")) + sorted((folder / "spoken").glob("*.wav"))


def _shard(folder: Path, name: str, seeds: range) -> None:
    from tools.ear.learn import example

    out = folder / f"{name}.npz"
    if out.exists():
        return
    # What JAX runs in its threads must not be forked.
    with get_context("spawn").Pool() as pool:
        one = partial(example, soundfont=folder / SOUNDFONT, voices=voices(folder))
        made = pool.map(one, seeds, chunksize=8)
    least = min(len(seen) for seen, _ in made)
    aside = folder / f"{name}.part.npz"
    np.savez(aside, seen=np.stack([s[:least] for s, _ in made]), wanted=np.stack([w[:least] for _, w in made]))
    aside.replace(out)
    print(f"{out.name} made", flush=True)


def takes(folder: Path) -> None:
    _shard(folder, "judge", range(FIRST_JUDGE, FIRST_JUDGE + JUDGES))
    for number in range(SHARDS):
        _shard(folder, f"takes-{number:02}", range(number * SHARD, (number + 1) * SHARD))


def _read(file: Path) -> tuple[np.ndarray, np.ndarray]:
    with np.load(file) as kept:
        return kept["seen"], kept["wanted"]


def learn(folder: Path) -> None:
    from tools.ear.learn import learn as learnt

    shards = [_read(file) for file in sorted(folder.glob("takes-*.npz"))]
    weights = learnt(
        np.concatenate([seen for seen, _ in shards]),
        np.concatenate([wanted for _, wanted in shards]),
        _read(folder / "judge.npz"),
        epochs=EPOCHS,
        checkpoint=folder / "checkpoint.npz",
        say=partial(print, flush=True),
    )
    np.savez(folder / "weights.npz", **weights)


def keep(folder: Path) -> None:
    with np.load(folder / "weights.npz") as kept:
        np.savez_compressed(WEIGHTS, **{name: kept[name].astype(np.float16) for name in kept.files})


def places(folder: Path) -> None:
    from tools.ear.weigh import places as found

    for number in range(PLACE_SHARDS):
        out = folder / f"places-{number:02}.npz"
        if out.exists():
            continue
        first = FIRST_PLACES + number * SHARD
        with get_context("spawn").Pool() as pool:
            one = partial(found, soundfont=folder / SOUNDFONT, voices=voices(folder))
            made = pool.map(one, range(first, first + SHARD), chunksize=8)
        aside = folder / f"{out.stem}.part.npz"
        joined = {name: np.concatenate([getattr(m, name) for m in made]) for name in ("times_s", "seen", "wanted")}
        np.savez(aside, many=np.array([len(m.times_s) for m in made]), **joined)
        aside.replace(out)
        print(f"{out.name} made", flush=True)


def weigh(folder: Path) -> None:
    from tools.ear.weigh import Places
    from tools.ear.weigh import learn as learnt

    read: list[list[Places]] = []
    for file in sorted(folder.glob("places-*.npz")):
        with np.load(file) as kept:
            ends = np.cumsum(kept["many"])[:-1]
            columns = [np.split(kept[name], ends) for name in ("times_s", "seen", "wanted")]
        read.append([Places(*row) for row in zip(*columns, strict=True) if len(row[0])])
    *learns, judge = read
    weights = learnt([one for shard in learns for one in shard], judge, epochs=WEIGHED_EPOCHS)
    np.savez_compressed(WEIGHED, **{name: w.astype(np.float16) for name, w in weights.items()})


STEPS = {"sounds": sounds, "takes": takes, "learn": learn, "keep": keep, "places": places, "weigh": weigh}


def main() -> int:
    """The step that was named, or all."""
    folder = Path(sys.argv[1])
    folder.mkdir(parents=True, exist_ok=True)
    for name in sys.argv[2:] or STEPS:
        STEPS[name](folder)
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
