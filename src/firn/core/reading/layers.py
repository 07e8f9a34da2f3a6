"""Whether the layers of a part go with its steps: syllables for sounds, cues and hands within its counts."""

from collections.abc import Iterator

from firn.core.piece.piece import Part, scat_lines
from firn.core.reading.finding import Finding, Value
from firn.core.task import giving_way


def findings(part: Part) -> list[Finding]:
    """What does not go together: syllables and sounds, what lies past the end, a hand that is in two places."""
    return [*_syllables(part), *_sung(part), *_outside(part), *_twice(part), *_hand_and_leg(part)]


_SWINGS = ("kick", "sweep", "flick", "swivel")


def _hand_and_leg(part: Part) -> Iterator[Finding]:
    """A leg that swings on the side of the hand that is down: the floor is in its way."""
    down = {s.place: s.hand for s in part.sounds if s.kind == "hand_down" and s.hand in ("left", "right")}
    for index, sound in enumerate(part.sounds):
        if sound.kind in _SWINGS and down.get(sound.place) == sound.foot:
            values = {"count": part.settings.counting.name(sound.place), "side": sound.foot}
            yield Finding("hand_and_leg", "look", part.name, sound.place, index, values)
            return


def _syllables(part: Part) -> Iterator[Finding]:
    for line in scat_lines(part):
        if line.syllables and len(line.syllables) != len(line.sounds):
            index = line.sounds[0] if line.sounds else None
            values = {"syllables": len(line.syllables), "sounds": len(line.sounds)}
            place = part.sounds[index].place if index is not None else None
            yield Finding("syllables", "look", part.name, place, index, values)


def _sung(part: Part) -> Iterator[Finding]:
    """The first count on which a rhythm that is sung beside steps and these are not alike."""
    sung = {s.place: i for i, s in enumerate(part.sounds) if s.syllable and s.layer}
    if not sung:
        return
    struck = {s.place: i for i, s in enumerate(giving_way(part.sounds)) if s.heard and not s.layer}
    apart = sorted(sung.keys() ^ struck.keys())
    if apart:
        place = apart[0]
        said = "is sung and not danced" if place in sung else "is danced and not sung"
        index = sung.get(place, struck.get(place))
        values: dict[str, Value] = {"count": part.settings.counting.name(place), "said": said, "places": len(apart)}
        yield Finding("sung", "look", part.name, place, index, values)


def _outside(part: Part) -> Iterator[Finding]:
    if not part.counts:
        return
    end, counting = part.last_count + 1, part.settings.counting
    for cue in part.layers.cues:
        if cue.place >= end or (cue.place < part.sounds[0].place and cue.place < part.first_count):
            values = {"what": cue.text, "layer": cue.layer, "count": counting.name(cue.place)}
            yield Finding("cue_outside", "look", part.name, cue.place, values=values)
    for index, sound in enumerate(part.sounds):
        # What is sung where no step is danced any more is told with all that is sung and not danced.
        if sound.layer and not sound.syllable and sound.place >= end:
            values = {"what": part.word(sound), "layer": sound.layer, "count": counting.name(sound.place)}
            yield Finding("cue_outside", "look", part.name, sound.place, index, values)
            return


def _twice(part: Part) -> Iterator[Finding]:
    """The first moment at which one hand is to do two things."""
    hands = [(i, s) for i, s in enumerate(part.sounds) if s.hand and not s.voiced]
    taken: dict[object, int] = {}
    for index, sound in hands:
        for hand in ("left", "right") if sound.hand == "both" else (sound.hand,):
            if hand != "either" and taken.setdefault((sound.place, hand), index) != index:
                count = part.settings.counting.name(sound.place)
                yield Finding("hand_twice", "look", part.name, sound.place, index, {"hand": hand, "count": count})
                return
