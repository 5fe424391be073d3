"""Changes to cameras.  Every function returns a new Project; nothing else in it changes identity."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable
from dataclasses import replace

from altana.core.camera.plumb import KEPT_DEG, kept_true, plumb
from altana.core.camera.pose import direction_to
from altana.core.camera.wall_cut import WallCut
from altana.core.conventions import Vec3, wrap_heading
from altana.core.errors import Refused
from altana.core.light.own import checked_own
from altana.core.model import FoundCamera
from altana.core.project import GUIDES, Camera, Project, free_name, next_id
from altana.core.ranges import EV, F_NUMBER, FOCAL_MM, FOCUS_M, SENSOR_MM, SIDE_PX, TILT_DEG

#: Eye and aim are at least so far apart on the plan.
SHORTEST_AIM_M = 0.25


def change_camera(project: Project, camera_id: str, change: Callable[[Camera], Camera]) -> Project:
    """The project with one camera changed.  Raises Refused when there is no such camera."""
    if project.camera(camera_id) is None:
        raise Refused(f"There is no camera {camera_id}.")
    return replace(
        project, cameras=tuple(change(item) if item.id == camera_id else item for item in project.cameras)
    )


def add_camera(project: Project, camera: Camera) -> tuple[Project, str]:
    """Append a camera under a free id and a free name; returns the project and the id."""
    camera_id = next_id("cam", tuple(item.id for item in project.cameras))
    name = free_name(camera.name or "Camera", tuple(item.name for item in project.cameras))
    added = checked(replace(camera, id=camera_id, name=name))
    return replace(project, cameras=(*project.cameras, added)), camera_id


def from_file(camera: FoundCamera, inside: bool) -> Camera:
    """A camera that stood in a model file as one to add; ``inside`` is found by casting rays."""
    return Camera(
        "",
        camera.name,
        camera.eye,
        camera.heading_deg,
        camera.tilt_deg,
        camera.roll_deg,
        focal_mm=camera.focal_mm,
        width_px=camera.width_px,
        height_px=camera.height_px,
        format_name="From the file",
        inside=inside,
    )


def remove_camera(project: Project, camera_id: str) -> Project:
    """Without this camera.  Raises Refused when there is no such camera."""
    if project.camera(camera_id) is None:
        raise Refused(f"There is no camera {camera_id}.")
    return replace(project, cameras=tuple(item for item in project.cameras if item.id != camera_id))


def set_camera(project: Project, camera_id: str, **values: object) -> Project:
    """Set named fields of a camera.  Raises Refused when a value makes no picture."""
    if "heading_deg" in values:
        values["heading_deg"] = wrap_heading(float(str(values["heading_deg"])))
    return change_camera(project, camera_id, lambda item: checked(replace(item, **values)))  # type: ignore[arg-type]


def checked(camera: Camera) -> Camera:
    """The camera itself, or Refused with a sentence naming the value that makes no picture."""
    _check_figures(camera)
    _check_bounds(camera)
    if not camera.name.strip():
        raise Refused("A camera needs a name.")
    if camera.formats and not 0 <= camera.format_index < len(camera.formats):
        raise Refused("The format in use is not one of the camera's formats.")
    unknown = [guide for guide in camera.guides if guide not in GUIDES]
    if unknown:
        raise Refused(f"“{unknown[0]}” is no guide. Guides: {', '.join(GUIDES)}.")
    for item in camera.all_formats:
        for pixels in (item.width_px, item.height_px):
            SIDE_PX.check(f"A side of the format “{item.name}”", pixels)
        if not (item.sensor_width_mm in SENSOR_MM and abs(item.rise_mm) < 1e4 and abs(item.cross_mm) < 1e4):
            raise Refused(f"The format “{item.name}” has a sensor or shift that makes no picture.")
    for nudge in camera.nudges:
        if not all(abs(value) < 1e6 for value in (*nudge.move, nudge.turn_deg)):
            raise Refused("An object is nudged by finite distances and angles.")
    for variant in camera.variants:
        if variant.variants:
            raise Refused("A variant has no variants of its own.")
        checked(variant)
    return camera


def _check_figures(camera: Camera) -> None:
    """Place, direction, lens, exposure and size."""
    angles = camera.heading_deg, camera.tilt_deg, camera.roll_deg
    numbers = (*camera.eye, *angles, camera.rise_mm, camera.cross_mm, camera.ev, camera.aim_m)
    if not all(abs(value) < 1e7 for value in numbers):
        raise Refused("A camera needs finite coordinates and angles.")
    FOCAL_MM.check("A focal length", camera.focal_mm)
    SENSOR_MM.check("A sensor width", camera.sensor_width_mm)
    TILT_DEG.check("A tilt", camera.tilt_deg)
    EV.check("An exposure", camera.ev)
    checked_own(camera.light, f"“{camera.name}”")
    F_NUMBER.check("An f-number", camera.f_number)
    if camera.focus_m is not None:
        FOCUS_M.check("A focus distance", camera.focus_m)
    for pixels in (camera.width_px, camera.height_px):
        SIDE_PX.check("A picture side", pixels)


def _check_bounds(camera: Camera) -> None:
    if camera.near_m is not None and not camera.near_m > 0:
        raise Refused("The near bound lies in front of the eye: more than 0 m.")
    if camera.far_m is not None and not camera.far_m > (camera.near_m or 0.0):
        raise Refused("The far bound lies beyond the near bound.")
    for place in (camera.near_at, camera.far_at):
        if place is not None and not all(abs(value) < 1e7 for value in place):
            raise Refused("A bound that is fixed in the building needs a finite place.")
    for cut in camera.wall_cuts:
        _checked_cut(cut)


def _checked_cut(cut: WallCut) -> None:
    if not all(abs(value) < 1e7 for value in (*cut.place, cut.heading_deg, cut.offset_m)):
        raise Refused("A wall cut needs a finite place and direction.")
    if not (
        cut.left_m + cut.right_m > 0
        and cut.down_m + cut.up_m > 0
        and max(cut.left_m, cut.right_m, cut.down_m, cut.up_m) < 1e7
    ):
        raise Refused("A wall cut has a width and a height.")


def move_eye(project: Project, camera_id: str, eye: Vec3, keep_aim: bool = False) -> Project:
    """Put the eye elsewhere; the aim goes along, or stays where it is with ``keep_aim``."""

    def change(camera: Camera) -> Camera:
        if not keep_aim:
            return replace(camera, eye=eye)
        heading, tilt, distance = direction_to(eye, camera.aim)
        return replace(camera, eye=eye, heading_deg=heading, tilt_deg=tilt, aim_m=distance)

    return change_camera(project, camera_id, lambda item: checked(change(item)))


def eye_alone(project: Project, camera: Camera, eye: Vec3) -> Project:
    """The eye of a camera as it was at the start of a drag elsewhere, its aim where it was; the tilt is kept,
    because only the plan was touched.  Nothing changes where eye and aim would fall together."""

    def change(current: Camera) -> Camera:
        level = math.dist(eye[:2], camera.aim[:2])
        if level < SHORTEST_AIM_M:
            return current
        heading = math.degrees(math.atan2(camera.aim[0] - eye[0], camera.aim[1] - eye[1])) % 360.0
        away = level / max(math.cos(math.radians(camera.tilt_deg)), 0.05)
        return replace(camera, eye=eye, heading_deg=heading, aim_m=away)

    return change_camera(project, camera.id, change)


def aim_at(project: Project, camera_id: str, aim: Vec3, keep_tilt: bool = True) -> Project:
    """Look at a point.  With ``keep_tilt`` only the heading follows, as when aiming on the plan."""

    def change(camera: Camera) -> Camera:
        heading, tilt, distance = direction_to(camera.eye, aim)
        if keep_tilt:
            tilt = camera.tilt_deg
        return replace(camera, heading_deg=heading, tilt_deg=tilt, aim_m=distance)

    return change_camera(project, camera_id, lambda item: checked(change(item)))


def plumb_cameras(
    project: Project, camera_ids: Iterable[str], amount: float = 1.0, keep_size: bool = False
) -> Project:
    """Straighten the verticals of these cameras.  Raises Refused where the shift would be too steep."""
    for camera_id in camera_ids:

        def change(camera: Camera) -> Camera:
            return checked(camera.with_view(*plumb(camera.pose, camera.lens, amount, keep_size)))

        project = change_camera(project, camera_id, change)
    return project


def stays_plumb(camera: Camera, steepest_deg: float = KEPT_DEG) -> Camera:
    """A camera that is kept plumb, level again after it was turned up or down; any other one as it is."""
    if not camera.kept_plumb or (camera.tilt_deg == 0.0 and camera.roll_deg == 0.0):
        return camera
    pose, lens, _ = kept_true(camera.pose, camera.lens, steepest_deg)
    return camera.with_view(pose, lens)


def at_rise_limit(camera: Camera, steepest_deg: float = KEPT_DEG) -> bool:
    """Whether a camera that is kept plumb has shifted its lens as far as it may."""
    return (
        camera.kept_plumb
        and abs(math.degrees(math.atan2(camera.rise_mm, camera.focal_mm))) >= steepest_deg - 1e-6
    )


def keep_plumb(camera: Camera, kept: bool, steepest_deg: float = KEPT_DEG) -> Camera:
    """Keep a camera plumb from now on (it becomes true at once), or let it tilt again."""
    return stays_plumb(replace(camera, kept_plumb=kept), steepest_deg)


def tidy(camera: Camera, step_m: float) -> Camera:
    """Eye and aim on whole steps (0.01 or 0.1 m) of the plan; heights and the heading's meaning are kept."""

    def even(value: float) -> float:
        return round(round(value / step_m) * step_m, 6)

    x, y, z = camera.eye
    eye = (even(x), even(y), z)
    ax, ay, az = camera.aim
    aim = (even(ax), even(ay), az + 0.0)
    if not camera.looks_at_point or max(abs(a - b) for a, b in zip(eye[:2], aim[:2], strict=True)) < step_m:
        return replace(camera, eye=eye)
    heading, _, distance = direction_to(eye, (aim[0], aim[1], aim[2]))
    return replace(camera, eye=eye, heading_deg=heading, aim_m=distance)
