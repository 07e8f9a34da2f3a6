"""Steps: the library of cards, searched by word and by rhythm, seen, heard and laid beside each other."""

import re
from collections.abc import Sequence
from html import escape

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtGui import QFont, QShowEvent
from PySide6.QtWidgets import (
    QBoxLayout,
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from firn.core.library.search import RhythmError, Wanted, prepare, search
from firn.core.steps.card import HARDEST, Card
from firn.core.steps.shelf import TRADITIONS
from firn.session.cards import LANGUAGES, LEVELS, card_stretch, card_text, compared
from firn.ui.desk import Desk
from firn.ui.pages.entries import PageView
from firn.ui.pages.steps.rows import FOUND, FoundRow, row_texts
from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import Label, heading
from firn.ui.widgets.room import Page, WrappingRow, side_by_side
from firn.ui.widgets.strip.strip import Strip
from firn.ui.widgets.strip.view import StripView

MOST_SOUNDS = 12
STRIP_PX, SHORT_STRIP_PX, HANDS_PX = 232, 196, 24
FILTERS = (14, 11, 12, 14)
"""How wide the choices that narrow the search are, in parts of their row."""

LEAST_SHOWN, SIDE_BY_SIDE = 2, 4
"""Steps of so many counts have room beside each other."""


_COUNTS = re.compile(r"(?=.*[\d&])[\daei&+\s]+")
"""What is no name, but counts."""


class StepsPage(Page, PageView):
    """The page of the library. `hear` (card, foot first, slow) and `put` (card) are asked for."""

    hear = Signal(object, str, bool)
    put = Signal(object)
    NARROW_PX, NARROW_HEIGHT_PX = 1_080, 820

    def __init__(self, desk: Desk, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(theme, parent)
        self._desk = desk
        self.beside: Card | None = None
        self._searched = desk.shelf
        self._shown: tuple[Card, Card | None] | None = None
        self.word = _field("Name, in any school or language")
        self.rhythm = _field("Counts, such as & a 1")
        self.tradition = _choice("Tradition", [("any tradition", ""), *((t, t) for t in TRADITIONS)])
        self.language = _choice("Language", [("any language", ""), *((n, c) for c, n in LANGUAGES.items())])
        levels = [(LEVELS[n], n) for n in range(1, HARDEST + 1)]
        self.level = _choice("Level", [("any level", 0), *levels])
        sounds = [("1 sound", 1), *((f"{n} sounds", n) for n in range(2, MOST_SOUNDS + 1))]
        self.sounds = _choice("Number of sounds", [("any number", 0), *sounds])
        self.list = QListWidget()
        self.list.setAccessibleName("Steps found")
        self.list.setItemDelegate(FoundRow(theme, self.list))
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.many = Label()
        self.hint = Label("Counts are found in the field below: which steps go & a 1?")
        self.hint.setWordWrap(True)
        self.hint.hide()
        self.name = Label()
        self.name.setWordWrap(True)
        self.strips = (Strip(theme, least=LEAST_SHOWN), Strip(theme, least=LEAST_SHOWN))
        self.heads = (Label(), Label())
        self.text = Label()
        self.text.setWordWrap(True)
        self.text.setTextFormat(Qt.TextFormat.RichText)
        self.text.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.text.setAccessibleName("About this step")
        self.hear_button = QPushButton("Hear  Enter")
        self.slow_button = QPushButton("Slowly")
        self.beside_button = QPushButton()
        self.put_button = QPushButton("Into the part")
        self.hear_button.setProperty("next", "true")
        self._lay_out()
        self._connect()
        self._restyle()

    def _lay_out(self) -> None:
        self._filters = QGridLayout()
        self._filters.setSpacing(10)
        left = QVBoxLayout()
        left.setSpacing(8)
        left.addWidget(heading(self._theme, "Find a step"))
        left.addWidget(self.word)
        left.addWidget(self.hint)
        left.addWidget(self.rhythm)
        left.addLayout(self._filters)
        left.addWidget(self.many)
        left.addWidget(self.list, 1)
        ways = WrappingRow()
        for button in (self.hear_button, self.slow_button, self.beside_button, self.put_button):
            ways.addWidget(button)
        right = QVBoxLayout()
        right.setSpacing(4)
        right.addWidget(self.name)
        self._sides = QBoxLayout(QBoxLayout.Direction.LeftToRight)
        self._sides.setSpacing(16)
        self._views = tuple(StripView(strip) for strip in self.strips)
        for head, view in zip(self.heads, self._views, strict=True):
            side = QVBoxLayout()
            side.setSpacing(0)
            side.addWidget(head)
            side.addWidget(view)
            self._sides.addLayout(side, 1)
        right.addLayout(self._sides)
        reading = QScrollArea()
        reading.setWidgetResizable(True)
        reading.setWidget(self.text)
        # Arrow keys read on.
        reading.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        reading.setAccessibleName("About this step")
        self.reading = reading
        right.addWidget(reading, 1)
        right.addLayout(ways)
        box = QHBoxLayout(self)
        box.setContentsMargins(24, 10, 24, 10)
        box.setSpacing(28)
        box.addLayout(left, 10)
        box.addLayout(right, 13)

    def _connect(self) -> None:
        for field in (self.word, self.rhythm):
            field.textChanged.connect(lambda _: self.search())
            field.returnPressed.connect(lambda: self.ask_hear())
        for box in (self.tradition, self.level, self.sounds, self.language):
            box.currentIndexChanged.connect(lambda _: self.search())
        self.list.currentItemChanged.connect(lambda *_: self.show_card())
        self.list.itemActivated.connect(lambda _: self.ask_hear())
        self.hear_button.clicked.connect(lambda: self.ask_hear())
        self.slow_button.clicked.connect(lambda: self.ask_hear(slow=True))
        self.beside_button.clicked.connect(self.lay_beside)
        self.put_button.clicked.connect(self.ask_put)
        self._desk.bridge.opened.connect(self._forget)
        self._desk.shown.connect(self._follow)
        self._theme.changed.connect(self._restyle)

    def arrange(self) -> None:
        """What narrows the search in one row or two, and the sides of a step beside or below each other."""
        for number, box in enumerate((self.tradition, self.level, self.sounds, self.language)):
            self._filters.addWidget(box, *(divmod(number, 2) if self.narrow else (0, number)))
        for number, share in enumerate((1, 1, 0, 0) if self.narrow else FILTERS):
            self._filters.setColumnStretch(number, share)
        self._shown = None
        self.show_card()

    def _restyle(self) -> None:
        theme = self._theme
        self.name.setFont(theme.font(24, QFont.Weight.DemiBold))
        for label in (*self.heads, self.many):
            label.setFont(theme.font(14))
            label.setStyleSheet(f"color: {theme.tokens.quiet}")
        for field in (self.word, self.rhythm):
            field.setFont(theme.font(17))
            field.setMinimumHeight(theme.px(40))
        self.text.setFont(theme.font(15))
        self.arrange()

    # Finding

    def wanted(self) -> Wanted:
        """What is looked for."""
        return Wanted(
            self.word.text(), self.tradition.currentData(), self.language.currentData(), self.level.currentData(),
            self.sounds.currentData(), self.rhythm.text(),
        )  # fmt: skip

    def search(self) -> None:
        """Show what is found; the step that was stood on stays so where it is among it."""
        before = self.card
        self.hint.setVisible(bool(_COUNTS.fullmatch(self.word.text().strip())))
        self._searched = self._desk.shelf
        try:
            found = search(self._desk.shelf, self.wanted())
        except RhythmError as fault:
            self.many.setText(str(fault))
            return
        blocked = self.list.blockSignals(True)
        self.list.clear()
        for one in found:
            item = QListWidgetItem(", ".join(row_texts(one)))
            item.setData(FOUND, one)
            self.list.addItem(item)
            if one.card is before and not self.word.text():
                self.list.setCurrentItem(item)
        if self.list.currentRow() < 0 and found:
            self.list.setCurrentRow(0)
        self.list.blockSignals(blocked)
        steps = "1 step" if len(found) == 1 else f"{len(found)} steps"
        self.many.setText(steps if found else "No step is called or sounds so. Fewer letters find more.")
        self.show_card()

    def stand_on(self, name: str) -> None:
        """Stand on the card of a name, whatever was looked for before."""
        for box in (self.tradition, self.language, self.level, self.sounds):
            box.setCurrentIndex(0)
        self.rhythm.clear()
        self.word.setText(name)
        self.search()
        self.list.setFocus()

    @property
    def card(self) -> Card | None:
        """The card that is stood on."""
        item = self.list.currentItem()
        card: Card | None = item.data(FOUND).card if item is not None else None
        return card

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self.search()
        QTimer.singleShot(0, lambda: prepare(self._desk.shelf))

    def _follow(self) -> None:
        """Find again where the cards have changed, on this page or from elsewhere."""
        if self.isVisible() and self._desk.shelf is not self._searched:
            self.search()

    def _forget(self) -> None:
        self.beside = None

    # Showing

    def show_card(self) -> None:
        """Show the card that is stood on: on both sides, or with the one that is laid beside it."""
        card = self.card
        for widget in (self.hear_button, self.slow_button, self.beside_button, self.put_button):
            widget.setEnabled(card is not None)
        if card is None:
            self.name.setText("")
            self.text.setText("")
            for strip, head in zip(self.strips, self.heads, strict=True):
                strip.setVisible(False)
                head.setText("")
            self._shown = None
            return
        if self._shown == (card, self.beside):
            return
        self._shown = (card, self.beside)
        tradition = self.tradition.currentData() if self.tradition.currentData() in card.traditions else ""
        self.name.setText(card.name)
        other = self.beside if self.beside is not None and self.beside is not card else None
        shown = [(card, "right"), (other, "right") if other is not None else (card, "left")]
        stretches = [card_stretch(one, tradition if one is card else "", lead=lead) for one, lead in shown]
        beside = max(s.counts for s in stretches) <= SIDE_BY_SIDE and not self.narrow
        side_by_side(self._sides, beside)
        hands = HANDS_PX if any(sound.hand for s in stretches for sound in s.sounds) else 0
        for view in self._views:
            view.setFixedHeight(self._theme.px((STRIP_PX if beside else SHORT_STRIP_PX) + hands))
        for strip, head, (one, lead), stretch in zip(self.strips, self.heads, shown, stretches, strict=True):
            strip.setVisible(True)
            strip.show_stretch(stretch)
            head.setText(f"{one.name}, {lead} foot first" if other is not None else f"{lead.capitalize()} foot first")
        self.text.setText(_html(card, other))
        away = self.beside is not None and other is None
        self.beside_button.setText(
            "By itself  D" if other is not None else "Now find another  D" if away else "Beside another  D"
        )  # fmt: skip

    # Asking

    def ask_hear(self, *, slow: bool = False) -> None:
        """Ask to hear the card that is stood on."""
        if self.card is not None:
            self.hear.emit(self.card, "right", slow)

    def ask_put(self) -> None:
        """Ask to put it into the part."""
        if self.card is not None:
            self.put.emit(self.card)

    def lay_beside(self) -> None:
        """Keep this card on show beside the next one that is stood on; or no longer."""
        self.beside = self.card if self.beside is None else None
        self.show_card()

    def focus_stops(self) -> list[QWidget]:
        """Where F6 goes on this page, in order."""
        return [self.word, self.rhythm, self.list, self.reading, self.hear_button]


def _html(card: Card, other: Card | None) -> str:
    said = card_text(card)
    lines = []
    if other is not None:
        lines.append(f"<p><b>{escape(card.name)} and {escape(other.name)}</b></p>")
        lines += [f"<p>{escape(line)}</p>" for line in compared(card, other)]
        return "".join(lines)
    if said.also:
        lines.append(f"<p><i>Also: {escape(said.also)}</i></p>")
    lines.append(f"<p><b>{escape(said.sentence)}</b></p><p>{escape(' '.join(said.facts))}</p>")
    lines += [f"<p><b>{head}.</b> {' '.join(escape(line) for line in texts)}</p>" for head, texts in said.told]
    if said.caution:
        lines.append(f"<p><b>Take care.</b> {escape(said.caution)}</p>")
    return "".join(lines)


def _field(hint: str) -> QLineEdit:
    field = QLineEdit()
    field.setPlaceholderText(hint)
    field.setAccessibleName(hint)
    field.setClearButtonEnabled(True)
    return field


def _choice(name: str, choices: Sequence[tuple[str, object]]) -> QComboBox:
    box = QComboBox()
    box.setAccessibleName(name)
    for text, value in choices:
        box.addItem(text, value)
    # The longest of its choices would take the room of the step that is shown.
    box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
    box.setMinimumContentsLength(4)
    return box
