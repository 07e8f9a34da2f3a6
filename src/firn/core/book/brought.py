"""What students did at home, brought into a workbook as one edit."""

from typing import ClassVar

from msgspec import Struct
from msgspec.structs import replace

from firn.core.book.book import Book, Take
from firn.core.book.edits import EAR_KEPT, checked_entry
from firn.core.book.log import Answer, LogEntry


class BringBack(Struct, frozen=True):
    """Takes, what was danced, and what the ear answered; the log stays in its order of time."""

    label: ClassVar[str] = "Bring in what students did"
    undoable: ClassVar[bool] = True
    takes: tuple[Take, ...] = ()
    entries: tuple[LogEntry, ...] = ()
    answers: tuple[Answer, ...] = ()

    def apply(self, book: Book) -> Book:
        log = tuple(sorted((*book.log, *map(checked_entry, self.entries)), key=lambda e: e.when))
        ear = (*book.ear, *self.answers)[-EAR_KEPT:]
        return replace(book, takes=(*book.takes, *self.takes), log=log, ear=ear)
