"""Tunes in ABC notation (abcnotation.com, standard 2.1), as far as their bars, repeats, sections and tempo go."""

import re
from collections.abc import Iterator
from fractions import Fraction

from firn.core.meter.meter import Meter, parse_meter
from firn.core.tune.repeats import Measure, mark_of, name_sections, places_of, played_of
from firn.core.tune.tune import Rhythm, Tune, TuneError, merged

MOST_LETTERS, MOST_MEASURES = 2_000_000, 20_000

_FIELD = re.compile(r"([A-Za-z]):\s*(.*)")
_TOKEN = re.compile(
    r"""
      (?P<mark> "[\^_<>@]?(?P<words>[^"]*)" | !(?P<sign>[^!\s]+)! )
    | (?P<skip> \s+ | "[^"]*"? | ![^!\s]*! | \+[a-z]+\+ | \{[^}]*\}? | [.~HLMOPSTuvkJR`\\$)] | \(+(?!\d)
              | y\d* | [<>]+ )
    | (?P<tie> -)
    | (?P<field> \[[A-Za-z]:[^\]]{0,400}\] )
    | (?P<tuplet> \(\d(?::\d?)?(?::\d?)? )
    | (?P<ending> \[\d[\d,\-]* | (?<=\|)\d[\d,\-]* | (?<=:)\d[\d,\-]* )
    | (?P<bar> :*\|[\]|]?:* | \[\|:* | ::+ | \|\[ )
    | (?P<chord> \[ [\s.~uvTHk-]* [\^_=]{0,2}[A-Ga-gzx][,']*(?P<inner>[\d/]*) [^\]|]{0,400} \] (?P<outer> [\d/]* ) )
    | (?P<rests> Z(?P<many>\d*) )
    | (?P<note> [\^_=]{0,2}[A-Ga-gzx][,']*(?P<long>[\d/]*) )
    | (?P<other> . )
    """,
    re.VERBOSE,
)
_USUAL_Q = {2: 3, 3: 2, 4: 3, 6: 2, 8: 3}


def read_abc(text: str, name: str = "the tune") -> Tune:
    """The first tune of an ABC text; raises TuneError with one sentence where there is none."""
    return _read(text, name).tune(name)


def rhythm_of_abc(text: str, name: str) -> Rhythm:
    """The rhythm of the first tune of an ABC text, as it is played; raises TuneError."""
    return _read(text, name).rhythm(name)


def _read(text: str, name: str) -> "_Reader":
    if len(text) > MOST_LETTERS:
        raise TuneError(f"{name} is too long to be a tune.")
    reader = _Reader()
    for line in text.splitlines():
        if reader.line(line.split("%")[0].rstrip()):
            break
    return reader


