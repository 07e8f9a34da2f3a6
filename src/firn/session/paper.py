"""What stands on paper for a part or a combo: its heading, its strip, the words as said, and what is worth a look."""

from msgspec import Struct

from firn.core.meter.count_in import CountIn
from firn.core.script.reader import lines_of
from firn.core.script.settings import Settings
from firn.session.desk import Note
from firn.session.stretch import Stretch
from firn.session.transport import count_in_text
from firn.session.view import PLAIN, View, seen

LEGEND = (
    "Time runs left to right; L above, R below. What is filled strikes the floor: ball, heel, tip or the whole foot. "
    "The thread is where the weight is. Lines under a sole: brushed forward; above: back. A bar: leaned on."
)


class Paper(Struct, frozen=True):
    """A sheet in words and sounds: `title`, `counted` (how it counts), the stretch, the script's lines, the notes."""

    title: str
    counted: str
    stretch: Stretch
    said: tuple[str, ...]
    notes: tuple[Note, ...]
    view: View = PLAIN


def paper(
    settings: Settings, title: str, stretch: Stretch, script: str, notes: tuple[Note, ...], view: View = PLAIN
) -> Paper:
    """The sheet of a part or combo, as a view shows it."""
    counting = settings.counting
    begins = min([s.position for s in stretch.sounds] + [stretch.first])
    led = settings.count_in if settings.count_in.pattern != "none" else CountIn()
    lone = {"triplet": "the last triplet", "sixteenth": "the last sixteenth"}[counting.lone_a]
    counted = (
        f"{settings.meter}, {settings.feel}, a lone a on {lone}; {settings.tempo:g} counts a minute; "
        f"counted in {count_in_text(led.said(begins, counting))}; {settings.lead} foot first"
    )
    said = tuple(line.rstrip() for line in lines_of(script) if line.strip())
    return Paper(f"{settings.name}, {title}", counted, seen(stretch, view), said, notes, view)
