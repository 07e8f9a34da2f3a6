"""One thing that there is to say of what is on the desk."""

from msgspec import Struct

from firn.core.reading.finding import MendText


class Note(Struct, frozen=True):
    """A finding or a problem of the script, worded, and where it stands: level bad, look, ok, or note (to think of).

    `sound` is an index in the stretch; `line`, `column`, `end` a place in the text. `mends` are labels with the
    mends themselves; `code` that of the finding, "problem" for one of the script; `meant`: what
    is worth a look, but meant so.
    """

    level: str
    text: str
    sound: int | None = None
    line: int | None = None
    column: int = 0
    end: int = 0
    mends: tuple[tuple[str, MendText], ...] = ()
    code: str = ""
    meant: bool = False
