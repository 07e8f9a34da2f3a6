"""Draws the icon as the picture that windows show; run it after every change to the drawing."""

import os
from pathlib import Path

from PySide6.QtCore import QBuffer
from PySide6.QtGui import QGuiApplication, QImage, QPainter
from PySide6.QtSvg import QSvgRenderer

from firn.ui.start import ICON

SIZE = 128


def drawn(drawing: Path) -> bytes:
    """A drawing as PNG."""
    picture = QImage(SIZE, SIZE, QImage.Format.Format_ARGB32)
    picture.fill(0)
    painter = QPainter(picture)
    QSvgRenderer(str(drawing)).render(painter)
    painter.end()
    kept = QBuffer()
    picture.save(kept, "PNG")  # type: ignore[call-overload]
    return bytes(kept.data().data())


if __name__ == "__main__":
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    app = QGuiApplication([])
    ICON.write_bytes(drawn(ICON.with_suffix(".svg")))
