"""The foot ledger: what cannot be danced, with mends; the foot at the end; how a part repeats."""

import re
from collections import Counter
from collections.abc import Iterator
from itertools import pairwise

from msgspec.structs import replace

from firn.core.footing.footing import Fault
from firn.core.footing.mends import Mend
from firn.core.piece.build import build_part, part_from
from firn.core.piece.piece import Part, place_key
from firn.core.piece.sound import Sound
from firn.core.reading.finding import Finding, MendText, Value
from firn.core.script.changes import Change, changed_text, counts_column
from firn.core.script.places import Use
from firn.core.script.reader import read_part
from firn.core.script.writer import renamed, side_text, spelled_out
from firn.core.steps.kinds import WITH_WEIGHT, WITHOUT_WEIGHT
from firn.core.task import giving_way

MOST_PROVED = 4
"""Of a long part the mends of so many faults are tried: the first is the one to mend."""
LONG = 300
"""Sounds from which on a part is long."""


def faults(part: Part) -> list[Finding]:
    """A finding for each sound that cannot be danced, with mends that are proved to mend it."""
    tried = MOST_PROVED if len(part.sounds) > LONG else len(part.footing.faults)
    return [_fault(part, fault, proved=number < tried) for number, fault in enumerate(part.footing.faults)]


def _fault(part: Part, fault: Fault, *, proved: bool) -> Finding:
    sound = part.sounds[fault.index]
    counting = part.settings.counting
    values: dict[str, Value] = {
        "word": part.word(sound),
        "kind": sound.kind,
        "foot": fault.foot or sound.foot,
        "count": counting.name(sound.place),
    }
    said = (mend_text(part, mend) for mend in fault.mends if proved)
    mends = tuple(m for m in said if m is not None and _mends(part, fault.code, m))
    return Finding(fault.code, "bad", part.name, sound.place, fault.index, values, mends)


def _mends(part: Part, code: str, mend: MendText) -> bool:
    """Whether a fault is gone once a mend is made, and nothing new is wrong."""
    settings = replace(part.settings, lead=mend.lead) if mend.lead else part.settings
    read = read_part(part.name, changed_text(part.script.text, mend.changes), settings, part.script.shelf)
    if len(read.problems) > len(part.problems):
        return False
    left = Counter(fault.code for fault in build_part(read, settings, mends=False).footing.faults)
    before = Counter(fault.code for fault in part.footing.faults)
    return left[code] < before[code] and left <= before


def _change(use: Use, part: Part, text: str) -> Change:
    return Change(use.line, use.word.column, use.word.end, text)


def mend_text(part: Part, mend: Mend) -> MendText | None:
    """A mend as a change of the script; None where the text cannot say it without touching more words."""
    if mend.action == "lead":
        lead = "left" if part.settings.lead == "right" else "right"
        return MendText("other_lead", {"foot": lead}, lead=lead)
    sound = part.sounds[mend.index]
    use = part.uses[sound.use]
    counting = part.settings.counting
    becomes = "stamp" if mend.becomes == "flat" else mend.becomes
    values = {
        "word": use.word.text,
        "kind": sound.kind,
        "count": counting.name(sound.place),
        "becomes": becomes,
    }
    repeated = use.copy or use.word.times > 1 or use.word.joined or use.word.optional
    # What only counts stand for has no word that could be written otherwise.
    if repeated or not part.typed(use).strip() or place_key(use.line, use.word.column) in part.joined_words:
        return None
    if mend.action == "swap":
        side = "left" if use.side == "right" else "right"
        text = part.typed(use)
        swapped = side_text(side, use.card, part.settings) + text.split(None, 1)[-1]
        return MendText("swap", values | {"foot": side}, (_change(use, part, swapped),))
    if mend.action in ("shift", "step"):
        return _in_rest(part, use, mend, values)
    if mend.action == "insert":
        text = part.typed(use)
        after = sound.place + (1 if sound.place.denominator == 1 else 0)
        landing = f"{text}  {'&' if sound.place.denominator == 1 else counting.number(after)} land"
        return MendText("land", values, (_change(use, part, landing),))
    if len(use.places) == 1 and mend.action == "drop":
        return _left_out(part, use, values)
    if len(use.places) == 1:
        return MendText(
            "becomes",
            values,
            (_change(use, part, renamed(use, becomes, part.settings, part.script.shelf)),),
        )
    return _spelled(part, sound, mend, values)


