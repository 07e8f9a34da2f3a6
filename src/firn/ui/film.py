"""A film of the model: the word now and the next, the count, the strip as far as it is danced, with its sound.

A picture is drawn when something moves, at the exact time of it: between two sounds nothing does.
"""

from bisect import bisect_right
from collections.abc import Iterator, Sequence
from fractions import Fraction
from pathlib import Path
from typing import Any

import numpy as np
from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QFont, QFontMetricsF, QImage, QPainter

from firn.core.sound.model import render_blocks
from firn.core.sound.voices import RATE
from firn.core.task import UNWATCHED, Task
from firn.core.timeline.timeline import Section, Timeline
from firn.errors import FirnError
from firn.files.whole import called, whole_file
from firn.session.stretch import Stretch
from firn.session.view import PLAIN, View
from firn.ui.theme.theme import Theme
from firn.ui.widgets.strip.layout import lay_out
from firn.ui.widgets.strip.paint import Overlay, StripPainter

WIDTH, HEIGHT = 1920, 1080
UNITS = 900.0
"""Units of the strip across the picture."""

MOST_A_SECOND = 30
STILL_S = 1.0
"""No picture stands longer than so: players find their place by them."""

TICKS = 1_000
"""WebM says times in thousandths of a second."""


class Moment(Struct, frozen=True):
    """What is seen from a time on: the count, the word now and the next, and how far it is danced."""

    at_s: Fraction
    count: str
    word: str
    following: str
    played: Fraction


