"""Reading, checking and measuring a piece."""

import argparse
import json

from firn.commands.shared import UNDANCEABLE, WRONG, Command, piece_named, print_doubts, print_problems
from firn.core.reading.profile import OVERS
from firn.core.reading.read import check
from firn.core.reading.sentences import label, sentence
from firn.core.reading.style import Asked, style_of
from firn.session.report import findings_data, measures_csv, measures_data, sounds_data
from firn.session.settings import load_settings, settings_path


def _read(args: argparse.Namespace) -> int:
    piece = piece_named(args)
    print_problems(args.piece, piece)
    print_doubts(args.piece, piece)
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
    piece = piece_named(args)
    print_problems(args.piece, piece)
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
    piece = piece_named(args)
    print_problems(args.piece, piece)
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


def add(command: Command) -> None:
    """The commands of this room."""
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
