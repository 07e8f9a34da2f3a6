"""Layers of a part: lines of their own beside the steps, each begun with its name and a colon."""

import re
from collections.abc import Sequence
from fractions import Fraction
from functools import lru_cache
from typing import Literal

from msgspec import Struct
from msgspec.structs import replace

from firn.core.meter.count_in import CountIn, parse_count_in
from firn.core.meter.counting import Counting
from firn.core.meter.meter import Meter
from firn.core.pattern import late
from firn.core.script.claims import SUCH, Claim, claim_of
from firn.core.script.counts import CountReader, Entry, first_number
from firn.core.script.items import WordRun
from firn.core.script.problems import Problem
from firn.core.script.said import SIDES
from firn.core.script.tree import Counts, atoms_of_text
from firn.core.steps.names import fold
from firn.core.steps.shelf import Shelf, shipped

HANDS = ("hands", "left hand", "right hand", "leading hand", "other hand")
"""Layers of sounds: words for hands, in counts of their own."""

CUES = ("arms", "body", "moves", "signals")
"""Layers of silent cues: free words at counts."""

COUNTED = ("meter", "phrase")
"""Lines that say how a part is counted, before any other is read."""

OTHERS = ("pulse", "scat", "hand scat", "note", "danced", "length", "claims", "always", "count in", "meant", *COUNTED)
LAYERS = (*HANDS, *CUES, *OTHERS)
_NOTED = ("notes", "caution", "nota", "notas")
_NOTES = (*_NOTED, "tip", "tips", "remember", "reminder", "care", "ojo")
"""A note as it is called; what may be a step, or lead to steps, only where the body is spoken of."""
VOICED = "voiced "
SEATED = ("standing", "seated")

PulseWay = Literal["", "down", "up"]


class LayerLine(Struct, frozen=True):
    """A line of a layer: which, whether it is voiced, and the column on which its text begins."""

    name: str
    voiced: bool
    column: int
    text: str

    @property
    def blanked(self) -> str:
        """The line without its name, every column kept."""
        return " " * self.column + self.text


class Cue(Struct, frozen=True):
    """Silent words at a place: `length` in counts where they last; a signal is given `ahead` counts before it."""

    layer: str
    place: Fraction
    length: Fraction
    text: str
    ahead: int = 0
    line: int = 0

    @property
    def given(self) -> Fraction:
        """The place on which it is given."""
        return self.place - self.ahead


