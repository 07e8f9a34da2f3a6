"""What a style asks for: which checks, which limits, which accents. Data, one sheet for each tradition."""

from collections.abc import Iterator, Mapping
from fractions import Fraction
from functools import cache
from pathlib import Path
from typing import Annotated, Literal, get_args

import msgspec
from msgspec import Meta, Struct

from firn.core.piece.piece import Part
from firn.core.piece.sound import Sound
from firn.core.reading.finding import Finding, MendText, Value
from firn.core.reading.syncopation import part_hangs
from firn.core.script.changes import Change
from firn.core.script.reader import lines_of

Accents = Literal["anywhere", "even", "odd", "closing"]
ACCENTS: dict[Accents, str] = {
    "anywhere": "anywhere", "even": "even counts", "odd": "odd counts", "closing": "closing stamp",
}  # fmt: skip
"""Where a style may lean, and how that is said."""

PulseAsked = Literal["", "down on the count", "up on the count", "down on the &", "up on the &"]
PULSES: tuple[PulseAsked, ...] = get_args(PulseAsked)

AIRBORNE = ("hop", "leap", "jump", "pickup")

Ms = Annotated[float, Meta(ge=20, le=2_000)]
Hanging = Annotated[float, Meta(ge=0, le=40)]


class Style(Struct, frozen=True, forbid_unknown_fields=True):
    """A style sheet.

    `airborne`: whether it leaves the floor; `accents`: where it leans; `equal`: all sounds equally loud; `pulse`:
    what the standing leg goes on doing, through holds too. `least_hanging`, `most_hanging`: how much may hang over in
    four counts (Longuet-Higgins & Lee), None for any. `same_foot_ms`, `any_ms`: the shortest gaps, `air_ms`: the
    longest time in the air. `off`: codes of findings that are not looked for.
    """

    airborne: bool = True
    accents: Accents = "anywhere"
    equal: bool = False
    pulse: PulseAsked = ""
    least_hanging: Hanging | None = None
    most_hanging: Hanging | None = None
    same_foot_ms: Ms = 200.0
    any_ms: Ms = 100.0
    air_ms: Ms = 300.0
    off: tuple[str, ...] = ()


class Asked(Struct, frozen=True):
    """What a part is checked against: its style, and the tempos at which it has been danced clean, by side.

    `typing`: it is being typed: what would take a reading of its own is left out.
    """

    style: Style = Style()
    clean: tuple[tuple[str, float], ...] = ()
    typing: bool = False


@cache
def shipped_styles() -> Mapping[str, Style]:
    """The sheets that Firn has, by tradition."""
    path = Path(__file__).with_name("styles.json")
    return msgspec.json.decode(path.read_bytes(), type=dict[str, Style])


def style_of(tradition: str, own: Mapping[str, Style] | None = None) -> Style:
    """The sheet of a tradition: a teacher's own, else Firn's."""
    return (own or {}).get(tradition) or shipped_styles().get(tradition) or Style()


def style_fault(style: Style) -> str:
    """What contradicts itself in a sheet, in one sentence; "" for nothing."""
    least, most = style.least_hanging, style.most_hanging
    if least is not None and most is not None and least > most:
        return f"At least {least:g} and at most {most:g} cannot both hang over: the least is above the most."
    if style.any_ms > style.same_foot_ms:
        return (
            f"Any two sounds {style.any_ms:g} ms apart and the same foot {style.same_foot_ms:g} ms: one foot cannot "
            "be allowed to be quicker than both."
        )
    if style.equal and style.accents != "anywhere":
        return "All equally loud and accents on some counts contradict each other."
    return ""


def findings(part: Part, style: Style) -> list[Finding]:
    """Where a part is not as its style asks."""
    return [*_air(part, style), *_accents(part, style), *_pulse(part, style), *_hanging(part, style)]


def _own(part: Part) -> Iterator[tuple[int, Sound]]:
    return ((i, s) for i, s in enumerate(part.sounds) if not s.layer)


def _told(part: Part, code: str, index: int, level: Literal["look", "ok"] = "look", **values: Value) -> Finding:
    sound = part.sounds[index]
    said = {"count": part.settings.counting.name(sound.place), "word": part.word(sound), **values}
    said["style"] = part.settings.tradition
    return Finding(code, level, part.name, sound.place, index, said)


def _air(part: Part, style: Style) -> Iterator[Finding]:
    """What leaves the floor where the style stays on it."""
    if style.airborne or part.seated:
        return
    leaving = [i for i, s in _own(part) if s.kind in AIRBORNE]
    if leaving:
        yield _told(part, "leaves_floor", leaving[0], many=len(leaving))


def _accents(part: Part, style: Style) -> Iterator[Finding]:
    """Accents elsewhere than the style has them; none where it has one; some where all is to be equally loud."""
    leaned = [(i, s) for i, s in _own(part) if s.level > 0]
    if style.equal:
        if leaned:
            yield _told(part, "not_equal", leaned[0][0], many=len(leaned))
        return
    if style.accents in ("even", "odd"):
        wanted = 0 if style.accents == "even" else 1
        counting = part.settings.counting
        off = [i for i, s in leaned if s.place.denominator != 1 or counting.number(s.place) % 2 != wanted]
        if off:
            yield _told(part, "accent_elsewhere", off[0], many=len(off), accents=ACCENTS[style.accents])
    elif style.accents == "closing":
        last = next((i for i, s in reversed(list(_own(part))) if s.heard and s.foot), None)
        if last is not None and part.sounds[last].level <= 0:
            # Not every part closes the dance.
            yield _told(part, "closing_soft", last, "ok")


def _pulse(part: Part, style: Style) -> Iterator[Finding]:
    """A pulse of the style that is not written where there is a hold for it to go through, or written otherwise."""
    if not style.pulse:
        return
    has = part.layers.pulse
    if has is None:
        held = next((i for i, s in _own(part) if s.kind == "hold"), None)
        if held is not None:
            lines = lines_of(part.script.text)
            end = len(lines[-1])
            change = Change(len(lines) - 1, end, end, f"\npulse: {style.pulse}")
            mend = MendText("write_pulse", {"pulse": style.pulse}, (change,))
            told = _told(part, "pulse_held", held, "ok", pulse=style.pulse)
            yield msgspec.structs.replace(told, mends=(mend,))
        return
    way, _, on = style.pulse.partition(" ")
    share = part.settings.counting.division("&", among=frozenset("&")) if on == "on the &" else Fraction(0)
    while has is not None and (has.way not in ("", way) or {p % 1 for p in has.places} != {share}):
        has = has.then
    if has is None:
        values = {"pulse": style.pulse, "style": part.settings.tradition}
        yield Finding("pulse_other", "look", part.name, values=values)


def _hanging(part: Part, style: Style) -> Iterator[Finding]:
    """More or less that hangs over than the style wants."""
    if part.counts <= 0 or not part.sounds:
        return
    score = sum(h.strength for h in part_hangs(part)) * 4 / part.counts
    values: dict[str, Value] = {"score": float(score), "style": part.settings.tradition}
    if style.least_hanging is not None and score < style.least_hanging:
        yield Finding("too_even", "look", part.name, values=values | {"wanted": style.least_hanging})
    if style.most_hanging is not None and score > style.most_hanging:
        yield Finding("too_syncopated", "look", part.name, values=values | {"wanted": style.most_hanging})
