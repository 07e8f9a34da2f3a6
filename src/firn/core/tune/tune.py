"""A tune as a dancer needs it: its meter, its tempo, and its sections as they are played."""

import re
from collections.abc import Sequence
from fractions import Fraction
from functools import cache
from itertools import groupby

from msgspec import Struct

from firn.core.meter.meter import Meter, parse_meter
from firn.core.meter.tempo import FASTEST, SLOWEST
from firn.errors import FirnError

MOST_COUNTS = 20_000


class TuneError(FirnError):
    """What is no tune that Firn can read."""


class Section(Struct, frozen=True):
    """A section as it is played once: its name, and how many counts it has."""

    name: str
    counts: Fraction


class Rhythm(Struct, frozen=True):
    """When something sounds: places in counts, ascending, from the first whole bar's 1; `tempo` in counts a minute, 0
    where nothing says so. `feel`: what is said of it, such as 2:1. `loose`: the places are times that somebody
    played, and lie on no counts."""

    name: str
    meter: Meter
    places: tuple[Fraction, ...]
    tempo: float = 0.0
    feel: str = ""
    loose: bool = False


class Tune(Struct, frozen=True):
    """A tune: `tempo` in counts a minute, 0 where nothing says so; `pickup`: counts before its first count 1, part of
    its first section; `intro`: bars before the first section, in which nobody dances; `starts`: the count of the
    tune, from 1, on which the steps begin."""

    name: str
    meter: Meter
    sections: tuple[Section, ...]
    tempo: float = 0.0
    pickup: Fraction = Fraction(0)
    intro: int = 0
    starts: int = 1

    @property
    def counts(self) -> Fraction:
        """Counts from its first count 1 to its end, the intro left out."""
        return sum((s.counts for s in self.sections), Fraction(0)) - self.pickup

    @property
    def bars(self) -> Fraction:
        """The same in bars."""
        return self.counts / self.meter.counts

    @property
    def whole_counts(self) -> int:
        """Counts that are danced to it: a last bar that leaves out what the pick-up has already is a whole one."""
        return -int(-self.counts // 1)

    @property
    def form(self) -> str:
        """Its sections in order, such as AABB."""
        return "".join(s.name if len(s.name) == 1 else f" {s.name} " for s in self.sections).strip()

    def where(self, count: Fraction) -> tuple[str, int, int]:
        """The section in which a count lies, from 0 for its first count 1; which time that section is played, and the
        bar in it, both from 1. Past its end it begins again; in the intro "intro", 1 and the bar."""
        if count < 0:
            return "intro", 1, int(self.intro + count // self.meter.counts) + 1
        count = count % self.counts if self.counts > 0 else Fraction(0)
        at = -self.pickup
        times: dict[str, int] = {}
        for section in self.sections:
            times[section.name] = times.get(section.name, 0) + 1
            end = at + section.counts
            if count < end or section is self.sections[-1]:
                begins = max(at, Fraction(0)) if at < 0 else Fraction(-(-at // 1))
                bar = max(0, int((count - begins) // self.meter.counts))
                return section.name, times[section.name], bar + 1
            at = end
        raise ValueError("a tune without sections has no places")


def merged(name: str, meter: Meter, played: Sequence[tuple[str, Fraction]], tempo: float, pickup: Fraction) -> Tune:
    """A tune of measures as they are played, each with its section and its length in counts.

    Measures of one section that follow one another without a break are one time through it: a break is an empty name.
    Raises TuneError for none, or too many.
    """
    sections = []
    for said, measures in groupby(played, key=lambda one: one[0]):
        long = sum((length for _, length in measures), Fraction(0))
        if said:
            sections.append(Section(said.split("\\0")[0], long))
    if not sections or sum(s.counts for s in sections) <= 0:
        raise TuneError(f"There is no music in {name}.")
    if sum(s.counts for s in sections) > MOST_COUNTS:
        raise TuneError(f"{name} is longer than {MOST_COUNTS} counts.")
    return Tune(name, meter, tuple(sections), tempo if SLOWEST <= tempo <= FASTEST else 0.0, pickup)


@cache
def _entry() -> re.Pattern[str]:
    """One thing that is said of a tune. Made when a tune is first read."""
    return re.compile(
        r"""intro\s+(?P<intro>\d{1,3})(?:\s+bars?)?
        |at\s+(?P<tempo>\d{1,3}(?:\.\d{1,2})?)
        |(?:begins|starts)\s+on\s+(?:bar\s+(?P<bar>\d{1,3})|(?P<count>\d{1,4}))
        |(?:in\s+)?(?P<meter>\d{1,2}/\d{1,2})
        |(?P<form>[A-Z]{1,16})\s+(?P<bars>\d{1,3})(?:\s+bars?)?""",
        re.IGNORECASE | re.VERBOSE,
    )


def at_tempo(text: str, tempo: float) -> str:
    """What is said of a tune, at another tempo: Mill Race: AABB 8, at 116; a tune without a name is called Tune."""
    name, colon, said = text.partition(":")
    kept = [one for one in map(str.strip, said.split(",")) if one and not one.casefold().startswith("at ")]
    named = name.strip() if colon else name.strip() or "Tune"
    return f"{named}: {', '.join((*kept, f'at {tempo:g}'))}"


def parse_tune(text: str, meter: Meter) -> Tune | None:
    """A tune as a teacher types it: "Mill Race: intro 8 bars, AABB 8, at 116"; None for anything else.

    Sections of other lengths follow with commas: "A 8, B 16"; a meter of its own: "in 6/8".
    """
    name, colon, said = text.partition(":")
    if not colon or not name.strip():
        return None
    sections: list[tuple[str, int]] = []
    intro, tempo, bar, count = 0, 0.0, 1, 0
    for entry in filter(None, (one.strip() for one in said.split(","))):
        match = _entry().fullmatch(entry)
        own = parse_meter(match["meter"]) if match is not None and match["meter"] else meter
        if match is None or own is None:
            return None
        meter, intro, tempo = own, int(match["intro"] or intro), float(match["tempo"] or tempo)
        if match["bar"] or match["count"]:
            bar, count = int(match["bar"] or 1), int(match["count"] or 0)
        sections += [(letter.upper(), int(match["bars"])) for letter in match["form"] or ""]
    made = tuple(Section(letter, Fraction(bars * meter.counts)) for letter, bars in sections if bars)
    if not made or (tempo and not SLOWEST <= tempo <= FASTEST):
        return None
    starts = count or (bar - 1) * meter.counts + 1
    return Tune(" ".join(name.split()), meter, made, tempo, intro=intro, starts=starts)


def tune_text(tune: Tune) -> str:
    """A tune as a teacher types it: whole bars, and sections by letters where they have longer names."""
    letters: dict[str, str] = {}
    for section in tune.sections:
        plain = len(section.name) == 1 and section.name.isalpha()
        letters.setdefault(section.name, section.name.upper() if plain else chr(ord("A") + len(letters) % 26))
    said = [f"intro {tune.intro} bars"] if tune.intro else []
    long = [(letters[s.name], max(1, round(s.counts / tune.meter.counts))) for s in tune.sections]
    for bars, sections in groupby(long, key=lambda one: one[1]):
        said.append(f"{''.join(letter for letter, _ in sections)} {bars}")
    said += [f"at {tune.tempo:g}"] if tune.tempo else []
    said += [f"begins on {tune.starts}"] if tune.starts > 1 else []
    name = re.sub(r"[:#,]", " ", tune.name)
    return f"{' '.join(name.split()) or 'Tune'}: {', '.join(said)}"
