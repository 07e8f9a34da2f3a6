"""A part on paper: the strip, its words and counts, the script as said and what is worth a look; readable in grey."""

from collections.abc import Iterator

from msgspec import Struct
from PySide6.QtCore import QMarginsF, QPointF, QRectF, QSizeF, Qt
from PySide6.QtGui import QFont, QFontMetricsF, QPagedPaintDevice, QPageLayout, QPageSize, QPainter, QPen

from firn.session.desk import Note
from firn.session.paper import LEGEND, Paper
from firn.ui.theme.theme import Theme
from firn.ui.widgets.strip.geometry import StripLayout
from firn.ui.widgets.strip.layout import lay_out
from firn.ui.widgets.strip.paint import Overlay, StripPainter, paint_mark

WIDTH = 900.0
"""Units across the paper between its margins; fonts and soles are as many units as they are pixels on the screen."""

MARGIN_MM = 15.0
FOOT = 30.0
GAP = 14.0


class Block(Struct, frozen=True):
    """One thing that stands on the paper: its height, and what it is."""

    height: float
    kind: str
    row: int = 0
    text: str = ""
    note: Note | None = None


class PaperPainter:
    """Paints a sheet page by page, on any device that is `WIDTH` units wide."""

    def __init__(self, sheet: Paper, page_height: float) -> None:
        self._sheet = sheet
        # Paper is white, whatever the screen shows; tabular figures could not be searched for in a PDF.
        self._theme = Theme(tabular=False)
        words = QFontMetricsF(self._theme.font(17, QFont.Weight.Medium))
        self._strip: StripLayout | None = None
        if sheet.stretch is not None:
            self._strip = lay_out(sheet.stretch, WIDTH, words.horizontalAdvance, view=sheet.view)
        self.pages = self._paged(list(self._blocks()), page_height - FOOT)

    def _height(self, text: str, font: QFont, width: float) -> float:
        flags = int(Qt.TextFlag.TextWordWrap)
        return QFontMetricsF(font).boundingRect(QRectF(0, 0, width, 5_000), flags, text).height() + 4

    def _blocks(self) -> Iterator[Block]:
        theme, sheet = self._theme, self._sheet
        yield Block(self._height(sheet.title, theme.font(27, QFont.Weight.DemiBold), WIDTH) + 2, "title")
        yield Block(self._height(sheet.counted, theme.font(15), WIDTH) + GAP, "text", text=sheet.counted)
        if self._strip is not None:
            for row in range(len(self._strip.rows)):
                yield Block(self._strip.row_height, "strip", row)
        if sheet.said:
            yield Block(GAP + 26, "heading", text="As it is said")
        for line in sheet.said:
            yield Block(self._height(line, theme.font(16), WIDTH), "said", text=line)
        in_groups = any(n.level == "head" for n in sheet.notes)
        looks = [n for n in sheet.notes if n.level != "ok" or in_groups]
        told = [*looks, *(n for n in sheet.notes if n.level == "ok" and not in_groups)]
        if told and not in_groups:
            yield Block(GAP + 26, "heading", text="Worth a look")
        for note in told:
            if note.level == "head":
                yield Block(GAP + 26, "heading", text=note.text)
            else:
                yield Block(self._height(note.text, theme.font(15), WIDTH - 28) + 3, "note", note=note)
        for head, lines in sheet.sections:
            yield Block(GAP + 26, "heading", text=head)
            for line in lines:
                yield Block(self._height(line, theme.font(15), WIDTH) + 1, "line", text=line)
        if self._strip is not None:
            yield Block(self._height(LEGEND, theme.font(13), WIDTH) + GAP, "legend", text=LEGEND)

    @staticmethod
    def _paged(blocks: list[Block], height: float) -> list[list[Block]]:
        """Blocks in pages; a heading goes with what comes after it."""
        pages: list[list[Block]] = [[]]
        left = height
        for number, block in enumerate(blocks):
            after = blocks[number + 1].height if block.kind == "heading" and number + 1 < len(blocks) else 0.0
            if block.height + after > left and pages[-1]:
                pages.append([])
                left = height
            pages[-1].append(block)
            left -= block.height
        return pages

    def paint(self, painter: QPainter, number: int, page_height: float) -> None:
        """Paint one page, from 0."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        y = 0.0
        for block in self.pages[number]:
            self._block(painter, block, y)
            y += block.height
        painter.setFont(self._theme.font(13))
        painter.setPen(self._theme.colour("quiet"))
        foot = QRectF(0, page_height - FOOT + 8, WIDTH, FOOT - 8)
        text = f"{self._sheet.title}    page {number + 1} of {len(self.pages)}"
        painter.drawText(foot, int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignBottom), text)

    def _block(self, painter: QPainter, block: Block, y: float) -> None:
        theme = self._theme
        if block.kind == "strip":
            assert self._strip is not None and self._sheet.stretch is not None
            painter.save()
            painter.translate(0, y - self._strip.top_of(block.row))
            StripPainter(theme, self._strip, self._sheet.stretch, Overlay()).paint(painter, [block.row])
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
        painter.drawText(QRectF(left, top, WIDTH - left, block.height), int(Qt.TextFlag.TextWordWrap), text)

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


def page_layout() -> QPageLayout:
    """A4 upright with margins for any printer."""
    margins = QMarginsF(MARGIN_MM, MARGIN_MM, MARGIN_MM, MARGIN_MM)
    return QPageLayout(
        QPageSize(QPageSize.PageSizeId.A4), QPageLayout.Orientation.Portrait, margins, QPageLayout.Unit.Millimeter
    )


def print_on(device: QPagedPaintDevice, sheet: Paper) -> int:
    """Print a sheet on a device whose page layout is set; gives how many pages it took."""
    area: QSizeF = device.pageLayout().paintRect(QPageLayout.Unit.Point).size()
    height = WIDTH * area.height() / area.width()
    pages = PaperPainter(sheet, height)
    painter = QPainter(device)
    scale = painter.viewport().width() / WIDTH
    painter.scale(scale, scale)
    for number in range(len(pages.pages)):
        if number:
            device.newPage()
        pages.paint(painter, number, height)
    painter.end()
    return len(pages.pages)
