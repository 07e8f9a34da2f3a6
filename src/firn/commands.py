"""The commands: reading, checking, playing and listening without a window."""

import argparse
import json
import os
import sys
from collections.abc import Callable, Sequence
from fractions import Fraction
from pathlib import Path
from typing import TYPE_CHECKING, Any

from firn import __version__
from firn.core.meter.count_in import CountIn
from firn.core.meter.tempo import FASTEST, SLOWEST, TempoPath
from firn.core.piece.build import piece_from
from firn.core.piece.piece import Part, Piece
from firn.core.piece.sound import Sound, other_side
from firn.core.piece.unfold import unfold
from firn.core.reading import doubts
from firn.core.reading.profile import OVERS
from firn.core.reading.read import check
from firn.core.reading.sentences import label, sentence
from firn.core.reading.style import Asked, style_of
from firn.core.steps.shelf import Shelf
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.timeline import Section, Timeline
from firn.errors import FirnError
from firn.files.cards import read_cards
from firn.files.steps_file import read_steps
from firn.session.report import findings_data, measures_csv, measures_data, sounds_data
from firn.session.settings import load_settings, settings_path

if TYPE_CHECKING:
    # Heavy: imported when a take is listened to.
    from firn.core.ear.onsets import Onsets

WRONG, UNDANCEABLE = 2, 1


def _own_cards(args: argparse.Namespace) -> Shelf:
    """The steps, with the teacher's own cards; faults of these are told and do no harm."""
    folder = Path(args.cards) if args.cards else load_settings(settings_path()).cards_folder
    if args.cards and not os.path.isdir(folder):
        raise FirnError(f"{folder} is no folder of cards.")
    own = read_cards(folder)
    for fault in own.faults:
        print(f"firn: {fault}", file=sys.stderr)
    return own.shelf


def _piece(args: argparse.Namespace) -> Piece:
    """The piece that is named, read with the teacher's own cards."""
    own = _own_cards(args)
    return piece_from(read_steps(Path(args.piece)), own)


def _print_problems(path: str, piece: Piece) -> None:
    for p in piece.problems:
        print(f"{path}:{p.line + 1}:{p.column + 1}: {p.code} {p.message}", file=sys.stderr)


def _print_doubts(path: str, piece: Piece) -> None:
    """What could be read in more ways than one, where it stands in the file, and the ways."""
    for part, at in zip(piece.parts, piece.part_lines, strict=True):
        for doubt in doubts.findings(part):
            line, column, _ = doubt.spot or (0, 0, 0)
            print(f"{path}:{at + line + 1}:{column + 1}: {sentence(doubt)}", file=sys.stderr)


def _read(args: argparse.Namespace) -> int:
    piece = _piece(args)
    _print_problems(args.piece, piece)
    _print_doubts(args.piece, piece)
    if args.json:
        print(json.dumps(sounds_data(piece), indent=1, ensure_ascii=False))
        return WRONG if piece.problems else 0
    for part in piece.parts:
        print(f"{part.name}: {part.counts} counts, {part.footing.free} free at the end")
        for s in part.sounds:
            foot = s.foot or {"": "-", "both": "hands", "either": "hand"}.get(s.hand, f"{s.hand} hand")
            kind = s.kind.replace("_", " ") + (" (silent)" if s.silent else "")
            weight = {"air": "in the air", "seat": "seated"}.get(s.weight, f"weight {s.weight}")
            print(f"  {s.say:>4}  {s.place!s:>6}  {foot:<10} {kind:<18} {weight:<13} {part.word(s)}")
    return WRONG if piece.problems else 0


def _measure(args: argparse.Namespace) -> int:
    piece = _piece(args)
    _print_problems(args.piece, piece)
    overs = OVERS if args.over is None else (OVERS[("heard", "all", "weight").index(args.over)],)
    if args.json:
        print(json.dumps(measures_data(piece, overs), indent=1, ensure_ascii=False))
    elif args.csv:
        print(measures_csv(piece, overs), end="")
    else:
        for row in measures_data(piece, overs)["measures"]:
            values = "  ".join("-" if v is None else f"{v:g}" for v in (row["value"], *row["phrases"]))
            print(f"{row['part']:<10} {row['over']:<14} {row['name']:<22} {values}")
    return WRONG if piece.problems else 0


def _check(args: argparse.Namespace) -> int:
    piece = _piece(args)
    _print_problems(args.piece, piece)
    findings = check(piece, Asked(style_of(piece.settings.tradition, load_settings(settings_path()).styles)))
    if args.json:
        print(json.dumps(findings_data(piece, findings), indent=1, ensure_ascii=False))
    else:
        for f in findings:
            print(f"{f.level:<4} {f.part}: {sentence(f)}")
            for m in f.mends:
                print(f"       mend: {label(m)}")
    if piece.problems:
        return WRONG
    return UNDANCEABLE if any(f.level == "bad" for f in findings) else 0


