"""Writing a part as a teacher would have typed it; what is written reads back to the same part."""

from collections.abc import Iterable, Iterator, Sequence
from fractions import Fraction
from itertools import groupby

from msgspec import Struct
from msgspec.structs import replace

from firn.core.meter.counting import Counting
from firn.core.script.counts import count_text
from firn.core.script.items import FOOT_WRITTEN
from firn.core.script.layers import CUES, VOICED, Cue, Layers, Pulse, Syllable
from firn.core.script.places import Use, usual_places
from firn.core.script.reader import PartScript, across, read_part
from firn.core.script.settings import Settings
from firn.core.script.sung import LAYER, SUNG
from firn.core.script.turns import turn_text
from firn.core.steps.card import Card
from firn.core.steps.shelf import Shelf

_FIRST, _LAST = -1, 1_000_000

MARKS = {1: "!", -1: "~", 0: ""}


def _counts(use: Use, counting: Counting, tradition: str, exact: bool, anchored: bool) -> str:
    if len(use.places) == 1 and use.lengths[0] > 1:
        first = counting.number(use.places[0])
        last = counting.number(use.places[0] + use.lengths[0] - 1)
        return f"{first}-{last}"
    usual, anchor = usual_places(use.card, counting, tradition)
    shift = use.places[0] - usual[0]
    if (anchored or len(use.places) > 3) and not exact and use.places == tuple(u + shift for u in usual):
        at = anchor + shift
        if at.denominator == 1 and (anchored or anchor in usual):
            return str(counting.number(at))
    return count_text(use.places, counting, exact=exact)


def side_text(side: str, card: Card | None, settings: Settings) -> str:
    """R or L before a word: the foot it is danced with, or the one that stands where those are named."""
    if settings.sides == "standing foot" and card is not None:
        side = across(side, card)
    return FOOT_WRITTEN[side]


def word_text(use: Use, settings: Settings, shelf: Shelf, *, hyphens: bool = False) -> str:
    """A word with its marks, without its counts; a name of several words in one where asked."""
    if use.card is SUNG:
        return f"{use.word.text}{MARKS[use.word.level]}"
    where = use.word.where
    if where and not where.startswith("to ") and use.card is shelf.find("step", settings.tradition):
        # Where it goes says the step.
        word = f"{where.removeprefix('in ')}{MARKS[use.word.level]}"
    else:
        name = shelf.word_for(use.card, settings.tradition)
        name = name.replace(" ", "-") if hyphens else name
        word = f"{name}{f' {where}' if where else ''}{MARKS[use.word.level]}"
    word += "".join(f" or {shelf.word_for(card, settings.tradition)}" for card in use.word.others)
    text = f"{side_text(use.side, use.card, settings)}{word} {turn_text(use.word.turn)}".rstrip()
    return f"({text})" if use.word.optional else text


def _line(uses: Sequence[Use], settings: Settings, shelf: Shelf, way: "_Way") -> str:
    counting, tradition = settings.counting, settings.tradition
    words: list[str] = []
    before: Use | None = None
    barred = False
    for use in uses:
        joined = _joint(before, use)
        before = use
        if joined:
            words[-1] += f" {joined} {word_text(use, settings, shelf, hyphens=way.hyphens)}"
            continue
        sign = "| " if way.bar and use.places[0] >= 0 and not barred else ""
        barred = barred or bool(sign)
        unnamed = way.unnamed and any("/" in counting.letter(p) for p in use.places)
        counts = _counts(use, counting, tradition, way.exact or unnamed, way.anchored)
        words.append(f"{sign}{counts} {word_text(use, settings, shelf, hyphens=way.hyphens)}")
    return "  ".join(words)


def _joint(before: Use | None, use: Use) -> str:
    """How a word joins the one before it: + or = at one place, "" for not at all."""
    if before is None or before.places[0] not in use.places:
        return ""
    return "=" if use.word.as_one else "+"


def in_writing_order(uses: Iterable[Use]) -> list[Use]:
    """Words as they are written: those of the steps by place, then each layer of hands by place."""
    return sorted(uses, key=lambda u: (u.layer, u.voiced, u.places[0]))


def _rows(uses: Sequence[Use], phrase: int) -> Iterator[list[Use]]:
    """Uses by the lines they were typed on; all on one line are broken by half phrases."""
    for _, layer in groupby(uses, key=lambda u: (u.layer, u.voiced)):
        yield from _layer_rows(list(layer), phrase)


