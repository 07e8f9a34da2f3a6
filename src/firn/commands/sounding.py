"""The model as sound."""

import argparse
import sys
from collections.abc import Sequence
from fractions import Fraction
from pathlib import Path
from typing import TYPE_CHECKING

from firn.commands.shared import (
    WRONG,
    Command,
    add_ladder,
    add_voice,
    count_in_of,
    number,
    one_part,
    own_cards,
    piece_named,
    print_problems,
    rungs_of,
    tempo_of,
    voiced,
)
from firn.core.meter.tempo import FASTEST, SLOWEST, TempoPath
from firn.core.piece.piece import Piece
from firn.core.piece.sound import Sound, other_side
from firn.core.piece.unfold import unfold
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.timeline import Section, Timeline
from firn.errors import FirnError

if TYPE_CHECKING:
    from firn.core.timeline.own_music import OwnMusic


def _section(args: argparse.Namespace, piece: Piece, *, swapped: bool = False) -> Section:
    """What is to be danced: the part that is named, else the combo, else the first part with sounds."""
    counts, beats, music = voiced(args)
    mixing = Mixing(
        tempo=tempo_of(args, piece),
        count_in=count_in_of(args, piece),
        counts=counts,
        beats=beats,
        swapped=args.mirrored,
        led_in=music,
        music=music,
    )
    whole = unfold(piece) if args.part is None and piece.combo else None
    if whole is not None and whole.passes:
        first = whole.passes[0].offset + whole.passes[0].part.first_count
        sounds: Sequence[Sound] = whole.sounds
        counting, end = whole.counting, first + whole.counts
    else:
        part = one_part(piece, args.part)
        if not part.sounds:
            raise FirnError(f"Part {part.name} has no sounds.")
        sounds, counting = part.sounds, part.settings.counting
        first, end = part.first_count, Fraction(part.last_count + 1)
    if swapped:
        sounds = [other_side(s) for s in sounds]
    path = TempoPath.rising(mixing.tempo, args.to, first, end) if args.to is not None else None
    return Section(sounds, counting, first, end, mixing, sides=(swapped,), path=path)


def _timeline(args: argparse.Namespace, piece: Piece) -> Timeline:
    """What is to be heard: once through, or a ladder of tempos."""
    if args.to is not None and not SLOWEST <= args.to <= FASTEST:
        raise FirnError(f"The tempo must lie between {SLOWEST} and {FASTEST} counts a minute, not {args.to:g}.")
    if args.ladder is None:
        return Timeline((_section(args, piece),))
    from firn.core.drills.ladder import climbed

    if args.to is not None:
        raise FirnError("Either a ladder, or --to another tempo along the way.")
    written, other = _section(args, piece), _section(args, piece, swapped=True)
    return climbed(rungs_of(args, piece), written, other, rest=args.rest)


def _play(args: argparse.Namespace) -> int:
    from firn.core.sound.model import render_blocks
    from firn.core.sound.voices import RATE
    from firn.files.audio import write_wav_blocks

    if args.drill is not None:
        timeline, music = _drilled(args)
        write_wav_blocks(Path(args.out), render_blocks(_to_music(timeline, music)), RATE)
        return 0
    piece = piece_named(args)
    print_problems(args.piece, piece)
    if args.music is not None:
        args.voice = "music"
    timeline = _timeline(args, piece)
    if args.music is not None and args.to is not None:
        raise FirnError("Either music of your own, or --to another tempo along the way.")
    write_wav_blocks(
        Path(args.out), render_blocks(_to_music(timeline, _music_named(args, tempo_of(args, piece)))), RATE
    )
    return WRONG if piece.problems else 0


def _music_named(args: argparse.Namespace, tempo: float) -> "OwnMusic | None":
    """The music of her own that is asked for, and on stderr how it is counted; None where there is none."""
    if args.music is None:
        return None
    from firn.session.clips import open_clip
    from firn.session.music import Counted, doubt_of, heard_in, likely, line_for, own_music

    heard = heard_in(Path(args.music))
    how = likely(heard, tempo)
    how = Counted(how.tempo, how.first_s if args.music_at is None else args.music_at)
    print(f"{heard.path.name}: {how.tempo:g} counts a minute, count 1 at {how.first_s:.2f} s. {doubt_of(heard)}",
          file=sys.stderr)  # fmt: skip
    return own_music(open_clip(heard.path), line_for(heard, how))


def _to_music(timeline: Timeline, music: "OwnMusic | None") -> Timeline:
    """What is danced to music, to this; raises FirnError where it is faster than the music."""
    if music is None:
        return timeline
    from firn.core.timeline.music import laid

    return Timeline(tuple(laid(one, music) if one.mixing.music else one for one in timeline.sections))


def _drilled(args: argparse.Namespace) -> "tuple[Timeline, OwnMusic | None]":
    """A drill of a workbook, from beginning to end as it is planned, and the music of its piece."""
    from firn.session.desk import settings_of
    from firn.session.drilling import drill_timeline, plan
    from firn.session.practised import book_at, calls_at, drill_of

    path = Path(args.piece)
    piece, drill = drill_of(path, args.drill)
    count_in = settings_of(piece.head).count_in
    timeline = drill_timeline(plan(piece, drill, own_cards(args), calls_at(path, piece.id)), count_in)
    if not any(section.mixing.music for section in timeline.sections):
        return timeline, None
    if args.music is not None:
        return timeline, _music_named(args, settings_of(piece.head).tempo)
    from firn.session.music import music_of

    return timeline, music_of(book_at(path), piece.id, path)


def add(command: Command) -> None:
    """The commands of this room."""
    play = command("play", _play, "the model as a WAV file: a part, or the combo")
    play.add_argument("piece")
    play.add_argument("-o", "--out", required=True)
    play.add_argument("--part")
    play.add_argument("--drill", metavar="NAME", help="a drill of a workbook, all its stages as planned")
    play.add_argument("--tempo", type=number)
    play.add_argument("--to", type=number, help="the tempo at its end, reached count by count")
    add_ladder(play)
    play.add_argument("--count-in", type=int, choices=(4, 8), help="else as the piece says")
    play.add_argument("--no-count-in", action="store_true")
    add_voice(play)
    play.add_argument("--music", metavar="FILE", help="to a recording of your own, at its tempo or slower")
    play.add_argument("--music-at", type=number, metavar="S", help="the second of it on which count 1 is")
    play.add_argument("--mirrored", action="store_true", help="left and right sides of the sound swapped")
    play.add_argument("--cards", help="a folder of your own cards")
