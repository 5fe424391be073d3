"""What is done with the chosen cameras as a whole, and the small questions that are asked first."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

from PySide6.QtWidgets import QInputDialog, QWidget

from altana.app.shell.places_page import PlacesPage
from altana.app.theme.widgets import open_page
from altana.app.theme.words import spoken, tr
from altana.app.workspace.workspace import Workspace
from altana.core.camera.pose import direction_to
from altana.core.conventions import Vec3
from altana.core.edits.cameras import add_camera, remove_camera, set_camera
from altana.core.edits.planned import plan_shot
from altana.core.edits.settings import copy_settings, reorder, set_many
from altana.core.edits.shots import without_subjects
from altana.core.project import Camera, Project
from altana.core.standing import ground_at, named_for_place


class CameraActions:
    """Copies, names, groups, moves and removes the chosen cameras.  strip_ids : cameras in the order of the
    strip."""

    def __init__(self, window: QWidget, workspace: Workspace, strip_ids: Callable[[], list[str]]) -> None:
        self._window, self._strip_ids = window, strip_ids
        self._bridge, self._notices, self._edits = workspace.bridge, workspace.notices, workspace.edits
        self._state, self._studio = workspace.state, workspace.studio

    def _chosen_ids(self) -> tuple[str, ...]:
        return self._state.selected or ((self._state.active_id,) if self._state.active_id else ())

    def duplicate_camera(self) -> None:
        """A copy of the active camera, selected."""
        active = self._state.active
        if active is None:
            return
        created = self._bridge.apply_adding(
            tr("Duplicate camera"), lambda project: add_camera(project, replace(active, locked=False))
        )
        if created:
            self._state.select(created)

    def delete_cameras(self) -> None:
        """Remove the chosen cameras; undo brings them back.  Locked ones stay."""
        chosen = [
            item
            for item in self._state.selected
            if (camera := self._bridge.project.camera(item)) is not None and not camera.locked
        ]
        if not chosen:
            return

        def edit(project: Project) -> Project:
            for camera_id in chosen:
                project = remove_camera(project, camera_id)
            # Their rows of the shot list go with them, and come back with them.
            return without_subjects(project)

        self._bridge.apply(
            tr("Remove camera") if len(chosen) == 1 else tr("Remove %n cameras", "", len(chosen)), edit
        )

    def give_settings(self, which: tuple[str, ...]) -> None:
        """Give the active camera's settings to the other chosen ones."""
        active, others = (
            self._state.active_id,
            [item for item in self._state.selected if item != self._state.active_id],
        )
        if not others:
            self._notices.note(
                tr(
                    "Choose more cameras in the strip first (Control-press adds one); the one with the firm border gives its settings."
                )
            )
            return
        self._bridge.apply(
            tr("Copy {which}", which=", ".join(spoken(name) for name in which)),
            lambda p: copy_settings(p, active, others, which),
        )

    def shift_camera(self, step: int) -> None:
        """Move the active camera up (-1) or down (1) in its group of the strip."""
        ids, active = self._strip_ids(), self._state.active_id
        if active not in ids:
            return
        index = ids.index(active)
        target = index + step
        if not 0 <= target < len(ids):
            return
        before = ids[target] if step < 0 else (ids[target + 1] if target + 1 < len(ids) else None)
        self._bridge.apply(tr("Reorder cameras"), lambda p: reorder(p, [active], before))

    def toggle_hidden(self) -> None:
        """Hide the chosen cameras on plan and section, or show them."""
        active = self._state.active
        if active is not None:
            wanted = not active.hidden
            self._bridge.apply(
                tr("Hide on plan") if wanted else tr("Show on plan"),
                lambda p: set_many(p, self._chosen_ids(), hidden=wanted),
            )

    def toggle_done(self) -> None:
        """Mark the chosen cameras as done, or to do."""
        active = self._state.active
        if active is not None:
            wanted = not active.done
            self._bridge.apply(
                tr("Done") if wanted else tr("To do"), lambda p: set_many(p, self._chosen_ids(), done=wanted)
            )

    def suggest_name(self) -> None:
        """Name the chosen cameras by room and direction."""
        scene = self._studio.scene
        if scene is None:
            return

        def edit(project: Project) -> Project:
            for camera_id in self._chosen_ids():
                camera = project.camera(camera_id)
                if camera is not None and not camera.locked:
                    project = set_camera(project, camera_id, name=named_for_place(camera, scene.model).name)
            return project

        self._bridge.apply(tr("Suggest name"), edit)

    def find_inside(self) -> None:
        """Find out again, by casting rays, which of all cameras stand inside."""
        scene = self._studio.scene
        if scene is not None:
            self._bridge.apply(
                tr("Inside or outside"),
                lambda p: replace(
                    p, cameras=tuple(replace(c, inside=scene.rays.roofed(c.eye)) for c in p.cameras)
                ),
            )

    def ask_group(self) -> None:
        """Ask for the group of the chosen cameras."""
        active = self._state.active
        if active is None:
            return
        name, accepted = QInputDialog.getText(
            self._window,
            tr("Group"),
            tr("Group of the chosen cameras (empty: inside or outside)"),
            text=active.group,
        )
        if accepted:
            self._bridge.apply(
                tr("Group cameras"), lambda p: set_many(p, self._chosen_ids(), group=name.strip())
            )

    def ask_planned(self) -> None:
        """Ask for the intent of a planned shot."""
        text, accepted = QInputDialog.getText(
            self._window, tr("Plan a shot"), tr("What should this picture show?")
        )
        if accepted and text.strip():
            self._bridge.apply(tr("Plan a shot"), lambda p: plan_shot(p, text)[0])

    def ask_steps(self) -> None:
        """Ask for metres to move by."""
        text, accepted = QInputDialog.getText(
            self._window,
            tr("Move by steps"),
            tr("Metres ahead, right, up, with commas between"),
            text="0, 0, 0",
        )
        if accepted:
            self.move_by_steps(text)

    def move_by_steps(self, text: str) -> None:
        """Move the chosen cameras by typed metres ahead, to the right and up."""
        try:
            ahead, right, up = (float(part.strip().replace("−", "-")) for part in text.split(","))
        except ValueError:
            self._notices.trouble(
                tr(
                    "“{text}” is not three numbers. Write metres ahead, right and up, such as 1.5, 0, 0.",
                    text=text,
                )
            )
            return

        def change(camera: Camera) -> Camera:
            turn = math.radians(camera.heading_deg)
            x, y, z = camera.eye
            return replace(
                camera,
                eye=(
                    x + ahead * math.sin(turn) + right * math.cos(turn),
                    y + ahead * math.cos(turn) - right * math.sin(turn),
                    z + up,
                ),
            )

        self._edits.do(tr("Move by steps"), change)

    def ask_places(self) -> None:
        """Eye and aim of the active camera as a table of numbers."""
        camera, scene = self._state.active, self._studio.scene
        if camera is None:
            return

        def floor_of(place: Vec3) -> float | None:
            ground = ground_at(scene.floors, (place[0], place[1]), place[2]) if scene is not None else None
            return ground.floor_m if ground is not None else None

        self.places_page = PlacesPage(
            self._window, camera, floor_of, lambda eye, aim: self.put_at(camera, eye, aim)
        )
        open_page(self.places_page)

    def put_at(self, camera: Camera, eye: Vec3, aim: Vec3) -> None:
        """Stand a camera at a place, looking at another."""
        heading, tilt, away = direction_to(eye, aim)
        self._edits.do(
            tr("Type eye and aim"),
            lambda c: (
                replace(c, eye=eye, heading_deg=heading, tilt_deg=tilt, aim_m=away)
                if c.id == camera.id
                else c
            ),
        )

    def ask_limits(self) -> None:
        """Ask for the limits by which a lens is called wide."""
        limits = self._bridge.project.limits
        text, accepted = QInputDialog.getText(
            self._window, tr("Lens limits"), tr("Called wide below this lens, very wide below that one (mm), and depth ratio"),
            text=f"{limits.wide_mm:g}, {limits.very_wide_mm:g}, {limits.depth_ratio:g}",
        )  # fmt: skip
        if not accepted:
            return
        try:
            wide, very, depth = (float(part) for part in text.split(","))
            if not (4 <= very <= wide <= 300 and depth > 1):
                raise ValueError
        except ValueError:
            self._notices.trouble(
                tr("“{text}” is not two focal lengths and a ratio. Write them such as 18, 12, 12.", text=text)
            )
            return
        self._bridge.apply(
            tr("Lens limits"),
            lambda p: replace(
                p, limits=replace(p.limits, wide_mm=wide, very_wide_mm=very, depth_ratio=depth)
            ),
        )

    def toggle_plumb_new(self) -> None:
        """Whether new cameras are kept plumb."""
        self._state.plumb_new = not self._state.plumb_new
        kept = (
            tr("are kept plumb: turned up or down, they rise")
            if self._state.plumb_new
            else tr("tilt when they are turned up or down")
        )
        self._notices.note(tr("New cameras {kept}.", kept=kept))

    def rename_active(self) -> None:
        """Ask for the active camera's name."""
        camera = self._state.active
        if camera is not None:
            self._rename_camera(camera)

    def _rename_camera(self, camera: Camera) -> None:
        name, accepted = QInputDialog.getText(self._window, tr("Rename camera"), tr("Name"), text=camera.name)
        if accepted:
            self._bridge.apply(
                tr("Rename camera"), lambda project: set_camera(project, camera.id, name=name.strip())
            )

    def toggle_locked(self) -> None:
        """Lock the chosen cameras, or unlock them."""
        camera = self._state.active
        if camera is not None:
            wanted = not camera.locked
            self._bridge.apply(
                tr("Lock camera") if wanted else tr("Unlock camera"),
                lambda p: set_many(p, self._chosen_ids(), locked=wanted),
            )
            self._state.select_many(self._chosen_ids(), camera.id)
