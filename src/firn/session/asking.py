"""Questions to the ear with their sound: about a take in a file, or about the model."""

from collections.abc import Sequence
from pathlib import Path
from typing import Any
from zlib import crc32

import numpy as np

from firn.core.book.log import Answer
from firn.core.drills.stage import ROUND
from firn.core.ear.asked.model import round_of
from firn.core.ear.asked.question import Question, question_text, timeline
from firn.core.ear.asked.take import questions
from firn.core.ear.onsets import find_onsets
from firn.core.ear.undisturbed import verdict_of
from firn.core.ear.verdict import judge
from firn.core.piece.piece import Part
from firn.core.sound.model import render_blocks
from firn.core.sound.voices import RATE
from firn.files.audio import FloatArray, read_take, write_wav_blocks


def ear_round(part: Part, tempo: float, answers: Sequence[Answer], many: int = ROUND) -> list[Question]:
    """A round of questions about a part without a take: others each time, as hard as the answers so far ask for."""
    rng = np.random.default_rng([len(answers), crc32(part.script.text.encode())])
    return round_of(part, tempo, rng, many=many, answers=[(a.kind, a.right) for a in answers])


def of_take(part: Part, tempo: float, take: Path, rng: np.random.Generator) -> list[Question]:
    """What can be asked about a take of a part; raises FirnError where it is none."""
    sound, rate, _ = read_take(take)
    verdict = verdict_of(
        find_onsets(sound, rate), sound, rate, lambda onsets, task: judge(part, tempo, onsets, task=task)
    )
    return list(questions(part, verdict, rng))


def heard_with(question: Question) -> FloatArray:
    """What is heard with a question about the model, at `RATE`, both sides, shape (n, 2)."""
    return np.concatenate(list(render_blocks(timeline(question))))


def sound_of(question: Question, folder: Path, number: int) -> Path:
    """Write what is heard with a question about the model into a folder, which is made where it is not there."""
    folder.mkdir(parents=True, exist_ok=True)
    path = folder / f"{number:02}-{question.kind}.wav"
    write_wav_blocks(path, render_blocks(timeline(question)), RATE)
    return path


def question_data(question: Question, file: Path | None, take: str | None) -> dict[str, Any]:
    """The stable data of `firn ask --json`; `right` indexes `answers`, from 0."""
    audio: dict[str, Any]
    if question.clips:
        line = timeline(question)
        audio = {
            "file": str(file) if file else None,
            "start_s": 0.0,
            "end_s": round(float(line.length_s), 4),
            "sounds_s": [round(float(e.at_s), 4) for _, e in line.events() if e.kind == "sound"],
        }
    else:
        start, end = question.stretch_s
        audio = {"file": take, "start_s": round(start, 4), "end_s": round(end, 4), "sounds_s": None}
    return {
        "kind": question.kind,
        "question": question_text(question),
        "answers": list(question.answers),
        "right": question.right,
        "why": question.why,
        "audio": audio,
    }
