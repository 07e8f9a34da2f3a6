"""What is on the desk: the piece and part (or combo) being worked on, read, footed and checked."""

from fractions import Fraction
from functools import lru_cache

from msgspec import Struct
from msgspec.structs import replace

from firn.core.book.book import BookPart, BookPiece
from firn.core.meter.counting import Counting
from firn.core.piece.build import build_part, piece_from
from firn.core.piece.piece import Part, Piece, Sound
from firn.core.piece.unfold import Unfolded, unfold
from firn.core.reading.finding import Finding, MendText
from firn.core.reading.read import check_combo, check_part
from firn.core.reading.sentences import label, sentence
from firn.core.reading.syncopation import Hang, part_hangs
from firn.core.reading.walls import facings
from firn.core.script.problems import Problem
from firn.core.script.reader import read_part
from firn.core.script.settings import Settings, read_settings, write_settings
from firn.core.script.turns import turn_text
from firn.core.steps.shelf import Shelf

COMBO = "combo"
"""Stands for the combo where a part's id would stand."""


class Stretch(Struct, frozen=True):
    """Sounds to show or dance, in place, from the first count to the one after the last.

    `words` are shown over the sounds: (index of the word's first sound, text); `titles` where a part of a combo
    begins: (its first count, its name and which time it is). `hangs`: sounds over a silent stronger beat.
    """

    title: str
    sounds: tuple[Sound, ...]
    words: tuple[tuple[int, str], ...]
    counting: Counting
    first: Fraction
    end: Fraction
    titles: tuple[tuple[Fraction, str], ...] = ()
    hangs: tuple[Hang, ...] = ()

    @property
    def counts(self) -> int:
        return int(self.end - self.first)


class Note(Struct, frozen=True):
    """A finding or a problem of the script, worded: level bad, look or ok, and where it stands.

    `sound` is an index in the stretch; `line`, `column`, `end` a place in the text. `mends` are labels with the
    mends themselves.
    """

    level: str
    text: str
    sound: int | None = None
    line: int | None = None
    column: int = 0
    end: int = 0
    mends: tuple[tuple[str, MendText], ...] = ()


@lru_cache(maxsize=64)
def settings_of(head: str) -> Settings:
    """The settings that a piece's headings give."""
    return read_settings(head.split("\n"))[0]


@lru_cache(maxsize=32)
def read_piece(script: str, shelf: Shelf) -> Piece:
    """A whole piece, read once."""
    return piece_from(script, shelf)


@lru_cache(maxsize=64)
def read_one(name: str, text: str, head: str, shelf: Shelf) -> Part:
    """One part, read once."""
    settings = settings_of(head)
    return build_part(read_part(name, text, settings, shelf), settings)


def part_stretch(part: Part, *, swapped: bool = False) -> Stretch:
    """A part to show or dance; `swapped` on the other side."""
    sounds = mirrored(part).sounds if swapped else part.sounds
    first = part.first_count if part.sounds else Fraction(0)
    # Sounds that only lead up to a count need one to lead up to.
    end = max(part.last_count, first) + 1 if part.sounds else Fraction(part.settings.counting.phrase)
    return Stretch(
        part.name, sounds, _words(part, 0), part.settings.counting, first, end, hangs=tuple(part_hangs(part))
    )


def other_side(sound: Sound) -> Sound:
    """A sound on the other foot, turning the other way."""
    swap = {"left": "right", "right": "left"}
    foot, weight = swap.get(sound.foot, sound.foot), swap.get(sound.weight, sound.weight)
    hand = swap.get(sound.hand, sound.hand)
    return replace(sound, foot=foot, weight=weight, hand=hand, turn=-sound.turn)


def mirrored(part: Part) -> Part:
    """A part as it is danced on the other side."""
    return replace(part, sounds=tuple(other_side(s) for s in part.sounds))


def moved(stretch: Stretch, counts: int, *, swapped: bool = False) -> tuple[Sound, ...]:
    """A stretch's sounds so many counts later, on the other side if `swapped`."""
    sounds = (other_side(s) if swapped else s for s in stretch.sounds)
    return tuple(replace(s, place=s.place + counts, position=s.position + counts) for s in sounds)


def _words(part: Part, base: int) -> tuple[tuple[int, str], ...]:
    words: list[tuple[int, str]] = []
    seen: set[int] = set()
    for index, sound in enumerate(part.sounds):
        if sound.use not in seen:
            seen.add(sound.use)
            use = part.uses[sound.use]
            # In her own word where the card's name means something else to her.
            means = part.script.shelf.find(use.card.name, part.settings.tradition) is use.card
            name = "" if use.card.name == "hold" else use.card.name if means else use.word.text
            words.append((base + index, f"{name} {turn_text(use.word.turn)}".strip()))
    return tuple(words)