def _left_out(part: Part, use: Use, values: dict[str, str]) -> MendText | None:
    """A word left out: on a whole count a hold stands for it, else its count goes too."""
    if use.places[0].denominator == 1:
        return MendText("leave_out", values, (_change(use, part, "hold"),))
    line = part.line_of(use)
    start = counts_column(line, use.word.column)
    if start is None:
        return None
    return MendText("leave_out", values, (Change(use.line, start, use.word.end, ""),))


def _in_rest(part: Part, use: Use, mend: Mend, values: dict[str, str]) -> MendText | None:
    """A shift or step in the place of a written hold's first count."""
    counting = part.settings.counting
    if use.card.name != "hold":
        return None
    text = mend.action
    if use.lengths[0] > 1:
        first, last = use.places[0], use.places[0] + use.lengths[0] - 1
        line = part.line_of(use)
        counted = f"{counting.number(first)}-{counting.number(last)}"
        column = line.rfind(counted, 0, use.word.column)
        if column < 0:
            return None
        rest = f"{counting.number(first + 1)}-{counting.number(last)}" if last > first + 1 else counting.number(last)
        new = f"{counting.number(first)} {text}  {rest} hold"
        change = Change(use.line, column, use.word.end, new)
        return MendText("in_rest", values | {"becomes": text}, (change,))
    return MendText("in_rest", values | {"becomes": text}, (_change(use, part, text),))


def _spelled(part: Part, sound: Sound, mend: Mend, values: dict[str, str]) -> MendText | None:
    """A card with one sound changed: its sounds written out one by one, counts and feet with them."""
    use, beat = part.uses[sound.use], sound.beat
    if any(b.weight for b in use.card.beats) or len(use.places) < len(use.card.beats):
        # Where it has fewer counts than sounds, that is to be mended first.
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
    line = part.line_of(use)
    start = counts_column(line, use.word.column)
    if start is None:
        return None
    text = spelled_out(use, kinds, feet, part.settings, part.script.shelf)
    change = Change(use.line, start, use.word.end, text)
    code = "leave_out" if mend.action == "drop" else "becomes"
    return MendText(code, values, (change,))


def ending(part: Part, *, mends: bool = True) -> list[Finding]:
    """The foot that is free at the end, and how the part repeats by itself; with `mends` for the other way."""
    if not part.sounds or part.seated:
        return []
    again = part.footing.again
    values: dict[str, Value] = {"free": part.footing.free, "again": again, "first": part.footing.first}
    level = "look" if again == "neither" else "ok"
    tried = mends and again in _OTHER_WAY and len(part.sounds) <= MOST_TRIED
    other = tuple(_other_end(part)) if tried else ()
    return [Finding(f"again_{again}", level, part.name, values=values, mends=other)]  # type: ignore[arg-type]


def ending_alone(part: Part) -> list[Finding]:
    """The same without mends, each of which would be read by itself."""
    return ending(part, mends=False)


MOST_TRIED = 300
"""Sounds of a part up to which another end is tried: each try dances it again."""

_OTHER_WAY = {"same": "other", "other": "same"}
_WEIGHTS = WITHOUT_WEIGHT | WITH_WEIGHT


