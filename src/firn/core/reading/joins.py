"""The joins of a combo: does every pass begin on a foot that is free, and how long is it all."""

from firn.core.piece.piece import Piece
from firn.core.piece.unfold import Unfolded
from firn.core.reading.finding import Finding


def joins(piece: Piece, unfolded: Unfolded) -> list[Finding]:
    """A finding for each pass that cannot follow the one before it, and one for the whole."""
    counting = piece.settings.counting
    found = []
    for number, now in enumerate(unfolded.passes):
        if now.danceable or (number == 0 and now.part.footing.faults):
            continue
        if now.part.footing.faults:
            continue
        before = unfolded.passes[number - 1] if number else None
        values = {
            "part": now.part.name,
            "time": str(now.time + 1),
            "needed": now.needed,
            "free": now.free,
            "before": before.part.name if before else "",
        }
        place = now.offset + now.part.first_count
        found.append(Finding("join", "bad", "combo", place, values=values))
    if unfolded.passes:
        counts, phrase = unfolded.counts, counting.phrase
        values = {"counts": str(counts), "phrase": str(phrase), "free": unfolded.free}
        if counts % phrase:
            values["by"] = str(min(counts % phrase, phrase - counts % phrase))
            found.append(Finding("combo_off_phrase", "look", "combo", values=values))
        else:
            values["phrases"] = str(counts // phrase)
            found.append(Finding("combo_fills", "ok", "combo", values=values))
    return found
