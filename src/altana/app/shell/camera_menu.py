"""What the Camera menu does with the chosen cameras, and the small questions it asks first."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QPoint
from PySide6.QtWidgets import QInputDialog, QMenu, QWidget

from altana.app.workspace.bridge import Bridge
from altana.app.workspace.notices import Notices
from altana.app.workspace.workspace import Workspace
from altana.core.camera.pose import direction_to
from altana.core.conventions import Vec3
from altana.core.edits.cameras import add_camera, remove_camera, set_camera
from altana.core.edits.keeping import copy_settings, drop_shot, plan_shot, reorder, set_many
from altana.core.edits.shots import without_subjects
from altana.core.errors import Refused
from altana.core.project import Camera, Limits, Project
from altana.core.standing import named_for_place


def parse_places(text: str, camera: Camera) -> tuple[Vec3, Vec3]:
    """Eye and aim from typed text; what is not named stays.  Raises Refused with a sentence."""

    def place(part: str) -> Vec3:
        try:
            x, y, z = (float(value.strip().replace("−", "-")) for value in part.split(","))
        except ValueError as error:
            raise Refused(f"“{part.strip()}” is not x, y, z. Write three numbers in metres, such as 7.0, 1.3, 1.6.") from error
        return x, y, z

    told = text.strip()
    if told.lower().startswith("eye"):
        return place(told[3:]), camera.aim
    if told.lower().startswith("aim"):
        return camera.eye, place(told[3:])
    eye, parted, aim = told.partition(";")
    if not parted:
        raise Refused("Write the eye, a semicolon and the aim; or “eye” or “aim” and one place.")
    return place(eye), place(aim)


if TYPE_CHECKING:
    Base = QWidget
else:
    Base = object


class CameraMenu(Base):
    """The part of the window that keeps cameras: copies, names, groups, moves and removes them."""

    bridge: Bridge
    notices: Notices
    state: Any
    studio: Any
    strip: Any
    compose: Any
    workspace: Workspace
    table: Any

    def _on_compose(self) -> bool:
        raise NotImplementedError

    def _chosen_ids(self) -> tuple[str, ...]:
        return self.state.selected or ((self.state.active_id,) if self.state.active_id else ())

    def duplicate_camera(self) -> None:
        """A copy of the active camera, selected."""
        active = self.state.active
        if active is None:
            return
        created = self.bridge.apply_adding("Duplicate camera", lambda project: add_camera(project, replace(active, locked=False)))
        if created:
            self.state.select(created)

    def delete_cameras(self) -> None:
        """Remove the chosen cameras; undo brings them back.  Locked ones stay."""
        chosen = [item for item in self.state.selected if (camera := self.bridge.project.camera(item)) is not None and not camera.locked]
        if not chosen or not self._on_compose():
            return

        def edit(project: Project) -> Project:
            for camera_id in chosen:
                project = remove_camera(project, camera_id)
            # Their rows of the shot list go with them, and come back with them.
            return without_subjects(project)

        self.bridge.apply("Remove camera" if len(chosen) == 1 else f"Remove {len(chosen)} cameras", edit)

    def give_settings(self, which: tuple[str, ...]) -> None:
        """Give the active camera's settings to the other chosen ones."""
        active, others = self.state.active_id, [item for item in self.state.selected if item != self.state.active_id]
        if not others:
            self.notices.note("Choose more cameras in the strip first (Control-press adds one); the one with the firm border gives its settings.")
            return
        self.bridge.apply(f"Copy {', '.join(which)}", lambda p: copy_settings(p, active, others, which))

    def shift_camera(self, step: int) -> None:
        """Move the active camera up (-1) or down (1) in its group of the strip."""
        ids, active = self.strip.ids(), self.state.active_id
        if active not in ids:
            return
        index = ids.index(active)
        target = index + step
        if not 0 <= target < len(ids):
            return
        before = ids[target] if step < 0 else (ids[target + 1] if target + 1 < len(ids) else None)
        self.bridge.apply("Reorder cameras", lambda p: reorder(p, [active], before))

    def toggle_hidden(self) -> None:
        """Hide the chosen cameras on plan and section, or show them."""
        active = self.state.active
        if active is not None:
            wanted = not active.hidden
            self.bridge.apply("Hide on plan" if wanted else "Show on plan", lambda p: set_many(p, self._chosen_ids(), hidden=wanted))

    def toggle_done(self) -> None:
        """Mark the chosen cameras as done, or to do."""
        active = self.state.active
        if active is not None:
            wanted = not active.done
            self.bridge.apply("Done" if wanted else "To do", lambda p: set_many(p, self._chosen_ids(), done=wanted))

    def suggest_name(self) -> None:
        """Name the chosen cameras by room and direction."""
        scene = self.studio.scene
        if scene is None:
            return

        def edit(project: Project) -> Project:
            for camera_id in self._chosen_ids():
                camera = project.camera(camera_id)
                if camera is not None and not camera.locked:
                    project = set_camera(project, camera_id, name=named_for_place(camera, scene.model).name)
            return project

        self.bridge.apply("Suggest name", edit)

    def find_inside(self) -> None:
        """Find out again, by casting rays, which of all cameras stand inside."""
        scene = self.studio.scene
        if scene is not None:
            self.bridge.apply(
                "Inside or outside", lambda p: replace(p, cameras=tuple(replace(c, inside=scene.rays.roofed(c.eye)) for c in p.cameras))
            )

    def _ask_group(self) -> None:
        active = self.state.active
        if active is None:
            return
        name, said = QInputDialog.getText(self, "Group", "Group of the chosen cameras (empty: inside or outside)", text=active.group)
        if said:
            self.bridge.apply("Group cameras", lambda p: set_many(p, self._chosen_ids(), group=name.strip()))

    def _ask_planned(self) -> None:
        text, said = QInputDialog.getText(self, "Plan a shot", "What should this picture show?")
        if said and text.strip():
            self.bridge.apply("Plan a shot", lambda p: plan_shot(p, text)[0])

    def _ask_steps(self) -> None:
        text, said = QInputDialog.getText(self, "Move by steps", "Metres ahead, right, up, with commas between", text="0, 0, 0")
        if said:
            self.move_by_steps(text)

    def move_by_steps(self, text: str) -> None:
        """Move the chosen cameras by typed metres ahead, to the right and up."""
        try:
            ahead, right, up = (float(part.strip().replace("−", "-")) for part in text.split(","))
        except ValueError:
            self.notices.trouble(f"“{text}” is not three numbers. Write metres ahead, right and up, such as 1.5, 0, 0.")
            return

        def change(camera: Camera) -> Camera:
            turn = math.radians(camera.heading_deg)
            x, y, z = camera.eye
            return replace(
                camera,
                eye=(x + ahead * math.sin(turn) + right * math.cos(turn), y + ahead * math.cos(turn) - right * math.sin(turn), z + up),
            )

        self.workspace.edits.do("Move by steps", change)

    def _ask_places(self) -> None:
        camera = self.state.active
        if camera is None:
            return
        text = "; ".join(", ".join(f"{value:.3f}" for value in place) for place in (camera.eye, camera.aim))
        told, said = QInputDialog.getText(
            self, "Eye and aim", "Eye x, y, z; aim x, y, z in metres. Either one alone, after its name, moves only that:", text=text
        )
        if said:
            self.type_places(told)

    def type_places(self, text: str) -> None:
        """Put eye and aim at typed places: ``x, y, z; x, y, z``, or ``eye x, y, z`` or ``aim x, y, z`` for one of them alone."""
        camera = self.state.active
        if camera is None:
            return
        try:
            eye, aim = parse_places(text, camera)
            heading, tilt, away = direction_to(eye, aim)
        except Refused as error:
            self.notices.trouble(error.sentence)
            return
        self.workspace.edits.do(
            "Type eye and aim", lambda c: replace(c, eye=eye, heading_deg=heading, tilt_deg=tilt, aim_m=away) if c.id == camera.id else c
        )

    def _ask_limits(self) -> None:
        limits = self.bridge.project.limits
        text, said = QInputDialog.getText(
            self, "Lens limits", "Called wide below this lens, very wide below that one (mm), and depth ratio",
            text=f"{limits.wide_mm:g}, {limits.very_wide_mm:g}, {limits.depth_ratio:g}",
        )  # fmt: skip
        if not said:
            return
        try:
            wide, very, depth = (float(part) for part in text.split(","))
            if not (4 <= very <= wide <= 300 and depth > 1):
                raise ValueError
        except ValueError:
            self.notices.trouble(f"“{text}” is not two focal lengths and a ratio. Write them such as 18, 12, 12.")
            return
        self.bridge.apply("Lens limits", lambda p: replace(p, limits=Limits(wide, very, depth)))
        self.compose._show_facts()

    def _camera_menu(self, camera_id: str, at: QPoint) -> None:
        if camera_id not in self.state.selected:
            self.state.select(camera_id)
        menu = QMenu(self)
        self.table.fill_one(menu, "Camera")
        menu.popup(at)

    def _planned_menu(self, shot_id: str, at: QPoint) -> None:
        menu = QMenu(self)
        menu.addAction("Stand a camera for it", lambda: self.compose.arm(True, shot_id))
        menu.addAction("Drop it", lambda: self.bridge.apply("Drop planned shot", lambda p: drop_shot(p, shot_id)))
        menu.popup(at)

    def _rename_active(self) -> None:
        camera = self.state.active
        if camera is not None:
            self._rename_camera(camera)

    def _rename_camera(self, camera: Camera) -> None:
        name, said = QInputDialog.getText(self, "Rename camera", "Name", text=camera.name)
        if said:
            self.bridge.apply("Rename camera", lambda project: set_camera(project, camera.id, name=name.strip()))

    def _lock_active(self) -> None:
        camera = self.state.active
        if camera is not None:
            wanted = not camera.locked
            self.bridge.apply("Lock camera" if wanted else "Unlock camera", lambda p: set_many(p, self._chosen_ids(), locked=wanted))
            self.state.select_many(self._chosen_ids(), camera.id)
