"""What leaves Firn: packs for students, and their way back."""

import argparse
import json
import sys
from collections.abc import Sequence
from datetime import date
from pathlib import Path
from typing import get_args

from msgspec.structs import replace

from firn.commands.shared import (
    UNDANCEABLE,
    Command,
    add_ladder,
    add_voice,
    number,
    one_part,
    own_cards,
    rungs_of,
    tempo_of,
    voiced,
)
from firn.core.piece.piece import Piece
from firn.errors import FirnError
from firn.session.paper import Paper
from firn.session.settings import PaperSize
from firn.session.view import SHOWN


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
    if args.drill is not None:
        from firn.session.practised import drill_of

        its, drill = drill_of(path, args.drill)
        if args.of is not None and args.of.casefold() != its.name.casefold():
            raise FirnError(f"{drill.name} is a drill of {its.name}, not of {args.of}.")
        # A drill is of one piece: where none is named, the pack is of that.
        args.of, order = its.name, replace(order, drill=drill)
    if args.voice is not None:
        from firn.session.pack.beside import voice_of

        order = replace(order, voice=voice_of(Path(args.voice)))
    if args.clip:
        if not WORKBOOK.names(path):
            raise FirnError(f"{path.name} knows no clips: they are kept in workbooks.")
        from firn.session.pack.beside import films_of

        book = book_at(path)
        order = replace(order, films=films_of(book, piece_called(book, args.of), order.parts, shelf, path))
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


SHEET_OPTIONS: dict[str, tuple[str, ...]] = {
    "drill": ("drill",), "student": ("week",), "today": ("week",), "days": ("week",), "minutes": ("week",),
    "without": ("strip",), "mirrored": ("strip",), "other_side": ("strip", "counts"), "language": ("cue", "strip"),
    "part": ("strip", "counts", "levels"),
}  # fmt: skip
"""Which kinds of sheet an option says something of; those of all kinds are left out."""


def _sheet(args: argparse.Namespace) -> int:
    import os

    from firn.core.piece.unfold import unfold
    from firn.files.whole import write_bytes
    from firn.session.cue_sheet import count_paper, cue_paper, in_both
    from firn.session.levels import levels_paper
    from firn.session.paper import paper
    from firn.session.stretch import across, combo_stretch, part_stretch
    from firn.session.view import PLAIN

    given = [name for name in SHEET_OPTIONS if getattr(args, name) not in (None, False)]
    for unused in (name for name in given if args.kind not in SHEET_OPTIONS[name]):
        kinds = " or ".join(f"--kind {kind}" for kind in SHEET_OPTIONS[unused])
        raise FirnError(f"--{unused.replace('_', '-')} says nothing here: it is of {kinds}.")
    piece = _piece_of(args)
    out, ending = Path(args.out), Path(args.out).suffix.casefold()
    if ending not in (".pdf", ".svg", ".png"):
        raise FirnError(f"Sheets are written as .pdf, .svg or .png, not {ending or args.out}.")
    part = one_part(piece, args.part) if args.part or not piece.combo else None
    if args.kind == "week":
        sheet = _week(args)
    elif args.kind == "drill":
        sheet = _drill(args)
    elif args.kind == "cue":
        sheet = cue_paper(piece, languages=tuple(args.language or ()))
    elif args.kind == "levels":
        if part is None:
            raise FirnError("A combo has no levels: choose a part with --part.")
        sheet = levels_paper(part)
    elif args.kind == "counts":
        sheet = count_paper(piece, part, swapped=args.other_side)
    else:
        stretch = part_stretch(part) if part is not None else combo_stretch(piece, unfold(piece))
        if not stretch.sounds:
            raise FirnError("There is nothing to print yet: it has no steps.")
        stretch = across(stretch) if args.other_side else stretch
        # Above a strip there is room for one more.
        stretch = in_both(stretch, piece, (args.language or [""])[0])
        said = part.script.text if part is not None else ""
        view = replace(PLAIN, mirrored=args.mirrored, hidden=tuple(args.without or ()))
        sheet = paper(piece.settings, stretch.title, stretch, said, (), view)
    # Drawn without a display, on whatever machine.
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    from firn.ui.printed import drawn

    write_bytes(out, drawn(replace(sheet, hall=args.hall), ending, args.paper))
    return 0


