"""What leaves Firn: packs for students, and their way back."""

import argparse
import sys
from datetime import date
from pathlib import Path

from firn.commands.shared import Command, number, own_cards
from firn.errors import FirnError


def _pack(args: argparse.Namespace) -> int:
    from firn.files.formats import WORKBOOK
    from firn.session.giving import Order, pack_name, packs, wanted_of, write_pack
    from firn.session.pack.page import make_pack
    from firn.session.practised import book_at, piece_and_log, piece_called, student_called

    path, out, shelf = Path(args.piece), Path(args.out), own_cards(args)
    order = Order(
        tuple(args.part or ()), args.by, args.licence, args.note, args.language or "", args.tempo or 0.0,
        args.minutes, args.days, not args.no_questions,
    )  # fmt: skip
    today = _day(args.today)
    if args.student is not None and WORKBOOK.names(path):
        book = book_at(path)
        piece = piece_called(book, args.of)
        every = args.student == "all"
        students = list(book.students) if every else [student_called(book, args.student)]
        if not students:
            raise FirnError(f"{path.name} has no students yet.")
        if every and not out.is_dir():
            raise FirnError(f"{out} is no folder: packs for all go into one.")

        def give(student, pack) -> None:  # type: ignore[no-untyped-def]
            name = f"{pack_name(piece, student, named=args.names)}.{'zip' if args.zip else 'html'}"
            write_pack(out / name if every else out, pack)
            print(f"{student.id}  {name}" if every else str(out))

        packs(book, piece, students, shelf, order, today, give)
        return 0
    piece, log, student = piece_and_log(path, args.of, args.student)
    pack = make_pack(wanted_of(piece, log, shelf, order, student, today))
    write_pack(out, pack)
    print(f"{out}: {len(pack.html) / 1e6:.1f} MB", file=sys.stderr)
    return 0


def _day(said: str | None) -> date:
    try:
        return date.fromisoformat(said) if said else date.today()
    except ValueError as fault:
        raise FirnError(f"{said} is no day: write it as 2026-11-25.") from fault


def add(command: Command) -> None:
    """The commands of this room."""
    pack = command(
        "pack", _pack, "a page for students that opens on a phone without network: strip, sound, questions"
    )
    pack.add_argument("piece", help="a .steps text, or a workbook")
    pack.add_argument("-o", "--out", required=True, help="X.html, or X.zip for a folder; a folder with --student all")
    pack.add_argument("--of", metavar="NAME", help="which piece of a workbook, else the one that was on show last")
    pack.add_argument("--part", action="append", help="only this part, or combo; may be said again")
    pack.add_argument(
        "--student", metavar="KEY", help="a student of the workbook, by key or name; all for each of them"
    )
    pack.add_argument("--names", action="store_true", help="with --student all: files by names in place of keys")
    pack.add_argument("--zip", action="store_true", help="with --student all: folders in place of pages")
    pack.add_argument("--by", default="", help="who made it")
    pack.add_argument("--licence", default="", help="a line on what may be done with it")
    pack.add_argument("--note", default="", help="a note to the student")
    pack.add_argument("--language", choices=("en", "es"))
    pack.add_argument("--tempo", type=number, help="counts a minute, else the student's or the piece's")
    pack.add_argument("--days", type=int, choices=range(29), default=0, help="a practice of so many days with it")
    pack.add_argument("--minutes", type=number, default=15.0, help="minutes of practice a day")
    pack.add_argument("--today", metavar="DATE", help="the first day of practice, such as 2026-11-25")
    pack.add_argument("--no-questions", action="store_true", help="without questions to the ear")
    pack.add_argument("--cards", help="a folder of your own cards")
