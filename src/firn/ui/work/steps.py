"""The work on steps: a card is heard, and put into the part."""

from fractions import Fraction
from typing import TYPE_CHECKING, Any

from firn.core.library.make import table_of, table_of_sounds
from firn.core.meter.count_in import CountIn
from firn.core.steps.card import Card, CardError
from firn.core.task import Task
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.timeline import Section
from firn.errors import FirnError
from firn.session.cards import card_stretch
from firn.session.stretch import moved
from firn.ui.pages.entries import STEPS, WRITE
from firn.ui.work.cards import Cards
from firn.ui.work.context import Context, Handlers
from firn.ui.work.dancing import Dancing

if TYPE_CHECKING:
    from firn.core.sound.voices import FloatArray
    from firn.ui.pages.steps.page import StepsPage

NEW: dict[str, Any] = {"name": "", "sounds": [], "usual": []}
SLOWLY = 0.6
TIMES = 2


class Steps:
    """Hears cards and puts them into the part on the desk."""

    def __init__(self, context: Context, page: "StepsPage", dancing: Dancing, cards: Cards) -> None:
        self._context, self.page, self._dancing, self._cards = context, page, dancing, cards
        page.hear.connect(self.hear)
        page.put.connect(self.put)

    def handlers(self) -> Handlers:
        page = self.page
        return {
            "hear_step": page.ask_hear,
            "hear_step_slowly": lambda: page.ask_hear(slow=True),
            "lay_beside": page.lay_beside,
            "put_step": page.ask_put,
            "new_step": lambda: self._ask(NEW),
            "own_step": self.make_own,
            "step_of_selection": self.make_of_selection,
            "retire_step": self.retire,
            "bring_cards": self._cards.bring_in,
            "write_cards": self.write_out,
        }

    # A teacher's own

    def _ask(self, table: dict[str, Any], was: str = "") -> None:
        from firn.ui.dialogs.step import StepDialog

        kept: list[str] = []

        def save(table: dict[str, Any]) -> None:
            self._cards.save(table, was)
            kept.append(table["name"])

        if self._context.prompts.run(StepDialog(table, save, self._context.window)) and kept:
            self._context.show_page(STEPS)
            self.page.stand_on(kept[-1])

    def make_own(self) -> None:
        """Change the card that is stood on: her own in its place, one of Firn's as a copy that comes before it."""
        card = self.page.card
        if card is not None:
            own = card in self._context.desk.shelf.own
            self._ask(table_of(card), card.name if own else "")

    def make_of_selection(self) -> None:
        """Make a card of what is selected on the strip, or of the whole part."""
        desk = self._context.desk
        desk.commit()
        if desk.part is None:
            self._context.say("A step is made of a part: turn to one first.")
            return
        first, end = desk.transport.chosen or (Fraction(-99), Fraction(99_999))
        try:
            self._ask(table_of_sounds(desk.part, first, end))
        except CardError as fault:
            self._context.say(f"{fault}.")

    def retire(self) -> None:
        """Offer a card no longer, or again."""
        card = self.page.card
        if card is None:
            return
        table = table_of(card)
        table.pop("retired", None)
        table |= {} if card.retired else {"retired": True}
        try:
            self._cards.save(table, card.name if card in self._context.desk.shelf.own else "")
        except FirnError as fault:
            self._context.say(str(fault))

    def write_out(self) -> None:
        """Write out the card that is stood on, or all of her own."""
        own = [c for c in self._context.desk.shelf.cards if c in self._context.desk.shelf.own]
        card = self.page.card
        chosen = [card] if card is not None and self.page.list.hasFocus() else own
        if chosen:
            self._cards.write_out(chosen)
        else:
            self._context.say("There is no card of yours to write out: stand on one, or make one first.")

    def hear(self, card: Card, lead: str, slow: bool) -> None:
        """Dance a card twice, on one side and on the other, within its tempos."""
        stretch = card_stretch(card, lead=lead)
        tempo = self._context.desk.transport.tempo
        tempo = max(card.floor or tempo, min(card.ceiling or tempo, tempo))
        mixing = Mixing(tempo=tempo * SLOWLY if slow else tempo, count_in=CountIn("none"), beats=False)
        counts = -(-stretch.counts // 4) * 4
        sounds = [s for n in range(TIMES) for s in moved(stretch, n * counts, swapped=n % 2 == 1)]

        def work(task: Task) -> "FloatArray":
            from firn.core.sound.model import render

            end = stretch.first + TIMES * counts
            return render(Section(sounds, stretch.counting, stretch.first, end, mixing), task).audio

        self._context.jobs.run("dance", "Making the model", work, self._dancing.play_samples)

    def put(self, card: Card) -> None:
        """Write a card's word at the end of the part on the desk, in its usual counts."""
        desk = self._context.desk
        if desk.on_combo or desk.part_id == "":
            self._context.say("Steps go into a part: turn to one first.")
            return
        text = desk.text.rstrip()
        said = f"{text}  {card.name}" if text else f"{card.usual_for(desk.settings.tradition)} {card.name}"
        desk.change(said, f"Put in {card.name}")
        self._context.show_page(WRITE)
