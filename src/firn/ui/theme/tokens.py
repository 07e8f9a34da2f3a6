"""Colours by role, in daylight and with the lamp out."""

from msgspec import Struct


class Tokens(Struct, frozen=True):
    """The colours of one look, #rrggbb.

    `left` and `right` are the feet, always with lane, shape and letter beside them; `next` is for what is to be
    done next, `chosen` for what is selected and for mends, `look` for "look at this", `bad` for "cannot be danced".
    """

    paper: str
    band: str
    ink: str
    quiet: str
    hairline: str
    thread: str
    left: str
    right: str
    next: str
    on_next: str
    chosen: str
    chosen_wash: str
    look: str
    bad: str


LAMP_ON = Tokens(
    paper="#FCFDFE", band="#E8EDF1", ink="#14222D", quiet="#4B5B66", hairline="#D3DCE2", thread="#7A8C98",
    left="#4C6A10", right="#7B2A86", next="#14222D", on_next="#FCFDFE", chosen="#1A6FA0", chosen_wash="#DCEDF7",
    look="#8A5A00", bad="#B0122B",
)  # fmt: skip

LAMP_OUT = Tokens(
    paper="#10181F", band="#1A252E", ink="#E9F0F4", quiet="#A9B9C3", hairline="#2C3B46", thread="#74889A",
    left="#B9D84E", right="#C77BD6", next="#E9F0F4", on_next="#10181F", chosen="#66B9E8", chosen_wash="#173447",
    look="#E3AE4A", bad="#FF7F8E",
)  # fmt: skip
