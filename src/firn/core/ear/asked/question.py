"""A question to the ear: what is asked, what is heard with it, the answers, and why one is right."""

from fractions import Fraction

from msgspec import Struct

from firn.core.ear.asked.kinds import QuestionKind
from firn.core.meter.count_in import CountIn
from firn.core.meter.counting import Counting
from firn.core.piece.sound import Sound
from firn.core.script.combo_item import ordinal
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.timeline import Section, Timeline

FIRST_ONES = ("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth")

BETWEEN_COUNTS = 2
"""Between two clips that are compared there is as much rest."""


class Clip(Struct, frozen=True):
    """Something that the model dances: sounds where they are to be heard, up to a count, at a tempo."""

    sounds: tuple[Sound, ...]
    counts: Fraction
    tempo: float


class Question(Struct, frozen=True):
    """A question: its kind, values for its words, the answers offered and the right one's index.

    `stretch_s`: the stretch of the take that it asks about, in seconds; of the model `clips` are heard, one after
    the other. `why`: what was there to be heard, told when it is answered.
    """

    kind: QuestionKind
    values: dict[str, str]
    answers: tuple[str, ...]
    right: int
    stretch_s: tuple[float, float] = (0.0, 0.0)
    clips: tuple[Clip, ...] = ()
    why: str = ""


def nth(number: int) -> str:
    """A number as an ordinal: the first ones in words."""
    return FIRST_ONES[number - 1] if number <= len(FIRST_ONES) else ordinal(number)


def question_text(question: Question) -> str:
    """A question in words."""
    values = question.values
    times = values.get("times")
    time = f", the {nth(int(times))} time" if times else ""
    match question.kind:
        case "how_many":
            return f"How many sounds from {values['from']} up to {values['to']}{time}, both counted?"
        case "what_missing" if question.clips:
            return "Twice: was a sound missing the second time? Which?"
        case "what_missing":
            return "Was a sound missing? Which?"
        case "early_or_late":
            return f"The {values['sound']}{time}: early, on time or late?"
        case "even_or_swung":
            return "Even, or swung?"
        case "which_late":
            return "One of these sounds is late. Which?"
        case "which_foot":
            return f"On which foot is the {values['nth']} sound?"
        case "same_or_changed":
            return "Twice: the same, or changed?"
        case "where_is_one":
            return "First from its 1, then from elsewhere: which sound of the second is on 1?"
        case "hold_or_none":
            return "Is there a hold in it, or does it go on?"
        case "which_faster":
            return "Twice: which is faster?"
        case "which_figure":
            return f"Heard is one of two: {values['one']} or {values['other']}. Which?"
    return ""


def picked(question: Question, digit: int) -> int | None:
    """The answer that a digit key gives, from 0: the number itself where numbers are asked for, else the answer of
    that number; None for none."""
    if question.kind == "how_many":
        return question.answers.index(str(digit)) if str(digit) in question.answers else None
    return digit - 1 if 1 <= digit <= len(question.answers) else None


def answers_said(question: Question) -> list[str]:
    """The answers, each with its key where that is not the answer itself."""
    return [a if question.kind == "how_many" else f"{n}  {a}" for n, a in enumerate(question.answers, 1)]


def told_of(question: Question, number: int) -> str:
    """What is told of an answer, from 0."""
    right = number == question.right
    said, was = question.answers[number], question.answers[question.right]
    if question.kind == "how_many":
        return f"{said}, you said. {'Right.' if right else question.why or f'{was} were there.'}"
    if question.why:
        return f"{'Right.' if right else 'Not quite.'} {question.why}"
    return "Right." if right else f"Not quite: {was}."


def timeline(question: Question) -> Timeline:
    """What is heard with a question about the model: its clips, with a rest between them and nothing beside them."""
    sections = []
    for clip in question.clips:
        mixing = Mixing(tempo=clip.tempo, count_in=CountIn("none"), counts=False, beats=False, rest=BETWEEN_COUNTS)
        sections.append(Section(clip.sounds, Counting(), Fraction(0), clip.counts, mixing))
    return Timeline(tuple(sections))