def _drill(args: argparse.Namespace) -> Paper:
    """A drill on paper."""
    from firn.session.drilling import plan
    from firn.session.practice_paper import drill_paper
    from firn.session.practised import drill_of

    if args.drill is None:
        raise FirnError("Which drill? Name it with --drill.")
    piece, drill = drill_of(Path(args.piece), args.drill)
    return drill_paper(piece, plan(piece, drill, own_cards(args)))


def _week(args: argparse.Namespace) -> Paper:
    """A practice on paper."""
    from firn.session.planning import practice
    from firn.session.practice_paper import week_paper
    from firn.session.practised import piece_and_log

    kept, log, student = piece_and_log(Path(args.piece), args.of, args.student)
    days = practice(
        kept, log, own_cards(args), minutes=15.0 if args.minutes is None else args.minutes, today=_day(args.today),
        days=args.days or 7, student=student,
    )  # fmt: skip
    return week_paper(kept, days)


def _film(args: argparse.Namespace) -> int:
    import os

    from firn.session.converting import How, on_a_ladder, section_of, stretch_of
    from firn.session.stretch import across
    from firn.session.view import PLAIN

    piece = _piece_of(args)
    if Path(args.out).suffix.casefold() != ".webm":
        raise FirnError("Films are written as .webm.")
    part = one_part(piece, args.part) if args.part or not piece.combo else None
    stretch = stretch_of(piece, part)
    stretch = across(stretch) if args.other_side else stretch
    how = How("", tempo_of(args, piece), *voiced(args))
    shown = [(stretch, section_of(stretch, piece, how))]
    if args.ladder is not None:
        shown = on_a_ladder(stretch, piece, how, rungs_of(args, piece), rest=args.rest)
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    from firn.ui.film import write_film
    from firn.ui.printed import without_window

    without_window()
    title = f"{piece.settings.name}, {part.name if part is not None else 'combo'}"
    view = replace(PLAIN, mirrored=True) if args.mirrored else PLAIN
    write_film(Path(args.out), title, shown, view)
    return 0


def _piece_of(args: argparse.Namespace) -> Piece:
    """The piece that is named, of a text or of a workbook."""
    from firn.core.piece.build import piece_from
    from firn.session.converting import piece_at

    shelf = own_cards(args)
    return piece_from(piece_at(Path(args.piece), shelf, of=args.of).text, shelf)


def _bring(args: argparse.Namespace) -> int:
    from firn.session.bringing import Bringer
    from firn.session.found import brought_data
    from firn.session.practised import student_called
    from firn.session.session import Session

    session = Session.open(Path(args.workbook))
    try:
        whose = student_called(session.book, args.student).id if args.student else None
        bringer = Bringer(session.book, session.store, own_cards(args))
        part = _known_part(bringer.names, args.part) if args.part else ""
        found = bringer.read(Path(args.folder))
        found = [
            bringer.settled(one, student=whose if one.student is None else None, part=part)
            if one.doubt in ("whose", "which") and not one.known
            else one
            for one in found
        ]
        edit = bringer.kept(found)
        if session.store.read_only and (edit.entries or edit.takes or edit.answers):
            raise FirnError(f"{args.workbook} is open to read only.")
        session.do(edit)
        if session.unsaved:
            raise FirnError(session.unsaved)
        data = brought_data(found, edit, bringer.take_of)
    finally:
        session.close()
    if args.json:
        print(json.dumps(data, indent=1, ensure_ascii=False))
    else:
        for row in data["brought"]:
            went = f": {row['how']} at {row['tempo']:g}" if row.get("how") else ""
            print(f"{row['file']}: {row['part'] or 'what was done'}{went}{''.join(f' {t}' for t in row['told'])}")
        for row in (*data["waits"], *data["unread"]):
            print(f"{row['file']}: waits. {row['why']}")
        if data["known"]:
            print(f"{len(data['known'])} had been brought in before.")
    return UNDANCEABLE if data["waits"] else 0