class _Reader:
    def __init__(self) -> None:
        self._title = ""
        self._meter_said = self._unit_said = self._tempo_said = self._order = ""
        self._body = False
        self._voice, self._first_voice = "", ""
        self._unit = Fraction(1, 8)
        self._meter: Meter | None = None
        self._section = ""
        self._tuplet = (0, Fraction(1))
        self._tied = False
        self._measures: list[Measure] = [Measure()]
        self._endings: tuple[int, ...] = ()

    def line(self, line: str) -> bool:
        """Take one line; whether the tune is over."""
        if not line.strip():
            return self._body and len(self._measures) > 1
        match = _FIELD.fullmatch(line)
        if match and (not self._body or match[1] in "KLMPQVwWsTNRX"):
            if match[1] == "X" and self._body:
                return True
            self._field(match[1], match[2].strip())
        elif self._body and self._voice == self._first_voice:
            self._music(line)
        return False

    def _field(self, key: str, said: str) -> None:
        if key == "T":
            self._title = self._title or said
        elif key == "M":
            self._meter_said = self._meter_said or said
            self._meter = self._meter or _meter_of(said)
            if not self._unit_said:
                self._unit = _usual_unit(said)
        elif key == "L" and (found := _fraction(said)):
            self._unit_said, self._unit = said, found
        elif key == "Q":
            self._tempo_said = self._tempo_said or said
        elif key == "P" and not self._body:
            self._order = said
        elif key == "P":
            self._section = said.strip(". ")[:8]
            self._measures[-1].section = self._section
        elif key == "V":
            self._voice = said.split()[0] if said.split() else ""
            self._first_voice = self._first_voice or self._voice
        elif key == "K":
            self._body = True

    def _music(self, line: str) -> None:
        for match in _TOKEN.finditer(line):
            if match["field"]:
                self._field(match["field"][1], match["field"][3:-1].strip())
            elif match["mark"]:
                self._mark(match["words"] or match["sign"] or "")
            elif match["bar"]:
                self._bar(match["bar"])
            elif match["ending"]:
                self._ending(match["ending"])
            elif match["tuplet"]:
                self._tuplet = self._tuplet_of(match["tuplet"])
            elif match["rests"]:
                for number in range(min(200, int(match["many"] or 1))):
                    if number:
                        self._measures.append(Measure(section=self._section, endings=self._endings))
                    self._measures[-1].length += self._bar_length
            elif match["tie"]:
                self._tied = True
            elif match["chord"]:
                self._sound(match["inner"], match["outer"])
            elif match["note"]:
                self._sound(match["long"], rest=match["note"].lstrip("^_=")[0] in "zx")
            if len(self._measures) > MOST_MEASURES:
                raise TuneError(f"A tune has {MOST_MEASURES} bars at most.")

    def _mark(self, said: str) -> None:
        """Take what says where to go on; after a bar line it is of the bar before, where it stands after one."""
        mark = mark_of(said)
        if mark is None:
            return
        now = self._measures[-1]
        after = mark not in ("segno", "coda")
        if after and not now.length and len(self._measures) > 1:
            now = self._measures[-2]
        now.marks |= {"coda after" if mark == "coda" and now.length else mark}

    @property
    def _bar_length(self) -> Fraction:
        meter = self._meter or Meter(4, 4)
        return Fraction(meter.beats, meter.unit)

    def _sound(self, long: str, more: str = "", *, rest: bool = False) -> None:
        if not rest and not self._tied:
            now = self._measures[-1]
            now.onsets += (now.length,)
        self._tied = False
        length = self._unit * _long(long) * _long(more)
        left, share = self._tuplet
        if left:
            length *= share
            self._tuplet = (left - 1, share)
        self._measures[-1].length += length

    def _tuplet_of(self, said: str) -> tuple[int, Fraction]:
        numbers = [int(n) if n else 0 for n in said[1:].split(":")]
        p = numbers[0]
        compound = self._meter is not None and self._meter.compound
        q = (numbers[1] if len(numbers) > 1 else 0) or _USUAL_Q.get(p, 3 if compound else 2)
        r = (numbers[2] if len(numbers) > 2 else 0) or p
        return r, Fraction(q, p) if p else Fraction(1)

    def _ending(self, said: str) -> None:
        self._endings = tuple(_numbers(said.lstrip("[")))
        self._measures[-1].endings = self._endings

    def _bar(self, said: str) -> None:
        now = self._measures[-1]
        starts = (said.endswith(":") and said != ":" and not said.startswith(":|")) or said.startswith("::")
        starts = starts or (said.startswith(":|") and said.endswith(":") and said.count(":") > 1)
        ends = said.startswith(":")
        if now.length:
            if ends:
                now.ends = max(2, said.index("|") + 1 if "|" in said else 2)
            now.double = now.double or "||" in said or "]" in said or said.startswith("[|")
            # After the last of some endings the bars are of none.
            if ends or now.double:
                self._endings = () if not ends or not self._endings else self._endings
            self._measures.append(Measure(section=self._section, endings=() if now.double else self._endings))
            if ends:
                self._endings = ()
                self._measures[-1].endings = ()
        elif ends and len(self._measures) > 1:
            self._measures[-2].ends = max(2, self._measures[-2].ends)
        if starts:
            self._measures[-1].begins = True
            self._endings = ()

    # What was read

    def rhythm(self, name: str) -> Rhythm:
        """Where it sounds, as it is written."""
        measures = [m for m in self._measures if m.length]
        if not self._body or not any(m.onsets for m in measures):
            raise TuneError(f"There is no rhythm in {name}.")
        meter = self._meter or Meter(4, 4)
        count = Fraction(3, meter.unit) if meter.compound else Fraction(1, meter.unit)
        places = places_of(measures, self._bar_length, count)
        return Rhythm(self._title or name, meter, places, _tempo_of(self._tempo_said, count))

    def tune(self, name: str) -> Tune:
        """The tune that was read."""
        measures = [m for m in self._measures if m.length]
        if not self._body or not measures:
            raise TuneError(f"There is no tune in {name}.")
        meter = self._meter or Meter(4, 4)
        count = Fraction(3, meter.unit) if meter.compound else Fraction(1, meter.unit)
        name_sections(measures)
        played = _in_order(played_of(measures), self._order, any(m.ends > 1 for m in measures))
        first = played[0][1] if played else Fraction(0)
        pickup = first / count if first < self._bar_length and len(played) > 1 else Fraction(0)
        tempo = _tempo_of(self._tempo_said, count)
        counted = [(section, length / count) for section, length in played]
        return merged(self._title or name, meter, counted, tempo, pickup)


