"""The head of a piece: what its headings mean, read and written."""

import re
from collections.abc import Callable
from fractions import Fraction
from functools import lru_cache
from typing import TYPE_CHECKING, Literal

from msgspec import Struct
from msgspec.structs import replace

from firn.core.meter.count_in import CountIn, parse_count_in
from firn.core.meter.counting import Counting, LoneA
from firn.core.meter.feel import parse_feel
from firn.core.meter.meter import Meter, misgrouped, parse_meter
from firn.core.meter.tempo import FASTEST, SLOWEST
from firn.core.pattern import late
from firn.core.script.problems import MOST_LETTERS, Problem, too_long
from firn.core.steps.names import fold, nearest
from firn.core.steps.shelf import APART, TOGETHER, TRADITIONS, Words

if TYPE_CHECKING:
    from firn.core.tune.tune import Tune

MOST_PHRASE = 64
Sides = Literal["working foot", "standing foot"]


class Settings(Struct, frozen=True):
    """What a piece is called and how it is counted. `lone_a` and `phrase` None: as meter and feel suggest.

    `words`: what some words mean here; `sides`: which foot R and L name before a step; `handed`: the hand that leads;
    `tune_said`: the tune that it is danced to, as typed.
    """

    name: str = "Untitled"
    tradition: str = "tap"
    meter: Meter = Meter(4, 4)
    feel: str = "straight"
    lone_a: LoneA | None = None
    phrase: int | None = None
    tempo: float = 120
    lead: str = "right"
    count_in: CountIn = CountIn()
    tally: bool = False
    words: Words = ()
    sides: Sides = "working foot"
    handed: str = "right"
    tune_said: str = ""

    @property
    def tune(self) -> "Tune | None":
        """The tune that it is danced to, where one is said."""
        return _parsed(self.tune_said, self.meter) if self.tune_said else None

    @property
    def counting(self) -> Counting:
        return _counting(self.meter, self.feel, self.lone_a, self.phrase, self.tally)


@lru_cache(maxsize=256)
def counted_as(settings: Settings, meter: Meter | None, phrase: int | None) -> Settings:
    """A piece's settings for a part that is counted otherwise; a meter of its own brings its usual phrase."""
    if meter is None and phrase is None:
        return settings
    kept = settings.phrase if meter is None else None
    return replace(settings, meter=meter or settings.meter, phrase=kept if phrase is None else phrase)


@lru_cache(maxsize=256)
def _counting(meter: Meter, feel_text: str, lone_a: LoneA | None, phrase: int | None, tally: bool) -> Counting:
    """How a piece is counted; the same one for the same settings."""
    feel = parse_feel(feel_text)
    assert feel is not None
    where: LoneA = lone_a or ("triplet" if feel.swing else "sixteenth")
    return Counting(meter, feel, where, phrase or meter.phrase, tally)


_PARTINGS = {"apart": APART, "together": TOGETHER}


def _words(settings: Settings, text: str) -> Settings | None:
    pairs: list[tuple[str, str]] = []
    for said in text.split(","):
        # "chug = scoot", "chug means scoot".
        said = said.replace("=", " is ").replace(" means ", " is ")
        word, is_said, name = " ".join(said.split()).partition(" is ")
        if is_said:
            pairs.append((fold(word), fold(name)))
            continue
        word, _, way = word.rpartition(" ")
        # Only what has several words can be taken apart.
        if fold(way) not in _PARTINGS or " " not in fold(word):
            return None
        pairs.append((fold(word), _PARTINGS[fold(way)]))
    return replace(settings, words=tuple(pairs)) if all(word and name for word, name in pairs) else None


def words_text(words: Words) -> str:
    """What words mean, as a teacher says it."""
    said = {way: text for text, way in _PARTINGS.items()}
    return ", ".join(f"{word} {said[name]}" if name in said else f"{word} is {name}" for word, name in words)


def with_words(words: Words, more: Words) -> Words:
    """What words mean with some more; what is said of a word later holds."""
    return tuple({**dict(words), **dict(more)}.items())


def _sides(settings: Settings, text: str) -> Settings | None:
    sides: dict[str, Sides] = {"working foot": "working foot", "standing foot": "standing foot"}
    found = sides.get(fold(text).removeprefix("the "))
    return replace(settings, sides=found) if found else None


def _name(settings: Settings, text: str) -> Settings | None:
    return replace(settings, name=text) if text else None


def _tradition(settings: Settings, text: str) -> Settings | None:
    return replace(settings, tradition=fold(text)) if fold(text) in TRADITIONS else None


def _meter(settings: Settings, text: str) -> Settings | None:
    meter = parse_meter(text)
    return replace(settings, meter=meter) if meter else None


def _feel(settings: Settings, text: str) -> Settings | None:
    feel = parse_feel(text)
    return replace(settings, feel=str(feel)) if feel else None


def _lone_a(settings: Settings, text: str) -> Settings | None:
    words: dict[str, LoneA] = {"sixteenth": "sixteenth", "triplet": "triplet"}
    lone_a = words.get(text.casefold().removeprefix("last ").removesuffix("s"))
    return replace(settings, lone_a=lone_a) if lone_a else None


