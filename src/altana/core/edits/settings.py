"""The same for several cameras: order, fields, copied settings, and values kept for the project."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace
from typing import Any

from altana.core.edits.cameras import checked
from altana.core.errors import Refused
from altana.core.project import Camera, Project

#: Which fields are copied under which name.
SETTINGS: dict[str, tuple[str, ...]] = {
    "lens": ("focal_mm", "sensor_width_mm", "keep_sensor_height"),
    "verticals": ("rise_mm", "cross_mm", "roll_deg", "kept_plumb"),
    "tilt": ("tilt_deg",),
    "bounds": ("near_m", "far_m", "near_at", "far_at", "wall_cuts", "cap", "far_dark"),
    "format": (
        "width_px",
        "height_px",
        "keep_sensor_height",
        "sensor_width_mm",
        "guides",
        "format_name",
        "formats",
        "format_index",
    ),
    "exposure": ("ev",),
    "left out": ("left_out",),
}


def reorder(project: Project, camera_ids: Sequence[str], before_id: str | None) -> Project:
    """These cameras, in their order, in front of another one; at the end when it is None."""
    moved = [item for item in project.cameras if item.id in set(camera_ids)]
    rest = [item for item in project.cameras if item.id not in set(camera_ids)]
    at = next((index for index, item in enumerate(rest) if item.id == before_id), len(rest))
    return replace(project, cameras=(*rest[:at], *moved, *rest[at:]))


def set_many(project: Project, camera_ids: Iterable[str], **values: Any) -> Project:
    """The same fields of several cameras.  Raises Refused where a value makes no picture."""
    wanted = set(camera_ids)
    return replace(
        project,
        cameras=tuple(
            checked(replace(item, **values)) if item.id in wanted else item for item in project.cameras
        ),
    )


def copy_settings(
    project: Project, source_id: str, target_ids: Iterable[str], which: Iterable[str]
) -> Project:
    """Give named groups of settings (see SETTINGS) of one camera to others; locked ones stay as they are.

    Raises Refused for an unknown camera or an unknown group of settings.
    """
    source = project.camera(source_id)
    if source is None:
        raise Refused(f"There is no camera {source_id}.")
    fields: list[str] = []
    for name in which:
        if name not in SETTINGS:
            raise Refused(f"There are no settings called “{name}”. There are {', '.join(SETTINGS)}.")
        fields += SETTINGS[name]
    targets = set(target_ids) - {source_id}
    values = {field: getattr(source, field) for field in fields}

    def given(camera: Camera) -> Camera:
        return checked(replace(camera, **values)) if camera.id in targets and not camera.locked else camera

    return replace(project, cameras=tuple(given(item) for item in project.cameras))


def kept_value(project: Project, kind: str, value: float) -> Project:
    """Keep a value among one's own (``own_heights_m``, ``own_focals_mm``), or forget it where it is kept."""
    values: tuple[float, ...] = getattr(project, kind)
    kept = (
        tuple(item for item in values if item != value)
        if value in values
        else tuple(sorted((*values, value)))
    )
    return replace(project, **{kind: kept})  # type: ignore[arg-type]