def _ledger(args: argparse.Namespace) -> int:
    from firn.core.reading.ledger import ledger
    from firn.files.tunes import read_tune
    from firn.session.ledger import called, ledger_data, totals_said

    piece = _piece(args)
    _print_problems(args.piece, piece)
    if not piece.combo:
        raise FirnError("This piece has no combo: join its parts in lines under combo.")
    tune = read_tune(Path(args.tune)) if args.tune else None
    whole = ledger(piece, tempo=_tempo(args, piece), phrase=args.phrase or 0, tune=tune)
    if args.json:
        print(json.dumps(ledger_data(whole), indent=1, ensure_ascii=False))
    else:
        for e in whole.entries:
            who = f"group {e.group}: " if e.group else ""
            lies = f"{e.start!s:>5} {e.in_phrase!s:>4}/{whole.phrase:<3} {e.counts:>4} counts"
            feet = f"{e.foot_in}{'' if e.fits else ' (not free)'} -> {e.foot_out}"
            print(f"{lies} {float(e.seconds):>6.1f} s  {feet:<26} {e.wall:<20} {who}{called(e)}")
        print(totals_said(whole, piece.settings.meter.counts))
    if piece.problems:
        return WRONG
    return 0 if all(e.fits for e in whole.entries) else UNDANCEABLE


def _one_part(piece: Piece, name: str | None) -> Part:
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


def _tempo(args: argparse.Namespace, piece: Piece) -> float:
    tempo = piece.settings.tempo if args.tempo is None else float(args.tempo)
    if not SLOWEST <= tempo <= FASTEST:
        raise FirnError(f"The tempo must lie between {SLOWEST} and {FASTEST} counts a minute, not {tempo:g}.")
    return tempo


def _count_in(args: argparse.Namespace, piece: Piece) -> CountIn:
    if args.no_count_in:
        return CountIn("none")
    return CountIn(many=args.count_in) if args.count_in else piece.settings.count_in


def _section(args: argparse.Namespace, piece: Piece, *, swapped: bool = False) -> Section:
    """What is to be danced: the part that is named, else the combo, else the first part with sounds."""
    mixing = Mixing(
        tempo=_tempo(args, piece),
        count_in=_count_in(args, piece),
        counts=args.voice in ("counts", "both"),
        beats=args.voice in ("beats", "both"),
        swapped=args.mirrored,
    )
    whole = unfold(piece) if args.part is None and piece.combo else None
    if whole is not None and whole.passes:
        first = whole.passes[0].offset + whole.passes[0].part.first_count
        sounds: Sequence[Sound] = whole.sounds
        counting, end = whole.counting, first + whole.counts
    else:
        part = _one_part(piece, args.part)
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
    from firn.core.drills.ladder import Ladder, climbed, rungs, tempo_bounds

    if args.to is not None:
        raise FirnError("Either a ladder, or --to another tempo along the way.")
    start, end, step = args.ladder
    ladder = Ladder(start, end, step, args.times, args.sides, args.rest)
    part = _one_part(piece, args.part) if args.part is not None or not piece.combo else None
    steps = rungs(ladder, tempo_bounds(part)) if part is not None else rungs(ladder)
    return climbed(steps, _section(args, piece), _section(args, piece, swapped=True), rest=ladder.rest)


def _fits(args: argparse.Namespace) -> int:
    from firn.core.combos.tunes import suits
    from firn.files.tunes import tunes_in

    piece = _piece(args)
    _print_problems(args.piece, piece)
    part = _one_part(piece, args.part) if args.part is not None or not piece.combo else None
    found = []
    for name, tune in tunes_in(Path(args.tunes)):
        if isinstance(tune, FirnError):
            print(f"firn: {tune}", file=sys.stderr)
            continue
        found.append((name, tune, suits(piece, tune, part, Fraction(args.per))))
    found.sort(key=lambda one: one[2].rank)
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

    piece = _piece(args)
    _print_problems(args.piece, piece)
    wish = Wish(
        args.counts, args.ends or "", args.front, args.level or 0, args.pace or "", args.against or "",
        tuple(name.strip() for name in args.of.split(",")) if args.of else (), args.seed,
    )  # fmt: skip
    try:
        made = fill(piece.settings, wish, _own_cards(args))
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

    own = _own_cards(args)
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


def _play(args: argparse.Namespace) -> int:
    from firn.core.sound.model import render_blocks
    from firn.core.sound.voices import RATE
    from firn.files.audio import write_wav_blocks

    if args.drill is not None:
        write_wav_blocks(Path(args.out), render_blocks(_drilled(args)), RATE)
        return 0
    piece = _piece(args)
    _print_problems(args.piece, piece)
    write_wav_blocks(Path(args.out), render_blocks(_timeline(args, piece)), RATE)
    return WRONG if piece.problems else 0


