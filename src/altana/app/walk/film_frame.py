"""The Frame of the Walk desk: one film frame of a walk, with those drawn before kept for playing again."""

from __future__ import annotations

from collections.abc import Callable, Hashable

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QImage, QMouseEvent

from altana.app.canvas.frame import FrameView
from altana.app.canvas.frame_picture import FramePicture
from altana.app.theme.tokens import Tokens
from altana.app.theme.words import tr
from altana.app.walk.reel import Reel
from altana.app.workspace.workspace import Workspace
from altana.core.light.own import MomentLight
from altana.core.picture_key import PictureKey, walk_key
from altana.core.project import Camera, Light

#: Film frames drawn while nothing else is are this much smaller than the Frame.
FILL_DIVISOR = 1.25
#: A film frame: its camera, and what of its light is keyed.
Filmed = tuple[Camera, MomentLight]


class FilmPicture(FramePicture):
    """Film frames as pictures: each keeps its number, and finds its place in the reel when it comes."""

    def __init__(self, frame: FilmFrame, workspace: Workspace, channel: str, checking: bool) -> None:
        super().__init__(frame, workspace, channel, checking)
        self._film_frame = frame
        self.moment = MomentLight()
        #: Film frames on order by revision: what they depend on, and their number.
        self._coming: dict[int, tuple[Hashable, int]] = {}

    def key(self) -> PictureKey:
        """What all film frames of the walk depend on at this size."""
        rect = self._frame.frame_rect()
        return walk_key(
            self._state.walk, (rect.width(), rect.height()), self._studio.scenery, self._state.hiding
        )

    def light(self) -> Light:
        """Sun and lamps of the film frame."""
        return self.moment.of(self._bridge.project.light)

    def order(self, look: str) -> None:
        """Coarse film frames are kept for playing."""
        before = self._latest
        super().order(look)
        if look == "coarse" and self._latest != before:
            self._coming[self._latest] = (self.key(), self._film_frame.number)
            for old in sorted(self._coming)[:-40]:
                del self._coming[old]

    def order_ahead(self, filmed: Filmed, number: int) -> None:
        """Draw a film frame that is not shown now, for later."""
        camera, moment = filmed
        view = self.view_of(camera, self._frame.frame_rect(), FILL_DIVISOR)
        revision = self._studio.order_picture(
            f"{self.channel}:reel",
            "coarse",
            view,
            moment.of(self._bridge.project.light),
            camera.ev,
            camera.inside,
            6,
            self.staging(camera),
        )
        self._coming[revision] = (self.key(), number)

    def arrived(self, channel: str, revision: int, image: QImage, look: str) -> None:
        """A picture has come: into the reel, or into sight as well."""
        coming = self._coming.pop(revision, None)
        if channel == f"{self.channel}:reel":
            self._film_frame.filled(coming is None or self._film_frame.reel.keep(*coming, image))
            return
        super().arrived(channel, revision, image, look)
        if channel == self.channel and coming is not None:
            self._film_frame.reel.keep(*coming, image)
            self._film_frame.film_frame_shown.emit(coming[1])


class FilmFrame(FrameView):
    """Shows film frames by number; ``film_frame_shown(number)`` when one is up."""

    film_frame_shown = Signal(int)

    def __init__(self, workspace: Workspace, tokens: Tokens) -> None:
        self.reel = Reel()
        self.number = 0
        self._film: tuple[int, Callable[[int], Filmed | None]] | None = None
        self._filling = False
        super().__init__(workspace, tokens, "walk", walking=True)

    def own_picture(self, channel: str, checking: bool) -> FilmPicture:
        """The film frame that is shown."""
        self.filmed = FilmPicture(self, self._workspace, channel, checking)
        return self.filmed

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """A press chooses the object that is seen there."""
        scene, hit = self._studio.scene, self.picking.hit(event.position())
        if event.button() != Qt.MouseButton.LeftButton or scene is None or self.override is None:
            super().mousePressEvent(event)
        elif hit is not None:
            item = scene.model.objects[int(scene.owner[hit[0]])]
            self._state.choose_object(item.id)
            self._bridge.notices.note(tr("“{name}” is chosen.", name=item.name))

    def show_film_frame(self, filmed: Filmed | None, number: int, playing: bool) -> None:
        """Show a film frame; while playing a kept picture does, otherwise it is drawn and sharpened."""
        self.override, self.filmed.moment = filmed or (None, MomentLight())
        self.number = number
        self.reel.about(self.filmed.key())
        kept = self.reel.take(number) if playing and filmed is not None else None
        if kept is None:
            self.refresh()
            return
        self._rest.stop()
        # Not the sharp picture of this camera: that is ordered when the walk stops here.
        self.filmed.image, self.filmed.look, self.filmed.image_key = kept, "coarse", None
        self.film_frame_shown.emit(number)
        self.update()

    @property
    def filling(self) -> bool:
        """Whether missing film frames are being drawn."""
        return self._filling

    def fill(self, count: int, filmed: Callable[[int], Filmed | None]) -> None:
        """Draw the film frames that are still missing, one after the other, while nothing else is drawn."""
        self._film, self._filling = (count, filmed), True
        self._fill_next()

    def stop_filling(self) -> None:
        """Leave off."""
        self._filling = False

    def filled(self, kept: bool) -> None:
        """One that was missing is there, or found no more room."""
        self._filling = self._filling and kept
        self._fill_next()

    def _fill_next(self) -> None:
        if not self._filling or self._film is None or not self.isVisible():
            return
        self.reel.about(self.filmed.key())
        number = self.reel.missing(self._film[0])
        filmed = self._film[1](number) if number is not None else None
        if number is None or filmed is None or self.frame_rect().isEmpty():
            self._filling = False
            return
        self.filmed.order_ahead(filmed, number)