def _layer_rows(uses: Sequence[Use], phrase: int) -> Iterator[list[Use]]:
    one_line = len({u.line for u in uses}) <= 1
    start = uses[0].places[0] if uses else Fraction(0)
    half = max(1, phrase // 2)

    def row(use: Use) -> int:
        return int((use.places[-1] - start) // half) if one_line else use.line

    for _, group in groupby(uses, key=row):
        yield list(group)


def same_uses(one: Sequence[Use], two: Sequence[Use]) -> bool:
    """Whether two readings are the same words in the same places with the same marks."""

    def key(use: Use) -> tuple[object, ...]:
        word = use.word
        marks = word.level, word.optional, word.as_one, word.turn, word.others
        return use.card, use.places, use.lengths, use.side, use.layer, use.voiced, marks

    return [key(u) for u in in_writing_order(one)] == [key(u) for u in in_writing_order(two)]


def _layer_name(use: Use) -> str:
    if use.card is SUNG:
        return f"{LAYER}: "
    return f"{VOICED if use.voiced else ''}{use.layer}: " if use.layer else ""


def _cue_text(cue: Cue, before: Cue | None, counting: Counting, exact: bool) -> str:
    # A letter alone is read within the count of the cue before it.
    inside = before is not None and before.place // 1 == cue.place // 1
    counts = count_text([cue.place], counting, exact=exact or not inside)
    if cue.length > 1:
        counts += f"-{counting.number(cue.place + cue.length - 1)}"
    return f"{counts} {cue.text}" + (f" {cue.ahead} ahead" if cue.ahead else "")


def _pulse_text(pulse: Pulse, counting: Counting) -> str:
    way = f"{pulse.way} " if pulse.way else ""
    numbers = " ".join(str(counting.number(p)) for p in pulse.places)
    said = f"{way}on {numbers if pulse.cycle > 1 else 'the &' if pulse.places[0] else 'the count'}"
    return f"{said}, {_pulse_text(pulse.then, counting)}" if pulse.then else said


def _scat_text(syllables: Sequence[Syllable], layer: str) -> str:
    return f"{layer}:" + "".join(("-" if s.tied else " ") + (s.text or "-") for s in syllables)


def layer_lines(layers: Layers, counting: Counting, *, exact: bool = False) -> Iterator[tuple[int, str]]:
    """The lines of the layers that are no sounds, each with the line of the text that it was read from."""
    for name in CUES:
        for line, cues in groupby((c for c in layers.cues if c.layer == name), key=lambda c: c.line):
            row = list(cues)
            said = (_cue_text(c, b, counting, exact) for b, c in zip([None, *row], row, strict=False))
            yield line, f"{name}: {'  '.join(said)}"
    if layers.pulse is not None:
        yield layers.pulse.line, f"pulse: {_pulse_text(layers.pulse, counting)}"
    for name, rows in (("scat", layers.scat), ("hand scat", layers.hand_scat)):
        for syllables in rows:
            if syllables:
                yield syllables[0].line, _scat_text(syllables, name)
    if layers.note:
        yield _LAST, f"note: {layers.note}"
    if layers.seated:
        yield _LAST, "danced: seated"
    if layers.meter is not None:
        yield _FIRST, f"meter: {layers.meter}"
    if layers.phrase is not None:
        yield _FIRST, f"phrase: {layers.phrase} counts"
    if layers.length is not None:
        yield _LAST, f"length: {layers.length} counts"
    if layers.claims:
        yield _LAST, f"claims: {', '.join(claim.said for claim in layers.claims)}"
    if layers.always:
        yield _LAST, f"always: {layers.always}"
    if layers.count_in is not None:
        yield _FIRST, f"count in: {layers.count_in}"
    for name, reason in layers.meant:
        yield _LAST, f"meant: {name}{f', {reason}' if reason else ''}"


def _same_layers(one: Layers, two: Layers) -> bool:
    """Whether two readings say the same, wherever it stands in the text."""

    def key(layers: Layers) -> tuple[object, ...]:
        cues = [replace(c, line=0) for c in layers.cues]
        pulse = layers.pulse and _pulse_text(layers.pulse, Counting())
        scat = [[[s.text for s in row] for row in of if row] for of in (layers.scat, layers.hand_scat)]
        plain = replace(layers, cues=(), pulse=None, scat=(), hand_scat=())
        return cues, pulse, scat, plain

    return key(one) == key(two)


def write_part(script: PartScript, settings: Settings) -> str:
    """A part's text as a teacher would type it.

    Natural counts where they read back to the same part, else the count of each word's beat, else counts written out
    exactly. Raises ValueError
    for a part that no text gives (words out of order, or before the phrase that holds the first 1).
    """
    rows = list(_rows(script.uses, settings.counting.phrase))
    for way in _WAYS:
        others = list(layer_lines(script.layers, settings.counting, exact=way.exact))
        lines = [(row[0].line, _row_text(row, script, settings, way)) for row in rows]
        # Each in the line it was typed on: syllables belong to the steps above them.
        text = "\n".join(line for _, line in sorted([*lines, *others], key=lambda row: row[0]))
        read = read_part(script.name, text, settings, script.shelf)
        clear = not read.problems and len(read.doubts) <= len(script.doubts)
        if clear and same_uses(read.uses, script.uses) and _same_layers(read.layers, script.layers):
            return text
    raise ValueError("no text reads back to this part")


def rewritten(script: PartScript, uses: Sequence[Use], settings: Settings) -> str | None:
    """A part's text with other words, changed only in the lines of these; None where that reads otherwise.

    Notes stay at the ends of their lines; a new word stands on the line that it names.
    """
    new, changed = _by_line(uses), lines_changed(script, uses)
    for way in _WAYS:
        lines: list[str | None] = list(script.lines)
        for line in changed:
            if not 0 <= line < len(lines):
                return None
            row = new.get(line, [])
            note = script.lines[line].partition("#")
            text = _row_text(row, script, settings, way) if row else ""
            tail = "".join(note[1:])
            lines[line] = f"{text}   {tail}".strip() or None
        whole = "\n".join(line for line in lines if line is not None)
        read = read_part(script.name, whole, settings, script.shelf)
        # A line that dances another again follows by itself, whatever the other has become.
        meant = [u for u in uses if not u.again or u.line in changed]
        own = [u for u in read.uses if not u.again]
        sound = len(read.problems) <= len(script.problems) and len(read.doubts) <= len(script.doubts)
        if not sound or not same_uses(in_writing_order(own), in_writing_order(meant)):
            continue
        if _same_layers(read.layers, script.layers):
            return whole
    return None


def lines_changed(script: PartScript, uses: Sequence[Use]) -> list[int]:
    """The lines of a part's text that would have other words."""
    old, new = (_by_line(of) for of in (script.uses, uses))
    # In whichever order: what takes turns is not written in that of its places.
    same = {line for line in old if {id(u) for u in old[line]} == {id(u) for u in new.get(line, [])}}
    return [line for line in {**old, **new} if line not in same]


def _by_line(uses: Sequence[Use]) -> dict[int, list[Use]]:
    found: dict[int, list[Use]] = {}
    for use in uses:
        found.setdefault(use.line, []).append(use)
    return found


class _Way(Struct, frozen=True):
    """A way to write words: counts written out exactly, or those of words that lie where no count has a name; by each
    word's beat; with a bar before the first 1; names of several words in one, so that they are not read apart."""

    exact: bool
    unnamed: bool
    anchored: bool
    bar: bool
    hyphens: bool


_WAYS = tuple(
    _Way(exact, unnamed, anchored, bar, hyphens)
    for hyphens in (False, True)
    for exact, unnamed, anchored in (
        (False, False, False),
        (False, False, True),
        (False, True, False),
        (True, False, False),
    )
    for bar in (False, True)
)


def _row_text(row: Sequence[Use], script: PartScript, settings: Settings, way: _Way) -> str:
    """One line of words, the name of its layer before it."""
    bar = way.bar and any(u.places[0] < 0 for u in row)
    return _layer_name(row[0]) + _line(row, settings, script.shelf, replace(way, bar=bar))


def kind_text(kind: str, side: str, settings: Settings, shelf: Shelf) -> str:
    """The word that writes a kind of sound by itself, R or L before it where given."""
    name = kind.replace("_", " ")
    card = shelf.plain.find(name, "")
    word = shelf.word_for(card, "") if card is not None else name
    return f"{side_text(side, card, settings)}{word}"


def spelled_out(use: Use, kinds: Sequence[str], feet: Sequence[str], settings: Settings, shelf: Shelf) -> str:
    """A word as single sounds with their counts: what stands for a card when one of its sounds changes.

    `kinds` names the sound for each beat ("" leaves it out); `feet` writes R or L before it where given.
    """
    words: list[str] = []
    for place, kind, foot in zip(use.places, kinds, feet, strict=True):
        if kind:
            turn = "" if words else turn_text(use.word.turn)
            said = f"{count_text([place], settings.counting)} {kind_text(kind, foot, settings, shelf)} {turn}"
            words.append(said.rstrip())
    return "  ".join(words)


def renamed(use: Use, kind: str, settings: Settings, shelf: Shelf) -> str:
    """A one-sound word under another kind, its marks and side kept."""
    word = kind_text(kind, use.side, settings, shelf)
    return f"{word}{MARKS[use.word.level]} {turn_text(use.word.turn)}".rstrip()