def _convert(args: argparse.Namespace) -> int:
    from firn.files.formats import WORKBOOK
    from firn.files.whole import write_bytes
    from firn.session.converting import How, calendar, piece_at, written

    source, out, shelf = Path(args.source), Path(args.out), own_cards(args)
    if source.is_dir() or (WORKBOOK.names(source) and not out.suffix):
        from firn.session.whole_folder import read_folder, write_folder

        told: Sequence[str] = read_folder(source, out) if source.is_dir() else write_folder(source, out)
    elif out.suffix.casefold() == ".ics":
        from firn.session.planning import practice
        from firn.session.practised import piece_and_log

        piece, log, student = piece_and_log(source, args.of, args.student)
        days = practice(
            piece, log, shelf, minutes=args.minutes, today=_day(args.today), days=args.days, tempo=args.tempo or 0.0,
            student=student,
        )  # fmt: skip
        write_bytes(out, calendar(days, piece.name, at=args.at))
        told = ()
    else:
        notes = [int(n) for n in args.notes.split(",") if n.strip().isdecimal()] if args.notes else ()
        brought = piece_at(source, shelf, of=args.of, notes=notes)
        how = How(args.part or "", args.tempo or 0.0, *voiced(args))
        made = written(brought.text, out.suffix.casefold(), shelf, how)
        write_bytes(out, made.data)
        told = (*brought.told, *made.told)
    for sentence in told:
        print(f"firn: {sentence}", file=sys.stderr)
    return 0


def _known_part(parts: Sequence[str], said: str) -> str:
    """A part or a combo as a workbook calls it, by its own name or with its piece's; raises FirnError."""
    from firn.session.listening import BETWEEN

    wanted = said.casefold()
    named: list[str] = [name for name in parts if wanted in (name.casefold(), name.rpartition(BETWEEN)[2].casefold())]
    if len(named) != 1:
        raise FirnError(f'{"No part" if not named else "More than one part"} is called "{said}": {", ".join(parts)}.')
    return named[0]


