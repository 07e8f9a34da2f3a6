"""The work on steps: a card is heard, and put into the part."""

from typing import TYPE_CHECKING

from firn.core.meter.count_in import CountIn
from firn.core.sound.plan import Mixing
from firn.core.steps.card import Card
from firn.core.task import Task
from firn.session.cards import card_stretch
from firn.session.desk import moved
from firn.ui.work.context import Context, Handlers
from firn.ui.work.dancing import Dancing

if TYPE_CHECKING:
    from firn.core.sound.voices import FloatArray
    from firn.ui.pages.steps.page import StepsPage

SLOWLY = 0.6
TIMES = 2


class Steps:
    """Hears cards and puts them into the part on the desk."""

    def __init__(self, context: Context, page: "StepsPage", dancing: Dancing) -> None:
        self._context, self.page, self._dancing = context, page, dancing
        page.hear.connect(self.hear)
        page.put.connect(self.put)

    def handlers(self) -> Handlers:
        page = self.page
        return {
            "hear_step": page.ask_hear,
            "hear_step_slowly": lambda: page.ask_hear(slow=True),
            "lay_beside": page.lay_beside,
            "put_step": page.ask_put,
        }

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
            return render(sounds, stretch.counting, stretch.first, end, mixing, task).audio

        self._context.jobs.run("dance", "Making the model", work, self._dancing.play_samples)

    def put(self, card: Card) -> None:
        """Write a card's word at the end of the part on the desk, in its usual counts."""
        desk = self._context.desk
        if desk.on_combo or desk.part_id == "":
            self._context.say("Steps go into a part: turn to one first.")
            return
        text = desk.text.rstrip()
        desk.write(f"{text}  {card.name}" if text else f"{card.usual_for(desk.settings.tradition)} {card.name}")
        desk.commit()
        self._context.show_page(0)