def moments(stretch: Stretch, section: Section) -> list[Moment]:
    """What changes, and when: at each sound, each count and each word of the count-in; no more than are seen."""
    places = {s.position for s in stretch.sounds}
    places |= {Fraction(c) for c in range(int(-(-section.origin // 1)), int(-(-section.last // 1)))}
    led = dict(section.led)
    words = ["", *(text for _, text in stretch.words)]
    starts = [stretch.sounds[i].position for i, _ in stretch.words]
    found: list[Moment] = []
    for place in sorted(p for p in places if section.origin <= p < section.last):
        at = section.seconds_at(place)
        begun = bisect_right(starts, place)
        now, coming = words[begun], words[begun + 1] if begun < len(starts) else ""
        whole = Fraction(place // 1)
        count = led.get(whole, "") if whole < stretch.first else section.counting.counted(whole)
        one = Moment(at, count if place < stretch.end else "", now, coming, place)
        if found and at - found[-1].at_s < Fraction(1, MOST_A_SECOND):
            # Two in one picture: the later is what is seen.
            found[-1] = Moment(found[-1].at_s, one.count, one.word, one.following, one.played)
        else:
            found.append(one)
    if found and found[0].at_s > 0:
        found.insert(0, Moment(Fraction(0), "", "", found[0].word or found[0].following, section.origin))
    return found


class FilmPainter:
    """Paints what is seen at a moment."""

    def __init__(self, title: str, stretch: Stretch, view: View = PLAIN, *, dark: bool = True) -> None:
        self._theme = Theme(dark=dark)
        self._title, self._stretch = title, stretch
        words = QFontMetricsF(self._theme.font(17, QFont.Weight.Medium))
        self._strip = lay_out(stretch, UNITS, words.horizontalAdvance, view=view)
        self._image = QImage(WIDTH, HEIGHT, QImage.Format.Format_RGB888)

    def paint(self, moment: Moment) -> QImage:
        """The picture of a moment; the same image each time, painted anew."""
        theme = self._theme
        self._image.fill(theme.colour("paper"))
        painter = QPainter(self._image)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        left, right, centre = (getattr(Qt.AlignmentFlag, f"Align{to}") for to in ("Left", "Right", "VCenter"))
        medium, bold = QFont.Weight.Medium, QFont.Weight.Bold
        for box, size, weight, role, text, align in (
            (QRectF(70, 30, WIDTH - 140, 80), 44, medium, "quiet", self._title, left),
            (QRectF(70, 130, 1_060, 240), 150, bold, "ink", moment.word, left),
            (QRectF(70, 370, 1_060, 110), 70, medium, "quiet", moment.following, left),
            (QRectF(1_250, 110, 600, 380), 280, bold, "ink", moment.count, right),
        ):
            painter.setFont(self._fitting(text, size, weight, box.width()))
            painter.setPen(theme.colour(role))
            painter.drawText(box, int(align | centre), text)
        self._rows(painter, moment)
        painter.end()
        return self._image

    def _fitting(self, text: str, size: float, weight: QFont.Weight, width: float) -> QFont:
        font = QFont(self._theme.font(size, weight))
        while size > 30 and QFontMetricsF(font).horizontalAdvance(text) > width:
            size *= 0.85
            font = QFont(self._theme.font(size, weight))
        return font

    def _rows(self, painter: QPainter, moment: Moment) -> None:
        """The row that is danced, and as many after it as there is room for."""
        strip, scale = self._strip, WIDTH / (UNITS + 20)
        room = (HEIGHT - 520) / scale
        many = max(1, int(room // strip.row_height))
        here = strip.row_of(max(moment.played, self._stretch.first))
        first = max(0, min(here, len(strip.rows) - many))
        shown = range(first, min(len(strip.rows), first + many))
        painter.save()
        painter.setClipRect(QRectF(0, 510, WIDTH, HEIGHT - 510))
        painter.translate(QPointF(10 * scale, 520))
        painter.scale(scale, scale)
        painter.translate(0, -strip.top_of(first))
        StripPainter(self._theme, strip, self._stretch, Overlay(played=moment.played)).paint(painter, shown)
        painter.restore()


Shown = Sequence[tuple[Stretch, Section]]
"""What a film shows: sections one after another, as on a ladder, each with the strip that it is of."""


def write_film(path: Path, title: str, shown: Shown, view: View = PLAIN, task: Task = UNWATCHED) -> None:
    """Write a film as WebM: VP9 and Opus, `HEIGHT` lines; whole or not at all. Raises FirnError with one sentence."""
    try:
        import av
    except ImportError as fault:
        raise FirnError("Films need PyAV to be written, which is not installed here.") from fault
    timeline = Timeline(tuple(section for _, section in shown))
    with whole_file(path) as draft:
        try:
            with av.open(str(draft), "w", format="webm") as out:
                sound = out.add_stream("libopus", rate=RATE, layout="stereo")
                sound.bit_rate = 128_000
                picture = out.add_stream("libvpx-vp9", rate=MOST_A_SECOND)
                picture.width, picture.height, picture.pix_fmt = WIDTH, HEIGHT, "yuv420p"
                picture.time_base = picture.codec_context.time_base = Fraction(1, TICKS)
                picture.options = {"deadline": "realtime", "cpu-used": "8", "row-mt": "1", "crf": "32", "b": "0"}
                pictures = _pictures(av, picture, title, shown, view)
                for packet in _woven(pictures, _sounds(av, sound, timeline), task):
                    out.mux(packet)
        except av.error.FFmpegError as fault:
            raise FirnError(f"{called(path)} could not be written as a film.") from fault


Coded = Iterator[tuple[float, Any]]
"""Packets, each with its time in seconds."""


def _seen(title: str, shown: Shown, view: View) -> Iterator[tuple[Fraction, Fraction, QImage]]:
    """Each picture, with the exact seconds from and until which it stands."""
    start = Fraction(0)
    for stretch, section in shown:
        painter = FilmPainter(f"{title}    {section.name}".strip(), stretch, view)
        seen, end = moments(stretch, section), section.length_s
        for one, until in zip(seen, [*(later.at_s for later in seen[1:]), end], strict=True):
            yield start + one.at_s, start + until, painter.paint(one)
        start += end


def _pictures(av: Any, stream: Any, title: str, shown: Shown, view: View) -> Coded:
    until = Fraction(0)
    for at, until, image in _seen(title, shown, view):
        pixels = np.frombuffer(image.constBits(), np.uint8).reshape(HEIGHT, image.bytesPerLine())[:, : 3 * WIDTH]
        frame = av.VideoFrame.from_ndarray(np.ascontiguousarray(pixels).reshape(HEIGHT, WIDTH, 3), format="rgb24")
        frame = frame.reformat(format="yuv420p")
        while at < until:
            frame.pts, frame.time_base = round(at * TICKS), Fraction(1, TICKS)
            for packet in stream.encode(frame):
                yield float(at), packet
            # Nothing moves: the same again, so that nobody waits for it.
            at = min(until, at + Fraction(STILL_S)) if until - at > STILL_S * 3 / 2 else until
    for packet in stream.encode(None):
        yield float(until), packet


def _sounds(av: Any, stream: Any, timeline: Timeline) -> Coded:
    at = 0
    resampler = av.AudioResampler(format=stream.codec_context.format.name, layout="stereo", rate=RATE)
    for block in render_blocks(timeline):
        for first in range(0, len(block), RATE):
            piece = np.ascontiguousarray(block[first : first + RATE].reshape(1, -1), np.float32)
            frame = av.AudioFrame.from_ndarray(piece, format="flt", layout="stereo")
            frame.sample_rate, frame.pts, frame.time_base = RATE, at, Fraction(1, RATE)
            for ready in resampler.resample(frame):
                for packet in stream.encode(ready):
                    yield at / RATE, packet
            at += piece.shape[1] // 2
    for ready in resampler.resample(None):
        for packet in stream.encode(ready):
            yield at / RATE, packet
    for packet in stream.encode(None):
        yield at / RATE, packet


def _woven(pictures: Coded, sounds: Coded, task: Task) -> Iterator[Any]:
    """Packets of both in the order of their times."""
    heads: list[tuple[float, Any] | None] = [next(pictures, None), next(sounds, None)]
    streams = (pictures, sounds)
    while any(heads):
        which = min((n for n, head in enumerate(heads) if head is not None), key=lambda n: heads[n][0])  # type: ignore[index]
        head = heads[which]
        assert head is not None
        task.step(min(0.99, head[0] / (head[0] + 10)))
        yield head[1]
        heads[which] = next(streams[which], None)
