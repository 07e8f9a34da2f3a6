"""A combo unfolded: every pass of every part, on its side, one after another."""

from collections.abc import Sequence
from fractions import Fraction
from itertools import groupby

from msgspec import Struct
from msgspec.structs import replace

from firn.core.footing.solver import PASSED_OVER, Layer, Reached, forward, mirrored, opening, trace
from firn.core.footing.state import FEET, NAMES, Foot, State, Step, other, weight_name
from firn.core.meter.counting import Counting, Stage
from firn.core.piece.build import build_part, part_from
from firn.core.piece.over import Over, over_said, with_over
from firn.core.piece.piece import Part, Piece
from firn.core.piece.sound import Sound, other_side
from firn.core.script.combo_item import ComboItem
from firn.core.script.places import MOST_SOUNDS
from firn.core.steps.sides import ACROSS

LEAST_EACH = 2_000
"""Sounds that each group of a combo may have, however many groups dance it."""


class Pass(Struct, frozen=True):
    """One time through a part: its item, which time, the side, where it begins and its sounds there.

    `offset`: counts from the combo's count 1 to the part's. `danceable` is False where the feet do not allow
    it; `needed` is then the foot it would begin on, `free` the one that is free. `turn`: how far the body turns in
    it, right above 0, what the combo says of the item included. `end`: how the feet stand after it.
    """

    item: int
    time: int
    part: Part
    swapped: bool
    offset: Fraction
    sounds: tuple[Sound, ...]
    danceable: bool
    needed: str
    free: str
    turn: Fraction = Fraction(0)
    end: State | None = None


class Unfolded(Struct, frozen=True):
    """All passes, the counts they fill together, and the foot that is free at the end.

    `counting`: how it is counted, with the changes where parts are counted otherwise than the piece.
    """

    passes: tuple[Pass, ...]
    counts: int
    free: str
    counting: Counting = Counting()
    cut_short: bool = False

    @property
    def sounds(self) -> tuple[Sound, ...]:
        return tuple(s for p in self.passes for s in p.sounds)


def ending_fault(part: Part, ends: str) -> str:
    """Why an ending cannot replace the end of a part, in one sentence; "" where it can."""
    ending = part_from("end", ends, part.settings, part.script.shelf)
    fits = not ending.sounds or bool(_ending_places(part, ending))
    return _fault(part, ending, fits, "where the ending begins", first=True)


def _fault(part: Part, said: Part, fits: bool, where: str, *, first: bool) -> str:
    """Why what is said cannot stand in for some of a part: `fits` whether it has a place in it, by its first sound or
    its last."""
    if said.problems:
        return said.problems[0].message
    if not said.sounds:
        return "It names no step."
    sound = said.sounds[0 if first else -1]
    return f"{part.name} has nothing on {sound.say}, {where}." if part.sounds and not fits else ""


def ending_open(part: Part, ends: str) -> tuple[Fraction, ...]:
    """The places that an ending could as well begin on, the one that is taken first; () where it is plain."""
    ending = part_from("end", ends, part.settings, part.script.shelf)
    if ending.problems or not ending.sounds:
        return ()
    places = _ending_places(part, ending)
    return places if len(places) > 1 and not _keeps_length(part, ending, places[0]) else ()


def _ending_places(part: Part, ending: Part) -> tuple[Fraction, ...]:
    """The places of a part said as the ending's first is: that with which it stays as long first, else the last."""
    said = ending.sounds[0].say
    places = tuple(dict.fromkeys(s.place for s in reversed(part.sounds) if s.say == said and not s.layer))
    if any(s.place.denominator == 1 for s in ending.sounds):
        # A number in it says which.
        first, phrase = ending.sounds[0].place, part.settings.counting.phrase
        places = tuple(p for p in places if (p - first) % phrase == 0) or places
    kept = next((p for p in places if _keeps_length(part, ending, p)), None)
    return places if kept is None else (kept, *(p for p in places if p != kept))


def _keeps_length(part: Part, ending: Part, at: Fraction) -> bool:
    """Whether a part is as long as it is with an ending that begins at a place."""
    return ending.last_count + at - ending.sounds[0].place == part.last_count


