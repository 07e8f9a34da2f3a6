"""A made-up film of two feet, drawn and struck: for pictures of a clip above the strip."""

from collections.abc import Collection
from pathlib import Path

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QImage, QPainter
from tests.films import RATE as SOUND_HZ
from tests.films import strikes, write

WIDTH, HEIGHT, RATE = 640, 360, 30
LEG, SHOE, FLOOR, WALL = QColor("#3C4A55"), QColor("#1C262E"), QColor("#B9A88F"), QColor("#DDD6CA")
LIFT_S, HIGH = 0.22, 46.0


def film(path: Path, steps: list[tuple[float, str]], seconds: float, brushed: Collection[float] = ()) -> None:
    """A film in which a foot ("left" or "right") comes down at each time, and is heard; at some it brushes."""
    pictures = [_picture(n / RATE, steps) for n in range(round(seconds * RATE))]
    sound = strikes([time for time, _ in steps if time not in brushed], seconds)
    rng, at = np.random.default_rng(3), np.arange(round(0.07 * SOUND_HZ)) / SOUND_HZ
    for time in brushed:
        first = round(time * SOUND_HZ)
        # A swish: noise without its lows, that swells and dies away.
        swish = np.diff(rng.standard_normal(len(at) + 1)) * np.minimum(1, at / 0.006) * np.exp(-at / 0.02)
        sound[first : first + len(at)] += np.float32(0.05) * swish[: len(sound) - first].astype(np.float32)
    write(path, sound, pictures=pictures, key_every=30)


def _picture(time: float, steps: list[tuple[float, str]]) -> np.ndarray:
    image = QImage(WIDTH, HEIGHT, QImage.Format.Format_RGB888)
    image.fill(WALL)
    painter = QPainter(image)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.fillRect(QRectF(0, 290, WIDTH, 70), FLOOR)
    # Seen from the front: the dancer's left foot is on the right.
    for foot, x in (("left", 385.0), ("right", 255.0)):
        next_s = min((at - time for at, which in steps if which == foot and at >= time), default=9.0)
        lift = HIGH * np.sin(np.pi * min(1.0, next_s / LIFT_S)) if next_s < LIFT_S else 0.0
        painter.setBrush(LEG)
        painter.drawRoundedRect(QRectF(x - 24, -20, 48, 285 - lift), 18, 18)
        painter.setBrush(SHOE)
        painter.drawEllipse(QPointF(x, 282 - lift), 40, 26)
    painter.end()
    bits = np.frombuffer(image.constBits(), np.uint8).reshape(HEIGHT, image.bytesPerLine())
    return bits[:, : 3 * WIDTH].reshape(HEIGHT, WIDTH, 3).copy()
