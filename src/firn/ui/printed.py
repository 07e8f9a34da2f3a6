"""Paper as it leaves Firn: laid out on sheets, on a printer, as PDF, or its strip as a picture."""

from PySide6.QtCore import QBuffer, QByteArray, QIODevice, QMarginsF, QPointF, QRectF, QSizeF, Qt
from PySide6.QtGui import (
    QFont,
    QFontMetricsF,
    QGuiApplication,
    QImage,
    QImageWriter,
    QPagedPaintDevice,
    QPageLayout,
    QPageSize,
    QPainter,
    QPdfWriter,
)

from firn.errors import FirnError
from firn.session.paper import Paper
from firn.session.settings import PaperSize
from firn.session.stretch import Stretch
from firn.ui.paper import WIDTH, PaperPainter
from firn.ui.theme.theme import Theme, load_fonts
from firn.ui.widgets.strip.geometry import StripLayout
from firn.ui.widgets.strip.layout import lay_out
from firn.ui.widgets.strip.paint import Overlay, StripPainter

MARGIN_MM, POCKET_MARGIN_MM = 15.0, 7.0

SIZES: dict[PaperSize, QPageSize.PageSizeId] = {
    "A4": QPageSize.PageSizeId.A4, "Letter": QPageSize.PageSizeId.Letter, "A6": QPageSize.PageSizeId.A6,
}  # fmt: skip


SMALLER = (0.8, 0.9, 1.0, 1.15, 1.3, 1.5, 1.75)
"""How much smaller a sheet is made that is to stand on one page: as large as it can be."""


def page_layout(size: PaperSize = "A4") -> QPageLayout:
    """A sheet upright with margins for any printer."""
    around = POCKET_MARGIN_MM if size == "A6" else MARGIN_MM
    margins = QMarginsF(around, around, around, around)
    return QPageLayout(QPageSize(SIZES[size]), QPageLayout.Orientation.Portrait, margins, QPageLayout.Unit.Millimeter)


HALL, POCKET = 1.8, 0.75
"""Letters to be read across a hall, and those of a sheet for a pocket, as shares of those on A4."""
POCKET_MM = 120.0
"""What is narrower is for a pocket."""
LEGIBLE = 0.57
"""No letters are smaller than this share of those on A4."""
A4_MM = 210 - 2 * MARGIN_MM


def fitted(sheet: Paper, layout: QPageLayout) -> tuple[PaperPainter, float, float]:
    """What paints a sheet on pages of a layout, with the width and height of one in its units."""
    area = layout.paintRect(QPageLayout.Unit.Millimeter)
    ratio = area.height() / area.width()
    pocket = area.width() < POCKET_MM
    letters = (HALL if sheet.hall else 1.0) * (POCKET if pocket else 1.0)
    # On A4 and Letter as many units go across.
    usual = WIDTH * (area.width() / A4_MM if pocket else 1.0) / letters
    for smaller in SMALLER if sheet.one_page else (1.0,):
        if smaller > 1 and letters / smaller < LEGIBLE:
            # Rather on two pages than too small to be read.
            break
        width = usual * smaller
        pages = PaperPainter(sheet, width * ratio, width)
        if len(pages.pages) == 1:
            break
    return pages, width, width * ratio


def print_on(device: QPagedPaintDevice, sheet: Paper) -> int:
    """Print a sheet on a device whose page layout is set; gives how many pages it took."""
    pages, width, height = fitted(sheet, device.pageLayout())
    painter = QPainter(device)
    scale = painter.viewport().width() / width
    painter.scale(scale, scale)
    for number in range(len(pages.pages)):
        if number:
            device.newPage()
        pages.paint(painter, number, height)
    painter.end()
    return len(pages.pages)


