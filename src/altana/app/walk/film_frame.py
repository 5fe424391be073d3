"""The Frame of the Walk desk: one film frame of a walk, with those drawn before kept for playing again."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from dataclasses import replace

from PySide6.QtCore import Signal
from PySide6.QtGui import QImage

from altana.app.canvas.frame import FrameView
from altana.app.theme.tokens import Tokens
from altana.app.walk.reel import Reel
from altana.app.workspace.workspace import Workspace
from altana.core.picture_key import PictureKey, walk_key
from altana.core.project import Camera, Light

#: Film frames drawn while nothing else is are this much smaller than the Frame.
FILL_DIVISOR = 1.25
#: A film frame: its camera and the local time of day, None where the project's holds.
Filmed = tuple[Camera, float | None]


class FilmFrame(FrameView):
    """Shows film frames by number; ``film_frame_shown(number)`` when one is up."""

    film_frame_shown = Signal(int)

    def __init__(self, workspace: Workspace, tokens: Tokens) -> None:
        self.reel = Reel()
        self.number = 0
        self.hour: float | None = None
        #: Film frames on order by revision: what they depend on, and their number.
        self._coming: dict[int, tuple[Hashable, int]] = {}
        self._film: tuple[int, Callable[[int], Filmed | None]] | None = None
        self._filling = False
        super().__init__(workspace, tokens, "walk", walking=True)

    def show_film_frame(self, filmed: Filmed | None, number: int, playing: bool) -> None:
        """Show a film frame; while playing a kept picture does, otherwise it is drawn and sharpened."""
        self.override, self.hour = filmed or (None, None)
        self.number = number
        self.reel.about(self._key())
        kept = self.reel.take(number) if playing and filmed is not None else None
        if kept is None:
            self.refresh()
            return
        self._rest.stop()
        # Not the sharp picture of this camera: that is ordered when the walk stops here.
        self._image, self._look, self._image_key = kept, "coarse", None
        self.film_frame_shown.emit(number)
        self.update()

    def fill(self, count: int, filmed: Callable[[int], Filmed | None]) -> None:
        """Draw the film frames that are still missing, one after the other, while nothing else is drawn."""
        self._film, self._filling = (count, filmed), True
        self._fill_next()

    def stop_filling(self) -> None:
        """Leave off."""
        self._filling = False

    def _fill_next(self) -> None:
        if not self._filling or self._film is None or not self.isVisible():
            return
        self.reel.about(self._key())
        number = self.reel.missing(self._film[0])
        filmed = self._film[1](number) if number is not None else None
        rect = self.frame_rect()
        if number is None or filmed is None or rect.isEmpty():
            self._filling = False
            return
        camera, hour = filmed
        view = self._view(camera, rect, FILL_DIVISOR)
        revision = self._studio.order_picture(
            f"{self._channel}:reel",
            "coarse",
            view,
            self._light_at(hour),
            camera.ev,
            camera.inside,
            6,
            self._staging(camera),
        )
        self._coming[revision] = (self._key(), number)

    def _key(self) -> PictureKey:
        rect = self.frame_rect()
        size = (rect.width(), rect.height())
        return walk_key(self._state.walk, size, self._studio.scenery, self._state.hiding)

    def _light(self) -> Light:
        return self._light_at(self.hour)

    def _light_at(self, hour: float | None) -> Light:
        light = self._bridge.project.light
        return light if hour is None else replace(light, hour=hour)

    def _order(self, look: str) -> None:
        before = self._latest
        super()._order(look)
        if look == "coarse" and self._latest != before:
            self._coming[self._latest] = (self._key(), self.number)
            for old in sorted(self._coming)[:-40]:
                del self._coming[old]

    def _arrived(self, channel: str, revision: int, image: QImage, look: str) -> None:
        coming = self._coming.pop(revision, None)
        if channel == f"{self._channel}:reel":
            if coming is not None and not self.reel.keep(*coming, image):
                self._filling = False
            self._fill_next()
            return
        super()._arrived(channel, revision, image, look)
        if channel == self._channel and coming is not None:
            self.reel.keep(*coming, image)
            self.film_frame_shown.emit(coming[1])
