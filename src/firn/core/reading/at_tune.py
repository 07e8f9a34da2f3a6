"""The parts of a combo at the tempo of the tune that it is danced to, where that is not the piece's own."""

from collections.abc import Iterator

from msgspec.structs import replace

from firn.core.piece.piece import Part, Piece
from firn.core.piece.unfold import Unfolded
from firn.core.reading.finding import Finding, Value
from firn.core.reading.tempo import by_cards, closest

BETWEEN = 2
"""So many times the shortest gap that is heard as two lies between sounds that leave room for one more."""


def at_tune(piece: Piece, whole: Unfolded) -> list[Finding]:
    """What is not danced as slow, or as fast, as the tune is played; where two sounds come too close, so that one
    must go; and, to a slower tune, what has room for one more sound between any two.

    Nothing where the tune says no tempo, or the piece's own: then each part says it by itself.
    """
    tune = piece.settings.tune
    if tune is None or not tune.tempo or tune.tempo == piece.settings.tempo:
        return []
    parts = {one.part.name: one.part for one in whole.passes if one.part.sounds}
    said: dict[str, Value] = {"tune": tune.name, "tempo": tune.tempo}
    found = [
        Finding(code, "look", "combo", values={**said, "part": name, **values})
        for name, part in parts.items()
        for code, values in _past(part, tune.tempo)
    ]
    slower = tune.tempo < piece.settings.tempo
    # What cannot be danced so slowly has nothing put into it.
    past = {finding.values["part"] for finding in found}
    room = [name for name, part in parts.items() if slower and name not in past and _has_room(part, tune.tempo)]
    if room:
        found.append(Finding("tune_room", "ok", "combo", values={**said, "parts": ", ".join(room)}))
    return found


def _past(part: Part, tempo: float) -> Iterator[tuple[str, dict[str, Value]]]:
    """What a tempo is past in a part: the code of each finding, with its values."""
    at = replace(part, settings=replace(part.settings, tempo=tempo))
    for one in by_cards(at, fast=True)[0]:
        yield f"tune_{one.code}", {"word": one.values["word"], "limit": one.values["limit"]}
    close = closest(part)
    if close is not None and close.exceeded(tempo):
        first, second = (part.settings.counting.name(part.sounds[n].place) for n in (close.first, close.second))
        yield "tune_too_close", {"first": first, "second": second, "ms": close.ms(tempo)}


def _has_room(part: Part, tempo: float) -> bool:
    """Whether one more sound between any two would still be heard as one of its own."""
    close = closest(part)
    return close is not None and close.ms(tempo) >= BETWEEN * close.bound_ms
