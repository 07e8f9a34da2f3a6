"""The commands: reading, checking, playing and listening without a window."""

import argparse
import sys
from collections.abc import Callable, Sequence
from typing import Any

from firn import __version__
from firn.commands import building, giving, hearing, reading, sounding, tapping
from firn.commands.shared import WRONG
from firn.errors import FirnError

USAGE = """firn [WORKBOOK.firn | PIECE.steps]   the application: on a workbook, or on a piece in a new one
       firn --demo                          the application, on a demo
       firn COMMAND ...                     one of the commands below"""


class _Parser(argparse.ArgumentParser):
    def error(self, message: str) -> Any:
        print(f"firn: {message}", file=sys.stderr)
        raise SystemExit(WRONG)


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

    for room in (reading, building, sounding, hearing, tapping, giving):
        room.add(command)
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
