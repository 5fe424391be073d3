"""Changes to what is cut away for a camera: near and far, at a distance or fixed in the building, and wall
cuts."""

from __future__ import annotations

from dataclasses import replace

from altana.core.camera.wall_cut import WallCut
from altana.core.conventions import FAR_WHEN_ON_M, NEAR_WHEN_ON_M, wrap_heading
from altana.core.edits.cameras import checked
from altana.core.errors import Refused
from altana.core.project import Camera

NEAREST_BOUND_M = 0.01


def with_near(camera: Camera, distance_m: float | None) -> Camera:
    """The near bound at this distance, or off; fixed in the building it stays fixed, at its new place."""
    if distance_m is None:
        return replace(camera, near_m=None, near_at=None)
    place = camera.pose.point_ahead(distance_m) if camera.near_at is not None else None
    return replace(camera, near_m=distance_m, near_at=place)


def with_far(camera: Camera, distance_m: float | None) -> Camera:
    """The far bound at this distance, or off; fixed in the building it stays fixed, at its new place."""
    if distance_m is None:
        return replace(camera, far_m=None, far_at=None)
    place = camera.pose.point_ahead(distance_m) if camera.far_at is not None else None
    return replace(camera, far_m=distance_m, far_at=place)


def near_fixed(camera: Camera, fixed: bool) -> Camera:
    """The near bound fixed where it lies in the building, or at its distance of now from the eye."""
    at = camera.near or camera.near_m or NEAR_WHEN_ON_M
    return replace(camera, near_m=at, near_at=camera.pose.point_ahead(at) if fixed else None)


def far_fixed(camera: Camera, fixed: bool) -> Camera:
    """The far bound fixed where it lies in the building, or at its distance of now from the eye."""
    at = camera.far or camera.far_m or FAR_WHEN_ON_M
    return replace(camera, far_m=at, far_at=camera.pose.point_ahead(at) if fixed else None)


def add_wall_cut(camera: Camera, cut: WallCut) -> Camera:
    """With one more wall cut; one along the same wall face takes the place of the one before."""
    others = tuple(item for item in camera.wall_cuts if not _same(item, cut))
    return checked(replace(camera, wall_cuts=(*others, cut)))


def _same(a: WallCut, b: WallCut) -> bool:
    turn = abs((a.heading_deg - b.heading_deg + 180.0) % 360.0 - 180.0)
    return (
        turn < 0.1
        and abs(a.at_m - a.offset_m - b.at_m + b.offset_m) < 0.02
        and a.object_id == b.object_id
        and a.name == b.name
    )


def change_wall_cut(camera: Camera, index: int, **values: object) -> Camera:
    """Change one wall cut.  Raises Refused where there is none, or a value makes none."""
    if not 0 <= index < len(camera.wall_cuts):
        raise Refused(f"There is no wall cut {index + 1}; the camera has {len(camera.wall_cuts)}.")
    cuts = list(camera.wall_cuts)
    cuts[index] = replace(cuts[index], **values)  # type: ignore[arg-type]
    return checked(replace(camera, wall_cuts=tuple(cuts)))


def turn_wall_cut_over(camera: Camera, index: int) -> Camera:
    """The other side of a wall cut is kept."""
    if not 0 <= index < len(camera.wall_cuts):
        raise Refused(f"There is no wall cut {index + 1}; the camera has {len(camera.wall_cuts)}.")
    cuts = list(camera.wall_cuts)
    cuts[index] = cuts[index].turned_over()
    return replace(camera, wall_cuts=tuple(cuts))


def remove_wall_cut(camera: Camera, index: int) -> Camera:
    """Without this wall cut."""
    return replace(camera, wall_cuts=camera.wall_cuts[:index] + camera.wall_cuts[index + 1 :])


def near_as_wall_cut(camera: Camera, name: str = "near bound") -> Camera:
    """The near bound turned into a wall cut in the same plane, as wide and high as the frame is there.

    Raises Refused when there is no near bound.  The plane of a tilted camera's bound becomes upright.
    """
    if camera.near is None:
        raise Refused("There is no near bound to turn into a wall cut.")
    left, right, bottom, top = (edge * camera.near for edge in camera.view().edges())
    x, y, z = camera.pose.point_ahead(camera.near)
    cut = WallCut((x, y, z), wrap_heading(camera.heading_deg), -left, right, -bottom, top, name=name)
    return add_wall_cut(with_near(camera, None), cut)
