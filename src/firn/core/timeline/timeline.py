"""The timeline: what is danced, counted and clicked when, one section after another, in exact seconds.

It lies between a piece and its sound. Player, renderer, ladders, the commands and the ear's targets read it; nothing
in it has been made to sound yet.
"""

from bisect import bisect_right
from collections.abc import Iterator, Sequence
from fractions import Fraction
from functools import cached_property
from itertools import pairwise
from typing import TYPE_CHECKING, Literal

from msgspec import Struct
from msgspec.structs import replace

from firn.core.meter.count_in import Said
from firn.core.meter.counting import Counting
from firn.core.meter.tempo import TempoPath
from firn.core.piece.sound import Sound
from firn.core.timeline.mixing import Mixing

if TYPE_CHECKING:
    # Seldom played: imported when it is.
    from firn.core.timeline.backing import Note

EventKind = Literal["sound", "count", "beat", "syllable", "pulse", "music"]

Placed = tuple[Fraction, str]
"""A position, and what is said there."""


class Event(Struct, frozen=True):
    """One thing that happens: `at_s` exact seconds from the timeline's beginning, `position` in its section's counts.

    `sound`: the index of a sound in its section, -1 for all else. `text`: the word of a count or syllable. `strong`:
    a beat on which a bar begins. `note`: what the backing plays.
    """

    kind: EventKind
    at_s: Fraction
    position: Fraction
    sound: int = -1
    text: str = ""
    strong: bool = False
    note: "Note | None" = None


class Section(Struct, frozen=True, dict=True):
    """A stretch that is danced, from one count to another, after its count-in and before its rest.

    `sounds`: those inside, a pick-up before `first` included. `syllables` are said, and the standing leg is heard at
    `pulse`. `sides`: for each pass of `sounds` whether it is on the other side; passes are as long as each other.
    `path`: the tempo along it; None for that of the mixing throughout. `name`: what it is called where it begins.
    """

    sounds: Sequence[Sound]
    counting: Counting
    first: Fraction
    end: Fraction
    mixing: Mixing = Mixing()
    syllables: Sequence[Placed] = ()
    pulse: Sequence[Fraction] = ()
    sides: tuple[bool, ...] = (False,)
    path: TempoPath | None = None
    name: str = ""

    @cached_property
    def tempo(self) -> TempoPath:
        """The tempo along the section."""
        return self.path or TempoPath.steady(self.mixing.tempo)

    @cached_property
    def begins(self) -> Fraction:
        """The position of what is danced first: of a pick-up, where there is one."""
        return min([s.position for s in self.sounds] + [self.first])

    @cached_property
    def led(self) -> list[Said]:
        """The count-in, and before it what is called, with a count of silence between."""
        led, call = self.mixing.count_in.said(self.begins, self.counting), self.mixing.call
        if not call or not led:
            return led
        first = min(place for place, _ in led) - len(call) - 1
        return [*((first + n, word) for n, word in enumerate(call)), *led]

    @cached_property
    def origin(self) -> Fraction:
        """The position on which the section begins, its count-in included."""
        return min([self.begins, *(place for place, _ in self.led)])

    @property
    def last(self) -> Fraction:
        """The position on which its rest ends."""
        return self.end + self.mixing.rest

    def seconds_at(self, position: Fraction) -> Fraction:
        """Exact seconds from the section's origin to a position."""
        return self.tempo.seconds(self.origin, position)

    @property
    def length_s(self) -> Fraction:
        """How long it lasts, count-in and rest included."""
        return self.seconds_at(self.last)

    def where(self, position: Fraction) -> tuple[Fraction, bool]:
        """The position in the first pass that one stands for, and whether it is danced on the other side there."""
        one = (self.end - self.first) / len(self.sides)
        number = min(max(0, int((position - self.first) // one)), len(self.sides) - 1) if one > 0 else 0
        return position - number * one, self.sides[number]

    def events(self) -> list[Event]:
        """All that happens, in order; where several things do at once, sounds first."""
        return sorted(self._all(), key=lambda e: e.at_s)

    def _all(self) -> Iterator[Event]:
        at, mixing = self.seconds_at, self.mixing
        if mixing.steps:
            for number, sound in enumerate(self.sounds):
                if not sound.silent:
                    yield Event("sound", at(sound.position), sound.position, number)
        inside = [Fraction(c) for c in range(int(-(-self.first // 1)), int(-(-self.end // 1)))]
        said = list(self.led) if mixing.counts or mixing.led_in else []
        said += [(place, self.counting.counted(place)) for place in inside] if mixing.counts else []
        for place, text in said:
            yield Event("count", at(place), place, text=text)
        for place in self._beats(inside):
            yield Event("beat", at(place), place, strong=self.counting.strong(place))
        if mixing.music and mixing.own is None:
            from firn.core.timeline.backing import backing

            for note in backing(self.counting, self.first, self.end):
                yield Event("music", at(note.position), note.position, note=note)
        for place, text in self.syllables:
            yield Event("syllable", at(place), place, text=text)
        for place in self.pulse:
            if place >= self.origin:
                yield Event("pulse", at(place), place)

    def _beats(self, inside: Sequence[Fraction]) -> list[Fraction]:
        if not self.mixing.beats:
            return [place for place, _ in self.led]
        rests = [Fraction(c) for c in range(int(-(-self.end // 1)), int(-(-self.end // 1)) + self.mixing.rest)]
        before = range(int(-(-self.origin // 1)), int(-(-self.first // 1))) if self.led else ()
        gap = self.mixing.gap
        danced = [place for place in inside if not gap or (place - self.first) // gap % 2 == 0]
        return [*(Fraction(c) for c in before if c < self.begins), *danced, *rests]


class Timeline(Struct, frozen=True, dict=True):
    """Sections one after another: each begins, with its count-in, as the rest of the one before it ends."""

    sections: tuple[Section, ...]

    @cached_property
    def starts_s(self) -> tuple[Fraction, ...]:
        """When each section begins, and when the last one ends, in exact seconds: one more than the sections."""
        starts = [Fraction(0)]
        for section in self.sections:
            starts.append(starts[-1] + section.length_s)
        return tuple(starts)

    @property
    def length_s(self) -> Fraction:
        """How long all of it lasts."""
        return self.starts_s[-1]

    def events(self) -> Iterator[tuple[int, Event]]:
        """All that happens, in order, each with the number of its section and its time in the whole."""
        for number, (section, (start, _)) in enumerate(zip(self.sections, pairwise(self.starts_s), strict=True)):
            for event in section.events():
                yield number, replace(event, at_s=start + event.at_s)

    def at(self, seconds: Fraction) -> tuple[int, Fraction]:
        """The section that is danced at a time, and the position in it; the last one's end after all is over."""
        if not self.sections:
            raise ValueError("an empty timeline has no places")
        number = min(max(0, bisect_right(self.starts_s, seconds) - 1), len(self.sections) - 1)
        section = self.sections[number]
        inside = min(max(Fraction(0), seconds - self.starts_s[number]), section.length_s)
        return number, section.tempo.place(section.origin, inside)
