"""A teacher's own cards: read, read again, kept in another folder."""

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

from firn.core.steps.card import Card
from firn.errors import FirnError
from firn.files.cards import OwnCards, bring_in_cards, read_cards, save_card, write_example
from firn.files.formats import CARDS
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
            read=self.read,
            browse=lambda: prompts.folder(window, "Cards of your own"),
            make=self._make,
            parent=window,
        )
        prompts.run(dialog)

    def read(self, folder: Path) -> OwnCards:
        """Read the cards of a folder, hers from now on."""
        own = read_cards(folder)
        if folder != self.folder:
            self._keep(folder)
        self.folder, self.own = folder, own
        self._context.desk.use_shelf(own.shelf)
        return own

    def save(self, table: dict[str, Any], was: str = "") -> None:
        """Keep a card of her own, in place of the one named `was`; raises FileFormatError."""
        save_card(self.folder, table, was)
        self.read(self.folder)

    def bring_in(self) -> None:
        """Ask for a file of cards and bring all of it in."""
        file = self._context.prompts.open_file(self._context.window, "Bring in cards", CARDS.offered)
        if file is not None:
            self.bring_in_file(file)

    def bring_in_file(self, file: Path) -> None:
        """Bring all of a file of cards in; says why where it cannot be."""
        try:
            many = bring_in_cards(self.folder, file)
        except FirnError as fault:
            self._context.say(str(fault))
            return
        self.read(self.folder)
        self._context.say("1 card is yours now." if many == 1 else f"{many} cards are yours now.")

    def write_out(self, cards: Sequence[Card]) -> None:
        """Ask for a file and write cards into it."""
        name = f"{cards[0].name if len(cards) == 1 else 'cards'}{CARDS.ending}"
        file = self._context.prompts.save_file(self._context.window, "Write cards out", CARDS.offered, name)
        if file is None:
            return
        from firn.core.library.make import table_of

        try:
            CARDS.write(file, [table_of(c) for c in cards])
        except FirnError as fault:
            self._context.say(str(fault))

    def _make(self, folder: Path) -> None:
        try:
            write_example(folder)
        except FirnError as fault:
            self._context.say(str(fault))