def _drilled(args: argparse.Namespace) -> Timeline:
    """A drill of a workbook, from beginning to end as it is planned."""
    from firn.session.desk import settings_of
    from firn.session.drilling import drill_timeline, plan
    from firn.session.practised import drill_of

    piece, drill = drill_of(Path(args.piece), args.drill)
    return drill_timeline(plan(piece, drill, _own_cards(args)), settings_of(piece.head).count_in)


def _onsets(args: argparse.Namespace) -> int:
    from firn.files.audio import onsets_of_file

    for time in onsets_of_file(Path(args.take)).times_s:
        print(f"{time:.4f}")
    return 0


def _listen(args: argparse.Namespace) -> int:
    from firn.core.ear.verdict import WrongTake, judge
    from firn.session.listening import parts_among, parts_beside, verdict_data, verdict_lines, wrong_data

    own = _own_cards(args)
    piece = piece_from(read_steps(Path(args.piece)), own)
    _print_problems(args.piece, piece)
    part = _one_part(piece, args.part)
    tempo = _tempo(args, piece)
    others = parts_beside(piece, part, tempo)
    for one in parts_among(Path(args.among), own, but=Path(args.piece)) if args.among else ():
        if isinstance(one, FirnError):
            print(f"firn: {one}", file=sys.stderr)
        else:
            others.append(one)
    name = piece.settings.name or Path(args.piece).stem
    try:
        verdict = judge(
            part, tempo, _heard(args), passes=args.passes, on_ms=args.on, others=others, anyway=args.anyway
        )
    except WrongTake as fault:
        print(json.dumps(wrong_data(fault, name), indent=1, ensure_ascii=False) if args.json else str(fault))
        print("firn: --anyway judges it all the same.", file=sys.stderr)
        return UNDANCEABLE
    if args.json:
        print(json.dumps(verdict_data(part, verdict, name), indent=1, ensure_ascii=False))
    else:
        print("\n".join(verdict_lines(part, verdict)))
    return 0


def _heard(args: argparse.Namespace) -> "Onsets":
    """What is heard in a take, or in the stretch of it that is asked for."""
    from firn.core.ear.onsets import find_onsets
    from firn.files.audio import LONG_S, onsets_of_file, read_take, take_info

    info = take_info(Path(args.take))
    if info.long and args.start is None:
        raise FirnError(
            f"{info.path.name} lasts {info.seconds / 60:.0f} minutes; Firn judges up to {LONG_S / 60:.0f}.",
            hint="Say which stretch with --start and --length, in seconds.",
        )
    if args.start is None and args.length is None:
        return onsets_of_file(info.path)
    start = args.start or 0.0
    sound, rate = read_take(info.path, start_s=start, length_s=args.length or LONG_S)
    return find_onsets(sound, rate).later(start)


class _Parser(argparse.ArgumentParser):
    def error(self, message: str) -> Any:
        print(f"firn: {message}", file=sys.stderr)
        raise SystemExit(WRONG)


def _number(text: str) -> float:
    value = float(text)
    if not abs(value) < 1e9:
        raise ValueError(text)
    return value


def _ladder(text: str) -> tuple[float, float, float]:
    start, end, step = (_number(n) for n in text.split("-"))
    return start, end, step


def _whole(text: str) -> int:
    value = int(text)
    if not 1 <= value <= 10_000:
        raise ValueError(text)
    return value


USAGE = """firn [WORKBOOK.firn | PIECE.steps]   the application: on a workbook, or on a piece in a new one
       firn --demo                          the application, on a demo
       firn COMMAND ...                     one of the commands below"""


