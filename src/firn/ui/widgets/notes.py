"""What is worth a look: a mark and a sentence each, with mends that are taken by a key."""

from collections.abc import Sequence

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFocusEvent, QFont, QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPen
from PySide6.QtWidgets import (
    QListWidget,
    QListWidgetItem,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QWidget,
)

from firn.core.reading.finding import MendText
from firn.session.note import Note
from firn.ui.theme.theme import Theme
from firn.ui.widgets.strip.paint import paint_mark

_NOTE = Qt.ItemDataRole.UserRole
_FIRST_KEY = Qt.ItemDataRole.UserRole + 1
MOST_KEYS = 9
MARK_WIDTH, KEY_WIDTH = 28, 52

PREVIEW = "On the strip: {label}. Enter takes it, {others}Shift+E plays it, Esc shows what is written."
OTHERS = "← → show the others, "


class _Delegate(QStyledItemDelegate):
    def __init__(self, theme: Theme, view: QListWidget) -> None:
        super().__init__(view)
        self._theme, self._view = theme, view
        # A viewport that is known: asking for one would have every kind of widget made.
        self._port = QWidget()
        view.setViewport(self._port)

    def _metrics(self) -> tuple[QFontMetricsF, QFontMetricsF]:
        return QFontMetricsF(self._theme.font(15)), QFontMetricsF(self._theme.font(15, QFont.Weight.DemiBold))

    def _text_box(self, note: Note, width: float) -> QRectF:
        plain, _ = self._metrics()
        flags = int(Qt.TextFlag.TextWordWrap)
        return plain.boundingRect(QRectF(0, 0, max(80.0, width - MARK_WIDTH - 8), 2_000), flags, note.text)

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex) -> QSize:
        note: Note = index.data(_NOTE)
        _, bold = self._metrics()
        height = self._text_box(note, self._port.width()).height() + 14
        return QSize(100, int(height + len(note.mends) * max(26.0, bold.height() + 8)))

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        note: Note = index.data(_NOTE)
        theme = self._theme
        if note.level == "head":
            self._head(painter, note, QRectF(option.rect))
            return
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        area = QRectF(option.rect)
        if self._view.selectionModel().isSelected(index):
            painter.fillRect(area, theme.colour("chosen_wash"))
        painter.setPen(QPen(theme.colour("hairline"), 1))
        painter.drawLine(area.bottomLeft(), area.bottomRight())
        plain, bold = self._metrics()
        middle = QPointF(area.left() + 10, area.top() + 7 + plain.height() / 2)
        if note.level == "ok":
            painter.setPen(QPen(theme.colour("quiet"), 2.5))
            painter.drawLine(QPointF(middle.x() - 6, middle.y()), QPointF(middle.x() + 7, middle.y()))
        elif note.level == "note":
            painter.setPen(QPen(theme.colour("ink"), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawEllipse(middle, 5.5, 5.5)
        else:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.colour("bad" if note.level == "bad" else "look"))
            paint_mark(painter, middle, note.level)
        box = self._text_box(note, area.width())
        painter.setFont(theme.font(15))
        painter.setPen(theme.colour("quiet" if note.level == "ok" else "ink"))
        text = QRectF(area.left() + MARK_WIDTH, area.top() + 7, area.width() - MARK_WIDTH - 8, box.height() + 4)
        painter.drawText(text, int(Qt.TextFlag.TextWordWrap), note.text)
        y = area.top() + 7 + box.height()
        step = max(26.0, bold.height() + 8)
        first: int = index.data(_FIRST_KEY)
        for number, (label, _) in enumerate(note.mends):
            line = QRectF(area.left() + MARK_WIDTH, y + number * step, area.width() - MARK_WIDTH - 8, step)
            painter.setFont(theme.font(15, QFont.Weight.DemiBold))
            painter.setPen(theme.colour("chosen"))
            # The key stands at the right edge.
            room = line.width() - (KEY_WIDTH if first + number <= MOST_KEYS else 0)
            painter.drawText(
                line, int(Qt.AlignmentFlag.AlignVCenter), bold.elidedText(label, Qt.TextElideMode.ElideRight, room)
            )
            if first + number <= MOST_KEYS:
                painter.setFont(theme.font(13))
                painter.setPen(theme.colour("quiet"))
                right = int(Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight)
                painter.drawText(line, right, f"Alt+{first + number}")
        painter.restore()

    def _head(self, painter: QPainter, note: Note, area: QRectF) -> None:
        """The name of a group of notes."""
        painter.setFont(self._theme.font(15, QFont.Weight.DemiBold))
        painter.setPen(self._theme.colour("ink"))
        painter.drawText(area.adjusted(0, 8, 0, 0), int(Qt.AlignmentFlag.AlignVCenter), note.text)

    def mend_at(self, note: Note, area: QRectF, y: float) -> int | None:
        """Which mend a y stands on, None for the sentence."""
        _, bold = self._metrics()
        top = area.top() + 7 + self._text_box(note, area.width()).height()
        number = int((y - top) // max(26.0, bold.height() + 8))
        return number if y >= top and number < len(note.mends) else None


class NotesView(QListWidget):
    """A list of notes. `pointed`: the note stood on; `mended`: a mend that is taken; `looked`: a mend (its label and
    itself) that the keys stand on, None for none."""

    pointed = Signal(object)
    mended = Signal(object)
    looked = Signal(object)

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._notes: tuple[Note, ...] = ()
        self._mend = 0
        self._delegate = _Delegate(theme, self)
        self.setItemDelegate(self._delegate)
        self.setAccessibleName("Worth a look")
        self.setWordWrap(True)
        self.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.currentRowChanged.connect(self._stand)

    def show_notes(self, notes: Sequence[Note]) -> None:
        """Show notes; nothing is emitted."""
        if tuple(notes) == self._notes:
            return
        self._notes = tuple(notes)
        blocked = self.blockSignals(True)
        self.clear()
        key = 1
        for note in notes:
            mends = "; ".join(f"{label}, Alt+{key + i}" for i, (label, _) in enumerate(note.mends))
            item = QListWidgetItem(f"{note.text} {mends}".strip())
            item.setData(_NOTE, note)
            item.setData(_FIRST_KEY, key)
            if note.level == "head":
                item.setFlags(Qt.ItemFlag.NoItemFlags)
            key += len(note.mends)
            self.addItem(item)
        self.blockSignals(blocked)

    @property
    def notes(self) -> tuple[Note, ...]:
        return self._notes

    def take_mend(self, number: int) -> None:
        """Take the mend with a key from 1."""
        mends = [m for note in self._notes for _, m in note.mends]
        if 1 <= number <= len(mends):
            self.mended.emit(mends[number - 1])

    def _stand(self, row: int) -> None:
        if 0 <= row < len(self._notes):
            self._mend = 0
            self.pointed.emit(self._notes[row])
            self._look()

    def looked_at(self, sound: int | None) -> tuple[int | None, MendText | None]:
        """The sound of the note that is stood on, else the one given, and its mend that the keys have come to."""
        note = self.stood_on
        mend = note.mends[self._mend][1] if note is not None and note.mends else None
        return note.sound if note is not None and note.sound is not None else sound, mend

    def _look(self) -> None:
        note = self.stood_on
        mends = note.mends if note is not None and self.hasFocus() else ()
        self.looked.emit(mends[self._mend] if mends else None)

    @property
    def stood_on(self) -> Note | None:
        """The note that is stood on."""
        row = self.currentRow()
        return self._notes[row] if 0 <= row < len(self._notes) else None

    def keys_said(self, looked: tuple[str, MendText]) -> str:
        """What the strip shows of a mend that is looked at, and the keys that go on from there."""
        note = self.stood_on
        others = OTHERS if note is not None and len(note.mends) > 1 else ""
        return PREVIEW.format(label=looked[0], others=others)

    def focusInEvent(self, event: QFocusEvent) -> None:
        super().focusInEvent(event)
        self._look()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
        self.looked.emit(None)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        super().mouseReleaseEvent(event)
        item = self.itemAt(event.position().toPoint())
        if item is None:
            return
        note: Note = item.data(_NOTE)
        mend = self._delegate.mend_at(note, QRectF(self.visualItemRect(item)), event.position().y())
        if mend is not None:
            self.mended.emit(note.mends[mend][1])

    def keyPressEvent(self, event: QKeyEvent) -> None:
        note = self.stood_on
        if note is not None and note.mends:
            key = event.key()
            if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self.mended.emit(note.mends[self._mend][1])
                return
            if key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
                way = 1 if key == Qt.Key.Key_Right else -1
                self._mend = (self._mend + way) % len(note.mends)
                self._look()
                return
            if key == Qt.Key.Key_Escape:
                self.looked.emit(None)
                return
        super().keyPressEvent(event)
