"""A part on paper: the strip, its words and counts, the script as said and what is worth a look; readable in grey."""

from collections.abc import Iterator

from msgspec import Struct
from msgspec.structs import replace
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import (
    QFont,
    QFontMetricsF,
    QPainter,
    QPen,
    QPolygonF,
)

from firn.session.note import Note
from firn.session.paper import LEGEND, Drawing, Paper, PaperTable
from firn.ui.theme.theme import Theme
from firn.ui.widgets.strip.layout import lay_out
from firn.ui.widgets.strip.paint import Overlay, StripPainter, paint_mark

WIDTH = 900.0
"""Units across the paper between its margins; fonts and soles are as many units as they are pixels on the screen."""

FOOT = 30.0
GAP = 14.0
CELL = 4.0
"""Room on either side of what stands in a cell."""


DRAWN, DRAWN_HIGH = 4, 0.72
"""So many drawings stand beside each other, each so many times as high as wide."""
LARGEST, BODY = 34.0, 0.24
"""Units between neighbours in a drawing at most, and a dancer's shoulder as a share of them."""


class Block(Struct, frozen=True):
    """One thing that stands on the paper: its height, and what it is; of a strip which of the sheet's, and a row."""

    height: float
    kind: str
    row: int = 0
    strip: int = 0
    text: str = ""
    note: Note | None = None
    table: PaperTable | None = None
    drawings: tuple[Drawing, ...] = ()


