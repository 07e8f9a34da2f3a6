"""What the commands share: the piece that is named, its parts, the numbers of their options."""

import argparse
import os
import sys
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Protocol

from firn.core.meter.count_in import CountIn
from firn.core.meter.tempo import FASTEST, SLOWEST
from firn.core.piece.build import piece_from
from firn.core.piece.piece import Part, Piece
from firn.core.reading import doubts
from firn.core.reading.sentences import sentence
from firn.core.steps.shelf import Shelf
from firn.errors import FirnError
from firn.files.cards import read_cards
from firn.files.steps_file import read_steps
from firn.session.settings import load_settings, settings_path

if TYPE_CHECKING:
    from firn.core.drills.ladder import Rung
    from firn.core.ear.shoes import Shoes

WRONG, UNDANCEABLE = 2, 1
"""Exit statuses: a fault, said in one line; something that cannot be danced, or is no take of this."""


class Command(Protocol):
    """Adds a command: its name, what runs it, and what it is about."""

    def __call__(
        self, name: str, run: Callable[[argparse.Namespace], int], about: str
    ) -> argparse.ArgumentParser: ...


def own_cards(args: argparse.Namespace) -> Shelf:
    """The steps, with the teacher's own cards; faults of these are told and do no harm."""
    folder = Path(args.cards) if args.cards else load_settings(settings_path()).cards_folder
    if args.cards and not os.path.isdir(folder):
        raise FirnError(f"{folder} is no folder of cards.")
    own = read_cards(folder)
    for fault in own.faults:
        print(f"firn: {fault}", file=sys.stderr)
    return own.shelf


def piece_named(args: argparse.Namespace) -> Piece:
    """The piece that is named, read with the teacher's own cards."""
    own = own_cards(args)
    return piece_from(read_steps(Path(args.piece)), own)


def print_problems(path: str, piece: Piece) -> None:
    for p in piece.problems:
        print(f"{path}:{p.line + 1}:{p.column + 1}: {p.code} {p.message}", file=sys.stderr)


def print_doubts(path: str, piece: Piece) -> None:
    """What could be read in more ways than one, where it stands in the file, and the ways."""
    for part, at in zip(piece.parts, piece.part_lines, strict=True):
        for doubt in doubts.findings(part):
            line, column, _ = doubt.spot or (0, 0, 0)
            print(f"{path}:{at + line + 1}:{column + 1}: {sentence(doubt)}", file=sys.stderr)


def one_part(piece: Piece, name: str | None) -> Part:
    if name is not None:
        part = piece.part(name)
        if part is None:
            known = ", ".join(p.name for p in piece.parts) or "none"
            raise FirnError(f'No part is called "{name}". The parts: {known}.')
        return part
    part = next((p for p in piece.parts if p.sounds), None)
    if part is None:
        raise FirnError("This piece has no sounds.")
    return part


def add_voice(command: argparse.ArgumentParser, about: str | None = None) -> None:
    """What is asked of what is heard beside the steps."""
    command.add_argument("--voice", choices=("counts", "beats", "both", "music", "none"), default="both", help=about)


def voiced(args: argparse.Namespace) -> tuple[bool, bool, bool]:
    """Whether counts, beats and music are heard."""
    return args.voice in ("counts", "both"), args.voice in ("beats", "both"), args.voice == "music"


def add_ladder(command: argparse.ArgumentParser) -> None:
    """What is asked of a ladder of tempos."""
    command.add_argument(
        "--ladder", type=ladder, metavar="START-END-STEP", help="from tempo to tempo, such as 96-120-4"
    )
    command.add_argument("--times", type=whole, default=2, help="so many times a side on each rung of a ladder")
    command.add_argument("--sides", choices=("as written", "both sides"), default="both sides", help="of a ladder")
    command.add_argument(
        "--rest", type=int, choices=(0, 4, 8), default=4, help="counts of rest on each rung of a ladder"
    )


def rungs_of(args: argparse.Namespace, piece: Piece) -> "list[Rung]":
    """The rungs of the ladder that is asked for, within what the part's steps allow; raises LadderError."""
    from firn.core.drills.ladder import Ladder, rungs, tempo_bounds

    start, end, step = args.ladder
    asked = Ladder(start, end, step, args.times, args.sides, args.rest)
    part = one_part(piece, args.part) if args.part is not None or not piece.combo else None
    return rungs(asked, tempo_bounds(part)) if part is not None else rungs(asked)


def tempo_of(args: argparse.Namespace, piece: Piece) -> float:
    tempo = piece.settings.tempo if args.tempo is None else float(args.tempo)
    if not SLOWEST <= tempo <= FASTEST:
        raise FirnError(f"The tempo must lie between {SLOWEST} and {FASTEST} counts a minute, not {tempo:g}.")
    return tempo


def count_in_of(args: argparse.Namespace, piece: Piece) -> CountIn:
    if args.no_count_in:
        return CountIn("none")
    return CountIn(many=args.count_in) if args.count_in else piece.settings.count_in


def number(text: str) -> float:
    value = float(text)
    if not abs(value) < 1e9:
        raise ValueError(text)
    return value


def ladder(text: str) -> tuple[float, float, float]:
    start, end, step = (number(n) for n in text.split("-"))
    return start, end, step


def whole(text: str) -> int:
    value = int(text)
    if not 1 <= value <= 10_000:
        raise ValueError(text)
    return value


def shoes_asked(args: argparse.Namespace) -> "Shoes | None":
    """What the shoes sound like, from a recording of examples; None where none is given."""
    if not args.examples:
        if args.kinds:
            raise FirnError("--kinds says what --examples FILE holds: give that too.")
        return None
    if not args.kinds:
        raise FirnError("Say in which order the examples come: --kinds heel,ball,flat,airy,hand.")
    from firn.session.shoes import kinds_named, shoes_of

    return shoes_of(Path(args.examples), kinds_named(args.kinds))


def add_examples(command: argparse.ArgumentParser) -> None:
    """What these shoes sound like on this floor."""
    command.add_argument("--examples", metavar="FILE", help="a recording of five of each kind of sound, in --kinds")
    command.add_argument("--kinds", metavar="LIST", help="their order: heel,ball,tip,flat,airy,slide,hand")
