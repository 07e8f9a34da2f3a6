"""The look: fonts, palette and the style of ordinary widgets, all from the tokens."""

from functools import cache
from pathlib import Path

from PySide6.QtCore import QObject, Signal
from PySide6.QtGui import QColor, QFont, QFontDatabase, QPalette
from PySide6.QtWidgets import QApplication, QToolTip, QWidget

from firn.ui.theme.tokens import LAMP_ON, LAMP_OUT, Tokens

FAMILY = "Inter"
BASE_PX = 16


@cache
def load_fonts() -> None:
    """Make the shipped family known to Qt, once."""
    for file in sorted((Path(__file__).parents[1] / "resources/fonts").glob("*.otf")):
        QFontDatabase.addApplicationFont(str(file))


class Theme(QObject):
    """The look in force; widgets that paint ask it for colours and fonts, and repaint when it changes."""

    changed = Signal()

    def __init__(self, *, dark: bool = False, percent: int = 100, tabular: bool = True) -> None:
        super().__init__()
        self._dark, self._percent, self._tabular = dark, percent, tabular
        self._look = 0
        # Painting asks for the same few again and again.
        self._fonts: dict[tuple[float, QFont.Weight], QFont] = {}
        self._colours: dict[str, QColor] = {}

    @property
    def tokens(self) -> Tokens:
        return LAMP_OUT if self._dark else LAMP_ON

    @property
    def dark(self) -> bool:
        return self._dark

    @property
    def percent(self) -> int:
        return self._percent

    def px(self, size: float) -> int:
        """A size in pixels at the text size in force."""
        return max(1, round(size * self._percent / 100))

    def font(self, size: float, weight: QFont.Weight = QFont.Weight.Normal) -> QFont:
        """The family at a size in pixels, with tabular figures unless the theme is without."""
        if (size, weight) not in self._fonts:
            font = self._fonts[size, weight] = QFont(FAMILY)
            font.setPixelSize(self.px(size))
            font.setWeight(weight)
            # Said either way: what a font leaves open it takes from the application's.
            font.setFeature(QFont.Tag("tnum"), int(self._tabular))
            if not self._tabular:
                # A colon between figures, or a bracket beside them, is another shape there, which a PDF has no letter
                # for: "0:42" would be read out, and copied, as "0 42".
                font.setFeature(QFont.Tag("calt"), 0)
        # A copy, which Qt shares until it is changed: some make it larger.
        return QFont(self._fonts[size, weight])

    def colour(self, role: str) -> QColor:
        """A token as a colour."""
        if role not in self._colours:
            self._colours[role] = QColor(getattr(self.tokens, role))
        return QColor(self._colours[role])

    def set_look(self, *, dark: bool, percent: int) -> None:
        """Change the look of the whole program."""
        self._dark, self._percent = dark, min(200, max(80, percent))
        self._fonts.clear()
        self._colours.clear()
        self.apply()

    def apply(self) -> None:
        """Put the look in force."""
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        app.setFont(self.font(BASE_PX))
        app.setPalette(self._palette())
        QToolTip.setPalette(self._palette())
        self._look += 1
        self.changed.emit()

    def dress(self, widget: QWidget, own: str = "") -> None:
        """Have a widget, and all in it, follow the look in force, with rules of its `own`; one that does is left.

        A sheet of the application would have Qt go through every widget there is, seen or not, each time that it
        changes: so what is seen is dressed when it is.
        """
        if widget.property("look") != self._look:
            widget.setProperty("look", self._look)
            widget.setStyleSheet(self._sheet() + own)

    def _palette(self) -> QPalette:
        palette, role = QPalette(), QPalette.ColorRole
        pairs = {
            role.Window: "paper", role.WindowText: "ink", role.Base: "paper", role.AlternateBase: "band",
            role.Text: "ink", role.Button: "band", role.ButtonText: "ink", role.Highlight: "chosen",
            role.HighlightedText: "paper", role.ToolTipBase: "band", role.ToolTipText: "ink", role.Link: "chosen",
            role.PlaceholderText: "quiet",
        }  # fmt: skip
        for name, token in pairs.items():
            palette.setColor(name, self.colour(token))
        return palette

    def _sheet(self) -> str:
        """The style of ordinary widgets and menus."""
        t = self.tokens
        return f"""
        QMenuBar {{ background: {t.band}; color: {t.quiet}; padding: 4px 10px; }}
        QMenuBar::item {{ padding: 8px 10px; background: transparent; }}
        QMenuBar::item:selected {{ color: {t.ink}; background: {t.hairline}; border-radius: 4px; }}
        QMenu {{ background: {t.paper}; color: {t.ink}; border: 1px solid {t.thread}; padding: 6px 0; }}
        QMenu::item {{ padding: 9px 28px 9px 24px; }}
        QMenu::item:selected {{ background: {t.chosen_wash}; color: {t.ink}; }}
        QMenu::item:disabled {{ color: {t.thread}; }}
        QMenu::separator {{ height: 1px; background: {t.hairline}; margin: 5px 12px; }}
        QPlainTextEdit, QTextBrowser, QLineEdit, QSpinBox, QComboBox {{
            background: {t.paper}; color: {t.ink}; border: none; border-bottom: 2px solid {t.hairline};
            selection-background-color: {t.chosen}; selection-color: {t.paper}; padding: 4px 2px; }}
        QPlainTextEdit:focus, QTextBrowser:focus, QLineEdit:focus, QSpinBox:focus, QComboBox:focus {{
            border-bottom: 2px solid {t.chosen}; }}
        QSpinBox::up-button, QSpinBox::down-button {{ width: 0; border: none; }}
        QSpinBox QLineEdit {{ border: none; padding: 0; background: transparent; }}
        QComboBox {{ min-height: {self.px(34)}px; }}
        QComboBox::drop-down {{ border: none; width: {self.px(20)}px; }}
        QComboBox::down-arrow {{ image: none; width: 0; height: 0; border-left: 5px solid {t.paper};
            border-right: 5px solid {t.paper}; border-top: 6px solid {t.quiet}; }}
        QComboBox QAbstractItemView {{ background: {t.paper}; color: {t.ink}; }}
        QPushButton {{ background: {t.paper}; color: {t.ink}; border: 2px solid {t.ink}; border-radius: 8px;
            padding: 0 18px; min-height: {self.px(42)}px; font-weight: 600; }}
        QPushButton:hover {{ background: {t.band}; }}
        QPushButton:focus {{ border-color: {t.chosen}; background: {t.chosen_wash}; }}
        QPushButton:disabled {{ color: {t.thread}; border-color: {t.hairline}; }}
        QPushButton[next="true"] {{ background: {t.next}; color: {t.on_next}; }}
        QPushButton[next="true"]:focus {{ background: {t.next}; border-color: {t.chosen}; color: {t.on_next}; }}
        QPushButton[next="true"]:disabled {{ background: {t.hairline}; border-color: {t.hairline};
            color: {t.quiet}; }}
        QListWidget {{ background: {t.paper}; color: {t.ink}; border: none; outline: none; }}
        QListWidget::item {{ padding: 7px 6px; border-bottom: 1px solid {t.hairline}; }}
        QListWidget::item:selected {{ background: {t.chosen_wash}; color: {t.ink}; }}
        QTableWidget {{ background: {t.paper}; color: {t.ink}; border: none; outline: none; }}
        QTableWidget::item:selected {{ background: {t.chosen_wash}; color: {t.ink}; }}
        QHeaderView::section {{ background: {t.paper}; color: {t.quiet}; border: none; padding: 2px 4px;
            border-bottom: 1px solid {t.hairline}; font-weight: 600; font-size: {self.px(14)}px; }}
        QScrollArea {{ border: none; background: {t.paper}; }}
        QScrollBar:vertical {{ background: transparent; width: 12px; margin: 0; }}
        QScrollBar::handle:vertical {{ background: {t.hairline}; min-height: 40px; border-radius: 6px; }}
        QScrollBar::add-line, QScrollBar::sub-line {{ width: 0; height: 0; }}
        QProgressBar {{ background: {t.hairline}; border: none; max-height: 6px; border-radius: 3px; }}
        QProgressBar::chunk {{ background: {t.chosen}; border-radius: 3px; }}
        #rule {{ background: {t.hairline}; border: none; }}
        """
