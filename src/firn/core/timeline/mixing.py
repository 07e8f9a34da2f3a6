"""What is to be heard, before any of it is made: the layers of a mix."""

from typing import TYPE_CHECKING, Any

from msgspec import Struct

from firn.core.meter.count_in import CountIn

if TYPE_CHECKING:
    from firn.core.timeline.own_music import OwnMusic
else:
    # Only looked up by what reads the annotations: music of one's own is seldom there.
    OwnMusic = Any


class Mixing(Struct, frozen=True):
    """What is heard: tempo in counts a minute, the count-in, and which layers.

    `led_in`: the count-in is spoken and clicked whatever layers are heard after it. `gap`: beats are heard for so
    many counts, then not for as many; 0 for all of them. `music`: a backing plays to what is danced, or music of
    one's `own`. `call`: what is called before the count-in, a word a count.
    """

    tempo: float = 120.0
    count_in: CountIn = CountIn()
    steps: bool = True
    counts: bool = True
    beats: bool = True
    swapped: bool = False
    rest: int = 0
    led_in: bool = False
    gap: int = 0
    music: bool = False
    call: tuple[str, ...] = ()
    own: OwnMusic | None = None
