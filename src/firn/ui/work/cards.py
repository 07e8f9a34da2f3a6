"""A teacher's own cards: read, read again, kept in another folder."""

from collections.abc import Callable
from pathlib import Path

from firn.errors import FirnError
from firn.files.cards import OwnCards, read_cards, write_example
from firn.ui.work.context import Context, Handlers


class Cards:
    """The own cards of the desk; `keep` is told where they are once that changes."""

    def __init__(self, context: Context, folder: Path, own: OwnCards, keep: Callable[[Path], None]) -> None:
        self._context, self._keep = context, keep
        self.folder, self.own = folder, own

    def handlers(self) -> Handlers:
        return {"cards": self.ask}

    def tell(self) -> None:
        """Say what could not be read."""
        faults = self.own.faults
        if faults:
            more = f" {len(faults) - 1} more: see Piece, Cards of your own." if len(faults) > 1 else ""
            self._context.say(faults[0] + more)

    def ask(self) -> None:
        """Show the folder, and read it again or another."""
        from firn.ui.dialogs.cards import CardsDialog

        window, prompts = self._context.window, self._context.prompts
        dialog = CardsDialog(
            self.folder,
            self.own,
            read=self._read,
            browse=lambda: prompts.folder(window, "Cards of your own"),
            make=self._make,
            parent=window,
        )
        prompts.run(dialog)

    def _read(self, folder: Path) -> OwnCards:
        own = read_cards(folder)
        if folder != self.folder:
            self._keep(folder)
        self.folder, self.own = folder, own
        self._context.desk.use_shelf(own.shelf)
        return own

    def _make(self, folder: Path) -> None:
        try:
            write_example(folder)
        except FirnError as fault:
            self._context.say(str(fault))