def _phrase(settings: Settings, text: str) -> Settings | None:
    match = re.fullmatch(r"(\d{1,3})\s*(counts?|beats?|bars?)?", text.casefold())
    if match is None:
        return None
    counts = int(match[1])
    if (match[2] or "").startswith("bar"):
        counts *= settings.meter.counts
    return replace(settings, phrase=counts) if 1 <= counts <= MOST_PHRASE else None


_NOTES = {
    **dict.fromkeys(("whole", "semibreve", "redonda"), Fraction(1)),
    **dict.fromkeys(("half", "minim", "blanca"), Fraction(1, 2)),
    **dict.fromkeys(("quarter", "crotchet", "negra", "♩"), Fraction(1, 4)),
    **dict.fromkeys(("eighth", "quaver", "corchea", "♪"), Fraction(1, 8)),
    **dict.fromkeys(("sixteenth", "semiquaver", "semicorchea"), Fraction(1, 16)),
}
_OF_NOTES = late(
    r"(?P<dotted>dotted\s++)?+(?P<note>[^\W\d]{1,12}|[♩♪])(?:\s?notes?)?+(?P<dot>\.|\s++con\s++puntillo)?+\s*+=\s*+"
)
"""Of which note a tempo is told: half = 60, ♩. = 116, negra con puntillo = 100."""


def _tempo(settings: Settings, text: str) -> Settings | None:
    said = text.casefold()
    note = _OF_NOTES.match(said)
    match = re.fullmatch(
        r"(?:about|around|ca\.?|~|=)?\s*(\d{1,4}(?:\.\d{1,2})?)\s*(counts a minute|bpm)?",
        said[note.end() :] if note else said,
    )
    if match is None:
        return None
    tempo = float(match[1])
    if note and note["note"] not in ("beat", "count", "tempo"):
        if note["note"] not in _NOTES:
            return None
        # A count of 6/8 is a dotted quarter.
        count = Fraction(3 if settings.meter.compound else 1, settings.meter.unit)
        long = _NOTES[note["note"]] * (Fraction(3, 2) if note["dotted"] or note["dot"] else 1)
        tempo *= float(long / count)
    return replace(settings, tempo=tempo) if SLOWEST <= tempo <= FASTEST else None


def _lead(settings: Settings, text: str) -> Settings | None:
    side = {"right": "right", "r": "right", "left": "left", "l": "left"}.get(fold(text).removesuffix(" foot"))
    return replace(settings, lead=side) if side else None


def _handed(settings: Settings, text: str) -> Settings | None:
    hand = {"right": "right", "r": "right", "left": "left", "l": "left"}.get(text.casefold())
    return replace(settings, handed=hand) if hand else None


@lru_cache(maxsize=256)
def _parsed(text: str, meter: Meter) -> "Tune | None":
    """A tune as typed; most pieces have none, and what reads it is imported for the first that has."""
    from firn.core.tune.tune import parse_tune

    return parse_tune(text, meter)


def _tune(settings: Settings, text: str) -> Settings | None:
    return replace(settings, tune_said=" ".join(text.split())) if _parsed(text, settings.meter) else None


def _count_in(settings: Settings, text: str) -> Settings | None:
    count_in = parse_count_in(text)
    return replace(settings, count_in=count_in) if count_in else None


def _tally(settings: Settings, text: str) -> Settings | None:
    wanted = {"yes": True, "no": False}.get(text.casefold())
    return None if wanted is None else replace(settings, tally=wanted)


_HEADINGS: dict[str, tuple[Callable[[Settings, str], Settings | None], str]] = {
    "piece": (_name, "a name"),
    "tradition": (_tradition, ", ".join(TRADITIONS)),
    "meter": (_meter, "4/4, 3/4, 6/8, 2/4, 2/2, 9/8, 12/8, 5/4, or 7/8 as 2+2+3"),
    "feel": (_feel, "straight, swing, or a ratio such as 3:2"),
    "lone a": (_lone_a, "triplet or sixteenth"),
    "phrase": (_phrase, f"a number of counts or bars, to {MOST_PHRASE} counts"),
    "tempo": (_tempo, f"counts a minute, {SLOWEST} to {FASTEST}"),
    "lead": (_lead, "right or left"),
    "count in": (_count_in, "last 4, last 8, a pair, then all, 2 bars, or none; then two words, such as ready go"),
    "tally": (_tally, "yes or no"),
    "words": (_words, "such as stamp is stomp, irish is shuffle hop step, heel toe apart"),
    "sides": (_sides, "working foot or standing foot"),
    "handed": (_handed, "right or left"),
    "tune": (_tune, "such as Mill Race: intro 8 bars, AABB 8, at 116"),
}

