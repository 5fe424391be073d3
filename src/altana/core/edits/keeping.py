"""Keeping cameras in order: order and groups, copied settings, variants, planned shots, nudges, what is left out."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import replace
from typing import Any

from altana.core.camera.pose import direction_to
from altana.core.conventions import COMMON_FOCALS_MM, Vec3
from altana.core.edits.cameras import add_camera, change_camera, checked
from altana.core.edits.formats import DESTINATIONS
from altana.core.errors import Refused
from altana.core.lens import hold_subject
from altana.core.project import Camera, LeftOut, Nudge, PlannedShot, Project, free_name, next_id

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
#: What a variant may differ in, with the words that name the difference.
_DIFFERENCES: tuple[tuple[str, str], ...] = (
    ("focal_mm", "{:.4g} mm"),
    ("tilt_deg", "tilt {:.1f}°"),
    ("rise_mm", "rise {:.1f} mm"),
    ("cross_mm", "cross {:.1f} mm"),
    ("ev", "EV {:.1f}"),
    ("heading_deg", "heading {:.1f}°"),
    ("roll_deg", "roll {:.1f}°"),
)
MOST_VARIANTS = 6


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


# ---------------------------------------------------------------------- variants


def difference(camera: Camera, other: Camera) -> str:
    """What a variant differs in from the camera it belongs to, in a few words."""
    words = [
        form.format(getattr(other, field))
        for field, form in _DIFFERENCES
        if getattr(camera, field) != getattr(other, field)
    ]
    for name in ("near", "far"):
        before, after = getattr(camera, name), getattr(other, name)
        if before != after:
            words.append(f"{name} off" if after is None else f"{name} {after:.2f} m")
    if camera.wall_cuts != other.wall_cuts:
        words.append(
            f"{len(other.cuts)} wall cut{'s' if len(other.cuts) > 1 else ''}" if other.cuts else "no wall cut"
        )
    if camera.eye != other.eye:
        words.append(_moved_words(camera, other))
    if (camera.width_px, camera.height_px) != (other.width_px, other.height_px):
        words.append(
            other.format_name
            if other.format_name != camera.format_name
            else f"{other.width_px} × {other.height_px}"
        )
    return ", ".join(words) or "the same"


def _moved_words(camera: Camera, other: Camera) -> str:
    east, north, lifted = (b - a for a, b in zip(camera.eye, other.eye, strict=True))
    if math.hypot(east, north) < 1e-6:
        return f"eye {lifted:+.2f} m"
    turn = math.radians(camera.heading_deg)
    ahead, aside = (
        east * math.sin(turn) + north * math.cos(turn),
        east * math.cos(turn) - north * math.sin(turn),
    )
    if abs(aside) > 0.01 or abs(lifted) > 0.01 + abs(ahead):
        return "another place"
    return f"{abs(ahead):.2f} m {'closer' if ahead > 0 else 'back'}"


def add_variant(project: Project, camera_id: str, variant: Camera | None = None, name: str = "") -> Project:
    """Keep a try with a camera: the given one, or the camera as it is.  Raises Refused for a seventh."""

    def change(camera: Camera) -> Camera:
        if len(camera.variants) >= MOST_VARIANTS:
            raise Refused(f"A camera holds up to {MOST_VARIANTS} variants. Remove one first.")
        tried = replace(variant or camera, variants=(), id=camera.id, locked=False)
        label = name or (difference(camera, tried) if variant is not None else "as it was")
        label = free_name(label, tuple(item.name for item in camera.variants))
        return replace(camera, variants=(*camera.variants, checked(replace(tried, name=label))))

    return change_camera(project, camera_id, change)


def remove_variant(project: Project, camera_id: str, index: int) -> Project:
    """Without this try."""
    return change_camera(
        project, camera_id, lambda c: replace(c, variants=c.variants[:index] + c.variants[index + 1 :])
    )


def keep_variant(project: Project, camera_id: str, index: int) -> Project:
    """The camera becomes this try; what it was becomes a try in its place, so that nothing is lost."""

    def change(camera: Camera) -> Camera:
        if not 0 <= index < len(camera.variants):
            raise Refused("There is no such variant.")
        chosen = camera.variants[index]
        before = replace(camera, variants=(), name=difference(chosen, camera))
        others = (*camera.variants[:index], before, *camera.variants[index + 1 :])
        return replace(
            chosen,
            id=camera.id,
            name=camera.name,
            intent=camera.intent,
            note=camera.note,
            group=camera.group,
            done=camera.done,
            in_shot_list=camera.in_shot_list,
            hidden=camera.hidden,
            variants=others,
        )

    return change_camera(project, camera_id, change)


LADDERS = ("lens", "height", "aspect", "exposure")


def ladder(camera: Camera, kind: str) -> tuple[Camera, ...]:
    """Quick tries in even steps: common lenses with the subject held, eye heights, proportions, or exposures."""
    if kind == "lens":
        nearest = sorted(COMMON_FOCALS_MM, key=lambda value: abs(value - camera.focal_mm))[:4]
        made = [hold_subject(camera, value) for value in sorted(nearest) if value != camera.focal_mm]
    elif kind == "height":
        x, y, z = camera.eye
        made = [replace(camera, eye=(x, y, z + step)) for step in (-0.4, -0.2, 0.2, 0.4)]
    elif kind == "aspect":
        sizes = [
            item
            for item in DESTINATIONS[:7]
            if item[1:] != (camera.width_px, camera.height_px) and item[0] != "Screen, small"
        ]
        made = [
            replace(camera, format_name=name, width_px=width, height_px=height, formats=(), format_index=0)
            for name, width, height in sizes[:4]
        ]
    elif kind == "exposure":
        made = [replace(camera, ev=camera.ev + step) for step in (-1.0, -0.5, 0.5, 1.0)]
    else:
        raise Refused(f"There is no ladder “{kind}”. Ladders: {', '.join(LADDERS)}.")
    return tuple(replace(item, name=difference(camera, item), variants=(), locked=False) for item in made)


def set_ladder(project: Project, camera_id: str, kind: str) -> Project:
    """Put the camera and the steps of a ladder beside each other, in place of the variants before."""
    return change_camera(project, camera_id, lambda c: replace(c, variants=ladder(c, kind)[:MOST_VARIANTS]))


# ---------------------------------------------------------------------- planned shots


def plan_shot(project: Project, intent: str, note: str = "") -> tuple[Project, str]:
    """A picture that is wanted, without a camera.  Raises Refused for an empty intent."""
    if not intent.strip():
        raise Refused("A planned shot says what it should show.")
    shot_id = next_id("shot", tuple(item.id for item in project.planned))
    return replace(
        project, planned=(*project.planned, PlannedShot(shot_id, intent.strip(), note.strip()))
    ), shot_id


def drop_shot(project: Project, shot_id: str) -> Project:
    """Without this planned shot."""
    return replace(project, planned=tuple(item for item in project.planned if item.id != shot_id))


def stand_planned(project: Project, shot_id: str, camera: Camera) -> tuple[Project, str]:
    """A camera for a planned shot: it takes intent and note, and the shot is no longer only planned."""
    shot = next((item for item in project.planned if item.id == shot_id), None)
    if shot is None:
        return add_camera(project, camera)
    return add_camera(drop_shot(project, shot_id), replace(camera, intent=shot.intent, note=shot.note))


# ---------------------------------------------------------------------- objects for one camera


def nudge(
    project: Project,
    camera_id: str,
    object_id: str,
    move: Vec3 = (0.0, 0.0, 0.0),
    turn_deg: float = 0.0,
    out: bool = False,
) -> Project:
    """Move, turn or take out one object for one camera; a nudge that does nothing is taken off the list."""

    def change(camera: Camera) -> Camera:
        others = tuple(item for item in camera.nudges if item.object_id != object_id)
        if not any(move) and not turn_deg and not out:
            return replace(camera, nudges=others)
        return checked(replace(camera, nudges=(*others, Nudge(object_id, move, turn_deg, out))))

    return change_camera(project, camera_id, change)


def with_left_out(left_out: LeftOut, kind: str, name: str, out: bool) -> LeftOut:
    """The same with one object, category or storey left out, or no longer.  kind : "objects", "categories", "storeys"."""
    held: tuple[str, ...] = getattr(left_out, kind)
    names = tuple(item for item in held if item != name)
    return replace(left_out, **{kind: (*names, name) if out else names})


def leave_out(project: Project, camera_ids: Iterable[str], kind: str, name: str, out: bool = True) -> Project:
    """Leave something out of these cameras' pictures, or of the whole project's when no camera is named."""
    wanted = set(camera_ids)
    if not wanted:
        return replace(project, left_out=with_left_out(project.left_out, kind, name, out))
    return replace(
        project,
        cameras=tuple(
            replace(item, left_out=with_left_out(item.left_out, kind, name, out))
            if item.id in wanted
            else item
            for item in project.cameras
        ),
    )


def leave_out_of_walks(
    project: Project, walk_ids: Iterable[str], kind: str, name: str, out: bool = True
) -> Project:
    """Leave something out of these walks' films, or show it again."""
    wanted = set(walk_ids)
    return replace(
        project,
        walks=tuple(
            replace(item, left_out=with_left_out(item.left_out, kind, name, out))
            if item.id in wanted
            else item
            for item in project.walks
        ),
    )


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


def kept_value(project: Project, kind: str, value: float) -> Project:
    """Keep a value among one's own (``own_heights_m``, ``own_focals_mm``), or forget it where it is kept."""
    held: tuple[float, ...] = getattr(project, kind)
    kept = tuple(item for item in held if item != value) if value in held else tuple(sorted((*held, value)))
    return replace(project, **{kind: kept})  # type: ignore[arg-type]
