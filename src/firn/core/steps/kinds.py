"""The sounds that steps are made of: what strikes the floor, and how."""

from typing import Literal

from msgspec import Struct

FootPart = Literal["ball", "heel", "tip", "whole", "sole", "none"]


class Kind(Struct, frozen=True, omit_defaults=True):
    """A sound's kind: the part of the foot that strikes, whether it is heard, and how loud it is by nature.

    `level` is in steps of the ear: 0 as usual, 1 leaned on, -1 light.
    """

    name: str
    part: FootPart
    silent: bool = False
    limb: Literal["foot", "hands", "none"] = "foot"
    level: int = 0


def _kinds() -> dict[str, Kind]:
    heard: list[tuple[str, FootPart]] = [
        ("step", "ball"), ("flat", "whole"), ("heel_step", "heel"), ("touch", "ball"), ("stomp", "whole"),
        ("toe_tip", "tip"), ("dig", "heel"), ("brush", "ball"), ("spank", "ball"), ("scuff", "heel"),
        ("heel", "heel"), ("toe", "ball"), ("hop", "ball"), ("leap", "ball"), ("jump", "ball"),
        ("pickup", "ball"), ("land", "ball"), ("chug", "heel"), ("slide", "sole"),
    ]  # fmt: skip
    table = {name: Kind(name, part) for name, part in heard}
    table["click"] = Kind("click", "heel", limb="none")
    for name in ("clap", "snap", "pat", "drum"):
        table[name] = Kind(name, "none", limb="hands")
    table["hand_down"] = Kind("hand_down", "none", silent=True, limb="hands")
    for name in ("kick", "flick", "lift", "point", "sweep"):
        table[name] = Kind(name, "none", silent=True)
    table["shift"] = Kind("shift", "none", silent=True)
    for name in ("hold", "swivel", "turn", "pivot", "squat"):
        table[name] = Kind(name, "none", silent=True, limb="none")
    return table


def kind_said(kind: str) -> str:
    """A kind of sound as dancers say it."""
    return "stamp" if kind == "flat" else kind.replace("_", " ")


WITHOUT_WEIGHT = {"step": "touch", "leap": "touch", "flat": "stomp", "heel_step": "dig"}
WITH_WEIGHT = {"touch": "step", "stomp": "flat", "dig": "heel_step"}
"""What a sound becomes without weight, or with it: the part of the foot that strikes stays."""

KINDS = _kinds()
"""Every kind by name; "pat" is a flat hand on the body, "drum" one on a drum or table, "land" is the
second half of a pickup, "shift" a silent change of weight."""

SUNG = Kind("sung", "none", limb="hands")
"""What a syllable is before it has a step: said, as what hands do may be, and no sound of any card."""
