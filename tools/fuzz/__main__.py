"""./run fuzz [MINUTES] [SEED …]: texts and files for so long, on every core; each fault with its seed and number.

./run fuzz 10 1 2        ten minutes of seeds 1 and 2
./run fuzz case 1 4711   one case again, with what came of it
"""

import multiprocessing
import os
import random
import signal
import sys
import tempfile
import time
from pathlib import Path

from tools.fuzz import files, texts, undo
from tools.fuzz.guard import FILE_S, TEXT_S, guarded

FILES_IN = 10
"""One case of so many is a file, and one a sequence of edits that are undone."""
SHOWN = 300


def run_case(seed: int, number: int, folder: Path, made: dict[str, bytes]) -> tuple[str, str, str]:
    """A case by its seed and number: what kind, what came of it ("" for nothing wrong), and what it was."""
    rng = random.Random(f"{seed} {number}")
    if number % FILES_IN == 1:
        return "undo", guarded(lambda: undo.sequence(rng), TEXT_S), ""
    if number % FILES_IN == 0:
        name, data, read = files.case(rng, folder, made)
        return name, guarded(read, FILE_S), f"{len(data)} bytes"
    said = texts.text(rng)
    return "text", guarded(texts.read(said), TEXT_S), said


def go_on(seed: int, first: int, step: int, until: float, told: "multiprocessing.Queue[object]") -> None:
    """Cases of a seed from a number on, every so manieth, until a time."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    made = files.seeds()
    many = {"text": 0, "file": 0, "undo": 0}
    number = first
    with tempfile.TemporaryDirectory() as folder:
        while time.monotonic() < until:
            kind, wrong, said = run_case(seed, number, Path(folder), made)
            many[kind if kind in many else "file"] += 1
            if wrong:
                told.put((seed, number, kind, wrong, said))
            number += step
    told.put(many)


def main(words: list[str]) -> int:
    """Run; gives 1 where a fault was found."""
    if words[:1] == ["case"]:
        with tempfile.TemporaryDirectory() as folder:
            kind, wrong, said = run_case(int(words[1]), int(words[2]), Path(folder), files.seeds())
        print(f"{kind}\n{said}\n{wrong or 'nothing wrong'}")
        return 1 if wrong else 0
    minutes = float(words[0]) if words else 1.0
    seeds = [int(w) for w in words[1:]] or [random.SystemRandom().randrange(1 << 31)]
    cores = os.cpu_count() or 1
    total, faults = {"text": 0, "file": 0, "undo": 0}, 0
    for seed in seeds:
        print(f"seed {seed}, {minutes / len(seeds):g} minutes on {cores} cores", flush=True)
        until = time.monotonic() + minutes * 60 / len(seeds)
        told: multiprocessing.Queue[object] = multiprocessing.Queue()
        running = [multiprocessing.Process(target=go_on, args=(seed, n, cores, until, told)) for n in range(cores)]
        for process in running:
            process.start()
        waiting = cores
        while waiting:
            word = told.get()
            if isinstance(word, dict):
                waiting -= 1
                total = {kind: total[kind] + word[kind] for kind in total}
            else:
                faults += 1
                seed, number, kind, wrong, said = word  # type: ignore[misc]
                print(f"\n./run fuzz case {seed} {number}  ({kind})\n  {wrong}\n  {said[:SHOWN]!r}", flush=True)
        for process in running:
            process.join()
    print(f"\n{total['text']} texts, {total['file']} files, {total['undo']} sequences of edits, {faults} faults")
    return 1 if faults else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