_CALLED = {
    "title": "piece", "name": "piece", "título": "piece", "titulo": "piece", "nombre": "piece", "pieza": "piece",
    "style": "tradition", "dance": "tradition", "estilo": "tradition", "baile": "tradition",
    "time": "meter", "time signature": "meter", "compás": "meter", "compas": "meter",
    "bpm": "tempo", "speed": "tempo", "velocidad": "tempo", "first foot": "lead", "starting foot": "lead",
    "starts": "lead", "foot": "lead", "pie": "lead", "lead foot": "lead", "starts on": "lead", "starts with": "lead",
    "begins on": "lead", "begins with": "lead",
}  # fmt: skip
"""Headings as they are called elsewhere: common practice, no source."""

_MEANT: dict[str, dict[str, str]] = {
    "tradition": {
        "tap dance": "tap", "tap dancing": "tap", "clog": "clogging", "clog dancing": "clogging",
        "appalachian clogging": "clogging", "flatfooting": "flatfoot", "flat foot": "flatfoot", "irish": "step dance",
        "irish dance": "step dance", "irish step dance": "step dance", "irish step dancing": "step dance",
        "step dancing": "step dance", "jazz roots": "solo jazz", "vernacular jazz": "solo jazz",
        "authentic jazz": "solo jazz", "lindy hop": "swing", "lindy": "swing", "jive": "swing", "balboa": "swing",
        "swing dance": "swing", "salsa": "latin", "mambo": "latin", "bachata": "latin", "cha cha": "latin",
        "cha cha cha": "latin", "merengue": "latin", "cumbia": "latin", "rumba": "latin", "samba": "latin",
        "house dance": "house", "zapateado": "folk stamping", "stamping": "folk stamping",
    },
    "meter": {
        "waltz": "3/4", "waltz time": "3/4", "common time": "4/4", "cut time": "2/2", "jig": "6/8", "slip jig": "9/8",
        "polka": "2/4", "reel": "4/4", "hornpipe": "4/4", "four four": "4/4", "three four": "3/4", "two four": "2/4",
        "six eight": "6/8", "nine eight": "9/8",
    },
    "feel": {"swung": "swing", "even": "straight"},
}  # fmt: skip
"""Values as they are called elsewhere, each with what it is here: common practice, no source."""

HEADING = late(r"\s*([^\W\d_][^:#]{0,40}?)\s*:(.*)")


def read_settings(lines: list[str]) -> tuple[Settings, list[Problem]]:
    """The settings that heading lines give, the last of each kind winning, and what is wrong with them."""
    settings, problems = Settings(), []
    waiting: list[tuple[int, str, str, int, int]] = []
    for number, line in enumerate(lines):
        if len(line) > MOST_LETTERS:
            problems.append(too_long(number, line))
            continue
        text = line.split("#")[0]
        match = HEADING.fullmatch(text.rstrip())
        if match is None:
            continue
        key = fold(match[1])
        key = _CALLED.get(key, key)
        if key not in _HEADINGS:
            near = nearest(key, _HEADINGS, most=2)
            hint = f" Nearest: {', '.join(near)}." if near else " Put # before what is only told."
            message = f'No heading is called "{match[1]}".{hint}'
            problems.append(Problem("H201", number, match.start(1), match.end(1), message, near))
            continue
        value = match[2].strip()
        start = match.end() - len(match[2].lstrip()) if value else match.end(1)
        waiting.append((number, key, value, start, match.end()))
    # "phrase: 4 bars", "quarter = 120" and the tune need the meter, wherever it stands.
    for number, key, value, start, end in sorted(waiting, key=lambda w: w[1] in ("phrase", "tempo", "tune")):
        new = set_by(settings, key, value)
        if new is None:
            said = f'"{value}" is no {key}: {expected(key, value)}.'
            problems.append(Problem("H202", number, start, max(end, start + 1), said))
        else:
            settings = new
    return settings, sorted(problems, key=lambda p: p.line)


def set_by(settings: Settings, key: str, value: str) -> Settings | None:
    """Settings with what one heading says; None where it says nothing that is known."""
    return _HEADINGS[key][0](settings, _MEANT.get(key, {}).get(fold(value), value))


def expected(key: str, value: str) -> str:
    """What a heading may say in place of a value that it may not, in words."""
    return (misgrouped(value) if key == "meter" else "") or _HEADINGS[key][1]


def write_settings(settings: Settings) -> str:
    """The heading lines of some settings, as a teacher would type them; reads back to the same settings."""
    lines = [
        f"piece: {settings.name}",
        f"tradition: {settings.tradition}",
        f"meter: {settings.meter}",
        f"feel: {settings.feel}",
    ]
    if settings.lone_a:
        lines.append(f"lone a: {settings.lone_a}")
    if settings.phrase:
        lines.append(f"phrase: {settings.phrase} counts")
    lines += [f"tempo: {settings.tempo:g}", f"lead: {settings.lead}"]
    if settings.count_in != CountIn():
        lines.append(f"count in: {settings.count_in}")
    if settings.tally:
        lines.append("tally: yes")
    if settings.words:
        lines.append(f"words: {words_text(settings.words)}")
    if settings.sides != "working foot":
        lines.append(f"sides: {settings.sides}")
    if settings.handed != "right":
        lines.append(f"handed: {settings.handed}")
    if settings.tune_said:
        lines.append(f"tune: {settings.tune_said}")
    return "\n".join(lines) + "\n"
