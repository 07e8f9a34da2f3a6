"""What `firn` is asked for: the application, or one of the commands. Neither is imported before it is known."""

import os
import sys
from collections.abc import Sequence
from pathlib import Path

COMMANDS = (
    "read",
    "check",
    "measure",
    "ledger",
    "fits",
    "fill",
    "drill",
    "play",
    "onsets",
    "listen",
    "ask",
    "tap",
    "draft",
    "beats",
    "sheet",
    "film",
    "pack",
    "bring",
    "log",
    "convert",
)
WRONG = 2


def _not_understood(words: Sequence[str]) -> str:
    """Why words that are no command do not name a workbook either; "" where they do."""
    unknown = [w for w in words if w.startswith("-") and w != "--demo"]
    if unknown:
        return f"{unknown[0]} is no option; firn --help lists what there is."
    named = [w for w in words if not w.startswith("-")]
    if not named:
        return ""
    path = Path(named[0])
    if not os.path.exists(path) and path.suffix.casefold() != ".firn":
        import difflib

        near = difflib.get_close_matches(named[0], COMMANDS, 1)
        meant = f' Did you mean "firn {near[0]}"?' if near else " A new workbook's name ends in .firn."
        return f'There is no file and no command called "{named[0]}".{meant}'
    return "" if len(named) == 1 else f"One workbook at a time: {named[1]} is one too many."


def main(argv: Sequence[str] | None = None) -> int:
    """Run `firn`; returns the exit status."""
    words = list(sys.argv[1:] if argv is None else argv)
    if words and words[0] in (*COMMANDS, "-h", "--help", "--version"):
        from firn.commands import run

        return run(words)
    wrong = _not_understood(words)
    if wrong:
        print(f"firn: {wrong}", file=sys.stderr)
        return WRONG
    from firn.ui.start import start

    return start(words)


if __name__ == "__main__":
    raise SystemExit(main())