def _log(args: argparse.Namespace) -> int:
    from firn.session.log import log_data
    from firn.session.practised import book_at, student_called
    from firn.session.tables import table_text

    book = book_at(Path(args.workbook))
    who = None if args.student is None else student_called(book, args.student).id
    since = _day(args.since).isoformat() if args.since else ""
    data = log_data(book, student=who, since=since)
    if args.json:
        print(json.dumps(data, indent=1, ensure_ascii=False))
        return 0
    if args.csv:
        print(table_text(data["log"]), end="")
        return 0
    for row in data["log"]:
        went = row["how"] or "not judged"
        sounds = f", {row['on']} of {row['of']}" if row["of"] else ""
        print(f"{row['when'][:16]}  {row['who']:<14} {row['step']}, {row['side'] or 'either side'}, "
              f"{row['tempo']:g}: {went}{sounds}")  # fmt: skip
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
    pack.add_argument("--drill", metavar="NAME", help="a drill of a workbook, to be ticked stage by stage")
    pack.add_argument("--voice", metavar="FILE", help="a recording of your voice to them")
    pack.add_argument("--clip", action="store_true", help="with the picture of the clip that a part is from")
    pack.add_argument("--language", choices=("en", "es"))
    pack.add_argument("--tempo", type=number, help="counts a minute, else the student's or the piece's")
    pack.add_argument("--days", type=int, choices=range(29), default=0, help="a practice of so many days with it")
    pack.add_argument("--minutes", type=number, default=15.0, help="minutes of practice a day")
    pack.add_argument("--today", metavar="DATE", help="the first day of practice, such as 2026-11-25")
    pack.add_argument("--no-questions", action="store_true", help="without questions to the ear")
    pack.add_argument("--cards", help="a folder of your own cards")
    sheet = command(
        "sheet", _sheet, "paper: the strip, levels, a cue sheet, or a table of counts, as PDF, SVG or PNG"
    )
    sheet.add_argument("piece", help="a .steps text, or a workbook")
    sheet.add_argument("-o", "--out", required=True, help="X.pdf; of a strip also X.svg, X.png")
    sheet.add_argument("--kind", choices=("strip", "levels", "cue", "counts", "drill", "week"), default="cue")
    sheet.add_argument("--days", type=int, choices=range(1, 29), help="of practice on paper, else 7")
    sheet.add_argument("--minutes", type=number, help="of practice a day, else 15")
    sheet.add_argument("--today", metavar="DATE")
    sheet.add_argument("--student", metavar="KEY")
    sheet.add_argument("--of", metavar="NAME", help="which piece of a workbook, else the one that was on show last")
    sheet.add_argument("--part", help="of strip and counts; else the combo where there is one")
    sheet.add_argument("--drill", metavar="NAME", help="which drill of a workbook")
    sheet.add_argument("--paper", choices=get_args(PaperSize), default="A4", help="A6 goes into a pocket")
    sheet.add_argument("--hall", action="store_true", help="in letters to be read across a hall")
    sheet.add_argument(
        "--without", action="append", choices=SHOWN, metavar="LAYER", help="leave it out of the strip: hands, arms, …"
    )
    sheet.add_argument("--other-side", action="store_true")
    sheet.add_argument("--mirrored", action="store_true", help="the strip as one sees it who stands opposite")
    sheet.add_argument(
        "--language", action="append", metavar="es", help="names of the steps in it too, on cue sheets and strips"
    )
    sheet.add_argument("--cards", help="a folder of your own cards")
    film = command("film", _film, "a film of the model: word now and next, strip, counts, with sound")
    film.add_argument("piece", help="a .steps text, or a workbook")
    film.add_argument("-o", "--out", required=True, help="X.webm")
    film.add_argument("--of", metavar="NAME", help="which piece of a workbook, else the one that was on show last")
    film.add_argument("--part", help="else the combo where there is one")
    film.add_argument("--tempo", type=number, help="counts a minute, else the piece's")
    add_ladder(film)
    add_voice(film)
    film.add_argument("--other-side", action="store_true")
    film.add_argument("--mirrored", action="store_true", help="as one sees it who stands opposite")
    film.add_argument("--cards", help="a folder of your own cards")
    bring = command("bring", _bring, "what students did at home: recordings and their pages' files, into a workbook")
    bring.add_argument("workbook")
    bring.add_argument("folder")
    bring.add_argument("--student", metavar="KEY", help="whose it is where nothing else says so")
    bring.add_argument("--part", help="of which part what is in doubt is")
    bring.add_argument("--json", action="store_true")
    bring.add_argument("--cards", help="a folder of your own cards")
    log = command("log", _log, "what was danced, from a workbook's log")
    log.add_argument("workbook")
    log.add_argument("--student", metavar="KEY", help="of this student, by key or name, else of all")
    log.add_argument("--since", metavar="DATE", help="from this day on, such as 2026-11-25")
    log.add_argument("--json", action="store_true")
    log.add_argument("--csv", action="store_true")
    convert = command("convert", _convert, "one file as another: text, MIDI, MusicXML, ABC, tables, sound, calendar")
    convert.add_argument("source", help=".steps, .firn, .mid, .musicxml, .abc, or a folder that was a workbook")
    convert.add_argument(
        "out", help="by its ending: .steps .mid .musicxml .abc .csv .json .wav .flac .ogg .mp3 .ics; of a workbook "
        "also a folder without one",
    )  # fmt: skip
    convert.add_argument("--of", metavar="NAME", help="which piece of a workbook, else the one that was on show last")
    convert.add_argument("--part", help="this part alone, else the combo where there is one")
    convert.add_argument("--tempo", type=number, help="counts a minute, else the piece's")
    convert.add_argument("--notes", metavar="36,38", help="of a MIDI file these keys alone")
    add_voice(convert, "in sound")
    convert.add_argument("--days", type=int, choices=range(1, 29), default=7, help="of practice in a calendar")
    convert.add_argument("--minutes", type=number, default=15.0)
    convert.add_argument("--today", metavar="DATE")
    convert.add_argument("--at", default="18:00", help="the time of day in a calendar")
    convert.add_argument("--student", metavar="KEY")
    convert.add_argument("--cards", help="a folder of your own cards")
