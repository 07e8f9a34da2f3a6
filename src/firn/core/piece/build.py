"""From script to sounds: words laid out as the sounds of their cards, then footed."""

from collections.abc import Sequence
from fractions import Fraction
from functools import lru_cache
from typing import NamedTuple

from msgspec.structs import replace

from firn.core.footing.footing import Footing, foot
from firn.core.footing.state import Step
from firn.core.meter.counting import Counting
from firn.core.piece.built import laying, remember
from firn.core.piece.piece import Part, Piece
from firn.core.piece.sided import sided
from firn.core.piece.sound import Reason, Sound, in_order
from firn.core.same import same_start
from firn.core.script.combo_item import ComboItem
from firn.core.script.laid import Laid
from firn.core.script.piece_text import Script, read_script
from firn.core.script.places import Use
from firn.core.script.reader import PartScript, read_part
from firn.core.script.settings import Settings, counted_as
from firn.core.script.sung import SUNG
from firn.core.steps.card import Beat
from firn.core.steps.shelf import Shelf
from firn.core.steps.sides import ACROSS
from firn.core.task import give_way, giving_way

_NO_TURN = Fraction(0)

_MOVING = {"step", "flat", "heel_step", "leap", "jump", "land", "shift"}


def _reason(step: Step, side: str, before: str) -> Reason:
    """Why a sound is on its foot; `before`: the weight before it, "" at the beginning."""
    if not side:
        return ""
    if step.side:
        return "written"
    if before == "seat":
        return "card" if not step.first and step.role in ("A", "B") else ""
    if not step.first and step.role in ("A", "B"):
        return "card"
    if not before:
        return "lead"
    if before == "both":
        return "choice"
    return "carries" if side == before else "free"


def _leads(laid: Sequence[Laid], steps: Sequence[Step], feet: Sequence[str]) -> dict[int, str]:
    """The foot that is A in each word that says so."""
    found: dict[int, str] = {}
    for (_, u, _), step, side in zip(laid, steps, feet, strict=True):
        if side in ACROSS and step.role in ("A", "B"):
            found.setdefault(u, side if step.role == "A" else ACROSS[side])
    return found


def _hand(beat: Beat, use: Use, lead: str, handed: str) -> str:
    """Which hand: as the card ties it to the word's foot A, as the teacher said, as its layer is called.

    `lead`: the foot that is A in its word; `handed`: the hand that leads.
    """
    if beat.role in ("a", "b"):
        return (lead if beat.role == "a" else ACROSS.get(lead, "")) or "either"
    if beat.role in ("D", "N"):
        leading = use.side if use.side in ACROSS else handed
        return leading if beat.role == "D" else ACROSS[leading]
    layers = {"left hand": "left", "right hand": "right", "leading hand": handed, "other hand": ACROSS[handed]}
    return use.side or layers.get(use.layer, "") or ("both" if beat.kind.name == "clap" else "either")


class _Danced(NamedTuple):
    """What a sound is made of, beside its word: which beat of it, the foot, the weight before and after.

    `first`: the word's first sound on a foot; `lead`: the foot that is A in its word.
    """

    beat: int
    side: str
    weight: str
    before: str
    first: bool
    lead: str


_KEPT: dict[tuple[int, int, str, _Danced], tuple[Use, Counting, Sound]] = {}
"""Sounds as they were last made: a keystroke changes few, and what shows the others knows them by their identity."""

_MOST_KEPT = 60_000


def _sounds(
    script: PartScript,
    settings: Settings,
    laid: Sequence[Laid],
    steps: Sequence[Step],
    footing: Footing,
    known: tuple[Sound, ...] = (),
) -> tuple[Sound, ...]:
    """The sounds of a part; `known`: the first of them, which are all of their words."""
    counting = settings.counting
    sounds = list(known)
    before = next((s.weight for s in reversed(known) if s.foot), "")
    rest = slice(len(known), None)
    beats, feet, weights = laid[rest], footing.feet[rest], footing.weights[rest]
    leads = _leads(beats, steps[rest], feet)
    if len(_KEPT) > _MOST_KEPT:
        _KEPT.clear()
    for (_, u, b), step, side, weight in giving_way(zip(beats, steps[rest], feet, weights, strict=True)):
        use = script.uses[u]
        danced = _Danced(b, side, weight, before, step.first, leads.get(u, ""))
        key = id(use), id(counting), settings.handed, danced
        found = _KEPT.get(key)
        if found is None or found[0] is not use or found[1] is not counting:
            found = _KEPT[key] = use, counting, _sound(u, use, step, danced, counting, settings.handed)
        elif found[2].use != u:
            # Words came or went before it: of which word it is, is all that is new.
            found = _KEPT[key] = use, counting, replace(found[2], use=u)
        sounds.append(found[2])
        if side:
            before = weight
    return tuple(sounds)