def combo_stretch(piece: Piece, whole: Unfolded) -> Stretch:
    """The combo to show or dance."""
    words: list[tuple[int, str]] = []
    base = 0
    for one in whole.passes:
        words += _words(one.part, base)
        base += len(one.sounds)
    counting = piece.settings.counting
    if not whole.passes:
        return Stretch("combo", (), (), counting, Fraction(0), Fraction(counting.phrase))
    first = whole.passes[0].offset + whole.passes[0].part.first_count
    sounds = tuple(replace(s, use=i) for i, s in enumerate(whole.sounds))
    titles = []
    way = "front"
    for one, (_, after) in zip(whole.passes, facings(whole), strict=True):
        name = one.part.name if not one.time else f"{one.part.name} {one.time + 1}"
        titles.append((one.offset + one.part.first_count, name if way == "front" else f"{name}, facing the {way}"))
        way = after
    return Stretch("combo", sounds, tuple(words), counting, first, first + whole.counts, tuple(titles))


def cut_stretch(stretch: Stretch, first: Fraction, end: Fraction) -> Stretch:
    """The part of a stretch from one count up to another, pick-ups into it included."""
    before = Fraction(1, 1)
    kept: list[Sound] = []
    index_of: dict[int, int] = {}
    for index, sound in enumerate(stretch.sounds):
        inside = first <= sound.place < end
        leads = (
            first - before < sound.place < first and sound.place.denominator != 1 and _leads(stretch, index, first)
        )
        if inside or leads:
            index_of[index] = len(kept)
            kept.append(sound)
    words = tuple((index_of[i], text) for i, text in stretch.words if i in index_of)
    return replace(stretch, sounds=tuple(kept), words=words, first=first, end=end)


def _leads(stretch: Stretch, index: int, first: Fraction) -> bool:
    """Whether a sound before `first` belongs to a word that goes on inside."""
    use = stretch.sounds[index].use
    return any(s.use == use and s.place >= first for s in stretch.sounds[index : index + 8])


def problem_notes(problems: tuple[Problem, ...], line: int = 0) -> list[Note]:
    """Problems of a script, as notes; `line` is where its text begins."""
    return [Note("look", p.message, None, p.line - line, p.column, p.end) for p in problems]


def part_notes(part: Part) -> list[Note]:
    """Everything there is to say of a part: what cannot be danced, problems, what is worth a look, what holds."""
    if not part.script.text.strip():
        return [Note("ok", "Say the count, then the step on it. Every sound is shown with its foot as you type.")]
    findings = [_note(f) for f in check_part(part)]
    bad = [n for n in findings if n.level == "bad"]
    return [*bad, *problem_notes(part.problems, part.script.line), *findings[len(bad) :], *_care(part)]


def _care(part: Part) -> list[Note]:
    """The usual caution of the first step that has one, said once."""
    card = next((u.card for u in part.uses if u.card.caution), None)
    return [Note("ok", f"Take care with the {card.name}. {card.caution}")] if card else []


def combo_notes(piece: Piece, whole: Unfolded, combo_line: int) -> list[Note]:
    """Everything there is to say of a combo."""
    problems = tuple(p for p in piece.problems if p.code.startswith("C") or p.line >= combo_line)
    starts = {}
    base = 0
    for one in whole.passes:
        starts[one.offset + one.part.first_count] = base
        base += len(one.sounds)
    findings = [
        replace(_note(f), sound=starts.get(f.place) if f.place is not None else None)
        for f in check_combo(piece, whole)
    ]
    return [*problem_notes(problems, combo_line), *findings]


def _note(finding: Finding) -> Note:
    mends = tuple((label(m), m) for m in finding.mends)
    return Note(finding.level, sentence(finding), finding.sound, mends=mends)


def head_with(head: str, **values: object) -> str:
    """Headings with some settings changed; comments in them are kept where nothing changed."""
    settings = settings_of(head)
    new = replace(settings, **values)
    return head if new == settings else write_settings(new)


@lru_cache(maxsize=4)
def whole_combo(piece: BookPiece, shelf: Shelf) -> tuple[Piece, Unfolded, int]:
    """A piece read, its combo unfolded, and the line on which the combo's text begins."""
    read = read_piece(piece.script, shelf)
    line = read.combo_line or len(piece.script.split("\n"))
    return read, unfold(read), line


def next_name(parts: tuple[BookPart, ...]) -> str:
    """A free name for a new part: the next letter."""
    taken = {p.name for p in parts}
    letters = (chr(c) for c in range(ord("A"), ord("Z") + 1))
    return next((n for n in letters if n not in taken), f"Part {len(parts) + 1}")


def free_name(parts: tuple[BookPart, ...], wanted: str) -> str:
    """A name for a new part, with a number where it is taken."""
    taken = {p.name.casefold() for p in parts}
    names = (wanted, *(f"{wanted} {n}" for n in range(2, len(parts) + 3)))
    return next(n for n in names if n.casefold() not in taken)
