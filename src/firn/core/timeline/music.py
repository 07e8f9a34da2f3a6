"""Music of one's own under what is danced: where its counts lie, and how it goes along with a tempo.

What is danced follows the music, its drift included: the counts are where the music has them. Slower than it is, all
of it is stretched by one ratio; faster it is not played.
"""

from fractions import Fraction

from msgspec.structs import replace

from firn.core.timeline.own_music import MusicError, OwnMusic
from firn.core.timeline.timeline import Section

NEAR = 0.015
"""So near its own tempo it is played as it is."""

SLOWEST = 0.4
"""The share of its tempo below which nothing of it is left to dance to."""


def speed_for(music: OwnMusic, tempo: float) -> float:
    """At which speed music goes at a tempo; raises MusicError where it cannot, with one sentence."""
    speed = tempo / music.tempo
    if abs(speed - 1) <= NEAR:
        return 1.0
    if speed > 1:
        raise MusicError(f"{music.name} goes at {music.tempo:.0f} counts a minute, and can only be made slower.")
    if speed < SLOWEST:
        raise MusicError(
            f"{music.name} goes at {music.tempo:.0f} counts a minute: at {tempo:g} nothing is left of it."
        )
    return speed


def laid(section: Section, music: OwnMusic) -> Section:
    """A section to music of one's own, the counts where it has them; raises MusicError where it cannot be."""
    speed = speed_for(music, section.mixing.tempo)
    if music.counts <= section.first:
        raise MusicError(f"{music.name} is over after count {max(0, int(music.counts))}.")
    return replace(section, path=music.path(speed), mixing=replace(section.mixing, music=True, own=music))


def heard_of(section: Section) -> tuple[float, float, float, Fraction] | None:
    """Which seconds of its own music a section plays, from and to, at which speed, and when they begin, in its
    seconds; None where it has none.

    It is heard through the count-in, where it has so much before its first count; a pick-up is danced before it.
    """
    music = section.mixing.own
    if music is None:
        return None
    speed = speed_for(music, section.mixing.tempo)
    begin = music.line.second(float(section.first))
    lead = 0.0 if section.begins < section.first else float(section.seconds_at(section.first)) * speed
    begin_s = max(0.0, begin - lead)
    end_s = min(music.seconds, music.line.second(float(section.last)))
    at = section.seconds_at(section.first) - Fraction((begin - begin_s) / speed)
    return begin_s, end_s, speed, at