class Pulse(Struct, frozen=True):
    """What the standing leg goes on doing: `way` on these places of every `cycle` counts; `then`: and what else."""

    way: PulseWay
    places: tuple[Fraction, ...]
    cycle: int
    line: int = 0
    then: "Pulse | None" = None

    def within(self, first: Fraction, end: Fraction) -> list[tuple[Fraction, PulseWay]]:
        """Its places from one count up to another, each with its way."""
        found: list[tuple[Fraction, PulseWay]] = []
        start = int(first // self.cycle) * self.cycle
        while start < end:
            found += ((start + p, self.way) for p in self.places if first <= start + p < end)
            start += self.cycle
        return sorted(found + (self.then.within(first, end) if self.then else []))


class Syllable(Struct, frozen=True):
    """One syllable of a scat line; "" where a sound has none. `tied`: with a hyphen to the one before it."""

    text: str
    line: int
    column: int
    tied: bool = False


class Layers(Struct, frozen=True):
    """What is said of a part beside its steps.

    `scat`: the lines of syllables, each with its line of the text, `hand_scat` those for the hands; `note`: what to
    think of; `seated`: danced on a chair, where no foot carries. `length`: how many counts its teacher says that it
    has; `claims`: what else she says of it; `always`: the foot that every time begins on; `count_in`: its own
    count-in; `meant`: what is worth a look by its name and is meant so, with the reason. `meter`, `phrase`: how this
    part is counted, where it is not as the piece is.
    """

    cues: tuple[Cue, ...] = ()
    pulse: Pulse | None = None
    scat: tuple[tuple[Syllable, ...], ...] = ()
    note: str = ""
    seated: bool = False
    length: int | None = None
    claims: tuple[Claim, ...] = ()
    always: str = ""
    count_in: CountIn | None = None
    meant: tuple[tuple[str, str], ...] = ()
    meter: Meter | None = None
    phrase: int | None = None
    hand_scat: tuple[tuple[Syllable, ...], ...] = ()

    def __bool__(self) -> bool:
        return self != NONE


NONE = Layers()

_NAME = late(r"\s*(hand\s+scat|(?:voiced\s+)?[a-z]+(?:\s+(?:hand|in))?)\s*:", re.IGNORECASE)
_HANDS = late(
    r"\s*(?:(?:with|con)\s+)?(?:(?:the|your|las)\s+)?(?:(?:hands?|manos)\s*(?:[:–—]|-\s)"
    r"|(?:hands|manos)(?=\s(?:claps?|snaps?|palmas?)\b))",
    re.IGNORECASE,
)
"""The hands as they are said elsewhere: with the hands: clap 2 4, hands clap on 2; common practice, no source."""
_SAYING = late(
    r"(?=.*\b(?:knees?|ankles?|shoulders?|hips?|weight|posture|soft|loose|relax\w*|low|light|tall|keep|stay|mind|bend"
    r"|breathe|rodillas?|hombros?|peso|suaves?)\b)[^\d&]*",
    re.IGNORECASE,
)
"""Words of a note: of the body and how it is held, without counts."""
_LISTED = late(r"\s*[•*▪–—-]\s+(?=\S)")
"""What begins a line of a list."""
_CUE = late(
    r"(?P<counts>(?<![\w/&])(?:\d++(?:\+\d++/\d++)?+(?:[-–]\d++)?+|[&ae]++(?=\d)|&)(?:[&ae]|\d++)*+)(?!\w|/|\s*+ahead\b)",
    re.IGNORECASE,
)
_AHEAD = late(r"(?<!\s)\s*+,?\s*+(\d{1,2})\s++ahead\s*", re.IGNORECASE)
_PULSE = late(r"\s*+(?:(down|up)\s++)?on\s++(.*)", re.IGNORECASE)
_EVERY = ("the count", "every count", "each count", "the counts")


@lru_cache(maxsize=20_000)
def layer_of(line: str) -> LayerLine | None:
    """The layer that a line belongs to; None for a line of steps."""
    listed = _LISTED.match(line)
    start = listed.end() if listed else 0
    if hands := _HANDS.match(line, start):
        return LayerLine("hands", False, hands.end(), line[hands.end() :])
    if ":" not in line:
        return None
    match = _NAME.match(line, start)
    name = fold(match[1]) if match else ""
    voiced = name.startswith(VOICED)
    name = name.removeprefix(VOICED)
    if match is not None and (name in _NOTED or (name in _NOTES and _SAYING.fullmatch(line, match.end()))):
        name = "note"
    if match is None or name not in LAYERS or (voiced and name not in HANDS):
        return None
    return LayerLine(name, voiced, match.end(), line[match.end() :])


def words_across(text: str) -> str:
    """Words with left and right swapped."""
    swap = {"left": "right", "right": "left", "Left": "Right", "Right": "Left", "LEFT": "RIGHT", "RIGHT": "LEFT"}
    return re.sub(r"\b(?:left|right|Left|Right|LEFT|RIGHT)\b", lambda m: swap[m[0]], text)


def meant_by(layer: LayerLine) -> list[tuple[str, str]]:
    """What a line says to be meant, by its name, and why; none where it names nothing."""
    name, _, reason = layer.text.split("#")[0].strip().partition(",")
    return [(fold(name), reason.strip())] if name.strip() else []


class LayerReader:
    """Reads the layers that are no sounds, line by line; never raises for any text.

    `meter`, `phrase`: what the part's own lines say of how it is counted.
    """

    def __init__(
        self,
        counting: Counting,
        meter: Meter | None = None,
        phrase: int | None = None,
        *,
        shelf: Shelf | None = None,
        tradition: str = "",
    ) -> None:
        self._counting, self._meter, self._phrase = counting, meter, phrase
        self._shelf, self._tradition = shelf or shipped(), tradition
        self._claims: list[Claim] = []
        self._always = ""
        self._count_in: CountIn | None = None
        self._entries: dict[str, Entry] = {}
        self._cues: list[Cue] = []
        self._pulse: Pulse | None = None
        self._scat: list[tuple[Syllable, ...]] = []
        self._hand_scat: list[tuple[Syllable, ...]] = []
        self._notes: list[str] = []
        self._seated = False
        self._length: int | None = None
        self._meant: list[tuple[str, str]] = []
        self.problems: list[Problem] = []

    @property
    def layers(self) -> Layers:
        """What has been read."""
        cues = tuple(sorted(self._cues, key=lambda c: (CUES.index(c.layer), c.place)))
        return Layers(
            cues, self._pulse, tuple(self._scat), " ".join(self._notes), self._seated,
            self._length, tuple(self._claims), self._always, self._count_in, tuple(self._meant),
            self._meter, self._phrase, tuple(self._hand_scat),
        )  # fmt: skip

    def read(self, layer: LayerLine, number: int) -> None:
        """Read one line; `number` is where it stands in the text."""
        text = layer.blanked.split("#")[0].rstrip()
        if layer.name in CUES:
            self._read_cues(layer.name, text, number)
        elif layer.name == "pulse":
            self._read_pulse(text, layer.column, number)
        elif layer.name == "scat":
            self._scat.append(_syllables(text, number))
        elif layer.name == "hand scat":
            self._hand_scat.append(_syllables(text, number))
        elif layer.name == "length":
            self._read_length(text, layer.column, number)
        elif layer.name == "claims":
            self._read_claims(text, layer.column, number)
        elif layer.name == "always":
            self._read_always(text, layer.column, number)
        elif layer.name == "count in":
            self._read_count_in(text, layer.column, number)
        elif layer.name == "meant":
            self._meant += meant_by(layer)
        elif layer.name == "note":
            self._notes += [text.strip()] if text.strip() else []
        else:
            self._read_danced(text, layer.column, number)

    def _problem(self, number: int, start: int, end: int, message: str) -> None:
        self.problems.append(Problem("N116", number, start, max(end, start + 1), message))

    def _read_length(self, text: str, column: int, number: int) -> None:
        match = re.fullmatch(r"\s*(\d{1,4})\s*(counts?|beats?|bars?)?\s*", text[column:], re.IGNORECASE)
        counts = int(match[1]) if match else 0
        if match is not None and (match[2] or "").casefold().startswith("bar"):
            counts *= self._counting.meter.counts
        if counts:
            self._length = counts
        else:
            self._problem(number, column, len(text), f'"{text.strip()}" is no length: such as 4 counts, or 2 bars.')

    def _read_claims(self, text: str, column: int, number: int) -> None:
        for match in re.finditer(r"[^,;]+", text[column:]):
            said = match[0].strip()
            claim = claim_of(said, self._shelf, self._tradition) if said else None
            if claim is not None:
                self._claims.append(claim)
            elif said:
                start = column + match.start() + len(match[0]) - len(match[0].lstrip())
                self._problem(number, start, start + len(said), f'"{said}" is no claim: such as {SUCH}.')

    def _read_always(self, text: str, column: int, number: int) -> None:
        side = SIDES.get(fold(text).removesuffix(" foot"), "")
        if side in ("right", "left"):
            self._always = side
        else:
            self._problem(number, column, len(text), f'"{text.strip()}" is no foot: always: right, or always: left.')

    def _read_count_in(self, text: str, column: int, number: int) -> None:
        self._count_in = parse_count_in(text[column:])
        if self._count_in is None:
            said = text[column:].strip()
            self._problem(number, column, len(text), f'"{said}" is no count-in: such as 5 6 7 8, or last 4.')

    def _read_danced(self, text: str, column: int, number: int) -> None:
        said = fold(text)
        if said in SEATED:
            self._seated = said == "seated"
        else:
            self._problem(number, column, len(text), f'"{text.strip()}" is no way to dance: standing or seated.')

    def _read_cues(self, name: str, text: str, number: int) -> None:
        found = list(_CUE.finditer(text))
        if text[: found[0].start()].strip() if found else text.strip():
            said = "Say the count first, then what is done on it, such as 3 up."
            self._problem(number, len(text) - len(text.lstrip()), len(text), said)
        groups: list[Counts] = []
        reader = CountReader(self._counting, self._entry(name, found), line=number)
        for match, after in zip(found, [*found[1:], None], strict=False):
            groups.append(Counts(atoms_of_text(match[0]), match[0], match.start(), match.end()))
            words = text[match.end() : after.start() if after else len(text)]
            if not words.strip() and after is not None:
                continue
            reader.hear([WordRun(tuple(groups), ())])
            places = reader.resolve(groups)
            said, ahead = _ahead(words) if name == "signals" else (words.strip(), 0)
            if not said:
                self.problems.append(
                    Problem("N108", number, match.start(), match.end(), "These counts have no word after them.")
                )
            self._cues += [Cue(name, p, max(n, Fraction(0)), said, ahead, number) for p, n in places if said]
            groups = []
        self._entries[name] = reader.after
        self.problems += reader.problems

    def _entry(self, name: str, found: Sequence[re.Match[str]]) -> Entry:
        if name in self._entries:
            return self._entries[name]
        groups = tuple(Counts(atoms_of_text(m[0]), m[0], m.start(), m.end()) for m in found)
        return Entry(first=first_number([WordRun(groups, ())], self._counting.phrase))

    def _read_pulse(self, text: str, column: int, number: int) -> None:
        # Down on the count, up on the &: one movement after another.
        said = [part for part in re.split(r"(?:,|\band\b)(?=\s*(?:down|up|on)\b)", text[column:]) if part.strip()]
        pulse: Pulse | None = None
        for part in reversed(said):
            one = self._pulse_of(part, number)
            if one is None:
                said = []
                break
            pulse = replace(one, then=pulse)
        if said:
            self._pulse = pulse
        else:
            wanted = "down on the count, up on the &, or down on 2 4 6 8"
            self._problem(number, column, len(text), f'"{text.strip()}" is no pulse: write {wanted}.')

    def _pulse_of(self, text: str, number: int) -> Pulse | None:
        """One movement of a pulse; None where it is none."""
        match = _PULSE.fullmatch(text.rstrip())
        said = fold(match[2]) if match else ""
        ways: dict[str, PulseWay] = {"down": "down", "up": "up"}
        way = ways.get((match[1] or "").casefold(), "") if match else ""
        share = self._counting.division("&", among=frozenset("&")) if said in ("the &", "every &", "&") else None
        if said in _EVERY:
            return Pulse(way, (Fraction(0),), 1, number)
        if share is not None:
            return Pulse(way, (share,), 1, number)
        phrase = self._counting.phrase
        whole = said.replace(",", " ").split()
        if whole and all(w.isdecimal() and 1 <= int(w[:4]) <= phrase for w in whole):
            return Pulse(way, tuple(sorted({Fraction(int(w) - 1) for w in whole})), phrase, number)
        return None


def _ahead(words: str) -> tuple[str, int]:
    """A signal's words, and how many counts ahead it is given."""
    match = _AHEAD.search(words)
    if match is None:
        return words.strip(), 0
    return f"{words[: match.start()].strip()} {words[match.end() :].strip()}".strip(), int(match[1])


def _syllables(text: str, number: int) -> tuple[Syllable, ...]:
    """Syllables, apart by spaces or hyphens; a hyphen that stands alone is a sound without one."""
    found = []
    for match in re.finditer(r"\S+", text):
        if set(match[0]) <= set("-–"):
            found.append(Syllable("", number, match.start()))
            continue
        parts = list(re.finditer(r"[^-–]+", match[0]))
        found += [Syllable(p[0], number, match.start() + p.start(), p is not parts[0]) for p in parts]
    return tuple(found)
