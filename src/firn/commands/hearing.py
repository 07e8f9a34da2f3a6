"""Takes: their onsets, and the verdict on them."""

import argparse
import json
import sys
from pathlib import Path
from typing import TYPE_CHECKING

from firn.commands.shared import (
    UNDANCEABLE,
    Command,
    add_examples,
    number,
    one_part,
    own_cards,
    print_problems,
    shoes_asked,
    tempo_of,
    whole,
)
from firn.core.piece.build import piece_from
from firn.core.piece.piece import Part, Piece
from firn.core.steps.shelf import Shelf
from firn.core.task import Task
from firn.errors import FirnError
from firn.files.formats import WORKBOOK
from firn.files.steps_file import read_steps

if TYPE_CHECKING:
    # Heavy: imported when a take is listened to.
    from firn.core.ear.onsets import Onsets
    from firn.core.ear.shoes import Shoes
    from firn.core.ear.verdict import Verdict
    from firn.files.audio import FloatArray


def _onsets(args: argparse.Namespace) -> int:
    from firn.files.audio import onsets_of_file

    shoes = shoes_asked(args)
    if shoes is None:
        found, struck = onsets_of_file(Path(args.take)), None
    else:
        from firn.core.ear.shoes import told
        from firn.files.audio import LONG_S, take_info

        if take_info(Path(args.take)).long:
            raise FirnError(f"What struck is told in recordings of up to {LONG_S / 60:.0f} minutes.")
        found, sound, rate = _heard(args)
        struck = told(shoes, sound, rate, found.times_s)
    kinds = [one.kind or None for one in struck] if struck is not None else [None] * len(found)
    if not args.json:
        for time, kind in zip(found.times_s, kinds, strict=True):
            print(f"{time:.4f}" if struck is None else f"{time:.4f}  {kind or 'not sure'}")
        return 0
    data: list[dict[str, object]] = [
        {"time_s": round(float(time), 4), "db": round(float(level), 1), "kind": kind, "sure": round(float(sure), 3)}
        for time, level, kind, sure in zip(found.times_s, found.levels_db, kinds, found.surely, strict=True)
    ]
    for row, one in zip(data, struck or (), strict=False):
        row["kind_sure"] = round(one.sure, 3)
    print(json.dumps({"onsets": data}, indent=1))
    return 0


def _listen(args: argparse.Namespace) -> int:
    own = own_cards(args)
    piece = _piece(args, own)
    print_problems(args.piece, piece)
    return _listen_to_combo(args, piece) if args.combo else _listen_to_part(args, piece, own)


def _piece(args: argparse.Namespace, own: Shelf) -> Piece:
    """The piece of a text, or one of a workbook."""
    path = Path(args.piece)
    if not WORKBOOK.names(path):
        return piece_from(read_steps(path), own)
    from firn.session.practised import piece_and_log

    return piece_from(piece_and_log(path, args.of).piece.script, own)


def _listen_to_part(args: argparse.Namespace, piece: Piece, own: Shelf) -> int:
    from firn.core.ear.undisturbed import verdict_of
    from firn.core.ear.verdict import WrongTake, judge
    from firn.session.listening import (
        parts_among,
        parts_beside,
        verdict_data,
        verdict_lines,
        with_colours,
        wrong_data,
    )

    part = one_part(piece, args.part)
    tempo = tempo_of(args, piece)
    others = parts_beside(piece.parts, part, tempo)
    for one in parts_among(Path(args.among), own, but=Path(args.piece)) if args.among else ():
        if isinstance(one, FirnError):
            print(f"firn: {one}", file=sys.stderr)
        else:
            others.append(one)
    name = piece.settings.name or Path(args.piece).stem

    def judged(heard: "Onsets", task: Task) -> "Verdict":
        return judge(
            part, tempo, heard.later(args.start or 0.0), passes=args.passes, on_ms=args.on, others=others,
            anyway=args.anyway, task=task,
        )  # fmt: skip

    try:
        onsets, sound, rate = _heard(args)
        verdict = verdict_of(onsets, sound, rate, judged)
    except WrongTake as fault:
        _print(wrong_data(fault, name), [str(fault)], as_json=args.json)
        print("firn: --anyway judges it all the same.", file=sys.stderr)
        return UNDANCEABLE
    if args.start and (args.examples or args.clean):
        raise FirnError("Of a stretch (--start) what struck is not told: leave out --examples and --clean.")
    # Its sounds lie from the stretch's own beginning, its verdict from the recording's.
    if not args.start:
        shoes = shoes_asked(args) or _shoes_of_clean(args, part, tempo)
        verdict = with_colours(part, verdict, sound, rate, shoes)
    _print(verdict_data(part, verdict, name), verdict_lines(part, verdict), as_json=args.json)
    return 0


def _shoes_of_clean(args: argparse.Namespace, part: Part, tempo: float) -> "Shoes | None":
    """What the shoes sound like, from a take of the part that was right; None where none is given."""
    if not args.clean:
        return None
    from firn.files.audio import read_take
    from firn.session.shoes import shoes_of_clean

    path = Path(args.clean)
    sound, rate, _ = read_take(path)
    shoes = shoes_of_clean(part, tempo, sound, rate, on_ms=args.on)
    if shoes is None:
        raise FirnError(
            f"{path.name} says too little of {part.name}: no two kinds of sound are danced in it three times."
        )
    return shoes


