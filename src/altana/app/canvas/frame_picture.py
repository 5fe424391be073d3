"""The picture in the Frame: what it depends on, when another is asked for, and what has come."""

from __future__ import annotations

from dataclasses import replace
from typing import Protocol

from PySide6.QtCore import QObject, QRectF
from PySide6.QtGui import QImage

from altana.app.canvas.aids import HATCHED
from altana.app.workspace.ordering import FACTS_PX
from altana.app.workspace.soon import Soon
from altana.app.workspace.workspace import Workspace
from altana.core.camera.view import Lens, View
from altana.core.light.own import light_for
from altana.core.picture_key import KNOWN, PictureKey, camera_key
from altana.core.project import Camera, Light
from altana.core.staging import Staging
from altana.render.quality import COARSE, refining

#: A picture has rested when nothing was done for so long.
RESTING_MS = 700
#: Hatched aids are looked at this wide.
AIDED_PX = 640


class FrameGround(Protocol):
    """What the picture needs of the Frame that shows it."""

    plain: bool
    walking: bool
    surround: bool
    override: Camera | None

    @property
    def camera(self) -> Camera | None:
        """What is shown."""

    @property
    def aids(self) -> set[str]:
        """The aids that are shown over the picture."""

    def frame_rect(self) -> QRectF:
        """Where the picture lies."""

    def isVisible(self) -> bool:
        """Whether anybody sees it."""

    def width(self) -> int:
        """Pixels."""

    def height(self) -> int:
        """Pixels."""

    def devicePixelRatioF(self) -> float:
        """Pixels of the screen in one of the widget's."""

    def update(self) -> None:
        """Paint again."""


class FramePicture:
    """The picture of one Frame.  checking : what pictures consist of is asked for, and noted in the check
    book."""

    def __init__(self, frame: FrameGround, workspace: Workspace, channel: str, checking: bool) -> None:
        self._frame, self.channel = frame, channel
        self._bridge, self._state, self._studio = workspace.bridge, workspace.state, workspace.studio
        self._book = workspace.book if checking else None
        self.image: QImage | None = None
        #: What the picture in sight is of, and how it was drawn: coarse, full or still.
        self.image_key: PictureKey | None = None
        self.look = ""
        self._ordered_key: PictureKey | None = None
        self._latest = 0
        #: The picture for whose own places light was asked, and its view: of another size or with more about
        #: it it shows others.
        self._refined: tuple[PictureKey, View] | None = None
        # It ends with the Frame.
        assert isinstance(frame, QObject)
        self._rest = Soon(frame, RESTING_MS, self._refine)
        self._studio.picture.connect(self.arrived)
        self._studio.places_lit.connect(self._lit)

    def key_of(self, camera: Camera) -> PictureKey:
        """What the picture of a camera depends on here."""
        scenery = replace(self._studio.scenery, light=self.light())
        return camera_key(camera, scenery, self._state.hiding)

    @property
    def current(self) -> bool:
        """Whether the picture in sight is of what is shown now, and at rest."""
        camera = self._frame.camera
        return camera is not None and self.look == "still" and self.image_key == self.key_of(camera)

    def view_of(self, camera: Camera, rect: QRectF, divisor: float) -> View:
        """The picture to order: the exact frame, or more around it when the surround is shown."""
        ratio = self._frame.devicePixelRatioF()
        width, height = (
            max(16, round(rect.width() * ratio / divisor)),
            max(16, round(rect.height() * ratio / divisor)),
        )
        view = camera.view(width, height)
        if not self._frame.surround or self._frame.override is not None:
            return view
        whole_w, whole_h = (
            max(16, round(self._frame.width() * ratio / divisor)),
            max(16, round(self._frame.height() * ratio / divisor)),
        )
        # The frame need not lie in the middle of the well; the larger picture is shifted to meet it.
        raised = (self._frame.height() / 2 - rect.center().y()) * ratio / divisor * view.sensor_mm[0] / width
        lens = Lens(
            camera.focal_mm, view.sensor_mm[0] * whole_w / width, camera.rise_mm - raised, camera.cross_mm
        )
        return replace(view, lens=lens, width_px=whole_w, height_px=whole_h, keep_sensor_height=False)

    def order(self, look: str) -> None:
        """Ask for the picture of what is shown now: coarse, full or still."""
        camera = self._frame.camera
        rect = self._frame.frame_rect()
        if camera is None or rect.isEmpty() or not self._frame.isVisible():
            return
        whole = self.view_of(camera, rect, 1.0)
        if self._refined is not None and self._refined != (self.key_of(camera), whole):
            self._refined = None
            self._studio.light_places(self.channel)
        urgency = {"coarse": 0, "full": 1, "still": 3}[look]
        view = self.view_of(camera, rect, COARSE.divisor) if look == "coarse" else whole
        staging = self.staging(camera)
        self._latest = self._studio.order_picture(
            self.channel,
            look,
            view,
            light_for(self.light(), camera),
            camera.ev,
            camera.inside,
            urgency,
            staging,
        )
        self._ordered_key = self.key_of(camera)

    def light(self) -> Light:
        """The sun of the picture."""
        return self._bridge.project.light

    def staging(self, camera: Camera) -> Staging:
        """What the picture shows: a film frame what its walk leaves out, anything else what its camera
        does."""
        project, hiding = self._bridge.project, self._state.hiding
        if self._frame.walking:
            return self._studio.walk_staging(project, self._state.walk, hiding)
        return self._studio.staging(project, camera, hiding)

    def arrived(self, channel: str, revision: int, image: QImage, look: str) -> None:
        """A picture has come."""
        if channel != self.channel:
            return
        # A sharp picture of where the camera no longer is would be worse than the coarse one shown.
        if look != "coarse" and revision != self._latest:
            return
        self.image, self.look = image, look
        if revision == self._latest:
            self.image_key = self._ordered_key
            if look == "full" and not self._bridge.in_gesture:
                self.order("still")
                if self._frame.override is None:
                    self.ask_facts()
            elif look == "still":
                self._rest.start()
        self._frame.update()

    def _refine(self) -> None:
        """Have the light reckoned of the very places that the picture at rest shows."""
        camera = self._frame.camera
        if camera is None or not self.current or self._frame.walking:
            return
        wanted = self.key_of(camera), self.view_of(camera, self._frame.frame_rect(), 1.0)
        if wanted != self._refined and self._studio.lit == KNOWN and refining():
            self._refined = wanted
            light = light_for(self.light(), camera)
            self._studio.order_places(self.channel, wanted[1], light, self.staging(camera))

    def _lit(self, channel: str, _share: float, more: bool) -> None:
        """Light of the picture's own places has come."""
        if channel == self.channel and more and self.current:
            self.order("still")

    def ask_facts(self) -> None:
        """Ask what the picture consists of."""
        camera = self._frame.camera
        if camera is not None and not self._frame.plain:
            wide = AIDED_PX if self._frame.aids & HATCHED else FACTS_PX
            revision = self._studio.order_facts(
                camera.id, camera.view(), self._studio.staging(self._bridge.project, camera), wide
            )
            if self._book is not None:
                self._book.asked(camera, revision)
