"""What the window shows but the project does not hold: selection, loose view, desk.  Never undone."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import QObject, Signal

from altana.app.bridge import Bridge
from altana.core.project import Camera, Walk


class ViewState(QObject):
    """Selection and the loose view.

    ``shown`` is the camera that the Frame shows: the active one while held, otherwise the loose one.
    """

    selection_changed = Signal()
    shown_changed = Signal()
    walk_changed = Signal()
    moment_changed = Signal(float)

    def __init__(self, bridge: Bridge) -> None:
        super().__init__()
        self._bridge = bridge
        self.active_id = ""
        self.selected: tuple[str, ...] = ()
        self.loose: Camera | None = None
        self.walk_id = ""
        self.moment = 0.0
        self.playing_walk = False
        bridge.cameras_changed.connect(self._follow)

    @property
    def active(self) -> Camera | None:
        """The camera that is worked on."""
        return self._bridge.project.camera(self.active_id)

    @property
    def shown(self) -> Camera | None:
        """What the Frame shows."""
        return self.loose if self.loose is not None else self.active

    @property
    def held(self) -> bool:
        """Whether moving in the Frame edits the camera."""
        return self.loose is None and self.active is not None and not self.active.locked

    @property
    def walk(self) -> Walk | None:
        """The walk that is worked on."""
        return self._bridge.project.walk(self.walk_id)

    def select(self, camera_id: str, add: bool = False) -> None:
        """Make a camera the active one; with ``add`` keep the others selected (or take it out again)."""
        if add and self.selected:
            chosen = [item for item in self.selected if item != camera_id]
            if len(chosen) == len(self.selected):
                chosen.append(camera_id)
            self.selected = tuple(chosen)
            self.active_id = chosen[-1] if chosen else ""
        else:
            self.selected = (camera_id,) if camera_id else ()
            self.active_id = camera_id
        active = self.active
        self.loose = active if active is not None and active.locked else None
        self.selection_changed.emit()
        self.shown_changed.emit()

    def let_loose(self) -> None:
        """Look about without moving the camera."""
        if self.loose is None and self.active is not None:
            self.loose = self.active
            self.shown_changed.emit()

    def look(self, camera: Camera) -> None:
        """Move the loose view."""
        self.loose = camera
        self.shown_changed.emit()

    def back_to_camera(self) -> None:
        """Out of loose: show the camera as it stands."""
        if self.loose is not None and self.active is not None and not self.active.locked:
            self.loose = None
            self.shown_changed.emit()
        elif self.active is not None:
            self.loose = self.active
            self.shown_changed.emit()

    def choose_walk(self, walk_id: str) -> None:
        """Make a walk the one worked on."""
        self.walk_id = walk_id
        self.moment = 0.0
        self.walk_changed.emit()
        self.moment_changed.emit(0.0)

    def set_moment(self, seconds: float) -> None:
        """Scrub the walk to a moment."""
        self.moment = seconds
        self.moment_changed.emit(seconds)

    def _follow(self) -> None:
        known = {camera.id for camera in self._bridge.project.cameras}
        if self.active_id and self.active_id not in known:
            left = self._bridge.project.cameras
            self.select(left[0].id if left else "")
        self.selected = tuple(item for item in self.selected if item in known)
        if self.loose is None:
            self.shown_changed.emit()

    def kept_as_new(self) -> Camera | None:
        """The loose view as a camera to add."""
        return replace(self.loose, id="", locked=False) if self.loose is not None else None
