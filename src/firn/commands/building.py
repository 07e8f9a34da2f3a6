"""Combos and practice: the ledger, tunes, filling, drills."""

import argparse
import json
import sys
from fractions import Fraction
from pathlib import Path

from firn.commands.shared import (
    UNDANCEABLE,
    WRONG,
    Command,
    number,
    one_part,
    own_cards,
    piece_named,
    print_problems,
    tempo_of,
    whole,
)
from firn.errors import FirnError


def _ledger(args: argparse.Namespace) -> int:
    from firn.core.reading.ledger import ledger
    from firn.files.tunes import read_tune
    from firn.session.ledger import called, ledger_data, totals_said
    from firn.session.tables import table_text

    piece = piece_named(args)
    print_problems(args.piece, piece)
    if not piece.combo:
        raise FirnError("This piece has no combo: join its parts in lines under combo.")
    tune = read_tune(Path(args.tune)) if args.tune else None
    whole = ledger(piece, tempo=tempo_of(args, piece), phrase=args.phrase or 0, tune=tune)
    if args.json:
        print(json.dumps(ledger_data(whole), indent=1, ensure_ascii=False))
    elif args.csv:
        print(table_text(ledger_data(whole)["passes"]), end="")
    else:
        for e in whole.entries:
            who = f"{e.who}: " if e.who else ""
            lies = f"{e.start!s:>5} {e.in_phrase!s:>4}/{whole.phrase:<3} {e.counts:>4} counts"
            feet = f"{e.foot_in}{'' if e.fits else ' (not free)'} -> {e.foot_out}"
            print(f"{lies} {float(e.seconds):>6.1f} s  {feet:<26} {e.wall:<20} {who}{called(e)}")
        print(totals_said(whole, piece.settings.meter.counts))
    if piece.problems:
        return WRONG
    return 0 if all(e.fits for e in whole.entries) else UNDANCEABLE


def _fits(args: argparse.Namespace) -> int:
    from firn.core.combos.tunes import suiting
    from firn.files.tunes import tunes_in

    piece = piece_named(args)
    print_problems(args.piece, piece)
    part = one_part(piece, args.part) if args.part is not None or not piece.combo else None
    read = list(tunes_in(Path(args.tunes)))
    for _, tune in read:
        if isinstance(tune, FirnError):
            print(f"firn: {tune}", file=sys.stderr)
    found, _ = suiting(piece, read, part, Fraction(args.per))
    if args.json:
        data = [
            {
                "file": name, "tune": s.tune, "meter": str(tune.meter), "tempo": tune.tempo or None,
                "form": tune.form,
                "counts": s.counts, "danced": s.danced, "times": s.times, "leftover": s.left_over,
                "verdict": s.verdict, "why": list(s.why),
            }
            for name, tune, s in found
        ]  # fmt: skip
        print(json.dumps({"tunes": data}, indent=1, ensure_ascii=False))
        return 0
    for name, tune, s in found:
        tempo = f" at {tune.tempo:g}" if tune.tempo else ""
        print(f"{s.verdict.replace('_', ' '):<12} {tune.name} ({name}), {tune.form}{tempo}: {' '.join(s.why)}")
    return 0


def _fill(args: argparse.Namespace) -> int:
    from firn.core.combos.fill import FillError, Wish, fill

    piece = piece_named(args)
    print_problems(args.piece, piece)
    wish = Wish(
        args.counts, args.ends or "", args.front, args.level or 0, args.pace or "", args.against or "",
        tuple(name.strip() for name in args.of.split(",")) if args.of else (), args.seed,
    )  # fmt: skip
    try:
        made = fill(piece.settings, wish, own_cards(args))
    except FillError as fault:
        print(f"firn: {fault}", file=sys.stderr)
        return UNDANCEABLE
    print(made.script, end="")
    for why in made.why:
        print(f"# {why}")
    return 0


