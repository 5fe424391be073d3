"""What the window shows but the project does not hold: selection, loose view, hiding while working.  Never
undone."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import QObject, Signal

from altana.app.workspace.bridge import Bridge
from altana.app.workspace.soon import Soon
from altana.core.conventions import FOCAL_INSIDE_MM, FOCAL_OUTSIDE_MM
from altana.core.hiding import NOTHING_HIDDEN, Hiding
from altana.core.project import Camera, Walk

#: A view counts as seen, for going back to it, when it has stood still this long.
SEEN_MS = 700
MOST_VIEWS = 200


class ViewState(QObject):
    """Selection, the loose view and its history, what is hidden.

    ``shown`` is the camera that the Frame shows: the active one while held, otherwise the loose one.
    """

    selection_changed = Signal()
    shown_changed = Signal()
    walk_changed = Signal()
    moment_changed = Signal(float)
    hiding_changed = Signal()
    history_changed = Signal()
    object_changed = Signal()
    sun_changed = Signal()

    def __init__(self, bridge: Bridge) -> None:
        super().__init__()
        self._bridge = bridge
        self.active_id = ""
        self.selected: tuple[str, ...] = ()
        self.loose: Camera | None = None
        #: What the Frame shows where there is no camera: the whole building.
        self.overview: Camera | None = None
        self.hiding: Hiding = NOTHING_HIDDEN
        self._hiding_before: list[Hiding] = []
        self.object_id = ""
        #: Whether the sun's path lies on the plans.
        self.sun_shown = False
        #: New cameras are kept plumb while they are aimed up and down.
        self.plumb_new = True
        #: The lens of new cameras, inside and outside, mm.
        self.usual_focals_mm = (FOCAL_INSIDE_MM, FOCAL_OUTSIDE_MM)
        self.walk_id = ""
        self.moment = 0.0
        self._views: list[Camera] = []
        self._view_index = -1
        self._going = False
        self._seen = Soon(self, SEEN_MS, self.note_view)
        self.shown_changed.connect(self._seen.start)
        bridge.cameras_changed.connect(self._follow)

    @property
    def active(self) -> Camera | None:
        """The camera that is worked on."""
        return self._bridge.project.camera(self.active_id)

    @property
    def shown(self) -> Camera | None:
        """What the Frame shows."""
        if self.loose is not None:
            return self.loose
        return self.active or self.overview

    @property
    def held(self) -> bool:
        """Whether moving in the Frame edits the camera."""
        return self.loose is None and self.active is not None and not self.active.locked

    @property
    def walk(self) -> Walk | None:
        """The walk that is worked on."""
        return self._bridge.project.walk(self.walk_id)

    def show_sun(self, on: bool) -> None:
        """Whether the sun's path of the day lies on the plans."""
        self.sun_shown = on
        self.sun_changed.emit()

    def select(self, camera_id: str, add: bool = False) -> None:
        """Make a camera the active one; with ``add`` keep the others selected (or take it out again)."""
        self.note_view()
        if add and self.selected:
            chosen = [item for item in self.selected if item != camera_id]
            if len(chosen) == len(self.selected):
                chosen.append(camera_id)
            self.selected = tuple(chosen)
            self.active_id = chosen[-1] if chosen else ""
        else:
            self.selected = (camera_id,) if camera_id else ()
            self.active_id = camera_id
        self._start_view()

    def select_many(self, camera_ids: tuple[str, ...], active_id: str) -> None:
        """Select several cameras at once."""
        self.note_view()
        self.selected, self.active_id = camera_ids, active_id
        self._start_view()

    def _start_view(self) -> None:
        active = self.active
        self.loose = active if active is not None and active.locked else None
        self.selection_changed.emit()
        self.shown_changed.emit()

    # ------------------------------------------------------------------ loose

    def let_loose(self) -> None:
        """Look about without moving the camera."""
        if self.loose is None and self.shown is not None:
            self.loose = self.shown
            self.shown_changed.emit()

    def look(self, camera: Camera) -> None:
        """Move the loose view."""
        self.loose = camera
        self.shown_changed.emit()

    def back_to_camera(self) -> None:
        """Out of loose: show the camera as it stands."""
        self.note_view()
        if self.loose is not None and self.active is not None and not self.active.locked:
            self.loose = None
            self.shown_changed.emit()
        elif self.active is not None:
            self.loose = self.active
            self.shown_changed.emit()

    def kept_as_new(self) -> Camera | None:
        """The loose view as a camera to add."""
        shown = self.loose or (self.overview if self.active is None else None)
        return replace(shown, id="", locked=False, variants=()) if shown is not None else None

    # ------------------------------------------------------------------ history of views

    def note_view(self) -> None:
        """Remember what is shown, if it is another view than the last one remembered."""
        self._seen.stop()
        shown = self.shown
        if shown is None or self._bridge.in_gesture:
            return
        if self._views and same_view(self._views[self._view_index], shown):
            return
        del self._views[self._view_index + 1 :]
        self._views.append(shown)
        del self._views[:-MOST_VIEWS]
        self._view_index = len(self._views) - 1
        self.history_changed.emit()

    def forget_views(self) -> None:
        """Another project: no views yet."""
        self._views.clear()
        self._view_index = -1
        self.history_changed.emit()

    @property
    def can_go(self) -> tuple[bool, bool]:
        """Whether there is a view before, and one after, the one shown."""
        return self._view_index > 0, self._view_index < len(self._views) - 1

    def go(self, step: int) -> None:
        """Back (-1) or forward (1) among views; never changes the project.

        A view that is no longer where its camera stands comes as a loose one.
        """
        if step < 0:
            self.note_view()
        index = self._view_index + step
        if not 0 <= index < len(self._views):
            return
        self._view_index = index
        view = self._views[index]
        camera = self._bridge.project.camera(view.id)
        if camera is not None:
            self.active_id, self.selected = camera.id, (camera.id,)
        unmoved = camera is not None and same_view(camera, view) and not camera.locked
        self.loose = None if unmoved else view
        self.selection_changed.emit()
        self.shown_changed.emit()
        self._seen.stop()
        self.history_changed.emit()

    # ------------------------------------------------------------------ hiding while working

    def hide(self, hiding: Hiding) -> None:
        """Hide other things from now on; ``hide_as_before`` goes back."""
        if hiding != self.hiding:
            self._hiding_before.append(self.hiding)
            del self._hiding_before[:-50]
            self.hiding = hiding
            self.hiding_changed.emit()

    def hide_as_before(self) -> None:
        """Back to what was hidden before the last change."""
        if self._hiding_before:
            self.hiding = self._hiding_before.pop()
            self.hiding_changed.emit()

    def choose_object(self, object_id: str) -> None:
        """Make an object of the model the chosen one."""
        if object_id != self.object_id:
            self.object_id = object_id
            self.object_changed.emit()

    # ------------------------------------------------------------------ walks

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


def same_view(one: Camera, other: Camera) -> bool:
    """Whether two cameras show the same picture."""
    return one.id == other.id and one.view() == other.view()
