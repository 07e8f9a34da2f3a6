"""What stands over every page: the piece, how it counts and its parts; and in the menus' corner the pages."""

from PySide6.QtGui import QFont
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from firn.ui.actions import tip
from firn.ui.desk import Desk
from firn.ui.pages.entries import TITLES
from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import Label, shortened, shown
from firn.ui.widgets.tabs import ThreadTabs

LONGEST_NAME, LONGEST_WHO = 26, 16


class Head(QWidget):
    """The name of the piece, how it counts, and its parts; `ids` are theirs, in the order of their tabs."""

    def __init__(self, desk: Desk, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._desk, self._theme = desk, theme
        self.title, self.counts, self.who = QPushButton(), QPushButton(), QPushButton()
        self.parts = ThreadTabs(theme, "Parts", threaded=False)
        row = QHBoxLayout(self)
        row.setContentsMargins(24, 6, 16, 6)
        row.setSpacing(10)
        for button, action in ((self.title, "next_piece"), (self.counts, "counting"), (self.who, "whose")):
            button.setFlat(True)
            button.setToolTip(tip(action))
            row.addWidget(button)
        row.addStretch(1)
        row.addWidget(self.parts)

    def show_desk(self, ids: list[str]) -> None:
        """Show what is on the desk."""
        desk, piece, settings = self._desk, self._desk.piece, self._desk.settings
        many = "  ▾" if len(desk.bridge.book.pieces) > 1 else ""
        self.title.setText(f"{shown(shortened(settings.name, LONGEST_NAME))}{many}" if piece else "No piece")
        counted_as = desk.near.settings if desk.near is not None else settings
        lone = {"triplet": "the last triplet", "sixteenth": "the last sixteenth"}[counted_as.counting.lone_a]
        counted = f"{counted_as.meter}, {settings.feel}"
        said = f"{counted}, a lone “a” on {lone}"
        # Large text leaves no room for all of it.
        self.counts.setText((said if self._theme.percent < 130 else counted) if piece else "")
        self._show_who()
        self.title.setAccessibleName(f"Piece: {settings.name}")
        self.counts.setAccessibleName(f"How it counts: {said}")
        names = [p.name for p in piece.parts] + ["combo", "+"] if piece else ["+"]
        chosen = ids.index(desk.part_id) if desk.part_id in ids else -1
        if (self.parts.names, self.parts.chosen) != (tuple(names), chosen):
            self.parts.show_names(names, chosen)

    def _show_who(self) -> None:
        """Say who practises, where there is anybody beside the owner."""
        book = self._desk.bridge.book
        name = book.student.name if book.student is not None else "you"
        self.who.setVisible(bool(book.students))
        self.who.setText(f"{shown(shortened(name, LONGEST_WHO))}  ▾")
        self.who.setAccessibleName(f"Who practises: {name}")

    def restyle(self) -> None:
        """Follow the look in force."""
        theme, t = self._theme, self._theme.tokens
        self.title.setFont(theme.font(27, QFont.Weight.DemiBold))
        self.counts.setFont(theme.font(15))
        plain = "QPushButton { border: none; background: transparent; padding: 0 4px; text-align: left; %s }"
        focus = f"QPushButton:focus {{ background: {t.chosen_wash}; border-radius: 6px; }}"
        self.title.setStyleSheet(plain % f"font-size: {theme.px(27)}px; font-weight: 600;" + focus)
        quiet = f"font-size: {theme.px(15)}px; font-weight: 400; color: {t.quiet};"
        self.counts.setStyleSheet(plain % quiet + focus)
        self.who.setFont(theme.font(15, QFont.Weight.Medium))
        self.who.setStyleSheet(plain % f"font-size: {theme.px(15)}px; font-weight: 500; color: {t.ink};" + focus)
        theme.dress(self)


class Corner(QWidget):
    """The pages, and whether what is written is kept."""

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self.pages = ThreadTabs(theme, "Pages", threaded=True)
        self.kept = Label("kept")
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 24, 0)
        row.setSpacing(28)
        row.addWidget(self.pages)
        row.addWidget(self.kept)

    def show_page(self, index: int) -> None:
        """Show which page is on show."""
        if self.pages.names != TITLES:
            self.pages.show_names(TITLES, index)
            self.fit()

    def show_kept(self, kept: str) -> None:
        """Say whether what is written is kept."""
        if kept != self.kept.text():
            self.kept.setText(kept)
            self.fit()

    def restyle(self) -> None:
        """Follow the look in force."""
        self.kept.setStyleSheet(f"color: {self._theme.tokens.quiet}")
        self.kept.setFont(self._theme.font(14))
        self.fit()

    def fit(self) -> None:
        """A menu bar does not ask its corner again when its size changes."""
        self.setFixedSize(self.sizeHint().expandedTo(self.minimumSizeHint()))
