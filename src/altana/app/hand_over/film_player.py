"""A finished film, played at its own rate; time is kept, film frames are left out."""

from __future__ import annotations

import time
from collections.abc import Iterator
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QRectF, Qt, QTimer, Signal
from PySide6.QtGui import QColor, QImage, QKeyEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from altana.app.canvas.picture_view import image_of, paint_caption, paint_focus
from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.app.theme.words import tr

if TYPE_CHECKING:
    import av


class FilmPlayer(QWidget):
    """Shows a film file; ``moved(seconds)`` while it plays.  Space plays and stops, arrows go by a film
    frame."""

    moved = Signal(float)

    def __init__(self, tokens: Tokens) -> None:
        super().__init__()
        self._tokens = tokens
        self._container: av.container.InputContainer | None = None
        self._frames: Iterator[av.VideoFrame] = iter(())
        self._image: QImage | None = None
        #: Another film that is played in step with this one.
        self.peer: FilmPlayer | None = None
        #: What it is called where two are beside each other.
        self.caption = ""
        self._next: av.VideoFrame | None = None
        self.seconds, self.length, self.rate = 0.0, 0.0, 25.0
        self._since = 0.0
        self._clock = QTimer(self)
        self._clock.setInterval(15)
        self._clock.timeout.connect(self._tick)
        self.setMinimumSize(200, 150)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("Film"))
        self.setToolTip(tr("Space plays and stops, the arrow keys go by a film frame"))
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)

    @property
    def playing(self) -> bool:
        """Whether it plays."""
        return self._clock.isActive()

    def open(self, path: Path | None) -> bool:
        """Another film; False where it cannot be read."""
        # The library that reads films is large, and most who open a window look at none.
        import av

        self._clock.stop()
        if self._container is not None:
            self._container.close()
        self._container, self._image, self._next = None, None, None
        if path is not None:
            try:
                self._container = av.open(str(path))
                stream = self._container.streams.video[0]
                self.rate = float(stream.average_rate or 25)
                whole = self._container.duration / av.time_base if self._container.duration else 0.0
                self.length = (
                    float(stream.duration * stream.time_base)
                    if stream.duration and stream.time_base
                    else whole
                )
                self.seek(0.0)
            except (av.FFmpegError, OSError, IndexError):
                self._container = None
        self.update()
        return self._container is not None

    def seek(self, seconds: float) -> None:
        """Show the film frame of a moment."""
        if self._container is None:
            return
        stream = self._container.streams.video[0]
        base = float(stream.time_base or 1)
        self._container.seek(max(0, int((seconds - 1e-3) / base)), stream=stream, backward=True)
        self._frames = self._container.decode(stream)
        self._next = None
        for frame in self._frames:
            if frame.time is not None and frame.time >= seconds - 0.5 / self.rate:
                self._image = image_of(frame.to_ndarray(format="rgb24"))
                self.seconds = float(frame.time)
                break
        self._since = time.monotonic() - self.seconds
        if self.peer is not None and self.peer.opened:
            self.peer.seek(seconds)
        self.moved.emit(self.seconds)
        self.update()

    def toggle(self) -> None:
        """Play from here, or stop; at the end it begins anew."""
        if self.playing:
            self._clock.stop()
        elif self._container is not None:
            if self.seconds >= self.length - 1.5 / self.rate:
                self.seek(0.0)
            self._since = time.monotonic() - self.seconds
            self._clock.start()
        if self.peer is not None and self.peer.opened and self.peer.playing != self.playing:
            self.peer.follow(self._since, self.playing)

    @property
    def opened(self) -> bool:
        """Whether there is a film."""
        return self._container is not None

    def follow(self, since: float, playing: bool) -> None:
        """Play or rest in step with another: ``since`` is when, by the clock, its film began."""
        self._since = since
        (self._clock.start if playing else self._clock.stop)()

    def _tick(self) -> None:
        now = time.monotonic() - self._since
        latest: av.VideoFrame | None = None
        while self._container is not None:
            frame = self._next or next(self._frames, None)
            self._next = None
            if frame is None:
                self._clock.stop()
                break
            if float(frame.time or 0.0) > now:
                # Not yet: it waits for its moment.
                self._next = frame
                break
            # One that comes too late is only decoded.
            latest = frame
        if latest is not None:
            self._image, self.seconds = image_of(latest.to_ndarray(format="rgb24")), float(latest.time or 0.0)
            self.moved.emit(self.seconds)
            self.update()

    def paintEvent(self, _: QPaintEvent) -> None:
        """The film frame, fitted."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(self._tokens.well))
        if self._image is None:
            painter.setFont(text_font(10))
            painter.setPen(QColor(self._tokens.band))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, tr("No film chosen"))
        else:
            shown = self._image.scaled(
                self.size() * 0.98,
                Qt.AspectRatioMode.KeepAspectRatio,
                Qt.TransformationMode.SmoothTransformation,
            )
            painter.drawImage(
                (self.width() - shown.width()) // 2, (self.height() - shown.height()) // 2, shown
            )
            if self.caption:
                paint_caption(painter, QRectF(self.rect()), self.caption, self._tokens)
        paint_focus(painter, self, self._tokens)
        painter.end()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Space plays and stops; left and right go by a film frame."""
        if event.key() == Qt.Key.Key_Space:
            self.toggle()
        elif event.key() in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self._clock.stop()
            self.seek(max(0.0, self.seconds + (1.0 if event.key() == Qt.Key.Key_Right else -1.0) / self.rate))
        else:
            super().keyPressEvent(event)

    def hideEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        """Out of sight it stops."""
        self._clock.stop()
        super().hideEvent(event)