def _other_end(part: Part) -> Iterator[MendText]:
    """The smallest changes after which it repeats the other way: its last step a touch, one fewer of a figure."""
    wanted = _OTHER_WAY[part.footing.again]
    last = next((i for i in range(len(part.sounds) - 1, -1, -1) if part.sounds[i].kind in _WEIGHTS), None)
    if last is not None:
        mend = mend_text(part, Mend("here", last, "becomes", _WEIGHTS[part.sounds[last].kind]))
        if mend is not None and _ends_up(part, mend.changes, wanted):
            yield MendText(f"then_{wanted}", mend.values, mend.changes)
    for use in reversed(part.uses):
        if use.copy or use.word.times < 2 or use.word.joined:
            continue
        match = re.search(rf"[x×]\s*{use.word.times}\b", part.line_of(use)[use.word.column :])
        if match is None:
            return
        start = use.word.column + match.start()
        line = use.line
        for times, code in ((use.word.times + 1, "once_more"), (use.word.times - 1, "once_fewer")):
            text = f"x{times}" if times > 1 else ""
            change = (Change(line, start, use.word.column + match.end(), text),)
            if _ends_up(part, change, wanted):
                yield MendText(code, {"word": use.card.name}, change)
                return
        return


def _ends_up(part: Part, changes: tuple[Change, ...], wanted: str) -> bool:
    """Whether a part can still be danced once its text is changed, and then repeats as it is wanted to."""
    made = part_from(part.name, changed_text(part.script.text, changes), part.settings, part.script.shelf)
    worse = len(made.problems) > len(part.problems) or len(made.footing.faults) > len(part.footing.faults)
    return not worse and made.footing.again == wanted


def shifts(part: Part) -> list[Finding]:
    """Where the weight goes over in silence: whoever only listens misses it."""
    silent = [i for i, s in enumerate(part.sounds) if s.kind == "shift" and s.changes_weight]
    if not silent:
        return []
    first = part.sounds[silent[0]]
    values: dict[str, Value] = {
        "count": part.settings.counting.name(first.place), "foot": first.foot, "many": len(silent),
    }  # fmt: skip
    return [Finding("silent_shift", "ok", part.name, first.place, silent[0], values)]


def stances(part: Part) -> list[Finding]:
    """Where a word begins with the feet otherwise to each other than the word before it leaves them, as cards say."""
    own = [u for u in part.uses if not u.layer and u.card.name != "hold"]
    found = []
    for before, use in giving_way(pairwise(own)):
        if stance_clash(before, use):
            values = stance_values(before, use)
            values["count"] = part.settings.counting.name(use.places[0])
            sound = part.first_of(use)
            found.append(Finding("stance", "look", part.name, use.places[0], sound, values))
    return found


LEAVES = {
    "across": "crossed", "together": "together", "in place": "together", "behind": "one behind",
    "front": "one in front", "side": "apart", "out": "apart", "in": "together",
}  # fmt: skip
"""How the feet stand to each other after a step that goes somewhere."""


def stance_after(use: Use) -> str:
    """How a word leaves the feet to each other: by where it goes, else as its card says; "" where neither does."""
    moves = use.card.weight_changes > 0
    said = LEAVES.get(use.word.where, "") if moves else ""
    return said or (use.card.stance[1] if use.card.stance else "")


def stance_clash(before: Use, after: Use) -> bool:
    """Whether a step needs the feet to stand to each other as the one before does not leave them.

    From wherever they are feet come together or apart as they step; to be crossed, or one in front, they must have
    come to be.
    """
    one, needed = stance_after(before), after.card.stance
    if not one or not needed or needed[0] in ("together", "apart") or after.word.where:
        return False
    # One in front of the other is the other behind it.
    return one != needed[0] and {one, needed[0]} != {"one in front", "one behind"}


def stance_values(before: Use, after: Use) -> dict[str, str]:
    """What a sentence says of two words that clash."""
    needed = after.card.stance[0] if after.card.stance else ""
    name = f"{before.card.name} {before.word.where}".strip()
    return {"word": after.card.name, "begins": needed, "before": name, "ends": stance_after(before)}