def _drill(args: argparse.Namespace) -> int:
    from datetime import date

    from firn.session.planning import practice, practice_data
    from firn.session.practised import log_of, piece_and_log

    own = own_cards(args)
    piece, log, student = piece_and_log(Path(args.piece), args.of, args.student)
    if args.log is not None:
        log = log_of(Path(args.log), piece)
    try:
        today = date.fromisoformat(args.today) if args.today else date.today()
    except ValueError as fault:
        raise FirnError(f"{args.today} is no day: write it as 2026-11-25.") from fault
    days = practice(
        piece, log, own, minutes=args.minutes, today=today, days=args.days, tempo=args.tempo or 0.0, student=student
    )
    if args.json:
        print(json.dumps(practice_data(days, piece), indent=1, ensure_ascii=False))
        return 0
    for day in days:
        if day.rests:
            print(f"{day.on}  rest")
            continue
        print(f"{day.on}  {day.seconds / 60:.0f} minutes, {day.load.airborne} sounds off the floor")
        for one, seconds in zip(day.stages, day.lengths, strict=True):
            tempo = f"{one.stage.start:g}" + (f" to {one.stage.end:g}" if one.stage.end != one.stage.start else "")
            print(f"  {seconds:5.0f} s  {one.title} at {tempo}: {one.stage.why}")
        if day.carried:
            print(f"           no room for {', '.join(day.carried)}")
    return 0


def add(command: Command) -> None:
    """The commands of this room."""
    ledger = command("ledger", _ledger, "every pass of the combo: where it begins, its feet and walls; and the whole")
    ledger.add_argument("piece")
    ledger.add_argument("--phrase", type=whole, help="counts of a phrase, such as 32; else the piece's")
    ledger.add_argument("--tempo", type=number, help="counts a minute, else the piece's")
    ledger.add_argument("--tune", metavar="FILE", help="what it is danced to: ABC, MIDI, MusicXML")
    ledger.add_argument("--json", action="store_true")
    ledger.add_argument("--csv", action="store_true")
    ledger.add_argument("--cards", help="a folder of your own cards")
    fits = command("fits", _fits, "which tunes of a folder suit a part or the combo, the best first")
    fits.add_argument("piece")
    fits.add_argument("--tunes", metavar="FOLDER", required=True, help="with ABC, MIDI and MusicXML files")
    fits.add_argument("--part", help="else the combo, else the first part")
    fits.add_argument("--per", choices=("1/2", "1", "2"), default="1", help="beats of the tune to a danced count")
    fits.add_argument("--json", action="store_true")
    fits.add_argument("--cards", help="a folder of your own cards")
    filled = command("fill", _fill, "so many counts of steps of the piece's tradition, as parts and a combo")
    filled.add_argument("piece", help="its headings say the tradition, the meter and the foot that leads")
    filled.add_argument("--counts", type=whole, required=True)
    filled.add_argument("--ends", choices=("left", "right"), help="the foot that is free at the end")
    filled.add_argument("--front", action="store_true", help="facing the front at the end")
    filled.add_argument("--level", type=int, choices=(1, 2, 3), help="no step above this level")
    filled.add_argument("--pace", choices=("busy", "sparse"), help="many sounds, or few")
    filled.add_argument("--against", choices=("off", "on"), help="between the beats, or on them")
    filled.add_argument("--of", metavar="NAMES", help="of these steps alone, with commas between them")
    filled.add_argument("--seed", type=int, default=1, help="another number, another filling; the same, the same")
    filled.add_argument("--cards", help="a folder of your own cards")
    drill = command("drill", _drill, "a practice, planned: stages for so many minutes, day by day, with reasons")
    drill.add_argument("piece", help="a .steps text, or a workbook with its log")
    drill.add_argument("--of", metavar="NAME", help="which piece of a workbook, else the one that was on show last")
    drill.add_argument("--minutes", type=number, default=15.0, help="minutes a day")
    drill.add_argument("--days", type=whole, default=1)
    drill.add_argument("--today", metavar="DATE", help="the first day, such as 2026-11-25")
    drill.add_argument("--tempo", type=number, help="the full tempo, else the piece's")
    drill.add_argument("--log", metavar="FILE.json", help="what was danced, in place of a workbook's log")
    drill.add_argument("--student", metavar="KEY", help="a student of the workbook, by key or name, else its owner")
    drill.add_argument("--json", action="store_true")
    drill.add_argument("--cards", help="a folder of your own cards")