def _parser() -> argparse.ArgumentParser:
    parser = _Parser(
        prog="firn",
        usage=USAGE,
        description="Footwork written down, checked, played and heard back.",
        epilog="firn COMMAND --help says more of each.",
        formatter_class=argparse.RawDescriptionHelpFormatter,
    )
    parser.add_argument("--demo", action="store_true", help="open the application on an invented evening class")
    parser.add_argument("--version", action="version", version=f"firn {__version__}")
    commands = parser.add_subparsers(
        dest="command", required=True, parser_class=_Parser, title="without a window", metavar="COMMAND"
    )

    def command(name: str, run: Callable[[argparse.Namespace], int], about: str) -> argparse.ArgumentParser:
        made = commands.add_parser(name, prog=f"firn {name}", help=about, description=about)
        made.set_defaults(run=run)
        return made

    read = command("read", _read, "every sound: count, place, foot, kind, weight")
    read.add_argument("piece")
    read.add_argument("--json", action="store_true")
    read.add_argument("--cards", help="a folder of your own cards")
    checked = command("check", _check, "findings; exit 1 if something cannot be danced")
    checked.add_argument("piece")
    checked.add_argument("--json", action="store_true")
    checked.add_argument("--cards", help="a folder of your own cards")
    measured = command("measure", _measure, "published measures of the rhythm of each part, by phrase")
    measured.add_argument("piece")
    measured.add_argument("--over", choices=("heard", "all", "weight"), help="else over each of them")
    measured.add_argument("--json", action="store_true")
    measured.add_argument("--csv", action="store_true")
    measured.add_argument("--cards", help="a folder of your own cards")
    ledger = command("ledger", _ledger, "every pass of the combo: where it begins, its feet and walls; and the whole")
    ledger.add_argument("piece")
    ledger.add_argument("--phrase", type=_whole, help="counts of a phrase, such as 32; else the piece's")
    ledger.add_argument("--tempo", type=_number, help="counts a minute, else the piece's")
    ledger.add_argument("--tune", metavar="FILE", help="what it is danced to: ABC, MIDI, MusicXML")
    ledger.add_argument("--json", action="store_true")
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
    filled.add_argument("--counts", type=_whole, required=True)
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
    drill.add_argument("--minutes", type=_number, default=15.0, help="minutes a day")
    drill.add_argument("--days", type=_whole, default=1)
    drill.add_argument("--today", metavar="DATE", help="the first day, such as 2026-11-25")
    drill.add_argument("--tempo", type=_number, help="the full tempo, else the piece's")
    drill.add_argument("--log", metavar="FILE.json", help="what was danced, in place of a workbook's log")
    drill.add_argument("--student", metavar="KEY", help="a student of the workbook, by key or name, else its owner")
    drill.add_argument("--json", action="store_true")
    drill.add_argument("--cards", help="a folder of your own cards")
    play = command("play", _play, "the model as a WAV file: a part, or the combo")
    play.add_argument("piece")
    play.add_argument("-o", "--out", required=True)
    play.add_argument("--part")
    play.add_argument("--drill", metavar="NAME", help="a drill of a workbook, all its stages as planned")
    play.add_argument("--tempo", type=_number)
    play.add_argument("--to", type=_number, help="the tempo at its end, reached count by count")
    play.add_argument(
        "--ladder", type=_ladder, metavar="START-END-STEP", help="from tempo to tempo, such as 96-120-4"
    )
    play.add_argument("--times", type=_whole, default=2, help="so many times a side on each rung of a ladder")
    play.add_argument("--sides", choices=("as written", "both sides"), default="both sides", help="of a ladder")
    play.add_argument(
        "--rest", type=int, choices=(0, 4, 8), default=4, help="counts of rest on each rung of a ladder"
    )
    play.add_argument("--count-in", type=int, choices=(4, 8), help="else as the piece says")
    play.add_argument("--no-count-in", action="store_true")
    play.add_argument("--voice", choices=("counts", "beats", "both", "none"), default="both")
    play.add_argument("--mirrored", action="store_true", help="left and right sides of the sound swapped")
    play.add_argument("--cards", help="a folder of your own cards")
    onsets = command("onsets", _onsets, "one onset a line, in seconds")
    onsets.add_argument("take")
    listen = command("listen", _listen, "the verdict on a take, sound by sound")
    listen.add_argument("piece")
    listen.add_argument("take")
    listen.add_argument("--part")
    listen.add_argument("--tempo", type=_number)
    listen.add_argument("--passes", type=_whole, help="how many times through, where it is not to be found out")
    listen.add_argument("--on", type=_number, default=25.0, help="a sound within so many ms is on")
    listen.add_argument("--among", metavar="FOLDER", help="with pieces that it might be a take of as well")
    listen.add_argument("--anyway", action="store_true", help="judge it as this part whatever it may be")
    listen.add_argument("--start", type=_number, help="where the stretch begins, in seconds")
    listen.add_argument("--length", type=_number, help="how long the stretch is, in seconds")
    listen.add_argument("--json", action="store_true")
    listen.add_argument("--cards", help="a folder of your own cards")
    return parser


def run(words: Sequence[str]) -> int:
    """Run a command; returns the exit status. Never a traceback for what a user can do wrong."""
    args = _parser().parse_args(words)
    try:
        return int(args.run(args))
    except FirnError as fault:
        print(f"firn: {fault}", file=sys.stderr)
        return WRONG
    except BrokenPipeError:
        sys.stderr.close()
        return WRONG
    except KeyboardInterrupt:
        return WRONG
    except MemoryError:
        print("firn: there is not enough memory for that.", file=sys.stderr)
        return WRONG
