"""The foot ledger: what cannot be danced, with mends; the foot at the end; how a part repeats."""

from firn.core.footing.footing import Fault
from firn.core.footing.mends import Mend
from firn.core.piece.piece import Part, Sound, place_key
from firn.core.reading.finding import Finding, MendText
from firn.core.script.changes import Change, changed_text, counts_column
from firn.core.script.places import Use
from firn.core.script.reader import line_items, read_part
from firn.core.script.words import Run
from firn.core.script.writer import renamed, side_text, spelled_out


def faults(part: Part) -> list[Finding]:
    """A finding for each sound that cannot be danced."""
    return [_fault(part, fault) for fault in part.footing.faults]


def _fault(part: Part, fault: Fault) -> Finding:
    sound = part.sounds[fault.index]
    counting = part.settings.counting
    values = {
        "word": part.word(sound),
        "kind": sound.kind,
        "foot": fault.foot or sound.foot,
        "count": counting.name(sound.place),
    }
    mends = tuple(m for mend in fault.mends if (m := mend_text(part, mend)) is not None and _reads(part, m))
    return Finding(fault.code, "bad", part.name, sound.place, fault.index, values, mends)


def _reads(part: Part, mend: MendText) -> bool:
    """Whether the text still reads without a new problem once a mend is made.

    A word put in another's place always does, and so does one that stands alone after its counts; counts that are
    written out may run into words without any.
    """
    if len(mend.changes) == 1:
        change = mend.changes[0]
        if (mend.code == "becomes" and " " not in change.text.strip()) or _alone(part, change):
            return True
    read = read_part(part.name, changed_text(part.script.text, mend.changes), part.settings, part.script.shelf)
    return len(read.problems) <= len(part.problems)


def _alone(part: Part, change: Change) -> bool:
    """Whether what changes is the only word after its counts."""
    items, _ = line_items(part.script.lines[change.line], part.script.shelf, part.settings.tradition)
    runs = [item for item in items if isinstance(item, Run)]
    return any(len(r.words) == 1 and r.counts and change.column <= r.words[0].column < change.end for r in runs)


def _change(use: Use, part: Part, text: str) -> Change:
    return Change(use.line - part.script.line, use.word.column, use.word.end, text)


def _line(part: Part, use: Use) -> str:
    """The line of the part's text that a word stands on."""
    return part.script.lines[use.line - part.script.line]


def mend_text(part: Part, mend: Mend) -> MendText | None:
    """A mend as a change of the script; None where the text cannot say it without touching more words."""
    if mend.action == "lead":
        lead = "left" if part.settings.lead == "right" else "right"
        return MendText("other_lead", {"foot": lead}, lead=lead)
    sound = part.sounds[mend.index]
    use = part.uses[sound.use]
    counting = part.settings.counting
    values = {
        "word": use.word.text,
        "kind": sound.kind,
        "count": counting.name(sound.place),
        "becomes": "stamp" if mend.becomes == "flat" else mend.becomes,
    }
    repeated = use.copy or use.word.times > 1 or use.word.joined or use.word.optional
    if repeated or place_key(use.line, use.word.column) in part.joined_words:
        return None
    if mend.action == "swap":
        side = "left" if use.side == "right" else "right"
        text = _line(part, use)[use.word.column : use.word.end]
        swapped = side_text(side, use.card, part.settings) + text.split(None, 1)[-1]
        return MendText("swap", values | {"foot": side}, (_change(use, part, swapped),))
    if mend.action in ("shift", "step"):
        return _in_rest(part, use, mend, values)
    if mend.action == "insert":
        text = _line(part, use)[use.word.column : use.word.end]
        after = sound.place + (1 if sound.place.denominator == 1 else 0)
        landing = f"{text}  {'&' if sound.place.denominator == 1 else counting.number(after)} land"
        return MendText("land", values, (_change(use, part, landing),))
    if len(use.places) == 1 and mend.action == "drop":
        return _left_out(part, use, values)
    if len(use.places) == 1:
        return MendText(
            "becomes",
            values,
            (_change(use, part, renamed(use, values["becomes"], part.settings, part.script.shelf)),),
        )
    return _spelled(part, sound, mend, values)


def _left_out(part: Part, use: Use, values: dict[str, str]) -> MendText | None:
    """A word left out: on a whole count a hold stands for it, else its count goes too."""
    if use.places[0].denominator == 1:
        return MendText("leave_out", values, (_change(use, part, "hold"),))
    line = _line(part, use)
    start = counts_column(line, use.word.column)
    if start is None:
        return None
    return MendText("leave_out", values, (Change(use.line - part.script.line, start, use.word.end, ""),))


def _in_rest(part: Part, use: Use, mend: Mend, values: dict[str, str]) -> MendText | None:
    """A shift or step in the place of a written hold's first count."""
    counting = part.settings.counting
    if use.card.name != "hold":
        return None
    text = mend.action
    if use.lengths[0] > 1:
        first, last = use.places[0], use.places[0] + use.lengths[0] - 1
        line = _line(part, use)
        counted = f"{counting.number(first)}-{counting.number(last)}"
        column = line.rfind(counted, 0, use.word.column)
        if column < 0:
            return None
        rest = f"{counting.number(first + 1)}-{counting.number(last)}" if last > first + 1 else counting.number(last)
        new = f"{counting.number(first)} {text}  {rest} hold"
        change = Change(use.line - part.script.line, column, use.word.end, new)
        return MendText("in_rest", values | {"becomes": text}, (change,))
    return MendText("in_rest", values | {"becomes": text}, (_change(use, part, text),))


def _spelled(part: Part, sound: Sound, mend: Mend, values: dict[str, str]) -> MendText | None:
    """A card with one sound changed: its sounds written out one by one, counts and feet with them."""
    use, beat = part.uses[sound.use], sound.beat
    if any(b.weight for b in use.card.beats):
        return None
    own = {s.beat: s for s in part.sounds_of[sound.use]}
    kinds, feet = [], []
    for index, card_beat in enumerate(use.card.beats):
        kind = card_beat.kind.name
        foot = own[index].foot if kind not in ("step", "hold") else ""
        if index == beat:
            kind = "" if mend.action == "drop" else values["becomes"]
        kinds.append(kind)
        feet.append(foot if foot in ("left", "right") else "")
    line = _line(part, use)
    start = counts_column(line, use.word.column)
    if start is None:
        return None
    text = spelled_out(use, kinds, feet, part.settings, part.script.shelf)
    change = Change(use.line - part.script.line, start, use.word.end, text)
    code = "leave_out" if mend.action == "drop" else "becomes"
    return MendText(code, values, (change,))


def ending(part: Part) -> list[Finding]:
    """The foot that is free at the end, and how the part repeats by itself."""
    if not part.sounds or part.seated:
        return []
    again = part.footing.again
    values = {"free": part.footing.free, "again": again, "first": part.footing.first}
    level = "look" if again == "neither" else "ok"
    return [Finding(f"again_{again}", level, part.name, values=values)]  # type: ignore[arg-type]
