"""One press that mends what a check found: each is a change of the project, named and undoable."""

from __future__ import annotations

from dataclasses import dataclass, replace

from altana.core.camera.plumb import plumb
from altana.core.checks.camera_check import CameraCheck
from altana.core.checks.cut_faces import Bodies
from altana.core.conventions import COMMON_FOCALS_MM, STANDING_M
from altana.core.edits.bounds import with_far
from altana.core.edits.cameras import change_camera, checked
from altana.core.edits.left_out import leave_out
from altana.core.errors import Refused
from altana.core.geometry.rays import RayScene
from altana.core.lens import hold_subject
from altana.core.model import Model
from altana.core.past import bound_as_wall_cut, just_clear
from altana.core.patching import ground_to_horizon, patch_gap
from altana.core.project import Camera, Project
from altana.core.standing import floor_under, place_stood_in

#: A far bound moved back lands this far beyond what it brings back.
BEYOND_M = 0.5


@dataclass(frozen=True, slots=True)
class Ground:
    """What mends ask of the building: the model, all its surfaces, those one stands on, and its bodies."""

    model: Model
    rays: RayScene
    floors: RayScene
    bodies: Bodies


def mend(project: Project, camera_id: str, code: str, checks: CameraCheck, ground: Ground) -> Project:
    """The project with one kind of trouble of a camera mended.

    code : as in ``checks.camera_check.MENDS``.  Raises Refused with the reason where it cannot be, and for no
    camera.
    """
    camera = project.camera(camera_id)
    if camera is None:
        raise Refused(f"There is no camera {camera_id}.")
    if code == "leave-out":
        return _left_out(project, camera, checks)
    if code == "panel":
        return _panels(project, checks)
    if code == "ground":
        return ground_to_horizon(project, ground.model)[0]
    return change_camera(project, camera_id, lambda c: checked(_changed(c, code, checks, ground)))


def _changed(camera: Camera, code: str, checks: CameraCheck, ground: Ground) -> Camera:
    if code == "plumb":
        return camera.with_view(*plumb(camera.pose, camera.lens))
    if code == "cap":
        return replace(camera, cap=True)
    if code == "clear":
        return just_clear(ground.model, ground.rays, ground.bodies, camera)
    if code == "wall-cut":
        return bound_as_wall_cut(ground.model, ground.rays, camera)
    if code == "far-off":
        return with_far(camera, None)
    if code == "far-back":
        if not checks.far.removed:
            raise Refused("The far bound takes nothing out of the picture.")
        return with_far(camera, max(item.whole_at_m for item in checks.far.removed) + BEYOND_M)
    if code == "calmer-lens":
        longer = next((value for value in COMMON_FOCALS_MM if value > camera.focal_mm + 0.01), None)
        if longer is None:
            raise Refused("There is no longer common lens.")
        return hold_subject(camera, longer)
    if code == "eye-height":
        floor = floor_under(ground.floors, place_stood_in(ground.rays, camera))
        if floor is None:
            raise Refused("There is no floor under the eye. Move it over a floor.")
        return replace(camera, eye=(camera.eye[0], camera.eye[1], floor + STANDING_M))
    raise Refused(f"“{code}” mends nothing here.")


def _left_out(project: Project, camera: Camera, checks: CameraCheck) -> Project:
    if not checks.cut.opened:
        raise Refused("No bound of this camera opens anything.")
    for object_id, _ in checks.cut.opened:
        project = leave_out(project, [camera.id], "objects", object_id)
    return project


def _panels(project: Project, checks: CameraCheck) -> Project:
    """A panel across every gap whose rim lies in a plane; gaps of one hole seen twice get one."""
    holes = [gap for gap in checks.gaps.gaps if gap.kind == "hole" and gap.corners]
    if not holes:
        raise Refused(
            "The rims of the gaps lie in no plane, so no panel can be put across them. List them for whoever models."
        )
    for gap in holes:
        project = patch_gap(project, gap)[0]
    return project