def _sound(number: int, use: Use, step: Step, danced: _Danced, counting: Counting, handed: str) -> Sound:
    """One sound of a word, the part's so manyth."""
    place, beat = use.places[danced.beat], use.card.beats[danced.beat]
    weight, before, hands = danced.weight, danced.before, beat.kind.limb == "hands"
    moved = weight in ("left", "right") and weight != before and before != ""
    changes = weight != "seat" and (beat.kind.name in _MOVING or (beat.kind.name in ("heel", "toe") and moved))
    return Sound(
        place=place,
        position=counting.position(place),
        length=use.lengths[danced.beat],
        say=counting.say(place),
        kind=beat.kind.name,
        strikes=beat.kind.part,
        foot=danced.side,
        weight=weight,
        silent=beat.kind.silent,
        level=beat.level + use.word.level,
        optional=use.word.optional or beat.optional,
        as_one=beat.as_one or use.word.as_one,
        use=number,
        beat=danced.beat,
        changes_weight=changes,
        reason=_reason(step, danced.side, before),
        turn=use.word.turn if danced.beat == 0 else _NO_TURN,
        hand=_hand(beat, use, danced.lead, handed) if hands else "",
        layer=use.layer,
        voiced=use.voiced and hands,
        others=(*(k.name for k in beat.others), *(c.beats[danced.beat].kind.name for c in use.word.others)),
        syllable=use.word.text if use.card is SUNG else "",
    )


@lru_cache(maxsize=128)
def build_part(script: PartScript, settings: Settings, *, mends: bool = True) -> Part:
    """A part from its script: every sound in its place, on its foot."""
    settings = counted_as(settings, script.layers.meter, script.layers.phrase)
    uses = sided(script.uses, settings.lead)
    script = script if uses is script.uses else replace(script, uses=uses)
    one = laying(uses)
    steps, before = one.steps, one.before.part if one.before is not None else None
    footing = foot(steps, settings.lead, mends=mends and not script.layers.seated)
    if script.layers.seated:
        # The feet are those that would dance it standing; no foot carries, so nothing is wrong with any of them.
        seat = tuple("seat" for _ in footing.weights)
        footing = replace(footing, weights=seat, faults=(), free="either", again="either")
    known = one.known(_alike(before, settings, footing, one.beats)) if before is not None else ()
    sounds = _sounds(script, settings, one.laid, steps, footing, known)
    order = in_order(sounds, before.order if before is not None else None, len(known))
    give_way()
    part = Part(script.name, script, settings, sounds, steps, footing, order)
    remember(part, one)
    return part


def _alike(part: Part, settings: Settings, footing: Footing, beats: int) -> int:
    """How many of a part's first beats are danced alike, counted alike and by the same hand."""
    one = part.settings
    if one.counting is not settings.counting or one.handed != settings.handed:
        return 0
    feet, weights = part.footing.feet[:beats], part.footing.weights[:beats]
    return min(same_start(feet, footing.feet), same_start(weights, footing.weights))


def part_from(name: str, text: str, settings: Settings, shelf: Shelf | None = None) -> Part:
    """A part from its text alone."""
    return build_part(read_part(name, text, settings, shelf), settings)


def between_parts(combo: Sequence[ComboItem], settings: Settings, shelf: Shelf | None = None) -> tuple[Part, ...]:
    """What a combo has danced between its parts, each as a part that is called as it is said."""
    said = dict.fromkeys(item.part for item in combo if item.between.strip())
    return tuple(_between(name, settings, shelf) for name in said)


@lru_cache(maxsize=64)
def _between(name: str, settings: Settings, shelf: Shelf | None) -> Part:
    return part_from(name, name[1:-1], settings, shelf)


def build(script: Script, *, mends: bool = True) -> Piece:
    """A piece from its script."""
    parts = tuple(build_part(p, script.settings, mends=mends) for p in script.parts)
    lines = script.combo_line, script.meant, script.part_lines
    shelf = parts[0].script.shelf if parts else None
    between = between_parts(script.combo, script.settings, shelf)
    return Piece(script.settings, parts, script.combo, script.problems, *lines, between=between)


def piece_from(text: str, shelf: Shelf | None = None) -> Piece:
    """A piece from its text; never raises for any text."""
    return build(read_script(text, shelf))