def with_ending(part: Part, ends: str) -> Part:
    """A part with its end replaced: from such a count on, the words of `ends`. Each is made once."""
    made = part.ended.get(("ends", ends))
    if made is None:
        ending = part_from("end", ends, part.settings, part.script.shelf)
        places = _ending_places(part, ending) if ending.sounds and part.sounds else ()
        made = part.ended["ends", ends] = _ended_at(part, ending, places[0]) if places else part
    return made


def entry_fault(part: Part, begins: str) -> str:
    """Why an entry cannot replace the beginning of a part, in one sentence; "" where it can."""
    entry = part_from("entry", begins, part.settings, part.script.shelf)
    fits = not entry.sounds or _entry_place(part, entry) is not None
    return _fault(part, entry, fits, "where the entry leads into it", first=False)


def _entry_place(part: Part, entry: Part) -> Fraction | None:
    """The first place of a part that is said as the entry's last is; of those on a number the one that says the same
    in the phrase."""
    last, phrase = entry.sounds[-1], part.settings.counting.phrase
    places = [s.place for s in part.sounds if s.say == last.say and not s.layer]
    return next((p for p in places if (p - last.place) % phrase == 0), places[0] if places else None)


def with_entry(part: Part, begins: str) -> Part:
    """A part with its beginning replaced: up to such a count, the words of `begins`, however late they begin; what is
    danced before them is left out. Each is made once."""
    key = "begins", begins
    made = part.ended.get(key)
    if made is None:
        entry = part_from("entry", begins, part.settings, part.script.shelf)
        place = _entry_place(part, entry) if entry.sounds and part.sounds else None
        made = part.ended[key] = part if place is None else _entered_at(part, entry, place)
    return made


def _entered_at(part: Part, entry: Part, at: Fraction) -> Part:
    shift = at - entry.sounds[-1].place
    added = tuple(replace(u, places=tuple(p + shift for p in u.places)) for u in entry.uses)
    kept = tuple(cut for u in part.uses if (cut := u.past(max(at, *(u.last for u in added)))) is not None)
    script = replace(part.script, uses=(*added, *kept), problems=())
    return build_part(script, part.settings, mends=False)


def danced_as(part: Part, item: ComboItem, time: int) -> Part:
    """A part as an item of a combo has it danced at one of its times: with its entry, and its ending."""
    begins, ends = item.begins_of(time), item.ends_of(time)
    part = with_entry(part, begins) if begins else part
    return with_ending(part, ends) if ends else part


def _ended_at(part: Part, ending: Part, at: Fraction) -> Part:
    """A part up to a place, and then the words of an ending; a word that goes on there is cut off."""
    kept = tuple(cut for u in part.uses if (cut := u.before(at)) is not None)
    shift = at - ending.sounds[0].place
    added = tuple(replace(u, places=tuple(p + shift for p in u.places)) for u in ending.uses)
    script = replace(part.script, uses=(*kept, *added), problems=())
    return build_part(script, part.settings, mends=False)


def _turned(steps: Sequence[Step], swapped: bool) -> list[Step]:
    if not swapped:
        return list(steps)
    return [replace(s, side=other("L" if s.side == "L" else "R")) if s.side in FEET else s for s in steps]


def _dance(start: Layer, part: Part, begins: str, lead: Foot) -> list[Layer] | None:
    """The layers of a pass that begins on a foot ("L", "R", or "" for any); None if it cannot be danced."""
    layers = [start]
    fresh = True
    for step in _turned(part.steps, begins != _first(part) and begins != ""):
        following = forward(layers[-1], step, lead)
        if fresh and begins and {r.foot for r in following.values()} - {""}:
            following = {s: r for s, r in following.items() if r.foot in (begins, "both")}
            fresh = False
        if not following:
            return None
        layers.append(following)
    return layers if any(s.weight != "0" for s in layers[-1]) else None


def _first(part: Part) -> Foot:
    return "L" if part.footing.first == "left" else "R"


def _written_first(part: Part) -> bool:
    """Whether the foot that a part begins on is written."""
    return next((s.side in FEET for s in part.steps if s.kind not in PASSED_OVER), False)