class PaperPainter:
    """Paints a sheet page by page, on a device that is `width` units wide: `WIDTH`, or more for smaller letters."""

    def __init__(self, sheet: Paper, page_height: float, width: float = WIDTH) -> None:
        self._sheet, self._width = sheet, width
        # Paper is white, whatever the screen shows; tabular figures could not be searched for in a PDF.
        self._theme = Theme(tabular=False)
        words = QFontMetricsF(self._theme.font(17, QFont.Weight.Medium))
        stretches = sheet.beside or ((("", sheet.stretch),) if sheet.stretch is not None else ())
        # Where there is little room a phrase may not stand in one row.
        view = sheet.view if width >= WIDTH else replace(sheet.view, fitted=True)
        self._strips = [
            (name, stretch, lay_out(stretch, self._width, words.horizontalAdvance, view=view))
            for name, stretch in stretches
        ]
        self.pages = self._paged(list(self._blocks()), page_height - FOOT)

    def _height(self, text: str, font: QFont, width: float) -> float:
        flags = int(Qt.TextFlag.TextWordWrap)
        return QFontMetricsF(font).boundingRect(QRectF(0, 0, width, 5_000), flags, text).height() + 4

    def _cells(self, table: PaperTable, row: int) -> list[tuple[QRectF, str]]:
        """The cells of a row from its top on, each as wide as its column."""
        whole, x, cells = sum(table.shares), 0.0, []
        for share, text in zip(table.shares, table.heads if row < 0 else table.rows[row], strict=True):
            wide = self._width * share / whole
            cells.append((QRectF(x + CELL, 0, wide - 2 * CELL, 0), text))
            x += wide
        return cells

    def _cell_font(self, table: PaperTable, row: int) -> QFont:
        strong = row < 0 or (row == 0 and table.first > 0)
        size = table.first if row == 0 and table.first else table.size
        return self._theme.font(size, QFont.Weight.DemiBold) if strong else self._theme.font(size)

    def _row_height(self, table: PaperTable, row: int) -> float:
        font = self._cell_font(table, row)
        return max(self._height(text or " ", font, box.width()) for box, text in self._cells(table, row)) + 4

    def _row(self, painter: QPainter, block: Block, y: float) -> None:
        table = block.table
        assert table is not None
        painter.setFont(self._cell_font(table, block.row))
        cells = self._cells(table, block.row)
        for number, (box, text) in enumerate(cells):
            painter.setPen(self._theme.colour("ink"))
            place = QRectF(box.left(), y + 2, box.width(), block.height)
            align = Qt.AlignmentFlag.AlignHCenter if table.ruled else Qt.AlignmentFlag.AlignLeft
            painter.drawText(place, int(Qt.TextFlag.TextWordWrap) | int(align), text)
            if table.ruled and number:
                painter.setPen(QPen(self._theme.colour("thread"), 0.8))
                x = box.left() - CELL
                painter.drawLine(QPointF(x, y), QPointF(x, y + block.height))
        painter.setPen(QPen(self._theme.colour("thread"), 1.4 if block.row < 0 else 0.8))
        painter.drawLine(QPointF(0, y + block.height - 1), QPointF(self._width, y + block.height - 1))

    def _blocks(self) -> Iterator[Block]:
        theme, sheet = self._theme, self._sheet
        yield Block(self._height(sheet.title, theme.font(27, QFont.Weight.DemiBold), self._width) + 2, "title")
        yield Block(self._height(sheet.counted, theme.font(15), self._width) + GAP, "text", text=sheet.counted)
        for table in sheet.tables:
            if table.title:
                yield Block(GAP + 26, "heading", text=table.title)
            for row in range(-1 if table.heads else 0, len(table.rows)):
                yield Block(self._row_height(table, row), "row", row, table=table)
            yield Block(GAP, "gap")
        for at in range(0, len(sheet.drawings), DRAWN):
            beside = sheet.drawings[at : at + DRAWN]
            wide = self._width / DRAWN - GAP
            named = max(self._height(one.title, theme.font(14), wide) for one in beside)
            yield Block(named + wide * DRAWN_HIGH + GAP, "drawings", drawings=beside)
        for row in range(max((len(laid.rows) for _, _, laid in self._strips), default=0)):
            # Rows of the same counts below each other.
            for number, (name, _, laid) in enumerate(self._strips):
                if row < len(laid.rows):
                    if name:
                        yield Block(GAP + 20, "heading", text=name)
                    yield Block(laid.row_height, "strip", row, number)
        if sheet.said:
            yield Block(GAP + 26, "heading", text="As it is said")
        for line in sheet.said:
            yield Block(self._height(line, theme.font(16), self._width), "said", text=line)
        in_groups = any(n.level == "head" for n in sheet.notes)
        looks = [n for n in sheet.notes if n.level != "ok" or in_groups]
        told = [*looks, *(n for n in sheet.notes if n.level == "ok" and not in_groups)]
        if told and not in_groups:
            yield Block(GAP + 26, "heading", text="Worth a look")
        for note in told:
            if note.level == "head":
                yield Block(GAP + 26, "heading", text=note.text)
            else:
                yield Block(self._height(note.text, theme.font(15), self._width - 28) + 3, "note", note=note)
        for head, lines in sheet.sections:
            yield Block(GAP + 26, "heading", text=head)
            for line in lines:
                yield Block(self._height(line, theme.font(15), self._width) + 1, "line", text=line)
        if self._strips:
            yield Block(self._height(LEGEND, theme.font(13), self._width) + GAP, "legend", text=LEGEND)

    @staticmethod
    def _paged(blocks: list[Block], height: float) -> list[list[Block]]:
        """Blocks in pages; a heading goes with what comes after it, and a ruled table stays together."""
        pages: list[list[Block]] = [[]]
        left = height
        for number, block in enumerate(blocks):
            if block.height + PaperPainter._with(blocks, number) > left and pages[-1]:
                pages.append([])
                left = height
            pages[-1].append(block)
            left -= block.height
        return pages

    @staticmethod
    def _with(blocks: list[Block], number: int) -> float:
        """How high what stands with a block is."""
        block = blocks[number]
        if block.kind == "heading" and number + 1 < len(blocks):
            return blocks[number + 1].height + PaperPainter._with(blocks, number + 1)
        if block.table is not None and block.table.ruled and block.row == 0:
            return sum(b.height for b in blocks[number + 1 :] if b.table is block.table)
        return 0.0

    def paint(self, painter: QPainter, number: int, page_height: float) -> None:
        """Paint one page, from 0."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        y = 0.0
        for block in self.pages[number]:
            self._block(painter, block, y)
            y += block.height
        painter.setFont(self._theme.font(13))
        painter.setPen(self._theme.colour("quiet"))
        foot = QRectF(0, page_height - FOOT + 8, self._width, FOOT - 8)
        text = f"{self._sheet.title}    page {number + 1} of {len(self.pages)}"
        painter.drawText(foot, int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignBottom), text)

    def _block(self, painter: QPainter, block: Block, y: float) -> None:
        theme = self._theme
        if block.kind == "gap":
            return
        if block.kind == "row":
            self._row(painter, block, y)
            return
        if block.kind == "drawings":
            self._drawings(painter, block, y)
            return
        if block.kind == "strip":
            _, stretch, laid = self._strips[block.strip]
            painter.save()
            painter.translate(0, y - laid.top_of(block.row))
            StripPainter(theme, laid, stretch, Overlay()).paint(painter, [block.row])
            painter.restore()
            return
        font, role, text = {
            "title": (theme.font(27, QFont.Weight.DemiBold), "ink", self._sheet.title),
            "heading": (theme.font(16, QFont.Weight.DemiBold), "ink", block.text),
            "said": (theme.font(16), "ink", block.text),
            "note": (theme.font(15), "ink", block.note.text if block.note else ""),
            "legend": (theme.font(13), "quiet", block.text),
            "text": (theme.font(15), "quiet", block.text),
            "line": (theme.font(15), "ink", block.text),
        }[block.kind]
        left = 0.0
        if block.note is not None:
            left = 28.0
            self._mark(painter, block.note, QPointF(10, y + 11))
        painter.setFont(font)
        painter.setPen(theme.colour(role))
        top = y + (GAP if block.kind in ("legend", "heading") else 0.0)
        painter.drawText(QRectF(left, top, self._width - left, block.height), int(Qt.TextFlag.TextWordWrap), text)

    def _drawings(self, painter: QPainter, block: Block, y: float) -> None:
        """Those who dance, from above: the front at the top, each a disc with a nose the way they face."""
        wide = self._width / DRAWN - GAP
        high = wide * DRAWN_HIGH
        for number, drawing in enumerate(block.drawings):
            left = number * (wide + GAP)
            painter.setFont(self._theme.font(11))
            painter.setPen(self._theme.colour("quiet"))
            painter.drawText(QRectF(left, y, wide, 16), int(Qt.AlignmentFlag.AlignHCenter), "front")
            painter.drawLine(QPointF(left + wide / 4, y + 17), QPointF(left + wide * 3 / 4, y + 17))
            xs, ys = [d.x for d in drawing.dancers], [d.y for d in drawing.dancers]
            middle = QPointF((max(xs) + min(xs)) / 2, (max(ys) + min(ys)) / 2)
            scale = min(LARGEST, wide / (max(xs) - min(xs) + 1.2), (high - 22) / (max(ys) - min(ys) + 1.2))
            at = QPointF(left + wide / 2, y + 22 + (high - 22) / 2)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(self._theme.colour("ink"))
            for dancer in drawing.dancers:
                painter.save()
                painter.translate(at.x() + (dancer.x - middle.x()) * scale, at.y() - (dancer.y - middle.y()) * scale)
                painter.rotate(dancer.faces)
                body = scale * BODY
                painter.drawEllipse(QPointF(0, 0), body, body * 0.7)
                nose = QPolygonF(
                    [QPointF(-body * 0.35, -body * 0.6), QPointF(0, -body * 1.35), QPointF(body * 0.35, -body * 0.6)]
                )
                painter.drawPolygon(nose)
                painter.restore()
            painter.setFont(self._theme.font(14))
            painter.setPen(self._theme.colour("ink"))
            named = QRectF(left, y + high, wide, block.height - high)
            painter.drawText(named, int(Qt.TextFlag.TextWordWrap) | int(Qt.AlignmentFlag.AlignHCenter), drawing.title)

    def _mark(self, painter: QPainter, note: Note, at: QPointF) -> None:
        theme = self._theme
        if note.level == "note":
            painter.setPen(QPen(theme.colour("ink"), 1.6))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawEllipse(at, 4.5, 4.5)
            return
        if note.level == "ok":
            painter.setPen(QPen(theme.colour("quiet"), 2))
            painter.drawLine(at - QPointF(6, 0), at + QPointF(6, 0))
            return
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.colour("bad" if note.level == "bad" else "look"))
        paint_mark(painter, at, note.level)