def pdf_of(sheet: Paper, size: PaperSize = "A4") -> tuple[bytes, int]:
    """A sheet as PDF, and its pages; made in memory, since Qt says nothing of a place that it cannot write."""
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    writer = QPdfWriter(buffer)
    writer.setResolution(300)
    writer.setPageLayout(page_layout(size))
    writer.setTitle(sheet.title)
    writer.setCreator("Firn")
    pages = print_on(writer, sheet)
    return bytes(buffer.data().data()), pages


def picture_of(sheet: Paper, size: PaperSize, page: int, wide: int) -> tuple[QImage, int]:
    """A page, from 0, as a picture with its margins, `wide` pixels between them, and how many pages there are; past
    the last it is the last."""
    layout = page_layout(size)
    pages, width, height = fitted(sheet, layout)
    area, margins = layout.paintRect(QPageLayout.Unit.Millimeter), layout.margins(QPageLayout.Unit.Millimeter)
    margin = round(wide * margins.left() / area.width())
    image = QImage(wide + 2 * margin, round(wide * height / width) + 2 * margin, QImage.Format.Format_RGB32)
    image.fill(Qt.GlobalColor.white)
    painter = QPainter(image)
    painter.translate(margin, margin)
    painter.scale(wide / width, wide / width)
    many = len(pages.pages)
    pages.paint(painter, min(page, many - 1), height)
    painter.end()
    return image, many


SHARP = 2.0
"""Pixels of a picture for each unit of a strip."""


def _strip_of(sheet: Paper) -> tuple[Stretch, StripLayout, QSizeF]:
    assert sheet.stretch is not None
    words = QFontMetricsF(Theme(tabular=False).font(17, QFont.Weight.Medium))
    laid = lay_out(sheet.stretch, WIDTH, words.horizontalAdvance, view=sheet.view)
    return sheet.stretch, laid, QSizeF(WIDTH, laid.row_height * len(laid.rows))


def png_of(sheet: Paper) -> bytes:
    """The strip of a sheet as PNG, on white."""
    stretch, laid, size = _strip_of(sheet)
    image = QImage(round(size.width() * SHARP), round(size.height() * SHARP), QImage.Format.Format_RGB32)
    image.fill(Qt.GlobalColor.white)
    painter = QPainter(image)
    painter.scale(SHARP, SHARP)
    StripPainter(Theme(tabular=False), laid, stretch, Overlay()).paint(painter, range(len(laid.rows)))
    painter.end()
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    QImageWriter(buffer, QByteArray(b"png")).write(image)
    return bytes(buffer.data().data())


def svg_of(sheet: Paper) -> bytes:
    """The strip of a sheet as SVG."""
    from PySide6.QtSvg import QSvgGenerator

    stretch, laid, size = _strip_of(sheet)
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    drawing = QSvgGenerator()
    drawing.setOutputDevice(buffer)
    drawing.setSize(size.toSize())
    drawing.setViewBox(QRectF(QPointF(0, 0), size))
    drawing.setTitle(sheet.title)
    painter = QPainter(drawing)
    StripPainter(Theme(tabular=False), laid, stretch, Overlay()).paint(painter, range(len(laid.rows)))
    painter.end()
    return bytes(buffer.data().data())


_app: QGuiApplication | None = None


def without_window() -> None:
    """Make ready to draw where there is no window."""
    global _app
    if QGuiApplication.instance() is None:
        # Held: Qt's own application goes with the last name for it.
        _app = QGuiApplication(["firn"])
    load_fonts()


def drawn(sheet: Paper, ending: str, size: PaperSize = "A4") -> bytes:
    """A sheet as PDF, or its strip as SVG or PNG, by the ending of a name; without a window, and without one that was
    there before. Raises FirnError where a sheet has no strip."""
    without_window()
    if ending == ".pdf":
        return pdf_of(sheet, size)[0]
    if sheet.stretch is None:
        raise FirnError(f"A {ending} is of a strip: such a sheet is a PDF.")
    return svg_of(sheet) if ending == ".svg" else png_of(sheet)
