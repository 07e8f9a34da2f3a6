"""The ledger of a combo in words: each pass, where it begins, how it leaves the feet and the body, and the whole."""

from fractions import Fraction
from typing import Any

from msgspec import Struct

from firn.core.piece.piece import Piece
from firn.core.piece.unfold import Unfolded
from firn.core.reading.ledger import Entry, Ledger
from firn.core.reading.ledger import ledger as entries_of
from firn.core.script.turns import turn_text


class LedgerRow(Struct, frozen=True):
    """A pass of a combo in words: the part, which time and how it ends where that differs, the count it begins on,
    its counts, the foot it begins on, the foot free after it, and the way faced then."""

    part: str
    begins: str
    counts: str
    foot: str
    free: str
    faces: str


LEDGER = ("Part", "From", "Counts", "Foot", "Free after", "Faces")


def ledger(piece: Piece, whole: Unfolded) -> list[LedgerRow]:
    """Every pass of a combo, one by one: where it begins and how it leaves the feet and the body; group by group."""
    return [_row(piece, entry) for entry in entries_of(piece, whole).entries]


def _row(piece: Piece, entry: Entry) -> LedgerRow:
    who = f"{entry.who}: " if entry.who else ""
    # Groups wait for each other: on which count of the whole each dances.
    at = f", at {entry.start}" if entry.group else ""
    counts = str(entry.counts) + (f" in {entry.meter}" if entry.meter != str(piece.settings.meter) else "")
    foot = entry.foot_in if entry.fits else f"{entry.foot_in}: not free"
    return LedgerRow(f"{who}{called(entry)}{at}", str(entry.in_phrase), counts, foot, entry.foot_out, entry.wall)


def called(entry: Entry) -> str:
    """A pass by name: its section, its part, which time of how many, and how it ends."""
    section = f"{entry.section}: " if entry.section else ""
    time = f", {entry.time} of {entry.of}" if entry.of > 1 else ""
    begins = f", begins {entry.begins}" if entry.begins else ""
    return f"{section}{entry.part}{time}{begins}{f', ends {entry.ends}' if entry.ends else ''}"


def entry_said(entry: Entry, phrase: int) -> str:
    """A pass in two or three sentences: where in the whole it lies, its feet, how they stand, wall and sounds."""
    last = entry.start + entry.counts - 1
    lies = f"counts {entry.start} to {last}" if entry.counts > 1 else f"count {entry.start}"
    within = f"{entry.in_phrase} of its {phrase}, {entry.in_long} of a 32, bar {entry.bar}"
    tune = f", {entry.tune} of the tune" if entry.tune else ""
    said = f"{called(entry)}: {lies}, {within}{tune}, from {clock(entry.start_s)} on"
    feet = f"{entry.foot_in} foot in" + ("" if entry.fits else ", which is not free")
    stood = " to ".join(dict.fromkeys(filter(None, (entry.stance_in, entry.stance_out))))
    turned = f", having turned {turn_text(entry.turn)}" if entry.turn else ""
    struck = f"{entry.sounds} {'sound' if entry.sounds == 1 else 'sounds'}, weight changed {_times(entry.changes)}"
    return (
        f"{said}. {feet.capitalize()}, {entry.foot_out} free after it{f', {stood}' if stood else ''}; "
        f"faces the {entry.wall}{turned}. {struck.capitalize()}."
    )


def _times(many: int) -> str:
    return {0: "never", 1: "once", 2: "twice"}.get(many, f"{many} times")


def clock(seconds: Fraction) -> str:
    """Minutes and seconds, such as 0:29."""
    whole = int(seconds)
    return f"{whole // 60}:{whole % 60:02d}"


def totals_said(whole: Ledger, meter_counts: int) -> str:
    """What all of it comes to, in one line."""
    bars = f", {Fraction(whole.counts, meter_counts)} bars" if whole.counts % meter_counts == 0 else ""
    over = f"{whole.left_over} left over" if whole.left_over else "none left over"
    over += f" after a pick-up of {whole.pickup}" if whole.pickup else ""
    room = f"; ends {whole.travelled.net} of where it began" if whole.travelled.net else ""
    tune = ""
    if whole.tune is not None and whole.tune_left < 0:
        tune = f"; {-whole.tune_left} counts more than {whole.tune.name} has"
    elif whole.tune is not None:
        tune = f"; {whole.tune.name} leaves {whole.tune_left} over"
    return (
        f"{whole.counts} counts{bars}, {over}; {clock(whole.seconds)}; {whole.sounds} sounds; "
        f"ends facing the {whole.wall}, {whole.free} free{room}{tune}"
    )


def ledger_data(whole: Ledger) -> dict[str, Any]:
    """The stable data of `firn ledger --json`."""
    passes = [
        {
            "part": e.part,
            "section": e.section or None,
            "time": e.time,
            "group": e.group or None,
            "side": e.side,
            "begins": e.begins or None,
            "ends": e.ends or None,
            "from": str(e.start),
            "in_phrase": str(e.in_phrase),
            "phrase": whole.phrase,
            "in_long": str(e.in_long),
            "bar": e.bar,
            "counts": e.counts,
            "from_s": round(float(e.start_s), 4),
            "seconds": round(float(e.seconds), 4),
            "foot_in": e.foot_in,
            "fits": e.fits,
            "foot_out": e.foot_out,
            "stance_in": e.stance_in or None,
            "stance_out": e.stance_out or None,
            "wall": e.wall,
            "turn": str(e.turn),
            "sounds": e.sounds,
            "changes": e.changes,
            "tune": e.tune or None,
        }
        for e in whole.entries
    ]
    totals = {
        "counts": whole.counts,
        "phrase": whole.phrase,
        "pickup": whole.pickup,
        "left_over": whole.left_over,
        "seconds": round(float(whole.seconds), 4),
        "sounds": whole.sounds,
        "changes": whole.changes,
        "foot_out": whole.free,
        "wall": whole.wall,
        "right_turns": str(whole.right_turns),
        "left_turns": str(whole.left_turns),
        "net": {"forward": float(whole.travelled.forward), "right": float(whole.travelled.right)},
        "room": {to: float(far) for to, far in whole.travelled.room},
    }
    if whole.tune is not None:
        totals["tune"] = {
            "name": whole.tune.name,
            "counts": whole.tune.whole_counts,
            "form": whole.tune.form,
            "left_over": whole.tune_left,
        }
    return {"passes": passes, "totals": totals}
