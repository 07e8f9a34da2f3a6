"""A workbook being worked on: edits committed as they are made, undone and done again. No window here."""

import itertools
import shutil
from collections.abc import Callable
from pathlib import Path

from msgspec.structs import replace

from firn.core.book.book import Book, new_piece, piece_of_script
from firn.core.book.edits import AddPiece, Edit
from firn.core.book.students import OWNER
from firn.core.steps.shelf import shipped
from firn.errors import StoreError
from firn.files.schema import AS_SAID
from firn.files.steps_file import read_steps
from firn.files.store import Store, new_store, open_store
from firn.files.whole import is_there
from firn.session.fresh import new_id
from firn.session.history import History


class Session:
    """One open workbook.

    `do` computes the new workbook, commits the difference, then tells its listeners. If the commit fails, the
    edit stays in memory and `unsaved` says why. `changed`: whether anything was edited in this session.
    `scratch`: the folder of a workbook that is not to be kept, which goes when it is closed; None for any other.
    """

    def __init__(self, store: Store, book: Book) -> None:
        self.store = store
        self.history = History()
        self.unsaved = store.why_read_only and f"{store.path.name} is open to read only: {store.why_read_only}"
        self.changed = False
        self.scratch: Path | None = None
        self._book = book
        self._said: tuple[str, ...] = ()
        self._listeners: list[Callable[[], None]] = []

    @classmethod
    def open(cls, path: Path) -> "Session":
        """Open a workbook; an empty file gets an empty piece. Raises FirnError with one sentence."""
        store = open_store(path)
        session = cls(store, store.load())
        if store.was_empty:
            session._publish(AddPiece(new_piece(new_id(), new_id(), "Untitled")).apply(Book()))
        if store.version < AS_SAID and not store.read_only:
            session._keep_meaning()
        return session

    def _keep_meaning(self) -> None:
        """Have lines of an older workbook mean what they meant."""
        from firn.session.older import kept_meaning

        edit, said = kept_meaning(self._book)
        if edit is not None:
            self.do(edit)
        self._said = (said,) if said else ()

    @classmethod
    def new(cls, path: Path, book: Book | None = None) -> "Session":
        """A new workbook with one empty piece, or with `book` in it."""
        if book is None:
            book = AddPiece(new_piece(new_id(), new_id(), "Untitled")).apply(Book())
        store = new_store(path, book)
        return cls(store, store.load())

    @property
    def book(self) -> Book:
        return self._book

    @property
    def path(self) -> Path:
        return self.store.path

    @property
    def told(self) -> tuple[str, ...]:
        """What is to be said of the file, a sentence each."""
        return (*self.store.told, *self._said)

    def listen(self, listener: Callable[[], None]) -> None:
        """Have `listener` called after every change."""
        self._listeners.append(listener)

    def do(self, edit: Edit) -> None:
        """Make an edit. Raises FirnError, and changes nothing, if the edit cannot be made."""
        before = self._book
        after = edit.apply(before)
        if after == before:
            return
        if edit.undoable:
            self.history.record(edit, before, after)
            self.changed = True
        self._publish(after)

    def undo(self) -> bool:
        """Undo the last edit; False if there is none."""
        return self._go(self.history.undo())

    def redo(self) -> bool:
        """Do the last undone edit again; False if there is none."""
        return self._go(self.history.redo())

    def _go(self, book: Book | None) -> bool:
        if book is None:
            return False
        # What the ear has answered is a record, not an edit, as is who practises: they outlive undo.
        now, then = ({OWNER, *(s.id for s in b.students)} for b in (self._book, book))
        back = [a for a in book.ear if a.student not in now]
        kept = [a for a in self._book.ear if a.student in then]
        self._publish(replace(book, ear=(*back, *kept), who=self._book.who if self._book.who in then else OWNER))
        return True

    def _publish(self, book: Book) -> None:
        try:
            self.store.commit(book)
            self.unsaved = ""
        except StoreError as fault:
            self.unsaved = str(fault)
        self._book = book
        for listener in list(self._listeners):
            listener()

    def save_copy(self, path: Path) -> None:
        """Write all that is in memory to another file; raises StoreError."""
        self.store.save_copy(path, self._book)

    def close(self) -> None:
        """Close the file; what could not be saved is lost unless a copy was made."""
        self.store.close()
        if self.scratch is not None:
            shutil.rmtree(self.scratch, ignore_errors=True)


def session_of_steps(path: Path, folder: Path) -> Session:
    """A new workbook in a folder, named as a .steps text and with its piece in it; raises FirnError."""
    # A drill's text needs what makes drills, which needs a session.
    from firn.session.drill_text import drills_of_script, stages_left_out

    text = read_steps(path)
    piece = piece_of_script(text, [new_id() for _ in range(text.count("\n") + 3)])
    drills, faults = drills_of_script(text, piece, shipped())
    book = AddPiece(piece, drills).apply(Book())
    names = (folder / f"{path.stem}{'' if n == 1 else f' {n}'}.firn" for n in itertools.count(1))
    session = Session.new(next(p for p in names if not is_there(p)), book)
    session._said = (stages_left_out(faults),) if faults else ()
    return session