def _sides(item: ComboItem, time: int, part: Part, free: str) -> list[Foot]:
    """The feet that a pass may begin on, the likeliest first."""
    written = _first(part)
    if item.never_swaps and not item.side:
        return [written]
    if (time == 0 or item.never_swaps) and item.side:
        fixed: dict[str, Foot] = {"right": "R", "left": "L", "as written": written, "other": other(written)}
        return [fixed[item.side]]
    always = part.layers.always
    if always:
        return ["R" if always == "right" else "L"]
    if time == 0 and _written_first(part):
        # The foot that is written holds where the item begins; what it cannot begin on is said.
        return [written]
    if free in ("left", "right"):
        # A part that begins with a hop begins on the foot that carries, so both are tried.
        by_free: Foot = "L" if free == "left" else "R"
        return [by_free, other(by_free)]
    return [written, other(written)]


def most_sounds(groups: int) -> int:
    """How many sounds a combo may have: as many as a part; of many groups each has fewer."""
    return max(MOST_SOUNDS // max(1, groups), LEAST_EACH)


class _Unfolder:
    def __init__(self, piece: Piece, group: int) -> None:
        self._piece, self._group = piece, group
        self._lead: Foot = "L" if piece.settings.lead == "left" else "R"
        self._layer: Layer | None = None
        self._cursor: Fraction | None = None
        # The count on which the whole begins, whoever dances then.
        self._first = _opens(piece) if groups_of(piece.combo) else None
        self.passes: list[Pass] = []
        self.counts = 0
        self.cut_short = False
        # The lines of hands and arms that go on now, by their layers.
        self._lines: dict[str, Over] = {}
        self._most = most_sounds(len(groups_of(piece.combo)))

    def unfold(self) -> Unfolded:
        total, block = 0, -1
        starts = _starts(self._piece)
        for number, item in enumerate(self._piece.combo):
            part = self._piece.part(item.part)
            if part is None or not part.sounds or item.group not in (0, self._group):
                continue
            if item.block != block and starts.get(item.block):
                # It waits for the others, up to the count that its block begins on.
                begins = (self._first or Fraction(0)) + starts[item.block]
                self._cursor = begins if self._cursor is None else max(self._cursor, begins)
            block = item.block
            for across in item.across:
                begins = danced_as(part, item, 0).first_count
                at = Fraction(0) if self._cursor is None else self._cursor - begins
                self._lines[across.layer] = Over(across, over_said(self._piece, across), at)
            for time in range(item.times):
                total += len(part.sounds)
                if total > self._most:
                    self.cut_short = True
                    break
                self._pass(number, item, time, danced_as(part, item, time))
                total += len(self.passes[-1].sounds) - len(part.sounds)
        free = "either"
        if self._layer:
            state = min(self._layer, key=lambda s: (s.weight == "0", s))
            free = ACROSS.get(weight_name(state), "either")
        counting = _counted(self.passes, self._piece.settings.counting)
        waited = self._waited() if starts else 0
        return Unfolded(tuple(self.passes), self.counts + waited, free, counting, self.cut_short)

    def _waited(self) -> int:
        """How many counts the group waits for the others in all."""
        at, waited = self._first or Fraction(0), 0
        for one in self.passes:
            begins = one.offset + one.part.first_count
            waited += int(begins - at)
            at = begins + one.part.counts
        return waited

    def _pass(self, number: int, item: ComboItem, time: int, part: Part) -> None:
        if self._cursor is None:
            self._cursor = part.first_count
        if self._first is None:
            self._first = self._cursor
        offset = self._cursor - part.first_count
        if self._lines:
            part = with_over(part, offset, self._lines.values())
        fresh = self._layer is None
        layer = self._layer or {s: Reached(0, None, "") for s in opening(self._lead, part.steps)}
        free = _free(layer)
        sides = _sides(item, time, part, free)
        if fresh:
            # The combo opens with either foot free; only the lead, or a side that is fixed, decides.
            sides = sides if item.side else [_first(part)]
            layer = {State(w, "o", "o", ""): Reached(0, None, "") for w in FEET}
        danced = next(((f, d) for f in sides if (d := _dance(layer, part, f, self._lead)) is not None), None)
        foot, layers = danced or (sides[0], None)
        swapped = foot != _first(part)
        if layers is not None:
            path = trace(layers)
            feet, weights, end = list(path.names), list(path.weights), path.end
        else:
            mirror = ACROSS if swapped else {}
            feet = [mirror.get(f, f) for f in part.footing.feet]
            weights = [mirror.get(w, w) for w in part.footing.weights]
            end = mirrored(part.footing.end) if swapped else part.footing.end
        if part.seated:
            weights = ["seat"] * len(weights)
        sounds = tuple(
            s
            if not offset and s.foot == f and s.weight == w
            else replace(s, place=s.place + offset, position=s.position + offset, foot=f, weight=w)
            for s, f, w in zip((other_side(s) if swapped else s for s in part.sounds), feet, weights, strict=True)
        )
        ok = layers is not None or part.seated
        turn = sum((s.turn for s in sounds if s.turn.numerator), item.turn)
        self.passes.append(Pass(number, time, part, swapped, offset, sounds, ok, NAMES[foot], free, turn, end))
        self._cursor += part.counts
        self.counts += part.counts
        self._layer = {end._replace(a=""): Reached(0, None, "")}


def _counted(passes: Sequence[Pass], counting: Counting) -> Counting:
    """The piece's counting with its changes: where passes are counted otherwise, and where as the piece again."""
    stages: list[Stage] = []
    for one in passes:
        theirs = one.part.settings.counting
        if theirs == (stages[-1].counting if stages else counting):
            continue
        first = min([one.offset + one.part.first_count, *(s.place for s in one.sounds[:1])])
        stages.append(Stage(first, one.offset, theirs))
    return replace(counting, changes=tuple(stages)) if stages else counting


def _free(layer: Layer) -> str:
    free = {ACROSS.get(weight_name(s), "either") for s in layer}
    return free.pop() if len(free) == 1 else "either"


def groups_of(items: Sequence[ComboItem]) -> tuple[int, ...]:
    """The groups that dance a combo, () where all dance all of it."""
    return tuple(sorted({item.group for item in items} - {0}))


def group_names(items: Sequence[ComboItem]) -> dict[int, str]:
    """What each group of a combo is called: lead, follow, or by its number."""
    roles = {item.group: item.who for item in items if item.who}
    return {group: roles.get(group) or f"group {group}" for group in groups_of(items)}


def _opens(piece: Piece) -> Fraction | None:
    """The count on which a combo's first part begins."""
    parts = (piece.part(item.part) for item in piece.combo)
    return next((part.first_count for part in parts if part is not None and part.sounds), None)


def _starts(piece: Piece) -> dict[int, int]:
    """On which count, from 0, each block of a combo with groups begins.

    A group's so many counts after the first of its section, or when the one before is over; what all dance, when all
    are.
    """
    starts: dict[int, int] = {}
    section = end = 0
    for block, members in groupby(piece.combo, key=lambda item: item.block):
        items = list(members)
        first = items[0]
        begins = end if first.after is None or not first.group else section + first.after
        if not first.group:
            section = begins = end
        starts[block] = begins
        end = max(end, begins + sum(_counts_of(piece, item) for item in items))
        if not first.group:
            section = end
    return starts if groups_of(piece.combo) else {}


def _counts_of(piece: Piece, item: ComboItem) -> int:
    """How many counts all times of an item take."""
    part = piece.part(item.part)
    if part is None or not part.sounds:
        return 0
    return sum(danced_as(part, item, time).counts for time in range(item.times))


class Follows(Struct, frozen=True):
    """How a part would be danced from a state of the feet: the foot that it begins on, the one free after it, and how
    the feet stand then."""

    begins: str
    free: str
    end: State


def could_follow(end: State | None, part: Part, lead: Foot) -> Follows | None:
    """How a part can be danced after a pass that ends in a state, or as the first; None where it cannot be."""
    layer: Layer = (
        {State(w, "o", "o", ""): Reached(0, None, "") for w in FEET}
        if end is None
        else {end._replace(a=""): Reached(0, None, "")}
    )
    free = _free(layer) if end is not None else ""
    written = _first(part)
    feet = [written] if end is None or _written_first(part) else _sides(ComboItem(part.name), 1, part, free)
    for foot in feet:
        layers = _dance(layer, part, foot, lead)
        if layers is not None:
            last = trace(layers).end
            return Follows(NAMES[foot], ACROSS.get(weight_name(last), "either"), last)
    return None


def unfold(piece: Piece, group: int | None = None) -> Unfolded:
    """The combo danced from its beginning; each pass begins on the free foot unless its side is fixed.

    Where groups dance it, as one of them does, the first unless another is asked for.
    """
    groups = groups_of(piece.combo)
    return _Unfolder(piece, group if group is not None else groups[0] if groups else 0).unfold()
