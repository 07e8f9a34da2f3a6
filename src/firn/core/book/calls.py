"""A part's name in its teacher's own voice, called where the part comes next."""

from msgspec import Struct


class Call(Struct, frozen=True):
    """How a part of a piece, or `COMBO`, is called: `audio` is the hash of its samples, at `rate` a second, `frames`
    of them."""

    id: str
    piece: str
    part: str
    audio: str
    rate: int
    frames: int

    @property
    def seconds(self) -> float:
        return self.frames / self.rate
