"""Times into counts: what was tapped, and the beats of a recording."""

import argparse
import json
import math
import sys
from contextlib import suppress
from pathlib import Path

from firn.commands.shared import Command, add_examples, number, own_cards, shoes_asked
from firn.core.script.settings import Settings, set_by
from firn.core.steps.kinds import KINDS
from firn.errors import FirnError
from firn.files.whole import read_text

MOST_BYTES = 1_000_000

UNSURE = 0.5
"""Beats that are less sure may be those of another tempo."""


def _tap(args: argparse.Namespace) -> int:
    from firn.session.tap_script import Tap, script_of
    from firn.session.tap_words import in_steps
    from firn.session.tapping import kept_taps, readings, taps_data

    settings = _settings(args)
    taps = kept_taps([Tap(*one) for one in _times(Path(args.times))])
    found = readings(taps, settings.meter, args.tempo)
    shelf = own_cards(args)
    if args.json:
        print(json.dumps(taps_data(taps, found, settings, shelf), indent=1, ensure_ascii=False))
        return 0
    read = found[0]
    print(f"# at {read.tempo:.0f} counts a minute, taps within {1000 * read.spread_s:.0f} ms")
    print(script_of(taps, read, settings, shelf))
    if any(tap.word != Tap(0).word for tap in taps):
        with suppress(FirnError):
            steps = in_steps(taps, read, settings, shelf)
            print(f"# in steps\n{steps.text}")
            for doubt in steps.doubts:
                print(f"# {doubt}")
    return 0


def _settings(args: argparse.Namespace) -> Settings:
    """The meter and tradition that were said."""
    settings = Settings()
    for key, value in (("meter", args.meter), ("tradition", args.tradition)):
        if value:
            changed = set_by(settings, key, value)
            if changed is None:
                raise FirnError(f'"{value}" is no {key} that Firn knows.')
            settings = changed
    return settings


def _draft(args: argparse.Namespace) -> int:
    from firn.files.whole import write_text
    from firn.session.drafting import draft_data, draft_of, draft_text

    settings, shelf = _settings(args), own_cards(args)
    words = read_text(Path(args.words), "a list of words", MOST_BYTES) if args.words else ""
    draft = draft_of(Path(args.clip), settings, shelf, tempo=args.tempo, words=words, shoes=shoes_asked(args))
    for rival in dict.fromkeys(draft.rivals) if not args.json else ():
        print(f"firn: {rival}", file=sys.stderr)
    if draft.told:
        print(f"firn: {draft.told}", file=sys.stderr)
    if args.out:
        write_text(Path(args.out), draft_text(draft, settings))
    if args.json:
        print(json.dumps(draft_data(draft, settings, shelf), indent=1, ensure_ascii=False))
    elif not args.out:
        print(draft_text(draft, settings), end="")
    return 0


FEET = {"r": "right", "l": "left", "right": "right", "left": "left"}


def _times(path: Path) -> list[tuple[float, str, str]]:
    """Seconds, one a line, each with what it was (brush, heel, toe tip …; a step where nothing is said) and its foot
    (L or R), where they are known; what follows a # is a remark."""
    found = []
    for row, line in enumerate(read_text(path, "a list of times", MOST_BYTES).splitlines(), 1):
        said, *more = line.partition("#")[0].split() or [""]
        if not said:
            continue
        try:
            time = float(said)
        except ValueError:
            time = math.nan
        if not 0 <= time < 1e6:
            raise FirnError(f'{path.name}, line {row}: "{said[:40]}" is no time in seconds.')
        foot = FEET.get(more[-1].casefold(), "") if more else ""
        word = " ".join(more[:-1] if foot else more).casefold()
        if word and word.replace(" ", "_") not in KINDS and word != "stamp":
            raise FirnError(f'{path.name}, line {row}: "{word[:40]}" is no way to strike that Firn knows.')
        found.append((time, word or "step", foot))
    return found


def _beats(args: argparse.Namespace) -> int:
    from firn.files.audio import beats_of_file

    found = beats_of_file(Path(args.clip))
    if not len(found.times_s):
        raise FirnError(f"{Path(args.clip).name} has no beat that can be followed.")
    if args.json:
        times = [round(float(t), 4) for t in found.times_s]
        print(json.dumps({"bpm": round(found.bpm, 2), "sure": round(found.sure, 3), "beats_s": times}, indent=1))
        return 0
    if found.sure < UNSURE:
        print("firn: it may be half or twice as fast, or two thirds, or no beat at all.", file=sys.stderr)
    print(f"bpm {found.bpm:.1f}")
    for time in found.times_s:
        print(f"{time:.3f}")
    return 0


def add(command: Command) -> None:
    """The commands of this room."""
    tap = command("tap", _tap, "times that were tapped, read as counts and written as a script")
    tap.add_argument("times", metavar="TIMES.txt", help="seconds, one a line")
    tap.add_argument("--meter", default="4/4")
    tap.add_argument("--tempo", type=number, help="counts a minute, to about an eighth; found out where not said")
    tap.add_argument("--tradition")
    tap.add_argument("--json", action="store_true", help="with how sure each place is, and the other readings")
    tap.add_argument("--cards", help="a folder of your own cards")
    draft = command("draft", _draft, "a recording as a draft of a script: its sounds on counts, words laid onto them")
    draft.add_argument("clip", help="a recording or a film")
    draft.add_argument("--meter", default="4/4")
    draft.add_argument("--tempo", type=number, help="counts a minute, to about an eighth; found out where not said")
    draft.add_argument("--words", metavar="FILE", help="the steps in the order in which they are danced, to lay on")
    draft.add_argument("--tradition")
    add_examples(draft)
    draft.add_argument("-o", dest="out", metavar="PIECE.steps", help="write it as a piece")
    draft.add_argument("--json", action="store_true")
    draft.add_argument("--cards", help="a folder of your own cards")
    beats = command("beats", _beats, "the beats of a recording or film: its tempo, then a beat a line, in seconds")
    beats.add_argument("clip")
    beats.add_argument("--json", action="store_true")
