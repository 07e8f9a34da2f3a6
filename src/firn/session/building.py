"""Building a combo: its passes as they are shown on the thread, and what is changed by hand of them."""

from fractions import Fraction

from msgspec import Struct
from msgspec.structs import replace

from firn.core.book.book import BookPart, BookPiece
from firn.core.combos.fill import Filled
from firn.core.piece.piece import Part, Piece
from firn.core.piece.unfold import Pass, Unfolded, group_names, groups_of, unfold, with_ending
from firn.core.reading.ledger import Entry, ledger
from firn.core.script.combo_edits import combo_text, edited, left_out, moved, once_more, other_side, put_after, turned
from firn.core.script.combo_item import ComboItem
from firn.core.script.layers import HANDS
from firn.core.script.turns import turn_text
from firn.core.steps.shelf import Shelf
from firn.session.desk import free_name, whole_combo
from firn.session.fresh import new_id
from firn.session.ledger import entry_said, totals_said

QUARTER = Fraction(1, 4)


class PassShown(Struct, frozen=True):
    """A pass on the thread, from its first place to the one after its last: its part and what is said of it beside,
    whether the feet can begin it, the way faced after it; `said`: its line of the ledger; `item`: which of the
    combo's; `sound`: the index of its first sound."""

    first: Fraction
    end: Fraction
    part: str
    more: str
    fits: bool
    wall: str
    said: str
    item: int
    sound: int
    time: int = 0

    @property
    def counts(self) -> int:
        return int(self.end - self.first)


class Beside(Struct, frozen=True):
    """A pass of a group that is danced beside the one on show: from where to where, its part, the foot that it begins
    on, and whether it can be begun."""

    first: Fraction
    end: Fraction
    part: str
    foot: str
    fits: bool


class Strand(Struct, frozen=True):
    """What a group dances beside the one on show."""

    name: str
    passes: tuple[Beside, ...]


class Build(Struct, frozen=True):
    """A combo as it is built: its passes, and what all of it comes to, in one line; what the `others` dance, where
    groups do; `hands`: whether hands go on over the parts."""

    passes: tuple[PassShown, ...]
    totals: str
    others: tuple[Strand, ...] = ()
    hands: bool = False

    @property
    def end(self) -> Fraction:
        """Where the last of all who dance ends."""
        ends = [one.end for one in self.passes]
        return max([*ends, *(one.end for strand in self.others for one in strand.passes)], default=Fraction(0))


MOST_STRANDS = 6
"""Groups that are shown beside the one on show: G turns to the others."""


def built(piece: Piece, whole: Unfolded, tempo: float, group: int | None = None) -> Build:
    """A combo's passes as they are shown, at a tempo; where groups dance it, those of one, the first unless another
    is asked for, `whole` being the combo as that group dances it, and beside them what the other groups dance."""
    book = ledger(piece, whole, tempo=tempo, group=group)
    groups = groups_of(piece.combo)
    shown_now = group if group is not None else groups[0] if groups else 0
    entries = [e for e in book.entries if e.group == shown_now]
    shown, sound = [], 0
    for one, entry in zip(whole.passes, entries, strict=True):
        first = one.offset + one.part.first_count
        said = entry_said(entry, whole.counting.here(first)[0].phrase)
        more, end = _more(piece, entry, one.item), first + one.part.counts
        shown.append(PassShown(first, end, entry.part, more, entry.fits, entry.wall, said, one.item, sound, one.time))
        sound += len(one.sounds)
    totals = totals_said(book, piece.settings.meter.counts) if shown else ""
    hands = any(across.layer in HANDS for item in piece.combo for across in item.across)
    if len(groups) < 2 or not shown:
        return Build(tuple(shown), totals, hands=hands)
    names = group_names(piece.combo)
    totals = f"{names[shown_now].capitalize()}, the first strand; G brings the next up. {totals}"
    # Those after it first, and round to the first of all.
    at = groups.index(shown_now)
    others = (*groups[at + 1 :], *groups[:at])[:MOST_STRANDS]
    return Build(tuple(shown), totals, tuple(_strand(piece, other, names[other]) for other in others), hands)


def _strand(piece: Piece, group: int, name: str) -> Strand:
    """What a group dances, as it is shown beside another."""
    return Strand(name, tuple(_beside(piece, one) for one in unfold(piece, group).passes))


def _beside(piece: Piece, one: Pass) -> Beside:
    first = one.offset + one.part.first_count
    foot = next((s.foot for s in one.sounds if s.foot in ("left", "right")), "")
    return Beside(first, first + one.part.counts, piece.combo[one.item].part, foot, one.danceable)