def _in_order(played: list[tuple[str, Fraction]], order: str, repeats: bool) -> list[tuple[str, Fraction]]:
    """Measures in the order that the head gives for sections, unless the music has repeats of its own."""
    letters = re.sub(r"[^A-Za-z]", "", order)
    sections = list(dict.fromkeys(section for section, _ in played if section))
    if repeats or not letters or any(letter not in sections for letter in letters):
        return played
    ordered: list[tuple[str, Fraction]] = []
    for letter in letters:
        ordered += [one for one in played if one[0] == letter]
        ordered.append(("", Fraction(0)))
    return ordered


def _fraction(said: str) -> Fraction | None:
    match = re.search(r"(\d{1,3})\s*/\s*(\d{1,3})", said)
    return Fraction(int(match[1]), int(match[2])) if match and int(match[2]) and int(match[1]) else None


def _meter_of(said: str) -> Meter | None:
    said = {"C": "4/4", "C|": "2/2"}.get(said.strip(), said.strip())
    # Groups may stand in brackets: (2+2+3)/8.
    return parse_meter(said.replace("(", "").replace(")", ""))


def _usual_unit(meter: str) -> Fraction:
    """The unit where none is said: a sixteenth under three quarters to a bar, else an eighth."""
    found = _fraction({"C": "4/4", "C|": "2/2"}.get(meter.strip(), meter))
    return Fraction(1, 16) if found is not None and found < Fraction(3, 4) else Fraction(1, 8)


def _long(said: str) -> Fraction:
    """How many units a note lasts: 3, /, 3/2, //."""
    top, slash, bottom = said.partition("/")
    length = Fraction(int(top[:4]) if top else 1)
    if slash:
        halves = 1 + bottom.count("/")
        under = bottom.strip("/").partition("/")[0]
        length /= int(under[:4]) or 1 if under else 2**halves
    return length


def _numbers(said: str) -> Iterator[int]:
    for one in said.split(","):
        first, dash, last = one.partition("-")
        if first.isdecimal():
            until = int(last) if dash and last.isdecimal() else int(first)
            yield from range(int(first), min(until, int(first) + 8) + 1)


def _tempo_of(said: str, count: Fraction) -> float:
    """Counts a minute of "1/4=120", "3/8=120" or a bare "120"; 0 where it says nothing."""
    said = re.sub(r'"[^"]*"', "", said).strip()
    match = re.search(r"(?:(\d{1,3})/(\d{1,3}))(?:\s+\d+/\d+)*\s*=\s*(\d{1,3})", said)
    if match and int(match[2]):
        return float(Fraction(int(match[1]), int(match[2])) * int(match[3]) / count)
    bare = re.fullmatch(r"(\d{1,3})", said)
    return float(Fraction(1, 4) * int(bare[1]) / count) if bare else 0.0