def _listen_to_combo(args: argparse.Namespace, piece: Piece) -> int:
    from firn.core.ear.routine import routine
    from firn.core.ear.undisturbed import routine_of
    from firn.core.piece.unfold import unfold
    from firn.session.listening import routine_data, routine_lines

    if not piece.combo:
        raise FirnError("This piece has no combo.")
    alone = ("part", "passes", "among", "anyway", "examples", "clean")
    beside = [word for word in alone if getattr(args, word)]
    if beside:
        raise FirnError(f"--combo is of the whole combo: leave out --{beside[0]}.")
    passes, tempo = unfold(piece).passes, tempo_of(args, piece)
    found = routine_of(
        *_heard(args), lambda heard: routine(passes, tempo, heard.later(args.start or 0.0), on_ms=args.on)
    )
    name = piece.settings.name or Path(args.piece).stem
    _print(routine_data(found, name), routine_lines(found), as_json=args.json)
    return 0 if found.fits else UNDANCEABLE


def _ask(args: argparse.Namespace) -> int:
    import numpy as np

    from firn.core.ear.asked.model import KINDS, round_of
    from firn.core.ear.asked.question import question_text
    from firn.session.asking import of_take, question_data, sound_of

    own = own_cards(args)
    piece = _piece(args, own)
    print_problems(args.piece, piece)
    part = one_part(piece, args.part)
    tempo, rng = tempo_of(args, piece), np.random.default_rng(args.seed)
    if args.take:
        asked = of_take(part, tempo, Path(args.take), rng)
        rng.shuffle(asked)
    else:
        asked = round_of(part, tempo, rng, many=args.many or len(KINDS))
    asked = [q for q in asked if not args.kind or q.kind == args.kind][: args.many or 1]
    if not asked:
        raise FirnError(f"{part.name} gives no room for such a question.")
    files = [sound_of(q, Path(args.sound), n) if args.sound and q.clips else None for n, q in enumerate(asked, 1)]
    data = [question_data(q, file, args.take) for q, file in zip(asked, files, strict=True)]
    lines = [
        f"{question_text(q)}\n  {'  '.join(f'{n} {a}' for n, a in enumerate(q.answers, 1))}\n"
        f"  Right: {q.answers[q.right]}. {q.why}"
        for q in asked
    ]
    _print({"questions": data} if args.many else data[0], lines, as_json=args.json)
    return 0


def _print(data: object, lines: list[str], *, as_json: bool) -> None:
    print(json.dumps(data, indent=1, ensure_ascii=False) if as_json else "\n".join(lines))


def _heard(args: argparse.Namespace) -> "tuple[Onsets, FloatArray, int]":
    """What is heard in a take, or in the stretch that is asked for, from its beginning; its samples and rate."""
    from firn.core.ear.onsets import find_onsets
    from firn.files.audio import LONG_S, read_take, take_info
    from firn.session.takes import breaks_off

    info = take_info(Path(args.take))
    if info.long and args.start is None:
        raise FirnError(
            f"{info.path.name} lasts {info.seconds / 60:.0f} minutes; Firn judges up to {LONG_S / 60:.0f}.",
            hint="Say which stretch with --start and --length, in seconds.",
        )
    sound, rate, breaks_off_s = read_take(info.path, start_s=args.start or 0.0, length_s=args.length or LONG_S)
    if breaks_off_s is not None:
        print(f"firn: {breaks_off(info.path, breaks_off_s)}", file=sys.stderr)
    return find_onsets(sound, rate), sound, rate


def add(command: Command) -> None:
    """The commands of this room."""
    onsets = command("onsets", _onsets, "one onset a line, in seconds")
    onsets.add_argument("take")
    onsets.add_argument("--json", action="store_true", help="with loudness, and how sure each is")
    onsets.set_defaults(start=None, length=None)
    add_examples(onsets)
    ask = command("ask", _ask, "a question to the ear about a part, or about a take of it, with its answers")
    ask.add_argument("piece", help="a .steps text, or a workbook")
    ask.add_argument("take", nargs="?")
    ask.add_argument("--of", metavar="NAME", help="which piece of a workbook, else the one that was on show last")
    ask.add_argument("--part")
    ask.add_argument("--tempo", type=number)
    ask.add_argument("--seed", type=whole, default=1, help="the same one gives the same question")
    ask.add_argument("--kind", metavar="KIND", help="only such a one, as which_late")
    ask.add_argument("--many", type=whole, metavar="N", help="so many of them")
    ask.add_argument("--sound", metavar="FOLDER", help="write what is heard with each there, as WAV")
    ask.add_argument("--json", action="store_true")
    ask.add_argument("--cards", help="a folder of your own cards")
    listen = command("listen", _listen, "the verdict on a take, sound by sound; exit 1 if it is of something else")
    listen.add_argument("piece", help="a .steps text, or a workbook")
    listen.add_argument("take")
    listen.add_argument("--of", metavar="NAME", help="which piece of a workbook, else the one that was on show last")
    listen.add_argument("--part")
    listen.add_argument("--combo", action="store_true", help="a take of the whole combo, cut into its passes")
    listen.add_argument("--tempo", type=number)
    listen.add_argument("--passes", type=whole, help="how many times through, where it is not to be found out")
    listen.add_argument("--on", type=number, default=25.0, help="a sound within so many ms is on")
    listen.add_argument("--among", metavar="FOLDER", help="with pieces that it might be a take of as well")
    listen.add_argument("--anyway", action="store_true", help="judge it as this part whatever it may be")
    add_examples(listen)
    listen.add_argument("--clean", metavar="TAKE", help="another take of the part that was right, in the same shoes")
    listen.add_argument("--start", type=number, help="where the stretch begins, in seconds")
    listen.add_argument("--length", type=number, help="how long the stretch is, in seconds")
    listen.add_argument("--json", action="store_true")
    listen.add_argument("--cards", help="a folder of your own cards")