def _more(piece: Piece, entry: Entry, item: int) -> str:
    """What is said of a pass beside its name: which time, the foot that it begins on, its turn and its ending."""
    said = [entry.section] if entry.section else []
    said += [f"{entry.time} of {entry.of}"] if entry.of > 1 else []
    said += [entry.tune] if entry.tune else []
    said += [f"begins {entry.foot_in}"] if entry.foot_in in ("left", "right") else []
    said += [turn_text(piece.combo[item].turn)] if piece.combo[item].turn else []
    said += [f"enters {entry.begins}"] if entry.begins else []
    said += [f"ends {entry.ends}"] if entry.ends else []
    if entry.time == 1:
        said += [f"{name}: {text}" for name, text in piece.combo[item].notes]
        said += [across.said for across in piece.combo[item].across]
    return ", ".join(said)


LABELS = {
    "more": "Dance it once more",
    "fewer": "Dance it once fewer",
    "side": "Begin on the other side",
    "earlier": "Move the pass",
    "later": "Move the pass",
    "turn": "Turn the pass",
    "leave_out": "Leave the pass out",
    "put_in": "Put a part in",
    "stand_in": "Put another part in its place",
    "ends": "Change the ending",
    "hold": "Hold after the pass",
    "change": "Change feet after the pass",
}
BETWEEN = {"hold": "[hold x2]", "change": "[step, hold]"}
"""What is put in between two passes: two counts held, or the weight on the other foot in two counts."""

"""What a change is called where it is undone."""


def combo_changed(piece: Piece, text: str, item: int, what: str, value: object) -> tuple[str, int]:
    """A combo's text with one change to an item, and which item is stood on then.

    `value`: the quarters of a turn to the right, the part that is put in after the item, or of an ending which time
    and its words. Raises FirnError.
    """
    items, names = piece.combo, [p.name for p in piece.parts]
    at = item
    if what in ("more", "fewer"):
        wanted = once_more(items, item, 1 if what == "more" else -1)
    elif what == "side":
        wanted = other_side(items, item)
    elif what in ("earlier", "later"):
        way = 1 if what == "later" else -1
        wanted, at = moved(items, item, way), item + way
    elif what == "turn":
        by = items[item].turn + QUARTER * int(str(value))
        wanted = turned(items, item, replace(items[item], turn=by))
    elif what == "ends" and isinstance(value, tuple):
        wanted = turned(items, item, with_end(items[item], *value))
    elif what == "stand_in":
        # Its entries and endings are those of the part that it was.
        made = replace(items[item], part=str(value), ends="", last_ends="", time_ends=(), begins="", first_begins="")
        wanted = turned(items, item, made)
    elif what in ("put_in", *BETWEEN):
        wanted, at = put_after(items, item, ComboItem(BETWEEN.get(what) or str(value))), item + 1
    else:
        wanted, at = left_out(items, item), max(0, item - 1)
    return edited(text, items, wanted, names), at


class EndingOffered(Struct, frozen=True):
    """An ending that a pass may have: its words, "" for as it is written, and what it comes to."""

    text: str
    said: str


def endings_offered(part: Part) -> list[EndingOffered]:
    """How a part may end: as it is written, with its last sound a touch or held, or held for longer."""
    found = [EndingOffered("", f"as it is written: {part.counts} counts, the {part.footing.free} foot free")]
    own = [s for s in part.sounds if not s.layer and s.heard]
    if not own:
        return found
    counting, last = part.settings.counting, own[-1]
    after = counting.number(part.last_count)
    texts = [f"{last.say} touch", f"{last.say} hold", f"{last.say} stamp"]
    texts += [f"{last.say} {last.kind.replace('_', ' ')}  {after} hold x2"] if last.place < part.last_count else []
    for text in texts:
        made = with_ending(part, text)
        if made is not part and not made.problems and made.sounds:
            found.append(EndingOffered(text, f"{text}: {made.counts} counts, the {made.footing.free} foot free"))
    return found


def with_end(item: ComboItem, time: int, ends: str) -> ComboItem:
    """An item of which a time, from 0, ends so; "" for as its part is written."""
    if item.times == 1:
        return replace(item, ends=ends, last_ends="", time_ends=())
    others = tuple(one for one in item.time_ends if one[0] != time + 1)
    if time == item.times - 1:
        return replace(item, last_ends=ends, time_ends=others)
    return replace(item, time_ends=tuple(sorted((*others, *([(time + 1, ends)] if ends else [])))))


def with_filled(piece: BookPiece, made: Filled, item: int | None, shelf: Shelf) -> BookPiece:
    """A piece with counts that were filled: parts under free names, and in the combo after an item, or at the end.

    Raises FirnError where the combo cannot take them.
    """
    parts, names = list(piece.parts), []
    for _, text in made.parts:
        name = free_name(tuple(parts), "Fill")
        parts.append(BookPart(new_id(), name, text))
        names.append(name)
    grown = replace(piece, parts=tuple(parts))
    read, _, _ = whole_combo(grown, shelf)
    wanted, at = list(read.combo), len(read.combo) - 1 if item is None else item
    for name in names:
        wanted, at = put_after(wanted, at, ComboItem(name)), at + 1 if wanted else 0
    if not read.combo:
        return replace(grown, combo=combo_text(wanted))
    return replace(grown, combo=edited(piece.combo, read.combo, wanted, [p.name for p in grown.parts]))
