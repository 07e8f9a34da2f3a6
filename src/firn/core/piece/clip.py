"""Several sounds at once: copied, cut, pasted, joined into a word that means them; a word split into its sounds."""

import contextlib
from collections.abc import Iterable, Sequence
from fractions import Fraction

from msgspec.structs import replace

from firn.core.piece.build import build_part, part_from
from firn.core.piece.by_hand import Drawn, HandError, footed, keyed, singles_of, text_of
from firn.core.piece.piece import Part
from firn.core.piece.sound import Sound
from firn.core.script.items import Word
from firn.core.script.layers import NONE
from firn.core.script.places import Use, usual_places
from firn.core.script.writer import in_writing_order, write_part
from firn.core.steps.card import Card


def copied(part: Part, picked: Iterable[int]) -> str:
    """Some sounds as text, each on the count that it is danced on; words that are cut through as single sounds."""
    _, taken = _parted(part, picked)
    if not taken:
        raise HandError("There is no sound to copy.")
    return _text(part, taken)


def cut(part: Part, picked: Iterable[int]) -> Drawn:
    """Without some sounds; holds stand on the whole counts that become empty."""
    kept, taken = _parted(part, picked)
    if not taken:
        raise HandError("There is no sound to take away.")
    return _drawn(part, [*kept, *_holds(part, kept, taken)], min(u.places[0] for u in taken))


