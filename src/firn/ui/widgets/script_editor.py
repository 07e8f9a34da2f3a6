"""The script editor: plain text as typed, with what is wrong underlined."""

from collections.abc import Iterable, Sequence

from PySide6.QtCore import QEvent, QMimeData, Qt, Signal
from PySide6.QtGui import QColor, QFocusEvent, QKeyEvent, QKeySequence, QMouseEvent, QTextCharFormat, QTextCursor
from PySide6.QtWidgets import QPlainTextEdit, QTextEdit, QWidget

from firn.ui.hurry import at_a_key
from firn.ui.theme.theme import Theme
from firn.ui.widgets.offers import Offers

_NOT_TYPING = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier

Place = tuple[int, int, int]
"""Line, column and end column, from 0."""


class ScriptEditor(QPlainTextEdit):
    """Typing never reformats. The workbook's own undo is used: the editor keeps none.

    `written` at every change of the text by the user, `moved` when the caret goes elsewhere; `completing` when a
    letter has been typed at the end of a word, with the line up to the caret: who can, answers with `offer`.
    `left` when Esc is pressed, `unfinished` when Tab is after some typing, and there is nothing to take: the
    keyboard then stays, or what is typed on would be keys for something else.
    """

    written = Signal(str)
    moved = Signal()
    left = Signal()
    unfinished = Signal()
    completing = Signal(str)

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self._quiet = self._typing = False
        self.setUndoRedoEnabled(False)
        self.setTabChangesFocus(True)
        self.setAccessibleName("Script: say it")
        self.setFrameShape(QPlainTextEdit.Shape.NoFrame)
        self.offers = Offers(theme, self)
        self.offers.taken.connect(self._take)
        self._offered: Sequence[tuple[int, str, str]] = ()
        self.textChanged.connect(self._changed)
        self.cursorPositionChanged.connect(self.moved)
        self.selectionChanged.connect(self.moved)
        theme.changed.connect(self._restyle)
        self._restyle()

    def _restyle(self) -> None:
        self.setFont(self._theme.font(17))
        self.document().setDocumentMargin(2)

    def _changed(self) -> None:
        if not self._quiet:
            self.written.emit(self.toPlainText())

    def show_text(self, text: str) -> None:
        """Show a text without calling it written; the caret stays where it was as far as it can."""
        if text == self.toPlainText():
            return
        self.offers.hide()
        at = self.textCursor().position()
        self._quiet = True
        self.setPlainText(text)
        cursor = self.textCursor()
        cursor.setPosition(min(at, len(text)))
        self.setTextCursor(cursor)
        self._quiet = False

    @property
    def caret(self) -> tuple[int, int]:
        """The caret's line and column."""
        cursor = self.textCursor()
        return cursor.blockNumber(), cursor.positionInBlock()

    @property
    def selection(self) -> tuple[tuple[int, int], tuple[int, int]] | None:
        """The selected text's first and last place, as line and column; None where nothing is selected."""
        cursor = self.textCursor()
        if not cursor.hasSelection():
            return None
        blocks = [(self.document().findBlock(p), p) for p in (cursor.selectionStart(), cursor.selectionEnd())]
        first, last = ((block.blockNumber(), p - block.position()) for block, p in blocks)
        return first, last

    def go_to(self, line: int, column: int, end: int) -> None:
        """Select a place and show it."""
        block = self.document().findBlockByNumber(line)
        if not block.isValid():
            return
        cursor = QTextCursor(block)
        cursor.setPosition(block.position() + min(column, block.length() - 1))
        last = block.position() + min(max(end, column), block.length() - 1)
        cursor.setPosition(last, QTextCursor.MoveMode.KeepAnchor)
        self.setTextCursor(cursor)
        self.ensureCursorVisible()

    def show_places(self, faults: Sequence[tuple[Place, str]], words: Iterable[Place]) -> None:
        """Underline faults (with their level), and wash the words of the sounds that are picked."""
        selections = []
        for place, level in faults:
            made = self._selection(place)
            made.format.setUnderlineColor(QColor(self._theme.colour("bad" if level == "bad" else "look")))
            made.format.setUnderlineStyle(QTextCharFormat.UnderlineStyle.SingleUnderline)
            made.format.setFontUnderline(True)
            selections.append(made)
        for word in words:
            made = self._selection(word)
            made.format.setBackground(self._theme.colour("chosen_wash"))
            selections.append(made)
        self.setExtraSelections(selections)

    def _selection(self, place: Place) -> QTextEdit.ExtraSelection:
        line, column, end = place
        made = QTextEdit.ExtraSelection()
        block = self.document().findBlockByNumber(line)
        cursor = QTextCursor(block if block.isValid() else self.document().lastBlock())
        length = max(0, cursor.block().length() - 1)
        cursor.setPosition(cursor.block().position() + min(column, length))
        cursor.setPosition(cursor.block().position() + min(end, length), QTextCursor.MoveMode.KeepAnchor)
        made.cursor = cursor
        return made

    def event(self, event: QEvent) -> bool:
        # Undo and redo are the workbook's: leave their keys to the window.
        # Tab would move the focus before the key reaches the editor.
        tab = isinstance(event, QKeyEvent) and event.key() == Qt.Key.Key_Tab
        if tab and event.type() == QEvent.Type.KeyPress:
            if self.offers.isVisible():
                self.offers.take()
                return True
            if self._typing:
                # Whoever types on means the text; a second Tab is meant to leave it.
                self._typing = False
                self.unfinished.emit()
                return True
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent):
            for standard in (QKeySequence.StandardKey.Undo, QKeySequence.StandardKey.Redo):
                if event.matches(standard):
                    event.ignore()
                    return False
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        at_a_key()
        if event.key() == Qt.Key.Key_Space and event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            event.ignore()
            return
        if self.offers.isVisible() and self._offer_key(event):
            return
        if event.key() == Qt.Key.Key_Escape:
            self.left.emit()
            return
        super().keyPressEvent(event)
        self._typing = True
        self.offers.hide()
        if event.text().isprintable() and event.text() and not event.modifiers() & _NOT_TYPING:
            self._ask_for_offers()

    def _offer_key(self, event: QKeyEvent) -> bool:
        """Keys that belong to the offers while there are any; Enter only once one has been chosen."""
        key = event.key()
        if key in (Qt.Key.Key_Down, Qt.Key.Key_Up):
            self.offers.walk(1 if key == Qt.Key.Key_Down else -1)
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.offers.walked:
            self.offers.take()
        elif key == Qt.Key.Key_Escape:
            self.offers.hide()
        else:
            return False
        return True

    def _ask_for_offers(self) -> None:
        cursor = self.textCursor()
        line, column = cursor.block().text(), cursor.positionInBlock()
        if not line[column : column + 1].isalnum():
            self.completing.emit(line[:column])

    def offer(self, offered: Sequence[tuple[int, str, str]]) -> None:
        """Offer words that complete what is typed: from which column, the word, and what it means."""
        self._offered = offered
        at = self.cursorRect()
        self.offers.offer([(word, meaning) for _, word, meaning in offered], at.topLeft(), at.height())

    def _take(self, number: int) -> None:
        self.offers.hide()
        column, word, _ = self._offered[number]
        cursor = self.textCursor()
        start = cursor.block().position() + column
        cursor.setPosition(start, QTextCursor.MoveMode.MoveAnchor)
        cursor.setPosition(self.textCursor().position(), QTextCursor.MoveMode.KeepAnchor)
        cursor.insertText(word + " ")
        self.setTextCursor(cursor)

    def canInsertFromMimeData(self, source: QMimeData) -> bool:
        # A file that is dropped is the window's to read.
        return not source.hasUrls() and super().canInsertFromMimeData(source)

    def focusInEvent(self, event: QFocusEvent) -> None:
        self._typing = False
        super().focusInEvent(event)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        self.offers.hide()
        super().focusOutEvent(event)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.offers.hide()
        super().mousePressEvent(event)
