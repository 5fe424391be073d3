"""The ribbon over a loose view: that the camera is not moved, and the three ways out."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtWidgets import QFrame, QHBoxLayout, QWidget

from altana.app.theme.widgets import button, label, relabel
from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.core.camera.bounds import place_of_sight
from altana.core.conventions import EV_INSIDE, EV_OUTSIDE
from altana.core.edits.cameras import add_camera, change_camera
from altana.core.lens import hold_subject
from altana.core.project import Camera
from altana.core.standing import named_for_place


class LooseRibbon(QFrame):
    """Says that this is looking around; keeps the view as a camera, gives it to the camera, or goes back."""

    def __init__(self, workspace: Workspace, parent: QWidget) -> None:
        bridge, state, studio = workspace.bridge, workspace.state, workspace.studio
        super().__init__(parent)
        self._bridge, self._state, self._studio = bridge, state, studio
        self.setObjectName("band")
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 5, 6, 5)
        row.setSpacing(6)
        self.text = label("")
        row.addWidget(self.text)
        self.keep = button(
            tr("Keep as new"),
            "onwell",
            tr("Make a new camera of this view with the lens it has now (key N)"),
            self.keep_as_new,
        )
        self.keep_usual = button(
            tr("Keep with the usual lens"),
            "onwell",
            tr("Make a new camera with the usual lens, the subject as large as it is now (key Shift+N)"),
            self.keep_with_usual_lens,
        )
        self.move_here = button(
            tr("Move camera here"),
            "onwell",
            tr("Give the camera this view; one undo step (key M)"),
            self.move_camera_here,
        )
        self.back = button(
            tr("Back to camera"), "onwell", tr("Show the camera as it stands (key L)"), state.back_to_camera
        )
        for choice in (self.keep, self.keep_usual, self.move_here, self.back):
            row.addWidget(choice)
        self.hide()

    def follow(self, camera: Camera | None) -> bool:
        """Be there for a loose view of this camera, or for none; True when the ribbon takes another place
        than before."""
        changed = self.isHidden() == (camera is not None)
        self.setVisible(camera is not None)
        if camera is None:
            return changed
        active = self._state.active
        locked, none = active is not None and active.locked, active is None
        if none:
            text = tr("No camera yet: looking round the building")
        else:
            text = tr("Locked: looking around only") if locked else tr("Looking around: camera not moved")
        usual = self._usual_focal(camera)
        if self.text.text() != text:
            self.text.setText(text)
            changed = True
        for choice, word in (
            (self.keep, tr("Keep as new ({focal_mm:.4g} mm)", focal_mm=camera.focal_mm)),
            (self.keep_usual, tr("Keep at {usual:g} mm", usual=usual)),
        ):
            changed |= choice.text() != word
            relabel(choice, word)
        self.keep_usual.setVisible(abs(usual - camera.focal_mm) > 0.5)
        for part in (self.move_here, self.back):
            part.setVisible(not locked and not none)
        return changed

    def _usual_focal(self, camera: Camera) -> float:
        scene = self._studio.scene
        inside = camera.inside if scene is None else scene.rays.roofed(camera.eye)
        return self._state.usual_focals_mm[0 if inside else 1]

    def move_camera_here(self) -> None:
        """The active camera takes the loose view."""
        loose, active = self._state.loose, self._state.active
        if loose is None or active is None or active.locked:
            return
        self._state.note_view()
        self._state.loose = None
        self._bridge.apply(
            tr("Move camera here"),
            lambda p: change_camera(
                p, active.id, lambda c: replace(c.with_view(loose.pose, loose.lens), aim_m=loose.aim_m)
            ),
        )
        self._state.shown_changed.emit()

    def keep_as_new(self) -> None:
        """A new camera with this view, selected."""
        self._keep_new(self._state.kept_as_new())

    def keep_with_usual_lens(self) -> None:
        """A new camera with the usual lens of the place, the subject keeping its size."""
        new_camera = self._state.kept_as_new()
        self._keep_new(
            hold_subject(new_camera, self._usual_focal(new_camera)) if new_camera is not None else None
        )

    def _placed(self, camera: Camera) -> Camera:
        """Named for where it stands, and of that side: a view that was wandered off to is no longer the one
        it began as."""
        scene = self._studio.scene
        if scene is None:
            return camera
        inside = scene.rays.roofed(place_of_sight(camera))
        ev = camera.ev if inside == camera.inside else EV_INSIDE if inside else EV_OUTSIDE
        return named_for_place(replace(camera, inside=inside, ev=ev), scene.model)

    def _keep_new(self, new_camera: Camera | None) -> None:
        if new_camera is None:
            return
        self._state.note_view()
        new_camera = self._placed(new_camera)
        created = self._bridge.apply_adding(
            tr("Keep view as camera"), lambda project: add_camera(project, new_camera)
        )
        if created:
            self._state.loose = None
            self._state.select(created)