def pasted(part: Part, at: Fraction, text: str) -> Drawn:
    """The steps of a text from the count of `at` on, in place of what is danced there."""
    made = part_from("copied", text, part.settings, part.script.shelf)
    if made.problems:
        raise HandError(f"What was copied is no steps: {made.problems[0].message}")
    if not made.uses:
        raise HandError("What was copied is no steps.")
    shift = Fraction(at // 1 - min(u.places[0] for u in made.uses) // 1)
    new = [replace(u, places=tuple(p + shift for p in u.places), copy=0) for u in made.uses]
    first, last = min(u.places[0] for u in new), max(u.last for u in new)
    layers = {u.layer for u in new}
    over = [i for i, s in enumerate(part.sounds) if s.layer in layers and _meets(s, first, last)]
    kept, gone = _parted(part, over)
    old = {u.layer: u.line for u in reversed(gone)}
    placed = [replace(u, line=old.get(u.layer, _line_for(kept, u))) for u in new]
    return _drawn(part, [*kept, *placed], first, freed=last)


def joined(part: Part, picked: Iterable[int]) -> Drawn:
    """Some sounds as the one word that means them, on the same feet."""
    chosen = sorted(set(picked))
    kept, taken = _parted(part, chosen)
    sounds = [part.sounds[i] for i in chosen]
    if len(sounds) < 2 or len({u.layer for u in taken}) > 1:
        raise HandError("Pick two sounds or more to join them.")
    if any(sounds[0].place <= p <= sounds[-1].place for u in kept if u.layer == taken[0].layer for p in u.places):
        raise HandError("There is another sound between them.")
    for card in _cards_for(part, sounds):
        word = replace(taken[0].word, card=card, text=card.name, level=0, times=1, joined=())
        use = replace(
            taken[0], card=card, word=word, places=tuple(s.place for s in sounds),
            lengths=tuple(s.length for s in sounds), copy=0,
        )  # fmt: skip
        uses = in_writing_order([*kept, use])
        for side in ("", sounds[0].foot):
            tried = [replace(u, side=side) if u is use else u for u in uses]
            if _danced(part, tried) == _danced(part, part.uses):
                return _drawn(part, tried, sounds[0].place, whole=True)
    raise HandError("No step is called so: make one of them with Ctrl+M.")


def split(part: Part, index: int) -> Drawn:
    """A word as its single sounds."""
    use = part.uses[part.sounds[index].use]
    if len(use.card.beats) == 1:
        raise HandError(f"{use.card.name.capitalize()} is one sound already.")
    kept = [u for u in part.uses if u is not use]
    return _drawn(part, [*kept, *singles_of(part, use)], part.sounds[index].place, whole=True)


def _meets(sound: Sound, first: Fraction, last: Fraction) -> bool:
    """Whether a sound, or the hold that it is, lies in a stretch."""
    return sound.place <= last and max(sound.place, sound.place + sound.length - 1) >= first


def _parted(part: Part, picked: Iterable[int]) -> tuple[list[Use], list[Use]]:
    """The words that stay and those that are picked; one that is cut through as single sounds."""
    chosen = {(part.sounds[i].use, part.sounds[i].beat) for i in picked}
    kept: list[Use] = []
    taken: list[Use] = []
    for number, use in enumerate(part.uses):
        beats = [(number, b) in chosen for b in range(len(use.card.beats))]
        if all(beats) or not any(beats):
            (taken if all(beats) else kept).append(use)
            continue
        for single, wanted in zip(singles_of(part, use), beats, strict=True):
            (taken if wanted else kept).append(single)
    return kept, taken


def _holds(part: Part, kept: Sequence[Use], taken: Sequence[Use]) -> list[Use]:
    """A hold for each whole count of the steps that nothing is left on."""
    card = part.script.shelf.plain.find("hold", part.settings.tradition)
    assert card is not None
    full = {p for u in kept if not u.layer for p in u.places}
    word = Word("hold", card, 0, 0)
    return [
        Use(card, word, use.line, (place,), (max(Fraction(1), length),))
        for use in taken
        if not use.layer
        for place, length in zip(use.places, use.lengths, strict=True)
        if place.denominator == 1 and place not in full
    ]


def _line_for(kept: Sequence[Use], use: Use) -> int:
    """The line on which a new word is written: that of the word before it in its layer, else the first."""
    own = [u for u in kept if u.layer == use.layer and u.voiced == use.voiced]
    before = [u for u in own if u.places[0] < use.places[0]]
    if own:
        return sorted(before, key=lambda u: u.places[0])[-1].line if before else own[0].line
    return 0


def _cards_for(part: Part, sounds: Sequence[Sound]) -> list[Card]:
    """Cards with these kinds of sounds, as loud: those in their usual rhythm first, then those of the tradition."""
    shelf, tradition, counting = part.script.shelf.plain, part.settings.tradition, part.settings.counting
    said = [(s.kind, s.level) for s in sounds]
    places = [s.place - sounds[0].place for s in sounds]

    def rank(card: Card) -> tuple[bool, bool, bool]:
        usual, _ = usual_places(card, counting, tradition)
        rhythm = [p - usual[0] for p in usual] == places
        return not rhythm, tradition not in card.traditions, shelf.find(card.name, tradition) is not card

    fitting = [c for c in shelf.cards if [(b.kind.name, b.level) for b in c.beats] == said and not c.retired]
    return sorted((c for c in fitting if shelf.find(c.name, tradition) is c), key=rank)


def _danced(part: Part, uses: Sequence[Use]) -> list[tuple[Fraction, str, str, str]]:
    made = build_part(replace(part.script, uses=tuple(uses)), part.settings, mends=False)
    return [(s.place, s.kind, s.foot, s.weight) for s in made.sounds]


def _text(part: Part, uses: Sequence[Use]) -> str:
    plain = [replace(u, line=0, copy=0) for u in in_writing_order(uses)]
    # Out of its part a pick-up may lead up to nothing: then it is said a phrase later.
    for later in (0, part.settings.counting.phrase):
        moved = (replace(u, places=tuple(p + later for p in u.places)) for u in plain)
        with contextlib.suppress(ValueError):
            return write_part(replace(part.script, uses=tuple(moved), layers=NONE), part.settings)
    raise HandError("No text says that: some counts would have no name.")


def _drawn(
    part: Part, uses: Sequence[Use], first: Fraction, *, freed: Fraction | None = None, whole: bool = False
) -> Drawn:
    """The text of other words from a place on, and the sound that is stood on then.

    Feet before `first` stay, and with `whole` all of them; the others follow the weight.
    """
    ordered = in_writing_order(uses)
    wanted = {key: s.foot for key, s in keyed(part.sounds) if s.foot and (whole or s.place < first)}
    text = text_of(part, footed(part, ordered, wanted))
    made = part_from(part.name, text, part.settings, part.script.shelf)
    last = freed if freed is not None else first
    at = [i for i, s in enumerate(made.sounds) if first <= s.place <= last]
    return Drawn(text, at[0] if at else None, at[-1] if at and freed is not None else None)
